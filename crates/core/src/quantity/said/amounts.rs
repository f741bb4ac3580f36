//! An amount that was typed: a number or a range, a measure, and more of the same.

use std::str::FromStr;

use super::counted::{Counted, Fullness, measure};
use super::numbers::number;
use super::words::{Word, digits, words};
use crate::quantity::amount::{
    Amount, AmountError, MAX_TEXT, MAX_TOTAL, MAX_VALUE, MIN_VALUE, Term,
};
use crate::quantity::measure::{Dimension, Measure};
use crate::quantity::number::as_written;

/// Measures that are so many of another: a dessertspoon is two teaspoons. Imperial pints and gills by law; the others as
/// bartenders and cookbooks have them.
const OTHERS: [(&str, f64, Measure); 22] = [
    ("imperial pint", 568.0, Measure::Millilitre),
    ("uk pint", 568.0, Measure::Millilitre),
    ("british pint", 568.0, Measure::Millilitre),
    ("imperial gill", 142.0, Measure::Millilitre),
    ("uk gill", 142.0, Measure::Millilitre),
    ("us gill", 118.0, Measure::Millilitre),
    ("us pint", 1.0, Measure::Pint),
    ("us quart", 1.0, Measure::Quart),
    ("us gallon", 1.0, Measure::Gallon),
    ("us teaspoon", 1.0, Measure::Teaspoon),
    ("us tablespoon", 1.0, Measure::Tablespoon),
    ("dessertspoon", 2.0, Measure::Teaspoon),
    ("dessertspoons", 2.0, Measure::Teaspoon),
    ("dessert spoon", 2.0, Measure::Teaspoon),
    ("dessert spoons", 2.0, Measure::Teaspoon),
    ("jigger", 1.5, Measure::FluidOunce),
    ("jiggers", 1.5, Measure::FluidOunce),
    ("hg", 100.0, Measure::Gram),
    ("dag", 10.0, Measure::Gram),
    ("dkg", 10.0, Measure::Gram),
    ("stone", 14.0, Measure::Pound),
    ("tonne", 1_000_000.0, Measure::Gram),
];

/// What a heaped spoon holds of a level one, and a scant one.
const HEAPED: f64 = 1.5;
const SCANT: f64 = 0.9;

/// Two ways to say one amount agree to this.
const ALIKE: f64 = 0.15;

impl FromStr for Amount {
    type Err = AmountError;

    fn from_str(text: &str) -> Result<Self, AmountError> {
        if text.chars().count() > MAX_TEXT {
            return Err(AmountError::TooLong);
        }
        let text = text.trim();
        if text.is_empty() {
            return Err(AmountError::Empty);
        }
        let said = without_thousands(text);
        Reader { text: &said, words: words(&said) }.read()
    }
}

/// "1 500 g" and "1.234,5 g" without what sets the thousands apart.
pub(super) fn without_thousands(text: &str) -> String {
    let spaced = text.replace(['\u{a0}', '\u{2009}', '\u{202f}'], " ");
    let end = spaced
        .find(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ',' | ' ' | '\'')))
        .unwrap_or(spaced.len());
    let (front, rest) = spaced.split_at(end);
    let figures = front.trim_end();
    let gap = &front[figures.len()..];
    let whole = |of: &str, by: char| {
        let mut groups = of.split(by);
        let first = groups.next().unwrap_or("");
        let mut many = 0;
        let all_digits = |g: &str| g.chars().all(|c| c.is_ascii_digit());
        let threes = groups.all(|g| {
            many += 1;
            g.len() == 3 && all_digits(g)
        });
        threes && many > 0 && (1..=3).contains(&first.len()) && all_digits(first) && first != "0"
    };
    // A stroke behind it makes a fraction of the last group: "1 500/1000" is nobody's amount.
    if rest.starts_with(['/', '⁄']) {
        return spaced;
    }
    for (by, point) in [(' ', ','), (' ', '.'), (',', '.'), ('.', ','), ('\'', '.')] {
        let (front, behind) = match figures.split_once(point) {
            Some((front, behind)) => (front, Some(behind)),
            None => (figures, None),
        };
        if !whole(front, by) {
            continue;
        }
        match behind {
            Some(digits) if !digits.is_empty() && digits.chars().all(|c| c.is_ascii_digit()) => {
                let front: String = front.chars().filter(char::is_ascii_digit).collect();
                return format!("{front}.{digits}{gap}{rest}");
            }
            // One comma or point before three digits may be a decimal one; spaces and two of them can't.
            None if by == ' ' || front.matches(by).count() > 1 => {
                let front: String = front.chars().filter(char::is_ascii_digit).collect();
                return format!("{front}{gap}{rest}");
            }
            _ => {}
        }
    }
    spaced
}

