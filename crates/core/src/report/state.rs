use serde::Serialize;

use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Ingredient, Kind, Material, VesselKind};
use crate::drink::Drink;
use crate::quantity::Celsius;
use crate::scale::{Need, need};
use crate::trace::{Contents, MEASURED_AT, Trace};

/// A vessel's contents, in figures.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StateReport {
    /// The vessel's id.
    pub vessel: String,
    /// The weight of all contents, g.
    pub mass_g: f64,
    /// The liquid alone, ml at 20 °C.
    pub liquid_ml: f64,
    /// Its total volume, ml at 20 °C.
    pub level_ml: f64,
    /// The overflow, ml; 0 if there is none.
    pub over_ml: f64,
    /// Soluble solids of the liquid, % of the weight.
    pub brix: f64,
    /// Titratable acidity of the liquid as citric acid, g in 100 g.
    pub acidity_percent: f64,
    /// pH of the liquid, within 0.1.
    pub ph: Option<f64>,
    /// The height of the surface above the vessel's bottom, mm.
    pub line_mm: f64,
    /// The part of the sugar that has split, or came split, into glucose and fructose, %.
    pub invert_percent: f64,
    /// Smell, in our own units for each litre: 20 is clear, 80 strong.
    pub aroma_per_l: f64,
    /// Bitterness, in our own units for each litre: 1 is just noticeable.
    pub bitterness_per_l: f64,
    /// Temperature, °C.
    pub temperature_c: f64,
    /// Colour of the liquid, `#rrggbb`.
    pub colour: String,
    /// The pieces in it.
    pub pieces: Vec<PieceReport>,
    /// Undissolved crystals, g.
    pub undissolved_g: f64,
    /// Ice that has not melted, g.
    pub ice_g: f64,
}

/// Solid pieces in a vessel.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PieceReport {
    /// The ingredient's id.
    pub ingredient: String,
    /// The ingredient's name.
    pub name: String,
    /// The amount added, g.
    pub grams: f64,
    /// The share extracted, 0 to 1.
    pub drawn: f64,
    /// A colour for the pieces, `#rrggbb`.
    pub colour: String,
}

/// A vessel of the drink, at its fullest moment.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct VesselReport {
    /// The vessel's id.
    pub id: String,
    /// Its name.
    pub name: String,
    /// The kind of vessel.
    pub kind: VesselKind,
    /// Whether it strains.
    pub strains: bool,
    /// The capacity to the brim, ml.
    pub capacity_ml: f64,
    /// Inside diameter, mm.
    pub diameter_mm: f64,
    /// Inside height, mm.
    pub height_mm: f64,
    /// The number of glasses or bottles.
    pub count: u32,
    /// Its material, if known.
    pub material: Option<Material>,
    /// The capacity that it needs, ml: its fullest moment, with room for boiling.
    pub needed_ml: f64,
    /// The kitchen's own vessels that could take its place.
    pub own: Vec<OwnFit>,
    /// The volume that it can safely hold of these contents, ml: a boiling pot two thirds.
    pub working_ml: f64,
    /// The overflow at the fullest moment, ml; 0 if there is none.
    pub over_ml: f64,
    /// The contents at the fullest moment; missing if it is never used.
    pub fullest: Option<StateReport>,
    /// The id of the step after which this is the state.
    pub fullest_step: Option<String>,
    /// Its final contents.
    pub last: Option<StateReport>,
}

/// A vessel of the kitchen for a vessel of the drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct OwnFit {
    /// Its position among the kitchen's vessels.
    pub index: usize,
    /// Its name.
    pub name: String,
    /// Its capacity, as entered.
    pub capacity: String,
    /// The missing capacity, ml; 0 if it fits.
    pub short_ml: f64,
}

fn own_fits(kind: VesselKind, need: &Need, cupboard: &Cupboard) -> Vec<OwnFit> {
    cupboard
        .kitchen()
        .vessels
        .iter()
        .enumerate()
        .filter(|(_, own)| need.suits(own, kind))
        .map(|(index, own)| {
            let holds = own.capacity.as_millilitres().unwrap_or(0.0);
            let short = need.needed - holds;
            OwnFit {
                index,
                name: own.name.clone(),
                capacity: own.capacity.to_string(),
                short_ml: if short > 0.5 { short } else { 0.0 },
            }
        })
        .collect()
}

