//! As little sugar as it takes: how far a drink moves from what is liked as its sugar goes down.
//!
//! Each point of the curve is a drink that was solved: a noticeable step less sweet than the last, in one of the ways
//! that a cook has. Either the acid stays, and it gets tarter; or the acid goes down with the sugar, and it gets
//! thinner in the same balance; or a sweetener without sugar takes the sugar's place, and it tastes the same by its
//! figures. How far each is from what is liked is counted as everywhere, in just-noticeable differences.

use serde::{Deserialize, Serialize};

use super::solve::{Aim, Bound, Target, solve};
use super::{BalanceMap, Palate, Profile, Spot, differences};
use crate::cupboard::{Cupboard, Ingredient, Kind};
use crate::drink::{Action, Drink, Family, Step};
use crate::fault::FieldError;
use crate::quantity::Amount;
use crate::work::Worktop;

/// The request.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct LeanAsked {
    /// The balance that is liked, if known; otherwise that of the drink.
    pub liked: Option<Spot>,
    /// Ids of steps whose amounts stay as they are.
    pub hold: Vec<String>,
    /// A sweetener that may take the place of sugar, by its ingredient's id.
    pub sweetener: Option<String>,
}

/// The curve.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Lean {
    /// Sugar in a glass now, g; in 100 ml where it isn't poured into glasses.
    pub now_g: f64,
    /// The distance of the present drink from the balance that is liked, in noticeable steps.
    pub now_steps: f64,
    /// The drink with less and less sugar.
    pub points: Vec<LeanPoint>,
    /// The sugar in a glass at which no difference is noticed yet, g.
    pub unnoticed_g: Option<f64>,
    /// The sugar in a glass that is two noticeable steps tarter, g.
    pub tarter_g: Option<f64>,
    /// The daily limits that health authorities recommend, the stricter last.
    pub a_day: Vec<ADay>,
}

/// The way that sugar is reduced.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum LeanWay {
    /// The acid stays: tarter.
    Tarter,
    /// The acid goes down with it: thinner, in the same balance.
    Thinner,
    /// A sweetener takes its place.
    Sweetener,
}

/// A drink with less sugar.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LeanPoint {
    /// The way its sugar is reduced.
    pub way: LeanWay,
    /// Sugar in a glass, g.
    pub sugar_g: f64,
    /// The distance from the balance that is liked, in noticeable steps.
    pub steps: f64,
    /// The place on the map.
    pub spot: Spot,
    /// The drink, with amounts that kitchen tools can measure.
    pub drink: Drink,
    /// The differences, amount by amount.
    pub changes: Vec<LeanChange>,
}

/// An amount that differs.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LeanChange {
    /// The ingredient's name.
    pub name: String,
    /// The earlier figure; missing for a new ingredient.
    pub from: Option<String>,
    /// The new figure.
    pub to: String,
}

/// A daily limit.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ADay {
    /// Sugar, g.
    pub grams: f64,
    /// The authority, and the people that the figure is for.
    pub says: &'static str,
}

/// The points of the curve, in noticeable steps less sweet. The second is just short of one: nobody notices it.
const STEPS: [f64; 8] = [0.5, 0.97, 1.5, 1.97, 3.0, 4.0, 5.5, 7.0];
const UNNOTICED: usize = 1;
const A_LITTLE: usize = 3;

/// WHO guideline *Sugars intake for adults and children* (2015): free sugars under a tenth of the energy, better
/// under a twentieth; of 2000 kcal that is 50 and 25 g.
const A_DAY: [(f64, &str); 2] = [
    (50.0, "WHO: an adult should have less than 50 g of free sugars a day"),
    (25.0, "WHO: less than 25 g a day is better still"),
];

