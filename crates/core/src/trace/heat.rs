//! Heat: what warming and cooling take, and how fast water leaves.

use crate::chemistry::{Component, Mixture};
use crate::drink::{CoolingPlace, RestingPlace, Vessel};
use crate::quantity::{Celsius, Grams, Minutes};

/// The kitchen and everything that comes out of its cupboards.
pub(super) const ROOM: Celsius = Celsius(21.0);
/// What measures are made for: two litres are called two litres, however cold.
pub const MEASURED_AT: Celsius = Celsius(20.0);
/// Inside of a refrigerator.
const REFRIGERATOR: Celsius = Celsius(4.0);
/// Inside of a freezer.
const FREEZER: Celsius = Celsius(-18.0);
/// Cold tap water that is changed now and then.
const COLD_WATER: Celsius = Celsius(14.0);
/// Heat that melts a gram of ice, J.
pub(super) const MELTING: f64 = 334.0;
/// Heat that boils away a gram of water, J.
const VAPORISATION: f64 = 2257.0;
/// What a home ring of 2 kW brings into a pot: estimate, 45–60 % of its power.
const RING_WATTS: f64 = 1000.0;
/// Specific heat of water and of everything else in a drink, J/(g K). 1.7 for dissolved sugar and
/// dry matter makes sugar solutions right to about 2 %.
const WATER_HEAT: f64 = 4.18;
const REST_HEAT: f64 = 1.7;
/// Activation energy over the gas constant for drawing, K: from dried calyces, which take 4 min
/// at 95 °C and 90 min at 5 °C (literature and estimate).
const DRAWING_KELVIN: f64 = 3540.0;

/// Heat that warms it by one degree, J/K.
pub(super) fn heat_capacity(mixture: &Mixture) -> f64 {
    let water = mixture[Component::Water];
    water * WATER_HEAT + (mixture.mass().0 - water) * REST_HEAT
}

/// How long a ring needs for so many degrees.
pub(super) fn heating_time(capacity: f64, by: f64) -> Minutes {
    time_for(RING_WATTS, capacity, by)
}

/// What a microwave brings into a jug: estimate, 450 W of 800.
pub(super) const MICROWAVE_WATTS: f64 = 450.0;

/// How long so many watts need for so many degrees.
pub(super) fn time_for(watts: f64, capacity: f64, by: f64) -> Minutes {
    Minutes((capacity * by / watts / 60.0).max(0.0))
}

/// The share of aroma that goes off in a minute, as a rate: half in 15 minutes in an open pot at the
/// boil, twice as slowly for each 10 °C less; a lid keeps most of it back. Estimate, half to double.
pub(super) fn aroma_loss(t: Celsius, lid: bool) -> f64 {
    let open = std::f64::consts::LN_2 / 15.0 * 2f64.powf((t.0 - 100.0) / 10.0);
    open * if lid { 0.15 } else { 1.0 }
}

/// Water that leaves an open surface each minute, from what boils as water of temperature `t` does;
/// `rate` is how much faster or slower this kitchen's pots do it.
///
/// Estimates for a pot in a still kitchen, g/(cm² h): 0.6 at 70 °C, 1.1 at 80, 1.6 at 88, 2.8 at a
/// lively simmer, 4 at the boil, and never more than the ring can boil away. A closed lid lets 7 %
/// of it out.
pub(super) fn evaporation(vessel: &Vessel, t: Celsius, lid: bool, rate_here: f64) -> Grams {
    const RATE: [(f64, f64); 7] = [
        (20.0, 0.02),
        (50.0, 0.2),
        (70.0, 0.6),
        (80.0, 1.1),
        (88.0, 1.6),
        (96.5, 2.8),
        (100.0, 4.0),
    ];
    let rate = interpolate(&RATE, t.0);
    let open = rate * rate_here * vessel.opening_mm2() / 100.0 / 60.0;
    let most = RING_WATTS * 60.0 / VAPORISATION;
    Grams(open.min(most) * if lid { 0.07 } else { 1.0 })
}

fn interpolate(points: &[(f64, f64)], x: f64) -> f64 {
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

/// A surrounding that draws heat off: its temperature, and W/(m² K) over the vessel's outside.
#[derive(Debug, Clone, Copy)]
pub(super) struct Surrounding {
    pub(super) temperature: Celsius,
    transfer: f64,
}

impl From<RestingPlace> for Surrounding {
    fn from(place: RestingPlace) -> Self {
        match place {
            RestingPlace::Worktop => CoolingPlace::Worktop.into(),
            RestingPlace::Refrigerator => CoolingPlace::Refrigerator.into(),
        }
    }
}

/// Estimates of the heat transfer: still air 12, with what evaporates 15 (10–20); a water bath that
/// is stirred now and then 120 (60–250).
impl From<CoolingPlace> for Surrounding {
    fn from(place: CoolingPlace) -> Self {
        match place {
            CoolingPlace::Worktop => Self { temperature: ROOM, transfer: 15.0 },
            CoolingPlace::WaterBath => Self { temperature: COLD_WATER, transfer: 120.0 },
            CoolingPlace::Refrigerator => Self { temperature: REFRIGERATOR, transfer: 12.0 },
            CoolingPlace::Freezer => Self { temperature: FREEZER, transfer: 15.0 },
        }
    }
}

impl Surrounding {
    /// Minutes until the difference in temperature has fallen to 37 %: Newton's law over the wetted
    /// wall, the bottom and the surface.
    pub(super) fn time_constant(&self, vessel: &Vessel, capacity: f64, volume_ml: f64) -> f64 {
        let opening = vessel.opening_mm2();
        let depth = volume_ml * 1000.0 / opening;
        let area_m2 = (2.0 * opening + std::f64::consts::PI * vessel.diameter().0 * depth) * 1e-6;
        (capacity / (self.transfer * area_m2) / 60.0).max(0.01)
    }
}

/// How much faster than a minute at 95 °C things are drawn at `t` (below 1 when cooler).
pub(super) fn drawing_speed(t: Celsius) -> f64 {
    (DRAWING_KELVIN * (1.0 / Celsius(95.0).kelvin() - 1.0 / t.kelvin())).exp()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_litre_of_tap_water_comes_to_the_boil_in_about_six_minutes() {
        let water = Mixture::of(&[(Component::Water, 1000.0)]);
        let time = heating_time(heat_capacity(&water), 85.0).0;
        assert!((time - 5.9).abs() < 0.1, "{time}");
    }

    #[test]
    fn cold_draws_more_than_twenty_times_slower_than_hot() {
        let ratio = drawing_speed(Celsius(95.0)) / drawing_speed(Celsius(5.0));
        assert!((20.0..25.0).contains(&ratio), "{ratio}");
    }
}
