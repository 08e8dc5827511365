//! Sheets are measured right, or with doubt.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

mod made_sheets;

use lucky_reel_assets::{Loader, Pixels, load_bytes};
use lucky_reel_measure::{GridHints, Guess, advice, measure, measure_with};
use made_sheets::{Made, made};
use proptest::option;
use proptest::prelude::*;

/// Sheets that the weights were not fitted to: five of each kind.
fn sheets() -> impl Iterator<Item = Made> {
    (1_200..1_260).map(made)
}

fn is_right(guess: &Guess, made: &Made) -> bool {
    let count = [guess.columns, guess.rows];
    (0..2).all(|axis| {
        let [margin, cell, gap, cells] = made.axes[axis];
        let begins = guess.start[axis] + guess.margin[axis];
        (guess.cell[axis], count[axis]) == (cell, cells)
            && (cells == 1 || (begins, guess.gap[axis]) == (margin, gap))
    })
}

#[test]
fn made_up_sheets_are_measured() {
    let (mut first, mut three, mut sure, mut wrong, mut all) = (0, 0, 0, 0, 0);
    for made in sheets() {
        let measured = measure(&made.picture);
        let right =
            |count: usize| measured.guesses.iter().take(count).any(|it| is_right(it, &made));
        all += 1;
        first += u32::from(right(1));
        three += u32::from(right(3));
        sure += u32::from(measured.sure && right(1));
        wrong += u32::from(measured.sure && !right(1));
        for guess in &measured.guesses {
            let cells = guess.grid().cut(made.picture.size()).unwrap();
            assert_eq!(cells.len() as u32, guess.columns * guess.rows, "{guess:?}");
            assert_eq!(guess.filled.len() as u32, guess.rows);
        }
        let best = &measured.guesses[0];
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {}\n[clips.c]\nframes = \"all\"\nfps = 8\n",
            best.in_reel_file()
        );
        let art =
            load_bytes("s.reel.toml", text.as_bytes(), |_| Ok(made.picture.to_png())).unwrap();
        let holds = art.reel.clips().next().unwrap().holds().len();
        assert_eq!(holds as u32, best.columns * best.rows, "{text}");
        let chances: f64 = measured.guesses.iter().map(|guess| guess.chance).sum();
        assert!(chances <= 1.0 + 1e-9);
    }
    let found =
        format!("of {all}: {first} first, {three} in three, {sure} sure, {wrong} sure and wrong");
    assert!(first * 100 >= all * 80 && three * 100 >= all * 90, "{found}");
    assert!(sure * 100 >= all * 40 && wrong <= 1, "{found}");
}

/// What is known is kept, and the rest is found with it.
#[test]
fn what_is_known_is_kept() {
    for made in sheets().filter(|made| made.kind == "gaps") {
        let [cell, gap] = [1, 2].map(|of| [made.axes[0][of], made.axes[1][of]]);
        let known = GridHints { cell: Some(cell), ..GridHints::default() };
        let with_cell = measure_with(&made.picture, known);
        assert!(with_cell.guesses.iter().all(|guess| guess.cell == cell));
        assert!(is_right(&with_cell.guesses[0], &made), "{} {:?}", made.kind, with_cell.guesses[0]);
        let known =
            GridHints { gap: Some(gap), columns: Some(made.axes[0][3]), ..GridHints::default() };
        for guess in measure_with(&made.picture, known).guesses {
            assert_eq!((guess.gap, guess.columns), (gap, made.axes[0][3]));
        }
        let known = GridHints { cell: Some([9_999, 1]), ..GridHints::default() };
        assert!(measure_with(&made.picture, known).guesses.is_empty());
    }
    // From a start on, as if nothing stood before it.
    let made = made(1_200);
    let [across, down] = made.axes.map(|axis| axis[1] + axis[2]);
    let known = GridHints { start: Some([across, down]), ..GridHints::default() };
    let measured = measure_with(&made.picture, known);
    assert_eq!(measured.guesses[0].start, [across, down]);
    let beyond = GridHints { start: Some([9_999, 0]), ..GridHints::default() };
    assert!(measure_with(&made.picture, beyond).guesses.is_empty());
}

