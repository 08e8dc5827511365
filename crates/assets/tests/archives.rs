//! Files that can be listed: archives from anybody, and files in memory.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::io::{Cursor, Write};
use std::path::Path;

use lucky_reel_assets::{Archive, Art, Files, Limits, LoadError, Loader, Pixels};
use proptest::prelude::*;
use zip::write::{SimpleFileOptions, ZipWriter};
use zip::{CompressionMethod, ZipArchive};

const TEXT: &str =
    "reel = 1\n[sheets.puff]\nimages = \"puff-*.png\"\n[clips.puff]\nframes = \"all\"\nfps = 12\n";

fn picture(shade: u8) -> Vec<u8> {
    let mut picture = Pixels::new([8, 8]).unwrap();
    picture.rgba_mut().fill(shade);
    picture.to_png()
}

fn zipped<'f>(files: impl IntoIterator<Item = (&'f str, &'f [u8])>) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    for (nth, (name, bytes)) in files.into_iter().enumerate() {
        let methods = [CompressionMethod::Stored, CompressionMethod::Deflated];
        let options = SimpleFileOptions::default().compression_method(methods[nth % 2]);
        zip.start_file(name, options).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.finish().unwrap().into_inner()
}

fn puffs() -> Vec<u8> {
    let pictures = [9, 10, 11].map(picture);
    zipped([
        ("puff.reel.toml", TEXT.as_bytes()),
        ("puff-2.png", &*pictures[0]),
        ("puff-10.png", &pictures[1]),
        ("art/puff-3.png", &pictures[2]),
    ])
}

fn load(bytes: &[u8]) -> Result<Art, LoadError> {
    Loader::new().files(Archive::open(bytes)?).load()
}

fn said(result: Result<Art, LoadError>) -> String {
    result.expect_err("it is refused").to_string()
}

/// The demo's folder, the same files in memory, and in an archive are the same reel and the same pictures.
#[test]
fn a_folder_its_files_in_memory_and_an_archive_of_it_are_the_same() {
    let folder = Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse"));
    let names = folder.list().unwrap();
    let files: Vec<(String, Vec<u8>)> =
        names.into_iter().map(|name| (name.clone(), folder.read(&name).unwrap())).collect();
    let in_folder = Loader::new().files(folder).load().unwrap();
    let in_memory = Loader::new().files(&files[..]).load().unwrap();
    let archive = zipped(files.iter().map(|(name, bytes)| (&**name, &**bytes)));
    let in_archive = load(&archive).unwrap();
    assert!(in_folder.images.len() >= 9);
    for art in [&in_memory, &in_archive] {
        assert_eq!(art.reel.fingerprint(), in_folder.reel.fingerprint());
        assert_eq!(art.images, in_folder.images);
    }
    // Owned bytes, as they come over a network, outlive the call that made them.
    let opened: Archive<'static> = Archive::open(archive).unwrap();
    assert_eq!(opened.list().unwrap().len(), files.len());
}

/// Patterns are looked up in the folder of the reel file alone, in natural order; two archives may have files of the
/// same names.
#[test]
fn patterns_work_in_memory_and_archives_do_not_mix() {
    let art = load(&puffs()).unwrap();
    let holds: Vec<u32> =
        art.reel.clips().next().unwrap().holds().map(|hold| hold.ticks.get() as u32).collect();
    assert_eq!(holds.len(), 2);
    let shade = |art: &Art, nth: usize| art.images[nth].pixel([0, 0])[0];
    assert_eq!(shade(&art, 0), 9, "2 comes before 10");

    let deep = ["art/puff.reel.toml", "art/puff-0.png", "art/deep/puff-1.png", "puff-2.png"];
    let shades = [4, 5, 6].map(picture);
    let bytes = [TEXT.as_bytes(), &*shades[0], &shades[1], &shades[2]];
    let files: Vec<(&str, &[u8])> = deep.into_iter().zip(bytes).collect();
    let art = Loader::new().files(&files[..]).load().unwrap();
    assert_eq!((art.reel.clips().next().unwrap().holds().len(), shade(&art, 0)), (1, 4));

    let text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\n[clips.c]\nframes = 0\n";
    let archives = [("bram", 30), ("moth", 60)].map(|(role, shade)| {
        let (name, picture) = (format!("{role}.reel.toml"), picture(shade));
        zipped([(&*name, text.as_bytes()), ("s.png", &*picture)])
    });
    let loader = Loader::new().files(Archive::open(&*archives[0]).unwrap());
    let art = loader.files(Archive::open(&*archives[1]).unwrap()).load().unwrap();
    assert_eq!([shade(&art, 0), shade(&art, 1)], [30, 60]);
}

