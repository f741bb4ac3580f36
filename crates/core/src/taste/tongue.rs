//! How small a difference somebody tastes: a staircase of pairs or triangles.
//!
//! Three right answers in a row make the difference smaller, one wrong answer larger (Wetherill and
//! Levitt 1965): so it walks to where about four in five are right. What is told is the difference at
//! which three of four pairs are right. It is found from all answers together: d′ grows in proportion to
//! the logarithm of the difference, and the chance of an answer follows from d′ as in a comparison. Before
//! the first answer it is thought to lie round what most people notice, within a factor of about two.

use serde::{Deserialize, Serialize};

use super::compare::Method;
use super::design::{PAIRS, TRIANGLES, codes, served};
use super::find::Finding;
use super::ladder::{Bench, Glass, Jug, Pourer, Spoon, read_glass};
use super::taster::Notices;
use crate::balance::Palate;
use crate::cupboard::{Cupboard, Staple};
use crate::drink::{Action, Dissolving, Drink, Family};
use crate::fault::FieldError;
use crate::quantity::Amount;
use crate::quantity::Units;
use crate::work::Worktop;
use rand::SeedableRng;
use rand::rngs::StdRng;

/// The taste quality of a test.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Quality {
    /// Sugar water.
    Sweetness,
    /// Water with citric acid.
    Acidity,
}

/// The quality and the method of a staircase test.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Staircase {
    /// The quality that differs.
    pub quality: Quality,
    /// Pairs or triangles.
    pub method: Method,
}

/// Spoons of the strong jug in the glass that differs, from the smallest difference to the largest; a glass
/// has twenty-four.
const STAIRS: [u32; 10] = [1, 2, 3, 4, 6, 8, 10, 13, 17, 24];
/// Where one begins.
const FIRST: usize = 6;
const SPOONS: u32 = 24;
/// It is over after so many turns of direction, or so many tastings.
const TURNS: u32 = 6;
const MOST: usize = 30;
/// The plain jug in g in 100 g, and how many times as much the strong one has.
const PLAIN: (f64, f64) = (8.0, 0.4);
const STRONGER: f64 = 1.6;
/// At d′ 0.954 three of four pairs are right.
const AT_NOTICED: f64 = 0.954;
/// How far people are apart in what they notice, ln. Estimated.
const APART: f64 = 0.6;

/// One answer in a staircase test.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Tried {
    /// The level of the staircase.
    pub stair: usize,
    /// Whether the answer was right.
    pub right: bool,
}

/// What is served next.
#[derive(Debug, Clone, PartialEq)]
pub struct Trial {
    /// The stair.
    pub stair: usize,
    /// Codes of the glasses, in the order in which they are tasted.
    pub codes: Vec<String>,
    /// Which of these hold the stronger drink.
    pub stronger: Vec<bool>,
    /// Which one is the right answer.
    pub answer: usize,
}

impl Staircase {
    /// The stair that comes next; none when it is over.
    #[must_use]
    pub fn stair(&self, tried: &[Tried]) -> Option<usize> {
        let (mut stair, mut in_row, mut turns, mut up) = (FIRST, 0, 0, None);
        for one in tried {
            stair = one.stair;
            let moved = if one.right {
                in_row += 1;
                if in_row < 3 {
                    continue;
                }
                stair = stair.saturating_sub(1);
                false
            } else {
                stair = (stair + 1).min(STAIRS.len() - 1);
                true
            };
            in_row = 0;
            if up.is_some_and(|up: bool| up != moved) {
                turns += 1;
            }
            up = Some(moved);
        }
        (turns < TURNS && tried.len() < MOST).then_some(stair)
    }

    /// What is served as the `nth` tasting, on a stair.
    #[must_use]
    pub fn trial(&self, stair: usize, nth: usize, seed: u64) -> Trial {
        let mut rng = StdRng::seed_from_u64(seed);
        let order: Vec<usize> = match self.method {
            Method::Triangle => served(&TRIANGLES, nth, &mut rng).to_vec(),
            _ => served(&PAIRS, nth, &mut rng).to_vec(),
        };
        let mut rng = StdRng::seed_from_u64(seed ^ (nth as u64 + 1).wrapping_mul(0x9e37_79b9));
        let codes = codes(order.len(), &mut rng);
        let stronger: Vec<bool> = order.iter().map(|which| *which == 1).collect();
        let many = stronger.iter().filter(|s| **s).count();
        // Of a triangle the odd one, of a pair the stronger one.
        let odd = if self.method == Method::Triangle { many == 1 } else { true };
        let answer = stronger.iter().position(|s| *s == odd).unwrap_or(0);
        Trial { stair, codes, stronger, answer }
    }

