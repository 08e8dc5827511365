//! Whole scripts over players, actors and crowds: however their time is cut, and whatever is saved,
//! loaded or rolled back between two cuts, they come to the same, also in siblings of their reel.
//!
//! `PROPTEST_CASES=70000 cargo test --release -p lucky-reel-core --test scripts` tries many.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // the naive player is walked elsewhere
mod model;
#[path = "model/moved.rs"]
mod moved;
#[allow(dead_code)] // the naive actor is walked elsewhere
mod reference_actor;

use lucky_reel_core::*;
use model::{any_clip, build, build_into};
use moved::moved;
use proptest::collection::vec;
use proptest::prelude::*;
use reference_actor::{reported, spec};

/// A command; numbers are clips, quarters or ticks, as it needs them.
#[derive(Clone, Debug)]
enum Order {
    Play(usize),
    SwitchTo(usize),
    PlayTimes(usize, u32),
    Then(usize),
    Restart,
    Stop,
    Seek(u64),
    SeekHold(u32),
    Speed(i32),
    HitStop(u64),
    Pause(bool),
    Flip(bool),
    Fact(&'static str, i32),
    Pulse(&'static str),
    Face(usize),
    OnlyCuesAbove(Option<usize>),
    ReturnToCues,
    Sleep(bool),
}

/// What may be done between two parts of one stretch of time, and must not be seen.
#[derive(Clone, Debug)]
enum Between {
    Nothing,
    SaveAndLoad,
    /// So much time passes, a command is given, and all of it is taken back.
    TakeBack(u64, Order),
}

#[derive(Clone, Debug)]
enum Act {
    Order(Order),
    /// Another version of the reel.
    Reload(usize),
    Advance(u64, Vec<(u64, Between)>),
}

const CLIPS: usize = 4;

fn tell() -> impl Strategy<Value = Order> {
    prop_oneof![
        (0..CLIPS).prop_map(Order::Play),
        (0..CLIPS).prop_map(Order::SwitchTo),
        (0..CLIPS, 0_u32..4).prop_map(|(clip, times)| Order::PlayTimes(clip, times)),
        (0..CLIPS).prop_map(Order::Then),
        Just(Order::Restart),
        Just(Order::Stop),
        (0_u64..60).prop_map(Order::Seek),
        (0_u32..7).prop_map(Order::SeekHold),
        (-9_i32..10).prop_map(Order::Speed),
        (0_u64..12).prop_map(Order::HitStop),
        any::<bool>().prop_map(Order::Pause),
        any::<bool>().prop_map(Order::Flip),
        (prop_oneof![Just("a"), Just("n"), Just("pace")], -3_i32..9)
            .prop_map(|(fact, value)| Order::Fact(fact, value)),
        prop_oneof![Just("p"), Just("q")].prop_map(Order::Pulse),
        (0_usize..8).prop_map(Order::Face),
        proptest::option::of(0_usize..2).prop_map(Order::OnlyCuesAbove),
        Just(Order::ReturnToCues),
        any::<bool>().prop_map(Order::Sleep),
    ]
}

fn script() -> impl Strategy<Value = Vec<Act>> {
    let between = prop_oneof![
        2 => Just(Between::Nothing),
        3 => Just(Between::SaveAndLoad),
        2 => (0_u64..60, tell()).prop_map(|(time, tell)| Between::TakeBack(time, tell)),
    ];
    let cuts = vec((0_u64..40, between), 1..5);
    let time = prop_oneof![6 => 0_u64..30, 2 => 0_u64..400, 1 => 0_u64..100_000];
    let act = prop_oneof![
        5 => (time, cuts).prop_map(|(time, cuts)| Act::Advance(time, cuts)),
        5 => tell().prop_map(Act::Order),
        1 => (0_usize..4).prop_map(Act::Reload),
    ];
    vec(act, 1..16)
}

/// Something that plays.
trait Subject: Clone {
    /// What an event comes to, at its moment of the whole script.
    type Row: PartialEq + std::fmt::Debug;

    fn tell(&mut self, reel: &Reel, tell: &Order);
    fn advance(&mut self, reel: &Reel, dt: u64, now: u64, rows: &mut Vec<Self::Row>);
    fn save_and_load(&self, reel: &Reel) -> Self;
    fn reload(&mut self, _: &Reel) {}
}

/// More events than these are not compared, but the states are.
const MAX_ROWS: usize = 3_000;

impl Subject for Player {
    type Row = Event;

    fn tell(&mut self, reel: &Reel, tell: &Order) {
        let clip = |nth: usize| reel.id::<ClipId>(&format!("c{nth}")).unwrap();
        match *tell {
            Order::Play(nth) => {
                self.play(reel, clip(nth));
            }
            Order::SwitchTo(nth) => _ = self.switch_to(reel, clip(nth)),
            Order::PlayTimes(nth, times) => _ = self.play_times(reel, clip(nth), times),
            Order::Then(nth) => _ = self.then(reel, clip(nth)),
            Order::Restart => _ = self.restart(reel),
            Order::Stop => self.stop(),
            Order::Seek(time) => _ = self.seek(reel, Ticks::new(time)),
            Order::SeekHold(hold) => _ = self.seek_hold(reel, hold),
            Order::Speed(quarters) => self.set_speed(Speed::from_ratio(quarters, 4).unwrap()),
            Order::HitStop(time) => self.hit_stop(Ticks::new(time)),
            Order::Pause(true) => self.set_paused(true),
            Order::Pause(false) => self.set_paused(false),
            Order::Flip(flip) => self.set_flips(Flips { x: flip, y: false }),
            _ => {}
        }
    }

    fn advance(&mut self, reel: &Reel, dt: u64, now: u64, rows: &mut Vec<Event>) {
        let events = Player::advance(self, reel, Ticks::new(dt));
        let room = MAX_ROWS.saturating_sub(rows.len());
        rows.extend(events.take(room).map(|event| moved(event, event.at + Ticks::new(now))));
    }

    fn save_and_load(&self, reel: &Reel) -> Player {
        self.save(reel).load(reel).unwrap()
    }
}

impl Subject for Actor {
    type Row = reference_actor::Row;

    fn tell(&mut self, reel: &Reel, tell: &Order) {
        let clip = |nth: usize| reel.id::<ClipId>(&format!("c{nth}")).unwrap();
        match *tell {
            Order::Play(nth) => _ = self.play_over_cues(reel, clip(nth), 1),
            Order::PlayTimes(nth, times) => _ = self.play_over_cues(reel, clip(nth), times),
            Order::Then(nth) => _ = self.then(reel, clip(nth)),
            Order::ReturnToCues => self.return_to_cues(),
            Order::OnlyCuesAbove(Some(nth)) => {
                _ = self.yield_to_cues_above(reel, reel.id::<CueId>(&format!("k{nth}")).unwrap());
            }
            Order::Speed(quarters) => self.set_speed(reel, Speed::from_ratio(quarters, 4).unwrap()),
            Order::HitStop(time) => self.hit_stop(Ticks::new(time)),
            Order::Pause(true) => self.set_paused(true),
            Order::Pause(false) => self.set_paused(false),
            Order::Flip(flip) => self.set_flips(Flips { x: flip, y: false }),
            Order::Fact("a", value) => self.set(reel.id("a").unwrap(), value > 2).unwrap(),
            Order::Fact("n", value) => self.set(reel.id("n").unwrap(), value).unwrap(),
            Order::Fact(name, value) => {
                self.set(reel.id(name).unwrap(), value as f32 / 4.0).unwrap();
            }
            Order::Pulse(name) => self.pulse(reel.id(name).unwrap()).unwrap(),
            Order::Face(nth) => self.set_facing(Facing::ALL[nth]),
            _ => {}
        }
    }

    fn advance(&mut self, reel: &Reel, dt: u64, now: u64, rows: &mut Vec<Self::Row>) {
        let events = Actor::advance(self, reel, Ticks::new(dt));
        let room = MAX_ROWS.saturating_sub(rows.len());
        rows.extend(events.take(room).map(|event| reported(reel, now + event.at.get(), event)));
    }

    fn save_and_load(&self, reel: &Reel) -> Actor {
        self.save(reel).load(reel).unwrap()
    }
}

impl Subject for Crowd {
    type Row = (MemberId, Event);

    fn tell(&mut self, reel: &Reel, tell: &Order) {
        let clip = |nth: usize| reel.id::<ClipId>(&format!("c{nth}")).unwrap();
        let group = GroupId::default();
        // Every other member, so that neighbors differ.
        let members: Vec<MemberId> = self.ids(Target::All).step_by(2).collect();
        for member in members {
            match *tell {
                Order::Play(nth) => _ = self.play(member, clip(nth)),
                Order::SwitchTo(nth) => _ = self.switch_to(member, clip(nth)),
                Order::PlayTimes(nth, times) => {
                    _ = self.with_player(member, |one, reel| {
                        _ = one.play_times(reel, clip(nth), times);
                    });
                }
                Order::Then(nth) => {
                    _ = self.with_player(member, |one, reel| _ = one.then(reel, clip(nth)));
                }
                Order::Restart => _ = self.restart(member),
                Order::Stop => _ = self.with_player(member, |one, _| one.stop()),
                Order::Seek(time) => {
                    _ = self.with_player(member, |one, reel| _ = one.seek(reel, Ticks::new(time)));
                }
                Order::HitStop(time) => _ = self.hit_stop(member, Ticks::new(time)),
                Order::Pause(true) => _ = self.set_paused(member, true),
                Order::Pause(false) => _ = self.set_paused(member, false),
                _ => {}
            }
        }
        match *tell {
            Order::Speed(quarters) => {
                self.set_group_scale(group, f64::from(quarters.abs()) / 4.0).unwrap();
            }
            Order::Flip(_) => _ = self.set_speed(Target::All, Speed::BACKWARD),
            Order::Fact(..) => _ = self.set_speed(Target::All, Speed::NORMAL),
            Order::Sleep(true) => _ = self.sleep_group(group),
            Order::Sleep(false) => {
                self.wake_group(group, EventMask::NONE, &mut EventBuffer::new());
            }
            _ => {}
        }
    }

    fn advance(&mut self, _: &Reel, dt: u64, now: u64, rows: &mut Vec<Self::Row>) {
        let mut buffer = EventBuffer::new();
        self.advance_into(Ticks::new(dt), EventMask::ALL, &mut buffer);
        let room = MAX_ROWS.saturating_sub(rows.len());
        let moved =
            |(member, event): (MemberId, Event)| (member, moved(event, event.at + Ticks::new(now)));
        rows.extend(buffer.iter().take(room).map(moved));
    }

    fn save_and_load(&self, reel: &Reel) -> Crowd {
        self.save().load(reel).unwrap()
    }

    fn reload(&mut self, reel: &Reel) {
        assert!(Crowd::reload(self, reel));
    }
}

/// Goes through a script, with its cuts or without.
fn go<S: Subject>(
    versions: &[Reel],
    mut subject: S,
    script: &[Act],
    cut: bool,
) -> (S, Vec<S::Row>) {
    let (mut reel, mut now, mut rows) = (&versions[0], 0, Vec::new());
    for act in script {
        match act {
            Act::Order(tell) => subject.tell(reel, tell),
            Act::Reload(nth) => {
                // A version in which no time has passed is not known to what is not saved in it.
                subject.advance(reel, 1, now, &mut rows);
                now += 1;
                reel = &versions[nth % versions.len()];
                subject.reload(reel);
            }
            Act::Advance(time, cuts) => {
                let mut left = *time;
                for (part, between) in cuts.iter().filter(|_| cut) {
                    let part = *part.min(&left);
                    subject.advance(reel, part, now, &mut rows);
                    (now, left) = (now + part, left - part);
                    match between {
                        Between::Nothing => {}
                        Between::SaveAndLoad => subject = subject.save_and_load(reel),
                        Between::TakeBack(time, tell) => {
                            let kept = subject.clone();
                            subject.advance(reel, *time, now, &mut Vec::new());
                            subject.tell(reel, tell);
                            subject.advance(reel, *time, now, &mut Vec::new());
                            subject = kept;
                        }
                    }
                }
                subject.advance(reel, left, now, &mut rows);
                now += left;
            }
        }
    }
    // In the last version of the reel, to which nothing needs to find its way any more.
    subject.advance(reel, 1, now, &mut rows);
    (subject, rows)
}

proptest! {
    #[test]
    fn a_player_comes_to_the_same(
        base in vec(any_clip(CLIPS), CLIPS), one in vec(any_clip(CLIPS), CLIPS),
        other in vec(any_clip(CLIPS), CLIPS), script in script(),
    ) {
        let (reel, ids) = build(&base);
        let sibling = |clips: &_| build_into(reel.reload(), clips).0;
        let (one, other) = (sibling(&one), sibling(&other));
        let after = build_into(one.reload(), &base).0;
        let player = Player::new(&reel, ids[0]);
        let versions = [reel, one, other, after];
        let (whole, cut) = (go(&versions, player, &script, false), go(&versions, player, &script, true));
        prop_assert_eq!(whole.1, cut.1);
        prop_assert_eq!(whole.0, cut.0);
    }

    #[test]
    fn an_actor_comes_to_the_same(base in spec(), one in spec(), script in script()) {
        let reel = base.build();
        let (one, other) = (one.build_into(reel.reload()), base.build_into(reel.reload()));
        let actor = Actor::new(&reel, reel.id("").unwrap());
        let versions = [reel, one, other];
        let whole = go(&versions, actor, &script, false);
        let cut = go(&versions, actor, &script, true);
        prop_assert_eq!(whole.1, cut.1);
        prop_assert_eq!(whole.0, cut.0);
    }

    #[test]
    fn a_crowd_comes_to_the_same(
        base in vec(any_clip(CLIPS), CLIPS), one in vec(any_clip(CLIPS), CLIPS),
        other in vec(any_clip(CLIPS), CLIPS), count in 1_usize..6, script in script(),
    ) {
        let (reel, ids) = build(&base);
        let sibling = |clips: &_| build_into(reel.reload(), clips).0;
        let (one, other) = (sibling(&one), sibling(&other));
        let after = build_into(one.reload(), &base).0;
        let mut crowd = Crowd::new(&reel);
        for nth in 0..count {
            crowd.spawn(ids[nth % CLIPS]).unwrap();
        }
        let versions = [reel, one, other, after];
        let mut whole = go(&versions, crowd.clone(), &script, false);
        let mut cut = go(&versions, crowd, &script, true);
        if whole.1.len() < MAX_ROWS {
            whole.1.sort_by_key(|(member, _)| *member); // stable: each member's stay in order
            cut.1.sort_by_key(|(member, _)| *member);
            prop_assert_eq!(whole.1, cut.1);
        }
        prop_assert_eq!(whole.0.save(), cut.0.save());
    }
}
