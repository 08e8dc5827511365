//! A swarm of moths, written against the public interface alone: actors from a reel file in a crowd. At
//! any display rate the game hears and sees the same.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;
use std::path::Path;

use lucky_reel::EventBuffer;
use lucky_reel::assets::{Art, Pixels, load_all};
use lucky_reel::prelude::*;
use lucky_reel::{
    EventMask, InstanceWriter, NewMember,
    crowd::{MemberId, Target},
    id::RoleId,
};
use lucky_reel_canvas::Canvas;
use proptest::prelude::*;

const MOTHS: u64 = 90;

fn greenhouse() -> Art {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    load_all(["moth", "puff"].map(|role| folder.join(format!("{role}.reel.toml")))).unwrap()
}

/// What the game tells, and when, in milliseconds.
#[derive(Clone, Copy, Debug)]
enum Order {
    /// The lamp goes on or out.
    Lit(bool),
    /// A moth comes so near.
    Near(usize, f32),
    /// A puff bursts.
    Puff,
    /// The swarm's time, in quarters.
    Slow(u32),
    Freeze(u64),
}

fn tell() -> impl Strategy<Value = Order> {
    prop_oneof![
        1 => any::<bool>().prop_map(Order::Lit),
        4 => (0..MOTHS as usize, 0.0_f32..60.0).prop_map(|(moth, pixels)| Order::Near(moth, pixels)),
        1 => Just(Order::Puff),
        1 => (1_u32..8).prop_map(Order::Slow),
        1 => (0_u64..300).prop_map(Order::Freeze),
    ]
}

/// What was heard of each member, and when, in the order of its own events.
type Heard = BTreeMap<MemberId, Vec<(Ticks, String)>>;

/// Plays a night at so many updates a second; facts that change in between are set at their own moment, as a
/// game with fixed steps would.
fn night(art: &Art, script: &[(u64, Order)], rate: u32) -> (Heard, Crowd) {
    let reel = &art.reel;
    let (lit, near) = (reel.id("lit").unwrap(), reel.id("near").unwrap());
    let puff: ClipId = reel.id("puff").unwrap();
    let mut crowd = Crowd::new(reel);
    let swarm = crowd.add_group().unwrap();
    let role = NewMember::acting(reel.id::<RoleId>("moth").unwrap());
    let moths: Vec<MemberId> =
        (0..MOTHS).map(|_| crowd.spawn(role.in_group(swarm)).unwrap()).collect();
    let (mut heard, mut now) = (Heard::new(), Ticks::ZERO);
    let mut events = EventBuffer::new();
    let mut due = script.iter().peekable();
    let end = Ticks::from_secs(3);
    while now < end {
        while let Some((_, tell)) = due.next_if(|(at, _)| Ticks::from_millis(*at) <= now) {
            match *tell {
                Order::Lit(is) => {
                    moths.iter().for_each(|moth| crowd.set_fact(*moth, lit, is).unwrap());
                }
                Order::Near(moth, pixels) => {
                    crowd.set_fact(moths[moth], near, pixels).unwrap();
                }
                Order::Puff => _ = crowd.spawn(puff),
                Order::Slow(quarters) => {
                    crowd.set_group_scale(swarm, f64::from(quarters) / 4.0).unwrap();
                }
                Order::Freeze(millis) => {
                    assert!(crowd.hit_stop(swarm, Ticks::from_millis(millis)) > 0);
                }
            }
        }
        let next = due.peek().map_or(end, |(at, _)| Ticks::from_millis(*at));
        let dt = Ticks::from_rate(rate).min(next - now).min(end - now);
        crowd.advance_into(dt, EventMask::ALL, &mut events);
        for (member, event) in &events {
            let what = match event.kind {
                EventKind::Cue(cue, _) => format!("cue {}", reel.name(cue)),
                EventKind::Enter(frame) => format!("enter {} {}", event.hold, frame.index()),
                EventKind::Mark(mark) => format!("mark {}", reel.name(mark)),
                EventKind::Cycle => format!("cycle {}", event.cycle),
                EventKind::Turn => format!("turn {}", event.cycle),
                EventKind::End => "end".to_owned(),
                other => panic!("{other:?}"),
            };
            heard.entry(member).or_default().push((now + event.at, what));
        }
        now += dt;
    }
    (heard, crowd)
}

fn draw(art: &Art, crowd: &Crowd) -> Pixels {
    let mut canvas = Canvas::new([320, 160]).unwrap();
    let mut blits = Vec::new();
    let at = |member: MemberId| {
        [member.index() as i32 % 20 * 16 + 8, member.index() as i32 / 20 * 16 + 8]
    };
    crowd.instances(&InstanceWriter::new(&art.reel)).write(&mut blits, |member| (at(member), 1));
    blits.iter().for_each(|blit| canvas.copy(blit, &art.images));
    canvas.into_picture()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn a_swarm_is_heard_and_seen_alike_at_any_rate(
        mut script in prop::collection::vec((0_u64..2_900, tell()), 0..20), rate in 3_u32..200,
    ) {
        script.sort_by_key(|(at, _)| *at);
        let art = greenhouse();
        let (heard, crowd) = night(&art, &script, 60);
        let (again, other) = night(&art, &script, rate);
        prop_assert_eq!(&heard, &again);
        prop_assert_eq!(crowd.save(), other.save());
        prop_assert_eq!(draw(&art, &crowd), draw(&art, &other));
        // Every puff that had the time for it is gone by itself; moths stay.
        let millis = |at: u64| 3_000 - at;
        let puffs = script.iter().filter(|(_, tell)| matches!(tell, Order::Puff));
        let left = puffs.filter(|(at, _)| millis(*at) < 740).count() as u64;
        prop_assert_eq!(crowd.len() as u64, MOTHS + left);
    }
}

/// A crowd that is drawn by its instances shows what one drawn by its members' views does.
#[test]
fn instances_draw_what_views_do() {
    let art = greenhouse();
    let script = [
        (100, Order::Lit(false)),
        (300, Order::Puff),
        (900, Order::Lit(true)),
        (2_500, Order::Puff),
    ];
    let (_, crowd) = night(&art, &script, 60);
    let mut by_views = Canvas::new([320, 160]).unwrap();
    for member in crowd.ids(Target::All) {
        let at = [member.index() as i32 % 20 * 16 + 8, member.index() as i32 / 20 * 16 + 8];
        by_views.draw(&crowd.view(member).unwrap(), &art.images, at, 1);
    }
    assert_eq!(&draw(&art, &crowd), by_views.picture());
    assert!(by_views.picture().rgba().chunks(4).filter(|pixel| pixel[3] > 0).count() > 2_000);
}
