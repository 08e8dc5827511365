//! What crowds and unisons promise besides being their members: who is told what, which slots are given,
//! groups whose time is their own, looks, saving, reloading, tiles.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[path = "model/clips.rs"]
mod clips;
#[path = "model/moved.rs"]
mod moved;

use clips::{any_clip, build};
use lucky_reel_core::*;
use moved::moved;
use proptest::collection::vec;
use proptest::prelude::*;

const CLIPS: usize = 4;

fn speed_of(quarters: i64) -> Speed {
    Speed::from_ratio(quarters as i32, 4).unwrap()
}

/// An event of a later part of the same advance.
fn later(event: Event, ticks: u64) -> Event {
    moved(event, event.at() + Ticks::new(ticks))
}

fn wanted() -> impl Strategy<Value = Tell> {
    vec(
        prop_oneof![Just(Tell::ENTERED), Just(Tell::MARKS), Just(Tell::CYCLES), Just(Tell::ENDS)],
        0..4,
    )
    .prop_map(|some| some.into_iter().fold(Tell::NOTHING, |all, one| all | one))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    /// What is asked for is what is told: of all that happens, in its order; aloud, into a buffer, and
    /// when read from a buffer that has heard it all.
    #[test]
    fn what_is_asked_for_is_told(
        clips in vec(any_clip(CLIPS), CLIPS), members in vec((0..CLIPS, -5_i64..9, 0_u64..20), 1..80),
        updates in vec(0_u64..9, 1..6), tell in wanted(),
    ) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        for (clip, quarters, start) in members {
            let new = NewMember::playing(ids[clip]).speed(speed_of(quarters));
            crowd.spawn(&reel, new.started_at(Ticks::new(start)));
        }
        let (mut some, mut aloud) = (crowd.clone(), crowd.clone());
        let (mut all_told, mut some_told) = (Told::new(), Told::new());
        for dt in updates.into_iter().map(Ticks::new) {
            crowd.advance_into(&reel, dt, Tell::ALL, &mut all_told);
            some.advance_into(&reel, dt, tell, &mut some_told);
            let mut heard = Vec::new();
            aloud.advance_telling(&reel, dt, tell, |member, event| heard.push((member.handle(), event)));
            let all = all_told.events(&reel, Tell::ALL);
            let expected: Vec<_> = all.filter(|(_, event)| tell.wants(event)).collect();
            prop_assert_eq!(&heard, &expected);
            prop_assert_eq!(some_told.events(&reel, Tell::ALL).collect::<Vec<_>>(), &expected[..]);
            prop_assert_eq!(all_told.events(&reel, tell).collect::<Vec<_>>(), &expected[..]);
            prop_assert_eq!(some_told.is_empty(), expected.is_empty());
        }
        prop_assert_eq!(crowd.save(&reel), some.save(&reel));
        prop_assert_eq!(crowd.save(&reel), aloud.save(&reel));
    }

    /// Any split of the game's time gives a group the same, whatever its scale: the same members, bit for
    /// bit, and the same events at the same moments of the game.
    #[test]
    fn any_split_gives_a_group_the_same(
        clips in vec(any_clip(CLIPS), CLIPS), factor in 0.0_f64..3.0, frozen in 0_u64..30,
        members in vec((0..CLIPS, 1_i64..9, 0_u64..20), 1..6), total in 1_u64..300, splits in vec(1_u64..40, 1..8),
    ) {
        let (reel, ids) = build(&clips);
        let mut whole = Crowd::new(&reel);
        let group = whole.add_group().unwrap();
        whole.set_group_scale(group, factor).unwrap();
        whole.hit_stop_group(group, Ticks::new(frozen));
        for (clip, quarters, hit_stop) in members {
            let new = NewMember::playing(ids[clip]).speed(speed_of(quarters)).in_group(group);
            let member = whole.spawn(&reel, new);
            whole.hit_stop(&reel, member, Ticks::new(hit_stop));
        }
        let mut split = whole.clone();
        let mut at_once = Vec::new();
        whole.advance_telling(&reel, Ticks::new(total), Tell::ALL, |member, event| {
            at_once.push((member.handle(), later(event, 0)));
        });
        let (mut bit_by_bit, mut passed) = (Vec::new(), 0);
        for step in splits.into_iter().cycle() {
            let step = step.min(total - passed);
            split.advance_telling(&reel, Ticks::new(step), Tell::ALL, |member, event| {
                bit_by_bit.push((member.handle(), later(event, passed)));
            });
            passed += step;
            if passed == total {
                break;
            }
        }
        bit_by_bit.sort_by_key(|(member, _)| *member); // stable: each member's stay in order
        prop_assert_eq!(at_once, bit_by_bit);
        prop_assert_eq!(whole.save(&reel), split.save(&reel));
    }

    /// Slots are given as the documentation says: the lowest that is free in the blocks of a group and a
    /// kind, or the first of a new block. Handles differ for ever.
    #[test]
    fn slots_are_given_as_is_told(commands in vec((0_usize..3, any::<bool>(), 0_usize..300), 1..400)) {
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cells([8, 8])));
        let clip = builder.clip("c", NewClip::of(sheet).frames([0]).fps(1));
        builder.cue("always", NewCue::play("c"));
        let reel = builder.build().unwrap();
        let role = reel.role("").unwrap();
        let mut crowd = Crowd::new(&reel);
        let groups = [GroupId::default(), crowd.add_group().unwrap()];
        // Of each block: its group and kind, and who is in it.
        let mut blocks: Vec<(usize, [Option<Handle>; 64])> = Vec::new();
        let mut ever: Vec<Handle> = Vec::new();
        for (kind, leaves, which) in commands {
            if leaves {
                let slot = blocks.iter_mut().flat_map(|(_, slots)| slots).filter(|slot| slot.is_some()).nth(which);
                if let Some(slot) = slot {
                    prop_assert!(crowd.despawn(slot.unwrap()));
                    *slot = None;
                }
                continue;
            }
            let new = if kind == 2 { NewMember::acting(role) } else { NewMember::playing(clip) };
            let handle = crowd.spawn(&reel, new.in_group(groups[kind % 2]));
            let free = |(of, slots): &(usize, [Option<Handle>; 64])| *of == kind && slots.contains(&None);
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
        let there: Vec<Handle> = blocks.iter().flat_map(|(_, slots)| slots).copied().flatten().collect();
        prop_assert_eq!(crowd.handles().collect::<Vec<_>>(), there);
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
            let mut builder = reel.next_version();
            let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cells([8, 8])));
            for (index, clip) in after.iter().enumerate() {
                let mut new = NewClip::of(sheet).mode(clip.mode);
                for (frame, ticks) in clip.ticks.iter().enumerate() {
                    new = new.hold(7 - frame as u32 % 8, Ticks::new(*ticks as u64));
                }
                builder.clip(format!("c{index}"), new);
            }
            builder.build().unwrap()
        };
        let mut crowd = Crowd::new(&reel);
        let mut players: Vec<(Handle, Player)> = members.into_iter().map(|(clip, quarters, start)| {
            let mut player = Player::new(&reel, ids[clip]);
            player.set_speed(speed_of(quarters));
            player.seek(&reel, Ticks::new(start));
            (crowd.spawn(&reel, player), player)
        }).collect();
        for (nth, dt) in updates.iter().copied().map(Ticks::new).enumerate() {
            let reel = if nth == 0 { &reel } else { &next };
            let mut told = Vec::new();
            crowd.advance_telling(reel, dt, Tell::ALL, |member, event| told.push((member.handle(), event)));
            let mut expected = Vec::new();
            for (handle, player) in &mut players {
                expected.extend(player.advance(reel, dt).map(|event| (*handle, event)));
            }
            prop_assert_eq!(told, expected);
            players.retain(|(_, player)| dt.is_zero() || player.view(reel).is_some());
            for (handle, player) in players.iter().filter(|(_, player)| player.view(reel).is_some()) {
                prop_assert_eq!(crowd.shown(reel, *handle), player.shown(reel));
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
                builder.sheet(name, NewSheet::grid([64, 8], Grid::cells([8, 8])))
            };
            let (day, dusk) = (sheet(&mut builder, "day"), sheet(&mut builder, "dusk"));
            for index in order {
                let clip = &clips[*index];
                let holds = (0..).zip(&clip.ticks);
                let new = holds.fold(NewClip::of(day).mode(clip.mode), |new, (frame, ticks)| {
                    new.hold(frame % 8, Ticks::new(*ticks as u64))
                });
                builder.clip(format!("c{index}"), new.mark("m", [0]));
            }
            builder.look("dusk", NewLook::new().sheet(day, dusk));
            builder.build().unwrap()
        };
        let (reel, other) = (dressed(&[0, 1, 2, 3]), dressed(&[2, 0, 3, 1]));
        let mut crowd = Crowd::new(&reel);
        let groups = [GroupId::default(), crowd.add_group().unwrap(), crowd.add_group().unwrap()];
        crowd.set_group_scale(groups[1], factor).unwrap();
        crowd.pause_group(groups[2]);
        let mut worn = Worn::NOTHING;
        worn.put_on(&reel, reel.look("dusk").unwrap()).unwrap();
        let handles: Vec<Handle> = members.into_iter().map(|(clip, quarters, hit_stop, group, wears)| {
            let new = NewMember::playing(reel.clip(&format!("c{clip}")).unwrap()).speed(speed_of(quarters));
            let new = if wears { new.wearing(worn) } else { new };
            let member = crowd.spawn(&reel, new.in_group(groups[group]));
            crowd.hit_stop(&reel, member, Ticks::new(hit_stop));
            member
        }).collect();
        gone.into_iter().filter_map(|nth| handles.get(nth)).for_each(|member| { crowd.despawn(*member); });
        crowd.advance(&reel, Ticks::new(before));
        let mut loaded = crowd.save(&reel).load(&other).unwrap();
        prop_assert!(loaded.changed().eq(crowd.handles()), "all are to be uploaded");
        for dt in after.into_iter().map(Ticks::new) {
            let play = |crowd: &mut Crowd, reel: &Reel| {
                let mut told = Vec::new();
                crowd.advance_telling(reel, dt, Tell::ALL, |member, event| {
                    let what = match event {
                        Event::Enter { clip, hold, cycle, .. } => (reel.clip_name(clip).to_owned(), hold, cycle),
                        Event::Mark { clip, mark, .. } => {
                            (format!("{} {}", reel.clip_name(clip), reel.mark_name(mark)), 0, 0)
                        }
                        other => (String::new(), 0, other.serial() as i32),
                    };
                    told.push((member.handle(), event.at(), event.serial(), what));
                });
                told
            };
            prop_assert_eq!(play(&mut crowd, &reel), play(&mut loaded, &other));
        }
        for handle in &handles {
            prop_assert_eq!(crowd.contains(*handle), loaded.contains(*handle));
            let seen = |view: Option<View<'_>>| view.map(|view| (view.image().index(), view.source()));
            prop_assert_eq!(seen(crowd.view(&reel, *handle)), seen(loaded.view(&other, *handle)));
        }
        // Slots that are given next are the same, and so are their handles.
        let clip = |reel: &Reel| reel.clip("c0").unwrap();
        let next = [crowd.spawn(&reel, clip(&reel)), loaded.spawn(&other, clip(&other))];
        prop_assert_eq!(next[0], next[1]);
    }

    /// Whatever else a player can be told goes through a member's own player.
    #[test]
    fn a_member_takes_what_a_player_takes(
        clips in vec(any_clip(CLIPS), CLIPS), commands in vec((0_u8..7, 0_u64..40, -5_i64..9), 1..30),
    ) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        let member = crowd.spawn(&reel, ids[0]);
        let mut player = Player::new(&reel, ids[0]);
        for (command, number, quarters) in commands {
            let tell = |player: &mut Player| match command {
                0 => player.seek_hold(&reel, number as u32 % 6),
                1 => { let _ = player.fit_to(&reel, Ticks::new(number)); }
                2 => { player.step_forwards(&reel); }
                3 => { player.step_back(&reel); }
                4 => player.set_speed(speed_of(quarters)),
                5 => { player.pass_hit_stop(Ticks::new(number)); }
                _ => player.play(&reel, ids[number as usize % CLIPS]),
            };
            tell(&mut player);
            prop_assert!(crowd.with_player(&reel, member, tell).is_some());
            let mut told = Vec::new();
            crowd.advance_telling(&reel, Ticks::new(number % 5), Tell::ALL, |_, event| told.push(event));
            prop_assert_eq!(told, player.advance(&reel, Ticks::new(number % 5)).collect::<Vec<_>>());
            if player.view(&reel).is_none() {
                break; // it has vanished, or will be freed
            }
            prop_assert_eq!(crowd.player(member), Some(player));
            prop_assert_eq!(crowd.shown(&reel, member), player.shown(&reel));
        }
    }

    /// Tiles are written as single players of their clips would be, all or those that have changed.
    #[test]
    fn tiles_are_written_as_players_show_them(
        clips in vec(any_clip(CLIPS), CLIPS), tiles in vec(0..CLIPS, 0..40), updates in vec(0_u64..9, 1..6),
        room in 0_usize..50,
    ) {
        let (reel, ids) = build(&clips);
        let (mut unison, writer) = (Unison::new(&reel), Writer::new(&reel));
        let mut players: Vec<Player> = ids.iter().map(|clip| Player::new(&reel, *clip)).collect();
        let floor: Vec<ClipId> = tiles.iter().map(|clip| ids[*clip]).collect();
        let positions: Vec<[f32; 2]> = (0..floor.len()).map(|nth| [nth as f32, 1.0]).collect();
        for dt in updates.into_iter().map(Ticks::new) {
            let before: Vec<Shown> = players.iter().map(|player| player.shown(&reel)).collect();
            unison.advance(&reel, dt);
            players.iter_mut().for_each(|player| { player.advance(&reel, dt); });
            let mut all: Vec<Instance> = Vec::new();
            prop_assert_eq!(unison.write_at(&writer, &mut all, &floor, &positions), floor.len());
            for ((instance, tile), at) in all.iter().zip(&tiles).zip(&positions) {
                let expected: Instance = writer.make(players[*tile].shown(&reel), Spot::at(*at));
                prop_assert_eq!(*instance, expected);
            }
            let mut part = vec![0_u32; room];
            let changed = floor.iter().filter(|clip| unison.has_changed(**clip)).map(|clip| (*clip, ()));
            let written = unison.write(&writer, &mut &mut part[..], changed);
            let differ = |tile: &&usize| players[**tile].shown(&reel) != before[**tile];
            let expected: Vec<u32> = tiles.iter().filter(differ).map(|tile| players[*tile].shown(&reel).to_bits()).collect();
            prop_assert_eq!(&part[..written], &expected[..room.min(expected.len())]);
        }
    }
}

