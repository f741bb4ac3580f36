//! What a kitchen takes when nothing else was said.
//!
//! A drink is thinned with water, sweetened with sugar, sharpened with lemon: which ingredient that is stands in the
//! tables, in the order in which one would reach for it, and nowhere else. So a cupboard with other staples is another
//! table, not other code.

use std::collections::HashMap;
use std::str::FromStr;

use serde::Deserialize;

use super::Ingredient;

/// What an ingredient is taken for when nothing else was said.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Staple {
    /// What thins.
    Water,
    /// What chills in the glass.
    Ice,
    /// What lengthens with bubbles.
    Soda,
    /// What sweetens, and what a syrup is made of.
    Sugar,
    /// The juice that makes sour.
    SourJuice,
    /// The acid that is weighed.
    DryAcid,
    /// What lifts a flat taste.
    Salt,
    /// What takes acid away.
    BakingSoda,
    /// Zest that wakes a flat drink up.
    Zest,
    /// What gives a thin drink body.
    Body,
    /// What a glass is dressed with.
    Garnish,
    /// What is poured in for those who take alcohol.
    Spirit,
    /// What is stirred into one glass to sweeten it.
    SweetensAGlass,
    /// What is stirred into one glass to sharpen it.
    SharpensAGlass,
    /// What takes the place of a sweetener that somebody doesn't take.
    ReplacesASweetener,
    /// What takes the place of something sour that somebody doesn't take.
    ReplacesASouring,
}

impl Staple {
    /// All of them.
    pub const ALL: [Self; 16] = [
        Self::Water,
        Self::Ice,
        Self::Soda,
        Self::Sugar,
        Self::SourJuice,
        Self::DryAcid,
        Self::Salt,
        Self::BakingSoda,
        Self::Zest,
        Self::Body,
        Self::Garnish,
        Self::Spirit,
        Self::SweetensAGlass,
        Self::SharpensAGlass,
        Self::ReplacesASweetener,
        Self::ReplacesASouring,
    ];
}

/// What an ingredient is a staple for, and as which choice: `sugar`, `sweetens_a_glass:2`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(try_from = "String")]
pub struct Choice {
    /// Its use.
    pub staple: Staple,
    /// The first one is taken unless there is a reason not to.
    pub rank: u8,
}

impl TryFrom<String> for Choice {
    type Error = String;

    fn try_from(text: String) -> Result<Self, String> {
        use serde::de::IntoDeserializer;
        let (staple, rank) = text.split_once(':').unwrap_or((&text, "1"));
        let deserializer: serde::de::value::StrDeserializer<'_, serde::de::value::Error> =
            staple.into_deserializer();
        let staple = Staple::deserialize(deserializer).map_err(|error| error.to_string())?;
        Ok(Self { staple, rank: u8::from_str(rank).map_err(|error| error.to_string())? })
    }
}

/// The positions of the ingredients that are taken for each, the first choice first.
pub(super) fn by_choice(ingredients: &[Ingredient]) -> HashMap<Staple, Vec<usize>> {
    let mut found: HashMap<Staple, Vec<(u8, usize)>> = HashMap::new();
    for (at, it) in ingredients.iter().enumerate() {
        for choice in &it.staples {
            found.entry(choice.staple).or_default().push((choice.rank, at));
        }
    }
    let in_order = |mut all: Vec<(u8, usize)>| {
        all.sort_unstable();
        all.into_iter().map(|(_, at)| at).collect()
    };
    found.into_iter().map(|(staple, all)| (staple, in_order(all))).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cupboard::{Cupboard, Kind};

    #[test]
    fn there_is_a_first_choice_for_everything() {
        let cupboard = Cupboard::builtin();
        for staple in Staple::ALL {
            let ranks: Vec<u8> = cupboard
                .staples(staple)
                .flat_map(|it| &it.staples)
                .filter(|choice| choice.staple == staple)
                .map(|choice| choice.rank)
                .collect();
            let in_turn: Vec<u8> = (1..=ranks.len() as u8).collect();
            assert!(!ranks.is_empty() && ranks == in_turn, "{staple:?}: {ranks:?}");
        }
    }

    #[test]
    fn each_is_what_it_is_taken_for() {
        let cupboard = Cupboard::builtin();
        let is = |staple, kind| assert_eq!(cupboard.staple(staple).kind, kind);
        is(Staple::Water, Kind::Water);
        is(Staple::Ice, Kind::Ice);
        is(Staple::Zest, Kind::Zest);
        is(Staple::SourJuice, Kind::Juice);
        is(Staple::Salt, Kind::Salt);
        for it in cupboard.staples(Staple::SweetensAGlass) {
            assert!(it.per_gram.sucrose_equivalent().0 > 0.3, "{} doesn’t sweeten", it.id);
        }
        for it in cupboard.staples(Staple::SharpensAGlass) {
            assert!(it.per_gram.titratable_acid() > 0.03, "{} isn’t sour", it.id);
        }
    }

    #[test]
    fn a_word_with_its_place_is_read_and_any_other_is_not() {
        let read = |text: &str| Choice::try_from(text.to_owned());
        assert_eq!(read("sugar"), Ok(Choice { staple: Staple::Sugar, rank: 1 }));
        assert_eq!(
            read("sweetens_a_glass:2"),
            Ok(Choice { staple: Staple::SweetensAGlass, rank: 2 })
        );
        assert!(read("sweets").is_err() && read("sugar:").is_err() && read("").is_err());
    }
}
