//! A pitcher that tastes wrong: what it needs, in spoons.

mod advice;
mod pitcher;
mod question;
mod remedy;

pub use advice::Advice;
pub(crate) use advice::advice;
pub use question::{Asked, Doubt, How, NoticedParts, Pitcher, Word};

use serde::Serialize;

use super::{Palate, Spot};
use crate::cupboard::{Ingredient, Staple};
use crate::fault::FieldError;
use crate::quantity::{Amount, Minutes};
use crate::trace::{Contents, MEASURED_AT};
use crate::work::{Stopped, Worktop};

use pitcher::what_is_in;
pub(crate) use pitcher::{Inside, acid_at};
use remedy::work_out;
pub(crate) use remedy::{SODA, Stirring, measured, neutralises, sets};

/// Things at hand that are tried, and words that are listened to.
const MOST_AT_HAND: usize = 12;
const MOST_WORDS: usize = 12;

/// The corrections.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Correction {
    /// Its sweetness, g in 100 g.
    pub sweetness_now: f64,
    /// Its acidity, g in 100 g.
    pub acidity_now: f64,
    /// The target sweetness.
    pub sweetness_wanted: f64,
    /// The target acidity.
    pub acidity_wanted: f64,
    /// The present volume, ml.
    pub volume_ml: f64,
    /// Why nothing should be done: the difference can't be tasted, or the drink is still changing.
    pub leave_it: Option<String>,
    /// Ways to correct it, the smallest addition first.
    pub ways: Vec<Remedy>,
    /// Corrections for other faults: flat, bitter, thin, no bubbles.
    pub advice: Vec<Advice>,
}

/// A possible correction.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Remedy {
    /// The ingredients to stir in.
    pub additions: Vec<Addition>,
    /// How much to pour off first so that it doesn't overflow, ml; 0 if none.
    pub pour_aside_ml: f64,
    /// The volume afterwards, ml.
    pub volume_ml: f64,
    /// Sweetness afterwards, g in 100 g.
    pub sweetness: f64,
    /// Acidity afterwards, g in 100 g.
    pub acidity: f64,
    /// Whether the difference from the target is too small to taste.
    pub reached: bool,
    /// A caution, if any.
    pub caution: Option<String>,
}

/// An ingredient to stir in.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
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
    for (field, many, most) in
        [("at_hand", asked.at_hand.len(), MOST_AT_HAND), ("words", asked.words.len(), MOST_WORDS)]
    {
        if many > most {
            return Err(FieldError::new(field, format!("Enter up to {most}; you entered {many}.")));
        }
    }
    let palate = Palate {
        sweetness: asked.notices.sweetness.unwrap_or(Palate::USUAL.sweetness),
        acidity: asked.notices.acidity.unwrap_or(Palate::USUAL.acidity),
    };
    for (field, part) in [("sweetness", palate.sweetness), ("acidity", palate.acidity)] {
        if !part.is_finite() || !(0.005..=2.0).contains(&part) {
            let message = "Enter 0.005 to 2.";
            return Err(FieldError::new(&format!("notices.{field}"), message));
        }
    }
    for (field, value, most) in
        [("sweetness", asked.sweetness, 70.0), ("acidity", asked.acidity, 10.0)]
    {
        if value.is_some_and(|v| !v.is_finite() || !(0.0..=most).contains(&v)) {
            return Err(FieldError::new(field, format!("Enter 0 to {most} g in 100 g.")));
        }
    }
    let at_hand = &asked.at_hand;
    let inside = what_is_in(worktop, &asked.pitcher)?;
    let now = Spot::of(&inside.contents);
    let times = palate.felt(&asked.words);
    let wanted = Spot {
        sweetness: asked.sweetness.unwrap_or(now.sweetness) * times.sweetness,
        acidity: asked.acidity.unwrap_or(now.acidity) * times.acidity,
    };
    // Who says in words that something is wrong has tasted it.
    let tasted = !asked.words.is_empty() || palate.notices(now, wanted);
    let found = match tasted {
        true => corrected(worktop, &inside, at_hand, wanted, palate)?,
        false => as_it_is(&inside.contents, wanted),
    };
    Ok(Correction { advice: advice(&asked.words, &inside.contents, worktop.cupboard()), ..found })
}

/// What brings that which is in a vessel to a sweetness and an acidity.
fn corrected(
    worktop: Worktop<'_>,
    inside: &Inside,
    at_hand: &[String],
    wanted: Spot,
    palate: Palate,
) -> Result<Correction, Stopped> {
    let Inside { contents, capacity, kin } = inside;
    let mut ways: Vec<Remedy> = Vec::new();
    for set in sets(worktop.cupboard(), at_hand, kin) {
        let way = work_out(worktop, contents, &set, wanted, palate, *capacity)?;
        let Some(way) = way.filter(|way| !way.additions.is_empty()) else { continue };
        let with = |way: &Remedy| -> Vec<String> {
            way.additions.iter().map(|a| a.ingredient.clone()).collect()
        };
        if !ways.iter().any(|other| with(other) == with(&way)) {
            ways.push(way);
        }
    }
    let added = |w: &Remedy| w.additions.iter().map(|a| a.grams).sum::<f64>();
    // What neutralises comes last, however little of it there need be: it spoils more than it mends.
    ways.sort_by(|a, b| {
        (a.caution.is_some().cmp(&b.caution.is_some()))
            .then(b.reached.cmp(&a.reached))
            .then(added(a).total_cmp(&added(b)))
    });
    ways.truncate(3);
    Ok(Correction { leave_it: still_changing(contents), ways, ..as_it_is(contents, wanted) })
}

