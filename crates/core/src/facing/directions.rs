use super::Facing;
use crate::angle::sin_cos;
use crate::command_error::CommandError;
use crate::range::Range;

/// How many facings a direction is sorted into.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum DirectionCount {
    /// Left and right alone.
    Two,
    /// Down, right, up, left.
    Four,
    /// All eight.
    Eight,
}

impl DirectionCount {
    fn facings(self) -> impl Iterator<Item = Facing> {
        let (every, from) = match self {
            DirectionCount::Two => (4, 2),
            DirectionCount::Four => (2, 0),
            DirectionCount::Eight => (1, 0),
        };
        Facing::ALL.into_iter().skip(from).step_by(every)
    }
}

/// How a stick or a velocity becomes a facing: between how many, how far it must lean, and how far it
/// must turn past a border before the facing changes, so that it does not flicker on the diagonal.
///
/// ```
/// use lucky_reel_core::{CommandError, Directions, Facing};
///
/// let directions = Directions::FOUR.dead_zone(0.2)?.hysteresis(10.0)?;
/// let mut facing = Facing::Down;
/// facing = Facing::from_vector([0.9, 0.3], facing, directions);
/// assert_eq!(facing, Facing::Right);
/// facing = Facing::from_vector([0.70, 0.72], facing, directions); // just past the diagonal
/// assert_eq!(facing, Facing::Right);
/// facing = Facing::from_vector([0.05, 0.1], facing, directions); // let go
/// assert_eq!(facing, Facing::Right);
/// facing = Facing::from_vector([0.4, 0.9], facing, directions);
/// assert_eq!(facing, Facing::Down);
/// # Ok::<(), lucky_reel_core::CommandError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Directions {
    count: DirectionCount,
    dead_zone: f32,
    hysteresis_degrees: f32,
}

impl Directions {
    /// Left and right alone; without a dead zone, and with 5 degrees of hysteresis, as all of these.
    pub const TWO: Directions = Directions::of(DirectionCount::Two);
    /// Down, right, up, left.
    pub const FOUR: Directions = Directions::of(DirectionCount::Four);
    /// All eight.
    pub const EIGHT: Directions = Directions::of(DirectionCount::Eight);

    const fn of(count: DirectionCount) -> Directions {
        Directions { count, dead_zone: 0.0, hysteresis_degrees: 5.0 }
    }

    /// Vectors of this length or shorter change nothing.
    ///
    /// # Errors
    /// When it is below 0 or not finite.
    pub fn dead_zone(mut self, length: f32) -> Result<Directions, CommandError> {
        let range = Range { name: "the dead zone", min: 0.0, max: f64::from(f32::MAX) };
        range.check(f64::from(length))?;
        self.dead_zone = length;
        Ok(self)
    }

    /// How many degrees past its border a facing changes: 0 to 20.
    ///
    /// # Errors
    /// When it is out of range.
    pub fn hysteresis(mut self, degrees: f32) -> Result<Directions, CommandError> {
        let range = Range { name: "the hysteresis degrees", min: 0.0, max: 20.0 };
        range.check(f64::from(degrees))?;
        self.hysteresis_degrees = degrees;
        Ok(self)
    }
}

impl Facing {
    /// The facing of a vector, `y` down, for a thing that has faced `before`: which stays within the
    /// dead zone, for a vector that is not finite, and until the vector has turned far enough past
    /// its border.
    #[must_use]
    pub fn from_vector(
        vector: impl Into<[f32; 2]>,
        before: Facing,
        directions: Directions,
    ) -> Facing {
        let [x, y] = vector.into().map(f64::from);
        let length_squared = x * x + y * y;
        let dead_zone = f64::from(directions.dead_zone);
        // Squares of finite `f32`s are finite.
        if !length_squared.is_finite() || length_squared <= dead_zone * dead_zone {
            return before;
        }
        if directions.count == DirectionCount::Two && x == 0.0 {
            return before;
        }
        let half_sector = match directions.count {
            DirectionCount::Two => 90.0,
            DirectionCount::Four => 45.0,
            DirectionCount::Eight => 22.5,
        };
        // How far along each facing it lies; the square root is spared.
        let along = |facing: Facing| {
            let [fx, fy] = facing.direction().map(f64::from);
            (x * fx + y * fy) / if fx == 0.0 || fy == 0.0 { 2.0 } else { core::f64::consts::SQRT_2 }
        };
        if directions.count.facings().any(|facing| facing == before) {
            let border: f32 = half_sector + directions.hysteresis_degrees;
            let (_, cosine) = sin_cos(border.to_radians());
            let (along, cosine) = (along(before), f64::from(cosine));
            let past_cosine = |value: f64| value.signum() * value * value;
            if past_cosine(along) > past_cosine(cosine) * length_squared {
                return before;
            }
        }
        let nearest = directions.count.facings().max_by(|a, b| along(*a).total_cmp(&along(*b)));
        nearest.unwrap_or(before)
    }
}
