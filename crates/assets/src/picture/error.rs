use std::fmt;

/// Why bytes are no picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PictureError {
    what: String,
    remedy: &'static str,
}

impl PictureError {
    pub(crate) fn new(what: impl Into<String>, remedy: &'static str) -> PictureError {
        PictureError { what: what.into(), remedy }
    }

    /// It is broken, in words of the decoder.
    pub(crate) fn broken(format: &str, cause: impl fmt::Display) -> PictureError {
        PictureError::new(
            format!("the {format} is broken or cut short: {cause}"),
            "export it again, or copy the whole file",
        )
    }

    /// It has more pixels than the loader takes.
    pub(crate) fn too_large(size: [u32; 2], frames: u64, most: u64) -> PictureError {
        let frames = if frames > 1 { format!("{frames} frames of ") } else { String::new() };
        PictureError::new(
            format!("{frames}{} x {} pixels are more than {most}", size[0], size[1]),
            "use a smaller picture, or raise the limit",
        )
    }

    /// What is wrong.
    #[must_use]
    pub fn what(&self) -> &str {
        &self.what
    }

    /// How to mend it.
    #[must_use]
    pub fn remedy(&self) -> &str {
        self.remedy
    }
}

impl fmt::Display for PictureError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}", self.what, self.remedy)
    }
}

impl std::error::Error for PictureError {}
