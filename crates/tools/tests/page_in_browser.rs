//! The page that plays, in a browser: what its canvases show is what the library shows.
//!
//! Needs Chromium (`apt install chromium`); says so and passes where there is none.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::process::Command;

use lucky_reel_assets::{Art, Pixels, load_all};
use lucky_reel_canvas::Canvas;
use lucky_reel_core::{ClipId, Flips, Player, Ticks, View};
use lucky_reel_tools::chart::page;

/// Waits until the page has drawn, then leaves the pixels of all canvases in the document.
const PROBE: &str = "<script>const wait = setInterval(() => {
  if (!document.documentElement.dataset.ready) return;
  clearInterval(wait);
  const out = document.createElement('pre');
  out.id = 'pixels';
  for (const canvas of document.querySelectorAll('canvas')) {
    const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
    out.textContent += `${canvas.dataset.clip} ${canvas.width} ${canvas.height} ${Array.from(data).join(',')}\\n`;
  }
  document.body.append(out);
}, 20);</script></body>";

/// The document after its scripts have run; `None` without a browser.
fn document(page: &std::path::Path, fragment: &str) -> Option<String> {
    let profile = tempfile::tempdir().unwrap();
    let output = Command::new("chromium")
        .args(["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"])
        .args(["--disable-background-networking", "--disable-component-update", "--disable-sync"])
        .arg("--disable-dev-shm-usage")
        .arg(format!("--user-data-dir={}", profile.path().display()))
        .args(["--virtual-time-budget=4000", "--dump-dom"])
        .arg(format!("file://{}#{fragment}", page.display()))
        .output();
    match output {
        Ok(output) => Some(String::from_utf8(output.stdout).unwrap()),
        Err(error) => {
            eprintln!("skipped: chromium does not start: {error}");
            None
        }
    }
}

/// What a clip shows at a time, on a canvas around everything that it ever shows.
fn expected(art: &Art, name: &str, time: Ticks) -> Pixels {
    let reel = &art.reel;
    let clip = reel.clip(reel.id::<ClipId>(name).unwrap()).unwrap();
    let flips = Flips { x: clip.is_mirrored, y: false };
    let blits: Vec<_> = clip
        .holds()
        .map(|hold| View::of(reel, hold.frame, flips).unwrap().blit([0, 0], 1))
        .collect();
    let near = [0, 1].map(|axis| blits.iter().map(|blit| blit.at[axis]).min().unwrap());
    let far = [0, 1]
        .map(|axis| blits.iter().map(|blit| blit.at[axis] + blit.size[axis] as i32).max().unwrap());
    let mut canvas = Canvas::new([0, 1].map(|axis| (far[axis] - near[axis]) as u32)).unwrap();
    let mut player = Player::new(reel, clip.id);
    player.advance(reel, time);
    if let Some(view) = player.view(reel) {
        canvas.draw(&view, &art.images, near.map(|side| -side), 1);
    }
    canvas.into_picture()
}

#[test]
fn canvases_show_what_the_library_shows() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    let names = ["bram", "moth", "puff", "tiles"];
    let art = load_all(names.map(|name| format!("{folder}/{name}.reel.toml"))).unwrap();
    let text = page::of(&art, "night <&> \"greenhouse\" {data}").replace("</body>", PROBE);
    assert!(text.contains("<title>night &lt;&amp;&gt; &quot;greenhouse&quot; {data}</title>"));
    for outside in ["http://", "https://", "src=", "@import", "url("] {
        assert!(!text.contains(outside), "{outside}: nothing comes from outside");
    }
    let written = tempfile::tempdir().unwrap();
    let page = written.path().join("page.html");
    std::fs::write(&page, text).unwrap();
    // Within holds, on boundaries and a tick before them, after ends.
    for time in ["0t", "7927920t", "7927919t", "250ms", "0.4999s", "1.234s", "9s"] {
        let ticks = lucky_reel_assets::parse_time(time).unwrap().to_ticks();
        // The browser's virtual time may run out before it has decoded the images: then once more.
        let documents = (0..6).map(|_| document(&page, &format!("at={time}")));
        let Some(document) = documents
            .take_while(Option::is_some)
            .flatten()
            .find(|document| document.contains("<pre id=\"pixels\">"))
        else {
            assert!(
                Command::new("chromium").arg("--version").output().is_err(),
                "it does not draw"
            );
            return;
        };
        let pixels = document.split("<pre id=\"pixels\">").nth(1).unwrap();
        let lines: Vec<&str> = pixels.lines().take_while(|line| !line.starts_with('<')).collect();
        assert_eq!(lines.len(), art.reel.clips().count());
        for line in lines {
            let mut words = line.split(' ');
            let name = words.next().unwrap();
            let size = [words.next(), words.next()].map(|side| side.unwrap().parse().unwrap());
            let bytes = words.next().unwrap().split(',').map(|byte| byte.parse().unwrap());
            let shown = Pixels::from_rgba(size, bytes.collect()).unwrap();
            let expected = expected(&art, name, ticks);
            assert_eq!(shown.size(), expected.size(), "{name}");
            for (one, other) in shown.rgba().chunks(4).zip(expected.rgba().chunks(4)) {
                // Browsers keep colors premultiplied, which costs accuracy where alpha is low.
                let near = |channel: usize| {
                    let allowed = 255_u32.div_ceil(u32::from(one[3].max(1)));
                    u32::from(one[channel].abs_diff(other[channel])) <= allowed
                };
                let same =
                    if one[3] == 255 { one == other } else { (0..3).all(near) || one[3] == 0 };
                assert!(one[3] == other[3] && same, "{name} at {time}: {one:?}, not {other:?}");
            }
        }
    }
}
