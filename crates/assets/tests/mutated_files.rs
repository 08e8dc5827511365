//! Images and reel files with mistakes in them, made from the seeds in `fuzz/seeds`: whatever the bytes, they
//! are read or refused. A panic of a decoder is caught at one door; that it was, is a finding, too.
//!
//! `MUTATIONS=3000000 cargo test --release -p lucky-reel-assets --test mutated_files` takes about a minute.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::path::{Path, PathBuf};

use lucky_reel_assets::animated::AnimatedImage;
use lucky_reel_assets::{Limits, Pixels, PngHeader, load_bytes};

/// A small generator of numbers (xorshift64*, Vigna 2014), the same on every machine.
struct Numbers(u64);

impl Numbers {
    fn next(&mut self) -> u64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        self.0.wrapping_mul(0x2545_f491_4f6c_dd1d) >> 16
    }

    fn below(&mut self, count: usize) -> usize {
        (self.next() % count.max(1) as u64) as usize
    }
}

fn mutations() -> u64 {
    std::env::var("MUTATIONS").map_or(20_000, |count| count.parse().unwrap())
}

fn seeds(folder: &str) -> Vec<Vec<u8>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../fuzz/seeds").join(folder);
    let mut files: Vec<PathBuf> =
        fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    files.sort();
    files.iter().map(|file| fs::read(file).unwrap()).collect()
}

/// One to four mistakes: a bit, a byte, a telling number, a piece left out, doubled, or taken from elsewhere.
fn mutate(bytes: &mut Vec<u8>, seeds: &[Vec<u8>], numbers: &mut Numbers) {
    for _ in 0..=numbers.below(4) {
        if bytes.is_empty() {
            return;
        }
        let at = numbers.below(bytes.len());
        let length = numbers.below(16).min(bytes.len() - at);
        match numbers.below(8) {
            0 | 1 => bytes[at] ^= 1 << numbers.below(8),
            2 => bytes[at] = numbers.next() as u8,
            3 => bytes[at] = [0, 1, 0x7f, 0x80, 0xff, b'-', b'"', b'['][numbers.below(8)],
            4 => drop(bytes.drain(at..at + length)),
            5 => {
                let piece = bytes[at..at + length].to_vec();
                bytes.splice(at..at, piece);
            }
            6 => {
                let other = &seeds[numbers.below(seeds.len())];
                let from = numbers.below(other.len());
                let piece = other[from..(from + length).min(other.len())].to_vec();
                bytes.splice(at..at + length, piece);
            }
            _ => bytes.truncate(at),
        }
    }
}

/// Writes the lengths and checksums of a PNG's chunks anew, so that mistakes come through to what is behind them.
fn mend_chunks(png: &mut [u8]) {
    let mut at = 8;
    while let Some(length) = png.get(at..at + 4) {
        let length = u32::from_be_bytes(length.try_into().unwrap()) as usize;
        let Some(chunk) = png.get(at + 4..at + 8 + length) else { return };
        let check = crc32fast::hash(chunk).to_be_bytes();
        let Some(old) = png.get_mut(at + 8 + length..at + 12 + length) else { return };
        old.copy_from_slice(&check);
        at += 12 + length;
    }
}

#[test]
fn mutated_images_are_read_or_refused() {
    let (seeds, mut numbers) = (seeds("images"), Numbers(2_026));
    let mut limits = Limits::default();
    (limits.pixels, limits.frames) = (1 << 12, 64);
    let mut read = 0;
    for nth in 0..mutations() {
        let mut bytes = seeds[nth as usize % seeds.len()].clone();
        mutate(&mut bytes, &seeds, &mut numbers);
        if bytes.starts_with(b"\x89PNG") && numbers.below(4) > 0 {
            mend_chunks(&mut bytes);
        }
        let image = AnimatedImage::from_bytes_within(&bytes, limits);
        // Of a still, as a sheet shows it.
        let header = PngHeader::read(&bytes).ok().filter(|header| header.size[0] < 1_000);
        let still =
            header.filter(|header| header.size[1] < 1_000).map(|_| Pixels::from_png(&bytes));
        let errors = [image.as_ref().err(), still.as_ref().and_then(|still| still.as_ref().err())];
        for error in errors.into_iter().flatten() {
            assert!(!error.message().contains("gave up"), "{error}: {bytes:?}");
        }
        read += u64::from(image.is_ok_and(|image| !image.frames.is_empty()));
    }
    assert!(read > mutations() / 50, "{read} were read: the others are refused too early to tell");
}

#[test]
fn mutated_reel_files_are_read_or_refused() {
    let (seeds, mut numbers) = (seeds("texts"), Numbers(77));
    let picture = Pixels::new([128, 128]).unwrap().to_png();
    let mut read = 0;
    for nth in 0..mutations() / 10 {
        let mut text = seeds[nth as usize % seeds.len()].clone();
        mutate(&mut text, &seeds, &mut numbers);
        for name in ["bram.reel.toml", "bram.reel.json"] {
            match load_bytes(name, &text, |_| Ok(picture.clone())) {
                Ok(art) => read += u64::from(art.reel.clips().count() > 0),
                Err(error) => assert!(error.problems().iter().all(|one| !one.fix().is_empty())),
            }
        }
    }
    assert!(read > 0);
}
