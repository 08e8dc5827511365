//! `NAME.reel.toml` and `NAME.reel.json`: one role, read into a builder.
//!
//! Words and values are read here, and refused with their place; whether they make sense together
//! is the core's to say, and its problems are given a place here.

mod clip_entries;
mod clips;
mod cues;
mod cuts;
mod facings;
mod facts;
mod frames;
mod looks;
mod marks;
mod origins;
mod packed;
mod points_and_areas;
mod shared_values;
mod sheet;
mod sheets;
mod source_file;
mod written_times;

use std::path::{Path, PathBuf};

use lucky_reel_core::problem::{self, Section};
use lucky_reel_core::{ExactTime, NewSheet, ReelBuilder, SheetId};

use crate::document::{self, Entry, Node, Notes, Value};
use crate::fault::Fault;
use crate::index::{Index, path_name};
use crate::pictures::Pictures;
use crate::problem::{LoadError, Problem, ProblemSource};
use crate::problem_text::fault_of;
use crate::time_text::parse_time;
use origins::{Origin, Origins};
pub use source_file::{SheetSource, SourceFile, Sources};
pub use written_times::{WrittenItem, WrittenKey, WrittenTimes};

/// What was read of one file.
pub(crate) struct RoleFile {
    pub(crate) role: String,
    pub(crate) problems: Vec<Problem>,
    warnings: Vec<Problem>,
    sheets: Vec<SheetSource>,
    /// By sheet: which grid fits, where the given one does not.
    advice: Index<String>,
    /// The image of each sheet, by its path in the file.
    pub(crate) images: Vec<(SheetId, String)>,
    path: PathBuf,
    text: String,
    root: Node,
    origins: Origins,
}

impl RoleFile {
    /// A problem of the core with its place in this file.
    pub(crate) fn place(&self, problem: &problem::Problem) -> Option<Problem> {
        let (section, part) = (problem.section, (problem.key.as_ref(), problem.index));
        let (span, key) = self.origins.place((section, problem.nth), part, &self.root)?;
        let Fault { mut message, mut fix } = fault_of(problem);
        if let ("name-twice", [_, first]) = (problem.code(), &*problem.values())
            && let Ok(first) = first.parse()
            && let Some(first) = self.origins.name_span(section, first)
        {
            let line = Problem::in_text(&self.path, &self.text, first, "", "").line();
            message.push_str(&format!(", the first at line {}", line.unwrap_or_default()));
        }
        if problem.code().starts_with("grid")
            && let Some(advice) = self.advice.get(&problem.name)
        {
            fix.push_str("; ");
            fix.push_str(advice);
        }
        let mut placed = Problem::in_text(&self.path, &self.text, span, message, fix);
        placed.key = key;
        Some(placed)
    }

    /// What stays of interest when the file has been read.
    pub(crate) fn into_source(self) -> SourceFile {
        let RoleFile { role, warnings, sheets, path, text, root, origins, .. } = self;
        SourceFile { role, warnings, sheets, path, text, root, origins }
    }
}

/// The role that a file describes: its name up to the first dot.
pub(crate) fn role_of(path: &Path) -> String {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    name.split('.').next().unwrap_or_default().to_owned()
}

/// Refuses files whose name makes no role, or the same role as a file before.
pub(crate) fn check_role<'b>(
    path: &Path,
    mut before: impl Iterator<Item = &'b str>,
) -> Result<(), LoadError> {
    let role = role_of(path);
    let refuse = |what: String, fix: &str| {
        Err(Problem::new(ProblemSource::ReelFile, path, what, fix).into())
    };
    let plain = |c: char| c.is_alphanumeric() || c == '-' || c == '_';
    if !role.starts_with(char::is_alphabetic) || !role.chars().all(plain) {
        let fix = "name the file such as bram.reel.toml, with letters, digits, - and _";
        return refuse(format!("the file name is not a valid role name: `{role}`"), fix);
    }
    if before.any(|other| other == role) {
        let fix = "rename one of them: each role has a name of its own";
        return refuse(format!("two files make the role `{role}`"), fix);
    }
    Ok(())
}

/// Reads the text of one file into a builder.
pub(crate) fn read(
    builder: &mut ReelBuilder,
    path: &Path,
    text: String,
    pictures: &mut Pictures<'_, '_>,
    shared: &mut SharedImages,
) -> Result<RoleFile, LoadError> {
    let mut root = document::read(path, &text)?;
    let role = role_of(path);
    builder.role(&*role);
    let mut notes = Notes::on(path, &text);
    let mut origins = Origins::default();
    let (mut images, mut advice, mut listed) = (Vec::new(), Index::default(), Vec::new());
    gather_misspelt(&mut notes, &mut root);
    notes.keys_twice(&root, "", &|path| NAMED.contains(&path));
    if let Some(fields) = notes.fields(&root, "", &TABLES) {
        check_version(&mut notes, fields.get("reel"));
        let to = &mut To { builder, notes: &mut notes, origins: &mut origins, shared };
        let sheets = sheets::read(to, fields.get("sheets"), pictures);
        images.extend(
            sheets.values().iter().filter_map(|sheet| Some((sheet.id?, sheet.on.image.clone()))),
        );
        for (name, sheet) in sheets.iter() {
            if let Some(said) = &sheet.cut.advice {
                advice.insert(name.clone(), said.clone());
            }
        }
        listed.extend(sheets.iter().filter_map(|(name, sheet)| sheet.source(name)));
        let kinds = facts::read(to, fields.get("facts"));
        let given = clips::Given { sheets: &sheets, kinds: &kinds };
        let by_rows =
            clips::read(to, (fields.get("defaults"), fields.get("clips")), given, pictures);
        facings::read(to, (fields.get("facings"), fields.get("defaults")), by_rows);
        images.extend(looks::read(to, fields.get("looks"), &sheets, pictures));
        cues::read(to, &fields, &kinds);
    }
    let (problems, warnings) = (notes.problems, notes.warnings);
    Ok(RoleFile {
        role,
        problems,
        warnings,
        sheets: listed,
        advice,
        images,
        path: path.to_owned(),
        text,
        root,
        origins,
    })
}

