use alloc::vec::Vec;
use core::fmt;
use core::ops::Bound;

use crate::cue::FactValue;
use crate::facing::Facing;

/// One test of a cue's condition. It prints itself: `moving = true`, `lift > 0 or = -3`.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum CueTest<'r> {
    /// The fact of this name has one of these values.
    Is(&'r str, Vec<FactValue>),
    /// The number of this name lies in one of these ranges.
    Within(&'r str, Vec<(Bound<f64>, Bound<f64>)>),
    /// The clip is inside the span of this name.
    Inside(&'r str),
    /// It faces one of these.
    Facing(Vec<Facing>),
}

impl fmt::Display for CueTest<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            CueTest::Is(name, values) => {
                write!(f, "{name} = ")?;
                any_of(f, values, |f, value| write!(f, "{value}"))
            }
            CueTest::Within(name, ranges) => {
                write!(f, "{name} ")?;
                any_of(f, ranges, write_range)
            }
            CueTest::Inside(span) => write!(f, "inside = {span}"),
            CueTest::Facing(facings) => {
                f.write_str("facing = ")?;
                any_of(f, facings, |f, facing| f.write_str(facing.name()))
            }
        }
    }
}

/// One or several, with `or` between them.
fn any_of<T>(
    f: &mut fmt::Formatter<'_>,
    items: &[T],
    write: impl Fn(&mut fmt::Formatter<'_>, &T) -> fmt::Result,
) -> fmt::Result {
    for (nth, item) in items.iter().enumerate() {
        if nth > 0 {
            f.write_str(" or ")?;
        }
        write(f, item)?;
    }
    Ok(())
}

fn write_range(f: &mut fmt::Formatter<'_>, (from, to): &(Bound<f64>, Bound<f64>)) -> fmt::Result {
    let (from, to) = (from.as_ref().map(|end| Digits(*end)), to.as_ref().map(|end| Digits(*end)));
    match (&from, &to) {
        (Bound::Included(from), Bound::Included(to)) if from.0 == to.0 => write!(f, "= {from}"),
        (Bound::Included(from), Bound::Included(to)) => write!(f, "= {from} to {to}"),
        (Bound::Included(from), Bound::Unbounded) => write!(f, ">= {from}"),
        (Bound::Excluded(from), Bound::Unbounded) => write!(f, "> {from}"),
        (Bound::Unbounded, Bound::Included(to)) => write!(f, "<= {to}"),
        (Bound::Unbounded, Bound::Excluded(to)) => write!(f, "< {to}"),
        (Bound::Unbounded, Bound::Unbounded) => f.write_str("of any number"),
        (Bound::Included(from), Bound::Excluded(to)) => write!(f, ">= {from} and < {to}"),
        (Bound::Excluded(from), Bound::Included(to)) => write!(f, "> {from} and <= {to}"),
        (Bound::Excluded(from), Bound::Excluded(to)) => write!(f, "between {from} and {to}"),
    }
}

/// A number with the digits that were written, not those of the `f32` nearest to them.
struct Digits(f64);

impl fmt::Display for Digits {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Digits(number) = *self;
        match number as i64 as f64 == number
            && (-2_147_483_648.0..=2_147_483_648.0).contains(&number)
        {
            true => write!(f, "{number}"),
            false => write!(f, "{}", number as f32),
        }
    }
}
