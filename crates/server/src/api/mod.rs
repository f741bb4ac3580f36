//! The API: JSON over `/api`.
//!
//! Computing calls take a whole drink, return figures and touch no data; they are worked out at the
//! [`desk`]. Errors are problem documents (RFC 9457) that name the field.

mod aside;
mod batches;
mod body;
mod calls;
mod cards;
mod changes;
mod compute;
mod cupboard;
mod described;
mod desk;
#[cfg(feature = "described")]
mod document;
mod drinks;
mod figures;
mod history;
pub(crate) mod house;
mod instruments;
mod kept;
mod kept_drink;
mod kitchen;
mod known_figures;
mod learning;
mod offers;
mod older;
mod opening;
mod paging;
mod party;
mod paste;
mod patch;
mod phones;
mod pictures;
mod plans;
mod problem;
mod settings;
mod shelf;
mod summary;
mod tastings;
mod turns;
mod unknown;

pub(crate) use batches::{BATCH, Ending, HAPPENING, Snapshot, ending_of};
pub(crate) use body::{Body, read_file};
pub(crate) use calls::every_call;
pub(crate) use described::description;
#[cfg(not(feature = "described"))]
pub(crate) use described::{document_text, drink_schema_text};
#[cfg(feature = "described")]
pub(crate) use document::{document_text, drink_schema_text};
pub(crate) use kept::{BOTTLE, MOVE, bottled};
pub(crate) use kept_drink::{earlier_of, kept_drink, whole_file};
pub(crate) use kitchen::{FORMAT as KITCHEN, keep_kitchen, kept_cupboard, kept_kitchen};
pub(crate) use offers::{clock_now, known_drinks};
pub(crate) use opening::prepared;
pub(crate) use problem::Problem;
pub(crate) use settings::keep_settings;
pub(crate) use tastings::{ReadTasting, SEALED, TASTER, TASTING, WORD};
pub(crate) use unknown::{bad_path, bad_query, unknown};

use std::collections::HashMap;
use std::net::SocketAddr;
use std::sync::Arc;

use actix_web::web;
use keen_core::cupboard::Cupboard;
use keen_core::quantity::Saying;
use keen_store::{Store, StoreError};
use parking_lot::{Mutex, RwLock};

use crate::answers::Answers;
use crate::instruments::Instruments;
use crate::phones::Phones;
use changes::Changes;
use desk::Desk;
use summary::Summary;
use turns::Turns;

/// What all workers share.
#[derive(Debug)]
pub(crate) struct State {
    store: Arc<Store>,
    desk: Desk,
    changes: Changes,
    instruments: Instruments,
    pub(crate) phones: Phones,
    /// What deals the luck of practice runs; each its own if none.
    luck: Option<u64>,
    /// The tables with this kitchen's own figures over them, as they are kept.
    cupboard: RwLock<Arc<Cupboard>>,
    /// What the shelf shows of each drink at its version. Only a saving of time: it is made anew from
    /// the drink whenever it isn't there.
    summaries: Mutex<HashMap<String, (i64, Summary)>>,
    /// What was answered under keys.
    pub(crate) answers: Answers,
    /// One after the other speaks of a batch, a tasting, a bottle.
    turns: Turns,
    /// Turns to save everything as one file.
    saving: tokio::sync::Semaphore,
}

impl State {
    pub(crate) fn new(
        store: Arc<Store>,
        cupboard: Cupboard,
        bridges: &[SocketAddr],
        phones: Phones,
        luck: Option<u64>,
    ) -> anyhow::Result<Self> {
        let changes = Changes::default();
        let screens = changes.clone();
        let tell = Box::new(move |view| screens.tell_instrument(view));
        Ok(Self {
            store,
            desk: Desk::new()?,
            changes,
            instruments: Instruments::new(bridges, luck, tell)?,
            luck,
            phones,
            cupboard: RwLock::new(Arc::new(cupboard)),
            summaries: Mutex::default(),
            answers: Answers::default(),
            turns: Turns::default(),
            saving: tokio::sync::Semaphore::new(2),
        })
    }

    /// The store.
    pub(crate) fn store(&self) -> Arc<Store> {
        Arc::clone(&self.store)
    }

    /// The cupboard as it is now.
    fn cupboard(&self) -> Arc<Cupboard> {
        Arc::clone(&self.cupboard.read())
    }

    /// From now on drinks are run on this cupboard, and spoken of as before.
    fn set_cupboard(&self, cupboard: Cupboard) {
        let mut here = self.cupboard.write();
        *here = Arc::new(cupboard.said_in(here.saying()));
        drop(here);
        self.summaries.lock().clear();
    }

    /// From now on drinks are spoken of in these units.
    fn is_spoken_to_in(&self, saying: Saying) {
        let mut here = self.cupboard.write();
        if here.saying() != saying {
            *here = Arc::new(Cupboard::clone(&here).said_in(saying));
        }
    }

    /// Does something with the store on a thread that may wait.
    async fn with_store<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Store) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, Problem> {
        let store = Arc::clone(&self.store);
        match web::block(move || work(&store)).await {
            Ok(done) => Ok(done?),
            // The thread broke on it, or the program is on its way out.
            Err(_) => Err(Problem::busy()),
        }
    }
}

fn now() -> String {
    jiff::Timestamp::now().to_string()
}
