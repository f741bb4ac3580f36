//! A mixture that was made here and is kept: an ingredient whose composition is known from its trace.

use std::collections::{BTreeMap, BTreeSet};

use serde::{Deserialize, Serialize};

use crate::chemistry::{Component, Mixture};
use crate::cupboard::{
    Allergen, Care, Cupboard, Evidence, FigureSource, Form, Ingredient, Kind, Measures, Part,
};
use crate::drink::Drink;
use crate::quantity::{Grams, Minutes};
use crate::trace::{Contents, Past};

/// From so many % of soluble solids on something sweetens a drink as a syrup does.
const SYRUP: f64 = 30.0;
/// From so many % vol on it is a spirit.
const SPIRIT: f64 = 15.0;

/// The composition of one gram of a kept mixture.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct KeptMixture {
    /// Its id in drinks: `kept_` and small letters, digits or `_`.
    pub id: String,
    /// Its name.
    pub name: String,
    /// The composition of one gram.
    #[schema(value_type = BTreeMap<String, f64>)]
    pub per_gram: BTreeMap<Component, f64>,
    /// The history of its making.
    #[serde(default)]
    pub past: KeptPast,
    /// Allergens and other contents that some people avoid.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub allergens: Vec<Allergen>,
    /// An empty bottle, saved as long as a drink needs it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub gone: bool,
}

/// The history of a kept mixture; shares are for each gram.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields, default)]
#[derive(utoipa::ToSchema)]
pub struct KeptPast {
    /// The share that was added raw and never heated enough.
    pub raw: f64,
    /// The share of juice and fresh fruit.
    pub juice: f64,
    /// The share that was added raw and heated enough.
    pub treated: f64,
    /// How long the raw part has been hot, as minutes at 70 °C.
    pub lethality: f64,
    /// Whether it contains a plant milk: of grains, nuts or coconut.
    pub plant_milk: bool,
    /// Days left at 4 °C; no limit if missing.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub left: Option<f64>,
    /// Whether its acid is from tables or was measured.
    pub acid_known: bool,
    /// The ids of the ingredients that it was made of.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub made_of: Vec<String>,
    /// The cautions for its ingredients.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub care: Vec<Care>,
}

impl Default for KeptPast {
    fn default() -> Self {
        Self {
            raw: 0.0,
            juice: 0.0,
            treated: 0.0,
            lethality: 0.0,
            plant_milk: false,
            left: None,
            acid_known: true,
            made_of: Vec::new(),
            care: Vec::new(),
        }
    }
}

impl KeptPast {
    /// What comes in with so many grams of it.
    pub(crate) fn past(&self, grams: f64) -> Past {
        Past {
            raw: Grams(self.raw * grams),
            juice: Grams(self.juice * grams),
            treated: Grams(self.treated * grams),
            lethality: Minutes(self.lethality),
            plant_milk: self.plant_milk,
            left: self.left.unwrap_or(f64::INFINITY),
            ..Past::default()
        }
    }

    fn is_sound(&self) -> bool {
        let share = |x: f64| (0.0..=1000.0).contains(&x);
        [self.raw, self.juice, self.treated, self.lethality].into_iter().all(share)
            && self.left.is_none_or(f64::is_finite)
            && self.made_of.len() <= 1000
    }
}

