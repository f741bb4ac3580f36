//! Somebody who is made up, and says of a glass what such a one would: for trying out a fit, and for a
//! demo that needs no real people.

use rand::Rng;
use rand_distr::{Distribution, StandardNormal};

use super::ideal::{CUTS, FALL, FINENESS, Felt, Normal, Sip, TOP, WAVER};

/// A tongue whose ideal is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pretend {
    /// Where the ideal lies, as the logarithm of what moves.
    pub ideal: f64,
    /// How finely it tells, probits for a whole unit.
    pub fineness: f64,
    /// What it gives the best glass, 1 to 9.
    pub top: f64,
    /// How much its marks waver.
    pub waver: f64,
    /// By how much its liking falls for a whole unit squared.
    pub fall: f64,
}

pub(super) fn normal(rng: &mut impl Rng) -> f64 {
    StandardNormal.sample(rng)
}

impl Pretend {
    /// One as most are.
    #[must_use]
    pub fn usual(ideal: f64) -> Self {
        Self { ideal, fineness: 4.0, top: 7.5, waver: 1.0, fall: 15.0 }
    }

    /// One of all who may come.
    #[must_use]
    pub fn any(ideal: f64, rng: &mut impl Rng) -> Self {
        let mut draw = |of: &Normal| of.mean + of.sd * normal(rng);
        Self {
            ideal,
            fineness: draw(&FINENESS).exp(),
            top: draw(&TOP),
            waver: draw(&WAVER).exp(),
            fall: draw(&FALL).exp(),
        }
    }

    /// What it says of a glass: it tastes once, and answers twice.
    #[must_use]
    pub fn says(&self, x: f64, rng: &mut impl Rng) -> Sip {
        let z = self.fineness * (x - self.ideal) + normal(rng);
        let felt = Felt::ALL[CUTS.iter().filter(|cut| z > **cut).count()];
        let far = z / self.fineness;
        let liked = self.top - self.fall * far * far + self.waver * normal(rng);
        Sip { x, felt: Some(felt), liked: Some(liked.round().clamp(1.0, 9.0) as u8) }
    }
}
