//! Paints all pictures into `demo/greenhouse`.

use std::path::Path;

fn main() -> std::io::Result<()> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../greenhouse");
    for (name, picture) in greenhouse_painter::pictures() {
        std::fs::write(folder.join(name), picture.to_png())?;
        println!("painted {name}, {} x {}", picture.size()[0], picture.size()[1]);
    }
    Ok(())
}
