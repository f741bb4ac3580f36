//! Which words of a sentence say that something is done. Many of a kitchen's verbs are nouns as well ("the juice",
//! "a fine sieve", "over a low heat"): what stands before and after them tells.

use keen_core::cupboard::VesselKind;
use keen_core::drink::Vigour;

use keen_core::quantity::said::{Word, measure, number, says, time, together};

/// An action of the method.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Verb {
    Rub,
    Macerate,
    Boil(Vigour),
    Heat,
    Reduce,
    Steep,
    Strain,
    Blend,
    Cool,
    Chill,
    Freeze,
    Stir,
    Squeeze,
    Pour,
    Put,
    TopUp,
    Lift,
    Bottle,
    Serve,
    /// Washing, peeling, cutting: nothing of the drink changes.
    Prepare,
}

/// What a word means when something is done by it.
pub(super) fn verb_of(word: &str) -> Option<Verb> {
    use Verb as V;
    Some(match word {
        "rub" | "massage" | "muddle" | "knead" | "bash" | "pound" => V::Rub,
        "macerate" => V::Macerate,
        "hang" => V::Steep,
        "boil" => V::Boil(Vigour::Boil),
        "simmer" | "cook" | "stew" | "poach" | "bubble" => V::Boil(Vigour::Simmer),
        "heat" | "warm" | "melt" => V::Heat,
        "reduce" | "thicken" => V::Reduce,
        "steep" | "infuse" | "soak" | "brew" | "stand" | "sit" | "rest" | "draw" | "leave"
        | "wait" => V::Steep,
        "strain" | "sieve" | "filter" | "sift" | "drip" | "drain" => V::Strain,
        "blend" | "blitz" | "whizz" | "whiz" | "liquidise" | "liquidize" | "puree" | "purée"
        | "pulse" | "process" | "whirl" => V::Blend,
        "cool" => V::Cool,
        "chill" | "refrigerate" => V::Chill,
        "freeze" => V::Freeze,
        "stir" | "mix" | "whisk" | "dissolve" | "shake" | "swirl" => V::Stir,
        "squeeze" | "juice" | "squash" => V::Squeeze,
        "pour" | "tip" | "scrape" | "cover" | "decant" | "return" => V::Pour,
        "add" | "put" | "place" | "combine" | "throw" | "drop" | "sweeten" | "measure" | "take"
        | "toss" | "chuck" | "dump" | "bung" | "lob" | "sling" | "empty" | "season" | "spoon"
        | "fold" | "layer" | "arrange" | "float" | "scatter" | "scoop" | "crush" | "mash"
        | "bruise" | "smash" | "tear" | "need" | "want" | "use" | "get" => V::Put,
        "top" | "fill" | "dilute" | "lengthen" | "thin" => V::TopUp,
        "discard" | "remove" | "lift" | "fish" => V::Lift,
        "bottle" => V::Bottle,
        "serve" | "garnish" | "decorate" | "enjoy" | "drink" | "build" | "divide" => V::Serve,
        "wash" | "peel" | "zest" | "grate" | "slice" | "chop" | "cut" | "halve" | "quarter"
        | "dice" | "pare" | "scrub" | "rinse" | "roll" | "hull" | "pit" | "core" | "trim"
        | "split" | "deseed" | "stone" | "destone" | "chunk" | "pick" | "gather" | "grind"
        | "mill" | "crack" => V::Prepare,
        _ => return None,
    })
}

/// The same when it was done: "is boiled", "then strained".
pub(super) fn done_verb(word: &str) -> Option<Verb> {
    if word == "shaken" {
        return verb_of("shake");
    }
    let front = word.strip_suffix("ed")?;
    verb_of(front).or_else(|| verb_of(&format!("{front}e"))).or_else(|| {
        // "chopped", "stirred"
        let mut letters = front.chars().rev();
        let (last, before) = (letters.next()?, letters.next()?);
        if last == before { verb_of(&front[..front.len() - last.len_utf8()]) } else { None }
    })
}

/// Words that mean that something else comes before: a noun, not a verb.
const BEFORE_A_NOUN: [&str; 39] = [
    "from", "off", "low", "medium", "high", "gentle", "over", "moderate", "the", "a", "an", "of",
    "lower", "raise", "increase", "reduce", "this", "that", "your", "her", "his", "my", "our",
    "their", "for", "lemon", "lime", "orange", "fresh", "fine", "through", "some", "more", "good",
    "big", "generous", "small", "little", "quick",
];

