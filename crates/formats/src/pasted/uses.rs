//! What a sentence is about: which ingredients it names, and how much of each.

use keen_core::cupboard::{Ingredient, Kind};
use keen_core::quantity::Amount;

use super::names::{Found, Names};
use super::said;
use super::verbs::{Verb, verb_at};
use keen_core::quantity::said::{Word, and_a_part, number, says};

/// How much of a thing.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Share {
    All,
    Part(f64),
    Rest,
    /// Some of it, nobody knows how much.
    Some,
    Amount(Amount),
}

/// A thing that a doing is about.
#[derive(Debug, Clone)]
pub(super) struct Use {
    pub(super) found: Found,
    /// The words that it was found in, for what isn't in the list.
    pub(super) words: Vec<Word>,
    pub(super) share: Share,
    /// Whether this is where it is said how much there is: no list has it.
    pub(super) tells: bool,
    /// "Add to the boiling water": what it goes into, if that is there already.
    pub(super) goal: bool,
}

impl Use {
    /// Whether it names what was made of a thing: "the melon juice", "strawberry puree".
    pub(super) fn of_it(&self) -> bool {
        self.words
            .last()
            .is_some_and(|w| w.is(&["juice", "puree", "purée", "syrup", "pulp", "infusion"]))
            && self.words.len() > 1
            && !self.found.id.ends_with("_juice")
            && !self.found.id.ends_with("_syrup")
    }
}

/// An amount that stands in the sentence by itself: "fill up to 2 litres".
pub(super) fn amounts(words: &[Word], timed: std::ops::Range<usize>) -> Option<Amount> {
    let mut at = 0;
    while at < words.len() {
        if timed.contains(&at) {
            at = timed.end;
            continue;
        }
        if let Some((amount, _)) = said::plain(&words[at..])
            && amount.as_millilitres().is_some()
        {
            return Some(amount);
        }
        at += 1;
    }
    None
}

/// What a measure may stand before without measuring anything: "a 2 litre jug", "500 ml at a time".
const NO_NAMES: [&str; 33] = [
    "or",
    "to",
    "at",
    "in",
    "into",
    "for",
    "each",
    "per",
    "more",
    "is",
    "are",
    "the",
    "this",
    "that",
    "it",
    "them",
    "deep",
    "wide",
    "jar",
    "jug",
    "bottle",
    "pitcher",
    "glass",
    "pan",
    "pot",
    "bowl",
    "saucepan",
    "from",
    "over",
    "container",
    "left",
    "if",
    "filled",
];

/// What was made so far, and how it is then: "1 cup of cooled syrup".
const MADE: [&str; 4] = ["mixture", "syrup", "liquid", "juice"];
const HOW: [&str; 12] = [
    "strained",
    "cooled",
    "cold",
    "hot",
    "warm",
    "resulting",
    "finished",
    "reserved",
    "sweet",
    "fresh",
    "remaining",
    "lemon",
];

/// What is measured out in a sentence without being known: "and 5 ml caramel colour".
pub(super) fn unknown(
    words: &[Word],
    uses: &[Use],
    timed: std::ops::Range<usize>,
    names: &Names<'_>,
) -> Vec<Vec<Word>> {
    let mut all = Vec::new();
    let mut at = 0;
    while at < words.len() {
        let measured = said::plain(&words[at..]).map(|(_, used)| used);
        // "6 rooibos bags", "2 pandan leaves"
        let article = words[at].is(&["a", "an"]);
        let counted = number(&words[at..]).map(|(_, used)| used).filter(|used| {
            if article {
                return false;
            }
            let name = words[at + used..].iter().take(3).take_while(|w| !w.is_sign()).skip(1);
            name.into_iter().any(|w| w.is(&["bag", "leaf", "sprig", "stick", "stalk", "pod"]))
        });
        let Some(used) = measured.or(counted).filter(|_| !timed.contains(&at)) else {
            at += 1;
            continue;
        };
        let begin = at;
        at += used.max(1);
        at += usize::from(words.get(at).is_some_and(|w| w.is(&["of"])));
        let end = words[at..]
            .iter()
            .position(|w| {
                w.is_sign()
                    || w.is(&["and", "or", "in", "into", "to", "with", "over", "for", "then"])
            })
            .map_or(words.len(), |n| at + n);
        // "1 cup aloe vera juice" is no other juice.
        let called = words[..end].last().is_some_and(|w| w.is(&["juice", "syrup"]));
        let other = |u: &&Use| !(called && end - at > 1 && u.found.id.starts_with('~'));
        let known = uses.iter().filter(other).any(|u| {
            u.words
                .first()
                .zip(u.words.last())
                .is_some_and(|(a, b)| a.from < words[end - 1].to && words[begin].from < b.to)
        });
        // "1 cup aloe vera juice" is something, "1 cup of cooled syrup" was made here.
        let made = words[..end].last().is_some_and(|w| w.is(&MADE))
            && words[at..end - 1].iter().all(|w| w.is(&HOW));
        let named = !made
            && (1..=4).contains(&(end - at.min(end)))
            && words[at..end].iter().all(|w| !w.text.starts_with(|c: char| c.is_ascii_digit()))
            && !words[at].is(&NO_NAMES)
            && !words[end - 1].is(&NO_NAMES);
        if named && !known && names.find(&words[at..end]).is_none() {
            all.push(words[begin..end].to_vec());
        }
    }
    all
}

