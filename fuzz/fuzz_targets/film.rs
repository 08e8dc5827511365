//! Any bytes are a film within the limits, or are refused.

#![no_main]

use libfuzzer_sys::fuzz_target;
use lucky_reel::assets::Limits;
use lucky_reel::assets::film::Film;

fuzz_target!(|data: &[u8]| {
    let mut limits = Limits::default();
    limits.pixels = 1 << 18;
    if let Ok(film) = Film::from_bytes_within(data, limits) {
        let pixels = u64::from(film.size[0]) * u64::from(film.size[1]) * film.frames.len() as u64;
        assert!(!film.frames.is_empty() && pixels <= limits.pixels);
        for (picture, time) in &film.frames {
            assert!(picture.size() == film.size && !time.to_ticks().is_zero());
        }
    }
});
