//! The laws of playback, checked on random cases against a naive model.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // some of it is for actors
mod model;
#[path = "model/moved.rs"]
mod moved;

use lucky_reel_core::*;
use model::{Model, Reported, UNITS, any_clip, build, reported};
use moved::moved;
use proptest::collection::vec;
use proptest::prelude::*;

#[derive(Clone, Debug)]
enum Command {
    Advance(u64),
    Play(usize),
    SwitchTo(usize),
    Restart,
    Stop,
    Pause(bool),
    /// In 65,536ths.
    Speed(i32),
    Seek(i64),
    SeekHold(usize),
    HitStop(u64),
    PlayTimes(usize, u32),
    Then(usize),
}

const CLIPS: usize = 4;

fn command() -> impl Strategy<Value = Command> {
    use Command::*;
    prop_oneof![
        8 => (0_u64..25).prop_map(Advance),
        1 => (0_u64..400).prop_map(Advance),
        3 => any_speed().prop_map(Speed),
        1 => (0..CLIPS).prop_map(Play),
        1 => (0..CLIPS).prop_map(SwitchTo),
        1 => Just(Restart),
        1 => Just(Stop),
        1 => any::<bool>().prop_map(Pause),
        1 => (0_i64..60).prop_map(Seek),
        1 => (0_usize..7).prop_map(SeekHold),
        1 => (0_u64..12).prop_map(HitStop),
        1 => (0..CLIPS, 0_u32..4).prop_map(|(clip, times)| PlayTimes(clip, times)),
        1 => (0..CLIPS).prop_map(Then),
    ]
}

/// Quarters, which land on boundaries, and any others.
fn any_speed() -> impl Strategy<Value = i32> {
    prop_oneof![2 => (-9_i32..10).prop_map(|quarters| quarters * UNITS as i32 / 4), 1 => -200_000_i32..200_000]
}

fn speed_of(bits: i32) -> Speed {
    Speed::from_bits(bits).unwrap()
}

/// Everything but `Advance`.
fn obey(player: &mut Player, reel: &Reel, ids: &[ClipId], command: &Command) {
    match *command {
        Command::Advance(_) => {}
        Command::Play(clip) => assert!(player.play(reel, ids[clip])),
        Command::SwitchTo(clip) => assert!(player.switch_to(reel, ids[clip])),
        Command::Restart => assert!(player.restart(reel)),
        Command::Stop => player.stop(),
        Command::Pause(true) => player.set_paused(true),
        Command::Pause(false) => player.set_paused(false),
        Command::Speed(bits) => player.set_speed(speed_of(bits)),
        Command::Seek(ticks) => assert!(player.seek(reel, Ticks::new(ticks as u64))),
        Command::SeekHold(hold) => assert!(player.seek_hold(reel, hold as u32)),
        Command::HitStop(ticks) => player.hit_stop(Ticks::new(ticks)),
        Command::PlayTimes(clip, times) => assert!(player.play_times(reel, ids[clip], times)),
        Command::Then(clip) => {
            let over = player.then(reel, ids[clip]) == Err(CommandError::Over);
            assert!(over || !player.has_ended());
        }
    }
}

