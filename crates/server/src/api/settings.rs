use std::collections::BTreeMap;
use std::sync::Arc;

use actix_web::{get, patch, put, web};
use keen_core::drink::FieldError;
use keen_core::quantity::{Degrees, Saying, Units};
use keen_formats::Format;
use keen_store::{Store, StoreError};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use super::aside::set_aside;
use super::changes::Changed;
use super::desk::By;
use super::patch::{NotChanged, change};
use super::{Body, Problem, State, now};

/// The document that they are kept as.
const KEY: &str = "choices";
const FORMAT: Format =
    Format { name: "keen-pitcher/choices", field: "choices", steps: &[ticks_by_list] };

/// To version 2: what is ticked belongs to a list. Of which one it was is not known any more.
fn ticks_by_list(mut choices: Value) -> Value {
    if let Some(choices) = choices.as_object_mut() {
        choices.remove("ticked");
    }
    choices
}

/// Shopping lists whose ticks are remembered, and things ticked on one of them.
const MOST_LISTS: usize = 200;
const MOST_TICKS: usize = 500;

/// Settings for the whole kitchen.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
#[serde(default, deny_unknown_fields)]
pub(crate) struct Settings {
    /// The units for amounts.
    units: Units,
    /// The scale for temperatures.
    degrees: Degrees,
    /// Light, dark, or as the machine has it.
    theme: Theme,
    /// The ticked items of each shopping list. The key holds the ids of its drinks in order, joined by “+”.
    ticked: BTreeMap<String, Vec<String>>,
    /// Ingredients, by id, that are shown in a way of their own.
    shown_by: BTreeMap<String, ShownBy>,
    /// Whether the notes that explain the map have been read.
    map_known: bool,
}

/// The colour scheme of the screens.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum Theme {
    #[default]
    System,
    Light,
    Dark,
}

/// The units for one ingredient.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum ShownBy {
    Weight,
    Volume,
    Cups,
    Pieces,
}

/// In which units this kitchen is spoken to.
pub(super) fn kept_saying(store: &Store) -> Result<Saying, StoreError> {
    let kept = store.document(KEY)?.and_then(|d| FORMAT.read::<Settings>(&d.body).ok());
    Ok(kept.unwrap_or_default().saying())
}

/// Keeps the settings of a kitchen that knows its way about.
pub(crate) fn keep_settings(store: &Store) -> Result<(), StoreError> {
    let settings = Settings { map_known: true, ..Settings::default() };
    store.write_document(KEY, 0, &FORMAT.write(&settings), &now()).map(|_| ())
}

/// Puts choices that can't be read aside, so that they aren't written over.
pub(super) fn set_unreadable_aside(store: &Store) -> Result<(), StoreError> {
    set_aside::<Settings>(store, KEY, &FORMAT)
}

/// The remembered choices.
#[utoipa::path(tag = "settings", responses((status = 200, body = Settings)))]
#[get("/api/settings")]
pub(super) async fn read_settings(state: web::Data<State>) -> Result<web::Json<Settings>, Problem> {
    let kept = state.with_store(|store| store.document(KEY)).await?;
    Ok(web::Json(kept.and_then(|d| FORMAT.read(&d.body).ok()).unwrap_or_default()))
}

impl Settings {
    fn saying(&self) -> Saying {
        Saying { units: self.units, degrees: self.degrees }
    }

    fn check(&self) -> Result<(), FieldError> {
        let items = self.ticked.values().flatten();
        if self.shown_by.len() <= 1000
            && self.ticked.len() <= MOST_LISTS
            && self.ticked.iter().all(|(of, items)| of.len() <= 1000 && items.len() <= MOST_TICKS)
            && self.shown_by.keys().chain(items).all(|key| key.len() <= 200)
        {
            return Ok(());
        }
        let message = "Your cupboard is too large. Delete something first.".into();
        Err(FieldError { field: "shown_by".into(), message })
    }
}

/// Save all settings.
#[utoipa::path(tag = "settings", request_body = Settings, responses((status = 200, body = Settings)))]
#[put("/api/settings")]
pub(super) async fn write_settings(
    state: web::Data<State>,
    by: By,
    body: Body,
) -> Result<web::Json<Settings>, Problem> {
    let settings: Settings = body.json()?;
    settings.check()?;
    let text = FORMAT.write(&settings);
    state.with_store(move |store| store.change_document(KEY, &now(), |_| Ok(text))).await?;
    state.is_spoken_to_in(settings.saying());
    state.changes.tell_document(Changed::Settings, by.0);
    Ok(web::Json(settings))
}

/// Save some settings, by a JSON Patch.
#[utoipa::path(tag = "settings",
    request_body(content = serde_json::Value, content_type = "application/json-patch+json"),
    responses((status = 200, body = Settings), (status = 409, body = Problem)))]
#[patch("/api/settings")]
pub(super) async fn change_settings(
    state: web::Data<State>,
    by: By,
    body: Body,
) -> Result<web::Json<Settings>, Problem> {
    let patch: Value = body.json()?;
    let store = Arc::clone(&state.store);
    let changed = web::block(move || {
        change(&store, KEY, &FORMAT, patch, |next: &mut Settings| {
            next.check().map_err(|fault| NotChanged::Problem(fault.into()))
        })
    });
    let (_, settings) = changed.await.map_err(|_| Problem::busy())??;
    state.is_spoken_to_in(settings.saying());
    state.changes.tell_document(Changed::Settings, by.0);
    Ok(web::Json(settings))
}
