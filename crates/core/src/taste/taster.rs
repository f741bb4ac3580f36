//! Who tastes: what they don't take, and how small a difference they notice.

use serde::{Deserialize, Serialize};

use crate::balance::Palate;
use crate::chemistry::Component;
use crate::cupboard::{Allergen, Care, Ingredient};
use crate::drink::Drink;
use crate::fault::FieldError;
use crate::trace::Trace;
use crate::work::Worktop;

/// A taster.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Taster {
    /// Their name, in any script; up to 60 characters.
    pub name: String,
    /// A mark that tells tasters apart without colour.
    #[serde(default)]
    pub mark: Mark,
    /// The ingredients that they avoid.
    #[serde(default)]
    pub avoids: Vec<Avoid>,
    /// Whether the taster is a child. Children never get alcohol.
    #[serde(default)]
    pub child: bool,
    /// The smallest difference in sweetness they notice, as a share; that of most people if missing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub notices_sweet: Option<Notices>,
    /// The smallest difference in acidity they notice, as a share; that of most people if missing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub notices_sour: Option<Notices>,
}

/// A mark beside a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Mark {
    #[default]
    Drop,
    Leaf,
    Sun,
    Key,
    Bell,
    Star,
    Moon,
    Boat,
}

/// An ingredient that a guest must avoid.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Avoid {
    /// Alcohol.
    Alcohol,
    /// Honey.
    Honey,
    /// Milk.
    Milk,
    /// An ingredient, by its id.
    Ingredient(String),
}

impl Avoid {
    /// Whether it is in an ingredient, or in what the ingredient was made of.
    #[must_use]
    pub fn is_in(&self, it: &Ingredient) -> bool {
        match self {
            Self::Alcohol => it.per_gram[Component::Ethanol] > 0.02,
            Self::Honey => it.care.contains(&Care::Honey),
            Self::Milk => it.allergens.contains(&Allergen::Milk),
            Self::Ingredient(id) => it.id == *id || it.made_of.contains(id),
        }
    }
}

/// The smallest noticeable difference, with its likely range.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Notices {
    /// The difference as a share: 0.08 is 8 %.
    pub part: f64,
    /// The lower end of the likely range, 8 times out of 10.
    pub low: f64,
    /// The upper end, 8 times out of 10.
    pub high: f64,
}

/// More alcohol than that in % vol is alcohol: vanilla extract and ripe fruit stay below.
const ALCOHOL_FROM: f64 = 0.3;
/// Characters in a name.
const NAME: usize = 60;
const MOST_AVOIDED: usize = 20;

/// An ingredient that a taster avoids.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Objection {
    /// The id of the step that adds it.
    pub step: String,
    /// The name of the ingredient.
    pub name: String,
    /// The ingredients that they avoid.
    pub avoids: Avoid,
}

impl Taster {
    /// Whether it can be kept.
    ///
    /// # Errors
    /// Names the field that can't be.
    pub fn check(&self) -> Result<(), FieldError> {
        let fault = |field: &str, message: String| Err(FieldError { field: field.into(), message });
        let name = self.name.trim();
        if name.is_empty() {
            return fault("name", "Enter a name or nickname.".into());
        }
        if name.chars().count() > NAME {
            return fault("name", format!("Enter up to {NAME} characters."));
        }
        if name.chars().any(char::is_control) {
            return fault("name", "Remove control characters from this text.".into());
        }
        if self.avoids.len() > MOST_AVOIDED {
            return fault("avoids", format!("Choose up to {MOST_AVOIDED}."));
        }
        for (field, notices) in
            [("notices_sweet", self.notices_sweet), ("notices_sour", self.notices_sour)]
        {
            let fine = |n: Notices| {
                [n.low, n.part, n.high].iter().all(|p| p.is_finite() && (0.005..=2.0).contains(p))
            };
            if notices.is_some_and(|n| !fine(n)) {
                return fault(field, "Enter 0.005 to 2.".into());
            }
        }
        Ok(())
    }

    /// What they notice; as most people where it isn't known.
    #[must_use]
    pub fn palate(&self) -> Palate {
        let part = |own: Option<Notices>, usual| own.map_or(usual, |n| n.part);
        Palate {
            sweetness: part(self.notices_sweet, Palate::USUAL.sweetness),
            acidity: part(self.notices_sour, Palate::USUAL.acidity),
        }
    }

    /// All that they don't take: a child no alcohol either.
    #[must_use]
    pub fn avoids_all(&self) -> Vec<Avoid> {
        let mut avoids = self.avoids.clone();
        if self.child && !avoids.contains(&Avoid::Alcohol) {
            avoids.push(Avoid::Alcohol);
        }
        avoids
    }

    /// Whether they may be told to add an ingredient.
    #[must_use]
    pub fn takes(&self, it: &Ingredient) -> bool {
        !self.avoids_all().iter().any(|avoid| avoid.is_in(it))
    }

    /// What in a drink they don't take.
    ///
    /// # Errors
    /// If the drink is too large to be run.
    pub fn objects_to<'a>(
        &self,
        drink: &Drink,
        worktop: impl Into<Worktop<'a>>,
    ) -> Result<Vec<Objection>, FieldError> {
        let worktop = worktop.into();
        let trace = worktop.trace(drink)?;
        Ok(self.objections(drink, &trace, worktop))
    }

    pub(super) fn objections(
        &self,
        drink: &Drink,
        trace: &Trace,
        worktop: Worktop<'_>,
    ) -> Vec<Objection> {
        let percent = trace.outcome().map_or(0.0, |o| o.contents.liquid.alcohol_percent());
        let alcohol = percent > ALCOHOL_FROM;
        let avoids = self.avoids_all();
        let objects = |it: &Ingredient, avoids: &Avoid| match avoids {
            Avoid::Alcohol => alcohol && avoids.is_in(it),
            _ => avoids.is_in(it),
        };
        let mut found = Vec::new();
        for line in trace.lines.iter().filter(|line| !line.left_over) {
            let it = &worktop.cupboard().ingredients()[line.ingredient];
            for avoids in avoids.iter().filter(|avoids| objects(it, avoids)) {
                found.push(Objection {
                    step: drink.steps[line.step].id.clone(),
                    name: it.name.clone(),
                    avoids: avoids.clone(),
                });
            }
        }
        found
    }
}