/// The curve of a drink.
///
/// # Errors
/// Names the field where there is nothing to lower, or what is asked isn't there.
pub fn lean<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    asked: &LeanAsked,
) -> Result<Lean, FieldError> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    let end = end_of(drink, worktop)?.ok_or_else(|| {
        FieldError::new("drink", "There is nothing to drink yet. Add an ingredient first.")
    })?;
    if drink.family == Family::Syrup || end.thinned {
        let message = "A syrup is kept by its sugar. Use less of it in the glass instead.";
        return Err(FieldError::new("drink", message));
    }
    let sugars: Vec<usize> = (0..drink.steps.len())
        .filter(|step| {
            is_sugar(drink, *step, cupboard) && !asked.hold.contains(&drink.steps[*step].id)
        })
        .collect();
    if sugars.is_empty() {
        return Err(FieldError::new("drink", "There is no added sugar to leave out."));
    }
    let sweetener = asked.sweetener.as_deref().map(|id| {
        let it = cupboard.ingredient(id).filter(|it| is_without_sugar(it));
        it.ok_or_else(|| FieldError::new("sweetener", "Choose a sweetener without sugar."))
    });
    let sweetener = sweetener.transpose()?;
    let liked = asked.liked.unwrap_or(end.spot);
    let mut points = Vec::new();
    for steps in STEPS {
        let share = (1.0 + Palate::USUAL.sweetness).powf(-steps);
        let less = |acidity: f64| Spot { sweetness: liked.sweetness * share, acidity };
        let ways = [(LeanWay::Tarter, liked.acidity), (LeanWay::Thinner, liked.acidity * share)];
        for (way, acidity) in ways {
            points.extend(point(drink, worktop, way, less(acidity), liked, &asked.hold)?);
        }
        if let Some(it) = sweetener {
            let partly = with_sweetener(drink, &sugars, it, share, cupboard);
            let Some((partly, bounds)) = partly else { continue };
            let hold = asked.hold.iter().cloned();
            let aim = Aim { target: target(liked), hold: hold.collect(), bounds };
            points.extend(solved(&partly, worktop, LeanWay::Sweetener, liked, &aim)?);
        }
    }
    points.sort_by(|a: &LeanPoint, b| b.sugar_g.total_cmp(&a.sugar_g));
    for point in &mut points {
        point.changes = changes(drink, &point.drink, cupboard);
    }
    let tarter_at = |at: usize| {
        let mut tarter = points.iter().filter(|p| p.way == LeanWay::Tarter);
        (asked.liked.is_none()).then(|| tarter.nth(at).map(|p| p.sugar_g)).flatten()
    };
    Ok(Lean {
        now_g: end.sugar_g,
        now_steps: differences(end.spot, liked),
        unnoticed_g: tarter_at(UNNOTICED).or_else(|| within(&points, 1.0)),
        tarter_g: tarter_at(A_LITTLE).or_else(|| within(&points, 2.0)),
        points,
        a_day: A_DAY.map(|(grams, says)| ADay { grams, says }).to_vec(),
    })
}

/// The least sugar, by sugar alone, that lies within so many steps of what is liked.
fn within(points: &[LeanPoint], steps: f64) -> Option<f64> {
    let alone = points.iter().filter(|p| p.way != LeanWay::Sweetener && p.steps < steps);
    alone.map(|p| p.sugar_g).min_by(f64::total_cmp)
}

struct End {
    spot: Spot,
    sugar_g: f64,
    thinned: bool,
}

fn end_of(drink: &Drink, worktop: Worktop<'_>) -> Result<Option<End>, FieldError> {
    let trace = worktop.trace(drink)?;
    let Some(profile) = trace.outcome().and_then(Profile::of) else { return Ok(None) };
    let Some(point) = BalanceMap::of(drink.family, Some(&profile)).point else { return Ok(None) };
    let thinned = point.thinned_with.is_some_and(|parts| parts > 0.4);
    Ok(Some(End { spot: point.spot(), sugar_g: profile.glass_sugar_g, thinned }))
}

fn target(to: Spot) -> Target {
    Target { sweetness: Some(to.sweetness), acidity: Some(to.acidity), ..Target::default() }
}

