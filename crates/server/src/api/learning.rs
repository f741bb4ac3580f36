//! What is learned from measuring: a volume after a step, a filled cup, the juice of some fruit.

use actix_web::{post, web};
use keen_core::cupboard::{Kitchen, Reading};
use keen_core::drink::{Drink, FieldError};
use keen_core::quantity::{Amount, Millilitres};
use keen_core::study::{self, Lesson};
use keen_core::work::Worktop;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::desk::Asker;
use super::{Body, Problem, State};

/// A drink, one of its steps, and the volume that was measured after it.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Measured {
    drink: Drink,
    /// The step's id.
    step: String,
    /// What was measured.
    volume: Amount,
}

/// What a volume measured after a step teaches.
#[utoipa::path(operation_id = "explain_measurement", tag = "compute", request_body = Measured, responses(
    (status = 200, body = Lesson)))]
#[post("/api/compute/measured")]
pub(super) async fn measured(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Lesson>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
        volume: Amount,
    }
    let learned = |drink: &Drink, worktop: Worktop<'_>, Rest { step, volume }: Rest| {
        let ml = volume.as_millilitres().ok_or_else(|| FieldError {
            field: "volume".into(),
            message: format!("“{volume}” is no volume. Say it in ml, l or cups."),
        })?;
        Ok(study::learn(drink, worktop, &step, Millilitres(ml))?)
    };
    state.ask_of_drink(asker, &body, learned).await
}

/// What some pieces of fruit gave.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ReadingAnswer {
    /// Juice of one before the reading, ml.
    before_ml: f64,
    /// After it, ml.
    after_ml: f64,
    /// How much of that is then own experience, 0 to 1.
    own_share: f64,
    /// Whether the reading is out of all likelihood.
    doubtful: bool,
    /// All of that in a sentence.
    message: String,
}

/// What a reading of fruit would change, before it is kept.
#[utoipa::path(operation_id = "weigh_reading", tag = "compute", request_body = Reading, responses(
    (status = 200, body = ReadingAnswer)))]
#[post("/api/compute/reading")]
pub(super) async fn reading(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<ReadingAnswer>, Problem> {
    /// Less likely than this, one should look again before it is believed.
    const DOUBTFUL: f64 = 1e-3;
    let reading: Reading = body.json()?;
    let alone = Kitchen { readings: vec![reading.clone()], ..Kitchen::default() };
    let faults = alone.check();
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let cupboard = state.cupboard();
    let known = cupboard
        .size_named(&reading.produce)
        .and_then(|(fruit, of_size)| Some((fruit.plural.clone(), of_size.juice_yield()?)));
    let (plural, before) = known.ok_or_else(|| FieldError {
        field: "produce".into(),
        message: "That is no fruit that is squeezed.".into(),
    })?;
    let mean = reading.juice_ml / reading.pieces;
    let after = before.after(reading.pieces, mean);
    let doubtful = before.likelihood(reading.pieces, mean) < DOUBTFUL;
    let look = if doubtful {
        format!(
            " {mean:.0} ml from each is far from what {plural} give. Is it {} and {:.0} ml?",
            reading.pieces, reading.juice_ml
        )
    } else {
        String::new()
    };
    Ok(web::Json(ReadingAnswer {
        before_ml: before.mean,
        after_ml: after.mean,
        own_share: after.own_share,
        doubtful,
        message: format!(
            "From now on {plural} are reckoned with {:.1} ml each instead of {:.1}; {:.0} % of that is \
             your own experience.{look}",
            after.mean,
            before.mean,
            100.0 * after.own_share
        ),
    }))
}

/// A measure that was filled as usual, and what it weighed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Weighing {
    /// The measure: "1 cup", "3 tbsp".
    measure: Amount,
    /// What was in it, g.
    grams: f64,
}

/// What a weighed measure teaches.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WeighingAnswer {
    /// What a millilitre of it weighs as it fills a measure, g.
    density: f64,
}

/// What a measure that was filled and weighed says of an ingredient's density.
#[utoipa::path(operation_id = "ask_weighing", tag = "compute", request_body = Weighing, responses(
    (status = 200, body = WeighingAnswer)))]
#[post("/api/compute/weighing")]
pub(super) async fn weighing(body: Body) -> Result<web::Json<WeighingAnswer>, Problem> {
    let Weighing { measure, grams } = body.json()?;
    let ml = measure.as_millilitres().filter(|ml| *ml > 0.0).ok_or_else(|| FieldError {
        field: "measure".into(),
        message: format!("“{measure}” is no volume. Say it in cups, spoons or ml."),
    })?;
    if !(grams > 0.0 && grams <= 100_000.0) {
        let message = format!("{grams} g won't do; more than 0 and at most 100 kg will.");
        return Err(FieldError { field: "grams".into(), message }.into());
    }
    Ok(web::Json(WeighingAnswer { density: grams / ml }))
}
