//! What crowds and unisons promise besides being their members: who hears what, which slots are given,
//! groups whose time is their own, looks, saving, reloading, tiles.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // how a reel file writes them is for the command
#[path = "model/clips.rs"]
mod clips;
#[path = "model/moved.rs"]
mod moved;

use clips::{any_clip, build};
use lucky_reel_core::*;
use moved::{heard, moved};
use proptest::collection::vec;
use proptest::prelude::*;

const CLIPS: usize = 4;

fn speed_of(quarters: i64) -> Speed {
    Speed::from_ratio(quarters as i32, 4).unwrap()
}

/// An event of a later part of the same advance.
fn later(event: Event, ticks: u64) -> Event {
    moved(event, event.at + Ticks::new(ticks))
}

fn wanted() -> impl Strategy<Value = EventMask> {
    vec(
        prop_oneof![
            Just(EventMask::ENTERS),
            Just(EventMask::MARKS),
            Just(EventMask::CYCLES),
            Just(EventMask::ENDS)
        ],
        0..4,
    )
    .prop_map(|some| some.into_iter().fold(EventMask::NONE, |all, one| all | one))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    /// The events asked for are the events reported: of all that happens, in its order; and when read from
    /// a buffer that has heard it all. Hearing them changes nothing.
    #[test]
    fn what_is_asked_for_is_reported(
        clips in vec(any_clip(CLIPS), CLIPS), members in vec((0..CLIPS, -5_i64..9, 0_u64..20), 1..80),
        updates in vec(0_u64..9, 1..6), tell in wanted(),
    ) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        for (clip, quarters, start) in members {
            let new = NewMember::playing(ids[clip]).speed(speed_of(quarters));
            crowd.spawn(new.started_at(Ticks::new(start))).unwrap();
        }
        let (mut some, mut silent) = (crowd.clone(), crowd.clone());
        let (mut all_told, mut some_told) = (EventBuffer::new(), EventBuffer::new());
        for dt in updates.into_iter().map(Ticks::new) {
            crowd.advance_into(dt, EventMask::ALL, &mut all_told);
            some.advance_into(dt, tell, &mut some_told);
            silent.advance(dt);
            let all = all_told.iter();
            let expected: Vec<_> = all.filter(|(_, event)| tell.wants(event.kind)).collect();
            prop_assert_eq!(some_told.iter().collect::<Vec<_>>(), &expected[..]);
            prop_assert_eq!(all_told.iter().select(tell).collect::<Vec<_>>(), &expected[..]);
        }
        prop_assert!(crowd == some && crowd == silent);
        prop_assert_eq!([crowd.checksum(), some.checksum()], [silent.checksum(); 2]);
    }

    /// Any split of the game's time gives a group the same, whatever its scale: the same members, bit for
    /// bit, and the same events at the same moments of the game.
    #[test]
    fn any_split_gives_a_group_the_same(
        clips in vec(any_clip(CLIPS), CLIPS), factor in 0.0_f64..3.0,
        members in vec((0..CLIPS, 1_i64..9, 0_u64..20), 1..6), total in 1_u64..300, splits in vec(1_u64..40, 1..8),
    ) {
        let (reel, ids) = build(&clips);
        let mut whole = Crowd::new(&reel);
        let group = whole.add_group().unwrap();
        whole.set_group_scale(group, factor).unwrap();
        for (clip, quarters, hit_stop) in members {
            let new = NewMember::playing(ids[clip]).speed(speed_of(quarters)).in_group(group);
            let member = whole.spawn(new).unwrap();
            whole.hit_stop(member, Ticks::new(hit_stop));
        }
        let mut split = whole.clone();
        let at_once = heard(&mut whole, Ticks::new(total), EventMask::ALL);
        let (mut bit_by_bit, mut passed) = (Vec::new(), 0);
        for step in splits.into_iter().cycle() {
            let step = step.min(total - passed);
            let part = heard(&mut split, Ticks::new(step), EventMask::ALL);
            bit_by_bit.extend(part.into_iter().map(|(member, event)| (member, later(event, passed))));
            passed += step;
            if passed == total {
                break;
            }
        }
        bit_by_bit.sort_by_key(|(member, _)| *member); // stable: each member's stay in order
        prop_assert_eq!(at_once, bit_by_bit);
        prop_assert_eq!(whole.save(), split.save());
    }

    /// Slots are given as the documentation says: the lowest that is free in the blocks of a group and a
    /// kind, or the first of a new block. Handles differ forever.
    #[test]
    fn slots_are_given_as_is_reported(commands in vec((0_usize..3, any::<bool>(), 0_usize..300), 1..400)) {
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
        let clip = builder.clip("c", NewClip::of(sheet).frames([0]).fps(1));
        builder.cue("always", NewCue::play("c"));
        let reel = builder.build().unwrap();
        let role: RoleId = reel.id("").unwrap();
        let mut crowd = Crowd::new(&reel);
        let groups = [GroupId::default(), crowd.add_group().unwrap()];
        // Of each block: its group and kind, and who is in it.
        let mut blocks: Vec<(usize, [Option<MemberId>; 64])> = Vec::new();
        let mut ever: Vec<MemberId> = Vec::new();
        for (kind, leaves, which) in commands {
            if leaves {
                let slot = blocks.iter_mut().flat_map(|(_, slots)| slots).filter(|slot| slot.is_some()).nth(which);
                if let Some(slot) = slot {
                    prop_assert_eq!(crowd.remove(slot.unwrap()), 1);
                    *slot = None;
                }
                continue;
            }
            let new = if kind == 2 { NewMember::acting(role) } else { NewMember::playing(clip) };
            let handle = crowd.spawn(new.in_group(groups[kind % 2])).unwrap();
            let free = |(of, slots): &(usize, [Option<MemberId>; 64])| *of == kind && slots.contains(&None);
            let at = blocks.iter().position(free).unwrap_or_else(|| {
                blocks.push((kind, [None; 64]));
                blocks.len() - 1
            });
            let lane = blocks[at].1.iter().position(Option::is_none).unwrap();
            blocks[at].1[lane] = Some(handle);
            prop_assert_eq!(handle.index(), at * 64 + lane);
            prop_assert!(!ever.contains(&handle));
            ever.push(handle);
        }
        let there: Vec<MemberId> = blocks.iter().flat_map(|(_, slots)| slots).copied().flatten().collect();
        prop_assert_eq!(crowd.ids(Target::All).collect::<Vec<_>>(), there);
        prop_assert_eq!(crowd.slots(), blocks.len() * 64);
    }

    /// In the next version of its reel, which may have lost clips and have others, a crowd does what
    /// single players do.
    #[test]
    fn a_crowd_is_reloaded_as_its_members(
        before in vec(any_clip(CLIPS), CLIPS), after in vec(any_clip(CLIPS), CLIPS),
        members in vec((0..CLIPS, -5_i64..9, 0_u64..20), 1..80), updates in vec(0_u64..9, 1..5),
    ) {
        let (reel, ids) = build(&before);
        let next = {
            let mut builder = reel.reload();
            let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
            for (index, clip) in after.iter().enumerate() {
                let new = NewClip::of(sheet).mode(clip.mode);
                builder.clip(format!("c{index}"), clip.add_holds(new, |hold| 7 - hold % 8));
            }
            builder.build().unwrap()
        };
        let mut crowd = Crowd::new(&reel);
        let mut players: Vec<(MemberId, Player)> = members.into_iter().map(|(clip, quarters, start)| {
            let mut player = Player::new(&reel, ids[clip]);
            player.set_speed(speed_of(quarters));
            player.seek(&reel, Ticks::new(start));
            (crowd.spawn(player).unwrap(), player)
        }).collect();
        for (nth, dt) in updates.iter().copied().map(Ticks::new).enumerate() {
            let reel = if nth == 0 { &reel } else { &next };
            prop_assert!(crowd.reload(reel));
            let reported = heard(&mut crowd, dt, EventMask::ALL);
            let mut expected = Vec::new();
            for (handle, player) in &mut players {
                expected.extend(player.advance(reel, dt).map(|event| (*handle, event)));
            }
            prop_assert_eq!(reported, expected);
            players.retain(|(_, player)| dt == Ticks::ZERO || player.view(reel).is_some());
            for (handle, player) in players.iter().filter(|(_, player)| player.view(reel).is_some()) {
                prop_assert_eq!(crowd.packed_frame(*handle), player.packed_frame(reel));
                prop_assert_eq!(crowd.player(*handle).map(|player| player.cycle()), Some(player.cycle()));
            }
        }
    }

    /// A crowd that was saved, and loaded in another build of the game that lists its clips otherwise,
    /// plays on as the one that was not: groups, looks and handles included.
    #[test]
    fn a_saved_crowd_plays_on(
        clips in vec(any_clip(CLIPS), CLIPS), members in vec((0..CLIPS, -5_i64..9, 0_u64..20, 0_usize..3, any::<bool>()), 1..80),
        gone in vec(0_usize..80, 0..9), before in 0_u64..30, after in vec(0_u64..9, 1..5), factor in 0.0_f64..3.0,
    ) {
        let dressed = |order: &[usize]| {
            let mut builder = Reel::builder();
            let sheet = |builder: &mut ReelBuilder, name: &str| {
                builder.sheet(name, NewSheet::grid([64, 8], Grid::cell_size([8, 8])))
            };
            let (day, dusk) = (sheet(&mut builder, "day"), sheet(&mut builder, "dusk"));
            for index in order {
                let clip = &clips[*index];
                let new = clip.add_holds(NewClip::of(day).mode(clip.mode), |hold| hold % 8);
                builder.clip(format!("c{index}"), new.mark("m", [0]));
            }
            builder.look("dusk", NewLook::new().sheet(day, dusk));
            builder.build().unwrap()
        };
        let (reel, other) = (dressed(&[0, 1, 2, 3]), dressed(&[2, 0, 3, 1]));
        let mut crowd = Crowd::new(&reel);
        let groups = [GroupId::default(), crowd.add_group().unwrap(), crowd.add_group().unwrap()];
        crowd.set_group_scale(groups[1], factor).unwrap();
        crowd.set_group_scale(groups[2], 0.0).unwrap();
        let mut looks = LookSet::NOTHING;
        looks.wear(&reel, reel.id::<LookId>("dusk").unwrap()).unwrap();
        let handles: Vec<MemberId> = members.into_iter().map(|(clip, quarters, hit_stop, group, wears)| {
            let new = NewMember::playing(reel.id::<ClipId>(&format!("c{clip}")).unwrap()).speed(speed_of(quarters));
            let new = if wears { new.wearing(looks) } else { new };
            let member = crowd.spawn(new.in_group(groups[group])).unwrap();
            crowd.hit_stop(member, Ticks::new(hit_stop));
            member
        }).collect();
        gone.into_iter().filter_map(|nth| handles.get(nth)).for_each(|member| { crowd.remove(*member); });
        crowd.advance(Ticks::new(before));
        let mut loaded = crowd.save().load(&other).unwrap();
        prop_assert!(loaded.changed().eq(crowd.ids(Target::All)), "all are to be uploaded");
        for dt in after.into_iter().map(Ticks::new) {
            let play = |crowd: &mut Crowd, reel: &Reel| {
                let reported = heard(crowd, dt, EventMask::ALL).into_iter().map(|(member, event)| {
                    let mark = match event.kind {
                        EventKind::Mark(mark) => reel.name(mark),
                        _ => "",
                    };
                    let what = format!("{} {} {mark}", reel.name(event.clip), event.hold);
                    (member, event.at, event.serial, event.cycle, what)
                });
                reported.collect::<Vec<_>>()
            };
            prop_assert_eq!(play(&mut crowd, &reel), play(&mut loaded, &other));
        }
        for handle in &handles {
            prop_assert_eq!(crowd.contains(*handle), loaded.contains(*handle));
            let seen = |view: Option<View<'_>>| view.map(|view| (view.frame.image.index(), view.frame.source));
            prop_assert_eq!(seen(crowd.view(*handle)), seen(loaded.view(*handle)));
        }
        // Slots that are given next are the same, and so are their handles.
        let clip = |reel: &Reel| reel.id::<ClipId>("c0").unwrap();
        let next = [crowd.spawn(clip(&reel)), loaded.spawn(clip(&other))];
        prop_assert_eq!(next[0], next[1]);
    }

    /// Whatever else a player can do goes through a member's own player.
    #[test]
    fn a_member_takes_what_a_player_takes(
        clips in vec(any_clip(CLIPS), CLIPS), commands in vec((0_u8..9, 0_u64..40, -5_i64..9), 1..30),
    ) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        let member = crowd.spawn(ids[0]).unwrap();
        let mut player = Player::new(&reel, ids[0]);
        for (command, number, quarters) in commands {
            let tell = |player: &mut Player| match command {
                0 => { player.seek_hold(&reel, number as u32 % 6); }
                1 => { let _ = player.set_duration(&reel, Ticks::new(number)); }
                2 => { player.step_forward(&reel); }
                3 => { player.step_back(&reel); }
                4 => player.set_speed(speed_of(quarters)),
                5 => { player.seek(&reel, Ticks::new(number)); }
                6 => { player.play_times(&reel, ids[number as usize % CLIPS], number as u32 % 4); }
                7 => { let _ = player.then(&reel, ids[number as usize % CLIPS]); }
                _ => { player.play(&reel, ids[number as usize % CLIPS]); }
            };
            tell(&mut player);
            prop_assert_eq!(crowd.with_player(member, |player, _| tell(player)), 1);
            let reported = heard(&mut crowd, Ticks::new(number % 5), EventMask::ALL);
            let reported: Vec<Event> = reported.into_iter().map(|(_, event)| event).collect();
            prop_assert_eq!(reported, player.advance(&reel, Ticks::new(number % 5)).collect::<Vec<_>>());
            if player.view(&reel).is_none() {
                break; // it has vanished, or will be freed
            }
            prop_assert_eq!(crowd.player(member), Some(player));
            prop_assert_eq!(crowd.packed_frame(member), player.packed_frame(&reel));
        }
    }

    /// Tiles are written as single players of their clips would be, all or those that have changed.
    #[test]
    fn tiles_are_written_as_players_show_them(
        clips in vec(any_clip(CLIPS), CLIPS), tiles in vec(0..CLIPS, 0..40), updates in vec(0_u64..9, 1..6),
        room in 0_usize..50,
    ) {
        let (reel, ids) = build(&clips);
        let (mut unison, writer) = (Unison::new(&reel), InstanceWriter::new(&reel));
        let mut players: Vec<Player> = ids.iter().map(|clip| Player::new(&reel, *clip)).collect();
        let floor: Vec<ClipId> = tiles.iter().map(|clip| ids[*clip]).collect();
        let positions: Vec<[f32; 2]> = (0..floor.len()).map(|nth| [nth as f32, 1.0]).collect();
        for dt in updates.into_iter().map(Ticks::new) {
            let before: Vec<PackedFrame> = players.iter().map(|player| player.packed_frame(&reel)).collect();
            unison.advance(dt);
            players.iter_mut().for_each(|player| { player.advance(&reel, dt); });
            let mut all: Vec<Instance> = Vec::new();
            let written = unison.instances(&writer, &floor).write_at(&mut all, &positions);
            prop_assert_eq!(written, floor.len());
            for ((instance, tile), at) in all.iter().zip(&tiles).zip(&positions) {
                let expected: Instance = writer.make(players[*tile].packed_frame(&reel), Placement::at(*at));
                prop_assert_eq!(*instance, expected);
            }
            let mut part = vec![0_u32; room];
            let changed = unison.instances(&writer, &floor).changed();
            let written = changed.write(&mut &mut part[..], |_| ());
            let differ = |tile: &&usize| players[**tile].packed_frame(&reel) != before[**tile];
            let expected: Vec<u32> = tiles.iter().filter(differ).map(|tile| players[*tile].packed_frame(&reel).to_bits()).collect();
            prop_assert_eq!(&part[..written], &expected[..room.min(expected.len())]);
        }
    }
}

