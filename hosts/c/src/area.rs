//! Areas of frames: what can be hit, what hits, what sees.

use lucky_reel::view::Area;

use crate::art::LuckyArt;
use crate::from_c::{self, given};
use crate::names::LuckyArea;
use crate::picture::{LuckyFrame, LuckyPlacement};
use crate::status::{LuckyStatus, call, done};

/// A named rectangle of a picture where it lies when it is drawn. It turns with the art, so it need not be
/// upright.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyBox {
    /// In the units of the placement: in a circle, whichever way round.
    pub corners: [[f32; 2]; 4],
}

impl From<LuckyBox> for Area {
    fn from(from: LuckyBox) -> Area {
        Area { corners: from.corners }
    }
}

/// Where a named area of a picture is, for a picture at a place; `LUCKY_STATUS_NOTHING` where the frame has no such
/// area.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_frame_area(
    art: *const LuckyArt,
    picture: LuckyFrame,
    area: LuckyArea,
    place: *const LuckyPlacement,
    out: *mut LuckyBox,
) -> LuckyStatus {
    call(|| {
        let view = picture.view(given(art)?)?;
        let (place, out) = (given(place)?, from_c::out(out)?);
        Ok(view.area(area.into(), (*place).into()).map_or(LuckyStatus::Nothing, |area| {
            out.write(LuckyBox { corners: area.corners });
            LuckyStatus::Ok
        }))
    })
}

/// Whether two boxes share any space. Edges that only touch share none.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_box_overlaps(
    one: *const LuckyBox,
    other: *const LuckyBox,
    out: *mut bool,
) -> LuckyStatus {
    done(|| {
        let (one, other) = (Area::from(*given(one)?), Area::from(*given(other)?));
        from_c::out(out)?.write(one.overlaps(&other));
        Ok(())
    })
}

/// Whether a place lies inside a box, for a click.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_box_contains(
    area: *const LuckyBox,
    x: f32,
    y: f32,
    out: *mut bool,
) -> LuckyStatus {
    done(|| {
        let area = Area::from(*given(area)?);
        from_c::out(out)?.write(area.contains([x, y]));
        Ok(())
    })
}
