//! What is drawn before what.

mod back_to_front;
mod layer;

use alloc::{vec, vec::Vec};
use core::fmt;

use lucky_reel_core::{
    ImageId, InstanceBuffer, InstanceFormat, InstanceWriter, PackedFrame, Placement, View,
};

use layer::{By, Layer};

/// Things to draw, put in order: the farthest first, so that what is nearer is drawn over it.
///
/// It takes single pictures by [`add`](DrawList::add), and whatever is written into a buffer: a crowd or
/// a group of it ([`Crowd::instances`](lucky_reel_core::Crowd::instances)), tiles
/// ([`Unison::instances`](lucky_reel_core::Unison::instances)). [Layers](DrawList::set_layer) are drawn one
/// over the other. Equals are drawn in the order in which they were added.
/// Kept from frame to frame, it does not allocate, and is quickest where things move a little at a time.
///
/// ```
/// use lucky_reel::{crowd::*, reel::*, view::*, *};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let bram = NewSheet::grid([32, 32], Grid::cell_size([32, 32])).pivot(Pivot::Bottom);
/// # let bram = builder.sheet("bram", bram);
/// # let idle = builder.clip("idle", NewClip::of(bram).frames([0]));
/// # let reel = builder.build()?;
/// # let mut crowd = Crowd::new(&reel);
/// # for _ in 0..2 { crowd.spawn(flutter).unwrap(); }
/// # let bram = Player::new(&reel, idle);
/// let writer = InstanceWriter::new(&reel);
/// let mut list = DrawList::by_y(); // what stands lower on the screen is nearer
/// let mut instances: Vec<Instance> = Vec::new();
///
/// // Each frame:
/// list.clear();
/// list.add(bram.view(&reel), Placement::at([40.0, 50.0]));
/// crowd.instances(&writer).write_at(&mut list, &[[30.0, 70.0], [60.0, 20.0]]);
/// instances.clear();
/// list.write(&writer, &mut instances)?;
///
/// let images = writer.runs(&instances).map(|run| (run.image.index(), run.items));
/// assert_eq!(images.collect::<Vec<_>>(), [(0, 0..1), (1, 1..2), (0, 2..3)]); // moth, Bram, moth
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct DrawList {
    by: By,
    /// By their numbers, each once; never empty.
    layers: Vec<Layer>,
    /// Index of the layer that things are added to.
    current: usize,
    /// The version of the reel that all pictures are of; 0 is none.
    reel: u32,
    /// Whether there are pictures of other reels, too.
    is_mixed: bool,
}

/// A picture at a place, as a [`DrawList`] takes it. An [`InstanceWriter`] makes it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DrawItem {
    /// What is drawn.
    pub picture: PackedFrame,
    /// Where.
    pub place: Placement,
    /// The version of the reel that the picture is of.
    reel: u32,
}

/// A [`DrawList`] has pictures of another reel than the writer's, or of an older version of it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct OtherReel;

impl fmt::Display for OtherReel {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(
            "the draw list has pictures of another reel than the instance writer: load all roles into one \
             reel, and after a reload call `reload` on the writer before anything is added",
        )
    }
}

impl core::error::Error for OtherReel {}

impl DrawList {
    /// The greatest [depth](Placement::depth) is drawn first.
    #[must_use]
    pub fn by_depth() -> DrawList {
        DrawList::new(By::Depth)
    }

    /// What is highest on the screen is drawn first, by the y of its pivot: for games seen from above at
    /// a slant. Depths are passed on to the instances.
    #[must_use]
    pub fn by_y() -> DrawList {
        DrawList::new(By::Y)
    }

    fn new(by: By) -> DrawList {
        DrawList { by, layers: vec![Layer::new(0)], current: 0, reel: 0, is_mixed: false }
    }

    /// Removes everything, and goes back to layer 0; call it each frame. The memory is kept, and the range
    /// of the last depths.
    pub fn clear(&mut self) {
        self.layers.iter_mut().for_each(Layer::clear);
        (self.reel, self.is_mixed) = (0, false);
        self.set_layer(0);
    }

