use serde::Serialize;

use crate::cupboard::{Cupboard, Evidence, Form, Ingredient, Part};
use crate::drink::{Action, Drink};
use crate::quantity::{
    Amount, Grams, Measure, Millilitres, kitchen_step, round_to_kitchen, spell_in_spoons,
};
use crate::trace::{Line, Origin, Trace};

/// A line of the recipe: the ingredient and its contribution.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LineReport {
    /// The step's id.
    pub step: String,
    /// The ingredient's id.
    pub ingredient: String,
    /// Its name.
    pub name: String,
    /// The vessel that it is added to.
    pub vessel: String,
    /// The amount as entered, in a cook's words.
    pub text: String,
    /// The amount in another measure: "about 6 lemons", "258 ml".
    pub also: Option<String>,
    /// Whether the amount is a line to fill up to, not an amount to add.
    pub is_fill_line: bool,
    /// Whether the amount is calculated from the vessel's contents, and can't be typed here.
    pub follows: bool,
    /// Whether it is added to each glass or bottle.
    pub in_each: bool,
    /// The amount added, g.
    pub grams: f64,
    /// Its share of the drink's sweetness, 0 to 1.
    pub sweetness_share: f64,
    /// Its share of the drink's acid, 0 to 1.
    pub acid_share: f64,
    /// Its share of the drink's water, 0 to 1.
    pub water_share: f64,
    /// The sources of the figures behind it.
    pub evidence: Evidence,
    /// The amount in several measures, as entered first.
    pub ways: Vec<Way>,
}

/// An amount in one measure, with the limits and steps for changing it.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Way {
    /// The kind of correction.
    pub kind: WayKind,
    /// The amount in kitchen measures.
    pub text: String,
    /// The number in front of the unit.
    pub value: f64,
    /// The unit.
    pub unit: String,
    /// The change for one nudge.
    pub step: f64,
}

/// An amount in one measure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum WayKind {
    /// As the maker said it.
    AsWritten,
    /// In grams or kilograms.
    Weight,
    /// In millilitres or litres.
    Volume,
    /// In US cups and spoons.
    Cups,
    /// In pieces of produce.
    Pieces,
}

pub(super) fn lines(drink: &Drink, trace: &Trace, cupboard: &Cupboard) -> Vec<LineReport> {
    let origins = trace.outcome().map_or(&[][..], |o| &o.contents.origins);
    let sum = |part: fn(&Origin) -> Grams| origins.iter().map(|o| part(o).0).sum::<f64>();
    let (sweetness, acid, water) = (sum(|o| o.sweetness), sum(|o| o.acid), sum(|o| o.water));
    trace
        .lines
        .iter()
        .filter_map(|line| {
            let step = &drink.steps[line.step];
            let ingredient = &cupboard.ingredients()[line.ingredient];
            if line.left_over {
                return None;
            }
            let brought = step.action.brings()?;
            let follows = brought.amount.is_none();
            let amount = &brought.amount.cloned().unwrap_or_else(|| {
                metric_volume(Millilitres(line.grams.0 / ingredient.per_gram.density_at_20()))
            });
            let is_fill_line = brought.line;
            let vessel = *step.action.path().first()?;
            let mine = origins.iter().find(|o| o.line == line.step);
            let share = |part: fn(&Origin) -> Grams, all: f64| {
                mine.map_or(0.0, |o| if all > 1e-9 { part(o).0 / all } else { 0.0 })
            };
            let text = match &step.action {
                Action::Lengthen { parts, .. } => {
                    format!("{} to 1", crate::quantity::format_number(*parts, true))
                }
                _ => amount.rounded().to_string(),
            };
            // A rinse's water is booked where it mixes and where it runs past; it is one line.
            let grams: f64 = trace
                .lines
                .iter()
                .filter(|l| l.step == line.step && !l.left_over)
                .map(|l| l.grams.0)
                .sum();
            if trace.lines.iter().find(|l| l.step == line.step && !l.left_over) != Some(line) {
                return None;
            }
            let in_each = trace.many_of(drink, vessel) > 1.0;
            let vessel = match &step.action {
                Action::Squeeze { into, .. } => into.clone(),
                _ => vessel.to_owned(),
            };
            Some(LineReport {
                step: step.id.clone(),
                ingredient: ingredient.id.clone(),
                name: ingredient.name.clone(),
                vessel,
                also: in_other_words(cupboard, ingredient, amount, line, is_fill_line),
                text,
                is_fill_line,
                follows,
                in_each,
                grams,
                sweetness_share: share(|o| o.sweetness, sweetness),
                acid_share: share(|o| o.acid, acid),
                water_share: share(|o| o.water, water),
                evidence: ingredient.evidence,
                ways: ways(cupboard, ingredient, amount, line, is_fill_line),
            })
        })
        .collect()
}