impl StateReport {
    pub(super) fn of(
        drink: &Drink,
        vessel: usize,
        contents: &Contents,
        cupboard: &Cupboard,
    ) -> Self {
        let it = &drink.vessels[vessel];
        let liquid = &contents.liquid;
        let level = contents.level().0;
        let over = level - it.capacity().0;
        let litres = liquid.volume(MEASURED_AT).0 / 1000.0;
        let per_litre = |c: Component| if litres > 1e-6 { liquid[c] / litres } else { 0.0 };
        Self {
            vessel: it.id.clone(),
            mass_g: contents.mass().0,
            liquid_ml: liquid.volume(MEASURED_AT).0,
            level_ml: contents.level_at(MEASURED_AT).0,
            over_ml: if it.kind.strainer().is_none() && over > 0.5 { over } else { 0.0 },
            brix: liquid.soluble_solids(),
            acidity_percent: liquid.acidity_percent(),
            ph: liquid.ph(),
            line_mm: level * 1000.0 / it.opening_mm2(),
            invert_percent: 100.0 * contents.invert_share(),
            aroma_per_l: per_litre(Component::Aroma),
            bitterness_per_l: per_litre(Component::Bitterness),
            temperature_c: contents.temperature.0,
            colour: contents.colour().to_string(),
            pieces: contents
                .pieces
                .iter()
                .map(|piece| {
                    let ingredient = &cupboard.ingredients()[piece.ingredient];
                    PieceReport {
                        ingredient: ingredient.id.clone(),
                        name: ingredient.name.clone(),
                        grams: piece.put_in.0,
                        drawn: piece.drawn,
                        colour: swatch(ingredient),
                    }
                })
                .collect(),
            undissolved_g: contents.undissolved().0,
            ice_g: contents.ice_mass().0,
        }
    }
}

/// The vessels in the order in which things flow through them; those never used come last.
pub(super) fn vessels(drink: &Drink, trace: &Trace, cupboard: &Cupboard) -> Vec<VesselReport> {
    let order = flow_order(drink);
    order
        .into_iter()
        .map(|index| {
            let vessel = &drink.vessels[index];
            let fullest = trace.fullest(index);
            let over = trace.highest_level(index).0 - vessel.capacity().0;
            let need = need(drink, trace, index);
            let last = trace.last(index);
            let shown = fullest.map(|(_, c)| StateReport::of(drink, index, c, cupboard));
            VesselReport {
                id: vessel.id.clone(),
                name: drink.label(index),
                kind: vessel.kind,
                strains: vessel.kind.strainer().is_some(),
                capacity_ml: vessel.capacity().0,
                diameter_mm: vessel.diameter().0,
                height_mm: vessel.height().0,
                count: trace.many.get(index).map_or(1, |many| (many - 1e-6).ceil().max(1.0) as u32),
                material: vessel.material,
                needed_ml: need.needed,
                own: own_fits(vessel.kind, &need, cupboard),
                working_ml: trace
                    .states_of(index)
                    .map(|(_, c)| vessel.kind.working_level(c.temperature))
                    .fold(1.0, f64::min)
                    * vessel.capacity().0,
                over_ml: if vessel.kind.strainer().is_none() && over > 0.5 { over } else { 0.0 },
                fullest_step: fullest.map(|(step, _)| drink.steps[step].id.clone()),
                last: match last {
                    Some((step, _)) if fullest.is_some_and(|(at, _)| at == step) => shown.clone(),
                    last => last.map(|(_, c)| StateReport::of(drink, index, c, cupboard)),
                },
                fullest: shown,
            }
        })
        .collect()
}

/// Vessels so that each stands after those that are poured into it, as far as pouring doesn't go in
/// circles; otherwise as they are first used.
fn flow_order(drink: &Drink) -> Vec<usize> {
    let mut left: Vec<usize> = Vec::new();
    let mut pours: Vec<(usize, usize)> = Vec::new();
    let use_first = |id: &str, left: &mut Vec<usize>| {
        let index = drink.vessel(id);
        if let Some(index) = index.filter(|i| !left.contains(i)) {
            left.push(index);
        }
        index
    };
    for step in &drink.steps {
        let path = step.action.path();
        let found: Vec<usize> = path.iter().filter_map(|id| use_first(id, &mut left)).collect();
        pours.extend(found.windows(2).map(|pair| (pair[0], pair[1])));
    }
    let mut order = Vec::new();
    while !left.is_empty() {
        let waits = |v: &usize| pours.iter().any(|(from, into)| into == v && left.contains(from));
        let next = left.iter().position(|v| !waits(v)).unwrap_or(0);
        order.push(left.remove(next));
    }
    order.extend((0..drink.vessels.len()).filter(|v| !order.contains(v)).collect::<Vec<_>>());
    order
}

/// A colour to draw pieces of an ingredient by: that of the thing itself, where its juice has
/// another.
fn swatch(it: &Ingredient) -> String {
    let green = match it.kind {
        Kind::Herb => "#5f8a3a",
        Kind::Stem | Kind::Vegetable if it.per_gram[Component::Anthocyanin] == 0.0 => "#a9bd6a",
        Kind::Root => "#d8bd7c",
        Kind::Spice => "#8a5a34",
        Kind::Seed | Kind::Grain | Kind::Nut => "#d9cbb0",
        _ => "",
    };
    if !green.is_empty() {
        return green.to_owned();
    }
    // A gram in so much water that its colour is seen and not its depth.
    let mut thin = it.per_gram;
    let strength = it.per_gram[Component::Anthocyanin]
        + it.per_gram[Component::AbsorbBlue]
        + it.per_gram[Component::AbsorbGreen];
    thin[Component::Water] += (strength * 0.8 - thin.volume(Celsius(20.0)).0).max(0.0);
    thin.colour().to_string()
}
