//! `frames` and `take`: frames listed one by one, some with a time of their own.

use lucky_reel_assets::document::{Form, Node};
use lucky_reel_core::Ticks;

use super::clip::{ClipText, Said};
use super::splice::{Splice, list_text, quoted};
use super::{EditError, duration_text};

/// The items of a list of frames, and which holds each makes.
pub(super) struct Listing<'n> {
    said: Said<'n>,
    items: Vec<Item<'n>>,
}

struct Item<'n> {
    node: &'n Node,
    /// The numbers as written, without the time: `4`, `0 to 3`, `all`.
    numbers: String,
    time: Option<&'n str>,
    /// Its first hold, and how many there are.
    first: usize,
    count: usize,
}

impl<'n> Listing<'n> {
    /// `None` where the frames are not listed, or not as the number of holds says.
    pub(super) fn of(clip: &ClipText<'n>, holds: usize) -> Option<Listing<'n>> {
        let said = clip.listing()?;
        let node = &said.entry.node;
        let nodes = node.list().unwrap_or(std::slice::from_ref(node));
        let mut items: Vec<Item<'n>> = nodes.iter().map(Item::read).collect::<Option<_>>()?;
        // `all` makes as many holds as the others leave.
        let known: usize = items.iter().map(|item| item.count).sum();
        let open = items.iter().filter(|item| item.count == 0).count();
        if let Some(each) = holds.checked_sub(known)?.checked_div(open) {
            items.iter_mut().filter(|item| item.count == 0).for_each(|item| item.count = each);
        }
        let mut first = 0;
        for item in &mut items {
            item.first = first;
            first += item.count;
        }
        (first == holds).then_some(Listing { said, items })
    }

    pub(super) fn has_own_time(&self, hold: usize) -> bool {
        self.item_of(hold).is_some_and(|item| item.time.is_some())
    }

    fn item_of(&self, hold: usize) -> Option<&Item<'n>> {
        self.items.iter().find(|item| (item.first..item.first + item.count).contains(&hold))
    }

    /// The list with another time for one hold that has a time of its own.
    pub(super) fn with_time(
        &self,
        text: &str,
        form: Form,
        clip: &ClipText<'n>,
        hold: usize,
        duration: Ticks,
    ) -> Result<Splice, EditError> {
        let unread = || EditError::new("the clip's frames cannot be read", "list them plainly");
        let item = self.item_of(hold).ok_or_else(unread)?;
        let changed = item.split(hold, duration).ok_or_else(unread)?;
        let is_list = self.said.entry.node.list().is_some();
        if self.said.is_own && (is_list || changed.len() == 1) {
            return Ok(Splice::replace(&item.node.span, changed.join(", ")));
        }
        let others = |item: &Item<'n>| text[item.node.span.clone()].to_owned();
        let items = self.items.iter().flat_map(|other| match other.first == item.first {
            true => changed.clone(),
            false => vec![others(other)],
        });
        let list = list_text(&items.collect::<Vec<_>>());
        match self.said.is_own {
            true => Ok(Splice::replace(&self.said.entry.node.span, list)),
            // Taken over from another clip: said here from now on.
            false => Splice::insert(text, form, clip.own(), self.said.key, &list),
        }
    }
}

impl<'n> Item<'n> {
    fn read(node: &'n Node) -> Option<Item<'n>> {
        if let Some(number) = node.whole() {
            return Some(Item {
                node,
                numbers: number.to_string(),
                time: None,
                first: 0,
                count: 1,
            });
        }
        let text = node.text()?;
        let (numbers, time) = match text.split_once(" for ") {
            Some((numbers, time)) => (numbers.trim(), Some(time.trim())),
            None => (text.trim(), None),
        };
        let count = match ends(numbers) {
            Some((from, to)) => from.abs_diff(to) as usize + 1,
            None if numbers == "all" => 0,
            None => 1,
        };
        Some(Item { node, numbers: numbers.to_owned(), time, first: 0, count })
    }

    /// The item as several, in quotes, of which one has another time.
    fn split(&self, hold: usize, duration: Ticks) -> Option<Vec<String>> {
        let time = self.time?;
        let new = duration_text(duration, time);
        let timed = |numbers: &str, time: &str| quoted(&format!("{numbers} for {time}"));
        if self.count == 1 {
            return Some(vec![timed(&self.numbers, &new)]);
        }
        let (from, to) = match ends(&self.numbers) {
            Some(ends) => ends,
            None => (0, self.count as u32 - 1),
        };
        let number = |nth: usize| match from <= to {
            true => from + nth as u32,
            false => from - nth as u32,
        };
        let nth = hold - self.first;
        let part = |first: usize, last: usize| match first == last {
            true => number(first).to_string(),
            false => format!("{} to {}", number(first), number(last)),
        };
        let before = (nth > 0).then(|| timed(&part(0, nth.saturating_sub(1)), time));
        let after = (nth + 1 < self.count).then(|| timed(&part(nth + 1, self.count - 1), time));
        let this = timed(&number(nth).to_string(), &new);
        Some(before.into_iter().chain([this]).chain(after).collect())
    }
}

/// The ends of `3 to 0`.
fn ends(numbers: &str) -> Option<(u32, u32)> {
    let (from, to) = numbers.split_once(" to ")?;
    Some((from.trim().parse().ok()?, to.trim().parse().ok()?))
}
