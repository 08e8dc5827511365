//! What the command line may say.

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand, ValueEnum};
use lucky_reel::assets::Limits;
use lucky_reel::{ExactTime, Facing, Speed};

/// Plays, traces and draws sprite clips.
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

/// How much is taken in before it is refused.
#[derive(Clone, Copy, Debug, Args)]
#[command(next_help_heading = "Limits")]
pub(crate) struct Intake {
    /// Bytes of one file [default: 4 MiB of a reel file, 256 MiB of a picture]
    #[arg(long, global = true, value_name = "N")]
    max_bytes: Option<u64>,
    /// Pixels of one picture, or of all frames of an animated image [default: 67108864]
    #[arg(long, global = true, value_name = "N")]
    max_pixels: Option<u64>,
    /// Frames of one animated image [default: 65536]
    #[arg(long, global = true, value_name = "N")]
    max_frames: Option<u64>,
}

impl Intake {
    pub(crate) fn limits(self) -> Limits {
        let mut limits = Limits::default();
        limits.reel_bytes = self.max_bytes.unwrap_or(limits.reel_bytes);
        limits.picture_bytes = self.max_bytes.unwrap_or(limits.picture_bytes);
        limits.pixels = self.max_pixels.unwrap_or(limits.pixels);
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
    Draw(Draw),
    Render(Render),
    Check(Check),
    Gather(Gather),
    Convert(Convert),
    /// Prints the JSON Schema of reel files
    Schema,
}

/// Plays the night greenhouse and writes it as an animated image.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  lucky-reel demo\n  lucky-reel demo --terminal")]
pub(crate) struct Demo {
    /// The folder for the pictures; made if it is missing [default: a new folder greenhouse-night]
    #[arg(long, value_name = "FOLDER", conflicts_with = "terminal")]
    pub(crate) to: Option<PathBuf>,
    /// Write over pictures that are there already
    #[arg(long)]
    pub(crate) force: bool,
    /// Play it live in this terminal, which must have true color; q ends it
    #[arg(long)]
    pub(crate) terminal: bool,
}

/// Measures a sheet: how large its cells are, and how many hold anything.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel measure demo/greenhouse/bram.png --to cells.png\n  \
    lucky-reel measure demo/greenhouse/tiles.png --cell 16x16")]
pub(crate) struct Measure {
    /// The sheet: a PNG, GIF or WebP
    pub(crate) image: PathBuf,
    /// Tries this size of a cell instead of guessing
    #[arg(long, value_name = "WIDTHxHEIGHT", value_parser = cell)]
    pub(crate) cell: Option<[u32; 2]>,
    /// Draws the sheet with its cells ruled and numbered
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Writes a reel file to start from, into the picture's folder
    #[arg(long, value_name = "FILE")]
    pub(crate) draft: Option<PathBuf>,
    /// Write over files that are there already
    #[arg(long)]
    pub(crate) force: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = ListFormat::Table)]
    pub(crate) format: ListFormat,
}

/// Lists the clips of a reel file.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel clips demo/greenhouse/bram.reel.toml")]
pub(crate) struct Clips {
    /// The reel file
    pub(crate) reel: PathBuf,
    /// How to print them
    #[arg(long, value_enum, default_value_t = ListFormat::Table)]
    pub(crate) format: ListFormat,
}

/// Plays a clip by given updates and prints everything that happens.
///
/// Columns: update (from 1), t (tick of game time since the start; 72,072,000 a second), event,
/// hold (in the clip), frame (in the sheet), cycle (cycles complete), mark (also the name of the next
/// clip). Each update ends with one row `show`: what is up after it.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel trace demo/greenhouse/bram.reel.toml walk-right --every 100ms --duration 1s\n  \
    lucky-reel trace demo/greenhouse/puff.reel.toml puff --speed -0.5 --format csv")]
pub(crate) struct Trace {
    /// The reel file
    pub(crate) reel: PathBuf,
    /// The clip's name
    pub(crate) clip: String,
    #[command(flatten)]
    pub(crate) pacing: Pacing,
    /// Game time of all updates; the last one may be shorter
    #[arg(long, value_name = "DURATION", default_value = "2s", value_parser = any_time, conflicts_with = "updates")]
    pub(crate) lasting: ExactTime,
    /// How fast and which way: 1 is normal, negative is backwards; also a ratio such as 3/4
    #[arg(long, value_name = "X", default_value = "1", allow_hyphen_values = true, value_parser = speed)]
    pub(crate) speed: Speed,
    /// Where in the clip to begin
    #[arg(long, value_name = "DURATION", default_value = "0s", value_parser = any_time)]
    pub(crate) from: ExactTime,
    /// How to print it
    #[arg(long, value_enum, default_value_t = TraceFormat::Table)]
    pub(crate) format: TraceFormat,
}

