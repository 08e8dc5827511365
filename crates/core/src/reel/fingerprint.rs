//! Numbers that are equal on every machine for equal data.

use super::{Reel, Role};
use crate::clip::End;
use crate::cue::{CueTarget, RoleData, SpeedBy, Test};

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

    fn finish(self) -> u64 {
        self.0
    }
}

/// Everything on which playback depends, and nothing else.
pub(super) fn of_playback(of: &Reel) -> u64 {
    let (reel, mut print) = (&*of.data, Fingerprint::new());
    let clip_names = |id: u16| reel.names.clips.get(usize::from(id));
    for (id, name) in reel.names.clips.alive() {
        let Some(clip) = &reel.clips[id] else { continue };
        print.name(&name.role);
        print.name(&name.name);
        print.number(clip.holds.len() as u64);
        for hold in &clip.holds {
            print.number(u64::from(reel.frames[hold.frame.index()].index));
            print.number(hold.ticks);
        }
        print.number(clip.mode as u64);
        print.flag(clip.is_still);
        print.number(u64::from(clip.repeat));
        print.number(u64::from(clip.rest));
        print.number(clip.units_for_ground);
        print.flag(clip.mirrored);
        match clip.end {
            End::Stay => print.number(0),
            End::First => print.number(1),
            End::Vanish => print.number(2),
            End::Play(next) => {
                print.number(3);
                print.name(clip_names(next.number).map_or("", |name| &name.name));
            }
        }
        for (hold, mark) in &clip.marks {
            print.number(u64::from(*hold));
            print.name(reel.names.marks.of(Some(mark.number)).map_or("", |name| &name.name));
        }
        for (mark, slot, bits) in &clip.sets {
            print.name(reel.names.marks.of(Some(mark.number)).map_or("", |name| &name.name));
            print.number(u64::from(*slot) << 32 | u64::from(*bits));
        }
        for (span, from, to) in &clip.spans {
            print.name(reel.names.spans.of(Some(span.number)).map_or("", |name| &name.name));
            print.number(u64::from(*from) << 16 | u64::from(*to));
        }
    }
    for role in of.roles() {
        add_role(&mut print, of, role);
    }
    print.finish()
}

/// What an actor of a role does, by names.
fn add_role(print: &mut Fingerprint, reel: &Reel, role: Role<'_>) {
    print.name(role.name());
    let Some(data) = reel.role_data(role.id()) else { return };
    for (slot, fact) in data.facts.iter().enumerate() {
        print.flag(fact.is_some());
        let Some(fact) = fact else { continue };
        print.name(&fact.name);
        print.number(fact.kind as u64);
        print.number(u64::from(data.defaults[slot]));
        print.number(fact.choices.len() as u64);
        fact.choices.iter().for_each(|word| print.name(word));
        print.number(u64::from(fact.duration));
    }
    for cue in &data.cues {
        print.name(reel.cue_name(cue.id));
        print.number(cue.when.len() as u64);
        for condition in &cue.when {
            print.number(condition.len() as u64);
            condition.iter().for_each(|test| add_test(print, reel, data, test));
        }
        add_target(print, reel, cue.target);
        [cue.turns, cue.finish, cue.restart].into_iter().for_each(|on| print.flag(on));
        print.number(match cue.speed {
            None => 0,
            Some(SpeedBy::Factor(slot)) => 1 << 8 | u64::from(slot),
            Some(SpeedBy::Ground(slot)) => 2 << 8 | u64::from(slot),
        });
        for (from, hold) in &cue.begin {
            print.name(reel.cue_name(*from));
            print.number(u64::from(*hold));
        }
    }
    for bridge in &data.bridges {
        print.name(reel.bridge_name(bridge.id));
        add_target(print, reel, bridge.target);
        print.flag(bridge.turns);
        for cues in [&bridge.from, &bridge.to] {
            print.number(cues.len() as u64);
            cues.iter().for_each(|cue| print.name(reel.cue_name(*cue)));
        }
    }
    for group in &reel.data.phases {
        group.clips.iter().for_each(|clip| print.name(reel.clip_name(*clip)));
        print.number(group.align as u64);
    }
}

fn add_test(print: &mut Fingerprint, reel: &Reel, role: &RoleData, test: &Test) {
    match test {
        Test::Flag { slot, wanted, pulse } => {
            print.bytes(&[0, *slot, u8::from(*wanted), u8::from(*pulse)]);
        }
        Test::Number { slot, whole, within } => {
            print.bytes(&[1, *slot, u8::from(*whole)]);
            for (number, included) in within.iter().flat_map(|within| [within.from, within.to]) {
                print.number(number.to_bits());
                print.flag(included);
            }
        }
        Test::Word { slot, among } => {
            print.bytes(&[2, *slot]);
            print.number(*among);
        }
        Test::Inside { span } => {
            print.bytes(&[3]);
            let span = role.spans.get(usize::from(*span));
            print.name(span.map_or("", |span| reel.span_name(*span)));
        }
        Test::Facing { among } => print.bytes(&[4, *among]),
    }
}

fn add_target(print: &mut Fingerprint, reel: &Reel, target: CueTarget) {
    match target {
        CueTarget::Clip(clip) => print.name(reel.clip_name(clip)),
        CueTarget::Facings(set) => {
            let clips = reel.facing_set(set).map_or(&[][..], |set| &set.clips);
            clips.iter().for_each(|clip| print.name(reel.clip_name(*clip)));
            print.number(reel.facing_set(set).map_or(0, |set| set.align as u64));
        }
    }
}
