use super::pooled::{Levels, Pooled};
use crate::quantity::{Grams, Millilitres};

/// Something bought by the piece.
#[derive(Debug, Clone)]
pub struct Produce {
    /// Stable name.
    pub id: String,
    /// One of it.
    pub name: String,
    /// Several of it, as said after a number.
    pub plural: String,
    /// The sizes that it is sold in.
    pub sizes: Vec<Size>,
    /// Ids of the ingredients that are made from it.
    pub gives: Vec<String>,
}

/// One size of produce: means and standard deviations over pieces.
#[derive(Debug, Clone)]
pub struct Size {
    /// "small", "medium", "sprig".
    pub name: String,
    /// The whole piece.
    pub whole: Grams,
    /// Its spread.
    pub whole_sd: Grams,
    /// Strained juice by a hand reamer, where it is squeezed.
    pub juice: Option<Millilitres>,
    /// Its spread.
    pub juice_sd: Option<Millilitres>,
    /// Grams of juice for each gram of the piece in a press or blender.
    pub press_fraction: Option<f64>,
    /// Grated zest.
    pub zest: Option<Grams>,
    /// Peel in strips.
    pub peel: Option<Grams>,
    /// The share of the piece that is used.
    pub edible: f64,
    /// Whether figures of it were measured in this kitchen.
    pub measured: bool,
    /// What is known of the juice of one, where it is squeezed.
    pub juice_known: Option<super::Yield>,
    /// Where the figures come from.
    pub source: String,
    /// What else to know.
    pub notes: String,
}

impl Produce {
    /// The size that is meant when none is said.
    #[must_use]
    pub fn usual(&self) -> &Size {
        self.sizes.iter().find(|s| s.name == "medium").unwrap_or(&self.sizes[0])
    }
}

impl Size {
    /// How far what so many pieces give of an ingredient may be off, as a share of what is expected: market, lot and
    /// pieces together.
    #[must_use]
    pub fn varies(&self, it: &super::Ingredient, pieces: f64) -> f64 {
        let by_juice = self.juice_yield().filter(|_| it.form == super::Form::Liquid);
        match by_juice {
            Some(known) => known.varies(pieces),
            None => {
                let piece = self.whole_sd / self.whole * if self.measured { 0.6 } else { 1.0 };
                Pooled::before(1.0, piece, Levels::PIECES).varies(1.0 / pieces.max(0.25))
            }
        }
    }
}
