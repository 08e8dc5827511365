//! The library as C sees it: the header is current, and programs in C are built with all warnings and run under
//! valgrind.
//!
//! Needs a C compiler; `valgrind` and `libpng-dev` where they are there.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::{Path, PathBuf};
use std::process::Command;

use lucky_reel::assets::Pixels;

const HERE: &str = env!("CARGO_MANIFEST_DIR");

#[test]
fn the_header_says_what_the_library_has() {
    let here = Path::new(HERE);
    let config = cbindgen::Config::from_file(here.join("cbindgen.toml")).unwrap();
    let made = cbindgen::Builder::new().with_crate(here).with_config(config).generate().unwrap();
    let mut text = Vec::new();
    made.write(&mut text);
    let text = String::from_utf8(text).unwrap();
    let path = here.join("include/lucky_reel.h");
    if std::env::var_os("WRITE_HEADER").is_some() {
        std::fs::write(&path, &text).unwrap();
    }
    let known = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(known == text, "the header is old: run this test once with WRITE_HEADER=1");
}

/// The folder with the built library.
fn library() -> PathBuf {
    let here = std::env::current_exe().unwrap();
    let target = here.ancestors().nth(3).unwrap().to_owned();
    let mut build = Command::new(env!("CARGO"));
    // The whole workspace: alone, a host would want its parts with other features, and built again.
    build.args(["build", "--quiet", "--workspace"]).arg("--target-dir").arg(&target);
    assert!(build.status().unwrap().success());
    target.join("debug")
}

/// Builds a program; `None` where something it needs is not there.
fn program(source: &str, folder: &Path, libraries: &[&str]) -> Option<PathBuf> {
    let (library, program) = (library(), folder.join("program"));
    let built = Command::new("cc")
        .args(["-std=c11", "-Wall", "-Wextra", "-Wpedantic", "-Werror", "-g", "-O1", "-o"])
        .arg(&program)
        .arg(Path::new(HERE).join(source))
        .arg(format!("-I{HERE}/include"))
        .arg(format!("-L{}", library.display()))
        .arg(format!("-Wl,-rpath,{}", library.display()))
        .arg("-llucky_reel_c")
        .args(libraries)
        .output()
        .ok()?;
    let said = String::from_utf8_lossy(&built.stderr);
    let lacks_png = said.contains("png.h: No such file") && !libraries.is_empty();
    assert!(built.status.success() || lacks_png, "{said}");
    if lacks_png {
        eprintln!("skipped {source}: there is no libpng");
    }
    built.status.success().then_some(program)
}

/// Runs a program, where it can under valgrind, which finds what is lost or read wrongly.
fn run(program: &Path, arguments: &[&Path]) -> String {
    let has_valgrind = Command::new("valgrind").arg("--version").output().is_ok();
    let mut command = Command::new(if has_valgrind { "valgrind" } else { "true" });
    if has_valgrind {
        command.args([
            "--quiet",
            "--error-exitcode=99",
            "--leak-check=full",
            "--show-leak-kinds=all",
        ]);
        command.arg("--errors-for-leak-kinds=definite,indirect,possible").arg(program);
    } else {
        eprintln!("without valgrind: {}", program.display());
        command = Command::new(program);
    }
    let output = command.args(arguments).output().unwrap();
    let said = String::from_utf8_lossy(&output.stderr);
    assert!(output.status.success(), "{:?}\n{said}", output.status);
    String::from_utf8(output.stdout).unwrap()
}

#[test]
fn bram_walks_in_c() {
    let folder = tempfile::tempdir().unwrap();
    let Some(program) = program("example/greenhouse.c", folder.path(), &["-lpng"]) else { return };
    let demo = Path::new(HERE).join("../../demo/greenhouse");
    let shot = folder.path().join("shot.png");
    let said = run(&program, &[&demo, &shot]);
    assert!(said.starts_with("11 steps"), "{said}");
    let picture = Pixels::from_png(&std::fs::read(&shot).unwrap()).unwrap();
    assert_eq!(picture.size(), [320, 200]);
    // His hat and his shell are there, and so is the night.
    let colors: std::collections::BTreeSet<&[u8]> = picture.rgba().chunks(4).collect();
    assert!(colors.len() > 50, "{} colors", colors.len());
}

#[test]
fn calls_in_random_order_do_no_harm() {
    let folder = tempfile::tempdir().unwrap();
    let program = program("tests/random_calls.c", folder.path(), &[]).unwrap();
    let demo = Path::new(HERE).join("../../demo/greenhouse");
    let said = run(&program, &[&demo]);
    assert!(said.contains("no call ended badly"), "{said}");
}

#[test]
fn groups_saves_areas_and_instances_are_those_of_rust() {
    let folder = tempfile::tempdir().unwrap();
    let program = program("tests/groups_saves_areas.c", folder.path(), &[]).unwrap();
    let demo = Path::new(HERE).join("../../demo/greenhouse");
    assert!(run(&program, &[&demo]).contains("all as it must be"));
}
