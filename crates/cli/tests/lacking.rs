//! A build without the features `full` and `window` says of each thing that it lacks how to get it.
#![cfg(not(feature = "drawings"))]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::process::Command;

#[test]
fn what_was_not_built_in_says_how_to_get_it() {
    let folder = tempfile::tempdir().unwrap();
    let demo = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    let (reel, image) = (format!("{demo}/bram.reel.toml"), format!("{demo}/bram.png"));
    for arguments in [
        &["watch", &reel] as &[&str],
        &["chart", &reel, "--to", "a.png"],
        &["measure", &image, "--to", "a.png"],
        &["check", &reel, "--to", "pictures"],
        &["render", &reel, "idle-down", "--to", "a.gif"],
        &["archive", &reel, "--to", "a.zip"],
        &["clips", "a.zip"],
    ] {
        let output = Command::new(env!("CARGO_BIN_EXE_lucky-reel"))
            .args(arguments)
            .current_dir(&folder)
            .output()
            .unwrap();
        let reported = String::from_utf8(output.stderr).unwrap();
        assert_eq!(output.status.code(), Some(1), "{arguments:?}: {reported}");
        assert!(reported.contains("this build"), "{arguments:?}: {reported}");
        assert!(reported.contains("--features full"), "{arguments:?}: {reported}");
        assert_eq!(std::fs::read_dir(&folder).unwrap().count(), 0, "{arguments:?} wrote something");
    }
}
