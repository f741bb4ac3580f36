//! Heat: what warming and cooling take, and how fast water leaves.

use crate::chemistry::{Component, Mixture, along, boiling_point_elevation, water_activity};
use crate::cupboard::VesselKind;
use crate::drink::{CoolingPlace, RestingPlace, Vessel};
use crate::quantity::{Celsius, Grams, Millilitres, Minutes};

/// The kitchen and everything that comes out of its cupboards.
pub(super) const ROOM: Celsius = Celsius(21.0);
/// What measures are made for: two litres are called two litres, however cold.
pub const MEASURED_AT: Celsius = Celsius(20.0);
/// Inside of a refrigerator.
const REFRIGERATOR: Celsius = Celsius(4.0);
/// Inside of a freezer.
pub(super) const FREEZER: Celsius = Celsius(-18.0);
/// Cold tap water that is changed now and then.
pub(super) const COLD_WATER: Celsius = Celsius(14.0);
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

/// Heat capacity of ice over that of water.
pub(super) const ICE_HEAT_SHARE: f64 = 0.5;

/// Heat that warms it by one degree, J/K.
pub(super) fn heat_capacity(mixture: &Mixture) -> f64 {
    let water = mixture[Component::Water];
    water * WATER_HEAT + (mixture.mass().0 - water) * REST_HEAT
}

/// The wall of a vessel, which takes part of the heat of what comes in.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub(super) struct Wall {
    /// Heat that warms all of it by one degree, J/K.
    whole: f64,
    /// How much the vessel holds, ml.
    holds: f64,
    /// What of it is as warm as the contents, J/K.
    pub(super) wet: f64,
}

impl Wall {
    /// Estimates by material and size, within a third either way: a steel pot of 3 l weighs 1.1 kg, a glass jug of
    /// 1.5 l 0.9 kg, a tumbler of 300 ml 0.3 kg. Specific heat 0.50 J/(g K) for steel, 0.84 for glass (CRC handbook).
    pub(super) fn of(vessel: &Vessel) -> Self {
        const STEEL: f64 = 500.0;
        const GLASS: f64 = 840.0;
        let holds = vessel.capacity().0;
        let litres = holds / 1000.0;
        let whole = match vessel.kind {
            VesselKind::Pot => (0.3 + 0.25 * litres) * STEEL,
            VesselKind::Bowl => 0.3 * litres * GLASS,
            VesselKind::Jug | VesselKind::Blender => 0.6 * litres * GLASS,
            VesselKind::Pitcher => 0.55 * litres * GLASS,
            VesselKind::Bottle => 0.5 * litres * GLASS,
            VesselKind::Glass => litres * GLASS,
            _ => 0.0,
        };
        Self { whole, holds, wet: 0.0 }
    }

    /// What of it is wet when it is filled so far: the bottom first.
    pub(super) fn when_filled_to(&self, level: Millilitres) -> f64 {
        if self.holds > 0.0 {
            self.whole * (level.0 / self.holds).clamp(0.0, 1.0).sqrt()
        } else {
            0.0
        }
    }

    /// What is empty is soon as warm as the kitchen.
    pub(super) fn dries_if(&mut self, empty: bool) {
        if empty {
            self.wet = 0.0;
        }
    }
}

/// How long a ring needs for so many degrees.
pub(super) fn heating_time(capacity: f64, by: f64) -> Minutes {
    time_for(RING_WATTS, capacity, by)
}

/// What a microwave brings into a jug: estimate, 450 W of 800.
pub(super) const MICROWAVE_WATTS: f64 = 450.0;

/// What a kettle brings into its water, of 2 kW.
const KETTLE_WATTS: f64 = 1800.0;

/// How long a kettle takes to boil so much water from the tap.
pub(super) fn kettle_time(water: Grams) -> Minutes {
    time_for(KETTLE_WATTS, water.0 * WATER_HEAT, 100.0 - COLD_WATER.0)
}

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

/// The share of its gas that an open vessel loses in a minute, as a rate: 8 % in ten minutes when cold
/// (estimate 5–15), twice as fast for each 10 °C more; a closed one keeps it while it is cool.
pub(super) fn gas_loss(t: Celsius, lid: bool) -> f64 {
    if lid && t.0 < 30.0 { 0.0 } else { 0.0083 * 2f64.powf((t.0 - 5.0) / 10.0) }
}

/// How much faster than a minute at 95 °C cells of fruit break at `t`: ten times as fast for each 20 °C,
/// so that a day on the worktop does next to nothing. Estimate.
pub(super) fn cell_breaking(t: Celsius) -> f64 {
    10f64.powf((t.0 - 95.0) / 20.0)
}

/// The hottest that anything is let get, °C: there sugar is caramel and no longer a syrup, and the law for
/// its boiling point has ended long before.
const HOTTEST: f64 = 125.0;

/// Where it boils.
pub(super) fn boiling_point(liquid: &Mixture) -> Celsius {
    Celsius((100.0 + boiling_point_elevation(liquid)).min(HOTTEST))
}

