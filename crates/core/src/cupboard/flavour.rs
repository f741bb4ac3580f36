//! Smell, bitterness and heat of an ingredient.
//!
//! Nobody publishes these for kitchens, so they are in units of the application's own, set so that
//! usual amounts come out as cooks know them: 1 of bitterness in a litre is just noticed, 2.5 spoils
//! a drink; 20 of aroma is clear, 80 strong; 5 of pungency is just noticed. All are estimates, right
//! to about half or double; they serve to say *when*, not *how many*.
//!
//! Bitterness is set by what each school of makers does without harm, and by what they warn of: pared
//! peel simmered for five minutes is clean, for ten it is not; a litre of tea steeped five minutes from
//! 10 g, not ten; whole limes blended for ten seconds, not twenty; two dashes of bitters in a glass, not
//! four; the rind of an orange to a litre of hibiscus overnight, not of two. It comes out hot: once the
//! drink has cooled, twice the night makes little difference.

use super::{Ingredient, Trait};
use crate::chemistry::{Component, Mixture};

/// What a gram brings, and how fast bitterness leaves it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Flavour {
    /// Units of aroma in a gram.
    pub aroma: f64,
    /// Units of bitterness in a gram, all that there is to draw.
    pub bitterness: f64,
    /// Minutes at 95 °C until 63 % of the bitterness has been drawn.
    pub bitter_minutes: f64,
    /// Units of pungency in a gram.
    pub pungency: f64,
}

/// Bitterness that is noticed, in own units in a litre.
pub(crate) const NOTICED_BITTERNESS: f64 = 1.2;

/// Seconds in a blender until 63 % of the bitterness has been beaten out. Estimate, from whole limes:
/// ten are clean, twenty are not.
pub(crate) const BITTER_BLENDING: f64 = 90.0;

impl Flavour {
    /// Books it in what a gram is made of: bound in pieces, free in liquids.
    pub(super) fn book(&self, per_gram: &mut Mixture, in_pieces: bool) {
        per_gram[Component::Aroma] = self.aroma;
        per_gram[Component::Pungency] = self.pungency;
        let bitter = if in_pieces { Component::BoundBitterness } else { Component::Bitterness };
        per_gram[bitter] = self.bitterness;
    }
}

impl Ingredient {
    /// Whether it is citrus with its skin or pith, which turns bitter when blended or boiled long.
    pub(crate) fn has_pith(&self) -> bool {
        self.is(Trait::Pith)
    }
}
