use serde::{Deserialize, Serialize};

use super::Press;
use super::{Estimated, Evidence, FigureSource, Flavour};
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
    /// How fast and how far pieces give up what they hold.
    pub extraction: Extraction,
    /// What pieces keep when they are strained.
    pub hold: Hold,
    /// Smell, bitterness and heat.
    pub flavour: Flavour,
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

/// What an ingredient does in a drink. What does the same can be put in its place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Role {
    /// It sweetens: sugars, honeys, syrups.
    Sweetens,
    /// It sharpens: sour juices, acids, vinegars.
    Sharpens,
    /// Neither; only its own kind does what it does.
    OfItsKind,
}

impl Ingredient {
    /// What it does. From 40 g of sweetness in 100 g on it is there to sweeten, from 0.7 g of acid on to
    /// sharpen: apple juice has half as much, orange juice a little more.
    #[must_use]
    pub fn role(&self) -> Role {
        if self.form == Form::Pieces {
            Role::OfItsKind
        } else if self.per_gram.sucrose_equivalent().0 > 0.4 {
            Role::Sweetens
        } else if self.per_gram.titratable_acid() > 0.007 {
            Role::Sharpens
        } else {
            Role::OfItsKind
        }
    }

    /// Whether it can be put in the place of another.
    #[must_use]
    pub fn can_stand_for(&self, other: &Self) -> bool {
        self.role() == other.role() && (self.role() != Role::OfItsKind || self.kind == other.kind)
    }
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
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Extraction {
    /// Minutes at 95 °C until 63 % of what can be drawn has been.
    pub tau_hot: Estimated,
    /// The share that comes out at all when cold (5 °C).
    pub cold: Estimated,
    /// The share that comes out at all when boiling.
    pub hot: Estimated,
}

/// Liquid kept by pieces when they are strained, grams for each gram put in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hold {
    /// Left to drain in a sieve.
    pub drained: Estimated,
    /// Pressed with a spoon, over what is kept when drained.
    pub pressed_share: f64,
    /// Wrung out, over what is kept when drained.
    pub wrung_share: f64,
}

impl Extraction {
    /// Estimates by what sort of thing it is, from kitchen practice: 80 % of cases within half to
    /// double. Dried calyces give up their acid within minutes when hot (literature 3–7 min); cut
    /// fruit only as its cells break; whole spices slowly.
    pub(super) fn of(kind: Kind) -> Self {
        let (tau, cold, hot) = match kind {
            Kind::Flower => (4.0, 0.77, 0.93),
            Kind::Herb => (5.0, 0.5, 0.8),
            Kind::Zest => (8.0, 0.5, 0.85),
            Kind::Peel => (14.0, 0.5, 0.9),
            Kind::Spice | Kind::Seed => (15.0, 0.3, 0.7),
            Kind::Root | Kind::Stem => (18.0, 0.4, 0.85),
            Kind::Grain | Kind::Nut => (40.0, 0.1, 0.4),
            _ => (12.0, 0.6, 0.95),
        };
        let share = |value: f64| Estimated::within(value, value * 0.85, (value * 1.12).min(1.0));
        Self {
            tau_hot: Estimated::within(tau, tau * 0.5, tau * 2.0),
            cold: share(cold),
            hot: share(hot),
        }
    }
}

impl Hold {
    /// Estimates of what pieces keep when strained, for each gram put in: dried calyces 6 (4.5–8),
    /// seeds that swell 12 (8–25), whole spices 1.2 (0.8–2), leaves 1.0, other pieces about their own
    /// weight.
    pub(super) fn of(kind: Kind, dry: bool) -> Self {
        let (drained, low, high, pressed_share, wrung_share) = match kind {
            Kind::Flower if dry => (6.0, 4.5, 8.0, 0.5, 0.37),
            Kind::Seed => (12.0, 8.0, 25.0, 0.92, 0.83),
            Kind::Grain | Kind::Nut => (1.6, 1.2, 2.2, 0.88, 0.75),
            Kind::Spice => (1.2, 0.8, 2.0, 0.83, 0.67),
            Kind::Herb | Kind::Flower => (1.0, 0.5, 1.5, 0.7, 0.6),
            _ => (0.95, 0.8, 1.1, 0.74, 0.58),
        };
        Self { drained: Estimated::within(drained, low, high), pressed_share, wrung_share }
    }

    /// Grams kept for each gram put in. Fruit that has given up its juice has collapsed and keeps
    /// 0.4 (0.25–0.5, as berries do in a jelly bag), so what it keeps falls with the share `drawn`.
    pub(crate) fn when(&self, press: Press, drawn: f64, kind: Kind) -> f64 {
        let collapsed = match kind {
            Kind::Fruit | Kind::Vegetable => 1.0 - 0.58 * drawn,
            _ => 1.0,
        };
        let pressing = match press {
            Press::Drained => 1.0,
            Press::Pressed => self.pressed_share,
            Press::Wrung => self.wrung_share,
        };
        self.drained.value * collapsed * pressing
    }
}
