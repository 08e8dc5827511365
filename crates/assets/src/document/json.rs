use std::collections::BTreeSet;

use jsonc_parser::ast;
use jsonc_parser::common::Ranged;
use jsonc_parser::{CollectOptions, ParseOptions};

use super::{Entry, Node, SyntaxFaults, Value};

/// JSON by the book: none of the freedoms that its parser would allow.
const STRICT: ParseOptions = ParseOptions {
    allow_comments: false,
    allow_loose_object_property_names: false,
    allow_trailing_commas: false,
    allow_missing_commas: false,
    allow_single_quoted_strings: false,
    allow_hexadecimal_numbers: false,
    allow_unary_plus_numbers: false,
    allow_bare_decimal_point_numbers: false,
    allow_non_finite_numbers: false,
    allow_extended_string_escapes: false,
};

pub(super) fn parse(text: &str) -> Result<Node, SyntaxFaults> {
    let parsed = jsonc_parser::parse_to_ast(text, &CollectOptions::default(), &STRICT);
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
