//! The pictures that are committed are those that the painter paints.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::Pixels;

#[test]
fn committed_pictures_are_the_painted_ones() {
    for (name, painted) in greenhouse_painter::pictures() {
        let path = format!("{}/../greenhouse/{name}", env!("CARGO_MANIFEST_DIR"));
        let committed = Pixels::from_png(&std::fs::read(path).unwrap()).unwrap();
        assert!(committed == painted, "{name}: cargo run -p greenhouse-painter --example paint");
    }
}
