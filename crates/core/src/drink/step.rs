use serde::{Deserialize, Serialize};

use super::manner::{
    CoolingPlace, Cut, Dissolving, Dressing, Maceration, Preparation, RestingPlace, Stirring,
    Vigour, Warmth,
};

use crate::cupboard::Press;
use crate::quantity::Amount;

/// One step.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Step {
    /// The step's id within its drink; assigned if left out.
    #[serde(default)]
    pub id: String,
    /// The action.
    #[serde(rename = "do")]
    pub action: Action,
    /// How, in the maker's words: "torn", "rubbed into the zest".
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// The rule by which its amount grows with the drink; the ingredient's usual one if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub law: Option<Law>,
    /// How long its vessels may wait for their next step, minutes; worked out if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub may_stand: Option<f64>,
    /// The ids of steps with other vessels that come before it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub after: Vec<String>,
}

/// How an amount grows with the drink.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Law {
    /// In proportion to the drink.
    Straight,
    /// In proportion up to four times the size, then by this power; usually 0.85.
    Spice(f64),
    /// The same in every vessel, however large.
    PerVessel,
    /// The same in every glass.
    PerGlass,
    /// In proportion, then adjusted to taste.
    ToTaste,
}

/// The action of a step.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Action {
    /// Add an ingredient to a vessel.
    Add {
        /// The vessel.
        into: String,
        /// The ingredient's id.
        ingredient: String,
        /// Its amount.
        amount: Amount,
        /// Its temperature when it is added.
        #[serde(default, skip_serializing_if = "Warmth::is_usual")]
        warmth: Warmth,
        /// The cut, if any.
        #[serde(default, skip_serializing_if = "Cut::is_usual")]
        cut: Cut,
        /// The number of portions, with a taste between them; all at once if left out.
        #[serde(default = "once", skip_serializing_if = "is_once")]
        portions: u32,
    },
    /// Squeeze fruit into the vessel, and keep the squeezed halves if wanted.
    Squeeze {
        /// The vessel.
        into: String,
        /// The juice's id.
        ingredient: String,
        /// How much: pieces of fruit ("6 lemons") or the juice itself ("250 ml").
        amount: Amount,
        /// The vessel for the squeezed halves; they are discarded if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        halves_into: Option<String>,
    },
    /// Wash, soak, peel, cut or pick over an ingredient. The drink's figures don't change.
    Prepare {
        /// The ingredient's id.
        ingredient: String,
        /// The action.
        how: Preparation,
        /// How long; the usual time if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        minutes: Option<f64>,
    },
    /// Leave with sugar, or rub sugar in by hand.
    Macerate {
        /// The vessel.
        vessel: String,
        /// How long, minutes.
        minutes: f64,
        /// Left to stand, or rubbed in by hand.
        #[serde(default)]
        how: Maceration,
        /// The place.
        #[serde(default)]
        place: RestingPlace,
    },
    /// Stir until sugar and powders have dissolved as far as they do.
    Dissolve {
        /// The vessel.
        vessel: String,
        /// Stirred without heat, or warmed in a microwave.
        #[serde(default)]
        how: Dissolving,
    },
    /// Stir.
    Stir {
        /// The vessel.
        vessel: String,
        /// When to stop stirring.
        #[serde(default)]
        until: Stirring,
    },
    /// Mark the level in a pot, to reduce to that line later.
    Mark {
        /// The vessel.
        vessel: String,
    },
    /// Bring to the boil and keep it simmering or boiling.
    Boil {
        /// The vessel.
        vessel: String,
        /// How long once it is hot, minutes.
        minutes: f64,
        /// The strength of the boil.
        #[serde(default)]
        how: Vigour,
        /// With the lid on.
        #[serde(default)]
        lid: bool,
    },
    /// Boil down with the lid off.
    Reduce {
        /// The vessel.
        vessel: String,
        /// The point to boil down to.
        to: Reduction,
        /// The strength of the boil.
        #[serde(default)]
        how: Vigour,
    },
    /// Lift one ingredient out early, with the liquid that clings to it.
    Lift {
        /// The vessel it is in.
        from: String,
        /// The ingredient's id.
        ingredient: String,
        /// The vessel it is added to.
        into: String,
    },
    /// Rinse the pulp in a strainer with a second water, or rinse a blender.
    Rinse {
        /// The strainer or vessel.
        vessel: String,
        /// The ingredient.
        ingredient: String,
        /// Its amount.
        amount: Amount,
        /// Its temperature when it is added.
        #[serde(default, skip_serializing_if = "Warmth::is_usual")]
        warmth: Warmth,
        /// The strainer that it runs through, which is washed as well.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        through: Option<String>,
        /// The vessel it runs into.
        into: String,
        /// The treatment of the solids.
        #[serde(default)]
        press: Press,
    },
    /// Add just enough liquid to cover the contents of the vessel.
    Cover {
        /// The vessel.
        vessel: String,
        /// The ingredient.
        ingredient: String,
        /// Its temperature when it is added.
        #[serde(default, skip_serializing_if = "Warmth::is_usual")]
        warmth: Warmth,
        /// The height of the liquid above it, mm.
        #[serde(default = "a_finger")]
        above_mm: f64,
    },
    /// Add parts of an ingredient to one part of the vessel's contents, by volume.
    Lengthen {
        /// The vessel.
        vessel: String,
        /// The ingredient: soda, water.
        ingredient: String,
        /// Its temperature when it is added.
        #[serde(default, skip_serializing_if = "Warmth::is_usual")]
        warmth: Warmth,
        /// The parts to one part of the contents.
        parts: f64,
    },
    /// Pour into bottles.
    Bottle {
        /// The vessel it comes from.
        from: String,
        /// The vessel that represents every bottle.
        bottle: String,
        /// The headspace in each.
        #[serde(default = "headspace")]
        headspace: Amount,
    },
    /// Garnish a glass, or coat its rim.
    Dress {
        /// The vessel that represents every glass.
        glass: String,
        /// The ingredient's id.
        ingredient: String,
        /// An ingredient on the rim or as a garnish.
        #[serde(default)]
        how: Dressing,
        /// The amount on each; the usual amount if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        amount: Option<Amount>,
    },
    /// Heat on a burner while stirring, and hold the heat if wanted.
    Heat {
        /// The vessel.
        vessel: String,
        /// The temperature to reach, °C.
        to_c: f64,
        /// How long to keep it there, minutes.
        #[serde(default)]
        minutes: f64,
        /// With the lid on.
        #[serde(default)]
        lid: bool,
        /// Stop as soon as the liquid is clear, when all sugar is dissolved.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        until_clear: bool,
    },
    /// Leave to steep.
    Infuse {
        /// The vessel.
        vessel: String,
        /// How long, minutes.
        minutes: f64,
        /// The place.
        #[serde(default)]
        place: RestingPlace,
        /// Covered, so that warmth and smell stay.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        covered: bool,
    },
    /// Blend smooth: fruit becomes liquid with fine pulp in it.
    Blend {
        /// The vessel.
        vessel: String,
        /// How long, seconds.
        #[serde(default = "half_a_minute")]
        seconds: f64,
    },
    /// Strain it.
    Strain {
        /// The vessel it comes from.
        from: String,
        /// The strainer.
        through: String,
        /// The vessel it runs into.
        into: String,
        /// The treatment of the solids.
        #[serde(default)]
        press: Press,
    },
    /// Pour from one vessel into another.
    Pour {
        /// The vessel it comes from.
        from: String,
        /// The vessel it goes into.
        into: String,
        /// Its amount.
        #[serde(default)]
        portion: Portion,
    },
    /// Fill up to a line.
    TopUp {
        /// The vessel.
        vessel: String,
        /// The ingredient to fill up with: water, soda, juice, ice.
        ingredient: String,
        /// Its temperature when it is added.
        #[serde(default, skip_serializing_if = "Warmth::is_usual")]
        warmth: Warmth,
        /// The volume to reach.
        to: Amount,
    },
    /// Let cool.
    Cool {
        /// The vessel.
        vessel: String,
        /// The temperature to reach, °C.
        to_c: f64,
        /// The place.
        #[serde(default)]
        place: CoolingPlace,
        /// Covered, so that no steam leaves.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        covered: bool,
    },
    /// Pour into glasses.
    Serve {
        /// The vessel it comes from.
        from: String,
        /// The vessel that represents every glass.
        glass: String,
        /// How many glasses.
        glasses: u32,
        /// The volume in each.
        size: Amount,
    },
}

