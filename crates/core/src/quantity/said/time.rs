//! Times as recipes and cooks say them.

use super::numbers::number;
use super::words::Word;

/// A time, in minutes, and how many words it takes.
pub fn time(words: &[Word]) -> Option<(f64, bool, usize)> {
    let first = words.first()?;
    if first.is(&["overnight"]) {
        return Some((600.0, false, 1));
    }
    // "Till morning", "until the next day"
    if first.is(&["until", "till", "til"]) {
        let small = |w: &&Word| w.is(&["the", "next", "following"]);
        let day = 1 + words[1..].iter().take_while(small).count();
        let named = words
            .get(day)
            .is_some_and(|w| w.is(&["morning", "tomorrow"]) || (w.is(&["day"]) && day > 1));
        return named.then_some((600.0, true, day + 1));
    }
    if first.is(&["few"]) && words.get(1).is_some_and(|w| w.is(&["minute"])) {
        return Some((3.0, true, 2));
    }
    if first.is(&["few"]) && words.get(1).is_some_and(|w| w.is(&["hour"])) {
        return Some((180.0, true, 2));
    }
    let (many, used) = number(words)?;
    let mut at = used;
    if words.get(at).is_some_and(|w| w.is(&["more", "whole", "full", "good", "-"])) {
        at += 1;
    }
    let unit = words.get(at)?;
    let each = match unit.stem.as_str() {
        "second" | "sec" => 1.0 / 60.0,
        "s" if many.low >= 5.0 => 1.0 / 60.0,
        "minute" | "min" | "mn" => 1.0,
        "hour" | "hr" | "hrs" | "h" => 60.0,
        "night" => 600.0,
        "day" => 1440.0,
        "week" => 10_080.0,
        _ => return None,
    };
    at += 1;
    let middle = many.high.map_or(many.low, |high| (many.low + high) / 2.0);
    let mut minutes = middle * each;
    // "1 hour 30 minutes", "an hour and a half"
    let joined = at + usize::from(words.get(at).is_some_and(|w| w.is(&["and"])));
    if each == 60.0 {
        if let Some((more, used)) = words.get(joined..).and_then(number)
            && words.get(joined + used).is_some_and(|w| w.is(&["minute", "min"]))
        {
            minutes += more.low;
            at = joined + used + 1;
        } else if joined > at
            && words.get(joined).is_some_and(|w| w.is(&["a"]))
            && words.get(joined + 1).is_some_and(|w| w.text == "half")
        {
            minutes += 30.0;
            at = joined + 2;
        }
    }
    Some((minutes.clamp(0.05, 20_000.0), many.loose, at))
}

#[cfg(test)]
mod tests {
    use super::super::words::words;
    use super::*;

    #[test]
    fn times_as_cooks_write_them() {
        for (text, minutes) in [
            ("20 minutes", 20.0),
            ("half an hour", 30.0),
            ("1 hour 30 minutes", 90.0),
            ("an hour and a half", 90.0),
            ("2-3 hours", 150.0),
            ("overnight", 600.0),
            ("30 secs", 0.5),
            ("a few minutes", 3.0),
            ("24 hrs", 1440.0),
            ("till morning", 600.0),
            ("until the next day", 600.0),
        ] {
            let (found, ..) = time(&words(text)).unwrap_or_else(|| panic!("{text}"));
            assert!((found - minutes).abs() < 1e-9, "{text}: {found}");
        }
        assert_eq!(time(&words("3 lemons")), None);
    }
}
