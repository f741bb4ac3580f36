//! The practice kitchen: hands, eyes and tongue of somebody who makes a drink with luck that nobody has seen.
//!
//! What is put before an instrument is the truth; the screen only ever learns what the instrument makes of
//! it. What is read off a jug's marks is as far off as marks are, and the tongue says only what anyone
//! notices.

use actix_web::{HttpResponse, post, web};
use keen_core::balance::differences;
use keen_core::balance::{Doubt, Spot};
use keen_core::batch::{LuckWas, Truth, would_have_told_most};
use keen_core::belief::Quantity;
use keen_core::drink::FieldError;
use keen_instruments::{Order, Sample};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::super::changes::Changed;
use super::super::desk::{Asker, By};
use super::super::{Body, Problem, State};
use super::{BatchView, Read, minutes_since};
use crate::api::now;
use crate::instruments::PRACTICE;

/// The true figures of a practice batch.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct TruthView {
    /// The true place of the drink.
    end: Option<Spot>,
    /// Its true volume, ml.
    volume_ml: f64,
    /// The distance from the target, in noticeable steps.
    from_target: Option<f64>,
    /// The distance from the target if everything had been done as written, in noticeable steps.
    as_written: Option<f64>,
    /// The distance from our estimate, in noticeable steps.
    from_belief: Option<f64>,
    /// The chances of this batch, the most unusual first.
    luck: Vec<LuckWas>,
    /// The reading that would have told most about this drink.
    most_telling: Option<String>,
}

impl Read {
    /// How it really is; none outside the practice kitchen.
    fn truth(&self) -> Option<Truth> {
        let (seed, now) = (self.seed?, self.now());
        Some(Truth::of(&self.drink, &self.said, &self.cupboard, seed, now))
    }

    pub(super) fn truth_view(&self) -> Option<TruthView> {
        let truth = self.truth()?;
        let report = self.report();
        let spot = report.report.map.point.as_ref();
        let believed = spot.map(|p| p.spot());
        let blind = Truth::of(&self.drink, &[], &self.cupboard, self.seed?, 0.0);
        let far = |a: Option<Spot>, b: Option<Spot>| Some(differences(a?, b?));
        Some(TruthView {
            end: truth.end(),
            volume_ml: truth.volume_ml(),
            from_target: far(truth.end(), report.written),
            as_written: far(blind.end(), report.written),
            from_belief: far(truth.end(), believed),
            luck: truth.luck(&self.cupboard),
            most_telling: would_have_told_most(&self.made(), &self.cupboard),
        })
    }
}

fn in_practice(read: &Read) -> Result<Truth, FieldError> {
    read.truth()
        .ok_or_else(|| FieldError::new("id", "This isn't a practice batch: use real instruments."))
}

impl State {
    /// What the run before left on the simulated scale is taken off, if there is one.
    pub(super) fn clear_practice_scale(&self) {
        let scale = format!("{PRACTICE}.scale-1");
        for order in [Order::Lift, Order::Tare] {
            self.instruments.order(&scale, &order);
        }
    }
}

/// A change of the practice clock.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "do", rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum SetClock {
    /// How many times faster it runs.
    Rate {
        /// How many times, 1 to 600.
        times: f64,
    },
    /// The clock jumps to the end of the next wait.
    ToNext,
}

/// Speed up the clock of a practice batch, or skip to the end of the next wait.
#[utoipa::path(tag = "batches", request_body = SetClock, responses(
    (status = 200, body = BatchView), (status = 404, body = Problem)))]
#[post("/api/batches/{id}/clock")]
pub(in crate::api) async fn set_clock(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    by: By,
    body: Body,
) -> Result<web::Json<BatchView>, Problem> {
    let set: SetClock = body.json()?;
    let read = state.batch(&id).await?;
    let Some(clock) = read.clock else {
        return Err(FieldError::new("id", "Only a practice batch can skip time.").into());
    };
    let real = minutes_since(&read.kept.begun_at, &now());
    let order = match set {
        SetClock::Rate { times } if (1.0..=600.0).contains(&times) => Order::Rate { times },
        SetClock::Rate { .. } => {
            return Err(FieldError::new("times", "Enter 1 to 600.").into());
        }
        SetClock::ToNext => {
            let now = read.now();
            let waits = read.report().steps;
            let ends = waits.iter().filter(|s| s.state == keen_core::batch::Progress::Running);
            let next = ends.filter_map(|s| s.until).filter(|t| *t > now).reduce(f64::min);
            match next {
                Some(next) => Order::Jump { minutes: next - clock.shows(real) },
                None => return Err(FieldError::new("to_next", "Nothing waits.").into()),
            }
        }
    };
    let text = serde_json::to_string(&clock.hears(&order, real)).unwrap_or_default();
    let of = id.clone();
    state.with_store(move |store| store.set_batch_clock(&of, &text)).await?;
    state.changes.tell_kept(Changed::Batch, &id, None, by.0);
    state.batch_view(&id, asker).await
}

