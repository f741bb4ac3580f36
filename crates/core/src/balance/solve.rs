use serde::{Deserialize, Serialize};

use super::least_squares::{NEAR, ROUNDS, Unknown, Wish, nearest};
use super::{BalanceMap, Profile, Spot, Taste};
use crate::cupboard::{Cupboard, Kind, MAX_LINE};
use crate::drink::{Action, Drink, FieldError, limits};
use crate::quantity::{Amount, Measure};
use crate::trace::{Nudges, Outcome, Prepared, Trace};
use crate::work::{Stopped, Worktop};

/// The target. Missing figures are free; a missing volume stays the same.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Target {
    /// Sweetness as on the map, g in 100 g, 0 to 70.
    pub sweetness: Option<f64>,
    /// Acidity as on the map, g in 100 g, 0 to 10.
    pub acidity: Option<f64>,
    /// The volume ready to serve, ml.
    pub volume_ml: Option<f64>,
    /// Soluble solids, % of the weight.
    pub brix: Option<f64>,
    /// Alcohol, % vol.
    pub alcohol: Option<f64>,
    /// CO₂ in volumes.
    pub fizz: Option<f64>,
}

/// A target, and the changes that are allowed to reach it.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Aim {
    /// The target.
    pub target: Target,
    /// Ids of steps whose amounts stay as they are.
    #[serde(default)]
    pub hold: Vec<String>,
    /// The limits of each step's ingredient.
    #[serde(default)]
    pub bounds: Vec<Bound>,
}

/// The limits of one amount, in its own or a similar measure.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Bound {
    /// The step's id.
    pub step: String,
    /// The lower limit.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub least: Option<Amount>,
    /// The most.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub most: Option<Amount>,
}

/// The result of working out amounts.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Solution {
    /// The drink with its new amounts.
    pub drink: Drink,
    /// The same, rounded to amounts that kitchen tools can measure.
    pub rounded: Drink,
    /// The changed amounts.
    pub moved: Vec<Moved>,
    /// Whether the target is met, to half a per cent.
    pub reached: bool,
    /// The obstacle, if it can't be reached.
    pub stops: Vec<String>,
    /// The result.
    pub taste: Taste,
    /// The result with rounded amounts.
    pub rounded_taste: Taste,
    /// Its place on the map with rounded amounts.
    pub rounded_point: Option<Spot>,
}

/// An amount that moved.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Moved {
    /// The step's id.
    pub step: String,
    /// The ingredient's name.
    pub name: String,
    /// The earlier amount.
    pub from: String,
    /// The new amount, in kitchen measures.
    pub to: String,
    /// The ratio.
    pub factor: f64,
}

/// Never less than this part of what is written: nothing is left out by arithmetic.
const LEAST: f64 = 0.02;
const MOST: f64 = 50.0;
/// A target met within half a per cent is met.
const MET: f64 = 5e-3;
/// A line that brings less than this of sweetness, acid and water is there for its taste.
const MATTERS: f64 = 0.03;

const READINGS: usize = 6;

fn readings(outcome: &Outcome) -> Option<[f64; READINGS]> {
    let taste = Taste::of(outcome)?;
    Some([
        taste.sweetness_percent,
        taste.acidity_percent,
        taste.ready_ml,
        taste.brix,
        taste.alcohol_percent,
        taste.fizz_volumes,
    ])
}

