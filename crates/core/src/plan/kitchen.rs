//! The vessels of the kitchen that a plan may use, one by one.

use crate::cupboard::{OwnVessel, VesselKind};
use crate::drink::Drink;
use crate::scale::{capacity, need};
use crate::trace::Trace;

/// The kitchen's vessels, told apart.
pub(super) struct Vessels {
    own: Vec<OwnVessel>,
    /// For each vessel that stands there, which of `own` it is.
    pub(super) units: Vec<usize>,
}

/// What there is for a vessel of a drink.
pub(super) enum Choice {
    /// It doesn't matter: nothing of the kitchen's vessels is known.
    Any,
    /// These, the best first.
    Of(Vec<usize>),
    /// The kitchen has none of that sort.
    NoSuch,
    /// None is large enough.
    TooSmall,
}

impl Vessels {
    pub(super) fn of(own: Vec<OwnVessel>) -> Self {
        let several = own.iter().enumerate().flat_map(|(i, v)| vec![i; v.count as usize]);
        let units = several.collect();
        Self { own, units }
    }

    pub(super) fn name(&self, unit: usize) -> &str {
        &self.own[self.units[unit]].name
    }

    /// The vessels that would do for one of a drink's, by what it has to hold in the course of a run.
    pub(super) fn choice(&self, drink: &Drink, trace: &Trace, vessel: usize) -> Choice {
        if self.own.is_empty() {
            return Choice::Any;
        }
        let kind = drink.vessels[vessel].kind;
        let need = need(drink, trace, vessel);
        let suits = |i: &usize| need.suits(&self.own[self.units[*i]], kind);
        let holds = |i: &usize| {
            kind.strainer().is_some() || capacity(&self.own[self.units[*i]]) + 0.5 >= need.needed
        };
        let mut suited: Vec<usize> = (0..self.units.len()).filter(suits).collect();
        if suited.is_empty() {
            return Choice::NoSuch;
        }
        suited.retain(holds);
        if suited.is_empty() {
            return Choice::TooSmall;
        }
        // One of its own sort rather than another, then the smallest.
        let rank = |i: &usize| {
            let own = &self.own[self.units[*i]];
            (own.kind != kind, capacity(own))
        };
        suited.sort_by(|a, b| {
            let ((x, m), (y, n)) = (rank(a), rank(b));
            x.cmp(&y).then(m.total_cmp(&n))
        });
        Choice::Of(suited)
    }
}

/// Takes what a drink waits in until it is served out of what is there.
pub(super) fn take_from(left: &mut Vec<OwnVessel>, name: &str, count: u32) {
    if let Some(own) = left.iter_mut().find(|v| v.name == name) {
        own.count = own.count.saturating_sub(count);
    }
    left.retain(|v| v.count > 0);
}

/// Whether a vessel is one of those of which nobody runs short within a plan: each glass is one's own.
pub(super) fn is_own(kind: VesselKind) -> bool {
    kind == VesselKind::Glass
}
