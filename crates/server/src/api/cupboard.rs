use actix_web::{get, web};
use keen_core::chemistry::Component;
use keen_core::cupboard::{
    Cupboard, Estimated, Evidence, FigureSource, Form, Ingredient, Kind, Size,
};
use keen_core::drink::{Drink, StepForm};
use serde::Serialize;
use utoipa::ToSchema;

use super::State;
use super::summary::{Summary, summarise};

/// An ingredient of the cupboard.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct IngredientView {
    id: String,
    name: String,
    /// Other names that people look for.
    aliases: Vec<String>,
    kind: Kind,
    form: Form,
    /// Whether it is a juice that can be squeezed from fruit.
    can_be_squeezed: bool,
    /// Whether squeezing leaves halves that can be kept.
    leaves_halves: bool,
    /// A usual amount to begin with.
    usual_amount: String,
    /// Soluble solids, % of the weight.
    brix: f64,
    /// Titratable acid as citric, g in 100 g.
    acidity_percent: f64,
    /// Sugars, g in 100 g.
    sugar_percent: f64,
    /// Sweetness as sucrose, g in 100 g.
    sweetness_percent: f64,
    /// Water, g in 100 g.
    water_percent: f64,
    /// Insoluble solids, g in 100 g.
    insoluble_percent: f64,
    /// Alcohol, g in 100 g.
    alcohol_percent: f64,
    /// Energy in 100 g, kcal.
    kcal: f64,
    /// pH, also of its juice.
    ph: Option<f64>,
    /// Grams in a millilitre as it fills a measure.
    density: Option<f64>,
    /// Liquid held after draining, g for each gram; for pieces in a liquid.
    keeps: Option<Estimated>,
    /// The liquid that pieces hold in a strainer.
    strained: Option<StrainedView>,
    /// For pieces in a liquid: the time at 95 °C until 63 % is extracted, minutes.
    drawing_minutes: Option<Estimated>,
    /// The share that can be extracted when boiling, 0 to 1; for pieces in a liquid.
    drawn_hot: Option<Estimated>,
    evidence: Evidence,
    sources: Vec<FigureSource>,
    notes: String,
    /// Whether it has figures measured in this kitchen.
    own: bool,
    /// Its role in a drink: ingredients of the same role can replace each other.
    role: String,
    /// Whether it was deleted and stays only because a drink needs it.
    kept_for_drinks: bool,
}

/// The liquid that each gram holds in a strainer, g: drained, and the shares that stay after pressing and wringing.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StrainedView {
    /// When its cells are broken: cooked, thawed, or collapsed under sugar. None where that makes no
    /// difference.
    cooked: Option<Estimated>,
    /// Pulp from blending.
    blended: Estimated,
    /// The share still held after pressing with a spoon, 0 to 1.
    pressed: f64,
    /// Wrung out.
    wrung: f64,
}

/// Produce bought by the piece.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ProduceView {
    id: String,
    name: String,
    /// The ingredients that it gives.
    gives: Vec<String>,
    sizes: Vec<SizeView>,
}

/// One size of this produce.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SizeView {
    /// `lemon/medium`.
    key: String,
    name: String,
    /// The whole piece, g.
    whole_g: f64,
    /// Its spread, g.
    whole_sd_g: f64,
    /// Juice by a hand reamer, ml.
    juice_ml: Option<f64>,
    /// Its spread, ml.
    juice_sd_ml: Option<f64>,
    /// Grated zest, g.
    zest_g: Option<f64>,
    /// Peel in strips, g.
    peel_g: Option<f64>,
    /// The share that is used, %.
    edible_percent: f64,
    evidence: Evidence,
    source: String,
    notes: String,
}

/// A drink to start from.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StartView {
    id: String,
    /// The group of drinks that it belongs to.
    group: String,
    /// The way it is made, as a short title.
    name: String,
    description: String,
    /// The drink that it makes.
    makes: Summary,
    drink: Drink,
}

