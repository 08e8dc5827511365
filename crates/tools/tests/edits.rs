//! A duration is changed in a reel file, and nothing else is.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;
use std::path::Path;

use lucky_reel_assets::document::Form;
use lucky_reel_assets::parse_time;
use lucky_reel_assets::{Pixels, load_bytes};
use lucky_reel_core::{ClipId, Ticks};
use lucky_reel_tools::edit::{duration_text, set_hold};
use proptest::prelude::*;

/// The holds of all clips of a reel file over a sheet of 8 by 4 cells.
fn holds(text: &str, form: Form) -> Result<BTreeMap<String, Vec<Ticks>>, String> {
    let mut picture = Pixels::new([64, 32]).unwrap();
    picture.rgba_mut().fill(255);
    let name = if form == Form::Toml { "bram.reel.toml" } else { "bram.reel.json" };
    let art = load_bytes(name, text.as_bytes(), |_| Ok(picture.to_png()));
    let art = art.map_err(|error| error.to_string())?;
    let clip = |clip: lucky_reel_core::Clip<'_>| {
        (clip.name.to_owned(), clip.holds().map(|hold| hold.ticks).collect())
    };
    Ok(art.reel.clips().map(clip).collect())
}

fn duration() -> impl Strategy<Value = String> {
    prop_oneof![
        (1_u32..900).prop_map(|ms| format!("{ms}ms")),
        (1_u32..90).prop_map(|refreshes| format!("{refreshes}/60s")),
        (1_u32..9).prop_map(|tenths| format!("0.{tenths}s")),
        (1_u32..90_000_000).prop_map(|ticks| format!("{ticks}t")),
        (1_u32..90).prop_map(|cs| format!("{cs}cs")),
    ]
}

/// `frames` or `take`, and how many holds without a time of their own it makes.
fn listed() -> impl Strategy<Value = (String, usize)> {
    let item = (0_u32..8, 0_u32..8, prop::option::of(duration()), any::<bool>());
    prop::collection::vec(item, 1..4).prop_map(|items| {
        let mut open = 0;
        let written = items.iter().map(|(from, to, time, range)| {
            let numbers = if *range { format!("{from} to {to}") } else { from.to_string() };
            let count = if *range { from.abs_diff(*to) + 1 } else { 1 };
            open += if time.is_some() { 0 } else { count as usize };
            match time {
                Some(time) => format!("\"{numbers} for {time}\""),
                None if *range => format!("\"{numbers}\""),
                None => numbers,
            }
        });
        let written: Vec<String> = written.collect();
        match &written[..] {
            [only] => (only.clone(), open),
            _ => (format!("[{}]", written.join(", ")), open),
        }
    })
}

/// How the open holds get their times; by the defaults, too.
fn times(open: usize) -> BoxedStrategy<String> {
    let list = prop::collection::vec(duration(), open).prop_map(|list| {
        let list: Vec<String> = list.iter().map(|time| format!("\"{time}\"")).collect();
        format!("each = [{}]  # by hand\n", list.join(", "))
    });
    let one = prop_oneof![
        duration().prop_map(|time| format!("each   = \"{time}\" # all the same\n")),
        prop::sample::select(vec!["8", "12", "24", "60", "7"])
            .prop_map(|fps| format!("fps = {fps}\n")),
        Just("total = \"9000s\"\n".to_owned()),
        Just(String::new()),
    ];
    match open {
        0 => Just(String::new()).boxed(),
        _ => prop_oneof![list, one].boxed(),
    }
}

