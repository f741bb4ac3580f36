//! What is uncertain in a drink, by how much, and why so much.

use std::collections::BTreeMap;

use nalgebra::DVector;

use crate::cupboard::{Form, Ingredient, LotFigure, Size};
use crate::drink::{Action, Step};
use crate::quantity::{Amount, Dimension, Measure};
use crate::trace::{Luck, Nudges, Prepared};

/// Something that may turn out otherwise than the tables say.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Turns {
    /// What a piece gives: juice of a lemon; the ingredient's position in the cupboard.
    Yield(usize),
    /// The acid of an ingredient.
    Acid(usize),
    /// Its sugar.
    Sugar(usize),
    /// The speed of extraction.
    Drawing(usize),
    /// The liquid that strained solids hold.
    Hold,
    /// The speed at which the burner boils water away.
    BoilOff,
    /// How long cooling takes.
    Cooling,
    /// How much was measured out by hand in a step; its position.
    Hand(usize),
}

impl Turns {
    /// The permanent id.
    pub(super) fn name(self, prepared: &Prepared<'_>) -> String {
        let cupboard = prepared.cupboard();
        let of = |what: &str, i: usize| format!("{what}/{}", cupboard.ingredients()[i].id);
        match self {
            Self::Yield(i) => of("yield", i),
            Self::Acid(i) => of("acid", i),
            Self::Sugar(i) => of("sugar", i),
            Self::Drawing(i) => of("drawing", i),
            Self::Hold => "hold".into(),
            Self::BoilOff => "boil_off".into(),
            Self::Cooling => "cooling".into(),
            Self::Hand(step) => format!("hand/{}", prepared.drink().steps[step].id),
        }
    }
}

/// One of them, and the standard deviation of its logarithm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Factor {
    /// The name.
    pub turns: Turns,
    /// Standard deviation of its logarithm, above 0.
    pub sd: f64,
}

impl Factor {
    /// The factor at a standard normal `z`: one on average.
    #[must_use]
    pub fn at(&self, z: f64) -> f64 {
        (self.sd * z - self.sd * self.sd / 2.0).exp()
    }

    /// The `z` at which it is so much, which is above nought.
    #[must_use]
    pub fn z_of(&self, factor: f64) -> f64 {
        (factor.max(1e-9).ln() + self.sd * self.sd / 2.0) / self.sd
    }
}

/// What pulp and leaves keep is known to within a fifth. Estimate from the ranges in the tables.
const HOLD: f64 = 0.2;
/// How fast a ring boils water away: estimate, 0.7 to 1.4 times the tables, from 45–60 % of its power; a
/// third of that where this kitchen's was measured.
const BOIL_OFF: (f64, f64) = (0.25, 0.08);
/// How long a vessel takes to cool: estimate, a quarter more or less, by its wall and what stands beside it.
const COOLING: f64 = 0.2;

/// A drink of more amounts than this is measured out by no one person; their errors even out, and are left out.
const MOST_HANDS: usize = 48;

/// How far an amount that is measured out by hand may be off, as a standard deviation of its logarithm: a scale 1 g
/// or 0.2 %, a marked jug or a filling line 1.5 % or 2 ml, a cup 5 %, a spoon 7 %, fingers a third. Estimates.
/// Nothing of what is counted: that varies by its pieces.
fn by_hand(amount: &Amount) -> f64 {
    let (mut whole, mut off) = (0.0, 0.0_f64);
    for term in amount.terms() {
        let much = term.value * term.measure.factor();
        let error = match (term.measure.dimension(), &term.measure) {
            (Dimension::Count, _) => 0.0,
            (Dimension::Mass, _) => (0.002 * much).max(1.0),
            (_, Measure::Cup | Measure::MetricCup) => 0.05 * much,
            (_, Measure::Tablespoon | Measure::Teaspoon) => 0.07 * much,
            (_, Measure::Pinch | Measure::Dash | Measure::Drop) => 0.33 * much,
            _ => (0.015 * much).max(2.0),
        };
        whole += much;
        off = off.hypot(error);
    }
    if whole > 0.0 { (off / whole).min(0.33) } else { 0.0 }
}

/// All pieces of each ingredient in a drink, wherever they come in.
fn pieces<'a>(prepared: &'a Prepared<'_>) -> BTreeMap<usize, Vec<(f64, &'a Size)>> {
    let cupboard = prepared.cupboard();
    let mut all: BTreeMap<usize, Vec<(f64, &Size)>> = BTreeMap::new();
    for brought in prepared.drink().steps.iter().filter_map(|step| step.action.brings()) {
        let Some((index, amount)) = cupboard.position(brought.ingredient).zip(brought.amount)
        else {
            continue;
        };
        for term in amount.terms() {
            let Measure::Piece(words) = &term.measure else { continue };
            if let Some((_, size)) = cupboard.piece(&cupboard.ingredients()[index], words) {
                all.entry(index).or_default().push((term.value, size));
            }
        }
    }
    all
}

/// How far the yield of some pieces may be off together, however many lines they stand in: they share market and
/// lot, and pieces even out. Of several sizes each counts by what it gives.
fn yield_sd(it: &Ingredient, all: &[(f64, &Size)]) -> f64 {
    let mut sizes: Vec<(f64, &Size)> = Vec::new();
    for &(count, size) in all {
        match sizes.iter_mut().find(|(_, known)| known.name == size.name) {
            Some((known, _)) => *known += count,
            None => sizes.push((count, size)),
        }
    }
    let gives = |size: &Size| size.juice_yield().map_or(size.whole.0, |known| known.mean());
    let whole: f64 = sizes.iter().map(|(count, size)| count * gives(size)).sum();
    // What all pieces share is what is left of many.
    let many = |size: &Size| size.varies(it, 1e9);
    let shared: f64 = sizes.iter().map(|(count, s)| count * gives(s) * many(s)).sum();
    let apart: f64 = sizes
        .iter()
        .map(|(count, s)| {
            let own = s.varies(it, *count).powi(2) - many(s).powi(2);
            (count * gives(s)).powi(2) * own
        })
        .sum();
    if whole > 0.0 { (shared * shared + apart).sqrt() / whole } else { 0.0 }
}

