use lucky_reel_core::{Clip, EventKind, FrameId, Player, Reel, Speed, Ticks};

use super::RenderError;

/// A frame, and how long it is seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Shot {
    pub(super) frame: FrameId,
    pub(super) ticks: Ticks,
}

const MAX_SHOTS: usize = 100_000;

/// What a player shows while it plays the clip: to its end, or so many cycles of an endless one.
pub(super) fn shots_of(
    reel: &Reel,
    clip: &Clip<'_>,
    speed: Speed,
    cycles: u32,
) -> Result<Vec<Shot>, RenderError> {
    if let (true, Some(hold)) = (clip.is_still, clip.hold(0)) {
        // It stands: one picture, for as long as a cycle of a second.
        return Ok(vec![Shot { frame: hold.frame, ticks: Ticks::from_secs(1) }]);
    }
    let mut player = Player::new(reel, clip.id);
    player.set_speed(speed);
    let mut entered: Vec<(FrameId, Ticks)> = Vec::new();
    let mut end = None;
    for event in player.advance(reel, Ticks::MAX) {
        match event.kind {
            EventKind::Enter(frame) => entered.push((frame, event.at)),
            EventKind::End => end = Some(event.at),
            EventKind::Cycle if clip.repeat.is_none() => {
                end = (event.cycle.unsigned_abs() >= cycles.max(1)).then_some(event.at);
            }
            _ => {}
        }
        if end.is_some() {
            break;
        }
        if entered.len() > MAX_SHOTS {
            let what = format!("the clip takes more than {MAX_SHOTS} pictures");
            return Err(RenderError::new(what, "render fewer cycles"));
        }
    }
    let Some(end) = end else {
        return Err(RenderError::new("the clip does not move", "give a speed other than 0"));
    };
    let starts = entered.iter().map(|(_, at)| *at);
    let ends = starts.skip(1).chain([end]);
    Ok(entered
        .iter()
        .zip(ends)
        .map(|((frame, at), end)| Shot { frame: *frame, ticks: end - *at })
        .collect())
}
