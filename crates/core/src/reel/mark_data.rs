//! What marks carry, asked of an event or of a clip.

use alloc::string::String;
use alloc::vec::Vec;

use super::{Clip, Reel};
use crate::clip::{DataKey, DataType, EVERY_HOLD, find_datum};
use crate::cue::{FactKind, FactValue};
use crate::event::Event;
use crate::ids::MarkId;

/// The kinds of keys, by their numbers, and all texts.
#[derive(Clone, Debug, Default)]
pub(crate) struct DataTable {
    pub(crate) kinds: Vec<Option<FactKind>>,
    pub(crate) texts: Vec<String>,
}

impl DataTable {
    pub(crate) fn kind(&self, key: u16) -> Option<FactKind> {
        *self.kinds.get(usize::from(key))?
    }

    fn value(&self, key: u16, bits: u32) -> Option<FactValue> {
        Some(match self.kind(key)? {
            FactKind::Flag => FactValue::Flag(bits != 0),
            FactKind::Whole => FactValue::Whole(bits as i32),
            FactKind::Number => FactValue::Number(f32::from_bits(bits)),
            _ => FactValue::Choice(self.texts.get(bits as usize)?.clone()),
        })
    }
}

impl Event {
    /// What the mark that was passed carries under a key: damage, the name of a sound. `None` where it carries
    /// nothing of this key, where the event is no mark, and where the reel does not know the key.
    ///
    /// ```
    /// use lucky_reel_core::{DataKey, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    ///
    /// let mut builder = Reel::builder();
    /// let sheet = builder.sheet("bram", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// let swing = NewClip::of(sheet).frames(0..4).fps(12).mark("hit", [1, 2]);
    /// let swing = swing.mark_data("hit", "damage", 5).mark_data("hit", "sound", "thud");
    /// let swing = builder.clip("swing", swing.mark_data_at("hit", 2, "damage", 9));
    /// let reel = builder.build()?;
    /// let damage: DataKey<i32> = reel.id("damage")?;
    /// let sound: DataKey<str> = reel.id("sound")?;
    ///
    /// let mut bram = Player::new(&reel, swing);
    /// let hits = bram.advance(&reel, Ticks::from_millis(200)).filter_map(|event| {
    ///     Some((event.get(&reel, damage)?, event.get(&reel, sound)?))
    /// });
    /// assert_eq!(hits.collect::<Vec<_>>(), [(5, "thud"), (9, "thud")]);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn get<'r, T>(&self, reel: &'r Reel, key: DataKey<T>) -> Option<T::Value<'r>>
    where
        T: DataType + ?Sized,
    {
        reel.clip(self.clip)?.datum(self.mark()?, self.hold, key)
    }
}

/// A value that a mark of a clip carries.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct MarkDatum<'r> {
    /// The mark.
    pub mark: MarkId,
    /// The hold, from 0 in the clip's own list; `None` for all holds of the mark that have no value of their own.
    pub hold: Option<u32>,
    /// The key.
    pub key: &'r str,
    /// The value; a text is a [`FactValue::Choice`].
    pub value: FactValue,
}

impl<'r> Clip<'r> {
    /// What a mark carries under a key when it is passed on this hold, as [`Event::get`] reads it.
    #[must_use]
    pub fn datum<T>(&self, mark: MarkId, hold: u32, key: DataKey<T>) -> Option<T::Value<'r>>
    where
        T: DataType + ?Sized,
    {
        let (family, table) = (self.reel.family, &self.reel.data.mark_data);
        let key = key.number_in(family).filter(|key| table.kind(*key) == Some(T::KIND))?;
        let hold = u16::try_from(hold).ok().filter(|hold| *hold != EVERY_HOLD)?;
        let bits = find_datum(&self.data.data, mark.number_in(family)?, key, hold)?;
        T::read(bits, &table.texts)
    }

    /// What its marks carry, mark by mark and key by key.
    pub fn mark_data(&self) -> impl Iterator<Item = MarkDatum<'r>> + use<'r> {
        let reel = self.reel;
        self.data.data.iter().filter_map(move |datum| {
            Some(MarkDatum {
                mark: MarkId::new(reel.family, datum.mark),
                hold: (datum.hold != EVERY_HOLD).then_some(u32::from(datum.hold)),
                key: &reel.data.names.data.get(usize::from(datum.key))?.name,
                value: reel.data.mark_data.value(datum.key, datum.bits)?,
            })
        })
    }
}
