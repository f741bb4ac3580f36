use super::{Component, Mixture};
use crate::quantity::Grams;

/// Sweetness of a gram over that of a gram of sucrose, at the strength of a drink, 20–25 °C.
///
/// Moskowitz 1970 and Fontvieille 1989. The ranges are wide: fructose 1.1–1.4, glucose 0.55–0.75,
/// lactose 0.15–0.35, maltose 0.3–0.5, erythritol 0.6–0.7.
const RELATIVE: [(Component, f64); 7] = [
    (Component::Sucrose, 1.00),
    (Component::Fructose, 1.20),
    (Component::Glucose, 0.70),
    (Component::Lactose, 0.25),
    (Component::OtherSugar, 0.40),
    (Component::Polyol, 0.65),
    (Component::IntenseSweetness, 1.0),
];

impl Mixture {
    /// Grams of sucrose that would taste as sweet.
    #[must_use]
    pub fn sucrose_equivalent(&self) -> Grams {
        Grams(RELATIVE.iter().map(|(c, relative)| self[*c] * relative).sum())
    }

    /// Sweetness in grams of sucrose in 100 g; 0 of nothing.
    #[must_use]
    pub fn sweetness_percent(&self) -> f64 {
        let mass = self.mass().0;
        if mass > 0.0 { 100.0 * self.sucrose_equivalent().0 / mass } else { 0.0 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn invert_sugar_is_nearly_as_sweet_as_sugar() {
        let invert = Mixture::of(&[(Component::Glucose, 50.0), (Component::Fructose, 50.0)]);
        assert!((invert.sucrose_equivalent().0 - 95.0).abs() < 1e-9);
    }
}
