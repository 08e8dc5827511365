use alloc::string::String;
use alloc::vec::Vec;
use core::fmt::{self, Write};

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

/// Reason a grid does not cut an image; the message names what would.
#[derive(Clone, PartialEq, Eq)]
pub struct GridError {
    pub(super) axis: Axis,
    pub(super) key: &'static str,
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
    /// The part of the grid that is at fault: `cell`, `columns` or `count`.
    #[must_use]
    pub fn key(&self) -> &'static str {
        self.key
    }

    /// What to do about it.
    #[must_use]
    pub fn fix(&self) -> String {
        let key = self.key;
        let mut text = String::new();
        // Writing to a String cannot fail.
        let _ = match &self.why {
            Reason::NoSize => write!(text, "give the width and height of one cell in pixels"),
            Reason::NoCells => write!(text, "give `{key}` a number from 1 up, or leave it out"),
            Reason::TooMany(_) => write!(text, "use larger cells, or split the image"),
            Reason::TooFew { fitting: 0, image, .. } => {
                write!(text, "use cells of at most {image} px")
            }
            Reason::TooFew { fitting, .. } => write!(text, "at most {fitting} fit"),
            Reason::Uneven { fits, spaces, .. } => {
                let (side, give) = match self.axis {
                    Axis::Across => ("widths", "columns"),
                    Axis::Down => ("heights", "count"),
                };
                let listed: Vec<String> = fits.iter().map(|n| alloc::format!("{n}")).collect();
                if !spaces.is_empty() {
                    let spaces: Vec<String> = spaces
                        .iter()
                        .map(|[margin, gap]| alloc::format!("margin {margin} with gap {gap}"))
                        .collect();
                    let _ = write!(text, "for this cell size, use {}; or ", spaces.join(", or "));
                }
                if listed.is_empty() {
                    write!(text, "make the margin or the gap smaller")
                } else {
                    let listed = listed.join(", ");
                    write!(text, "{side} that fit: {listed}; or give `{give}` to leave a rest over")
                }
            }
        };
        text
    }

    /// What is wrong, without the fix.
    #[must_use]
    pub fn message(&self) -> String {
        let (side, along) = match self.axis {
            Axis::Across => ("wide", "beside one another"),
            Axis::Down => ("high", "below one another"),
        };
        match &self.why {
            Reason::NoSize => String::from("a cell of 0 pixels shows nothing"),
            Reason::NoCells => alloc::format!("`{}` of 0 leaves no cell", self.key),
            Reason::TooMany(cells) => {
                alloc::format!("that makes {cells} cells; a sheet has at most {MAX_FRAMES}")
            }
            Reason::TooFew { wanted, cell, image, .. } => alloc::format!(
                "{wanted} cells of {cell} px do not fit {along} into an image {image} px {side}"
            ),
            Reason::Uneven { cell, image, plain, .. } => {
                let less = if *plain { "" } else { ", less its start, margin and gaps," };
                alloc::format!(
                    "an image {image} px {side}{less} is not a whole number of cells of {cell} px"
                )
            }
        }
    }
}

impl fmt::Display for GridError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}", self.message(), self.fix())
    }
}

/// The message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for GridError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f
                .debug_struct("GridError")
                .field("axis", &self.axis)
                .field("key", &self.key)
                .field("why", &self.why)
                .finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for GridError {}
