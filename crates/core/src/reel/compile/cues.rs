//! Roles: facts, cues, bridges and phases.

use alloc::boxed::Box;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::{Fault, Refuse};
use crate::clip::{ClipData, Mode};
use crate::cue::{
    BridgeData, Condition, CueData, FactData, FactKind, FactValue, MOST_FACTS, MOST_SPANS, NewCue,
    NewFact, NewSpeed, NewTarget, NewWhen, PhaseData, RoleData, SpeedBy, Target, Test, When,
    Within,
};
use crate::facing::Align;
use crate::ids::{BridgeId, ClipId, CueId, FacingsId, MarkId, SpanId};
use crate::reel::builder::Added;
use crate::reel::{ReelBuilder, ReelData};

/// A pulse lasts at most so many ticks: 59 seconds.
const LONGEST_PULSE: u64 = 59 * crate::time::Ticks::PER_SECOND;
/// A fact has at most so many words.
const MOST_WORDS: usize = 64;
const MOST_CUES: usize = 1_000;

pub(super) fn compile(builder: &ReelBuilder, data: &mut ReelData, faults: &mut Vec<Fault>) {
    let mut roles: Vec<&str> = Vec::new();
    let of_cues = builder.cues.iter().map(|cue| &*cue.role);
    for role in of_cues.chain(builder.facts.iter().map(|fact| &*fact.role)) {
        if !roles.contains(&role) {
            roles.push(role);
        }
    }
    for role in roles {
        let Some(id) = data.names.roles.add("", role) else { continue };
        let mut compiler = RoleCompiler { role, builder, data, faults, spans: Vec::new() };
        let compiled = compiler.compile();
        let index = usize::from(id);
        if data.roles.len() <= index {
            data.roles.resize_with(index + 1, || None);
        }
        data.roles[index] = Some(compiled);
    }
    let lost = builder.clips.iter().enumerate().filter_map(|(id, clip)| Some((id, clip.as_ref()?)));
    for (id, clip) in lost.filter(|(_, clip)| !clip.sets.is_empty()) {
        let role = data.names.clips.get(id).map_or("", |name| &name.role);
        if data.names.roles.find("", role).is_none() {
            let mut refuse = Refuse::new("clips", &data.names.clips, id, faults);
            let key = format!("marks.{}.set", clip.sets[0].0);
            let problem = "a mark sets a fact, and the role has none".to_string();
            refuse.say(&key, None, problem, "add the fact: [facts]");
        }
    }
    add_phases(builder, data, faults);
}

struct RoleCompiler<'a> {
    role: &'a str,
    builder: &'a ReelBuilder,
    data: &'a mut ReelData,
    faults: &'a mut Vec<Fault>,
    /// The spans that cues name so far.
    spans: Vec<SpanId>,
}

