//! What the steps of a drink weigh and which vessels they lead through, looked up once.

use crate::cupboard::{Cupboard, Weighed};
use crate::drink::{Drink, Step};

/// What a step's ingredient and amount come to.
#[derive(Debug, Clone)]
pub(super) struct Weight {
    pub(super) ingredient: Option<usize>,
    pub(super) weighed: Option<Result<Weighed, String>>,
}

impl Weight {
    /// Of a step; a measure that its ingredient doesn't come in is said when the step is done.
    pub(super) fn of(step: &Step, drink: &Drink, cupboard: &Cupboard) -> Self {
        let id = step.action.ingredient();
        let ingredient = id.and_then(|id| cupboard.position(id));
        let weighed = ingredient.zip(step.action.brings()).and_then(|(index, brought)| {
            let amount = drink.without_parts(brought.amount.filter(|_| !brought.line)?);
            let it = &cupboard.ingredients()[index];
            Some(cupboard.weigh(it, &amount).map_err(|unknown| unknown.to_string()))
        });
        Self { ingredient, weighed }
    }
}
