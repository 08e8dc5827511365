//! Players and actors, put into the columns of a block and taken out again.

use alloc::vec::Vec;

use super::block::{BLOCK, Block, Clocks, Codes, MIRRORED, MemberState, STEP, frame_at};
use crate::actor::Actor;
use crate::kernel::StepTable;
use crate::play::{FLIPS, FLIPS_SHIFT, Plan, Player, State, begun_flags};
use crate::reel::Reel;
use crate::sheet::{Flips, PackedFrame};

/// One block of all columns.
pub(super) struct BlockMut<'c> {
    pub(super) clocks: &'c mut Clocks,
    pub(super) codes: &'c mut Codes,
    pub(super) states: &'c mut [MemberState; BLOCK],
    pub(super) block: &'c mut Block,
}

/// One block of all columns, to be read.
#[derive(Clone, Copy)]
pub(super) struct BlockRef<'c> {
    pub(super) clocks: &'c Clocks,
    pub(super) codes: &'c Codes,
    pub(super) states: &'c [MemberState; BLOCK],
    pub(super) block: &'c Block,
}

impl BlockRef<'_> {
    /// The player in a slot, its clock being as it is.
    pub(super) fn player(&self, reel: &Reel, lane: usize) -> Player {
        let BlockRef { clocks, codes, states, block } = self;
        let (code, state) = (codes[lane], states[lane]);
        let origin = reel.steps().origin(code & STEP);
        let known = code & STEP != StepTable::NOTHING;
        let mut player = Player {
            left: clocks.clocks[lane].wrapping_neg() as u64,
            pace: state.pace,
            hit_stop: block.hit_stops.get(lane).copied().unwrap_or(0),
            cycle: state.cycle,
            plan: block.plans.get(lane).copied().unwrap_or(Plan::NONE),
            place: origin.place(),
            requested: state.requested,
            flags: state.flags | (code >> MIRRORED << FLIPS_SHIFT) as u8,
            plays: state.plays,
            ..Player::of_number(reel, if known { origin.clip() } else { state.requested })
        };
        if !player.state().means().holds {
            // It has no place yet: what it shows is its first hold, or its rest.
            (player.place, player.left) = (0, 0);
        }
        player.update_ready(reel);
        player
    }

    /// The flips that the game has set.
    pub(super) fn player_flips(&self, lane: usize) -> Flips {
        PackedFrame::from_bits(self.codes[lane]).flips()
    }

    /// The actor in a slot, with its player as it is now.
    pub(super) fn actor(&self, reel: &Reel, lane: usize) -> Option<Actor> {
        let mut actor = *self.block.actors.get(lane)?;
        if self.block.fast >> lane & 1 != 0 {
            actor.set_player(self.player(reel, lane));
        }
        Some(actor)
    }
}