struct Reader<'a> {
    text: &'a str,
    words: Vec<Word>,
}

/// How the next amount is joined on.
#[derive(Clone, Copy, PartialEq)]
enum Join {
    Plus,
    Less,
    /// The same once more, in another measure.
    Same,
}

impl Reader<'_> {
    fn at(&self, n: usize) -> &str {
        self.words.get(n).map_or("", |w| w.text.as_str())
    }

    fn unreadable(&self) -> AmountError {
        AmountError::Unreadable(self.text.to_owned())
    }

    fn read(&self) -> Result<Amount, AmountError> {
        let mut at = self.introduced();
        let mut amount = Amount { terms: Vec::new(), range: None };
        let mut join = Join::Plus;
        loop {
            let (term, range, used) = self.term(at)?;
            at += used;
            if range.is_some() && (!amount.terms.is_empty() || self.joined(at).is_some()) {
                return Err(self.unreadable());
            }
            match join {
                Join::Plus => {
                    amount.terms.push(term);
                    amount.range = range;
                }
                Join::Less => amount = self.less(&amount, &term)?,
                Join::Same => self.same(&mut amount, term)?,
            }
            if join == Join::Same && self.at(at) == ")" {
                at += 1;
            }
            if at >= self.words.len() {
                return Ok(amount);
            }
            let (next, used) = self.joined(at).ok_or_else(|| self.unreadable())?;
            (join, at) = (next, at + used);
        }
    }

    /// Words that only lead up to an amount: "the juice of 3 lemons".
    fn introduced(&self) -> usize {
        let mut at = 0;
        while matches!(self.at(at), "the" | "some" | "add") && self.words.len() > at + 1 {
            at += 1;
        }
        let part = matches!(
            self.at(at),
            "juice" | "zest" | "peel" | "rind" | "leaves" | "flesh" | "pulp" | "seeds"
        );
        if part && self.at(at + 1) == "of" && self.words.len() > at + 2 { at + 2 } else { at }
    }

    /// What joins the next amount on, if one follows.
    fn joined(&self, at: usize) -> Option<(Join, usize)> {
        let figure = |n: usize| number(self.words.get(n..).unwrap_or(&[])).is_some();
        match self.at(at) {
            "+" | "plus" | "and" | "&" | "," if figure(at + 1) => Some((Join::Plus, 1)),
            "less" | "minus" | "−" if figure(at + 1) => Some((Join::Less, 1)),
            "/" | "=" | "or" if figure(at + 1) => Some((Join::Same, 1)),
            "(" if figure(at + 1) => Some((Join::Same, 1)),
            // "1 lb 4 oz"
            _ if self.words.get(at).is_some_and(|w| digits(&w.text).is_some()) => {
                Some((Join::Plus, 0))
            }
            _ => None,
        }
    }

    /// One number with its measure, the ends if it is a range, and how many words that takes.
    #[allow(clippy::type_complexity, reason = "used in one place")]
    fn term(&self, from: usize) -> Result<(Term, Option<(f64, f64)>, usize), AmountError> {
        let said = |end: usize| self.slice(from, end);
        if matches!(self.at(from), "-" | "−" | "–") {
            return Err(AmountError::Negative(said(self.words.len())));
        }
        let mut at = from;
        let (low, high) = match self.number_at(from)? {
            Some((low, high, used)) => {
                at += used;
                (low, high)
            }
            // "pinch", "handful": one of it.
            None if measure(&self.words[from..]).is_some() => (1.0, None),
            None => return Err(AmountError::NoNumber(said(self.words.len()))),
        };
        let number_ends = at;
        while matches!(self.at(at), "of" | "a" | "an" | "the" | "-") && at + 1 < self.words.len() {
            at += 1;
        }
        let (measure, factor, used) = self.measure_at(at)?;
        at += used;
        if self.at(at) == "of" && at + 1 == self.words.len() {
            at += 1;
        }
        // "1 2 cups": one of what?
        if at == number_ends && self.words.get(at).is_some_and(|w| digits(&w.text).is_some()) {
            return Err(self.unreadable());
        }
        let all = said(at.max(from + 1));
        self.check_comma(from)?;
        let mut value = low * factor;
        let mut ends = None;
        if let Some(high) = high {
            if high <= low {
                return Err(self.unreadable());
            }
            let pair = (as_written(low * factor), as_written(high * factor));
            (value, ends) = (as_written((pair.0 + pair.1) / 2.0), Some(pair));
        }
        // "a litre and a half"
        if self.at(at) == "and"
            && self.at(at + 1) == "a"
            && matches!(self.at(at + 2), "half" | "quarter")
            && self.words.get(at + 3).is_none()
        {
            value += if self.at(at + 2) == "half" { factor / 2.0 } else { factor / 4.0 };
            at += 3;
        }
        if value <= 0.0 {
            return Err(AmountError::Zero(all));
        }
        if value < MIN_VALUE {
            return Err(AmountError::TooLittle(all));
        }
        if value > MAX_VALUE || value * measure.factor() > MAX_TOTAL {
            return Err(AmountError::TooMuch(all));
        }
        // As it will be written back, so that reading it again changes nothing.
        let value = if ends.is_some() { value } else { as_written(value) };
        Ok((Term { value, measure }, ends, at - from))
    }

    fn number_at(&self, from: usize) -> Result<Option<(f64, Option<f64>, usize)>, AmountError> {
        let first = self.at(from);
        // Not every digit is a number: "1.2.3", "1e9".
        if first.starts_with(|c: char| c.is_ascii_digit()) && digits(first).is_none() {
            return Err(self.unreadable());
        }
        let glued = |n: usize| match (self.words.get(n), self.words.get(n + 1)) {
            (Some(a), Some(b)) => a.to == b.from,
            _ => false,
        };
        if digits(first).is_some() && glued(from) {
            let (next, after) = (self.at(from + 1), self.at(from + 2));
            let bare = |t: &str| t.starts_with(|c: char| c.is_ascii_digit());
            if (next == "e" && bare(after))
                || matches!(next, "." | ",") && !after.is_empty() && bare(after)
            {
                return Err(self.unreadable());
            }
        }
        // ".5 g", ",5 g"
        if matches!(first, "." | ",")
            && glued(from)
            && let Some(value) = digits(&format!("0.{}", self.at(from + 1)))
        {
            return Ok(Some((value, None, 2)));
        }
        // What can't be divided by: "1/0 cup".
        if self.at(from + 1) == "/" && digits(self.at(from + 2)) == Some(0.0) {
            return Err(self.unreadable());
        }
        // "3/2 cups" is one and a half.
        if let (Some(over), true, Some(under)) =
            (digits(first), self.at(from + 1) == "/", digits(self.at(from + 2)))
            && under >= 2.0
            && over.fract() == 0.0
            && under.fract() == 0.0
            && (over >= under || under > 16.0)
            && over < 100.0
            && under <= 100.0
        {
            return Ok(Some((over / under, None, 3)));
        }
        Ok(number(&self.words[from..]).map(|(many, used)| (many.low, many.high, used)))
    }

    /// A comma before three digits may be one of thousands, or a decimal one.
    fn check_comma(&self, from: usize) -> Result<(), AmountError> {
        let figures = self.words[from..].iter().find(|w| digits(&w.text).is_some());
        let Some(figures) = figures.map(|w| w.text.as_str()) else { return Ok(()) };
        let comma = three_behind(figures, ',');
        if comma {
            return Err(AmountError::Ambiguous(figures.to_owned()));
        }
        Ok(())
    }

    /// The measure, what its number is multiplied by, and how many words it takes. Words that are none are those of a
    /// piece: "large limes".
    fn measure_at(&self, from: usize) -> Result<(Measure, f64, usize), AmountError> {
        let rest = &self.words[from..];
        for (name, factor, of) in OTHERS {
            let many = name.split(' ').count();
            let there = name.split(' ').enumerate().all(|(i, part)| {
                let word = self.at(from + i);
                word == part || (i + 1 == many && word.strip_suffix('s') == Some(part))
            });
            if there && self.ends_at(from + many) {
                return Ok((of, factor, many));
            }
        }
        // "fl.oz.": what has points in it.
        if matches!(self.at(from), "fl" | "fl.") {
            let oz =
                (from + 1..from + 4).find(|n| matches!(self.at(*n), "oz" | "ounce" | "ounces"));
            if let Some(oz) = oz {
                let dotted = usize::from(self.at(oz + 1) == ".");
                return Ok((Measure::FluidOunce, 1.0, oz + 1 + dotted - from));
            }
        }
        if let Some((Counted::In(known), full, used)) = measure(rest)
            && self.ends_at(from + used)
        {
            let heaped = rest[..used].iter().any(|w| w.is(&["heaped", "heaping", "rounded"]));
            let factor = match full {
                Fullness::Heaped if heaped => HEAPED,
                Fullness::Scant => SCANT,
                _ => 1.0,
            };
            return Ok((known, factor, used));
        }
        if self.at(from) == "dozen" && self.ends_at(from + 1) {
            return Ok((Measure::Piece(String::new()), 12.0, 1));
        }
        // Pieces, in the words that were used.
        let mut end = from;
        while end < self.words.len() && self.joined(end).is_none() && self.at(end) != ")" {
            end += 1;
        }
        let spoken = self.slice(from, end);
        let known_inside = measure(rest).is_some_and(|(counted, _, used)| {
            matches!(counted, Counted::In(_)) && from + used < end
        });
        // "3 to 1 tbsp": what joins two numbers is no piece.
        let joins = matches!(self.at(from), "to" | "or" | "and" | "by" | "per");
        let odd = joins || spoken.contains(['/', '(', ')', '=', '*', '%', '<', '>', '?', '!']);
        if known_inside || odd {
            return Err(self.unreadable());
        }
        Ok((Measure::Piece(spoken), 1.0, end - from))
    }

    /// Whether an amount may end there.
    fn ends_at(&self, at: usize) -> bool {
        at >= self.words.len()
            || self.at(at) == ")"
            || self.joined(at).is_some()
            || (self.at(at) == "of" && at + 1 == self.words.len())
            || (self.at(at) == "and" && self.at(at + 1) == "a")
    }

    fn slice(&self, from: usize, end: usize) -> String {
        let (Some(first), Some(last)) = (self.words.get(from), self.words.get(end.max(1) - 1))
        else {
            return String::new();
        };
        if end <= from { String::new() } else { self.text[first.from..last.to].to_owned() }
    }

    /// "1 cup less 1 tbsp".
    fn less(&self, amount: &Amount, term: &Term) -> Result<Amount, AmountError> {
        let of = |d: Dimension| {
            amount.terms.iter().all(|t| t.measure.dimension() == d) && term.measure.dimension() == d
        };
        if amount.range.is_some() || !(of(Dimension::Mass) || of(Dimension::Volume)) {
            return Err(self.unreadable());
        }
        let left = amount.total() / term.measure.factor() - term.value;
        if left <= 0.0 {
            return Err(AmountError::Negative(self.text.to_owned()));
        }
        Ok(Amount::of(left, term.measure.clone()))
    }

    /// "1 cup (240 ml)", "1 cup (200 g)": the same twice. A weight is taken before a volume; what doesn't agree isn't
    /// guessed at.
    fn same(&self, amount: &mut Amount, term: Term) -> Result<(), AmountError> {
        let [first] = amount.terms.as_slice() else { return Err(self.unreadable()) };
        let (a, b) = (first.measure.dimension(), term.measure.dimension());
        if a == b {
            let (one, other) =
                (first.value * first.measure.factor(), term.value * term.measure.factor());
            let alike = a != Dimension::Count && (one / other - 1.0).abs() < ALIKE;
            return if alike { Ok(()) } else { Err(AmountError::Twice(self.text.to_owned())) };
        }
        if b == Dimension::Mass {
            *amount = Amount { terms: vec![term], range: None };
        }
        Ok(())
    }
}

