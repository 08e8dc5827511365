//! Seconds to ticks.

use lucky_reel::Clock;

use crate::from_c::{self, free, given_mut};
use crate::status::{LuckyStatus, Problem, done};

/// Turns the game's seconds into ticks, and carries what is less than a tick, so that nothing is lost.
pub struct LuckyClock(Clock);

/// Makes a clock that runs at normal speed, and takes 250 ms at most in one step.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clock_new(out: *mut *mut LuckyClock) -> LuckyStatus {
    done(|| {
        from_c::out(out)?.give(LuckyClock(Clock::new()));
        Ok(())
    })
}

/// Ends a clock.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clock_free(clock: *mut LuckyClock) -> LuckyStatus {
    done(|| free(clock))
}

/// A step of so many seconds, in ticks; no time where the seconds are negative or not a number.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clock_step(
    clock: *mut LuckyClock,
    seconds: f64,
    out: *mut u64,
) -> LuckyStatus {
    done(|| {
        let out = from_c::out(out)?;
        out.write(given_mut(clock)?.0.step_secs(seconds).get());
        Ok(())
    })
}

/// Slow and fast motion: multiplies all steps by a factor from 0 to 32,767.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clock_set_scale(clock: *mut LuckyClock, factor: f64) -> LuckyStatus {
    done(|| given_mut(clock)?.0.set_scale(factor).map_err(Problem::range))
}
