//! Time passes for one block.

use super::Lanes;
use super::block::{BLOCK, STEP};
use super::group_clock::GroupAdvance;
use super::sink::{Before, CrossingRecord, EventSink, Leaving};
use super::slot::BlockMut;
use crate::event::EventMask;
use crate::kernel::{Boundary, Happened, Step};
use crate::reel::Reel;
use crate::time::Ticks;

/// What is the same for all blocks in an advance.
#[derive(Clone, Copy)]
pub(super) struct Context<'c> {
    pub(super) reel: &'c Reel,
    /// By group.
    pub(super) advances: &'c [GroupAdvance],
    pub(super) mask: EventMask,
    /// What the mask wants, worked out once: a fifth of an instruction for each member.
    pub(super) wanted: Happened,
}

impl<'c> Context<'c> {
    pub(super) fn new(
        reel: &'c Reel,
        advances: &'c [GroupAdvance],
        mask: EventMask,
    ) -> Context<'c> {
        Context { reel, advances, mask, wanted: Happened::wanted_by(mask) }
    }
}

/// Lets time pass for the members of a block, and hands on what happened to them. Slots that are to be
/// freed are noted down in `leaving`.
#[inline]
pub(super) fn advance_block(
    context: Context<'_>,
    at: usize,
    slots: &mut BlockMut<'_>,
    leaving: &mut Leaving,
    sink: &mut impl EventSink,
) {
    let block = &mut *slots.block;
    block.changed = block.commanded;
    block.commanded = 0;
    let Some(advance) = context.advances.get(usize::from(block.group)) else { return };
    let running = block.fast | block.waiting;
    if advance.ticks == 0 || running == 0 {
        return;
    }
    let (mut due, ran) = match u32::try_from(advance.ticks) {
        Ok(ticks) => {
            let due = slots.clocks.run(ticks) & block.fast;
            (due | block.waiting | block.starting, true)
        }
        // Longer than clocks can count in one go: each finds its place by itself.
        Err(_) => (running, false),
    };
    loop {
        if ran {
            let crossed = cross(context, at, slots, due, sink.room());
            due = crossed.due;
            sink.crossed(crossed.count, crossed.happened, slots.block.group);
        }
        let Some(lane) = Lanes(due).next() else { return };
        if ran && slots.block.starting >> lane & 1 != 0 {
            start(context, advance, at, slots, lane, sink);
            if slots.clocks.clocks[lane] >= 0 {
                // It has come farther than that already.
                continue;
            }
        } else if !ran || !end(context, advance, at, slots, lane, leaving, sink) {
            advance_slow(context, advance, at, slots, lane, ran, leaving, sink);
        }
        due &= due - 1;
    }
}

/// What the fast path has done.
struct Crossed {
    /// The first member that needs the slow path, and those that follow.
    due: u64,
    /// How many records were written.
    count: usize,
    /// What happened in any of them.
    happened: Happened,
}

/// Fast path: takes members across plain boundaries and stops at the first that needs the slow path. What
/// is wanted of them is written down in `room`.
#[inline(never)] // inlined into its caller it runs out of registers: 20 percent slower
fn cross(
    context: Context<'_>,
    at: usize,
    slots: &mut BlockMut<'_>,
    due: u64,
    room: &mut [CrossingRecord],
) -> Crossed {
    let Some(room) = room.first_chunk_mut::<BLOCK>() else {
        return Crossed { due, count: 0, happened: Happened::NOTHING };
    };
    let BlockMut { clocks, codes, states, block } = slots;
    let steps = context.reel.steps().all();
    let stops = Step::stops(block.is_of_actors());
    let wanted = Step::flags_of(context.wanted);
    let first_to_wait = due & (block.waiting | block.starting | block.planned);
    let ahead = due & first_to_wait.wrapping_sub(1) & !first_to_wait;
    let (mut left, mut same, mut count, mut any) = (ahead, 0, 0, Step::NOTHING);
    while left != 0 {
        let lane = left.trailing_zeros() as usize % BLOCK;
        let code = codes[lane];
        let Some(&step) = steps.get((code & STEP) as usize) else { break };
        let over = clocks.clocks[lane] as u64;
        if step.has(stops) || over >= step.next_units() {
            break;
        }
        clocks.clocks[lane] = (over as i64).wrapping_sub(step.next_units() as i64);
        codes[lane] = step.follow(code);
        let state = &mut states[lane];
        if step.has(Step::UNUSUAL) {
            state.cycle = step.count(state.cycle);
            same |= u64::from(!step.changes()) << lane;
        }
        if step.has(wanted) {
            let slot = (at * BLOCK + lane) as u32;
            room[count % BLOCK] = CrossingRecord { state: *state, over, slot, code };
            count += 1;
            any = any.or_flags_of(step);
        }
        left &= left - 1;
    }
    block.changed |= ahead & !left & !same;
    Crossed { due: due & !ahead | left, count, happened: any.happened() }
}

