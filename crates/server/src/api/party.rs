//! From one glass to a party: the sheet of sizes, vessels, shopping, and what is done at the glass.

use actix_web::{post, web};
use keen_core::drink::{Drink, FieldError};
use keen_core::quantity::Units;
use keen_core::scale::{self, NamedSize, SizeSheet, VesselPlan};
use keen_core::serving::{self, Card, Facts};
use keen_core::shop::{self, Shopping, ShoppingList};
use keen_core::work::{Work, Worktop};
use keen_formats::PlanFile;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;

use super::compute::Nothing;
use super::desk::Asker;
use super::{Body, Problem, State};

/// A drink, the sizes to show, and the units.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct AskSheet {
    drink: Drink,
    /// Up to six sizes.
    sizes: Vec<NamedSize>,
    #[serde(default)]
    units: Units,
}

/// The drinks or the plan to shop for, and the wanted certainty.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) enum AskShopping {
    /// Drinks in their written sizes.
    Drinks {
        /// Up to twenty drinks.
        drinks: Vec<Drink>,
        #[serde(default)]
        how: Shopping,
    },
    /// All drinks of a plan that can be planned.
    Plan {
        plan: Box<PlanFile>,
        #[serde(default)]
        how: Shopping,
    },
}

/// The shopping list, also as a table for spreadsheets.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ShoppingAnswer {
    list: ShoppingList,
    csv: String,
}

impl ShoppingAnswer {
    fn of(list: ShoppingList) -> Self {
        Self { csv: keen_formats::shopping_table(&list), list }
    }
}

/// The serving card, and the drink in the glass.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct GlassAnswer {
    card: Option<Card>,
    facts: Option<Facts>,
}

/// A drink at several sizes side by side, in the measures of the kitchen.
#[utoipa::path(operation_id = "compare_sizes", tag = "compute", request_body = inline(AskSheet), responses(
    (status = 200, body = SizeSheet)))]
#[post("/api/compute/sheet")]
pub(super) async fn sheet(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<SizeSheet>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        sizes: Vec<NamedSize>,
        #[serde(default)]
        units: Units,
    }
    let laid_out = |drink: &Drink, worktop: Worktop<'_>, Rest { sizes, units }: Rest| {
        if sizes.is_empty() || sizes.len() > 6 {
            let message = "Choose 1 to 6 sizes.".into();
            return Err(FieldError { field: "sizes".into(), message }.into());
        }
        Ok(scale::sheet(drink, worktop, &sizes, units)?)
    };
    state.ask_of_drink(asker, &body, laid_out).await
}

/// Find the kitchen's vessels that a drink fits into.
#[utoipa::path(operation_id = "fit_vessels", tag = "compute", request_body = super::compute::Whole, responses(
    (status = 200, body = VesselPlan)))]
#[post("/api/compute/vessels")]
pub(super) async fn vessels(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<VesselPlan>, Problem> {
    let fitted =
        |drink: &Drink, worktop: Worktop<'_>, Nothing {}: Nothing| Ok(scale::fit(drink, worktop)?);
    state.ask_of_drink(asker, &body, fitted).await
}

/// Work out the shopping list for some drinks, or for a plan.
#[utoipa::path(operation_id = "list_shopping", tag = "compute", request_body = AskShopping, responses(
    (status = 200, body = ShoppingAnswer)))]
#[post("/api/compute/shopping")]
pub(super) async fn shopping(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<ShoppingAnswer>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        drinks: Option<Vec<Value>>,
        plan: Option<Value>,
        #[serde(default)]
        how: Shopping,
    }
    let Parts { drinks, plan, how } = body.json()?;
    how.check()?;
    let cupboard = state.cupboard();
    match (drinks, plan) {
        (Some(drinks), None) => {
            if drinks.is_empty() || drinks.len() > 20 {
                return Err(FieldError::new("drinks", "Choose 1 to 20 drinks.").into());
            }
            let drinks = drinks
                .into_iter()
                .map(|drink| keen_formats::drink_from_value(drink, &cupboard))
                .collect::<Result<Vec<Drink>, _>>()?;
            let listed =
                move |_: &Work| Ok(ShoppingAnswer::of(shop::shop(&drinks, &cupboard, how)));
            state.desk.ask(asker, listed).await.map(web::Json)
        }
        (None, Some(plan)) => {
            let drinks = state.drinks_of_plan(plan).await?;
            let listed = move |work: &Work| {
                let drinks = drinks(Worktop::new(&cupboard, work));
                Ok(ShoppingAnswer::of(shop::shop(&drinks, &cupboard, how)))
            };
            state.desk.ask(asker, listed).await.map(web::Json)
        }
        _ => Err(FieldError::new("drinks", "Name either drinks or a plan.").into()),
    }
}

/// Work out the serving card: the order of filling, the changes in the glass, and the drink in it.
#[utoipa::path(operation_id = "make_glass", tag = "compute", request_body = super::compute::Whole, responses(
    (status = 200, body = inline(GlassAnswer))))]
#[post("/api/compute/glass")]
pub(super) async fn glass(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<GlassAnswer>, Problem> {
    let served = |drink: &Drink, worktop: Worktop<'_>, Nothing {}: Nothing| {
        Ok(GlassAnswer {
            card: serving::card(drink, worktop)?,
            facts: serving::facts(drink, &worktop),
        })
    };
    state.ask_of_drink(asker, &body, served).await
}
