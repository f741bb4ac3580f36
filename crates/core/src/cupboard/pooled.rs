//! What is known of a figure that differs from market to market, from lot to lot, and from piece to piece.
//!
//! These lemons were bought at once: they are a **lot**. Lots differ, pieces of one lot differ again, and what this
//! kitchen buys differs from what the tables were made of. So what `n` pieces of the next lot give varies by
//!
//! ```text
//! sd² = market² + lot² + piece²/n
//! ```
//!
//! and no number of pieces is surer than its lot allows. The three stand in a fixed proportion; how large they are
//! is itself known only roughly, and learned from how far lots lie apart. It is the normal–inverse-gamma model of
//! lots with a mean of their own (partial pooling), in closed form. With variances in units of `σ²`, of a lot that
//! showed `x`, itself known to within `e`:
//!
//! ```text
//! w = 1/(lot + e)    κ' = κ + w    μ' = (κ μ + w x)/κ'    α' = α + ½    β' = β + κ w (x − μ)²/(2 κ')
//! ```
//!
//! `κ` begins at `1/market`, and `σ²` is expected to be `β/(α − 1)`. What the next lot will show follows Student's t
//! with `2α` degrees of freedom around `μ`, with the square of its scale at `β/α (1/κ + lot + e)`.

use statrs::distribution::{ContinuousCDF, StudentsT};

/// How far markets and lots differ, as variances in units of the one that is learned.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Levels {
    /// How far what a kitchen buys lies from the tables.
    pub market: f64,
    /// How far its lots lie from each other.
    pub lot: f64,
}

impl Levels {
    /// Of what a piece gives, in units of the variance of one piece. Together they are worth a quarter: the tables'
    /// mean is worth four pieces. Estimate from the ranges in the tables.
    pub const PIECES: Self = Self { market: 1.0 / 8.0, lot: 1.0 / 8.0 };
    /// Of how sharp, sweet or quick a lot is, in units of how far any lot anywhere differs: lots of one market differ
    /// more from each other than markets do. Estimate.
    pub const LOTS: Self = Self { market: 0.25, lot: 0.75 };
}

/// How sure the tables' spread is: as if seen on so many lots, halved.
const SHAPE: f64 = 3.0;

/// What is known of a figure; see the text of this module for the letters.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pooled {
    /// What is expected of the next lot: `μ`.
    pub mean: f64,
    levels: Levels,
    /// `κ`.
    weight: f64,
    /// `α`.
    shape: f64,
    /// `β`.
    scale: f64,
}

impl Pooled {
    /// Before anything is seen here: a mean, and the standard deviation that is the unit.
    #[must_use]
    pub fn before(mean: f64, sd: f64, levels: Levels) -> Self {
        let scale = sd * sd * (SHAPE - 1.0);
        Self { mean, levels, weight: 1.0 / levels.market, shape: SHAPE, scale }
    }

    /// After a lot that showed so much, itself known to within a variance of `own` units.
    #[must_use]
    pub fn after(&self, seen: f64, own: f64) -> Self {
        let counts = 1.0 / (self.levels.lot + own);
        let weight = self.weight + counts;
        Self {
            mean: (self.weight * self.mean + counts * seen) / weight,
            weight,
            shape: self.shape + 0.5,
            scale: self.scale + self.weight * counts * (seen - self.mean).powi(2) / (2.0 * weight),
            ..*self
        }
    }

    /// The same of something that is so many times as much.
    #[must_use]
    pub fn times(&self, by: f64) -> Self {
        Self { mean: self.mean * by, scale: self.scale * by * by, ..*self }
    }

    /// How much of the mean is by now this kitchen's, 0 to 1.
    #[must_use]
    pub fn own_share(&self) -> f64 {
        1.0 - 1.0 / (self.levels.market * self.weight)
    }

    /// The standard deviation that is the unit, as it is expected by now.
    #[must_use]
    pub fn unit(&self) -> f64 {
        (self.scale / (self.shape - 1.0)).sqrt()
    }

    /// How far the next lot may lie off the mean: a standard deviation.
    #[must_use]
    pub fn varies(&self, own: f64) -> f64 {
        self.unit() * (1.0 / self.weight + self.levels.lot + own).sqrt()
    }

    /// The chance that the next lot shows at least so much, 0 to 1.
    #[must_use]
    pub fn chance_of(&self, wanted: f64, own: f64) -> f64 {
        self.beyond(wanted - self.mean, 1.0 / self.weight + self.levels.lot + own)
    }