/// The first moment of one that was asked to play, or was put somewhere.
fn start(
    context: Context<'_>,
    advance: &GroupAdvance,
    at: usize,
    slots: &mut BlockMut<'_>,
    lane: usize,
    sink: &mut impl EventSink,
) {
    slots.begin(lane);
    if !context.mask.intersects(EventMask::ENTERS | EventMask::MARKS) {
        return;
    }
    let (code, state) = (slots.codes[lane], slots.states[lane]);
    let now = context.reel.steps().origin(code & STEP);
    let before = slots.clocks.clocks[lane].wrapping_sub(counted(advance, slots, lane));
    let Some(clip) = context.reel.clip_at(now.clip()) else { return };
    let hold = now.place() & !crate::kernel::RETURNING;
    let happened = Happened::at_first(clip, hold, before.unsigned_abs()).only(context.wanted);
    let frame = context.reel.steps().frame(code & STEP);
    let (cycles, plays) = ([state.cycle; 2], [state.plays; 2]);
    let boundary = Boundary::new(happened, [now; 2], cycles, plays, frame);
    sink.moment(state.id(at, lane), boundary, advance.game_tick(Ticks::ZERO, true));
}

/// The end of a clip that is played once, where that is all; else `false`, and nothing is changed.
fn end(
    context: Context<'_>,
    advance: &GroupAdvance,
    at: usize,
    slots: &mut BlockMut<'_>,
    lane: usize,
    leaving: &mut Leaving,
    sink: &mut impl EventSink,
) -> bool {
    let steps = context.reel.steps();
    let (code, block) = (slots.codes[lane], &slots.block);
    let is_plain = block.fast & !block.planned & 1 << lane != 0 && !block.is_of_actors();
    let Some(vanishes) = Some(steps.get(code & STEP)).filter(|_| is_plain).and_then(Step::ends)
    else {
        return false;
    };
    let over = slots.clocks.clocks[lane] as u64;
    let state = &mut slots.states[lane];
    state.cycle = 1;
    let record = CrossingRecord { state: *state, over, slot: (at * BLOCK + lane) as u32, code };
    let (mut boundary, moment) = record.boundary(steps, advance, Happened::NOTHING);
    boundary.report(Happened::CYCLE.and(Happened::END).only(context.wanted));
    if !boundary.is_done() {
        sink.moment(record.id(), boundary, moment);
    }
    slots.end(lane);
    if vanishes {
        leaving.push(record.slot);
    }
    true
}

/// So far a clock has been counted up in this advance.
fn counted(advance: &GroupAdvance, slots: &BlockMut<'_>, lane: usize) -> i64 {
    advance.ticks.wrapping_mul(u64::from(slots.clocks.speed(lane))) as i64
}

/// The same by the laws of a single player, or actor, whatever may happen to it.
#[inline(never)]
#[allow(clippy::too_many_arguments)] // all of one advance
fn advance_slow(
    context: Context<'_>,
    advance: &GroupAdvance,
    at: usize,
    slots: &mut BlockMut<'_>,
    lane: usize,
    ran: bool,
    leaving: &mut Leaving,
    sink: &mut impl EventSink,
) {
    let Context { reel, mask, .. } = context;
    if ran {
        let counted = counted(advance, slots, lane);
        slots.clocks.clocks[lane] = slots.clocks.clocks[lane].wrapping_sub(counted);
    }
    let (ticks, group) = (Ticks::new(advance.ticks), slots.block.group);
    let id = slots.states[lane].id(at, lane);
    let wants = mask != EventMask::NONE;
    let changed = if let Some(mut actor) = slots.as_ref().actor(reel, lane) {
        let before = actor;
        let _ = actor.advance(reel, ticks);
        if wants {
            sink.slow(id, Before::Actor(before), group);
        }
        if slots.block.freed >> lane & 1 != 0 && actor.player().has_vanished(reel) {
            leaving.push(id.slot);
        }
        slots.put_actor(reel, lane, actor)
    } else {
        let mut player = slots.as_ref().player(reel, lane);
        let before = player;
        let _ = player.advance(reel, ticks);
        if wants {
            sink.slow(id, Before::Player(before), group);
        }
        if player.has_vanished(reel) {
            leaving.push(id.slot);
        }
        slots.put_player(reel, lane, &player)
    };
    slots.block.changed |= u64::from(changed) << lane;
}
