//! Areas: where they lie, whether they overlap, and the grid that finds pairs.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{
    id::{AreaId, PointId},
    problem::Key,
    reel::*,
    view::*,
    *,
};
use proptest::prelude::*;

fn placement() -> impl Strategy<Value = Placement> {
    let number = |within: i16| (-within..within).prop_map(|n| f32::from(n) / 4.0);
    let scale = prop_oneof![Just(1.0_f32), Just(2.0), Just(0.75), Just(-1.0)];
    let (at, turn) = ([number(200), number(200)], number(40));
    (at, scale.clone(), scale, turn, any::<[bool; 3]>()).prop_map(
        |(at, x, y, turn, [turned, snapped, y_up])| {
            let place = Placement::at(at).stretched([x, y]);
            let place = if turned { place.rotated(turn) } else { place };
            let place = if snapped { place.snapped() } else { place };
            if y_up { place.y_up() } else { place }
        },
    )
}

/// How much space two rectangles share, by cutting one along each side of the other.
fn shared_space(one: &Area, other: &Area) -> f64 {
    let mut polygon = one.corners.map(|corner| corner.map(f64::from)).to_vec();
    let cut = other.corners.map(|corner| corner.map(f64::from));
    let cross = |a: [f64; 2], b: [f64; 2], c: [f64; 2]| {
        (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
    };
    let size = |polygon: &[[f64; 2]]| {
        let next = polygon.iter().cycle().skip(1);
        polygon.iter().zip(next).map(|(a, b)| a[0] * b[1] - a[1] * b[0]).sum::<f64>() / 2.0
    };
    if size(&cut) == 0.0 {
        return 0.0; // it has no inside, and so no sides to cut along
    }
    let way_round = size(&cut).signum();
    for side in 0..4 {
        let (from, to) = (cut[side], cut[(side + 1) % 4]);
        let inside = |at: [f64; 2]| cross(from, to, at) * way_round;
        let next = polygon.iter().cycle().skip(1).copied();
        let mut left = Vec::new();
        for (a, b) in polygon.iter().copied().zip(next) {
            let (at_a, at_b) = (inside(a), inside(b));
            if at_a >= 0.0 {
                left.push(a);
            }
            if (at_a >= 0.0) != (at_b >= 0.0) {
                let share = at_a / (at_a - at_b);
                left.push([0, 1].map(|axis| a[axis] + share * (b[axis] - a[axis])));
            }
        }
        polygon = left;
        if polygon.is_empty() {
            return 0.0;
        }
    }
    size(&polygon).abs()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// The corners of an area lie where points at these corners lie, whatever the trim, pivot, flip and
    /// placement; its bounds, middle and inside are those of its corners.
    #[test]
    fn areas_lie_where_points_do(
        halves in [-20_i16..80, -20_i16..80, 0_i16..60, 0_i16..60],
        pivot in [-10_i16..70, -10_i16..70],
        shift in [0_u32..10, 0_u32..10],
        flips in any::<[bool; 2]>(),
        place in placement(),
    ) {
        let [x, y, width, height] = halves.map(|halves| f32::from(halves) / 2.0);
        let frame = NewFrame::at(Rect::new(3, 1, 12, 20)).trimmed_from([32, 32], shift);
        let mut sheet = NewSheet::frames([40, 40], [frame])
            .pivot(Pivot::At(pivot.map(|halves| f32::from(halves) / 2.0)))
            .area("body", .., [1.0, 2.0, 3.0, 4.0])
            .area("body", 0..=0, [x, y, width, height])
            .area("feet", 0..1, [0.0, 30.0, 32.0, 2.0]);
        let corners = [[x, y], [x + width, y], [x + width, y + height], [x, y + height]];
        for (nth, corner) in corners.into_iter().enumerate() {
            sheet = sheet.point(format!("corner-{nth}"), 0, corner);
        }
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", sheet);
        builder.clip("c", NewClip::of(sheet).frames([0]));
        let reel = builder.build().unwrap();
        let flips = Flips { x: flips[0], y: flips[1] };
        let view = View::of(&reel, reel.frames_of(sheet).next().unwrap(), flips).unwrap();
        let body: AreaId = reel.id("body").unwrap();
        prop_assert_eq!(reel.name(body), "body");
        prop_assert_eq!(view.areas().count(), 2);

        let area = view.area(body, place).unwrap();
        let mut ours = area.corners;
        let mut wanted = [0, 1, 2, 3].map(|nth| {
            view.point_at(reel.id::<PointId>(&format!("corner-{nth}")).unwrap(), place).unwrap()
        });
        // Flips change where a circle around the corners begins, and which way round it runs.
        for corners in [&mut ours, &mut wanted] {
            corners.sort_by(|a, b| a.partial_cmp(b).unwrap());
        }
        for (ours, wanted) in ours.iter().zip(&wanted) {
            prop_assert!((0..2).all(|axis| (ours[axis] - wanted[axis]).abs() < 1e-4));
        }
        let least = [0, 1].map(|axis| ours.iter().map(|c| c[axis]).fold(f32::INFINITY, f32::min));
        prop_assert_eq!(area.bounds()[0], least);
        if width > 0.0 && height > 0.0 {
            let beside = [0, 1].map(|axis| 2.1 * area.corners[1][axis] - 1.1 * area.corners[0][axis]);
            prop_assert!(!area.contains(beside));
        }
    }

    /// Two areas overlap where they share space, at any angle.
    #[test]
    fn areas_overlap_where_they_share_space(
        sizes in prop::collection::vec([0_u8..40, 0_u8..40], 2),
        places in prop::collection::vec(placement(), 2),
    ) {
        let mut sheet = NewSheet::grid([32, 32], Grid::cell_size([32, 32]));
        for (name, [width, height]) in ["one", "other"].into_iter().zip(&sizes) {
            let at = [4.0, 4.0, f32::from(*width), f32::from(*height)];
            sheet = sheet.area(name, .., at);
        }
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", sheet);
        builder.clip("c", NewClip::of(sheet).frames([0]));
        let reel = builder.build().unwrap();
        let frame = reel.frames_of(sheet).next().unwrap();
        let view = View::of(&reel, frame, Flips::default()).unwrap();
        let area = |name: &str, at: usize| view.area(reel.id::<AreaId>(name).unwrap(), places[at]).unwrap();
        let (one, other) = (area("one", 0), area("other", 1));
        let space = shared_space(&one, &other);
        prop_assert_eq!(one.overlaps(&other), other.overlaps(&one));
        if space > 1e-2 {
            prop_assert!(one.overlaps(&other));
        }
        if one.overlaps(&other) {
            let [a, b] = [one.bounds(), other.bounds()];
            prop_assert!((0..2).all(|axis| a[0][axis] < b[1][axis] && b[0][axis] < a[1][axis]));
            prop_assert!(space > 0.0 || shared_space(&other, &one) > 0.0);
        }
    }

    /// The grid finds the pairs that a look at all pairs finds, once each: upright and rotated, near and far,
    /// also those that only share a corner, where it is rounding that decides.
    #[test]
    fn the_grid_finds_all_pairs(
        ours in prop::collection::vec((placement(), 0_u8..12), 0..80),
        others in prop::collection::vec((placement(), 0_u8..12), 0..80),
        angle in prop_oneof![Just(0.0_f32), -4.0_f32..4.0],
        far in prop_oneof![2 => Just(0.0_f32), 1 => 1e5_f32..2e6],
        rounds in 1_usize..3,
    ) {
        let (sin, cos) = angle.sin_cos();
        // Most are small; a few are as large as all the rest together, or at no place at all.
        let upright = |(place, kind): &(Placement, u8)| {
            let side = match kind {
                0 => 400.0,
                1 => 0.0,
                _ => f32::from(*kind) * 2.0,
            };
            let at = if *kind == 2 { f32::NAN } else { 0.0 };
            let small: SmallInstance = placed(*place);
            let [x, y] = small.position;
            Area::upright([[x + at, y], [x + side, y + side]])
        };
        let area = |of: &(Placement, u8)| {
            let mut area = upright(of);
            let [x, y] = area.corners[0].map(|at| at + far);
            for corner in &mut area.corners {
                let [right, down] = [corner[0] + far - x, corner[1] + far - y];
                *corner = [x + right * cos - down * sin, y + right * sin + down * cos];
            }
            // Some hang together like tiles, corner to corner.
            if of.1 == 5 && let Some(first) = ours.first() {
                let [first, own] = [upright(first).corners[0], area.corners[2]];
                let shift = [0, 1].map(|axis| first[axis] + far - own[axis]);
                area.corners = area.corners.map(|at| [at[0] + shift[0], at[1] + shift[1]]);
            }
            area
        };
        let (mut grid, mut other_grid) = (AreaGrid::new(), AreaGrid::new());
        for _ in 0..rounds {
            grid.clear();
            grid.extend(ours.iter().map(area).enumerate());
            other_grid.clear();
            other_grid.extend(others.iter().map(area).enumerate());
            let mut found: Vec<(usize, usize)> = Vec::new();
            grid.overlaps(&other_grid, |one, other| found.push((one, other)));
            found.sort_unstable();
            let mut wanted = Vec::new();
            for (one, a) in ours.iter().map(area).enumerate() {
                let all = others.iter().map(area).enumerate();
                wanted.extend(all.filter(|(_, b)| a.overlaps(b)).map(|(other, _)| (one, other)));
            }
            prop_assert_eq!(&found, &wanted);
            if let Some(first) = others.first().map(area) {
                let mut near: Vec<usize> = Vec::new();
                grid.overlapping(&first, |one| near.push(one));
                near.sort_unstable();
                let of_first = wanted.iter().filter(|(_, other)| *other == 0).map(|(one, _)| *one);
                prop_assert_eq!(near, of_first.collect::<Vec<_>>());
            }
        }
    }
}

/// The position of a placement.
fn placed(place: Placement) -> SmallInstance {
    let mut builder = Reel::builder();
    builder.sheet("s", NewSheet::grid([1, 1], Grid::cell_size([1, 1])));
    InstanceWriter::new(&builder.build().unwrap()).make(PackedFrame::NOTHING, place)
}

#[test]
fn wrong_areas_are_refused_with_their_place() {
    let problem = |sheet: NewSheet| {
        let mut builder = Reel::builder();
        builder.sheet("s", sheet);
        let error = builder.build().unwrap_err();
        let problem = &error.problems()[0];
        assert_eq!(problem.key, Some(Key::Area("body".to_owned())));
        (problem.index, problem.code())
    };
    let sheet = || {
        let sheet = NewSheet::grid([64, 16], Grid::cell_size([16, 16]));
        sheet.area("body", .., [0.0; 4])
    };
    let rectangle = |index| (Some(index), "off-pixels");
    assert_eq!(problem(sheet().area("body", 1..2, [0.25, 0.0, 1.0, 1.0])), rectangle(1));
    assert_eq!(problem(sheet().area("body", 1..2, [0.0, 0.0, -1.0, 1.0])), rectangle(1));
    assert_eq!(problem(sheet().area("body", 1..2, [f32::NAN, 0.0, 1.0, 1.0])), rectangle(1));
    assert_eq!(problem(sheet().area("body", 2..2, [0.0; 4])).1, "empty");
    assert_eq!(problem(sheet().area("body", ..0, [0.0; 4])).1, "empty");
    let beyond = sheet().area("feet", 0..=0, [0.0; 4]).area("body", 1..=4, [0.0; 4]);
    assert_eq!(problem(beyond), (Some(1), "no-frame"));
}
