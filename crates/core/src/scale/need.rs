//! What a vessel has to hold, read off the trace, and which of the kitchen's can: everybody who asks
//! whether a vessel will do asks here.

use crate::cupboard::{Material, OwnVessel, SOUR_FOR_METAL, VesselKind};
use crate::drink::Drink;
use crate::trace::Trace;

/// What a vessel of a drink has to hold.
pub(crate) struct Need {
    /// Its level at the fullest moment, ml.
    pub(crate) fullest: f64,
    /// What it must hold to the brim for that, ml.
    pub(crate) needed: f64,
    /// The step of that moment.
    pub(crate) step: Option<usize>,
    /// Whether it is ever sour enough to take metal out of bare metal.
    pub(crate) sour: bool,
}

/// What a vessel has to hold in the course of a trace.
pub(crate) fn need(drink: &Drink, trace: &Trace, vessel: usize) -> Need {
    let kind = drink.vessels[vessel].kind;
    let mut need = Need { fullest: 0.0, needed: 0.0, step: None, sour: false };
    for (step, contents) in trace.states_of(vessel) {
        let level = contents.level().0;
        let needed = level / kind.working_level(contents.temperature);
        need.sour |= contents.liquid.acidity_percent() > SOUR_FOR_METAL;
        if needed > need.needed {
            need = Need { fullest: level, needed, step: Some(step), sour: need.sour };
        }
    }
    need
}

/// Whether a vessel of one sort can do the work of another.
fn stands_in(own: VesselKind, wanted: VesselKind) -> bool {
    use VesselKind as V;
    own == wanted
        || match wanted {
            V::Bowl => matches!(own, V::Pot | V::Jug | V::Pitcher),
            V::Jug => matches!(own, V::Pitcher | V::Bowl | V::Pot),
            V::Pitcher => matches!(own, V::Jug),
            _ => false,
        }
}

impl Need {
    /// Whether one of the kitchen's vessels can do the work: of its sort, and of no metal that what is
    /// in it would eat.
    pub(crate) fn suits(&self, own: &OwnVessel, wanted: VesselKind) -> bool {
        stands_in(own.kind, wanted)
            && !(self.sour && own.material.is_some_and(Material::reacts_with_acid))
    }

    /// The largest of the kitchen's that can do the work.
    pub(super) fn largest(&self, own: &[OwnVessel], wanted: VesselKind) -> Option<f64> {
        own.iter().filter(|v| self.suits(v, wanted)).map(capacity).max_by(f64::total_cmp)
    }
}

/// What one of the kitchen's vessels holds to the brim, ml.
pub(crate) fn capacity(vessel: &OwnVessel) -> f64 {
    vessel.capacity.as_millilitres().unwrap_or(0.0)
}
