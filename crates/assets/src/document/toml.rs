use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::{Entry, Node, SyntaxFaults, Value};

pub(super) fn parse(text: &str) -> Result<Node, SyntaxFaults> {
    let (table, faults) = DeTable::parse_recoverable(text);
    if faults.is_empty() {
        return Ok(Node { span: 0..0, value: table_of(table.into_inner()) });
    }
    let faults = faults.into_iter().map(|fault| {
        let message = fault.message().lines().collect::<Vec<_>>().join("; ");
        (fault.span().unwrap_or(0..0), message)
    });
    Err(faults.collect())
}

fn table_of(table: DeTable<'_>) -> Value {
    let mut entries: Vec<Entry> = table
        .into_iter()
        .map(|(key, value)| Entry {
            key_span: key.span(),
            key: key.into_inner().into_owned(),
            node: node_of(value),
        })
        .collect();
    entries.sort_by_key(|entry| entry.key_span.start);
    Value::Table(entries)
}

fn node_of(value: Spanned<DeValue<'_>>) -> Node {
    let span = value.span();
    let value = match value.into_inner() {
        DeValue::String(text) => Value::Text(text.into_owned()),
        DeValue::Integer(number) => Value::Number(match number.radix() {
            10 => number.as_str().to_owned(),
            radix => i64::from_str_radix(number.as_str(), radix)
                .map_or_else(|_| number.as_str().to_owned(), |number| number.to_string()),
        }),
        DeValue::Float(number) => Value::Number(number.as_str().to_owned()),
        DeValue::Boolean(value) => Value::Bool(value),
        DeValue::Datetime(_) => Value::Other("a date"),
        DeValue::Array(nodes) => Value::List(nodes.into_iter().map(node_of).collect()),
        DeValue::Table(table) => table_of(table),
    };
    Node { span, value }
}
