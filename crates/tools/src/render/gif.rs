//! GIF: one palette for all pictures, exact where 255 colors are enough.

use std::borrow::Cow;
use std::collections::BTreeMap;

use color_quant::NeuQuant;
use gif::{DisposalMethod, Encoder, EncodingError, Frame, Repeat};

use lucky_reel_assets::Pixels;

/// One color is kept for what is seen through.
const MAX_COLORS: usize = 255;
const SEEN_THROUGH: u8 = 255;
/// From here on a pixel is opaque.
const OPAQUE: u8 = 128;

/// Pictures in an order, each with its delay in hundredths; `plays` 0 is forever.
pub(super) fn encode(
    pictures: &[Pixels],
    order: &[(usize, u16)],
    plays: u32,
    mut progress: impl FnMut(usize, usize),
) -> Result<Vec<u8>, EncodingError> {
    let palette = Palette::of(pictures);
    let indexed: Vec<Vec<u8>> = pictures.iter().map(|picture| palette.index(picture)).collect();
    let side = |side: u32| u16::try_from(side).map_err(|_| too_wide());
    let size = pictures.first().map_or([0, 0], Pixels::size);
    let (width, height) = (side(size[0])?, side(size[1])?);
    let mut bytes = Vec::new();
    let mut encoder = Encoder::new(&mut bytes, width, height, &palette.colors)?;
    if plays == 0 {
        encoder.set_repeat(Repeat::Infinite)?;
    }
    for (done, (nth, delay)) in (1..).zip(order) {
        encoder.write_frame(&Frame {
            delay: *delay,
            dispose: DisposalMethod::Background,
            transparent: Some(SEEN_THROUGH),
            width,
            height,
            buffer: Cow::Borrowed(&indexed[*nth]),
            ..Frame::default()
        })?;
        progress(done, order.len());
    }
    drop(encoder);
    Ok(bytes)
}

fn too_wide() -> EncodingError {
    std::io::Error::new(
        std::io::ErrorKind::InvalidInput,
        "GIF holds at most 65,535 x 65,535 pixels",
    )
    .into()
}

struct Palette {
    /// Red, green, blue of 256 colors.
    colors: Vec<u8>,
    known: BTreeMap<[u8; 3], u8>,
    quantized: Option<NeuQuant>,
}

impl Palette {
    fn of(pictures: &[Pixels]) -> Palette {
        let pixels = || pictures.iter().flat_map(|picture| picture.rgba().chunks_exact(4));
        let opaque = || pixels().filter(|pixel| pixel[3] >= OPAQUE);
        let mut known = BTreeMap::new();
        for pixel in opaque() {
            let next = known.len();
            known.entry([pixel[0], pixel[1], pixel[2]]).or_insert(next as u8);
            if known.len() > MAX_COLORS {
                break;
            }
        }
        if known.len() <= MAX_COLORS {
            let mut colors = vec![0; 256 * 3];
            for (color, index) in &known {
                colors[usize::from(*index) * 3..][..3].copy_from_slice(color);
            }
            return Palette { colors, known, quantized: None };
        }
        let samples: Vec<u8> = opaque().flat_map(|p| [p[0], p[1], p[2], 255]).collect();
        // Of very many pixels a tenth tells enough.
        let every = (samples.len() / 4 / 100_000).clamp(1, 10) as i32;
        let quantized = NeuQuant::new(every, MAX_COLORS, &samples);
        let mut colors = quantized.color_map_rgb();
        colors.resize(256 * 3, 0);
        Palette { colors, known: BTreeMap::new(), quantized: Some(quantized) }
    }

    fn index(&self, picture: &Pixels) -> Vec<u8> {
        let index = |pixel: &[u8]| match (&self.quantized, pixel[3] >= OPAQUE) {
            (_, false) => SEEN_THROUGH,
            (Some(quantized), true) => {
                quantized.index_of(&[pixel[0], pixel[1], pixel[2], 255]).min(254) as u8
            }
            (None, true) => {
                self.known.get(&[pixel[0], pixel[1], pixel[2]]).copied().unwrap_or_default()
            }
        };
        picture.rgba().chunks_exact(4).map(index).collect()
    }
}
