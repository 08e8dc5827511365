//! Texts that a terminal shows as they are.

/// A text that is safe to print: control characters, and characters that change the writing direction,
/// are escaped.
#[must_use]
pub fn printable(text: &str) -> String {
    let mut shown = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}' => {
                shown.extend(c.escape_unicode());
            }
            c if c.is_control() => shown.extend(c.escape_default()),
            c => shown.push(c),
        }
    }
    shown
}
