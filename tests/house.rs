//! The tables of `ARCHITECTURE.md` are what the code does: which module uses which, and where laws are kept.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

type Arrows = BTreeMap<String, BTreeSet<String>>;

fn root() -> &'static Path {
    Path::new(env!("CARGO_MANIFEST_DIR"))
}

/// The rows of the table below a heading, without its head.
fn table(heading: &str) -> Vec<Vec<String>> {
    let page = fs::read_to_string(root().join("ARCHITECTURE.md")).unwrap();
    let (_, section) = page.split_once(&format!("{heading}\n")).expect("the heading is there");
    let rows = section.lines().skip_while(|line| !line.starts_with('|'));
    let rows = rows.take_while(|line| line.starts_with('|')).skip(2);
    rows.map(|row| row.trim_matches('|').split('|').map(|cell| cell.trim().to_owned()).collect())
        .collect()
}

/// `[a, b]` of "`a`, `b`".
fn listed(cell: &str) -> Vec<String> {
    let names = cell.split(',').map(|name| name.trim().trim_matches('`').to_owned());
    names.filter(|name| !name.is_empty()).collect()
}

/// Each row's name with what it uses, which must stand above it.
fn rows_to_arrows(rows: &[Vec<String>], name: impl Fn(&str) -> String) -> Arrows {
    let mut arrows = Arrows::new();
    for row in rows {
        let uses: BTreeSet<String> = listed(row.last().unwrap()).into_iter().collect();
        for used in &uses {
            assert!(arrows.contains_key(used), "`{}` uses `{used}`, which is not above it", row[0]);
        }
        arrows.insert(name(row[0].trim_matches('`')), uses);
    }
    arrows
}

fn sources(folder: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path());
    entries.flat_map(|path| if path.is_dir() { sources(&path) } else { vec![path] }).collect()
}

/// The words that follow `start` in a text.
fn words_after<'t>(text: &'t str, start: &str) -> impl Iterator<Item = &'t str> {
    text.split(start).skip(1).map(|rest| {
        rest.split(|c: char| !c.is_alphanumeric() && c != '_').next().unwrap_or_default()
    })
}

/// Which module of the core each public name at its root is from.
fn modules_of_names(lib: &str) -> BTreeMap<String, String> {
    let mut modules = BTreeMap::new();
    for line in lib.split("\npub use ").skip(1) {
        let (module, names) = line.split_once(';').unwrap().0.split_once("::").unwrap();
        for name in names.split(|c: char| !c.is_alphanumeric() && c != '_') {
            modules.insert(name.to_owned(), module.to_owned());
        }
    }
    modules
}

#[test]
fn each_module_of_the_core_uses_what_the_table_says() {
    let core = root().join("crates/core/src");
    let lib = fs::read_to_string(core.join("lib.rs")).unwrap();
    let modules_of_names = modules_of_names(&lib);
    let expected = rows_to_arrows(&table("## Inside the core"), str::to_owned);
    let mut found: Arrows =
        expected.keys().map(|module| (module.clone(), BTreeSet::new())).collect();
    for path in sources(&core) {
        let within = path.strip_prefix(&core).unwrap().to_str().unwrap().to_owned();
        let module = within.split('/').next().unwrap().trim_end_matches(".rs");
        if module == "lib" {
            continue;
        }
        let text = fs::read_to_string(&path).unwrap();
        assert!(text.lines().count() <= 300, "{within} is longer than 300 lines");
        let code: Vec<&str> = text.lines().filter(|line| !line.trim().starts_with("//")).collect();
        for name in words_after(&code.join("\n"), "crate::") {
            assert!(!name.is_empty(), "{within}: write a line for each module, not `crate::{{`");
            let other = modules_of_names.get(name).map_or(name, |module| module);
            if other != module {
                found
                    .get_mut(module)
                    .expect("each module is in the table")
                    .insert(other.to_owned());
            }
        }
    }
    for (module, uses) in &found {
        assert_eq!(uses, &expected[module], "what `{module}` uses, and what the table says");
    }
}

#[test]
fn each_package_uses_what_the_table_says() {
    let rows = table("## Packages");
    let short = |name: &str| name.trim_start_matches("lucky-reel-").to_owned();
    let expected = rows_to_arrows(&rows, short);
    for row in &rows {
        let (name, folder) = (short(row[0].trim_matches('`')), row[1].trim_matches('`'));
        let folder = if folder == "src/" { root().to_owned() } else { root().join(folder) };
        let manifest = fs::read_to_string(folder.join("Cargo.toml")).unwrap();
        let (_, dependencies) = manifest.split_once("\n[dependencies]\n").unwrap_or_default();
        let lines = dependencies.lines().take_while(|line| !line.starts_with('['));
        let ours = lines.filter_map(|line| line.split_once(" = ").map(|(name, _)| short(name)));
        let ours: BTreeSet<String> = ours.filter(|name| expected.contains_key(name)).collect();
        assert_eq!(ours, expected[&name], "what `{name}` depends on, and what the table says");
    }
}

#[test]
fn laws_are_where_the_table_says() {
    let core = root().join("crates/core");
    let is_there = |paths: [PathBuf; 2]| paths.iter().any(|path| path.is_file());
    for row in table("## The laws, and where each is kept") {
        for file in listed(&row[1]) {
            let found = is_there([core.join("src").join(&file), root().join(&file)]);
            assert!(found, "{}: there is no {file}", row[0]);
        }
        for test in listed(&row[2]) {
            let found = ["crates/core", "crates/assets", ""]
                .map(|it| root().join(it).join("tests").join(&test));
            assert!(found.iter().any(|path| path.is_file()), "{}: there is no {test}", row[0]);
        }
    }
    for row in table("### From an advance to a footstep and a quad") {
        let text = fs::read_to_string(core.join("src").join(row[1].trim_matches('`'))).unwrap();
        let (_, function) = row[0].trim_matches('`').split_once("::").unwrap();
        let is_there = words_after(&text, "fn ").any(|word| word == function);
        assert!(is_there, "{} is not in {}", row[0], row[1]);
    }
}

