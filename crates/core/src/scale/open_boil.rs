//! What boils for so many minutes with the lid off, at another size.
//!
//! Steam leaves by the opening, and a pot of four times as much hasn't four times the opening. So half of a syrup that
//! boils for ten minutes ends far thicker, and four times as much far thinner. What the cook wants is the same end: the
//! minutes are those in which the same share of its water goes.

use crate::chemistry::Component;
use crate::drink::{Action, Drink, Step};
use crate::trace::Trace;
use crate::work::{Stopped, Worktop};

/// Nobody tells a fiftieth of the water.
const SAME_END: f64 = 0.02;
/// Minutes at most, and by how much they may grow or shrink: beyond that it is another drink.
const MOST: f64 = 1440.0;
const BY: f64 = 8.0;
/// How often the minutes are tried.
const TRIES: usize = 5;

/// How much of the water of an open boil is left after it, as a logarithm.
fn left_after(drink: &Drink, trace: &Trace, step: usize) -> Option<f64> {
    let vessel = drink.vessel(drink.steps[step].action.path().first()?)?;
    let frame = trace.frames.get(step)?;
    let contents = &frame.touched.iter().find(|t| t.vessel == vessel)?.contents;
    let water = contents.liquid[Component::Water]
        + contents.pieces.iter().map(|p| p.inside[Component::Water]).sum::<f64>();
    let gone = frame.gone[Component::Water];
    (water > 1.0).then(|| (water / (water + gone)).ln())
}

/// How long it boils with the lid off; none for any other step.
fn open_minutes(action: &Action) -> Option<f64> {
    match action {
        Action::Boil { minutes, lid: false, .. } if *minutes > 0.0 => Some(*minutes),
        _ => None,
    }
}

/// In whole minutes; shorter ones in halves.
fn told(minutes: f64) -> f64 {
    if minutes < 5.0 { (2.0 * minutes).round().max(1.0) / 2.0 } else { minutes.round() }
}

/// Sets the minutes of open boils of a drink that was brought to another size, so that each ends as it does in the
/// drink as written. Whether any had to be changed.
pub(super) fn boil_as_far(
    written: &Drink,
    sized: &mut Drink,
    worktop: Worktop<'_>,
) -> Result<bool, Stopped> {
    let open = |(step, it): (usize, &Step)| Some((step, open_minutes(&it.action)?));
    let open: Vec<(usize, f64)> = written.steps.iter().enumerate().filter_map(open).collect();
    if open.is_empty() {
        return Ok(false);
    }
    let before = worktop.trace(written)?;
    let mut changed = false;
    for (step, from) in open {
        let Some(wanted) = left_after(written, &before, step) else { continue };
        // The first time it has to matter; then it is brought nearer than that.
        let mut near = SAME_END;
        for _ in 0..TRIES {
            let trace = worktop.trace(sized)?;
            let Some(now) = left_after(sized, &trace, step).filter(|now| *now < 0.0) else { break };
            let Action::Boil { minutes, .. } = &mut sized.steps[step].action else { break };
            let next = (*minutes * wanted / now).clamp(from / BY, from * BY).min(MOST);
            if (now - wanted).abs() < near || (next / *minutes - 1.0).abs() < 0.01 {
                break;
            }
            *minutes = next;
            near = SAME_END / 2.0;
        }
        if let Action::Boil { minutes, .. } = &mut sized.steps[step].action
            && near < SAME_END
        {
            *minutes = told(*minutes);
            changed = true;
        }
    }
    Ok(changed)
}

/// What is told of it: how long it boils here, and how long as written.
pub(super) fn changes(written: &Drink, sized: &Drink) -> Vec<String> {
    let pairs = written.steps.iter().zip(&sized.steps);
    pairs
        .filter_map(|(old, new)| Some((open_minutes(&old.action)?, open_minutes(&new.action)?)))
        .filter(|(old, new)| old != new)
        .map(|(old, new)| {
            format!("Boil for {new} minutes instead of {old}, so that it thickens as much.")
        })
        .collect()
}
