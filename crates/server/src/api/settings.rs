use std::collections::BTreeMap;

use actix_web::{get, put, web};
use keen_core::drink::FieldError;
use keen_core::scale::Units;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Body, Problem, State, read_json};

/// The one row that they are kept in.
const KEY: &str = "choices";

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

/// The remembered choices.
#[utoipa::path(tag = "settings", responses((status = 200, body = Settings)))]
#[get("/api/settings")]
pub(super) async fn read_settings(state: web::Data<State>) -> Result<web::Json<Settings>, Problem> {
    let text = state.with_store(|store| store.setting(KEY)).await?;
    // Choices of a newer program that can't be read fall back to the usual ones.
    Ok(web::Json(text.and_then(|t| serde_json::from_str(&t).ok()).unwrap_or_default()))
}

/// Remember choices.
#[utoipa::path(tag = "settings", request_body = Settings, responses(
    (status = 200, body = Settings), (status = "4XX", body = Problem)))]
#[put("/api/settings")]
pub(super) async fn write_settings(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Settings>, Problem> {
    let settings: Settings = read_json(body)?;
    if settings.shown_by.len() > 1000 || settings.ticked.len() > 1000 {
        return Err(FieldError {
            field: "shown_by".into(),
            message: "That is more than any cupboard holds.".into(),
        }
        .into());
    }
    let text = serde_json::to_string(&settings).map_err(|_| Problem::internal())?;
    state.with_store(move |store| store.remember(KEY, &text)).await?;
    Ok(web::Json(settings))
}
