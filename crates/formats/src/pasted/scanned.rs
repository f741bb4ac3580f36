//! What scanning, copying and speaking do to a text: entities of web pages, letters that were figures on paper, and
//! what the speaker took back.

use keen_core::quantity::said::{Counted, Word, measure, measure_word, number, words};

/// What web pages write for a sign.
const ENTITIES: [(&str, &str); 17] = [
    ("&frac12;", "½"),
    ("&frac14;", "¼"),
    ("&frac34;", "¾"),
    ("&#189;", "½"),
    ("&#188;", "¼"),
    ("&#190;", "¾"),
    ("&frasl;", "/"),
    ("&amp;", "&"),
    ("&nbsp;", " "),
    ("&#160;", " "),
    ("&deg;", "°"),
    ("&#176;", "°"),
    ("&ndash;", "–"),
    ("&mdash;", "—"),
    ("&#39;", "'"),
    ("&rsquo;", "’"),
    ("&quot;", "\""),
];

/// The text line by line: words that were broken joined, columns one under the other.
pub(super) fn in_lines(text: &str) -> String {
    in_one_column(&joined(&without_tags(text)))
}

/// The text of a page whose signs were copied as entities: `&lt;li&gt;200 g sugar&lt;/li&gt;`.
fn without_tags(text: &str) -> String {
    if !(text.contains("&lt;") && text.contains("&gt;")) {
        return text.to_owned();
    }
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    while let Some((before, tag)) = rest.split_once("&lt;") {
        out.push_str(before);
        let Some((tag, behind)) = tag.split_once("&gt;").filter(|(tag, _)| tag.len() < 200) else {
            out.push_str("&lt;");
            rest = tag;
            continue;
        };
        let name = tag.trim_start_matches('/').split([' ', '/']).next().unwrap_or_default();
        let inside = ["b", "i", "em", "strong", "span", "a", "sup", "sub", "u"];
        out.push(if inside.contains(&name.to_lowercase().as_str()) { ' ' } else { '\n' });
        rest = behind;
    }
    out.push_str(rest);
    out
}

/// A sign that stands for a thing: 🍓.
fn is_picture(c: char) -> bool {
    matches!(c, '\u{2600}'..='\u{27bf}' | '\u{1f300}'..='\u{1faff}')
}

/// What the pictures of a list stand for: "🍓 500 g strawberries", and further down "blend 🍓 with the sugar".
pub(super) fn pictures(
    text: &str,
    named: impl Fn(&[Word]) -> Option<String>,
) -> Vec<(char, String)> {
    let of = |line: &str| {
        let mut letters = line.trim_start().chars();
        let picture = letters.next().filter(|c| is_picture(*c))?;
        let rest = letters.as_str();
        let counted = rest.chars().any(|c| c.is_ascii_digit()) && !rest.chars().any(is_picture);
        let name = counted.then(|| named(&words(rest)))??;
        Some((picture, name))
    };
    text.lines().filter_map(of).collect()
}

/// A line with names for the pictures in it. What begins with one is a title, or a line of the list.
pub(super) fn in_words(line: &str, pictures: &[(char, String)]) -> String {
    let begins =
        line.trim_start().starts_with(|c| pictures.iter().any(|(picture, _)| *picture == c));
    let mut out = String::with_capacity(line.len());
    for c in line.chars() {
        match pictures.iter().find(|(picture, _)| *picture == c && !begins) {
            Some((_, name)) => out.push_str(&format!(" {name} ")),
            None => out.push(c),
        }
    }
    out
}

/// What a picture is of.
const PICTURES: [(char, &str); 22] = [
    ('🍋', "lemons"),
    ('🍊', "oranges"),
    ('🍓', "strawberries"),
    ('🍒', "sweet cherries"),
    ('🍑', "peaches"),
    ('🍍', "pineapple"),
    ('🥭', "mangoes"),
    ('🍉', "watermelon"),
    ('🍈', "honeydew"),
    ('🍇', "grapes"),
    ('🍎', "apples"),
    ('🍏', "apples"),
    ('🍐', "pears"),
    ('🍌', "bananas"),
    ('🥝', "kiwis"),
    ('🫐', "blueberries"),
    ('🥒', "cucumber"),
    ('🥕', "carrots"),
    ('🍯', "honey"),
    ('🧊', "ice"),
    ('🧂', "salt"),
    ('💧', "water"),
];

