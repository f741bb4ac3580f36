//! What a screen or a table shows of a trace, in one plain structure.
//!
//! Nothing is computed here: every figure is read off the trace's contents.

mod line;
mod rests_on;
mod sentence;
mod state;
mod wording;

pub(crate) use sentence::sentence;

pub use line::{LineReport, Way};
pub use rests_on::RestsOn;
pub use state::{OwnFit, PieceReport, StateReport, VesselReport};

use serde::Serialize;

use crate::balance::{BalanceMap, Profile};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Trait};
use crate::drink::{Action, Drink};
use crate::keep::{Caution, Keeping, cautions};
use crate::trace::{Notice, Trace};

/// The trace of a drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct DrinkReport {
    /// One entry for each step.
    pub frames: Vec<FrameReport>,
    /// The method as in a cookbook: ingredients that follow each other into one vessel share a sentence.
    pub method: Vec<MethodLine>,
    /// The vessels in the order in which they are used.
    pub vessels: Vec<VesselReport>,
    /// The pours between vessels.
    pub streams: Vec<Stream>,
    /// The ingredients.
    pub lines: Vec<LineReport>,
    /// The figures of the drink; missing while there is nothing to drink.
    pub profile: Option<Profile>,
    /// The sources of the figures.
    pub rests_on: RestsOn,
    /// The map with the drink on it.
    pub map: BalanceMap,
    /// How long it keeps; missing while it is empty.
    pub keeping: Option<Keeping>,
    /// The effect of this kitchen's water, in words; missing if it isn't noticeable.
    pub water: Option<String>,
    /// The time from the first step to the last, minutes, one after the other.
    pub minutes: f64,
    /// The hands-on part, minutes.
    pub hands_on_minutes: f64,
}

/// The state of all vessels after a step.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct FrameReport {
    /// The step's id.
    pub step: String,
    /// The step, in a sentence.
    pub sentence: String,
    /// The vessel to show it above; missing for steps without a vessel.
    pub vessel: Option<String>,
    /// The sentence as shown there, without the vessel's name.
    pub short: String,
    /// How long it takes, minutes.
    pub minutes: f64,
    /// The hands-on part, minutes.
    pub hands_on_minutes: f64,
    /// The vessels that the step changed.
    pub states: Vec<StateReport>,
    /// For a reduction: the height of the surface in the pot after it, mm.
    pub water_line_mm: Option<f64>,
    /// Water lost as steam, g.
    pub steam_g: f64,
    /// The leftovers that could be used.
    pub left_over: Option<String>,
    /// Notices for the cook.
    pub notices: Vec<Notice>,
    /// The cautions.
    pub cautions: Vec<Caution>,
}

/// The moving parts of a drink's screen while an amount is dragged.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Glance {
    /// The contribution of each line.
    pub lines: Vec<LineReport>,
    /// The vessels, in the order in which the drink flows through them.
    pub vessels: Vec<VesselReport>,
    /// The pours between vessels.
    pub streams: Vec<Stream>,
    /// The figures of the drink as served; missing while there is nothing to drink.
    pub profile: Option<Profile>,
    /// The place on the map.
    pub map: BalanceMap,
}

impl Glance {
    /// Runs a drink and reads off what moves.
    #[must_use]
    pub fn of(drink: &Drink, cupboard: &Cupboard) -> Self {
        Self::read(drink, cupboard, &Trace::run(drink, cupboard))
    }

    fn read(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Self {
        let profile = trace.outcome().and_then(Profile::of);
        Self {
            lines: line::lines(drink, trace, cupboard),
            vessels: state::vessels(drink, trace, cupboard),
            streams: streams(drink, trace),
            map: BalanceMap::of(drink.family, profile.as_ref()),
            profile,
        }
    }
}

/// A pour from one vessel to another.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Stream {
    /// Id of the vessel that it comes from.
    pub from: String,
    /// Id of the vessel that it goes into.
    pub into: String,
    /// The colour of the liquid, `#rrggbb`.
    pub colour: String,
}

/// A sentence of the method.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct MethodLine {
    /// The ids of its steps.
    pub steps: Vec<String>,
    /// The action.
    pub sentence: String,
}

