//! Something that goes in, and how much of it that is: the measure that a line says, fitted to what it measures.
//! A cup of leaves, a handful, a thumb of ginger are estimates of a cook's hand, and marked as guessed.

use keen_core::cupboard::{Cupboard, Ingredient, Kind};
use keen_core::drink::{Cut, Warmth};
use keen_core::quantity::{Amount, Dimension, Measure};

use super::outcome::Sure;
use super::said::{Said, amount_in, text_of};
use keen_core::quantity::said::{Counted, Fullness, Many, Word, says, together};

/// Something that goes into the drink, as it was read.
#[derive(Debug, Clone)]
pub(super) struct Item {
    pub(super) ingredient: Option<String>,
    /// The words in the recipe that it was read from.
    pub(super) words: Vec<Word>,
    pub(super) amount: Option<Amount>,
    /// A second amount for the same thing that doesn't agree.
    pub(super) other: Option<Amount>,
    pub(super) sure: Sure,
    pub(super) why: Vec<String>,
    /// "Per 500 ml of juice": the amount is for as much as that.
    pub(super) per: Option<Amount>,
    /// Up to a line, or as much as fills the vessel.
    pub(super) fills: bool,
    /// Put on the glass, not into the pitcher.
    pub(super) garnish: bool,
    pub(super) optional: bool,
    pub(super) warmth: Warmth,
    pub(super) cut: Cut,
    /// "9 %": how much of the whole it is, in hundredths.
    pub(super) share: Option<f64>,
    /// Whether the text says how much.
    pub(super) said: bool,
    /// What could be taken instead: "honey or agave".
    pub(super) instead: Vec<String>,
}

impl Item {
    /// Something that is counted out under a name that isn't known here.
    pub(super) fn asked(words: &[Word], amount: Option<Amount>) -> Self {
        Self {
            ingredient: None,
            words: words.to_vec(),
            amount,
            other: None,
            sure: Sure::Asked,
            why: vec!["We don't know an ingredient with this name.".into()],
            per: None,
            fills: false,
            garnish: false,
            optional: false,
            warmth: Warmth::Usual,
            cut: Cut::Usual,
            share: None,
            said: true,
            instead: Vec::new(),
        }
    }

    /// Something that is only named: as much of it as is usual in a pitcher.
    pub(super) fn usual(words: &[Word], it: &Ingredient, cupboard: &Cupboard) -> Self {
        Self {
            ingredient: Some(it.id.clone()),
            sure: Sure::Guessed,
            why: vec!["No amount given: we used the usual for a pitcher.".into()],
            said: false,
            ..Self::asked(words, Some(cupboard.usual_amount(it)))
        }
    }
}

/// Why an amount is a guess: it can't be converted; it was measured by the hand.
pub(super) const NOT_CONVERTED: &str =
    "We couldn't convert this amount, so we used the usual for a pitcher.";
const NOT_THIS_SIZE: &str = "We don't know this size, so we used a usual one.";
const ASSUMED: &str = "We assumed the weight of";
const AS_THE_HAND: &str = " depends on the size of the hand.";

pub(super) fn guess(item: &mut Item, why: String) {
    item.sure = item.sure.max(Sure::Guessed);
    item.why.push(why);
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

fn is_poured(it: &Ingredient) -> bool {
    use Kind as K;
    matches!(it.kind, K::Juice | K::Water | K::Soda | K::Spirit | K::Dairy)
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
pub(super) fn measured(
    item: &mut Item,
    said: &Said,
    words: &[Word],
    it: &Ingredient,
    cupboard: &Cupboard,
) {
    let Said { many, counted, full, .. } = said;
    if many.loose {
        guess(item, "The recipe gives only a rough amount.".into());
    }
    // "10 tea bags", "2 cinnamon sticks": what it is counted by stands behind the name.
    let behind = counted.is_none().then(|| {
        let end = words[said.to.min(words.len())..]
            .iter()
            .position(Word::is_sign)
            .map_or(words.len(), |n| said.to + n);
        words[said.to.min(end)..end].iter().skip(1).find_map(|w| {
            match keen_core::quantity::said::measure_word(&w.text) {
                Some(Counted::By(by)) => Some(Counted::By(by)),
                _ => None,
            }
        })
    });
    let behind = behind.flatten().filter(|by| {
        let Counted::By(by) = by else { return false };
        !(matches!(*by, "slice" | "piece" | "strip" | "wedge" | "cube") && it.kind != Kind::Ice)
    });
    match behind.as_ref().or(counted.as_ref()) {
        Some(Counted::In(measure)) => in_a_measure(item, (many, *full), measure, it, cupboard),
        Some(Counted::By(by)) => by_the_piece(item, many, by, (words, it, cupboard)),
        None => by_itself(item, many, (words, it, cupboard)),
    }
}

/// "2 cups", "200 g", "a heaped spoon".
fn in_a_measure(
    item: &mut Item,
    (many, full): (&Many, Fullness),
    measure: &Measure,
    it: &Ingredient,
    cupboard: &Cupboard,
) {
    // Of what is poured, an ounce is a fluid one: nobody weighs juice into a glass.
    let measure = match measure {
        Measure::Ounce if is_poured(it) => &Measure::FluidOunce,
        measure => measure,
    };
    let Some(amount) = amount_in(many, measure) else {
        return no_amount(item, it, cupboard);
    };
    let grams = cupboard.weigh(it, &amount).map(|w| w.grams.0);
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
                    guess(item, format!("{ASSUMED} “{amount}”."));
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
            let word = if full == Fullness::Scant { "less than full" } else { "more than level" };
            item.amount = Some(Amount::grams(kitchen_round(grams * by)));
            guess(item, format!("{word}; “{amount}” is {grams:.0} g."));
        }
    }
}

