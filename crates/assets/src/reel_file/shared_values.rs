//! Small values that several tables share.

use lucky_reel_core::{Align, Facing};

use crate::document::{Node, Notes};
use crate::suggestion::did_you_mean;

/// A text, or a list of texts.
pub(super) fn texts<'n>(
    notes: &mut Notes<'_>,
    node: &'n Node,
    path: &str,
    wanted: &str,
) -> Option<Vec<&'n str>> {
    let one = std::slice::from_ref(node);
    let texts: Option<Vec<&str>> = node.list().unwrap_or(one).iter().map(Node::text).collect();
    if texts.is_none() {
        notes.say_kind(node, path, wanted);
    }
    texts
}

/// `true` or `false`.
pub(super) fn flag(notes: &mut Notes<'_>, node: &Node, path: &str) -> Option<bool> {
    match node.value {
        crate::document::Value::Bool(value) => Some(value),
        _ => {
            notes.say_kind(node, path, "true or false");
            None
        }
    }
}

/// A facing by its name.
pub(super) fn facing(notes: &mut Notes<'_>, node: &Node, path: &str, name: &str) -> Option<Facing> {
    let facing = Facing::from_name(name);
    if facing.is_none() {
        let names = Facing::ALL.map(Facing::name);
        let all = || format!("the facings are {}", names.join(", "));
        let fix = did_you_mean(name, names, all);
        notes.say(&node.span, path, format!("there is no facing `{name}`"), fix);
    }
    facing
}

/// What is kept when one clip takes another's place.
pub(super) fn align(notes: &mut Notes<'_>, node: &Node, path: &str) -> Option<Align> {
    let found = match node.text() {
        Some("time") => Some(Align::Time),
        Some("hold") => Some(Align::Hold),
        Some("start") => Some(Align::Start),
        _ => None,
    };
    if found.is_none() {
        let fix = "use \"time\", \"hold\" or \"start\"";
        notes.say(&node.span, path, "there is no such way to keep the place", fix);
    }
    found
}
