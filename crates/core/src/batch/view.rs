//! What a screen at the stove shows of a batch: what is next, what waits, where it stands and will end.

use serde::Serialize;

use super::in_time::not_before;
use super::ready::ready_at;
use super::{Made, MadeStep, StepState};
use crate::balance::{BalanceMap, MapPoint, Palate, Profile, Spot, Taste};
use crate::belief::{Belief, Candidate, Doubt, Measurement, Quantity, Telling, tells_most};
use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::{Action, Drink};
use crate::plan::Fact;
use crate::quantity::Measure;
use crate::report::DrinkReport;
use crate::trace::{Frame, Nudges, Prepared, Trace};

/// State of a batch.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct BatchReport {
    /// The drink as made so far, with the remaining steps as written.
    pub drink: Drink,
    /// A run of the drink with the present estimates.
    pub report: DrinkReport,
    /// One entry for each step.
    pub steps: Vec<StepReport>,
    /// The id of the next hands-on step; missing if none is left.
    pub next: Option<String>,
    /// The target as written.
    pub written: Option<Spot>,
    /// The planned volume, ml.
    pub written_ml: f64,
    /// The readings, with their expected values.
    pub readings: Vec<ReadingReport>,
    /// The best next measurement, in words; missing if none is worthwhile.
    pub measure: Option<Suggestion>,
    /// When it will be ready if you go on now with one pair of hands, minutes since the batch started.
    pub ready_at: f64,
    /// The differences from the recipe and their effect, in words; missing while there are none.
    pub otherwise: Option<String>,
    /// How many of the readings were within the expected range.
    pub inside: usize,
    /// The uncertainty of the finished drink: standard deviations of sweetness and acidity, g in 100 g.
    pub doubt: Spot,
    /// The likely range if no reading had been taken; missing if there is no reading.
    pub doubt_before: Option<Spot>,
}

/// A step of a batch.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StepReport {
    /// Its id.
    pub id: String,
    /// The progress of the step.
    pub state: Progress,
    /// When it was started, minutes since the batch was.
    pub since: Option<f64>,
    /// When it was done, or when its wait will be over, minutes since the batch started.
    pub until: Option<f64>,
    /// How long it is unattended, minutes.
    pub waits: f64,
    /// The weight to add in this step, g; missing if nothing is weighed, or pieces are counted.
    pub weigh_g: Option<f64>,
    /// Whether this is a usual value that the drink doesn't state.
    pub besides: bool,
    /// Whether it can be done now: no earlier step with the same vessel is open.
    pub ready: bool,
    /// The earliest sensible start, minutes since the batch started: its result doesn't keep until it is needed.
    pub not_before: Option<f64>,
}

/// The state of a step.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Progress {
    Ahead,
    Running,
    Done,
}

/// A reading and the expected value.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ReadingReport {
    /// The id of the step after which it was read.
    pub step: String,
    /// The name of the vessel.
    pub vessel: String,
    /// The measured quantity.
    pub quantity: Quantity,
    /// Its unit.
    pub unit: &'static str,
    /// The value that was read.
    pub value: f64,
    /// The expected value, with its range.
    pub expected: f64,
    /// Its standard deviation.
    pub give_or_take: f64,
    /// Whether it is within the range expected 9 times out of 10.
    pub inside: bool,
}

/// The best next measurement.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Suggestion {
    /// The vessel's id.
    pub vessel: String,
    /// The quantity to measure.
    pub quantity: Quantity,
    /// In words.
    pub message: String,
}

/// How far a step has come that takes so many minutes, since when and until when.
fn times(state: StepState, minutes: f64) -> (Progress, Option<f64>, Option<f64>) {
    match state {
        StepState::Ahead => (Progress::Ahead, None, None),
        StepState::Running { since } => (Progress::Running, Some(since), Some(since + minutes)),
        StepState::Done { since, at } => (Progress::Done, since, Some(at)),
    }
}

