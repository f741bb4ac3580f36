//! The practice kitchen: a making of a drink with luck that nobody has seen.
//!
//! What a seed deals is how the lemons, the sieve and the ring really are. What was done is done to those:
//! what somebody believes, or says came out, changes nothing of it. So it can be told at any moment what an
//! instrument would find in a vessel, and at the end where the drink really landed.

use serde::Serialize;

use super::end::end_of;
use super::{Happening, Made, Said, StepState};
use crate::balance::{Doubt, Spot, differences, tastes_of};
use crate::belief::{Belief, Fate, Measurement, Quantity, Turns};
use crate::cupboard::Cupboard;
use crate::drink::{Action, Drink, Maceration};
use crate::trace::{Contents, MEASURED_AT, Prepared, Trace};

/// How it really is.
#[derive(Debug, Clone, PartialEq)]
pub struct Truth {
    made: Made,
    trace: Trace,
    /// The drink as it was written, with nobody's luck.
    written: (Drink, Trace),
    luck: (Belief, Fate),
}

/// The true value of one figure.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LuckWas {
    /// In words: "The acid of lemon juice".
    pub what: String,
    /// The ratio to the expected value.
    pub factor: f64,
    /// The lower end of the likely range (9 out of 10), as a factor.
    pub usual_from: f64,
    /// The upper end of the usual range.
    pub usual_to: f64,
    /// The change that this alone made to the drink, in noticeable steps.
    pub moves: f64,
}

/// Luck that moved the drink by less isn't worth telling.
const MATTERED: f64 = 0.05;

fn spot(drink: &Drink, trace: &Trace) -> Option<Spot> {
    end_of(drink, trace).map(|end| end.spot)
}

impl Truth {
    /// How it really is after what was done by now, minutes since the batch started.
    #[must_use]
    pub fn of(drink: &Drink, said: &[Said], cupboard: &Cupboard, seed: u64, now: f64) -> Self {
        let acts: Vec<Said> = said
            .iter()
            .map(|Said { at, what }| {
                let what = match what {
                    // What was read off a jug changes nothing of what is in it.
                    Happening::CameOut { .. } | Happening::Reading { .. } => {
                        Happening::Note { text: String::new(), by: String::new() }
                    }
                    other => other.clone(),
                };
                Said { at: *at, what }
            })
            .collect();
        let mut made = Made::of(drink, &acts, cupboard);
        for (step, made) in made.drink.steps.iter_mut().zip(&made.steps) {
            let StepState::Running { since } = made.state else { continue };
            if let Action::Infuse { minutes, .. }
            | Action::Macerate { minutes, how: Maceration::Left, .. } = &mut step.action
            {
                *minutes = (now - since).clamp(0.1, minutes.max(0.1));
            }
        }
        let prepared = Prepared::new(&made.drink, cupboard);
        let belief = Belief::before(&prepared);
        let fate = belief.dealt(&prepared, seed);
        let trace = belief.run(&prepared, &fate);
        let written = (drink.clone(), Trace::run(drink, cupboard));
        Self { made, trace, written, luck: (belief, fate) }
    }

    /// How things turned out that mattered, what moved the drink most first.
    #[must_use]
    pub fn luck(&self, cupboard: &Cupboard) -> Vec<LuckWas> {
        let (belief, fate) = &self.luck;
        let prepared = Prepared::new(&self.made.drink, cupboard);
        let end = |fate: &Fate| spot(&self.made.drink, &belief.run(&prepared, fate));
        let plain = end(&belief.middle());
        let all = belief.factors().iter().zip(belief.standard(fate)).enumerate();
        let mut luck: Vec<LuckWas> = all
            .map(|(i, (factor, z))| LuckWas {
                what: factor.turns.words(cupboard),
                factor: factor.at(z),
                usual_from: factor.at(-1.645),
                usual_to: factor.at(1.645),
                moves: end(&belief.with_one(fate, i))
                    .zip(plain)
                    .map_or(0.0, |(a, b)| differences(a, b)),
            })
            .filter(|l| l.moves >= MATTERED)
            .collect();
        luck.sort_by(|a, b| b.moves.total_cmp(&a.moves));
        luck
    }