fn obey_model(model: &mut Model, command: &Command) {
    match *command {
        Command::Advance(_) => {}
        Command::Play(clip) => model.play(clip),
        Command::SwitchTo(clip) => model.switch_to(clip),
        Command::Restart => model.restart(),
        Command::Stop => model.stop(),
        Command::Pause(paused) => model.pause(paused),
        Command::Speed(bits) => model.set_speed(i64::from(bits)),
        Command::Seek(ticks) => model.seek(ticks),
        Command::SeekHold(hold) => model.seek_hold(hold),
        Command::HitStop(ticks) => model.hit_stop(ticks),
        Command::PlayTimes(clip, times) => model.play_times(clip, i64::from(times)),
        Command::Then(clip) => _ = model.then(clip),
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(3_000))]

    /// All modes, ends, speeds and commands: the player does what the model does, and tells the same
    /// events at the same moments in the same order.
    #[test]
    fn player_and_model_agree(clips in vec(any_clip(CLIPS), CLIPS), commands in vec(command(), 1..25)) {
        let (reel, ids) = build(&clips);
        let mut player = Player::new(&reel, ids[0]);
        let mut model = Model::new(clips);
        for command in &commands {
            obey(&mut player, &reel, &ids, command);
            obey_model(&mut model, command);
            if let Command::Advance(dt) = command {
                let events: Vec<Reported> =
                    player.advance(&reel, Ticks::new(*dt)).map(|event| reported(&reel, event)).collect();
                prop_assert_eq!(events, model.advance(*dt), "events of {:?}", command);
            }
            prop_assert_eq!(player.hold_index(&reel), model.shown(), "hold after {:?}", command);
            prop_assert_eq!(i64::from(player.cycle()), model.cycle(), "cycle after {:?}", command);
            prop_assert_eq!(player.clip(), ids[model.clip()], "clip after {:?}", command);
            prop_assert_eq!(player.has_ended(), model.has_ended(), "over after {:?}", command);
            let remaining = player.remaining(&reel).map(Ticks::get);
            prop_assert_eq!(remaining, model.remaining(), "time left after {:?}", command);
        }
    }

    /// Any split of the same time gives the same state, bit for bit, and the same events.
    #[test]
    fn any_split_of_the_time_gives_the_same(
        clips in vec(any_clip(CLIPS), CLIPS), commands in vec(command(), 1..12), splits in vec(0_u64..9, 1..6),
    ) {
        let (reel, ids) = build(&clips);
        let (mut whole, mut split) = (Player::new(&reel, ids[0]), Player::new(&reel, ids[0]));
        for command in &commands {
            obey(&mut whole, &reel, &ids, command);
            obey(&mut split, &reel, &ids, command);
            let Command::Advance(dt) = *command else { continue };
            let at_once: Vec<Event> = whole.advance(&reel, Ticks::new(dt)).collect();
            let (mut bit_by_bit, mut passed) = (Vec::new(), 0);
            for step in splits.iter().copied().cycle().map(|step| step + u64::from(splits.iter().all(|s| *s == 0))) {
                let step = step.min(dt - passed);
                bit_by_bit.extend(split.advance(&reel, Ticks::new(step)).map(|event| later(event, passed)));
                passed += step;
                if passed == dt {
                    break;
                }
            }
            prop_assert_eq!(whole, split);
            prop_assert_eq!(at_once, bit_by_bit);
        }
    }

    /// Over months and at any speed, where no model can walk along: one step and many end alike, and
    /// a look-up agrees with them.
    #[test]
    fn long_times_split_alike_and_the_look_up_agrees(
        clips in vec(any_clip(CLIPS), CLIPS), bits in any::<i32>(), steps in vec(0_u64..1 << 47, 1..9),
    ) {
        let (reel, ids) = build(&clips);
        let speed = Speed::from_bits(bits / 8).unwrap();
        let mut split = Player::new(&reel, ids[0]);
        split.set_speed(speed);
        let mut whole = split;
        for step in &steps {
            split.advance(&reel, Ticks::new(*step));
        }
        let sum = Ticks::new(steps.iter().sum());
        whole.advance(&reel, sum);
        prop_assert_eq!(whole, split);
    }

    /// The partition law holds for distance covered, over chains of clips with rates of their own.
    #[test]
    fn any_split_of_the_ground_gives_the_same(
        holds in vec(vec(1_u64..90_000, 1..5), 3), covers in vec(1_u32..2_000, 3), back in any::<bool>(),
        far in 0_u32..400, splits in vec(1_u32..4_000, 1..5), ring in any::<bool>(),
    ) {
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cell_size([8, 8])));
        for index in 0..3 {
            let mut clip = NewClip::of(sheet).mode(Mode::Once).stride(f64::from(covers[index]) / 64.0);
            for (frame, ticks) in holds[index].iter().enumerate() {
                clip = clip.hold(frame as u32, Ticks::new(ticks + 2_000));
            }
            let next = if index < 2 { Some(index + 1) } else { ring.then_some(0) };
            builder.clip(format!("c{index}"), match next {
                Some(next) => clip.end(ClipEnd::Play(format!("c{next}"))),
                None => clip,
            });
        }
        let reel = builder.build().unwrap();
        let mut whole = Player::new(&reel, reel.id("c0").unwrap());
        let mut split = whole;
        let step = |pixels_64ths: u32| pixels_64ths as f32 / if back { -64.0 } else { 64.0 };
        let total = far * 64;
        // As many ticks as steps of distance, so that each is one of the other.
        let time = |pixels_64ths: u32| Ticks::new(u64::from(pixels_64ths) << 10);
        let at_once: Vec<Event> =
            whole.advance_by_distance(&reel, step(total), time(total)).take(500).collect();
        let (mut bit_by_bit, mut passed) = (Vec::new(), 0);
        for part in splits.into_iter().cycle() {
            let part = part.min(total - passed);
            let events = split.advance_by_distance(&reel, step(part), time(part));
            bit_by_bit.extend(events.map(|event| moved(event, event.at + time(passed))));
            passed += part;
            if passed == total {
                break;
            }
        }
        bit_by_bit.truncate(500);
        prop_assert_eq!(whole, split);
        prop_assert_eq!(at_once, bit_by_bit);
    }

    /// Stepping through by hand shows what playing shows.
    #[test]
    fn steps_visit_the_holds_that_playing_enters(clips in vec(any_clip(CLIPS), CLIPS), count in 1_usize..12) {
        let (reel, ids) = build(&clips);
        let mut playing = Player::new(&reel, ids[0]);
        let entered = playing.advance(&reel, Ticks::from_secs(1)).filter_map(|event| match event.kind {
            EventKind::Enter(_) => Some((event.clip, Some(event.hold))),
            _ => None,
        });
        let entered: Vec<_> = entered.skip(1).take(count).collect();
        let mut stepping = Player::new(&reel, ids[0]);
        let mut stepped = Vec::new();
        while stepped.len() < count && stepping.step_forward(&reel) {
            stepped.push((stepping.clip(), stepping.hold_index(&reel)));
        }
        prop_assert_eq!(&stepped, &entered);
        let there = stepping;
        if stepping.step_back(&reel) && stepping.clip() == there.clip() {
            prop_assert!(stepping.step_forward(&reel));
            prop_assert_eq!((stepping.hold_index(&reel), stepping.cycle()), (there.hold_index(&reel), there.cycle()));
        }
    }
}

