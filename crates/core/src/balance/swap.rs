use serde::Serialize;

use super::{Aim, Profile, Solution, Target, solve};
use crate::cupboard::{Cupboard, Form, Ingredient, Kind};
use crate::drink::{Action, Drink, FieldError};
use crate::keep::Keeping;
use crate::quantity::Amount;
use crate::work::Worktop;

/// A drink with one ingredient replaced by another.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Swapped {
    /// The amounts, worked out.
    pub solution: Solution,
    /// Side effects, in words.
    pub changes: Vec<String>,
    /// The figures before the change.
    pub before: Profile,
    /// The figures after the change, with amounts that kitchen tools can measure.
    pub after: Profile,
}

/// Puts another ingredient in the place of one, at equal sweetness, acidity and volume as far as that
/// goes: what is swapped in moves, and water; nothing else.
///
/// # Errors
/// Names the field where a step brings nothing, or there is no such ingredient.
pub fn swap<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    step: &str,
    ingredient: &str,
) -> Result<Swapped, FieldError> {
    let fault = |field: &str, message: String| FieldError { field: field.into(), message };
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    let index = drink
        .steps
        .iter()
        .position(|s| s.id == step)
        .ok_or_else(|| fault("step", format!("There is no step “{step}” in this drink.")))?;
    let new = cupboard.ingredient(ingredient).ok_or_else(|| {
        fault("ingredient", format!("There is no ingredient “{ingredient}” in the cupboard."))
    })?;
    let trace = worktop.trace(drink)?;
    let before = trace
        .outcome()
        .and_then(Profile::of)
        .ok_or_else(|| fault("drink", "There is nothing to drink yet.".into()))?;
    let line = trace
        .lines
        .iter()
        .find(|l| l.step == index && !l.left_over)
        .ok_or_else(|| fault("step", "This step adds no ingredient to replace.".into()))?;
    let old = &cupboard.ingredients()[line.ingredient];
    // What goes into each of several glasses or bottles is written for one.
    let each = line.grams.0 / trace.many_of(drink, drink.steps[index].action.path()[0]);
    let mut swapped = drink.clone();
    put_in_place(&mut swapped.steps[index].action, cupboard, old, new, each).ok_or_else(|| {
        fault("step", "You can only replace ingredients that are added or squeezed.".into())
    })?;

    let hold = swapped
        .steps
        .iter()
        .filter(|s| {
            let it = s.action.ingredient().and_then(|id| cupboard.ingredient(id));
            s.id != step && it.is_none_or(|it| it.kind != Kind::Water)
        })
        .map(|s| s.id.clone())
        .collect();
    let target = Target {
        sweetness: (old.per_gram.sucrose_equivalent().0 > 0.02).then_some(before.sweetness_percent),
        acidity: (old.per_gram.titratable_acid() > 0.002).then_some(before.acidity_percent),
        volume_ml: trace.outcome().map(|o| o.ready.0),
        ..Target::default()
    };
    let bounds = Vec::new();
    let solution = solve(&swapped, worktop, &Aim { target, hold, bounds })?;
    let run = worktop.trace(&solution.rounded)?;
    let after = run
        .outcome()
        .and_then(Profile::of)
        .ok_or_else(|| fault("drink", "Nothing would be left to drink.".into()))?;
    let kept = Keeping::of(drink, cupboard, &trace);
    let keeps = Keeping::of(&solution.rounded, cupboard, &run);
    let changes = changes(old, new, &before, &after, kept, keeps);
    Ok(Swapped { solution, changes, before, after })
}

/// Changes the ingredient of an action, with an amount that brings as much of what the old one was for.
fn put_in_place(
    action: &mut Action,
    cupboard: &Cupboard,
    old: &Ingredient,
    new: &Ingredient,
    grams: f64,
) -> Option<()> {
    let into = match action {
        Action::Add { into, .. } | Action::Squeeze { into, .. } => into.clone(),
        Action::TopUp { ingredient, .. } => {
            *ingredient = new.id.clone();
            return Some(());
        }
        _ => return None,
    };
    let (sweet, sour) = (
        |it: &Ingredient| it.per_gram.sucrose_equivalent().0,
        |it: &Ingredient| it.per_gram.titratable_acid(),
    );
    let rate = if sour(old) > 0.3 * sweet(old) && sour(new) > 0.002 {
        sour(old) / sour(new)
    } else if sweet(old) > 0.01 && sweet(new) > 0.01 {
        sweet(old) / sweet(new)
    } else {
        1.0
    };
    let wanted = grams * rate.clamp(1e-3, 1e3);
    let amount = match new.form {
        Form::Liquid => {
            Amount::millilitres(new.fills(crate::quantity::Grams(wanted)).map_or(wanted, |ml| ml.0))
        }
        _ => Amount::grams(wanted),
    };
    *action = if matches!(action, Action::Squeeze { .. }) && cupboard.can_be_squeezed(new) {
        Action::Squeeze { into, ingredient: new.id.clone(), amount, halves_into: None }
    } else {
        Action::add(into, new.id.clone(), amount)
    };
    Some(())
}

fn changes(
    old: &Ingredient,
    new: &Ingredient,
    before: &Profile,
    after: &Profile,
    kept: Option<Keeping>,
    keeps: Option<Keeping>,
) -> Vec<String> {
    let mut said = Vec::new();
    let mut tell = |name: &str, unit: &str, places: usize, from: f64, to: f64, least: f64| {
        if (to - from).abs() > least {
            let way = if to > from { "more" } else { "less" };
            said.push(format!("{:.places$} {unit} {way} {name}.", (to - from).abs()));
        }
    };
    tell("sweetness in 100 g", "g", 1, before.sweetness_percent, after.sweetness_percent, 0.15);
    tell("acid in 100 g", "g", 2, before.acidity_percent, after.acidity_percent, 0.015);
    tell("sugar in a glass", "g", 0, before.glass_sugar_g, after.glass_sugar_g, 1.0);
    tell("energy in a glass", "kcal", 0, before.glass_energy_kcal, after.glass_energy_kcal, 4.0);
    tell("alcohol", "% vol", 1, before.alcohol_percent, after.alcohol_percent, 0.1);
    tell("fizz", "volumes", 1, before.fizz_volumes, after.fizz_volumes, 0.15);
    if before.colour != after.colour {
        said.push("The colour changes.".into());
    }
    if let (Some(was), Some(is)) = (kept, keeps)
        && was.days != is.days
    {
        said.push(format!("It {} (before: {}).", is.words, was.words));
    }
    let body = |it: &Ingredient| it.per_gram.soluble_solids_mass().0;
    if old.kind == Kind::Sweetener && new.kind == Kind::Sweetener && body(new) > 0.0 {
        let strength = new.per_gram.sucrose_equivalent().0;
        if strength > 10.0 {
            said.push(format!("{} adds no body: the drink will taste thinner.", new.name));
        }
    }
    if !new.notes.is_empty() && new.notes.len() < 120 && new.kind == Kind::Sweetener {
        said.push(format!("{}.", new.notes.trim_end_matches('.')));
    }
    said
}
