//! The base of a row: the drink in one vessel, with what moves turned down and all else a little denser.

use super::moving::{JugWanted, Laid, is_steeped, laid};
use super::{Moves, Origin, Row, TASTED, profile_of};
use crate::balance::{Aim, BalanceMap, Spot, Target, Taste, solve};
use crate::chemistry::Component;
use crate::cupboard::{Ingredient, Kind, Staple, VesselKind};
use crate::drink::{Action, Drink, Step};
use crate::fault::FieldError;
use crate::quantity::Amount;
use crate::scale::{Size, in_measures, resize};
use crate::trace::Trace;
use crate::work::Worktop;

/// How a row is made.
pub(super) struct Recipe<'a> {
    moves: Moves,
    /// The base, in the measures of the kitchen.
    pub(super) base: Drink,
    pub(super) jugs: Vec<JugWanted<'a>>,
    /// What moves, from glass to glass; nothing where glasses differ in kind.
    places: Vec<f64>,
    /// How many times as much of what is steeped is in the base.
    top: f64,
    /// How much of the base there is, ml.
    pub(super) base_ml: f64,
    pub(super) notes: Vec<String>,
}

/// Where a glass should stand.
pub(super) enum Place {
    /// Where what moves comes to that.
    Figure(f64),
    /// All of it from one jug.
    Jug { jug: usize, name: String },
    /// So large a share from the first of two jugs.
    Share(f64),
}

impl Place {
    pub(super) fn name(&self) -> Option<String> {
        match self {
            Self::Jug { name, .. } => Some(name.clone()),
            _ => None,
        }
    }
}

impl Recipe<'_> {
    pub(super) fn has_base(&self) -> bool {
        self.jugs.iter().any(|jug| jug.from_base)
    }

    pub(super) fn places(&self) -> Vec<Place> {
        match &self.moves {
            Moves::Sweetener(_) | Moves::Souring(_) => self
                .jugs
                .iter()
                .enumerate()
                .map(|(jug, it)| Place::Jug { jug, name: it.name.clone() })
                .collect(),
            Moves::Steep => self.places.iter().map(|dose| Place::Share(dose / self.top)).collect(),
            _ => self.places.iter().map(|figure| Place::Figure(*figure)).collect(),
        }
    }

    /// What moves, of a glass.
    pub(super) fn figure(&self, taste: &Taste) -> f64 {
        let (s, a) = (taste.sweetness_percent, taste.acidity_percent);
        match self.moves {
            Moves::Sugar | Moves::Acid if a > TASTED.1 / 2.0 => s / a,
            Moves::Strength if s < TASTED.0 => a,
            Moves::Spirit => taste.alcohol_percent,
            _ => s,
        }
    }

    /// Where a glass stands that was read, with so large a share from the first jug.
    pub(super) fn x_of(&self, glass: &super::Glass, share: f64) -> Option<f64> {
        let figure = match self.moves {
            Moves::Sweetener(_) | Moves::Souring(_) => return None,
            Moves::Steep => share * self.top,
            Moves::Sugar | Moves::Acid => glass.ratio.unwrap_or(glass.sweetness),
            Moves::Strength if glass.sweetness < TASTED.0 => glass.acidity,
            Moves::Strength => glass.sweetness,
            Moves::Spirit => glass.alcohol,
        };
        (figure > 0.0).then(|| figure.ln())
    }

    /// What moves, in words.
    pub(super) fn say(&self, figure: f64) -> String {
        match self.moves {
            Moves::Sugar | Moves::Acid => format!("{figure:.0} to 1"),
            Moves::Strength => format!("{figure:.1} g in 100 g"),
            Moves::Steep => format!("{figure:.2} times as much"),
            Moves::Spirit => format!("{figure:.1} % vol"),
            Moves::Sweetener(_) | Moves::Souring(_) => String::new(),
        }
    }
}

