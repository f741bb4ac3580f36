//! What is on the go: every batch that isn't finished, with what waits in it and what is next.

use actix_web::{get, web};
use keen_core::batch::Progress;
use keen_store::Wanted;
use serde::Serialize;
use utoipa::ToSchema;

use super::super::desk::Asker;
use super::super::{Problem, State};
use super::{OfPlan, Read};

/// Batches on the go that are looked at; nobody makes more at once.
const MOST: usize = 12;

/// Batches in progress.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Going {
    /// The batches, the next to need hands first.
    batches: Vec<GoingBatch>,
}

/// A batch in progress.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct GoingBatch {
    id: String,
    /// The drink's id on the shelf.
    drink: String,
    name: String,
    /// When it was started, RFC 3339.
    begun_at: String,
    practice: bool,
    /// The plan that it belongs to.
    plan: Option<OfPlan>,
    /// The colour of the finished drink.
    colour: Option<String>,
    /// The present time, minutes since it started.
    now: f64,
    /// The speed of its clock: 60 is a minute for each second.
    rate: f64,
    /// When it will be ready if you go on now, minutes since it started.
    ready_at: f64,
    /// The next step to do now, if any.
    next: Option<String>,
    /// The waits in progress, the first to end first.
    waits: Vec<Wait>,
}

/// A wait in progress.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Wait {
    /// The step's id.
    step: String,
    sentence: String,
    /// When it started, minutes since the batch started.
    since: f64,
    /// The time when it ends.
    until: f64,
}

fn going_batch(read: Read) -> GoingBatch {
    let report = read.report();
    let sentence = |id: &str| {
        let frame = report.report.frames.iter().find(|f| f.step == id);
        frame.map(|f| f.sentence.clone()).unwrap_or_default()
    };
    let running = report.steps.iter().filter(|s| s.state == Progress::Running);
    let mut waits: Vec<Wait> = running
        .map(|s| Wait {
            step: s.id.clone(),
            sentence: sentence(&s.id),
            since: s.since.unwrap_or(0.0),
            until: s.until.unwrap_or(0.0),
        })
        .collect();
    waits.sort_by(|a, b| a.until.total_cmp(&b.until));
    GoingBatch {
        now: read.now(),
        rate: read.clock.map_or(1.0, |c| c.rate),
        ready_at: report.ready_at,
        next: report.next.as_deref().map(sentence),
        colour: report.report.profile.as_ref().map(|p| p.colour.clone()),
        waits,
        plan: read.plan,
        id: read.kept.id,
        drink: read.kept.drink,
        name: read.kept.name,
        begun_at: read.kept.begun_at,
        practice: read.kept.practice,
    }
}

/// Batches in progress, the one that needs hands first, first.
#[utoipa::path(tag = "batches", responses((status = 200, body = Going)))]
#[get("/api/going")]
pub(in crate::api) async fn list_going(
    state: web::Data<State>,
    asker: Asker,
) -> Result<web::Json<Going>, Problem> {
    let read = state
        .with_store(|store| {
            let all = store.batches(&Wanted { going: true, ..Wanted::default() }, MOST)?;
            let found = all.iter().map(|kept| store.batch(&kept.id)).collect::<Result<Vec<_>, _>>();
            // One that can't be read is in the list of batches, and is no reason to show none.
            let read = found?.into_iter().filter_map(|kept| Read::of(kept).ok());
            Ok(read.map(|read| read.served_as_planned(store)).collect::<Vec<_>>())
        })
        .await?;
    let shown = move |_: &_| {
        let mut batches: Vec<GoingBatch> = read.into_iter().map(going_batch).collect();
        let needed = |b: &GoingBatch| match (&b.next, b.waits.first()) {
            (Some(_), _) => f64::NEG_INFINITY,
            (None, Some(wait)) => (wait.until - b.now) / b.rate.max(1e-9),
            (None, None) => f64::INFINITY,
        };
        batches.sort_by(|a, b| needed(a).total_cmp(&needed(b)));
        Ok(Going { batches })
    };
    state.desk.ask(asker, shown).await.map(web::Json)
}
