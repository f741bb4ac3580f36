//! What the list of drinks shows of each: all of it is read off the trace.

use keen_core::balance::{BalanceMap, Profile};
use keen_core::cupboard::{Cupboard, VesselKind};
use keen_core::drink::{Action, CoolingPlace, Drink, Family};
use keen_core::history::Figures;
use keen_core::keep::Keeping;
use keen_core::trace::Trace;
use serde::Serialize;
use utoipa::ToSchema;

/// The summary of a drink for the list.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct Summary {
    pub(super) name: String,
    family: Family,
    /// The total, ml; 0 while there is nothing to drink.
    volume_ml: f64,
    /// Sugar–acid ratio.
    ratio: Option<f64>,
    /// The band that it is in, as a word.
    band: Option<String>,
    /// Soluble solids, % of the weight.
    brix: f64,
    /// Colour in the glass, `#rrggbb`.
    pub(super) colour: Option<String>,
    /// The kind of vessel that holds it before serving.
    stands_in: VesselKind,
    /// The filled share of that vessel, 0 to 1.
    fill: f64,
    /// The time from the first step to the last, minutes.
    minutes: f64,
    /// The hands-on part, minutes.
    hands_on_minutes: f64,
    /// How many days it keeps in the refrigerator; missing while it is empty.
    keeps: Option<String>,
    /// The equipment that it needs besides jugs and glasses: "a pot on the stove", "a blender".
    kit: Vec<&'static str>,
    /// What it is known by when tables change.
    #[serde(skip)]
    pub(super) figures: Option<Figures>,
}

/// What of a kitchen a drink takes that not every kitchen has to hand.
fn kit(drink: &Drink) -> Vec<&'static str> {
    use VesselKind as V;
    let cooks =
        |a: &Action| matches!(a, Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. });
    let has = |kinds: &[V]| drink.vessels.iter().any(|v| kinds.contains(&v.kind));
    let freezes = |a: &Action| matches!(a, Action::Cool { place: CoolingPlace::Freezer, .. });
    let all = [
        (drink.steps.iter().any(|s| cooks(&s.action)), "a pot on the stove"),
        (has(&[V::Blender]), "a blender"),
        (has(&[V::Colander, V::Sieve, V::FineSieve]), "a sieve"),
        (has(&[V::Cloth, V::Bag]), "a cloth"),
        (has(&[V::Bottle]), "bottles"),
        (drink.steps.iter().any(|s| freezes(&s.action)), "a freezer"),
    ];
    all.into_iter().filter(|(takes, _)| *takes).map(|(_, what)| what).collect()
}

pub(super) fn summarise(drink: &Drink, cupboard: &Cupboard) -> Summary {
    let trace = Trace::run(drink, cupboard);
    let profile = trace.outcome().and_then(Profile::of);
    let map = BalanceMap::of(drink.family, profile.as_ref());
    let outcome = trace.outcome();
    let vessel = outcome.map(|o| o.from.unwrap_or(o.vessel));
    let fill = vessel.and_then(|v| {
        let (_, contents) = trace.fullest(v)?;
        Some((contents.level().0 / drink.vessels[v].capacity().0).clamp(0.0, 1.0))
    });
    Summary {
        name: drink.name.clone(),
        family: drink.family,
        volume_ml: profile.as_ref().map_or(0.0, |p| p.volume_ml),
        ratio: profile.as_ref().and_then(|p| p.ratio),
        band: map.point.and_then(|p| p.band),
        brix: profile.as_ref().map_or(0.0, |p| p.brix),
        colour: profile.map(|p| p.colour),
        stands_in: vessel.map_or(VesselKind::Pitcher, |v| drink.vessels[v].kind),
        fill: fill.unwrap_or(0.0),
        minutes: trace.minutes.0,
        hands_on_minutes: trace.hands_on().0,
        keeps: Keeping::of(drink, cupboard, &trace).map(|k| k.words),
        kit: kit(drink),
        figures: Figures::of(drink, cupboard, &trace),
    }
}
