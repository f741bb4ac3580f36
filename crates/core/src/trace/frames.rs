//! What a run of a drink leaves: a frame after each step, the lines, and the end.

use super::contents::Contents;
use super::notice::Notice;
use crate::chemistry::Mixture;
use crate::drink::Drink;
use crate::quantity::{Grams, Millilitres, Millimetres, Minutes};

/// A drink that has been run.
#[derive(Debug, Clone, PartialEq)]
pub struct Trace {
    /// One for each step, in order.
    pub frames: Vec<Frame>,
    /// What each step that brings something came to.
    pub lines: Vec<Line>,
    /// How many alike each vessel of the drink stands for: glasses, bottles.
    pub many: Vec<f64>,
    pub(super) outcome: Option<Outcome>,
    /// How long all of it takes: the longest chain of steps that must follow one another, and no less
    /// than the work by hand.
    pub minutes: Minutes,
    /// What it took to run it, in the units of [`Work`](crate::work::Work).
    pub(crate) work: u64,
}

/// Where a run ended, without what happened on the way.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Landing {
    /// What the drink ends as; `None` while nothing is in any vessel.
    pub(crate) outcome: Option<Outcome>,
    /// What it took to run it.
    pub(crate) work: u64,
}

/// The state of all vessels after a step.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// The step's position.
    pub step: usize,
    /// The vessels that the step changed, as they are after it.
    pub touched: Vec<Touched>,
    /// What went off into the air: steam, gas, alcohol, aroma.
    pub gone: Mixture,
    /// How long the step takes.
    pub minutes: Minutes,
    /// How much of that a person is busy with it.
    pub hands_on: Minutes,
    /// For what is boiled down: where the surface then stands on the pot's wall, above its bottom.
    pub water_line: Option<Millimetres>,
    /// Notices for the cook.
    pub notices: Vec<Notice>,
}

/// A vessel after a step.
#[derive(Debug, Clone, PartialEq)]
pub struct Touched {
    /// The vessel's position in the drink.
    pub vessel: usize,
    /// What is in it; in one of them, where it stands for several.
    pub contents: Contents,
    /// How many alike it stands for.
    pub many: f64,
}

/// What a line of the recipe came to.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// The step's position.
    pub step: usize,
    /// The ingredient's position in the cupboard.
    pub ingredient: usize,
    /// What went in, in all glasses or bottles together.
    pub grams: Grams,
    /// In how many pieces it was said, if it was.
    pub pieces: Option<f64>,
    /// Whether it is what another line of the same step left over: squeezed halves.
    pub left_over: bool,
}

/// What the drink ends as.
#[derive(Debug, Clone, PartialEq)]
pub struct Outcome {
    /// The glass that it is served in, or the vessel that was last worked on.
    pub vessel: usize,
    /// What one of them holds.
    pub contents: Contents,
    /// How many glasses or bottles there are; 1 if it is in neither.
    pub glasses: f64,
    /// The liquid of all of them together, at 20 °C.
    pub volume: Millilitres,
    /// What is poured into one from the vessel that it is served from.
    pub size: Option<Millilitres>,
    /// The vessel that it is served from.
    pub from: Option<usize>,
    /// What stood ready in that vessel, at 20 °C.
    pub ready: Millilitres,
    /// Whether it was served.
    pub served: bool,
}

impl Trace {
    /// How much of its time is work by hand.
    #[must_use]
    pub fn hands_on(&self) -> Minutes {
        self.frames.iter().fold(Minutes(0.0), |sum, f| sum + f.hands_on)
    }

    /// How many glasses or bottles a vessel of the drink stands for; 1 for one that isn't there.
    #[must_use]
    pub fn many_of(&self, drink: &Drink, vessel: &str) -> f64 {
        drink.vessel(vessel).and_then(|v| self.many.get(v)).copied().unwrap_or(1.0)
    }

    /// What the drink ends as; `None` while nothing is in any vessel.
    #[must_use]
    pub fn outcome(&self) -> Option<&Outcome> {
        self.outcome.as_ref()
    }

    /// A vessel's contents at its fullest moment, with the step that filled it so. Of moments that
    /// are as full but for some hundredths (steam, warmth), the last: what stood and drew is shown as it was then.
    #[must_use]
    pub fn fullest(&self, vessel: usize) -> Option<(usize, &Contents)> {
        let most = self.highest_level(vessel).0;
        self.states_of(vessel).filter(|(_, c)| c.level().0 >= most * 0.94).last()
    }

    /// The most room that was ever needed in a vessel.
    #[must_use]
    pub(crate) fn highest_level(&self, vessel: usize) -> Millilitres {
        Millilitres(self.states_of(vessel).map(|(_, c)| c.level().0).fold(0.0, f64::max))
    }

    /// A vessel's contents at the end.
    #[must_use]
    pub fn last(&self, vessel: usize) -> Option<(usize, &Contents)> {
        self.states_of(vessel).last()
    }

    /// A vessel's contents as they are after a step.
    #[must_use]
    pub fn after(&self, step: usize, vessel: usize) -> Option<&Contents> {
        self.states_of(vessel).filter(|(at, _)| *at <= step).last().map(|(_, c)| c)
    }

    /// A vessel's contents after each step that changed them.
    pub fn states_of(&self, vessel: usize) -> impl Iterator<Item = (usize, &Contents)> {
        self.frames.iter().flat_map(move |frame| {
            frame
                .touched
                .iter()
                .filter(move |t| t.vessel == vessel)
                .map(|t| (frame.step, &t.contents))
        })
    }
}
