//! When the time for a step has come.
//!
//! While peels rest for twelve hours, nothing keeps a cook from heating the pot that they will be strained into; but
//! then it is cold when they are. A step that can be done is offered when what it leaves can stand until it is needed:
//! juice in the refrigerator can, a hot pot can't. How long something may stand is the plan's, read off the trace.

use super::{Made, StepState};
use crate::cupboard::Cupboard;
use crate::drink::{Action, Precedence};
use crate::plan::may_stand;
use crate::trace::Trace;

/// What waits for less than this is done in passing, minutes.
const IN_PASSING: f64 = 5.0;
/// What is heated is wanted hot, minutes.
const STAYS_HOT: f64 = 15.0;

/// Before when a step that can be done is best not begun, minutes since the batch started; none if it may be now.
pub(super) fn not_before(
    made: &Made,
    trace: &Trace,
    precedence: &Precedence,
    step: usize,
    now: f64,
    cupboard: &Cupboard,
) -> Option<f64> {
    let frame = &trace.frames[step];
    let stands = precedence.path(step).last().copied()?;
    // The first step after it before which something that runs now has to be over.
    let waits: Vec<(Vec<bool>, f64)> = made
        .steps
        .iter()
        .enumerate()
        .filter_map(|(at, one)| match one.state {
            StepState::Running { since } => {
                Some((precedence.follows(at), since + trace.frames[at].minutes.0))
            }
            _ => None,
        })
        .collect();
    if waits.is_empty() {
        return None;
    }
    let follows = precedence.follows(step);
    let over = (step + 1..follows.len()).filter(|later| follows[*later]).find_map(|later| {
        let over = waits.iter().filter(|(follows, _)| follows[later]).map(|(_, until)| *until);
        Some(over.fold(f64::NEG_INFINITY, f64::max)).filter(|over| *over > now)
    })?;
    let limit = may_stand(&made.drink, trace, step, stands, cupboard)?;
    let heats = matches!(
        made.drink.steps[step].action,
        Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. }
    );
    let limit = if heats { limit.min(STAYS_HOT) } else { limit };
    let begin = over - frame.minutes.0 - limit;
    (begin > now + IN_PASSING).then_some(begin)
}