/// What is left alone, since nobody would taste that it is off.
fn as_it_is(contents: &Contents, wanted: Spot) -> Correction {
    let now = Spot::of(contents);
    Correction {
        sweetness_now: now.sweetness,
        acidity_now: now.acidity,
        sweetness_wanted: wanted.sweetness,
        acidity_wanted: wanted.acidity,
        volume_ml: contents.level_at(MEASURED_AT).0,
        leave_it: Some("Nobody would taste this difference. Leave it, or serve it colder.".into()),
        ways: Vec::new(),
        advice: Vec::new(),
    }
}

/// More than this share of a glass isn't stirred into it: something stronger is.
const MOST_IN_A_GLASS: f64 = 0.15;

/// The one thing that brings a glass to a sugar–acid ratio, in spoons: sharper with lemon, sweeter with
/// syrup, or with the first of what else does it that they take. Nothing where the difference can't be tasted,
/// or where they take none of it.
pub(crate) fn stirred_in(
    worktop: Worktop<'_>,
    glass: &Inside,
    ratio: f64,
    palate: Palate,
    takes: impl Fn(&Ingredient) -> bool,
) -> Result<Option<Addition>, Stopped> {
    let now = Spot::of(&glass.contents);
    let Spot { sweetness, acidity } = now;
    let sharpen = sweetness > ratio * acidity;
    let with = if sharpen { Staple::SharpensAGlass } else { Staple::SweetensAGlass };
    let cupboard = worktop.cupboard();
    let mut found: Option<Addition> = None;
    for it in cupboard.staples(with).filter(|it| takes(it)) {
        // One thing changes both a little: what is sought is the ratio, with the other as it then is.
        let mut beside = if sharpen { sweetness } else { acidity };
        let mut adds: Option<Addition> = None;
        for _ in 0..3 {
            let wanted = match sharpen {
                true => Spot { sweetness: beside, acidity: beside / ratio },
                false => Spot { sweetness: beside * ratio, acidity: beside },
            };
            if !palate.notices(now, wanted) {
                break;
            }
            let way = corrected(worktop, glass, std::slice::from_ref(&it.id), wanted, palate)?;
            let Some(way) = way.ways.into_iter().next() else { break };
            beside = if sharpen { way.sweetness } else { way.acidity };
            let before = adds.take();
            adds = way.additions.into_iter().next();
            // What is measured out is the same: so would be what comes of asking again.
            if adds == before {
                break;
            }
        }
        let Some(adds) = adds else { continue };
        let much = adds.grams > MOST_IN_A_GLASS * glass.contents.level().0;
        if found.as_ref().is_none_or(|found| adds.grams < found.grams) {
            found = Some(adds);
        }
        if !much {
            break;
        }
    }
    Ok(found)
}

impl Palate {
    /// What words ask for, as factors of sweetness and acidity: a touch is as much as is just noticed.
    pub(crate) fn felt(self, words: &[Doubt]) -> Spot {
        let (mut sweetness, mut acidity) = (1.0, 1.0);
        for doubt in words {
            let times = match doubt.how {
                How::Touch => 1.0,
                How::Clearly => 2.0,
                How::Far => 4.0,
            };
            let (more_sweet, more_sour) =
                (1.0 + times * self.sweetness, 1.0 + times * self.acidity);
            match doubt.too {
                Word::Sweet => sweetness /= more_sweet,
                Word::NotSweet => sweetness *= more_sweet,
                Word::Sharp => acidity /= more_sour,
                Word::NotSharp => acidity *= more_sour,
                Word::Strong => {
                    sweetness /= more_sour;
                    acidity /= more_sour;
                }
                Word::Weak | Word::Thin => {
                    sweetness *= more_sour;
                    acidity *= more_sour;
                }
                // Neither sugar nor acid answers these.
                Word::Flat | Word::Bitter | Word::NoBubbles => {}
            }
        }
        Spot { sweetness, acidity }
    }
}

/// What anyone says of something that should taste otherwise: the other way round of what words ask for. Nothing where
/// the difference can't be tasted.
#[must_use]
pub fn tastes_of(now: Spot, wanted: Spot) -> Vec<Doubt> {
    let doubt = |times: f64, [more, less]: [Word; 2]| {
        let how = match times.abs() {
            t if t < 1.0 => return None,
            t if t < 2.0 => How::Touch,
            t if t < 4.0 => How::Clearly,
            _ => How::Far,
        };
        Some(Doubt { too: if times > 0.0 { more } else { less }, how })
    };
    let Spot { sweetness, acidity } = Palate::USUAL.steps(wanted, now);
    [doubt(sweetness, [Word::Sweet, Word::NotSweet]), doubt(acidity, [Word::Sharp, Word::NotSharp])]
        .into_iter()
        .flatten()
        .collect()
}

/// Says to wait if what lies in it will change the taste by itself.
fn still_changing(contents: &Contents) -> Option<String> {
    let now = Spot::of(contents);
    let later = Spot::of(&contents.after_standing(Minutes(60.0)));
    let least = Palate::USUAL.least(now);
    let moves = (later.sweetness - now.sweetness).abs() > least.sweetness / 2.0
        || (later.acidity - now.acidity).abs() > least.acidity / 2.0;
    moves.then(|| {
        format!(
            "Wait: it is still steeping. In an hour it will have {:.1} g sweetness and {:.2} % acid. Strain it now, or taste again then.",
            later.sweetness, later.acidity
        )
    })
}
