use alloc::vec::Vec;

use super::{Blit, Instance, Placement, SmallInstance, View};
use crate::ids::{FrameId, ImageId};
use crate::reel::Reel;
use crate::sheet::{Flips, PackedFrame, Rect};

/// Turns the frames shown into data for a renderer: instances, columns of frame numbers, blits.
///
/// It knows a version of a reel: [`reload`](InstanceWriter::reload) takes the next one in.
///
/// ```
/// use lucky_reel_core::{Grid, Instance, NewClip, NewSheet, Pivot, Placement, Player, Reel, InstanceWriter};
///
/// let mut builder = Reel::builder();
/// let sheet = NewSheet::grid([128, 32], Grid::cell_size([32, 32])).pivot(Pivot::At([16.0, 30.0]));
/// let sheet = builder.sheet("bram", sheet);
/// let idle = builder.clip("idle", NewClip::of(sheet).frames([2]).fps(1));
/// let reel = builder.build()?;
///
/// let writer = InstanceWriter::new(&reel);
/// let brams = [Player::new(&reel, idle); 3];
/// let spots = [[10.0, 80.0], [50.0, 80.0], [90.0, 80.0]].map(Placement::at);
/// let mut instances: Vec<Instance> = Vec::new();
/// instances.extend(brams.iter().zip(spots).map(|(bram, spot)| -> Instance {
///     writer.make(bram.packed_frame(&reel), spot)
/// }));
/// assert_eq!(instances[1].origin, [34.0, 50.0]); // 16 left and 30 up of the pivot
/// assert_eq!((instances[1].axis_x, instances[1].axis_y), ([32.0, 0.0], [0.0, 32.0]));
/// assert_eq!(instances[1].source, [64, 0, 32, 32]);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct InstanceWriter {
    reel: Reel,
    /// The instances of all frames, at no position, and then those of nothing up to a power of two; four
    /// times, for the flips. So a picture's number is nearly the place of its template.
    templates: Vec<Instance>,
    /// A quarter of the templates is a power of two, this one, and its last row is this one.
    quarter: u32,
    last_row: u32,
}

impl InstanceWriter {
    /// For this version of a reel.
    #[must_use]
    pub fn new(reel: &Reel) -> InstanceWriter {
        let (reel, templates) = (reel.clone(), Vec::new());
        let mut writer = InstanceWriter { reel, templates, quarter: 0, last_row: 0 };
        writer.fill();
        writer
    }

    /// Rebuilds the writer if the reel is another one or another version; idempotent, call it every
    /// frame. Returns `true` if the [`table`](InstanceWriter::table) has changed.
    pub fn reload(&mut self, reel: &Reel) -> bool {
        let other = !self.belongs_to(reel);
        if other {
            self.reel = reel.clone();
            self.fill();
        }
        other
    }

    /// The version of the reel that it is for.
    #[must_use]
    #[inline]
    pub fn reel(&self) -> &Reel {
        &self.reel
    }

    /// Whether it is for this version of this reel.
    pub(crate) fn belongs_to(&self, reel: &Reel) -> bool {
        self.reel.build == reel.build
    }

    /// What is up, at a place: an [`Instance`], a [`SmallInstance`], a [`PackedFrame`], a frame's number as
    /// `u32` or `u16`, or a [`Blit`].
    #[must_use]
    #[inline]
    pub fn make<T: InstanceFormat>(&self, picture: PackedFrame, place: T::At) -> T {
        T::make(self, picture, place)
    }

    /// Every frame as an instance with its pivot on `[0, 0]`, four times: unflipped, mirrored left to
    /// right, top to bottom, and both. It is the table in which a shader looks a [`PackedFrame`] up: the row
    /// is `flips × rows / 4 + frame`, see [`Instance::WGSL`]. Empty rows pad each quarter to a power of two,
    /// so that the lowest bits of a frame that shows nothing find one, too.
    #[must_use]
    pub fn table(&self) -> &[Instance] {
        &self.templates
    }

    /// The instance of a picture, at no position.
    #[inline(always)]
    fn template(&self, picture: PackedFrame) -> &Instance {
        // A frame of another reel is nothing, as the last row of each quarter is.
        let frame = (picture.0 & PackedFrame::MAX).min(self.last_row);
        let flips = picture.0 >> PackedFrame::FLIPS_SHIFT;
        &self.templates[(flips << self.quarter | frame) as usize]
    }

