//! What is there, and what of it stands in for what isn't.

use std::collections::BTreeSet;

use super::{Use, Wish, in_stock, is_basic, said};
use crate::balance::swap;
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Ingredient, Kind, Role};
use crate::drink::{Action, Drink};
use crate::quantity::{Measure, Term, to_figures};
use crate::shop::{Taken, taken};
use crate::work::{Stopped, Worktop};

/// The ingredients in stock.
pub(super) struct Stock {
    things: Vec<Thing>,
}

struct Thing {
    /// By the name under which it is bought.
    taken: Taken,
    /// The fruit, where it is counted.
    produce: Option<String>,
    /// What can be made of it: juice and zest of limes; else itself.
    gives: Vec<String>,
    soon: bool,
    basic: bool,
    /// Whether nobody said how much there is: then it is enough.
    some: bool,
    /// Whether it was counted, and not weighed.
    counted: bool,
}

/// Of so many things others are tried in the place of one.
const MOST_REPLACED: usize = 4;

/// The part before the size: `lime/medium` is of `lime`.
fn produce_of(id: &str) -> Option<&str> {
    id.split_once('/').map(|(produce, _)| produce)
}

impl Stock {
    pub(super) fn of(wish: &Wish, cupboard: &Cupboard) -> Self {
        let mut things: Vec<Thing> = Vec::new();
        for have in &wish.have {
            let Some(taken) = in_stock(have, cupboard) else { continue };
            let produce = produce_of(&taken.id).map(str::to_owned);
            let gives = match cupboard.size_named(&taken.id) {
                Some((produce, _)) => produce.gives.clone(),
                None => vec![taken.id.clone()],
            };
            let (basic, some) = (is_basic(cupboard, &taken.id), have.some);
            let piece = |t: &Term| matches!(t.measure, Measure::Piece(_));
            let counted = have.amount.terms().iter().any(piece);
            match things.iter_mut().find(|t| t.is(&taken.id)) {
                Some(known) => {
                    known.taken.much += taken.much;
                    known.soon |= have.soon;
                    known.some |= some;
                }
                None => things.push(Thing {
                    taken,
                    produce,
                    gives,
                    soon: have.soon,
                    basic,
                    some,
                    counted,
                }),
            }
        }
        Self { things }
    }

    fn thing(&self, id: &str) -> Option<&Thing> {
        self.things.iter().find(|t| t.is(id))
    }

    /// How much of it is there, in pieces or g.
    pub(super) fn has(&self, id: &str) -> f64 {
        self.thing(id).map_or(0.0, |t| if t.some { f64::INFINITY } else { t.taken.much })
    }

    /// How many of the things that give a drink its character are there.
    pub(super) fn character(&self, takes: &[Taken]) -> usize {
        takes.iter().filter(|one| self.thing(&one.id).is_some_and(|t| !t.basic)).count()
    }

    /// How much of what gives a drink its character is there, or something that does the same; what won't wait counts
    /// twice, and what would have to be bought counts against it.
    pub(super) fn shared(&self, drink: &Drink, cupboard: &Cupboard) -> i32 {
        let inside: BTreeSet<&str> =
            drink.steps.iter().filter_map(|step| step.action.ingredient()).collect();
        let mut shared = 0;
        let mut used = vec![false; self.things.len()];
        for it in inside.iter().filter_map(|id| cupboard.ingredient(id)) {
            let same = |thing: &Thing| thing.gives.contains(&it.id);
            let near = |thing: &Thing| {
                let mut gives = thing.gives.iter().filter_map(|id| cupboard.ingredient(id));
                gives.any(|other| does_the_same(it, other))
            };
            let found = self.things.iter().position(same);
            match found.or_else(|| self.things.iter().position(near)) {
                Some(i) if !self.things[i].basic && !used[i] => {
                    used[i] = true;
                    shared += 1 + i32::from(self.things[i].soon);
                }
                Some(_) => {}
                None => shared -= i32::from(!is_basic(cupboard, &it.id)),
            }
        }
        shared
    }

