use lucky_reel_core::{Clip, ClipEnd, Reel};

use crate::timeline::{Playing, Timeline};

/// The order in which a clip shows its holds, as a player does it.
pub(super) struct Order {
    /// Holds, and breaks between cycles.
    pub(super) steps: Vec<Step>,
    /// How it goes on after the last of them.
    pub(super) goes_on: String,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Step {
    Hold(u32),
    Break,
}

/// At most this many steps are shown.
const MAX_STEPS: usize = 46;

pub(super) fn order_of(reel: &Reel, clip: &Clip<'_>) -> Order {
    let how = Playing { cycles: 2, most: MAX_STEPS, ..Playing::ONCE };
    let line = Timeline::of(reel, clip, how);
    let mut steps = Vec::new();
    for cycle in line.steps.chunk_by(|one, next| one.cycle == next.cycle) {
        let pause = (!steps.is_empty()).then_some(Step::Break);
        steps.extend(pause.into_iter().chain(cycle.iter().map(|step| Step::Hold(step.hold))));
    }
    let ended = line.is_whole && steps.len() <= MAX_STEPS;
    steps.truncate(MAX_STEPS);
    if steps.last() == Some(&Step::Break) {
        steps.pop();
    }
    let goes_on = match (clip.repeat, clip.end) {
        _ if clip.is_still => "a still: it stands".to_owned(),
        (None, _) => "and so on, forever".to_owned(),
        (Some(_), _) if !ended => "and so on to its end".to_owned(),
        (Some(_), ClipEnd::Stay) => "then the last hold stays".to_owned(),
        (Some(_), ClipEnd::First) => "then the first hold comes up and stays".to_owned(),
        (Some(_), ClipEnd::Vanish) => "then it vanishes".to_owned(),
        (Some(_), ClipEnd::Play(next)) => format!("then `{}` goes on", reel.name(next)),
    };
    Order { steps, goes_on }
}
