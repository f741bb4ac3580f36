use serde::{Deserialize, Serialize};

use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::{Action, Drink};
use crate::trace::{Contents, Judged, Trace};

/// How long a drink keeps in the refrigerator at 4 °C, on the careful side.
///
/// The figure follows from the drink's contents and its making, never from its name: the days that the composition
/// allows, less the days used up while it was made. It is for the refrigerator only, never for the shelf. The figures
/// are the careful end of the advice of food-safety authorities, each with its source in `docs/model.md`.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Keeping {
    /// The kind of drink that it is compared with.
    pub class: Class,
    /// Whole days in the refrigerator at 4 °C that are left; 0 is today.
    pub days: u32,
    /// The remaining time to the hour, in days. At 0 or below, discard it.
    pub left: f64,
    /// Days at 4 °C that a day in the cupboard uses up.
    pub warm_day: f64,
    /// Days in the freezer at -18 °C; for the taste, not for safety.
    pub frozen_days: u32,
    /// The same in words: "keeps 3 days cold", "discard it".
    #[serde(default)]
    pub words: String,
    /// Reasons for this limit, the most important first.
    pub reasons: Vec<String>,
}

/// What of a drink is kept: what is in the vessel that it is served from, before ice and soda.
#[must_use]
pub fn kept_of<'t>(drink: &Drink, trace: &'t Trace) -> Option<&'t Contents> {
    let outcome = trace.outcome()?;
    let serving = drink.steps.iter().position(|s| matches!(s.action, Action::Serve { .. }));
    let kept = outcome
        .from
        .zip(serving)
        .and_then(|(from, step)| trace.after(step.checked_sub(1)?, from))
        .unwrap_or(&outcome.contents);
    Some(kept)
}

/// The kind of drink for keeping: a name only, the days don't depend on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Class {
    Dairy,
    PlantMilk,
    BlendedFruit,
    FreshJuice,
    Infusion,
    SweetInfusion,
    ThinSyrup,
    Syrup,
    RichSyrup,
    Spirit,
}

impl Class {
    fn of(it: &Judged) -> Self {
        let past = &it.past;
        // Milk comes first, whatever else is in it.
        if it.lactose > 0.1 {
            Self::Dairy
        } else if past.plant_milk && it.protein > 0.2 {
            Self::PlantMilk
        } else if it.alcohol >= 20.0 {
            Self::Spirit
        } else if it.brix >= 65.0 {
            Self::RichSyrup
        } else if it.brix >= 50.0 {
            Self::Syrup
        } else if it.brix >= 30.0 {
            Self::ThinSyrup
        } else if past.juice.0 > 0.0 && past.is_raw() {
            if it.pulp > 0.4 { Self::BlendedFruit } else { Self::FreshJuice }
        } else if it.brix >= 4.0 {
            Self::SweetInfusion
        } else {
            Self::Infusion
        }
    }
}

/// Days in the freezer, for the taste.
const FROZEN_DAYS: u32 = 90;