/// The updates of a trace.
#[derive(Debug, Args)]
pub(crate) struct Pacing {
    /// Game time of one update
    #[arg(long, value_name = "DURATION", default_value = "1/60s", value_parser = some_time)]
    pub(crate) every: ExactTime,
    /// Takes the updates from a file (or - for standard input), a duration a line
    #[arg(long, value_name = "FILE", conflicts_with = "every")]
    pub(crate) updates: Option<PathBuf>,
}

/// Tells which cue wins, and why the others do not.
///
/// With --script an actor is played through a script of facts instead, and printed as by trace; the
/// names of cues and bridges stand in the column mark. Lines of a script: at 0.5s set moving=true
/// lift=-2 | at 1s pulse hurt | at 1s face left | at 2s wear dusk | at 3s take off dusk |
/// at 3s speed 0.5 | at 4s hit-stop 80ms | at 4s pause | at 5s resume. Their times are exact, whatever
/// the update.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel explain demo/greenhouse/bram.reel.toml --facts \"moving=true lift=-2\"\n  \
    lucky-reel explain demo/greenhouse/bram.reel.toml --script demo/greenhouse/night.txt --every 100ms")]
pub(crate) struct Explain {
    /// The reel files
    #[arg(required = true, value_name = "REEL")]
    pub(crate) reels: Vec<PathBuf>,
    /// The role, where several have cues
    #[arg(long, value_name = "NAME")]
    pub(crate) role: Option<String>,
    /// Facts that are told at the start, such as \"moving=true lift=-2\"
    #[arg(long, value_name = "FACTS", allow_hyphen_values = true)]
    pub(crate) facts: Vec<String>,
    /// Which way it faces at the start
    #[arg(long, value_name = "FACING", value_parser = facing)]
    pub(crate) facing: Option<Facing>,
    /// Plays this script
    #[arg(long, value_name = "FILE")]
    pub(crate) script: Option<PathBuf>,
    #[command(flatten)]
    pub(crate) pacing: Pacing,
    /// Game time of all updates [default: one second after the script's last line]
    #[arg(long, value_name = "DURATION", value_parser = any_time, conflicts_with = "updates")]
    pub(crate) lasting: Option<ExactTime>,
    /// How to print it
    #[arg(long, value_enum, default_value_t = TraceFormat::Table)]
    pub(crate) format: TraceFormat,
}

/// Draws a clip at a glance, or an actor that follows a script, as a PNG.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml walk-right --to walk.png\n  \
    lucky-reel chart demo/greenhouse/bram.reel.toml --script demo/greenhouse/night.txt --to night.png")]
pub(crate) struct Draw {
    /// The reel file
    pub(crate) reel: PathBuf,
    /// The clip's name
    #[arg(required_unless_present = "script", conflicts_with = "script")]
    pub(crate) clip: Option<String>,
    /// Draws an actor that follows this script, instead of a clip
    #[arg(long, value_name = "FILE")]
    pub(crate) script: Option<PathBuf>,
    /// The role that the script is for, where several have cues
    #[arg(long, value_name = "NAME", requires = "script")]
    pub(crate) role: Option<String>,
    /// Game time of the script [default: one second after its last line]
    #[arg(long, value_name = "DURATION", value_parser = any_time, requires = "script")]
    pub(crate) lasting: Option<ExactTime>,
    /// The picture's file [default: CLIP.png, or the script's name]
    #[arg(long, value_name = "FILE")]
    pub(crate) to: Option<PathBuf>,
    /// Write over a file that is there already
    #[arg(long)]
    pub(crate) force: bool,
}

/// Writes a clip as a file that others can open.
///
/// What it becomes is told by the name: FILE.gif, FILE.apng or FILE.png (both animated), or FOLDER/ for
/// a numbered series, one picture for each hold. An endless clip is written for so many cycles and
/// plays forever; a finite one is written to its end and plays once.
#[derive(Debug, Args)]
#[command(after_help = "Examples:\n  \
    lucky-reel render demo/greenhouse/bram.reel.toml walk-right --to walk.gif --scale 4\n  \
    lucky-reel render demo/greenhouse/puff.reel.toml puff --to puff/")]
