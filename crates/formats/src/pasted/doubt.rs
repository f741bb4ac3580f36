//! Whether a text is a recipe at all. A shopping list, a receipt, a menu, a letter and a program name things and
//! figures too; what is made up from them is worse than nothing.

use super::making::{Done, Entry};
use super::uses::Share;
use super::verbs::Verb;

/// What is said of a text that is none.
pub(super) const NO_RECIPE: &str =
    "This doesn't look like a recipe. Check the text, or read it as one anyway.";

/// A figure with two places at a line's end, or with a sign of money.
fn is_priced(line: &str) -> bool {
    let line = line.trim();
    let money = line.contains(['$', '€', '£', '¥']);
    let last = line.rsplit([' ', '\t']).next().unwrap_or("");
    let cents = last.split_once(['.', ',']).is_some_and(|(front, behind)| {
        behind.len() == 2
            && !front.is_empty()
            && (front.chars().chain(behind.chars())).all(|c| c.is_ascii_digit())
    });
    money || (cents && last.len() < line.len())
}

/// A line of a program.
fn is_code(line: &str) -> bool {
    let line = line.trim();
    line.ends_with([';', '{', '}'])
        || line.contains("=>")
        || line.contains("==")
        || line.contains("();")
        || line.starts_with("def ")
        || line.starts_with("import ")
}

pub(super) fn is_greeting(line: &str) -> bool {
    let line = line.trim().to_lowercase();
    ["dear ", "hi ", "hello ", "thank you", "thanks ", "best wishes", "kind regards", "love,"]
        .iter()
        .any(|front| line.starts_with(front))
}

fn is_for_the_shop(line: &str) -> bool {
    let line = line.trim().trim_end_matches(':').to_lowercase();
    let for_it = ["shopping for ", "shopping list for ", "to buy for ", "groceries for "];
    for_it.iter().any(|name| line.starts_with(name))
        || line.ends_with(" list") && !line.contains("ingredient")
        || ["shopping list", "shopping", "to buy", "groceries", "receipt", "menu", "invoice"]
            .iter()
            .any(|name| line == *name || line.ends_with(&format!(" {name}")))
}

/// Whether nothing should be read from it.
pub(super) fn is_none(text: &str, (entries, aside): (&[Entry], usize), done: &[Done]) -> bool {
    let lines: Vec<&str> = text.lines().filter(|l| !l.trim().is_empty()).collect();
    if lines.is_empty() {
        return false;
    }
    let many = lines.len() as f64;
    let share = |is: fn(&str) -> bool| lines.iter().filter(|l| is(l)).count() as f64 / many;
    let priced = lines.iter().filter(|l| is_priced(l)).count();
    let works = done.iter().any(|d| d.doing.verb != Verb::Put);
    if share(is_code) > 0.3 || (priced >= 2 && priced as f64 > 0.4 * many) {
        return true;
    }
    let makes = done.iter().any(|d| d.doing.verb != Verb::Put && !d.doing.uses.is_empty());
    if lines.iter().any(|l| is_for_the_shop(l)) && !makes {
        return true;
    }
    let known = entries.iter().filter(|e| e.item.ingredient.is_some() && e.item.said).count();
    // "Twelve lemons," said the old man.
    let speaks = ["said", "asked", "replied", "whispered", "answered"];
    let told = text
        .split_whitespace()
        .zip(text.split_whitespace().skip(1))
        .any(|(before, word)| before.ends_with(['"', '”', '’', '\'']) && speaks.contains(&word));
    if told && known < 4 {
        return true;
    }
    // What is measured out in cups and grams belongs to a recipe, whatever it is.
    let strange = |e: &&Entry| {
        let amount = e.item.amount.as_ref();
        e.item.ingredient.is_none()
            && amount.is_none_or(|a| a.as_grams().is_none() && a.as_millilitres().is_none())
    };
    let unknown = entries.iter().filter(strange).count();
    // A letter tells of things; nothing is done with them.
    let greets = lines.iter().take(2).any(|l| is_greeting(l));
    if greets && known < 3 && !works {
        return true;
    }
    let names_things = done.iter().any(|d| !d.doing.uses.is_empty());
    let uses = done.iter().flat_map(|d| &d.doing.uses);
    let measured = uses.filter(|u| matches!(u.share, Share::Amount(_))).count();
    if entries.is_empty() && !(works && names_things || measured > 1) {
        return text.trim().chars().count() > 40;
    }
    let in_measures = |e: &&Entry| {
        let amount = e.item.amount.as_ref().filter(|_| e.item.said);
        // "8 tazas de agua": counted in something, of something.
        let of_it = e.item.words.iter().any(|w| w.is(&["of", "de", "di", "d'", "von"]));
        of_it || amount.is_some_and(|a| a.as_grams().is_some() || a.as_millilitres().is_some())
    };
    if entries.iter().filter(in_measures).count() >= 2 && aside as f64 <= 0.35 * many {
        return false;
    }
    // Nothing is done, and much of it is about something else.
    let other = (aside + unknown) as f64;
    !works && lines.len() > 2 && (other > 0.35 * many || known <= unknown && known < 3)
}
