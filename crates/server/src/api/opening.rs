//! What is looked after when the program starts, before anything is asked: documents that can't be read are set aside,
//! tastings that an older program set up are dealt, and the kitchen's figures are laid over the tables.

use keen_core::cupboard::Cupboard;
use keen_store::{Condition, Store, StoreError};

use super::tastings::deal_older;
use super::{kitchen, settings};

/// Makes the data file ready to be served, and gives the cupboard of its kitchen.
pub(crate) fn prepared(store: &Store) -> Result<Cupboard, StoreError> {
    kitchen::set_unreadable_aside(store)?;
    settings::set_unreadable_aside(store)?;
    if store.condition() == Condition::Sound {
        deal_older(store)?;
    }
    kitchen::kept_cupboard(store)
}