/// Reasons are said in words.
#[test]
fn guesses_have_reasons() {
    let made = made(1_200);
    assert_eq!(made.kind, "figures");
    let measured = measure(&made.picture);
    let best = &measured.guesses[0];
    let said = best.reasons.join("; ");
    assert!(said.contains("no drawing crosses") || said.contains("look alike"), "{said}");

    let gaps = sheets().find(|made| made.kind == "gaps").unwrap();
    let said = measure(&gaps.picture).guesses[0].reasons.join("; ");
    assert!(said.contains("part the columns every"), "{said}");
}

/// The loader proposes what the pixels say, where it is asked to.
#[test]
fn grids_that_do_not_fit_are_advised() {
    let made = sheets().find(|made| made.kind == "strip" && measure(&made.picture).sure).unwrap();
    let text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [7, 7], gap = 3 }\n\
                [clips.c]\nframes = 0\n";
    let load = |loader: Loader<'_>| loader.load().unwrap_err().problems()[0].fix().to_owned();
    let loader = || {
        let read = |_: &str| Ok(made.picture.to_png());
        Loader::new().bytes("s.reel.toml", text.as_bytes(), read)
    };
    let wanted = format!("{{ cell = [{}, {}]", made.axes[0][1], made.axes[1][1]);
    assert!(load(loader().advise_grids(advice)).contains(&wanted));
    assert!(!load(loader()).contains("by its pixels"));
}

fn number() -> impl Strategy<Value = u32> {
    prop_oneof![8 => 0_u32..12, 2 => 12_u32..60, 1 => any::<u32>()]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Any picture and anything that is said to be known: guesses that fit and are as known, or none.
    #[test]
    fn whatever_is_known_guesses_fit(
        size in [1_u32..50, 1_u32..50], colors in prop::collection::vec(0_usize..4, 1..200),
        cell in option::of([number(), number()]), margin in option::of([number(), number()]),
        gap in option::of([number(), number()]), columns in option::of(number()),
        start in option::of([number(), number()]),
    ) {
        let palette = [[0; 4], [0; 4], [200, 30, 90, 255], [10, 10, 10, 128]];
        let mut picture = Pixels::new(size).unwrap();
        for (pixel, color) in picture.rgba_mut().chunks_exact_mut(4).zip(colors.iter().cycle()) {
            pixel.copy_from_slice(&palette[*color]);
        }
        let known = GridHints { cell, margin, gap, columns, start };
        for guess in measure_with(&picture, known).guesses {
            let cells = guess.grid().cut(size);
            prop_assert_eq!(cells.unwrap().len() as u32, guess.columns * guess.rows);
            prop_assert!(cell.is_none_or(|cell| cell == guess.cell));
            prop_assert!(gap.is_none_or(|gap| gap == guess.gap));
            prop_assert!(columns.is_none_or(|columns| columns == guess.columns));
            prop_assert!((0..2).all(|axis| guess.start[axis] >= start.map_or(0, |start| start[axis])));
        }
    }
}

#[test]
fn pictures_that_tell_nothing_are_not_sure() {
    let mut full = Pixels::new([96, 64]).unwrap();
    full.rgba_mut().fill(200);
    for picture in [
        Pixels::new([96, 64]).unwrap(),
        full,
        Pixels::new([1, 1]).unwrap(),
        Pixels::new([7, 300]).unwrap(),
        Pixels::new([1, 4_000]).unwrap(),
    ] {
        let measured = measure(&picture);
        assert!(!measured.sure && !measured.guesses.is_empty(), "{picture:?}");
        assert!(measured.guesses.iter().all(|guess| guess.grid().cut(picture.size()).is_some()));
    }
    let none = measure(&Pixels::new([0, 0]).unwrap());
    assert!(!none.sure && none.guesses.is_empty());
}
