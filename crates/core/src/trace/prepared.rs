//! A drink made ready to be run, again and again.

use super::contents::Contents;
use super::engine::Engine;
use super::frames::{Frame, Landing, Trace};
use super::nudge::Nudges;
use super::weights::Weight;
use crate::cupboard::Cupboard;
use crate::drink::{Drink, Precedence};

/// A drink with its amounts weighed, ready to be run again and again.
#[derive(Debug, Clone)]
pub struct Prepared<'a> {
    drink: &'a Drink,
    cupboard: &'a Cupboard,
    weights: Vec<Weight>,
    precedence: Precedence,
}

impl<'a> Prepared<'a> {
    /// Looks up and weighs what the drink names.
    #[must_use]
    pub fn new(drink: &'a Drink, cupboard: &'a Cupboard) -> Self {
        let weigh = |step| Weight::of(step, drink, cupboard);
        let weights = drink.steps.iter().map(weigh).collect();
        let precedence = Precedence::of(drink, cupboard);
        Self { drink, cupboard, weights, precedence }
    }

    /// The drink.
    #[must_use]
    pub fn drink(&self) -> &'a Drink {
        self.drink
    }

    /// The cupboard that it is made from.
    #[must_use]
    pub fn cupboard(&self) -> &'a Cupboard {
        self.cupboard
    }

    /// What comes first in it.
    pub(crate) fn precedence(&self) -> &Precedence {
        &self.precedence
    }

    /// Runs the drink, with a difference.
    #[must_use]
    pub fn run(&self, nudges: Nudges<'_>) -> Trace {
        self.run_from(nudges, Vec::new())
    }

    /// Runs it from vessels that hold something already.
    #[must_use]
    pub(crate) fn run_from(&self, nudges: Nudges<'_>, start: Vec<(usize, Contents)>) -> Trace {
        let mut engine = self.engine(nudges, start);
        let frames: Vec<Frame> = (0..self.drink.steps.len())
            .map(|step| {
                let done = engine.step(step);
                engine.frame(step, done)
            })
            .collect();
        engine.ended(frames)
    }

    /// Runs it from vessels that hold something already, for its end alone. It is the same run; only
    /// the frames are not kept, which take longer than the steps.
    pub(crate) fn land(&self, nudges: Nudges<'_>, start: Vec<(usize, Contents)>) -> Landing {
        let mut engine = self.engine(nudges, start);
        engine.only_end = true;
        for step in 0..self.drink.steps.len() {
            engine.step(step);
        }
        Landing { outcome: engine.outcome(), work: engine.work }
    }

    pub(super) fn engine<'b>(
        &'b self,
        nudges: Nudges<'b>,
        start: Vec<(usize, Contents)>,
    ) -> Engine<'b> {
        Engine::new(self.drink, self.cupboard, &self.weights, &self.precedence, nudges, start)
    }
}

impl Trace {
    /// Runs a drink. Steps that name what isn't there do nothing; [`Drink::check`] finds those.
    #[must_use]
    pub fn run(drink: &Drink, cupboard: &Cupboard) -> Self {
        Prepared::new(drink, cupboard).run(Nudges::default())
    }
}
