//! What to buy for one or several drinks: fruit by count with the chance that it suffices, the rest in
//! the packs that it is sold in, less what is there.

mod packs;

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use crate::cupboard::{Cupboard, Form, Ingredient, Kind, Produce, Size};
use crate::drink::{Action, Drink};
use crate::quantity::{Grams, Measure, Millilitres};
use crate::scale::{Units, measure};
use crate::trace::Trace;

pub use packs::Aisle;
use packs::{Pack, aisle_of, pack_of};

/// How sure the buying should be, and what the fruit is squeezed with.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shopping {
    /// The chance that fruit suffices, 0.5 to 0.99.
    pub chance: f64,
    /// What fruit is squeezed with.
    pub tool: Tool,
    /// In which units needs are told.
    pub units: Units,
}

impl Default for Shopping {
    fn default() -> Self {
        Self { chance: 0.9, tool: Tool::Reamer, units: Units::Metric }
    }
}

/// What fruit is squeezed with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tool {
    /// A hand reamer.
    #[default]
    Reamer,
    /// A lever press, which gives more.
    Press,
}

/// What to buy.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShoppingList {
    /// Grouped as a shop is.
    pub items: Vec<Item>,
    /// What all of it costs, as far as prices are known.
    pub cost: Option<f64>,
    /// How many things have no price.
    pub unpriced: u32,
    /// What each drink costs, by what it uses.
    pub drinks: Vec<DrinkCost>,
}

/// What a drink costs.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrinkCost {
    /// Its name.
    pub name: String,
    /// What is used for it costs, as far as prices are known.
    pub cost: Option<f64>,
    /// That for a glass.
    pub per_glass: Option<f64>,
    /// How many glasses, or 1.
    pub glasses: f64,
    /// What costs most of it, with its share: "limes, 45 %".
    pub driven_by: Option<String>,
}

/// A line of the list.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Item {
    /// Names it for ticking off and for prices: an ingredient's id, or `lime/medium`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Where in the shop it stands.
    pub aisle: Aisle,
    /// What is needed: "258 ml of juice and 20 g of zest".
    pub need: String,
    /// What to buy: "9 limes", "2 packs of 1 kg"; "there is enough".
    pub buy: String,
    /// How many pieces or packs to buy; 0 if enough is there.
    pub count: f64,
    /// About how much that weighs, g.
    pub weight_g: f64,
    /// For fruit: how sure that is.
    pub chance: Option<Chance>,
    /// What is there already, in pieces or g.
    pub have: f64,
    /// What a pack holds, in pieces or g.
    pub pack: f64,
    /// Whether it is counted in pieces.
    pub by_piece: bool,
    /// What a piece or pack costs.
    pub price: Option<f64>,
    /// What all of it costs.
    pub cost: Option<f64>,
    /// The drinks that it is for.
    pub drinks: Vec<String>,
    /// What is left over, and what that is good for.
    pub left_over: Option<String>,
}

/// How sure a count of fruit is.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Chance {
    /// The chance that the count suffices, 0 to 1.
    pub of_count: f64,
    /// So many, bought, would do half the time.
    pub half: u32,
    /// How much of what is known of a piece is by now own experience, 0 to 1.
    pub own_share: f64,
    /// In words: "enough 9 times in 10; 7 would do half the time".
    pub message: String,
}

/// What is needed of one size of fruit.
#[derive(Debug, Clone, Default)]
struct FruitNeed {
    juice: f64,
    zest: f64,
    peel: f64,
    flesh_pieces: f64,
    flesh_grams: f64,
    drinks: Vec<String>,
    by_drink: BTreeMap<String, f64>,
}

/// What is needed of something that comes by weight.
#[derive(Debug, Clone, Default)]
struct Need {
    grams: f64,
    drinks: Vec<String>,
    by_drink: BTreeMap<String, f64>,
}

#[derive(Default)]
struct Needs {
    fruit: BTreeMap<String, FruitNeed>,
    other: BTreeMap<String, Need>,
}

