//! What a sentence of the method says is done: heat, steep, strain, blend, chill, and for how long.

use keen_core::cupboard::VesselKind;
use keen_core::drink::{Vigour, Warmth};
use keen_core::quantity::Amount;

use super::names::{Found, Names};
use super::said;
use super::said::per;
use super::uses::{Use, amounts, unknown, uses};
use super::verbs::{SIEVES, Verb, done_verb, verb_at, verb_of, vessel};
use keen_core::quantity::said::{Word, number, says, time, together};

/// One step.
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
    /// "Top up to 1.5 litres": the line that it is filled up to.
    pub(super) fills_to: Option<Amount>,
    /// How warm that is which is poured, where it is said: boiling or hot.
    pub(super) poured: Option<Warmth>,
    /// "To every pint": as often as this is there.
    pub(super) per: Option<Amount>,
    /// "Pour another 150 ml water through the pulp": it washes out what stayed in the sieve.
    pub(super) rinses: bool,
    /// "Meanwhile squeeze the oranges": not into what is on the stove.
    pub(super) aside: bool,
    /// "In another small pan": not in the one that is in use.
    pub(super) another_pan: bool,
    /// "Strain into the tea": to what stands aside.
    pub(super) into_what_stands: bool,
    /// "Top each with 200 ml": it is said for one of them.
    pub(super) each: bool,
    /// "500 ml of the spiced water": so much of what was made so far.
    pub(super) out_of_it: Option<Amount>,
    /// Just enough of it to cover what lies there.
    pub(super) covers: bool,
    /// What is measured out and isn't known by that name.
    pub(super) unknown: Vec<Vec<Word>>,
}

