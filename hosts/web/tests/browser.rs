//! The page in a browser: its picture against the canvas, keys, touch, and files that are chosen.
//!
//! Needs a standard library for `wasm32-unknown-unknown` (or Debian's `rustc-web cargo-web rust-web-src
//! lld-22`), `chromium` and `chromium-driver`; says so and passes where they are not there.

#![cfg(not(target_family = "wasm"))]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use base64::Engine;
use lucky_reel::assets::{Limits, Loader, Pixels};
use lucky_reel::{DrawList, InstanceWriter, view::Instance};
use lucky_reel_canvas::Canvas;
use lucky_reel_greenhouse::{ROLES, SIZE, Scene};
use serde_json::{Value, json};

const DEMO: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");

/// A program that says where it can be reached: the rest of its first line with this word.
struct Service(Child, String);

impl Service {
    fn start(command: &mut Command, word: &str) -> Option<Service> {
        let mut child = command.stdout(Stdio::piped()).spawn().ok()?;
        let mut lines = BufReader::new(child.stdout.take()?).lines().map_while(Result::ok);
        let found = lines.find_map(|line| line.split_once(word).map(|(_, rest)| rest.to_owned()));
        std::thread::spawn(move || lines.for_each(drop));
        found.map(|rest| Service(child, rest.trim_end_matches('.').trim().to_owned()))
    }
}

impl Drop for Service {
    fn drop(&mut self) {
        _ = (self.0.kill(), self.0.wait());
    }
}

/// A browser that is driven over HTTP, as the standard for it says.
struct Browser {
    session: String,
    _driver: Service,
    _profile: tempfile::TempDir,
}

impl Browser {
    fn open() -> Option<Browser> {
        let mut command = Command::new("chromedriver");
        let driver = Service::start(command.arg("--port=0"), "successfully on port")?;
        let profile = tempfile::tempdir().unwrap();
        let options = json!({ "binary": "/usr/bin/chromium", "args": [
            "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
            "--disable-background-networking", "--disable-component-update", "--disable-sync",
            "--disable-dev-shm-usage", "--window-size=1280,800",
            format!("--user-data-dir={}", profile.path().display()),
        ] });
        let wanted =
            json!({ "capabilities": { "alwaysMatch": { "goog:chromeOptions": options } } });
        let server = format!("http://127.0.0.1:{}/session", driver.1);
        let answer = send(&server, &wanted);
        let session = format!("{server}/{}", answer["sessionId"].as_str()?);
        Some(Browser { session, _driver: driver, _profile: profile })
    }

    fn call(&self, command: &str, body: &Value) -> Value {
        send(&format!("{}/{command}", self.session), body)
    }

    fn run(&self, script: &str) -> Value {
        self.call("execute/sync", &json!({ "script": script, "args": [] }))
    }

    fn text(&self, selector: &str) -> String {
        let text = self.run(&format!("return document.querySelector('{selector}').textContent"));
        text.as_str().unwrap().to_owned()
    }

    fn element(&self, selector: &str) -> Value {
        self.call("element", &json!({ "using": "css selector", "value": selector }))
    }

    fn keys(&self, kind: &str, key: char) {
        let actions = json!([{ "type": kind, "value": key }]);
        let body = json!({ "actions": [{ "type": "key", "id": "keys", "actions": actions }] });
        self.call("actions", &body);
    }

    fn touch(&self, actions: Value) {
        let parameters = json!({ "pointerType": "touch" });
        let finger = json!({ "type": "pointer", "id": "finger", "parameters": parameters, "actions": actions });
        self.call("actions", &json!({ "actions": [finger] }));
    }

    /// Chooses files, as a person would.
    fn choose(&self, paths: &[&Path]) {
        let element = self.element("#files");
        let id = element.as_object().unwrap().values().next().unwrap().as_str().unwrap();
        let paths: Vec<String> = paths.iter().map(|path| path.display().to_string()).collect();
        self.call(&format!("element/{id}/value"), &json!({ "text": paths.join("\n") }));
    }

    /// The pixels of the game's screen.
    fn picture(&self) -> Pixels {
        let shot = "const screen = document.querySelector('canvas'); return screen.toDataURL()";
        let url = self.run(shot);
        let png = url.as_str().unwrap().strip_prefix("data:image/png;base64,").unwrap();
        let bytes = base64::engine::general_purpose::STANDARD.decode(png).unwrap();
        Pixels::from_png(&bytes).unwrap()
    }

    fn until(&self, selector: &str, is_it: impl Fn(&str) -> bool) -> String {
        let begin = Instant::now();
        loop {
            let text = self.text(selector);
            if is_it(&text) {
                return text;
            }
            let problem = self.text("#problem");
            assert!(begin.elapsed() < Duration::from_secs(20), "{text:?} {problem}");
            std::thread::sleep(Duration::from_millis(20));
        }
    }
}

impl Drop for Browser {
    fn drop(&mut self) {
        _ = ureq::delete(&self.session).call();
    }
}

fn send(url: &str, body: &Value) -> Value {
    let config = ureq::Agent::config_builder().http_status_as_error(false).build();
    let answer = ureq::Agent::from(config).post(url).send_json(body);
    let mut answer: Value = answer.unwrap().body_mut().read_json().unwrap();
    assert!(answer["value"]["error"].is_null(), "{url}: {}", answer["value"]["message"]);
    answer["value"].take()
}

