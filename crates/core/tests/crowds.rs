//! Crowds against single players, on random clips and commands.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // how a reel file writes them is for the command
#[path = "model/clips.rs"]
mod clips;
mod reference_crowd;

use clips::{any_clip, build};
use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;
use reference_crowd::{GroupClock, Meant, Naive, by_slot, heard};

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
    Play(Meant, usize),
    SwitchTo(Meant, usize),
    Restart(Meant),
    Stop(Meant),
    Pause(Meant, bool),
    Speed(Meant, i64),
    Seek(Meant, u64),
    HitStop(Meant, u64),
    Flip(Meant, u8),
    Scale(usize, u8),
    PlayTimes(Meant, usize, u32),
    Then(Meant, usize),
    Sleep(usize),
    Wake(usize),
    /// Goes back to how all was at the last one.
    Rollback,
}

fn meant() -> impl Strategy<Value = Meant> {
    prop_oneof![
        6 => (0_usize..200).prop_map(Meant::One),
        1 => (0_usize..3).prop_map(Meant::Group),
        1 => Just(Meant::All),
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
        1 => (meant(), 0..CLIPS).prop_map(|(meant, clip)| Play(meant, clip)),
        1 => (meant(), 0..CLIPS).prop_map(|(meant, clip)| SwitchTo(meant, clip)),
        1 => meant().prop_map(Restart),
        1 => meant().prop_map(Stop),
        1 => (meant(), any::<bool>()).prop_map(|(meant, paused)| Pause(meant, paused)),
        2 => (meant(), -9_i64..10).prop_map(|(meant, quarters)| Speed(meant, quarters)),
        1 => (meant(), 0_u64..60).prop_map(|(meant, time)| Seek(meant, time)),
        1 => (meant(), 0_u64..12).prop_map(|(meant, time)| HitStop(meant, time)),
        1 => (meant(), 0_u8..4).prop_map(|(meant, flips)| Flip(meant, flips)),
        1 => (0_usize..3, 0_u8..12).prop_map(|(group, fifths)| Scale(group, fifths)),
        1 => (meant(), 0..CLIPS, 1_u32..4).prop_map(|(meant, clip, times)| PlayTimes(meant, clip, times)),
        1 => (meant(), 0..CLIPS).prop_map(|(meant, clip)| Then(meant, clip)),
        1 => (0_usize..3).prop_map(Sleep),
        1 => (0_usize..3).prop_map(Wake),
        1 => Just(Rollback),
    ]
}

fn speed_of(quarters: i64) -> Speed {
    Speed::from_ratio(quarters as i32, 4).unwrap()
}

fn flips_of(bits: u8) -> Flips {
    Flips { x: bits & 1 != 0, y: bits & 2 != 0 }
}

struct Both<'r> {
    reel: &'r Reel,
    ids: Vec<ClipId>,
    crowd: Crowd,
    groups: Vec<GroupId>,
    naive: Naive,
    /// Every handle that ever was.
    handles: Vec<MemberId>,
    saved: (Crowd, Naive),
}

