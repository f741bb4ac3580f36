//! Which ingredient the words of a recipe mean.
//!
//! The cupboard's names and other names come first, and what it buys by the piece; then words of other kitchens.
//! Of all names whose words all stand in the text the longest is meant: "lemon verbena" is not a lemon.

use std::collections::HashMap;
use std::sync::LazyLock;

use keen_core::cupboard::{Cupboard, Ingredient, Kind};

use keen_core::quantity::said::{Word, number, stem, words};

/// What else people call things, and what that is here; some are only the nearest thing.
const OTHER: &str = include_str!("names.csv");

/// A row of the other names.
#[derive(serde::Deserialize)]
struct OtherName {
    words: String,
    ingredient: String,
    nearest: String,
}

/// Read once: names are looked for with every letter that is typed.
static OTHER_NAMES: LazyLock<Vec<OtherName>> = LazyLock::new(|| {
    let mut rows = csv::Reader::from_reader(OTHER.as_bytes());
    rows.deserialize().filter_map(Result::ok).collect()
});

/// What squeezing, grating, peeling and slicing make of a citrus fruit.
const CITRUS: &str = include_str!("citrus.csv");

/// A citrus fruit by its word.
#[derive(serde::Deserialize)]
struct Citrus {
    fruit: String,
    juice: Option<String>,
    zest: Option<String>,
    peel: Option<String>,
    slices: Option<String>,
    peeled: Option<String>,
}

impl Citrus {
    /// What is made of it, in the order of [`Citrus`].
    fn parts(&self) -> [Option<&str>; 5] {
        let Self { juice, zest, peel, slices, peeled, .. } = self;
        [juice, zest, peel, slices, peeled].map(Option::as_deref)
    }
}

/// The longer words first.
static CITRUS_FRUITS: LazyLock<Vec<Citrus>> = LazyLock::new(|| {
    let mut rows = csv::Reader::from_reader(CITRUS.as_bytes());
    rows.deserialize().filter_map(Result::ok).collect()
});

/// What a kitchen has that is called by what goes into it: a tea towel is no tea.
const EQUIPMENT: [&str; 22] = [
    "towel",
    "strainer",
    "cloth",
    "filter",
    "squeezer",
    "thermometer",
    "bath",
    "bucket",
    "tray",
    "grater",
    "kettle",
    "peeler",
    "reamer",
    "juicer",
    "pot",
    "infuser",
    "mould",
    "mold",
    "dish",
    "cream",
    "tongs",
    "knife",
];

/// What grows with a fruit and isn't the fruit.
const OF_THE_PLANT: [&str; 12] = [
    "blossom", "bud", "flower", "leaf", "stone", "pit", "kernel", "husk", "shell", "skin", "tree",
    "twig",
];

/// What is made of a thing and called by it: "ginger beer" is no ginger, and "orange marmalade" no orange.
const PRODUCTS: [&str; 29] = [
    "milk",
    "oil",
    "butter",
    "flour",
    "extract",
    "essence",
    "beer",
    "ale",
    "jam",
    "marmalade",
    "curd",
    "chutney",
    "preserve",
    "bread",
    "biscuit",
    "cookie",
    "cake",
    "sorbet",
    "gelato",
    "sherbet",
    "candy",
    "gin",
    "vodka",
    "rum",
    "liqueur",
    "schnapps",
    "wine",
    "bitters",
    "kombucha",
];

const JUICE: [&str; 9] = [
    "juice",
    "juiced",
    "squeezed",
    "squeeze",
    "squeezing",
    "squashed",
    "pressed",
    "squash",
    "juicing",
];
const ZEST: [&str; 5] = ["zest", "zested", "grated", "zesting", "rasped"];
const PEEL: [&str; 6] = ["peel", "rind", "strip", "pared", "paring", "skin"];
const SLICES: [&str; 9] =
    ["sliced", "slice", "round", "wheel", "rounds", "slices", "wedge", "halved", "cut"];
const FLESH: [&str; 4] = ["quartered", "segment", "segmented", "whole"];

