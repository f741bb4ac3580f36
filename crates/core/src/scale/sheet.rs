use serde::{Deserialize, Serialize};

use super::measuring::{Measured, measure};
use super::{LawOf, Size, larger, open_boil, resize};
use crate::balance::{BalanceMap, Palate, Profile, Spot};
use crate::cupboard::Ingredient;
use crate::drink::{Drink, FieldError, Law};
use crate::quantity::{Amount, Grams, Millilitres, Units};
use crate::trace::Trace;
use crate::work::{Stopped, Worktop};

/// A drink at several sizes side by side.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SizeSheet {
    /// The ingredients, one for each line.
    pub rows: Vec<SheetRow>,
    /// The sizes.
    pub columns: Vec<SheetColumn>,
}

/// A wanted size and its name.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct NamedSize {
    /// "1 glass", "pitcher", "party".
    pub name: String,
    /// The size.
    pub size: Size,
}

/// A line of the recipe at every size.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SheetRow {
    /// The step's id.
    pub step: String,
    /// The ingredient's name.
    pub name: String,
    /// The rule by which the amount grows.
    pub law: Law,
    /// The reason for the rule.
    pub law_reason: &'static str,
    /// Whether the amount is a line to fill up to.
    pub is_fill_line: bool,
    /// The amount at each size.
    pub cells: Vec<SheetCell>,
}

/// An amount at a size.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SheetCell {
    /// The amount in the chosen units, in the kitchen's measures.
    pub text: String,
    /// The amount in the other units, for print.
    pub other: String,
    /// Unrounded, g.
    pub grams: f64,
    /// A way to handle an amount that is too small to measure.
    pub stock: Option<String>,
}

/// A size.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SheetColumn {
    /// Its name.
    pub name: String,
    /// How many glasses.
    pub glasses: f64,
    /// The volume of one glass, ml.
    pub glass_ml: f64,
    /// Total volume, ml.
    pub volume_ml: f64,
    /// The time from the first step to the last, minutes.
    pub minutes: f64,
    /// The hands-on part, minutes.
    pub hands_on_minutes: f64,
    /// How long each step takes, minutes, by the order of the steps.
    pub step_minutes: Vec<f64>,
    /// Its place on the map with exact amounts.
    pub exact: Option<Spot>,
    /// Its place on the map with amounts rounded to kitchen measures.
    pub rounded: Option<Spot>,
    /// The change that rounding makes, in noticeable steps: below 1 it can't be tasted.
    pub shift: Option<Spot>,
    /// Whether the rounding can be tasted.
    pub noticeable: bool,
    /// Other changes at that size, in words: larger vessels, longer boiling.
    pub changes: Vec<String>,
    /// The drink at that size, with rounded amounts.
    pub drink: Drink,
}

/// Works a drink out at several sizes, in the measures of the kitchen.
///
/// # Errors
/// Names the size that can't be had.
pub fn sheet<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    sizes: &[NamedSize],
    units: Units,
) -> Result<SizeSheet, FieldError> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    let mut columns = Vec::with_capacity(sizes.len());
    let mut cells: Vec<Vec<SheetCell>> = vec![Vec::new(); drink.steps.len()];
    let mut there = vec![false; drink.steps.len()];
    for (i, named) in sizes.iter().enumerate() {
        let sized = resize(drink, worktop, &named.size).map_err(|e| FieldError {
            field: format!("sizes[{i}].{}", e.field),
            message: e.message,
        })?;
        // What can't be made is not shown as if it could.
        if let Some(first) = sized.check(cupboard).into_iter().next() {
            return Err(FieldError { field: format!("sizes[{i}].size"), message: first.message });
        }
        let (mut column, own) = column(&sized, worktop, &named.name, units)?;
        column.changes = larger::changes(drink, &sized);
        column.changes.extend(open_boil::changes(drink, &sized));
        for (step, cell) in own {
            there[step] = true;
            cells[step].push(cell);
        }
        columns.push(column);
    }
    let rows = cells
        .into_iter()
        .enumerate()
        .filter(|(step, cells)| there[*step] && cells.len() == columns.len())
        .filter_map(|(step, cells)| {
            let it = &drink.steps[step];
            let LawOf { law, reason } = LawOf::step(drink, cupboard, it);
            Some(SheetRow {
                step: it.id.clone(),
                name: cupboard.ingredient(it.action.ingredient()?)?.name.clone(),
                law,
                law_reason: reason,
                is_fill_line: it.action.brings().is_some_and(|b| b.line),
                cells,
            })
        })
        .collect();
    Ok(SizeSheet { rows, columns })
}

