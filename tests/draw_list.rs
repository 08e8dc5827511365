//! Draw lists against a stable sort, over frames in which things move, come and go.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{crowd::*, id::ImageId, reel::Frame, view::*, *};
use proptest::prelude::*;

/// Two sheets, so two images, and a clip of each frame.
fn reel() -> Reel {
    let mut builder = Reel::builder();
    for (name, side) in [("moth", 16), ("bram", 32)] {
        let sheet = NewSheet::grid([side * 4, side], Grid::cell_size([side, side]));
        let sheet = builder.sheet(name, sheet);
        builder.clip(format!("{name}-walk"), NewClip::of(sheet).frames(0..4).fps(12));
    }
    builder.build().unwrap()
}

/// A picture of one of the reel's eight frames, or nothing, and a place.
fn item() -> impl Strategy<Value = (u32, Placement)> {
    let number = prop_oneof![
        6 => (-40_i16..40).prop_map(f32::from),
        3 => -1e4_f32..1e4,
        1 => prop_oneof![
            Just(f32::NAN), Just(f32::INFINITY), Just(f32::NEG_INFINITY), Just(-0.0), Just(1e30),
        ],
    ];
    let place = (any::<i16>(), number.clone(), number, 0_u8..6).prop_map(|(x, y, depth, more)| {
        let place = Placement::at([f32::from(x), y]).depth(depth);
        match more {
            0 => place.scaled(2.0),
            1 => place.y_up().user(7), // as `naive` knows it
            2 => place.pointing([0.0, 1.0]).tinted([1, 2, 3, 4]),
            _ => place,
        }
    });
    (0_u32..9, place)
}

fn picture(reel: &Reel, number: u32) -> PackedFrame {
    let frames =
        reel.clips().flat_map(|clip| clip.holds().map(|hold| hold.frame).collect::<Vec<_>>());
    let flips = Flips { x: number.is_multiple_of(3), y: false };
    frames
        .map(|frame| PackedFrame::of(frame, flips))
        .nth(number as usize)
        .unwrap_or(PackedFrame::NOTHING)
}

/// As the docs say: the lowest layer first, in it the farthest, equals as they were added, no number as 0.
fn naive(items: &[(i16, DrawItem)], writer: &InstanceWriter, by_y: bool) -> Vec<Instance> {
    let mut wanted: Vec<(i16, f32, &DrawItem)> = Vec::new();
    for (layer, item) in items.iter().filter(|(_, item)| item.picture.frame().is_some()) {
        let made: Instance = writer.make(item.picture, item.place);
        let seen: SmallInstance = writer.make(item.picture, item.place);
        let up = seen.user == 7;
        let key = match by_y {
            true if up => -seen.position[1],
            true => seen.position[1],
            false => -made.depth,
        };
        wanted.push((*layer, if key.is_nan() { 0.0 } else { key }, item));
    }
    wanted.sort_by(|a, b| (a.0, a.1).partial_cmp(&(b.0, b.1)).unwrap());
    wanted.iter().map(|(_, _, item)| writer.make(item.picture, item.place)).collect()
}

