//! What is typed over an amount that is there: "240" keeps its unit, "+30 g", "half" and "30 g too much" change it.

use crate::quantity::amount::{Amount, AmountError};

/// A bare number this many times more or less than what is there is hardly in the same unit.
const FAR: f64 = 40.0;

const TIMES: [(&str, f64); 14] = [
    ("half", 0.5),
    ("half of it", 0.5),
    ("half as much", 0.5),
    ("halve", 0.5),
    ("a third", 1.0 / 3.0),
    ("twice", 2.0),
    ("twice as much", 2.0),
    ("double", 2.0),
    ("two times", 2.0),
    ("2x", 2.0),
    ("x2", 2.0),
    ("three times", 3.0),
    ("triple", 3.0),
    ("3x", 3.0),
];
const MORE: [&str; 4] = [" more", " too much", " too many", " extra"];
const LESS: [&str; 5] = [" less", " fewer", " too little", " too few", " short"];

/// What becomes of an amount by what is typed over it. Nothing if it says an amount by itself.
///
/// # Errors
/// What is wrong with it: a number without a unit that can't be meant, or less than nothing.
pub(super) fn changed(typed: &str, before: &Amount) -> Result<Option<Amount>, AmountError> {
    let said = typed.trim().to_lowercase();
    if let Some((_, times)) = TIMES.iter().find(|(words, _)| *words == said) {
        return Ok(Some(before.scaled(*times)));
    }
    let strip = |ends: &[&str]| {
        ends.iter().find_map(|end| said.strip_suffix(end)).map(|rest| rest.trim().to_owned())
    };
    let more = said.strip_prefix('+').map(str::to_owned).or_else(|| strip(&MORE));
    let signs = ['-', '−', '–'];
    let less = said.strip_prefix(signs).map(str::to_owned).or_else(|| strip(&LESS));
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
        ] {
            let changed = changed(typed, &before.parse().unwrap()).unwrap();
            assert_eq!(changed.map(|a| a.to_string()).as_deref(), Some(after), "{before}: {typed}");
        }
        let changed = |typed: &str, before: &str| changed(typed, &before.parse().unwrap());
        assert_eq!(changed("1 cup", "190 g"), Ok(None));
        assert!(matches!(changed("500", "2 l"), Err(AmountError::NoUnit(_))));
        assert!(matches!(changed("1,500", "190 g"), Err(AmountError::Ambiguous(_))));
        assert!(matches!(changed("200 g less", "190 g"), Err(AmountError::Negative(_))));
    }
}
