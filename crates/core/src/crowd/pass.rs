//! Time passes for one block.

use alloc::vec::Vec;

use super::Lanes;
use super::block::{BLOCK, BlockMut, Hot, STEP};
use super::group::Pass;
use super::handle::Handle;
use super::tell::{Member, Tell};
use crate::play::{Crossing, Event, Steps};
use crate::reel::Reel;
use crate::time::Ticks;

/// What holds for all blocks in an advance.
#[derive(Clone, Copy)]
pub(super) struct Context<'c> {
    pub(super) reel: &'c Reel,
    pub(super) steps: &'c Steps,
    /// By group.
    pub(super) passes: &'c [Pass],
    pub(super) tell: Tell,
}

/// Lets time pass for the members of a block, and tells what happened to them. Slots that are to be
/// freed are noted down in `leaving`.
#[inline]
pub(super) fn pass_block(
    context: Context<'_>,
    at: usize,
    seat: &mut BlockMut<'_>,
    leaving: &mut Vec<u32>,
    told: &mut impl FnMut(&mut Member, Event),
) {
    let block = &mut *seat.block;
    block.changed = block.told;
    block.told = 0;
    let Some(pass) = context.passes.get(usize::from(block.group)) else { return };
    let running = block.gliding | block.waiting;
    if pass.ticks == 0 || running == 0 {
        return;
    }
    let (due, ran) = match u32::try_from(pass.ticks) {
        Ok(ticks) => (run(seat.hot, ticks) & block.gliding | block.waiting, ticks),
        // Longer than clocks can count in one go: each finds its place by itself.
        Err(_) => (running, 0),
    };
    let for_actors = block.is_of_actors();
    for lane in Lanes(due) {
        let slot = (at * BLOCK + lane) as u32;
        let handle = Handle { slot, generation: seat.cold.generations[lane] };
        let mut member = Member { handle, leaves: false };
        let bit = 1 << lane;
        let is_plain = ran > 0 && seat.block.gliding & bit != 0;
        if !is_plain || !cross(context, pass, seat, lane, for_actors, &mut member, told) {
            go_closely(context, pass, seat, lane, ran, &mut member, told);
        }
        if member.leaves {
            leaving.push(slot);
        }
    }
}

/// One bit for each lane. Masks gathered by a table of weights are what compilers make vectors of.
static WEIGHTS: [u64; BLOCK] = {
    let mut weights = [0; BLOCK];
    let mut lane = 0;
    while lane < BLOCK {
        weights[lane] = 1 << lane;
        lane += 1;
    }
    weights
};

/// Counts all clocks of a block up, and gives those that have reached a boundary.
#[inline]
fn run(hot: &mut Hot, ticks: u32) -> u64 {
    let mut reached = 0;
    for ((clock, speed), weight) in hot.clocks.iter_mut().zip(&hot.speeds).zip(&WEIGHTS) {
        *clock = clock.wrapping_add((u64::from(ticks) * u64::from(*speed)) as i64);
        reached |= !(*clock >> 63) as u64 & weight;
    }
    reached
}

/// Crosses one plain boundary. `false` where more than that is to be done; nothing is changed then.
#[inline]
fn cross(
    context: Context<'_>,
    pass: &Pass,
    seat: &mut BlockMut<'_>,
    lane: usize,
    for_actor: bool,
    member: &mut Member,
    told: &mut impl FnMut(&mut Member, Event),
) -> bool {
    let Context { reel, steps, tell, .. } = context;
    let code = seat.codes[lane];
    let step = steps.get(code & STEP);
    if !step.is_plain(for_actor) {
        return false;
    }
    let next = steps.get(step.next);
    let left = seat.hot.clocks[lane] as u64;
    if left >= next.units() {
        return false;
    }
    seat.hot.clocks[lane] = (left as i64).wrapping_sub(next.units() as i64);
    seat.codes[lane] = code & !STEP | step.next;
    seat.block.changed |= u64::from(step.picture != next.picture) << lane;
    let mut cycle = 0;
    if step.wraps() {
        cycle = seat.cold.cycles[lane].wrapping_add(step.cycles());
        seat.cold.cycles[lane] = cycle;
    }
    let wanted = tell.has(Tell::ENTERED)
        || tell.has(Tell::MARKS) && next.is_marked()
        || tell.has(Tell::CYCLES) && (step.wraps() || step.turns());
    if wanted {
        if !step.wraps() {
            cycle = seat.cold.cycles[lane];
        }
        let ticks = pass.ticks - divide(left, seat.hot.speeds[lane]);
        let at = match pass.is_plain() {
            true => Ticks::new(ticks),
            false => pass.game_tick(Ticks::new(ticks), false),
        };
        let crossing = Crossing { step, code, cycle, play: seat.cold.plays[lane], at };
        crossing.tell(reel, steps, |event| {
            if tell.wants(&event) {
                told(member, event);
            }
        });
    }
    true
}

/// Rounded down; 0 below for what stands still.
#[inline]
fn divide(units: u64, speed: u32) -> u64 {
    // Floats divide far quicker than whole numbers of 64 bits. With at most 52 bits the quotient is
    // off by one at the most.
    if units >> 52 != 0 || speed == 0 {
        return units.checked_div(u64::from(speed)).unwrap_or(0);
    }
    let quotient = (units as i64 as f64 / f64::from(speed)) as i64 as u64;
    quotient - u64::from(quotient * u64::from(speed) > units)
}

/// The same by the laws of a single player, or actor, whatever may happen to it.
#[inline(never)]
fn go_closely(
    context: Context<'_>,
    pass: &Pass,
    seat: &mut BlockMut<'_>,
    lane: usize,
    ran: u32,
    member: &mut Member,
    told: &mut impl FnMut(&mut Member, Event),
) {
    let Context { reel, steps, tell, .. } = context;
    let counted = u64::from(ran) * u64::from(seat.hot.speeds[lane]);
    seat.hot.clocks[lane] = seat.hot.clocks[lane].wrapping_sub(counted as i64);
    let ticks = Ticks::new(pass.ticks);
    let mut tell_all = |events: &mut dyn Iterator<Item = Event>, first: Ticks| {
        if tell == Tell::NOTHING {
            return;
        }
        for event in events.filter(|event| tell.wants(event)) {
            let at = pass.game_tick(event.at(), event.at() == first);
            told(member, event.moved_to(at));
        }
    };
    let changed = if let Some(mut actor) = seat.as_ref().actor(reel, steps, lane) {
        let first = actor.player().hit_stop_left();
        let mut events = actor.advance(reel, ticks);
        tell_all(&mut events, first);
        seat.put_actor(reel, steps, lane, actor)
    } else {
        let mut player = seat.as_ref().player(reel, steps, lane);
        let first = player.hit_stop_left();
        let mut events = player.advance(reel, ticks);
        tell_all(&mut events, first);
        member.leaves |= player.has_vanished(reel);
        seat.put_player(reel, steps, lane, &player)
    };
    seat.block.changed |= u64::from(changed) << lane;
}
