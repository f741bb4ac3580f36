//! Finding one's own balance from three jugs: sweet, sharp and water.
//!
//! A glass is mixed at a time, in teaspoons, tasted, and answered with one word; the next one stands where
//! it tells most. Along the way the drink stays as strong: half of a step is taken by the sugar, half by
//! the acid. Where a glass stands is read off its trace, after its spoons.

use serde::{Deserialize, Serialize};

use super::ideal::{Prior, Sip, next_glass};
use super::ladder::{
    Bench, Glass, Jug, Portioned, Pourer, Spoon, read_glass, spot_at, takes, usual_ratio,
};
use crate::balance::{Aim, Target, solve};
use crate::cupboard::{Cupboard, Form, Staple};
use crate::drink::{Action, Dissolving, Drink, Family};
use crate::fault::FieldError;
use crate::quantity::Amount;
use crate::quantity::Units;
use crate::work::Worktop;

/// The base of a search for a taster's balance.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Finding {
    /// The id of the sour jug's ingredient: lemon juice, lime juice, citric acid.
    pub sour: String,
    /// The units for amounts.
    #[serde(default)]
    pub units: Units,
}

/// The three jugs as they are filled.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ThreeJugs {
    /// The amounts from the sweet, the sour and the water jug.
    pub jugs: Vec<Jug>,
    /// The ingredients and amounts that they need.
    pub takes: Vec<Portioned>,
    /// How long it takes to fill them, minutes.
    pub minutes: f64,
}

/// A glass to mix from the jugs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Mixed {
    /// Teaspoons from each jug.
    pub spoons: [u32; 3],
    /// The glass.
    pub glass: Glass,
}

/// Teaspoons in a glass: half a cup.
const SPOONS: u32 = 24;
/// Of lemonades the family is drawn.
pub const FAMILY: Family = Family::Lemonade;
/// Sourer and sweeter than these ratios nobody drinks.
const WITHIN: (f64, f64) = (5.0, 45.0);
/// What the sweet jug has of sugar, g in 100 g: so that spoons neither run short nor fill the glass.
const SWEET: f64 = 26.0;
/// What the sour jug has of acid.
const SHARP: f64 = 2.6;
/// What a dozen glasses take of each jug, ml.
const SWEET_ML: f64 = 700.0;
const SHARP_ML: f64 = 400.0;
const WATER_ML: f64 = 900.0;

impl Finding {
    fn bench(&self, cupboard: &Cupboard) -> Result<Bench, FieldError> {
        let fault = |message: String| FieldError { field: "sour".into(), message };
        let sour = cupboard
            .ingredient(&self.sour)
            .ok_or_else(|| fault(format!("There is no “{}” in the cupboard.", self.sour)))?;
        let acid = sour.per_gram.titratable_acid();
        if acid < 0.025 {
            return Err(fault(format!(
                "{} isn't sour enough. Use lemon juice, lime juice or citric acid.",
                sour.name
            )));
        }
        let of = |staple| cupboard.staple(staple).id.as_str();
        let mut bench = Bench::new(Drink {
            name: "Find my balance".into(),
            family: FAMILY,
            note: String::new(),
            part: None,
            vessels: Vec::new(),
            steps: Vec::new(),
        });
        let ml = |ml: f64| match self.units {
            Units::Us => crate::quantity::spell_in_spoons(ml),
            _ => Amount::millilitres((ml / 10.0).round() * 10.0),
        };
        let sweet = bench.jug("sweet jug", SWEET_ML);
        bench.step(Action::add(&sweet, of(Staple::Sugar), Amount::grams(200.0)));
        bench.step(Action::add(&sweet, of(Staple::Water), ml(200.0 * (100.0 / SWEET - 1.0))));
        bench.step(Action::Dissolve { vessel: sweet, how: Dissolving::Stirred });
        let sharp = bench.jug("sour jug", SHARP_ML);
        let grams = SHARP_ML * SHARP / 100.0 / acid;
        let amount = match sour.form {
            Form::Liquid => ml((sour.fills(crate::quantity::Grams(grams)).map_or(grams, |v| v.0)
                / 50.0)
                .round()
                * 50.0),
            _ => Amount::grams(grams.round()),
        };
        bench.step(Action::add(&sharp, sour.id.clone(), amount));
        bench.step(Action::add(&sharp, of(Staple::Water), ml((SHARP_ML - grams).max(100.0))));
        if sour.form == Form::Crystals {
            bench.step(Action::Dissolve { vessel: sharp, how: Dissolving::Stirred });
        }
        let water = bench.jug("water", WATER_ML);
        bench.step(Action::add(&water, of(Staple::Water), ml(WATER_ML)));
        Ok(bench)
    }

