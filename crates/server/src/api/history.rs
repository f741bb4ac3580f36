//! What became of a drink: its versions, and its batches side by side.

use actix_web::{HttpResponse, get, post, put, web};
use keen_core::balance::{BalanceMap, Profile, Spot};
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use keen_core::history::{Column, PastBatch, Saying, difference, what_they_say};
use keen_core::trace::Trace;
use keen_store::{Draft, KeptVersion, StoreError, Wanted};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::batches::Read;
use super::changes::Changed;
use super::desk::{Asker, By};
use super::kept_drink::{DrinkView, kept_drink, view};
use super::{Body, Problem, State, now};

/// Batches that are looked at together.
const MOST: usize = 24;

/// A saved state of a drink.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct VersionView {
    version: i64,
    /// When it was saved, RFC 3339.
    since: String,
    /// The name of the version; empty if it has none.
    name: String,
    /// How many batches were started on it.
    made: i64,
    /// Whether this is the present state.
    now: bool,
    /// The changes in this version, in words; empty for the first saved version.
    changes: Vec<String>,
    /// Its place on the map; missing while there is nothing to drink, or if it can no longer be read.
    point: Option<Spot>,
    /// Whether it can be read.
    readable: bool,
}

fn spot(drink: &Drink, cupboard: &Cupboard) -> Option<Spot> {
    let trace = Trace::run(drink, cupboard);
    let profile = trace.outcome().and_then(Profile::of);
    let point = BalanceMap::of(drink.family, profile.as_ref()).point?;
    Some(point.spot())
}

/// A drink's saved states.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Versions {
    /// The present one first.
    versions: Vec<VersionView>,
}

/// A drink's saved states, the present one first, each with its changes.
#[utoipa::path(tag = "drinks", responses(
    (status = 200, body = inline(Versions)), (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/versions")]
pub(super) async fn list_versions(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<Versions>, Problem> {
    let kept = state.with_store(move |store| store.versions(&id)).await?;
    let cupboard = state.cupboard();
    let told = move |_: &_| {
        let drinks: Vec<Option<Drink>> = kept.iter().map(|v| kept_drink(&v.body).ok()).collect();
        let all = kept.into_iter().enumerate().map(|(at, kept)| {
            let is = drinks[at].as_ref();
            let was = drinks[at + 1..].iter().flatten().next();
            VersionView {
                changes: is
                    .zip(was)
                    .map_or_else(Vec::new, |(is, was)| difference(was, is, &cupboard)),
                point: is.and_then(|drink| spot(drink, &cupboard)),
                readable: is.is_some(),
                version: kept.version,
                since: kept.since,
                name: kept.name,
                made: kept.made,
                now: kept.now,
            }
        });
        Ok(Versions { versions: all.collect() })
    };
    state.desk.ask(asker, told).await.map(web::Json)
}

impl State {
    async fn version(&self, id: &str, version: i64) -> Result<KeptVersion, Problem> {
        let id = id.to_owned();
        let all = self.with_store(move |store| store.versions(&id)).await?;
        Ok(all.into_iter().find(|v| v.version == version).ok_or(StoreError::NotFound)?)
    }
}

/// A drink as it was at a version.
#[utoipa::path(tag = "drinks", responses(
    (status = 200, body = Drink), (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/versions/{version}")]
pub(super) async fn read_version(
    state: web::Data<State>,
    path: web::Path<(String, i64)>,
) -> Result<web::Json<Drink>, Problem> {
    let (id, version) = path.into_inner();
    let kept = state.version(&id, version).await?;
    kept_drink(&kept.body).map(web::Json).map_err(|why| Problem::damaged_drink(&why.to_string()))
}

/// A version's name.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NameVersion {
    /// Up to 60 characters; null clears it.
    name: String,
}

/// Name a version. A named version is never deleted to save space.
#[utoipa::path(tag = "drinks", request_body = inline(NameVersion), responses(
    (status = 204), (status = 404, body = Problem)))]
#[put("/api/drinks/{id}/versions/{version}/name")]
pub(super) async fn name_version(
    state: web::Data<State>,
    path: web::Path<(String, i64)>,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let ((id, version), NameVersion { name }) = (path.into_inner(), body.json()?);
    let name = name.trim().to_owned();
    if name.chars().count() > 60 || name.chars().any(char::is_control) {
        return Err(FieldError::new("name", "Enter a name of up to 60 characters.").into());
    }
    let of = id.clone();
    state.with_store(move |store| store.name_version(&id, version, &name)).await?;
    state.changes.tell_kept(Changed::Drink, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

/// Restore an earlier state as a new version; the present one is saved with the others.
#[utoipa::path(tag = "drinks", responses(
    (status = 200, body = DrinkView), (status = 404, body = Problem)))]
#[post("/api/drinks/{id}/versions/{version}/back")]
pub(super) async fn bring_back(
    state: web::Data<State>,
    path: web::Path<(String, i64)>,
    by: By,
) -> Result<web::Json<DrinkView>, Problem> {
    let (id, version) = path.into_inner();
    let kept = state.version(&id, version).await?;
    // It must be one that can be carried out today.
    let drink = keen_formats::read_drink(kept.body.as_bytes(), &state.cupboard())?;
    let text = keen_formats::DRINK.write(&drink);
    let saved = state
        .with_store(move |store| {
            let current = store.drinks().read(&id)?;
            // However short it stood, what is replaced by hand is kept.
            store.keep_now(&id)?;
            let draft = Draft { name: &drink.name, body: &text, now: &now(), key: None };
            store.drinks().save(&id, current.version, draft)
        })
        .await?;
    state.changes.tell_kept(Changed::Drink, &saved.id, Some(saved.version), by.0);
    view(&saved).map(web::Json).map_err(|why| Problem::damaged_drink(&why.to_string()))
}

