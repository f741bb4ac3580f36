//! Which of the kitchen's vessels a drink fits into, and what to do where none is large enough.

use serde::Serialize;

use super::need::{Need, capacity, need};
use super::{Size, resize};
use crate::balance::Taste;
use crate::cupboard::{Cupboard, OwnVessel, Staple, VesselKind};
use crate::drink::{Action, Drink};
use crate::quantity::Amount;
use crate::trace::Trace;
use crate::work::{Stopped, Worktop};

/// How a drink fits into the kitchen's vessels.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct VesselPlan {
    /// One entry for each vessel of the drink, without strainers and glasses.
    pub fits: Vec<Fit>,
    /// The number of rounds; 1 if all at once.
    pub batches: u32,
    /// The volume of each round, ml.
    pub batch_ml: f64,
    /// The drink as made in one round.
    pub batch: Drink,
    /// Another order of steps that needs fewer rounds, if there is one.
    pub instead: Option<Concentrate>,
    /// Whether everything fits, in rounds if needed.
    pub possible: bool,
}

/// A vessel of the drink, with the kitchen's vessel for it.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Fit {
    /// The vessel's id in the drink.
    pub vessel: String,
    /// Its name there.
    pub name: String,
    /// The kind of vessel.
    pub kind: VesselKind,
    /// The volume at its fullest moment, in one round, ml.
    pub fullest_ml: f64,
    /// The capacity that it needs, ml: a boiling pot may be two thirds full.
    pub needed_ml: f64,
    /// The id of the step in which the vessel is fullest.
    pub step: Option<String>,
    /// The kitchen's vessels that are used; empty if it has none of this kind.
    pub taken: Vec<Taken>,
    /// In words.
    pub message: String,
    /// Whether it fits.
    pub fits: bool,
}

/// Kitchen vessels of one kind.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Taken {
    /// Its name.
    pub name: String,
    /// The capacity of one to the brim, ml.
    pub capacity_ml: f64,
    /// How many.
    pub count: u32,
    /// The volume in each, ml.
    pub filled_ml: f64,
    /// The volume in the last one, ml.
    pub last_ml: f64,
}

/// A concentrate made in the small vessel and diluted in the next.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Concentrate {
    /// The drink with its steps in that order.
    pub drink: Drink,
    /// The number of rounds in that order.
    pub batches: u32,
    /// Its effect, in words.
    pub message: String,
}

/// More goes than this are no plan.
const MOST_BATCHES: u32 = 60;

/// Vessels in which the drink waits to be served: several may stand side by side.
pub(crate) fn keeps(drink: &Drink, vessel: usize) -> bool {
    let id = &drink.vessels[vessel].id;
    drink.vessels[vessel].kind == VesselKind::Bottle
        || drink.steps.iter().any(|s| matches!(&s.action, Action::Serve { from, .. } if from == id))
}

/// Fits a drink into the kitchen's vessels.
///
/// Each vessel is judged by its fullest moment with solids, boil-up and headspace. Where the largest
/// of its sort is too small, the drink is made in the fewest goes that fit, all alike; it is then run
/// at that size to see that they do. What the drink waits in may be several vessels.
///
/// # Errors
/// If the drink is too large to be tried at so many sizes.
pub fn fit<'a>(drink: &Drink, worktop: impl Into<Worktop<'a>>) -> Result<VesselPlan, Stopped> {
    let worktop = worktop.into();
    fit_into(drink, worktop, &worktop.cupboard().kitchen().vessels)
}

