//! What kitchen tools can measure: rounding, spelling in spoons, and the step of a nudge.

use super::amount::{Amount, Term};
use super::measure::{Dimension, Measure};

/// The finest step worth reading off a tool at this size: a scale of 1 g (0.1 g below 10 g), a jug
/// marked each 5 ml, spoons in quarters, fruit in quarters.
fn resolution(value: f64, measure: &Measure) -> f64 {
    match measure {
        Measure::Milligram => 10.0,
        Measure::Gram if value < 1.0 => 0.05,
        Measure::Gram if value < 10.0 => 0.1,
        Measure::Gram if value < 500.0 => 1.0,
        Measure::Gram => 5.0,
        Measure::Kilogram | Measure::Litre if value < 10.0 => 0.01,
        Measure::Kilogram | Measure::Litre => 0.1,
        Measure::Millilitre if value < 10.0 => 0.5,
        Measure::Millilitre if value < 100.0 => 1.0,
        Measure::Millilitre => 5.0,
        Measure::Ounce => 0.1,
        Measure::Pound => 0.05,
        Measure::Centilitre | Measure::Decilitre => 0.1,
        Measure::Teaspoon | Measure::Cup | Measure::MetricCup | Measure::Tablespoon => 0.25,
        Measure::FluidOunce => 0.5,
        Measure::Pinch | Measure::Dash | Measure::Drop => 1.0,
        Measure::Pint | Measure::Quart | Measure::Gallon | Measure::Part => 0.25,
        Measure::Piece(_) if value < 3.0 => 0.25,
        Measure::Piece(_) if value < 10.0 => 0.5,
        Measure::Piece(_) => 1.0,
    }
}

/// The nearest value that a tool for this measure shows; never zero.
///
/// ```
/// use keen_core::quantity::{Measure, round_to_kitchen};
/// assert_eq!(round_to_kitchen(38.47, &Measure::Gram), 38.0);
/// assert_eq!(round_to_kitchen(0.02, &Measure::Piece("limes".into())), 0.25);
/// ```
#[must_use]
pub fn round_to_kitchen(value: f64, measure: &Measure) -> f64 {
    let step = resolution(value, measure);
    let rounded = (value / step).round().max(1.0) * step;
    // Sheds the tail of binary fractions (0.30000000000000004).
    (rounded * 1e6).round() / 1e6
}

/// How far one nudge goes: a step that a cook would make and could taste or see.
#[must_use]
pub fn kitchen_step(value: f64, measure: &Measure) -> f64 {
    match (measure, measure.dimension()) {
        (Measure::Gram | Measure::Millilitre, _) => match value {
            v if v < 3.0 => 0.1,
            v if v < 10.0 => 0.5,
            v if v < 50.0 => 1.0,
            v if v < 200.0 => 5.0,
            v if v < 1000.0 => 10.0,
            _ => 50.0,
        },
        (Measure::Kilogram | Measure::Litre, _) => 0.05,
        (Measure::Teaspoon | Measure::Cup | Measure::MetricCup, _) => 0.25,
        (Measure::Pint | Measure::Quart | Measure::Gallon | Measure::Part, _) => 0.25,
        (Measure::Tablespoon | Measure::FluidOunce, _) => 0.5,
        (Measure::Piece(_), _) => {
            if value < 2.0 {
                0.25
            } else if value < 5.0 {
                0.5
            } else {
                1.0
            }
        }
        (Measure::Milligram, _) => 50.0,
        (_, Dimension::Mass) => 0.25,
        _ => 1.0,
    }
}

