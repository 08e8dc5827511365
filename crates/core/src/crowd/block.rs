//! Members in columns, 64 in a block.

use alloc::vec::Vec;

use super::handle::Handle;
use crate::actor::Actor;
use crate::ids::{ClipId, RoleId};
use crate::look::Worn;
use crate::play::{FLIPS, FLIPS_SHIFT, Parts, Player, Steps};
use crate::reel::Reel;
use crate::time::Pace;
use crate::view::Picture;

/// Members of a block: one for each bit of a word.
pub(super) const BLOCK: usize = u64::BITS as usize;

/// What every advance touches: 12 bytes a member.
#[derive(Clone)]
#[repr(align(64))]
pub(super) struct Hot {
    /// Units of clip time to the next boundary, below zero, counting up.
    pub(super) clocks: [i64; BLOCK],
    /// By how much a clock counts up each tick: 0 for all that do not simply go on. Two in a word, that
    /// of a lane of the first half below that of the same lane of the other, as vectors multiply them.
    speeds: [u64; HALF],
}

const HALF: usize = BLOCK / 2;

/// What is up, as a step of the reel and how it is mirrored: 4 bytes a member, touched where a
/// boundary is crossed, and read to be drawn.
pub(super) type Codes = [u32; BLOCK];

/// What is touched where something happens: 20 bytes a member.
#[derive(Clone)]
pub(super) struct Cold {
    pub(super) rows: [Row; BLOCK],
    frozen: [u32; BLOCK],
}

/// What is told of a member together, so that it is copied at once.
#[derive(Clone, Copy)]
#[repr(align(16))]
pub(super) struct Row {
    pub(super) cycle: i32,
    pub(super) generation: u32,
    pub(super) pace: Pace,
    pub(super) play: u8,
    flags: u8,
    asked: ClipId,
}

/// What is true of each member of a block, by its bit; and what few have.
#[derive(Default)]
pub(super) struct Block {
    /// There is a member in the slot.
    pub(super) alive: u64,
    /// It goes on as it did: its clock runs.
    pub(super) gliding: u64,
    /// It is asked to play, and will have departed at the first moment of the next advance: its clock is
    /// set as if it had.
    pub(super) starting: u64,
    /// It shows something.
    pub(super) shown: u64,
    /// The next time that passes must be looked at more closely.
    pub(super) waiting: u64,
    /// Its picture was changed by the last advance, or by what was told since the one before.
    pub(super) changed: u64,
    /// Its picture was changed by what was told since the last advance.
    pub(super) told: u64,
    pub(super) group: u8,
    /// One for each slot where the block is one of actors, else none.
    pub(super) actors: Vec<Actor>,
    /// One for each slot where any member wears a look: a number of the wardrobe.
    pub(super) outfits: Vec<u16>,
}

const MIRRORED: u32 = Picture::FLIPS_SHIFT;
/// The bits of a code that tell the step.
pub(super) const STEP: u32 = Picture::MOST;

/// One bit for each lane: masks gathered by a table of weights are what compilers make vectors of.
static WEIGHTS: Weights = {
    let mut weights = [0; BLOCK];
    let mut lane = 0;
    while lane < BLOCK {
        weights[lane] = 1 << lane;
        lane += 1;
    }
    Weights(weights)
};

#[repr(align(64))]
struct Weights([u64; BLOCK]);

impl Hot {
    pub(super) fn empty() -> Hot {
        Hot { clocks: [i64::MIN; BLOCK], speeds: [0; HALF] }
    }

    pub(super) fn speed(&self, lane: usize) -> u32 {
        (self.speeds[lane % HALF] >> (lane & HALF)) as u32
    }

    fn set_speed(&mut self, lane: usize, speed: u32) {
        let (word, shift) = (&mut self.speeds[lane % HALF], lane & HALF);
        *word = *word & !(u64::from(u32::MAX) << shift) | u64::from(speed) << shift;
    }

    /// Counts all clocks up, and gives those that have reached a boundary, by their bits.
    #[inline(never)] // so that the compiler sees that both factors have 32 bits
    pub(super) fn run(&mut self, ticks: u32) -> u64 {
        let ticks = u64::from(ticks);
        let (clocks, others) = self.clocks.split_at_mut(HALF);
        let (weights, other_weights) = WEIGHTS.0.split_at(HALF);
        let mut reached = 0;
        for (at, speeds) in self.speeds.iter().enumerate() {
            let (clock, other) = (&mut clocks[at], &mut others[at]);
            *clock = clock.wrapping_add((ticks * (speeds & u64::from(u32::MAX))) as i64);
            *other = other.wrapping_add((ticks * (speeds >> 32)) as i64);
            reached |= !(*clock >> 63) as u64 & weights[at];
            reached |= !(*other >> 63) as u64 & other_weights[at];
        }
        reached
    }
}

impl Row {
    pub(super) const EMPTY: Row = Row {
        cycle: 0,
        generation: 0,
        pace: Pace::NORMAL,
        play: 0,
        flags: 0,
        asked: ClipId(u16::MAX),
    };
}

impl Cold {
    pub(super) fn empty() -> Cold {
        Cold { rows: [Row::EMPTY; BLOCK], frozen: [0; BLOCK] }
    }
}

impl Cold {
    /// The handle of the member in a slot that is taken.
    #[inline]
    pub(super) fn handle(&self, at: usize, lane: usize) -> Handle {
        Handle { slot: (at * BLOCK + lane) as u32, generation: self.rows[lane].generation }
    }
}

