use alloc::vec;
use alloc::vec::Vec;

use super::Line;
use crate::clip::{ClipData, ClipEnd};

/// Clips that go on to one another and come back to where they began.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Ring {
    /// Units of clip time, or 65,536ths of a pixel where distance moves it.
    pub(crate) length: u128,
    pub(crate) clips: u32,
}

/// A ring's length depends on the way it is read, since a finite ping-pong closes on its first
/// hold, and on what moves it.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Rings {
    /// Read forward and backward.
    pub(crate) by_time: [Option<Ring>; 2],
    /// Read forward and backward.
    pub(crate) by_distance: [Option<Ring>; 2],
}

/// The length of a clip for what moves it: units of clip time, or 65,536ths of a pixel. `None` when
/// it has no end, or does not move.
pub(crate) fn length_by(line: Line<'_>, by_distance: bool) -> Option<u128> {
    let units = line.length()?;
    match (by_distance, line.clip.units_for_ground) {
        (false, _) => Some(units),
        (true, 0) => None,
        // Rounded up for each clip, as each begins on a whole step of distance.
        (true, rate) => Some(units.div_ceil(u128::from(rate))),
    }
}

/// Finds the clips that go on to one another in a ring, and gives the ring's length for each, so
/// that whole rounds are skipped in constant time.
pub(super) fn find_rings(clips: &[Option<ClipData>]) -> Vec<Rings> {
    let mut rings = vec![Rings::default(); clips.len()];
    // Every clip has at most one successor. A walk that meets its own trail has found a ring.
    let mut trail_of = vec![0_usize; clips.len()];
    for first in 0..clips.len() {
        let (trail, mut at) = (first + 1, first);
        while trail_of[at] == 0 {
            trail_of[at] = trail;
            match next_of(clips, at) {
                Some(next) => at = next,
                None => break,
            }
        }
        if trail_of[at] == trail && next_of(clips, at).is_some() {
            store_ring(clips, at, &mut rings);
        }
    }
    rings
}

fn next_of(clips: &[Option<ClipData>], clip: usize) -> Option<usize> {
    match clips.get(clip)?.as_ref()? {
        // What the game asked for with `then` is no part of it: that holds for a single play.
        ClipData { end: ClipEnd::Play(next), repeat: 1.., .. } => Some(next.index()),
        _ => None,
    }
}

fn store_ring(clips: &[Option<ClipData>], first: usize, rings: &mut [Rings]) {
    let following = |at: &usize| next_of(clips, *at).filter(|next| *next != first);
    let members: Vec<usize> = core::iter::successors(Some(first), following).collect();
    let measure = |backward: bool, by_distance: bool| {
        let lengths = members.iter().filter_map(|at| clips[*at].as_ref());
        let length = lengths
            .map(|clip| length_by(Line::of(clip, backward), by_distance))
            .sum::<Option<u128>>()?;
        Some(Ring { length, clips: members.len() as u32 })
    };
    let by_time = [measure(false, false), measure(true, false)];
    let by_distance = [measure(false, true), measure(true, true)];
    for at in members {
        rings[at] = Rings { by_time, by_distance };
    }
}