    /// How many times the drink what has to go first is enough for; of what is as urgent, the most that all allow.
    pub(super) fn lasts_for(&self, takes: &[Taken]) -> Option<f64> {
        let times = |soon: bool| {
            takes
                .iter()
                .filter_map(|one| Some((one, self.thing(&one.id)?)))
                .filter(|(one, t)| !t.basic && !t.some && (t.soon || !soon) && one.much > 0.0)
                .map(|(one, t)| t.taken.much / one.much)
                .min_by(f64::total_cmp)
        };
        times(true).or_else(|| times(false))
    }

    /// What of what is there is used, in words.
    pub(super) fn uses(&self, takes: &[Taken], cupboard: &Cupboard) -> Vec<Use> {
        let uses = self.things.iter().filter_map(|thing| {
            let one = takes.iter().find(|one| thing.is(&one.id))?;
            // Of some that is there for the drink as much is taken as it takes.
            let share = match thing.some {
                true => 0.5,
                false => (one.much / thing.taken.much.max(1e-9)).min(1.0),
            };
            let text = match cupboard.size_named(&thing.taken.id) {
                Some((produce, size)) if !thing.counted => {
                    let plural = produce.plural.to_lowercase();
                    let grams = one.much * size.whole.0 * size.edible;
                    match share > 0.93 {
                        true => format!("all the {plural}"),
                        false => format!("{} g of the {plural}", to_figures(grams, 2)),
                    }
                }
                Some((produce, _)) => {
                    let all = if thing.some { one.much.ceil() } else { thing.taken.much };
                    let used = (one.much - 0.1).ceil().clamp(1.0, all.max(1.0));
                    let noun = |count: f64| {
                        let noun = if count > 1.0 { &produce.plural } else { &produce.name };
                        noun.to_lowercase()
                    };
                    if thing.some {
                        format!("{used} {}", noun(used))
                    } else if share > 0.93 {
                        let all = crate::quantity::format_number(all, true);
                        format!("all {all} {}", noun(thing.taken.much))
                    } else {
                        format!("{used} of {all} {}", noun(all))
                    }
                }
                None if share > 0.93 => format!("all the {}", name(cupboard, &thing.taken.id)),
                None => said(cupboard, &thing.taken.id, one.much),
            };
            let called = thing.taken.id.clone();
            Some(Use { text, name: called, character: !thing.basic, share, soon: thing.soon })
        });
        uses.collect()
    }

    /// What is there and does the same as an ingredient, and isn't in the drink yet.
    fn stands_in(&self, it: &Ingredient, drink: &Drink, cupboard: &Cupboard) -> Option<String> {
        let inside = |id: &str| drink.steps.iter().any(|s| s.action.ingredient() == Some(id));
        let gives = self.things.iter().flat_map(|t| t.gives.iter());
        gives
            .filter_map(|id| cupboard.ingredient(id))
            .find(|other| does_the_same(it, other) && !inside(&other.id) && other.id != it.id)
            .map(|other| other.id.clone())
    }

    /// What has a flavour of its own or has to be used soon and isn't in the drink, and the step of it whose sweetness or
    /// sourness it can give instead.
    fn comes_in(&self, drink: &Drink, cupboard: &Cupboard) -> Option<(String, String, String)> {
        let inside = |id: &str| drink.steps.iter().any(|s| s.action.ingredient() == Some(id));
        let mut things: Vec<&Thing> = self.things.iter().filter(|t| t.soon || !t.basic).collect();
        things.sort_by_key(|t| !t.soon);
        things
            .into_iter()
            .filter(|t| !t.gives.iter().any(|id| inside(id)))
            .flat_map(|t| t.gives.iter())
            .filter_map(|id| cupboard.ingredient(id))
            .filter(|other| is_a_syrup(other) && !is_vinegar(other))
            .find_map(|other| {
                let step = drink.steps.iter().find(|step| {
                    let it = step.action.ingredient().and_then(|id| cupboard.ingredient(id));
                    step.action.amount().is_some()
                        && it.is_some_and(|it| {
                            is_basic(cupboard, &it.id) && it.role() == Role::Sweetens
                        })
                })?;
                let old = step.action.ingredient()?.to_owned();
                Some((step.id.clone(), old, other.id.clone()))
            })
    }
}

