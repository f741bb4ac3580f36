//! Which measurement would tell most of what the drink will be.

use nalgebra::{DMatrix, DVector};

use super::{Belief, Measurement, Quantity};
use crate::balance::{Palate, Spot, Taste};
use crate::trace::{Prepared, Trace};

/// A measurement that could be made now.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Candidate {
    /// After which step.
    pub step: usize,
    /// In which vessel.
    pub vessel: usize,
    /// The quantity to measure.
    pub quantity: Quantity,
    /// How far the instrument is off; as usual if none.
    pub error: Option<f64>,
}

/// What a measurement would tell.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Telling {
    /// The reading that could be taken.
    pub candidate: Candidate,
    /// How far sweetness, acidity and volume of the finished drink may be off now, as shares of themselves.
    pub before: [f64; 3],
    /// And after it.
    pub after: [f64; 3],
    /// What it narrows in all, in just-noticeable differences.
    pub worth: f64,
}

/// What narrows the drink by less than this, in just-noticeable differences, isn't worth the washing-up.
const WORTH_IT: f64 = 0.1;
/// A volume that is off by this share is noticed: a glass in ten.
const NOTICED_VOLUME: f64 = 0.1;

/// The measurement that would tell most of the finished drink, by the linear reduction of its spread; `None`
/// where none is worth it.
#[must_use]
pub fn tells_most(
    belief: &Belief,
    prepared: &Prepared<'_>,
    candidates: &[Candidate],
) -> Option<Telling> {
    let at = belief.middle();
    let drink = prepared.drink();
    let measurements: Vec<Measurement> = candidates
        .iter()
        .map(|c| Measurement {
            step: c.step,
            vessel: c.vessel,
            quantity: c.quantity,
            value: 0.0,
            error: 0.0,
        })
        .collect();
    // One run for each factor tells both: what each instrument would read, and where the drink ends.
    let run = |fate: &super::Fate| -> Option<(Vec<Option<f64>>, [f64; 3])> {
        let trace: Trace = belief.with(fate, |nudges| prepared.run(nudges));
        let taste = trace.outcome().and_then(Taste::of)?;
        let ends = [taste.sweetness_percent, taste.acidity_percent, taste.ready_ml];
        Some((measurements.iter().map(|m| m.in_run(drink, &trace)).collect(), ends))
    };
    let (reads, ends) = run(&at)?;
    let n = belief.factors.len();
    let mut of_ends = DMatrix::zeros(3, n);
    let mut of_reads = DMatrix::zeros(measurements.len(), n);
    const STEP: f64 = 0.02;
    for factor in 0..n {
        let mut moved = at.clone();
        moved.0[factor] += STEP;
        let (then, end) = run(&moved)?;
        for (row, (a, b)) in end.iter().zip(&ends).enumerate() {
            of_ends[(row, factor)] = (a - b) / STEP;
        }
        for (row, (a, b)) in then.iter().zip(&reads).enumerate() {
            if let (Some(a), Some(b)) = (a, b) {
                of_reads[(row, factor)] = (a - b) / STEP;
            }
        }
    }
    let c = &belief.covariance;
    let least = Palate::USUAL.least(Spot { sweetness: ends[0], acidity: ends[1] });
    let noticed = [least.sweetness, least.acidity, NOTICED_VOLUME * ends[2].max(1.0)];
    let spread = |c: &DMatrix<f64>| -> [f64; 3] {
        let all = &of_ends * c * of_ends.transpose();
        std::array::from_fn(|i| all[(i, i)].max(0.0).sqrt())
    };
    let before = spread(c);
    let share =
        |sd: [f64; 3]| -> [f64; 3] { std::array::from_fn(|i| sd[i] / ends[i].abs().max(1e-9)) };
    candidates
        .iter()
        .zip(&reads)
        .enumerate()
        .filter_map(|(row, (candidate, read))| {
            let error = candidate
                .error
                .unwrap_or_else(|| candidate.quantity.usual_error(read.unwrap_or(0.0)));
            (*read)?;
            let slope: DVector<f64> = of_reads.row(row).transpose();
            let told = c * &slope;
            let variance = slope.dot(&told) + error * error;
            let after = spread(&(c - &told * told.transpose() / variance));
            let worth = (0..3).map(|i| (before[i] - after[i]) / noticed[i]).sum();
            Some(Telling {
                candidate: *candidate,
                before: share(before),
                after: share(after),
                worth,
            })
        })
        .filter(|telling| telling.worth >= WORTH_IT)
        .max_by(|a, b| a.worth.total_cmp(&b.worth))
}
