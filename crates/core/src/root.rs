//! Where something that is computed, not written down, passes through zero. By Brent's method.

use roots::{SimpleConvergency, find_root_brent};

/// No search that converges at all takes more tries.
const MOST_TRIES: usize = 100;

/// The place between two others at which `miss` is nought, to `precision`; `None` if it has the same sign at
/// both, or isn't found.
pub(crate) fn find(low: f64, high: f64, precision: f64, miss: impl Fn(f64) -> f64) -> Option<f64> {
    let mut until = SimpleConvergency { eps: precision, max_iter: MOST_TRIES };
    find_root_brent(low, high, miss, &mut until).ok().filter(|x| x.is_finite())
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
    let mut failed = None;
    let mut until = SimpleConvergency { eps: precision, max_iter: MOST_TRIES };
    let found = find_root_brent(
        low,
        high,
        |x| {
            miss(x).unwrap_or_else(|error| {
                // There is no way out of the search but its end: nought ends it.
                failed = Some(error);
                0.0
            })
        },
        &mut until,
    );
    match failed {
        Some(error) => Err(error),
        None => Ok(found.ok().filter(|x| x.is_finite())),
    }
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
        assert_eq!(try_find(0.0, 2.0, 1e-9, |_| Err::<f64, _>("gone")), Err("gone"));
    }
}
