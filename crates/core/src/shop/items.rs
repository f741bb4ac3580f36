//! A need as what one buys: fruit by count with the chance that it suffices, the rest in packs.

use super::needs::{FruitNeed, Need, Parts};
use super::packs::{aisle_of, pack_of, packs_in_words};
use super::{Aisle, Chance, Item, Shopping, Tool};
use crate::cupboard::{Cupboard, Ingredient, Kind, Pack, Produce, Size, Yield};
use crate::quantity::{Grams, Millilitres};
use crate::scale::measure;

/// What a piece gives, with the tool that there is.
fn yield_with(size: &Size, how: Shopping) -> Option<Yield> {
    let known = size.juice_yield()?;
    if let (Tool::Press, Some(fraction)) = (how.tool, size.press_fraction) {
        // A press gives its share of the whole piece; the spread goes with it.
        let pressed = size.whole.0 * fraction / 1.03;
        return Some(known.times((pressed / known.mean()).max(1.0)));
    }
    Some(known)
}

/// About how many pieces a drink takes, in parts of a piece.
pub(super) fn pieces_used(of: &Parts, size: &Size, how: Shopping) -> f64 {
    let juice = yield_with(size, how).map_or_else(|| unsure_juice(size), |known| known.mean());
    let skin = |grams: f64, each: Option<Grams>| each.map_or(0.0, |each| grams / each.0);
    (of.juice / juice).max(skin(of.zest, size.zest) + skin(of.peel, size.peel)) + of.flesh_pieces
}

/// ml of a piece whose yield nobody measured: what a press or a knife takes of it.
fn unsure_juice(size: &Size) -> f64 {
    size.whole.0 * size.press_fraction.unwrap_or(size.edible)
}

pub(super) fn fruit_item(
    key: &str,
    need: &FruitNeed,
    cupboard: &Cupboard,
    how: Shopping,
) -> Option<Item> {
    let (produce, size) = cupboard.size_named(key)?;
    let larder = cupboard.kitchen().larder.get(key).copied().unwrap_or_default();
    let known = yield_with(size, how);
    let Parts { juice, zest, peel, flesh_pieces, .. } = need.all;
    let chance = how.chance.clamp(0.5, 0.99);
    let wanted = Millilitres(juice);
    let (mut for_juice, mut half) = (0, 0);
    if juice > 0.0 {
        match &known {
            Some(known) => {
                (for_juice, half) =
                    (known.pieces_for(wanted, chance), known.pieces_for(wanted, 0.5));
            }
            None => {
                for_juice = (juice / unsure_juice(size)).ceil() as u32;
                half = for_juice;
            }
        }
    }
    let per = |grams: f64, each: Option<Grams>| each.map_or(0.0, |g| (grams / g.0 - 0.05).ceil());
    let skins = per(zest, size.zest) + per(peel, size.peel);
    // Juice and zest come from the same fruit; flesh that is used whole does not.
    let shared = f64::from(for_juice).max(skins);
    let whole = (flesh_pieces - 0.1).max(0.0).ceil();
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
            format!("enough {times:.0} times out of 10")
        };
        if half < buy {
            message += &format!("; {half:.0} would be enough half the time");
        }
        if larder.have >= 1.0 {
            message = format!("with the {:.0} you have: {message}", larder.have);
        }
        Chance { of_count, half: half as u32, own_share: known.own_share(), message }
    });
    let price = larder.price;
    let noun = |count: f64| named(produce, size, count);
    Some(Item {
        id: key.to_owned(),
        name: called(produce, size, 2.0),
        aisle: Aisle::Fruit,
        need: fruit_need(&need.all),
        buy: if buy <= 0.0 {
            "nothing, you have enough".into()
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
        left_over: left_over(&need.all, size, &known, shared),
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

fn fruit_need(need: &Parts) -> String {
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

fn left_over(need: &Parts, size: &Size, known: &Option<Yield>, pieces: f64) -> Option<String> {
    let mut parts = Vec::new();
    if let Some(known) = known.as_ref().filter(|_| need.juice > 0.0) {
        let juice = pieces * known.mean() - need.juice;
        if juice >= known.mean() * 0.7 {
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

pub(super) fn other_item(
    id: &str,
    need: &Need,
    cupboard: &Cupboard,
    how: Shopping,
) -> Option<Item> {
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
            "a little: check that you have some".into()
        } else if packs == 0.0 {
            "you have enough".into()
        } else {
            packs_in_words(&usual, packs, larder.pack)
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
            Kind::Soda => "open it at the table",
            _ => "use soon",
        };
        format!("about {left:.0} g, {use_}")
    })
}