/// The list for some drinks at the sizes that they have.
#[must_use]
pub fn shop(drinks: &[Drink], cupboard: &Cupboard, how: Shopping) -> ShoppingList {
    let mut needs = Needs::default();
    let mut glasses: Vec<f64> = Vec::new();
    for drink in drinks {
        let trace = Trace::run(drink, cupboard);
        glasses.push(trace.outcome().map_or(1.0, |o| if o.served { o.glasses } else { 1.0 }));
        needs.add(drink, &trace, cupboard);
    }
    let mut items: Vec<Item> = needs
        .fruit
        .iter()
        .filter_map(|(key, need)| fruit_item(key, need, cupboard, how))
        .chain(needs.other.iter().filter_map(|(id, need)| other_item(id, need, cupboard, how)))
        .collect();
    items.sort_by(|a, b| a.aisle.cmp(&b.aisle).then(a.name.cmp(&b.name)));
    let costs: Vec<f64> = items.iter().filter_map(|i| i.cost).collect();
    let unpriced = items.iter().filter(|i| i.count > 0.0 && i.price.is_none()).count() as u32;
    let drinks = drinks
        .iter()
        .zip(&glasses)
        .map(|(drink, glasses)| drink_cost(drink, *glasses, &items, &needs))
        .collect();
    ShoppingList { cost: (!costs.is_empty()).then(|| costs.iter().sum()), unpriced, items, drinks }
}

fn remember(list: &mut Vec<String>, name: &str) {
    if !list.iter().any(|n| n == name) {
        list.push(name.to_owned());
    }
}

impl Needs {
    fn add(&mut self, drink: &Drink, trace: &Trace, cupboard: &Cupboard) {
        for line in trace.lines.iter().filter(|l| !l.left_over) {
            let it = &cupboard.ingredients()[line.ingredient];
            let action = &drink.steps[line.step].action;
            if it.id == "water" {
                continue;
            }
            match from_fruit(cupboard, it, action) {
                Some((produce, size)) => self.fruit(drink, it, produce, size, line.grams),
                None => {
                    let need = self.other.entry(it.id.clone()).or_default();
                    need.grams += line.grams.0;
                    remember(&mut need.drinks, &drink.name);
                    *need.by_drink.entry(drink.name.clone()).or_default() += line.grams.0;
                }
            }
        }
        for step in &drink.steps {
            let Action::Dress { glass, ingredient, .. } = &step.action else { continue };
            let Some(it) = cupboard.ingredient(ingredient) else { continue };
            // A leaf or a slice for each glass, a spoon of sugar for the rims of a dozen.
            let each = match it.kind {
                Kind::Herb | Kind::Flower => 0.5,
                Kind::Fruit | Kind::Zest | Kind::Peel => 8.0,
                _ => 1.5,
            };
            let need = self.other.entry(it.id.clone()).or_default();
            need.grams += each * f64::from(drink.glasses_in(glass));
            remember(&mut need.drinks, &drink.name);
        }
    }

    fn fruit(
        &mut self,
        drink: &Drink,
        it: &Ingredient,
        produce: &Produce,
        size: &Size,
        grams: Grams,
    ) {
        let need = self.fruit.entry(format!("{}/{}", produce.id, size.name)).or_default();
        match it.kind {
            Kind::Juice => need.juice += it.fills(grams).unwrap_or(Millilitres(grams.0)).0,
            Kind::Zest => need.zest += grams.0,
            Kind::Peel => need.peel += grams.0,
            _ => {
                need.flesh_grams += grams.0;
                need.flesh_pieces += grams.0 / (size.whole.0 * size.edible);
            }
        }
        remember(&mut need.drinks, &drink.name);
        *need.by_drink.entry(drink.name.clone()).or_default() += grams.0;
    }
}

/// The fruit that an ingredient is taken from at home; none where it is bought as it is.
fn from_fruit<'a>(
    cupboard: &'a Cupboard,
    it: &Ingredient,
    action: &Action,
) -> Option<(&'a Produce, &'a Size)> {
    let squeezed = matches!(action, Action::Squeeze { .. });
    let counted = match it.kind {
        Kind::Juice => squeezed,
        Kind::Zest | Kind::Peel => true,
        Kind::Fruit | Kind::Vegetable => it.form == Form::Pieces && !it.id.ends_with("_frozen"),
        _ => false,
    };
    if !counted {
        return None;
    }
    let amount = action.brings()?.amount?;
    let said = amount.terms().iter().find_map(|t| match &t.measure {
        Measure::Piece(words) => cupboard.piece(it, words),
        _ => None,
    });
    let (produce, size) = match said {
        Some(found) => found,
        None => {
            let produce = cupboard.produce_of(it).next()?;
            (produce, produce.usual())
        }
    };
    // Small things and stalks are bought by weight: nobody counts blackcurrants.
    let counted = ["small", "medium", "large"].contains(&size.name.as_str());
    (size.whole.0 >= 25.0 && counted).then_some((produce, size))
}