/// Measures that differ from cook to cook.
const AS_LARGE_AS_A_HAND: [&str; 18] = [
    "handful",
    "bunch",
    "knob",
    "thumb",
    "splash",
    "drizzle",
    "squeeze",
    "glug",
    "glass",
    "mug",
    "mugful",
    "wineglass",
    "ladle",
    "scoop",
    "thumbful",
    "glassful",
    "spoon",
    "spoonful",
];

/// "3 sticks", "a handful", "2 inches of ginger".
fn by_the_piece(
    item: &mut Item,
    many: &Many,
    by: &str,
    (words, it, cupboard): (&[Word], &Ingredient, &Cupboard),
) {
    let weighs = |amount: &Amount| cupboard.weigh(it, amount).map(|w| w.grams.0);
    let by = if by == "tin"
        && cupboard.produce_of(it).any(|p| p.sizes.iter().any(|s| s.name == "can"))
    {
        "can"
    } else {
        by
    };
    let centimetres = by == "cm" && matches!(it.kind, Kind::Root | Kind::Spice);
    let (many, by) = match centimetres {
        true => (
            Many {
                low: quarters(many.low / 2.54),
                high: many.high.map(|h| quarters(h / 2.54)),
                ..*many
            },
            "inch",
        ),
        false => (*many, by),
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
        "stick" | "pod" | "leaf" | "cube" | "piece" | "head" | "stalk" | "can" | "tin"
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
        if by == "bag" {
            guess(item, format!("We assumed {each} g in a tea bag."));
        }
    } else {
        no_amount(item, it, cupboard);
    }
    if AS_LARGE_AS_A_HAND.contains(&by) {
        guess(item, format!("A {by}{AS_THE_HAND}"));
    }
}

