//! A line that says how much of what: "6 lemons, juiced", "1½ cups (300 g) sugar", "juice of 2 limes".

use keen_core::cupboard::{Cupboard, Ingredient, Kind};
use keen_core::drink::{Cut, Warmth};
use keen_core::quantity::{Amount, Dimension, Measure};

use super::names::{Found, Names};
use super::outcome::Sure;
use super::words::{Counted, Fullness, Many, Word, measure, number};

/// Something that goes into the drink, as it was read.
#[derive(Debug, Clone)]
pub(super) struct Item {
    pub(super) ingredient: Option<String>,
    /// The words that it was read from.
    pub(super) words: Vec<Word>,
    pub(super) amount: Option<Amount>,
    /// A second amount for the same thing that doesn't agree.
    pub(super) other: Option<Amount>,
    pub(super) sure: Sure,
    pub(super) why: Vec<String>,
    /// Up to a line, or as much as fills the vessel.
    pub(super) fills: bool,
    /// Put on the glass, not into the pitcher.
    pub(super) garnish: bool,
    pub(super) optional: bool,
    pub(super) warmth: Warmth,
    pub(super) cut: Cut,
    /// Whether the text says how much.
    pub(super) said: bool,
    /// What could be taken instead: "honey or agave".
    pub(super) instead: Vec<String>,
}

fn says(words: &[Word], any: &[&str]) -> bool {
    words.iter().any(|w| w.is(any))
}

fn says_together(words: &[Word], phrase: &[&str]) -> bool {
    words.windows(phrase.len()).any(|w| w.iter().zip(phrase).all(|(w, p)| w.text == *p))
}

/// Everything that a line says goes in. Empty where it says nothing of the kind.
pub(super) fn items(words: &[Word], names: &Names<'_>) -> Vec<Item> {
    let mut all = Vec::new();
    let mut part: &[Word] = &[];
    for segment in segments(words, names) {
        // "Zest of 2 oranges, 1 lime and 1 lemon": what is used of the first is used of all.
        let bare = segment.len() <= 3
            && names.citrus(segment).is_some()
            && !says(segment, &["juice", "zest", "peel", "slice", "whole"]);
        if !part.is_empty() && bare {
            all.extend(of_segment(&[part, segment].concat(), names));
            continue;
        }
        let of = segment.iter().position(|w| w.is(&["of", "from"])).filter(|at| {
            *at > 0
                && *at <= 5
                && segment[..*at].iter().all(|w| {
                    w.is(&[
                        "the", "finely", "grated", "pared", "juice", "zest", "peel", "rind", "and",
                        "&",
                    ])
                })
        });
        part = of.map_or(&[], |at| &segment[..=at]);
        all.extend(of_segment(segment, names));
    }
    all
}

/// Splits "200 g sugar, 1 l water and 3 lemons" where another amount of something begins.
fn segments<'w>(words: &'w [Word], names: &Names<'_>) -> Vec<&'w [Word]> {
    let mut found = Vec::new();
    let (mut from, mut depth) = (0, 0_i32);
    for at in 0..words.len() {
        match words[at].text.as_str() {
            "(" | "[" => depth += 1,
            ")" | "]" => depth = (depth - 1).max(0),
            "," | ";" | "+" | "and" | "&" | "plus" | "/" | "in" | "with"
                if depth == 0 && at > from =>
            {
                let mut next = at + 1;
                while words.get(next).is_some_and(|w| w.is(&["and", "plus", "&", "then", "the"])) {
                    next += 1;
                }
                let rest = &words[next..];
                let begins = number(rest).is_some_and(|(_, used)| {
                    let until = rest[used..].iter().position(|w| w.is(&[",", ";", "and"]));
                    names.find(&rest[used..until.map_or(rest.len(), |n| used + n)]).is_some()
                });
                // "the juice of 3 limes"
                let part_of =
                    rest.first().is_some_and(|w| w.is(&["juice", "zest", "peel", "rind"]))
                        && rest.get(1).is_some_and(|w| w.is(&["of", "from"]))
                        && words[at].text != "and";
                // "boiling water 500 ml + cold water 1.5 l"
                let until = rest
                    .iter()
                    .position(|w| w.is(&[",", ";", "and", "+", "/"]))
                    .unwrap_or(rest.len());
                let counts =
                    |words: &[Word]| all_said(words).0.is_some_and(|s| s.counted.is_some());
                // "6 tsp tea in 1.5 l water" are two things, "lemons in 4 wedges" are one.
                let lies_in = words[at].is(&["in", "with"]);
                let measured = plain(rest).is_some();
                if lies_in && !counts(&words[from..at]) && !measured {
                    continue;
                }
                let behind = words[at].text != "and"
                    && counts(&words[from..at])
                    && counts(&rest[..until])
                    && names.find(&rest[..until]).is_some();
                // "6 bags of something in a litre of water": what isn't known is asked about, by itself.
                let in_water = lies_in && measured && number(&words[from..at]).is_some();
                let named = names.find(&words[from..at]).is_some();
                if (begins || part_of || behind) && named || begins && in_water {
                    found.push(&words[from..at]);
                    from = next;
                }
            }
            _ => {}
        }
    }
    found.push(&words[from.min(words.len())..]);
    found
}

