use std::fmt;
use std::io::Cursor;

use ::png::{ColorType, Decoder, Encoder, Limits, Transformations};

use super::{MOST_PIXELS, Picture};

/// What the head of a PNG says.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct PngHeader {
    /// Width and height, in pixels.
    pub size: [u32; 2],
}

/// Why bytes are no picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PictureError {
    what: String,
    remedy: &'static str,
}

impl PictureError {
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

const SIGNATURE: &[u8] = b"\x89PNG\r\n\x1a\n";

impl Picture {
    /// Decodes a PNG of any colour type and depth; 16-bit samples become 8-bit by their high byte.
    ///
    /// # Errors
    /// When it is no PNG, is broken or cut short, or has more than 67,108,864 pixels.
    pub fn from_png(bytes: &[u8]) -> Result<Picture, PictureError> {
        Picture::from_png_within(bytes, MOST_PIXELS)
    }

    pub(crate) fn from_png_within(bytes: &[u8], most: u64) -> Result<Picture, PictureError> {
        let size = PngHeader::read(bytes)?.size;
        let pixels = u64::from(size[0]) * u64::from(size[1]);
        if pixels > most {
            return Err(PictureError {
                what: format!("the picture has {} x {} pixels, more than {most}", size[0], size[1]),
                remedy: "use a smaller picture, or raise the loader's limit",
            });
        }
        let mut decoder = Decoder::new_with_limits(Cursor::new(bytes), memory_for(pixels));
        decoder.set_transformations(Transformations::EXPAND | Transformations::STRIP_16);
        let mut reader = decoder.read_info().map_err(broken)?;
        let length = reader.output_buffer_size().ok_or_else(|| PictureError {
            what: "the picture does not fit into memory".to_owned(),
            remedy: "use a smaller picture",
        })?;
        let mut samples = vec![0; length];
        let info = reader.next_frame(&mut samples).map_err(broken)?;
        samples.truncate(info.buffer_size());
        let opaque = |gray: u8| [gray, gray, gray, 255];
        let rgba: Vec<u8> = match info.color_type {
            ColorType::Rgba => samples,
            ColorType::Rgb => {
                samples.chunks_exact(3).flat_map(|s| [s[0], s[1], s[2], 255]).collect()
            }
            ColorType::GrayscaleAlpha => {
                samples.chunks_exact(2).flat_map(|s| [s[0], s[0], s[0], s[1]]).collect()
            }
            // A palette has been expanded.
            ColorType::Grayscale | ColorType::Indexed => {
                samples.into_iter().flat_map(opaque).collect()
            }
        };
        Picture::from_rgba([info.width, info.height], rgba).ok_or_else(|| PictureError {
            what: "the picture has fewer pixels than it says".to_owned(),
            remedy: "export it again",
        })
    }

    /// Encodes it as a PNG with 8 bits a channel.
    #[must_use]
    pub fn to_png(&self) -> Vec<u8> {
        let mut bytes = Vec::new();
        let mut encoder = Encoder::new(&mut bytes, self.size[0], self.size[1]);
        encoder.set_color(ColorType::Rgba);
        encoder.set_depth(::png::BitDepth::Eight);
        // Writing to memory fails only for an empty picture, which becomes an empty file.
        let written = encoder.write_header().and_then(|mut writer| {
            writer.write_image_data(&self.pixels)?;
            writer.finish()
        });
        if written.is_err() {
            bytes.clear();
        }
        bytes
    }
}

impl PngHeader {
    /// Reads the head of a PNG alone, without decoding a pixel.
    ///
    /// # Errors
    /// When the bytes are no PNG.
    pub fn read(bytes: &[u8]) -> Result<PngHeader, PictureError> {
        if !bytes.starts_with(SIGNATURE) {
            let what = match bytes {
                [] => "the file is empty",
                [b'G', b'I', b'F', b'8', ..] => "this is a GIF, not a PNG",
                [0xff, 0xd8, 0xff, ..] => "this is a JPEG, not a PNG",
                _ => "this is not a PNG",
            };
            return Err(PictureError { what: what.to_owned(), remedy: "export it as a PNG" });
        }
        let mut decoder = Decoder::new_with_limits(Cursor::new(bytes), memory_for(0));
        let info = decoder.read_header_info().map_err(broken)?;
        Ok(PngHeader { size: [info.width, info.height] })
    }
}

/// Memory for so many pixels of the largest kind, and something for colour profiles and the like.
fn memory_for(pixels: u64) -> Limits {
    let bytes = usize::try_from(pixels.saturating_mul(8).saturating_add(1 << 24));
    Limits { bytes: bytes.unwrap_or(usize::MAX) }
}

fn broken(error: ::png::DecodingError) -> PictureError {
    PictureError {
        what: format!("the PNG is broken or cut short: {error}"),
        remedy: "export it again, or copy the whole file",
    }
}
