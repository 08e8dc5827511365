use core::fmt;

use crate::cue::{Circumstances, MAX_FACTS, RoleData};
use crate::facing::Facing;
use crate::ids::{NONE, RoleId};
use crate::play::Player;
use crate::reel::Reel;
use crate::time::Speed;
use crate::view::LookSet;

/// A player that picks its own clip from facts, by its role's cues: a small `Copy` value (224 bytes,
/// 128 of them its facts) that belongs to the game.
///
/// The game tells it facts and a facing, as they are, each update; it does the rest.
///
/// ```
/// use lucky_reel_core::{EventKind, FactId, CueId, RoleId, Actor, Grid, NewClip, NewCue, NewSheet, Reel, Ticks, Condition};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// builder.clip("rest", NewClip::of(sheet).frames([0]));
/// builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// builder.fact("lit", false);
/// builder.cue("drawn", NewCue::play("flutter").when(Condition::new().fact("lit", true)));
/// builder.cue("resting", NewCue::play("rest"));
/// let reel = builder.build()?;
///
/// let lit: FactId<bool> = reel.id("lit")?;
/// let mut moth = Actor::new(&reel, reel.id("")?);
/// let drawn: CueId = reel.id("drawn")?;
/// moth.set(lit, true)?;
/// for event in moth.advance(&reel, Ticks::from_millis(100)) {
///     if matches!(event.kind, EventKind::Cue(cue, _) if cue == drawn) {
///         assert_eq!(event.at, Ticks::ZERO);
///     }
/// }
/// assert_eq!(moth.player().hold_index(&reel), Some(1));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Copy)]
#[repr(C)] // what an update at rest reads stands together: a tenth of its time
pub struct Actor {
    pub(super) player: Player,
    /// The pulses that are up, by their bits.
    pub(super) pulses: u32,
    /// Changes of this instant.
    pub(super) changes: u16,
    pub(super) flags: u8,
    pub(super) facing: Facing,
    /// The facing that the present target began with.
    pub(super) begun_facing: Facing,
    pub(super) role: u16,
    /// The cue that plays; during a bridge, and while a clip plays over the cues, the one before.
    pub(super) cue: u16,
    pub(super) bridge: u16,
    /// The cue that the bridge leads to.
    pub(super) target: u16,
    /// Cues above this one may break into what plays over the cues.
    pub(super) yields_to: u16,
    /// The pulses that were set since the last evaluation, by their bits.
    pub(super) fresh: u32,
    pub(super) speed: Speed,
    pub(super) looks: LookSet,
    /// By slot; of a pulse, the ticks for which it is still up.
    pub(super) facts: [u32; MAX_FACTS],
}

/// The cues must be evaluated at the start of the next advance.
pub(super) const DIRTY: u8 = 1;
/// What the cue, or the game over the cues, wanted to be played has come to its end.
pub(super) const DONE: u8 = 1 << 1;
/// No more evaluations in this instant.
pub(super) const LOOPED: u8 = 1 << 2;
/// A clip plays over the cues.
pub(super) const OVER_CUES: u8 = 1 << 3;
/// A fact has turned what plays in this instant, so no other turns it back before time has passed.
pub(super) const TURNED: u8 = 1 << 4;
/// A turn was put off to the next boundary.
pub(super) const OWES_TURN: u8 = 1 << 5;
pub(super) const ALL_FLAGS: u8 = DIRTY | DONE | LOOPED | OVER_CUES | TURNED | OWES_TURN;

const _: () = assert!(size_of::<Actor>() <= 224);

impl Actor {
    /// An actor of a role, with all facts at their defaults, facing down. It shows what its cues
    /// choose, which plays from its next advance on. With an id that the reel does not have it shows
    /// nothing, and its player [belongs to](Player::belongs_to) no reel.
    #[must_use]
    pub fn new(reel: &Reel, role: RoleId) -> Actor {
        let number = role.number_in(reel.family).unwrap_or(NONE);
        let facing = Facing::Down;
        let mut actor = Actor {
            player: Player::of_number(reel, NONE),
            facts: [0; MAX_FACTS],
            looks: LookSet::NOTHING,
            speed: Speed::NORMAL,
            pulses: 0,
            fresh: 0,
            role: number,
            cue: NONE,
            bridge: NONE,
            target: NONE,
            yields_to: NONE,
            changes: 0,
            facing,
            begun_facing: facing,
            flags: DIRTY,
        };
        if let Some(data) = reel.role_data(role) {
            actor.facts = data.defaults;
            let winner = data.winner(&actor.circumstances(0));
            if let Some(clip) = winner.and_then(|cue| actor.clip_of(reel, cue.target, facing)) {
                actor.player = Player::new(reel, clip);
            }
        }
        actor
    }

