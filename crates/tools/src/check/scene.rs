//! What there is to be seen of a warning, drawn on demand.

#[cfg(feature = "drawings")]
use lucky_reel_assets::{Art, Pixels};
use lucky_reel_core::{ClipId, ImageId, Rect};

#[cfg(feature = "drawings")]
use crate::{Theme, chart};

/// What a picture of a warning shows.
#[derive(Clone, Debug)]
#[cfg_attr(not(feature = "drawings"), allow(dead_code))]
pub(super) enum Scene {
    /// Pieces of images beside one another.
    Panels(Vec<Panel>),
    /// A clip with its times.
    Clip(ClipId),
}

/// A piece of an image.
#[derive(Clone, Debug)]
#[cfg_attr(not(feature = "drawings"), allow(dead_code))]
pub(super) struct Panel {
    pub(super) image: ImageId,
    pub(super) area: Rect,
    pub(super) label: String,
    /// Rectangles of the image that are pointed at.
    pub(super) marks: Vec<Rect>,
}

#[cfg(feature = "drawings")]
impl Scene {
    pub(super) fn draw(&self, art: &Art) -> Option<Pixels> {
        match self {
            Scene::Clip(clip) => chart::clip(art, *clip, Theme::Dark).map(|chart| chart.pixels()),
            Scene::Panels(panels) => {
                let panels: Option<Vec<_>> = panels
                    .iter()
                    .map(|panel| {
                        let image = art.image(panel.image)?;
                        Some((image, panel.area, &*panel.label, &panel.marks[..]))
                    })
                    .collect();
                chart::panels(&panels?)
            }
        }
    }
}
