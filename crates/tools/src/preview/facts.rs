//! Facts of the actor, changed by keys.

use lucky_reel_core::FactValue;

use super::Preview;

/// What a fact is now, for the screen.
pub(super) struct FactNow {
    pub(super) name: String,
    pub(super) value: String,
    pub(super) is_pulse: bool,
}

impl Preview {
    /// The facts of the actor in their order.
    pub(super) fn facts(&self) -> Vec<FactNow> {
        let Some(actor) = &self.actor else { return Vec::new() };
        let reel = &self.art.reel;
        let facts = reel.role(actor.role()).into_iter().flat_map(|role| role.facts());
        facts
            .map(|fact| {
                let value = actor.value_by_name(reel, fact.name);
                FactNow {
                    name: fact.name.to_owned(),
                    value: value.map_or(String::new(), |value| value.to_string()),
                    is_pulse: fact.pulse.is_some(),
                }
            })
            .collect()
    }

    pub(super) fn press_fact(&mut self, nth: usize) {
        let reel = self.art.reel.clone();
        let Some(actor) = &mut self.actor else { return self.say("this role has no facts") };
        let Some(fact) = reel.role(actor.role()).and_then(|role| role.facts().nth(nth)) else {
            return self.say(format!("there is no fact {}", nth + 1));
        };
        self.by_cues = true;
        let now = actor.value_by_name(&reel, fact.name).unwrap_or(fact.default);
        let next = match now {
            _ if fact.pulse.is_some() => FactValue::Flag(true),
            FactValue::Flag(value) => FactValue::Flag(!value),
            FactValue::Choice(word) => {
                let choices = fact.choices;
                let at = choices.iter().position(|choice| *choice == word).unwrap_or(0);
                FactValue::Choice(choices[(at + 1) % choices.len()].clone())
            }
            number => {
                self.number = Some(fact.name.to_owned());
                stepped(&number, 1)
            }
        };
        // The value is of the fact's own kind.
        let _ = actor.set_by_name(&reel, fact.name, &next);
        if self.paused {
            self.say("paused: space or r lets the cues see it");
        }
    }

    pub(super) fn change_number(&mut self, by: i8) {
        let (reel, number) = (self.art.reel.clone(), self.number.clone());
        match (&mut self.actor, number) {
            (Some(actor), Some(name)) => {
                if let Some(now) = actor.value_by_name(&reel, &name) {
                    let _ = actor.set_by_name(&reel, &name, &stepped(&now, by));
                }
            }
            _ => self.say("choose a number by its key first"),
        }
    }
}

/// A number, one step down or up: to the next multiple of the power of ten below it, of 1 at least.
fn stepped(value: &FactValue, by: i8) -> FactValue {
    match value {
        FactValue::Whole(whole) => FactValue::Whole(whole.saturating_add(i32::from(by))),
        FactValue::Number(number) => {
            let step = 10_f32.powf(number.abs().max(1.0).log10().floor());
            let next = ((number / step).round() + f32::from(by)) * step;
            FactValue::Number(if next.is_finite() { next } else { *number })
        }
        other => other.clone(),
    }
}