    /// An actor without a role, which fills free slots.
    pub(crate) fn vacant(reel: &Reel) -> Actor {
        Actor::new(reel, RoleId::new(reel.family, NONE))
    }

    /// What its cues' conditions are held against, inside these spans.
    pub(super) fn circumstances(&self, spans: u32) -> Circumstances<'_> {
        Circumstances { facts: &self.facts, pulses: self.pulses, spans, facing: self.facing }
    }

    pub(super) fn has(&self, flag: u8) -> bool {
        self.flags & flag != 0
    }

    /// Another instant, in which nothing has changed yet.
    pub(super) fn begin_instant(&mut self) {
        self.changes = 0;
        self.set_flag(LOOPED | TURNED, false);
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
        self.pulses == 0 && self.is_at_rest_but_for(|_, _| false)
    }

    /// The same where pulses may be up that are as they may be: by their slot and what is left of them.
    pub(super) fn is_at_rest_but_for(&self, may_be_up: impl Fn(usize, u32) -> bool) -> bool {
        let is_up = |slot: &usize| self.pulses & 1 << slot != 0;
        self.flags & (DIRTY | LOOPED | TURNED | OWES_TURN) == 0
            && self.changes == 0
            && (self.pulses == 0
                || (0..MAX_FACTS).filter(is_up).all(|slot| may_be_up(slot, self.facts[slot])))
    }

    /// Takes in how far its player has come.
    pub(crate) fn set_player(&mut self, player: Player) {
        self.player = player;
    }

    /// Finds its place again where the reel has a next version.
    pub(crate) fn refresh(&mut self, reel: &Reel) {
        if !self.player.is_of_build(reel) && self.rebind(reel).is_some() {
            self.player.rebind(reel);
        }
    }

    pub(super) fn is_bridging(&self) -> bool {
        self.bridge != NONE
    }

    pub(super) fn role_in<'r>(&self, reel: &'r Reel) -> Option<&'r RoleData> {
        reel.role_data(RoleId::new(self.player.family, self.role))
    }

    /// Brings every number within the bounds of this build of the reel.
    pub(super) fn rebind<'r>(&mut self, reel: &'r Reel) -> Option<&'r RoleData> {
        let role = self.role_in(reel)?;
        if self.player.is_of_build(reel) {
            return Some(role);
        }
        self.set_flag(DIRTY, true);
        for (slot, value) in self.facts.iter_mut().enumerate() {
            let fact = role.facts.get(slot).and_then(Option::as_ref);
            if !fact.is_some_and(|fact| fact.can_be(*value)) {
                *value = role.defaults[slot];
            }
        }
        if role.bridge(self.bridge).is_none() {
            (self.bridge, self.target) = (NONE, NONE);
        }
        if role.cue(self.cue).is_none() {
            self.cue = NONE;
        }
        if role.cue(self.yields_to).is_none() {
            self.yields_to = NONE;
        }
        if reel.clip_at(self.player.clip).is_none() {
            // What played over the cues is gone.
            self.set_flag(DONE, true);
        }
        Some(role)
    }
}

/// Equal when they act alike from now on.
impl PartialEq for Actor {
    fn eq(&self, other: &Actor) -> bool {
        let same_player = self.player == other.player;
        let all = |actor: &Actor| {
            (
                (actor.facts, actor.looks, actor.speed, actor.pulses, actor.fresh),
                (actor.role, actor.cue, actor.bridge, actor.target, actor.yields_to),
                (actor.changes, actor.facing, actor.begun_facing, actor.flags),
            )
        };
        same_player && all(self) == all(other)
    }
}

impl Eq for Actor {}

impl fmt::Debug for Actor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Actor")
            .field("player", &self.player)
            .field("cue", &self.cue)
            .field("bridge", &self.is_bridging().then_some(self.bridge))
            .field("facing", &self.facing)
            .field("facts", &self.facts)
            .field("pulses", &[self.pulses, self.fresh])
            .field("changes", &self.changes)
            .field("flags", &self.flags)
            .finish_non_exhaustive()
    }
}
