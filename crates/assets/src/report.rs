//! A problem as people read it: the line of the file with the place marked, and the fix. Display
//! widths, tabs and control characters are the business of `annotate-snippets`.

use annotate_snippets::{AnnotationKind, Group, Level, Origin, Renderer, Snippet};

use crate::problem::{Problem, Severity};

/// How much of a line is shown after the place, in bytes; a terminal cuts it further.
const LINE_REST: usize = 300;

pub(crate) fn render(problem: &Problem, renderer: &Renderer) -> String {
    let level = match problem.severity {
        Severity::Error => Level::ERROR,
        Severity::Warning => Level::WARNING,
    };
    let path = printable(&problem.path.display().to_string());
    let title = Group::with_title(level.primary_title(printable(&problem.message)));
    let fix = Level::HELP.with_name("fix").message(printable(&problem.fix));
    let group = match &problem.place {
        Some(place) => {
            let mut end = (place.span.end + LINE_REST).min(place.text.len());
            while !place.text.is_char_boundary(end) {
                end -= 1;
            }
            let mark = AnnotationKind::Primary.span(place.span.clone());
            let mark = match &*problem.key {
                "" => mark,
                key => mark.label(printable(key)),
            };
            let line = Snippet::source(&place.text[..end]).line_start(place.line).path(path);
            title.element(line.annotation(mark)).element(fix)
        }
        None if path.is_empty() => title.element(fix),
        None => title.element(Origin::path(path)).element(fix),
    };
    renderer.render(&[group])
}

/// A text that is safe to print: control characters, and characters that change the writing direction,
/// are escaped.
#[must_use]
pub fn printable(text: &str) -> String {
    let mut shown = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}' => {
                shown.extend(c.escape_unicode());
            }
            c if c.is_control() => shown.extend(c.escape_default()),
            c => shown.push(c),
        }
    }
    shown
}

#[cfg(test)]
mod tests {
    use std::path::Path;

    use super::*;

    fn shown(text: &str, part: &str) -> String {
        let at = text.find(part).unwrap();
        let path = Path::new("a\u{1b}[31m.toml");
        Problem::in_text(path, text, at..at + part.len(), "bad\u{7}", "better").to_string()
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