/// A number with its measure, and the words it takes.
struct Said {
    many: Many,
    counted: Option<Counted>,
    full: Fullness,
    from: usize,
    to: usize,
}

/// Things that hold what is bought.
const HOLDERS: [&str; 13] = [
    "can", "tin", "carton", "bottle", "jar", "pack", "packet", "package", "bag", "box", "pouch",
    "tub", "punnet",
];

/// "1 (20 oz) can", "two 400-ml tins", "a 330 ml bottle": as many as there are of what each holds.
fn held(words: &[Word], at: usize) -> Option<Said> {
    let (many, used) = number(&words[at..])?;
    let mut to = at + used;
    let bracket = words.get(to).is_some_and(|w| w.is(&["(", "["]));
    to += usize::from(bracket);
    let (each, used) = number(&words[to..])?;
    to += used;
    to += usize::from(words.get(to).is_some_and(|w| w.is(&["-"])));
    let (counted, full, used) = measure(&words[to..])?;
    to += used;
    to += usize::from(words.get(to).is_some_and(|w| w.is(&["."])));
    if bracket {
        to += words[to..].iter().position(|w| w.is(&[")", "]"]))? + 1;
    }
    let holds = matches!(&counted, Counted::In(measure) if measure.dimension() != Dimension::Count);
    if !holds || !words.get(to).is_some_and(|w| w.is(&HOLDERS)) {
        return None;
    }
    to += 1;
    to += usize::from(words.get(to).is_some_and(|w| w.is(&["of"])));
    let many = Many { low: many.low * each.low, high: None, loose: many.loose || each.loose };
    Some(Said { many, counted: Some(counted), full, from: at, to })
}

fn said_at(words: &[Word], at: usize) -> Option<Said> {
    if let Some(held) = held(words, at) {
        return Some(held);
    }
    let (many, used) = number(&words[at..])?;
    let mut to = at + used;
    // "a 2-inch piece", "a 400-ml tin"
    if words.get(to).is_some_and(|w| w.is(&["-"])) && measure(&words[to + 1..]).is_some() {
        to += 1;
    }
    let (counted, full, more) = match measure(&words[to..]) {
        Some((counted, full, used)) => (Some(counted), full, used),
        None => (None, Fullness::Level, 0),
    };
    let mut many = many;
    // A dessertspoon is two teaspoons.
    let dessert =
        words[to..(to + more).min(words.len())].iter().any(|w| w.text.starts_with("dessert"));
    let counted = match counted {
        Some(Counted::In(_)) if dessert => {
            (many.low, many.high) = (many.low * 2.0, many.high.map(|h| h * 2.0));
            Some(Counted::In(Measure::Teaspoon))
        }
        other => other,
    };
    let full = if dessert { Fullness::Level } else { full };
    to += more;
    // "a cup and a half of sugar"
    let half = words
        .get(to..to + 3)
        .is_some_and(|w| w[0].is(&["and"]) && w[1].is(&["a"]) && w[2].text == "half");
    if more > 0 && half {
        many.low += 0.5;
        to += 3;
    }
    Some(Said { many, counted, full, from: at, to })
}

/// Whether an "a" counts what comes: it does where a line begins with it and in "juice of a lemon", not in "for
/// a crowd".
fn counts_by_article(before: &[Word]) -> bool {
    before.last().is_none_or(|w| {
        w.is_sign()
            || w.is(&[
                "of", "from", "and", "with", "plus", "take", "add", "squeeze", "juice", "in", "or",
            ])
    })
}

