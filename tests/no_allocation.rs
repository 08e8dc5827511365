//! Advance, events, view and look-up of players and actors do not allocate.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{crowd::*, cue::*, id::*, reel::*, view::*, *};

#[global_allocator]
static ALLOCATOR: dhat::Alloc = dhat::Alloc;

fn main() {
    let _profiler = dhat::Profiler::builder().testing().build();
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let leap = NewClip::of(sheet).frames(0..8).fps(24).mode(Mode::Once).mark("m", [1, 4]);
    let leap = builder.clip("leap", leap.end(ClipEnd::Play("glow".into())).span("air", 2..=5));
    let glow = NewClip::of(sheet).frames(0..8).fps(30).mode(Mode::PingPong).repeat(2);
    builder.clip("glow", glow.end(ClipEnd::Play("leap".into())));
    builder.fact("moving", false);
    builder.fact("pace", 1.0);
    builder.fact("hurt", NewFact::pulse());
    builder.cue("hurt", NewCue::play("leap").when(Condition::new().fact("hurt", true)).finish());
    let quick = NewCue::play("glow").when(Condition::new().fact("moving", true)).speed_from("pace");
    builder.cue("moving", quick);
    builder.cue("resting", NewCue::play("leap"));
    builder.bridge("slow", NewBridge::play("leap").between(["moving"], ["resting"]));
    let dusk = builder.look("dusk", NewLook::new().clip("leap", "glow"));
    let reel = builder.build().unwrap();
    let (moving, pace) = (reel.id("moving").unwrap(), reel.id("pace").unwrap());
    let hurt = reel.id("hurt").unwrap();
    let mut actor = Actor::new(&reel, reel.id("").unwrap());
    let air: SpanId = reel.id("air").unwrap();
    let mut player = Player::new(&reel, leap);

    let mut crowd = Crowd::new(&reel);
    let members: Vec<MemberId> = (0..300)
        .filter_map(|id| crowd.spawn(NewMember::playing(leap).random_start(1, id)).ok())
        .collect();
    let in_crowd = crowd.spawn(reel.id::<RoleId>("").unwrap()).unwrap();
    let (writer, mut reported) = (InstanceWriter::new(&reel), EventBuffer::new());
    let mut instances: Vec<Instance> = Vec::with_capacity(512);
    let mut list = DrawList::by_y();
    let saved = crowd.clone();
    let mut update_crowd = |update: i16| {
        crowd.restart(members[update as usize % 300]);
        crowd.set_fact(in_crowd, moving, update % 200 < 100).unwrap();
        crowd.advance_into(Ticks::from_millis(33), EventMask::ALL, &mut reported);
        instances.clear();
        list.clear();
        crowd.instances(&writer).write(&mut list, |member| {
            let wanders = update.wrapping_mul(member.index() as i16 % 9);
            Placement::at([0.0, f32::from(wanders)]).scaled(f32::from(update % 2) + 1.0)
        });
        list.write(&writer, &mut instances).unwrap();
        if update % 500 == 499 {
            crowd.clone_from(&saved);
        }
        if update % 7 == 0 && crowd.remove(members[0]) == 1 {
            crowd.spawn(leap).unwrap();
        }
        reported.iter().select(EventMask::MARKS).count() + instances.len()
    };
    // Buffers grow to what is needed.
    let mut events: usize = (0..1_000).map(&mut update_crowd).sum();

    let before = dhat::HeapStats::get().total_blocks;
    let mut seen = 0.0;
    for update in 0_i16..2_000 {
        if update % 97 == 0 {
            player.set_speed(Speed::from_ratio(i32::from(update) - 900, 100).unwrap());
        }
        events += player.advance(&reel, Ticks::from_millis(33)).count();
        events += usize::from(player.in_span(&reel, air));
        if let Some(view) = player.view(&reel) {
            seen += view.quad(Placement::at([3.0, 4.0]).rotated(0.5)).corners[0][0];
            seen += view.blit([3, 4], 2).at[0] as f32;
        }
        actor.set(moving, update % 200 < 100).unwrap();
        actor.set(pace, f32::from(update % 7)).unwrap();
        if update % 331 == 0 {
            actor.pulse(hurt).unwrap();
            actor.take_off(dusk);
            actor.wear(&reel, dusk).unwrap();
        }
        events += actor.advance(&reel, Ticks::from_millis(33)).count();
        events += usize::from(actor.view(&reel).is_some());
        events += update_crowd(update);
    }
    player.advance(&reel, Ticks::from_secs(86_400));
    actor.advance(&reel, Ticks::from_secs(86_400));
    let after = dhat::HeapStats::get().total_blocks;
    assert_eq!(after - before, 0);
    assert!(events > 2_000 && seen != 0.0);
}
