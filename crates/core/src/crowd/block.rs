//! Members in columns, 64 in a block.

use alloc::vec::Vec;

use super::handle::Handle;
use crate::actor::Actor;
use crate::ids::{ClipId, RoleId};
use crate::play::Steps;
use crate::reel::Reel;
use crate::time::Pace;
use crate::view::Shown;

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
const _: () = assert!(size_of::<Hot>() == 12 * BLOCK);

/// What is up, as a step of the reel and how it is mirrored: 4 bytes a member, touched where a
/// boundary is crossed, and read to be drawn.
pub(super) type Codes = [u32; BLOCK];

/// What is touched where something happens, and copied at once when that is told: 16 bytes a member.
#[derive(Clone, Copy)]
#[repr(align(16))]
pub(super) struct Row {
    pub(super) cycle: i32,
    pub(super) generation: u32,
    pub(super) pace: Pace,
    pub(super) play: u8,
    pub(super) flags: u8,
    pub(super) asked: ClipId,
}

/// What is true of each member of a block, by its bit; and what few have.
#[derive(Default)]
pub(super) struct Block {
    /// There is a member in the slot.
    pub(super) alive: u64,
    /// It goes on as it did: its clock runs.
    pub(super) gliding: u64,
    /// It is asked to play, or was put somewhere, and will have departed at the first moment of the next
    /// advance: its clock is set as if it had.
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
    /// One for each slot where any member has been in a hit-stop: ticks that are left of it.
    pub(super) frozen: Vec<u32>,
}

pub(super) const MIRRORED: u32 = Shown::FLIPS_SHIFT;
/// The bits of a code that tell the step.
pub(super) const STEP: u32 = Shown::MOST;

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

    pub(super) fn set_speed(&mut self, lane: usize, speed: u32) {
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

    /// The handle of the member in a slot that is taken.
    #[inline]
    pub(super) fn handle(&self, at: usize, lane: usize) -> Handle {
        Handle { slot: (at * BLOCK + lane) as u32, generation: self.generation }
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
        Block {
            actors: self.actors.clone(),
            outfits: self.outfits.clone(),
            frozen: self.frozen.clone(),
            ..*self
        }
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
            frozen,
        } = other;
        (self.alive, self.gliding, self.starting) = (*alive, *gliding, *starting);
        (self.shown, self.waiting) = (*shown, *waiting);
        (self.changed, self.told, self.group) = (*changed, *told, *group);
        self.actors.clone_from(actors);
        self.outfits.clone_from(outfits);
        self.frozen.clone_from(frozen);
    }
}

/// What a code shows, undressed.
#[inline]
pub(super) fn shown_at(steps: &Steps, code: u32) -> Shown {
    steps.shown(code & STEP).mirrored_by(code >> MIRRORED)
}
