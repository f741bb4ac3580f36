//! What a bottle is good for: glasses of it, the sweetness of another drink, the freezer.

use serde::Serialize;

use super::{Bottle, BottleState, Place};
use crate::balance::{Profile, swap};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Form, Ingredient, Kind, Staple, VesselKind};
use crate::drink::{Action, Drink, Family, Step, Vessel, Warmth};
use crate::quantity::Amount;
use crate::trace::Trace;
use crate::work::Worktop;

/// A use for a bottle.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Use {
    /// The kind of use.
    pub kind: UseKind,
    /// In words: "9 glasses with soda water, 1 to 4 1/2".
    pub message: String,
    /// The drink that this use makes, if any.
    pub drink: Option<Drink>,
    /// The id of the drink that uses it.
    pub of: Option<String>,
    /// The volume that it takes from the bottle, ml.
    pub takes_ml: f64,
}

/// The kind of use.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum UseKind {
    /// Poured into glasses.
    Glasses,
    /// In another drink, in the place of its sugar.
    Sweetens,
    /// Put away for longer.
    Freezes,
}

/// What a glass holds here, ml.
const GLASS: f64 = 200.0;
/// A thinned syrup is meant to be as sweet as this, g in 100 g: the middle of what fizzy drinks of the kitchen are.
const THINNED_TO: f64 = 9.0;
/// So little of it is left in the bottle when it has been used up.
const LEFT: f64 = 0.98;

/// What a bottle is good for, the best first. `others` are drinks of the shelf with their ids; `cupboard` has the
/// bottle's mixture in it.
#[must_use]
pub fn use_up<'a>(
    bottle: &Bottle,
    state: &BottleState,
    others: &[(String, Drink)],
    worktop: impl Into<Worktop<'a>>,
) -> Vec<Use> {
    let worktop = worktop.into();
    if state.over || state.gone || state.ml < 10.0 {
        return Vec::new();
    }
    let mut all: Vec<Use> = glasses(bottle, state, worktop.cupboard()).into_iter().collect();
    let mut sweetens: Vec<Use> = others
        .iter()
        .filter_map(|(id, drink)| sweetened(bottle, state, id, drink, worktop))
        .collect();
    sweetens.sort_by(|a, b| b.takes_ml.total_cmp(&a.takes_ml));
    sweetens.truncate(3);
    all.extend(sweetens);
    if state.place != Place::Freezer
        && state.days_left < f64::from(bottle.keeping.frozen_days) * 0.5
        && bottle.alcohol < 15.0
    {
        all.push(Use {
            kind: UseKind::Freezes,
            message: format!("Freeze it now to keep it {} more days.", bottle.keeping.frozen_days),
            drink: None,
            of: None,
            takes_ml: 0.0,
        });
    }
    all
}

/// A glass of so many parts of soda or water to one of the bottle.
fn glass(bottle: &Bottle, with: &Ingredient, parts: f64) -> Drink {
    let of = |ingredient: &str, ml: f64| Action::Add {
        into: "glass".into(),
        ingredient: ingredient.into(),
        amount: Amount::millilitres(ml),
        warmth: Warmth::Chilled,
        cut: Default::default(),
        portions: 1,
    };
    let one = GLASS / (1.0 + parts);
    let mut drink = Drink {
        name: bottle.name.clone(),
        family: if with.per_gram[Component::CarbonDioxide] > 0.0 {
            Family::Soda
        } else {
            Family::Lemonade
        },
        note: String::new(),
        part: None,
        vessels: vec![Vessel::new("glass", VesselKind::Glass)],
        steps: vec![Step::new("s1".into(), of(&bottle.mixture.id, one))],
    };
    if parts > 0.0 {
        drink.steps.push(Step::new("s2".into(), of(&with.id, GLASS - one)));
    }
    drink
}

fn sweetness(drink: &Drink, cupboard: &Cupboard) -> Option<f64> {
    Trace::run(drink, cupboard).outcome().and_then(Profile::of).map(|p| p.sweetness_percent)
}

