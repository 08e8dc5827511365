//! What the command line may say.

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand, ValueEnum};
use lucky_reel::assets::Limits;
use lucky_reel::{Facing, Speed, time::ExactTime};

/// Plays, traces, charts and checks sprite clips
#[derive(Debug, Parser)]
#[command(name = "lucky-reel", version, arg_required_else_help = true)]
#[command(
    after_help = "Data goes to standard output, messages to standard error. Exit status: 0, \
    1 for a failure, 2 for wrong usage."
)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
    #[command(flatten)]
    pub(crate) intake: Intake,
}

/// Limits on input size
#[derive(Clone, Copy, Debug, Args)]
#[command(next_help_heading = "Limits")]
pub(crate) struct Intake {
    /// Largest file in bytes [default: 4 MiB for a reel file, 256 MiB for an image]
    #[arg(long, global = true, value_name = "N")]
    max_bytes: Option<u64>,
    /// Most pixels in one image, or in all frames of an animated one [default: 67108864]; all images of a
    /// load together may have four times as many
    #[arg(long, global = true, value_name = "N")]
    max_pixels: Option<u64>,
    /// Most frames in one animated image [default: 65536]
    #[arg(long, global = true, value_name = "N")]
    max_frames: Option<u64>,
}

impl Intake {
    pub(crate) fn limits(self) -> Limits {
        let mut limits = Limits::default();
        limits.reel_bytes = self.max_bytes.unwrap_or(limits.reel_bytes);
        limits.picture_bytes = self.max_bytes.unwrap_or(limits.picture_bytes);
        limits.pixels = self.max_pixels.unwrap_or(limits.pixels);
        limits.total_pixels = limits.pixels.saturating_mul(4);
        limits.frames = self.max_frames.unwrap_or(limits.frames);
        limits
    }
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    Demo(Demo),
    Measure(Measure),
    Clips(Clips),
    Trace(Trace),
    Explain(Explain),
    Watch(Watch),
    Chart(Chart),
    Render(Render),
    Check(Check),
    Pack(Pack),
    Archive(Archive),
    Convert(Convert),
    /// Print the JSON Schema of reel files
    Schema,
}

/// Play the demo scene and write it as an animated image
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  lucky-reel demo\n  lucky-reel demo --terminal")]
pub(crate) struct Demo {
    /// Output folder, created if missing [default: a new folder greenhouse-night]
    #[arg(long, value_name = "FOLDER", conflicts_with = "terminal")]
    pub(crate) to: Option<PathBuf>,
    /// Overwrite existing files
    #[arg(long)]
    pub(crate) force: bool,
    /// Play it live in this terminal (needs true color); q quits
    #[arg(long)]
    pub(crate) terminal: bool,
}

/// Guess the cell size of a sheet
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel measure demo/greenhouse/bram.png --to cells.png\n  \
    lucky-reel measure demo/greenhouse/tiles.png --cell 16x16 --gap 0\n  \
    lucky-reel measure demo/greenhouse/bram.png --guess 2 --to cells.png")]
pub(crate) struct Measure {
    /// The sheet (PNG, GIF or WebP)
    pub(crate) image: PathBuf,
    /// Use this cell size; margin and gap are still guessed
    #[arg(long, value_name = "WIDTHxHEIGHT", value_parser = cell)]
    pub(crate) cell: Option<[u32; 2]>,
    /// Use this margin around all cells, in pixels: 2, or 2x4 across and down
    #[arg(long, value_name = "PIXELS", value_parser = pixels)]
    pub(crate) margin: Option<[u32; 2]>,
    /// Use this gap between cells, in pixels: 2, or 2x4 across and down
    #[arg(long, value_name = "PIXELS", value_parser = pixels)]
    pub(crate) gap: Option<[u32; 2]>,
    /// Use this number of columns
    #[arg(long, value_name = "COUNT", value_parser = clap::value_parser!(u32).range(1..))]
    pub(crate) columns: Option<u32>,
    /// Begin the grid here, in pixels from the top left: 0x16
    #[arg(long, value_name = "XxY", value_parser = pixels)]
    pub(crate) start: Option<[u32; 2]>,
    /// Draw and draft this guess: 1 is the best
    #[arg(long, value_name = "NUMBER", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..))]
    pub(crate) guess: u32,
    /// Write the sheet with grid lines, numbered columns and rows as a PNG
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Draw also the pivots, points and areas that this reel file gives the image's frames
    #[arg(long, value_name = "REEL", requires = "to")]
    pub(crate) reel: Option<PathBuf>,
    /// Write a starting reel file, in the image's folder
    #[arg(long, value_name = "FILE")]
    pub(crate) draft: Option<PathBuf>,
    /// Overwrite existing files
    #[arg(long)]
    pub(crate) force: bool,
    /// Output format
    #[arg(long, value_enum, default_value_t = ListFormat::Table)]
    pub(crate) format: ListFormat,
}

