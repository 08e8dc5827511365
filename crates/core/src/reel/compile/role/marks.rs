//! What the role's clips tell its cues: the spans they are inside, and what their marks set.

use alloc::boxed::Box;
use alloc::vec::Vec;

use super::super::report::{FACT, MARK, site_of};
use super::RoleCompiler;
use super::facts::bits_of;
use crate::cue::FactData;
use crate::ids::{MarkId, SpanId};
use crate::reel::{Key, Section};

impl RoleCompiler<'_> {
    /// Tells each hold of the role's clips which of the named spans it is inside.
    pub(super) fn watch(&mut self, spans: &[SpanId]) {
        for id in self.data.names.clips.of_role(self.role) {
            let clip = self.data.clips.get_mut(usize::from(*id)).and_then(Option::as_mut);
            let Some(clip) = clip else { continue };
            for hold in 0..clip.holds.len() {
                let inside = |(_, span): &(usize, &SpanId)| clip.in_span(hold as u16, **span);
                let bits = spans.iter().enumerate().filter(inside);
                clip.holds[hold].watched = bits.fold(0, |bits, (bit, _)| bits | 1 << bit);
            }
        }
    }

    /// What the marks of the role's clips set.
    pub(super) fn mark_sets(&mut self, facts: &[Option<FactData>]) {
        let names = &self.data.names;
        for (nth, clip) in self.mine(&self.builder.clips, &self.lists.clips) {
            let site = &site_of(Section::Clips, nth, clip);
            let mut sets: Vec<(MarkId, u8, u32)> = Vec::new();
            for (mark, fact, value) in &clip.new.sets {
                let key = Key::MarkSet(mark.clone(), fact.clone());
                let Some(mark) = names.marks.find(self.role, mark) else {
                    self.report.at(site).say_unknown(key, None, MARK, mark, &names.marks);
                    continue;
                };
                let found = facts
                    .iter()
                    .position(|data| data.as_ref().is_some_and(|data| data.name == *fact));
                let data = found.and_then(|slot| Some((slot, facts[slot].as_ref()?)));
                match data.map(|(slot, data)| (slot, bits_of(data, value))) {
                    Some((slot, Ok(bits))) => {
                        sets.push((MarkId::new(names.family, mark), slot as u8, bits));
                    }
                    Some((_, Err(kind))) => self.report.at(site).say(key, None, kind),
                    // A fact that is broken itself has been reported.
                    None if self.is_declared(fact) => {}
                    None => self.report.at(site).say_unknown(key, None, FACT, fact, &names.facts),
                }
            }
            if sets.is_empty() {
                continue;
            }
            let sets: Box<[(MarkId, u8, u32)]> = sets.into();
            // What a mark sets, it sets in the mirror, too.
            let id = usize::from(clip.id);
            let mirrors = self.data.mirrors.iter().filter(|(_, base)| base.index() == id);
            for at in mirrors.map(|(mirrored, _)| mirrored.index()).chain([id]) {
                if let Some(clip) = self.data.clips.get_mut(at).and_then(Option::as_mut) {
                    clip.sets = sets.clone();
                }
            }
        }
    }
}
