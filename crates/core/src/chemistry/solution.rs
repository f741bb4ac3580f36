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
pub(crate) fn sucrose_solubility(t: Celsius) -> f64 {
    let t = t.0.clamp(0.0, 100.0);
    64.397 + t * (0.07251 + t * (0.002_056_9 - t * 9.035e-6))
}

/// Water activity by Norrish; 1 for pure water and for nothing.
///
/// `aw = xw exp(-(Σ √Kᵢ xᵢ)²)` over the sugars' mole fractions; acids and minerals count as hexose,
/// which their molar masses come near to.
#[must_use]
pub(crate) fn water_activity(mixture: &Mixture) -> f64 {
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

/// By how many °C it boils higher than water: sugar raises it (Clausius–Clapeyron at 100 °C), alcohol
/// brings it down.
#[must_use]
pub(crate) fn boiling_point_elevation(mixture: &Mixture) -> f64 {
    let boiling = Celsius(100.0).kelvin();
    let by_sugar = -GAS_CONSTANT * boiling * boiling / VAPORISATION * water_activity(mixture).ln();
    by_sugar - ethanol_depression(mixture)
}

/// By how many °C alcohol brings the boiling point down, from the weight of ethanol in ethanol and water
/// (CRC handbook, at one atmosphere).
fn ethanol_depression(mixture: &Mixture) -> f64 {
    const BOILS: [(f64, f64); 8] = [
        (0.0, 100.0),
        (0.05, 94.8),
        (0.1, 91.5),
        (0.2, 87.1),
        (0.3, 84.5),
        (0.5, 81.7),
        (0.8, 79.1),
        (1.0, 78.3),
    ];
    100.0 - along(&BOILS, ethanol_share(mixture))
}

/// A value between the points of a table; its ends beyond them.
pub(crate) fn along(points: &[(f64, f64)], x: f64) -> f64 {
    let last = points.len() - 1;
    match points.iter().position(|(at, _)| x < *at) {
        Some(0) => points[0].1,
        None => points[last].1,
        Some(i) => {
            let ((x0, y0), (x1, y1)) = (points[i - 1], points[i]);
            y0 + (x - x0) / (x1 - x0) * (y1 - y0)
        }
    }
}

/// Where ice begins to form in it, °C (Clausius–Clapeyron on the melting of ice, 6010 J/mol, for what is
/// dissolved; for ethanol the tables of the CRC handbook).
///
/// For drinks and syrups up to about 60 % solids; beyond, freezers do not make it hard.
#[must_use]
pub(crate) fn freezing_point(mixture: &Mixture) -> f64 {
    const MELTING_J_PER_MOL: f64 = 6010.0;
    let melts = Celsius(0.0).kelvin();
    let by_sugar = GAS_CONSTANT * melts * melts / MELTING_J_PER_MOL * water_activity(mixture).ln();
    by_sugar + along(&FREEZES, ethanol_share(mixture))
}

/// Where ethanol and water freeze, by the weight of ethanol (CRC handbook).
const FREEZES: [(f64, f64); 7] =
    [(0.0, 0.0), (0.05, -2.1), (0.1, -4.5), (0.2, -10.9), (0.3, -20.5), (0.4, -29.4), (0.6, -45.0)];

/// Ethanol as a share of ethanol and water, by weight.
fn ethanol_share(mixture: &Mixture) -> f64 {
    let ethanol = mixture[Component::Ethanol];
    if ethanol > 0.0 { ethanol / (ethanol + mixture[Component::Water]) } else { 0.0 }
}

/// The share of sucrose that splits into glucose and fructose in a minute at that temperature and pH.
///
/// First order in hydrogen ion: 7.3e-3 a minute and mol/l at 25 °C with 108 kJ/mol, after published
/// inversions by strong acid; good to a factor of two. It tells the invert share and whether a syrup
/// will crystallise.
#[must_use]
pub(crate) fn inversion_rate(t: Celsius, ph: f64) -> f64 {
    const AT_25: f64 = 7.3e-3;
    const ACTIVATION_KELVIN: f64 = 108_000.0 / GAS_CONSTANT;
    let warmer = ACTIVATION_KELVIN * (1.0 / Celsius(25.0).kelvin() - 1.0 / t.kelvin());
    AT_25 * 10f64.powf(-ph) * warmer.exp()
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
    fn a_syrup_freezes_lower() {
        // 20 % sucrose: 1.46 °C below that of water in the tables; Norrish and an ideal melting heat
        // come to 1.5.
        assert!(
            (freezing_point(&syrup(20.0)) + 1.5).abs() < 0.15,
            "{}",
            freezing_point(&syrup(20.0))
        );
    }

    #[test]
    fn hot_acid_splits_sugar_within_minutes_and_cold_acid_does_not() {
        let half = |t: f64, ph: f64| 2f64.ln() / inversion_rate(Celsius(t), ph);
        assert!((3.0..9.0).contains(&half(100.0, 2.5)), "{}", half(100.0, 2.5));
        assert!(half(5.0, 2.5) > 60.0 * 24.0 * 30.0, "{}", half(5.0, 2.5));
    }

    #[test]
    fn syrups_boil_higher() {
        for (percent, elevation) in [(50.0, 1.92), (60.0, 3.15), (65.0, 4.12), (70.0, 5.50)] {
            let found = boiling_point_elevation(&syrup(percent));
            assert!((found - elevation).abs() < 0.02, "{percent} %: {found}");
        }
    }
}
