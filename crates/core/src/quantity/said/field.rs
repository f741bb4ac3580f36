//! What is typed into a field: all of it is the answer, and nothing may be left over.

use serde::{Deserialize, Serialize};

use super::amounts::{three_behind, without_thousands};
use super::change::changed;
use super::numbers::number;
use super::words::{Word, digits, words};
use crate::quantity::amount::{Amount, AmountError, with_point, without};
use crate::quantity::{Degrees, to_figures};

/// The kind of value in a field.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[schema(as = FieldKind)]
pub enum Kind {
    /// An amount of an ingredient.
    Amount,
    /// A plain number.
    Number,
    /// A time, minutes.
    Minutes,
    /// A short time, seconds.
    Seconds,
    /// A temperature, °C.
    Celsius,
    /// A length, mm.
    Millimetres,
    /// A weight, g.
    Grams,
    /// A volume, ml.
    Millilitres,
    /// A larger volume, l.
    Litres,
}

/// The reading of a typed text.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = FieldRead)]
pub struct Read {
    /// The text to show in the field.
    pub text: String,
    /// The number in the field's own unit; for a volume, millilitres.
    pub number: Option<f64>,
    /// The value as understood, if it differs from the typed text: "= 90 min".
    pub understood: Option<String>,
}

/// The reason why a text can't be read, with possible readings.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = FieldUnread)]
pub struct Unread {
    /// The message, with an example of valid input.
    pub message: String,
    /// The possible readings, if there is more than one.
    pub choices: Vec<String>,
}

impl Unread {
    fn of(message: impl Into<String>) -> Self {
        Self { message: message.into(), choices: Vec::new() }
    }
}

/// Nothing in a kitchen for drinks is hotter, °C.
const HOTTEST: f64 = 130.0;
/// A night, as recipes mean it: eight hours to twelve.
const OVERNIGHT: f64 = 600.0;
/// The longest text.
const MOST: usize = 80;

/// Reads what a field holds; `before` is what was there, for "30 g more".
///
/// # Errors
/// What would be understood, with what may have been meant.
pub fn read(
    kind: Kind,
    text: &str,
    before: Option<&str>,
    degrees: Degrees,
) -> Result<Read, Unread> {
    if text.chars().count() > MOST {
        return Err(Unread::of(format!("Enter up to {MOST} characters.")));
    }
    match kind {
        Kind::Amount => amount(text, before),
        Kind::Number => figure(text, "such as 2.5 or 1 1/2"),
        Kind::Minutes => minutes(text),
        Kind::Seconds => seconds(text),
        Kind::Celsius => celsius(text, degrees),
        Kind::Millimetres => millimetres(text),
        Kind::Grams => measured(text, &Plain { unit: "g", is: 1.0, of: Amount::as_grams }),
        Kind::Millilitres => {
            measured(text, &Plain { unit: "ml", is: 1.0, of: Amount::as_millilitres })
        }
        Kind::Litres => {
            measured(text, &Plain { unit: "l", is: 1000.0, of: Amount::as_millilitres })
        }
    }
}

/// "1'500", as thousands are set apart in some countries.
fn without_apostrophes(text: &str) -> String {
    let letters: Vec<char> = text.chars().collect();
    let digit = |at: usize| letters.get(at).is_some_and(char::is_ascii_digit);
    let apart = |at: usize| {
        matches!(letters[at], '\'' | '’')
            && at > 0
            && digit(at - 1)
            && (1..=3).all(|n| digit(at + n))
            && !digit(at + 4)
    };
    (0..letters.len()).filter(|at| !apart(*at)).map(|at| letters[at]).collect()
}

