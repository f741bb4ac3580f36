use std::collections::BTreeMap;

use serde::Serialize;

use crate::drink::{Action, Drink, FieldError, Press};
use crate::quantity::Millilitres;
use crate::root::try_find;
use crate::trace::{MEASURED_AT, Nudges, Prepared, Trace};
use crate::work::{Stopped, Worktop};

/// The figure that a measurement gives.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Lesson {
    /// The volume used in the calculation, ml.
    pub expected_ml: f64,
    /// The figures that explain the measurement. If several ingredients stay in the strainer, they are changed
    /// together.
    pub learned: Vec<Learned>,
    /// Whether a reading is very unlikely and should be checked.
    pub doubtful: bool,
    /// The result in sentences.
    pub message: String,
}

/// A change of one of your figures.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Learned {
    /// The figure.
    pub figure: Taught,
    /// The present figure.
    pub from: f64,
    /// The figure that it would become.
    pub to: f64,
}

/// Of what a strainer keeps, a thing that keeps less than this part of it is left out of a lesson: the
/// error of a measuring jug is larger.
const SHARE_TO_LEARN: f64 = 0.05;

/// A figure that a measurement gives.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Taught {
    /// The liquid that an ingredient holds when drained, g for each gram, with the ingredient's id.
    Keeps(String),
    /// The speed at which this kitchen's pots lose water, as a factor.
    BoilOff,
}

/// Finds the figure that explains a volume measured after a step: what the solids kept, for a
/// straining; how fast water left, for a boiling.
///
/// # Errors
/// Names the field where the step teaches nothing, or no figure explains it.
pub fn learn<'a>(
    drink: &Drink,
    worktop: impl Into<Worktop<'a>>,
    step: &str,
    measured: Millilitres,
) -> Result<Lesson, FieldError> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    let fault = |field: &str, message: &str| FieldError {
        field: field.to_owned(),
        message: message.to_owned(),
    };
    let index = drink
        .steps
        .iter()
        .position(|s| s.id == step)
        .ok_or_else(|| fault("step", "There is no such step in this drink."))?;
    if !(measured.0.is_finite() && measured.0 > 0.0 && measured.0 < 500_000.0) {
        return Err(fault("measured", "Enter what you measured, such as 1.62 l."));
    }
    let action = &drink.steps[index].action;
    let vessel = action
        .path()
        .last()
        .and_then(|id| drink.vessel(id))
        .ok_or_else(|| fault("step", "Nothing can be measured after this step."))?;
    let volume_in =
        |trace: &Trace| trace.after(index, vessel).map_or(0.0, |c| c.liquid.volume(MEASURED_AT).0);
    let prepared = Prepared::new(drink, cupboard);
    let trace = worktop.run(&prepared, Nudges::default())?;
    let expected_ml = volume_in(&trace);
    let nothing = || {
        fault(
            "step",
            "This step's volume follows from its ingredients, so measuring it changes nothing.",
        )
    };
    match action {
        Action::Strain { through, .. } => {
            let sieve = drink.vessel(through).ok_or_else(nothing)?;
            let kept = trace.after(index, sieve).ok_or_else(nothing)?;
            // What each keeps in all, a gram of it, and where that usually lies.
            let mut holds: BTreeMap<usize, (f64, f64, (f64, f64))> = BTreeMap::new();
            for piece in &kept.pieces {
                let (each, low, high) = piece.held_each(Press::Drained);
                let held = holds.entry(piece.ingredient).or_insert((0.0, each, (low, high)));
                held.0 += piece.put_in.0 * each;
            }
            let all: f64 = holds.values().map(|(held, ..)| held).sum();
            if all <= 0.0 {
                return Err(fault(
                    "step",
                    "There is only pulp in this strainer, so we can't learn how much the solids hold.",
                ));
            }
            let miss = |log: f64| {
                // What was boiled down before was boiled down to the line that was reckoned.
                let nudges =
                    Nudges { hold: Some(log.exp()), hold_from: index, ..Nudges::default() };
                Ok(volume_in(&worktop.run(&prepared, nudges)?) - measured.0)
            };
            let factor = factor_within(5.0, miss)?.ok_or_else(|| {
                fault(
                    "measured",
                    "The solids can't hold that much. Did you add something, or did it boil away?",
                )
            })?;
            let figures = holds
                .iter()
                .filter(|(_, (held, ..))| *held > SHARE_TO_LEARN * all)
                .map(|(ingredient, (_, each, usual))| {
                    let it = &cupboard.ingredients()[*ingredient];
                    Figure {
                        learned: Learned {
                            figure: Taught::Keeps(it.id.clone()),
                            from: *each,
                            to: each * factor,
                        },
                        what: format!("liquid that 1 g of {} holds, g", it.name.to_lowercase()),
                        usual: *usual,
                    }
                })
                .collect();
            Ok(Lesson::of(expected_ml, measured.0, figures))
        }
        Action::Boil { .. } | Action::Heat { .. } => {
            let now = cupboard.boil_off();
            let miss = |log: f64| {
                let nudges = Nudges { boil_off: Some(now * log.exp()), ..Nudges::default() };
                Ok(volume_in(&worktop.run(&prepared, nudges)?) - measured.0)
            };
            let factor = factor_within(4.0, miss)?.ok_or_else(|| {
                fault(
                    "measured",
                    "No boiling speed explains this. Was the lid on, or was the time different?",
                )
            })?;
            let figure = Figure {
                learned: Learned { figure: Taught::BoilOff, from: now, to: now * factor },
                what: "how fast your pots boil off water, compared with usual".into(),
                usual: (0.5, 1.7),
            };
            Ok(Lesson::of(expected_ml, measured.0, vec![figure]))
        }
        _ => Err(nothing()),
    }
}

/// The factor, at most so many times as much or as little, at which it fits.
fn factor_within(
    most: f64,
    miss: impl Fn(f64) -> Result<f64, Stopped>,
) -> Result<Option<f64>, Stopped> {
    Ok(try_find(-most.ln(), most.ln(), 1e-7, miss)?.map(f64::exp))
}

/// A figure that would change, with what is to be said of it.
struct Figure {
    learned: Learned,
    what: String,
    /// Between which values the tables have it.
    usual: (f64, f64),
}

impl Lesson {
    fn of(expected_ml: f64, measured_ml: f64, figures: Vec<Figure>) -> Self {
        let far = |f: &Figure| f.learned.to < f.usual.0 * 0.6 || f.learned.to > f.usual.1 * 1.6;
        let doubtful = figures.iter().any(far);
        let mut message = format!("Expected {expected_ml:.0} ml, measured {measured_ml:.0} ml.");
        for Figure { what, learned, .. } in &figures {
            message += &format!(" {what}: {:.2} instead of {:.2}.", learned.to, learned.from);
        }
        if doubtful {
            message += " That is far from usual. Measure again.";
        }
        let learned = figures.into_iter().map(|f| f.learned).collect();
        Self { expected_ml, learned, doubtful, message }
    }
}
