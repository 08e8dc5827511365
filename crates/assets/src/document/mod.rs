//! A parsed file as a tree of values that know where they stand.

mod fields;
#[cfg(feature = "json")]
mod json;
mod toml;

use std::ops::Range;
use std::path::Path;

pub use crate::reel_file::{WrittenItem, WrittenKey, WrittenTimes};
pub use fields::join;
pub(crate) use fields::{Fields, MAX_PROBLEMS, Notes};

use crate::problem::{LoadError, Problem};

/// The two forms of a document, which say the same.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Form {
    /// `NAME.reel.toml`: for people.
    Toml,
    /// `NAME.reel.json`: for programs.
    Json,
}

impl Form {
    /// The form that a path's ending tells; TOML unless it ends in `.json`.
    #[must_use]
    pub fn of(path: &Path) -> Form {
        match path.extension() {
            Some(ending) if ending.eq_ignore_ascii_case("json") => Form::Json,
            _ => Form::Toml,
        }
    }

    /// Its name and how it is written, for messages.
    #[must_use]
    pub fn describe(self) -> (&'static str, &'static str) {
        match self {
            Form::Toml => (
                "TOML",
                "a line is a [table], a key = value, or a # comment; texts stand in quotes",
            ),
            Form::Json => (
                "JSON",
                "objects in { }, lists in [ ], keys and texts in \"quotes\", commas in between",
            ),
        }
    }
}

#[cfg(not(feature = "json"))]
const LEFT_OUT: &str = "this program was built without reel files in JSON";

/// Places and messages of what is wrong with a text.
pub type SyntaxErrors = Vec<(Range<usize>, String)>;

/// Parses a document.
pub fn parse(text: &str, form: Form) -> Result<Node, SyntaxErrors> {
    match form {
        Form::Toml => toml::parse(text),
        #[cfg(feature = "json")]
        Form::Json => json::parse(text),
        #[cfg(not(feature = "json"))]
        Form::Json => Err(vec![(0..0, LEFT_OUT.to_owned())]),
    }
}

/// Parses the text of a file, in the form that its path tells.
///
/// # Errors
/// Where it is not of that form.
pub fn read(path: &Path, text: &str) -> Result<Node, LoadError> {
    let form = Form::of(path);
    #[cfg(not(feature = "json"))]
    if form == Form::Json {
        let fix = "enable the feature `json` of lucky-reel, or convert the file to TOML";
        return Err(Problem::in_file(path, LEFT_OUT, fix).into());
    }
    parse(text, form).map_err(|errors| {
        let (name, fix) = form.describe();
        let problems = errors.into_iter().take(MAX_PROBLEMS).map(|(span, message)| {
            Problem::in_text(path, text, span, format!("invalid {name}: {message}"), fix)
        });
        LoadError::new(problems.collect())
    })
}

/// A value and the bytes it stands in.
#[derive(Clone, Debug)]
pub struct Node {
    /// Bytes of the text.
    pub span: Range<usize>,
    /// What stands there.
    pub value: Value,
}

/// What a key can have.
#[derive(Clone, Debug)]
pub enum Value {
    /// `true` or `false`.
    Bool(bool),
    /// As written, so that no digit is lost.
    Number(String),
    /// Without its quotes.
    Text(String),
    /// In the order of the file.
    List(Vec<Node>),
    /// In the order of the file.
    Table(Vec<Entry>),
    /// Something that a reel file never has: a date, or null.
    Other(&'static str),
}

/// A key and its value.
#[derive(Clone, Debug)]
pub struct Entry {
    /// Without its quotes.
    pub key: String,
    /// Bytes of the text that the key stands in.
    pub key_span: Range<usize>,
    /// Its value.
    pub node: Node,
}

impl Value {
    /// For messages.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            Value::Bool(_) => "true or false",
            Value::Number(_) => "a number",
            Value::Text(_) => "a text",
            Value::List(_) => "a list",
            Value::Table(_) => "a table",
            Value::Other(kind) => kind,
        }
    }
}

impl Node {
    /// The text, if it is one.
    #[must_use]
    pub fn text(&self) -> Option<&str> {
        match &self.value {
            Value::Text(text) => Some(text),
            _ => None,
        }
    }

    /// A whole number from 0 up, if it is one that fits.
    #[must_use]
    pub fn whole(&self) -> Option<u32> {
        match &self.value {
            Value::Number(text) => text.parse().ok(),
            _ => None,
        }
    }