/// What a cook calls a part of the list by: "the juice", "zest and leaves", "the spices".
const SORTS: [(&[&str], &str); 11] = [
    (&["juice"], "~juice"),
    (&["zest", "peel", "rind", "skin", "strip"], "~zest"),
    (&["leaf", "herb", "sprig"], "~leaves"),
    (&["seed"], "~seeds"),
    (&["acid"], "~acids"),
    (&["syrup"], "~syrup"),
    (&["flower", "petal", "calyx", "calyces", "calyce", "blossom", "head", "tea"], "~flowers"),
    (&["spice", "aromatic"], "~spices"),
    (&["fruit", "berry", "flesh", "pulp"], "~fruit"),
    (&["root"], "~roots"),
    (&["sweetener", "sweeten"], "~sweet"),
];

/// Whether an ingredient is of a sort that is named so.
pub(super) fn is_of_sort(it: &Ingredient, sort: &str) -> bool {
    match sort {
        "~juice" => it.kind == Kind::Juice,
        "~zest" => matches!(it.kind, Kind::Zest | Kind::Peel),
        "~leaves" => it.kind == Kind::Herb,
        "~flowers" => it.kind == Kind::Flower,
        "~spices" => matches!(it.kind, Kind::Spice | Kind::Root | Kind::Stem),
        "~fruit" => matches!(it.kind, Kind::Fruit | Kind::Vegetable),
        "~seeds" => it.kind == Kind::Seed || (it.kind == Kind::Spice && it.id.ends_with("_seed")),
        "~acids" => it.kind == Kind::Acid,
        "~syrup" => it.kind == Kind::Syrup && it.id.contains("syrup"),
        "~roots" => matches!(it.kind, Kind::Root | Kind::Stem),
        "~sweet" => matches!(it.kind, Kind::Sweetener | Kind::Syrup),
        _ => false,
    }
}

/// What is named in a sentence, and how much of it.
pub(super) fn uses(words: &[Word], names: &Names<'_>, verb: Verb) -> Vec<Use> {
    let found = names.find_all(words);
    let mut all = by_name(words, &found, names);
    all.extend(by_sort(words, &found, names));
    // "Make a simple syrup with the sugar" isn't one that is bought.
    let makes = words.iter().position(|w| w.is(&["make"]));
    all.retain(|one| {
        let syrup = one.found.id.contains("syrup") && one.share == Share::All;
        !(syrup && makes.is_some_and(|at| one.found.at.iter().all(|n| *n > at && *n <= at + 5)))
    });
    // A lemon is named: what of it is meant, the list knows. "Squeeze the lemons" is their juice, and "lemon
    // slices" are no zest.
    // "Zest 2 of the lemons" uses their zest.
    // "Pare and slice the lemon" its slices, should nothing else be done with it.
    let part = |name: &str| words.iter().take(3).find(|w| verb == Verb::Prepare && w.is(&[name]));
    let used = part("zest").or_else(|| part("slice"));
    for one in &mut all {
        if let Some(used) = used.filter(|_| names.citrus(&one.words).is_some()) {
            one.words.insert(0, used.clone());
        }
        let parts = names.citrus(&one.words).unwrap_or_default();
        let part = match (verb, parts.as_slice()) {
            (Verb::Squeeze, parts) => parts.iter().find(|p| p.id.ends_with("_juice")),
            (_, [part]) if ["_slices", "_zest", "_peel"].iter().any(|e| part.id.ends_with(e)) => {
                Some(part)
            }
            _ => None,
        };
        if let Some(part) = part {
            one.found = part.clone();
        }
    }
    all
}

