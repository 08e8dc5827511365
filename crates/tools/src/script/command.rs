use lucky_reel_assets::{Fault, did_you_mean};
use lucky_reel_core::{Actor, Facing, Fact, FactValue, LookId, Reel, Role, Speed, Ticks};

/// One command of a script.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Command {
    /// Facts by their names; a `true` sets off a pulse.
    Set(Vec<(String, FactValue)>),
    /// Which way it faces.
    Face(Facing),
    /// A look to put on.
    Wear(LookId),
    /// A look to take off.
    TakeOff(LookId),
    /// How fast it plays.
    Speed(Speed),
    /// How long it stands still.
    HitStop(Ticks),
    /// It stands still from now on.
    Pause,
    /// It goes on.
    Resume,
}

const COMMANDS: [&str; 9] =
    ["set", "pulse", "face", "wear", "take", "speed", "hit-stop", "pause", "resume"];

impl Command {
    /// Reads words such as `set moving=true lift=-2`.
    pub(super) fn read(words: &[&str], role: Role<'_>) -> Result<Command, Fault> {
        match words {
            ["set", facts @ ..] if !facts.is_empty() => {
                let facts = facts.iter().map(|fact| read_fact(fact, role));
                Ok(Command::Set(facts.collect::<Result<_, Fault>>()?))
            }
            ["pulse", names @ ..] if !names.is_empty() => {
                let facts = names.iter().map(|name| read_fact(&format!("{name}=true"), role));
                Ok(Command::Set(facts.collect::<Result<_, Fault>>()?))
            }
            ["face", name] => {
                let names = Facing::ALL.map(Facing::name);
                Facing::from_name(name).map(Command::Face).ok_or_else(|| {
                    unknown("facing", name, &names, "the facings are down, down-right, right …")
                })
            }
            ["wear", name] => look(role, name).map(Command::Wear),
            ["take", "off", name] => look(role, name).map(Command::TakeOff),
            ["speed", factor] => {
                let speed = factor.parse().ok().and_then(|factor| Speed::from_f64(factor).ok());
                speed.map(Command::Speed).ok_or_else(|| {
                    Fault::new(format!("`{factor}` is not a speed"), "write such as 0.5 or -1")
                })
            }
            ["hit-stop", time] => match lucky_reel_assets::parse_time(time) {
                Ok(time) => Ok(Command::HitStop(time.to_ticks())),
                Err(error) => {
                    Err(Fault::new(format!("`{time}` is not a duration"), error.to_string()))
                }
            },
            ["pause"] => Ok(Command::Pause),
            ["resume"] => Ok(Command::Resume),
            [word, ..] if COMMANDS.contains(word) => {
                let what = format!("cannot read `{}`", words.join(" "));
                let fix = "write such as `set moving=true`, `face left`, `take off dusk`";
                Err(Fault::new(what, fix))
            }
            [word, ..] => {
                Err(unknown("command", word, &COMMANDS, "write such as `set moving=true`"))
            }
            [] => Err(Fault::new("there is no command", "write such as `at 1s face left`")),
        }
    }

    /// Tells it.
    pub fn tell(&self, reel: &Reel, actor: &mut Actor) {
        match self {
            // Everything was checked when it was read.
            Command::Set(facts) => facts.iter().for_each(|(name, value)| {
                let _ = actor.set_by_name(reel, name, value);
            }),
            Command::Face(facing) => actor.set_facing(*facing),
            Command::Wear(look) => _ = actor.wear(reel, *look),
            Command::TakeOff(look) => _ = actor.take_off(*look),
            Command::Speed(speed) => actor.set_speed(reel, *speed),
            Command::HitStop(time) => actor.hit_stop(*time),
            Command::Pause => actor.set_paused(true),
            Command::Resume => actor.set_paused(false),
        }
    }

    /// Facts as they are written in one text: `moving=true lift=-2`.
    ///
    /// # Errors
    /// What is wrong, and how to fix it.
    pub fn facts(text: &str, role: Role<'_>) -> Result<Command, Fault> {
        let words = text.split_whitespace().map(|fact| read_fact(fact, role));
        Ok(Command::Set(words.collect::<Result<_, Fault>>()?))
    }
}

fn look(role: Role<'_>, name: &str) -> Result<LookId, Fault> {
    let reel = role.reel;
    let of_role = || reel.id::<LookId>(&format!("{}/{name}", role.name));
    reel.id::<LookId>(name).or_else(|error| of_role().map_err(|_| error)).map_err(|error| {
        let fix = did_you_mean(name, error.near(), || "name a look of the reel".to_owned());
        Fault::new(format!("there is no look `{name}`"), fix)
    })
}

/// `lift=-2`
fn read_fact(text: &str, role: Role<'_>) -> Result<(String, FactValue), Fault> {
    let Some((name, value)) = text.split_once('=') else {
        let fix = "write such as moving=true or lift=-2";
        return Err(Fault::new(format!("`{text}` sets no fact"), fix));
    };
    let Some(fact) = role.facts().find(|fact| fact.name == name) else {
        let names: Vec<&str> = role.facts().map(|fact| fact.name).collect();
        return Err(unknown("fact", name, &names, "name a fact of the role"));
    };
    let read = match fact.default {
        FactValue::Flag(_) => value.parse().ok().map(FactValue::Flag),
        FactValue::Whole(_) => value.parse().ok().map(FactValue::Whole),
        FactValue::Number(_) => {
            value.parse().ok().filter(|number: &f32| number.is_finite()).map(FactValue::Number)
        }
        FactValue::Choice(_) if fact.choices.iter().any(|word| word == value) => {
            Some(FactValue::Choice(value.to_owned()))
        }
        FactValue::Choice(_) => {
            let words: Vec<&str> = fact.choices.iter().map(String::as_str).collect();
            let all = format!("its choices are {}", words.join(", "));
            return Err(unknown("choice", value, &words, &all));
        }
        _ => None,
    };
    let wrong = || {
        let what = format!("`{name}` is {}, and cannot be `{value}`", kind_of(&fact));
        let fix = match fact.default {
            FactValue::Flag(_) => format!("write {name}=true or {name}=false"),
            FactValue::Whole(_) => format!("write a whole number, such as {name}=-2"),
            _ => format!("write a number, such as {name}=0.5"),
        };
        Fault::new(what, fix)
    };
    read.map(|value| (name.to_owned(), value)).ok_or_else(wrong)
}

/// What its values are: `a whole number`.
fn kind_of(fact: &Fact<'_>) -> &'static str {
    match (&fact.default, fact.pulse) {
        (_, Some(_)) => "a pulse",
        (FactValue::Flag(_), _) => "yes or no",
        (FactValue::Whole(_), _) => "a whole number",
        (FactValue::Number(_), _) => "a number",
        _ => "one of its choices",
    }
}

fn unknown(kind: &str, name: &str, names: &[&str], otherwise: &str) -> Fault {
    let fix = did_you_mean(name, names.iter().copied(), || otherwise.to_owned());
    Fault::new(format!("there is no {kind} `{name}`"), fix)
}
