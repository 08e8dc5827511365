//! What is likely a mistake of facings, cues, bridges and phases.

use std::collections::BTreeSet;

use lucky_reel_assets::{Problem, SourceFile, Sources};
use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{
    Actor, Align, ClipEnd, ClipId, CueId, CueTest, EventKind, Facing, FacingSet, FactValue,
    PhaseGroup, Reel, Role, Ticks,
};

/// So many combinations of facts are tried for hand-overs that go round.
const TRIED: usize = 256;
/// More than so many events in one step are not waited for.
const MAX_HAPPENED: usize = 1_000;

pub(super) fn warnings(reel: &Reel, sources: &Sources) -> Vec<Problem> {
    let mut found = Vec::new();
    let file = |role: &str| sources.of_role(role);
    for set in reel.ids().filter_map(|set| reel.facing_set(set)) {
        if let Some(file) = file(reel.role_name(set.id)) {
            found.extend(holes(reel, set, file));
            found.extend(unlike_totals(reel, set, file));
        }
    }
    for group in reel.phase_groups() {
        found.extend(file(group.role).and_then(|file| out_of_step(reel, group, file)));
    }
    for role in reel.ids().filter_map(|role| reel.role(role)) {
        let Some(file) = file(role.name) else { continue };
        found.extend(never_win(role, file));
        found.extend(unused_facts(role, file));
        found.extend(short_pulses(role, file));
        found.extend(unused_clips(reel, role, file));
        found.extend(goes_round(reel, role, file));
    }
    found
}

/// Four main facings but one, or all eight but a few.
fn holes(reel: &Reel, set: FacingSet<'_>, file: &SourceFile) -> Option<Problem> {
    let has = |facing: &Facing| set.has(*facing);
    let (main, between): (Vec<Facing>, Vec<Facing>) =
        Facing::ALL.into_iter().partition(|facing| (*facing as usize).is_multiple_of(2));
    let count = |facings: &[Facing]| facings.iter().filter(|facing| has(facing)).count();
    let wanted = match (count(&main), count(&between)) {
        (3, 0) => main,
        (some, others @ 1..) if some + others > 4 => [main, between].concat(),
        _ => return None,
    };
    let lacking: Vec<&str> =
        wanted.iter().filter(|facing| !has(facing)).map(|facing| facing.name()).collect();
    if lacking.is_empty() {
        return None;
    }
    let what = format!("the set has nothing for {}: the nearest is shown", lacking.join(", "));
    let fix = "give it clips, or mirrors such as left = { mirror = \"right\" }";
    // A set that rows alone have made stands where its clips do.
    file.warning((Section::Facings, set.name, None, None), what.clone(), fix).or_else(|| {
        let clip = reel.name(set.clip(wanted[0]));
        file.warning((Section::Clips, clip, None, None), what, fix)
    })
}

/// Clips of one set that take different times are seldom meant.
fn unlike_totals(reel: &Reel, set: FacingSet<'_>, file: &SourceFile) -> Option<Problem> {
    let clips = Facing::ALL.into_iter().filter_map(|facing| reel.clip(set.clip(facing)));
    let mut clips = clips.filter(|clip| !clip.is_still);
    let first = clips.next()?;
    let other = clips.find(|other| other.cycle_time != first.cycle_time)?;
    let what = format!(
        "{} takes {} ms and {} {} ms, in the set `{}`",
        first.name,
        first.cycle_time.as_millis_f64(),
        other.name,
        other.cycle_time.as_millis_f64(),
        set.name
    );
    let fix = "clips of a set mostly take as long as one another: check their times";
    file.warning((Section::Clips, other.name, Some(Key::Each), None), what, fix)
}

fn out_of_step(reel: &Reel, group: PhaseGroup<'_>, file: &SourceFile) -> Option<Problem> {
    let PhaseGroup { name, clips, align, .. } = group;
    let mut clips = clips.iter().filter_map(|clip| reel.clip(*clip));
    let first = clips.next()?;
    let what = clips.find_map(|other| {
        let (one, another) = (first.name, other.name);
        let (holds, others) = (first.holds().len(), other.holds().len());
        if align == Align::Hold && holds != others {
            Some(format!("{one} has {holds} holds and {another} {others}: no hold for each"))
        } else if first.mode != other.mode {
            Some(format!("{one} is `{}` and {another} `{}`", first.mode, other.mode))
        } else if first.repeat != other.repeat {
            Some(format!("one of {one} and {another} comes to an end sooner"))
        } else {
            None
        }
    })?;
    let fix = "keep clips in step that are made alike, or use align = \"time\"";
    file.warning(
        (Section::Phases, name, Some(Key::Clips), None),
        format!("they cannot keep in step: {what}"),
        fix,
    )
}

