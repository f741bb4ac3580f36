//! From what was said to what it weighs, and back into each way of saying it.

use super::{Cupboard, Form, Ingredient, Kind, Part, Produce, Size, Trait};
use crate::quantity::{Amount, Dimension, Grams, Measure, Millilitres};

/// What an amount of an ingredient comes to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Weighed {
    /// Its weight.
    pub grams: Grams,
    /// How much of that goes by what pieces of fruit yield, and varies as they do.
    pub by_pieces: Grams,
    /// How many pieces of produce, if it was said in pieces.
    pub pieces: Option<f64>,
}

/// A measure that the ingredient does not come in.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error(
    "We don't know how much “{measure}” of {} is, so none of it is counted. Use {instead}.",
    .ingredient.to_lowercase()
)]
pub struct UnknownMeasure {
    /// The ingredient's name.
    pub ingredient: String,
    /// The words that were used.
    pub measure: String,
    /// What would be understood.
    pub instead: String,
}

/// The most that one line of a drink may weigh: a tonne is no kitchen's.
pub(crate) const MAX_LINE: Grams = Grams(1e6);

impl Cupboard {
    /// Weighs an amount of an ingredient.
    ///
    /// Volumes go by the ingredient's density as it fills a measure; pieces by the mean of the
    /// produce that it comes from: juice by the reamer's yield, zest by what is grated off, anything
    /// else by the share of the piece that is used.
    ///
    /// # Errors
    /// [`UnknownMeasure`] where the words fit neither.
    pub fn weigh(
        &self,
        ingredient: &Ingredient,
        amount: &Amount,
    ) -> Result<Weighed, UnknownMeasure> {
        let mut weighed = Weighed { grams: Grams(0.0), by_pieces: Grams(0.0), pieces: None };
        for term in amount.terms() {
            let each = match &term.measure {
                Measure::Piece(words) => {
                    let (_, size) = self
                        .piece(ingredient, words)
                        .ok_or_else(|| self.unknown(ingredient, words))?;
                    *weighed.pieces.get_or_insert(0.0) += term.value;
                    let each = grams_from_piece(ingredient, size);
                    weighed.by_pieces += each * term.value;
                    each
                }
                measure if measure.dimension() == Dimension::Mass => Grams(measure.factor()),
                measure => ingredient
                    .grams_in(measure)
                    .ok_or_else(|| self.unknown(ingredient, measure.name(1.0)))?,
            };
            weighed.grams += each * term.value;
        }
        Ok(weighed)
    }

    /// The produce and size that the words after a number mean for this ingredient.
    #[must_use]
    pub fn piece(&self, ingredient: &Ingredient, words: &str) -> Option<(&Produce, &Size)> {
        let words: Vec<String> =
            words.split([' ', ',']).map(stem).filter(|w| !w.is_empty() && w != "of").collect();
        self.produce_of(ingredient).find_map(|produce| {
            // The longest size name wins, so that "fresh leaves" is not a "leaf".
            let mut sizes: Vec<&Size> = produce.sizes.iter().collect();
            sizes.sort_by_key(|s| std::cmp::Reverse(s.name.len()));
            let says = |size: &&&Size| size.name.split(' ').all(|w| words.contains(&stem(w)));
            let size = sizes.iter().find(says).copied();
            let known = |word: &String| {
                size.is_some_and(|s| s.name.split(' ').any(|w| stem(w) == *word))
                    || [&produce.name, &produce.plural, &ingredient.name]
                        .iter()
                        .any(|name| name.split([' ', ',']).any(|w| stem(w) == *word))
                    || ["piece", "whole", "fresh", "dried"].contains(&word.as_str())
            };
            words.iter().all(known).then(|| (produce, size.unwrap_or_else(|| produce.usual())))
        })
    }

