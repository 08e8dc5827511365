//! Random roles: clips, cues and bridges.

use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;

use crate::model::{ModelClip, any_clip_marked};

/// What a mark sets: its name says it. In the order of their names, in which one hold reports them.
pub(crate) const MARKS: [&str; 9] = [
    "a-off",
    "a-on",
    "n-one",
    "n-two",
    "p-set",
    "pace-back",
    "pace-none",
    "pace-twice",
    "pace-zero",
];
/// The facings that the set says something of: down, right, and right in a mirror.
pub(crate) const SET: [(Facing, usize); 3] =
    [(Facing::Down, 2), (Facing::Right, 3), (Facing::Left, MIRRORED)];
/// Clips of a role; a mirrored copy of clip 3 follows them.
pub(crate) const CLIPS: usize = 8;
pub(crate) const MIRRORED: usize = CLIPS;

#[derive(Clone, Debug)]
pub(crate) enum Cond {
    A(bool),
    Above(i32),
    Below(i32),
    P,
    Q,
    Inside,
    Facing(Facing),
}

#[derive(Clone, Debug)]
pub(crate) struct CueSpec {
    pub(crate) when: Vec<Vec<Cond>>,
    /// A clip, or the facing set and whether it turns.
    pub(crate) plays: Result<usize, bool>,
    pub(crate) finish: bool,
    pub(crate) again: bool,
    pub(crate) begin: Option<usize>,
    /// As fast as a fact says.
    pub(crate) paced: bool,
}

/// Clips 0 and 1 are in step, clips 2 and 3 are the facing set; all are of any kind.
#[derive(Clone, Debug)]
pub(crate) struct Spec {
    pub(crate) clips: Vec<ModelClip>,
    /// By clip, the holds of its span, both ends included.
    pub(crate) spans: Vec<Option<(u32, u32)>>,
    pub(crate) cues: Vec<CueSpec>,
    /// Cues from, cues to, by bits, and a finite clip.
    pub(crate) bridges: Vec<(u8, u8, usize)>,
    /// Whether clips 0 and 1 keep the place, and by what.
    pub(crate) phases: Option<Align>,
    pub(crate) facings: Align,
    /// How long pulses last.
    pub(crate) pulses: [u64; 2],
}

fn cond() -> impl Strategy<Value = Cond> {
    prop_oneof![
        any::<bool>().prop_map(Cond::A),
        (0_i32..3).prop_map(Cond::Above),
        (0_i32..3).prop_map(Cond::Below),
        Just(Cond::P),
        Just(Cond::Q),
        Just(Cond::Inside),
        (0_usize..8).prop_map(|nth| Cond::Facing(Facing::ALL[nth])),
    ]
}

fn align() -> impl Strategy<Value = Align> {
    prop_oneof![3 => Just(Align::Time), 2 => Just(Align::Hold)]
}

/// A role of any kind.
pub(crate) fn spec() -> impl Strategy<Value = Spec> {
    let mark = (0..MARKS.len()).prop_map(|mark| 1_u32 << mark);
    let marks = prop_oneof![
        3 => Just(0),
        1 => vec(mark, 1..3).prop_map(|marks| marks.into_iter().fold(0, |all, mark| all | mark)),
    ];
    // Some clips can change nothing.
    let clips = vec((any_clip_marked(CLIPS, marks.boxed()), any::<bool>()), CLIPS);
    let spans = vec(proptest::option::of((0_u32..4, 0_u32..4)), CLIPS);
    let plays = prop_oneof![3 => (0..CLIPS).prop_map(Ok), 1 => any::<bool>().prop_map(Err)];
    let when = vec(vec(cond(), 1..3), 1..3);
    let begin = proptest::option::weighted(0.3, 0_usize..4);
    let cue = (when, plays, any::<[bool; 3]>(), begin);
    let cue = cue.prop_map(|(when, plays, [finish, again, paced], begin)| CueSpec {
        when,
        plays,
        finish,
        again,
        begin,
        paced,
    });
    let bridge = (1_u8..16, 1_u8..16, 4..CLIPS);
    let rest =
        (vec(cue, 2..5), vec(bridge, 0..3), proptest::option::weighted(0.8, align()), align());
    (clips, spans, rest).prop_map(|(clips, spans, (mut cues, mut bridges, phases, facings))| {
        let clips: Vec<ModelClip> = clips
            .into_iter()
            .map(|(mut clip, is_quiet)| {
                if is_quiet {
                    clip.marks.fill(0);
                }
                clip
            })
            .collect();
        let spans = spans.into_iter().zip(&clips).map(|(span, clip)| {
            let last = clip.ticks.len() as u32 - 1;
            span.map(|(a, b)| (a.min(b).min(last), a.max(b).min(last)))
        });
        let spans = spans.collect();
        let finite = |clip: usize| clips[clip].cycles().is_some();
        let count = cues.len();
        for cue in &mut cues {
            cue.finish &= cue.plays.is_ok_and(finite);
            cue.begin = cue.begin.filter(|from| *from < count);
        }
        cues[count - 1].when.clear();
        let known = (1 << count) - 1;
        bridges.retain(|(from, to, clip)| from & known > 0 && to & known > 0 && finite(*clip));
        Spec { clips, spans, cues, bridges, phases, facings, pulses: [1, 3] }
    })
}

