//! What makes a tasting fair: codes that say nothing, and orders in which no glass is favoured.

use std::collections::HashSet;

use rand::Rng;
use rand::seq::SliceRandom;

/// Most codes that can be told apart so well at once.
pub(crate) const MOST_CODES: usize = 8;

/// Three-digit numbers that mean something to somebody, though their digits all differ.
const MEAN_SOMETHING: [[u8; 3]; 3] = [[3, 6, 5], [2, 4, 7], [1, 8, 7]];

/// So many codes of three digits for glasses, at most eight.
///
/// No digit twice in a code and none nought, no two codes with two digits in common, no runs up or down
/// and no numbers that mean something: so that none is misread for another and none is liked for itself.
#[must_use]
pub fn codes(count: usize, rng: &mut impl Rng) -> Vec<String> {
    let count = count.min(MOST_CODES);
    let mut all: Vec<[u8; 3]> = Vec::new();
    for a in 1..=9_u8 {
        for b in 1..=9 {
            for c in 1..=9 {
                let run = (a + 1 == b && b + 1 == c) || (c + 1 == b && b + 1 == a);
                let doubled = a == b || b == c || a == c;
                if !run && !doubled && !MEAN_SOMETHING.contains(&[a, b, c]) {
                    all.push([a, b, c]);
                }
            }
        }
    }
    loop {
        all.shuffle(rng);
        let mut taken: Vec<[u8; 3]> = Vec::new();
        for code in &all {
            let common = |other: &[u8; 3]| code.iter().filter(|d| other.contains(d)).count();
            if taken.len() < count && taken.iter().all(|other| common(other) < 2) {
                taken.push(*code);
            }
        }
        // A greedy choice can block itself; another shuffle doesn't.
        if taken.len() == count {
            let text = |code: &[u8; 3]| code.iter().map(u8::to_string).collect();
            return taken.iter().map(text).collect();
        }
    }
}

/// Codes for several sets of glasses on one table, so many in each: in a set none is misread for another, and no
/// code stands twice on the table as long as there are others.
#[must_use]
pub(crate) fn codes_apart(sets: &[usize], rng: &mut impl Rng) -> Vec<Vec<String>> {
    let mut used: HashSet<String> = HashSet::new();
    sets.iter()
        .map(|count| {
            let mut tries = 0;
            loop {
                let dealt = codes(*count, rng);
                tries += 1;
                // Of some five hundred codes the last ones are hard to come by: better one twice than none.
                if tries > TRIES || dealt.iter().all(|code| !used.contains(code)) {
                    used.extend(dealt.iter().cloned());
                    break dealt;
                }
            }
        })
        .collect()
}

/// So often a set is dealt anew because one of its codes stands on the table already.
const TRIES: usize = 200;

/// Orders for `glasses` glasses in which, over all rows, each glass stands as often at each place and
/// follows each other glass as often: a Williams square (Williams 1949). An odd number takes two squares.
#[must_use]
pub fn williams(glasses: usize) -> Vec<Vec<usize>> {
    // 0, 1, n − 1, 2, n − 2, …: every step between neighbours is another one.
    let first = (0..glasses).map(|at| if at % 2 == 1 { at.div_ceil(2) } else { glasses - at / 2 });
    let first: Vec<usize> = first.map(|place| place % glasses.max(1)).collect();
    let mut rows: Vec<Vec<usize>> =
        (0..glasses).map(|by| first.iter().map(|g| (g + by) % glasses).collect()).collect();
    if glasses % 2 == 1 {
        let mirrored: Vec<Vec<usize>> =
            rows.iter().map(|row| row.iter().rev().copied().collect()).collect();
        rows.extend(mirrored);
    }
    rows
}

/// The order of a taster who comes as the `nth`: rows of the square, shuffled once for all.
#[must_use]
pub fn order(glasses: usize, nth: usize, rng: &mut impl Rng) -> Vec<usize> {
    let mut rows = williams(glasses);
    rows.shuffle(rng);
    rows.swap_remove(nth % rows.len().max(1))
}

