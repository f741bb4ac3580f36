//! What comes first.
//!
//! A step needs what was done before it: whatever was last done in each vessel that it works on, what it says
//! itself that it comes after, and the washing or cutting of the fruit that it adds. That is all the order
//! there is; steps that don't need each other may be done in any order, or at the same time. When a step can
//! begin, how long the whole takes, what can be done meanwhile and when to start are all read off this.

use super::{Action, Drink};
use crate::cupboard::Cupboard;

/// Why a step comes after another.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Through {
    /// It works on a vessel that the other was the last to work on, by its position.
    Vessel(usize),
    /// It says so.
    Said,
    /// It adds what the other washes or cuts. Only before the `first` use does the fruit wait for nothing else.
    Fruit { first: bool },
}

/// A step that has to be done before another.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Need {
    /// The position of the step that is done before.
    pub(crate) step: usize,
    pub(crate) through: Through,
}

/// For each step of a drink the vessels that it works on, and the steps that it comes after.
#[derive(Debug, Clone, Default)]
pub(crate) struct Precedence {
    paths: Vec<Vec<usize>>,
    needs: Vec<Need>,
    /// Where the needs of each step end.
    ends: Vec<usize>,
}

impl Precedence {
    /// Reads it off a drink.
    pub(crate) fn of(drink: &Drink, cupboard: &Cupboard) -> Self {
        let mut it = Self { needs: Vec::with_capacity(2 * drink.steps.len()), ..Self::default() };
        let mut last: Vec<Option<usize>> = vec![None; drink.vessels.len()];
        for (index, step) in drink.steps.iter().enumerate() {
            let path: Vec<usize> =
                step.action.path().into_iter().filter_map(|id| drink.vessel(id)).collect();
            for vessel in path.iter().copied() {
                // A path may lead through one sieve twice.
                let before = last[vessel].replace(index).filter(|before| *before != index);
                let through = Through::Vessel(vessel);
                it.needs.extend(before.map(|step| Need { step, through }));
            }
            it.paths.push(path);
            if !step.after.is_empty() {
                let said = (0..index).filter(|s| step.after.contains(&drink.steps[*s].id));
                it.needs.extend(said.map(|step| Need { step, through: Through::Said }));
            }
            it.needs.extend(fruit(drink, index, cupboard));
            it.ends.push(it.needs.len());
        }
        it
    }

    /// The vessels that a step works on, in the order in which things flow.
    pub(crate) fn path(&self, step: usize) -> &[usize] {
        &self.paths[step]
    }

    /// What a step needs done before it, and nothing in between.
    pub(crate) fn needs(&self, step: usize) -> &[Need] {
        let from = step.checked_sub(1).map_or(0, |before| self.ends[before]);
        &self.needs[from..self.ends[step]]
    }

    /// For each step whether it can only be done after that one.
    pub(crate) fn follows(&self, step: usize) -> Vec<bool> {
        let mut follows = vec![false; self.ends.len()];
        for later in step + 1..follows.len() {
            follows[later] = self.needs(later).iter().any(|n| n.step == step || follows[n.step]);
        }
        follows
    }
}

/// The steps that prepare what a step adds.
fn fruit<'a>(
    drink: &'a Drink,
    step: usize,
    cupboard: &'a Cupboard,
) -> impl Iterator<Item = Need> + 'a {
    let prepares = |at: &usize| matches!(drink.steps[*at].action, Action::Prepare { .. });
    let any = (0..step).any(|at| prepares(&at));
    let taken = drink.steps[step].action.brings().filter(|_| any).map(|taken| taken.ingredient);
    taken.into_iter().flat_map(move |taken| {
        let of = |id: &str| {
            let it = cupboard.ingredient(id);
            it.into_iter().flat_map(|it| cupboard.produce_of(it)).map(|p| &p.id).collect::<Vec<_>>()
        };
        let mine = of(taken);
        let uses = |s: &super::Step| s.action.brings().is_some_and(|b| b.ingredient == taken);
        let first = !drink.steps[..step].iter().any(uses);
        (0..step).filter(prepares).filter_map(move |at| {
            let Action::Prepare { ingredient, .. } = &drink.steps[at].action else { return None };
            let same = ingredient == taken || of(ingredient).iter().any(|p| mine.contains(p));
            same.then_some(Need { step: at, through: Through::Fruit { first } })
        })
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Lemons washed, zest rubbed with sugar in a bowl, a pot boiled meanwhile, both strained together.
    fn drink() -> Drink {
        let vessel = |id: &str, kind: &str| serde_json::json!({"id": id, "kind": kind});
        let said = serde_json::json!({
            "name": "Washed first", "family": "lemonade",
            "vessels": [vessel("bowl", "bowl"), vessel("pot", "pot"), vessel("jug", "pitcher")],
            "steps": [
                {"id": "wash", "do": {"prepare": {"ingredient": "lemon_zest", "how": "wash"}}},
                {"id": "zest", "do": {"add": {"into": "bowl", "ingredient": "lemon_zest", "amount": "4 g"}}},
                {"id": "water", "do": {"add": {"into": "pot", "ingredient": "water", "amount": "500 ml"}}},
                {"id": "heat", "do": {"heat": {"vessel": "pot", "to_c": 90.0, "minutes": 0.0, "lid": true}}},
                {"id": "pour", "do": {"pour": {"from": "pot", "into": "bowl"}}},
                {"id": "juice", "after": ["heat"],
                 "do": {"squeeze": {"into": "jug", "ingredient": "lemon_juice", "amount": "100 ml"}}},
                {"id": "more", "do": {"add": {"into": "bowl", "ingredient": "lemon_zest", "amount": "2 g"}}}
            ]
        });
        serde_json::from_value(said).unwrap()
    }

    #[test]
    fn vessels_what_is_said_and_washing_come_first() {
        let cupboard = Cupboard::builtin();
        let drink = drink();
        let order = Precedence::of(&drink, cupboard);
        let of =
            |step: usize| order.needs(step).iter().map(|n| (n.step, n.through)).collect::<Vec<_>>();
        let vessel = Through::Vessel;
        assert_eq!(of(0), []);
        assert_eq!(of(1), [(0, Through::Fruit { first: true })]);
        assert_eq!(of(3), [(2, vessel(1))]);
        assert_eq!(of(4), [(3, vessel(1)), (1, vessel(0))]);
        assert_eq!(of(5), [(3, Through::Said), (0, Through::Fruit { first: true })]);
        assert_eq!(of(6), [(4, vessel(0)), (0, Through::Fruit { first: false })]);
        assert_eq!(order.follows(2), [false, false, false, true, true, true, true]);
        assert_eq!(order.follows(1), [false, false, false, false, true, false, true]);
        assert_eq!(order.path(4), [1, 0]);
    }
}
