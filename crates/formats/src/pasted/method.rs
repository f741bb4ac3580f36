//! What a sentence of the method says is done: heat, steep, strain, blend, chill, and for how long.

use keen_core::cupboard::{Ingredient, Kind, VesselKind};
use keen_core::drink::Vigour;
use keen_core::quantity::Amount;

use super::list;
use super::names::{Found, Names};
use super::words::{Word, number, time};

/// What is done.
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

/// One thing that is done.
#[derive(Debug, Clone)]
pub(super) struct Doing {
    pub(super) verb: Verb,
    /// Where the word stands that says it, in bytes.
    pub(super) verb_at: usize,
    /// Its place in the line, in bytes.
    pub(super) from: usize,
    pub(super) to: usize,
    pub(super) minutes: Option<f64>,
    /// Whether the time is only said about.
    pub(super) loose: bool,
    pub(super) uses: Vec<Use>,
    /// All that hasn't gone in yet.
    pub(super) everything: bool,
    /// "But the soda": what of it stays out.
    pub(super) except: Vec<Found>,
    /// What was made so far: "it", "the syrup", "the mixture".
    pub(super) mixture: bool,
    /// "It", "them": what was spoken of just before.
    pub(super) it: bool,
    /// "Strain on to the sugar": it lies there already.
    pub(super) onto: bool,
    /// "The syrup ingredients": what of the list is meant by everything.
    pub(super) group: Option<String>,
    pub(super) vessel: Option<VesselKind>,
    pub(super) cloth: bool,
    pub(super) pressed: bool,
    pub(super) refrigerator: bool,
    pub(super) covered: bool,
    /// Until the sugar has dissolved.
    pub(super) clear: bool,
    /// Down to this part of it.
    pub(super) down_to: Option<f64>,
    pub(super) to_c: Option<f64>,
    /// Down to so many °Bx.
    pub(super) to_brix: Option<f64>,
    pub(super) amount: Option<Amount>,
    /// Something boiling or hot is poured.
    pub(super) boiling: bool,
    /// "To every pint": as often as this is there.
    pub(super) per: Option<Amount>,
    /// Just enough of it to cover what lies there.
    pub(super) covers: bool,
    /// What is measured out and isn't known by that name.
    pub(super) unknown: Vec<Vec<Word>>,
}

fn says(words: &[Word], any: &[&str]) -> bool {
    words.iter().any(|w| w.is(any))
}

fn together(words: &[Word], phrase: &[&str]) -> bool {
    words.windows(phrase.len()).any(|w| w.iter().zip(phrase).all(|(w, p)| w.text == *p))
}

/// What a word means when something is done by it.
fn verb_of(word: &str) -> Option<Verb> {
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
        | "toss" | "empty" | "season" | "spoon" | "fold" | "layer" | "arrange" | "float"
        | "scatter" | "scoop" | "crush" | "mash" | "bruise" | "smash" | "tear" | "need"
        | "want" | "use" | "get" => V::Put,
        "top" | "fill" | "dilute" | "lengthen" | "thin" => V::TopUp,
        "discard" | "remove" | "lift" | "fish" => V::Lift,
        "bottle" => V::Bottle,
        "serve" | "garnish" | "decorate" | "enjoy" | "drink" | "build" => V::Serve,
        "wash" | "peel" | "zest" | "grate" | "slice" | "chop" | "cut" | "halve" | "quarter"
        | "dice" | "pare" | "scrub" | "rinse" | "roll" | "hull" | "pit" | "core" | "trim"
        | "split" | "deseed" => V::Prepare,
        _ => return None,
    })
}

/// The same when it was done: "is boiled", "then strained".
fn done_verb(word: &str) -> Option<Verb> {
    let front = word.strip_suffix("ed")?;
    verb_of(front).or_else(|| verb_of(&format!("{front}e"))).or_else(|| {
        // "chopped", "stirred"
        let mut letters = front.chars().rev();
        let (last, before) = (letters.next()?, letters.next()?);
        if last == before { verb_of(&front[..front.len() - last.len_utf8()]) } else { None }
    })
}

/// Words that mean that something else comes before: a noun, not a verb.
const BEFORE_A_NOUN: [&str; 30] = [
    "from", "off", "low", "medium", "high", "gentle", "over", "moderate", "the", "a", "an", "of",
    "this", "that", "your", "for", "lemon", "lime", "orange", "fresh", "fine", "through", "some",
    "more", "good", "big", "generous", "small", "little", "quick",
];

