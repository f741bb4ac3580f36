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
    let step = drink
        .steps
        .iter()
        .position(|s| s.id == step)
        .ok_or_else(|| FieldError::new("step", "There is no such step in this drink."))?;
    if !(measured.0.is_finite() && measured.0 > 0.0 && measured.0 < 500_000.0) {
        return Err(FieldError::new("measured", "Enter what you measured, such as 1.62 l."));
    }
    let action = &drink.steps[step].action;
    let vessel = action
        .path()
        .last()
        .and_then(|id| drink.vessel(id))
        .ok_or_else(|| FieldError::new("step", "Nothing can be measured after this step."))?;
    let prepared = Prepared::new(drink, worktop.cupboard());
    let after = After { prepared, worktop, step, vessel, measured };
    match action {
        Action::Strain { through, .. } => {
            after.straining(drink.vessel(through).ok_or_else(teaches_nothing)?)
        }
        Action::Boil { .. } | Action::Heat { .. } => after.boiling(),
        _ => Err(teaches_nothing()),
    }
}

fn teaches_nothing() -> FieldError {
    FieldError::new(
        "step",
        "This step's volume follows from its ingredients, so measuring it changes nothing.",
    )
}

/// What was measured in a vessel after a step.
struct After<'a> {
    prepared: Prepared<'a>,
    worktop: Worktop<'a>,
    step: usize,
    vessel: usize,
    measured: Millilitres,
}

impl After<'_> {
    fn run(&self, nudges: Nudges<'_>) -> Result<Trace, Stopped> {
        self.worktop.run(&self.prepared, nudges)
    }

    fn volume_in(&self, trace: &Trace) -> f64 {
        trace.after(self.step, self.vessel).map_or(0.0, |c| c.liquid.volume(MEASURED_AT).0)
    }

    /// By how much more there would be than was measured, ml.
    fn miss(&self, nudges: Nudges<'_>) -> Result<f64, Stopped> {
        Ok(self.volume_in(&self.run(nudges)?) - self.measured.0)
    }

    fn lesson(&self, as_planned: &Trace, figures: Vec<Figure>) -> Lesson {
        Lesson::of(self.volume_in(as_planned), self.measured.0, figures)
    }

    /// What the solids in a strainer kept.
    fn straining(&self, sieve: usize) -> Result<Lesson, FieldError> {
        let trace = self.run(Nudges::default())?;
        let kept = trace.after(self.step, sieve).ok_or_else(teaches_nothing)?;
        // What each keeps in all, a gram of it, and where that usually lies.
        let mut holds: BTreeMap<usize, (f64, f64, (f64, f64))> = BTreeMap::new();
        for piece in &kept.pieces {
            let (each, low, high) = piece.held_each(Press::Drained);
            let held = holds.entry(piece.ingredient).or_insert((0.0, each, (low, high)));
            held.0 += piece.put_in.0 * each;
        }
        let all: f64 = holds.values().map(|(held, ..)| held).sum();
        if all <= 0.0 {
            return Err(FieldError::new(
                "step",
                "There is only pulp in this strainer, so we can't learn how much the solids hold.",
            ));
        }
        // What was boiled down before was boiled down to the line that was reckoned.
        let held =
            |log: f64| Nudges { hold: Some(log.exp()), hold_from: self.step, ..Nudges::default() };
        let factor = factor_within(5.0, |log| self.miss(held(log)))?.ok_or_else(|| {
            FieldError::new(
                "measured",
                "The solids can't hold that much. Did you add something, or did it boil away?",
            )
        })?;
        let figures = holds
            .iter()
            .filter(|(_, (held, ..))| *held > SHARE_TO_LEARN * all)
            .map(|(ingredient, (_, each, usual))| {
                let it = &self.worktop.cupboard().ingredients()[*ingredient];
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
        Ok(self.lesson(&trace, figures))
    }

    /// How fast water left.
    fn boiling(&self) -> Result<Lesson, FieldError> {
        let now = self.worktop.cupboard().boil_off();
        let boiled = |log: f64| Nudges { boil_off: Some(now * log.exp()), ..Nudges::default() };
        let factor = factor_within(4.0, |log| self.miss(boiled(log)))?.ok_or_else(|| {
            FieldError::new(
                "measured",
                "No boiling speed explains this. Was the lid on, or was the time different?",
            )
        })?;
        let figure = Figure {
            learned: Learned { figure: Taught::BoilOff, from: now, to: now * factor },
            what: "how fast your pots boil off water, compared with usual".into(),
            usual: (0.5, 1.7),
        };
        Ok(self.lesson(&self.run(Nudges::default())?, vec![figure]))
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