impl Both<'_> {
    fn members(&self, meant: Meant) -> Target {
        match meant {
            Meant::One(slot) => {
                let member = self.naive.slots.get(slot).and_then(Option::as_ref);
                Target::One(member.map_or(MemberId::from_bits(u64::MAX), |(handle, ..)| *handle))
            }
            Meant::Group(group) => Target::Group(self.groups[group]),
            Meant::All => Target::All,
        }
    }

    fn spawn(&mut self, clip: ClipId, group: usize, speed: Speed, start: u64, flips: Flips) {
        self.naive.catch_up(self.reel, group);
        let new = NewMember::playing(clip).speed(speed).flipped(flips).in_group(self.groups[group]);
        let new = if start > 0 { new.started_at(Ticks::new(start)) } else { new };
        let handle = self.crowd.spawn(new).unwrap();
        let mut player = Player::new(self.reel, clip);
        player.set_speed(speed);
        player.set_flips(flips);
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
    fn obey(&mut self, command: &Command) -> [Vec<(MemberId, Event)>; 2] {
        let (reel, ids) = (self.reel, self.ids.clone());
        let mut events = [Vec::new(), Vec::new()];
        macro_rules! both {
            ($meant:expr, $method:ident ( $($crowd:expr),* ), $naive:expr) => {{
                let members = self.members($meant);
                self.crowd.$method(members $(, $crowd)*);
                self.naive.catch_up_for(reel, $meant);
                self.naive.each($meant, $naive);
            }};
        }
        match *command {
            Command::Spawn { clip, group, quarters, start, flips, count } => {
                for nth in 0..count as u64 {
                    self.spawn(ids[clip], group, speed_of(quarters), start + nth, flips_of(flips));
                }
            }
            Command::Despawn(slot) => {
                if let Some(Some((handle, group, _))) = self.naive.slots.get(slot).copied() {
                    assert_eq!(self.crowd.remove(handle), 1);
                    self.naive.slots[slot] = None;
                    // The others sleep on.
                    if let Some(slept) = &mut self.naive.asleep[group] {
                        slept.events.retain(|(member, _)| *member != handle);
                    }
                }
            }
            Command::Advance(dt) => {
                // Of a clone all count as changed, until time has passed for it.
                let mut twin = self.crowd.clone();
                twin.advance(Ticks::ZERO);
                #[cfg(feature = "rayon")]
                let mut apart = twin.clone();
                twin.advance(Ticks::new(dt));
                events[0] = heard(&mut self.crowd, Ticks::new(dt), EventMask::ALL);
                assert!(twin == self.crowd, "to hear what happens changes nothing");
                assert_eq!(twin.checksum(), self.crowd.checksum());
                #[cfg(feature = "rayon")]
                {
                    apart.advance(Ticks::ZERO);
                    apart.set_parallel(true);
                    assert_eq!(heard(&mut apart, Ticks::new(dt), EventMask::ALL), events[0]);
                    assert!(apart == self.crowd && apart.changed().eq(twin.changed()));
                }
                for (member, event) in &events[0] {
                    let shown = self.crowd.view_at(*member, event).unwrap();
                    if let EventKind::Enter(frame) = event.kind {
                        assert_eq!(shown.id, frame, "also of one that has vanished");
                    }
                }
                events[1] = self.naive.advance(reel, dt);
            }
            Command::Play(meant, clip) => {
                both!(meant, play(ids[clip]), |p| assert!(p.play(reel, ids[clip])));
            }
            Command::SwitchTo(meant, clip) => {
                both!(meant, switch_to(ids[clip]), |p| assert!(p.switch_to(reel, ids[clip])));
            }
            Command::Restart(meant) => both!(meant, restart(), |p| assert!(p.restart(reel))),
            Command::Stop(meant) => both!(meant, with_player(|p, _| p.stop()), Player::stop),
            Command::Pause(meant, paused) => {
                both!(meant, set_paused(paused), |p| p.set_paused(paused));
            }
            Command::Speed(meant, quarters) => {
                both!(meant, set_speed(speed_of(quarters)), |p| p.set_speed(speed_of(quarters)));
            }
            Command::Seek(meant, time) => {
                let time = Ticks::new(time);
                both!(meant, with_player(|p, reel| assert!(p.seek(reel, time))), |p| {
                    assert!(p.seek(reel, time));
                });
            }
            Command::HitStop(meant, time) => {
                both!(meant, hit_stop(Ticks::new(time)), |p| p.hit_stop(Ticks::new(time)));
            }
            Command::Flip(meant, bits) => both!(meant, set_flips(flips_of(bits)), |p| {
                p.set_flips(flips_of(bits));
            }),
            Command::Scale(group, fifths) => {
                let factor = f64::from(fifths) / 5.0;
                self.crowd.set_group_scale(self.groups[group], factor).unwrap();
                let bits = Speed::from_f64(factor).unwrap().to_bits();
                self.naive.groups[group].scale = bits as u64;
            }
            Command::PlayTimes(meant, clip, times) => {
                let play = |p: &mut Player| assert!(p.play_times(reel, ids[clip], times));
                both!(meant, with_player(|p, _| play(p)), play);
            }
            Command::Then(meant, clip) => {
                let then = |p: &mut Player| _ = p.then(reel, ids[clip]).is_ok();
                both!(meant, with_player(|p, _| then(p)), then);
            }
            Command::Sleep(group) => {
                assert!(self.crowd.sleep_group(self.groups[group]));
                self.naive.asleep[group].get_or_insert_default();
            }
            Command::Wake(group) => {
                let mut woken = EventBuffer::new();
                self.crowd.wake_group(self.groups[group], EventMask::ALL, &mut woken);
                events =
                    [by_slot(woken.iter().collect()), by_slot(self.naive.catch_up(reel, group))];
                self.naive.asleep[group] = None;
            }
            Command::Rollback => {
                self.crowd.clone_from(&self.saved.0);
                self.naive = self.saved.1.clone();
                self.handles.retain(|handle| self.saved.0.contains(*handle));
            }
        }
        events
    }
}