    /// The jugs, filled.
    ///
    /// # Errors
    /// Where what should make it sharp isn't sour.
    pub fn jugs<'a>(&self, worktop: impl Into<Worktop<'a>>) -> Result<ThreeJugs, FieldError> {
        let worktop = worktop.into();
        let bench = self.bench(worktop.cupboard())?;
        let trace = worktop.trace(&bench.drink)?;
        let jugs = bench.jugs_as_filled(&["sweet", "sour", "water"], self.units, worktop)?;
        let takes = takes(&bench.drink, &trace, worktop, self.units);
        Ok(ThreeJugs { jugs, takes, minutes: trace.minutes.0.max(5.0) })
    }

    /// The glass of a ratio, as near as teaspoons come.
    ///
    /// # Errors
    /// As [`Self::jugs`].
    pub fn glass_at<'a>(
        &self,
        ratio: f64,
        worktop: impl Into<Worktop<'a>>,
    ) -> Result<Mixed, FieldError> {
        let worktop = worktop.into();
        let bench = self.bench(worktop.cupboard())?;
        let pourer = self.pourer(&bench, worktop)?;
        let wanted = spot_at(FAMILY, ratio.clamp(WITHIN.0, WITHIN.1));
        let spoons = pourer.best(|taste| {
            let (s, a) = (taste.sweetness_percent, taste.acidity_percent);
            if s <= 0.0 || a <= 0.0 {
                return None;
            }
            // The ratio has to be right; how strong it is only about.
            let by_ratio = ((s / a).ln() - ratio.ln()) / 0.02;
            let by_strength = (s * a / wanted.sweetness / wanted.acidity).ln() / 0.3;
            Some(by_ratio.hypot(by_strength))
        })?;
        self.mixed(&bench, &pourer, [spoons[0], spoons[1], spoons[2]], worktop)
    }

    /// The glass of so many teaspoons.
    ///
    /// # Errors
    /// Where these don't fill a glass, or as [`Self::jugs`].
    pub fn glass_of<'a>(
        &self,
        spoons: [u32; 3],
        worktop: impl Into<Worktop<'a>>,
    ) -> Result<Mixed, FieldError> {
        let worktop = worktop.into();
        if spoons.iter().any(|s| *s > SPOONS) || spoons.iter().sum::<u32>() != SPOONS {
            let message = format!("Use {SPOONS} teaspoons in all from the three jugs.");
            return Err(FieldError { field: "spoons".into(), message });
        }
        let bench = self.bench(worktop.cupboard())?;
        let pourer = self.pourer(&bench, worktop)?;
        self.mixed(&bench, &pourer, spoons, worktop)
    }

    fn pourer<'a>(&self, bench: &Bench, worktop: Worktop<'a>) -> Result<Pourer<'a>, FieldError> {
        let spoon = Spoon::of_the_table();
        Pourer::with(worktop, bench, 3, spoon.ml * f64::from(SPOONS), spoon)
    }

    fn mixed(
        &self,
        bench: &Bench,
        pourer: &Pourer<'_>,
        spoons: [u32; 3],
        worktop: Worktop<'_>,
    ) -> Result<Mixed, FieldError> {
        let sample = f64::from(SPOONS) * Spoon::of_the_table().ml;
        let drink = bench.glass(&pourer.amounts(&spoons), sample);
        let read = read_glass(drink, pourer.poured(&spoons), worktop)?;
        let x = read.ratio.map(f64::ln);
        let name = read.ratio.map_or_else(String::new, |ratio| format!("{ratio:.0} to 1"));
        Ok(Mixed { spoons, glass: Glass { name, x, ..read } })
    }
}

/// A drink at a taster's balance: as much of it as before, with sugar and fruit moved, in amounts that kitchen tools
/// can measure.
///
/// # Errors
/// Where nothing in it is sweet, or nothing sour.
pub fn at_balance<'a>(
    drink: &Drink,
    ratio: f64,
    worktop: impl Into<Worktop<'a>>,
) -> Result<Drink, FieldError> {
    let to = spot_at(FAMILY, ratio.clamp(WITHIN.0, WITHIN.1));
    let target =
        Target { sweetness: Some(to.sweetness), acidity: Some(to.acidity), ..Target::default() };
    let aim = Aim { target, ..Aim::default() };
    solve(drink, worktop, &aim).map(|solution| solution.rounded)
}

/// Where everybody's balance is thought to lie before they taste.
#[must_use]
pub fn before() -> Prior {
    Prior::round(usual_ratio(FAMILY))
}

/// The ratio of the glass that tells most of the taster at a place in the list, and how many more there should
/// be.
#[must_use]
pub fn next_ratio(sips: &[Vec<Sip>], taster: usize) -> (f64, u32) {
    let next = next_glass(sips, taster, before(), (WITHIN.0.ln(), WITHIN.1.ln()));
    (next.x.exp(), next.more)
}
