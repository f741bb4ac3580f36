//! Another size of the same drink, found by running it.
//!
//! Boiling and straining don't scale straight: a pot loses steam by its opening and a sieve keeps
//! its film, whatever the size. So the factor is not a quotient of volumes but the one whose trace
//! ends at the volume that was asked for.

mod larger;
mod law;
mod measuring;
mod need;
mod open_boil;
mod sheet;
mod vessels;

pub use law::{LawOf, SPICE_POWER};
pub use measuring::{Measured, measure};
pub(crate) use need::{Need, capacity, need};
pub use sheet::{NamedSize, SheetCell, SheetColumn, SheetRow, SizeSheet, in_measures, sheet};
pub use vessels::{Concentrate, Fit, Taken, VesselPlan, fit};
pub(crate) use vessels::{fit_into, keeps};

use serde::{Deserialize, Serialize};

use law::{joins_in_glass, times};

use crate::cupboard::Cupboard;
use crate::drink::{Action, Drink, FieldError, limits};
use crate::quantity::{Amount, Millilitres};
use crate::root::{self, try_find};
use crate::trace::{MEASURED_AT, Nudges, Prepared};
use crate::work::{Stopped, Worktop};

/// The new size.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Size {
    /// A multiple of the amounts.
    Factor(f64),
    /// A total volume.
    Volume(Amount),
    /// A number of glasses of one size.
    Glasses {
        /// How many.
        glasses: u32,
        /// The volume of one glass.
        size: Amount,
    },
    /// A size limited by the amount of one ingredient.
    AsMuchAs {
        /// The id of the step that adds it.
        step: String,
        /// Its amount.
        amount: Amount,
    },
}

/// The least and the most that a drink may grow by at once.
const FACTORS: (f64, f64) = (0.001, 2000.0);

/// The drink with its amounts changed to that size.
///
/// # Errors
/// Names the field where the size can't be had: no liquid to scale, or a size out of all bounds.
pub fn resize<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    size: &Size,
) -> Result<Drink, FieldError> {
    let worktop = worktop.into();
    let mut sized = with_amounts(drink, worktop, size)?;
    larger::exchange(drink, &mut sized, worktop)?;
    let before = sized.clone();
    let boils_otherwise = open_boil::boil_as_far(drink, &mut sized, worktop)?;
    if boils_otherwise && matches!(size, Size::Volume(_) | Size::Glasses { .. }) {
        // As much as was asked for, though more or less of it boils away.
        let ready = |drink: &Drink| {
            Ok::<_, Stopped>(worktop.trace(drink)?.outcome().map(|o| o.ready).filter(|r| r.0 > 0.0))
        };
        if let (Some(wanted), Some(_)) = (ready(&before)?, ready(&sized)?) {
            return to_volume(&sized, worktop, wanted, "size.volume");
        }
    }
    Ok(sized)
}

/// The drink with its amounts changed, and all else as it is.
fn with_amounts(drink: &Drink, worktop: Worktop<'_>, size: &Size) -> Result<Drink, FieldError> {
    let cupboard = worktop.cupboard();
    match size {
        Size::Factor(factor) => {
            if !(factor.is_finite() && (FACTORS.0..=FACTORS.1).contains(factor)) {
                return Err(FieldError::new("size.factor", "Enter 0.001 to 2000 times."));
            }
            if let Some(glass) = made_in(drink, worktop)? {
                return Ok(glass.in_glasses(drink, f64::from(glass.count) * factor, 1.0));
            }
            let mut scaled = scaled(drink, cupboard, *factor, 1.0);
            for (glasses, _) in rounds(&mut scaled) {
                *glasses = whole_glasses(f64::from(*glasses) * factor);
            }
            Ok(scaled)
        }
        Size::Volume(volume) => {
            let wanted = volume_of("size.volume", volume, 5.0, 500_000.0)?;
            if let Some(glass) = made_in(drink, worktop)? {
                return Ok(glass.in_glasses(drink, wanted / glass.each, 1.0));
            }
            let Some((each, glass)) = glass_of(drink, worktop)? else {
                return to_volume(drink, worktop, wanted, "size.volume");
            };
            // All of it is to be drunk: as many glasses as come nearest, each with its even part.
            let glasses = ((wanted / glass).round().max(1.0) as u32).min(limits::GLASSES);
            let even = wanted.0 / f64::from(glasses) / glass.0;
            let even = if (even - 1.0).abs() > 1e-3 { even } else { 1.0 };
            let base = each * even * f64::from(glasses);
            let mut sized = to_volume(drink, worktop, base, "size.volume")?;
            serve_as(&mut sized, glasses, even);
            Ok(sized)
        }
        Size::AsMuchAs { step, amount } => as_much_as(drink, worktop, step, amount),
        Size::Glasses { glasses, size } => {
            if *glasses == 0 || *glasses > limits::GLASSES {
                return Err(FieldError::new(
                    "size.glasses.glasses",
                    format!("Enter 1 to {} glasses.", limits::GLASSES),
                ));
            }
            let wanted = volume_of("size.glasses.size", size, 5.0, 5000.0)?;
            if let Some(glass) = made_in(drink, worktop)? {
                return Ok(glass.in_glasses(drink, f64::from(*glasses), wanted / glass.each));
            }
            let (each, glass) = glass_of(drink, worktop)?.unwrap_or((wanted, wanted));
            // What is poured from the pitcher is the glass, unless something joins it there.
            let alone = (glass / each - 1.0).abs() < 0.02;
            let even = if alone { wanted / each } else { wanted / glass };
            let base = each * even * f64::from(*glasses);
            let mut sized = to_volume(drink, worktop, base, "size.glasses")?;
            serve_as(&mut sized, *glasses, even);
            if alone && let Some((_, volume)) = rounds(&mut sized).next() {
                *volume = size.clone();
            }
            Ok(sized)
        }
    }
}

