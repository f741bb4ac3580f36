//! What a drink costs, and what of it costs most.

use super::needs::Needs;
use super::{DrinkCost, Item};
use crate::drink::Drink;

pub(super) fn drink_cost(drink: &Drink, glasses: f64, items: &[Item], needs: &Needs) -> DrinkCost {
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
