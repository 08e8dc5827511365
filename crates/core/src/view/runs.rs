use core::ops::Range;

use super::{InstanceFormat, InstanceWriter};
use crate::ids::ImageId;

/// Instances in a row that show one image.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct ImageRun {
    /// The image.
    pub image: ImageId,
    /// Which of the instances show it.
    pub items: Range<usize>,
}

impl InstanceWriter {
    /// Splits what was written into runs that show one image each, in order, for a renderer that draws
    /// image by image.
    pub fn runs<T: InstanceFormat>(&self, written: &[T]) -> impl Iterator<Item = ImageRun> {
        let image = |at: usize| written.get(at).and_then(|item: &T| item.image(self));
        let mut start = 0;
        core::iter::from_fn(move || {
            // What shows nothing is in no run.
            while start < written.len() && image(start).is_none() {
                start += 1;
            }
            let first = image(start)?;
            let mut end = start;
            while image(end) == Some(first) {
                end += 1;
            }
            Some(ImageRun { image: first, items: core::mem::replace(&mut start, end)..end })
        })
    }
}
