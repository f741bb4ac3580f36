//! Quantities as a kitchen speaks of them.
//!
//! The model reckons in grams, millilitres, degrees and minutes, and each has a type of its own, so
//! that a volume is never taken for a weight. People speak in cups, spoons, pinches and pieces of
//! fruit. An [`Amount`] is what was said, kept as it was said:
//!
//! ```
//! use keen_core::quantity::Amount;
//!
//! let amount: Amount = "1 1/2 cups".parse().unwrap();
//! assert_eq!(amount.to_string(), "1 1/2 cups");
//! assert_eq!(amount.scaled(2.0).to_string(), "3 cups");
//!
//! let spoons: Amount = "2 tbsp + ½ tsp".parse().unwrap();
//! assert_eq!(spoons.terms().len(), 2);
//! ```
//!
//! What an amount weighs depends on what it is an amount of; the
//! [cupboard](crate::cupboard) knows that.

mod amount;
mod kitchen;
mod measure;
mod number;
pub mod said;
mod saying;
mod units;

pub use amount::{Amount, AmountError, Term};
pub use kitchen::{kitchen_step, round_to_kitchen, spell_in_spoons};
pub(crate) use measure::US_CUP_ML;
pub use measure::{Dimension, Measure};
pub use number::{format_number, to_figures};
pub use saying::{Degrees, Saying, Units};
pub use units::{Celsius, Grams, Millilitres, Millimetres, Minutes};