/// The amounts that a segment says: outside of brackets first.
fn all_said(words: &[Word]) -> (Option<Said>, Option<Said>) {
    let (mut outside, mut inside): (Vec<Said>, Vec<Said>) = (Vec::new(), Vec::new());
    let (mut at, mut depth) = (0, 0);
    while at < words.len() {
        match words[at].text.as_str() {
            "(" | "[" => depth += 1,
            ")" | "]" => depth = (depth - 1_i32).max(0),
            _ => {}
        }
        // "a" is a number only where something is counted by it.
        let article = words[at].is(&["a", "an"]);
        match said_at(words, at) {
            Some(said)
                if !article
                    || said.counted.is_some()
                    || (outside.is_empty() && counts_by_article(&words[..at])) =>
            {
                at = said.to.max(at + 1);
                if depth > 0 { inside.push(said) } else { outside.push(said) }
            }
            _ => at += 1,
        }
    }
    // "Pinch of salt", "handful of mint": one of it.
    if outside.is_empty()
        && let Some((counted, full, used)) = measure(words)
        && words.get(used).is_some_and(|w| w.is(&["of"]))
    {
        let many = Many { low: 1.0, high: None, loose: false };
        outside.push(Said { many, counted: Some(counted), full, from: 0, to: used });
    }
    // "Strawberries (1 pound, hulled)": the bracket says it all.
    if outside.is_empty() && !inside.is_empty() {
        outside.push(inside.remove(0));
    }
    let mut measured = outside.into_iter();
    let first = measured.next();
    let second = inside.into_iter().find(|s| s.counted.is_some()).or_else(|| {
        // "200 g / 7 oz": right behind the first, by a stroke or an or.
        let first = first.as_ref()?;
        measured.find(|s| {
            s.counted.is_some()
                && words.get(first.to).is_some_and(|w| w.is(&["/", "|", "="]))
                && s.from <= first.to + 1
        })
    });
    (first, second)
}

fn of_segment(words: &[Word], names: &Names<'_>) -> Vec<Item> {
    let end = words.iter().rposition(|w| !w.is(&[";", ",", "."])).map_or(0, |last| last + 1);
    let words = &words[..end];
    let (first, second) = all_said(words);
    let measured_out =
        first.as_ref().and_then(plain_amount).is_some_and(|a| a.as_millilitres().is_some());
    let fills = fills(words) && !(measured_out && poured_on(words));
    let named = named(words, names, first.as_ref());
    // "1 cup basil, plus more for garnish": the cup is for the pitcher.
    let plus = words.iter().position(|w| w.is(&["plus", "extra"]));
    let said_of = match plus.filter(|_| first.is_some()) {
        Some(at) if first.as_ref().is_some_and(|said| said.to <= at) => &words[..at],
        _ => words,
    };
    let garnish = says_together(said_of, &["to", "serve"])
        || says_together(said_of, &["to", "garnish"])
        || says_together(said_of, &["for", "garnish"])
        || says_together(said_of, &["to", "decorate"])
        || says_together(said_of, &["for", "serving"])
        || says_together(said_of, &["for", "decoration"])
        || says_together(said_of, &["for", "the", "glass"])
        || says_together(said_of, &["for", "the", "glasses"])
        || says_together(said_of, &["for", "the", "rim"]);
    let optional = says(words, &["optional", "optionally"])
        || says_together(words, &["if", "you", "like"])
        || says_together(words, &["if", "you", "have"])
        || says_together(words, &["if", "liked"])
        || says_together(words, &["if", "wanted"]);
    if named.is_empty() {
        // Something is counted out, but what it is isn't known here.
        let Some(said) = first.filter(|_| !words.is_empty()) else { return Vec::new() };
        let amount = plain_amount(&said);
        return vec![Item {
            ingredient: None,
            words: words.to_vec(),
            amount,
            other: None,
            sure: Sure::Asked,
            why: vec!["It isn't in the cupboard by that name.".into()],
            fills: false,
            garnish,
            optional,
            warmth: Warmth::Usual,
            cut: Cut::Usual,
            said: true,
            instead: Vec::new(),
        }];
    }
    // Mandarin syrup is no mandarin: what is made of a thing is another one.
    const MADE_OF: [&str; 9] = [
        "syrup",
        "cordial",
        "liqueur",
        "jam",
        "jelly",
        "squash",
        "concentrate",
        "marmalade",
        "shrub",
    ];
    // "¾ cup (180 ml) ginger syrup (recipe below)": brackets say how much of it, not what it is.
    let made = |words: &[Word]| {
        let mut depth = 0;
        let plain = words.iter().take_while(|w| !w.is(&[",", ";"])).filter(|w| {
            depth += i32::from(w.is(&["(", "["])) - i32::from(w.is(&[")", "]"]));
            depth == 0
        });
        plain.collect::<Vec<_>>().iter().any(|w| w.is(&MADE_OF))
    };
    let is_syrup = |f: &Found| {
        names
            .cupboard
            .ingredient(&f.id)
            .is_some_and(|it| it.kind == Kind::Syrup || it.name.contains("syrup"))
    };
    if made(words) && named.len() == 1 && !is_syrup(&named[0]) {
        return vec![Item {
            ingredient: None,
            words: words.to_vec(),
            amount: first.as_ref().and_then(plain_amount),
            other: None,
            sure: Sure::Asked,
            why: vec!["It isn't in the cupboard by that name.".into()],
            fills: false,
            garnish,
            optional,
            warmth: Warmth::Usual,
            cut: Cut::Usual,
            said: first.is_some(),
            instead: named.iter().map(|f| f.id.clone()).collect(),
        }];
    }
    let instead = alternatives(words, names, &named);
    let alone = named.len() == 1;
    let mut all = Vec::new();
    for found in &named {
        let Some(it) = names.cupboard.ingredient(&found.id) else { continue };
        let mut item = Item {
            ingredient: Some(found.id.clone()),
            words: words.to_vec(),
            amount: None,
            other: None,
            sure: Sure::Understood,
            why: Vec::new(),
            fills,
            // What is measured out to be poured on at the glass is drunk.
            garnish: garnish
                && !(first.is_some()
                    && matches!(
                        it.kind,
                        Kind::Soda | Kind::Water | Kind::Juice | Kind::Syrup | Kind::Spirit
                    )),
            optional,
            warmth: warmth(words, it),
            cut: cut(words, it),
            said: first.is_some(),
            instead: if alone { instead.clone() } else { Vec::new() },
        };
        if found.nearest {
            guess(&mut item, format!("“{}” is nearest to that here.", it.name));
        }
        if says(words, &["stuff", "something", "thing", "whatever", "kind", "sort"]) {
            item.sure = Sure::Asked;
            item.why.push("Which is meant has to be said.".into());
        } else if optional {
            guess(&mut item, "The text leaves it to you.".into());
        }
        if let Some(unknown) = unknown_measure(words, first.as_ref(), found) {
            no_amount(&mut item, it, names.cupboard);
            item.why = vec![format!(
                "“{unknown}” is no measure that is known here; this is what is usual in a pitcher."
            )];
            all.push(item);
            continue;
        }
        match &first {
            Some(said) if fills => {
                item.amount = plain_amount(said).filter(|a| a.as_millilitres().is_some());
            }
            Some(said) => {
                measured(&mut item, said, words, it, names.cupboard);
                if let Some(second) = &second {
                    compare(&mut item, second, words, it, names.cupboard);
                }
            }
            None if fills || garnish => {}
            None => {
                item.amount = Some(names.cupboard.usual_amount(it));
                let why = if says_together(words, &["to", "taste"]) {
                    "To taste: this is what is usual in a pitcher."
                } else {
                    "The text doesn't say how much; this is what is usual in a pitcher."
                };
                guess(&mut item, why.into());
            }
        }
        all.push(item);
    }
    all
}

