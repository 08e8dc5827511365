use super::lay::Lay;
use super::placement::{NO_FLASH, WHITE};
use super::{Placement, View};
use crate::axes::both;
use crate::sheet::PackedFrame;

/// All that a renderer needs to draw a frame, as plain data of 48 bytes for an instance buffer.
///
/// A corner of the unit square, `[0, 0]` to `[1, 1]` with y down, lands on
/// `origin + corner.x × axis_x + corner.y × axis_y` and shows the texel at
/// `source.xy + corner × source.zw`. Position, scale, rotation and flips are in the origin and the axes (normals turn
/// along with these), so
/// the corners of a flipped frame run the other way round: draw both faces. [`WGSL`](Instance::WGSL) says
/// it as a shader.
///
/// | byte | field | as a vertex attribute |
/// | --- | --- | --- |
/// | 0 | `origin`, two `f32` | `float32x2` |
/// | 8 | `axis_x`, two `f32` | `float32x2` |
/// | 16 | `axis_y`, two `f32` | `float32x2` |
/// | 24 | `source`, four `u16` | `uint16x4` |
/// | 32 | `image` and `user`, `u16` each | `uint16x2` |
/// | 36 | `tint`, four `u8` | `unorm8x4` |
/// | 40 | `flash`, four `u8` | `unorm8x4` |
/// | 44 | `depth`, `f32` | `float32` |
///
/// The color is `mix(texel.rgb × tint.rgb, flash.rgb, flash.a)`, with the alpha `texel.a × tint.a`: `shaded` in the
/// shader code.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "bytemuck", derive(bytemuck::Pod, bytemuck::Zeroable))]
#[repr(C)]
pub struct Instance {
    /// Where the source's own top left corner lands, in the game's units.
    pub origin: [f32; 2],
    /// From there to its top right corner.
    pub axis_x: [f32; 2],
    /// From there to its bottom left corner.
    pub axis_y: [f32; 2],
    /// What is cut from the image: left, top, width and height, in pixels; nothing is drawn where the
    /// width is 0. Images are at most 65,535 pixels wide and high for this.
    pub source: [u16; 4],
    /// The image to draw from: an index into the images of the reel.
    pub image: u16,
    /// For the game to use.
    pub user: u16,
    /// Red, green, blue and alpha to multiply by.
    pub tint: [u8; 4],
    /// Red, green and blue to mix the tinted color toward, and how far: 0 leaves it as it is, 255 is that color alone. Alpha
    /// stays.
    pub flash: [u8; 4],
    /// For a depth buffer, or to sort by.
    pub depth: f32,
}

/// A field of [`Instance`] as a vertex attribute.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct InstanceAttribute {
    /// Where it begins in the instance, in bytes.
    pub offset: usize,
    /// Its format, by the name that WebGPU has for it.
    pub format: &'static str,
}

impl Instance {
    /// Its fields in order, with `image` and `user` as one: location 0 is `origin`, and so on.
    pub const ATTRIBUTES: [InstanceAttribute; 8] = [
        InstanceAttribute { offset: 0, format: "float32x2" },
        InstanceAttribute { offset: 8, format: "float32x2" },
        InstanceAttribute { offset: 16, format: "float32x2" },
        InstanceAttribute { offset: 24, format: "uint16x4" },
        InstanceAttribute { offset: 32, format: "uint16x2" },
        InstanceAttribute { offset: 36, format: "unorm8x4" },
        InstanceAttribute { offset: 40, format: "unorm8x4" },
        InstanceAttribute { offset: 44, format: "float32" },
    ];

    /// Shader code (WGSL) that reads instances and rows of the table of compact ones: put it in front of
    /// your own.
    ///
    /// ```text
    #[doc = include_str!("instance.wgsl")]
    /// ```
    pub const WGSL: &'static str = include_str!("instance.wgsl");

    /// A picture with its pivot on `[0, 0]`, in pixels.
    pub(super) fn of(view: &View<'_>) -> Instance {
        let flips = [view.flips.x, view.flips.y];
        let [x, y] = both(|axis| {
            let [first, last] = view.edges(axis).map(|halves| halves as f32 / 2.0);
            if flips[axis] { [last, first] } else { [first, last] }
        });
        let source = view.frame.source;
        let side = |pixels: u32| u16::try_from(pixels).unwrap_or(u16::MAX);
        Instance {
            origin: [x[0], y[0]],
            axis_x: [x[1] - x[0], 0.0],
            axis_y: [0.0, y[1] - y[0]],
            source: [side(source.x), side(source.y), side(source.width), side(source.height)],
            image: view.frame.image.0,
            user: 0,
            tint: WHITE,
            flash: NO_FLASH,
            depth: 0.0,
        }
    }

    /// A picture that is at no place, at this one.
    #[inline(always)]
    pub(super) fn at(&self, place: Placement) -> Instance {
        if place.is_only_position() {
            // Copied as it is, and then moved: in whole vectors, not field by field.
            let mut moved = *self;
            moved.origin[0] += place.position[0];
            moved.origin[1] += place.position[1];
            return moved;
        }
        if place.only_moves() {
            let [x, y] = both(|axis| self.origin[axis] + place.position[axis]);
            let Placement { tint, flash, depth, user, .. } = place;
            return Instance { origin: [x, y], tint, flash, depth, user, ..*self };
        }
        // The axes of a picture at no place lie along those of the screen.
        let (width, height) = (self.axis_x[0], self.axis_y[1]);
        let edges = [self.origin[0] + width.min(0.0), self.origin[1] + height.min(0.0)];
        let lay = Lay::of(place, edges);
        Instance {
            origin: lay.put(self.origin),
            axis_x: both(|axis| lay.right[axis] * width),
            axis_y: both(|axis| lay.down[axis] * height),
            user: place.user,
            tint: place.tint,
            flash: place.flash,
            depth: place.depth,
            ..*self
        }
    }
}

/// A small instance of 16 bytes, for a shader that has the [`table`](crate::InstanceWriter::table). It is
/// neither scaled nor rotated by itself.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "bytemuck", derive(bytemuck::Pod, bytemuck::Zeroable))]
#[repr(C)]
pub struct SmallInstance {
    /// Where the pivot lands, in the game's units.
    pub position: [f32; 2],
    /// What is up, as [`PackedFrame::to_bits`].
    pub shown: u32,
    /// For the game to use.
    pub user: u32,
}

impl Default for SmallInstance {
    /// Nothing is up.
    fn default() -> SmallInstance {
        SmallInstance { position: [0.0; 2], shown: PackedFrame::NOTHING.to_bits(), user: 0 }
    }
}

const _: () = assert!(size_of::<Instance>() == 48 && size_of::<SmallInstance>() == 16);
const _: () = {
    use core::mem::offset_of;
    let offsets = [
        offset_of!(Instance, origin),
        offset_of!(Instance, axis_x),
        offset_of!(Instance, axis_y),
        offset_of!(Instance, source),
        offset_of!(Instance, image),
        offset_of!(Instance, tint),
        offset_of!(Instance, flash),
        offset_of!(Instance, depth),
    ];
    let mut field = 0;
    while field < offsets.len() {
        assert!(offsets[field] == Instance::ATTRIBUTES[field].offset);
        field += 1;
    }
};