/// List the clips of reel files
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel clips demo/greenhouse/bram.reel.toml")]
pub(crate) struct Clips {
    /// Reel files
    #[arg(required = true, value_name = "REEL")]
    pub(crate) reels: Vec<PathBuf>,
    /// Output format
    #[arg(long, value_enum, default_value_t = ListFormat::Table)]
    pub(crate) format: ListFormat,
}

/// Play a clip update by update and print every event
///
/// Columns: update (from 1), t (ticks since the start, 72,072,000 a second), ms (the same in
/// milliseconds), event, hold (index in the clip), frame (index in the sheet), cycle (completed cycles),
/// name (of the mark or the next clip), why (of cues and bridges). Each update ends with a `show` row:
/// what is up after it.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel trace demo/greenhouse/bram.reel.toml walk-right --every 100ms --duration 1s\n  \
    lucky-reel trace demo/greenhouse/puff.reel.toml puff --speed -0.5 --format csv")]
pub(crate) struct Trace {
    /// Reel file
    pub(crate) reel: PathBuf,
    /// Clip name
    pub(crate) clip: String,
    #[command(flatten)]
    pub(crate) pacing: Pacing,
    /// Total game time; the last update may be shorter
    #[arg(long, value_name = "DURATION", default_value = "2s", value_parser = any_time, conflicts_with = "updates")]
    pub(crate) duration: ExactTime,
    /// Playback speed: 1 is normal, negative plays backward; ratios such as 3/4 are allowed
    #[arg(long, value_name = "X", default_value = "1", allow_hyphen_values = true, value_parser = speed)]
    pub(crate) speed: Speed,
    /// Start time within the clip
    #[arg(long, value_name = "DURATION", default_value = "0s", value_parser = any_time)]
    pub(crate) from: ExactTime,
    /// Output format
    #[arg(long, value_enum, default_value_t = TraceFormat::Table)]
    pub(crate) format: TraceFormat,
}

/// Update times
#[derive(Debug, Args)]
pub(crate) struct Pacing {
    /// Game time per update
    #[arg(long, value_name = "DURATION", default_value = "1/60s", value_parser = some_time)]
    pub(crate) every: ExactTime,
    /// Read update times from a file (or - for standard input), one duration per line
    #[arg(long, value_name = "FILE", conflicts_with = "every")]
    pub(crate) updates: Option<PathBuf>,
}

/// Show which cue wins, and why the others do not
///
/// A cue is a rule that picks a clip from facts. With --script, an actor plays through a script of facts
/// and its events are printed as by `trace`. Script lines: at 0.5s set moving=true lift=-2 |
/// at 1s pulse hurt | at 1s face left | at 2s wear dusk | at 3s take off dusk | at 3s speed 0.5 |
/// at 4s hit-stop 80ms | at 4s pause | at 5s resume. Times are exact, whatever the update.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel explain demo/greenhouse/bram.reel.toml --facts \"moving=true lift=-2\"\n  \
    lucky-reel explain demo/greenhouse/bram.reel.toml --script demo/greenhouse/night.txt --every 100ms")]