/// "1 taza de jamaica": what stands between a number and an "of" is a measure, known or not.
fn unknown_measure<'w>(words: &'w [Word], said: Option<&Said>, found: &Found) -> Option<&'w str> {
    let said = said.filter(|s| s.counted.is_none())?;
    let (measure, of) = (words.get(said.to)?, words.get(said.to + 1)?);
    let stands_for_it = found.at.first().is_some_and(|at| *at > said.to + 1);
    let is_word = !measure.is_sign() && number(std::slice::from_ref(measure)).is_none();
    (stands_for_it && is_word && of.is(&["of", "de", "d'", "di", "von"])).then_some(&*measure.text)
}

fn guess(item: &mut Item, why: String) {
    item.sure = item.sure.max(Sure::Guessed);
    item.why.push(why);
}

/// What a segment is about: what stands before the first comma or bracket counts more than what is said of it.
fn named(words: &[Word], names: &Names<'_>, said: Option<&Said>) -> Vec<Found> {
    if let Some(parts) = names.citrus(words)
        && !parts.is_empty()
    {
        return parts;
    }
    let words = &words[..in_juice(words).filter(|at| *at > 0).unwrap_or(words.len())];
    let start = said.map_or(0, |s| if s.from == 0 { s.to } else { 0 }).min(words.len());
    let end = words[start..]
        .iter()
        .position(|w| w.is(&[",", "(", ";"]))
        .map_or(words.len(), |n| start + n);
    let place = |found: Found| Found { at: found.at.iter().map(|p| p + start).collect(), ..found };
    // Without an amount a line may name several: "ice and mint to serve".
    if said.is_none() && words.len() < 12 {
        let all = names.find_all(words);
        let joined = says(words, &["and", ",", "&", "+"]) && !says(words, &["or"]);
        if all.len() > 1 && joined {
            // "ice and lime wheels": what is made of a fruit stands beside its name.
            let part = |found: Found| {
                let from = found.at.first().copied().unwrap_or(0);
                let to = words[from..]
                    .iter()
                    .position(|w| w.is(&[",", "and", "&", "+"]))
                    .map_or(words.len(), |n| from + n);
                match names.citrus(&words[from..to]).and_then(|parts| parts.into_iter().next()) {
                    Some(part) => Found { id: part.id, ..found },
                    None => found,
                }
            };
            return all.into_iter().map(part).collect();
        }
    }
    let juice = |found: Found| juice_of(found, words, names);
    // "For the pan: water": what stands after the colon, too.
    names
        .find(&words[start..end])
        .map(place)
        .or_else(|| names.find(words))
        .map(juice)
        .into_iter()
        .collect()
}