    /// What is in a vessel now; `None` while nothing was done in it.
    #[must_use]
    pub fn contents(&self, vessel: &str) -> Option<&Contents> {
        let index = self.made.drink.vessel(vessel)?;
        self.trace.after(self.made.last_on(index)?, index)
    }

    /// What an instrument without any error would find in a vessel now.
    #[must_use]
    pub fn reads(&self, vessel: &str, quantity: Quantity) -> Option<f64> {
        let index = self.made.drink.vessel(vessel)?;
        let exact = Measurement::new(self.made.last_on(index)?, index, quantity, 0.0);
        exact.in_run(&self.made.drink, &self.trace)
    }

    /// What a tongue says of a vessel now, against how it was to taste after what was done in it; nothing
    /// where that can't be told apart. `None` where there is nothing to sip.
    #[must_use]
    pub fn tongue(&self, vessel: &str) -> Option<Vec<Doubt>> {
        let really = self.contents(vessel).filter(|c| c.liquid.mass().0 > 1.0)?;
        let (drink, trace) = &self.written;
        let done = self.made.steps.iter().rev().filter(|s| s.state != StepState::Ahead);
        let at = done
            .filter_map(|s| drink.steps.iter().position(|step| step.id == s.id))
            .find(|at| drink.steps[*at].action.path().contains(&vessel));
        let planned = at.zip(drink.vessel(vessel)).and_then(|(at, v)| trace.after(at, v));
        Some(
            planned.map_or_else(Vec::new, |planned| tastes_of(Spot::of(really), Spot::of(planned))),
        )
    }

    /// What a step gave, ml: juice squeezed, liquid strained or boiled down.
    #[must_use]
    pub fn gave(&self, step: &str) -> Option<f64> {
        let at = self.made.drink.steps.iter().position(|s| s.id == step)?;
        let action = &self.made.drink.steps[at].action;
        let into = action.path().last().and_then(|id| self.made.drink.vessel(id))?;
        let there = |at| self.trace.after(at, into).map_or(0.0, |c| c.liquid.volume(MEASURED_AT).0);
        match action {
            // Only the juice is held against the marks.
            Action::Squeeze { .. } => {
                let before = at.checked_sub(1).map_or(0.0, there);
                Some(there(at) - before)
            }
            _ => Some(there(at)),
        }
    }

    /// Where the drink really is; nothing while there is nothing to drink.
    #[must_use]
    pub fn end(&self) -> Option<Spot> {
        spot(&self.made.drink, &self.trace)
    }

    /// How much there really is to drink, ml, counted as what is believed is: in all glasses.
    #[must_use]
    pub fn volume_ml(&self) -> f64 {
        end_of(&self.made.drink, &self.trace).map_or(0.0, |end| end.ml)
    }
}

impl Turns {
    /// In words: "The acid of lemon juice".
    #[must_use]
    pub fn words(self, cupboard: &Cupboard) -> String {
        let of = |what: &str, i: usize| {
            let name = &cupboard.ingredients()[i].name;
            let mut letters = name.chars();
            let first = letters.next().map(|c| c.to_lowercase().to_string()).unwrap_or_default();
            format!("{what} {first}{}", letters.as_str())
        };
        match self {
            Self::Yield(i) => of("The yield of", i),
            Self::Acid(i) => of("The acid of", i),
            Self::Sugar(i) => of("The sugar of", i),
            Self::Drawing(i) => of("The extraction of", i),
            Self::Hold => "What strained solids kept".into(),
            Self::BoilOff => "How fast water boiled off".into(),
            Self::Cooling => "How long things took to cool".into(),
            Self::Hand(step) => format!("The amount measured out in step {}", step + 1),
        }
    }
}
