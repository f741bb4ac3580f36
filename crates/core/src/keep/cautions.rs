use serde::Serialize;

use crate::chemistry::Component;
use crate::cupboard::{Care, Cupboard, Ingredient, Kind, VesselKind};
use crate::drink::{Action, Dressing, Drink, Preparation};
use crate::trace::{Contents, Frame, Trace};

/// A caution for a step. Not legal or medical advice.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Caution {
    /// The kind.
    pub kind: CautionKind,
    /// A sentence or two, with the reason.
    pub message: String,
    /// Whether a child should leave this step to an adult.
    pub adult: bool,
}

/// The kind of caution.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum CautionKind {
    Burns,
    Steam,
    Blades,
    Washing,
    FoodGrade,
    EssentialOil,
    Unpasteurised,
    Honey,
    Allergens,
    Herbs,
    Alcohol,
    SealedGas,
    SealedFerment,
    Mould,
    ColdKeeping,
    Milk,
    Medicines,
    PoisonousParts,
    Caffeine,
    Soak,
    Sun,
    ColdGlass,
    HotSugar,
    LowAcid,
}

use CautionKind as C;

/// What to be careful about, for each step; each sort of thing once, where it first comes up.
#[must_use]
pub fn cautions(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Vec<Vec<Caution>> {
    let mut seen: Vec<(CautionKind, String)> = Vec::new();
    let percent = trace.outcome().map_or(0.0, |o| o.contents.liquid.alcohol_percent());
    let mut all = Vec::with_capacity(drink.steps.len());
    for (i, step) in drink.steps.iter().enumerate() {
        let mut here = Vec::new();
        if let Some(it) = step.action.ingredient().and_then(|id| cupboard.ingredient(id)) {
            of_ingredient(it, &step.action, percent, &mut here);
        }
        of_handling(drink, trace, i, &mut here);
        here.retain(|caution: &Caution| {
            let key = (caution.kind, caution.message.clone());
            // Washing is said once for all fruit, and allergens for each.
            let known = seen.iter().any(|(kind, message)| {
                *kind == key.0
                    && (!matches!(kind, C::Allergens | C::Herbs | C::PoisonousParts | C::Caffeine)
                        || *message == key.1)
            });
            if !known {
                seen.push(key);
            }
            !known
        });
        all.push(here);
    }
    all
}

fn say(here: &mut Vec<Caution>, kind: CautionKind, adult: bool, message: impl Into<String>) {
    here.push(Caution { kind, message: message.into(), adult });
}

/// What to mind with an ingredient; the drink ends at so many % vol.
fn of_ingredient(it: &Ingredient, action: &Action, percent: f64, here: &mut Vec<Caution>) {
    let name = it.name.to_lowercase();
    let washed = matches!(action, Action::Prepare { how: Preparation::Wash, .. });
    let fresh = matches!(
        it.kind,
        Kind::Fruit
            | Kind::Vegetable
            | Kind::Root
            | Kind::Stem
            | Kind::Herb
            | Kind::Zest
            | Kind::Peel
    ) || matches!(action, Action::Squeeze { .. });
    if fresh && !washed {
        say(
            here,
            C::Washing,
            false,
            "Wash fruit and leaves under running water before cutting: a knife carries dirt from the skin inside.",
        );
    }
    if matches!(it.kind, Kind::Zest)
        || matches!(action, Action::Prepare { how: Preparation::Peel | Preparation::Chop, .. })
    {
        say(
            here,
            C::Blades,
            true,
            "Knives and graters cut: keep your fingers behind the blade, and stop before the last bit.",
        );
    }
    if it.kind == Kind::Flower
        || (it.kind == Kind::Herb && matches!(action, Action::Dress { how: Dressing::Garnish, .. }))
    {
        say(
            here,
            C::FoodGrade,
            false,
            format!(
                "Use {name} only if you know the plant, and it is sold for food or was never sprayed."
            ),
        );
    }
    for care in &it.care {
        of_care(*care, it, &name, action, here);
    }
    for allergen in &it.allergens {
        say(here, C::Allergens, false, format!("Contains {}.", allergen.name()));
    }
    if it.per_gram[Component::Ethanol] > 0.05 {
        let (adult, message) = if percent >= 0.5 {
            (true, "Contains alcohol. Label it and keep it away from children.".to_owned())
        } else {
            (false, format!("Contains a trace of alcohol from {name}: {percent:.1} % vol."))
        };
        say(here, C::Alcohol, adult, message);
    }
}

/// What to mind with an ingredient that is known for something.
fn of_care(care: Care, it: &Ingredient, name: &str, action: &Action, here: &mut Vec<Caution>) {
    let (kind, message) = match care {
        Care::Honey => (
            C::Honey,
            "Don't give honey to children under one year: it can cause infant botulism.".to_owned(),
        ),
        Care::EssentialOil => (
            C::EssentialOil,
            "Use food-grade oil only, by the drop: undiluted essential oil can hurt.".to_owned(),
        ),
        Care::Hibiscus => (
            C::Herbs,
            "Large amounts of hibiscus can lower blood pressure and affect medicines. If you are pregnant or take medicines, ask a doctor or pharmacist.".to_owned(),
        ),
        Care::Medicines => (
            C::Herbs,
            format!("Large amounts of {name} can affect medicines and pregnancy. Ask a doctor or pharmacist."),
        ),
        Care::Grapefruit => (
            C::Medicines,
            "Grapefruit makes many medicines stronger. If you take medicines, ask a doctor or pharmacist first.".to_owned(),
        ),
        Care::Stalks => (
            C::PoisonousParts,
            "Use the stalks only: rhubarb leaves are poisonous. Cut them off and discard them.".to_owned(),
        ),
        Care::Elder if it.kind == Kind::Flower => (
            C::PoisonousParts,
            "Use open flowers without stems, and only if you know the plant: leaves, stems and raw berries of elder make you ill.".to_owned(),
        ),
        Care::Elder => (
            C::PoisonousParts,
            "Use ripe berries only, without stems, and cook them: raw or unripe elderberries make you ill.".to_owned(),
        ),
        Care::Kernels if it.kind == Kind::Fruit => (
            C::PoisonousParts,
            "Discard the stones whole: their kernels release cyanide when they are crushed.".to_owned(),
        ),
        Care::Kernels => (
            C::PoisonousParts,
            "Use almond essence that is sold for food, by the drop, and never bitter kernels themselves.".to_owned(),
        ),
        Care::Caffeine => (
            C::Caffeine,
            "Contains caffeine: not for small children; limit it in pregnancy.".to_owned(),
        ),
        Care::Quinine => (
            C::Caffeine,
            "Contains quinine: not for small children or in pregnancy.".to_owned(),
        ),
        Care::Soak => (
            C::Soak,
            "Soak the seeds for at least 15 minutes before anyone drinks them: dry ones swell in the throat.".to_owned(),
        ),
        Care::Sun if matches!(action, Action::Squeeze { .. }) => (
            C::Sun,
            "Squeeze indoors and wash your hands: citrus juice on skin burns in the sun.".to_owned(),
        ),
        Care::Sun => return,
        Care::Cassia => (
            C::Herbs,
            "Use cassia cinnamon now and then, not every day: it contains coumarin. Ceylon cinnamon hardly does.".to_owned(),
        ),
        Care::Saffron => (
            C::Herbs,
            "In pregnancy, use no more than a pinch of saffron per recipe, and ask a doctor.".to_owned(),
        ),
    };
    // What is done with a bare oil, a child leaves to others.
    say(here, kind, care == Care::EssentialOil, message);
}

fn of_handling(drink: &Drink, trace: &Trace, step: usize, here: &mut Vec<Caution>) {
    let frame = &trace.frames[step];
    let hottest = frame.touched.iter().map(|t| t.contents.temperature.0).fold(0.0, f64::max);
    match &drink.steps[step].action {
        Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. } if hottest > 55.0 => {
            let syrupy = frame.touched.iter().any(|t| t.contents.liquid.soluble_solids() > 30.0);
            let worse = if syrupy { "Hot syrup sticks and burns worse than water. " } else { "" };
            let message =
                format!("{worse}Turn the handle inwards, and keep children away from the stove.");
            say(here, C::Burns, true, message);
        }
        Action::Strain { .. } | Action::Pour { .. } | Action::Bottle { .. } if hottest > 60.0 => {
            say(
                here,
                C::Steam,
                true,
                "Pour hot liquid away from you, over the sink, and mind the steam.",
            );
        }
        Action::Dissolve { how: crate::drink::Dissolving::Microwave, .. } => {
            say(
                here,
                C::Steam,
                true,
                "Liquid from a microwave can boil up all at once: stir before you move it.",
            );
        }
        Action::Bottle { .. } => of_sealing(frame, here),
        Action::Serve { from, .. } => {
            let is_raw = |c: &Contents| c.past.juice.0 > RAW_JUICE * c.mass().0;
            let raw = drink.vessel(from).and_then(|v| trace.after(step, v)).is_some_and(is_raw);
            let glass = frame.touched.last().is_some_and(|t| is_raw(&t.contents));
            if raw || glass {
                say(
                    here,
                    C::Unpasteurised,
                    false,
                    "Contains raw juice or fruit. For small children, older or ill people and in pregnancy, heat it to 70 °C for 2 minutes first.",
                );
            }
        }
        _ => {}
    }
    of_what_is_there(drink, trace, step, here);
    let keeps = matches!(&drink.steps[step].action, Action::Bottle { .. })
        || matches!(&drink.steps[step].action, Action::Pour { into, .. }
            if drink.vessel(into).is_some_and(|v| drink.vessels[v].kind == VesselKind::Bottle));
    if keeps {
        say(
            here,
            C::ColdKeeping,
            false,
            "Keep it in the refrigerator. On a shelf it needs a tested procedure from your food-safety authority.",
        );
        say(here, C::Mould, false, "At the first sign of mould, gas or a film, discard it all.");
    }
}

