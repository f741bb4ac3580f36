//! The engine: runs a drink's steps on a cupboard and leaves a frame after each.
//!
//! ```
//! use keen_core::cupboard::Cupboard;
//! use keen_core::drink::{Action, Cut, Drink, Family, Step, Vessel, Warmth};
//! use keen_core::cupboard::VesselKind;
//! use keen_core::trace::Trace;
//!
//! let drink = Drink {
//!     name: "Sugar water".into(),
//!     family: Family::Syrup,
//!     note: String::new(),
//!     part: None,
//!     vessels: vec![Vessel::new("jug", VesselKind::Jug)],
//!     steps: [("water", "500 g"), ("white_sugar", "100 g")]
//!         .map(|(ingredient, amount)| Step::new(String::new(), Action::Add {
//!             into: "jug".into(),
//!             ingredient: ingredient.into(),
//!             amount: amount.parse().unwrap(),
//!             warmth: Warmth::Usual,
//!             cut: Cut::Usual,
//!             portions: 1,
//!         }))
//!         .to_vec(),
//! };
//! let trace = Trace::run(&drink, Cupboard::builtin());
//! let brix = trace.outcome().unwrap().contents.liquid.soluble_solids();
//! assert!((brix - 16.7).abs() < 0.1);
//! ```
//!
//! A vessel's [`Contents`] are a liquid, crystals that have not dissolved, pieces that lie in it, and
//! ice, at one temperature. Every action is built of a few moves on contents (put in, take out, let
//! time pass, come to rest), each of which keeps every gram; so a new action is a new order of moves
//! and no new arithmetic.

mod clock;
mod cold;
mod contents;
mod dissolving;
mod engine;
mod frames;
mod heat;
mod ice;
mod notice;
mod nudge;
mod passing;
mod past;
mod piece;
mod pour;
mod prepared;
mod putting;
mod sieve;
mod spent;
mod steep;
mod stove;
mod straining;
mod watch;
mod weights;

pub use contents::{Contents, Deposit, Origin};
pub(crate) use frames::Landing;
pub use frames::{Frame, Line, Outcome, Touched, Trace};
pub use heat::MEASURED_AT;
pub use notice::{Notice, NoticeKind, Severity};
pub use nudge::{Luck, Nudges};
pub(crate) use past::Judged;
pub use past::Past;
pub use piece::Piece;
pub use prepared::Prepared;