pub(crate) struct Explain {
    /// Reel files
    #[arg(required = true, value_name = "REEL")]
    pub(crate) reels: Vec<PathBuf>,
    /// Role, when several have cues
    #[arg(long, value_name = "NAME")]
    pub(crate) role: Option<String>,
    /// Initial facts, such as "moving=true lift=-2"
    #[arg(long, value_name = "FACTS", allow_hyphen_values = true)]
    pub(crate) facts: Vec<String>,
    /// Initial facing
    #[arg(long, value_name = "FACING", value_parser = facing)]
    pub(crate) facing: Option<Facing>,
    /// Play this script
    #[arg(long, value_name = "FILE")]
    pub(crate) script: Option<PathBuf>,
    #[command(flatten)]
    pub(crate) pacing: Pacing,
    /// Total game time [default: one second after the script's last line]
    #[arg(long, value_name = "DURATION", value_parser = any_time, conflicts_with = "updates")]
    pub(crate) duration: Option<ExactTime>,
    /// Output format
    #[arg(long, value_enum, default_value_t = TraceFormat::Table)]
    pub(crate) format: TraceFormat,
}

/// Play reel files live while they are edited, and tune durations by keys
///
/// Changed files are reloaded and the place is kept; a file at fault is shown with its line and its fix
/// while the version before plays on. The keys are shown below the picture. Changed durations are written
/// to the reel file by w, everything else in it stays as it is.
#[derive(Debug, Args)]
#[command(override_usage = "lucky-reel watch [OPTIONS] <REEL>... [CLIP]")]
#[command(after_help = "Examples:\n  \
    lucky-reel watch demo/greenhouse/bram.reel.toml\n  \
    lucky-reel watch demo/greenhouse/bram.reel.toml walk-right --in terminal")]
pub(crate) struct Watch {
    /// Reel files, and the name of the clip to begin with [default: the first]
    #[arg(required = true, value_name = "REEL|CLIP")]
    pub(crate) what: Vec<String>,
    /// Where to show it [default: a window where there is a display and this build has windows]
    #[arg(long = "in", value_name = "WHERE", value_enum)]
    pub(crate) surface: Option<Surface>,
    /// By how much [ and ] change a duration [default: one refresh of the display]
    #[arg(long, value_name = "DURATION", value_parser = some_time)]
    pub(crate) step: Option<ExactTime>,
}

#[derive(Clone, Copy, Debug, ValueEnum)]
pub(crate) enum Surface {
    Window,
    Terminal,
}

/// Draw charts of clips over time, as PNG, SVG or a page that plays
///
/// With a clip: its holds to scale, with frames, marks and spans. Without one: all clips of the reel on
/// one page. With --against: two clips, or two versions of a reel, hold by hold. With --display: for how
/// many refreshes each hold is really up. With --script: an actor's facts, cues and clips.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml --to bram.svg\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml walk-right --display 60\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml walk-right --against hurry-right\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml --script demo/greenhouse/night.txt\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml --page bram.html")]
pub(crate) struct Chart {
    /// Reel file
    pub(crate) reel: PathBuf,
    /// Clip name [default: all clips]
    pub(crate) clip: Option<String>,
    /// Compare with this clip, or with this version of the reel file
    #[arg(long, value_name = "CLIP|REEL", conflicts_with_all = ["script", "display"])]
    pub(crate) against: Option<String>,
    /// Show how the clip comes out on a display with this refresh rate
    #[arg(long, value_name = "HERTZ", conflicts_with = "script", value_parser = clap::value_parser!(u32).range(1..=1_000))]
    pub(crate) display: Option<u32>,
    /// Chart an actor that follows this script, instead of a clip
    #[arg(long, value_name = "FILE", conflicts_with = "clip")]
    pub(crate) script: Option<PathBuf>,
    /// Role for the script, when several have cues
    #[arg(long, value_name = "NAME", requires = "script")]
    pub(crate) role: Option<String>,
    /// Total game time [default: one second after the script's last line]
    #[arg(long, value_name = "DURATION", value_parser = any_time, requires = "script")]
    pub(crate) duration: Option<ExactTime>,
    /// Write a page (HTML) in which all clips of the reel play
    #[arg(long, value_name = "FILE", conflicts_with_all = ["clip", "against", "display", "script", "to", "theme"])]
    pub(crate) page: Option<PathBuf>,
    /// Colors
    #[arg(long, value_enum, default_value_t = ChartTheme::Dark)]
    pub(crate) theme: ChartTheme,
    /// Output file, .png or .svg [default: NAME-chart.png, named after what it shows]
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Overwrite an existing file
    #[arg(long)]
    pub(crate) force: bool,
}

#[derive(Clone, Copy, Debug, ValueEnum)]
pub(crate) enum ChartTheme {
    Dark,
    Light,
}

