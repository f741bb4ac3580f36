//! How things are done: how warm, how cut, how hard, where.

use serde::{Deserialize, Serialize};

/// The temperature of an added ingredient.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Warmth {
    /// As it is kept: from the cupboard, soda and milk from the refrigerator, ice from the freezer.
    #[default]
    Usual,
    /// Boiling, from a kettle.
    Boiling,
    /// Hot, about 70 °C.
    Hot,
    /// Cold from the tap.
    Tap,
    /// From the refrigerator.
    Chilled,
    /// From the freezer.
    Frozen,
}

impl Warmth {
    pub(super) fn is_usual(&self) -> bool {
        *self == Self::Usual
    }
}

/// The cut of an ingredient before it is added.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Cut {
    /// As is usual for it: fruit and roots sliced, leaves and spices whole.
    #[default]
    Usual,
    /// Not at all.
    Whole,
    /// In slices.
    Sliced,
    /// In small pieces.
    Chopped,
    /// Grated or ground.
    Grated,
    /// Crushed or bruised.
    Bruised,
}

impl Cut {
    pub(super) fn is_usual(&self) -> bool {
        *self == Self::Usual
    }
}

/// When stirring ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Stirring {
    /// Until it is mixed.
    #[default]
    Mixed,
    /// Until it is clear: nothing is left to dissolve.
    Clear,
    /// Until the bubbling stops: its gas has gone.
    Calm,
}

/// The place where it is left to steep.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum RestingPlace {
    /// At room temperature.
    #[default]
    Worktop,
    /// Cold.
    Refrigerator,
}

impl From<RestingPlace> for CoolingPlace {
    fn from(place: RestingPlace) -> Self {
        match place {
            RestingPlace::Worktop => Self::Worktop,
            RestingPlace::Refrigerator => Self::Refrigerator,
        }
    }
}

/// The place where something is cooled.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum CoolingPlace {
    /// Standing at room temperature.
    Worktop,
    /// Standing in cold water that is changed.
    WaterBath,
    /// In the refrigerator.
    #[default]
    Refrigerator,
    /// In the freezer; under 0 °C it becomes ice.
    Freezer,
}

/// The preparation of an ingredient.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Preparation {
    /// Rinsed under running water.
    #[default]
    Wash,
    /// Left in water.
    Soak,
    /// Looked over, and what is bad taken out.
    Inspect,
    /// Peeled or pared.
    Peel,
    /// Cut up.
    Chop,
    /// Crushed or bruised.
    Crush,
}

/// The way that fruit is left with sugar.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Maceration {
    /// Mixed and left.
    #[default]
    Left,
    /// Rubbed in by hand all the time.
    Rubbed,
}

/// The way something is dissolved.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Dissolving {
    /// Stirred at the temperature that it has.
    #[default]
    Stirred,
    /// Warmed in a microwave to 70 °C.
    Microwave,
}

/// The strength of a boil.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Vigour {
    /// A bubble now and then, about 10 °C under the boil.
    Gentle,
    /// Lively, just under the boil.
    #[default]
    Simmer,
    /// A rolling boil.
    Boil,
}

/// The way to dress a glass.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Dressing {
    /// Laid in or hung on it.
    #[default]
    Garnish,
    /// On its rim.
    Rim,
}
