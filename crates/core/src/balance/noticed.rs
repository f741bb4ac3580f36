//! What is noticed: how large a difference in sweetness or acidity is before somebody tastes it, and how far two places
//! on the map are apart by that measure.
//!
//! A difference is noticed as a part of what there is (Weber's law): a tenth more sugar is as plain in a cordial as in a
//! water. Towards nothing that ends, so below a [`FLOOR`] a difference counts as from there. Steps are counted as
//! ratios, so that a step down is as large as the step up that undoes it.

use super::Spot;

/// Below so much sweetness and acidity, g in 100 g, a difference counts as from there.
pub(crate) const FLOOR: Spot = Spot { sweetness: 1.0, acidity: 0.08 };

/// This share of what is noticed is as near as anyone tastes.
const NEAR: f64 = 0.7;

/// The smallest differences that somebody notices, as parts: 0.1 is a tenth.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Palate {
    /// In sweetness.
    pub sweetness: f64,
    /// In acidity.
    pub acidity: f64,
}

impl Palate {
    /// That of most people: a tenth of sweetness, 15 % of acidity.
    pub const USUAL: Self = Self { sweetness: 0.10, acidity: 0.15 };

    /// What is just noticed of sweetness and acidity there, g in 100 g.
    #[must_use]
    pub fn least(self, at: Spot) -> Spot {
        Spot {
            sweetness: self.sweetness * at.sweetness.max(FLOOR.sweetness),
            acidity: self.acidity * at.acidity.max(FLOOR.acidity),
        }
    }

    /// How many noticeable steps sweeter and sharper one place is than another.
    #[must_use]
    pub fn steps(self, from: Spot, to: Spot) -> Spot {
        let steps = |from: f64, to: f64, floor: f64, part: f64| {
            (to.max(floor) / from.max(floor)).ln() / (1.0 + part).ln()
        };
        Spot {
            sweetness: steps(from.sweetness, to.sweetness, FLOOR.sweetness, self.sweetness),
            acidity: steps(from.acidity, to.acidity, FLOOR.acidity, self.acidity),
        }
    }

    /// Whether a difference in sweetness or acidity is noticed.
    pub(crate) fn notices(self, now: Spot, wanted: Spot) -> bool {
        let Spot { sweetness, acidity } = self.steps(now, wanted);
        // As large as the step itself, but for rounding.
        sweetness.abs().max(acidity.abs()) >= 0.999
    }

    /// Whether it is as near as anyone tastes.
    pub(crate) fn is_near(self, now: Spot, wanted: Spot) -> bool {
        let least = self.least(wanted);
        (now.sweetness - wanted.sweetness).abs() <= NEAR * least.sweetness
            && (now.acidity - wanted.acidity).abs() <= NEAR * least.acidity
    }
}

/// How far a place on the map is from another one, in just-noticeable differences of most people.
#[must_use]
pub fn differences(now: Spot, wanted: Spot) -> f64 {
    let Spot { sweetness, acidity } = Palate::USUAL.steps(now, wanted);
    sweetness.hypot(acidity)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_step_down_is_as_large_as_the_step_up() {
        let (thin, strong) =
            (Spot { sweetness: 8.0, acidity: 0.5 }, Spot { sweetness: 11.0, acidity: 0.6 });
        let (up, down) = (Palate::USUAL.steps(thin, strong), Palate::USUAL.steps(strong, thin));
        assert!((up.sweetness + down.sweetness).abs() < 1e-12);
        assert!((up.acidity + down.acidity).abs() < 1e-12);
        assert!((differences(thin, strong) - differences(strong, thin)).abs() < 1e-12);
        let tenth = Palate::USUAL.steps(thin, Spot { sweetness: 8.8, ..thin });
        assert!((tenth.sweetness - 1.0).abs() < 1e-12);
    }

    #[test]
    fn next_to_nothing_is_as_good_as_nothing() {
        let nothing = Spot { sweetness: 0.0, acidity: 0.0 };
        let trace = Spot { sweetness: 0.9, acidity: 0.07 };
        assert!(!Palate::USUAL.notices(nothing, trace));
        let keen = Palate { sweetness: 0.02, acidity: 0.02 };
        let (now, wanted) =
            (Spot { sweetness: 10.0, acidity: 0.5 }, Spot { sweetness: 10.5, acidity: 0.5 });
        assert!(keen.notices(now, wanted) && !Palate::USUAL.notices(now, wanted));
        assert!(Palate::USUAL.is_near(now, wanted) && !keen.is_near(now, wanted));
    }
}
