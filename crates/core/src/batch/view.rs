//! What a screen at the stove shows of a batch: what is next, what waits, where it stands and will end.

use serde::Serialize;

use super::{Made, StepState};
use crate::balance::{BalanceMap, Profile, Spot, Taste};
use crate::belief::{Belief, Candidate, Doubt, Measurement, Quantity, tells_most};
use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::Drink;
use crate::report::DrinkReport;
use crate::trace::{Nudges, Prepared};

/// How a batch stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatchReport {
    /// The drink as made so far, with what is ahead as it is written.
    pub drink: Drink,
    /// It was run with what is believed by now.
    pub report: DrinkReport,
    /// One for each step.
    pub steps: Vec<StepReport>,
    /// The id of the step that needs hands next; none if nothing is left.
    pub next: Option<String>,
    /// Where it was to end, as it was written.
    pub written: Option<Spot>,
    /// What was read, and what had been expected.
    pub readings: Vec<ReadingReport>,
    /// What to measure next, in words; none where nothing is worth it.
    pub measure: Option<Suggestion>,
    /// How far the finished drink may be off: sweetness and acidity, g in 100 g, a standard deviation.
    pub doubt: Spot,
}

/// A step of a batch.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepReport {
    /// Its id.
    pub id: String,
    /// How far it is.
    pub state: Progress,
    /// When it was begun, minutes since the batch was.
    pub since: Option<f64>,
    /// When it was done, or when its wait will be over, minutes since the batch was begun.
    pub until: Option<f64>,
    /// How long it waits by itself, minutes.
    pub waits: f64,
    /// Whether the drink doesn't say it.
    pub besides: bool,
    /// Whether its turn may be now: nothing that shares a vessel with it is still to be done before.
    pub ready: bool,
}

/// How far a step is, in a word.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Progress {
    Ahead,
    Running,
    Done,
}

/// A reading, and what had been expected.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReadingReport {
    /// After which step: its id.
    pub step: String,
    /// What the vessel is called.
    pub vessel: String,
    /// What was measured.
    pub quantity: Quantity,
    /// Its unit.
    pub unit: &'static str,
    /// What it read.
    pub value: f64,
    /// What had been expected.
    pub expected: f64,
    /// Give or take, a standard deviation.
    pub give_or_take: f64,
}

/// What to measure next.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suggestion {
    /// The vessel's id.
    pub vessel: String,
    /// What.
    pub quantity: Quantity,
    /// In words.
    pub message: String,
}

impl BatchReport {
    /// Runs the drink as made, with what its readings teach.
    #[must_use]
    pub fn of(written: &Drink, made: &Made, cupboard: &Cupboard) -> Self {
        let prepared = Prepared::new(&made.drink, cupboard);
        let (belief, readings) = believed(made, &prepared);
        let trace = belief.run(&prepared, &belief.middle());
        let steps = made.steps.iter().enumerate().map(|(i, step)| {
            let frame = &trace.frames[i];
            let waits = (frame.minutes.0 - frame.hands_on.0).max(0.0);
            let (state, since, until) = match step.state {
                StepState::Ahead => (Progress::Ahead, None, None),
                StepState::Running { since } => {
                    (Progress::Running, Some(since), Some(since + frame.minutes.0))
                }
                StepState::Done { since, at } => (Progress::Done, since, Some(at)),
            };
            StepReport {
                id: step.id.clone(),
                state,
                since,
                until,
                waits,
                besides: step.besides,
                ready: made.is_ready(i),
            }
        });
        let spot = |drink: &Drink| {
            let trace = crate::trace::Trace::run(drink, cupboard);
            let profile = trace.outcome().and_then(Profile::of);
            let point = BalanceMap::of(drink.family, profile.as_ref()).point?;
            Some(Spot { sweetness: point.sweetness, acidity: point.acidity })
        };
        let report = DrinkReport::read(&made.drink, cupboard, &trace);
        let steps: Vec<StepReport> = steps.collect();
        // What nobody has to wait for first.
        let next = steps.iter().find(|s| s.ready).map(|s| s.id.clone());
        Self {
            next,
            written: spot(written),
            measure: if made.finished { None } else { suggestion(made, &belief, &prepared) },
            doubt: doubt(&belief, &prepared),
            readings,
            steps,
            report,
            drink: made.drink.clone(),
        }
    }
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

/// What is believed after all readings, and what each had been expected to be by those before it.
fn believed(made: &Made, prepared: &Prepared<'_>) -> (Belief, Vec<ReadingReport>) {
    let before = prior(prepared);
    let mut told = Vec::new();
    let mut read: Vec<Measurement> = Vec::new();
    let mut belief = before.clone();
    for reading in &made.measurements {
        let Some(Doubt { expected, sd, .. }) = belief.expects(prepared, reading) else { continue };
        told.push(ReadingReport {
            step: made.steps[reading.step].id.clone(),
            vessel: made.drink.label(reading.vessel),
            quantity: reading.quantity,
            unit: reading.quantity.unit(),
            value: reading.value,
            expected,
            give_or_take: sd,
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
    let places = if expected.abs() < 20.0 { 1 } else { 0 };
    Some(format!(
        "It reads {:.places$} {unit}, and {expected:.places$} was expected in {the}, give or take \
         {sd:.places$}. Was it the right vessel, stirred, and the instrument rinsed? Measure again, believe \
         it, or leave it out.",
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

/// What to measure next of what can be measured now.
fn suggestion(made: &Made, belief: &Belief, prepared: &Prepared<'_>) -> Option<Suggestion> {
    let candidates: Vec<Candidate> = (0..made.drink.vessels.len())
        .filter(|v| {
            let kind = made.drink.vessels[*v].kind;
            kind.strainer().is_none() && kind != VesselKind::Glass
        })
        .filter_map(|vessel| Some((made.last_on(vessel)?, vessel)))
        .flat_map(|(step, vessel)| {
            Quantity::ALL.map(|quantity| Candidate { step, vessel, quantity, error: None })
        })
        .collect();
    let telling = tells_most(belief, prepared, &candidates)?;
    let by = |i: usize| telling.before[i] - telling.after[i];
    let what = if by(1) > by(0) { 1 } else { 0 };
    let of = ["sweetness", "acidity"][what];
    let name = match telling.candidate.quantity {
        Quantity::Volume => "How much there is",
        Quantity::Weight => "What it weighs",
        Quantity::Brix => "°Brix",
        Quantity::Ph => "pH",
        Quantity::Acidity => "Its acidity, by drops,",
        Quantity::Temperature => "Its temperature",
        Quantity::Height => "How high it stands",
    };
    let vessel = telling.candidate.vessel;
    Some(Suggestion {
        vessel: made.drink.vessels[vessel].id.clone(),
        quantity: telling.candidate.quantity,
        message: format!(
            "{name} in {} now would narrow the {of} from ±{:.0} % to ±{:.0} %.",
            made.drink.in_sentence(vessel),
            100.0 * telling.before[what],
            100.0 * telling.after[what],
        ),
    })
}