/// Whether it can be what sweetens a drink: also a thin syrup of one's own.
fn is_a_syrup(it: &Ingredient) -> bool {
    it.role() == Role::Sweetens && it.kind != Kind::Dairy
        || it.kept.is_some() && it.per_gram.sucrose_equivalent().0 > 0.2
}

/// Whether it tastes of vinegar, which is no matter of sweet and sour alone.
fn is_vinegar(it: &Ingredient) -> bool {
    it.per_gram[Component::Acetic] > 0.004
}

/// Whether one does in a drink what the other does: sharp for sharp, sweet for sweet, a herb for a herb, and a fruit for
/// one about as sweet and as sour. Vinegar is only replaced by vinegar.
fn does_the_same(it: &Ingredient, other: &Ingredient) -> bool {
    let alike = |a: f64, b: f64, least: f64| {
        let (low, high) = (a.min(b), a.max(b));
        high < least || low > high / 3.0
    };
    match (it.role(), other.role()) {
        // Condensed milk is more than sugar, and a vinegar cordial too.
        (Role::Sweetens, Role::Sweetens) => {
            (it.kind == Kind::Dairy) == (other.kind == Kind::Dairy)
                && is_vinegar(it) == is_vinegar(other)
        }
        // A bottle of one's own is more than its acid.
        (Role::Sharpens, Role::Sharpens) => {
            is_vinegar(it) == is_vinegar(other) && other.kept.is_none()
        }
        (Role::OfItsKind(a), Role::OfItsKind(b)) if a == b => match a {
            Kind::Herb | Kind::Zest | Kind::Peel => true,
            // What is sour as a lemon makes no fruit water of itself, nor does a paste.
            Kind::Fruit => {
                let (sour, sweet) = (
                    |it: &Ingredient| it.per_gram.titratable_acid(),
                    |it: &Ingredient| it.per_gram.sugars().0,
                );
                sour(other) < 0.025
                    && alike(sour(it), sour(other), 0.012)
                    && alike(sweet(it), sweet(other), 0.0)
            }
            _ => false,
        },
        _ => false,
    }
}

impl Thing {
    /// Whether it is what a drink takes: limes are limes, whatever their size.
    fn is(&self, id: &str) -> bool {
        match (&self.produce, produce_of(id)) {
            (Some(mine), Some(other)) => mine == other,
            _ => self.taken.id == id,
        }
    }
}

fn name(cupboard: &Cupboard, id: &str) -> String {
    cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| it.name.to_lowercase())
}

/// A drink with what is there in the place of what isn't.
pub(super) struct Replaced {
    pub(super) drink: Drink,
    /// What was replaced by what: ids.
    by: Vec<(String, String)>,
}

impl Replaced {
    /// Whether anything was.
    pub(super) fn is_changed(&self) -> bool {
        !self.by.is_empty()
    }

    /// Whether there is enough of all that came in.
    pub(super) fn suffices(&self, takes: &[Taken], stock: &Stock) -> bool {
        let short = |one: &&Taken| one.much > 1.03 * stock.has(&one.id);
        !takes.iter().filter(short).any(|one| self.by.iter().any(|(_, new)| *new == one.id))
    }

    /// What was replaced, in words.
    pub(super) fn changes(&self, cupboard: &Cupboard) -> Vec<String> {
        let said = |(old, new): &(String, String)| {
            format!("{} instead of {}", name(cupboard, new), name(cupboard, old))
        };
        self.by.iter().map(said).collect()
    }

