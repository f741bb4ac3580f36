//! Recipes as people write them down, read into a drink.
//!
//! Most recipes come as text: a list and a method, or a few sentences, in cups, grams, pieces and handfuls. It is
//! read in three rounds, each of which leaves what it can't read for the eye:
//!
//! 1. [`words`]: a line becomes words, each with its place in the line; numbers, measures and times are found
//!    among them.
//! 2. [`lines`] tells a heading from a title and a step; [`list`] makes [`Thing`]s of a line that says how much of
//!    what (found by [`said`], fitted to what it measures by [`item`]); [`method`] makes doings of a sentence that
//!    says what is done ([`verbs`]), and to what ([`uses`]). Names are found by [`names`], in the cupboard's own
//!    words and those of other kitchens.
//! 3. [`making`]: the doings are carried out in vessels, as a cook would who was given the text. What the text
//!    doesn't say is decided there, and marked as guessed.
//!
//! Nothing is dropped in silence: every run of the text is marked as understood, guessed, asked about, or left
//! aside, and what was left aside stands in the drink's note. What was read can be changed before it becomes a
//! drink: the same text is read again with the [`Choice`]s that were made, so that there is one way of reading it.
//!
//! ```
//! use keen_core::cupboard::Cupboard;
//! use keen_formats::pasted::{Sure, read_recipe};
//!
//! let text = "Limeade\n5 limes, juiced\n1/2 cup sugar\nwater to make 1.2 litres\n";
//! let read = read_recipe(text, &[], Cupboard::builtin());
//! assert_eq!(read.drink.name, "Limeade");
//! assert_eq!(read.things[0].ingredient.as_deref(), Some("lime_juice"));
//! assert_eq!(read.things[1].amount.as_ref().unwrap().to_string(), "1/2 cup");
//! assert!(read.things.iter().all(|thing| thing.sure == Sure::Understood));
//! ```

mod doubt;
mod item;
mod line;
mod lines;
mod list;
mod making;
mod method;
mod missed;
mod names;
mod outcome;
mod recipe;
mod said;
mod scanned;
mod sizes;
mod step;
mod stock;
mod unused;
mod uses;
mod verbs;
mod when;

pub use line::{LineRead, LineThing, read_line};
pub use outcome::{Choice, Differs, Offer, Pasted, PastedLine, Run, StepGuess, Sure, Thing};
pub use recipe::{ANYWAY, MOST_CHARACTERS, read_recipe};
pub use step::{TypedSteps, read_steps};
pub use stock::{StockRead, StockThing, read_stock};
pub use when::ClockTime;
