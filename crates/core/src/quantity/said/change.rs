//! What is typed over an amount that is there: "240" keeps its unit, "+30 g", "half" and "30 g too much" change it.

use super::{number, words};
use crate::quantity::amount::{Amount, AmountError};

/// A bare number this many times more or less than what is there is hardly in the same unit.
const FAR: f64 = 40.0;

/// As many times as much, in a word.
const TIMES: [(&str, f64); 8] = [
    ("halve", 0.5),
    ("twice", 2.0),
    ("double", 2.0),
    ("triple", 3.0),
    ("half as much again", 1.5),
    ("half again", 1.5),
    ("as much again", 2.0),
    ("the same", 1.0),
];
/// What may stand behind it: "half of it", "three times as much".
const OF_IT: [&str; 9] = [
    " as much",
    " as many",
    " of it",
    " of that",
    " of this",
    " of them",
    " of what is there",
    " the amount",
    " of the amount",
];
/// Below so much, "1/2 more" is half a cup; of 300 g nobody takes a third of a gram.
const FINE: f64 = 10.0;
const MORE: [&str; 4] = [" more", " too much", " too many", " extra"];
const LESS: [&str; 5] = [" less", " fewer", " too little", " too few", " short"];

/// What becomes of an amount by what is typed over it. Nothing if it says an amount by itself.
///
/// # Errors
/// What is wrong with it: a number without a unit that can't be meant, or less than nothing.
pub(super) fn changed(typed: &str, before: &Amount) -> Result<Option<Amount>, AmountError> {
    let said = typed.trim().to_lowercase();
    if let Some(times) = times(&said) {
        return Ok(Some(before.scaled(times)));
    }
    let strip = |ends: &[&str]| {
        ends.iter().find_map(|end| said.strip_suffix(end)).map(|rest| rest.trim().to_owned())
    };
    let more = said.strip_prefix('+').map(str::to_owned).or_else(|| strip(&MORE));
    let signs = ['-', '−', '–'];
    let less = said.strip_prefix(signs).map(str::to_owned).or_else(|| strip(&LESS));
    let part = more.as_deref().or(less.as_deref()).and_then(|by| part_of(by, before));
    if let Some(part) = part {
        let left = if more.is_some() { 1.0 + part } else { 1.0 - part };
        if left <= 0.0 {
            return Err(AmountError::Negative(typed.trim().to_owned()));
        }
        return Ok(Some(before.scaled(left)));
    }
    match (more, less) {
        (Some(by), _) => with_more(before, &unit_of(&by, before)?, 1.0).map(Some),
        (None, Some(by)) => with_more(before, &unit_of(&by, before)?, -1.0).map(Some),
        (None, None) => {
            let bare: Amount = match said.parse() {
                Ok(bare) => bare,
                Err(AmountError::Ambiguous(figures)) => {
                    return Err(AmountError::Ambiguous(figures));
                }
                Err(_) => return Ok(None),
            };
            let [term] = bare.terms() else { return Ok(None) };
            let [there] = before.terms() else { return Ok(None) };
            if term.measure.name(1.0).is_empty() && !there.measure.name(1.0).is_empty() {
                let likely = term.value <= FAR * there.value && there.value <= FAR * term.value;
                if !likely {
                    return Err(AmountError::NoUnit(typed.trim().to_owned()));
                }
                return in_unit_of(&bare, before).map(Some);
            }
            Ok(None)
        }
    }
}

/// How many times as much, if that is all that is said: "three times", "1.5x", "two thirds of it", "50 %".
fn times(said: &str) -> Option<f64> {
    let plain = OF_IT.iter().find_map(|end| said.strip_suffix(end)).unwrap_or(said).trim();
    let known = TIMES.iter().find(|(words, _)| [said, plain].contains(words));
    if let Some(times) = known.map(|(_, times)| *times).or_else(|| share(plain)) {
        return Some(times);
    }
    let many = plain
        .strip_suffix("times")
        .or_else(|| plain.strip_suffix('x'))
        .or_else(|| plain.strip_prefix('x'))
        .or_else(|| plain.strip_prefix('×'))?;
    only_number(many)
}

/// A number that is all that is said, and no range.
fn only_number(said: &str) -> Option<f64> {
    let found = words(said);
    let (many, used) = number(&found)?;
    (used == found.len() && many.high.is_none()).then_some(many.low)
}

/// A share in words or in percent: "half", "two thirds", "10 %".
fn share(said: &str) -> Option<f64> {
    let percent = ["%", "percent", "per cent"].iter().find_map(|sign| said.strip_suffix(sign));
    if let Some(percent) = percent {
        return only_number(percent).map(|percent| percent / 100.0);
    }
    // "1/2" is a number in the unit that is there, and "half" is half of it.
    let in_words = !said.contains(|c: char| c.is_numeric());
    only_number(said).filter(|share| in_words && *share < 1.0)
}