/// The scene as the canvas draws it.
fn expected() -> Pixels {
    let file = |role: &str| format!("{DEMO}/{role}.reel.toml");
    let loader = ROLES.iter().fold(Loader::new(), |loader, role| loader.file(file(role)));
    let art = loader.load().unwrap();
    let (writer, mut list) = (InstanceWriter::new(&art.reel), DrawList::by_depth());
    Scene::after(&art.reel, 60, 2.5).unwrap().draw(&art.reel, &mut list, &writer);
    let mut instances: Vec<Instance> = Vec::new();
    list.write(&writer, &mut instances).unwrap();
    let mut canvas = Canvas::new(SIZE).unwrap();
    canvas.clear([0, 0, 0, 255]);
    instances.iter().for_each(|instance| canvas.draw_instance(instance, &art.images));
    canvas.into_picture()
}

#[test]
fn the_page_plays_the_scene_and_what_is_dropped_onto_it() {
    let target = std::env::current_exe().unwrap();
    let target = target.ancestors().nth(3).unwrap().join("page");
    let mut host = Command::new(env!("CARGO_BIN_EXE_greenhouse-web"));
    let Some(page) = Service::start(host.arg("--port=0").arg("--to").arg(&target), "open:") else {
        return eprintln!("skipped: the page could not be made");
    };
    let wasm = std::fs::metadata(target.join("greenhouse_web_bg.wasm")).unwrap().len();
    assert!(wasm < 710_000, "{wasm} bytes are more than the README says");
    let Some(browser) = Browser::open() else {
        return eprintln!("skipped: there is no chromium or chromedriver");
    };

    // One frame of the game. A browser multiplies colors by alpha first, and rounds more often.
    browser.call("url", &json!({ "url": format!("{}?seconds=2.5&still", page.1) }));
    browser.until("#status", |text| text.starts_with("6 steps"));
    let (wanted, shown) = (expected(), browser.picture());
    assert_eq!(shown.size(), wanted.size());
    let pairs = || shown.rgba().chunks(4).zip(wanted.rgba().chunks(4));
    let off = |by: u8| {
        pairs().filter(|(a, b)| a.iter().zip(*b).any(|(a, b)| a.abs_diff(*b) > by)).count()
    };
    eprintln!("{} pixels differ by more than one step of color", off(1));
    assert!(off(1) < 10 && off(2) == 0, "{} and {} pixels", off(1), off(2));

    // Keys.
    browser.call("url", &json!({ "url": page.1 }));
    browser.until("#status", |text| text.contains("idle"));
    browser.keys("keyDown", '\u{e014}'); // to the right
    browser.until("#status", |text| text.starts_with("2 steps, hurry-right"));
    browser.keys("keyDown", ' ');
    browser.until("#status", |text| text.contains("hover-right"));
    browser.keys("keyUp", ' ');
    browser.keys("keyUp", '\u{e014}');
    let stands = browser.until("#status", |text| text.contains("idle-right"));

    // Touch.
    let left = browser.element("[data-code=ArrowLeft]");
    let to = json!({ "type": "pointerMove", "origin": left, "x": 0, "y": 0, "duration": 0 });
    let held = json!({ "type": "pause", "duration": 400 });
    let [down, up] =
        ["Down", "Up"].map(|which| json!({ "type": format!("pointer{which}"), "button": 0 }));
    browser.touch(json!([to, down, held, up]));
    assert_ne!(browser.until("#status", |text| text.contains("idle-left")), stands);

    // Files that somebody chooses: with a mistake, without, and edited.
    let folder = tempfile::tempdir().unwrap();
    let reel = folder.path().join("lamp.reel.toml");
    let write = |fps: &str| {
        let sheet =
            "reel = 1\n[sheets.lamp]\nimage = \"art/moth.png\"\ngrid = { cell = [16, 16] }\n";
        std::fs::write(&reel, format!("{sheet}[clips.glow]\nframes = \"0 to 3\"\n{fps}\n"))
            .unwrap();
    };
    let image = Path::new(DEMO).join("moth.png").canonicalize().unwrap();
    write("fsp = 4");
    browser.choose(&[&reel, &image]);
    let problem = browser.until("#problem", |text| text.contains("fix"));
    assert!(problem.contains("fsp") && problem.contains("lamp.reel.toml:7"), "{problem}");
    assert!(browser.text("#status").contains("steps"), "the game goes on");
    write("fps = 4");
    browser.choose(&[&reel, &image]);
    browser.until("#status", |text| text.starts_with("lamp/glow: hold 3 (0–3)"));
    let lamp = browser.picture();
    assert_eq!(lamp.size(), [16, 16]);
    std::fs::write(&reel, "reel = 2").unwrap();
    browser.choose(&[&reel, &image]);
    browser.until("#problem", |text| text.contains("lamp.reel.toml:1"));
    browser.until("#status", |text| text.starts_with("lamp/glow: hold 0 (0–3)"));
    write("each = \"77ms\"");
    browser.choose(&[&reel, &image]);
    browser.until("#status", |text| text.ends_with(" 77ms"));
    assert_eq!(browser.text("#problem"), "");

    // An archive of the demo's moth, cut short and whole.
    let moth = Loader::new().file(format!("{DEMO}/moth.reel.toml")).load().unwrap();
    let bytes = lucky_reel_tools::archive::archive(&moth, Limits::default()).unwrap();
    let zip = folder.path().join("moth.zip");
    std::fs::write(&zip, &bytes[..bytes.len() / 2]).unwrap();
    browser.choose(&[&zip]);
    browser.until("#problem", |text| text.contains("cut short"));
    std::fs::write(&zip, &bytes).unwrap();
    browser.choose(&[&zip]);
    browser.until("#status", |text| text.starts_with("moth/"));
}
