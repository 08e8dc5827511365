use std::ops::Range;

use nojson::{JsonParseError, JsonValueKind, RawJson, RawJsonValue};

use super::{Entry, Node, SyntaxErrors, Value};

pub(super) fn parse(text: &str) -> Result<Node, SyntaxErrors> {
    let parsed = RawJson::parse(text).map_err(|error| vec![fault_of(text, &error)])?;
    node_of(parsed.value()).map_err(|error| vec![fault_of(text, &error)])
}

/// Where the parser stopped, and why.
fn fault_of(text: &str, error: &JsonParseError) -> (Range<usize>, String) {
    let at = error.position().min(text.len());
    let message = match error {
        JsonParseError::UnexpectedEos { .. } => "the text ends in the middle of a value".to_owned(),
        JsonParseError::UnexpectedTrailingChar { .. } => {
            "something stands after the end of the document".to_owned()
        }
        JsonParseError::UnexpectedValueChar { .. } => "unexpected character".to_owned(),
        JsonParseError::InvalidValue { error, .. } => match error.to_string() {
            deep if deep.contains("nesting depth") => {
                "lists and objects are nested too deep: more than 128".to_owned()
            }
            other => other,
        },
    };
    (at..(at + 1).min(text.len()), message)
}

fn span_of(value: RawJsonValue<'_, '_>) -> Range<usize> {
    value.position()..value.position() + value.as_raw_str().len()
}

fn node_of(value: RawJsonValue<'_, '_>) -> Result<Node, JsonParseError> {
    let span = span_of(value);
    let value = match value.kind() {
        JsonValueKind::Null => Value::Other("null"),
        JsonValueKind::Boolean => Value::Bool(value.as_raw_str() == "true"),
        JsonValueKind::Integer | JsonValueKind::Float => {
            Value::Number(value.as_raw_str().to_owned())
        }
        JsonValueKind::String => Value::Text(value.to_unquoted_string_str()?.into_owned()),
        JsonValueKind::Array => {
            let nodes = value.to_array()?.map(node_of);
            Value::List(nodes.collect::<Result<_, _>>()?)
        }
        JsonValueKind::Object => {
            let mut entries = Vec::new();
            for (name, value) in value.to_object()? {
                let key = name.to_unquoted_string_str()?.into_owned();
                // Within the quotes.
                let Range { start, end } = span_of(name);
                let key_span = start + 1..end.saturating_sub(1).max(start + 1);
                entries.push(Entry { key_span, key, node: node_of(value)? });
            }
            Value::Table(entries)
        }
    };
    Ok(Node { span, value })
}
