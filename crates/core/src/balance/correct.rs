use serde::{Deserialize, Serialize};

use super::least_squares::{Unknown, Wish, nearest};
use super::{NOTICED, Taste};
use crate::chemistry::{Component, Mixture};
use crate::cupboard::{Cupboard, Form, Ingredient, Kind, VesselKind};
use crate::drink::{Action, Drink, Family, FieldError, Step, Vessel};
use crate::quantity::{Amount, Celsius, Grams, Measure, Millilitres, Minutes};
use crate::trace::{Contents, MEASURED_AT, Nudges, Prepared, Trace};
use crate::work::{Stopped, Worktop};

/// Baking soda that a drink bears, g/l: with more it tastes of soap and salt. Estimated, from the
/// half gram of sodium in a litre at which mineral water begins to taste salty.
const MOST_SALT: f64 = 1.0;

/// Things at hand that are tried, and words that are listened to.
const MOST_AT_HAND: usize = 12;
const MOST_WORDS: usize = 12;

/// What tastes wrong with a pitcher, and what it should be.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Asked {
    /// What is in it.
    pub pitcher: Pitcher,
    /// Sweetness that it should have, g in 100 g; as words say if left out.
    #[serde(default)]
    pub sweetness: Option<f64>,
    /// Acidity that it should have, g in 100 g; as words say if left out.
    #[serde(default)]
    pub acidity: Option<f64>,
    /// What it tastes like.
    #[serde(default)]
    pub words: Vec<Doubt>,
    /// Ids of ingredients that are at hand; the usual ones if left out.
    #[serde(default)]
    pub at_hand: Vec<String>,
}

/// A pitcher: one of the drink's vessels, or one that the application has never seen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Pitcher {
    /// As a vessel of a drink is after a step.
    Traced {
        /// The drink.
        drink: Box<Drink>,
        /// The vessel's id.
        vessel: String,
        /// The step's id; the last one if left out.
        #[serde(default)]
        step: Option<String>,
    },
    /// As it was read or guessed.
    Read {
        /// What there is: "1.5 l".
        volume: Amount,
        /// What the pitcher holds.
        capacity: Amount,
        /// °Brix by a refractometer.
        #[serde(default)]
        brix: Option<f64>,
        /// Titratable acidity as citric, g in 100 g.
        #[serde(default)]
        acidity: Option<f64>,
        /// pH, if acidity isn't known.
        #[serde(default)]
        ph: Option<f64>,
    },
}

/// What it tastes like, and how much so.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Doubt {
    /// What is wrong.
    pub too: Word,
    /// How much.
    pub how: How,
}

/// What is wrong with a taste.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Word {
    Sweet,
    NotSweet,
    Sharp,
    Flat,
    Strong,
    Weak,
}

/// How much something is felt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum How {
    /// One difference that is just noticed.
    Touch,
    /// Two of them.
    Clearly,
    /// Four of them.
    Far,
}

/// What to do about it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Correction {
    /// Sweetness that it has, g in 100 g.
    pub sweetness_now: f64,
    /// Acidity that it has, g in 100 g.
    pub acidity_now: f64,
    /// Sweetness that it should have.
    pub sweetness_wanted: f64,
    /// Acidity that it should have.
    pub acidity_wanted: f64,
    /// What there is, ml.
    pub volume_ml: f64,
    /// Set if nothing should be done: the difference can't be tasted, or it still changes by itself.
    pub leave_it: Option<String>,
    /// Ways to put it right, the smallest addition first.
    pub ways: Vec<Remedy>,
}

/// One way to put it right.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Remedy {
    /// What is stirred in.
    pub additions: Vec<Addition>,
    /// What has to be poured aside first so that it doesn't run over, ml; 0 if nothing.
    pub pour_aside_ml: f64,
    /// What there is afterwards, ml.
    pub volume_ml: f64,
    /// Sweetness afterwards, g in 100 g.
    pub sweetness: f64,
    /// Acidity afterwards, g in 100 g.
    pub acidity: f64,
    /// Whether that is as near to what is wanted as anyone tastes.
    pub reached: bool,
}

/// Something that is stirred in.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Addition {
    /// The ingredient's id.
    pub ingredient: String,
    /// Its name.
    pub name: String,
    /// How much, in kitchen measures.
    pub amount: Amount,
    /// The same by weight, g.
    pub grams: f64,
}

