//! The sheets of reel files on few images, and the reel files for that.

use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::path::{Path, PathBuf};

use lucky_reel_assets::document::{Entry, Form, Node, Value};
use lucky_reel_assets::packing::{Packing, fits, pack};
use lucky_reel_assets::{Art, Fault, Pixels, SheetSource, SourceFile, Sources};
use lucky_reel_core::{Frame, FrameId, LookId, Rect};

use crate::write::write;

/// Reel files whose sheets are on few images.
#[derive(Clone, Debug)]
pub struct PackedReels {
    /// The images, each with the name of its file.
    pub pages: Vec<(String, Pixels)>,
    /// The reel files, each with the name of its file.
    pub files: Vec<(String, String)>,
    /// Animated images, which stay as they are, since their times are in them: where each is, and the name
    /// by which the reel files have it.
    pub animated: Vec<(PathBuf, String)>,
}

/// Puts the sheets of reel files onto as few images as fit, each sheet on one of them, and rewrites the
/// files for that: grids keep their rows and columns, all else becomes cutouts, looks get sheets of their
/// own, and colors that were made transparent are transparent in the images. Animated images stay files of
/// their own. Everything else stays, but for comments and layout. The files load into the same clips, with
/// the same ids.
///
/// Images are called `NAME.png`, or `NAME-0.png`, `NAME-1.png` and so on.
///
/// # Errors
/// When a sheet does not fit, or two animated images have one name.
///
/// ```
/// use lucky_reel_assets::Loader;
/// use lucky_reel_assets::packing::Packing;
/// use lucky_reel_tools::pack;
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let loader = Loader::new().file(format!("{folder}/bram.reel.toml")).file(format!("{folder}/moth.reel.toml"));
/// let (art, sources) = loader.load_with_sources()?;
/// let packed = pack::reels(&art, &sources, "night", Packing::default())?;
/// assert_eq!((packed.pages.len(), &*packed.pages[0].0), (1, "night.png"));
/// assert_eq!(packed.files[0].0, "bram.reel.toml");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn reels(
    art: &Art,
    sources: &Sources,
    name: &str,
    packing: Packing,
) -> Result<PackedReels, Fault> {
    let mut sheets = Vec::new();
    let mut animated: Vec<(PathBuf, String)> = Vec::new();
    for (nth, file) in sources.files().iter().enumerate() {
        for sheet in file.sheets() {
            match animated_image(file, sheet) {
                None => sheets.extend(sheets_of(art, file, nth, sheet)),
                Some(image) if animated.contains(&image) => {}
                Some(image) => animated.push(image),
            }
        }
    }
    let twice = |nth: &usize| animated[..*nth].iter().any(|known| known.1 == animated[*nth].1);
    if let Some((path, name)) = (0..animated.len()).find(twice).map(|nth| &animated[nth]) {
        let message = format!("two animated images are called `{name}`, one at {}", path.display());
        return Err(Fault::new(message, "rename one of them"));
    }
    let (pages, on_page) = put(&sheets, packing)?;
    let names: Vec<String> = (0..pages.len())
        .map(|page| match pages.len() {
            1 => format!("{name}.png"),
            _ => format!("{name}-{page}.png"),
        })
        .collect();
    let files = sources.files().iter().enumerate().map(|(nth, file)| {
        let mine = sheets.iter().zip(&on_page).filter(|(sheet, _)| sheet.file == nth);
        let mine: Vec<(&Sheet, &OnPage)> = mine.collect();
        let root = rewritten(file.root(), &mine, &names);
        let path = file.path().file_name().unwrap_or_default().to_string_lossy().into_owned();
        let unwritable = || {
            let message = format!("{path} has a value that cannot be written");
            let fix = "a reel file has tables, lists, texts, plain numbers, true and false";
            Fault::new(message, fix)
        };
        let text = write(&root, Form::of(file.path())).ok_or_else(unwritable)?;
        Ok((path, text))
    });
    let files: Vec<(String, String)> = files.collect::<Result<_, Fault>>()?;
    Ok(PackedReels { pages: names.into_iter().zip(pages).collect(), files, animated })
}

