//! What dissolved sugar does to water: how much fits, how it boils.

use super::{Component, Mixture};
use crate::quantity::Celsius;

const WATER_G_PER_MOL: f64 = 18.015;
const GAS_CONSTANT: f64 = 8.314;
/// Heat of vaporisation of water at 100 °C, J/mol.
const VAPORISATION: f64 = 40_660.0;
/// Norrish constants: 6.47 for twelve-carbon sugars, 2.25 for six-carbon ones.
const NORRISH_SUCROSE: f64 = 6.47;
const NORRISH_HEXOSE: f64 = 2.25;

/// The most sucrose that water holds at `t`, in % of the solution's weight; 0 to 100 °C.
///
/// Source: Charles 1960.
#[must_use]
pub fn sucrose_solubility(t: Celsius) -> f64 {
    let t = t.0.clamp(0.0, 100.0);
    64.397 + t * (0.07251 + t * (0.002_056_9 - t * 9.035e-6))
}

/// Water activity by Norrish; 1 for pure water and for nothing.
///
/// `aw = xw exp(-(Σ √Kᵢ xᵢ)²)` over the sugars' mole fractions; acids and minerals count as hexose,
/// which their molar masses come near to.
#[must_use]
pub fn water_activity(mixture: &Mixture) -> f64 {
    let water = mixture[Component::Water] / WATER_G_PER_MOL;
    if water <= 0.0 {
        return 1.0;
    }
    let disaccharides = (mixture[Component::Sucrose]
        + mixture[Component::Lactose]
        + mixture[Component::OtherSugar])
        / 342.3;
    let rest = (mixture.soluble_solids_mass().0
        - mixture[Component::Sucrose]
        - mixture[Component::Lactose]
        - mixture[Component::OtherSugar])
        .max(0.0)
        / 180.16;
    let all = water + disaccharides + rest;
    let pull = NORRISH_SUCROSE.sqrt() * disaccharides / all + NORRISH_HEXOSE.sqrt() * rest / all;
    water / all * (-pull * pull).exp()
}

/// By how many °C it boils higher than water (Clausius–Clapeyron at 100 °C).
#[must_use]
pub fn boiling_point_elevation(mixture: &Mixture) -> f64 {
    let boiling = Celsius(100.0).kelvin();
    -GAS_CONSTANT * boiling * boiling / VAPORISATION * water_activity(mixture).ln()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn syrup(percent: f64) -> Mixture {
        Mixture::of(&[(Component::Sucrose, percent), (Component::Water, 100.0 - percent)])
    }

    #[test]
    fn solubility_agrees_with_charles() {
        assert!((sucrose_solubility(Celsius(20.0)) - 66.6).abs() < 0.05);
        assert!((sucrose_solubility(Celsius(100.0)) - 83.2).abs() < 0.05);
    }

    #[test]
    fn water_activity_of_syrups() {
        assert!((water_activity(&syrup(60.0)) - 0.895).abs() < 0.001);
        assert!((water_activity(&syrup(65.0)) - 0.865).abs() < 0.001);
        assert_eq!(water_activity(&Mixture::EMPTY), 1.0);
    }

    #[test]
    fn syrups_boil_higher() {
        for (percent, elevation) in [(50.0, 1.92), (60.0, 3.15), (65.0, 4.12), (70.0, 5.50)] {
            let found = boiling_point_elevation(&syrup(percent));
            assert!((found - elevation).abs() < 0.02, "{percent} %: {found}");
        }
    }
}
