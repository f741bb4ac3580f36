//! Tasting: finding a balance, comparing drinks, training a tongue.
//!
//! Makers find a balance by pouring glasses side by side. What makes that fair and worth the sugar is
//! old knowledge of those who taste for a living: glasses that differ in one thing ([`ladder`]), codes
//! and orders that favour none ([`design`]), a model of how an ideal shows in what is said ([`ideal`]),
//! and an exact count of what luck alone would give ([`compare`]).
//!
//! - [`taster`] is who tastes: what they don't take, how small a difference they notice.
//! - [`ladder`] sets up a row: one base, two jugs, and glasses that are drinks run as any other.
//! - [`ideal`] fits all tasters together, says how sure that is, and which glass would tell most.
//! - [`find`] leads one taster to their own ratio, glass by glass from three jugs.
//! - [`group`] finds one pitcher for several, and what each stirs into the own glass.
//! - [`compare`] judges triangles, pairs and trios; [`reference`](mod@reference) makes a target of a drink that is there.
//! - [`tongue`] finds how small a difference somebody tastes.
//! - [`sitting`] is a tasting as it goes on: what was set up, and what was said since.
//! - [`pretend`] is somebody made up, for trials and for the demo.
//!
//! Chance comes in from outside, as a source or as the seed of one.

pub mod compare;
pub mod design;
pub mod find;
pub mod group;
pub mod ideal;
pub mod ladder;
pub mod pretend;
pub mod reference;
pub mod sitting;
pub mod taster;
pub mod tongue;