/// Words that come after what is done, where what it is done to was named before.
const AFTER_A_DOING: [&str; 28] = [
    "and", "in", "into", "through", "for", "with", "to", "on", "until", "till", "over", "off",
    "at", "by", "then", "again", "well", "down", "up", "out", "together", "gently", "from",
    "while", "when", "before", "as", "twice",
];

pub(super) fn verb_at(words: &[Word], at: usize) -> Option<Verb> {
    let (before, word, after) = around(words, at);
    // "Do not boil" is nothing that is done.
    if before.is_some_and(|b| matches!(b, "not" | "don't" | "don’t" | "never" | "without" | "no"))
    {
        return None;
    }
    // "take out the bags", "take the bags out"
    if matches!(word, "take" | "pull")
        && words[at + 1..].iter().take(4).take_while(|w| !w.is_sign()).any(|w| w.is(&["out"]))
    {
        return Some(Verb::Lift);
    }
    // "Boil the kettle" says how warm the water is that is poured.
    if word == "boil" && words[at + 1..].iter().take(2).any(|w| w.is(&["kettle"])) {
        return None;
    }
    // "Grind with 200 ml of the water to a paste"
    let to_a_paste = words[at + 1..].iter().take(3).any(|w| w.is(&["with"]))
        || says(&words[at + 1..], &["paste", "smooth"]);
    if word == "grind" && to_a_paste {
        return Some(Verb::Blend);
    }
    // "Reduce the heat", "serve warm or cold": neither boils down nor warms anything.
    let or_cold = after == "or" && words.get(at + 2).is_some_and(|w| w.is(&["cold", "chilled"]));
    let of_the_ring =
        words[at + 1..].iter().take(3).any(|w| w.is(&["heat", "flame", "temperature", "simmer"]));
    if word == "warm" && or_cold || word == "reduce" && of_the_ring && !says(words, &["half"]) {
        return None;
    }
    // "Shake the bugs off the flowers"
    if matches!(word, "shake" | "pick" | "brush" | "knock")
        && (words[at + 1..].iter().take(4).take_while(|w| !w.is_sign()).any(|w| w.is(&["off"]))
            || says(&words[at + 1..], &["insect", "bug", "dirt", "grit"]))
    {
        return Some(Verb::Prepare);
    }
    // "Serve warm in heatproof glasses"
    if matches!(word, "warm" | "cool") && before == Some("serve") {
        return None;
    }
    // "Blend all. Fine sieve."
    if word == "sieve"
        && at == 1
        && matches!(before, Some("fine" | "coarse"))
        && matches!(after, "" | "." | ",")
    {
        return Some(Verb::Strain);
    }
    match verb_of(word) {
        Some(verb) => orders(verb, words, at),
        None => says_otherwise(words, at),
    }
}