/// The point to which a liquid is boiled down.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Reduction {
    /// Boil until this volume of free liquid is left, measured cold.
    Volume(Amount),
    /// Boil until the soluble solids reach this share of the weight, %.
    Brix(f64),
    /// Boil until it boils at this temperature, °C.
    BoilingAt(f64),
    /// Boil down to the marked line.
    Mark,
}

/// How much is poured.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Portion {
    /// All except the film that clings to the vessel.
    #[default]
    All,
    /// A share of the contents, 0 to 1.
    Share(f64),
    /// A volume.
    Volume(Amount),
}

fn half_a_minute() -> f64 {
    30.0
}

fn once() -> u32 {
    1
}

fn is_once(portions: &u32) -> bool {
    *portions == 1
}

fn a_finger() -> f64 {
    15.0
}

fn headspace() -> Amount {
    Amount::millilitres(30.0)
}

impl Step {
    /// A step with nothing said of how.
    #[must_use]
    pub fn new(id: String, action: Action) -> Self {
        Self { id, action, note: String::new(), law: None, may_stand: None, after: Vec::new() }
    }
}

impl Action {
    /// Puts an ingredient into a vessel, as is usual for it.
    #[must_use]
    pub fn add(into: impl Into<String>, ingredient: impl Into<String>, amount: Amount) -> Self {
        Self::Add {
            into: into.into(),
            ingredient: ingredient.into(),
            amount,
            warmth: Warmth::Usual,
            cut: Cut::Usual,
            portions: 1,
        }
    }