/// Works the amounts out that bring a drink to a target.
///
/// Unknowns are the amounts that may move, as factors of what is written, within bounds. The drink is
/// run with each nudged, the bounded least squares of the linearised trace are solved, and so on until
/// it no longer moves. Lines that bring next to nothing of sugar, acid or water stay as they are.
///
/// # Errors
/// Names the field where a bound can't be read, or a target is out of all bounds.
pub fn solve<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    aim: &Aim,
) -> Result<Solution, FieldError> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    check(aim)?;
    let prepared = Prepared::new(drink, cupboard);
    let before = worktop.run(&prepared, Nudges::default())?;
    let profile = before.outcome().and_then(Profile::of).ok_or_else(|| {
        FieldError::new("drink", "There is nothing to drink yet. Add an ingredient first.")
    })?;
    let wishes = wishes(drink, &profile, &before, &aim.target);
    let most = worktop.times(before.work) / (ROUNDS as u64 * 2);
    let steps = movable(drink, &before, aim, usize::try_from(most).unwrap_or(usize::MAX))?;
    let mut unknowns = Vec::with_capacity(steps.len());
    for step in &steps {
        unknowns.push(unknown(drink, cupboard, *step, &aim.bounds)?);
    }
    let mut all = vec![1.0; drink.steps.len()];
    let spread = |factors: &[f64], all: &mut Vec<f64>| {
        for (step, factor) in steps.iter().zip(factors) {
            all[*step] = *factor;
        }
    };
    let read = |factors: &[f64]| {
        let mut amounts = vec![1.0; drink.steps.len()];
        spread(factors, &mut amounts);
        let landing = worktop.land(&prepared, Nudges { amounts: &amounts, ..Nudges::default() })?;
        Ok(landing.outcome.as_ref().and_then(readings))
    };
    let (factors, misses) = nearest(&unknowns, &wishes, read)?
        .ok_or_else(|| FieldError::new("drink", "There is nothing to drink yet."))?;
    spread(&factors, &mut all);
    let reached = misses.iter().all(|m| m.abs() < MET.max(NEAR));
    let stops = if reached {
        Vec::new()
    } else {
        what_stops(drink, cupboard, &steps, &unknowns, &factors, &wishes, &misses)
    };
    let solution = Solution::read(drink, worktop, &all, reached, stops)?
        .ok_or_else(|| FieldError::new("drink", "Nothing would be left to drink."))?;
    // A bound may ask for more than any kitchen holds.
    match solution.rounded.check(cupboard).into_iter().next() {
        Some(first) if drink.check(cupboard).is_empty() => {
            Err(FieldError::new("aim", first.message))
        }
        _ => Ok(solution),
    }
}

fn check(aim: &Aim) -> Result<(), FieldError> {
    let target = &aim.target;
    for (name, many) in [("hold", aim.hold.len()), ("bounds", aim.bounds.len())] {
        if many > limits::STEPS {
            let message = format!("Enter up to {} steps.", limits::STEPS);
            return Err(FieldError::new(&format!("aim.{name}"), message));
        }
    }
    for (name, value, least, most, unit) in [
        ("sweetness", target.sweetness, 0.0, 70.0, "g in 100 g"),
        ("acidity", target.acidity, 0.0, 10.0, "% acid"),
        ("volume_ml", target.volume_ml, 5.0, 500_000.0, "ml"),
        ("brix", target.brix, 0.0, 80.0, "°Bx"),
        ("alcohol", target.alcohol, 0.0, 60.0, "% vol"),
        ("fizz", target.fizz, 0.0, 6.0, "volumes"),
    ] {
        if value.is_some_and(|v| !v.is_finite() || v < least || v > most) {
            return Err(FieldError::new(
                &format!("aim.target.{name}"),
                format!("Enter {least} to {most} {unit}."),
            ));
        }
    }
    Ok(())
}

/// The target as wishes for what is read off a trace.
fn wishes(drink: &Drink, profile: &Profile, before: &Trace, target: &Target) -> Vec<Wish> {
    let (mut sweetness, mut acidity) = (target.sweetness, target.acidity);
    // A syrup lies on the map as it is drunk: there only its ratio counts, and it stays as strong.
    let map = BalanceMap::of(drink.family, Some(profile));
    if map.point.is_some_and(|p| p.thinned_with.is_some())
        && let (Some(s), Some(a)) = (sweetness, acidity)
        && s > 0.0
    {
        let strength = profile.sweetness_percent;
        (sweetness, acidity) = (Some(strength), Some(strength * a / s));
    }
    let volume = target.volume_ml.or_else(|| before.outcome().map(|o| o.ready.0));
    [
        (sweetness, 0.5),
        (acidity, 0.05),
        (volume, 10.0),
        (target.brix, 0.5),
        (target.alcohol, 0.5),
        (target.fizz, 0.3),
    ]
    .into_iter()
    .enumerate()
    .filter_map(|(reading, (wanted, least))| {
        let wanted = wanted?;
        Some(Wish { reading, wanted, scale: wanted.max(least) })
    })
    .collect()
}

