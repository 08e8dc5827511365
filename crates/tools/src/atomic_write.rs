//! Files that are written whole or not at all, and never over another one unless asked.

use std::fmt;
use std::fs::{self, File};
use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};

use tempfile::NamedTempFile;

/// Why a file was not written. There is then no half of it.
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

impl WriteError {
    /// Whether the file was no longer what it was expected to be: somebody else has changed it.
    #[must_use]
    pub fn has_changed(&self) -> bool {
        self.cause.kind() == io::ErrorKind::InvalidData
    }
}

/// As it is displayed, for a `main` that returns it.
impl fmt::Debug for WriteError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}

impl fmt::Display for WriteError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let path = self.path.display();
        match self.cause.kind() {
            io::ErrorKind::AlreadyExists => write!(f, "{path}: file already exists"),
            io::ErrorKind::InvalidData => write!(f, "{path}: has changed on the disk"),
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

/// Replaces the content of a file that is there, and keeps its rights. Refused when it is not what it
/// was: somebody else has changed it since it was read. A link is followed.
///
/// # Errors
/// When the file has changed or is gone, or cannot be written.
pub fn replace(path: impl AsRef<Path>, was: &[u8], now: &[u8]) -> Result<(), WriteError> {
    let path = path.as_ref();
    let replaced = || -> io::Result<()> {
        let real = path.canonicalize()?;
        let temporary = NamedTempFile::new_in(real.parent().unwrap_or(Path::new(".")))?;
        temporary.as_file().write_all(now)?;
        temporary.as_file().sync_all()?;
        temporary.as_file().set_permissions(fs::metadata(&real)?.permissions())?;
        // As late as can be, so that next to nothing can come in between.
        if fs::read(&real)? != was {
            return Err(io::ErrorKind::InvalidData.into());
        }
        temporary.persist(&real).map_err(|error| error.error)?;
        Ok(())
    };
    replaced().map_err(|cause| WriteError { path: path.to_owned(), cause })
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