/// Whether it is only the stones or the seeds of a fruit that are meant; some seeds are what is eaten of it.
fn of_its_seeds(words: &[Word], fruit: usize) -> bool {
    let front = &words[fruit.saturating_sub(7)..fruit];
    let Some(of) = front.iter().rposition(|w| w.is(&["of", "from"])) else { return false };
    let eaten = words[fruit].is(&["pomegranate", "passion", "passionfruit"]);
    let only = ["seed", "stone", "pit", "kernel", "core", "husk"];
    let other = front[..of].iter().any(|w| w.is(&["flesh", "juice", "peel", "skin"]));
    !eaten && !other && front[..of].iter().any(|w| only.contains(&w.stem.as_str()))
}

/// Something that the words may mean.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Found {
    pub(super) id: String,
    /// Whether it is only the nearest thing here.
    pub(super) nearest: bool,
    /// The places of its words.
    pub(super) at: Vec<usize>,
}

/// All names by which the cupboard's ingredients are found.
pub(super) struct Names<'a> {
    pub(super) cupboard: &'a Cupboard,
    /// The words of each name, what it means, and whether that is only near.
    names: Vec<(Vec<String>, String, bool)>,
    /// By their first words.
    by_word: HashMap<String, Vec<usize>>,
}

impl<'a> Names<'a> {
    pub(super) fn of(cupboard: &'a Cupboard) -> Self {
        let mut names: Vec<(Vec<String>, String, bool)> = Vec::new();
        let mut add = |name: &str, id: &str, near: bool| {
            let stems: Vec<String> = words(name)
                .into_iter()
                .filter(|w| !w.is_sign() && !w.is(&["of", "with", "the"]))
                .map(|w| w.stem)
                .collect();
            if !stems.is_empty() && !names.iter().any(|(known, ..)| *known == stems) {
                names.push((stems, id.to_owned(), near));
            }
        };
        for other in &*OTHER_NAMES {
            if cupboard.ingredient(&other.ingredient).is_some() {
                add(&other.words, &other.ingredient, !other.nearest.is_empty());
            }
        }
        for it in cupboard.ingredients() {
            add(&it.name, &it.id, false);
            // "Dried hibiscus calyces (roselle)": as it stands before the bracket, too.
            if let Some((front, _)) = it.name.split_once(" (") {
                add(front, &it.id, false);
            }
        }
        for it in cupboard.ingredients() {
            for alias in &it.aliases {
                add(alias, &it.id, false);
            }
        }
        for it in cupboard.ingredients() {
            // "Mint leaves" is mint, "Ginger root" ginger, "Fresh thyme" thyme; a fruit's juice is no fruit.
            let plain: Vec<&str> = it
                .name
                .split(' ')
                .filter(|w| {
                    ![
                        "leaves",
                        "root",
                        "Fresh",
                        "seeds",
                        "Dried",
                        "dried",
                        "powder",
                        "berries",
                        "flowers",
                        "Whole",
                        "pulp",
                        "Purified",
                        "(food-grade)",
                        "Cored",
                        "Plain",
                    ]
                    .contains(w)
                })
                .collect();
            if !matches!(it.kind, Kind::Juice | Kind::Peel | Kind::Zest) {
                add(&plain.join(" "), &it.id, false);
            }
        }
        for produce in cupboard.produce() {
            let given = || produce.gives.iter().filter_map(|id| cupboard.ingredient(id));
            let flesh =
                given().find(|it| !matches!(it.kind, Kind::Juice | Kind::Peel | Kind::Zest));
            if let Some(it) = flesh.or(given().next()) {
                add(&produce.name, &it.id, false);
                add(&produce.plural, &it.id, false);
            }
        }
        let mut by_word: HashMap<String, Vec<usize>> = HashMap::new();
        for (index, (stems, ..)) in names.iter().enumerate() {
            by_word.entry(stems[0].clone()).or_default().push(index);
        }
        Self { cupboard, names, by_word }
    }

