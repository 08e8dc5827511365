//! Sheets made up at random, with the cells that they have: figures, tiles and effects, on transparent,
//! colored and no background, with gaps, ruled lines, margins, empty cells and something left over.

#![allow(clippy::expect_used)] // what is made up is known

use lucky_reel_assets::Pixels;

/// A sheet and its true cells.
pub(crate) struct Made {
    pub(crate) picture: Pixels,
    pub(crate) kind: &'static str,
    /// Across and down, each: margin, cell, gap, count.
    pub(crate) axes: [[u32; 4]; 2],
}

/// Numbers that look random, the same for each seed.
pub(crate) struct Random(u64);

impl Random {
    pub(crate) fn new(seed: u64) -> Random {
        Random(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) ^ 0x1234_5678_9abc_def1)
    }

    pub(crate) fn below(&mut self, below: u32) -> u32 {
        // An xorshift generator (Marsaglia, Xorshift RNGs, 2003).
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        ((self.0 >> 33) as u32) % below.max(1)
    }

    pub(crate) fn one_in(&mut self, many: u32) -> bool {
        self.below(many) == 0
    }

    pub(crate) fn of<T: Copy>(&mut self, these: &[T]) -> T {
        these[self.below(these.len() as u32) as usize]
    }
}

#[derive(Clone, Copy, PartialEq)]
enum Art {
    Figures,
    Tiles,
    Effects,
}

/// A sheet of this seed.
pub(crate) fn made(seed: u64) -> Made {
    let mut random = Random::new(seed);
    for _ in 0..8 {
        random.below(2);
    }
    let kinds = [
        "figures",
        "figures",
        "strip",
        "strip",
        "tiles",
        "tile strip",
        "gaps",
        "gaps",
        "left over",
        "single",
        "icons",
        "icons",
    ];
    let kind = kinds[(seed % 12) as usize];
    let sides = [8, 12, 16, 16, 20, 24, 32, 32, 32, 40, 48, 48, 64, 64, 96, 128];
    let mut cell = [random.of(&sides); 2];
    if random.one_in(3) {
        cell[1] = random.of(&sides);
    }
    if random.one_in(4) {
        cell = cell.map(|side| side + random.below(side / 3));
    }
    let room = |side: u32| (640 / side).clamp(2, 12);
    let mut count = [2 + random.below(room(cell[0]) - 1), 1 + random.below(room(cell[1]).min(8))];
    match kind {
        "strip" | "tile strip" => count[1] = 1,
        "single" => count = [1, 1],
        "figures" | "tiles" => count[1] = count[1].max(2),
        "icons" => {
            cell = [random.of(&[16, 20, 24, 32, 40]); 2];
            if random.one_in(4) {
                cell[1] *= 2;
            }
            count = [8 + random.below(14), 3 + random.below(14)];
        }
        _ => {}
    }
    let gap = if kind == "gaps" { 1 + random.below(3) } else { 0 };
    let margin = if kind == "gaps" && random.one_in(2) { gap } else { 0 };
    let gap_at_end = kind == "gaps" && margin == 0 && random.one_in(2);
    let rest = if kind == "left over" {
        [0, 1].map(
            |axis| if axis == 0 || random.one_in(2) { random.below(cell[axis] - 1) + 1 } else { 0 },
        )
    } else {
        [0; 2]
    };
    let mut size = [0; 2];
    for axis in 0..2 {
        let cells = count[axis] * (cell[axis] + gap) - gap;
        size[axis] = 2 * margin + cells + if gap_at_end { gap } else { 0 } + rest[axis];
    }
    let art = match kind {
        "tiles" | "tile strip" => Art::Tiles,
        _ if random.one_in(4) => Art::Effects,
        "gaps" if random.one_in(2) => Art::Tiles,
        _ => Art::Figures,
    };
    let color = |random: &mut Random| [0; 3].map(|_| random.below(256) as u8);
    let [r, g, b] = color(&mut random);
    let background = if random.one_in(3) { [r, g, b, 255] } else { [0; 4] };
    let mut picture = Pixels::new(size).expect("it is small");
    fill(&mut picture, [0, 0], size, background);
    if gap > 0 && (art != Art::Tiles || random.one_in(2)) {
        // Ruled lines, or gaps filled with a color; without them nobody can tell gaps from figures with
        // room around them.
        let [r, g, b] = color(&mut random);
        fill(&mut picture, [0, 0], size, [r, g, b, 255]);
        for number in 0..count[0] * count[1] {
            let at = place(number, count[0], margin, cell, gap);
            fill(&mut picture, at, cell, background);
        }
    }
    let cells = count[0] * count[1];
    let empty = if cells > 3 && kind != "left over" && random.one_in(3) {
        random.below(count[0].min(4))
    } else {
        0
    };
    let style = Style::new(&mut random, cell);
    for number in 0..cells - empty {
        let at = place(number, count[0], margin, cell, gap);
        let style = if kind == "icons" { Style::new(&mut random, cell) } else { style };
        let art = match kind {
            "icons" if random.one_in(3) => Art::Tiles,
            _ => art,
        };
        match art {
            Art::Figures => style.figure(&mut picture, &mut random, at, cell, number),
            Art::Tiles => style.tile(&mut picture, &mut random, at, cell, number / count[0]),
            Art::Effects => {
                style.effect(&mut picture, &mut random, at, cell, number % count[0], count[0]);
            }
        }
    }
    Made { picture, kind, axes: [0, 1].map(|axis| [margin, cell[axis], gap, count[axis]]) }
}

fn place(number: u32, columns: u32, margin: u32, cell: [u32; 2], gap: u32) -> [u32; 2] {
    let at = [number % columns, number / columns];
    [0, 1].map(|axis| margin + at[axis] * (cell[axis] + gap))
}

