//! Files that are written whole or not at all, and never over another one unless asked.

use std::fmt;
use std::fs::{self, File};
use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};

use tempfile::NamedTempFile;

/// Why a file was not written. There is then no half of it.
#[derive(Debug)]
pub struct WriteError {
    path: PathBuf,
    cause: io::Error,
}

impl WriteError {
    /// The file that was to be written.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Whether it was there already, and nothing may be written over.
    #[must_use]
    pub fn already_exists(&self) -> bool {
        self.cause.kind() == io::ErrorKind::AlreadyExists
    }
}

impl fmt::Display for WriteError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let path = self.path.display();
        match self.cause.kind() {
            io::ErrorKind::AlreadyExists => write!(f, "{path}: file already exists"),
            io::ErrorKind::NotFound => write!(f, "{path}: its folder does not exist"),
            _ => write!(f, "{path}: cannot be written: {}", self.cause),
        }
    }
}

impl std::error::Error for WriteError {
    fn source(&self) -> Option<&(dyn std::error::Error + 'static)> {
        Some(&self.cause)
    }
}

/// Writes a file by way of a temporary one beside it, which takes its name in the end. Over a file
/// that is there already only when `replace` is set.
///
/// # Errors
/// When the folder is missing, the disk is full, or the file is there already.
pub fn write(
    path: impl AsRef<Path>,
    replace: bool,
    fill: impl FnOnce(&mut BufWriter<&File>) -> io::Result<()>,
) -> Result<(), WriteError> {
    let path = path.as_ref();
    let written = || -> io::Result<()> {
        // An early check, before the work is done; the rename decides.
        if !replace && path.try_exists()? {
            return Err(io::ErrorKind::AlreadyExists.into());
        }
        let folder = match path.parent() {
            Some(folder) if !folder.as_os_str().is_empty() => folder,
            _ => Path::new("."),
        };
        let temporary = NamedTempFile::new_in(folder)?;
        let mut writer = BufWriter::new(temporary.as_file());
        fill(&mut writer)?;
        writer.flush()?;
        drop(writer);
        readable_as_others(temporary.as_file())?;
        let taken =
            if replace { temporary.persist(path) } else { temporary.persist_noclobber(path) };
        taken.map_err(|error| error.error)?;
        Ok(())
    };
    written().map_err(|cause| WriteError { path: path.to_owned(), cause })
}

/// Temporary files are private; a result is readable like any other file.
#[cfg(unix)]
fn readable_as_others(file: &File) -> io::Result<()> {
    use std::os::unix::fs::PermissionsExt;
    file.set_permissions(fs::Permissions::from_mode(0o644))
}

#[cfg(not(unix))]
fn readable_as_others(_: &File) -> io::Result<()> {
    Ok(())
}
