//! `[clips.NAME]`: from what is written to what the core builds.

use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;

use lucky_reel_core::{ExactTime, Facing, Mode, NewClip, ReelBuilder};

use super::cuts::read_pivot;
use super::duration;
use super::entries::{Entries, FRAMES, Lineage, Said, TIMES};
use super::facts::{Kinds, value_of};
use super::frames::{Along, Counted, Listed, along, listed};
use super::origins::{Origin, Origins};
use super::sheets::{Sheet, Sheets, Timing};
use crate::document::{Entry, Node, Notes, Value, join};
use crate::pictures::Pictures;

/// A clip that an entry makes: its name, and its row where the entry makes one for each.
struct Made {
    name: String,
    row: Option<String>,
    frames: Option<Vec<Listed>>,
}

/// What clips refer to.
#[derive(Clone, Copy)]
pub(super) struct Given<'g> {
    pub(super) sheets: &'g Sheets,
    pub(super) kinds: &'g Kinds,
}

/// The facing sets that rows have made: by name, the clip of each facing.
pub(super) type SetsByRows = BTreeMap<String, Vec<(Facing, String)>>;

pub(super) fn read(
    builder: &mut ReelBuilder,
    notes: &mut Notes<'_>,
    defaults: Option<&Node>,
    clips: Option<&Node>,
    Given { sheets, kinds }: Given<'_>,
    pictures: &mut Pictures<'_, '_>,
    origins: &mut Origins,
) -> SetsByRows {
    let entries = Entries::read(notes, defaults, clips);
    if entries.len() == 0 && clips.is_none_or(|clips| clips.table().is_some()) {
        let remedy = "add one: [clips.NAME], with `frames` and `fps`";
        notes.say(&(0..0), "clips", "the file makes no clip", remedy);
    }
    let all: Vec<(usize, Vec<Made>)> = (0..entries.len())
        .map(|index| (index, make(notes, &entries, index, sheets, pictures)))
        .collect();
    let names: BTreeSet<&str> =
        all.iter().flat_map(|(_, made)| made).map(|made| &*made.name).collect();
    for (index, made) in &all {
        let entry = entries.entry(*index);
        // What `like` has to say was said when the frames were read.
        let silent = &mut Notes::on(notes.path, notes.text);
        silent.listable = notes.listable;
        let lineage = entries.lineage(silent, *index);
        let sheet = sheet_of(silent, entry, &lineage, sheets);
        for (nth, made) in made.iter().enumerate() {
            let reader = &mut ClipReader { lineage: &lineage, entry, made, names: &names, kinds };
            // Clips of one entry share their words, and so their faults.
            let clip =
                if nth == 0 { reader.read(notes, sheet) } else { reader.read(silent, sheet) };
            let Some(sheet) = sheet.or_else(|| sheets.values().next()) else { continue };
            // A clip at fault is still known by its name, so that others may go on to it.
            let clip = clip.unwrap_or_else(|| NewClip::of(sheet.id).frames([0]).fps(1));
            builder.clip(&made.name, clip);
            reader.tell_origins(origins);
        }
        notes.listable = notes.listable.min(silent.listable);
    }
    let by_rows = all.iter().flat_map(|(index, made)| {
        let set = &entries.entry(*index).key;
        made.iter().filter_map(move |made| {
            let facing = Facing::from_name(made.row.as_deref()?)?;
            Some((set.clone(), (facing, made.name.clone())))
        })
    });
    let mut sets = SetsByRows::new();
    for (set, of_facing) in by_rows {
        sets.entry(set).or_default().push(of_facing);
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
        if let [only] = &sheets.values().collect::<Vec<_>>()[..] {
            return Some(only);
        }
        if !sheets.is_empty() {
            let names: Vec<&str> = sheets.keys().map(String::as_str).collect();
            let remedy = format!("say one of {}: sheet = \"{}\"", names.join(", "), names[0]);
            let key = format!("clips.{}.sheet", entry.key);
            notes.say(
                &entry.key_span,
                &key,
                "it is not said which sheet the frames are of",
                remedy,
            );
        }
        return None;
    };
    let Some(name) = said.node.text() else {
        notes.say_kind(said.node, &said.path(), "the name of a sheet");
        return None;
    };
    let sheet = sheets.get(name);
    if sheet.is_none() {
        let names = sheets.keys().map(String::as_str);
        let remedy = match lucky_reel_core::reel::nearest(name, names.clone()) {
            Some(near) => format!("did you mean `{near}`?"),
            None => format!("the sheets are {}", names.collect::<Vec<_>>().join(", ")),
        };
        notes.say(&said.node.span, &said.path(), format!("there is no sheet `{name}`"), remedy);
    }
    sheet
}

