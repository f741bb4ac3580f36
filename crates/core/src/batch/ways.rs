//! How to go on when it goes differently than it was written.
//!
//! The drink as made is run with what is believed by now. What is still ahead may be changed, and something
//! may be stirred in; the amounts are found as in any other solving, by running it, rounded to what a kitchen
//! measures, and shown with where that leads.

use serde::Serialize;

use super::end::{End, end_of};
use super::view::believed;
use super::{Happening, Made, StepState};
use crate::balance::{
    Addition, Advice, Doubt, FLOOR, Palate, SODA, Spot, Unknown, Wish, advice, differences,
    measured, nearest, neutralises, sets,
};
use crate::belief::Belief;
use crate::cupboard::{Cupboard, Form, Ingredient, Kind, VesselKind};
use crate::drink::{Action, Drink, Step};
use crate::quantity::{Amount, Celsius, Grams, Measure};
use crate::trace::{MEASURED_AT, Nudges, Prepared, Trace};
use crate::work::{Stopped, Worktop};

/// A suggested correction.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct WayOn {
    /// The actions, in words, in order.
    pub words: Vec<String>,
    /// The log entry that records it.
    pub does: Vec<Happening>,
    /// The result, g in 100 g.
    pub ends: Spot,
    /// The volume at this point, ml.
    pub volume_ml: f64,
    /// Whether the difference is too small to taste.
    pub reached: bool,
}

/// So much more or less of a step that is ahead is thought of.
const LEAST: f64 = 0.2;
/// Of water for what can hardly be tasted: a twentieth.
const A_LITTLE_WATER: f64 = 0.95;
/// A change of a step by less than this isn't worth saying: a scale and a jug are no better.
const WORTH_SAYING: f64 = 0.02;

/// Less than this isn't worth weighing another amount of what is ahead anyway, in differences that are just
/// noticed. It costs nothing, so it is well below one.
const WORTH_CHANGING: f64 = 0.3;

/// What is moved: the amount of a step that is ahead, or something that is put in besides.
struct Moved<'a> {
    step: usize,
    it: &'a Ingredient,
    /// For what is put in besides, the portion that is counted, g.
    portion: Option<f64>,
    /// How little of it is thought of, as a factor; as much more as its other way round.
    least: f64,
}

/// Two or three ways to go on, the smallest change first: to where the drink was to be, or, from what it
/// tastes like, to where the tongue wants it. None where it lies there already, as near as anyone tastes, or
/// where nothing can be done any more.
///
/// # Errors
/// If it takes more work than there is.
pub fn ways_on(
    written: &Drink,
    made: &Made,
    words: &[Doubt],
    worktop: Worktop<'_>,
) -> Result<Vec<WayOn>, Stopped> {
    let cupboard = worktop.cupboard();
    let prepared = Prepared::new(&made.drink, cupboard);
    let (belief, _) = believed(made, &prepared);
    let end =
        belief.with_amounts(&belief.middle(), &[], |nudges| worktop.run(&prepared, nudges))?;
    let aim = if words.is_empty() {
        end_of(written, &worktop.trace(written)?)
    } else {
        let times = Palate::USUAL.felt(words);
        end_of(&made.drink, &end).map(|now| End {
            spot: Spot {
                sweetness: now.spot.sweetness * times.sweetness,
                acidity: now.spot.acidity * times.acidity,
            },
            ..now
        })
    };
    match aim {
        Some(aim) if !made.finished => ways_to(made, &belief, aim, worktop),
        _ => Ok(Vec::new()),
    }
}

/// What helps against words that sugar and acid don't answer, in the pitcher as it is now.
///
/// # Errors
/// If it takes more work than there is.
pub fn advice_on(
    made: &Made,
    words: &[Doubt],
    worktop: Worktop<'_>,
) -> Result<Vec<AdviceOn>, Stopped> {
    let prepared = Prepared::new(&made.drink, worktop.cupboard());
    let (belief, _) = believed(made, &prepared);
    let here =
        belief.with_amounts(&belief.middle(), &[], |nudges| worktop.run(&prepared, nudges))?;
    let there = pitcher(made, &here).and_then(|Place { vessel, after, .. }| {
        Some((vessel, here.after(after, made.drink.vessel(vessel)?)?))
    });
    let Some((vessel, contents)) = there.filter(|_| !made.finished) else { return Ok(Vec::new()) };
    let on = |Advice { says, adds }: Advice| {
        let added = |a: Addition| Happening::Added {
            vessel: vessel.to_owned(),
            ingredient: a.ingredient,
            amount: a.amount,
        };
        AdviceOn { says, does: adds.map(added).into_iter().collect() }
    };
    Ok(advice(words, contents, worktop.cupboard()).into_iter().map(on).collect())
}