    /// What the words mean: the longest name first, each word used once. Words after a bracket count less.
    pub(super) fn find(&self, words: &[Word]) -> Option<Found> {
        let candidates = words.iter().enumerate().flat_map(|(at, word)| {
            self.by_word.get(&word.stem).into_iter().flatten().map(move |i| (at, *i))
        });
        let mut best: Option<(usize, bool, usize, Found)> = None;
        for (at, index) in candidates {
            let (stems, id, near) = &self.names[index];
            let Some(places) = placed(words, at, stems) else { continue };
            // What is bitter has no bitters in it.
            if id == "aromatic_bitters" && words[at].text == "bitter" {
                continue;
            }
            // "4 chamomile tea bags", "6 bags of mint tea" are of the herb.
            let herb = at.checked_sub(1).and_then(|b| self.by_word.get(&words[b].stem));
            let of_herb = herb.into_iter().flatten().any(|i| {
                self.names[*i].0.len() == 1
                    && self.cupboard.ingredient(&self.names[*i].1).is_some_and(|it| {
                        matches!(it.kind, Kind::Herb | Kind::Flower | Kind::Root | Kind::Spice)
                    })
            });
            if of_herb && stems[0] == "tea" && stems.get(1).is_none_or(|second| second == "bag") {
                continue;
            }
            // "Gin-free" has none in it; "ice-cold" is no ice.
            let next = |n: usize| {
                places
                    .last()
                    .and_then(|p| words.get(p + n))
                    .is_some_and(|w| w.is(&["free", "less"]) || (id == "ice" && w.is(&["cold"])))
            };
            if next(1) || next(2) && words[places[places.len() - 1] + 1].is(&["-"]) {
                continue;
            }
            let behind = places.last().and_then(|p| words.get(p + 1));
            // "A nut milk bag" is no milk.
            let dairy = |it: &Ingredient| it.kind == Kind::Dairy;
            if behind.is_some_and(|w| w.is(&["bag"]))
                && self.cupboard.ingredient(id).is_some_and(dairy)
            {
                continue;
            }
            // "Almond milk" comes from no cow.
            const MILKED: [&str; 9] =
                ["almond", "soy", "soya", "cashew", "hazelnut", "hemp", "nut", "pea", "macadamia"];
            let of_a_plant = places[0].checked_sub(1).is_some_and(|b| words[b].is(&MILKED));
            if of_a_plant && self.cupboard.ingredient(id).is_some_and(dairy) {
                continue;
            }
            if behind.is_some_and(|w| w.is(&EQUIPMENT)) {
                continue;
            }
            // "Lime leaves" are no limes, and "peach stones" no peaches.
            let leaf = behind.is_some_and(|w| w.is(&["leaf"]));
            if behind.is_some_and(|w| w.is(&PRODUCTS)) {
                continue;
            }
            if behind.is_some_and(|w| w.is(&OF_THE_PLANT)) && self.is_fruit(id)
                || (leaf || behind.is_some_and(|w| w.is(&["blossom", "bud"]))) && self.is_citrus(id)
            {
                continue;
            }
            // "Seeds and stringy bits from 1 cantaloupe" are no melon.
            if self.is_fruit(id) && of_its_seeds(words, places[0]) {
                continue;
            }
            let together = places.windows(2).all(|pair| pair[1] == pair[0] + 1);
            let better = best.as_ref().is_none_or(|(length, beside, first, _)| {
                (stems.len(), together, std::cmp::Reverse(at))
                    > (*length, *beside, std::cmp::Reverse(*first))
            });
            if better {
                let found = Found { id: id.clone(), nearest: *near, at: places };
                best = Some((stems.len(), together, at, found));
            }
        }
        best.map(|(.., found)| found).map(|found| self.as_strong(found, words))
    }

    /// "A 2:1 sugar syrup" is the rich one. What is as strong as no syrup here is only the nearest thing.
    fn as_strong(&self, found: Found, words: &[Word]) -> Found {
        const BY_STRENGTH: [(&str, f64); 2] =
            [("simple_syrup_1_1", 1.0), ("simple_syrup_2_1", 2.0)];
        if !BY_STRENGTH.iter().any(|(id, _)| *id == found.id) {
            return found;
        }
        let ratio = |at: usize| {
            let (sugar, used) = number(&words[at..])?;
            words.get(at + used).filter(|w| w.is(&[":", "to"]))?;
            let (water, _) = number(&words[at + used + 1..])?;
            (water.low > 0.0).then_some(sugar.low / water.low)
        };
        let Some(strength) = (0..words.len()).find_map(ratio) else { return found };
        let as_strong = BY_STRENGTH.iter().find(|(_, its)| (its - strength).abs() < 0.05);
        match as_strong {
            Some((id, _)) => Found { id: (*id).to_owned(), ..found },
            None => Found { nearest: true, ..found },
        }
    }

