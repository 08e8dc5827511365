//! The scene with its art, and the way from its list to pixels.

use std::error::Error;

use greenhouse_scene::{ROLES, SIZE, Scene};
use lucky_reel::assets::{Art, Loader, Pixmap, Watcher};
use lucky_reel::{DrawItem, DrawList, InstanceWriter};
use lucky_reel_tools::Canvas;

use crate::Arguments;

/// So many pixels of the screen for each of the scene.
const ZOOM: u32 = 4;

pub(crate) struct Game {
    pub(crate) art: Art,
    pub(crate) scene: Scene,
    watcher: Watcher,
    writer: InstanceWriter,
    list: DrawList,
    items: Vec<DrawItem>,
}

impl Game {
    pub(crate) fn open(arguments: &Arguments) -> Result<Game, Box<dyn Error>> {
        let file = |role: &str| arguments.demo.join(format!("{role}.reel.toml"));
        let loader = ROLES.iter().fold(Loader::new(), |loader, role| loader.file(file(role)));
        let (art, watcher) = loader.watch()?;
        Ok(Game {
            scene: Scene::new(&art.reel, arguments.moths)?,
            writer: InstanceWriter::new(&art.reel),
            list: DrawList::by_depth(),
            items: Vec::new(),
            watcher,
            art,
        })
    }

    /// Takes files that have been edited. What is wrong with them is printed, and the game goes on.
    pub(crate) fn reload(&mut self) {
        match self.watcher.poll() {
            None => {}
            Some(Ok(reload)) => match self.scene.reload(&reload.art.reel) {
                Ok(()) => {
                    self.art = reload.art;
                    self.writer.refresh(&self.art.reel);
                }
                Err(error) => eprintln!("{error}"),
            },
            Some(Err(error)) => eprintln!("{error}"),
        }
    }

    /// The scene as it is now, upscaled: 1280 x 800.
    pub(crate) fn picture(&mut self) -> Pixmap {
        self.list.clear();
        self.scene.draw(&self.art.reel, &mut self.list, &self.writer);
        self.items.clear();
        self.list.write(&self.writer, &mut self.items);
        let mut canvas = Canvas::on(Pixmap::new(SIZE).unwrap_or_default());
        for item in &self.items {
            if let Some(view) = item.picture.view(&self.art.reel) {
                let at = item.place.position().map(|side| side as i32);
                canvas.draw(&view, &self.art.images, at, 1);
            }
        }
        canvas.into_picture().upscaled(ZOOM).unwrap_or_default()
    }
}
