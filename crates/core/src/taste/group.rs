//! One pitcher for all: where it should lie, whom it misses, and what each stirs into the own glass.
//!
//! A miss is told in differences that the taster just notices. The pitcher of the least sum leaves the
//! smallest sum of squares, each weighted by how surely the ideal is known; the other leaves nobody
//! further off than it must. What somebody doesn't take makes a pitcher of its own, from the same base as
//! far as that goes.

use serde::{Deserialize, Serialize};

use super::ideal::Ideal;
use super::ladder::profile_of;
use super::taster::{Avoid, Objection, Taster};
use crate::balance::{Addition, Aim, Inside, Spot, Target, solve, stirred_in, swap};
use crate::cupboard::{Ingredient, Kind, Role, Staple};
use crate::drink::Drink;
use crate::fault::FieldError;
use crate::trace::Trace;
use crate::work::{Stopped, Worktop};

/// A drinker in the group.
#[derive(Debug, Clone, PartialEq)]
pub struct Guest {
    /// The taster.
    pub taster: Taster,
    /// Where their ideal is, as the logarithm of the sugar–acid ratio.
    pub ideal: Ideal,
}

impl Guest {
    /// The step of `x` that they just notice, when sugar moves.
    fn step(&self) -> f64 {
        (1.0 + self.taster.palate().sweetness).ln()
    }
}

/// How a pitcher is chosen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Fair {
    /// The smallest sum of squared misses.
    LeastSum,
    /// Nobody far off.
    NobodyLeftOut,
}

impl Fair {
    /// Where the pitcher lies, as `x`; none for nobody.
    #[must_use]
    pub fn place(self, guests: &[&Guest]) -> Option<f64> {
        if guests.is_empty() {
            return None;
        }
        match self {
            Self::LeastSum => {
                // Weight: one over the square of a noticed step and of the unsureness together.
                let weight = |g: &Guest| 1.0 / (g.step().powi(2) + g.ideal.sd.powi(2));
                let all: f64 = guests.iter().map(|g| weight(g)).sum();
                Some(guests.iter().map(|g| g.ideal.x * weight(g)).sum::<f64>() / all)
            }
            Self::NobodyLeftOut => {
                // Of two that pull apart the place where both miss by as many steps; of all pairs the
                // one that misses most.
                let mut worst = (0.0, guests[0].ideal.x);
                for (i, a) in guests.iter().enumerate() {
                    for b in &guests[i + 1..] {
                        let (sa, sb) = (a.step(), b.step());
                        let miss = (a.ideal.x - b.ideal.x).abs() / (sa + sb);
                        if miss > worst.0 {
                            worst = (miss, (a.ideal.x * sb + b.ideal.x * sa) / (sa + sb));
                        }
                    }
                }
                Some(worst.1)
            }
        }
    }
}

/// The pitcher's fit for one drinker.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ForGuest {
    /// The drinker's position in the group.
    pub guest: usize,
    /// The distance of the pitcher from their ideal, in noticeable steps; above 0 it is sweeter.
    pub miss: f64,
    /// The ingredient that they stir into their glass; missing if the difference couldn't be tasted, or the pitcher
    /// isn't for them.
    pub stirs_in: Option<Addition>,
    /// The ingredients in the pitcher that they avoid; with any of these, the pitcher isn't for them.
    pub not_for_them: Vec<Objection>,
}

/// A pitcher for some of the group.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct GroupPitcher {
    /// The sugar–acid ratio of this pitcher.
    pub ratio: f64,
    /// Its place on the map.
    pub spot: Spot,
    /// The drink, with amounts that kitchen tools can measure.
    pub drink: Drink,
    /// Whether the target can be reached.
    pub reached: bool,
    /// The obstacle, if it can't be reached.
    pub stops: Vec<String>,
    /// Everyone who drinks from it.
    pub guests: Vec<ForGuest>,
    /// The sum of squared misses.
    pub sum: f64,
    /// The largest miss.
    pub largest: f64,
}

