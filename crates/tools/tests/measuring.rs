//! Sheets of figures are measured right, or with doubt.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::Pixmap;
use lucky_reel_core::Grid;
use lucky_reel_tools::measure::measure;
use lucky_reel_tools::{Canvas, chart};
use proptest::prelude::*;

#[derive(Clone, Debug)]
struct Made {
    cell: [u32; 2],
    count: [u32; 2],
    gap: u32,
    margin: u32,
    seed: u32,
}

fn made() -> impl Strategy<Value = Made> {
    let cells = [[16, 16], [24, 24], [32, 32], [48, 48], [64, 64], [32, 48], [48, 32], [64, 80]];
    let cell = prop::sample::select(cells.to_vec());
    (cell, 2_u32..9, 1_u32..5, prop_oneof![3 => Just(0_u32), 1 => 1_u32..3], 0_u32..3, any::<u32>())
        .prop_map(|(cell, columns, rows, gap, margin, seed)| Made {
            cell,
            count: [columns, rows],
            gap,
            margin: if gap > 0 { margin } else { 0 },
            seed,
        })
}

/// A body, a head, and arms that differ from frame to frame, with room around them.
fn draw(made: &Made) -> Pixmap {
    let size = [0, 1]
        .map(|axis| 2 * made.margin + made.count[axis] * (made.cell[axis] + made.gap) - made.gap);
    let mut canvas = Canvas::new(size).unwrap();
    let mut random = made.seed | 1;
    let mut next = |below: u32| {
        random = random.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        (random >> 16) % below
    };
    for row in 0..made.count[1] {
        // A figure takes between a half and nearly all of its cell.
        let wide = made.cell[0] / 2 + next(made.cell[0] / 2 - 3);
        let high = made.cell[1] * 2 / 3 + next(made.cell[1] / 3 - 3);
        let filled = made.count[0] - next(made.count[0].min(3));
        for column in 0..filled {
            let place = [column, row];
            let [x, y] =
                [0, 1].map(|axis| made.margin + place[axis] * (made.cell[axis] + made.gap));
            let left = (x + (made.cell[0] - wide) / 2) as i32;
            let top = (y + made.cell[1] - 1 - high) as i32;
            let shade = [60 + next(180) as u8, 90, 120, 255];
            let (wide, high) = (wide as i32, high as i32);
            let arm = next(3) as i32;
            canvas.fill([left + wide / 4, top], [(wide / 2).max(1) as u32, high as u32], shade);
            canvas.fill(
                [left, top + high / 3 + arm],
                [wide as u32, (high / 3).max(1) as u32],
                shade,
            );
        }
    }
    canvas.into_picture()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    /// Where it is sure, it is right: the lines that it draws are the lines between the cells.
    #[test]
    fn what_is_sure_is_right(made in made()) {
        let picture = draw(&made);
        let measured = measure(&picture);
        let best = &measured.guesses[0];
        prop_assert!(best.grid().cut(picture.size()).is_ok());
        let period = [0, 1].map(|axis| best.cell[axis] + best.gap[axis]);
        let wanted = made.cell.map(|side| side + made.gap);
        let same = (0..2).all(|axis| made.count[axis] == 1 || period[axis] == wanted[axis]);
        prop_assert!(!measured.sure || same, "{:?}", best);
        if same && best.cell == made.cell && best.margin == [made.margin; 2] {
            prop_assert_eq!([best.columns, best.rows], made.count);
            prop_assert!(best.filled.iter().all(|filled| *filled > 0 && *filled <= made.count[0]));
            let lined = chart::with_grid_lines(&picture, best.grid()).unwrap();
            prop_assert!(lined.size()[0] > picture.size()[0]);
        }
    }
}

#[test]
fn nearly_all_of_many_sheets_are_measured_right_at_first() {
    let (mut right, mut sure) = (0, 0);
    for seed in 0..100_u32 {
        let cell = [[16, 16], [24, 24], [32, 32], [48, 48], [64, 64], [32, 48]][seed as usize % 6];
        let made =
            Made { cell, count: [3 + seed % 7, 1 + seed % 4], gap: 0, margin: 0, seed: seed * 77 };
        let measured = measure(&draw(&made));
        right += u32::from(measured.guesses[0].cell == cell);
        sure += u32::from(measured.sure);
    }
    assert!(right >= 95 && sure >= 60, "{right} right, {sure} sure");
}

#[test]
fn pictures_that_tell_nothing_are_not_sure() {
    let mut full = Pixmap::new([96, 64]).unwrap();
    full.rgba_mut().fill(200);
    for picture in [
        Pixmap::new([96, 64]).unwrap(),
        full,
        Pixmap::new([1, 1]).unwrap(),
        Pixmap::new([7, 300]).unwrap(),
    ] {
        let measured = measure(&picture);
        assert!(!measured.sure && !measured.guesses.is_empty(), "{picture:?}");
    }
    let none = measure(&Pixmap::new([0, 0]).unwrap());
    assert!(!none.sure);
    assert!(
        chart::with_grid_lines(&Pixmap::new([64, 64]).unwrap(), Grid::cell_size([1, 1])).is_some()
    );
}
