//! Looks by colors whose colors are not those of the art.

use std::collections::BTreeMap;

use lucky_reel_assets::document::Node;
use lucky_reel_assets::{Art, Problem, SourceFile};

type Color = [u8; 3];

/// Colors differ by at most so much in each channel where they look the same.
const NEAR: u8 = 6;

pub(super) fn warnings(art: &Art, file: &SourceFile) -> Vec<Problem> {
    let mut found = Vec::new();
    let looks = file.root().get("looks").and_then(Node::table).unwrap_or_default();
    let colored = looks.iter().filter_map(|look| Some((look, look.node.get("colors")?.table()?)));
    let mut known: Option<BTreeMap<Color, usize>> = None;
    for (look, colors) in colored {
        let counts = known.get_or_insert_with(|| colors_of(art, file));
        let given: Vec<Color> = colors.iter().filter_map(|pair| color_of(&pair.key)).collect();
        for pair in colors {
            let Some(color) = color_of(&pair.key) else { continue };
            let like =
                counts.iter().filter(|(other, _)| **other != color && is_near(color, **other));
            let nearest =
                like.filter(|(other, _)| !given.contains(other)).max_by_key(|(_, count)| **count);
            let key = format!("looks.{}.colors.{}", look.key, pair.key);
            let (what, fix) = match (counts.get(&color), nearest) {
                (None, Some((near, _))) => (
                    format!("the color `{}` occurs in no sheet of the role", pair.key),
                    format!("did you mean `{}`, which does?", hex(*near)),
                ),
                (None, None) => (
                    format!("the color `{}` occurs in no sheet of the role", pair.key),
                    "pick it from the picture itself, or leave it out".to_owned(),
                ),
                (Some(_), Some((near, count))) => (
                    format!("{count} pixels are nearly `{}`, and keep their color", pair.key),
                    format!("give `{}` another color, too, or clean the picture", hex(*near)),
                ),
                (Some(_), None) => continue,
            };
            found.push(file.warning_at(pair.key_span.clone(), key, what, fix));
        }
    }
    found
}

/// How often each color occurs in the pictures of a file's sheets.
fn colors_of(art: &Art, file: &SourceFile) -> BTreeMap<Color, usize> {
    let images = file.sheets().iter().filter_map(|sheet| {
        let first = art.reel.frames_of(sheet.id).next()?;
        Some(art.reel.frame(first)?.image)
    });
    let mut images: Vec<_> = images.collect();
    images.sort_unstable();
    images.dedup();
    let mut counts = BTreeMap::new();
    for pixel in
        images.iter().filter_map(|image| art.image(*image)).flat_map(|it| it.rgba().chunks_exact(4))
    {
        if let [r, g, b, 1..=255] = *pixel {
            *counts.entry([r, g, b]).or_default() += 1;
        }
    }
    counts
}

fn color_of(text: &str) -> Option<Color> {
    let digits = text.strip_prefix('#').filter(|digits| digits.len() == 6)?;
    let [_, r, g, b] = u32::from_str_radix(digits, 16).ok()?.to_be_bytes();
    Some([r, g, b])
}

fn is_near(one: Color, other: Color) -> bool {
    one.iter().zip(other).all(|(a, b)| a.abs_diff(b) <= NEAR)
}

fn hex([r, g, b]: Color) -> String {
    format!("#{r:02x}{g:02x}{b:02x}")
}
