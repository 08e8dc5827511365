//! Moths around the lamps: a crowd of actors.

use lucky_reel::{
    CommandError, Crowd, DrawList, InstanceWriter, NewMember, Overlay, Reel, Speed, Ticks,
    crowd::MemberId,
};

use crate::ids::Ids;
use crate::{LAMPS, SIZE, whole};

/// Closer than this they no longer fly toward the lamp, and how fast they fly to it and around it.
const NEAREST: f64 = 12.0;
const INWARDS: f64 = 26.0;
const AROUND: f64 = 38.0;

#[derive(Clone, Debug)]
pub(crate) struct Moths {
    crowd: Crowd,
    /// In the order of their slots.
    flights: Vec<Flight>,
}

#[derive(Clone, Copy, Debug)]
struct Flight {
    moth: MemberId,
    at: [f64; 2],
    lamp: [f64; 2],
    /// How far from the lamp it stays.
    ring: f64,
}

impl Moths {
    pub(crate) fn new(reel: &Reel, ids: &Ids, count: u32) -> Moths {
        let mut crowd = Crowd::new(reel);
        let random = |seed, id, within: u32| {
            Ticks::random(seed, id, Ticks::new(u64::from(within))).get() as f64
        };
        let flight = |nth: u32| {
            let id = u64::from(nth);
            let at = [random(11, id, SIZE[0]), random(12, id, SIZE[1] - 40)];
            let lamp = LAMPS[nth as usize % LAMPS.len()].map(f64::from);
            let ring = NEAREST + random(13, id, 40 + count / 100);
            // Each beats its wings a little faster or slower than the others.
            let speed = Speed::from_ratio(85 + random(14, id, 30) as i32, 100).ok()?;
            let moth = crowd.spawn(NewMember::acting(ids.moth).speed(speed)).ok()?;
            Some(Flight { moth, at, lamp, ring })
        };
        let flights = (0..count).filter_map(flight).collect();
        Moths { crowd, flights }
    }

    pub(crate) fn reload(&mut self, reel: &Reel) {
        self.crowd.reload(reel);
    }

    pub(crate) fn fly(&mut self, ids: &Ids, dt: Ticks) -> Result<(), CommandError> {
        let seconds = dt.as_secs_f64();
        for flight in &mut self.flights {
            let [x, y] = [0, 1].map(|axis| flight.at[axis] - flight.lamp[axis]);
            let distance = (x * x + y * y).sqrt().max(1.0);
            let inward = if distance > flight.ring { INWARDS } else { 0.0 };
            flight.at[0] += (-x * inward - y * AROUND) / distance * seconds;
            flight.at[1] += (-y * inward + x * AROUND) / distance * seconds;
            self.crowd.set_fact(flight.moth, ids.near, distance as f32)?;
        }
        self.crowd.advance(dt);
        Ok(())
    }

    pub(crate) fn show_in(&self, overlay: &mut Overlay) {
        for flight in &self.flights {
            overlay.view(self.crowd.view(flight.moth), whole(flight.at, 0.0));
        }
    }

    pub(crate) fn draw(&self, list: &mut DrawList, writer: &InstanceWriter) {
        // None is ever removed, so that a moth's slot is the number of its flight.
        self.crowd.instances(writer).write(list, |moth| {
            let at = self.flights.get(moth.index()).map_or([0.0; 2], |flight| flight.at);
            whole(at, 100.0)
        });
    }
}
