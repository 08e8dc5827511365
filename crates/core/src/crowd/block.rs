//! Members in columns, 64 in a block.

use alloc::vec::Vec;

pub(super) use super::member_id::BLOCK;
use super::member_id::MemberId;
use crate::actor::Actor;
use crate::ids::NONE;
use crate::kernel::StepTable;
use crate::play::Plan;
use crate::reel::Reel;
use crate::sheet::PackedFrame;
use crate::time::Pace;

/// What every advance touches: 12 bytes a member.
#[derive(Clone)]
#[repr(align(64))]
pub(super) struct Clocks {
    /// Units of clip time to the next boundary, below zero, counting up.
    pub(super) clocks: [i64; BLOCK],
    /// By how much a clock counts up each tick: 0 for all that do not simply go on. Two in a word, that
    /// of a lane of the first half below that of the same lane of the other, as vectors multiply them.
    speeds: [u64; HALF],
}

const HALF: usize = BLOCK / 2;
const _: () = assert!(size_of::<Clocks>() == 12 * BLOCK);
// A member takes 36 bytes with its share of the block.
const _: () = assert!(
    size_of::<Clocks>()
        + size_of::<Codes>()
        + size_of::<[MemberState; BLOCK]>()
        + size_of::<Block>()
        <= 36 * BLOCK
);

/// What is up, as a step of the reel and how it is mirrored: 4 bytes a member, touched where a
/// boundary is crossed, and read to be drawn.
pub(super) type Codes = [u32; BLOCK];

/// What is touched where something happens, and copied when that is reported: 16 bytes a member.
#[derive(Clone, Copy)]
#[repr(align(16))]
pub(super) struct MemberState {
    pub(super) cycle: i32,
    pub(super) generation: u32,
    pub(super) pace: Pace,
    pub(super) plays: u8,
    pub(super) flags: u8,
    pub(super) requested: u16,
}

/// What is true of each member of a block, by its bit; and what few have.
#[derive(Default)]
pub(super) struct Block {
    /// There is a member in the slot.
    pub(super) alive: u64,
    /// Its clock runs and it crosses plain boundaries on the fast path.
    pub(super) fast: u64,
    /// It is asked to play, or was put somewhere, and will begin to move at the first moment of the next
    /// advance: its clock is set as if it had begun.
    pub(super) starting: u64,
    /// It shows something.
    pub(super) shown: u64,
    /// The next time that passes takes the slow path.
    pub(super) waiting: u64,
    /// The game has said how often its clip plays, or what follows it.
    pub(super) planned: u64,
    /// It is an actor that is freed once it has vanished.
    pub(super) freed: u64,
    /// Its picture was changed by the last advance, or by commands since the one before.
    pub(super) changed: u64,
    /// Its picture was changed by commands since the last advance.
    pub(super) commanded: u64,
    pub(super) group: u8,
    /// One for each slot where the block is one of actors, else none.
    pub(super) actors: Vec<Actor>,
    /// One for each slot where any member wears a look: a number of the outfit table.
    pub(super) outfits: Vec<u16>,
    /// One for each slot where any member has been in a hit-stop: ticks that are left of it.
    pub(super) hit_stops: Vec<u32>,
    /// One for each slot where any member has been planned for.
    pub(super) plans: Vec<Plan>,
    /// It stands in the list of blocks with free slots.
    pub(super) is_listed: bool,
}

pub(super) const MIRRORED: u32 = PackedFrame::FLIPS_SHIFT;
/// The bits of a code that tell the step.
pub(super) const STEP: u32 = PackedFrame::MAX;

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

impl Clocks {
    pub(super) fn empty() -> Clocks {
        Clocks { clocks: [i64::MIN; BLOCK], speeds: [0; HALF] }
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

impl MemberState {
    pub(super) const EMPTY: MemberState = MemberState {
        cycle: 0,
        generation: 0,
        pace: Pace::NORMAL,
        plays: 0,
        flags: 0,
        requested: NONE,
    };

    /// The id of the member in a slot that is taken.
    #[inline]
    pub(super) fn id(&self, at: usize, lane: usize) -> MemberId {
        MemberId { slot: (at * BLOCK + lane) as u32, generation: self.generation }
    }
}

impl Block {
    /// An empty block.
    pub(super) fn new(group: u8, is_of_actors: bool, reel: &Reel) -> Block {
        let vacant = Actor::vacant(reel);
        let actors = if is_of_actors { alloc::vec![vacant; BLOCK] } else { Vec::new() };
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
            hit_stops: self.hit_stops.clone(),
            plans: self.plans.clone(),
            ..*self
        }
    }

    /// Without allocation where there is room.
    fn clone_from(&mut self, other: &Block) {
        let mut own = core::mem::take(self);
        own.actors.clone_from(&other.actors);
        own.outfits.clone_from(&other.outfits);
        own.hit_stops.clone_from(&other.hit_stops);
        own.plans.clone_from(&other.plans);
        let Block { actors, outfits, hit_stops, plans, .. } = own;
        *self = Block { actors, outfits, hit_stops, plans, ..*other };
    }
}

/// What a code shows, without looks.
#[inline]
pub(super) fn frame_at(steps: &StepTable, code: u32) -> PackedFrame {
    steps.frame(code & STEP).mirrored_by(code >> MIRRORED)
}
