//! What there is to make a drink from, and what one knows of it.
//!
//! The [`Cupboard`] holds the built-in tables: [`Ingredient`]s with their composition, measures and
//! the source of each figure, and [`Produce`], what is bought by the piece. It answers the question
//! that an [`Amount`](crate::quantity::Amount) alone can't: what does that weigh?
//!
//! ```
//! use keen_core::cupboard::Cupboard;
//!
//! let cupboard = Cupboard::builtin();
//! let lime_juice = cupboard.ingredient("lime_juice").unwrap();
//! let weighed = cupboard.weigh(lime_juice, &"3 limes".parse().unwrap()).unwrap();
//! assert!((weighed.grams.0 - 3.0 * 27.0 * 1.035).abs() < 0.1);
//! ```

mod evidence;
mod flavour;
mod ingredient;
mod lots;
mod own;
mod pooled;
mod produce;
mod staple;
mod tables;
mod texture;
mod vessel;
mod weigh;
mod yields;

pub use evidence::{Estimated, Evidence, FigureSource};
pub use flavour::Flavour;
pub(crate) use flavour::{BITTER_BLENDING, NOTICED_BITTERNESS};
pub use ingredient::{
    Allergen, Care, Form, Ingredient, Kind, Measures, Pack, Part, PhRange, Role, Trait,
};
pub(crate) use lots::stronger;
pub use lots::{Lot, LotFigure, of_lots};
pub use own::{
    Alkalinity, KeptMixture, KeptPast, Kitchen, Larder, MOST_CARBONATE, MeasuringSet, OwnFigures,
    OwnIngredient, OwnProduce, OwnVessel, Reading, Water,
};
pub use pooled::{Levels, Pooled};
pub use produce::{Produce, Size};
pub use staple::{Choice, Staple};
pub use texture::{SugarDraw, Texture, TextureKind};
pub(crate) use vessel::SOUR_FOR_METAL;
pub use vessel::{Material, Press, Strainer, VesselKind};
pub(crate) use weigh::MAX_LINE;
pub use weigh::{UnknownMeasure, Weighed};
pub use yields::Yield;

use std::collections::HashMap;
use std::sync::LazyLock;

use crate::quantity::Saying;

/// Ingredients and produce, findable by id.
#[derive(Debug, Clone)]
pub struct Cupboard {
    ingredients: Vec<Ingredient>,
    by_id: HashMap<String, usize>,
    produce: Vec<Produce>,
    /// For each ingredient the produce that it comes from.
    origins: Vec<Vec<usize>>,
    staples: HashMap<Staple, Vec<usize>>,
    kitchen: Kitchen,
    saying: Saying,
}

static BUILTIN: LazyLock<Cupboard> = LazyLock::new(tables::read);

impl Cupboard {
    /// The tables that ship with the application.
    #[must_use]
    pub fn builtin() -> &'static Self {
        &BUILTIN
    }

    fn new(ingredients: Vec<Ingredient>, produce: Vec<Produce>) -> Self {
        let by_id = ingredients.iter().enumerate().map(|(i, it)| (it.id.clone(), i)).collect();
        let origins = ingredients
            .iter()
            .map(|it| (0..produce.len()).filter(|p| produce[*p].gives.contains(&it.id)).collect())
            .collect();
        Self {
            staples: staple::by_choice(&ingredients),
            ingredients,
            by_id,
            produce,
            origins,
            kitchen: Kitchen::default(),
            saying: Saying::default(),
        }
    }

    /// What of it is this kitchen's own.
    #[must_use]
    pub fn kitchen(&self) -> &Kitchen {
        &self.kitchen
    }

    /// The same cupboard, spoken of in other units.
    #[must_use]
    pub fn said_in(self, saying: Saying) -> Self {
        Self { saying, ..self }
    }

    /// In which units it is spoken of.
    #[must_use]
    pub fn saying(&self) -> Saying {
        self.saying
    }

    /// How many times as fast as the tables say its pots lose water: as it was said, or as its batches taught.
    #[must_use]
    pub fn boil_off(&self) -> f64 {
        self.kitchen.boil_off.unwrap_or_else(|| self.kitchen.learned(&LotFigure::BoilOff))
    }

    /// How many times as long as the tables say things take to cool here.
    #[must_use]
    pub fn cooling(&self) -> f64 {
        self.kitchen.learned(&LotFigure::Cooling)
    }

    /// A size of produce by `produce/size`.
    #[must_use]
    pub fn size_named(&self, key: &str) -> Option<(&Produce, &Size)> {
        let (produce, size) = key.split_once('/')?;
        let produce = self.produce.iter().find(|p| p.id == produce)?;
        Some((produce, produce.sizes.iter().find(|s| s.name == size)?))
    }

    /// Flavour and texture as of something of that sort of which no more is known: those of the first of
    /// its kind in the tables that is like it.
    fn alike(&self, kind: Kind, dry: bool) -> (Flavour, Texture) {
        let texture = TextureKind::usual(kind, dry);
        let of_kind = || self.ingredients.iter().filter(|it| it.kind == kind);
        let like = self.ingredients.iter().find(|it| it.texture.kind == texture);
        let tastes = of_kind().find(|it| it.texture.kind == texture).or(of_kind().next());
        let (like, tastes) = (like.unwrap_or(&self.ingredients[0]), tastes.or(like));
        (tastes.unwrap_or(like).flavour, like.texture)
    }

    /// All ingredients in the order of the tables.
    #[must_use]
    pub fn ingredients(&self) -> &[Ingredient] {
        &self.ingredients
    }

    /// Everything that is bought by the piece.
    #[must_use]
    pub fn produce(&self) -> &[Produce] {
        &self.produce
    }

    /// The ingredient of that id.
    #[must_use]
    pub fn ingredient(&self, id: &str) -> Option<&Ingredient> {
        self.by_id.get(id).map(|i| &self.ingredients[*i])
    }

    /// What is taken for that when nothing else was said.
    #[must_use]
    pub fn staple(&self, staple: Staple) -> &Ingredient {
        // The tables have one for each.
        self.staples(staple).next().unwrap_or(&self.ingredients[0])
    }

    /// All that may be taken for that, the first choice first.
    pub fn staples(&self, staple: Staple) -> impl Iterator<Item = &Ingredient> {
        self.staples.get(&staple).into_iter().flatten().map(|at| &self.ingredients[*at])
    }

    /// Whether an ingredient is of that kind.
    #[must_use]
    pub fn is_of(&self, id: &str, kind: Kind) -> bool {
        self.ingredient(id).is_some_and(|it| it.kind == kind)
    }

    /// Its position among [`Self::ingredients`].
    #[must_use]
    pub fn position(&self, id: &str) -> Option<usize> {
        self.by_id.get(id).copied()
    }

    /// The produce that gives an ingredient: lemons for lemon juice and for lemon zest.
    pub fn produce_of(&self, ingredient: &Ingredient) -> impl Iterator<Item = &Produce> {
        let index = self.by_id.get(&ingredient.id).copied();
        index.into_iter().flat_map(|i| self.origins[i].iter().map(|p| &self.produce[*p]))
    }
}
