//! Bounded least squares on a function that is run, not written down: linearise, solve the quadratic
//! programme, run again, until it no longer moves.

use clarabel::algebra::CscMatrix;
use clarabel::solver::{
    DefaultSettingsBuilder, DefaultSolver, IPSolver, NonnegativeConeT, SolverStatus,
};

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
    let mut p = vec![vec![0.0; n]; n];
    let mut q = vec![0.0; n];
    for (row, m) in slopes.iter().zip(miss) {
        for i in 0..n {
            q[i] -= row[i] * m;
            for j in i..n {
                p[i][j] += row[i] * row[j];
            }
        }
    }
    for (i, unknown) in unknowns.iter().enumerate() {
        let weight = pull * unknown.weight / unknown.start.max(0.05).powi(2);
        p[i][i] += weight;
        q[i] += weight * (factors[i] - unknown.start);
    }
    // Upper triangle in columns, and d ≤ up, -d ≤ down.
    let (mut columns, mut rows, mut values) = (vec![0], Vec::new(), Vec::new());
    for j in 0..n {
        for (i, row) in p.iter().enumerate().take(j + 1) {
            rows.push(i);
            values.push(row[j]);
        }
        columns.push(rows.len());
    }
    let p = CscMatrix::new(n, n, columns, rows, values);
    let a = CscMatrix::new(
        2 * n,
        n,
        (0..=n).map(|j| 2 * j).collect(),
        (0..n).flat_map(|j| [j, n + j]).collect(),
        (0..n).flat_map(|_| [1.0, -1.0]).collect(),
    );
    let room = |at: usize, bound: f64| {
        // A step no longer than the thing itself: beyond that the slope tells little.
        let longest = reach * (factors[at] * 1.5).max(0.3);
        (bound - factors[at]).abs().min(longest)
    };
    let bounds: Vec<f64> = (0..n)
        .map(|j| room(j, unknowns[j].most))
        .chain((0..n).map(|j| room(j, unknowns[j].least)))
        .collect();
    let settings = DefaultSettingsBuilder::default().verbose(false).build().ok()?;
    let cones = [NonnegativeConeT(2 * n)];
    let mut solver = DefaultSolver::new(&p, &q, &a, &bounds, &cones, settings).ok()?;
    solver.solve();
    // What the solver gave up on is no step.
    let solved =
        matches!(solver.solution.status, SolverStatus::Solved | SolverStatus::AlmostSolved);
    let step = solver.solution.x.clone();
    (solved && step.iter().all(|d| d.is_finite())).then_some(step)
}