fn amount(text: &str, before: Option<&str>) -> Result<Read, Unread> {
    let text = &without_apostrophes(text);
    let before: Option<Amount> = before.and_then(|before| before.parse().ok());
    let told = |error: AmountError| {
        let choices = match &error {
            AmountError::Ambiguous(figures) => {
                let with = |plain: String| text.replacen(figures.as_str(), &plain, 1);
                let choices = [with(without(figures)), with(with_point(figures))];
                let unit = |choice: &String| match (&before, choice.parse::<f64>().is_ok()) {
                    (Some(before), true) => {
                        format!("{choice} {}", before.terms()[0].measure.name(2.0))
                    }
                    _ => choice.clone(),
                };
                choices.iter().map(unit).collect()
            }
            AmountError::NoUnit(bare) => ["g", "ml"].map(|unit| format!("{bare} {unit}")).to_vec(),
            _ => Vec::new(),
        };
        Unread { message: error.to_string(), choices }
    };
    let changed = match &before {
        Some(before) => changed(text, before).map_err(told)?,
        None => None,
    };
    // In grams and millilitres nobody types three places behind a point; a thousand is as likely.
    if let Some(asks) = thousand_with_point(text) {
        return Err(asks);
    }
    let amount: Amount = match changed {
        Some(amount) => amount,
        None => text.parse().map_err(told)?,
    };
    let said = amount.to_string();
    let understood = unless_typed(text, &said, &said);
    let number = (!amount.has_parts()).then(|| amount.as_millilitres()).flatten();
    Ok(Read { text: said, number, understood })
}

/// "1.500 g", where a point sets thousands apart in half of the world.
fn thousand_with_point(text: &str) -> Option<Unread> {
    let typed = text.trim();
    let end = typed.find(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ',')))?;
    let (figures, unit) = typed.split_at(end);
    let fine = matches!(unit.trim().to_lowercase().as_str(), "g" | "ml" | "gram" | "grams" | "gr");
    (fine && three_behind(figures, '.'))
        .then(|| two_readings(figures, &format!(" {}", unit.trim())))
}

/// Asks which is meant: thousands, or a decimal.
fn two_readings(figures: &str, unit: &str) -> Unread {
    Unread {
        message: AmountError::Ambiguous(figures.to_owned()).to_string(),
        choices: [without(figures), with_point(figures)].map(|n| format!("{n}{unit}")).to_vec(),
    }
}

/// A number with its sign, all of the words but those that `rest` takes.
fn signed(found: &[Word]) -> Option<(f64, usize)> {
    let minus = found.first().is_some_and(|w| w.is(&["-", "−", "–", "minus"]));
    let sign = usize::from(minus || found.first().is_some_and(|w| w.is(&["+"])));
    let rest = &found[sign..];
    let point = match rest {
        [point, digit, ..] if point.is(&[".", ","]) && point.to == digit.from => {
            digits(&format!("0.{}", digit.text)).map(|value| (value, 2))
        }
        _ => None,
    };
    let (value, used) = match point {
        Some(found) => found,
        None => {
            let (many, used) = number(rest)?;
            (many.high.map_or(many.low, |high| (many.low + high) / 2.0), used)
        }
    };
    Some((if minus { -value } else { value }, sign + used))
}

/// A comma or point that may set thousands apart.
fn either(text: &str, unit: &str) -> Option<Unread> {
    let figures = text.trim().split(|c: char| c.is_whitespace() || c.is_alphabetic()).next()?;
    let (front, behind) = figures.split_once(',')?;
    let all = |t: &str| !t.is_empty() && t.chars().all(|c| c.is_ascii_digit());
    let is_either = all(front) && all(behind) && behind.len() == 3 && front != "0";
    is_either.then(|| two_readings(figures, unit))
}

/// What is no number of digits: "1.2.3", "1e9".
fn is_odd(text: &str) -> bool {
    let tight = |a: char, b: char| a.is_ascii_digit() && matches!(b, 'e' | 'E');
    let letters: Vec<char> = text.chars().collect();
    let exponent = letters.windows(3).any(|w| tight(w[0], w[1]) && w[2].is_ascii_digit());
    let dotted = text
        .split_whitespace()
        .any(|part| part.chars().filter(|c| matches!(c, '.' | ',')).count() > 1);
    exponent || dotted
}

fn plain(value: f64) -> String {
    format!("{}", to_figures(value, 9))
}