/// The clips of an entry, with their frames.
fn make(
    notes: &mut Notes<'_>,
    entries: &Entries<'_>,
    index: usize,
    sheets: &Sheets,
    pictures: &mut Pictures<'_, '_>,
) -> Vec<Made> {
    let entry = entries.entry(index);
    let lineage = entries.lineage(notes, index);
    let sheet = sheet_of(notes, entry, &lineage, sheets);
    let one = |frames| vec![Made { name: entry.key.clone(), row: None, frames }];
    let Some(said) = lineage.first_of(&FRAMES) else {
        let key = format!("clips.{}.frames", entry.key);
        let remedy = "say them: frames = \"0 to 3\", or row = 0";
        notes.say(&entry.key_span, &key, "it is not said which frames the clip has", remedy);
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
                let remedy = "give a row for each name: rows = { down = 0, up = 1 }";
                notes.say(&said.node.span, &said.path(), "this names no rows", remedy);
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
            let frames = sheet.and_then(|sheet| frames_of(notes, sheet, said));
            one(frames)
        }
    }
}

/// The frames that a clip lists.
fn frames_of(notes: &mut Notes<'_>, sheet: &Sheet, said: Said<'_>) -> Option<Vec<Listed>> {
    let count = sheet.frames.len() as u32;
    match (said.node.text(), &sheet.film) {
        _ if count == 0 => None,
        (Some("film"), Some(film)) => {
            let span = &said.node.span;
            let timed = (0..).zip(&film.times);
            let listed = timed.map(|(number, time)| Listed {
                number,
                time: Some(*time),
                span: span.clone(),
            });
            Some(listed.collect())
        }
        (Some("film"), None) => {
            let what = "the clip's sheet is no film";
            let remedy = "give the sheet one: film = \"spark.gif\", or list frames";
            notes.say(&said.node.span, &said.path(), what, remedy);
            None
        }
        _ => {
            let names = Some(&sheet.regions);
            let counted = Counted { what: "frames", count, timed: true, all: true, names };
            listed(notes, said.node, &said.path(), counted)
        }
    }
}

/// Reads all but the frames of one clip.
struct ClipReader<'r, 'n> {
    lineage: &'r Lineage<'r, 'n>,
    entry: &'n Entry,
    made: &'r Made,
    /// All clips that the file makes.
    names: &'r BTreeSet<&'r str>,
    kinds: &'r Kinds,
}

