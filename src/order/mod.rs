//! What is drawn before what.

mod back_to_front;

use alloc::vec::Vec;

use lucky_reel_core::{
    ImageId, InstanceBuffer, InstanceFormat, InstanceWriter, PackedFrame, Placement,
};

use back_to_front::BackToFront;

/// Things to draw, put in order: the farthest first, so that what is nearer is drawn over it.
///
/// It takes single pictures by [`add`](DrawList::add), and whatever is written into a buffer: a crowd or
/// a group of it ([`Crowd::instances`](lucky_reel_core::Crowd::instances)), tiles
/// ([`Unison::instances`](lucky_reel_core::Unison::instances)). Equals are drawn in the order in which they were added.
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
/// list.add(bram.packed_frame(&reel), Placement::at([40.0, 50.0]));
/// crowd.instances(&writer).write_at(&mut list, &[[30.0, 70.0], [60.0, 20.0]]);
/// instances.clear();
/// list.write(&writer, &mut instances);
///
/// let images = writer.runs(&instances).map(|run| (run.image.index(), run.items));
/// assert_eq!(images.collect::<Vec<_>>(), [(0, 0..1), (1, 1..2), (0, 2..3)]); // moth, Bram, moth
/// # Ok::<(), BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct DrawList {
    by: By,
    /// What is sorted from least to greatest.
    keys: Vec<f32>,
    things: Vec<Thing>,
    /// Placements of things that have more than a position, and a depth where the list goes by it.
    placements: Vec<Placement>,
    order: BackToFront,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum By {
    Depth,
    Y,
}

/// A picture at a place, as a [`DrawList`] takes it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DrawItem {
    /// What is drawn.
    pub picture: PackedFrame,
    /// Where.
    pub place: Placement,
}

/// A thing to draw in 16 bytes: they are fetched in an order far from that in memory.
#[derive(Clone, Copy, Debug)]
struct Thing {
    picture: PackedFrame,
    /// Index of its placement, or `u32::MAX`.
    placement: u32,
    position: [f32; 2],
}

const NO_THING: Thing =
    Thing { picture: PackedFrame::NOTHING, placement: u32::MAX, position: [0.0; 2] };

/// So many things are fetched, and then written: a short loop keeps more of the memory busy at a time.
const BATCH: usize = 64;

/// Whether a place is a position and nothing else.
#[inline(always)]
fn is_only_position(place: &Placement) -> bool {
    *place == Placement::at(place.position)
}

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
        let (keys, things, placements) = (Vec::new(), Vec::new(), Vec::new());
        DrawList { by, keys, things, placements, order: BackToFront::default() }
    }

    /// Removes everything; call it each frame. The memory is kept, and the range of the last depths.
    pub fn clear(&mut self) {
        self.keys.clear();
        self.things.clear();
        self.placements.clear();
    }

    /// How many things are on the list.
    #[must_use]
    pub fn len(&self) -> usize {
        self.things.len()
    }

    /// Whether nothing is on the list.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.things.is_empty()
    }

    /// Adds a picture, as [`Player::packed_frame`](lucky_reel_core::Player::packed_frame) gives it; nothing where
    /// nothing is up. A depth or a y that is not a number counts as 0.
    // A call for each member of a crowd would take as long as all the rest of its way into the list.
    #[inline(always)]
    pub fn add(&mut self, picture: PackedFrame, place: Placement) {
        if picture.frame().is_none() {
            return;
        }
        let (key, plain) = match self.by {
            By::Depth => (0.0 - place.depth, is_only_position(&place.depth(0.0))),
            By::Y => {
                let [_, y] = place.position;
                (0.0 + if place.y_up { -y } else { y }, is_only_position(&place))
            }
        };
        let placement = if plain { u32::MAX } else { self.placements.len() as u32 };
        if !plain {
            self.placements.push(place);
        }
        self.keys.push(if key.is_nan() { 0.0 } else { key });
        self.things.push(Thing { picture, placement, position: place.position });
    }

    /// Writes one instance per thing, the farthest first, in any [format](InstanceFormat) that takes a
    /// placement. Returns the number of instances written.
    pub fn write<T: InstanceFormat<At = Placement>>(
        &mut self,
        writer: &InstanceWriter,
        out: &mut impl InstanceBuffer<T>,
    ) -> usize {
        let DrawList { by, keys, things, placements, order } = self;
        let order = order.sort(keys);
        let mut batch = [NO_THING; BATCH];
        let batches = order.chunks(BATCH).map(|order| {
            for (slot, [index, _]) in batch.iter_mut().zip(order) {
                *slot = things[*index as usize];
            }
            out.put(batch.iter().zip(order).map(|(thing, [index, _])| {
                match placements.get(thing.placement as usize) {
                    Some(place) => writer.make(thing.picture, *place),
                    None if *by == By::Depth => {
                        let depth = 0.0 - keys[*index as usize];
                        writer.make(thing.picture, Placement::at(thing.position).depth(depth))
                    }
                    None => writer.make(thing.picture, Placement::at(thing.position)),
                }
            }))
        });
        batches.sum()
    }
}

/// What is written into a list is added to it.
impl InstanceBuffer<DrawItem> for DrawList {
    #[inline]
    fn put(&mut self, items: impl Iterator<Item = DrawItem>) -> usize {
        let before = self.len();
        let room = items.size_hint().0;
        self.keys.reserve(room);
        self.things.reserve(room);
        items.for_each(|DrawItem { picture, place }| self.add(picture, place));
        self.len() - before
    }
}

impl InstanceFormat for DrawItem {
    type At = Placement;
    #[inline(always)]
    fn make(_: &InstanceWriter, picture: PackedFrame, place: Placement) -> DrawItem {
        DrawItem { picture, place }
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        self.picture.image(writer)
    }
}
