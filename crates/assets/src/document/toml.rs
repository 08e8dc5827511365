//! TOML as a tree. Two entries of one name are kept as two, unlike in most readers, so that what is
//! wrong with either can be said.

use std::borrow::Cow;
use std::ops::Range;

use toml_parser::decoder::ScalarKind;
use toml_parser::parser::{Event, EventKind, RecursionGuard, ValidateWhitespace, parse_document};
use toml_parser::{Expected, ParseError, Source};

use super::{Entry, Node, SyntaxErrors, Value};
use crate::index::Index;

/// Tables, lists and dotted keys are nested at most so deep.
const MAX_LEVELS: u32 = 80;

pub(super) fn parse(text: &str) -> Result<Node, SyntaxErrors> {
    let source = Source::new(text);
    let (mut events, mut errors) = (Vec::<Event>::new(), Vec::<ParseError>::new());
    let mut checked = ValidateWhitespace::new(&mut events, source);
    let mut guarded = RecursionGuard::new(&mut checked, MAX_LEVELS);
    parse_document(&source.lex().into_vec(), &mut guarded, &mut errors);
    let mut problems: SyntaxErrors = Vec::new();
    if errors.is_empty() {
        events.retain(|event| {
            !matches!(event.kind(), EventKind::Whitespace | EventKind::Comment | EventKind::Newline)
        });
        let mut reader = Reader { source, events: events.iter(), errors, problems };
        let root = reader.document();
        (errors, problems) = (reader.errors, reader.problems);
        if errors.is_empty() && problems.is_empty() {
            return Ok(Node { span: 0..0, value: root.into_value() });
        }
    }
    problems.extend(errors.iter().map(|error| {
        let span = error.unexpected().or(error.context()).map_or(0..0, |at| at.start()..at.end());
        (span, message(error))
    }));
    Err(problems)
}

/// What the parser says, and what it expected instead.
fn message(error: &ParseError) -> String {
    let expected = error.expected().unwrap_or_default().iter().filter_map(|what| match what {
        Expected::Literal("\n") => Some("the end of the line".to_owned()),
        Expected::Literal(text) => Some(format!("`{text}`")),
        // Words of the grammar, such as `literal string`, mean nothing to a reader.
        _ => None,
    });
    let expected: Vec<String> = expected.collect();
    match &expected[..] {
        [] => error.description().to_owned(),
        several => format!("{}; expected {}", error.description(), several.join(", ")),
    }
}

struct Reader<'i, 'e> {
    source: Source<'i>,
    events: std::slice::Iter<'e, Event>,
    errors: Vec<ParseError>,
    problems: SyntaxErrors,
}

type Key = (String, Range<usize>);
type SyntaxError = (Range<usize>, String);

impl Reader<'_, '_> {
    fn document(&mut self) -> Table {
        let mut root = Table::new(Made::Header, 0..0);
        // The table that keys belong to.
        let mut current = Place::new();
        while let Some(event) = self.events.next() {
            let is_array = event.kind() == EventKind::ArrayTableOpen;
            match event.kind() {
                EventKind::StdTableOpen | EventKind::ArrayTableOpen => {
                    let start = event.span().start();
                    let Some(first) = self.events.next() else { break };
                    let path = self.path(first);
                    let end = self.events.next().map_or(start, |close| close.span().end());
                    match root.open(&path, is_array, start..end) {
                        Ok(place) => current = place,
                        Err(problem) => self.problems.push(problem),
                    }
                }
                EventKind::SimpleKey => {
                    let path = self.path(event);
                    self.events.next(); // the equals sign
                    let item = self.item();
                    let set = root.at(&current).map_or(Ok(()), |table| table.set(path, item));
                    self.problems.extend(set.err());
                }
                _ => {}
            }
        }
        root
    }

