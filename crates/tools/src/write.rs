//! Documents as text, in the order of their entries.

use lucky_reel_assets::document::{Entry, Form, Node, Value, join};

/// Writes a document; `None` when it holds a value that the form has none for.
pub(crate) fn write(root: &Node, form: Form) -> Option<String> {
    match form {
        Form::Toml => toml(root),
        Form::Json => json(root),
    }
}

/// JSON, two spaces a level; short lists and tables on one line.
fn json(root: &Node) -> Option<String> {
    let mut out = String::new();
    json_value(&mut out, root, 0)?;
    out.push('\n');
    Some(out)
}

/// What fits on one line with its key.
const SHORT: usize = 90;

fn json_value(out: &mut String, node: &Node, depth: usize) -> Option<()> {
    let mut line = String::new();
    inline(&mut line, node, &JSON)?;
    // The document and its tables of tables are spread out, a clip to a line and more.
    let (items, [open, close]) = match &node.value {
        Value::Table(entries) if !entries.is_empty() && (depth < 2 || line.len() > SHORT) => {
            let items = entries.iter().map(|entry| (Some(&entry.key), &entry.node));
            (items.collect::<Vec<_>>(), ['{', '}'])
        }
        Value::List(nodes) if !nodes.is_empty() && line.len() > SHORT => {
            (nodes.iter().map(|node| (None, node)).collect(), ['[', ']'])
        }
        _ => {
            out.push_str(&line);
            return Some(());
        }
    };
    let pad = |out: &mut String, depth: usize| {
        out.push('\n');
        out.push_str(&"  ".repeat(depth));
    };
    out.push(open);
    for (nth, (key, node)) in items.into_iter().enumerate() {
        if nth > 0 {
            out.push(',');
        }
        pad(out, depth + 1);
        if let Some(key) = key {
            out.push_str(&quoted(key));
            out.push_str(": ");
        }
        json_value(out, node, depth + 1)?;
    }
    pad(out, depth);
    out.push(close);
    Some(())
}

/// TOML: plain values first, then a table for each entry that is one, then for each entry of tables
/// alone; what lies deeper stands on one line.
fn toml(root: &Node) -> Option<String> {
    let entries = root.table()?;
    let mut out = String::new();
    let is_table =
        |entry: &&Entry| entry.node.table().is_some() || tables_of(&entry.node).is_some();
    for entry in entries.iter().filter(|entry| !is_table(entry)) {
        toml_line(&mut out, entry)?;
    }
    for entry in entries.iter().filter(is_table) {
        let name = toml_key(&entry.key);
        let Some(fields) = entry.node.table() else {
            for table in tables_of(&entry.node)? {
                toml_table(&mut out, &format!("[[{name}]]"), table.table()?)?;
            }
            continue;
        };
        let all_tables = |entry: &Entry| entry.node.table().is_some();
        if fields.is_empty() || !fields.iter().all(all_tables) {
            toml_table(&mut out, &format!("[{name}]"), fields)?;
            continue;
        }
        for inner in fields {
            let name = join(&name, &toml_key(&inner.key));
            toml_table(&mut out, &format!("[{name}]"), inner.node.table()?)?;
        }
    }
    Some(out)
}

/// The tables of a list of nothing else.
fn tables_of(node: &Node) -> Option<&[Node]> {
    let all_tables = |nodes: &&[Node]| nodes.iter().all(|node| node.table().is_some());
    node.list().filter(|nodes| !nodes.is_empty()).filter(all_tables)
}

fn toml_table(out: &mut String, heading: &str, entries: &[Entry]) -> Option<()> {
    let gap = if out.is_empty() { "" } else { "\n" };
    out.push_str(&format!("{gap}{heading}\n"));
    entries.iter().try_for_each(|entry| toml_line(out, entry))
}

fn toml_line(out: &mut String, entry: &Entry) -> Option<()> {
    out.push_str(&toml_key(&entry.key));
    out.push_str(" = ");
    inline(out, &entry.node, &TOML)?;
    out.push('\n');
    Some(())
}

fn toml_key(key: &str) -> String {
    let bare = |c: char| c.is_ascii_alphanumeric() || c == '-' || c == '_';
    if !key.is_empty() && key.chars().all(bare) { key.to_owned() } else { quoted(key) }
}