/// A position as a game's vector library has it.
#[derive(Clone, Copy)]
struct GameVector(f32, f32);

impl From<GameVector> for [f32; 2] {
    fn from(vector: GameVector) -> [f32; 2] {
        [vector.0, vector.1]
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1_500))]

    /// A crowd is its members: the same states, bit for bit, the same events in the order of the slots,
    /// and pictures that are reported as changed where they have. Stale handles reach nobody.
    #[test]
    fn a_crowd_is_its_members(clips in vec(any_clip(CLIPS), CLIPS), commands in vec(command(), 1..40)) {
        let (reel, ids) = build(&clips);
        let mut crowd = Crowd::new(&reel);
        let groups = vec![GroupId::default(), crowd.add_group().unwrap(), crowd.add_group().unwrap()];
        let clock = GroupClock { scale: 1 << 16, carry: 0 };
        let naive = Naive { slots: Vec::new(), groups: [clock; 3], asleep: Default::default() };
        let saved = (crowd.clone(), naive.clone());
        let mut both = Both { reel: &reel, ids, crowd, groups, naive, handles: Vec::new(), saved };
        let mut shown: Vec<(MemberId, PackedFrame)> = Vec::new();
        // At last all are woken, to be compared once more.
        let woken = (0..3).map(Command::Wake).chain([Command::Advance(1)]);
        for (nth, command) in commands.into_iter().chain(woken).enumerate() {
            let command = &command;
            let [events, expected] = both.obey(command);
            prop_assert_eq!(events, expected, "events of {:?}", command);
            let Both { crowd, naive, handles, .. } = &both;
            let sleeps = |group: usize| naive.asleep[group].is_some();
            let alive: Vec<_> = naive.slots.iter().flatten().copied().filter(|(_, group, _)| !sleeps(*group)).collect();
            let ids = crowd.ids(Target::All).filter(|id| !both.groups.iter().any(|group| crowd.is_asleep(*group) && crowd.ids(*group).any(|known| known == *id)));
            prop_assert_eq!(ids.collect::<Vec<_>>(), alive.iter().map(|(handle, ..)| *handle).collect::<Vec<_>>());
            for (handle, _, player) in &alive {
                if player.view(&reel).is_some() {
                    prop_assert_eq!(crowd.player(*handle), Some(*player), "after {:?}", command);
                }
                prop_assert_eq!(crowd.packed_frame(*handle), player.packed_frame(&reel));
            }
            let all_awake = !(0..3).any(sleeps);
            for handle in handles.iter().filter(|handle| all_awake && !alive.iter().any(|(known, ..)| known == *handle)) {
                prop_assert!(!crowd.contains(*handle) && crowd.player(*handle).is_none());
            }
            if matches!(command, Command::Advance(_)) {
                // Those asleep are seen as they fell asleep.
                let asleep = both.groups.iter().filter(|group| crowd.is_asleep(**group));
                let asleep = asleep.flat_map(|group| crowd.ids(*group));
                let asleep: Vec<_> = asleep.map(|id| (id, crowd.packed_frame(id))).collect();
                let now: Vec<_> = alive.iter().map(|(handle, _, player)| (*handle, player.packed_frame(&reel))).chain(asleep).collect();
                let changed: Vec<MemberId> = crowd.changed().collect();
                for member in now.iter().filter(|member| !shown.contains(member)) {
                    prop_assert!(changed.contains(&member.0), "{:?} has changed", member);
                }
                shown = now;
            }
            if nth % 9 == 8 {
                both.saved = (both.crowd.clone(), both.naive.clone());
            }
        }
        // What is saved is the same crowd, also in another build of the game.
        let saved = both.crowd.save();
        let loaded = saved.load(&reel).unwrap();
        prop_assert_eq!(&loaded.save(), &saved);
        prop_assert!(loaded == both.crowd && loaded.checksum() == both.crowd.checksum());
        #[cfg(feature = "serde")]
        {
            let text = serde_json::to_string(&saved).unwrap();
            prop_assert_eq!(serde_json::from_str::<Saved<Crowd>>(&text).unwrap(), saved);
        }

        // A day passes at once.
        both.crowd.advance(Ticks::from_secs(86_400));
        for (handle, group, player) in both.naive.slots.iter_mut().flatten() {
            let clock = &both.naive.groups[*group];
            if clock.scale == 1 << 16 && clock.carry == 0 {
                player.advance(&reel, Ticks::from_secs(86_400));
                let there = player.view(&reel).is_some();
                prop_assert_eq!(both.crowd.player(*handle), there.then_some(*player));
            }
        }
    }

    /// A renderer is given what each member's own view says: all or those that changed, in either
    /// order, of one image, into vectors and slices.
    #[test]
    fn what_is_written_is_what_members_show(
        spawned in vec((0_usize..3, 0_u64..900, 0_u8..4, any::<bool>()), 1..150),
        left_out in vec(0_usize..150, 0..20), millis in 0_u64..300, room in 0_usize..160,
    ) {
        let (reel, clips, dusk) = two_images();
        let mut crowd = Crowd::new(&reel);
        let handles: Vec<MemberId> = spawned.iter().map(|(clip, start, flips, dressed)| {
            let mut looks = LookSet::NOTHING;
            if *dressed {
                looks.wear(&reel, dusk).unwrap();
            }
            let new = NewMember::playing(clips[*clip]).flipped(flips_of(*flips)).wearing(looks);
            crowd.spawn(new.started_at(Ticks::from_millis(*start))).unwrap()
        }).collect();
        left_out.iter().filter_map(|nth| handles.get(*nth)).for_each(|handle| { crowd.remove(*handle); });
        crowd.advance(Ticks::from_millis(1));
        crowd.advance(Ticks::from_millis(millis));

        let writer = InstanceWriter::new(&reel);
        let position = |handle: MemberId| [handle.index() as f32 * 3.0, 50.0];
        let positions: Vec<GameVector> =
            (0..crowd.slots()).map(|slot| GameVector(slot as f32 * 3.0, 50.0)).collect();
        let expect = |handles: &mut dyn Iterator<Item = MemberId>| -> Vec<Instance> {
            let shown = handles.filter_map(|handle| Some((handle, crowd.view(handle)?)));
            shown.map(|(handle, view)| written_down(&view, position(handle))).collect()
        };
        let mut out: Vec<Instance> = Vec::new();
        crowd.instances(&writer).write_at(&mut out, &positions);
        prop_assert_eq!(&out, &expect(&mut crowd.ids(Target::All)));
        #[cfg(feature = "bytemuck")]
        {
            let bytes: &[u8] = bytemuck::cast_slice(&out);
            prop_assert_eq!(bytes.len(), out.len() * 48);
            let width = bytes.chunks(48).map(|each| u16::from_ne_bytes(each[28..30].try_into().unwrap()));
            prop_assert!(width.eq(out.iter().map(|instance| instance.source[2])));
        }

        let mut changed: Vec<Instance> = Vec::new();
        crowd.instances(&writer).changed().write(&mut changed, |handle| Placement::at(position(handle)));
        prop_assert_eq!(&changed, &expect(&mut crowd.changed()));

        let back_to_front: Vec<MemberId> = handles.iter().rev().copied().collect();
        let first = crowd.ids(Target::All).next();
        prop_assume!(first.is_some());
        let image = crowd.view(first.unwrap()).unwrap().frame.image;
        let mut ordered: Vec<Instance> = Vec::new();
        crowd.instances(&writer).in_order(&back_to_front).of_image(image).write_at(&mut ordered, &positions);
        let of_image = |handle: &MemberId| crowd.view(*handle).is_some_and(|view| view.frame.image == image);
        prop_assert_eq!(&ordered, &expect(&mut back_to_front.iter().copied().filter(of_image)));
        let mut by_image: Vec<u32> = Vec::new();
        crowd.instances(&writer).of_image(image).write(&mut by_image, |_| ());
        let pictures = crowd.ids(Target::All).filter(of_image).map(|handle| crowd.packed_frame(handle).to_bits());
        prop_assert!(pictures.eq(by_image.iter().copied()));

        // Slots without a position are left out, in either order.
        let known = positions.get(..room).unwrap_or(&positions);
        let has_place = |handle: &MemberId| handle.index() < known.len();
        let mut few: Vec<Instance> = Vec::new();
        crowd.instances(&writer).write_at(&mut few, known);
        prop_assert_eq!(&few, &expect(&mut crowd.ids(Target::All).filter(has_place)));
        few.clear();
        crowd.instances(&writer).in_order(&back_to_front).write_at(&mut few, known);
        prop_assert_eq!(&few, &expect(&mut back_to_front.iter().copied().filter(has_place)));

        // A slice takes as many as it has room for; every slot has an item.
        let mut small = vec![SmallInstance::default(); room];
        let written = crowd.instances(&writer).write_at(&mut &mut small[..], &positions);
        prop_assert_eq!(written, room.min(out.len()));
        for (small, full) in small.iter().zip(&out).take(written) {
            // As a shader finds it.
            let each = writer.table().len() / 4;
            let row = (small.shown >> 30) as usize * each + (small.shown as usize & (each - 1));
            let row = writer.table()[row];
            let at = [0, 1].map(|axis| small.position[axis] + row.origin[axis]);
            prop_assert_eq!(Instance { origin: at, ..row }, *full);
        }
        let mut frames: Vec<u16> = Vec::new();
        crowd.instances(&writer).every_slot().write(&mut frames, |_| ());
        prop_assert_eq!(frames.len(), crowd.slots());
        for handle in crowd.ids(Target::All) {
            let frame = crowd.packed_frame(handle).frame().map_or(u16::MAX, |frame| frame.index() as u16);
            prop_assert_eq!(frames[handle.index()], frame);
        }
    }
}

