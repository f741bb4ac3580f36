//! Numbers as they are written and spoken: "1 1/2", "¾", "two and a half", "a dozen", "3 to 4".

use super::counted::measure_word;
use super::words::{Word, digits};
use crate::quantity::number::vulgar;

/// A number, or a range of two.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Many {
    /// It, or the lower end.
    pub low: f64,
    /// The upper end of a range.
    pub high: Option<f64>,
    /// Whether it is only meant so: "a few", "about".
    pub loose: bool,
}

const NUMBERS: [(&str, f64); 31] = [
    ("one", 1.0),
    ("two", 2.0),
    ("three", 3.0),
    ("four", 4.0),
    ("five", 5.0),
    ("six", 6.0),
    ("seven", 7.0),
    ("eight", 8.0),
    ("nine", 9.0),
    ("ten", 10.0),
    ("eleven", 11.0),
    ("twelve", 12.0),
    ("thirteen", 13.0),
    ("fourteen", 14.0),
    ("fifteen", 15.0),
    ("sixteen", 16.0),
    ("seventeen", 17.0),
    ("eighteen", 18.0),
    ("nineteen", 19.0),
    ("twenty", 20.0),
    ("thirty", 30.0),
    ("forty", 40.0),
    ("fifty", 50.0),
    ("sixty", 60.0),
    ("seventy", 70.0),
    ("eighty", 80.0),
    ("ninety", 90.0),
    ("hundred", 100.0),
    ("couple", 2.0),
    ("dozen", 12.0),
    ("thousand", 1000.0),
];

fn named(text: &str) -> Option<f64> {
    NUMBERS.iter().find(|(name, _)| *name == text).map(|(_, value)| *value)
}

/// "and a half", "and three quarters", "and 1/2" behind a whole number, and how many words that takes.
pub fn and_a_part(words: &[Word]) -> Option<(f64, usize)> {
    let at = |n: usize| words.get(n).map_or("", |w| w.text.as_str());
    if !matches!(at(0), "and" | "&") {
        return None;
    }
    if let Some(value) = at(1).chars().next().and_then(vulgar) {
        return Some((value, 2));
    }
    if let Some(part) = over(words, 1) {
        return Some((part, 4));
    }
    match (at(1), at(2)) {
        ("a", "half") => Some((0.5, 3)),
        ("a", "quarter") => Some((0.25, 3)),
        ("a", "third") => Some((1.0 / 3.0, 3)),
        ("three", "quarters") => Some((0.75, 3)),
        ("two", "thirds") => Some((2.0 / 3.0, 3)),
        _ => None,
    }
}

/// A fraction written with a stroke.
fn over(words: &[Word], at: usize) -> Option<f64> {
    let [over, slash, under] = words.get(at..at + 3)? else { return None };
    let (over_by, under_by) = (digits(&over.text)?, digits(&under.text)?);
    let is_one = slash.is(&["/", "⁄"]) && under_by > 0.0 && under_by <= 16.0 && over_by < under_by;
    (is_one && over_by.fract() == 0.0 && under_by.fract() == 0.0).then(|| over_by / under_by)
}

/// One number: its value, how many words it takes, and whether it is a rough one.
fn single(words: &[Word]) -> Option<(f64, usize, bool)> {
    let first = words.first()?;
    if let Some(value) = first.text.chars().next().and_then(vulgar) {
        return Some((value, 1, false));
    }
    if let Some(whole) = digits(&first.text) {
        let (value, used) = from_digits(whole, words);
        return Some((value, used, false));
    }
    let at = |n: usize| words.get(n).map_or("", |w| w.text.as_str());
    if first.is(&["half"]) && at(1) == "a" && at(2) == "dozen" {
        return Some((6.0, 3, false));
    }
    if let Some(value) = part(&first.text) {
        let used = 1 + (1..3).take_while(|n| is_article(at(*n))).count();
        return Some((value, used, false));
    }
    match (first.text.as_str(), at(1), at(2)) {
        ("a" | "one", "half" | "quarter" | "third", _) => {
            let value = part(at(1))?;
            let more = (2..4).take_while(|n| is_article(at(*n))).count();
            Some((value, 2 + more, false))
        }
        ("a", "hundred", _) => Some((100.0, 2, false)),
        ("a", "few", _) => Some((3.0, 2, true)),
        ("a", "couple", "of") => Some((2.0, 3, true)),
        ("a", "couple", _) => Some((2.0, 2, true)),
        ("a", "dozen", _) => Some((12.0, 2, false)),
        ("few" | "several" | "some", _, _) => None,
        // "a 3 cm piece" is three of them.
        ("a" | "an", next, _) if next.starts_with(|c: char| c.is_ascii_digit()) => None,
        // "A two hundred gram block"
        ("a", next, _) if named(next).is_some_and(|many| many > 1.0) => None,
        ("a" | "an", _, _) => Some((1.0, 1, false)),
        _ => spelled_out(words),
    }
}