/// The drink of which one line comes to a given amount.
fn as_much_as(
    drink: &Drink,
    worktop: Worktop<'_>,
    id: &str,
    amount: &Amount,
) -> Result<Drink, FieldError> {
    let field = "size.as_much_as";
    let cupboard = worktop.cupboard();
    let step =
        drink.steps.iter().find(|s| s.id == id).ok_or_else(|| {
            FieldError::new(field, format!("There is no step “{id}” in this drink."))
        })?;
    let written = step
        .action
        .brings()
        .and_then(|b| Some((cupboard.ingredient(b.ingredient)?, b.amount.filter(|_| !b.line)?)))
        .ok_or_else(|| {
            FieldError::new(field, "This step has no amount. Choose another ingredient.")
        })?;
    let weigh = |amount: &Amount| {
        cupboard.weigh(written.0, &drink.without_parts(amount)).map(|w| w.grams.0)
    };
    let there = weigh(amount).map_err(|unknown| FieldError::new(field, unknown.to_string()))?;
    let wanted = there / weigh(written.1).unwrap_or(f64::NAN);
    if !(FACTORS.0..=FACTORS.1).contains(&wanted) {
        return Err(FieldError::new(
            field,
            format!("We can't compare {amount} with {}. Use the same kind of unit.", written.1),
        ));
    }
    if let Some(glass) = made_in(drink, worktop)? {
        return Ok(glass.in_glasses(drink, f64::from(glass.count) * wanted, 1.0));
    }
    let LawOf { law, .. } = LawOf::step(drink, cupboard, step);
    if (times(law, 2.0, 1.0) - 1.0).abs() < 1e-9 {
        return Err(FieldError::new(
            field,
            "This amount is the same at every size. Choose another ingredient.",
        ));
    }
    let factor = root::find(-9.0, 9.0, 1e-12, |log| (times(law, log.exp(), 1.0) / wanted).ln())
        .ok_or_else(|| FieldError::new(field, "No size uses exactly that amount."))?
        .exp();
    let mut sized = scaled(drink, cupboard, factor, 1.0);
    // As many whole glasses as there then are.
    let ready = worktop.trace(&sized)?.outcome().map_or(0.0, |o| o.ready.0);
    if let Some((glasses, each)) = rounds(&mut sized).next()
        && let Some(ml) = each.as_millilitres()
    {
        *glasses = whole_glasses((ready / ml + 0.05).floor());
    }
    Ok(sized)
}

/// Glasses that a drink is made in, one by one, with no pitcher to pour from.
struct MadeIn {
    vessel: usize,
    count: u32,
    /// What is in one.
    each: Millilitres,
}

/// The glasses that a drink is made in; none if it is poured from something.
fn made_in(drink: &Drink, worktop: Worktop<'_>) -> Result<Option<MadeIn>, Stopped> {
    if drink.steps.iter().any(|s| matches!(s.action, Action::Serve { .. })) {
        return Ok(None);
    }
    let trace = worktop.trace(drink)?;
    Ok(trace.outcome().and_then(|o| {
        let count = drink.vessels[o.vessel].count?;
        Some(MadeIn { vessel: o.vessel, count, each: o.size? })
    }))
}

impl MadeIn {
    /// The drink in so many glasses, each `even` times as large.
    fn in_glasses(&self, drink: &Drink, glasses: f64, even: f64) -> Drink {
        let mut sized = drink.clone();
        sized.vessels[self.vessel].count = Some(whole_glasses(glasses));
        for step in &mut sized.steps {
            // Nobody sees two hundredths in a glass.
            if (even - 1.0).abs() > 0.02
                && let Some(amount) = step.action.amount_mut()
            {
                *amount = amount.scaled(even);
            }
        }
        sized
    }
}

fn whole_glasses(many: f64) -> u32 {
    many.round().clamp(1.0, f64::from(limits::GLASSES)) as u32
}

/// What is poured into a glass, and what then is in it with all that joins it there.
fn glass_of(
    drink: &Drink,
    worktop: Worktop<'_>,
) -> Result<Option<(Millilitres, Millilitres)>, Stopped> {
    let trace = worktop.trace(drink)?;
    let joins = drink.steps.iter().any(|s| joins_in_glass(drink, &s.action));
    Ok(trace.outcome().filter(|o| o.served).and_then(|outcome| {
        let each = outcome.size?;
        let glass = outcome.contents.as_drunk().volume(MEASURED_AT);
        Some((each, if joins { glass } else { each }))
    }))
}

