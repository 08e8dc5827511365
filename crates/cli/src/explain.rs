use std::io::{self, BufWriter, Write};

use lucky_reel::assets::Limits;
use lucky_reel::{Actor, Cue, ExactTime, Reel, Role, Ticks};
use lucky_reel_tools::script::{Command, Script};
use serde_json::json;

use crate::arguments::{Explain, TraceFormat};
use crate::failure::Failure;
use crate::files::loader;
use crate::rows::{Output, Row};
use crate::updates::Updates;

pub(crate) fn run(arguments: &Explain, limits: Limits) -> Result<(), Failure> {
    let files = arguments.reels.iter();
    let reel = files.fold(loader(limits), |loader, path| loader.file(path)).load_reel()?;
    let role = role_of(&reel, arguments.role.as_deref())?;
    let mut actor = Actor::new(&reel, role.id());
    if let Some(facing) = arguments.facing {
        actor.set_facing(facing);
    }
    for facts in &arguments.facts {
        let shown = Command::facts(facts, role);
        shown.map_err(|(what, fix)| Failure::with_fix(what, fix))?.tell(&reel, &mut actor);
    }
    match &arguments.script {
        None => tell_cues(role, actor, arguments.format),
        Some(path) => {
            let script = read_script(path, role)?;
            play(&reel, &script, actor, arguments)
        }
    }
}

/// The role that is meant: the only one, or the one that is named.
pub(crate) fn role_of<'r>(reel: &'r Reel, name: Option<&str>) -> Result<Role<'r>, Failure> {
    let roles: Vec<Role<'r>> = reel.roles().collect();
    match (name, &roles[..]) {
        (None, [only]) => Ok(*only),
        (None, []) => {
            let fix = "add [facts] and [[cues]], or use `clips` and `trace` to look at its clips";
            Err(Failure::with_fix("no role of this reel has cues", fix))
        }
        (None, _) => {
            let names: Vec<&str> = roles.iter().map(Role::name).collect();
            Err(Failure::with_fix(
                "several roles have cues",
                format!("add --role with one of {}", names.join(", ")),
            ))
        }
        (Some(name), _) => {
            let id = reel.role_id(name)?;
            reel.role(id).ok_or_else(|| Failure::new(format!("there is no role `{name}`")))
        }
    }
}

pub(crate) fn read_script(path: &std::path::Path, role: Role<'_>) -> Result<Script, Failure> {
    let unreadable = |error: io::Error| {
        Failure::with_fix(
            format!("{}: the script cannot be read: {error}", path.display()),
            "check the path",
        )
    };
    let text = std::fs::read_to_string(path).map_err(unreadable)?;
    Ok(Script::parse(path, &text, role)?)
}

/// Which cue wins, and why the others above it do not.
fn tell_cues(role: Role<'_>, mut actor: Actor, format: TraceFormat) -> Result<(), Failure> {
    let cues: Vec<(Cue<'_>, Vec<Vec<String>>)> =
        role.cues().map(|cue| (cue, cue.failing(&actor))).collect();
    let winner = cues.iter().position(|(_, failing)| failing.is_empty()).unwrap_or(cues.len());
    let reel = role.reel();
    actor.advance(reel, Ticks::new(1));
    let clip = reel.clip_name(actor.player().clip());
    let mut out = BufWriter::new(io::stdout().lock());
    match format {
        TraceFormat::Table => {
            let wide = cues.iter().map(|(cue, _)| cue.name().chars().count()).max().unwrap_or(0);
            for (nth, (cue, failing)) in cues.iter().enumerate() {
                let name = cue.name();
                let pad = " ".repeat(wide - name.chars().count());
                let shown = match nth.cmp(&winner) {
                    std::cmp::Ordering::Less => {
                        let any: Vec<String> = failing.iter().map(|all| all.join("; ")).collect();
                        format!("skipped: needs {}", any.join("; or "))
                    }
                    std::cmp::Ordering::Equal if cue.is_always() => {
                        format!("wins because it always matches: plays {clip}")
                    }
                    std::cmp::Ordering::Equal => {
                        let held = cue.conditions();
                        let held: Vec<String> = held.iter().map(|all| all.join(", ")).collect();
                        format!("wins because {}: plays {clip}", held.join(", or "))
                    }
                    std::cmp::Ordering::Greater => "not checked".to_owned(),
                };
                let sign = if nth == winner { ">" } else { " " };
                writeln!(out, "{sign} {name}{pad}  {shown}")?;
            }
        }
        TraceFormat::Csv => {
            writeln!(out, "cue,matches,wins,why")?;
            for (nth, (cue, failing)) in cues.iter().enumerate() {
                let any: Vec<String> = failing.iter().map(|all| all.join("; ")).collect();
                let (matches, wins) = (failing.is_empty(), nth == winner);
                writeln!(out, "{},{matches},{wins},\"{}\"", cue.name(), any.join(" | "))?;
            }
        }
        TraceFormat::Json => {
            for (nth, (cue, failing)) in cues.iter().enumerate() {
                let plays = (nth == winner).then_some(clip);
                let object = json!({
                    "cue": cue.name(), "matches": failing.is_empty(), "wins": nth == winner,
                    "why": failing, "plays": plays,
                });
                writeln!(out, "{object}")?;
            }
        }
    }
    out.flush()?;
    Ok(())
}

/// How long a script is played where that is not said: a second longer than it tells anything.
pub(crate) fn length_of(script: &Script, duration: Option<ExactTime>) -> ExactTime {
    let last = script.lines().last().map_or(Ticks::ZERO, |(at, _)| *at);
    duration.unwrap_or((last + Ticks::from_secs(1)).into())
}

fn play(
    reel: &Reel,
    script: &Script,
    mut actor: Actor,
    arguments: &Explain,
) -> Result<(), Failure> {
    let updates = Updates::open(&arguments.pacing, length_of(script, arguments.duration))?;
    let mut out = Output::new(BufWriter::new(io::stdout().lock()), arguments.format)?;
    let (mut update, mut passed) = (0, Ticks::ZERO);
    updates.each(|dt| {
        update += 1;
        script.advance(reel, &mut actor, passed, dt, |at, event| {
            out.row(&Row::of(reel, update, at, event))
        })?;
        passed += dt;
        out.row(&Row::show(reel, update, passed, actor.player()))?;
        Ok(())
    })?;
    out.finish()?;
    Ok(())
}