    fn bench(&self, cupboard: &Cupboard) -> Bench {
        let of = |staple| cupboard.staple(staple).id.as_str();
        let mut bench = Bench::new(Drink {
            name: "Training".into(),
            family: Family::Lemonade,
            note: String::new(),
            part: None,
            vessels: Vec::new(),
            steps: Vec::new(),
        });
        for (name, times) in [("plain jug", 1.0), ("strong jug", STRONGER)] {
            let jug = bench.jug(name, 1000.0);
            let (what, percent) = match self.quality {
                Quality::Sweetness => (of(Staple::Sugar), PLAIN.0 * times),
                Quality::Acidity => (of(Staple::DryAcid), PLAIN.1 * times),
            };
            let places = if percent < 1.0 { 10.0 } else { 1.0 };
            let grams = (percent * 10.0 * places).round() / places;
            bench.step(Action::add(&jug, of(Staple::Water), Amount::millilitres(1000.0 - grams)));
            bench.step(Action::add(&jug, what, Amount::grams(grams)));
            bench.step(Action::Dissolve { vessel: jug, how: Dissolving::Stirred });
        }
        bench
    }

    /// The two jugs.
    ///
    /// # Errors
    /// None that a kitchen with water and sugar meets.
    pub fn jugs<'a>(&self, worktop: impl Into<Worktop<'a>>) -> Result<Vec<Jug>, FieldError> {
        let worktop = worktop.into();
        let bench = self.bench(worktop.cupboard());
        bench.jugs_as_filled(&["plain", "strong"], Units::AsWritten, worktop)
    }

    /// The plain glass, and that of a stair.
    ///
    /// # Errors
    /// As [`Self::jugs`].
    pub fn glasses<'a>(
        &self,
        stair: usize,
        worktop: impl Into<Worktop<'a>>,
    ) -> Result<[Glass; 2], FieldError> {
        let worktop = worktop.into();
        let bench = self.bench(worktop.cupboard());
        let spoon = Spoon::of_the_table();
        let sample = spoon.ml * f64::from(SPOONS) / 2.0;
        // Half a glass is enough to tell: a stair of one spoon is poured as half a teaspoon.
        let half = spoon.half();
        let pourer = Pourer::with(worktop, &bench, 2, sample, half)?;
        let stair = STAIRS[stair.min(STAIRS.len() - 1)];
        let pour = |strong: u32| {
            let units = [SPOONS - strong, strong];
            let drink = bench.glass(&pourer.amounts(&units), sample);
            read_glass(drink, pourer.poured(&units), worktop)
        };
        Ok([pour(0)?, pour(stair)?])
    }

    /// How much more a stair has than plain, as a part of it.
    #[must_use]
    pub fn part(stair: usize) -> f64 {
        let strong = f64::from(STAIRS[stair.min(STAIRS.len() - 1)]) / f64::from(SPOONS);
        strong * (STRONGER - 1.0)
    }

    /// The difference that is just noticed, from all answers: the middle of the posterior on a grid, and
    /// between what it lies eight times in ten.
    #[must_use]
    pub fn notices(&self, tried: &[Tried]) -> Notices {
        const PLACES: i32 = 120;
        let usual = match self.quality {
            Quality::Sweetness => Palate::USUAL.sweetness,
            Quality::Acidity => Palate::USUAL.acidity,
        };
        let mut counts = [[0.0; 2]; STAIRS.len()];
        for one in tried {
            counts[one.stair][usize::from(!one.right)] += 1.0;
        }
        let at = |i: i32| usual.ln() + 3.0 * APART * f64::from(i) / f64::from(PLACES / 2);
        let logs: Vec<(f64, f64)> = (-PLACES / 2..=PLACES / 2)
            .map(|i| {
                let place = at(i);
                let z = (place - usual.ln()) / APART;
                let said = counts.iter().enumerate().filter(|(_, c)| c[0] + c[1] > 0.0);
                let said = said.map(|(stair, [right, wrong])| {
                    let d = AT_NOTICED * (1.0 + Self::part(stair)).ln() / (1.0 + place.exp()).ln();
                    // Who is inattentive once in thirty is wrong whatever the difference.
                    let chance =
                        self.method.share_right(d.min(8.0)) * 0.967 + self.method.by_luck() * 0.033;
                    right * chance.ln() + wrong * (1.0 - chance).ln()
                });
                (place, said.sum::<f64>() - z * z / 2.0)
            })
            .collect();
        let top = logs.iter().map(|(_, l)| *l).fold(f64::MIN, f64::max);
        let all: f64 = logs.iter().map(|(_, l)| (l - top).exp()).sum();
        let quantile = |share: f64| {
            let mut sum = 0.0;
            let found = logs.iter().find(|(_, l)| {
                sum += (l - top).exp() / all;
                sum >= share
            });
            found.map_or(usual, |(place, _)| place.exp())
        };
        Notices { part: quantile(0.5), low: quantile(0.1), high: quantile(0.9) }
    }
}

/// How many pairs of a row somebody put in the right order: of all pairs.
#[must_use]
pub fn pairs_right(order: &[usize]) -> (u32, u32) {
    let mut right = 0;
    let mut all = 0;
    for (i, first) in order.iter().enumerate() {
        for second in &order[i + 1..] {
            all += 1;
            right += u32::from(first < second);
        }
    }
    (right, all)
}

