//! What can be saved to your kitchen from a finished batch: what its fruit gave, and how its lots were.

use serde::Serialize;

use super::view::believed;
use super::{Happening, Made, Said, standing};
use crate::belief::{Belief, Turns};
use crate::cupboard::{Cupboard, Lot, LotFigure, Reading};
use crate::drink::{Action, Drink};
use crate::quantity::{Amount, Measure};
use crate::trace::Prepared;

/// One figure that can be saved from a batch.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Teaching {
    /// In a sentence.
    pub message: String,
    /// The figure to save to your kitchen.
    pub taught: Learnt,
}

/// The figure to save to your kitchen.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Learnt {
    /// The measured yield of some pieces of fruit.
    Reading(Reading),
    /// The result of one lot of fruit.
    Lot(Lot),
}

/// A figure counts as learned when the readings have taken away this share of its variance.
const LEARNED: f64 = 0.3;
/// What a kitchen remembers of a lot lies within these, as factors.
const BELIEVABLE: (f64, f64) = (0.25, 4.0);

impl Teaching {
    /// What was said of a batch, as lessons for the kitchen that it was made in. `batch` and `day` go with
    /// each, so that they can be told apart and taken back.
    #[must_use]
    pub fn of(
        drink: &Drink,
        said: &[Said],
        cupboard: &Cupboard,
        batch: &str,
        day: &str,
    ) -> Vec<Self> {
        let mut all = fruit(drink, said, cupboard, batch, day);
        let made = Made::of(drink, said, cupboard);
        let prepared = Prepared::new(&made.drink, cupboard);
        let before = Belief::before(&prepared);
        let (after, _) = believed(&made, &prepared);
        if after.factors().len() != before.factors().len() {
            return all;
        }
        for (i, factor) in before.factors().iter().enumerate() {
            let Some(figure) = figure(factor.turns, cupboard) else { continue };
            let (prior, now) = (factor.sd.powi(2), after.sd_of(i).powi(2));
            if now > (1.0 - LEARNED) * prior {
                continue;
            }
            // What the readings alone say: the belief without what was thought before.
            let precision = 1.0 / now - 1.0 / prior;
            // Of the logarithm, around what was expected.
            let moved = after.middle_of(i).ln() + factor.sd.powi(2) / 2.0;
            let log = moved / now / precision;
            let told = log.exp().clamp(BELIEVABLE.0, BELIEVABLE.1);
            let percent = 100.0 * ((moved.exp()) - 1.0);
            let words = factor.turns.words(cupboard);
            let message = match percent.round() as i64 {
                0 => format!("{words} was as expected."),
                more if more > 0 => format!("{words} was {more} % more than expected."),
                less => format!("{words} was {} % less than expected.", -less),
            };
            let against_tables = told * cupboard.kitchen().learned(&figure);
            all.push(Self {
                message,
                taught: Learnt::Lot(Lot {
                    batch: batch.to_owned(),
                    figure,
                    factor: against_tables.clamp(0.2, 5.0),
                    sd: precision.sqrt().recip().clamp(0.001, 3.0),
                    between: factor.sd.clamp(0.001, 1.0),
                    day: day.to_owned(),
                }),
            });
        }
        all
    }
}

fn figure(turns: Turns, cupboard: &Cupboard) -> Option<LotFigure> {
    let id = |i: usize| cupboard.ingredients()[i].id.clone();
    Some(match turns {
        // What pieces give is told by the piece; see `fruit`. A hand that slips teaches nothing.
        Turns::Yield(_) | Turns::Hand(_) => return None,
        Turns::Acid(i) => LotFigure::Acid(id(i)),
        Turns::Sugar(i) => LotFigure::Sugar(id(i)),
        Turns::Drawing(i) => LotFigure::Drawing(id(i)),
        Turns::Hold => LotFigure::Hold,
        Turns::BoilOff => LotFigure::BoilOff,
        Turns::Cooling => LotFigure::Cooling,
    })
}

/// What the fruit gave, where that was measured as it was squeezed.
fn fruit(
    drink: &Drink,
    said: &[Said],
    cupboard: &Cupboard,
    batch: &str,
    day: &str,
) -> Vec<Teaching> {
    let stands = || standing(said);
    let mut found = Vec::new();
    for step in &drink.steps {
        let Action::Squeeze { ingredient, amount, .. } = &step.action else { continue };
        let mut used = stands().filter_map(|what| match what {
            Happening::Used { step: of, amount } if *of == step.id => Some(amount),
            _ => None,
        });
        let mut gave = stands().filter_map(|what| match what {
            Happening::CameOut { step: of, amount } if *of == step.id => Some(amount),
            _ => None,
        });
        let (amount, Some(gave)) = (used.next_back().unwrap_or(amount), gave.next_back()) else {
            continue;
        };
        found.extend(reading(cupboard, ingredient, amount, gave).map(|(reading, message)| {
            let reading = Reading { day: day.to_owned(), batch: Some(batch.to_owned()), ..reading };
            Teaching { message, taught: Learnt::Reading(reading) }
        }));
    }
    found
}

fn reading(
    cupboard: &Cupboard,
    juice: &str,
    pieces: &Amount,
    gave: &Amount,
) -> Option<(Reading, String)> {
    let it = cupboard.ingredient(juice)?;
    let [term] = pieces.terms() else { return None };
    let Measure::Piece(words) = &term.measure else { return None };
    let (produce, size) = cupboard.piece(it, words)?;
    let expected = size.juice_yield()?.mean() * term.value;
    let ml = gave
        .as_millilitres()
        .or_else(|| Some(gave.as_grams()? / it.per_gram.density_at_20()))
        .filter(|ml| *ml > 0.5)?;
    let message = format!("{pieces} gave {ml:.0} ml; we expected {expected:.0} ml.");
    let reading = Reading {
        produce: format!("{}/{}", produce.id, size.name),
        pieces: term.value,
        juice_ml: ml,
        brix: None,
        acidity: None,
        day: String::new(),
        batch: None,
    };
    Some((reading, message))
}
