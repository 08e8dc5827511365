//! The data on the marks of a clip, compiled.

/// A value of a key on a mark.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Datum {
    pub(crate) mark: u16,
    pub(crate) key: u16,
    /// The hold, or [`EVERY_HOLD`] of the mark that has no datum of its own.
    pub(crate) hold: u16,
    /// As its kind keeps it; of a text its place among the reel's.
    pub(crate) bits: u32,
}

/// A clip has fewer holds.
pub(crate) const EVERY_HOLD: u16 = u16::MAX;

/// The value on a mark at a hold. The list is in order.
pub(crate) fn find(data: &[Datum], mark: u16, key: u16, hold: u16) -> Option<u32> {
    let of = |hold: u16| {
        let order = |datum: &Datum| (datum.mark, datum.key, datum.hold).cmp(&(mark, key, hold));
        data.binary_search_by(order).ok().map(|at| data[at].bits)
    };
    of(hold).or_else(|| of(EVERY_HOLD))
}
