//! `[clips.NAME]`: from what is written to what the core builds.

use std::ops::Range;

use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{ClipEnd, ExactTime, Facing, Mode, NameError, NewClip, Ticks};

use super::clip_entries::{Entries, FRAMES, Lineage, Said, TIMES};
use super::cuts::read_pivot;
use super::facts::Kinds;
use super::frames::{Along, Counted, Listed, along, listed};
use super::origins::{Home, Origin};
use super::sheet::{Sheet, Sheets, Timing};
use super::{To, duration};
use crate::document::{Entry, Node, Notes, Value, join};
use crate::index::Index;
use crate::pictures::Pictures;
use crate::suggestion::did_you_mean;
use crate::time_text::parse_rate;

const MODES: [(&str, Mode); 3] =
    [("loop", Mode::Loop), ("ping-pong", Mode::PingPong), ("once", Mode::Once)];

/// A clip that an entry makes: its name, and its row where the entry makes one for each.
struct Made {
    name: String,
    row: Option<String>,
    frames: Option<Vec<Listed>>,
}

/// An entry whose frames are read: all that it takes over, its sheet, and the clips that it makes.
struct Framed<'e, 'n> {
    index: usize,
    lineage: Lineage<'e, 'n>,
    sheet: Option<&'e Sheet>,
    made: Vec<Made>,
    /// Whether nothing is wrong with it so far.
    sound: bool,
}

/// What clips refer to.
#[derive(Clone, Copy)]
pub(super) struct Given<'g> {
    pub(super) sheets: &'g Sheets,
    pub(super) kinds: &'g Kinds,
}

/// The names of all clips.
type Names = Index<()>;

/// The facing sets that rows have made, by name.
pub(super) type SetsByRows = Index<SetByRows>;

/// The clip of each facing, and the entry whose rows made them.
pub(super) struct SetByRows {
    pub(super) clips: Vec<(Facing, String)>,
    pub(super) home: Home,
    pub(super) span: Range<usize>,
}

pub(super) fn read(
    to: &mut To<'_, '_>,
    (defaults, clips): (Option<&Node>, Option<&Node>),
    Given { sheets, kinds }: Given<'_>,
    pictures: &mut Pictures<'_, '_>,
) -> SetsByRows {
    let entries = Entries::read(to.notes, defaults, clips);
    for name in &entries.unreadable {
        Section::Clips.mark_incomplete(to.builder, name);
    }
    let none = entries.len() == 0 && entries.unreadable.is_empty();
    if none && clips.is_none_or(|clips| clips.table().is_some()) {
        let fix = "add one: [clips.NAME], with `frames` and `fps`";
        to.notes.say(&(0..0), "clips", "the file makes no clip", fix);
    }
    let framed: Vec<Framed<'_, '_>> = (0..entries.len())
        .map(|index| frame(to.notes, &entries, index, sheets, pictures))
        .collect();
    let mut names = Names::default();
    for made in framed.iter().flat_map(|framed| &framed.made) {
        names.insert(made.name.clone(), ());
    }
    for Framed { index, lineage, sheet, made, sound } in &framed {
        let (entry, home) = (entries.entry(*index), entries.home(*index));
        for made in made {
            let reader = ClipReader { lineage, entry, made, names: &names, kinds };
            let before = to.notes.found;
            let clip = reader.read(to.notes, *sheet);
            let sound = *sound && to.notes.found == before && !to.notes.is_full();
            if let Some(clip) = clip {
                to.origin(Section::Clips, reader.origin(home));
                to.builder.clip(&made.name, clip);
            }
            if !sound || made.frames.is_none() {
                Section::Clips.mark_incomplete(to.builder, &made.name);
            }
        }
    }
    let mut sets = SetsByRows::default();
    for Framed { index, made, .. } in framed {
        let entry = entries.entry(index);
        for made in made {
            let Some(facing) = made.row.as_deref().and_then(Facing::from_name) else { continue };
            let (home, span) = (entries.home(index), entry.key_span.clone());
            sets.insert_new(entry.key.clone(), SetByRows { clips: Vec::new(), home, span });
            if let Some(set) = sets.get_mut(&entry.key) {
                set.clips.push((facing, made.name));
            }
        }
    }
    sets
}