impl DrinkReport {
    /// Runs a drink and reads off what there is to show.
    #[must_use]
    pub fn of(drink: &Drink, cupboard: &Cupboard) -> Self {
        Self::read(drink, cupboard, &Trace::run(drink, cupboard))
    }

    /// Reads off a run what there is to show.
    #[must_use]
    pub fn read(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Self {
        let Glance { lines, vessels, streams, profile, map } = Glance::read(drink, cupboard, trace);
        let frames = trace
            .frames
            .iter()
            .zip(cautions(drink, cupboard, trace))
            .map(|(frame, cautions)| FrameReport {
                step: drink.steps[frame.step].id.clone(),
                sentence: sentence(drink, &drink.steps[frame.step], cupboard),
                vessel: sentence::told_at(&drink.steps[frame.step].action).map(str::to_owned),
                short: sentence::at_its_vessel(drink, &drink.steps[frame.step], cupboard),
                minutes: frame.minutes.0,
                hands_on_minutes: frame.hands_on.0,
                states: frame
                    .touched
                    .iter()
                    .map(|t| StateReport::of(drink, t.vessel, &t.contents, cupboard))
                    .collect(),
                water_line_mm: frame.water_line.map(|mm| mm.0),
                steam_g: frame.gone[Component::Water],
                left_over: sentence::left_over(drink, trace, frame.step, cupboard),
                notices: frame.notices.clone(),
                cautions,
            })
            .collect();
        let method = sentence::method(drink, cupboard);
        let ids =
            |steps: Vec<usize>| steps.into_iter().map(|at| drink.steps[at].id.clone()).collect();
        let method =
            method.into_iter().map(|(steps, sentence)| MethodLine { steps: ids(steps), sentence });
        Self {
            frames,
            method: method.collect(),
            vessels,
            streams,
            lines,
            rests_on: RestsOn::of(drink, trace, cupboard),
            keeping: Keeping::of(drink, cupboard, trace),
            water: water_takes(trace, cupboard),
            map,
            profile,
            minutes: trace.minutes.0,
            hands_on_minutes: trace.hands_on().0,
        }
    }
}

/// The share of a drink's acid that is worth telling.
const WORTH_TELLING: f64 = 0.01;

/// What the kitchen's water takes of the acid that all else brings.
fn water_takes(trace: &Trace, cupboard: &Cupboard) -> Option<String> {
    let water = cupboard.kitchen().water?;
    let (mut acid, mut takes) = (0.0, 0.0);
    for line in &trace.lines {
        let it = &cupboard.ingredients()[line.ingredient];
        acid += it.per_gram.acid_brought().0 * line.grams.0;
        if it.is(Trait::Tap) {
            takes += water.takes_of(line.grams.0);
        }
    }
    let share = takes / acid.max(1e-9);
    (acid > 0.0 && share >= WORTH_TELLING).then(|| {
        let percent = (100.0 * share).min(100.0);
        format!("Your water neutralises about {percent:.0} % of the acid.")
    })
}

fn streams(drink: &Drink, trace: &Trace) -> Vec<Stream> {
    let mut streams: Vec<Stream> = Vec::new();
    let mut pour = |from: &str, into: &str, frame: usize, shown: usize| {
        let touched = trace.frames[frame].touched.get(shown);
        let Some(contents) = touched.map(|t| &t.contents).filter(|c| !c.is_empty()) else {
            return;
        };
        let stream = Stream {
            from: from.to_owned(),
            into: into.to_owned(),
            colour: contents.colour().to_string(),
        };
        match streams.iter_mut().find(|s| s.from == from && s.into == into) {
            Some(known) => *known = stream,
            None => streams.push(stream),
        }
    };
    for (i, step) in drink.steps.iter().enumerate() {
        match &step.action {
            Action::Pour { from, into, .. }
            | Action::Lift { from, into, .. }
            | Action::Rinse { vessel: from, into, .. } => pour(from, into, i, 1),
            Action::Serve { from, glass, .. } => pour(from, glass, i, 1),
            Action::Bottle { from, bottle, .. } => pour(from, bottle, i, 1),
            Action::Strain { from, through, into, .. } => {
                pour(from, through, i, 2);
                pour(through, into, i, 2);
            }
            _ => {}
        }
    }
    streams
}
