//! What can I make? Drinks from what is there.
//!
//! Eight limes are going hard, half a bottle of ginger syrup stands in the refrigerator, and six people come. Nobody
//! looks for a recipe then: they take one that they know and change it. So each drink of the shelf and each starting
//! point is tried in turn:
//!
//! 1. **What it takes**, by what is bought ([`crate::shop::taken`]): limes in pieces, sugar in grams.
//! 2. **What isn't there is replaced** by something that is and does the same: sharp for sharp, sweet for sweet, a herb
//!    for a herb, a fruit for a fruit ([`crate::balance::swap`]). All else stays, and is told as missing.
//! 3. **Its size** is what people need, or what uses up the thing that has to go first.
//! 4. **Its balance** is brought to where it is wanted, if that is said ([`crate::balance::solve`]).
//!
//! The result is run like any drink, and everything that is told of it is read off that run. Best are those that use
//! what has to be used soonest, then those nearest to the balance, then those that lack least.

mod replace;

use serde::Serialize;

use crate::balance::{Aim, BalanceMap, Profile, Spot, Target, differences, solve};
use crate::cupboard::{Cupboard, Form, Kind, Role, Trait};
use crate::drink::Drink;
use crate::keep::Keeping;
use crate::plan;
use crate::quantity::{Amount, Grams, Units, to_figures};
use crate::scale::{Size, in_measures, measure, resize};
use crate::shop::{Taken, had, taken};
use crate::trace::Trace;
use crate::work::{Stopped, Worktop};

use replace::{Stock, replaced};

/// An ingredient in stock.
#[derive(Debug, Clone, PartialEq)]
pub struct Have {
    /// The ingredient's id.
    pub ingredient: String,
    /// How much of it, as it was said.
    pub amount: Amount,
    /// Whether it has to be used soon.
    pub soon: bool,
    /// Whether nobody said how much there is: then it is taken to be enough.
    pub some: bool,
}

/// What is wanted.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Wish {
    /// The ingredients in stock.
    pub have: Vec<Have>,
    /// For how many glasses; as many as what is there makes, if that isn't said.
    pub glasses: Option<u32>,
    /// Where on the map it should lie; where each drink lies by itself, if that isn't said.
    pub balance: Option<Spot>,
    /// What must not be in it: "milk", "caffeine", "alcohol".
    pub without: Vec<String>,
    /// Within how many minutes it has to be ready.
    pub within: Option<f64>,
}

/// A drink that may be taken as it is, or changed.
#[derive(Debug, Clone, Copy)]
pub struct Source<'a> {
    /// Its name by whoever asks.
    pub id: &'a str,
    /// The drink.
    pub drink: &'a Drink,
}

/// A drink that can be made.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = OfferedDrink)]
pub struct Offer {
    /// The id of the drink or starting point that it comes from.
    pub source: String,
    /// The name of that drink.
    pub source_name: String,
    /// The drink.
    pub drink: Drink,
    /// The stock that it uses: "all 8 limes", "350 g of 1 kg white sugar".
    pub uses: Vec<Use>,
    /// The ingredients to buy, in words.
    pub missing: Vec<String>,
    /// The changes from the original drink, in words.
    pub changes: Vec<String>,
    /// How many glasses.
    pub glasses: f64,
    /// Total volume, ml.
    pub volume_ml: f64,
    /// Its place on the map.
    pub map: BalanceMap,
    /// Its colour, `#rrggbb`.
    pub colour: String,
    /// The distance from the wanted balance, in noticeable steps.
    pub off: f64,
    /// The time from now until it is ready, minutes, with one cook and this kitchen's vessels.
    pub minutes: f64,
    /// The hands-on part.
    pub hands_on_minutes: f64,
    /// The number of rounds, 1 if all at once.
    pub rounds: u32,
    /// The obstacle in this kitchen, in words: a vessel that is missing or too small.
    pub lacks: Vec<String>,
    /// How long it keeps, in words.
    pub keeps: Option<String>,
    /// Whether it is ready in time.
    pub in_time: bool,
}

/// How much of an ingredient in stock is used.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = UsedThing)]
pub struct Use {
    /// In words.
    pub text: String,
    /// The name.
    pub name: String,
    /// Whether it gives the drink its character.
    pub character: bool,
    /// The share that is used, 0 to 1.
    pub share: f64,
    /// Whether it has to be used soon.
    pub soon: bool,
}

