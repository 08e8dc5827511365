//! What a game's animation does, drawn over it.

mod strokes;

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt::{self, Write};

use lucky_reel_core::{Actor, Event, EventKind, Placement, Player, Reel, Ticks, View};

/// Lines to draw over a game, to see what its animation does: pivots, bounds, areas and points with their
/// names, the clip and the hold that are shown, the cue that won and why, and the marks of the last half second.
///
/// Texts are made of lines, too, so that any renderer draws all of it: it needs lines and nothing else.
///
/// ```
/// use lucky_reel::{reel::*, view::*, *};
///
/// # let mut builder = Reel::builder();
/// # let sheet = NewSheet::grid([64, 16], Grid::cell_size([16, 16])).pivot(Pivot::Bottom);
/// # let sheet = builder.sheet("moth", sheet);
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(10).mark("puff", [2]));
/// # let reel = builder.build()?;
/// # let mut moth = Player::new(&reel, flutter);
/// # let dt = Ticks::from_millis(250);
/// let mut overlay = Overlay::new(); // keep it
///
/// // Each frame:
/// let place = Placement::at([40.0, 50.0]);
/// overlay.begin(dt);
/// for event in moth.advance(&reel, dt) {
///     overlay.event(&reel, &event, place);
/// }
/// overlay.player(&reel, &moth, place);
/// for OverlayLine { from, to, color, .. } in overlay.lines() {
///     // draw a line over the game
///     # let _ = (from, to, color);
/// }
/// # assert!(overlay.lines().iter().any(|line| line.part == OverlayPart::Mark));
/// # Ok::<(), BuildError>(())
/// ```
#[derive(Clone, Debug, Default)]
pub struct Overlay {
    lines: Vec<OverlayLine>,
    marks: Vec<PassedMark>,
    /// Side of a square of the grid that letters are drawn on.
    unit: f32,
}

/// A line of an [`Overlay`], in the units of the placements.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct OverlayLine {
    /// Where it begins.
    pub from: [f32; 2],
    /// Where it ends.
    pub to: [f32; 2],
    /// Red, green, blue and alpha.
    pub color: [u8; 4],
    /// What it shows, for games that leave some of it out.
    pub part: OverlayPart,
}

/// What a line of an [`Overlay`] shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum OverlayPart {
    /// The rectangle that is drawn.
    Bounds,
    /// An area, or its name.
    Area,
    /// A point, or its name.
    Point,
    /// The pivot.
    Pivot,
    /// The clip and the hold that are shown.
    Clip,
    /// The cue that won, or its conditions.
    Cue,
    /// A mark that was passed lately.
    Mark,
    /// A text of the game's own.
    Text,
}

impl OverlayPart {
    const fn color(self) -> [u8; 4] {
        match self {
            OverlayPart::Bounds => [120, 130, 150, 160],
            OverlayPart::Area => [230, 159, 0, 255],
            OverlayPart::Point => [86, 180, 233, 255],
            OverlayPart::Pivot => [240, 228, 66, 255],
            OverlayPart::Clip | OverlayPart::Text => [255, 255, 255, 255],
            OverlayPart::Cue => [120, 230, 190, 255],
            OverlayPart::Mark => [255, 150, 200, 255],
        }
    }
}

/// A mark that was passed, where and how long ago.
#[derive(Clone, Debug)]
struct PassedMark {
    name: String,
    place: Placement,
    age: Ticks,
}

/// How long a mark is shown.
const SHOWN: Ticks = Ticks::from_millis(500);

impl Overlay {
    /// Letters are 6 pixels of the game high.
    #[must_use]
    pub fn new() -> Overlay {
        Overlay::default().letters(6.0)
    }

    /// Sets the height of letters, in the units of the placements.
    #[must_use]
    pub fn letters(mut self, height: f32) -> Overlay {
        self.unit = height / strokes::SIZE[1] as f32;
        self
    }

    /// Begins the overlay of a frame: removes all lines, and draws the marks of the last half second, which
    /// rise as they age. `dt` is the time since the last call.
    pub fn begin(&mut self, dt: Ticks) {
        self.lines.clear();
        let mut marks = core::mem::take(&mut self.marks);
        for mark in &mut marks {
            mark.age += dt;
        }
        marks.retain(|mark| mark.age < SHOWN);
        marks.iter().for_each(|mark| self.draw_mark(mark));
        self.marks = marks;
    }

    /// Shows the name of a mark for half a second; other events are not shown.
    pub fn event(&mut self, reel: &Reel, event: &Event, place: Placement) {
        if let EventKind::Mark(mark) = event.kind {
            let mark = PassedMark { name: reel.name(mark).into(), place, age: Ticks::ZERO };
            self.draw_mark(&mark);
            self.marks.push(mark);
        }
    }

    fn draw_mark(&mut self, mark: &PassedMark) {
        let risen = mark.age.as_millis_f64() as f32 / 50.0;
        self.write(
            [0.0, -10.0 - risen],
            mark.place,
            OverlayPart::Mark,
            format_args!("{}", mark.name),
        );
    }

