//! ZIP archives, which nobody need trust.

use std::borrow::Cow;
use std::fmt;
use std::io::{self, Cursor, Read};
use std::path::Path;
use std::sync::Arc;

use zip::ZipArchive;
use zip::result::ZipError;

use crate::file_bytes::fault_of_path;
use crate::files::Files;
use crate::limits::Limits;
use crate::problem::{LoadError, Problem, ProblemSource};

/// Reel files and their images in one ZIP file: embedded by `include_bytes!`, fetched in one request, or brought by a
/// mod. The command `lucky-reel archive` writes one.
///
/// Everything about it is checked when it is opened, and each file again when it is read: an archive may come
/// from anybody. Refused are paths that leave the archive, links, two files of one name, encrypted files, more
/// files or larger ones than the [`Limits`] say. Archives within it are not opened.
///
/// ```no_run
/// use lucky_reel_assets::{Archive, Loader};
///
/// # const NIGHT: &[u8] = &[]; /*
/// const NIGHT: &[u8] = include_bytes!("night.zip");
/// # */
/// let art = Loader::new().files(Archive::open(NIGHT)?).load()?;
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
pub struct Archive<'b> {
    /// Reading needs a reader of its own, which shares the list of files.
    zip: ZipArchive<Cursor<Bytes<'b>>>,
    /// The paths of the files, sorted, each with its number in the archive.
    names: Vec<(String, usize)>,
    limits: Limits,
}

/// The bytes of the archive, for as many readers as there are.
#[derive(Clone)]
struct Bytes<'b>(Arc<Cow<'b, [u8]>>);

impl AsRef<[u8]> for Bytes<'_> {
    fn as_ref(&self) -> &[u8] {
        &self.0
    }
}

impl fmt::Debug for Archive<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.names.iter().map(|(name, _)| name)).finish()
    }
}

impl<'b> Archive<'b> {
    /// Opens an archive: a slice that is compiled in, or the `Vec` that came over the network.
    ///
    /// # Errors
    /// When it is damaged, cut short, or refused; the problem names the entry.
    pub fn open(bytes: impl Into<Cow<'b, [u8]>>) -> Result<Archive<'b>, LoadError> {
        Archive::open_within(bytes, Limits::default())
    }

    /// Opens an archive, within other limits.
    ///
    /// # Errors
    /// As [`open`](Archive::open).
    pub fn open_within(
        bytes: impl Into<Cow<'b, [u8]>>,
        limits: Limits,
    ) -> Result<Archive<'b>, LoadError> {
        let shared = Bytes(Arc::new(bytes.into()));
        let bytes: &[u8] = shared.as_ref();
        let opened = ZipArchive::new(Cursor::new(shared.clone()));
        let opened = opened.map_err(|error| broken(bytes, &error));
        let mut zip = opened?;
        let listed = entries_listed(bytes);
        if zip.len() as u64 > limits.archive_files {
            let what = format!("the archive has more than {} files", limits.archive_files);
            let fix = "use a smaller archive, or raise the limit (`archive_files`)";
            return Err(Problem::new(ProblemSource::Limit, Path::new(""), what, fix).into());
        }
        // Of two files of one name only the last is kept by the reader.
        if listed.is_some_and(|listed| usize::from(listed) != zip.len() % (1 << 16)) {
            let what = "two files in the archive have one name, or its list is damaged";
            return Err(refused(Path::new(""), what.to_owned()).into());
        }
        let (mut names, mut unpacked) = (Vec::new(), 0_u64);
        for index in 0..zip.len() {
            let entry = zip.by_index_raw(index).map_err(|error| broken(bytes, &error))?;
            let name = String::from_utf8_lossy(entry.name_raw()).into_owned();
            let fault = match fault_of_path(name.trim_end_matches('/')) {
                Some(why) => Some(why.replace("reel file's folder", "archive")),
                None if std::str::from_utf8(entry.name_raw()).is_err() => {
                    Some("the name is not UTF-8".to_owned())
                }
                None if entry.is_symlink() => Some("this is a link".to_owned()),
                None if entry.encrypted() => Some("it is encrypted".to_owned()),
                None => None,
            };
            if let Some(why) = fault {
                return Err(refused(Path::new(&name), why).into());
            }
            unpacked = unpacked.saturating_add(entry.size());
            if !name.ends_with('/') {
                names.push((name, index));
            }
        }
        if unpacked > limits.archive_bytes {
            let what =
                format!("unpacked, the archive has more than {} bytes", limits.archive_bytes);
            let fix = "use a smaller archive, or raise the limit (`archive_bytes`)";
            return Err(Problem::new(ProblemSource::Limit, Path::new(""), what, fix).into());
        }
        names.sort();
        Ok(Archive { zip, names, limits })
    }
}