impl RoleCompiler<'_> {
    fn compile(&mut self) -> RoleData {
        let (facts, defaults) = self.facts();
        let mine = |cue: &&Added<NewCue>| cue.role == self.role;
        let cues: Vec<&Added<NewCue>> = self.builder.cues.iter().filter(mine).collect();
        let mut role =
            RoleData { facts, defaults, cues: Vec::new(), bridges: Vec::new(), spans: Vec::new() };
        for cue in &cues {
            let compiled = self.cue(cue, &role.facts);
            role.cues.extend(compiled);
        }
        match cues.last() {
            Some(last) if !last.new.when.is_empty() => {
                let problem = "the last cue does not hold always".to_string();
                let remedy = "leave out its `when`, or add a last cue without one, such as resting";
                self.refuse("cues", &last.name).say("when", None, problem, remedy);
            }
            Some(_) => {}
            None => {
                let first = self.builder.facts.iter().find(|fact| fact.role == self.role);
                let name = first.map_or_else(String::new, |fact| fact.name.clone());
                let problem = "the role has facts and no cues".to_string();
                self.refuse("facts", &name).say("", None, problem, "add a cue: [[cues]]");
            }
        }
        if cues.len() > MOST_CUES {
            let problem = format!("{} cues; a role has at most {MOST_CUES}", cues.len());
            self.refuse("cues", &cues[0].name).say("", None, problem, "use fewer");
        }
        role.bridges = self.bridges();
        role.spans = core::mem::take(&mut self.spans);
        self.watch(&role.spans);
        self.mark_sets(&role.facts);
        role
    }

    fn refuse(&mut self, table: &'static str, name: &str) -> Refuse<'_> {
        let (role, name) = (self.role.to_string(), name.to_string());
        Refuse { table, role, name, faults: self.faults }
    }

    fn facts(&mut self) -> (Vec<Option<FactData>>, [u32; MOST_FACTS]) {
        let (mut facts, mut defaults) = (Vec::new(), [0; MOST_FACTS]);
        let (builder, role) = (self.builder, self.role);
        for fact in builder.facts.iter().filter(|fact| fact.role == role) {
            let slot = self.data.names.facts.rank(fact.id);
            if slot >= MOST_FACTS {
                let problem = format!("a role has at most {MOST_FACTS} facts");
                let remedy = "use fewer (those that a reload took away count until a restart)";
                self.refuse("facts", &fact.name).say("", None, problem, remedy);
                break;
            }
            if let Some((data, bits)) = self.fact(fact) {
                facts.resize_with(facts.len().max(slot + 1), || None);
                facts[slot] = Some(data);
                defaults[slot] = bits;
            }
        }
        (facts, defaults)
    }

    fn fact(&mut self, added: &Added<NewFact>) -> Option<(FactData, u32)> {
        let NewFact { kind, default, words, lasts } = &added.new;
        let mut refuse = self.refuse("facts", &added.name);
        if *kind == FactKind::Words {
            let twice = words.iter().enumerate().any(|(nth, word)| words[..nth].contains(word));
            if words.is_empty() || words.len() > MOST_WORDS || twice {
                let problem = format!("the words must differ, and be 1 to {MOST_WORDS}");
                let remedy = "give such as { words = [\"none\", \"left\", \"right\"] }";
                refuse.say("words", None, problem, remedy);
                return None;
            }
        }
        let lasts = lasts.to_ticks().get();
        if lasts > LONGEST_PULSE {
            let problem = "a pulse lasts at most 59 seconds".to_string();
            refuse.say("pulse", None, problem, "make it shorter");
            return None;
        }
        let lasts = lasts.max(1) as u32;
        let data = FactData { name: added.name.clone(), kind: *kind, words: words.clone(), lasts };
        let bits = match bits_of(&data, default) {
            Ok(bits) => bits,
            Err((problem, remedy)) => {
                refuse.say("", None, problem, remedy);
                return None;
            }
        };
        Some((data, if *kind == FactKind::Pulse { 0 } else { bits }))
    }

    fn cue(&mut self, added: &Added<NewCue>, facts: &[Option<FactData>]) -> Option<CueData> {
        let new = &added.new;
        let before = self.faults.len();
        let target = self.target("cues", &added.name, &new.target);
        let mut when = Vec::new();
        for (nth, condition) in new.when.iter().enumerate() {
            let several = (new.when.len() > 1).then_some(nth);
            when.push(self.condition(&added.name, several, condition, facts));
        }
        let mut begin = Vec::new();
        for (nth, (from, hold)) in new.begin.iter().enumerate() {
            let cue = self.other_cue("cues", &added.name, "begin.from", nth, from);
            let shortest = target.and_then(|target| self.shortest(target));
            match (cue, shortest) {
                (Some(_), Some(count)) if *hold as usize >= count => {
                    let problem = format!("the clip has no hold {hold}");
                    let remedy = format!("its holds are 0 to {}", count - 1);
                    let mut refuse = self.refuse("cues", &added.name);
                    refuse.say("begin.hold", Some(nth), problem, remedy);
                }
                (Some(cue), _) => begin.push((cue, *hold as u16)),
                _ => {}
            }
        }
        if new.finish && !target.is_none_or(|target| self.is_finite(target)) {
            let problem = "it shall run to the end of a clip that never ends".to_string();
            let remedy = "leave out `finish`, or give the clip mode \"once\" or `repeat`";
            self.refuse("cues", &added.name).say("finish", None, problem, remedy);
        }
        let speed = match &new.speed {
            None => None,
            Some(NewSpeed::Factor(fact)) => {
                self.number(&added.name, "speed.fact", fact, facts).map(SpeedBy::Factor)
            }
            Some(NewSpeed::Ground(fact)) => {
                let covers = target.is_none_or(|target| self.covers_ground(target));
                if !covers {
                    let problem = "the clip does not say what ground it covers".to_string();
                    let remedy = "give the clip `covers`, the pixels that a cycle covers";
                    self.refuse("cues", &added.name).say("speed.ground", None, problem, remedy);
                }
                self.number(&added.name, "speed.ground", fact, facts).map(SpeedBy::Ground)
            }
        };
        let pulses = when.iter().flatten().flatten().fold(0, |pulses, test| match test {
            Test::Flag { slot, pulse: true, .. } => pulses | 1 << slot,
            _ => pulses,
        });
        let id = CueId(added.id);
        let NewCue { turns, finish, again, .. } = *new;
        let when: Option<Vec<Condition>> = when.into_iter().collect();
        let sound = self.faults.len() == before;
        let (target, when) = (target?, when?);
        sound.then_some(CueData { id, when, target, turns, finish, again, begin, speed, pulses })
    }

    fn condition(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        condition: &When,
        facts: &[Option<FactData>],
    ) -> Option<Condition> {
        let tests: Vec<Option<Test>> =
            condition.all.iter().map(|part| self.test(cue, nth, part, facts)).collect();
        tests.into_iter().collect()
    }

    fn test(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        part: &NewWhen,
        facts: &[Option<FactData>],
    ) -> Option<Test> {
        let (name, values, is) = match part {
            NewWhen::Is(name, values) => (name, values, true),
            NewWhen::IsNot(name, values) => (name, values, false),
            NewWhen::Within { fact, from, to } => {
                let (slot, data) = self.fact_named(cue, nth, fact, facts)?;
                let whole = data.kind == FactKind::Whole;
                if !matches!(data.kind, FactKind::Whole | FactKind::Number) {
                    let problem = format!("`{fact}` is {}, not a number", data.kind.told());
                    let remedy = "compare it with one of its own values";
                    self.refuse("cues", cue).say(&format!("when.{fact}"), nth, problem, remedy);
                    return None;
                }
                if from.0.is_nan() || to.0.is_nan() || from.0 > to.0 {
                    let problem = "no number lies there".to_string();
                    let remedy = "write such as \"> 0\" or \"-2 to 3\"";
                    self.refuse("cues", cue).say(&format!("when.{fact}"), nth, problem, remedy);
                    return None;
                }
                let within = [Within { from: *from, to: *to }].into();
                return Some(Test::Number { slot, whole, within });
            }
            NewWhen::Inside(span) => return self.inside(cue, nth, span),
            NewWhen::Facing(facings) => {
                let among = facings.iter().fold(0, |bits, facing| bits | 1 << *facing as u8);
                return Some(Test::Facing { among });
            }
        };
        let (slot, data) = self.fact_named(cue, nth, name, facts)?;
        let (data, kind) = (data.clone(), data.kind);
        let mut bits = Vec::new();
        for value in values {
            match bits_of(&data, value) {
                Ok(value) => bits.push(value),
                Err((problem, remedy)) => {
                    self.refuse("cues", cue).say(&format!("when.{name}"), nth, problem, remedy);
                    return None;
                }
            }
        }
        let first = bits.first().copied().unwrap_or(0) != 0;
        Some(match kind {
            FactKind::Flag | FactKind::Pulse => {
                Test::Flag { slot, wanted: first == is, pulse: kind == FactKind::Pulse }
            }
            FactKind::Words => {
                let among = bits.iter().fold(0_u64, |among, word| among | 1 << word);
                Test::Word { slot, among: if is { among } else { !among } }
            }
            FactKind::Whole | FactKind::Number => {
                let whole = kind == FactKind::Whole;
                let number = |bits: &u32| {
                    if whole { f64::from(*bits as i32) } else { f64::from(f32::from_bits(*bits)) }
                };
                let numbers: Vec<f64> = bits.iter().map(number).collect();
                Test::Number { slot, whole, within: numbers_within(numbers, is) }
            }
        })
    }

    fn inside(&mut self, cue: &str, nth: Option<usize>, span: &str) -> Option<Test> {
        let names = &self.data.names.spans;
        let Some(id) = names.find(self.role, span).filter(|id| names.get((*id).into()).is_some())
        else {
            let mut refuse = Refuse {
                table: "cues",
                role: self.role.to_string(),
                name: cue.to_string(),
                faults: self.faults,
            };
            refuse.say_unknown("when.inside", nth, "span", span, names);
            return None;
        };
        let known = self.spans.iter().position(|known| *known == SpanId(id));
        let bit = known.unwrap_or_else(|| {
            self.spans.push(SpanId(id));
            self.spans.len() - 1
        });
        if bit >= MOST_SPANS {
            let problem = format!("the cues of a role name at most {MOST_SPANS} spans");
            self.refuse("cues", cue).say("when.inside", nth, problem, "use fewer");
            return None;
        }
        Some(Test::Inside { span: bit as u8 })
    }

    fn fact_named<'f>(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        name: &str,
        facts: &'f [Option<FactData>],
    ) -> Option<(u8, &'f FactData)> {
        let known =
            facts.iter().enumerate().filter_map(|(slot, fact)| Some((slot, fact.as_ref()?)));
        let found = known.clone().find(|(_, fact)| fact.name == name);
        // A fact that is at fault itself has told so.
        let declared = self.builder.facts.iter().any(|f| f.role == self.role && f.name == name);
        if found.is_none() && !declared {
            let names = known.map(|(_, fact)| &*fact.name);
            let remedy = match super::nearest(name, names) {
                Some(near) => format!("did you mean `{near}`?"),
                None => "add it to the facts".to_string(),
            };
            let problem = format!("there is no fact `{name}`");
            self.refuse("cues", cue).say(&format!("when.{name}"), nth, problem, remedy);
        }
        found.map(|(slot, fact)| (slot as u8, fact))
    }

    /// A fact that is a number, for a speed.
    fn number(
        &mut self,
        cue: &str,
        key: &str,
        fact: &str,
        facts: &[Option<FactData>],
    ) -> Option<u8> {
        let found = facts.iter().position(|data| {
            data.as_ref().is_some_and(|data| data.name == fact && data.kind == FactKind::Number)
        });
        if found.is_none() {
            let problem = format!("there is no number `{fact}` among the facts");
            let remedy = "name a fact whose default is a number with a point, such as pace = 1.0";
            self.refuse("cues", cue).say(key, None, problem, remedy);
        }
        found.map(|slot| slot as u8)
    }

    fn target(&mut self, table: &'static str, name: &str, target: &NewTarget) -> Option<Target> {
        let names = &self.data.names;
        let (kind, key, wanted, names) = match target {
            NewTarget::Clip(clip) => ("clip", "play", clip, &names.clips),
            NewTarget::Facings(set) => ("facing set", "play.facings", set, &names.facings),
        };
        let (role, short) = wanted.split_once('/').unwrap_or((self.role, wanted));
        let found = names.find(role, short).filter(|id| names.get((*id).into()).is_some());
        match (found, target) {
            (Some(id), NewTarget::Clip(_)) => Some(Target::Clip(ClipId(id))),
            (Some(id), NewTarget::Facings(_)) => Some(Target::Facings(FacingsId(id))),
            (None, _) => {
                let (role, name) = (self.role.to_string(), name.to_string());
                let mut refuse = Refuse { table, role, name, faults: self.faults };
                refuse.say_unknown(key, None, kind, wanted, names);
                None
            }
        }
    }

    /// The clips that a target may play.
    fn clips_of(&self, target: Target) -> Vec<&ClipData> {
        let ids = match target {
            Target::Clip(clip) => [clip].into(),
            Target::Facings(set) => {
                let set = self.data.facings.get(set.index()).and_then(Option::as_ref);
                set.map_or_else(Vec::new, |set| set.clips.to_vec())
            }
        };
        ids.iter().filter_map(|id| self.data.clips.get(id.index())?.as_ref()).collect()
    }

    fn is_finite(&self, target: Target) -> bool {
        self.clips_of(target).iter().all(|clip| clip.repeat > 0 || clip.mode == Mode::Once)
    }

    fn covers_ground(&self, target: Target) -> bool {
        self.clips_of(target).iter().all(|clip| clip.units_for_ground > 0)
    }

    /// How many holds the shortest clip of a target has.
    fn shortest(&self, target: Target) -> Option<usize> {
        self.clips_of(target).iter().map(|clip| clip.holds.len()).min()
    }

    fn other_cue(
        &mut self,
        table: &'static str,
        name: &str,
        key: &str,
        nth: usize,
        cue: &str,
    ) -> Option<CueId> {
        let builder = self.builder;
        let mut mine = builder.cues.iter().filter(|known| known.role == self.role);
        let found = mine.find(|known| known.name == cue);
        if found.is_none() {
            let (role, name) = (self.role.to_string(), name.to_string());
            let mut refuse = Refuse { table, role, name, faults: self.faults };
            refuse.say_unknown(key, Some(nth), "cue", cue, &self.data.names.cues);
        }
        found.map(|cue| CueId(cue.id))
    }

    fn bridges(&mut self) -> Vec<BridgeData> {
        let (builder, role, mut bridges) = (self.builder, self.role, Vec::new());
        for added in builder.bridges.iter().filter(|bridge| bridge.role == role) {
            let target = self.target("bridges", &added.name, &added.new.target);
            let mut cues = |key: &str, names: &[String]| -> Vec<CueId> {
                let found = names.iter().enumerate();
                let found =
                    found.map(|(nth, cue)| self.other_cue("bridges", &added.name, key, nth, cue));
                found.collect::<Vec<_>>().into_iter().flatten().collect()
            };
            let (from, to) = (cues("from", &added.new.from), cues("to", &added.new.to));
            if target.is_some_and(|target| !self.is_finite(target)) {
                let problem = "a bridge's clip must come to an end".to_string();
                let remedy = "give the clip mode \"once\" or `repeat`";
                self.refuse("bridges", &added.name).say("play", None, problem, remedy);
            }
            let empty = if added.new.from.is_empty() { "from" } else { "to" };
            if added.new.from.is_empty() || added.new.to.is_empty() {
                let problem = "a bridge leads from some cue to some other".to_string();
                let remedy = "name them: from = [\"falling\"], to = [\"resting\"]";
                self.refuse("bridges", &added.name).say(empty, None, problem, remedy);
            }
            let (id, turns) = (BridgeId(added.id), added.new.turns);
            bridges.extend(target.map(|target| BridgeData { id, target, turns, from, to }));
        }
        bridges
    }

    /// Tells each hold of the role's clips which of the named spans it is inside.
    fn watch(&mut self, spans: &[SpanId]) {
        for (id, clip) in self.data.clips.iter_mut().enumerate() {
            let role = self.data.names.clips.get(id).map_or("", |name| &name.role);
            let Some(clip) = clip.as_mut().filter(|_| role == self.role) else { continue };
            for hold in 0..clip.holds.len() {
                let inside = |(_, span): &(usize, &SpanId)| clip.inside(hold as u16, **span);
                let bits = spans.iter().enumerate().filter(inside);
                clip.holds[hold].watched = bits.fold(0, |bits, (bit, _)| bits | 1 << bit);
            }
        }
    }

    /// What the marks of the role's clips set.
    fn mark_sets(&mut self, facts: &[Option<FactData>]) {
        let builder = self.builder;
        for (id, new) in builder.clips.iter().enumerate() {
            let name = self.data.names.clips.get(id);
            let Some(name) =
                name.filter(|name| name.role == self.role).map(|name| name.name.clone())
            else {
                continue;
            };
            let Some(new) = new else { continue };
            let mut sets: Vec<(MarkId, u8, u32)> = Vec::new();
            for (mark, fact, value) in &new.sets {
                let key = format!("marks.{mark}.set.{fact}");
                let names = &self.data.names.marks;
                let Some(mark) = names.find(self.role, mark) else {
                    let mut refuse = Refuse::new("clips", &self.data.names.clips, id, self.faults);
                    refuse.say_unknown(&key, None, "mark", mark, names);
                    continue;
                };
                let found = facts.iter().enumerate().find_map(|(slot, data)| {
                    let data = data.as_ref()?;
                    (data.name == *fact).then_some((slot, data))
                });
                let bits = match found {
                    Some((slot, data)) => bits_of(data, value).map(|bits| (slot, bits)),
                    None => {
                        let known = facts.iter().flatten().map(|data| &*data.name);
                        let remedy = match super::nearest(fact, known) {
                            Some(near) => format!("did you mean `{near}`?"),
                            None => "add it to the facts".to_string(),
                        };
                        Err((format!("there is no fact `{fact}`"), remedy))
                    }
                };
                match bits {
                    Ok((slot, bits)) => sets.push((MarkId(mark), slot as u8, bits)),
                    Err((problem, remedy)) => {
                        self.refuse("clips", &name).say(&key, None, problem, remedy);
                    }
                }
            }
            let sets: Box<[(MarkId, u8, u32)]> = sets.into();
            // What a mark sets, it sets in the mirror, too.
            let mirrors = self.data.mirrors.iter().filter(|(_, base)| base.index() == id);
            for at in mirrors.map(|(mirrored, _)| mirrored.index()).chain([id]) {
                if let Some(clip) = self.data.clips.get_mut(at).and_then(Option::as_mut) {
                    clip.sets = sets.clone();
                }
            }
        }
    }
}

