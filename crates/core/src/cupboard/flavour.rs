//! Smell, bitterness and heat of an ingredient.
//!
//! Nobody publishes these for kitchens, so they are in units of the application's own, set so that
//! usual amounts come out as cooks know them: 1 of bitterness in a litre is just noticed, 2.5 spoils
//! a drink; 20 of aroma is clear, 80 strong; 5 of pungency is just noticed. All are estimates, right
//! to about half or double; they serve to say *when*, not *how many*.

use super::{Ingredient, Kind};
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
    /// Seconds in a blender until 63 % of it has been beaten out.
    pub bitter_blending: f64,
    /// Units of pungency in a gram.
    pub pungency: f64,
}

impl Flavour {
    pub(super) fn of(id: &str, kind: Kind) -> Self {
        let (aroma, bitterness, bitter_minutes, pungency) = match (id, kind) {
            ("black_tea", _) => (6.0, 0.4, 5.0, 0.0),
            ("roselle_fresh" | "elderflower" | "rose_petals", _) => (1.0, 0.004, 40.0, 0.0),
            ("rosemary" | "thyme" | "bay_leaf", _) => (8.0, 0.08, 25.0, 0.0),
            ("lime_whole" | "lemon_slices", _) => (2.0, 0.05, 25.0, 0.0),
            ("ginger_root", _) => (2.0, 0.0, 60.0, 1.0),
            ("black_pepper", _) => (6.0, 0.02, 60.0, 4.0),
            ("lemon_oil", _) => (900.0, 0.0, 60.0, 0.0),
            ("aromatic_bitters", _) => (20.0, 3.0, 1.0, 0.0),
            ("vanilla_extract", _) => (15.0, 0.0, 60.0, 0.0),
            (_, Kind::Peel) => (4.0, 0.08, 20.0, 0.0),
            (_, Kind::Zest) => (10.0, 0.03, 45.0, 0.0),
            (_, Kind::Herb) => (4.0, 0.02, 25.0, 0.0),
            (_, Kind::Flower) => (3.0, 0.03, 40.0, 0.0),
            (_, Kind::Spice) => (8.0, 0.05, 60.0, 0.0),
            (_, Kind::Flavouring) => (3.0, 0.0, 60.0, 0.0),
            (_, Kind::Stem | Kind::Root) => (2.0, 0.002, 60.0, 0.0),
            ("grapefruit_juice" | "pink_grapefruit_juice", _) => (0.3, 0.0008, 1.0, 0.0),
            ("cucumber", _) => (0.3, 0.0006, 60.0, 0.0),
            (_, Kind::Juice | Kind::Fruit | Kind::Vegetable) => (0.3, 0.0, 60.0, 0.0),
            _ => (0.0, 0.0, 60.0, 0.0),
        };
        Self { aroma, bitterness, bitter_minutes, bitter_blending: 90.0, pungency }
    }

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
        self.kind == Kind::Peel || matches!(self.id.as_str(), "lime_whole" | "lemon_slices")
    }
}