/// The drinkers who share a pitcher, and that pitcher by both methods.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Share {
    /// The positions of these drinkers in the group.
    pub guests: Vec<usize>,
    /// The ingredients of the drink that they avoid.
    pub without: Vec<Objection>,
    /// The last step of a base that all pitchers share, by its id; nothing is shared if left out.
    pub shared_until: Option<String>,
    /// The part of the whole that is theirs, 0 to 1.
    pub part: f64,
    /// The pitcher that is best on average; missing if the drink can't be made without an ingredient that they avoid.
    pub least_sum: Option<GroupPitcher>,
    /// The pitcher that is fairest to everyone.
    pub nobody_left_out: Option<GroupPitcher>,
    /// A note, in a sentence.
    pub note: Option<String>,
}

/// The pitchers of a group, the largest share first.
///
/// # Errors
/// Without anybody, or without anything to drink.
pub fn pitchers<'a>(
    drink: &Drink,
    guests: &[Guest],
    worktop: impl Into<Worktop<'a>>,
) -> Result<Vec<Share>, FieldError> {
    let worktop = worktop.into();
    if guests.is_empty() {
        return Err(FieldError::new("tasters", "Choose who it is for."));
    }
    let mut drink = drink.clone();
    drink.name_steps();
    let trace = worktop.trace(&drink)?;
    let profile = profile_of(&trace).ok_or_else(|| {
        FieldError::new("drink", "There is nothing to drink yet. Add an ingredient first.")
    })?;
    if profile.ratio.is_none() {
        return Err(FieldError::new(
            "drink",
            "It has no acid, so there is no balance to find. Add some juice.",
        ));
    }
    let mut shares: Vec<(Vec<Objection>, Vec<usize>)> = Vec::new();
    for (i, guest) in guests.iter().enumerate() {
        let without = guest.taster.objections(&drink, &trace, worktop);
        let same = |other: &[Objection]| {
            other.len() == without.len()
                && other.iter().zip(&without).all(|(a, b)| a.step == b.step)
        };
        match shares.iter_mut().find(|(other, _)| same(other)) {
            Some((_, theirs)) => theirs.push(i),
            None => shares.push((without, vec![i])),
        }
    }
    shares.sort_by_key(|(without, theirs)| (std::cmp::Reverse(theirs.len()), without.len()));
    let first_apart = shares
        .iter()
        .flat_map(|(without, _)| without)
        .filter_map(|o| drink.steps.iter().position(|s| s.id == o.step))
        .min();
    let several = shares.len() > 1;
    shares
        .into_iter()
        .map(|(without, theirs)| {
            let shared_until = first_apart
                .filter(|at| several && *at > 0)
                .map(|at| drink.steps[at - 1].id.clone());
            let part = theirs.len() as f64 / guests.len() as f64;
            let empty = Share {
                guests: theirs.clone(),
                without: without.clone(),
                shared_until,
                part,
                least_sum: None,
                nobody_left_out: None,
                note: None,
            };
            let of_them: Vec<&Guest> = theirs.iter().map(|i| &guests[*i]).collect();
            let Some(suits) = without_it(&drink, &without, &of_them, worktop)? else {
                let names: Vec<String> = without.iter().map(|o| o.name.to_lowercase()).collect();
                let note = format!(
                    "Without {} it isn't the same drink. Make another drink for them.",
                    names.join(" and ")
                );
                return Ok(Share { note: Some(note), ..empty });
            };
            let theirs: Vec<(usize, &Guest)> = theirs.iter().map(|i| (*i, &guests[*i])).collect();
            Ok(Share {
                least_sum: pitcher(&suits, &theirs, Fair::LeastSum, worktop)?,
                nobody_left_out: pitcher(&suits, &theirs, Fair::NobodyLeftOut, worktop)?,
                ..empty
            })
        })
        .collect()
}

