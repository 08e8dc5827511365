//! The way of a crowd to the screen.

use super::block::{BLOCK, frame_at};
use super::{BlockRef, Crowd, GroupId, Lanes, MemberId};
use crate::ids::ImageId;
use crate::sheet::PackedFrame;
use crate::view::{InstanceBuffer, InstanceFormat, InstanceWriter, Placement};

/// The members of a crowd to write for a renderer: by default all that show something, in the order of
/// their slots.
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
#[derive(Clone, Copy, Debug)]
#[must_use = "write it"]
pub struct CrowdInstances<'c> {
    crowd: &'c Crowd,
    writer: &'c InstanceWriter,
    which: Which,
    order: Option<&'c [MemberId]>,
    image: Option<ImageId>,
    group: Option<GroupId>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Which {
    Visible,
    Changed,
    EverySlot,
}

impl<'c> CrowdInstances<'c> {
    pub(super) fn new(crowd: &'c Crowd, writer: &'c InstanceWriter) -> CrowdInstances<'c> {
        CrowdInstances {
            crowd,
            writer,
            which: Which::Visible,
            order: None,
            image: None,
            group: None,
        }
    }

    /// Only those that [`Crowd::changed`] lists.
    pub fn changed(mut self) -> CrowdInstances<'c> {
        self.which = Which::Changed;
        self
    }

    /// One per slot, used or free, so that an item's index is the slot's; free slots show nothing.
    pub fn every_slot(mut self) -> CrowdInstances<'c> {
        self.which = Which::EverySlot;
        self
    }

    /// Only these, in this order: back to front. Stale members are left out.
    pub fn in_order(mut self, members: &'c [MemberId]) -> CrowdInstances<'c> {
        self.order = Some(members);
        self
    }

    /// Only members that show this image, for renderers that draw image by image.
    pub fn of_image(mut self, image: ImageId) -> CrowdInstances<'c> {
        self.image = Some(image);
        self
    }

    /// Only members of this group.
    pub fn of_group(mut self, group: GroupId) -> CrowdInstances<'c> {
        self.group = Some(group);
        self
    }

    /// Writes one instance per member, at the position with the index of its slot; slots without a
    /// position are left out. A slice of the vectors of glam or mint is taken as it is, without
    /// copying. Returns the number of instances written.
    pub fn write_at<T: InstanceFormat<At = Placement>>(
        self,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize {
        self.write_placed(out, BySlot { positions, here: None })
    }

    /// Writes one instance per member, at the place that `place` returns for it. Returns the number of
    /// instances written.
    pub fn write<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        place: impl FnMut(MemberId) -> T::At,
    ) -> usize {
        self.write_placed(out, ByClosure(place))
    }

    fn write_placed<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        mut places: impl Places<T::At>,
    ) -> usize {
        let CrowdInstances { crowd, writer, .. } = self;
        if !writer.belongs_to(&crowd.reel) {
            return 0;
        }
        if let Some(members) = self.order {
            return out.put(members.iter().filter_map(|member| {
                let picture = self.picture_of(*member).filter(|_| places.knows(member.index()))?;
                Some(writer.make(picture, places.place(*member)))
            }));
        }
        (0..crowd.blocks.len()).map(|at| self.write_block(out, at, &mut places)).sum()
    }

    /// A block where nothing stands out is written without a look at each.
    #[inline]
    fn write_block<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        at: usize,
        places: &mut impl Places<T::At>,
    ) -> usize {
        let CrowdInstances { crowd, writer, which, .. } = self;
        let Some(slots) = crowd.block(at) else { return 0 };
        if !self.is_of_group(slots) {
            return 0;
        }
        let id = |lane: usize| slots.states[lane].id(at, lane);
        let mut wanted = match which {
            Which::Visible => slots.block.shown,
            Which::Changed => slots.block.shown & slots.block.changed,
            Which::EverySlot => u64::MAX,
        };
        places.come_to(at);
        let undressed = slots.block.outfits.is_empty() && !slots.block.is_of_actors();
        let all_known = places.knows(at * BLOCK + BLOCK - 1);
        if wanted == u64::MAX && undressed && all_known && self.image.is_none() {
            let steps = crowd.reel.steps();
            return out.put(
                slots.codes.iter().enumerate().map(|(lane, code)| {
                    writer.make(frame_at(steps, *code), places.place(id(lane)))
                }),
            );
        }
        for lane in Lanes(wanted) {
            let of_image = self.image.is_none_or(|image| {
                crowd
                    .frame_in(slots, lane)
                    .view(&crowd.reel)
                    .is_some_and(|v| v.frame.image == image)
            });
            wanted &= !(u64::from(!of_image || !places.knows(at * BLOCK + lane)) << lane);
        }
        // A list of lanes is what a buffer can be made room for beforehand.
        let mut lanes = [0_u8; BLOCK];
        let count = Lanes(wanted).zip(&mut lanes).map(|(lane, slot)| *slot = lane as u8).count();
        out.put(lanes[..count].iter().map(|lane| {
            let lane = usize::from(*lane);
            writer.make(crowd.frame_in(slots, lane), places.place(id(lane)))
        }))
    }

    /// What a member of a caller's list shows, where it is wanted.
    fn picture_of(self, member: MemberId) -> Option<PackedFrame> {
        let (slots, lane) = self.crowd.slot(member)?;
        let wanted = self.which != Which::Changed || slots.block.changed >> lane & 1 != 0;
        let picture = self.crowd.frame_in(slots, lane);
        let frame = self.crowd.reel.frame(picture.frame()?)?;
        let of_image = self.image.is_none_or(|image| frame.image == image);
        (wanted && of_image && self.is_of_group(slots)).then_some(picture)
    }

    fn is_of_group(&self, slots: BlockRef<'_>) -> bool {
        self.group.is_none_or(|group| group.0 == slots.block.group)
    }
}

/// Where members are drawn.
trait Places<P> {
    /// Members of this block follow.
    fn come_to(&mut self, _block: usize) {}
    /// Whether a slot has a place.
    fn knows(&self, _slot: usize) -> bool {
        true
    }
    fn place(&mut self, member: MemberId) -> P;
}

struct ByClosure<F>(F);

impl<P, F: FnMut(MemberId) -> P> Places<P> for ByClosure<F> {
    #[inline]
    fn place(&mut self, member: MemberId) -> P {
        (self.0)(member)
    }
}

/// By the numbers of their slots.
struct BySlot<'p, V> {
    positions: &'p [V],
    /// Those of the present block, where it has all of them.
    here: Option<&'p [V; BLOCK]>,
}

impl<V: Copy + Into<[f32; 2]>> Places<Placement> for BySlot<'_, V> {
    #[inline]
    fn come_to(&mut self, block: usize) {
        self.here = self.positions.get(block * BLOCK..).and_then(|here| here.first_chunk());
    }

    fn knows(&self, slot: usize) -> bool {
        slot < self.positions.len()
    }

    #[inline]
    fn place(&mut self, member: MemberId) -> Placement {
        Placement::at(match self.here {
            Some(here) => here[member.lane()].into(),
            None => self.positions.get(member.index()).map_or([0.0, 0.0], |at| (*at).into()),
        })
    }
}
