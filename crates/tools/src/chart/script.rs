use std::collections::BTreeMap;

use lucky_reel_core::{Actor, ClipId, EventKind, Role, Speed, Ticks};

use super::{Chart, WIDTH, milliseconds};
use crate::drawing::{Drawing, Ink, Theme};
use crate::script::{Command, Script};
use lucky_reel_assets::Art;

/// Names stand to the left of their lanes.
const LEFT: i32 = 170;
const LANE: i32 = WIDTH - LEFT - 40;
const TOP: i32 = 96;
/// A lane of a fact, and of what plays.
const FACT: i32 = 30;
const PLAYS: i32 = 50;
const MARKS: i32 = 22;
/// A script with more changes is not drawn.
const MOST: usize = 20_000;

/// A stretch of a lane: from, to, what it says, and how strongly it is drawn.
struct Stretch {
    from: Ticks,
    to: Ticks,
    text: String,
    color: Ink,
}

/// Draws an actor of a role that follows a script: facts as lanes over time, the facing, and the cues,
/// bridges and clips under them, with the marks that were passed.
///
/// `None` when so much happens that the picture would be too large.
#[must_use]
pub fn script(
    art: &Art,
    role: Role<'_>,
    script: &Script,
    lasting: Ticks,
    theme: Theme,
) -> Option<Chart> {
    let facts = fact_lanes(role, script, lasting);
    let played = Played::of(art, role, script, lasting)?;
    let (lanes, marks) = (facts.len() as i32, played.marks.len() as i32);
    let height = TOP + lanes * FACT + 40 + 2 * PLAYS + marks * MARKS + 70;
    let mut sheet = Drawing::new([WIDTH as u32, height as u32], theme)?;
    sheet.write([40, 46], 22.0, Ink::Letters, role.name);
    let line = format!("{} of a script, facts above and what plays below", milliseconds(lasting));
    sheet.write([40, 74], 13.0, Ink::Dim, &line);
    let scale = f64::from(LANE) / lasting.get().max(1) as f64;
    let mut top = TOP;
    for (name, stretches) in &facts {
        draw_lane(&mut sheet, name, stretches, [top, FACT - 6], scale);
        top += FACT;
    }
    top += 40;
    for (name, stretches) in [("cue", &played.cues), ("clip", &played.clips)] {
        draw_lane(&mut sheet, name, stretches, [top, PLAYS - 18], scale);
        top += PLAYS;
    }
    for (name, passed) in &played.marks {
        draw_marks(&mut sheet, name, passed, top, scale);
        top += MARKS;
    }
    draw_scale(&mut sheet, lasting, [TOP, top + 8], scale);
    Some(Chart(sheet))
}

/// What each fact is when; facts that are never set are left out.
fn fact_lanes(role: Role<'_>, script: &Script, lasting: Ticks) -> Vec<(String, Vec<Stretch>)> {
    let mut lanes = Vec::new();
    for fact in role.facts() {
        let mut values: Vec<(Ticks, String)> = Vec::new();
        for (at, command) in script.lines() {
            let Command::Set(facts) = command else { continue };
            let values_set = facts.iter().filter(|(name, _)| name == fact.name);
            values.extend(values_set.map(|(_, value)| (*at, value.to_string())));
        }
        let pulse = fact.pulse.is_some();
        if values.is_empty() {
            continue;
        }
        if !pulse && values[0].0 > Ticks::ZERO {
            values.insert(0, (Ticks::ZERO, fact.default.to_string()));
        }
        let ends = values.iter().skip(1).map(|(at, _)| *at).chain([lasting]);
        let stretches = values.iter().zip(ends).map(|((at, text), next)| {
            let quiet = text == "false" || text == "0";
            // A pulse is a moment, drawn wide enough to be seen.
            let to = if pulse { (*at + Ticks::new(lasting.get() / 160)).min(next) } else { next };
            let (text, color) = match (pulse, quiet) {
                (true, _) => (String::new(), Ink::Mark),
                (false, true) => (text.clone(), Ink::Box(0)),
                (false, false) => (text.clone(), Ink::Edge),
            };
            Stretch { from: *at, to, text, color }
        });
        lanes.push((fact.name.to_owned(), stretches.collect()));
    }
    lanes.extend(setting_lanes(role, script, lasting));
    lanes
}

