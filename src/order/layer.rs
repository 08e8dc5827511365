//! The things of one layer of a [`DrawList`](super::DrawList).

use alloc::vec::Vec;

use lucky_reel_core::{InstanceBuffer, InstanceFormat, InstanceWriter, PackedFrame, Placement};

use super::back_to_front::BackToFront;

/// What a list goes by.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum By {
    Depth,
    Y,
}

#[derive(Clone, Debug, Default)]
pub(super) struct Layer {
    pub(super) number: i16,
    /// What is sorted from least to greatest.
    keys: Vec<f32>,
    things: Vec<Thing>,
    /// Placements of things that have more than a position, and a depth where the list goes by it.
    placements: Vec<Placement>,
    order: BackToFront,
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

/// How many things are fetched before they are written: a short loop keeps more of the memory busy at a time.
const BATCH: usize = 64;

/// Whether a place is a position and nothing else.
#[inline(always)]
fn is_only_position(place: &Placement) -> bool {
    *place == Placement::at(place.position)
}

impl Layer {
    pub(super) fn new(number: i16) -> Layer {
        Layer { number, ..Layer::default() }
    }

    pub(super) fn clear(&mut self) {
        self.keys.clear();
        self.things.clear();
        self.placements.clear();
    }

    pub(super) fn len(&self) -> usize {
        self.things.len()
    }

    pub(super) fn reserve(&mut self, things: usize) {
        self.keys.reserve(things);
        self.things.reserve(things);
    }

    // A call for each member of a crowd would take as long as all the rest of its way into the list.
    #[inline(always)]
    pub(super) fn add(&mut self, by: By, picture: PackedFrame, place: Placement) {
        if picture.frame().is_none() {
            return;
        }
        let (key, plain) = match by {
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

    /// Writes one instance per thing, the farthest first.
    pub(super) fn write<T: InstanceFormat<At = Placement>>(
        &mut self,
        by: By,
        writer: &InstanceWriter,
        out: &mut impl InstanceBuffer<T>,
    ) -> usize {
        let Layer { keys, things, placements, order, .. } = self;
        let order = order.sort(keys);
        let mut batch = [NO_THING; BATCH];
        let batches = order.chunks(BATCH).map(|order| {
            for (slot, [index, _]) in batch.iter_mut().zip(order) {
                *slot = things[*index as usize];
            }
            out.put(batch.iter().zip(order).map(|(thing, [index, _])| {
                match placements.get(thing.placement as usize) {
                    Some(place) => writer.make(thing.picture, *place),
                    None if by == By::Depth => {
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