#[test]
fn a_member_that_is_removed_while_events_are_read_is_reported_of_to_the_end() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cell_size([8, 8])));
    let each = NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mark("a", [1]).mark("b", [2]);
    let clip = builder.clip("c", each);
    let reel = builder.build().unwrap();
    let mark: MarkId = reel.id("a").unwrap();
    let mut crowd = Crowd::new(&reel);
    let members = [0, 1, 2].map(|_| crowd.spawn(clip).unwrap());
    let (mut heard, mut events) = (Vec::new(), EventBuffer::new());
    crowd.advance_into(Ticks::new(25), EventMask::MARKS, &mut events);
    for (member, event) in &events {
        if event.is_mark(mark) && member == members[1] {
            crowd.remove(member);
        }
        heard.push(member);
    }
    assert_eq!(heard, members.map(|member| [member; 2]).concat());
    assert!(crowd.ids(Target::All).eq([members[0], members[2]]));
    crowd.remove(Target::All);
    assert!(
        crowd.is_empty()
            && crowd.ids(Target::All).next().is_none()
            && crowd.remove(members[0]) == 0
    );
}

#[test]
fn a_crowd_wears_what_a_player_would() {
    let mut builder = Reel::builder();
    let sheets = ["day", "dusk", "torn"]
        .map(|name| builder.sheet(name, NewSheet::grid([32, 8], Grid::cell_size([8, 8]))));
    let clip = builder.clip("walk", NewClip::of(sheets[0]).frames(0..4).each(Ticks::new(10)));
    let known = [1, 2].map(|other| {
        builder.look(format!("look-{other}"), NewLook::new().sheet(sheets[0], sheets[other]))
    });
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    let members: Vec<MemberId> = (0..130).map(|_| crowd.spawn(clip).unwrap()).collect();
    let player = Player::new(&reel, clip);
    let mut looks = vec![LookSet::NOTHING; members.len()];
    for (nth, member) in members.iter().enumerate() {
        for look in
            known.iter().enumerate().filter(|(bit, _)| nth >> bit & 1 == 1).map(|(_, look)| *look)
        {
            crowd.wear(*member, look).unwrap();
            looks[nth].wear(&reel, look).unwrap();
        }
        if nth % 5 == 0 {
            crowd.take_off(*member, known[0]);
            looks[nth].take_off(known[0]);
        }
    }
    let shown = |looks: &LookSet| {
        player.view_with(&reel, looks).map(|view| PackedFrame::of(view.id, view.flips)).unwrap()
    };
    for (member, looks) in members.iter().zip(&looks) {
        assert_eq!(crowd.looks(*member), Some(*looks));
        assert_eq!(crowd.packed_frame(*member), shown(looks));
    }
    let mut pictures: Vec<PackedFrame> = Vec::new();
    crowd.instances(&InstanceWriter::new(&reel)).write(&mut pictures, |_| ());
    assert_eq!(pictures, looks.iter().map(shown).collect::<Vec<_>>());
    // Who comes after wears nothing; what was looks is saved.
    assert_eq!(crowd.remove(members[3]), 1);
    assert_eq!(crowd.looks(crowd.ids(Target::All).next().unwrap()), Some(looks[0]));
    let loaded = crowd.save().load(&reel).unwrap();
    assert_eq!(loaded.looks(members[7]), Some(looks[7]));
    let new = crowd.spawn(clip).unwrap();
    assert_eq!((new.index(), crowd.looks(new)), (3, Some(LookSet::NOTHING)));
    let look: LookId = reel.id("look-1").unwrap();
    assert_eq!(crowd.wear(members[3], look), Err(CommandError::Gone));
    assert_eq!(crowd.looks(new), Some(LookSet::NOTHING));
}

