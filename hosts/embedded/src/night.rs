//! A night of one second: Bram walks, a fan turns, moths flutter.

use alloc::boxed::Box;
use core::error::Error;
use core::fmt::Write;

use lucky_reel_core::{
    ClipEnd, Crowd, EventBuffer, EventMask, Flips, Grid, Mode, NewClip, NewMember, NewSheet,
    Placement, Player, Reel, Ticks,
};

/// Plays it at 30 updates a second, and prints what happens; `heap` says how many bytes are in use.
pub fn play(out: &mut impl Write, heap: impl Fn() -> usize) -> Result<(), Box<dyn Error>> {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("bram", NewSheet::grid([256, 128], Grid::cell_size([32, 32])));
    let walk = NewClip::of(sheet).frames(0..8).fps(12).mark("step", [1, 5]);
    let walk = builder.clip("walk", walk);
    let land = NewClip::of(sheet).frames(8..12).each(Ticks::from_millis(70)).mode(Mode::Once);
    let land = builder.clip("land", land.end(ClipEnd::Play("walk".into())));
    let fan = NewClip::of(sheet).frames(12..16).fps(20).mode(Mode::PingPong);
    let fan = builder.clip("fan", fan);
    let flutter = builder.clip("flutter", NewClip::of(sheet).frames(16..32).fps(24));
    let reel = builder.build()?;
    let with_reel = heap();

    let mut bram = Player::new(&reel, land);
    let mut turning = Player::new(&reel, fan);
    let mut moths = Crowd::new(&reel);
    for moth in 0..16 {
        moths.spawn(NewMember::playing(flutter).random_start(7, moth))?;
    }
    let mut events = EventBuffer::new();
    let with_crowd = heap();

    let (dt, mut now, mut cycles) = (Ticks::from_rate(30), Ticks::ZERO, 0);
    for _ in 0..30 {
        for event in bram.advance(&reel, dt) {
            let at = now + event.at;
            writeln!(out, "{at}: {} hold {} {:?}", reel.name(event.clip), event.hold, event.kind)?;
        }
        turning.advance(&reel, dt);
        moths.advance_into(dt, EventMask::CYCLES, &mut events);
        cycles += events.iter().count();
        now += dt;
    }
    for player in [&bram, &turning] {
        if let Some(view) = player.view(&reel) {
            let mut view = view;
            view.flips = Flips::X;
            let quad = view.quad(Placement::at([100.0, 80.0]));
            writeln!(out, "{}: {:?} {:?}", reel.name(player.clip()), quad.corners[0], quad.uv[0])?;
        }
    }
    writeln!(out, "16 moths: {cycles} cycles; walks: {}", bram.clip() == walk)?;
    writeln!(
        out,
        "heap: {with_reel} bytes for a reel of 32 frames, {} for the moths",
        with_crowd - with_reel
    )?;
    Ok(())
}
