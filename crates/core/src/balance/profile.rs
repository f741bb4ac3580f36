use serde::Serialize;

use crate::chemistry::{Component, GRAMS_PER_VOLUME_CO2, Mixture};
use crate::trace::{MEASURED_AT, Outcome};

/// What citric acid takes off a refractometer's reading, °Brix for each % of acid.
const ACID_READS_LOW: f64 = 0.193;

/// °Brix as a refractometer reads a liquid: acid reads low.
#[must_use]
pub(crate) fn reads_as_brix(liquid: &Mixture) -> f64 {
    liquid.soluble_solids() - ACID_READS_LOW * liquid.acidity_percent()
}

/// The figures of a drink as it is served.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Profile {
    /// Soluble solids, % of the weight.
    pub brix: f64,
    /// °Brix as a refractometer would read it: acid reads low.
    pub refractometer_brix: f64,
    /// Sugars, g/l.
    pub sugar_g_per_l: f64,
    /// Sweetness as sucrose, g/l.
    pub sweetness_g_per_l: f64,
    /// Sweetness as sucrose, g in 100 g.
    pub sweetness_percent: f64,
    /// Titratable acidity as citric acid, g in 100 g.
    pub acidity_percent: f64,
    /// Titratable acidity as citric acid, g/l.
    pub acidity_g_per_l: f64,
    /// pH, within 0.1; missing without water.
    pub ph: Option<f64>,
    /// Sweetness divided by acidity; missing without acid.
    pub ratio: Option<f64>,
    /// Alcohol, % of the volume.
    pub alcohol_percent: f64,
    /// Dissolved CO₂ in volumes.
    pub fizz_volumes: f64,
    /// The total volume served, ml.
    pub volume_ml: f64,
    /// How many glasses or bottles; 1 if it is in neither.
    pub glasses: f64,
    /// Whether it is poured into glasses. If not, the figures of a glass are those of 100 ml.
    pub served: bool,
    /// The volume of a glass, ml.
    pub glass_ml: f64,
    /// Sugar in a glass, g.
    pub glass_sugar_g: f64,
    /// Energy in a glass, kcal.
    pub glass_energy_kcal: f64,
    /// Alcohol in a glass, g.
    pub glass_alcohol_g: f64,
    /// Ice in a glass that has not melted, g.
    pub glass_ice_g: f64,
    /// Smell, in our own units for each litre: 20 is clear, 80 strong. Estimate.
    pub aroma_per_l: f64,
    /// Bitterness, in our own units for each litre: 1 is just noticeable. Estimate.
    pub bitterness_per_l: f64,
    /// Heat of ginger and pepper, in our own units for each litre: 5 is just noticeable. Estimate.
    pub pungency_per_l: f64,
    /// Temperature, °C.
    pub temperature_c: f64,
    /// Colour in the glass, `#rrggbb`.
    pub colour: String,
}

/// A taste that has a target.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Taste {
    /// Sweetness as sucrose, g in 100 g.
    pub sweetness_percent: f64,
    /// Titratable acidity as citric acid, g in 100 g.
    pub acidity_percent: f64,
    /// Soluble solids, % of the weight.
    pub brix: f64,
    /// Alcohol, % of the volume.
    pub alcohol_percent: f64,
    /// Dissolved CO₂ in volumes.
    pub fizz_volumes: f64,
    /// The volume ready to serve, ml.
    pub ready_ml: f64,
}

impl Taste {
    /// Reads it off the end of a trace; `None` if there is no liquid.
    #[must_use]
    pub fn of(outcome: &Outcome) -> Option<Self> {
        let liquid = &outcome.contents.as_drunk();
        if liquid.mass().0 < 1e-6 {
            return None;
        }
        let litres = liquid.volume(MEASURED_AT).0 / 1000.0;
        Some(Self {
            sweetness_percent: liquid.sweetness_percent(),
            acidity_percent: liquid.acidity_percent(),
            brix: liquid.soluble_solids(),
            alcohol_percent: liquid.alcohol_percent(),
            fizz_volumes: liquid.free_carbon_dioxide() / GRAMS_PER_VOLUME_CO2 / litres,
            ready_ml: outcome.ready.0,
        })
    }
}

/// Below this nobody tastes acid, and a ratio would say nothing: 0.02 % as citric acid.
const LEAST_ACIDITY: f64 = 0.02;

impl Profile {
    /// Reads the profile off the end of a trace; `None` if there is no liquid.
    #[must_use]
    pub fn of(outcome: &Outcome) -> Option<Self> {
        let taste = Taste::of(outcome)?;
        let liquid = &outcome.contents.as_drunk();
        let litres = liquid.volume(MEASURED_AT).0 / 1000.0;
        // A bottle of syrup is no glass: what isn't served is told for 100 ml.
        let glass = litres * 1000.0;
        let portion = if outcome.served { 1.0 } else { 100.0 / glass };
        // From g in 100 g to g/l.
        let dense = liquid.mass().0 / litres / 100.0;
        let (sweetness, acidity_percent) = (taste.sweetness_percent, taste.acidity_percent);
        Some(Self {
            brix: taste.brix,
            refractometer_brix: reads_as_brix(liquid),
            sugar_g_per_l: liquid.sugars().0 / litres,
            sweetness_g_per_l: sweetness * dense,
            sweetness_percent: sweetness,
            acidity_percent,
            acidity_g_per_l: acidity_percent * dense,
            ph: liquid.ph(),
            ratio: (acidity_percent > LEAST_ACIDITY).then(|| sweetness / acidity_percent),
            alcohol_percent: taste.alcohol_percent,
            fizz_volumes: taste.fizz_volumes,
            volume_ml: outcome.volume.0,
            glasses: outcome.glasses,
            served: outcome.served,
            glass_ml: glass * portion,
            glass_sugar_g: liquid.sugars().0 * portion,
            glass_energy_kcal: liquid.energy_kcal() * portion,
            glass_alcohol_g: liquid[Component::Ethanol] * portion,
            glass_ice_g: outcome.contents.ice_mass().0 * portion,
            aroma_per_l: liquid[Component::Aroma] / litres,
            bitterness_per_l: liquid[Component::Bitterness] / litres,
            pungency_per_l: liquid[Component::Pungency] / litres,
            temperature_c: outcome.contents.temperature.0,
            colour: outcome.contents.colour().to_string(),
        })
    }
}
