//! How a drink tastes in figures, and where it is on the map.
//!
//! The map's plane is sweetness across and acidity up, both in grams in 100 g of drink, so that a
//! ray from the origin is one sugar–acid ratio, and dilution moves a drink along its ray.
//!
//! How far two places are apart is counted in just-noticeable differences, here and nowhere else.
//!
//! The other way round, [`solve`] works amounts out from a target, [`correct`] says what a pitcher
//! needs that tastes wrong, [`lean`] finds how little sugar it takes, and [`swap`] puts one ingredient in another's place. All of them run the
//! drink with its amounts nudged, and read the trace.

mod correct;
mod lean;
mod least_squares;
mod map;
mod noticed;
mod profile;
mod solve;
mod swap;

pub use correct::{
    Addition, Advice, Asked, Correction, Doubt, How, NoticedParts, Pitcher, Remedy, Word, correct,
    tastes_of,
};
pub(crate) use correct::{
    Inside, SODA, Stirring, acid_at, advice, measured, neutralises, sets, stirred_in,
};
pub use lean::{ADay, Lean, LeanAsked, LeanPoint, LeanWay, lean};
pub(crate) use least_squares::{Unknown, Wish, nearest};
pub use map::{BalanceMap, Band, MapPoint, Spot, Strength, Typical};
pub(crate) use noticed::FLOOR;
pub use noticed::{Palate, differences};
pub(crate) use profile::reads_as_brix;
pub use profile::{Profile, Taste};
pub use solve::{Aim, Bound, Moved, Solution, Target, solve};
pub use swap::{Swapped, swap};
