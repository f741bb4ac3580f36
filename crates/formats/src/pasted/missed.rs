//! What a text names and the drink hasn't got. Reading goes by forms that recipes have, and people write in others; what
//! was told in one that isn't known may not vanish. So every ingredient that is named where it is told what goes in and
//! what is done is looked for once more: what is neither in the drink nor asked about is asked about now.

use std::collections::HashSet;

use keen_core::cupboard::{Cupboard, Kind};
use keen_core::quantity::Amount;
use keen_core::quantity::said::{Word, number};

use super::item::Item;
use super::names::Names;
use super::said::plain;
use super::unused;
use super::verbs::{Verb, verb_at};

/// Words that name a kind of thing, or what the drink has become: "strain the syrup", "squeeze the fruit".
const KINDS: [&str; 34] = [
    "milk",
    "bag",
    "syrup",
    "juice",
    "tea",
    "drink",
    "fruit",
    "leaf",
    "peel",
    "zest",
    "pulp",
    "herb",
    "spice",
    "flower",
    "petal",
    "root",
    "lemonade",
    "cordial",
    "liquid",
    "mixture",
    "base",
    "puree",
    "concentrate",
    "infusion",
    "seed",
    "berry",
    "ice",
    "powder",
    "acid",
    "extract",
    "stick",
    "slice",
    "sweetener",
    "skin",
];
/// Words that say that what follows is not meant to go in, or only perhaps.
const NOT: [&str; 13] = [
    "or",
    "instead",
    "not",
    "no",
    "without",
    "than",
    "like",
    "unlike",
    "as",
    "if",
    "replace",
    "substitute",
    "optional",
];
/// What a tool or a colour is called after: "a lemon squeezer", "orange in colour".
const CALLED_AFTER: [&str; 12] = [
    "squeezer", "press", "reamer", "zester", "grater", "bowl", "pot", "cup", "colour", "color",
    "coloured", "bath",
];

/// Words before what is only laid on a glass: "serve with mint", "a squeeze of lime".
const LAID_ON: [&str; 9] =
    ["serve", "garnish", "squeeze", "slice", "sprig", "wedge", "w", "w/", "decorate"];

/// Something that a text names and the drink hasn't got.
pub(super) struct Missed {
    pub(super) line: usize,
    pub(super) words: Vec<Word>,
    /// Whether it is only laid on a glass.
    pub(super) laid_on: bool,
}

/// What is in the drink.
pub(super) struct Had {
    /// The parts of the names: "white", "sugar".
    names: HashSet<String>,
    /// Whether anything sparkles; who says "sparkling water" means the soda.
    sparkles: bool,
}

impl Had {
    pub(super) fn of<'a>(items: impl Iterator<Item = &'a Item>, cupboard: &Cupboard) -> Self {
        let mut had = Self { names: HashSet::new(), sparkles: false };
        for item in items {
            let stems = item.words.iter().map(|w| &w.stem);
            had.names.extend(stems.filter(|stem| !KINDS.contains(&stem.as_str())).cloned());
            for id in item.ingredient.iter().chain(&item.instead) {
                had.names.extend(parts(id));
                had.sparkles |= is_soda(id, cupboard);
            }
        }
        had
    }
}

fn is_soda(id: &str, cupboard: &Cupboard) -> bool {
    cupboard.ingredient(id).is_some_and(|it| it.kind == Kind::Soda)
}

/// "The melon" is the watermelon.
fn is_known(known: &HashSet<String>, part: &str) -> bool {
    known.contains(part) || part.len() > 4 && known.iter().any(|word| word.ends_with(part))
}

fn parts(id: &str) -> Vec<String> {
    id.split('_').filter(|part| !KINDS.contains(part)).map(str::to_owned).collect()
}

