//! What is known of a drink while it is made, and how each reading narrows it.
//!
//! Nobody knows how much juice six lemons give, how sharp it is, what the pulp will keep. Each such thing is
//! a **factor** on what the tables say: `exp(sd·z - sd²/2)` with `z` standard normal, so that it is never
//! negative and one on average. A [`Belief`] is what is thought of all `z` together: a mean and a
//! covariance. Before anything is measured that is nought and one each, and the cloud on the map is the
//! drink run under samples of it.
//!
//! A [`Measurement`] (18 °Bx in the jug after that step, give or take a fifth) moves it: of all `z` those are
//! found that are both likely and explain what was read, by running the drink; what is left of the doubt
//! follows from the slopes there (Laplace). Measurements are always believed all together, from the
//! beginning, so that their order changes nothing.
//!
//! A reading that is far from all that was thought likely is not believed at once: [`Belief::doubts`]
//! says so. And [`tells_most`] says what to measure next, or that nothing is worth it any more.
//!
//! ```
//! use keen_core::belief::{Belief, Measurement, Quantity};
//! use keen_core::cupboard::{Cupboard, VesselKind};
//! use keen_core::drink::{Action, Drink, Family, Step, Vessel};
//! use keen_core::trace::Prepared;
//!
//! let squeezed = Action::Squeeze {
//!     into: "jug".into(),
//!     ingredient: "lemon_juice".into(),
//!     amount: "6 lemons".parse().unwrap(),
//!     halves_into: None,
//! };
//! let drink = Drink {
//!     name: "Lemons".into(),
//!     family: Family::Lemonade,
//!     note: String::new(),
//!     part: None,
//!     vessels: vec![Vessel::new("jug", VesselKind::Jug)],
//!     steps: vec![Step::new("s1".into(), squeezed)],
//! };
//! let prepared = Prepared::new(&drink, Cupboard::builtin());
//! let before = Belief::before(&prepared);
//! // 180 ml came out, by a marked jug.
//! let juice = Measurement::new(0, 0, Quantity::Volume, 180.0);
//! let after = before.after(&prepared, &[juice]).unwrap();
//! assert!(after.factors()[0].sd > after.sd_of(0) * 3.0);
//! ```

mod measured;
mod tells;
mod unknown;
mod update;

pub use measured::{Measurement, Quantity};
pub use tells::{Candidate, Telling, tells_most};
pub use unknown::{Factor, Turns};
pub use update::Doubt;

use nalgebra::{DMatrix, DVector};
use rand::Rng;
use rand_distr::{Distribution, StandardNormal};

use crate::luck::{Dealer, seed_from};
use crate::trace::{Nudges, Prepared, Trace};
use unknown::Kitchen;

/// What is thought of everything that is uncertain in a drink.
#[derive(Debug, Clone, PartialEq)]
pub struct Belief {
    factors: Vec<Factor>,
    mean: DVector<f64>,
    covariance: DMatrix<f64>,
    /// How fast this kitchen's pots lose water, as was learned so far.
    boil_off: f64,
}

/// How everything turned out, in one kitchen.
#[derive(Debug, Clone, PartialEq)]
pub struct Fate(DVector<f64>);

impl Belief {
    /// Before anything is measured: as the tables, and what the kitchen has learned, have it.
    #[must_use]
    pub fn before(prepared: &Prepared<'_>) -> Self {
        let factors = unknown::of(prepared);
        let n = factors.len();
        let boil_off = prepared.cupboard().boil_off();
        Self { factors, mean: DVector::zeros(n), covariance: DMatrix::identity(n, n), boil_off }
    }

    /// As if everything were as the tables have it: for a drink that is too large to be run as often as a
    /// belief takes.
    #[must_use]
    pub(crate) fn certain(prepared: &Prepared<'_>) -> Self {
        let mut belief = Self::before(prepared);
        belief.factors.clear();
        belief.mean = DVector::zeros(0);
        belief.covariance = DMatrix::zeros(0, 0);
        belief
    }

    /// What is uncertain.
    #[must_use]
    pub fn factors(&self) -> &[Factor] {
        &self.factors
    }

