//! What this kitchen knows better than the tables: figures of its own, ingredients of its own, and
//! the vessels that stand in it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{
    Cupboard, Estimated, Evidence, Extraction, FigureSource, Flavour, Form, Hold, Ingredient, Kind,
    Material, Measures, VesselKind, Yield,
};
use crate::chemistry::{Component, ETHANOL_DENSITY, Mixture};
use crate::drink::FieldError;
use crate::quantity::{Amount, Grams, Millilitres};

/// Everything that is this kitchen's own. Kept and exchanged as JSON.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Kitchen {
    /// Own figures of ingredients, by id.
    pub figures: BTreeMap<String, OwnFigures>,
    /// Own figures of produce, by `produce/size`: `lemon/medium`.
    pub produce: BTreeMap<String, OwnProduce>,
    /// Ingredients that the tables haven't got.
    pub ingredients: Vec<OwnIngredient>,
    /// The vessels and strainers that stand in it.
    pub vessels: Vec<OwnVessel>,
    /// What it measures with.
    pub measuring: MeasuringSet,
    /// What is there of an ingredient, and how it is bought, by id.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub larder: BTreeMap<String, Larder>,
    /// What fruit gave, in the order in which it was read.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<Reading>,
    /// The sign that stands with prices.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub currency: String,
    /// How much faster or slower its pots lose water than the tables say; 1 if left out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub boil_off: Option<f64>,
}

/// Own figures of an ingredient; those left out are the table's.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OwnFigures {
    /// Grams in a millilitre as it fills a cup, 0.05 to 3.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// Sugars, g in 100 g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sugar: Option<f64>,
    /// Titratable acid as citric, g in 100 g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub acid: Option<f64>,
    /// Liquid kept when drained, g for each gram put in.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub keeps: Option<f64>,
    /// Minutes at 95 °C until 63 % has been drawn.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub drawing_minutes: Option<f64>,
}

/// Own figures of a size of produce; those left out are the table's.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OwnProduce {
    /// The whole piece, g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub whole_g: Option<f64>,
    /// Juice of one, ml.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub juice_ml: Option<f64>,
    /// Grated zest of one, g.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub zest_g: Option<f64>,
}

/// What is there of an ingredient, and how it is bought.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Larder {
    /// What is there, g; for fruit in pieces.
    pub have: f64,
    /// What a pack holds, g; for fruit in pieces. As usual if left out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pack: Option<f64>,
    /// What a pack costs.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub price: Option<f64>,
}

/// What some pieces of fruit gave.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reading {
    /// `produce/size`: `lime/medium`.
    pub produce: String,
    /// How many pieces.
    pub pieces: f64,
    /// The juice of all of them, ml.
    pub juice_ml: f64,
    /// °Brix of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub brix: Option<f64>,
    /// Titratable acidity of it, g in 100 g.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub acidity: Option<f64>,
    /// The day, as `2026-06-21`.
    #[serde(default)]
    pub day: String,
}

/// An ingredient that the tables haven't got.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OwnIngredient {
    /// Names it in drinks: `own_` and small letters, digits or `_`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// What sort of thing it is.
    pub kind: Kind,
    /// How it arrives in a vessel.
    pub form: Form,
    /// Sugars as sucrose, g in 100 g.
    #[serde(default)]
    pub sugar: f64,
    /// Acid as citric, g in 100 g.
    #[serde(default)]
    pub acid: f64,
    /// Alcohol, % vol.
    #[serde(default)]
    pub alcohol: f64,
    /// What doesn't dissolve, g in 100 g.
    #[serde(default)]
    pub insoluble: f64,
    /// Grams in a millilitre as it fills a cup; as its composition says if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// Taken off, but kept as long as a drink needs it.
    #[serde(default, skip_serializing_if = "is_false")]
    pub kept_for_drinks: bool,
}