/// Whether a word that may be a verb is one here: what stands before and after it tells.
fn orders(verb: Verb, words: &[Word], at: usize) -> Option<Verb> {
    let (before, word, after) = around(words, at);
    if before.is_some_and(|b| BEFORE_A_NOUN.contains(&b))
        && !(word == "rest" && before == Some("to"))
        && !(word == "strain" && before == Some("fine"))
    {
        return None;
    }
    match word {
        // "Squeeze through cloth" is no fruit.
        "squeeze"
            if words[at..].iter().take(8).any(|w| w.is(&["through"]))
                && says(&words[at..], &["cloth", "muslin", "cheesecloth", "bag", "towel"]) =>
        {
            Some(Verb::Strain)
        }
        // "the juice in", "drink of choice", "the rest"; "cool water", "warm water"
        "juice" => juices_something(words, at).then_some(verb),
        "zest" | "peel" | "slice" | "quarter" | "cut" | "core" | "pit" => {
            cuts_something(words, at).then_some(verb)
        }
        "cover" => Some(if covers_by_pouring(words, at) { verb } else { Verb::Prepare }),
        "rest" => {
            // "Add rest" means what is left.
            (!matches!(before, Some("with" | "add")) && after != "of").then_some(verb)
        }
        // "Strain and sweeten warm"
        "warm"
            if before.is_some_and(|b| verb_of(b).is_some()) && matches!(after, "" | "." | ",") =>
        {
            None
        }
        "cool" | "warm" => {
            let and_then = after == "and"
                && before.is_none_or(|b| matches!(b, "," | "to" | "it" | "them" | "then"));
            (!IS_COOL.contains(&after) || and_then).then_some(verb)
        }
        // "Fill hot"
        "fill" if after == "hot" => Some(Verb::Bottle),
        "top" => {
            matches!(after, "up" | "it" | "with" | "off" | "the" | "each" | "w").then_some(verb)
        }
        "drink" | "measure" | "process" | "place" | "use" | "need" | "want" | "get" => {
            // "Twisting it to get out all the milk" says what for.
            let what_for = word == "get" && before == Some("to");
            (at_beginning(words, at) && !what_for).then_some(verb)
        }
        // "the strawberry puree", "through a fine-mesh sieve", "a coffee filter"
        "puree" | "purée" | "sieve" | "filter" => {
            let begins = at_beginning(words, at) && !is_a_puree(words, at);
            (begins || before.is_some_and(|b| b.ends_with("ly"))).then_some(verb)
        }
        "squash" | "stone" | "mill" | "crack" | "chunk" | "pick" | "gather" => {
            at_beginning(words, at).then_some(verb)
        }
        // "Lemons, divide in two": only what is poured is shared out.
        "divide" => matches!(after, "between" | "among" | "amongst" | "it" | "over" | "into")
            .then_some(verb),
        // "Scoop out the flesh": where it goes is said after that.
        "scoop"
            if after == "out"
                && vessel(&words[at..]).is_none()
                && words.get(at + 2..).is_none_or(|rest| number(rest).is_none()) =>
        {
            Some(Verb::Prepare)
        }
        // "Throw away the seeds", "rub it through a sieve"
        "throw" | "tip" | "pour" if matches!(after, "away" | "out" | "off") => Some(Verb::Lift),
        "rub" if says(&words[at..], &["sieve", "strainer", "colander"]) => Some(Verb::Strain),
        // "Hang in muslin over a bowl"
        "hang" if says(&words[at..], &["muslin", "cloth", "cheesecloth", "bag"]) => {
            Some(Verb::Strain)
        }
        "pound" => at_beginning(words, at).then_some(verb),
        // "Cold brew hibiscus tea" is a drink; "cold brew it for a night" is an order.
        "brew" if before == Some("cold") => {
            matches!(after, "the" | "it" | "them" | "for" | "in" | "overnight").then_some(verb)
        }
        "drop" | "season" | "stand" | "water" | "brew" | "soak" => {
            (before != Some("per")).then_some(verb)
        }
        _ => Some(verb),
    }
}

/// "Cover it with water" pours, "cover with a cloth" doesn't.
fn covers_by_pouring(words: &[Word], at: usize) -> bool {
    const LIDS: [&str; 9] =
        ["cloth", "lid", "plate", "towel", "film", "foil", "muslin", "paper", "wrap"];
    let closes = words[at + 1..].iter().take(5).any(|w| w.is(&LIDS));
    matches!(around(words, at).2, "with" | "them" | "it") && !closes
}

/// "Add juice and purée, then water"
fn is_a_puree(words: &[Word], at: usize) -> bool {
    let (before, word, after) = around(words, at);
    let joined = matches!(before, Some("and" | "&" | ","));
    word.starts_with("pur") && joined && matches!(after, "" | "," | ".")
}

/// What is cool or warm as it is.
const IS_COOL: [&str; 9] =
    ["water", "and", "tea", "place", "bottle", "bottles", "jar", "jars", "sterilised"];

/// "Juice the limes", "juice 4 limes", and no "juice of 4 limes".
fn juices_something(words: &[Word], at: usize) -> bool {
    let (_, _, after) = around(words, at);
    let next = words.get(at + 1);
    let citrus = ["lemon", "lime", "orange", "grapefruit", "citrus"];
    // "Beetroot juice 400 ml" is a line of the list.
    let counted = number(&words[at + 1..])
        .is_some_and(|(_, used)| measure(&words[at + 1 + used..]).is_none());
    matches!(after, "the" | "all" | "your" | "both" | "them" | "it")
        || counted
        || next.is_some_and(|w| w.is(&citrus))
}

/// "Zest the lemons"; "zest, sugar and thyme in a bowl" names a part of the list.
fn cuts_something(words: &[Word], at: usize) -> bool {
    let (before, _, after) = around(words, at);
    let no_object = ["", ",", ".", "in", "into", "to", "with", "from", "for", "of"];
    let and_then = || words.get(at + 2).is_some_and(|w| verb_of(&w.text).is_some());
    // "Simmer the plums and peel gently"
    let object =
        !no_object.contains(&after) && !after.ends_with("ly") && (after != "and" || and_then());
    object && at_beginning(words, at) && before.is_none_or(|b| verb_of(b).is_none())
}

