use lucky_reel_core::{Clip, ClipEnd, EventKind, Player, Reel, Ticks};

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
    let mut steps = Vec::new();
    let mut cycles = 0;
    let mut ended = false;
    let mut player = Player::new(reel, clip.id);
    let cycle = clip.cycle_time;
    let turns = clip.repeat.map_or(2, |cycles| u64::from(cycles.saturating_add(1)));
    let long_enough = Ticks::new(cycle.get().saturating_mul(turns).saturating_add(1));
    for event in player.advance(reel, long_enough) {
        match event.kind {
            EventKind::Enter(_) => steps.push(Step::Hold(event.hold)),
            EventKind::Cycle => {
                cycles += 1;
                steps.push(Step::Break);
            }
            EventKind::End => {
                ended = true;
                break;
            }
            _ => {}
        }
        let shown_enough = clip.repeat.is_none() && cycles == 2;
        if shown_enough || steps.len() >= MAX_STEPS {
            break;
        }
    }
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
