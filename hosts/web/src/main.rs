//! Makes the page, and serves it.

use std::error::Error;
use std::fs::{self, File};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::Duration;

use clap::Parser;
use tiny_http::{Header, Response, Server};
use wasm_bindgen_cli_support::Bindgen;

/// The night greenhouse on a web page: makes the page and serves it
#[derive(Debug, Parser)]
struct Arguments {
    /// Folder that the page is written to; any web server can serve it
    #[arg(long, value_name = "FOLDER", default_value = concat!(env!("CARGO_MANIFEST_DIR"), "/../target/page"))]
    to: PathBuf,
    /// Make the page, and end
    #[arg(long)]
    no_serve: bool,
    /// Port on this machine to serve it at; 0 takes a free one
    #[arg(long, default_value_t = 8_080)]
    port: u16,
    /// Serve until Chromium has written a picture of 1280 x 800 of the page, 2.5 seconds into the walk
    #[arg(long, value_name = "FILE")]
    headless: Option<PathBuf>,
}

const TARGET: &str = "wasm32-unknown-unknown";
/// Where the standard library is built along, panics need no words.
const SMALLEST: &str =
    "-Zunstable-options -Cpanic=immediate-abort -Zlocation-detail=none -Zfmt-debug=none";
const HOST: &str = env!("CARGO_MANIFEST_DIR");

fn main() -> Result<(), Box<dyn Error>> {
    let arguments = Arguments::parse();
    let page = &arguments.to;
    let wasm = build(&page.join("build"))?;
    Bindgen::new()
        .input_path(wasm)
        .web(true)?
        .omit_default_module_path(false)
        .typescript(false)
        .remove_name_section(true)
        .remove_producers_section(true)
        .generate(page)?;
    for name in ["index.html", "page.js"] {
        fs::copy(Path::new(HOST).join("page").join(name), page.join(name))?;
    }
    let bytes = fs::metadata(page.join("greenhouse_web_bg.wasm"))?.len();
    println!("made: {}, {} kB of WebAssembly", page.display(), bytes / 1_000);
    if arguments.no_serve {
        return Ok(());
    }
    let port = arguments.port;
    let server = Server::http(("127.0.0.1", port)).map_err(|error| {
        format!("port {port} cannot be served: {error}; fix: choose another with --port")
    })?;
    let address = format!("http://{}/", server.server_addr());
    println!("open: {address}");
    if let Some(file) = arguments.headless {
        let profile = page.join("build/chromium");
        let mut browser = Command::new("chromium")
            .args([
                "--headless",
                "--no-sandbox",
                "--disable-gpu",
                "--disable-background-networking",
            ])
            .args(["--window-size=1280,800", "--virtual-time-budget=3000"])
            .arg(format!("--user-data-dir={}", profile.display()))
            .arg(format!("--screenshot={}", file.display()))
            .arg(format!("{address}?seconds=2.5&still"))
            .stderr(Stdio::null()) // it complains of what a picture does not need
            .spawn()
            .map_err(|error| format!("chromium does not start: {error}; fix: install it"))?;
        let status = loop {
            if let Some(request) = server.recv_timeout(Duration::from_millis(50))? {
                answer(page, request);
            }
            if let Some(status) = browser.try_wait()? {
                break status;
            }
        };
        if !status.success() || !file.is_file() {
            let to = file.display();
            return Err(format!(
                "chromium wrote no picture; fix: look whether {to} can be written"
            )
            .into());
        }
        println!("written: {}", file.display());
        return Ok(());
    }
    for request in server.incoming_requests() {
        answer(page, request);
    }
    Ok(())
}

/// Builds the library for browsers: with the target of rustup where it is installed, and otherwise with
/// Debian's compiler, which builds the standard library along.
fn build(into: &Path) -> Result<PathBuf, Box<dyn Error>> {
    let ask = Command::new("rustc").args(["--print=target-libdir", "--target", TARGET]).output()?;
    let library = String::from_utf8(ask.stdout)?;
    let mut cargo = if Path::new(library.trim()).is_dir() {
        Command::new("cargo")
    } else if Path::new("/usr/lib/rustlib/src/rust/library").is_dir() {
        let mut cargo = Command::new("/usr/bin/cargo");
        cargo.env("RUSTC", "/usr/bin/rustc").env("RUSTC_BOOTSTRAP", "1");
        cargo.env("RUSTFLAGS", SMALLEST).args(["-Zbuild-std=std,panic_abort"]);
        cargo.arg("-Zbuild-std-features=optimize_for_size");
        cargo
    } else {
        let what = format!("no standard library for {TARGET}");
        let fix = format!("`rustup target add {TARGET}`, or on Debian as root");
        let debian = "`apt install rustc-web cargo-web rust-web-src lld-22`";
        return Err(format!("{what}; fix: {fix} {debian}").into());
    };
    // This program may itself be run by a cargo, whose settings are for another target.
    for (name, _) in std::env::vars_os() {
        let text = name.to_string_lossy();
        if text.starts_with("CARGO") && text != "CARGO_HOME" || text == "RUSTUP_TOOLCHAIN" {
            cargo.env_remove(name);
        }
    }
    cargo.args(["build", "--lib", "--profile=small", "--target", TARGET]).current_dir(HOST);
    if !cargo.arg("--target-dir").arg(into).status()?.success() {
        return Err("the library could not be built: see above".into());
    }
    Ok(into.join(TARGET).join("small/greenhouse_web.wasm"))
}

/// Answers with a file of the page; nothing outside its folder. A browser that no longer listens is no error.
fn answer(page: &Path, request: tiny_http::Request) {
    let path = request.url().split('?').next().unwrap_or_default().trim_start_matches('/');
    let name = if path.is_empty() { "index.html" } else { path };
    let kind = match name.rsplit('.').next() {
        Some("html") => "text/html",
        Some("js") => "text/javascript",
        _ => "application/wasm",
    };
    let is_plain = name.chars().all(|c| c.is_ascii_alphanumeric() || "._".contains(c));
    let file = File::open(page.join(name)).ok().filter(|_| is_plain);
    _ = match (file, Header::from_bytes("Content-Type", kind)) {
        (Some(file), Ok(kind)) => request.respond(Response::from_file(file).with_header(kind)),
        _ => request.respond(Response::empty(404)),
    };
}
