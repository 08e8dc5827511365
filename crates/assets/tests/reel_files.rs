//! What a sound reel file means.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Art, LoadError, Loader, Pixels, load_all, load_bytes, load_reel};
use lucky_reel_core::{
    AreaId, Clip, ClipEnd, ClipId, DataKey, Event, ExactTime, LookId, LookSet, Mode, Placement,
    Player, PointId, Ticks, View,
};

/// 8 columns, 4 rows; the last two cells of row 1 and all of row 3 are empty.
fn sheet() -> Pixels {
    let mut picture = Pixels::new([64, 32]).unwrap();
    for cell in (0..24).filter(|cell| ![14, 15].contains(cell)) {
        picture.set_pixel([cell % 8 * 8 + 3, cell / 8 * 8 + 3], [200, 180, 90, 255]);
    }
    picture
}

fn load(clips: &str) -> Art {
    try_load(clips).unwrap()
}

fn try_load(clips: &str) -> Result<Art, LoadError> {
    let text =
        format!("reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n{clips}");
    load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(sheet().to_png()))
}

/// Frames and times of a clip, in milliseconds.
fn holds(art: &Art, name: &str) -> (Vec<u32>, Vec<f64>) {
    clip(art, name)
        .holds()
        .map(|hold| (art.reel.frame(hold.frame).unwrap().index, hold.ticks.as_millis_f64()))
        .unzip()
}

fn clip<'a>(art: &'a Art, name: &str) -> Clip<'a> {
    art.reel.clip(art.reel.id::<ClipId>(name).unwrap()).unwrap()
}

#[test]
fn frames_are_listed_taken_and_left_out() {
    let art = load(
        r#"
        [defaults]
        fps = 10
        [clips.list]
        frames = [4, "5 for 80ms", "4 to 2", "0 to 1 for 20ms"]
        [clips.every]
        frames = "all"
        "#,
    );
    assert_eq!(
        holds(&art, "list"),
        (vec![4, 5, 4, 3, 2, 0, 1], vec![100., 80., 100., 100., 100., 20., 20.])
    );
    assert_eq!(holds(&art, "every").0, (0..32).collect::<Vec<_>>());

    let art = load(
        r#"
        [defaults]
        fps = 10
        [clips.row]
        row = 1
        [clips.column]
        column = 6
        [clips.some]
        row = 1
        take = [5, "2 to 0", "3 for 7ms"]
        [clips.turn]
        rows = { down = 0, up = 2 }
        take = "1 to 2"
        "#,
    );
    assert_eq!(
        holds(&art, "row").0,
        (8..14).collect::<Vec<_>>(),
        "empty cells at its end are left out"
    );
    assert_eq!(holds(&art, "column").0, [6, 14, 22], "but those in between are not");
    assert_eq!(holds(&art, "some"), (vec![13, 10, 9, 8, 11], vec![100., 100., 100., 100., 7.]));
    assert_eq!(holds(&art, "turn-down").0, [1, 2]);
    assert_eq!(holds(&art, "turn-up").0, [17, 18]);
}

/// A still stands, whatever `[defaults]` says of the clips that move.
#[test]
fn a_still_stands_whatever_the_defaults_say() {
    let times = ["fps = 10", "each = \"90ms\"", "total = \"1s\""];
    let modes = ["", "mode = \"once\"", "mode = \"ping-pong\"", "repeat = 3"];
    for (time, mode) in times.iter().flat_map(|time| modes.map(|mode| (time, mode))) {
        let is_finite = mode.contains("once") || mode.contains("repeat");
        for end in ["", "end = \"vanish\""].iter().take(1 + usize::from(is_finite)) {
            let art = load(&format!(
                "[defaults]\n{time}\n{mode}\n{end}\n[clips.still]\nframes = 3\n\
                 [clips.walk]\nframes = \"0 to 2\"\n[clips.twin]\nlike = \"still\"\nframes = 4\n"
            ));
            for name in ["still", "twin"] {
                assert!(clip(&art, name).is_still, "{time}, {mode}, {end}");
            }
            assert_eq!(clip(&art, "walk").repeat.is_some(), is_finite);
        }
    }
    // What it says itself counts.
    let art = load("[defaults]\nfps = 10\n[clips.once]\nframes = 3\nmode = \"once\"\n");
    assert_eq!(clip(&art, "once").repeat, Some(1));
}

