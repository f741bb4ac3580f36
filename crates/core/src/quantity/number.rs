//! Numbers as they are written in a kitchen: `1 1/2`, `¾`, `2,5`, `half`.

use super::AmountError;

const VULGAR: [(char, f64); 15] = [
    ('½', 1.0 / 2.0),
    ('⅓', 1.0 / 3.0),
    ('⅔', 2.0 / 3.0),
    ('¼', 1.0 / 4.0),
    ('¾', 3.0 / 4.0),
    ('⅕', 1.0 / 5.0),
    ('⅖', 2.0 / 5.0),
    ('⅗', 3.0 / 5.0),
    ('⅘', 4.0 / 5.0),
    ('⅙', 1.0 / 6.0),
    ('⅚', 5.0 / 6.0),
    ('⅛', 1.0 / 8.0),
    ('⅜', 3.0 / 8.0),
    ('⅝', 5.0 / 8.0),
    ('⅞', 7.0 / 8.0),
];

/// Fractions that a measuring set or a knife can make.
pub(super) const KITCHEN_FRACTIONS: [(u32, u32); 10] =
    [(1, 16), (1, 8), (1, 4), (1, 3), (3, 8), (1, 2), (5, 8), (2, 3), (3, 4), (7, 8)];

const WORDS: [(&str, f64); 14] = [
    ("a", 1.0),
    ("an", 1.0),
    ("half", 0.5),
    ("quarter", 0.25),
    ("one", 1.0),
    ("two", 2.0),
    ("three", 3.0),
    ("four", 4.0),
    ("five", 5.0),
    ("six", 6.0),
    ("seven", 7.0),
    ("eight", 8.0),
    ("ten", 10.0),
    ("twelve", 12.0),
];

/// Splits the number off the front of `text` and returns it with the words that follow.
pub(super) fn take_number(text: &str) -> Result<(f64, &str), AmountError> {
    let text = text.trim();
    if text.starts_with(['-', '−', '–']) {
        return Err(AmountError::Negative(text.to_owned()));
    }
    if !text.starts_with(|c: char| c.is_ascii_digit() || c == '.' || c == ',' || is_vulgar(c)) {
        return take_word(text);
    }
    let (whole, rest) = take_digits(text)?;
    let mut value = whole.unwrap_or(0.0);
    let mut rest = rest;
    let spaced = rest.trim_start();
    if let Some(c) = spaced.chars().next().filter(|c| is_vulgar(*c)) {
        value += vulgar(c);
        rest = &spaced[c.len_utf8()..];
    } else if let Some(after) = spaced.strip_prefix(['/', '⁄']) {
        let (under, after) = digits_only(after.trim_start());
        value /= denominator(under, text)?;
        rest = after;
    } else if spaced.starts_with(|c: char| c.is_ascii_digit()) {
        let (over, after) = digits_only(spaced);
        let Some(after) = after.trim_start().strip_prefix(['/', '⁄']) else {
            return Err(AmountError::Unreadable(text.to_owned()));
        };
        let (under, after) = digits_only(after.trim_start());
        value += over.parse::<f64>().unwrap_or(0.0) / denominator(under, text)?;
        rest = after;
    }
    Ok((value, rest.trim_start()))
}

fn take_word(text: &str) -> Result<(f64, &str), AmountError> {
    let (first, rest) = text.split_once(char::is_whitespace).unwrap_or((text, ""));
    let lower = first.to_lowercase();
    let Some((word, value)) = WORDS.into_iter().find(|(word, _)| *word == lower) else {
        return Err(AmountError::NoNumber(text.to_owned()));
    };
    // "half a lemon", "a quarter cup"
    if word == "half" || word == "quarter" {
        let rest = rest.trim_start();
        let rest = rest.strip_prefix("a ").or_else(|| rest.strip_prefix("an ")).unwrap_or(rest);
        return Ok((value, rest));
    }
    if value == 1.0
        && let Ok((part, after)) = take_word(rest.trim_start())
        && part < 1.0
    {
        return Ok((part, after));
    }
    Ok((value, rest.trim_start()))
}