/// What was started of a batch, for the plan that it is made for as that drink: in minutes since the batch was started.
#[must_use]
pub fn facts(made: &Made, cupboard: &Cupboard, drink: &str) -> Vec<Fact> {
    let trace = Trace::run(&made.drink, cupboard);
    let ended = made.steps.iter().filter_map(|step| match step.state {
        StepState::Done { at, .. } => Some(at),
        _ => None,
    });
    let ended = ended.fold(0.0, f64::max);
    let of = |(step, frame): (&MadeStep, &Frame)| {
        let takes = frame.minutes.0;
        let (state, since, until) = match times(step.state, takes) {
            // What is left when a batch is finished is left.
            (Progress::Ahead, ..) if made.finished => (Progress::Done, Some(ended), Some(ended)),
            (Progress::Running, since, _) if made.finished => (Progress::Done, since, Some(ended)),
            times => times,
        };
        let until = until?;
        Some(Fact {
            drink: drink.to_owned(),
            step: step.id.clone(),
            from: since.unwrap_or((until - takes).max(0.0)),
            to: until,
            done: state == Progress::Done,
        })
    };
    made.steps.iter().zip(&trace.frames).filter_map(of).collect()
}

impl BatchReport {
    /// Runs the drink as made, with what its readings teach.
    #[must_use]
    pub fn of(written: &Drink, made: &Made, cupboard: &Cupboard, now: f64) -> Self {
        let prepared = Prepared::new(&made.drink, cupboard);
        let precedence = prepared.precedence();
        let (belief, readings) = believed(made, &prepared);
        let trace = belief.run(&prepared, &belief.middle());
        let steps = made.steps.iter().enumerate().map(|(i, step)| {
            let frame = &trace.frames[i];
            let waits = (frame.minutes.0 - frame.hands_on.0).max(0.0);
            let (state, since, until) = times(step.state, frame.minutes.0);
            StepReport {
                id: step.id.clone(),
                state,
                since,
                until,
                waits,
                weigh_g: weighed(&made.drink, &trace, i),
                besides: step.besides,
                not_before: made
                    .is_ready(i, precedence)
                    .then(|| not_before(made, &trace, precedence, i, now, cupboard))
                    .flatten(),
                ready: made.is_ready(i, precedence),
            }
        });
        let map = |drink: &Drink, trace: &Trace| {
            let profile = trace.outcome().and_then(Profile::of);
            BalanceMap::of(drink.family, profile.as_ref()).point
        };
        let plain = Trace::run(written, cupboard);
        let planned = map(written, &plain);
        let goes = map(&made.drink, &trace);
        let report = DrinkReport::read(&made.drink, cupboard, &trace);
        let steps: Vec<StepReport> = steps.collect();
        // What nobody has to wait for first, and whose time has come.
        let next = steps.iter().find(|s| s.ready && s.not_before.is_none()).map(|s| s.id.clone());
        Self {
            next,
            otherwise: planned
                .as_ref()
                .zip(goes.as_ref())
                .and_then(|(planned, goes)| otherwise(planned, goes, &readings, made.finished)),
            written: planned.as_ref().map(MapPoint::spot),
            written_ml: plain.outcome().and_then(Profile::of).map_or(0.0, |p| p.volume_ml),
            ready_at: ready_at(made, &trace, precedence, now),
            inside: readings.iter().filter(|r| r.inside).count(),
            measure: if made.finished { None } else { suggestion(made, &belief, &prepared) },
            doubt_before: (!readings.is_empty()).then(|| doubt(&prior(&prepared), &prepared)),
            doubt: doubt(&belief, &prepared),
            readings,
            steps,
            report,
            drink: made.drink.clone(),
        }
    }
}

/// What is weighed in a step, g: what is put in by weight or by measure, not by the piece or the pinch.
fn weighed(drink: &Drink, trace: &Trace, step: usize) -> Option<f64> {
    let Action::Add { amount, .. } = &drink.steps[step].action else { return None };
    let counted = |measure: &Measure| {
        matches!(
            measure,
            Measure::Piece(_) | Measure::Pinch | Measure::Dash | Measure::Drop | Measure::Part
        )
    };
    if amount.terms().iter().any(|t| counted(&t.measure)) {
        return None;
    }
    let grams = trace.lines.iter().find(|l| l.step == step)?.grams.0;
    (grams >= LEAST_WEIGHED).then_some(grams)
}

/// Less than this no kitchen scale weighs, g.
const LEAST_WEIGHED: f64 = 5.0;