/// A correction, and the log entry that records it.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct AdviceOn {
    /// The advice, in a sentence.
    pub says: String,
    /// The log entry that records it; missing if nothing is stirred in.
    pub does: Vec<Happening>,
}

fn ways_to(
    made: &Made,
    belief: &Belief,
    End { spot: aim, ml: wanted_ml }: End,
    worktop: Worktop<'_>,
) -> Result<Vec<WayOn>, Stopped> {
    let prepared = Prepared::new(&made.drink, worktop.cupboard());
    let here =
        belief.with_amounts(&belief.middle(), &[], |nudges| worktop.run(&prepared, nudges))?;
    let Some(End { spot, .. }) = end_of(&made.drink, &here) else { return Ok(Vec::new()) };
    let it = Correcting { made, belief, worktop, here, spot, aim, wanted_ml };
    if differences(spot, aim) < WORTH_CHANGING {
        return Ok(Vec::new());
    }
    let mut ways: Vec<WayOn> = Vec::new();
    let tried = it.by_what_is_ahead()?.into_iter().chain(it.by_stirring_in()?);
    for way in tried.filter(|way| it.is_nearer(way) && !way.words.is_empty()) {
        if ways.iter().all(|other| other.words != way.words) {
            ways.push(way);
        }
    }
    // Where there is too much of it for the room that there is, some of it is kept back.
    if !ways.iter().any(|w| w.reached) {
        ways.extend(it.by_setting_aside()?);
    }
    Ok(it.best_first(ways))
}

/// What is to be put right, and what is known of it.
struct Correcting<'a> {
    made: &'a Made,
    belief: &'a Belief,
    worktop: Worktop<'a>,
    /// The drink as made, run with what is believed.
    here: Trace,
    /// Where it leads as it is, and where it is to lead.
    spot: Spot,
    aim: Spot,
    /// How much there is to be of it.
    wanted_ml: f64,
}