/// What a cook wants beside the amount: the fruit for a juice, the juice for a fruit.
fn in_other_words(
    cupboard: &Cupboard,
    it: &Ingredient,
    amount: &Amount,
    line: &Line,
    is_fill_line: bool,
) -> Option<String> {
    if line.grams.0 <= 0.0 {
        return None;
    }
    if is_fill_line {
        let volume = Millilitres(line.grams.0 / it.per_gram.density_at_20());
        return Some(format!("about {} of it", metric_volume(volume).rounded()));
    }
    if line.pieces.is_some() {
        return Some(match it.form {
            Form::Liquid => metric_volume(it.fills(line.grams)?).rounded().to_string(),
            _ => weight(line.grams).rounded().to_string(),
        });
    }
    if line.grams.0 > 0.0 && amount.as_millilitres().is_none() && it.form == Form::Ice {
        return None;
    }
    // Only what is as large as a strawberry is worth counting against grams; nobody counts peppercorns or
    // calyces.
    let pieces = cupboard.in_pieces(it, line.grams)?;
    let count = pieces.terms()[0].value;
    let large = cupboard.produce_of(it).next().is_some_and(|p| p.usual().whole.0 >= 10.0);
    let fruit = match it.form {
        Form::Liquid => it.part == Part::Juice,
        _ => amount.as_millilitres().is_none(),
    };
    (fruit && large && (0.4..200.0).contains(&count)).then(|| format!("about {}", pieces.rounded()))
}

fn ways(
    cupboard: &Cupboard,
    it: &Ingredient,
    amount: &Amount,
    line: &Line,
    is_fill_line: bool,
) -> Vec<Way> {
    let mut ways = vec![Way::of(WayKind::AsWritten, amount)];
    if is_fill_line {
        let volume = Millilitres(amount.total());
        ways.push(Way::of(WayKind::Volume, &metric_volume(volume)));
        ways.push(Way::of(WayKind::Cups, &spell_in_spoons(volume.0)));
        return ways;
    }
    if line.grams.0 <= 0.0 {
        return ways;
    }
    ways.push(Way::of(WayKind::Weight, &weight(line.grams)));
    if let Some(volume) = it.fills(line.grams) {
        ways.push(Way::of(WayKind::Volume, &metric_volume(volume)));
    }
    if let Some(spoons) = it.in_spoons(line.grams) {
        ways.push(Way::of(WayKind::Cups, &spoons));
    }
    if let Some(pieces) = cupboard.in_pieces(it, line.grams) {
        ways.push(Way::of(WayKind::Pieces, &pieces));
    }
    ways
}

fn weight(grams: Grams) -> Amount {
    if grams.0 >= 2000.0 {
        Amount::of(grams.0 / 1000.0, Measure::Kilogram)
    } else {
        Amount::of(grams.0, Measure::Gram)
    }
}

fn metric_volume(volume: Millilitres) -> Amount {
    if volume.0 >= 1000.0 {
        Amount::of(volume.0 / 1000.0, Measure::Litre)
    } else {
        Amount::of(volume.0, Measure::Millilitre)
    }
}

impl Way {
    fn of(kind: WayKind, amount: &Amount) -> Self {
        let terms = amount.terms();
        // "2 tbsp + 1 tsp" is changed by its last and smallest part.
        let (value, measure) = match terms {
            [one] => (one.value, one.measure.clone()),
            [.., last] if amount.as_millilitres().is_some() => {
                (amount.total() / last.measure.factor(), last.measure.clone())
            }
            [.., last] => (last.value, last.measure.clone()),
            [] => (0.0, Measure::Gram),
        };
        Self {
            kind,
            text: amount.rounded().to_string(),
            value: round_to_kitchen(value, &measure),
            step: kitchen_step(value, &measure),
            unit: measure.name(2.0).to_owned(),
        }
    }
}
