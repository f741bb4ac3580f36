//! When it will be ready, if you go on now with one pair of hands.

use super::{Made, StepState};
use crate::drink::Precedence;
use crate::trace::Trace;

/// When the last step will be done, minutes since the batch started: what runs goes on, what is ahead is
/// done one thing after the other, and nothing is started before what it needs is done. The times are those of
/// the trace.
pub(super) fn ready_at(made: &Made, trace: &Trace, precedence: &Precedence, now: f64) -> f64 {
    let mut hands = now;
    let mut ends: Vec<f64> = Vec::with_capacity(trace.frames.len());
    for (step, (state, frame)) in made.steps.iter().zip(&trace.frames).enumerate() {
        let (takes, by_hand) = (frame.minutes.0, frame.hands_on.0.min(frame.minutes.0));
        let end = match state.state {
            StepState::Done { at, .. } => at,
            // What is over time is over when somebody looks.
            StepState::Running { since } => (since + takes).max(now),
            StepState::Ahead => {
                let needs = precedence.needs(step).iter();
                let begin = needs.map(|need| ends[need.step]).fold(hands, f64::max);
                hands = begin + by_hand;
                begin + takes
            }
        };
        ends.push(end);
    }
    ends.into_iter().fold(0.0, f64::max)
}