    /// A key, or several with dots between.
    fn path(&mut self, first: &Event) -> Vec<Key> {
        let mut path = vec![self.key(first)];
        while let [dot, key, ..] = self.events.as_slice()
            && dot.kind() == EventKind::KeySep
        {
            self.events.next();
            self.events.next();
            path.push(self.key(key));
        }
        if path.len() >= MAX_LEVELS as usize {
            let span = path[0].1.clone();
            self.problems.push((span, "the key has too many parts".to_owned()));
            path.truncate(1);
        }
        path
    }

    fn key(&mut self, event: &Event) -> Key {
        let mut decoded = Cow::Borrowed("");
        if let Some(raw) = self.source.get(event) {
            raw.decode_key(&mut decoded, &mut self.errors);
        }
        (decoded.into_owned(), event.span().start()..event.span().end())
    }

    /// A value after an equals sign or within a list.
    fn item(&mut self) -> Item {
        let Some(event) = self.events.next() else { return Item::Value(nothing(0)) };
        let start = event.span().start();
        match event.kind() {
            EventKind::InlineTableOpen => {
                let mut table = Table::new(Made::Inline, start..start);
                while let Some(event) = self.events.next() {
                    table.span.end = event.span().end();
                    match event.kind() {
                        EventKind::InlineTableClose => break,
                        EventKind::SimpleKey => {
                            let path = self.path(event);
                            self.events.next(); // the equals sign
                            let item = self.item();
                            self.problems.extend(table.set(path, item).err());
                        }
                        _ => {}
                    }
                }
                Item::Table(table)
            }
            EventKind::ArrayOpen => {
                let (mut nodes, mut end) = (Vec::new(), start);
                while let Some(event) = self.events.as_slice().first() {
                    end = event.span().end();
                    match event.kind() {
                        EventKind::ValueSep => _ = self.events.next(),
                        EventKind::ArrayClose => {
                            self.events.next();
                            break;
                        }
                        _ => nodes.push(self.item().into_node()),
                    }
                }
                Item::Value(Node { span: start..end, value: Value::List(nodes) })
            }
            _ => Item::Value(self.scalar(event)),
        }
    }

    fn scalar(&mut self, event: &Event) -> Node {
        let Some(raw) = self.source.get(event) else { return nothing(event.span().start()) };
        let mut decoded = Cow::Borrowed("");
        let value = match raw.decode_scalar(&mut decoded, &mut self.errors) {
            ScalarKind::String => Value::Text(decoded.into_owned()),
            ScalarKind::Boolean(value) => Value::Bool(value),
            ScalarKind::DateTime => Value::Other("a date"),
            ScalarKind::Float => Value::Number(decoded.into_owned()),
            ScalarKind::Integer(radix) => Value::Number(match radix.value() {
                10 => decoded.into_owned(),
                radix => i64::from_str_radix(&decoded, radix)
                    .map_or_else(|_| decoded.into_owned(), |number| number.to_string()),
            }),
        };
        Node { span: event.span().start()..event.span().end(), value }
    }
}

fn nothing(at: usize) -> Node {
    Node { span: at..at, value: Value::Other("nothing") }
}

/// How a table came to be, which tells what may still be added to it.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Made {
    /// By its own `[header]`.
    Header,
    /// By the header of a table in it.
    Implied,
    /// By a key with dots.
    Dotted,
    /// In braces: nothing may be added.
    Inline,
}

/// Where a table is: in each table above it the entry, and which one of a list of tables.
type Place = Vec<(usize, usize)>;

struct Table {
    made: Made,
    span: Range<usize>,
    entries: Vec<(Key, Item)>,
    /// Where the last entry of each name is.
    last: Index<usize>,
}

enum Item {
    Value(Node),
    Table(Table),
    /// `[[name]]`
    Tables(Vec<Table>),
}

impl Table {
    fn new(made: Made, span: Range<usize>) -> Table {
        Table { made, span, entries: Vec::new(), last: Index::default() }
    }

    fn push(&mut self, key: Key, item: Item) -> usize {
        let at = self.entries.len();
        self.last.insert(key.0.clone(), at);
        self.entries.push((key, item));
        at
    }

