use std::io;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use lucky_reel_core::problem::{self, Section};
use lucky_reel_core::{Reel, ReelBuilder};

use crate::Art;
#[cfg(feature = "atlas")]
use crate::atlas::Atlas;
use crate::document::MAX_PROBLEMS;
use crate::file_bytes::{Source, read_among, read_file};
use crate::files::Files;
use crate::limits::Limits;
use crate::pictures::{GridAdvice, Held, Pictures};
use crate::pixels::Pixels;
use crate::problem::{LoadError, Problem, ProblemSource};
use crate::reel_file::{self, RoleFile, SharedImages, Sources};

/// Loads one reel file and its pictures.
///
/// # Errors
/// Everything that is wrong, each with its place and how to fix it.
pub fn load(path: impl Into<PathBuf>) -> Result<Art, LoadError> {
    Loader::new().file(path).load()
}

/// Loads several reel files into one reel, each a role named after its file.
///
/// # Errors
/// As [`load`].
pub fn load_all<P: Into<PathBuf>>(paths: impl IntoIterator<Item = P>) -> Result<Art, LoadError> {
    paths.into_iter().fold(Loader::new(), |loader, path| loader.file(path)).load()
}

/// Loads several reel files without keeping their pixels: for servers and tests.
///
/// # Errors
/// As [`load`].
pub fn load_reel<P: Into<PathBuf>>(paths: impl IntoIterator<Item = P>) -> Result<Reel, LoadError> {
    paths.into_iter().fold(Loader::new(), |loader, path| loader.file(path)).load_reel()
}

/// Loads a reel file from memory; a function reads its images, by their paths in the file.
///
/// # Errors
/// As [`load`].
///
/// ```
/// use lucky_reel_assets::Pixels;
///
/// let text = r#"
/// reel = 1
/// [sheets.lamp]
/// image = "lamp.png"
/// grid = { cell = [16, 16] }
/// [clips.glow]
/// row = 0
/// fps = 8
/// mode = "ping-pong"
/// "#;
/// let mut lamp = Pixels::new([64, 16]).unwrap();
/// lamp.rgba_mut().fill(255);
/// let art = lucky_reel_assets::load_bytes("lamp.reel.toml", text.as_bytes(), |_| Ok(lamp.to_png()))?;
/// assert_eq!(art.reel.clips().next().unwrap().holds().len(), 4);
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
pub fn load_bytes(
    name: &str,
    text: &[u8],
    read: impl FnMut(&str) -> io::Result<Vec<u8>>,
) -> Result<Art, LoadError> {
    Loader::new().bytes(name, text, read).load()
}

/// Collects reel files, from paths or from memory, and loads them into one reel.
///
/// ```
/// use lucky_reel_assets::Loader;
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let greenhouse = || {
///     Loader::new().file(format!("{folder}/bram.reel.toml")).file(format!("{folder}/tiles.reel.toml"))
/// };
/// let art = greenhouse().load()?;
/// // Later, when a file has changed: names keep their ids, and players go on.
/// let art = greenhouse().reload(&art.reel)?;
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[derive(Default)]
#[must_use = "a loader does nothing before `load`"]
pub struct Loader<'r> {
    files: Vec<Input<'r>>,
    /// How many times files that can be listed were given.
    sources: usize,
    /// What was wrong before there was a reel file.
    problems: Vec<Problem>,
    limits: Limits,
    advice: Option<GridAdvice>,
    #[cfg(feature = "atlas")]
    atlas: Option<&'r mut Atlas>,
}

struct Input<'r> {
    path: PathBuf,
    /// Read when it is loaded, if it is not given.
    text: Option<&'r [u8]>,
    source: Source<'r>,
}