    /// A fruit, or what is in it. The skin of a citrus fruit is its peel, and is looked for by the fruit.
    fn is_fruit(&self, id: &str) -> bool {
        let fruit = |it: &Ingredient| matches!(it.kind, Kind::Fruit | Kind::Juice);
        self.cupboard.ingredient(id).is_some_and(fruit) && !self.is_citrus(id)
    }

    fn is_citrus(&self, id: &str) -> bool {
        CITRUS_FRUITS.iter().any(|citrus| citrus.parts().contains(&Some(id)))
    }

    /// Every ingredient that is named, in the order of the text; no word is used twice.
    pub(super) fn find_all(&self, words: &[Word]) -> Vec<Found> {
        let mut left: Vec<Word> = words.to_vec();
        let mut all: Vec<Found> = Vec::new();
        while let Some(found) = self.find(&left) {
            for place in &found.at {
                left[*place].stem = String::new();
                left[*place].text = String::new();
            }
            all.push(found);
            if all.len() > 12 {
                break;
            }
        }
        all.sort_by_key(|found| found.at[0]);
        all
    }

    /// The citrus fruit that is meant, where one is: what is used of it, by the words that stand with it.
    pub(super) fn citrus(&self, words: &[Word]) -> Option<Vec<Found>> {
        let plain = self.find(words).filter(|found| !found.id.ends_with("_whole"))?;
        // Lemon verbena, lemon oil and orange-blossom water are no citrus; nor is what was named whole.
        let fruit = CITRUS_FRUITS.iter().find(|citrus| {
            let mut stems = citrus.fruit.split(' ');
            stems.all(|s| words.iter().any(|w| w.stem == s))
                && (citrus.parts().contains(&Some(plain.id.as_str()))
                    || citrus.fruit.ends_with(plain.id.as_str()))
        })?;
        let parts = fruit.parts();
        let says = |any: &[&str]| {
            words.iter().any(|w| any.contains(&w.text.as_str()) || any.contains(&w.stem.as_str()))
        };
        let peeled_off = words.iter().any(|w| w.is(&["peeled", "unpeeled"]));
        let [juice, zest, peel, slices, peeled] = parts;
        // "Peeled and juiced" is juice, "halved and squeezed" too: what is done last is what is used.
        let squeezed = says(&JUICE);
        let sliced = !squeezed && says(&SLICES) && slices.is_some();
        let chosen = [
            (zest, says(&ZEST)),
            (peel, says(&PEEL) && !says(&ZEST)),
            (juice, squeezed),
            (slices, sliced),
            (peeled, !squeezed && !sliced && (says(&FLESH) || says(&SLICES) || peeled_off)),
        ];
        let mut ids: Vec<&str> =
            chosen.into_iter().filter(|(_, chosen)| *chosen).filter_map(|(part, _)| part).collect();
        if ids.is_empty() {
            ids.push(juice?);
        }
        let at = plain.at;
        Some(
            ids.into_iter()
                .filter(|id| self.cupboard.ingredient(id).is_some())
                .map(|id| Found { id: id.to_owned(), nearest: false, at: at.clone() })
                .collect(),
        )
    }

