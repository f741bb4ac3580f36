//! Saying what happened, and asking how to go on.

use actix_web::{post, web};
use keen_core::balance::Doubt;
use keen_core::batch::{AdviceOn, Happening, WayOn, advice_on, doubtful, ways_on};
use keen_core::drink::FieldError;
use keen_core::work::{Work, Worktop};
use keen_store::Saying;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::super::body::SaidUnder;
use super::super::changes::Changed;
use super::super::desk::{Asker, By};
use super::super::{Body, Problem, State};
use super::{BatchView, HAPPENING};

/// An entry in a batch's log.
#[derive(Debug, Deserialize, ToSchema)]
pub(crate) struct Say {
    /// The event.
    what: Happening,
    /// Accept a very unlikely reading.
    #[serde(default)]
    sure: bool,
}

/// Say what happened. When it is answered it is on disk; said twice under one `Idempotency-Key` it counts
/// once. A reading that is out of all likelihood is asked about first (409, `doubtful`).
#[utoipa::path(tag = "batches", request_body = Say, responses(
    (status = 200, body = BatchView), (status = 404, body = Problem),
    (status = 409, body = Problem)))]
#[post("/api/batches/{id}/happenings")]
pub(in crate::api) async fn say_happening(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<BatchView>, Problem> {
    let Say { what, sure } = body.json()?;
    if matches!(what, Happening::Taught { .. }) {
        let message = "Use /teach to save the figures of a batch.".into();
        return Err(FieldError { field: "what".into(), message }.into());
    }
    let finished = matches!(what, Happening::Finished { .. });
    state.say(&asker, &id, key, what, sure).await?;
    state.changes.tell_kept(Changed::Batch, &id, None, by.0.clone());
    if finished && !state.batch(&id).await?.is_practice() {
        state.draw_from_bottles(&id, by).await?;
    }
    state.batch_view(&id, asker).await
}

impl State {
    /// Says something of a batch, and keeps how it ended if it has.
    pub(super) async fn say(
        &self,
        asker: &Asker,
        id: &str,
        key: SaidUnder,
        what: Happening,
        sure: bool,
    ) -> Result<(), Problem> {
        let turn = self.turns.of(id).await;
        let known = match key.0.clone() {
            None => false,
            Some(key) => {
                let id = id.to_owned();
                self.with_store(move |store| store.was_said(&id, &key)).await?
            }
        };
        if !known {
            self.add(asker, id, key, what, sure).await?;
        }
        drop(turn);
        // Also of what was said before: how it ended may still have to be kept.
        self.keep_ending(asker, id).await
    }

    /// Adds it, if it may be said now.
    async fn add(
        &self,
        asker: &Asker,
        id: &str,
        key: SaidUnder,
        what: Happening,
        sure: bool,
    ) -> Result<(), Problem> {
        let read = self.batch(id).await?;
        let (at, minutes) = (read.moment(), read.now());
        let made = read.made();
        made.allows(&what, &read.said, minutes, minutes, &read.cupboard)?;
        if let Happening::Reading { vessel, quantity, value, error } = &what
            && !sure
            && let Some(reading) = made.reading(vessel, *quantity, *value, *error)
        {
            let cupboard = read.cupboard.clone();
            let question = move |_: &Work| Ok(doubtful(&made, &reading, &cupboard));
            if let Some(question) = self.desk.ask(asker.clone(), question).await? {
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
        let (text, of) = (HAPPENING.write(&what), id.to_owned());
        let said = self.with_store(move |store| {
            let key = key.0.as_deref();
            store.say(&of, Saying { body: &text, at: &at, key, after, finishes })
        });
        // Nothing is answered as said that isn't on disk.
        said.await?.map(|_| ()).ok_or_else(Problem::busy)
    }

    /// Keeps how a finished batch ended, for lists. It can be worked out anew from what was said.
    async fn keep_ending(&self, asker: &Asker, id: &str) -> Result<(), Problem> {
        let read = self.batch(id).await?;
        if read.kept.finished_at.is_none() {
            return Ok(());
        }
        let ending = self.desk.ask(asker.clone(), move |_| Ok(read.ending())).await?;
        let text = serde_json::to_string(&ending).unwrap_or_default();
        let id = id.to_owned();
        self.with_store(move |store| store.set_batch_ending(&id, &text)).await
    }
}

/// The words for the taste, if it was tasted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskWays {
    /// The words for the taste; an empty list asks for the way back to the recipe.
    #[serde(default)]
    words: Vec<Doubt>,
}

/// The suggested corrections.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WaysView {
    /// Two or three corrections, the smallest change first; empty if none is needed or possible.
    ways: Vec<WayOn>,
    /// Corrections for tastes other than sweet and sour.
    advice: Vec<AdviceOn>,
}

/// Suggestions for a batch that went differently or tastes wrong. Asking changes nothing; a suggestion is taken by
/// adding its log entry.
#[utoipa::path(operation_id = "list_ways", tag = "batches", request_body = inline(AskWays), responses(
    (status = 200, body = WaysView), (status = 404, body = Problem)))]
#[post("/api/batches/{id}/ways")]
pub(in crate::api) async fn ways(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    body: Body,
) -> Result<web::Json<WaysView>, Problem> {
    const MOST_WORDS: usize = 12;
    let AskWays { words } = body.json()?;
    if words.len() > MOST_WORDS {
        let message = format!("Choose up to {MOST_WORDS} words; you chose {}.", words.len());
        return Err(FieldError { field: "words".into(), message }.into());
    }
    let read = state.batch(&id).await?;
    let question = move |work: &Work| {
        let worktop = Worktop::new(&read.cupboard, work);
        let made = read.made();
        let ways = ways_on(&read.drink, &made, &words, worktop)?;
        Ok(WaysView { ways, advice: advice_on(&made, &words, worktop)? })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}
