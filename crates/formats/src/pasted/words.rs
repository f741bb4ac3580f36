//! A line as words, and the numbers, measures and times among them.

use keen_core::quantity::Measure;

/// A word or a sign of a line.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Word {
    /// In small letters, without what is at its end in the plural.
    pub(super) stem: String,
    /// In small letters, as it stands.
    pub(super) text: String,
    /// As it was written.
    pub(super) written: String,
    /// Where it stands, in bytes.
    pub(super) from: usize,
    pub(super) to: usize,
}

impl Word {
    pub(super) fn is(&self, any: &[&str]) -> bool {
        any.contains(&self.text.as_str()) || any.contains(&self.stem.as_str())
    }

    pub(super) fn is_sign(&self) -> bool {
        self.text.chars().all(|c| !c.is_alphanumeric() && fraction(c).is_none())
    }
}

/// Whether one of these words stands there.
pub(super) fn says(words: &[Word], any: &[&str]) -> bool {
    words.iter().any(|w| w.is(any))
}

/// Whether these words stand there one behind the other.
pub(super) fn together(words: &[Word], phrase: &[&str]) -> bool {
    words.windows(phrase.len()).any(|w| w.iter().zip(phrase).all(|(w, p)| w.text == *p))
}

const FRACTIONS: [(char, f64); 15] = [
    ('½', 0.5),
    ('⅓', 1.0 / 3.0),
    ('⅔', 2.0 / 3.0),
    ('¼', 0.25),
    ('¾', 0.75),
    ('⅕', 0.2),
    ('⅖', 0.4),
    ('⅗', 0.6),
    ('⅘', 0.8),
    ('⅙', 1.0 / 6.0),
    ('⅚', 5.0 / 6.0),
    ('⅛', 0.125),
    ('⅜', 0.375),
    ('⅝', 0.625),
    ('⅞', 0.875),
];

fn fraction(c: char) -> Option<f64> {
    FRACTIONS.iter().find(|(sign, _)| *sign == c).map(|(_, value)| *value)
}

/// What a word is without its plural: good enough to compare two words, not to be shown.
pub(super) fn stem(word: &str) -> String {
    let word = word.strip_suffix("'s").or(word.strip_suffix("’s")).unwrap_or(word);
    match word {
        "leaves" => return "leaf".into(),
        "knives" => return "knife".into(),
        "halves" => return "half".into(),
        _ => {}
    }
    if word.chars().count() < 4 || !word.is_ascii() {
        return word.to_owned();
    }
    for (plural, one) in
        [("ies", "y"), ("oes", "o"), ("shes", "sh"), ("ches", "ch"), ("xes", "x"), ("sses", "ss")]
    {
        if let Some(front) = word.strip_suffix(plural) {
            return format!("{front}{one}");
        }
    }
    match word.strip_suffix('s') {
        Some(front) if !front.ends_with('s') && !front.ends_with('u') => front.to_owned(),
        _ => word.to_owned(),
    }
}

#[derive(PartialEq, Clone, Copy)]
enum Sort {
    Digits,
    Letters,
    Sign,
    Space,
}

fn sort_of(c: char) -> Sort {
    if c.is_ascii_digit() {
        Sort::Digits
    } else if c.is_alphabetic() || c == '\'' || c == '’' || c == '°' || c == 'º' {
        Sort::Letters
    } else if c.is_whitespace() {
        Sort::Space
    } else {
        Sort::Sign
    }
}

