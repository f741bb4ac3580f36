//! What is asked of a pitcher that tastes wrong.

use serde::{Deserialize, Serialize};

use crate::drink::Drink;
use crate::quantity::Amount;

/// A fault in a pitcher's taste, and the target.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Asked {
    /// The pitcher.
    pub pitcher: Pitcher,
    /// The target sweetness, g in 100 g; from the words if missing.
    #[serde(default)]
    pub sweetness: Option<f64>,
    /// The target acidity, g in 100 g; from the words if missing.
    #[serde(default)]
    pub acidity: Option<f64>,
    /// The words for the taste.
    #[serde(default)]
    pub words: Vec<Doubt>,
    /// The smallest difference the drinker notices; that of most people if missing.
    #[serde(default)]
    pub notices: NoticedParts,
    /// Ids of the ingredients at hand; the usual ones if missing.
    #[serde(default)]
    pub at_hand: Vec<String>,
}

/// The smallest difference that a taster notices; as most people where it isn't known.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct NoticedParts {
    /// The noticeable difference in sweetness, as a share: 0.1 is a tenth.
    pub sweetness: Option<f64>,
    /// The noticeable difference in acidity, as a share.
    pub acidity: Option<f64>,
}

/// A pitcher: one of the drink's vessels, or an unknown one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Pitcher {
    /// A vessel's state after a step.
    Traced {
        /// The drink.
        drink: Box<Drink>,
        /// The vessel's id.
        vessel: String,
        /// The step's id; the last one if left out.
        #[serde(default)]
        step: Option<String>,
    },
    /// A pitcher whose measurements were entered, guessed or left open.
    Read {
        /// The volume: "1.5 l".
        volume: Amount,
        /// The capacity of the pitcher.
        capacity: Amount,
        /// °Brix by a refractometer.
        #[serde(default)]
        brix: Option<f64>,
        /// Titratable acidity as citric, g in 100 g.
        #[serde(default)]
        acidity: Option<f64>,
        /// pH, if acidity isn't known.
        #[serde(default)]
        ph: Option<f64>,
    },
}

/// A fault in the taste, and its strength.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Doubt {
    /// The word for the fault.
    pub too: Word,
    /// How much.
    pub how: How,
}

/// A word for a fault in the taste.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Word {
    Sweet,
    NotSweet,
    Sharp,
    NotSharp,
    Strong,
    Weak,
    Flat,
    Bitter,
    NoBubbles,
    Thin,
}

/// The strength of a taste.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum How {
    /// One difference that is just noticed.
    Touch,
    /// Two of them.
    Clearly,
    /// Four of them.
    Far,
}
