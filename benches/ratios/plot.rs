//! The time per player over the number of players, as a picture.

use std::error::Error;

use lucky_reel::assets::Pixels;
use plotters::coord::Shift;
use plotters::prelude::*;
use plotters::style::register_font;

const SIZE: (u32, u32) = (1280, 800);
const FONT: &[u8] = include_bytes!("../../crates/tools/fonts/DejaVuSans-subset.ttf");
const BACK: RGBColor = RGBColor(24, 34, 48);
const INK: RGBColor = RGBColor(220, 226, 232);
const LINES: [RGBColor; 4] = [
    RGBColor(255, 200, 96),
    RGBColor(110, 132, 156),
    RGBColor(126, 200, 150),
    RGBColor(210, 126, 160),
];

/// Draws the times of the first four contenders, both axes logarithmic.
pub(crate) fn draw(times: &[(usize, Vec<f64>)]) -> Result<Pixels, Box<dyn Error>> {
    register_font("sans-serif", FontStyle::Normal, FONT).map_err(|_| "the font cannot be read")?;
    let mut pixels = vec![0; (SIZE.0 * SIZE.1 * 3) as usize];
    let area = BitMapBackend::with_buffer(&mut pixels, SIZE).into_drawing_area();
    draw_on(&area, times)?;
    drop(area);
    let mut picture = Pixels::new([SIZE.0, SIZE.1]).ok_or("the plot is too large")?;
    for (at, rgb) in (0..).zip(pixels.chunks_exact(3)) {
        picture.set_pixel([at % SIZE.0, at / SIZE.0], [rgb[0], rgb[1], rgb[2], 255]);
    }
    Ok(picture)
}

fn draw_on(
    area: &DrawingArea<BitMapBackend<'_>, Shift>,
    times: &[(usize, Vec<f64>)],
) -> Result<(), Box<dyn Error>> {
    let text = |size: i32| ("sans-serif", size).into_font().color(&INK);
    area.fill(&BACK)?;
    let most = times.last().map_or(10_000, |(players, _)| *players);
    let mut chart = ChartBuilder::on(area)
        .caption("nanoseconds per player and update, at 60 updates a second", text(26))
        .margin(24)
        .x_label_area_size(56)
        .y_label_area_size(72)
        .build_cartesian_2d(
            (900_f64..most as f64 * 1.2).log_scale(),
            (0.2_f64..100.0).log_scale(),
        )?;
    chart
        .configure_mesh()
        .axis_style(INK)
        .bold_line_style(INK.mix(0.2))
        .light_line_style(INK.mix(0.06))
        .label_style(text(20))
        .x_desc(format!("players, on {}", machine()))
        .x_label_formatter(&|players| format!("{} thousand", players / 1_000.0))
        .y_label_formatter(&|time| format!("{time}"))
        .draw()?;
    for (nth, color) in LINES.into_iter().enumerate() {
        let points = times.iter().map(|(players, each)| (*players as f64, each[nth]));
        let points: Vec<(f64, f64)> = points.collect();
        let label = match nth {
            0 => "a crowd, events collected",
            1 => "the floor: the same memory streamed",
            2 => "by hand: elapsed time, index and durations",
            _ => "by hand: a global clock, modulo and a scan",
        };
        chart.draw_series(LineSeries::new(points.clone(), color.stroke_width(4)))?;
        let above = points.first().map(|(players, time)| (players * 1.1, time * 1.5));
        let label =
            above.map(|at| Text::new(label, at, ("sans-serif", 22).into_font().color(&color)));
        chart.draw_series(label)?;
        chart.draw_series(points.iter().map(|at| Circle::new(*at, 6, color.filled())))?;
    }
    area.present()?;
    Ok(())
}

/// What the processor calls itself, where the system tells.
fn machine() -> String {
    let reported = std::fs::read_to_string("/proc/cpuinfo").unwrap_or_default();
    let model =
        reported.lines().find_map(|line| line.strip_prefix("model name")?.split(": ").nth(1));
    let cores = std::thread::available_parallelism().map_or(1, usize::from);
    format!("{}, {cores} cores, one used", model.unwrap_or("a machine that does not tell its name"))
}
