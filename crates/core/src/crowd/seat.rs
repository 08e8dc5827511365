//! Players and actors, put into the columns of a block and taken out again.

use super::block::{BLOCK, Block, Codes, Hot, MIRRORED, Row, STEP, shown_at};
use crate::actor::Actor;
use crate::play::{FLIPS, FLIPS_SHIFT, Parts, Player, Steps};
use crate::reel::Reel;

/// One block of all columns.
pub(super) struct BlockMut<'c> {
    pub(super) hot: &'c mut Hot,
    pub(super) codes: &'c mut Codes,
    pub(super) rows: &'c mut [Row; BLOCK],
    pub(super) block: &'c mut Block,
}

/// One block of all columns, to be read.
#[derive(Clone, Copy)]
pub(super) struct BlockRef<'c> {
    pub(super) hot: &'c Hot,
    pub(super) codes: &'c Codes,
    pub(super) rows: &'c [Row; BLOCK],
    pub(super) block: &'c Block,
}

impl BlockRef<'_> {
    /// The player in a slot, its clock being as it is.
    pub(super) fn player(&self, reel: &Reel, steps: &Steps, lane: usize) -> Player {
        let BlockRef { hot, codes, rows, block } = self;
        let (code, row) = (codes[lane], rows[lane]);
        let origin = steps.origin(code & STEP);
        let known = code & STEP != Steps::NOTHING;
        let parts = Parts {
            remain: hot.clocks[lane].wrapping_neg() as u64,
            pace: row.pace,
            frozen: block.frozen.get(lane).copied().unwrap_or(0),
            cycle: row.cycle,
            place: origin.place,
            clip: if known { origin.clip } else { row.asked },
            asked: row.asked,
            flags: row.flags | (code >> MIRRORED << FLIPS_SHIFT) as u8,
            play: row.play,
        };
        let player = parts.into_player(reel);
        if player.is_fresh() || player.is_stopped() {
            // It has no place yet: what it shows is its first hold, or its rest.
            return Parts { place: 0, remain: 0, ..parts }.into_player(reel);
        }
        player
    }

    /// The actor in a slot, with its player as it is now.
    pub(super) fn actor(&self, reel: &Reel, steps: &Steps, lane: usize) -> Option<Actor> {
        let mut actor = *self.block.actors.get(lane)?;
        if self.block.gliding >> lane & 1 != 0 {
            actor.set_player(self.player(reel, steps, lane));
        }
        Some(actor)
    }
}

impl BlockMut<'_> {
    pub(super) fn as_ref(&self) -> BlockRef<'_> {
        BlockRef { hot: self.hot, codes: self.codes, rows: self.rows, block: self.block }
    }

    /// Puts a player into a slot; gives whether another picture is up now.
    pub(super) fn put_player(
        &mut self,
        reel: &Reel,
        steps: &Steps,
        lane: usize,
        player: &Player,
    ) -> bool {
        let old = self.codes[lane];
        match player.departed(reel) {
            Some(departed) => {
                self.put(reel, steps, lane, &departed, true, false);
                if self.block.gliding >> lane & 1 != 0 {
                    self.block.starting |= 1 << lane;
                    self.rows[lane].flags = player.parts().flags & !FLIPS;
                }
            }
            None => self.put(reel, steps, lane, player, player.glides(), !player.stands()),
        }
        shown_at(steps, old) != shown_at(steps, self.codes[lane])
    }

    /// Puts an actor into a slot; gives whether another picture is up now.
    pub(super) fn put_actor(
        &mut self,
        reel: &Reel,
        steps: &Steps,
        lane: usize,
        actor: Actor,
    ) -> bool {
        let glides = actor.player().glides() && actor.is_at_rest();
        let old = self.codes[lane];
        self.put(reel, steps, lane, actor.player(), glides, true);
        if let Some(slot) = self.block.actors.get_mut(lane) {
            *slot = actor;
        }
        shown_at(steps, old) != shown_at(steps, self.codes[lane])
    }

    fn put(
        &mut self,
        reel: &Reel,
        steps: &Steps,
        lane: usize,
        player: &Player,
        glides: bool,
        waits: bool,
    ) {
        let parts = player.parts();
        let step = reel.clip_data(parts.clip).map_or(Steps::NOTHING, |clip| {
            steps.find(clip, parts.clip, player.place_shown(reel), player.way())
        });
        let known = step != Steps::NOTHING;
        // One that has vanished is freed in the next advance.
        let waits = waits && known || player.has_vanished(reel);
        let BlockMut { hot, codes, rows, block } = self;
        hot.clocks[lane] = (parts.remain as i64).wrapping_neg();
        hot.set_speed(lane, if glides && known { parts.pace.size() } else { 0 });
        codes[lane] = step | u32::from((parts.flags & FLIPS) >> FLIPS_SHIFT) << MIRRORED;
        rows[lane] = Row {
            cycle: parts.cycle,
            generation: rows[lane].generation,
            pace: parts.pace,
            play: parts.play,
            flags: parts.flags & !FLIPS,
            asked: parts.asked,
        };
        if parts.frozen > 0 {
            block.frozen.resize(BLOCK, 0);
        }
        if let Some(frozen) = block.frozen.get_mut(lane) {
            *frozen = parts.frozen;
        }
        let bit = 1 << lane;
        let glides = glides && known;
        block.starting &= !bit;
        set(&mut block.gliding, bit, glides);
        set(&mut block.shown, bit, steps.shown(step).frame().is_some());
        let is_of_actors = block.is_of_actors();
        set(&mut block.waiting, bit, !glides && (waits || is_of_actors));
    }

    /// The first moment of one that starts has come.
    pub(super) fn depart(&mut self, lane: usize) {
        let row = &mut self.rows[lane];
        row.flags = Parts::departed_flags(row.flags, row.pace);
        self.block.starting &= !(1 << lane);
    }

    /// One that is played once has come to its end, and stays.
    pub(super) fn end(&mut self, lane: usize) {
        self.hot.clocks[lane] = 0;
        self.hot.set_speed(lane, 0);
        let row = &mut self.rows[lane];
        row.flags = Parts::ended_flags(row.flags);
        self.block.gliding &= !(1 << lane);
    }

    /// Its picture is another one because of what was told.
    pub(super) fn tell_changed(&mut self, lane: usize) {
        self.block.changed |= 1 << lane;
        self.block.told |= 1 << lane;
    }

    /// Empties a slot.
    pub(super) fn free(&mut self, lane: usize) {
        let bit = 1_u64 << lane;
        let BlockMut { hot, codes, rows, block } = self;
        hot.clocks[lane] = i64::MIN;
        hot.set_speed(lane, 0);
        codes[lane] = Steps::NOTHING;
        let generation = &mut rows[lane].generation;
        *generation = generation.wrapping_add(1);
        for word in [
            &mut block.alive,
            &mut block.gliding,
            &mut block.starting,
            &mut block.shown,
            &mut block.waiting,
            &mut block.changed,
            &mut block.told,
        ] {
            *word &= !bit;
        }
        if let Some(outfit) = block.outfits.get_mut(lane) {
            *outfit = 0;
        }
        if let Some(frozen) = block.frozen.get_mut(lane) {
            *frozen = 0;
        }
    }
}

fn set(word: &mut u64, bit: u64, on: bool) {
    *word = if on { *word | bit } else { *word & !bit };
}
