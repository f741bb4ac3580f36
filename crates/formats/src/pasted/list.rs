//! A line that says how much of what: "6 lemons, juiced", "1½ cups (300 g) sugar", "juice of 2 limes".

use keen_core::cupboard::{Form, Ingredient, Kind};
use keen_core::drink::{Cut, Warmth};

use super::item::{Item, compare, guess, measured, no_amount};
use super::method::temperature;
use super::names::{Found, Names};
use super::outcome::Sure;
use super::said::{Said, all_said, is_by_hand, is_figure, per, plain, plain_amount, share};
use super::unused::says_another_number;
use keen_core::quantity::Amount;
use keen_core::quantity::said::{
    Counted, Many, Word, measure, measure_word, number, says, together,
};

/// Everything that a line says goes in. Empty where it says nothing of the kind.
pub(super) fn items(words: &[Word], names: &Names<'_>) -> Vec<Item> {
    if let Some(all) = in_ratio(words, names) {
        return all;
    }
    // "For every 300 ml of liquid: 200 g sugar"
    let colon = words.iter().take(10).position(|w| w.is(&[":"]));
    if let Some((at, by)) = colon.and_then(|at| Some((at, per(&words[..at])?))) {
        let all = items(&words[at + 1..], names).into_iter();
        return all.map(|item| Item { per: Some(by.clone()), ..item }).collect();
    }
    if let Some(Each { before, each, behind }) = of_each(words, names) {
        let mut all = if before.is_empty() { Vec::new() } else { items(before, names) };
        all.extend(each.iter().flat_map(|one| of_segment(one, names)));
        if !behind.is_empty() {
            all.extend(items(behind, names));
        }
        return all;
    }
    let mut all = Vec::new();
    let mut part: &[Word] = &[];
    let mut fruit: Option<Word> = None;
    let all_segments = segments(words, names);
    for (n, segment) in all_segments.iter().copied().enumerate() {
        // "Zest of 1 orange + juice of 2" is that of two oranges.
        let of_it = segment.len() <= 4
            && segment.first().is_some_and(|w| w.is(&["juice", "zest", "peel", "rind"]))
            && segment.get(1).is_some_and(|w| w.is(&["of", "from"]))
            && number(&segment[2..]).is_some_and(|(_, used)| 2 + used == segment.len());
        if let Some(fruit) = fruit.as_ref().filter(|_| of_it) {
            all.extend(of_segment(&[segment, std::slice::from_ref(fruit)].concat(), names));
            continue;
        }
        let citrus = names.find(segment).filter(|_| names.citrus(segment).is_some());
        fruit = citrus.and_then(|found| found.at.last().map(|at| segment[*at].clone())).or(fruit);
        // "2 oranges and 3 lemons, sliced": so are the oranges.
        let bare_fruit = |words: &[Word]| {
            words.len() <= 4
                && names.citrus(words).is_some()
                && !says(words, &["juice", "zest", "peel", "slice", "whole", ","])
        };
        let behind = all_segments.get(n + 1).and_then(|next| {
            let comma = next.iter().position(|w| w.is(&[","]))?;
            let done = says(&next[comma..], &["sliced", "juiced", "squeezed", "zested", "peeled"]);
            (done && bare_fruit(&next[..comma])).then(|| &next[comma..])
        });
        if let Some(behind) = behind.filter(|_| part.is_empty() && bare_fruit(segment)) {
            all.extend(of_segment(&[segment, behind].concat(), names));
            continue;
        }
        // "Zest of 2 oranges, 1 lime and 1 lemon": what is used of the first is used of all.
        if !part.is_empty() && segment.len() <= 3 && bare_fruit(segment) {
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

/// What is said of several at once, and the words before and behind it.
struct Each<'w> {
    before: &'w [Word],
    each: Vec<Vec<Word>>,
    behind: &'w [Word],
}

/// "A pinch each of salt and cumin", "salt and sugar, 1 tsp each": as many of each.
fn of_each<'w>(words: &'w [Word], names: &Names<'_>) -> Option<Each<'w>> {
    let at = words.iter().position(|w| w.is(&["each", "apiece"]))?;
    let is_amount = |from: &usize| {
        let amount = &words[*from..at];
        plain(amount).is_some_and(|(_, used)| used == amount.len())
            || amount.len() == 1 && measure(amount).is_some()
    };
    let from = (at.saturating_sub(4)..at).find(is_amount)?;
    let amount = &words[from..at];
    let apart = |w: &Word| w.is(&[",", "and", "&", "+", ";"]);
    let is_name = |one: &&[Word]| {
        one.len() <= 4
            && names.find(one).is_some()
            && !one.iter().any(|w| w.is(&["juice", "zest", "peel", "half"]))
            && (0..one.len()).all(|n| number(&one[n..]).is_none())
    };
    let skipped = words[at + 1..].iter().take_while(|w| w.is(&["of", ":", "the"])).count();
    let rest = &words[at + 1 + skipped..];
    let named: Vec<&[Word]> = rest.split(apart).take_while(is_name).collect();
    if named.len() > 1 {
        let used = named.iter().map(|one| one.len() + 1).sum::<usize>().min(rest.len());
        let each = named.iter().map(|one| [amount, one].concat()).collect();
        return Some(Each { before: &words[..from], each, behind: &rest[used..] });
    }
    let before = &words[..words[..from].iter().rposition(|w| !apart(w))? + 1];
    let named: Vec<&[Word]> = before.split(apart).collect();
    let all = skipped == 0 && rest.is_empty() && named.len() > 1 && named.iter().all(is_name);
    let each = || named.iter().map(|one| [one, amount].concat()).collect();
    all.then(|| Each { before: &words[..0], each: each(), behind: rest })
}

/// "2 : 2 : 3 lemon juice, syrup, soda", "lemon juice : syrup : soda = 1 : 1 : 4": so many parts of each.
fn in_ratio(words: &[Word], names: &Names<'_>) -> Option<Vec<Item>> {
    let ratio = |from: usize| {
        let mut parts = vec![from];
        let mut at = from + 1;
        while words.get(at).is_some_and(|w| w.is(&[":"]))
            && words.get(at + 1).is_some_and(|w| w.text.starts_with(|c: char| c.is_ascii_digit()))
        {
            parts.push(at + 1);
            at += 2;
        }
        (parts.len() > 1).then_some((parts, at))
    };
    let from = words.iter().position(|w| w.text.starts_with(|c: char| c.is_ascii_digit()))?;
    let (parts, end) = ratio(from)?;
    let of = if from == 0 { &words[end..] } else { &words[..from] };
    let apart = |w: &Word| w.is(&[",", ":", "/", "and", "&", "+", "to"]);
    let named: Vec<&[Word]> = of
        .split(apart)
        .map(|one| {
            let sign = |w: &&Word| w.is_sign();
            let front = one.iter().take_while(sign).count();
            let back = one[front..].iter().rev().take_while(sign).count();
            &one[front..one.len() - back]
        })
        .filter(|one| !one.is_empty())
        .collect();
    if named.len() != parts.len() || named.iter().all(|one| names.find(one).is_none()) {
        return None;
    }
    let plain = keen_core::quantity::said::words("simple syrup");
    let one = |(part, name): (&usize, &&[Word])| {
        let measure = keen_core::quantity::said::words("parts");
        // Beside juice and soda syrup is plain syrup.
        let bare = matches!(name, [word] if word.is(&["syrup"]));
        let name = if bare { plain.as_slice() } else { name };
        match names.find(name) {
            Some(_) => of_segment(&[&words[*part..=*part], &measure, name].concat(), names),
            None => vec![Item::asked(name, None)],
        }
    };
    Some(parts.iter().zip(&named).flat_map(one).collect())
}

/// Splits "200 g sugar, 1 l water and 3 lemons" where another amount of something begins.
fn segments<'w>(words: &'w [Word], names: &Names<'_>) -> Vec<&'w [Word]> {
    let mut found = Vec::new();
    let (mut from, mut depth) = (0, 0_i32);
    for at in 0..words.len() {
        match words[at].text.as_str() {
            "(" | "[" => depth += 1,
            ")" | "]" => depth = (depth - 1).max(0),
            "," | ";" | "+" | "and" | "&" | "plus" | "/" | "in" | "with" | "·" | "•" | "|"
            | "."
                if depth == 0 && at > from && !is_of_a_fraction(words, at) =>
            {
                let mut next = at + 1;
                while words.get(next).is_some_and(|w| w.is(&["and", "plus", "&", "then", "the"])) {
                    next += 1;
                }
                let rest = &words[next..];
                let begins = number(rest).or_else(|| by_the_hand(rest)).is_some_and(|(_, used)| {
                    let until = rest[used..].iter().position(|w| w.is(&[",", ";", "and"]));
                    names.find(&rest[used..until.map_or(rest.len(), |n| used + n)]).is_some()
                });
                // "the juice of 3 limes"
                let part_of = rest.first().is_some_and(|w| w.is(&["juice", "zest", "peel", "rind"]))
                        && rest.get(1).is_some_and(|w| w.is(&["of", "from"]))
                        // "Juice of 3 limes and zest of 1"
                        && (words[at].text != "and"
                            || number(&rest[2..]).is_some_and(|(_, used)| 2 + used == rest.len()));
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
                let named = names.find(&words[from..at]).is_some()
                    || is_measured_unknown(&words[from..at], names);
                let apart = words[at].is(&[",", ";", "+"]) && counts(&words[from..at]);
                let unknown = apart && is_measured_unknown(&rest[..until], names);
                if (begins || part_of || behind || unknown) && named || begins && in_water {
                    found.push(&words[from..at]);
                    from = next;
                }
            }
            // "450 g blackberries 90 g sugar"
            _ if depth == 0
                && at > from
                && begins_another(&words[from..at], &words[at..], names) =>
            {
                found.push(&words[from..at]);
                from = at;
            }
            _ => {}
        }
    }
    found.push(&words[from.min(words.len())..]);
    found
}

/// Whether another amount of another thing begins, with nothing between.
fn begins_another(before: &[Word], rest: &[Word], names: &Names<'_>) -> bool {
    let figure = rest[0].text.starts_with(|c: char| c.is_ascii_digit());
    let Some((_, used)) = plain(rest).filter(|_| figure) else { return false };
    let last = &before[before.len() - 1];
    let whole = plain(before).is_some_and(|(_, used)| {
        let named = names.find(&before[used..]);
        named.is_some_and(|named| used + named.at.last().map_or(0, |at| at + 1) == before.len())
    });
    let name = &rest[used..];
    let until = name.iter().position(|w| w.is_sign() || number(std::slice::from_ref(w)).is_some());
    let next = names.find(&name[..until.unwrap_or(name.len())]);
    whole && !last.is_sign() && next.is_some_and(|next| next.at[0] < 2)
}

/// The stroke in "3/4 cup".
fn is_of_a_fraction(words: &[Word], at: usize) -> bool {
    let figure = |at: usize| words.get(at).is_some_and(is_figure);
    words[at].is(&["/"]) && at > 0 && figure(at - 1) && figure(at + 1)
}

/// "4 slices of jalapeño": something measured out under a name that isn't known.
fn is_measured_unknown(words: &[Word], names: &Names<'_>) -> bool {
    const NO_NAME: [&str; 12] =
        ["at", "each", "per", "in", "for", "or", "more", "to", "the", "total", "if", "about"];
    let measured = number(words).and_then(|(_, used)| {
        let rest = &words[used..];
        let by_volume = plain(words).map(|(_, all)| all);
        by_volume.or_else(|| measure(rest).map(|(.., more)| used + more))
    });
    let Some(used) = measured else { return false };
    let of = usize::from(words.get(used).is_some_and(|w| w.is(&["of"])));
    let name = &words[(used + of).min(words.len())..];
    (1..=3).contains(&name.len())
        // "5 cm pieces"
        && measure_word(&name[0].text).is_none()
        && !name.iter().any(|w| w.is_sign() || w.is(&NO_NAME))
        && names.find(name).is_none()
}

/// "Handful of ice", "splash of soda", "thumb-sized piece of ginger": one of it.
fn by_the_hand(words: &[Word]) -> Option<(Many, usize)> {
    let (counted, _, used) = measure(words)?;
    let one = Many { low: 1.0, high: None, loose: false };
    let of = words[used..].iter().take(4).any(|w| w.is(&["of"]));
    let piece = matches!(counted, Counted::By("thumb" | "knob" | "piece" | "inch" | "bunch"));
    (is_by_hand(&counted) || piece && of).then_some((one, used))
}

fn of_segment(words: &[Word], names: &Names<'_>) -> Vec<Item> {
    // "My notes 6/8: the blackberry again": the figure is of no fruit.
    let colon = words.iter().position(|w| w.is(&[":"])).filter(|at| {
        let front = &words[..*at];
        names.find(front).is_none() && plain(front).is_none() && front.len() < 5
    });
    let words = colon.filter(|at| *at + 1 < words.len()).map_or(words, |at| &words[at + 1..]);
    let end = words.iter().rposition(|w| !w.is(&[";", ",", "."])).map_or(0, |last| last + 1);
    let words = &words[..end];
    let whole = either_in_full(words, names);
    let words = whole.as_deref().unwrap_or(words);
    let said = all_said(words);
    let first = said.0.as_ref();
    let garnish = is_garnish(words, first);
    let optional = is_optional(words);
    let named = named(words, names, first);
    if named.is_empty() {
        // Something is counted out, but what it is isn't known here.
        let Some(said) = first.filter(|_| !words.is_empty()) else { return Vec::new() };
        return vec![Item { garnish, optional, ..Item::asked(words, plain_amount(said)) }];
    }
    let other = is_made_of(words) && named.len() == 1 && !is_made(&named[0], names);
    if other || is_poured_tea(words, first) {
        let amount = first.and_then(plain_amount);
        let instead = named.iter().map(|f| f.id.clone()).collect();
        let asked = Item::asked(words, amount);
        return vec![Item { garnish, optional, said: first.is_some(), instead, ..asked }];
    }
    let instead = if named.len() == 1 { alternatives(words, names, &named) } else { Vec::new() };
    let known = |found: &Found| {
        let found = extract_of(found, words, first, names);
        let it = names.cupboard.ingredient(&found.id)?;
        let item = Item { garnish, optional, instead: instead.clone(), ..Item::asked(words, None) };
        Some(of_ingredient(item, words, (&found, it), &said, names))
    };
    named.iter().filter_map(known).collect()
}

/// What a line says of an ingredient that is known.
fn of_ingredient(
    item: Item,
    words: &[Word],
    (found, it): (&Found, &Ingredient),
    (first, second): &(Option<Said>, Option<Said>),
    names: &Names<'_>,
) -> Item {
    let measured_out =
        first.as_ref().and_then(plain_amount).is_some_and(|a| a.as_millilitres().is_some());
    let fills = fills(words) && !(measured_out && poured_on(words));
    // What is measured out to be poured on at the glass is drunk.
    let liquid =
        matches!(it.kind, Kind::Soda | Kind::Water | Kind::Juice | Kind::Syrup | Kind::Spirit);
    let mut item = Item {
        ingredient: Some(found.id.clone()),
        sure: Sure::Understood,
        why: Vec::new(),
        per: per(words),
        fills,
        garnish: item.garnish && !(first.is_some() && liquid),
        warmth: warmth(words, it),
        cut: cut(words, it),
        share: share(words).filter(|_| first.is_none()),
        said: first.is_some(),
        ..item
    };
    doubts(&mut item, words, (found, it), names);
    if let Some(unknown) = unknown_measure(words, first.as_ref(), found) {
        // "A punnet of raspberries (150 g)"
        if let Some(weighed) = second.as_ref().filter(|second| plain_amount(second).is_some()) {
            measured(&mut item, weighed, words, it, names.cupboard);
            return item;
        }
        no_amount(&mut item, it, names.cupboard);
        item.why = vec![format!(
            "We don't know the measure “{unknown}”, so we used the usual for a pitcher."
        )];
        return item;
    }
    match first {
        Some(said) if fills => {
            item.amount = plain_amount(said).filter(|a| a.as_millilitres().is_some());
        }
        Some(said) => {
            measured(&mut item, said, words, it, names.cupboard);
            if let Some(both) = and_more(words, said) {
                item.amount = Some(both);
            }
            if let Some(second) = second {
                compare(&mut item, (said, second), words, it, names.cupboard);
            }
            if item.sure == Sure::Understood && says_another_number(words, said, second.as_ref()) {
                guess(&mut item, "There is another number in this line: check the amount.".into());
            }
        }
        None if fills || item.garnish => {}
        None => {
            item.amount = Some(names.cupboard.usual_amount(it));
            let why = if together(words, &["to", "taste"]) {
                "To taste: we used the usual for a pitcher."
            } else {
                "No amount given: we used the usual for a pitcher."
            };
            guess(&mut item, why.into());
        }
    }
    item
}

/// What makes it unsure which ingredient is meant, or how much of it.
fn doubts(item: &mut Item, words: &[Word], (found, it): (&Found, &Ingredient), names: &Names<'_>) {
    let ask = |item: &mut Item, why: &str| {
        item.sure = Sure::Asked;
        item.why.push(why.into());
    };
    if found.nearest {
        guess(item, format!("The closest ingredient we have is “{}”.", it.name));
    }
    if is_of_another_strength(words, it) {
        ask(item, "We only have this fresh or raw, which differs in strength. Check the amount.");
    }
    if says(words, &["flesh", "meat"]) && it.form == Form::Liquid {
        ask(item, "We only have this as a liquid.");
    }
    if stands_beside_a_name(words, found, names) {
        ask(item, "This names two ingredients: choose which one you mean.");
    }
    if says(words, &PRESERVED) && matches!(it.kind, Kind::Fruit | Kind::Vegetable) {
        guess(item, "Tinned and sweetened fruit contains sugar: we took it as fresh.".into());
    }
    if is_another_ones(words, found, names) {
        guess(item, "The recipe gives a choice: we took what we know.".into());
    }
    if says(words, &["stuff", "something", "thing", "whatever", "kind", "sort"]) {
        ask(item, "Say which one you mean.");
    } else if item.optional {
        guess(item, "This is optional in the recipe.".into());
    }
    if says(words, &["divided", "separated"]) {
        guess(item, "It is added in parts: check each amount.".into());
    }
    if up_to_a_weight(words) {
        ask(item, "This is a total weight. Enter the amount to add.");
    }
}

/// "Mint, to garnish". "1 cup basil, plus more for garnish": the cup is for the pitcher.
fn is_garnish(words: &[Word], first: Option<&Said>) -> bool {
    const FOR_THE_GLASS: [&[&str]; 9] = [
        &["to", "serve"],
        &["to", "garnish"],
        &["for", "garnish"],
        &["to", "decorate"],
        &["for", "serving"],
        &["for", "decoration"],
        &["for", "the", "glass"],
        &["for", "the", "glasses"],
        &["for", "the", "rim"],
    ];
    let plus = words.iter().position(|w| w.is(&["plus", "extra"]));
    let said_of = match (plus, first) {
        (Some(at), Some(said)) if said.to <= at => &words[..at],
        _ => words,
    };
    // "(save a few slices for the glasses)": all but those go in.
    let some_kept = says(said_of, &["save", "reserve", "reserving", "saving", "keep"]);
    !some_kept && FOR_THE_GLASS.iter().any(|phrase| together(said_of, phrase))
}

fn is_optional(words: &[Word]) -> bool {
    says(words, &["optional", "optionally"])
        || together(words, &["if", "you", "like"])
        || together(words, &["if", "you", "have"])
        || together(words, &["if", "liked"])
        || together(words, &["if", "wanted"])
}

/// Mandarin syrup is no mandarin: what is made of a thing is another one.
const MADE_OF: [&str; 11] = [
    "vinegar",
    "molasses",
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

/// Whether it is called what is made of things. "¾ cup (180 ml) ginger syrup (recipe below)": brackets say how much of
/// it, not what it is.
fn is_made_of(words: &[Word]) -> bool {
    outside_brackets(words).take_while(|w| !w.is(&[",", ";", "for"])).any(|w| w.is(&MADE_OF))
}

fn outside_brackets(words: &[Word]) -> impl Iterator<Item = &Word> {
    let mut depth = 0;
    words.iter().filter(move |w| {
        depth += i32::from(w.is(&["(", "["])) - i32::from(w.is(&[")", "]"]));
        depth == 0
    })
}

/// Whether an ingredient is such a thing.
fn is_made(found: &Found, names: &Names<'_>) -> bool {
    names.cupboard.ingredient(&found.id).is_some_and(|it| {
        let named = ["syrup", "molasses", "vinegar"];
        it.kind == Kind::Syrup || named.iter().any(|made| it.name.to_lowercase().contains(made))
    })
}

/// How fruit comes that has sugar in it.
const PRESERVED: [&str; 8] = [
    "tinned",
    "canned",
    "sweetened",
    "candied",
    "crystallised",
    "crystallized",
    "glacé",
    "preserved",
];

/// "225 g dried apricots", "2 tsp ground ginger", "200 g cooked rice", where the cupboard has them fresh, or raw.
fn is_of_another_strength(words: &[Word], it: &Ingredient) -> bool {
    use Kind as K;
    let any: &[&str] = match it.kind {
        K::Fruit | K::Vegetable | K::Herb | K::Zest | K::Peel => {
            &["dried", "dehydrated", "powder", "powdered"]
        }
        K::Juice => &["powder", "powdered", "crystals", "crystallised"],
        K::Root => &["dried", "ground", "powder", "powdered"],
        K::Grain => &["cooked"],
        _ => &[],
    };
    // "Ground to a paste with water" is what is done to it.
    let said = words.iter().enumerate().any(|(at, w)| {
        w.is(any) && !words.get(at + 1).is_some_and(|next| next.is(&["to", "with", "in"]))
    });
    said && !it.name.to_lowercase().contains("dried")
}

/// "Vanilla sugar", "raspberry vinegar", "pineapple mango juice": two names without a word or a sign between them are
/// that of something else.
fn stands_beside_a_name(words: &[Word], found: &Found, names: &Names<'_>) -> bool {
    let (Some(first), Some(last)) = (found.at.iter().min(), found.at.iter().max()) else {
        return false;
    };
    let mut rest = words.to_vec();
    for at in &found.at {
        (rest[*at].stem, rest[*at].text) = (String::new(), String::new());
    }
    let beside = |at: usize| {
        // "4 bags of chamomile tea" are of chamomile.
        let is_name = |word: &&Word| measure_word(&word.text).is_none() && !word.is(&["tea"]);
        let named = rest.get(at).filter(is_name);
        let other = named.and_then(|word| names.find(std::slice::from_ref(word)));
        other.filter(|other| {
            let parts = |id: &str| id.split('_').map(str::to_owned).collect::<Vec<_>>();
            let (its, others) = (parts(&found.id), parts(&other.id));
            !others.iter().any(|part| its.contains(part))
        })
    };
    let around = first.checked_sub(1).into_iter().chain(first + 1..=last + 1);
    around.into_iter().any(|at| beside(at).is_some())
}

/// "Sprite or soda water": what isn't known comes first, and what is was meant as a choice.
fn is_another_ones(words: &[Word], found: &Found, names: &Names<'_>) -> bool {
    let Some(or) = words.iter().position(|w| w.is(&["or"])) else { return false };
    let skipped = number(words).map_or(0, |(_, used)| used);
    let skipped = skipped + measure(&words[skipped..]).map_or(0, |(.., used)| used);
    let first = &words[skipped.min(or)..or];
    let behind = found.at.first().is_some_and(|at| *at > or);
    behind
        && (1..=2).contains(&first.len())
        && !first.iter().any(Word::is_sign)
        && names.find(first).is_none()
}

/// "¾ cup + 2 tbsp", "1 cup plus a tablespoon": both together. "1c + 4c water" are two waters.
fn and_more(words: &[Word], said: &Said) -> Option<Amount> {
    let joins = words.get(said.to)?.is(&["+", "plus", "and", "&"]);
    let (more, _) = plain(words.get(said.to + 1..).filter(|_| joins)?)?;
    let first = plain_amount(said)?;
    let alike = first.as_millilitres().is_some() == more.as_millilitres().is_some()
        && first.as_grams().is_some() == more.as_grams().is_some();
    let same = first.terms().iter().any(|a| more.terms().iter().any(|b| a.measure == b.measure));
    format!("{first} + {more}").parse().ok().filter(|_| alike && !same)
}

/// "1 tsp vanilla": what comes in pieces and is measured by the spoon is its extract.
fn extract_of(found: &Found, words: &[Word], said: Option<&Said>, names: &Names<'_>) -> Found {
    let amount = said.and_then(plain_amount).filter(|a| a.as_millilitres().is_some());
    let it = names.cupboard.ingredient(&found.id);
    let by_the_spoon = |it: &Ingredient| {
        it.form == Form::Pieces
            && amount.as_ref().is_some_and(|a| names.cupboard.weigh(it, a).is_err())
    };
    let extract = it.filter(|it| by_the_spoon(it)).and_then(|_| {
        let named: Vec<Word> = found.at.iter().filter_map(|at| words.get(*at).cloned()).collect();
        let extract = keen_core::quantity::said::words("extract");
        names.find(&[named, extract].concat()).filter(|f| f.id.ends_with("_extract"))
    });
    let id = extract.map_or_else(|| found.id.clone(), |extract| extract.id);
    Found { id, ..found.clone() }
}

/// "2 cups strong hibiscus tea" are poured; leaves and bags of it are counted or weighed.
fn is_poured_tea(words: &[Word], said: Option<&Said>) -> bool {
    const POURED: [&str; 5] = ["tea", "infusion", "coffee", "brew", "decoction"];
    const LEAVES: [&str; 8] =
        ["bag", "leaf", "loose", "dried", "dry", "powder", "granule", "sachet"];
    let poured = said.and_then(plain_amount).and_then(|a| a.as_millilitres());
    let named = |any: &[&str]| outside_brackets(words).any(|w| w.is(any));
    poured.is_some_and(|ml| ml >= 60.0) && named(&POURED) && !named(&LEAVES)
}

/// "1 taza de jamaica": what stands between a number and an "of" is a measure, known or not.
fn unknown_measure<'w>(words: &'w [Word], said: Option<&Said>, found: &Found) -> Option<&'w str> {
    let said = said.filter(|s| s.counted.is_none())?;
    let (measure, of) = (words.get(said.to)?, words.get(said.to + 1)?);
    let stands_for_it = found.at.first().is_some_and(|at| *at > said.to + 1);
    let is_word = !measure.is_sign() && number(std::slice::from_ref(measure)).is_none();
    (stands_for_it && is_word && of.is(&["of", "de", "d'", "di", "von"])).then_some(&*measure.text)
}

/// What a segment is about: what stands before the first comma or bracket counts more than what is said of it.
fn named(words: &[Word], names: &Names<'_>, said: Option<&Said>) -> Vec<Found> {
    // "Lime slices and mint sprigs, for garnish" are two things.
    let others = || said.is_none() && words.len() < 12 && names.find_all(words).len() > 1;
    if let Some(parts) = names.citrus(words)
        && !parts.is_empty()
        && !(says(words, &["and", "&", "+"]) && others())
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
        // What isn't known as a juice is known as what it is pressed from.
        None => {
            let pressed =
                matches!(it.kind, Kind::Fruit | Kind::Vegetable | Kind::Root | Kind::Herb);
            Found { nearest: found.nearest || pressed, ..found }
        }
    }
}

