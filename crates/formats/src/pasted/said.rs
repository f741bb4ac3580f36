//! How much a line says: a number with its measure, wherever in the line it stands.

use keen_core::quantity::{Amount, Dimension, Measure};

use super::verbs::{Verb, verb_at, verb_of};
use keen_core::quantity::said::{
    Counted, Fullness, Many, Word, and_a_part, measure, number, time, words,
};

/// A number with its measure, and the words it takes.
pub(super) struct Said {
    pub(super) many: Many,
    pub(super) counted: Option<Counted>,
    pub(super) full: Fullness,
    /// "(200 g each)": for each of those that were counted.
    pub(super) each: bool,
    pub(super) from: usize,
    pub(super) to: usize,
}

/// Things that hold what is bought.
const HOLDERS: [&str; 13] = [
    "can", "tin", "carton", "bottle", "jar", "pack", "packet", "package", "bag", "box", "pouch",
    "tub", "punnet",
];

/// What is as long as it is said to be.
const LENGTHS: [&str; 6] = ["piece", "knob", "thumb", "chunk", "length", "nub"];

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
    let holds = match &counted {
        Counted::In(measure) => {
            measure.dimension() != Dimension::Count && words.get(to).is_some_and(|w| w.is(&HOLDERS))
        }
        // "1 2-inch knob"
        Counted::By(by) => {
            matches!(*by, "inch" | "cm") && words.get(to).is_some_and(|w| w.is(&LENGTHS))
        }
    };
    if !holds {
        return None;
    }
    to += 1;
    to += usize::from(words.get(to).is_some_and(|w| w.is(&["of"])));
    let many = Many { low: many.low * each.low, high: None, loose: many.loose || each.loose };
    Some(Said { many, counted: Some(counted), full, each: false, from: at, to })
}

