use super::GroupId;
use crate::actor::Actor;
use crate::ids::{ClipId, RoleId};
use crate::play::Player;
use crate::reel::Reel;
use crate::sheet::Flips;
use crate::time::{Speed, Ticks};
use crate::view::LookSet;

/// Describes a new member of a crowd; [`Crowd::spawn`](super::Crowd::spawn) takes it.
///
/// A [`ClipId`], a [`RoleId`], a [`Player`] or an [`Actor`] is one already.
///
/// ```
/// use lucky_reel_core::{Crowd, Grid, NewClip, NewMember, NewSheet, Reel, Speed};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let night = crowd.add_group().unwrap();
/// let quick = Speed::from_f64(1.25).unwrap();
/// for id in 0..200 {
///     let moth = NewMember::playing(flutter).speed(quick).random_start(2_026, id).in_group(night);
///     crowd.spawn(moth);
/// }
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug)]
#[must_use = "give it to `Crowd::spawn`"]
pub struct NewMember {
    what: What,
    speed: Option<Speed>,
    flips: Flips,
    looks: LookSet,
    pub(super) group: GroupId,
    pub(super) is_freed: bool,
    start: Start,
}

#[derive(Clone, Copy, Debug)]
#[allow(clippy::large_enum_variant)] // it lives for one call
enum What {
    Clip(ClipId),
    Role(RoleId),
    Player(Player),
    Actor(Actor),
}

#[derive(Clone, Copy, Debug)]
enum Start {
    Begin,
    At(Ticks),
    Random(u64, u64),
}

/// A new member, made.
#[allow(clippy::large_enum_variant)] // it lives for one call
pub(super) enum Body {
    Player(Player, LookSet),
    Actor(Actor),
}

impl NewMember {
    fn new(what: What) -> NewMember {
        NewMember {
            what,
            speed: None,
            flips: Flips::default(),
            looks: LookSet::NOTHING,
            group: GroupId::default(),
            is_freed: false,
            start: Start::Begin,
        }
    }

    /// A player of this clip.
    pub fn playing(clip: ClipId) -> NewMember {
        NewMember::new(What::Clip(clip))
    }

    /// An actor of this role.
    pub fn acting(role: RoleId) -> NewMember {
        NewMember::new(What::Role(role))
    }

    /// At this speed.
    pub fn speed(mut self, speed: Speed) -> NewMember {
        self.speed = Some(speed);
        self
    }

    /// Adds these flips to its own.
    pub fn flipped(mut self, flips: Flips) -> NewMember {
        self.flips = flips;
        self
    }

    /// In these looks. An actor wears them over its own.
    pub fn wearing(mut self, looks: LookSet) -> NewMember {
        self.looks = looks;
        self
    }

    /// In this group, for as long as it lives.
    pub fn in_group(mut self, group: GroupId) -> NewMember {
        self.group = group;
        self
    }

    /// As if it had played for this long. Actors start at the beginning.
    pub fn started_at(mut self, time: Ticks) -> NewMember {
        self.start = Start::At(time);
        self
    }

    /// At a place of the clip's first cycle that depends on a seed and an id (its number, or its place)
    /// alone: [`Player::random_start`]. Actors start at the beginning.
    pub fn random_start(mut self, seed: u64, id: u64) -> NewMember {
        self.start = Start::Random(seed, id);
        self
    }

    /// An actor is freed once it has vanished, as players are; else it stays, as another of its cues may
    /// bring it back.
    pub fn freed_when_vanished(mut self) -> NewMember {
        self.is_freed = true;
        self
    }

    /// `None` for what is not of this reel.
    pub(super) fn make(&self, reel: &Reel) -> Option<Body> {
        Some(match self.what {
            What::Clip(clip) => {
                self.make_player(reel, Player::of_number(reel, reel.number_of(clip)?))
            }
            What::Player(player) if player.family == reel.family => self.make_player(reel, player),
            What::Role(role) if reel.role_data(role).is_some() => {
                self.make_actor(reel, Actor::new(reel, role))
            }
            What::Actor(actor) if actor.player().family == reel.family => {
                self.make_actor(reel, actor)
            }
            What::Player(_) | What::Role(_) | What::Actor(_) => return None,
        })
    }

    fn make_actor(&self, reel: &Reel, mut actor: Actor) -> Body {
        actor.refresh(reel);
        if let Some(speed) = self.speed {
            actor.set_speed(reel, speed);
        }
        actor.set_flips(actor.player().flips().flipped(self.flips));
        for look in self.looks.iter() {
            // One that does not fit on is one too many.
            let _ = actor.wear(reel, look);
        }
        Body::Actor(actor)
    }

    fn make_player(&self, reel: &Reel, mut player: Player) -> Body {
        player.rebind(reel);
        if let Some(speed) = self.speed {
            player.set_speed(speed);
        }
        player.set_flips(player.flips().flipped(self.flips));
        match self.start {
            Start::Begin => {}
            Start::At(time) => {
                player.seek(reel, time);
            }
            Start::Random(seed, id) => {
                player.random_start(reel, seed, id);
            }
        }
        Body::Player(player, self.looks)
    }
}

impl From<ClipId> for NewMember {
    fn from(clip: ClipId) -> NewMember {
        NewMember::playing(clip)
    }
}

impl From<RoleId> for NewMember {
    fn from(role: RoleId) -> NewMember {
        NewMember::acting(role)
    }
}

impl From<Player> for NewMember {
    fn from(player: Player) -> NewMember {
        NewMember::new(What::Player(player))
    }
}

impl From<Actor> for NewMember {
    fn from(actor: Actor) -> NewMember {
        NewMember::new(What::Actor(actor))
    }
}
