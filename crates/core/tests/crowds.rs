//! Crowds against single players, on random clips and commands.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[path = "model/clips.rs"]
mod clips;

use clips::{any_clip, build};
use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;

const CLIPS: usize = 4;

#[derive(Clone, Debug)]
enum Command {
    Spawn {
        clip: usize,
        group: usize,
        quarters: i64,
        start: u64,
        flips: u8,
        count: usize,
    },
    Despawn(usize),
    Advance(u64),
    Play(Whom, usize),
    SwitchTo(Whom, usize),
    Restart(Whom),
    Stop(Whom),
    Pause(Whom, bool),
    Speed(Whom, i64),
    Seek(Whom, u64),
    HitStop(Whom, u64),
    Flip(Whom, u8),
    Scale(usize, u8),
    PauseGroup(usize, bool),
    HitStopGroup(usize, u64),
    /// Goes back to how all was at the last one.
    Rollback,
}

#[derive(Clone, Copy, Debug)]
enum Whom {
    One(usize),
    Group(usize),
    All,
}

fn whom() -> impl Strategy<Value = Whom> {
    prop_oneof![
        6 => (0_usize..200).prop_map(Whom::One),
        1 => (0_usize..3).prop_map(Whom::Group),
        1 => Just(Whom::All),
    ]
}

fn command() -> impl Strategy<Value = Command> {
    use Command::*;
    let spawn = (
        0..CLIPS,
        0_usize..3,
        -5_i64..9,
        0_u64..30,
        0_u8..4,
        prop_oneof![8 => 1_usize..4, 1 => Just(90)],
    );
    prop_oneof![
        5 => spawn.prop_map(|(clip, group, quarters, start, flips, count)| {
            Spawn { clip, group, quarters, start, flips, count }
        }),
        2 => (0_usize..200).prop_map(Despawn),
        12 => (0_u64..4).prop_map(Advance),
        3 => (0_u64..40).prop_map(Advance),
        1 => (whom(), 0..CLIPS).prop_map(|(whom, clip)| Play(whom, clip)),
        1 => (whom(), 0..CLIPS).prop_map(|(whom, clip)| SwitchTo(whom, clip)),
        1 => whom().prop_map(Restart),
        1 => whom().prop_map(Stop),
        1 => (whom(), any::<bool>()).prop_map(|(whom, paused)| Pause(whom, paused)),
        2 => (whom(), -9_i64..10).prop_map(|(whom, quarters)| Speed(whom, quarters)),
        1 => (whom(), 0_u64..60).prop_map(|(whom, time)| Seek(whom, time)),
        1 => (whom(), 0_u64..12).prop_map(|(whom, time)| HitStop(whom, time)),
        1 => (whom(), 0_u8..4).prop_map(|(whom, flips)| Flip(whom, flips)),
        1 => (0_usize..3, 0_u8..12).prop_map(|(group, fifths)| Scale(group, fifths)),
        1 => (0_usize..3, any::<bool>()).prop_map(|(group, paused)| PauseGroup(group, paused)),
        1 => (0_usize..3, 0_u64..9).prop_map(|(group, time)| HitStopGroup(group, time)),
        1 => Just(Rollback),
    ]
}

fn speed_of(quarters: i64) -> Speed {
    Speed::from_ratio(quarters as i32, 4).unwrap()
}

fn flips_of(bits: u8) -> Flips {
    Flips { x: bits & 1 != 0, y: bits & 2 != 0 }
}

/// A group's clock, ticked a game tick at a time.
#[derive(Clone, Copy)]
struct GroupClock {
    scale: u64,
    carry: u64,
    frozen: u64,
    paused: bool,
}

impl GroupClock {
    /// How many ticks of its own a game tick gives.
    fn tick(&mut self) -> u64 {
        if self.paused {
            return 0;
        }
        if self.frozen > 0 {
            self.frozen -= 1;
            return 0;
        }
        self.carry += self.scale;
        let ticks = self.carry >> 16;
        self.carry &= 0xffff;
        ticks
    }
}

/// What a crowd should be: single players in slots, each moved by itself, a game tick at a time.
#[derive(Clone)]
struct Naive {
    slots: Vec<Option<(Handle, usize, Player)>>,
    groups: [GroupClock; 3],
}

impl Naive {
    fn each(&mut self, whom: Whom, tell: impl Fn(&mut Player)) {
        for (at, slot) in self.slots.iter_mut().enumerate() {
            let Some((_, group, player)) = slot else { continue };
            let meant = match whom {
                Whom::One(one) => one == at,
                Whom::Group(one) => one == *group,
                Whom::All => true,
            };
            if meant {
                tell(player);
            }
        }
    }