    /// What is added from here on belongs to this layer: it is drawn over all of the lower ones, whatever its depth or y.
    /// A list begins with layer 0.
    ///
    /// ```
    /// # use lucky_reel::{reel::*, view::*, *};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// # let moth = Player::new(&reel, flutter);
    /// # let (lamp, puddle) = (moth, moth);
    /// # let writer = InstanceWriter::new(&reel);
    /// let mut list = DrawList::by_y();
    /// list.set_layer(1); // what hangs from the roof
    /// list.add(lamp.view(&reel), Placement::at([30.0, 10.0]));
    /// list.set_layer(-1); // what lies on the ground
    /// list.add(puddle.view(&reel), Placement::at([20.0, 90.0]));
    /// list.set_layer(0);
    /// list.add(moth.view(&reel), Placement::at([40.0, 50.0]));
    ///
    /// let mut instances: Vec<SmallInstance> = Vec::new();
    /// list.write(&writer, &mut instances)?;
    /// let drawn: Vec<f32> = instances.iter().map(|instance| instance.position[1]).collect();
    /// assert_eq!(drawn, [90.0, 50.0, 10.0]); // puddle, moth, lamp
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn set_layer(&mut self, layer: i16) {
        self.current = match self.layers.binary_search_by_key(&layer, |layer| layer.number) {
            Ok(known) => known,
            Err(place) => {
                self.layers.insert(place, Layer::new(layer));
                place
            }
        };
    }

    /// How many things are on the list.
    #[must_use]
    pub fn len(&self) -> usize {
        self.layers.iter().map(Layer::len).sum()
    }

    /// Whether nothing is on the list.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// Adds a view, as [`Player::view`](lucky_reel_core::Player::view) gives it; `None` adds nothing.
    /// A depth or a y that is not a number counts as 0.
    pub fn add<'r>(&mut self, view: impl Into<Option<View<'r>>>, place: Placement) {
        if let Some(view) = view.into() {
            let (picture, reel) = (PackedFrame::of(view.id, view.flips), view.reel().version());
            self.put([DrawItem { picture, place, reel }].into_iter());
        }
    }

    /// Writes one instance per thing, the lowest layer first and in it the farthest, in any
    /// [format](InstanceFormat) that takes a placement. Returns the number of instances written.
    ///
    /// # Errors
    ///
    /// [`OtherReel`] if something on the list is of another reel than the writer's; nothing is written.
    pub fn write<T: InstanceFormat<At = Placement>>(
        &mut self,
        writer: &InstanceWriter,
        out: &mut impl InstanceBuffer<T>,
    ) -> Result<usize, OtherReel> {
        if self.is_mixed || self.reel != 0 && self.reel != writer.reel().version() {
            return Err(OtherReel);
        }
        Ok(self.layers.iter_mut().map(|layer| layer.write(self.by, writer, out)).sum())
    }
}

/// What is written into a list is added to it.
impl InstanceBuffer<DrawItem> for DrawList {
    #[inline]
    fn put(&mut self, items: impl Iterator<Item = DrawItem>) -> usize {
        let DrawList { by, layers, current, reel: of, is_mixed } = self;
        let Some(layer) = layers.get_mut(*current) else { return 0 };
        let before = layer.len();
        layer.reserve(items.size_hint().0);
        items.for_each(|DrawItem { picture, place, reel }| {
            *is_mixed |= *of != 0 && reel != *of;
            *of = reel;
            layer.add(*by, picture, place);
        });
        layer.len() - before
    }
}

impl InstanceFormat for DrawItem {
    type At = Placement;
    #[inline(always)]
    fn make(writer: &InstanceWriter, picture: PackedFrame, place: Placement) -> DrawItem {
        DrawItem { picture, place, reel: writer.reel().version() }
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        self.picture.image(writer)
    }
}