    fn unknown(&self, ingredient: &Ingredient, measure: &str) -> UnknownMeasure {
        let mut instead = vec!["grams".to_owned()];
        if ingredient.measures.density.is_some() {
            instead.push("millilitres, cups or spoons".to_owned());
        }
        if let Some(produce) = self.produce_of(ingredient).next() {
            instead.push(produce.plural.clone());
        }
        UnknownMeasure {
            ingredient: ingredient.name.clone(),
            measure: measure.to_owned(),
            instead: instead.join(", or "),
        }
    }

    /// So much of an ingredient in whole and part pieces, where it comes in pieces.
    #[must_use]
    pub(crate) fn in_pieces(&self, ingredient: &Ingredient, grams: Grams) -> Option<Amount> {
        let produce = self.produce_of(ingredient).next()?;
        let count = grams / grams_from_piece(ingredient, produce.usual());
        let whole = crate::quantity::round_to_kitchen(count, &Measure::Piece(String::new()));
        Some(Amount::of(count, Measure::Piece(produce.noun(whole))))
    }
}

impl Cupboard {
    /// Whether it is a juice that comes from fruit that is squeezed or pressed.
    #[must_use]
    pub fn can_be_squeezed(&self, it: &Ingredient) -> bool {
        it.kind == Kind::Juice
            && self
                .produce_of(it)
                .any(|p| p.sizes.iter().any(|s| s.juice.is_some() || s.press_fraction.is_some()))
    }

    /// What is left of the fruit when its juice has been squeezed, where that can be kept.
    #[must_use]
    pub fn halves_of(&self, juice: &Ingredient) -> Option<&Ingredient> {
        self.ingredient(juice.halves.as_deref()?)
    }

    /// An amount to begin with when it is put into a pitcher of two litres.
    #[must_use]
    pub fn usual_amount(&self, it: &Ingredient) -> Amount {
        let pieces = |count: f64| {
            let produce = self.produce_of(it).next();
            produce.map(|p| Amount::of(count, Measure::Piece(p.noun(count))))
        };
        let by_weight = |grams: f64| Amount::grams(grams);
        match it.kind {
            Kind::Juice if self.can_be_squeezed(it) => {
                // Two limes, one grapefruit; nobody squeezes a whole pineapple into one pitcher.
                let each = pieces(1.0).and_then(|one| self.weigh(it, &one).ok());
                let count = match each.map(|w| w.grams.0) {
                    Some(grams) if grams <= 120.0 => 2.0,
                    Some(grams) if grams <= 300.0 => 1.0,
                    _ => return Amount::millilitres(100.0),
                };
                pieces(count).unwrap_or_else(|| Amount::millilitres(100.0))
            }
            Kind::Juice | Kind::Dairy => Amount::millilitres(100.0),
            Kind::Fruit | Kind::Vegetable => by_weight(200.0),
            Kind::Root | Kind::Stem => by_weight(30.0),
            Kind::Herb => by_weight(10.0),
            Kind::Flower => by_weight(20.0),
            // Whole spices are counted: five grams of cloves would be fifty.
            Kind::Spice => pieces(it.usual_pieces.unwrap_or(1.0)).unwrap_or_else(|| by_weight(1.0)),
            Kind::Flavouring if it.is(Trait::ByDrop) => Amount::of(3.0, Measure::Drop),
            Kind::Peel => by_weight(20.0),
            Kind::Zest | Kind::Seed => by_weight(5.0),
            Kind::Grain | Kind::Nut => by_weight(100.0),
            Kind::Sweetener if it.per_gram.sucrose_equivalent().0 > 10.0 => by_weight(0.1),
            Kind::Sweetener | Kind::Syrup => by_weight(50.0),
            Kind::Acid if it.form == Form::Liquid => Amount::millilitres(15.0),
            Kind::Acid => by_weight(2.0),
            Kind::Salt => Amount::of(1.0, Measure::Pinch),
            Kind::Water | Kind::Soda => Amount::millilitres(250.0),
            Kind::Ice => pieces(3.0).unwrap_or_else(|| by_weight(75.0)),
            // Bitters are dashed.
            Kind::Spirit if it.flavour.bitterness > 0.0 => Amount::of(2.0, Measure::Dash),
            Kind::Spirit => Amount::millilitres(30.0),
            Kind::Flavouring => Amount::of(1.0, Measure::Teaspoon),
        }
    }
}

