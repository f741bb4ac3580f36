//! Batches: makings of a drink. What happens is only ever added to; what a screen shows is worked out from
//! it whenever it is looked at.

use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use keen_core::batch::{BatchReport, Happening, Made, Said, doubtful};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_core::drink::{Drink, FieldError};
use keen_core::work::Work;
use keen_formats::Format;
use keen_store::{KeptBatch, KeptHappening, Saying};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::{Asker, By};
use super::{Body, Problem, State, now};

/// Version 1 is the only one so far.
const BATCH: Format = Format { name: "keen-pitcher/batch", field: "batch", steps: &[] };
const HAPPENING: Format = Format { name: "keen-pitcher/happening", field: "happening", steps: &[] };

/// What a batch begins with: the drink and the kitchen as they were.
#[derive(Debug, Clone, Serialize, Deserialize)]
struct Snapshot {
    drink: Drink,
    kitchen: Kitchen,
}

/// A line of the list of batches.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BatchEntry {
    id: String,
    /// The drink's id on the shelf.
    drink: String,
    name: String,
    /// When it was begun, RFC 3339.
    begun_at: String,
    /// When it was finished, RFC 3339.
    finished_at: Option<String>,
}

/// Some batches.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Batches {
    /// Those that go on first, then the last begun.
    batches: Vec<BatchEntry>,
}

/// Which batches.
#[derive(Debug, Deserialize, IntoParams)]
pub(crate) struct BatchesQuery {
    /// Those of one drink, by its id on the shelf.
    drink: Option<String>,
}

/// A batch as it stands.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BatchView {
    #[serde(flatten)]
    entry: BatchEntry,
    /// What time it is, minutes since it was begun.
    now: f64,
    /// How it stands.
    stands: BatchReport,
    /// Everything that was said of it, in its order.
    said: Vec<Said>,
    /// The places in that list of what was taken back.
    taken_back: Vec<usize>,
}

/// A batch that is begun.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct BeginBatch {
    /// The drink's id on the shelf.
    of: String,
    /// The drink at the size that is made.
    drink: Drink,
}

/// Something that is said of a batch.
#[derive(Debug, Deserialize, ToSchema)]
pub(crate) struct Say {
    /// What happened.
    what: Happening,
    /// A reading that is out of all likelihood is believed all the same.
    #[serde(default)]
    sure: bool,
}

/// A batch as it is kept, read.
struct Read {
    kept: KeptBatch,
    drink: Drink,
    cupboard: Cupboard,
    said: Vec<Said>,
}

fn minutes_since(begun: &str, at: &str) -> f64 {
    let read = |text: &str| text.parse::<Timestamp>().ok();
    read(begun).zip(read(at)).map_or(0.0, |(a, b)| (b.as_millisecond() - a.as_millisecond()) as f64)
        / 60_000.0
}

impl Read {
    fn of((kept, happenings): (KeptBatch, Vec<KeptHappening>)) -> Result<Self, Problem> {
        let told = |why: keen_formats::FormatError| Problem::damaged_batch(&why.to_string());
        let Snapshot { drink, kitchen } = BATCH.read(&kept.body).map_err(told)?;
        let mut said: Vec<Said> = Vec::with_capacity(happenings.len());
        for happening in happenings {
            let what: Happening = HAPPENING.read(&happening.body).map_err(told)?;
            // A clock that was put back makes nothing happen before what was said before it.
            let at =
                minutes_since(&kept.begun_at, &happening.at).max(said.last().map_or(0.0, |s| s.at));
            said.push(Said { at, what });
        }
        Ok(Self { kept, drink, cupboard: Cupboard::of(&kitchen), said })
    }

    fn made(&self) -> Made {
        Made::of(&self.drink, &self.said, &self.cupboard)
    }

    fn now(&self, at: &str) -> f64 {
        minutes_since(&self.kept.begun_at, at).max(self.said.last().map_or(0.0, |s| s.at))
    }

    fn view(self) -> BatchView {
        let made = self.made();
        let stands = BatchReport::of(&self.drink, &made, &self.cupboard);
        let taken_back = self.said.iter().filter_map(|s| match s.what {
            Happening::TakenBack { of } => Some(of),
            _ => None,
        });
        BatchView {
            now: self.now(&now()),
            stands,
            taken_back: taken_back.collect(),
            said: self.said,
            entry: entry(self.kept),
        }
    }
}

fn entry(kept: KeptBatch) -> BatchEntry {
    BatchEntry {
        id: kept.id,
        drink: kept.drink,
        name: kept.name,
        begun_at: kept.begun_at,
        finished_at: kept.finished_at,
    }
}

