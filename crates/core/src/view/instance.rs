use super::PackedFrame;

/// Where an instance is drawn, and four bytes for the game to use (a tint, a depth, an index).
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct InstanceAt {
    /// Where the pivot lands, in the game's units.
    pub position: [f32; 2],
    /// Passed on unchanged.
    pub user: u32,
}

impl InstanceAt {
    /// With the pivot on this position.
    #[must_use]
    pub fn new(position: impl Into<[f32; 2]>) -> InstanceAt {
        InstanceAt { position: position.into(), user: 0 }
    }

    /// With four bytes for the game to use.
    #[must_use]
    pub const fn user(self, user: u32) -> InstanceAt {
        InstanceAt { user, ..self }
    }
}

/// All that a renderer needs to draw a rectangle, as plain data of 48 bytes for an instance buffer.
///
/// A corner of the unit square, `[0, 0]` to `[1, 1]` with y down, lands on
/// `position + (corner × size − pivot) × scale` and shows the texture at
/// `mix(uv[0..2], uv[2..4], corner)`. Flips are in `pivot` and `uv` already.
///
/// | byte | field |
/// | --- | --- |
/// | 0 | `position`, two `f32` |
/// | 8 | `size`, two `f32` |
/// | 16 | `pivot`, two `f32` |
/// | 24 | `uv`, four `f32` |
/// | 40 | `image`, `u16` |
/// | 42 | `flips`, `u16` |
/// | 44 | `user`, `u32` |
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "bytemuck", derive(bytemuck::Pod, bytemuck::Zeroable))]
#[repr(C)]
pub struct Instance {
    /// Where the pivot lands, in the game's units.
    pub position: [f32; 2],
    /// Width and height of what is drawn, in pixels of the art; nothing is drawn where they are 0.
    pub size: [f32; 2],
    /// The pivot, in pixels right and down from the top left of what is drawn, as it is seen.
    pub pivot: [f32; 2],
    /// Texture coordinates from 0 to 1 of what is seen left, above, right and below.
    pub uv: [f32; 4],
    /// The image to draw from.
    pub image: u16,
    /// Bit 0: mirrored left to right. Bit 1: top to bottom. For what else turns with the art, as
    /// normals do.
    pub flips: u16,
    /// For the game to use.
    pub user: u32,
}

/// A small instance of 16 bytes, for a shader that has the [`table`](crate::InstanceWriter::table).
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
