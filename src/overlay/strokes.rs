//! Letters as lines.

/// How wide a letter is, and how high; the next one begins two further.
pub(super) const SIZE: [u32; 2] = [4, 6];

/// What a letter is drawn with: strokes, each a row of points, right and down from its top left.
/// Capitals look as small letters do, and what is unknown is a box.
pub(super) fn strokes_of(
    letter: char,
) -> impl Iterator<Item = impl Iterator<Item = [u32; 2]> + Clone> {
    let small = letter.to_ascii_lowercase();
    let known = LETTERS.iter().find(|(known, _)| *known == small);
    let strokes = match known {
        Some((_, strokes)) => strokes,
        None if letter.is_whitespace() => "",
        None => "00 40 46 06 00",
    };
    strokes.split(", ").map(|stroke| {
        let digits = |point: &str| {
            let mut digits = point.chars().filter_map(|digit| digit.to_digit(10));
            Some([digits.next()?, digits.next()?])
        };
        stroke.split(' ').filter_map(digits)
    })
}

/// Points are two digits: right, and down.
#[rustfmt::skip]
const LETTERS: [(char, &str); 55] = [
    ('a', "06 02 20 42 46, 04 44"),
    ('b', "00 06 36 45 44 33 03, 33 42 41 30 00"),
    ('c', "41 30 10 01 05 16 36 45"),
    ('d', "00 06 26 44 42 20 00"),
    ('e', "40 00 06 46, 03 33"),
    ('f', "40 00 06, 03 33"),
    ('g', "41 30 10 01 05 16 36 45 43 23"),
    ('h', "00 06, 40 46, 03 43"),
    ('i', "10 30, 20 26, 16 36"),
    ('j', "20 40, 30 35 26 16 05"),
    ('k', "00 06, 40 03 46"),
    ('l', "00 06 46"),
    ('m', "06 00 23 40 46"),
    ('n', "06 00 46 40"),
    ('o', "10 30 41 45 36 16 05 01 10"),
    ('p', "06 00 30 41 42 33 03"),
    ('q', "10 30 41 45 36 16 05 01 10, 24 46"),
    ('r', "06 00 30 41 42 33 03, 23 46"),
    ('s', "41 30 10 01 02 13 33 44 45 36 16 05"),
    ('t', "00 40, 20 26"),
    ('u', "00 05 16 36 45 40"),
    ('v', "00 26 40"),
    ('w', "00 16 23 36 40"),
    ('x', "00 46, 40 06"),
    ('y', "00 23 40, 23 26"),
    ('z', "00 40 06 46"),
    ('0', "10 30 41 45 36 16 05 01 10, 32 14"),
    ('1', "11 20 26, 16 36"),
    ('2', "01 10 30 41 42 06 46"),
    ('3', "01 10 30 41 42 33 44 45 36 16 05, 23 33"),
    ('4', "36 30 04 44"),
    ('5', "40 00 03 33 44 45 36 16 05"),
    ('6', "41 30 10 01 05 16 36 45 44 33 03"),
    ('7', "00 40 16"),
    ('8', "10 30 41 42 33 13 02 01 10, 13 04 05 16 36 45 44 33"),
    ('9', "05 16 36 45 41 30 10 01 02 13 43"),
    ('-', "13 33"),
    ('_', "06 46"),
    ('.', "25 26"),
    (',', "25 16"),
    (':', "21 22, 24 25"),
    ('/', "06 40"),
    ('=', "02 42, 04 44"),
    ('<', "40 03 46"),
    ('>', "00 43 06"),
    ('+', "21 25, 03 43"),
    ('*', "21 25, 02 44, 04 42"),
    ('!', "20 24, 25 26"),
    ('?', "01 10 30 41 42 23 24, 25 26"),
    ('(', "30 21 25 36"),
    (')', "10 21 25 16"),
    ('\'', "20 22"),
    ('"', "10 12, 30 32"),
    ('#', "10 16, 30 36, 02 42, 04 44"),
    ('%', "06 40, 00 10, 36 46"),
];
