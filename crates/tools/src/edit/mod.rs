//! Durations changed in the text of a reel file, everything else left as it is: comments, layout, order.
//!
//! A clip's times may be said in many ways: for the frame itself (`"5 for 80ms"`), as one `each` or a list
//! of them, as `fps` or `total`, by a clip that it is `like`, or by the defaults. The text is spliced where
//! the hold's time is said; a time said for several holds becomes a list.

mod listing;
mod splice;

use lucky_reel_assets::document::{Form, WrittenTimes, parse};
use lucky_reel_assets::{Fault, parse_time};
use lucky_reel_core::Ticks;

use splice::Splice;

/// The text of a reel file with another duration for one hold of a clip. `holds` are the present
/// durations of all of the clip's holds, `hold` counts from 0.
///
/// Clips that share their times change with it: those that `rows` made of one entry, and those that are
/// `like` it and give no times of their own.
///
/// # Errors
/// When the text has no such clip or hold, or cannot be read.
///
/// ```
/// use lucky_reel_core::Ticks;
/// use lucky_reel_tools::edit::set_hold;
/// use lucky_reel_assets::document::Form;
///
/// let text = "[clips.blink]   # at dusk\nframes = \"0 to 2\"\nfps    = 8\nmode   = \"once\"\n";
/// let holds = [Ticks::from_millis(125); 3];
/// let slower = set_hold(text, Form::Toml, ("blink", 1), Ticks::from_millis(140), &holds)?;
/// let wanted = text.replace("fps    = 8", "each = [\"125ms\", \"140ms\", \"125ms\"]");
/// assert_eq!(slower, wanted);
/// # Ok::<(), lucky_reel_assets::Fault>(())
/// ```
pub fn set_hold(
    text: &str,
    form: Form,
    (clip, hold): (&str, usize),
    duration: Ticks,
    holds: &[Ticks],
) -> Result<String, Fault> {
    let unread = |_| Fault::new("the reel file cannot be read", "fix what `check` reports");
    let root = parse(text, form).map_err(unread)?;
    let missing = || {
        let message = format!("the text has no clip `{clip}`");
        Fault::new(message, "name a clip of the reel file")
    };
    let clip = WrittenTimes::of(&root, clip, holds.len()).ok_or_else(missing)?;
    if hold >= holds.len() {
        let message = format!("the clip has {} holds, and no hold {hold}", holds.len());
        return Err(Fault::new(message, "name one of its holds, counted from 0"));
    }
    let mut splices = Vec::new();
    let own = |hold: usize| clip.item_of(hold).is_some_and(|item| item.time.is_some());
    let open: Vec<usize> = (0..holds.len()).filter(|hold| !own(*hold)).collect();
    let shared = clip.shared.as_ref();
    // Of a `total` the other holds have what this one leaves, so their times have to be written out.
    let by_total = shared.is_some_and(|said| said.key == "total");
    if !own(hold) || (by_total && !open.is_empty()) {
        let time = |at: usize| if at == hold { duration } else { holds[at] };
        let old = |nth: usize| match shared.and_then(|said| said.node.list()) {
            Some(list) => list.get(nth)?.text(),
            None => shared.filter(|said| said.key == "each").and_then(|said| said.node.text()),
        };
        let written = |nth: usize, at: usize| match old(nth) {
            Some(text) if at != hold => text.to_owned(),
            old => duration_text(time(at), old.unwrap_or_default()),
        };
        let times: Vec<String> =
            open.iter().enumerate().map(|(nth, at)| written(nth, *at)).collect();
        splices.push(splice::each(text, form, &clip, &times, nth_of(&open, hold))?);
    }
    if own(hold) {
        splices.push(listing::with_time(text, form, &clip, hold, duration)?);
    }
    Ok(Splice::apply(text, splices))
}

fn nth_of(open: &[usize], hold: usize) -> Option<usize> {
    open.iter().position(|at| *at == hold)
}

/// A duration as a reel file writes it, exact to the tick: in the form of `like` where that can say it,
/// else in milliseconds, as the fraction of a second with the smallest numbers, or in ticks.
#[must_use]
pub fn duration_text(time: Ticks, like: &str) -> String {
    /// A fraction with a greater number below says less than the ticks do.
    const BELOW: u64 = 1_000;
    let exact = |text: &String| parse_time(text).is_ok_and(|read| read == time.into());
    let decimal = |per_second: f64, unit: &str| {
        let number = format!("{:.4}", time.as_secs_f64() * per_second);
        format!("{}{unit}", number.trim_end_matches('0').trim_end_matches('.'))
    };
    let fraction = |below: u64| {
        let above = u128::from(time.get()) * u128::from(below) / u128::from(Ticks::PER_SECOND);
        format!("{above}/{below}s")
    };
    let below = like.strip_suffix('s').and_then(|number| number.split_once('/')?.1.parse().ok());
    let lowest = Ticks::PER_SECOND / greatest_divisor(time.get(), Ticks::PER_SECOND);
    let lowest = (lowest <= BELOW).then(|| fraction(lowest));
    let as_like = match (below, like) {
        (Some(below), _) => Some(fraction(below)),
        (None, like) if like.ends_with("cs") => Some(decimal(100.0, "cs")),
        (None, like) if like.ends_with("us") => Some(decimal(1e6, "us")),
        (None, like) if like.ends_with("ms") => Some(decimal(1e3, "ms")),
        (None, like) if like.ends_with('s') => Some(decimal(1.0, "s")),
        _ => None,
    };
    let forms = as_like.into_iter().chain([decimal(1e3, "ms")]).chain(lowest);
    forms.into_iter().find(exact).unwrap_or_else(|| format!("{}t", time.get()))
}

/// Euclid's way; of 0 and a number it is the number.
fn greatest_divisor(one: u64, other: u64) -> u64 {
    if one == 0 { other } else { greatest_divisor(other % one, one) }
}