/// A batch compared with the recipe.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BatchColumn {
    /// The batch's id.
    id: String,
    /// When it was started, RFC 3339.
    begun_at: String,
    /// Its rating, 1 to 5.
    rating: Option<i64>,
    /// When its picture was added, RFC 3339; missing if it has no picture.
    picture: Option<String>,
    #[serde(flatten)]
    column: Column,
}

/// A drink's batches side by side.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct HistoryView {
    /// The batches, the newest first.
    batches: Vec<BatchColumn>,
    /// The total number.
    total: i64,
    /// The present recipe.
    written: Column,
    /// The findings from all batches.
    says: Vec<Saying>,
    /// The readings of all its batches.
    readings: i64,
    /// How many of them were within the expected range.
    inside: i64,
    /// Figures that newer tables have changed, to show once.
    figures_changed: Option<String>,
}

/// The batches of a drink beside what was written for them, and what they say together. Practice isn't counted.
#[utoipa::path(tag = "batches", responses(
    (status = 200, body = HistoryView), (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/history")]
pub(super) async fn read_history(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<HistoryView>, Problem> {
    let of = id.clone();
    let drink = state.with_store(move |store| store.drinks().read(&of)).await?;
    let mut anew = Vec::new();
    // What can't be read is told below.
    if state.summary_noting(&drink, &mut anew).is_ok() {
        state.note_figures(anew).await;
    }
    let (figures_changed, kept, predicted, total) = state
        .with_store(move |store| {
            let told = store.known_figures(&id)?.and_then(|known| known.told);
            let wanted = Wanted { drink: Some(&id), made: true, ..Wanted::default() };
            let found = store.batches(&wanted, MOST)?;
            let whole = found.iter().map(|b| store.batch(&b.id)).collect::<Result<Vec<_>, _>>()?;
            Ok((told, whole, store.predicted(Some(&id))?, store.facts(&id)?.made))
        })
        .await?;
    let drink = kept_drink(&drink.body).map_err(|why| Problem::damaged_drink(&why.to_string()))?;
    let cupboard = state.cupboard();
    let told = move |_: &_| {
        // One that can't be read is told in the list of batches, and hides no other.
        let read: Vec<Read> = kept.into_iter().filter_map(|kept| Read::of(kept).ok()).collect();
        let mut past: Vec<PastBatch> = Vec::new();
        let mut columns = Vec::new();
        let mut batches = Vec::new();
        for it in read {
            let (entry, one) = it.past();
            let column = one.column();
            columns.push(column.clone());
            batches.push(BatchColumn {
                column,
                id: entry.id,
                begun_at: entry.begun_at,
                rating: entry.rating,
                picture: entry.picture,
            });
            past.push(one);
        }
        past.reverse();
        columns.reverse();
        Ok(HistoryView {
            batches,
            total,
            written: Column::of(&drink, &[], &cupboard),
            says: what_they_say(&past, &columns),
            readings: predicted.readings,
            inside: predicted.inside,
            figures_changed,
        })
    };
    state.desk.ask(asker, told).await.map(web::Json)
}

/// The rating of a batch.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RateBatch {
    /// 1 to 5; null clears it.
    rating: Option<i64>,
}

/// Rate a batch.
#[utoipa::path(tag = "batches", request_body = inline(RateBatch), responses(
    (status = 204), (status = 404, body = Problem)))]
#[put("/api/batches/{id}/rating")]
pub(super) async fn rate_batch(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let RateBatch { rating } = body.json()?;
    if rating.is_some_and(|r| !(1..=5).contains(&r)) {
        return Err(FieldError::new("rating", "Enter 1 to 5.").into());
    }
    let of = id.clone();
    state.with_store(move |store| store.rate_batch(&id, rating)).await?;
    state.changes.tell_kept(Changed::Batch, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

/// A tag.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TagView {
    tag: String,
    /// How many drinks.
    drinks: i64,
}

/// The tags in use.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Tags {
    /// Most used first.
    tags: Vec<TagView>,
}

/// All tags, most used first.
#[utoipa::path(tag = "drinks", responses((status = 200, body = inline(Tags))))]
#[get("/api/tags")]
pub(super) async fn list_tags(state: web::Data<State>) -> Result<web::Json<Tags>, Problem> {
    let all = state.with_store(keen_store::Store::tags).await?;
    let tags = all.into_iter().map(|(tag, drinks)| TagView { tag, drinks }).collect();
    Ok(web::Json(Tags { tags }))
}

/// A drink's tags.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetTags {
    /// Up to 12, each of up to 30 characters.
    tags: Vec<String>,
}

/// Set a drink's tags.
#[utoipa::path(tag = "drinks", request_body = inline(SetTags), responses(
    (status = 204), (status = 404, body = Problem)))]
#[put("/api/drinks/{id}/tags")]
pub(super) async fn set_tags(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let SetTags { tags } = body.json()?;
    let odd = |t: &String| t.chars().count() > 30 || t.chars().any(char::is_control);
    if tags.len() > 12 || tags.iter().any(odd) {
        return Err(FieldError::new("tags", "Enter up to 12 tags of up to 30 characters.").into());
    }
    let of = id.clone();
    state.with_store(move |store| store.set_tags(&id, &tags)).await?;
    state.changes.tell_kept(Changed::Drink, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}