/// The drink in one vessel, and what it is made of.
pub(super) fn origin<'a>(drink: &Drink, worktop: Worktop<'a>) -> Result<Origin<'a>, FieldError> {
    let nothing =
        || FieldError::new("drink", "There is nothing to drink yet. Add an ingredient first.");
    let (mut drink, vessel) = in_one_vessel(drink, worktop)?.ok_or_else(nothing)?;
    let mut profile = profile_of(&worktop.trace(&drink)?).ok_or_else(nothing)?;
    // A syrup is tasted as it is drunk.
    let map = BalanceMap::of(drink.family, Some(&profile));
    if let Some(parts) = map.point.and_then(|p| p.thinned_with) {
        let ml = (parts * profile.volume_ml / 5.0).round() * 5.0;
        let water = Action::add(
            vessel.clone(),
            &worktop.cupboard().staple(Staple::Water).id,
            Amount::millilitres(ml),
        );
        drink.steps.push(Step::new(String::new(), water));
        drink.name_steps();
        profile = profile_of(&worktop.trace(&drink)?).ok_or_else(nothing)?;
    }
    let trace = worktop.trace(&drink)?;
    let cupboard = worktop.cupboard();
    let main = |of: &dyn Fn(&Ingredient) -> f64| {
        trace
            .lines
            .iter()
            .filter(|line| !line.left_over)
            .map(|line| (&cupboard.ingredients()[line.ingredient], line.grams.0))
            .map(|(it, grams)| (it, of(it) * grams))
            .filter(|(_, brings)| *brings > 0.0)
            .max_by(|a, b| a.1.total_cmp(&b.1))
            .map(|(it, _)| it)
    };
    let sweet = |it: &Ingredient| {
        let counts = it.kind == Kind::Sweetener && it.per_gram.sucrose_equivalent().0 > 0.3;
        if counts { it.per_gram.sucrose_equivalent().0 } else { 0.0 }
    };
    let sour = |it: &Ingredient| {
        let counts = matches!(it.kind, Kind::Juice | Kind::Acid);
        let acid = it.per_gram.titratable_acid();
        if counts && acid > 0.015 { acid } else { 0.0 }
    };
    let strong = |it: &Ingredient| {
        if it.kind == Kind::Spirit { it.per_gram[Component::Ethanol] } else { 0.0 }
    };
    Ok(Origin {
        sweetener: main(&sweet).unwrap_or_else(|| cupboard.staple(Staple::Sugar)),
        souring: main(&sour).unwrap_or_else(|| cupboard.staple(Staple::SourJuice)),
        spirit: main(&strong),
        drink,
        vessel,
        profile,
    })
}

/// A drink with what is done in its glasses or bottles done in the vessel that they are filled from: as it
/// is when it is tasted in samples. Without ice in the glass, and without what only decorates it.
fn in_one_vessel(
    drink: &Drink,
    worktop: Worktop<'_>,
) -> Result<Option<(Drink, String)>, FieldError> {
    let mut plain = drink.clone();
    plain.name_steps();
    let trace = worktop.trace(&plain)?;
    let Some(outcome) = trace.outcome() else { return Ok(None) };
    let end = plain.vessels[outcome.vessel].clone();
    let bottled = plain.steps.iter().find_map(|step| match &step.action {
        Action::Bottle { from, bottle, .. } if *bottle == end.id => plain.vessel(from),
        _ => None,
    });
    let Some(from) = outcome.from.or(bottled).map(|v| plain.vessels[v].id.clone()) else {
        // Made in the glass, one by one: as many of them in one pitcher.
        let id = end.id.clone();
        if end.kind == VesselKind::Glass {
            pour_together(&mut plain, worktop, &trace, &id, &id);
            let vessel = &mut plain.vessels[outcome.vessel];
            vessel.kind = VesselKind::Pitcher;
            (vessel.count, vessel.capacity, vessel.name) = (None, None, None);
        }
        return Ok(Some((plain, id)));
    };
    pour_together(&mut plain, worktop, &trace, &end.id, &from);
    plain.vessels.retain(|v| v.id != end.id);
    Ok(Some((plain, from)))
}

