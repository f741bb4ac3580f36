use serde::Serialize;

use crate::cupboard::{Form, Ingredient, Kind, Pack, Trait};

/// The part of a shop, in the order of walking through it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Aisle {
    Fruit,
    Herbs,
    Sugar,
    Spices,
    Dairy,
    Bottles,
    Frozen,
    Other,
}

impl Aisle {
    /// Its name on the list.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Fruit => "Fruit and vegetables",
            Self::Herbs => "Herbs and flowers",
            Self::Sugar => "Sugar and baking",
            Self::Spices => "Spices",
            Self::Dairy => "Milk",
            Self::Bottles => "Bottles",
            Self::Frozen => "Freezer",
            Self::Other => "Other",
        }
    }
}

pub(super) fn aisle_of(it: &Ingredient) -> Aisle {
    match it.kind {
        Kind::Fruit if it.is(Trait::Frozen) => Aisle::Frozen,
        Kind::Fruit | Kind::Vegetable | Kind::Root | Kind::Stem | Kind::Zest | Kind::Peel => {
            Aisle::Fruit
        }
        Kind::Herb | Kind::Flower => Aisle::Herbs,
        Kind::Sweetener | Kind::Syrup | Kind::Salt | Kind::Grain | Kind::Nut | Kind::Seed => {
            Aisle::Sugar
        }
        Kind::Acid if it.form == Form::Crystals => Aisle::Sugar,
        Kind::Spice | Kind::Flavouring => Aisle::Spices,
        Kind::Dairy => Aisle::Dairy,
        Kind::Juice | Kind::Soda | Kind::Spirit | Kind::Acid => Aisle::Bottles,
        Kind::Ice => Aisle::Frozen,
        Kind::Water => Aisle::Other,
    }
}

/// How something is usually sold. Shops differ: each can be changed in the cupboard.
pub(super) fn pack_of(it: &Ingredient) -> Pack {
    if let Some(pack) = &it.pack {
        return pack.clone();
    }
    let dry = it.per_gram[crate::chemistry::Component::Water] < 0.2;
    let (grams, noun, holds) = match it.kind {
        Kind::Sweetener => (1000.0, "bag", "1 kg"),
        Kind::Syrup => (700.0, "bottle", "700 g"),
        Kind::Salt | Kind::Acid if it.form == Form::Crystals => (100.0, "pack", "100 g"),
        Kind::Acid => (505.0, "bottle", "500 ml"),
        Kind::Soda => (1000.0, "bottle", "1 l"),
        Kind::Juice => (1045.0, "carton", "1 l"),
        Kind::Spirit => (665.0, "bottle", "700 ml"),
        Kind::Ice => (2000.0, "bag", "2 kg"),
        Kind::Dairy => (1030.0, "bottle", "1 l"),
        Kind::Herb if dry => (50.0, "pack", "50 g"),
        Kind::Herb => (25.0, "bunch", "25 g"),
        Kind::Flower if dry => (100.0, "bag", "100 g"),
        Kind::Flower => (50.0, "handful", "50 g"),
        Kind::Spice => (25.0, "jar", "25 g"),
        Kind::Flavouring => (50.0, "bottle", "50 ml"),
        // Weighed in the shop, to the next 50 g.
        Kind::Root | Kind::Stem | Kind::Vegetable => (50.0, "", ""),
        Kind::Fruit => (250.0, "punnet", "250 g"),
        _ => (250.0, "pack", "250 g"),
    };
    Pack { grams, noun: noun.into(), holds: holds.into() }
}

/// So many packs in words: "2 bags of 1 kg".
pub(super) fn packs_in_words(pack: &Pack, count: f64, own: Option<f64>) -> String {
    let weight = |g: f64| {
        if g >= 1000.0 { format!("{:.2} kg", g / 1000.0) } else { format!("{g:.0} g") }
    };
    let noun = match (count > 1.0, pack.noun.ends_with("ch")) {
        (false, _) => pack.noun.clone(),
        (true, true) => format!("{}es", pack.noun),
        (true, false) => format!("{}s", pack.noun),
    };
    match own.map(weight) {
        Some(own) if pack.noun.is_empty() => format!("{count:.0} packs of {own}"),
        Some(own) => format!("{count:.0} {noun} of {own}"),
        None if pack.noun.is_empty() => weight(count * pack.grams),
        None if pack.holds.is_empty() => format!("{count:.0} {noun}"),
        None => format!("{count:.0} {noun} of {}", pack.holds),
    }
}