/// Says what a pitcher needs that tastes wrong.
///
/// # Errors
/// Names the field where a reading can't be.
pub fn correct<'a>(
    worktop: impl Into<Worktop<'a>>,
    asked: &Asked,
) -> Result<Correction, FieldError> {
    let worktop = worktop.into();
    let cupboard = worktop.cupboard();
    for (field, many, most) in
        [("at_hand", asked.at_hand.len(), MOST_AT_HAND), ("words", asked.words.len(), MOST_WORDS)]
    {
        if many > most {
            return Err(fault(field, format!("{most} will do; that is {many}.")));
        }
    }
    let (contents, capacity, kin) = stand(cupboard, &asked.pitcher)?;
    let volume = contents.level_at(MEASURED_AT);
    let (now_s, now_a) = taste_of(&contents);
    for (field, value, most) in
        [("sweetness", asked.sweetness, 70.0), ("acidity", asked.acidity, 10.0)]
    {
        if value.is_some_and(|v| !v.is_finite() || !(0.0..=most).contains(&v)) {
            return Err(fault(field, format!("That won't do; 0 to {most} g in 100 g will.")));
        }
    }
    let (by_words_s, by_words_a) = felt(&asked.words);
    let wanted_s = asked.sweetness.unwrap_or(now_s) * by_words_s;
    let wanted_a = asked.acidity.unwrap_or(now_a) * by_words_a;

    // As ratios, so that a step down is noticed as well as the step up that undoes it.
    let noticed = |now: f64, wanted: f64, floor: f64, part: f64| {
        let (now, wanted) = (now.max(floor), wanted.max(floor));
        (wanted / now).max(now / wanted) >= 1.0 + part * 0.999
    };
    // Who says in words that something is wrong has tasted it.
    let tasted = !asked.words.is_empty()
        || noticed(now_s, wanted_s, 1.0, NOTICED.0)
        || noticed(now_a, wanted_a, 0.08, NOTICED.1);
    let mut leave_it = still_changing(&contents);
    if !tasted {
        leave_it =
            Some("That is less than anyone would taste. Leave it, or serve it colder.".into());
    }
    let mut ways = Vec::new();
    if tasted {
        for set in sets(cupboard, &asked.at_hand, &kin) {
            if let Some(way) = work_out(worktop, &contents, &set, (wanted_s, wanted_a), capacity)?
                && !way.additions.is_empty()
            {
                let same = |other: &Remedy| {
                    other
                        .additions
                        .iter()
                        .map(|a| &a.ingredient)
                        .eq(way.additions.iter().map(|a| &a.ingredient))
                };
                if !ways.iter().any(same) {
                    ways.push(way);
                }
            }
        }
        let added = |w: &Remedy| w.additions.iter().map(|a| a.grams).sum::<f64>();
        ways.sort_by(|a, b| b.reached.cmp(&a.reached).then(added(a).total_cmp(&added(b))));
        ways.truncate(3);
    }
    Ok(Correction {
        sweetness_now: now_s,
        acidity_now: now_a,
        sweetness_wanted: wanted_s,
        acidity_wanted: wanted_a,
        volume_ml: volume.0,
        leave_it,
        ways,
    })
}

fn fault(field: &str, message: String) -> FieldError {
    FieldError { field: field.to_owned(), message }
}

/// Sweetness and acidity of what is in a vessel, g in 100 g.
fn taste_of(contents: &Contents) -> (f64, f64) {
    (contents.liquid.sweetness_percent(), contents.liquid.acidity_percent())
}

/// What words make of sweetness and acidity, as factors.
fn felt(words: &[Doubt]) -> (f64, f64) {
    let (mut sweet, mut sour) = (1.0, 1.0);
    for doubt in words {
        let times = match doubt.how {
            How::Touch => 1.0,
            How::Clearly => 2.0,
            How::Far => 4.0,
        };
        let (more_sweet, more_sour) = (1.0 + times * NOTICED.0, 1.0 + times * NOTICED.1);
        match doubt.too {
            Word::Sweet => sweet /= more_sweet,
            Word::NotSweet => sweet *= more_sweet,
            Word::Sharp => sour /= more_sour,
            Word::Flat => sour *= more_sour,
            Word::Strong => {
                sweet /= more_sour;
                sour /= more_sour;
            }
            Word::Weak => {
                sweet *= more_sour;
                sour *= more_sour;
            }
        }
    }
    (sweet, sour)
}

