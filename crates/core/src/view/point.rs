use super::lay::Lay;
use super::{Placement, View};
use crate::axes::both;
use crate::ids::PointId;

impl View<'_> {
    /// A named place of the picture: pixels right and down from the pivot, as it is seen, mirrored
    /// with the art. `None` where this frame has no such point.
    ///
    /// ```
    /// use lucky_reel_core::{PointId, Flips, Grid, NewClip, NewSheet, Pivot, Placement, Player, Reel};
    ///
    /// let mut builder = Reel::builder();
    /// let sheet = NewSheet::grid([64, 32], Grid::cell_size([32, 32]))
    ///     .pivot(Pivot::At([16.0, 30.0]))
    ///     .point("lantern", 0, [24.0, 18.0]);
    /// let sheet = builder.sheet("bram", sheet);
    /// let idle = builder.clip("idle", NewClip::of(sheet).frames([0]).fps(1));
    /// let reel = builder.build()?;
    ///
    /// let lantern: PointId = reel.id("lantern").unwrap();
    /// let view = Player::new(&reel, idle).view(&reel).unwrap();
    /// assert_eq!(view.point(lantern), Some([8.0, -12.0]));
    /// assert_eq!(view.point_at(lantern, Placement::at([100.0, 80.0]).scaled(2.0)), Some([116.0, 56.0]));
    /// let mut mirrored = view;
    /// mirrored.flips.x = true;
    /// assert_eq!(mirrored.point(lantern), Some([-8.0, -12.0]));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn point(&self, point: PointId) -> Option<[f32; 2]> {
        self.points().find(|(id, _)| *id == point).map(|(_, at)| at)
    }

    /// Where a named place of the picture lies when it is drawn at a place, in the place's units.
    #[must_use]
    pub fn point_at(&self, point: PointId, place: Placement) -> Option<[f32; 2]> {
        let [near, _] = self.extent();
        Some(Lay::of(place, near).put(self.point(point)?))
    }

    /// All named places of the picture, each in pixels right and down from the pivot, as it is seen.
    pub fn points(&self) -> impl Iterator<Item = (PointId, [f32; 2])> {
        let (pivot, flips) = (self.frame.pivot, [self.flips.x, self.flips.y]);
        self.reel.points_of(self.frame).iter().map(move |&(id, at)| {
            let from_pivot = both(|axis| {
                let pixels = (i64::from(at[axis]) - i64::from(pivot[axis])) as f32 / 2.0;
                if flips[axis] { -pixels } else { pixels }
            });
            (id, from_pivot)
        })
    }
}