#[test]
fn a_member_that_is_despawned_while_events_are_read_is_told_of_to_the_end() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cells([8, 8])));
    let each = NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mark("a", [1]).mark("b", [2]);
    let clip = builder.clip("c", each);
    let reel = builder.build().unwrap();
    let mark = reel.mark("a").unwrap();
    let mut crowd = Crowd::new(&reel);
    let members = [0, 1, 2].map(|_| crowd.spawn(&reel, clip));
    let mut heard = Vec::new();
    crowd.advance_telling(&reel, Ticks::new(25), Tell::MARKS, |member, event| {
        let first = matches!(event, Event::Mark { mark: which, .. } if which == mark);
        if first && member.handle() == members[1] {
            member.despawn();
        }
        heard.push(member.handle());
    });
    assert_eq!(heard, members.map(|member| [member; 2]).concat());
    assert!(crowd.handles().eq([members[0], members[2]]));
    crowd.clear();
    assert!(crowd.is_empty() && crowd.handles().next().is_none() && !crowd.despawn(members[0]));
}

#[test]
fn a_crowd_wears_what_a_player_would() {
    let mut builder = Reel::builder();
    let sheets = ["day", "dusk", "torn"]
        .map(|name| builder.sheet(name, NewSheet::grid([32, 8], Grid::cells([8, 8]))));
    let clip = builder.clip("walk", NewClip::of(sheets[0]).frames(0..4).each(Ticks::new(10)));
    let looks = [1, 2].map(|other| {
        builder.look(format!("look-{other}"), NewLook::new().sheet(sheets[0], sheets[other]))
    });
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    let members: Vec<Handle> = (0..130).map(|_| crowd.spawn(&reel, clip)).collect();
    let player = Player::new(&reel, clip);
    let mut worn = vec![Worn::NOTHING; members.len()];
    for (nth, member) in members.iter().enumerate() {
        for look in
            looks.iter().enumerate().filter(|(bit, _)| nth >> bit & 1 == 1).map(|(_, look)| *look)
        {
            crowd.wear(&reel, *member, look).unwrap();
            worn[nth].put_on(&reel, look).unwrap();
        }
        if nth % 5 == 0 {
            crowd.take_off(*member, looks[0]);
            worn[nth].take_off(looks[0]);
        }
    }
    let shown = |worn: &Worn| player.view_wearing(&reel, worn).unwrap().shown();
    for (member, worn) in members.iter().zip(&worn) {
        assert_eq!((crowd.worn(*member), crowd.shown(&reel, *member)), (*worn, shown(worn)));
    }
    let mut pictures: Vec<Shown> = Vec::new();
    crowd.drawn(&Writer::new(&reel)).write(&mut pictures, |_| ());
    assert_eq!(pictures, worn.iter().map(shown).collect::<Vec<_>>());
    // Who comes after wears nothing; what was worn is saved.
    assert!(crowd.despawn(members[3]));
    assert_eq!(crowd.worn(crowd.handles().next().unwrap()), worn[0]);
    let loaded = crowd.save(&reel).load(&reel).unwrap();
    assert_eq!(loaded.worn(members[7]), worn[7]);
    let new = crowd.spawn(&reel, clip);
    assert_eq!((new.index(), crowd.worn(new)), (3, Worn::NOTHING));
    assert!(crowd.wear(&reel, members[3], looks[0]).is_ok() && crowd.worn(new) == Worn::NOTHING);
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
    let clip = reel.clip("c0").unwrap();
    let (mut crowd, mut large) = (Crowd::new(&reel), Crowd::new(&reel));
    assert_eq!((1..256).filter_map(|_| large.add_group()).count(), 255);
    assert!(large.add_group().is_none() && large.groups().count() == 256);
    let other = large.groups().last().unwrap();
    assert_eq!(crowd.spawn(&reel, NewMember::playing(clip).in_group(other)), Handle::NOBODY);
    assert!(crowd.set_group_scale(GroupId::default(), -0.5).is_err());
    assert!(crowd.set_group_scale(GroupId::default(), f64::NAN).is_err());
    crowd.pause_group(other); // of another crowd: nothing happens
    assert_eq!(crowd.pause(&reel, Handle::NOBODY), 0);
    assert!(!crowd.contains(Handle::NOBODY) && crowd.view(&reel, Handle::NOBODY).is_none());
    let member = crowd.spawn(&reel, clip);
    assert!(!crowd.set_facing(&reel, member, Facing::Up) && crowd.actor(member).is_none());
    assert_eq!(
        crowd.with_player(&reel, member, |player| *player = Player::new(&reel, clip)),
        Some(())
    );
}

