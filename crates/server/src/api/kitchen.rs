use std::sync::Arc;

use actix_web::{get, patch, put, web};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_formats::Format;
use keen_store::{Store, StoreError};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use super::aside::set_aside;
use super::changes::Changed;
use super::desk::By;
use super::patch::{NotChanged, change};
use super::{Body, Problem, State, now, settings};

/// The document that it is kept as.
const KEY: &str = "kitchen";
pub(crate) const FORMAT: Format =
    Format { name: "keen-pitcher/kitchen", field: "kitchen", steps: &[super::older::kitchen_to_2] };

/// This kitchen's own data, and its version.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct KitchenView {
    /// Its version; send it when saving.
    pub(crate) version: i64,
    /// Your figures, ingredients, vessels and measures.
    pub(crate) kitchen: Kitchen,
}

/// The kitchen as it is kept; an untouched one if nothing is, or if it can't be read.
pub(crate) fn kept_kitchen(store: &Store) -> Result<KitchenView, StoreError> {
    let Some(document) = store.document(KEY)? else { return Ok(KitchenView::default()) };
    let kitchen = FORMAT.read(&document.body).unwrap_or_default();
    Ok(KitchenView { version: document.version, kitchen })
}

/// The tables with what is kept of this kitchen over them, spoken of in its units.
pub(crate) fn kept_cupboard(store: &Store) -> Result<Cupboard, StoreError> {
    let cupboard = Cupboard::of(&kept_kitchen(store)?.kitchen);
    Ok(cupboard.said_in(settings::kept_saying(store)?))
}

/// Keeps a kitchen where there was none.
pub(crate) fn keep_kitchen(store: &Store, kitchen: &Kitchen) -> Result<(), StoreError> {
    match store.write_document(KEY, 0, &FORMAT.write(kitchen), &now()) {
        Ok(_) | Err(StoreError::StaleDocument(_)) => Ok(()),
        Err(other) => Err(other),
    }
}

/// Puts a kitchen that can't be read aside, so that it isn't written over.
pub(super) fn set_unreadable_aside(store: &Store) -> Result<(), StoreError> {
    set_aside::<Kitchen>(store, KEY, &FORMAT)
}

/// Keeps what is taken off but still needed by a drink, marked; and lets go of what no drink needs any
/// more.
fn keep_needed(store: &Store, before: &Kitchen, next: &mut Kitchen) -> Result<(), StoreError> {
    let gone =
        before.ingredients.iter().filter(|old| !next.ingredients.iter().any(|it| it.id == old.id));
    let mut doubtful: Vec<_> = gone.cloned().collect();
    for it in &mut doubtful {
        it.kept_for_drinks = true;
    }
    doubtful.extend(next.ingredients.extract_if(.., |it| it.kept_for_drinks));
    if doubtful.is_empty() {
        return Ok(());
    }
    let mut needed = vec![false; doubtful.len()];
    store.drinks().for_each_body(|body| {
        for (it, needed) in doubtful.iter().zip(&mut needed) {
            *needed |= body.contains(&format!("\"{}\"", it.id));
        }
    })?;
    for (it, needed) in doubtful.into_iter().zip(needed) {
        if needed {
            next.ingredients.push(it);
        } else {
            next.figures.remove(&it.id);
            next.larder.remove(&it.id);
        }
    }
    Ok(())
}

/// This kitchen's own data.
#[utoipa::path(tag = "cupboard", responses((status = 200, body = KitchenView)))]
#[get("/api/kitchen")]
pub(super) async fn read_kitchen(
    state: web::Data<State>,
) -> Result<web::Json<KitchenView>, Problem> {
    Ok(web::Json(state.with_store(kept_kitchen).await?))
}

/// Change what is this kitchen's own. If it was changed since, nothing is written. An ingredient that
/// is left out stays, marked, as long as a drink needs it.
#[utoipa::path(tag = "cupboard", request_body = KitchenView, responses(
    (status = 200, body = KitchenView), (status = 409, body = Problem)))]
