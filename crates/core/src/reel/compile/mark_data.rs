//! The data on a clip's marks: of one kind for each key in a whole reel.

use alloc::boxed::Box;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::clip::ClipCompiler;
use super::report::MARK;
use crate::clip::{Datum, EVERY_HOLD};
use crate::cue::{FactKind, FactValue};
use crate::ids::MarkId;
use crate::reel::{Key, ProblemKind};

impl ClipCompiler<'_, '_> {
    pub(super) fn data(&mut self, marks: &[(u16, MarkId)]) -> Box<[Datum]> {
        let mut data: Vec<Datum> = Vec::new();
        for (mark, hold, key, value) in &self.clip.data {
            let part = Key::MarkData(mark.clone(), key.clone());
            let Some(id) = self.mark_names.find_alive(self.refuse.role(), mark) else {
                self.refuse.say_unknown(part, None, MARK, mark, self.mark_names);
                continue;
            };
            let on =
                |(at, known): &&(u16, MarkId)| known.number == id && Some(u32::from(*at)) == *hold;
            if let (Some(wanted), None) = (hold, marks.iter().find(on)) {
                let holds = marks.iter().filter(|(_, known)| known.number == id);
                let holds: Vec<String> = holds.map(|(at, _)| at.to_string()).collect();
                let (mark, hold) = (mark.clone(), *wanted);
                self.refuse.say(part, None, ProblemKind::NotOnHold { mark, hold, holds });
                continue;
            }
            let Some(number) = self.name_of(&part, key, |compiler| &mut *compiler.data_names)
            else {
                continue;
            };
            let Some(bits) = self.bits_of(part, key, number, value) else { continue };
            let hold = hold.map_or(EVERY_HOLD, |hold| hold as u16);
            // What is said last holds, as in a table that is written from top to bottom.
            data.retain(|known| (known.mark, known.key, known.hold) != (id, number, hold));
            data.push(Datum { mark: id, key: number, hold, bits });
        }
        data.sort_unstable();
        data.into_boxed_slice()
    }

    /// How a value is kept, if it is of the kind that its key has.
    fn bits_of(&mut self, part: Key, key: &str, number: u16, value: &FactValue) -> Option<u32> {
        let (kind, bits) = match value {
            FactValue::Flag(flag) => (FactKind::Flag, u32::from(*flag)),
            FactValue::Whole(whole) => (FactKind::Whole, *whole as u32),
            FactValue::Number(number) => (FactKind::Number, number.to_bits()),
            FactValue::Choice(text) => (FactKind::Choice, self.text(text)),
        };
        let table = &mut *self.data_table;
        let at = usize::from(number);
        if table.kinds.len() <= at {
            table.kinds.resize(at + 1, None);
        }
        let is = *table.kinds[at].get_or_insert(kind);
        let is_number = !matches!(value, FactValue::Number(number) if !number.is_finite());
        if is == kind && is_number {
            return Some(bits);
        }
        let (key, value) = (key.to_string(), value.to_string());
        self.refuse.say(part, None, ProblemKind::DataKind { key, is, value });
        None
    }

    /// The place of a text among those of the reel.
    fn text(&mut self, text: &str) -> u32 {
        let texts = &mut self.data_table.texts;
        let known = texts.iter().position(|known| known == text);
        let at = known.unwrap_or_else(|| {
            texts.push(text.to_string());
            texts.len() - 1
        });
        at as u32
    }
}
