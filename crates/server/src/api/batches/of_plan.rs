//! A plan with what is made for it: when to start, worked out on what has happened so far, and as a calendar file.

use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use keen_core::batch::facts;
use keen_core::work::{Work, Worktop};
use keen_formats::{PlanFile, calendar, plan_from_value};
use keen_store::{Store, StoreError, Wanted};
use serde::Deserialize;
use serde_json::Value;
use utoipa::ToSchema;

use super::super::desk::Asker;
use super::super::plans::{Gathered, MadeForIt, PlanAnswer, entries, view};
use super::super::{Body, Problem, State};
use super::{OfPlan, Read};

/// A plan to work out.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct AskPlan {
    plan: PlanFile,
    /// Whether to look for changes that would help.
    #[serde(default)]
    help: bool,
    /// The id of the saved plan. The plan then follows its batches: finished tasks have the time at which they were
    /// done, and late ones move the tasks after them.
    #[serde(default)]
    id: Option<String>,
}

/// Work out a plan: when to start, what each cook, burner and vessel does when, and what doesn't fit.
#[utoipa::path(operation_id = "work_out_plan", tag = "compute", request_body = inline(AskPlan), responses(
    (status = 200, body = PlanAnswer)))]
#[post("/api/compute/plan")]
pub(in crate::api) async fn work_out(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<PlanAnswer>, Problem> {
    let (plan, help, id) = asked(&body)?;
    let gathered = gather(&state, plan, id).await?;
    let cupboard = state.cupboard();
    let worked_out =
        move |work: &Work| Ok(gathered.worked_out(Worktop::new(&cupboard, work), help)?);
    state.desk.ask(asker, worked_out).await.map(web::Json)
}

fn asked(body: &Body) -> Result<(PlanFile, bool, Option<String>), Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        plan: Value,
        #[serde(default)]
        help: bool,
        #[serde(default)]
        id: Option<String>,
    }
    let Parts { plan, help, id } = body.json()?;
    Ok((plan_from_value(plan)?, help, id))
}

/// A plan as a calendar file (RFC 5545) with alarms. Imported again, it moves the entries that are there.
#[utoipa::path(tag = "plans", responses(
    (status = 200, body = String, content_type = "text/calendar"), (status = 404, body = Problem)))]
#[get("/api/plans/{id}/calendar")]
pub(in crate::api) async fn plan_calendar(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let kept = state.with_store(move |store| store.plans().read(&id)).await?;
    let (version, changed_at) = (kept.version, kept.changed_at.clone());
    let view = view(kept)?;
    let gathered = gather(&state, view.plan, Some(view.id.clone())).await?;
    let cupboard = state.cupboard();
    let worked_out = move |work: &Work| {
        let answer = gathered.worked_out(Worktop::new(&cupboard, work), false)?;
        Ok((gathered, answer))
    };
    let (gathered, answer) = state.desk.ask(asker, worked_out).await?;
    let changed = changed_at.parse().unwrap_or(Timestamp::UNIX_EPOCH);
    let entries = entries(&view.id, &gathered.file, &answer);
    let text = calendar(&gathered.file.name, &entries, version, changed);
    Ok(HttpResponse::Ok()
        .content_type("text/calendar; charset=utf-8")
        .insert_header(("content-disposition", "attachment; filename=\"plan.ics\""))
        .body(text))
}

/// A plan with its drinks and, where it is saved, with what is made for it.
async fn gather(state: &State, plan: PlanFile, id: Option<String>) -> Result<Gathered, Problem> {
    let drinks: Vec<String> = plan.drinks.iter().map(|drink| drink.drink.clone()).collect();
    let gathered = state.gather(plan).await?;
    let Some(id) = id else { return Ok(gathered) };
    let made = state.with_store(move |store| made_for(store, &id, &drinks)).await?;
    Ok(Gathered { made, ..gathered })
}

/// Batches of one drink that are looked through for those of a plan.
const MOST: usize = 12;

/// What is made for a plan, or was, of these drinks: for each entry the last batch that was started.
fn made_for(store: &Store, plan: &str, drinks: &[String]) -> Result<Vec<MadeForIt>, StoreError> {
    let mut found: Vec<MadeForIt> = Vec::new();
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
            let Some(OfPlan { id, entry, serve_at }) = read.plan.clone() else { continue };
            if id == plan && found.iter().all(|other| other.entry != entry) {
                let facts = facts(&read.made(), &read.cupboard, &entry);
                let begun_at = read.kept.begun_at.clone();
                found.push(MadeForIt { entry, serve_at, begun_at, facts });
            }
        }
    }
    Ok(found)
}