/// What went differently, and where that leads.
fn otherwise(
    planned: &MapPoint,
    goes: &MapPoint,
    readings: &[ReadingReport],
    finished: bool,
) -> Option<String> {
    if !Palate::USUAL.notices(goes.spot(), planned.spot()) {
        return None;
    }
    let surprise = readings.iter().rfind(|r| !r.inside).map(|r| {
        let places = r.quantity.places(r.expected);
        let (value, expected) = (r.value, r.expected);
        format!(
            "The {} reads {value:.places$} {}, not {expected:.places$}: ",
            r.vessel.to_lowercase(),
            r.unit
        )
    });
    let share = |now: f64, then: f64, more: &str, less: &str| {
        let percent = (100.0 * (now / then.max(1e-6) - 1.0)).round();
        if percent.abs() < 5.0 {
            return None;
        }
        Some(format!("{:.0} % {}", percent.abs(), if percent > 0.0 { more } else { less }))
    };
    let parts: Vec<String> = [
        share(goes.sweetness, planned.sweetness, "sweeter", "less sweet"),
        share(goes.acidity, planned.acidity, "more sour", "less sour"),
    ]
    .into_iter()
    .flatten()
    .collect();
    let named = match (&goes.band, &planned.band) {
        (Some(now), Some(then)) if now != then => format!("{now}, not {then}: "),
        _ => String::new(),
    };
    let start = surprise.unwrap_or_default();
    let verb = match (finished, start.is_empty()) {
        (true, true) => "It is ",
        (true, false) => "it is ",
        (false, true) => "If you follow the rest, it will be ",
        (false, false) => "if you follow the rest, it will be ",
    };
    Some(format!("{start}{verb}{named}{} than planned.", parts.join(" and ")))
}

/// What a screen at the stove may take, in the units of [`Work`](crate::work::Work): a drink of twelve steps
/// takes 150 a run and is run some dozens of times; beyond this nobody would wait for it.
const MOST_WORK: u64 = 400_000;

/// What is uncertain, of a drink that can be run often enough.
fn prior(prepared: &Prepared<'_>) -> Belief {
    let before = Belief::before(prepared);
    let runs = before.factors().len() as u64 + 1;
    let work = prepared.run(Nudges::default()).work;
    if work * runs > MOST_WORK { Belief::certain(prepared) } else { before }
}

/// So many standard deviations to either side hold nine in ten.
const NINE_IN_TEN: f64 = 1.645;

/// What is believed after all readings, and what each had been expected to be by those before it.
pub(super) fn believed(made: &Made, prepared: &Prepared<'_>) -> (Belief, Vec<ReadingReport>) {
    let before = prior(prepared);
    let mut told = Vec::new();
    let mut read: Vec<Measurement> = Vec::new();
    let mut belief = before.clone();
    for reading in &made.measurements {
        let Some(Doubt { expected, sd, off }) = belief.expects(prepared, reading) else { continue };
        told.push(ReadingReport {
            step: made.steps[reading.step].id.clone(),
            vessel: made.drink.label(reading.vessel),
            quantity: reading.quantity,
            unit: reading.quantity.unit(),
            value: reading.value,
            expected,
            give_or_take: sd,
            inside: off.abs() <= NINE_IN_TEN,
        });
        read.push(*reading);
        if let Some(next) = before.after(prepared, &read) {
            belief = next;
        }
    }
    (belief, told)
}

/// Whether a reading is out of all likelihood, in words to ask by.
#[must_use]
pub fn doubtful(made: &Made, reading: &Measurement, cupboard: &Cupboard) -> Option<String> {
    let prepared = Prepared::new(&made.drink, cupboard);
    let (belief, _) = believed(made, &prepared);
    let Doubt { expected, sd, .. } = belief.doubts(&prepared, reading)?;
    let (unit, the) = (reading.quantity.unit(), made.drink.in_sentence(reading.vessel));
    let places = reading.quantity.places(expected);
    Some(format!(
        "You read {:.places$} {unit} in {the}; we expected {expected:.places$}, give or take {sd:.places$}. Check the vessel, stir it and rinse the instrument. Then measure again, keep the reading or discard it.",
        reading.value
    ))
}