/// Numbers that nobody wrote give an error, or a crowd that does no harm.
#[cfg(feature = "serde")]
#[test]
fn a_damaged_crowd_does_no_harm() {
    use serde_json::Value;
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cells([8, 8])));
    let clip = builder
        .clip("c", NewClip::of(sheet).frames(0..4).each(Ticks::new(10)).mode(Mode::PingPong));
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    (0..3).for_each(|id| {
        crowd.spawn(&reel, NewMember::playing(clip).scattered(1, id));
    });
    crowd.advance(&reel, Ticks::new(33));
    let whole = serde_json::to_value(crowd.save(&reel)).unwrap();

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
            match serde_json::from_value::<SavedCrowd>(damaged).map(|saved| saved.load(&reel)) {
                Ok(Ok(mut crowd)) => {
                    taken += 1;
                    for dt in [1, 17, 400] {
                        crowd.advance_telling(&reel, Ticks::new(dt), Tell::ALL, |_, _| {});
                    }
                    let shown =
                        crowd.handles().filter(|member| crowd.view(&reel, *member).is_some());
                    assert!(shown.count() <= 3);
                }
                Ok(Err(_)) | Err(_) => refused += 1,
            }
        }
    }
    assert!(refused > 300 && taken > 300, "{refused} were refused, {taken} taken");
}
