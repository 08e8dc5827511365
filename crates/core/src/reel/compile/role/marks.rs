//! What the role's clips tell its cues: the spans they are inside, and what their marks set.

use alloc::boxed::Box;
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;

use super::super::Refuse;
use super::RoleCompiler;
use super::facts::bits_of;
use crate::cue::FactData;
use crate::ids::{MarkId, SpanId};
use crate::reel::name_error::nearest;

impl RoleCompiler<'_> {
    /// Tells each hold of the role's clips which of the named spans it is inside.
    pub(super) fn watch(&mut self, spans: &[SpanId]) {
        for (id, clip) in self.data.clips.iter_mut().enumerate() {
            let role = self.data.names.clips.get(id).map_or("", |name| &name.role);
            let Some(clip) = clip.as_mut().filter(|_| role == self.role) else { continue };
            for hold in 0..clip.holds.len() {
                let inside = |(_, span): &(usize, &SpanId)| clip.in_span(hold as u16, **span);
                let bits = spans.iter().enumerate().filter(inside);
                clip.holds[hold].watched = bits.fold(0, |bits, (bit, _)| bits | 1 << bit);
            }
        }
    }

    /// What the marks of the role's clips set.
    pub(super) fn mark_sets(&mut self, facts: &[Option<FactData>]) {
        let builder = self.builder;
        for (id, new) in builder.clips.iter().enumerate() {
            let name = self.data.names.clips.get(id);
            let Some(name) =
                name.filter(|name| name.role == self.role).map(|name| name.name.clone())
            else {
                continue;
            };
            let Some(new) = new else { continue };
            let mut sets: Vec<(MarkId, u8, u32)> = Vec::new();
            for (mark, fact, value) in &new.sets {
                let key = format!("marks.{mark}.set.{fact}");
                let (names, family) = (&self.data.names.marks, self.data.names.family);
                let Some(mark) = names.find(self.role, mark) else {
                    let mut refuse = Refuse::new("clips", &self.data.names.clips, id, self.faults);
                    refuse.say_unknown(&key, None, "mark", mark, names);
                    continue;
                };
                let found = facts.iter().enumerate().find_map(|(slot, data)| {
                    let data = data.as_ref()?;
                    (data.name == *fact).then_some((slot, data))
                });
                let bits = match found {
                    Some((slot, data)) => bits_of(data, value).map(|bits| (slot, bits)),
                    None => {
                        let known = facts.iter().flatten().map(|data| &*data.name);
                        let remedy = match nearest(fact, known) {
                            Some(near) => format!("did you mean `{near}`?"),
                            None => "add it to the facts".to_string(),
                        };
                        Err((format!("there is no fact `{fact}`"), remedy))
                    }
                };
                match bits {
                    Ok((slot, bits)) => sets.push((MarkId::new(family, mark), slot as u8, bits)),
                    Err((problem, remedy)) => {
                        self.refuse("clips", &name).say(&key, None, problem, remedy);
                    }
                }
            }
            let sets: Box<[(MarkId, u8, u32)]> = sets.into();
            // What a mark sets, it sets in the mirror, too.
            let mirrors = self.data.mirrors.iter().filter(|(_, base)| base.index() == id);
            for at in mirrors.map(|(mirrored, _)| mirrored.index()).chain([id]) {
                if let Some(clip) = self.data.clips.get_mut(at).and_then(Option::as_mut) {
                    clip.sets = sets.clone();
                }
            }
        }
    }
}