/// A sheet to pack: one of a file, or what a look shows in its place.
struct Sheet {
    /// Which file it is in.
    file: usize,
    /// Its name there, or that of the sheet that it stands for.
    name: String,
    look: Option<String>,
    /// How many cells are in a row of its grid; `None` where it has none.
    columns: Option<u32>,
    cells: Vec<Pixels>,
}

/// The image that a sheet is on, and where its cells are.
struct OnPage {
    page: usize,
    cells: Vec<Rect>,
}

/// The animated image that a sheet is, if it is one: where it is, and its name in the file.
fn animated_image(file: &SourceFile, sheet: &SheetSource) -> Option<(PathBuf, String)> {
    let entry = file.root().get("sheets").and_then(|sheets| sheets.get(&sheet.name))?;
    let name = entry.get("animated")?.text()?;
    let folder = file.path().parent().unwrap_or(Path::new(""));
    Some((folder.join(name), name.to_owned()))
}

/// A sheet, and its likes for looks that have other images for it.
fn sheets_of(art: &Art, file: &SourceFile, nth: usize, sheet: &SheetSource) -> Vec<Sheet> {
    let entry = file.root().get("sheets").and_then(|sheets| sheets.get(&sheet.name));
    let ids: Vec<FrameId> = art.reel.frames_of(sheet.id).collect();
    let cells = |frame_of: &dyn Fn(FrameId) -> Option<FrameId>| -> Option<Vec<Pixels>> {
        ids.iter().map(|id| cell(art, art.reel.frame(frame_of(*id)?)?)).collect()
    };
    let of = |look: Option<String>, cells| Sheet {
        file: nth,
        name: sheet.name.clone(),
        look,
        columns: entry.and_then(|entry| columns_of(art, entry, &ids)),
        cells,
    };
    let mut all = vec![of(None, cells(&|id| Some(id)).unwrap_or_default())];
    let looks = file.root().get("looks").and_then(Node::table).unwrap_or_default();
    for look in looks {
        let other = look.node.get("sheets").and_then(|sheets| sheets.get(&sheet.name));
        // What names a sheet of the file is packed as that.
        let named = other
            .and_then(Node::text)
            .filter(|other| file.sheets().iter().all(|s| s.name != *other));
        let reel = &art.reel;
        let is_it = |id: &LookId| reel.role_name(*id) == file.role() && reel.name(*id) == look.key;
        let known = reel.ids().find(is_it);
        if let (Some(_), Some(shown)) = (named, known)
            && let Some(cells) = cells(&|frame| reel.look_frame(shown, frame))
        {
            all.push(of(Some(look.key.clone()), cells));
        }
    }
    all
}

/// How many cells are in a row of the grid that cuts an image, which may be a single cell; `None` where
/// there is no grid.
fn columns_of(art: &Art, sheet: &Node, frames: &[FrameId]) -> Option<u32> {
    sheet.get("image").filter(|_| sheet.get("cutouts").is_none())?;
    let grid = sheet.get("grid");
    if let Some(columns) =
        grid.filter(|grid| grid.get("at").is_some()).and_then(|grid| grid.get("columns"))
    {
        return columns.whole();
    }
    let tops = frames.iter().filter_map(|id| art.reel.frame(*id).and_then(corner)).map(|[_, y]| y);
    let tops: Vec<u32> = tops.collect();
    Some(tops.iter().take_while(|top| Some(*top) == tops.first()).count() as u32)
}

/// The left top pixel of a frame's untrimmed cell.
fn corner(frame: &Frame) -> Option<[u32; 2]> {
    let [left, top] = frame.shift.map(|side| u32::try_from(side).unwrap_or_default());
    Some([frame.source.x.checked_sub(left)?, frame.source.y.checked_sub(top)?])
}

/// The untrimmed pixels of a frame.
fn cell(art: &Art, frame: &Frame) -> Option<Pixels> {
    let ([x, y], [width, height]) = (corner(frame)?, frame.size);
    art.image(frame.image)?.part(Rect::new(x, y, width, height))
}

