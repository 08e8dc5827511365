//! The rows of a trace, and how they are printed.

use std::io::{self, Write};

use lucky_reel::{Event, EventKind, EventMask, Player, Reel, Ticks};
use serde_json::json;

use crate::arguments::TraceFormat;

/// One line of a trace. The names of its fields are a promise: programs read them.
pub(crate) struct Row<'r> {
    update: u64,
    t: u64,
    event: &'static str,
    hold: Option<u32>,
    frame: Option<u32>,
    cycle: i32,
    mark: Option<&'r str>,
}

impl<'r> Row<'r> {
    /// The row of an event that happened at a moment.
    pub(crate) fn of(reel: &'r Reel, update: u64, t: Ticks, event: Event) -> Row<'r> {
        let (name, mark) = match event.kind {
            EventKind::Enter(_) => ("enter", None),
            EventKind::Mark(mark) => ("mark", Some(reel.mark_name(mark))),
            EventKind::Cycle => ("cycle", None),
            EventKind::Turn => ("turn", None),
            EventKind::End => ("end", None),
            EventKind::Next => ("next", Some(reel.clip_name(event.clip))),
            EventKind::Cue(cue, _) => ("cue", Some(reel.cue_name(cue))),
            EventKind::Bridge(bridge, _) => ("bridge", Some(reel.bridge_name(bridge))),
            EventKind::CueLoop => ("cue-loop", None),
            _ => ("other", None),
        };
        let is_of_cues = EventMask::CUES.wants(event.kind) || event.kind == EventKind::Next;
        let hold = (!is_of_cues).then_some(event.hold);
        let frame = hold.and_then(|hold| {
            let hold = reel.clip(event.clip)?.hold(hold)?;
            Some(frame_index(reel, hold.frame))
        });
        let cycle = if hold.is_some() { event.cycle } else { 0 };
        Row { update, t: t.get(), event: name, hold, frame, cycle, mark }
    }

    /// What is up after an update.
    pub(crate) fn show(reel: &'r Reel, update: u64, t: Ticks, player: &Player) -> Row<'r> {
        let frame = player.frame(reel).map(|frame| frame_index(reel, frame));
        let (hold, cycle) = (player.hold_index(reel), player.cycle());
        Row { update, t: t.get(), event: "show", hold, frame, cycle, mark: None }
    }
}

fn frame_index(reel: &Reel, frame: lucky_reel::FrameId) -> u32 {
    reel.frame(frame).map_or(0, |frame| frame.index())
}

/// Prints rows as they come; a trace may be very long.
pub(crate) struct Output<W: Write> {
    out: W,
    format: TraceFormat,
}

impl<W: Write> Output<W> {
    pub(crate) fn new(mut out: W, format: TraceFormat) -> io::Result<Output<W>> {
        match format {
            TraceFormat::Csv => writeln!(out, "update,t,event,hold,frame,cycle,mark")?,
            TraceFormat::Table => {
                let names = ["update", "t", "ms", "event", "hold", "frame", "cycle", "mark"];
                Output::<W>::line(&mut out, names.map(str::to_owned))?;
            }
            TraceFormat::Json => {}
        }
        Ok(Output { out, format })
    }

    fn line(out: &mut W, cells: [String; 8]) -> io::Result<()> {
        let [update, t, ms, event, hold, frame, cycle, mark] = cells;
        let line = format!(
            "{update:>6}  {t:>12}  {ms:>10}  {event:<7}{hold:>4}{frame:>7}{cycle:>7}  {mark}"
        );
        writeln!(out, "{}", line.trim_end())
    }

    pub(crate) fn row(&mut self, row: &Row<'_>) -> io::Result<()> {
        let Row { update, t, event, hold, frame, cycle, mark } = row;
        let text = |number: &Option<u32>| number.map_or(String::new(), |number| number.to_string());
        let out = &mut self.out;
        match self.format {
            TraceFormat::Csv => {
                let (hold, frame, mark) = (text(hold), text(frame), mark.unwrap_or_default());
                writeln!(out, "{update},{t},{event},{hold},{frame},{cycle},{mark}")
            }
            TraceFormat::Json => {
                let object = json!({
                    "update": update, "t": t, "event": event, "hold": hold, "frame": frame,
                    "cycle": cycle, "mark": mark,
                });
                writeln!(out, "{object}")
            }
            TraceFormat::Table => {
                let ms = format!("{:.3}", Ticks::new(*t).as_millis_f64());
                let event = (*event).to_owned();
                let mark = mark.unwrap_or_default().to_owned();
                let (update, t, cycle) = (update.to_string(), t.to_string(), cycle.to_string());
                Output::line(out, [update, t, ms, event, text(hold), text(frame), cycle, mark])
            }
        }
    }

    pub(crate) fn finish(mut self) -> io::Result<()> {
        self.out.flush()
    }
}