/// Where it is said what a thing lies in: "pineapple in its own juice" is the fruit.
fn in_juice(words: &[Word]) -> Option<usize> {
    (0..words.len()).find(|at| {
        let mut rest = words[at + 1..].iter().skip_while(|w| w.is(&["its", "their", "own"]));
        words[*at].is(&["in"]) && rest.next().is_some_and(|w| w.is(&["juice", "syrup"]))
    })
}

/// "Juice of a pomegranate", "watermelon, juiced": the fruit's juice, where there is one.
fn juice_of(found: Found, words: &[Word], names: &Names<'_>) -> Found {
    let peel = format!("{}_peel", found.id);
    if says(words, &["peel", "rind", "skin"]) && names.cupboard.ingredient(&peel).is_some() {
        return Found { id: peel, ..found };
    }
    let words = &words[..in_juice(words).unwrap_or(words.len())];
    if !says(words, &["juice", "juiced"]) || found.id.ends_with("_juice") {
        return found;
    }
    let Some(it) = names.cupboard.ingredient(&found.id) else { return found };
    let juice = names
        .cupboard
        .produce_of(it)
        .flat_map(|p| p.gives.iter())
        .find(|id| names.cupboard.ingredient(id).is_some_and(|it| it.kind == Kind::Juice));
    match juice {
        Some(id) => Found { id: id.clone(), ..found },
        None => found,
    }
}

/// "Honey or agave": what else could be taken.
fn alternatives(words: &[Word], names: &Names<'_>, named: &[Found]) -> Vec<String> {
    let Some(or) = words.iter().position(|w| w.is(&["or"])) else { return Vec::new() };
    let after = &words[or + 1..];
    let other =
        names.citrus(after).and_then(|all| all.into_iter().next()).or_else(|| names.find(after));
    other.map(|f| f.id).filter(|id| named.iter().all(|n| n.id != *id)).into_iter().collect()
}

/// "Soda to top (about 400 ml)": as much as is poured on, not the line that it comes up to.
fn poured_on(words: &[Word]) -> bool {
    (says(words, &["top", "topped", "topping"])) && !says_together(words, &["up", "to"])
}

/// Whether it is as much as fills something: "water to fill", "top up with soda", "water to make 2 litres".
fn fills(words: &[Word]) -> bool {
    let pairs = [
        ["to", "fill"],
        ["to", "top"],
        ["top", "up"],
        ["fill", "up"],
        ["to", "make"],
        ["to", "cover"],
        ["topped", "up"],
        ["enough", "water"],
        ["to", "bring"],
        ["topping", "up"],
    ];
    pairs.iter().any(|pair| says_together(words, pair))
        || (says(words, &["up", "enough"])
            && ["line", "top", "brim", "rim", "mark"]
                .iter()
                .any(|to| says_together(words, &["to", "the", to])))
}

fn warmth(words: &[Word], it: &Ingredient) -> Warmth {
    if matches!(it.kind, Kind::Water | Kind::Soda) {
        if says(words, &["boiling", "boiled"]) {
            return Warmth::Boiling;
        }
        if says(words, &["hot", "warm", "kettle"]) {
            return Warmth::Hot;
        }
        if says(words, &["iced", "chilled", "icy"]) || says_together(words, &["ice", "cold"]) {
            return Warmth::Chilled;
        }
    }
    if says(words, &["frozen"])
        && matches!(it.kind, Kind::Fruit | Kind::Vegetable)
        && !it.id.ends_with("_frozen")
    {
        return Warmth::Frozen;
    }
    Warmth::Usual
}