fn figure(text: &str, example: &str) -> Result<Read, Unread> {
    let wrong = || Unread::of(format!("Enter a number, {example}."));
    if let Some(asks) = either(text, "") {
        return Err(asks);
    }
    let whole = without_thousands(text.trim());
    let found = words(&whole);
    let value = match signed(&found) {
        Some((value, used)) if used == found.len() && !is_odd(&whole) => value,
        _ => return Err(wrong()),
    };
    let said = plain(value);
    let understood = unless_typed(text, &said, &said);
    Ok(Read { text: said, number: Some(value), understood })
}

/// How a text was understood, unless that is what was typed, with its unit or without.
fn unless_typed(typed: &str, said: &str, understood: &str) -> Option<String> {
    // A screen sets a narrow space before a unit.
    let spaced = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ");
    let same = [said, understood].map(spaced).contains(&spaced(typed));
    (!same).then(|| format!("= {understood}"))
}

/// Minutes: "90", "12 h", "1 1/2 hours", "1 h 30", "1:30", "2 days", "overnight".
fn minutes(text: &str) -> Result<Read, Unread> {
    let wrong = || Unread::of("Enter a time, such as 30, 1 h 30 or 12 h.");
    let time = match in_minutes(text, 1.0) {
        Some(time) => time,
        None => match either(text, " min") {
            Some(asks) => return Err(asks),
            None => return Err(wrong()),
        },
    };
    let said = plain(time);
    let understood = unless_typed(text, &said, &spoken(time));
    Ok(Read { text: said, number: Some(time), understood })
}

fn seconds(text: &str) -> Result<Read, Unread> {
    let time = in_minutes(text, 1.0 / 60.0).map(|minutes| minutes * 60.0);
    let time = time.ok_or_else(|| Unread::of("Enter a time, such as 40 or 2 min."))?;
    let said = plain(time);
    let understood = unless_typed(text, &said, &format!("{said} s"));
    Ok(Read { text: said, number: Some(time), understood })
}

fn spoken(minutes: f64) -> String {
    let (hours, rest) = ((minutes / 60.0).floor(), minutes % 60.0);
    match (hours >= 1.0, rest > 1e-9) {
        (true, true) => format!("{} h {} min", plain(hours), plain(to_figures(rest, 4))),
        (true, false) => format!("{} h", plain(hours)),
        (false, _) => format!("{} min", plain(to_figures(minutes, 4))),
    }
}

/// A time in minutes; what stands without a unit counts `bare` of one.
fn in_minutes(text: &str, bare: f64) -> Option<f64> {
    let said = text.trim().to_lowercase();
    if matches!(said.as_str(), "overnight" | "over night" | "a night" | "one night" | "1 night") {
        return Some(OVERNIGHT);
    }
    if let Some((hours, minutes)) = said.trim_end_matches(['h', ' ']).split_once(':') {
        let two = minutes.len() == 2 && hours.len() <= 3;
        let (hours, minutes): (f64, f64) = (hours.parse().ok()?, minutes.parse().ok()?);
        return (two && minutes < 60.0).then_some(hours * 60.0 + minutes);
    }
    if is_odd(&said) || either(&said, "").is_some() {
        return None;
    }
    let found = words(&said);
    let (mut at, mut all, mut before) = (0, 0.0, f64::INFINITY);
    while at < found.len() {
        if at > 0 && found[at].is(&["and", ",", "&", "plus"]) {
            at += 1;
        }
        // "an hour and a half"
        let rest = found.get(at..)?;
        if before.is_finite() && rest.len() == 2 && rest[0].is(&["a"]) && rest[1].is(&["half"]) {
            return Some(all + before / 2.0);
        }
        let (value, used) = signed(rest)?;
        at += used;
        while found.get(at).is_some_and(|w| w.is(&["-", "of", "a", "an"])) {
            at += 1;
        }
        let unit = found.get(at).map_or("", |w| w.stem.as_str());
        let each = match unit {
            "s" | "sec" | "second" => 1.0 / 60.0,
            "m" | "min" | "minute" | "mn" | "'" | "′" => 1.0,
            "h" | "hr" | "hour" | "hrs" => 60.0,
            "d" | "day" => 1440.0,
            "night" => OVERNIGHT,
            "w" | "week" | "wk" => 10_080.0,
            // "1 h 30"
            "" if before > 30.0 && before.is_finite() => before / 60.0,
            "" if all == 0.0 => bare,
            _ => return None,
        };
        at += usize::from(!unit.is_empty());
        at += usize::from(found.get(at).is_some_and(|w| w.is(&["."])));
        if each >= before || value < 0.0 {
            return None;
        }
        all += value * each;
        before = each;
    }
    (at > 0 && all.is_finite()).then_some(all)
}

