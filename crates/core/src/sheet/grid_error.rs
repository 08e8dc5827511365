use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

/// The most frames that one sheet may have.
pub(super) const MAX_FRAMES: u64 = 65_536;

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Axis {
    Across,
    Down,
}

impl Axis {
    pub(super) fn key(self, wanted: bool) -> &'static str {
        match (self, wanted) {
            (_, false) => "cell",
            (Axis::Across, true) => "columns",
            (Axis::Down, true) => "count",
        }
    }
}

/// Why a grid does not cut an image.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct GridError {
    pub(super) axis: Axis,
    /// The part of the grid that is at fault: `cell`, `columns` or `count`.
    pub(crate) key: &'static str,
    pub(super) why: Reason,
}

#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) enum Reason {
    NoSize,
    NoCells,
    TooMany(u64),
    TooFew { wanted: u32, fitting: u64, cell: u64, image: u64 },
    Uneven { cell: u64, image: u64, plain: bool, fits: Vec<u64>, spaces: Vec<[u64; 2]> },
}

impl GridError {
    /// A word for it that does not change from version to version.
    pub(crate) fn code(&self) -> &'static str {
        match self.why {
            Reason::NoSize => "grid-no-size",
            Reason::NoCells => "grid-no-cells",
            Reason::TooMany(_) => "grid-too-many",
            Reason::TooFew { .. } => "grid-too-few",
            Reason::Uneven { .. } => "grid-uneven",
        }
    }

    /// The names and numbers that it speaks of.
    pub(crate) fn values(&self) -> Vec<String> {
        let axis = match self.axis {
            Axis::Across => "across",
            Axis::Down => "down",
        };
        let mut values = Vec::from([axis.to_string()]);
        let mut say = |number: &dyn ToString| values.push(number.to_string());
        match &self.why {
            Reason::NoSize => {}
            Reason::NoCells => say(&self.key),
            Reason::TooMany(cells) => [cells, &MAX_FRAMES].into_iter().for_each(|n| say(n)),
            Reason::TooFew { wanted, fitting, cell, image } => {
                say(wanted);
                [cell, image, fitting].into_iter().for_each(|n| say(n));
            }
            Reason::Uneven { cell, image, plain, fits, spaces } => {
                [cell, image].into_iter().for_each(|n| say(n));
                say(plain);
                say(&fits.iter().map(u64::to_string).collect::<Vec<_>>().join(", "));
                for [margin, gap] in spaces {
                    say(&format!("{margin}/{gap}"));
                }
            }
        }
        values
    }
}
