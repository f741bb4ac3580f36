use std::hash::{DefaultHasher, Hash, Hasher};

use actix_web::{post, web};
use keen_core::balance::{self, Aim, Asked, Correction, Pitcher, Solution, Swapped};
use keen_core::chance::{self, Spread};
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use keen_core::quantity::{Amount, Millilitres};
use keen_core::report::DrinkReport;
use keen_core::scale::{self, Size};
use keen_core::study::{self, Lesson, Steeping, Syrup, SyrupAsked};
use rand::SeedableRng;
use rand::rngs::StdRng;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use super::{Body, Problem, State, read_body, read_json};

/// How often a drink is run to see where it may land.
const RUNS: u32 = 1000;

/// A body that holds a drink and something else. The drink is read by itself, so that its faults name
/// the same fields everywhere.
fn read_with_drink<T: DeserializeOwned>(
    body: Body,
    cupboard: &Cupboard,
) -> Result<(Drink, T), Problem> {
    let mut all: Value = read_json(body)?;
    let Some(fields) = all.as_object_mut() else {
        return Err(missing("drink").into());
    };
    let drink = fields.remove("drink").ok_or_else(|| missing("drink"))?;
    let drink = keen_formats::drink_from_value(drink, cupboard)?;
    Ok((drink, keen_formats::from_value(all)?))
}

fn missing(field: &str) -> FieldError {
    FieldError { field: field.into(), message: format!("{field} is missing.") }
}

/// A drink and the size that it should have.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Resize {
    drink: Drink,
    size: Size,
}

/// A drink at its new size.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Resized {
    drink: Drink,
    report: DrinkReport,
}

/// A drink and where it should be.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Solve {
    drink: Drink,
    aim: Aim,
}

/// A drink, the step whose ingredient goes, and what comes in its place.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Swap {
    drink: Drink,
    /// The step's id.
    step: String,
    /// The id of the ingredient that comes.
    ingredient: String,
}

/// A drink.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Whole {
    drink: Drink,
}

/// A drink and one of its steps.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct OfStep {
    drink: Drink,
    /// The step's id.
    step: String,
}

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

/// Run a drink: frames, vessels, lines, profile and map.
#[utoipa::path(tag = "compute", request_body = Drink, responses(
    (status = 200, body = DrinkReport), (status = "4XX", body = Problem)))]
#[post("/api/compute/trace")]
pub(super) async fn trace(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<DrinkReport>, Problem> {
    let cupboard = state.cupboard();
    let drink = keen_formats::read_drink(&read_body(body)?, &cupboard)?;
    Ok(web::Json(DrinkReport::of(&drink, &cupboard)))
}

/// Change a drink to another size.
#[utoipa::path(tag = "compute", request_body = Resize, responses(
    (status = 200, body = Resized), (status = "4XX", body = Problem)))]
#[post("/api/compute/size")]
pub(super) async fn size(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Resized>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        size: Size,
    }
    let cupboard = state.cupboard();
    let (drink, Rest { size }) = read_with_drink(body, &cupboard)?;
    let drink = scale::resize(&drink, &cupboard, &size)?;
    let faults = drink.check(&cupboard);
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let report = DrinkReport::of(&drink, &cupboard);
    Ok(web::Json(Resized { drink, report }))
}

/// Work the amounts out that bring a drink to a target.
#[utoipa::path(tag = "compute", request_body = Solve, responses(
    (status = 200, body = Solution), (status = "4XX", body = Problem)))]
#[post("/api/compute/solve")]
pub(super) async fn solve(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Solution>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        aim: Aim,
    }
    let cupboard = state.cupboard();
    let (drink, Rest { aim }) = read_with_drink(body, &cupboard)?;
    Ok(web::Json(balance::solve(&drink, &cupboard, &aim)?))
}

/// Say what a pitcher needs that tastes wrong.
#[utoipa::path(tag = "compute", request_body = Asked, responses(
    (status = 200, body = Correction), (status = "4XX", body = Problem)))]