fn glasses(bottle: &Bottle, state: &BottleState, cupboard: &Cupboard) -> Option<Use> {
    const MOST_PARTS: f64 = 12.0;
    let milk = bottle.mixture.mixture()[Component::Lactose] > 0.001;
    let with = cupboard.staple(if milk { Staple::Water } else { Staple::Soda });
    let plain = sweetness(&glass(bottle, with, 0.0), cupboard)?;
    // As many parts as bring it to the sweetness of a glass, found by running it.
    let parts = if plain <= THINNED_TO * 1.35 {
        0.0
    } else {
        let (mut low, mut high) = (0.0, MOST_PARTS);
        for _ in 0..24 {
            let middle = (low + high) / 2.0;
            match sweetness(&glass(bottle, with, middle), cupboard) {
                Some(s) if s > THINNED_TO => low = middle,
                _ => high = middle,
            }
        }
        (low * 2.0).round() / 2.0
    };
    let each = GLASS / (1.0 + parts);
    let count = (state.ml * LEFT / each).floor();
    if count < 1.0 {
        return None;
    }
    let noun = if count > 1.0 { "glasses" } else { "glass" };
    let message = if parts > 0.0 {
        let with = if milk { "water" } else { "soda water" };
        format!(
            "{count:.0} {noun} with {with}, 1 to {}.",
            crate::quantity::format_number(parts, true)
        )
    } else {
        format!("{count:.0} {noun}, undiluted.")
    };
    Some(Use {
        kind: UseKind::Glasses,
        message,
        drink: Some(glass(bottle, with, parts)),
        of: None,
        takes_ml: count * each,
    })
}

/// A drink of the shelf with the bottle in the place of its sugar, where there is enough of it.
fn sweetened(
    bottle: &Bottle,
    state: &BottleState,
    id: &str,
    drink: &Drink,
    worktop: Worktop<'_>,
) -> Option<Use> {
    let cupboard = worktop.cupboard();
    let it = cupboard.ingredient(&bottle.mixture.id)?;
    if bottle.drink.as_deref() == Some(id) || it.kind != Kind::Syrup {
        return None;
    }
    // The sugar that is stirred in by itself, and no other: of two the larger.
    let (step, said, name) = drink
        .steps
        .iter()
        .filter_map(|step| {
            let Action::Add { ingredient, amount, .. } = &step.action else { return None };
            let it = cupboard.ingredient(ingredient)?;
            let sugar = it.kind == Kind::Sweetener
                && it.form == Form::Crystals
                && it.id != bottle.mixture.id;
            let grams = cupboard.weigh(it, amount).ok()?.grams.0;
            (sugar && grams > 10.0).then_some((step, grams, it.name.clone()))
        })
        .max_by(|a, b| a.1.total_cmp(&b.1))?;
    let swapped = swap(drink, worktop, &step.id, &bottle.mixture.id).ok()?;
    let made = swapped.solution.rounded;
    let takes = made.steps.iter().find(|s| s.id == step.id).and_then(|s| match &s.action {
        Action::Add { amount, .. } => amount.as_millilitres(),
        _ => None,
    })?;
    // All of its sweetness, and the water makes room for it.
    let kept_sweet =
        (swapped.after.sweetness_percent / swapped.before.sweetness_percent.max(1e-6) - 1.0).abs()
            < 0.08;
    if takes > state.ml * LEFT || takes < 5.0 || !kept_sweet {
        return None;
    }
    let volume = swapped.after.volume_ml;
    let size = if volume >= 1000.0 {
        format!("{:.1} l", volume / 1000.0)
    } else {
        format!("{volume:.0} ml")
    };
    Some(Use {
        kind: UseKind::Sweetens,
        message: format!(
            "{takes:.0} ml sweetens {size} of {}, replacing {said:.0} g {}.",
            drink.name,
            name.to_lowercase()
        ),
        drink: Some(made),
        of: Some(id.to_owned()),
        takes_ml: takes,
    })
}