    /// How likely a lot is that lies as far off as this, or farther; under a thousandth one should ask.
    #[must_use]
    pub fn likelihood(&self, seen: f64, own: f64) -> f64 {
        let off = (seen - self.mean).abs();
        2.0 * self.beyond(off, 1.0 / self.weight + self.levels.lot + own)
    }

    /// The chance that what this kitchen has on average is more than so much, 0 to 1.
    #[must_use]
    pub fn chance_of_mean(&self, more_than: f64) -> f64 {
        self.beyond(more_than - self.mean, 1.0 / self.weight)
    }

    /// The chance of more than so much above the mean, for a variance of so many units.
    fn beyond(&self, by: f64, units: f64) -> f64 {
        let scale = (self.scale / self.shape * units).sqrt();
        StudentsT::new(0.0, 1.0, 2.0 * self.shape).map_or(0.5, |t| t.sf(by / scale))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rand::SeedableRng;
    use rand_distr::{Distribution, Gamma, Normal};

    #[test]
    fn lots_move_the_kitchen_as_the_closed_form_says() {
        let before = Pooled::before(27.0, 6.0, Levels::PIECES);
        let after = before.after(29.3, 1.0 / 7.0);
        let w = 1.0 / (0.125 + 1.0 / 7.0);
        assert!((after.mean - (8.0 * 27.0 + w * 29.3) / (8.0 + w)).abs() < 1e-12);
        let scale = 72.0 + 8.0 * w * 2.3_f64.powi(2) / (2.0 * (8.0 + w));
        assert!((after.scale - scale).abs() < 1e-12);
        assert!((after.own_share() - w / (8.0 + w)).abs() < 1e-12);
        // Of how far apart two lots lie, in whichever order they are met.
        let (one, other) = (after.after(24.0, 1.0), before.after(24.0, 1.0).after(29.3, 1.0 / 7.0));
        assert!((one.mean - other.mean).abs() < 1e-12 && (one.scale - other.scale).abs() < 1e-9);
    }

    #[test]
    fn what_is_expected_of_the_next_lot_is_what_lots_of_such_markets_show() {
        let mut chance = rand::rngs::StdRng::seed_from_u64(5);
        let before = Pooled::before(0.0, 1.0, Levels::PIECES);
        let (mut kept, mut low) = (Vec::new(), 0);
        // Of many kitchens those whose first two lots showed what this one's did.
        let like = |seen: f64, x: f64| (seen - x).abs() < 0.12;
        let known = before.after(0.6, 0.2).after(-0.3, 0.5);
        for _ in 0..400_000 {
            let precision = Gamma::new(SHAPE, 1.0 / (SHAPE - 1.0)).unwrap().sample(&mut chance);
            let sd = |units: f64| (units / precision).sqrt();
            let mean = Normal::new(0.0, sd(0.125)).unwrap().sample(&mut chance);
            let mut lot =
                |own: f64| Normal::new(mean, sd(0.125 + own)).unwrap().sample(&mut chance);
            if like(lot(0.2), 0.6) && like(lot(0.5), -0.3) {
                let next = lot(1.0 / 6.0);
                low += usize::from(known.chance_of(next, 1.0 / 6.0) > 0.9);
                kept.push(next);
            }
        }
        let n = kept.len() as f64;
        let mean = kept.iter().sum::<f64>() / n;
        let sd = (kept.iter().map(|x| (x - mean).powi(2)).sum::<f64>() / n).sqrt();
        assert!(n > 3000.0 && (mean - known.mean).abs() < 0.03, "{n}: {mean}, {}", known.mean);
        assert!((sd / known.varies(1.0 / 6.0) - 1.0).abs() < 0.06, "{sd}");
        assert!((low as f64 / n - 0.1).abs() < 0.02, "{low} of {n}");
    }

    #[test]
    fn one_lot_says_little_of_the_next_and_scattered_lots_say_that_lots_scatter() {
        let before = Pooled::before(1.0, 0.22, Levels::PIECES);
        let of_seven = |known: &Pooled| known.varies(1.0 / 7.0);
        let first = of_seven(&before);
        assert!((first - 0.138).abs() < 0.001, "{first}");
        assert!(of_seven(&before.after(1.0, 1.0)) > 0.12);
        let scattered = [0.75, 1.25, 0.8, 1.3, 0.9]
            .into_iter()
            .fold(before, |known, seen| known.after(seen, 1.0 / 7.0));
        assert!(of_seven(&scattered) > 0.17, "{}", of_seven(&scattered));
        // Nor does any number of pieces.
        assert!(before.varies(1.0 / 48.0) > 0.11);
    }
}
