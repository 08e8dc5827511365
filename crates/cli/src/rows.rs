//! The rows of a trace, and how they are printed.

use std::io::{self, Write};

use lucky_reel::cue::FactValue;
use lucky_reel::{Event, EventKind, EventMask, Player, Reel, Ticks};
use lucky_reel_tools::words::data_at;
use serde_json::{Map, Value, json};

use crate::arguments::TraceFormat;

/// One line of a trace. The names of its fields are a promise: programs read them.
pub(crate) struct Row<'r> {
    update: u64,
    t: u64,
    event: &'static str,
    hold: Option<u32>,
    frame: Option<u32>,
    cycle: i32,
    /// Of the mark, the next clip, the cue or the bridge.
    name: Option<&'r str>,
    /// What made a cue or a bridge begin.
    why: Option<String>,
    /// What the mark carries.
    data: Vec<(&'r str, FactValue)>,
}

impl<'r> Row<'r> {
    /// The row of an event that happened at a moment.
    pub(crate) fn of(reel: &'r Reel, update: u64, t: Ticks, event: Event) -> Row<'r> {
        let (kind, name) = match event.kind {
            EventKind::Enter(_) => ("enter", None),
            EventKind::Mark(mark) => ("mark", Some(reel.name(mark))),
            EventKind::Cycle => ("cycle", None),
            EventKind::Turn => ("turn", None),
            EventKind::End => ("end", None),
            EventKind::Next => ("next", Some(reel.name(event.clip))),
            EventKind::Cue(cue, _) => ("cue", Some(reel.name(cue))),
            EventKind::Bridge(bridge, _) => ("bridge", Some(reel.name(bridge))),
            EventKind::CueLoop => ("cue-loop", None),
            _ => ("other", None),
        };
        let why = match event.kind {
            EventKind::Cue(_, cause) | EventKind::Bridge(_, cause) => Some(cause.to_string()),
            _ => None,
        };
        let is_of_cues = EventMask::CUES.wants(event.kind) || event.kind == EventKind::Next;
        let hold = (!is_of_cues).then_some(event.hold);
        let frame = hold.and_then(|hold| {
            let hold = reel.clip(event.clip)?.hold(hold)?;
            Some(frame_index(reel, hold.frame))
        });
        let cycle = if hold.is_some() { event.cycle } else { 0 };
        let marked = event.mark().zip(reel.clip(event.clip));
        let data = marked.map(|(mark, clip)| data_at(&clip, mark, event.hold)).unwrap_or_default();
        Row { update, t: t.get(), event: kind, hold, frame, cycle, name, why, data }
    }

    /// What is up after an update.
    pub(crate) fn show(reel: &'r Reel, update: u64, t: Ticks, player: &Player) -> Row<'r> {
        let frame = player.packed_frame(reel).frame().map(|frame| frame_index(reel, frame));
        let (hold, cycle) = (player.hold_index(reel), player.cycle());
        let (name, why, data) = (None, None, Vec::new());
        Row { update, t: t.get(), event: "show", hold, frame, cycle, name, why, data }
    }
}

fn frame_index(reel: &Reel, frame: lucky_reel::id::FrameId) -> u32 {
    reel.frame(frame).map_or(0, |frame| frame.index)
}

/// Prints rows as they come; a trace may be very long.
pub(crate) struct Output<W: Write> {
    out: W,
    format: TraceFormat,
}

impl<W: Write> Output<W> {
    pub(crate) fn new(mut out: W, format: TraceFormat) -> io::Result<Output<W>> {
        match format {
            TraceFormat::Csv => writeln!(out, "update,t,ms,event,hold,frame,cycle,name,why,data")?,
            TraceFormat::Table => {
                let names =
                    ["update", "t", "ms", "event", "hold", "frame", "cycle", "name", "why", "data"];
                Output::<W>::line(&mut out, names.map(str::to_owned))?;
            }
            TraceFormat::Json => {}
        }
        Ok(Output { out, format })
    }

    fn line(out: &mut W, cells: [String; 10]) -> io::Result<()> {
        let [update, t, ms, event, hold, frame, cycle, name, why, data] = cells;
        let line = format!(
            "{update:>6}  {t:>12}  {ms:>10}  {event:<8}{hold:>4}{frame:>7}{cycle:>7}  {name:<16}  {why:<4} {data}"
        );
        writeln!(out, "{}", line.trim_end())
    }

    pub(crate) fn row(&mut self, row: &Row<'_>) -> io::Result<()> {
        let Row { update, t, event, hold, frame, cycle, name, why, data } = row;
        let text = |number: &Option<u32>| number.map_or(String::new(), |number| number.to_string());
        let ms = format!("{:.3}", Ticks::new(*t).as_millis_f64());
        let out = &mut self.out;
        match self.format {
            TraceFormat::Csv => {
                let (hold, frame) = (text(hold), text(frame));
                let (name, why) = (name.unwrap_or_default(), why.as_deref().unwrap_or_default());
                let data = quoted(&in_words(data, "=", " "));
                writeln!(
                    out,
                    "{update},{t},{ms},{event},{hold},{frame},{cycle},{name},{why},{data}"
                )
            }
            TraceFormat::Json => {
                let object = json!({
                    "update": update, "t": t, "ms": Ticks::new(*t).as_millis_f64(), "event": event,
                    "hold": hold, "frame": frame, "cycle": cycle, "name": name, "why": why,
                    "data": as_object(data),
                });
                writeln!(out, "{object}")
            }
            TraceFormat::Table => {
                let words = [*name, why.as_deref()].map(|word| word.unwrap_or_default().to_owned());
                let (update, t, cycle) = (update.to_string(), t.to_string(), cycle.to_string());
                let data = in_words(data, " ", ", ");
                let ([name, why], event) = (words, (*event).to_owned());
                let cells = [update, t, ms, event, text(hold), text(frame), cycle, name, why, data];
                Output::line(out, cells)
            }
        }
    }

    pub(crate) fn finish(mut self) -> io::Result<()> {
        self.out.flush()
    }
}

fn in_words(data: &[(&str, FactValue)], is: &str, and: &str) -> String {
    let words = data.iter().map(|(key, value)| format!("{key}{is}{value}"));
    words.collect::<Vec<_>>().join(and)
}

/// A cell of CSV.
fn quoted(text: &str) -> String {
    match text.contains([',', '"', '\n', '\r']) {
        true => format!("\"{}\"", text.replace('"', "\"\"")),
        false => text.to_owned(),
    }
}

/// What a mark carries, as JSON.
pub(crate) fn as_object(data: &[(&str, FactValue)]) -> Value {
    let value = |value: &FactValue| match value {
        FactValue::Flag(flag) => json!(flag),
        FactValue::Whole(whole) => json!(whole),
        FactValue::Number(number) => json!(number),
        other => json!(other.to_string()),
    };
    data.iter().map(|(key, datum)| ((*key).to_owned(), value(datum))).collect::<Map<_, _>>().into()
}