/// What stands in backticks in a text, outside code blocks.
fn quoted(text: &str) -> impl Iterator<Item = &str> {
    let prose = text.split("```").step_by(2);
    prose.flat_map(|part| part.split('`').skip(1).step_by(2))
}

/// The documentation at the head of a file of code.
fn head(code: &str) -> String {
    code.lines().map_while(|line| line.strip_prefix("//!")).collect::<Vec<_>>().join("\n")
}

#[test]
fn files_that_are_named_are_there() {
    for (area, heading) in [("assets", "assets"), ("measure", "measuring"), ("tools", "tools")] {
        let folder = root().join("crates").join(area).join("src");
        for row in table(&format!("## Inside the {heading}")) {
            for named in listed(&row[0]) {
                assert!(folder.join(&named).exists(), "{area} has no {named}");
            }
        }
    }
    let packages = ["core", "assets", "canvas", "measure", "tools", "cli"]
        .map(|name| root().join("crates").join(name));
    for path in packages.iter().flat_map(|package| sources(&package.join("src"))) {
        if !path.to_str().unwrap().ends_with("/mod.rs") {
            continue;
        }
        let text = head(&fs::read_to_string(&path).unwrap());
        let folder = path.parent().unwrap();
        let named: BTreeSet<&str> = quoted(&text).filter(|name| name.ends_with(".rs")).collect();
        for name in &named {
            assert!(folder.join(name).is_file(), "{} names {name}", path.display());
        }
        // A table of files has all of them.
        if text.contains("| `") {
            for other in fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().file_name()) {
                let other = other.to_str().unwrap();
                let is_listed = named.contains(other) || other == "mod.rs" || !other.contains('.');
                assert!(is_listed, "the table of {} does not have {other}", path.display());
            }
        }
    }
}

/// The names that stand behind `Type::` in the prose of documentation.
fn members(text: &str) -> impl Iterator<Item = (&str, &str)> {
    quoted(text).filter_map(|name| {
        let (path, member) = name.trim_end_matches("()").rsplit_once("::")?;
        let of = path.rsplit("::").next()?;
        let is_word = |text: &str| text.chars().all(|c| c.is_alphanumeric() || c == '_');
        let is_type = of.starts_with(char::is_uppercase);
        let is_derived = member == "default";
        (is_type && is_word(of) && is_word(member) && !is_derived).then_some((of, member))
    })
}

#[test]
fn members_that_documentation_names_are_there() {
    let mut code = BTreeMap::new();
    for folder in [
        "crates/core/src",
        "crates/assets/src",
        "crates/canvas/src",
        "crates/measure/src",
        "crates/tools/src",
        "crates/cli/src",
        "src",
    ] {
        for path in sources(&root().join(folder))
            .into_iter()
            .filter(|path| path.extension().unwrap() == "rs")
        {
            code.insert(path.clone(), fs::read_to_string(path).unwrap());
        }
    }
    let has = |of: &str, member: &str| {
        code.values().any(|text| {
            let mut types = ["struct ", "enum ", "trait ", "for ", "impl ", "> "];
            types.iter_mut().any(|start| words_after(text, start).any(|word| word == of))
                && ["fn ", "const ", "pub ", "\n    "]
                    .iter()
                    .any(|start| words_after(text, start).any(|word| word == member))
        })
    };
    let mut pages: Vec<PathBuf> =
        ["README.md", "ARCHITECTURE.md", "CHANGELOG.md"].map(|page| root().join(page)).to_vec();
    pages.extend(sources(&root().join("docs/guide")));
    for (path, text) in
        pages.into_iter().map(|path| (path.clone(), fs::read_to_string(path).unwrap()))
    {
        for (of, member) in members(&text) {
            assert!(has(of, member), "{}: there is no `{of}::{member}`", path.display());
        }
    }
    for (path, text) in &code {
        let lines = text
            .lines()
            .map(str::trim)
            .filter_map(|line| line.strip_prefix("//!").or_else(|| line.strip_prefix("///")));
        let docs: Vec<&str> = lines.collect();
        for (of, member) in members(&docs.join("\n")) {
            assert!(has(of, member), "{}: there is no `{of}::{member}`", path.display());
        }
    }
}

/// The names of the packages that a game compiles.
fn packages(features: &[&str]) -> BTreeSet<String> {
    let mut tree = std::process::Command::new(env!("CARGO"));
    tree.args([
        "tree",
        "--quiet",
        "--offline",
        "--package",
        "lucky-reel",
        "--edges",
        "normal,build",
    ]);
    let output =
        tree.args(["--prefix", "none", "--format", "{p}"]).args(features).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let lines = String::from_utf8(output.stdout).unwrap();
    lines.lines().filter_map(|line| Some(line.split_once(' ')?.0.to_owned())).collect()
}

#[test]
fn a_game_compiles_as_many_packages_as_the_readme_says() {
    let readme = fs::read_to_string(root().join("README.md")).unwrap();
    let (_, count) = readme.split_once("a game compiles ").unwrap();
    let count: usize = count.split(' ').next().unwrap().parse().unwrap();
    let compiled = packages(&[]);
    assert_eq!(compiled.len(), count, "{compiled:?}");
    let core = ["lucky-reel", "lucky-reel-core"].map(str::to_owned);
    assert_eq!(packages(&["--no-default-features"]), BTreeSet::from(core), "the core alone");
}