fn part(text: &str) -> Option<f64> {
    match text {
        "half" => Some(0.5),
        "quarter" => Some(0.25),
        "third" => Some(1.0 / 3.0),
        _ => None,
    }
}

fn is_article(text: &str) -> bool {
    matches!(text, "a" | "an" | "the" | "of")
}

/// A number that begins with digits, and how many words it takes: 2, 2½, 1/2, 2 1/2, 2-1/2, 2 dozen, 2 and a half.
fn from_digits(whole: f64, words: &[Word]) -> (f64, usize) {
    let rest = &words[1..];
    let vulgar = || rest.first().and_then(|w| w.text.chars().next()).and_then(vulgar);
    let dashed = || rest.first().filter(|w| w.is(&["-"])).and_then(|_| over(words, 2));
    if let Some(more) = vulgar() {
        (whole + more, 2)
    } else if let Some(part) = over(words, 0) {
        (part, 3)
    } else if let Some(part) = over(words, 1) {
        (whole + part, 4)
    } else if let Some(part) = dashed() {
        (whole + part, 5)
    } else if rest.first().is_some_and(|w| w.is(&["dozen", "doz"])) {
        (whole * 12.0, 2)
    } else if let Some((part, used)) = and_a_part(rest) {
        (whole + part, 1 + used)
    } else {
        (whole, 1)
    }
}

/// A number in words: three, two thirds, twenty-five, three hundred and fifty, two and a half.
fn spelled_out(words: &[Word]) -> Option<(f64, usize, bool)> {
    let at = |n: usize| words.get(n).map_or("", |w| w.text.as_str());
    let (word, next) = (at(0), at(1));
    let value = named(word)?;
    let whole = |value: f64, used: usize| match and_a_part(&words[used..]) {
        Some((part, more)) => Some((value + part, used + more, false)),
        None => Some((value, used, word == "couple")),
    };
    let dash = usize::from(next == "-");
    let one = named(at(1 + dash)).filter(|one| *one < 10.0);
    let articles = (2..4).take_while(|n| is_article(at(*n))).count();
    match (next, one) {
        ("thirds" | "third", _) => Some((value / 3.0, 2 + articles, false)),
        ("quarters", _) => Some((value / 4.0, 2 + articles, false)),
        ("dozen" | "doz", _) => whole(value * 12.0, 2),
        // "One point two five litres"
        ("point", _) if named(at(2)).is_some_and(|digit| digit < 10.0) => {
            let digits = (2..5).map_while(|n| named(at(n)).filter(|digit| *digit < 10.0));
            let (part, used, _) = digits.fold((0.0, 2, 0.1), |(part, used, place), digit| {
                (part + digit * place, used + 1, place / 10.0)
            });
            Some((value + part, used, false))
        }
        // "Four and twenty hours"
        ("and", _)
            if value < 10.0 && named(at(2)).is_some_and(|tens| (20.0..100.0).contains(&tens)) =>
        {
            Some((value + named(at(2))?, 3, false))
        }
        ("hundred", _) => {
            let and = usize::from(at(2) == "and");
            let more = named(at(2 + and)).filter(|more| *more < 100.0);
            let used = if more.is_some() { 3 + and } else { 2 };
            whole(value * 100.0 + more.unwrap_or(0.0), used)
        }
        (_, Some(one)) if (20.0..=90.0).contains(&value) => whole(value + one, 2 + dash),
        _ => whole(value, 1),
    }
}