/// A line of the list that has pictures for a name: "🍋🍋🍋 juiced" is "3 lemons juiced", "🍯 50 g" is "honey 50 g".
pub(super) fn by_its_picture(line: &str, named: impl Fn(&[Word]) -> bool) -> String {
    const DONE: [&str; 7] = ["juiced", "squeezed", "zested", "sliced", "peeled", "juice", "zest"];
    let text = line.trim_start();
    let picture = |c: char| PICTURES.iter().find(|(of, _)| *of == c);
    let Some((first, name)) = text.chars().next().and_then(picture) else { return line.into() };
    let many = text.chars().take_while(|c| c == first).count();
    let rest = text.trim_start_matches(*first);
    let found = words(rest);
    let counted = rest.chars().any(|c| c.is_ascii_digit());
    let listed = counted || found.iter().any(|w| w.is(&DONE));
    if found.len() > 8 || !listed || named(&found) || rest.contains(is_picture) {
        return line.into();
    }
    let count = if counted { String::new() } else { format!("{many} ") };
    format!("{count}{name} {}", rest.trim_start())
}

/// A line with signs for entities, with figures where a scan made letters of them ("1O0 g", "l/2 tsp"), and without
/// what the speaker took back.
pub(super) fn restored(text: &str) -> String {
    let mut text = text.to_owned();
    if text.contains('&') {
        for (entity, sign) in ENTITIES {
            text = text.replace(entity, sign);
        }
    }
    let text = without_leaders(&text);
    // "Return to the pan w. the sugar"
    let mut text = text.replace(" w. ", " with ");
    for (theirs, ours) in [
        ("Jugo de ", "juice of "),
        ("jugo de ", "juice of "),
        ("Zumo de ", "juice of "),
        ("zumo de ", "juice of "),
        (" jce", " juice"),
        (" sug.", " sugar"),
    ] {
        text = text.replace(theirs, ours);
    }
    // "lO min": the letter beside a letter is only known for a figure once its neighbour is.
    in_the_same_measure(&taken_back(&figures(&figures(&text))))
}

/// "Lemon juice ......... 240 ml": what leads the eye to the amount is as much empty room.
fn without_leaders(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(first) = rest.chars().next() {
        let leader = |c: char| matches!(c, '.' | '…' | '_');
        let long = rest.find(|c: char| !leader(c)).unwrap_or(rest.len());
        if long > 3 {
            out.push_str(&" ".repeat(long));
            rest = &rest[long..];
        } else {
            out.push(first);
            rest = &rest[first.len_utf8()..];
        }
    }
    out
}

/// "Two tablespoons of lemon juice and one of sugar": one tablespoon of it. Not "and one of the lemons".
fn in_the_same_measure(text: &str) -> String {
    let all = words(text);
    let mut out = text.to_owned();
    let mut last: Option<&str> = None;
    let mut moved = 0;
    for at in 0..all.len() {
        if matches!(measure_word(&all[at].text), Some(Counted::In(_))) {
            last = Some(&text[all[at].from..all[at].to]);
        }
        let joined = at > 0 && all[at - 1].is(&["and", ","]);
        let (Some(measure), true) = (last, joined) else { continue };
        let Some((_, used)) = number(&all[at..]) else { continue };
        let of = all.get(at + used).is_some_and(|w| w.is(&["of"]));
        let of_these = all
            .get(at + used + 1)
            .is_none_or(|w| w.is(&["the", "them", "these", "those", "your", "my", "each", "its"]));
        if of && !of_these {
            let end = all[at + used - 1].to + moved;
            out.insert_str(end, &format!(" {measure}"));
            moved += measure.len() + 1;
        }
    }
    out
}

/// The measures that may stand behind a lone figure: "l l water" is one litre.
const MEASURES: [&str; 16] = [
    "l",
    "I",
    "ml",
    "g",
    "kg",
    "litre",
    "liter",
    "cup",
    "tsp",
    "tbsp",
    "tablespoon",
    "teaspoon",
    "lemon",
    "lime",
    "orange",
    "pinch",
];

