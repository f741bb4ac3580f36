//! Filling the jugs: what of the base goes into each, and what is stirred in so that it holds what is held.

use super::base::{LEAST_JUG, Recipe};
use super::moving::JugWanted;
use super::{Jug, Origin, Portioned, Row};
use crate::balance::{FLOOR, Spot, Stirring, Wish};
use crate::cupboard::{Form, Ingredient, Staple, VesselKind};
use crate::drink::{Action, Dissolving, Drink, Portion, Step, Vessel};
use crate::fault::FieldError;
use crate::quantity::{Amount, Grams, Measure, Term, Units};
use crate::scale::measure;
use crate::trace::{Contents, MEASURED_AT, Nudges, Prepared, Trace};
use crate::work::Worktop;

/// A drink that is being set up: its base is made, and jugs are filled from it.
#[derive(Debug, Clone)]
pub(crate) struct Bench {
    pub(crate) drink: Drink,
    /// The jugs' ids, in order.
    pub(crate) jugs: Vec<String>,
    /// What stands there already when the first step is done.
    start: Vec<(usize, Contents)>,
}

impl Bench {
    pub(crate) fn new(drink: Drink) -> Self {
        Self { drink, jugs: Vec::new(), start: Vec::new() }
    }

    /// Sets a jug on it, and gives its id.
    pub(crate) fn jug(&mut self, name: &str, volume_ml: f64) -> String {
        let id = format!("row_jug_{}", self.jugs.len() + 1);
        self.drink.vessels.push(Vessel {
            name: Some(name.to_owned()),
            capacity: Some(Amount::millilitres((volume_ml * 1.4 / 100.0).ceil() * 100.0)),
            ..Vessel::new(id.clone(), VesselKind::Jug)
        });
        self.jugs.push(id.clone());
        id
    }

    pub(crate) fn step(&mut self, action: Action) {
        let id = format!("row_{}", self.drink.steps.len() + 1);
        self.drink.steps.push(Step::new(id, action));
    }

    /// What is in a jug when all that is set up has been done.
    pub(crate) fn contents(
        &self,
        jug: &str,
        worktop: Worktop<'_>,
    ) -> Result<Option<Contents>, FieldError> {
        let Some(vessel) = self.drink.vessel(jug) else { return Ok(None) };
        if self.start.is_empty() {
            let trace = worktop.trace(&self.drink)?;
            return Ok(trace.last(vessel).map(|(_, contents)| contents.clone()));
        }
        let prepared = Prepared::new(&self.drink, worktop.cupboard());
        let landing = worktop.land_from(&prepared, Nudges::default(), self.start.clone())?;
        Ok(landing.outcome.filter(|o| o.vessel == vessel).map(|o| o.contents))
    }

    /// The same with the base made already: for trying out a jug without making the base each time.
    fn aside(&self, made: Option<(usize, Contents)>) -> Self {
        let drink = Drink { steps: Vec::new(), ..self.drink.clone() };
        Self { drink, jugs: self.jugs.clone(), start: made.into_iter().collect() }
    }

    /// Takes over what was tried out.
    fn take_over(&mut self, tried: Self) {
        self.drink.vessels = tried.drink.vessels;
        self.jugs = tried.jugs;
        for step in tried.drink.steps {
            self.step(step.action);
        }
    }

    /// The drink of one glass: everything that is set up, and so much of each jug.
    pub(crate) fn glass(&self, amounts: &[Option<Amount>], sample_ml: f64) -> Drink {
        let mut whole = self.clone();
        whole.drink.vessels.push(Vessel {
            capacity: Some(Amount::millilitres((sample_ml * 1.6 / 10.0).ceil() * 10.0)),
            ..Vessel::new("row_glass", VesselKind::Glass)
        });
        for (jug, amount) in self.jugs.iter().zip(amounts) {
            if let Some(amount) = amount {
                whole.step(Action::Pour {
                    from: jug.clone(),
                    into: "row_glass".into(),
                    portion: Portion::Volume(amount.clone()),
                });
            }
        }
        whole.drink
    }

    /// A jug as it stands on the sheet.
    pub(crate) fn filled(
        &self,
        name: &str,
        jug: &str,
        filled_with: Vec<Portioned>,
        worktop: Worktop<'_>,
    ) -> Result<Jug, FieldError> {
        let contents = self
            .contents(jug, worktop)?
            .ok_or_else(|| FieldError::new("drink", "That jug would be empty."))?;
        let liquid = contents.as_drunk();
        Ok(Jug {
            name: name.to_owned(),
            filled_with,
            volume_ml: liquid.volume(MEASURED_AT).0,
            sweetness: liquid.sweetness_percent(),
            acidity: liquid.acidity_percent(),
            colour: contents.colour().to_string(),
        })
    }
}