/// The number that the words begin with, and how many words it takes.
pub fn number(words: &[Word]) -> Option<(Many, usize)> {
    let mut at = 0;
    let mut loose = false;
    while let Some(word) = words.get(at) {
        match word.text.as_str() {
            "about" | "approx" | "approximately" | "around" | "roughly" | "circa" | "ca" | "~"
            | "nearly" | "almost" | "say" | "maybe" => loose = true,
            "." if loose => {}
            "between" | "up" | "good" | "generous" | "full" | "whole" | "least" | "at"
                if at < 2 => {}
            "to" if at == 1 && words[0].is(&["up"]) => {}
            _ => break,
        }
        at += 1;
    }
    // "another pint", "another 2 cups"
    if words.get(at).is_some_and(|w| w.is(&["another"])) {
        let next = single(&words[at + 1..]).filter(|_| !words[at + 1].is(&["a", "an"]));
        if next.is_none() {
            return Some((Many { low: 1.0, high: None, loose }, at + 1));
        }
        at += 1;
    }
    let (mut low, used, meant) = single(&words[at..])?;
    at += used;
    // "2 x 400 ml"
    if words.get(at).is_some_and(|w| w.is(&["x", "×"]))
        && let Some((each, used, _)) = single(&words[at + 1..])
        && words.get(at + 1 + used).and_then(|w| measure_word(&w.text)).is_some()
    {
        low *= each;
        at += 1 + used;
    }
    // "2 more cups"
    let more = words.get(at).is_some_and(|w| w.is(&["more"]));
    if more && words.get(at + 1).is_some_and(|w| measure_word(&w.text).is_some()) {
        at += 1;
    }
    let mut high = None;
    let sign = words.get(at).is_some_and(|w| w.is(&["-", "–", "—", "to", "or"]))
        || (words.get(at).is_some_and(|w| w.is(&["and"]))
            && words[..at].iter().any(|w| w.is(&["between"])));
    if sign
        && let Some((value, used, _)) = single(&words[at + 1..])
        && value > low
        && !words.get(at + 1).is_some_and(|w| w.is(&["a", "an"]))
    {
        high = Some(value);
        at += 1 + used;
    }
    Some((Many { low, high, loose: loose || meant }, at))
}

#[cfg(test)]
mod tests {
    use super::super::words::words;
    use super::*;

    #[test]
    fn numbers_as_cooks_write_them() {
        for (text, low, high, used) in [
            ("1½ cups", 1.5, None, 2),
            ("1 1/2 cups", 1.5, None, 4),
            ("1-1/2 cups", 1.5, None, 5),
            ("3-4 sprigs", 3.0, Some(4.0), 3),
            ("3 to 4 sprigs", 3.0, Some(4.0), 3),
            ("between 3 and 4", 3.0, Some(4.0), 4),
            ("half a lemon", 0.5, None, 2),
            ("a dozen limes", 12.0, None, 2),
            ("one point two litres", 1.2, None, 3),
            ("one point two five litres", 1.25, None, 4),
            ("two thirds of a cup", 2.0 / 3.0, None, 4),
            ("a hundred grams", 100.0, None, 2),
            ("2 x 400 ml", 800.0, None, 3),
            ("1,5 l", 1.5, None, 1),
            ("1,000 ml", 1000.0, None, 1),
            ("one and a half cups", 1.5, None, 4),
            ("two and a half cups", 2.5, None, 4),
            ("2 and a half cups", 2.5, None, 4),
            ("2 & 1/2 cups", 2.5, None, 5),
            ("three quarters of a cup", 0.75, None, 4),
            ("a third of a cup", 1.0 / 3.0, None, 4),
            ("twenty-five g", 25.0, None, 3),
            ("two hundred and fifty ml", 250.0, None, 4),
            ("half a dozen limes", 6.0, None, 3),
            ("another pint", 1.0, None, 1),
            ("another 2 cups", 2.0, None, 2),
            ("two dozen limes", 24.0, None, 2),
            ("about 6", 6.0, None, 2),
        ] {
            let (many, n) = number(&words(text)).unwrap_or_else(|| panic!("{text}"));
            assert!(
                (many.low - low).abs() < 1e-9 && many.high == high && n == used,
                "{text}: {many:?} {n}"
            );
        }
        assert_eq!(number(&words("sugar")), None);
        assert_eq!(number(&words("")), None);
    }
}
