use super::Player;
use super::advance::Drive;
use crate::ids::{ClipId, FrameId, SpanId};
use crate::reel::Reel;
use crate::sheet::Flips;
use crate::time::{Speed, Ticks};
use crate::view::View;

/// What a clip shows at a given time, looked up without keeping a player: for tiles, replays and
/// scrubbing.
#[derive(Clone, Copy, Debug)]
pub struct Sample<'r> {
    reel: &'r Reel,
    player: Player,
}

impl Reel {
    /// What a clip shows once it has played for `time` at this speed: bit for bit what a player
    /// would, in constant time.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Mode, Reel, Speed, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// let glow = NewClip::of(sheet).frames(0..4).fps(10).mode(Mode::PingPong);
    /// let glow = builder.clip("glow", glow);
    /// # let reel = builder.build()?;
    /// let moment = reel.sample(glow, Ticks::from_millis(450), Speed::NORMAL);
    /// assert_eq!(moment.hold_index(), Some(2)); // 0 1 2 3, and back: 2
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn sample(&self, clip: ClipId, time: Ticks, speed: Speed) -> Sample<'_> {
        let mut player = Player::new(self, clip);
        player.set_speed(speed);
        player.advance_by(self, Drive::Time(time));
        Sample { reel: self, player }
    }
}

impl<'r> Sample<'r> {
    /// The clip that plays at that time: the one given, or one that followed it.
    #[must_use]
    pub fn clip(&self) -> ClipId {
        self.player.clip()
    }

    /// The hold that is up, from 0; `None` when nothing is.
    #[must_use]
    pub fn hold_index(&self) -> Option<u32> {
        self.player.hold_index(self.reel)
    }

    /// The frame that is up; `None` when nothing is.
    #[must_use]
    pub fn frame(&self) -> Option<FrameId> {
        self.player.frame(self.reel)
    }

    /// How many cycles are complete.
    #[must_use]
    pub fn cycle(&self) -> i32 {
        self.player.cycle()
    }

    /// Whether it has come to its end.
    #[must_use]
    pub fn has_ended(&self) -> bool {
        self.player.has_ended()
    }

    /// Whether the hold that is up belongs to this span.
    #[must_use]
    pub fn in_span(&self, span: SpanId) -> bool {
        self.player.in_span(self.reel, span)
    }

    /// What to draw, mirrored so; `None` when there is nothing.
    #[must_use]
    pub fn view(&self, flips: Flips) -> Option<View<'r>> {
        self.player.view(self.reel).map(|view| {
            let clip = view.flips();
            view.flipped(Flips { x: clip.x ^ flips.x, y: clip.y ^ flips.y })
        })
    }
}