/// Render a clip as GIF, APNG, numbered PNGs or a strip
///
/// The name selects the format: FILE.gif, FILE.apng or FILE.png (both animated), or FOLDER/ for
/// numbered PNGs, one per hold. An endless clip is written for --cycles cycles and plays forever; a
/// finite clip is written to its end and plays once.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel render demo/greenhouse/bram.reel.toml walk-right --to walk.gif --scale 4\n  \
    lucky-reel render demo/greenhouse/moth.reel.toml flutter --look frost --to frost.png\n  \
    lucky-reel render demo/greenhouse/puff.reel.toml puff --to puff/")]
pub(crate) struct Render {
    /// Reel file
    pub(crate) reel: PathBuf,
    /// Clip name
    pub(crate) clip: String,
    /// Output file, or a folder ending in /, created if missing
    #[arg(long, value_name = "FILE")]
    pub(crate) to: String,
    /// Write one still image with all holds side by side
    #[arg(long)]
    pub(crate) strip: bool,
    /// Scale factor
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..=64))]
    pub(crate) scale: u32,
    /// Background color, #rrggbb [default: none]
    #[arg(long, value_name = "COLOR", value_parser = color)]
    pub(crate) background: Option<[u8; 4]>,
    /// Mirror left to right
    #[arg(long)]
    pub(crate) flip_x: bool,
    /// Mirror top to bottom
    #[arg(long)]
    pub(crate) flip_y: bool,
    /// Playback speed: 1 is normal, negative plays backward; ratios such as 3/4 are allowed
    #[arg(long, value_name = "X", default_value = "1", allow_hyphen_values = true, value_parser = speed)]
    pub(crate) speed: Speed,
    /// Wear a look; again for another one over it
    #[arg(long, value_name = "NAME")]
    pub(crate) look: Vec<String>,
    /// Cycles of an endless clip
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..=10_000))]
    pub(crate) cycles: u32,
    /// Overwrite existing files
    #[arg(long)]
    pub(crate) force: bool,
}

/// Pack images into one sheet, with a reel file beside it
///
/// Images become cutouts named after their files, in natural order (puff-2 before puff-10); equal images
/// are stored once. An animated GIF, APNG or WebP keeps its times and its play count. Several animated
/// images, or images in several folders, become one clip each.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel pack puff/*.png --to art/puff --each 80ms")]
pub(crate) struct Pack {
    /// Images; or reel files, whose sheets are put onto as few images as fit
    #[arg(required = true, value_name = "FILE")]
    pub(crate) files: Vec<PathBuf>,
    /// Output folder and name: writes DIR/NAME.png and DIR/NAME.reel.toml; of reel files DIR/NAME.png (or
    /// NAME-0.png and so on), and the files anew under their own names
    #[arg(long, value_name = "DIR/NAME")]
    pub(crate) to: PathBuf,
    /// Duration of each still image
    #[arg(long, value_name = "DURATION", default_value = "100ms", value_parser = some_time)]
    pub(crate) each: ExactTime,
    /// Empty pixels between images
    #[arg(long, value_name = "PIXELS", default_value_t = 1, value_parser = clap::value_parser!(u32).range(..=64))]
    pub(crate) padding: u32,
    /// Repeat the edge pixels of each image this far, against bleeding
    #[arg(long, value_name = "PIXELS", default_value_t = 0, value_parser = clap::value_parser!(u32).range(..=64))]
    pub(crate) extrude: u32,
    /// Largest side of the image, in pixels [default: 16384; for reel files 2048]
    #[arg(long, value_name = "PIXELS", value_parser = clap::value_parser!(u32).range(1..=16384))]
    pub(crate) size: Option<u32>,
    /// Round the sheet's sides up to powers of two
    #[arg(long)]
    pub(crate) power_of_two: bool,
    /// Overwrite existing files
    #[arg(long)]
    pub(crate) force: bool,
}

/// Put reel files and the images that they name into one ZIP file, to embed or to fetch
///
/// Nothing else is put in. The same files give the same bytes. Commands that read reel files read such an archive, too.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel archive demo/greenhouse/*.reel.toml --to night.zip")]
pub(crate) struct Archive {
    /// Reel files, NAME.reel.toml or NAME.reel.json
    #[arg(required = true, value_name = "FILE")]
    pub(crate) reels: Vec<PathBuf>,
    /// Output file
    #[arg(long, value_name = "FILE")]
    pub(crate) to: PathBuf,
    /// Overwrite an existing file
    #[arg(long)]
    pub(crate) force: bool,
}

