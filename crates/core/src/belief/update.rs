//! How measurements move a belief.

use nalgebra::{DMatrix, DVector};

use super::{Belief, Fate, Measurement};
use crate::trace::{Prepared, Trace};

/// A reading that is far from everything that was thought likely.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Doubt {
    /// What was expected.
    pub expected: f64,
    /// The standard deviation of that, with the instrument's own.
    pub sd: f64,
    /// How many of them the reading lies off.
    pub off: f64,
}

/// So many standard deviations off a reading is asked about.
pub(super) const DOUBTFUL: f64 = 3.5;
/// That instruments are as good as is said is believed as if it had been seen so often.
const SEEN: f64 = 2.0;
/// Steps of the search for the likeliest fate; it takes three or four.
const ROUNDS: usize = 12;
/// By how much each `z` is moved to see what it does: large enough for what a search inside a run leaves
/// undecided, small enough for a slope.
const STEP: f64 = 0.02;

impl Belief {
    /// What each measurement would read at a fate, and how that changes with each `z`; `None` for what can't
    /// be read there.
    pub(super) fn slopes(
        &self,
        prepared: &Prepared<'_>,
        measurements: &[Measurement],
        fate: &Fate,
    ) -> (Vec<Option<f64>>, DMatrix<f64>) {
        let drink = prepared.drink();
        let read = |fate: &Fate| -> Vec<Option<f64>> {
            let trace = self.with(fate, |nudges| prepared.run(nudges));
            measurements.iter().map(|m| m.in_run(drink, &trace)).collect()
        };
        let here = read(fate);
        let mut slopes = DMatrix::zeros(measurements.len(), self.factors.len());
        for factor in 0..self.factors.len() {
            let mut moved = fate.clone();
            moved.0[factor] += STEP;
            for (row, (then, now)) in read(&moved).iter().zip(&here).enumerate() {
                if let (Some(then), Some(now)) = (then, now) {
                    slopes[(row, factor)] = (then - now) / STEP;
                }
            }
        }
        (here, slopes)
    }

    /// The belief after measurements, all together. `None` if one of them can't be read at all: of a vessel
    /// that is empty then.
    ///
    /// Minimises `(z - m)ᵀ C⁻¹ (z - m) + Σ ((y - h(z)) / σ)²` by Gauss–Newton with a line search, `h` being a
    /// run of the drink; the covariance is `(C⁻¹ + Jᵀ R⁻¹ J/s²)⁻¹` at the minimum, with `s²` by how far the readings
    /// lie off what explains them best: `(2 + Σ ((y - h)/σ)²)/(2 + n)`, at least 1.
    #[must_use]
    pub fn after(&self, prepared: &Prepared<'_>, measurements: &[Measurement]) -> Option<Self> {
        if measurements.is_empty() || self.factors.is_empty() {
            return Some(self.clone());
        }
        let n = self.factors.len();
        let kept = &self.covariance + DMatrix::identity(n, n) * 1e-12;
        let precision = kept.cholesky()?.inverse();
        let weights = DVector::from_iterator(
            measurements.len(),
            measurements.iter().map(|m| 1.0 / m.error.max(1e-9).powi(2)),
        );
        let drink = prepared.drink();
        let miss = |reads: &[Option<f64>]| -> Option<DVector<f64>> {
            let each: Option<Vec<f64>> =
                measurements.iter().zip(reads).map(|(m, read)| Some(m.value - (*read)?)).collect();
            Some(DVector::from_vec(each?))
        };
        let cost = |fate: &Fate, miss: &DVector<f64>| {
            let away = &fate.0 - &self.mean;
            away.dot(&(&precision * &away)) + miss.component_mul(miss).dot(&weights)
        };
        let mut fate = self.middle();
        let (reads, mut slopes) = self.slopes(prepared, measurements, &fate);
        let mut missed = miss(&reads)?;
        let mut best = cost(&fate, &missed);
        for _ in 0..ROUNDS {
            let weighted = slopes.transpose() * DMatrix::from_diagonal(&weights);
            let curve = &precision + &weighted * &slopes;
            let pull = &weighted * &missed - &precision * (&fate.0 - &self.mean);
            let Some(step) = curve.cholesky().map(|c| c.solve(&pull)) else { break };
            let mut length = 1.0;
            let mut moved = None;
            while length > 1e-3 {
                let tried = Fate(&fate.0 + &step * length);
                let trace = self.with(&tried, |nudges| prepared.run(nudges));
                let reads: Vec<_> = measurements.iter().map(|m| m.in_run(drink, &trace)).collect();
                if let Some(missed) = miss(&reads) {
                    let found = cost(&tried, &missed);
                    if found < best {
                        moved = Some((tried, missed, best - found));
                        best = found;
                        break;
                    }
                }
                length /= 2.0;
            }
            let Some((to, left, gained)) = moved else { break };
            (fate, missed) = (to, left);
            let far = step.amax() * length;
            slopes = self.slopes(prepared, measurements, &fate).1;
            if far < 1e-3 || gained < 1e-6 {
                break;
            }
        }
        // Readings that contradict each other more than their instruments allow are worth less than they claim.
        let off = missed.component_mul(&missed).dot(&weights);
        let worth = ((SEEN + measurements.len() as f64) / (SEEN + off)).min(1.0);
        let weighted = slopes.transpose() * DMatrix::from_diagonal(&(&weights * worth));
        let covariance = (&precision + &weighted * &slopes).cholesky()?.inverse();
        Some(Self { mean: fate.0, covariance, ..self.clone() })
    }

    /// The standard deviations of figures that are read off a run, by their slopes.
    pub(crate) fn spread_by<const N: usize>(
        &self,
        prepared: &Prepared<'_>,
        read: impl Fn(&Trace) -> [f64; N],
    ) -> [f64; N] {
        let at = |fate: &Fate| read(&self.with(fate, |nudges| prepared.run(nudges)));
        let (middle, n) = (self.middle(), self.factors.len());
        let here = at(&middle);
        let mut slopes = DMatrix::zeros(N, n);
        for factor in 0..n {
            let mut moved = middle.clone();
            moved.0[factor] += STEP;
            for (row, (then, now)) in at(&moved).iter().zip(&here).enumerate() {
                slopes[(row, factor)] = (then - now) / STEP;
            }
        }
        let all = &slopes * &self.covariance * slopes.transpose();
        std::array::from_fn(|i| all[(i, i)].max(0.0).sqrt())
    }

    /// What a measurement was expected to read before it was believed, and how far it is off.
    ///
    /// `None` where it can't be read: the vessel is empty.
    #[must_use]
    pub fn expects(&self, prepared: &Prepared<'_>, measurement: &Measurement) -> Option<Doubt> {
        let (reads, slopes) = self.slopes(prepared, &[*measurement], &self.middle());
        let expected = (*reads.first()?)?;
        let row = slopes.row(0);
        let variance = (row * &self.covariance * row.transpose())[(0, 0)];
        let sd = (variance.max(0.0) + measurement.error.powi(2)).sqrt();
        Some(Doubt { expected, sd, off: (measurement.value - expected) / sd })
    }

    /// Whether a measurement should be asked about before it is believed: it lies further off than three and
    /// a half of its own standard deviations.
    #[must_use]
    pub fn doubts(&self, prepared: &Prepared<'_>, measurement: &Measurement) -> Option<Doubt> {
        self.expects(prepared, measurement).filter(|doubt| doubt.off.abs() > DOUBTFUL)
    }
}