impl Correcting<'_> {
    /// Whether a way leads clearly nearer than nothing does.
    fn is_nearer(&self, way: &WayOn) -> bool {
        differences(way.ends, self.aim) < 0.7 * differences(self.spot, self.aim)
    }

    /// A way by which nothing runs over that didn't before.
    fn that_fits(&self, way: Option<(WayOn, Trace)>) -> Option<WayOn> {
        let (way, trace) = way?;
        over(self.made, &self.here, &trace).is_none().then_some(way)
    }

    /// By more or less of what is still to be put in; then the same without more water.
    fn by_what_is_ahead(&self) -> Result<Vec<WayOn>, Stopped> {
        let mut ahead = ahead_of(self.made, self.worktop);
        // Nobody presses a quarter of an orange for what can't be tasted, or makes a glass less.
        if !Palate::USUAL.notices(self.spot, self.aim) {
            ahead.retain(|m| !in_pieces(&self.made.drink.steps[m.step]));
            let water = ahead.iter_mut().filter(|m| m.it.kind == Kind::Water);
            water.for_each(|m| m.least = A_LITTLE_WATER);
        }
        let mut ways = Vec::new();
        let mut by = |moved: &[Moved<'_>]| {
            if !moved.is_empty() {
                let way = self.work_out(self.made, self.made.drink.clone(), moved)?;
                ways.extend(self.that_fits(way));
            }
            Ok::<(), Stopped>(())
        };
        by(&ahead)?;
        ahead.retain(|m| m.it.kind != Kind::Water);
        by(&ahead)?;
        Ok(ways)
    }

    /// By something that is stirred into what is there.
    fn by_stirring_in(&self) -> Result<Vec<WayOn>, Stopped> {
        let cupboard = self.worktop.cupboard();
        // Nobody is sent to stir in what can't be tasted.
        let place = pitcher(self.made, &self.here);
        let Some(place) = place.filter(|_| Palate::USUAL.notices(self.spot, self.aim)) else {
            return Ok(Vec::new());
        };
        let mut lines = self.here.lines.iter().map(|l| &cupboard.ingredients()[l.ingredient]);
        let kin = lines
            .find(|it| it.kind == Kind::Juice && it.per_gram.titratable_acid() > 0.02)
            .map(|it| it.id.clone());
        let mut ways = Vec::new();
        for set in some_of(sets(cupboard, &[], &kin)) {
            let (drink, moved) = stirring(self.made, &place, &set);
            let Some((way, trace)) = self.work_out(self.made, drink, &moved)? else { continue };
            match over(self.made, &self.here, &trace) {
                None => ways.push(way),
                Some((full, ml)) if self.made.drink.vessels[full].id == place.vessel => {
                    ways.extend(self.after_pouring_out(&place, full, ml, &set)?);
                }
                Some(_) => {}
            }
        }
        Ok(ways)
    }

    /// The same after some was poured out of a vessel that is too full for it. Of less there is less to be put
    /// right: all of it shrinks to the room that there is.
    fn after_pouring_out(
        &self,
        place: &Place<'_>,
        full: usize,
        over_ml: f64,
        set: &[&Ingredient],
    ) -> Result<Option<WayOn>, Stopped> {
        let Place { vessel, ml: there, .. } = *place;
        let room = room(&self.made.drink, full);
        let ml = ((there * over_ml / (room + over_ml)) / 10.0).ceil() * 10.0 + 10.0;
        if ml >= there {
            return Ok(None);
        }
        let out = Amount::millilitres(ml);
        let less = self.made.without(vessel, &out, self.worktop.cupboard());
        let (drink, moved) =
            stirring(&less, &Place { vessel, after: place.after + 1, ml: there - ml }, set);
        let way = self.that_fits(self.work_out(&less, drink, &moved)?);
        let the = self.made.drink.in_sentence(full);
        let first = format!("Pour {out} out of {the} first.");
        Ok(way.map(|way| pouring_first(way, first, vessel, out)))
    }

    /// By what is ahead, once so much was set aside as is too sour for it.
    fn by_setting_aside(&self) -> Result<Option<WayOn>, Stopped> {
        let sour = self.spot.acidity > self.aim.acidity;
        let place = pitcher(self.made, &self.here).filter(|_| sour);
        let Some(Place { vessel, ml: there, .. }) = place else { return Ok(None) };
        let ml = (there * (1.0 - self.aim.acidity / self.spot.acidity) / 5.0).round() * 5.0;
        if ml < 5.0 || ml >= 0.8 * there {
            return Ok(None);
        }
        let out = Amount::millilitres(ml);
        let less = self.made.without(vessel, &out, self.worktop.cupboard());
        let moved = ahead_of(&less, self.worktop);
        let way = self.that_fits(self.work_out(&less, less.drink.clone(), &moved)?);
        let index = self.made.drink.vessel(vessel);
        let the = index.map_or_else(String::new, |v| self.made.drink.in_sentence(v));
        let first = format!("Set aside {out} from {the}.");
        let way = way.filter(|way| self.is_nearer(way));
        Ok(way.map(|way| pouring_first(way, first, vessel, out)))
    }

    /// The three best of them.
    fn best_first(&self, mut ways: Vec<WayOn>) -> Vec<WayOn> {
        let cupboard = self.worktop.cupboard();
        // What is ahead anyway costs nothing; what is stirred in has to be there.
        let besides =
            |w: &WayOn| w.does.iter().filter(|d| !matches!(d, Happening::Used { .. })).count();
        // A glass in ten less is noticed by whoever doesn't get one.
        let makes_less = |w: &WayOn| w.volume_ml < 0.9 * self.wanted_ml;
        // What neutralises comes last, however little of it there need be.
        let takes_acid = |w: &WayOn| {
            stirs_in(w).into_iter().filter_map(|id| cupboard.ingredient(id)).any(neutralises)
        };
        let off = |w: &WayOn| differences(w.ends, self.aim);
        ways.sort_by(|a, b| {
            (takes_acid(a).cmp(&takes_acid(b)))
                .then(b.reached.cmp(&a.reached))
                .then(makes_less(a).cmp(&makes_less(b)))
                .then(besides(a).cmp(&besides(b)))
                .then(a.does.len().cmp(&b.does.len()))
                .then(off(a).total_cmp(&off(b)))
        });
        // What gets there with less is better than the same with a pinch of something else besides.
        let mut kept: Vec<WayOn> = Vec::new();
        for way in ways {
            let mine = stirs_in(&way);
            let less = |other: &WayOn| {
                let theirs = stirs_in(other);
                other.reached && !theirs.is_empty() && theirs.iter().all(|it| mine.contains(it))
            };
            if !kept.iter().any(less) {
                kept.push(way);
            }
        }
        kept.truncate(3);
        kept
    }

    /// The amounts that bring it there, rounded, and what is said of them. `made` may be what there is after some
    /// of it was poured out.
    fn work_out(
        &self,
        made: &Made,
        drink: Drink,
        moved: &[Moved<'_>],
    ) -> Result<Option<(WayOn, Trace)>, Stopped> {
        let Some(factors) = self.factors(&drink, moved)? else { return Ok(None) };
        let measured = as_measured(made, &drink, moved, &factors, self.worktop.cupboard());
        let Measured { drink, words, does } = measured;
        let prepared = Prepared::new(&drink, self.worktop.cupboard());
        let run = |nudges: Nudges<'_>| self.worktop.run(&prepared, nudges);
        let trace = self.belief.with_amounts(&self.belief.middle(), &[], run)?;
        let Some(end) = end_of(&drink, &trace) else { return Ok(None) };
        let reached = Palate::USUAL.is_near(end.spot, self.aim);
        Ok(Some((WayOn { words, does, ends: end.spot, volume_ml: end.ml, reached }, trace)))
    }

    /// How many times the written amount of each brings it there, or how many portions.
    fn factors(&self, drink: &Drink, moved: &[Moved<'_>]) -> Result<Option<Vec<f64>>, Stopped> {
        let middle = self.belief.middle();
        let prepared = Prepared::new(drink, self.worktop.cupboard());
        let mut plain = vec![1.0; drink.steps.len()];
        for m in moved.iter().filter(|m| m.portion.is_some()) {
            plain[m.step] = 0.0;
        }
        let read = |factors: &[f64]| {
            let mut amounts = plain.clone();
            for (m, factor) in moved.iter().zip(factors) {
                amounts[m.step] = *factor;
            }
            let run = |nudges: Nudges<'_>| self.worktop.run(&prepared, nudges);
            let end = end_of(drink, &self.belief.with_amounts(&middle, &amounts, run)?);
            Ok(end.map(|e| [e.spot.sweetness, e.spot.acidity]))
        };
        let unknowns: Vec<Unknown> = moved.iter().map(Moved::unknown).collect();
        let Spot { sweetness, acidity } = self.aim;
        let wishes = [
            Wish { reading: 0, wanted: sweetness, scale: sweetness.max(FLOOR.sweetness) },
            Wish { reading: 1, wanted: acidity, scale: acidity.max(FLOOR.acidity) },
        ];
        Ok(nearest(&unknowns, &wishes, read)?.map(|(factors, _)| factors))
    }
}

/// A way that begins with pouring some out.
fn pouring_first(mut way: WayOn, words: String, vessel: &str, out: Amount) -> WayOn {
    way.words.insert(0, words);
    way.does.insert(0, Happening::PouredAway { vessel: vessel.to_owned(), volume: out });
    way
}

impl Moved<'_> {
    /// From where to where it may be moved.
    fn unknown(&self) -> Unknown {
        match self.portion {
            None => {
                let weight = if self.it.kind == Kind::Water { 0.3 } else { 1.0 };
                Unknown { start: 1.0, least: self.least, most: 1.0 / self.least, weight }
            }
            Some(_) => {
                let most = if self.it.kind == Kind::Salt { 1.0 } else { 60.0 };
                Unknown { start: 0.0, least: 0.0, most, weight: 0.01 }
            }
        }
    }
}

