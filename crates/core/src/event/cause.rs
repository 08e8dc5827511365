use core::fmt;

/// What made an actor's cues change.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum CueCause {
    /// It is the first evaluation.
    Start,
    /// The game set a fact or a facing.
    Facts,
    /// A clip came to its end.
    End,
    /// A mark set a fact.
    Mark,
    /// A span began or ended.
    Span,
}

/// The word for it in traces: `start`, `facts`, `end`, `mark` or `span`.
impl fmt::Display for CueCause {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            CueCause::Start => "start",
            CueCause::Facts => "facts",
            CueCause::End => "end",
            CueCause::Mark => "mark",
            CueCause::Span => "span",
        })
    }
}