/// Sets the glasses, and makes each and what is put into it `even` times as large.
fn serve_as(drink: &mut Drink, glasses: u32, even: f64) {
    let in_glass: Vec<bool> =
        drink.steps.iter().map(|s| joins_in_glass(drink, &s.action)).collect();
    for (step, in_glass) in drink.steps.iter_mut().zip(in_glass) {
        if in_glass && let Some(amount) = step.action.amount_mut() {
            *amount = amount.scaled(even);
        }
    }
    let before: u32 = rounds(drink).map(|(count, _)| *count).sum();
    for (count, size) in rounds(drink) {
        *count = whole_glasses(f64::from(*count) / f64::from(before) * f64::from(glasses));
        *size = size.scaled(even);
    }
}

fn volume_of(field: &str, amount: &Amount, from: f64, to: f64) -> Result<Millilitres, FieldError> {
    match amount.as_millilitres() {
        Some(ml) if (from..=to).contains(&ml) => Ok(Millilitres(ml)),
        Some(_) => Err(FieldError::new(field, format!("Enter {from} ml to {} l.", to / 1000.0))),
        None => Err(FieldError::new(
            field,
            format!("“{amount}” isn't a volume. Enter it in ml, l or cups."),
        )),
    }
}

/// The glasses and their size in each step that serves.
fn rounds(drink: &mut Drink) -> impl Iterator<Item = (&mut u32, &mut Amount)> {
    drink.steps.iter_mut().filter_map(|step| match &mut step.action {
        Action::Serve { glasses, size, .. } => Some((glasses, size)),
        _ => None,
    })
}

/// Every amount and every line to fill to by its law, `factor` times where that is straight.
fn scaled(drink: &Drink, cupboard: &Cupboard, factor: f64, in_glass: f64) -> Drink {
    let mut sized = drink.clone();
    let in_parts = drink.steps.iter().any(|s| s.action.amount().is_some_and(Amount::has_parts));
    if in_parts {
        // Two parts stay two parts: what a part is grows.
        let part = drink.part.clone().unwrap_or_else(|| Amount::millilitres(30.0));
        sized.part = Some(part.scaled(factor));
    }
    for (step, by) in sized.steps.iter_mut().zip(factors(drink, cupboard, factor, in_glass)) {
        if let Some(amount) = step.action.amount_mut() {
            let by = if amount.has_parts() { by / factor } else { by };
            *amount = amount.scaled(by);
        }
    }
    sized
}

/// By how much each step's amount grows.
fn factors(drink: &Drink, cupboard: &Cupboard, factor: f64, in_glass: f64) -> Vec<f64> {
    drink
        .steps
        .iter()
        .map(|step| match &step.action {
            // Parts are parts, whatever the size.
            Action::Lengthen { .. } => 1.0,
            _ => times(LawOf::step(drink, cupboard, step).law, factor, in_glass),
        })
        .collect()
}

/// What there is to drink: in the vessel that it is served from, or wherever it ends.
fn volume_at(worktop: Worktop<'_>, prepared: &Prepared<'_>, factor: f64) -> Result<f64, Stopped> {
    let amounts = factors(prepared.drink(), prepared.cupboard(), factor, 1.0);
    let landing = worktop.land(prepared, Nudges { amounts: &amounts, ..Nudges::default() })?;
    Ok(landing.outcome.map_or(0.0, |outcome| outcome.ready.0))
}

fn to_volume(
    drink: &Drink,
    worktop: Worktop<'_>,
    wanted: Millilitres,
    field: &str,
) -> Result<Drink, FieldError> {
    let cupboard = worktop.cupboard();
    let prepared = Prepared::new(drink, cupboard);
    let now = volume_at(worktop, &prepared, 1.0)?;
    if now <= 0.0 {
        return Err(FieldError::new(
            field,
            "There is nothing to drink yet. Add an ingredient first.",
        ));
    }
    if (now / wanted.0 - 1.0).abs() < 1e-6 {
        return Ok(drink.clone());
    }
    // Volume grows with the factor; in logarithms the curve is nearly straight.
    let miss = |log: f64| {
        let there = volume_at(worktop, &prepared, log.exp())?;
        Ok::<f64, Stopped>((there.max(1e-6) / wanted.0).ln())
    };
    let guess = (wanted.0 / now).ln();
    let (mut low, mut high) = (guess - 0.2, guess + 0.2);
    while miss(low)? > 0.0 && low > guess - 6.0 {
        low -= 1.0;
    }
    while miss(high)? < 0.0 && high < guess + 6.0 {
        high += 1.0;
    }
    let factor = try_find(low, high, 1e-9, miss)?.ok_or_else(|| {
        FieldError::new(field, "We can't make that volume: a fill line or a strainer limits it.")
    })?;
    Ok(scaled(drink, cupboard, factor.exp(), 1.0))
}