impl Bench {
    /// Its jugs as they stand on the sheet, by name: each with what is put straight into it.
    pub(crate) fn jugs_as_filled(
        &self,
        names: &[&str],
        units: Units,
        worktop: Worktop<'_>,
    ) -> Result<Vec<Jug>, FieldError> {
        let trace = worktop.trace(&self.drink)?;
        let jug = |(name, id): (&&str, &String)| {
            let mut only = trace.clone();
            only.lines.retain(|line| self.drink.steps[line.step].action.path() == [id.as_str()]);
            self.filled(name, id, takes(&self.drink, &only, worktop, units), worktop)
        };
        names.iter().zip(&self.jugs).map(jug).collect()
    }
}

/// What the base is called where it stands among what goes into a jug.
const BASE: &str = "base";

/// The jugs, filled.
pub(super) struct Made {
    pub(super) bench: Bench,
    pub(super) jugs: Vec<Jug>,
    /// How much of the base went into them, ml.
    pub(super) base_ml: f64,
    /// How large each jug is filled, ml.
    pub(super) sizes: Vec<f64>,
}

/// Fills the jugs of a row.
pub(super) fn fill_jugs(
    row: &Row,
    origin: &Origin<'_>,
    recipe: &Recipe<'_>,
    worktop: Worktop<'_>,
) -> Result<Made, FieldError> {
    let mut bench = if recipe.has_base() {
        Bench::new(recipe.base.clone())
    } else {
        Bench::new(Drink { vessels: Vec::new(), steps: Vec::new(), ..recipe.base.clone() })
    };
    let base = bench.contents(&origin.vessel, worktop)?;
    let nothing = Spot { sweetness: 0.0, acidity: 0.0 };
    let in_base = base.as_ref().map_or(nothing, Spot::of);
    // Held is what the base can hold: rounding its fruit may have left it a little thinner than was wanted.
    let thin = recipe
        .jugs
        .iter()
        .filter(|jug| jug.from_base)
        .map(|jug| room_for_water(jug, in_base))
        .fold(1.0, f64::min);
    let (mut jugs, mut sizes) = (Vec::new(), Vec::new());
    for wanted in &recipe.jugs {
        let aim = |i: usize| {
            // What isn't made of the base is to be as that came out.
            let as_base = [Some(in_base.sweetness), Some(in_base.acidity), None][i]
                .filter(|_| !wanted.from_base);
            let wanted_i = wanted.wanted[i].map(|w| as_base.unwrap_or(w));
            wanted_i.map(|w| if wanted.held[i] && wanted.from_base { w * thin } else { w })
        };
        let aims = [aim(0), aim(1), aim(2)];
        let filling = Filling { row, origin, wanted, aims, base: base.as_ref(), worktop };
        let (size, filled) = filling.best(&mut bench)?;
        sizes.push(size);
        let name = &wanted.name;
        let id = bench.jugs.last().cloned().unwrap_or_default();
        jugs.push(bench.filled(name, &id, filled, worktop)?);
    }
    let base_ml = jugs.iter().flat_map(|jug| jug.filled_with.first());
    let base_ml =
        base_ml.filter(|taken| taken.name == BASE).filter_map(|t| t.amount.as_millilitres());
    Ok(Made { base_ml: base_ml.sum(), bench, jugs, sizes })
}

/// By how much what is held has to come down for a jug to take what is stirred in; 1 if it needn't.
fn room_for_water(jug: &JugWanted<'_>, base: Spot) -> f64 {
    let held =
        [(base.sweetness, jug.wanted[0], jug.held[0]), (base.acidity, jug.wanted[1], jug.held[1])];
    let share = |(there, wanted, _): &(f64, Option<f64>, bool)| wanted.map(|w| there / w.max(1e-9));
    held.iter().filter(|(.., held)| *held).filter_map(share).fold(1.0, f64::min)
}

/// A jug that is to be filled.
struct Filling<'a> {
    row: &'a Row,
    origin: &'a Origin<'a>,
    wanted: &'a JugWanted<'a>,
    /// Sweetness, acidity and alcohol that it should come to.
    aims: [Option<f64>; 3],
    /// The base, if there is one.
    base: Option<&'a Contents>,
    worktop: Worktop<'a>,
}

/// Below such differences nobody tastes any, in sweetness, acidity and alcohol.
const FLOORS: [f64; 3] = [FLOOR.sweetness, FLOOR.acidity, 1.0];
/// A jug that holds what is held so closely is close enough: all that is poured from it stays within a
/// hundredth.
const CLOSE: f64 = 0.003;