/// As many are told at most.
const MOST: usize = 8;
/// A drink that lacks more than this many things is another shopping trip.
const MOST_MISSING: usize = 3;
/// The volume of a glass, ml.
const GLASS: f64 = 250.0;
/// What is made where nobody says how much there is, ml.
const PITCHER: f64 = 1000.0;
/// Nobody makes less, or more without being asked, ml.
const VOLUMES: (f64, f64) = (250.0, 5000.0);

/// Those first that share most with what is there: who doesn't wait for all sees the likeliest.
#[must_use]
pub fn likeliest_first<'a>(
    mut sources: Vec<Source<'a>>,
    wish: &Wish,
    cupboard: &Cupboard,
) -> Vec<Source<'a>> {
    let stock = Stock::of(wish, cupboard);
    sources.sort_by_cached_key(|source| std::cmp::Reverse(stock.shared(source.drink, cupboard)));
    sources
}

/// Drinks that can be made, the best first.
///
/// # Errors
/// If nobody waits any more. What takes too much to be worked out is passed over.
pub fn offers<'a>(
    sources: &[Source<'_>],
    wish: &Wish,
    worktop: impl Into<Worktop<'a>>,
) -> Result<Vec<Offer>, Stopped> {
    let worktop = worktop.into();
    let stock = Stock::of(wish, worktop.cupboard());
    let mut found: Vec<(f64, Offer)> = Vec::new();
    for source in sources {
        match offer(source, wish, &stock, worktop) {
            Ok(Some(offer)) => found.push((rank(&offer), offer)),
            Ok(None) => {}
            Err(Stopped::GivenUp) => return Err(Stopped::GivenUp),
            // The time is up: what was found is told.
            Err(Stopped::TooMuch) => break,
        }
    }
    found.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut best: Vec<Offer> = Vec::new();
    for (_, offer) in found {
        // Two of a sort: five lemonades of the same lemons are no choice.
        let what = |offer: &Offer| {
            let uses = offer.uses.iter().filter(|u| u.character).map(|u| u.name.clone());
            (offer.drink.family, uses.collect::<Vec<_>>())
        };
        let alike = best.iter().filter(|other| what(other) == what(&offer)).count();
        let named = best.iter().any(|other| other.drink.name == offer.drink.name);
        if best.len() < MOST && alike < 2 && !named {
            best.push(offer);
        }
    }
    let mut best = best.into_iter().map(|offer| planned(offer, wish, worktop)).collect::<Vec<_>>();
    best.sort_by(|a, b| rank(a).total_cmp(&rank(b)));
    Ok(best)
}

/// When it can be ready, by a plan of its own: with one pair of hands, in the vessels that are there.
fn planned(offer: Offer, wish: &Wish, worktop: Worktop<'_>) -> Offer {
    let Ok(plan) = plan::alone(&offer.drink, worktop) else { return offer };
    let minutes = (-plan.begins).max(offer.minutes);
    // Of which drink is said already.
    let named = format!("{}, ", offer.drink.name);
    let stops = plan.troubles.into_iter().filter(|t| t.stops);
    Offer {
        in_time: wish.within.is_none_or(|within| minutes <= within),
        minutes,
        rounds: plan.goes.first().copied().unwrap_or(1),
        lacks: stops.map(|t| t.message.replacen(&named, "", 1)).collect(),
        ..offer
    }
}

/// Less is better: first what is ready in time, then what uses up what must go, then the balance, then what is missing.
fn rank(offer: &Offer) -> f64 {
    let late = if offer.in_time { 0.0 } else { 1000.0 };
    let lacks = if offer.lacks.is_empty() { 0.0 } else { 100.0 };
    let soon: f64 = offer.uses.iter().filter(|u| u.soon).map(|u| u.share).sum();
    let used: f64 = offer.uses.iter().map(|u| u.share).sum();
    late + lacks - 20.0 * soon - 2.0 * used
        + offer.off.min(10.0)
        + 3.0 * offer.missing.len() as f64
        + 0.5 * offer.changes.len() as f64
}

