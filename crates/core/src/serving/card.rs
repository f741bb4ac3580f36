use serde::{Deserialize, Serialize};

use crate::balance::{BalanceMap, Inside, Palate, Profile, stirred_in};
use crate::cupboard::{Cupboard, Kind, Staple, VesselKind};
use crate::drink::{Action, CoolingPlace, Drink, RestingPlace, Step, Vessel};
use crate::quantity::{Amount, Measure};
use crate::trace::{Nudges, Outcome, Prepared, Trace};
use crate::work::{Stopped, Worktop};

/// Instructions for serving, and the changes in the glass.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Card {
    /// The order in which to fill a glass, in words.
    pub order: Vec<String>,
    /// The parts by volume: "1 part base, 3 parts soda water".
    pub parts: Option<String>,
    /// The amounts for a jug of one litre, in words.
    pub jug: Option<String>,
    /// Its state, for each way of cooling.
    pub standing: Vec<Standing>,
    /// The spoons of sugar or juice for drinkers with another balance.
    pub tastes: Vec<ForTaste>,
    /// A glass with spirit, for those who want it.
    pub with_spirit: WithSpirit,
}

/// A way of keeping it cold.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Cooling {
    /// As the drink has it.
    AsWritten,
    /// Chilled first, without ice.
    ChilledNoIce,
    /// Chilled first, with three cubes.
    ChilledWithIce,
    /// Not chilled, poured over much ice.
    WarmOverIce,
    /// Chilled first, with cubes of the drink itself.
    OwnIce,
}

/// How a glass changes over half an hour.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Standing {
    /// The way it is kept cold.
    pub cooling: Cooling,
    /// In words.
    pub name: String,
    /// The glass after 0, 10, 20 and 30 minutes.
    pub moments: Vec<Moment>,
}

/// A glass at a moment.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Moment {
    /// The time since it was poured, minutes.
    pub minutes: f64,
    /// Temperature, °C.
    pub temperature_c: f64,
    /// Remaining ice, g.
    pub ice_g: f64,
    /// The share of melted ice in the glass, %.
    pub watered_percent: f64,
    /// Sweetness, g in 100 g.
    pub sweetness: f64,
    /// Fizz, volumes of CO₂.
    pub fizz: f64,
}

/// The addition to a glass for a drinker with another balance.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ForTaste {
    /// The taste: tart, bright, round, sweet.
    pub taste: String,
    /// The addition: "1 tsp lemon juice"; empty for the plain base.
    pub add: Option<String>,
}

/// A glass with spirit.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct WithSpirit {
    /// Spirit of 40 % in a glass, ml.
    pub spirit_ml: f64,
    /// The strength of the glass, % vol.
    pub percent: f64,
    /// Its alcohol, g.
    pub grams: f64,
    /// The caution.
    pub message: String,
}

const MOMENTS: [f64; 4] = [0.0, 10.0, 20.0, 30.0];
/// What is poured into a glass for those who want it.
const SPIRIT_ML: f64 = 30.0;

/// The serving card of a drink that is poured into glasses; `None` if it isn't, or there is nothing.
///
/// # Errors
/// If the drink is too large to be poured in so many ways.
pub fn card<'a>(drink: &Drink, worktop: impl Into<Worktop<'a>>) -> Result<Option<Card>, Stopped> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    let Some((serving, glass)) =
        drink.steps.iter().enumerate().find_map(|(i, s)| match &s.action {
            Action::Serve { glass, .. } => Some((i, glass.clone())),
            _ => None,
        })
    else {
        return Ok(None);
    };
    let trace = worktop.trace(drink)?;
    let served = trace.outcome().filter(|o| o.served);
    let Some((outcome, profile)) = served.and_then(|o| Some((o, Profile::of(o)?))) else {
        return Ok(None);
    };
    let mut standing = Vec::new();
    for (cooling, name) in [
        (Cooling::AsWritten, "as it is written"),
        (Cooling::ChilledNoIce, "chilled first, no ice"),
        (Cooling::ChilledWithIce, "chilled first, three cubes"),
        (Cooling::WarmOverIce, "not chilled, over six cubes"),
        (Cooling::OwnIce, "chilled first, three cubes of the drink"),
    ] {
        let Some(served) = cooled(drink, serving, &glass, cooling, worktop.cupboard()) else {
            continue;
        };
        if let Some(moments) = moments(&served, worktop, &glass)? {
            standing.push(Standing { cooling, name: name.into(), moments });
        }
    }
    let Some(with_spirit) = with_spirit(drink, worktop, &glass, &profile)? else {
        return Ok(None);
    };
    let (parts, jug) = in_parts(drink, &trace, cupboard, outcome, &glass);
    Ok(Some(Card {
        order: order(drink, cupboard, &glass),
        parts,
        jug,
        standing,
        tastes: tastes(drink, worktop, outcome, &profile)?,
        with_spirit,
    }))
}

