//! `[[cues]]`, `[[bridges]]` and `[phases.NAME]`: which clip plays when.

use std::ops::{Bound, Range};

use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{Condition, Facing, FactValue, NewBridge, NewCue};

use super::To;
use super::facts::{Kinds, value_of};
use super::origins::{Home, Origin};
use super::shared_values::{align, facing, flag, texts};
use crate::document::{Fields, Node, Notes, Value, join};

const CUE: [&str; 8] =
    ["name", "when", "play", "keep_facing", "finish", "restart", "start_at", "speed"];
const BRIDGE: [&str; 5] = ["name", "from", "to", "play", "keep_facing"];

pub(super) fn read(to: &mut To<'_, '_>, fields: &Fields<'_>, kinds: &Kinds) {
    for (section, table, known) in
        [(Section::Cues, "cues", &CUE[..]), (Section::Bridges, "bridges", &BRIDGE[..])]
    {
        let Some(list) = fields.get(table) else { continue };
        let Some(nodes) = list.list() else {
            to.notes.say_kind(list, table, &format!("a list of tables: [[{table}]]"));
            continue;
        };
        for (nth, node) in nodes.iter().enumerate() {
            let before = to.notes.found;
            let Some(fields) = to.notes.fields(node, table, known) else { continue };
            let (name, span) = match fields.get("name").and_then(|at| Some((at.text()?, at))) {
                Some((name, at)) => (name, at.span.clone()),
                None => {
                    let first = fields.iter().next().map(|(_, entry)| &entry.key_span);
                    let span = first.unwrap_or(&node.span).clone();
                    let fix = "give it one: name = \"resting\"";
                    to.notes.say(&span, &join(table, "name"), "it has no name", fix);
                    ("", span)
                }
            };
            let path = join(table, name);
            let mut origin = Origin::named(Home { table, entry: nth }, name, path.clone(), span);
            if section == Section::Cues {
                origin.items = start_spans(&fields);
                let cue = read_cue(to.notes, &fields, &path, kinds);
                to.origin(section, origin);
                if let Some(cue) = cue.filter(|_| !name.is_empty()) {
                    to.builder.cue(name, cue);
                }
            } else {
                let bridge = read_bridge(to.notes, &fields, &path);
                to.origin(section, origin);
                if let Some(bridge) = bridge.filter(|_| !name.is_empty()) {
                    to.builder.bridge(name, bridge);
                }
            }
            to.incomplete_since(before, section, name);
        }
    }
    if let Some(phases) = fields.get("phases") {
        read_phases(to, phases);
    }
}

