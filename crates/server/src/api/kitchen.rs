use actix_web::{get, put, web};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_store::{Store, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Body, Problem, State, read_json};

/// The one row that it is kept in.
const KEY: &str = "kitchen";

/// What is this kitchen's own, and how often it was changed.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
pub(crate) struct KitchenView {
    /// Counts its changes; say it when saving.
    pub(crate) version: u64,
    /// Own figures, ingredients, vessels and measures.
    pub(crate) kitchen: Kitchen,
}

/// The kitchen as it is kept; an untouched one if nothing is.
pub(crate) fn kept_kitchen(store: &Store) -> Result<KitchenView, StoreError> {
    let text = store.setting(KEY)?;
    // A kitchen of a newer program that can't be read falls back to the tables.
    Ok(text.and_then(|t| serde_json::from_str(&t).ok()).unwrap_or_default())
}

/// Keeps a kitchen where there was none.
pub(crate) fn keep_kitchen(store: &Store, view: &KitchenView) -> anyhow::Result<()> {
    let text = serde_json::to_string(view)?;
    store.replace_setting(KEY, &text, |kept| kept.is_none())?;
    Ok(())
}

/// What is this kitchen's own.
#[utoipa::path(tag = "cupboard", responses((status = 200, body = KitchenView)))]
#[get("/api/kitchen")]
pub(super) async fn read_kitchen(
    state: web::Data<State>,
) -> Result<web::Json<KitchenView>, Problem> {
    Ok(web::Json(state.with_store(kept_kitchen).await?))
}

/// Change what is this kitchen's own. If it was changed since, nothing is written.
#[utoipa::path(tag = "cupboard", request_body = KitchenView, responses(
    (status = 200, body = KitchenView), (status = 409, body = Problem),
    (status = "4XX", body = Problem)))]
#[put("/api/kitchen")]
pub(super) async fn write_kitchen(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<KitchenView>, Problem> {
    let asked: KitchenView = read_json(body)?;
    let faults = asked.kitchen.check();
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let based_on = asked.version;
    let next = KitchenView { version: based_on.saturating_add(1), ..asked };
    let text = serde_json::to_string(&next).map_err(|_| Problem::internal())?;
    let written = state
        .with_store(move |store| {
            store.replace_setting(KEY, &text, |kept| {
                let kept = kept.and_then(|t| serde_json::from_str::<KitchenView>(t).ok());
                kept.map_or(0, |k| k.version) == based_on
            })
        })
        .await?;
    if !written {
        return Err(Problem::kitchen_changed());
    }
    state.set_cupboard(Cupboard::of(&next.kitchen));
    Ok(web::Json(next))
}