/// How values stand on one line.
struct Style {
    key: fn(&str) -> String,
    sets: &'static str,
    braces: [&'static str; 2],
    numbers: fn(&str) -> bool,
}

const JSON: Style = Style { key: quoted, sets: ": ", braces: ["{", "}"], numbers: is_json_number };
const TOML: Style = Style { key: toml_key, sets: " = ", braces: ["{ ", " }"], numbers: |_| true };

fn inline(out: &mut String, node: &Node, style: &Style) -> Option<()> {
    match &node.value {
        Value::Bool(value) => out.push_str(if *value { "true" } else { "false" }),
        Value::Number(text) => {
            let text = text.trim_start_matches('+');
            if !(style.numbers)(text) {
                return None;
            }
            out.push_str(text);
        }
        Value::Text(text) => out.push_str(&quoted(text)),
        Value::List(nodes) => {
            out.push('[');
            for (nth, node) in nodes.iter().enumerate() {
                out.push_str(if nth == 0 { "" } else { ", " });
                inline(out, node, style)?;
            }
            out.push(']');
        }
        Value::Table(entries) if entries.is_empty() => out.push_str("{}"),
        Value::Table(entries) => {
            out.push_str(style.braces[0]);
            for (nth, entry) in entries.iter().enumerate() {
                out.push_str(if nth == 0 { "" } else { ", " });
                out.push_str(&(style.key)(&entry.key));
                out.push_str(style.sets);
                inline(out, &entry.node, style)?;
            }
            out.push_str(style.braces[1]);
        }
        Value::Other(_) => return None,
    }
    Some(())
}

/// TOML has numbers that JSON has not: infinities, and not a number.
fn is_json_number(text: &str) -> bool {
    serde_json::from_str::<serde_json::Number>(text).is_ok()
}

/// A text in quotes, as both forms read it.
fn quoted(text: &str) -> String {
    let quoted = serde_json::Value::from(text).to_string();
    quoted.replace('\u{7f}', "\\u007f")
}

#[cfg(test)]
mod tests {
    use super::*;
    use lucky_reel_assets::document::parse;
    use proptest::prelude::*;

    /// Without the places.
    fn plain(node: &Node) -> String {
        match &node.value {
            Value::List(nodes) => format!("{:?}", nodes.iter().map(plain).collect::<Vec<_>>()),
            Value::Table(entries) => {
                let mut entries: Vec<_> =
                    entries.iter().map(|entry| (entry.key.clone(), plain(&entry.node))).collect();
                entries.sort();
                format!("{entries:?}")
            }
            other => format!("{other:?}"),
        }
    }

    fn values() -> impl Strategy<Value = Value> {
        let leaf = prop_oneof![
            any::<bool>().prop_map(Value::Bool),
            prop_oneof![
                any::<i64>().prop_map(|number| number.to_string()),
                "-?(0|[1-9][0-9]{0,3})\\.[0-9]{1,20}(e-?[1-9])?",
            ]
            .prop_map(Value::Number),
            any::<String>().prop_map(Value::Text),
        ];
        let node = |value| Node { span: 0..0, value };
        leaf.prop_recursive(4, 40, 5, move |inner| {
            prop_oneof![
                prop::collection::vec(inner.clone(), 0..5)
                    .prop_map(move |list| Value::List(list.into_iter().map(node).collect())),
                prop::collection::btree_map(
                    prop_oneof!["[a-z-]{1,6}", any::<String>()],
                    inner,
                    0..5
                )
                .prop_map(move |table| {
                    let entries = table.into_iter().map(|(key, value)| Entry {
                        key_span: 0..0,
                        key,
                        node: node(value),
                    });
                    Value::Table(entries.collect())
                }),
            ]
        })
    }

    proptest! {
        /// Whatever a document says, it says in both forms, and after any number of conversions.
        #[test]
        fn both_forms_say_the_same(values in prop::collection::btree_map("[a-z]{1,5}", values(), 0..5)) {
            let entries = values.into_iter().map(|(key, value)| Entry {
                key_span: 0..0, key, node: Node { span: 0..0, value },
            });
            let root = Node { span: 0..0, value: Value::Table(entries.collect()) };
            let toml = write(&root, Form::Toml).unwrap();
            let json = write(&root, Form::Json).unwrap();
            for (text, form) in [(&toml, Form::Toml), (&json, Form::Json)] {
                let read = parse(text, form).unwrap_or_else(|faults| panic!("{faults:?} in\n{text}"));
                prop_assert_eq!(plain(&read), plain(&root), "{}", text);
            }
        }
    }

    #[test]
    fn json_is_read_by_the_book() {
        for bad in ["", "{a: 1}", "{\"a\": 1,}", "[1 2]", "// no\n{}", "{\"a\": +1}"] {
            assert!(parse(bad, Form::Json).is_err(), "{bad}");
        }
        let deep = "[".repeat(100_000);
        assert!(
            parse(&deep, Form::Json).is_err() && parse(&format!("a = {deep}"), Form::Toml).is_err()
        );
        let infinite = parse("a = inf", Form::Toml).unwrap();
        assert_eq!(write(&infinite, Form::Json), None);
    }
}
