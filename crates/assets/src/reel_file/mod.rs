//! `NAME.reel.toml` and `NAME.reel.json`: one role, read into a builder.
//!
//! Words and values are read here, and refused with their place; whether they make sense together
//! is the core's to say, and its faults are given a place here.

mod clips;
mod cues;
mod cuts;
mod entries;
mod facings;
mod facts;
mod frames;
mod looks;
mod origins;
mod packed;
mod parts;
mod sheets;
mod sources;

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use lucky_reel_core::{ExactTime, Fault, ReelBuilder, SheetId};

use crate::document::{self, Node, Notes, Value};
use crate::pictures::Pictures;
use crate::problem::{LoadError, Problem, Responsible};
use origins::Origins;
pub use sources::{SourceFile, Sources};

/// What was read of one file.
pub(crate) struct RoleFile {
    pub(crate) role: String,
    pub(crate) problems: Vec<Problem>,
    /// The image of each sheet, by its path in the file.
    pub(crate) images: Vec<(SheetId, String)>,
    path: PathBuf,
    text: String,
    origins: Origins,
}

impl RoleFile {
    /// A fault of the core with its place in this file; `None` where something is wrong already with
    /// the same entry, or with one that it builds upon, so that the fault may just follow from that.
    pub(crate) fn place(&self, fault: &Fault) -> Option<Problem> {
        let table =
            |problem: &Problem| problem.key.split('.').next().unwrap_or_default().to_owned();
        let broken: BTreeSet<String> = self.problems.iter().map(table).collect();
        if builds_upon(fault).iter().any(|table| broken.contains(*table)) {
            return None;
        }
        let origin = self.origins.find(fault)?;
        let (what, remedy) = (fault.problem(), fault.remedy());
        let mut problem = Problem::in_text(&self.path, &self.text, origin.span, what, remedy);
        problem.key = origin.key;
        let entry = |key: &str| key.splitn(3, '.').take(2).map(str::to_owned).collect::<Vec<_>>();
        let at_fault = |known: &Problem| entry(&known.key) == entry(&problem.key);
        (!self.problems.iter().any(at_fault)).then_some(problem)
    }
}

impl RoleFile {
    /// What stays of interest when the file has been read.
    pub(crate) fn into_source(self) -> SourceFile {
        SourceFile { role: self.role, path: self.path, text: self.text, origins: self.origins }
    }
}

/// The tables whose entries a fault would also come from, if they could not be read.
fn builds_upon(fault: &Fault) -> &'static [&'static str] {
    const CLIPS: &[&str] = &["sheets", "defaults", "clips"];
    match (fault.table(), fault.key()) {
        ("facings" | "looks" | "phases", _) => CLIPS,
        ("cues" | "bridges", "play.facings") => &["sheets", "defaults", "clips", "facings"],
        ("cues", "finish" | "begin.hold" | "speed.ground" | "when.inside") => CLIPS,
        ("cues" | "bridges", "play") => CLIPS,
        ("cues", "when" | "begin.from") | ("bridges", _) => &["cues"],
        ("cues", _) => &["facts"],
        ("clips", key) if key.starts_with("marks.") => &["facts"],
        _ => &[],
    }
}

/// The role that a file describes: its name up to the first dot.
fn role_of(path: &Path) -> String {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    name.split('.').next().unwrap_or_default().to_owned()
}

/// Refuses files whose name makes no role, or the same role as a file before.
pub(crate) fn check_role<'b>(
    path: &Path,
    mut before: impl Iterator<Item = &'b str>,
) -> Result<(), LoadError> {
    let role = role_of(path);
    let refuse = |what: String, remedy: &str| {
        Err(Problem::new(Responsible::ReelFile, path, what, remedy).into())
    };
    let plain = |c: char| c.is_alphanumeric() || c == '-' || c == '_';
    if !role.starts_with(char::is_alphabetic) || !role.chars().all(plain) {
        let remedy = "name the file such as bram.reel.toml, with letters, digits, - and _";
        return refuse(format!("the file's name makes no name of a role: `{role}`"), remedy);
    }
    if before.any(|other| other == role) {
        let remedy = "rename one of them: each role has a name of its own";
        return refuse(format!("two files make the role `{role}`"), remedy);
    }
    Ok(())
}

/// Reads the text of one file into a builder.
pub(crate) fn read(
    builder: &mut ReelBuilder,
    path: &Path,
    text: String,
    pictures: &mut Pictures<'_, '_>,
) -> Result<RoleFile, LoadError> {
    let root = document::read(path, &text)?;
    let role = role_of(path);
    builder.role(&*role);
    let mut notes = Notes::on(path, &text);
    let mut origins = Origins::default();
    let mut images = Vec::new();
    const TABLES: [&str; 10] = [
        "reel", "sheets", "defaults", "clips", "facings", "looks", "facts", "cues", "bridges",
        "phases",
    ];
    if let Some(fields) = notes.fields(&root, "", &TABLES) {
        check_version(&mut notes, fields.get("reel"));
        let sheets =
            sheets::read(builder, &mut notes, fields.get("sheets"), pictures, &mut origins);
        images.extend(sheets.values().map(|sheet| (sheet.id, sheet.image.clone())));
        let (defaults, clips) = (fields.get("defaults"), fields.get("clips"));
        let kinds = facts::read(builder, &mut notes, fields.get("facts"), &mut origins);
        let given = clips::Given { sheets: &sheets, kinds: &kinds };
        let by_rows =
            clips::read(builder, &mut notes, defaults, clips, given, pictures, &mut origins);
        facings::read(builder, &mut notes, fields.get("facings"), by_rows, &mut origins);
        let looks = looks::read(
            builder,
            &mut notes,
            (fields.get("looks"), fields.get("sheets")),
            &sheets,
            pictures,
            &mut origins,
        );
        images.extend(looks);
        cues::read(builder, &mut notes, fields, &kinds, &mut origins);
    }
    let problems = notes.problems;
    Ok(RoleFile { role, problems, images, path: path.to_owned(), text, origins })
}

fn check_version(notes: &mut Notes<'_>, version: Option<&Node>) {
    match version {
        None => {
            let remedy = "write `reel = 1` into the first line";
            notes.say(&(0..0), "reel", "the version of the format is not said", remedy);
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
    match text.parse() {
        Ok(time) => Some(time),
        Err(error) => {
            let what = format!("`{text}` is no duration");
            notes.say(&node.span, key, what, error.to_string());
            None
        }
    }
}