impl<'r> Loader<'r> {
    /// A loader without files.
    pub fn new() -> Loader<'r> {
        Loader::default()
    }

    /// Adds a reel file. Its role is named after it: `bram.reel.toml` is the role `bram`.
    pub fn file(mut self, path: impl Into<PathBuf>) -> Loader<'r> {
        let path = path.into();
        let folder = path.parent().map(Path::to_owned).unwrap_or_default();
        self.files.push(Input { path, text: None, source: Source::Folder(folder) });
        self
    }

    /// Adds a reel file whose text is in memory, in place of what the file of this path has; its images
    /// are read from the path's folder. For tools that edit the text.
    pub fn file_with_text(mut self, path: impl Into<PathBuf>, text: &'r str) -> Loader<'r> {
        self = self.file(path);
        if let Some(input) = self.files.last_mut() {
            input.text = Some(text.as_bytes());
        }
        self
    }

    /// Adds a reel file that is in memory, under a name such as `bram.reel.toml`. A function reads its
    /// images, by their paths in the file.
    pub fn bytes(
        mut self,
        name: &str,
        text: &'r [u8],
        read: impl FnMut(&str) -> io::Result<Vec<u8>> + 'r,
    ) -> Loader<'r> {
        let source = Source::Function(Box::new(read));
        self.files.push(Input { path: PathBuf::from(name), text: Some(text), source });
        self
    }

    /// Adds all reel files, `NAME.reel.toml` and `NAME.reel.json`, of a folder, an archive, or other [`Files`]; their
    /// images are read from there.
    ///
    /// ```
    /// use lucky_reel_assets::Loader;
    /// use std::path::Path;
    ///
    /// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    /// # let folder = Path::new(folder);
    /// let art = Loader::new().files(folder).load()?;
    /// assert!(art.reel.id::<lucky_reel_core::ClipId>("bram/walk-down").is_ok());
    /// # Ok::<(), lucky_reel_assets::LoadError>(())
    /// ```
    pub fn files(mut self, files: impl Files + 'r) -> Loader<'r> {
        let files: Arc<dyn Files + 'r> = Arc::new(files);
        match files.list() {
            Err(cause) => {
                let what = format!("the files cannot be listed: {cause}");
                let fix = "check the folder or the archive";
                self.problems.push(Problem::new(ProblemSource::Disk, Path::new(""), what, fix));
            }
            Ok(names) => {
                let (before, number) = (self.files.len(), self.sources);
                self.sources += 1;
                for name in names.iter().filter(|name| is_reel_file(name)) {
                    let path = PathBuf::from(name);
                    let folder = path.parent().map(Path::to_owned).unwrap_or_default();
                    let source = Source::Files { files: Arc::clone(&files), folder, number };
                    self.files.push(Input { path, text: None, source });
                }
                if self.files.len() == before {
                    let what = "there is no reel file among the files";
                    let fix = "give them one: NAME.reel.toml";
                    self.problems.push(Problem::new(ProblemSource::Disk, Path::new(""), what, fix));
                }
            }
        }
        self
    }

    /// Sets other limits.
    pub fn limits(mut self, limits: Limits) -> Loader<'r> {
        self.limits = limits;
        self
    }

    /// Asks this function about each image that its grid does not fit, and adds the answer to the fix:
    /// `lucky_reel_measure::advice` measures the image. Games need none.
    pub fn advise_grids(mut self, advice: GridAdvice) -> Loader<'r> {
        self.advice = Some(advice);
        self
    }

    /// Puts the frames of all files onto as few images as fit, so that a renderer binds one texture for
    /// all of them; nothing else changes. The same atlas given to the next loader keeps everything in its place
    /// that has not changed. [`load_reel`](Loader::load_reel) looks at no pixels, and leaves frames on
    /// their own images.
    ///
    /// ```
    /// use lucky_reel_assets::{Atlas, Loader};
    ///
    /// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    /// let mut atlas = Atlas::new(); // 2048 x 2048 pixels at most, one pixel between frames
    /// let files = ["bram", "moth", "tiles"].map(|role| format!("{folder}/{role}.reel.toml"));
    /// let loader = files.into_iter().fold(Loader::new(), Loader::file);
    /// let art = loader.into_atlas(&mut atlas).load()?;
    /// assert_eq!(art.images.len(), 1);
    /// # Ok::<(), lucky_reel_assets::LoadError>(())
    /// ```
    #[cfg(feature = "atlas")]
    pub fn into_atlas(mut self, atlas: &'r mut Atlas) -> Loader<'r> {
        self.atlas = Some(atlas);
        self
    }

    /// Loads everything.
    ///
    /// # Errors
    /// Everything that is wrong, each with its place and how to fix it.
    pub fn load(self) -> Result<Art, LoadError> {
        self.fill(Reel::builder(), true).art()
    }

    /// Loads everything, without keeping the pixels.
    ///
    /// # Errors
    /// As [`load`](Loader::load).
    pub fn load_reel(self) -> Result<Reel, LoadError> {
        self.fill(Reel::builder(), false).art().map(|art| art.reel)
    }

    /// Loads the next version of a reel: names that survive keep their ids, and players that play from
    /// the old one can switch to the new one.
    ///
    /// # Errors
    /// As [`load`](Loader::load); the old reel is still good then.
    pub fn reload(self, reel: &Reel) -> Result<Art, LoadError> {
        self.fill(reel.reload(), true).art()
    }

    /// Loads everything, and watches the files from then on, so that they can be changed while the game
    /// runs.
    ///
    /// # Errors
    /// As [`load`](Loader::load); and when a reel file is in memory, where nothing can be watched.
    #[cfg(feature = "watch")]
    pub fn watch(self) -> Result<(Art, crate::Watcher), LoadError> {
        crate::Watcher::start(self.for_watching()?, None)
    }

    /// As [`watch`](Loader::watch), but looks at the files' times and sizes this often instead of asking
    /// the system for events: for network drives and containers that deliver none.
    ///
    /// # Errors
    /// As [`watch`](Loader::watch).
    #[cfg(feature = "watch")]
    pub fn watch_by_polling(
        self,
        interval: std::time::Duration,
    ) -> Result<(Art, crate::Watcher), LoadError> {
        crate::Watcher::start(self.for_watching()?, Some(interval))
    }

    #[cfg(feature = "watch")]
    fn for_watching(self) -> Result<crate::watch::Recipe, LoadError> {
        let in_memory =
            |input: &&Input<'_>| input.text.is_some() || !matches!(input.source, Source::Folder(_));
        if let Some(input) = self.files.iter().find(in_memory) {
            let what = "a reel file in memory cannot be watched";
            let fix = "give the loader the path of a file";
            return Err(Problem::new(ProblemSource::Disk, &input.path, what, fix).into());
        }
        let files = self.files.into_iter().map(|input| input.path).collect();
        let (limits, advice) = (self.limits, self.advice);
        Ok(crate::watch::Recipe { files, limits, advice, atlas: self.atlas.cloned() })
    }

    /// Loads everything, and returns where each thing is written.
    ///
    /// # Errors
    /// As [`load`](Loader::load).
    pub fn load_with_sources(self) -> Result<(Art, Sources), LoadError> {
        let filled = self.fill(Reel::builder(), true);
        let files = filled.roles.into_iter().map(RoleFile::into_source).collect();
        match filled.art {
            Some(art) => Ok((art, Sources { files })),
            None => Err(LoadError::new(filled.problems)),
        }
    }

    pub(crate) fn fill(self, mut builder: ReelBuilder, keep_pixels: bool) -> Filled {
        let mut named: Vec<PathBuf> = Vec::new();
        let mut problems: Vec<Problem> = self.problems;
        let mut roles: Vec<RoleFile> = Vec::new();
        let mut held = Held::default();
        let mut shared = SharedImages::default();
        if self.files.is_empty() && problems.is_empty() {
            let what = "there is no reel file to load";
            problems.push(Problem::new(ProblemSource::Disk, Path::new(""), what, "name one"));
        }
        let files: Vec<PathBuf> = self.files.iter().map(|file| file.path.clone()).collect();
        for mut input in self.files {
            let limits = (self.limits, keep_pixels);
            let text = text_of(&input, self.limits);
            let mut images = Pictures::new(&mut input.source, limits, &input.path, &mut held);
            images.advice = self.advice;
            let role = text.and_then(|text| {
                let before = roles.iter().map(|role| &*role.role);
                reel_file::check_role(&input.path, before)?;
                reel_file::read(&mut builder, &input.path, text, &mut images, &mut shared)
            });
            let shown = role.as_ref().map(|role| &role.images[..]).unwrap_or_default();
            let inner = images.finish(shown.iter().map(|(sheet, image)| (*sheet, &**image)));
            match role {
                Ok(role) => {
                    problems.extend(role.problems.iter().cloned());
                    roles.push(role);
                }
                Err(error) => {
                    // What others say of this role is not known to be wrong.
                    builder.role(reel_file::role_of(&input.path));
                    Section::Role.mark_incomplete(&mut builder, "");
                    problems.extend_from_slice(error.problems());
                }
            }
            if let Source::Folder(folder) = &input.source {
                named.push(input.path.clone());
                named.extend(inner.names().map(|name| folder.join(name)));
            }
        }
        match builder.build() {
            Ok(reel) if problems.is_empty() => {
                let known = if keep_pixels { reel.images().len() } else { 0 };
                let mut images = vec![Pixels::default(); known];
                for (sheet, picture) in held.into_images() {
                    let frame = reel.frames_of(sheet).next().and_then(|frame| reel.frame(frame));
                    if let Some(at) = frame.and_then(|frame| images.get_mut(frame.image.index())) {
                        *at = picture;
                    }
                }
                // A pattern is no file; what it matched is listed, too.
                let files = named.iter().filter(|path| path.is_file()).cloned().collect();
                let art = Art { reel, images, files };
                #[cfg(feature = "atlas")]
                let art = match self.atlas.filter(|_| keep_pixels) {
                    Some(atlas) => atlas.put(art, self.limits),
                    None => Ok(art),
                };
                #[cfg(not(feature = "atlas"))]
                let art = Ok::<Art, Problem>(art);
                let art = art.map_err(|problem| problems.push(problem)).ok();
                return Filled { art, problems, roles, named };
            }
            Ok(_) => {}
            Err(error) => {
                let placed = error.problems().iter().filter_map(|of| place(&roles, of));
                for problem in placed.take(MAX_PROBLEMS.saturating_sub(problems.len())) {
                    // Clips that one entry makes share its words, and so its problems.
                    if !problems.iter().any(|known| problem.is_like(known)) {
                        problems.push(problem);
                    }
                }
                if problems.is_empty() {
                    let (message, fix) = (error.to_string(), "check the reel files");
                    problems.push(Problem::in_file(Path::new(""), message, fix));
                }
            }
        }
        let place = |problem: &Problem| {
            let file = files.iter().position(|file| file == problem.path());
            (file, problem.line(), problem.column())
        };
        let mut in_order: Vec<Problem> = Vec::with_capacity(problems.len());
        for problem in problems {
            let at = in_order.partition_point(|before| place(before) <= place(&problem));
            in_order.insert(at, problem);
        }
        Filled { art: None, problems: in_order, roles, named }
    }
}

