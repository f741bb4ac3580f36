//! What sugar and acid don't put right: a drink that tastes flat, bitter or thin, or has lost its bubbles.
//!
//! Here nothing is solved for. Each word has a few things that help, in the order in which a cook tries them: what
//! costs nothing first, then the smallest thing to stir in, then the plain word that nothing else helps.

use serde::Serialize;

use super::Addition;
use super::question::{Doubt, How, Word};
use super::remedy::measured;
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Ingredient, Kind, NOTICED_BITTERNESS, Staple};
use crate::quantity::{Amount, Celsius, Grams};
use crate::trace::{Contents, MEASURED_AT};

/// A correction, or the message that nothing helps.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Advice {
    /// The advice, in a sentence.
    pub says: String,
    /// The ingredients to stir in, if any.
    pub adds: Option<Addition>,
}

/// Salt for a litre, g: a fifth of a gram isn't tasted as salt in a sweet and sour drink, and rounds it. Estimate.
const SALT: f64 = 0.2;
/// More sodium than that in a litre, mg, and another pinch would be tasted.
const SALTED: f64 = 350.0;
/// Juice for a litre, g: about one difference that is noticed.
const JUICE: f64 = 12.0;
/// Honey for a litre, g.
const HONEY: f64 = 12.0;
/// Warmer than that a drink keeps few of its bubbles: it holds half as much gas as at 2 °C.
const KEEPS_GAS: Celsius = Celsius(10.0);

/// What helps against each word that sugar and acid don't answer.
pub(crate) fn advice(words: &[Doubt], contents: &Contents, cupboard: &Cupboard) -> Vec<Advice> {
    let it = In { contents, cupboard };
    let mut all: Vec<Advice> = Vec::new();
    for advice in words.iter().flat_map(|doubt| it.against(*doubt)) {
        // What helps against two of them is done once.
        let of = |a: &Advice| a.adds.as_ref().map(|a| a.ingredient.clone());
        let twice =
            all.iter().any(|a| a.says == advice.says || of(a).is_some() && of(a) == of(&advice));
        if !twice {
            all.push(advice);
        }
    }
    all
}

struct In<'a> {
    contents: &'a Contents,
    cupboard: &'a Cupboard,
}

