//! Reads the built-in tables. They ship with the program, so a fault in them is a fault of the
//! program and found by the tests; reading therefore panics.

use serde::{Deserialize, Deserializer};

use super::evidence::split_sources;
use super::{
    Allergen, Care, Choice, Cupboard, Estimated, Evidence, FigureSource, Flavour, Form, Ingredient,
    Kind, Measures, Pack, Part, PhRange, Produce, Size, SugarDraw, Texture, TextureKind, Trait,
};
use crate::chemistry::{Absorbance, Component, Mixture, Rgb};
use crate::quantity::{Grams, Millilitres};

const INGREDIENTS: &str = include_str!("data/ingredients.csv");
const PRODUCE: &str = include_str!("data/produce.csv");
const TEXTURES: &str = include_str!("data/textures.csv");

/// A row of the ingredient table. Grams, milligrams and milliequivalents are in 100 g.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct IngredientRow {
    id: String,
    name: String,
    #[serde(deserialize_with = "listed")]
    aliases: Vec<String>,
    kind: Kind,
    form: Form,
    water_g: f64,
    sucrose_g: f64,
    glucose_g: f64,
    fructose_g: f64,
    lactose_g: f64,
    other_sugar_g: f64,
    polyol_g: f64,
    citric_g: f64,
    malic_g: f64,
    tartaric_g: f64,
    acetic_g: f64,
    lactic_g: f64,
    ascorbic_g: f64,
    /// As citric acid that would neutralise as much base.
    other_acid_g: f64,
    ethanol_g: f64,
    co2_g: f64,
    protein_g: f64,
    fat_g: f64,
    other_solids_g: f64,
    insoluble_g: f64,
    strong_ion_meq: f64,
    /// What holds the pH besides acids; see [`Component::Buffer`].
    buffer_mmol: f64,
    sodium_mg: f64,
    potassium_mg: f64,
    /// Sucrose that would taste as sweet, for sweeteners of which a pinch will do.
    intense_g: f64,
    /// Of liquids, g/ml.
    density: Option<f64>,
    g_per_cup: Option<f64>,
    g_per_tbsp: Option<f64>,
    g_per_tsp: Option<f64>,
    /// What it looks like through a centimetre, at the strength beside it.
    #[serde(deserialize_with = "colour")]
    tint: Option<Rgb>,
    tint_g_per_l: Option<f64>,
    /// Whether its red is of anthocyanins, and goes with the pH.
    anthocyanin: u8,
    /// Where the literature has the pH of the thing itself, and of an infusion or a syrup of it.
    ph_low: Option<f64>,
    ph_high: Option<f64>,
    infusion_ph_low: Option<f64>,
    infusion_ph_high: Option<f64>,
    ph_source: String,
    /// Own units in a gram; see [`Flavour`].
    aroma: f64,
    bitterness: f64,
    bitter_minutes: f64,
    pungency: f64,
    texture: Option<TextureKind>,
    part: Option<Part>,
    #[serde(deserialize_with = "words")]
    traits: Vec<Trait>,
    #[serde(deserialize_with = "words")]
    staples: Vec<Choice>,
    #[serde(deserialize_with = "words")]
    care: Vec<Care>,
    #[serde(deserialize_with = "words")]
    allergens: Vec<Allergen>,
    /// How many pieces are usual, for what is counted out.
    usual_pieces: Option<f64>,
    /// What is left of the fruit when it has been squeezed.
    halves: Option<String>,
    /// How it is bought, where that isn't as its kind is.
    pack_g: Option<f64>,
    pack: String,
    pack_holds: String,
    quality: Quality,
    source: String,
    /// Other ingredients that whoever avoids them avoids in this one, too.
    #[serde(deserialize_with = "words")]
    made_of: Vec<String>,
    notes: String,
}

/// How good a row's figures are.
#[derive(Deserialize, PartialEq)]
enum Quality {
    /// A chemical identity, or all of it from one published table.
    A,
    /// Mostly from tables.
    B,
    /// Mostly estimated.
    C,
}