    /// The list, if it is one.
    #[must_use]
    pub fn list(&self) -> Option<&[Node]> {
        match &self.value {
            Value::List(nodes) => Some(nodes),
            _ => None,
        }
    }

    /// The entries of the table, if it is one.
    #[must_use]
    pub fn table(&self) -> Option<&[Entry]> {
        match &self.value {
            Value::Table(entries) => Some(entries),
            _ => None,
        }
    }

    /// The entry of a key, if this is a table that has it.
    #[must_use]
    pub fn entry(&self, key: &str) -> Option<&Entry> {
        self.table()?.iter().find(|entry| entry.key == key)
    }

    /// The value of a key, if this is a table that has it.
    #[must_use]
    pub fn get(&self, key: &str) -> Option<&Node> {
        self.entry(key).map(|entry| &entry.node)
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
            Value::Bool(_) | Value::Other(_) => {}
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
            let root = parse(&text, Form::Toml).unwrap();
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

    /// A tree as text, in the order of keys.
    fn plain(value: &Value) -> String {
        match value {
            Value::List(nodes) => {
                format!(
                    "[{}]",
                    nodes.iter().map(|node| plain(&node.value)).collect::<Vec<_>>().join(",")
                )
            }
            Value::Table(entries) => {
                let mut entries: Vec<String> =
                    entries.iter().map(|e| format!("{}={}", e.key, plain(&e.node.value))).collect();
                entries.sort();
                format!("{{{}}}", entries.join(","))
            }
            other => format!("{other:?}"),
        }
    }

    fn plain_of_reference(value: &::toml::de::DeValue<'_>) -> String {
        use ::toml::de::DeValue;
        match value {
            DeValue::Integer(number) => format!("Number({:?})", number.as_str()),
            DeValue::Array(list) => {
                let inner = list.iter().map(|value| plain_of_reference(value.get_ref()));
                format!("[{}]", inner.collect::<Vec<_>>().join(","))
            }
            DeValue::Table(table) => plain_of_table(table),
            other => panic!("{other:?}"),
        }
    }

    fn plain_of_table(table: &::toml::de::DeTable<'_>) -> String {
        let mut entries: Vec<String> = table
            .iter()
            .map(|(key, value)| {
                format!("{}={}", key.get_ref(), plain_of_reference(value.get_ref()))
            })
            .collect();
        entries.sort();
        format!("{{{}}}", entries.join(","))
    }

    fn has_twice(value: &Value) -> bool {
        match value {
            Value::Table(entries) => {
                let mut keys: Vec<&str> = entries.iter().map(|entry| &*entry.key).collect();
                keys.sort_unstable();
                keys.windows(2).any(|pair| pair[0] == pair[1])
                    || entries.iter().any(|entry| has_twice(&entry.node.value))
            }
            Value::List(nodes) => nodes.iter().any(|node| has_twice(&node.value)),
            _ => false,
        }
    }

    proptest! {
        /// Where the reference reader takes a document, the tree is the same; where it does not, there is
        /// a key twice, or it is refused here, too.
        #[test]
        fn toml_is_read_as_by_a_reference(lines in prop::collection::vec(
            "(\\[[ab](\\.[ab]){0,2}\\]|\\[\\[[abc](\\.[ab])?\\]\\]|[abx](\\.[aby]){0,2} = (1|\\[1, 2\\]|\\{a = 1\\}|\\{a\\.b = 1, a\\.c = 2\\}|\\[\\{a = 1\\}\\]|\\{a = 1, a = 2\\})|# x|\\[a)",
            0..9,
        )) {
            let text = lines.join("\n");
            let ours = parse(&text, Form::Toml);
            match (::toml::de::DeTable::parse(&text), ours) {
                (Ok(reference), Ok(ours)) => {
                    prop_assert_eq!(plain(&ours.value), plain_of_table(reference.get_ref()), "{}", text);
                }
                // The reference lets dotted keys reach into lists of tables, which TOML does not.
                (Ok(_), Err(errors)) => {
                    prop_assert!(errors[0].1.contains("nothing can be added"), "{errors:?} in\n{text}");
                }
                (Err(_), Err(_)) => {}
                (Err(error), Ok(ours)) => prop_assert!(has_twice(&ours.value), "{error} in\n{text}"),
            }
        }
    }

    #[test]
    fn numbers_keep_every_digit() {
        let root =
            parse("a = 0.1000000000000000055\nb = 0xff\nc = 1_000\nd = -3", Form::Toml).unwrap();
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
