//! What a piece of fruit gives, and how readings of one's own change that.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, StudentsT};

use super::{Reading, Size};
use crate::quantity::Millilitres;

/// What is known of the juice of one piece: a normal–inverse-gamma distribution of its mean and
/// spread.
///
/// The tables' mean and standard deviation are the prior, worth four pieces for the mean (markets
/// differ) and three doublings of confidence for the spread. A reading of `n` pieces with the mean x̄
/// moves it in closed form:
///
/// ```text
/// κ' = κ + n    μ' = (κ μ + n x̄) / κ'    α' = α + ½    β' = β + κ n (x̄ − μ)² / (2 κ')
/// ```
///
/// Only the sum of the pieces is read, so a reading counts once for the spread. What further pieces
/// will give follows Student's t.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Yield {
    /// Expected juice of one, ml.
    pub mean: f64,
    /// How many pieces the mean is worth.
    pub weight: f64,
    /// Shape of the spread.
    pub shape: f64,
    /// Scale of the spread, ml².
    pub scale: f64,
    /// How much of the mean is by now own experience, 0 to 1.
    pub own_share: f64,
}

const PRIOR_WEIGHT: f64 = 4.0;
const PRIOR_SHAPE: f64 = 3.0;

impl Yield {
    /// As the tables have it; nothing for what isn't squeezed.
    fn prior(size: &Size) -> Option<Self> {
        let (mean, sd) = (size.juice?.0, size.juice_sd?.0);
        Some(Self {
            mean,
            weight: PRIOR_WEIGHT,
            shape: PRIOR_SHAPE,
            // So that the expected variance, β / (α − 1), is the tables'.
            scale: sd * sd * (PRIOR_SHAPE - 1.0),
            own_share: 0.0,
        })
    }

    /// As the tables have it, moved by the readings of that size; see [`Known::apply`].
    pub(super) fn of(size: &Size, key: &str, readings: &[Reading]) -> Known {
        let mut known = Self::prior(size);
        let mut read = false;
        if let Some(known) = &mut known {
            for reading in readings.iter().filter(|r| r.produce == key) {
                *known = known.after(reading.pieces, reading.juice_ml / reading.pieces);
                read = true;
            }
        }
        Known { known, read }
    }

    /// After a reading of so many pieces with that mean.
    #[must_use]
    pub fn after(&self, pieces: f64, mean: f64) -> Self {
        let weight = self.weight + pieces;
        Self {
            mean: (self.weight * self.mean + pieces * mean) / weight,
            weight,
            shape: self.shape + 0.5,
            scale: self.scale + self.weight * pieces * (mean - self.mean).powi(2) / (2.0 * weight),
            own_share: 1.0 - PRIOR_WEIGHT / weight,
        }
    }

    /// Standard deviation over pieces, ml.
    #[must_use]
    pub fn spread(&self) -> f64 {
        (self.scale / (self.shape - 1.0)).sqrt()
    }

    /// The scale of Student's t for the sum of so many further pieces.
    fn scale_of_sum(&self, pieces: f64) -> f64 {
        (self.scale / self.shape * (pieces + pieces * pieces / self.weight)).sqrt()
    }

    /// The chance that so many pieces give at least so much, 0 to 1.
    #[must_use]
    pub fn chance_of(&self, pieces: f64, wanted: Millilitres) -> f64 {
        if pieces <= 0.0 {
            return if wanted.0 <= 0.0 { 1.0 } else { 0.0 };
        }
        let short = (wanted.0 - pieces * self.mean) / self.scale_of_sum(pieces);
        StudentsT::new(0.0, 1.0, 2.0 * self.shape).map_or(0.5, |t| t.sf(short))
    }