fn cut(words: &[Word], it: &Ingredient) -> Cut {
    if !matches!(it.kind, Kind::Root | Kind::Stem | Kind::Vegetable | Kind::Fruit | Kind::Herb)
        || it.id.ends_with("_slices")
        || it.id.contains("zest")
    {
        return Cut::Usual;
    }
    [
        (["grated", "shredded", "rasped", "minced"].as_slice(), Cut::Grated),
        (["sliced", "slices", "sliver", "slivered", "coin"].as_slice(), Cut::Sliced),
        (["chopped", "diced", "cubed", "chunk", "chunks"].as_slice(), Cut::Chopped),
        (["bruised", "crushed", "bashed", "torn", "smashed", "muddled"].as_slice(), Cut::Bruised),
    ]
    .into_iter()
    .find(|(any, _)| says(words, any))
    .map_or(Cut::Usual, |(_, cut)| cut)
}

fn text_of(many: &Many, words: &str) -> String {
    let figure = |value: f64| {
        let (whole, part) = (value.floor(), value.fract());
        // A third is no decimal.
        match [1.0, 2.0].into_iter().find(|n| (part - n / 3.0).abs() < 1e-6) {
            Some(n) if whole == 0.0 => format!("{n}/3"),
            Some(n) => format!("{whole} {n}/3"),
            None => format!("{}", (value * 1000.0).round() / 1000.0),
        }
    };
    match many.high {
        Some(high) => format!("{} to {} {words}", figure(many.low), figure(high)),
        None => format!("{} {words}", figure(many.low)),
    }
}

fn amount_in(many: &Many, measure: &Measure) -> Option<Amount> {
    text_of(many, measure.name(2.0)).trim().parse().ok()
}

/// An amount whose measure says it by itself.
pub(super) fn plain(words: &[Word]) -> Option<(Amount, usize)> {
    let said = said_at(words, 0)?;
    let to = said.to;
    Some((plain_amount(&said)?, to))
}

fn plain_amount(said: &Said) -> Option<Amount> {
    match said.counted.as_ref()? {
        Counted::In(measure) => amount_in(&said.many, measure),
        Counted::By("glass" | "glassful") => {
            amount_in(&said.many, &Measure::Millilitre).map(|a| a.scaled(200.0))
        }
        Counted::By("mug" | "mugful") => {
            amount_in(&said.many, &Measure::Millilitre).map(|a| a.scaled(250.0))
        }
        Counted::By(_) => None,
    }
}

/// Grams or millilitres of what is counted by a part of it, where the cupboard doesn't know: an estimate of a cook's
/// hand. A handful of leaves was put on a scale as 10 to 15 g, of berries as 50 to 70 g; a thumb of ginger as 15 to 25 g.
fn by_hand(by: &str, kind: Kind) -> Option<(f64, bool)> {
    use Kind as K;
    let liquid = matches!(
        kind,
        K::Juice | K::Water | K::Soda | K::Spirit | K::Syrup | K::Dairy | K::Flavouring | K::Acid
    );
    Some(match (by, kind) {
        ("handful", K::Herb) => (12.0, false),
        ("handful", K::Flower | K::Spice) => (10.0, false),
        ("handful", K::Fruit | K::Vegetable | K::Nut) => (60.0, false),
        ("handful", _) => (40.0, false),
        ("bunch", _) => (30.0, false),
        ("sprig", _) => (1.5, false),
        ("leaf" | "petal", K::Spice) => (0.2, false),
        ("leaf" | "petal", _) => (0.3, false),
        ("stalk", K::Vegetable) => (80.0, false),
        ("stalk", _) => (20.0, false),
        ("stick", _) => (4.0, false),
        ("strip", _) => (2.0, false),
        ("slice" | "wedge", K::Fruit) => (15.0, false),
        ("slice", _) => (3.0, false),
        ("knob" | "thumb" | "piece" | "thumbful", K::Root) => (20.0, false),
        ("inch", K::Root) => (15.0, false),
        ("cm", K::Root) => (6.0, false),
        ("head", _) => (8.0, false),
        ("pod", _) => (3.0, false),
        ("bag", _) => (2.0, false),
        ("scoop", _) if !liquid => (30.0, false),
        ("scoop", _) => (50.0, true),
        ("cube", _) => (25.0, false),
        ("splash" | "drizzle" | "glug", _) if liquid => (15.0, true),
        ("squeeze", _) if liquid => (7.0, true),
        ("spoon" | "spoonful", _) => (15.0, true),
        ("glass" | "glassful", _) => (200.0, true),
        ("mug" | "mugful", _) => (250.0, true),
        ("wineglass", _) => (150.0, true),
        ("shot", _) => (30.0, true),
        ("ladle", _) => (120.0, true),
        ("bottle", _) if liquid => (750.0, true),
        ("carton", _) if liquid => (1000.0, true),
        ("can" | "tin", K::Soda) => (330.0, true),
        ("can" | "tin", _) => (400.0, false),
        ("jar", _) => (350.0, false),
        _ => return None,
    })
}

