//! What a number is counted in: a measure of the kitchen, or a part of the thing itself.

use super::words::{Word, stem};
use crate::quantity::Measure;

/// A word after a number that says in what it is counted.
#[derive(Debug, Clone, PartialEq)]
pub enum Counted {
    /// A measure of the kitchen.
    In(Measure),
    /// By a part of the thing: sprig, leaf, bag.
    By(&'static str),
}

/// The measure that a single word means.
pub fn measure_word(text: &str) -> Option<Counted> {
    use Measure as M;
    let bare = text.trim_end_matches('.');
    if let Some(known) = match bare {
        "tblsp" | "tbl" | "tablespoonful" | "tablespoonfuls" | "tablespoonsful"
        | "dessertspoons" | "tbspn" => Some(M::Tablespoon),
        "teaspoonful" | "teaspoonfuls" | "teaspoonsful" | "tspn" => Some(M::Teaspoon),
        "cupful" | "cupfuls" | "cupsful" | "c" => Some(M::Cup),
        "taza" | "tazas" => Some(M::Cup),
        "cucharada" | "cucharadas" => Some(M::Tablespoon),
        "cucharadita" | "cucharaditas" => Some(M::Teaspoon),
        "litro" | "litros" => Some(M::Litre),
        "gramo" | "gramos" => Some(M::Gram),
        "pizca" | "pizcas" => Some(M::Pinch),
        "mls" | "mil" | "mils" | "millis" => Some(M::Millilitre),
        "ltr" | "ltrs" | "lt" | "lts" => Some(M::Litre),
        "gms" | "gm" | "grms" => Some(M::Gram),
        "kgs" => Some(M::Kilogram),
        "ozs" => Some(M::Ounce),
        _ => None,
    } {
        return Some(Counted::In(known));
    }
    if let Some(by) = BY.iter().find(|by| stem(bare) == **by) {
        return Some(Counted::By(by));
    }
    match bare {
        "pc" | "pcs" => Some(Counted::By("piece")),
        "part" | "parts" => Some(Counted::In(M::Part)),
        _ => M::from_words(bare).map(Counted::In),
    }
}

/// What things are counted by. What that weighs is the cupboard's to say, or guessed.
const BY: [&str; 40] = [
    "spoon",
    "spoonful",
    "sprig",
    "handful",
    "bunch",
    "leaf",
    "stalk",
    "stick",
    "head",
    "pod",
    "bag",
    "knob",
    "thumb",
    "piece",
    "slice",
    "can",
    "tin",
    "bottle",
    "splash",
    "drizzle",
    "squeeze",
    "glass",
    "mug",
    "mugful",
    "wineglass",
    "shot",
    "ladle",
    "inch",
    "cm",
    "strip",
    "packet",
    "petal",
    "cube",
    "scoop",
    "glug",
    "jar",
    "glassful",
    "carton",
    "thumbful",
    "wedge",
];

/// The measure that the words begin with, and how many words it takes. What a cook says of how full it is, is
/// told beside it.
pub fn measure(words: &[Word]) -> Option<(Counted, Fullness, usize)> {
    let mut at = 0;
    let mut full = Fullness::Level;
    while let Some(word) = words.get(at) {
        full = match word.text.as_str() {
            "scant" | "short" => Fullness::Scant,
            "heaped" | "heaping" | "rounded" | "generous" | "good" | "big" | "large" | "full" => {
                Fullness::Heaped
            }
            "level" | "small" | "-" | "packed" | "lightly" | "firmly" | "us" | "loosely" => full,
            _ => break,
        };
        at += 1;
        if at > 2 {
            return None;
        }
    }
    // "fl oz", "fl. oz", "fluid ounces", "metric cup"
    let next = |n: usize| words.get(at + n).map_or("", |w| w.text.as_str());
    if matches!(next(0), "fl" | "fluid") {
        let dotted = usize::from(next(1) == ".");
        if matches!(next(1 + dotted), "oz" | "ounce" | "ounces" | "ozs") {
            return Some((Counted::In(Measure::FluidOunce), full, at + 2 + dotted));
        }
    }
    if next(0) == "metric" && matches!(next(1), "cup" | "cups") {
        return Some((Counted::In(Measure::MetricCup), full, at + 2));
    }
    if matches!(next(0), "dessert") && matches!(next(1), "spoon" | "spoons") {
        return Some((Counted::In(Measure::Tablespoon), Fullness::Scant, at + 2));
    }
    let (one, many) = match words.get(at)?.text.as_str() {
        "table" => ("spoon", "spoons"),
        "tea" => ("spoon", "spoons"),
        _ => ("", ""),
    };
    if !one.is_empty() && (next(1) == one || next(1) == many) {
        let measure = if next(0) == "table" { Measure::Tablespoon } else { Measure::Teaspoon };
        return Some((Counted::In(measure), full, at + 2));
    }
    let found = measure_word(next(0))?;
    let dotted =
        usize::from(next(1) == "." && matches!(found, Counted::In(_)) && next(0).len() < 5);
    Some((found, full, at + 1 + dotted))
}

/// How full a measure is said to be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fullness {
    /// To the line.
    Level,
    /// A little under the line.
    Scant,
    /// A little over it.
    Heaped,
}
