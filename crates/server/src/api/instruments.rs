//! What the kitchen's instruments read, and what they are told.

use actix_web::{HttpResponse, get, post, web};
use keen_core::drink::FieldError;
use keen_instruments::Order;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Body, Problem, State};
use crate::instruments::InstrumentView;

/// The instruments.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct InstrumentList {
    instruments: Vec<InstrumentView>,
}

/// A command to an instrument.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "do", rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum Told {
    /// Set a scale to zero.
    Tare,
    /// The pH meter is placed in a buffer.
    Calibrate {
        /// The pH of the buffer.
        with: f64,
    },
    /// Pour onto the simulated scale.
    Pour {
        /// How much, g.
        grams: f64,
    },
    /// Clear the scale.
    Lift,
    /// Drops fall into the simulated acid kit.
    Drop {
        /// How many.
        count: u32,
    },
}

impl State {
    /// The practice kitchen's stand-ins, started if need be.
    fn practice_kitchen(&self) -> Result<(), Problem> {
        self.instruments.practice().map_err(|why| {
            tracing::error!(%why, "the practice kitchen's instruments can't be started");
            Problem::busy()
        })
    }
}

/// Which instruments.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
pub(crate) struct InstrumentsQuery {
    /// Include practice batches.
    #[serde(default)]
    practice: bool,
}

/// The kitchen's instruments and their readings. New readings come with the other changes.
#[utoipa::path(operation_id = "list_instruments", tag = "instruments", params(InstrumentsQuery), responses(
    (status = 200, body = InstrumentList)))]
#[get("/api/instruments")]
pub(super) async fn instruments(
    state: web::Data<State>,
    query: web::Query<InstrumentsQuery>,
) -> Result<web::Json<InstrumentList>, Problem> {
    let practice = query.practice;
    if practice {
        state.practice_kitchen()?;
    }
    let all = state.instruments.all().into_iter();
    let instruments = all.filter(|i| i.practice == practice).collect();
    Ok(web::Json(InstrumentList { instruments }))
}

/// Tell an instrument something.
#[utoipa::path(tag = "instruments", request_body = Told, responses(
    (status = 204), (status = 404, body = Problem)))]
#[post("/api/instruments/{id}")]
pub(super) async fn tell_instrument(
    state: web::Data<State>,
    id: web::Path<String>,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let order = match body.json()? {
        Told::Tare => Order::Tare,
        Told::Calibrate { with } => Order::Calibrate { with },
        Told::Pour { grams } => Order::Pour { grams },
        Told::Lift => Order::Lift,
        Told::Drop { count } => Order::Drop { count },
    };
    if !order.makes_sense() {
        let message = "No instrument shows that value. Check the number.".into();
        return Err(FieldError { field: "order".into(), message }.into());
    }
    if !state.instruments.order(&id, &order) {
        let message = "We can't reach that instrument. Is it switched on?".into();
        return Err(FieldError { field: "instrument".into(), message }.into());
    }
    Ok(HttpResponse::NoContent().finish())
}
