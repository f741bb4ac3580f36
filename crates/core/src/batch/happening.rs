use serde::{Deserialize, Serialize};

use crate::belief::Quantity;
use crate::journal::{Entry, Journal};
use crate::quantity::Amount;

/// An entry in a batch's log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Happening {
    /// A step was started: its wait runs.
    Began {
        /// The step's id.
        step: String,
    },
    /// A step is done.
    Done {
        /// The step's id.
        step: String,
    },
    /// It isn't done yet: its *done* is undone.
    Again {
        /// The step's id.
        step: String,
    },
    /// What really went in.
    Used {
        /// The step's id.
        step: String,
        /// How much, in any measure that the step could have.
        amount: Amount,
    },
    /// What a step gave: juice squeezed, liquid after straining or boiling.
    CameOut {
        /// The step's id.
        step: String,
        /// How much, as a volume or a weight.
        amount: Amount,
    },
    /// An instrument was read.
    Reading {
        /// The vessel's id.
        vessel: String,
        /// What was measured.
        quantity: Quantity,
        /// The reading, in the quantity's unit.
        value: f64,
        /// How far the instrument may be off, as a standard deviation; as usual if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        error: Option<f64>,
    },
    /// It was tasted.
    Tasted {
        /// The vessel's id.
        vessel: String,
        /// What it was like.
        words: String,
    },
    /// Something else was added.
    Added {
        /// The vessel's id.
        vessel: String,
        /// The ingredient's id.
        ingredient: String,
        /// How much.
        amount: Amount,
    },
    /// Some was discarded: a sample, a spill.
    PouredAway {
        /// The vessel's id.
        vessel: String,
        /// How much, as a volume.
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
        /// The id of the one that it is done before.
        before: String,
    },
    /// Something to remember.
    Note {
        /// What.
        text: String,
        /// Who said it, if a guest did.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        by: String,
    },
    /// Undo an earlier entry: its position in the log, from 0.
    TakenBack {
        /// Which.
        of: usize,
    },
    /// All is done.
    Finished {
        /// Where it is now.
        #[serde(default)]
        place: String,
        /// How it turned out.
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
    /// Minutes since the batch started.
    pub at: f64,
    /// What happened.
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
