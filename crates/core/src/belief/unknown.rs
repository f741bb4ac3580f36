//! What is uncertain in a drink, by how much, and why so much.

use nalgebra::DVector;

use crate::cupboard::{Care, Cupboard, Evidence, Form, Ingredient, Kind};
use crate::drink::Action;
use crate::quantity::Measure;
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
    /// How fast it is drawn.
    Drawing(usize),
    /// What strained solids keep.
    Hold,
    /// How fast the ring boils water away.
    BoilOff,
    /// How long things take to cool.
    Cooling,
}

impl Turns {
    /// Names it for ever.
    pub(super) fn name(self, cupboard: &Cupboard) -> String {
        let of = |what: &str, i: usize| format!("{what}/{}", cupboard.ingredients()[i].id);
        match self {
            Self::Yield(i) => of("yield", i),
            Self::Acid(i) => of("acid", i),
            Self::Sugar(i) => of("sugar", i),
            Self::Drawing(i) => of("drawing", i),
            Self::Hold => "hold".into(),
            Self::BoilOff => "boil_off".into(),
            Self::Cooling => "cooling".into(),
        }
    }
}

/// One of them, and the standard deviation of its logarithm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Factor {
    /// What it is.
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

/// Spread of a lot's acid and sugar as standard deviations of the factor. Estimates from the ranges in
/// the tables: lemon juice 3.5–6.5 g acid around 4.7, hibiscus 13.5–25 around 17.5.
fn lot(it: &Ingredient) -> (f64, f64) {
    let (acid, sugar) = match it.kind {
        Kind::Juice => (0.11, 0.10),
        Kind::Fruit | Kind::Vegetable => (0.15, 0.14),
        Kind::Flower | Kind::Herb => (0.22, 0.2),
        Kind::Root | Kind::Stem | Kind::Zest | Kind::Peel => (0.15, 0.15),
        Kind::Syrup if it.care.contains(&Care::Honey) => (0.15, 0.03),
        _ => (0.0, 0.0),
    };
    // What was measured here varies less than what was looked up.
    let known = if it.evidence == Evidence::Measured { 0.5 } else { 1.0 };
    (acid * known, sugar * known)
}

/// What of a drink is uncertain.
pub(super) fn of(prepared: &Prepared<'_>) -> Vec<Factor> {
    let (drink, cupboard) = (prepared.drink(), prepared.cupboard());
    let mut factors: Vec<Factor> = Vec::new();
    let mut put = |turns: Turns, sd: f64| match factors.iter_mut().find(|f| f.turns == turns) {
        // The same fruit in two lines: what is said in pieces varies, wherever it stands.
        Some(known) => known.sd = known.sd.max(sd),
        None if sd > 0.0 => factors.push(Factor { turns, sd }),
        None => {}
    };
    let (mut strains, mut boils, mut cools) = (false, false, false);
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
        let (acid, sugar) = lot(it);
        let yields = brought.amount.map_or(0.0, |amount| {
            let of_pieces = amount.terms().iter().filter_map(|term| match &term.measure {
                Measure::Piece(words) => {
                    let (_, size) = cupboard.piece(it, words)?;
                    // The mean of n pieces varies by a root of n less than one does.
                    Some(size.varies(it) / term.value.max(1.0).sqrt())
                }
                _ => None,
            });
            of_pieces.fold(0.0, f64::max)
        });
        put(Turns::Yield(index), yields);
        put(Turns::Acid(index), acid);
        put(Turns::Sugar(index), sugar);
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
    factors
}

/// What everything that turned out somehow means for a run.
pub(crate) struct Kitchen<'a> {
    luck: Vec<Luck>,
    amounts: &'a [f64],
    hold: Option<f64>,
    boil_off: Option<f64>,
    cooling: Option<f64>,
}

impl Kitchen<'_> {
    pub(crate) fn nudges(&self) -> Nudges<'_> {
        Nudges {
            luck: &self.luck,
            amounts: self.amounts,
            hold: self.hold,
            hold_from: 0,
            boil_off: self.boil_off,
            cooling: self.cooling,
        }
    }
}

pub(super) fn kitchen<'a>(
    factors: &[Factor],
    z: &DVector<f64>,
    (amounts, boil_off): (&'a [f64], f64),
) -> Kitchen<'a> {
    let mut kitchen =
        Kitchen { luck: Vec::new(), amounts, hold: None, boil_off: None, cooling: None };
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
        }
    }
    kitchen
}
