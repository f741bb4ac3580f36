//! What a line of a text is by its looks: a heading, a numbered step, a title with how much it makes behind it.

use super::said::{is_figure, plain};
use keen_core::quantity::said::{Word, number, says};

/// What a line is.
pub(super) enum Kind {
    Blank,
    Title,
    Heading(Section, Option<String>),
    Makes,
    List,
    Method,
    Aside,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Section {
    Open,
    List,
    Method,
    /// What is poured in each glass.
    Glass,
    Aside,
}

/// Takes what stands before a line of a list: a dot, a dash, a number with a bracket.
pub(super) fn bare(line: &str) -> (&str, bool) {
    let trimmed = line.trim_start();
    let dots = [
        '-', '*', '•', '–', '—', '·', '◦', '▪', '■', '□', '▢', '☐', '●', '○', '‣', '✓', '>', '#',
        '|', '➡', '→', '➜', '▶', '⇒', '\u{fe0f}',
    ];
    let without = trimmed.trim_start_matches(dots).trim_start();
    let without =
        without.strip_prefix("[ ]").or(without.strip_prefix("[x]")).unwrap_or(without).trim_start();
    let lower = without.get(..4).map(str::to_lowercase);
    if lower.as_deref() == Some("step") {
        let rest = without[4..].trim_start();
        let end = rest.find(|c: char| !c.is_ascii_digit()).unwrap_or(rest.len());
        if end > 0 {
            return (rest[end..].trim_start_matches([':', '.', ')', '-', ' ']), true);
        }
    }
    let digits = without.find(|c: char| !c.is_ascii_digit()).unwrap_or(without.len());
    if (1..3).contains(&digits) && without[digits..].starts_with([')', '.']) {
        let rest = &without[digits + 1..];
        // "1.5 l" is no numbering.
        if !rest.starts_with(|c: char| c.is_ascii_digit()) {
            return (rest.trim_start(), true);
        }
    }
    // A heading of Markdown is no line of a list.
    (without, without.len() < trimmed.len() && !trimmed.starts_with('#'))
}

/// Whether every longer word begins with a capital: "COLD BREW HIBISCUS", "Cold Brew for Two".
pub(super) fn is_capital(text: &str) -> bool {
    let mut long = text
        .split(|c: char| !c.is_alphanumeric())
        .filter(|w| w.chars().count() > 3)
        .map(|w| w.starts_with(|c: char| c.is_uppercase() || c.is_ascii_digit()));
    long.next() == Some(true) && long.all(|capital| capital)
}

/// What a drink is called by.
pub(super) const DRINKS: [&str; 31] = [
    "sharbat",
    "horchata",
    "tisane",
    "tepache",
    "sorrel",
    "fresca",
    "nectar",
    "lemonade",
    "limeade",
    "orangeade",
    "ade",
    "cordial",
    "syrup",
    "shrub",
    "tea",
    "soda",
    "fizz",
    "punch",
    "cooler",
    "squash",
    "drink",
    "switchel",
    "agua",
    "cola",
    "tonic",
    "infusion",
    "refresher",
    "spritz",
    "sherbet",
    "water",
    "brew",
];

/// How many words stand before a bracket or a stroke.
pub(super) fn front(found: &[Word]) -> usize {
    let apart = |at: usize| at > 0 && found[at - 1].to < found[at].from;
    (0..found.len())
        .find(|at| {
            let makes = found[*at].is(&[","])
                && number(&found[at + 1..]).is_some()
                && says(
                    &found[at + 1..],
                    &["serving", "glass", "glasses", "people", "portion", "drink"],
                );
            // "Cranberry cooler, makes 2 litres"
            let makes = makes
                || found[*at].is(&[","])
                    && found.get(at + 1).is_some_and(|w| {
                        matches!(w.text.as_str(), "makes" | "serves" | "yields" | "enough")
                    });
            // "Rose lemonade, 5 kg", "Bay leaf lemonade - 1 gallon"
            let weighs = (found[*at].is(&[","]) || found[*at].is(&["-"]) && apart(*at))
                && found[..*at].iter().any(|w| w.is(&DRINKS))
                && plain(&found[at + 1..]).is_some_and(|(_, used)| {
                    found[at + 1 + used..].iter().all(|w| w.is(&["batch", "recipe"]))
                });
            found[*at].is(&["(", "|", "~"])
                || weighs
                || (found[*at].is(&["–", "—"]) && apart(*at))
                // "Orange squash - makes 1.2 litres"
                || (found[*at].is(&["-"])
                    && apart(*at)
                    && (found.get(at + 1).is_some_and(|w| w.is(&["make", "serve", "yield"]))
                        // "Chia fresca - 1 glass"
                        || number(&found[at + 1..]).is_some_and(|(_, used)| {
                            found.get(at + 1 + used).is_some_and(|w| {
                                w.is(&["glass", "glasses", "serving", "people", "drink", "portion"])
                            })
                        })))
                || makes
        })
        .unwrap_or(found.len())
}

/// Whether it is said how to thin a syrup for drinking: "dilute 1:4 with soda", "mix one part with five of water".
pub(super) fn thinned(found: &[Word]) -> bool {
    let ratio = (0..found.len()).any(|at| {
        number(&found[at..]).is_some_and(|(many, used)| {
            let rest = &found[at + used..];
            // "1 to 6 with water" reads like a range.
            if many.high.is_some() && rest.first().is_some_and(|w| w.is(&["with"])) {
                return true;
            }
            (rest.first().is_some_and(|w| w.is(&[":", "to"]))
                && rest.get(1..).is_some_and(|r| number(r).is_some()))
                || rest.first().is_some_and(|w| w.is(&["part"]))
                || rest.iter().take(3).any(|w| w.is(&["per"]))
        })
    });
    // "Use 30 ml to 150 ml soda."
    let measures = (0..found.len()).any(|at| {
        plain(&found[at..]).is_some_and(|(_, used)| {
            let rest = &found[at + used..];
            rest.first().is_some_and(|w| w.is(&["to"])) && plain(&rest[1..]).is_some()
        })
    });
    let ratio = ratio || measures;
    // "1 part juice to 3 parts water."
    let parted = number(found).is_some_and(|(_, n)| found.get(n).is_some_and(|w| w.is(&["part"])));
    // "1:4 with soda"
    let by_ratio = found.len() > 3
        && found[1].is(&[":"])
        && [0, 2].iter().all(|at| is_figure(&found[*at]))
        && found[3].is(&["with", "w", "in", "to"])
        || number(found).is_some_and(|(many, used)| {
            // "1 to 4 with soda"
            many.high.is_some() && found.get(used).is_some_and(|w| w.is(&["with", "w"]))
        });
    let begins = parted
        || by_ratio
        || found
            .iter()
            .take(2)
            .any(|w| w.is(&["dilute", "thin", "lengthen", "serve", "drink", "mix", "use"]));
    // "For soda: 2 tablespoons syrup per 3/4 cup seltzer."
    let for_it = found.len() > 3
        && found[0].is(&["for"])
        && found[1].is(&["soda", "a", "one", "each", "drinking", "serving", "spritz"])
        && found[1..].iter().take(4).any(|w| w.is(&[":", ","]));
    // "We do it one part to three parts fizzy water."
    let by_parts = (0..found.len()).any(|at| {
        let parts = |at: usize| {
            let (_, used) = found.get(at..).and_then(number)?;
            found.get(at + used).filter(|w| w.is(&["part"])).map(|_| at + used + 1)
        };
        parts(at).is_some_and(|end| {
            found.get(end).is_some_and(|w| w.is(&["to"])) && parts(end + 1).is_some()
        })
    });
    ratio && (begins || for_it || by_parts)
}

/// The sentences of a text, and where each begins.
pub(super) fn sentences(text: &str) -> Vec<(usize, &str)> {
    let mut all = Vec::new();
    let mut from = 0;
    let bytes = text.as_bytes();
    for (at, c) in text.char_indices() {
        let ends = match c {
            '!' | '?' | ';' => true,
            '.' => {
                // "1.5 l", "approx. 2 l", "tbsp. sugar" go on.
                let digit = |n: usize| bytes.get(n).is_some_and(u8::is_ascii_digit);
                let word = text[from..at]
                    .rsplit(|c: char| !c.is_alphanumeric())
                    .next()
                    .unwrap_or("")
                    .to_lowercase();
                let short = [
                    "approx", "ca", "tbsp", "tsp", "oz", "lb", "fl", "min", "mins", "hr", "no",
                    "c", "e", "g", "i",
                ];
                let inside = at > 0 && digit(at - 1) && digit(at + 1);
                let goes_on = |c: char| c.is_lowercase() || c.is_ascii_digit();
                let shortened = short.contains(&word.as_str())
                    && text[at + 1..].trim_start().starts_with(goes_on);
                !inside && !shortened
            }
            _ => false,
        };
        if ends {
            all.push((from, &text[from..at + c.len_utf8()]));
            from = at + c.len_utf8();
        }
    }
    if !text[from..].trim().is_empty() {
        all.push((from, &text[from..]));
    }
    all
}

/// "Ingredients", "Method:", "For the syrup:".
pub(super) fn heading(text: &str, found: &[Word]) -> Option<Kind> {
    let text = text.trim();
    let colon = text.ends_with(':');
    // "Ingredients for 1.5 litres", "Ingredients (4 glasses)"
    let headed = found.first().is_some_and(|w| w.is(&["ingredients"]));
    let of_so_much = |at: usize, w: &Word| w.is(&["("]) || headed && at == 1 && w.is(&["for"]);
    let before = found.iter().enumerate().position(|(at, w)| of_so_much(at, w));
    let before = before.filter(|at| *at > 0);
    let found = &found[..before.unwrap_or(found.len())];
    let plain: Vec<&str> = found.iter().filter(|w| !w.is_sign()).map(|w| w.text.as_str()).collect();
    if plain.len() > 6 {
        return None;
    }
    let joined = plain.join(" ");
    let section = match joined.as_str() {
        "ingredients"
        | "ingredient"
        | "you need"
        | "you will need"
        | "what you need"
        | "you'll need"
        | "you’ll need"
        | "what goes in"
        | "shopping list"
        | "stuff"
        | "ingredient amount"
        | "ingredient quantity"
        | "ingredients amount"
        | "ingredients quantity"
        | "amount ingredient"
        | "quantity ingredient"
        | "item amount"
        | "what how much" => Some(Section::List),
        "method" | "directions" | "instructions" | "preparation" | "how to make it" | "steps"
        | "how" | "procedure" | "to make" | "what to do" | "how to" | "making it" => {
            Some(Section::Method)
        }
        "notes" | "note" | "tips" | "tip" | "variations" | "nutrition" | "comments" | "storage"
        | "variation" => Some(Section::Aside),
        _ => None,
    };
    if let Some(section) = section {
        return Some(Kind::Heading(section, None));
    }
    let about = match plain.first().copied() {
        Some("for") if colon || plain.len() <= 4 => {
            plain.iter().skip(1).filter(|w| **w != "the").copied().collect::<Vec<_>>()
        }
        _ if colon && plain.len() <= 3 => plain.clone(),
        _ => return None,
    };
    let numbered = found.iter().any(|w| w.text.starts_with(|c: char| c.is_ascii_digit()));
    let people =
        about.iter().any(|w| ["people", "glasses", "servings", "person", "guests"].contains(w));
    if about.is_empty() || numbered || people {
        return None;
    }
    // "For each glass": how it is poured stands in the note; the drink is what goes into the jug.
    let each = about.iter().any(|w| matches!(*w, "each" | "per" | "every"));
    if each && about.iter().any(|w| matches!(*w, "glass" | "drink" | "serving")) {
        return Some(Kind::Heading(Section::Glass, None));
    }
    Some(Kind::Heading(Section::List, Some(about.join(" "))))
}

/// "1 Peel and slice the cucumber": what a step says that is numbered without a dot.
pub(super) fn numbered_step(text: &str) -> Option<&str> {
    let digits = text.bytes().take_while(u8::is_ascii_digit).count();
    let rest = text.get(digits..)?.strip_prefix(' ')?;
    ((1..3).contains(&digits) && rest.starts_with(char::is_uppercase)).then_some(rest)
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::quantity::said::words;

    #[test]
    fn what_stands_before_a_line_is_taken_off() {
        for (line, text, marked) in [
            ("- 3 lemons", "3 lemons", true),
            ("▢ 1 cup sugar", "1 cup sugar", true),
            ("2) Stir.", "Stir.", true),
            ("Step 4: Strain it", "Strain it", true),
            ("1.5 l water", "1.5 l water", false),
            ("# Limeade", "Limeade", false),
            ("[ ] 200 g sugar", "200 g sugar", true),
        ] {
            assert_eq!(bare(line).0, text, "{line}");
            assert_eq!(bare(line).1, marked, "{line}");
        }
    }

    #[test]
    fn sentences_end_where_a_cook_ends_them() {
        let of = |text: &str| -> Vec<String> {
            sentences(text).into_iter().map(|(_, s)| s.trim().to_owned()).collect()
        };
        assert_eq!(of("Stir. Add 1.5 l water; chill!"), ["Stir.", "Add 1.5 l water;", "chill!"]);
        assert_eq!(of("Add approx. 2 tbsp. sugar"), ["Add approx. 2 tbsp. sugar"]);
        assert_eq!(of("Strain"), ["Strain"]);
    }

    #[test]
    fn headings_are_told_from_lines() {
        let kind = |text: &str| match heading(text, &words(text)) {
            Some(Kind::Heading(section, group)) => {
                format!("{section:?} {}", group.unwrap_or_default())
            }
            Some(_) => "else".into(),
            None => "none".into(),
        };
        for (text, wanted) in [
            ("Ingredients", "List "),
            ("| Ingredient | Amount |", "List "),
            ("Method:", "Method "),
            ("For the syrup:", "List syrup"),
            ("For the tea", "List tea"),
            ("For each glass:", "Glass "),
            ("Notes", "Aside "),
            ("For 12 people:", "none"),
            ("3 lemons:", "none"),
            ("For a very long line that says what it is for", "none"),
        ] {
            assert_eq!(kind(text), wanted, "{text}");
        }
    }

    #[test]
    fn how_it_is_thinned_for_drinking_is_no_step() {
        for text in [
            "Dilute 1:4 with soda.",
            "Mix one part with five parts of water",
            "1 part juice to 3 parts water.",
            "Use 50 ml per 200 ml water",
            "Serve 1 to 6 with sparkling water",
        ] {
            assert!(thinned(&words(text)), "{text}");
        }
        for text in [
            "Dilute with 2 litres of water",
            "Serve in 4 glasses",
            "Mix 200 g sugar with 1 l water",
        ] {
            assert!(!thinned(&words(text)), "{text}");
        }
    }
}
