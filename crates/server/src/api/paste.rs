//! Recipes from elsewhere: pasted text, or a page that was saved.

use actix_web::{post, web};
use keen_core::report::DrinkReport;
use keen_formats::pasted::{Choice, MOST_CHARACTERS, Pasted, read_recipe};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::desk::Asker;
use super::{Body, Problem, State};

/// A recipe to read.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskPaste {
    /// The text: a recipe in any wording, JSON-LD, or a saved web page.
    text: String,
    /// The answers to questions about how it was read.
    #[serde(default)]
    choices: Vec<Choice>,
}

/// The reading of a recipe, with its drink.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PastedView {
    /// The text that was read: for a web page, the recipe's part.
    text: String,
    /// Whether there was more text than we read.
    cut: bool,
    #[serde(flatten)]
    pasted: Pasted,
    /// The finished drink.
    report: DrinkReport,
}

/// Read a recipe. Any text can be read; guesses, questions and unused parts are marked.
#[utoipa::path(operation_id = "read_recipe", tag = "compute", request_body = inline(AskPaste), responses((status = 200, body = PastedView)))]
#[post("/api/compute/paste")]
pub(super) async fn paste(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<PastedView>, Problem> {
    let AskPaste { text, mut choices } = body.json()?;
    choices.truncate(500);
    let cupboard = state.cupboard();
    let read = move |_: &_| {
        let text = keen_formats::recipe_in(&text).unwrap_or(text);
        let pasted = read_recipe(&text, &choices, &cupboard);
        let report = DrinkReport::of(&pasted.drink, &cupboard);
        let cut = text.chars().nth(MOST_CHARACTERS).is_some();
        Ok(PastedView { cut, text: text.chars().take(MOST_CHARACTERS).collect(), pasted, report })
    };
    state.desk.ask(asker, read).await.map(web::Json)
}
