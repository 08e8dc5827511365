//! The program on a chip that QEMU plays, against the same program here: it prints the same lines.
//!
//! Needs a `core` library for `thumbv7em-none-eabi` (or Debian's `rustc-web cargo-web rust-web-src lld-22`), and
//! `qemu-system-arm`; says so and passes where they are not there.

#![cfg(not(target_os = "none"))]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::{Path, PathBuf};
use std::process::Command;

use object::{Object, ObjectSection, SectionKind};

const TARGET: &str = "thumbv7em-none-eabi";

/// The program for the chip; `None` where it cannot be built here.
fn for_chip() -> Option<PathBuf> {
    let here = std::env::current_exe().unwrap();
    let target = here.ancestors().nth(3).unwrap().join("chip");
    let ask = Command::new("rustc").args(["--print=target-libdir", "--target", TARGET]).output();
    let library = String::from_utf8(ask.unwrap().stdout).unwrap();
    let mut cargo = Command::new("cargo");
    if !Path::new(library.trim()).is_dir() {
        if !Path::new("/usr/lib/rustlib/src/rust/library").is_dir() {
            eprintln!("skipped: no core library for {TARGET}");
            return None;
        }
        // Debian's compiler builds the library along.
        cargo = Command::new("/usr/bin/cargo");
        cargo.env("RUSTC", "/usr/bin/rustc").env("RUSTC_BOOTSTRAP", "1");
        cargo.arg("-Zbuild-std=core,alloc");
    }
    for (name, _) in std::env::vars_os() {
        let text = name.to_string_lossy();
        if text.starts_with("CARGO") && text != "CARGO_HOME" || text == "RUSTUP_TOOLCHAIN" {
            cargo.env_remove(name);
        }
    }
    let built = cargo
        .args(["build", "--quiet", "--profile=small", "--target", TARGET])
        .arg("--target-dir")
        .arg(&target)
        .current_dir(env!("CARGO_MANIFEST_DIR"))
        .status();
    assert!(built.unwrap().success());
    Some(target.join(TARGET).join("small/greenhouse-embedded"))
}

/// The lines without the one about the heap, which only the chip counts.
fn lines(output: &[u8]) -> Vec<&str> {
    let text = std::str::from_utf8(output).unwrap();
    text.lines().filter(|line| !line.starts_with("heap:")).collect()
}

#[test]
fn a_chip_plays_as_a_desk_does() {
    let Some(program) = for_chip() else { return };
    let bytes = std::fs::read(&program).unwrap();
    let sizes = object::File::parse(&*bytes).unwrap();
    let flash: u64 = sizes
        .sections()
        .filter(|section| {
            matches!(
                section.kind(),
                SectionKind::Text | SectionKind::ReadOnlyData | SectionKind::Data
            )
        })
        .map(|section| section.size())
        .sum();
    eprintln!("{flash} bytes of flash");
    assert!(flash < 165_000, "{flash} bytes are more than the README says");

    let desk = Command::new(env!("CARGO_BIN_EXE_greenhouse-embedded")).output().unwrap();
    assert!(desk.status.success());
    let wanted = lines(&desk.stdout);
    assert!(wanted.len() > 15 && wanted.last() == Some(&"done"), "{wanted:?}");
    let chip = Command::new("qemu-system-arm")
        .args(["-machine", "mps2-an386", "-cpu", "cortex-m4", "-nographic", "-monitor", "none"])
        .args(["-semihosting-config", "enable=on,target=native", "-kernel"])
        .arg(&program)
        .output();
    let Ok(chip) = chip else {
        return eprintln!("built, and not run: there is no qemu-system-arm");
    };
    assert!(chip.status.success(), "{}", String::from_utf8_lossy(&chip.stderr));
    assert_eq!(lines(&chip.stdout), wanted);
    let text = String::from_utf8(chip.stdout).unwrap();
    let heap = text.lines().find(|line| line.starts_with("heap:")).unwrap();
    eprintln!("{heap}");
    let bytes: Vec<usize> = heap.split_whitespace().filter_map(|word| word.parse().ok()).collect();
    assert!(bytes[0] > 1_000 && bytes[0] < 12_000, "{heap}");
}
