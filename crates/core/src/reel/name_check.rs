//! Which names are refused.

use super::problem_kind::BadName;

/// Why a name is refused, if it is: it could be read as something else.
pub(crate) fn check_name(name: &str) -> Result<(), BadName> {
    let plain = |c: char| c.is_alphanumeric() || c == '-' || c == '_';
    if name == "all" {
        Err(BadName::Reserved)
    } else if !name.starts_with(char::is_alphabetic) {
        Err(BadName::Start)
    } else if !name.chars().all(plain) {
        Err(BadName::Character)
    } else if name.len() > 100 {
        Err(BadName::TooLong)
    } else {
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_that_could_be_read_otherwise_are_refused() {
        for good in ["walk", "walk-down", "step_2", "größe", "w"] {
            assert_eq!(check_name(good), Ok(()), "{good}");
        }
        let long = "x".repeat(101);
        for bad in ["", "all", "0 to 3", "3", "-walk", "walk down", "bram/walk", "a.b", &long] {
            assert!(check_name(bad).is_err(), "{bad}");
        }
    }
}