/// Puts sheets onto as few images as it finds room on, each on the first where it fits.
fn put(sheets: &[Sheet], packing: Packing) -> Result<(Vec<Pixels>, Vec<OnPage>), Fault> {
    let (most, side) = (u64::from(packing.max_side).pow(2), packing.max_side);
    let too_large = |sheet: &Sheet| {
        let name = &sheet.name;
        let message = format!("the sheet `{name}` does not fit onto {side} x {side} pixels");
        Fault::new(message, "allow larger images, or pack its frames when they are loaded")
    };
    // Tried by sizes alone, cells that are identical once; drawn when all have their page.
    let mut pages: Vec<Page<'_>> = Vec::new();
    for (nth, sheet) in sheets.iter().enumerate() {
        let found = pages.iter_mut().position(|page| page.take(nth, sheet, packing));
        if found.is_none() {
            let mut page = Page::default();
            if !page.take(nth, sheet, packing) {
                return Err(too_large(sheet));
            }
            pages.push(page);
        }
    }
    let pages = pages.into_iter().map(|page| {
        let on = page.sheets;
        let cells: Vec<&Pixels> = on.iter().flat_map(|nth| &sheets[*nth].cells).collect();
        let packed = pack(&cells, packing, most).map_err(|_| too_large(&sheets[on[0]]))?;
        Ok((on, packed))
    });
    let pages = pages.collect::<Result<Vec<_>, Fault>>()?;
    let mut on_page: BTreeMap<usize, OnPage> = BTreeMap::new();
    for (page, (on, packed)) in pages.iter().enumerate() {
        let mut places = packed.places.iter().copied();
        for nth in on {
            let cells = places.by_ref().take(sheets[*nth].cells.len()).collect();
            on_page.insert(*nth, OnPage { page, cells });
        }
    }
    let pages = pages.into_iter().map(|(_, packed)| packed.sheet).collect();
    Ok((pages, on_page.into_values().collect()))
}

/// An image on which sheets are to lie.
#[derive(Default)]
struct Page<'s> {
    sheets: Vec<usize>,
    cells: HashSet<&'s Pixels>,
    sizes: Vec<[u32; 2]>,
}

impl<'s> Page<'s> {
    /// Takes a sheet, if there is room for it.
    fn take(&mut self, nth: usize, sheet: &'s Sheet, packing: Packing) -> bool {
        // In the order in which they are packed in the end, so that both come to the same.
        let mut met = HashSet::new();
        let is_new = |cell: &&'s Pixels| !self.cells.contains(cell) && met.insert(*cell);
        let new: Vec<&Pixels> = sheet.cells.iter().filter(is_new).collect();
        let sizes = self.sizes.iter().copied().chain(new.iter().map(|cell| cell.size()));
        let sizes: Vec<[u32; 2]> = sizes.collect();
        let area: u64 = sizes.iter().map(|[width, height]| u64::from(width * height)).sum();
        if area > u64::from(packing.max_side).pow(2) || !fits(&sizes, packing) {
            return false;
        }
        self.sheets.push(nth);
        self.cells.extend(new);
        self.sizes = sizes;
        true
    }
}

/// What of a sheet is said anew.
const SOURCE: [&str; 6] = ["image", "images", "animated", "grid", "cutouts", "transparent"];

