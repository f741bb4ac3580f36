//! What a row takes, by what moves in it.
//!
//! Two jugs of the same base stand at its ends: one has most of what moves, the other least, and each glass is poured
//! from both. What moves is left out of the base as far as the jug with least of it needs, so that either jug is
//! filled from the base and little else; all that doesn't move is made a little denser, so that it is right again when
//! that is in. Where glasses differ in kind (which sugar, which acid) there is a jug for each.

use super::{Moves, Origin, Row, TASTED};
use crate::balance::{Profile, Spot};
use crate::chemistry::Component;
use crate::cupboard::{Ingredient, Kind, Staple};
use crate::drink::{Action, Drink};
use crate::fault::FieldError;
use crate::work::Worktop;

/// What goes from the base into a jug, and what is stirred in.
pub(super) struct JugWanted<'a> {
    pub(super) name: String,
    /// How much of it all glasses take together, ml.
    pub(super) volume_ml: f64,
    /// From the base, or from water.
    pub(super) from_base: bool,
    /// What may be stirred in, in the order in which it is measured; water last.
    pub(super) with: Vec<&'a Ingredient>,
    /// What it should come to: sweetness, acidity, alcohol.
    pub(super) wanted: [Option<f64>; 3],
    /// Which of these come from the base alone, so that it sets how much of it there may be.
    pub(super) held: [bool; 3],
    /// Which have to be the same in every jug.
    pub(super) same: [bool; 3],
}

/// Where a base lies.
fn base(sweetness: f64, acidity: f64) -> Spot {
    Spot { sweetness, acidity }
}

/// What was laid out for a row.
pub(super) struct Laid<'a> {
    /// The drink that the base is made of.
    pub(super) drink: Drink,
    /// The sweetness and acidity of the base.
    pub(super) target: Spot,
    pub(super) jugs: Vec<JugWanted<'a>>,
    /// What moves, from glass to glass; nothing where glasses differ in kind.
    pub(super) places: Vec<f64>,
    /// How many times as much of what is steeped is in the base.
    pub(super) top: f64,
    pub(super) notes: Vec<String>,
}

/// A little denser than it has to be, so that the last water can be measured.
const SPARE: f64 = 1.004;
/// What is made beyond what is poured: what clings to jugs and spoons.
const MORE: f64 = 1.1;
/// Of what is swapped so much stays in the base: rubbing zest and covering fruit take some of it.
const LEFT: f64 = 0.2;

/// Lays a row out: what the base should come to, and what goes into each jug.
pub(super) fn laid<'a>(
    row: &Row,
    origin: &Origin<'a>,
    worktop: Worktop<'a>,
) -> Result<Laid<'a>, FieldError> {
    let Profile { sweetness_percent, acidity_percent, alcohol_percent, .. } = origin.profile;
    let moving = Moving {
        row,
        origin,
        worktop,
        water: worktop.cupboard().staple(Staple::Water),
        all: row.sample_ml * f64::from(row.tasters) * MORE,
        s: sweetness_percent,
        a: acidity_percent,
        alcohol: alcohol_percent,
    };
    match &row.moves {
        Moves::Sugar => moving.sugar(),
        Moves::Acid => moving.acid(),
        Moves::Strength => moving.strength(),
        Moves::Steep => moving.steep(),
        Moves::Spirit => moving.spirit(),
        Moves::Sweetener(ids) => moving.sweetener(ids),
        Moves::Souring(ids) => moving.souring(ids),
    }
}

fn known<'a>(id: &str, worktop: Worktop<'a>) -> Result<&'a Ingredient, FieldError> {
    worktop
        .cupboard()
        .ingredient(id)
        .ok_or_else(|| wrong(format!("There is no ingredient “{id}” in the cupboard.")))
}

fn wrong(message: impl Into<String>) -> FieldError {
    FieldError::new("moves", message)
}

fn sweet(it: &Ingredient) -> f64 {
    it.per_gram.sucrose_equivalent().0
}

fn sour(it: &Ingredient) -> f64 {
    it.per_gram.titratable_acid()
}

/// So much of something that `wanted` g in 100 g come of it leaves so little room for the base.
fn room(wanted: f64, per_gram: f64) -> f64 {
    (1.0 - wanted / 100.0 / per_gram).max(0.2)
}

/// How much of all is poured from the jug that has more of what moves, in glasses.
fn shares(places: &[f64]) -> f64 {
    let (low, high) = (places[0], places[places.len() - 1]);
    places.iter().map(|f| (f - low) / (high - low)).sum()
}

/// A row that is laid out.
struct Moving<'r, 'a> {
    row: &'r Row,
    origin: &'r Origin<'a>,
    worktop: Worktop<'a>,
    water: &'a Ingredient,
    /// What all glasses of one kind take together, ml.
    all: f64,
    /// The drink's sweetness, acidity and alcohol.
    s: f64,
    a: f64,
    alcohol: f64,
}

