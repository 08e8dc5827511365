use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, ClipId, Reel, Ticks};

use super::{Chart, SIDE, WIDTH, milliseconds, name_of, summary};
use crate::drawing::{Drawing, Ink, Theme};
use crate::edit::duration_text;
use crate::timeline::{Playing, Timeline};

/// How a clip comes out on a display that shows a new picture so many times a second.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Display {
    /// Refreshes a second.
    pub rate: u32,
    /// One for each hold, in the order in which the clip is played through once.
    pub holds: Vec<HoldOnDisplay>,
}

/// How long one hold is really up.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct HoldOnDisplay {
    /// Its index in the clip.
    pub hold: u32,
    /// What the file says.
    pub duration: Ticks,
    /// For how many refreshes it is up, cycle by cycle, up to the cycle after which all is the same
    /// again; at most twelve.
    pub refreshes: Vec<u32>,
    /// The nearest duration that is always up for the same number of refreshes.
    pub even: Ticks,
}

impl HoldOnDisplay {
    /// Whether it is up for longer in one cycle than in another: it judders.
    #[must_use]
    pub fn judders(&self) -> bool {
        self.refreshes.windows(2).any(|pair| pair[0] != pair[1])
    }
}

/// As many cycles are looked at.
const CYCLES: u64 = 12;
/// Longer lists of holds are cut.
const MAX_HOLDS: usize = 64;

impl Display {
    /// Plays a clip on a display: a picture at the start, and one at each refresh from then on. `None` for
    /// a still, for a clip of another reel, and for a rate of 0.
    ///
    /// ```
    /// use lucky_reel_core::ClipId;
    /// use lucky_reel_tools::chart::Display;
    ///
    /// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
    /// let reel = lucky_reel_assets::load_reel([path])?;
    /// let hurry: ClipId = reel.id("hurry-down").unwrap();
    /// let hurry = Display::of(&reel, hurry, 60).unwrap();
    /// // 80 ms are 4.8 refreshes of 60 Hz: mostly 5, sometimes 4.
    /// assert_eq!(hurry.holds[0].refreshes, [5, 4, 5, 5, 5]);
    /// assert!(hurry.holds[0].judders());
    /// # Ok::<(), lucky_reel_assets::LoadError>(())
    /// ```
    #[must_use]
    pub fn of(reel: &Reel, clip: ClipId, rate: u32) -> Option<Display> {
        let clip = reel.clip(clip).filter(|clip| !clip.is_still)?;
        if rate == 0 {
            return None;
        }
        let timeline = Timeline::of(reel, &clip, Playing::ONCE);
        let cycles = if clip.repeat.is_none() { CYCLES } else { 1 };
        // Refreshes before a moment: a hold is up from the first refresh at or after its start.
        let before = |at: u128| (at * u128::from(rate)).div_ceil(u128::from(Ticks::PER_SECOND));
        // After so many cycles a cycle begins on a refresh again.
        let spent = u128::from(timeline.total.get()) * u128::from(rate);
        let is_whole = |cycles: &u64| {
            (spent * u128::from(*cycles)).is_multiple_of(u128::from(Ticks::PER_SECOND))
        };
        let cycles = (1..cycles).find(is_whole).unwrap_or(cycles);
        let holds = timeline.steps.iter().take(MAX_HOLDS).map(|step| {
            let refreshes = (0..cycles).map(|cycle| {
                let passed = u128::from(timeline.total.get()) * u128::from(cycle);
                let [from, to] =
                    [step.start, step.end].map(|at| before(passed + u128::from(at.get())));
                (to - from) as u32
            });
            let duration = Ticks::new(step.end.get() - step.start.get());
            HoldOnDisplay {
                hold: step.hold,
                duration,
                refreshes: refreshes.collect(),
                even: even(duration, rate),
            }
        });
        Some(Display { rate, holds: holds.collect() })
    }
}

/// The nearest whole number of refreshes, at least one.
fn even(duration: Ticks, rate: u32) -> Ticks {
    let (second, rate) = (u128::from(Ticks::PER_SECOND), u128::from(rate));
    let refreshes = (u128::from(duration.get()) * rate + second / 2) / second;
    Ticks::new((refreshes.max(1) * second).div_ceil(rate) as u64)
}

const TITLE: i32 = 104;
const NAMES: i32 = 66;
const LINE: i32 = 28;
const ROW: i32 = WIDTH - 2 * SIDE - NAMES;
/// A refresh is not drawn narrower or wider.
const REFRESH: [i32; 2] = [2, 24];

