//! Pouring glasses from jugs in amounts that a kitchen measures, found by pouring all of them.

use super::base::Place;
use super::{Bench, Jug, Poured};
use crate::balance::Taste;
use crate::cupboard::{MeasuringSet, VesselKind};
use crate::drink::{Action, Drink, Portion, Step, Vessel};
use crate::fault::FieldError;
use crate::quantity::Units;
use crate::quantity::{Amount, Measure, Term, spell_in_spoons};
use crate::trace::{Contents, MEASURED_AT, Nudges, Prepared};
use crate::work::Worktop;

/// The smallest amount that is poured, and how it is told.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Spoon {
    pub(crate) ml: f64,
    in_spoons: bool,
}

impl Spoon {
    /// What this kitchen pours small amounts with: a scale to the gram, teaspoons, or the marks of a jug.
    pub(crate) fn of(set: &MeasuringSet, units: Units) -> Self {
        let spoons = set.spoons.then_some(Self { ml: Measure::Teaspoon.factor(), in_spoons: true });
        let scale =
            set.scale_g.filter(|g| *g <= 2.0).map(|g| Self { ml: g.max(1.0), in_spoons: false });
        let jug = set.jug_ml.map(|ml| Self { ml, in_spoons: false });
        let first = if units == Units::Us { spoons.or(scale) } else { scale.or(spoons) };
        first.or(jug).unwrap_or(Self { ml: Measure::Teaspoon.factor(), in_spoons: true })
    }

    /// Teaspoons, whatever else there is: what goes round a table.
    pub(crate) fn of_the_table() -> Self {
        Self { ml: Measure::Teaspoon.factor(), in_spoons: true }
    }

    /// Half of it.
    pub(crate) fn half(self) -> Self {
        Self { ml: self.ml / 2.0, ..self }
    }

    /// So many of them, as a cook says it.
    pub(crate) fn amount(&self, many: u32) -> Amount {
        let ml = self.ml * f64::from(many);
        let teaspoons = ml / Measure::Teaspoon.factor();
        if !self.in_spoons {
            Amount::millilitres(ml)
        } else if teaspoons.fract() > 0.1 && teaspoons > 2.875 {
            // What is beyond whole tablespoons is told to the half teaspoon.
            let spoons = (teaspoons / 3.0).floor();
            Amount::from_terms(vec![
                Term { value: spoons, measure: Measure::Tablespoon },
                Term { value: teaspoons - 3.0 * spoons, measure: Measure::Teaspoon },
            ])
            .unwrap_or_else(|| spell_in_spoons(ml))
        } else {
            spell_in_spoons(ml)
        }
    }
}

/// Jugs that stand ready, and a glass.
pub(crate) struct Pourer<'a> {
    worktop: Worktop<'a>,
    drink: Drink,
    start: Vec<(usize, Contents)>,
    grams_per_ml: Vec<f64>,
    spoon: Spoon,
    /// How many spoons a glass holds.
    many: u32,
}

impl<'a> Pourer<'a> {
    /// Sets up the jugs of a bench round a glass of `sample_ml`.
    pub(crate) fn new(
        worktop: Worktop<'a>,
        bench: &Bench,
        jugs: &[Jug],
        sample_ml: f64,
        units: Units,
    ) -> Result<Self, FieldError> {
        let spoon = Spoon::of(&worktop.cupboard().kitchen().measuring, units);
        Self::with(worktop, bench, jugs.len(), sample_ml, spoon)
    }

    /// The same with a spoon of one's own.
    pub(crate) fn with(
        worktop: Worktop<'a>,
        bench: &Bench,
        jugs: usize,
        sample_ml: f64,
        spoon: Spoon,
    ) -> Result<Self, FieldError> {
        let many = (sample_ml / spoon.ml).round().max(1.0) as u32;
        let mut vessels: Vec<Vessel> = Vec::new();
        let mut steps = Vec::new();
        let mut start = Vec::new();
        let mut grams_per_ml = Vec::new();
        for (i, id) in bench.jugs.iter().take(jugs).enumerate() {
            let contents = bench
                .contents(id, worktop)?
                .ok_or_else(|| FieldError::new("drink", "That jug would be empty."))?;
            grams_per_ml.push(contents.mass().0 / contents.level_at(MEASURED_AT).0.max(1e-6));
            start.push((i, contents));
            vessels.push(Vessel {
                capacity: Some(Amount::millilitres(100_000.0)),
                ..Vessel::new(id.clone(), VesselKind::Jug)
            });
            let portion = Portion::Volume(Amount::millilitres(spoon.ml * f64::from(many)));
            let pour = Action::Pour { from: id.clone(), into: "glass".into(), portion };
            steps.push(Step::new(format!("s{i}"), pour));
        }
        vessels.push(Vessel::new("glass", VesselKind::Glass));
        let drink = Drink { vessels, steps, ..bench.drink.clone() };
        Ok(Self { worktop, drink, start, grams_per_ml, spoon, many })
    }