impl Spec {
    pub(crate) fn build(&self) -> Reel {
        self.build_into(Reel::builder())
    }

    /// The same as a version of the reel that the builder is for.
    pub(crate) fn build_into(&self, mut builder: ReelBuilder) -> Reel {
        let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
        for (nth, clip) in self.clips.iter().enumerate() {
            let mut new = clip.new_clip(NewClip::of(sheet), |hold| hold % 8);
            for (nth, mark) in MARKS.iter().enumerate() {
                let marked = |hold: &u32| clip.marks[*hold as usize] >> nth & 1 == 1;
                let holds: Vec<u32> = (0..clip.ticks.len() as u32).filter(marked).collect();
                new = new.mark(*mark, holds);
                new = match *mark {
                    "a-on" => new.mark_sets(*mark, "a", true),
                    "a-off" => new.mark_sets(*mark, "a", false),
                    "n-one" => new.mark_sets(*mark, "n", 1),
                    "n-two" => new.mark_sets(*mark, "n", 2),
                    "pace-back" => new.mark_sets(*mark, "pace", -1.0),
                    "pace-none" => new.mark_sets(*mark, "pace", 0.0),
                    "pace-twice" => new.mark_sets(*mark, "pace", 2.0),
                    "pace-zero" => new.mark_sets(*mark, "pace", -0.0),
                    _ => new.mark_sets(*mark, "p", true),
                };
            }
            if let Some((from, to)) = self.spans[nth] {
                new = new.span("s", from..=to);
            }
            builder.clip(format!("c{nth}"), new);
        }
        // So that the span is known to every role.
        builder.clip("spare", NewClip::of(sheet).frames([0]).fps(1).span("s", 0..=0));
        if self.clips.len() == CLIPS {
            let set = NewFacings::new().clip(Facing::Down, "c2").clip(Facing::Right, "c3");
            let set = set.mirror(Facing::Left, Facing::Right);
            builder.facings("f", set.align(self.facings));
        }
        builder.fact("a", false);
        builder.fact("n", 0);
        builder.fact("pace", 1.0);
        for (name, ticks) in ["p", "q"].into_iter().zip(self.pulses) {
            builder.fact(name, NewFact::pulse_for(Ticks::new(ticks)));
        }
        for (nth, cue) in self.cues.iter().enumerate() {
            builder.cue(format!("k{nth}"), new_cue(cue));
        }
        for (nth, (from, to, clip)) in self.bridges.iter().enumerate() {
            let cues = |bits: u8| -> Vec<String> {
                let named = (0..self.cues.len()).filter(|nth| bits >> nth & 1 == 1);
                named.map(|nth| format!("k{nth}")).collect()
            };
            let new = NewBridge::play(format!("c{clip}")).between(cues(*from), cues(*to));
            builder.bridge(format!("b{nth}"), new);
        }
        if let Some(align) = self.phases {
            builder.phases("legs", ["c0", "c1"], align);
        }
        builder.build().unwrap()
    }
}

fn new_cue(cue: &CueSpec) -> NewCue {
    let mut new = match cue.plays {
        Ok(clip) => NewCue::play(format!("c{clip}")),
        Err(true) => NewCue::play_facings("f"),
        Err(false) => NewCue::play_facings("f").keep_facing(),
    };
    for all in &cue.when {
        let when = all.iter().fold(Condition::new(), |when, cond| match *cond {
            Cond::A(value) => when.fact("a", value),
            Cond::Above(number) => when.above("n", f64::from(number)),
            Cond::Below(number) => when.below("n", f64::from(number)),
            Cond::P => when.fact("p", true),
            Cond::Q => when.fact("q", true),
            Cond::Inside => when.inside("s"),
            Cond::Facing(facing) => when.facing([facing]),
        });
        new = new.when(when);
    }
    if cue.finish {
        new = new.finish();
    }
    if cue.paced {
        new = new.speed_from("pace");
    }
    if cue.again {
        new = new.restart();
    }
    if let Some(from) = cue.begin {
        new = new.start_at(format!("k{from}"), 0);
    }
    new
}
