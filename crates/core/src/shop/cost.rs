//! What a drink costs, and what of it costs most: what is used is paid, not what is left in the pack or
//! was there already.

use super::items::pieces_used;
use super::needs::Needs;
use super::{DrinkCost, Item, Shopping};
use crate::cupboard::Cupboard;
use crate::drink::Drink;

/// The cost of the `nth` drink of the list.
pub(super) fn drink_cost(
    nth: usize,
    drink: &Drink,
    glasses: f64,
    items: &[Item],
    needs: &Needs,
    cupboard: &Cupboard,
    how: Shopping,
) -> DrinkCost {
    let used = |item: &Item| match needs.fruit.get(&item.id) {
        Some(need) => {
            let (_, size) = cupboard.size_named(&item.id)?;
            Some(pieces_used(need.by_drink.get(&nth)?, size, how))
        }
        None => needs.other.get(&item.id)?.by_drink.get(&nth).copied(),
    };
    let parts: Vec<(f64, &str)> = items
        .iter()
        .filter_map(|item| Some((item.price? * used(item)? / item.pack, item.name.as_str())))
        .collect();
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