fn fill(picture: &mut Pixels, at: [u32; 2], size: [u32; 2], color: [u8; 4]) {
    for y in 0..size[1] {
        for x in 0..size[0] {
            picture.set_pixel([at[0] + x, at[1] + y], color);
        }
    }
}

/// What the drawings of one sheet have in common.
#[derive(Clone, Copy)]
struct Style {
    colors: [[u8; 3]; 4],
    /// Of the cell, in hundredths.
    wide: u32,
    high: u32,
    stands: bool,
    outline: bool,
    grain: u32,
}

impl Style {
    fn new(random: &mut Random, _cell: [u32; 2]) -> Style {
        Style {
            colors: [0; 4].map(|_| [0; 3].map(|_| random.below(256) as u8)),
            wide: 40 + random.below(61),
            high: 45 + random.below(56),
            stands: random.one_in(2),
            outline: random.one_in(2),
            grain: random.below(40),
        }
    }

    /// A body with a head and limbs that move from frame to frame.
    fn figure(
        &self,
        picture: &mut Pixels,
        random: &mut Random,
        at: [u32; 2],
        cell: [u32; 2],
        number: u32,
    ) {
        let (wide, high) = (cell[0] * self.wide / 100, cell[1] * self.high / 100);
        let (wide, high) = (wide.max(3), high.max(4));
        let left = (cell[0] - wide) / 2;
        let top = if self.stands { cell[1] - high } else { (cell[1] - high) / 2 };
        let swing = number % 4;
        let reach = wide / 6;
        let parts = [
            // Head, body, two arms, two legs: left, top, width, height, color.
            [left + wide / 3, top, wide / 3, high / 4, 0],
            [left + wide / 4, top + high / 4, wide / 2, high * 2 / 5, 1],
            [left + swing * reach / 4, top + high / 3, wide / 4, high / 6, 2],
            [left + wide - wide / 4 - swing * reach / 4, top + high / 3, wide / 4, high / 6, 2],
            [
                left + wide / 4 + swing * reach / 5,
                top + high * 13 / 20,
                wide / 5,
                high - high * 13 / 20,
                3,
            ],
            [left + wide * 11 / 20, top + high * 13 / 20, wide / 5, high - high * 13 / 20, 3],
        ];
        for [x, y, wide, high, color] in parts {
            self.blob(
                picture,
                random,
                [at[0] + x, at[1] + y],
                [wide.max(1), high.max(1)],
                color as usize,
            );
        }
    }

    /// A rounded patch with some shading.
    fn blob(
        &self,
        picture: &mut Pixels,
        random: &mut Random,
        at: [u32; 2],
        size: [u32; 2],
        color: usize,
    ) {
        for y in 0..size[1] {
            for x in 0..size[0] {
                let [h, v] = [(x, size[0]), (y, size[1])].map(|(at, size)| {
                    (2 * at as i32 + 1 - size as i32).abs() as f64 / f64::from(size)
                });
                if h * h + v * v > 1.3 && size[0] > 3 && size[1] > 3 {
                    continue;
                }
                let edge =
                    self.outline && (x == 0 || y == 0 || x + 1 == size[0] || y + 1 == size[1]);
                let shade =
                    if edge { 90 } else { (v * 30.0) as u32 + random.below(self.grain + 1) };
                let [r, g, b] =
                    self.colors[color].map(|channel| channel.saturating_sub(shade as u8));
                picture.set_pixel([at[0] + x, at[1] + y], [r, g, b, 255]);
            }
        }
    }

    /// Background, wall or water: opaque from side to side.
    fn tile(
        &self,
        picture: &mut Pixels,
        random: &mut Random,
        at: [u32; 2],
        cell: [u32; 2],
        row: u32,
    ) {
        let base = self.colors[(row as usize + random.below(2) as usize) % 4];
        let shift = random.below(60);
        let period = 3 + random.below(9);
        let frame = random.one_in(2);
        for y in 0..cell[1] {
            for x in 0..cell[0] {
                let bricks = (x + shift).is_multiple_of(period) || y.is_multiple_of(period);
                let edge = frame && (x == 0 || y == 0 || x + 1 == cell[0] || y + 1 == cell[1]);
                let shade = random.below(self.grain + 12)
                    + if bricks { 25 } else { 0 }
                    + if edge { 40 } else { 0 }
                    + shift / 2;
                let [r, g, b] = base.map(|channel| channel.saturating_sub(shade as u8));
                picture.set_pixel([at[0] + x, at[1] + y], [r, g, b, 255]);
            }
        }
    }

    /// A ring that grows and fades.
    fn effect(
        &self,
        picture: &mut Pixels,
        random: &mut Random,
        at: [u32; 2],
        cell: [u32; 2],
        frame: u32,
        frames: u32,
    ) {
        let share = f64::from(frame + 1) / f64::from(frames.max(2));
        let outer = 0.25 + 0.7 * share;
        let inner = 0.8 * share - 0.2;
        for y in 0..cell[1] {
            for x in 0..cell[0] {
                let [h, v] = [(x, cell[0]), (y, cell[1])]
                    .map(|(at, size)| (2.0 * f64::from(at) + 1.0) / f64::from(size) - 1.0);
                let far = (h * h + v * v).sqrt();
                if far < outer.min(0.98) && far > inner && random.below(100) > 20 {
                    let alpha = 255 - (share * 150.0) as u8;
                    let [r, g, b] = self.colors[(far * 3.9) as usize % 4];
                    picture.set_pixel([at[0] + x, at[1] + y], [r, g, b, alpha]);
                }
            }
        }
    }
}
