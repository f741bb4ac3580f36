use std::collections::BTreeMap;

use actix_web::{get, put, web};
use keen_core::drink::FieldError;
use keen_core::scale::Units;
use keen_formats::Format;
use keen_store::{Store, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::kitchen::set_aside;
use super::{Body, Problem, State, now};

/// The document that they are kept as.
const KEY: &str = "choices";
/// Version 1 is the only one so far.
const FORMAT: Format = Format { name: "keen-pitcher/choices", field: "choices", steps: &[] };

/// Choices that are remembered for the whole kitchen.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
#[serde(default, deny_unknown_fields)]
pub(crate) struct Settings {
    /// In which units amounts are shown.
    units: Units,
    /// Light, dark, or as the machine has it.
    theme: Theme,
    /// What is ticked off the shopping list, by item.
    ticked: Vec<String>,
    /// Ingredients, by id, that are shown in a way of their own.
    shown_by: BTreeMap<String, ShownBy>,
}

/// Which colours the screens have.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum Theme {
    #[default]
    System,
    Light,
    Dark,
}

/// The way in which one ingredient is shown.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum ShownBy {
    Weight,
    Volume,
    Cups,
    Pieces,
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

/// Remember choices.
#[utoipa::path(tag = "settings", request_body = Settings, responses((status = 200, body = Settings)))]
#[put("/api/settings")]
pub(super) async fn write_settings(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Settings>, Problem> {
    let settings: Settings = body.json()?;
    let keys = settings.shown_by.keys().chain(&settings.ticked);
    if settings.shown_by.len() > 1000
        || settings.ticked.len() > 1000
        || keys.into_iter().any(|key| key.len() > 200)
    {
        return Err(FieldError {
            field: "shown_by".into(),
            message: "That is more than any cupboard holds.".into(),
        }
        .into());
    }
    let text = FORMAT.write(&settings);
    state.with_store(move |store| store.change_document(KEY, &now(), |_| Ok(text))).await?;
    Ok(web::Json(settings))
}