/// What holds the pulp back.
pub(super) const SIEVES: [&str; 6] =
    ["sieve", "strainer", "cloth", "muslin", "colander", "cheesecloth"];

/// What is done by words that are no verbs of a kitchen by themselves: "bring to the boil", "juice in", "is strained".
fn says_otherwise(words: &[Word], at: usize) -> Option<Verb> {
    let (before, word, after) = around(words, at);
    match word {
        // "bring to the boil", "let it come to a boil": the boil says what is done.
        "bring"
            if says(
                &words[at..],
                &["boil", "boiling", "simmer", "bubble", "heat", "up", "temperature"],
            ) =>
        {
            Some(Verb::Boil(Vigour::Boil))
        }
        "set" if matches!(after, "aside") => Some(Verb::Steep),
        // "It keeps in the fridge for a month" is what it does by itself.
        "keep"
            if says(&words[at..], &["fridge", "refrigerator"])
                && !says(&words[at..], &["day", "week", "month"])
                && before != Some("will") =>
        {
            Some(Verb::Chill)
        }
        "put" => Some(Verb::Put),
        // "make it up to 2 litres with cold water"
        "make"
            if words[at + 1..].iter().take(4).any(|w| w.is(&["up"]))
                && together(&words[at..], &["up", "to"]) =>
        {
            Some(Verb::TopUp)
        }
        // "make a syrup with the sugar and water"
        "make" if words[at + 1..].iter().take(4).any(|w| w.is(&["syrup"])) => Some(Verb::Heat),
        // "Into the pan with 600 ml of water"
        "into" | "in"
            if at == 0
                && words
                    .iter()
                    .skip(1)
                    .take(2)
                    .any(|w| vessel(std::slice::from_ref(w)).is_some())
                && words.iter().take(5).any(|w| w.is(&["with"])) =>
        {
            Some(Verb::Put)
        }
        // "Chop it, in the blender with the water"
        "in" if before == Some(",")
            && words.get(at + 2).is_some_and(|w| vessel(std::slice::from_ref(w)).is_some())
            && words.get(at + 3).is_some_and(|w| w.is(&["with"])) =>
        {
            Some(Verb::Put)
        }
        // "off the heat, lid on, 15 minutes": it stands so.
        "lid"
            if matches!(after, "on")
                && (at == 0 || says(&words[..at], &["off"]))
                && (at + 2..words.len().min(at + 5)).any(|n| time(&words[n..]).is_some()) =>
        {
            Some(Verb::Steep)
        }
        // "juice in, top up": what stands before it goes in.
        "in" if at > 0
            && words.get(at + 1).is_none_or(|w| {
                w.is(&[",", ".", "and", "then", ";", ")", "while", "when", "once"])
            })
            && !words[at - 1].is_sign()
            && verb_of(&words[at - 1].text).is_none_or(|v| v == Verb::Squeeze) =>
        {
            Some(Verb::Put)
        }
        "pass" | "push" | "run" | "press"
            if says(&words[at..], &SIEVES) || says(&words[at..], &["bag", "through"]) =>
        {
            Some(Verb::Strain)
        }
        "whisked" | "goes" | "go" if matches!(after, "in" | "into") => Some(Verb::Put),
        _ => participle(words, at),
    }
}

/// A participle is done where somebody or something does it, not where it says what a thing is like: "then chopped" is
/// done, "and chopped mint" is mint. What is strained was strained, at any rate.
fn participle(words: &[Word], at: usize) -> Option<Verb> {
    const DOES: [&str; 15] = [
        "is", "are", "was", "were", "be", "been", "gets", "get", "then", "and", "i", "we", "she",
        "he", "they",
    ];
    const ENDS: [&str; 7] =
        ["strained", "sieved", "filtered", "chilled", "cooled", "shaken", "stirred"];
    let (before, word, _) = around(words, at);
    let next = words.get(at + 1);
    let of_a_thing = matches!(before, Some("and" | "then"))
        && word != "strained"
        && !next.is_none_or(|w| w.is_sign() || w.is(&AFTER_A_DOING));
    let acts = !of_a_thing && before.is_some_and(|before| DOES.contains(&before));
    // "Tea in cold water, eight hours, strained."
    let ends = before == Some(",")
        && ENDS.contains(&word)
        && next.is_none_or(|w| w.is_sign() || w.is(&["with", "over", "together"]));
    done_verb(word).filter(|_| acts || ends)
}

