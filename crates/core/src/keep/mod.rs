//! How long a drink keeps, and what to be careful about.

mod cautions;
mod keeping;

pub use cautions::{Caution, CautionKind, cautions};
pub use keeping::{Class, Keeping};