/// Convert a reel file between TOML and JSON
///
/// Both forms have the same content; comments and layout are lost. File extensions select the forms.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  \
    lucky-reel convert demo/greenhouse/bram.reel.toml --to demo/greenhouse/bram.reel.json")]
pub(crate) struct Convert {
    /// Reel file, NAME.reel.toml or NAME.reel.json
    pub(crate) reel: PathBuf,
    /// Output file, in the same folder
    #[arg(long, value_name = "FILE")]
    pub(crate) to: PathBuf,
    /// Overwrite an existing file
    #[arg(long)]
    pub(crate) force: bool,
}

/// Report errors and likely mistakes in reel files
///
/// Exits with status 1 on errors, and with --strict on warnings too.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel check demo/greenhouse/*.reel.toml\n  \
    lucky-reel check hero.reel.toml --to pictures")]
pub(crate) struct Check {
    /// Reel files, loaded together into one reel
    #[arg(required = true, value_name = "REEL")]
    pub(crate) reels: Vec<PathBuf>,
    /// Treat warnings as errors
    #[arg(long)]
    pub(crate) strict: bool,
    /// Write a picture of each warning about art or times into this folder
    #[arg(long, value_name = "FOLDER")]
    pub(crate) to: Option<PathBuf>,
    /// Overwrite existing files
    #[arg(long)]
    pub(crate) force: bool,
    /// Output format
    #[arg(long, value_enum, default_value_t = CheckFormat::Text)]
    pub(crate) format: CheckFormat,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum CheckFormat {
    /// For people
    Text,
    /// An array of objects, for programs
    Json,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum ListFormat {
    /// For people
    Table,
    /// For programs
    Json,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum TraceFormat {
    /// For people
    Table,
    /// For programs and spreadsheets
    Csv,
    /// An object a line
    Json,
}

fn any_time(text: &str) -> Result<ExactTime, String> {
    lucky_reel::assets::parse_time(text).map_err(|error| error.to_string())
}

fn facing(text: &str) -> Result<Facing, String> {
    Facing::from_name(text)
        .ok_or_else(|| format!("write one of {}", Facing::ALL.map(Facing::name).join(", ")))
}

fn some_time(text: &str) -> Result<ExactTime, String> {
    let time = any_time(text)?;
    if time.to_ticks() == lucky_reel::Ticks::ZERO {
        Err("must be one tick at least".to_owned())
    } else {
        Ok(time)
    }
}

fn speed(text: &str) -> Result<Speed, String> {
    const WRITTEN: &str = "write a number such as 1, -0.5 or 3/4";
    let speed = match text.split_once('/') {
        None => Speed::from_f64(text.parse().map_err(|_| WRITTEN)?),
        Some((numerator, denominator)) => {
            let whole = |text: &str| text.trim().parse().map_err(|_| WRITTEN);
            Speed::from_ratio(whole(numerator)?, whole(denominator)?)
        }
    };
    speed.map_err(|error| error.to_string())
}

fn color(text: &str) -> Result<[u8; 4], String> {
    let digits = text.strip_prefix('#').filter(|digits| digits.len() == 6 && digits.is_ascii());
    let number = digits.and_then(|digits| u32::from_str_radix(digits, 16).ok());
    let [_, r, g, b] = number.ok_or("write a color such as #18222f")?.to_be_bytes();
    Ok([r, g, b, 255])
}

fn cell(text: &str) -> Result<[u32; 2], String> {
    let sides = pair(text).filter(|sides| !sides.contains(&0));
    sides.ok_or_else(|| "write width and height in pixels, such as 32x32".to_owned())
}

fn pixels(text: &str) -> Result<[u32; 2], String> {
    let both = text.parse().ok().map(|both| [both; 2]);
    both.or_else(|| pair(text))
        .ok_or_else(|| "write pixels, such as 2, or 2x4 across and down".to_owned())
}

fn pair(text: &str) -> Option<[u32; 2]> {
    let (across, down) = text.split_once('x')?;
    Some([across.parse().ok()?, down.parse().ok()?])
}
