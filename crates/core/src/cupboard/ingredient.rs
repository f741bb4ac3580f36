use serde::{Deserialize, Serialize};

use super::{Choice, Evidence, FigureSource, Flavour, KeptPast, Texture};
use crate::chemistry::Mixture;

/// One thing that can go into a drink.
#[derive(Debug, Clone)]
pub struct Ingredient {
    /// Stable name in files and in the API: `lime_juice`.
    pub id: String,
    /// Its name on the screen.
    pub name: String,
    /// Other names that people look for.
    pub aliases: Vec<String>,
    /// The kind.
    pub kind: Kind,
    /// How it arrives in the vessel.
    pub form: Form,
    /// What one gram of it is made of.
    pub per_gram: Mixture,
    /// Where the literature has its pH.
    pub ph: Option<PhRange>,
    /// Where it has that of an infusion or a syrup of it.
    pub infusion_ph: Option<PhRange>,
    /// What measures of it weigh.
    pub measures: Measures,
    /// What part of a fruit it is.
    pub part: Part,
    /// What else is special about it.
    pub traits: Vec<Trait>,
    /// What it is taken for when nothing else was said.
    pub staples: Vec<Choice>,
    /// The cautions.
    pub care: Vec<Care>,
    /// Other ingredients that are in it, or that it comes from: who avoids one of them avoids this.
    pub made_of: Vec<String>,
    /// What is known of its making, if it was made here and is kept.
    pub kept: Option<KeptPast>,
    /// Allergens and other contents that some people avoid.
    pub allergens: Vec<Allergen>,
    /// How many pieces are usual in a pitcher, for what is counted out.
    pub usual_pieces: Option<f64>,
    /// For a juice the id of what squeezing leaves.
    pub halves: Option<String>,
    /// How it is bought, where that isn't as its kind is.
    pub pack: Option<Pack>,
    /// How pieces of it draw, break and keep.
    pub texture: Texture,
    /// Smell, bitterness and heat.
    pub flavour: Flavour,
    /// What most of its figures rest on.
    pub evidence: Evidence,
    /// Where each figure comes from.
    pub sources: Vec<FigureSource>,
    /// What else to know.
    pub notes: String,
}

/// How something is bought.
#[derive(Debug, Clone, PartialEq)]
pub struct Pack {
    /// What is in it, g.
    pub grams: f64,
    /// "tin", "jar"; nothing for what is weighed in the shop.
    pub noun: String,
    /// What stands on it: "400 ml".
    pub holds: String,
}

/// A range of pH.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PhRange {
    /// Seldom less.
    pub low: f64,
    /// Seldom more.
    pub high: f64,
}

/// What part of the whole piece an ingredient is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Part {
    /// What is eaten of it.
    #[default]
    Flesh,
    /// What runs out when it is squeezed or pressed.
    Juice,
    /// The coloured skin, grated.
    Zest,
    /// The skin in strips.
    Peel,
    /// What squeezing leaves.
    Squeezed,
    /// All of it, with its skin.
    Whole,
}

/// Something special about an ingredient.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Trait {
    /// It comes out of the freezer.
    Frozen,
    /// It swells, and needs stirring meanwhile.
    Swells,
    /// It is measured by the drop.
    ByDrop,
    /// It has its skin or pith, which turns bitter.
    Pith,
    /// It is there and costs nothing: water.
    Tap,
    /// It is counted, and may be broken: a stick, a pod.
    Breaks,
}

/// A caution for an ingredient.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Care {
    /// Not for children under one year.
    Honey,
    /// Strong enough to hurt.
    EssentialOil,
    /// Acts on blood pressure.
    Hibiscus,
    /// Doesn't go with every medicine.
    Medicines,
    /// Makes many medicines act more strongly: grapefruit, Seville orange.
    Grapefruit,
    /// Only the stalks are eaten: rhubarb.
    Stalks,
    /// Ripe and cooked only: elder.
    Elder,
    /// Keeps children awake: tea, coffee, cola.
    Caffeine,
    /// Bitter bark, not for everybody: tonic water.
    Quinine,
    /// Of bitter kernels, and by the drop.
    Kernels,
    /// Swells with water, so it is soaked before it is drunk.
    Soak,
    /// Its oils and the sun burn the skin: citrus.
    Sun,
    /// Not much of it every day: cassia.
    Cassia,
    /// Not much of it in pregnancy: saffron.
    Saffron,
}