impl<'n> ClipReader<'_, 'n> {
    fn read(&self, notes: &mut Notes<'_>, sheet: Option<&Sheet>) -> Option<NewClip> {
        let before = notes.problems.len();
        let frames = self.made.frames.as_ref();
        let mut clip = NewClip::of(sheet?.id);
        for frame in frames.into_iter().flatten() {
            clip = match frame.time {
                Some(time) => clip.hold(frame.number, time),
                None => clip.frames([frame.number]),
            };
        }
        clip = self.times(notes, clip);
        clip = self.mode(notes, clip, sheet?.film.as_ref());
        clip = self.end(notes, clip);
        if let Some(count) = frames.map(|frames| frames.len() as u32) {
            clip = self.marks(notes, clip, count);
            clip = self.spans(notes, clip, count);
            if let Some(rest) = self.lineage.get("rest") {
                let holds = self.holds(notes, rest.node, &rest.path(), count);
                clip = holds.first().map_or(clip.clone(), |hold| clip.rest(*hold));
            }
        }
        if let Some(covers) = self.lineage.get("covers") {
            let pixels = match &covers.node.value {
                Value::Number(text) => text.parse::<f64>().ok(),
                _ => None,
            };
            match pixels {
                Some(pixels) => clip = clip.covers(pixels),
                None => notes.say_kind(covers.node, &covers.path(), "pixels, such as 24"),
            }
        }
        if let Some(pivot) = self.lineage.get("pivot")
            && let Some(pivot) = read_pivot(notes, pivot.node, &pivot.path())
        {
            clip = clip.pivot(pivot);
        }
        (notes.problems.len() == before && frames.is_some()).then_some(clip)
    }

    fn times(&self, notes: &mut Notes<'_>, clip: NewClip) -> NewClip {
        let Some(said) = self.lineage.first_of(&TIMES) else { return clip };
        if self.all_timed() && !said.own {
            // Said for all, it means the clips that have frames without a time.
            return clip;
        }
        if clip.len() == 1 && !said.own && !self.has_end() {
            // A still: what is said for all clips that move is not for it.
            return clip;
        }
        let (node, path) = (said.node, said.path());
        match said.key {
            "fps" => match frame_time(notes, node, &path) {
                Some(time) => clip.each(time),
                None => clip,
            },
            "total" => match duration(notes, node, &path) {
                Some(time) => clip.total(time),
                None => clip,
            },
            _ => match node.list() {
                None => match duration(notes, node, &path) {
                    Some(time) => clip.each(time),
                    None => clip,
                },
                Some(nodes) => {
                    let times = nodes.iter().map(|node| duration(notes, node, &path));
                    let times: Vec<Option<ExactTime>> = times.collect();
                    clip.times(times.into_iter().flatten())
                }
            },
        }
    }

    /// Whether it plays once, or so many times.
    fn has_end(&self) -> bool {
        let mode = self.lineage.get("mode").and_then(|said| said.node.text());
        let repeats = self.lineage.get("repeat").is_some() && !self.lineage.falls_away("repeat");
        mode == Some(Mode::Once.name()) || repeats
    }

    fn all_timed(&self) -> bool {
        self.made.frames.iter().flatten().all(|frame| frame.time.is_some())
    }

    fn mode(&self, notes: &mut Notes<'_>, mut clip: NewClip, film: Option<&Timing>) -> NewClip {
        const MODES: [Mode; 3] = [Mode::Loop, Mode::PingPong, Mode::Once];
        // A clip that is a film plays as often as the film, unless it says something else itself.
        let frames = self.lineage.first_of(&FRAMES).and_then(|said| said.node.text());
        let own = |key| self.lineage.get(key).is_some_and(|said| said.own);
        if let (Some(film), Some("film"), false, false) = (film, frames, own("mode"), own("repeat"))
        {
            return match film.plays {
                None => clip,
                Some(1) => clip.mode(Mode::Once),
                Some(plays) => clip.repeat(plays),
            };
        }
        if let Some(said) = self.lineage.get("mode") {
            let found = MODES.iter().find(|mode| said.node.text() == Some(mode.name()));
            match (found, said.node.text()) {
                (Some(mode), _) => clip = clip.mode(*mode),
                (None, text) => {
                    let near = text.and_then(|text| {
                        lucky_reel_core::reel::nearest(text, MODES.map(Mode::name))
                    });
                    let remedy = match near {
                        Some(near) => format!("did you mean `{near}`?"),
                        None => "use \"loop\", \"ping-pong\" or \"once\"".to_owned(),
                    };
                    notes.say(&said.node.span, &said.path(), "there is no such mode", remedy);
                }
            }
        }
        if let Some(said) =
            self.lineage.get("repeat").filter(|_| !self.lineage.falls_away("repeat"))
        {
            match said.node.whole() {
                Some(cycles) => clip = clip.repeat(cycles),
                None => {
                    let remedy = "a whole number of cycles from 1 up; leave it out for ever";
                    notes.say_kind(said.node, &said.path(), remedy);
                }
            }
        }
        clip
    }

    fn end(&self, notes: &mut Notes<'_>, clip: NewClip) -> NewClip {
        let Some(said) = self.lineage.get("end").filter(|_| !self.lineage.falls_away("end")) else {
            return clip;
        };
        let path = said.path();
        match (&said.node.value, said.node.text()) {
            (_, Some("stay")) => clip.then_stay(),
            (_, Some("first")) => clip.then_first(),
            (_, Some("vanish")) => clip.then_vanish(),
            (Value::Table(_), _) => {
                let fields = notes.fields(said.node, &path, &["play"]);
                match fields.and_then(|fields| fields.get("play")) {
                    Some(play) if play.text().is_some() => {
                        clip.then_play(self.clip_to_play(play.text().unwrap_or_default()))
                    }
                    Some(play) => {
                        notes.say_kind(play, &join(&path, "play"), "the name of a clip");
                        clip
                    }
                    None => {
                        let what = "it is not said which clip goes on";
                        notes.say(&said.node.span, &path, what, "write { play = \"idle\" }");
                        clip
                    }
                }
            }
            _ => {
                let remedy = "use \"stay\", \"first\", \"vanish\" or { play = \"idle\" }";
                notes.say(&said.node.span, &path, "there is no such end", remedy);
                clip
            }
        }
    }

    /// A clip made of a row goes on to the clip of the same row, where the name is that of rows.
    fn clip_to_play(&self, name: &str) -> String {
        let of_row = self.made.row.as_ref().map(|row| format!("{name}-{row}"));
        match of_row {
            Some(of_row) if !self.names.contains(name) && self.names.contains(&*of_row) => of_row,
            _ => name.to_owned(),
        }
    }

    fn marks(&self, notes: &mut Notes<'_>, mut clip: NewClip, count: u32) -> NewClip {
        let Some(said) = self.lineage.get("marks") else { return clip };
        let Some(marks) = said.node.table() else {
            notes.say_kind(said.node, &said.path(), "holds by name, such as { step = [1, 3] }");
            return clip;
        };
        for mark in marks {
            let key = join(&said.path(), &mark.key);
            if mark.node.table().is_none() {
                clip = clip.mark(&mark.key, self.holds(notes, &mark.node, &key, count));
                continue;
            }
            let Some(fields) = notes.fields(&mark.node, &key, &["holds", "set"]) else { continue };
            match fields.get("holds") {
                Some(holds) => {
                    let holds = self.holds(notes, holds, &join(&key, "holds"), count);
                    clip = clip.mark(&mark.key, holds);
                }
                None => {
                    let what = "it is not said which holds the mark is on";
                    let remedy = "say them: { holds = [1, 3], set = { foot = \"left\" } }";
                    notes.say(&mark.node.span, &join(&key, "holds"), what, remedy);
                }
            }
            let set = fields.get("set");
            if let Some(set) = set.filter(|set| set.table().is_none()) {
                notes.say_kind(set, &join(&key, "set"), "facts, such as { foot = \"left\" }");
            }
            for fact in set.and_then(Node::table).unwrap_or_default() {
                let path = join(&join(&key, "set"), &fact.key);
                if let Some(value) = value_of(notes, &fact.node, &path, self.kinds.get(&fact.key)) {
                    clip = clip.mark_sets(&mark.key, &fact.key, value);
                }
            }
        }
        clip
    }

    fn spans(&self, notes: &mut Notes<'_>, mut clip: NewClip, count: u32) -> NewClip {
        let Some(said) = self.lineage.get("spans") else { return clip };
        let Some(spans) = said.node.table() else {
            notes.say_kind(said.node, &said.path(), "holds by name, such as { open = \"3 to 5\" }");
            return clip;
        };
        for span in spans {
            let key = join(&said.path(), &span.key);
            let mut holds = self.holds(notes, &span.node, &key, count);
            holds.sort_unstable();
            for stretch in holds.chunk_by(|a, b| *b <= a + 1) {
                clip = clip.span(&span.key, stretch[0]..=stretch[stretch.len() - 1]);
            }
        }
        clip
    }

    /// Holds of this clip, counted from 0.
    fn holds(&self, notes: &mut Notes<'_>, node: &Node, key: &str, count: u32) -> Vec<u32> {
        let counted = Counted { what: "holds", count, timed: false, all: false, names: None };
        let holds = listed(notes, node, key, counted);
        holds.into_iter().flatten().map(|hold| hold.number).collect()
    }

    /// Tells where every word of this clip was written.
    fn tell_origins(&self, origins: &mut Origins) {
        let name = &self.made.name;
        let path = join("clips", &self.entry.key);
        origins.name("clips", name, Origin { span: self.entry.key_span.clone(), key: path });
        let mut tell = |said: Said<'n>, key: &str| {
            origins.key("clips", name, key, said.node, &said.path());
        };
        for key in ["sheet", "mode", "repeat", "end", "marks", "spans", "rest", "covers", "pivot"] {
            if let Some(said) = self.lineage.get(key) {
                tell(said, key);
            }
        }
        if let Some(said) = self.lineage.first_of(&TIMES) {
            // A rate reaches the core as the time of each frame.
            tell(said, if said.key == "fps" { "each" } else { said.key });
        }
        if let Some(said) = self.lineage.first_of(&FRAMES) {
            let take = self.lineage.get("take").filter(|_| said.key != "frames");
            let shown = take.unwrap_or(said);
            let origin = Origin { span: shown.node.span.clone(), key: shown.path() };
            let frames = self.made.frames.iter().flatten();
            let items: Vec<Range<usize>> = frames.map(|frame| frame.span.clone()).collect();
            origins.items("clips", name, "frames", origin, items);
        }
    }
}

/// The time of one frame at a rate, which may have a point.
fn frame_time(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<ExactTime> {
    let Value::Number(text) = &node.value else {
        notes.say_kind(node, key, "frames a second, such as 12 or 23.976");
        return None;
    };
    match ExactTime::from_rate_text(text) {
        Ok(time) => Some(time),
        Err(_) => {
            let what = format!("{text} frames a second can not be played");
            notes.say(&node.span, key, what, "give a plain number above 0, such as 12 or 23.976");
            None
        }
    }
}