fn view(cupboard: &Cupboard, it: &Ingredient) -> IngredientView {
    let lies = it.form == Form::Pieces;
    let per_gram = &it.per_gram;
    let percent = |c: Component| 100.0 * per_gram[c];
    IngredientView {
        id: it.id.clone(),
        name: it.name.clone(),
        aliases: it.aliases.clone(),
        kind: it.kind,
        form: it.form,
        can_be_squeezed: cupboard.can_be_squeezed(it),
        leaves_halves: cupboard.can_be_squeezed(it) && cupboard.halves_of(it).is_some(),
        usual_amount: cupboard.usual_amount(it).to_string(),
        brix: per_gram.soluble_solids(),
        acidity_percent: 100.0 * per_gram.titratable_acid(),
        sugar_percent: 100.0 * per_gram.sugars().0,
        sweetness_percent: 100.0 * per_gram.sucrose_equivalent().0,
        water_percent: percent(Component::Water),
        insoluble_percent: percent(Component::Insoluble),
        alcohol_percent: percent(Component::Ethanol),
        kcal: 100.0 * per_gram.energy_kcal(),
        ph: per_gram.ph().filter(|_| per_gram[Component::Water] > 0.3),
        density: it.measures.density,
        keeps: lies.then_some(it.texture.held_raw),
        strained: lies.then(|| StrainedView {
            cooked: it.texture.cooked_minutes.map(|_| it.texture.held_broken),
            blended: it.texture.pulp,
            pressed: it.texture.pressed_share,
            wrung: it.texture.wrung_share,
        }),
        drawing_minutes: lies.then_some(it.texture.minutes),
        drawn_hot: lies.then_some(it.texture.hot),
        evidence: it.evidence,
        sources: it.sources.clone(),
        notes: it.notes.clone(),
        own: cupboard.is_own(it) || it.id.starts_with("own_"),
        role: it.role().name(),
        kept_for_drinks: cupboard.is_kept_for_drinks(it),
    }
}

fn size_view(id: &str, size: &Size) -> SizeView {
    SizeView {
        key: format!("{id}/{}", size.name),
        name: size.name.clone(),
        whole_g: size.whole.0,
        whole_sd_g: size.whole_sd.0,
        juice_ml: size.juice.map(|ml| ml.0),
        juice_sd_ml: size.juice_sd.map(|ml| ml.0),
        zest_g: size.zest.map(|g| g.0),
        peel_g: size.peel.map(|g| g.0),
        edible_percent: 100.0 * size.edible,
        evidence: if size.measured {
            Evidence::Measured
        } else {
            Evidence::of_source(&size.source)
        },
        source: size.source.clone(),
        notes: size.notes.clone(),
    }
}

/// The ingredients.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Ingredients {
    ingredients: Vec<IngredientView>,
}

/// The ingredients.
#[utoipa::path(operation_id = "list_ingredients", tag = "cupboard", responses((status = 200, body = inline(Ingredients))))]
#[get("/api/ingredients")]
pub(super) async fn ingredients(state: web::Data<State>) -> web::Json<Ingredients> {
    let cupboard = state.cupboard();
    let ingredients = cupboard.ingredients().iter().map(|it| view(&cupboard, it)).collect();
    web::Json(Ingredients { ingredients })
}

/// Produce that is bought by the piece.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Produce {
    produce: Vec<ProduceView>,
}

/// Produce that is bought by the piece.
#[utoipa::path(operation_id = "list_produce", tag = "cupboard", responses((status = 200, body = inline(Produce))))]
#[get("/api/produce")]
pub(super) async fn produce(state: web::Data<State>) -> web::Json<Produce> {
    let cupboard = state.cupboard();
    let name = |id: &String| cupboard.ingredient(id).map(|it| it.name.clone());
    let all = cupboard.produce().iter().map(|p| ProduceView {
        id: p.id.clone(),
        name: p.name.clone(),
        gives: p.gives.iter().filter_map(name).collect(),
        sizes: p.sizes.iter().map(|size| size_view(&p.id, size)).collect(),
    });
    web::Json(Produce { produce: all.collect() })
}

/// Starting points for drinks.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StartingPoints {
    starting_points: Vec<StartView>,
}

/// Starting points for drinks.
#[utoipa::path(operation_id = "list_starting_points", tag = "drinks", responses((status = 200, body = inline(StartingPoints))))]
#[get("/api/starting-points")]
pub(super) async fn starting_points(state: web::Data<State>) -> web::Json<StartingPoints> {
    let cupboard = state.cupboard();
    let all = keen_formats::starting_points().into_iter().map(|start| StartView {
        id: start.id.to_owned(),
        group: start.group.to_owned(),
        name: start.name.to_owned(),
        description: start.description.to_owned(),
        makes: summarise(&start.drink, &cupboard),
        drink: start.drink,
    });
    web::Json(StartingPoints { starting_points: all.collect() })
}

/// The fields of each kind of step.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StepForms {
    forms: Vec<StepForm>,
}

/// The fields of each kind of step, to draw a form from.
#[utoipa::path(operation_id = "list_step_forms", tag = "drinks", responses((status = 200, body = inline(StepForms))))]
#[get("/api/step-forms")]
pub(super) async fn step_forms() -> web::Json<StepForms> {
    web::Json(StepForms { forms: keen_core::drink::step_forms() })
}
