//! What somebody says they have: "8 limes going hard, half a bottle of ginger syrup, mint; six people at four".

use keen_core::cupboard::Cupboard;
use keen_core::offer::Have;
use keen_core::quantity::Amount;
use keen_core::quantity::Degrees;
use keen_core::quantity::said::{Kind as FieldKind, read as read_field};
use serde::Serialize;

use super::line::read_line;
use super::when::{ClockTime, when};

/// The stock and wishes that were read from the typed text.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StockRead {
    /// The ingredients in stock.
    pub have: Vec<StockThing>,
    /// The number of people.
    pub people: Option<u32>,
    /// The time until it should be ready, minutes.
    pub within: Option<f64>,
    /// Ingredients to avoid.
    pub without: Vec<String>,
    /// The words that weren't understood, as typed.
    pub unread: Vec<String>,
}

/// An ingredient in stock.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StockThing {
    /// The ingredient's id.
    pub ingredient: String,
    /// Its name.
    pub name: String,
    /// How much.
    pub amount: Amount,
    /// Whether an amount was given; otherwise a usual one is used.
    pub said: bool,
    /// Whether it has to be used soon.
    pub soon: bool,
    /// The similar ingredient that we assumed, if the tables don't have it.
    pub assumed: Option<String>,
}

impl StockThing {
    /// As the core wants it.
    #[must_use]
    pub fn have(&self) -> Have {
        let (ingredient, amount) = (self.ingredient.clone(), self.amount.clone());
        Have { ingredient, amount, soon: self.soon, some: !self.said }
    }
}

/// Words that say that something won't wait, longest first.
const SOON: [&str; 24] = [
    "that must be used soon",
    "must be used soon",
    "must be used up",
    "must be used",
    "to be used up",
    "to use up",
    "use them up",
    "use it up",
    "use soon",
    "use today",
    "going hard",
    "going soft",
    "going brown",
    "going off",
    "gone soft",
    "must go",
    "need using",
    "needs using",
    "wilting",
    "overripe",
    "very ripe",
    "past their best",
    "getting old",
    "on the turn",
];

/// Words for people, and for what they mustn't have.
const PEOPLE: [&str; 9] =
    ["people", "persons", "guests", "drinkers", "friends", "adults", "children", "kids", "of us"];
const WITHOUT: [(&str, &str); 9] = [
    ("milk", "milk"),
    ("dairy", "milk"),
    ("almonds", "almonds"),
    ("nuts", "almonds"),
    ("coconut", "coconut"),
    ("alcohol", "alcohol"),
    ("caffeine", "caffeine"),
    ("tea", "caffeine"),
    ("honey", "honey"),
];

/// A bottle of which nobody says what it holds, ml.
const BOTTLE: f64 = 500.0;

/// Reads what somebody has, for whom and when, and what mustn't be in it.
#[must_use]
pub fn read_stock(text: &str, cupboard: &Cupboard, now: ClockTime) -> StockRead {
    let mut read = StockRead {
        have: Vec::new(),
        people: None,
        within: None,
        without: Vec::new(),
        unread: Vec::new(),
    };
    let text: String = text.chars().take(1000).collect();
    let apart = text.replace([';', '\n', '\r'], ",").replace(" and ", ",").replace(" plus ", ",");
    for part in apart.split(',').map(str::trim).filter(|part| !part.is_empty()) {
        part_of(part, cupboard, now, &mut read);
    }
    read
}

fn part_of(part: &str, cupboard: &Cupboard, now: ClockTime, read: &mut StockRead) {
    let mut said = part.trim_end_matches('.').to_lowercase();
    if let Some((when, at)) = when(&said) {
        read.within = Some(when.minutes_from(now));
        said.replace_range(at, "");
        said = said.trim().to_owned();
        if said.is_empty()
            || ["ready", "we drink", "serve", "serving", "drinks"].contains(&said.as_str())
        {
            return;
        }
    }
    for front in ["i have ", "i've got ", "we have ", "there are ", "there is ", "some ", "for "] {
        said = said.strip_prefix(front).map_or(said.clone(), str::to_owned);
    }
    if let Some(what) = said.strip_prefix("no ").or_else(|| said.strip_prefix("without ")) {
        let known = WITHOUT.iter().find(|(word, _)| what.contains(word));
        match known {
            Some((_, name)) => read.without.push((*name).to_owned()),
            None => read.unread.push(part.to_owned()),
        }
        return;
    }
    // "Sugar for 4 people", "six people".
    let (front, behind) = said.split_once(" for ").unwrap_or(("", &said));
    if let Some(count) = people(behind) {
        read.people = Some(count);
        said = front.to_owned();
        if said.is_empty() {
            return;
        }
    }
    let mut soon = false;
    for words in SOON {
        if let Some(at) = said.find(words) {
            said.replace_range(at..at + words.len(), "");
            soon = true;
        }
    }
    let said = in_bottles(said.trim());
    let mut found = read_line(&said, cupboard).things;
    let mut assumed = None;
    if found.is_empty() && (said.contains("syrup") || said.contains("cordial")) {
        // A syrup of something is sugar with a flavour.
        let kind = if said.contains("syrup") { "syrup" } else { "cordial" };
        let front = said.split(kind).next().unwrap_or_default();
        let amount: String = front.split_inclusive(' ').take(2).collect();
        let counted = amount.starts_with(|c: char| c.is_ascii_digit());
        let amount = if counted { amount } else { String::new() };
        found = read_line(&format!("{amount}simple syrup"), cupboard).things;
        let name = front.strip_prefix(amount.as_str()).unwrap_or(front).trim();
        assumed = Some(format!("We count “{name} {kind}” as sugar syrup 1:1."));
    }
    if found.is_empty() {
        read.unread.push(part.to_owned());
    }
    for thing in found {
        let (amount, said) = (thing.amount, thing.said);
        let (ingredient, name) = (thing.ingredient, thing.name);
        let assumed = assumed.clone();
        read.have.push(StockThing { ingredient, name, amount, said, soon, assumed });
    }
}

