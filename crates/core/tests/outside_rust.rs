//! Ids and players as plain numbers, as other languages keep them: what goes out comes back, and numbers
//! that nobody gave do no harm.

#![allow(clippy::unwrap_used)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

fn reel() -> Reel {
    fill(Reel::builder())
}

fn fill(mut builder: ReelBuilder) -> Reel {
    let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    let clip = || NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(40));
    builder.clip("walk", clip().mark("step", [1, 3]));
    builder.clip("sway", clip().mode(Mode::PingPong).repeat(3).end(ClipEnd::Vanish));
    builder.clip("land", clip().mode(Mode::Once).end(ClipEnd::Play("walk".into())));
    builder.clip("rest", NewClip::of(sheet).frames([2]));
    builder.fact("moving", false);
    builder.fact("steps", 0);
    builder.fact("hand", NewFact::choices(["left", "right"]));
    builder.cue("walking", NewCue::play("walk").when(Condition::new().fact("moving", true)));
    builder.cue("resting", NewCue::play("rest"));
    builder.build().unwrap()
}

fn play(reel: &Reel, player: &mut Player, orders: &[(u8, u64)]) -> Vec<Event> {
    let clips: Vec<ClipId> = reel.clips().map(|clip| clip.id).collect();
    let mut events = Vec::new();
    for (order, number) in orders {
        match order % 8 {
            0 => drop(player.play(reel, clips[*number as usize % clips.len()])),
            1 => player.set_speed(Speed::from_bits(*number as i32 % 300_000).unwrap()),
            2 => drop(player.play_times(reel, clips[*number as usize % clips.len()], 2)),
            3 => drop(player.seek(reel, Ticks::new(number % 90_000_000))),
            4 => player.hit_stop(Ticks::from_millis(number % 50)),
            _ => events.extend(player.advance(reel, Ticks::new(number % 9_000_000))),
        }
    }
    events
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn a_player_comes_back_and_goes_on_as_if_it_had_never_left(
        before in prop::collection::vec((any::<u8>(), any::<u64>()), 0..20),
        after in prop::collection::vec((any::<u8>(), any::<u64>()), 1..20),
    ) {
        let reel = reel();
        let mut player = Player::new(&reel, reel.id("walk").unwrap());
        play(&reel, &mut player, &before);
        let mut back = Player::from_bits(&reel, player.to_bits()).unwrap();
        prop_assert_eq!(back, player);
        prop_assert_eq!(play(&reel, &mut back, &after), play(&reel, &mut player, &after));
        prop_assert_eq!(back, player);
        // In another version it finds its place, as a player does that stayed in Rust.
        let next = fill(reel.reload());
        let mut back = Player::from_bits(&next, player.to_bits()).unwrap();
        prop_assert_eq!(play(&next, &mut back, &after), play(&next, &mut player, &after));
        player.advance(&next, Ticks::ZERO); // it has met the version by now, whatever came after
        prop_assert_eq!(back, player);
        prop_assert_eq!(Player::from_bits(&self::reel(), player.to_bits()), None);
    }

    #[test]
    fn numbers_that_nobody_gave_do_no_harm(
        bits in any::<[u64; 6]>(),
        says_it_is_of in 0_usize..3,
        orders in prop::collection::vec((any::<u8>(), any::<u64>()), 1..20),
        ids in any::<[u64; 4]>(),
    ) {
        let reel = reel();
        let next = fill(reel.reload());
        let known = Player::new(&reel, reel.id("walk").unwrap()).to_bits();
        let later = Player::new(&next, next.id("walk").unwrap()).to_bits();
        let mut bits = bits;
        bits[2] = known[2] >> 32 << 32 | bits[2] & 0xffff_ffff;
        bits[1] &= 0x3fff_ffff_ffff >> (14 * (ids[0] % 2)); // a hit-stop that some of the times are beyond
        bits[4] &= 0x0003_0003_0003_ffff; // clips that there are
        if let Some(build) = [known[3], later[3]].get(says_it_is_of) {
            bits[3] = build & 0xffff_ffff | bits[3] >> 32 << 32;
        }
        if let Some(mut player) = Player::from_bits(&reel, bits) {
            let view = player.view(&reel);
            prop_assert!(view.is_none_or(|view| view.frame.source.width == 32));
            play(&reel, &mut player, &orders);
            prop_assert_eq!(Player::from_bits(&reel, player.to_bits()), Some(player));
        }
        // Whatever version they say they are of, they are safe with any.
        for [one, other] in [[&reel, &next], [&next, &reel]] {
            if let Some(mut player) = Player::from_bits(one, bits) {
                play(other, &mut player, &orders);
                play(one, &mut player, &orders);
            }
        }
        let [one, two, three, four] = ids;
        prop_assert!(reel.clip(ClipId::from_bits(one)).is_none());
        prop_assert!(reel.role(RoleId::from_bits(two)).is_none());
        prop_assert_eq!(reel.name(MarkId::from_bits(three)), "");
        // An actor takes a fact that nobody gave, of its own role or not, and does no harm.
        let role: RoleId = reel.id("").unwrap();
        let mut actor = Actor::new(&reel, role);
        let moving = reel.id::<FactId<bool>>("moving").unwrap().to_bits();
        let own = moving & !0xff | four & 0xff;
        let choice = ChoiceId::from_bits(role.to_bits() << 16 | four & 0xffff);
        for bits in [own, four] {
            let kinds = (bits & !(0xff << 56), FactId::<ChoiceId>::from_bits(bits));
            let _ = actor.set(FactId::<bool>::from_bits(kinds.0), four % 2 == 0);
            let _ = actor.set(FactId::<i32>::from_bits(kinds.0 | 1 << 56), four as i32);
            let _ = actor.set(FactId::<f32>::from_bits(kinds.0 | 2 << 56), four as f32);
            let _ = actor.set(FactId::<ChoiceId>::from_bits(kinds.0 | 3 << 56), choice);
            let _ = actor.pulse(FactId::from_bits(kinds.0 | 4 << 56));
            prop_assert!(actor.set(kinds.1, choice).is_err(), "it says that it is of another type");
        }
        actor.advance(&reel, Ticks::from_secs(1)).take(100).for_each(drop);
        let again = actor.save(&reel).load(&reel).unwrap();
        prop_assert_eq!(again.save(&reel).load(&reel), Ok(again));
        let picture = PackedFrame::from_bits(one as u32 | 1 << 20);
        prop_assert!(picture.view(&reel).is_none());
        let instance: Instance = InstanceWriter::new(&reel).make(picture, Placement::at([0.0; 2]));
        prop_assert_eq!(instance.source[2], 0, "nothing is drawn");
    }
}