    /// The ingredient that it brings into the drink, and the amount that is said of it.
    #[must_use]
    pub fn brings(&self) -> Option<Brought<'_>> {
        let said = |ingredient, amount| Brought { ingredient, amount: Some(amount), line: false };
        Some(match self {
            Self::Add { ingredient, amount, .. }
            | Self::Squeeze { ingredient, amount, .. }
            | Self::Rinse { ingredient, amount, .. } => said(ingredient, amount),
            Self::TopUp { ingredient, to, .. } => {
                Brought { ingredient, amount: Some(to), line: true }
            }
            Self::Cover { ingredient, .. } | Self::Lengthen { ingredient, .. } => {
                Brought { ingredient, amount: None, line: false }
            }
            _ => return None,
        })
    }

    /// The amount in it that makes the drink larger or smaller: what is put in, a line to fill to, a
    /// volume to pour or to boil down to.
    #[must_use]
    pub fn amount(&self) -> Option<&Amount> {
        match self {
            Self::Add { amount, .. }
            | Self::Squeeze { amount, .. }
            | Self::Rinse { amount, .. } => Some(amount),
            Self::TopUp { to, .. } => Some(to),
            Self::Pour { portion: Portion::Volume(volume), .. }
            | Self::Reduce { to: Reduction::Volume(volume), .. } => Some(volume),
            _ => None,
        }
    }

    /// The same, to be changed.
    pub(crate) fn amount_mut(&mut self) -> Option<&mut Amount> {
        match self {
            Self::Add { amount, .. }
            | Self::Squeeze { amount, .. }
            | Self::Rinse { amount, .. } => Some(amount),
            Self::TopUp { to, .. } => Some(to),
            Self::Pour { portion: Portion::Volume(volume), .. }
            | Self::Reduce { to: Reduction::Volume(volume), .. } => Some(volume),
            _ => None,
        }
    }

    /// How warm what it brings comes.
    #[must_use]
    pub fn warmth(&self) -> Warmth {
        match self {
            Self::Add { warmth, .. }
            | Self::Rinse { warmth, .. }
            | Self::TopUp { warmth, .. }
            | Self::Cover { warmth, .. }
            | Self::Lengthen { warmth, .. } => *warmth,
            _ => Warmth::Usual,
        }
    }

    /// What it is called in files, and in the names of its fields.
    #[must_use]
    pub fn key(&self) -> &'static str {
        match self {
            Self::Add { .. } => "add",
            Self::Squeeze { .. } => "squeeze",
            Self::Prepare { .. } => "prepare",
            Self::Macerate { .. } => "macerate",
            Self::Dissolve { .. } => "dissolve",
            Self::Stir { .. } => "stir",
            Self::Mark { .. } => "mark",
            Self::Heat { .. } => "heat",
            Self::Boil { .. } => "boil",
            Self::Reduce { .. } => "reduce",
            Self::Infuse { .. } => "infuse",
            Self::Lift { .. } => "lift",
            Self::Blend { .. } => "blend",
            Self::Strain { .. } => "strain",
            Self::Rinse { .. } => "rinse",
            Self::Pour { .. } => "pour",
            Self::TopUp { .. } => "top_up",
            Self::Cover { .. } => "cover",
            Self::Lengthen { .. } => "lengthen",
            Self::Cool { .. } => "cool",
            Self::Bottle { .. } => "bottle",
            Self::Serve { .. } => "serve",
            Self::Dress { .. } => "dress",
        }
    }

    /// The vessels that it leads through, in the order in which things flow.
    #[must_use]
    pub fn path(&self) -> Vec<&str> {
        match self {
            Self::Add { into, .. } => vec![into],
            Self::Squeeze { into, halves_into, .. } => {
                halves_into.iter().map(String::as_str).chain([into.as_str()]).collect()
            }
            Self::Prepare { .. } => Vec::new(),
            Self::Macerate { vessel, .. }
            | Self::Dissolve { vessel, .. }
            | Self::Stir { vessel, .. }
            | Self::Mark { vessel }
            | Self::Heat { vessel, .. }
            | Self::Boil { vessel, .. }
            | Self::Reduce { vessel, .. }
            | Self::Infuse { vessel, .. }
            | Self::Blend { vessel, .. }
            | Self::TopUp { vessel, .. }
            | Self::Cover { vessel, .. }
            | Self::Lengthen { vessel, .. }
            | Self::Cool { vessel, .. } => vec![vessel],
            Self::Lift { from, into, .. } | Self::Pour { from, into, .. } => vec![from, into],
            Self::Rinse { vessel, through, into, .. } => {
                [vessel].into_iter().chain(through).chain([into]).map(String::as_str).collect()
            }
            Self::Strain { from, through, into, .. } => vec![from, through, into],
            Self::Bottle { from, bottle, .. } => vec![from, bottle],
            Self::Serve { from, glass, .. } => vec![from, glass],
            Self::Dress { glass, .. } => vec![glass],
        }
    }

    /// The vessel that it pours out, of which only a film stays.
    #[must_use]
    pub(crate) fn empties(&self) -> Option<&str> {
        match self {
            Self::Strain { from, .. }
            | Self::Bottle { from, .. }
            | Self::Pour { from, portion: Portion::All, .. } => Some(from),
            _ => None,
        }
    }

    /// Every mention of an ingredient in it.
    #[must_use]
    pub fn ingredient(&self) -> Option<&str> {
        match self {
            Self::Prepare { ingredient, .. }
            | Self::Lift { ingredient, .. }
            | Self::Dress { ingredient, .. } => Some(ingredient),
            _ => self.brings().map(|b| b.ingredient),
        }
    }
}

/// What a step brings into the drink.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Brought<'a> {
    /// The ingredient's id.
    pub ingredient: &'a str,
    /// The amount that is said; none where it follows from what is in the vessel.
    pub amount: Option<&'a Amount>,
    /// Whether the amount is a line to fill up to, not an amount to add.
    pub line: bool,
}