impl Produce {
    /// What to say after a number: "lime", "limes"; "leaf", "leaves" for what is counted in parts.
    #[must_use]
    pub(crate) fn noun(&self, count: f64) -> String {
        self.noun_of(self.usual(), count)
    }

    /// The same for another size than the usual: "large limes", "fresh leaf".
    pub(crate) fn noun_of(&self, size: &Size, count: f64) -> String {
        let part = &size.name;
        if !["small", "medium", "large"].contains(&part.as_str()) {
            return match (count > 1.0, part.strip_suffix("leaf")) {
                (true, Some(front)) => format!("{front}leaves"),
                (true, None) => format!("{part}s"),
                (false, _) => part.clone(),
            };
        }
        let name = if count > 1.0 { self.plural.clone() } else { self.name.to_lowercase() };
        if *part == self.usual().name { name } else { format!("{part} {name}") }
    }
}

/// Grams of the ingredient that one piece gives.
fn grams_from_piece(ingredient: &Ingredient, size: &Size) -> Grams {
    match (ingredient.part, ingredient.form) {
        (Part::Zest, _) => size.zest.unwrap_or(Grams(1.0)),
        (Part::Squeezed, _) => {
            let juice = size.juice.map_or(0.0, |ml| ml.0 * 1.03);
            Grams((size.whole.0 - juice).max(1.0))
        }
        (Part::Peel, _) => size.peel.unwrap_or(Grams(5.0)),
        (Part::Whole, _) => size.whole,
        (_, Form::Liquid) => match (size.juice, size.press_fraction) {
            (Some(juice), _) => Grams(juice.0 * ingredient.measures.density.unwrap_or(1.0)),
            (None, Some(fraction)) => size.whole * fraction,
            (None, None) => size.whole * size.edible,
        },
        _ => size.whole * size.edible,
    }
}

impl Ingredient {
    /// Grams in one of a volume measure.
    fn grams_in(&self, measure: &Measure) -> Option<Grams> {
        let by_spoon = match measure {
            Measure::Tablespoon => self.measures.tablespoon,
            Measure::Teaspoon => self.measures.teaspoon,
            Measure::Pinch | Measure::Dash => {
                self.measures.teaspoon.map(|g| g * measure.factor() / Measure::Teaspoon.factor())
            }
            _ => None,
        };
        by_spoon.or(self.measures.density.map(|d| d * measure.factor())).map(Grams)
    }

    /// The volume of so many grams as it fills a measure.
    #[must_use]
    pub fn fills(&self, grams: Grams) -> Option<Millilitres> {
        self.measures.density.map(|density| Millilitres(grams.0 / density))
    }

    /// So many grams in cups and spoons, by the measure that each size of spoon holds.
    #[must_use]
    pub(crate) fn in_spoons(&self, grams: Grams) -> Option<Amount> {
        let volume = self.fills(grams)?;
        // Below a quarter cup the spoon's own weight decides; chopped leaves pack tighter in it.
        let spoon = if volume.0 < Measure::Tablespoon.factor() {
            Measure::Teaspoon
        } else if volume.0 < Measure::Cup.factor() / 4.0 {
            Measure::Tablespoon
        } else {
            return Some(Amount::of(volume.0 / Measure::Cup.factor(), Measure::Cup));
        };
        let each = self.grams_in(&spoon)?;
        Some(Amount::of(grams / each, spoon))
    }
}

/// A word without case and plural, for comparing.
fn stem(word: &str) -> String {
    let word = word.trim_matches(|c: char| !c.is_alphanumeric()).to_lowercase();
    if word == "leaves" {
        return "leaf".to_owned();
    }
    if let Some(front) = word.strip_suffix("ies") {
        return format!("{front}y");
    }
    if word.ends_with("ches") || word.ends_with("shes") {
        return word[..word.len() - 2].to_owned();
    }
    if let Some(front) = word.strip_suffix("oes") {
        return format!("{front}o");
    }
    if word.len() > 3 && !word.ends_with("ss") && !word.ends_with("us") {
        return word.strip_suffix('s').unwrap_or(&word).to_owned();
    }
    word
}

