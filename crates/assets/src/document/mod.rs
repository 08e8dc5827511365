//! A parsed file as a tree of values that know where they stand.

mod fields;
mod toml;

use std::ops::Range;

pub(crate) use fields::{Fields, MOST_PROBLEMS, Notes, join};
pub(crate) use toml::parse_toml;

/// A value and the bytes it stands in.
#[derive(Clone, Debug)]
pub(crate) struct Node {
    pub(crate) span: Range<usize>,
    pub(crate) value: Value,
}

#[derive(Clone, Debug)]
pub(crate) enum Value {
    Bool(bool),
    /// As written, so that no digit is lost.
    Number(String),
    Text(String),
    List(Vec<Node>),
    /// In the order of the file.
    Table(Vec<Entry>),
    /// A date or a time, which a reel file never has.
    Date,
}

/// A key and its value.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    pub(crate) key: String,
    pub(crate) key_span: Range<usize>,
    pub(crate) node: Node,
}

impl Value {
    /// For messages.
    pub(crate) fn kind(&self) -> &'static str {
        match self {
            Value::Bool(_) => "true or false",
            Value::Number(_) => "a number",
            Value::Text(_) => "a text",
            Value::List(_) => "a list",
            Value::Table(_) => "a table",
            Value::Date => "a date",
        }
    }
}

impl Node {
    pub(crate) fn text(&self) -> Option<&str> {
        match &self.value {
            Value::Text(text) => Some(text),
            _ => None,
        }
    }

    /// A whole number from 0 up, if it is one that fits.
    pub(crate) fn whole(&self) -> Option<u32> {
        match &self.value {
            Value::Number(text) => text.parse().ok(),
            _ => None,
        }
    }

    pub(crate) fn list(&self) -> Option<&[Node]> {
        match &self.value {
            Value::List(nodes) => Some(nodes),
            _ => None,
        }
    }

    pub(crate) fn table(&self) -> Option<&[Entry]> {
        match &self.value {
            Value::Table(entries) => Some(entries),
            _ => None,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Every value of a tree stands where it says, and reads as it was written.
    fn check_spans(text: &str, node: &Node) {
        let written = &text[node.span.clone()];
        match &node.value {
            Value::Number(number) => assert_eq!(written, number),
            Value::Text(inner) => assert_eq!(written, format!("{inner:?}")),
            Value::List(nodes) => {
                assert!(written.starts_with('[') && written.ends_with(']'), "{written}");
                nodes.iter().for_each(|node| check_spans(text, node));
            }
            Value::Table(entries) => {
                for entry in entries {
                    assert_eq!(text[entry.key_span.clone()], entry.key);
                    check_spans(text, &entry.node);
                }
            }
            Value::Bool(_) | Value::Date => {}
        }
    }

    /// Values as they are written, some deep.
    fn written() -> impl Strategy<Value = String> {
        let leaf = prop_oneof![
            (0_u32..9_000).prop_map(|number| number.to_string()),
            "[a-z ]{0,8}".prop_map(|text| format!("\"{text}\"")),
            Just("29.97".to_owned()),
            Just("true".to_owned()),
        ];
        leaf.prop_recursive(3, 12, 4, |inner| {
            prop_oneof![
                prop::collection::vec(inner.clone(), 0..4)
                    .prop_map(|list| format!("[{}]", list.join(", "))),
                prop::collection::vec(inner, 0..4).prop_map(|list| {
                    let entries = list.iter().zip(["a", "b-c", "d", "e"]);
                    let entries = entries.map(|(value, key)| format!("{key} = {value}"));
                    format!("{{ {} }}", entries.collect::<Vec<_>>().join(", "))
                }),
            ]
        })
    }

    proptest! {
        #[test]
        fn values_know_where_they_stand(values in prop::collection::vec(written(), 1..6)) {
            let lines = values.iter().enumerate().map(|(nth, value)| {
                let table = if nth % 2 == 1 { format!("[clips.c{nth}]\n") } else { String::new() };
                format!("{table}key{nth} = {value} # ü\n")
            });
            let text: String = lines.collect();
            let root = parse_toml(&text).unwrap();
            let Value::Table(entries) = &root.value else { panic!("a document is a table") };
            prop_assert!(entries.is_sorted_by_key(|entry| entry.key_span.start), "in the file's order");
            for entry in entries {
                prop_assert_eq!(&text[entry.key_span.clone()], &entry.key);
                if entry.key != "clips" {
                    check_spans(&text, &entry.node);
                }
            }
        }
    }

    #[test]
    fn numbers_keep_every_digit() {
        let root = parse_toml("a = 0.1000000000000000055\nb = 0xff\nc = 1_000\nd = -3").unwrap();
        let number = |key: &str| match &root
            .table()
            .unwrap()
            .iter()
            .find(|e| e.key == key)
            .unwrap()
            .node
            .value
        {
            Value::Number(text) => text.clone(),
            other => panic!("{other:?}"),
        };
        assert_eq!(
            ["a", "b", "c", "d"].map(number),
            ["0.1000000000000000055", "255", "1000", "-3"]
        );
    }
}
