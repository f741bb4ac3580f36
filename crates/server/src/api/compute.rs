use actix_web::{post, web};
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use keen_core::scale::{self, Size};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Body, Problem, read_body, read_json};

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

/// Run a drink: frames, vessels, lines, profile and map.
#[utoipa::path(tag = "compute", request_body = Drink, responses(
    (status = 200, body = DrinkReport), (status = "4XX", body = Problem)))]
#[post("/api/compute/trace")]
pub(super) async fn trace(body: Body) -> Result<web::Json<DrinkReport>, Problem> {
    let drink = keen_formats::read_drink(&read_body(body)?)?;
    Ok(web::Json(DrinkReport::of(&drink, Cupboard::builtin())))
}

/// Change a drink to another size.
#[utoipa::path(tag = "compute", request_body = Resize, responses(
    (status = 200, body = Resized), (status = "4XX", body = Problem)))]
#[post("/api/compute/size")]
pub(super) async fn size(body: Body) -> Result<web::Json<Resized>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        drink: serde_json::Value,
        size: Size,
    }
    let parts: Parts = read_json(body)?;
    let cupboard = Cupboard::builtin();
    let drink = keen_formats::drink_from_value(parts.drink, cupboard)?;
    let drink = scale::resize(&drink, cupboard, &parts.size)?;
    let faults = drink.check(cupboard);
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let report = DrinkReport::of(&drink, cupboard);
    Ok(web::Json(Resized { drink, report }))
}