/// What plays: a clip, or a facing set.
enum Plays<'n> {
    Clip(&'n str),
    Facings(&'n str),
}

fn read_play<'n>(notes: &mut Notes<'_>, fields: &Fields<'n>, path: &str) -> Option<Plays<'n>> {
    let key = join(path, "play");
    let Some(node) = fields.get("play") else {
        let span = fields.iter().next().map_or(0..0, |(_, entry)| entry.key_span.clone());
        let fix = "name a clip, play = \"idle\", or a set, play = { facings = \"walk\" }";
        notes.say(&span, &key, "it does not say what to play", fix);
        return None;
    };
    match (&node.value, node.text()) {
        (_, Some(clip)) => Some(Plays::Clip(clip)),
        (Value::Table(_), _) => {
            let fields = notes.fields(node, &key, &["facings"])?;
            match fields.get("facings").map(|set| (set, set.text())) {
                Some((_, Some(set))) => Some(Plays::Facings(set)),
                Some((set, None)) => {
                    notes.say_kind(set, &join(&key, "facings"), "the name of a facing set");
                    None
                }
                None => {
                    notes.say(&node.span, &key, "it names no set", "write { facings = \"walk\" }");
                    None
                }
            }
        }
        _ => {
            notes.say_kind(node, &key, "the name of a clip, or { facings = \"walk\" }");
            None
        }
    }
}

fn read_cue(
    notes: &mut Notes<'_>,
    fields: &Fields<'_>,
    path: &str,
    kinds: &Kinds,
) -> Option<NewCue> {
    let mut cue = match read_play(notes, fields, path)? {
        Plays::Clip(clip) => NewCue::play(clip),
        Plays::Facings(set) => NewCue::play_facings(set),
    };
    if let Some(when) = fields.get("when") {
        let one = std::slice::from_ref(when);
        for node in when.list().unwrap_or(one) {
            if let Some(when) = read_when(notes, node, &join(path, "when"), kinds) {
                cue = cue.when(when);
            }
        }
    }
    let mut is_set = |key: &str| {
        fields.get(key).and_then(|node| flag(notes, node, &join(path, key))) == Some(true)
    };
    if is_set("finish") {
        cue = cue.finish();
    }
    if is_set("restart") {
        cue = cue.restart();
    }
    if is_set("keep_facing") {
        cue = cue.keep_facing();
    }
    if let Some(start) = fields.get("start_at") {
        let one = std::slice::from_ref(start);
        for node in start.list().unwrap_or(one) {
            cue = read_start(notes, node, &join(path, "start_at"), cue);
        }
    }
    if let Some(speed) = fields.get("speed") {
        let path = join(path, "speed");
        let fields = notes.fields(speed, &path, &["fact", "distance"]);
        let name = |key: &str| fields.as_ref()?.get(key)?.text();
        cue = match (name("fact"), name("distance")) {
            (Some(fact), None) => cue.speed_from(fact),
            (None, Some(fact)) => cue.distance_from(fact),
            _ if fields.is_none() => cue,
            _ => {
                let fix =
                    "write { fact = \"pace\" }, or { distance = \"pace\" } for pixels a second";
                notes.say(&speed.span, &path, "it does not say which fact sets the speed", fix);
                cue
            }
        };
    }
    Some(cue)
}

/// `{ from = "falling", hold = 2 }`
fn read_start(notes: &mut Notes<'_>, node: &Node, path: &str, mut cue: NewCue) -> NewCue {
    let Some(fields) = notes.fields(node, path, &["from", "hold"]) else { return cue };
    let hold = fields.get("hold").and_then(Node::whole);
    let (Some(from), Some(hold)) = (fields.get("from"), hold) else {
        let fix = "write { from = \"falling\", hold = 2 }";
        notes.say(&node.span, path, "it does not say after which cue it starts at which hold", fix);
        return cue;
    };
    for name in texts(notes, from, &join(path, "from"), "the names of cues").unwrap_or_default() {
        cue = cue.start_at(name, hold);
    }
    cue
}

/// Where the cues and the holds of `start_at` stand, one by one as the core counts them.
fn start_spans(fields: &Fields<'_>) -> Vec<(Key, Vec<Range<usize>>)> {
    let (mut cues, mut holds) = (Vec::new(), Vec::new());
    let starts = fields.get("start_at").into_iter();
    for node in starts.flat_map(|node| node.list().unwrap_or(std::slice::from_ref(node))) {
        let inner = |key: &str| {
            node.table()?.iter().find(|entry| entry.key == key).map(|entry| &entry.node)
        };
        let (Some(from), Some(hold)) = (inner("from"), inner("hold")) else { continue };
        for cue in from.list().unwrap_or(std::slice::from_ref(from)) {
            cues.push(cue.span.clone());
            holds.push(hold.span.clone());
        }
    }
    vec![(Key::StartAtFrom, cues), (Key::StartAtHold, holds)]
}

/// One table: all of it.
fn read_when(notes: &mut Notes<'_>, node: &Node, path: &str, kinds: &Kinds) -> Option<Condition> {
    let Some(entries) = node.table() else {
        notes.say_kind(node, path, "conditions, such as { moving = true, lift = \"> 0\" }");
        return None;
    };
    let mut condition = Condition::new();
    for entry in entries {
        let path = join(path, &entry.key);
        match &*entry.key {
            "inside" => match entry.node.text() {
                Some(span) => condition = condition.inside(span),
                None => notes.say_kind(&entry.node, &path, "the name of a span"),
            },
            "facing" => {
                let names = texts(notes, &entry.node, &path, "facings").unwrap_or_default();
                let facings: Option<Vec<Facing>> =
                    names.into_iter().map(|name| facing(notes, &entry.node, &path, name)).collect();
                if let Some(facings) = facings {
                    condition = condition.facing(facings);
                }
            }
            fact => {
                let kind = kinds.get(fact);
                condition = read_test(notes, condition, &entry.node, &path, fact, kind);
            }
        }
    }
    Some(condition)
}

/// The condition with one more part: a value, a comparison, a range, or a list of values. As it was, where
/// that is refused.
fn read_test(
    notes: &mut Notes<'_>,
    condition: Condition,
    node: &Node,
    path: &str,
    fact: &str,
    kind: Option<&FactValue>,
) -> Condition {
    let nodes = node.list().unwrap_or(std::slice::from_ref(node));
    let Some(text) = node.text() else {
        let values: Option<Vec<FactValue>> =
            nodes.iter().map(|node| value_of(notes, node, path, kind)).collect();
        return match values {
            Some(values) => condition.any_of(fact, values),
            None => condition,
        };
    };
    if let Some(word) =
        text.strip_prefix("!= ").filter(|_| matches!(kind, Some(FactValue::Choice(_))))
    {
        return condition.none_of(fact, [word.trim()]);
    }
    if !matches!(kind, Some(FactValue::Whole(_) | FactValue::Number(_))) {
        return condition.fact(fact, text);
    }
    match comparison(text) {
        Some(Compared::Within(from, to)) => condition.within(fact, (from, to)),
        Some(Compared::Not(number)) => {
            let whole = number as i32;
            let is_whole = matches!(kind, Some(FactValue::Whole(_)));
            let value = if is_whole && f64::from(whole) == number {
                FactValue::Whole(whole)
            } else {
                FactValue::Number(number as f32)
            };
            condition.none_of(fact, [value])
        }
        None => {
            let what = format!("`{text}` compares with no number");
            let fix = "write such as \"> 0\", \"<= 2\", \"!= 1\" or \"-2 to 3\"";
            notes.say(&node.span, path, what, fix);
            condition
        }
    }
}

enum Compared {
    Within(Bound<f64>, Bound<f64>),
    Not(f64),
}

/// `> 0`, `<= 2`, `!= 1` or `-2 to 3`.
fn comparison(text: &str) -> Option<Compared> {
    use Bound::{Excluded, Included, Unbounded};
    let number = |text: &str| text.trim().parse::<f64>().ok().filter(|number| number.is_finite());
    let text = text.trim();
    if let Some((from, to)) = text.split_once(" to ") {
        return Some(Compared::Within(Included(number(from)?), Included(number(to)?)));
    }
    let within = |from, to| Some(Compared::Within(from, to));
    if let Some(rest) = text.strip_prefix(">=") {
        within(Included(number(rest)?), Unbounded)
    } else if let Some(rest) = text.strip_prefix("<=") {
        within(Unbounded, Included(number(rest)?))
    } else if let Some(rest) = text.strip_prefix("!=") {
        Some(Compared::Not(number(rest)?))
    } else if let Some(rest) = text.strip_prefix('>') {
        within(Excluded(number(rest)?), Unbounded)
    } else if let Some(rest) = text.strip_prefix('<') {
        within(Unbounded, Excluded(number(rest)?))
    } else {
        let rest = text.strip_prefix('=').unwrap_or(text);
        within(Included(number(rest)?), Included(number(rest)?))
    }
}

fn read_bridge(notes: &mut Notes<'_>, fields: &Fields<'_>, path: &str) -> Option<NewBridge> {
    let bridge = match read_play(notes, fields, path)? {
        Plays::Clip(clip) => NewBridge::play(clip),
        Plays::Facings(set) => NewBridge::play_facings(set),
    };
    let mut cues = |key: &str| match fields.get(key) {
        Some(node) => texts(notes, node, &join(path, key), "the names of cues").unwrap_or_default(),
        None => Vec::new(),
    };
    let bridge = bridge.between(cues("from"), cues("to"));
    let keeps = fields.get("keep_facing");
    let keeps = keeps.and_then(|node| flag(notes, node, &join(path, "keep_facing")));
    Some(if keeps == Some(true) { bridge.keep_facing() } else { bridge })
}

fn read_phases(to: &mut To<'_, '_>, phases: &Node) {
    let Some(entries) = phases.table() else {
        to.notes.say_kind(phases, "phases", "tables, such as [phases.legs]");
        return;
    };
    for (nth, entry) in entries.iter().enumerate() {
        let (path, before) = (join("phases", &entry.key), to.notes.found);
        let Some(fields) = to.notes.fields(&entry.node, &path, &["clips", "align"]) else {
            continue;
        };
        let Some(clips) = fields.get("clips") else {
            let fix = "name them: clips = [\"walk-*\", \"run-*\"]";
            to.notes.say(&entry.key_span, &path, "it does not say which clips stay in phase", fix);
            continue;
        };
        let clips = texts(to.notes, clips, &join(&path, "clips"), "the names of clips");
        let kept = fields.get("align");
        let kept = kept.and_then(|node| align(to.notes, node, &join(&path, "align")));
        let home = Home { table: "phases", entry: nth };
        to.origin(Section::Phases, Origin::new(home, &entry.key, entry));
        to.builder.phases(&entry.key, clips.unwrap_or_default(), kept.unwrap_or_default());
        to.incomplete_since(before, Section::Phases, &entry.key);
    }
}