impl In<'_> {
    fn against(&self, Doubt { too, how }: Doubt) -> Vec<Advice> {
        let times = match how {
            How::Touch => 1.0,
            How::Clearly => 1.5,
            How::Far => 2.0,
        };
        let all = match too {
            Word::Flat => {
                vec![
                    self.salt(times, "It brightens the taste without tasting salty."),
                    self.stirred(Staple::SourJuice, JUICE * times, "A little acid wakes it up."),
                    self.zest(),
                ]
            }
            Word::Bitter => vec![
                self.strained(),
                self.salt(times, "A little salt hides bitterness."),
                self.thinned(times),
                plain(
                    "Nothing takes bitterness out again. Next time peel thinner, or steep for less time.",
                ),
            ],
            Word::NoBubbles => vec![
                self.chilled(),
                plain(
                    "Bubbles don’t come back. Top each glass with fresh, cold soda, poured down the side.",
                ),
            ],
            Word::Thin => vec![
                self.without_ice(),
                self.stirred(Staple::Body, HONEY * times, "Sugar gives a drink body."),
                plain("Fruit pulp also gives body: strain less finely next time."),
            ],
            _ => Vec::new(),
        };
        all.into_iter().flatten().collect()
    }

    fn litres(&self) -> f64 {
        self.contents.liquid.volume(MEASURED_AT).0 / 1000.0
    }

    fn stirred(&self, staple: Staple, per_litre: f64, why: &str) -> Option<Advice> {
        let it = self.cupboard.staple(staple);
        let amount = measured(self.cupboard, it, Grams(per_litre * self.litres()))?;
        self.adding(it, amount, why)
    }

    fn adding(&self, it: &Ingredient, amount: Amount, why: &str) -> Option<Advice> {
        let grams = self.cupboard.weigh(it, &amount).ok()?.grams.0;
        let name = it.name.to_lowercase();
        let says = format!("Stir in {amount} {name}. {why}");
        let adds = Addition { ingredient: it.id.clone(), name: it.name.clone(), amount, grams };
        Some(Advice { says, adds: Some(adds) })
    }

    fn salt(&self, times: f64, why: &str) -> Option<Advice> {
        let there = self.contents.liquid[Component::Sodium] / self.litres().max(1e-6);
        if there >= SALTED {
            return None;
        }
        let it = self.cupboard.staple(Staple::Salt);
        // By the pinch: the least that a spoon measures would be tasted in a litre.
        let pinch: Amount = "1 pinch".parse().ok()?;
        let each = self.cupboard.weigh(it, &pinch).ok()?.grams.0;
        let pinches = (SALT * times * self.litres() / each).round().max(1.0);
        let amount = pinch.scaled(pinches);
        let advice = self.adding(it, amount.clone(), "")?;
        let of = if pinches > 1.0 { format!("{amount} of") } else { "a pinch of".to_owned() };
        Some(Advice { says: format!("Stir in {of} salt. {why}"), ..advice })
    }

    fn zest(&self) -> Option<Advice> {
        // Of half a fruit for a litre, and never less.
        let fruits = (self.litres() * 0.5 * 2.0).round().max(1.0) / 2.0;
        let noun = if fruits > 1.0 { "lemons" } else { "lemon" };
        let amount: Amount = format!("{fruits} {noun}").parse().ok()?;
        let advice = self.adding(self.cupboard.staple(Staple::Zest), amount.clone(), "")?;
        let says = format!("Grate in the zest of {amount}, leave for 10 minutes, then strain.");
        Some(Advice { says, ..advice })
    }

    /// Peel that still lies in it makes it more bitter by the hour.
    fn strained(&self) -> Option<Advice> {
        let bitter = self.contents.pieces.iter().any(|piece| {
            let left =
                piece.inside[Component::Bitterness] + piece.inside[Component::BoundBitterness];
            let of = self.cupboard.ingredients()[piece.ingredient].kind;
            left > 0.0 && (left > 0.05 || matches!(of, Kind::Peel | Kind::Zest))
        });
        bitter.then(|| plain("Strain it now: it gets more bitter while the solids stay in."))?
    }

    fn thinned(&self, times: f64) -> Option<Advice> {
        let litres = self.litres();
        let strength = self.contents.liquid[Component::Bitterness] / litres.max(1e-6);
        // What can hardly be tasted by its figures is thinned by as much as is noticed.
        let part = (1.0 - NOTICED_BITTERNESS / strength.max(1e-6)).clamp(0.1, 0.1 + 0.1 * times);
        let water = self.cupboard.ingredients().iter().find(|it| it.kind == Kind::Water)?;
        let amount = measured(self.cupboard, water, Grams(1000.0 * litres * part / (1.0 - part)))?;
        let why =
            format!("Bitterness falls by {:.0} %, and so do sweetness and acidity.", 100.0 * part);
        self.adding(water, amount, &why)
    }

    fn chilled(&self) -> Option<Advice> {
        let t = self.contents.temperature;
        if t.0 <= KEEPS_GAS.0 {
            return None;
        }
        let is = self.cupboard.saying().degrees.say_whole(t.0);
        let cold = self.cupboard.saying().degrees.say_whole(5.0);
        plain(&format!("It is at {is}, too warm to hold bubbles. Chill it to {cold} first."))
    }

    fn without_ice(&self) -> Option<Advice> {
        (self.contents.ice_mass().0 > 20.0)
            .then(|| plain("Lift out the ice: it thins the drink as it melts."))?
    }
}

fn plain(says: &str) -> Option<Advice> {
    Some(Advice { says: says.to_owned(), adds: None })
}
