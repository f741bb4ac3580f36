//! How long a drink keeps, what to be careful about, and what stands in the refrigerator now.
//!
//! [`Keeping`] is read off a trace: so many days at 4 °C, and why. A [`Bottle`] is what came of a batch: it lives
//! by that figure, and by what happens to it since. Days are used up: in the refrigerator one a day; opened, twice
//! as fast; on the cupboard's shelf many times as fast, but for what keeps there. In the freezer the clock of the
//! refrigerator stands still and another one runs. So where it stands and for how long is all that has to be
//! known, and moving it to and fro can't be forgotten.
//!
//! [`use_up`] asks what a bottle is good for, by running drinks with it in them.

mod bottle;
mod cautions;
mod keeping;
mod use_up;

pub use bottle::{Away, Bottle, BottleState, Happened, Move, Place, learned_days};
pub use cautions::{Caution, CautionKind, cautions};
pub use keeping::{Class, Keeping, due, kept_of};
pub use use_up::{Use, UseKind, use_up};
