use core::fmt;

/// Why a command was not carried out. It has changed nothing then.
///
/// # Unknown ids
///
/// One rule holds for an id that a reel does not know: it is of another reel, or its name is gone since a
/// reload. A command with such an id changes nothing and returns `false`; one that can fail for other
/// reasons, too, returns this error, [`UnknownId`](CommandError::UnknownId) then; one for several members
/// of a crowd returns how many it has reached. A question is answered as if there were nothing: `None`,
/// `false`, 0, an empty name. What is made with such an id plays nothing.
///
/// ```
/// use lucky_reel_core::{ClipId, CommandError, Crowd, Grid, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// let reel = builder.build()?;
///
/// let unknown = ClipId::from_bits(7);
/// let mut moth = Player::new(&reel, flutter);
/// assert!(!moth.play(&reel, unknown));
/// assert_eq!(moth.then(&reel, unknown), Err(CommandError::UnknownId));
/// let mut crowd = Crowd::new(&reel);
/// assert_eq!(crowd.spawn(unknown), Err(CommandError::UnknownId));
/// let member = crowd.spawn(flutter).unwrap();
/// assert_eq!(crowd.play(member, unknown), 0);
/// assert_eq!((reel.name(unknown), reel.clip(unknown).is_none()), ("", true));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum CommandError {
    /// The reel, or the crowd, does not know the id or the name.
    UnknownId,
    /// The fact is of another role.
    OtherRole,
    /// The fact cannot be this: the number is not finite, or the choice is of another fact.
    Value,
    /// A number is out of its range.
    OutOfRange {
        /// What the number was given for, such as `a speed`.
        name: &'static str,
        /// The number that was refused.
        given: f64,
        /// The smallest number that would have been taken.
        min: f64,
        /// The largest number that would have been taken.
        max: f64,
    },
    /// The play has ended or was stopped, so that nothing can follow it.
    Over,
    /// The member has left the crowd.
    Gone,
    /// The member is a player, which has no facts.
    NotAnActor,
    /// More looks than can be worn at a time.
    TooManyLooks,
    /// More different outfits in one crowd than it can have, 65,535.
    TooManyOutfits,
    /// More members than a crowd can have, 2^32.
    TooManyMembers,
    /// More groups than a crowd can have, 256.
    TooManyGroups,
}

impl fmt::Display for CommandError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            CommandError::UnknownId => {
                "the id is unknown here: look it up in this reel, or add what it names"
            }
            CommandError::OtherRole => "the fact is of another role: look it up by `role/name`",
            CommandError::Value => {
                "the fact cannot be this: give a finite number, or one of its choices"
            }
            CommandError::OutOfRange { name, given, min, max } => {
                return write!(
                    f,
                    "{name} of {given} is out of range: give a number from {min} to {max}"
                );
            }
            CommandError::Over => "the play is over: play a clip first",
            CommandError::Gone => "the member has left the crowd: forget its id",
            CommandError::NotAnActor => {
                "the member is a player, not an actor: spawn it with a role"
            }
            CommandError::TooManyLooks => "four looks are worn already: take one off",
            CommandError::TooManyOutfits => {
                "the crowd has 65,535 different outfits: let members wear the same looks"
            }
            CommandError::TooManyMembers => "the crowd has 2^32 slots: begin another crowd",
            CommandError::TooManyGroups => "the crowd has 256 groups: share one of them",
        })
    }
}

impl core::error::Error for CommandError {}
