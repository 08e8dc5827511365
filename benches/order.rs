//! A crowd written in the order of a draw list against the same crowd written as it is stored, while its
//! members wander.
//!
//! `cargo bench --bench order`

#![allow(clippy::unwrap_used, clippy::expect_used)] // a bench that cannot run fails

#[path = "ratios/field.rs"]
mod field;

use std::time::Instant;

use field::{Kind, Ours, positions, random};
use lucky_reel::{DrawList, InstanceWriter, Placement, view::Instance};

const MEMBERS: [usize; 4] = [1_000, 10_000, 100_000, 1_000_000];
const ROUNDS: usize = 31;

/// How long each member takes, in nanoseconds.
fn time_each(members: usize, work: impl FnOnce()) -> f64 {
    let begin = Instant::now();
    work();
    begin.elapsed().as_secs_f64() * 1e9 / members as f64
}

fn main() {
    println!(
        "  members  by y ÷ unsorted  by depth ÷ unsorted  unsorted, ns  by y, ns  by depth, ns"
    );
    for members in MEMBERS {
        let crowd = Ours::of(Kind::All, members).crowd;
        let writer = InstanceWriter::new(crowd.reel());
        let mut at = positions(members);
        let step = |seed, id| (random(seed, id, 2_001) as f32 - 1_000.0) / 1_000.0;
        let steps: Vec<[f32; 2]> =
            (0..members as u64).map(|id| [step(10, id), step(11, id)]).collect();
        let (mut by_y, mut by_depth) = (DrawList::by_y(), DrawList::by_depth());
        let mut out: Vec<Instance> = Vec::with_capacity(members);
        let mut rounds: Vec<[f64; 3]> = Vec::new();
        for _ in 0..ROUNDS {
            for (at, step) in at.iter_mut().zip(&steps) {
                *at = [at[0] + step[0], at[1] + step[1]];
            }
            let unsorted = time_each(members, || {
                out.clear();
                crowd.instances(&writer).write_at(&mut out, &at);
            });
            let by_y = time_each(members, || {
                out.clear();
                by_y.clear();
                crowd.instances(&writer).write_at(&mut by_y, &at);
                by_y.write(&writer, &mut out).unwrap();
            });
            let by_depth = time_each(members, || {
                out.clear();
                by_depth.clear();
                crowd.instances(&writer).write(&mut by_depth, |member| {
                    let at = at[member.index()];
                    Placement::at(at).depth(at[1])
                });
                by_depth.write(&writer, &mut out).unwrap();
            });
            rounds.push([unsorted, by_y, by_depth]);
        }
        let median = |value: &dyn Fn(&[f64; 3]) -> f64| {
            let mut values: Vec<f64> = rounds.iter().map(value).collect();
            values.sort_by(f64::total_cmp);
            values[ROUNDS / 2]
        };
        println!(
            "{members:>9}  {:>15.2}  {:>19.2}  {:>12.2}  {:>8.2}  {:>12.2}",
            median(&|t| t[1] / t[0]),
            median(&|t| t[2] / t[0]),
            median(&|t| t[0]),
            median(&|t| t[1]),
            median(&|t| t[2]),
        );
    }
}
