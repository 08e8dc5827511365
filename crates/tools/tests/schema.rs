//! The JSON form: the schema, an independent validator, and conversions.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use boon::{Compiler, SchemaIndex, Schemas};
use lucky_reel_assets::{LoadError, Loader, Pixels, load_bytes};
use lucky_reel_core::Reel;
use lucky_reel_tools::convert::{Form, SCHEMA, convert};
use serde_json::Value;

struct Validator {
    schemas: Schemas,
    schema: SchemaIndex,
}

impl Validator {
    fn new() -> Validator {
        let (mut schemas, mut compiler) = (Schemas::new(), Compiler::new());
        compiler.add_resource("reel.schema.json", serde_json::from_str(SCHEMA).unwrap()).unwrap();
        let schema = compiler.compile("reel.schema.json", &mut schemas).unwrap();
        Validator { schemas, schema }
    }

    fn check(&self, json: &str) -> Result<(), String> {
        let value = serde_json::from_str(json).unwrap();
        self.schemas.validate(&value, self.schema).map_err(|error| format!("{error:#}"))
    }
}

fn greenhouse() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let files = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path());
    let mut files: Vec<PathBuf> =
        files.filter(|path| path.to_string_lossy().ends_with(".reel.toml")).collect();
    files.sort();
    assert!(files.len() >= 4);
    files
}

/// The demo's files in their JSON form fit the schema, and load as the same reel.
#[test]
fn the_demo_fits_the_schema_in_either_form() {
    let validator = Validator::new();
    for path in greenhouse() {
        let toml = std::fs::read_to_string(&path).unwrap();
        let json = convert(&path, &toml, Form::Json).unwrap();
        validator.check(&json).unwrap();
        let back = convert("x.reel.json", &json, Form::Toml).unwrap();
        assert_eq!(convert("x.reel.toml", &back, Form::Json).unwrap(), json);

        let role = path.file_name().unwrap().to_str().unwrap().split('.').next().unwrap();
        let read = |name: &str| std::fs::read(path.with_file_name(name));
        let load = |ending: &str, text: &str| {
            let art = load_bytes(&format!("{role}.reel.{ending}"), text.as_bytes(), read).unwrap();
            art.reel.fingerprint()
        };
        let prints = [load("toml", &toml), load("json", &json), load("toml", &back)];
        assert_eq!(prints, [prints[0]; 3], "{role}");
    }
}

/// A reel file that has every kind of table.
const SOUND: &str = r##"{
    "reel": 1,
    "sheets": {"moth": {"image": "s.png", "grid": {"cell": [6, 6], "columns": 1, "at": [[1, 1]]}}, "s": {"image": "s.png", "grid": {"cell": [8, 8], "gap": 1}, "transparent": "#ff00ff", "areas": {"body": {"all": [1, 1, 6, 6], "0 to 1": [2, 0, 4.5, 8]}}}},
    "defaults": {"fps": 8, "sheet": "s", "mirror": {"up": "down", "swap": {"step": "step"}}},
    "clips": {
        "walk": {"rows": {"down": 0, "right": 1}, "take": "0 to 1", "marks": {"step": {"holds": 1, "set": {"foot": "left"}}}},
        "blink": {"frames": [0, "1 for 80ms"], "mode": "once", "end": {"play": "walk-down"}, "spans": {"open": 1}}
    },
    "looks": {"frost": {"colors": {"#7a3b2e": "#3b5e7a"}}, "dusk": {"clips": {"walk-down": "walk-right"}}},
    "facings": {"walk": {"left": {"mirror": "right"}, "align": "hold"}},
    "facts": {"moving": false, "lift": 0.0, "hurt": {"pulse": "100ms"}, "foot": {"choices": ["none", "left"]}},
    "cues": [
        {"name": "hurt", "when": [{"hurt": true}, {"lift": "> 1", "inside": "open"}], "play": "blink", "finish": true, "start_at": {"from": "walking", "hold": 1}},
        {"name": "walking", "when": {"moving": true}, "play": {"facings": "walk"}, "speed": {"fact": "lift"}},
        {"name": "resting", "play": "walk-down"}
    ],
    "bridges": [{"name": "turn", "from": "walking", "to": ["resting"], "play": "blink"}],
    "phases": {"legs": {"clips": ["walk-*"]}}
}"##;

/// Loads a reel file over a sheet of 3 x 3 cells.
fn load(text: &str) -> Result<Reel, LoadError> {
    let mut picture = Pixels::new([26, 26]).unwrap();
    picture.rgba_mut().fill(255);
    let picture = picture.to_png();
    Loader::new().bytes("s.reel.json", text.as_bytes(), |_: &str| Ok(picture.clone())).load_reel()
}