    /// The fewest pieces that give so much with that chance.
    #[must_use]
    pub fn pieces_for(&self, wanted: Millilitres, chance: f64) -> u32 {
        if wanted.0 <= 0.0 {
            return 0;
        }
        let likely = (wanted.0 / self.mean).ceil().max(1.0) as u32;
        // More never gives less; beyond four times the mean the tables are wrong, not the count.
        let (mut low, mut high) = (1, likely.saturating_mul(4).max(8));
        while low < high {
            let middle = low + (high - low) / 2;
            if self.chance_of(f64::from(middle), wanted) >= chance {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        low
    }

    /// How likely a mean as far off as this one is, or farther; under a thousandth one should ask.
    #[must_use]
    pub fn likelihood(&self, pieces: f64, mean: f64) -> f64 {
        let off = (mean - self.mean).abs() * pieces / self.scale_of_sum(pieces);
        StudentsT::new(0.0, 1.0, 2.0 * self.shape).map_or(1.0, |t| 2.0 * t.sf(off))
    }
}

/// What is known of a size, and whether any of it was read here.
pub(super) struct Known {
    known: Option<Yield>,
    read: bool,
}

impl Known {
    /// Puts it over the table's figures.
    pub(super) fn apply(self, size: &mut Size) {
        let Some(known) = self.known else { return };
        size.juice_known = Some(known);
        if self.read {
            size.juice = Some(Millilitres(known.mean));
            size.juice_sd = Some(Millilitres(known.spread()));
            size.measured = true;
        }
    }
}

impl Size {
    /// What is known of the juice of one; the tables' figures if nothing was read.
    #[must_use]
    pub fn juice_yield(&self) -> Option<Yield> {
        self.juice_known.or_else(|| Yield::prior(self))
    }
}

#[cfg(test)]
mod tests {
    use super::super::Cupboard;
    use super::*;
    use rand::SeedableRng;
    use rand_distr::{Distribution, Gamma, Normal};

    fn lime() -> Yield {
        Cupboard::builtin().size_named("lime/medium").unwrap().1.juice_yield().unwrap()
    }

    #[test]
    fn the_posterior_is_the_closed_form() {
        // Seven limes that gave 205 ml: 29.29 each against a prior of 27 worth four.
        let after = lime().after(7.0, 205.0 / 7.0);
        assert!((after.mean - (4.0 * 27.0 + 205.0) / 11.0).abs() < 1e-12);
        let scale = 72.0 + 4.0 * 7.0 * (205.0_f64 / 7.0 - 27.0).powi(2) / (2.0 * 11.0);
        assert!((after.scale - scale).abs() < 1e-9, "{} and {scale}", after.scale);
        assert_eq!((after.weight, after.shape), (11.0, 3.5));
        assert!((after.own_share - 7.0 / 11.0).abs() < 1e-12);
    }

    #[test]
    fn buying_agrees_with_simulation_to_a_piece() {
        let mut chance = rand::rngs::StdRng::seed_from_u64(11);
        for (known, wanted) in [
            (lime(), 190.0),
            (lime(), 60.0),
            (lime().after(12.0, 22.0).after(9.0, 24.0), 400.0),
            (lime().after(30.0, 31.0), 1000.0),
        ] {
            // Draw a market, then pieces from it, and count how many it takes.
            let precision = Gamma::new(known.shape, 1.0 / known.scale).unwrap();
            let mut counts: Vec<u32> = (0..4000)
                .map(|_| {
                    let variance = 1.0 / precision.sample(&mut chance);
                    let market = Normal::new(known.mean, (variance / known.weight).sqrt()).unwrap();
                    let piece = Normal::new(market.sample(&mut chance), variance.sqrt()).unwrap();
                    let (mut sum, mut count) = (0.0, 0);
                    while sum < wanted && count < 500 {
                        sum += piece.sample(&mut chance).max(0.0);
                        count += 1;
                    }
                    count
                })
                .collect();
            counts.sort_unstable();
            for share in [0.5, 0.9] {
                let simulated = counts[(counts.len() as f64 * share) as usize];
                let told = known.pieces_for(Millilitres(wanted), share);
                assert!(told.abs_diff(simulated) <= 1, "{share}: {told}, simulated {simulated}");
            }
        }
        assert_eq!(lime().pieces_for(Millilitres(190.0), 0.9), 9, "as in the kitchen");
    }

    #[test]
    fn a_reading_out_of_all_likelihood_is_noticed() {
        assert!(lime().likelihood(7.0, 29.0) > 0.3);
        assert!(lime().likelihood(7.0, 90.0) < 1e-3);
    }
}