/// Two lists of instances are alike; a depth that is not a number may have become 0.
fn assert_alike(ours: &[Instance], naive: &[Instance]) {
    assert_eq!(ours.len(), naive.len());
    for (ours, naive) in ours.iter().zip(naive) {
        let depths = [ours, naive]
            .map(|instance| if instance.depth.is_nan() { 0.0 } else { instance.depth });
        let bits = |of: &Instance| {
            let numbers =
                [of.origin, of.axis_x, of.axis_y].map(|pair| pair.map(|n| (n + 0.0).to_bits()));
            (numbers, of.source, of.image, of.flash, of.tint, of.user)
        };
        assert_eq!((bits(ours), depths[0]), (bits(naive), depths[1]));
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    #[test]
    fn the_farthest_comes_first_frame_after_frame(
        mut things in prop::collection::vec(item(), 0..700),
        moves in prop::collection::vec(-3_i8..4, 1..40),
        layers in prop::collection::vec(-2_i16..3, 1..6),
        by_y in any::<bool>(),
    ) {
        let reel = reel();
        let writer = InstanceWriter::new(&reel);
        let mut list = if by_y { DrawList::by_y() } else { DrawList::by_depth() };
        let mut instances: Vec<Instance> = Vec::new();
        for frame in 0..4 {
            // Single things go to the layers in turn, all others to where the last one went.
            let single = things.len() / 3;
            let layer = |nth: usize| if single == 0 { 0 } else { layers[nth.min(single - 1) % layers.len()] };
            let items: Vec<(i16, DrawItem)> = things.iter().enumerate()
                .map(|(nth, (number, place))| (layer(nth), writer.make(picture(&reel, *number), *place)))
                .collect();
            list.clear();
            for (layer, item) in &items[..single] {
                list.set_layer(*layer);
                list.add(item.picture.view(&reel), item.place);
            }
            list.put(items[single..].iter().map(|(_, item)| *item));
            instances.clear();
            prop_assert_eq!(list.write(&writer, &mut instances), Ok(instances.len()));
            prop_assert_eq!((list.len(), list.is_empty()), (instances.len(), instances.is_empty()));
            assert_alike(&instances, &naive(&items, &writer, by_y));

            // Small instances come in the same order, and short slices take the first of them.
            let mut small: Vec<SmallInstance> = Vec::new();
            list.write(&writer, &mut small).unwrap();
            let mut few = [SmallInstance::default(); 5];
            list.write(&writer, &mut &mut few[..]).unwrap();
            prop_assert!(small.iter().zip(&few).all(|(a, b)| a.user == b.user && a.shown == b.shown));

            // Runs cover everything, change the image at each boundary, and agree in both formats.
            let runs: Vec<_> = writer.runs(&instances).collect();
            prop_assert_eq!(&runs, &writer.runs(&small).collect::<Vec<_>>());
            prop_assert!(runs.windows(2).all(|pair| pair[0].items.end == pair[1].items.start && pair[0].image != pair[1].image));
            prop_assert_eq!(runs.iter().map(|run| run.items.len()).sum::<usize>(), instances.len());
            let shows = |image: ImageId, at: usize| usize::from(instances[at].image) == image.index();
            let all_show = runs.iter().all(|run| run.items.clone().all(|at| shows(run.image, at)));
            prop_assert!(all_show);

            // Things move a little; every other frame some are gone.
            for ((_, place), step) in things.iter_mut().zip(moves.iter().cycle()) {
                let small: SmallInstance = writer.make(PackedFrame::NOTHING, *place);
                let [x, y] = small.position;
                *place = Placement::at([x, y + f32::from(*step)]).depth(f32::from(*step));
            }
            things.truncate(if frame % 2 == 0 { 500 } else { 100 });
        }
    }
}

#[test]
fn a_group_and_tiles_are_written_into_a_list() {
    let reel = reel();
    let writer = InstanceWriter::new(&reel);
    let (moth, bram) =
        (reel.id::<ClipId>("moth-walk").unwrap(), reel.id::<ClipId>("bram-walk").unwrap());
    let mut crowd = Crowd::new(&reel);
    let group = crowd.add_group().unwrap();
    for nth in 0..130 {
        let new = NewMember::playing(moth);
        crowd.spawn(if nth % 2 == 0 { new.in_group(group) } else { new }).unwrap();
    }
    let mut list = DrawList::by_y();
    let y = |member: MemberId| Placement::at([0.0, -(member.index() as f32)]);
    let written = crowd.instances(&writer).of_group(group).write(&mut list, y);
    assert_eq!(written, 65);
    let unison = Unison::new(&reel);
    unison
        .instances(&writer, &[bram, bram])
        .write_at(&mut list, &[[1.0, -1_000.0], [2.0, 1_000.0]]);
    let mut instances: Vec<SmallInstance> = Vec::new();
    list.write(&writer, &mut instances).unwrap();
    let ids: Vec<MemberId> = crowd.ids(group).collect();
    let expected = ids.iter().rev().map(|member| -(member.index() as f32));
    let expected: Vec<f32> = [-1_000.0].into_iter().chain(expected).chain([1_000.0]).collect();
    assert_eq!(instances.iter().map(|instance| instance.position[1]).collect::<Vec<_>>(), expected);

    let all: Vec<MemberId> = crowd.ids(Target::All).collect();
    let mut in_order: Vec<SmallInstance> = Vec::new();
    crowd.instances(&writer).of_group(group).in_order(&all).write(&mut in_order, y);
    assert_eq!(in_order.len(), 65);
}

/// The wrong images would be drawn: frames have the same numbers in every reel.
#[test]
fn pictures_of_another_reel_are_refused() {
    let (ours, theirs) = (reel(), reel());
    let player = |reel: &Reel| Player::new(reel, reel.id("bram-walk").unwrap());
    let (our_writer, their_writer) = (InstanceWriter::new(&ours), InstanceWriter::new(&theirs));
    let mut crowd = Crowd::new(&theirs);
    crowd.spawn(theirs.id::<ClipId>("moth-walk").unwrap()).unwrap();
    let place = Placement::at([0.0; 2]);
    let mut list = DrawList::by_y();
    let mut instances: Vec<Instance> = Vec::new();

    list.add(player(&ours).view(&ours), place);
    assert_eq!(list.write(&their_writer, &mut instances), Err(OtherReel));
    list.set_layer(1);
    crowd.instances(&their_writer).write(&mut list, |_| place);
    assert_eq!(list.len(), 2);
    for writer in [&our_writer, &their_writer] {
        assert_eq!(list.write(writer, &mut instances), Err(OtherReel));
    }
    assert!(instances.is_empty());

    list.clear();
    assert_eq!(list.write(&our_writer, &mut instances), Ok(0));
    list.add(player(&theirs).view(&theirs), place);
    assert_eq!(list.write(&their_writer, &mut instances), Ok(1));

    // An older version of the reel is another one, too.
    let stacked = |id: id::FrameId, _: &Frame| (0, [0, id.index() as u32 * 32]);
    let packed = theirs.with_images(&[[32, 256]], stacked).unwrap();
    assert_eq!(list.write(&InstanceWriter::new(&packed), &mut instances), Err(OtherReel));
    assert!(OtherReel.to_string().contains("load all roles into one reel"));
}
