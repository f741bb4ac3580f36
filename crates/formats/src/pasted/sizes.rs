//! What a text says of its own measures: "250 ml cups", "1 part = 100 ml", "our tablespoons hold 20 ml".

use keen_core::quantity::said::{Counted, Word, measure, number};
use keen_core::quantity::{Amount, Measure};

/// The measures that a text says the size of, ml.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Sizes {
    cup: Option<f64>,
    tablespoon: Option<f64>,
    teaspoon: Option<f64>,
    pub(super) part: Option<f64>,
}

/// A US cup and one of 240 ml are the same to a cook.
const US_CUP: std::ops::Range<f64> = 230.0..245.0;

impl Sizes {
    /// Takes what a line says of a measure; whether it says anything.
    pub(super) fn take(&mut self, words: &[Word]) -> bool {
        let measured = |at: usize| -> Option<(f64, usize)> {
            let (many, used) = number(words.get(at..)?)?;
            let (Counted::In(measure), _, more) = measure(words.get(at + used..)?)? else {
                return None;
            };
            let ml = Amount::of(many.low, measure).as_millilitres()?;
            Some((ml, used + more))
        };
        let is_measure =
            |w: &Word| w.is(&["cup", "tablespoon", "tbsp", "teaspoon", "tsp", "part", "spoon"]);
        for (at, word) in words.iter().enumerate().filter(|(_, w)| is_measure(w)) {
            // "1 part = 100 ml", "cups here are 250 ml", "a tablespoon holds 20 ml"
            let means = (at + 1..words.len().min(at + 4))
                .find(|n| words[*n].is(&["=", "is", "are", "hold", "holds", "means", ":"]));
            let behind = means.and_then(|n| measured(n + 1)).map(|(ml, _)| ml);
            // "Cups of 200 ml"; "2 cups of 200 ml" are as many glasses.
            let counted = at > 0 && number(&words[at - 1..]).is_some();
            let behind = behind.or_else(|| {
                let of = words.get(at + 1).is_some_and(|w| w.is(&["of"])) && !counted;
                of.then(|| measured(at + 2)).flatten().map(|(ml, _)| ml)
            });
            // "250 ml cups", "20 ml spoons"
            let front = (at.saturating_sub(3)..at)
                .find_map(|n| measured(n).filter(|(_, used)| n + used == at))
                .map(|(ml, _)| ml)
                .filter(|_| word.text.ends_with('s'));
            if let Some(ml) = behind.or(front).filter(|ml| *ml > 0.5) {
                match word.stem.as_str() {
                    "cup" => self.cup = Some(ml),
                    "part" => self.part = Some(ml),
                    "teaspoon" | "tsp" => self.teaspoon = Some(ml),
                    _ => self.tablespoon = Some(ml),
                }
                return true;
            }
        }
        false
    }

    /// An amount in the measures that the text means.
    pub(super) fn apply(&self, amount: &Amount) -> Option<Amount> {
        let [term] = amount.terms() else { return None };
        let ml = match term.measure {
            Measure::Cup => self.cup.filter(|ml| !US_CUP.contains(ml))?,
            Measure::Tablespoon => self.tablespoon?,
            Measure::Teaspoon => self.teaspoon?,
            _ => return None,
        };
        if term.measure == Measure::Cup && (ml - 250.0).abs() < 5.0 {
            return Some(Amount::of(term.value, Measure::MetricCup));
        }
        Some(Amount::millilitres(term.value * ml))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::quantity::said::words;

    #[test]
    fn a_text_says_how_large_its_measures_are() {
        let of = |text: &str| {
            let mut sizes = Sizes::default();
            sizes.take(&words(text)).then_some(sizes)
        };
        assert_eq!(of("Cups here are 250 ml.").unwrap().cup, Some(250.0));
        assert_eq!(of("I use 250 ml cups").unwrap().cup, Some(250.0));
        assert_eq!(of("1 part = 100 ml").unwrap().part, Some(100.0));
        assert_eq!(of("a tablespoon holds 20 ml").unwrap().tablespoon, Some(20.0));
        assert_eq!(of("cups of 200 ml").unwrap().cup, Some(200.0));
        assert_eq!(of("serves 4 cups of 200 ml"), None);
        assert_eq!(of("2 cups sugar"), None);
        assert_eq!(of("1 cup (240 ml) water"), None);
        let metric = of("250 ml cups").unwrap().apply(&"2 cups".parse().unwrap()).unwrap();
        assert_eq!(metric.to_string(), "2 metric cups");
        assert_eq!(of("1 cup = 240 ml").unwrap().apply(&"2 cups".parse().unwrap()), None);
    }
}