impl Keeping {
    /// Reads it off a trace: of what is in the vessel that it is served from, before ice and soda.
    /// `None` while there is nothing to keep.
    #[must_use]
    pub fn of(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Option<Self> {
        let keeping = Self::of_kept(kept_of(drink, trace)?, drink, cupboard)?;
        // Nobody keeps what is mixed in the glass; whether it may be drunk at all is told all the same.
        let outcome = trace.outcome()?;
        let kind = drink.vessels[outcome.vessel].kind;
        let for_now = outcome.from.is_none() && kind == VesselKind::Glass;
        (!for_now || keeping.is_to_be_discarded()).then_some(keeping)
    }

    /// Whether it is past keeping and to be discarded.
    #[must_use]
    pub fn is_to_be_discarded(&self) -> bool {
        self.left <= 0.0
    }

    /// Whether it may stay in the cupboard for a while: what next to nothing grows in.
    pub(super) fn keeps_in_the_cupboard(&self) -> bool {
        self.warm_day < 2.0
    }

    /// The same of what is in any of the drink's vessels.
    #[must_use]
    pub(crate) fn of_kept(kept: &Contents, drink: &Drink, cupboard: &Cupboard) -> Option<Self> {
        if kept.liquid.mass().0 + kept.ice_mass().0 <= 1e-6 || kept.past.dried {
            return None;
        }
        let judged = kept.judged(kept.acid_is_known(drink, cupboard));
        let left = judged.left();
        Some(Self {
            class: Class::of(&judged),
            days: whole_days(left),
            left,
            warm_day: judged.days_in_a_warm_day(),
            frozen_days: if left > 0.0 { FROZEN_DAYS } else { 0 },
            words: in_words(left),
            reasons: reasons(&judged, left),
        })
    }
}

/// How long it keeps, in a few words.
fn in_words(left: f64) -> String {
    match whole_days(left) {
        _ if left <= 0.0 => "discard it".into(),
        0 => "drink it today".into(),
        1 => "keeps 1 day cold".into(),
        days => format!("keeps {days} days cold"),
    }
}

/// When something is due, in words, where its date is so many days of the calendar ahead. `over` says that it is
/// past it.
#[must_use]
pub fn due(days: i64, over: bool) -> String {
    match (over, days) {
        (true, 0..) => "went past its date today".into(),
        (true, -1) => "1 day past its date".into(),
        (true, days) => format!("{} days past its date", -days),
        (false, ..=0) => "use today".into(),
        (false, 1) => "use by tomorrow".into(),
        (false, days @ ..60) => format!("use within {days} days"),
        (false, days) => format!("use within {} months", days / 30),
    }
}

/// Days as they are told: a day that lacks an hour or two is a day.
pub(super) fn whole_days(left: f64) -> u32 {
    (left + 0.1).floor().clamp(0.0, 10_000.0) as u32
}

fn reasons(it: &Judged, left: f64) -> Vec<String> {
    let past = &it.past;
    let mut is_plain = false;
    let mut said: Vec<String> = Vec::new();
    let mut say = |reason: &str| said.push(reason.to_owned());
    if left <= 0.0 {
        say(
            "Discard it: it was warm or kept too long. Bacteria you can't see or smell may have grown.",
        );
    }
    if it.lactose > 0.02 {
        say("Contains milk, which spoils first.");
    } else if past.plant_milk && it.protein > 0.05 {
        say("Contains a grain or nut drink, which spoils almost as fast as milk.");
    }
    if past.is_raw() {
        say(if past.juice.0 > 0.0 {
            "Contains raw juice or fruit (not heated to 70 °C for 2 minutes)."
        } else {
            "Contains raw leaves, roots, seeds or peel (not heated to 70 °C for 2 minutes)."
        });
    } else if past.is_heated() {
        say("Its fruit or leaves were heated enough (70 °C for 2 minutes or equivalent).");
    } else if !past.plant_milk && it.lactose <= 0.02 {
        is_plain = true;
        say("Little in it spoils quickly.");
    }
    if it.ph > 4.2 && !is_plain {
        say("It isn't acidic enough to keep safely (pH above 4.2).");
    } else if it.ph < 3.7 && it.acid_is_known {
        say("Its acidity slows spoilage.");
    }
    if it.brix > 30.0 {
        say("Its sugar slows spoilage.");
    }
    if it.alcohol > 8.0 {
        say("Its alcohol slows spoilage.");
    }
    if it.acetic > 0.5 {
        say("Its vinegar slows spoilage.");
    }
    if it.pulp > 0.25 {
        say("Pulp shortens its life: strain it more finely to keep it longer.");
    }
    let used = past.age;
    if used >= 1.0 && left > 0.0 {
        said.push(format!("It lost about {used:.0} days while you made it, mostly while warm."));
    }
    if past.left.is_finite() && past.left < it.budget() - past.age {
        said.push("It keeps no longer than the oldest ingredient in it.".to_owned());
    }
    said.push("In the refrigerator at 4 °C, in a clean, closed bottle. Follow your local food-safety advice where it is stricter.".into());
    said
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn days_are_told_as_they_are_counted() {
        let told = [-2.0, 0.0, 0.4, 0.95, 1.2, 9.0].map(in_words);
        assert_eq!(
            told,
            [
                "discard it",
                "discard it",
                "drink it today",
                "keeps 1 day cold",
                "keeps 1 day cold",
                "keeps 9 days cold"
            ]
        );
        let dates =
            [(-4, true), (-1, true), (0, true), (0, false), (1, false), (6, false), (92, false)];
        assert_eq!(
            dates.map(|(days, over)| due(days, over)),
            [
                "4 days past its date",
                "1 day past its date",
                "went past its date today",
                "use today",
                "use by tomorrow",
                "use within 6 days",
                "use within 3 months"
            ]
        );
    }
}
