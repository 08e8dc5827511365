/// The point of a frame that lands on the position given, whatever the flip, scale or turn.
///
/// In pixels from the top left of the untrimmed cell. Pixel edges are whole numbers, the middle of
/// a pixel is a half; other fractions are refused when the reel is built.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[allow(missing_docs)] // their names say it
#[non_exhaustive]
pub enum Pivot {
    TopLeft,
    Top,
    TopRight,
    Left,
    /// The middle of the cell.
    #[default]
    Center,
    Right,
    BottomLeft,
    /// The middle of the lower edge: the feet of a figure.
    Bottom,
    BottomRight,
    /// Pixels from the cell's top left.
    At([f32; 2]),
}

impl Pivot {
    /// The pivots that have a name, with the words for them in reel files.
    pub const NAMED: [(&'static str, Pivot); 9] = [
        ("top-left", Pivot::TopLeft),
        ("top", Pivot::Top),
        ("top-right", Pivot::TopRight),
        ("left", Pivot::Left),
        ("center", Pivot::Center),
        ("right", Pivot::Right),
        ("bottom-left", Pivot::BottomLeft),
        ("bottom", Pivot::Bottom),
        ("bottom-right", Pivot::BottomRight),
    ];

    /// The pivot of a cell of this size in half pixels, or `None` when it is not on one (or is
    /// farther than 1,000,000 pixels away).
    pub(crate) fn in_halves(self, size: [u32; 2]) -> Option<[i32; 2]> {
        let share = match self {
            Pivot::At(pixels) => return in_halves(pixels),
            Pivot::TopLeft => [0, 0],
            Pivot::Top => [1, 0],
            Pivot::TopRight => [2, 0],
            Pivot::Left => [0, 1],
            Pivot::Center => [1, 1],
            Pivot::Right => [2, 1],
            Pivot::BottomLeft => [0, 2],
            Pivot::Bottom => [1, 2],
            Pivot::BottomRight => [2, 2],
        };
        let at = |axis: usize| i32::try_from(size[axis]).ok()?.checked_mul(share[axis]);
        Some([at(0)?, at(1)?])
    }
}

/// Pixels as half pixels, where they are whole ones and within 1,000,000 pixels.
pub(crate) fn in_halves([x, y]: [f32; 2]) -> Option<[i32; 2]> {
    let half = |pixels: f32| {
        let halves = pixels * 2.0;
        let whole = halves as i32;
        (whole as f32 == halves && pixels.abs() <= 1_000_000.0).then_some(whole)
    };
    Some([half(x)?, half(y)?])
}
