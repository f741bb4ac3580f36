//! What to buy for one or several drinks: fruit by count with the chance that it suffices, the rest in
//! the packs that it is sold in, less what is there.

mod cost;
mod items;
mod needs;
mod packs;
mod taken;

use serde::{Deserialize, Serialize};

use crate::cupboard::Cupboard;
use crate::drink::{Drink, FieldError};
use crate::quantity::Units;
use crate::trace::Trace;

use cost::drink_cost;
use items::{fruit_item, other_item};
use needs::Needs;
pub use packs::Aisle;
pub use taken::{Taken, had, taken};

/// The wanted chance of enough fruit, and the squeezer.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Shopping {
    /// The chance of enough fruit, 0.5 to 0.99.
    pub chance: f64,
    /// The squeezer.
    pub tool: Tool,
    /// The units for needs.
    pub units: Units,
}

impl Default for Shopping {
    fn default() -> Self {
        Self { chance: 0.9, tool: Tool::Reamer, units: Units::Metric }
    }
}

impl Shopping {
    /// Whether anyone can be so sure.
    ///
    /// # Errors
    /// If the chance is none that can be bought for.
    pub fn check(&self) -> Result<(), FieldError> {
        if (0.5..=0.99).contains(&self.chance) {
            return Ok(());
        }
        let message = "Enter 0.5 to 0.99.".into();
        Err(FieldError { field: "how.chance".into(), message })
    }
}

/// The squeezer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Tool {
    /// A hand reamer.
    #[default]
    Reamer,
    /// A lever press, which gives more.
    Press,
}

/// The shopping list.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ShoppingList {
    /// The parts of the shop.
    pub items: Vec<Item>,
    /// The total cost, as far as prices are known.
    pub cost: Option<f64>,
    /// How many items have no price.
    pub unpriced: u32,
    /// The cost of each drink, by the amounts that it uses.
    pub drinks: Vec<DrinkCost>,
}

/// The cost of a drink.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct DrinkCost {
    /// Its name.
    pub name: String,
    /// The cost of its ingredients, as far as prices are known.
    pub cost: Option<f64>,
    /// The cost of one glass.
    pub per_glass: Option<f64>,
    /// How many glasses, or 1.
    pub glasses: f64,
    /// The most expensive part, with its share: "limes, 45 %".
    pub driven_by: Option<String>,
}

/// A line of the list.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Item {
    /// The key for ticks and prices: an ingredient's id, or `lime/medium`.
    pub id: String,
    /// Its name.
    pub name: String,
    /// Its part of the shop.
    pub aisle: Aisle,
    /// The need: "258 ml of juice and 20 g of zest".
    pub need: String,
    /// The amount to buy: "9 limes", "2 packs of 1 kg"; "there is enough".
    pub buy: String,
    /// How many pieces or packs to buy; 0 if there is enough.
    pub count: f64,
    /// Its approximate weight, g.
    pub weight_g: f64,
    /// For fruit: the chance that it is enough.
    pub chance: Option<Chance>,
    /// The stock, in pieces or g.
    pub have: f64,
    /// The size of a pack, in pieces or g.
    pub pack: f64,
    /// Whether it is counted in pieces.
    pub by_piece: bool,
    /// The price of a piece or pack.
    pub price: Option<f64>,
    /// The total cost.
    pub cost: Option<f64>,
    /// The drinks that need it.
    pub drinks: Vec<String>,
    /// The leftovers, with a use for them.
    pub left_over: Option<String>,
}

/// The certainty of a count of fruit.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Chance {
    /// The chance that the count is enough, 0 to 1.
    pub of_count: f64,
    /// How many would be enough 5 times out of 10.
    pub half: u32,
    /// The share of your own measurements in what is known about a piece, 0 to 1.
    pub own_share: f64,
    /// In words: "enough 9 times out of 10; 7 would be enough half the time".
    pub message: String,
}

/// The list for some drinks at the sizes that they have.
#[must_use]
pub fn shop(drinks: &[Drink], cupboard: &Cupboard, how: Shopping) -> ShoppingList {
    let mut needs = Needs::default();
    let mut glasses: Vec<f64> = Vec::new();
    for (nth, drink) in drinks.iter().enumerate() {
        let trace = Trace::run(drink, cupboard);
        glasses.push(trace.outcome().map_or(1.0, |o| if o.served { o.glasses } else { 1.0 }));
        needs.add(nth, drink, &trace, cupboard);
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
        .enumerate()
        .zip(&glasses)
        .map(|((nth, drink), glasses)| {
            drink_cost(nth, drink, *glasses, &items, &needs, cupboard, how)
        })
        .collect();
    ShoppingList { cost: (!costs.is_empty()).then(|| costs.iter().sum()), unpriced, items, drinks }
}
