//! Fits the weights of `measure` to sheets whose cells are known, and says how good it then is.
//!
//! `cargo run --release -p lucky-reel-measure --example fit_measure -- LIST FOLDER`: the list is a table
//! separated by tabs with a line of names, whose columns are package, file, class, width, height, cell_w,
//! cell_h, margin_x, margin_y, gap_x, gap_y, columns, rows; the files are looked for in FOLDER/PACKAGE.
//! Made-up sheets are added. With neither, it fits to made-up sheets alone. It prints the weights as
//! `weights.rs` has them, after a cross-validation in which no package is fitted and judged at once.

#[path = "../../tests/made_sheets/mod.rs"]
mod made_sheets;

use std::collections::BTreeMap;
use std::path::Path;

use lucky_reel_assets::Pixels;
use lucky_reel_measure::fit::{self, Sample, Shape};

/// So many made-up sheets are added, and so many parts are there in the cross-validation.
const MADE: u64 = 288;
const PARTS: usize = 12;
const SURE: f64 = 0.97;

/// A sheet, what was seen of it, and what is true.
struct Sheet {
    name: String,
    package: String,
    class: String,
    truth: [Shape; 2],
    axes: [Vec<(Shape, Vec<f64>)>; 2],
    looked: Sample,
}

/// The pairs of a sheet with their evidence, and which is right.
struct Choice {
    shapes: Vec<[Shape; 2]>,
    evidence: Vec<Vec<f64>>,
    right: Option<usize>,
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let mut sheets = Vec::new();
    if let [list, folder] = &arguments[..] {
        for line in std::fs::read_to_string(list)?.lines().skip(1) {
            let fields: Vec<&str> = line.split('\t').collect();
            let numbers: Vec<usize> =
                fields[3..13].iter().filter_map(|it| it.parse().ok()).collect();
            let path = Path::new(folder).join(fields[0]).join(fields[1]);
            let picture = match std::fs::read(&path).map(|bytes| Pixels::from_png(&bytes)) {
                Ok(Ok(picture)) => picture,
                other => {
                    eprintln!("{}: {:?}", path.display(), other.map(|it| it.is_ok()));
                    continue;
                }
            };
            let truth = [0, 1].map(|axis| {
                [numbers[4 + axis], numbers[2 + axis], numbers[6 + axis], numbers[8 + axis]]
            });
            sheets.push(sheet(fields[1], fields[0], fields[2], truth, &picture));
        }
    }
    let real = sheets.len();
    for seed in 0..MADE {
        let made = made_sheets::made(seed);
        let truth = made.axes.map(|axis| axis.map(|it| it as usize));
        let package = format!("made-{}", seed % PARTS as u64);
        sheets.push(sheet(
            &format!("made {seed}"),
            &package,
            &format!("made: {}", made.kind),
            truth,
            &made.picture,
        ));
    }
    let missing = sheets.iter().filter(|sheet| (0..2).any(|axis| place(sheet, axis).is_none()));
    for sheet in missing {
        println!("not among the candidates: {} {:?}", sheet.name, sheet.truth);
    }

    let mut packages: BTreeMap<&str, usize> = BTreeMap::new();
    for sheet in &sheets {
        *packages.entry(&sheet.package).or_default() += 1;
    }
    let mut order: Vec<(&str, usize)> = packages.into_iter().collect();
    order.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
    let mut loads = [0; PARTS];
    let mut part_of = BTreeMap::new();
    for (package, count) in order {
        let least = (0..PARTS).min_by_key(|part| loads[*part]).unwrap_or(0);
        loads[least] += count;
        part_of.insert(package.to_owned(), least);
    }
    // With VERBOSE set, each sheet whose first guess is wrong is listed.
    let verbose = std::env::var_os("VERBOSE").is_some();
    let mut judged = Judged::default();
    let fit_without = |part: usize| {
        let fitted = sheets.iter().filter(|sheet| part_of[&sheet.package] != part);
        Weights::fitted(&fitted.collect::<Vec<&Sheet>>())
    };
    let fitted: Vec<Weights> = std::thread::scope(|scope| {
        let half = |parts: std::ops::Range<usize>| {
            scope.spawn(move || parts.map(fit_without).collect::<Vec<_>>())
        };
        let halves = [half(0..PARTS / 2), half(PARTS / 2..PARTS)];
        halves.into_iter().flat_map(|half| half.join().unwrap_or_default()).collect()
    });
    for sheet in &sheets {
        judged.judge(sheet, &fitted[part_of[&sheet.package]], verbose);
    }
    println!("cross-validated, {real} real and {MADE} made-up sheets");
    judged.print();
    let all: Vec<&Sheet> = sheets.iter().collect();
    let weights = Weights::fitted(&all);
    let mut judged = Judged::default();
    all.iter().for_each(|sheet| judged.judge(sheet, &weights, false));
    println!("fitted to all");
    judged.print();
    weights.print();
    Ok(())
}

