//! The description of the API is made from the code: types and calls carry `utoipa`'s derives, and a build with the
//! feature `described` writes `docs/openapi.json` from them. A build without it serves that file. It leaves out the
//! derives, the crates behind them and the code they make, a fifth of the whole build.
//!
//! Every crate that is described depends on this one under the name `utoipa`, so that its code is the same in both
//! builds.

#[cfg(not(feature = "described"))]
pub use keen_described_silent::{IntoParams, ToSchema, path};
#[cfg(feature = "described")]
pub use utoipa::*;