/// How a value of a fact is kept, or why it can not be.
fn bits_of(fact: &FactData, value: &FactValue) -> Result<u32, (String, String)> {
    fact.bits_of(value).ok_or_else(|| {
        let name = &fact.name;
        match (fact.kind, value) {
            (FactKind::Words, FactValue::Word(word)) => {
                let near = super::nearest(word, fact.words.iter().map(String::as_str));
                let remedy = match near {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("its words are {}", fact.words.join(", ")),
                };
                (format!("`{name}` has no word `{word}`"), remedy)
            }
            (kind, value) => {
                let problem = format!("`{name}` is {}, and can not be `{value}`", kind.told());
                (problem, "give a value of its kind".to_string())
            }
        }
    })
}

/// Where numbers are one of these, or none of them.
fn numbers_within(mut numbers: Vec<f64>, is: bool) -> Vec<Within> {
    if is {
        return numbers.into_iter().map(Within::exactly).collect();
    }
    numbers.sort_by(f64::total_cmp);
    let edges = core::iter::once(f64::NEG_INFINITY).chain(numbers.iter().copied());
    let ends = numbers.iter().copied().chain([f64::INFINITY]);
    edges.zip(ends).map(|(from, to)| Within { from: (from, false), to: (to, false) }).collect()
}

fn add_phases(builder: &ReelBuilder, data: &mut ReelData, faults: &mut Vec<Fault>) {
    for added in &builder.phases {
        let mut refuse =
            Refuse { table: "phases", role: added.role.clone(), name: added.name.clone(), faults };
        let names = &data.names.clips;
        let mut clips = Vec::new();
        for (nth, wanted) in added.new.clips.iter().enumerate() {
            let fits = |name: &str| match wanted.strip_suffix('*') {
                Some(start) => name.starts_with(start),
                None => name == wanted,
            };
            let mine = names.alive().filter(|(_, name)| name.role == added.role);
            let found: Vec<ClipId> = mine
                .filter(|(_, name)| fits(&name.name))
                .map(|(id, _)| ClipId(id as u16))
                .collect();
            if found.is_empty() {
                refuse.say_unknown("clips", Some(nth), "clip", wanted, names);
            }
            clips.extend(found);
        }
        if added.new.align == Align::Start {
            let problem = "clips in step keep their place".to_string();
            refuse.say("align", None, problem, "use \"time\" or \"hold\"");
        }
        let (role, name) = (added.role.clone(), added.name.clone());
        data.phases.push(PhaseData { role, name, clips, align: added.new.align });
    }
}
