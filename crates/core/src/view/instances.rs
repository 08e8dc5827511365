use super::{InstanceBuffer, InstanceFormat, InstanceWriter, Placement};

/// The members of a [`Crowd`](crate::Crowd), or tiles of a [`Unison`](crate::Unison), to write for a renderer: by
/// default all members that show something, in the order of their slots, or all tiles.
///
/// ```
/// use lucky_reel_core::*;
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let moths = [0, 1, 2].map(|id| {
///     crowd.spawn(NewMember::playing(flutter).random_start(2_026, id)).unwrap()
/// });
/// let positions = [[10.0, 5.0], [30.0, 9.0], [20.0, 7.0]]; // by the slots' numbers
/// let writer = InstanceWriter::new(&reel);
/// let mut instances: Vec<Instance> = Vec::new();
/// crowd.instances(&writer).write_at(&mut instances, &positions);
/// assert_eq!(instances.len(), 3);
///
/// // Back to front, by a closure, into a slice.
/// let back_to_front = [moths[0], moths[2], moths[1]];
/// let mut small = [SmallInstance::default(); 8];
/// let written = crowd.instances(&writer).in_order(&back_to_front).write(&mut &mut small[..], |moth| {
///     Placement::at(positions[moth.index()]).user(7)
/// });
/// assert_eq!((written, small[1].position), (3, [20.0, 7.0]));
///
/// // What a shader looks up in a table, where it has changed.
/// crowd.advance(Ticks::from_millis(50));
/// let mut frames: Vec<u32> = Vec::new();
/// crowd.instances(&writer).changed().write(&mut frames, |_| ());
/// assert_eq!(frames.len(), crowd.changed().count());
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Debug)]
#[must_use = "nothing is written before `write` or `write_at`"]
pub struct Instances<'a, Of: HasInstances> {
    pub(crate) of: &'a Of,
    pub(crate) writer: &'a InstanceWriter,
    pub(crate) chosen: Of::Chosen<'a>,
}

/// What has many pictures to draw: crowds and unisons. The trait is sealed.
pub trait HasInstances: Sized {
    /// What a picture is known by: a member of a crowd, the index of a tile.
    #[doc(hidden)]
    type Id;
    /// Which of them are written.
    #[doc(hidden)]
    type Chosen<'a>;
    #[doc(hidden)]
    fn choose_changed(chosen: &mut Self::Chosen<'_>);
    #[doc(hidden)]
    fn write_at<T: InstanceFormat<At = Placement>>(
        instances: Instances<'_, Self>,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize;
    #[doc(hidden)]
    fn write<T: InstanceFormat>(
        instances: Instances<'_, Self>,
        out: &mut impl InstanceBuffer<T>,
        place: impl FnMut(Self::Id) -> T::At,
    ) -> usize;
}

impl<Of: HasInstances> Instances<'_, Of> {
    /// Only those whose picture the last advance changed.
    pub fn changed(mut self) -> Self {
        Of::choose_changed(&mut self.chosen);
        self
    }

    /// Writes one instance each, at the position with the index of the member's slot, or of the tile; what has
    /// no position is left out. A slice of the vectors of glam or mint is taken as it is, without copying.
    /// Returns the number of instances written.
    pub fn write_at<T: InstanceFormat<At = Placement>>(
        self,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize {
        Of::write_at(self, out, positions)
    }

    /// Writes one instance each, at the place that `place` returns for the member, or for the index of the
    /// tile. Returns the number of instances written.
    pub fn write<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        place: impl FnMut(Of::Id) -> T::At,
    ) -> usize {
        Of::write(self, out, place)
    }
}