/// Batches, those that go on first.
#[utoipa::path(tag = "batches", params(BatchesQuery), responses((status = 200, body = Batches)))]
#[get("/api/batches")]
pub(super) async fn list_batches(
    state: web::Data<State>,
    query: web::Query<BatchesQuery>,
) -> Result<web::Json<Batches>, Problem> {
    const MOST: usize = 200;
    let of = query.into_inner().drink;
    let found = state.with_store(move |store| store.batches(of.as_deref(), MOST)).await?;
    Ok(web::Json(Batches { batches: found.into_iter().map(entry).collect() }))
}

/// Begin a batch. Said twice under one `Idempotency-Key` it is begun once.
#[utoipa::path(tag = "batches", request_body = BeginBatch, responses(
    (status = 201, body = BatchView)))]
#[post("/api/batches")]
pub(super) async fn begin_batch(
    state: web::Data<State>,
    asker: Asker,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        of: String,
        drink: Value,
    }
    let Parts { of, drink } = body.json()?;
    if of.chars().count() > 100 {
        let message = "That is no drink of the shelf.".into();
        return Err(FieldError { field: "of".into(), message }.into());
    }
    let cupboard = state.cupboard();
    let drink = keen_formats::drink_from_value(drink, &cupboard)?;
    if drink.steps.is_empty() {
        let message = "Nothing has to be done for this drink yet.".into();
        return Err(FieldError { field: "drink.steps".into(), message }.into());
    }
    let new = KeptBatch {
        id: uuid::Uuid::now_v7().to_string(),
        drink: of,
        name: drink.name.clone(),
        body: BATCH.write(&Snapshot { drink, kitchen: cupboard.kitchen().clone() }),
        begun_at: now(),
        finished_at: None,
    };
    let kept = state.with_store(move |store| store.begin_batch(&new, key.0.as_deref())).await?;
    state.changes.tell_kept(Changed::Batch, &kept.id, None, by.0);
    let read = state.batch(&kept.id).await?;
    let view = state.desk.ask(asker, move |_| Ok(read.view())).await?;
    Ok(HttpResponse::Created()
        .insert_header(("location", format!("/api/batches/{}", kept.id)))
        .json(view))
}

impl State {
    async fn batch(&self, id: &str) -> Result<Read, Problem> {
        let id = id.to_owned();
        Read::of(self.with_store(move |store| store.batch(&id)).await?)
    }
}

/// A batch as it stands.
#[utoipa::path(tag = "batches", responses(
    (status = 200, body = BatchView), (status = 404, body = Problem)))]
#[get("/api/batches/{id}")]
pub(super) async fn read_batch(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<BatchView>, Problem> {
    let read = state.batch(&id).await?;
    state.desk.ask(asker, move |_| Ok(read.view())).await.map(web::Json)
}

/// Say what happened. When it is answered it is on disk; said twice under one `Idempotency-Key` it counts
/// once. A reading that is out of all likelihood is asked about first (409, `doubtful`).
#[utoipa::path(tag = "batches", request_body = Say, responses(
    (status = 200, body = BatchView), (status = 404, body = Problem),
    (status = 409, body = Problem)))]
#[post("/api/batches/{id}/happenings")]
pub(super) async fn say(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<BatchView>, Problem> {
    /// How often it is thought over again when something else was said meanwhile.
    const TRIES: usize = 8;
    let Say { what, sure } = body.json()?;
    let known = match key.0.clone() {
        None => false,
        Some(key) => {
            let id = id.clone();
            state.with_store(move |store| store.was_said(&id, &key)).await?
        }
    };
    for _ in 0..if known { 0 } else { TRIES } {
        let read = state.batch(&id).await?;
        let at = now();
        let minutes = read.now(&at);
        let made = read.made();
        made.allows(&what, &read.said, (minutes, minutes), &read.cupboard)?;
        if let Happening::Reading { vessel, quantity, value, error } = &what
            && !sure
            && let Some(reading) = made.reading(vessel, *quantity, *value, *error)
        {
            let cupboard = read.cupboard.clone();
            let question = move |_: &Work| Ok(doubtful(&made, &reading, &cupboard));
            if let Some(question) = state.desk.ask(asker.clone(), question).await? {
                return Err(Problem::doubtful(&question));
            }
        }
        let finishes = match &what {
            Happening::Finished { .. } => Some(true),
            Happening::TakenBack { of } => {
                let was = read.said.get(*of).map(|s| &s.what);
                matches!(was, Some(Happening::Finished { .. })).then_some(false)
            }
            _ => None,
        };
        let after = i64::try_from(read.said.len()).unwrap_or(i64::MAX);
        let (text, id, key) = (HAPPENING.write(&what), id.clone(), key.0.clone());
        let said = state
            .with_store(move |store| {
                let key = key.as_deref();
                store.say(&id, Saying { body: &text, at: &at, key, after, finishes })
            })
            .await?;
        if said.is_some() {
            break;
        }
    }
    state.changes.tell_kept(Changed::Batch, &id, None, by.0);
    let read = state.batch(&id).await?;
    state.desk.ask(asker, move |_| Ok(read.view())).await.map(web::Json)
}
