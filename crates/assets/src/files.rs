use std::io;
use std::path::{Path, PathBuf};

/// Files that can be read by their paths and listed: a folder, an [`Archive`](crate::Archive), files that are compiled
/// in, or a game's own pack. [`Loader::files`](crate::Loader::files) loads the reel files among them.
///
/// Paths have / between folders on every system, and none at the start.
///
/// Slices of names and bytes are files in memory, and a path is the folder there:
///
/// ```
/// use lucky_reel_assets::{Loader, Pixels};
///
/// let text = "reel = 1\n[sheets.puff]\nimages = \"puff-*.png\"\n[clips.puff]\nframes = \"all\"\nfps = 12\n";
/// let puff = Pixels::new([8, 8]).unwrap().to_png(); // in a game: include_bytes!
/// let files = [("puff.reel.toml", text.as_bytes()), ("puff-0.png", &*puff), ("puff-1.png", &*puff)];
/// let art = Loader::new().files(&files[..]).load()?;
/// assert_eq!(art.reel.clips().next().unwrap().holds().len(), 2);
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
pub trait Files: Send + Sync {
    /// The bytes of the file at a path.
    ///
    /// # Errors
    /// [`NotFound`](io::ErrorKind::NotFound) where there is none.
    fn read(&self, path: &str) -> io::Result<Vec<u8>>;

    /// The paths of all files.
    ///
    /// # Errors
    /// When they cannot be listed.
    fn list(&self) -> io::Result<Vec<String>>;
}

impl<F: Files + ?Sized> Files for &F {
    fn read(&self, path: &str) -> io::Result<Vec<u8>> {
        (**self).read(path)
    }

    fn list(&self) -> io::Result<Vec<String>> {
        (**self).list()
    }
}

impl<N: AsRef<str> + Send + Sync, B: AsRef<[u8]> + Send + Sync> Files for [(N, B)] {
    fn read(&self, path: &str) -> io::Result<Vec<u8>> {
        let found = self.iter().find(|(name, _)| name.as_ref() == path);
        found.map(|(_, bytes)| bytes.as_ref().to_vec()).ok_or(io::ErrorKind::NotFound.into())
    }

    fn list(&self) -> io::Result<Vec<String>> {
        Ok(self.iter().map(|(name, _)| name.as_ref().to_owned()).collect())
    }
}

/// The folder at this path, with all that is below it. Links are not followed.
impl Files for Path {
    fn read(&self, path: &str) -> io::Result<Vec<u8>> {
        std::fs::read(self.join(path))
    }

    fn list(&self) -> io::Result<Vec<String>> {
        let mut found = Vec::new();
        let mut folders: Vec<(PathBuf, String)> = vec![(self.to_owned(), String::new())];
        while let Some((folder, start)) = folders.pop() {
            for entry in std::fs::read_dir(folder)? {
                let entry = entry?;
                let Ok(name) = entry.file_name().into_string() else { continue };
                let (kind, path) = (entry.file_type()?, format!("{start}{name}"));
                if kind.is_dir() {
                    folders.push((entry.path(), format!("{path}/")));
                } else if kind.is_file() {
                    found.push(path);
                }
            }
        }
        found.sort();
        Ok(found)
    }
}