fn sheet_of<'s>(
    notes: &mut Notes<'_>,
    entry: &Entry,
    lineage: &Lineage<'_, '_>,
    sheets: &'s Sheets,
) -> Option<&'s Sheet> {
    let Some(said) = lineage.get("sheet") else {
        if let [only] = sheets.values() {
            return Some(only);
        }
        if !sheets.is_empty() {
            let names: Vec<&str> = sheets.names().collect();
            let fix = format!("say one of {}: sheet = \"{}\"", names.join(", "), names[0]);
            let key = format!("clips.{}.sheet", entry.key);
            notes.say(&entry.key_span, &key, "the clip does not name its sheet", fix);
        }
        return None;
    };
    let Some(name) = said.node.text() else {
        notes.say_kind(said.node, &said.path(), "the name of a sheet");
        return None;
    };
    let sheet = sheets.get(name);
    if sheet.is_none() {
        let names = sheets.names();
        let all = || format!("the sheets are {}", names.clone().collect::<Vec<_>>().join(", "));
        let fix = did_you_mean(name, names.clone(), all);
        notes.say(&said.node.span, &said.path(), format!("there is no sheet `{name}`"), fix);
    }
    sheet
}

/// Reads which frames an entry has.
fn frame<'e, 'n>(
    notes: &mut Notes<'_>,
    entries: &'e Entries<'n>,
    index: usize,
    sheets: &'e Sheets,
    pictures: &mut Pictures<'_, '_>,
) -> Framed<'e, 'n> {
    let (before, entry) = (notes.found, entries.entry(index));
    let lineage = entries.lineage(notes, index);
    let sheet = sheet_of(notes, entry, &lineage, sheets);
    let made = make(notes, entry, &lineage, sheet, pictures);
    let sound = entries.is_sound(index) && notes.found == before;
    Framed { index, lineage, sheet, made, sound }
}

/// The clips of an entry, with their frames.
fn make(
    notes: &mut Notes<'_>,
    entry: &Entry,
    lineage: &Lineage<'_, '_>,
    sheet: Option<&Sheet>,
    pictures: &mut Pictures<'_, '_>,
) -> Vec<Made> {
    let one = |frames| vec![Made { name: entry.key.clone(), row: None, frames }];
    let Some(said) = lineage.first_of(&FRAMES) else {
        let key = format!("clips.{}.frames", entry.key);
        let fix = "say them: frames = \"0 to 3\", or row = 0";
        notes.say(&entry.key_span, &key, "the clip does not list its frames", fix);
        return one(None);
    };
    let take = lineage.get("take").map(|take| (take.node, take.path()));
    if let (Some((node, key)), "frames", true) =
        (&take, said.key, lineage.get("take").is_some_and(|take| take.own))
    {
        let what = "`take` picks from a row or a column, and this clip lists its frames";
        notes.say(&node.span, key, what, "leave it out, or say `row` instead of `frames`");
    }
    let mut line = |notes: &mut Notes<'_>, node: &Node, key: &str, direction| {
        along(notes, sheet?, (node, key, direction), take.clone(), pictures)
    };
    match said.key {
        "row" => one(line(notes, said.node, &said.path(), Along::Row)),
        "column" => one(line(notes, said.node, &said.path(), Along::Column)),
        "rows" => {
            let Some(rows) = said.node.table().filter(|rows| !rows.is_empty()) else {
                let fix = "give a row for each name: rows = { down = 0, up = 1 }";
                notes.say(&said.node.span, &said.path(), "this names no rows", fix);
                return one(None);
            };
            let picked = lineage.picked_row(said);
            let picked = |row: &&Entry| picked.is_none_or(|picked| picked == row.key);
            let made = rows.iter().filter(picked).map(|row| {
                let key = join(&said.path(), &row.key);
                Made {
                    name: format!("{}-{}", entry.key, row.key),
                    row: Some(row.key.clone()),
                    frames: line(notes, &row.node, &key, Along::Row),
                }
            });
            let mut made: Vec<Made> = made.collect();
            if let (Some(one), true) = (made.first_mut(), lineage.picked_row(said).is_some()) {
                entry.key.clone_into(&mut one.name);
            }
            made
        }
        _ => {
            let frames = sheet.and_then(|sheet| frames_of(notes, sheet, lineage, said));
            one(frames)
        }
    }
}

/// The frames that a clip lists. Those of an animated image have the times that its file gives, unless
/// the clip gives its own.
fn frames_of(
    notes: &mut Notes<'_>,
    sheet: &Sheet,
    lineage: &Lineage<'_, '_>,
    said: Said<'_>,
) -> Option<Vec<Listed>> {
    let count = sheet.frame_count();
    if count == 0 {
        return None;
    }
    let names = Some(&sheet.cut.cutouts);
    let counted = Counted { what: "frames", count, timed: true, all: true, names };
    let mut frames = listed(notes, said.node, &said.path(), counted)?;
    // One frame that is picked is a still.
    let is_still = frames.len() == 1 && said.node.text() != Some("all");
    let times = !is_still && lineage.first_of(&TIMES).is_none_or(|said| said.is_default());
    for frame in frames.iter_mut().filter(|_| times) {
        let time =
            sheet.cut.timing.as_ref().and_then(|timing| timing.times.get(frame.number as usize));
        frame.time = frame.time.or(time.copied());
    }
    Some(frames)
}