/// The part of what is there by which it is more or less: "a third less", "10 % more".
fn part_of(by: &str, before: &Amount) -> Option<f64> {
    let coarse = || matches!(before.terms(), [there] if there.value > FINE);
    let fraction = || only_number(by).filter(|part| *part < 1.0 && by.contains('/') && coarse());
    share(by).or_else(fraction)
}

/// A number or a range in the unit that was there.
fn in_unit_of(bare: &Amount, before: &Amount) -> Result<Amount, AmountError> {
    let [there] = before.terms() else { return Ok(bare.clone()) };
    let value = bare.terms()[0].value;
    let unit = there.measure.name(value).to_owned();
    format!("{bare} {unit}").parse()
}

fn unit_of(by: &str, before: &Amount) -> Result<Amount, AmountError> {
    let by: Amount = by.parse()?;
    let bare = by.terms().len() == 1 && by.terms()[0].measure.name(1.0).is_empty();
    if bare { in_unit_of(&by, before) } else { Ok(by) }
}

fn with_more(before: &Amount, by: &Amount, sign: f64) -> Result<Amount, AmountError> {
    match (before.terms(), by.terms()) {
        ([there], [more]) if there.measure == more.measure || alike(there, more) => {
            let value = there.value + sign * more.value;
            if value <= 0.0 {
                return Err(AmountError::Negative(format!("{before} less {by}")));
            }
            Ok(Amount::of(value, there.measure.clone()))
        }
        _ if sign > 0.0 => format!("{before} + {by}").parse(),
        _ => format!("{before} less {by}").parse(),
    }
}

/// "1 lemon" and "2 lemons".
fn alike(a: &crate::quantity::Term, b: &crate::quantity::Term) -> bool {
    let one = |t: &crate::quantity::Term| t.measure.name(1.0).trim_end_matches('s').to_owned();
    one(a) == one(b)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_typed_over_an_amount_changes_it() {
        for (before, typed, after) in [
            ("190 g", "240", "240 g"),
            ("190 g", "+30 g", "220 g"),
            ("190 g", "+30", "220 g"),
            ("190 g", "30 g more", "220 g"),
            ("190 g", "30 g too much", "220 g"),
            ("190 g", "-30 g", "160 g"),
            ("190 g", "30 less", "160 g"),
            ("1 l", "200 ml less", "800 ml"),
            ("1 cup", "1 tbsp less", "15 tbsp"),
            ("190 g", "half", "95 g"),
            ("190 g", "twice", "380 g"),
            ("3 lemons", "4", "4 lemons"),
            ("1 lemon", "2", "2 lemon"),
            ("3 lemons", "1 lemon less", "2 lemons"),
            ("2 tbsp", "+1 tsp", "2 tbsp + 1 tsp"),
            ("190 g", "200 to 240", "200 to 240 g"),
            ("300 g", "a third less", "200 g"),
            ("300 g", "1/3 less", "200 g"),
            ("200 g", "a quarter more", "250 g"),
            ("200 g", "half more", "300 g"),
            ("200 g", "10% more", "220 g"),
            ("200 g", "10 per cent less", "180 g"),
            ("2 cups", "1/2 more", "2 1/2 cups"),
            ("2 cups", "half a cup less", "1 1/2 cups"),
            ("190 g", "half of that", "95 g"),
            ("300 g", "two thirds", "200 g"),
            ("300 g", "50 %", "150 g"),
            ("2 cups", "1/2", "1/2 cup"),
            ("100 g", "1.5x", "150 g"),
            ("100 g", "four times as much", "400 g"),
            ("190 g", "twice as much", "380 g"),
            ("190 g", "double the amount", "380 g"),
            ("200 g", "half as much again", "300 g"),
            ("6 lemons", "one more", "7 lemons"),
        ] {
            let changed = changed(typed, &before.parse().unwrap()).unwrap();
            assert_eq!(changed.map(|a| a.to_string()).as_deref(), Some(after), "{before}: {typed}");
        }
        let changed = |typed: &str, before: &str| changed(typed, &before.parse().unwrap());
        assert_eq!(changed("1 cup", "190 g"), Ok(None));
        assert!(matches!(changed("500", "2 l"), Err(AmountError::NoUnit(_))));
        assert!(matches!(changed("1,500", "190 g"), Err(AmountError::Ambiguous(_))));
        assert!(matches!(changed("100 % less", "190 g"), Err(AmountError::Negative(_))));
        assert!(matches!(changed("200 g less", "190 g"), Err(AmountError::Negative(_))));
    }
}
