use super::lay::Lay;
use super::{Placement, View};
use crate::axes::both;
use crate::ids::AreaId;

/// A named rectangle of a picture where it lies when it is drawn: what can be hit, what hits, what sees.
///
/// [`View::area`] makes it. It turns with the art, so it need not be upright.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Area {
    /// The corners in the units of the place: in a circle, whichever way round.
    pub corners: [[f32; 2]; 4],
}

impl Area {
    /// An upright rectangle of the game's own: its least and its greatest corner.
    #[must_use]
    pub fn upright([least, most]: [[f32; 2]; 2]) -> Area {
        Area { corners: [least, [most[0], least[1]], most, [least[0], most[1]]] }
    }

    /// Whether the two share any space. Edges that only touch share none, nor does an area without width
    /// or height.
    ///
    /// ```
    /// use lucky_reel_core::Area;
    ///
    /// let wall = Area::upright([[0.0, 0.0], [10.0, 40.0]]);
    /// let diamond = Area { corners: [[14.0, 0.0], [18.0, 4.0], [14.0, 8.0], [10.0, 4.0]] };
    /// assert!(!wall.overlaps(&diamond)); // its tip touches the wall
    /// assert!(wall.overlaps(&Area::upright([[9.0, 9.0], [50.0, 10.0]])));
    /// ```
    #[must_use]
    pub fn overlaps(&self, other: &Area) -> bool {
        // What has no common upright bounds overlaps nowhere, whatever is rounded: a grid relies on it.
        let [a, b] = [self.bounds(), other.bounds()];
        if (0..2).any(|axis| !(a[0][axis] < b[1][axis] && b[0][axis] < a[1][axis])) {
            return false;
        }
        // Two rectangles are apart where they are apart along a side of either (separating axes).
        let apart = |side: [f64; 2]| {
            let [a, b] = [self.along(side), other.along(side)];
            !(a[0] < b[1] && b[0] < a[1])
        };
        let sides = [self.sides(), other.sides()];
        self.has_room() && other.has_room() && !sides.as_flattened().iter().any(|side| apart(*side))
    }

    /// Whether a place lies inside, for a click. Of an area's edges only those from its first corner belong
    /// to it, so that a place between two areas side by side is in one of them.
    #[must_use]
    pub fn contains(&self, place: impl Into<[f32; 2]>) -> bool {
        let place = place.into().map(f64::from);
        let corner = both(|axis| f64::from(self.corners[0][axis]));
        // The sides are at a right angle.
        self.sides().into_iter().all(|side| {
            let along = dot(place, side) - dot(corner, side);
            (0.0..dot(side, side)).contains(&along)
        })
    }

    /// The smallest upright rectangle around it: its least and its greatest corner.
    #[must_use]
    pub fn bounds(&self) -> [[f32; 2]; 2] {
        let by = |choose: fn(f32, f32) -> f32| {
            let [first, rest @ ..] = self.corners;
            rest.into_iter().fold(first, |to, at| [choose(to[0], at[0]), choose(to[1], at[1])])
        };
        [by(f32::min), by(f32::max)]
    }

    /// Whether it has width and height, and lies somewhere.
    fn has_room(&self) -> bool {
        let [one, other] = self.sides();
        self.is_finite() && one[0] * other[1] != one[1] * other[0]
    }

    pub(super) fn is_finite(&self) -> bool {
        self.corners.as_flattened().iter().all(|number| number.is_finite())
    }

    /// The two sides that meet in its first corner. In double precision, in which far away places have room
    /// for their small differences.
    fn sides(&self) -> [[f64; 2]; 2] {
        [1, 3].map(|corner| {
            both(|axis| f64::from(self.corners[corner][axis]) - f64::from(self.corners[0][axis]))
        })
    }

    /// From where to where it reaches along a direction.
    fn along(&self, direction: [f64; 2]) -> [f64; 2] {
        let reach = self.corners.map(|corner| dot(corner.map(f64::from), direction));
        [
            reach.into_iter().fold(f64::INFINITY, f64::min),
            reach.into_iter().fold(f64::NEG_INFINITY, f64::max),
        ]
    }
}

fn dot(a: [f64; 2], b: [f64; 2]) -> f64 {
    a[0] * b[0] + a[1] * b[1]
}

impl View<'_> {
    /// Where a named rectangle of the picture lies when it is drawn at a place, in the place's units.
    /// `None` where this frame has no such area.
    ///
    /// ```
    /// use lucky_reel_core::*;
    ///
    /// let mut builder = Reel::builder();
    /// let sheet = NewSheet::grid([64, 32], Grid::cell_size([32, 32]))
    ///     .pivot(Pivot::At([16.0, 30.0]))
    ///     .area("body", .., [10.0, 8.0, 12.0, 22.0]);
    /// let sheet = builder.sheet("bram", sheet);
    /// let idle = builder.clip("idle", NewClip::of(sheet).frames([0]));
    /// let reel = builder.build()?;
    ///
    /// let body: AreaId = reel.id("body").unwrap();
    /// let view = Player::new(&reel, idle).view(&reel).unwrap();
    /// let area = view.area(body, Placement::at([100.0, 80.0]).scaled(2.0)).unwrap();
    /// assert_eq!(area.bounds(), [[88.0, 36.0], [112.0, 80.0]]);
    /// let other = view.area(body, Placement::at([120.0, 80.0])).unwrap();
    /// assert!(!area.overlaps(&other));
    /// # Ok::<(), BuildError>(())
    /// ```
    #[must_use]
    pub fn area(&self, area: AreaId, place: Placement) -> Option<Area> {
        let (_, [least, most]) = self.areas().find(|(id, _)| *id == area)?;
        let lay = Lay::of(place, self.extent()[0]);
        Some(Area { corners: Area::upright([least, most]).corners.map(|corner| lay.put(corner)) })
    }

    /// All named rectangles of the picture: the left top and the right bottom corner of each, in pixels
    /// right and down from the pivot, as it is seen.
    pub fn areas(&self) -> impl Iterator<Item = (AreaId, [[f32; 2]; 2])> {
        let (pivot, flips) = (self.frame.pivot, [self.flips.x, self.flips.y]);
        self.reel.areas_of(self.frame).iter().map(move |&(id, at)| {
            let [x, y] = both(|axis| {
                let first = i64::from(at[axis]) - i64::from(pivot[axis]);
                let last = first + i64::from(at[axis + 2]);
                let ends = if flips[axis] { [-last, -first] } else { [first, last] };
                ends.map(|halves| halves as f32 / 2.0)
            });
            (id, [[x[0], y[0]], [x[1], y[1]]])
        })
    }
}