/// How water leaves a vessel while time passes.
pub(super) struct Steaming {
    opening_cm2: f64,
    /// On the ring, with so much more or less than usual in this kitchen; else it stands still.
    heated: Option<f64>,
    /// Where it is kept near its own boil, how far under it: that rises as water goes.
    under_boil: Option<f64>,
}

impl Steaming {
    /// From a pot on the ring.
    pub(super) fn heated(pot: &Vessel, here: f64) -> Self {
        Self { opening_cm2: pot.opening_mm2() / 100.0, heated: Some(here), under_boil: None }
    }

    /// From a pot that is kept so far under its boil.
    pub(super) fn boiling(pot: &Vessel, here: f64, under: f64) -> Self {
        Self { under_boil: Some(under), ..Self::heated(pot, here) }
    }

    /// Where it boils, for what is kept there: that rises as water goes and sugar comes in.
    pub(super) fn boils_at(&self, liquid: &Mixture) -> Option<Celsius> {
        self.under_boil.map(|under| Celsius(boiling_point(liquid).0 - under))
    }

    /// From a vessel that stands. A bottle's neck lets nothing worth a word out.
    pub(super) fn still(vessel: &Vessel) -> Self {
        let open = if vessel.kind == VesselKind::Bottle { 0.0 } else { 1.0 };
        let opening_cm2 = open * vessel.opening_mm2() / 100.0;
        Self { opening_cm2, heated: None, under_boil: None }
    }

    /// From nowhere.
    pub(super) fn none() -> Self {
        Self { opening_cm2: 0.0, heated: None, under_boil: None }
    }

    /// Grams of water that leave each minute at `t`: as from water that is as far from its boil, and
    /// less from a syrup, whose water is held (0.85 at 65 °Bx, as its water activity). A closed lid lets
    /// 7 % of it out from a ring, and nothing to speak of from what stands: it drips back.
    ///
    /// Estimates for a pot on the ring in a still kitchen, g/(cm² h): 0.6 at 70 °C, 1.1 at 80, 1.6 at
    /// 88, 2.8 at a lively simmer, 4 at the boil, and never more than the ring can boil away. What
    /// stands without heat loses less: 0.006 for each kPa of vapour over it (two litres lose 80 to 130 g
    /// in two hours, 4 to 6 % from the boil to room temperature).
    pub(super) fn rate(&self, liquid: &Mixture, t: Celsius, lid: bool) -> f64 {
        const RATE: [(f64, f64); 7] = [
            (20.0, 0.02),
            (50.0, 0.2),
            (70.0, 0.6),
            (80.0, 1.1),
            (88.0, 1.6),
            (96.5, 2.8),
            (100.0, 4.0),
        ];
        const STILL: f64 = 0.006;
        if self.opening_cm2 <= 0.0 || t.0 < ROOM.0 + 2.0 {
            return 0.0;
        }
        let activity = water_activity(liquid);
        match self.heated {
            Some(here) => {
                let as_water = self
                    .under_boil
                    .map_or_else(|| t.0 - boiling_point_elevation(liquid), |under| 100.0 - under);
                let open = along(&RATE, as_water) * here * self.opening_cm2 / 60.0;
                let most = RING_WATTS * 60.0 / VAPORISATION;
                open.min(most) * activity * if lid { 0.07 } else { 1.0 }
            }
            None if lid => 0.0,
            None => {
                let over_air = vapour_kpa(t) * activity - 0.5 * vapour_kpa(ROOM);
                STILL * over_air.max(0.0) * self.opening_cm2 / 60.0
            }
        }
    }
}

/// Pressure of water's vapour, kPa (Magnus, to 1 % between 0 and 100 °C).
fn vapour_kpa(t: Celsius) -> f64 {
    0.6112 * (17.62 * t.0 / (243.12 + t.0)).exp()
}

/// A surrounding that draws heat off: its temperature, and W/(m² K) over the vessel's outside.
#[derive(Debug, Clone, Copy)]
pub(super) struct Surrounding {
    pub(super) temperature: Celsius,
    transfer: f64,
}