fn fruit_item(key: &str, need: &FruitNeed, cupboard: &Cupboard, how: Shopping) -> Option<Item> {
    let (produce, size) = cupboard.size_named(key)?;
    let larder = cupboard.kitchen().larder.get(key).copied().unwrap_or_default();
    let known = size.juice_yield().map(|mut known| {
        if let (Tool::Press, Some(fraction)) = (how.tool, size.press_fraction) {
            // A press gives its share of the whole piece; the spread goes with it.
            let pressed = size.whole.0 * fraction / 1.03;
            let times = (pressed / known.mean).max(1.0);
            known.mean *= times;
            known.scale *= times * times;
        }
        known
    });
    let chance = how.chance.clamp(0.5, 0.99);
    let wanted = Millilitres(need.juice);
    let (mut for_juice, mut half) = (0, 0);
    if need.juice > 0.0 {
        match &known {
            Some(known) => {
                (for_juice, half) =
                    (known.pieces_for(wanted, chance), known.pieces_for(wanted, 0.5));
            }
            None => {
                let each = size.whole.0 * size.press_fraction.unwrap_or(size.edible);
                for_juice = (need.juice / each).ceil() as u32;
                half = for_juice;
            }
        }
    }
    let per = |grams: f64, each: Option<Grams>| each.map_or(0.0, |g| (grams / g.0 - 0.05).ceil());
    let skins = per(need.zest, size.zest) + per(need.peel, size.peel);
    // Juice and zest come from the same fruit; flesh that is used whole does not.
    let shared = f64::from(for_juice).max(skins);
    let whole = (need.flesh_pieces - 0.1).max(0.0).ceil();
    let to_buy = |shared: f64| (shared + whole - larder.have.floor()).max(0.0);
    let (buy, half) = (to_buy(shared), to_buy(f64::from(half).max(skins)));
    let pack = larder.pack.unwrap_or(1.0).max(1.0);
    let packs = (buy / pack).ceil();
    let told = known.as_ref().filter(|_| for_juice > 0).map(|known| {
        let of_count = known.chance_of(shared, wanted);
        let times = (of_count * 10.0).floor().clamp(1.0, 9.0);
        let mut message = if of_count > 0.985 {
            "enough nearly always".to_owned()
        } else {
            format!("enough {times:.0} times in 10")
        };
        if half < buy {
            message += &format!("; {half:.0} would do half the time");
        }
        if larder.have >= 1.0 {
            message = format!("with the {:.0} that are there: {message}", larder.have);
        }
        Chance { of_count, half: half as u32, own_share: known.own_share, message }
    });
    let price = larder.price;
    let noun = |count: f64| named(produce, size, count);
    Some(Item {
        id: key.to_owned(),
        name: called(produce, size, 2.0),
        aisle: Aisle::Fruit,
        need: fruit_need(need),
        buy: if buy <= 0.0 {
            "nothing: there are enough".into()
        } else if pack > 1.0 {
            format!("{packs:.0} packs of {pack:.0}: {}", noun(packs * pack))
        } else {
            noun(buy)
        },
        count: if pack > 1.0 { packs } else { buy },
        weight_g: buy * size.whole.0,
        chance: told,
        have: larder.have,
        pack,
        by_piece: true,
        price,
        cost: price.map(|p| p * packs),
        drinks: need.drinks.clone(),
        left_over: left_over(need, size, &known, shared),
    })
}

/// "9 limes", "3 large lemons".
fn named(produce: &Produce, size: &Size, count: f64) -> String {
    format!("{count:.0} {}", called(produce, size, count))
}

/// "limes", "large lemon".
fn called(produce: &Produce, size: &Size, count: f64) -> String {
    let noun = if count > 1.0 { produce.plural.clone() } else { produce.name.to_lowercase() };
    if size.name == produce.usual().name { noun } else { format!("{} {noun}", size.name) }
}

fn fruit_need(need: &FruitNeed) -> String {
    let mut parts = Vec::new();
    if need.juice > 0.0 {
        parts.push(if need.juice >= 1000.0 {
            format!("{:.2} l of juice", need.juice / 1000.0)
        } else {
            format!("{:.0} ml of juice", need.juice)
        });
    }
    for (grams, what) in
        [(need.zest, "of zest"), (need.peel, "of peel"), (need.flesh_grams, "as it is used")]
    {
        if grams >= 1000.0 {
            parts.push(format!("{:.1} kg {what}", grams / 1000.0));
        } else if grams > 0.0 {
            parts.push(format!("{grams:.0} g {what}"));
        }
    }
    parts.join(" and ")
}

