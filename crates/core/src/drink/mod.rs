//! The recipe: vessels, steps, amounts and how it is served.
//!
//! A [`Drink`] says what is done and in which order; it holds no result. Running it is the business
//! of the [trace](crate::trace). [`Drink::check`] finds what no kitchen could carry out (a vessel
//! that isn't there, a pot poured into itself); what is merely unwise is left to the trace, which
//! says so on the frame where it happens.

mod check;
mod form;
mod manner;
mod precedence;
mod step;

pub use crate::cupboard::Press;
pub use crate::fault::FieldError;
pub use check::limits;
pub use form::{StepForm, step_forms};
pub use manner::{
    CoolingPlace, Cut, Dissolving, Dressing, Maceration, Preparation, RestingPlace, Stirring,
    Vigour, Warmth,
};
pub(crate) use precedence::{Need, Precedence, Through};
pub use step::{Action, Brought, Law, Portion, Reduction, Step};

use std::borrow::Cow;

use serde::{Deserialize, Serialize};

use crate::cupboard::{Material, VesselKind};
use crate::quantity::{Amount, Millilitres, Millimetres};

/// A drink as its maker wrote it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Drink {
    /// Its name.
    pub name: String,
    /// The family whose map it is shown on.
    pub family: Family,
    /// The maker's note.
    #[serde(default)]
    pub note: String,
    /// The size of one part, for a drink written in parts.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<Amount>,
    /// The vessels.
    pub vessels: Vec<Vessel>,
    /// The steps, in order.
    pub steps: Vec<Step>,
}

/// The kind of drink, which decides what counts as tart or sweet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Family {
    /// Citrus, sugar and water.
    Lemonade,
    /// Fruit blended or pressed with water.
    FruitWater,
    /// Flowers, leaves and roots drawn in water.
    Infusion,
    /// With fizz.
    Soda,
    /// Sugar syrups and cordials, to be diluted.
    Syrup,
}

/// A vessel of the drink.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Vessel {
    /// The id that steps refer to: `jug`, `pot_2`.
    pub id: String,
    /// The kind of vessel.
    pub kind: VesselKind,
    /// The maker's name for it; its kind if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// How much it holds to the brim; a usual one if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub capacity: Option<Amount>,
    /// Inside diameter; that of a usual vessel of its capacity if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub diameter_mm: Option<f64>,
    /// The number of glasses, if the drink is made in the glass. 1 if missing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub count: Option<u32>,
    /// The material; one that acid doesn't attack if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub material: Option<Material>,
}

impl Vessel {
    /// A usual one of its kind.
    #[must_use]
    pub fn new(id: impl Into<String>, kind: VesselKind) -> Self {
        Self {
            id: id.into(),
            kind,
            name: None,
            capacity: None,
            diameter_mm: None,
            count: None,
            material: None,
        }
    }

    /// The capacity to the brim.
    #[must_use]
    pub fn capacity(&self) -> Millilitres {
        self.capacity
            .as_ref()
            .and_then(Amount::as_millilitres)
            .map_or(self.kind.usual_capacity(), Millilitres)
    }

    /// Inside diameter, as of an upright cylinder.
    #[must_use]
    pub fn diameter(&self) -> Millimetres {
        self.diameter_mm.map_or_else(|| self.kind.usual_diameter(self.capacity()), Millimetres)
    }

    /// Inside height of that cylinder.
    #[must_use]
    pub fn height(&self) -> Millimetres {
        Millimetres(self.capacity().0 * 1000.0 / self.opening_mm2())
    }

    /// Area of the liquid's surface in square millimetres.
    #[must_use]
    pub fn opening_mm2(&self) -> f64 {
        std::f64::consts::FRAC_PI_4 * self.diameter().0 * self.diameter().0
    }
}

/// A text with its first letter large.
fn in_capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect())
}

impl Drink {
    /// The position of a vessel by its id.
    #[must_use]
    pub fn vessel(&self, id: &str) -> Option<usize> {
        self.vessels.iter().position(|v| v.id == id)
    }

    /// What a vessel is called: "Jug", "Second bowl" where there are several.
    #[must_use]
    pub fn label(&self, vessel: usize) -> String {
        match &self.vessels[vessel].name {
            Some(name) => name.clone(),
            None => {
                let text = self.in_sentence(vessel);
                let bare = text.strip_prefix("the ").unwrap_or(&text);
                in_capital(bare)
            }
        }
    }

    /// A vessel at the start of a sentence: "The jug".
    #[must_use]
    pub fn at_start(&self, vessel: usize) -> String {
        in_capital(&self.in_sentence(vessel))
    }

    /// A vessel as it stands inside a sentence: "the jug", "the second bowl" where there are several.
    #[must_use]
    pub fn in_sentence(&self, vessel: usize) -> String {
        const NTH: [&str; 6] = ["first ", "second ", "third ", "fourth ", "fifth ", "sixth "];
        let it = &self.vessels[vessel];
        if let Some(name) = &it.name {
            return format!("“{name}”");
        }
        let alike = |v: &Vessel| v.kind == it.kind && v.name.is_none();
        let many = self.vessels.iter().filter(|v| alike(v)).count();
        let before = self.vessels[..vessel].iter().filter(|v| alike(v)).count();
        let nth = if many > 1 { NTH.get(before).copied().unwrap_or("last ") } else { "" };
        format!("the {nth}{}", it.kind.name().to_lowercase())
    }

    /// The glasses that a vessel stands for; 1 for any other vessel.
    #[must_use]
    pub fn glasses_in(&self, vessel: &str) -> u32 {
        self.steps
            .iter()
            .find_map(|step| match &step.action {
                Action::Serve { glass, glasses, .. } if glass == vessel => Some(*glasses),
                _ => None,
            })
            .or_else(|| self.vessels[self.vessel(vessel)?].count)
            .unwrap_or(1)
    }

    /// An amount with its parts said in millilitres.
    #[must_use]
    pub(crate) fn without_parts<'a>(&self, amount: &'a Amount) -> Cow<'a, Amount> {
        match self.part.as_ref().and_then(Amount::as_millilitres) {
            Some(ml) if amount.has_parts() => Cow::Owned(amount.in_parts_of(Millilitres(ml))),
            _ => Cow::Borrowed(amount),
        }
    }

    /// Gives every step without an id one that no other step has.
    pub fn name_steps(&mut self) {
        for index in 0..self.steps.len() {
            if self.steps[index].id.is_empty() {
                let taken = |id: &str| self.steps.iter().any(|s| s.id == id);
                let mut number = index + 1;
                while taken(&format!("s{number}")) {
                    number += 1;
                }
                self.steps[index].id = format!("s{number}");
            }
        }
    }
}
