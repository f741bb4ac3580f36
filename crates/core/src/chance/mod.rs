//! What the fruit may do: the same run with ingredients that went differently.
//!
//! Juice by the piece, its acid and sugar vary from fruit to fruit and from lot to lot; how fast a
//! calyx draws and what pulp keeps are estimates with a range. [`spread`] draws so many kitchens, runs
//! the drink in each and reads off where it lands. The caller brings the source of chance.

use rand::Rng;
use rand_distr::{Distribution, StandardNormal};
use serde::{Deserialize, Serialize};

use crate::balance::{BalanceMap, Profile, Spot, Taste};
use crate::belief::Belief;
use crate::drink::Drink;
use crate::normal::below;
use crate::trace::{Nudges, Prepared};
use crate::work::{Stopped, Worktop};

/// The likely range of a drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Spread {
    /// The number of runs.
    pub runs: u32,
    /// Sweetness, g in 100 g.
    pub sweetness: Range,
    /// Acidity, g in 100 g.
    pub acidity: Range,
    /// Sugar–acid ratio.
    pub ratio: Range,
    /// Soluble solids, % of the weight.
    pub brix: Range,
    /// The volume ready to serve, ml.
    pub volume_ml: Range,
    /// The likely range on the map, as ellipses for 5 and 9 out of 10 runs.
    pub cloud: Option<Cloud>,
}

/// A figure and its likely range.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Range {
    /// The lower end: 1 in 10 is lower.
    pub low: f64,
    /// Half do.
    pub middle: f64,
    /// The upper end: 1 in 10 is higher.
    pub high: f64,
}

/// Ellipses on the map. Each axis is a unit vector times the standard deviation along it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Cloud {
    /// The middle.
    pub middle: Spot,
    /// The long axis, one standard deviation.
    pub long: Spot,
    /// The short axis, one standard deviation.
    pub short: Spot,
    /// The number of standard deviations that holds half of the runs.
    pub half: f64,
    /// The number of standard deviations that holds 9 out of 10 runs.
    pub most: f64,
}

/// With fewer runs than this the ends of a range tell nothing.
pub const FEWEST_RUNS: u32 = 20;

/// Runs a drink `runs` times with ingredients that went differently. `None` if there is nothing to
/// drink.
///
/// A drink so large that `runs` of it are more than the question may take is run as often as may be;
/// [`Spread::runs`] says how often.
///
/// # Errors
/// If not even [`FEWEST_RUNS`] may be.
pub fn spread<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    runs: u32,
    chance: &mut impl Rng,
) -> Result<Option<Spread>, Stopped> {
    let worktop = worktop.into();
    let prepared = Prepared::new(drink, worktop.cupboard());
    spread_of(&Belief::before(&prepared), &prepared, worktop, runs, chance)
}

/// The same under what is thought of the drink by now.
///
/// # Errors
/// As [`spread`].
pub fn spread_of(
    belief: &Belief,
    prepared: &Prepared<'_>,
    worktop: Worktop<'_>,
    runs: u32,
    chance: &mut impl Rng,
) -> Result<Option<Spread>, Stopped> {
    let drink = prepared.drink();
    let plain = worktop.land(prepared, Nudges::default())?;
    let affordable = u32::try_from(worktop.times(plain.work)).unwrap_or(u32::MAX);
    // Luck moves what lies where by a little, and with it the work: a tenth is kept in hand.
    let runs = runs.min(affordable - affordable / 10);
    if runs < FEWEST_RUNS {
        return Err(Stopped::TooMuch);
    }
    // A syrup is shown as it is thinned, with as many parts of water as for the drink as it is written.
    let thin = plain.outcome.as_ref().and_then(Profile::of).map_or(1.0, |profile| {
        let point = BalanceMap::of(drink.family, Some(&profile)).point;
        point
            .filter(|p| p.thinned_with.is_some())
            .map_or(1.0, |p| p.sweetness / profile.sweetness_percent.max(1e-9))
    });
    // Amounts that were said as a range: what the maker will take is anywhere in it.
    let ranges: Vec<(usize, (f64, f64))> = drink
        .steps
        .iter()
        .enumerate()
        .filter_map(|(i, step)| Some((i, step.action.amount()?.spread()?)))
        .collect();
    let mut amounts = vec![1.0; if ranges.is_empty() { 0 } else { drink.steps.len() }];
    let mut tastes: Vec<Taste> = Vec::with_capacity(runs as usize);
    let sampler = belief.sampler();
    let mut done = 0;
    while done < runs {
        let fate = sampler.draw(chance);
        for (step, (low, high)) in &ranges {
            let z: f64 = StandardNormal.sample(chance);
            // Evenly between its ends.
            amounts[*step] = low + (high - low) * below(z);
        }
        let kitchen = belief.kitchen(&fate, &amounts);
        let landed = match worktop.land(prepared, kitchen.nudges()) {
            // Luck may make it dearer than it was without.
            Err(Stopped::TooMuch) if done >= FEWEST_RUNS => break,
            landed => landed?,
        };
        done += 1;
        tastes.extend(landed.outcome.as_ref().and_then(Taste::of));
    }
    if tastes.is_empty() {
        return Ok(None);
    }
    let range = |read: fn(&Taste) -> f64| {
        let mut all: Vec<f64> = tastes.iter().map(read).collect();
        all.sort_by(f64::total_cmp);
        let at = |share: f64| all[((all.len() - 1) as f64 * share).round() as usize];
        Range { low: at(0.1), middle: at(0.5), high: at(0.9) }
    };
    let points: Vec<(f64, f64)> =
        tastes.iter().map(|t| (t.sweetness_percent * thin, t.acidity_percent * thin)).collect();
    Ok(Some(Spread {
        runs: done,
        sweetness: range(|t| t.sweetness_percent),
        acidity: range(|t| t.acidity_percent),
        ratio: range(|t| t.sweetness_percent / t.acidity_percent.max(0.005)),
        brix: range(|t| t.brix),
        volume_ml: range(|t| t.ready_ml),
        cloud: cloud(&points),
    }))
}

/// The ellipses of a scatter, from its covariance; none where nothing scatters.
fn cloud(points: &[(f64, f64)]) -> Option<Cloud> {
    let n = points.len() as f64;
    let mean = |read: fn(&(f64, f64)) -> f64| points.iter().map(read).sum::<f64>() / n;
    let (x, y) = (mean(|p| p.0), mean(|p| p.1));
    // The plate is about sixteen times as wide as it is high in its figures: compared as drawn.
    const WIDE: f64 = 16.0;
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    for (px, py) in points {
        let (dx, dy) = (px - x, (py - y) * WIDE);
        xx += dx * dx / n;
        xy += dx * dy / n;
        yy += dy * dy / n;
    }
    let half_trace = (xx + yy) / 2.0;
    let root = (((xx - yy) / 2.0).powi(2) + xy * xy).sqrt();
    let (large, small) = (half_trace + root, (half_trace - root).max(0.0));
    if large < 1e-8 {
        return None;
    }
    let angle = 0.5 * (2.0 * xy).atan2(xx - yy);
    let axis = |variance: f64, angle: f64| {
        let sd = variance.sqrt();
        Spot { sweetness: sd * angle.cos(), acidity: sd * angle.sin() / WIDE }
    };
    Some(Cloud {
        middle: Spot { sweetness: x, acidity: y },
        long: axis(large, angle),
        short: axis(small, angle + std::f64::consts::FRAC_PI_2),
        // Of a round normal scatter: √(-2 ln 0.5) and √(-2 ln 0.1).
        half: 1.177,
        most: 2.146,
    })
}