/// A row of the texture table; see [`Texture`].
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct TextureRow {
    texture: TextureKind,
    draw_minutes: f64,
    draw_low: f64,
    draw_high: f64,
    cold: f64,
    hot: f64,
    cooked_minutes: Option<f64>,
    held_raw: f64,
    held_raw_low: f64,
    held_raw_high: f64,
    held_broken: f64,
    held_broken_low: f64,
    held_broken_high: f64,
    pressed: f64,
    wrung: f64,
    pulp: f64,
    pulp_low: f64,
    pulp_high: f64,
    sugar_most: Option<f64>,
    sugar_hours: Option<f64>,
    sugar_oil: Option<f64>,
    source: String,
}

/// "#f4e586", or nothing.
fn colour<'de, D: Deserializer<'de>>(text: D) -> Result<Option<Rgb>, D::Error> {
    let text = String::deserialize(text)?;
    if text.is_empty() {
        return Ok(None);
    }
    text.parse().map(Some).map_err(serde::de::Error::custom)
}

/// "lemons, limon".
fn listed<'de, D: Deserializer<'de>>(text: D) -> Result<Vec<String>, D::Error> {
    let text = String::deserialize(text)?;
    Ok(text.split(", ").filter(|part| !part.is_empty()).map(Into::into).collect())
}

/// "frozen pith".
fn words<'de, D: Deserializer<'de>, T: Deserialize<'de>>(text: D) -> Result<Vec<T>, D::Error> {
    use serde::de::IntoDeserializer;
    let text = String::deserialize(text)?;
    text.split_whitespace()
        .map(|word| T::deserialize(word.to_owned().into_deserializer()))
        .collect()
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct ProduceRow {
    id: String,
    name: String,
    plural: String,
    size: String,
    whole_g: f64,
    whole_g_sd: f64,
    juice_ml: Option<f64>,
    juice_ml_sd: Option<f64>,
    press_fraction: Option<f64>,
    zest_g: Option<f64>,
    peel_g: Option<f64>,
    edible_fraction: f64,
    ingredients: String,
    source: String,
    notes: String,
}

pub(super) fn read() -> Cupboard {
    Cupboard::new(read_ingredients(&read_textures()), read_produce())
}

fn read_ingredients(textures: &[(Texture, String)]) -> Vec<Ingredient> {
    csv::Reader::from_reader(INGREDIENTS.as_bytes())
        .deserialize()
        .map(|row| ingredient(row.expect("the ingredient table is well formed"), textures))
        .collect()
}

/// The textures, each with the reason for its figures.
pub(super) fn read_textures() -> Vec<(Texture, String)> {
    let row = |row: Result<TextureRow, csv::Error>| {
        let row = row.expect("the texture table is well formed");
        // A sixth to an eighth either way, and never more than all.
        let share = |v: f64| Estimated::within(v, v * 0.85, (v * 1.12).min(1.0));
        let texture = Texture {
            kind: row.texture,
            minutes: Estimated::within(row.draw_minutes, row.draw_low, row.draw_high),
            cold: share(row.cold),
            hot: share(row.hot),
            cooked_minutes: row.cooked_minutes,
            held_raw: Estimated::within(row.held_raw, row.held_raw_low, row.held_raw_high),
            held_broken: Estimated::within(
                row.held_broken,
                row.held_broken_low,
                row.held_broken_high,
            ),
            pressed_share: row.pressed,
            wrung_share: row.wrung,
            pulp: Estimated::within(row.pulp, row.pulp_low, row.pulp_high),
            under_sugar: row.sugar_most.map(|most| SugarDraw {
                most,
                hours: row.sugar_hours.unwrap_or(5.0),
                oil: row.sugar_oil.unwrap_or(0.0),
            }),
        };
        (texture, row.source)
    };
    csv::Reader::from_reader(TEXTURES.as_bytes()).deserialize().map(row).collect()
}

