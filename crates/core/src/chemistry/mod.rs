//! What a liquid is made of, and what follows from that.
//!
//! A [`Mixture`] is so many grams of each [`Component`]. Everything else (volume, °Brix, pH,
//! titratable acidity, sweetness, energy, colour, boiling point) is worked out from it and never
//! stored, so that no two figures can disagree.
//!
//! ```
//! use keen_core::chemistry::{Component, Mixture};
//!
//! let syrup = Mixture::of(&[(Component::Water, 50.0), (Component::Sucrose, 50.0)]);
//! assert!((syrup.soluble_solids() - 50.0).abs() < 1e-9);
//! assert!((syrup.density_at_20() - 1.22965).abs() < 1e-4);
//! ```

mod acidity;
mod colour;
mod component;
mod density;
mod energy;
mod mixture;
mod solution;
mod sweetness;

pub(crate) use acidity::{CARBON_DIOXIDE_G_PER_MOL, CITRIC_G_PER_EQUIVALENT};
pub use colour::{Absorbance, Rgb};
pub use component::Component;
pub(crate) use density::ETHANOL_DENSITY;
pub use mixture::Mixture;
pub(crate) use solution::along;
pub(crate) use solution::{
    boiling_point_elevation, freezing_point, inversion_rate, sucrose_solubility, water_activity,
};

/// Grams of CO₂ in a litre that make one volume.
///
/// 44.01 g/mol over 22.4 l/mol at 0 °C and one atmosphere.
pub const GRAMS_PER_VOLUME_CO2: f64 = 1.96;