fn is_false(value: &bool) -> bool {
    !value
}

/// A vessel or strainer of the kitchen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OwnVessel {
    /// What it is called: "big enamel pot".
    pub name: String,
    /// What sort of vessel it is.
    pub kind: VesselKind,
    /// What it holds to the brim.
    pub capacity: Amount,
    /// Inside diameter; that of a usual one if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub diameter_mm: Option<f64>,
    /// What it is made of.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub material: Option<Material>,
    /// How many of it there are.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub count: u32,
}

fn one() -> u32 {
    1
}

fn is_one(count: &u32) -> bool {
    *count == 1
}

/// What a kitchen measures with.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeasuringSet {
    /// The finest step of its scale, g; none without a scale.
    pub scale_g: Option<f64>,
    /// The finest mark of its jug, ml; none without one.
    pub jug_ml: Option<f64>,
    /// Whether it has US cups.
    pub cups: bool,
    /// Whether it has spoons.
    pub spoons: bool,
}

impl Default for MeasuringSet {
    fn default() -> Self {
        Self { scale_g: Some(1.0), jug_ml: Some(5.0), cups: true, spoons: true }
    }
}

fn is_a_name(text: &str, most: usize) -> bool {
    !text.trim().is_empty() && text.chars().count() <= most && !text.chars().any(char::is_control)
}

/// Sizes beyond which something is surely a slip of the keyboard.
const MOST_ENTRIES: usize = 500;
const MOST_READINGS: usize = 5000;

