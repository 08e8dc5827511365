//! Why a cue does not match for an actor.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::Actor;
use crate::cue::Test;
use crate::reel::{Cue, Role};

impl Cue<'_> {
    /// Why it does not match for an actor as it is now: of each list of conditions the parts that fail.
    /// Empty when it matches.
    #[must_use]
    pub fn failing(&self, actor: &Actor) -> Vec<Vec<String>> {
        let now = actor.circumstances(actor.inside(self.role.reel));
        if self.data.holds(&now) {
            return Vec::new();
        }
        let failing = |condition: &Vec<Test>| {
            let parts = condition.iter().filter(|test| !test.holds(&now));
            parts
                .map(|test| {
                    let now = value_now(self.role, test, actor);
                    match test {
                        Test::Flag { pulse: true, slot, .. } => {
                            format!("{}, {now}", self.role.fact(*slot).0)
                        }
                        _ => format!("{} (now: {now})", self.role.describe(test)),
                    }
                })
                .collect()
        };
        self.data.when.iter().map(failing).collect()
    }
}

/// What it is instead.
fn value_now(role: Role<'_>, test: &Test, actor: &Actor) -> String {
    match test {
        Test::Flag { wanted, pulse: true, .. } => {
            if *wanted {
                "not pulsed now".to_string()
            } else {
                "not to be pulsed now".to_string()
            }
        }
        Test::Flag { wanted, .. } => format!("{}", !wanted),
        Test::Number { slot, whole: true, .. } => {
            format!("{}", actor.facts[usize::from(*slot)] as i32)
        }
        Test::Number { slot, .. } => {
            format!("{}", f32::from_bits(actor.facts[usize::from(*slot)]))
        }
        Test::Word { slot, .. } => {
            let word = role.fact(*slot).1.get(actor.facts[usize::from(*slot)] as usize);
            word.map_or("", |word| word).to_string()
        }
        Test::Inside { .. } => "outside".to_string(),
        Test::Facing { .. } => actor.facing.name().to_string(),
    }
}