/// Spells a volume in cups, tablespoons and teaspoons as a cook would, to a quarter teaspoon.
///
/// ```
/// use keen_core::quantity::spell_in_spoons;
/// assert_eq!(spell_in_spoons(236.588).to_string(), "1 cup");
/// assert_eq!(spell_in_spoons(266.0).to_string(), "1 cup + 2 tbsp");
/// assert_eq!(spell_in_spoons(118.3).to_string(), "1/2 cup");
/// assert_eq!(spell_in_spoons(0.2).to_string(), "1/8 tsp");
/// // For a party, in what a kitchen has for it.
/// assert_eq!(spell_in_spoons(12_000.0).to_string(), "3 gallons + 2 3/4 cups");
/// ```
#[must_use]
pub fn spell_in_spoons(millilitres: f64) -> Amount {
    let tsp = millilitres / Measure::Teaspoon.factor();
    if millilitres >= 1.99 * Measure::Quart.factor() {
        return spell_in_quarts(millilitres);
    }
    // From three quarters of a spoon on, quarters; below, the smallest spoons of a set.
    let quarter_spoons = |v: f64| {
        if v < 0.19 { 0.125 } else { (v * 4.0).round().max(1.0) / 4.0 }
    };
    if tsp < 2.875 {
        return Amount::of(quarter_spoons(tsp), Measure::Teaspoon);
    }
    // A whole number of teaspoons, or of tablespoons towards a cup and beyond: finer is not worth a spoon.
    let mut left = if tsp < 40.0 { tsp.round() } else { (tsp / 3.0).round() * 3.0 } as u32;
    let mut terms = Vec::new();
    let cups = left / 48;
    left %= 48;
    // What a set of cup measures holds besides whole cups, in teaspoons.
    let part = [(36u32, 0.75), (32, 2.0 / 3.0), (24, 0.5), (16, 1.0 / 3.0), (12, 0.25)]
        .into_iter()
        .find(|(spoons, _)| left == *spoons)
        .or_else(|| {
            [(36u32, 0.75), (24, 0.5), (12, 0.25)].into_iter().find(|(spoons, _)| left >= *spoons)
        });
    let mut cup = f64::from(cups);
    if let Some((spoons, share)) = part {
        left -= spoons;
        cup += share;
    }
    if cup > 0.0 {
        terms.push(Term { value: cup, measure: Measure::Cup });
    }
    if left >= 3 {
        terms.push(Term { value: f64::from(left / 3), measure: Measure::Tablespoon });
    }
    if !left.is_multiple_of(3) {
        terms.push(Term { value: f64::from(left % 3), measure: Measure::Teaspoon });
    }
    Amount::from_terms(terms).unwrap_or_else(|| Amount::of(1.0, Measure::Teaspoon))
}

/// From two quarts on nobody counts cups: gallons, quarts, and what is left in quarters of a cup. No more than two
/// measures.
fn spell_in_quarts(millilitres: f64) -> Amount {
    let cups = millilitres / Measure::Cup.factor();
    let step = if cups < 128.0 { 0.25 } else { 1.0 };
    let mut left = (cups / step).round() * step;
    let gallons = (left / 16.0).floor();
    left -= 16.0 * gallons;
    let quarts = (left / 4.0).floor();
    left -= 4.0 * quarts;
    let all = match (gallons > 0.0, quarts > 0.0) {
        // A quarter of a quart is a cup.
        (true, true) => {
            let quarts = quarts + left.round() / 4.0;
            let whole = quarts >= 4.0;
            let (gallons, quarts) = if whole { (gallons + 1.0, 0.0) } else { (gallons, quarts) };
            [(gallons, Measure::Gallon), (quarts, Measure::Quart), (0.0, Measure::Cup)]
        }
        _ => [(gallons, Measure::Gallon), (quarts, Measure::Quart), (left, Measure::Cup)],
    };
    let terms = all.into_iter().filter(|(value, _)| *value > 0.0);
    let terms = terms.map(|(value, measure)| Term { value, measure }).collect();
    Amount::from_terms(terms).unwrap_or_else(|| Amount::of(cups, Measure::Cup))
}

impl Amount {
    /// The nearest amount that kitchen tools can measure, never nothing.
    #[must_use]
    pub fn rounded(&self) -> Self {
        if self.spread().is_some() {
            return self.clone();
        }
        if self.spoons_only() {
            return spell_in_spoons(self.total());
        }
        let terms = self
            .terms()
            .iter()
            .map(|t| Term {
                value: round_to_kitchen(t.value, &t.measure),
                measure: t.measure.clone(),
            })
            .collect();
        Self::from_terms(terms).unwrap_or_else(|| self.clone())
    }
}