/// The drink without what they don't take, at the same sweetness and acidity; nothing where it is no drink
/// without it. What sweetens or sharpens is replaced by something that all of them take; a herb or a spice is
/// left out.
fn without_it(
    drink: &Drink,
    without: &[Objection],
    theirs: &[&Guest],
    worktop: Worktop<'_>,
) -> Result<Option<Drink>, FieldError> {
    let cupboard = worktop.cupboard();
    let all_take = |it: &Ingredient| theirs.iter().all(|guest| guest.taster.takes(it));
    let mut now = drink.clone();
    let before = profile_of(&worktop.trace(drink)?);
    let mut left_out = false;
    for objection in without {
        let brought = now.steps.iter().find(|step| step.id == objection.step);
        let it = brought.and_then(|step| cupboard.ingredient(step.action.brings()?.ingredient));
        let Some(it) = it else { return Ok(None) };
        let others = match (&objection.avoids, it.role()) {
            (Avoid::Alcohol, _) => None,
            (Avoid::Milk, _) => return Ok(None),
            (_, Role::Sweetens) => Some(Staple::ReplacesASweetener),
            (_, Role::Sharpens) => Some(Staple::ReplacesASouring),
            (
                _,
                Role::OfItsKind(
                    Kind::Herb
                    | Kind::Spice
                    | Kind::Flower
                    | Kind::Zest
                    | Kind::Flavouring
                    | Kind::Salt,
                ),
            ) => None,
            // A fruit is what the drink is made of.
            _ => return Ok(None),
        };
        let Some(others) = others else {
            now.steps.retain(|step| step.id != objection.step);
            left_out = true;
            continue;
        };
        let mut may = cupboard.staples(others).filter(|it| all_take(it)).map(|it| it.id.as_str());
        let swapped = may.find_map(|id| {
            let swapped = swap(&now, worktop, &objection.step, id).ok()?;
            swapped.solution.reached.then_some(swapped.solution.rounded)
        });
        match swapped {
            Some(swapped) => now = swapped,
            None => return Ok(None),
        }
    }
    if left_out && let Some(before) = before {
        // What went with it of sweetness and water is made good.
        let target = Target {
            sweetness: Some(before.sweetness_percent),
            acidity: Some(before.acidity_percent),
            ..Target::default()
        };
        let solved = solve(&now, worktop, &Aim { target, ..Aim::default() });
        return Ok(solved.ok().map(|s| s.rounded));
    }
    Ok(Some(now))
}

/// What each stirs into a glass of the drink as it is.
///
/// # Errors
/// Without anything to drink, or where it is too large to be run.
pub fn in_the_glass<'a>(
    drink: &Drink,
    guests: &[Guest],
    worktop: impl Into<Worktop<'a>>,
) -> Result<Vec<ForGuest>, FieldError> {
    let worktop = worktop.into();
    let trace = worktop.trace(drink)?;
    let ratio = profile_of(&trace).and_then(|p| p.ratio).ok_or_else(|| {
        FieldError::new("drink", "It has no acid, so there is no balance to find. Add some juice.")
    })?;
    let mut drink = drink.clone();
    drink.name_steps();
    let each = guests.iter().enumerate();
    Ok(each_in_the_glass(&drink, &trace, ratio, each, worktop)?)
}

fn each_in_the_glass<'g>(
    drink: &Drink,
    trace: &Trace,
    ratio: f64,
    guests: impl Iterator<Item = (usize, &'g Guest)>,
    worktop: Worktop<'_>,
) -> Result<Vec<ForGuest>, Stopped> {
    guests
        .map(|(i, guest)| {
            let miss = (ratio.ln() - guest.ideal.x) / guest.step();
            let not_for_them = guest.taster.objections(drink, trace, worktop);
            let stirs_in = match not_for_them.is_empty() {
                true => own_glass(trace, guest, miss, worktop)?,
                false => None,
            };
            Ok(ForGuest { guest: i, miss, stirs_in, not_for_them })
        })
        .collect()
}

