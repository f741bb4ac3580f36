use serde::{Deserialize, Serialize};

use crate::quantity::{Celsius, Grams, Millilitres, Millimetres};

/// The kind of vessel.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum VesselKind {
    Pot,
    Bowl,
    Jug,
    Blender,
    Colander,
    Sieve,
    FineSieve,
    Cloth,
    Bag,
    Pitcher,
    Bottle,
    Glass,
}

/// The material of a vessel.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Material {
    Steel,
    Enamel,
    Glass,
    Ceramic,
    Plastic,
    Aluminium,
    Copper,
    Brass,
    CastIron,
}

/// Acidity from which bare metal is no vessel for a drink, g in 100 g.
pub(crate) const SOUR_FOR_METAL: f64 = 0.08;

impl Material {
    /// Its name in a sentence.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Steel => "stainless steel",
            Self::Enamel => "enamel",
            Self::Glass => "glass",
            Self::Ceramic => "ceramic",
            Self::Plastic => "plastic",
            Self::Aluminium => "bare aluminium",
            Self::Copper => "copper",
            Self::Brass => "brass",
            Self::CastIron => "cast iron",
        }
    }

    /// Whether acid takes metal out of it.
    #[must_use]
    pub(crate) fn reacts_with_acid(self) -> bool {
        matches!(self, Self::Aluminium | Self::Copper | Self::Brass | Self::CastIron)
    }

    /// Whether it may stand in a microwave.
    #[must_use]
    pub(crate) fn fits_microwave(self) -> bool {
        matches!(self, Self::Glass | Self::Ceramic | Self::Plastic)
    }
}

/// What a strainer lets through and wets itself with.
#[derive(Debug, Clone, Copy)]
pub struct Strainer {
    /// The share of suspended matter that passes.
    pub passes: f64,
    /// Liquid that stays on it as a film.
    pub film: Grams,
}

impl VesselKind {
    /// Every kind, in the order in which a kitchen uses them.
    pub const ALL: [Self; 12] = [
        Self::Pot,
        Self::Bowl,
        Self::Jug,
        Self::Blender,
        Self::Colander,
        Self::Sieve,
        Self::FineSieve,
        Self::Cloth,
        Self::Bag,
        Self::Pitcher,
        Self::Bottle,
        Self::Glass,
    ];

    /// The strainer's figures, for strainers.
    ///
    /// Estimates: what passes is judged by mesh (colander 5 mm, sieve 1.5 mm, fine sieve 0.5 mm,
    /// cloth and bag 0.1 mm); films of a wet fine sieve 2–8 g, of cloth and bag 8–35 g.
    #[must_use]
    pub fn strainer(self) -> Option<Strainer> {
        let (passes, film) = match self {
            Self::Colander => (0.95, 3.0),
            Self::Sieve => (0.6, 4.0),
            Self::FineSieve => (0.25, 4.0),
            Self::Cloth => (0.06, 18.0),
            Self::Bag => (0.06, 14.0),
            _ => return None,
        };
        Some(Strainer { passes, film: Grams(film) })
    }

    /// Whether it can stand on a burner.
    #[must_use]
    pub fn can_be_heated(self) -> bool {
        self == Self::Pot
    }

    /// What stays behind when so much is poured out and nobody scrapes.
    ///
    /// A litre leaves a film of 5 g in a pot, 3 g in a jug, bowl or pitcher (2–8), on the wall that was wet: that
    /// grows as the two-thirds power of what there was, so that a glass leaves 1 g and fifty litres 40 to 70.
    /// Under the knife of a blender stay 15 g (8–30) and 1 %. Estimates.
    #[must_use]
    pub(crate) fn left_behind(self, liquid: Grams) -> Grams {
        let wall = (liquid.0 / 1000.0).max(0.0).cbrt().powi(2);
        Grams(match self {
            Self::Blender => 15.0 + 0.01 * liquid.0,
            Self::Pot => 5.0 * wall,
            Self::Bowl | Self::Jug | Self::Pitcher | Self::Bottle => 3.0 * wall,
            _ => 0.0,
        })
    }

    /// A usual capacity.
    #[must_use]
    pub(crate) fn usual_capacity(self) -> Millilitres {
        Millilitres(match self {
            Self::Pot => 3000.0,
            Self::Bowl => 2000.0,
            Self::Jug => 1500.0,
            Self::Blender => 1750.0,
            Self::Colander => 2000.0,
            Self::Sieve | Self::FineSieve => 1000.0,
            Self::Cloth | Self::Bag => 1500.0,
            Self::Pitcher => 2500.0,
            Self::Bottle => 1000.0,
            Self::Glass => 330.0,
        })
    }

    /// Height of the inside over its diameter, for a vessel of usual shape.
    #[must_use]
    pub(crate) fn slenderness(self) -> f64 {
        match self {
            Self::Pot => 0.6,
            Self::Bowl => 0.5,
            Self::Jug => 1.3,
            Self::Blender => 1.5,
            Self::Colander | Self::Sieve | Self::FineSieve => 0.45,
            Self::Cloth | Self::Bag => 0.8,
            Self::Pitcher => 1.5,
            Self::Bottle => 2.6,
            Self::Glass => 1.7,
        }
    }

    /// Inside diameter of a usual one of that capacity, taken as an upright cylinder.
    #[must_use]
    pub(crate) fn usual_diameter(self, capacity: Millilitres) -> Millimetres {
        let cubic_mm = capacity.0 * 1000.0;
        let d = (4.0 * cubic_mm / (std::f64::consts::PI * self.slenderness())).cbrt();
        Millimetres((d / 5.0).round().max(1.0) * 5.0)
    }

    /// How it is called when a drink gives it no other name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Pot => "Pot",
            Self::Bowl => "Bowl",
            Self::Jug => "Jug",
            Self::Blender => "Blender",
            Self::Colander => "Colander",
            Self::Sieve => "Sieve",
            Self::FineSieve => "Fine sieve",
            Self::Cloth => "Straining cloth",
            Self::Bag => "Straining bag",
            Self::Pitcher => "Pitcher",
            Self::Bottle => "Bottle",
            Self::Glass => "Glass",
        }
    }

    /// The share of it that may be filled with liquid at that temperature: a boiling pot rises, steam
    /// throws a full blender open. Kitchen rules.
    #[must_use]
    pub fn working_level(self, t: Celsius) -> f64 {
        match self {
            Self::Pot if t.0 > 90.0 => 2.0 / 3.0,
            Self::Blender if t.0 > 60.0 => 0.5,
            Self::Pot | Self::Bowl => 0.9,
            Self::Blender => 0.85,
            Self::Jug | Self::Pitcher | Self::Glass => 0.95,
            Self::Bottle => 0.96,
            _ => 1.0,
        }
    }

    /// Hotter than this it should not be filled: a closed blender is blown open by steam.
    #[must_use]
    pub fn hottest(self) -> Option<Celsius> {
        (self == Self::Blender).then_some(Celsius(60.0))
    }
}

/// The treatment of the solids in a strainer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Press {
    /// Left to drain: the clearest.
    #[default]
    Drained,
    /// Pressed with a spoon.
    Pressed,
    /// Wrung out: the most, and the cloudiest.
    Wrung,
}