#[test]
fn what_is_missing_or_misspelled_is_said_with_what_is_near() {
    let text = "reel = 1\n[sheets.s]\nimage = \"mhot.png\"\n[clips.c]\nframes = 0\n";
    let moth = picture(1);
    let zip = zipped([("art/moth.reel.toml", text.as_bytes()), ("art/moth.png", &*moth)]);
    let report = said(load(&zip));
    assert!(
        report.contains("art/mhot.png") && report.contains("did you mean `art/moth.png`?"),
        "{report}"
    );
    assert!(said(load(&zipped([("moth.png", &*moth)]))).contains("no reel file among the files"));
    assert!(said(load(b"reel = 1")).contains("not a ZIP archive"));
    let missing = said(Loader::new().files(Path::new("nowhere at all")).load());
    assert!(missing.contains("cannot be listed"), "{missing}");
    let report = said(load(&zipped([("a.reel.toml", TEXT.as_bytes())])));
    assert!(report.contains("no picture matches this"), "{report}");
}

#[test]
fn what_leaves_the_archive_or_is_none_of_it_is_refused_by_name() {
    for bad in ["../moth.png", "/moth.png", "art/../../moth.png", "C:/moth.png", "art\\moth.png"] {
        let report = said(load(&zipped([(bad, &b"x"[..])])));
        assert!(report.contains("moth.png") && report.contains("path"), "{bad}: {report}");
    }
    let mut link = ZipWriter::new(Cursor::new(Vec::new()));
    link.add_symlink("moth.png", "/etc/passwd", SimpleFileOptions::default()).unwrap();
    let report = said(load(&link.finish().unwrap().into_inner()));
    assert!(report.contains("moth.png") && report.contains("link"), "{report}");

    // Of two files of one name one reader takes the first and another the last.
    let twice = zipped([("moth-a.png", &b"x"[..]), ("moth-b.png", b"y")]);
    let twice = String::from_utf8_lossy(&twice).contains("moth-b.png").then(|| {
        let mut bytes = twice.clone();
        for at in 0..bytes.len() - 10 {
            if &bytes[at..at + 10] == b"moth-b.png" {
                bytes[at + 5] = b'a';
            }
        }
        bytes
    });
    assert!(said(load(&twice.unwrap())).contains("one name"));

    // An archive within an archive is a file like any other, and no picture.
    let text = "reel = 1\n[sheets.s]\nimage = \"inner.zip\"\n[clips.c]\nframes = 0\n";
    let report = said(load(&zipped([("s.reel.toml", text.as_bytes()), ("inner.zip", &puffs())])));
    assert!(report.contains("inner.zip"), "{report}");
}

#[test]
fn limits_hold_for_what_is_unpacked() {
    let large = vec![0_u8; 1 << 20]; // packed, about a kilobyte
    let zip = zipped([("s.reel.toml", TEXT.as_bytes()), ("puff-0.png", &large)]);
    assert!(zip.len() < 10_000);
    let refused = |set: &dyn Fn(&mut Limits)| {
        let mut limits = Limits::default();
        set(&mut limits);
        let opened = Archive::open_within(&*zip, limits);
        opened
            .and_then(|zip| Loader::new().limits(limits).files(zip).load())
            .expect_err("a limit")
            .to_string()
    };
    assert!(refused(&|limits| limits.archive_bytes = 1 << 19).contains("`archive_bytes`"));
    assert!(refused(&|limits| limits.archive_files = 1).contains("`archive_files`"));
    assert!(refused(&|limits| limits.picture_bytes = 1 << 19).contains("puff-0.png"));

    // A size that is a lie: the list says 10 bytes of the large file.
    let mut lying = zip.clone();
    let real = (1_u32 << 20).to_le_bytes();
    for at in 0..lying.len() - 4 {
        if lying[at..at + 4] == real {
            lying[at..at + 4].copy_from_slice(&10_u32.to_le_bytes());
        }
    }
    assert!(load(&lying).is_err());
}

/// A cut archive says in which file it was cut.
#[test]
fn a_cut_archive_names_the_entry() {
    let zip = puffs();
    let mut ends = Vec::new();
    let mut whole = ZipArchive::new(Cursor::new(&*zip)).unwrap();
    for index in 0..whole.len() {
        let entry = whole.by_index_raw(index).unwrap();
        let name = entry.name().unwrap().into_owned();
        ends.push((name, entry.data_start().unwrap() as usize));
    }
    for (name, start) in ends {
        let report = said(load(&zip[..start + 1]));
        assert!(report.contains("cut short") && report.contains(&name), "{name}: {report}");
    }
}

proptest! {
    /// Whatever is done to an archive: it loads, or it is refused with a report.
    #[test]
    fn damaged_archives_do_no_harm(changes in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 1..6), cut in any::<prop::sample::Index>(), cuts in any::<bool>()) {
        let mut zip = puffs();
        for (at, byte) in changes {
            let at = at.index(zip.len());
            zip[at] = byte;
        }
        if cuts {
            zip.truncate(cut.index(zip.len()));
        }
        if let Err(error) = load(&zip) {
            prop_assert!(!error.problems().is_empty() && !error.problems()[0].fix().is_empty());
        }
    }
}