fn clip(name: &'static str) -> impl Strategy<Value = String> {
    let frames = (listed(), 0..4_usize).prop_flat_map(|((list, open), kind)| {
        let times = times(if kind == 3 { 8 } else { open });
        times.prop_map(move |times| match kind {
            0 => format!("{times}frames = {list}   # these\n"),
            1 => format!("row = 2\n{times}take = {list}\n"),
            2 => format!("rows = {{ down = 0, up = 1 }}\ntake = {list}\n{times}"),
            _ => format!("row = 1 # all of it\n{times}"),
        })
    });
    let mode = prop::sample::select(vec!["", "mode = \"once\"\n", "mode = \"ping-pong\"\n"]);
    (frames, mode, any::<bool>()).prop_map(move |(frames, mode, inline)| match inline {
        false => format!("\n[clips.{name}] # the clip {name}\n{frames}{mode}"),
        true => {
            let lines = format!("{frames}{mode}");
            let keys = lines.lines().map(|line| format!("{name}.{line}\n"));
            format!("\n[clips]\n{}", keys.collect::<String>())
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 600, ..ProptestConfig::default() })]

    #[test]
    fn one_duration_changes_and_nothing_else(
        (one, other) in (clip("one"), clip("other")),
        like in prop::option::of(prop::sample::select(vec!["", "each = \"77ms\"\n"])),
        (nth, hold, new) in (any::<prop::sample::Index>(), any::<prop::sample::Index>(), duration()),
        [has_last, crlf, ends] in any::<[bool; 3]>(),
    ) {
        // Two tables [clips] would be one too many.
        prop_assume!(one.matches("[clips]").count() + other.matches("[clips]").count() < 2);
        let (first, second) = match other.contains("[clips]") { true => (&other, &one), false => (&one, &other) };
        let like = like.map(|times| format!("\n[clips.again]\nlike = \"one\"\n{times}")).unwrap_or_default();
        let text = format!(
            "# night\nreel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n\
             [defaults]\nfps = 12\n{first}{second}{like}{}",
            if has_last { "\n[clips.last]\nframes = [0, 1]  # untouched\neach = \"5ms\"\n" } else { "" },
        );
        // As other systems and other editors end lines, and files.
        let text = if ends { text } else { text.trim_end().to_owned() };
        let text = if crlf { text.replace('\n', "\r\n") } else { text };
        let Ok(before) = holds(&text, Form::Toml) else { return Ok(()) };
        let duration = parse_time(&new).unwrap().to_ticks();
        let names: Vec<&String> = before.keys().collect();
        let name = *nth.get(&names);
        let hold = hold.index(before[name].len());
        let now = &before[name];
        prop_assume!(now[hold] > Ticks::ZERO); // a still stands, and has no time
        let edited = set_hold(&text, Form::Toml, (name, hold), duration, now).unwrap();
        let after = holds(&edited, Form::Toml);
        let after = after.unwrap_or_else(|error| panic!("{error}\nof\n{edited}\nfrom\n{text}"));

        // To a tick, as sums are rounded where a rate does not divide.
        let near = |a: Ticks, b: Ticks| a.get().abs_diff(b.get()) <= 1;
        for (at, (old, new)) in now.iter().zip(&after[name]).enumerate() {
            let wanted = if at == hold { duration } else { *old };
            prop_assert!(near(wanted, *new), "hold {at} of {name}: {wanted:?}, {new:?}\n{text}\n{edited}");
        }
        // Whoever shares the times changes with it; nobody else.
        let entry = |name: &str| name.split('-').next().unwrap().to_owned();
        for (other, old) in &before {
            let shares = entry(other) == entry(name) || (entry(other) == "again" && entry(name) == "one");
            prop_assert!(shares || &after[other] == old, "{other} changed with {name}\n{text}\n{edited}");
            prop_assert_eq!(after[other].len(), old.len());
        }
        let lone = edited.replace("\r\n", "");
        prop_assert!(if crlf { !lone.contains('\n') } else { !edited.contains('\r') }, "{edited:?}");
        prop_assert_eq!(edited.ends_with('\n'), ends);
        // Comments stay, and so does every line that does not say frames or times.
        for line in text.lines() {
            let kept = edited.lines().any(|other| other == line);
            let named = ["frames", "take", "each", "fps", "total"].iter().any(|key| line.contains(key));
            let comment = line.split_once('#').map_or("", |(_, comment)| comment);
            prop_assert!(kept || named && edited.contains(comment), "lost: {line}\n{text}\n{edited}");
        }
    }

    #[test]
    fn durations_read_back_exactly(ticks in 1_u64..1 << 47, like in prop_oneof![duration(), Just(String::new())]) {
        let text = duration_text(Ticks::new(ticks), &like);
        prop_assert_eq!(parse_time(&text).unwrap(), Ticks::new(ticks).into());
    }

    /// A frame rate that people name is written as they write it.
    #[test]
    fn frame_rates_are_written_as_fractions(rate in 1_u32..=240) {
        let time = Ticks::from_rate(rate);
        if time.get() * u64::from(rate) == Ticks::PER_SECOND {
            let text = duration_text(time, "");
            prop_assert!(text == format!("1/{rate}s") || text.ends_with("ms"), "{text}");
            prop_assert_eq!(duration_text(time, "1/7t"), text);
        }
    }
}

