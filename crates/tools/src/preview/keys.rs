//! What keys do, in windows and terminals alike.

/// A key, as far as it matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[allow(missing_docs)] // their names say it
pub enum KeyPress {
    Char(char),
    Left,
    Right,
    Up,
    Down,
    Tab,
    Escape,
}

/// What can be done to a preview.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Action {
    /// Stop, or play on.
    Pause,
    /// To the hold before or the next one.
    Hold(i8),
    /// One refresh of the display on.
    Refresh,
    /// Another display: 60 or 144 refreshes a second.
    Rate,
    /// Slower or faster.
    Speed(i8),
    /// The other way.
    Reverse,
    /// Mirror left to right.
    FlipX,
    /// Mirror top to bottom.
    FlipY,
    /// To the clip before or the next one.
    Clip(i8),
    /// Smaller or larger.
    Zoom(i8),
    /// Dark, light, checks.
    Background,
    /// The hold before and the next one, faintly.
    Onion,
    /// Turn.
    Facing(i8),
    /// The next look.
    Look,
    /// Between a clip and the cues of its role.
    Cues,
    /// Change a fact: toggle it, fire it, to its next choice, up.
    Fact(u8),
    /// The number changed last, down or up.
    Number(i8),
    /// The hold that is up, shorter or longer.
    Duration(i8),
    /// Write changed durations to the reel file.
    Write,
    /// Take the last changed duration back.
    Undo,
    /// To a place of the time bar, from 0 to 1.
    Seek(f32),
    /// Leave.
    Quit,
}

/// Keys and what they do, for the screen: in the order of use.
pub const KEYS: [(&str, &str); 18] = [
    ("space", "pause"),
    ("left right", "hold"),
    ("r", "one refresh"),
    ("h", "60 or 144 Hz"),
    ("- +", "speed"),
    ("v", "reverse"),
    ("f g", "flip"),
    ("up down", "clip"),
    ("z x", "zoom"),
    ("b", "background"),
    ("o", "onion skin"),
    ("d", "facing"),
    ("l", "look"),
    ("tab", "clip or cues"),
    ("1-9 , .", "facts"),
    ("[ ]", "shorter, longer"),
    ("w u", "write, undo"),
    ("q", "quit"),
];

impl Action {
    /// What a key does, if anything.
    #[must_use]
    pub fn of(key: KeyPress) -> Option<Action> {
        Some(match key {
            KeyPress::Char(' ') => Action::Pause,
            KeyPress::Left => Action::Hold(-1),
            KeyPress::Right => Action::Hold(1),
            KeyPress::Up => Action::Clip(-1),
            KeyPress::Down => Action::Clip(1),
            KeyPress::Tab => Action::Cues,
            KeyPress::Escape | KeyPress::Char('q') => Action::Quit,
            KeyPress::Char('r') => Action::Refresh,
            KeyPress::Char('h') => Action::Rate,
            KeyPress::Char('-') => Action::Speed(-1),
            KeyPress::Char('+' | '=') => Action::Speed(1),
            KeyPress::Char('v') => Action::Reverse,
            KeyPress::Char('f') => Action::FlipX,
            KeyPress::Char('g') => Action::FlipY,
            KeyPress::Char('z') => Action::Zoom(1),
            KeyPress::Char('x') => Action::Zoom(-1),
            KeyPress::Char('b') => Action::Background,
            KeyPress::Char('o') => Action::Onion,
            KeyPress::Char('d') => Action::Facing(1),
            KeyPress::Char('D') => Action::Facing(-1),
            KeyPress::Char('l') => Action::Look,
            KeyPress::Char(',') => Action::Number(-1),
            KeyPress::Char('.') => Action::Number(1),
            KeyPress::Char('[') => Action::Duration(-1),
            KeyPress::Char(']') => Action::Duration(1),
            KeyPress::Char('w') => Action::Write,
            KeyPress::Char('u') => Action::Undo,
            KeyPress::Char(digit @ '1'..='9') => Action::Fact(digit as u8 - b'1'),
            KeyPress::Char(_) => return None,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_key_that_is_shown_does_something() {
        for (keys, what) in KEYS {
            for key in keys.split(' ') {
                let key = match key {
                    "space" => KeyPress::Char(' '),
                    "left" => KeyPress::Left,
                    "right" => KeyPress::Right,
                    "up" => KeyPress::Up,
                    "down" => KeyPress::Down,
                    "tab" => KeyPress::Tab,
                    text => KeyPress::Char(text.chars().next().unwrap()),
                };
                assert!(Action::of(key).is_some(), "{keys}: {what}");
            }
        }
    }
}