fn left_over(
    need: &FruitNeed,
    size: &Size,
    known: &Option<crate::cupboard::Yield>,
    pieces: f64,
) -> Option<String> {
    let mut parts = Vec::new();
    if let Some(known) = known.as_ref().filter(|_| need.juice > 0.0) {
        let juice = pieces * known.mean - need.juice;
        if juice >= known.mean * 0.7 {
            parts.push(format!("about {juice:.0} ml of juice, good as ice cubes"));
        }
    }
    if need.juice > 0.0
        && let Some(zest) = size.zest
    {
        let skins = pieces - need.zest / zest.0 - size.peel.map_or(0.0, |p| need.peel / p.0);
        if skins >= 1.0 {
            parts.push(format!(
                "the peel of {skins:.0}, for rims, for candying or for the next infusion"
            ));
        }
    } else if need.juice <= 0.0 && need.zest + need.peel > 0.0 {
        parts.push(format!("{pieces:.0} bare fruit to squeeze"));
    }
    (!parts.is_empty()).then(|| parts.join("; "))
}

fn other_item(id: &str, need: &Need, cupboard: &Cupboard, how: Shopping) -> Option<Item> {
    let it = cupboard.ingredient(id)?;
    let larder = cupboard.kitchen().larder.get(id).copied().unwrap_or_default();
    let usual = pack_of(it);
    let pack = larder.pack.unwrap_or(usual.grams).max(0.01);
    // Ice melts on the way and in the bag: a quarter more. Estimate.
    let wanted = if it.kind == Kind::Ice { need.grams * 1.25 } else { need.grams };
    let missing = (wanted - larder.have).max(0.0);
    // Nobody buys a second kilo for a spoonful: 2 % short is enough.
    // And a pinch of salt is in every kitchen.
    let staple = it.kind == Kind::Salt && missing < 0.05 * pack;
    let packs =
        if missing <= 0.0 || staple { 0.0 } else { ((missing / pack) - 0.02).ceil().max(1.0) };
    let written = crate::quantity::Amount::grams(need.grams);
    let text = measure(cupboard, it, &written, Grams(need.grams), how.units).amount.to_string();
    Some(Item {
        id: id.to_owned(),
        name: it.name.clone(),
        aisle: aisle_of(it),
        need: text,
        buy: if packs == 0.0 && missing > 0.0 {
            "very little: see whether there is any".into()
        } else if packs == 0.0 {
            "there is enough".into()
        } else {
            usual.said(packs, larder.pack)
        },
        count: packs,
        weight_g: packs * pack,
        chance: None,
        have: larder.have,
        pack,
        by_piece: false,
        price: larder.price,
        cost: larder.price.map(|p| p * packs),
        drinks: need.drinks.clone(),
        left_over: left_in_pack(packs * pack + larder.have - wanted, &usual, it),
    })
}

/// What stays in the pack, where that is worth a word: something that spoils.
fn left_in_pack(left: f64, usual: &Pack, it: &Ingredient) -> Option<String> {
    let spoils = matches!(it.kind, Kind::Herb | Kind::Dairy | Kind::Flower | Kind::Soda);
    let dry = it.per_gram[crate::chemistry::Component::Water] < 0.2;
    (spoils && !dry && left > usual.grams * 0.4).then(|| {
        let use_ = match it.kind {
            Kind::Herb | Kind::Flower => "for garnish, or frozen in ice cubes",
            Kind::Soda => "for the table; open it only then",
            _ => "to be used up soon",
        };
        format!("about {left:.0} g, {use_}")
    })
}

fn drink_cost(drink: &Drink, glasses: f64, items: &[Item], needs: &Needs) -> DrinkCost {
    let mut parts: Vec<(f64, &str)> = Vec::new();
    for item in items {
        let Some(price) = item.price else { continue };
        // What is used of it is paid, not what is left in the pack.
        let used = match needs.fruit.get(&item.id) {
            Some(need) => {
                let all: f64 = need.by_drink.values().sum();
                let mine = need.by_drink.get(&drink.name).copied().unwrap_or(0.0);
                if all > 0.0 { item.count * mine / all } else { 0.0 }
            }
            None => needs
                .other
                .get(&item.id)
                .and_then(|need| need.by_drink.get(&drink.name))
                .map_or(0.0, |grams| grams / item.pack),
        };
        parts.push((price * used, &item.name));
    }
    let cost: f64 = parts.iter().map(|(c, _)| c).sum();
    let most = parts.iter().max_by(|a, b| a.0.total_cmp(&b.0)).filter(|(c, _)| *c > 0.0);
    DrinkCost {
        name: drink.name.clone(),
        cost: (cost > 0.0).then_some(cost),
        per_glass: (cost > 0.0).then(|| cost / glasses.max(1.0)),
        glasses,
        driven_by: most
            .map(|(c, name)| format!("{}, {:.0} %", name.to_lowercase(), 100.0 * c / cost)),
    }
}
