use serde::Serialize;

use crate::cupboard::{Cupboard, Evidence};
use crate::drink::{Action, Drink};
use crate::quantity::Grams;
use crate::trace::{Origin, Trace};

/// The sources of a drink's figures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct RestsOn {
    /// Sweetness, sugar and energy.
    pub sweetness: Evidence,
    /// Acidity and pH.
    pub acidity: Evidence,
    /// Volume and yield.
    pub volume: Evidence,
}

/// A part of a figure that is large enough for its evidence to be the figure's.
const WEIGHTY: f64 = 0.2;

impl RestsOn {
    /// A figure is an estimate when a fifth of it or more comes from estimated ingredients or was
    /// drawn out of pieces, whose speed and reach are estimates; a volume, when something was strained
    /// or heated and not filled up to a line afterwards.
    #[must_use]
    pub fn of(drink: &Drink, trace: &Trace, cupboard: &Cupboard) -> Self {
        let origins = trace.outcome().map_or(&[][..], |o| &o.contents.origins);
        let estimated = |origin: &&Origin| {
            let line = trace.lines.iter().find(|l| l.step == origin.line);
            line.is_some_and(|l| {
                cupboard.ingredients()[l.ingredient].evidence == Evidence::Estimate
            }) || was_drawn(trace, origin.line)
        };
        let judge = |part: fn(&Origin) -> Grams| {
            let all: f64 = origins.iter().map(|o| part(o).0).sum();
            let guessed: f64 = origins.iter().filter(estimated).map(|o| part(o).0).sum();
            let measured: f64 = origins
                .iter()
                .filter(|o| {
                    let line = trace.lines.iter().find(|l| l.step == o.line);
                    line.is_some_and(|l| {
                        cupboard.ingredients()[l.ingredient].evidence == Evidence::Measured
                    })
                })
                .map(|o| part(o).0)
                .sum();
            if guessed > WEIGHTY * all {
                Evidence::Estimate
            } else if measured > (1.0 - WEIGHTY) * all && all > 0.0 {
                Evidence::Measured
            } else {
                Evidence::Table
            }
        };
        Self {
            sweetness: judge(|o| o.sweetness),
            acidity: judge(|o| o.acid),
            volume: volume(drink),
        }
    }
}

/// Whether a line's pieces lay in a liquid and gave up a part of what they hold.
fn was_drawn(trace: &Trace, line: usize) -> bool {
    trace
        .frames
        .iter()
        .flat_map(|frame| &frame.touched)
        .flat_map(|touched| &touched.contents.pieces)
        .any(|piece| piece.line == line && piece.drawn > 0.01)
}

fn volume(drink: &Drink) -> Evidence {
    drink.steps.iter().fold(Evidence::Table, |so_far, step| match step.action {
        Action::Strain { .. }
        | Action::Heat { .. }
        | Action::Boil { .. }
        | Action::Reduce { .. }
        | Action::Rinse { .. }
        | Action::Macerate { .. }
        | Action::Blend { .. } => Evidence::Estimate,
        Action::TopUp { .. } => Evidence::Table,
        _ => so_far,
    })
}