/// The words of size that stand with a piece: "big", "small".
fn size(words: &[Word]) -> &'static str {
    if says(words, &["large", "big", "huge", "fat"]) {
        "large "
    } else if says(words, &["small", "little", "tiny"]) {
        "small "
    } else {
        ""
    }
}

/// The amount of a thing, as far as its measure fits it.
fn measured(item: &mut Item, said: &Said, words: &[Word], it: &Ingredient, cupboard: &Cupboard) {
    let Said { many, counted, full, .. } = said;
    if many.loose {
        guess(item, "It is only said about how much.".into());
    }
    let weighs = |amount: &Amount| cupboard.weigh(it, amount).map(|w| w.grams.0);
    // "10 tea bags", "2 cinnamon sticks": what it is counted by stands behind the name.
    let behind = counted.is_none().then(|| {
        let end = words[said.to.min(words.len())..]
            .iter()
            .position(Word::is_sign)
            .map_or(words.len(), |n| said.to + n);
        words[said.to.min(end)..end].iter().skip(1).find_map(|w| {
            match super::words::measure_word(&w.text) {
                Some(Counted::By(by)) => Some(Counted::By(by)),
                _ => None,
            }
        })
    });
    let behind = behind.flatten().filter(|by| {
        let Counted::By(by) = by else { return false };
        !(matches!(*by, "slice" | "piece" | "strip" | "wedge" | "cube") && it.kind != Kind::Ice)
    });
    let counted = if behind.is_some() { &behind } else { counted };
    match counted {
        Some(Counted::In(measure)) => {
            let Some(amount) = amount_in(many, measure) else {
                return no_amount(item, it, cupboard);
            };
            let grams = weighs(&amount);
            match (full, grams) {
                (_, Err(_)) => {
                    // A cup of what no cup was filled with: by water, halved for what lies loose.
                    let each = match it.kind {
                        Kind::Herb | Kind::Flower => 0.1,
                        Kind::Fruit | Kind::Vegetable => 0.6,
                        Kind::Peel | Kind::Zest | Kind::Spice | Kind::Seed | Kind::Stem => 0.4,
                        _ => 0.6,
                    };
                    match amount.as_millilitres() {
                        Some(ml) => {
                            item.amount = Some(Amount::grams(kitchen_round(ml * each)));
                            guess(item, format!("What “{amount}” of it weighs is guessed."));
                        }
                        None => item.amount = Some(amount),
                    }
                }
                (Fullness::Level, Ok(_)) => item.amount = Some(amount),
                // A scant cup is filled to about 5 % under the line, a heaped spoon by about a third more than a
                // level one, a heaped cup by a tenth.
                (_, Ok(grams)) => {
                    let spoon = matches!(measure, Measure::Teaspoon | Measure::Tablespoon);
                    let by = match (full, spoon) {
                        (Fullness::Scant, _) => 0.95,
                        (_, true) => 1.33,
                        (_, false) => 1.1,
                    };
                    let word =
                        if *full == Fullness::Scant { "less than full" } else { "more than level" };
                    item.amount = Some(Amount::grams(kitchen_round(grams * by)));
                    guess(item, format!("{word}; “{amount}” is {grams:.0} g."));
                }
            }
        }
        Some(Counted::By(by)) => {
            let by = if *by == "tin"
                && cupboard.produce_of(it).any(|p| p.sizes.iter().any(|s| s.name == "can"))
            {
                &"can"
            } else {
                by
            };
            let centimetres = *by == "cm" && matches!(it.kind, Kind::Root | Kind::Spice);
            let (many, by) = match centimetres {
                true => (
                    Many {
                        low: quarters(many.low / 2.54),
                        high: many.high.map(|h| quarters(h / 2.54)),
                        ..*many
                    },
                    "inch",
                ),
                false => (*many, *by),
            };
            let several = many.high.unwrap_or(many.low) > 1.0;
            let noun = match (several, by) {
                (true, "leaf") => "leaves".to_owned(),
                (true, by) if by.ends_with("ch") => format!("{by}es"),
                (true, by) => format!("{by}s"),
                (false, by) => by.to_owned(),
            };
            let counted = |words: &str| text_of(&many, words).parse::<Amount>().ok();
            let as_said = counted(&noun).filter(|a| weighs(a).is_ok());
            // "3 cinnamon sticks" is counted by the stick, "2 cloves" by itself.
            let sized = counted(&format!("{}{}", size(words), plain_name(it, several, cupboard)));
            let by_itself = matches!(
                by,
                "stick"
                    | "pod"
                    | "leaf"
                    | "cube"
                    | "piece"
                    | "head"
                    | "stalk"
                    | "can"
                    | "tin"
                    | "bag"
            );
            let whole = sized.filter(|a| by_itself && weighs(a).is_ok());
            if let Some(amount) = as_said.or(whole) {
                item.amount = Some(amount);
            } else if let Some((each, volume)) = by_hand(by, it.kind) {
                let middle = many.high.map_or(many.low, |high| (many.low + high) / 2.0);
                let many = middle * each;
                item.amount = Some(match volume {
                    true => Amount::millilitres(kitchen_round(many)),
                    false => Amount::grams(kitchen_round(many)),
                });
            } else {
                no_amount(item, it, cupboard);
            }
            let fits_hand = matches!(
                by,
                "handful"
                    | "bunch"
                    | "knob"
                    | "thumb"
                    | "splash"
                    | "drizzle"
                    | "squeeze"
                    | "glug"
                    | "glass"
                    | "mug"
                    | "mugful"
                    | "wineglass"
                    | "ladle"
                    | "scoop"
                    | "thumbful"
                    | "glassful"
                    | "spoon"
                    | "spoonful"
            );
            if fits_hand {
                guess(item, format!("A {by} is as large as the hand."));
            }
        }
        None => {
            let name = plain_name(it, many.high.unwrap_or(many.low) > 1.0, cupboard);
            let sized: Option<Amount> =
                text_of(many, &format!("{}{name}", size(words))).trim().parse().ok();
            match sized.filter(|a| weighs(a).is_ok()) {
                Some(amount) => item.amount = Some(amount),
                // "1 small watermelon", where only one size of them is known.
                None => {
                    match text_of(many, &name).trim().parse().ok().filter(|a| weighs(a).is_ok()) {
                        Some(amount) => {
                            item.amount = Some(amount);
                            guess(
                                item,
                                "That size isn't in the tables; a usual one is taken.".into(),
                            );
                        }
                        None => no_amount(item, it, cupboard),
                    }
                }
            }
        }
    }
}

