//! What a drink takes, by what is bought: the same count for a shopping list and for what can be made from what is there.

use super::Shopping;
use super::items::pieces_used;
use super::needs::{Needs, from_fruit};
use crate::cupboard::{Cupboard, Form, Ingredient, Kind};
use crate::drink::{Action, Drink};
use crate::quantity::{Amount, Measure};
use crate::trace::Trace;

/// So much of something, by the name under which it is bought: `lime/medium` in pieces, else an ingredient's id in g.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken {
    /// Its id.
    pub id: String,
    /// Whether it is counted in pieces.
    pub by_piece: bool,
    /// How many pieces, or how many g.
    pub much: f64,
}

/// What a drink takes on average. Tap water isn't counted.
#[must_use]
pub fn taken(drink: &Drink, trace: &Trace, cupboard: &Cupboard) -> Vec<Taken> {
    let mut needs = Needs::default();
    needs.add(0, drink, trace, cupboard);
    let fruit = needs.fruit.iter().filter_map(|(key, need)| {
        let (_, size) = cupboard.size_named(key)?;
        let much = pieces_used(&need.all, size, Shopping::default());
        Some(Taken { id: key.clone(), by_piece: true, much })
    });
    let other = needs.other.iter();
    let other = other.map(|(id, need)| Taken { id: id.clone(), by_piece: false, much: need.grams });
    fruit.chain(other).collect()
}

/// What somebody has: an amount of an ingredient, by the name under which it is bought.
#[must_use]
pub fn had(cupboard: &Cupboard, it: &Ingredient, amount: &Amount, grams: f64) -> Taken {
    let juice = matches!(it.kind, Kind::Juice) && cupboard.can_be_squeezed(it);
    let counted = amount.terms().iter().any(|t| matches!(t.measure, Measure::Piece(_)));
    // Juice that stands there in a jug is juice; what is counted is fruit.
    let is_fruit = it.form == Form::Pieces || counted;
    let into = "jug".to_owned();
    let action = if juice && counted {
        let (ingredient, amount) = (it.id.clone(), amount.clone());
        Action::Squeeze { into, ingredient, amount, halves_into: None }
    } else {
        Action::add(into, it.id.clone(), amount.clone())
    };
    match from_fruit(cupboard, it, &action).filter(|_| is_fruit) {
        Some((produce, size)) => {
            let pieces = amount.terms().iter().find_map(|t| match &t.measure {
                Measure::Piece(_) => Some(t.value),
                _ => None,
            });
            let whole = grams / (size.whole.0 * size.edible).max(1.0);
            let id = format!("{}/{}", produce.id, size.name);
            Taken { id, by_piece: true, much: pieces.unwrap_or(whole) }
        }
        None => Taken { id: it.id.clone(), by_piece: false, much: grams },
    }
}
