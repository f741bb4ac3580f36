//! What a text was read as: its lines, what goes in, what doesn't agree, and what may be said of them.

use keen_core::drink::Drink;
use keen_core::quantity::Amount;
use serde::{Deserialize, Serialize};

/// How sure we are that a part of the text was read as meant.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Sure {
    /// It says so.
    Understood,
    /// It leaves something open, and what is usual was taken.
    Guessed,
    /// It has to be said what is meant.
    Asked,
    /// It is no part of the making, or can't be read; it stands in the note.
    Aside,
}

/// A part of a line, and how sure it is.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Run {
    /// The text as it is.
    pub text: String,
    /// How sure.
    pub sure: Sure,
}

/// A line of the text.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PastedLine {
    /// Its parts in order; together they are the line.
    pub runs: Vec<Run>,
    /// What was read from it, in short: what goes in, or what is done.
    pub read: Vec<String>,
}

/// An ingredient of the drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Thing {
    /// Its id within this text.
    pub key: String,
    /// Its line, from 0.
    pub line: usize,
    /// The words that it was read from.
    pub words: String,
    /// The ingredient's id; none where it isn't known.
    pub ingredient: Option<String>,
    /// The ingredient's name.
    pub name: Option<String>,
    /// How much; none for what fills up to a line.
    #[schema(value_type = Option<String>)]
    pub amount: Option<Amount>,
    /// Whether it fills up to a line.
    pub fills: bool,
    /// How sure that is.
    pub sure: Sure,
    /// What was guessed, or what is asked.
    pub why: Vec<String>,
    /// What else it might be.
    pub offers: Vec<Offer>,
    /// Whether it is left out.
    pub left_out: bool,
}

/// An ingredient that might be meant.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Offer {
    /// Its id.
    pub id: String,
    /// Its name.
    pub name: String,
}

/// Two statements in the text that contradict each other.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Differs {
    /// Its id within this text.
    pub key: String,
    /// What doesn't agree.
    pub message: String,
    /// What there is to choose from.
    pub choices: Vec<String>,
    /// Which was taken.
    pub chosen: usize,
}

/// An answer to a question about a recipe.
#[derive(Debug, Clone, PartialEq, Default, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Choice {
    /// The ingredient or the contradiction that it is about.
    pub key: String,
    /// The ingredient that is meant: its id.
    pub ingredient: Option<String>,
    /// Its amount.
    #[schema(value_type = Option<String>)]
    pub amount: Option<Amount>,
    /// Whether it stays out.
    pub left_out: Option<bool>,
    /// Which of two things that don't agree.
    pub chosen: Option<usize>,
}

/// A guess about a step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StepGuess {
    /// The step's id.
    pub step: String,
    /// What was guessed.
    pub why: String,
}

/// A recipe as it was read.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Pasted {
    /// Its lines.
    pub lines: Vec<PastedLine>,
    /// What goes in.
    pub things: Vec<Thing>,
    /// What doesn't agree.
    pub differs: Vec<Differs>,
    /// The drink, ready to save.
    pub drink: Drink,
    /// What was guessed of single steps.
    pub guesses: Vec<StepGuess>,
    /// The message for a text that doesn't look like a recipe.
    pub doubt: Option<String>,
}

impl PastedLine {
    /// Shows a line as it was written, where letters were read as figures.
    pub(super) fn as_written(&mut self, line: &str) {
        let whole: usize = self.runs.iter().map(|r| r.text.len()).sum();
        if let [run] = self.runs.as_mut_slice() {
            line.clone_into(&mut run.text);
        } else if whole == line.len() {
            let mut from = 0;
            for run in &mut self.runs {
                let to = from + run.text.len();
                if let Some(part) = line.get(from..to) {
                    part.clone_into(&mut run.text);
                }
                from = to;
            }
        }
    }

    /// Whether there is something in it, and none of it was read.
    pub(super) fn is_left_aside(&self) -> bool {
        self.runs.iter().all(|r| r.sure == Sure::Aside)
            && self.runs.iter().any(|r| !r.text.trim().is_empty())
    }
}