    fn advance(&mut self, reel: &Reel, dt: u64) -> Vec<(Handle, Event)> {
        let mut told = vec![Vec::new(); self.slots.len()];
        let mut passed = [0; 3];
        for tick in 0..dt {
            let ticks: Vec<u64> = self.groups.iter_mut().map(GroupClock::tick).collect();
            passed.iter_mut().zip(&ticks).for_each(|(passed, ticks)| *passed += ticks);
            for (at, slot) in self.slots.iter_mut().enumerate() {
                let Some((handle, group, player)) = slot else { continue };
                let first = player.hit_stop_left();
                for event in player.advance(reel, Ticks::new(ticks[*group])) {
                    let departs = event.at() == first;
                    told[at].push((*handle, at_tick(event, if departs { tick } else { tick + 1 })));
                }
            }
        }
        for slot in &mut self.slots {
            let has_gone = |player: &Player| player.is_over() && player.view(reel).is_none();
            if slot.is_some_and(|(_, group, player)| passed[group] > 0 && has_gone(&player)) {
                *slot = None;
            }
        }
        told.concat()
    }
}

fn at_tick(mut event: Event, tick: u64) -> Event {
    match &mut event {
        Event::Enter { at, .. }
        | Event::Mark { at, .. }
        | Event::Cycle { at, .. }
        | Event::Turn { at, .. }
        | Event::End { at, .. }
        | Event::Next { at, .. } => *at = Ticks::new(tick),
        other => panic!("an event the test does not know: {other:?}"),
    }
    event
}

struct Both<'r> {
    reel: &'r Reel,
    ids: Vec<ClipId>,
    crowd: Crowd,
    groups: Vec<GroupId>,
    naive: Naive,
    /// Every handle that ever was.
    handles: Vec<Handle>,
    saved: (Crowd, Naive),
}