impl Files for Archive<'_> {
    fn read(&self, path: &str) -> io::Result<Vec<u8>> {
        let mut zip = self.zip.clone();
        let damaged = |error: &dyn fmt::Display| {
            let what = format!("the file is damaged in the archive: {error}");
            io::Error::new(io::ErrorKind::InvalidData, what)
        };
        let found = self.names.binary_search_by(|(name, _)| name.as_str().cmp(path));
        let Ok(at) = found else { return Err(io::ErrorKind::NotFound.into()) };
        let entry = zip.by_index(self.names[at].1).map_err(|error| damaged(&error))?;
        // What it says of its size may be a lie.
        let most = self.limits.picture_bytes.max(self.limits.reel_bytes);
        let mut bytes = Vec::new();
        let read = entry.take(most + 1).read_to_end(&mut bytes);
        read.map_err(|error| damaged(&error))?;
        Ok(bytes)
    }

    fn list(&self) -> io::Result<Vec<String>> {
        Ok(self.names.iter().map(|(name, _)| name.clone()).collect())
    }
}

fn refused(entry: &Path, why: String) -> Problem {
    Problem::new(ProblemSource::Disk, entry, why, "make the archive again: `lucky-reel archive`")
}

/// What is wrong with an archive that cannot be opened, and in which entry.
fn broken(bytes: &[u8], error: &ZipError) -> Problem {
    let what = match (last_entry(bytes), error) {
        (None, _) => "this is not a ZIP archive".to_owned(),
        (Some(name), ZipError::Io(cause)) => format!("the archive is damaged in `{name}`: {cause}"),
        (Some(name), _) => format!("the archive is damaged or cut short in or after `{name}`"),
    };
    refused(Path::new(""), what)
}

/// How many files the list at the end says that there are, by its lowest 16 bits.
fn entries_listed(bytes: &[u8]) -> Option<u16> {
    // A comment of at most 65,535 bytes may stand behind it.
    let from = bytes.len().saturating_sub(22 + 0xffff);
    let at = bytes[from..].windows(4).rposition(|four| four == b"PK\x05\x06")?;
    let count = bytes[from + at..].get(10..12)?;
    Some(u16::from_le_bytes(count.try_into().ok()?))
}

/// The last file whose head is there, walking from head to head.
fn last_entry(bytes: &[u8]) -> Option<String> {
    let (mut at, mut last) = (0_usize, None);
    while let Some(head) = bytes.get(at..).filter(|rest| rest.starts_with(b"PK\x03\x04")) {
        let number = |from: usize, count: usize| -> Option<usize> {
            let bytes = head.get(from..from + count)?;
            Some(bytes.iter().rev().fold(0, |all, byte| all << 8 | usize::from(*byte)))
        };
        let lengths = (number(18, 4), number(26, 2), number(28, 2));
        let (Some(packed), Some(name), Some(extra)) = lengths else { break };
        let Some(name_bytes) = head.get(30..30 + name) else { break };
        last = Some(String::from_utf8_lossy(name_bytes).into_owned());
        // Where the size stands behind the bytes it is 0 here, and the walk ends.
        at += 30 + name + extra + packed;
    }
    last
}
