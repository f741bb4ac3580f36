//! The ladder: a row of glasses of one drink that differ in one thing.
//!
//! A row of five glasses would be five drinks to make. Here it takes one base and two jugs: the base is
//! the drink with what moves turned down and everything else a little denser; into one part of it goes
//! what moves, into another as much water, so that all else is the same in both; and every glass is
//! poured from those two. Each glass is a drink as any other, with the making of the base and the jugs
//! and two pours at its end, and what stands on the sheet of it is read off its trace, after rounding to
//! what this kitchen can measure.

mod base;
mod jugs;
mod moving;
mod pouring;

use serde::{Deserialize, Serialize};

use crate::balance::{BalanceMap, Profile, Spot};
use crate::cupboard::Ingredient;
use crate::drink::{Drink, Family};
use crate::fault::FieldError;
use crate::quantity::Amount;
use crate::quantity::Units;
use crate::taste::taster::Taster;
use crate::trace::Trace;
use crate::work::Worktop;

pub(crate) use jugs::{Bench, takes};
use jugs::{Made, fill_jugs};
pub(crate) use pouring::{Pourer, Spoon};

/// The quality that differs from glass to glass.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Moves {
    /// Sugar, at the same acidity: from sour to sweet.
    Sugar,
    /// Acid, at the same sweetness: from sour to mild.
    Acid,
    /// Water, at the same ratio: from thin to strong.
    Strength,
    /// The strength of the infusion, at the same sweetness and acidity: from faint to strong.
    Steep,
    /// Alcohol, at the same sweetness and acidity.
    Spirit,
    /// The sweetener, at the same sweetness and acidity. Ids of ingredients.
    Sweetener(Vec<String>),
    /// The sour ingredient, at the same sweetness and acidity. Ids of ingredients.
    Souring(Vec<String>),
}

impl Moves {
    /// The five words for a glass, from too little to too much; none where glasses differ in kind.
    #[must_use]
    pub fn words(&self) -> Option<[&'static str; 5]> {
        Some(match self {
            Self::Sugar | Self::Acid => {
                ["too sour", "slightly sour", "just right", "slightly sweet", "too sweet"]
            }
            Self::Strength => {
                ["too thin", "slightly thin", "just right", "slightly strong", "too strong"]
            }
            Self::Steep => {
                ["too faint", "slightly faint", "just right", "slightly strong", "too strong"]
            }
            Self::Spirit => {
                ["too weak", "slightly weak", "just right", "slightly strong", "too strong"]
            }
            Self::Sweetener(_) | Self::Souring(_) => return None,
        })
    }

    /// Whether the row goes along the sugar–acid ratio.
    #[must_use]
    pub fn is_ratio(&self) -> bool {
        matches!(self, Self::Sugar | Self::Acid)
    }
}

/// The row to set up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Row {
    /// The drink.
    pub drink: Drink,
    /// The quality that differs.
    pub moves: Moves,
    /// How many glasses, 3 to 7; for glasses that differ in kind, one for each kind, 2 to 7.
    pub glasses: u32,
    /// The ratio from glass to glass, 1.03 to 2.
    pub step: f64,
    /// The value in the middle glass; that of the drink if missing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub middle: Option<f64>,
    /// The sample of each glass for each taster, ml, 20 to 250.
    pub sample_ml: f64,
    /// How many tasters, 1 to 40.
    pub tasters: u32,
    /// The units for amounts.
    #[serde(default)]
    pub units: Units,
}

/// Most tasters in one tasting.
pub const MOST_TASTERS: u32 = 40;

/// A row of glasses, ready to be poured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Ladder {
    /// The base, made once; missing if the glasses are mixed from jugs only.
    pub base: Option<Drink>,
    /// The jugs, in the order in which they are filled.
    pub jugs: Vec<Jug>,
    /// The glasses, from the least to the most.
    pub glasses: Vec<Glass>,
    /// The qualities that all glasses share, in words with figures: "0.52 to 0.52 % acid".
    pub held: Vec<Held>,
    /// The ingredients and amounts that the glasses need.
    pub takes: Vec<Portioned>,
    /// The time from the first step to the last glass, minutes.
    pub minutes: f64,
    /// The hands-on part.
    pub hands_on_minutes: f64,
    /// Notes about it, in sentences.
    pub notes: Vec<String>,
}

/// A jug that glasses are poured from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Jug {
    /// Its label: "sweet jug".
    pub name: String,
    /// The ingredients, in order.
    pub filled_with: Vec<Portioned>,
    /// The volume to fill in, ml.
    pub volume_ml: f64,
    /// Sweetness of the contents, g in 100 g.
    pub sweetness: f64,
    /// Acidity of the contents, g in 100 g.
    pub acidity: f64,
    /// Its colour, `#rrggbb`.
    pub colour: String,
}

