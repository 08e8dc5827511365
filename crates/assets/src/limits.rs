/// Limits on what is read. They are checked before memory is allocated.
///
/// ```
/// use lucky_reel_assets::Limits;
///
/// let mut limits = Limits::default();
/// limits.pixels = 1 << 28; // a sheet of 16,384 x 16,384
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limits {
    /// Bytes of one reel file: 4 MiB.
    pub reel_bytes: u64,
    /// Bytes of one picture file: 256 MiB.
    pub picture_bytes: u64,
    /// Pixels of one picture, or of all frames of an animated image together: 67,108,864, which take 256 MiB.
    pub pixels: u64,
    /// Pixels of all pictures of one load together, those included that it needs on the way, such as the frames
    /// of an animated image before they stand on one sheet: 268,435,456, which take 1 GiB.
    pub total_pixels: u64,
    /// Frames of one animated image: 65,536.
    pub frames: u64,
    /// Files in one archive: 10,000.
    pub archive_files: u64,
    /// Bytes of all files of one archive together, unpacked: 1 GiB.
    pub archive_bytes: u64,
}

impl Default for Limits {
    fn default() -> Limits {
        Limits {
            reel_bytes: 4 << 20,
            picture_bytes: 256 << 20,
            pixels: 1 << 26,
            total_pixels: 1 << 28,
            frames: 1 << 16,
            archive_files: 10_000,
            archive_bytes: 1 << 30,
        }
    }
}
