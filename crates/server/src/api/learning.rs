//! What is learned from measuring: a volume after a step, a filled cup, the juice of some fruit.

use actix_web::{post, web};
use keen_core::cupboard::{Cupboard, Kitchen, Reading};
use keen_core::drink::{Drink, FieldError};
use keen_core::quantity::{Amount, Millilitres};
use keen_core::study::{self, Lesson};
use keen_core::work::Worktop;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use super::desk::Asker;
use super::{Body, Problem, State};

/// A measurement, to save or discard when its effect is known.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "of", rename_all = "snake_case")]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) enum Measured {
    /// The volume after a step.
    Step(MeasuredStep),
    /// The measured yield of some pieces of fruit.
    Fruit(Reading),
    /// A measure filled as usual, and its weight.
    Cup(Weighing),
}

/// A drink, one of its steps, and the measured volume after it.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct MeasuredStep {
    drink: Drink,
    /// The step's id.
    step: String,
    /// The measured volume.
    volume: Amount,
}

/// The figure that a measurement gives.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "of", rename_all = "snake_case")]
pub(crate) enum WhatItTeaches {
    Step(Lesson),
    Fruit(FruitLesson),
    Cup(CupLesson),
}

/// What a measurement teaches: a volume after a step, the juice of some fruit, a filled cup. Nothing is kept.
#[utoipa::path(operation_id = "explain_measurement", tag = "compute", request_body = Measured, responses(
    (status = 200, body = WhatItTeaches)))]
#[post("/api/compute/measured")]
pub(super) async fn measured(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<WhatItTeaches>, Problem> {
    let mut all: Value = body.json()?;
    let of = all.as_object_mut().and_then(|fields| fields.remove("of"));
    let taught = match of.as_ref().and_then(Value::as_str) {
        Some("step") => WhatItTeaches::Step(state.of_step(asker, all).await?),
        Some("fruit") => {
            WhatItTeaches::Fruit(of_fruit(&state.cupboard(), keen_formats::from_value(all)?)?)
        }
        Some("cup") => WhatItTeaches::Cup(of_cup(&keen_formats::from_value(all)?)?),
        _ => return Err(FieldError::new("of", "Choose step, fruit or cup.").into()),
    };
    Ok(web::Json(taught))
}

impl State {
    async fn of_step(&self, asker: Asker, body: Value) -> Result<Lesson, Problem> {
        #[derive(Deserialize)]
        #[serde(deny_unknown_fields)]
        struct Rest {
            step: String,
            volume: Amount,
        }
        let learned = |drink: &Drink, worktop: Worktop<'_>, Rest { step, volume }: Rest| {
            let ml = volume.as_millilitres().ok_or_else(|| FieldError {
                field: "volume".into(),
                message: format!("“{volume}” isn't a volume. Enter it in ml, l or cups."),
            })?;
            Ok(study::learn(drink, worktop, &step, Millilitres(ml))?)
        };
        self.ask_with_drink(asker, body, learned).await
    }
}

/// The measured yield of some pieces of fruit.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FruitLesson {
    /// The juice of one piece before the reading, ml.
    before_ml: f64,
    /// The volume after the step, ml.
    after_ml: f64,
    /// The share of your own measurements in the result, 0 to 1.
    own_share: f64,
    /// Whether the reading is very unlikely.
    doubtful: bool,
    /// The result in a sentence.
    message: String,
}

/// What a reading of fruit would change.
fn of_fruit(cupboard: &Cupboard, reading: Reading) -> Result<FruitLesson, Problem> {
    /// Less likely than this, one should look again before it is believed.
    const DOUBTFUL: f64 = 1e-3;
    let alone = Kitchen { readings: vec![reading.clone()], ..Kitchen::default() };
    let faults = alone.check();
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let known = cupboard
        .size_named(&reading.produce)
        .and_then(|(fruit, of_size)| Some((fruit.plural.clone(), of_size.juice_yield()?)));
    let (plural, before) = known.ok_or_else(|| FieldError {
        field: "produce".into(),
        message: "Choose a fruit you can squeeze.".into(),
    })?;
    let mean = reading.juice_ml / reading.pieces;
    let after = before.after(reading.pieces, mean);
    let doubtful = before.likelihood(reading.pieces, mean) < DOUBTFUL;
    let look = if doubtful {
        format!(
            " {mean:.0} ml each is unusual for {plural}. Is it really {} and {:.0} ml?",
            reading.pieces, reading.juice_ml
        )
    } else {
        String::new()
    };
    Ok(FruitLesson {
        before_ml: before.mean(),
        after_ml: after.mean(),
        own_share: after.own_share(),
        doubtful,
        message: format!(
            "We'll now use {:.1} ml for each of your {plural} instead of {:.1}; {:.0} % of that comes from your readings.{look}",
            after.mean(),
            before.mean(),
            100.0 * after.own_share()
        ),
    })
}

/// A measure filled as usual, and its weight.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Weighing {
    /// The measure: "1 cup", "3 tbsp".
    measure: Amount,
    /// The weight of the contents, g.
    grams: f64,
}

/// The density that a weighed measure gives.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CupLesson {
    /// The weight of a millilitre as it fills a measure, g.
    density: f64,
}

/// What a measure that was filled and weighed says of an ingredient's density.
fn of_cup(&Weighing { ref measure, grams }: &Weighing) -> Result<CupLesson, FieldError> {
    let ml = measure.as_millilitres().filter(|ml| *ml > 0.0).ok_or_else(|| FieldError {
        field: "measure".into(),
        message: format!("“{measure}” isn't a volume. Enter it in cups, spoons or ml."),
    })?;
    if !(grams > 0.0 && grams <= 100_000.0) {
        return Err(FieldError::new("grams", "Enter a weight above 0 g and up to 100 kg."));
    }
    Ok(CupLesson { density: grams / ml })
}
