use std::io::{self, BufWriter, Write};

use lucky_reel::assets::Limits;
use lucky_reel::{Actor, Reel, Ticks, cue::Role, id::RoleId, time::ExactTime};
use lucky_reel_tools::explain::{Outcome, Verdict, verdicts};
use lucky_reel_tools::script::{Command, Script};
use serde_json::json;

use crate::arguments::{Explain, TraceFormat};
use crate::failure::Failure;
use crate::files::loader_of;
use crate::rows::{Output, Row};
use crate::updates::Updates;

pub(crate) fn run(arguments: &Explain, limits: Limits) -> Result<(), Failure> {
    let reel = loader_of(&arguments.reels, limits)?.load_reel()?;
    let role = role_of(&reel, arguments.role.as_deref())?;
    let mut actor = Actor::new(&reel, role.id);
    if let Some(facing) = arguments.facing {
        actor.set_facing(facing);
    }
    for facts in &arguments.facts {
        let set = Command::facts(facts, role);
        set.map_err(|advice| Failure::with_fix(advice.message, advice.fix))?
            .tell(&reel, &mut actor);
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
    let roles: Vec<Role<'r>> = reel.ids().filter_map(|role| reel.role(role)).collect();
    match (name, &roles[..]) {
        (None, [only]) => Ok(*only),
        (None, []) => {
            let fix = "add [facts] and [[cues]], or use `clips` and `trace` to look at its clips";
            Err(Failure::with_fix("no role of this reel has cues", fix))
        }
        (None, _) => {
            let names: Vec<&str> = roles.iter().map(|role| role.name).collect();
            Err(Failure::with_fix(
                "several roles have cues",
                format!("add --role with one of {}", names.join(", ")),
            ))
        }
        (Some(name), _) => {
            let id: RoleId = reel.id(name)?;
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
    let verdicts = verdicts(role, &actor);
    let reel = role.reel;
    actor.advance(reel, Ticks::new(1));
    let clip = reel.name(actor.player().clip());
    let mut out = BufWriter::new(io::stdout().lock());
    match format {
        TraceFormat::Table => {
            let length = |verdict: &Verdict<'_>| verdict.cue.name.chars().count();
            let wide = verdicts.iter().map(length).max().unwrap_or(0);
            for verdict in &verdicts {
                let pad = " ".repeat(wide - length(verdict));
                let (sign, text) = match verdict.outcome {
                    Outcome::Skipped => (" ", format!("skipped: {}", verdict.reason())),
                    Outcome::Wins => (">", format!("wins {}: plays {clip}", verdict.reason())),
                    Outcome::NotChecked => (" ", verdict.reason()),
                };
                writeln!(out, "{sign} {}{pad}  {text}", verdict.cue.name)?;
            }
        }
        TraceFormat::Csv => {
            writeln!(out, "cue,matches,wins,why")?;
            for Verdict { cue, outcome, failing } in &verdicts {
                let any: Vec<String> = failing.iter().map(|all| all.join("; ")).collect();
                let (matches, wins) = (failing.is_empty(), *outcome == Outcome::Wins);
                writeln!(out, "{},{matches},{wins},\"{}\"", cue.name, any.join(" | "))?;
            }
        }
        TraceFormat::Json => {
            for Verdict { cue, outcome, failing } in &verdicts {
                let wins = *outcome == Outcome::Wins;
                let object = json!({
                    "cue": cue.name, "matches": failing.is_empty(), "wins": wins,
                    "why": failing, "plays": wins.then_some(clip),
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