/// Cues that one above them covers.
fn never_win(role: Role<'_>, file: &SourceFile) -> Vec<Problem> {
    let cues: Vec<_> = role.cues().collect();
    let covered = cues.iter().enumerate().filter_map(|(nth, cue)| {
        let above = cues[..nth].iter().find(|above| above.matches_whenever(cue))?;
        let what = format!("it can never win: `{}` above it matches whenever it does", above.name);
        let fix = "move it up, or make the condition of the other one narrower";
        file.warning((Section::Cues, cue.name, None, None), what, fix)
    });
    covered.collect()
}

fn unused_facts(role: Role<'_>, file: &SourceFile) -> Vec<Problem> {
    let mut used: BTreeSet<&str> = role.cues().filter_map(|cue| cue.speed_fact).collect();
    for test in role.cues().flat_map(|cue| cue.conditions()).flatten() {
        if let CueTest::Is(fact, _) | CueTest::Within(fact, _) = test {
            used.insert(fact);
        }
    }
    let unused = role.facts().filter(|fact| !used.contains(fact.name));
    let warnings = unused.filter_map(|fact| {
        let what = "no cue asks about this fact".to_owned();
        file.warning((Section::Facts, fact.name, None, None), what, "use it, or leave it out")
    });
    warnings.collect()
}

/// A pulse is over in an instant: what it started is cut short by the next look.
fn short_pulses(role: Role<'_>, file: &SourceFile) -> Vec<Problem> {
    let short = role.cues().filter(|cue| cue.names_pulse && !cue.finishes);
    let warnings = short.filter_map(|cue| {
        let what = "once its pulse has fallen, any change of facts cuts it short".to_owned();
        let fix = "add finish = true, if it should play to its end";
        file.warning((Section::Cues, cue.name, Some(Key::When), None), what, fix)
    });
    warnings.collect()
}

/// In a role with cues these choose what plays; what they never choose is perhaps forgotten.
fn unused_clips(reel: &Reel, role: Role<'_>, file: &SourceFile) -> Vec<Problem> {
    let mut used: BTreeSet<ClipId> = role.clips().into_iter().collect();
    let next = |clip: ClipId| match reel.clip(clip)?.end {
        ClipEnd::Play(next) => Some(next),
        _ => None,
    };
    for mut clip in used.clone() {
        while let Some(after) = next(clip).filter(|after| used.insert(*after)) {
            clip = after;
        }
    }
    let sets = reel.ids().filter_map(|set| reel.facing_set(set));
    used.extend(sets.flat_map(|set| Facing::ALL.map(|facing| set.clip(facing))));
    used.extend(reel.ids().flat_map(|look| reel.look_clips(look)));
    let mine = reel.clips().filter(|clip| reel.role_name(clip.id) == role.name);
    let warnings = mine.filter(|clip| !used.contains(&clip.id)).filter_map(|clip| {
        let what = format!("no cue, bridge, set or look uses the clip `{}`", clip.name);
        let fix = "use it, or leave it out if the game does not play it by name";
        file.warning((Section::Clips, clip.name, None, None), what, fix)
    });
    warnings.collect()
}

/// Hand-overs that go round in one instant, found by trying facts.
fn goes_round(reel: &Reel, role: Role<'_>, file: &SourceFile) -> Option<Problem> {
    let facts: Vec<_> = role.facts().collect();
    let flags = facts.iter().filter(|f| matches!(f.default, FactValue::Flag(_)));
    let flags: Vec<&str> = flags.map(|fact| fact.name).take(TRIED.ilog2() as usize).collect();
    let round = (0..1_usize << flags.len()).find_map(|bits| {
        let mut actor = Actor::new(reel, role.id);
        for (nth, name) in flags.iter().enumerate() {
            let _ = actor.set_by_name(reel, name, &FactValue::Flag(bits >> nth & 1 == 1));
        }
        cut_off(reel, actor)
    })?;
    let what = "cues hand over to one another without end in one instant".to_owned();
    let fix = "a mark or a span that changes facts at once calls the other back: make it last";
    file.warning((Section::Cues, reel.name(round), None, None), what, fix)
}

/// The cue at which an actor is cut off, if it is within a minute and before too much has happened.
fn cut_off(reel: &Reel, mut actor: Actor) -> Option<CueId> {
    let (mut last, mut passed, mut dt) = (None, Ticks::ZERO, Ticks::new(1));
    while passed < Ticks::from_secs(60) {
        let mut happened = 0;
        for event in actor.advance(reel, dt).take(MAX_HAPPENED) {
            match event.kind {
                EventKind::Cue(cue, _) => last = Some(cue),
                EventKind::CueLoop => return last,
                _ => {}
            }
            happened += 1;
        }
        // In twice the time there happens hardly more than twice as much.
        if happened >= MAX_HAPPENED {
            return None;
        }
        passed += dt;
        dt = dt + dt;
    }
    None
}
