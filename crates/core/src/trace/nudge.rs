use crate::chemistry::Mixture;
use crate::cupboard::stronger;

/// What is different from the drink as it is written, in one run of it.
///
/// Solving runs a drink with amounts nudged; chance runs it with fruit that went differently. It
/// is always the same run.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Nudges<'a> {
    /// For each step how many times its amount is meant; empty for as written.
    pub amounts: &'a [f64],
    /// Ingredients that went differently than in the tables.
    pub luck: &'a [Luck],
    /// How much more or less strained solids keep.
    pub hold: Option<f64>,
    /// The first step in which they do.
    pub hold_from: usize,
    /// How many times as fast as the tables say pots lose water, in place of the kitchen's figure.
    pub boil_off: Option<f64>,
    /// How many times as long as the tables say things take to cool and to warm.
    pub cooling: Option<f64>,
}

/// How one ingredient turned out, as factors of what the tables say.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Luck {
    /// Its position in the cupboard.
    pub ingredient: usize,
    /// What a piece gives.
    pub yields: f64,
    /// Its acid.
    pub acid: f64,
    /// Its sugar.
    pub sugar: f64,
    /// The speed of extraction.
    pub drawing: f64,
}

impl Luck {
    /// The composition as it turned out; water makes up the difference.
    pub(super) fn change(&self, mixture: &Mixture) -> Mixture {
        let mut changed = *mixture;
        stronger(&mut changed, self.acid, self.sugar);
        changed
    }
}