#[test]
fn times_are_said_in_four_ways() {
    let art = load(
        r#"
        [clips.rate]
        frames = "0 to 2"
        fps = 12.5
        [clips.each]
        frames = "0 to 2"
        each = "1/12s"
        [clips.list]
        frames = [0, "1 for 5ms", 2]
        each = ["90ms", "12cs"]
        [clips.total]
        frames = [0, "1 for 400ms", 2]
        total = "1s"
        [clips.uneven]
        frames = "0 to 2"
        fps = 17
        "#,
    );
    assert_eq!(holds(&art, "rate").1, [80., 80., 80.]);
    assert_eq!(clip(&art, "each").total, Ticks::from_millis(250));
    assert_eq!(holds(&art, "list").1, [90., 5., 120.]);
    assert_eq!(holds(&art, "total").1, [300., 400., 300.]);
    let three = ExactTime::from_fraction(3 * 72_072_000, 17).unwrap();
    assert_eq!(clip(&art, "uneven").total, three.to_ticks());
}

#[test]
fn a_clip_takes_over_what_it_does_not_say() {
    let art = load(
        r#"
        [defaults]
        fps = 10
        mode = "once"
        end = "vanish"
        [clips.walk]
        rows = { down = 0, up = 2 }
        take = "0 to 3"
        mode = "ping-pong"
        repeat = 3
        marks = { step = [1, "2 to 3"] }
        spans = { open = "1 to 2", late = 3 }
        rest = 2
        end = { play = "stand" }
        [clips.run]
        like = "walk"
        each = "50ms"
        [clips.stand]
        like = "walk"
        take = "4 to 7"
        mode = "loop"
        [clips.bow]
        like = "walk-up"
        mode = "once"
        end = "first"
        [clips.wave]
        like = "bow"
        frames = [9, 8, 9, 8]
        [clips.nod]
        like = "stand-up"
        [clips.glow]
        frames = [1, 2]
        mode = "loop"
        "#,
    );
    let run = clip(&art, "run-up");
    assert_eq!(holds(&art, "run-up"), (vec![16, 17, 18, 19], vec![50.; 4]));
    assert_eq!((run.mode, run.repeat, run.rest), (Mode::PingPong, Some(3), 2));
    let next = |name: &str| match clip(&art, name).end {
        ClipEnd::Play(next) => art.reel.name(next).to_owned(),
        other => format!("{other:?}"),
    };
    assert_eq!(next("run-up"), "stand-up", "a clip of a row goes on to the clip of that row");
    assert_eq!(next("walk-down"), "stand-down");
    // Three cycles still hold for a loop; for a clip that plays once they fall away.
    assert_eq!(clip(&art, "stand-down").repeat, Some(3));
    assert_eq!((clip(&art, "bow").repeat, clip(&art, "bow").end), (Some(1), ClipEnd::First));
    assert_eq!(holds(&art, "bow").0, [16, 17, 18, 19]);
    assert_eq!(holds(&art, "nod").0, [20, 21, 22, 23], "of a row that was taken over itself");
    assert_eq!((holds(&art, "wave").0, next("wave")), (vec![9, 8, 9, 8], "First".to_owned()));
    // The end of the defaults falls away where nothing ends.
    assert_eq!((clip(&art, "glow").repeat, clip(&art, "glow").end), (None, ClipEnd::Stay));
    let marks: Vec<u32> = clip(&art, "walk-up").marks().map(|at| at.hold).collect();
    assert_eq!(marks, [1, 2, 3]);
    let name = |span| art.reel.name(span);
    let spans: Vec<_> = clip(&art, "walk-up")
        .spans()
        .map(|span| (name(span.span), span.first, span.last))
        .collect();
    assert_eq!(spans, [("open", 1, 2), ("late", 3, 3)]);
}

#[test]
fn files_become_roles_of_one_reel() {
    let text = b"reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [8, 8] }\n[clips.idle]\nrow = 0\nfps = 2\n";
    let read = |_: &str| Ok(sheet().to_png());
    let two =
        || Loader::new().bytes("bram.reel.toml", text, read).bytes("moth.reel.toml", text, read);
    let art = two().load().unwrap();
    assert_eq!(art.images.len(), 2);
    assert!(art.reel.id::<ClipId>("idle").is_err());
    let moth: ClipId = art.reel.id("moth/idle").unwrap();
    let frame = art.reel.clip(moth).unwrap().holds().next().unwrap().frame;
    assert_eq!(art.reel.frame(frame).unwrap().image.index(), 1);

    // Without pixels the same clips come out, although their rows must be looked at.
    assert_eq!(two().load_reel().unwrap().fingerprint(), art.reel.fingerprint());
    let next = two().reload(&art.reel).unwrap();
    assert_eq!(next.reel.id::<ClipId>("moth/idle"), Ok(moth));
}

