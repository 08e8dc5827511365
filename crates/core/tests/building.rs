//! What a builder makes of names, times and versions.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;

fn ms(millis: u64) -> Ticks {
    Ticks::from_millis(millis)
}

#[test]
fn rates_that_do_not_divide_are_rounded_on_the_running_total() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    let frames = |count| NewClip::of(sheet).frames(std::iter::repeat_n(0, count));
    builder.clip("seventeen", frames(17).fps(17));
    builder.clip(
        "movie",
        frames(24_000)
            .each(ExactTime::from_fraction(u128::from(Ticks::PER_SECOND) * 1_000, 23_976).unwrap()),
    );
    builder.clip("shared", frames(3).hold(0, ms(40)).total(ms(140)));
    let reel = builder.build().unwrap();
    let ticks = |name: &str| {
        let clip = reel.clip(reel.id::<ClipId>(name).unwrap()).unwrap();
        (clip.holds().map(|hold| hold.ticks.get()).collect::<Vec<_>>(), clip.total.get())
    };
    let (holds, total) = ticks("seventeen");
    assert_eq!(total, Ticks::PER_SECOND);
    assert_eq!(
        (holds[0], holds.iter().max(), holds.iter().min()),
        (4_239_529, Some(&4_239_530), Some(&4_239_529))
    );
    // 24,000 frames at 23.976 a second, to the nearest tick.
    assert_eq!(
        ticks("movie").1,
        ((2 * 72_072_000_u128 * 24_000_000 + 23_976) / (2 * 23_976)) as u64
    );
    assert_eq!(ticks("shared"), (vec![2_402_400, 2_402_400, 2_402_400, 2_882_880], 10_090_080));
}

#[test]
fn names_are_found_within_their_roles() {
    let mut builder = Reel::builder();
    for role in ["bram", "moth"] {
        builder.role(role);
        let sheet = builder.sheet("body", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
        builder.clip("idle", NewClip::of(sheet).frames([0]).fps(1).mark("beat", [0]));
        builder.clip(format!("{role}-hop"), NewClip::of(sheet).frames([0]).fps(1));
    }
    let reel = builder.build().unwrap();
    let moth: ClipId = reel.id("moth/idle").unwrap();
    assert_eq!((reel.role_name(moth), reel.name(moth)), ("moth", "idle"));
    assert_eq!(reel.id::<ClipId>("moth-hop"), reel.id::<ClipId>("moth/moth-hop"));
    assert_ne!(reel.id::<MarkId>("bram/beat"), reel.id::<MarkId>("moth/beat"));
    let message = |name: &str| reel.id::<ClipId>(name).unwrap_err().to_string();
    assert_eq!(message("idle"), "several roles have a clip `idle`: say `bram/idle` or `moth/idle`");
    assert_eq!(message("mot-hop"), "there is no clip `mot-hop`: did you mean `moth-hop`?");
    assert!(
        message("bram/walk").contains("did you mean")
            || message("bram/walk").contains("nor a similar")
    );
    assert_eq!(reel.id::<ClipId>("mot-hop").unwrap_err().near(), Some("moth-hop"));
    assert!(reel.id::<SpanId>("open").unwrap_err().to_string().contains("the reel has no span"));
}
