use super::Unison;
use crate::ids::ClipId;
use crate::view::{HasInstances, InstanceBuffer, InstanceFormat, Instances, Placement};

/// Tiles, each named by its clip.
#[derive(Clone, Copy, Debug)]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct Tiles<'u> {
    pub(super) tiles: &'u [ClipId],
    pub(super) only_changed: bool,
}

impl HasInstances for Unison {
    type Id = usize;
    type Chosen<'u> = Tiles<'u>;

    fn choose_changed(chosen: &mut Tiles<'_>) {
        chosen.only_changed = true;
    }

    fn write_at<T: InstanceFormat<At = Placement>>(
        mut instances: Instances<'_, Unison>,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize {
        let tiles = instances.chosen.tiles;
        instances.chosen.tiles = tiles.get(..positions.len()).unwrap_or(tiles);
        instances.write(out, |tile| Placement::at(positions[tile]))
    }

    fn write<T: InstanceFormat>(
        Instances { of: unison, writer, chosen }: Instances<'_, Unison>,
        out: &mut impl InstanceBuffer<T>,
        mut place: impl FnMut(usize) -> T::At,
    ) -> usize {
        let Tiles { tiles, only_changed } = chosen;
        if !writer.belongs_to(&unison.reel) {
            return 0;
        }
        let numbered = tiles.iter().enumerate();
        let wanted = numbered.filter(|(_, clip)| !only_changed || unison.has_changed(**clip));
        out.put(wanted.map(|(tile, clip)| writer.make(unison.packed_frame(*clip), place(tile))))
    }
}
