//! Frames that are simulated again: an event is heard once, whoever it belongs to, and a crowd that was
//! rolled back is the crowd that it was.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;

use lucky_reel::{crowd::*, event::*, id::*, reel::*, *};
use proptest::prelude::*;

const WINDOW: u64 = 8;

fn reel() -> Reel {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let new = || NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mark("m", [1, 2]);
    builder.clip("walk", new());
    builder.clip("swing", new().mode(Mode::Once));
    builder.build().unwrap()
}

/// What a game may do in a frame: nothing, one of the clips, turn around.
fn obey(crowd: &mut Crowd, reel: &Reel, input: u8) {
    let member = crowd.ids(Target::All).nth(usize::from(input) % 2);
    let Some(member) = member else { return };
    match input % 8 {
        0 | 1 => _ = crowd.play(member, reel.id("swing").unwrap()),
        2 | 3 => _ = crowd.switch_to(member, reel.id("walk").unwrap()),
        4 => _ = crowd.set_speed(member, Speed::BACKWARD),
        5 => _ = crowd.set_speed(member, Speed::NORMAL),
        _ => {}
    }
}

/// By sets of each frame: those of the simulation that goes on, and those of what was rolled back.
#[derive(Default)]
struct Naive {
    now: u64,
    heard: BTreeMap<u64, Vec<(MemberId, u64)>>,
    undone: BTreeMap<u64, Vec<(MemberId, u64)>>,
}

impl Naive {
    fn begin_frame(&mut self, frame: u64) {
        if frame <= self.now {
            for (at, events) in self.heard.split_off(&frame) {
                self.undone.entry(at).or_default().extend(events);
            }
        }
        self.now = frame;
        let is_recent = |at: &u64| at + WINDOW >= frame;
        self.heard.retain(|at, _| is_recent(at));
        self.undone.retain(|at, _| is_recent(at));
    }

    fn is_new(&mut self, who: MemberId, event: &Event) -> bool {
        let one = (who, event.serial);
        let known = self.undone.values_mut().find_map(|events| {
            let at = events.iter().position(|undone| *undone == one)?;
            Some(events.remove(at))
        });
        self.heard.entry(self.now).or_default().push(one);
        known.is_none()
    }
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(500) })]

    /// However often frames are simulated again, with the inputs that were guessed or with others.
    #[test]
    fn an_event_is_heard_once(
        inputs in prop::collection::vec(any::<u8>(), 60),
        guesses in prop::collection::vec(prop::option::of(any::<u8>()), 60),
        late in prop::collection::vec(0_u64..=WINDOW, 60), guesses_wrong in any::<bool>(),
    ) {
        let reel = reel();
        let mut crowd = Crowd::new(&reel);
        for clip in ["walk", "swing"] {
            crowd.spawn(reel.id::<ClipId>(clip).unwrap()).unwrap();
        }
        let (mut heard, mut naive) = (EventHistory::new(WINDOW), Naive::default());
        let (mut snapshots, mut buffer) = (Vec::new(), EventBuffer::new());
        let (mut new, mut straight) = (0_usize, 0_usize);
        let mut all_guessed = true;
        let mut truth = crowd.clone();
        for frame in 0..60_u64 {
            // Inputs come late: the frames since then are simulated again, right this time.
            let from = frame.saturating_sub(late[frame as usize]);
            for again in from..=frame {
                if let Some(snapshot) = snapshots.get(again as usize) {
                    crowd.clone_from(snapshot);
                }
                snapshots.truncate(again as usize);
                snapshots.push(crowd.clone());
                heard.begin_frame(again);
                naive.begin_frame(again);
                let is_guessed = guesses_wrong && again == frame && frame < 59;
                let guess = guesses[again as usize].filter(|_| is_guessed);
                all_guessed &= guess.is_none_or(|guess| guess == inputs[again as usize]);
                obey(&mut crowd, &reel, guess.unwrap_or(inputs[again as usize]));
                crowd.advance_into(Ticks::new(7), EventMask::ALL, &mut buffer);
                for (member, event) in &buffer {
                    let is_new = heard.is_new(member, &event);
                    prop_assert_eq!(is_new, naive.is_new(member, &event));
                    new += usize::from(is_new);
                }
            }
            obey(&mut truth, &reel, inputs[frame as usize]);
            truth.advance_into(Ticks::new(7), EventMask::ALL, &mut buffer);
            straight += buffer.iter().count();
        }
        if all_guessed {
            prop_assert_eq!(new, straight, "each once");
            prop_assert!(crowd == truth && crowd.checksum() == truth.checksum());
        }
    }
}

/// An actor that vanishes stays, unless it was to be freed: at the same moment, however the time is split.
#[test]
fn an_actor_is_freed_where_that_is_wanted() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let puff = NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mode(Mode::Once);
    builder.clip("puff", puff.end(ClipEnd::Vanish));
    builder.clip("glow", NewClip::of(sheet).frames([5]));
    builder.fact("lit", false);
    builder.cue("glowing", NewCue::play("glow").when(Condition::new().fact("lit", true)));
    builder.cue("bursting", NewCue::play("puff"));
    let reel = builder.build().unwrap();
    let (role, lit): (RoleId, FactId<bool>) = (reel.id("").unwrap(), reel.id("lit").unwrap());
    for step in [1, 7, 40, 1_000] {
        let mut crowd = Crowd::new(&reel);
        let stays = crowd.spawn(role).unwrap();
        let new = NewMember::acting(role).freed_when_vanished();
        let [goes, comes_back] = [0, 1].map(|_| crowd.spawn(new).unwrap());
        crowd.advance(Ticks::new(30));
        crowd.set_fact(comes_back, lit, true).unwrap();
        let mut restored = crowd.save().load(&reel).unwrap();
        for crowd in [&mut crowd, &mut restored] {
            for _ in 0..1_000 / step {
                crowd.advance(Ticks::new(step));
            }
            let there = [stays, goes, comes_back].map(|member| crowd.contains(member));
            assert_eq!(there, [true, false, true], "in steps of {step}");
            assert!(crowd.view(stays).is_none() && crowd.view(comes_back).is_some());
        }
        assert!(restored == crowd);
        crowd.set_fact(stays, lit, true).unwrap();
        crowd.advance(Ticks::new(1));
        assert!(crowd.view(stays).is_some(), "it comes back when another cue wins");
    }
}
