//! At the glass: what goes into it in which order, how it changes while it stands, what each taste
//! needs, and what is in it.

mod card;
mod facts;

pub use card::{Card, Cooling, ForTaste, Moment, Standing, WithSpirit, card};
pub use facts::{Facts, facts};