impl From<RestingPlace> for Surrounding {
    fn from(place: RestingPlace) -> Self {
        CoolingPlace::from(place).into()
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
    /// One in which everything takes so many times as long.
    pub(super) fn slower(self, times: f64) -> Self {
        Self { transfer: self.transfer / times.max(0.01), ..self }
    }

    /// The same under a lid, where it lasts a third longer. Estimate.
    pub(super) fn tau(&self, vessel: &Vessel, capacity: f64, volume_ml: f64, lid: bool) -> f64 {
        self.time_constant(vessel, capacity, volume_ml) * if lid { 1.35 } else { 1.0 }
    }

    /// Minutes until the difference in temperature has fallen to 37 %: Newton's law over the wetted
    /// wall, the bottom and the surface.
    fn time_constant(&self, vessel: &Vessel, capacity: f64, volume_ml: f64) -> f64 {
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

    #[test]
    fn gas_leaves_faster_when_warm_and_a_lid_keeps_it_while_cool() {
        let [cold, warm] = [5.0, 25.0].map(|t| gas_loss(Celsius(t), false));
        assert!((warm / cold - 4.0).abs() < 1e-9, "twice for each ten degrees");
        // Eight in a hundred in ten minutes.
        assert!((1.0 - (-cold * 10.0).exp() - 0.08).abs() < 0.002);
        assert_eq!(gas_loss(Celsius(20.0), true), 0.0);
        assert!(gas_loss(Celsius(60.0), true) > 0.1, "nothing keeps it in what is hot");
    }

    #[test]
    fn cells_break_in_the_heat_and_not_on_the_worktop() {
        assert!((cell_breaking(Celsius(95.0)) - 1.0).abs() < 1e-12);
        assert!((cell_breaking(Celsius(75.0)) - 0.1).abs() < 1e-12);
        // A day at room temperature is less than a minute and a half at 95 °C.
        assert!(cell_breaking(Celsius(21.0)) * 1440.0 < 0.4);
    }

    fn pot() -> Vessel {
        Vessel { diameter_mm: Some(200.0), ..Vessel::new("pot", VesselKind::Pot) }
    }

    #[test]
    fn steam_leaves_by_heat_surface_and_lid() {
        let water = Mixture::of(&[(Component::Water, 2000.0)]);
        let syrup = Mixture::of(&[(Component::Water, 700.0), (Component::Sucrose, 1300.0)]);
        let hot = Celsius(100.0);
        let boil = Steaming::boiling(&pot(), 1.0, 0.0);
        // 314 cm² at 4 g/(cm² h).
        let open = boil.rate(&water, hot, false);
        assert!((open - 314.16 * 4.0 / 60.0).abs() < 0.1, "{open}");
        assert!((boil.rate(&water, hot, true) / open - 0.07).abs() < 1e-9);
        // A kitchen whose pots lose half as much again.
        let fierce = Steaming::boiling(&pot(), 1.25, 0.0).rate(&water, hot, false);
        assert!((fierce / open - 1.25).abs() < 1e-9);
        // And never more than the ring can boil away.
        let most = Steaming::boiling(&pot(), 9.0, 0.0).rate(&water, hot, false);
        assert!((most - RING_WATTS * 60.0 / VAPORISATION).abs() < 1e-9);
        assert!(boil.rate(&syrup, hot, false) < 0.9 * open, "sugar holds its water");
        // A syrup boils hotter, and a simmer stays as far under that.
        let simmer = Steaming::boiling(&pot(), 1.0, 3.5);
        let (thin, thick) = (simmer.boils_at(&water).unwrap(), simmer.boils_at(&syrup).unwrap());
        assert!((thin.0 - 96.5).abs() < 1e-9 && thick.0 > thin.0 + 3.5, "{thin:?} {thick:?}");
    }

    #[test]
    fn what_stands_loses_less_than_what_is_heated_and_nothing_when_cold_or_closed() {
        let water = Mixture::of(&[(Component::Water, 2000.0)]);
        let t = Celsius(80.0);
        let (stands, heated) = (Steaming::still(&pot()), Steaming::heated(&pot(), 1.0));
        let open = stands.rate(&water, t, false);
        assert!(open > 0.0 && open < 0.4 * heated.rate(&water, t, false), "{open}");
        assert_eq!(stands.rate(&water, t, true), 0.0);
        assert_eq!(stands.rate(&water, ROOM, false), 0.0);
        let bottle = Vessel::new("bottle", VesselKind::Bottle);
        assert_eq!(Steaming::still(&bottle).rate(&water, t, false), 0.0);
        assert_eq!(Steaming::none().rate(&water, t, false), 0.0);
    }

    #[test]
    fn vapour_presses_as_the_steam_tables_say() {
        for (t, kpa) in [(20.0, 2.34), (60.0, 19.9), (100.0, 101.3)] {
            let found = vapour_kpa(Celsius(t));
            assert!((found / kpa - 1.0).abs() < 0.04, "{t}: {found}");
        }
    }

    #[test]
    fn a_kettle_boils_a_litre_in_three_to_four_minutes() {
        let minutes = kettle_time(Grams(1000.0)).0;
        assert!((3.0..4.0).contains(&minutes), "{minutes}");
    }

    #[test]
    fn a_lid_keeps_it_warm_and_a_large_pot_cools_slowly() {
        let worktop = Surrounding::from(CoolingPlace::Worktop);
        let capacity = |litres: f64| litres * 4180.0;
        let two = worktop.tau(&pot(), capacity(2.0), 2000.0, false);
        assert!((60.0..140.0).contains(&two), "{two} minutes");
        assert!((worktop.tau(&pot(), capacity(2.0), 2000.0, true) / two - 1.35).abs() < 1e-9);
        let bath = Surrounding::from(CoolingPlace::WaterBath);
        assert!(bath.tau(&pot(), capacity(2.0), 2000.0, false) < two / 5.0);
        let large = Vessel { diameter_mm: Some(400.0), ..Vessel::new("pot", VesselKind::Pot) };
        assert!(worktop.tau(&large, capacity(20.0), 20_000.0, false) > 1.8 * two);
    }
}