/// What is done to a glass, in order.
fn order(drink: &Drink, cupboard: &Cupboard, glass: &str) -> Vec<String> {
    let report = crate::report::DrinkReport::of(drink, cupboard);
    drink
        .steps
        .iter()
        .zip(report.frames)
        .filter(|(step, _)| step.action.path().last() == Some(&glass))
        .map(|(_, frame)| frame.sentence)
        .collect()
}

/// Whether a step puts ice somewhere.
fn brings_ice(step: &Step, cupboard: &Cupboard) -> bool {
    step.action.ingredient().is_some_and(|id| cupboard.is_of(id, Kind::Ice))
}

/// The drink with its glasses kept cold in another way.
fn cooled(
    drink: &Drink,
    serving: usize,
    glass: &str,
    cooling: Cooling,
    cupboard: &Cupboard,
) -> Option<Drink> {
    let mut served = drink.clone();
    if cooling == Cooling::AsWritten {
        return Some(served);
    }
    let Action::Serve { from, .. } = drink.steps[serving].action.clone() else { return None };
    let is_ice = |s: &Step| s.action.path().last() == Some(&glass) && brings_ice(s, cupboard);
    let mut at = serving;
    let mut i = 0;
    while i < served.steps.len() {
        let chills = cooling == Cooling::WarmOverIce
            && matches!(&served.steps[i].action, Action::Cool { to_c, .. } if *to_c < 20.0);
        if is_ice(&served.steps[i]) || chills {
            served.steps.remove(i);
            at -= usize::from(i < at);
        } else {
            i += 1;
        }
    }
    let mut add = |action: Action| {
        served.steps.insert(at, Step::new(String::new(), action));
        at += 1;
    };
    if cooling != Cooling::WarmOverIce {
        add(Action::Cool {
            vessel: from.clone(),
            to_c: 5.0,
            place: CoolingPlace::Refrigerator,
            covered: false,
        });
    }
    let cubes = match cooling {
        Cooling::ChilledWithIce => 3.0,
        Cooling::WarmOverIce => 6.0,
        _ => 0.0,
    };
    if cubes > 0.0 {
        add(Action::add(
            glass.to_owned(),
            &cupboard.staple(Staple::Ice).id,
            Amount::of(cubes, Measure::Piece("cubes".into())),
        ));
    }
    if cooling == Cooling::OwnIce {
        own_ice(&mut served, &from, glass, at)?;
    }
    served.name_steps();
    Some(served)
}

/// Freezes a part of the drink and lays it into the glasses: as much as three cubes.
fn own_ice(served: &mut Drink, from: &str, glass: &str, at: usize) -> Option<()> {
    const CUBES_G: f64 = 63.0;
    let glasses = f64::from(served.glasses_in(glass));
    let mut id = "cube_tray".to_owned();
    while served.vessel(&id).is_some() {
        id.push('_');
    }
    served.vessels.push(Vessel {
        name: Some("Ice cube tray".into()),
        capacity: Some(Amount::millilitres((CUBES_G * glasses * 1.2).max(50.0))),
        ..Vessel::new(id.clone(), VesselKind::Bowl)
    });
    let volume = Amount::millilitres(CUBES_G * glasses);
    let steps = [
        Action::Pour {
            from: from.to_owned(),
            into: id.clone(),
            portion: crate::drink::Portion::Volume(volume),
        },
        Action::Cool {
            vessel: id.clone(),
            to_c: -18.0,
            place: CoolingPlace::Freezer,
            covered: false,
        },
        Action::Pour { from: id, into: glass.to_owned(), portion: crate::drink::Portion::All },
    ];
    for (i, action) in steps.into_iter().enumerate() {
        served.steps.insert(at + i, Step::new(String::new(), action));
    }
    Some(())
}

/// A glass as it stands on a table in the shade.
fn moments(
    served: &Drink,
    worktop: Worktop<'_>,
    glass: &str,
) -> Result<Option<Vec<Moment>>, Stopped> {
    let mut found = Vec::new();
    for minutes in MOMENTS {
        let mut drink = served.clone();
        drink.steps.push(Step::new(
            String::new(),
            Action::Infuse {
                vessel: glass.to_owned(),
                minutes,
                place: RestingPlace::Worktop,
                covered: false,
            },
        ));
        let landing = worktop
            .land(&Prepared::new(&drink, worktop.cupboard()), Nudges::default())?
            .outcome
            .and_then(|o| Some((Profile::of(&o)?, o)));
        let Some((profile, outcome)) = landing else { return Ok(None) };
        let ice = |step: usize| brings_ice(&drink.steps[step], worktop.cupboard());
        let origins = outcome.contents.origins.iter().filter(|o| ice(o.line));
        let melted = origins.fold(0.0, |sum, o| sum + o.water.0);
        let left = outcome.contents.ice_mass().0;
        found.push(Moment {
            minutes,
            temperature_c: profile.temperature_c,
            ice_g: left,
            watered_percent: 100.0 * melted / outcome.contents.liquid.mass().0.max(1e-9),
            sweetness: profile.sweetness_percent,
            fizz: profile.fizz_volumes,
        });
    }
    Ok(Some(found))
}

