//! An amount said in the measures that a kitchen has, as a cook would say it.

use crate::cupboard::{Cupboard, Form, Ingredient, Kind, MeasuringSet, Trait};
use crate::quantity::{Amount, Dimension, Grams, Measure, Term, Units};

/// An amount in measures that there are.
#[derive(Debug, Clone, PartialEq)]
pub struct Measured {
    /// The amount.
    pub amount: Amount,
    /// What it weighs.
    pub grams: Grams,
    /// For less than can be measured: how to make a stronger stock and take a spoon of it.
    pub stock: Option<String>,
}

/// Off by less than this, a measure is as good as any.
const GOOD: f64 = 0.04;
/// Off by more than this, it is better not measured but taken from a stock.
const POOR: f64 = 0.35;

/// Says so much of an ingredient in the measures of a kitchen; never nothing.
///
/// Of the ways that there are, the first in the wanted units that comes within 4 % is taken, or else
/// the one that comes nearest.
#[must_use]
pub fn measure(
    cupboard: &Cupboard,
    it: &Ingredient,
    written: &Amount,
    grams: Grams,
    units: Units,
) -> Measured {
    let set = &cupboard.kitchen().measuring;
    let mut ways: Vec<Amount> = Vec::new();
    let first = written.terms().first().map(|t| &t.measure);
    let by_pieces = matches!(first, Some(Measure::Piece(_)));
    let weighed_first = match (units, first.map(Measure::dimension)) {
        (Units::AsWritten, Some(Dimension::Mass)) => true,
        (Units::Metric, _) => it.form != Form::Liquid,
        _ => false,
    };
    if by_pieces && let Some(Measure::Piece(words)) = first {
        let fruit = in_fruit(cupboard, it, words, grams, set);
        // Nobody zests a part of a fruit when there are five, or weighs it.
        let of_many = |a: &Amount| it.kind == Kind::Zest && a.terms()[0].value >= 4.0;
        if let Some(whole) = fruit.first().filter(|a| whole_only(it) || of_many(a)) {
            let grams = cupboard.weigh(it, whole).map_or(grams, |w| w.grams);
            return Measured { amount: whole.clone(), grams, stock: None };
        }
        ways.extend(fruit);
    }
    let spoons = || in_spoons(it, grams, set);
    let us = units == Units::Us
        || (units == Units::AsWritten
            && matches!(first, Some(Measure::Cup | Measure::Tablespoon | Measure::Teaspoon)));
    if us {
        ways.extend(spoons());
    }
    if weighed_first {
        ways.extend(on_scale(grams, set));
    }
    if it.form == Form::Liquid {
        ways.extend(in_jug(it, grams, set));
        ways.extend(spoons());
    }
    ways.extend(on_scale(grams, set));
    ways.extend(spoons());
    ways.extend(in_small(it, grams));
    if ways.is_empty() {
        // A kitchen without scale, jug and spoons still has its eyes.
        ways.push(Amount::grams(crate::quantity::round_to_kitchen(grams.0, &Measure::Gram)));
    }
    // A few drops more or less of a liquid are poured without anyone knowing.
    let good = if it.form == Form::Liquid && grams.0 < 60.0 { 2.0 * GOOD } else { GOOD };
    let weigh = |amount: &Amount| cupboard.weigh(it, amount).map_or(Grams(0.0), |w| w.grams);
    let off = |amount: &Amount| (weigh(amount).0 / grams.0 - 1.0).abs();
    let best = ways
        .iter()
        .find(|w| off(w) < good)
        .or_else(|| ways.iter().min_by(|a, b| off(a).total_cmp(&off(b))))
        .cloned()
        .unwrap_or_else(|| Amount::grams(grams.0));
    let stock = (off(&best) > POOR).then(|| stock(cupboard, it, grams, &ways)).flatten();
    Measured { grams: weigh(&best), amount: best, stock }
}

/// Whole fruit, and what is missing of it in spoons: "1 lemon + 2 tsp".
fn in_fruit(
    cupboard: &Cupboard,
    it: &Ingredient,
    words: &str,
    grams: Grams,
    set: &MeasuringSet,
) -> Vec<Amount> {
    let named = |count: f64| {
        let words = match cupboard.piece(it, words) {
            // "lemon" of one, "lemons" of several; a size that was said stays.
            Some((produce, size)) => produce.noun_of(size, count),
            None => words.to_owned(),
        };
        Measure::Piece(words)
    };
    let one = Amount::of(1.0, Measure::Piece(words.to_owned()));
    let Ok(each) = cupboard.weigh(it, &one) else { return Vec::new() };
    let count = grams / each.grams;
    if !count.is_finite() || count <= 0.0 {
        return Vec::new();
    }
    let mut ways = Vec::new();
    if whole_only(it) {
        // Half a leaf can be torn off and half a clove broken, half an ice cube not.
        let halves = it.kind != Kind::Ice && (0.25..0.75).contains(&count);
        let whole = if halves { 0.5 } else { count.round() };
        return if whole > 0.0 { vec![Amount::of(whole, named(whole))] } else { Vec::new() };
    }
    let quarters = (count * 4.0).round() / 4.0;
    if count >= 12.0 || (count >= 4.0 && it.kind == Kind::Zest) {
        return vec![Amount::of(count.round(), named(count.round()))];
    }
    if quarters > 0.0 {
        ways.push(Amount::of(quarters, named(quarters)));
    }
    let whole = (count + 0.08).floor();
    let rest = grams.0 - whole * each.grams.0;
    if whole >= 1.0
        && it.form == Form::Liquid
        && rest > 0.04 * grams.0
        && let Some(spoons) = in_spoons(it, Grams(rest), set).into_iter().next()
    {
        let mut terms = vec![Term { value: whole, measure: named(whole) }];
        terms.extend(spoons.terms().to_vec());
        ways.extend(Amount::from_terms(terms));
    }
    ways
}

