//! Any bytes are an animated image within the limits, or are refused.

#![no_main]

use libfuzzer_sys::fuzz_target;
use lucky_reel::assets::Limits;
use lucky_reel::assets::animated::AnimatedImage;

fuzz_target!(|data: &[u8]| {
    let mut limits = Limits::default();
    limits.pixels = 1 << 18;
    if let Ok(image) = AnimatedImage::from_bytes_within(data, limits) {
        let pixels = u64::from(image.size[0]) * u64::from(image.size[1]) * image.frames.len() as u64;
        assert!(!image.frames.is_empty() && pixels <= limits.pixels);
        for (picture, time) in &image.frames {
            assert!(picture.size() == image.size && time.to_ticks() != lucky_reel::Ticks::ZERO);
        }
    }
});
