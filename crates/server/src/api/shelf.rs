//! How the shelf itself is, what was put aside, and what lies in the deleted drinks.

use actix_web::{HttpResponse, delete, get, web};
use keen_formats::{SHELF, ShelfFile};
use keen_store::{BIN_DAYS, Condition, StoreError};
use serde::Serialize;
use utoipa::ToSchema;

use super::paging::PageQuery;
use super::{Problem, State};

/// The condition of the data file.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShelfCondition {
    condition: ConditionName,
    /// The meaning and the remedy; missing if all is well.
    message: Option<String>,
    /// Texts that couldn't be read and were set aside unchanged.
    set_aside: Vec<SetAsideView>,
}

/// The condition of the data file.
#[derive(Debug, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum ConditionName {
    Sound,
    ReadOnly,
    Damaged,
}

/// A text that couldn't be read.
#[derive(Debug, Serialize, ToSchema)]
struct SetAsideView {
    id: i64,
    /// The kind of document: `kitchen`, `choices`.
    what: String,
    /// Why it can't be read.
    why: String,
    /// When it was set aside, RFC 3339.
    at: String,
}

/// A deleted drink.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BinEntry {
    id: String,
    name: String,
    /// When it was deleted, RFC 3339.
    removed_at: String,
    /// Days left in which it can be restored.
    days_left: i64,
}

/// A file to be saved.
pub(super) fn file(name: &str, text: String) -> HttpResponse {
    HttpResponse::Ok()
        .content_type("application/json")
        .insert_header(("content-disposition", format!("attachment; filename=\"{name}\"")))
        .body(text)
}

/// The condition of the data file.
#[utoipa::path(operation_id = "read_condition", tag = "shelf", responses((status = 200, body = ShelfCondition)))]
#[get("/api/shelf")]
pub(super) async fn condition(
    state: web::Data<State>,
) -> Result<web::Json<ShelfCondition>, Problem> {
    let (condition, message) = match state.store.condition() {
        Condition::Sound => (ConditionName::Sound, None),
        Condition::ReadOnly => {
            (ConditionName::ReadOnly, Some(StoreError::ReadOnly(state.store.folder()).to_string()))
        }
        Condition::Damaged(what) => {
            let data = state.store.folder();
            let way_back = web::block(move || crate::house::way_back(&data)).await;
            let way_back = way_back.map_err(|_| Problem::busy())?;
            let message = format!("{} {way_back}", StoreError::Damaged(what));
            (ConditionName::Damaged, Some(message))
        }
    };
    let all = state.with_store(keen_store::Store::all_set_aside).await;
    // A damaged shelf, or one of old tables, has nothing to show here.
    let aside = all.unwrap_or_default().into_iter().map(|it| SetAsideView {
        id: it.id,
        what: it.what,
        why: it.why,
        at: it.at,
    });
    Ok(web::Json(ShelfCondition { condition, message, set_aside: aside.collect() }))
}

/// Download all readable drinks as one file.
#[utoipa::path(operation_id = "rescue_drinks", tag = "shelf", responses(
    (status = 200, body = String, content_type = "application/json")))]
#[get("/api/shelf/rescue")]
pub(super) async fn rescue(state: web::Data<State>) -> Result<HttpResponse, Problem> {
    let rescued = state.with_store(keen_store::Store::rescue).await?;
    let documents =
        rescued.documents.into_iter().map(|(key, body)| (key, ShelfFile::text(body))).collect();
    let drinks = rescued.drinks.into_iter().map(|kept| ShelfFile::text(kept.body)).collect();
    let shelf = ShelfFile { drinks, documents, lost: rescued.lost };
    Ok(file("keen-pitcher-shelf.json", SHELF.write(&shelf)))
}

/// A text that was set aside, as a file.
#[utoipa::path(operation_id = "download_set_aside", tag = "shelf", responses(
    (status = 200, body = String, content_type = "application/json"),
    (status = 404, body = Problem)))]
#[get("/api/shelf/set-aside/{id}")]
pub(super) async fn set_aside(
    state: web::Data<State>,
    id: web::Path<i64>,
) -> Result<HttpResponse, Problem> {
    let all = state.with_store(keen_store::Store::all_set_aside).await?;
    let found = all.into_iter().find(|it| it.id == *id).ok_or(StoreError::NotFound)?;
    Ok(file(&format!("{}.json", found.what), found.body))
}

/// Delete a text that was set aside.
#[utoipa::path(operation_id = "delete_set_aside", tag = "shelf", responses((status = 204), (status = 404, body = Problem)))]
#[delete("/api/shelf/set-aside/{id}")]
pub(super) async fn let_go(
    state: web::Data<State>,
    id: web::Path<i64>,
) -> Result<HttpResponse, Problem> {
    state.with_store(move |store| store.let_go(*id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Deleted drinks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DeletedDrinks {
    /// The deleted drinks, the latest first.
    drinks: Vec<BinEntry>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// Deleted drinks, which can be restored for thirty days; the last deleted first.
#[utoipa::path(operation_id = "list_deleted_drinks", tag = "shelf", params(PageQuery), responses((status = 200, body = inline(DeletedDrinks))))]
#[get("/api/bin")]
pub(super) async fn bin(
    state: web::Data<State>,
    query: web::Query<PageQuery>,
) -> Result<web::Json<DeletedDrinks>, Problem> {
    let now = jiff::Timestamp::now();
    let (all, next) = query.page().of(state.with_store(keen_store::Store::bin).await?);
    let drinks = all.into_iter().map(|it| {
        let since = it.removed_at.parse::<jiff::Timestamp>().unwrap_or(now);
        BinEntry {
            id: it.drink.id,
            name: it.drink.name,
            days_left: (BIN_DAYS - now.duration_since(since).as_hours() / 24).clamp(0, BIN_DAYS),
            removed_at: it.removed_at,
        }
    });
    Ok(web::Json(DeletedDrinks { drinks: drinks.collect(), next }))
}
