use actix_web::{HttpResponse, delete, get, post, put, web};
use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use keen_formats::{CardStyle, DRINK, FormatError, card as card_of};
use keen_store::{Draft, Found, Kept, Order, Sought};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::By;
use super::kept_drink::{DrinkView, earlier_of, kept_drink, view, whole_file};
use super::known_figures::HasNow;
use super::paging::Page;
use super::summary::{Summary, summarise};
use super::{Body, Problem, State, now};

/// A drink in the list.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShelfEntry {
    id: String,
    changed_at: String,
    /// Its tags.
    tags: Vec<String>,
    /// How many times it was made.
    made: i64,
    /// When it was last made, RFC 3339.
    last_made: Option<String>,
    /// The median rating of its batches, 1 to 5.
    rating: Option<f64>,
    #[serde(flatten)]
    summary: Summary,
}

/// The list of drinks, or the ones found.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Shelf {
    /// The total number.
    total: usize,
    /// The drinks of this page, in the chosen order.
    drinks: Vec<ShelfEntry>,
    /// The drinks of this page that can't be read; their text can be saved as a file.
    damaged: Vec<DamagedEntry>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// A drink that can't be read.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DamagedEntry {
    id: String,
    /// The name.
    name: String,
    changed_at: String,
    /// Why it can't be read.
    why: String,
}

/// What to look for.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct ShelfQuery {
    /// Part of a name.
    #[serde(default)]
    find: String,
    /// Its tags.
    tag: Option<String>,
    /// Ids of ingredients that all of them have in them, with commas between.
    #[serde(default)]
    with: String,
    /// The order; the last changed first if left out.
    #[serde(default)]
    #[param(inline)]
    sort: SortBy,
    /// How many to skip: `next` of the page before.
    #[serde(default)]
    after: usize,
    /// How many to show at most, 1 to 500; 200 if left out.
    limit: Option<usize>,
}

/// The order of the shelf.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum SortBy {
    /// The last changed first.
    #[default]
    Changed,
    /// By name.
    Name,
    /// The last made first.
    Made,
    /// The best liked first.
    Rating,
}

/// A change to save.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct SaveDrink {
    /// The version that the change was made on.
    version: i64,
    /// The drink to save.
    drink: Drink,
}

fn answer(kept: &Kept) -> Result<web::Json<DrinkView>, Problem> {
    view(kept).map(web::Json).map_err(|error| Problem::damaged_drink(&error.to_string()))
}

impl State {
    pub(super) fn summary(&self, kept: &Kept) -> Result<Summary, FormatError> {
        self.summary_noting(kept, &mut Vec::new())
    }

    /// The same; what was worked out anew has its figures noted.
    pub(super) fn summary_noting(
        &self,
        kept: &Kept,
        anew: &mut Vec<HasNow>,
    ) -> Result<Summary, FormatError> {
        let known = self.summaries.lock().get(&kept.id).cloned();
        if let Some((_, summary)) = known.filter(|(version, _)| *version == kept.version) {
            return Ok(summary);
        }
        let summary = summarise(&kept_drink(&kept.body)?, &self.cupboard());
        self.summaries.lock().insert(kept.id.clone(), (kept.version, summary.clone()));
        if let Some(figures) = summary.figures {
            anew.push(HasNow { drink: kept.id.clone(), version: kept.version, figures });
        }
        Ok(summary)
    }
}

/// The shelf.
#[utoipa::path(operation_id = "list_drinks", tag = "drinks", params(ShelfQuery), responses((status = 200, body = Shelf)))]
#[get("/api/drinks")]
pub(super) async fn list(
    state: web::Data<State>,
    query: web::Query<ShelfQuery>,
) -> Result<web::Json<Shelf>, Problem> {
    let asked = query.into_inner();
    let page = Page::new(asked.after, asked.limit);
    let Found { total, mut first } = state
        .with_store(move |store| {
            let with: Vec<String> = asked
                .with
                .split(',')
                .filter(|id| !id.is_empty())
                .take(8)
                .map(str::to_owned)
                .collect();
            store.drinks().search(&Sought {
                name_has: &asked.find,
                tag: asked.tag.as_deref(),
                ingredients: &with,
                order: match asked.sort {
                    SortBy::Changed => Order::Changed,
                    SortBy::Name => Order::Name,
                    SortBy::Made => Order::Made,
                    SortBy::Rating => Order::Rating,
                },
                after: page.after,
                most: page.sought(),
            })
        })
        .await?;
    let next = page.cut(&mut first);
    let on_shelf = state.clone();
    let (shelf, anew) = web::block(move || {
        let mut shelf = Shelf { total, drinks: Vec::new(), damaged: Vec::new(), next };
        let mut anew = Vec::new();
        for (kept, facts) in first {
            match on_shelf.summary_noting(&kept, &mut anew) {
                Ok(summary) => shelf.drinks.push(ShelfEntry {
                    id: kept.id,
                    changed_at: kept.changed_at,
                    tags: facts.tags,
                    made: facts.made,
                    last_made: facts.last_made,
                    rating: facts.rating,
                    summary,
                }),
                Err(why) => shelf.damaged.push(DamagedEntry {
                    id: kept.id,
                    name: kept.name,
                    changed_at: kept.changed_at,
                    why: why.to_string(),
                }),
            }
        }
        (shelf, anew)
    })
    .await
    .map_err(|_| Problem::busy())?;
    state.note_figures(anew).await;
    Ok(web::Json(shelf))
}

/// Save a new drink, alone or as a file in the open format. Sent twice with the same `Idempotency-Key`, it is saved
/// once.
#[utoipa::path(operation_id = "create_drink", tag = "drinks", request_body = Drink, responses(
    (status = 201, body = DrinkView)))]
