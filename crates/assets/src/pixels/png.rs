use std::io::Cursor;

use ::png::{ColorType, Decoder, Encoder, Transformations};

use super::{Pixels, PixelsError};
use crate::decoding::decode;
use crate::limits::Limits;

/// The header of a PNG.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct PngHeader {
    /// Width and height, in pixels.
    pub size: [u32; 2],
    /// What its pixels are made of, such as `palette`.
    pub color: &'static str,
    /// Bits of each sample.
    pub bits: u8,
}

pub(crate) const SIGNATURE: &[u8] = b"\x89PNG\r\n\x1a\n";

impl Pixels {
    /// Decodes a PNG of any color type and depth; 16-bit samples become 8-bit by their high byte.
    ///
    /// # Errors
    /// When it is no PNG, is broken or cut short, or has more than 67,108,864 pixels.
    pub fn from_png(bytes: &[u8]) -> Result<Pixels, PixelsError> {
        Pixels::from_png_within(bytes, Limits::default())
    }

    pub(crate) fn from_png_within(bytes: &[u8], limits: Limits) -> Result<Pixels, PixelsError> {
        let size = PngHeader::read(bytes)?.size;
        decode("PNG", || {
            let mut reader = reader_of(bytes, size, 1, limits)?;
            let mut samples = vec![0; buffer_size(&reader)?];
            let info = reader
                .next_frame(&mut samples)
                .map_err(|error| PixelsError::broken("PNG", error))?;
            samples.truncate(info.buffer_size());
            picture_of([info.width, info.height], info.color_type, samples)
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
    /// Reads only the header of a PNG, without decoding pixels.
    ///
    /// # Errors
    /// When the bytes are no PNG.
    pub fn read(bytes: &[u8]) -> Result<PngHeader, PixelsError> {
        if !bytes.starts_with(SIGNATURE) {
            let what = match bytes {
                [] => "the file is empty",
                [b'G', b'I', b'F', b'8', ..] => "this is a GIF, not a PNG",
                [0xff, 0xd8, 0xff, ..] => "this is a JPEG, not a PNG",
                _ => "this is not a PNG",
            };
            return Err(PixelsError::new(what, "export it as a PNG"));
        }
        if let Some(length) = odd_palette(bytes) {
            let what = format!("its palette has {length} bytes, which are no whole colors");
            return Err(PixelsError::broken("PNG", what));
        }
        decode("PNG", || {
            let mut decoder = Decoder::new_with_limits(Cursor::new(bytes), memory_for(0));
            let info =
                decoder.read_header_info().map_err(|error| PixelsError::broken("PNG", error))?;
            let color = match info.color_type {
                ColorType::Grayscale => "gray",
                ColorType::Rgb => "red, green, blue",
                ColorType::Indexed => "palette",
                ColorType::GrayscaleAlpha => "gray, alpha",
                ColorType::Rgba => "red, green, blue, alpha",
            };
            let bits = info.bit_depth as u8;
            Ok(PngHeader { size: [info.width, info.height], color, bits })
        })
    }
}

/// The length of a palette that is not of whole colors, three bytes each: the decoder panics on one.
fn odd_palette(bytes: &[u8]) -> Option<usize> {
    let palettes = chunks(bytes).filter(|(name, _)| name == b"PLTE");
    palettes.map(|(_, colors)| colors.len()).find(|length| length % 3 != 0)
}

/// The chunks of a PNG: their names and what they hold; of one that is cut short, what there is.
pub(crate) fn chunks(bytes: &[u8]) -> impl Iterator<Item = ([u8; 4], &[u8])> {
    let mut rest = bytes.get(SIGNATURE.len()..).unwrap_or_default();
    std::iter::from_fn(move || {
        let (length, after) = rest.split_first_chunk::<4>()?;
        let (name, after) = after.split_first_chunk::<4>()?;
        let length = u32::from_be_bytes(*length) as usize;
        let (data, after) = after.split_at_checked(length).unwrap_or((after, &[]));
        rest = after.get(4..).unwrap_or_default();
        Some((*name, data))
    })
}

/// A reader that expands everything to 8 bits a channel, for so many frames of a size within limits.
pub(crate) fn reader_of(
    bytes: &[u8],
    size: [u32; 2],
    frames: u64,
    limits: Limits,
) -> Result<::png::Reader<Cursor<&[u8]>>, PixelsError> {
    let pixels = u64::from(size[0]) * u64::from(size[1]);
    if pixels.saturating_mul(frames) > limits.pixels {
        return Err(PixelsError::too_large(size, frames, limits.pixels));
    }
    let mut decoder = Decoder::new_with_limits(Cursor::new(bytes), memory_for(pixels));
    decoder.set_transformations(Transformations::EXPAND | Transformations::STRIP_16);
    decoder.read_info().map_err(|error| PixelsError::broken("PNG", error))
}

/// Bytes that one frame may take.
pub(crate) fn buffer_size(reader: &::png::Reader<Cursor<&[u8]>>) -> Result<usize, PixelsError> {
    reader.output_buffer_size().ok_or_else(|| {
        PixelsError::new("the picture does not fit into memory", "use a smaller picture")
    })
}

/// Samples of any kind with 8 bits as RGBA.
pub(crate) fn picture_of(
    size: [u32; 2],
    color: ColorType,
    samples: Vec<u8>,
) -> Result<Pixels, PixelsError> {
    let rgba: Vec<u8> = match color {
        ColorType::Rgba => samples,
        ColorType::Rgb => samples.chunks_exact(3).flat_map(|s| [s[0], s[1], s[2], 255]).collect(),
        ColorType::GrayscaleAlpha => {
            samples.chunks_exact(2).flat_map(|s| [s[0], s[0], s[0], s[1]]).collect()
        }
        // A palette has been expanded.
        ColorType::Grayscale | ColorType::Indexed => {
            samples.into_iter().flat_map(|gray| [gray, gray, gray, 255]).collect()
        }
    };
    Pixels::from_rgba(size, rgba).ok_or_else(|| {
        PixelsError::new("the picture has fewer pixels than it says", "export it again")
    })
}

/// Memory for so many pixels of the largest kind, and something for color profiles and the like.
fn memory_for(pixels: u64) -> ::png::Limits {
    let bytes = usize::try_from(pixels.saturating_mul(8).saturating_add(1 << 24));
    ::png::Limits { bytes: bytes.unwrap_or(usize::MAX) }
}
