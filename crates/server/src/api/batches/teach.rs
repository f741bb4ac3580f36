//! What can be saved to your kitchen from a finished batch, taken or left.

use std::sync::Arc;

use actix_web::{post, web};
use keen_core::batch::{Happening, Learnt, Teaching};
use keen_core::cupboard::Kitchen;
use keen_core::drink::FieldError;
use serde::Deserialize;
use utoipa::ToSchema;

use super::super::body::SaidUnder;
use super::super::changes::Changed;
use super::super::desk::{Asker, By};
use super::super::{Body, Problem, State};
use super::{BatchView, Read};

/// Whether to save a batch's figures to your kitchen.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Teach {
    /// Whether to save it; false undoes an earlier save.
    learn: bool,
}

impl Read {
    pub(super) fn teaches(&self) -> Vec<Teaching> {
        let day = self.kept.begun_at.get(..10).unwrap_or_default();
        Teaching::of(&self.drink, &self.said, &self.cupboard, &self.kept.id, day)
    }
}

/// Takes all that a batch taught out of a kitchen, and puts in what it teaches.
pub(crate) fn learn(kitchen: &mut Kitchen, batch: &str, taught: &[Teaching]) {
    kitchen.lots.retain(|lot| lot.batch != batch);
    kitchen.readings.retain(|reading| reading.batch.as_deref() != Some(batch));
    for teaching in taught {
        match &teaching.taught {
            Learnt::Reading(reading) => kitchen.readings.push(reading.clone()),
            Learnt::Lot(lot) => kitchen.lots.push(lot.clone()),
        }
    }
}

/// Save what a finished batch shows to your kitchen, or undo that. A practice batch saves nothing.
#[utoipa::path(tag = "batches", request_body = inline(Teach), responses(
    (status = 200, body = BatchView), (status = 404, body = Problem)))]
#[post("/api/batches/{id}/teach")]
pub(in crate::api) async fn teach_kitchen(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<BatchView>, Problem> {
    let Teach { learn: wanted } = body.json()?;
    let read = state.batch(&id).await?;
    let refused = |message: &str| FieldError { field: "learn".into(), message: message.to_owned() };
    if read.kept.practice {
        return Err(refused("A practice batch isn't saved to your kitchen.").into());
    }
    if read.kept.finished_at.is_none() {
        return Err(refused("Finish the batch first.").into());
    }
    let taught = if wanted {
        state.desk.ask(asker.clone(), move |_| Ok(read.teaches())).await?
    } else {
        Vec::new()
    };
    let batch = id.clone();
    let change = move |kitchen: &mut _| learn(kitchen, &batch, &taught);
    state.change_kitchen(Arc::clone(&state.store), by, change).await?;
    state.say(&asker, &id, key, Happening::Taught { learned: wanted }, true).await?;
    state.changes.tell_kept(Changed::Batch, &id, None, None);
    state.batch_view(&id, asker).await
}
