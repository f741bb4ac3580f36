//! This kitchen's own water.
//!
//! Tap water holds hydrogen carbonate, and each millimole of it takes a millimole of acid before the drink gets sour: 250
//! mg in a litre take 0.26 g of citric acid. So a lemonade of hard water is flatter, and hibiscus in it violet. Rain,
//! filtered and most bottled still water hold next to none.
//!
//! What the supplier's sheet, a test strip or a label says is one figure, the alkalinity; it comes in as hydrogen
//! carbonate with the ions that balance it, and all else follows from the charge balance (`chemistry/acidity.rs`).

use serde::{Deserialize, Serialize};

use crate::chemistry::{CARBON_DIOXIDE_G_PER_MOL, CITRIC_G_PER_EQUIVALENT, Component, Mixture};
use crate::cupboard::{Ingredient, Trait};
use crate::root;

/// Tap water, or the water bought instead.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
#[schema(as = OwnWater)]
pub struct Water {
    /// Hydrogen carbonate, mg in a litre, 0 to 1500.
    pub hydrogen_carbonate: f64,
}

/// The most that is drunk: very hard water has 500, some mineral waters 1500.
pub const MOST_CARBONATE: f64 = 1500.0;
/// Mass of a mole of hydrogen carbonate, g.
const HYDROGEN_CARBONATE: f64 = 61.02;

/// The unit of an alkalinity.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Alkalinity {
    /// Hydrogen carbonate, mg in a litre.
    HydrogenCarbonate,
    /// As calcium carbonate, mg in a litre (ppm).
    CalciumCarbonate,
    /// German degrees of carbonate hardness.
    GermanDegrees,
    /// French degrees.
    FrenchDegrees,
    /// Millimoles of acid in a litre.
    Millimoles,
}

impl Alkalinity {
    /// So much of it as mg of hydrogen carbonate in a litre.
    #[must_use]
    pub fn as_hydrogen_carbonate(self, value: f64) -> f64 {
        value
            * match self {
                Self::HydrogenCarbonate => 1.0,
                // 100.09 g of calcium carbonate take two moles of acid.
                Self::CalciumCarbonate => HYDROGEN_CARBONATE / 50.045,
                // 17.85 mg, and 10 mg, of calcium carbonate in a litre.
                Self::GermanDegrees => 17.848 * HYDROGEN_CARBONATE / 50.045,
                Self::FrenchDegrees => 10.0 * HYDROGEN_CARBONATE / 50.045,
                Self::Millimoles => HYDROGEN_CARBONATE,
            }
    }
}

impl Water {
    /// Acid that a litre takes, as g of citric acid.
    #[must_use]
    pub fn takes_citric(self) -> f64 {
        self.hydrogen_carbonate / 1000.0 / HYDROGEN_CARBONATE * CITRIC_G_PER_EQUIVALENT
    }

    /// Acid that so many g of it take, as g of citric acid.
    pub(crate) fn takes_of(self, grams: f64) -> f64 {
        self.takes_citric() * grams / 1000.0
    }

    /// Puts what it holds into the table's water.
    pub(super) fn apply(self, it: &mut Ingredient) {
        if !it.is(Trait::Tap) || self.hydrogen_carbonate <= 0.0 {
            return;
        }
        it.per_gram = with(it.per_gram, self.hydrogen_carbonate, 1e-3);
    }

    /// The water in which so many g of citric acid in a litre come to that pH: how it is learned without a sheet. None
    /// where no water does.
    #[must_use]
    pub fn from_ph(citric_g_per_l: f64, ph: f64) -> Option<Self> {
        let sour = Mixture::of(&[(Component::Water, 1000.0), (Component::Citric, citric_g_per_l)]);
        let miss = |carbonate: f64| with(sour, carbonate, 1.0).ph().map_or(0.0, |found| found - ph);
        // The meter may read a little under what pure water would give.
        if miss(0.0) >= 0.0 {
            return (miss(0.0) < 0.15).then(Self::default);
        }
        let found = root::find(0.0, MOST_CARBONATE, 1e-4, miss)?;
        Some(Self { hydrogen_carbonate: found })
    }
}

/// The same with so many mg of hydrogen carbonate for each `per` litres of it.
fn with(mut mixture: Mixture, carbonate: f64, per: f64) -> Mixture {
    let millimoles = carbonate / HYDROGEN_CARBONATE * per;
    mixture[Component::CarbonDioxide] += millimoles / 1000.0 * CARBON_DIOXIDE_G_PER_MOL;
    mixture[Component::StrongIons] += millimoles;
    mixture
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cupboard::{Cupboard, Kitchen};

    #[test]
    fn hydrogen_carbonate_takes_its_acid() {
        // By hand: 250 mg over 61.02 are 4.1 mmol, which take as much of citric acid: 0.262 g.
        let hard = Water { hydrogen_carbonate: 250.0 };
        assert!((hard.takes_citric() - 0.2624).abs() < 0.001, "{}", hard.takes_citric());
        let kitchen = Kitchen { water: Some(hard), ..Kitchen::default() };
        let cupboard = Cupboard::of(&kitchen);
        let mut litre = cupboard.ingredient("water").unwrap().per_gram.share(1000.0);
        assert!((7.8..8.7).contains(&litre.ph().unwrap()), "{:?}", litre.ph());
        litre[Component::Citric] += 2.0;
        let soft = Mixture::of(&[(Component::Water, 1000.0), (Component::Citric, 2.0)]);
        let gone = soft.titratable_acid() - litre.titratable_acid();
        assert!((gone - 0.262).abs() < 0.01, "{gone} g of acid are gone");
        assert!(litre.ph().unwrap() > soft.ph().unwrap() + 0.1);
    }

    #[test]
    fn one_figure_in_every_unit() {
        for (unit, value) in [
            (Alkalinity::HydrogenCarbonate, 244.1),
            (Alkalinity::CalciumCarbonate, 200.2),
            (Alkalinity::GermanDegrees, 11.22),
            (Alkalinity::FrenchDegrees, 20.02),
            (Alkalinity::Millimoles, 4.0),
        ] {
            let found = unit.as_hydrogen_carbonate(value);
            assert!((found - 244.1).abs() < 0.6, "{unit:?}: {found}");
        }
    }

    #[test]
    fn a_ph_of_plain_acid_in_it_tells_what_it_holds() {
        for carbonate in [40.0, 120.0, 300.0] {
            let mixture = Mixture::of(&[(Component::Water, 1000.0), (Component::Citric, 1.0)]);
            let ph = with(mixture, carbonate, 1.0).ph().unwrap();
            let found = Water::from_ph(1.0, ph).unwrap().hydrogen_carbonate;
            assert!((found / carbonate - 1.0).abs() < 0.01, "{found} for {carbonate}");
        }
        let pure = Mixture::of(&[(Component::Water, 1000.0), (Component::Citric, 1.0)]);
        assert_eq!(Water::from_ph(1.0, pure.ph().unwrap() - 0.05), Some(Water::default()));
        assert_eq!(Water::from_ph(1.0, 2.0), None, "no water makes it sourer");
    }
}