/// Reads all but the frames of one clip.
pub(super) struct ClipReader<'r, 'n> {
    pub(super) lineage: &'r Lineage<'r, 'n>,
    entry: &'n Entry,
    made: &'r Made,
    /// All clips that the file makes.
    names: &'r Names,
    pub(super) kinds: &'r Kinds,
}

impl ClipReader<'_, '_> {
    /// The clip as far as it can be read; `None` where its sheet cannot.
    fn read(&self, notes: &mut Notes<'_>, sheet: Option<&Sheet>) -> Option<NewClip> {
        let frames = self.made.frames.as_ref();
        let mut clip = NewClip::of(sheet?.id?);
        for frame in frames.into_iter().flatten() {
            clip = match frame.time {
                Some(time) => clip.hold(frame.number, time),
                None => clip.frames([frame.number]),
            };
        }
        clip = self.times(notes, clip);
        clip = self.mode(notes, clip, sheet?.cut.timing.as_ref());
        clip = self.end(notes, clip);
        if let Some(count) = frames.map(|frames| frames.len() as u32) {
            clip = self.marks(notes, clip, count);
            clip = self.spans(notes, clip, count);
            if let Some(rest) = self.lineage.get("rest") {
                let holds = self.holds(notes, rest.node, &rest.path(), count);
                clip = holds.first().map_or(clip.clone(), |hold| clip.rest(*hold));
            }
        }
        if let Some(stride) = self.lineage.get("stride") {
            let pixels = match &stride.node.value {
                Value::Number(text) => text.parse::<f64>().ok(),
                _ => None,
            };
            match pixels {
                Some(pixels) => clip = clip.stride(pixels),
                None => notes.say_kind(stride.node, &stride.path(), "pixels, such as 24"),
            }
        }
        if let Some(pivot) = self.lineage.get("pivot")
            && let Some(pivot) = read_pivot(notes, pivot.node, &pivot.path())
        {
            clip = clip.pivot(pivot);
        }
        Some(clip)
    }

    fn times(&self, notes: &mut Notes<'_>, clip: NewClip) -> NewClip {
        let Some(said) = self.lineage.first_of(&TIMES) else { return clip };
        if self.all_timed() && !said.own {
            // Said for all, it means the clips that have frames without a time.
            return clip;
        }
        if self.is_still() {
            return clip;
        }
        let (node, path) = (said.node, said.path());
        // Where no time can be read, any will do: what is wrong has been said.
        let any = ExactTime::from(Ticks::from_secs(1));
        match (said.key, node.list()) {
            ("fps", _) => clip.each(frame_time(notes, node, &path).unwrap_or(any)),
            ("total", _) => match duration(notes, node, &path) {
                Some(time) => clip.total(time),
                None => clip.each(any),
            },
            (_, None) => clip.each(duration(notes, node, &path).unwrap_or(any)),
            (_, Some(nodes)) => {
                let times = nodes.iter().map(|node| duration(notes, node, &path));
                let times: Vec<ExactTime> = times.map(|time| time.unwrap_or(any)).collect();
                clip.times(times)
            }
        }
    }

    /// One frame without a time or an end of its own stands: what the defaults say is for clips that move.
    fn is_still(&self) -> bool {
        let own = |key| self.lineage.get(key).filter(|said| !said.is_default());
        let once = own("mode").is_some_and(|said| said.node.text() == Some("once"));
        let repeats = own("repeat").is_some() && !self.lineage.falls_away("repeat");
        let has_time = self.lineage.first_of(&TIMES).is_some_and(|said| said.own);
        let frames = self.made.frames.as_deref().unwrap_or_default();
        matches!(frames, [only] if only.time.is_none()) && !has_time && !once && !repeats
    }