pub(crate) struct Render {
    /// The reel file
    pub(crate) reel: PathBuf,
    /// The clip's name
    pub(crate) clip: String,
    /// The file, or a folder that ends in / and is made if it is missing
    #[arg(long, value_name = "FILE")]
    pub(crate) to: String,
    /// One still picture with all holds side by side
    #[arg(long)]
    pub(crate) strip: bool,
    /// Each pixel as a square of so many pixels
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..=64))]
    pub(crate) scale: u32,
    /// The color behind it, #rrggbb [default: none]
    #[arg(long, value_name = "COLOR", value_parser = color)]
    pub(crate) background: Option<[u8; 4]>,
    /// Mirror it left to right
    #[arg(long)]
    pub(crate) flip_x: bool,
    /// Mirror it top to bottom
    #[arg(long)]
    pub(crate) flip_y: bool,
    /// How fast and which way: 1 is normal, negative is backwards; also a ratio such as 3/4
    #[arg(long, value_name = "X", default_value = "1", allow_hyphen_values = true, value_parser = speed)]
    pub(crate) speed: Speed,
    /// How many cycles of an endless clip
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..=10_000))]
    pub(crate) cycles: u32,
    /// Write over files that are there already
    #[arg(long)]
    pub(crate) force: bool,
}

/// Packs loose pictures, or a moving one, into one sheet with a reel file beside it.
///
/// Frames follow in the order given; pictures that are alike are stored once. A GIF, APNG or WebP that
/// moves brings its times and its number of plays.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel pack puff/*.png --to art/puff --each 80ms")]
pub(crate) struct Gather {
    /// The pictures
    #[arg(required = true, value_name = "FILE")]
    pub(crate) files: Vec<PathBuf>,
    /// Folder and name: makes DIR/NAME.png and DIR/NAME.reel.toml
    #[arg(long, value_name = "DIR/NAME")]
    pub(crate) to: PathBuf,
    /// How long each still picture stays up
    #[arg(long, value_name = "DURATION", default_value = "100ms", value_parser = some_time)]
    pub(crate) each: ExactTime,
    /// Pixels left free between two pictures
    #[arg(long, value_name = "PIXELS", default_value_t = 1, value_parser = clap::value_parser!(u32).range(..=64))]
    pub(crate) padding: u32,
    /// How far the edge of each picture is repeated around it, against bleeding
    #[arg(long, value_name = "PIXELS", default_value_t = 0, value_parser = clap::value_parser!(u32).range(..=64))]
    pub(crate) extend: u32,
    /// Make the sheet's sides powers of two
    #[arg(long)]
    pub(crate) power_of_two: bool,
    /// Write over files that are there already
    #[arg(long)]
    pub(crate) force: bool,
}

/// Writes a reel file in its other form: TOML for people, JSON for programs.
///
/// Both say the same; only comments and the layout are lost. The endings of the names tell the forms.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  \
    lucky-reel convert demo/greenhouse/bram.reel.toml --to bram.reel.json")]
pub(crate) struct Convert {
    /// The reel file, NAME.reel.toml or NAME.reel.json
    pub(crate) reel: PathBuf,
    /// The file to write
    #[arg(long, value_name = "FILE")]
    pub(crate) to: PathBuf,
    /// Write over a file that is there already
    #[arg(long)]
    pub(crate) force: bool,
}

/// Tells everything that is wrong with reel files, and what is perhaps not meant so.
///
/// Exit status 1 on errors; on warnings, too, with --strict.
#[derive(Debug, Args)]
#[command(after_help = "Example:\n  lucky-reel check demo/greenhouse/*.reel.toml")]
pub(crate) struct Check {
    /// The reel files, which make one reel together
    #[arg(required = true, value_name = "REEL")]
    pub(crate) reels: Vec<PathBuf>,
    /// Fail on warnings
    #[arg(long)]
    pub(crate) strict: bool,
    /// How to print it
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
    /// An array of objects, for programs
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
    text.parse().map_err(|error: lucky_reel::ParseTimeError| error.to_string())
}

fn facing(text: &str) -> Result<Facing, String> {
    Facing::from_name(text)
        .ok_or_else(|| format!("write one of {}", Facing::ALL.map(Facing::name).join(", ")))
}

fn some_time(text: &str) -> Result<ExactTime, String> {
    let time = any_time(text)?;
    if time.to_ticks().is_zero() {
        Err("an update takes one tick at least".to_owned())
    } else {
        Ok(time)
    }
}

fn speed(text: &str) -> Result<Speed, String> {
    const WRITTEN: &str = "write a number such as 1, -0.5 or 3/4";
    let speed = match text.split_once('/') {
        None => Speed::from_f64(text.parse().map_err(|_| WRITTEN)?),
        Some((above, below)) => {
            let whole = |text: &str| text.trim().parse().map_err(|_| WRITTEN);
            Speed::from_ratio(whole(above)?, whole(below)?)
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
    let sides = text
        .split_once('x')
        .and_then(|(width, height)| Some([width.parse().ok()?, height.parse().ok()?]));
    sides.ok_or_else(|| "write width and height in pixels, such as 32x32".to_owned())
}