/// Two images, a mirrored clip and a look.
fn two_images() -> (Reel, [ClipId; 3], LookId) {
    let mut builder = Reel::builder();
    let grid = |pivot| NewSheet::grid([64, 32], Grid::cell_size([16, 8])).pivot(Pivot::At(pivot));
    let day = builder.sheet("day", grid([3.5, 8.0]));
    let dusk = builder.sheet("dusk", grid([9.0, 1.0]));
    let walk = builder.clip("walk", NewClip::of(day).frames(0..5).fps(11));
    let fly = builder.clip("fly", NewClip::of(dusk).frames(7..12).fps(7).mode(Mode::PingPong));
    let facings = NewFacings::new().clip(Facing::Right, "walk").mirror(Facing::Left, Facing::Right);
    let facings = builder.facings("walk", facings);
    let look = builder.look("dusk", NewLook::new().sheet(day, dusk));
    let reel = builder.build().unwrap();
    let left = reel.facing_set(facings).unwrap().clip(Facing::Left);
    (reel, [walk, fly, left], look)
}

/// An instance from what a view says, by its corners: flipped ones begin at the other side.
fn written_down(view: &View<'_>, position: [f32; 2]) -> Instance {
    let corners = view.quad(Placement::at(position)).corners;
    let flips = view.flips;
    let nth = usize::from(flips.x) + 2 * usize::from(flips.y);
    let [origin, right, below] =
        [[0, 1, 3], [1, 0, 2], [3, 2, 0], [2, 3, 1]][nth].map(|at| corners[at]);
    let axis = |end: [f32; 2]| [end[0] - origin[0], end[1] - origin[1]];
    let source = view.frame.source;
    Instance {
        origin,
        axis_x: axis(right),
        axis_y: axis(below),
        source: [source.x, source.y, source.width, source.height].map(|side| side as u16),
        image: view.frame.image.index() as u16,
        user: 0,
        tint: [255; 4],
        flash: [0; 4],
        depth: 0.0,
    }
}

