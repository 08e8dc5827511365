//! Tells the linker where flash and memory are.

fn main() {
    println!("cargo::rerun-if-changed=memory.x");
    if std::env::var("CARGO_CFG_TARGET_OS").is_ok_and(|system| system == "none") {
        println!("cargo::rustc-link-search={}", env!("CARGO_MANIFEST_DIR"));
        println!("cargo::rustc-link-arg-bins=-Tlink.x");
    }
}
