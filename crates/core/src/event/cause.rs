/// What made an actor's cues change.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Cause {
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

impl Cause {
    /// The word for it in traces: `start`, `facts`, `end`, `mark` or `span`.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Cause::Start => "start",
            Cause::Facts => "facts",
            Cause::End => "end",
            Cause::Mark => "mark",
            Cause::Span => "span",
        }
    }
}
