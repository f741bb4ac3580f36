//! Larger vessels for a larger drink.
//!
//! Ten times a pitcher of two litres doesn't go into it. What would run over at the new size gets the smallest of the
//! kitchen's vessels that can do the work and holds it; where there is none, it stays as it is, and what runs over is
//! told like any other.

use super::need::need;
use super::vessels::{judged, smallest_that_fits};
use crate::cupboard::OwnVessel;
use crate::drink::Drink;
use crate::work::{Stopped, Worktop};

/// Exchanges what is too small for the drink at its new size, and was large enough for it as written.
pub(super) fn exchange(
    written: &Drink,
    sized: &mut Drink,
    worktop: Worktop<'_>,
) -> Result<(), Stopped> {
    let mut left: Vec<OwnVessel> = worktop.cupboard().kitchen().vessels.clone();
    if left.is_empty() {
        return Ok(());
    }
    let (before, after) = (worktop.trace(written)?, worktop.trace(sized)?);
    for vessel in judged(written) {
        let holds = written.vessels[vessel].capacity().0;
        let was = need(written, &before, vessel).needed;
        let is = need(sized, &after, vessel);
        if is.needed <= holds + 0.5 || is.needed <= was {
            continue;
        }
        let kind = written.vessels[vessel].kind;
        let Some(own) = smallest_that_fits(&is, &left, kind, is.needed) else { continue };
        left[own].count -= 1;
        let it = &mut sized.vessels[vessel];
        it.name = Some(left[own].name.clone());
        it.capacity = Some(left[own].capacity.clone());
        it.diameter_mm = left[own].diameter_mm;
        it.material = left[own].material;
    }
    Ok(())
}

/// What is told of it: which of the kitchen's vessels is taken in place of which.
pub(super) fn changes(written: &Drink, sized: &Drink) -> Vec<String> {
    let pairs = written.vessels.iter().zip(&sized.vessels).enumerate();
    pairs
        .filter(|(_, (old, new))| old.capacity() != new.capacity())
        .filter_map(|(at, (old, new))| {
            let name = new.name.as_deref()?;
            let litres = capacity_said(new.capacity().0);
            let was = capacity_said(old.capacity().0);
            let called = written.label(at).to_lowercase();
            Some(format!("Use “{name}” ({litres}): the {called} of {was} is too small."))
        })
        .collect()
}

fn capacity_said(ml: f64) -> String {
    if ml >= 1000.0 { format!("{} l", (ml / 100.0).round() / 10.0) } else { format!("{ml:.0} ml") }
}
