//! Whether a difference is noticed, and how far two places on the map are apart.

use super::{NOTICED, Spot};

/// Below so much sweetness and acidity, g in 100 g, a difference counts as from there.
const FLOOR: (f64, f64) = (1.0, 0.08);

/// How many noticeable steps lie between two figures, as ratios, so that a step down is as large as the step up.
fn steps(a: f64, b: f64, floor: f64, part: f64) -> f64 {
    ((a.max(floor) / b.max(floor)).ln() / (1.0 + part).ln()).abs()
}

fn apart(now: Spot, wanted: Spot) -> (f64, f64) {
    (
        steps(now.sweetness, wanted.sweetness, FLOOR.0, NOTICED.0),
        steps(now.acidity, wanted.acidity, FLOOR.1, NOTICED.1),
    )
}

/// Whether a difference in sweetness or acidity is noticed.
pub(crate) fn is_noticed(now: Spot, wanted: Spot) -> bool {
    // As large as the step itself, but for rounding.
    let (sweet, sour) = apart(now, wanted);
    sweet.max(sour) >= 0.999
}

/// How far a place on the map is from another one, in just-noticeable differences.
#[must_use]
pub fn differences(now: Spot, wanted: Spot) -> f64 {
    let (sweet, sour) = apart(now, wanted);
    sweet.hypot(sour)
}