/// The steps whose amounts may move. Each costs a run a round, so in a drink of a great many lines only
/// those do that are bounded or bring most.
fn movable(drink: &Drink, before: &Trace, aim: &Aim, most: usize) -> Result<Vec<usize>, Stopped> {
    if most == 0 {
        return Err(Stopped::TooMuch);
    }
    let origins = before.outcome().map_or(&[][..], |o| &o.contents.origins);
    let sum = |part: fn(&crate::trace::Origin) -> f64| origins.iter().map(part).sum::<f64>();
    let (water, sweet, acid) = (sum(|o| o.water.0), sum(|o| o.sweetness.0), sum(|o| o.acid.0));
    let share = |part: f64, all: f64| if all > 1e-9 { part / all } else { 0.0 };
    let brings = |line: usize| {
        let of = origins.iter().filter(|o| o.line == line);
        of.map(|o| {
            share(o.water.0, water).max(share(o.sweetness.0, sweet)).max(share(o.acid.0, acid))
        })
        .fold(0.0, f64::max)
    };
    let mut found: Vec<(usize, f64)> = drink
        .steps
        .iter()
        .enumerate()
        .filter(|(_, step)| {
            let moves = matches!(
                step.action,
                Action::Add { .. } | Action::Squeeze { .. } | Action::TopUp { .. }
            );
            moves && !aim.hold.contains(&step.id)
        })
        .filter_map(|(i, step)| {
            let bounded = aim.bounds.iter().any(|b| b.step == step.id);
            let brings = brings(i);
            (bounded || brings > MATTERS).then_some((i, if bounded { 1.0 } else { brings }))
        })
        .collect();
    found.sort_by(|a, b| b.1.total_cmp(&a.1));
    found.truncate(most);
    let mut steps: Vec<usize> = found.into_iter().map(|(i, _)| i).collect();
    steps.sort_unstable();
    Ok(steps)
}

fn unknown(
    drink: &Drink,
    cupboard: &Cupboard,
    step: usize,
    bounds: &[Bound],
) -> Result<Unknown, FieldError> {
    let action = &drink.steps[step].action;
    let it = action.ingredient().and_then(|id| cupboard.ingredient(id));
    let cheap = it.is_some_and(|it| matches!(it.kind, Kind::Water | Kind::Soda | Kind::Ice));
    let mut unknown =
        Unknown { start: 1.0, least: LEAST, most: MOST, weight: if cheap { 0.2 } else { 1.0 } };
    // "1 to 3 tbsp" says itself how far one may go.
    if let Some((least, most)) = action.amount().and_then(Amount::spread) {
        (unknown.least, unknown.most) = (least, most);
    }
    for (i, bound) in bounds.iter().enumerate().filter(|(_, b)| b.step == drink.steps[step].id) {
        let factor = |name: &str, said: &Amount| {
            times(cupboard, action, said).ok_or_else(|| {
                FieldError::new(
                    &format!("aim.bounds[{i}].{name}"),
                    format!("We can't compare “{said}” with the amount in the drink. Use the same kind of unit."),
                )
            })
        };
        if let Some(least) = &bound.least {
            unknown.least = factor("least", least)?.max(LEAST);
        }
        if let Some(most) = &bound.most {
            unknown.most = factor("most", most)?.max(unknown.least);
        }
    }
    // Who asks for more than fifty times as much gets it.
    unknown.most = unknown.most.max(unknown.least);
    Ok(unknown)
}

/// How many times a step's amount another amount is.
fn times(cupboard: &Cupboard, action: &Action, said: &Amount) -> Option<f64> {
    let brought = action.brings()?;
    let written = brought.amount?;
    if brought.line {
        return Some(said.as_millilitres()? / written.as_millilitres()?);
    }
    let it = cupboard.ingredient(brought.ingredient)?;
    let grams = |amount: &Amount| cupboard.weigh(it, amount).ok().map(|w| w.grams.0);
    let said = grams(said).filter(|g| *g <= MAX_LINE.0)?;
    Some(said / grams(written)?).filter(|f| f.is_finite())
}

/// Vessels that would have to hold more than they do. A hundredth too much is a shaky hand.
fn over_the_brim(drink: &Drink, trace: &Trace) -> Vec<String> {
    let litres = |ml: f64| Amount::of(ml / 1000.0, Measure::Litre).rounded();
    let too_full = |v: usize| {
        let (vessel, most) = (&drink.vessels[v], trace.highest_level(v).0);
        let holds = vessel.capacity().0;
        (vessel.kind.strainer().is_none() && most > 1.01 * holds).then(|| {
            let the = drink.at_start(v);
            format!(
                "{the} holds {}, and this would be {}. Choose a larger one, or make it in rounds.",
                litres(holds),
                litres(most)
            )
        })
    };
    (0..drink.vessels.len()).filter_map(too_full).collect()
}