impl Block {
    /// A block of nobody yet.
    pub(super) fn new(group: u8, is_of_actors: bool, reel: &Reel) -> Block {
        let nobody = Actor::new(reel, RoleId(u16::MAX));
        let actors = if is_of_actors { alloc::vec![nobody; BLOCK] } else { Vec::new() };
        Block { group, actors, ..Block::default() }
    }

    pub(super) fn is_of_actors(&self) -> bool {
        !self.actors.is_empty()
    }

    pub(super) fn has(&self, lane: usize) -> bool {
        self.alive >> lane & 1 != 0
    }
}

impl Clone for Block {
    fn clone(&self) -> Block {
        Block { actors: self.actors.clone(), outfits: self.outfits.clone(), ..*self }
    }

    /// Without allocation where there is room.
    fn clone_from(&mut self, other: &Block) {
        let Block {
            alive,
            gliding,
            starting,
            shown,
            waiting,
            changed,
            told,
            group,
            actors,
            outfits,
        } = other;
        (self.alive, self.gliding, self.starting) = (*alive, *gliding, *starting);
        (self.shown, self.waiting) = (*shown, *waiting);
        (self.changed, self.told, self.group) = (*changed, *told, *group);
        self.actors.clone_from(actors);
        self.outfits.clone_from(outfits);
    }
}

/// One block of all columns.
pub(super) struct BlockMut<'c> {
    pub(super) hot: &'c mut Hot,
    pub(super) codes: &'c mut Codes,
    pub(super) cold: &'c mut Cold,
    pub(super) block: &'c mut Block,
}

/// One block of all columns, to be read.
#[derive(Clone, Copy)]
pub(super) struct BlockRef<'c> {
    pub(super) hot: &'c Hot,
    pub(super) codes: &'c Codes,
    pub(super) cold: &'c Cold,
    pub(super) block: &'c Block,
}

impl BlockRef<'_> {
    /// The player in a slot, its clock being as it is.
    pub(super) fn player(&self, reel: &Reel, steps: &Steps, lane: usize) -> Player {
        let BlockRef { hot, codes, cold, .. } = self;
        let (code, row) = (codes[lane], cold.rows[lane]);
        let origin = steps.origin(code & STEP);
        let known = code & STEP != Steps::NOTHING;
        let parts = Parts {
            remain: hot.clocks[lane].wrapping_neg() as u64,
            pace: row.pace,
            frozen: cold.frozen[lane],
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
        BlockRef { hot: self.hot, codes: self.codes, cold: self.cold, block: self.block }
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
                    self.cold.rows[lane].flags = player.parts().flags & !FLIPS;
                }
            }
            None => self.put(reel, steps, lane, player, player.glides(), !player.stands()),
        }
        picture(steps, old) != picture(steps, self.codes[lane])
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
        picture(steps, old) != picture(steps, self.codes[lane])
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
        let BlockMut { hot, codes, cold, block } = self;
        hot.clocks[lane] = (parts.remain as i64).wrapping_neg();
        hot.set_speed(lane, if glides && known { parts.pace.size() } else { 0 });
        codes[lane] = step | u32::from((parts.flags & FLIPS) >> FLIPS_SHIFT) << MIRRORED;
        cold.rows[lane] = Row {
            cycle: parts.cycle,
            generation: cold.rows[lane].generation,
            pace: parts.pace,
            play: parts.play,
            flags: parts.flags & !FLIPS,
            asked: parts.asked,
        };
        cold.frozen[lane] = parts.frozen;
        let bit = 1 << lane;
        let glides = glides && known;
        block.starting &= !bit;
        set(&mut block.gliding, bit, glides);
        set(&mut block.shown, bit, steps.picture(step).frame().is_some());
        let is_of_actors = block.is_of_actors();
        set(&mut block.waiting, bit, !glides && (waits || is_of_actors));
    }

    /// The first moment of one that starts has come.
    pub(super) fn depart(&mut self, lane: usize) {
        let row = &mut self.cold.rows[lane];
        row.flags = Parts::departed_flags(row.pace);
        self.block.starting &= !(1 << lane);
    }

    /// One that is played once has come to its end, and stays.
    pub(super) fn end(&mut self, lane: usize) {
        self.hot.clocks[lane] = 0;
        self.hot.set_speed(lane, 0);
        let row = &mut self.cold.rows[lane];
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
        let BlockMut { hot, codes, cold, block } = self;
        hot.clocks[lane] = i64::MIN;
        hot.set_speed(lane, 0);
        codes[lane] = Steps::NOTHING;
        let generation = &mut cold.rows[lane].generation;
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
    }
}

fn set(word: &mut u64, bit: u64, on: bool) {
    *word = if on { *word | bit } else { *word & !bit };
}

/// What a code shows, undressed.
#[inline]
pub(super) fn picture(steps: &Steps, code: u32) -> Picture {
    steps.picture(code & STEP).mirrored_by(code >> MIRRORED)
}

/// The looks that members wear, each combination once; the first is none.
#[derive(Clone, Debug)]
pub(super) struct Wardrobe(Vec<Worn>);

impl Wardrobe {
    pub(super) fn new() -> Wardrobe {
        Wardrobe(Vec::new())
    }

    /// The number of an outfit; `None` where there are too many.
    pub(super) fn number(&mut self, worn: Worn) -> Option<u16> {
        if worn == Worn::NOTHING {
            return Some(0);
        }
        let known = self.0.iter().position(|other| *other == worn);
        let number = u16::try_from(known.unwrap_or(self.0.len()) + 1).ok()?;
        if known.is_none() {
            self.0.push(worn);
        }
        Some(number)
    }

    pub(super) fn outfit(&self, number: u16) -> Worn {
        let at = usize::from(number).checked_sub(1);
        at.and_then(|at| self.0.get(at)).copied().unwrap_or(Worn::NOTHING)
    }
}
