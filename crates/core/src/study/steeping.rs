use serde::Serialize;

use crate::chemistry::Component;
use crate::drink::{Action, Drink};
use crate::trace::{Contents, MEASURED_AT};
use crate::work::{Stopped, Worktop};

/// The extraction over time.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Steeping {
    /// The extraction over time, starting at 0.
    pub points: Vec<SteepingPoint>,
    /// The time that the step takes, minutes.
    pub minutes: f64,
    /// The time after which extraction is almost complete, minutes; missing if it isn't within this time.
    pub enough_after: Option<f64>,
    /// The time until bitterness can be tasted, minutes; missing if it can't within this time.
    pub bitter_after: Option<f64>,
}

/// A moment of the extraction.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SteepingPoint {
    /// The time since the step started, minutes.
    pub minutes: f64,
    /// The extracted share of the pieces' soluble matter, by weight, 0 to 1.
    pub drawn: f64,
    /// Titratable acidity of the liquid as citric, g in 100 g.
    pub acidity: f64,
    /// Aroma, in our own units for each litre.
    pub aroma: f64,
    /// Bitterness, in our own units for each litre; 1.2 is just noticeable.
    pub bitterness: f64,
}

const POINTS: u32 = 24;

/// Runs a step that takes time with less and more of it. `None` where the step isn't one in which
/// something is drawn.
///
/// # Errors
/// If the drink is too large to be run so often.
pub fn steeping<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    step: &str,
) -> Result<Option<Steeping>, Stopped> {
    let worktop = worktop.into();
    let found = drink.steps.iter().position(|s| s.id == step).and_then(|index| {
        let action = &drink.steps[index].action;
        Some((index, minutes_of(action)?, drink.vessel(action.path().first()?)?))
    });
    let Some((index, minutes, vessel)) = found else { return Ok(None) };
    let mut short = drink.clone();
    short.steps.truncate(index + 1);
    let longest = (minutes * 3.0).max(20.0);
    let mut points: Vec<SteepingPoint> = Vec::new();
    let mut bitter_after = None;
    for i in 0..=POINTS {
        // Close together at first, where most happens.
        let time = longest * (f64::from(i) / f64::from(POINTS)).powf(1.6);
        set_minutes(&mut short.steps[index].action, time);
        let trace = worktop.trace(&short)?;
        if let Some(contents) = trace.after(index, vessel) {
            if bitter_after.is_none() && contents.is_bitter() {
                bitter_after = Some(time);
            }
            points.push(point(time, contents));
        }
    }
    let bitter_after = bitter_after.filter(|m| *m > 0.0);
    let (Some(first), Some(last)) = (points.first(), points.last()) else { return Ok(None) };
    let gains = last.drawn - first.drawn;
    if last.drawn <= 0.0 {
        return Ok(None);
    }
    let enough_after = (gains > 0.01)
        .then(|| points.iter().find(|p| p.drawn >= first.drawn + 0.95 * gains))
        .flatten()
        .map(|p| p.minutes)
        .filter(|m| *m < longest * 0.8);
    Ok(Some(Steeping { minutes, enough_after, bitter_after, points }))
}

fn point(minutes: f64, contents: &Contents) -> SteepingPoint {
    let weight: f64 = contents.pieces.iter().map(|p| p.put_in.0).sum();
    let drawn: f64 = contents.pieces.iter().map(|p| p.put_in.0 * p.drawn).sum();
    let litres = (contents.liquid.volume(MEASURED_AT).0 / 1000.0).max(1e-9);
    SteepingPoint {
        minutes,
        drawn: if weight > 0.0 { drawn / weight } else { 0.0 },
        acidity: contents.liquid.acidity_percent(),
        aroma: contents.liquid[Component::Aroma] / litres,
        bitterness: contents.liquid[Component::Bitterness] / litres,
    }
}

fn minutes_of(action: &Action) -> Option<f64> {
    match action {
        Action::Infuse { minutes, .. }
        | Action::Boil { minutes, .. }
        | Action::Heat { minutes, .. }
        | Action::Macerate { minutes, .. } => Some(*minutes),
        _ => None,
    }
}

fn set_minutes(action: &mut Action, to: f64) {
    if let Action::Infuse { minutes, .. }
    | Action::Boil { minutes, .. }
    | Action::Heat { minutes, .. }
    | Action::Macerate { minutes, .. } = action
    {
        *minutes = to;
    }
}