/// Splits a line: "200g" is two words, "1½" is two, "1.5" one.
pub(super) fn words(line: &str) -> Vec<Word> {
    let mut found: Vec<Word> = Vec::new();
    let mut letters = line.char_indices().peekable();
    while let Some((from, c)) = letters.next() {
        let sort = sort_of(c);
        if sort == Sort::Space {
            continue;
        }
        let mut to = from + c.len_utf8();
        if sort != Sort::Sign {
            while let Some(&(at, next)) = letters.peek() {
                let inner = sort == Sort::Digits
                    && matches!(next, '.' | ',')
                    && line[at + 1..].starts_with(|c: char| c.is_ascii_digit());
                let joined = sort == Sort::Letters && matches!(next, '\u{300}'..='\u{36f}');
                if sort_of(next) != sort && !inner && !joined {
                    break;
                }
                to = at + next.len_utf8();
                letters.next();
            }
        }
        let behind_figure =
            found.last().filter(|w| w.to == from || line[w.to..from].trim().is_empty());
        let figure = behind_figure.and_then(|w| digits(&w.text));
        // A large T is a tablespoon, a small one a teaspoon; a large C behind a figure is a cup, or a degree
        // where nobody would pour so many cups; a quotation mark behind one is an inch.
        let text = match &line[from..to] {
            "T" => "tbsp".to_owned(),
            "t" if found.last().is_some_and(|w| w.text.ends_with(|c: char| c.is_ascii_digit())) => {
                "tsp".to_owned()
            }
            "C" if figure.is_some_and(|n| n >= 30.0) => "°c".to_owned(),
            "\"" | "″" | "”" if figure.is_some() && found.last().is_some_and(|w| w.to == from) => {
                "inch".to_owned()
            }
            plain => plain.to_lowercase(),
        };
        let written = line[from..to].to_owned();
        found.push(Word { stem: stem(&text), text, written, from, to });
    }
    found
}

/// A number, or a range of two.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Many {
    pub(super) low: f64,
    /// The upper end of a range.
    pub(super) high: Option<f64>,
    /// Whether it is only meant so: "a few", "about".
    pub(super) loose: bool,
}

const NUMBERS: [(&str, f64); 21] = [
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
    ("fifteen", 15.0),
    ("twenty", 20.0),
    ("thirty", 30.0),
    ("forty", 40.0),
    ("fifty", 50.0),
    ("sixty", 60.0),
    ("hundred", 100.0),
    ("couple", 2.0),
    ("dozen", 12.0),
];

fn digits(text: &str) -> Option<f64> {
    if !text.starts_with(|c: char| c.is_ascii_digit()) {
        return None;
    }
    // A comma before three digits is one of thousands; before one or two it is a decimal one.
    let plain = match text.split_once(',') {
        Some((_, after)) if after.len() == 3 && !text.starts_with('0') => text.replace(',', ""),
        _ => text.replace(',', "."),
    };
    plain.parse().ok().filter(|value: &f64| value.is_finite())
}

