use std::collections::BTreeSet;
use std::ops::Range;

use jsonc_parser::ast;
use jsonc_parser::common::Ranged;
use jsonc_parser::{CollectOptions, ParseOptions};

use super::{Entry, Node, SyntaxFaults, Value};

/// The parser that knows where values stand allows more than JSON does; what is no JSON by the book, or
/// too deep, is refused before.
pub(super) fn parse(text: &str) -> Result<Node, SyntaxFaults> {
    if let Err(error) = serde_json::from_str::<serde_json::Value>(text) {
        let message = error.to_string();
        // The place is told beside the message already.
        let message = message.split(" at line ").next().unwrap_or_default().to_owned();
        return Err(vec![(span_of(text, error.line(), error.column()), message)]);
    }
    let parsed =
        jsonc_parser::parse_to_ast(text, &CollectOptions::default(), &ParseOptions::default());
    let parsed = parsed.map_err(|error| {
        let range = error.range();
        vec![(range.start..range.end, error.kind().to_string())]
    })?;
    let mut faults = Vec::new();
    match parsed.value {
        Some(value) => {
            let root = node_of(value, &mut faults);
            if faults.is_empty() { Ok(root) } else { Err(faults) }
        }
        None => Err(vec![(0..0, "the text is empty".to_owned())]),
    }
}

/// The byte at a line and a column, both from 1, the column in bytes.
fn span_of(text: &str, line: usize, column: usize) -> Range<usize> {
    let start: usize = text.split_inclusive('\n').take(line.saturating_sub(1)).map(str::len).sum();
    let at = (start + column.saturating_sub(1)).min(text.len());
    at..(at + 1).min(text.len())
}

fn node_of(value: ast::Value<'_>, faults: &mut SyntaxFaults) -> Node {
    let range = value.range();
    let value = match value {
        ast::Value::StringLit(text) => Value::Text(text.value.into_owned()),
        ast::Value::NumberLit(number) => Value::Number(number.value.to_owned()),
        ast::Value::BooleanLit(value) => Value::Bool(value.value),
        ast::Value::NullKeyword(_) => Value::Other("null"),
        ast::Value::Array(list) => {
            Value::List(list.elements.into_iter().map(|value| node_of(value, faults)).collect())
        }
        ast::Value::Object(object) => {
            let mut known = BTreeSet::new();
            let entries = object.properties.into_iter().map(|property| {
                let range = property.name.range();
                let key = property.name.into_string();
                // Within the quotes.
                let key_span = range.start + 1..range.end.saturating_sub(1).max(range.start + 1);
                if !known.insert(key.clone()) {
                    faults.push((key_span.clone(), format!("there are two of the key `{key}`")));
                }
                Entry { key_span, key, node: node_of(property.value, faults) }
            });
            Value::Table(entries.collect())
        }
    };
    Node { span: range.start..range.end, value }
}
