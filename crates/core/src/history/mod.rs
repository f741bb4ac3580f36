//! What became of a drink over time: how it was changed, and how its batches turned out.
//!
//! Two things are kept of a drink: every state of it that stood for a while, and every batch that was made of it.
//! A person wants to know of them: *what did I change?* and *what happens when I make it?*
//!
//! - [`difference`] tells two states apart in words: "white sugar 170 g → 150 g; let it stand 20 → 30 min".
//! - A [`Column`] is one batch beside what was written: amounts, minutes, juice from fruit, volumes, readings, what
//!   it was corrected with, where it ended. Columns of several batches have rows of the same keys, so that they
//!   stand side by side.
//! - [`Figures`] tells whether better tables gave an unchanged drink other figures.
//! - [`what_they_say`] looks over many batches: what comes again and again. Nothing is said from fewer than three.
//!
//! All of it is read off the written drink and the drink as made ([`crate::batch::Made`]), both run by the same
//! engine: nothing of a batch's figures is kept beside them.

mod column;
mod difference;
mod figures;
mod says;

pub use column::{Cell, Column, PutRight};
pub use difference::difference;
pub use figures::Figures;
pub use says::{PastBatch, Saying, WriteMinutes, what_they_say};