/// The drink with amounts that a kitchen measures.
struct Measured {
    drink: Drink,
    words: Vec<String>,
    does: Vec<Happening>,
}

/// What a kitchen measures of the factors that were found, and what is said of it. `drink` is the one with what is
/// moved; that which is made stays as it is, but for that.
fn as_measured(
    made: &Made,
    drink: &Drink,
    moved: &[Moved<'_>],
    factors: &[f64],
    cupboard: &Cupboard,
) -> Measured {
    let mut found = Measured { drink: made.drink.clone(), words: Vec::new(), does: Vec::new() };
    let mut besides = Vec::new();
    for (m, factor) in moved.iter().zip(factors) {
        if let Some(portion) = m.portion {
            if let Some(amount) = measured(cupboard, m.it, Grams(factor * portion)) {
                besides.push((drink.steps[m.step].action.path()[0].to_owned(), m.it, amount));
            }
            continue;
        }
        let step = &made.drink.steps[m.step];
        let written = step.action.amount().filter(|_| (factor - 1.0).abs() >= WORTH_SAYING);
        let Some(written) = written else { continue };
        let amount = match in_pieces(step) {
            true => in_halves(written, *factor),
            false => written.scaled(*factor).rounded(),
        };
        if amount == *written {
            continue;
        }
        if let Some(place) = found.drink.steps[m.step].action.amount_mut() {
            *place = amount.clone();
        }
        found.words.push(format!("{}: {amount} instead of {written}.", m.it.name));
        found.does.push(Happening::Used { step: step.id.clone(), amount });
    }
    for (i, (vessel, it, amount)) in besides.into_iter().enumerate() {
        let tried = &mut found.drink;
        let index = tried.vessel(&vessel);
        let the = index.map_or_else(String::new, |v| tried.in_sentence(v));
        let add = Action::add(vessel.clone(), it.id.clone(), amount.clone());
        let last = index.and_then(|v| made.last_on(v)).map_or(0, |at| at + 1);
        tried.steps.insert(last + i, Step::new(format!("besides-{i}"), add));
        found.words.push(format!("Stir {amount} {} into {the}.", lower(&it.name)));
        if neutralises(it) {
            found.words.push(SODA.to_owned());
        }
        found.does.push(Happening::Added { vessel, ingredient: it.id.clone(), amount });
    }
    found
}

/// Sets of things to stir in that are tried: each thing by itself, then the first of those with several.
const MOST_SETS: usize = 6;

fn some_of(sets: Vec<Vec<&Ingredient>>) -> Vec<Vec<&Ingredient>> {
    let mut alone: Vec<Vec<&Ingredient>> = Vec::new();
    for it in sets.iter().flatten() {
        if alone.iter().all(|one| one[0].id != it.id) {
            alone.push(vec![*it]);
        }
    }
    alone.extend(sets.into_iter().filter(|set| set.len() > 1).take(MOST_SETS));
    alone
}

/// What a way stirs in.
fn stirs_in(way: &WayOn) -> Vec<&str> {
    let added = way.does.iter().filter_map(|what| match what {
        Happening::Added { ingredient, .. } => Some(ingredient.as_str()),
        _ => None,
    });
    added.collect()
}

/// Steps still ahead whose amounts bring sugar, acid or water.
fn ahead_of<'a>(made: &Made, worktop: Worktop<'a>) -> Vec<Moved<'a>> {
    let cupboard = worktop.cupboard();
    let steps = made.drink.steps.iter().zip(&made.steps).enumerate();
    let ahead = steps.filter(|(_, (_, made))| made.state == StepState::Ahead);
    ahead
        .filter_map(|(step, (written, _))| {
            let (Action::Add { ingredient, .. }
            | Action::Squeeze { ingredient, .. }
            | Action::TopUp { ingredient, .. }) = &written.action
            else {
                return None;
            };
            let it = cupboard.ingredient(ingredient)?;
            let matters = it.kind == Kind::Water
                || it.form != Form::Pieces
                    && (it.per_gram.titratable_acid() > 0.01
                        || it.per_gram.sucrose_equivalent().0 > 0.05);
            matters.then_some(Moved { step, it, portion: None, least: LEAST })
        })
        .collect()
}

