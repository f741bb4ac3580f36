//! A line as words and signs.

use crate::quantity::number::vulgar;

/// A word or a sign of a line.
#[derive(Debug, Clone, PartialEq)]
pub struct Word {
    /// In small letters, without what is at its end in the plural.
    pub stem: String,
    /// In small letters, as it stands.
    pub text: String,
    /// As it was written.
    pub written: String,
    /// Where it stands, in bytes.
    pub from: usize,
    /// Where it ends.
    pub to: usize,
}

impl Word {
    /// Whether it is one of these, in the plural or not.
    #[must_use]
    pub fn is(&self, any: &[&str]) -> bool {
        any.contains(&self.text.as_str()) || any.contains(&self.stem.as_str())
    }

    /// Whether it is neither a letter nor a figure.
    #[must_use]
    pub fn is_sign(&self) -> bool {
        self.text.chars().all(|c| !c.is_alphanumeric() && vulgar(c).is_none())
    }
}

/// Whether one of these words stands there.
pub fn says(words: &[Word], any: &[&str]) -> bool {
    words.iter().any(|w| w.is(any))
}

/// Whether these words stand there one behind the other.
pub fn together(words: &[Word], phrase: &[&str]) -> bool {
    words.windows(phrase.len()).any(|w| w.iter().zip(phrase).all(|(w, p)| w.text == *p))
}

/// What a word is without its plural: good enough to compare two words, not to be shown.
pub fn stem(word: &str) -> String {
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
pub fn words(line: &str) -> Vec<Word> {
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

/// A number in figures.
pub(super) fn digits(text: &str) -> Option<f64> {
    if !text.starts_with(|c: char| c.is_ascii_digit()) {
        return None;
    }
    // A comma before three digits is one of thousands; before one or two it is a decimal one.
    let plain = match text.split_once(',') {
        Some((_, after))
            if after.len() == 3 && !after.contains([',', '.']) && !text.starts_with('0') =>
        {
            text.replace(',', "")
        }
        _ => text.replace(',', "."),
    };
    plain.parse().ok().filter(|value: &f64| value.is_finite())
}