    /// What is said of how it plays, unless it stands.
    fn said(&self, key: &'static str) -> Option<Said<'_>> {
        let said = self.lineage.get(key).filter(|_| !self.lineage.falls_away(key))?;
        (!said.is_default() || !self.is_still()).then_some(said)
    }

    fn all_timed(&self) -> bool {
        self.made.frames.iter().flatten().all(|frame| frame.time.is_some())
    }

    fn mode(&self, notes: &mut Notes<'_>, mut clip: NewClip, timing: Option<&Timing>) -> NewClip {
        // All of an animated image plays as often as its file says, unless the clip says something else.
        let frames = self.lineage.first_of(&FRAMES).and_then(|said| said.node.text());
        let said = |key| self.lineage.get(key).is_some_and(|said| !said.is_default());
        if let (Some(timing), Some("all"), false, false) =
            (timing, frames, said("mode"), said("repeat"))
        {
            return match timing.plays {
                None => clip,
                Some(1) => clip.mode(Mode::Once),
                Some(plays) => clip.repeat(plays),
            };
        }
        if let Some(said) = self.said("mode") {
            let mode_of = |word| MODES.iter().find(|(known, _)| word == Some(*known));
            let found = mode_of(said.node.text());
            match (found, said.node.text()) {
                (Some((_, mode)), _) => clip = clip.mode(*mode),
                (None, text) => {
                    let words = MODES.map(|(word, _)| word);
                    let near = text.and_then(|text| NameError::nearest(text, words));
                    let all = || "use \"loop\", \"ping-pong\" or \"once\"".to_owned();
                    let fix = did_you_mean(text.unwrap_or_default(), words, all);
                    notes.say(&said.node.span, &said.path(), "there is no such mode", fix);
                    // The one that was probably meant; else one with an end, for what builds on that.
                    let meant = mode_of(near);
                    clip = meant.map_or(clip.clone().repeat(1), |(_, mode)| clip.mode(*mode));
                }
            }
        }
        if let Some(said) = self.said("repeat") {
            match said.node.whole() {
                Some(cycles) => clip = clip.repeat(cycles),
                None => {
                    let fix = "a whole number of cycles from 1 up; leave it out forever";
                    notes.say_kind(said.node, &said.path(), fix);
                }
            }
        }
        clip
    }

    fn end(&self, notes: &mut Notes<'_>, clip: NewClip) -> NewClip {
        let Some(said) = self.said("end") else { return clip };
        let path = said.path();
        match (&said.node.value, said.node.text()) {
            (_, Some("stay")) => clip.end(ClipEnd::Stay),
            (_, Some("first")) => clip.end(ClipEnd::First),
            (_, Some("vanish")) => clip.end(ClipEnd::Vanish),
            (Value::Table(_), _) => {
                let fields = notes.fields(said.node, &path, &["play"]);
                match fields.and_then(|fields| fields.get("play")) {
                    Some(play) if play.text().is_some() => {
                        clip.end(ClipEnd::Play(self.clip_to_play(play.text().unwrap_or_default())))
                    }
                    Some(play) => {
                        notes.say_kind(play, &join(&path, "play"), "the name of a clip");
                        clip
                    }
                    None => {
                        let what = "it does not say which clip follows";
                        notes.say(&said.node.span, &path, what, "write { play = \"idle\" }");
                        clip
                    }
                }
            }
            _ => {
                let fix = "use \"stay\", \"first\", \"vanish\" or { play = \"idle\" }";
                notes.say(&said.node.span, &path, "there is no such end", fix);
                clip
            }
        }
    }

    /// A clip made of a row goes on to the clip of the same row, where the name is that of rows.
    fn clip_to_play(&self, name: &str) -> String {
        let of_row = self.made.row.as_ref().map(|row| format!("{name}-{row}"));
        match of_row {
            Some(of_row) if !self.names.has(name) && self.names.has(&of_row) => of_row,
            _ => name.to_owned(),
        }
    }

    /// Where every word of this clip was written.
    fn origin(&self, home: Home) -> Origin {
        let mut origin = Origin::new(home, &self.made.name, self.entry);
        let words = ["sheet", "mode", "repeat", "end", "marks", "spans", "rest", "stride", "pivot"];
        for said in words.iter().filter_map(|word| self.lineage.get(word)) {
            origin.elsewhere.push((said.key, said.elsewhere()));
        }
        if let Some(said) = self.lineage.first_of(&TIMES) {
            // A rate reaches the core as the time of each frame.
            let word = if said.key == "fps" { "each" } else { said.key };
            origin.elsewhere.push((word, said.elsewhere()));
        }
        if let Some(said) = self.lineage.first_of(&FRAMES) {
            let take = self.lineage.get("take").filter(|_| said.key != "frames");
            origin.elsewhere.push(("frames", take.unwrap_or(said).elsewhere()));
            let frames = self.made.frames.iter().flatten();
            let spans = frames.map(|frame| frame.span.clone()).collect();
            origin.items.push((Key::Frames, spans));
        }
        origin
    }
}

/// The time of one frame at a rate, which may have a point.
fn frame_time(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<ExactTime> {
    let Value::Number(text) = &node.value else {
        notes.say_kind(node, key, "frames a second, such as 12 or 23.976");
        return None;
    };
    match parse_rate(text) {
        Ok(time) => Some(time),
        Err(_) => {
            let what = format!("{text} frames a second cannot be played");
            notes.say(&node.span, key, what, "give a plain number above 0, such as 12 or 23.976");
            None
        }
    }
}