#[test]
fn groups_and_foreign_handles_have_their_bounds() {
    let (reel, _) = build(&[clips::ModelClip {
        ticks: vec![1, 2],
        mode: Mode::Loop,
        repeat: None,
        end: clips::Ends::Stay,
        marks: vec![0, 0],
        rest: 0,
    }]);
    let clip: ClipId = reel.id("c0").unwrap();
    let (mut crowd, mut large) = (Crowd::new(&reel), Crowd::new(&reel));
    let other = (1..256).map(|_| large.add_group().unwrap()).last().unwrap();
    assert_eq!(other.to_bits(), 255);
    assert_eq!(large.add_group(), Err(CommandError::TooManyGroups));
    let nobody = MemberId::from_bits(u64::MAX);
    let new = NewMember::playing(clip).in_group(other);
    assert_eq!(crowd.spawn(new), Err(CommandError::UnknownId));
    assert_eq!(crowd.set_group_scale(other, 1.0), Err(CommandError::UnknownId));
    let error = crowd.set_group_scale(GroupId::default(), -0.5).unwrap_err();
    assert!(matches!(error, CommandError::OutOfRange { .. }) && error.to_string().contains("-0.5"));
    assert!(crowd.set_group_scale(GroupId::default(), f64::NAN).is_err());
    assert!(!crowd.sleep_group(other));
    assert_eq!(crowd.set_paused(nobody, true), 0);
    assert!(!crowd.contains(nobody) && crowd.view(nobody).is_none());
    let member = crowd.spawn(clip).unwrap();
    assert_eq!((crowd.set_facing(member, Facing::Up), crowd.actor(member)), (0, None));
    assert_eq!(crowd.with_player(member, |player, reel| *player = Player::new(reel, clip)), 1);
    assert_eq!(crowd.with_actor(Target::All, |_, _| ()), 0);
}