fn take_digits(text: &str) -> Result<(Option<f64>, &str), AmountError> {
    let end =
        text.find(|c: char| !(c.is_ascii_digit() || c == '.' || c == ',')).unwrap_or(text.len());
    let digits = &text[..end];
    if digits.is_empty() {
        return Ok((None, text));
    }
    if let Some((before, after)) = digits.split_once(',')
        && after.len() == 3
        && !before.is_empty()
        && before != "0"
    {
        return Err(AmountError::Ambiguous(digits.to_owned()));
    }
    let value = digits
        .replace(',', ".")
        .parse::<f64>()
        .map_err(|_| AmountError::Unreadable(text.to_owned()))?;
    // "1e9" is a number for machines; a cook who types it has slipped.
    let rest = &text[end..];
    let mut next = rest.chars();
    if matches!(next.next(), Some('e' | 'E')) && next.next().is_some_and(|c| c.is_ascii_digit()) {
        return Err(AmountError::Unreadable(text.to_owned()));
    }
    Ok((Some(value), rest))
}

fn digits_only(text: &str) -> (&str, &str) {
    text.split_at(text.find(|c: char| !c.is_ascii_digit()).unwrap_or(text.len()))
}

fn denominator(digits: &str, text: &str) -> Result<f64, AmountError> {
    match digits.parse::<f64>() {
        Ok(under) if under > 0.0 => Ok(under),
        _ => Err(AmountError::Unreadable(text.to_owned())),
    }
}

fn is_vulgar(c: char) -> bool {
    VULGAR.iter().any(|(glyph, _)| *glyph == c)
}

fn vulgar(c: char) -> f64 {
    VULGAR.iter().find(|(glyph, _)| *glyph == c).map_or(0.0, |(_, value)| *value)
}

/// The fraction nearest to `part` (0 to 1) when it agrees to within `tolerance`.
pub(super) fn as_fraction(part: f64, tolerance: f64) -> Option<(u32, u32)> {
    KITCHEN_FRACTIONS
        .into_iter()
        .find(|(over, under)| (f64::from(*over) / f64::from(*under) - part).abs() <= tolerance)
}

/// How many figures of a number are kept and written. A kitchen measures three.
const FIGURES: i32 = 9;

/// A number to so many figures: the one that is read again when it has been written with so many.
///
/// ```
/// use keen_core::quantity::to_figures;
/// assert_eq!(to_figures(2.0 / 3.0, 3), 0.667);
/// assert_eq!(to_figures(-123_456.0, 2), -120_000.0);
/// ```
///
/// At the ends of what a number can hold there is nothing to round it with: it stays as it is.
///
/// ```
/// use keen_core::quantity::to_figures;
/// assert_eq!(to_figures(3e-309, 6), 3e-309);
/// assert_eq!(to_figures(f64::MAX, 2), f64::MAX);
/// ```
#[must_use]
pub fn to_figures(value: f64, figures: i32) -> f64 {
    if value == 0.0 || !value.is_finite() {
        return value;
    }
    // A whole number over a power of ten, both exact, is rounded once: as when it is read.
    let places = figures - 1 - value.abs().log10().floor() as i32;
    let power = 10f64.powi(places.abs());
    let rounded =
        if places >= 0 { (value * power).round() / power } else { (value / power).round() * power };
    if rounded.is_finite() { rounded } else { value }
}

/// The number that is read again when `value` has been written.
pub(super) fn as_written(value: f64) -> f64 {
    to_figures(value, FIGURES)
}

/// A number that was worked out, as one would note it: a kitchen's fraction where it is one, else seven
/// figures.
pub(super) fn tidy(value: f64) -> f64 {
    let whole = value.floor();
    match as_fraction(value - whole, 1e-5) {
        Some((over, under)) => whole + f64::from(over) / f64::from(under),
        None => to_figures(value, 7),
    }
}

/// Writes `value`, in fractions where that is exact and wanted, else with up to nine figures.
/// Whatever is written is read again as the same number, to nine figures.
///
/// ```
/// use keen_core::quantity::format_number;
/// assert_eq!(format_number(1.5, true), "1 1/2");
/// assert_eq!(format_number(1.5, false), "1.5");
/// assert_eq!(format_number(220.0, false), "220");
/// ```
#[must_use]
pub fn format_number(value: f64, in_fractions: bool) -> String {
    if in_fractions {
        let whole = value.floor();
        // As near as nine figures of a third come to a third.
        if let Some((over, under)) = as_fraction(value - whole, 5e-9 * value.max(1.0)) {
            return if whole >= 1.0 {
                format!("{whole} {over}/{under}")
            } else {
                format!("{over}/{under}")
            };
        }
    }
    // The shortest text that is read as that number.
    format!("{}", as_written(value))
}