/// The keys of every closed table of the schema.
fn tables_of_schema(schema: &Value, found: &mut BTreeSet<BTreeSet<String>>) {
    let inner: Vec<&Value> = match schema {
        Value::Object(keys) => keys.values().collect(),
        Value::Array(list) => list.iter().collect(),
        _ => return,
    };
    inner.into_iter().for_each(|inner| tables_of_schema(inner, found));
    if schema["additionalProperties"] == Value::Bool(false)
        && let Some(keys) = schema["properties"].as_object()
    {
        found.insert(keys.keys().cloned().collect());
    }
}

/// Every table of a document, with an unknown key in it.
fn with_unknown_key(document: &Value, at: &str, found: &mut Vec<Value>, root: &Value) {
    match document {
        Value::Object(keys) => {
            let mut copy = root.clone();
            let table = copy.pointer_mut(at).unwrap().as_object_mut().unwrap();
            table.insert("zzzzzzzzzz".to_owned(), Value::Null);
            found.push(copy);
            for (key, inner) in keys {
                with_unknown_key(inner, &format!("{at}/{key}"), found, root);
            }
        }
        Value::Array(list) => {
            for (nth, inner) in list.iter().enumerate() {
                with_unknown_key(inner, &format!("{at}/{nth}"), found, root);
            }
        }
        _ => {}
    }
}

/// The keys that the loader names where it meets one that it does not know are those of the schema, table by
/// table: none is in one of them alone.
#[test]
fn the_schema_and_the_loader_know_the_same_keys() {
    let mut of_schema = BTreeSet::new();
    tables_of_schema(&serde_json::from_str(SCHEMA).unwrap(), &mut of_schema);
    let sound: Value = serde_json::from_str(SOUND).unwrap();
    let mut documents = Vec::new();
    with_unknown_key(&sound, "", &mut documents, &sound);
    let mut of_loader = BTreeSet::new();
    for document in documents {
        let Err(error) = load(&document.to_string()) else { continue };
        for problem in error.problems() {
            // Tables whose keys are names list none.
            if let Some((_, keys)) = problem.fix().split_once("nown here: ") {
                of_loader.insert(keys.split(", ").map(str::to_owned).collect());
            }
        }
    }
    let only = |a: &BTreeSet<BTreeSet<String>>, b: &BTreeSet<_>| format!("{:?}", a - b);
    assert_eq!(only(&of_schema, &of_loader), "{}", "in the schema alone");
    assert_eq!(only(&of_loader, &of_schema), "{}", "in the loader alone");
    assert!(of_schema.len() > 15);
}

/// What the schema refuses, the loader refuses, too.
#[test]
fn the_schema_refuses_what_the_loader_refuses() {
    let mistakes = [
        ("\"reel\": 1", "\"reel\": 2"),
        ("\"s\": {\"image\"", "\"s\": {\"imag\""),
        ("[8, 8]", "[8]"),
        ("\"gap\": 1", "\"gap\": -1"),
        ("#ff00ff", "magenta"),
        ("[1, 1, 6, 6]", "[1, 1, 6]"),
        ("[2, 0, 4.5, 8]", "[2, 0, 4.5, -8]"),
        ("\"fps\": 8", "\"fps\": 0"),
        ("\"fps\": 8", "\"fps\": 8, \"each\": \"1s\""),
        ("\"once\"", "\"sometimes\""),
        ("{\"play\": \"walk-down\"}, \"spans\"", "{\"go\": \"walk-down\"}, \"spans\""),
        ("{\"mirror\": \"right\"}", "{\"mirror\": \"rigth\"}"),
        ("\"hold\"}", "\"holds\"}"),
        ("\"100ms\"", "\"100 parsecs\""),
        ("\"choices\": [\"none\", \"left\"]", "\"choices\": []"),
        ("{\"up\": \"down\"", "{\"up\": \"dwon\""),
        ("\"#3b5e7a\"", "\"blue\""),
        ("\"finish\": true", "\"finish\": \"yes\""),
        ("{\"fact\": \"lift\"}", "{\"facts\": \"lift\"}"),
        ("\"name\": \"turn\", ", ""),
        ("\"clips\": [\"walk-*\"]", "\"clip\": [\"walk-*\"]"),
        ("\"frames\": [0,", "\"row\": 0, \"frames\": [0,"),
    ];
    let validator = Validator::new();
    validator.check(SOUND).unwrap();
    load(SOUND).unwrap();
    for (sound, mistake) in mistakes {
        assert_eq!(SOUND.matches(sound).count(), 1, "{sound}");
        let text = SOUND.replace(sound, mistake);
        assert!(validator.check(&text).is_err(), "the schema takes {mistake}");
        let error = load(&text).expect_err(mistake);
        assert!(error.problems()[0].line().is_some(), "{error}");
    }
}
