//! A drawing as SVG: rectangles, texts and images, nothing else.

use std::fmt::Write;

use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use lucky_reel_assets::Pixels;

use super::lettering::BOLD_FROM;
use super::{Drawing, Ink, Step};

/// The picture as a `data:` address.
pub(crate) fn data_address(picture: &Pixels) -> String {
    format!("data:image/png;base64,{}", STANDARD.encode(picture.to_png()))
}

pub(super) fn of(drawing: &Drawing) -> String {
    let [width, height] = drawing.size;
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" \
         viewBox=\"0 0 {width} {height}\" font-family=\"'DejaVu Sans', Verdana, sans-serif\">\n"
    );
    let background = Step::Fill { at: [0, 0], size: drawing.size, ink: Ink::Background };
    for step in std::iter::once(&background).chain(&drawing.steps) {
        // Writing into a text cannot fail.
        let _ = element(&mut out, drawing, step);
    }
    out.push_str("</svg>\n");
    out
}

fn element(out: &mut String, drawing: &Drawing, step: &Step) -> std::fmt::Result {
    match step {
        Step::Fill { at: [x, y], size: [width, height], ink } => {
            let [r, g, b, alpha] = drawing.theme.color(*ink);
            let sheer = match alpha {
                255 => String::new(),
                alpha => format!(" fill-opacity=\"{:.3}\"", f32::from(alpha) / 255.0),
            };
            writeln!(
                out,
                "<rect x=\"{x}\" y=\"{y}\" width=\"{width}\" height=\"{height}\" \
                 fill=\"#{r:02x}{g:02x}{b:02x}\"{sheer}/>"
            )
        }
        Step::Text { at: [x, y], size, width, ink, text } => {
            let [r, g, b, _] = drawing.theme.color(*ink);
            let weight = if *size < BOLD_FROM { "" } else { " font-weight=\"bold\"" };
            writeln!(
                out,
                "<text x=\"{x}\" y=\"{y}\" font-size=\"{size}\" textLength=\"{width}\" \
                 lengthAdjust=\"spacingAndGlyphs\" fill=\"#{r:02x}{g:02x}{b:02x}\"{weight} \
                 xml:space=\"preserve\">{}</text>",
                escaped(text)
            )
        }
        Step::Pixels { picture, at: [x, y], scale } => {
            let [width, height] = picture.size().map(|side| side * scale);
            writeln!(
                out,
                "<image x=\"{x}\" y=\"{y}\" width=\"{width}\" height=\"{height}\" \
                 style=\"image-rendering:pixelated\" href=\"{}\"/>",
                data_address(picture)
            )
        }
    }
}

/// A text between tags or in an attribute, of SVG and HTML alike.
pub(crate) fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            // XML has no place for other control characters.
            c if c.is_control() => out.push('\u{fffd}'),
            c => out.push(c),
        }
    }
    out
}