#[cfg(test)]
mod tests {
    use super::*;

    fn grams(id: &str, amount: &str) -> f64 {
        let cupboard = Cupboard::builtin();
        let it = cupboard.ingredient(id).unwrap();
        cupboard.weigh(it, &amount.parse().unwrap()).unwrap().grams.0
    }

    #[test]
    fn kitchen_measures_have_their_weights() {
        assert!((grams("white_sugar", "1 cup") - 200.0).abs() < 0.01);
        assert!((grams("white_sugar", "2 tsp") - 8.4).abs() < 0.01);
        assert!((grams("water", "0,5 l") - 499.0).abs() < 1.0);
        assert!((grams("honey", "1 tbsp") - 21.0).abs() < 0.1);
        assert!((grams("citric_acid", "1 pinch") - 0.3).abs() < 1e-9);
        assert!((grams("white_sugar", "1 metric cup") - 211.3).abs() < 0.1);
    }

    #[test]
    fn pieces_go_by_what_is_made_of_them() {
        assert!((grams("lemon_juice", "2 lemons") - 2.0 * 43.0 * 1.031).abs() < 0.01);
        assert!((grams("lemon_juice", "2 large lemons") - 2.0 * 62.0 * 1.031).abs() < 0.01);
        assert!((grams("lemon_zest", "2") - 10.0).abs() < 0.01);
        assert!((grams("mint", "10 leaves") - 1.5).abs() < 0.01);
        assert!((grams("mint", "2 sprigs") - 2.25).abs() < 0.01);
        assert!((grams("cinnamon_stick", "2 sticks") - 6.0).abs() < 0.01);
        assert!((grams("bay_leaf", "3 bay leaves") - 0.6).abs() < 0.01);
        assert!((grams("bay_leaf", "3 fresh leaves") - 1.5).abs() < 0.01);
        assert!((grams("strawberry", "a strawberry") - 12.22).abs() < 0.01);
        assert!((grams("lime_whole", "half a lime") - 35.0).abs() < 0.01);
        assert!((grams("lemon_slices", "4 slices") - 36.0).abs() < 0.01);
        assert!((grams("ginger_root", "an inch of ginger") - 13.0 * 0.91).abs() < 0.01);
        assert!((grams("mint", "a handful") - 8.0).abs() < 0.01);
        assert!((grams("ice", "4 cubes") - 84.0).abs() < 0.01);
    }

    #[test]
    fn a_strange_measure_is_refused_with_what_would_do() {
        let cupboard = Cupboard::builtin();
        let it = cupboard.ingredient("lemon_juice").unwrap();
        let error = cupboard.weigh(it, &"2 glugs".parse().unwrap()).unwrap_err();
        assert_eq!(
            error.to_string(),
            "We don't know how much “glugs” of lemon juice is, so none of it is counted. Use grams, or \
             millilitres, cups or spoons, or lemons."
        );
        assert!(cupboard.weigh(it, &"2 bananas".parse().unwrap()).is_err());
    }

    #[test]
    fn every_way_of_saying_an_amount_weighs_the_same() {
        let cupboard = Cupboard::builtin();
        for it in cupboard.ingredients() {
            for grams in [0.4, 7.0, 30.0, 180.0, 2000.0].map(Grams) {
                let ways = [it.in_spoons(grams), cupboard.in_pieces(it, grams)];
                for amount in ways.into_iter().flatten() {
                    let back = cupboard.weigh(it, &amount).unwrap().grams;
                    assert!(
                        (back / grams - 1.0).abs() < 1e-6,
                        "{}: {grams:?} is said {amount}, which weighs {back:?}",
                        it.id
                    );
                }
            }
        }
    }
}
