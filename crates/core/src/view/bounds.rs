//! How much room a frame or a clip takes.

use super::lay::Lay;
use super::{Area, Placement, View};
use crate::axes::both;
use crate::reel::Clip;
use crate::sheet::Flips;

impl View<'_> {
    /// The left top and the right bottom corner of what is drawn: pixels right and down from the pivot, as
    /// it is seen.
    pub(super) fn extent(&self) -> [[f32; 2]; 2] {
        let [x, y] = both(|axis| self.edges(axis).map(|halves| halves as f32 / 2.0));
        [[x[0], y[0]], [x[1], y[1]]]
    }

    /// The smallest rectangle along the axes around what is drawn at a place: its least and its greatest
    /// corner in the place's units, to see whether it is on the screen.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Placement, Player, Reel};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let glow = builder.clip("glow", NewClip::of(sheet).frames([0]));
    /// # let reel = builder.build()?;
    /// let lamp = Player::new(&reel, glow); // 16 x 16 pixels, its pivot in the middle
    /// let place = Placement::at([100.0, 50.0]).scaled(2.0);
    /// assert_eq!(lamp.view(&reel).unwrap().bounds(place), [[84.0, 34.0], [116.0, 66.0]]);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn bounds(&self, place: Placement) -> [[f32; 2]; 2] {
        Area { corners: self.corners(place) }.bounds()
    }

    /// The corners of what is drawn at a place, clockwise on the screen from the top left.
    pub(super) fn corners(&self, place: Placement) -> [[f32; 2]; 4] {
        let [near, far] = self.extent();
        let lay = Lay::of(place, near);
        [lay.put(near), lay.put([far[0], near[1]]), lay.put(far), lay.put([near[0], far[1]])]
    }
}

impl Clip<'_> {
    /// The smallest rectangle around all frames of the clip, their pivots on one another: its left top and
    /// its right bottom corner in pixels right and down from the pivot, mirrored by `flips`.
    ///
    /// ```
    /// # use lucky_reel_core::{Flips, Grid, NewClip, NewSheet, Pivot, Reel};
    /// # let mut builder = Reel::builder();
    /// let sheet = NewSheet::grid([64, 16], Grid::cell_size([16, 16])).pivot(Pivot::At([4.0, 15.0]));
    /// let sheet = builder.sheet("moth", sheet);
    /// let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// let reel = builder.build()?;
    /// let flutter = reel.clip(flutter).unwrap();
    /// assert_eq!(flutter.envelope(Flips::default()), [[-4.0, -15.0], [12.0, 1.0]]);
    /// assert_eq!(flutter.envelope(Flips { x: true, y: false }), [[-12.0, -15.0], [4.0, 1.0]]);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn envelope(&self, flips: Flips) -> [[f32; 2]; 2] {
        let flips = Flips { x: flips.x != self.is_mirrored, ..flips };
        let views = self.holds().filter_map(|hold| View::of(self.reel, hold.frame, flips));
        let around = |[a, b]: [[f32; 2]; 2], [c, d]: [[f32; 2]; 2]| {
            [[a[0].min(c[0]), a[1].min(c[1])], [b[0].max(d[0]), b[1].max(d[1])]]
        };
        views.map(|view| view.extent()).reduce(around).unwrap_or([[0.0; 2]; 2])
    }
}