/// The drink with its amounts in measures that there are.
///
/// # Errors
/// If it is too large to be run.
pub fn in_measures<'a>(
    sized: &Drink,
    worktop: impl Into<Worktop<'a>>,
    units: Units,
) -> Result<Drink, Stopped> {
    Ok(column(sized, worktop.into(), "", units)?.0.drink)
}

/// One size: its figures, and the cell of each step that brings something.
fn column(
    sized: &Drink,
    worktop: Worktop<'_>,
    name: &str,
    units: Units,
) -> Result<(SheetColumn, Vec<(usize, SheetCell)>), Stopped> {
    let cupboard = worktop.cupboard();
    let trace = worktop.trace(sized)?;
    let mut rounded = sized.clone();
    let mut cells = Vec::new();
    for (i, step) in sized.steps.iter().enumerate() {
        let Some(brought) = step.action.brings() else { continue };
        let Some(it) = cupboard.ingredient(brought.ingredient) else { continue };
        let each = trace.many_of(sized, step.action.path().last().copied().unwrap_or(""));
        let all: f64 =
            trace.lines.iter().filter(|l| l.step == i && !l.left_over).map(|l| l.grams.0).sum();
        let grams = all / each;
        let (text, other, stock) = match brought.amount {
            None => (follows(it, grams, Units::Metric), follows(it, grams, Units::Us), None),
            Some(amount) if brought.line => {
                let ml = amount.as_millilitres().unwrap_or(0.0);
                (volume(ml, units), volume(ml, other_than(units)), None)
            }
            Some(amount) if grams > 1e-9 => {
                let said = measure(cupboard, it, amount, Grams(grams), units);
                let other = measure(cupboard, it, amount, Grams(grams), other_than(units));
                let Measured { amount: rounded_amount, stock, .. } = said;
                if stock.is_none()
                    && let Some(place) = rounded.steps[i].action.amount_mut()
                {
                    *place = rounded_amount.clone();
                }
                (rounded_amount.to_string(), other.amount.to_string(), stock)
            }
            Some(amount) => (amount.to_string(), amount.to_string(), None),
        };
        cells.push((i, SheetCell { text, other, grams, stock }));
    }
    let spot = |drink: &Drink, trace: &Trace| {
        let profile = trace.outcome().and_then(Profile::of)?;
        let point = BalanceMap::of(drink.family, Some(&profile)).point?;
        Some(point.spot())
    };
    let exact = spot(sized, &trace);
    let after = spot(&rounded, &worktop.trace(&rounded)?);
    let shift = exact.zip(after).map(|(a, b)| {
        let least = Palate::USUAL.least(a);
        Spot {
            sweetness: (b.sweetness - a.sweetness) / least.sweetness,
            acidity: (b.acidity - a.acidity) / least.acidity,
        }
    });
    let profile = trace.outcome().and_then(Profile::of);
    let column = SheetColumn {
        name: name.to_owned(),
        glasses: profile.as_ref().map_or(1.0, |p| p.glasses),
        glass_ml: profile.as_ref().map_or(0.0, |p| p.glass_ml),
        volume_ml: profile.as_ref().map_or(0.0, |p| p.volume_ml),
        minutes: trace.minutes.0,
        hands_on_minutes: trace.hands_on().0,
        step_minutes: trace.frames.iter().map(|f| f.minutes.0).collect(),
        exact,
        rounded: after,
        noticeable: shift.is_some_and(|s| s.sweetness.abs() > 1.0 || s.acidity.abs() > 1.0),
        shift,
        changes: Vec::new(),
        drink: rounded,
    };
    Ok((column, cells))
}

fn other_than(units: Units) -> Units {
    if units == Units::Us { Units::Metric } else { Units::Us }
}

fn volume(ml: f64, units: Units) -> String {
    let amount = match units {
        Units::Us => crate::quantity::spell_in_spoons(ml),
        _ if ml >= 1000.0 => Amount::of(ml / 1000.0, crate::quantity::Measure::Litre).rounded(),
        _ => Amount::millilitres(ml).rounded(),
    };
    amount.to_string()
}

/// What goes in where the amount follows from what is in the vessel.
fn follows(it: &Ingredient, grams: f64, units: Units) -> String {
    let ml = it.fills(Grams(grams)).unwrap_or(Millilitres(grams));
    format!("about {}", volume(ml.0, units))
}