    /// A name that tells what it is made of now: "Limeade" of lemonade, or "Fruit water, with strawberry".
    pub(super) fn name(&self, was: &str, cupboard: &Cupboard) -> String {
        let fruit = |id: &str| {
            let it = cupboard.ingredient(id)?;
            let produce = cupboard.produce_of(it).next().map(|p| p.name.to_lowercase());
            Some(produce.unwrap_or_else(|| it.name.to_lowercase()))
        };
        let mut named = was.to_owned();
        let mut others: Vec<String> = Vec::new();
        for (old, new) in self.by.iter().filter(|(_, new)| !is_basic(cupboard, new)) {
            // Nobody names a drink after plain sugar syrup.
            if cupboard
                .ingredient(new)
                .is_some_and(|it| it.kind == Kind::Syrup && it.flavour.aroma <= 0.0)
            {
                continue;
            }
            let (Some(old), Some(new)) = (fruit(old), fruit(new)) else { continue };
            let told = format!("{named} {}", others.join(" ")).to_lowercase().contains(&new);
            if let Some(at) = named.to_lowercase().find(&old) {
                let capital = named[at..].starts_with(char::is_uppercase);
                let mut word = new.clone();
                if capital && let Some(first) = word.get_mut(..1) {
                    first.make_ascii_uppercase();
                }
                named.replace_range(at..at + old.len(), &word);
            } else if !told {
                others.push(new);
            }
        }
        if others.is_empty() { named } else { format!("{named}, with {}", others.join(" and ")) }
    }
}

/// Fruit that is there is squeezed, and no juice is bought.
fn squeeze(drink: &mut Drink, step: &str, cupboard: &Cupboard) {
    let Some(step) = drink.steps.iter_mut().find(|s| s.id == step) else { return };
    if let Action::Add { into, ingredient, amount, .. } = &step.action
        && cupboard.ingredient(ingredient).is_some_and(|it| cupboard.can_be_squeezed(it))
    {
        let (into, ingredient, amount) = (into.clone(), ingredient.clone(), amount.clone());
        step.action = Action::Squeeze { into, ingredient, amount, halves_into: None };
    }
}

/// Puts what is there in the place of what isn't, and, if `eager`, what has a flavour of its own in the place of plain
/// sugar; none where that can't be worked out.
pub(super) fn replaced(
    drink: &Drink,
    stock: &Stock,
    eager: bool,
    worktop: Worktop<'_>,
) -> Result<Option<Replaced>, Stopped> {
    let cupboard = worktop.cupboard();
    let mut drink = drink.clone();
    let mut by = Vec::new();
    for _ in 0..MOST_REPLACED {
        let trace = worktop.trace(&drink)?;
        let takes = taken(&drink, &trace, cupboard);
        let lacks = |it: &Ingredient| {
            let bought_as = |one: &&Taken| {
                one.id == it.id
                    || cupboard.produce_of(it).any(|p| produce_of(&one.id) == Some(p.id.as_str()))
            };
            takes.iter().find(bought_as).is_some_and(|one| stock.has(&one.id) <= 0.0)
        };
        let next = drink.steps.iter().find_map(|step| {
            let it = cupboard.ingredient(step.action.ingredient()?)?;
            step.action.amount()?;
            if it.kind == Kind::Water || it.kind == Kind::Ice || !lacks(it) {
                return None;
            }
            Some((step.id.clone(), it.id.clone(), stock.stands_in(it, &drink, cupboard)?))
        });
        let next = next.or_else(|| eager.then(|| stock.comes_in(&drink, cupboard))?);
        let Some((step, old, other)) = next else { break };
        match swap(&drink, worktop, &step, &other) {
            Ok(swapped) => {
                drink = swapped.solution.drink;
                squeeze(&mut drink, &step, cupboard);
                by.push((old, other));
            }
            // It can't take its place here: the drink is told with what it lacks.
            Err(_) => return Ok(None),
        }
    }
    Ok(Some(Replaced { drink, by }))
}
