//! The API: JSON over `/api`.
//!
//! Computing calls take a whole drink, return figures and touch no data. Errors are problem documents
//! (RFC 9457) that name the field.

mod compute;
mod cupboard;
mod document;
mod drinks;
mod kitchen;
mod problem;
mod settings;

pub(crate) use document::{
    document_head, document_service, document_text, drink_schema_text, routes,
};
pub(crate) use kitchen::{KitchenView, keep_kitchen, kept_kitchen};
pub(crate) use problem::{Problem, unknown};

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError, RwLock};

use actix_web::web;
use keen_core::cupboard::Cupboard;
use keen_formats::FormatError;
use keen_store::{Store, StoreError};
use serde::de::DeserializeOwned;

use drinks::Summary;

/// What all workers share.
#[derive(Debug)]
pub(crate) struct State {
    store: Arc<Store>,
    /// The tables with this kitchen's own figures over them, as they are kept.
    cupboard: RwLock<Arc<Cupboard>>,
    /// What the shelf shows of each drink at its version. Only a saving of time: it is made anew from
    /// the drink whenever it isn't there.
    summaries: Mutex<HashMap<String, (i64, Summary)>>,
}

impl State {
    pub(crate) fn new(store: Arc<Store>) -> Result<Self, StoreError> {
        let kitchen = kept_kitchen(&store)?.kitchen;
        let cupboard = RwLock::new(Arc::new(Cupboard::of(&kitchen)));
        Ok(Self { store, cupboard, summaries: Mutex::default() })
    }

    /// The cupboard as it is now.
    fn cupboard(&self) -> Arc<Cupboard> {
        Arc::clone(&self.cupboard.read().unwrap_or_else(PoisonError::into_inner))
    }

    /// From now on drinks are run on this cupboard.
    fn set_cupboard(&self, cupboard: Cupboard) {
        *self.cupboard.write().unwrap_or_else(PoisonError::into_inner) = Arc::new(cupboard);
        self.summaries.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Does something with the store on a thread that may wait.
    async fn with_store<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Store) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, Problem> {
        let store = Arc::clone(&self.store);
        web::block(move || work(&store)).await.map_err(|_| Problem::internal())?.map_err(Into::into)
    }
}

/// A body as it came, or why it could not be read.
type Body = Result<web::Bytes, actix_web::Error>;

fn read_body(body: Body) -> Result<web::Bytes, Problem> {
    body.map_err(|_| Problem::too_large())
}

fn read_json<T: DeserializeOwned>(body: Body) -> Result<T, Problem> {
    Ok(keen_formats::read_json::<T>(&read_body(body)?)?)
}

impl From<FormatError> for Problem {
    fn from(error: FormatError) -> Self {
        match error {
            FormatError::Malformed(_) => Self::malformed(error.to_string()),
            other => Self::invalid(other.faults()),
        }
    }
}

fn now() -> String {
    jiff::Timestamp::now().to_string()
}