impl BlockMut<'_> {
    pub(super) fn as_ref(&self) -> BlockRef<'_> {
        BlockRef { clocks: self.clocks, codes: self.codes, states: self.states, block: self.block }
    }

    /// Puts a player into a slot; gives whether another picture is up now.
    pub(super) fn put_player(&mut self, reel: &Reel, lane: usize, player: &Player) -> bool {
        let old = self.codes[lane];
        match player.begun(reel) {
            Some(begun) => {
                self.put(reel, lane, &begun, true, false);
                if self.block.fast >> lane & 1 != 0 {
                    self.block.starting |= 1 << lane;
                    self.states[lane].flags = player.flags & !FLIPS;
                }
            }
            None => {
                // One that has vanished is freed in the next advance.
                let waits = !player.stands() || player.has_vanished(reel);
                self.put(reel, lane, player, player.is_ready(), waits);
            }
        }
        frame_at(reel.steps(), old) != frame_at(reel.steps(), self.codes[lane])
    }

    /// Puts an actor into a slot; gives whether another picture is up now.
    pub(super) fn put_actor(&mut self, reel: &Reel, lane: usize, actor: Actor) -> bool {
        let fast = actor.player().is_ready() && actor.is_at_rest();
        let waits = !(actor.is_at_rest() && actor.player().stands());
        let old = self.codes[lane];
        self.put(reel, lane, actor.player(), fast, waits);
        if let Some(slot) = self.block.actors.get_mut(lane) {
            *slot = actor;
        }
        frame_at(reel.steps(), old) != frame_at(reel.steps(), self.codes[lane])
    }

    fn put(&mut self, reel: &Reel, lane: usize, player: &Player, fast: bool, waits: bool) {
        let steps = reel.steps();
        let step = match (reel.clip_at(player.clip), player.place_shown(reel)) {
            (None, _) => StepTable::NOTHING,
            (_, None) => steps.find_vanished(player.clip, player.way()),
            (_, Some(place)) => steps.find(player.clip, place, player.way()),
        };
        let known = step != StepTable::NOTHING;
        let waits = waits && known;
        let fast = fast && known;
        let BlockMut { clocks, codes, states, block } = self;
        clocks.clocks[lane] = (player.left as i64).wrapping_neg();
        clocks.set_speed(lane, if fast { player.pace.size() } else { 0 });
        codes[lane] = step | u32::from((player.flags & FLIPS) >> FLIPS_SHIFT) << MIRRORED;
        states[lane] = MemberState {
            cycle: player.cycle,
            generation: states[lane].generation,
            pace: player.pace,
            plays: player.plays,
            flags: player.flags & !FLIPS,
            requested: player.requested,
        };
        put_rare(&mut block.hit_stops, lane, player.hit_stop, 0);
        put_rare(&mut block.plans, lane, player.plan, Plan::NONE);
        let bit = 1 << lane;
        block.starting &= !bit;
        set(&mut block.fast, bit, fast);
        set(&mut block.shown, bit, steps.frame(step).frame().is_some());
        set(&mut block.planned, bit, player.plan != Plan::NONE);
        set(&mut block.waiting, bit, !fast && waits);
    }

    /// The first moment of one that starts has come.
    pub(super) fn begin(&mut self, lane: usize) {
        let state = &mut self.states[lane];
        state.flags = begun_flags(state.flags, state.pace.is_negative());
        self.block.starting &= !(1 << lane);
    }

    /// One that is played once has come to its end, and stays.
    pub(super) fn end(&mut self, lane: usize) {
        self.clocks.clocks[lane] = 0;
        self.clocks.set_speed(lane, 0);
        let state = &mut self.states[lane];
        state.flags = State::Ended.put(state.flags);
        self.block.fast &= !(1 << lane);
    }

    /// Its picture is another one because of a command.
    pub(super) fn mark_changed(&mut self, lane: usize) {
        self.block.changed |= 1 << lane;
        self.block.commanded |= 1 << lane;
    }

    /// Empties a slot.
    pub(super) fn free(&mut self, lane: usize) {
        let bit = 1_u64 << lane;
        let BlockMut { clocks, codes, states, block } = self;
        clocks.clocks[lane] = i64::MIN;
        clocks.set_speed(lane, 0);
        codes[lane] = StepTable::NOTHING;
        let generation = &mut states[lane].generation;
        *generation = generation.wrapping_add(1);
        for word in [
            &mut block.alive,
            &mut block.fast,
            &mut block.starting,
            &mut block.shown,
            &mut block.waiting,
            &mut block.planned,
            &mut block.freed,
            &mut block.changed,
            &mut block.commanded,
        ] {
            *word &= !bit;
        }
        put_rare(&mut block.outfits, lane, 0, 0);
        put_rare(&mut block.hit_stops, lane, 0, 0);
        put_rare(&mut block.plans, lane, Plan::NONE, Plan::NONE);
    }
}

/// Puts a value into a column that is there only where some slot has more than the usual.
pub(super) fn put_rare<T: Copy + PartialEq>(column: &mut Vec<T>, lane: usize, value: T, usual: T) {
    if value != usual && column.is_empty() {
        column.resize(BLOCK, usual);
    }
    if let Some(slot) = column.get_mut(lane) {
        *slot = value;
    }
}

fn set(word: &mut u64, bit: u64, on: bool) {
    *word = if on { *word | bit } else { *word & !bit };
}

/// Takes a player out, tells it something, and puts it back.
pub(super) fn tell_player<T>(
    slots: &mut BlockMut<'_>,
    reel: &Reel,
    lane: usize,
    tell: impl FnOnce(&mut Player, &Reel) -> T,
) -> T {
    let mut player = slots.as_ref().player(reel, lane);
    let answer = tell(&mut player, reel);
    player.rebind(reel);
    player.update_ready(reel);
    if slots.put_player(reel, lane, &player) {
        slots.mark_changed(lane);
    }
    answer
}

/// As [`tell_player`]; `None` where the block is of players.
pub(super) fn tell_actor<T>(
    slots: &mut BlockMut<'_>,
    reel: &Reel,
    lane: usize,
    tell: impl FnOnce(&mut Actor, &Reel) -> T,
) -> Option<T> {
    let mut actor = slots.as_ref().actor(reel, lane)?;
    let looks = actor.looks();
    let answer = tell(&mut actor, reel);
    actor.refresh(reel);
    let dressed = actor.looks() != looks;
    if slots.put_actor(reel, lane, actor) || dressed {
        slots.mark_changed(lane);
    }
    Some(answer)
}