/// What is in the pitcher, what it holds, and the juice that the drink is made of.
fn stand(
    cupboard: &Cupboard,
    pitcher: &Pitcher,
) -> Result<(Contents, Millilitres, Option<String>), FieldError> {
    match pitcher {
        Pitcher::Traced { drink, vessel, step } => {
            let index = drink.vessel(vessel).ok_or_else(|| {
                fault("pitcher.traced.vessel", format!("There is no vessel “{vessel}”."))
            })?;
            let trace = Trace::run(drink, cupboard);
            let at = match step {
                Some(id) => drink.steps.iter().position(|s| s.id == *id).ok_or_else(|| {
                    fault("pitcher.traced.step", format!("There is no step “{id}”."))
                })?,
                None => drink.steps.len().saturating_sub(1),
            };
            let contents = trace.after(at, index).filter(|c| c.liquid.mass().0 > 1.0);
            let contents = contents.cloned().ok_or_else(|| {
                fault("pitcher.traced.vessel", "There is nothing in that vessel then.".into())
            })?;
            let kin = trace
                .lines
                .iter()
                .map(|l| &cupboard.ingredients()[l.ingredient])
                .find(|it| it.kind == Kind::Juice && it.per_gram.titratable_acid() > 0.02)
                .map(|it| it.id.clone());
            Ok((contents, drink.vessels[index].capacity(), kin))
        }
        Pitcher::Read { volume, capacity, brix, acidity, ph } => {
            let read = |name: &str, amount: &Amount| {
                let field = format!("pitcher.read.{name}");
                let ml = amount.as_millilitres().ok_or_else(|| {
                    fault(&field, format!("“{amount}” is no volume. Say it in ml, l or cups."))
                })?;
                if (10.0..=200_000.0).contains(&ml) {
                    Ok(ml)
                } else {
                    Err(fault(&field, format!("{amount} won't do; 10 ml to 200 l will.")))
                }
            };
            let (volume_ml, capacity_ml) = (read("volume", volume)?, read("capacity", capacity)?);
            for (name, value, least, most) in
                [("brix", *brix, 0.0, 75.0), ("acidity", *acidity, 0.0, 8.0), ("ph", *ph, 1.5, 9.0)]
            {
                if value.is_some_and(|v| !v.is_finite() || v < least || v > most) {
                    return Err(fault(
                        &format!("pitcher.read.{name}"),
                        format!("That won't do; {least} to {most} will."),
                    ));
                }
            }
            if capacity_ml < volume_ml {
                return Err(fault(
                    "pitcher.read.capacity",
                    "It can't hold less than is in it.".into(),
                ));
            }
            let acid = acidity.or_else(|| ph.map(acid_at)).unwrap_or(0.5);
            let liquid = mixed(volume_ml, brix.unwrap_or(10.0).max(acid), acid);
            let contents = Contents { liquid, temperature: Celsius(20.0), ..Contents::default() };
            Ok((contents, Millilitres(capacity_ml), None))
        }
    }
}

/// A mixture of water, sugar and citric acid with those readings; the acid carries as many strong ions
/// as lemon juice does.
fn mixed(volume_ml: f64, brix: f64, acid: f64) -> Mixture {
    let part = Mixture::of(&[
        (Component::Citric, acid * 1.03),
        (Component::StrongIons, acid * 0.6),
        (Component::Sucrose, (brix - acid).max(0.0)),
        (Component::Water, 100.0 - brix.max(acid)),
    ]);
    part.share(volume_ml / part.volume(MEASURED_AT).0)
}

/// The acidity of a citrus drink of that pH, %: its acid buffered as lemon juice is.
fn acid_at(ph: f64) -> f64 {
    let miss = |acid: f64| mixed(1000.0, 10.0, acid).ph().unwrap_or(7.0) - ph;
    if miss(0.01) < 0.0 {
        return 0.0;
    }
    let mut tolerance = roots::SimpleConvergency { eps: 1e-6, max_iter: 60 };
    roots::find_root_brent(0.01, 8.0, miss, &mut tolerance).unwrap_or(0.5)
}

