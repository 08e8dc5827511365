use crate::angle::sin_cos;

/// Where and how to draw: a position, a scale, a rotation, snapping, and which way is up; for instances a
/// tint, a flash, a depth and two bytes of the game's own besides.
///
/// The frame's pivot lands on the position, whatever the flip, scale, rotation or trim; flips mirror about
/// the pivot. Positions are y-down unless [`y_up`](Placement::y_up) is set.
///
/// ```
/// use lucky_reel_core::Placement;
///
/// let place = Placement::at([120.0, 64.5]).scaled(3.0).snapped();
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Placement {
    /// Where the pivot lands, before any snapping.
    pub position: [f32; 2],
    pub(super) scale: [f32; 2],
    /// Sine and cosine of the rotation.
    pub(super) turn: [f32; 2],
    pub(super) snapped: bool,
    /// Whether the game's y runs up.
    pub y_up: bool,
    pub(super) tint: [u8; 4],
    /// Red, green, blue, and how far toward it.
    pub(super) flash: [u8; 4],
    /// How far away it is; what has more depth is farther.
    pub depth: f32,
    pub(super) user: u16,
}

/// The sine and cosine of no rotation.
const UPRIGHT: [f32; 2] = [0.0, 1.0];
/// The tint that changes nothing.
pub(super) const WHITE: [u8; 4] = [255; 4];
/// The flash that changes nothing.
pub(super) const NO_FLASH: [u8; 4] = [0; 4];

impl Placement {
    /// Whether it is a position and nothing else.
    #[inline(always)]
    pub(super) fn is_only_position(&self) -> bool {
        let is_plain = self.tint == WHITE && self.flash == NO_FLASH;
        self.only_moves() && is_plain && self.depth == 0.0 && self.user == 0
    }

    /// Whether it leaves the picture as large as it is, and upright.
    #[inline(always)]
    pub(super) fn only_moves(&self) -> bool {
        let is_plain = self.scale == [1.0, 1.0] && self.turn == UPRIGHT;
        is_plain && !self.snapped && !self.y_up
    }

    /// Whether it rotates.
    pub(super) fn rotates(&self) -> bool {
        self.turn != UPRIGHT
    }

    /// The pivot lands here, in the game's units: an array, a tuple, or a vector of glam or mint. Y is down
    /// unless [`y_up`](Placement::y_up) is set.
    #[must_use]
    #[inline]
    pub fn at(position: impl Into<[f32; 2]>) -> Placement {
        Placement {
            position: position.into(),
            scale: [1.0, 1.0],
            turn: UPRIGHT,
            snapped: false,
            y_up: false,
            tint: WHITE,
            flash: NO_FLASH,
            depth: 0.0,
            user: 0,
        }
    }

    /// Scale: game units per pixel of the art.
    #[must_use]
    #[inline]
    pub const fn scaled(self, scale: f32) -> Placement {
        self.stretched([scale, scale])
    }

    /// Scale across and down, in game units per pixel of the art: for squash and stretch.
    #[must_use]
    #[inline]
    pub const fn stretched(mut self, scale: [f32; 2]) -> Placement {
        self.scale = scale;
        self
    }

    /// Rotated about the pivot, clockwise on the screen, in radians.
    #[must_use]
    #[inline]
    pub fn rotated(mut self, radians: f32) -> Placement {
        let (sin, cos) = sin_cos(radians);
        self.turn = [sin, cos];
        self
    }

    /// Rotated about the pivot so that the art's right points in this direction on the screen, y down:
    /// a vector of length 1. Without the cost of sine and cosine, for many instances.
    #[must_use]
    #[inline]
    pub fn pointing(mut self, direction: impl Into<[f32; 2]>) -> Placement {
        let [cos, sin] = direction.into();
        self.turn = [sin, cos];
        self
    }

    /// Moves the picture's corner (its pivot if rotated) left and up to a whole unit, as in a
    /// whole-pixel blit, so that pixel art does not shimmer.
    #[must_use]
    #[inline]
    pub const fn snapped(mut self) -> Placement {
        self.snapped = true;
        self
    }

    /// Red, green, blue and alpha that an instance is multiplied by; white, opaque, changes nothing.
    #[must_use]
    #[inline]
    pub const fn tinted(mut self, tint: [u8; 4]) -> Placement {
        self.tint = tint;
        self
    }

    /// Mixes an instance toward this color, red, green and blue, by an amount from 0, as it is, to 1, that color alone; its
    /// alpha stays. The white flash of a hit, which no tint can make:
    ///
    /// ```
    /// use lucky_reel_core::Placement;
    ///
    /// # let (position, since_hit) = ([0.0, 0.0], 0.05_f32);
    /// let fading = 1.0 - since_hit / 0.2;
    /// let place = Placement::at(position).flashed([255, 255, 255], fading);
    /// # assert_ne!(place, Placement::at(position));
    /// ```
    #[must_use]
    #[inline]
    pub fn flashed(mut self, [red, green, blue]: [u8; 3], amount: f32) -> Placement {
        // What is no number is none; so that placements that look the same are equal, no amount has no color.
        let amount = (amount.clamp(0.0, 1.0) * 255.0 + 0.5) as u8;
        self.flash = if amount == 0 { NO_FLASH } else { [red, green, blue, amount] };
        self
    }

    /// How far away it is, for an instance: what has more depth is farther.
    #[must_use]
    #[inline]
    pub const fn depth(mut self, depth: f32) -> Placement {
        self.depth = depth;
        self
    }

    /// Two bytes for the game to use, passed on to the instance unchanged.
    #[must_use]
    #[inline]
    pub const fn user(mut self, user: u16) -> Placement {
        self.user = user;
        self
    }

    /// The game's y runs up. The picture is still upright, and corners still run clockwise on the
    /// screen from its top left.
    #[must_use]
    #[inline]
    pub const fn y_up(mut self) -> Placement {
        self.y_up = true;
        self
    }
}
