use core::fmt;

use crate::cue::{Circumstances, MOST_FACTS, RoleData};
use crate::facing::Facing;
use crate::ids::{BridgeId, CueId, RoleId};
use crate::look::Worn;
use crate::play::Player;
use crate::reel::Reel;
use crate::time::Speed;

/// A player that picks its own clip from facts, by its role's cues: a small `Copy` value (200 bytes,
/// 128 of them its facts) that belongs to the game.
///
/// The game tells it facts and a facing, as they are, each update; it does the rest.
///
/// ```
/// use lucky_reel_core::{Actor, Event, Grid, NewClip, NewCue, NewSheet, Reel, Ticks, When};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// builder.clip("rest", NewClip::of(sheet).frames([0]).fps(1));
/// builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// builder.fact("lit", false);
/// builder.cue("drawn", NewCue::play("flutter").when(When::fact("lit", true)));
/// builder.cue("resting", NewCue::play("rest"));
/// let reel = builder.build()?;
///
/// let lit = reel.fact::<bool>("lit")?;
/// let mut moth = Actor::new(&reel, reel.role("")?);
/// moth.set(lit, true)?;
/// for event in moth.advance(&reel, Ticks::from_millis(100)) {
///     if let Event::Cue { cue, .. } = event {
///         assert_eq!(reel.cue_name(cue), "drawn");
///     }
/// }
/// assert_eq!(moth.player().hold(&reel), Some(1));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Copy)]
pub struct Actor {
    pub(super) player: Player,
    /// By slot; of a pulse, the ticks for which it is still up.
    pub(super) facts: [u32; MOST_FACTS],
    pub(super) worn: Worn,
    pub(super) speed: Speed,
    /// The pulses that are up, and those that were set since the last look, by their bits.
    pub(super) pulses: u32,
    pub(super) fresh: u32,
    /// The spans that the last look has seen it inside.
    pub(super) watched: u32,
    pub(super) role: RoleId,
    /// The cue that plays; during a bridge, the one that played before.
    pub(super) cue: CueId,
    pub(super) bridge: BridgeId,
    /// The cue that the bridge leads to.
    pub(super) target: CueId,
    /// Changes of this instant.
    pub(super) changes: u16,
    pub(super) facing: Facing,
    /// The facing that the present target began with.
    pub(super) begun_facing: Facing,
    pub(super) flags: u8,
}

/// A number that no cue and no bridge has.
pub(super) const NO: u16 = u16::MAX;

/// A look is owed at the start of the next advance.
pub(super) const OWED: u8 = 1;
/// The clip of the cue has come to its end.
pub(super) const DONE: u8 = 1 << 1;
/// No more looks in this instant.
pub(super) const CUT: u8 = 1 << 2;

const _: () = assert!(size_of::<Actor>() <= 200);

impl Actor {
    /// An actor of a role, with all facts at their defaults, facing down. It shows what its cues
    /// choose, which plays from its next advance on.
    #[must_use]
    pub fn new(reel: &Reel, role: RoleId) -> Actor {
        let facing = Facing::Down;
        let mut actor = Actor {
            player: Player::new(reel, crate::ids::ClipId(u16::MAX)),
            facts: [0; MOST_FACTS],
            worn: Worn::NOTHING,
            speed: Speed::NORMAL,
            pulses: 0,
            fresh: 0,
            watched: 0,
            role,
            cue: CueId(NO),
            bridge: BridgeId(NO),
            target: CueId(NO),
            changes: 0,
            facing,
            begun_facing: facing,
            flags: OWED,
        };
        if let Some(data) = reel.role_data(role) {
            actor.facts = data.defaults;
            let winner = data.winner(&actor.circumstances());
            if let Some(clip) = winner.and_then(|cue| actor.clip_of(reel, cue.target, facing)) {
                actor.player = Player::new(reel, clip);
            }
        }
        actor
    }

    /// What its cues' conditions are held against.
    pub(crate) fn circumstances(&self) -> Circumstances<'_> {
        Circumstances {
            facts: &self.facts,
            pulses: self.pulses,
            spans: self.watched,
            facing: self.facing,
        }
    }

    pub(super) fn has(&self, flag: u8) -> bool {
        self.flags & flag != 0
    }

    pub(super) fn set_flag(&mut self, flag: u8, on: bool) {
        if on {
            self.flags |= flag;
        } else {
            self.flags &= !flag;
        }
    }

    /// Whether nothing but its player's clip can change it.
    pub(crate) fn is_at_rest(&self) -> bool {
        self.flags & (OWED | CUT) == 0 && self.pulses == 0 && self.changes == 0
    }

    /// Takes in how far its player has come.
    pub(crate) fn set_player(&mut self, player: Player) {
        self.player = player;
    }

    /// Finds its place again where the reel has a next version.
    pub(crate) fn refit(&mut self, reel: &Reel) {
        if !self.player.is_of_version(reel) && self.settle(reel).is_some() {
            self.player.refit(reel);
        }
    }

    pub(super) fn is_bridging(&self) -> bool {
        self.bridge.0 != NO
    }

    /// Brings every number within the bounds of this version of the reel.
    pub(super) fn settle<'r>(&mut self, reel: &'r Reel) -> Option<&'r RoleData> {
        let role = reel.role_data(self.role)?;
        if self.player.is_of_version(reel) {
            return Some(role);
        }
        if !self.player.is_of_family(reel) {
            return None;
        }
        self.set_flag(OWED, true);
        for (slot, value) in self.facts.iter_mut().enumerate() {
            let fact = role.facts.get(slot).and_then(Option::as_ref);
            if !fact.is_some_and(|fact| fact.can_be(*value)) {
                *value = role.defaults[slot];
            }
        }
        if role.bridge(self.bridge).is_none() {
            (self.bridge, self.target) = (BridgeId(NO), CueId(NO));
        }
        if role.cue(self.cue).is_none() {
            self.cue = CueId(NO);
        }
        Some(role)
    }
}

/// Equal when they act alike from now on.
impl PartialEq for Actor {
    fn eq(&self, other: &Actor) -> bool {
        let same_player = self.player == other.player;
        let told = |actor: &Actor| {
            (
                (actor.facts, actor.worn, actor.speed, actor.pulses, actor.fresh, actor.watched),
                (actor.role, actor.cue, actor.bridge, actor.target, actor.changes),
                (actor.facing, actor.begun_facing, actor.flags),
            )
        };
        same_player && told(self) == told(other)
    }
}

impl Eq for Actor {}

impl fmt::Debug for Actor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Actor")
            .field("player", &self.player)
            .field("cue", &self.cue.0)
            .field("bridge", &self.is_bridging().then_some(self.bridge.0))
            .field("facing", &self.facing)
            .field("facts", &self.facts)
            .field("pulses", &[self.pulses, self.fresh])
            .field("watched", &self.watched)
            .field("changes", &self.changes)
            .field("flags", &self.flags)
            .finish_non_exhaustive()
    }
}