/// Degrees Celsius: "80", "80 °C", "175 °F". A bare number is in the kitchen's own degrees, and so it is written back.
fn celsius(text: &str, own: Degrees) -> Result<Read, Unread> {
    let wrong = || {
        Unread::of(match own {
            Degrees::Celsius => "Enter a temperature, such as 80 or 175 °F.",
            Degrees::Fahrenheit => "Enter a temperature, such as 175 or 80 °C.",
        })
    };
    let found = words(text);
    let words: Vec<&str> = found.iter().map(|w| w.text.as_str()).collect();
    let known = match words.as_slice() {
        ["boiling"] | ["the", "boil"] => Some(100.0),
        ["room", "temperature"] => Some(21.0),
        _ => None,
    };
    let (degrees, unit) = match (known, signed(&found)) {
        (Some(known), _) => (known, "c".to_owned()),
        (None, Some((value, used))) if !is_odd(text) => {
            (value, words[used..].concat().replace(['°', 'º', '.'], ""))
        }
        _ => return Err(wrong()),
    };
    let in_own = if own == Degrees::Fahrenheit && known.is_none() { "f" } else { "c" };
    let meant = if unit.is_empty() { in_own } else { unit.as_str() };
    let value = match meant {
        "c" | "celsius" | "deg" | "degc" | "degrees" | "degree" | "degreesc" | "degreescelsius"
        | "degreecelsius" => degrees,
        "f" | "fahrenheit" | "degf" | "degreesf" | "degreesfahrenheit" => {
            ((degrees - 32.0) / 0.18).round() / 10.0
        }
        _ => return Err(wrong()),
    };
    if own == Degrees::Celsius && unit.is_empty() && value > HOTTEST && value < 270.0 {
        return Err(Unread {
            message: format!(
                "{} °C is hotter than a drink gets. Enter up to {HOTTEST} °C, or add °F.",
                plain(value)
            ),
            choices: vec![format!("{} °F", plain(value))],
        });
    }
    let (said, sign) = match own {
        Degrees::Celsius => (plain(value), "°C"),
        Degrees::Fahrenheit => (plain((value * 1.8 + 32.0).round()), "°F"),
    };
    let understood = unless_typed(text, &said, &format!("{said} {sign}"));
    Ok(Read { text: said, number: Some(value), understood })
}

/// Millimetres: "30", "3 cm", "1 1/2 inches", "2\"".
fn millimetres(text: &str) -> Result<Read, Unread> {
    let wrong = || Unread::of("Enter a length, such as 30, 3 cm or 1 inch.");
    let found = words(text);
    let Some((value, mut used)) = signed(&found).filter(|_| !is_odd(text)) else {
        return Err(wrong());
    };
    if found.get(used).is_some_and(|w| w.is(&["-"])) {
        used += 1;
    }
    let unit = found[used..].iter().map(|w| w.text.as_str()).collect::<String>();
    let each = match unit.as_str() {
        "" | "mm" | "millimetre" | "millimetres" | "millimeter" | "millimeters" => 1.0,
        "cm" | "centimetre" | "centimetres" | "centimeter" | "centimeters" => 10.0,
        "in" | "inch" | "inches" | "\"" | "″" | "in." => 25.4,
        "m" => 1000.0,
        _ => return Err(wrong()),
    };
    let value = to_figures(value * each, 6);
    let said = plain(value);
    let understood = unless_typed(text, &said, &format!("{said} mm"));
    Ok(Read { text: said, number: Some(value), understood })
}

