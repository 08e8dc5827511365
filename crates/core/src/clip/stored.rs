use alloc::boxed::Box;

use super::{ClipEnd, Datum, Mode};
use crate::ids::{FrameId, MarkId, SpanId};

/// A compiled clip.
#[derive(Clone, Debug)]
pub(crate) struct ClipData {
    pub(crate) holds: Box<[HoldData]>,
    /// Where each hold starts, in ticks from the first; one more than there are holds.
    pub(crate) starts: Box<[u64]>,
    pub(crate) mode: Mode,
    /// One hold without a duration: it stands.
    pub(crate) is_still: bool,
    /// 0 for an endless clip.
    pub(crate) repeat: u32,
    pub(crate) end: ClipEnd,
    pub(crate) rest: u16,
    /// By hold, then by name.
    pub(crate) marks: Box<[(u16, MarkId)]>,
    /// Both ends belong to the span.
    pub(crate) spans: Box<[(SpanId, u16, u16)]>,
    /// Units of clip time for one 65,536th of a pixel; 0 when it covers no distance.
    pub(crate) units_for_ground: u64,
    /// It is seen in a mirror that turns left into right.
    pub(crate) mirrored: bool,
    /// What its marks set: slots of facts, and their bits.
    pub(crate) sets: Box<[(MarkId, u8, u32)]>,
    /// What its marks carry for the game, in order.
    pub(crate) data: Box<[Datum]>,
}

#[derive(Clone, Copy, Debug)]
pub(crate) struct HoldData {
    pub(crate) ticks: u64,
    pub(crate) frame: FrameId,
    /// The spans it is inside, by their bits among those that the role's cues name.
    pub(crate) watched: u32,
}

impl ClipData {
    /// Whether there is a way back: a ping-pong of one hold never turns.
    pub(crate) fn turns(&self) -> bool {
        self.mode == Mode::PingPong && self.holds.len() > 1
    }

    /// The time of one cycle: there and back, each end once, where it turns.
    pub(crate) fn cycle_ticks(&self) -> u64 {
        let total = self.starts.last().copied().unwrap_or(0);
        match (self.turns(), &*self.holds) {
            (true, [first, .., last]) => 2 * total - first.ticks - last.ticks,
            _ => total,
        }
    }

    /// The marks of one hold, by name.
    pub(crate) fn marks_of(&self, hold: u16) -> &[(u16, MarkId)] {
        let marks = &self.marks[self.marks.partition_point(|&(at, _)| at < hold)..];
        let count = marks.iter().take_while(|&&(at, _)| at == hold).count();
        &marks[..count]
    }

    /// Whether a mark on this hold sets a fact.
    pub(crate) fn sets_facts_at(&self, hold: u16) -> bool {
        let sets = |mark: &MarkId| self.sets.iter().any(|(setting, ..)| setting == mark);
        !self.sets.is_empty() && self.marks_of(hold).iter().any(|(_, mark)| sets(mark))
    }

    pub(crate) fn in_span(&self, hold: u16, span: SpanId) -> bool {
        self.spans.iter().any(|&(id, from, to)| id == span && (from..=to).contains(&hold))
    }
}
