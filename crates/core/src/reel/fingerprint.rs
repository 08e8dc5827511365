//! Numbers that are equal on every machine for equal data.

use alloc::vec::Vec;

use super::{Reel, Role};
use crate::clip::{ClipData, ClipEnd};
use crate::cue::{CueTarget, FactData, FactKind, RoleData, SpeedBy, Test};
use crate::ids::{MarkId, RoleId};

/// The 64-bit FNV-1a hash (Fowler, Noll, Vo), fed with numbers and names.
struct Fingerprint(u64);

impl Fingerprint {
    fn new() -> Fingerprint {
        Fingerprint(0xcbf2_9ce4_8422_2325)
    }

    fn bytes(&mut self, bytes: &[u8]) {
        for byte in bytes {
            self.0 = (self.0 ^ u64::from(*byte)).wrapping_mul(0x0100_0000_01b3);
        }
    }

    fn number(&mut self, number: u64) {
        self.bytes(&number.to_le_bytes());
    }

    /// A name and its length, so that `ab`, `c` differs from `a`, `bc`.
    fn name(&mut self, name: &str) {
        self.number(name.len() as u64);
        self.bytes(name.as_bytes());
    }

    fn flag(&mut self, on: bool) {
        self.bytes(&[u8::from(on)]);
    }

    /// Things whose order does not matter, each with a print of its own.
    fn unordered<T>(&mut self, things: impl Iterator<Item = T>, add: impl Fn(&mut Fingerprint, T)) {
        let mut prints: Vec<u64> = things
            .map(|thing| {
                let mut print = Fingerprint::new();
                add(&mut print, thing);
                print.0
            })
            .collect();
        prints.sort_unstable();
        self.number(prints.len() as u64);
        prints.into_iter().for_each(|print| self.number(print));
    }
}

/// Everything on which playback depends, by its names: not on the order in which clips, facts, choices, roles
/// and groups were added. The order of cues and bridges counts, as the first that matches wins.
pub(super) fn of_playback(reel: &Reel) -> u64 {
    let mut print = Fingerprint::new();
    print.unordered(reel.data.names.clips.alive(), |print, (id, name)| {
        if let Some(clip) = &reel.data.clips[id] {
            print.name(&name.role);
            print.name(&name.name);
            add_clip(print, reel, &name.role, clip);
        }
    });
    print.unordered(reel.ids().filter_map(|role| reel.role(role)), |print, role| {
        add_role(print, reel, role);
    });
    print.unordered(reel.data.phases.iter(), |print, group| {
        print.unordered(group.clips.iter(), |print, clip| print.name(&reel.full_name(*clip)));
        print.number(group.align as u64);
    });
    print.0
}

fn add_clip(print: &mut Fingerprint, reel: &Reel, role: &str, clip: &ClipData) {
    let names = &reel.data.names;
    print.number(clip.holds.len() as u64);
    for hold in &clip.holds {
        print.number(u64::from(reel.data.frames[hold.frame.index()].index));
        print.number(hold.ticks);
    }
    print.number(clip.mode as u64);
    print.flag(clip.is_still);
    print.number(u64::from(clip.repeat));
    print.number(u64::from(clip.rest));
    print.number(clip.units_for_ground);
    print.flag(clip.mirrored);
    match clip.end {
        ClipEnd::Stay => print.number(0),
        ClipEnd::First => print.number(1),
        ClipEnd::Vanish => print.number(2),
        ClipEnd::Play(next) => {
            print.number(3);
            print.name(&reel.full_name(next));
        }
    }
    let mark_name = |mark: &MarkId| names.marks.of(Some(mark.number)).map_or("", |name| &name.name);
    for (hold, mark) in &clip.marks {
        print.number(u64::from(*hold));
        print.name(mark_name(mark));
    }
    let role = names.roles.find_alive("", role).map(|id| RoleId::new(reel.family, id));
    print.unordered(clip.sets.iter(), |print, (mark, slot, bits)| {
        print.name(mark_name(mark));
        let facts = role.and_then(|role| reel.role_data(role)).map(|data| &data.facts);
        let fact = facts.and_then(|facts| facts.get(usize::from(*slot))?.as_ref());
        if let Some(fact) = fact {
            print.name(&fact.name);
            add_value(print, fact, *bits);
        }
    });
    print.unordered(clip.spans.iter(), |print, (span, from, to)| {
        print.name(names.spans.of(Some(span.number)).map_or("", |name| &name.name));
        print.number(u64::from(*from) << 16 | u64::from(*to));
    });
}