/// An amount of an ingredient.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Portioned {
    /// Its name.
    pub name: String,
    /// How much, in kitchen measures.
    pub amount: Amount,
    /// The same by weight, g.
    pub grams: f64,
}

/// A glass of the row.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Glass {
    /// The glass's figure, or the name of its variant.
    pub name: String,
    /// How much of each jug goes in.
    pub pours: Vec<Poured>,
    /// The logarithm of the varied quality; missing if glasses differ in kind.
    pub x: Option<f64>,
    /// Sweetness, g in 100 g.
    pub sweetness: f64,
    /// Acidity, g in 100 g.
    pub acidity: f64,
    /// Soluble solids, % of the weight.
    pub brix: f64,
    /// Alcohol, % vol.
    pub alcohol: f64,
    /// Sugar–acid ratio.
    pub ratio: Option<f64>,
    /// The volume, ml.
    pub volume_ml: f64,
    /// The glass as a drink, made from the base.
    pub drink: Drink,
}

/// How much of a jug goes into a glass.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Poured {
    /// The jug's position.
    pub jug: usize,
    /// How much, in kitchen measures.
    pub amount: Amount,
    /// The same by weight, g.
    pub grams: f64,
}

/// A figure that is the same in all glasses.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Held {
    /// The quality: "sweetness", "acidity", "ratio".
    pub what: String,
    /// The lowest value in any glass.
    pub least: f64,
    /// The most.
    pub most: f64,
}

impl Held {
    /// By how much the ends differ, as a part of the middle.
    #[must_use]
    pub fn off(&self) -> f64 {
        let middle = (self.least + self.most) / 2.0;
        if middle > 0.0 { (self.most - self.least) / middle } else { 0.0 }
    }
}

/// Less sweet than this, nothing sweet is tasted, g in 100 g; less sour than that, nothing sour.
const TASTED: (f64, f64) = (1.0, 0.05);

/// The drink that a row is made of, and what is in it.
struct Origin<'a> {
    /// It, in one vessel.
    drink: Drink,
    /// That vessel's id.
    vessel: String,
    profile: Profile,
    /// What it is mainly sweetened with.
    sweetener: &'a Ingredient,
    /// What it is mainly soured with.
    souring: &'a Ingredient,
    /// What brings most of its alcohol.
    spirit: Option<&'a Ingredient>,
}

/// The largest step from glass to glass.
const MOST_STEP: f64 = 2.0;

impl Row {
    /// Poured for these: no step is smaller than what the least sensitive of them notices.
    pub fn seat(&mut self, tasters: &[Taster]) {
        self.tasters = tasters.len() as u32;
        let noticed = tasters.iter().map(|t| t.palate().sweetness).fold(0.0, f64::max);
        self.step = self.step.max((1.0 + noticed).min(MOST_STEP));
    }

    fn check(&self) -> Result<(), FieldError> {
        let kinds = match &self.moves {
            Moves::Sweetener(ids) | Moves::Souring(ids) => Some(ids),
            _ => None,
        };
        if let Some(ids) = kinds {
            if !(2..=7).contains(&ids.len()) {
                return Err(FieldError::new(
                    "moves",
                    format!("Choose 2 to 7; you chose {}.", ids.len()),
                ));
            }
            if let Some(twice) = ids.iter().enumerate().find(|(i, id)| ids[..*i].contains(id)) {
                let message = format!("“{}” is there twice. Choose each once.", twice.1);
                return Err(FieldError::new("moves", message));
            }
        } else if !(3..=7).contains(&self.glasses) {
            let message = match self.glasses {
                0 | 1 => "Choose 3 to 7 glasses.".to_owned(),
                2 => "Choose 3 to 7 glasses: two show which is better, not what is best.".into(),
                many => format!("Choose 3 to 7 glasses: {many} are too many to tell apart."),
            };
            return Err(FieldError::new("glasses", message));
        }
        for (name, value, least, most, unit) in [
            ("step", self.step, 1.03, MOST_STEP, "times"),
            ("sample_ml", self.sample_ml, 20.0, 250.0, "ml"),
            ("tasters", f64::from(self.tasters), 1.0, f64::from(MOST_TASTERS), "tasters"),
        ] {
            if !value.is_finite() || !(least..=most).contains(&value) {
                let message = format!("Enter {least} to {most} {unit}.");
                return Err(FieldError::new(name, message));
            }
        }
        if self.middle.is_some_and(|m| !m.is_finite() || !(0.01..=500.0).contains(&m)) {
            return Err(FieldError::new("middle", "Enter 0.01 to 500."));
        }
        Ok(())
    }

