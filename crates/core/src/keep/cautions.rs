use serde::Serialize;

use crate::chemistry::Component;
use crate::cupboard::{Care, Cupboard, Ingredient, Kind, VesselKind};
use crate::drink::{Action, Dressing, Drink, Preparation};
use crate::trace::Trace;

/// Something to be careful about at a step. No legal or medical advice.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Caution {
    /// What sort of thing it is.
    pub kind: CautionKind,
    /// A sentence or two, with the reason.
    pub message: String,
    /// Whether a child should leave this step to an adult.
    pub adult: bool,
}

/// What sort of thing to be careful about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum CautionKind {
    Burns,
    Steam,
    Blades,
    Washing,
    FoodGrade,
    EssentialOil,
    Unpasteurised,
    Honey,
    Allergens,
    Herbs,
    Alcohol,
    SealedGas,
    Mould,
    ColdKeeping,
}

use CautionKind as C;

/// What to be careful about, for each step; each sort of thing once, where it first comes up.
#[must_use]
pub fn cautions(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Vec<Vec<Caution>> {
    let mut seen: Vec<(CautionKind, String)> = Vec::new();
    let percent = trace.outcome().map_or(0.0, |o| o.contents.liquid.alcohol_percent());
    let mut all = Vec::with_capacity(drink.steps.len());
    for (i, step) in drink.steps.iter().enumerate() {
        let mut here = Vec::new();
        if let Some(it) = step.action.ingredient().and_then(|id| cupboard.ingredient(id)) {
            of_ingredient(it, &step.action, percent, &mut here);
        }
        of_handling(drink, trace, i, &mut here);
        here.retain(|caution: &Caution| {
            let key = (caution.kind, caution.message.clone());
            // Washing is said once for all fruit, and allergens for each.
            let known = seen.iter().any(|(kind, message)| {
                *kind == key.0 && (!matches!(kind, C::Allergens | C::Herbs) || *message == key.1)
            });
            if !known {
                seen.push(key);
            }
            !known
        });
        all.push(here);
    }
    all
}

fn say(here: &mut Vec<Caution>, kind: CautionKind, adult: bool, message: impl Into<String>) {
    here.push(Caution { kind, message: message.into(), adult });
}

/// What to mind with an ingredient; the drink ends at so many % vol.
fn of_ingredient(it: &Ingredient, action: &Action, percent: f64, here: &mut Vec<Caution>) {
    let name = it.name.to_lowercase();
    let washed = matches!(action, Action::Prepare { how: Preparation::Wash, .. });
    let fresh = matches!(
        it.kind,
        Kind::Fruit
            | Kind::Vegetable
            | Kind::Root
            | Kind::Stem
            | Kind::Herb
            | Kind::Zest
            | Kind::Peel
    ) || matches!(action, Action::Squeeze { .. });
    if fresh && !washed {
        say(
            here,
            C::Washing,
            false,
            "Wash fruit and leaves under running water before they are cut: the knife carries what is on the skin inside.",
        );
    }
    if matches!(it.kind, Kind::Zest)
        || matches!(action, Action::Prepare { how: Preparation::Peel | Preparation::Chop, .. })
    {
        say(
            here,
            C::Blades,
            true,
            "Knives and graters cut: keep your fingers behind the blade, and stop before the last bit.",
        );
    }
    if it.kind == Kind::Flower
        || (it.kind == Kind::Herb && matches!(action, Action::Dress { how: Dressing::Garnish, .. }))
    {
        say(
            here,
            C::FoodGrade,
            false,
            format!(
                "Use {name} only if you know the plant, and it is sold for food or was never sprayed."
            ),
        );
    }
    match it.care {
        Some(Care::Honey) => say(
            here,
            C::Honey,
            false,
            "Not for children under one year: honey can carry spores that they can't yet deal with.",
        ),
        Some(Care::EssentialOil) => say(
            here,
            C::EssentialOil,
            false,
            "Food-grade only, and by the drop: essential oils are strong enough to hurt undiluted.",
        ),
        Some(Care::Hibiscus) => say(
            here,
            C::Herbs,
            false,
            "Large amounts of hibiscus can act on blood pressure and on medicines. In pregnancy, or with medicines, ask a professional.",
        ),
        Some(Care::Medicines) => say(
            here,
            C::Herbs,
            false,
            format!(
                "Large amounts of {name} don't go with every medicine, nor with pregnancy: ask a professional."
            ),
        ),
        None => {}
    }
    for allergen in &it.allergens {
        say(here, C::Allergens, false, format!("Has {} in it.", allergen.name()));
    }
    if it.per_gram[Component::Ethanol] > 0.05 {
        let (adult, message) = if percent >= 0.5 {
            (
                true,
                "Has alcohol in it. Mark it, and keep it apart from the children's jug.".to_owned(),
            )
        } else {
            (
                false,
                format!("With a trace of alcohol, from {name}: {percent:.1} % vol in the drink."),
            )
        };
        say(here, C::Alcohol, adult, message);
    }
}

fn of_handling(drink: &Drink, trace: &Trace, step: usize, here: &mut Vec<Caution>) {
    let frame = &trace.frames[step];
    let hottest = frame.touched.iter().map(|t| t.contents.temperature.0).fold(0.0, f64::max);
    match &drink.steps[step].action {
        Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. } if hottest > 55.0 => {
            let syrupy = frame.touched.iter().any(|t| t.contents.liquid.soluble_solids() > 30.0);
            let worse = if syrupy { "Hot syrup sticks and burns worse than water. " } else { "" };
            let message =
                format!("{worse}Turn the handle inwards, and keep children away from the ring.");
            say(here, C::Burns, true, message);
        }
        Action::Strain { .. } | Action::Pour { .. } | Action::Bottle { .. } if hottest > 60.0 => {
            say(
                here,
                C::Steam,
                true,
                "Pour hot liquid away from you, over the sink, and mind the steam.",
            );
        }
        Action::Dissolve { how: crate::drink::Dissolving::Microwave, .. } => {
            say(
                here,
                C::Steam,
                true,
                "Liquid from a microwave can boil up all at once: stir before you move it.",
            );
        }
        Action::Bottle { bottle, .. } => {
            let fizzy =
                frame.touched.iter().any(|t| t.contents.liquid[Component::CarbonDioxide] > 0.5);
            if fizzy {
                say(
                    here,
                    C::SealedGas,
                    true,
                    "Never seal fizz, or anything that might ferment, in glass that isn't made for pressure.",
                );
            }
            let _ = bottle;
        }
        Action::Serve { from, .. } => {
            let raw =
                drink.vessel(from).and_then(|v| trace.after(step, v)).is_some_and(|c| c.past.raw);
            let glass = frame.touched.last().is_some_and(|t| t.contents.past.raw);
            if raw || glass {
                say(
                    here,
                    C::Unpasteurised,
                    false,
                    "Fresh juice isn't pasteurised. For small children, the old, the pregnant and the ill, heat it to 72 °C first.",
                );
            }
        }
        _ => {}
    }
    let keeps = matches!(&drink.steps[step].action, Action::Bottle { .. })
        || matches!(&drink.steps[step].action, Action::Pour { into, .. }
            if drink.vessel(into).is_some_and(|v| drink.vessels[v].kind == VesselKind::Bottle));
    if keeps {
        say(
            here,
            C::ColdKeeping,
            false,
            "For the refrigerator. Keeping it on a shelf needs a tested procedure from your food-safety authority.",
        );
        say(here, C::Mould, false, "Mould, gas or a film: throw all of it away.");
    }
}