/// Ingredients that are named, each with the words around it.
fn by_name(words: &[Word], found: &[Found], names: &Names<'_>) -> Vec<Use> {
    let mut all: Vec<Use> = Vec::new();
    for one in found {
        let (first, last) = (one.at[0], *one.at.last().unwrap_or(&0));
        if let Some(other) = instead_of(words, first, all.last_mut()) {
            // "120 g piloncillo (or brown sugar)": one of the two.
            let or = &words[first - 1];
            other.words.retain(|word| word.from < or.from);
            other.words.extend_from_slice(&words[first - 1..=last]);
            continue;
        }
        if is_only_spoken_of(words, first) {
            continue;
        }
        let before = said_before(words, first);
        let share = share_of(before, words, one, names);
        let from = first - before.len();
        let part = part_of_both(all.last(), words, (first, last), names);
        let said = [part.as_slice(), &words[from..said_behind(words, last)]].concat();
        let led = words[first.saturating_sub(3)..first]
            .windows(2)
            .any(|w| w[0].is(&["to", "into"]) && w[1].is(&["the"]));
        let goal = led && share == Share::All;
        all.push(Use { found: one.clone(), words: said, share, tells: false, goal });
    }
    all
}

/// The words that stand before a name and belong to it: back to the last thing, comma or verb.
fn said_before(words: &[Word], first: usize) -> &[Word] {
    let before = &words[first.saturating_sub(7)..first];
    let apart = |(at, w): (usize, &Word)| {
        // "a litre and a half of water"
        let part = at > 0 && and_a_part(&before[at..]).is_some();
        let stops = [",", "and", ";", ":", ".", "\"", "“", "to", "into", "in", "with", "over"];
        let ratio = w.is(&[":"])
            && [before.get(at.wrapping_sub(1)), before.get(at + 1)]
                .iter()
                .all(|beside| beside.is_some_and(said::is_figure));
        !part && !ratio && w.is(&stops)
    };
    let since = before.iter().enumerate().rposition(apart).map_or(0, |n| n + 1);
    let front = first - (before.len() - since);
    let verb = (front..first).rposition(|n| verb_at(words, n).is_some()).map_or(0, |n| n + 1);
    &words[front + verb..first]
}

/// Where that ends which stands behind a name and belongs to it.
fn said_behind(words: &[Word], last: usize) -> usize {
    // "Coconut water (a 1 l carton)": the bracket says how much.
    let bracket = words.get(last + 1).filter(|w| w.is(&["("]));
    let closed = bracket.and_then(|_| words[last..].iter().position(|w| w.is(&[")"])));
    let end = match closed.filter(|n| *n < 10) {
        Some(closed) => last + closed + 1,
        None => (last + 3).min(words.len()),
    };
    words[last + 1..end]
        .iter()
        .position(|w| w.is(&[",", "and", "&", ";", ".", "with", "in", "into", "over"]))
        .map_or(end, |n| last + 1 + n)
}

/// Whether nothing is done with what is named: "until the sugar dissolves", "twisting it to get out all the milk".
fn is_only_spoken_of(words: &[Word], first: usize) -> bool {
    let waited = words[..first].iter().rposition(|w| w.is(&["until", "till"]));
    let ended = words[..first].iter().rposition(|w| w.is(&[","]));
    let got = words[..first]
        .windows(2)
        .rposition(|w| w[0].is(&["to"]) && w[1].is(&["get", "extract", "release", "press"]));
    waited.is_some() && (ended.is_none() || ended < waited)
        || got.is_some_and(|at| first - at <= 6 && ended.is_none_or(|ended| ended < at))
}

/// How much is said of a thing by the words before it.
fn share_of(before: &[Word], words: &[Word], one: &Found, names: &Names<'_>) -> Share {
    const OF_A_MEASURE: [&str; 6] = ["litre", "cup", "pint", "teaspoon", "tablespoon", "hour"];
    let is_ice = || names.cupboard.ingredient(&one.id).is_some_and(|it| it.kind == Kind::Ice);
    if says(before, &["half"]) && !says(before, &OF_A_MEASURE) {
        Share::Part(0.5)
    } else if says(before, &["remaining", "rest", "other"]) {
        Share::Rest
    } else if says(before, &["some", "little", "bit"]) {
        // "some of the water (a mugful)"
        let last = one.at.last().map_or(words.len(), |last| last + 1);
        amounts(&words[last..], 0..0).map_or(Share::Some, Share::Amount)
    } else if says(before, &["glass"]) && is_ice() {
        // "Four glasses of ice" are glasses, with ice in them.
        Share::All
    } else {
        amount_before(before).map_or(Share::All, Share::Amount)
    }
}