#[test]
fn the_demo_is_edited_as_its_author_would() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse/bram.reel.toml");
    let text = std::fs::read_to_string(&demo).unwrap();
    let reel = lucky_reel_assets::load_reel([&demo]).unwrap();
    let edited = |clip: &str, hold, millis| {
        let holds: Vec<Ticks> = reel
            .clip(reel.id::<ClipId>(clip).unwrap())
            .unwrap()
            .holds()
            .map(|hold| hold.ticks)
            .collect();
        set_hold(&text, Form::Toml, (clip, hold), Ticks::from_millis(millis), &holds).unwrap()
    };
    let change = |from: &str, to: &str| {
        assert_eq!(text.matches(from).count(), 1, "{from}");
        text.replace(from, to)
    };
    // One of a list; the comment behind it stays.
    let wanted = change("\"140ms\", \"110ms\", \"140ms\"]", "\"140ms\", \"130ms\", \"140ms\"]");
    assert_eq!(edited("walk-left", 2, 130), wanted);
    // One for all becomes a list.
    let wanted = change("each   = \"80ms\"", "each   = [\"80ms\", \"90ms\", \"80ms\", \"80ms\"]");
    assert_eq!(edited("hurry-down", 1, 90), wanted);
    // A frame's own time.
    let wanted = change("\"5 for 350ms\"", "\"5 for 360ms\"");
    assert_eq!(edited("idle-up", 1, 360), wanted);
    let refused = set_hold(&text, Form::Toml, ("wlak", 0), Ticks::new(1), &[Ticks::new(2)]);
    assert_eq!(refused.unwrap_err().message, "the text has no clip `wlak`");
}

#[test]
fn json_keeps_its_layout_too() {
    let text = "{\n  \"reel\": 1,\n  \"sheets\": { \"s\": { \"image\": \"s.png\", \"grid\": { \"cell\": [8, 8] } } },\n  \
                \"clips\": {\n    \"a\": { \"frames\": \"0 to 1\",  \"fps\": 8 },\n    \"b\": {\n      \"like\": \"a\"\n    }\n  }\n}\n";
    let before = holds(text, Form::Json).unwrap();
    let new = Ticks::from_millis(140);
    let edited = set_hold(text, Form::Json, ("a", 0), new, &before["a"]).unwrap();
    assert_eq!(edited, text.replace("\"fps\": 8", "\"each\": [\"140ms\", \"125ms\"]"));
    assert_eq!(holds(&edited, Form::Json).unwrap()["b"][0], new);
    let edited = set_hold(text, Form::Json, ("b", 1), new, &before["b"]).unwrap();
    let wanted = "\"like\": \"a\",\n      \"each\": [\"125ms\", \"140ms\"]";
    assert_eq!(edited, text.replace("\"like\": \"a\"", wanted));
}
