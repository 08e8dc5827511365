use super::Unison;
use crate::ids::ClipId;
use crate::view::{InstanceBuffer, InstanceFormat, InstanceWriter, Placement};

/// Tiles on their way to a renderer; [`Unison::instances`] begins it.
#[derive(Clone, Copy, Debug)]
#[must_use = "nothing is written before `write` or `write_at`"]
pub struct TileInstances<'u> {
    pub(super) unison: &'u Unison,
    pub(super) writer: &'u InstanceWriter,
    pub(super) tiles: &'u [ClipId],
    pub(super) only_changed: bool,
}

impl<'u> TileInstances<'u> {
    /// Only tiles whose clip [has changed](Unison::has_changed).
    pub fn changed(mut self) -> TileInstances<'u> {
        self.only_changed = true;
        self
    }

    /// Writes one instance per tile, at the position of the same index; tiles without a position are left
    /// out. Returns the number of instances written.
    pub fn write_at<T: InstanceFormat<At = Placement>>(
        self,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize {
        let tiles = self.tiles.get(..positions.len()).unwrap_or(self.tiles);
        TileInstances { tiles, ..self }.write(out, |tile| Placement::at(positions[tile]))
    }

    /// Writes one instance per tile, at the place that `place` returns for its index. Returns the number of
    /// instances written.
    pub fn write<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        mut place: impl FnMut(usize) -> T::At,
    ) -> usize {
        let TileInstances { unison, writer, tiles, only_changed } = self;
        if !writer.belongs_to(&unison.reel) {
            return 0;
        }
        let numbered = tiles.iter().enumerate();
        let wanted = numbered.filter(|(_, clip)| !only_changed || unison.has_changed(**clip));
        out.put(wanted.map(|(tile, clip)| writer.make(unison.packed_frame(*clip), place(tile))))
    }
}
