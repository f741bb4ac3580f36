//! What boils for so many minutes with the lid off, at another size.
//!
//! Steam leaves by the opening, and a pot of four times as much hasn't four times the opening. So half of a syrup that
//! boils for ten minutes ends far thicker, and four times as much far thinner. What the cook wants is the same end: the
//! minutes are those in which the same share of its water goes.

use super::Size;
use crate::chemistry::Component;
use crate::drink::{Action, Drink};
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

fn open_minutes(action: &mut Action) -> Option<&mut f64> {
    match action {
        Action::Boil { minutes, lid: false, .. } if *minutes > 0.0 => Some(minutes),
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
    let open = |it: &Drink| -> Vec<usize> {
        let is_open = |i: &usize| open_minutes(&mut it.steps[*i].action.clone()).is_some();
        (0..it.steps.len()).filter(is_open).collect()
    };
    let mut changed = false;
    let steps = open(written);
    if steps.is_empty() {
        return Ok(false);
    }
    let before = worktop.trace(written)?;
    for step in steps {
        let Some(wanted) = left_after(written, &before, step) else { continue };
        for _ in 0..TRIES {
            let trace = worktop.trace(sized)?;
            let Some(now) = left_after(sized, &trace, step) else { break };
            let from = open_minutes(&mut written.steps[step].action.clone()).copied();
            let (Some(from), Some(minutes)) = (from, open_minutes(&mut sized.steps[step].action))
            else {
                break;
            };
            if (now - wanted).abs() < SAME_END / 2.0 || now >= 0.0 {
                break;
            }
            if !changed && (now - wanted).abs() < SAME_END {
                break;
            }
            let next = (*minutes * wanted / now).clamp(from / BY, from * BY).min(MOST);
            if (next / *minutes - 1.0).abs() < 0.01 {
                break;
            }
            *minutes = next;
            changed = true;
        }
        if let Some(minutes) = open_minutes(&mut sized.steps[step].action)
            && changed
        {
            *minutes = told(*minutes);
        }
    }
    Ok(changed)
}

/// What is told of it: how long it boils here, and how long as written.
pub(super) fn changes(written: &Drink, sized: &Drink) -> Vec<String> {
    let mut told = Vec::new();
    for (old, new) in written.steps.iter().zip(&sized.steps) {
        let (mut old, mut new) = (old.action.clone(), new.action.clone());
        if let (Some(old), Some(new)) = (open_minutes(&mut old), open_minutes(&mut new))
            && old != new
        {
            told.push(format!(
                "Boil for {new} minutes instead of {old}, so that it thickens as much."
            ));
        }
    }
    told
}

/// Whether a size says how much there is to be in the end.
pub(super) fn says_volume(size: &Size) -> bool {
    matches!(size, Size::Volume(_) | Size::Glasses { .. })
}
