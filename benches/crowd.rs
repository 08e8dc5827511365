//! The parts of a crowd, each by itself.
//!
//! `cargo bench --bench crowd`

#![allow(clippy::expect_used)] // what is measured is known to be sound

#[path = "ratios/field.rs"]
mod field;

use divan::counter::ItemsCount;
use divan::{Bencher, black_box};
use field::{Contender, Kind, Ours, OursWritten, positions};
use lucky_reel::{
    EventBuffer, EventMask, InstanceWriter, Placement, Speed, Ticks,
    crowd::Target,
    view::{Instance, SmallInstance},
};

fn main() {
    divan::main();
}

const PLAYERS: [usize; 3] = [1_000, 10_000, 100_000];
const DT: Ticks = Ticks::from_rate(60);

#[divan::bench(args = PLAYERS)]
fn advance_and_collect_all(bencher: Bencher<'_, '_>, players: usize) {
    let mut ours = Ours::of(Kind::All, players);
    bencher.counter(ItemsCount::new(players)).bench_local(move || ours.update(black_box(DT)));
}

#[divan::bench(args = PLAYERS)]
fn advance_quietly(bencher: Bencher<'_, '_>, players: usize) {
    let Ours { mut crowd, .. } = Ours::of(Kind::Loops, players);
    bencher.counter(ItemsCount::new(players)).bench_local(move || crowd.advance(black_box(DT)));
}

#[divan::bench(args = PLAYERS)]
fn read_all_events(bencher: Bencher<'_, '_>, players: usize) {
    let Ours { mut crowd, .. } = Ours::of(Kind::Loops, players);
    let mut reported = EventBuffer::new();
    crowd.advance_into(DT, EventMask::ALL, &mut reported);
    bencher
        .counter(ItemsCount::new(players))
        .bench_local(move || reported.iter().map(|(_, event)| event.serial).max());
}

#[divan::bench(args = PLAYERS)]
fn write_instances(bencher: Bencher<'_, '_>, players: usize) {
    let written = OursWritten::new(players);
    let (writer, positions) = (InstanceWriter::new(&written.ours.reel), positions(players));
    let mut out: Vec<Instance> = Vec::new();
    bencher.counter(ItemsCount::new(players)).bench_local(move || {
        out.clear();
        written.ours.crowd.instances(&writer).write_at(&mut out, black_box(&positions))
    });
}

/// About nine of a hundred.
#[divan::bench(args = PLAYERS)]
fn write_changed_small_instances(bencher: Bencher<'_, '_>, players: usize) {
    let Ours { reel, mut crowd, .. } = Ours::of(Kind::Loops, players);
    crowd.advance(DT);
    crowd.advance(DT);
    let (writer, positions) = (InstanceWriter::new(&reel), positions(players));
    let mut out: Vec<SmallInstance> = Vec::new();
    bencher.counter(ItemsCount::new(players)).bench_local(move || {
        out.clear();
        let at = |member: lucky_reel::crowd::MemberId| Placement::at(positions[member.index()]);
        crowd.instances(&writer).changed().write(&mut out, at)
    });
}

#[divan::bench(args = PLAYERS)]
fn set_the_speed_of_all(bencher: Bencher<'_, '_>, players: usize) {
    let Ours { mut crowd, .. } = Ours::of(Kind::Loops, players);
    bencher
        .counter(ItemsCount::new(players))
        .bench_local(move || crowd.set_speed(Target::All, black_box(Speed::NORMAL)));
}

#[divan::bench(args = PLAYERS)]
fn roll_back(bencher: Bencher<'_, '_>, players: usize) {
    let mut ours = Ours::of(Kind::All, players);
    let saved = ours.crowd.clone();
    bencher
        .counter(ItemsCount::new(players))
        .bench_local(move || ours.crowd.clone_from(black_box(&saved)));
}