/// Parts by the glass, and the same for a jug of a litre.
fn in_parts(
    drink: &Drink,
    trace: &Trace,
    cupboard: &Cupboard,
    outcome: &Outcome,
    glass: &str,
) -> (Option<String>, Option<String>) {
    let Some(base) = outcome.size.map(|s| s.0) else { return (None, None) };
    let joins: Vec<(String, f64)> = drink
        .steps
        .iter()
        .enumerate()
        .filter(|(_, s)| s.action.path().last() == Some(&glass) && !brings_ice(s, cupboard))
        .filter_map(|(i, s)| {
            let it = cupboard.ingredient(s.action.brings()?.ingredient)?;
            let line = trace.lines.iter().find(|l| l.step == i)?;
            let ml = it.fills(line.grams)?.0 / outcome.glasses;
            (ml > 0.1 * base).then(|| (it.name.to_lowercase(), ml))
        })
        .collect();
    if joins.is_empty() {
        return (None, None);
    }
    let all: f64 = base + joins.iter().map(|(_, ml)| ml).sum::<f64>();
    let parts: Vec<String> = joins
        .iter()
        .map(|(name, ml)| {
            let parts = (ml / base * 4.0).round() / 4.0;
            let noun = if parts > 1.0 { "parts" } else { "part" };
            format!("{} {noun} {name}", crate::quantity::format_number(parts, true))
        })
        .collect();
    let jug: Vec<String> = std::iter::once(("base".to_owned(), base))
        .chain(joins)
        .map(|(name, ml)| format!("{:.0} ml {name}", (ml / all * 1000.0 / 10.0).round() * 10.0))
        .collect();
    (
        Some(format!("1 part base, {}", parts.join(", "))),
        Some(format!("For a jug of 1 litre: {}.", jug.join(", "))),
    )
}

/// What brings a glass of it to the middle of each band.
fn tastes(
    drink: &Drink,
    worktop: Worktop<'_>,
    outcome: &Outcome,
    profile: &Profile,
) -> Result<Vec<ForTaste>, Stopped> {
    let map = BalanceMap::of(drink.family, Some(profile));
    let Some(point) = &map.point else { return Ok(Vec::new()) };
    if point.thinned_with.is_some() {
        return Ok(Vec::new());
    }
    // There is always room for a spoon: the first sip is taken.
    let capacity = outcome.contents.level() * 1.5;
    let glass = Inside { contents: outcome.contents.clone(), capacity, kin: None };
    map.bands
        .iter()
        .map(|band| {
            let here = point.band.as_deref() == Some(&band.name);
            let add = stirred_in(worktop, &glass, band.ratio_middle, Palate::USUAL, |_| true)?
                .map(|a| format!("{} {}", a.amount, a.name.to_lowercase()));
            Ok(ForTaste { taste: band.name.clone(), add: if here { None } else { add } })
        })
        .collect()
}

fn with_spirit(
    drink: &Drink,
    worktop: Worktop<'_>,
    glass: &str,
    plain: &Profile,
) -> Result<Option<WithSpirit>, Stopped> {
    let mut strong = drink.clone();
    let spirit = &worktop.cupboard().staple(Staple::Spirit).id;
    let poured = Action::add(glass.to_owned(), spirit, Amount::millilitres(SPIRIT_ML));
    strong.steps.push(Step::new(String::new(), poured));
    let prepared = Prepared::new(&strong, worktop.cupboard());
    let landing = worktop.land(&prepared, Nudges::default())?;
    let Some(profile) = landing.outcome.as_ref().and_then(Profile::of) else { return Ok(None) };
    let already = plain.alcohol_percent > 0.05;
    Ok(Some(WithSpirit {
        spirit_ml: SPIRIT_ML,
        percent: profile.alcohol_percent,
        grams: profile.glass_alcohol_g,
        message: if already {
            format!(
                "The base already has {:.1} % vol. Label its jug and keep it away from children.",
                plain.alcohol_percent
            )
        } else {
            "Add it by the glass, on request. Keep the jug alcohol-free for children and drivers, and label the glass."
                .into()
        },
    }))
}