/// A word with its neighbours; nothing behind the last.
fn around(words: &[Word], at: usize) -> (Option<&str>, &str, &str) {
    let before = at.checked_sub(1).map(|b| words[b].text.as_str());
    (before, words[at].text.as_str(), words.get(at + 1).map_or("", |w| w.text.as_str()))
}

/// Whether a word stands where a sentence gives an order.
fn at_beginning(words: &[Word], at: usize) -> bool {
    at.checked_sub(1).is_none_or(|before| {
        words[before].is(&[
            ",", "and", "&", "then", "to", "you", "i", "we", "now", ":", "-", "just", "should",
            "can", "first",
        ])
    })
}

pub(super) fn vessel(words: &[Word]) -> Option<VesselKind> {
    use VesselKind as V;
    let all = [
        (["pan", "saucepan", "pot", "casserole"].as_slice(), V::Pot),
        (["bowl", "basin"].as_slice(), V::Bowl),
        (["blender", "liquidiser", "processor"].as_slice(), V::Blender),
        (["pitcher"].as_slice(), V::Pitcher),
        (["jug", "carafe"].as_slice(), V::Jug),
    ];
    // "From the pan into a jug": where it goes to is said last.
    let place = |any: &[&str]| words.iter().rposition(|w| w.is(any));
    all.into_iter()
        .filter_map(|(any, kind)| place(any).map(|at| (at, kind)))
        .max_by_key(|(at, _)| *at)
        .map(|(_, kind)| kind)
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::quantity::said::words;

    /// The words of a sentence that say that something is done.
    fn done(text: &str) -> Vec<String> {
        let all = words(text);
        let verbs = (0..all.len()).filter(|at| verb_at(&all, *at).is_some());
        verbs.map(|at| all[at].text.clone()).collect()
    }

    #[test]
    fn a_word_is_a_verb_where_something_is_done() {
        for (text, wanted) in [
            ("Juice the limes and strain", vec!["juice", "strain"]),
            ("Add the juice of two limes", vec!["add"]),
            ("Strain through a fine sieve", vec!["strain"]),
            ("Sieve and stir in", vec!["sieve", "stir"]),
            ("Stir in the strawberry puree", vec!["stir"]),
            ("Puree the strawberries", vec!["puree"]),
            ("Simmer over a low heat", vec!["simmer"]),
            ("Heat gently, do not boil", vec!["heat"]),
            ("Add chopped mint and bruised ginger", vec!["add"]),
            ("then strained, and chilled", vec!["strained", "chilled"]),
            ("Press through a jelly bag", vec!["press"]),
            ("Press the button", vec![]),
            ("Reduce the heat and simmer", vec!["simmer"]),
            ("Reduce over a high heat", vec!["reduce"]),
            ("Serve warm or cold", vec!["serve"]),
            ("Rub the zest into the sugar", vec!["rub"]),
            ("Squash the lemons", vec!["squash"]),
            ("Orange squash", vec![]),
            ("Use the rest of the water", vec!["use"]),
            ("Top with soda", vec!["top"]),
            ("The top of the jug", vec![]),
            ("a cup of water, shaken with ice", vec!["shaken"]),
            ("a shaken drink", vec![]),
            ("Cool water and warm water", vec![]),
        ] {
            assert_eq!(done(text), wanted, "{text}");
        }
    }

    #[test]
    fn what_goes_away_is_lifted_out_and_what_goes_through_is_strained() {
        let first = |text: &str| verb_at(&words(text), 0);
        assert_eq!(first("Throw away the seeds"), Some(Verb::Lift));
        assert_eq!(first("Pour off the water"), Some(Verb::Lift));
        assert_eq!(first("Throw in the mint"), Some(Verb::Put));
        assert_eq!(first("Rub it through a sieve"), Some(Verb::Strain));
        assert_eq!(first("Push through a colander"), Some(Verb::Strain));
        assert_eq!(first("Push the button"), None);
    }

    #[test]
    fn the_last_vessel_that_is_named_is_where_it_goes() {
        let named = |text: &str| vessel(&words(text));
        assert_eq!(named("from the pan into a jug"), Some(VesselKind::Jug));
        assert_eq!(named("into a saucepan"), Some(VesselKind::Pot));
        assert_eq!(named("on the windowsill"), None);
    }
}