impl Both<'_> {
    fn members(&self, whom: Whom) -> Members {
        match whom {
            Whom::One(slot) => {
                let member = self.naive.slots.get(slot).and_then(Option::as_ref);
                Members::One(member.map_or(Handle::NOBODY, |(handle, ..)| *handle))
            }
            Whom::Group(group) => Members::Group(self.groups[group]),
            Whom::All => Members::All,
        }
    }

    fn spawn(&mut self, clip: ClipId, group: usize, speed: Speed, start: u64, flips: Flips) {
        let new = NewMember::playing(clip).speed(speed).flipped(flips).in_group(self.groups[group]);
        let new = if start > 0 { new.started_at(Ticks::new(start)) } else { new };
        let handle = self.crowd.spawn(self.reel, new);
        let mut player = Player::new(self.reel, clip);
        player.set_speed(speed);
        player.set_flip_x(flips.x);
        player.set_flip_y(flips.y);
        if start > 0 {
            player.seek(self.reel, Ticks::new(start));
        }
        self.naive.slots.resize(self.crowd.slots(), None);
        let slot = &mut self.naive.slots[handle.index()];
        assert!(slot.is_none(), "a slot is given to one member at a time");
        *slot = Some((handle, group, player));
        self.handles.push(handle);
    }

    /// The same to both; gives the events of an advance.
    fn obey(&mut self, command: &Command) -> [Vec<(Handle, Event)>; 2] {
        let (reel, ids) = (self.reel, self.ids.clone());
        let mut events = [Vec::new(), Vec::new()];
        macro_rules! both {
            ($whom:expr, $method:ident ( $($crowd:expr),* ), $naive:expr) => {{
                let members = self.members($whom);
                self.crowd.$method(reel, members $(, $crowd)*);
                self.naive.each($whom, $naive);
            }};
        }
        match *command {
            Command::Spawn { clip, group, quarters, start, flips, count } => {
                for nth in 0..count as u64 {
                    self.spawn(ids[clip], group, speed_of(quarters), start + nth, flips_of(flips));
                }
            }
            Command::Despawn(slot) => {
                if let Some(Some((handle, ..))) = self.naive.slots.get(slot) {
                    assert!(self.crowd.despawn(*handle));
                    self.naive.slots[slot] = None;
                }
            }
            Command::Advance(dt) => {
                let (mut twin, mut told) = (self.crowd.clone(), Told::new());
                twin.advance_into(reel, Ticks::new(dt), Tell::ALL, &mut told);
                self.crowd.advance_telling(reel, Ticks::new(dt), Tell::ALL, |member, event| {
                    events[0].push((member.handle(), event));
                });
                assert_eq!(told.events(reel, Tell::ALL).collect::<Vec<_>>(), events[0]);
                events[1] = self.naive.advance(reel, dt);
            }
            Command::Play(whom, clip) => both!(whom, play(ids[clip]), |p| p.play(reel, ids[clip])),
            Command::SwitchTo(whom, clip) => {
                both!(whom, switch_to(ids[clip]), |p| p.switch_to(reel, ids[clip]));
            }
            Command::Restart(whom) => both!(whom, restart(), |p| p.restart(reel)),
            Command::Stop(whom) => both!(whom, stop(), Player::stop),
            Command::Pause(whom, true) => both!(whom, pause(), Player::pause),
            Command::Pause(whom, false) => both!(whom, resume(), Player::resume),
            Command::Speed(whom, quarters) => {
                both!(whom, set_speed(speed_of(quarters)), |p| p.set_speed(speed_of(quarters)));
            }
            Command::Seek(whom, time) => {
                both!(whom, seek(Ticks::new(time)), |p| p.seek(reel, Ticks::new(time)));
            }
            Command::HitStop(whom, time) => {
                both!(whom, hit_stop(Ticks::new(time)), |p| p.hit_stop(Ticks::new(time)));
            }
            Command::Flip(whom, bits) => both!(whom, set_flips(flips_of(bits)), |p| {
                p.set_flip_x(flips_of(bits).x);
                p.set_flip_y(flips_of(bits).y);
            }),
            Command::Scale(group, fifths) => {
                let factor = f64::from(fifths) / 5.0;
                self.crowd.set_group_scale(self.groups[group], factor).unwrap();
                let bits = Speed::from_f64(factor).unwrap().to_bits();
                self.naive.groups[group].scale = bits as u64;
            }
            Command::PauseGroup(group, paused) => {
                match paused {
                    true => self.crowd.pause_group(self.groups[group]),
                    false => self.crowd.resume_group(self.groups[group]),
                }
                self.naive.groups[group].paused = paused;
            }
            Command::HitStopGroup(group, time) => {
                self.crowd.hit_stop_group(self.groups[group], Ticks::new(time));
                let frozen = &mut self.naive.groups[group].frozen;
                *frozen = time.max(*frozen);
            }
            Command::Rollback => {
                self.crowd.restore_from(&self.saved.0);
                self.naive = self.saved.1.clone();
                self.handles.retain(|handle| self.saved.0.contains(*handle));
            }
        }
        events
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1_500))]

    /// A crowd is its members: the same states, bit for bit, the same events in the order of the slots,
    /// and pictures that are told as changed where they have. Stale handles reach nobody.
    #[test]
    fn a_crowd_is_its_members(clips in vec(any_clip(CLIPS), CLIPS), commands in vec(command(), 1..40)) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        let groups = vec![GroupId::default(), crowd.add_group().unwrap(), crowd.add_group().unwrap()];
        let clock = GroupClock { scale: 1 << 16, carry: 0, frozen: 0, paused: false };
        let naive = Naive { slots: Vec::new(), groups: [clock; 3] };
        let saved = (crowd.clone(), naive.clone());
        let mut both = Both { reel: &reel, ids, crowd, groups, naive, handles: Vec::new(), saved };
        let mut shown: Vec<(Handle, Picture)> = Vec::new();
        for (nth, command) in commands.iter().enumerate() {
            let [events, expected] = both.obey(command);
            prop_assert_eq!(events, expected, "events of {:?}", command);
            let Both { crowd, naive, handles, .. } = &both;
            let alive: Vec<_> = naive.slots.iter().flatten().copied().collect();
            prop_assert_eq!(crowd.len(), alive.len());
            prop_assert_eq!(crowd.handles().collect::<Vec<_>>(), alive.iter().map(|(handle, ..)| *handle).collect::<Vec<_>>());
            for (handle, _, player) in &alive {
                if player.view(&reel).is_some() {
                    prop_assert_eq!(crowd.player(*handle), Some(*player), "after {:?}", command);
                }
                prop_assert_eq!(crowd.picture(&reel, *handle), player.picture(&reel));
            }
            for handle in handles.iter().filter(|handle| !alive.iter().any(|(known, ..)| known == *handle)) {
                prop_assert!(!crowd.contains(*handle) && crowd.player(*handle).is_none());
            }
            if matches!(command, Command::Advance(_)) {
                let now: Vec<_> = alive.iter().map(|(handle, _, player)| (*handle, player.picture(&reel))).collect();
                let changed: Vec<Handle> = crowd.changed().collect();
                for member in now.iter().filter(|member| !shown.contains(member)) {
                    prop_assert!(changed.contains(&member.0), "{:?} has changed", member);
                }
                shown = now;
            }
            if nth % 9 == 8 {
                both.saved = (both.crowd.clone(), both.naive.clone());
            }
        }
    }
}