    /// What moves, in each glass, from little to much, round the middle.
    fn places(&self, usual: f64) -> Vec<f64> {
        let middle = self.middle.unwrap_or(usual);
        let half = f64::from(self.glasses - 1) / 2.0;
        (0..self.glasses).map(|i| middle * self.step.powf(f64::from(i) - half)).collect()
    }
}

/// Works out a row: its base, its jugs, and how each glass is poured.
///
/// # Errors
/// Names the field where such a row can't be poured.
pub fn ladder<'a>(row: &Row, worktop: impl Into<Worktop<'a>>) -> Result<Ladder, FieldError> {
    let worktop = worktop.into();
    row.check()?;
    let origin = base::origin(&row.drink, worktop)?;
    // How much of the base the jugs take, and of the jugs the glasses, shows only once they are filled: what
    // can't be measured finely may want a larger jug. So it is set up until all suffices.
    let (mut base_ml, mut sizes) = (None, Vec::new());
    for nth in 0..SET_UP {
        let mut recipe = base::recipe(row, &origin, base_ml, worktop)?;
        for (jug, size) in recipe.jugs.iter_mut().zip(&sizes) {
            jug.volume_ml = *size;
        }
        let made = fill_jugs(row, &origin, &recipe, worktop)?;
        // The more often it didn't suffice, the more there is to spare.
        let spare = 1.06 + 0.04 * f64::from(nth);
        let used = made.base_ml / recipe.base_ml;
        if recipe.has_base() && (used > 0.985 || (nth == 0 && used < 0.85)) {
            (base_ml, sizes) = (Some(made.base_ml * spare), made.sizes);
            continue;
        }
        let glasses = match pour_all(row, &recipe, &made, worktop) {
            Ok(glasses) => glasses,
            // In jugs a quarter larger the same spoons count for less.
            Err(_) if nth < COARSE => {
                (base_ml, sizes) =
                    (Some(made.base_ml * 1.25), made.sizes.iter().map(|ml| ml * 1.25).collect());
                continue;
            }
            Err(why) => return Err(why),
        };
        let needed = |jug: usize| {
            let pours = glasses.iter().flat_map(|g| &g.pours).filter(|p| p.jug == jug);
            let ml: f64 = pours.filter_map(|p| p.amount.as_millilitres()).sum();
            ml * f64::from(row.tasters) * 1.02
        };
        let suffices = made.jugs.iter().enumerate().all(|(i, jug)| jug.volume_ml >= needed(i));
        let closely = held(row, &glasses).iter().all(|held| held.off() < CLOSELY);
        if suffices && (closely || nth + 1 == SET_UP) {
            return sheet(row, &recipe, made, glasses, worktop);
        }
        // In larger jugs the same spoons count for less.
        let finer = if closely { 1.0 } else { 1.25 };
        let larger = |(i, (size, jug)): (usize, (&f64, &Jug))| {
            size * (needed(i) * 1.03 / jug.volume_ml).max(finer)
        };
        let before: f64 = made.sizes.iter().sum();
        sizes = made.sizes.iter().zip(&made.jugs).enumerate().map(larger).collect();
        base_ml = Some(made.base_ml * spare * sizes.iter().sum::<f64>() / before);
    }
    Err(FieldError::new(
        "sample_ml",
        "Your measures aren't fine enough for this. Use larger samples.",
    ))
}

/// How often a row is set up until base and jugs suffice.
const SET_UP: u32 = 10;
/// And how often with larger jugs where two of its glasses come out alike.
const COARSE: u32 = 4;
/// What is held differs by less than that from glass to glass.
const CLOSELY: f64 = 0.009;

/// Pours every glass of a row.
fn pour_all(
    row: &Row,
    recipe: &base::Recipe<'_>,
    made: &Made,
    worktop: Worktop<'_>,
) -> Result<Vec<Glass>, FieldError> {
    let pourer = Pourer::new(worktop, &made.bench, &made.jugs, row.sample_ml, row.units)?;
    let mut glasses: Vec<(Vec<u32>, Glass)> = Vec::new();
    for place in recipe.places() {
        let units = pourer.nearest(&place, |taste| recipe.figure(taste))?;
        if let Some((_, twin)) = glasses.iter().find(|(other, _)| *other == units) {
            return Err(FieldError::new(
                "step",
                format!(
                    "Two glasses would both be {}: your measures aren't fine enough. Use larger steps, larger samples or fewer glasses.",
                    twin.name
                ),
            ));
        }
        let glass = glass(row, recipe, made, &pourer, &units, place.name(), worktop)?;
        glasses.push((units, glass));
    }
    Ok(glasses.into_iter().map(|(_, glass)| glass).collect())
}