/// Words that come after what is done, where what it is done to was named before.
const AFTER_A_DOING: [&str; 28] = [
    "and", "in", "into", "through", "for", "with", "to", "on", "until", "till", "over", "off",
    "at", "by", "then", "again", "well", "down", "up", "out", "together", "gently", "from",
    "while", "when", "before", "as", "twice",
];

fn verb_at(words: &[Word], at: usize) -> Option<Verb> {
    let word = &words[at].text;
    let before = at.checked_sub(1).map(|b| words[b].text.as_str());
    let after = words.get(at + 1).map_or("", |w| w.text.as_str());
    // "Do not boil" is nothing that is done.
    if before.is_some_and(|b| matches!(b, "not" | "don't" | "don’t" | "never" | "without" | "no"))
    {
        return None;
    }
    if let Some(verb) = verb_of(word) {
        if before.is_some_and(|b| BEFORE_A_NOUN.contains(&b))
            && !(word == "rest" && before == Some("to"))
        {
            return None;
        }
        return match word.as_str() {
            // "the juice in", "drink of choice", "the rest"; "cool water", "warm water"
            "juice" => {
                let object = matches!(after, "the" | "all" | "your" | "both" | "them" | "of")
                    || words.get(at + 1).is_some_and(|w| number(std::slice::from_ref(w)).is_some())
                    || words.get(at + 1).is_some_and(|w| {
                        w.is(&["lemon", "lime", "orange", "grapefruit", "citrus"])
                    });
                (object && after != "of").then_some(verb)
            }
            // "Zest, sugar and thyme in a bowl" names a part of the list.
            "zest" | "peel" | "slice" | "quarter" | "cut" | "core" | "pit" => {
                let object = !matches!(
                    after,
                    "," | "." | "in" | "into" | "to" | "with" | "from" | "for" | "of" | ""
                ) && (after != "and"
                    || words.get(at + 2).is_some_and(|w| verb_of(&w.text).is_some()));
                (object && at_beginning(words, at) && before.is_none_or(|b| verb_of(b).is_none()))
                    .then_some(verb)
            }
            "cover" => {
                Some(if matches!(after, "with" | "them" | "it") { verb } else { Verb::Prepare })
            }
            "rest" => (before != Some("with") && after != "of").then_some(verb),
            "cool" | "warm" => (!matches!(after, "water" | "and" | "tea" | "place")
                || (after == "and" && before.is_none_or(|b| b == "," || b == "to")))
            .then_some(verb),
            "top" => {
                matches!(after, "up" | "it" | "with" | "off" | "the" | "each" | "w").then_some(verb)
            }
            "drink" | "measure" | "process" | "place" | "use" | "need" | "want" | "get" => {
                at_beginning(words, at).then_some(verb)
            }
            // "the strawberry puree", "through a fine-mesh sieve", "a coffee filter"
            "puree" | "purée" | "sieve" | "filter" => (at_beginning(words, at)
                || before.is_some_and(|b| b.ends_with("ly")))
            .then_some(verb),
            "squash" => at_beginning(words, at).then_some(verb),
            // "Throw away the seeds", "rub it through a sieve"
            "throw" | "tip" | "pour" if matches!(after, "away" | "out" | "off") => Some(Verb::Lift),
            "rub" if says(&words[at..], &["sieve", "strainer", "colander"]) => Some(Verb::Strain),
            "pound" => at_beginning(words, at).then_some(verb),
            "drop" | "season" | "stand" | "water" | "brew" | "soak" => {
                (before != Some("per")).then_some(verb)
            }
            _ => Some(verb),
        };
    }
    match word.as_str() {
        // "bring to the boil", "let it come to a boil": the boil says what is done.
        "bring" => Some(Verb::Boil(Vigour::Boil)),
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
        // "make a syrup with the sugar and water"
        "make" if words[at + 1..].iter().take(4).any(|w| w.is(&["syrup"])) => Some(Verb::Heat),
        // "Chop it, in the blender with the water"
        "in" if before == Some(",")
            && words.get(at + 2).is_some_and(|w| vessel(std::slice::from_ref(w)).is_some())
            && words.get(at + 3).is_some_and(|w| w.is(&["with"])) =>
        {
            Some(Verb::Put)
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
        "pass" | "push" | "run"
            if says(
                &words[at..],
                &["sieve", "strainer", "cloth", "muslin", "colander", "through"],
            ) =>
        {
            Some(Verb::Strain)
        }
        "press"
            if says(
                &words[at..],
                &[
                    "sieve",
                    "strainer",
                    "cloth",
                    "cheesecloth",
                    "muslin",
                    "colander",
                    "bag",
                    "through",
                ],
            ) =>
        {
            Some(Verb::Strain)
        }
        "whisked" | "goes" | "go" if matches!(after, "in" | "into") => Some(Verb::Put),
        _ => {
            // A participle is done where somebody or something does it, not where it says what a thing is like:
            // "then chopped" is done, "and chopped mint" is mint. What is strained was strained, at any rate.
            let of_a_thing = matches!(before, Some("and" | "then"))
                && word != "strained"
                && !words.get(at + 1).is_none_or(|w| w.is_sign() || w.is(&AFTER_A_DOING));
            let acts = !of_a_thing
                && matches!(
                    before,
                    Some(
                        "is" | "are"
                            | "was"
                            | "were"
                            | "be"
                            | "been"
                            | "gets"
                            | "get"
                            | "then"
                            | "and"
                            | "i"
                            | "we"
                            | "she"
                            | "he"
                            | "they"
                    )
                );
            // "Tea in cold water, eight hours, strained."
            let ends = before == Some(",")
                && matches!(
                    word.as_str(),
                    "strained" | "sieved" | "filtered" | "chilled" | "cooled"
                )
                && words.get(at + 1).is_none_or(Word::is_sign);
            done_verb(word).filter(|_| acts || ends)
        }
    }
}

/// Whether a word stands where a sentence gives an order.
fn at_beginning(words: &[Word], at: usize) -> bool {
    at.checked_sub(1).is_none_or(|before| {
        words[before].is(&[
            ",", "and", "then", "to", "you", "i", "we", "now", ":", "-", "just", "should", "can",
            "first",
        ])
    })
}

/// Everything that a sentence says is done, in its order.
pub(super) fn doings(words: &[Word], names: &Names<'_>) -> Vec<Doing> {
    let mut starts: Vec<(usize, Verb)> = Vec::new();
    let mut until = false;
    let mut depth = 0_i32;
    for at in 0..words.len() {
        let word = &words[at];
        if word.is(&["(", "["]) {
            depth += 1;
        }
        if word.is(&[")", "]"]) {
            depth -= 1;
        }
        // After "until" it is said what to wait for, not what to do.
        // "When it is under 50 °C stir in the honey": an order ends what is waited for.
        if until
            && at > 0
            && word.is(&["stir", "add", "strain", "pour", "serve", "squeeze", "mix"])
            && words[..at].iter().any(|w| w.is(&["when", "once", "after", "while"]))
            && !words[at - 1].is(&["to", "it", "you", "the", "and"])
        {
            until = false;
        }
        // "Just before serving add the soda" says when, and what.
        let for_the_table = word.is(&["before"])
            && words.get(at + 1).is_some_and(|w| w.is(&["serving", "drinking", "you", "the"]))
            && at <= 1;
        if (word
            .is(&["until", "till", "when", "once", "before", "after", "without", "while", "if"])
            && !for_the_table)
            || (at > 0 && word.is(&["so"]))
        {
            until = true;
        } else if word.is(&[",", "then", ";"]) || (word.is(&["and"]) && verb_at_next(words, at)) {
            until = false;
        }
        if until || depth > 0 {
            continue;
        }
        if let Some(verb) = verb_at(words, at) {
            // What goes "in" stands before it.
            let at = match words[at].text.as_str() {
                "in" if !words[at - 1].is_sign() => at - 1,
                // "400 g sugar is added": so does what is done to it.
                _ if done_verb(&words[at].text).is_some() && verb_of(&words[at].text).is_none() => {
                    let from = starts.last().map_or(0, |(s, _)| s + 1);
                    words[from..at]
                        .iter()
                        .rposition(|w| w.is(&[",", "and", ";", "then"]))
                        .map_or(at, |n| from + n + 1)
                }
                _ => at,
            };
            match starts.last_mut() {
                // "bring to the boil", "let stand to cool": the second says it better.
                Some((from, first)) if merges(*first, verb, words, *from, at) => *first = verb,
                _ => starts.push((at, verb)),
            }
        }
    }
    // "6 tsp tea in 1.5 l cold water, 8 hours in the fridge, strained": what stands for hours is let stand.
    if starts.iter().all(|(at, _)| done_verb(&words[*at].text).is_some()) {
        let upto = starts.first().map_or(words.len(), |(at, _)| *at);
        let (minutes, _, timed) = first_time(&words[..upto]);
        let cold = says(
            &words[..upto],
            &["fridge", "refrigerator", "overnight", "counter", "lid", "covered", "boiling", "hot"],
        );
        let keeps = says(words, &["keep", "store", "lasts", "good", "best", "ready", "shelf"]);
        // Nobody lets a drink draw for more than three days: for weeks it keeps.
        if minutes.is_some_and(|m| (5.0..=4320.0).contains(&m))
            && (cold || !starts.is_empty())
            && !keeps
        {
            let from = words[..timed.start]
                .iter()
                .rposition(|w| w.is(&[","]))
                .map_or(timed.start, |comma| comma + 1);
            starts.insert(0, (from, Verb::Steep));
        }
    }
    let mut all = Vec::new();
    for (index, (from, verb)) in starts.iter().enumerate() {
        let to = starts.get(index + 1).map_or(words.len(), |(next, _)| *next);
        // What stands before the first verb belongs to it: "In a pan, heat ...", "With the rest of the water, top up".
        let begin = if index == 0 { 0 } else { *from };
        all.push(doing(*verb, words[*from].from, &words[begin..to], names));
    }
    all.retain(|d: &Doing| d.from < d.to);
    all
}

fn verb_at_next(words: &[Word], at: usize) -> bool {
    at + 1 < words.len() && verb_at(words, at + 1).is_some()
}

fn merges(first: Verb, second: Verb, words: &[Word], from: usize, at: usize) -> bool {
    use Verb as V;
    let between = &words[from + 1..at];
    let near = between.len() <= 6 && !says(between, &[",", "and", "then", ";"]);
    let leave =
        words[from].is(&["leave", "let", "allow", "set", "bring", "put", "place", "stand", "take"]);
    match (first, second) {
        (V::Boil(_), V::Boil(_)) => near && words[from].is(&["bring"]),
        (V::Steep, V::Cool | V::Chill | V::Macerate | V::Steep | V::Freeze) => near && leave,
        (V::Put, V::Chill | V::Freeze) => near,
        // "leave to drip"
        (V::Steep, V::Strain) => near && leave && words[at].is(&["drip", "drain"]),
        (V::Put, V::Boil(_)) => near && words[from].is(&["put"]),
        (V::Stir, V::Stir) => near,
        _ => false,
    }
}

fn doing(verb: Verb, verb_at: usize, words: &[Word], names: &Names<'_>) -> Doing {
    let span = (words.first().map_or(0, |w| w.from), words.last().map_or(0, |w| w.to));
    let (minutes, loose, timed) = first_time(words);
    let fridge = says(words, &["fridge", "refrigerator", "refrigerated", "icebox", "chilled"])
        && verb != Verb::Serve;
    let mut verb = verb;
    let clear =
        says(words, &["dissolve", "dissolved", "dissolves", "dissolving", "clear", "melted"]);
    let halved = down_to(words);
    let out_of_it = together(words, &["from", "the", "freezer"]);
    if says(words, &["freezer"])
        && !out_of_it
        && matches!(verb, Verb::Put | Verb::Steep | Verb::Chill)
    {
        verb = Verb::Freeze;
    }
    if verb == Verb::Steep
        && fridge
        && minutes.is_none_or(|m| m < 30.0)
        && !says(words, &["overnight", "steep", "infuse"])
    {
        verb = Verb::Chill;
    }
    let to_brix = brix(words);
    if (halved.is_some() || to_brix.is_some())
        && matches!(verb, Verb::Boil(_) | Verb::Heat | Verb::Reduce)
    {
        verb = Verb::Reduce;
    }
    // "Cook the sugar with the water until it has dissolved": no further.
    if verb == Verb::Boil(Vigour::Simmer) && clear && minutes.is_none() {
        verb = Verb::Heat;
    }
    // "Stir over a low heat until dissolved"
    let on_the_ring =
        says(words, &["heat", "stove", "flame", "ring", "hob", "burner", "saucepan", "pan"])
            && !together(words, &["off", "the", "heat"])
            && !together(words, &["from", "the", "heat"]);
    if verb == Verb::Stir && on_the_ring {
        verb = Verb::Heat;
    }
    if verb == Verb::Put && on_the_ring && says(words, &["bring", "simmer", "boil"]) {
        verb = Verb::Boil(Vigour::Simmer);
    }
    if verb == Verb::TopUp
        && says(words, &["bottles", "bottle", "jars"])
        && !says(words, &["water", "soda"])
    {
        verb = Verb::Bottle;
    }
    // "Put in the fridge"
    if verb == Verb::Put && fridge && uses(words, names, verb).is_empty() {
        verb = Verb::Chill;
    }
    if verb == Verb::Pour && says(words, &["bottle", "bottles", "jar", "jars"]) {
        verb = Verb::Bottle;
    }
    if verb == Verb::Pour
        && says(words, &["sieve", "strainer", "cloth", "muslin", "colander", "cheesecloth"])
    {
        verb = Verb::Strain;
    }
    if verb == Verb::Pour && says(words, &["glass", "glasses", "ice"]) && !says(words, &["water"]) {
        verb = Verb::Serve;
    }
    // "Add the calyces, cover, 20 minutes."
    if verb == Verb::Prepare && minutes.is_some_and(|m| m >= 3.0) && says(words, &["cover"]) {
        verb = Verb::Steep;
    }
    // "Shake, and keep in the fridge up to 5 days": nobody stirs for so long.
    let minutes = minutes.filter(|m| verb != Verb::Stir || *m <= 60.0);
    let amount = amounts(words, timed.clone());
    let except = except(words);
    let uses = uses(&words[..except.unwrap_or(words.len())], names, verb);
    Doing {
        unknown: unknown(words, &uses, timed, names),
        verb,
        verb_at,
        from: span.0,
        to: span.1,
        minutes,
        loose,
        uses,
        everything: everything(words),
        except: except.map_or_else(Vec::new, |at| {
            let rest = &words[at..];
            let end =
                rest.iter().position(|w| w.is(&["in", "into", "until", "till", ",", "together"]));
            names.find_all(&rest[..end.unwrap_or(rest.len())])
        }),
        // "Chop it, in the blender with the water": what is in hand goes along.
        mixture: words.iter().any(|w| w.from == verb_at && w.is(&["in"]) && verb == Verb::Put)
            || !makes_syrup(words, verb_at)
                && words.iter().enumerate().any(|(at, w)| {
                    // "The juice of one lemon" is none of what was made.
                    let of = words.get(at + 1).is_some_and(|w| w.is(&["of", "from"]));
                    w.is(&MADE_SO_FAR) && !(of && w.is(&["juice"]))
                }),
        vessel: vessel(words),
        cloth: says(words, &["cloth", "muslin", "cheesecloth", "bag", "coffee"]),
        it: says(words, &["it", "them"]),
        onto: says(words, &["onto"])
            || together(words, &["on", "to"])
            || together(words, &["over", "the"]),
        group: words
            .windows(2)
            .find(|pair| {
                pair[1].is(&["ingredient"])
                    && !pair[0].is(&["the", "all", "remaining", "dry", "other"])
            })
            .map(|pair| pair[0].text.clone()),
        pressed: says(words, &["press", "pressing", "squeezing", "push", "wring", "hard", "rub"])
            && !says(words, &["without", "don't", "don’t", "not"]),
        refrigerator: fridge,
        covered: says(words, &["cover", "covered", "lid", "lidded"]),
        clear,
        down_to: halved,
        to_c: temperature(words),
        to_brix,
        amount,
        boiling: boiling(words),
        per: per(words),
        covers: words.iter().any(|w| w.from == verb_at && w.is(&["cover"])),
    }
}

/// Whether what is poured is hot: "just-boiled water", not "just below boiling".
fn boiling(words: &[Word]) -> bool {
    words.iter().enumerate().any(|(at, w)| {
        let before = &words[at.saturating_sub(3)..at];
        (w.is(&["boiling", "kettle", "hot"]) && !says(before, &["below", "under"]))
            || (w.is(&["boiled"]) && says(before, &["just", "freshly"]))
    })
}

/// "To every pint of juice", "for each litre of it": what the amounts of the sentence go by.
fn per(words: &[Word]) -> Option<Amount> {
    let at = words.iter().position(|w| w.is(&["every", "each", "per"]))?;
    let led = words[at].is(&["per"]) || (at > 0 && words[at - 1].is(&["to", "for"]));
    let measure = words.get(at + 1).filter(|_| led)?;
    let one = format!("1 {}", measure.text).parse::<Amount>().ok()?;
    one.as_millilitres().map(|_| one)
}

/// What a cook calls what was made so far.
const MADE_SO_FAR: [&str; 12] = [
    "return",
    "it",
    "mixture",
    "syrup",
    "liquid",
    "infusion",
    "tea",
    "juice",
    "them",
    "brew",
    "base",
    "concentrate",
];

/// Whether it is said of all that hasn't gone in yet; "all of the sugar" is only that.
fn everything(words: &[Word]) -> bool {
    says(words, &["everything", "ingredients"])
        || words.iter().enumerate().any(|(at, w)| {
            let mut rest = words[at + 1..].iter().skip_while(|w| w.is(&["of", "the"]));
            w.is(&["all"])
                && rest.next().is_none_or(|w| {
                    w.is_sign()
                        || w.is(&[
                            "in",
                            "into",
                            "together",
                            "but",
                            "except",
                            "it",
                            "this",
                            "these",
                            "them",
                            "rest",
                            "remaining",
                            "other",
                            "others",
                            "above",
                            "thing",
                            "and",
                            "with",
                            "to",
                        ])
                })
        })
}

/// Where it is said what stays out: "everything but the soda".
fn except(words: &[Word]) -> Option<usize> {
    let all = words.iter().position(|w| w.is(&["everything", "all", "ingredients"]))?;
    let out = words[all..].iter().position(|w| w.is(&["but", "except", "besides"]))?;
    Some(all + out)
}

/// "Make a syrup of the sugar": the syrup is what comes of it, not what is there.
fn makes_syrup(words: &[Word], verb_at: usize) -> bool {
    words.iter().any(|w| w.from == verb_at && w.is(&["make"]))
}

/// The first time that is said, and which words it takes.
fn first_time(words: &[Word]) -> (Option<f64>, bool, std::ops::Range<usize>) {
    for at in 0..words.len() {
        if let Some((minutes, loose, used)) = time(&words[at..]) {
            return (Some(minutes), loose, at..at + used);
        }
    }
    (None, false, 0..0)
}

fn down_to(words: &[Word]) -> Option<f64> {
    if !says(
        words,
        &["reduce", "reduced", "reduces", "down", "thick", "syrupy", "halved", "half", "thickened"],
    ) {
        return None;
    }
    if together(words, &["by", "half"])
        || says(words, &["halved"])
        || together(words, &["to", "half"])
    {
        return Some(0.5);
    }
    if together(words, &["by", "a", "third"]) || together(words, &["by", "one", "third"]) {
        return Some(2.0 / 3.0);
    }
    if together(words, &["to", "a", "third"]) {
        return Some(1.0 / 3.0);
    }
    if together(words, &["by", "two", "thirds"]) {
        return Some(1.0 / 3.0);
    }
    if together(words, &["by", "a", "quarter"]) {
        return Some(0.75);
    }
    says(words, &["syrupy", "thick", "thickened"]).then_some(0.67)
}

fn temperature(words: &[Word]) -> Option<f64> {
    // "To just below boiling": bubbles at the edge, which is at about 95 °C.
    let near = words.windows(2).any(|w| w[0].is(&["below", "under"]) && w[1].is(&["boiling"]));
    if near || together(words, &["below", "the", "boil"]) {
        return Some(95.0);
    }
    for at in 0..words.len() {
        let Some((many, used)) = number(&words[at..]) else { continue };
        let degree = usize::from(
            words.get(at + used).is_some_and(|w| w.is(&["°", "º", "degrees", "degree", "deg"])),
        );
        let Some(unit) = words.get(at + used + degree) else { continue };
        let celsius = match unit.text.as_str() {
            "°c" | "ºc" | "c" | "celsius" | "centigrade" => many.low,
            "°f" | "ºf" | "f" | "fahrenheit" => (many.low - 32.0) / 1.8,
            _ => continue,
        };
        if (-20.0..=125.0).contains(&celsius)
            && (degree > 0 || many.low > 30.0 || unit.text.len() > 1)
        {
            return Some(celsius);
        }
    }
    None
}

/// "Until it reads 58 °Bx"
fn brix(words: &[Word]) -> Option<f64> {
    (0..words.len()).find_map(|at| {
        let (many, used) = number(&words[at..])?;
        let degree =
            usize::from(words.get(at + used).is_some_and(|w| w.is(&["°", "º", "degrees"])));
        let unit = words.get(at + used + degree)?;
        let read = unit.is(&["bx", "brix", "°bx", "ºbx", "°brix", "ºbrix"]);
        (read && (1.0..=80.0).contains(&many.low)).then_some(many.low)
    })
}

/// An amount that stands in the sentence by itself: "fill up to 2 litres".
fn amounts(words: &[Word], timed: std::ops::Range<usize>) -> Option<Amount> {
    let mut at = 0;
    while at < words.len() {
        if timed.contains(&at) {
            at = timed.end;
            continue;
        }
        if let Some((amount, _)) = list::plain(&words[at..])
            && amount.as_millilitres().is_some()
        {
            return Some(amount);
        }
        at += 1;
    }
    None
}

/// What is measured out in a sentence without being known: "and 5 ml caramel colour".
fn unknown(
    words: &[Word],
    uses: &[Use],
    timed: std::ops::Range<usize>,
    names: &Names<'_>,
) -> Vec<Vec<Word>> {
    // "a 2 litre jug", "250 ml of the strained liquid", "500 ml at a time"
    const NO_NAMES: [&str; 36] = [
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
        "mixture",
        "syrup",
        "liquid",
        "juice",
        "container",
        "left",
        "if",
    ];
    let mut all = Vec::new();
    let mut at = 0;
    while at < words.len() {
        let measured = list::plain(&words[at..]).map(|(_, used)| used);
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
        let known = uses.iter().any(|u| {
            u.words
                .first()
                .zip(u.words.last())
                .is_some_and(|(a, b)| a.from < words[end - 1].to && words[begin].from < b.to)
        });
        let named = (1..=4).contains(&(end - at.min(end)))
            && words[at..end].iter().all(|w| !w.text.starts_with(|c: char| c.is_ascii_digit()))
            && !words[at].is(&NO_NAMES)
            && !words[end - 1].is(&NO_NAMES);
        if named && !known && names.find(&words[at..end]).is_none() {
            all.push(words[begin..end].to_vec());
        }
    }
    all
}

fn vessel(words: &[Word]) -> Option<VesselKind> {
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
fn uses(words: &[Word], names: &Names<'_>, verb: Verb) -> Vec<Use> {
    let mut all = Vec::new();
    let found = names.find_all(words);
    for one in &found {
        let (first, last) = (one.at[0], *one.at.last().unwrap_or(&0));
        let before = &words[first.saturating_sub(6)..first];
        // Only back to the last thing or comma.
        let since = before
            .iter()
            .rposition(|w| w.is(&[",", "and", ";", "to", "into", "in", "with", "over"]))
            .map_or(0, |n| n + 1);
        let before = &before[since..];
        let front = first - before.len();
        let verb = (front..first).rposition(|n| verb_at(words, n).is_some()).map_or(0, |n| n + 1);
        let before = &before[verb..];
        // What it is said to be done to or lie in is no new amount: "until the sugar dissolves".
        let waited = words[..first].iter().rposition(|w| w.is(&["until", "till"]));
        let ended = words[..first].iter().rposition(|w| w.is(&[","]));
        if waited.is_some() && (ended.is_none() || ended < waited) {
            continue;
        }
        let share = if says(before, &["half"])
            && !says(before, &["litre", "cup", "pint", "teaspoon", "tablespoon", "hour"])
        {
            Share::Part(0.5)
        } else if says(before, &["remaining", "rest", "other"]) {
            Share::Rest
        } else if says(before, &["some", "little", "bit"]) {
            // "some of the water (a mugful)"
            match amounts(&words[last + 1..], 0..0) {
                Some(amount) => Share::Amount(amount),
                None => Share::Some,
            }
        } else if let Some(amount) = amount_before(before) {
            Share::Amount(amount)
        } else {
            Share::All
        };
        let from = first.saturating_sub(before.len());
        // "The zest of the oranges and lemons" is that of both.
        let joined = words[..first].iter().rposition(|w| !w.is(&["and", "&", "the", ","]));
        let with = all.last().filter(|u: &&Use| {
            let end = u.found.at.last().copied();
            end.is_some()
                && end == joined
                && says(&u.words, &["of"])
                && names.citrus(&words[first..=last]).is_some()
        });
        let part = with.map_or_else(Vec::new, |u| {
            let of = u.words.iter().position(|w| w.is(&["of"])).map_or(0, |n| n + 1);
            u.words[..of].to_vec()
        });
        let end = (last + 3).min(words.len());
        let upto = words[last + 1..end]
            .iter()
            .position(|w| w.is(&[",", "and", ";", ".", "with", "in", "into", "over"]))
            .map_or(end, |n| last + 1 + n);
        let said = [part.as_slice(), &words[from..upto]].concat();
        all.push(Use { found: one.clone(), words: said, share, tells: false });
    }
    for (at, word) in words.iter().enumerate() {
        let Some((_, sort)) = SORTS.iter().find(|(any, _)| any.contains(&word.stem.as_str()))
        else {
            continue;
        };
        let taken = found.iter().any(|f| f.at.contains(&at));
        let waited = words[..at]
            .iter()
            .rposition(|w| w.is(&["until", "till", "from"]))
            .is_some_and(|u| !words[u..at].iter().any(|w| w.is(&[","])));
        // "Sweeten with honey" says with what.
        let said = word.is(&["sweeten"]) && !found.is_empty();
        if !taken && !waited && !said {
            let found = Found { id: (*sort).to_owned(), nearest: false, at: vec![at] };
            let share =
                if at > 0 && words[at - 1].is(&["remaining"]) { Share::Rest } else { Share::All };
            all.push(Use { found, words: vec![word.clone()], share, tells: false });
        }
    }
    // A lemon is named: what of it is meant, the list knows. "Squeeze the lemons" is their juice, and "lemon
    // slices" are no zest.
    // "Zest 2 of the lemons" uses their zest.
    let zest = words.iter().take(3).find(|w| verb == Verb::Prepare && w.is(&["zest"]));
    // "Make a simple syrup with the sugar" isn't one that is bought.
    let makes = words.iter().position(|w| w.is(&["make"]));
    all.retain(|one| {
        let syrup = one.found.id.contains("syrup") && one.share == Share::All;
        !(syrup && makes.is_some_and(|at| one.found.at.iter().all(|n| *n > at && *n <= at + 5)))
    });
    for one in &mut all {
        if let Some(zest) = zest.filter(|_| names.citrus(&one.words).is_some()) {
            one.words.insert(0, zest.clone());
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

fn amount_before(before: &[Word]) -> Option<Amount> {
    (0..before.len()).find_map(|at| {
        let (amount, used) = list::plain(&before[at..])?;
        let rest = &before[at + used..];
        // "4 cups of ice-cold water": signs and small words don't count.
        let between = rest.iter().filter(|w| !w.is_sign() && !w.is(&["of"])).count();
        (between <= 3 && !says(rest, &[","])).then_some(amount)
    })
}

#[cfg(test)]
mod tests {
    use super::super::words::words;
    use super::*;
    use keen_core::cupboard::Cupboard;

    fn said(text: &str) -> Vec<(Verb, Option<f64>)> {
        let names = Names::of(Cupboard::builtin());
        doings(&words(text), &names).into_iter().map(|d| (d.verb, d.minutes)).collect()
    }

    #[test]
    fn sentences_say_what_is_done_and_for_how_long() {
        use Verb as V;
        for (text, wanted) in [
            (
                "Rub the sugar into the zest and leave for half an hour.",
                vec![(V::Rub, None), (V::Steep, Some(30.0))],
            ),
            (
                "Bring the water to the boil, add the calyces and simmer for 10 minutes.",
                vec![
                    (V::Boil(Vigour::Boil), None),
                    (V::Put, None),
                    (V::Boil(Vigour::Simmer), Some(10.0)),
                ],
            ),
            ("Strain through muslin, then chill.", vec![(V::Strain, None), (V::Chill, None)]),
            (
                "The syrup is boiled for ten minutes and then strained.",
                vec![(V::Boil(Vigour::Boil), Some(10.0)), (V::Strain, None)],
            ),
            ("Stir until the sugar has dissolved.", vec![(V::Stir, None)]),
            ("Leave to cool.", vec![(V::Cool, None)]),
            ("The children love it.", vec![]),
            ("Reduce by half over a high flame.", vec![(V::Reduce, None)]),
            ("Let it steep overnight in the fridge", vec![(V::Steep, Some(600.0))]),
        ] {
            assert_eq!(said(text), wanted, "{text}");
        }
    }

    #[test]
    fn degrees_are_told_from_times_and_cups() {
        let names = Names::of(Cupboard::builtin());
        let to = |text: &str| doings(&words(text), &names)[0].to_c;
        assert_eq!(to("Heat to 80 °C."), Some(80.0));
        assert_eq!(to("Heat the milk to 176F."), Some(80.0));
        assert_eq!(to("Heat 2 cups of water."), None);
    }
}