/// Says to wait if what lies in it will change the taste by itself.
fn still_changing(contents: &Contents) -> Option<String> {
    let (s, a) = taste_of(contents);
    let (later_s, later_a) = taste_of(&contents.after_standing(Minutes(60.0)));
    let moves = (later_s - s).abs() / s.max(1.0) > NOTICED.0 / 2.0
        || (later_a - a).abs() / a.max(0.08) > NOTICED.1 / 2.0;
    moves.then(|| {
        format!(
            "Wait: it is still drawing. In an hour it will be at {later_s:.1} g sweetness and \
             {later_a:.2} % acid by itself. Strain it, or taste again then."
        )
    })
}

/// Sets of things to put it right with: something sweet, something sour, water.
fn sets<'a>(
    cupboard: &'a Cupboard,
    at_hand: &[String],
    kin: &Option<String>,
) -> Vec<Vec<&'a Ingredient>> {
    let usual = [
        kin.as_deref().unwrap_or("lemon_juice"),
        "white_sugar",
        "simple_syrup_1_1",
        "citric_acid",
        "water",
        "sodium_bicarbonate",
    ];
    let all: Vec<&Ingredient> = if at_hand.is_empty() {
        usual.iter().filter_map(|id| cupboard.ingredient(id)).collect()
    } else {
        at_hand.iter().filter_map(|id| cupboard.ingredient(id)).collect()
    };
    let sour = |it: &&Ingredient| it.per_gram.titratable_acid() > 0.015;
    let salt = |it: &&Ingredient| it.kind == Kind::Salt && it.per_gram[Component::StrongIons] > 0.0;
    let sweet = |it: &&Ingredient| !sour(it) && it.per_gram.sucrose_equivalent().0 > 0.3;
    let thin = all.iter().copied().filter(|it| it.kind == Kind::Water);
    let thin: Vec<&Ingredient> = thin.collect();
    let mut sets = Vec::new();
    let sours: Vec<&Ingredient> = all.iter().copied().filter(|it| sour(it)).collect();
    let sweets: Vec<&Ingredient> = all.iter().copied().filter(|it| sweet(it)).collect();
    for sour in sours.iter().map(Some).chain(sours.is_empty().then_some(None)) {
        for sweet in sweets.iter().map(Some).chain(sweets.is_empty().then_some(None)) {
            sets.push(sweet.into_iter().chain(sour).chain(thin.iter()).copied().collect());
        }
    }
    for salt in all.iter().copied().filter(|it| salt(it)) {
        sets.push(sweets.first().into_iter().copied().chain([salt]).collect());
    }
    sets
}

