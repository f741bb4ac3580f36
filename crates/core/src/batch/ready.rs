//! When it will be ready, if you go on now with one pair of hands.

use super::{Made, StepState};
use crate::trace::Trace;

/// When the last step will be done, minutes since the batch started: what runs goes on, what is ahead is
/// done one thing after the other, and nothing is started before what it needs is done. The times are those of
/// the trace.
pub(super) fn ready_at(made: &Made, trace: &Trace, now: f64) -> f64 {
    let mut hands = now;
    let mut free = vec![0.0_f64; made.drink.vessels.len()];
    let mut last = 0.0_f64;
    for ((step, state), frame) in made.drink.steps.iter().zip(&made.steps).zip(&trace.frames) {
        let (takes, by_hand) = (frame.minutes.0, frame.hands_on.0.min(frame.minutes.0));
        let path: Vec<usize> =
            step.action.path().iter().filter_map(|id| made.drink.vessel(id)).collect();
        let end = match state.state {
            StepState::Done { at, .. } => at,
            // What is over time is over when somebody looks.
            StepState::Running { since } => (since + takes).max(now),
            StepState::Ahead => {
                let begin = path.iter().map(|v| free[*v]).fold(hands, f64::max);
                hands = begin + by_hand;
                begin + takes
            }
        };
        for vessel in path {
            free[vessel] = free[vessel].max(end);
        }
        last = last.max(end);
    }
    last
}