impl Kitchen {
    /// Everything in it that can't be; empty if it can be used.
    #[must_use]
    pub fn check(&self) -> Vec<FieldError> {
        let mut errors = Vec::new();
        let mut fault = |field: String, message: String| errors.push(FieldError { field, message });
        let builtin = Cupboard::builtin();
        let within = |value: Option<f64>, from: f64, to: f64| {
            value.is_none_or(|v| v.is_finite() && (from..=to).contains(&v))
        };
        let lists = [
            self.figures.len(),
            self.produce.len(),
            self.ingredients.len(),
            self.vessels.len(),
            self.larder.len(),
        ];
        if lists.into_iter().any(|n| n > MOST_ENTRIES) {
            fault(String::new(), "That is more than any kitchen holds.".into());
        }
        for (id, own) in &self.figures {
            if builtin.ingredient(id).is_none() && !self.ingredients.iter().any(|it| it.id == *id) {
                fault(format!("figures.{id}"), format!("There is no ingredient “{id}”."));
            }
            for (name, value, from, to, unit) in [
                ("density", own.density, 0.02, 3.0, "g in a millilitre"),
                ("sugar", own.sugar, 0.0, 100.0, "g in 100 g"),
                ("acid", own.acid, 0.0, 100.0, "g in 100 g"),
                ("keeps", own.keeps, 0.0, 40.0, "g for each gram"),
                ("drawing_minutes", own.drawing_minutes, 0.1, 1440.0, "minutes"),
            ] {
                if !within(value, from, to) {
                    fault(
                        format!("figures.{id}.{name}"),
                        format!("That won't do; {from} to {to} {unit} will."),
                    );
                }
            }
        }
        for (key, own) in &self.produce {
            if builtin.size_named(key).is_none() {
                fault(format!("produce.{key}"), format!("There is no produce “{key}”."));
            }
            for (name, value) in
                [("whole_g", own.whole_g), ("juice_ml", own.juice_ml), ("zest_g", own.zest_g)]
            {
                if !within(value, 0.01, 20_000.0) {
                    fault(
                        format!("produce.{key}.{name}"),
                        "That won't do; 0.01 to 20,000 will.".into(),
                    );
                }
            }
        }
        for (i, it) in self.ingredients.iter().enumerate() {
            let at = format!("ingredients[{i}]");
            let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '_';
            if !it.id.starts_with("own_") || it.id.len() > 60 || !it.id.chars().all(plain) {
                fault(format!("{at}.id"), "An id is own_ and small letters, digits or _.".into());
            }
            if self.ingredients[..i].iter().any(|other| other.id == it.id) {
                fault(format!("{at}.id"), format!("Two ingredients have the id “{}”.", it.id));
            }
            if !is_a_name(&it.name, 80) {
                fault(format!("{at}.name"), "Give it a name of at most 80 characters.".into());
            }
            let parts = [it.sugar, it.acid, it.alcohol, it.insoluble];
            if parts.into_iter().any(|v| !v.is_finite() || !(0.0..=100.0).contains(&v))
                || it.sugar + it.acid + it.insoluble + it.alcohol * 0.8 > 100.0
            {
                fault(at.clone(), format!("What is in 100 g of {} is more than 100 g.", it.name));
            }
            if !within(it.density, 0.02, 3.0) {
                fault(
                    format!("{at}.density"),
                    "That won't do; 0.02 to 3 g in a millilitre will.".into(),
                );
            }
        }
        for (i, vessel) in self.vessels.iter().enumerate() {
            let at = format!("vessels[{i}]");
            if !is_a_name(&vessel.name, 60) {
                fault(
                    format!("{at}.name"),
                    "Give the vessel a name of at most 60 characters.".into(),
                );
            }
            if !vessel.capacity.as_millilitres().is_some_and(|ml| (10.0..=200_000.0).contains(&ml))
            {
                fault(
                    format!("{at}.capacity"),
                    format!("“{}” won't do; 10 ml to 200 l will.", vessel.capacity),
                );
            }
            if !within(vessel.diameter_mm, 20.0, 1000.0) {
                fault(format!("{at}.diameter_mm"), "20 to 1000 mm will do.".into());
            }
            if vessel.count == 0 || vessel.count > 200 {
                fault(format!("{at}.count"), "1 to 200 of it will do.".into());
            }
        }
        for (id, larder) in &self.larder {
            for (name, value) in
                [("have", Some(larder.have)), ("pack", larder.pack), ("price", larder.price)]
            {
                if !within(value, if name == "pack" { 0.01 } else { 0.0 }, 1e6) {
                    fault(format!("larder.{id}.{name}"), "0 to 1,000,000 will do.".into());
                }
            }
        }
        for (i, reading) in self.readings.iter().enumerate() {
            let at = format!("readings[{i}]");
            let gives = builtin.size_named(&reading.produce).and_then(|(_, s)| s.juice);
            if gives.is_none() {
                fault(
                    format!("{at}.produce"),
                    format!("“{}” is no fruit that is squeezed.", reading.produce),
                );
            }
            if reading.day.chars().count() > 40 || reading.day.chars().any(char::is_control) {
                fault(format!("{at}.day"), "A day is written like 2026-06-21.".into());
            }
            for (name, value, from, to) in [
                ("pieces", Some(reading.pieces), 0.25, 1000.0),
                ("juice_ml", Some(reading.juice_ml), 0.5, 200_000.0),
                ("brix", reading.brix, 0.5, 40.0),
                ("acidity", reading.acidity, 0.02, 12.0),
            ] {
                if !within(value, from, to) {
                    fault(format!("{at}.{name}"), format!("{from} to {to} will do."));
                }
            }
        }
        if self.currency.chars().count() > 6 || self.currency.chars().any(char::is_control) {
            fault("currency".into(), "A sign of up to 6 letters will do.".into());
        }
        if self.readings.len() > MOST_READINGS {
            fault("readings".into(), "That is more than anyone squeezes.".into());
        }
        if !within(self.measuring.scale_g, 0.01, 100.0) {
            fault("measuring.scale_g".into(), "A scale shows steps of 0.01 to 100 g.".into());
        }
        if !within(self.measuring.jug_ml, 0.5, 500.0) {
            fault("measuring.jug_ml".into(), "A jug has marks each 0.5 to 500 ml.".into());
        }
        if !within(self.boil_off, 0.2, 5.0) {
            fault("boil_off".into(), "0.2 to 5 times as fast will do.".into());
        }
        errors
    }
}

