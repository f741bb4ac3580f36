//! What a text was read as: its lines, what goes in, what doesn't agree, and what may be said of them.

use keen_core::drink::Drink;
use keen_core::quantity::Amount;
use keen_core::quantity::said::Word;
use serde::{Deserialize, Serialize};

/// The certainty that a part of the text was read as meant.
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

/// A part of a line, with its certainty.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Run {
    /// The text of this part.
    pub text: String,
    /// The certainty.
    pub sure: Sure,
}

/// A line of the text.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PastedLine {
    /// Its parts in order; together they are the line.
    pub runs: Vec<Run>,
    /// The reading of the line, in short: an ingredient or a step.
    pub read: Vec<String>,
}

/// An ingredient of the drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Thing {
    /// Its id within this text.
    pub key: String,
    /// The number of its line, from 0.
    pub line: usize,
    /// The words in the recipe that it was read from.
    pub words: String,
    /// The ingredient's id; missing if it isn't known.
    pub ingredient: Option<String>,
    /// The ingredient's name.
    pub name: Option<String>,
    /// The amount; missing for an ingredient that fills up to a line.
    #[schema(value_type = Option<String>)]
    pub amount: Option<Amount>,
    /// Whether it fills up to a line.
    pub fills: bool,
    /// The certainty.
    pub sure: Sure,
    /// The guess or the question.
    pub why: Vec<String>,
    /// Other possible ingredients.
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
    /// The contradiction.
    pub message: String,
    /// The readings to choose from.
    pub choices: Vec<String>,
    /// The reading that was used.
    pub chosen: usize,
}

/// The answer to a question about a recipe.
#[derive(Debug, Clone, PartialEq, Default, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Choice {
    /// The id of the ingredient or contradiction in question.
    pub key: String,
    /// The id of the ingredient.
    pub ingredient: Option<String>,
    /// Its amount.
    #[schema(value_type = Option<String>)]
    pub amount: Option<Amount>,
    /// Whether to leave it out.
    pub left_out: Option<bool>,
    /// The chosen reading of two that contradict each other.
    pub chosen: Option<usize>,
}

/// A guess about a step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StepGuess {
    /// The step's id.
    pub step: String,
    /// The guess.
    pub why: String,
}

/// The reading of a recipe.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Pasted {
    /// Its lines.
    pub lines: Vec<PastedLine>,
    /// The ingredients.
    pub things: Vec<Thing>,
    /// The contradictions.
    pub differs: Vec<Differs>,
    /// The drink, ready to save.
    pub drink: Drink,
    /// The guesses about single steps.
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

    /// Marks some words of a sentence that was read otherwise: they are asked about. A line of a list is one run, which
    /// is marked as a whole.
    pub(super) fn mark_asked(&mut self, words: &[Word]) {
        let (Some(first), Some(last)) = (words.first(), words.last()) else { return };
        let place = |run: &Run| {
            let text = run.text.to_ascii_lowercase();
            let from = word_in(&text, &first.text, 0)?;
            let to = word_in(&text, &last.text, from)? + last.text.len();
            (run.sure != Sure::Asked && to - from <= 80).then_some((from, to))
        };
        if self.runs.len() < 2 {
            return;
        }
        let found = self.runs.iter().enumerate().find_map(|(at, run)| Some((at, place(run)?)));
        let Some((at, (from, to))) = found else { return };
        let Run { text, sure } = self.runs.remove(at);
        let parts = [(&text[..from], sure), (&text[from..to], Sure::Asked), (&text[to..], sure)];
        let parts = parts.into_iter().filter(|(text, _)| !text.is_empty());
        let runs = parts.map(|(text, sure)| Run { text: text.to_owned(), sure });
        self.runs.splice(at..at, runs.collect::<Vec<_>>());
    }

    /// Whether there is something in it, and none of it was read.
    pub(super) fn is_left_aside(&self) -> bool {
        self.runs.iter().all(|r| r.sure == Sure::Aside)
            && self.runs.iter().any(|r| !r.text.trim().is_empty())
    }
}

/// Where a word stands in a text, from a place on: not within another word.
fn word_in(text: &str, word: &str, from: usize) -> Option<usize> {
    let apart = |c: Option<char>| c.is_none_or(|c| !c.is_alphanumeric());
    text.get(from..)?.match_indices(word).map(|(at, _)| from + at).find(|at| {
        apart(text[..*at].chars().next_back()) && apart(text[at + word.len()..].chars().next())
    })
}