/// The verbs of a sentence, and where what each says begins.
fn starts(words: &[Word]) -> Vec<(usize, Verb)> {
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
                "in" if !words[at - 1].is_sign() => {
                    counted_before(words, starts.last().map_or(0, |(s, _)| s + 1), at)
                }
                // "400 g sugar is added": so does what is done to it.
                _ if done_verb(&words[at].text).is_some() && verb_of(&words[at].text).is_none() => {
                    behind_the_last(words, starts.last().map_or(0, |(s, _)| s + 1), at)
                        .unwrap_or(at)
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
    starts
}

/// What stands for hours without a verb: "6 tsp tea in 1.5 l cold water, 8 hours in the fridge, strained", "after half
/// an hour, strain".
fn let_stand(words: &[Word], starts: &mut Vec<(usize, Verb)>) {
    if starts.iter().all(|(at, _)| done_verb(&words[*at].text).is_some()) {
        let upto = starts.first().map_or(words.len(), |(at, _)| *at);
        let (minutes, _, timed) = first_time(&words[..upto]);
        let cold = says(
            &words[..upto],
            &["fridge", "refrigerator", "overnight", "counter", "lid", "covered", "boiling", "hot"],
        );
        let keeps = says(
            words,
            &["keep", "store", "lasts", "good", "best", "ready", "shelf", "within", "hold"],
        );
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
    // Until then it stands.
    if words.first().is_some_and(|w| w.is(&["after"]))
        && let Some((first, verb)) = starts.first().copied()
        && verb != Verb::Steep
    {
        let (minutes, _, timed) = first_time(&words[..first]);
        let only = words[timed.end.min(first)..first].iter().all(|w| w.is_sign() || w.is(&["you"]));
        if minutes.is_some() && only {
            starts.insert(0, (0, Verb::Steep));
        }
    }
}

/// Everything that a sentence says is done, in its order.
pub(super) fn doings(words: &[Word], names: &Names<'_>) -> Vec<Doing> {
    let mut starts = starts(words);
    let_stand(words, &mut starts);
    let mut all = Vec::new();
    // What stands before the first verb belongs to it: "In a pan, heat ...", "With the rest of the water, top up". So
    // does "and to every pint of it put a pound of sugar".
    let begins: Vec<usize> = (0..starts.len())
        .map(|index| match index.checked_sub(1) {
            None => 0,
            Some(before) => led_by(words, starts[before].0 + 1, starts[index].0),
        })
        .collect();
    for (index, (from, verb)) in starts.iter().enumerate() {
        let to = begins.get(index + 1).copied().unwrap_or(words.len());
        let begin = begins[index];
        all.push(doing(*verb, words[*from].from, &words[begin..to], names));
    }
    all.retain(|d: &Doing| d.from < d.to);
    // "Cover and simmer": it simmers covered.
    for at in 1..all.len() {
        let (front, rest) = all.split_at_mut(at);
        let lid =
            front.last().is_some_and(|d| d.verb == Verb::Prepare && d.covered && d.uses.is_empty());
        rest[0].covered |= lid;
    }
    all
}

/// Where that begins which goes "in": "strain, 200 g sugar in" counts it out, "juice in" names it.
fn counted_before(words: &[Word], from: usize, at: usize) -> usize {
    behind_the_last(words, from, at)
        .filter(|begin| at - begin <= 6 && number(&words[*begin..at]).is_some())
        .unwrap_or(at - 1)
}

/// Where "to every pint of it", "for each litre" begins before what is done, or that itself.
fn led_by(words: &[Word], from: usize, verb: usize) -> usize {
    let led = |at: &usize| {
        words[*at].is(&["to", "for"])
            && words[at + 1].is(&["every", "each"])
            && words[at - 1].is(&[",", "and", ";"])
    };
    (from.max(1)..verb.saturating_sub(1)).rfind(led).unwrap_or(verb)
}

/// Where it goes on behind the last word that sets things apart.
fn behind_the_last(words: &[Word], from: usize, at: usize) -> Option<usize> {
    let apart = |w: &Word| w.is(&[",", "and", ";", "then"]);
    words[from..at].iter().rposition(apart).map(|n| from + n + 1)
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
        // "Strain through muslin, let it drip"
        (V::Strain, V::Strain) => words[at].is(&["drip", "drain"]),
        _ => false,
    }
}

fn doing(verb: Verb, verb_at: usize, words: &[Word], names: &Names<'_>) -> Doing {
    let span = (words.first().map_or(0, |w| w.from), words.last().map_or(0, |w| w.to));
    let (minutes, loose, timed) = first_time(words);
    let cold = ["fridge", "refrigerator", "refrigerated", "icebox", "chilled"];
    let refrigerator = says(words, &cold) && verb != Verb::Serve;
    let verb = by_the_time(verb, words, minutes, refrigerator);
    let verb = by_the_fire(verb, words, minutes);
    let verb = by_where_it_goes(verb, words, refrigerator, names);
    // "Add the calyces, cover, 20 minutes."
    let stands = minutes.is_some_and(|m| m >= 3.0) && says(words, &["cover"]);
    let verb = if verb == Verb::Prepare && stands { Verb::Steep } else { verb };
    // "Shake, and keep in the fridge up to 5 days": nobody stirs for so long.
    // "Use within 3 days", "refrigerate up to 3 weeks" is how long it keeps.
    let minutes = minutes
        .filter(|m| (verb != Verb::Stir || *m <= 60.0) && !says(words, &["within"]))
        .filter(|m| verb != Verb::Chill || *m <= 4320.0);
    let except = except(words);
    let uses = uses(&words[..except.unwrap_or(words.len())], names, verb);
    Doing {
        amount: amounts(words, timed.clone()),
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
        mixture: (verb == Verb::Put && begins_with(words, verb_at, "in"))
            || !makes_syrup(words, verb_at) && names_what_was_made(words),
        vessel: vessel(words),
        cloth: says(words, &["cloth", "muslin", "cheesecloth", "bag", "coffee"]),
        it: says(words, &["it", "them"]) || points_back(words),
        onto: says(words, &["onto"])
            || together(words, &["on", "to"])
            || together(words, &["over", "the"]),
        group: group(words),
        pressed: pressed(verb, words),
        refrigerator,
        rinses: verb == Verb::Pour && says(words, &SIEVES) && more_water(words),
        aside: verb == Verb::Squeeze && !says(words, &["in", "into", "over", "onto", "to"]),
        covered: says(words, &["cover", "covered", "lid", "lidded"]),
        clear: says(words, &CLEAR),
        down_to: down_to(words),
        to_c: temperature(words),
        to_brix: brix(words),
        fills_to: fills_to(words).filter(|_| verb == Verb::TopUp),
        poured: poured(words),
        per: per(words),
        each: says(words, &["each"]),
        another_pan: another_pan(words),
        into_what_stands: words
            .windows(3)
            .any(|w| w[0].is(&["into", "to"]) && w[1].is(&["the"]) && w[2].is(&MADE_SO_FAR)),
        out_of_it: out_of_it(words),
        covers: begins_with(words, verb_at, "cover"),
    }
}

/// Until the sugar has gone.
const CLEAR: [&str; 6] = ["dissolve", "dissolved", "dissolves", "dissolving", "clear", "melted"];

/// What a verb means by how long and how cold it is: "leave in the fridge" chills, "leave until cold" cools.
fn by_the_time(verb: Verb, words: &[Word], minutes: Option<f64>, fridge: bool) -> Verb {
    let taken_out = together(words, &["from", "the", "freezer"]);
    if says(words, &["freezer"])
        && !taken_out
        && matches!(verb, Verb::Put | Verb::Steep | Verb::Chill)
    {
        return Verb::Freeze;
    }
    if verb != Verb::Steep {
        return verb;
    }
    let cold = words.iter().position(|w| w.is(&["until", "till"])).is_some_and(|at| {
        words[at + 1..].iter().take(3).any(|w| w.is(&["cold", "cool", "cooled"]))
    });
    let short = minutes.is_none_or(|m| m < 30.0);
    if fridge && short && !says(words, &["overnight", "steep", "infuse"]) {
        Verb::Chill
    } else if minutes.is_none() && cold && !fridge {
        Verb::Cool
    } else {
        verb
    }
}

/// What a verb means over a fire: "cook until it has dissolved" only heats, "stir over a low heat" heats too, and what
/// is left there for ten minutes simmers.
fn by_the_fire(verb: Verb, words: &[Word], minutes: Option<f64>) -> Verb {
    let boils_down = down_to(words).is_some() || brix(words).is_some();
    let verb = match verb {
        Verb::Boil(_) | Verb::Heat | Verb::Reduce if boils_down => return Verb::Reduce,
        // No further than until the sugar has gone.
        Verb::Boil(Vigour::Simmer) if says(words, &CLEAR) && minutes.is_none() => Verb::Heat,
        other => other,
    };
    let on_the_ring =
        says(words, &["heat", "stove", "flame", "ring", "hob", "burner", "saucepan", "pan"])
            && !together(words, &["off", "the", "heat"])
            && !together(words, &["off", "heat"])
            && !together(words, &["from", "the", "heat"]);
    // "On a slow fire for half an hour", "give it ten minutes at the boil"
    let boils = says(words, &["fire"])
        || together(words, &["at", "the", "boil"])
        || on_the_ring && says(words, &["heat", "flame"]);
    let verb = match verb {
        Verb::Stir if on_the_ring => Verb::Heat,
        Verb::Put | Verb::Steep if minutes.is_some() && boils => Verb::Boil(Vigour::Simmer),
        Verb::Put if on_the_ring && says(words, &["bring", "simmer", "boil"]) => {
            Verb::Boil(Vigour::Simmer)
        }
        other => other,
    };
    // "Reduce the heat to low and simmer gently"
    let gently = says(words, &["gently", "barely", "bare", "lowest", "low"]);
    if verb == Verb::Boil(Vigour::Simmer) && gently { Verb::Boil(Vigour::Gentle) } else { verb }
}

/// What a verb means by where something goes: what is poured through a sieve is strained, and into bottles bottled.
fn by_where_it_goes(verb: Verb, words: &[Word], fridge: bool, names: &Names<'_>) -> Verb {
    let bottles = says(words, &["bottle", "bottles", "jar", "jars"]);
    if verb == Verb::TopUp && bottles && !says(words, &["water", "soda"]) {
        return Verb::Bottle;
    }
    if matches!(verb, Verb::Put | Verb::Pour) && until_there_is(words) {
        return Verb::TopUp;
    }
    // "Put in the fridge"
    if verb == Verb::Put && fridge && uses(words, names, verb).is_empty() {
        return Verb::Chill;
    }
    if verb != Verb::Pour {
        return verb;
    }
    if bottles {
        Verb::Bottle
    } else if says(words, &SIEVES) && !more_water(words) {
        Verb::Strain
    } else if says(words, &["glass", "glasses", "ice"]) && !says(words, &["water"]) {
        Verb::Serve
    } else {
        verb
    }
}

/// "Pour the boiling water through the sieve to wash out the pulp", "pour another 150 ml water through it".
fn more_water(words: &[Word]) -> bool {
    says(words, &["water"]) && says(words, &["boiling", "more", "another", "extra", "little"])
}

/// "The syrup ingredients": the part of the list that is meant.
fn group(words: &[Word]) -> Option<String> {
    let no_part = ["the", "all", "remaining", "dry", "other"];
    let mut pairs = words.windows(2);
    let pair = pairs.find(|pair| pair[1].is(&["ingredient"]) && !pair[0].is(&no_part))?;
    Some(pair[0].text.clone())
}

/// Whether what was made so far is named: "it", "the syrup", "the almond milk".
fn names_what_was_made(words: &[Word]) -> bool {
    words.iter().enumerate().any(|(at, w)| {
        // "The juice of one lemon" is none of what was made.
        let of = words.get(at + 1).is_some_and(|w| w.is(&["of", "from"]));
        // "The almond milk" was made of almonds.
        let milked =
            w.is(&["milk"]) && at > 1 && words[at - 1].is(&MILKED) && words[at - 2].is(&["the"]);
        milked || w.is(&MADE_SO_FAR) && !(of && w.is(&["juice"]))
    })
}

/// "To 1.5 litres", "to make about 2 litres": the line that something is filled up to.
fn fills_to(words: &[Word]) -> Option<Amount> {
    words.iter().enumerate().filter(|(_, w)| w.is(&["to", "have", "reach"])).find_map(|(at, _)| {
        let rest = &words[at + 1..];
        let small =
            |w: &&Word| w.is(&["make", "about", "a", "the", "total", "of", "reach", "give"]);
        let skipped = rest.iter().take_while(small).count();
        let (amount, _) = said::plain(&rest[skipped..]).or_else(|| said::plain(rest))?;
        amount.as_millilitres().is_some().then_some(amount)
    })
}

/// "Add cold water until you have 1.5 litres", "pour in water to make 2 litres": up to a line.
fn until_there_is(words: &[Word]) -> bool {
    let until = words.windows(3).position(|w| {
        w[0].is(&["until", "till"])
            && w[1].is(&["you", "it", "there", "they", "the"])
            && w[2].is(&[
                "have", "make", "makes", "is", "are", "measure", "measures", "reaches", "fill",
            ])
    });
    let made = words.windows(2).position(|w| w[0].is(&["to"]) && w[1].is(&["make"]));
    // "To make cordial you want … to a quart of water" says nothing of the kind: the volume stands right behind.
    let volume = |rest: &[Word]| {
        let near = (0..rest.len().min(5)).find_map(|at| said::plain(&rest[at..]));
        near.is_some_and(|(amount, _)| amount.as_millilitres().is_some())
    };
    until.is_some_and(|at| volume(&words[at + 3..]))
        || made.is_some_and(|at| volume(&words[at + 2..]))
}

/// How warm what is poured is: "just-boiled water" boils, "just below boiling" doesn't.
fn poured(words: &[Word]) -> Option<Warmth> {
    let boiling = words.iter().enumerate().any(|(at, w)| {
        let before = &words[at.saturating_sub(3)..at];
        (w.is(&["boiling", "kettle"]) && !says(before, &["below", "under"]))
            || (w.is(&["boiled"]) && says(before, &["just", "freshly"]))
    });
    let hot = || says(words, &["hot"]).then_some(Warmth::Hot);
    if boiling { Some(Warmth::Boiling) } else { hot() }
}

/// "In a small saucepan", "in a separate pan".
fn another_pan(words: &[Word]) -> bool {
    words.iter().enumerate().any(|(at, w)| {
        w.is(&["pan", "saucepan", "pot"])
            && says(&words[at.saturating_sub(2)..at], &["small", "another", "separate", "second"])
    })
}

/// "200 ml of the syrup", "500 ml of the spiced water": some of what was made so far.
fn out_of_it(words: &[Word]) -> Option<Amount> {
    (0..words.len()).find_map(|at| {
        let (amount, used) = said::plain(&words[at..])?;
        let rest = &words[at + used..];
        let of_the = rest.len() > 2 && rest[0].is(&["of"]) && rest[1].is(&["the", "that", "this"]);
        let noun = rest.get(2..)?.iter().take(3).take_while(|w| !w.is_sign()).position(|w| {
            w.is(&["syrup", "liquid", "infusion", "tea", "brew", "mixture", "concentrate", "water"])
        })?;
        // "200 ml of the water" is of the list; "of the spiced water" was made.
        let made = noun > 0 || !rest[2].is(&["water"]);
        let plain = rest[2].is(&[
            "cold",
            "hot",
            "boiling",
            "remaining",
            "measured",
            "iced",
            "sugar",
            "simple",
        ]);
        (of_the && made && !plain && amount.as_millilitres().is_some()).then_some(amount)
    })
}

/// Whether the last of it is pressed out. "Strain, no squeezing" isn't, nor is what is left to drip by itself.
fn pressed(verb: Verb, words: &[Word]) -> bool {
    const PRESSED: [&str; 8] =
        ["press", "pressing", "squeezing", "push", "pushing", "wring", "hard", "rub"];
    let presses = |w: &Word| w.is(&PRESSED) || verb == Verb::Strain && w.is(&["squeeze"]);
    let no = |at: usize| {
        let before = &words[at.saturating_sub(4)..at];
        says(before, &["without", "don't", "don’t", "not", "no", "never"])
    };
    words.iter().enumerate().any(|(at, w)| presses(w) && !no(at))
}

/// What is milked of a plant.
const MILKED: [&str; 8] = ["almond", "nut", "rice", "oat", "cashew", "hazelnut", "soy", "barley"];

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
    let the_rest = words.windows(2).enumerate().any(|(at, w)| {
        let of = words.get(at + 2).is_some_and(|w| w.is(&["of"]));
        w[0].is(&["the", "add"]) && w[1].text == "rest" && !of
    });
    says(words, &["everything", "ingredients"])
        || the_rest
        || words.iter().enumerate().any(|(at, w)| {
            let mut rest = words[at + 1..].iter().skip_while(|w| w.is(&["of", "the"]));
            // "The limes, skin and all"
            let and_all = at > 1
                && words[at - 1].is(&["and", "&"])
                && words[at - 2]
                    .is(&["skin", "peel", "core", "seed", "pip", "pith", "stalk", "rind"]);
            w.is(&["all"])
                && !and_all
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

/// Whether it is by this word that something is done.
fn begins_with(words: &[Word], verb_at: usize, verb: &str) -> bool {
    words.iter().any(|w| w.from == verb_at && w.is(&[verb]))
}

/// "Make a syrup of the sugar": the syrup is what comes of it, not what is there.
fn makes_syrup(words: &[Word], verb_at: usize) -> bool {
    begins_with(words, verb_at, "make")
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

pub(super) fn temperature(words: &[Word]) -> Option<f64> {
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

/// "I blend that with the juice": what was done before. "So that it dissolves" and "that melon" point at nothing.
fn points_back(words: &[Word]) -> bool {
    words.windows(2).enumerate().any(|(at, pair)| {
        pair[0].is(&["that", "this", "those", "these"])
            && pair[1].is(&["with", "in", "into", "to", "for", "and", ",", "until", "through"])
            && at > 0
            && verb_at(words, at - 1).is_some()
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::cupboard::Cupboard;
    use keen_core::quantity::said::words;

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
