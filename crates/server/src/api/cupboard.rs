use actix_web::{get, web};
use keen_core::cupboard::{Cupboard, Evidence, FigureSource, Form, Kind};
use keen_core::drink::Drink;
use serde::Serialize;
use utoipa::ToSchema;

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
    /// A usual amount to begin with.
    usual_amount: String,
    /// Soluble solids, % of the weight.
    brix: f64,
    /// Titratable acid as citric, g in 100 g.
    acidity_percent: f64,
    evidence: Evidence,
    sources: Vec<FigureSource>,
}

/// A drink to begin from.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StartView {
    id: String,
    name: String,
    description: String,
    drink: Drink,
}

/// What there is to make drinks from.
#[utoipa::path(tag = "cupboard", responses((status = 200, body = Vec<IngredientView>)))]
#[get("/api/ingredients")]
pub(super) async fn ingredients() -> web::Json<Vec<IngredientView>> {
    let cupboard = Cupboard::builtin();
    web::Json(
        cupboard
            .ingredients()
            .iter()
            .map(|it| IngredientView {
                id: it.id.clone(),
                name: it.name.clone(),
                aliases: it.aliases.clone(),
                kind: it.kind,
                form: it.form,
                can_be_squeezed: cupboard.can_be_squeezed(it),
                usual_amount: cupboard.usual_amount(it).to_string(),
                brix: it.per_gram.soluble_solids(),
                acidity_percent: 100.0 * it.per_gram.titratable_acid(),
                evidence: it.evidence,
                sources: it.sources.clone(),
            })
            .collect(),
    )
}

/// Drinks to begin from.
#[utoipa::path(tag = "drinks", responses((status = 200, body = Vec<StartView>)))]
#[get("/api/starting-points")]
pub(super) async fn starting_points() -> web::Json<Vec<StartView>> {
    web::Json(
        keen_formats::starting_points()
            .into_iter()
            .map(|start| StartView {
                id: start.id.to_owned(),
                name: start.name.to_owned(),
                description: start.description.to_owned(),
                drink: start.drink,
            })
            .collect(),
    )
}