/// Numbers that nobody wrote give an error, or a crowd that does no harm.
#[cfg(feature = "serde")]
#[test]
fn a_damaged_crowd_does_no_harm() {
    use serde_json::Value;
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cell_size([8, 8])));
    let clip = builder
        .clip("c", NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mode(Mode::PingPong));
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    (0..3).for_each(|id| {
        crowd.spawn(NewMember::playing(clip).random_start(1, id)).unwrap();
    });
    crowd.advance(Ticks::new(33));
    let whole = serde_json::to_value(crowd.save()).unwrap();

    fn numbers(value: &mut Value, visit: &mut impl FnMut(&mut Value)) {
        match value {
            Value::Number(_) => visit(value),
            Value::Array(all) => all.iter_mut().for_each(|each| numbers(each, visit)),
            Value::Object(all) => all.values_mut().for_each(|each| numbers(each, visit)),
            _ => {}
        }
    }
    let mut count = 0;
    numbers(&mut whole.clone(), &mut |_| count += 1);
    let (mut refused, mut taken) = (0, 0);
    for nth in 0..count {
        for other in [0_u64, 1, 63, 255, 65_535, u64::from(u32::MAX), u64::MAX] {
            let (mut damaged, mut at) = (whole.clone(), 0);
            numbers(&mut damaged, &mut |value| {
                if at == nth {
                    *value = other.into();
                }
                at += 1;
            });
            match serde_json::from_value::<Saved<Crowd>>(damaged).map(|saved| saved.load(&reel)) {
                Ok(Ok(mut crowd)) => {
                    taken += 1;
                    for dt in [1, 17, 400] {
                        heard(&mut crowd, Ticks::new(dt), EventMask::ALL);
                    }
                    let shown =
                        crowd.ids(Target::All).filter(|member| crowd.view(*member).is_some());
                    assert!(shown.count() <= 3);
                }
                Ok(Err(_)) | Err(_) => refused += 1,
            }
        }
    }
    assert!(refused > 200 && taken > 300, "{refused} were refused, {taken} taken");
}

/// What nobody reads is not written down: a year in one step, and the first and the last kinds of it.
#[test]
fn a_year_into_a_buffer_takes_no_room() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let clip = builder.clip("c", NewClip::of(sheet).frames(0..4).fps(60));
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    let member = crowd.spawn(clip).unwrap();
    let (mut player, mut reported) = (Player::new(&reel, clip), EventBuffer::new());
    let year = Ticks::from_secs(86_400) * 365;
    crowd.advance_into(year, EventMask::ALL, &mut reported);
    let expected = player.advance(&reel, year).take(500).map(|event| (member, event));
    assert!(reported.iter().take(500).eq(expected));
    assert_eq!(crowd.player(member), Some(player));
}
