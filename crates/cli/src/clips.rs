use std::io::{self, BufWriter, Write};

use lucky_reel::assets::Limits;
use lucky_reel::{
    Clip, MarkId, Reel,
    reel::{ClipEnd, ClipMark, ClipSpan},
};
use lucky_reel_tools::words::{data_at, data_in_words, name_of};
use serde_json::{Map, Value, json};

use crate::arguments::{Clips, ListFormat};
use crate::failure::Failure;
use crate::files::loader_of;
use crate::print;
use crate::rows::as_object;

pub(crate) fn run(arguments: &Clips, limits: Limits) -> Result<(), Failure> {
    let reel = loader_of(&arguments.reels, limits)?.load_reel()?;
    let mut out = BufWriter::new(io::stdout().lock());
    match arguments.format {
        ListFormat::Table => print_table(&mut out, &reel)?,
        ListFormat::Json => {
            let clips: Vec<Value> = reel.clips().map(|clip| as_json(&reel, &clip)).collect();
            writeln!(out, "{:#}", Value::Array(clips))?;
        }
    }
    out.flush()?;
    Ok(())
}

/// Holds by the name of their mark, in the order of the names.
fn marks_by_name<'r>(reel: &'r Reel, clip: &Clip<'r>) -> Vec<(&'r str, MarkId, Vec<u32>)> {
    let mut marks: Vec<(&str, MarkId, Vec<u32>)> = Vec::new();
    for ClipMark { hold, mark, .. } in clip.marks() {
        match marks.iter_mut().find(|(_, known, _)| *known == mark) {
            Some((.., holds)) => holds.push(hold),
            None => marks.push((reel.name(mark), mark, vec![hold])),
        }
    }
    marks.sort_unstable();
    marks
}

/// `hit 1 2 (damage 5)`, or `hit 1 (damage 5) 2 (damage 9)` where holds differ.
fn mark_in_words(clip: &Clip<'_>, (name, mark, holds): (&str, MarkId, Vec<u32>)) -> String {
    let mut text = name.to_owned();
    for same in holds.chunk_by(|a, b| data_at(clip, mark, *a) == data_at(clip, mark, *b)) {
        same.iter().for_each(|hold| text += &format!(" {hold}"));
        let data = data_in_words(clip, mark, same[0]);
        if !data.is_empty() {
            text += &format!(" ({data})");
        }
    }
    text
}

fn frame_index(reel: &Reel, frame: lucky_reel::id::FrameId) -> u32 {
    reel.frame(frame).map_or(0, |frame| frame.index)
}

fn as_json(reel: &Reel, clip: &Clip<'_>) -> Value {
    let holds = clip
        .holds()
        .map(|hold| json!({ "frame": frame_index(reel, hold.frame), "ticks": hold.ticks.get() }));
    let marks: Map<String, Value> = marks_by_name(reel, clip)
        .into_iter()
        .map(|(name, _, holds)| (name.to_owned(), json!(holds)))
        .collect();
    let data = clip.marks().filter_map(|ClipMark { hold, mark, .. }| {
        let data = data_at(clip, mark, hold);
        let line = json!({ "mark": reel.name(mark), "hold": hold, "data": as_object(&data) });
        (!data.is_empty()).then_some(line)
    });
    let spans: Vec<Value> = clip
        .spans()
        .map(|span| json!({ "name": reel.name(span.span), "from": span.first, "to": span.last }))
        .collect();
    let end = match (clip.repeat, clip.end) {
        (None, _) => Value::Null,
        (_, ClipEnd::Stay) => json!("stay"),
        (_, ClipEnd::First) => json!("first"),
        (_, ClipEnd::Vanish) => json!("vanish"),
        (_, ClipEnd::Play(next)) => json!({ "play": reel.name(next) }),
    };
    json!({
        "role": reel.role_name(clip.id),
        "name": clip.name,
        "mode": clip.mode.to_string(),
        "repeat": clip.repeat,
        "total_ticks": clip.total.get(),
        "cycle_ticks": clip.cycle_time.get(),
        "holds": holds.collect::<Vec<_>>(),
        "marks": marks,
        "data": data.collect::<Vec<_>>(),
        "spans": spans,
        "rest": clip.rest,
        "end": end,
    })
}