fn sheet(name: &str, package: &str, class: &str, truth: [Shape; 2], picture: &Pixels) -> Sheet {
    let looked = Sample::of(picture);
    Sheet {
        name: name.to_owned(),
        package: package.to_owned(),
        class: class.to_owned(),
        truth,
        axes: [0, 1].map(|axis| looked.axis(axis)),
        looked,
    }
}

/// A single cell has no gap, whatever the list says.
fn is_right(shape: &Shape, truth: &Shape) -> bool {
    shape[..2] == truth[..2] && shape[3] == truth[3] && (truth[3] == 1 || shape[2] == truth[2])
}

fn place(sheet: &Sheet, axis: usize) -> Option<usize> {
    sheet.axes[axis].iter().position(|(shape, _)| is_right(shape, &sheet.truth[axis]))
}

struct Weights {
    axis: Vec<f64>,
    each: Vec<f64>,
    pair: Vec<f64>,
}

impl Weights {
    /// Conditional logits: of an axis to choose the best divisions, then of pairs of these.
    fn fitted(sheets: &[&Sheet]) -> Weights {
        let axes: Vec<(Vec<&[f64]>, usize)> = sheets
            .iter()
            .flat_map(|sheet| {
                (0..2).filter_map(move |axis| Some((sheet, axis, place(sheet, axis)?)))
            })
            .map(|(sheet, axis, right)| {
                (sheet.axes[axis].iter().map(|(_, e)| &e[..]).collect(), right)
            })
            .collect();
        let axis = logit(&axes, fit::NAMES.len(), &fit::AXIS);
        let choices: Vec<Choice> = sheets.iter().map(|sheet| choice(sheet, &axis, true)).collect();
        let pairs: Vec<(Vec<&[f64]>, usize)> = choices
            .iter()
            .filter_map(|choice| {
                Some((choice.evidence.iter().map(|e| &e[..]).collect(), choice.right?))
            })
            .collect();
        let start: Vec<f64> = fit::EACH.iter().chain(&fit::PAIR).copied().collect();
        let mut each = logit(&pairs, start.len(), &start);
        let pair = each.split_off(fit::NAMES.len());
        Weights { axis, each, pair }
    }

    fn score(&self, evidence: &[f64]) -> f64 {
        self.each.iter().chain(&self.pair).zip(evidence).map(|(w, e)| w * e).sum()
    }

    fn print(&self) {
        for (name, weights) in [("AXIS", &self.axis), ("EACH", &self.each), ("PAIR", &self.pair)] {
            let listed: Vec<String> = weights.iter().map(|weight| format!("{weight:.3}")).collect();
            println!("{name} = [{}]", listed.join(", "));
        }
    }
}

/// The pairs of the best divisions of a sheet; when fitting, the right ones are among them.
fn choice(sheet: &Sheet, axis_weights: &[f64], with_truth: bool) -> Choice {
    let scores = [0, 1].map(|axis| {
        let score = |e: &Vec<f64>| e.iter().zip(axis_weights).map(|(e, w)| e * w).sum::<f64>();
        sheet.axes[axis].iter().map(|(_, evidence)| score(evidence)).collect::<Vec<f64>>()
    });
    let mut kept = sheet.looked.best([&scores[0], &scores[1]]);
    for (axis, kept) in kept.iter_mut().enumerate() {
        kept.extend(place(sheet, axis).filter(|right| with_truth && !kept.contains(right)));
    }
    let mut choice = Choice { shapes: Vec::new(), evidence: Vec::new(), right: None };
    for x in &kept[0] {
        for y in &kept[1] {
            let (across, down) = (&sheet.axes[0][*x], &sheet.axes[1][*y]);
            if is_right(&across.0, &sheet.truth[0]) && is_right(&down.0, &sheet.truth[1]) {
                choice.right = choice.right.or(Some(choice.shapes.len()));
            }
            let mut evidence: Vec<f64> = across.1.iter().zip(&down.1).map(|(a, b)| a + b).collect();
            evidence.extend(sheet.looked.pair([*x, *y]));
            choice.shapes.push([across.0, down.0]);
            choice.evidence.push(evidence);
        }
    }
    choice
}

