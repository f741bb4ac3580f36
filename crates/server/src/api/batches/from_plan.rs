use actix_web::{HttpResponse, post, web};
use keen_core::drink::FieldError;
use keen_core::work::{Work, Worktop};
use serde::Deserialize;
use utoipa::ToSchema;

use super::super::body::SaidUnder;
use super::super::desk::{Asker, By};
use super::super::plans::{serving_of, sized, view};
use super::super::{Body, Problem, State};
use super::{Beginning, OfPlan};

/// The drink of a plan to make.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MakeFromPlan {
    /// Its entry in the plan.
    entry: String,
}

/// Start a batch of a plan's drink, at the plan's size.
#[utoipa::path(tag = "batches", request_body = inline(MakeFromPlan), responses(
    (status = 201, body = super::BatchView), (status = 404, body = Problem)))]
#[post("/api/plans/{id}/make")]
pub(in crate::api) async fn make_from_plan(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let MakeFromPlan { entry } = body.json()?;
    let of = id.clone();
    let kept = state.with_store(move |store| store.plans().read(&of)).await?;
    let gathered = state.gather(view(kept)?.plan).await?;
    let fault = |message: String| FieldError { field: "entry".into(), message };
    let place = gathered.file.drinks.iter().position(|d| d.id == entry);
    let place = place.ok_or_else(|| fault("There is no such drink in this plan.".into()))?;
    let planned = gathered.file.drinks[place].clone();
    let drink = gathered.drinks[place].clone().map_err(fault)?;
    let serve_at = serving_of(&gathered.file, &planned)?;
    let plan = Some(OfPlan { id: id.into_inner(), entry, serve_at });
    let cupboard = state.cupboard();
    let of = planned.drink.clone();
    let at_size = move |work: &Work| {
        let worktop = Worktop::new(&cupboard, work);
        Ok(sized(&drink, &planned, worktop)
            .map_err(|message| FieldError { field: "entry".into(), message })?)
    };
    let drink = state.desk.ask(asker.clone(), at_size).await?;
    state.begin(Beginning { of, drink, seed: None, plan }, asker, key, by).await
}