impl Cupboard {
    /// The tables with a kitchen's own figures over them.
    #[must_use]
    pub fn of(kitchen: &Kitchen) -> Self {
        let mut ingredients = Self::builtin().ingredients().to_vec();
        ingredients.extend(kitchen.ingredients.iter().map(own_ingredient));
        for it in &mut ingredients {
            if let Some(own) = kitchen.figures.get(&it.id) {
                own.apply(it);
            }
        }
        let mut produce = Self::builtin().produce().to_vec();
        for kind in &mut produce {
            for size in &mut kind.sizes {
                Yield::of(size, &format!("{}/{}", kind.id, size.name), &kitchen.readings)
                    .apply(size);
                let Some(own) = kitchen.produce.get(&format!("{}/{}", kind.id, size.name)) else {
                    continue;
                };
                size.measured = true;
                size.whole = own.whole_g.map_or(size.whole, Grams);
                size.juice = own.juice_ml.map(Millilitres).or(size.juice);
                size.zest = own.zest_g.map(Grams).or(size.zest);
            }
        }
        learn_strength(&mut ingredients, &produce, kitchen);
        let mut cupboard = Self::new(ingredients, produce);
        cupboard.kitchen = kitchen.clone();
        cupboard
    }

    /// Whether a figure of it was measured here.
    #[must_use]
    pub fn is_own(&self, it: &Ingredient) -> bool {
        self.kitchen.figures.contains_key(&it.id)
    }

    /// Whether it was taken off and stays only because a drink needs it.
    #[must_use]
    pub fn is_kept_for_drinks(&self, it: &Ingredient) -> bool {
        self.kitchen.ingredients.iter().any(|own| own.id == it.id && own.kept_for_drinks)
    }
}

/// Moves the acid and sugar of juices towards what was read of them. Unknown lots weigh as much as
/// three readings.
fn learn_strength(ingredients: &mut [Ingredient], produce: &[super::Produce], kitchen: &Kitchen) {
    const PRIOR: f64 = 3.0;
    for it in ingredients.iter_mut().filter(|it| it.kind == Kind::Juice) {
        let fruit: Vec<&super::Produce> =
            produce.iter().filter(|p| p.gives.contains(&it.id)).collect();
        let mine = kitchen.readings.iter().filter(|r| {
            let id = r.produce.split('/').next().unwrap_or_default();
            fruit.iter().any(|p| p.id == id && p.gives.first() == Some(&it.id))
        });
        let (mut acid, mut brix) = (Vec::new(), Vec::new());
        for reading in mine {
            acid.extend(reading.acidity);
            brix.extend(reading.brix);
        }
        let towards = |prior: f64, read: &[f64]| {
            (PRIOR * prior + read.iter().sum::<f64>()) / (PRIOR + read.len() as f64)
        };
        let own = kitchen.figures.get(&it.id).copied().unwrap_or_default();
        let mut learned = OwnFigures::default();
        if !acid.is_empty() && own.acid.is_none() {
            learned.acid = Some(towards(100.0 * it.per_gram.titratable_acid(), &acid));
        }
        if !brix.is_empty() && own.sugar.is_none() {
            // What a refractometer finds more or less is sugar.
            let more = towards(it.per_gram.soluble_solids(), &brix) - it.per_gram.soluble_solids();
            learned.sugar = Some((100.0 * it.per_gram.sugars().0 + more).max(0.05));
        }
        if learned != OwnFigures::default() {
            learned.apply(it);
        }
    }
}