/// What of a set brings it right, in kitchen measures, and without running over.
fn work_out(
    worktop: Worktop<'_>,
    contents: &Contents,
    set: &[&Ingredient],
    wanted: (f64, f64),
    capacity: Millilitres,
) -> Result<Option<Remedy>, Stopped> {
    let cupboard = worktop.cupboard();
    let volume = contents.level_at(MEASURED_AT).0;
    // In portions of a tenth of what is there; strong things in portions of a thousandth.
    let portion = |it: &Ingredient| {
        let strong = it.per_gram.titratable_acid() > 0.3 || it.kind == Kind::Salt;
        volume * if strong { 0.001 } else { 0.1 }
    };
    let drink = stirring(set, portion, capacity);
    let prepared = Prepared::new(&drink, cupboard);
    let read = |factors: &[f64]| {
        let start = vec![(0, contents.clone())];
        let nudges = Nudges { amounts: factors, ..Nudges::default() };
        let landing = worktop.land_from(&prepared, nudges, start)?;
        let taste = landing.outcome.as_ref().and_then(Taste::of);
        Ok(taste.map(|t| [t.sweetness_percent, t.acidity_percent]))
    };
    let most = |it: &Ingredient| if it.kind == Kind::Salt { MOST_SALT } else { 60.0 };
    let unknowns: Vec<Unknown> = set
        .iter()
        .map(|it| Unknown { start: 0.0, least: 0.0, most: most(it), weight: 0.01 })
        .collect();
    let wishes = [
        Wish { reading: 0, wanted: wanted.0, scale: wanted.0.max(1.0) },
        Wish { reading: 1, wanted: wanted.1, scale: wanted.1.max(0.08) },
    ];
    let Some((factors, _)) = nearest(&unknowns, &wishes, read)? else { return Ok(None) };
    let grown = |grams: &[f64]| {
        volume
            + grams
                .iter()
                .zip(set)
                .map(|(g, it)| it.per_gram.share(*g).volume(MEASURED_AT).0)
                .sum::<f64>()
    };
    let mut grams: Vec<f64> = factors.iter().zip(set).map(|(f, it)| f * portion(it)).collect();
    let room = VesselKind::Pitcher.working_level(Celsius(5.0)) * capacity.0;
    let full = grown(&grams);
    // The taste is the same whatever there is of it: less pitcher, less to put in.
    let stays = if full > room && full > volume + 1.0 { (room / full).min(1.0) } else { 1.0 };
    grams.iter_mut().for_each(|g| *g *= stays);

    let mut additions = Vec::new();
    for (it, g) in set.iter().zip(&grams) {
        let Some(amount) = measured(cupboard, it, Grams(*g)) else { continue };
        let Ok(weighed) = cupboard.weigh(it, &amount).map(|w| w.grams.0) else { continue };
        additions.push(Addition {
            ingredient: it.id.clone(),
            name: it.name.clone(),
            amount,
            grams: weighed,
        });
    }
    let rounded: Vec<f64> = set
        .iter()
        .map(|it| {
            let put_in = additions.iter().find(|a| a.ingredient == it.id);
            put_in.map_or(0.0, |a| a.grams / portion(it) / stays)
        })
        .collect();
    let Some([sweetness, acidity]) = read(&rounded)? else { return Ok(None) };
    let volume_ml = additions.iter().fold(volume * stays, |sum, a| {
        let it = cupboard.ingredient(&a.ingredient);
        sum + it.map_or(0.0, |it| it.per_gram.share(a.grams).volume(MEASURED_AT).0)
    });
    let near = |now: f64, wanted: f64, part: f64, floor: f64| {
        (now - wanted).abs() <= part * 0.7 * wanted.max(floor)
    };
    Ok(Some(Remedy {
        additions,
        pour_aside_ml: if stays < 1.0 {
            (volume * (1.0 - stays) / 10.0).ceil() * 10.0
        } else {
            0.0
        },
        volume_ml,
        reached: near(sweetness, wanted.0, NOTICED.0, 1.0)
            && near(acidity, wanted.1, NOTICED.1, 0.08),
        sweetness,
        acidity,
    }))
}

/// A vessel into which each of a set is stirred.
fn stirring(
    set: &[&Ingredient],
    portion: impl Fn(&Ingredient) -> f64,
    capacity: Millilitres,
) -> Drink {
    let steps = set
        .iter()
        .enumerate()
        .map(|(i, it)| {
            Step::new(
                format!("s{i}"),
                Action::Add {
                    into: "pitcher".into(),
                    ingredient: it.id.clone(),
                    amount: Amount::grams(portion(it).max(1e-6)),
                    portions: 1,
                },
            )
        })
        .collect();
    Drink {
        name: "Correction".into(),
        family: Family::Lemonade,
        note: String::new(),
        vessels: vec![Vessel {
            id: "pitcher".into(),
            kind: VesselKind::Pitcher,
            name: None,
            capacity: Some(Amount::millilitres(capacity.0.max(10.0))),
            diameter_mm: None,
            material: None,
        }],
        steps,
    }
}

/// So much of something in a measure that a kitchen has; none where it is too little to matter.
fn measured(cupboard: &Cupboard, it: &Ingredient, grams: Grams) -> Option<Amount> {
    let least = match it.kind {
        Kind::Acid | Kind::Salt if it.form == Form::Crystals => 0.15,
        _ => 1.5,
    };
    if grams.0 < least {
        return None;
    }
    let amount = match it.kind {
        Kind::Water => {
            let ml = it.fills(grams)?.0;
            Amount::of((ml / 10.0).round().max(1.0) * 10.0, Measure::Millilitre)
        }
        _ => it.in_spoons(grams).unwrap_or_else(|| Amount::grams(grams.0)).rounded(),
    };
    cupboard.weigh(it, &amount).ok().map(|_| amount)
}