fn in_pieces(step: &Step) -> bool {
    let piece = |a: &Amount| a.terms().iter().any(|t| matches!(t.measure, Measure::Piece(_)));
    step.action.amount().is_some_and(piece)
}

/// So many times as many pieces, in whole ones and halves.
fn in_halves(written: &Amount, factor: f64) -> Amount {
    match written.terms() {
        [term] => {
            let value = (2.0 * term.value * factor).round().max(1.0) / 2.0;
            Amount::of(value, term.measure.clone())
        }
        _ => written.scaled(factor).rounded(),
    }
}

/// The vessel that the drink is in by now, after which step, and how much is in it.
struct Place<'a> {
    vessel: &'a str,
    after: usize,
    ml: f64,
}

fn pitcher<'a>(made: &'a Made, here: &Trace) -> Option<Place<'a>> {
    let in_it = |vessel: usize| {
        let after = made.last_on(vessel)?;
        let there = here.after(after, vessel)?.liquid.volume(MEASURED_AT).0;
        let kind = made.drink.vessels[vessel].kind;
        let holds = kind.strainer().is_none() && kind != VesselKind::Glass;
        (there > 20.0 && holds).then_some((vessel, after, there))
    };
    // What still draws, or is still to be boiled down, is not set right yet.
    let settled = |(vessel, after, _): &(usize, usize, f64)| {
        let id = made.drink.vessels[*vessel].id.as_str();
        let later = made.drink.steps.iter().skip(after + 1);
        let changes = later.filter(|step| step.action.path().contains(&id)).any(|step| {
            matches!(
                step.action,
                Action::Boil { .. } | Action::Reduce { .. } | Action::Infuse { .. }
            )
        });
        let waits = matches!(made.steps[*after].state, StepState::Running { .. })
            && matches!(made.drink.steps[*after].action, Action::Infuse { .. });
        !changes && !waits
    };
    let all = (0..made.drink.vessels.len()).filter_map(in_it).filter(settled);
    let (vessel, after, there) = all.max_by(|a, b| a.2.total_cmp(&b.2))?;
    Some(Place { vessel: made.drink.vessels[vessel].id.as_str(), after, ml: there })
}

