//! The debug overlay: what its lines show, against the views that they are about.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{reel::*, view::*, *};
use proptest::prelude::*;

fn reel() -> Reel {
    let mut builder = Reel::builder();
    builder.role("bram");
    let sheet = NewSheet::grid([128, 32], Grid::cell_size([32, 32]))
        .pivot(Pivot::Bottom)
        .area("body", 0..3, [8.0, 4.0, 16.0, 28.0])
        .point("lantern", 0, [26.0, 20.0]);
    let sheet = builder.sheet("bram", sheet);
    let walk = NewClip::of(sheet).frames(0..4).fps(10).mark("step", [1, 3]);
    builder.clip("walk", walk);
    builder.clip("idle", NewClip::of(sheet).frames([0]).fps(1));
    builder.fact("pace", 0.0);
    builder.cue("walking", NewCue::play("walk").when(Condition::new().within("pace", 1.0..)));
    builder.cue("resting", NewCue::play("idle"));
    builder.build().unwrap()
}

fn lines_of(overlay: &Overlay, part: OverlayPart) -> Vec<[[f32; 2]; 2]> {
    let lines = overlay.lines().iter().filter(|line| line.part == part);
    lines.map(|line| [line.from, line.to]).collect()
}

fn text(text: &str, place: Placement) -> Vec<[[f32; 2]; 2]> {
    let mut overlay = Overlay::new();
    overlay.text(text, place);
    lines_of(&overlay, OverlayPart::Text)
}

/// The same lines, so far moved.
fn moved(lines: &[[[f32; 2]; 2]], by: [f32; 2]) -> Vec<[[f32; 2]; 2]> {
    let end = |end: [f32; 2]| [end[0] + by[0], end[1] + by[1]];
    lines.iter().map(|line| line.map(end)).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    #[test]
    fn lines_lie_where_the_view_is(
        at in [-200_i16..200, -200..200],
        scale in 1_u8..4,
        is_flipped in any::<bool>(),
        advanced in 0_u64..400,
    ) {
        let reel = reel();
        let mut player = Player::new(&reel, reel.id("walk").unwrap());
        player.set_flips(Flips { x: is_flipped, y: false });
        player.advance(&reel, Ticks::from_millis(advanced));
        let place = Placement::at(at.map(f32::from)).scaled(scale.into());
        let view = player.view(&reel).unwrap();
        let mut overlay = Overlay::new();
        overlay.player(&reel, &player, place);

        let [[left, top], [right, bottom]] = view.bounds(place);
        let sides = [[[left, top], [right, top]], [[right, top], [right, bottom]],
            [[right, bottom], [left, bottom]], [[left, bottom], [left, top]]];
        prop_assert_eq!(lines_of(&overlay, OverlayPart::Bounds), sides.to_vec());
        let area = view.area(reel.id("body").unwrap(), place);
        let ends: Vec<[f32; 2]> = lines_of(&overlay, OverlayPart::Area).concat();
        prop_assert_eq!(ends.is_empty(), area.is_none());
        prop_assert!(area.is_none_or(|area| area.corners.iter().all(|corner| ends.contains(corner))));
        let middle = |line: &[[f32; 2]; 2]| [0, 1].map(|axis| (line[0][axis] + line[1][axis]) / 2.0);
        for arm in lines_of(&overlay, OverlayPart::Pivot) {
            prop_assert_eq!(middle(&arm), place.position);
        }
        let hold = player.hold_index(&reel).unwrap() + 1;
        let named = text(&format!("walk {hold}/4"), Placement::at([place.position[0], place.position[1] + 4.0]));
        prop_assert_eq!(lines_of(&overlay, OverlayPart::Clip), named);

        // Where y points up, all of it is the same, seen on the screen; bounds go around the other way.
        let mut up = Overlay::new();
        let [x, y] = place.position;
        up.player(&reel, &player, Placement::at([x, -y]).scaled(scale.into()).y_up());
        let but_bounds = |overlay: &Overlay| {
            let lines = overlay.lines().iter().filter(|line| line.part != OverlayPart::Bounds);
            lines.flat_map(|line| [line.from, line.to]).collect::<Vec<_>>()
        };
        for (down, up) in but_bounds(&overlay).iter().zip(but_bounds(&up)) {
            prop_assert!((down[0] - up[0]).abs() < 1e-3 && (down[1] + up[1]).abs() < 1e-3, "{down:?} {up:?}");
        }
        prop_assert_eq!(overlay.lines().len(), up.lines().len());
    }
}