/// "6 lemons", "1 small watermelon".
fn by_itself(
    item: &mut Item,
    many: &Many,
    (words, it, cupboard): (&[Word], &Ingredient, &Cupboard),
) {
    let weighs = |amount: &Amount| cupboard.weigh(it, amount).map(|w| w.grams.0);
    let name = plain_name(it, many.high.unwrap_or(many.low) > 1.0, cupboard);
    let sized: Option<Amount> =
        text_of(many, &format!("{}{name}", size(words))).trim().parse().ok();
    match sized.filter(|a| weighs(a).is_ok()) {
        Some(amount) => item.amount = Some(amount),
        // "1 small watermelon", where only one size of them is known.
        None => match text_of(many, &name).trim().parse().ok().filter(|a| weighs(a).is_ok()) {
            Some(amount) => {
                item.amount = Some(amount);
                guess(item, NOT_THIS_SIZE.into());
            }
            None => no_amount(item, it, cupboard),
        },
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

pub(super) fn no_amount(item: &mut Item, it: &Ingredient, cupboard: &Cupboard) {
    item.amount = Some(cupboard.usual_amount(it));
    guess(item, NOT_CONVERTED.into());
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

/// "1.7 litres (3 pints)": by the pint of Britain it is the same, and what isn't in pints says it.
fn by_the_british_pint(
    one: &Amount,
    two: &Amount,
    weight: impl Fn(&Amount) -> Option<f64>,
) -> Option<Amount> {
    /// How much larger the pint of Britain is than the one of the US: 568 and 473 ml.
    const BRITISH_PINT: f64 = 1.2;
    let pints = |a: &Amount| a.terms().iter().all(|t| t.measure == Measure::Pint);
    let (pints, other) = if pints(one) { (one, two) } else { (pints(two).then_some(two)?, one) };
    let same = (weight(pints)? * BRITISH_PINT / weight(other)? - 1.0).abs() < 0.1;
    same.then(|| other.clone())
}

/// Fruit that weighs so much more or less than usual, as a part, isn't counted but weighed.
const UNUSUAL: f64 = 0.2;

/// Two amounts that are said of one thing: what doesn't agree is to be chosen.
pub(super) fn compare(
    item: &mut Item,
    (first, second): (&Said, &Said),
    words: &[Word],
    it: &Ingredient,
    cupboard: &Cupboard,
) {
    const AGREES: f64 = 0.18;
    let mut other = Item { amount: None, why: Vec::new(), ..item.clone() };
    // "2 cones (200 g each)", "2 cones, 90 g each"
    let counted_out = !matches!(first.counted, Some(Counted::In(_)));
    let times = if second.each && counted_out { first.many.low } else { 1.0 };
    let many = Many {
        low: second.many.low * times,
        high: second.many.high.map(|high| high * times),
        ..second.many
    };
    let second = &Said { many, counted: second.counted.clone(), ..*second };
    measured(&mut other, second, words, it, cupboard);
    let (Some(one), Some(two)) = (item.amount.clone(), other.amount) else { return };
    // "1 (2-inch) piece": the bracket says how large the piece is.
    let piece = |a: &Amount| a.terms().iter().any(|t| t.measure.dimension() == Dimension::Count);
    let by = |said: &Said, any: &[&str]| matches!(said.counted, Some(Counted::By(by)) if any.contains(&by));
    if by(second, &["inch", "cm"]) {
        item.amount = Some(two);
        return;
    }
    const BARED: [&str; 9] =
        ["peeled", "cored", "pitted", "stoned", "hulled", "deseeded", "seeded", "trimmed", "flesh"];
    let behind = &words[second.to.min(words.len())..];
    let bared = says(&words[..second.to.min(words.len())], &BARED)
        || behind.iter().take(2).any(|w| w.is(&["flesh"]))
        || together(behind, &["flesh", "only"]);
    // "a handful (15 g)", "2 cones (200 g each)": then it is known. "1 small watermelon (2.5 kg)" has its rind on.
    let by_the_hand = |why: &String| {
        // "4 tbsp loose tea (about 20 g)": the scale knows better than a usual weight.
        let assumed = why.starts_with(ASSUMED) && two.as_grams().is_some();
        assumed || why == NOT_CONVERTED || why == NOT_THIS_SIZE || why.ends_with(AS_THE_HAND)
    };
    if item.why.iter().any(by_the_hand) && !piece(&two) {
        item.why.retain(|why| !by_the_hand(why));
        if item.why.is_empty() {
            item.sure = Sure::Understood;
        }
        let whole = item.why.is_empty() && !bared && two.as_grams().is_some();
        let edible = edible_part(it, cupboard).filter(|share| whole && *share < 1.0);
        item.amount = Some(match edible {
            Some(edible) => two.scaled(edible).rounded(),
            None => two,
        });
        return;
    }
    // "1 can (12 fl oz)": what it holds is said, and needn't be guessed.
    let holder = by(first, &["can", "tin", "bottle", "carton", "jar", "bag", "packet"]);
    if holder && !piece(&one) && !piece(&two) && (second.each || first.many.low <= 1.0) {
        item.amount = Some(two);
        return;
    }
    let weight = |a: &Amount| cupboard.weigh(it, a).ok().map(|w| w.grams.0);
    if let Some(same) = by_the_british_pint(&one, &two, weight) {
        item.amount = Some(same);
        return;
    }
    if piece(&one) && two.as_grams().is_some() {
        return of_a_weight(item, (&one, &two), bared, it, cupboard);
    }
    if let (Some(a), Some(b)) = (weight(&one), weight(&two))
        // How much juice so many lemons give is nothing to quarrel about.
        && !piece(&one)
        && !piece(&two)
        && (a / b - 1.0).abs() > AGREES
    {
        item.other = Some(two);
        guess(item, "The recipe gives two amounts.".into());
    }
}

/// "2 mangoes (500 g flesh)", "2 mangoes (1 kg)": pieces with what they weigh. What goes in is known better by the scale
/// than by the piece, where it is what goes in that was weighed; else where they are larger or smaller than usual ones.
fn of_a_weight(
    item: &mut Item,
    (pieces, weighed): (&Amount, &Amount),
    bared: bool,
    it: &Ingredient,
    cupboard: &Cupboard,
) {
    let weight = |a: &Amount| cupboard.weigh(it, a).ok().map(|w| w.grams.0);
    let (Some(usual), Some(grams)) = (weight(pieces), weight(weighed)) else { return };
    let in_part = matches!(it.kind, Kind::Juice | Kind::Zest | Kind::Peel);
    if bared && !in_part && (0.5..=2.0).contains(&(grams / usual)) {
        item.amount = Some(weighed.clone());
        return;
    }
    let edible = edible_part(it, cupboard).unwrap_or(1.0);
    let flesh = matches!(it.kind, Kind::Fruit | Kind::Vegetable | Kind::Root);
    if flesh && (grams * edible / usual - 1.0).abs() > UNUSUAL {
        item.amount = Some(weighed.scaled(edible).rounded());
        guess(item, "We used the weight given, less what is peeled off or cut out.".into());
    }
}

/// How much of a whole fruit goes in.
fn edible_part(it: &Ingredient, cupboard: &Cupboard) -> Option<f64> {
    cupboard.produce_of(it).find_map(|p| p.sizes.first()).map(|size| size.edible)
}