/// What of a drink is uncertain.
pub(super) fn of(prepared: &Prepared<'_>) -> Vec<Factor> {
    let (drink, cupboard) = (prepared.drink(), prepared.cupboard());
    let mut factors: Vec<Factor> = Vec::new();
    let mut put = |turns: Turns, sd: f64| {
        if sd > 0.0 && factors.iter().all(|f| f.turns != turns) {
            factors.push(Factor { turns, sd });
        }
    };
    let (mut strains, mut boils, mut cools) = (false, false, false);
    let pieces = pieces(prepared);
    for step in &drink.steps {
        match &step.action {
            Action::Strain { .. } | Action::Rinse { .. } => strains = true,
            Action::Boil { minutes, lid, .. } => boils |= !lid && *minutes > 0.0,
            Action::Heat { minutes, lid, .. } => boils |= !lid && *minutes > 0.0,
            Action::Cool { .. } | Action::Infuse { .. } => cools = true,
            _ => {}
        }
        let Some(brought) = step.action.brings() else { continue };
        let Some(index) = cupboard.position(brought.ingredient) else { continue };
        let it = &cupboard.ingredients()[index];
        let (acid, sugar) = it.lots_differ();
        if let Some(all) = pieces.get(&index) {
            put(Turns::Yield(index), yield_sd(it, all));
        }
        let kitchen = cupboard.kitchen();
        // What lots here showed says how far the next one may be off.
        let by_lots = |figure: LotFigure, sd: f64| match kitchen.known(&figure) {
            Some(known) if sd > 0.0 => known.varies(0.0),
            _ => sd,
        };
        put(Turns::Acid(index), by_lots(LotFigure::Acid(it.id.clone()), acid));
        put(Turns::Sugar(index), by_lots(LotFigure::Sugar(it.id.clone()), sugar));
        if it.form == Form::Pieces {
            put(Turns::Drawing(index), it.texture.minutes.log_spread());
        }
    }
    if strains {
        put(Turns::Hold, HOLD);
    }
    if boils {
        let measured = cupboard.kitchen().boil_off.is_some();
        put(Turns::BoilOff, if measured { BOIL_OFF.1 } else { BOIL_OFF.0 });
    }
    if cools {
        put(Turns::Cooling, COOLING);
    }
    let measured = |(at, step): (usize, &Step)| {
        let amount = step.action.amount()?;
        Some((Turns::Hand(at), by_hand(amount))).filter(|(_, sd)| *sd > 0.0)
    };
    let hands: Vec<_> = drink.steps.iter().enumerate().filter_map(measured).collect();
    if hands.len() <= MOST_HANDS {
        hands.into_iter().for_each(|(turns, sd)| put(turns, sd));
    }
    factors
}

/// What everything that turned out somehow means for a run.
pub(crate) struct Kitchen {
    luck: Vec<Luck>,
    amounts: Vec<f64>,
    hold: Option<f64>,
    boil_off: Option<f64>,
    cooling: Option<f64>,
}

impl Kitchen {
    pub(crate) fn nudges(&self) -> Nudges<'_> {
        Nudges {
            luck: &self.luck,
            amounts: &self.amounts,
            hold: self.hold,
            hold_from: 0,
            boil_off: self.boil_off,
            cooling: self.cooling,
        }
    }
}

pub(super) fn kitchen(
    factors: &[Factor],
    z: &DVector<f64>,
    amounts: &[f64],
    boil_off: f64,
) -> Kitchen {
    let mut kitchen = Kitchen {
        luck: Vec::new(),
        amounts: amounts.to_vec(),
        hold: None,
        boil_off: None,
        cooling: None,
    };
    for (factor, z) in factors.iter().zip(z.iter()) {
        let by = factor.at(*z);
        let mut of = |ingredient: usize, set: fn(&mut Luck, f64)| {
            let known = kitchen.luck.iter().position(|l| l.ingredient == ingredient);
            let at = known.unwrap_or_else(|| {
                let plain = Luck { ingredient, yields: 1.0, acid: 1.0, sugar: 1.0, drawing: 1.0 };
                kitchen.luck.push(plain);
                kitchen.luck.len() - 1
            });
            set(&mut kitchen.luck[at], by);
        };
        match factor.turns {
            Turns::Yield(i) => of(i, |luck, by| luck.yields = by),
            Turns::Acid(i) => of(i, |luck, by| luck.acid = by),
            Turns::Sugar(i) => of(i, |luck, by| luck.sugar = by),
            Turns::Drawing(i) => of(i, |luck, by| luck.drawing = by),
            Turns::Hold => kitchen.hold = Some(by),
            Turns::BoilOff => kitchen.boil_off = Some(boil_off * by),
            Turns::Cooling => kitchen.cooling = Some(by),
            Turns::Hand(step) => {
                if kitchen.amounts.len() <= step {
                    kitchen.amounts.resize(step + 1, 1.0);
                }
                kitchen.amounts[step] *= by;
            }
        }
    }
    kitchen
}
