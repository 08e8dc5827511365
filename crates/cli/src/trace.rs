use std::fs::File;
use std::io::{self, BufRead, BufReader, BufWriter, Lines, Write};
use std::path::Path;

use lucky_reel::assets::{Limits, Loader};
use lucky_reel::{Event, ExactTime, Player, Reel, Ticks};
use serde_json::json;

use crate::arguments::{Trace, TraceFormat};
use crate::failure::Failure;

/// One line of a trace. The names of its fields are a promise: programs read them.
struct Row<'r> {
    update: u64,
    t: u64,
    event: &'static str,
    hold: Option<u32>,
    frame: Option<u32>,
    cycle: i32,
    mark: Option<&'r str>,
}

pub(crate) fn run(arguments: &Trace, limits: Limits) -> Result<(), Failure> {
    let reel = Loader::new().file(&arguments.reel).limits(limits).load_reel()?;
    let clip = reel.clip(&arguments.clip)?;
    let mut player = Player::new(&reel, clip);
    player.set_speed(arguments.speed);
    let from = arguments.from.to_ticks();
    if !from.is_zero() {
        player.seek(&reel, from);
    }
    let updates = arguments.updates.as_deref().map(Updates::open).transpose()?;
    let mut out = Output::new(BufWriter::new(io::stdout().lock()), arguments.format)?;
    let mut tracer = Tracer { reel: &reel, player, update: 0, passed: Ticks::ZERO };
    match updates {
        None => {
            for dt in even_updates(arguments.every, arguments.lasting) {
                tracer.update(dt, &mut out)?;
            }
        }
        Some(mut updates) => {
            while let Some(dt) = updates.next()? {
                tracer.update(dt, &mut out)?;
            }
        }
    }
    out.finish()?;
    Ok(())
}

/// Steps of `every`, rounded on the running total, until `lasting` is over.
fn even_updates(every: ExactTime, lasting: ExactTime) -> impl Iterator<Item = Ticks> {
    let lasting = lasting.to_ticks();
    let mut reached = Ticks::ZERO;
    (1_u64..).map_while(move |nth| {
        let end = every.checked_scale(nth, 1).map_or(Ticks::MAX, ExactTime::to_ticks).min(lasting);
        let dt = end - reached;
        reached = end;
        (!dt.is_zero()).then_some(dt)
    })
}

/// The durations of a file, a line each; read as they are wanted, for they may be typed.
struct Updates {
    shown: String,
    lines: Lines<Box<dyn BufRead>>,
    number: u64,
}

impl Updates {
    fn open(path: &Path) -> Result<Updates, Failure> {
        let shown = path.display().to_string();
        let reader: Box<dyn BufRead> = if path == Path::new("-") {
            Box::new(io::stdin().lock())
        } else {
            let file = File::open(path).map_err(|error| unreadable(&shown, &error))?;
            Box::new(BufReader::new(file))
        };
        Ok(Updates { shown, lines: reader.lines(), number: 0 })
    }

    fn next(&mut self) -> Result<Option<Ticks>, Failure> {
        for line in self.lines.by_ref() {
            self.number += 1;
            let line = line.map_err(|error| unreadable(&self.shown, &error))?;
            let line = line.trim();
            if !line.is_empty() {
                let time: ExactTime = line.parse().map_err(|error| {
                    let place = format!("{}:{}", self.shown, self.number);
                    Failure::new(format!("{place}: `{line}` is no duration: {error}"))
                })?;
                return Ok(Some(time.to_ticks()));
            }
        }
        Ok(None)
    }
}

fn unreadable(shown: &str, error: &io::Error) -> Failure {
    Failure::new(format!("{shown}: the updates can not be read: {error}: check the path"))
}

struct Tracer<'r> {
    reel: &'r Reel,
    player: Player,
    update: u64,
    passed: Ticks,
}

impl<'r> Tracer<'r> {
    fn update(&mut self, dt: Ticks, out: &mut Output<impl Write>) -> Result<(), Failure> {
        self.update += 1;
        for event in self.player.advance(self.reel, dt) {
            out.row(&self.row_of(event))?;
        }
        self.passed += dt;
        let hold = self.player.hold(self.reel);
        let frame = self.player.frame(self.reel).map(|frame| self.frame_index(frame));
        let cycle = self.player.cycle();
        let (update, t) = (self.update, self.passed.get());
        out.row(&Row { update, t, event: "show", hold, frame, cycle, mark: None })?;
        Ok(())
    }

    fn frame_index(&self, frame: lucky_reel::FrameId) -> u32 {
        self.reel.frame(frame).map_or(0, |frame| frame.index())
    }

    fn row_of(&self, event: Event) -> Row<'r> {
        let (name, mark) = match event {
            Event::Enter { .. } => ("enter", None),
            Event::Mark { mark, .. } => ("mark", Some(self.reel.mark_name(mark))),
            Event::Cycle { .. } => ("cycle", None),
            Event::Turn { .. } => ("turn", None),
            Event::End { .. } => ("end", None),
            Event::Next { clip, .. } => ("next", Some(self.reel.clip_name(clip))),
            _ => ("other", None),
        };
        let place = match event {
            Event::Enter { clip, hold, cycle, .. }
            | Event::Mark { clip, hold, cycle, .. }
            | Event::Cycle { clip, hold, cycle, .. }
            | Event::Turn { clip, hold, cycle, .. }
            | Event::End { clip, hold, cycle, .. } => Some((clip, hold, cycle)),
            _ => None,
        };
        let frame = place.and_then(|(clip, hold, _)| {
            let hold = self.reel.get_clip(clip)?.hold(hold)?;
            Some(self.frame_index(hold.frame))
        });
        Row {
            update: self.update,
            t: (self.passed + event.at()).get(),
            event: name,
            hold: place.map(|(_, hold, _)| hold),
            frame,
            cycle: place.map_or(0, |(_, _, cycle)| cycle),
            mark,
        }
    }
}

/// Prints rows as they come; a trace may be very long.
struct Output<W: Write> {
    out: W,
    format: TraceFormat,
}

impl<W: Write> Output<W> {
    fn new(mut out: W, format: TraceFormat) -> io::Result<Output<W>> {
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
            "{update:>6}  {t:>12}  {ms:>10}  {event:<6}{hold:>5}{frame:>7}{cycle:>7}  {mark}"
        );
        writeln!(out, "{}", line.trim_end())
    }

    fn row(&mut self, row: &Row<'_>) -> io::Result<()> {
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

    fn finish(mut self) -> io::Result<()> {
        self.out.flush()
    }
}
