//! Colors by what they are for, in two themes.

/// A dark or a light background.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Theme {
    /// Light letters on a night blue.
    #[default]
    Dark,
    /// Dark letters on paper.
    Light,
}

/// What a color is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Ink {
    Background,
    /// Two shades for neighboring boxes.
    Box(usize),
    /// The edge of a box, and boxes that stand out.
    Edge,
    Letters,
    /// Letters that matter less.
    Dim,
    /// Named rectangles on frames.
    Area,
    /// Marks, cycles, the playing place.
    Mark,
    Span,
    /// A filled stretch below letters.
    SpanBox,
    /// Faults and differences.
    Alert,
    /// Lines of a scale, across everything.
    Faint,
    /// Exactly this.
    #[cfg_attr(not(feature = "preview"), allow(dead_code))]
    Rgba([u8; 4]),
}

impl Theme {
    pub(crate) fn color(self, ink: Ink) -> [u8; 4] {
        let opaque = |[r, g, b]: [u8; 3]| [r, g, b, 0xff];
        match (ink, self) {
            (Ink::Rgba(color), _) => color,
            (Ink::Faint, Theme::Dark) => [0x4a, 0x60, 0x7a, 0x38],
            (Ink::Faint, Theme::Light) => [0x8a, 0x80, 0x66, 0x40],
            (ink, Theme::Dark) => opaque(match ink {
                Ink::Background | Ink::Rgba(_) | Ink::Faint => [0x12, 0x18, 0x24],
                Ink::Box(nth) => [[0x22, 0x2f, 0x42], [0x2b, 0x3b, 0x51]][nth % 2],
                Ink::Edge => [0x46, 0x5b, 0x74],
                Ink::Letters => [0xf4, 0xf6, 0xee],
                Ink::Dim => [0xb4, 0xc1, 0xcf],
                Ink::Area => [0xc9, 0xb0, 0xff],
                Ink::Mark => [0xff, 0xc8, 0x57],
                Ink::Span => [0x7f, 0xd8, 0xbe],
                Ink::SpanBox => [0x1f, 0x60, 0x52],
                Ink::Alert => [0xff, 0x9b, 0x85],
            }),
            (ink, Theme::Light) => opaque(match ink {
                Ink::Background | Ink::Rgba(_) | Ink::Faint => [0xf8, 0xf5, 0xec],
                Ink::Box(nth) => [[0xec, 0xe7, 0xd8], [0xe0, 0xda, 0xc7]][nth % 2],
                Ink::Edge => [0xc9, 0xc1, 0xa8],
                Ink::Letters => [0x1a, 0x22, 0x2e],
                Ink::Dim => [0x44, 0x50, 0x5e],
                Ink::Area => [0x5a, 0x2f, 0xa8],
                Ink::Mark => [0x7c, 0x3f, 0x00],
                Ink::Span => [0x05, 0x55, 0x45],
                Ink::SpanBox => [0xa9, 0xdc, 0xcd],
                Ink::Alert => [0x9c, 0x1c, 0x0c],
            }),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Contrast as the Web Content Accessibility Guidelines 2.1 define it.
    fn contrast(one: [u8; 4], other: [u8; 4]) -> f64 {
        let luminance = |[r, g, b, _]: [u8; 4]| {
            let linear = |channel: u8| match f64::from(channel) / 255.0 {
                low if low <= 0.03928 => low / 12.92,
                high => ((high + 0.055) / 1.055).powf(2.4),
            };
            0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b) + 0.05
        };
        let (a, b) = (luminance(one), luminance(other));
        a.max(b) / a.min(b)
    }

    #[test]
    fn letters_can_be_read_on_every_ground() {
        for theme in [Theme::Dark, Theme::Light] {
            let on = |grounds: &[Ink], letters: &[Ink]| {
                for (background, ink) in
                    grounds.iter().flat_map(|g| letters.iter().map(move |l| (g, l)))
                {
                    let ratio = contrast(theme.color(*background), theme.color(*ink));
                    assert!(ratio >= 4.5, "{theme:?}: {ink:?} on {background:?} has {ratio:.2}");
                }
            };
            let letters = [Ink::Letters, Ink::Dim, Ink::Area, Ink::Mark, Ink::Span, Ink::Alert];
            on(&[Ink::Background, Ink::Box(0), Ink::Box(1)], &letters);
            on(&[Ink::Edge, Ink::SpanBox], &[Ink::Letters]);
        }
    }
}