fn single(words: &[Word]) -> Option<(f64, usize, bool)> {
    let first = words.first()?;
    if let Some(value) = first.text.chars().next().and_then(fraction) {
        return Some((value, 1, false));
    }
    if let Some(whole) = digits(&first.text) {
        let rest = &words[1..];
        if let Some(more) = rest.first().and_then(|w| w.text.chars().next()).and_then(fraction) {
            return Some((whole + more, 2, false));
        }
        let over = |at: usize| {
            let [over, slash, under] = words.get(at..at + 3)? else { return None };
            let (over_by, under_by) = (digits(&over.text)?, digits(&under.text)?);
            (slash.is(&["/", "⁄"]) && under_by > 0.0 && under_by <= 16.0 && over_by < under_by)
                .then(|| over_by / under_by)
        };
        if let Some(part) = over(0) {
            return Some((part, 3, false));
        }
        if let Some(part) = over(1) {
            return Some((whole + part, 4, false));
        }
        let dash_fraction = words.get(1).is_some_and(|w| w.is(&["-"])).then(|| over(2)).flatten();
        if let Some(part) = dash_fraction {
            return Some((whole + part, 5, false));
        }
        if rest.first().is_some_and(|w| w.is(&["dozen"])) {
            return Some((whole * 12.0, 2, false));
        }
        return Some((whole, 1, false));
    }
    let at = |n: usize| words.get(n).map_or("", |w| w.text.as_str());
    if first.is(&["half"]) && at(1) == "a" && at(2) == "dozen" {
        return Some((6.0, 3, false));
    }
    let part = |text: &str| match text {
        "half" => Some(0.5),
        "quarter" => Some(0.25),
        "third" => Some(1.0 / 3.0),
        _ => None,
    };
    let article = |text: &str| matches!(text, "a" | "an" | "the" | "of");
    if let Some(value) = part(&first.text) {
        let mut used = 1;
        while article(at(used)) && used < 3 {
            used += 1;
        }
        return Some((value, used, false));
    }
    match (first.text.as_str(), at(1), at(2)) {
        ("a" | "one", "half" | "quarter" | "third", _) => {
            let value = part(at(1))?;
            let more = usize::from(article(at(2)));
            Some((value, 2 + more, false))
        }
        ("a", "few", _) => Some((3.0, 2, true)),
        ("a", "couple", "of") => Some((2.0, 3, true)),
        ("a", "couple" | "dozen", _) => {
            Some((if at(1) == "couple" { 2.0 } else { 12.0 }, 2, at(1) == "couple"))
        }
        ("few" | "several" | "some", _, _) => None,
        ("a" | "an", _, _) => Some((1.0, 1, false)),
        ("three", "quarters", _) => Some((0.75, 2 + usize::from(article(at(2))), false)),
        (word, next, _) => {
            let (_, value) = NUMBERS.iter().find(|(name, _)| *name == word)?;
            // "one and a half", "two thirds"
            if next == "and" && at(2) == "a" && at(3) == "half" {
                return Some((value + 0.5, 4, false));
            }
            if next == "thirds" {
                return Some((value / 3.0, 2 + usize::from(article(at(2))), false));
            }
            Some((*value, 1, word == "couple"))
        }
    }
}

/// The number that the words begin with, and how many words it takes.
pub(super) fn number(words: &[Word]) -> Option<(Many, usize)> {
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

/// A word after a number that says in what it is counted.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Counted {
    /// A measure of the kitchen.
    In(Measure),
    /// By a part of the thing: sprig, leaf, bag.
    By(&'static str),
}

/// The measure that a single word means.
pub(super) fn measure_word(text: &str) -> Option<Counted> {
    use Measure as M;
    let bare = text.trim_end_matches('.');
    if let Some(known) = match bare {
        "tblsp" | "tbl" | "tablespoonful" | "tablespoonfuls" | "tablespoonsful"
        | "dessertspoons" | "tbspn" => Some(M::Tablespoon),
        "teaspoonful" | "teaspoonfuls" | "teaspoonsful" | "tspn" => Some(M::Teaspoon),
        "cupful" | "cupfuls" | "cupsful" | "c" => Some(M::Cup),
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
pub(super) fn measure(words: &[Word]) -> Option<(Counted, Fullness, usize)> {
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
pub(super) enum Fullness {
    Level,
    /// A little under the line.
    Scant,
    /// A little over it.
    Heaped,
}

/// A time, in minutes, and how many words it takes.
pub(super) fn time(words: &[Word]) -> Option<(f64, bool, usize)> {
    let first = words.first()?;
    if first.is(&["overnight"]) {
        return Some((600.0, false, 1));
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
            ("two thirds of a cup", 2.0 / 3.0, None, 3),
            ("2 x 400 ml", 800.0, None, 3),
            ("1,5 l", 1.5, None, 1),
            ("1,000 ml", 1000.0, None, 1),
            ("one and a half cups", 1.5, None, 4),
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
        ] {
            let (found, ..) = time(&words(text)).unwrap_or_else(|| panic!("{text}"));
            assert!((found - minutes).abs() < 1e-9, "{text}: {found}");
        }
        assert_eq!(time(&words("3 lemons")), None);
    }
}
