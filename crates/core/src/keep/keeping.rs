use serde::{Deserialize, Serialize};

use crate::chemistry::Component;
use crate::cupboard::{Allergen, Cupboard, Ingredient, Kind};
use crate::drink::{Action, Drink, Family};
use crate::trace::{Contents, Trace};

/// How long a drink keeps in the refrigerator at 4 °C, on the careful side.
///
/// A class by what it is, shortened by what helps things grow and lengthened only by what counts. The
/// days are estimates after the advice of food-safety authorities on home-made drinks and syrups; they
/// are for refrigerator keeping, never for the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Keeping {
    /// What it is judged as.
    pub class: Class,
    /// Days in the refrigerator at 4 °C.
    pub days: u32,
    /// Days in the freezer at -18 °C; for the taste, not for safety.
    pub frozen_days: u32,
    /// Why so long and no longer, the most important first.
    pub reasons: Vec<String>,
}

/// What of a drink is kept: what stands in the vessel that it is served from, before ice and soda.
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

/// What a drink is to the things that grow in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
    fn days(self) -> (f64, &'static str) {
        match self {
            Self::Dairy => (2.0, "Milk spoils first."),
            Self::PlantMilk => (2.0, "Plant milk spoils almost as fast as milk."),
            Self::BlendedFruit => (2.0, "Blended fruit keeps two days."),
            Self::FreshJuice => (3.0, "Fresh juice keeps three days."),
            Self::Infusion => (3.0, "An infusion without sugar keeps three days."),
            Self::SweetInfusion => (5.0, "A sweetened infusion keeps five days."),
            Self::ThinSyrup => (10.0, "A syrup under 50 °Bx keeps ten days."),
            Self::Syrup => (28.0, "A syrup of 50 to 65 °Bx keeps four weeks."),
            Self::RichSyrup => (60.0, "A syrup over 65 °Bx keeps two months."),
            Self::Spirit => (120.0, "Spirit keeps it."),
        }
    }
}

impl Keeping {
    /// Reads it off a trace: of what stands in the vessel that it is served from, before ice and soda.
    /// `None` while there is nothing to keep.
    #[must_use]
    pub fn of(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Option<Self> {
        Self::of_kept(kept_of(drink, trace)?, drink, cupboard)
    }

    /// As a label puts it, and a bottle keeps it: the class and its days, before what was learned of it.
    pub(super) fn stands_at_room(&self) -> bool {
        matches!(self.class, Class::Spirit | Class::RichSyrup)
    }

    /// The same of what stands in any of the drink's vessels.
    #[must_use]
    pub(crate) fn of_kept(kept: &Contents, drink: &Drink, cupboard: &Cupboard) -> Option<Self> {
        let brought_by = |line: usize| {
            let id = drink.steps.get(line)?.action.brings()?.ingredient;
            cupboard.ingredient(id)
        };
        let acid_is_known =
            kept.acid_is_from(|line| brought_by(line).is_some_and(Ingredient::acid_is_known));
        let plant_milk = kept.origins.iter().filter_map(|o| brought_by(o.line)).any(|it| {
            matches!(it.kind, Kind::Nut | Kind::Grain | Kind::Dairy)
                && !it.allergens.contains(&Allergen::Milk)
        });
        Self::of_contents(kept, drink.family, plant_milk, acid_is_known)
    }

    fn of_contents(
        kept: &Contents,
        family: Family,
        plant_milk: bool,
        acid_is_known: bool,
    ) -> Option<Self> {
        let liquid = &kept.liquid;
        let mass = liquid.mass().0;
        if mass <= 1e-6 || kept.past.dried {
            return None;
        }
        let percent = |c: Component| 100.0 * liquid[c] / mass;
        let brix = liquid.soluble_solids();
        let alcohol = liquid.alcohol_percent();
        let pulp = percent(Component::Insoluble);
        // Milk comes first, whatever else is in it.
        let class = if percent(Component::Lactose) > 0.1 {
            Class::Dairy
        } else if plant_milk && percent(Component::Protein) > 0.2 {
            Class::PlantMilk
        } else if alcohol >= 20.0 {
            Class::Spirit
        } else if brix >= 65.0 {
            Class::RichSyrup
        } else if brix >= 50.0 {
            Class::Syrup
        } else if brix >= 30.0 {
            Class::ThinSyrup
        } else if kept.past.raw && (family == Family::FruitWater || pulp > 0.4) {
            Class::BlendedFruit
        } else if kept.past.raw && family != Family::Infusion {
            Class::FreshJuice
        } else if brix >= 4.0 {
            Class::SweetInfusion
        } else {
            Class::Infusion
        };
        let (mut days, why) = class.days();
        let mut reasons = vec![why.to_owned()];
        let mut times = |factor: f64, reason: &str| {
            days *= factor;
            reasons.push(reason.to_owned());
        };
        // A pH that rests on an estimate may well be half a unit higher.
        let ph = liquid.ph().map(|ph| if acid_is_known { ph } else { ph + 0.5 });
        if ph.is_some_and(|ph| ph > 4.2) && class != Class::Spirit && brix < 65.0 {
            times(0.6, "There is too little acid to count on (pH over 4.2).");
        }
        if pulp > 0.25 && class != Class::BlendedFruit {
            times(0.6, "Pulp shortens it; straining finer would help.");
        }
        if kept.past.raw && matches!(class, Class::ThinSyrup | Class::Syrup | Class::RichSyrup) {
            times(0.6, "Fresh juice or fruit went in and wasn't heated.");
        }
        if kept.stood_too_long() {
            times(0.5, "It stood warm for too long.");
        }
        if !kept.past.raw
            && matches!(class, Class::FreshJuice | Class::Infusion | Class::SweetInfusion)
            && acid_is_known
            && ph.is_some_and(|ph| ph < 4.0)
        {
            times(1.4, "It was heated, and is sour enough.");
        }
        reasons.push("For the refrigerator at 4 °C, in a clean, closed vessel.".into());
        Some(Self { class, days: days.floor().max(1.0) as u32, frozen_days: 90, reasons })
    }
}
