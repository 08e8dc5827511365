//! Why a cue does not hold for an actor.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::Actor;
use crate::cue::Test;
use crate::reel::{Cue, Role};

impl Cue<'_> {
    /// Why it does not hold for an actor as it is now: of each list of conditions the parts that fail.
    /// Empty when it holds.
    #[must_use]
    pub fn failing(&self, actor: &Actor) -> Vec<Vec<String>> {
        let now = actor.circumstances();
        if self.data.holds(&now) {
            return Vec::new();
        }
        let failing = |condition: &Vec<Test>| {
            let parts = condition.iter().filter(|test| !test.holds(&now));
            parts
                .map(|test| {
                    let is = value_told(self.role, test, actor);
                    format!("{}, and {is}", self.role.told(test))
                })
                .collect()
        };
        self.data.when.iter().map(failing).collect()
    }
}

/// What stands against it.
fn value_told(role: Role<'_>, test: &Test, actor: &Actor) -> String {
    let now = actor.circumstances();
    match test {
        Test::Flag { wanted, pulse: true, .. } => {
            if *wanted {
                "there is no such pulse".to_string()
            } else {
                "it is up".to_string()
            }
        }
        Test::Flag { wanted, .. } => format!("it is {}", !wanted),
        Test::Number { slot, whole: true, .. } => {
            format!("it is {}", now.facts[usize::from(*slot)] as i32)
        }
        Test::Number { slot, .. } => {
            format!("it is {}", f32::from_bits(now.facts[usize::from(*slot)]))
        }
        Test::Word { slot, .. } => {
            let word = role.fact(*slot).1.get(now.facts[usize::from(*slot)] as usize);
            format!("it is {}", word.map_or("", |word| word))
        }
        Test::Inside { .. } => "the clip is not there".to_string(),
        Test::Facing { .. } => format!("it faces {}", now.facing.name()),
    }
}
