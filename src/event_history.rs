use alloc::vec::Vec;

use lucky_reel_core::Event;

/// Which events have been heard, over as many frames as can be rolled back: so that a sound is played once
/// although its frame is simulated again.
///
/// Call [`begin_frame`](EventHistory::begin_frame) before each frame that is simulated, the first time and
/// again; a frame that is not later than the one before it is a rollback. An event counts as heard where the
/// simulation that is rolled back had the same one, of the same sprite, in that frame or a later one: a
/// footstep that comes two frames later now is not heard twice. `K` names a sprite: a
/// [`MemberId`](lucky_reel_core::MemberId), an entity.
///
/// ```
/// use lucky_reel::{Grid, MarkId, NewClip, NewSheet, Player, Reel, Ticks, event::EventHistory};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
/// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
/// # let reel = builder.build()?;
/// let step: MarkId = reel.id("step")?;
/// let mut heard = EventHistory::new(8); // frames that can be rolled back
/// let (mut bram, mut snapshots, mut sounds) = (Player::new(&reel, walk), Vec::new(), 0);
/// for frame in (0..30).chain(24..60) {
///     if let Some(snapshot) = snapshots.get(frame) {
///         bram = *snapshot; // frames 24 to 29 are simulated twice
///     }
///     snapshots.truncate(frame);
///     snapshots.push(bram);
///     heard.begin_frame(frame as u64);
///     for event in bram.advance(&reel, Ticks::from_rate(60)) {
///         if event.is_mark(step) && heard.is_new("bram", &event) {
///             sounds += 1;
///         }
///     }
/// }
/// assert_eq!(sounds, 4); // two steps in each half second
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct EventHistory<K> {
    frames: u64,
    now: u64,
    /// By frame; those of a simulation that was rolled back are not confirmed until they happen again.
    heard: Vec<Heard<K>>,
}

#[derive(Clone, Copy, Debug)]
struct Heard<K> {
    frame: u64,
    who: K,
    serial: u64,
    is_confirmed: bool,
}

impl<K: Copy + PartialEq> EventHistory<K> {
    /// A history of this many frames: as many as can be rolled back.
    #[must_use]
    pub const fn new(frames: u64) -> EventHistory<K> {
        EventHistory { frames, now: 0, heard: Vec::new() }
    }

    /// Begins a frame: one more, or after a rollback an earlier one again.
    pub fn begin_frame(&mut self, frame: u64) {
        if frame <= self.now {
            for heard in self.heard.iter_mut().filter(|heard| heard.frame >= frame) {
                heard.is_confirmed = false;
            }
        }
        self.now = frame;
        let oldest = frame.saturating_sub(self.frames);
        self.heard.retain(|heard| heard.frame >= oldest);
    }

    /// Whether an event of this frame has not been heard before; it has from now on.
    pub fn is_new(&mut self, who: K, event: &Event) -> bool {
        let (frame, serial) = (self.now, event.serial);
        let mut before = self.heard.iter_mut();
        let known =
            before.find(|heard| !heard.is_confirmed && heard.who == who && heard.serial == serial);
        if let Some(known) = known {
            (known.frame, known.is_confirmed) = (frame, true);
            return false;
        }
        self.heard.push(Heard { frame, who, serial, is_confirmed: true });
        true
    }
}
