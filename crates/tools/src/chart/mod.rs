//! Pictures of time, for people to look at: of a clip, of a whole reel, of two clips or two versions of a
//! reel, of a clip on a display, of an actor that follows a script, and a page that plays.

mod clip;
mod compare;
mod display;
mod grid_lines;
mod order;
pub mod page;
mod panels;
mod reel;
mod script;
mod time_bar;

pub use clip::clip;
pub use compare::{clips, versions};
pub use display::{Display, HoldOnDisplay, display};
pub use grid_lines::with_grid_lines;
pub(crate) use panels::panels;
pub use reel::reel;
pub use script::script;
#[cfg(feature = "preview")]
pub(crate) use time_bar::marks_of;

use lucky_reel_assets::Pixels;
use lucky_reel_core::Clip;

use crate::drawing::Drawing;
pub(crate) use crate::words::{milliseconds, mode_of, name_of};

/// A drawing that can be written as pixels and as SVG.
pub struct Chart(Drawing);

impl Chart {
    /// Width and height, in pixels.
    #[must_use]
    pub fn size(&self) -> [u32; 2] {
        self.0.size()
    }

    /// Its pixels.
    #[must_use]
    pub fn pixels(&self) -> Pixels {
        self.0.pixels()
    }

    /// The same as SVG, with the frames inside; texts can be searched.
    #[must_use]
    pub fn svg(&self) -> String {
        self.0.svg()
    }
}

impl std::fmt::Debug for Chart {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Chart").field("size", &self.size()).finish_non_exhaustive()
    }
}

/// All charts are so wide, and as high as they need to be.
const WIDTH: i32 = 1280;
/// Left and right of what is drawn.
const SIDE: i32 = 40;

/// Holds, total and mode in one line.
pub(crate) fn summary(clip: &Clip<'_>) -> String {
    let count = clip.holds().len();
    let holds = if count == 1 { "1 hold".to_owned() } else { format!("{count} holds") };
    if clip.is_still {
        return format!("{holds}  ·  a still");
    }
    let mut line = format!("{holds}  ·  {}  ·  {}", milliseconds(clip.total), mode_of(clip));
    if clip.cycle_time != clip.total {
        line += &format!("  ·  {} there and back", milliseconds(clip.cycle_time));
    }
    line
}