#[post("/api/compute/correct")]
pub(super) async fn correct(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Correction>, Problem> {
    let mut asked: Asked = read_json(body)?;
    let cupboard = state.cupboard();
    if let Pitcher::Traced { drink, .. } = &mut asked.pitcher {
        drink.name_steps();
        let faults = drink.check(&cupboard);
        if !faults.is_empty() {
            return Err(Problem::invalid(faults));
        }
    }
    if let Some(unknown) = asked.at_hand.iter().find(|id| cupboard.ingredient(id).is_none()) {
        let message = format!("There is no ingredient “{unknown}” in the cupboard.");
        return Err(FieldError { field: "at_hand".into(), message }.into());
    }
    Ok(web::Json(balance::correct(&cupboard, &asked)?))
}

/// Put one ingredient in another's place, at equal sweetness and acidity.
#[utoipa::path(tag = "compute", request_body = Swap, responses(
    (status = 200, body = Swapped), (status = "4XX", body = Problem)))]
#[post("/api/compute/swap")]
pub(super) async fn swap(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Swapped>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
        ingredient: String,
    }
    let cupboard = state.cupboard();
    let (drink, Rest { step, ingredient }) = read_with_drink(body, &cupboard)?;
    Ok(web::Json(balance::swap(&drink, &cupboard, &step, &ingredient)?))
}

/// Where a drink may land with fruit that turns out otherwise; none while there is nothing to drink.
#[utoipa::path(tag = "compute", request_body = Whole, responses(
    (status = 200, body = Option<Spread>), (status = "4XX", body = Problem)))]
#[post("/api/compute/spread")]
pub(super) async fn spread(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Option<Spread>>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {}
    let cupboard = state.cupboard();
    let (drink, Rest {}) = read_with_drink(body, &cupboard)?;
    // The same drink lands in the same cloud: its own text is the seed.
    let mut text = DefaultHasher::new();
    serde_json::to_string(&drink.steps).unwrap_or_default().hash(&mut text);
    let mut chance = StdRng::seed_from_u64(text.finish());
    let found = web::block(move || chance::spread(&drink, &cupboard, RUNS, &mut chance))
        .await
        .map_err(|_| Problem::internal())?;
    Ok(web::Json(found))
}

/// What is drawn by when in a step that takes time; none where nothing is drawn.
#[utoipa::path(tag = "compute", request_body = OfStep, responses(
    (status = 200, body = Option<Steeping>), (status = "4XX", body = Problem)))]
#[post("/api/compute/steeping")]
pub(super) async fn steeping(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Option<Steeping>>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
    }
    let cupboard = state.cupboard();
    let (drink, Rest { step }) = read_with_drink(body, &cupboard)?;
    Ok(web::Json(study::steeping(&drink, &cupboard, &step)))
}

/// What a volume measured after a step teaches.
#[utoipa::path(tag = "compute", request_body = Measured, responses(
    (status = 200, body = Lesson), (status = "4XX", body = Problem)))]
#[post("/api/compute/measured")]
pub(super) async fn measured(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Lesson>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
        volume: Amount,
    }
    let cupboard = state.cupboard();
    let (drink, Rest { step, volume }) = read_with_drink(body, &cupboard)?;
    let ml = volume.as_millilitres().ok_or_else(|| FieldError {
        field: "volume".into(),
        message: format!("“{volume}” is no volume. Say it in ml, l or cups."),
    })?;
    Ok(web::Json(study::learn(&drink, &cupboard, &step, Millilitres(ml))?))
}

/// Work a syrup out.
#[utoipa::path(tag = "compute", request_body = SyrupAsked, responses(
    (status = 200, body = Syrup), (status = "4XX", body = Problem)))]
#[post("/api/compute/syrup")]
pub(super) async fn syrup(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Syrup>, Problem> {
    let asked: SyrupAsked = read_json(body)?;
    Ok(web::Json(study::syrup(&state.cupboard(), &asked)?))
}
