//! Reel files with all that they name, in one ZIP file.

use std::collections::BTreeMap;
use std::io::{Cursor, Write};
use std::path::{Path, PathBuf};

use lucky_reel_assets::{Art, Fault, Limits};
use zip::write::{SimpleFileOptions, ZipWriter};
use zip::{CompressionMethod, DateTime};

/// The files of loaded art as an archive: its reel files and the images that they name, and nothing else. Paths
/// are those below the folder that all of them are in.
///
/// The same files give the same bytes: they are in the order of their paths, and without times. Images, which are
/// compressed already, are stored as they are.
///
/// # Errors
/// When a file cannot be read any more, or is larger than the limits say; when the art was not loaded from files.
///
/// ```
/// use lucky_reel_assets::{Archive, Limits, Loader};
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let art = Loader::new().file(format!("{folder}/moth.reel.toml")).load()?;
/// let bytes = lucky_reel_tools::archive::archive(&art, Limits::default())?;
/// let again = Loader::new().files(Archive::open(bytes)?).load()?;
/// assert_eq!(again.reel.fingerprint(), art.reel.fingerprint());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn archive(art: &Art, limits: Limits) -> Result<Vec<u8>, Fault> {
    let Some(root) = art.files.iter().filter_map(|file| file.parent()).reduce(common_folder) else {
        return Err(Fault::new("the art was not loaded from files", "load its reel files by path"));
    };
    let mut files: BTreeMap<String, &PathBuf> = BTreeMap::new();
    for file in &art.files {
        let within = file.strip_prefix(root).unwrap_or(file);
        let parts = within.components().filter_map(|part| part.as_os_str().to_str());
        files.insert(parts.collect::<Vec<_>>().join("/"), file);
    }
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    let options = SimpleFileOptions::default()
        .last_modified_time(DateTime::default())
        .unix_permissions(0o644);
    let (mut total, full) = (0_u64, "leave files out, or raise the limit");
    for (name, path) in &files {
        let shown = path.display();
        let bytes = std::fs::read(path).map_err(|error| {
            Fault::new(format!("{shown}: the file cannot be read: {error}"), "check the path")
        })?;
        total += bytes.len() as u64;
        if total > limits.archive_bytes {
            let what = format!("all files have more than {} bytes", limits.archive_bytes);
            return Err(Fault::new(what, full));
        }
        let is_text = [".toml", ".json"].iter().any(|ending| name.ends_with(ending));
        let method = if is_text { CompressionMethod::Deflated } else { CompressionMethod::Stored };
        let written = zip
            .start_file(name, options.compression_method(method))
            .and_then(|()| Ok(zip.write_all(&bytes)?));
        written.map_err(|error| {
            Fault::new(format!("{shown}: the file cannot be archived: {error}"), full)
        })?;
    }
    let done = zip.finish();
    let done = done.map_err(|error| Fault::new(format!("the archive fails: {error}"), full))?;
    Ok(done.into_inner())
}

/// The folder that both are in.
fn common_folder<'p>(one: &'p Path, other: &Path) -> &'p Path {
    one.ancestors().find(|folder| other.starts_with(folder)).unwrap_or(Path::new(""))
}
