use std::fmt;

use crate::fault::Fault;

/// Why bytes cannot be decoded as an image.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PixelsError {
    fault: Fault,
    is_too_large: bool,
}

impl PixelsError {
    pub(crate) fn new(what: impl Into<String>, fix: &'static str) -> PixelsError {
        PixelsError { fault: Fault::new(what, fix), is_too_large: false }
    }

    /// It is broken, in words of the decoder.
    pub(crate) fn broken(format: &str, cause: impl fmt::Display) -> PixelsError {
        PixelsError::new(
            format!("the {format} is broken or cut short: {cause}"),
            "export it again, or copy the whole file",
        )
    }

    /// It has more pixels than the loader takes.
    pub(crate) fn too_large(size: [u32; 2], frames: u64, most: u64) -> PixelsError {
        let frames = if frames > 1 { format!("{frames} frames of ") } else { String::new() };
        let what = format!("{frames}{} x {} pixels are more than {most}", size[0], size[1]);
        let error = PixelsError::new(what, "use a smaller picture, or raise the limit");
        PixelsError { is_too_large: true, ..error }
    }

    /// With those before it, a load would hold more pixels than it takes.
    pub(crate) fn too_many_in_all(most: u64) -> PixelsError {
        let what = format!("with the pictures before it, it makes more than {most} pixels in all");
        let error = PixelsError::new(
            what,
            "use fewer or smaller pictures, or raise the limit (`total_pixels`, --max-pixels)",
        );
        PixelsError { is_too_large: true, ..error }
    }

    /// Whether a limit on pixels refuses it.
    pub(crate) fn is_too_large(&self) -> bool {
        self.is_too_large
    }

    /// Of a format whose feature is off.
    #[cfg(not(all(feature = "gif", feature = "webp")))]
    pub(crate) fn left_out(feature: &'static str) -> PixelsError {
        PixelsError::new(
            format!("this program was built without `{feature}` images"),
            "enable the feature of lucky-reel named like the format, or convert the image to PNG",
        )
    }

    /// What is wrong.
    #[must_use]
    pub fn message(&self) -> &str {
        &self.fault.message
    }

    /// What to do about it.
    #[must_use]
    pub fn fix(&self) -> &str {
        &self.fault.fix
    }
}

impl fmt::Display for PixelsError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}", self.fault.message, self.fault.fix)
    }
}

impl std::error::Error for PixelsError {}
