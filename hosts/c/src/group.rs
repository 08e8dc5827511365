//! Groups of a crowd: members that share a clock of their own, and sleep together.

use lucky_reel::{EventMask, crowd::GroupId};

use crate::crowd::LuckyCrowd;
use crate::from_c::{self, given_mut};
use crate::player::known;
use crate::status::{LuckyStatus, done};

/// A group of a crowd. Every crowd begins with the group 0.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyGroup {
    /// From 0, in the order in which they were added.
    pub number: u8,
}

impl From<LuckyGroup> for GroupId {
    fn from(group: LuckyGroup) -> GroupId {
        GroupId::from_bits(group.number)
    }
}

/// Adds a group; 256 is the most that a crowd can have.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_add_group(
    crowd: *mut LuckyCrowd,
    out: *mut LuckyGroup,
) -> LuckyStatus {
    done(|| {
        let (crowd, out) = (given_mut(crowd)?, from_c::out(out)?);
        out.write(LuckyGroup { number: crowd.crowd.add_group()?.to_bits() });
        Ok(())
    })
}

/// Scales the time of a group by a factor from 0 to 32,767: 0.5 for slow motion, 0 for a pause.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set_group_scale(
    crowd: *mut LuckyCrowd,
    group: LuckyGroup,
    factor: f64,
) -> LuckyStatus {
    done(|| Ok(given_mut(crowd)?.crowd.set_group_scale(group.into(), factor)?))
}

/// Leaves a group out of advances until it is woken: for what is off the screen. Its time is counted and costs
/// nothing.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_sleep_group(
    crowd: *mut LuckyCrowd,
    group: LuckyGroup,
) -> LuckyStatus {
    done(|| known(given_mut(crowd)?.crowd.sleep_group(group.into())))
}

/// Wakes a group, whose members are where they would be had they never slept, and keeps the events of this
/// LuckyEventMask for `lucky_crowd_events`, those of the last hour at most.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_wake_group(
    crowd: *mut LuckyCrowd,
    group: LuckyGroup,
    mask: u32,
) -> LuckyStatus {
    done(|| {
        let crowd = given_mut(crowd)?;
        let mask = EventMask::from_bits(mask as u8);
        known(crowd.crowd.wake_group(group.into(), mask, &mut crowd.happened))?;
        crowd.list_events();
        Ok(())
    })
}