fn pitcher(
    drink: &Drink,
    guests: &[(usize, &Guest)],
    fair: Fair,
    worktop: Worktop<'_>,
) -> Result<Option<GroupPitcher>, FieldError> {
    let all: Vec<&Guest> = guests.iter().map(|(_, guest)| *guest).collect();
    let Some(x) = fair.place(&all) else { return Ok(None) };
    let Some(profile) = profile_of(&worktop.trace(drink)?) else { return Ok(None) };
    // It stays as strong: half of the way is taken by the sugar, half by the acid.
    let (s, a) = (profile.sweetness_percent, profile.acidity_percent);
    let by = (x.exp() / (s / a)).sqrt();
    let target = Target { sweetness: Some(s * by), acidity: Some(a / by), ..Target::default() };
    let solved = solve(drink, worktop, &Aim { target, ..Aim::default() })?;
    let trace = worktop.trace(&solved.rounded)?;
    let Some(made) = profile_of(&trace) else { return Ok(None) };
    let ratio = made.ratio.unwrap_or(x.exp());
    let each = guests.iter().map(|(i, guest)| (*i, *guest));
    let for_guests = each_in_the_glass(&solved.rounded, &trace, ratio, each, worktop)?;
    Ok(Some(GroupPitcher {
        ratio,
        spot: Spot { sweetness: made.sweetness_percent, acidity: made.acidity_percent },
        sum: for_guests.iter().map(|g| g.miss * g.miss).sum(),
        largest: for_guests.iter().map(|g| g.miss.abs()).fold(0.0, f64::max),
        guests: for_guests,
        drink: solved.rounded,
        reached: solved.reached,
        stops: solved.stops,
    }))
}

/// What somebody stirs into their own glass of a pitcher.
fn own_glass(
    trace: &Trace,
    guest: &Guest,
    miss: f64,
    worktop: Worktop<'_>,
) -> Result<Option<Addition>, Stopped> {
    let Some(outcome) = trace.outcome().filter(|_| miss.abs() >= 1.0) else { return Ok(None) };
    // There is always room for a spoon: the first sip is taken.
    let mut contents = outcome.contents.clone();
    if !outcome.served {
        // A pitcher that nothing is poured from yet: a glass of it.
        let glass = 250.0 / contents.level().0.max(1.0);
        contents = contents.take(glass.min(1.0));
    }
    let capacity = contents.level() * 1.5;
    let glass = Inside { contents, capacity, kin: None };
    let takes = |it: &Ingredient| guest.taster.takes(it);
    stirred_in(worktop, &glass, guest.ideal.x.exp(), guest.taster.palate(), takes)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn guest(ratio: f64, sd: f64) -> Guest {
        let taster = Taster {
            name: "a taster".into(),
            mark: Default::default(),
            avoids: Vec::new(),
            child: false,
            notices_sweet: None,
            notices_sour: None,
        };
        Guest { taster, ideal: Ideal { x: ratio.ln(), sd } }
    }

    #[test]
    fn the_least_sum_leans_to_many_and_the_other_leaves_nobody_out() {
        let group = [guest(14.0, 0.1), guest(14.5, 0.1), guest(15.0, 0.1), guest(26.0, 0.1)];
        let all: Vec<&Guest> = group.iter().collect();
        let sum = Fair::LeastSum.place(&all).unwrap().exp();
        let far = Fair::NobodyLeftOut.place(&all).unwrap().exp();
        assert!((16.0..18.0).contains(&sum), "{sum}");
        assert!((far - (14.0_f64 * 26.0).sqrt()).abs() < 0.01, "{far}");
        // Nowhere else is the sum smaller, or the largest miss.
        for other in [12.0_f64, 15.0, 16.0, 18.0, 20.0, 24.0] {
            let sum_at = |x: f64| all.iter().map(|g| (x - g.ideal.x).powi(2)).sum::<f64>();
            let most_at = |x: f64| all.iter().map(|g| (x - g.ideal.x).abs()).fold(0.0, f64::max);
            assert!(sum_at(sum.ln()) <= sum_at(other.ln()) + 1e-12);
            assert!(most_at(far.ln()) <= most_at(other.ln()) + 1e-12);
        }
    }

    #[test]
    fn who_is_not_sure_pulls_less() {
        let (sure, unsure) = (guest(14.0, 0.05), guest(26.0, 0.5));
        let place = Fair::LeastSum.place(&[&sure, &unsure]).unwrap().exp();
        assert!((14.0..15.5).contains(&place), "{place}");
        assert_eq!(Fair::LeastSum.place(&[]), None);
    }
}
