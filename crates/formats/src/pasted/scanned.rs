//! What scanning and copying do to a text: entities of web pages, and letters that were figures on paper.

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
    in_one_column(&joined(text))
}

/// A line with signs for entities, and with figures where a scan made letters of them: "1O0 g", "l/2 tsp".
pub(super) fn restored(text: &str) -> String {
    let mut text = text.to_owned();
    if text.contains('&') {
        for (entity, sign) in ENTITIES {
            text = text.replace(entity, sign);
        }
    }
    let letters: Vec<char> = text.chars().collect();
    let at = |n: Option<usize>| n.and_then(|n| letters.get(n)).copied().unwrap_or(' ');
    let figure = |c: char| c.is_ascii_digit();
    letters
        .iter()
        .enumerate()
        .map(|(n, c)| {
            let (before, after, beyond) = (at(n.checked_sub(1)), at(Some(n + 1)), at(Some(n + 2)));
            let begins = !before.is_alphanumeric();
            match c {
                'O' | 'o' if figure(before) && (figure(after) || !after.is_alphabetic()) => '0',
                'l' | 'I' | '|' if begins && matches!(after, '/' | '⁄') && figure(beyond) => '1',
                'l' | 'I' if figure(after) && (figure(before) || (begins && after != '0')) => '1',
                _ => *c,
            }
        })
        .collect()
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
            let counted = line[next..].starts_with(|c: char| c.is_ascii_digit());
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn letters_that_were_figures_are_figures_again() {
        for (scanned, meant) in [
            ("1O0 g sugar", "100 g sugar"),
            ("l/2 tsp salt", "1/2 tsp salt"),
            ("2l0 ml water", "210 ml water"),
            ("l5 g mint", "15 g mint"),
            ("&frac12; cup", "½ cup"),
            ("2 l water", "2 l water"),
            ("1.5l water", "1.5l water"),
            ("Oil of lemon", "Oil of lemon"),
            ("I use 3 limes", "I use 3 limes"),
            ("5 ounces", "5 ounces"),
            ("500 g rhu-\nbarb", "500 g rhubarb"),
            ("1 cup sugar -\n2 limes", "1 cup sugar -\n2 limes"),
            ("200 g    sugar      4   limes", "200 g    sugar\n4   limes"),
            ("Sugar 1kg        1.89", "Sugar 1kg        1.89"),
        ] {
            let lines = in_lines(scanned);
            let read: Vec<String> = lines.lines().map(restored).collect();
            assert_eq!(read.join("\n"), meant);
        }
    }
}