/// Draws how a clip comes out on a display of this rate: for each cycle how many refreshes each hold is
/// up, which holds judder, and the nearest durations that do not.
///
/// `None` for a still, and when the clip is not of this art.
#[must_use]
pub fn display(art: &Art, clip: ClipId, rate: u32, theme: Theme) -> Option<Chart> {
    let shown = Display::of(&art.reel, clip, rate)?;
    let clip = art.reel.clip(clip)?;
    let cycles = shown.holds.first().map_or(0, |hold| hold.refreshes.len());
    let table = TITLE + cycles as i32 * LINE + 64;
    let height = table + shown.holds.len() as i32 * 22 + 56;
    let mut sheet = Drawing::new([WIDTH as u32, height as u32], theme)?;
    let name = format!("{} at {rate} Hz", name_of(&art.reel, &clip));
    sheet.write([SIDE, 48], 22.0, Ink::Letters, &name);
    sheet.write([SIDE, 76], 13.0, Ink::Dim, &headline(&clip, &shown));
    let most = (0..cycles).map(|cycle| sum(&shown, cycle)).max().unwrap_or(1).max(1);
    let wide = (ROW / most as i32).clamp(REFRESH[0], REFRESH[1]);
    for cycle in 0..cycles {
        draw_cycle(&mut sheet, &shown, cycle, wide, TITLE + cycle as i32 * LINE);
    }
    let foot = TITLE + cycles as i32 * LINE + 18;
    let again = match cycles as u64 {
        _ if clip.repeat.is_some() => String::new(),
        1 => ", every cycle is the same".to_owned(),
        CYCLES => String::new(),
        cycles => format!(", the same again after {cycles} cycles"),
    };
    let note = format!("one box: one refresh of the display{again}");
    sheet.write([SIDE + NAMES, foot], 12.0, Ink::Dim, &note);
    draw_table(&mut sheet, &shown, table);
    Some(Chart(sheet))
}

fn sum(shown: &Display, cycle: usize) -> u32 {
    shown.holds.iter().filter_map(|hold| hold.refreshes.get(cycle)).sum()
}

fn headline(clip: &Clip<'_>, shown: &Display) -> String {
    let juddering = shown.holds.iter().filter(|hold| hold.judders()).count();
    let verdict = match juddering {
        _ if clip.repeat.is_some() => "played once, so each hold is up for one number of refreshes",
        0 => "every hold is always up for the same number of refreshes",
        1 => "1 hold judders: it is up for longer in some cycles than in others",
        _ => "holds judder: they are up for longer in some cycles than in others",
    };
    let count = if juddering > 1 { format!("{juddering} ") } else { String::new() };
    format!("{}  ·  {count}{verdict}", summary(clip))
}

/// A cycle as boxes, one for each refresh; holds that judder here have another edge.
fn draw_cycle(sheet: &mut Drawing, shown: &Display, cycle: usize, wide: i32, top: i32) {
    sheet.write([SIDE, top + 15], 12.0, Ink::Dim, &format!("cycle {cycle}"));
    let mut x = SIDE + NAMES;
    for (nth, hold) in shown.holds.iter().enumerate() {
        let count = hold.refreshes.get(cycle).copied().unwrap_or(0);
        let width = count as i32 * wide;
        if x + width > WIDTH - SIDE {
            sheet.write([x + 2, top + 15], 12.0, Ink::Dim, "…");
            return;
        }
        for refresh in 0..count as i32 {
            let gap = i32::from(wide > 4);
            sheet.fill([x + refresh * wide, top], [wide - gap, 20], Ink::Box(nth));
        }
        let usual = most_common(&hold.refreshes);
        let ink = if count == usual { Ink::Letters } else { Ink::Alert };
        if count != usual {
            sheet.fill([x, top + 20], [width, 2], Ink::Alert);
        }
        sheet.write_centered([x, top + 15], width, 12.0, ink, &format!("{count}"));
        x += width;
        sheet.fill([x - 1, top - 2], [1, 24], Ink::Edge);
    }
}

fn most_common(counts: &[u32]) -> u32 {
    let frequency = |wanted: &u32| counts.iter().filter(|count| *count == wanted).count();
    counts.iter().max_by_key(|count| (frequency(count), **count)).copied().unwrap_or(0)
}

fn draw_table(sheet: &mut Drawing, shown: &Display, top: i32) {
    let columns = [SIDE, SIDE + 90, SIDE + 250, SIDE + 470, SIDE + 600];
    let heads = ["hold", "duration", "refreshes", "judders", "nearest whole refreshes"];
    for (x, head) in columns.iter().zip(heads) {
        sheet.write([*x, top], 12.0, Ink::Dim, head);
    }
    for (nth, hold) in (1..).zip(&shown.holds) {
        let y = top + nth * 22;
        let exact = hold.duration.as_secs_f64() * f64::from(shown.rate);
        let (least, most) = (hold.refreshes.iter().min(), hold.refreshes.iter().max());
        let up = match (least, most) {
            (Some(least), Some(most)) if least != most => {
                format!("{least} or {most}  ({exact:.2})")
            }
            (Some(only), _) => format!("{only}  ({exact:.2})"),
            _ => String::new(),
        };
        let (judders, ink) = if hold.judders() { ("yes", Ink::Alert) } else { ("no", Ink::Dim) };
        let even = match hold.even == hold.duration {
            true => "as it is".to_owned(),
            false => {
                let text = duration_text(hold.even, &format!("1/{}s", shown.rate));
                format!("{text}  =  {}", milliseconds(hold.even))
            }
        };
        let cells = [
            (hold.hold.to_string(), Ink::Letters),
            (milliseconds(hold.duration), Ink::Letters),
            (up, Ink::Letters),
            (judders.to_owned(), ink),
            (even, Ink::Letters),
        ];
        for (x, (text, ink)) in columns.iter().zip(cells) {
            sheet.write([*x, y], 12.0, ink, &text);
        }
    }
}
