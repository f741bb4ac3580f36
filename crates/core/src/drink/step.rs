use serde::{Deserialize, Serialize};

use crate::quantity::Amount;

/// One thing that is done.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Step {
    /// Names the step within its drink; given by the application if left out.
    #[serde(default)]
    pub id: String,
    /// What is done.
    #[serde(rename = "do")]
    pub action: Action,
    /// How, in the maker's words: "torn", "rubbed into the zest".
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}

/// What can be done.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Action {
    /// Put an ingredient into a vessel.
    Add {
        /// The vessel.
        into: String,
        /// The ingredient's id.
        ingredient: String,
        /// How much of it.
        amount: Amount,
    },
    /// Squeeze fruit: its juice goes into the vessel, what is left is put aside.
    Squeeze {
        /// The vessel.
        into: String,
        /// The juice's id.
        ingredient: String,
        /// How much: pieces of fruit ("6 lemons") or the juice itself ("250 ml").
        amount: Amount,
    },
    /// Heat on a ring, stirring, and perhaps keep it there.
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
    },
    /// Let stand, so that what lies in the liquid is drawn.
    Infuse {
        /// The vessel.
        vessel: String,
        /// How long, minutes.
        minutes: f64,
        /// Where it stands.
        #[serde(default)]
        place: RestingPlace,
    },
    /// Blend smooth: fruit becomes liquid with fine pulp in it.
    Blend {
        /// The vessel.
        vessel: String,
        /// How long, seconds.
        #[serde(default = "half_a_minute")]
        seconds: f64,
    },
    /// Pour all of it through a strainer.
    Strain {
        /// The vessel it comes from.
        from: String,
        /// The strainer.
        through: String,
        /// The vessel it runs into.
        into: String,
        /// What is done with what stays behind.
        #[serde(default)]
        press: Press,
    },
    /// Pour from one vessel into another.
    Pour {
        /// The vessel it comes from.
        from: String,
        /// The vessel it goes into.
        into: String,
        /// How much of it.
        #[serde(default)]
        portion: Portion,
    },
    /// Fill up to a line.
    TopUp {
        /// The vessel.
        vessel: String,
        /// What with: water, soda, juice, ice.
        ingredient: String,
        /// The volume to reach.
        to: Amount,
    },
    /// Let cool.
    Cool {
        /// The vessel.
        vessel: String,
        /// The temperature to reach, °C.
        to_c: f64,
        /// Where.
        #[serde(default)]
        place: CoolingPlace,
    },
    /// Pour into glasses.
    Serve {
        /// The vessel it comes from.
        from: String,
        /// The vessel that stands for every glass.
        glass: String,
        /// How many glasses.
        glasses: u32,
        /// How much in each.
        size: Amount,
    },
}

/// Where something stands while it draws.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RestingPlace {
    /// At room temperature.
    #[default]
    Worktop,
    /// Cold.
    Refrigerator,
}

/// How something is cooled.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CoolingPlace {
    /// Standing at room temperature.
    Worktop,
    /// Standing in cold water that is changed.
    WaterBath,
    /// In the refrigerator.
    #[default]
    Refrigerator,
}

/// What is done with what stays in a strainer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Press {
    /// Left to drain: the clearest.
    #[default]
    Drained,
    /// Pressed with a spoon.
    Pressed,
    /// Wrung out: the most, and the cloudiest.
    Wrung,
}

/// How much is poured.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Portion {
    /// All, but for what clings to the vessel.
    #[default]
    All,
    /// A part of it, 0 to 1.
    Share(f64),
    /// A volume.
    Volume(Amount),
}

fn half_a_minute() -> f64 {
    30.0
}

impl Action {
    /// The ingredient and amount, for steps that bring something into the drink.
    #[must_use]
    pub fn brings(&self) -> Option<(&str, &Amount)> {
        match self {
            Self::Add { ingredient, amount, .. } | Self::Squeeze { ingredient, amount, .. } => {
                Some((ingredient, amount))
            }
            Self::TopUp { ingredient, to, .. } => Some((ingredient, to)),
            _ => None,
        }
    }

    /// Every amount in it that grows with the drink.
    pub fn amounts_mut(&mut self) -> Option<&mut Amount> {
        match self {
            Self::Add { amount, .. } | Self::Squeeze { amount, .. } => Some(amount),
            Self::TopUp { to, .. } => Some(to),
            Self::Pour { portion: Portion::Volume(volume), .. } => Some(volume),
            _ => None,
        }
    }
}
