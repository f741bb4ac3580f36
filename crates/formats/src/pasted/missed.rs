//! What a text names and the drink hasn't got. Reading goes by forms that recipes have, and people write in others; what
//! was told in one that isn't known may not vanish. So every ingredient that is named where it is told what goes in and
//! what is done is looked for once more: what is neither in the drink nor asked about is asked about now.

use std::collections::HashSet;

use keen_core::cupboard::{Cupboard, Kind};
use keen_core::quantity::said::Word;

use super::item::Item;
use super::names::Names;

/// Words that name a kind of thing, or what the drink has become: "strain the syrup", "squeeze the fruit".
const KINDS: [&str; 33] = [
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
