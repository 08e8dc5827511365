//! Reel files in their two forms, which say the same.

use std::path::Path;

pub use lucky_reel_assets::document::Form;
use lucky_reel_assets::{LoadError, Problem, document};

use crate::write::write;

/// The JSON Schema (2020-12) of reel files.
pub const SCHEMA: &str = include_str!("../schema/reel.schema.json");

/// The same document in another form; `path` tells in which form the text is. Nothing is lost but
/// comments and the layout.
///
/// ```
/// use lucky_reel_tools::convert::{Form, convert};
///
/// let json = convert("lamp.reel.toml", "reel = 1 # our format", Form::Json)?;
/// assert_eq!(json, "{\n  \"reel\": 1\n}\n");
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
///
/// # Errors
/// When the text is not valid, or has values that the other form lacks: dates and infinities.
pub fn convert(path: impl AsRef<Path>, text: &str, into: Form) -> Result<String, LoadError> {
    let path = path.as_ref();
    let root = document::read(path, text)?;
    write(&root, into).ok_or_else(|| {
        let what = format!("{} cannot express a value in it", into.describe().0);
        let fix = "a reel file has tables, lists, texts, plain numbers, true and false";
        Problem::in_file(path, what, fix).into()
    })
}