/// A field with a unit of its own, which a bare number has.
struct Plain {
    unit: &'static str,
    /// One of it, in the measure that `of` gives.
    is: f64,
    /// An amount in grams or millilitres, if it is of the same kind.
    of: fn(&Amount) -> Option<f64>,
}

/// A weight or a volume: "500", "2 l", "1 qt", "half a litre".
fn measured(text: &str, field: &Plain) -> Result<Read, Unread> {
    let Plain { unit, is, of } = *field;
    let bare = text.chars().all(|c| !c.is_alphabetic() && c != '-' && c != '−');
    let value = if bare {
        let read = figure(text, "such as 250").map_err(|unread| {
            let choices = unread.choices.iter().map(|n| format!("{n} {unit}")).collect();
            Unread { choices, ..unread }
        })?;
        read.number
    } else {
        let amount = amount(text, None)?.text.parse::<Amount>().ok();
        amount.and_then(|amount| of(&amount)).map(|value| value / is)
    };
    let example =
        if unit == "g" { "such as 190 g or 7 oz" } else { "such as 250 ml, 2 l or 1 cup" };
    let what = if unit == "g" { "a weight" } else { "a volume" };
    let value = value.ok_or_else(|| Unread::of(format!("Enter {what}, {example}.")))?;
    // A cup is 236.6 ml to any tool of a kitchen.
    let value = to_figures(value, 4);
    let said = plain(value);
    let understood = unless_typed(text, &said, &format!("{said} {unit}"));
    Ok(Read { text: said, number: Some(value), understood })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn weights_and_volumes_in_any_unit_come_to_the_fields_own() {
        all(
            Kind::Millilitres,
            &[
                ("250", 250.0),
                ("250 ml", 250.0),
                ("2 l", 2000.0),
                ("0,5 l", 500.0),
                ("half a litre", 500.0),
                ("1 cup", 236.6),
                ("1 US pint", 473.2),
                ("2 tbsp", 29.57),
                ("5 g", f64::NAN),
                ("a bit", f64::NAN),
                ("", f64::NAN),
            ],
        );
        all(Kind::Litres, &[("12", 12.0), ("1 1/2", 1.5), ("750 ml", 0.75), ("1 gallon", 3.785)]);
        all(
            Kind::Grams,
            &[("190", 190.0), ("190g", 190.0), ("1.2 kg", 1200.0), ("1 cup", f64::NAN)],
        );
        // A thousand, or one and a half?
        let asks = read(Kind::Millilitres, "1,500", None, Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["1500 ml", "1.5 ml"]);
    }

    fn number_of(kind: Kind, text: &str) -> f64 {
        read(kind, text, None, Degrees::Celsius).ok().and_then(|r| r.number).unwrap_or(f64::NAN)
    }

    fn all(kind: Kind, cases: &[(&str, f64)]) {
        for (text, wanted) in cases {
            let found = number_of(kind, text);
            let same = (found - wanted).abs() < 1e-6 || (found.is_nan() && wanted.is_nan());
            assert!(same, "{kind:?} {text}: {found}, wanted {wanted}");
        }
    }

    #[test]
    fn times_as_a_tired_cook_types_them() {
        all(
            Kind::Minutes,
            &[
                ("90", 90.0),
                ("12 h", 720.0),
                ("12h", 720.0),
                ("1 1/2 hours", 90.0),
                ("1½ h", 90.0),
                ("1.5 h", 90.0),
                ("1,5 h", 90.0),
                ("1 h 30", 90.0),
                ("1 h 30 min", 90.0),
                ("1:30", 90.0),
                ("2 days", 2880.0),
                ("overnight", 600.0),
                ("half an hour", 30.0),
                ("an hour and a half", 90.0),
                ("quarter of an hour", 15.0),
                ("three quarters of an hour", 45.0),
                ("two hours", 120.0),
                ("30 s", 0.5),
                ("10 to 14 min", 12.0),
                ("about 20 minutes", 20.0),
                ("1 day 2 hours", 1560.0),
                ("2 weeks", 20_160.0),
                ("soon", f64::NAN),
                ("", f64::NAN),
                ("1:75", f64::NAN),
                ("30 min 1 h", f64::NAN),
                ("1.2.3 h", f64::NAN),
                ("12 hibiscus", f64::NAN),
                ("-5", f64::NAN),
            ],
        );
        all(Kind::Seconds, &[("40", 40.0), ("2 min", 120.0), ("1 min 10 s", 70.0)]);
    }

    #[test]
    fn temperatures_in_both_scales() {
        all(
            Kind::Celsius,
            &[
                ("80", 80.0),
                ("80 °C", 80.0),
                ("80C", 80.0),
                ("175 °F", 79.4),
                ("175F", 79.4),
                ("212 f", 100.0),
                ("40 degrees Fahrenheit", 4.4),
                ("-5", -5.0),
                ("boiling", 100.0),
                ("4,5", 4.5),
                ("hot", f64::NAN),
                ("80 K", f64::NAN),
            ],
        );
        let hot = read(Kind::Celsius, "175", None, Degrees::Celsius).unwrap_err();
        assert_eq!(hot.choices, ["175 °F"]);
        // In a kitchen that speaks in Fahrenheit a bare number is that, and is written back so.
        let own = |text: &str| read(Kind::Celsius, text, None, Degrees::Fahrenheit).unwrap();
        assert_eq!((own("175").number, own("175").text.as_str()), (Some(79.4), "175"));
        assert_eq!((own("80 °C").number, own("80 °C").text.as_str()), (Some(80.0), "176"));
        assert_eq!(own("boiling").text, "212");
    }

    #[test]
    fn lengths_and_numbers() {
        all(
            Kind::Millimetres,
            &[
                ("30", 30.0),
                ("3 cm", 30.0),
                ("1 1/2 inches", 38.1),
                ("2\"", 50.8),
                ("2-inch", 50.8),
                ("0.5 in", 12.7),
                ("a foot", f64::NAN),
            ],
        );
        all(
            Kind::Number,
            &[
                ("2.5", 2.5),
                ("2,5", 2.5),
                ("1 1/2", 1.5),
                ("1½", 1.5),
                ("¾", 0.75),
                ("1 500", 1500.0),
                ("1.500,5", 1500.5),
                ("1,500.25", 1500.25),
                ("1.07", 1.07),
                ("-3", -3.0),
                (".5", 0.5),
                ("two and a half", 2.5),
                ("1e3", f64::NAN),
                ("2 g", f64::NAN),
                ("", f64::NAN),
            ],
        );
        let asks = read(Kind::Number, "1,500", None, Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["1500", "1.5"]);
    }

    #[test]
    fn an_amount_is_told_as_it_was_understood_or_asked_about() {
        let more = read(Kind::Amount, "30 g more", Some("190 g"), Degrees::Celsius).unwrap();
        assert_eq!((more.text.as_str(), more.understood.as_deref()), ("220 g", Some("= 220 g")));
        assert_eq!(read(Kind::Amount, "220 g", None, Degrees::Celsius).unwrap().understood, None);
        let told = |kind, text| read(kind, text, None, Degrees::Celsius).unwrap().understood;
        assert_eq!(told(Kind::Millimetres, "200\u{202f}mm"), None);
        assert_eq!(told(Kind::Minutes, "90 min"), Some("= 1 h 30 min".into()));
        assert_eq!(told(Kind::Minutes, "40 min"), None);
        let asks = read(Kind::Amount, "1,500 g", None, Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["1500 g", "1.5 g"]);
        let asks = read(Kind::Amount, "1,500", Some("190 g"), Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["1500 g", "1.5 g"]);
        let asks = read(Kind::Amount, "1.500 g", None, Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["1500 g", "1.5 g"]);
        assert_eq!(read(Kind::Amount, "1.500 kg", None, Degrees::Celsius).unwrap().text, "1.5 kg");
        let asks = read(Kind::Amount, "500", Some("2 l"), Degrees::Celsius).unwrap_err();
        assert_eq!(asks.choices, ["500 g", "500 ml"]);
    }
}