/// An event of a later part of the same advance.
fn later(event: Event, ticks: u64) -> Event {
    moved(event, event.at + Ticks::new(ticks))
}

proptest! {
    /// A unison, a look-up and a player never disagree, whatever the clips and the updates; and what is
    /// reported as changed is what has changed.
    #[test]
    fn a_unison_shows_what_players_show(
        clips in vec(any_clip(CLIPS), CLIPS),
        updates in vec((0_u64..40, proptest::option::of(any_speed())), 1..12),
    ) {
        let (reel, ids) = build(&clips);
        let mut unison = Unison::new(&reel);
        let mut players: Vec<Player> = ids.iter().map(|clip| Player::new(&reel, *clip)).collect();
                for (dt, speed) in updates {
            if let Some(speed) = speed.map(speed_of) {
                unison.set_speed(speed);
                players.iter_mut().for_each(|player| player.set_speed(speed));
            }
            let before: Vec<_> = ids.iter().map(|clip| unison.packed_frame(*clip)).collect();
            unison.advance(Ticks::new(dt));
            for (clip, player) in ids.iter().zip(&mut players) {
                player.advance(&reel, Ticks::new(dt));
                prop_assert_eq!(unison.packed_frame(*clip).frame(), player.packed_frame(&reel).frame());
                prop_assert_eq!(unison.cycle(*clip), player.cycle());
                let view = |view: Option<View<'_>>| view.map(|view| (view.id, view.flips));
                prop_assert_eq!(view(unison.view(*clip)), view(player.view(&reel)));
            }
            let differ = |clip: &ClipId| before[clip.index()] != unison.packed_frame(*clip);
            let changed: Vec<ClipId> = ids.iter().copied().filter(differ).collect();
            prop_assert_eq!(unison.changed().collect::<Vec<_>>(), changed);
        }
    }
}
