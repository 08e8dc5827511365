//! What something shows, and how to draw it.

use lucky_reel::{Placement, View, reel::Rect, view::PackedFrame};

use crate::art::LuckyArt;
use crate::from_c::{self, given};
use crate::names::LuckyPoint;
use crate::status::{LuckyStatus, Problem, call};

/// What a player, an actor or a member shows: a frame and its flips.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyFrame {
    /// The index of the frame in the lower 30 bits, then a bit for each of left to right and top to bottom.
    pub bits: u32,
}

impl LuckyFrame {
    pub(crate) unsafe fn write(
        picture: PackedFrame,
        out: *mut Self,
    ) -> Result<LuckyStatus, Problem> {
        let out = from_c::out(out)?;
        if picture.frame().is_none() {
            return Ok(LuckyStatus::Nothing);
        }
        out.write(LuckyFrame { bits: picture.to_bits() });
        Ok(LuckyStatus::Ok)
    }

    pub(crate) fn view(self, art: &LuckyArt) -> Result<View<'_>, Problem> {
        let view = PackedFrame::from_bits(self.bits).view(art.reel());
        view.ok_or_else(|| Problem::unknown("the reel has no such picture"))
    }
}

/// A part of an image, in pixels.
#[repr(C)]
#[derive(Clone, Copy)]
#[allow(missing_docs)] // their names say it
pub struct LuckyRect {
    pub x: u32,
    pub y: u32,
    pub width: u32,
    pub height: u32,
}

impl From<Rect> for LuckyRect {
    fn from(Rect { x, y, width, height }: Rect) -> LuckyRect {
        LuckyRect { x, y, width, height }
    }
}

/// A picture in full: a part of an image that was cut from an untrimmed frame.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyView {
    /// The image to draw from.
    pub image: u32,
    /// Its part.
    pub source: LuckyRect,
    /// Width and height of the untrimmed frame, in pixels.
    pub size: [u32; 2],
    /// From the left top corner of the untrimmed frame to that of the part, before flipping, in pixels.
    pub shift: [i32; 2],
    /// From the left top corner of the untrimmed frame to its pivot, before flipping, in pixels.
    pub pivot: [f32; 2],
    /// Whether it is mirrored left to right about its pivot.
    pub flip_x: bool,
    /// Whether it is mirrored top to bottom about its pivot.
    pub flip_y: bool,
}

/// A picture in full, for renderers that place it themselves.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_frame_view(
    art: *const LuckyArt,
    picture: LuckyFrame,
    out: *mut LuckyView,
) -> LuckyStatus {
    call(|| {
        let view = picture.view(given(art)?)?;
        let flips = view.flips;
        from_c::out(out)?.write(LuckyView {
            image: view.frame.image.index() as u32,
            source: view.frame.source.into(),
            size: view.frame.size,
            shift: view.frame.shift,
            pivot: view.frame.pivot(),
            flip_x: flips.x,
            flip_y: flips.y,
        });
        Ok(LuckyStatus::Ok)
    })
}

/// A whole-pixel copy from an image to a screen.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyBlit {
    /// The image to copy from.
    pub image: u32,
    /// What to copy.
    pub source: LuckyRect,
    /// Where its top left goes, in the screen's pixels.
    pub at: [i32; 2],
    /// How large it gets, in the screen's pixels.
    pub size: [u32; 2],
    /// Whether it is mirrored left to right within that.
    pub flip_x: bool,
    /// Whether it is mirrored top to bottom within that.
    pub flip_y: bool,
}

/// How to copy a picture with its pivot at `x`, `y`, each of its pixels `scale` pixels wide and high.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_frame_blit(
    art: *const LuckyArt,
    picture: LuckyFrame,
    x: i32,
    y: i32,
    scale: u32,
    out: *mut LuckyBlit,
) -> LuckyStatus {
    call(|| {
        let blit = picture.view(given(art)?)?.blit([x, y], scale);
        from_c::out(out)?.write(LuckyBlit {
            image: blit.image.index() as u32,
            source: blit.source.into(),
            at: blit.at,
            size: blit.size,
            flip_x: blit.flips.x,
            flip_y: blit.flips.y,
        });
        Ok(LuckyStatus::Ok)
    })
}

/// Where and how to draw a picture. Begin with `lucky_placement_new`.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyPlacement {
    /// Where the pivot goes, in the game's units, y down.
    pub position: [f32; 2],
    /// Units for each pixel.
    pub scale: [f32; 2],
    /// In radians, clockwise on the screen.
    pub rotation: f32,
    /// Before others in a depth buffer, or to sort by; for instances.
    pub depth: f32,
    /// For the game to use; for instances.
    pub user: u16,
    /// Red, green, blue and alpha to multiply by; for instances.
    pub tint: [u8; 4],
    /// Red, green and blue to mix toward, and how far, from 0 to 255; alpha stays. For instances.
    pub flash: [u8; 4],
    /// Put onto whole units.
    pub is_snapped: bool,
    /// The game's y points up.
    pub is_y_up: bool,
}

impl From<LuckyPlacement> for Placement {
    fn from(place: LuckyPlacement) -> Placement {
        let [red, green, blue, amount] = place.flash;
        let to = Placement::at(place.position).stretched(place.scale).tinted(place.tint);
        let mut to = to.flashed([red, green, blue], f32::from(amount) / 255.0);
        if place.rotation != 0.0 {
            to = to.rotated(place.rotation);
        }
        if place.is_snapped {
            to = to.snapped();
        }
        if place.is_y_up {
            to = to.y_up();
        }
        to.depth(place.depth).user(place.user)
    }
}

/// A placement at a position, at the size of the art, upright, not tinted.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_placement_new(x: f32, y: f32) -> LuckyPlacement {
    LuckyPlacement {
        position: [x, y],
        scale: [1.0; 2],
        rotation: 0.0,
        depth: 0.0,
        user: 0,
        tint: [255; 4],
        flash: [0; 4],
        is_snapped: false,
        is_y_up: false,
    }
}

/// Four corners with texture coordinates, clockwise on the screen from the top left.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyQuad {
    /// In the units of the placement.
    pub corners: [[f32; 2]; 4],
    /// From 0 to 1, y down as images are stored; flips are in here.
    pub uv: [[f32; 2]; 4],
    /// The image that they are of.
    pub image: u32,
}

/// The corners of a picture at a place.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_frame_quad(
    art: *const LuckyArt,
    picture: LuckyFrame,
    place: *const LuckyPlacement,
    out: *mut LuckyQuad,
) -> LuckyStatus {
    call(|| {
        let view = picture.view(given(art)?)?;
        let quad = view.quad((*given(place)?).into());
        let image = view.frame.image.index() as u32;
        from_c::out(out)?.write(LuckyQuad { corners: quad.corners, uv: quad.uv, image });
        Ok(LuckyStatus::Ok)
    })
}

/// Where a named point of a picture is, for a picture at a place; `LUCKY_STATUS_NOTHING` where the frame has no
/// such point.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_frame_point(
    art: *const LuckyArt,
    picture: LuckyFrame,
    point: LuckyPoint,
    place: *const LuckyPlacement,
    out: *mut [f32; 2],
) -> LuckyStatus {
    call(|| {
        let view = picture.view(given(art)?)?;
        let (place, out) = (given(place)?, from_c::out(out)?);
        let at = view.point_at(point.into(), (*place).into());
        Ok(at.map_or(LuckyStatus::Nothing, |at| {
            out.write(at);
            LuckyStatus::Ok
        }))
    })
}
