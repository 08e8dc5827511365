//! The scene drawn on the CPU.

use lucky_reel::assets::{Art, Pixels};
use lucky_reel::view::DrawItem;
use lucky_reel::{DrawList, InstanceWriter};
use lucky_reel_canvas::Canvas;

use crate::{SIZE, Scene};

/// Draws what is on a list: a picture of [`SIZE`].
/// `None` when there is no memory for one, or the list is of another reel than the writer.
#[must_use]
pub fn picture_of(list: &mut DrawList, writer: &InstanceWriter, art: &Art) -> Option<Pixels> {
    let mut items: Vec<DrawItem> = Vec::new();
    list.write(writer, &mut items).ok()?;
    let mut canvas = Canvas::new(SIZE)?;
    for item in items {
        if let Some(view) = item.picture.view(&art.reel) {
            let at = item.place.position.map(|side| side as i32);
            canvas.draw(&view, &art.images, at, 1);
        }
    }
    Some(canvas.into_picture())
}

impl Scene {
    /// The scene as it is now: a picture of [`SIZE`].
    #[must_use]
    pub fn picture(&self, art: &Art, writer: &InstanceWriter) -> Option<Pixels> {
        let mut list = DrawList::by_depth();
        self.draw(&art.reel, &mut list, writer);
        picture_of(&mut list, writer, art)
    }
}