fn offer(
    source: &Source<'_>,
    wish: &Wish,
    stock: &Stock,
    worktop: Worktop<'_>,
) -> Result<Option<Offer>, Stopped> {
    let cupboard = worktop.cupboard();
    if is_forbidden(source.drink, wish, cupboard) {
        return Ok(None);
    }
    // A kept syrup comes in for plain sugar, as far as there is enough of it.
    for eager in [true, false] {
        let Some(changed) = replaced(source.drink, stock, eager, worktop)? else { continue };
        if is_forbidden(&changed.drink, wish, cupboard) {
            continue;
        }
        let trace = worktop.trace(&changed.drink)?;
        let takes = taken(&changed.drink, &trace, cupboard);
        // It has to live by something that is there, and not by its sugar alone.
        if stock.character(&takes) == 0 {
            continue;
        }
        let Some(size) = wanted_size(&changed.drink, &trace, wish, stock, &takes) else { continue };
        // What can't be had at that size isn't offered.
        let Ok(sized) = resize(&changed.drink, worktop, &size) else { continue };
        // Where nothing is said, as the drink that it comes from: what came in has its own sour and sweet.
        let as_before = if changed.is_changed() { spot_of(source.drink, worktop)? } else { None };
        let drink = balanced(sized, wish.balance.or(as_before), worktop)?;
        let mut drink = in_measures(&drink, worktop, Units::AsWritten)?;
        let trace = worktop.trace(&drink)?;
        let takes = taken(&drink, &trace, cupboard);
        if eager && !changed.suffices(&takes, stock) {
            continue;
        }
        drink.name = changed.name(&source.drink.name, cupboard);
        let offer = told(source, drink, &trace, &takes, wish, stock, cupboard);
        return Ok(offer.map(|offer| Offer { changes: changed.changes(cupboard), ..offer }));
    }
    Ok(None)
}

/// At the size that people need; or so that what has to go first is used up.
fn wanted_size(
    drink: &Drink,
    trace: &Trace,
    wish: &Wish,
    stock: &Stock,
    takes: &[Taken],
) -> Option<Size> {
    let outcome = trace.outcome()?;
    // A syrup is thinned in the glass.
    let map = BalanceMap::of(drink.family, Profile::of(outcome).as_ref());
    let thinned = map.point.and_then(|point| point.thinned_with).unwrap_or(0.0);
    let now = outcome.volume.0.max(1.0) * (1.0 + thinned);
    if let Some(glasses) = wish.glasses {
        return Some(Size::Factor(f64::from(glasses) * GLASS / now));
    }
    let (least, most) = (VOLUMES.0 / now, VOLUMES.1 / now);
    // Of what there is some of, a pitcher is made.
    let factor = stock.lasts_for(takes).unwrap_or(PITCHER / now);
    Some(Size::Factor(factor.clamp(least.min(most), most)))
}

/// Where a drink is on the map.
fn spot_of(drink: &Drink, worktop: Worktop<'_>) -> Result<Option<Spot>, Stopped> {
    Ok(spot_in(drink, &worktop.trace(drink)?))
}

fn spot_in(drink: &Drink, trace: &Trace) -> Option<Spot> {
    let map = BalanceMap::of(drink.family, trace.outcome().and_then(Profile::of).as_ref());
    map.point.map(|p| p.spot())
}

/// Brought to the balance that is wanted, as near as it goes.
fn balanced(drink: Drink, wanted: Option<Spot>, worktop: Worktop<'_>) -> Result<Drink, Stopped> {
    let Some(spot) = wanted else { return Ok(drink) };
    // Nothing that anyone would notice is corrected.
    let trace = worktop.trace(&drink)?;
    if spot_in(&drink, &trace).is_some_and(|is| differences(is, spot) < 1.0) {
        return Ok(drink);
    }
    let volume = trace.outcome().map(|o| o.ready.0);
    let target = Target {
        sweetness: Some(spot.sweetness),
        acidity: Some(spot.acidity),
        volume_ml: volume,
        ..Target::default()
    };
    match solve(&drink, worktop, &Aim { target, ..Aim::default() }) {
        Ok(solution) => Ok(solution.drink),
        // A syrup can't be made a lemonade: it stays what it is, and lies where it lies.
        Err(_) => Ok(drink),
    }
}

