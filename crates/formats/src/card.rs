//! A drink on a card, to be read or to be sent to somebody: plain text, or Markdown.

use keen_core::drink::Drink;
use keen_core::report::DrinkReport;

/// How a card is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CardStyle {
    /// Plain text.
    Text,
    /// Markdown.
    Markdown,
}

fn volume(ml: f64) -> String {
    if ml >= 1000.0 { format!("{:.1} l", ml / 1000.0) } else { format!("{ml:.0} ml") }
}

fn minutes(minutes: f64) -> String {
    match minutes.round() as u64 {
        m if m < 120 => format!("{m} min"),
        m if m % 60 == 0 => format!("{} h", m / 60),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}

/// Text that Markdown shows as it stands.
fn plain(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        if matches!(c, '\\' | '`' | '*' | '_' | '[' | ']' | '<' | '>' | '#' | '|') {
            out.push('\\');
        }
        out.push(c);
    }
    out
}

/// Writes the card. What goes in is said as the drink says it, so that the text can be read again.
#[must_use]
pub fn card(drink: &Drink, report: &DrinkReport, style: CardStyle) -> String {
    let markdown = style == CardStyle::Markdown;
    let said = |text: &str| if markdown { plain(text) } else { text.to_owned() };
    let head = |level: usize, text: &str| match (markdown, level) {
        (true, n) => format!("{} {}\n\n", "#".repeat(n), plain(text)),
        (false, 1) => format!("{text}\n{}\n\n", "=".repeat(text.chars().count())),
        (false, _) => format!("{text}:\n"),
    };
    let mut out = head(1, &drink.name);
    let mut facts = Vec::new();
    if let Some(profile) = &report.profile {
        facts.push(format!("Makes {}", volume(profile.volume_ml)));
        if profile.served {
            facts.push(format!("serves {:.0}, {:.0} ml each", profile.glasses, profile.glass_ml));
        }
    }
    facts.push(format!(
        "{} in all, {} hands-on",
        minutes(report.minutes),
        minutes(report.hands_on_minutes)
    ));
    out += &format!("{}\n\n", said(&facts.join("; ")));
    out += &head(2, "Ingredients");
    for line in &report.lines {
        let to = if line.is_fill_line { " to make " } else { " " };
        let text = match line.is_fill_line {
            true => format!("{}{to}{}", line.name.to_lowercase(), line.text),
            false => format!("{}{to}{}", line.text, line.name.to_lowercase()),
        };
        out += &format!("- {}\n", said(&text));
    }
    out += "\n";
    out += &head(2, "Method");
    for (n, line) in report.method.iter().enumerate() {
        out += &format!("{}. {}\n", n + 1, said(&line.sentence));
    }
    if let Some(profile) = &report.profile {
        out += "\n";
        let ratio = profile.ratio.map_or_else(String::new, |r| format!(", {r:.0} to 1"));
        out += &said(&format!(
            "{:.1} °Bx{ratio}; a glass has {:.0} g sugar and {:.0} kcal.",
            profile.brix, profile.glass_sugar_g, profile.glass_energy_kcal
        ));
        out += "\n";
    }
    if let Some(keeping) = &report.keeping {
        out += &said(&format!("{}.", capital(&keeping.words)));
        out += "\n";
    }
    if !drink.note.trim().is_empty() {
        out += &format!("\n{}", head(2, "Notes"));
        for line in drink.note.lines() {
            out += &format!("{}\n", said(line));
        }
    }
    out
}

/// With a large first letter.
fn capital(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::cupboard::Cupboard;

    #[test]
    fn a_card_says_what_goes_in_and_is_read_again() {
        for start in crate::starting_points() {
            let report = DrinkReport::of(&start.drink, Cupboard::builtin());
            let text = card(&start.drink, &report, CardStyle::Text);
            assert!(text.starts_with(&start.drink.name), "{text}");
            let read = crate::pasted::read_recipe(&text, &[], Cupboard::builtin());
            let ids = |drink: &Drink| {
                let mut all: Vec<String> = drink
                    .steps
                    .iter()
                    .filter_map(|s| s.action.brings())
                    .map(|b| b.ingredient.to_owned())
                    .collect();
                all.sort();
                all.dedup();
                all
            };
            let (was, is) = (ids(&start.drink), ids(&read.drink));
            let lost: Vec<_> = was.iter().filter(|id| !is.contains(id) && *id != "ice").collect();
            assert!(lost.len() * 6 <= was.len(), "{}: {lost:?} of {was:?}\n{text}", start.name);
        }
    }

    #[test]
    fn a_name_is_no_markup() {
        let mut drink = crate::starting_points().swap_remove(0).drink;
        drink.name = "*Lime* <b>&</b> [x](y) #1".into();
        let report = DrinkReport::of(&drink, Cupboard::builtin());
        let text = card(&drink, &report, CardStyle::Markdown);
        assert!(text.starts_with("# \\*Lime\\* \\<b\\>&\\</b\\> \\[x\\](y) \\#1\n"), "{text}");
    }
}
