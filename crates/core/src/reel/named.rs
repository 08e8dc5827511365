//! Points and areas: the names that a reel has for places and rectangles on frames.

use super::{NameError, Reel};
use crate::ids::{AreaId, PointId};
use crate::sheet::Frame;

impl Reel {
    /// The point of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::id).
    pub fn point_id(&self, name: &str) -> Result<PointId, NameError> {
        let id = self.data.names.points.look_up("point", name)?;
        Ok(PointId::new(self.family, id))
    }

    /// The area of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::id).
    pub fn area_id(&self, name: &str) -> Result<AreaId, NameError> {
        let id = self.data.names.areas.look_up("area", name)?;
        Ok(AreaId::new(self.family, id))
    }

    /// The name of a point without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn point_name(&self, point: PointId) -> &str {
        self.data.names.points.of(point.number_in(self.family)).map_or("", |name| &name.name)
    }

    /// The name of an area without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn area_name(&self, area: AreaId) -> &str {
        self.data.names.areas.of(area.number_in(self.family)).map_or("", |name| &name.name)
    }

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
