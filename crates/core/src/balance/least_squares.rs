//! Bounded least squares on a function that is run, not written down: linearise, solve the quadratic
//! programme, run again, until it no longer moves.

use nalgebra::{DMatrix, DVector};

use crate::work::Stopped;

/// One unknown: a factor of what is written.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Unknown {
    pub(crate) start: f64,
    pub(crate) least: f64,
    pub(crate) most: f64,
    /// How dear it is to move it; water is cheap.
    pub(crate) weight: f64,
}

impl Unknown {
    /// The value, or the bound that it would pass.
    fn within(&self, value: f64) -> f64 {
        value.max(self.least).min(self.most.max(self.least))
    }
}

/// One wish: the reading of that position should come to `wanted`.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Wish {
    pub(crate) reading: usize,
    pub(crate) wanted: f64,
    /// What counts as the whole of it, for relative misses.
    pub(crate) scale: f64,
}

/// Good enough: a two-thousandth of what is wished for.
pub(crate) const NEAR: f64 = 5e-4;
pub(crate) const ROUNDS: u32 = 14;

/// The factors that bring the readings nearest to the wishes, and the misses that are left.
///
/// Of all ways to get there the one that moves least is taken: the pull back to the start is a
/// thousandth at first and fades to nothing as the rounds go on. `None` where nothing can be read.
pub(crate) fn nearest<const N: usize>(
    unknowns: &[Unknown],
    wishes: &[Wish],
    read: impl Fn(&[f64]) -> Result<Option<[f64; N]>, Stopped>,
) -> Result<Option<Nearest>, Stopped> {
    let mut factors: Vec<f64> = unknowns.iter().map(|u| u.within(u.start)).collect();
    let Some(mut now) = read(&factors)? else { return Ok(None) };
    let misses = |now: &[f64; N]| -> Vec<f64> {
        wishes.iter().map(|w| (w.wanted - now[w.reading]) / w.scale).collect()
    };
    let mut pull = 1e-3;
    let mut reach = 1.0;
    for _ in 0..ROUNDS {
        let miss = misses(&now);
        let far = miss.iter().map(|m| m.abs()).fold(0.0, f64::max);
        if far < NEAR * 0.2 || unknowns.is_empty() {
            break;
        }
        let Some(slopes) = slopes(&factors, unknowns, wishes, &now, &read)? else {
            return Ok(None);
        };
        let Some(step) = quadratic(&slopes, &miss, &factors, unknowns, pull, reach) else { break };
        let moved = step.iter().map(|d| d.abs()).fold(0.0, f64::max);
        let tried: Vec<f64> =
            factors.iter().zip(&step).zip(unknowns).map(|((f, d), u)| u.within(f + d)).collect();
        let Some(then) = read(&tried)? else { return Ok(None) };
        let total = |m: &[f64]| m.iter().map(|x| x * x).sum::<f64>();
        // A step that made it worse was too long for a curve: half of it is tried next.
        if total(&misses(&then)) > total(&miss) * 1.0001 {
            reach *= 0.4;
            if reach < 1e-3 {
                break;
            }
            continue;
        }
        (factors, now) = (tried, then);
        pull = (pull * 0.1_f64).max(1e-8);
        reach = (reach * 1.5_f64).min(1.0);
        if moved < 1e-7 {
            break;
        }
    }
    let miss = misses(&now);
    Ok(Some((factors, miss)))
}

/// A row for each wish, a column for each unknown.
type Slopes = Vec<Vec<f64>>;
/// Factors, and what is missed with them.
type Nearest = (Vec<f64>, Vec<f64>);

/// By how much each wish comes nearer for a whole of each unknown.
fn slopes<const N: usize>(
    factors: &[f64],
    unknowns: &[Unknown],
    wishes: &[Wish],
    now: &[f64; N],
    read: &impl Fn(&[f64]) -> Result<Option<[f64; N]>, Stopped>,
) -> Result<Option<Slopes>, Stopped> {
    let mut slopes = vec![vec![0.0; unknowns.len()]; wishes.len()];
    let mut tried = factors.to_vec();
    for (j, unknown) in unknowns.iter().enumerate() {
        let by = 1e-3 * factors[j].max(0.05);
        // At its upper bound it is tried downwards.
        let by = if factors[j] + by > unknown.most { -by } else { by };
        tried[j] = factors[j] + by;
        let Some(then) = read(&tried)? else { return Ok(None) };
        tried[j] = factors[j];
        for (k, wish) in wishes.iter().enumerate() {
            slopes[k][j] = (then[wish.reading] - now[wish.reading]) / by / wish.scale;
        }
    }
    Ok(Some(slopes))
}

