//! One line that is typed to add something: "2 cups hibiscus", "zest of 3 lemons", "6 limes, juiced".

use keen_core::cupboard::{Cupboard, Kind};
use keen_core::drink::{Cut, Warmth};
use keen_core::quantity::said::{Word, words};

use keen_core::quantity::{Amount, Millilitres};
use serde::Serialize;

use super::item::Item;
use super::list::items;
use super::names::Names;
use super::outcome::{Offer, Sure};

/// The reading of a line.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LineRead {
    /// The ingredients, in the order of the line.
    pub things: Vec<LineThing>,
    /// Ingredients with a similar name, if nothing was found.
    pub alike: Vec<Offer>,
}

/// An ingredient with its amount.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LineThing {
    /// The ingredient's id.
    pub ingredient: String,
    /// Its name.
    pub name: String,
    /// How much.
    pub amount: Amount,
    /// The weight, g.
    pub grams: f64,
    /// Whether the line said how much.
    pub said: bool,
    /// Whether it is squeezed from fruit.
    pub squeezed: bool,
    /// Its temperature when it is added.
    pub warmth: Warmth,
    /// The cut, if any.
    pub cut: Cut,
    /// The assumption.
    pub assumed: Vec<String>,
}

/// Longer than this it is a recipe, and pasted.
const MOST: usize = 200;

/// What a part is where nothing says so: a shot.
const USUAL_PART: Millilitres = Millilitres(30.0);

/// Reads a line as what goes into a drink.
#[must_use]
pub fn read_line(text: &str, cupboard: &Cupboard) -> LineRead {
    let text: String = text.chars().take(MOST).collect();
    let words = words(&text);
    let names = Names::of(cupboard);
    let things = things_in(&words, &names);
    let alike = if things.is_empty() {
        let offer = |id: &str, name: &str| Offer { id: id.to_owned(), name: name.to_owned() };
        names.nearest(&words).into_iter().map(|it| offer(&it.id, &it.name)).collect()
    } else {
        Vec::new()
    };
    LineRead { things, alike }
}

/// What these words say goes in, each with its amount or as much as is usual.
pub(super) fn things_in(words: &[Word], names: &Names<'_>) -> Vec<LineThing> {
    let cupboard = names.cupboard;
    let found = items(words, names);
    let unknown = |item: &Item| item.sure == Sure::Asked && item.ingredient.is_none();
    // Of a line that is understood in part nothing is taken: what is left out would be lost without a word.
    if found.iter().any(unknown) {
        return Vec::new();
    }
    found
        .iter()
        .filter_map(|item| {
            let it = cupboard.ingredient(item.ingredient.as_deref()?)?;
            let amount = item.amount.clone().unwrap_or_else(|| cupboard.usual_amount(it));
            let grams = cupboard.weigh(it, &amount.in_parts_of(USUAL_PART)).ok()?.grams.0;
            let squeezed = it.kind == Kind::Juice && cupboard.can_be_squeezed(it);
            Some(LineThing {
                ingredient: it.id.clone(),
                name: it.name.clone(),
                amount,
                grams,
                said: item.said,
                squeezed,
                warmth: item.warmth,
                cut: item.cut,
                assumed: if item.said { item.why.clone() } else { Vec::new() },
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> Vec<(String, String)> {
        let read = read_line(text, Cupboard::builtin());
        read.things.into_iter().map(|t| (t.ingredient, t.amount.to_string())).collect()
    }

    #[test]
    fn a_line_says_what_and_how_much() {
        for (text, ingredient, amount) in [
            ("2 cups hibiscus", "hibiscus_dried", "2 cups"),
            ("zest of 3 lemons", "lemon_zest", "3 lemons"),
            ("6 limes, juiced", "lime_juice", "6 limes"),
            ("juice of two and a half limes", "lime_juice", "2 1/2 limes"),
            ("a pinch of salt", "table_salt", "1 pinch"),
            ("200 g sugar", "white_sugar", "200 g"),
            ("half a cup of superfine sugar", "caster_sugar", "1/2 cup"),
            ("1.5 l water", "water", "1.5 l"),
            ("50 g jamaica", "hibiscus_dried", "50 g"),
            ("3 sprigs of mint", "mint", "3 sprigs"),
        ] {
            assert_eq!(read(text), [(ingredient.to_owned(), amount.to_owned())], "{text}");
        }
        let fizz: Vec<String> = read("2 : 2 : 3 lemon juice, simple syrup and soda water")
            .into_iter()
            .map(|(id, amount)| format!("{id} {amount}"))
            .collect();
        assert_eq!(read("2 : 2 : 3 lemon juice, syrup, soda").len(), 3);
        assert_eq!(read("2 : 2 : 3 lemon juice, quicksilver, soda"), []);
        let parts = ["lemon_juice 2 parts", "simple_syrup_1_1 2 parts", "club_soda 3 parts"];
        assert_eq!(fizz, parts);
        assert_eq!(read("lime juice : honey = 3 : 1").len(), 2);
        let limes = read_line("6 limes, juiced", Cupboard::builtin());
        assert!(limes.things[0].squeezed && limes.things[0].said);
        assert!(!read_line("sugar", Cupboard::builtin()).things[0].said);
    }

    #[test]
    fn what_is_not_there_is_looked_for_by_its_letters() {
        let slip = read_line("hibscus", Cupboard::builtin());
        assert!(slip.things.is_empty());
        assert!(slip.alike.iter().any(|o| o.id == "hibiscus_dried"), "{:?}", slip.alike);
        assert!(read("").is_empty());
    }
}
