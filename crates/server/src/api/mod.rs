//! The API: JSON over `/api`.
//!
//! Computing calls take a whole drink, return figures and touch no data. Errors are problem documents
//! (RFC 9457) that name the field.

mod compute;
mod cupboard;
mod document;
mod drinks;
mod problem;
mod settings;

pub(crate) use document::{
    document_head, document_service, document_text, drink_schema_text, routes,
};
pub(crate) use problem::{Problem, unknown};

use std::collections::HashMap;
use std::sync::{Arc, Mutex};

use actix_web::web;
use keen_formats::FormatError;
use keen_store::{Store, StoreError};
use serde::de::DeserializeOwned;

use drinks::Summary;

/// What all workers share.
#[derive(Debug)]
pub(crate) struct State {
    store: Arc<Store>,
    /// What the shelf shows of each drink at its version. Only a saving of time: it is made anew from
    /// the drink whenever it isn't there.
    summaries: Mutex<HashMap<String, (i64, Summary)>>,
}

impl State {
    pub(crate) fn new(store: Arc<Store>) -> Self {
        Self { store, summaries: Mutex::default() }
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