/// An allergen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Allergen {
    Milk,
    Almonds,
    Coconut,
    Gluten,
    Sulphites,
    Soya,
}

impl Allergen {
    /// Its name in a sentence.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Milk => "milk",
            Self::Almonds => "almonds",
            Self::Coconut => "coconut",
            Self::Gluten => "gluten",
            Self::Sulphites => "sulphites",
            Self::Soya => "soya",
        }
    }
}

/// The kind of an ingredient.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Kind {
    Juice,
    Fruit,
    Vegetable,
    Root,
    Stem,
    Herb,
    Flower,
    Spice,
    Zest,
    Peel,
    Seed,
    Grain,
    Nut,
    Sweetener,
    Syrup,
    Dairy,
    Acid,
    Salt,
    Water,
    Soda,
    Ice,
    Spirit,
    Flavouring,
}

impl Kind {
    /// Whether it brings in what grows: anything fresh that hasn't been heated or dried.
    pub(crate) fn is_raw(self) -> bool {
        use Kind as K;
        matches!(
            self,
            K::Juice
                | K::Fruit
                | K::Vegetable
                | K::Root
                | K::Stem
                | K::Herb
                | K::Flower
                | K::Zest
                | K::Peel
                | K::Grain
                | K::Nut
                | K::Seed
                | K::Dairy
        )
    }
}

impl Ingredient {
    /// Whether it is, or makes, a drink of grains, nuts or coconut: what spoils as milk does.
    #[must_use]
    pub fn is_plant_milk(&self) -> bool {
        matches!(self.kind, Kind::Nut | Kind::Grain | Kind::Dairy)
            && !self.allergens.contains(&Allergen::Milk)
    }

    /// Whether that is special about it.
    #[must_use]
    pub fn is(&self, what: Trait) -> bool {
        self.traits.contains(&what)
    }

    /// Whether its acid is from a table or was measured, and comes in all at once: what pieces give up is
    /// an estimate.
    #[must_use]
    pub(crate) fn acid_is_known(&self) -> bool {
        self.evidence != Evidence::Estimate && self.form != Form::Pieces
    }

    /// What it does in a drink: those that do the same can be put in each other's place, and else only its
    /// own kind can. From 40 g of sweetness in 100 g on it is there to sweeten, from 0.7 g of acid on to
    /// sharpen: apple juice has half as much, orange juice a little more.
    #[must_use]
    pub fn role(&self) -> Role {
        if self.form == Form::Pieces {
            Role::OfItsKind(self.kind)
        } else if self.per_gram.sucrose_equivalent().0 > 0.4 {
            Role::Sweetens
        } else if self.per_gram.titratable_acid() > 0.007 {
            Role::Sharpens
        } else {
            Role::OfItsKind(self.kind)
        }
    }
}

/// What an ingredient does in a drink.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Role {
    /// It sweetens: sugars, honeys, syrups.
    Sweetens,
    /// It sharpens: sour juices, acids, vinegars.
    Sharpens,
    /// Neither; only its own kind does what it does.
    OfItsKind(Kind),
}

impl Role {
    /// A word for it, the same for all that can stand for each other.
    #[must_use]
    pub fn name(self) -> String {
        match self {
            Self::Sweetens => "sweetens".into(),
            Self::Sharpens => "sharpens".into(),
            Self::OfItsKind(kind) => format!("{kind:?}").to_lowercase(),
        }
    }
}

/// The form in which an ingredient is added.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Form {
    /// It mixes at once.
    Liquid,
    /// It dissolves as far as the liquid takes it.
    Crystals,
    /// It lies in the liquid and gives up what it holds in time.
    Pieces,
    /// It melts.
    Ice,
}

/// What measures of an ingredient weigh.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Measures {
    /// Grams in a millilitre, as it fills a measuring cup.
    pub density: Option<f64>,
    /// Grams in a tablespoon, where it is not as the density says (chopped leaves pack tighter).
    pub tablespoon: Option<f64>,
    /// Grams in a teaspoon.
    pub teaspoon: Option<f64>,
}
