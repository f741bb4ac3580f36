use serde::{Deserialize, Serialize};

use crate::chemistry::{Component, boiling_point_elevation, sucrose_solubility, water_activity};
use crate::cupboard::{Cupboard, Form, Ingredient, Staple, VesselKind};
use crate::drink::{
    Action, CoolingPlace, Drink, Family, FieldError, Reduction, Step, Vessel, Vigour,
};
use crate::quantity::{Amount, Celsius, Grams};
use crate::trace::{Contents, MEASURED_AT, Trace};

/// A syrup to work out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct SyrupAsked {
    /// The sweetener's id.
    #[serde(default = "usual_sugar")]
    pub sugar: String,
    /// Its amount.
    pub amount: Amount,
    /// Parts of sweetener to one part of water.
    pub proportion: Proportion,
    /// Boil it down to this °Brix; not at all if left out.
    #[serde(default)]
    pub reduce_to: Option<f64>,
    /// Inside diameter of the pot, mm.
    #[serde(default = "usual_pot")]
    pub pot_mm: f64,
    /// Bring the finished syrup back to this volume with water; not at all if left out.
    #[serde(default)]
    pub back_to: Option<Amount>,
}

fn usual_sugar() -> String {
    Cupboard::builtin().staple(Staple::Sugar).id.clone()
}

fn usual_pot() -> f64 {
    200.0
}

/// Parts of sweetener to one part of water.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Proportion {
    /// Both weighed.
    ByWeight(f64),
    /// A ratio of two ingredients measured in the same cup.
    ByVolume(f64),
}

/// A syrup in figures.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Syrup {
    /// The sugar to add, g.
    pub sugar_g: f64,
    /// The amount in cups and spoons.
    pub sugar_text: String,
    /// Water, g.
    pub water_g: f64,
    /// Soluble solids, % of the weight.
    pub brix: f64,
    /// Its volume, ml at 20 °C.
    pub volume_ml: f64,
    /// Weight of a millilitre, g.
    pub density: f64,
    /// The boiling temperature, °C.
    pub boils_at: f64,
    /// Water activity, 0 to 1.
    pub water_activity: f64,
    /// Water boiled away, g.
    pub boiled_away_g: f64,
    /// How long that takes once it boils, minutes.
    pub minutes: f64,
    /// The height of the syrup in the pot, mm.
    pub water_line_mm: Option<f64>,
    /// The water that restores the wanted volume, ml.
    pub water_back_ml: Option<f64>,
    /// Ice that melts, g.
    pub ice_back_g: Option<f64>,
    /// Whether crystals form in it at 20 °C.
    pub crystallises_at_20: bool,
    /// Whether crystals form in it at 4 °C.
    pub crystallises_at_4: bool,
    /// The most sugar that stays dissolved at 4 °C, % of the weight.
    pub holds_at_4: f64,
    /// Its colour in a pot, `#rrggbb`.
    pub colour: String,
    /// Its height in the pot while it boils: at its own °Brix, and at each whole one up to 80.
    pub levels: Vec<SyrupLevel>,
    /// The syrup for a glass of 250 ml, for several sweetnesses.
    pub dilutions: Vec<Dilution>,
    /// Notices for the cook.
    pub notices: Vec<String>,
}

/// The height of a syrup in its pot at this reduction.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SyrupLevel {
    /// Soluble solids, °Brix.
    pub brix: f64,
    /// Height above the bottom of the pot at the boil, mm.
    pub mm: f64,
}

/// A dilution: parts of syrup to parts of water or soda.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Dilution {
    /// Sweetness of the glass, g in 100 g.
    pub sweetness: f64,
    /// Parts of water or soda to one part of syrup, by volume.
    pub parts: f64,
    /// Syrup in a glass of 250 ml, ml.
    pub syrup_ml: f64,
    /// Water or soda in it, ml.
    pub water_ml: f64,
    /// Its colour in the glass, `#rrggbb`.
    pub colour: String,
}

/// The thickest that a syrup is boiled down to, °Brix.
const THICKEST: f64 = 80.0;
/// The glass that dilutions are told for, ml.
const GLASS: f64 = 250.0;