#[put("/api/kitchen")]
pub(super) async fn write_kitchen(
    state: web::Data<State>,
    by: By,
    body: Body,
) -> Result<web::Json<KitchenView>, Problem> {
    let KitchenView { version, mut kitchen } = body.json()?;
    let faults = kitchen.check();
    if !faults.is_empty() {
        return Err(Problem::invalid(faults));
    }
    let next = state
        .with_store(move |store| {
            keep_needed(store, &kept_kitchen(store)?.kitchen, &mut kitchen)?;
            let kept = store.write_document(KEY, version, &FORMAT.write(&kitchen), &now())?;
            Ok(KitchenView { version: kept.version, kitchen })
        })
        .await?;
    state.kitchen_is(&next, by);
    Ok(web::Json(next))
}

/// Change some of this kitchen's own data by a JSON Patch, whatever else has changed in it.
#[utoipa::path(tag = "cupboard",
    request_body(content = serde_json::Value, content_type = "application/json-patch+json"),
    responses((status = 200, body = KitchenView), (status = 409, body = Problem)))]
#[patch("/api/kitchen")]
pub(super) async fn change_kitchen(
    state: web::Data<State>,
    by: By,
    body: Body,
) -> Result<web::Json<KitchenView>, Problem> {
    let patch: Value = body.json()?;
    let changed = web::block({
        let store = Arc::clone(&state.store);
        move || {
            let before = kept_kitchen(&store)?.kitchen;
            let (kept, kitchen) = change(&store, KEY, &FORMAT, patch, |next: &mut Kitchen| {
                let faults = next.check();
                if !faults.is_empty() {
                    return Err(NotChanged::Problem(Problem::invalid(faults)));
                }
                Ok(keep_needed(&store, &before, next)?)
            })?;
            Ok::<_, NotChanged>(KitchenView { version: kept.version, kitchen })
        }
    });
    let next = changed.await.map_err(|_| Problem::busy())??;
    state.kitchen_is(&next, by);
    Ok(web::Json(next))
}

impl State {
    /// Changes the kitchen by a rule, whatever else has changed in it meanwhile.
    pub(super) async fn change_kitchen(
        &self,
        store: Arc<Store>,
        by: By,
        change: impl Fn(&mut Kitchen) + Send + 'static,
    ) -> Result<(), Problem> {
        const TRIES: usize = 8;
        let changed = web::block(move || {
            for _ in 0..TRIES {
                let KitchenView { version, mut kitchen } = kept_kitchen(&store)?;
                change(&mut kitchen);
                let faults = kitchen.check();
                if !faults.is_empty() {
                    return Err(NotChanged::Problem(Problem::invalid(faults)));
                }
                match store.write_document(KEY, version, &FORMAT.write(&kitchen), &now()) {
                    Ok(kept) => return Ok(KitchenView { version: kept.version, kitchen }),
                    Err(StoreError::StaleDocument(_)) => {}
                    Err(other) => return Err(other.into()),
                }
            }
            Err(NotChanged::Problem(Problem::busy()))
        });
        let view = changed.await.map_err(|_| Problem::busy())??;
        self.kitchen_is(&view, by);
        Ok(())
    }

    /// Another shelf stands in the place of the one before: all that was read of that one is read anew.
    pub(super) async fn shelf_is_another(&self) -> Result<(), Problem> {
        let cupboard = self.with_store(kept_cupboard).await?;
        self.is_spoken_to_in(cupboard.saying());
        self.set_cupboard(cupboard);
        self.changes.tell_everything();
        Ok(())
    }

    /// From now on drinks are run on this kitchen, and every screen is told.
    fn kitchen_is(&self, view: &KitchenView, by: By) {
        self.set_cupboard(Cupboard::of(&view.kitchen));
        self.changes.tell_document(Changed::Kitchen, by.0);
    }
}
