//! Where something that is computed, not written down, passes through zero.
//!
//! Between two places at which it has opposite signs there is one where it is nought. The chord of the two
//! points at the bracket's ends is followed to its own zero (false position); an end that stays twice counts
//! half (the Illinois rule), so that both ends close in, faster than by halving. Where that doesn't get on, on
//! a curve with a step in it, the bracket is halved.

use std::convert::Infallible;

/// No search that converges at all takes more tries.
const MOST_TRIES: usize = 100;

/// The place between two others at which `miss` is nought, to `precision`; `None` if it has the same sign at
/// both, or isn't found.
pub(crate) fn find(low: f64, high: f64, precision: f64, miss: impl Fn(f64) -> f64) -> Option<f64> {
    match try_find(low, high, precision, |x| Ok::<_, Infallible>(miss(x))) {
        Ok(found) => found,
        Err(never) => match never {},
    }
}

/// As [`find`], of something that may fail.
///
/// # Errors
/// The first failure.
pub(crate) fn try_find<E>(
    low: f64,
    high: f64,
    precision: f64,
    mut miss: impl FnMut(f64) -> Result<f64, E>,
) -> Result<Option<f64>, E> {
    let (mut a, mut b) = (low, high);
    let (mut at_a, mut at_b) = (miss(a)?, miss(b)?);
    if at_a == 0.0 {
        return Ok(Some(a));
    }
    if at_b == 0.0 {
        return Ok(Some(b));
    }
    // Also where either is no number.
    if at_a.is_nan() || at_b.is_nan() || at_a.signum() == at_b.signum() {
        return Ok(None);
    }
    for nth in 0..MOST_TRIES {
        let chord = (a * at_b - b * at_a) / (at_b - at_a);
        let middle = f64::midpoint(a, b);
        // Every third try halves, so that no curve is too odd.
        let x = if nth % 3 == 2 || !chord.is_finite() { middle } else { chord };
        let at_x = miss(x)?;
        if at_x.is_nan() {
            return Ok(None);
        }
        if at_x.abs() <= precision || (b - a).abs() <= precision {
            return Ok(Some(x));
        }
        if at_x.signum() == at_b.signum() {
            // The other end stayed: it counts half from now on.
            at_a *= 0.5;
        } else {
            (a, at_a) = (b, at_b);
        }
        (b, at_b) = (x, at_x);
    }
    Ok(None)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn finds_what_is_there_and_says_when_it_is_not() {
        let found = find(0.0, 2.0, 1e-12, |x| x * x - 2.0).unwrap();
        assert!((found - 2f64.sqrt()).abs() < 1e-9);
        assert_eq!(find(2.0, 3.0, 1e-9, |x| x * x - 2.0), None);
        assert_eq!(find(0.0, 1.0, 1e-9, |_| f64::NAN), None);
        // A step, a cubic that is flat at its zero, an end that is the zero.
        assert!(
            (find(0.0, 1.0, 1e-9, |x| if x < 0.3 { -1.0 } else { 1.0 }).unwrap() - 0.3).abs()
                < 1e-8
        );
        assert!(find(-1.0, 2.0, 1e-12, |x| x * x * x).unwrap().abs() < 1e-3);
        assert_eq!(find(0.0, 1.0, 1e-9, |x| x), Some(0.0));
        assert_eq!(try_find(0.0, 2.0, 1e-9, |_| Err::<f64, _>("gone")), Err("gone"));
    }
}