fn said_at(words: &[Word], at: usize) -> Option<Said> {
    if let Some(held) = held(words, at) {
        return Some(held);
    }
    // "Three weeks late", "10 minutes with a stick of cinnamon": a time is no amount.
    if time(&words[at..]).is_some() {
        return None;
    }
    // "1:4 with soda" is no amount.
    if words.get(at + 1).is_some_and(|w| w.is(&[":"]))
        && is_figure(&words[at])
        && words.get(at + 2).is_some_and(is_figure)
    {
        return None;
    }
    // "The tamarind one, you take …" counts nothing.
    let called = words.get(at)?.is(&["one"])
        && at.checked_sub(1).is_some_and(|before| !words[before].is_sign())
        && words.get(at + 1).is_none_or(Word::is_sign);
    if called {
        return None;
    }
    let (many, used) = number(&words[at..])?;
    let mut to = at + used;
    // "a 2-inch piece", "a 400-ml tin"
    if words.get(to).is_some_and(|w| w.is(&["-"])) && measure(&words[to + 1..]).is_some() {
        to += 1;
    }
    // "sugar 9 %" is a share of the whole, no number of pieces.
    if words.get(to).is_some_and(|w| w.is(&["%", "percent"])) {
        return None;
    }
    let (counted, full, more) = match measure(&words[to..]) {
        Some((counted, full, used)) => (Some(counted), full, used),
        None => (None, Fullness::Level, 0),
    };
    // "Bring it to 90C" is no cups.
    if words.get(to).is_some_and(|w| w.text == "c" && w.written == "C") && many.low >= 40.0 {
        return None;
    }
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
    // "a cup and a half of sugar", "a pound and a quarter"; "1 cup and 1/2 tsp" are two.
    let part = and_a_part(&words[to..]).filter(|_| more > 0);
    if let Some((part, used)) = part.filter(|(_, used)| measure(&words[to + used..]).is_none()) {
        many.low += part;
        to += used;
    }
    let each = words.get(to).is_some_and(|w| w.is(&["each", "apiece"]));
    Some(Said { many, counted, full, each, from: at, to })
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
pub(super) fn all_said(words: &[Word]) -> (Option<Said>, Option<Said>) {
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
    if outside.is_empty() {
        outside.extend(one_of(words));
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

/// Whether it is measured by the hand, so that nobody says "one": a pinch, a handful.
pub(super) fn is_by_hand(counted: &Counted) -> bool {
    const HANDS: [&str; 5] = ["handful", "splash", "squeeze", "drizzle", "glug"];
    match counted {
        Counted::In(measure) => matches!(measure, Measure::Pinch | Measure::Dash),
        Counted::By(by) => HANDS.contains(by),
    }
}

/// "Pinch of salt", "tiny pinch sea salt", "black pepper, pinch": one of it.
fn one_of(words: &[Word]) -> Option<Said> {
    let small = |w: &&Word| w.is(&["tiny", "small", "good", "big", "large", "generous"]);
    let front = words.iter().take_while(small).count();
    let behind = words.iter().rposition(|w| w.is(&[","])).map(|comma| comma + 1);
    let said = |at: usize| {
        let (counted, full, used) = measure(words.get(at..)?)?;
        let many = Many { low: 1.0, high: None, loose: false };
        Some(Said { many, counted: Some(counted), full, each: false, from: at, to: at + used })
    };
    let by_hand = |said: &Said| said.counted.as_ref().is_some_and(is_by_hand);
    let of = |said: &Said| words.get(said.to).is_some_and(|w| w.is(&["of"]));
    said(front)
        .filter(|said| of(said) || by_hand(said))
        .or_else(|| behind.and_then(said).filter(|said| by_hand(said) && said.to == words.len()))
}

pub(super) fn text_of(many: &Many, words: &str) -> String {
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

pub(super) fn amount_in(many: &Many, measure: &Measure) -> Option<Amount> {
    text_of(many, measure.name(2.0)).trim().parse().ok()
}

/// An amount whose measure says it by itself.
pub(super) fn plain(words: &[Word]) -> Option<(Amount, usize)> {
    let said = said_at(words, 0)?;
    let to = said.to;
    Some((plain_amount(&said)?, to))
}

pub(super) fn plain_amount(said: &Said) -> Option<Amount> {
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

/// "White sugar 9 %", "water to 100 %": how much of the whole it is, in hundredths.
pub(super) fn share(words: &[Word]) -> Option<f64> {
    (0..words.len()).find_map(|at| {
        let (many, used) = number(&words[at..])?;
        let percent = words.get(at + used).is_some_and(|w| w.is(&["%", "percent"]));
        (percent && (0.0..=100.0).contains(&many.low)).then_some(many.low)
    })
}

/// "To every pint of juice", "for each litre of it", "per 500 ml": what an amount goes by.
pub(super) fn per(words: &[Word]) -> Option<Amount> {
    let at = words.iter().position(|w| w.is(&["every", "each", "per"]))?;
    let led = words[at].is(&["per"]) || (at > 0 && words[at - 1].is(&["to", "for"]));
    let rest = words.get(at + 1..).filter(|_| led)?;
    let one = || format!("1 {}", rest.first()?.text).parse::<Amount>().ok();
    let by = plain(rest).map(|(amount, _)| amount).or_else(one)?;
    by.as_millilitres().map(|_| by)
}

/// What is only ever said in passing, before it is said what to do.
const IN_PASSING: [&str; 9] =
    ["okay", "ok", "alright", "anyway", "basically", "um", "uh", "er", "erm"];
/// What is said in passing where a pause, somebody or more of it follows.
const AT_TIMES: [&str; 3] = ["so", "well", "now"];
/// Who does it, which nobody needs to know.
const WHO: [&[&str]; 5] = [
    &["what", "i", "do", "is"],
    &["what", "we", "do", "is"],
    &["what", "you", "do", "is"],
    &["what", "she", "does", "is"],
    &["what", "he", "does", "is"],
];
/// As much as one likes.
const MANY: [&[&str]; 6] = [
    &["a", "whole", "lot", "of"],
    &["a", "lot", "of"],
    &["lots", "of"],
    &["loads", "of"],
    &["tons", "of"],
    &["heaps", "of"],
];

/// The words of a line or a sentence as a cook would spell them out.
pub(super) fn meant(text: &str) -> Vec<Word> {
    parts_of_fruit(each_by_itself(of_a_size(slices_of(alike(as_meant(words(text)))))))
}

/// "6 oranges: zest of 3, juice of all" are "zest of 3 oranges, juice of 6 oranges".
fn parts_of_fruit(found: Vec<Word>) -> Vec<Word> {
    let parted = || {
        let (_, used) = number(&found)?;
        let fruit = found.iter().position(|w| w.is(&CITRUS)).filter(|at| *at < used + 4)?;
        let opens = found.get(fruit + 1)?;
        opens.is(&["(", "–", "—", "-", ":", ","]).then_some(())?;
        let closes = found[fruit + 2..].iter().position(|w| w.is(&[")", "(", "."]));
        let end = closes.map_or(found.len(), |n| fruit + 2 + n);
        let mut all: Vec<Word> = Vec::new();
        let mut several = 0;
        for part in found[fruit + 2..end].split(|w| w.is(&[",", "and", "&", "+", ";"])) {
            let [what, of, rest @ ..] = part else { return None };
            let named = what.is(&["zest", "juice", "peel", "rind"]) && of.is(&["of", "from"]);
            let whole = rest.first().is_some_and(|w| w.is(&["all", "both"]));
            let counted = number(rest).map(|(_, used)| used);
            let (many, behind) = match counted.filter(|_| named) {
                Some(used) => rest.split_at(used),
                None if named && whole => {
                    let again = rest.get(1..).and_then(number).map_or(0, |(_, used)| used);
                    (&found[..used], &rest[1 + again..])
                }
                None => return None,
            };
            let at = what.from;
            all.extend([what.clone(), of.clone()]);
            all.extend(many.iter().map(|w| once_more(w, at)));
            all.extend(found[used..=fruit].iter().map(|w| once_more(w, at)));
            all.extend_from_slice(behind);
            all.push(unwritten(",", part.last()?.to));
            several += 1;
        }
        all.pop();
        (several > 1).then(|| [all.as_slice(), &found[end..]].concat())
    };
    match parted() {
        Some(all) => all,
        None => found,
    }
}

/// Whether a word is written in figures: the parts of "2:1", of "3/4".
pub(super) fn is_figure(word: &Word) -> bool {
    word.text.bytes().all(|b| b.is_ascii_digit())
}

/// A word of the text once more; it takes no room there.
fn once_more(word: &Word, at: usize) -> Word {
    Word { from: at, to: at, ..word.clone() }
}

/// A word that nobody wrote; it takes no room in the text.
fn unwritten(text: &str, at: usize) -> Word {
    let (stem, text) = (text.to_owned(), text.to_owned());
    Word { stem, text, written: String::new(), from: at, to: at }
}

/// "Equal weights of plums, sugar and vinegar, 600 g of each" is "600 g each of plums, …"; without an amount it is one
/// part of each.
fn alike(found: Vec<Word>) -> Vec<Word> {
    let equal = found.windows(2).position(|w| {
        w[0].is(&["equal"]) && w[1].is(&["weight", "part", "amount", "quantity", "measure"])
    });
    let Some(equal) = equal.filter(|at| *at < 2) else { return found };
    let named = equal + 2 + usize::from(found.get(equal + 2).is_some_and(|w| w.is(&["of"])));
    let each = (named..found.len()).find_map(|at| {
        let (_, used) = plain(&found[at..])?;
        let rest = &found[at + used..];
        let of = usize::from(rest.first().is_some_and(|w| w.is(&["of"])));
        rest.get(of).filter(|w| w.is(&["each"])).map(|_| at..at + used)
    });
    let ends = |w: &Word| w.is(&["-", "–", "—", "(", ":", "."]);
    let last = each.as_ref().map_or(found.len(), |each| each.start);
    let end = found[named..last].iter().position(ends).map_or(last, |n| named + n);
    let end = end - found[named..end].iter().rev().take_while(|w| w.is(&[",", ";"])).count();
    let at = found[equal].from;
    let amount = match each {
        Some(each) => found[each].to_vec(),
        None => vec![unwritten("1", at), unwritten("part", at)],
    };
    let each = [unwritten("each", at), unwritten("of", at)];
    [amount.as_slice(), &each, &found[named..end]].concat()
}

/// "2 limes - 1 juiced, 1 sliced" are "1 lime juiced, 1 lime sliced".
fn each_by_itself(found: Vec<Word>) -> Vec<Word> {
    const DONE: [&str; 7] =
        ["juiced", "squeezed", "zested", "peeled", "sliced", "quartered", "whole"];
    let one = |at: usize| {
        let (many, used) = found.get(at..).and_then(number)?;
        found.get(at + used).filter(|w| w.is(&DONE))?;
        Some((many.low, at + used))
    };
    let shared = || {
        let fruit = found.iter().position(|w| w.is(&CITRUS))?;
        let (all, used) = number(&found)?;
        let size = |w: &Word| w.is(&["large", "small", "medium", "big", "unwaxed", "ripe"]);
        let named = used <= fruit && found[used..fruit].iter().all(size);
        let from = fruit + 1;
        let from = from + usize::from(found.get(from).is_some_and(Word::is_sign));
        let (first, end) = one(from)?;
        let and =
            end + 1 + found[end + 1..].iter().take_while(|w| w.is(&[",", "and", "&"])).count();
        let (second, last) = one(and)?;
        let whole = named && (first + second - all.low).abs() < 1e-6 && and > end + 1;
        whole.then_some((fruit, from, end, and, last))
    };
    let Some((fruit, first, end, and, last)) = shared() else { return found };
    let again = |at: usize| once_more(&found[fruit], found[at].from);
    let mut comma = found[end + 1].clone();
    (comma.text, comma.stem) = (",".to_owned(), ",".to_owned());
    let mut all = found[first..end].to_vec();
    all.extend([again(end), found[end].clone(), comma]);
    all.extend_from_slice(&found[and..last]);
    all.push(again(last));
    all.extend_from_slice(&found[last..]);
    all
}

/// "3 bottles of 1 litre" are 3 × 1 litre.
fn of_a_size(mut found: Vec<Word>) -> Vec<Word> {
    let mut at = 0;
    while at < found.len() {
        let Some((_, used)) = number(&found[at..]) else {
            at += 1;
            continue;
        };
        let holder = at + used;
        let sized = found.get(holder).is_some_and(|w| w.is(&HOLDERS))
            && found.get(holder + 1).is_some_and(|w| w.is(&["of"]))
            && plain(&found[holder + 2..]).is_some();
        if sized {
            (found[holder].text, found[holder].stem) = ("x".to_owned(), "x".to_owned());
            found.remove(holder + 1);
        }
        at = holder;
    }
    found
}

/// The words without what is only said in passing: "okay so what I do is I take like four limes" is "I take about
/// four limes".
pub(super) fn as_meant(mut found: Vec<Word>) -> Vec<Word> {
    let begins = |found: &[Word], at: usize, phrase: &[&str]| {
        found.len() > at + phrase.len()
            && phrase.iter().zip(&found[at..]).all(|(p, w)| w.text == *p)
    };
    loop {
        let always = |word: &Word| IN_PASSING.contains(&word.text.as_str());
        let at_times = |word: &Word| AT_TIMES.contains(&word.text.as_str());
        let goes_on = |word: &Word| {
            word.is(&[",", "i", "you", "we", "what"]) || always(word) || at_times(word)
        };
        // "Well chilled water" is chilled well; "okay, four limes" are four limes.
        let passing =
            found.len() > 2 && (always(&found[0]) || at_times(&found[0]) && goes_on(&found[1]));
        if passing {
            found.remove(0);
            if found[0].is(&[","]) {
                found.remove(0);
            }
        } else if let Some(who) = WHO.iter().find(|who| begins(&found, 0, who)) {
            found.drain(..who.len());
        } else {
            break;
        }
    }
    let mut at = 0;
    while at < found.len() {
        if let Some(many) = MANY.iter().find(|many| begins(&found, at, many)) {
            found.drain(at..at + many.len());
            continue;
        }
        // "Stick-blend", "with a hand blender"
        let held = found[at].is(&["stick", "hand", "immersion"]);
        let dash = usize::from(found.get(at + 1).is_some_and(|w| w.is(&["-"])));
        if held && found.get(at + 1 + dash).is_some_and(|w| w.is(&["blend", "blender"])) {
            found.drain(at..at + 1 + dash);
        }
        // "5 teabags"
        if found[at].stem == "teabag" {
            let (bag, tea) = (found[at].clone(), &mut found[at]);
            tea.to -= bag.text.len() - "tea".len();
            tea.written.truncate("tea".len());
            (tea.text, tea.stem) = ("tea".to_owned(), "tea".to_owned());
            let from = tea.to;
            let part = |text: &str| text["tea".len()..].to_owned();
            let (text, written) = (part(&bag.text), part(&bag.written));
            found.insert(at + 1, Word { stem: "bag".to_owned(), text, written, from, to: bag.to });
        }
        // "100 ml 1:1 syrup"
        let ratio = at > 2
            && found[at - 2].is(&[":"])
            && [at - 1, at - 3].iter().all(|n| is_figure(&found[*n]));
        if found[at].is(&["syrup"]) && ratio {
            let from = found[at].from;
            found.insert(at, unwritten("sugar", from));
            at += 1;
        }
        let about = found[at].is(&["maybe"]) || at > 0 && found[at].is(&["like"]);
        if about && found.len() > at + 1 && number(&found[at + 1..]).is_some() {
            (found[at].text, found[at].stem) = ("about".to_owned(), "about".to_owned());
        }
        at += 1;
    }
    found
}

/// What shorthand leaves out: "30 g hibiscus + 1.2 l cold water overnight, strain" adds them and leaves them overnight.
pub(super) fn with_verbs(mut found: Vec<Word>) -> Vec<Word> {
    // Water is seldom poured on flowers here.
    let named = |w: &Word| w.is(&["water", "juice", "zest", "peel", "drink"]);
    let done = |found: &[Word], at: usize| !named(&found[at]) && verb_at(found, at).is_some();
    let verb = |text: &str, like: &Word| unwritten(text, like.from);
    if let Some(at) = found.iter().position(|w| w.is(&["overnight"])) {
        let told =
            (0..at).rev().take_while(|n| !found[*n].is(&[",", "+"])).any(|n| done(&found, n));
        if at > 0
            && !told
            && !found[at - 1].is(&[
                ",",
                "and",
                "or",
                "the",
                "ideally",
                "preferably",
                "better",
                "best",
                "even",
            ])
        {
            let leave = [verb(",", &found[at]), verb("leave", &found[at])];
            found.splice(at..at, leave);
        }
    }
    // "Two limes, water and sugar, all into the blender."
    const BLENDERS: [&str; 3] = ["blender", "liquidiser", "processor"];
    let blends = |w: &Word| verb_of(&w.text) == Some(Verb::Blend);
    if let Some(blender) = found.iter().position(|w| w.is(&BLENDERS))
        && !found.iter().any(|w| blends(w) && !w.is(&BLENDERS))
        && let Some(into) = (0..blender).rfind(|n| found[*n].is(&["in", "into"]))
        && blender - into <= 3
        && !(0..into).any(|n| done(&found, n) && (n + 4 > into || n == 0))
    {
        let all = into > 0 && found[into - 1].is(&["all", "everything"]);
        let at = into - usize::from(all);
        let like = found[at].clone();
        let blend = [verb(",", &like), verb("blend", &like), verb("everything", &like)];
        found.splice(at..into, blend);
    }
    // "Are rubbed", "strained", "shaken with ice" say it of all that stands before.
    let passive = |w: &Word| w.text.ends_with("ed") || w.text.ends_with("en");
    let later = (1..found.len()).any(|at| done(&found, at) && !passive(&found[at]));
    let amount = plain(&found).is_some();
    if amount && later && !(0..found.len().min(3)).any(|at| done(&found, at)) {
        let add = verb("add", &found[0]);
        found.insert(0, add);
    }
    found
}

const SLICES: [&str; 4] = ["slice", "wheel", "round", "wedge"];
const CITRUS: [&str; 9] = [
    "lemon",
    "lime",
    "orange",
    "grapefruit",
    "mandarin",
    "clementine",
    "tangerine",
    "satsuma",
    "citrus",
];

/// "2 orange slices" are 2 slices of orange, and no sliced oranges.
fn slices_of(mut found: Vec<Word>) -> Vec<Word> {
    for at in 2..found.len() {
        let counted =
            |from: usize| number(&found[from..]).is_some_and(|(_, used)| from + used == at - 1);
        if found[at].is(&SLICES)
            && found[at - 1].is(&CITRUS)
            && found[at - 1].text == found[at - 1].stem
            && (at.saturating_sub(4)..at - 1).any(counted)
        {
            found.swap(at - 1, at);
            // Words stand one behind the other, whatever they mean.
            let (front, back) = (found[at].from, found[at].to);
            let (one, two) = (found[at - 1].from, found[at - 1].to);
            (found[at - 1].from, found[at - 1].to) = (front, back);
            (found[at].from, found[at].to) = (one, two);
        }
    }
    found
}

/// "For a jug (1.5 l) she takes 12 limes": the bracket says how large the vessel is, and goes. Returned is how much is
/// made for it, where it says so.
pub(super) fn without_its_size(found: &mut Vec<Word>) -> Option<Amount> {
    const VESSELS: [&str; 8] =
        ["jug", "pitcher", "jar", "carafe", "bowl", "pot", "pan", "saucepan"];
    let sized = |at: usize| {
        let (size, used) = plain(found.get(at + 2..)?)?;
        let bracket = found[at + 1].is(&["("]) && found.get(at + 2 + used)?.is(&[")"]);
        let volume = size.as_millilitres().is_some() && found[at].is(&VESSELS);
        // "Water up to the top of the jug (1.5 l)" is so much water.
        let filled = at > 1 && found[at - 2].is(&["of", "to"]);
        (bracket && volume && !filled).then_some((at, used, size))
    };
    let (at, used, size) = (0..found.len().saturating_sub(3)).find_map(sized)?;
    let made = at > 1 && found[at - 2].is(&["for"]) && found[at - 1].is(&["a", "one", "the"]);
    found.drain(at + 1..at + 3 + used);
    made.then_some(size)
}

/// "Get 8 limes. Zest 4 of them": of what was spoken of last.
pub(super) fn of_what(found: &mut [Word], spoken_of: Option<&Word>) {
    let Some(named) = spoken_of else { return };
    for at in 2..found.len() {
        let counted = (at.saturating_sub(4)..at - 1)
            .any(|from| number(&found[from..]).is_some_and(|(_, used)| from + used == at - 1));
        if counted && found[at - 1].is(&["of"]) && found[at].is(&["them", "those", "these"]) {
            (found[at].text, found[at].stem) = (named.text.clone(), named.stem.clone());
        }
    }
}

/// What a sentence joins by a sign, joined by a word: "+ juice 4 limes + 1 l cold water".
pub(super) fn joined_by_words(mut found: Vec<Word>) -> Vec<Word> {
    for at in 0..found.len() {
        let counts = |at: usize| found.get(at..).is_some_and(|rest| number(rest).is_some());
        let between_figures = || at > 0 && counts(at - 1) && counts(at + 1);
        if found[at].is(&["+"]) && !between_figures() {
            (found[at].text, found[at].stem) = ("and".to_owned(), "and".to_owned());
        }
    }
    // A sentence that begins with one goes on from the one before.
    if found.len() > 2 && found[0].written == "+" {
        found.remove(0);
    }
    found
}

/// Where it is said of which fruit the first part is, where the second begins, and where that is counted: "zest of 1
/// lime and the juice of all 4".
fn of_the_same(found: &[Word], parts: &[&str]) -> Option<(usize, usize, usize)> {
    let of = |at: usize| {
        let of = found.get(at + 1).is_some_and(|w| w.is(&["of", "from"]));
        let all = usize::from(found.get(at + 2).is_some_and(|w| w.is(&["all"])));
        let from = at + 2 + all;
        let (_, used) = found.get(from..).and_then(number)?;
        (of && found[at].is(parts)).then_some(from + used)
    };
    (0..found.len()).find_map(|at| {
        let fruit = of(at).filter(|n| found.get(*n).is_some_and(|w| w.is(&CITRUS)))?;
        let and =
            Some(fruit + 1).filter(|n| found.get(*n).is_some_and(|w| w.is(&["and", "&", ","])))?;
        let the = usize::from(found.get(and + 1).is_some_and(|w| w.is(&["the"])));
        let counted = of(and + 1 + the)?;
        let ends = found.get(counted).is_none_or(|w| w.is_sign() || w.is(&["and", "then"]));
        ends.then_some((fruit, and, counted - 1))
    })
}

/// Two parts of the same fruit, told one by one: "the juice and zest of two lemons" is "the juice of two lemons, zest
/// of two lemons".
pub(super) fn part_by_part(mut found: Vec<Word>) -> Vec<Word> {
    const PARTS: [&str; 5] = ["juice", "zest", "peel", "rind", "flesh"];
    // "The lemon zest and slices" are the slices of the lemon, too.
    let named = |found: &[Word], at: usize| {
        found[at].is(&CITRUS)
            && found[at + 1].is(&PARTS)
            && found[at + 2].is(&["and", "&"])
            && (found[at + 3].is(&PARTS) || found[at + 3].is(&SLICES))
            && found.get(at + 4).is_none_or(|w| !w.is(&["of", "from"]))
    };
    // "The zest of 1 lime and the juice of all 4": of limes, too.
    if let Some((fruit, and, counted)) = of_the_same(&found, &PARTS) {
        let fruit = once_more(&found[fruit], found[counted].to);
        found.insert(counted + 1, fruit);
        (found[and].text, found[and].stem) = (",".to_owned(), ",".to_owned());
    }
    for at in 0..found.len().saturating_sub(3) {
        if named(&found, at) {
            let fruit = once_more(&found[at], found[at + 3].from);
            found.insert(at + 3, fruit);
        }
    }
    let at = (1..found.len().saturating_sub(3)).find(|at| {
        found[*at].is(&["and", "&"])
            && found[at - 1].is(&PARTS)
            && found[at + 1].is(&PARTS)
            && found[at + 2].is(&["of", "from"])
    });
    let Some(at) = at else { return found };
    // "of two lemons", as far as the fruit.
    let of = &found[at + 2..];
    let counted = 1 + number(&of[1..]).map_or(0, |(_, used)| used);
    let size = |w: &Word| w.is(&["large", "small", "medium", "ripe", "unwaxed", "organic", "the"]);
    let sized = of[counted..].iter().take_while(|w| size(w)).count();
    let Some(fruit) = of.get(..=counted + sized) else { return found };
    let mut fruit = fruit.to_vec();
    for word in &mut fruit {
        *word = once_more(word, found[at - 1].to);
    }
    // A comma parts them: "lemons and zest" would be the zest of lemons.
    let mut comma = found[at].clone();
    (comma.text, comma.stem) = (",".to_owned(), ",".to_owned());
    [&found[..at], &fruit, &[comma], &found[at + 1..]].concat()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_shorthand_leaves_out_is_said() {
        for (text, wanted) in [
            (
                "30 g mint + 1 l water overnight, strain",
                "add 30 g mint + 1 l water , leave overnight , strain",
            ),
            ("leave it overnight", "leave it overnight"),
            ("30 g petals are rubbed with sugar", "30 g petals are rubbed with sugar"),
            ("2 tbsp lime juice, shaken with ice", "2 tbsp lime juice , shaken with ice"),
        ] {
            let all = with_verbs(words(text));
            let said = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
            assert_eq!(said, wanted);
        }
    }

    #[test]
    fn what_is_done_to_each_of_several_is_told_one_by_one() {
        for (text, wanted) in [
            ("2 limes - 1 juiced, 1 sliced", "1 limes juiced , 1 limes sliced"),
            ("3 lemons (2 juiced and 1 sliced)", "2 lemons juiced , 1 lemons sliced )"),
            ("3 lemons, 1 juiced, 1 sliced", "3 lemons , 1 juiced , 1 sliced"),
            ("2 limes, juiced", "2 limes , juiced"),
            ("6 oranges – zest of 3, juice of all 6", "zest of 3 oranges , juice of 6 oranges"),
            ("3 lemons (zest of 2, juice of all)", "zest of 2 lemons , juice of 3 lemons )"),
            ("2 limes: zest of 1", "2 limes : zest of 1"),
        ] {
            let all = parts_of_fruit(each_by_itself(words(text)));
            let said = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
            assert_eq!(said, wanted);
        }
    }

    #[test]
    fn slices_of_a_fruit_are_no_sliced_fruit() {
        for (text, wanted) in [
            ("2 orange slices overnight", "2 slices orange overnight"),
            ("a lemon wedge", "a wedge lemon"),
            ("2 lemons, sliced", "2 lemons , sliced"),
            ("orange slices to serve", "orange slices to serve"),
        ] {
            let all = slices_of(words(text));
            let said = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
            assert_eq!(said, wanted);
        }
    }

    #[test]
    fn two_parts_of_one_fruit_are_told_one_by_one() {
        for (text, wanted) in [
            (
                "add the juice and zest of two lemons and 150 g sugar",
                "add the juice of two lemons , zest of two lemons and 150 g sugar",
            ),
            (
                "the zest and juice of 1 large orange",
                "the zest of 1 large orange , juice of 1 large orange",
            ),
            ("juice and zest the lemons", "juice and zest the lemons"),
            ("add the lemon zest and slices", "add the lemon zest and lemon slices"),
            (
                "add the zest of 1 lime and the juice of all 4",
                "add the zest of 1 lime , the juice of all 4 lime",
            ),
        ] {
            let all = part_by_part(words(text));
            let said = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
            assert_eq!(said, wanted);
        }
    }

    #[test]
    fn of_them_is_of_what_was_spoken_of() {
        for (text, wanted) in [
            ("zest 4 of them", "zest 4 of limes"),
            ("zest two of those", "zest two of limes"),
            ("some of them", "some of them"),
        ] {
            let mut all = words(text);
            of_what(&mut all, words("limes").first());
            let said = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
            assert_eq!(said, wanted);
        }
    }

    fn meant(text: &str) -> String {
        let all = joined_by_words(as_meant(words(text)));
        all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ")
    }

    #[test]
    fn what_is_said_in_passing_says_nothing() {
        for (text, wanted) in [
            ("okay so what I do is I take like four limes", "i take about four limes"),
            ("then maybe half a cup of sugar", "then about half a cup of sugar"),
            ("a whole lot of ice", "ice"),
            ("so, 2 lemons", "2 lemons"),
            ("well chilled soda", "well chilled soda"),
            ("I like mint", "i like mint"),
            ("+ juice 4 limes + 1 l water", "juice 4 limes and 1 l water"),
            ("so", "so"),
        ] {
            assert_eq!(meant(text), wanted, "{text}");
        }
    }

    /// The first and the second amount of a line.
    fn two(text: &str) -> (Option<String>, Option<String>) {
        let all = words(text);
        let (first, second) = all_said(&all);
        let told = |said: Option<Said>| {
            said.map(|s| {
                plain_amount(&s).map_or_else(|| format!("{} of it", s.many.low), |a| a.to_string())
            })
        };
        (told(first), told(second))
    }

    #[test]
    fn a_line_says_how_much_before_behind_and_in_brackets() {
        for (text, first, second) in [
            ("200 g sugar", Some("200 g"), None),
            ("sugar, 3 tbsp", Some("3 tbsp"), None),
            ("1½ cups (300 g) sugar", Some("1 1/2 cups"), Some("300 g")),
            ("200 g / 7 oz ginger", Some("200 g"), Some("7 oz")),
            ("Strawberries (1 pound, hulled)", Some("1 lb"), None),
            ("two 400-ml tins of milk", Some("800 ml"), None),
            ("1 (20 oz) can pineapple", Some("20 oz"), None),
            ("a cup and a half of sugar", Some("1 1/2 cups"), None),
            ("2 dessertspoons honey", Some("4 tsp"), None),
            ("2 more cups of cold water", Some("2 cups"), None),
            ("6 C water", Some("6 cups"), None),
            ("3 lemons", Some("3 of it"), None),
            ("juice of a lemon", Some("1 of it"), None),
            ("watermelon for a crowd", None, None),
            ("sugar to taste", None, None),
            ("tiny pinch sea salt", Some("1 pinch"), None),
            ("Black pepper, pinch", Some("1 pinch"), None),
        ] {
            let found = two(text);
            assert_eq!((found.0.as_deref(), found.1.as_deref()), (first, second), "{text}");
        }
    }

    #[test]
    fn an_inch_is_told_from_a_quotation() {
        let by = |text: &str| {
            let all = words(text);
            all_said(&all).0.and_then(|s| match s.counted {
                Some(Counted::By(by)) => Some((s.many.low, by)),
                _ => None,
            })
        };
        assert_eq!(by("2\" piece of ginger"), Some((2.0, "inch")));
        assert_eq!(by("2-inch piece of ginger"), Some((2.0, "inch")));
        assert_eq!(by("5 \"sprigs\" of mint"), None);
        assert_eq!(by("3 sprigs mint"), Some((3.0, "sprig")));
    }
}