/// Which of two drinks stands at each of three places in a triangle: the six ways, each once.
pub(crate) const TRIANGLES: [[usize; 3]; 6] =
    [[0, 0, 1], [0, 1, 0], [1, 0, 0], [1, 1, 0], [1, 0, 1], [0, 1, 1]];
/// The two ways of a pair.
pub(crate) const PAIRS: [[usize; 2]; 2] = [[0, 1], [1, 0]];
/// The four ways of a duo–trio: what is tasted first and known, then the two.
pub(crate) const TRIOS: [[usize; 3]; 4] = [[0, 0, 1], [0, 1, 0], [1, 0, 1], [1, 1, 0]];

/// The way in which the `nth` tasting is served: every `ways.len()` of them have each way once, in an
/// order that nobody can foretell. `rng` makes each round's anew from the same source.
#[must_use]
pub(crate) fn served<const N: usize>(
    ways: &[[usize; N]],
    nth: usize,
    rng: &mut impl Rng,
) -> [usize; N] {
    let mut round: Vec<[usize; N]> = ways.to_vec();
    for _ in 0..=nth / ways.len() {
        round.shuffle(rng);
    }
    round[nth % ways.len()]
}

#[cfg(test)]
mod tests {
    use super::*;
    use rand::SeedableRng;
    use rand::rngs::StdRng;

    #[test]
    fn no_code_can_be_taken_for_another() {
        for seed in 0..200 {
            let codes = codes(7, &mut StdRng::seed_from_u64(seed));
            assert_eq!(codes.len(), 7);
            for (i, code) in codes.iter().enumerate() {
                assert_eq!(code.len(), 3);
                assert!(!code.contains('0') && !["123", "987", "365"].contains(&code.as_str()));
                for other in &codes[..i] {
                    let common = code.chars().filter(|c| other.contains(*c)).count();
                    assert!(common < 2, "{code} and {other}");
                }
            }
        }
    }

    #[test]
    fn no_code_stands_twice_at_a_table() {
        for seed in 0..20 {
            let sets = codes_apart(&[3; 24], &mut StdRng::seed_from_u64(seed));
            let all: HashSet<&String> = sets.iter().flatten().collect();
            assert_eq!(all.len(), 72, "{sets:?}");
        }
        // More than there are codes: dealt all the same.
        assert_eq!(codes_apart(&[3; 300], &mut StdRng::seed_from_u64(1)).len(), 300);
    }

    #[test]
    fn in_a_williams_square_each_stands_everywhere_and_follows_each() {
        for glasses in 2..=7 {
            let rows = williams(glasses);
            let rounds = if glasses % 2 == 1 { 2 } else { 1 };
            assert_eq!(rows.len(), glasses * rounds);
            for glass in 0..glasses {
                for place in 0..glasses {
                    let often = rows.iter().filter(|row| row[place] == glass).count();
                    assert_eq!(often, rounds, "{glass} at {place} of {glasses}");
                }
                for next in (0..glasses).filter(|next| *next != glass) {
                    let pairs = rows.iter().flat_map(|row| row.windows(2));
                    let often = pairs.filter(|pair| **pair == [glass, next]).count();
                    assert_eq!(often, rounds, "{next} after {glass} of {glasses}");
                }
            }
        }
    }

    #[test]
    fn every_six_triangles_are_the_six_ways() {
        for round in 0..4 {
            let mut seen: Vec<[usize; 3]> = (0..6)
                .map(|i| served(&TRIANGLES, round * 6 + i, &mut StdRng::seed_from_u64(9)))
                .collect();
            seen.sort_unstable();
            let mut all = TRIANGLES.to_vec();
            all.sort_unstable();
            assert_eq!(seen, all);
        }
    }
}
