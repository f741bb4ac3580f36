//! What a line says and nothing was made of.
//!
//! A name is found wherever its words stand, and what stands beside them may make it something else: sherry vinegar, a
//! coconut jelly, lilac blossoms. A list of such words never ends. So it is the other words that are listed, those
//! that every recipe is written in and that change nothing: "ripe", "thinly", "until". A word that isn't among them,
//! and is no ingredient, no measure and nothing that is done, is one that a cook should look at.

use std::collections::HashSet;
use std::sync::LazyLock;

use keen_core::quantity::said::{Word, measure_word, number, time};

use super::item::{Item, guess};
use super::names::Names;
use super::outcome::Sure;
use super::said::Said;
use super::verbs::{done_verb, verb_of};

static COMMON: LazyLock<HashSet<&str>> =
    LazyLock::new(|| include_str!("common.txt").split_whitespace().collect());

/// The words that nobody knows here.
pub(super) fn unknown<'w>(words: &'w [Word], names: &Names<'_>) -> Vec<&'w Word> {
    let mut known: Vec<bool> = words.iter().map(is_common).collect();
    for at in names.find_all(words).iter().flat_map(|found| &found.at) {
        known[*at] = true;
    }
    for at in 0..words.len() {
        if let Some((_, used)) = number(&words[at..]) {
            known[at..at + used].fill(true);
        }
    }
    words.iter().zip(known).filter(|(_, known)| !known).map(|(word, _)| word).collect()
}

fn is_common(word: &Word) -> bool {
    word.is_sign()
        || COMMON.contains(word.text.as_str())
        || COMMON.contains(word.stem.as_str())
        || measure_word(&word.text).is_some()
        || verb_of(&word.stem).is_some()
        || done_verb(&word.text).is_some()
}

/// Marks what was taken for an ingredient although a word beside it isn't known.
pub(super) fn mark_unknown(items: &mut [Item], words: &[Word], names: &Names<'_>) {
    for word in unknown(words, names) {
        let said_of = |item: &&mut Item| item.words.iter().any(|w| w.from == word.from);
        let Some(item) = items.iter_mut().find(said_of) else { continue };
        if item.sure == Sure::Understood && item.ingredient.is_some() {
            guess(item, format!("We don't know “{}”: check that it's the same.", word.written));
        }
    }
}

/// Whether a number stands beside an amount that is neither a part of it nor the size of the pieces: "6 limes, 2 of
/// them sliced".
pub(super) fn says_another_number(words: &[Word], first: &Said, second: Option<&Said>) -> bool {
    const OF_SOMETHING_ELSE: [&str; 25] = [
        "into", "in", "from", "x", "×", "/", "|", "=", "or", "to", "every", "each", "per", "for",
        "by", "-", "–", "+", "plus", "and", "at", "about", "~", ":", "#",
    ];
    const UNITS: [&str; 14] =
        ["%", "°", "°c", "°f", "percent", "degree", "cm", "mm", "inch", ":", "/", "x", "way", "-"];
    let spans = [Some(first), second];
    let read = |at: usize| spans.iter().flatten().any(|said| (said.from..said.to).contains(&at));
    let mut depth = 0_i32;
    (0..words.len()).any(|at| {
        depth += i32::from(words[at].is(&["(", "["])) - i32::from(words[at].is(&[")", "]"]));
        let loose =
            words[at].is(&["a", "an", "one", "half", "quarter", "up", "whole", "good", "full"]);
        let before = at.checked_sub(1).map(|b| &words[b]);
        // "(about 4 lemons)" is another measure of the same; "(zest of 2)" isn't.
        let same = depth > 0 && !before.is_some_and(|w| w.is(&["of", ","]));
        if same || loose || read(at) {
            return false;
        }
        let Some((_, used)) = number(&words[at..]) else { return false };
        let behind = words.get(at + used);
        let other = before.is_some_and(|w| w.is(&OF_SOMETHING_ELSE))
            || behind.is_some_and(|w| w.is(&UNITS))
            || time(&words[at..]).is_some()
            || (at..at + used).any(read);
        !other
    })
}

#[cfg(test)]
mod tests {
    use super::super::said::all_said;
    use super::*;
    use keen_core::cupboard::Cupboard;
    use keen_core::quantity::said::words;

    #[test]
    fn a_word_that_no_recipe_is_written_in_is_unknown() {
        let names = Names::of(Cupboard::builtin());
        let unknown = |text: &str| -> Vec<String> {
            unknown(&words(text), &names).into_iter().map(|w| w.text.clone()).collect()
        };
        for text in [
            "2 large ripe mangoes, peeled and roughly chopped (about 600 g)",
            "zest of 3 unwaxed lemons, finely grated",
            "Simmer very gently, uncovered, for ten minutes until it smells of clove",
        ] {
            assert_eq!(unknown(text), [""; 0], "{text}");
        }
        assert_eq!(unknown("2 tbsp sherry vinegar"), ["sherry"]);
        assert_eq!(unknown("Fill a jar with lilac blossoms"), ["lilac"]);
    }

    #[test]
    fn a_number_that_is_no_part_of_the_amount_is_another_one() {
        let another = |text: &str| {
            let words = words(text);
            let (first, second) = all_said(&words);
            says_another_number(&words, &first.unwrap(), second.as_ref())
        };
        assert!(another("6 limes, 2 of them sliced"));
        assert!(another("sugar 200 g, 150 g honey"));
        assert!(another("3 grapefruit (zest of 2, juice of all)"));
        for text in [
            "6 limes, cut into 4",
            "200 g / 7 oz sugar",
            "2 cups sugar (400 g)",
            "1.5 l water, 90 °C",
            "4 oranges, sliced 5 mm thick",
            "2 to 3 limes",
            "1 l water, boiled for 10 minutes",
        ] {
            assert!(!another(text), "{text}");
        }
    }
}