fn told(
    source: &Source<'_>,
    drink: Drink,
    trace: &Trace,
    takes: &[Taken],
    wish: &Wish,
    stock: &Stock,
    cupboard: &Cupboard,
) -> Option<Offer> {
    let profile = trace.outcome().and_then(Profile::of)?;
    if wish.without.iter().any(|w| w == "alcohol") && profile.alcohol_percent >= 0.1 {
        return None;
    }
    let missing = missing(takes, stock, cupboard);
    // A drink that mostly lacks what it lives by is another drink's shopping.
    let lacks =
        takes.iter().filter(|one| stock.has(&one.id) <= 0.0 && !is_basic(cupboard, &one.id));
    if missing.len() > MOST_MISSING || lacks.count() > stock.character(takes) {
        return None;
    }
    let map = BalanceMap::of(drink.family, Some(&profile));
    let off = map.point.as_ref().map_or(9.0, |point| {
        // Where nothing is said, wherever drinks of its kind usually lie.
        let t = &map.typical;
        let usual = Spot {
            sweetness: point.sweetness.clamp(t.sweetness_from, t.sweetness_to),
            acidity: point.acidity.clamp(t.acidity_from, t.acidity_to),
        };
        let wanted = wish.balance.unwrap_or(usual);
        differences(point.spot(), wanted)
    });
    // A bottle's days may be over before the drink is ready.
    let keeping = Keeping::of(&drink, cupboard, trace);
    if keeping.as_ref().is_some_and(|kept| kept.left <= 0.0) {
        return None;
    }
    let minutes = trace.minutes.0;
    Some(Offer {
        source: source.id.to_owned(),
        source_name: source.drink.name.clone(),
        uses: stock.uses(takes, cupboard),
        missing,
        changes: Vec::new(),
        glasses: profile.glasses,
        volume_ml: profile.volume_ml,
        colour: profile.colour.clone(),
        keeps: keeping.map(|kept| kept.words),
        hands_on_minutes: trace.hands_on().0,
        in_time: wish.within.is_none_or(|within| minutes <= within),
        rounds: 1,
        lacks: Vec::new(),
        minutes,
        map,
        off,
        drink,
    })
}

/// Whether something is in it that mustn't be.
fn is_forbidden(drink: &Drink, wish: &Wish, cupboard: &Cupboard) -> bool {
    let all = drink.steps.iter().filter_map(|s| cupboard.ingredient(s.action.ingredient()?));
    all.into_iter().any(|it| {
        let allergens = it.allergens.iter().map(|a| a.name().to_owned());
        let care = it.care.iter().map(|c| format!("{c:?}").to_lowercase());
        allergens.chain(care).any(|name| wish.without.contains(&name))
    })
}

/// What has to be bought, in words. Ice and a pinch are in every kitchen.
fn missing(takes: &[Taken], stock: &Stock, cupboard: &Cupboard) -> Vec<String> {
    takes
        .iter()
        .filter_map(|one| {
            let short = one.much - stock.has(&one.id);
            if short <= 0.03 * one.much {
                return None;
            }
            if one.by_piece {
                let (produce, _) = cupboard.size_named(&one.id)?;
                let count = (short - 0.1).ceil().max(1.0);
                let noun = if count > 1.0 { &produce.plural } else { &produce.name };
                return Some(format!("{count} {}", noun.to_lowercase()));
            }
            let it = cupboard.ingredient(&one.id)?;
            if it.kind == Kind::Ice
                || it.is(Trait::Tap)
                || one.much < 2.0 && it.form != Form::Pieces
            {
                return None;
            }
            // One buys by the two figures that a pack has.
            Some(said(cupboard, &one.id, to_figures(short, 2)))
        })
        .collect()
}

/// So many grams of something, as a cook says it.
fn said(cupboard: &Cupboard, id: &str, grams: f64) -> String {
    let Some(it) = cupboard.ingredient(id) else { return String::new() };
    let written = match it.form {
        Form::Liquid => it.fills(Grams(grams)).map(|ml| Amount::millilitres(ml.0)),
        _ => None,
    };
    let written = written.unwrap_or_else(|| Amount::grams(grams));
    let amount = measure(cupboard, it, &written, Grams(grams), Units::Metric).amount;
    format!("{amount} {}", it.name.to_lowercase())
}

/// Whether it gives a drink its character: what everybody has or what only sweetens doesn't.
fn is_basic(cupboard: &Cupboard, id: &str) -> bool {
    cupboard.ingredient(id).is_some_and(|it| {
        matches!(it.kind, Kind::Water | Kind::Ice | Kind::Salt | Kind::Acid | Kind::Soda)
            || it.kind == Kind::Sweetener && it.role() == Role::Sweetens
    })
}

/// What is there, by the name under which it is bought.
fn in_stock(have: &Have, cupboard: &Cupboard) -> Option<Taken> {
    let it = cupboard.ingredient(&have.ingredient)?;
    let grams = cupboard.weigh(it, &have.amount).ok()?.grams.0;
    Some(had(cupboard, it, &have.amount, grams))
}
