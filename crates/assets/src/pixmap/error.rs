use std::fmt;

/// Why bytes cannot be decoded as an image.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PixmapError {
    what: String,
    fix: &'static str,
}

impl PixmapError {
    pub(crate) fn new(what: impl Into<String>, fix: &'static str) -> PixmapError {
        PixmapError { what: what.into(), fix }
    }

    /// It is broken, in words of the decoder.
    pub(crate) fn broken(format: &str, cause: impl fmt::Display) -> PixmapError {
        PixmapError::new(
            format!("the {format} is broken or cut short: {cause}"),
            "export it again, or copy the whole file",
        )
    }

    /// It has more pixels than the loader takes.
    pub(crate) fn too_large(size: [u32; 2], frames: u64, most: u64) -> PixmapError {
        let frames = if frames > 1 { format!("{frames} frames of ") } else { String::new() };
        PixmapError::new(
            format!("{frames}{} x {} pixels are more than {most}", size[0], size[1]),
            "use a smaller picture, or raise the limit",
        )
    }

    /// Of a format whose feature is off.
    #[cfg(not(all(feature = "gif", feature = "webp")))]
    pub(crate) fn left_out(feature: &'static str) -> PixmapError {
        PixmapError::new(
            format!("this program was built without `{feature}` images"),
            "enable the feature of lucky-reel named like the format, or convert the image to PNG",
        )
    }

    /// What is wrong.
    #[must_use]
    pub fn message(&self) -> &str {
        &self.what
    }

    /// What to do about it.
    #[must_use]
    pub fn fix(&self) -> &str {
        self.fix
    }
}

impl fmt::Display for PixmapError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}", self.what, self.fix)
    }
}

impl std::error::Error for PixmapError {}