impl Filling<'_> {
    /// Fills it, a little fuller where what a kitchen measures wouldn't come near enough, and says how
    /// full, and what went in.
    fn best(&self, bench: &mut Bench) -> Result<(f64, Vec<Portioned>), FieldError> {
        const FULLER: [f64; 3] = [1.07, 1.16, 1.28];
        let volume = self.wanted.volume_ml.max(LEAST_JUG);
        let mut best: Option<(f64, f64, Bench, Vec<Portioned>)> = None;
        let mut sizes: Vec<f64> = FULLER.iter().rev().map(|by| volume * by).collect();
        sizes.push(volume);
        while let Some(size) = sizes.pop() {
            let vessel = bench.drink.vessel(&self.origin.vessel);
            let mut tried = bench.aside(vessel.zip(self.base.cloned()));
            let id = tried.jug(&self.wanted.name, size);
            let (filled, measured) = self.fill(&id, size, &mut tried)?;
            let miss = self.miss(&tried, &id)?;
            // Of what can't be measured more finely a whole measure is taken, and all else goes by it.
            if best.is_none() && (0.5..4.0).contains(&measured) && (measured - 1.0).abs() > CLOSE {
                let less = volume * measured < self.wanted.volume_ml;
                sizes.push(volume * measured * if less { 2.0 } else { 1.0 });
            }
            let suffices = size >= self.wanted.volume_ml * 0.995;
            if suffices && best.as_ref().is_none_or(|(least, ..)| miss < *least) {
                best = Some((miss, size, tried, filled));
            }
            if best.as_ref().is_some_and(|(least, ..)| *least < CLOSE) {
                break;
            }
        }
        let (_, size, filled_bench, filled) =
            best.ok_or_else(|| FieldError::new("drink", "That jug would be empty."))?;
        bench.take_over(filled_bench);
        Ok((size, filled))
    }

    /// By how much it misses what has to be the same in every jug, as a part of it.
    fn miss(&self, bench: &Bench, id: &str) -> Result<f64, FieldError> {
        let Some(contents) = bench.contents(id, self.worktop)? else { return Ok(f64::MAX) };
        let liquid = contents.as_drunk();
        let there =
            [liquid.sweetness_percent(), liquid.acidity_percent(), liquid.alcohol_percent()];
        let off = |i: usize| {
            let aim = self.aims[i].filter(|_| self.wanted.same[i])?;
            Some((there[i] - aim).abs() / aim.max(FLOORS[i] / 2.0))
        };
        Ok((0..3).filter_map(off).fold(0.0, f64::max))
    }

    /// Fills it with so much in all, and says how much of the first thing went in for what was wanted.
    fn fill(
        &self,
        id: &str,
        volume: f64,
        bench: &mut Bench,
    ) -> Result<(Vec<Portioned>, f64), FieldError> {
        let (worktop, wanted) = (self.worktop, self.wanted);
        let mut measured = 1.0;
        let mut filled = Vec::new();
        if wanted.from_base {
            let there = self.base.map_or([0.0; 3], |base| {
                [base.liquid.sweetness_percent(), base.liquid.acidity_percent(), 0.0]
            });
            // As much of the base as brings what is held of it; the rest is room for what is stirred in.
            let share = (0..2)
                .filter(|i| wanted.held[*i] && there[*i] > FLOORS[*i] / 10.0)
                .filter_map(|i| Some(self.aims[i]? / there[i]))
                .fold(None, |least: Option<f64>, share| {
                    Some(least.map_or(share, |least| least.min(share)))
                });
            let amount =
                whole_volume(volume * share.unwrap_or(1.0).clamp(0.1, 1.0), self.row.units);
            bench.step(Action::Pour {
                from: self.origin.vessel.clone(),
                into: id.to_owned(),
                portion: Portion::Volume(amount.clone()),
            });
            let grams = bench.contents(id, worktop)?.map_or(0.0, |c| c.mass().0);
            filled.push(Portioned { name: BASE.into(), amount, grams });
        } else {
            let water = worktop.cupboard().staple(Staple::Water);
            // Where something is stirred in, the last of the water is measured after it.
            let first = if wanted.with.is_empty() { 1.0 } else { 0.9 };
            filled.push(self.put(water, volume * first, id, bench));
        }
        // Thing by thing: each is measured, and the rest is worked out anew with what really went in.
        for at in 0..wanted.with.len() {
            let rest = &wanted.with[at..];
            let Some(contents) = bench.contents(id, worktop)? else { break };
            let stirring = Stirring::new(worktop, &contents, rest);
            // Water alone can set only one thing: what has to be the same.
            let last = rest.len() == 1;
            let wishes: Vec<Wish> = (0..3)
                .filter(|i| !last || wanted.same[*i])
                .filter_map(|i| {
                    let aim = self.aims[i]?;
                    let slack = if wanted.same[i] { 1.0 } else { 30.0 };
                    let scale = aim.max(FLOORS[i]) * slack;
                    Some(Wish { reading: i, wanted: aim, scale })
                })
                .collect();
            let Some(grams) = stirring.grams_for(&wishes)? else { break };
            // Less than that can't be measured, and isn't tasted.
            let least = if rest[0].form == Form::Liquid { 1.0 } else { 0.2 };
            if grams[0] >= least {
                let put = self.put(rest[0], grams[0], id, bench);
                if at == 0 {
                    measured = put.grams / grams[0];
                }
                filled.push(put);
            }
        }
        Ok((filled, measured))
    }

    /// Puts so much of something into a jug, in the measure that comes nearest.
    fn put(&self, it: &Ingredient, grams: f64, id: &str, bench: &mut Bench) -> Portioned {
        let (amount, grams) = closely(it, grams, self.row.units, self.worktop);
        bench.step(Action::add(id, it.id.clone(), amount.clone()));
        if it.form == Form::Crystals {
            let how = Dissolving::Stirred;
            bench.step(Action::Dissolve { vessel: id.to_owned(), how });
        }
        Portioned { name: it.name.clone(), amount, grams }
    }
}

