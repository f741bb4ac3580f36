//! How a drink tastes in figures, and where it lies on the map.
//!
//! The map's plane is sweetness across and acidity up, both in grams in 100 g of drink, so that a
//! ray from the origin is one sugar–acid ratio, and dilution moves a drink along its ray.

mod map;
mod profile;

pub use map::{BalanceMap, Band, MapPoint, Strength, Typical};
pub use profile::Profile;