/// Everything that stands on the sheet.
fn sheet(
    row: &Row,
    recipe: &base::Recipe<'_>,
    made: Made,
    glasses: Vec<Glass>,
    worktop: Worktop<'_>,
) -> Result<Ladder, FieldError> {
    let held = held(row, &glasses);
    let whole = worktop.trace(&made.bench.drink)?;
    let poured = 0.4 * f64::from(row.tasters) * glasses.len() as f64;
    Ok(Ladder {
        base: recipe.has_base().then(|| recipe.base.clone()),
        takes: takes(&made.bench.drink, &whole, worktop, row.units),
        minutes: whole.minutes.0 + poured,
        hands_on_minutes: whole.hands_on().0 + poured,
        jugs: made.jugs,
        glasses,
        held,
        notes: recipe.notes.clone(),
    })
}

/// A glass, run as a drink.
fn glass(
    row: &Row,
    recipe: &base::Recipe<'_>,
    made: &Made,
    pourer: &Pourer<'_>,
    units: &[u32],
    name: Option<String>,
    worktop: Worktop<'_>,
) -> Result<Glass, FieldError> {
    let drink = made.bench.glass(&pourer.amounts(units), row.sample_ml);
    let read = read_glass(drink, pourer.poured(units), worktop)?;
    let x = recipe.x_of(&read, pourer.share(units));
    let name = name.unwrap_or_else(|| recipe.say(x.map_or(0.0, f64::exp)));
    Ok(Glass { name, x, ..read })
}

/// A glass that was poured, and what its trace says of it.
pub(crate) fn read_glass(
    drink: Drink,
    pours: Vec<Poured>,
    worktop: Worktop<'_>,
) -> Result<Glass, FieldError> {
    let trace = worktop.trace(&drink)?;
    let profile = trace
        .outcome()
        .and_then(Profile::of)
        .ok_or_else(|| FieldError::new("drink", "That glass would be empty."))?;
    Ok(Glass {
        name: String::new(),
        pours,
        x: None,
        sweetness: profile.sweetness_percent,
        acidity: profile.acidity_percent,
        brix: profile.brix,
        alcohol: profile.alcohol_percent,
        ratio: profile.ratio,
        volume_ml: profile.glass_ml,
        drink,
    })
}

/// What is the same in all glasses, and how closely.
fn held(row: &Row, glasses: &[Glass]) -> Vec<Held> {
    let of = |what: &str, read: &dyn Fn(&Glass) -> f64| {
        let all: Vec<f64> = glasses.iter().map(read).collect();
        Held {
            what: what.to_owned(),
            least: all.iter().copied().fold(f64::MAX, f64::min),
            most: all.iter().copied().fold(f64::MIN, f64::max),
        }
    };
    let sweetness = || of("sweetness", &|g| g.sweetness);
    let acidity = || of("acidity", &|g| g.acidity);
    let volume = of("volume", &|g| g.volume_ml);
    let mut held = match row.moves {
        Moves::Sugar => vec![acidity()],
        Moves::Acid => vec![sweetness()],
        Moves::Strength => vec![of("ratio", &|g| g.ratio.unwrap_or(0.0))],
        _ => vec![sweetness(), acidity()],
    };
    held.retain(|held| held.most > 0.0);
    held.push(volume);
    held
}

/// Where the drinks of a family mostly lie, as a ratio: where one looks first.
#[must_use]
pub fn usual_ratio(family: Family) -> f64 {
    let bands = BalanceMap::of(family, None).bands;
    // Between bright and round: the middle of the row of bands.
    bands.get(bands.len() / 2).map_or(16.0, |band| band.ratio_from)
}

/// Where a ratio lies on a family's map, at the strength that its drinks mostly have.
#[must_use]
pub fn spot_at(family: Family, ratio: f64) -> Spot {
    let middle = BalanceMap::of(family, None).typical.middle;
    // Half of a step is taken by the sugar, half by the acid: so a drink stays as strong.
    let by = (ratio / (middle.sweetness / middle.acidity)).sqrt();
    Spot { sweetness: middle.sweetness * by, acidity: middle.acidity / by }
}

/// What is read off the end of a trace that is asked for.
pub(crate) fn profile_of(trace: &Trace) -> Option<Profile> {
    trace.outcome().and_then(Profile::of)
}