/// Why a target was not met, in a cook's words.
fn what_stops(
    drink: &Drink,
    cupboard: &Cupboard,
    steps: &[usize],
    unknowns: &[Unknown],
    factors: &[f64],
    wishes: &[Wish],
    misses: &[f64],
) -> Vec<String> {
    let name = |step: usize| {
        let id = drink.steps[step].action.ingredient().unwrap_or_default();
        cupboard.ingredient(id).map_or_else(String::new, |it| it.name.clone())
    };
    let mut stops = Vec::new();
    for ((step, unknown), factor) in steps.iter().zip(unknowns).zip(factors) {
        let said = |factor: f64| {
            drink.steps[*step]
                .action
                .amount()
                .map_or_else(String::new, |a| a.scaled(factor).rounded().to_string())
        };
        if (factor - unknown.most).abs() < 1e-3 * unknown.most {
            stops.push(format!("{}: limited to {}.", name(*step), said(unknown.most)));
        } else if (factor - unknown.least).abs() < 2e-3 {
            stops.push(if unknown.least <= LEAST {
                format!("{} is already close to zero.", name(*step))
            } else {
                format!("{}: at least {}.", name(*step), said(unknown.least))
            });
        }
    }
    for (wish, miss) in wishes.iter().zip(misses).filter(|(_, m)| m.abs() > MET) {
        let more = *miss > 0.0;
        stops.push(
            match (wish.reading, more) {
                (0, true) => "It would be less sweet than your target.",
                (0, false) => "It would be sweeter than your target.",
                (1, true) => "It would be less sour than your target.",
                (1, false) => "It would be more sour than your target.",
                (2, true) => "It would make less than your target.",
                (2, false) => "It would make more than your target.",
                (3, true) => "It would have less sugar than your target.",
                (3, false) => "It would have more sugar than your target.",
                (4, true) => "It would have less alcohol.",
                (4, false) => "It would have more alcohol.",
                (_, true) => "It would be less fizzy.",
                (_, false) => "It would be fizzier.",
            }
            .to_owned(),
        );
    }
    let moves = |f: &dyn Fn(&crate::cupboard::Ingredient) -> bool| {
        steps.iter().any(|s| {
            let id = drink.steps[*s].action.ingredient().unwrap_or_default();
            cupboard.ingredient(id).is_some_and(f)
        })
    };
    let missing = |reading: usize| {
        wishes.iter().zip(misses).any(|(w, m)| w.reading == reading && m.abs() > MET)
    };
    if missing(0) && !moves(&|it| it.per_gram.sucrose_equivalent().0 > 0.2) {
        stops.push("No sweetener can change. Unfix one, or add one.".into());
    }
    if missing(1) && !moves(&|it| it.per_gram.titratable_acid() > 0.01) {
        stops.push("No sour ingredient can change. Unfix one, or add one.".into());
    }
    stops
}

impl Solution {
    /// A drink with its amounts so many times as written, and what that comes to.
    fn read(
        drink: &Drink,
        worktop: Worktop<'_>,
        factors: &[f64],
        reached: bool,
        stops: Vec<String>,
    ) -> Result<Option<Self>, Stopped> {
        let cupboard = worktop.cupboard();
        let with = |round: bool| {
            let mut changed = drink.clone();
            for (step, factor) in changed.steps.iter_mut().zip(factors) {
                if (factor - 1.0).abs() > 1e-4
                    && let Some(amount) = step.action.amount_mut()
                {
                    let scaled = amount.scaled(*factor);
                    *amount = if round { scaled.rounded() } else { scaled };
                }
            }
            changed
        };
        let (exact, rounded) = (with(false), with(true));
        let moved = drink
            .steps
            .iter()
            .zip(&rounded.steps)
            .zip(factors)
            .filter(|((old, new), _)| old.action != new.action)
            .filter_map(|((old, new), factor)| {
                let it = cupboard.ingredient(old.action.ingredient()?)?;
                Some(Moved {
                    step: old.id.clone(),
                    name: it.name.clone(),
                    from: old.action.amount()?.rounded().to_string(),
                    to: new.action.amount()?.to_string(),
                    factor: *factor,
                })
            })
            .collect();
        let trace = worktop.trace(&rounded)?;
        let landed = Prepared::new(&exact, cupboard).land(Nudges::default(), Vec::new()).outcome;
        let profile = trace.outcome().and_then(Profile::of);
        let tastes = (landed.as_ref().and_then(Taste::of), trace.outcome().and_then(Taste::of));
        let (Some(profile), (Some(taste), Some(rounded_taste))) = (profile, tastes) else {
            return Ok(None);
        };
        let point = BalanceMap::of(drink.family, Some(&profile)).point;
        // What runs over isn't there.
        let too_full = over_the_brim(&rounded, &trace);
        Ok(Some(Self {
            taste,
            rounded_taste,
            rounded_point: point.map(|p| p.spot()),
            drink: exact,
            rounded,
            moved,
            reached: reached && too_full.is_empty(),
            stops: too_full.into_iter().chain(stops).collect(),
        }))
    }
}
