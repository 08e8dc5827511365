//! Tables for people.

use std::io::{self, Write};

use unicode_width::UnicodeWidthStr;

/// Prints rows in columns as wide as they need to be; the first row is the heading.
///
/// Columns whose heading starts with `>` are set to the right.
pub(crate) fn table(out: &mut impl Write, rows: &[Vec<String>]) -> io::Result<()> {
    let columns = rows.iter().map(Vec::len).max().unwrap_or(0);
    let length = |text: &String| text.trim_start_matches('>').width();
    let widths: Vec<usize> = (0..columns)
        .map(|column| rows.iter().filter_map(|row| row.get(column)).map(length).max().unwrap_or(0))
        .collect();
    let to_the_right = |column: usize| {
        rows.first().and_then(|row| row.get(column)).is_some_and(|name| name.starts_with('>'))
    };
    for row in rows {
        let mut line = String::new();
        for (column, cell) in row.iter().enumerate() {
            let cell = cell.trim_start_matches('>');
            let pad = " ".repeat(widths[column] - cell.width());
            let gap = if column == 0 { "" } else { "  " };
            line += &if to_the_right(column) {
                format!("{gap}{pad}{cell}")
            } else {
                format!("{gap}{cell}{pad}")
            };
        }
        writeln!(out, "{}", line.trim_end())?;
    }
    Ok(())
}

/// Milliseconds with as many digits as are worth reading.
pub(crate) fn milliseconds(time: lucky_reel::Ticks) -> String {
    let text = format!("{:.3}", time.as_millis_f64());
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_are_as_wide_as_they_need_to_be() {
        let rows = [
            ["name", ">ms", "end"],
            ["größer", "7", ""],
            ["名前", "8", "字"],
            ["a", "1200", "stay"],
        ];
        let rows: Vec<Vec<String>> =
            rows.iter().map(|row| row.map(str::to_owned).to_vec()).collect();
        let mut out = Vec::new();
        table(&mut out, &rows).unwrap();
        let expected = "name      ms  end\ngrößer     7\n名前       8  字\na       1200  stay\n";
        assert_eq!(String::from_utf8(out).unwrap(), expected);
    }

    #[test]
    fn milliseconds_have_the_digits_that_are_worth_reading() {
        let shown = |ticks: u64| milliseconds(lucky_reel::Ticks::new(ticks));
        assert_eq!([0, 72_072, 1_201_200, 4_504_500].map(shown), ["0", "1", "16.667", "62.5"]);
    }
}