    /// Shows what is drawn at a place: its bounds, areas, points and pivot. Draws nothing for `None`.
    pub fn view<'r>(&mut self, view: impl Into<Option<View<'r>>>, place: Placement) {
        let Some(view) = view.into() else { return };
        let [[left, top], [right, bottom]] = view.bounds(place);
        self.closed(
            [[left, top], [right, top], [right, bottom], [left, bottom]],
            OverlayPart::Bounds,
        );
        for (id, _) in view.areas() {
            if let Some(area) = view.area(id, place) {
                self.closed(area.corners, OverlayPart::Area);
                let name = format_args!("{}", view.reel().name(id));
                self.write([1.0, -8.0], moved(place, area.corners[0]), OverlayPart::Area, name);
            }
        }
        for (id, _) in view.points() {
            if let Some([x, y]) = view.point_at(id, place) {
                let [right, down] = [self.unit, self.down(place)].map(|unit| unit * 2.0);
                self.closed(
                    [[x, y - down], [x + right, y], [x, y + down], [x - right, y]],
                    OverlayPart::Point,
                );
                let name = format_args!("{}", view.reel().name(id));
                self.write([4.0, -3.0], moved(place, [x, y]), OverlayPart::Point, name);
            }
        }
        let [x, y] = place.position;
        let [right, down] = [self.unit, self.down(place)].map(|unit| unit * 3.0);
        self.line([x - right, y], [x + right, y], OverlayPart::Pivot);
        self.line([x, y - down], [x, y + down], OverlayPart::Pivot);
    }

    /// Shows what a player shows, and below its pivot the clip and the hold: `walk-left 2/4`.
    pub fn player(&mut self, reel: &Reel, player: &Player, place: Placement) {
        self.view(player.view(reel), place);
        self.clip(reel, player, place);
    }

    /// Shows what an actor shows, in its looks, and below its pivot the clip and the hold, the cue that won,
    /// or the bridge, and the conditions of the cue.
    pub fn actor(&mut self, reel: &Reel, actor: &Actor, place: Placement) {
        self.view(actor.view(reel), place);
        self.clip(reel, actor.player(), place);
        let chosen = OverlayPart::Cue;
        if let Some(bridge) = actor.bridge() {
            return self.write(
                below(1),
                place,
                chosen,
                format_args!("bridge {}", reel.name(bridge)),
            );
        }
        let Some(cue) = actor.cue().and_then(|cue| reel.role(actor.role())?.cue(cue)) else {
            return;
        };
        self.write(below(1), place, chosen, format_args!("cue {}", cue.name));
        let mut row = 2;
        for (nth, tests) in cue.conditions().iter().enumerate() {
            for (test, text) in tests.iter().enumerate() {
                let or = if nth > 0 && test == 0 { "or " } else { "" };
                self.write(below(row), place, chosen, format_args!("{or}{text}"));
                row += 1;
            }
        }
    }

    fn clip(&mut self, reel: &Reel, player: &Player, place: Placement) {
        let Some(clip) = reel.clip(player.clip()) else { return };
        let (name, holds) = (clip.name, clip.holds().len());
        match player.hold_index(reel) {
            Some(hold) => {
                let text = format_args!("{name} {}/{holds}", hold + 1);
                self.write(below(0), place, OverlayPart::Clip, text);
            }
            None => {
                self.write(below(0), place, OverlayPart::Clip, format_args!("{name}: no hold"));
            }
        }
    }

    /// Writes a text of the game's own, its top left at the position of the place.
    pub fn text(&mut self, text: &str, place: Placement) {
        self.write([0.0, 0.0], place, OverlayPart::Text, format_args!("{text}"));
    }

    /// What to draw, in this order.
    #[must_use]
    pub fn lines(&self) -> &[OverlayLine] {
        &self.lines
    }

    fn line(&mut self, from: [f32; 2], to: [f32; 2], part: OverlayPart) {
        self.lines.push(OverlayLine { from, to, color: part.color(), part });
    }

    fn closed(&mut self, corners: [[f32; 2]; 4], part: OverlayPart) {
        for nth in 0..4 {
            self.line(corners[nth], corners[(nth + 1) % 4], part);
        }
    }

    /// A unit of letters downward on the screen.
    fn down(&self, place: Placement) -> f32 {
        if place.y_up { -self.unit } else { self.unit }
    }

    /// Writes a text upright, its top left at an offset from a place, in units of letters.
    fn write(
        &mut self,
        from: [f32; 2],
        place: Placement,
        part: OverlayPart,
        text: fmt::Arguments<'_>,
    ) {
        let (unit, down) = (self.unit, self.down(place));
        let at = [place.position[0] + from[0] * unit, place.position[1] + from[1] * down];
        // Nothing that is written into the overlay fails.
        let _ = Pen { overlay: self, at, down, part }.write_fmt(text);
    }
}

fn moved(mut place: Placement, to: [f32; 2]) -> Placement {
    place.position = to;
    place
}

/// Where the texts of a thing stand, one below the other.
fn below(row: u8) -> [f32; 2] {
    [0.0, 4.0 + 9.0 * f32::from(row)]
}

/// Writes letters from left to right.
struct Pen<'o> {
    overlay: &'o mut Overlay,
    at: [f32; 2],
    down: f32,
    part: OverlayPart,
}

impl Write for Pen<'_> {
    fn write_str(&mut self, text: &str) -> fmt::Result {
        let Pen { at: [left, top], down, part, .. } = *self;
        let unit = self.overlay.unit;
        let mut left = left;
        for letter in text.chars() {
            let place = |[x, y]: [u32; 2]| [left + x as f32 * unit, top + y as f32 * down];
            for stroke in strokes::strokes_of(letter) {
                for (from, to) in stroke.clone().zip(stroke.skip(1)) {
                    self.overlay.line(place(from), place(to), part);
                }
            }
            left += (strokes::SIZE[0] + 2) as f32 * unit;
        }
        self.at[0] = left;
        Ok(())
    }
}