#[test]
fn the_demo_loads_from_disk_with_and_without_pixels() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    let files = || ["bram", "tiles", "puff"].map(|name| format!("{folder}/{name}.reel.toml"));
    let art = load_all(files()).unwrap();
    assert_eq!(load_reel(files()).unwrap().fingerprint(), art.reel.fingerprint());
    assert_eq!(art.images.len(), art.reel.images().len());
    let facings = ["down", "up", "right", "left"]
        .map(|facing| art.reel.id::<ClipId>(&format!("walk-{facing}")));
    assert!(facings.iter().all(Result::is_ok));
    for (index, image) in art.images.iter().enumerate() {
        // Every picture is seen: by day in the clips themselves, at dusk in the look.
        let mut worn = LookSet::NOTHING;
        worn.wear(&art.reel, art.reel.id::<LookId>("dusk").unwrap()).unwrap();
        let views = art.reel.clips().flat_map(|clip| {
            let mut player = Player::new(&art.reel, clip.id);
            let views = (0..clip.holds().len() as u32).flat_map(|hold| {
                player.seek_hold(&art.reel, hold);
                [player.view(&art.reel).unwrap(), player.view_with(&art.reel, &worn).unwrap()]
            });
            views.collect::<Vec<_>>()
        });
        let own: Vec<_> = views.filter(|view| view.frame.image.index() == index).collect();
        assert!(!own.is_empty() && own.iter().all(|frame| !image.is_empty_at(frame.frame.source)));
    }
}

#[test]
fn points_and_pivots_are_given_by_sheet_clip_and_frame() {
    let art = load(
        r#"
        pivot = "bottom"
        pivots = { 2 = "top-left" }
        points = { lantern = { 1 = [6, 2.5], 2 = [0, 0] } }
        [sheets.large]
        image = "s.png"
        grid = { cell = [16, 16] }
        [defaults]
        sheet = "s"
        fps = 4
        [clips.plain]
        frames = "0 to 2"
        [clips.own]
        like = "plain"
        pivot = [1, 1]
        [clips.large]
        sheet = "large"
        frames = [0]
        "#,
    );
    let pivots = |name: &str| -> Vec<[f32; 2]> {
        clip(&art, name).holds().map(|hold| art.reel.frame(hold.frame).unwrap().pivot()).collect()
    };
    assert_eq!(pivots("plain"), [[4.0, 8.0], [4.0, 8.0], [0.0, 0.0]]);
    assert_eq!(pivots("own"), [[1.0, 1.0], [1.0, 1.0], [0.0, 0.0]]);
    assert_eq!((pivots("large"), art.images.len()), (vec![[8.0, 8.0]], 1), "one image, cut twice");

    let lantern: PointId = art.reel.id("lantern").unwrap();
    let points = |name: &str| -> Vec<Option<[f32; 2]>> {
        let mut player = Player::new(&art.reel, art.reel.id(name).unwrap());
        let points = (0..3).map(|hold| {
            player.seek_hold(&art.reel, hold);
            player.view(&art.reel).unwrap().point(lantern)
        });
        points.collect()
    };
    assert_eq!(points("plain"), [None, Some([2.0, -5.5]), Some([0.0, 0.0])]);
    assert_eq!(points("own"), [None, Some([5.0, 1.5]), Some([0.0, 0.0])]);
}