/// A value of a fact; a choice by its word.
fn add_value(print: &mut Fingerprint, fact: &FactData, bits: u32) {
    match fact.kind {
        FactKind::Choice => print.name(fact.choices.get(bits as usize).map_or("", |word| word)),
        _ => print.number(u64::from(bits)),
    }
}

/// What an actor of a role does, by names.
fn add_role(print: &mut Fingerprint, reel: &Reel, role: Role<'_>) {
    print.name(reel.name(role.id));
    let Some(data) = reel.role_data(role.id) else { return };
    let facts = data.facts.iter().zip(&data.defaults);
    let facts = facts.filter_map(|(fact, default)| Some((fact.as_ref()?, *default)));
    print.unordered(facts, |print, (fact, default)| {
        print.name(&fact.name);
        print.number(fact.kind as u64);
        add_value(print, fact, default);
        print.unordered(fact.choices.iter(), |print, word| print.name(word));
        print.number(u64::from(fact.duration));
    });
    let fact_name = |slot: u8| data.facts.get(usize::from(slot))?.as_ref().map(|fact| &*fact.name);
    for cue in &data.cues {
        print.name(reel.name(cue.id));
        print.unordered(cue.when.iter(), |print, condition| {
            print.unordered(condition.iter(), |print, test| add_test(print, reel, data, test));
        });
        add_target(print, reel, cue.target);
        [cue.turns, cue.finish, cue.restart].into_iter().for_each(|on| print.flag(on));
        let (kind, slot) = match cue.speed {
            None => (0, None),
            Some(SpeedBy::Factor(slot)) => (1, Some(slot)),
            Some(SpeedBy::Distance(slot)) => (2, Some(slot)),
        };
        print.number(kind);
        print.name(slot.and_then(fact_name).unwrap_or(""));
        for (from, hold) in &cue.begin {
            print.name(reel.name(*from));
            print.number(u64::from(*hold));
        }
    }
    for bridge in &data.bridges {
        print.name(reel.name(bridge.id));
        add_target(print, reel, bridge.target);
        print.flag(bridge.turns);
        for cues in [&bridge.from, &bridge.to] {
            print.unordered(cues.iter(), |print, cue| print.name(reel.name(*cue)));
        }
    }
}

fn add_test(print: &mut Fingerprint, reel: &Reel, role: &RoleData, test: &Test) {
    let fact = |slot: u8| role.facts.get(usize::from(slot)).and_then(Option::as_ref);
    let name = |slot: u8| fact(slot).map_or("", |fact| &*fact.name);
    match test {
        Test::Flag { slot, wanted, pulse } => {
            print.bytes(&[0, u8::from(*wanted), u8::from(*pulse)]);
            print.name(name(*slot));
        }
        Test::Number { slot, whole, within } => {
            print.bytes(&[1, u8::from(*whole)]);
            print.name(name(*slot));
            for (number, included) in within.iter().flat_map(|within| [within.from, within.to]) {
                print.number(number.to_bits());
                print.flag(included);
            }
        }
        Test::Word { slot, among } => {
            print.bytes(&[2]);
            print.name(name(*slot));
            let words = fact(*slot).into_iter().flat_map(|fact| fact.choices.iter().enumerate());
            let words = words.filter(|(nth, _)| among >> nth & 1 == 1);
            print.unordered(words, |print, (_, word)| print.name(word));
        }
        Test::Inside { span } => {
            print.bytes(&[3]);
            let span = role.spans.get(usize::from(*span));
            print.name(span.map_or("", |span| reel.name(*span)));
        }
        Test::Facing { among } => print.bytes(&[4, *among]),
    }
}

fn add_target(print: &mut Fingerprint, reel: &Reel, target: CueTarget) {
    match target {
        CueTarget::Clip(clip) => print.name(&reel.full_name(clip)),
        CueTarget::Facings(set) => {
            let clips = reel.facing_data(set).map_or(&[][..], |set| &set.clips);
            clips.iter().for_each(|clip| print.name(&reel.full_name(*clip)));
            print.number(reel.facing_data(set).map_or(0, |set| set.align as u64));
        }
    }
}