/// The facing, the looks that are worn, the speed and hit-stops, as far as the script sets them.
fn setting_lanes(role: Role<'_>, script: &Script, lasting: Ticks) -> Vec<(String, Vec<Stretch>)> {
    let mut lanes: [(&str, Vec<(Ticks, String)>); 3] =
        [("facing", Vec::new()), ("look", Vec::new()), ("speed", Vec::new())];
    let mut worn: Vec<&str> = Vec::new();
    let mut stops: Vec<(Ticks, Ticks)> = Vec::new();
    let (mut speed, mut paused) = (Speed::NORMAL, false);
    for (at, command) in script.lines() {
        let (lane, text) = match command {
            Command::Face(facing) => (0, facing.name().to_owned()),
            Command::Wear(look) => {
                worn.push(role.reel.name(*look));
                (1, worn.join(", "))
            }
            Command::TakeOff(look) => {
                worn.retain(|name| *name != role.reel.name(*look));
                (1, worn.join(", "))
            }
            Command::Speed(_) | Command::Pause | Command::Resume => {
                match command {
                    Command::Speed(new) => speed = *new,
                    other => paused = *other == Command::Pause,
                }
                let text = if paused { "paused".to_owned() } else { format!("{}", speed.to_f64()) };
                (2, text)
            }
            Command::HitStop(time) => {
                stops.push((*at, (*at + *time).min(lasting)));
                continue;
            }
            Command::Set(_) => continue,
        };
        lanes[lane].1.push((*at, text));
    }
    let stops: Vec<Stretch> = stops
        .into_iter()
        .map(|(from, to)| Stretch { from, to, text: String::new(), color: Ink::Mark })
        .collect();
    let stops = (!stops.is_empty()).then(|| ("hit-stop".to_owned(), stops));
    let defaults = ["", "", "1"];
    let drawn = lanes.into_iter().zip(defaults).filter(|((_, values), _)| !values.is_empty());
    drawn
        .map(|((name, mut values), default)| {
            values.sort_by_key(|(at, _)| *at);
            if values[0].0 > Ticks::ZERO {
                values.insert(0, (Ticks::ZERO, default.to_owned()));
            }
            let ends: Vec<Ticks> = values.iter().skip(1).map(|(at, _)| *at).collect();
            let ends = ends.into_iter().chain([lasting]);
            let stretches = values.into_iter().zip(ends).map(|((from, text), to)| {
                let color = if text == default { Ink::Box(0) } else { Ink::Edge };
                Stretch { from, to, text, color }
            });
            (name.to_owned(), stretches.collect())
        })
        .chain(stops)
        .collect()
}

/// What an actor plays when.
struct Played {
    cues: Vec<Stretch>,
    clips: Vec<Stretch>,
    marks: BTreeMap<String, Vec<Ticks>>,
}

impl Played {
    fn of(art: &Art, role: Role<'_>, script: &Script, lasting: Ticks) -> Option<Played> {
        let reel = &art.reel;
        let mut actor = Actor::new(reel, role.id);
        let mut played = Played { cues: Vec::new(), clips: Vec::new(), marks: BTreeMap::new() };
        let (mut last_clip, mut events) = (None::<ClipId>, 0_usize);
        let followed = script.advance(reel, &mut actor, Ticks::ZERO, lasting, |at, event| {
            events += 1;
            if events > MOST {
                return Err(());
            }
            match event.kind {
                EventKind::Cue(cue, _) => {
                    begin(&mut played.cues, at, reel.name(cue), Ink::Edge);
                }
                EventKind::Bridge(bridge, _) => {
                    begin(&mut played.cues, at, reel.name(bridge), Ink::SpanBox);
                }
                EventKind::Enter(_) if last_clip != Some(event.clip) => {
                    last_clip = Some(event.clip);
                    begin(&mut played.clips, at, reel.name(event.clip), Ink::Box(1));
                }
                EventKind::Mark(mark) => {
                    let passed = played.marks.entry(reel.name(mark).to_owned());
                    passed.or_default().push(at);
                }
                _ => {}
            }
            Ok(())
        });
        followed.ok()?;
        for lane in [&mut played.cues, &mut played.clips] {
            if let Some(last) = lane.last_mut() {
                last.to = lasting;
            }
        }
        Some(played)
    }
}

