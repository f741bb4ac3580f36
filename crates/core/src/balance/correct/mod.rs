//! A pitcher that tastes wrong: what it needs, in spoons.

mod advice;
mod pitcher;
mod question;
mod remedy;

pub use advice::Advice;
pub(crate) use advice::advice;
pub use question::{Asked, Doubt, How, NoticedParts, Pitcher, Word};

use serde::Serialize;

use super::NOTICED;
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
    let notices =
        (asked.notices.sweetness.unwrap_or(NOTICED.0), asked.notices.acidity.unwrap_or(NOTICED.1));
    for (field, part) in [("sweetness", notices.0), ("acidity", notices.1)] {
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
    let (now_s, now_a) = taste_of(&inside.contents);
    let (by_words_s, by_words_a) = felt_by(&asked.words, notices);
    let wanted_s = asked.sweetness.unwrap_or(now_s) * by_words_s;
    let wanted_a = asked.acidity.unwrap_or(now_a) * by_words_a;
    let tasted = !asked.words.is_empty();
    let found = corrected(worktop, &inside, at_hand, (wanted_s, wanted_a), (tasted, notices))?;
    Ok(Correction { advice: advice(&asked.words, &inside.contents, worktop.cupboard()), ..found })
}

/// What brings that which is in a vessel to a sweetness and an acidity, g in 100 g. Less than anyone
/// tastes is left alone, unless it was `tasted`: who says in words that something is wrong has tasted it.
pub(crate) fn corrected(
    worktop: Worktop<'_>,
    inside: &Inside,
    at_hand: &[String],
    (wanted_s, wanted_a): (f64, f64),
    (tasted, notices): (bool, (f64, f64)),
) -> Result<Correction, Stopped> {
    let Inside { contents, capacity, kin } = inside;
    let cupboard = worktop.cupboard();
    let volume = contents.level_at(MEASURED_AT);
    let (now_s, now_a) = taste_of(contents);

    // As ratios, so that a step down is noticed as well as the step up that undoes it.
    let noticed = |now: f64, wanted: f64, floor: f64, part: f64| {
        let (now, wanted) = (now.max(floor), wanted.max(floor));
        (wanted / now).max(now / wanted) >= 1.0 + part * 0.999
    };
    let tasted = tasted
        || noticed(now_s, wanted_s, 1.0, notices.0)
        || noticed(now_a, wanted_a, 0.08, notices.1);
    let mut leave_it = still_changing(contents);
    if !tasted {
        leave_it = Some("Nobody would taste this difference. Leave it, or serve it colder.".into());
    }
    let mut ways = Vec::new();
    if tasted {
        for set in sets(cupboard, at_hand, kin) {
            if let Some(way) =
                work_out(worktop, contents, &set, ((wanted_s, wanted_a), notices), *capacity)?
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
        // What neutralises comes last, however little of it there need be: it spoils more than it mends.
        ways.sort_by(|a, b| {
            (a.caution.is_some().cmp(&b.caution.is_some()))
                .then(b.reached.cmp(&a.reached))
                .then(added(a).total_cmp(&added(b)))
        });
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
        advice: Vec::new(),
    })
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
    notices: (f64, f64),
    takes: impl Fn(&Ingredient) -> bool,
) -> Result<Option<Addition>, Stopped> {
    let (sweetness, acidity) = taste_of(&glass.contents);
    let sharpen = sweetness > ratio * acidity;
    let with = if sharpen { Staple::SharpensAGlass } else { Staple::SweetensAGlass };
    let cupboard = worktop.cupboard();
    let mut found: Option<Addition> = None;
    for it in cupboard.staples(with).filter(|it| takes(it)) {
        // One thing changes both a little: what is sought is the ratio, with the other as it then is.
        let mut beside = if sharpen { sweetness } else { acidity };
        let mut adds: Option<Addition> = None;
        for _ in 0..3 {
            let wanted = if sharpen { (beside, beside / ratio) } else { (beside * ratio, beside) };
            let way =
                corrected(worktop, glass, std::slice::from_ref(&it.id), wanted, (false, notices))?;
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

/// Sweetness and acidity of what is in a vessel, g in 100 g.
fn taste_of(contents: &Contents) -> (f64, f64) {
    (contents.liquid.sweetness_percent(), contents.liquid.acidity_percent())
}

/// What words make of sweetness and acidity, as factors, for most people.
pub(crate) fn felt(words: &[Doubt]) -> (f64, f64) {
    felt_by(words, NOTICED)
}

/// The same for somebody who notices such parts of sweetness and acidity: a touch is one of these.
fn felt_by(words: &[Doubt], notices: (f64, f64)) -> (f64, f64) {
    let (mut sweet, mut sour) = (1.0, 1.0);
    for doubt in words {
        let times = match doubt.how {
            How::Touch => 1.0,
            How::Clearly => 2.0,
            How::Far => 4.0,
        };
        let (more_sweet, more_sour) = (1.0 + times * notices.0, 1.0 + times * notices.1);
        match doubt.too {
            Word::Sweet => sweet /= more_sweet,
            Word::NotSweet => sweet *= more_sweet,
            Word::Sharp => sour /= more_sour,
            Word::NotSharp => sour *= more_sour,
            Word::Strong => {
                sweet /= more_sour;
                sour /= more_sour;
            }
            Word::Weak | Word::Thin => {
                sweet *= more_sour;
                sour *= more_sour;
            }
            // Neither sugar nor acid answers these.
            Word::Flat | Word::Bitter | Word::NoBubbles => {}
        }
    }
    (sweet, sour)
}

/// What anyone says of something that should taste otherwise, g in 100 g of sweetness and acidity: the other
/// way round of what words ask for. Nothing where the difference can't be tasted.
#[must_use]
pub fn tastes_of((sweet, sour): (f64, f64), (wanted_sweet, wanted_sour): (f64, f64)) -> Vec<Doubt> {
    let doubt = |now: f64, wanted: f64, part: f64, [more, less]: [Word; 2]| {
        let times = (now / wanted).ln() / (1.0 + part).ln();
        let how = match times.abs() {
            t if t < 1.0 => return None,
            t if t < 2.0 => How::Touch,
            t if t < 4.0 => How::Clearly,
            _ => How::Far,
        };
        Some(Doubt { too: if times > 0.0 { more } else { less }, how })
    };
    [
        doubt(sweet.max(1.0), wanted_sweet.max(1.0), NOTICED.0, [Word::Sweet, Word::NotSweet]),
        doubt(sour.max(0.08), wanted_sour.max(0.08), NOTICED.1, [Word::Sharp, Word::NotSharp]),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// Says to wait if what lies in it will change the taste by itself.
fn still_changing(contents: &Contents) -> Option<String> {
    let (s, a) = taste_of(contents);
    let (later_s, later_a) = taste_of(&contents.after_standing(Minutes(60.0)));
    let moves = (later_s - s).abs() / s.max(1.0) > NOTICED.0 / 2.0
        || (later_a - a).abs() / a.max(0.08) > NOTICED.1 / 2.0;
    moves.then(|| {
        format!(
            "Wait: it is still steeping. In an hour it will have {later_s:.1} g sweetness and {later_a:.2} % acid. Strain it now, or taste again then."
        )
    })
}