    /// What it might be: those that share a word, or most of its letters.
    pub(super) fn nearest(&self, words: &[Word]) -> Vec<&'a Ingredient> {
        let wanted: Vec<&str> = words
            .iter()
            .filter(|w| !w.is_sign() && w.stem.len() > 2)
            .map(|w| w.stem.as_str())
            .collect();
        let mut scored: Vec<(f64, &Ingredient)> = self
            .cupboard
            .ingredients()
            .iter()
            .map(|it| {
                let theirs: Vec<String> = it
                    .name
                    .split([' ', '-', ',', '(', ')'])
                    .map(|w| stem(&w.to_lowercase()))
                    .filter(|w| w.len() > 2)
                    .collect();
                let near = |a: &str, b: &str| -> f64 {
                    let (a3, b3) = (thirds(a), thirds(b));
                    let both = a3.iter().filter(|t| b3.contains(*t)).count() as f64;
                    2.0 * both / (a3.len() + b3.len()).max(1) as f64
                };
                let best = |w: &&str| theirs.iter().map(|t| near(w, t)).fold(0.0, f64::max);
                // A name of one word is nearer than one of four that has it among others.
                let alike = wanted.iter().map(best).sum::<f64>() / wanted.len().max(1) as f64;
                (alike * (0.8 + 0.2 / theirs.len().max(1) as f64), it)
            })
            .filter(|(score, _)| *score > 0.35)
            .collect();
        scored.sort_by(|a, b| b.0.total_cmp(&a.0));
        scored.into_iter().take(4).map(|(_, it)| it).collect()
    }
}

/// The letters of a word by threes, for how alike two words are.
fn thirds(word: &str) -> Vec<[char; 3]> {
    let padded: Vec<char> =
        std::iter::once(' ').chain(word.chars().take(30)).chain([' ']).collect();
    padded.windows(3).map(|w| [w[0], w[1], w[2]]).collect()
}

/// Where the words of a name stand, the first at `at` and all others within a few words.
fn placed(words: &[Word], at: usize, stems: &[String]) -> Option<Vec<usize>> {
    let mut places = vec![at];
    for stem in &stems[1..] {
        let last = *places.last()?;
        let next = (last + 1..words.len().min(last + 4)).find(|p| words[*p].stem == *stem)?;
        // A name doesn't go over a comma or a bracket.
        if words[last + 1..next].iter().any(|w| w.is_sign() && w.text != "-") {
            return None;
        }
        places.push(next);
    }
    Some(places)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_longest_name_is_meant() {
        let names = Names::of(Cupboard::builtin());
        for (text, id) in [
            ("lemon verbena leaves", "lemon_verbena"),
            ("granulated sugar", "white_sugar"),
            ("dried hibiscus flowers", "hibiscus_dried"),
            ("fresh mint leaves, torn", "mint"),
            ("soft brown sugar", "light_brown_sugar"),
            ("sparkling water", "club_soda"),
            ("cold water", "water"),
            ("piece of fresh ginger, sliced", "ginger_root"),
            ("tin of condensed milk", "condensed_milk_sweet"),
            ("orange blossom water", "orange_blossom_water"),
            ("jamaica", "hibiscus_dried"),
            ("pimento", "allspice_berry"),
            ("superfine sugar", "caster_sugar"),
            ("bicarb", "sodium_bicarbonate"),
            ("ripe cantaloupe melon", "cantaloupe"),
        ] {
            let found = names.find(&words(text)).unwrap_or_else(|| panic!("{text}"));
            assert_eq!(found.id, id, "{text}");
        }
        assert_eq!(names.find(&words("until it smells")), None);
    }

    #[test]
    fn every_other_name_is_of_something_in_the_cupboard() {
        let rows = &*OTHER_NAMES;
        assert_eq!(rows.len() + 1, OTHER.lines().count(), "a row that can't be read");
        for row in rows {
            assert!(Cupboard::builtin().ingredient(&row.ingredient).is_some(), "{}", row.words);
        }
    }

    #[test]
    fn of_citrus_is_used_what_the_words_say() {
        let names = Names::of(Cupboard::builtin());
        let ids = |text: &str| -> Vec<String> {
            names.citrus(&words(text)).into_iter().flatten().map(|f| f.id).collect()
        };
        assert_eq!(ids("lemons"), ["lemon_juice"]);
        assert_eq!(ids("lemons, zest grated and juiced"), ["lemon_zest", "lemon_juice"]);
        assert_eq!(ids("lime, cut into rounds"), ["lime_slices"]);
        assert_eq!(ids("oranges, peel only, in strips"), ["orange_peel"]);
        assert_eq!(ids("lemons, peeled and juiced"), ["lemon_juice"]);
        assert_eq!(ids("lemon verbena"), [""; 0]);
        assert_eq!(ids("orange blossom water"), [""; 0]);
    }
}