/// Weights that make the right choices likely: gradient ascent with adaptive steps (Kingma and Ba, Adam,
/// 2015), held near zero by a square penalty.
fn logit(choices: &[(Vec<&[f64]>, usize)], size: usize, start: &[f64]) -> Vec<f64> {
    const PENALTY: f64 = 0.04;
    let mut weights = start.to_vec();
    let (mut first, mut second) = (vec![0.0; size], vec![0.0; size]);
    for step in 1..=400 {
        let mut gradient: Vec<f64> = weights.iter().map(|weight| -PENALTY * weight).collect();
        for (evidence, right) in choices {
            let scores: Vec<f64> =
                evidence.iter().map(|e| e.iter().zip(&weights).map(|(e, w)| e * w).sum()).collect();
            let best = scores.iter().copied().fold(f64::MIN, f64::max);
            let total: f64 = scores.iter().map(|score| (score - best).exp()).sum();
            for (nth, (evidence, score)) in evidence.iter().zip(&scores).enumerate() {
                let chance = (score - best).exp() / total;
                let miss = f64::from(u8::from(nth == *right)) - chance;
                if miss.abs() > 1e-6 {
                    gradient.iter_mut().zip(*evidence).for_each(|(g, e)| *g += miss * e);
                }
            }
        }
        let rate = 0.1 * (1.0 - f64::from(step) / 450.0);
        for at in 0..size {
            first[at] = 0.9 * first[at] + 0.1 * gradient[at];
            second[at] = 0.99 * second[at] + 0.01 * gradient[at] * gradient[at];
            let (a, b) = (1.0 - 0.9_f64.powi(step), 1.0 - 0.99_f64.powi(step));
            weights[at] += rate * (first[at] / a) / ((second[at] / b).sqrt() + 1e-8);
        }
    }
    weights
}

#[derive(Default)]
struct Judged {
    /// By class: all, right at first, among three, sure and right, sure and wrong.
    classes: BTreeMap<String, [u32; 5]>,
    /// By chance in twentieths: all, right.
    chances: BTreeMap<u32, [u32; 2]>,
    /// Of real sheets with more than one cell: the chance of the first guess, and whether it is right.
    firsts: Vec<(f64, bool)>,
}

impl Judged {
    fn judge(&mut self, sheet: &Sheet, weights: &Weights, verbose: bool) {
        let choice = choice(sheet, &weights.axis, false);
        let scores: Vec<f64> = choice.evidence.iter().map(|e| weights.score(e)).collect();
        let mut order: Vec<usize> = (0..scores.len()).collect();
        order.sort_by(|a, b| scores[*b].total_cmp(&scores[*a]));
        let best = order.first().map_or(0.0, |at| scores[*at]);
        let total: f64 = scores.iter().map(|score| (score - best).exp()).sum();
        let chance = 1.0 / total;
        let right =
            |nth: usize| order.get(nth).is_some() && order.get(nth).copied() == choice.right;
        let first = order.first().map(|at| choice.shapes[*at]);
        let cells = first.map_or(0, |shape| shape[0][3] * shape[1][3]);
        let sure = chance >= SURE && cells > 1;
        let flags = [true, right(0), (0..3).any(right), sure && right(0), sure && !right(0)];
        let real = if sheet.class.starts_with("made") { "ALL MADE" } else { "ALL REAL" };
        for class in [&sheet.class[..], real] {
            let counts = self.classes.entry(class.to_owned()).or_default();
            counts.iter_mut().zip(flags).for_each(|(count, flag)| *count += u32::from(flag));
        }
        if real == "ALL REAL" {
            let tenth = self.chances.entry((chance * 20.0) as u32).or_default();
            *tenth = [tenth[0] + 1, tenth[1] + u32::from(right(0))];
            self.firsts.extend((cells > 1).then_some((chance, right(0))));
        }
        if verbose && !right(0) {
            let rank = order.iter().position(|at| Some(*at) == choice.right);
            println!(
                "{}{} [{}]: {:?} p {chance:.2}, true {:?} at {rank:?}",
                if sure { "SURE AND WRONG " } else { "" },
                sheet.name,
                sheet.class,
                first,
                sheet.truth
            );
        }
    }

    fn print(&self) {
        println!(
            "{:24} {:>5} {:>6} {:>6} {:>6} {:>6}",
            "class", "all", "first", "three", "sure", "wrong"
        );
        for (class, [all, first, three, sure, wrong]) in &self.classes {
            println!("{class:24} {all:5} {first:6} {three:6} {sure:6} {wrong:6}");
        }
        for from in [0.9, 0.92, 0.94, 0.95, 0.96, 0.97, 0.98] {
            let sure: Vec<_> = self.firsts.iter().filter(|(chance, _)| *chance >= from).collect();
            let wrong = sure.iter().filter(|(_, right)| !right).count();
            println!("sure from {from}: {} right, {wrong} wrong", sure.len() - wrong);
        }
        for (tenth, [all, right]) in &self.chances {
            println!("chance {:.2}: {right} of {all} right", f64::from(*tenth) / 20.0);
        }
    }
}
