/// Where and how to draw: a position, a scale, a rotation, snapping, and which way is up.
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
pub struct Placement {
    pub(super) position: [f32; 2],
    pub(super) scale: [f32; 2],
    pub(super) rotation: f32,
    pub(super) snapped: bool,
    pub(super) y_up: bool,
}

impl Placement {
    /// The pivot lands here, in the game's units: an array, a tuple, or a vector of glam or mint. Y is down
    /// unless [`y_up`](Placement::y_up) is set.
    #[must_use]
    pub fn at(position: impl Into<[f32; 2]>) -> Placement {
        let position = position.into();
        Placement { position, scale: [1.0, 1.0], rotation: 0.0, snapped: false, y_up: false }
    }

    /// Scale: game units per pixel of the art.
    #[must_use]
    pub const fn scaled(self, scale: f32) -> Placement {
        self.stretched([scale, scale])
    }

    /// Scale across and down, in game units per pixel of the art: for squash and stretch.
    #[must_use]
    pub const fn stretched(mut self, scale: [f32; 2]) -> Placement {
        self.scale = scale;
        self
    }

    /// Rotated about the pivot, clockwise on the screen, in radians.
    #[must_use]
    pub const fn rotated(mut self, radians: f32) -> Placement {
        self.rotation = radians;
        self
    }

    /// Moves the picture's corner (its pivot if rotated) left and up to a whole unit, as in a
    /// whole-pixel blit, so that pixel art does not shimmer.
    #[must_use]
    pub const fn snapped(mut self) -> Placement {
        self.snapped = true;
        self
    }

    /// The game's y runs up. The picture is still upright, and corners still run clockwise on the
    /// screen from its top left.
    #[must_use]
    pub const fn y_up(mut self) -> Placement {
        self.y_up = true;
        self
    }
}