impl KeptMixture {
    /// What stands in a vessel at the end of a drink, as an ingredient. `None` if there is no liquid.
    #[must_use]
    pub fn of(
        id: &str,
        name: &str,
        contents: &Contents,
        drink: &Drink,
        cupboard: &Cupboard,
    ) -> Option<Self> {
        let mass = contents.liquid.mass().0;
        if mass < 1.0 || !contents.liquid.is_sound() {
            return None;
        }
        // Fizz is gone by the time that it is poured into something else.
        let held = |c: Component| contents.liquid[c] / mass;
        let brought_by = |line: usize| {
            let brings = drink.steps.get(line)?.action.brings()?;
            cupboard.ingredient(brings.ingredient)
        };
        let of: Vec<&Ingredient> =
            contents.origins.iter().filter_map(|o| brought_by(o.line)).collect();
        let mut allergens: Vec<Allergen> =
            of.iter().flat_map(|it| it.allergens.iter().copied()).collect();
        allergens.sort_unstable();
        allergens.dedup();
        let made_of: BTreeSet<String> = of
            .iter()
            .flat_map(|it| it.made_of.iter().cloned().chain(std::iter::once(it.id.clone())))
            .collect();
        let mut care: Vec<Care> = Vec::new();
        for one in of.iter().flat_map(|it| it.care.iter()) {
            if !care.contains(one) {
                care.push(*one);
            }
        }
        let acid_known = contents.acid_is_known(drink, cupboard);
        let left = contents.judged(acid_known).left();
        let past = &contents.past;
        Some(Self {
            id: id.to_owned(),
            name: name.to_owned(),
            per_gram: Component::ALL
                .into_iter()
                .filter(|c| *c != Component::CarbonDioxide && held(*c).abs() > 1e-9)
                .map(|c| (c, held(c)))
                .collect(),
            past: KeptPast {
                raw: past.raw.0 / mass,
                juice: past.juice.0 / mass,
                treated: past.treated.0 / mass,
                lethality: past.lethality.0,
                plant_milk: past.plant_milk,
                left: left.is_finite().then_some(left),
                acid_known,
                made_of: made_of.into_iter().collect(),
                care,
            },
            allergens,
            gone: false,
        })
    }

    /// A gram of it.
    #[must_use]
    pub fn mixture(&self) -> Mixture {
        let parts: Vec<(Component, f64)> = self.per_gram.iter().map(|(c, v)| (*c, *v)).collect();
        Mixture::of(&parts)
    }

    /// Grams in a millilitre.
    #[must_use]
    pub fn density(&self) -> f64 {
        self.mixture().density_at_20()
    }

    /// Whether it can be: an id of its own, and about a gram in a gram.
    pub(super) fn is_sound(&self) -> bool {
        let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '_';
        let mass = self.mixture().mass().0;
        self.id.starts_with("kept_")
            && self.id.len() <= 60
            && self.id.chars().all(plain)
            && self.per_gram.values().all(|v| v.is_finite() && v.abs() < 1e5)
            && self.per_gram.iter().all(|(c, v)| !c.is_mass() || *v >= 0.0)
            && (0.9..=1.1).contains(&mass)
            && self.mixture().is_sound()
            && self.past.is_sound()
    }

    /// As an ingredient of the cupboard.
    pub(super) fn ingredient(&self) -> Ingredient {
        let per_gram = self.mixture();
        // What is booked in the composition is not booked again.
        let kind = if per_gram.alcohol_percent() >= SPIRIT {
            Kind::Spirit
        } else if per_gram.soluble_solids() >= SYRUP {
            Kind::Syrup
        } else {
            Kind::Juice
        };
        let flavour = crate::cupboard::Flavour {
            aroma: per_gram[Component::Aroma],
            bitterness: per_gram[Component::Bitterness],
            bitter_minutes: 1.0,
            pungency: per_gram[Component::Pungency],
        };
        Ingredient {
            id: self.id.clone(),
            name: self.name.clone(),
            aliases: Vec::new(),
            kind,
            form: Form::Liquid,
            measures: Measures {
                density: Some(per_gram.density_at_20()),
                tablespoon: None,
                teaspoon: None,
            },
            per_gram,
            ph: None,
            infusion_ph: None,
            part: Part::default(),
            traits: Vec::new(),
            staples: Vec::new(),
            care: self.past.care.clone(),
            made_of: self.past.made_of.clone(),
            kept: Some(self.past.clone()),
            allergens: self.allergens.clone(),
            usual_pieces: None,
            halves: None,
            pack: None,
            texture: Cupboard::builtin().alike(kind, false).1,
            flavour,
            evidence: if self.past.acid_known { Evidence::Table } else { Evidence::Estimate },
            sources: vec![FigureSource {
                of: "all figures".into(),
                source: "Calculated from your own recipe.".into(),
                evidence: Evidence::Table,
            }],
            notes: String::new(),
        }
    }
}
