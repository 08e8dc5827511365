//! Time passes for one block.

use alloc::vec::Vec;

use super::Lanes;
use super::block::{BLOCK, STEP};
use super::group::Pass;
use super::listener::{Listener, Member, Passed};
use super::seat::BlockMut;
use super::tell::Tell;
use crate::play::{Crossing, Event, Step, Steps};
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
    listener: &mut impl Listener,
) {
    let block = &mut *seat.block;
    block.changed = block.told;
    block.told = 0;
    let Some(pass) = context.passes.get(usize::from(block.group)) else { return };
    let running = block.gliding | block.waiting;
    if pass.ticks == 0 || running == 0 {
        return;
    }
    let (mut due, ran) = match u32::try_from(pass.ticks) {
        Ok(ticks) => {
            let due = seat.hot.run(ticks) & block.gliding;
            (due | block.waiting | block.starting, true)
        }
        // Longer than clocks can count in one go: each finds its place by itself.
        Err(_) => (running, false),
    };
    loop {
        if ran {
            let count;
            (due, count) = cross(context, at, seat, due, listener.room());
            listener.passed(count, seat.block.group, pass, leaving);
        }
        let Some(lane) = Lanes(due).next() else { return };
        let mut member = Member { handle: seat.rows[lane].handle(at, lane), leaves: false };
        if ran && seat.block.starting >> lane & 1 != 0 {
            start(context, pass, seat, lane, &mut member, listener);
            if seat.hot.clocks[lane] >= 0 {
                // It has come farther than that already.
                continue;
            }
        } else if !ran || !end(context, pass, seat, lane, &mut member, listener) {
            go_closely(context, pass, seat, lane, ran, &mut member, listener);
        }
        due &= due - 1;
        if member.leaves {
            leaving.push(member.handle.slot);
        }
    }
}

/// Takes those that have reached a plain boundary across, up to the first for whom there is more to be
/// done. Gives that one and those that follow, and how many were written down in `room`.
#[inline(never)] // it is quick as long as it keeps to itself
fn cross(
    context: Context<'_>,
    at: usize,
    seat: &mut BlockMut<'_>,
    due: u64,
    room: &mut [Passed],
) -> (u64, usize) {
    let Some(room) = room.first_chunk_mut::<BLOCK>() else { return (due, 0) };
    let BlockMut { hot, codes, rows, block } = seat;
    let steps = context.steps.all();
    let stops = Step::stops(block.is_of_actors());
    let wanted = context.tell.in_step();
    let first_to_wait = due & (block.waiting | block.starting);
    let ahead = due & first_to_wait.wrapping_sub(1) & !first_to_wait;
    let (mut left, mut same, mut count) = (ahead, 0, 0);
    while left != 0 {
        let lane = left.trailing_zeros() as usize % BLOCK;
        let code = codes[lane];
        let Some(&step) = steps.get((code & STEP) as usize) else { break };
        let over = hot.clocks[lane] as u64;
        if step.has(stops) || over >= step.next_units() {
            break;
        }
        hot.clocks[lane] = (over as i64).wrapping_sub(step.next_units() as i64);
        codes[lane] = step.follow(code);
        let row = &mut rows[lane];
        if step.has(Step::UNUSUAL) {
            row.cycle = row.cycle.wrapping_add(step.cycles());
            same |= u64::from(!step.changes()) << lane;
        }
        if step.has(wanted) {
            let slot = (at * BLOCK + lane) as u32;
            room[count % BLOCK] = Passed { row: *row, left: over, slot, code };
            count += 1;
        }
        left &= left - 1;
    }
    block.changed |= ahead & !left & !same;
    (due & !ahead | left, count)
}

/// The first moment of one that was asked to play, or was put somewhere.
fn start(
    context: Context<'_>,
    pass: &Pass,
    seat: &mut BlockMut<'_>,
    lane: usize,
    member: &mut Member,
    listener: &mut impl Listener,
) {
    let Context { reel, steps, tell, .. } = context;
    seat.depart(lane);
    if tell.has(Tell::ENTERED | Tell::MARKS) {
        let at = pass.game_tick(Ticks::ZERO, true);
        let (code, row) = (seat.codes[lane], seat.rows[lane]);
        let crossing = Crossing { code, cycle: row.cycle, play: row.play, at };
        let before = seat.hot.clocks[lane].wrapping_sub(counted(pass, seat, lane));
        crossing.tell_start(reel, steps, before.unsigned_abs(), |event| {
            if tell.wants(&event) {
                listener.event(event, member);
            }
        });
    }
}

/// The end of a clip that is played once, where that is all; else `false`, and nothing is changed.
fn end(
    context: Context<'_>,
    pass: &Pass,
    seat: &mut BlockMut<'_>,
    lane: usize,
    member: &mut Member,
    listener: &mut impl Listener,
) -> bool {
    let Context { steps, tell, .. } = context;
    let (code, is_gliding) = (seat.codes[lane], seat.block.gliding >> lane & 1 != 0);
    let ends = steps.get(code & STEP).filter(|_| is_gliding).and_then(Step::ends);
    let Some(vanishes) = ends.filter(|_| !seat.block.is_of_actors()) else { return false };
    let over = seat.hot.clocks[lane] as u64;
    let row = &mut seat.rows[lane];
    row.cycle = 1;
    let passed = Passed { row: *row, left: over, slot: member.handle.slot, code };
    passed.crossing(pass).tell_end(steps, |event| {
        if tell.wants(&event) {
            listener.event(event, member);
        }
    });
    seat.end(lane);
    member.leaves |= vanishes;
    true
}

/// So far a clock has been counted up in this advance.
fn counted(pass: &Pass, seat: &BlockMut<'_>, lane: usize) -> i64 {
    pass.ticks.wrapping_mul(u64::from(seat.hot.speed(lane))) as i64
}

/// The same by the laws of a single player, or actor, whatever may happen to it.
#[inline(never)]
fn go_closely(
    context: Context<'_>,
    pass: &Pass,
    seat: &mut BlockMut<'_>,
    lane: usize,
    ran: bool,
    member: &mut Member,
    listener: &mut impl Listener,
) {
    let Context { reel, steps, tell, .. } = context;
    if ran {
        seat.hot.clocks[lane] = seat.hot.clocks[lane].wrapping_sub(counted(pass, seat, lane));
    }
    let ticks = Ticks::new(pass.ticks);
    let mut tell_all = |events: &mut dyn Iterator<Item = Event>, first: Ticks| {
        if tell == Tell::NOTHING {
            return;
        }
        for event in events.filter(|event| tell.wants(event)) {
            let departs = event.at() == first;
            let at = if pass.is_plain() { event.at() } else { pass.game_tick(event.at(), departs) };
            listener.event(event.moved_to(at), member);
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
