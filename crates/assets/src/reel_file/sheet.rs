//! What is known of a sheet that was read, for the clips that are cut from it.

use lucky_reel_core::{ExactTime, Rect, SheetId};

use super::source_file::SheetSource;
use crate::index::Index;

/// A sheet that clips can name.
pub(super) struct Sheet {
    /// `None` for a sheet that cannot be read.
    pub(super) id: Option<SheetId>,
    /// The picture behind it: a path, or a name that no path has where it was put together.
    pub(super) image: String,
    /// Where each frame stands; empty when the sheet is at fault itself.
    pub(super) frames: Vec<Rect>,
    /// Columns and rows of a grid.
    pub(super) cells: Option<[u32; 2]>,
    /// Whether its cells stand anywhere.
    pub(super) is_packed: bool,
    /// The numbers of named cutouts.
    pub(super) cutouts: Index<u32>,
    /// Times and plays of an animated image.
    pub(super) timing: Option<Timing>,
    /// Which grid fits, where the given one does not.
    pub(super) advice: Option<String>,
    /// The color that was made transparent.
    pub(super) transparent: Option<[u8; 3]>,
}

impl Sheet {
    /// What stays of interest when the file has been read.
    pub(super) fn source(&self, name: &str) -> Option<SheetSource> {
        Some(SheetSource {
            name: name.to_owned(),
            id: self.id?,
            is_grid: !self.is_packed && self.cells.is_some_and(|cells| cells != [1, 1]),
            transparent: self.transparent,
        })
    }
}

/// What an animated image says of its frames: how long each stays, and how often all play (never: forever).
#[derive(Clone, Debug)]
pub(super) struct Timing {
    pub(super) times: Vec<ExactTime>,
    pub(super) plays: Option<u32>,
}

pub(super) type Sheets = Index<Sheet>;