/// What a file is read into.
struct To<'t, 'f> {
    builder: &'t mut ReelBuilder,
    notes: &'t mut Notes<'f>,
    origins: &'t mut Origins,
    shared: &'t mut SharedImages,
}

/// A sheet of each image that sheets have been cut from, by the path under which it is held: other sheets that
/// cut it, of other files too, share it.
pub(crate) type SharedImages = Index<SheetId>;

impl To<'_, '_> {
    /// Adds a sheet of the image that is held under a path.
    fn add_sheet(&mut self, name: &str, new: NewSheet, image: PathBuf) -> SheetId {
        let held = path_name(&image);
        let new = match self.shared.get(&held) {
            Some(other) => new.on_image_of(*other),
            None => new,
        };
        let id = self.builder.sheet(name, new);
        self.shared.insert_new(held, id);
        id
    }

    /// Notes where the next thing of a section is written.
    fn origin(&mut self, section: Section, origin: Origin) {
        self.origins.add(section, section.count(self.builder), origin);
    }

    /// Tells the builder of a thing of which not all could be read since so many problems had been found.
    fn incomplete_since(&mut self, found: usize, section: Section, name: &str) {
        if self.notes.found > found || self.notes.is_full() {
            section.mark_incomplete(self.builder, name);
        }
    }
}

const TABLES: [&str; 10] = [
    "reel", "sheets", "defaults", "clips", "facings", "looks", "facts", "cues", "bridges", "phases",
];
/// Tables whose keys are names.
const NAMED: [&str; 6] = ["sheets", "clips", "facings", "looks", "facts", "phases"];

/// Refuses misspelt tables, and puts what is inside into those that were probably meant, so that it is
/// read all the same.
fn gather_misspelt(notes: &mut Notes<'_>, root: &mut Node) {
    let Value::Table(entries) = &mut root.value else { return };
    let (mut known, unknown): (Vec<Entry>, Vec<Entry>) =
        std::mem::take(entries).into_iter().partition(|entry| TABLES.contains(&&*entry.key));
    for mut entry in unknown {
        let Some(meant) = notes.unknown_key(&entry, "", &TABLES) else { continue };
        match known.iter_mut().find(|known| known.key == meant) {
            None => {
                meant.clone_into(&mut entry.key);
                known.push(entry);
            }
            Some(known) => match (&mut known.node.value, entry.node.value) {
                (Value::Table(into), Value::Table(more)) => merge(into, more),
                (Value::List(into), Value::List(more)) => into.extend(more),
                _ => {}
            },
        }
    }
    *entries = known;
}

/// Adds entries to a table. `[clip.walk]` and `[clips.walk.marks]` are parts of one clip.
fn merge(into: &mut Vec<Entry>, more: Vec<Entry>) {
    for entry in more {
        let known = into.iter_mut().find(|known| known.key == entry.key);
        match (known.map(|known| &mut known.node.value), entry.node.value) {
            (Some(Value::Table(one)), Value::Table(other))
                if other.iter().all(|key| one.iter().all(|known| known.key != key.key)) =>
            {
                one.extend(other);
            }
            (_, value) => into.push(Entry { node: Node { value, ..entry.node }, ..entry }),
        }
    }
}

fn check_version(notes: &mut Notes<'_>, version: Option<&Node>) {
    match version {
        None => {
            let fix = "write `reel = 1` into the first line";
            notes.say(&(0..0), "reel", "the version of the format is not said", fix);
        }
        Some(node) if node.whole() == Some(1) => {}
        Some(node) => {
            let what = "this version of the format is not known";
            notes.say(&node.span, "reel", what, "this library reads `reel = 1`");
        }
    }
}

/// A duration, with its unit.
fn duration(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<ExactTime> {
    let Value::Text(text) = &node.value else {
        notes.say_kind(node, key, "a duration with its unit, such as \"120ms\" or \"1/12s\"");
        return None;
    };
    match parse_time(text) {
        Ok(time) => Some(time),
        Err(error) => {
            let what = format!("`{text}` is not a duration");
            notes.say(&node.span, key, what, error.to_string());
            None
        }
    }
}
