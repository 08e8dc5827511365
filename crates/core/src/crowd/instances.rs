//! The way of a crowd to the screen.

use super::block::{BLOCK, frame_at};
use super::{BlockRef, Crowd, GroupId, Lanes, MemberId};
use crate::ids::ImageId;
use crate::sheet::PackedFrame;
use crate::view::{HasInstances, InstanceBuffer, InstanceFormat, Instances, Placement};

/// Which members are written: all that show something, or fewer.
#[derive(Clone, Copy, Debug)]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct Members<'c> {
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

impl Members<'_> {
    pub(super) const VISIBLE: Members<'static> =
        Members { which: Which::Visible, order: None, image: None, group: None };
}

impl HasInstances for Crowd {
    type Id = MemberId;
    type Chosen<'c> = Members<'c>;

    fn choose_changed(chosen: &mut Members<'_>) {
        chosen.which = Which::Changed;
    }

    fn write_at<T: InstanceFormat<At = Placement>>(
        instances: Instances<'_, Crowd>,
        out: &mut impl InstanceBuffer<T>,
        positions: &[impl Copy + Into<[f32; 2]>],
    ) -> usize {
        instances.write_placed(out, BySlot { positions, here: None })
    }

    fn write<T: InstanceFormat>(
        instances: Instances<'_, Crowd>,
        out: &mut impl InstanceBuffer<T>,
        place: impl FnMut(MemberId) -> T::At,
    ) -> usize {
        instances.write_placed(out, ByClosure(place))
    }
}

impl<'c> Instances<'c, Crowd> {
    /// One per slot, used or free, so that an item's index is the slot's; free slots show nothing.
    pub fn every_slot(mut self) -> Instances<'c, Crowd> {
        self.chosen.which = Which::EverySlot;
        self
    }

    /// Only these, in this order: back to front. Stale members are left out.
    pub fn in_order(mut self, members: &'c [MemberId]) -> Instances<'c, Crowd> {
        self.chosen.order = Some(members);
        self
    }

    /// Only members that show this image, for renderers that draw image by image.
    pub fn of_image(mut self, image: ImageId) -> Instances<'c, Crowd> {
        self.chosen.image = Some(image);
        self
    }

    /// Only members of this group.
    pub fn of_group(mut self, group: GroupId) -> Instances<'c, Crowd> {
        self.chosen.group = Some(group);
        self
    }

    fn write_placed<T: InstanceFormat>(
        self,
        out: &mut impl InstanceBuffer<T>,
        mut places: impl Places<T::At>,
    ) -> usize {
        let Instances { of: crowd, writer, .. } = self;
        if !writer.belongs_to(&crowd.reel) {
            return 0;
        }
        if let Some(members) = self.chosen.order {
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
        &self,
        out: &mut impl InstanceBuffer<T>,
        at: usize,
        places: &mut impl Places<T::At>,
    ) -> usize {
        let Instances { of: crowd, writer, chosen: Members { which, image, .. } } = *self;
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
        if wanted == u64::MAX && undressed && all_known && image.is_none() {
            let steps = crowd.reel.steps();
            return out.put(
                slots.codes.iter().enumerate().map(|(lane, code)| {
                    writer.make(frame_at(steps, *code), places.place(id(lane)))
                }),
            );
        }
        for lane in Lanes(wanted) {
            let of_image = image.is_none_or(|image| {
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
    fn picture_of(&self, member: MemberId) -> Option<PackedFrame> {
        let (slots, lane) = self.of.slot(member)?;
        let wanted = self.chosen.which != Which::Changed || slots.block.changed >> lane & 1 != 0;
        let picture = self.of.frame_in(slots, lane);
        let frame = self.of.reel.frame(picture.frame()?)?;
        let of_image = self.chosen.image.is_none_or(|image| frame.image == image);
        (wanted && of_image && self.is_of_group(slots)).then_some(picture)
    }

    fn is_of_group(&self, slots: BlockRef<'_>) -> bool {
        self.chosen.group.is_none_or(|group| group.0 == slots.block.group)
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
