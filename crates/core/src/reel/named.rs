//! Points and areas: the names that a reel has for places and rectangles on frames.

use super::Reel;
use crate::ids::{AreaId, PointId};
use crate::sheet::Frame;

impl Reel {
    /// The points of a frame in half pixels from its untrimmed top left, unflipped.
    pub(crate) fn points_of(&self, frame: &Frame) -> &[(PointId, [i32; 2])] {
        let (start, count) = (frame.points.0 as usize, usize::from(frame.points.1));
        self.data.points.get(start..start + count).unwrap_or_default()
    }

    /// The areas of a frame, likewise: left, top, width and height.
    pub(crate) fn areas_of(&self, frame: &Frame) -> &[(AreaId, [i32; 4])] {
        let (start, count) = (frame.areas.0 as usize, usize::from(frame.areas.1));
        self.data.areas.get(start..start + count).unwrap_or_default()
    }
}