/// Whether three digits stand behind that sign, so that it may set thousands apart.
pub(super) fn three_behind(figures: &str, sign: char) -> bool {
    figures.split_once(sign).is_some_and(|(front, behind)| {
        let digits = |t: &str| t.chars().all(|c| c.is_ascii_digit());
        behind.len() == 3
            && (1..=3).contains(&front.len())
            && !front.starts_with('0')
            && digits(front)
            && digits(behind)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> String {
        match text.parse::<Amount>() {
            Ok(amount) => amount.to_string(),
            Err(error) => format!("? {error:?}").split('(').next().unwrap_or_default().to_owned(),
        }
    }

    #[test]
    fn amounts_as_cooks_type_them() {
        for (typed, said) in [
            ("1 500 g", "1500 g"),
            ("1.500,5 g", "1500.5 g"),
            ("1,500.5 g", "1500.5 g"),
            ("1,500 g", "? Ambiguous"),
            ("1,500 kg", "? Ambiguous"),
            ("1.500 g", "1.5 g"),
            ("0,750 l", "0.75 l"),
            ("1 2 cups", "? Unreadable"),
            ("two and a half cups", "2 1/2 cups"),
            ("2 and a half cups", "2 1/2 cups"),
            ("2-1/2 cups", "2 1/2 cups"),
            ("one and a half litres", "1.5 l"),
            ("a litre and a half", "1.5 l"),
            ("a third of a cup", "1/3 cup"),
            ("three quarters of a cup", "3/4 cup"),
            ("2 c", "2 cups"),
            ("1 T", "1 tbsp"),
            ("1 t", "1 tsp"),
            ("1 heaped tbsp", "1 1/2 tbsp"),
            ("1 level tbsp", "1 tbsp"),
            ("2 dessertspoons", "4 tsp"),
            ("pinch", "1 pinch"),
            ("a pinch", "1 pinch"),
            ("about 200 g", "200 g"),
            ("~200 g", "200 g"),
            ("1 lb 4 oz", "1 lb + 4 oz"),
            ("1kg 200g", "1 kg + 200 g"),
            ("1 l 200 ml", "1 l + 200 ml"),
            ("16 fl.oz.", "16 fl oz"),
            ("1 imperial pint", "568 ml"),
            ("a jigger", "1 1/2 fl oz"),
            ("2 or 3 lemons", "2 to 3 lemons"),
            ("2 – 3 lemons", "2 to 3 lemons"),
            ("two to three lemons", "2 to 3 lemons"),
            ("juice of 3 lemons", "3 lemons"),
            ("half a dozen limes", "6 limes"),
            ("a dozen", "12"),
            ("2-inch piece", "2 inch piece"),
            ("1 cup (240 ml)", "1 cup"),
            ("1 cup (200 g)", "200 g"),
            ("250ml/1 cup", "250 ml"),
            ("1 cup (500 ml)", "? Twice"),
            ("1 cup less 1 tbsp", "15 tbsp"),
            ("1 cup + 2 tbsp", "1 cup + 2 tbsp"),
            ("1 cup and 2 tbsp", "1 cup + 2 tbsp"),
            (".5 g", "0.5 g"),
            ("1/3cup", "1/3 cup"),
            ("3/2 cups", "1 1/2 cups"),
            ("1/0 cup", "? Unreadable"),
            ("1.2.3 g", "? Unreadable"),
            ("1,2,3 g", "? Unreadable"),
            ("1e3 g", "? Unreadable"),
            ("12,34 g", "12.34 g"),
            ("200 g sugar", "? Unreadable"),
            ("5 dag", "50 g"),
            ("3 large limes", "3 large limes"),
            ("1 to 3 tbsp", "1 to 3 tbsp"),
            ("a few sprigs", "3 sprigs"),
            ("some", "? NoNumber"),
            ("to taste", "? NoNumber"),
            ("-3 g", "? Negative"),
            ("0 g", "? Zero"),
        ] {
            assert_eq!(read(typed), said, "{typed}");
        }
    }

    #[test]
    fn what_is_read_is_read_again_as_it_is_written() {
        for typed in
            ["2 tbsp + 1/2 tsp", "1 lb 4 oz", "2-inch piece", "3 large limes", "1 to 3 tbsp"]
        {
            let amount: Amount = typed.parse().unwrap();
            assert_eq!(amount.to_string().parse::<Amount>().unwrap(), amount, "{typed}");
        }
    }
}
