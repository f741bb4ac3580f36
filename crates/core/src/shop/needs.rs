//! What drinks need, added up: read off the traces, by what is bought.

use std::collections::BTreeMap;

use crate::cupboard::{Cupboard, Form, Ingredient, Kind, Part, Produce, Size, Trait};
use crate::drink::{Action, Drink};
use crate::quantity::{Grams, Measure, Millilitres};
use crate::trace::Trace;

/// What is taken of one size of fruit.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Parts {
    /// ml.
    pub(super) juice: f64,
    /// g.
    pub(super) zest: f64,
    /// g.
    pub(super) peel: f64,
    /// Fruit that is used whole.
    pub(super) flesh_pieces: f64,
    /// g of it.
    pub(super) flesh_grams: f64,
}

/// What is needed of one size of fruit, and of it by each drink of the list, by its place there: two
/// drinks may have one name.
#[derive(Debug, Clone, Default)]
pub(super) struct FruitNeed {
    pub(super) all: Parts,
    pub(super) drinks: Vec<String>,
    pub(super) by_drink: BTreeMap<usize, Parts>,
}

/// What is needed of something that comes by weight, and of it by each drink of the list.
#[derive(Debug, Clone, Default)]
pub(super) struct Need {
    pub(super) grams: f64,
    pub(super) drinks: Vec<String>,
    pub(super) by_drink: BTreeMap<usize, f64>,
}

impl Need {
    fn more(&mut self, nth: usize, drink: &Drink, grams: f64) {
        self.grams += grams;
        remember(&mut self.drinks, &drink.name);
        *self.by_drink.entry(nth).or_default() += grams;
    }
}

#[derive(Default)]
pub(super) struct Needs {
    pub(super) fruit: BTreeMap<String, FruitNeed>,
    pub(super) other: BTreeMap<String, Need>,
}

impl Needs {
    /// Adds what the `nth` drink of the list needs.
    pub(super) fn add(&mut self, nth: usize, drink: &Drink, trace: &Trace, cupboard: &Cupboard) {
        for line in trace.lines.iter().filter(|l| !l.left_over) {
            let it = &cupboard.ingredients()[line.ingredient];
            let action = &drink.steps[line.step].action;
            if it.is(Trait::Tap) {
                continue;
            }
            match from_fruit(cupboard, it, action) {
                Some((produce, size)) => self.fruit(nth, drink, it, produce, size, line.grams),
                None => self.other.entry(it.id.clone()).or_default().more(nth, drink, line.grams.0),
            }
        }
        for step in &drink.steps {
            let Action::Dress { glass, ingredient, amount, .. } = &step.action else { continue };
            let Some(it) = cupboard.ingredient(ingredient) else { continue };
            let said = amount.as_ref().and_then(|amount| cupboard.weigh(it, amount).ok());
            // A leaf or a slice for each glass, a spoon of sugar for the rims of a dozen.
            let usual = match it.kind {
                Kind::Herb | Kind::Flower => 0.5,
                Kind::Fruit | Kind::Zest | Kind::Peel => 8.0,
                _ => 1.5,
            };
            let each = said.map_or(usual, |weighed| weighed.grams.0);
            let grams = each * f64::from(drink.glasses_in(glass));
            self.other.entry(it.id.clone()).or_default().more(nth, drink, grams);
        }
    }

    fn fruit(
        &mut self,
        nth: usize,
        drink: &Drink,
        it: &Ingredient,
        produce: &Produce,
        size: &Size,
        grams: Grams,
    ) {
        let need = self.fruit.entry(format!("{}/{}", produce.id, size.name)).or_default();
        remember(&mut need.drinks, &drink.name);
        for parts in [&mut need.all, need.by_drink.entry(nth).or_default()] {
            match it.part {
                Part::Juice => parts.juice += it.fills(grams).unwrap_or(Millilitres(grams.0)).0,
                Part::Zest => parts.zest += grams.0,
                Part::Peel | Part::Squeezed => parts.peel += grams.0,
                part => {
                    let used = if part == Part::Whole { 1.0 } else { size.edible };
                    parts.flesh_grams += grams.0;
                    parts.flesh_pieces += grams.0 / (size.whole.0 * used);
                }
            }
        }
    }
}

fn remember(list: &mut Vec<String>, name: &str) {
    if !list.iter().any(|n| n == name) {
        list.push(name.to_owned());
    }
}

/// The fruit that an ingredient is taken from at home; none where it is bought as it is.
pub(super) fn from_fruit<'a>(
    cupboard: &'a Cupboard,
    it: &Ingredient,
    action: &Action,
) -> Option<(&'a Produce, &'a Size)> {
    let squeezed = matches!(action, Action::Squeeze { .. });
    let counted = match it.kind {
        Kind::Juice => squeezed,
        Kind::Zest | Kind::Peel => true,
        Kind::Fruit | Kind::Vegetable => it.form == Form::Pieces && !it.is(Trait::Frozen),
        _ => false,
    };
    if !counted {
        return None;
    }
    let amount = action.brings()?.amount?;
    let said = amount.terms().iter().find_map(|t| match &t.measure {
        Measure::Piece(words) => cupboard.piece(it, words),
        _ => None,
    });
    let (produce, size) = match said {
        Some(found) => found,
        None => {
            let produce = cupboard.produce_of(it).next()?;
            (produce, produce.usual())
        }
    };
    // Small things and stalks are bought by weight: nobody counts blackcurrants.
    let counted = ["small", "medium", "large"].contains(&size.name.as_str());
    (size.whole.0 >= 25.0 && counted).then_some((produce, size))
}