/// The standard deviation of where the finished drink lies.
fn doubt(belief: &Belief, prepared: &Prepared<'_>) -> Spot {
    let taste = |fate| {
        let trace = belief.run(prepared, &fate);
        trace.outcome().and_then(Taste::of)
    };
    let none = Spot { sweetness: 0.0, acidity: 0.0 };
    let Some(here) = taste(belief.middle()) else { return none };
    let spread = belief.spread_by(prepared, |trace| {
        let taste = trace.outcome().and_then(Taste::of).unwrap_or(here);
        [taste.sweetness_percent, taste.acidity_percent]
    });
    Spot { sweetness: spread[0], acidity: spread[1] }
}

/// Vessels in which something can be measured.
fn measurable(drink: &Drink) -> impl Iterator<Item = usize> {
    (0..drink.vessels.len()).filter(|v| {
        let kind = drink.vessels[*v].kind;
        kind.strainer().is_none() && kind != VesselKind::Glass
    })
}

/// What can be measured in a vessel after a step.
fn candidates(step: usize, vessel: usize) -> [Candidate; 7] {
    Quantity::ALL.map(|quantity| Candidate { step, vessel, quantity, error: None })
}

/// What to measure next of what can be measured now.
fn suggestion(made: &Made, belief: &Belief, prepared: &Prepared<'_>) -> Option<Suggestion> {
    let now: Vec<Candidate> = measurable(&made.drink)
        .filter_map(|vessel| Some((made.last_on(vessel)?, vessel)))
        .filter(|(step, _)| !matches!(made.steps[*step].state, StepState::Running { .. }))
        .flat_map(|(step, vessel)| candidates(step, vessel))
        .collect();
    let telling = tells_most(belief, prepared, &now)?;
    let Told { name, of, from, to } = told(&telling);
    let vessel = telling.candidate.vessel;
    Some(Suggestion {
        vessel: made.drink.vessels[vessel].id.clone(),
        quantity: telling.candidate.quantity,
        message: format!(
            "Best thing to measure now: {name} in {}. It would narrow the {of} from ±{from:.0} % to ±{to:.0} %.",
            made.drink.in_sentence(vessel),
        ),
    })
}

/// Which reading would have told most of all that could have been taken on the way, before anything was known.
#[must_use]
pub fn would_have_told_most(made: &Made, cupboard: &Cupboard) -> Option<String> {
    let prepared = Prepared::new(&made.drink, cupboard);
    let path = |step: usize| {
        let path = made.drink.steps[step].action.path();
        path.into_iter().filter_map(|id| made.drink.vessel(id)).collect::<Vec<_>>()
    };
    let all: Vec<Candidate> = measurable(&made.drink)
        .flat_map(|vessel| {
            let here =
                (0..made.drink.steps.len()).filter(move |step| path(*step).contains(&vessel));
            here.flat_map(move |step| candidates(step, vessel)).collect::<Vec<_>>()
        })
        .collect();
    let telling = tells_most(&prior(&prepared), &prepared, &all)?;
    let Told { name, of, from, to } = told(&telling);
    let the = made.drink.in_sentence(telling.candidate.vessel);
    let step = &made.drink.steps[telling.candidate.step];
    let after = crate::report::sentence(&made.drink, step, cupboard);
    Some(format!(
        "Best thing to measure later: {name} in {the}. It would narrow the {of} from ±{from:.0} % to ±{to:.0} %. Measure after: {after}"
    ))
}

/// A telling in words.
struct Told {
    /// What is measured.
    name: &'static str,
    /// What of the drink it narrows most.
    of: &'static str,
    from: f64,
    to: f64,
}

fn told(telling: &Telling) -> Told {
    let by = |i: usize| telling.before[i] - telling.after[i];
    let what = if by(1) > by(0) { 1 } else { 0 };
    let name = match telling.candidate.quantity {
        Quantity::Volume => "Volume",
        Quantity::Weight => "Weight",
        Quantity::Brix => "°Brix",
        Quantity::Ph => "pH",
        Quantity::Acidity => "Acidity (drop test)",
        Quantity::Temperature => "Its temperature",
        Quantity::Height => "Level",
    };
    Told {
        name,
        of: ["sweetness", "acidity"][what],
        from: 100.0 * telling.before[what],
        to: 100.0 * telling.after[what],
    }
}