/// Place a simulated instrument.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PutBefore {
    /// The vessel to measure: with a probe, a drop, a sample or on the scale.
    vessel: String,
    /// The instrument's id.
    instrument: String,
}

/// Measure a vessel of a practice batch with an instrument. The reading comes with the other changes.
#[utoipa::path(operation_id = "weigh_out", tag = "batches", request_body = inline(PutBefore), responses(
    (status = 204), (status = 404, body = Problem)))]
#[post("/api/batches/{id}/put")]
pub(in crate::api) async fn put_before(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let PutBefore { vessel, instrument } = body.json()?;
    let read = state.batch(&id).await?;
    let question = move |_: &_| {
        let truth = in_practice(&read)?;
        let nothing = || FieldError::new("vessel", "That vessel is empty.");
        let contents = truth.contents(&vessel).filter(|c| !c.is_empty()).ok_or_else(nothing)?;
        let reads = |quantity| truth.reads(&vessel, quantity);
        let sample = Sample {
            temperature: contents.temperature.0,
            brix: reads(Quantity::Brix).unwrap_or(0.0),
            ph: reads(Quantity::Ph).unwrap_or(7.0),
            acid: reads(Quantity::Acidity).unwrap_or(0.0),
        };
        Ok((sample, contents.mass().0))
    };
    let (sample, grams) = state.desk.ask(asker, question).await?;
    let orders = if instrument.ends_with(".scale-1") {
        // An empty vessel of the same kind is tared away first.
        vec![Order::Lift, Order::Tare, Order::Pour { grams }]
    } else {
        vec![Order::Dip { sample }]
    };
    let there = instrument.starts_with(PRACTICE)
        && orders.iter().all(|order| state.instruments.order(&instrument, order));
    if !there {
        return Err(FieldError::new("instrument", "We can't find that instrument.").into());
    }
    Ok(HttpResponse::NoContent().finish())
}

/// A quality to look at or taste.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum Look {
    /// The volume after a step, by a marked jug, with the step's id.
    Gave(String),
    /// The volume in a vessel, by its marks, with the vessel's id.
    Marks(String),
    /// Its height in a vessel, measured with a ruler.
    Height(String),
    /// A sip from a vessel.
    Sip(String),
}

/// An observation or a taste.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Seen {
    /// The reading of the marks or the ruler.
    value: Option<f64>,
    /// Its unit.
    unit: Option<String>,
    /// The words for its faults; none if it tastes right.
    words: Vec<Doubt>,
}

/// Read the marks of a practice batch's jug, or taste it.
#[utoipa::path(tag = "batches", request_body = Look, responses(
    (status = 200, body = Seen), (status = 404, body = Problem)))]
#[post("/api/batches/{id}/look")]
pub(in crate::api) async fn look_at(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    body: Body,
) -> Result<web::Json<Seen>, Problem> {
    let look: Look = body.json()?;
    let read = state.batch(&id).await?;
    state.desk.ask(asker, move |_| Ok(seen(&read, &look)?)).await.map(web::Json)
}

fn seen(read: &Read, look: &Look) -> Result<Seen, FieldError> {
    let truth = in_practice(read)?;
    // Who looks again at the same thing sees the same.
    let mut chance = StdRng::seed_from_u64(read.seed.unwrap_or(0) ^ read.said.len() as u64);
    let mut by_eye = |quantity: Quantity, exact: f64, mark: f64| {
        let off: f64 = (0..12).map(|_| chance.random::<f64>()).sum::<f64>() - 6.0;
        let value = ((exact + off * quantity.usual_error(exact)) / mark).round() * mark;
        Seen { value: Some(value.max(0.0)), unit: Some(quantity.unit().into()), words: Vec::new() }
    };
    let nothing = |field: &str| FieldError::new(field, "There is nothing to see yet.");
    match look {
        Look::Gave(step) => {
            let ml = truth.gave(step).filter(|ml| *ml > 0.0).ok_or_else(|| nothing("gave"))?;
            Ok(by_eye(Quantity::Volume, ml, 1.0))
        }
        Look::Marks(vessel) => {
            let ml = truth.reads(vessel, Quantity::Volume).ok_or_else(|| nothing("marks"))?;
            Ok(by_eye(Quantity::Volume, ml, 5.0))
        }
        Look::Height(vessel) => {
            let mm = truth.reads(vessel, Quantity::Height).ok_or_else(|| nothing("height"))?;
            Ok(by_eye(Quantity::Height, mm, 1.0))
        }
        Look::Sip(vessel) => {
            let words = truth.tongue(vessel).ok_or_else(|| nothing("sip"))?;
            Ok(Seen { value: None, unit: None, words })
        }
    }
}