/// Ingredients that `lines` name and the drink has nothing of.
pub(super) fn missed(
    lines: &[(usize, Vec<Word>)],
    Had { names: mut known, sparkles }: Had,
    names: &Names<'_>,
) -> Vec<Missed> {
    let mut all = Vec::new();
    for (line, words) in lines {
        for found in names.find_all(words) {
            let (Some(&first), Some(&last)) = (found.at.iter().min(), found.at.iter().max()) else {
                continue;
            };
            let said = &words[first..=last];
            let only_a_kind = said.iter().all(|w| KINDS.contains(&w.stem.as_str()));
            let before = &words[first.saturating_sub(5)..first];
            let behind = words.get(last + 1);
            let meant =
                !before.iter().any(|w| w.is(&NOT)) && !behind.is_some_and(|w| w.is(&CALLED_AFTER));
            let its = parts(&found.id);
            let has = its.iter().any(|part| is_known(&known, part))
                || said.iter().all(|w| is_known(&known, &w.stem))
                || sparkles && is_soda(&found.id, names.cupboard);
            // Ice is in the glass, as much as there is room.
            let ice = names.cupboard.ingredient(&found.id).is_some_and(|it| it.kind == Kind::Ice);
            if found.nearest || only_a_kind || !meant || has || ice {
                continue;
            }
            known.extend(its);
            let before = &words[first.saturating_sub(5)..first];
            let laid_on = before.iter().any(|w| w.is(&LAID_ON));
            all.push(Missed { line: *line, words: said.to_vec(), laid_on });
        }
    }
    all
}

/// Where what is done something to ends: "into the pan", "until it is soft".
const ENDS: [&str; 22] = [
    ".", ";", ":", "(", "into", "to", "until", "till", "for", "over", "through", "on", "at",
    "from", "before", "while", "when", "by", "so", "if", "as", "onto",
];

/// What something is done to under a name that nobody knows here: "grate 3 quinces", "fill a jar with lilac". `had`
/// are words that are read by other means; what is named in the title may be the drink, unless it is counted.
pub(super) fn unnamed(
    lines: &[(usize, Vec<Word>)],
    (had, title): (&HashSet<String>, &HashSet<String>),
    names: &Names<'_>,
) -> Vec<Missed> {
    let mut all: Vec<Missed> = Vec::new();
    for (line, words) in lines {
        let unknown: Vec<usize> = unused::unknown(words, names).iter().map(|w| w.from).collect();
        if unknown.is_empty() {
            continue;
        }
        let is_unknown = |at: usize| unknown.contains(&words[at].from);
        let mut done_to = false;
        for at in 0..words.len() {
            done_to = match verb_at(words, at) {
                Some(Verb::Strain | Verb::Serve | Verb::Cool | Verb::Chill | Verb::Bottle) => false,
                Some(_) => true,
                None => done_to && !words[at].is(&ENDS),
            };
            let told = || all.iter().any(|m| m.words.iter().any(|w| w.stem == words[at].stem));
            let short = words[at].text.chars().count() < 3;
            let stem = &words[at].stem;
            if !done_to || !is_unknown(at) || short || had.contains(stem) || told() {
                continue;
            }
            let counted = (at.saturating_sub(3)..at)
                .find(|from| number(&words[*from..]).is_some_and(|(_, used)| from + used == at));
            if counted.is_none() && title.contains(stem) {
                continue;
            }
            let behind = words[at..].iter().take_while(|w| unknown.contains(&w.from)).count();
            let words = words[counted.unwrap_or(at)..at + behind].to_vec();
            all.push(Missed { line: *line, words, laid_on: false });
        }
    }
    all
}

/// What a vessel or a size is told by, and what is only told for the glass: these amounts don't go in.
const NO_AMOUNT_BEHIND: [&str; 30] = [
    "jug",
    "jar",
    "pitcher",
    "bottle",
    "glass",
    "glasses",
    "pot",
    "pan",
    "saucepan",
    "bowl",
    "carafe",
    "tumbler",
    "container",
    "can",
    "tin",
    "cup",
    "mug",
    "batch",
    "serving",
    "portion",
    "or",
    "each",
    "size",
    "capacity",
    "mark",
    "line",
    "measure",
    "bag",
    "in",
    "headspace",
];
const NO_AMOUNT_BEFORE: [&str; 27] = [
    "make", "makes", "making", "yield", "yields", "give", "gives", "per", "every", "each", "for",
    "until", "to", "down", "reach", "reaches", "leave", "left", "get", "or", "serve", "dilute",
    "than", "is", "are", "hold", "holds",
];
/// What speaks of the glass or the keeping, not of the pitcher.
const ASIDE: [&str; 10] =
    ["serve", "dilute", "drink", "keep", "glass", "glasses", "makes", "yields", "measure", "weigh"];

