//! Colors as a terminal has them: all, 256, or none.

use crossterm::style::Color;
use lucky_reel_tools::preview::Tone;

use crate::cells::{Style, half_block};

/// What a terminal can show.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Palette {
    TrueColor,
    Indexed,
    Plain,
}

impl Palette {
    /// What the terminal says of itself: <https://no-color.org>, `COLORTERM`.
    pub(super) fn of_environment() -> Palette {
        let value = |name| std::env::var(name).unwrap_or_default();
        let color = value("COLORTERM");
        match () {
            () if !value("NO_COLOR").is_empty() => Palette::Plain,
            () if color.contains("truecolor") || color.contains("24bit") => Palette::TrueColor,
            () => Palette::Indexed,
        }
    }

    pub(super) fn color(self, [r, g, b, _]: [u8; 4]) -> Color {
        match self {
            Palette::TrueColor => Color::Rgb { r, g, b },
            Palette::Indexed => Color::AnsiValue(nearest_index([r, g, b])),
            Palette::Plain => Color::Reset,
        }
    }

    /// Two pixels above one another in one cell: with colors as a half block, without as a shade.
    pub(super) fn cell(self, upper: [u8; 4], lower: [u8; 4]) -> (char, Style) {
        match self {
            Palette::Plain => {
                let light = |[r, g, b, _]: [u8; 4]| {
                    (u32::from(r) * 3 + u32::from(g) * 6 + u32::from(b)) / 10
                };
                let shades = [' ', '░', '▒', '▓', '█'];
                let mean = (light(upper) + light(lower)) / 2;
                // The background of the stage is a dark color, and stays empty.
                let shade = mean.saturating_sub(30) as usize * shades.len() / 226;
                (shades[shade.min(shades.len() - 1)], Style::default())
            }
            _ => half_block(self.color(upper), self.color(lower)),
        }
    }

    /// What is behind everything.
    pub(super) fn background(self) -> Style {
        match self {
            Palette::Plain => Style::default(),
            _ => Style { behind: Some(self.color([0x12, 0x18, 0x24, 255])), ..Style::default() },
        }
    }

    pub(super) fn style(self, tone: Tone) -> Style {
        let (color, is_bold) = match tone {
            Tone::Strong => ([0xf4, 0xf6, 0xee, 255], true),
            Tone::Plain => ([0xf4, 0xf6, 0xee, 255], false),
            Tone::Dim => ([0xb4, 0xc1, 0xcf, 255], false),
            Tone::Mark => ([0xff, 0xc8, 0x57, 255], true),
            Tone::Alert => ([0xff, 0x9b, 0x85, 255], true),
        };
        let text = (self != Palette::Plain).then(|| self.color(color));
        Style { text, is_bold, ..Style::default() }
    }
}

/// The nearest of the 216 colors of the cube and the 24 grays.
fn nearest_index(rgb: [u8; 3]) -> u8 {
    const LEVELS: [u8; 6] = [0, 95, 135, 175, 215, 255];
    let distance = |other: [u8; 3]| -> u32 {
        rgb.iter().zip(other).map(|(a, b)| u32::from(a.abs_diff(b)).pow(2)).sum()
    };
    let level = |channel: u8| {
        (0..6_u8).min_by_key(|at| LEVELS[usize::from(*at)].abs_diff(channel)).unwrap_or(0)
    };
    let cube = rgb.map(level);
    let of_cube = cube.map(|at| LEVELS[usize::from(at)]);
    let mean = (rgb.iter().map(|channel| u32::from(*channel)).sum::<u32>() / 3) as u8;
    let gray = (mean.saturating_sub(3) / 10).min(23);
    match distance(of_cube) <= distance([8 + gray * 10; 3]) {
        true => 16 + cube[0] * 36 + cube[1] * 6 + cube[2],
        false => 232 + gray,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_nearest_of_256_colors_is_found() {
        // The colors as xterm defines them.
        let color = |index: u8| match index {
            232.. => [8 + (index - 232) * 10; 3],
            _ => [(index - 16) / 36, (index - 16) / 6 % 6, (index - 16) % 6]
                .map(|at| if at == 0 { 0 } else { 55 + at * 40 }),
        };
        let distance = |a: [u8; 3], b: [u8; 3]| -> u32 {
            a.iter().zip(b).map(|(a, b)| u32::from(a.abs_diff(b)).pow(2)).sum()
        };
        for number in 0..4_096_u32 {
            let rgb = [number / 256 * 17, number / 16 % 16 * 17, number % 16 * 17].map(|c| c as u8);
            let best = (16..=255).map(|index| distance(color(index), rgb)).min().unwrap();
            assert_eq!(distance(color(nearest_index(rgb)), rgb), best, "{rgb:?}");
        }
    }
}
