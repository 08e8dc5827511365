//! Random roles: clips, cues and bridges.

use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;

/// What a mark sets: its name says it.
pub(crate) const MARKS: [&str; 9] = [
    "a-on",
    "a-off",
    "n-one",
    "n-two",
    "p-set",
    "pace-back",
    "pace-none",
    "pace-twice",
    "pace-zero",
];
/// The first so many of them set facts that the naive actor has, too.
const PLAIN_MARKS: usize = 5;
/// Down, right, and right in a mirror.
pub(crate) const SET: [Facing; 3] = [Facing::Down, Facing::Right, Facing::Left];

#[derive(Clone, Debug)]
pub(crate) struct ClipSpec {
    pub(crate) ticks: Vec<u64>,
    pub(crate) once: bool,
    pub(crate) next: Option<usize>,
    /// By hold, which of [`MARKS`].
    pub(crate) marks: Vec<Vec<usize>>,
    pub(crate) span: Option<(u32, u32)>,
}

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
    /// As fast as a fact says; the naive actor has no such fact.
    pub(crate) paced: bool,
}

/// Clips 0 and 1 are in step, clips 2 and 3 are the facing set; those four are endless loops of eight
/// ticks. The clips that follow are of any kind.
#[derive(Clone, Debug)]
pub(crate) struct Spec {
    pub(crate) clips: Vec<ClipSpec>,
    pub(crate) cues: Vec<CueSpec>,
    /// Cues from, cues to, by bits, and a finite clip.
    pub(crate) bridges: Vec<(u8, u8, usize)>,
}

pub(crate) const CLIPS: usize = 8;

fn clip(endless: bool, kinds: usize) -> impl Strategy<Value = ClipSpec> {
    let ticks = if endless {
        (1_u64..4, 1_u64..4).prop_map(|(a, b)| vec![a, b, 8 - a - b]).boxed()
    } else {
        vec(1_u64..5, 1..4).boxed()
    };
    let marked = vec(prop_oneof![3 => Just(vec![]), 1 => vec(0..kinds, 1..3)], 3);
    // Some clips can change nothing.
    let marks = prop_oneof![3 => marked, 2 => Just(vec![vec![]; 3])];
    let next = proptest::option::weighted(0.3, 4..CLIPS);
    let span = proptest::option::of((0_u32..3, 0_u32..3));
    (ticks, any::<bool>(), next, marks, span).prop_map(
        move |(ticks, once, next, mut marks, span)| {
            let last = ticks.len() as u32 - 1;
            marks.truncate(ticks.len());
            let span = span.map(|(a, b)| (a.min(b).min(last), a.max(b).min(last)));
            let once = once && !endless;
            ClipSpec { ticks, once, next: next.filter(|_| once), marks, span }
        },
    )
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

/// A role that the naive actor can play.
pub(crate) fn spec() -> impl Strategy<Value = Spec> {
    spec_with_marks(PLAIN_MARKS)
}

/// A role whose marks may also set how fast its cues play.
pub(crate) fn paced_spec() -> impl Strategy<Value = Spec> {
    spec_with_marks(MARKS.len())
}

fn spec_with_marks(kinds: usize) -> impl Strategy<Value = Spec> {
    let clips = (vec(clip(true, kinds), 4), vec(clip(false, kinds), 4));
    let clips = clips.prop_map(|(endless, any)| [endless, any].concat());
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
    (clips, vec(cue, 2..5), vec(bridge, 0..3)).prop_map(|(clips, mut cues, mut bridges)| {
        let once = |clip: usize| clips[clip].once;
        let count = cues.len();
        for cue in &mut cues {
            cue.finish &= cue.plays.is_ok_and(once);
            cue.begin = cue.begin.filter(|from| *from < count);
        }
        cues[count - 1].when.clear();
        let known = (1 << count) - 1;
        bridges.retain(|(from, to, clip)| from & known > 0 && to & known > 0 && once(*clip));
        Spec { clips, cues, bridges }
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
            let mut new = NewClip::of(sheet);
            for (frame, ticks) in clip.ticks.iter().enumerate() {
                new = new.hold(frame as u32, Ticks::new(*ticks));
            }
            for (nth, mark) in MARKS.iter().enumerate() {
                let marked = |hold: &u32| clip.marks[*hold as usize].contains(&nth);
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
            if let Some((from, to)) = clip.span {
                new = new.span("s", from..=to);
            }
            if clip.once {
                new = new.mode(Mode::Once);
            }
            if let Some(next) = clip.next {
                new = new.then_play(format!("c{next}"));
            }
            builder.clip(format!("c{nth}"), new);
        }
        // So that the span is known to every role.
        builder.clip("spare", NewClip::of(sheet).frames([0]).fps(1).span("s", 0..=0));
        let set = NewFacings::new().clip(Facing::Down, "c2").clip(Facing::Right, "c3");
        builder.facings("f", set.mirror(Facing::Left, Facing::Right));
        builder.fact("a", false);
        builder.fact("n", 0);
        builder.fact("pace", 1.0);
        builder.fact("p", NewFact::pulse());
        builder.fact("q", NewFact::pulse_for(Ticks::new(3)));
        for (nth, cue) in self.cues.iter().enumerate() {
            let mut new = match cue.plays {
                Ok(clip) => NewCue::play(format!("c{clip}")),
                Err(true) => NewCue::play_facings("f"),
                Err(false) => NewCue::play_facings("f").keep_facing(),
            };
            for all in &cue.when {
                let when = all.iter().fold(Condition::all([]), |when, cond| match *cond {
                    Cond::A(value) => when.and("a", value),
                    Cond::Above(number) => when.and_above("n", f64::from(number)),
                    Cond::Below(number) => when.and_below("n", f64::from(number)),
                    Cond::P => when.and("p", true),
                    Cond::Q => when.and("q", true),
                    Cond::Inside => when.and_inside("s"),
                    Cond::Facing(facing) => when.and_facing([facing]),
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
            builder.cue(format!("k{nth}"), new);
        }
        for (nth, (from, to, clip)) in self.bridges.iter().enumerate() {
            let cues = |bits: u8| -> Vec<String> {
                let named = (0..self.cues.len()).filter(|nth| bits >> nth & 1 == 1);
                named.map(|nth| format!("k{nth}")).collect()
            };
            let new = NewBridge::play(format!("c{clip}")).between(cues(*from), cues(*to));
            builder.bridge(format!("b{nth}"), new);
        }
        builder.phases("legs", NewPhases::of(["c0", "c1"]));
        builder.build().unwrap()
    }
}