/// Figures where a scan made letters of them, and letters where it made figures.
fn figures(text: &str) -> String {
    let lone = |n: usize| {
        let rest = text.get(n..).unwrap_or_default();
        let mut words = rest.split_whitespace();
        let (first, next) = (words.next(), words.next().unwrap_or_default());
        text[..n].trim().is_empty()
            && matches!(first, Some("l" | "I"))
            && MEASURES.contains(&next)
            && words.next().is_some()
    };
    let begins_with_one = text.find(['l', 'I']).filter(|n| lone(*n));
    let letters: Vec<char> = text.chars().collect();
    let at = |n: Option<usize>| n.and_then(|n| letters.get(n)).copied().unwrap_or(' ');
    let figure = |c: char| c.is_ascii_digit();
    let bytes = text.char_indices().map(|(byte, _)| byte);
    letters
        .iter()
        .enumerate()
        .zip(bytes)
        .map(|((n, c), byte)| {
            let (before, after, beyond) = (at(n.checked_sub(1)), at(Some(n + 1)), at(Some(n + 2)));
            let begins = !before.is_alphanumeric();
            match c {
                'l' | 'I' if begins_with_one == Some(byte) => '1',
                // "s1iced", "disso1ved": no number stands inside a word.
                '1' if in_a_word(&letters, n) => 'l',
                'l' | 'I' if begins && matches!(after, '.' | ',') && figure(beyond) => '1',
                'O' if begins && matches!(after, '.' | ',') && figure(beyond) => '0',
                // "lem0ns", "LEM0N"
                '0' if before.is_lowercase() && after.is_lowercase() => 'o',
                '0' if before.is_uppercase() && after.is_uppercase() => 'O',
                'O' | 'o' if figure(before) && (figure(after) || !after.is_alphabetic()) => '0',
                'l' | 'I' | '|' if begins && matches!(after, '/' | '⁄') && figure(beyond) => '1',
                'l' | 'I' if begins && matches!(after, 'O' | 'o') && !beyond.is_alphabetic() => '1',
                'l' | 'I' if figure(after) && (figure(before) || begins) => '1',
                _ => *c,
            }
        })
        .collect()
}

/// Words that begin with an l, and are no measure behind a one.
const WITH_AN_L: [&str; 16] = [
    "lemon", "lemons", "lime", "limes", "leave", "leaves", "large", "let", "lid", "light",
    "lightly", "low", "litre", "litres", "ladle", "liquid",
];

/// Whether a one is a letter of a word: between letters, at the end of some, or where a known word begins.
fn in_a_word(letters: &[char], at: usize) -> bool {
    let of_it = |c: &&char| c.is_alphabetic() || matches!(c, '1' | '0');
    let from = at - letters[..at].iter().rev().take_while(of_it).count();
    let to = at + letters[at..].iter().take_while(of_it).count();
    let word: String = letters[from..to].iter().map(|c| if *c == '1' { 'l' } else { *c }).collect();
    let word = word.to_lowercase();
    if word.starts_with('l') && letters[from] == '1' {
        return WITH_AN_L.contains(&word.as_str());
    }
    word.chars().filter(|c| c.is_lowercase()).count() > 3 && letters[at.max(1) - 1].is_lowercase()
}

/// What a speaker says before saying it anew.
const NO: [&str; 11] = [
    "no wait make that",
    "no wait",
    "wait no",
    "no make that",
    "make that",
    "scratch that",
    "no sorry",
    "sorry",
    "or rather",
    "i mean",
    "correction",
];

/// "Five lemons no wait make that seven lemons": the number that was taken back goes, and what was said of it.
fn taken_back(text: &str) -> String {
    let lower = text.to_ascii_lowercase();
    let word_ends = |n: usize| !lower[n..].starts_with(|c: char| c.is_alphanumeric());
    let found = NO.iter().find_map(|said| {
        let from = lower.find(said)?;
        let apart = from > 0 && !lower[..from].ends_with(|c: char| c.is_alphanumeric());
        (apart && word_ends(from + said.len())).then_some((from, from + said.len()))
    });
    let Some((from, to)) = found else { return text.to_owned() };
    let counts = |all: &[Word], at: usize| {
        let (_, used) = number(&all[at..])?;
        (used > 1 || !all[at].is(&["a", "an"])).then_some(used)
    };
    let behind = words(&text[to..]);
    let anew = behind.iter().position(|w| !w.is_sign()).filter(|at| counts(&behind, *at).is_some());
    let before = words(&text[..from]);
    let (mut at, mut last) = (0, None);
    while at < before.len() {
        let used = counts(&before, at);
        last = used.map_or(last, |_| Some(before[at].from));
        at += used.unwrap_or(1);
    }
    let (Some(last), Some(anew)) = (last, anew) else { return text.to_owned() };
    let (before, behind) = (&text[last..from], &text[to + behind[anew].from..]);
    // "Half a teaspoon of salt, no wait, a quarter teaspoon": it is still salt.
    let new = amount_ends(behind).filter(|end| names_nothing(&behind[*end..]));
    let of =
        amount_ends(before).map(|end| before[end..].trim_end_matches([' ', '.', ',', '…', '-']));
    match (new, of) {
        (Some(end), Some(of)) => {
            // "250 g." ends the sentence, whatever it is of.
            let amount = behind[..end].trim_end_matches('.');
            format!("{}{amount}{of}{}", &text[..last], &behind[amount.len()..])
        }
        _ => format!("{}{behind}", &text[..last]),
    }
}

