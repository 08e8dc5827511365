//! Seconds to ticks.

use std::mem::MaybeUninit;

use lucky_reel::Clock;

use crate::from_c::given;
use crate::status::{LuckyStatus, Problem, done};

/// Turns the game's seconds into ticks, and carries what is less than a tick, so that nothing is lost.
pub struct LuckyClock(Clock);

/// Makes a clock that runs at normal speed, and takes 250 ms at most in one step.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_clock_new(
    out: Option<&mut MaybeUninit<Option<Box<LuckyClock>>>>,
) -> LuckyStatus {
    done(|| {
        given(out)?.write(Some(Box::new(LuckyClock(Clock::new()))));
        Ok(())
    })
}

/// Ends a clock.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_clock_free(clock: Option<Box<LuckyClock>>) {
    drop(clock);
}

/// A step of so many seconds, in ticks; no time where the seconds are negative or not a number.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_clock_step(
    clock: Option<&mut LuckyClock>,
    seconds: f64,
    out: Option<&mut MaybeUninit<u64>>,
) -> LuckyStatus {
    done(|| {
        let out = given(out)?;
        out.write(given(clock)?.0.step_secs(seconds).get());
        Ok(())
    })
}

/// Slow and fast motion: multiplies all steps by a factor from 0 to 32,767.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_clock_set_scale(
    clock: Option<&mut LuckyClock>,
    factor: f64,
) -> LuckyStatus {
    done(|| given(clock)?.0.set_scale(factor).map_err(Problem::range))
}