#[post("/api/drinks")]
pub(super) async fn create(
    state: web::Data<State>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let drink = keen_formats::read_drink(body.bytes(), &state.cupboard())?;
    let earlier = earlier_of(body.bytes());
    let text = DRINK.write(&drink);
    let id = uuid::Uuid::now_v7().to_string();
    let kept = state
        .with_store(move |store| {
            let key = key.0.as_deref();
            let draft = Draft { name: &drink.name, body: &text, now: &now(), key };
            store.drinks().create_with(&id, draft, &earlier)
        })
        .await?;
    state.changes.tell_kept(Changed::Drink, &kept.id, Some(kept.version), by.0);
    Ok(HttpResponse::Created()
        .insert_header(("location", format!("/api/drinks/{}", kept.id)))
        .json(answer(&kept)?.into_inner()))
}

/// How a card is written.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct CardQuery {
    /// `text`, `markdown` or `json_ld`.
    #[serde(default)]
    #[param(inline)]
    style: CardAs,
}

/// The format of a card.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum CardAs {
    /// Plain text.
    #[default]
    Text,
    /// Markdown.
    Markdown,
    /// A schema.org Recipe.
    JsonLd,
}

/// A drink on a card: as plain text, as Markdown, or as a schema.org Recipe.
#[utoipa::path(operation_id = "read_card", tag = "drinks", params(CardQuery), responses(
    (status = 200, content(
        (String = "text/plain"), (String = "text/markdown"), (String = "application/ld+json"))),
    (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/card")]
pub(super) async fn card(
    state: web::Data<State>,
    id: web::Path<String>,
    query: web::Query<CardQuery>,
) -> Result<HttpResponse, Problem> {
    let kept = state.with_store(move |store| store.drinks().read(&id)).await?;
    let drink = kept_drink(&kept.body).map_err(|why| Problem::damaged_drink(&why.to_string()))?;
    let report = DrinkReport::of(&drink, &state.cupboard());
    let (kind, name, text) = match query.style {
        CardAs::Text => {
            ("text/plain; charset=utf-8", "card.txt", card_of(&drink, &report, CardStyle::Text))
        }
        CardAs::Markdown => (
            "text/markdown; charset=utf-8",
            "card.md",
            card_of(&drink, &report, CardStyle::Markdown),
        ),
        CardAs::JsonLd => (
            "application/ld+json",
            "recipe.jsonld",
            keen_formats::recipe_ld(&drink, &report, &kept.changed_at),
        ),
    };
    Ok(HttpResponse::Ok()
        .content_type(kind)
        .insert_header(("content-disposition", format!("attachment; filename=\"{name}\"")))
        .body(text))
}

/// A drink in your list.
#[utoipa::path(operation_id = "read_drink", tag = "drinks", responses(
    (status = 200, body = DrinkView), (status = 404, body = Problem)))]
#[get("/api/drinks/{id}")]
pub(super) async fn read(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<web::Json<DrinkView>, Problem> {
    answer(&state.with_store(move |store| store.drinks().read(&id)).await?)
}

/// A drink as a file in the open format, with all its saved versions.
#[utoipa::path(operation_id = "download_drink", tag = "drinks", responses(
    (status = 200, body = String, content_type = "application/json"),
    (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/file")]
pub(super) async fn file(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let (kept, versions) = state
        .with_store(move |store| {
            Ok((store.drinks().read(&id)?, store.versions(&id).unwrap_or_default()))
        })
        .await?;
    // What can't be read is handed out as it is kept.
    let text = whole_file(&versions).unwrap_or(kept.body);
    Ok(super::shelf::file("drink.json", text))
}

/// Save a change. If the drink was changed since, nothing is written and 409 shows how it stands. Said
/// twice under one `Idempotency-Key` it is saved once.
#[utoipa::path(operation_id = "save_drink", tag = "drinks", request_body = inline(SaveDrink), responses(
    (status = 200, body = DrinkView), (status = 409, body = Problem)))]
#[put("/api/drinks/{id}")]
pub(super) async fn save(
    state: web::Data<State>,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<DrinkView>, Problem> {
    /// The drink is read by itself, so that its faults name the same fields everywhere.
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        version: i64,
        drink: serde_json::Value,
    }
    let parts: Parts = body.json()?;
    let drink = keen_formats::drink_from_value(parts.drink, &state.cupboard())?;
    let text = DRINK.write(&drink);
    let saved = state
        .with_store(move |store| {
            let key = key.0.as_deref();
            let draft = Draft { name: &drink.name, body: &text, now: &now(), key };
            store.drinks().save(&id, parts.version, draft)
        })
        .await?;
    state.changes.tell_kept(Changed::Drink, &saved.id, Some(saved.version), by.0);
    answer(&saved)
}

/// Delete a drink. It can be restored for thirty days.
#[utoipa::path(operation_id = "delete_drink", tag = "drinks", responses((status = 204), (status = 404, body = Problem)))]
#[delete("/api/drinks/{id}")]
pub(super) async fn remove(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<HttpResponse, Problem> {
    let gone = id.clone();
    state.with_store(move |store| store.drinks().delete(&id, &now())).await?;
    state.changes.tell_kept(Changed::Drink, &gone, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

/// Restore a deleted drink.
#[utoipa::path(operation_id = "restore_drink", tag = "drinks", responses(
    (status = 200, body = DrinkView), (status = 404, body = Problem)))]
#[post("/api/drinks/{id}/restore")]
pub(super) async fn restore(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<web::Json<DrinkView>, Problem> {
    let back = state.with_store(move |store| store.drinks().restore(&id)).await?;
    state.changes.tell_kept(Changed::Drink, &back.id, Some(back.version), by.0);
    answer(&back)
}
