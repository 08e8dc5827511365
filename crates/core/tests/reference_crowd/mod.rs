//! A naive crowd: single players in slots, each moved by itself, a game tick at a time.

#[path = "../model/moved.rs"]
mod moved;

use lucky_reel_core::*;
pub(crate) use moved::{heard, moved};

#[derive(Clone, Copy, Debug)]
pub(crate) enum Meant {
    One(usize),
    Group(usize),
    All,
}

/// A group's clock, ticked a game tick at a time.
#[derive(Clone, Copy)]
pub(crate) struct GroupClock {
    pub(crate) scale: u64,
    pub(crate) carry: u64,
}

impl GroupClock {
    /// How many ticks of its own a game tick gives.
    pub(crate) fn tick(&mut self) -> u64 {
        self.carry += self.scale;
        let ticks = self.carry >> 16;
        self.carry &= 0xffff;
        ticks
    }
}

/// What has happened to a group since it fell asleep or was last caught up: it plays on unseen.
#[derive(Clone, Default)]
pub(crate) struct Asleep {
    pub(crate) dt: u64,
    pub(crate) passed: u64,
    pub(crate) events: Vec<(MemberId, Event)>,
}

/// What a crowd should be: single players in slots, each moved by itself, a game tick at a time.
#[derive(Clone)]
pub(crate) struct Naive {
    pub(crate) slots: Vec<Option<(MemberId, usize, Player)>>,
    pub(crate) groups: [GroupClock; 3],
    pub(crate) asleep: [Option<Asleep>; 3],
}

/// In the order of the slots, those of each slot as they came.
pub(crate) fn by_slot(mut events: Vec<(MemberId, Event)>) -> Vec<(MemberId, Event)> {
    events.sort_by_key(|(member, _)| member.index());
    events
}

impl Naive {
    /// Those of a group that have vanished while it slept are gone; gives what happened meanwhile.
    pub(crate) fn catch_up(&mut self, reel: &Reel, group: usize) -> Vec<(MemberId, Event)> {
        let Some(slept) = self.asleep[group].replace(Asleep::default()) else {
            self.asleep[group] = None;
            return Vec::new();
        };
        if slept.passed > 0 {
            self.remove_vanished(reel, |of| of == group);
        }
        slept.events
    }

    pub(crate) fn catch_up_for(&mut self, reel: &Reel, meant: Meant) {
        let of_slot = |slot: usize| Some(self.slots.get(slot)?.as_ref()?.1);
        let groups = match meant {
            Meant::One(slot) => of_slot(slot).into_iter().collect(),
            Meant::Group(group) => vec![group],
            Meant::All => vec![0, 1, 2],
        };
        for group in groups {
            self.catch_up(reel, group);
        }
    }

    pub(crate) fn remove_vanished(&mut self, reel: &Reel, of: impl Fn(usize) -> bool) {
        for slot in &mut self.slots {
            let has_gone = |player: &Player| player.has_ended() && player.view(reel).is_none();
            if slot.is_some_and(|(_, group, player)| of(group) && has_gone(&player)) {
                *slot = None;
            }
        }
    }

    pub(crate) fn each(&mut self, meant: Meant, tell: impl Fn(&mut Player)) {
        for (at, slot) in self.slots.iter_mut().enumerate() {
            let Some((_, group, player)) = slot else { continue };
            let meant = match meant {
                Meant::One(one) => one == at,
                Meant::Group(one) => one == *group,
                Meant::All => true,
            };
            if meant {
                tell(player);
            }
        }
    }

    pub(crate) fn advance(&mut self, reel: &Reel, dt: u64) -> Vec<(MemberId, Event)> {
        let mut reported = Vec::new();
        let mut passed = [0; 3];
        for tick in 0..dt {
            let ticks: Vec<u64> = self.groups.iter_mut().map(GroupClock::tick).collect();
            passed.iter_mut().zip(&ticks).for_each(|(passed, ticks)| *passed += ticks);
            for slot in &mut self.slots {
                let Some((handle, group, player)) = slot else { continue };
                let first = player.hit_stop_left();
                for event in player.advance(reel, Ticks::new(ticks[*group])) {
                    let at = if event.at == first { tick } else { tick + 1 };
                    match &mut self.asleep[*group] {
                        None => reported.push((*handle, moved(event, Ticks::new(at)))),
                        Some(slept) => {
                            slept.events.push((*handle, moved(event, Ticks::new(slept.dt + at))));
                        }
                    }
                }
            }
        }
        for (slept, passed) in self.asleep.iter_mut().zip(&mut passed) {
            if let Some(slept) = slept {
                slept.dt += dt;
                slept.passed += core::mem::take(passed);
            }
        }
        self.remove_vanished(reel, |group| passed[group] > 0);
        by_slot(reported)
    }
}
