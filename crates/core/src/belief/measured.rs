//! What can be measured, and how well.

use serde::{Deserialize, Serialize};

use crate::balance::reads_as_brix;
use crate::drink::Drink;
use crate::trace::{MEASURED_AT, Trace};

/// A measured quantity of a vessel's contents.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Quantity {
    /// How much liquid there is, ml, by a marked jug.
    Volume,
    /// What everything in it weighs, g, by a kitchen scale.
    Weight,
    /// °Brix as a refractometer reads it.
    Brix,
    /// pH by a calibrated meter.
    Ph,
    /// Titratable acidity as citric acid, g in 100 g, by drops.
    Acidity,
    /// °C by a thermometer.
    Temperature,
    /// How high it stands in the vessel, mm, by a ruler.
    Height,
}

impl Quantity {
    /// All of them.
    pub const ALL: [Self; 7] = [
        Self::Volume,
        Self::Weight,
        Self::Brix,
        Self::Ph,
        Self::Acidity,
        Self::Temperature,
        Self::Height,
    ];

    /// How far an instrument of a usual kitchen is off, as a standard deviation, at that value: a marked jug
    /// 2 %, a scale 1 g or 0.2 %, a hand refractometer 0.2 °Bx, a calibrated pH meter 0.1, a titration 3 %
    /// or a drop (0.02 %), a thermometer 1 °C, a ruler 2 mm.
    #[must_use]
    pub fn usual_error(self, value: f64) -> f64 {
        match self {
            Self::Volume => (0.02 * value).max(2.0),
            Self::Weight => (0.002 * value).max(1.0),
            Self::Brix => 0.2,
            Self::Ph => 0.1,
            Self::Acidity => (0.03 * value).max(0.02),
            Self::Temperature => 1.0,
            Self::Height => 2.0,
        }
    }

    /// The range in which a reading of it can lie at all.
    #[must_use]
    pub fn range(self) -> (f64, f64) {
        match self {
            Self::Volume => (0.0, 500_000.0),
            Self::Weight => (0.0, 500_000.0),
            Self::Brix => (0.0, 95.0),
            Self::Ph => (0.0, 14.0),
            Self::Acidity => (0.0, 100.0),
            Self::Temperature => (-30.0, 200.0),
            Self::Height => (0.0, 2000.0),
        }
    }

    /// With how many places a reading of it is told.
    #[must_use]
    pub fn places(self, value: f64) -> usize {
        match self {
            Self::Ph | Self::Acidity => 2,
            _ if value.abs() < 20.0 => 1,
            _ => 0,
        }
    }

    /// Its unit.
    #[must_use]
    pub fn unit(self) -> &'static str {
        match self {
            Self::Volume => "ml",
            Self::Weight => "g",
            Self::Brix => "°Bx",
            Self::Ph => "pH",
            Self::Acidity => "% acid",
            Self::Temperature => "°C",
            Self::Height => "mm",
        }
    }
}

/// A reading of an instrument.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Measurement {
    /// After which step it was read.
    pub step: usize,
    /// In which vessel of the drink.
    pub vessel: usize,
    /// The measured quantity.
    pub quantity: Quantity,
    /// The value, in the unit of the quantity.
    pub value: f64,
    /// How far that may be off, as a standard deviation.
    pub error: f64,
}

impl Measurement {
    /// A reading with a usual instrument.
    #[must_use]
    pub fn new(step: usize, vessel: usize, quantity: Quantity, value: f64) -> Self {
        Self { step, vessel, quantity, value, error: quantity.usual_error(value) }
    }

    /// What it would read in a run without any error; `None` where the vessel is empty then, or the
    /// quantity says nothing of what is in it.
    #[must_use]
    pub fn in_run(&self, drink: &Drink, trace: &Trace) -> Option<f64> {
        let contents = trace.after(self.step, self.vessel).filter(|c| !c.is_empty())?;
        let liquid = &contents.liquid;
        let wet = liquid.mass().0 > 1.0;
        let value = match self.quantity {
            Quantity::Volume if wet => liquid.volume(MEASURED_AT).0,
            Quantity::Weight => contents.mass().0,
            Quantity::Brix if wet => reads_as_brix(liquid),
            Quantity::Ph if wet => liquid.ph()?,
            Quantity::Acidity if wet => liquid.acidity_percent(),
            Quantity::Temperature => contents.temperature.0,
            Quantity::Height => {
                contents.level().0 * 1000.0 / drink.vessels.get(self.vessel)?.opening_mm2()
            }
            _ => return None,
        };
        Some(value).filter(|v| v.is_finite())
    }
}
