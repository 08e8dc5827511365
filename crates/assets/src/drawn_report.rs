//! The line of the file with the place marked. Display widths, tabs and control characters are the business of
//! `annotate-snippets`.

use annotate_snippets::{AnnotationKind, Group, Level, Origin, Renderer, Snippet};

use crate::printable::printable;
use crate::problem::{Problem, Severity};

/// How much of a line is shown after the place, in bytes; a terminal cuts it further.
const LINE_REST: usize = 300;

pub(crate) fn render(problem: &Problem, renderer: &Renderer) -> String {
    let level = match problem.severity {
        Severity::Error => Level::ERROR,
        Severity::Warning => Level::WARNING,
    };
    let path = problem.place_without_line();
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

impl Problem {
    /// The whole report in color, for a terminal of this width in columns.
    #[cfg(feature = "report")]
    #[must_use]
    pub fn in_color(&self, columns: usize) -> String {
        let renderer = annotate_snippets::Renderer::styled().term_width(columns);
        render(self, &renderer)
    }
}