    fn fill(&mut self) {
        self.templates.clear();
        let each = (self.reel.data.frames.len() + 1).next_power_of_two();
        (self.quarter, self.last_row) = (each.trailing_zeros(), each as u32 - 1);
        for flips in 0..4 {
            let flips = Flips { x: flips & 1 != 0, y: flips & 2 != 0 };
            let frames = (0..self.reel.data.frames.len()).map(|frame| FrameId(frame as u32));
            let views = frames.map(|frame| View::of(&self.reel, frame, flips));
            let instances = views.map(|view| view.map(|view| Instance::of(&view)));
            self.templates.extend(instances.map(Option::unwrap_or_default));
            self.templates.resize(self.templates.len().next_multiple_of(each), Instance::default());
        }
    }
}

/// What an [`InstanceWriter`] can make of a [`PackedFrame`]: [`Instance`], [`SmallInstance`](crate::SmallInstance),
/// numbers, [`Blit`](crate::Blit), and types of yours, to which it is open.
pub trait InstanceFormat: Copy {
    /// What must be known of where it is drawn.
    type At;
    /// What is up, at a place.
    fn make(writer: &InstanceWriter, picture: PackedFrame, place: Self::At) -> Self;
    /// The image that it is drawn from; `None` where nothing is drawn.
    fn image(&self, writer: &InstanceWriter) -> Option<ImageId>;
}

impl InstanceFormat for Instance {
    type At = Placement;
    #[inline(always)]
    fn make(writer: &InstanceWriter, picture: PackedFrame, place: Placement) -> Instance {
        writer.template(picture).at(place)
    }

    fn image(&self, _: &InstanceWriter) -> Option<ImageId> {
        (self.source[2] != 0).then_some(ImageId(self.image))
    }
}

/// Of the placement its position and its own bytes.
impl InstanceFormat for SmallInstance {
    type At = Placement;
    #[inline]
    fn make(_: &InstanceWriter, picture: PackedFrame, place: Placement) -> SmallInstance {
        let (position, user) = (place.position, u32::from(place.user));
        SmallInstance { position, shown: picture.to_bits(), user }
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        PackedFrame(self.shown).image(writer)
    }
}

impl InstanceFormat for PackedFrame {
    type At = ();
    #[inline]
    fn make(_: &InstanceWriter, picture: PackedFrame, (): ()) -> PackedFrame {
        picture
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        writer.template(*self).image(writer)
    }
}

/// As [`PackedFrame::to_bits`].
impl InstanceFormat for u32 {
    type At = ();
    #[inline]
    fn make(_: &InstanceWriter, picture: PackedFrame, (): ()) -> u32 {
        picture.to_bits()
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        PackedFrame(*self).image(writer)
    }
}

/// The frame's number alone; `u16::MAX` for nothing, and for frames from there on.
impl InstanceFormat for u16 {
    type At = ();
    #[inline]
    fn make(_: &InstanceWriter, picture: PackedFrame, (): ()) -> u16 {
        (picture.0 & PackedFrame::MAX).min(u32::from(u16::MAX)) as u16
    }

    fn image(&self, writer: &InstanceWriter) -> Option<ImageId> {
        PackedFrame(u32::from(*self)).image(writer).filter(|_| *self != u16::MAX)
    }
}

/// As [`View::blit`], at a position in pixels, each pixel of the art so many wide and high. A blit of
/// nothing has no size.
impl InstanceFormat for Blit {
    type At = ([i32; 2], u32);
    fn make(writer: &InstanceWriter, picture: PackedFrame, (position, scale): Self::At) -> Blit {
        match picture.view(&writer.reel) {
            Some(view) => view.blit(position, scale),
            None => Blit {
                image: ImageId(0),
                source: Rect::default(),
                at: position,
                size: [0, 0],
                flips: Flips::default(),
            },
        }
    }

    fn image(&self, _: &InstanceWriter) -> Option<ImageId> {
        (self.size != [0, 0]).then_some(self.image)
    }
}

/// A destination for items, open to types of yours: a `Vec`, which grows, or a slice, which shrinks to its unwritten rest, as
/// in
/// [`std::io::Write`](https://doc.rust-lang.org/std/io/trait.Write.html#impl-Write-for-%26mut+%5Bu8%5D).
pub trait InstanceBuffer<T> {
    /// Adds all, or as many as there is room for; gives how many.
    fn put(&mut self, items: impl Iterator<Item = T>) -> usize;
}

impl<T> InstanceBuffer<T> for Vec<T> {
    #[inline]
    fn put(&mut self, items: impl Iterator<Item = T>) -> usize {
        let before = self.len();
        self.extend(items);
        self.len() - before
    }
}

impl<T> InstanceBuffer<T> for &mut [T] {
    #[inline]
    fn put(&mut self, items: impl Iterator<Item = T>) -> usize {
        let mut written = 0;
        for (place, item) in self.iter_mut().zip(items) {
            *place = item;
            written += 1;
        }
        *self = &mut core::mem::take(self)[written..];
        written
    }
}