/// What came of loading: the art, unless there are problems.
pub(crate) struct Filled {
    pub(crate) art: Option<Art>,
    problems: Vec<Problem>,
    roles: Vec<RoleFile>,
    /// The files that were asked for, there or not; the name of a file may be a pattern.
    #[cfg_attr(not(feature = "watch"), allow(dead_code))] // it is what is watched
    pub(crate) named: Vec<PathBuf>,
}

impl Filled {
    pub(crate) fn art(self) -> Result<Art, LoadError> {
        self.art.ok_or_else(|| LoadError::new(self.problems))
    }
}

/// A problem of the core as one of the file that it came from.
fn place(roles: &[RoleFile], problem: &problem::Problem) -> Option<Problem> {
    if problem.code() == "incomplete" {
        return None;
    }
    roles.iter().find(|role| role.role == problem.role)?.place(problem)
}

/// Whether a path is that of a reel file.
fn is_reel_file(path: &str) -> bool {
    [".reel.toml", ".reel.json"].iter().any(|ending| path.ends_with(ending))
}

fn text_of(input: &Input<'_>, limits: Limits) -> Result<String, LoadError> {
    let path = &input.path;
    let bytes = match (input.text, &input.source) {
        (Some(bytes), _) => bytes.to_vec(),
        (None, Source::Files { files, .. }) => {
            // As the files themselves say it.
            let name = path.to_str().unwrap_or_default();
            read_among(&**files, name, limits.reel_bytes)?
        }
        (None, _) => read_file(path, limits.reel_bytes)?,
    };
    String::from_utf8(bytes).map_err(|_| {
        let what = "this is not a text in UTF-8";
        Problem::new(ProblemSource::ReelFile, path, what, "give a reel file, NAME.reel.toml").into()
    })
}

impl std::fmt::Debug for Loader<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_list().entries(self.files.iter().map(|file| &file.path)).finish()
    }
}
