//! Any grid cuts cells that lie inside the image and do not overlap, or is refused; and any sheet can
//! be measured.

#![no_main]

use libfuzzer_sys::fuzz_target;
use lucky_reel::assets::Pixels;
use lucky_reel_measure::measure;
use lucky_reel::{Grid, reel::Rect};

type Numbers = ([u32; 2], [u32; 2], [u32; 2], [u32; 2], [u32; 2], Option<u32>, Option<u32>);

fuzz_target!(|data: (Numbers, [u8; 2], Vec<u8>)| {
    let ((size, cell, start, margin, gap, columns, count), sides, pixels) = data;
    let mut grid = Grid::cell_size(cell).start(start).margin(margin).gap(gap);
    if let Some(columns) = columns {
        grid = grid.columns(columns);
    }
    if let Some(count) = count {
        grid = grid.count(count);
    }
    if let Some(cells) = grid.cut(size) {
        assert!(cells.iter().all(|cell| Rect::fits(size, *cell)));
        for pair in cells.windows(2) {
            assert!(pair[1].x >= pair[0].x + cell[0] || pair[1].y >= pair[0].y + cell[1]);
        }
    }
    if let Some(mut picture) = Pixels::new(sides.map(|side| u32::from(side) + 1)) {
        for (to, from) in picture.rgba_mut().iter_mut().zip(&pixels) {
            *to = *from;
        }
        for guess in measure(&picture).guesses {
            assert!(guess.grid().cut(picture.size()).is_some());
        }
    }
});