/// A reel file with its sheets on pages.
fn rewritten(root: &Node, sheets: &[(&Sheet, &OnPage)], pages: &[String]) -> Node {
    let mut root = root.clone();
    let old = root.get("sheets").and_then(Node::table).unwrap_or_default().to_vec();
    let taken: BTreeSet<String> = old.iter().map(|entry| entry.key.clone()).collect();
    let mut new: Vec<Entry> = Vec::new();
    let mut of_looks: Vec<(&str, &str, String)> = Vec::new();
    for (sheet, on_page) in sheets {
        let Some(base) = old.iter().find(|entry| entry.key == sheet.name) else { continue };
        let name = match &sheet.look {
            None => sheet.name.clone(),
            Some(look) => {
                let wanted = format!("{}-{look}", sheet.name);
                let free = (2..).map(|nth| format!("{wanted}-{nth}"));
                let mut names = std::iter::once(wanted.clone()).chain(free);
                let name = names.find(|name| !taken.contains(name)).unwrap_or(wanted);
                of_looks.push((look, &sheet.name, name.clone()));
                name
            }
        };
        let mut fields = source_of(sheet, on_page, &base.node, &pages[on_page.page]);
        let kept = base.node.table().unwrap_or_default().iter();
        fields.extend(kept.filter(|field| !SOURCE.contains(&&*field.key)).cloned());
        new.push(entry(&name, Value::Table(fields)));
    }
    new.extend(old.iter().filter(|entry| entry.node.get("animated").is_some()).cloned());
    // Each in its old place, and sheets of looks last, so that the others keep their numbers.
    let place = |key: &str| old.iter().position(|entry| entry.key == key).unwrap_or(usize::MAX);
    new.sort_by_key(|entry| place(&entry.key));
    if old.len() == 1 && new.len() > 1 {
        name_only_sheet(&mut root, &old[0].key);
    }
    for (look, sheet, name) in of_looks {
        let path = ["looks", look, "sheets", sheet];
        if let Some(node) = path.iter().try_fold(&mut root, |node, key| find_mut(node, key)) {
            node.value = Value::Text(name);
        }
    }
    if let Some(node) = find_mut(&mut root, "sheets") {
        node.value = Value::Table(new);
    }
    root
}

/// `image` and `grid`, or `image` and `cutouts`.
fn source_of(sheet: &Sheet, on_page: &OnPage, base: &Node, page: &str) -> Vec<Entry> {
    let image = entry("image", Value::Text(page.to_owned()));
    let cells = &on_page.cells;
    if let Some(columns) = sheet.columns {
        let size = cells.first().map_or([0, 0], |cell| [cell.width, cell.height]);
        let at = cells.iter().map(|cell| numbers(&[cell.x, cell.y])).collect();
        let grid = vec![
            Entry { node: numbers(&size), ..entry("cell", Value::Bool(true)) },
            entry("columns", Value::Number(columns.to_string())),
            entry("at", Value::List(at)),
        ];
        return vec![image, entry("grid", Value::Table(grid))];
    }
    let named = base.get("cutouts").and_then(Node::table).unwrap_or_default();
    let cutouts = cells.iter().enumerate().map(|(nth, cell)| {
        let name = named.get(nth).map_or_else(|| format!("frame-{nth}"), |entry| entry.key.clone());
        Entry {
            node: numbers(&[cell.x, cell.y, cell.width, cell.height]),
            ..entry(&name, Value::Bool(true))
        }
    });
    vec![image, entry("cutouts", Value::Table(cutouts.collect()))]
}

/// Clips of a file with a single sheet need not name it: with more sheets they do.
fn name_only_sheet(root: &mut Node, name: &str) {
    let sheet = entry("sheet", Value::Text(name.to_owned()));
    match find_mut(root, "defaults").map(|node| &mut node.value) {
        Some(Value::Table(defaults)) => {
            if defaults.iter().all(|entry| entry.key != "sheet") {
                defaults.push(sheet);
            }
        }
        _ => {
            if let Value::Table(entries) = &mut root.value {
                entries.push(entry("defaults", Value::Table(vec![sheet])));
            }
        }
    }
}

fn find_mut<'n>(table: &'n mut Node, key: &str) -> Option<&'n mut Node> {
    match &mut table.value {
        Value::Table(entries) => {
            entries.iter_mut().find(|entry| entry.key == key).map(|entry| &mut entry.node)
        }
        _ => None,
    }
}

fn entry(key: &str, value: Value) -> Entry {
    Entry { key: key.to_owned(), key_span: 0..0, node: Node { span: 0..0, value } }
}

fn numbers(numbers: &[u32]) -> Node {
    let number = |number: &u32| Node { span: 0..0, value: Value::Number(number.to_string()) };
    Node { span: 0..0, value: Value::List(numbers.iter().map(number).collect()) }
}
