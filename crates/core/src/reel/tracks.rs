use alloc::vec::Vec;

use crate::clip::{ClipData, Mode};
use crate::ids::ClipId;

/// The lengths of all holds of all clips, side by side: all that a player needs to cross from one
/// hold to the next, in as few steps through memory as can be.
#[derive(Default)]
pub(crate) struct Tracks {
    tracks: Vec<Track>,
    /// Units of clip time.
    lengths: Vec<u64>,
}

/// Where a clip's holds stand.
#[derive(Clone, Copy)]
pub(crate) struct Track {
    first: u32,
    pub(crate) last: u16,
    /// It begins again where it ends.
    pub(crate) is_ring: bool,
    /// Cycles; 0 for endless.
    pub(crate) repeat: u32,
    /// No boundary between its holds can change what an actor plays.
    pub(crate) is_quiet: bool,
}

impl Tracks {
    pub(super) fn new(clips: &[Option<ClipData>]) -> Tracks {
        let mut tracks = Tracks::default();
        for clip in clips {
            let first = tracks.lengths.len() as u32;
            // A dead clip has no lengths, and is never crossed quickly.
            let track = clip.as_ref().map_or(
                Track { first: u32::MAX, last: 0, is_ring: false, repeat: 0, is_quiet: false },
                |clip| {
                    tracks.lengths.extend(clip.holds.iter().map(|hold| hold.ticks << 16));
                    let is_ring = clip.repeat == 0 && clip.mode == Mode::Loop;
                    Track {
                        first,
                        last: clip.holds.len() as u16 - 1,
                        is_ring,
                        repeat: clip.repeat,
                        is_quiet: clip.is_quiet(),
                    }
                },
            );
            tracks.tracks.push(track);
        }
        tracks
    }

    #[inline]
    pub(crate) fn of(&self, clip: ClipId) -> Option<Track> {
        self.tracks.get(clip.index()).copied()
    }

    /// Units of a hold of a track.
    #[inline]
    pub(crate) fn length(&self, track: Track, hold: u16) -> Option<u64> {
        self.lengths.get(track.first as usize + usize::from(hold)).copied()
    }
}