#[test]
fn areas_are_given_by_frame_range_region_and_all() {
    let text = r#"
        reel = 1
        [sheets.s]
        image = "s.png"
        cutouts = { stand = [0, 0, 8, 8], crouch = [8, 2, 8, 6], jump = [4, 4, 4, 4] }
        areas = { body = { all = [1, 0, 6, 8], crouch = [1, 2.5, 6, 3.5] }, reach = { "1 to 2" = [6, 1, 4, 2], 2 = [0, 0, 1, 1] } }
        [looks.dusk]
        sheets = { s = "s.png" }
        [clips.c]
        frames = ["stand", "crouch", "jump"]
        fps = 4
    "#;
    let read = |_: &str| Ok(sheet().to_png());
    let art = load_bytes("bram.reel.toml", text.as_bytes(), read).unwrap();
    let (body, reach) =
        (art.reel.id::<AreaId>("body").unwrap(), art.reel.id::<AreaId>("reach").unwrap());
    assert!(
        art.reel.id::<AreaId>("raech").unwrap_err().to_string().contains("did you mean `reach`")
    );
    let mut player = Player::new(&art.reel, art.reel.id("c").unwrap());
    let mut looks = LookSet::default();
    looks.wear(&art.reel, art.reel.id::<LookId>("dusk").unwrap()).unwrap();
    let area = |view: Option<View<'_>>, id| {
        let view = view.unwrap();
        let [x, y] = view.frame.pivot();
        let area = view.area(id, Placement::at([x, y]))?;
        Some(area.bounds())
    };
    let all: Vec<_> = (0..3)
        .map(|hold| {
            player.seek_hold(&art.reel, hold);
            let bounds = [body, reach].map(|id| area(player.view(&art.reel), id));
            let dressed = [body, reach].map(|id| area(player.view_with(&art.reel, &looks), id));
            assert_eq!(bounds, dressed, "a look has the areas of its sheet");
            bounds
        })
        .collect();
    let rect = |left, top, right, bottom| Some([[left, top], [right, bottom]]);
    assert_eq!(all[0], [rect(1.0, 0.0, 7.0, 8.0), None]);
    assert_eq!(all[1], [rect(1.0, 2.5, 7.0, 6.0), rect(6.0, 1.0, 10.0, 3.0)]);
    assert_eq!(all[2], [rect(1.0, 0.0, 7.0, 8.0), rect(0.0, 0.0, 1.0, 1.0)]);
}

/// What marks carry, as a file says it: for all holds of a mark, or different at different holds.
#[test]
fn marks_carry_data() {
    let text = |loud: &str, more: &str| {
        format!(
            "[clips.swing]\nframes = \"0 to 5\"\nfps = 10\n[clips.swing.marks]\n\
             step = [0, 5]\n\
             hit = {{ holds = \"1 to 2\", data = {{ damage = 5, sound = \"thud\", loud = {loud}, deep = true }} }}\n\
             cut = [{{ holds = 3, data = {{ damage = 2 }} }}, {{ holds = [4, 5], data = {{ damage = -7 }} }}]\n\
             [clips.again]\nlike = \"swing\"\n{more}"
        )
    };
    let read = |art: &Art, clip: &str| {
        let reel = &art.reel;
        let (damage, sound): (DataKey<i32>, DataKey<str>) =
            (reel.id("damage").unwrap(), reel.id("sound").unwrap());
        let loud: DataKey<f32> = reel.id("loud").unwrap();
        let mut player = Player::new(reel, reel.id(clip).unwrap());
        let events: Vec<_> = player.advance(reel, Ticks::from_millis(599)).collect();
        let marks = events.into_iter().filter(|event| event.mark().is_some());
        let line = |event: Event| {
            let texts = (event.get(reel, sound), event.get(reel, loud));
            (event.hold, event.get(reel, damage), texts.0.map(str::to_owned), texts.1)
        };
        marks.map(line).collect::<Vec<_>>()
    };
    let thud = |hold, loud| (hold, Some(5), Some("thud".to_owned()), Some(loud));
    let plain = |hold, damage| (hold, damage, None, None);
    let art = load(&text("0.75", ""));
    let wanted = |loud| {
        vec![
            plain(0, None),
            thud(1, loud),
            thud(2, loud),
            plain(3, Some(2)),
            plain(4, Some(-7)),
            plain(5, Some(-7)),
            plain(5, None),
        ]
    };
    assert_eq!(read(&art, "swing"), wanted(0.75));
    assert_eq!(read(&art, "again"), wanted(0.75), "taken over from another clip");

    let wrong = |text: &str| try_load(text).expect_err("it is refused").to_string();
    let report = wrong(&text(
        "1",
        "[clips.third]\nlike = \"swing\"\nmarks = { hit = { holds = 0, data = { loud = 0.5 } } }\n",
    ));
    assert!(report.contains("the data `loud` is a whole number, and cannot be `0.5`"), "{report}");
    assert!(report.contains("clips.third.marks.hit.data.loud"), "{report}");
    let report = wrong(&text("[1, 2]", ""));
    assert!(report.contains("true or false, a number or a text"), "{report}");
    let report =
        wrong("[clips.swing]\nframes = 0\nmarks = { hit = { holds = 0, date = 1, data = 5 } }\n");
    assert!(report.contains("did you mean `data`?") && report.contains("damage = 5"), "{report}");
}
