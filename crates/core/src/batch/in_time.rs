//! When the time for a step has come.
//!
//! While peels rest for twelve hours, nothing keeps a cook from heating the pot that they will be strained into; but
//! then it is cold when they are. A step that can be done is offered when what it leaves can stand until it is needed:
//! juice in the refrigerator can, a hot pot can't. How long something may stand is the plan's, read off the trace.

use super::{Made, StepState};
use crate::cupboard::Cupboard;
use crate::drink::Action;
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
    step: usize,
    now: f64,
    cupboard: &Cupboard,
) -> Option<f64> {
    let frame = &trace.frames[step];
    let path = |at: usize| {
        let ids = made.drink.steps[at].action.path();
        ids.into_iter().filter_map(|id| made.drink.vessel(id)).collect::<Vec<usize>>()
    };
    // Where what it leaves goes on to, and the first step at which something that runs now has to be over.
    let mut leads_to = path(step);
    let mut waits: Vec<(Vec<usize>, f64)> = made
        .steps
        .iter()
        .enumerate()
        .filter_map(|(at, one)| match one.state {
            StepState::Running { since } => Some((path(at), since + trace.frames[at].minutes.0)),
            _ => None,
        })
        .collect();
    if waits.is_empty() || leads_to.is_empty() {
        return None;
    }
    for later in step + 1..made.drink.steps.len() {
        let on = path(later);
        let meets = |vessels: &[usize]| on.iter().any(|v| vessels.contains(v));
        let mine = meets(&leads_to);
        let over = waits.iter().filter(|(vessels, _)| meets(vessels)).map(|(_, until)| *until);
        let over = over.fold(f64::NEG_INFINITY, f64::max);
        if mine && over > now {
            let stands = made.drink.steps[step].action.path().last().copied();
            let vessel = stands.and_then(|id| made.drink.vessel(id))?;
            let limit = may_stand(&made.drink, trace, (step, vessel), cupboard)?;
            let heats = matches!(
                made.drink.steps[step].action,
                Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. }
            );
            let limit = if heats { limit.min(STAYS_HOT) } else { limit };
            let begin = over - frame.minutes.0 - limit;
            return (begin > now + IN_PASSING).then_some(begin);
        }
        if mine {
            leads_to.extend(&on);
        }
        for (vessels, _) in &mut waits {
            if on.iter().any(|v| vessels.contains(v)) {
                vessels.extend(&on);
            }
        }
    }
    None
}
