use serde::Serialize;

use crate::balance::Profile;
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Kind, Staple};
use crate::drink::Drink;
use crate::trace::Trace;

/// The figures on a label: for a glass, or for 100 ml if it isn't served.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Facts {
    /// Whether the figures are for a glass; otherwise for 100 ml.
    pub for_glass: bool,
    /// Volume, ml.
    pub volume_ml: f64,
    /// Energy, kcal.
    pub energy_kcal: f64,
    /// The same, kJ.
    pub energy_kj: f64,
    /// Sugars, g.
    pub sugars_g: f64,
    /// Fat, g.
    pub fat_g: f64,
    /// Protein, g.
    pub protein_g: f64,
    /// Salt, g: 2.5 times the sodium.
    pub salt_g: f64,
    /// Alcohol, g.
    pub alcohol_g: f64,
    /// Alcohol, % vol.
    pub alcohol_percent: f64,
    /// Allergens and other contents that some people must avoid, in words.
    pub allergens: Vec<String>,
    /// Its ingredients by weight, the most first, as on a label.
    pub ingredients: Vec<String>,
}

/// A kJ for each kcal.
const KJ_PER_KCAL: f64 = 4.184;

/// Reads the facts off a drink; `None` if there is nothing to drink. What was strained off counts with
/// what it gave, as labels list what went in.
#[must_use]
pub fn facts(drink: &Drink, cupboard: &Cupboard) -> Option<Facts> {
    let trace = Trace::run(drink, cupboard);
    let outcome = trace.outcome()?;
    let profile = Profile::of(outcome)?;
    let liquid = &outcome.contents.as_drunk();
    let whole = liquid.volume(crate::trace::MEASURED_AT).0;
    let portion = profile.glass_ml / whole.max(1e-9);
    let mut by_weight: Vec<(String, f64)> = Vec::new();
    let mut allergens: Vec<String> = Vec::new();
    for line in trace.lines.iter().filter(|l| !l.left_over && l.grams.0 > 0.0) {
        let it = &cupboard.ingredients()[line.ingredient];
        let name = match it.kind {
            Kind::Ice => cupboard.staple(Staple::Water).name.to_lowercase(),
            _ => it.name.to_lowercase(),
        };
        match by_weight.iter_mut().find(|(known, _)| *known == name) {
            Some((_, grams)) => *grams += line.grams.0,
            None => by_weight.push((name, line.grams.0)),
        }
        allergens.extend(it.allergens.iter().map(|a| a.name().to_owned()));
    }
    allergens.sort();
    allergens.dedup();
    by_weight.sort_by(|a, b| b.1.total_cmp(&a.1));
    let grams = |c: Component| liquid[c] * portion;
    Some(Facts {
        for_glass: profile.served,
        volume_ml: profile.glass_ml,
        energy_kcal: profile.glass_energy_kcal,
        energy_kj: profile.glass_energy_kcal * KJ_PER_KCAL,
        sugars_g: profile.glass_sugar_g,
        fat_g: grams(Component::Fat),
        protein_g: grams(Component::Protein),
        salt_g: grams(Component::Sodium) / 1000.0 * 2.5,
        alcohol_g: profile.glass_alcohol_g,
        alcohol_percent: profile.alcohol_percent,
        allergens,
        ingredients: by_weight.into_iter().map(|(name, _)| name).collect(),
    })
}