fn print_table(out: &mut impl Write, reel: &Reel) -> io::Result<()> {
    let heading = ["clip", "frames", "milliseconds", ">total ms", "mode", "marks", "spans", "end"];
    let mut rows = vec![heading.map(str::to_owned).to_vec()];
    for clip in reel.clips() {
        let frames: Vec<u32> = clip.holds().map(|hold| frame_index(reel, hold.frame)).collect();
        let times: Vec<String> = clip.holds().map(|hold| print::milliseconds(hold.ticks)).collect();
        let mode = match (clip.mode, clip.repeat) {
            (lucky_reel::Mode::Once, _) | (_, None) => clip.mode.to_string(),
            (mode, Some(cycles)) => format!("{mode}, {cycles} times"),
        };
        let marks = marks_by_name(reel, &clip).into_iter();
        let marks = marks.map(|mark| mark_in_words(&clip, mark));
        let spans = clip.spans().map(|ClipSpan { span, first, last, .. }| {
            let name = reel.name(span);
            if first == last {
                format!("{name} {first}")
            } else {
                format!("{name} {first} to {last}")
            }
        });
        let end = match (clip.repeat, clip.end) {
            (None, _) => "never".to_owned(),
            (_, ClipEnd::Stay) => "stay".to_owned(),
            (_, ClipEnd::First) => "first".to_owned(),
            (_, ClipEnd::Vanish) => "vanish".to_owned(),
            (_, ClipEnd::Play(next)) => format!("play {}", reel.name(next)),
        };
        rows.push(vec![
            name_of(reel, &clip),
            runs(&frames),
            if clip.is_still { "stands".to_owned() } else { repeated(&times) },
            print::milliseconds(clip.total),
            mode,
            marks.collect::<Vec<_>>().join(", "),
            spans.collect::<Vec<_>>().join(", "),
            end,
        ]);
    }
    // Most reels have no spans.
    let spans = 6;
    if rows.iter().skip(1).all(|row| row[spans].is_empty()) {
        rows.iter_mut().for_each(|row| drop(row.remove(spans)));
    }
    print::table(out, &rows)
}

/// `0 to 3, 7, 5 to 2`.
fn runs(frames: &[u32]) -> String {
    let mut parts: Vec<String> = Vec::new();
    let mut rest = frames;
    while let [first, tail @ ..] = rest {
        let run = |by: i64| {
            let follows = |(nth, frame): (usize, &u32)| {
                i64::from(*frame) == i64::from(*first) + by * (nth as i64 + 1)
            };
            tail.iter().enumerate().take_while(|step| follows(*step)).count()
        };
        let length = run(1).max(run(-1));
        let length = if length >= 2 { length } else { 0 };
        parts.push(match length {
            0 => first.to_string(),
            _ => format!("{first} to {}", tail[length - 1]),
        });
        rest = &tail[length..];
    }
    shortened(parts)
}

/// `125 each`, or `110, 140 x 3, 90`.
fn repeated(times: &[String]) -> String {
    let same: Vec<&[String]> = times.chunk_by(|a, b| a == b).collect();
    match same[..] {
        [only] if only.len() > 1 => format!("{} each", only[0]),
        _ => {
            let part = |same: &&[String]| match same.len() {
                1 => same[0].clone(),
                count => format!("{} x {count}", same[0]),
            };
            shortened(same.iter().map(part).collect())
        }
    }
}

fn shortened(mut parts: Vec<String>) -> String {
    const MOST: usize = 10;
    if parts.len() > MOST {
        let left_out = parts.len() - MOST;
        parts.truncate(MOST);
        parts.push(format!("… and {left_out} more"));
    }
    parts.join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn frames_are_reported_as_runs() {
        for (frames, expected) in [
            (&[0, 1, 2, 3][..], "0 to 3"),
            (&[5], "5"),
            (&[5, 6], "5, 6"),
            (&[4, 3, 2, 2, 2], "4 to 2, 2, 2"),
            (&[0, 1, 2, 1, 0, 7], "0 to 2, 1, 0, 7"),
            (
                &[0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22],
                "0, 2, 4, 6, 8, 10, 12, 14, 16, 18, … and 2 more",
            ),
        ] {
            assert_eq!(runs(frames), expected);
        }
    }

    #[test]
    fn times_are_reported_once_where_they_repeat() {
        let expected =
            |times: &[&str]| repeated(&times.iter().map(|t| (*t).to_owned()).collect::<Vec<_>>());
        assert_eq!(expected(&["90", "90", "90"]), "90 each");
        assert_eq!(expected(&["90"]), "90");
        assert_eq!(expected(&["90", "40", "40", "90"]), "90, 40 x 2, 90");
    }
}