impl OwnFigures {
    /// Puts these over the table's figures; what then is missing of 100 g, or too much, is water.
    fn apply(&self, it: &mut Ingredient) {
        let mass = it.per_gram.mass().0;
        if let Some(density) = self.density {
            let rate = it.measures.density.map(|old| density / old);
            it.measures.density = Some(density);
            let spoon = |old: Option<f64>| old.zip(rate).map(|(grams, rate)| grams * rate);
            it.measures.tablespoon = spoon(it.measures.tablespoon);
            it.measures.teaspoon = spoon(it.measures.teaspoon);
        }
        if let Some(sugar) = self.sugar {
            scale(&mut it.per_gram, &Component::SUGARS, sugar / 100.0, |m| m.sugars().0);
        }
        if let Some(acid) = self.acid {
            let mut parts = Component::ACIDS.to_vec();
            parts.push(Component::StrongIons);
            scale(&mut it.per_gram, &parts, acid / 100.0, Mixture::titratable_acid);
        }
        let water = &mut it.per_gram[Component::Water];
        *water = 0.0;
        let rest = mass - it.per_gram.mass().0;
        it.per_gram[Component::Water] = rest.max(0.0);
        if rest < 0.0 {
            // A syrup said to be stronger than it can be is taken at its word, and nothing else.
            it.per_gram = it.per_gram.share(mass / it.per_gram.mass().0);
        }
        if let Some(keeps) = self.keeps {
            it.hold.drained = Estimated::measured(keeps);
        }
        if let Some(minutes) = self.drawing_minutes {
            it.extraction.tau_hot = Estimated::measured(minutes);
        }
        if *self != Self::default() {
            it.evidence = Evidence::Measured;
        }
    }
}

/// Scales components so that together they come to `wanted`; the first of them takes all where there
/// were none.
fn scale(mixture: &mut Mixture, parts: &[Component], wanted: f64, read: impl Fn(&Mixture) -> f64) {
    let now = read(mixture);
    if now <= 1e-9 {
        mixture[parts[0]] += wanted;
        return;
    }
    for part in parts {
        mixture[*part] *= wanted / now;
    }
}