/// So much of something in the measure of the kitchen that comes nearest, and what that weighs. Much water is
/// read off a jug.
fn closely(it: &Ingredient, grams: f64, units: Units, worktop: Worktop<'_>) -> (Amount, f64) {
    let cupboard = worktop.cupboard();
    let by_weight = Amount::grams(grams);
    let by_volume = Amount::millilitres(it.fills(Grams(grams)).map_or(grams, |ml| ml.0));
    let ways = if it.form == Form::Liquid && grams > 100.0 {
        vec![(by_volume, units)]
    } else {
        vec![(by_weight.clone(), units), (by_weight, Units::Us), (by_volume, Units::Metric)]
    };
    let off = |grams_there: f64| (grams_there / grams - 1.0).abs();
    let mut best: Option<(Amount, f64)> = None;
    for (written, units) in ways {
        let mut found = measure(cupboard, it, &written, Grams(grams), units);
        // A pinch is anything: the smallest spoon is the least that can be gone by.
        let vague = |t: &Term| matches!(t.measure, Measure::Pinch | Measure::Dash | Measure::Drop);
        if found.amount.terms().iter().any(vague) {
            let spoon = Amount::of(0.25, Measure::Teaspoon);
            if let Ok(weighed) = cupboard.weigh(it, &spoon) {
                (found.amount, found.grams) = (spoon, weighed.grams);
            }
        }
        if best.as_ref().is_none_or(|(_, there)| off(found.grams.0) < off(*there) - 2e-3) {
            best = Some((found.amount, found.grams.0));
        }
    }
    best.unwrap_or_else(|| (Amount::grams(grams), grams))
}

/// A volume that can be read off a jug or a cup.
fn whole_volume(ml: f64, units: Units) -> Amount {
    match units {
        Units::Us => crate::quantity::spell_in_spoons(ml),
        _ => Amount::millilitres((ml / 5.0).round().max(1.0) * 5.0),
    }
}

/// What a drink takes, each thing once, in the order in which it is first put in.
pub(crate) fn takes(
    drink: &Drink,
    trace: &Trace,
    worktop: Worktop<'_>,
    units: Units,
) -> Vec<Portioned> {
    let mut all: Vec<(&Ingredient, f64, Option<Amount>)> = Vec::new();
    for line in trace.lines.iter().filter(|line| !line.left_over) {
        let it = &worktop.cupboard().ingredients()[line.ingredient];
        let written = drink.steps[line.step].action.brings().filter(|b| !b.line);
        let written = written.and_then(|b| b.amount.cloned());
        match all.iter_mut().find(|(other, ..)| other.id == it.id) {
            Some((_, grams, _)) => *grams += line.grams.0,
            None => all.push((it, line.grams.0, written)),
        }
    }
    all.into_iter()
        .filter(|(_, grams, _)| *grams > 0.0)
        .map(|(it, grams, written)| {
            let written = written.unwrap_or_else(|| Amount::grams(grams));
            let found = measure(worktop.cupboard(), it, &written, Grams(grams), units);
            Portioned { name: it.name.clone(), amount: found.amount, grams: found.grams.0 }
        })
        .collect()
}
