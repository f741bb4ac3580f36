use serde::Serialize;

use crate::cupboard::{Form, Ingredient, Kind};

/// Where in a shop something stands, in the order of walking through it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
        Kind::Fruit if it.id.ends_with("_frozen") => Aisle::Frozen,
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
#[derive(Debug, Clone)]
pub(super) struct Pack {
    pub(super) grams: f64,
    one: &'static str,
    many: &'static str,
    holds: &'static str,
}

pub(super) fn pack_of(it: &Ingredient) -> Pack {
    let pack = |grams, one, many, holds| Pack { grams, one, many, holds };
    let dry = it.per_gram[crate::chemistry::Component::Water] < 0.2;
    match (it.id.as_str(), it.kind) {
        ("condensed_milk_sweet", _) => pack(397.0, "tin", "tins", "397 g"),
        ("coconut_milk", _) => pack(392.0, "tin", "tins", "400 ml"),
        ("honey" | "agave_syrup" | "maple_syrup", _) => pack(500.0, "jar", "jars", "500 g"),
        ("table_salt", _) => pack(500.0, "pack", "packs", "500 g"),
        ("sucralose" | "stevia_glycosides", _) => pack(20.0, "pack", "packs", "20 g"),
        ("vanilla_bean", _) => pack(3.0, "pod", "pods", "3 g"),
        ("cinnamon_stick", _) => pack(30.0, "pack", "packs", "10 sticks"),
        ("black_tea", _) => pack(100.0, "pack", "packs", "100 g"),
        (_, Kind::Sweetener) => pack(1000.0, "bag", "bags", "1 kg"),
        (_, Kind::Syrup) => pack(700.0, "bottle", "bottles", "700 g"),
        (_, Kind::Salt) | (_, Kind::Acid) if it.form == Form::Crystals => {
            pack(100.0, "pack", "packs", "100 g")
        }
        (_, Kind::Acid) => pack(505.0, "bottle", "bottles", "500 ml"),
        (_, Kind::Soda) => pack(1000.0, "bottle", "bottles", "1 l"),
        (_, Kind::Juice) => pack(1045.0, "carton", "cartons", "1 l"),
        (_, Kind::Spirit) => pack(665.0, "bottle", "bottles", "700 ml"),
        (_, Kind::Ice) => pack(2000.0, "bag", "bags", "2 kg"),
        (_, Kind::Dairy) => pack(1030.0, "bottle", "bottles", "1 l"),
        (_, Kind::Herb) => pack(25.0, "bunch", "bunches", "25 g"),
        (_, Kind::Flower) if dry => pack(100.0, "bag", "bags", "100 g"),
        (_, Kind::Flower) => pack(50.0, "handful", "handfuls", "50 g"),
        (_, Kind::Spice) => pack(25.0, "jar", "jars", "25 g"),
        (_, Kind::Flavouring) => pack(50.0, "bottle", "bottles", "50 ml"),
        ("lemongrass", _) => pack(15.0, "stalk", "stalks", ""),
        ("tamarind_pulp", _) => pack(400.0, "block", "blocks", "400 g"),
        // Weighed in the shop, to the next 50 g.
        (_, Kind::Root | Kind::Stem | Kind::Vegetable) => pack(50.0, "", "", ""),
        (_, Kind::Fruit) => pack(250.0, "punnet", "punnets", "250 g"),
        _ => pack(250.0, "pack", "packs", "250 g"),
    }
}

impl Pack {
    /// "2 bags of 1 kg".
    pub(super) fn said(&self, count: f64, own: Option<f64>) -> String {
        let weight = |g: f64| {
            if g >= 1000.0 { format!("{:.2} kg", g / 1000.0) } else { format!("{g:.0} g") }
        };
        let noun = if count > 1.0 { self.many } else { self.one };
        match own.map(weight) {
            Some(own) if noun.is_empty() => format!("{count:.0} packs of {own}"),
            Some(own) => format!("{count:.0} {noun} of {own}"),
            None if noun.is_empty() => weight(count * self.grams),
            None if self.holds.is_empty() => format!("{count:.0} {noun}"),
            None => format!("{count:.0} {noun} of {}", self.holds),
        }
    }
}