impl<'a> Moving<'_, 'a> {
    fn jug(
        &self,
        name: &str,
        volume_ml: f64,
        with: Vec<&'a Ingredient>,
        wanted: [Option<f64>; 3],
        held: [bool; 3],
    ) -> JugWanted<'a> {
        JugWanted {
            name: name.to_owned(),
            // Rounding to whole spoons may take a little more of one jug for everybody.
            volume_ml: volume_ml + 3.0 * f64::from(self.row.tasters),
            from_base: true,
            with,
            wanted,
            held,
            same: held,
        }
    }

    fn laid(&self, target: Spot, jugs: Vec<JugWanted<'a>>, places: Vec<f64>) -> Laid<'a> {
        let drink = self.origin.drink.clone();
        Laid { drink, target, jugs, places, top: 1.0, notes: Vec::new() }
    }

    fn sugar(&self) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        // Without acid there is no ratio: sweetness itself moves.
        let by_ratio = a > TASTED.1;
        let usual = if by_ratio { (s / a).max(1.0) } else { s };
        if usual < TASTED.0 && self.row.middle.is_none() {
            return Err(wrong("Add something sweet first."));
        }
        let places = self.row.places(usual);
        let sweetness = |f: f64| if by_ratio { f * a } else { f };
        let (low, high) = (sweetness(places[0]), sweetness(places[places.len() - 1]));
        if high > 60.0 {
            return Err(FieldError::new(
                "step",
                "The sweetest glass would be a syrup. Use fewer or smaller steps.",
            ));
        }
        let dense = SPARE / room(high - low, sweet(self.origin.sweetener));
        let (more, many) = (shares(&places), places.len() as f64);
        let held = [false, true, false];
        let wanted = |sweetness: f64| [Some(sweetness), Some(a), None];
        let add = vec![self.origin.sweetener, self.water];
        let jugs = vec![
            self.jug("sweet jug", self.all * more, add, wanted(high), held),
            self.jug("sour jug", self.all * (many - more), vec![self.water], wanted(low), held),
        ];
        Ok(self.laid(base(low * dense, a * dense), jugs, places))
    }

    fn acid(&self) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        if s < TASTED.0 {
            return Err(wrong("This drink has no sweet ingredient to keep fixed."));
        }
        if a < TASTED.1 {
            return Err(wrong("Add something sour first."));
        }
        let places = self.row.places(s / a);
        let (low, high) = (s / places[places.len() - 1], s / places[0]);
        if high > 8.0 {
            return Err(FieldError::new(
                "step",
                "The sourest glass would be undrinkable. Use fewer or smaller steps.",
            ));
        }
        let dense = SPARE / room(high - low, sour(self.origin.souring));
        let acids: Vec<f64> = places.iter().rev().map(|f| s / f).collect();
        let (more, many) = (shares(&acids), places.len() as f64);
        let held = [true, false, false];
        let wanted = |acidity: f64| [Some(s), Some(acidity), None];
        let add = vec![self.origin.souring, self.water];
        let jugs = vec![
            self.jug("sour jug", self.all * more, add, wanted(high), held),
            self.jug("soft jug", self.all * (many - more), vec![self.water], wanted(low), held),
        ];
        Ok(self.laid(base(s * dense, low * dense), jugs, places))
    }

    fn strength(&self) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        let usual = if s < TASTED.0 { a } else { s };
        if usual < TASTED.1 {
            return Err(wrong("This drink has nothing to dilute."));
        }
        let places = self.row.places(usual);
        let most = places[places.len() - 1];
        let by = most / usual;
        let strong: f64 = places.iter().map(|f| f / most).sum();
        let many = places.len() as f64;
        let wanted = [Some(s * by), Some(a * by), None];
        let full =
            self.jug("strong jug", self.all * strong, Vec::new(), wanted, [true, true, false]);
        let plain = JugWanted {
            from_base: false,
            ..self.jug("water", self.all * (many - strong), Vec::new(), [None; 3], [false; 3])
        };
        Ok(self.laid(base(s * by, a * by), vec![full, plain], places))
    }

    fn steep(&self) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        let mut drink = self.origin.drink.clone();
        let steeped: Vec<usize> = (0..drink.steps.len())
            .filter(|i| is_steeped(&drink.steps[*i].action, self.worktop))
            .collect();
        if steeped.is_empty() {
            return Err(wrong("This drink steeps nothing. Add leaves, flowers, spices or peel."));
        }
        let places = self.row.places(1.0);
        let top = places[places.len() - 1];
        for step in steeped {
            if let Some(amount) = drink.steps[step].action.amount_mut() {
                *amount = amount.scaled(top);
            }
        }
        let strong: f64 = places.iter().map(|f| f / top).sum();
        let many = places.len() as f64;
        let (wanted, held) = ([Some(s), Some(a), None], [true, true, false]);
        let mut with = vec![self.origin.sweetener, self.water];
        if a > TASTED.1 {
            with.insert(0, self.origin.souring);
        }
        if s < TASTED.0 {
            with.retain(|it| it.id != self.origin.sweetener.id);
        }
        let full = self.jug("strong jug", self.all * strong, Vec::new(), wanted, held);
        let plain = JugWanted {
            from_base: false,
            ..self.jug("plain jug", self.all * (many - strong), with, wanted, held)
        };
        let note = "A shorter steep can't be poured from a jug, so weaker glasses are diluted with equally sweet and sour water.";
        let laid = self.laid(base(s, a), vec![full, plain], places);
        Ok(Laid { drink, top, notes: vec![note.into()], ..laid })
    }

    fn spirit(&self) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        let Some(spirit) = self.origin.spirit.filter(|_| self.alcohol > 0.5) else {
            return Err(wrong("Add alcohol to the drink first."));
        };
        let places = self.row.places(self.alcohol);
        let (low, high) = (places[0], places[places.len() - 1]);
        if high > 35.0 {
            return Err(FieldError::new(
                "step",
                "The strongest glass would be a spirit. Use fewer or smaller steps.",
            ));
        }
        let mut drink = self.origin.drink.clone();
        drink.steps.retain(|step| {
            let it = step.action.ingredient().and_then(|id| self.worktop.ingredient(id));
            !(matches!(step.action, Action::Add { .. })
                && it.is_some_and(|it| it.kind == Kind::Spirit))
        });
        // From % vol to g in 100 g: ethanol has 0.79 g/ml.
        let weight = |percent: f64| percent * 0.79;
        let dense = SPARE / room(weight(high), spirit.per_gram[Component::Ethanol]);
        let (more, many) = (shares(&places), places.len() as f64);
        let held = [s > TASTED.0, a > TASTED.1, false];
        let wanted = |alcohol: f64| [Some(s), Some(a), Some(alcohol)];
        let add = || vec![spirit, self.water];
        let jugs = vec![
            self.jug("strong jug", self.all * more, add(), wanted(high), held),
            self.jug("weak jug", self.all * (many - more), add(), wanted(low), held),
        ];
        let note = "Contains alcohol: adults only. Keep it away from children.";
        let laid = self.laid(base(s * dense, a * dense), jugs, places);
        Ok(Laid { drink, notes: vec![note.into()], ..laid })
    }

    fn sweetener(&self, ids: &[String]) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        if s < TASTED.0 {
            return Err(wrong("Add something sweet first."));
        }
        let kinds = self.kinds(ids)?;
        if let Some(it) = kinds.iter().find(|it| sweet(it) < 0.2) {
            return Err(wrong(format!("{} doesn't sweeten.", it.name)));
        }
        let weakest = kinds.iter().map(|it| sweet(it)).fold(f64::MAX, f64::min);
        let low = s * LEFT;
        let dense = SPARE / room(s - low, weakest);
        let jugs = self.of_kinds(&kinds, [false, true, false]);
        Ok(self.laid(base(low * dense, a * dense), jugs, Vec::new()))
    }

    fn souring(&self, ids: &[String]) -> Result<Laid<'a>, FieldError> {
        let (s, a) = (self.s, self.a);
        if a < TASTED.1 {
            return Err(wrong("Add something sour first."));
        }
        let kinds = self.kinds(ids)?;
        if let Some(it) = kinds.iter().find(|it| sour(it) < 0.01) {
            return Err(wrong(format!("{} isn't sour.", it.name)));
        }
        let weakest = kinds.iter().map(|it| sour(it)).fold(f64::MAX, f64::min);
        let low = a * LEFT;
        let dense = SPARE / room(a - low, weakest);
        let jugs = self.of_kinds(&kinds, [true, false, false]);
        Ok(self.laid(base(s * dense, low * dense), jugs, Vec::new()))
    }

    fn kinds(&self, ids: &[String]) -> Result<Vec<&'a Ingredient>, FieldError> {
        ids.iter().map(|id| known(id, self.worktop)).collect()
    }

    fn of_kinds(&self, kinds: &[&'a Ingredient], held: [bool; 3]) -> Vec<JugWanted<'a>> {
        let jug = |it: &&'a Ingredient| JugWanted {
            name: it.name.clone(),
            volume_ml: self.all,
            from_base: true,
            with: vec![it, self.water],
            wanted: [Some(self.s), Some(self.a), None],
            held,
            same: [true, true, false],
        };
        kinds.iter().map(jug).collect()
    }
}

/// Whether a step puts in what is there to be drawn from: leaves, flowers, spices, peel, roots.
pub(super) fn is_steeped(action: &Action, worktop: Worktop<'_>) -> bool {
    use Kind as K;
    let Action::Add { ingredient, .. } = action else { return false };
    worktop.ingredient(ingredient).is_some_and(|it| {
        matches!(
            it.kind,
            K::Herb | K::Flower | K::Spice | K::Zest | K::Peel | K::Root | K::Stem | K::Seed
        )
    })
}
