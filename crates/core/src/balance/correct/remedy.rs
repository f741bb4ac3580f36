//! What brings a pitcher right, in kitchen measures, and without running over.

use super::{Addition, Remedy};
use crate::balance::least_squares::{Unknown, Wish, nearest};
use crate::balance::{FLOOR, Palate, Spot, Taste};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Form, Ingredient, Kind, Staple, VesselKind};
use crate::drink::{Action, Drink, Family, Step, Vessel};
use crate::quantity::{Amount, Celsius, Grams, Measure, Millilitres};
use crate::trace::{Contents, MEASURED_AT, Nudges, Prepared};
use crate::work::{Stopped, Worktop};

/// Baking soda that a drink bears, g/l: with more it tastes of soap and salt. Estimated, from the
/// half gram of sodium in a litre at which mineral water begins to taste salty.
const MOST_SALT: f64 = 1.0;

/// What is said with anything that neutralises.
pub(crate) const SODA: &str =
    "Baking soda makes a drink taste flat and salty. Use it last, a pinch at a time.";

/// Whether it takes acid away instead of covering it.
pub(crate) fn neutralises(it: &Ingredient) -> bool {
    it.kind == Kind::Salt && it.per_gram[Component::StrongIons] > 0.0
}

/// Sets of things to correct it with: something sweet, something sour, water.
pub(crate) fn sets<'a>(
    cupboard: &'a Cupboard,
    at_hand: &[String],
    kin: &Option<String>,
) -> Vec<Vec<&'a Ingredient>> {
    let all: Vec<&Ingredient> = if at_hand.is_empty() {
        let staples = [Staple::DryAcid, Staple::Water, Staple::BakingSoda];
        let sour = kin.as_deref().and_then(|id| cupboard.ingredient(id));
        std::iter::once(sour.unwrap_or_else(|| cupboard.staple(Staple::SourJuice)))
            .chain([cupboard.staple(Staple::Sugar), cupboard.staple(Staple::SweetensAGlass)])
            .chain(staples.map(|staple| cupboard.staple(staple)))
            .collect()
    } else {
        at_hand.iter().filter_map(|id| cupboard.ingredient(id)).collect()
    };
    let sour = |it: &&Ingredient| it.per_gram.titratable_acid() > 0.015;
    let salt = |it: &&Ingredient| neutralises(it);
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
pub(super) fn work_out(
    worktop: Worktop<'_>,
    contents: &Contents,
    set: &[&Ingredient],
    wanted: Spot,
    palate: Palate,
    capacity: Millilitres,
) -> Result<Option<Remedy>, Stopped> {
    let cupboard = worktop.cupboard();
    let volume = contents.level_at(MEASURED_AT).0;
    let stirring = Stirring::new(worktop, contents, set);
    let wishes = [
        Wish { reading: 0, wanted: wanted.sweetness, scale: wanted.sweetness.max(FLOOR.sweetness) },
        Wish { reading: 1, wanted: wanted.acidity, scale: wanted.acidity.max(FLOOR.acidity) },
    ];
    let Some(mut grams) = stirring.grams_for(&wishes)? else { return Ok(None) };
    let grown = |grams: &[f64]| {
        volume
            + grams
                .iter()
                .zip(set)
                .map(|(g, it)| it.per_gram.share(*g).volume(MEASURED_AT).0)
                .sum::<f64>()
    };
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
            put_in.map_or(0.0, |a| a.grams / stays)
        })
        .collect();
    let Some([sweetness, acidity, _]) = stirring.read(&rounded)? else { return Ok(None) };
    let volume_ml = additions.iter().fold(volume * stays, |sum, a| {
        let it = cupboard.ingredient(&a.ingredient);
        sum + it.map_or(0.0, |it| it.per_gram.share(a.grams).volume(MEASURED_AT).0)
    });
    let takes_acid = |a: &Addition| set.iter().any(|it| it.id == a.ingredient && neutralises(it));
    let caution = additions.iter().any(takes_acid).then(|| SODA.to_owned());
    Ok(Some(Remedy {
        additions,
        caution,
        pour_aside_ml: if stays < 1.0 {
            (volume * (1.0 - stays) / 10.0).ceil() * 10.0
        } else {
            0.0
        },
        volume_ml,
        reached: palate.is_near(Spot { sweetness, acidity }, wanted),
        sweetness,
        acidity,
    }))
}

