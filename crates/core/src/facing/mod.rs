//! Which way a thing faces, and the clip that it shows then.

mod directions;
mod sets;

pub use directions::Directions;
pub use sets::{Align, NewFacings};
pub(crate) use sets::{FacingSetData, NewFacing};

/// One of eight directions on the screen, `y` down.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(rename_all = "kebab-case"))]
#[allow(missing_docs)] // their names say it
pub enum Facing {
    #[default]
    Down,
    DownRight,
    Right,
    UpRight,
    Up,
    UpLeft,
    Left,
    DownLeft,
}

impl Facing {
    /// All facings, counterclockwise on the screen from down.
    pub const ALL: [Facing; 8] = [
        Facing::Down,
        Facing::DownRight,
        Facing::Right,
        Facing::UpRight,
        Facing::Up,
        Facing::UpLeft,
        Facing::Left,
        Facing::DownLeft,
    ];

    /// The word for it in reel files, such as `up-left`.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Facing::Down => "down",
            Facing::DownRight => "down-right",
            Facing::Right => "right",
            Facing::UpRight => "up-right",
            Facing::Up => "up",
            Facing::UpLeft => "up-left",
            Facing::Left => "left",
            Facing::DownLeft => "down-left",
        }
    }

    /// The facing of this name.
    #[must_use]
    pub fn from_name(name: &str) -> Option<Facing> {
        Facing::ALL.into_iter().find(|facing| facing.name() == name)
    }

    /// Seen in a mirror that turns left into right.
    #[must_use]
    pub const fn mirrored(self) -> Facing {
        Facing::ALL[(8 - self as usize) % 8]
    }

    /// The facings in the order in which a set that lacks this one is searched: itself, then those
    /// fewer eighths of a turn away. Of two as near, first the one that looks more to the side; of
    /// two that do so alike, the lower one; of two still alike, the right one.
    pub(crate) fn nearest_first(self) -> [Facing; 8] {
        let mut keys = Facing::ALL.map(|other| {
            let eighths = (8 + other as u64 - self as u64) % 8;
            let [x, y] = other.direction();
            let (upward, leftward) =
                (u64::from((2 - y).unsigned_abs()), u64::from((2 - x).unsigned_abs()));
            let turn = eighths.min(8 - eighths) * 1_000 + u64::from(y.unsigned_abs()) * 100;
            [turn + upward * 10 + leftward, other as u64]
        });
        keys.sort_unstable();
        keys.map(|[_, facing]| Facing::ALL[facing as usize])
    }

    /// Where it looks: right and down, each −2 to 2; its length stands for nothing.
    const fn direction(self) -> [i32; 2] {
        match self {
            Facing::Down => [0, 2],
            Facing::DownRight => [1, 1],
            Facing::Right => [2, 0],
            Facing::UpRight => [1, -1],
            Facing::Up => [0, -2],
            Facing::UpLeft => [-1, -1],
            Facing::Left => [-2, 0],
            Facing::DownLeft => [-1, 1],
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_nearest_facing_comes_first() {
        for facing in Facing::ALL {
            let order = facing.nearest_first();
            assert_eq!(order[0], facing);
            let mut all = order;
            all.sort_unstable();
            assert_eq!(all, Facing::ALL, "each once");
            // Never farther before nearer; opposite comes last.
            let turn = |other: &Facing| {
                let eighths = (*other as usize + 8 - facing as usize) % 8;
                eighths.min(8 - eighths)
            };
            assert!(order.is_sorted_by_key(turn) && turn(&order[7]) == 4);
        }
        assert_eq!(Facing::Down.nearest_first()[1..3], [Facing::DownRight, Facing::DownLeft]);
        assert_eq!(Facing::Right.nearest_first()[1..3], [Facing::DownRight, Facing::UpRight]);
    }
}