/// "The zest of the oranges and lemons", "the peel of 2 lemons and 1 orange": the part is that of both.
fn part_of_both(
    before: Option<&Use>,
    words: &[Word],
    (first, last): (usize, usize),
    names: &Names<'_>,
) -> Vec<Word> {
    let small =
        |w: &Word| w.is(&["and", "&", "the", ","]) || number(std::slice::from_ref(w)).is_some();
    let joined = words[..first].iter().rposition(|w| !small(w));
    let of_both = |u: &&Use| {
        let end = u.found.at.last().copied();
        end.is_some()
            && end == joined
            && says(&u.words, &["of"])
            && names.citrus(&words[first..=last]).is_some()
    };
    before.filter(of_both).map_or_else(Vec::new, |u| {
        let of = u.words.iter().position(|w| w.is(&["of"])).map_or(0, |n| n + 1);
        u.words[..of].to_vec()
    })
}

/// Parts of the list that are named by their sort: "the juice", "the spices".
fn by_sort(words: &[Word], found: &[Found], names: &Names<'_>) -> Vec<Use> {
    let mut all = Vec::new();
    for (at, word) in words.iter().enumerate() {
        let Some((_, sort)) = SORTS.iter().find(|(any, _)| any.contains(&word.stem.as_str()))
        else {
            continue;
        };
        let taken = found.iter().any(|f| f.at.contains(&at));
        // "The zest from 4 of the oranges" says of which.
        let thinly = words[at + 1..].iter().take_while(|w| w.text.ends_with("ly")).count();
        let of = words.get(at + 1 + thinly).is_some_and(|w| w.is(&["of", "from"]));
        let behind = &words[at + 1..words.len().min(at + 8)];
        let end = behind.iter().position(|w| w.is(&[",", ";", "and"])).unwrap_or(behind.len());
        let of_which = of && names.citrus(&behind[..end]).is_some();
        let waited = words[..at]
            .iter()
            .rposition(|w| w.is(&["until", "till", "from"]))
            .is_some_and(|u| !words[u..at].iter().any(|w| w.is(&[","])));
        // "Return the juice to the pan": that is what was made so far.
        let returned = words[..at].iter().rev().take(2).any(|w| w.is(&["return", "returned"]));
        // "Sweeten with honey" says with what.
        let said = word.is(&["sweeten"]) && !found.is_empty();
        if taken || of_which || waited || returned || said {
            continue;
        }
        let found = Found { id: (*sort).to_owned(), nearest: false, at: vec![at] };
        let remaining = at > 0 && words[at - 1].is(&["remaining"]);
        let share = if remaining { Share::Rest } else { Share::All };
        // "The rinds of four"
        let of = words.get(at + 1).filter(|w| w.is(&["of", "from"]));
        let counted = of.and_then(|_| number(&words[at + 2..])).map_or(0, |(_, used)| used + 1);
        let words = words[at..=at + counted].to_vec();
        all.push(Use { found, words, share, tells: false, goal: false });
    }
    all
}

/// What stands right before an "or": it is taken, and this one may be instead.
fn instead_of<'u>(
    words: &[Word],
    first: usize,
    before: Option<&'u mut Use>,
) -> Option<&'u mut Use> {
    let or = first.checked_sub(1).filter(|at| words[*at].is(&["or"]))?;
    let before = before?;
    let end = before.found.at.last()? + 1;
    words.get(end..or)?.iter().all(|w| w.is(&["(", ","])).then_some(before)
}

fn amount_before(before: &[Word]) -> Option<Amount> {
    (0..before.len()).find_map(|at| {
        let (amount, used) = said::plain(&before[at..])?;
        let rest = &before[at + used..];
        // "4 cups of ice-cold water": signs and small words don't count.
        let between = rest.iter().filter(|w| !w.is_sign() && !w.is(&["of"])).count();
        (between <= 3 && !says(rest, &[","])).then_some(amount)
    })
}
