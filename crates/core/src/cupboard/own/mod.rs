//! What this kitchen knows better than the tables: figures of its own, ingredients of its own, and
//! the vessels that stand in it.

mod apply;
mod check;
mod mixture;
mod water;

pub use mixture::{KeptMixture, KeptPast};
pub use water::{Alkalinity, MOST_CARBONATE, Water};

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{Form, Kind, Lot, Material, VesselKind};
use crate::quantity::Amount;

/// This kitchen's own data. Saved and exchanged as JSON.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Kitchen {
    /// Your figures for ingredients, by id.
    pub figures: BTreeMap<String, OwnFigures>,
    /// Your figures for produce, by `produce/size`: `lemon/medium`.
    pub produce: BTreeMap<String, OwnProduce>,
    /// Ingredients that aren't in the tables.
    pub ingredients: Vec<OwnIngredient>,
    /// The kitchen's vessels and strainers.
    pub vessels: Vec<OwnVessel>,
    /// The measuring tools.
    pub measuring: MeasuringSet,
    /// An ingredient's stock, and how it is bought, by id.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub larder: BTreeMap<String, Larder>,
    /// The measured yields of fruit, in the order in which they were entered.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<Reading>,
    /// The figures that batches gave for single lots, in the order in which they were finished.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub lots: Vec<Lot>,
    /// The mixtures made and kept here; each is an ingredient as long as some is left, or a drink needs it.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub mixtures: Vec<KeptMixture>,
    /// The currency sign.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub currency: String,
    /// How much faster or slower its pots lose water than the tables say; 1 if left out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub boil_off: Option<f64>,
    /// The kitchen's tap water; pure water if left out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub water: Option<Water>,
}

/// Your figures for an ingredient; the table's where missing.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct OwnFigures {
    /// Grams in a millilitre as it fills a cup, 0.05 to 3.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// Sugars, g in 100 g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sugar: Option<f64>,
    /// Titratable acid as citric, g in 100 g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub acid: Option<f64>,
    /// The liquid held when drained, g for each gram added.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub keeps: Option<f64>,
    /// The liquid that cooked or frozen pieces hold, g for each gram, if measured separately.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub keeps_cooked: Option<f64>,
    /// The liquid that the blended pulp of a gram holds when drained, g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub keeps_blended: Option<f64>,
    /// The time at 95 °C until 63 % is extracted, minutes.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub drawing_minutes: Option<f64>,
}

/// Your figures for a size of produce; the table's where missing.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct OwnProduce {
    /// The whole piece, g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub whole_g: Option<f64>,
    /// Juice of one, ml.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub juice_ml: Option<f64>,
    /// Grated zest of one, g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub zest_g: Option<f64>,
}

/// An ingredient's stock, and how it is bought.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Larder {
    /// The stock, g; for fruit in pieces.
    pub have: f64,
    /// The size of a pack, g, or pieces of fruit; the usual size if left out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pack: Option<f64>,
    /// The price of a pack.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub price: Option<f64>,
}

/// The measured yield of some pieces of fruit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Reading {
    /// `produce/size`: `lime/medium`.
    pub produce: String,
    /// How many pieces.
    pub pieces: f64,
    /// The juice of all of them, ml.
    pub juice_ml: f64,
    /// Its °Brix.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub brix: Option<f64>,
    /// Its titratable acidity, g in 100 g.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub acidity: Option<f64>,
    /// The day, as `2026-06-21`.
    #[serde(default)]
    pub day: String,
    /// The id of the batch in which it was read, if any.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub batch: Option<String>,
}

/// An ingredient that isn't in the tables.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct OwnIngredient {
    /// Its id in drinks: `own_` and small letters, digits or `_`.
    pub id: String,
    /// Its name.
    pub name: String,
    /// The kind.
    pub kind: Kind,
    /// The form in which it is added.
    pub form: Form,
    /// Sugars as sucrose, g in 100 g.
    #[serde(default)]
    pub sugar: f64,
    /// Acid as citric, g in 100 g.
    #[serde(default)]
    pub acid: f64,
    /// Alcohol, % vol.
    #[serde(default)]
    pub alcohol: f64,
    /// Insoluble solids, g in 100 g.
    #[serde(default)]
    pub insoluble: f64,
    /// Grams in a millilitre as it fills a cup; as its composition says if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// A deleted ingredient that a drink still needs.
    #[serde(default, skip_serializing_if = "is_false")]
    pub kept_for_drinks: bool,
}

fn is_false(value: &bool) -> bool {
    !value
}

/// A vessel or strainer of the kitchen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct OwnVessel {
    /// Its name: "big enamel pot".
    pub name: String,
    /// The kind of vessel.
    pub kind: VesselKind,
    /// The capacity to the brim.
    pub capacity: Amount,
    /// Inside diameter; a usual one if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub diameter_mm: Option<f64>,
    /// The material.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub material: Option<Material>,
    /// The number of these vessels.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub count: u32,
}

fn one() -> u32 {
    1
}

fn is_one(count: &u32) -> bool {
    *count == 1
}

/// The kitchen's measuring tools.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct MeasuringSet {
    /// The finest step of its scale, g; missing without a scale.
    pub scale_g: Option<f64>,
    /// The finest mark on its jug, ml; missing without one.
    pub jug_ml: Option<f64>,
    /// Whether it has US cups.
    pub cups: bool,
    /// Whether it has spoons.
    pub spoons: bool,
}

impl Default for MeasuringSet {
    fn default() -> Self {
        Self { scale_g: Some(1.0), jug_ml: Some(5.0), cups: true, spoons: true }
    }
}