/// What a vessel holds without running over when it is moved, ml.
fn room(drink: &Drink, vessel: usize) -> f64 {
    let vessel = &drink.vessels[vessel];
    vessel.capacity().0 * vessel.kind.working_level(Celsius(5.0))
}

/// A vessel that gets too full by it, and by how much, ml; not one that was as full before.
fn over(made: &Made, before: &Trace, after: &Trace) -> Option<(usize, f64)> {
    (0..made.drink.vessels.len())
        .filter(|v| {
            let kind = made.drink.vessels[*v].kind;
            kind.strainer().is_none() && kind != VesselKind::Glass
        })
        .filter_map(|v| {
            let room = room(&made.drink, v);
            let (was, is) = (before.highest_level(v).0, after.highest_level(v).0);
            (is > room + 1.0 && is > was + 1.0).then_some((v, is - room))
        })
        .max_by(|a, b| a.1.total_cmp(&b.1))
}

/// The drink with each of a set put into a vessel in portions: a tenth of what is there, a thousandth of what
/// is strong.
fn stirring<'a>(made: &Made, place: &Place<'_>, set: &[&'a Ingredient]) -> (Drink, Vec<Moved<'a>>) {
    let Place { vessel, after, ml: there } = *place;
    let mut drink = made.drink.clone();
    let mut moved = Vec::new();
    for (i, it) in set.iter().enumerate() {
        let strong = it.per_gram.titratable_acid() > 0.3 || it.kind == Kind::Salt;
        let portion = (there * if strong { 0.001 } else { 0.1 }).max(1e-6);
        let add = Action::add(vessel, it.id.clone(), Amount::grams(portion));
        let step = after + 1 + i;
        drink.steps.insert(step, Step::new(format!("besides-{i}"), add));
        moved.push(Moved { step, it, portion: Some(portion), least: LEAST });
    }
    (drink, moved)
}

fn lower(name: &str) -> String {
    let mut letters = name.chars();
    let first = letters.next().map(|c| c.to_lowercase().to_string()).unwrap_or_default();
    first + letters.as_str()
}
