use serde::{Deserialize, Serialize};

use crate::belief::Quantity;
use crate::journal::{Entry, Journal};
use crate::quantity::Amount;

/// An entry in a batch's log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Happening {
    /// A step was started, and its wait is running.
    Began {
        /// The step's id.
        step: String,
    },
    /// A step is done.
    Done {
        /// The step's id.
        step: String,
    },
    /// A finished step is open again.
    Again {
        /// The step's id.
        step: String,
    },
    /// The amount that was really used.
    Used {
        /// The step's id.
        step: String,
        /// The amount, in any measure that the step allows.
        amount: Amount,
    },
    /// The volume after a step was measured: juice squeezed, liquid after straining or boiling.
    CameOut {
        /// The step's id.
        step: String,
        /// The amount, as a volume or a weight.
        amount: Amount,
    },
    /// An instrument was read.
    Reading {
        /// The vessel's id.
        vessel: String,
        /// The measured quantity.
        quantity: Quantity,
        /// The value, in the unit of the quantity.
        value: f64,
        /// The instrument's error as a standard deviation; the usual one if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        error: Option<f64>,
    },
    /// It was tasted.
    Tasted {
        /// The vessel's id.
        vessel: String,
        /// The words for the taste.
        words: String,
    },
    /// An unplanned ingredient was added.
    Added {
        /// The vessel's id.
        vessel: String,
        /// The ingredient's id.
        ingredient: String,
        /// How much.
        amount: Amount,
    },
    /// Part of a vessel was discarded: a sample, a spill.
    PouredAway {
        /// The vessel's id.
        vessel: String,
        /// The amount, as a volume.
        volume: Amount,
    },
    /// A step is skipped.
    LeftOut {
        /// The step's id.
        step: String,
    },
    /// A later step is done first.
    Moved {
        /// The step's id.
        step: String,
        /// The id of the later task.
        before: String,
    },
    /// A note.
    Note {
        /// The text of the note.
        text: String,
        /// The guest who said it; missing for the maker.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        by: String,
    },
    /// Undo an earlier entry: its position in the log, from 0.
    TakenBack {
        /// The id of the entry.
        of: usize,
    },
    /// The batch is finished.
    Finished {
        /// The place where it is kept.
        #[serde(default)]
        place: String,
        /// A note about the result.
        #[serde(default)]
        note: String,
        /// How many bottles or jars it filled.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        bottles: Option<u32>,
        /// Its volume.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        volume: Option<Amount>,
    },
    /// Whether the batch's figures were saved to your kitchen.
    Taught {
        /// Whether it was saved to your kitchen.
        learned: bool,
    },
}

/// A log entry and its time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Said {
    /// The time since the batch started, minutes.
    pub at: f64,
    /// The event.
    pub what: Happening,
}

impl Entry for Said {
    fn undoes(&self) -> Option<usize> {
        match self.what {
            Happening::TakenBack { of } => Some(of),
            _ => None,
        }
    }
}

/// What counts of what was said of a batch, in its order.
pub fn standing(said: &[Said]) -> impl DoubleEndedIterator<Item = &Happening> {
    let stands: Vec<&Happening> =
        Journal::of(said).standing().map(|(_, said)| &said.what).collect();
    stands.into_iter()
}