    /// The factor that is thought most likely of one of them.
    #[must_use]
    pub fn middle_of(&self, factor: usize) -> f64 {
        self.factors[factor].at(self.mean[factor])
    }

    /// How far that may be off, as a standard deviation of its logarithm.
    #[must_use]
    pub fn sd_of(&self, factor: usize) -> f64 {
        self.factors[factor].sd * self.covariance[(factor, factor)].max(0.0).sqrt()
    }

    /// What is thought most likely of everything.
    #[must_use]
    pub fn middle(&self) -> Fate {
        Fate(self.mean.clone())
    }

    /// One way in which everything may have turned out.
    #[must_use]
    pub fn sample(&self, chance: &mut impl Rng) -> Fate {
        self.sampler().draw(chance)
    }

    /// How everything turned out in a kitchen that nobody has seen: what a seed deals. The same thing is dealt
    /// the same luck whatever else is in the drink, so that a drink may change while it is made.
    #[must_use]
    pub fn dealt(&self, prepared: &Prepared<'_>, seed: u64) -> Fate {
        let z = self.factors.iter().map(|factor| {
            let own = seed_from(seed, factor.turns.name(prepared).as_bytes());
            Dealer::of(own).normal().clamp(-MOST_LUCK, MOST_LUCK)
        });
        Fate(DVector::from_iterator(self.factors.len(), z))
    }

    /// As is thought most likely, but for one thing, which is as a fate has it.
    #[must_use]
    pub fn with_one(&self, fate: &Fate, factor: usize) -> Fate {
        let mut one = self.middle();
        one.0[factor] = fate.0[factor];
        one
    }

    /// Draws many of them.
    #[must_use]
    pub(crate) fn sampler(&self) -> Sampler {
        let n = self.mean.len();
        // A doubt that has gone to nothing has no root of its own; a trace of it keeps the root real.
        let kept = &self.covariance + DMatrix::identity(n, n) * 1e-12;
        let root = kept.cholesky().map_or_else(|| DMatrix::zeros(n, n), |c| c.l());
        Sampler { mean: self.mean.clone(), root }
    }

    /// What a fate means for a run.
    pub(crate) fn kitchen(&self, fate: &Fate, amounts: &[f64]) -> Kitchen {
        unknown::kitchen(&self.factors, &fate.0, amounts, self.boil_off)
    }

    /// Runs the drink with everything as a fate has it.
    #[must_use]
    pub fn run(&self, prepared: &Prepared<'_>, fate: &Fate) -> Trace {
        self.with(fate, |nudges| prepared.run(nudges))
    }

    /// A fate as standard normal figures, one for each factor: how many standard deviations it is off.
    #[must_use]
    pub fn standard(&self, fate: &Fate) -> Vec<f64> {
        fate.0.iter().copied().collect()
    }

    /// Runs something with everything as a fate has it, and each step with so many times its amount.
    pub(crate) fn with_amounts<T>(
        &self,
        fate: &Fate,
        amounts: &[f64],
        run: impl FnOnce(Nudges<'_>) -> T,
    ) -> T {
        run(self.kitchen(fate, amounts).nudges())
    }

    /// Runs something with everything as a fate has it.
    pub(crate) fn with<T>(&self, fate: &Fate, run: impl FnOnce(Nudges<'_>) -> T) -> T {
        run(self.kitchen(fate, &[]).nudges())
    }
}

/// Nobody buys a lemon that is four times as far off as usual.
const MOST_LUCK: f64 = 3.0;

/// Draws fates from a belief.
#[derive(Debug, Clone)]
pub(crate) struct Sampler {
    mean: DVector<f64>,
    root: DMatrix<f64>,
}

impl Sampler {
    pub(crate) fn draw(&self, chance: &mut impl Rng) -> Fate {
        let z = DVector::from_fn(self.mean.len(), |_, _| {
            let z: f64 = StandardNormal.sample(chance);
            z.clamp(-MOST_LUCK, MOST_LUCK)
        });
        Fate(&self.mean + &self.root * z)
    }
}