/// Where an amount ends that a text begins with: behind its measure, if it has one.
fn amount_ends(text: &str) -> Option<usize> {
    let found = words(text);
    let (_, used) = number(&found)?;
    let measured = measure(&found[used..]).map_or(0, |(_, _, more)| more);
    found.get(used + measured - 1).map(|word| word.to)
}

/// Whether it goes on without saying of what.
fn names_nothing(rest: &str) -> bool {
    let sign = |w: &Word| w.is_sign() || w.is(&["and", "then", "instead", "in", "into", "to"]);
    words(rest).first().is_none_or(sign)
}

/// Words that were broken at a line's end: "rhu-" and "barb".
fn joined(text: &str) -> String {
    let mut whole = String::with_capacity(text.len());
    for line in text.lines() {
        let broken = whole.strip_suffix("-\n").is_some_and(|front: &str| {
            front.ends_with(char::is_lowercase)
                && line.chars().take(3).filter(|c| c.is_lowercase()).count() == 3
        });
        if broken {
            whole.truncate(whole.len() - 2);
        }
        whole.push_str(line);
        whole.push('\n');
    }
    whole
}

/// Two columns beside each other as lines: "200 g sugar      4 limes".
fn in_one_column(text: &str) -> String {
    let mut lines = Vec::new();
    for line in text.lines() {
        let mut from = 0;
        let mut at = 0;
        while let Some(gap) = line[at..].find("   ").map(|n| at + n) {
            let next = gap + line[gap..].len() - line[gap..].trim_start().len();
            let word = |t: &str| {
                t.split_whitespace().any(|w| w.chars().filter(|c| c.is_alphabetic()).count() > 2)
            };
            let right = line[next..].to_ascii_lowercase();
            let counted = right.starts_with(|c: char| c.is_ascii_digit())
                || ["for ", "serves ", "makes "].iter().any(|word| right.starts_with(word));
            // "Agave nectar      3 tbsp": the amount has a column of its own.
            let named = line[from..gap].bytes().any(|b| b.is_ascii_digit());
            let counted = counted && (named || !is_amount(&right));
            if counted && word(&line[from..gap]) && word(&line[next..]) {
                lines.push(line[from..gap].to_owned());
                from = next;
            }
            at = next.max(gap + 1);
        }
        lines.push(line[from..].to_owned());
    }
    lines.join("\n")
}

