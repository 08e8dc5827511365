//! Opaque pixels, one bit each: whether two things that are drawn touch.

use alloc::collections::BTreeMap;
use alloc::vec::Vec;

use lucky_reel_core::{ImageId, PackedFrame, Placement, Rect, Reel};

use super::bits::{self, Bits};
use super::on_screen::OnScreen;
use super::window::Window;

/// The opaque pixels of all frames of a reel, one bit each.
///
/// Made of the pixels that were loaded ([`Masks::of`]) or of what the game knows of them
/// ([`Masks::new`]). Two pictures are compared on the pixels of the screen: at whole-pixel positions and the size
/// of the art 64 pixels at a time, with any flips; scaled or rotated pixel by pixel, as they are drawn with
/// nearest sampling.
///
/// ```
/// use lucky_reel::{Grid, NewClip, NewSheet, Player, Reel, reel::Pivot, view::{Masks, PictureAt}};
///
/// let mut builder = Reel::builder();
/// let sheet = NewSheet::grid([16, 8], Grid::cell_size([8, 8])).pivot(Pivot::TopLeft);
/// let sheet = builder.sheet("net", sheet);
/// let net = builder.clip("net", NewClip::of(sheet).frames([0]));
/// let reel = builder.build()?;
///
/// // A drawing of which the lower half is opaque.
/// let masks = Masks::new(&reel, |_, [_, y]| y >= 4);
/// let net = Player::new(&reel, net).packed_frame(&reel);
/// let at = |x, y| PictureAt::new(net, [x, y]);
/// assert!(masks.first_contact(at(0, 0), at(7, 4)).is_none()); // only what is clear overlaps
/// assert_eq!(masks.first_contact(at(0, 0), at(7, 3)), Some([7, 7]));
/// assert_eq!(masks.contact_count(at(0, 0), at(2, 1)), 6 * 3);
/// # Ok::<(), lucky_reel::BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct Masks {
    reel: Reel,
    /// All rows of all masks, each row beginning with a word of its own.
    words: Vec<u64>,
    /// Where each frame's rows begin; frames of the same source share them.
    starts: Vec<u32>,
}

/// A picture, and where it is drawn on the screen.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PictureAt {
    picture: PackedFrame,
    place: Place,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum Place {
    Pivot([i32; 2]),
    Any(Placement),
}

impl PictureAt {
    /// A picture with its pivot on a pixel of the screen, as [`View::blit`](lucky_reel_core::View::blit) puts it
    /// at scale 1.
    #[must_use]
    pub const fn new(picture: PackedFrame, position: [i32; 2]) -> PictureAt {
        PictureAt { picture, place: Place::Pivot(position) }
    }

    /// A picture scaled or rotated: a pixel of the screen is opaque where its middle lies on an opaque pixel of
    /// the art. Units are those of the place, a pixel of the screen is one. Comparing takes as long as there are pixels
    /// where both pictures may be.
    ///
    /// ```
    /// # use lucky_reel::{Grid, NewClip, NewSheet, Placement, Player, Reel, reel::Pivot, view::{Masks, PictureAt}};
    /// # let mut builder = Reel::builder();
    /// # let sheet = NewSheet::grid([8, 8], Grid::cell_size([8, 8])).pivot(Pivot::TopLeft);
    /// # let sheet = builder.sheet("net", sheet);
    /// # let net = builder.clip("net", NewClip::of(sheet).frames([0]));
    /// # let reel = builder.build()?;
    /// // A drawing of which the lower half is opaque, three times as large.
    /// let masks = Masks::new(&reel, |_, [_, y]| y >= 4);
    /// let net = Player::new(&reel, net).packed_frame(&reel);
    /// let large = PictureAt::placed(net, Placement::at([0.0, 0.0]).scaled(3.0));
    /// assert_eq!(masks.first_contact(large, large), Some([0, 12]));
    /// assert_eq!(masks.contact_count(large, large), 24 * 12);
    /// # Ok::<(), lucky_reel::BuildError>(())
    /// ```
    #[must_use]
    pub const fn placed(picture: PackedFrame, place: Placement) -> PictureAt {
        PictureAt { picture, place: Place::Any(place) }
    }
}

impl Masks {
    /// Of loaded art: what has at least this alpha is opaque, 128 for example.
    ///
    /// ```
    /// use lucky_reel::{Player, view::{Masks, PictureAt}};
    ///
    /// let art = lucky_reel::assets::load("demo/greenhouse/moth.reel.toml")?;
    /// let masks = Masks::of(&art, 128);
    /// let clip = art.reel.clips().next().unwrap().id;
    /// let moth = Player::new(&art.reel, clip).packed_frame(&art.reel);
    /// let at = |x, y| PictureAt::new(moth, [x, y]);
    /// assert!(masks.first_contact(at(50, 40), at(52, 41)).is_some());
    /// assert!(masks.first_contact(at(50, 40), at(500, 40)).is_none());
    /// # Ok::<(), lucky_reel::assets::LoadError>(())
    /// ```
    #[cfg(feature = "assets")]
    #[must_use]
    pub fn of(art: &lucky_reel_assets::Art, alpha: u8) -> Masks {
        Masks::new(&art.reel, |image, at| {
            art.image(image).is_some_and(|pixels| pixels.pixel(at)[3] >= alpha)
        })
    }