/// The same, into those of the kitchen's vessels that are free.
pub(crate) fn fit_into(
    drink: &Drink,
    worktop: Worktop<'_>,
    own: &[OwnVessel],
) -> Result<VesselPlan, Stopped> {
    let whole = worktop.trace(drink)?;
    let total = whole.outcome().map_or(0.0, |o| o.ready.0);
    let (batches, batch) = goes(drink, worktop, own, total)?;
    let trace = worktop.trace(&batch)?;
    let instead = if batches > 1 { concentrate(drink, worktop, own, batches)? } else { None };
    let mut left: Vec<OwnVessel> = own.to_vec();
    let mut fits = Vec::new();
    for vessel in judged(drink) {
        let at_once = need(drink, &whole, vessel);
        if at_once.needed <= 0.0 {
            continue;
        }
        let mine = if keeps(drink, vessel) { &whole } else { &trace };
        let needed = need(drink, mine, vessel);
        fits.push(one_fit(drink, vessel, &at_once, &needed, &mut left, own, batches, mine));
    }
    let possible = fits.iter().all(|f| f.fits);
    Ok(VesselPlan {
        fits,
        batches,
        batch_ml: trace.outcome().map_or(0.0, |o| o.ready.0),
        batch,
        instead,
        possible,
    })
}

/// The vessels that have to be large enough.
pub(super) fn judged(drink: &Drink) -> impl Iterator<Item = usize> + '_ {
    (0..drink.vessels.len()).filter(|v| {
        let kind = drink.vessels[*v].kind;
        kind.strainer().is_none() && kind != VesselKind::Glass
    })
}

/// The fewest goes in which everything fits, and the drink of one.
fn goes(
    drink: &Drink,
    worktop: Worktop<'_>,
    own: &[OwnVessel],
    total: f64,
) -> Result<(u32, Drink), Stopped> {
    let mut batches = 1;
    let mut batch = drink.clone();
    loop {
        let trace = worktop.trace(&batch)?;
        let worst = judged(drink)
            .filter(|v| !keeps(drink, *v))
            .filter_map(|v| {
                let need = need(&batch, &trace, v);
                Some(need.needed / need.largest(own, drink.vessels[v].kind)?)
            })
            .fold(0.0, f64::max);
        if worst <= 1.0 || batches >= MOST_BATCHES || total <= 0.0 {
            return Ok((batches, batch));
        }
        // What it is over by says how many goes there will have to be; at least one more.
        let more = (f64::from(batches) * worst - 1e-9).ceil() as u32;
        batches = more.max(batches + 1).min(MOST_BATCHES);
        let each = Amount::millilitres(total / f64::from(batches));
        let glasses = drink.steps.iter().find_map(|s| match &s.action {
            Action::Serve { glasses, .. } => Some(*glasses),
            _ => None,
        });
        // A go is a part of the drink; it is only served when all goes are there.
        let mut part = drink.clone();
        part.steps.retain(|s| !matches!(s.action, Action::Serve { .. }));
        let sized = if glasses.is_some() { &part } else { drink };
        match resize(sized, worktop, &Size::Volume(each)) {
            Ok(small) => batch = small,
            Err(_) => return Ok((batches, batch)),
        }
    }
}

#[allow(clippy::too_many_arguments, reason = "one vessel seen from every side")]
fn one_fit(
    drink: &Drink,
    vessel: usize,
    at_once: &Need,
    needed: &Need,
    left: &mut [OwnVessel],
    own: &[OwnVessel],
    batches: u32,
    trace: &Trace,
) -> Fit {
    let it = &drink.vessels[vessel];
    let mut taken = Vec::new();
    let several = keeps(drink, vessel);
    let share = needed.fullest / needed.needed.max(1e-9);
    let bottles = trace.many.get(vessel).copied().unwrap_or(1.0);
    // What stands in all bottles together, as the drink has it.
    let room = if it.kind == VesselKind::Bottle { needed.needed * bottles } else { needed.needed };
    if several {
        fill_several(needed, it.kind, room, share, left, &mut taken);
    } else if let Some(i) = smallest_that_fits(needed, left, it.kind, needed.needed) {
        taken.push(take(left, i, 1, needed.fullest, needed.fullest));
    } else if let Some(i) = smallest_that_fits(needed, own, it.kind, needed.needed) {
        // It is washed and used again.
        taken.push(Taken {
            name: own[i].name.clone(),
            capacity_ml: capacity(&own[i]),
            count: 1,
            filled_ml: needed.fullest,
            last_ml: needed.fullest,
        });
    }
    let holds: f64 = taken.iter().map(|t| t.capacity_ml * f64::from(t.count)).sum();
    let fits = !taken.is_empty() && holds + 0.5 >= room;
    let kind = it.kind.name().to_lowercase();
    let known = own.iter().any(|v| needed.suits(v, it.kind));
    let say = |ml: f64| {
        if ml >= 1000.0 { format!("{:.1} l", ml / 1000.0) } else { format!("{ml:.0} ml") }
    };
    let message = if !known {
        format!("Your cupboard has no {kind}. You need one of {}.", say(needed.needed))
    } else if fits {
        let names: Vec<String> = taken.iter().map(Taken::said).collect();
        let goes = if batches > 1 && !several {
            format!(", in {batches} rounds of {}", say(needed.fullest))
        } else {
            String::new()
        };
        format!("{}{goes}.", names.join(" and "))
    } else {
        format!(
            "Too small: it needs {} and holds {}.",
            say(room),
            say(holds.max(needed.largest(own, it.kind).unwrap_or(0.0)))
        )
    };
    Fit {
        vessel: it.id.clone(),
        name: drink.label(vessel),
        kind: it.kind,
        fullest_ml: at_once.fullest,
        needed_ml: at_once.needed,
        step: at_once.step.map(|s| drink.steps[s].id.clone()),
        taken,
        message,
        fits,
    }
}