#[test]
fn a_crowd_outlives_a_reload_and_refuses_a_foreign_reel() {
    let fill = |mut builder: ReelBuilder, walk: u32| {
        let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
        builder.clip("walk", NewClip::of(sheet).frames(0..walk).each(Ticks::new(10)));
        builder.clip("idle", NewClip::of(sheet).frames([7]).each(Ticks::new(5)));
        builder.build().unwrap()
    };
    let reel = fill(Reel::builder(), 6);
    let walk: ClipId = reel.id("walk").unwrap();
    let mut crowd = Crowd::new(&reel);
    let walker = crowd.spawn(NewMember::playing(walk).started_at(Ticks::new(53))).unwrap();
    let mut player = Player::new(&reel, walk);
    player.seek(&reel, Ticks::new(53));
    crowd.advance(Ticks::new(1));
    player.advance(&reel, Ticks::new(1));

    let next = fill(reel.reload(), 3);
    assert!(crowd.reload(&next));
    assert_eq!(
        crowd.packed_frame(walker),
        player.packed_frame(&next),
        "seen before any time has passed"
    );
    let reported = heard(&mut crowd, Ticks::new(40), EventMask::ALL);
    assert!(reported.into_iter().map(|(_, event)| event).eq(player.advance(&next, Ticks::new(40))));
    assert_eq!(crowd.player(walker), Some(player));
    let mut writer = InstanceWriter::new(&reel);
    let mut out: Vec<u32> = Vec::new();
    assert_eq!(crowd.instances(&writer).write(&mut out, |_| ()), 0, "a writer of another version");
    assert!(writer.reload(&next) && !writer.reload(&next));
    assert_eq!(crowd.instances(&writer).write(&mut out, |_| ()), 1);

    let mut builder = Reel::builder();
    let sheet = builder.sheet("other", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    let clip = builder.clip("other", NewClip::of(sheet).frames([0]).fps(1));
    let foreign = builder.build().unwrap();
    assert!(!crowd.reload(&foreign) && crowd.spawn(clip) == Err(CommandError::UnknownId));
    assert!(crowd.spawn(Player::new(&foreign, clip)).is_err());
    assert_eq!(crowd.play(Target::All, clip), 0);
    assert_eq!((crowd.player(walker), crowd.len()), (Some(player), 1));
}
