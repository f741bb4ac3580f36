//! Whether two drinks taste different: how sure an answer is, and how many tastings it takes.
//!
//! A taster who tastes nothing guesses: a third of triangles is right by luck, half of pairs and trios.
//! How many were right is judged exactly, by the binomial. How large a difference is, is told as *d′*: so
//! many times the taster's own unsureness (Thurstone 1927); at d′ 1 three of four pairs are told
//! rightly. From d′ follows the share that would be right (Ennis 1993), and from that what so many
//! tastings can find.

use serde::{Deserialize, Serialize};
use statrs::distribution::{Binomial, DiscreteCDF};

use crate::normal::{below, density};

/// A test of whether two drinks taste different.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Method {
    /// Three glasses, two alike: which is the odd one?
    Triangle,
    /// Two glasses: which is sweeter?
    Pairs,
    /// One that is known, then two: which of them is the same?
    DuoTrio,
}

/// As sure as one wants to be: wrong once in twenty.
const SURE: f64 = 0.05;
/// The chance with which a difference that is there should be found.
const FOUND: f64 = 0.8;
/// The difference that is small enough to call two drinks alike, as d′: a taster who compares them side by
/// side picks the odd one of three rightly 42 times in 100, where luck alone gives 33.
const ALIKE: f64 = 1.0;
/// Nobody tastes more often.
const MOST: u64 = 2000;

impl Method {
    /// The share that is right by luck.
    #[must_use]
    pub fn by_luck(self) -> f64 {
        match self {
            Self::Triangle => 1.0 / 3.0,
            Self::Pairs | Self::DuoTrio => 0.5,
        }
    }

    /// How many glasses one tasting takes.
    #[must_use]
    pub fn glasses(self) -> usize {
        match self {
            Self::Pairs => 2,
            Self::Triangle | Self::DuoTrio => 3,
        }
    }

    /// The share that is right where the difference is `d`, in d′ from 0 up (Ennis 1993).
    ///
    /// Triangle: 2∫₀^∞ [Φ(−u√3 + d√⅔) + Φ(−u√3 − d√⅔)] φ(u) du, by Simpson's rule to 1e-7. Pairs:
    /// Φ(d/√2). Duo–trio: 1 − Φ(d/√2) − Φ(d/√6) + 2Φ(d/√2)Φ(d/√6).
    #[must_use]
    pub fn share_right(self, d: f64) -> f64 {
        match self {
            Self::Pairs => below(d / 2_f64.sqrt()),
            Self::DuoTrio => {
                let (a, b) = (below(d / 2_f64.sqrt()), below(d / 6_f64.sqrt()));
                1.0 - a - b + 2.0 * a * b
            }
            Self::Triangle => {
                const PARTS: usize = 64;
                const END: f64 = 8.0;
                let by = d * (2.0_f64 / 3.0).sqrt();
                let at = |u: f64| {
                    let wide = -u * 3_f64.sqrt();
                    2.0 * (below(wide + by) + below(wide - by)) * density(u)
                };
                let step = END / PARTS as f64;
                let sum: f64 = (0..=PARTS)
                    .map(|i| {
                        let weight = match i {
                            0 | PARTS => 1.0,
                            i if i % 2 == 1 => 4.0,
                            _ => 2.0,
                        };
                        weight * at(i as f64 * step)
                    })
                    .sum();
                sum * step / 3.0
            }
        }
    }

    /// How likely luck alone gives so many right answers of `tastings`, or more. For pairs, where no answer
    /// is the right one beforehand, as uneven a count either way.
    #[must_use]
    pub fn luck(self, right: u64, tastings: u64) -> f64 {
        let right = match self {
            Self::Pairs => right.max(tastings.saturating_sub(right)),
            _ => right,
        };
        let one_side = at_least(right, tastings, self.by_luck());
        match self {
            Self::Pairs => (2.0 * one_side).min(1.0),
            _ => one_side,
        }
    }

    /// The fewest right answers of so many tastings that luck gives at most once in twenty; none where there
    /// are too few tastings for any answer to be sure.
    #[must_use]
    pub fn fewest_right(self, tastings: u64) -> Option<u64> {
        // Below the count that luck gives there is nothing to look for.
        let from = (tastings as f64 * self.by_luck()).ceil() as u64;
        (from..=tastings).find(|right| self.luck(*right, tastings) <= SURE)
    }

    /// The chance that so many tastings find a difference of `d`.
    #[must_use]
    pub fn chance_to_find(self, d: f64, tastings: u64) -> f64 {
        // A difference has a direction: that pairs would be as uneven the wrong way is next to nothing.
        self.fewest_right(tastings)
            .map_or(0.0, |fewest| at_least(fewest, tastings, self.share_right(d)))
    }

    /// The fewest tastings that find a difference of `d` four times in five; none within two thousand.
    #[must_use]
    pub fn tastings_for(self, d: f64) -> Option<u64> {
        (2..=MOST).find(|n| self.chance_to_find(d, *n) >= FOUND)
    }

