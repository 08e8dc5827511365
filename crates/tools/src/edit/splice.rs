//! Pieces of a text replaced or inserted.

use std::ops::Range;

use lucky_reel_assets::Fault;
use lucky_reel_assets::document::{Entry, Form, Value, WrittenKey, WrittenTimes};

/// A piece of the text, and what stands there instead.
pub(super) struct Splice {
    span: Range<usize>,
    new: String,
}

impl Splice {
    pub(super) fn replace(span: &Range<usize>, new: String) -> Splice {
        Splice { span: span.clone(), new }
    }

    /// A key and its value behind the plain keys of a table, laid out as they are.
    pub(super) fn insert(
        text: &str,
        form: Form,
        entries: &[Entry],
        key: &str,
        value: &str,
    ) -> Result<Splice, Fault> {
        let no_place = || {
            let message = format!("there is no place for `{key}` in the clip");
            Fault::new(message, "write the clip as a table of its own: [clips.NAME]")
        };
        let plain = entries.iter().filter(|entry| is_beside(text, entry));
        let anchor = plain.max_by_key(|entry| entry.node.span.end).ok_or_else(no_place)?;
        let line_start = text[..anchor.key_span.start].rfind('\n').map_or(0, |at| at + 1);
        let before = &text[line_start..anchor.key_span.start];
        let end = anchor.node.span.end;
        let (at, new) = match form {
            Form::Json => {
                // The key's quotes are not part of its span.
                let indent = before.trim_end_matches('"');
                let is_alone = indent.chars().all(char::is_whitespace);
                let crlf = if text[..line_start].ends_with("\r\n") { "\r" } else { "" };
                let gap = if is_alone { format!("{crlf}\n{indent}") } else { " ".to_owned() };
                (end, format!(",{gap}\"{key}\": {value}"))
            }
            Form::Toml if before.contains('{') => (end, format!(", {key} = {value}")),
            Form::Toml => {
                let line_end = text[end..].find('\n').map_or(text.len(), |at| end + at);
                let line_end = line_end - usize::from(text[end..line_end].ends_with('\r'));
                // As the lines before end: the last one may end with the file.
                let crlf = text.find('\n').is_some_and(|at| text[..at].ends_with('\r'));
                let new_line = if crlf { "\r\n" } else { "\n" };
                (line_end, format!("{new_line}{before}{key} = {value}"))
            }
        };
        Ok(Splice { span: at..at, new })
    }

    /// The text with all of these; they must not overlap.
    pub(super) fn apply(text: &str, mut splices: Vec<Splice>) -> String {
        splices.sort_by_key(|splice| splice.span.start);
        let mut out = String::with_capacity(text.len() + 64);
        let mut done = 0;
        for splice in splices {
            out.push_str(&text[done..splice.span.start]);
            out.push_str(&splice.new);
            done = splice.span.end;
        }
        out.push_str(&text[done..]);
        out
    }
}

/// Whether a key stands among the plain keys of its table, and not under a heading of its own.
fn is_beside(text: &str, entry: &Entry) -> bool {
    let written = &text[entry.node.span.clone()];
    !matches!(entry.node.value, Value::Table(_)) || written.starts_with('{')
}

/// The times of a clip's open holds as `each`, where its times are said now, or beside its other keys.
/// Where it has a list already, only one of them changes.
pub(super) fn each(
    text: &str,
    form: Form,
    clip: &WrittenTimes<'_>,
    times: &[String],
    changed: Option<usize>,
) -> Result<Splice, Fault> {
    let list = match times {
        [only] => quoted(only),
        _ => list_text(&times.iter().map(|time| quoted(time)).collect::<Vec<_>>()),
    };
    let Some(WrittenKey { key, key_span, node, is_own: true }) = &clip.shared else {
        return Splice::insert(text, form, clip.own, "each", &list);
    };
    let items = node.list().unwrap_or_default();
    if let (Some(item), Some(time)) =
        (changed.and_then(|nth| items.get(nth)), changed.and_then(|nth| times.get(nth)))
    {
        return Ok(Splice::replace(&item.span, quoted(time)));
    }
    if *key == "each" {
        return Ok(Splice::replace(&node.span, list));
    }
    let set = match form {
        Form::Toml => format!("each = {list}"),
        Form::Json => format!("each\": {list}"),
    };
    Ok(Splice::replace(&(key_span.start..node.span.end), set))
}

pub(super) fn list_text(items: &[String]) -> String {
    format!("[{}]", items.join(", "))
}

/// Numbers, units and names of frames need no escapes.
pub(super) fn quoted(text: &str) -> String {
    format!("\"{text}\"")
}
