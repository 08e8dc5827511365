//! Any text is a reel, or is refused: in both forms, with pictures of any size.

#![no_main]

use libfuzzer_sys::fuzz_target;
use lucky_reel::assets::{Loader, Pixels, load_bytes};
use lucky_reel::{Player, Speed, Ticks};

fuzz_target!(|data: &[u8]| {
    let Some((&choice, text)) = data.split_first() else { return };
    let size = [u32::from(choice & 15) * 8, u32::from(choice >> 4) * 8];
    let picture = || Ok(Pixels::new(size).map(|picture| picture.to_png()).unwrap_or_default());
    for name in ["bram.reel.toml", "bram.reel.json"] {
        let Ok(art) = load_bytes(name, text, |_| picture()) else { continue };
        for clip in art.reel.clips().take(8) {
            let mut player = Player::new(&art.reel, clip.id);
            player.set_speed(Speed::BACKWARD);
            let _ = player.advance(&art.reel, Ticks::from_secs(100_000)).take(100).count();
            let _ = player.view(&art.reel).map(|view| view.blit([0, 0], 1));
        }
        let _ = lucky_reel_tools::check(Loader::new().bytes(name, text, |_| picture()));
    }
});