    /// The smallest difference that so many tastings find four times in five, as d′; none where none is.
    #[must_use]
    pub fn finds(self, tastings: u64) -> Option<f64> {
        crate::root::find(0.0, 6.0, 1e-3, |d| self.chance_to_find(d, tastings) - FOUND)
    }

    /// The difference, as d′, at which so large a share is right.
    fn difference_of(self, share: f64) -> f64 {
        if share <= self.by_luck() {
            return 0.0;
        }
        crate::root::find(0.0, 8.0, 1e-4, |d| self.share_right(d) - share).unwrap_or(8.0)
    }

    /// What so many right answers of so many tastings show.
    #[must_use]
    pub fn verdict(self, right: u64, tastings: u64) -> Verdict {
        let luck = self.luck(right, tastings);
        let shown = tastings > 0 && luck <= SURE;
        // So few right would be rare if the difference were as large as that: then it is smaller.
        let best = match self {
            Self::Pairs => right.max(tastings.saturating_sub(right)),
            _ => right,
        };
        let so_few = 1.0 - at_least(best + 1, tastings, self.share_right(ALIKE));
        let finding = if shown {
            Shown::Different
        } else if tastings > 0 && so_few <= SURE {
            Shown::Alike
        } else {
            Shown::NotShown
        };
        // All right is not right for ever: half an answer is taken off, as is usual with shares of one
        // (Macmillan and Kaplan 1985).
        let most = 1.0 - 1.0 / (2.0 * tastings.max(1) as f64);
        let share = if tastings == 0 { 0.0 } else { (best as f64 / tastings as f64).min(most) };
        Verdict {
            right,
            tastings,
            luck,
            finding,
            difference: (tastings > 0).then(|| self.difference_of(share)),
            words: self.words(right, tastings, luck, finding),
        }
    }

    fn words(self, right: u64, tastings: u64, luck: f64, finding: Shown) -> String {
        if tastings == 0 {
            return "Nobody has tasted yet.".into();
        }
        let told = match self {
            Self::Triangle => format!("{right} of {tastings} found the odd one"),
            Self::DuoTrio => format!("{right} of {tastings} found the match"),
            Self::Pairs => {
                let more = right.max(tastings - right);
                format!("{more} of {tastings} chose the same one")
            }
        };
        let often = if luck >= 0.5 {
            "that happens by luck more often than not".to_owned()
        } else {
            format!("that happens by luck once in {}", say_odds(1.0 / luck))
        };
        let means = match finding {
            Shown::Different => "They are different.",
            Shown::Alike => {
                "They taste the same: with a clear difference, more people would have found it."
            }
            Shown::NotShown => {
                "We can't tell: too few tastings to show a difference or rule one out."
            }
        };
        format!("{told}: {often}. {means}")
    }
}

/// "56", "3.5", "1,200": as fine as anyone counts.
fn say_odds(odds: f64) -> String {
    match odds {
        o if o < 5.0 => format!("{:.1}", (o * 2.0).round() / 2.0).replace(".0", ""),
        o if o < 100.0 => format!("{o:.0}"),
        o if o < 1000.0 => format!("{:.0}", (o / 10.0).round() * 10.0),
        _ => "a thousand or more".into(),
    }
}

/// The chance of at least so many of `tries`, each with the chance `each`.
fn at_least(right: u64, tries: u64, each: f64) -> f64 {
    if right == 0 {
        return 1.0;
    }
    if right > tries {
        return 0.0;
    }
    Binomial::new(each.clamp(0.0, 1.0), tries).map_or(1.0, |b| b.sf(right - 1))
}

/// The result of a comparison.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Verdict {
    /// How many were right; of pairs, how many chose the first drink.
    pub right: u64,
    /// The number of tastings.
    pub tastings: u64,
    /// The chance that luck alone gives this result, 0 to 1.
    pub luck: f64,
    /// The meaning of the result.
    pub finding: Shown,
    /// The size of the difference, as d′.
    pub difference: Option<f64>,
    /// In words: "5 of 6 found the odd one: that happens by luck once in 56."
    pub words: String,
}

/// The filters of the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Shown {
    /// Luck gives that at most once in twenty.
    Different,
    /// Were they clearly different, so few right would be rarer than once in twenty.
    Alike,
    /// Neither.
    NotShown,
}

/// The difference that a number of tasters can find.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Prospect {
    /// The planned number of tastings.
    pub tastings: u64,
    /// How many right answers would show a difference; missing if no number would.
    pub fewest_right: Option<u64>,
    /// The smallest difference that is found 4 times out of 5, as d′.
    pub finds: Option<f64>,
    /// How many tastings a large, a clear and a slight difference take.
    pub takes: Vec<Takes>,
    /// In words.
    pub words: String,
}

/// How many tastings a difference takes.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Takes {
    /// A difference of that size, in words.
    pub what: String,
    /// The difference as d′.
    pub difference: f64,
    /// The number of tastings that finds it 4 times out of 5; missing if 2000 aren't enough.
    pub tastings: Option<u64>,
}

