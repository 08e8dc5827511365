//! Which moths are in which nets: two crowds, by a grid and by a look at all pairs.
//!
//! `cargo bench --bench areas`

#![allow(clippy::unwrap_used)] // a bench that cannot run fails

use std::time::Instant;

use lucky_reel::*;
use lucky_reel::{
    id::AreaId,
    view::{Area, AreaGrid},
};

const ROUNDS: usize = 15;

/// A crowd whose members show an area of this many pixels a side.
fn crowd(members: usize, side: f32) -> (Crowd, AreaId) {
    let mut builder = Reel::builder();
    let sheet = NewSheet::grid([64, 16], Grid::cell_size([16, 16]));
    let sheet = builder.sheet("moth", sheet.area("body", .., [0.0, 0.0, side, side]));
    let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    for _ in 0..members {
        crowd.spawn(flutter).unwrap();
    }
    (crowd, reel.id::<AreaId>("body").unwrap())
}

/// Everywhere on a field where each member has about 400 square pixels.
fn places(members: usize, seed: u64) -> Vec<Placement> {
    let field = (members as f64).sqrt() as u64 * 20;
    let side = |seed, id| Ticks::random(seed, id, Ticks::new(field)).get() as f32;
    let place = |id| Placement::at([side(seed, id), side(seed + 1, id)]);
    (0..members as u64).map(place).collect()
}

fn main() {
    for members in [1_000, 10_000, 100_000] {
        let ((moths, body), (nets, catch)) = (crowd(members, 10.0), crowd(members, 12.0));
        let (at_moth, at_net) = (places(members, 1), places(members, 3));
        let (mut bodies, mut catches) = (AreaGrid::new(), AreaGrid::new());
        let mut pairs = 0;
        let mut times: Vec<[f64; 2]> = (0..ROUNDS)
            .map(|_| {
                let begin = Instant::now();
                bodies.clear();
                bodies.extend(moths.areas(body, |moth| at_moth[moth.index()]));
                catches.clear();
                catches.extend(nets.areas(catch, |net| at_net[net.index()]));
                let collected = begin.elapsed().as_secs_f64() * 1e3;
                pairs = 0;
                bodies.overlaps(&catches, |_, _| pairs += 1);
                [collected, begin.elapsed().as_secs_f64() * 1e3 - collected]
            })
            .collect();
        times.sort_by(|a, b| a[1].total_cmp(&b[1]));
        let [collected, found] = times[ROUNDS / 2];
        println!(
            "{members:>7} against as many: {pairs} pairs; areas collected in {collected:.2} ms, pairs found in {found:.2} ms"
        );
        if members == 1_000 {
            let areas = |crowd: &Crowd, id, at: &[Placement]| -> Vec<Area> {
                crowd.areas(id, |member| at[member.index()]).map(|(_, area)| area).collect()
            };
            let (ours, others) = (areas(&moths, body, &at_moth), areas(&nets, catch, &at_net));
            let begin = Instant::now();
            let all = ours.iter().flat_map(|a| others.iter().filter(|b| a.overlaps(b))).count();
            assert_eq!(all, pairs);
            let time = begin.elapsed().as_secs_f64() * 1e3;
            println!("        a look at all pairs of these: {time:.1} ms");
        }
    }
}
