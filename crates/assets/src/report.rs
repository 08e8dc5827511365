//! A problem as people read it: what is wrong, where, and how to fix it.

use std::fmt;

use crate::printable::printable;
use crate::problem::{Problem, Severity};

/// Without the line of the file.
#[cfg_attr(feature = "report", allow(dead_code))] // the tests hold both forms
pub(crate) fn in_short(problem: &Problem) -> String {
    let level = match problem.severity {
        Severity::Error => "error",
        Severity::Warning => "warning",
    };
    let mut text = format!("{level}: {}\n", printable(&problem.message));
    let (mut place, key) = (problem.place_without_line(), printable(problem.key()));
    if let (Some(line), Some(column)) = (problem.line(), problem.column()) {
        place = format!("{place}:{line}:{column} {key}").trim_end().to_owned();
    }
    if !place.is_empty() {
        text += &format!("--> {place}\n");
    }
    text + " = fix: " + &printable(&problem.fix)
}

/// The whole report: what is wrong, where, and the fix; with the feature `report`, also the line of the file with
/// the place marked.
impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        #[cfg(feature = "report")]
        let text = crate::drawn_report::render(self, &annotate_snippets::Renderer::plain());
        #[cfg(not(feature = "report"))]
        let text = in_short(self);
        f.write_str(&text)
    }
}

#[cfg(test)]
mod tests {
    use std::path::Path;

    use super::*;

    fn shown(text: &str, part: &str) -> String {
        let at = text.find(part).unwrap();
        let path = Path::new("a\u{1b}[31m.toml");
        let problem = Problem::in_text(path, text, at..at + part.len(), "bad\u{7}", "better");
        let short = super::in_short(&problem);
        assert!(short.contains(".toml:1:") && short.ends_with(" = fix: better"), "{short}");
        format!("{short}\n{problem}")
    }

    #[test]
    fn the_mark_is_under_the_place() {
        for text in ["\tfps = 0", "名前 = 0; fps = 0", &format!("{}fps = 0", "x".repeat(500))] {
            let report = shown(text, "fps = 0");
            let line = report.lines().find(|line| line.contains("fps = 0")).unwrap();
            let mark = report.lines().find(|line| line.contains("^^^^^^^")).unwrap();
            // Wide characters take two columns.
            let columns =
                |text: &str| text.chars().map(|c| 1 + usize::from(c > '\u{2e80}')).sum::<usize>();
            let before = |line: &str, part: &str| columns(&line[..line.find(part).unwrap()]);
            assert_eq!(before(line, "fps = 0"), before(mark, "^^^^^^^"), "{report}");
            assert!(columns(line) < 150, "{report}");
        }
    }

    #[test]
    fn nothing_reaches_a_terminal_raw() {
        let report = shown("fps = \"\u{1b}]0;title\u{7}\u{202e}\"", "fps");
        assert!(
            report.chars().all(|c| c == '\n' || !c.is_control() && c != '\u{202e}'),
            "{report:?}"
        );
        assert!(
            report.contains("a\\u{1b}[31m.toml:1:1") && report.contains("fix: better"),
            "{report}"
        );
    }
}
