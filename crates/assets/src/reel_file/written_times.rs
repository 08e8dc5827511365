//! Where the durations of a clip are written, for tools that change them in the text.

use std::ops::Range;
use std::path::Path;

use super::clip_entries::{Entries, FRAMES, Lineage, Said, TIMES};
use super::frames::{Item, Numbers};
use crate::document::{Entry, Node, Notes};

/// Where the durations of one clip are written in a reel file, found as the loader finds them: in the clip's own
/// entry, in one that it is `like`, or in the defaults.
#[derive(Clone, Debug)]
pub struct WrittenTimes<'n> {
    /// The clip's own entry, where a key that it does not have yet can be added.
    pub own: &'n [Entry],
    /// `each`, `fps` or `total`: for the holds that have no duration of their own.
    pub shared: Option<WrittenKey<'n>>,
    /// `frames`, or `take` of a row or a column, where the frames are listed one by one.
    pub listing: Option<WrittenKey<'n>>,
    /// What is listed there, in order.
    pub items: Vec<WrittenItem<'n>>,
}

/// A key of a clip, and where it is written.
#[derive(Clone, Debug)]
pub struct WrittenKey<'n> {
    /// The key, such as `each`.
    pub key: &'static str,
    /// Bytes of the text that the key is written in.
    pub key_span: Range<usize>,
    /// Its value.
    pub node: &'n Node,
    /// Whether the clip's own entry has it.
    pub is_own: bool,
}

/// An item of a list of frames, such as `"4 to 2 for 80ms"`.
#[derive(Clone, Debug)]
pub struct WrittenItem<'n> {
    /// All of it.
    pub node: &'n Node,
    /// The holds that it makes, counted from 0.
    pub holds: Range<usize>,
    /// The duration that it gives them, if any, such as `80ms`.
    pub time: Option<&'n str>,
    numbers: Numbers<'n>,
}

impl<'n> WrittenTimes<'n> {
    /// Finds them for a clip of a document by the clip's name there; `holds` is how many holds the clip has.
    /// `None` when the document has no such clip.
    ///
    /// ```
    /// use lucky_reel_assets::document::{Form, WrittenTimes, parse};
    ///
    /// let text = "[clips.blink]\nframes = [4, \"5 for 80ms\"]\nfps = 8\n";
    /// let root = parse(text, Form::Toml).unwrap();
    /// let times = WrittenTimes::of(&root, "blink", 2).unwrap();
    /// assert_eq!(times.shared.unwrap().key, "fps");
    /// assert_eq!(&text[times.items[1].node.span.clone()], "\"5 for 80ms\"");
    /// assert_eq!((times.items[1].time, times.items[1].number(1)), (Some("80ms"), "5".to_owned()));
    /// ```
    #[must_use]
    pub fn of(root: &'n Node, clip: &str, holds: usize) -> Option<WrittenTimes<'n>> {
        // What is wrong with the file is said when it is loaded.
        let notes = &mut Notes::on(Path::new(""), "");
        let entries = Entries::read(notes, root.get("defaults"), root.get("clips"));
        let (index, _) = entries.find(clip)?;
        let lineage = entries.lineage(notes, index);
        let listing = listing(&lineage);
        let items = listing.and_then(|said| items(said.node, holds));
        Some(WrittenTimes {
            own: entries.entry(index).node.table().unwrap_or_default(),
            shared: lineage.first_of(&TIMES).map(written),
            listing: listing.filter(|_| items.is_some()).map(written),
            items: items.unwrap_or_default(),
        })
    }

    /// The item that makes a hold, where frames are listed one by one.
    #[must_use]
    pub fn item_of(&self, hold: usize) -> Option<&WrittenItem<'n>> {
        self.items.iter().find(|item| item.holds.contains(&hold))
    }
}

impl WrittenItem<'_> {
    /// What the frame of a hold is called here: its number in the sheet, or in the row of which it is taken, or
    /// the name of a cutout.
    #[must_use]
    pub fn number(&self, hold: usize) -> String {
        let nth = hold.saturating_sub(self.holds.start) as u32;
        match self.numbers {
            Numbers::All => nth.to_string(),
            Numbers::Range(from, to) if from <= to => from.saturating_add(nth).to_string(),
            Numbers::Range(from, _) => from.saturating_sub(nth).to_string(),
            Numbers::Name(name) => name.to_owned(),
        }
    }
}

fn written<'n>(said: Said<'n>) -> WrittenKey<'n> {
    let Said { key, key_span, node, own: is_own, .. } = said;
    WrittenKey { key, key_span: key_span.clone(), node, is_own }
}

/// The key that lists frames one by one.
fn listing<'n>(lineage: &Lineage<'_, 'n>) -> Option<Said<'n>> {
    match lineage.first_of(&FRAMES)? {
        frames if frames.key == "frames" => Some(frames),
        _ => lineage.get("take"),
    }
}

/// The items of a list, with the holds of each. `all` makes as many holds as the others leave.
fn items(node: &Node, holds: usize) -> Option<Vec<WrittenItem<'_>>> {
    let nodes = node.list().unwrap_or(std::slice::from_ref(node));
    let read: Vec<(&Node, Item<'_>)> =
        nodes.iter().map(|node| Some((node, Item::read(node, true)?))).collect::<Option<_>>()?;
    let known: usize = read.iter().filter_map(|(_, item)| item.numbers.count()).sum();
    let open = read.iter().filter(|(_, item)| item.numbers.count().is_none()).count();
    let each = holds.checked_sub(known)?.checked_div(open).unwrap_or_default();
    let mut first = 0;
    let items = read.into_iter().map(|(node, Item { numbers, time })| {
        let holds = first..first + numbers.count().unwrap_or(each);
        first = holds.end;
        WrittenItem { node, holds, time, numbers }
    });
    let items: Vec<WrittenItem<'_>> = items.collect();
    (first == holds).then_some(items)
}