#[test]
fn ids_come_back() {
    let reel = reel();
    for clip in reel.clips().map(|clip| clip.id) {
        assert_eq!(ClipId::from_bits(clip.to_bits()), clip);
    }
    let step: MarkId = reel.id("step").unwrap();
    assert_eq!(MarkId::from_bits(step.to_bits()), step);
    let moving: FactId<bool> = reel.id("moving").unwrap();
    assert_eq!(FactId::from_bits(moving.to_bits()), moving);
    let other_type = FactId::<i32>::from_bits(moving.to_bits());
    assert_eq!(reel.name(other_type), "", "it is of another type");
    let mut actor = Actor::new(&reel, reel.id("").unwrap());
    assert_eq!(actor.set(other_type, 1), Err(CommandError::UnknownId));
    let hand: FactId<ChoiceId> = reel.id("hand").unwrap();
    let right: ChoiceId = reel.id("hand = right").unwrap();
    assert_eq!((ChoiceId::at(hand, 1), ChoiceId::from_bits(right.to_bits())), (right, right));
    assert_eq!((reel.name(right), reel.name(ChoiceId::at(hand, 2))), ("right", ""));
    let near = reel.id::<ChoiceId>("hand = rihgt").unwrap_err();
    assert_eq!(near.near(), Some("right"));
    assert!(reel.id::<ChoiceId>("moving = right").is_err() && reel.id::<ChoiceId>("hand").is_err());
    // Those of another reel stay foreign, whatever their number.
    let other = self::reel();
    assert!(other.clip(ClipId::from_bits(reel.id::<ClipId>("walk").unwrap().to_bits())).is_none());
    assert_eq!(other.name(FactId::<bool>::from_bits(moving.to_bits())), "");
}