impl Taken {
    fn said(&self) -> String {
        let last = if self.count > 1 && self.last_ml < self.filled_ml * 0.98 {
            format!(", the last filled to {:.0} ml", self.last_ml)
        } else {
            String::new()
        };
        if self.count == 1 {
            format!("“{}”", self.name)
        } else {
            format!("{} of “{}”{last}", self.count, self.name)
        }
    }
}

pub(super) fn smallest_that_fits(
    need: &Need,
    left: &[OwnVessel],
    kind: VesselKind,
    needed: f64,
) -> Option<usize> {
    (0..left.len())
        .filter(|i| left[*i].count > 0 && need.suits(&left[*i], kind))
        .filter(|i| capacity(&left[*i]) + 0.5 >= needed)
        // One of its own sort rather than another, then the smallest.
        .min_by(|a, b| {
            let rank = |i: usize| (left[i].kind != kind, capacity(&left[i]));
            let ((x, m), (y, n)) = (rank(*a), rank(*b));
            x.cmp(&y).then(m.total_cmp(&n))
        })
}

fn take(left: &mut [OwnVessel], i: usize, count: u32, filled: f64, last: f64) -> Taken {
    left[i].count = left[i].count.saturating_sub(count);
    Taken {
        name: left[i].name.clone(),
        capacity_ml: capacity(&left[i]),
        count,
        filled_ml: filled,
        last_ml: last,
    }
}

/// Fills what the drink waits in: one that holds it all if there is, else the largest first.
fn fill_several(
    need: &Need,
    kind: VesselKind,
    room: f64,
    share: f64,
    left: &mut [OwnVessel],
    taken: &mut Vec<Taken>,
) {
    if let Some(i) = smallest_that_fits(need, left, kind, room) {
        taken.push(take(left, i, 1, room * share, room * share));
        return;
    }
    let mut missing = room;
    while missing > 0.5 {
        let next = (0..left.len())
            .filter(|i| left[*i].count > 0 && need.suits(&left[*i], kind))
            .max_by(|a, b| capacity(&left[*a]).total_cmp(&capacity(&left[*b])));
        let Some(i) = next else { return };
        let each = capacity(&left[i]);
        let count = ((missing / each - 1e-9).ceil() as u32).min(left[i].count).max(1);
        let last = (missing - each * f64::from(count - 1)).min(each);
        taken.push(take(left, i, count, each * share, last * share));
        missing -= each * f64::from(count);
    }
}