fn own_ingredient(own: &OwnIngredient) -> Ingredient {
    let (sugar, acid, insoluble) = (own.sugar / 100.0, own.acid / 100.0, own.insoluble / 100.0);
    // Crystals are dry: what isn't sugar or acid dissolves as something else.
    let filler = match own.form {
        Form::Crystals => Component::OtherSolids,
        _ => Component::Water,
    };
    let of_density = |density: f64| {
        let mut per_gram = Mixture::of(&[
            (Component::Sucrose, sugar),
            (Component::Citric, acid),
            (Component::Insoluble, insoluble),
            (Component::Ethanol, own.alcohol / 100.0 * ETHANOL_DENSITY / density),
        ]);
        per_gram[filler] += (1.0 - per_gram.mass().0).max(0.0);
        per_gram
    };
    // Alcohol is told by volume, so a gram's share of it hangs on the density, and that on the share.
    let mut per_gram = of_density(1.0);
    for _ in 0..3 {
        per_gram = of_density(per_gram.density_at_20());
    }
    let flavour = Flavour::of(&own.id, own.kind);
    flavour.book(&mut per_gram, own.form == Form::Pieces);
    let usual = match own.form {
        Form::Liquid => Some(per_gram.density_at_20()),
        Form::Crystals => Some(0.85),
        Form::Pieces | Form::Ice => None,
    };
    Ingredient {
        id: own.id.clone(),
        name: own.name.clone(),
        aliases: Vec::new(),
        kind: own.kind,
        form: own.form,
        extraction: Extraction::of(own.kind),
        hold: Hold::of(own.kind, per_gram[Component::Water] < 0.2),
        flavour,
        measures: Measures { density: own.density.or(usual), tablespoon: None, teaspoon: None },
        per_gram,
        evidence: Evidence::Measured,
        sources: vec![FigureSource {
            of: "all figures".into(),
            source: "Your own.".into(),
            evidence: Evidence::Measured,
        }],
        notes: String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn with(id: &str, own: OwnFigures) -> Cupboard {
        let mut kitchen = Kitchen::default();
        kitchen.figures.insert(id.into(), own);
        assert_eq!(kitchen.check(), []);
        Cupboard::of(&kitchen)
    }

    #[test]
    fn own_figures_stand_over_the_tables_and_a_gram_stays_a_gram() {
        let cupboard =
            with("lemon_juice", OwnFigures { acid: Some(6.0), sugar: Some(3.0), ..<_>::default() });
        let lemon = cupboard.ingredient("lemon_juice").unwrap();
        assert!((lemon.per_gram.titratable_acid() - 0.06).abs() < 0.0005);
        assert!((lemon.per_gram.sugars().0 - 0.03).abs() < 1e-9);
        assert!((lemon.per_gram.mass().0 - 1.0).abs() < 1e-4);
        assert_eq!(lemon.evidence, Evidence::Measured);
        let cupboard = with("hibiscus_dried", OwnFigures { keeps: Some(7.2), ..<_>::default() });
        assert_eq!(cupboard.ingredient("hibiscus_dried").unwrap().hold.drained.value, 7.2);
    }

    #[test]
    fn a_weighed_cup_changes_spoons_as_well() {
        let cupboard = with("white_sugar", OwnFigures { density: Some(0.9), ..<_>::default() });
        let sugar = cupboard.ingredient("white_sugar").unwrap();
        let cup = cupboard.weigh(sugar, &"1 cup".parse().unwrap()).unwrap().grams;
        assert!((cup.0 - 0.9 * 236.588).abs() < 1e-6);
        let before = Cupboard::builtin().ingredient("white_sugar").unwrap();
        let rate = 0.9 / before.measures.density.unwrap();
        let spoon = cupboard.weigh(sugar, &"1 tbsp".parse().unwrap()).unwrap().grams;
        assert!((spoon.0 / (before.measures.tablespoon.unwrap() * rate) - 1.0).abs() < 1e-9);
    }

    #[test]
    fn a_spirit_of_ones_own_has_the_strength_on_its_label() {
        let own = OwnIngredient {
            id: "own_plum_spirit".into(),
            name: "Plum spirit".into(),
            kind: Kind::Spirit,
            form: Form::Liquid,
            sugar: 0.0,
            acid: 0.0,
            alcohol: 40.0,
            insoluble: 0.0,
            density: None,
            kept_for_drinks: false,
        };
        let gram = own_ingredient(&own).per_gram;
        let by_volume = gram[Component::Ethanol] / ETHANOL_DENSITY * gram.density_at_20();
        assert!((by_volume - 0.40).abs() < 1e-3, "{by_volume}");
        assert!((gram.mass().0 - 1.0).abs() < 1e-9);
    }

    #[test]
    fn what_can_not_be_is_told_with_its_field() {
        let mut kitchen = Kitchen::default();
        kitchen.figures.insert("moondust".into(), OwnFigures::default());
        kitchen
            .figures
            .insert("water".into(), OwnFigures { density: Some(f64::NAN), ..<_>::default() });
        kitchen.produce.insert("lemon/enormous".into(), OwnProduce::default());
        kitchen.vessels.push(OwnVessel {
            name: " ".into(),
            kind: VesselKind::Pot,
            capacity: "2 kg".parse().unwrap(),
            diameter_mm: Some(1.0),
            material: None,
            count: 0,
        });
        let fields: Vec<String> = kitchen.check().into_iter().map(|e| e.field).collect();
        for field in [
            "figures.moondust",
            "figures.water.density",
            "produce.lemon/enormous",
            "vessels[0].name",
            "vessels[0].capacity",
            "vessels[0].diameter_mm",
            "vessels[0].count",
        ] {
            assert!(fields.iter().any(|f| f == field), "{field} in {fields:?}");
        }
    }
}
