//! The normal scatter: what lies below, and how dense it is.

use statrs::function::erf::erfc;

/// The share of a normal scatter that lies below `z`, 0 to 1. Good to 1e-10 of itself in either tail.
pub(crate) fn below(z: f64) -> f64 {
    erfc(-z * std::f64::consts::FRAC_1_SQRT_2) / 2.0
}

/// How dense it is at `z`.
pub(crate) fn density(z: f64) -> f64 {
    const AT_NOUGHT: f64 = 0.398_942_280_401_432_7;
    AT_NOUGHT * (-z * z / 2.0).exp()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_scatter_is_that_of_the_tables() {
        for (z, share) in
            [(0.0, 0.5), (1.0, 0.841_344_7), (-1.96, 0.024_997_9), (-6.0, 9.865_88e-10)]
        {
            assert!((below(z) / share - 1.0).abs() < 1e-5, "{z}: {}", below(z));
        }
        assert!((density(1.0) - 0.241_970_7).abs() < 1e-7);
    }
}
