//! Where a drink ends.

use crate::balance::{BalanceMap, Profile, Spot};
use crate::drink::Drink;
use crate::trace::Trace;

/// Where the finished drink lies, and what there is of it.
#[derive(Debug, Clone, Copy)]
pub(super) struct End {
    pub(super) spot: Spot,
    pub(super) ml: f64,
}

pub(super) fn end_of(drink: &Drink, trace: &Trace) -> Option<End> {
    let profile = trace.outcome().and_then(Profile::of)?;
    let point = BalanceMap::of(drink.family, Some(&profile)).point?;
    Some(End { spot: point.spot(), ml: profile.volume_ml })
}