/// What is counted and not cut up: ice cubes, cloves, leaves, flower heads.
fn whole_only(it: &Ingredient) -> bool {
    matches!(it.kind, Kind::Ice | Kind::Herb | Kind::Flower)
        || (it.kind == Kind::Spice && !it.is(Trait::Breaks))
}

fn on_scale(grams: Grams, set: &MeasuringSet) -> Option<Amount> {
    let step = set.scale_g?;
    // Five steps of a scale are the least that it can be trusted with.
    if grams.0 < step * 4.5 {
        return None;
    }
    let coarse = match grams.0 {
        g if g >= 5000.0 => 50.0,
        g if g >= 1000.0 => 10.0,
        g if g >= 250.0 => 5.0,
        _ => step,
    };
    let step = coarse.max(step);
    let rounded = (grams.0 / step).round() * step;
    Some(if rounded >= 2000.0 {
        Amount::of(clean(rounded / 1000.0), Measure::Kilogram)
    } else {
        Amount::grams(clean(rounded))
    })
}

fn in_jug(it: &Ingredient, grams: Grams, set: &MeasuringSet) -> Option<Amount> {
    let step = set.jug_ml?;
    let ml = it.fills(grams)?.0;
    if ml < step * 3.5 {
        return None;
    }
    let coarse = match ml {
        v if v >= 5000.0 => 100.0,
        v if v >= 1000.0 => 50.0,
        v if v >= 400.0 => 10.0,
        _ => step,
    };
    let step = coarse.max(step);
    let rounded = (ml / step).round() * step;
    Some(if rounded >= 1000.0 {
        Amount::of(clean(rounded / 1000.0), Measure::Litre)
    } else {
        Amount::millilitres(clean(rounded))
    })
}

fn in_spoons(it: &Ingredient, grams: Grams, set: &MeasuringSet) -> Option<Amount> {
    if !set.spoons && !set.cups {
        return None;
    }
    let amount = it.in_spoons(grams)?.rounded();
    let needs = |m: &Measure| match m {
        Measure::Cup | Measure::Quart | Measure::Gallon => set.cups,
        _ => set.spoons,
    };
    let tiny = amount.total() < Measure::Teaspoon.factor() / 7.0;
    (!tiny && amount.terms().iter().all(|t| needs(&t.measure))).then_some(amount)
}

/// Pinches of what is dry, drops of what is liquid.
fn in_small(it: &Ingredient, grams: Grams) -> Option<Amount> {
    let ml = it.fills(grams)?.0;
    let (measure, most) = match (it.form, it.kind) {
        (Form::Liquid, _) => (Measure::Drop, 40.0),
        (Form::Crystals, _) | (_, Kind::Spice) => (Measure::Pinch, 4.0),
        _ => return None,
    };
    let count = (ml / measure.factor()).round().max(1.0);
    (count <= most).then(|| Amount::of(count, measure))
}

/// How to get less than can be measured: dissolve a measurable amount in water, and take 5 ml.
fn stock(cupboard: &Cupboard, it: &Ingredient, grams: Grams, ways: &[Amount]) -> Option<String> {
    const SPOON_ML: f64 = 5.0;
    if it.form == Form::Pieces {
        return None;
    }
    let least = ways.iter().min_by(|a, b| {
        let weigh = |w: &Amount| cupboard.weigh(it, w).map_or(f64::MAX, |w| w.grams.0);
        weigh(a).total_cmp(&weigh(b))
    })?;
    let there = cupboard.weigh(it, least).ok()?.grams.0;
    let water = SPOON_ML * there / grams.0;
    (5.5..5000.0).contains(&water).then(|| {
        let rounded = (water / 5.0).round() * 5.0;
        format!(
            "Too little to measure: stir {least} {} into {rounded:.0} ml water and use 5 ml of it.",
            it.name.to_lowercase()
        )
    })
}

/// Sheds the tail of binary fractions.
fn clean(value: f64) -> f64 {
    (value * 1e6).round() / 1e6
}
