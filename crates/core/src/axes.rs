//! The same for both axes.

/// Across and down, from the number of the axis. An array's own `map` is compiled anew for each closure, at fifty
/// times the length.
#[inline(always)]
pub(crate) fn both<T>(each: impl Fn(usize) -> T) -> [T; 2] {
    [each(0), each(1)]
}