#[test]
fn letters_are_told_apart_and_stay_in_their_rows() {
    let origin = Placement::at([0.0; 2]);
    let known: Vec<char> =
        ('a'..='z').chain('0'..='9').chain("-_.,:/=<>+*!?()'\"#%".chars()).collect();
    let shapes: Vec<_> = known.iter().map(|letter| text(&letter.to_string(), origin)).collect();
    let unknown = text("\u{2766}", origin);
    for (nth, shape) in shapes.iter().enumerate() {
        assert!(!shape.is_empty() && *shape != unknown, "{}", known[nth]);
        assert!(!shapes[..nth].contains(shape), "{} looks like another", known[nth]);
        let mut ends = shape.concat().into_iter();
        assert!(ends.all(|[x, y]| (0.0..=4.0).contains(&x) && (0.0..=6.0).contains(&y)));
    }
    assert_eq!(text("Walk", origin), text("wALK", origin));
    let [w, a] = ["w", "a"].map(|letter| text(letter, origin));
    assert_eq!(text("w a", origin), [w, moved(&a, [12.0, 0.0])].concat());
    let mut large = Overlay::new().letters(12.0);
    large.text("a", origin);
    let twice = |line: &[[f32; 2]; 2]| line.map(|end| end.map(|side| side * 2.0));
    assert_eq!(lines_of(&large, OverlayPart::Text), a.iter().map(twice).collect::<Vec<_>>());
}

#[test]
fn cues_say_why_and_marks_stay_for_half_a_second() {
    let reel = reel();
    let mut bram = Actor::new(&reel, reel.id("bram").unwrap());
    bram.set(reel.id("pace").unwrap(), 2.0_f32).unwrap();
    let place = Placement::at([50.0, 60.0]);
    let mut overlay = Overlay::new();
    let mut passed = 0;
    for event in bram.advance(&reel, Ticks::from_millis(150)) {
        overlay.event(&reel, &event, place);
        passed += u32::from(event.is_mark(reel.id("step").unwrap()));
    }
    overlay.actor(&reel, &bram, place);
    let rows = [
        text("cue walking", Placement::at([50.0, 73.0])),
        text("pace >= 1", Placement::at([50.0, 82.0])),
    ];
    assert_eq!(lines_of(&overlay, OverlayPart::Cue), rows.concat());
    assert_eq!(passed, 1);
    assert_eq!(lines_of(&overlay, OverlayPart::Mark), text("step", Placement::at([50.0, 50.0])));

    overlay.begin(Ticks::from_millis(250));
    let risen = lines_of(&overlay, OverlayPart::Mark);
    assert_eq!(risen, text("step", Placement::at([50.0, 45.0])));
    assert_eq!(risen.len(), overlay.lines().len());
    overlay.begin(Ticks::from_millis(250));
    assert!(overlay.lines().is_empty());

    // Who stands shows a cue without conditions, and nothing is shown of an empty view.
    bram.set(reel.id("pace").unwrap(), 0.0_f32).unwrap();
    bram.advance(&reel, Ticks::from_millis(1));
    overlay.actor(&reel, &bram, place);
    assert_eq!(
        lines_of(&overlay, OverlayPart::Cue),
        text("cue resting", Placement::at([50.0, 73.0]))
    );
    overlay.begin(Ticks::ZERO);
    overlay.view(None, place);
    assert!(overlay.lines().is_empty());
}