    /// The table at a place that [`open`](Table::open) gave.
    fn at(&mut self, place: &[(usize, usize)]) -> Option<&mut Table> {
        let mut table = self;
        for (entry, nth) in place {
            table = match &mut table.entries.get_mut(*entry)?.1 {
                Item::Table(inner) => inner,
                Item::Tables(list) => list.get_mut(*nth)?,
                Item::Value(_) => return None,
            };
        }
        Some(table)
    }

    /// Opens the table of a header; gives its place.
    fn open(
        &mut self,
        path: &[Key],
        is_array: bool,
        span: Range<usize>,
    ) -> Result<Place, SyntaxError> {
        let (mut table, mut place) = (self, Place::new());
        let Some((name, above)) = path.split_last() else { return Ok(place) };
        for key in above {
            let at = match table.last.get(&key.0) {
                Some(at) => *at,
                None => {
                    let new = Table::new(Made::Implied, key.1.clone());
                    table.push(key.clone(), Item::Table(new))
                }
            };
            let (inner, nth) = match &mut table.entries[at].1 {
                Item::Table(inner) if inner.made != Made::Inline => (inner, 0),
                Item::Tables(list) => {
                    let nth = list.len().saturating_sub(1);
                    (&mut list[nth], nth)
                }
                _ => return Err(closed(key)),
            };
            (table, place) = (inner, [&place[..], &[(at, nth)]].concat());
        }
        let known = table.last.get(&name.0).copied();
        match known.map(|at| (at, &mut table.entries[at].1)) {
            Some((at, Item::Tables(list))) if is_array => {
                list.push(Table::new(Made::Header, span));
                place.push((at, list.len() - 1));
            }
            Some((at, Item::Table(inner))) if !is_array && inner.made == Made::Implied => {
                (inner.made, inner.span) = (Made::Header, span);
                place.push((at, 0));
            }
            _ => {
                let new = Table::new(Made::Header, span);
                let item = if is_array { Item::Tables(vec![new]) } else { Item::Table(new) };
                place.push((table.push(name.clone(), item), 0));
            }
        }
        Ok(place)
    }

    /// Sets a key, which may have dots.
    fn set(&mut self, mut path: Vec<Key>, item: Item) -> Result<(), SyntaxError> {
        let Some(name) = path.pop() else { return Ok(()) };
        let mut table = self;
        for key in path {
            let known = table.last.get(&key.0).copied();
            let open = known.filter(|at| match &table.entries[*at].1 {
                Item::Table(inner) => matches!(inner.made, Made::Dotted | Made::Implied),
                _ => false,
            });
            if let (Some(at), None) = (known, open)
                && !matches!(table.entries[at].1, Item::Table(_))
            {
                return Err(closed(&key));
            }
            let at = open.unwrap_or_else(|| {
                let new = Table::new(Made::Dotted, key.1.clone());
                table.push(key.clone(), Item::Table(new))
            });
            let Item::Table(inner) = &mut table.entries[at].1 else { return Err(closed(&key)) };
            table = inner;
        }
        table.push(name, item);
        Ok(())
    }

    fn into_value(self) -> Value {
        let mut entries: Vec<Entry> = Vec::with_capacity(self.entries.len());
        for ((key, key_span), item) in self.entries {
            // All but tables that are gone on with come in order.
            let at = entries.partition_point(|entry| entry.key_span.start <= key_span.start);
            entries.insert(at, Entry { key, key_span, node: item.into_node() });
        }
        Value::Table(entries)
    }
}

fn closed((name, span): &Key) -> SyntaxError {
    (span.clone(), format!("`{name}` has a value already, and nothing can be added to it"))
}

impl Item {
    fn into_node(self) -> Node {
        match self {
            Item::Value(node) => node,
            Item::Table(table) => Node { span: table.span.clone(), value: table.into_value() },
            Item::Tables(list) => Node {
                span: list.first().map_or(0..0, |first| first.span.clone()),
                value: Value::List(
                    list.into_iter().map(|table| Item::Table(table).into_node()).collect(),
                ),
            },
        }
    }
}
