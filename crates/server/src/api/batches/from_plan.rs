use actix_web::{HttpResponse, post, web};
use keen_core::batch::facts;
use keen_core::drink::FieldError;
use keen_core::plan::Fact;
use keen_core::work::{Work, Worktop};
use keen_formats::PlanFile;
use keen_store::{Store, StoreError, Wanted};
use serde::Deserialize;
use utoipa::ToSchema;

use super::super::body::SaidUnder;
use super::super::desk::{Asker, By};
use super::super::plans::{serving_of, sized, view};
use super::super::{Body, Problem, State};
use super::{Beginning, OfPlan, Read, minutes_since};

/// Which drink of a plan is made.
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
    let gathered = state.gather(view(kept)?.plan, None).await?;
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

/// A plan that was moved by less is still the same day's, minutes.
const A_DAY: f64 = 1440.0;
/// Batches of one drink that are looked through for those of a plan.
const MOST: usize = 12;

/// What is made for a plan, or was, of these drinks: for each entry the last batch that was started.
pub(in crate::api) fn made_for(
    store: &Store,
    plan: &str,
    drinks: &[String],
) -> Result<Vec<Read>, StoreError> {
    let mut found: Vec<Read> = Vec::new();
    let mut looked = Vec::new();
    for drink in drinks {
        if looked.contains(&drink) {
            continue;
        }
        looked.push(drink);
        let mut batches =
            store.batches(&Wanted { drink: Some(drink), ..Wanted::default() }, MOST)?;
        batches.sort_by(|a, b| b.begun_at.cmp(&a.begun_at));
        for kept in &batches {
            // One that can't be read is in the list of batches, and moves no plan.
            let Ok(read) = Read::of(store.batch(&kept.id)?) else { continue };
            let entry = |read: &Read| read.plan.as_ref().map(|of| of.entry.clone());
            let of_it = read.plan.as_ref().is_some_and(|of| of.id == plan);
            if of_it && !found.iter().any(|other| entry(other) == entry(&read)) {
                found.push(read);
            }
        }
    }
    Ok(found)
}

impl Read {
    /// What was started of it, in minutes of the plan that it is made for. One that was made for another day, before
    /// the plan was used again, says nothing.
    pub(in crate::api) fn facts(&self, plan: &PlanFile, zero: &str) -> Option<Vec<Fact>> {
        let serves = |of: &OfPlan| {
            let entry = plan.drinks.iter().find(|drink| drink.id == of.entry)?;
            let now = serving_of(plan, entry).ok()?;
            (minutes_since(&of.serve_at, &now).abs() < A_DAY).then(|| of.entry.clone())
        };
        let entry = self.plan.as_ref().and_then(serves)?;
        let begun = minutes_since(zero, &self.kept.begun_at);
        Some(facts(&self.made(), &self.cupboard, &entry, begun))
    }
}