/// Differences as one speaks of them. At d′ 3 nearly everybody finds the odd glass, at 1 few do.
const DIFFERENCES: [(&str, f64); 4] =
    [("obvious", 3.0), ("clear side by side", 2.0), ("slight", 1.5), ("very slight", 1.0)];

/// The difference that this number of tastings can find.
#[must_use]
pub fn prospect(method: Method, tastings: u64) -> Prospect {
    let tastings = tastings.min(MOST);
    let fewest_right = method.fewest_right(tastings);
    let finds = method.finds(tastings);
    let takes = DIFFERENCES
        .iter()
        .map(|(what, d)| Takes {
            what: (*what).to_owned(),
            difference: *d,
            tastings: method.tastings_for(*d),
        })
        .collect();
    let words = match (fewest_right, finds) {
        (None, _) => format!(
            "{tastings} tastings are too few: even if all are right, it may be luck. Taste again, or ask more people."
        ),
        (Some(fewest), Some(d)) => {
            let near = DIFFERENCES.iter().find(|(_, of)| d >= of - 0.25);
            let what = near.map_or("very slight", |(what, _)| what);
            format!(
                "{fewest} of {tastings} must be right. That finds a difference that is {what} 4 times out of 5."
            )
        }
        (Some(fewest), None) => format!(
            "{fewest} of {tastings} must be right. Even an obvious difference may be missed."
        ),
    };
    Prospect { tastings, fewest_right, finds, takes, words }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn fewest_right_of_a_triangle_are_those_of_the_tables() {
        let table = [(4, 5), (5, 6), (5, 7), (6, 8), (7, 10), (8, 12), (13, 24), (15, 30)];
        for (fewest, of) in table {
            assert_eq!(Method::Triangle.fewest_right(of), Some(fewest), "of {of}");
        }
        assert_eq!(Method::Triangle.fewest_right(2), None, "two may both be luck");
    }

    #[test]
    fn all_right_is_a_large_difference_and_no_endless_one() {
        let of = |right, tastings| Method::Triangle.verdict(right, tastings).difference.unwrap();
        // Two of two say less than twenty of twenty, and neither is off the scale.
        assert!(of(2, 2) > 1.5 && of(2, 2) < 3.5, "{}", of(2, 2));
        assert!(of(20, 20) > of(6, 6) && of(6, 6) > of(2, 2) && of(20, 20) < 6.0, "{}", of(20, 20));
        assert!(of(5, 6) < of(6, 6));
    }

    #[test]
    fn luck_is_exact() {
        let near = |p: f64, wanted: f64| assert!((p - wanted).abs() < 5e-5, "{p} not {wanted}");
        near(Method::Triangle.luck(5, 6), 0.0178);
        near(Method::Triangle.luck(8, 12), 0.0188);
        near(Method::Triangle.luck(13, 24), 0.0284);
        near(Method::Pairs.luck(6, 6), 0.0313);
        near(Method::Pairs.luck(9, 10), 0.0215);
        near(Method::Pairs.luck(1, 10), 0.0215);
        near(Method::Pairs.luck(10, 12), 0.0386);
        near(Method::Pairs.luck(5, 10), 1.0);
    }

    #[test]
    fn the_share_that_is_right_follows_the_difference() {
        for (d, share) in [(0.0, 0.3333), (1.0, 0.418), (2.0, 0.605), (3.0, 0.781)] {
            assert!((Method::Triangle.share_right(d) - share).abs() < 5e-4, "at {d}");
        }
        assert!((Method::DuoTrio.share_right(0.0) - 0.5).abs() < 1e-9);
        assert!((Method::Pairs.share_right(0.954) - 0.75).abs() < 1e-3);
        for method in [Method::Triangle, Method::Pairs, Method::DuoTrio] {
            let shares: Vec<f64> =
                (0..40).map(|i| method.share_right(f64::from(i) / 5.0)).collect();
            assert!(shares.windows(2).all(|w| w[1] > w[0]) && *shares.last().unwrap() < 1.0);
        }
    }

    #[test]
    fn as_many_tastings_as_a_difference_takes() {
        assert_eq!(Method::Triangle.tastings_for(2.0), Some(23));
        assert_eq!(Method::Triangle.tastings_for(1.5), Some(53));
        let finds = Method::Triangle.finds(23).unwrap();
        assert!((1.8..=2.0).contains(&finds), "{finds}");
    }

    #[test]
    fn not_shown_is_told_apart_from_alike() {
        let found = Method::Triangle.verdict(5, 6);
        assert_eq!(found.finding, Shown::Different);
        assert!(
            found.words.starts_with("5 of 6 found the odd one: that happens by luck once in 56")
        );
        assert_eq!(Method::Triangle.verdict(2, 6).finding, Shown::NotShown);
        assert_eq!(Method::Triangle.verdict(28, 90).finding, Shown::Alike);
        assert_eq!(Method::Triangle.verdict(0, 0).finding, Shown::NotShown);
        assert!(Method::Triangle.verdict(9, 24).difference.unwrap() < 1.0);
    }
}