/// The step that solves the linearised problem inside the bounds.
fn quadratic(
    slopes: &[Vec<f64>],
    miss: &[f64],
    factors: &[f64],
    unknowns: &[Unknown],
    pull: f64,
    reach: f64,
) -> Option<Vec<f64>> {
    let n = unknowns.len();
    let rows = DMatrix::from_fn(slopes.len(), n, |k, j| slopes[k][j]);
    let mut curve = rows.transpose() * &rows;
    let mut pull_back = -(rows.transpose() * DVector::from_column_slice(miss));
    for (i, unknown) in unknowns.iter().enumerate() {
        let weight = pull * unknown.weight / unknown.start.max(0.05).powi(2);
        curve[(i, i)] += weight;
        pull_back[i] += weight * (factors[i] - unknown.start);
    }
    let room = |at: usize, bound: f64| {
        // A step no longer than the thing itself: beyond that the slope tells little.
        let longest = reach * (factors[at] * 1.5).max(0.3);
        (bound - factors[at]).abs().min(longest)
    };
    let least: Vec<f64> = (0..n).map(|j| -room(j, unknowns[j].least)).collect();
    let most: Vec<f64> = (0..n).map(|j| room(j, unknowns[j].most)).collect();
    boxed(&curve, &pull_back, &least, &most)
}

/// Where an unknown is held.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Held {
    Free,
    Least,
    Most,
}

/// The `x` between `least` and `most`, nought among them, at which ½ xᵀ`curve`x + `slope`ᵀx is least.
///
/// By active sets (Stark and Parker's way with bounded variables): those that are free go to their common
/// lowest point, or until the first of them meets its bound, where it is held; when they are there, the
/// one that is held hardest against its will is let go. Each round lowers the sum, so that no set comes
/// twice. `None` where it doesn't end or is no number.
fn boxed(
    curve: &DMatrix<f64>,
    slope: &DVector<f64>,
    least: &[f64],
    most: &[f64],
) -> Option<Vec<f64>> {
    let n = slope.len();
    let mut x = DVector::<f64>::zeros(n);
    let mut held = vec![Held::Free; n];
    // As large as rounding makes what should be nought.
    let dust = 1e-12 * (1.0 + slope.amax());
    for _ in 0..10 * n + 20 {
        let free: Vec<usize> = (0..n).filter(|i| held[*i] == Held::Free).collect();
        let gradient = curve * &x + slope;
        if !free.is_empty() {
            let among = curve.select_rows(&free).select_columns(&free);
            let step = among.cholesky()?.solve(&-gradient.select_rows(&free));
            let mut share = 1.0;
            let mut meets = None;
            for (d, i) in step.iter().zip(&free) {
                let bound = if *d > 0.0 { most[*i] } else { least[*i] };
                // How far along the step the bound is.
                let until = (bound - x[*i]) / d;
                if *d != 0.0 && until < share {
                    (share, meets) = (until.max(0.0), Some((*i, *d > 0.0, bound)));
                }
            }
            for (d, i) in step.iter().zip(&free) {
                x[*i] += share * d;
            }
            if let Some((i, upward, bound)) = meets {
                (x[i], held[i]) = (bound, if upward { Held::Most } else { Held::Least });
                continue;
            }
        }
        let gradient = curve * &x + slope;
        // How hard each that is held pulls back into the box.
        let wants_in = |i: usize| match held[i] {
            Held::Free => 0.0,
            Held::Least => -gradient[i],
            Held::Most => gradient[i],
        };
        match (0..n).max_by(|a, b| wants_in(*a).total_cmp(&wants_in(*b))) {
            Some(hardest) if wants_in(hardest) > dust && most[hardest] > least[hardest] => {
                held[hardest] = Held::Free;
            }
            _ => return x.iter().all(|d| d.is_finite()).then(|| x.iter().copied().collect()),
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// A curve that bends upward everywhere, a slope, and a box around nought.
    fn problem() -> impl Strategy<Value = (DMatrix<f64>, DVector<f64>, Vec<f64>, Vec<f64>)> {
        (1_usize..9).prop_flat_map(|n| {
            let numbers = |count| proptest::collection::vec(-2.0..2.0_f64, count);
            let reach = || proptest::collection::vec(0.0..1.5_f64, n);
            (numbers(n * n), numbers(n), reach(), reach()).prop_map(move |(a, q, down, up)| {
                let a = DMatrix::from_vec(n, n, a);
                let curve = a.transpose() * &a + DMatrix::identity(n, n) * 1e-3;
                let least = down.iter().map(|d| -d).collect();
                (curve, DVector::from_vec(q), least, up)
            })
        })
    }

    proptest! {
        #[test]
        fn the_lowest_place_in_the_box_is_one_from_which_no_way_leads_down(
            (curve, slope, least, most) in problem()
        ) {
            let x = DVector::from_vec(boxed(&curve, &slope, &least, &most).unwrap());
            let gradient = &curve * &x + &slope;
            for i in 0..x.len() {
                prop_assert!(x[i] >= least[i] - 1e-12 && x[i] <= most[i] + 1e-12);
                let (down, up) = (x[i] > least[i] + 1e-9, x[i] < most[i] - 1e-9);
                prop_assert!(!down || gradient[i] < 1e-6, "{i} could go down");
                prop_assert!(!up || gradient[i] > -1e-6, "{i} could go up");
            }
        }
    }
}