/// "Six people", "4 guests".
fn people(said: &str) -> Option<u32> {
    let word = PEOPLE.iter().find(|word| said.contains(*word))?;
    let before = said.split(word).next()?.trim();
    let read = read_field(FieldKind::Number, before, None, Degrees::Celsius).ok()?;
    let count = read.number?;
    (1.0..=200.0).contains(&count).then_some(count.round() as u32)
}

/// "Half a bottle of ginger syrup": as much as a bottle usually holds.
fn in_bottles(said: &str) -> String {
    let parts = [
        ("half a bottle of ", 0.5),
        ("half a bottle ", 0.5),
        ("a third of a bottle of ", 1.0 / 3.0),
        ("a quarter of a bottle of ", 0.25),
        ("a bottle of ", 1.0),
        ("one bottle of ", 1.0),
        ("bottle of ", 1.0),
    ];
    let found = parts.iter().find_map(|(words, share)| Some((said.strip_prefix(words)?, share)));
    match found {
        Some((rest, share)) => format!("{:.0} ml {rest}", BOTTLE * share),
        None => said.to_owned(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Tuesday, 9:40.
    const NOW: ClockTime = ClockTime { weekday: 1, minute: 580.0 };

    #[test]
    fn what_is_there_for_whom_and_without_what() {
        let text = "8 limes going hard, half a bottle of simple syrup, a kilo of sugar, mint; six people at four, no nuts";
        let read = read_stock(text, Cupboard::builtin(), NOW);
        let said: Vec<(&str, String, bool)> = read
            .have
            .iter()
            .map(|t| (t.ingredient.as_str(), t.amount.to_string(), t.soon))
            .collect();
        assert_eq!(said.len(), 4, "{said:?}");
        assert!(said[0].0.starts_with("lime") && said[0].1 == "8 limes" && said[0].2, "{said:?}");
        assert!(said[1].0.starts_with("simple_syrup") && said[1].1 == "250 ml", "{said:?}");
        assert_eq!((said[2].0, said[2].1.as_str()), ("white_sugar", "1 kg"));
        assert_eq!(said[3].0, "mint");
        assert!(!read.have[3].said && !said[3].2);
        assert_eq!((read.people, read.without), (Some(6), vec!["almonds".to_owned()]));
        assert_eq!(read.within, Some(380.0), "until four in the afternoon");
        assert!(read.unread.is_empty(), "{:?}", read.unread);
    }

    #[test]
    fn what_is_not_understood_is_told() {
        let read = read_stock("a spare tyre, 3 lemons", Cupboard::builtin(), NOW);
        assert_eq!(read.unread, ["a spare tyre"]);
        assert_eq!(read.have.len(), 1);
        let read = read_stock("tomorrow at noon, 2 kg melon in 2 hours", Cupboard::builtin(), NOW);
        assert_eq!((read.within, read.have.len()), (Some(120.0), 1), "what is said last counts");
        assert_eq!(read.unread, [""; 0]);
        assert!(read_stock("", Cupboard::builtin(), NOW).have.is_empty());
        let read = read_stock("cucumber, sugar for 4 people", Cupboard::builtin(), NOW);
        assert_eq!((read.people, read.have.len()), (Some(4), 2));
        assert!(!read.have[1].said, "nobody said how much sugar");
        // A syrup that the tables don't have is told as what it is counted as.
        let read = read_stock("half a bottle of ginger syrup", Cupboard::builtin(), NOW);
        assert_eq!(read.have[0].amount.to_string(), "250 ml");
        assert!(read.have[0].assumed.as_deref().is_some_and(|a| a.contains("ginger syrup")));
    }
}