    /// Asks for each pixel of each image that frames are cut from whether it is opaque.
    pub fn new(reel: &Reel, mut is_opaque: impl FnMut(ImageId, [u32; 2]) -> bool) -> Masks {
        let mut masks = Masks { reel: reel.clone(), words: Vec::new(), starts: Vec::new() };
        let mut known = BTreeMap::new();
        for (_, frame) in reel.frames() {
            let (image, from) = (frame.image, frame.source);
            let pair = |one: u32, other: u32| u64::from(one) << 32 | u64::from(other);
            let key = [image.index() as u64, pair(from.x, from.y), pair(from.width, from.height)];
            let start = *known.entry(key).or_insert_with(|| {
                let start = masks.words.len() as u32;
                for y in from.y..from.y + from.height {
                    let row = (from.x..from.x + from.width).map(|x| is_opaque(image, [x, y]));
                    bits::push_row(&mut masks.words, row);
                }
                start
            });
            masks.starts.push(start);
        }
        masks
    }

    /// Whether the pixel of a frame that lies on a point of the screen is opaque: whether a click hits.
    #[must_use]
    pub fn is_opaque_at(&self, thing: PictureAt, point: [i32; 2]) -> bool {
        self.drawn(thing).is_some_and(|drawn| {
            let ([from, to], point) = (drawn.bounds(), point.map(i64::from));
            let inside = |axis: usize| (from[axis]..to[axis]).contains(&point[axis]);
            inside(0) && inside(1) && drawn.opaque(point, 1) != 0
        })
    }

    /// The first pixel of the screen on which both have an opaque pixel: the topmost one, and of those
    /// the leftmost. `None` where they do not touch, and for what shows nothing.
    #[must_use]
    pub fn first_contact(&self, one: PictureAt, other: PictureAt) -> Option<[i32; 2]> {
        let (one, other) = (self.drawn(one)?, self.drawn(other)?);
        let window = Window::of(&one, &other)?;
        let found = window.both(&one, &other).find(|(_, bits)| *bits != 0);
        found.map(|([x, y], bits)| [(x + i64::from(bits.trailing_zeros())) as i32, y as i32])
    }

    /// On how many pixels of the screen both have an opaque pixel.
    #[must_use]
    pub fn contact_count(&self, one: PictureAt, other: PictureAt) -> u64 {
        let (Some(one), Some(other)) = (self.drawn(one), self.drawn(other)) else { return 0 };
        let Some(window) = Window::of(&one, &other) else { return 0 };
        window.both(&one, &other).map(|(_, bits)| u64::from(bits.count_ones())).sum()
    }

    /// All pixels of the screen on which both have an opaque pixel, row by row.
    pub fn contacts(&self, one: PictureAt, other: PictureAt) -> impl Iterator<Item = [i32; 2]> {
        let drawn = self.drawn(one).zip(self.drawn(other));
        let both = drawn.and_then(|(one, other)| Some((Window::of(&one, &other)?, one, other)));
        let steps = both.into_iter().flat_map(|(window, one, other)| {
            window.steps().map(move |at| (at, window.both_at(&one, &other, at)))
        });
        steps.flat_map(|([x, y], bits)| {
            let set = (0..64).filter(move |bit| bits >> bit & 1 != 0);
            set.map(move |bit| [(x + bit) as i32, y as i32])
        })
    }

    /// The smallest rectangle around the opaque pixels of what is drawn: its left top pixel, and the one past
    /// its right bottom pixel, on the screen. `None` where nothing is opaque. At `[0, 0]` it is the opaque
    /// part in pixels from the pivot, as it is seen.
    #[must_use]
    pub fn opaque_bounds(&self, thing: PictureAt) -> Option<[[i32; 2]; 2]> {
        let drawn = self.drawn(thing)?;
        let steps = Window::of(&drawn, &drawn)?.both(&drawn, &drawn).filter(|(_, bits)| *bits != 0);
        let ends = steps.map(|([x, y], bits)| {
            let [first, end] = [bits.trailing_zeros(), 64 - bits.leading_zeros()].map(i64::from);
            [[x + first, y], [x + end, y + 1]]
        });
        let around = ends.reduce(|[a, b], [c, d]| {
            [[a[0].min(c[0]), a[1].min(c[1])], [b[0].max(d[0]), b[1].max(d[1])]]
        });
        around.map(|corners| corners.map(|corner| corner.map(|at| at as i32)))
    }

    fn rows(&self, frame: usize, source: Rect) -> &[u64] {
        let start = self.starts.get(frame).map_or(0, |start| *start as usize);
        let length = bits::words_of(source.width) * source.height as usize;
        self.words.get(start..start + length).unwrap_or_default()
    }

    /// The pixels of a frame where it is drawn.
    fn drawn(&self, PictureAt { picture, place }: PictureAt) -> Option<OnScreen<'_>> {
        let view = picture.view(&self.reel)?;
        let rows = self.rows(view.id.index(), view.frame.source);
        match place {
            Place::Any(place) => OnScreen::with_corners(rows, &view, view.quad(place).corners),
            Place::Pivot(position) => {
                let blit = view.blit(position, 1);
                let size = [blit.source.width, blit.source.height];
                let at = blit.at.map(i64::from);
                Some(OnScreen::Whole(Bits { rows, at, size, flips: blit.flips }))
            }
        }
    }
}