/// "Lemon or lime juice", "white or brown sugar", in full: "lemon juice or lime juice". The first is taken.
fn either_in_full(words: &[Word], names: &Names<'_>) -> Option<Vec<Word>> {
    let or = words.iter().position(|w| w.is(&["or"])).filter(|at| *at > 0)?;
    let [second, head] = words.get(or + 1..or + 3)? else { return None };
    let of = |front: &Word| names.find(&[front.clone(), head.clone()]).filter(|f| f.at.len() == 2);
    let (one, other) = (of(&words[or - 1])?, of(second)?);
    (one.id != other.id).then(|| [&words[..or], &words[or + 2..or + 3], &words[or..]].concat())
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
    (says(words, &["top", "topped", "topping"])) && !together(words, &["up", "to"])
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
    pairs.iter().any(|pair| together(words, pair))
        || (says(words, &["up", "enough"])
            && ["line", "top", "brim", "rim", "mark"]
                .iter()
                .any(|to| together(words, &["to", "the", to])))
}

/// "Water to 1000 g": as much as brings all of it to that weight.
fn up_to_a_weight(words: &[Word]) -> bool {
    words.iter().position(|w| w.is(&["to"])).is_some_and(|at| {
        at > 0
            && number(&words[..at]).is_none()
            && plain(&words[at + 1..]).is_some_and(|(a, _)| a.as_grams().is_some())
    })
}

fn warmth(words: &[Word], it: &Ingredient) -> Warmth {
    if matches!(it.kind, Kind::Water | Kind::Soda) {
        // "1.5 l water, 90 °C"
        let degrees = temperature(words).unwrap_or(0.0);
        let off_the_boil = together(words, &["off", "the", "boil"]);
        if says(words, &["boiling", "boiled"]) || off_the_boil || degrees >= 85.0 {
            return Warmth::Boiling;
        }
        if says(words, &["hot", "warm", "kettle"]) || degrees >= 50.0 {
            return Warmth::Hot;
        }
        if says(words, &["iced", "chilled", "icy"]) || together(words, &["ice", "cold"]) {
            return Warmth::Chilled;
        }
    }
    // "Fresh or frozen" and "(frozen is fine)" are no order to freeze them.
    let either = together(words, &["or", "frozen"])
        || together(words, &["frozen", "or", "fresh"])
        || words.windows(2).any(|w| {
            w[0].is(&["frozen"]) && w[1].is(&["is", "are", "fine", "ok", "okay", "works", "will"])
        });
    if says(words, &["frozen"])
        && !either
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
