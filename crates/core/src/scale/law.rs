use serde::Serialize;

use crate::cupboard::{Cupboard, Kind};
use crate::drink::{Action, Drink, Law, Step};

/// Beyond this many times a spice grows by a power.
const SPICE_FROM: f64 = 4.0;
/// The usual power: large pots draw spices longer and lose less of them. Kitchen rule.
pub const SPICE_POWER: f64 = 0.85;

/// The law that a line follows, and why.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LawOf {
    /// The law.
    pub law: Law,
    /// Why that one.
    pub reason: &'static str,
}

impl LawOf {
    /// The law of a step of a drink.
    #[must_use]
    pub fn step(drink: &Drink, cupboard: &Cupboard, step: &Step) -> Self {
        let of = |law, reason| Self { law, reason };
        if joins_in_glass(drink, &step.action) {
            return of(Law::PerGlass, "it goes into each glass");
        }
        if joins_in_bottle(drink, step) {
            return of(Law::PerVessel, "it goes into each bottle, and there are more bottles");
        }
        if let Some(law) = step.law {
            return of(law, "you set this");
        }
        let it = step.action.ingredient().and_then(|id| cupboard.ingredient(id));
        let bitters = it.is_some_and(|it| it.kind == Kind::Spirit && it.flavour.bitterness > 0.0);
        match it.map(|it| it.kind) {
            Some(Kind::Spice) => of(
                Law::Spice(SPICE_POWER),
                "spices are scaled up less above 4×: large pots steep longer",
            ),
            Some(Kind::Flavouring) => {
                of(Law::Spice(SPICE_POWER), "essences are scaled up less above 4×")
            }
            _ if bitters => of(Law::Spice(SPICE_POWER), "bitters are scaled up less above 4×"),
            _ => of(Law::Straight, "in proportion"),
        }
    }
}

/// How many times an amount becomes when the drink becomes `factor` times as much.
pub(super) fn times(law: Law, factor: f64, in_glass: f64) -> f64 {
    match law {
        Law::Straight | Law::ToTaste => factor,
        Law::Spice(power) if factor > SPICE_FROM => SPICE_FROM * (factor / SPICE_FROM).powf(power),
        Law::Spice(_) => factor,
        Law::PerVessel => 1.0,
        Law::PerGlass => in_glass,
    }
}

/// Whether a step puts something into every glass.
pub(super) fn joins_in_glass(drink: &Drink, action: &Action) -> bool {
    let serves_in = |id: &str| {
        drink.steps.iter().any(|s| matches!(&s.action, Action::Serve { glass, .. } if glass == id))
    };
    let made_in = |id: &str| drink.vessel(id).is_some_and(|v| drink.vessels[v].count.is_some());
    action.brings().is_some() && action.path().last().is_some_and(|id| serves_in(id) || made_in(id))
}

/// Whether a step puts something into every bottle that has been filled.
fn joins_in_bottle(drink: &Drink, step: &Step) -> bool {
    let fills = |bottle: &str, of: &Step| matches!(&of.action, Action::Bottle { bottle: filled, .. } if filled == bottle);
    step.action.brings().is_some()
        && step.action.path().last().is_some_and(|bottle| {
            drink.steps.iter().take_while(|s| s.id != step.id).any(|s| fills(bottle, s))
        })
}
