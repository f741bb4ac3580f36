//! A mixture that was made here and is kept: an ingredient whose composition is known from its trace.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use crate::chemistry::{Component, Mixture};
use crate::cupboard::{
    Allergen, Cupboard, Evidence, FigureSource, Form, Ingredient, Kind, Measures, Part,
};
use crate::drink::Drink;
use crate::trace::Contents;

/// From so many % of soluble solids on something sweetens a drink as a syrup does.
const SYRUP: f64 = 30.0;
/// From so many % vol on it is a spirit.
const SPIRIT: f64 = 15.0;

/// What one gram of something kept is made of.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KeptMixture {
    /// Names it in drinks: `kept_` and small letters, digits or `_`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// What is in a gram of it.
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, f64>))]
    pub per_gram: BTreeMap<Component, f64>,
    /// Whether something raw is in it.
    #[serde(default)]
    pub raw: bool,
    /// What not everybody may have.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub allergens: Vec<Allergen>,
    /// Nothing is left of it; it stays as long as a drink needs it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub gone: bool,
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
        let mut allergens: Vec<Allergen> = contents
            .origins
            .iter()
            .filter_map(|o| drink.steps.get(o.line)?.action.brings())
            .filter_map(|b| cupboard.ingredient(b.ingredient))
            .flat_map(|it| it.allergens.iter().copied())
            .collect();
        allergens.sort_unstable();
        allergens.dedup();
        Some(Self {
            id: id.to_owned(),
            name: name.to_owned(),
            per_gram: Component::ALL
                .into_iter()
                .filter(|c| *c != Component::CarbonDioxide && held(*c).abs() > 1e-9)
                .map(|c| (c, held(c)))
                .collect(),
            raw: contents.past.raw,
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
            care: None,
            allergens: self.allergens.clone(),
            usual_pieces: None,
            halves: None,
            pack: None,
            texture: Cupboard::builtin().alike(kind, false).1,
            flavour,
            evidence: Evidence::Table,
            sources: vec![FigureSource {
                of: "all figures".into(),
                source: "From its making here, step by step.".into(),
                evidence: Evidence::Table,
            }],
            notes: String::new(),
        }
    }
}