/// What is in a vessel, and what may be stirred into it: found by running that.
pub(crate) struct Stirring<'a> {
    worktop: Worktop<'a>,
    contents: &'a Contents,
    set: &'a [&'a Ingredient],
    /// A portion of each, g: a tenth of what is there, of strong things a thousandth.
    portions: Vec<f64>,
    drink: Drink,
}

impl<'a> Stirring<'a> {
    pub(crate) fn new(
        worktop: Worktop<'a>,
        contents: &'a Contents,
        set: &'a [&'a Ingredient],
    ) -> Self {
        let volume = contents.level_at(MEASURED_AT).0;
        let portion = |it: &&Ingredient| {
            let strong = it.per_gram.titratable_acid() > 0.3 || it.kind == Kind::Salt;
            (volume * if strong { 0.001 } else { 0.1 }).max(1e-6)
        };
        let portions: Vec<f64> = set.iter().map(portion).collect();
        let steps = set.iter().zip(&portions).enumerate().map(|(i, (it, grams))| {
            let add = Action::add("pitcher", it.id.clone(), Amount::grams(*grams));
            Step::new(format!("s{i}"), add)
        });
        let drink = Drink {
            name: "Stirred".into(),
            family: Family::Lemonade,
            note: String::new(),
            part: None,
            vessels: vec![Vessel {
                capacity: Some(Amount::millilitres(volume.max(10.0) * 10.0)),
                ..Vessel::new("pitcher", VesselKind::Pitcher)
            }],
            steps: steps.collect(),
        };
        Self { worktop, contents, set, portions, drink }
    }

    /// Sweetness and acidity, g in 100 g, and alcohol, % vol, with so many grams of each.
    pub(crate) fn read(&self, grams: &[f64]) -> Result<Option<[f64; 3]>, Stopped> {
        let factors: Vec<f64> = grams.iter().zip(&self.portions).map(|(g, p)| g / p).collect();
        self.with(&Prepared::new(&self.drink, self.worktop.cupboard()), &factors)
    }

    fn with(&self, prepared: &Prepared<'_>, factors: &[f64]) -> Result<Option<[f64; 3]>, Stopped> {
        let start = vec![(0, self.contents.clone())];
        let nudges = Nudges { amounts: factors, ..Nudges::default() };
        let landing = self.worktop.land_from(prepared, nudges, start)?;
        let taste = landing.outcome.as_ref().and_then(Taste::of);
        Ok(taste.map(|t| [t.sweetness_percent, t.acidity_percent, t.alcohol_percent]))
    }

    /// How many grams of each bring what [`Self::read`] reads nearest to the wishes.
    pub(crate) fn grams_for(&self, wishes: &[Wish]) -> Result<Option<Vec<f64>>, Stopped> {
        let prepared = Prepared::new(&self.drink, self.worktop.cupboard());
        let most = |it: &Ingredient| if it.kind == Kind::Salt { MOST_SALT } else { 60.0 };
        let unknown =
            |it: &&Ingredient| Unknown { start: 0.0, least: 0.0, most: most(it), weight: 0.01 };
        let unknowns: Vec<Unknown> = self.set.iter().map(unknown).collect();
        let found = nearest(&unknowns, wishes, |factors| self.with(&prepared, factors))?;
        Ok(found
            .map(|(factors, _)| factors.iter().zip(&self.portions).map(|(f, p)| f * p).collect()))
    }
}

/// So much of something in a measure that a kitchen has; none where it is too little to matter.
pub(crate) fn measured(cupboard: &Cupboard, it: &Ingredient, grams: Grams) -> Option<Amount> {
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