impl IngredientRow {
    /// What a gram of it is made of.
    fn per_gram(&self) -> Mixture {
        use Component as C;
        let mut per_gram = Mixture::of(&[
            (C::Water, self.water_g),
            (C::Sucrose, self.sucrose_g),
            (C::Glucose, self.glucose_g),
            (C::Fructose, self.fructose_g),
            (C::Lactose, self.lactose_g),
            (C::OtherSugar, self.other_sugar_g),
            (C::Polyol, self.polyol_g),
            (C::Citric, self.citric_g),
            (C::Malic, self.malic_g),
            (C::Tartaric, self.tartaric_g),
            (C::Acetic, self.acetic_g),
            (C::Lactic, self.lactic_g),
            (C::Ascorbic, self.ascorbic_g),
            (C::OtherAcid, self.other_acid_g),
            (C::Ethanol, self.ethanol_g),
            (C::CarbonDioxide, self.co2_g),
            (C::Protein, self.protein_g),
            (C::Fat, self.fat_g),
            (C::OtherSolids, self.other_solids_g),
            (C::Insoluble, self.insoluble_g),
            (C::StrongIons, self.strong_ion_meq),
            (C::Buffer, self.buffer_mmol),
            (C::Sodium, self.sodium_mg),
            (C::Potassium, self.potassium_mg),
            (C::IntenseSweetness, self.intense_g),
        ])
        .share(0.01);
        if let Some((seen, grams_per_l)) = self.tint.zip(self.tint_g_per_l) {
            // Absorbance per cm at that strength; times ml for each gram.
            let bands = Absorbance::through_one_cm(seen).0.map(|a| a * 1000.0 / grams_per_l);
            if self.anthocyanin == 1 {
                per_gram[C::Anthocyanin] = bands[1];
            } else {
                per_gram[C::AbsorbRed] = bands[0];
                per_gram[C::AbsorbGreen] = bands[1];
                per_gram[C::AbsorbBlue] = bands[2];
            }
        }
        per_gram
    }
}

fn ingredient(row: IngredientRow, textures: &[(Texture, String)]) -> Ingredient {
    let mut per_gram = row.per_gram();
    let flavour = Flavour {
        aroma: row.aroma,
        bitterness: row.bitterness,
        bitter_minutes: row.bitter_minutes,
        pungency: row.pungency,
    };
    let in_pieces = row.form == Form::Pieces;
    let dry = per_gram[Component::Water] < 0.2;
    let kind = row.texture.unwrap_or_else(|| TextureKind::usual(row.kind, dry));
    let (texture, reason) =
        textures.iter().find(|(t, _)| t.kind == kind).expect("every texture has its row");
    flavour.book(&mut per_gram, in_pieces);
    texture.book(&mut per_gram, in_pieces);
    let liquid = row.form == Form::Liquid;
    let mut sources = split_sources(&row.source);
    let mut more = |of: &str, source: &str| {
        if !source.is_empty() {
            let evidence = Evidence::of_source(source);
            sources.push(FigureSource { of: of.into(), source: source.into(), evidence });
        }
    };
    more("pH", &row.ph_source);
    if in_pieces {
        more("extraction and straining", reason);
    }
    let range = |low: Option<f64>, high: Option<f64>| {
        low.zip(high).map(|(low, high)| PhRange { low, high })
    };
    Ingredient {
        id: row.id,
        name: row.name,
        aliases: row.aliases,
        kind: row.kind,
        form: row.form,
        part: row.part.unwrap_or_default(),
        traits: row.traits,
        staples: row.staples,
        care: row.care,
        kept: None,
        made_of: row.made_of,
        allergens: row.allergens,
        usual_pieces: row.usual_pieces,
        halves: row.halves,
        pack: row.pack_g.map(|grams| Pack { grams, noun: row.pack, holds: row.pack_holds }),
        texture: *texture,
        flavour,
        per_gram,
        ph: range(row.ph_low, row.ph_high),
        infusion_ph: range(row.infusion_ph_low, row.infusion_ph_high),
        measures: Measures {
            density: if liquid {
                row.density
            } else {
                row.g_per_cup.map(|grams| grams / crate::quantity::US_CUP_ML)
            },
            tablespoon: row.g_per_tbsp.filter(|_| !liquid),
            teaspoon: row.g_per_tsp.filter(|_| !liquid),
        },
        evidence: if row.quality == Quality::C { Evidence::Estimate } else { Evidence::Table },
        sources,
        notes: row.notes,
    }
}

