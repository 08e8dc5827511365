//! Numbers that are equal on every machine for equal data.

use alloc::string::ToString;

use super::{Reel, ReelData};
use crate::clip::End;
use crate::cue::Role;
use crate::ids::ClipId;

/// The 64-bit FNV-1a hash (Fowler, Noll, Vo), fed with numbers and names.
pub(crate) struct Fingerprint(u64);

impl Fingerprint {
    pub(crate) fn new() -> Fingerprint {
        Fingerprint(0xcbf2_9ce4_8422_2325)
    }

    pub(crate) fn bytes(&mut self, bytes: &[u8]) {
        for byte in bytes {
            self.0 = (self.0 ^ u64::from(*byte)).wrapping_mul(0x0100_0000_01b3);
        }
    }

    pub(crate) fn number(&mut self, number: u64) {
        self.bytes(&number.to_le_bytes());
    }

    /// A name and its length, so that `ab`, `c` differs from `a`, `bc`.
    pub(crate) fn name(&mut self, name: &str) {
        self.number(name.len() as u64);
        self.bytes(name.as_bytes());
    }

    pub(crate) fn finish(self) -> u64 {
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
        print.name(clip.mode.name());
        print.number(u64::from(clip.repeat));
        print.number(u64::from(clip.rest));
        print.number(clip.units_for_ground);
        if clip.mirrored {
            print.name("mirrored");
        }
        match clip.end {
            End::Stay => print.number(0),
            End::First => print.number(1),
            End::Vanish => print.number(2),
            End::Play(next) => {
                print.number(3);
                print.name(clip_names(next.0).map_or("", |name| &name.name));
            }
        }
        for (hold, mark) in &clip.marks {
            print.number(u64::from(*hold));
            print.name(reel.names.marks.get(mark.index()).map_or("", |name| &name.name));
        }
        for (mark, slot, bits) in &clip.sets {
            print.name(reel.names.marks.get(mark.index()).map_or("", |name| &name.name));
            print.number(u64::from(*slot) << 32 | u64::from(*bits));
        }
        for (span, from, to) in &clip.spans {
            print.name(reel.names.spans.get(span.index()).map_or("", |name| &name.name));
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
    for fact in role.facts() {
        print.name(fact.name());
        print.name(fact.kind().told());
        print.name(&fact.default().to_string());
        fact.words().iter().for_each(|word| print.name(word));
        print.number(u64::from(fact.lasts().to_ticks().get() as u32));
    }
    let clips = |print: &mut Fingerprint, clips: &[ClipId]| {
        clips.iter().for_each(|clip| print.name(reel.clip_name(*clip)));
    };
    for cue in role.cues() {
        print.name(cue.name());
        for condition in cue.conditions() {
            print.number(condition.len() as u64);
            condition.iter().for_each(|part| print.name(part));
        }
        clips(print, &cue.plays());
        print.name(&cue.settings());
    }
    for bridge in role.bridges() {
        print.name(reel.bridge_name(bridge.id));
        clips(print, &bridge.plays(reel));
        for cue in bridge.from.iter().chain(&bridge.to) {
            print.name(reel.cue_name(*cue));
        }
    }
    for group in &reel.data.phases {
        clips(print, &group.clips);
        print.name(group.align.name());
    }
}

/// What tells one reel's family from another's: its playback and its art.
pub(super) fn of_family(reel: &ReelData) -> u64 {
    let mut print = Fingerprint::new();
    print.number(reel.fingerprint);
    for (_, name) in reel.names.sheets.alive() {
        print.name(&name.role);
        print.name(&name.name);
    }
    for frame in &reel.frames {
        for side in [frame.source.x, frame.source.y, frame.source.width, frame.source.height] {
            print.number(u64::from(side));
        }
    }
    print.finish()
}