/// Works a syrup out by making it: sugar and water in a pot, warmed, boiled down, cooled.
///
/// # Errors
/// Names the field that can't be.
pub fn syrup(cupboard: &Cupboard, asked: &SyrupAsked) -> Result<Syrup, FieldError> {
    let fault = |field: &str, message: String| FieldError { field: field.into(), message };
    let it = cupboard
        .ingredient(&asked.sugar)
        .filter(|it| it.per_gram.sucrose_equivalent().0 > 0.3 && it.form != Form::Pieces)
        .ok_or_else(|| fault("sugar", "Choose a sugar, honey or syrup.".into()))?;
    let sugar = cupboard
        .weigh(it, &asked.amount)
        .map_err(|unknown| fault("amount", unknown.to_string()))?
        .grams;
    if !(0.5..=100_000.0).contains(&sugar.0) {
        return Err(fault("amount", "Enter 0.5 g to 100 kg.".into()));
    }
    let water = water_for(it, sugar, asked.proportion)
        .ok_or_else(|| fault("proportion", "Enter 0.05 to 6 parts to 1 part water.".into()))?;
    if asked.reduce_to.is_some_and(|b| !(1.0..=THICKEST).contains(&b)) {
        return Err(fault("reduce_to", "Enter 1 to 80 °Bx.".into()));
    }
    if !(20.0..=1000.0).contains(&asked.pot_mm) {
        return Err(fault("pot_mm", "Enter 20 to 1000 mm.".into()));
    }

    let drink = making(asked, sugar, water, cupboard);
    let trace = Trace::run(&drink, cupboard);
    let reduced = asked.reduce_to.and_then(|_| trace.frames.get(3));
    let made = trace
        .outcome()
        .map(|o| &o.contents)
        .ok_or_else(|| fault("amount", "These amounts don't make a syrup.".into()))?;
    let boiled = trace.frames.get(2).map(|f| f.minutes.0).unwrap_or_default();
    let volume = made.liquid.volume(MEASURED_AT).0;
    let notices = trace.frames.iter().flat_map(|f| &f.notices).map(|n| n.message.clone()).collect();
    let missing = asked
        .back_to
        .as_ref()
        .map(|v| {
            v.as_millilitres().ok_or_else(|| fault("back_to", format!("“{v}” isn't a volume.")))
        })
        .transpose()?
        .map(|ml| (ml - volume).max(0.0));
    let cold = |t: f64| made.crystallises_at(Celsius(t)) || made.undissolved().0 > 0.5;
    Ok(Syrup {
        sugar_g: sugar.0,
        sugar_text: it
            .in_spoons(sugar)
            .map_or_else(|| asked.amount.to_string(), |a| a.rounded().to_string()),
        water_g: water.0,
        brix: made.liquid.soluble_solids(),
        volume_ml: volume,
        density: made.liquid.density_at_20(),
        boils_at: 100.0 + boiling_point_elevation(&made.liquid),
        water_activity: water_activity(&made.liquid),
        boiled_away_g: reduced.map_or(0.0, |f| f.gone[Component::Water]),
        minutes: reduced.map_or(boiled, |f| f.minutes.0),
        water_line_mm: reduced.and_then(|f| f.water_line).map(|mm| mm.0),
        water_back_ml: missing,
        ice_back_g: missing.map(|ml| ml * 0.998),
        crystallises_at_20: cold(20.0),
        crystallises_at_4: cold(4.0),
        holds_at_4: sucrose_solubility(Celsius(4.0)),
        colour: made.colour().to_string(),
        levels: levels(cupboard, asked, (sugar, water)),
        dilutions: [6.0, 8.0, 10.0, 12.0, 14.0]
            .into_iter()
            .filter_map(|s| dilute(made, s))
            .collect(),
        notices,
    })
}

/// Its own °Brix and each whole one from there to the thickest, by boiling it down to it.
fn levels(
    cupboard: &Cupboard,
    asked: &SyrupAsked,
    (sugar, water): (Grams, Grams),
) -> Vec<SyrupLevel> {
    let boiled = |reduce_to: Option<f64>| {
        Trace::run(
            &making(&SyrupAsked { reduce_to, ..asked.clone() }, sugar, water, cupboard),
            cupboard,
        )
    };
    let plain = boiled(None);
    let first = plain.outcome().map_or(THICKEST, |o| o.contents.liquid.soluble_solids());
    let whole = (first.floor() as u32 + 1..=THICKEST as u32).map(f64::from);
    std::iter::once(first)
        .chain(whole)
        .filter_map(|brix| {
            let mm = boiled(Some(brix)).frames.get(3)?.water_line?.0;
            Some(SyrupLevel { brix, mm })
        })
        .collect()
}

fn water_for(it: &Ingredient, sugar: Grams, proportion: Proportion) -> Option<Grams> {
    let within = |parts: f64| (0.05..=6.0).contains(&parts).then_some(parts);
    Some(match proportion {
        Proportion::ByWeight(parts) => sugar * (1.0 / within(parts)?),
        Proportion::ByVolume(parts) => Grams(it.fills(sugar)?.0 / within(parts)? * 0.9982),
    })
}

/// The drink whose making is the syrup's.
fn making(asked: &SyrupAsked, sugar: Grams, water: Grams, cupboard: &Cupboard) -> Drink {
    let add =
        |ingredient: &str, grams: Grams| Action::add("pot", ingredient, Amount::grams(grams.0));
    let mut actions = vec![
        add(&cupboard.staple(Staple::Water).id, water),
        add(&asked.sugar, sugar),
        Action::Heat {
            vessel: "pot".into(),
            to_c: 90.0,
            minutes: 0.0,
            lid: true,
            until_clear: false,
        },
    ];
    if let Some(brix) = asked.reduce_to {
        let to = Reduction::Brix(brix);
        actions.push(Action::Reduce { vessel: "pot".into(), to, how: Vigour::Boil });
    }
    actions.push(Action::Cool {
        vessel: "pot".into(),
        to_c: 22.0,
        place: CoolingPlace::WaterBath,
        covered: true,
    });
    Drink {
        name: "Syrup".into(),
        family: Family::Syrup,
        note: String::new(),
        part: None,
        vessels: vec![Vessel {
            capacity: Some(Amount::millilitres((sugar.0 + water.0) * 2.0 + 50.0)),
            diameter_mm: Some(asked.pot_mm),
            ..Vessel::new("pot", VesselKind::Pot)
        }],
        steps: actions
            .into_iter()
            .enumerate()
            .map(|(i, action)| Step::new(format!("s{i}"), action))
            .collect(),
    }
}

/// How much syrup a glass takes to be so sweet.
fn dilute(made: &Contents, sweetness: f64) -> Option<Dilution> {
    let mass = made.liquid.mass().0;
    let strength = 100.0 * made.liquid.sucrose_equivalent().0 / mass;
    if strength <= sweetness {
        return None;
    }
    // Grams of water to a gram of syrup, then both by volume.
    let water = strength / sweetness - 1.0;
    let parts = water / 0.9982 * made.liquid.density_at_20();
    let syrup_ml = GLASS / (1.0 + parts);
    let mut glass = made.liquid;
    glass[Component::Water] += water * mass;
    let colour = glass.colour().to_string();
    Some(Dilution { sweetness, parts, syrup_ml, water_ml: GLASS - syrup_ml, colour })
}
