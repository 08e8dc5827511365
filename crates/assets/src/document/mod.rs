//! A parsed file as a tree of values that know where they stand.

mod fields;
mod toml;

use std::ops::Range;

pub(crate) use fields::{Fields, Notes, join};
pub(crate) use toml::parse_toml;

/// A value and the bytes it stands in.
#[derive(Clone, Debug)]
pub(crate) struct Node {
    pub(crate) span: Range<usize>,
    pub(crate) value: Value,
}

#[derive(Clone, Debug)]
pub(crate) enum Value {
    Bool,
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
            Value::Bool => "true or false",
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
