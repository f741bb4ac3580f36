//! Reads the built-in tables. They ship with the program, so a fault in them is a fault of the
//! program and found by the tests; reading therefore panics.

use serde::Deserialize;
use std::collections::HashMap;

use super::evidence::split_sources;
use super::{
    Cupboard, Evidence, Extraction, Flavour, Form, Hold, Ingredient, Kind, Measures, Produce, Size,
};
use crate::chemistry::{Absorbance, Component, Mixture, Rgb};
use crate::quantity::{Grams, Millilitres};

const INGREDIENTS: &str = include_str!("data/ingredients.csv");
const PRODUCE: &str = include_str!("data/produce.csv");

/// Columns of the ingredient table that are grams (or other amounts) in 100 g.
const COLUMNS: [(&str, Component); 23] = [
    ("water_g", Component::Water),
    ("sucrose_g", Component::Sucrose),
    ("glucose_g", Component::Glucose),
    ("fructose_g", Component::Fructose),
    ("lactose_g", Component::Lactose),
    ("other_sugar_g", Component::OtherSugar),
    ("polyol_g", Component::Polyol),
    ("citric_g", Component::Citric),
    ("malic_g", Component::Malic),
    ("tartaric_g", Component::Tartaric),
    ("acetic_g", Component::Acetic),
    ("lactic_g", Component::Lactic),
    ("ascorbic_g", Component::Ascorbic),
    ("other_acid_g", Component::OtherAcid),
    ("ethanol_g", Component::Ethanol),
    ("co2_g", Component::CarbonDioxide),
    ("protein_g", Component::Protein),
    ("fat_g", Component::Fat),
    ("other_solids_g", Component::OtherSolids),
    ("insoluble_g", Component::Insoluble),
    ("strong_ion_meq", Component::StrongIons),
    ("sodium_mg", Component::Sodium),
    ("potassium_mg", Component::Potassium),
];

#[derive(Deserialize)]
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
    Cupboard::new(read_ingredients(), read_produce())
}

fn read_ingredients() -> Vec<Ingredient> {
    csv::Reader::from_reader(INGREDIENTS.as_bytes())
        .deserialize::<HashMap<String, String>>()
        .map(|row| ingredient(&row.expect("the ingredient table is well formed")))
        .collect()
}

fn ingredient(row: &HashMap<String, String>) -> Ingredient {
    let text = |column: &str| row[column].clone();
    let number = |column: &str| row[column].parse::<f64>().ok();
    let mut per_gram = Mixture::EMPTY;
    for (column, component) in COLUMNS {
        per_gram[component] = number(column).unwrap_or(0.0) / 100.0;
    }
    per_gram[Component::IntenseSweetness] = number("intense_g").unwrap_or(0.0) / 100.0;
    if let Some(grams_per_l) = number("tint_g_per_l") {
        let seen: Rgb = row["tint"].parse().expect("a tint is #rrggbb");
        // Absorbance per cm at that strength; times ml for each gram.
        let bands = Absorbance::through_one_cm(seen).0.map(|a| a * 1000.0 / grams_per_l);
        if row["anthocyanin"] == "1" {
            per_gram[Component::Anthocyanin] = bands[1];
        } else {
            per_gram[Component::AbsorbRed] = bands[0];
            per_gram[Component::AbsorbGreen] = bands[1];
            per_gram[Component::AbsorbBlue] = bands[2];
        }
    }
    let form = match row["form"].as_str() {
        "liquid" => Form::Liquid,
        "crystals" => Form::Crystals,
        "ice" => Form::Ice,
        _ => Form::Pieces,
    };
    let liquid = form == Form::Liquid;
    let kind = kind(&row["kind"]);
    let flavour = Flavour::of(&row["id"], kind);
    flavour.book(&mut per_gram, form == Form::Pieces);
    Ingredient {
        id: text("id"),
        name: text("name"),
        aliases: row["aliases"].split(", ").filter(|a| !a.is_empty()).map(Into::into).collect(),
        kind,
        form,
        extraction: Extraction::of(kind),
        hold: Hold::of(kind, per_gram[Component::Water] < 0.2),
        flavour,
        per_gram,
        measures: Measures {
            density: if liquid {
                number("density")
            } else {
                number("g_per_cup").map(|grams| grams / crate::quantity::US_CUP_ML)
            },
            tablespoon: number("g_per_tbsp").filter(|_| !liquid),
            teaspoon: number("g_per_tsp").filter(|_| !liquid),
        },
        evidence: if row["quality"] == "C" { Evidence::Estimate } else { Evidence::Table },
        sources: split_sources(&row["source"]),
        notes: text("notes"),
    }
}

fn kind(word: &str) -> Kind {
    let word = serde::de::value::StrDeserializer::<serde::de::value::Error>::new(word);
    Kind::deserialize(word).expect("the table knows only these kinds")
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