/// What a sealed bottle can do.
fn of_sealing(frame: &Frame, here: &mut Vec<Caution>) {
    let any = |is: fn(&Contents) -> bool| frame.touched.iter().any(|t| is(&t.contents));
    if any(|c| c.liquid.free_carbon_dioxide() > 0.5) {
        let message = "Never seal fizz, or anything that might ferment, in glass that isn't made for pressure.";
        say(here, C::SealedGas, true, message);
    }
    let ferments = any(|c| {
        c.past.is_raw()
            && (8.0..45.0).contains(&c.liquid.soluble_solids())
            && c.liquid.alcohol_percent() < 10.0
    });
    if ferments {
        let message = "Raw juice or root with sugar can ferment and burst a bottle: keep it cold, leave headspace and open it once a day.";
        say(here, C::SealedFerment, false, message);
    }
}

/// A share of raw juice that is worth a word: a slice on the rim isn't.
const RAW_JUICE: f64 = 0.02;
/// From there on sugar is hotter than any water, °C.
const HOT_SUGAR: f64 = 110.0;
/// Hot enough to crack cold glass, °C.
const CRACKS_GLASS: f64 = 75.0;
/// Days at 4 °C that something has used up by standing warm.
const STOOD_WARM: f64 = 1.0;

/// What to mind with what is in the vessels after a step: hot sugar, hot liquid in cold glass, milk, and what
/// has too little acid to be left warm.
fn of_what_is_there(drink: &Drink, trace: &Trace, step: usize, here: &mut Vec<Caution>) {
    let frame = &trace.frames[step];
    let action = &drink.steps[step].action;
    if frame.touched.iter().any(|t| t.contents.temperature.0 > HOT_SUGAR) {
        say(
            here,
            C::HotSugar,
            true,
            "Sugar above 110 °C causes deep burns: keep children away and cold water within reach.",
        );
    }
    let arrives = match action {
        Action::Pour { into, .. } | Action::Strain { into, .. } | Action::Add { into, .. } => {
            drink.vessel(into)
        }
        Action::Bottle { .. } | Action::Serve { .. } => frame.touched.last().map(|t| t.vessel),
        _ => None,
    };
    let glass = |kind: VesselKind| {
        matches!(
            kind,
            VesselKind::Jug | VesselKind::Pitcher | VesselKind::Glass | VesselKind::Bottle
        )
    };
    let into_glass = arrives.filter(|v| drink.vessels.get(*v).is_some_and(|v| glass(v.kind)));
    let hot = into_glass
        .and_then(|v| trace.after(step, v))
        .is_some_and(|c| c.temperature.0 > CRACKS_GLASS);
    if hot {
        say(
            here,
            C::ColdGlass,
            true,
            "Boiling liquid can crack cold glass: warm the glass first, or let the liquid cool slightly.",
        );
    }
    for touched in &frame.touched {
        let c = &touched.contents;
        if c.liquid[Component::Lactose] > 0.002 * c.liquid.mass().0 {
            say(
                here,
                C::Milk,
                false,
                "Contains milk: keep it cold, and discard it after 2 hours in the warm.",
            );
        }
        // Peppers, garlic, herbs in oil, and leaves or roots left warm in water: what grows there isn't seen.
        let raw_without_acid = c.past.is_raw() && c.liquid.ph().is_none_or(|ph| ph > 4.6);
        if raw_without_acid && c.past.age > STOOD_WARM && c.liquid.soluble_solids() < 55.0 {
            say(
                here,
                C::LowAcid,
                false,
                "Steep leaves, roots or peel without acid in the refrigerator: left warm, they can grow bacteria.",
            );
        }
    }
}