/// Whether a text is an amount and nothing else, but for how it is: "3 tbsp", "2 large", "300 g, unpeeled", "2 (juiced)".
fn is_amount(text: &str) -> bool {
    let text = text.split([',', '(']).next().unwrap_or_default();
    let words = words(text);
    let Some((_, used)) = number(&words) else { return false };
    let more = measure(&words[used..]).map_or(0, |(_, _, more)| more);
    words[used + more..].iter().all(|w| w.is(&["large", "small", "medium", "big"]))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_list_has_a_picture_of_is_meant_by_it() {
        let named = |all: &[Word]| all.last().map(|w| w.text.clone());
        let known = pictures("🍓 FOR TWO 🍋\n🍓 500 g strawberries\n 🍋 2 lemons\n🧊 ice", named);
        assert_eq!(known, [('🍓', "strawberries".to_owned()), ('🍋', "lemons".to_owned())]);
        assert_eq!(in_words("Blend 🍓+🍋", &known), "Blend  strawberries + lemons ");
        assert_eq!(in_words("🍓 500 g strawberries", &known), "🍓 500 g strawberries");
    }

    #[test]
    fn a_line_without_a_name_is_of_its_picture() {
        let named = |found: &[Word]| found.iter().any(|w| w.is(&["lemon", "sugar"]));
        for (line, meant) in [
            ("🍋🍋🍋 juiced", "3 lemons juiced"),
            ("🍋 x6", "lemons x6"),
            ("🍯 50 g", "honey 50 g"),
            ("🍋 6 lemons", "🍋 6 lemons"),
            ("🍋🍋 Lemonade", "🍋🍋 Lemonade"),
        ] {
            assert_eq!(by_its_picture(line, named), meant);
        }
    }

    #[test]
    fn letters_that_were_figures_are_figures_again() {
        for (scanned, meant) in [
            ("1O0 g sugar", "100 g sugar"),
            ("l/2 tsp salt", "1/2 tsp salt"),
            ("2l0 ml water", "210 ml water"),
            ("l5 g mint", "15 g mint"),
            ("&frac12; cup", "½ cup"),
            ("Juice ..... 240 ml", "Juice       240 ml"),
            ("so… 2 limes... and", "so… 2 limes... and"),
            ("2 l water", "2 l water"),
            ("1.5l water", "1.5l water"),
            ("Oil of lemon", "Oil of lemon"),
            ("I use 3 limes", "I use 3 limes"),
            ("5 ounces", "5 ounces"),
            ("l l water", "1 l water"),
            ("l0 min", "10 min"),
            ("lO min", "10 min"),
            ("2 lem0ns", "2 lemons"),
            ("LEM0N BARLEY", "LEMON BARLEY"),
            ("squeeze five lemons no wait make that seven lemons", "squeeze seven lemons"),
            ("take three limes, sorry four limes", "take four limes"),
            ("two hundred grams, no, sorry, 150 grams of sugar", "150 grams of sugar"),
            (
                "two tablespoons of lemon juice and one of sugar",
                "two tablespoons of lemon juice and one tablespoons of sugar",
            ),
            (
                "2 cups water, half of it hot, and 1 of syrup",
                "2 cups water, half of it hot, and 1 cups of syrup",
            ),
            ("2 cups water and one of the lemons", "2 cups water and one of the lemons"),
            ("three limes and one of ginger", "three limes and one of ginger"),
            ("2 limes, I mean the large ones", "2 limes, I mean the large ones"),
            (
                "half a teaspoon of salt... no wait, a quarter teaspoon, and water",
                "a quarter teaspoon of salt, and water",
            ),
            ("Add 200 g sugar. Sorry, 250 g.", "Add 250 g sugar."),
            ("boil 10 minutes, no wait, 15 minutes", "boil 15 minutes"),
            ("500 g rhu-\nbarb", "500 g rhubarb"),
            ("1 cup sugar -\n2 limes", "1 cup sugar -\n2 limes"),
            ("Mint lemonade      For 6 glasses", "Mint lemonade\nFor 6 glasses"),
            ("200 g    sugar      4   limes", "200 g    sugar\n4   limes"),
            ("Sugar 1kg        1.89", "Sugar 1kg        1.89"),
            ("Agave nectar     3 tbsp", "Agave nectar     3 tbsp"),
            ("Cucumbers     2 large", "Cucumbers     2 large"),
            ("Ginger     300 g, unpeeled", "Ginger     300 g, unpeeled"),
            ("Lemons     2 (zest and juice)", "Lemons     2 (zest and juice)"),
            ("Cucumbers     2 limes", "Cucumbers\n2 limes"),
            ("2 1emons, s1iced", "2 lemons, sliced"),
            ("Boi1 unti1 disso1ved", "Boil until dissolved"),
            ("1eave it, 1cup water, 1lemon", "leave it, 1cup water, 1lemon"),
            ("l.2 litres", "1.2 litres"),
            ("B12 and 1x1", "B12 and 1x1"),
            ("&lt;li&gt;2 limes&lt;/li&gt;&lt;b&gt;x&lt;/b&gt;", "\n2 limes\n x "),
        ] {
            let lines = in_lines(scanned);
            let read: Vec<String> = lines.lines().map(restored).collect();
            assert_eq!(read.join("\n"), meant);
        }
    }
}
