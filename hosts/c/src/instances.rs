//! What a crowd shows as plain data for an instance buffer.

use std::mem::{offset_of, size_of};

use lucky_reel::Placement;
use lucky_reel::view::Instance;

use crate::crowd::LuckyCrowd;
use crate::from_c::{self, given_mut, list};
use crate::picture::LuckyPlacement;
use crate::status::{LuckyStatus, Problem, call};

/// All that a renderer needs to draw a frame, 48 bytes for an instance buffer. A corner of the unit square, y
/// down, lands on `origin + corner.x * axis_x + corner.y * axis_y`, and shows the texel at
/// `source.xy + corner * source.zw` of the image.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyInstance {
    /// Where the source's top left corner lands.
    pub origin: [f32; 2],
    /// From there to its top right corner.
    pub axis_x: [f32; 2],
    /// From there to its bottom left corner.
    pub axis_y: [f32; 2],
    /// Left, top, width and height in the image, in pixels.
    pub source: [u16; 4],
    /// The image.
    pub image: u16,
    /// For the game to use.
    pub user: u16,
    /// Red, green, blue and alpha to multiply by.
    pub tint: [u8; 4],
    /// Red, green and blue to mix toward, and how far; 0 leaves the color as it is. Alpha stays.
    pub flash: [u8; 4],
    /// For a depth buffer, or to sort by.
    pub depth: f32,
}

/// The two are laid out the same: instances are copied as they are.
macro_rules! same_layout {
    ($($field:ident)*) => {
        const _: () = {
            assert!(size_of::<LuckyInstance>() == size_of::<Instance>());
            assert!(align_of::<LuckyInstance>() == align_of::<Instance>());
            $(assert!(offset_of!(LuckyInstance, $field) == offset_of!(Instance, $field));)*
        };
    };
}

same_layout!(origin axis_x axis_y source image user tint flash depth);

/// Writes an instance for each member that shows something, in the order of slots, and how many these are to
/// `count`. Each lies at the position with the number of its slot, at the size of the art; members without a
/// position are left out. `positions` are an x and a y for each. Where there is no room for all, `LUCKY_STATUS_FULL`: the first ones are written.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_instances(
    crowd: *mut LuckyCrowd,
    positions: *const f32,
    position_count: usize,
    out: *mut LuckyInstance,
    room: usize,
    count: *mut usize,
) -> LuckyStatus {
    write(crowd, out, room, count, |crowd| {
        let positions = list(positions.cast::<[f32; 2]>(), position_count)?;
        crowd.instances.clear();
        let LuckyCrowd { crowd, writer, instances, .. } = crowd;
        crowd.instances(writer).write_at(instances, positions);
        Ok(())
    })
}

/// As `lucky_crowd_instances`, for members that are scaled, turned or tinted: there is a place for each slot, or
/// `LUCKY_STATUS_RANGE`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_instances_placed(
    crowd: *mut LuckyCrowd,
    places: *const LuckyPlacement,
    place_count: usize,
    out: *mut LuckyInstance,
    room: usize,
    count: *mut usize,
) -> LuckyStatus {
    write(crowd, out, room, count, |crowd| {
        let places = list(places, place_count)?;
        let slots = crowd.crowd.slots();
        if places.len() < slots {
            let what = format!("{} places for {slots} slots: give one for each", places.len());
            return Err(Problem::range(what));
        }
        crowd.instances.clear();
        let LuckyCrowd { crowd, writer, instances, .. } = crowd;
        let place = |at: usize| Placement::from(places[at]);
        crowd.instances(writer).write(instances, |member| place(member.index()));
        Ok(())
    })
}

unsafe fn write(
    crowd: *mut LuckyCrowd,
    out: *mut LuckyInstance,
    room: usize,
    count: *mut usize,
    make: impl FnOnce(&mut LuckyCrowd) -> Result<(), Problem>,
) -> LuckyStatus {
    call(|| {
        let (crowd, count) = (given_mut(crowd)?, from_c::out(count)?);
        let out = from_c::room(out, room)?;
        make(crowd)?;
        let made = &crowd.instances;
        let written = made.len().min(out.len());
        // SAFETY: both have room for so many, and are laid out the same.
        unsafe {
            let to = out.as_mut_ptr().cast::<Instance>();
            std::ptr::copy_nonoverlapping(made.as_ptr(), to, written);
        }
        count.write(written);
        if written < made.len() {
            let what =
                format!("there is room for {written} of {} instances: give more", made.len());
            return Err(Problem(LuckyStatus::Full, what));
        }
        Ok(LuckyStatus::Ok)
    })
}
