//! What is asked of a pitcher that tastes wrong.

use serde::{Deserialize, Serialize};

use crate::drink::Drink;
use crate::quantity::Amount;

/// What tastes wrong with a pitcher, and what it should be.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Asked {
    /// What is in it.
    pub pitcher: Pitcher,
    /// The target sweetness, g in 100 g; from the words if missing.
    #[serde(default)]
    pub sweetness: Option<f64>,
    /// The target acidity, g in 100 g; from the words if missing.
    #[serde(default)]
    pub acidity: Option<f64>,
    /// What it tastes like.
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
    /// Of sweetness, as a share: 0.1 is a tenth.
    pub sweetness: Option<f64>,
    /// Of acidity.
    pub acidity: Option<f64>,
}

/// A pitcher: one of the drink's vessels, or one that the application has never seen.
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
    /// As it was read or guessed.
    Read {
        /// What there is: "1.5 l".
        volume: Amount,
        /// What the pitcher holds.
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

/// What it tastes like, and how much so.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Doubt {
    /// What is wrong.
    pub too: Word,
    /// How much.
    pub how: How,
}

/// What is wrong with a taste.
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

/// How strong a taste is.
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
