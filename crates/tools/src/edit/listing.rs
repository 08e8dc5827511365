//! A hold's own time in a list of frames: `"5 for 80ms"`.

use lucky_reel_assets::Fault;
use lucky_reel_assets::document::{Form, WrittenItem, WrittenTimes};
use lucky_reel_core::Ticks;

use super::duration_text;
use super::splice::{Splice, list_text, quoted};

/// The list of frames with another time for one hold that has a time of its own.
pub(super) fn with_time(
    text: &str,
    form: Form,
    clip: &WrittenTimes<'_>,
    hold: usize,
    duration: Ticks,
) -> Result<Splice, Fault> {
    let unread = || Fault::new("the clip's frames cannot be read", "list them plainly");
    let (said, item) = clip.listing.as_ref().zip(clip.item_of(hold)).ok_or_else(unread)?;
    let changed = split(item, hold, duration).ok_or_else(unread)?;
    let is_list = said.node.list().is_some();
    if said.is_own && (is_list || changed.len() == 1) {
        return Ok(Splice::replace(&item.node.span, changed.join(", ")));
    }
    let items = clip.items.iter().flat_map(|other| match other.holds == item.holds {
        true => changed.clone(),
        false => vec![text[other.node.span.clone()].to_owned()],
    });
    let list = list_text(&items.collect::<Vec<_>>());
    match said.is_own {
        true => Ok(Splice::replace(&said.node.span, list)),
        // Taken over from another clip: said here from now on.
        false => Splice::insert(text, form, clip.own, said.key, &list),
    }
}

/// An item as several, in quotes, of which one has another time.
fn split(item: &WrittenItem<'_>, hold: usize, duration: Ticks) -> Option<Vec<String>> {
    let time = item.time?;
    let part = |from: usize, to: usize, time: &str| {
        let numbers = match to.checked_sub(from)? {
            0 => return None,
            1 => item.number(from),
            _ => format!("{} to {}", item.number(from), item.number(to - 1)),
        };
        Some(quoted(&format!("{numbers} for {time}")))
    };
    let before = part(item.holds.start, hold, time);
    let this = part(hold, hold + 1, &duration_text(duration, time));
    let after = part(hold + 1, item.holds.end, time);
    Some([before, this, after].into_iter().flatten().collect())
}