/// Keeps water back from the vessel that is too small, and puts it in where that is poured out.
fn concentrate(
    drink: &Drink,
    worktop: Worktop<'_>,
    own: &[OwnVessel],
    batches: u32,
) -> Result<Option<Concentrate>, Stopped> {
    let trace = worktop.trace(drink)?;
    let Some(kept_back) = keep_back(drink, own, &trace, worktop.cupboard()) else {
        return Ok(None);
    };
    let KeptBack { drink: changed, into, ml: back } = kept_back;
    let total = trace.outcome().map_or(0.0, |o| o.ready.0);
    let (fewer, _) = goes(&changed, worktop, own, total)?;
    let after = worktop.trace(&changed)?;
    let tastes = trace.outcome().and_then(Taste::of).zip(after.outcome().and_then(Taste::of));
    Ok(tastes.filter(|_| fewer < batches).map(|(was, is)| Concentrate {
        batches: fewer,
        message: said(drink, &into, back, fewer, batches, was, is),
        drink: changed,
    }))
}

/// A drink with water kept back until the vessel that is too small has been poured out.
struct KeptBack {
    drink: Drink,
    /// Id of the vessel that it goes into then.
    into: String,
    ml: f64,
}

fn keep_back(
    drink: &Drink,
    own: &[OwnVessel],
    trace: &Trace,
    cupboard: &Cupboard,
) -> Option<KeptBack> {
    let tap = &cupboard.staple(Staple::Water).id;
    let (vessel, most) = judged(drink)
        .filter(|v| !keeps(drink, *v))
        .filter_map(|v| {
            let most = need(drink, trace, v).largest(own, drink.vessels[v].kind)?;
            Some((v, most))
        })
        .max_by(|(a, m), (b, n)| {
            let over = |v: usize, most: f64| need(drink, trace, v).needed / most;
            over(*a, *m).total_cmp(&over(*b, *n))
        })?;
    let needed = need(drink, trace, vessel);
    let over = (needed.needed - most) * needed.fullest / needed.needed;
    let id = &drink.vessels[vessel].id;
    let (water_at, water) = drink
        .steps
        .iter()
        .enumerate()
        .filter_map(|(i, s)| match &s.action {
            Action::Add { into, ingredient, amount, .. } if into == id && ingredient == tap => {
                Some((i, amount.as_millilitres()?))
            }
            _ => None,
        })
        .max_by(|a, b| a.1.total_cmp(&b.1))?;
    let out =
        drink.steps.iter().enumerate().skip(water_at + 1).find_map(|(i, s)| match &s.action {
            Action::Strain { from, into, .. } | Action::Pour { from, into, .. } if from == id => {
                Some((i, into.clone()))
            }
            _ => None,
        })?;
    // Two thirds of the water at most: what draws must still be covered.
    let back = (over * 1.02).min(water * 0.67);
    if back < over {
        return None;
    }
    let mut changed = drink.clone();
    if let Some(amount) = changed.steps[water_at].action.amount_mut() {
        *amount = Amount::millilitres((water - back).max(1.0)).rounded();
    }
    let add = Action::add(out.1.clone(), tap, Amount::millilitres(back).rounded());
    changed.steps.insert(out.0 + 1, crate::drink::Step::new(String::new(), add));
    changed.name_steps();
    Some(KeptBack { drink: changed, into: out.1, ml: back })
}

/// What keeping water back changes, in a sentence or two.
fn said(
    drink: &Drink,
    into: &str,
    back: f64,
    fewer: u32,
    batches: u32,
    was: Taste,
    is: Taste,
) -> String {
    let into = drink.vessel(into).map_or_else(String::new, |v| drink.in_sentence(v));
    let mut changes = Vec::new();
    for (what, was, is, places, least) in [
        ("sweetness", was.sweetness_percent, is.sweetness_percent, 1, 0.1),
        ("acid", was.acidity_percent, is.acidity_percent, 2, 0.01),
    ] {
        if (is - was).abs() >= least {
            let way = if is < was { "less" } else { "more" };
            changes.push(format!("{:.places$} g {way} {what}", (is - was).abs()));
        }
    }
    let taste = if changes.is_empty() {
        "It tastes the same.".to_owned()
    } else {
        format!("It then has {} in 100 g.", changes.join(" and "))
    };
    let goes = if fewer == 1 { "one round".to_owned() } else { format!("{fewer} rounds") };
    format!(
        "Hold back {:.1} l of the water and add it to {into} afterwards: {goes} instead of {batches}. {taste}",
        back / 1000.0,
    )
}