fn point(
    drink: &Drink,
    worktop: Worktop<'_>,
    way: LeanWay,
    to: Spot,
    liked: Spot,
    hold: &[String],
) -> Result<Option<LeanPoint>, FieldError> {
    let aim = Aim { target: target(to), hold: hold.to_vec(), bounds: Vec::new() };
    solved(drink, worktop, way, liked, &aim)
}

/// The drink solved to an aim; none where that can't be reached.
fn solved(
    drink: &Drink,
    worktop: Worktop<'_>,
    way: LeanWay,
    liked: Spot,
    aim: &Aim,
) -> Result<Option<LeanPoint>, FieldError> {
    let solution = solve(drink, worktop, aim)?;
    let Some(end) = end_of(&solution.rounded, worktop)?.filter(|_| solution.reached) else {
        return Ok(None);
    };
    Ok(Some(LeanPoint {
        way,
        sugar_g: end.sugar_g,
        steps: differences(end.spot, liked),
        spot: end.spot,
        changes: Vec::new(),
        drink: solution.rounded,
    }))
}

/// What differs between the drink and one with less sugar.
fn changes(before: &Drink, after: &Drink, cupboard: &Cupboard) -> Vec<LeanChange> {
    let said = |drink: &Drink, id: &str| {
        let step = drink.steps.iter().find(|step| step.id == id)?;
        Some(step.action.brings()?.amount?.to_string())
    };
    let change = |step: &Step| {
        let to = said(after, &step.id)?;
        let from = said(before, &step.id);
        let it = cupboard.ingredient(step.action.brings()?.ingredient)?;
        let same = from.as_ref() == Some(&to);
        (!same).then(|| LeanChange { name: it.name.clone(), from, to })
    };
    after.steps.iter().filter_map(change).collect()
}

/// Whether a step brings sugar for its sweetness.
fn is_sugar(drink: &Drink, step: usize, cupboard: &Cupboard) -> bool {
    let brings = drink.steps[step].action.brings();
    let it = brings.and_then(|brought| cupboard.ingredient(brought.ingredient));
    it.is_some_and(|it| {
        matches!(it.kind, Kind::Sweetener | Kind::Syrup) && it.per_gram.sugars().0 > 0.2
    })
}

/// Whether it sweetens and has no sugar.
fn is_without_sugar(it: &Ingredient) -> bool {
    it.kind == Kind::Sweetener
        && it.per_gram.sugars().0 < 0.05
        && it.per_gram.sucrose_equivalent().0 > 0.1
}

/// The drink with a part of its sugar left out and as much of a sweetener for it, and that sugar kept at that.
fn with_sweetener(
    drink: &Drink,
    sugars: &[usize],
    it: &Ingredient,
    share: f64,
    cupboard: &Cupboard,
) -> Option<(Drink, Vec<Bound>)> {
    let mut drink = drink.clone();
    let (mut bounds, mut out) = (Vec::new(), 0.0);
    for step in sugars {
        let step = &mut drink.steps[*step];
        let sugar = cupboard.ingredient(step.action.brings()?.ingredient)?;
        let (Action::Add { amount, .. } | Action::Squeeze { amount, .. }) = &mut step.action else {
            continue;
        };
        let grams = cupboard.weigh(sugar, amount).ok()?.grams.0;
        out += grams * (1.0 - share) * sugar.per_gram.sucrose_equivalent().0;
        *amount = amount.scaled(share).rounded();
        bounds.push(Bound { step: step.id.clone(), least: None, most: Some(amount.clone()) });
    }
    let Action::Add { into, .. } = &drink.steps[*sugars.first()?].action else { return None };
    let grams = out / it.per_gram.sucrose_equivalent().0;
    let amount = Amount::grams((grams * 10.0).round().max(1.0) / 10.0);
    let add = Action::add(into.clone(), it.id.clone(), amount);
    let id =
        (0..).map(|n| format!("lean{n}")).find(|id| drink.steps.iter().all(|s| s.id != *id))?;
    drink.steps.insert(sugars.first()? + 1, Step::new(id, add));
    Some((drink, bounds))
}