fn read_produce() -> Vec<Produce> {
    let mut all: Vec<Produce> = Vec::new();
    for row in csv::Reader::from_reader(PRODUCE.as_bytes()).deserialize() {
        let row: ProduceRow = row.expect("the produce table is well formed");
        let size = Size {
            name: row.size,
            whole: Grams(row.whole_g),
            whole_sd: Grams(row.whole_g_sd),
            juice: row.juice_ml.map(Millilitres),
            juice_sd: row.juice_ml_sd.map(Millilitres),
            press_fraction: row.press_fraction,
            zest: row.zest_g.map(Grams),
            peel: row.peel_g.map(Grams),
            edible: row.edible_fraction,
            measured: false,
            juice_known: None,
            source: row.source,
            notes: row.notes,
        };
        let gives = row.ingredients.split_whitespace().map(str::to_owned);
        match all.iter_mut().find(|p| p.id == row.id) {
            Some(known) => {
                known.sizes.push(size);
                for id in gives {
                    if !known.gives.contains(&id) {
                        known.gives.push(id);
                    }
                }
            }
            None => all.push(Produce {
                id: row.id,
                name: row.name,
                plural: row.plural,
                sizes: vec![size],
                gives: gives.collect(),
            }),
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_tables_are_as_large_as_promised_and_every_figure_has_a_source() {
        let cupboard = read();
        assert!(cupboard.ingredients().len() >= 110, "{}", cupboard.ingredients().len());
        assert!(cupboard.produce().len() >= 25, "{}", cupboard.produce().len());
        for (i, it) in cupboard.ingredients().iter().enumerate() {
            assert_eq!(cupboard.position(&it.id), Some(i), "{} stands there twice", it.id);
            assert!(!it.sources.is_empty(), "{} has no source", it.id);
        }
        for produce in cupboard.produce() {
            assert!(!produce.gives.is_empty(), "{}", produce.id);
            for id in &produce.gives {
                assert!(cupboard.ingredient(id).is_some(), "{} gives {id}", produce.id);
            }
            for size in &produce.sizes {
                assert!(!size.source.is_empty() && size.whole.0 > 0.0, "{}", produce.id);
                assert!((0.0..=1.0).contains(&size.edible), "{}", produce.id);
            }
        }
    }

    #[test]
    fn a_gram_of_everything_weighs_a_gram() {
        for it in read().ingredients() {
            assert!(
                (it.per_gram.mass().0 - 1.0).abs() < 1e-4,
                "{}: {:?}",
                it.id,
                it.per_gram.mass()
            );
            assert!(it.per_gram.is_sound(), "{}", it.id);
        }
    }

    /// The strong-ion column is calibrated so that each juice's own acids give its typical pH.
    #[test]
    fn juices_have_their_typical_ph() {
        let cupboard = read();
        for (id, typical) in [
            ("lemon_juice", 2.3),
            ("lime_juice", 2.25),
            ("orange_juice", 3.7),
            ("grapefruit_juice", 3.2),
            ("pineapple_juice", 3.5),
            ("apple_juice", 3.6),
            ("cider_vinegar", 3.1),
            ("watermelon", 5.4),
            ("rhubarb", 3.25),
            ("blackcurrant", 2.9),
            ("raspberry", 3.4),
            ("milk", 6.7),
            ("sodium_bicarbonate", 8.3),
        ] {
            let it = cupboard.ingredient(id).unwrap();
            let mixture = if it.form == Form::Crystals {
                let mut dissolved = it.per_gram.share(5.0);
                dissolved[Component::Water] += 95.0;
                dissolved
            } else {
                it.per_gram
            };
            let found = mixture.ph().unwrap();
            assert!((found - typical).abs() < 0.2, "{id}: pH {found:.2}, typically {typical}");
        }
    }
}
