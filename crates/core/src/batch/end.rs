//! Where a drink ends, and whether anyone would taste the difference.

use crate::balance::{BalanceMap, NOTICED, Profile, Spot};
use crate::drink::Drink;
use crate::trace::Trace;

/// Where the finished drink lies, and what there is of it.
#[derive(Debug, Clone, Copy)]
pub(super) struct End {
    pub(super) spot: Spot,
    pub(super) ml: f64,
}

pub(super) fn end_of(drink: &Drink, trace: &Trace) -> Option<End> {
    let profile = trace.outcome().and_then(Profile::of)?;
    let point = BalanceMap::of(drink.family, Some(&profile)).point?;
    Some(End { spot: point.spot(), ml: profile.volume_ml })
}

/// Whether a difference is noticed, as ratios, so that a step down is as large as the step up.
pub(super) fn is_noticed(now: Spot, wanted: Spot) -> bool {
    let far = |a: f64, b: f64, floor: f64, part: f64| {
        let (a, b) = (a.max(floor), b.max(floor));
        (a / b).max(b / a) >= 1.0 + part * 0.999
    };
    far(now.sweetness, wanted.sweetness, 1.0, NOTICED.0)
        || far(now.acidity, wanted.acidity, 0.08, NOTICED.1)
}

/// How far a place on the map is from another one, in differences that are just noticed.
#[must_use]
pub fn differences(now: Spot, wanted: Spot) -> f64 {
    let of = |a: f64, b: f64, floor: f64, part: f64| {
        ((a.max(floor) / b.max(floor)).ln() / (1.0 + part).ln()).abs()
    };
    let sweet = of(now.sweetness, wanted.sweetness, 1.0, NOTICED.0);
    sweet.hypot(of(now.acidity, wanted.acidity, 0.08, NOTICED.1))
}