/// What was up until now ends; something else begins.
fn begin(lane: &mut Vec<Stretch>, at: Ticks, text: &str, color: Ink) {
    if let Some(last) = lane.last_mut() {
        last.to = at;
    }
    lane.push(Stretch { from: at, to: at, text: text.to_owned(), color });
}

fn x_of(at: Ticks, scale: f64) -> i32 {
    LEFT + (at.get() as f64 * scale).round() as i32
}

fn draw_lane(
    sheet: &mut Drawing,
    name: &str,
    stretches: &[Stretch],
    [top, height]: [i32; 2],
    scale: f64,
) {
    let base = top + height / 2 + 5;
    let wide = sheet.width(12.0, name);
    sheet.write([LEFT - 14 - wide, base], 12.0, Ink::Letters, name);
    sheet.fill([LEFT, top + height - 1], [LANE, 1], Ink::Box(0));
    let mut free = 0;
    for stretch in stretches {
        let (from, to) =
            (x_of(stretch.from, scale), x_of(stretch.to, scale).max(x_of(stretch.from, scale) + 2));
        sheet.fill([from, top], [to - from - 1, height], stretch.color);
        let wide = sheet.width(12.0, &stretch.text);
        if wide <= to - from - 4 {
            sheet.write([from + (to - from - wide) / 2, base], 12.0, Ink::Letters, &stretch.text);
        } else {
            // Too narrow for its name, which stands above it where there is room.
            let wide = sheet.width(12.0, &stretch.text);
            let x = (from + (to - from - wide) / 2).min(WIDTH - wide - 4);
            if height > FACT && x >= free {
                sheet.write([x, top - 4], 12.0, Ink::Dim, &stretch.text);
                free = x + wide + 8;
            }
        }
    }
}

/// When a mark was passed.
fn draw_marks(sheet: &mut Drawing, name: &str, passed: &[Ticks], top: i32, scale: f64) {
    let wide = sheet.width(12.0, name);
    sheet.write([LEFT - 14 - wide, top + 14], 12.0, Ink::Mark, name);
    for at in passed {
        let x = x_of(*at, scale);
        sheet.fill([x, top + 2], [2, MARKS - 6], Ink::Mark);
    }
}

/// Lines at round times, so that there are some ten of them.
fn draw_scale(sheet: &mut Drawing, lasting: Ticks, [top, bottom]: [i32; 2], scale: f64) {
    const STEPS: [u64; 12] = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000];
    let millis = lasting.as_millis_f64();
    let step = STEPS.into_iter().find(|step| millis / *step as f64 <= 14.0).unwrap_or(10_000);
    let end = format!("end {} ms", (millis * 100.0).round() / 100.0);
    let end_at = x_of(lasting, scale) - sheet.width(12.0, &end);
    let times = (0..).map(|nth| Ticks::from_millis(nth * step)).take_while(|at| *at <= lasting);
    for at in times.take(2_000) {
        let x = x_of(at, scale);
        sheet.fill([x, bottom], [1, 8], Ink::Edge);
        sheet.fill([x, top], [1, bottom - top], Ink::Faint);
        let text = format!("{} ms", at.as_millis_f64());
        let wide = sheet.width(12.0, &text);
        if x + wide / 2 + 10 < end_at {
            sheet.write([x - wide / 2, bottom + 24], 12.0, Ink::Dim, &text);
        }
    }
    sheet.fill([x_of(lasting, scale), top], [2, bottom - top + 8], Ink::Mark);
    sheet.write([end_at, bottom + 24], 12.0, Ink::Mark, &end);
}