/// What a piece of it is called.
fn plain_name(it: &Ingredient, several: bool, cupboard: &Cupboard) -> String {
    match cupboard.produce_of(it).next() {
        Some(produce) if several => produce.plural.clone(),
        Some(produce) => produce.name.to_lowercase(),
        None => it.name.to_lowercase(),
    }
}

fn no_amount(item: &mut Item, it: &Ingredient, cupboard: &Cupboard) {
    item.amount = Some(cupboard.usual_amount(it));
    guess(item, "How much that is can't be said here; this is what is usual in a pitcher.".into());
}

fn quarters(value: f64) -> f64 {
    (value * 4.0).round().max(1.0) / 4.0
}

/// A figure that a scale or a jug shows.
pub(super) fn kitchen_round(value: f64) -> f64 {
    let step = match value {
        v if v < 1.0 => 0.1,
        v if v < 5.0 => 0.5,
        v if v < 50.0 => 1.0,
        v if v < 500.0 => 5.0,
        _ => 10.0,
    };
    ((value / step).round() * step).max(step)
}

/// Two amounts that are said of one thing: what doesn't agree is to be chosen.
fn compare(item: &mut Item, second: &Said, words: &[Word], it: &Ingredient, cupboard: &Cupboard) {
    const AGREES: f64 = 0.18;
    let mut other = Item { amount: None, why: Vec::new(), ..item.clone() };
    measured(&mut other, second, words, it, cupboard);
    let (Some(one), Some(two)) = (item.amount.clone(), other.amount) else { return };
    // "1 (2-inch) piece": the bracket says how large the piece is.
    let piece = |a: &Amount| a.terms().iter().any(|t| t.measure.dimension() == Dimension::Count);
    let by = |said: &Said, any: &[&str]| matches!(said.counted, Some(Counted::By(by)) if any.contains(&by));
    if by(second, &["inch", "cm"]) {
        item.amount = Some(two);
        return;
    }
    if item
        .why
        .iter()
        .any(|why| why.contains("can't be said") || why.contains("as large as the hand"))
        && !piece(&two)
    {
        // "a handful (15 g)": then it is known.
        item.why
            .retain(|why| !why.contains("can't be said") && !why.contains("as large as the hand"));
        if item.why.is_empty() {
            item.sure = Sure::Understood;
        }
        item.amount = Some(two);
        return;
    }
    let weight = |a: &Amount| cupboard.weigh(it, a).ok().map(|w| w.grams.0);
    if let (Some(a), Some(b)) = (weight(&one), weight(&two))
        // How much juice so many lemons give is nothing to quarrel about.
        && !piece(&one)
        && !piece(&two)
        && (a / b - 1.0).abs() > AGREES
    {
        item.other = Some(two);
        guess(item, "The text says two amounts of it.".into());
    }
}