/// Does in one vessel what is done in each of several.
fn pour_together(drink: &mut Drink, worktop: Worktop<'_>, trace: &Trace, each: &str, into: &str) {
    let many = trace.many_of(drink, each).max(1.0);
    drink.steps.retain(|step| {
        let it = step.action.ingredient().and_then(|id| worktop.ingredient(id));
        let ice = it.is_some_and(|it| it.kind == Kind::Ice);
        match &step.action {
            Action::Serve { .. } | Action::Dress { .. } => false,
            Action::Bottle { bottle, .. } => bottle != each,
            action => !(ice && action.path().contains(&each)),
        }
    });
    for step in &mut drink.steps {
        if !step.action.path().contains(&each) {
            continue;
        }
        if let Some(amount) = step.action.amount_mut() {
            *amount = amount.scaled(many);
        }
        match &mut step.action {
            Action::Add { into: vessel, .. }
            | Action::Squeeze { into: vessel, .. }
            | Action::Pour { into: vessel, .. }
            | Action::Strain { into: vessel, .. }
            | Action::Rinse { into: vessel, .. }
            | Action::TopUp { vessel, .. }
            | Action::Lengthen { vessel, .. }
            | Action::Cover { vessel, .. }
            | Action::Dissolve { vessel, .. }
            | Action::Stir { vessel, .. }
            | Action::Infuse { vessel, .. }
            | Action::Macerate { vessel, .. }
            | Action::Cool { vessel, .. } => into.clone_into(vessel),
            _ => {}
        }
    }
}

/// How such a row is made, with so much of the base; as much as is foreseen if that isn't said.
pub(super) fn recipe<'a>(
    row: &Row,
    origin: &Origin<'a>,
    base_ml: Option<f64>,
    worktop: Worktop<'a>,
) -> Result<Recipe<'a>, FieldError> {
    let Laid { drink, target, jugs, places, top, notes } = laid(row, origin, worktop)?;
    let volume = jugs.iter().filter(|jug| jug.from_base).map(|jug| jug.volume_ml.max(LEAST_JUG));
    let base_ml = base_ml.unwrap_or(volume.sum::<f64>() * 1.1);
    let base = turned_down(row, &drink, target, base_ml, worktop)?;
    Ok(Recipe { moves: row.moves.clone(), base, jugs, places, top, base_ml, notes })
}

/// Less than this in a jug can't be filled to a hundredth with what a kitchen measures, ml.
pub(super) const LEAST_JUG: f64 = 250.0;

/// The drink with its amounts turned to such a sweetness and acidity, so much of it, in the measures of the
/// kitchen.
fn turned_down(
    row: &Row,
    drink: &Drink,
    target: Spot,
    volume_ml: f64,
    worktop: Worktop<'_>,
) -> Result<Drink, FieldError> {
    let size = Size::Volume(Amount::millilitres(volume_ml.clamp(20.0, 200_000.0)));
    let sized =
        resize(drink, worktop, &size).map_err(|error| FieldError::new("drink", error.message))?;
    let steeped = matches!(row.moves, Moves::Steep);
    let hold = sized
        .steps
        .iter()
        .filter(|step| steeped && is_steeped(&step.action, worktop))
        .map(|step| step.id.clone())
        .collect();
    let Spot { sweetness, acidity } = target;
    let target = Target {
        sweetness: (sweetness > 0.0).then_some(sweetness),
        acidity: (acidity > 0.0).then_some(acidity),
        ..Target::default()
    };
    let bounds = Vec::new();
    let solved = solve(&sized, worktop, &Aim { target, hold, bounds })
        .map_err(|error| FieldError::new("drink", error.message))?;
    let off = |now: f64, wanted: f64, floor: f64| (now - wanted).abs() / wanted.max(floor);
    let missed = off(solved.taste.sweetness_percent, sweetness, TASTED.0).max(off(
        solved.taste.acidity_percent,
        acidity,
        2.0 * TASTED.1,
    ));
    let may_miss = matches!(row.moves, Moves::Sweetener(_) | Moves::Souring(_) | Moves::Steep);
    if missed > 0.03 && !may_miss {
        let why = solved.stops.first().cloned().unwrap_or_default();
        let message = format!("We can't vary only one thing in this drink. {why}");
        return Err(FieldError::new("step", message.trim().to_owned()));
    }
    let mut base = in_measures(&solved.drink, worktop, row.units)?;
    base.name_steps();
    large_enough(&mut base, worktop)?;
    Ok(base)
}

/// Gives vessels that would run over a capacity that does.
fn large_enough(drink: &mut Drink, worktop: Worktop<'_>) -> Result<(), FieldError> {
    let trace = worktop.trace(drink)?;
    for (i, vessel) in drink.vessels.iter_mut().enumerate() {
        let level = trace.highest_level(i).0;
        if vessel.kind.strainer().is_none() && level > 0.9 * vessel.capacity().0 {
            let needed = (level * 1.25 / 100.0).ceil() * 100.0;
            vessel.capacity = Some(Amount::millilitres(needed));
        }
    }
    Ok(())
}