    /// What a glass tastes of with so many spoons from each jug.
    fn taste(&self, prepared: &Prepared<'_>, units: &[u32]) -> Result<Option<Taste>, FieldError> {
        let factors: Vec<f64> =
            units.iter().map(|u| f64::from(*u) / f64::from(self.many)).collect();
        let nudges = Nudges { amounts: &factors, ..Nudges::default() };
        let landing = self.worktop.land_from(prepared, nudges, self.start.clone())?;
        Ok(landing.outcome.as_ref().and_then(Taste::of))
    }

    /// How many spoons from each jug come nearest to a place in the row.
    pub(super) fn nearest(
        &self,
        place: &Place,
        figure: impl Fn(&Taste) -> f64,
    ) -> Result<Vec<u32>, FieldError> {
        let jugs = self.start.len();
        let alone = |jug: usize| (0..jugs).map(|j| if j == jug { self.many } else { 0 }).collect();
        match place {
            Place::Jug { jug, .. } => Ok(alone(*jug)),
            Place::Share(share) => {
                let first = (share * f64::from(self.many)).round() as u32;
                Ok(vec![first, self.many - first.min(self.many)])
            }
            Place::Figure(wanted) => self.best(|taste| {
                let there = figure(taste);
                (there > 0.0).then(|| (there / wanted).ln().abs())
            }),
        }
    }

    /// Of all ways to fill the glass from two or three jugs the one that misses least.
    pub(crate) fn best(
        &self,
        miss: impl Fn(&Taste) -> Option<f64>,
    ) -> Result<Vec<u32>, FieldError> {
        let prepared = Prepared::new(&self.drink, self.worktop.cupboard());
        let mut ways: Vec<Vec<u32>> = Vec::new();
        for first in 0..=self.many {
            if self.start.len() == 2 {
                ways.push(vec![first, self.many - first]);
            } else {
                ways.extend((0..=self.many - first).map(|s| vec![first, s, self.many - first - s]));
            }
        }
        // Nobody pours a millilitre or two.
        let least = (2.5 / self.spoon.ml).ceil() as u32;
        ways.retain(|way| way.iter().all(|units| *units == 0 || *units >= least));
        let mut best: Option<(f64, Vec<u32>)> = None;
        for way in ways {
            let Some(off) = self.taste(&prepared, &way)?.and_then(|taste| miss(&taste)) else {
                continue;
            };
            if best.as_ref().is_none_or(|(least, _)| off < *least) {
                best = Some((off, way));
            }
        }
        best.map(|(_, way)| way)
            .ok_or_else(|| FieldError::new("drink", "These jugs can't make that glass."))
    }

    /// The amounts of so many spoons; none of a jug that isn't poured from.
    pub(crate) fn amounts(&self, units: &[u32]) -> Vec<Option<Amount>> {
        units.iter().map(|u| (*u > 0).then(|| self.spoon.amount(*u))).collect()
    }

    /// The same as they stand on a sheet.
    pub(crate) fn poured(&self, units: &[u32]) -> Vec<Poured> {
        let all = units.iter().enumerate().filter(|(_, u)| **u > 0);
        all.map(|(jug, u)| Poured {
            jug,
            amount: self.spoon.amount(*u),
            grams: self.spoon.ml * f64::from(*u) * self.grams_per_ml[jug],
        })
        .collect()
    }

    /// The share of the first jug.
    pub(super) fn share(&self, units: &[u32]) -> f64 {
        f64::from(units[0]) / f64::from(self.many)
    }
}
