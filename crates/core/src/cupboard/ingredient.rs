use serde::{Deserialize, Serialize};

use super::{Evidence, FigureSource};
use crate::chemistry::Mixture;

/// One thing that can go into a drink.
#[derive(Debug, Clone)]
pub struct Ingredient {
    /// Stable name in files and in the API: `lime_juice`.
    pub id: String,
    /// What it is called on the screen.
    pub name: String,
    /// Other names that people look for.
    pub aliases: Vec<String>,
    /// What sort of thing it is.
    pub kind: Kind,
    /// How it arrives in the vessel.
    pub form: Form,
    /// What one gram of it is made of.
    pub per_gram: Mixture,
    /// What measures of it weigh.
    pub measures: Measures,
    /// What most of its figures rest on.
    pub evidence: Evidence,
    /// Where each figure comes from.
    pub sources: Vec<FigureSource>,
    /// What else to know.
    pub notes: String,
}

/// What sort of thing an ingredient is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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

/// How an ingredient arrives in a vessel.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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

/// How fast and how far pieces give up what they hold.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Extraction {
    /// Minutes at 95 °C until 63 % of what can be drawn has been.
    pub(crate) tau_hot: f64,
    /// The share that comes out at all, when cold (5 °C) and when boiling.
    pub(crate) share: (f64, f64),
}

/// Liquid kept by pieces when they are strained, grams for each gram put in.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Hold {
    pub(crate) drained: f64,
    pub(crate) pressed: f64,
    pub(crate) wrung: f64,
}

impl Ingredient {
    /// Estimates by what sort of thing it is, from kitchen practice: 80 % of cases within half to
    /// double. Dried calyces give up their acid within minutes when hot (literature 3–7 min); cut
    /// fruit only as its cells break; whole spices slowly.
    pub(crate) fn extraction(&self) -> Extraction {
        let (tau_hot, share) = match self.kind {
            Kind::Flower => (4.0, (0.77, 0.93)),
            Kind::Herb => (5.0, (0.5, 0.8)),
            Kind::Zest => (8.0, (0.5, 0.85)),
            Kind::Spice | Kind::Seed => (15.0, (0.3, 0.7)),
            Kind::Root | Kind::Stem => (18.0, (0.4, 0.85)),
            Kind::Grain | Kind::Nut => (40.0, (0.1, 0.4)),
            _ => (12.0, (0.6, 0.95)),
        };
        Extraction { tau_hot, share }
    }

    /// Estimates of what pieces keep when strained (drained in a sieve, pressed with a spoon, wrung
    /// in a cloth), for each gram put in: dried calyces 6 (4.5–8), seeds that swell 12 (8–25), whole
    /// spices 1.2 (0.8–2), leaves 1.0, other pieces about their own weight. Fruit that has given up
    /// its juice has collapsed and keeps 0.4 (0.25–0.5, as berries do in a jelly bag), so what it
    /// keeps falls with the share `drawn`.
    pub(crate) fn hold(&self, drawn: f64) -> Hold {
        let dry = self.per_gram[crate::chemistry::Component::Water] < 0.2;
        let (drained, pressed, wrung) = match self.kind {
            Kind::Flower if dry => (6.0, 3.0, 2.2),
            Kind::Seed => (12.0, 11.0, 10.0),
            Kind::Grain | Kind::Nut => (1.6, 1.4, 1.2),
            Kind::Spice => (1.2, 1.0, 0.8),
            Kind::Herb | Kind::Flower => (1.0, 0.7, 0.6),
            Kind::Fruit | Kind::Vegetable => {
                (0.95 - 0.55 * drawn, 0.7 - 0.4 * drawn, 0.55 - 0.3 * drawn)
            }
            _ => (0.95, 0.7, 0.55),
        };
        Hold { drained, pressed, wrung }
    }
}