/// Where the `nth` glass to guess of a session lies, as a part of the range of ratios.
///
/// Steps by the golden section spread any number of glasses evenly over the range; what is
/// shaken on to them keeps the next one from being foretold. Two that follow one another stay
/// a quarter of the range or more apart: a glass like the last one would only ask whether
/// somebody remembers, and in whole teaspoons it could be the very same one.
fn part_of_range(nth: usize, seed: u64) -> f64 {
    use rand::RngExt;
    const GOLDEN: f64 = 0.618_034;
    const SHAKEN: f64 = 0.06;
    let begins: f64 = StdRng::seed_from_u64(seed ^ 0x517c_c1b7).random();
    let shaken = StdRng::seed_from_u64(seed ^ (nth as u64 + 1).wrapping_mul(0x517c_c1b7))
        .random_range(-SHAKEN..SHAKEN);
    // Folded at the ends, so that a shake doesn't carry a glass from one end to the other.
    let bare = (begins + GOLDEN * nth as f64).fract();
    (bare + shaken).abs().min(2.0 - bare - shaken)
}

/// A glass whose figure is to be guessed: the `nth` of a session.
///
/// # Errors
/// As [`Finding::jugs`].
pub fn glass_to_guess<'a>(
    finding: &Finding,
    nth: usize,
    seed: u64,
    worktop: impl Into<Worktop<'a>>,
) -> Result<super::find::Mixed, FieldError> {
    // Evenly over the ratios that are drunk.
    let (low, high) = (8.0_f64.ln(), 34.0_f64.ln());
    finding.glass_at((low + (high - low) * part_of_range(nth, seed)).exp(), worktop)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rand::RngExt;

    #[test]
    fn three_right_go_down_one_wrong_goes_up() {
        let it = Staircase { quality: Quality::Sweetness, method: Method::Pairs };
        let one = |stair, right| Tried { stair, right };
        assert_eq!(it.stair(&[]), Some(FIRST));
        assert_eq!(it.stair(&[one(6, true), one(6, true)]), Some(6));
        assert_eq!(it.stair(&[one(6, true), one(6, true), one(6, true)]), Some(5));
        assert_eq!(it.stair(&[one(6, true), one(6, false)]), Some(7));
        assert_eq!(it.stair(&[one(9, false)]), Some(9), "there is no larger difference");
    }

    /// Tongues whose noticeable difference is known walk the stairs.
    #[test]
    fn what_a_tongue_notices_is_found() {
        for method in [Method::Pairs, Method::Triangle] {
            let it = Staircase { quality: Quality::Sweetness, method };
            let (mut inside, mut all) = (0, 0);
            let mut rng = StdRng::seed_from_u64(21);
            for i in 0..60 {
                let truth = Palate::USUAL.sweetness
                    * (APART * super::super::pretend::normal(&mut rng)).exp();
                let mut tried = Vec::new();
                while let Some(stair) = it.stair(&tried) {
                    let d = AT_NOTICED * (1.0 + Staircase::part(stair)).ln() / (1.0 + truth).ln();
                    let right = rng.random_bool(method.share_right(d));
                    tried.push(Tried { stair, right });
                }
                let found = it.notices(&tried);
                assert!(found.low < found.part && found.part < found.high, "{i}");
                assert!(tried.len() <= MOST);
                inside += u32::from(found.low < truth && truth < found.high);
                all += 1;
            }
            let share = f64::from(inside) / f64::from(all);
            assert!((0.68..=0.92).contains(&share), "{method:?}: {share}");
        }
    }

    #[test]
    fn the_right_glass_is_the_odd_one_and_stands_everywhere() {
        let it = Staircase { quality: Quality::Acidity, method: Method::Triangle };
        let mut places = [0; 3];
        for nth in 0..60 {
            let trial = it.trial(3, nth, 77);
            let alike = trial.stronger.iter().filter(|s| **s == trial.stronger[trial.answer]);
            assert_eq!(alike.count(), 1, "the answer is the one that has no twin");
            places[trial.answer] += 1;
        }
        assert_eq!(places, [20, 20, 20]);
    }

    #[test]
    fn glasses_to_guess_lie_all_over_and_never_beside_the_last() {
        for seed in 0..200 {
            let parts: Vec<f64> = (0..30).map(|nth| part_of_range(nth, seed)).collect();
            assert!(parts.iter().all(|part| (0.0..=1.0).contains(part)), "{seed}");
            let nearest = parts.windows(2).map(|two| (two[0] - two[1]).abs()).fold(1.0, f64::min);
            assert!(nearest > 0.25, "{seed}: {nearest}");
            for third in 0..3 {
                let (from, to) = (f64::from(third) / 3.0, f64::from(third + 1) / 3.0);
                let here = parts.iter().filter(|part| (from..to).contains(*part)).count();
                assert!((7..=13).contains(&here), "{seed}: {here} of 30 in third {third}");
            }
        }
        assert!((part_of_range(0, 1) - part_of_range(0, 2)).abs() > 1e-3, "each session its own");
    }

    #[test]
    fn a_row_in_order_has_all_pairs_right() {
        assert_eq!(pairs_right(&[0, 1, 2, 3]), (6, 6));
        assert_eq!(pairs_right(&[3, 2, 1, 0]), (0, 6));
        assert_eq!(pairs_right(&[0, 2, 1, 3]), (5, 6));
    }
}
