//! A kitchen's instruments: the line that they speak, and stand-ins for those that nobody has at hand.
//!
//! An instrument is an outside device. It tells what it reads in lines of JSON over TCP on this machine
//! ([`Line`]), and hears orders the same way ([`Order`]); `docs/instruments.md` says it for whoever builds a
//! bridge to a real one.
//!
//! The stand-ins ([`Stand`]) behave as such devices do. A scale settles in about a second and shows whole
//! grams; a thermometer lags; a refractometer wants its drop at room temperature; a pH meter is off until it
//! is calibrated, and drifts; an acid kit counts drops and can be overshot. They measure what is put before
//! them: in a practice batch that is the truth of [`keen_core::batch::Truth`], which the maker never sees. None
//! of them knows the time: [`Stand::pass`] lets some of it go by.
//!
//! A [`Maker`] makes a drink by a script, with nothing but what instruments tell: it is how the tests make
//! drinks by the hundred, and how it is known what measuring is worth.

#![warn(missing_docs)]

mod acid_kit;
mod clock;
mod line;
mod maker;
mod ph_meter;
mod refractometer;
mod scale;
mod serve;
mod stand;
mod thermometer;

pub use clock::Clock;
pub use line::{InstrumentKind, Line, Order, Sample, Unheard};
pub use maker::{Made, Maker};
pub use serve::{LOOPBACK_PORT, Served, serve};
pub use stand::Stand;