/// An amount that a text counts out and nothing in the drink has: the words, from the amount on. `read` are the words
/// that things were read from, with their lines.
pub(super) fn uncounted(
    lines: &[(usize, Vec<Word>)],
    known: &[Amount],
    read: &[(usize, &[Word])],
) -> Vec<Missed> {
    let same = |a: &Amount, b: &Amount| {
        let of = |x: &Amount| x.as_grams().or(x.as_millilitres());
        let alike = a.as_grams().is_some() == b.as_grams().is_some();
        alike && of(a).zip(of(b)).is_some_and(|(a, b)| (a - b).abs() <= 0.02 * b.abs())
    };
    let mut all = Vec::new();
    for (line, words) in lines {
        if words.iter().any(|w| w.is(&ASIDE)) {
            continue;
        }
        let (mut at, mut depth) = (0, 0_i32);
        while at < words.len() {
            depth += i32::from(words[at].is(&["(", "["])) - i32::from(words[at].is(&[")", "]"]));
            let Some((amount, used)) = plain(&words[at..]).filter(|_| depth <= 0) else {
                at += 1;
                continue;
            };
            let end = at + used;
            let behind = words[end..].iter().take(3).any(|w| w.is(&NO_AMOUNT_BEHIND));
            // "To one pound of flowers put two pints of water" begins with what goes in.
            let begins =
                at == 1 && words[0].is(&["to"]) && words.get(end).is_some_and(|w| w.is(&["of"]));
            let before =
                !begins && words[at.saturating_sub(2)..at].iter().any(|w| w.is(&NO_AMOUNT_BEFORE));
            let said = &words[at..end];
            let was_read = read.iter().any(|(of, words)| {
                of == line
                    && words
                        .windows(said.len())
                        .any(|w| w.iter().zip(said).all(|(a, b)| a.text == b.text))
            });
            let weighs = amount.as_grams().or(amount.as_millilitres()).is_some();
            if weighs && !behind && !before && !was_read && !known.iter().any(|k| same(k, &amount))
            {
                let to = words.len().min(end + 3);
                let words = words[at..to].to_vec();
                all.push(Missed { line: *line, words, laid_on: false });
            }
            at = end;
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::quantity::said::words;

    #[test]
    fn what_is_counted_by_an_unknown_name_is_found() {
        let names = Names::of(Cupboard::builtin());
        let asked = |text: &str, read: &str| {
            let had = words(read).into_iter().map(|w| w.stem).collect();
            let title = HashSet::from(["quince".to_owned()]);
            let all = unnamed(&[(0, words(text))], (&had, &title), &names);
            all.iter().map(|m| m.words.last().unwrap().text.clone()).collect::<Vec<_>>()
        };
        assert_eq!(asked("Grate 3 loomi into a pan and add two zorbles", ""), ["loomi", "zorbles"]);
        assert_eq!(asked("Grate 3 loomi", "3 loomi"), [""; 0]);
        assert_eq!(asked("Pour in the quince and grate 3 quinces", ""), ["quinces"]);
        assert_eq!(asked("Grate a loomi, and fill a jar with lilac", ""), ["loomi", "lilac"]);
        for text in ["Cut 2 slices", "Grate 3 lemons", "Boil 10 minutes", "Strain into a krug"] {
            assert_eq!(asked(text, ""), [""; 0], "{text}");
        }
    }

    #[test]
    fn an_amount_that_nothing_has_is_found() {
        let asked = |text: &str, known: &[&str], read: &str| {
            let known: Vec<Amount> = known.iter().map(|a| a.parse().unwrap()).collect();
            let read = words(read);
            let all = uncounted(&[(0, words(text))], &known, &[(0, &read)]);
            all.iter().map(|m| m.words[0].text.clone()).collect::<Vec<_>>()
        };
        let text = "Sweeten with maple syrup, I use 120 ml of it, and stir in 2 kg melon";
        assert_eq!(asked(text, &[], ""), ["120", "2"]);
        assert_eq!(asked(text, &["0.12 l"], "2 kg melon"), [""; 0]);
        for size in [
            "Pour it into a 500 ml jug",
            "It makes 2 litres",
            "Boil it down to 300 ml",
            "Serve 200 ml with ice",
            "Add the juice (about 250 ml)",
            "Leave it for 20 minutes",
        ] {
            assert_eq!(asked(size, &[], ""), [""; 0], "{size}");
        }
    }
}
