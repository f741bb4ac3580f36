//! Two states of a drink, told apart in words.

use crate::cupboard::Cupboard;
use crate::drink::{Action, Drink, Reduction, Step};
use crate::report::sentence;

/// More than so many changes are another drink; the rest is only counted.
const MOST: usize = 12;

/// What is different in `after`, in words, the amounts first. Empty where nothing is.
#[must_use]
pub fn difference(before: &Drink, after: &Drink, cupboard: &Cupboard) -> Vec<String> {
    let mut said = Vec::new();
    if before.name != after.name {
        said.push(format!("called “{}”, not “{}”", after.name, before.name));
    }
    let find = |steps: &[Step], id: &str| steps.iter().position(|s| s.id == id);
    for step in &after.steps {
        match find(&before.steps, &step.id) {
            Some(at) => said.extend(changed(&before.steps[at], step, before, after, cupboard)),
            None => said.push(format!("{} added", short(step, after, cupboard))),
        }
    }
    for step in &before.steps {
        if find(&after.steps, &step.id).is_none() {
            said.push(format!("{} left out", short(step, before, cupboard)));
        }
    }
    said.extend(moved(before, after, cupboard));
    for vessel in &after.vessels {
        let was = before.vessels.iter().find(|v| v.id == vessel.id);
        if let Some(was) = was
            && (was.capacity() / vessel.capacity() - 1.0).abs() > 1e-9
        {
            let at = after.vessel(&vessel.id).map_or_else(String::new, |v| after.in_sentence(v));
            said.push(format!(
                "{at} holds {:.0} ml, not {:.0}",
                vessel.capacity().0,
                was.capacity().0
            ));
        }
    }
    if before.family != after.family {
        said.push("changed to another kind of drink".into());
    }
    if before.part != after.part {
        let part = |d: &Drink| d.part.as_ref().map_or_else(|| "30 ml".into(), ToString::to_string);
        said.push(format!("a part is {}, not {}", part(after), part(before)));
    }
    if before.note.trim() != after.note.trim() {
        said.push("the note".into());
    }
    if said.len() > MOST {
        let more = said.len() - MOST;
        said.truncate(MOST);
        said.push(format!("and {more} more"));
    }
    said
}

fn name(cupboard: &Cupboard, id: &str) -> String {
    cupboard.ingredient(id).map_or_else(|| id.replace('_', " "), |it| it.name.to_lowercase())
}

/// A step in a few words: what it brings, or what is done.
fn short(step: &Step, drink: &Drink, cupboard: &Cupboard) -> String {
    match step.action.brings() {
        Some(brought) => {
            let name = name(cupboard, brought.ingredient);
            match brought.amount {
                Some(amount) if brought.line => format!("{name} to {amount}"),
                Some(amount) => format!("{name} {amount}"),
                None => name,
            }
        }
        None => {
            let text = sentence(drink, step, cupboard);
            format!("“{}”", text.trim_end_matches('.'))
        }
    }
}

/// The minutes that a step is said to take, and a word for what it does.
fn minutes(action: &Action) -> Option<(&'static str, f64)> {
    Some(match action {
        Action::Infuse { minutes, .. } => ("leave it", *minutes),
        Action::Macerate { minutes, .. } => ("leave it under sugar", *minutes),
        Action::Boil { minutes, .. } => ("boil it", *minutes),
        Action::Heat { minutes, .. } if *minutes > 0.0 => ("keep it hot", *minutes),
        _ => return None,
    })
}

fn time(minutes: f64) -> String {
    if minutes >= 120.0 && (minutes / 30.0).fract() < 1e-9 {
        format!("{} h", minutes / 60.0)
    } else {
        format!("{minutes:.0} min")
    }
}

/// The shorter way of saying from what to what: the unit once, where both have it.
fn from_to(before: &str, after: &str) -> String {
    match (before.rsplit_once(' '), after.rsplit_once(' ')) {
        (Some((was, unit)), Some((_, same))) if unit == same && unit == "min" => {
            format!("{was} → {after}")
        }
        _ => format!("{before} → {after}"),
    }
}

fn changed(
    before: &Step,
    after: &Step,
    was_in: &Drink,
    is_in: &Drink,
    cupboard: &Cupboard,
) -> Option<String> {
    if before == after {
        return None;
    }
    let (was, is) = (&before.action, &after.action);
    if was == is {
        return Some(match (before.note.trim(), after.note.trim()) {
            (a, b) if a != b && !b.is_empty() => {
                format!("{}: {b}", short(after, is_in, cupboard))
            }
            _ => format!("{}, how it is done", short(after, is_in, cupboard)),
        });
    }
    if let (Some(old), Some(new)) = (was.brings(), is.brings()) {
        let (old_name, new_name) = (name(cupboard, old.ingredient), name(cupboard, new.ingredient));
        return Some(if old.ingredient != new.ingredient {
            format!("{} → {}", short(before, was_in, cupboard), short(after, is_in, cupboard))
        } else if let (Some(a), Some(b)) = (old.amount, new.amount)
            && a != b
        {
            format!("{new_name} {}", from_to(&a.to_string(), &b.to_string()))
        } else {
            let _ = old_name;
            format!("{new_name}: {}", sentence(is_in, after, cupboard).trim_end_matches('.'))
        });
    }
    if let (Some((_, a)), Some((word, b))) = (minutes(was), minutes(is))
        && (a - b).abs() > 1e-9
        && std::mem::discriminant(was) == std::mem::discriminant(is)
    {
        return Some(format!("{word} {}", from_to(&time(a), &time(b))));
    }
    if let (Action::Serve { glasses: a, size: x, .. }, Action::Serve { glasses: b, size: y, .. }) =
        (was, is)
    {
        return Some(format!("{a} glasses of {x} → {b} of {y}"));
    }
    if let (
        Action::Reduce { to: Reduction::Volume(a), .. },
        Action::Reduce { to: Reduction::Volume(b), .. },
    ) = (was, is)
        && a != b
    {
        return Some(format!("boil it down to {}", from_to(&a.to_string(), &b.to_string())));
    }
    if let (Action::Cool { to_c: a, .. }, Action::Cool { to_c: b, .. })
    | (Action::Heat { to_c: a, .. }, Action::Heat { to_c: b, .. }) = (was, is)
        && (a - b).abs() > 1e-9
    {
        let word = if matches!(is, Action::Cool { .. }) { "cool it to" } else { "heat it to" };
        return Some(format!("{word} {a:.0} → {b:.0} °C"));
    }
    let text = |drink, step| sentence(drink, step, cupboard).trim_end_matches('.').to_owned();
    Some(format!("“{}” → “{}”", text(was_in, before), text(is_in, after)))
}

/// Steps that come at another place, as few as explain the new order.
fn moved(before: &Drink, after: &Drink, cupboard: &Cupboard) -> Vec<String> {
    let places: Vec<(usize, usize)> = after
        .steps
        .iter()
        .enumerate()
        .filter_map(|(at, step)| Some((at, before.steps.iter().position(|s| s.id == step.id)?)))
        .collect();
    // Those that stay are the longest row of rising places.
    let mut best: Vec<(usize, Option<usize>)> = Vec::with_capacity(places.len());
    for (i, (_, was)) in places.iter().enumerate() {
        let longest = (0..i).filter(|j| places[*j].1 < *was).max_by_key(|j| best[*j].0);
        best.push((longest.map_or(1, |j| best[j].0 + 1), longest));
    }
    let mut stays = vec![false; places.len()];
    let mut at = (0..places.len()).max_by_key(|i| best[*i].0);
    while let Some(i) = at {
        stays[i] = true;
        at = best[i].1;
    }
    let moved = places.iter().zip(&stays).filter(|(_, stays)| !**stays);
    moved
        .map(|((at, was), _)| {
            let before_it =
                places.iter().filter(|(other, _)| other < at).filter(|(_, p)| p > was).count();
            let way = if before_it > 0 { "later" } else { "earlier" };
            format!("{} comes {way}", short(&after.steps[*at], after, cupboard))
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::quantity::Amount;

    fn drink() -> Drink {
        serde_json::from_str(
            r#"{"name":"Cooler","family":"infusion","vessels":[{"id":"pot","kind":"pot"},{"id":"jug","kind":"jug"},
            {"id":"sieve","kind":"fine_sieve"}],"steps":[
            {"id":"a","do":{"add":{"into":"pot","ingredient":"water","amount":"1 l"}}},
            {"id":"b","do":{"add":{"into":"pot","ingredient":"hibiscus_dried","amount":"30 g"}}},
            {"id":"c","do":{"infuse":{"vessel":"pot","minutes":20}}},
            {"id":"d","do":{"strain":{"from":"pot","through":"sieve","into":"jug"}}},
            {"id":"e","do":{"add":{"into":"jug","ingredient":"white_sugar","amount":"170 g"}}}]}"#,
        )
        .unwrap()
    }

    fn told(edit: impl FnOnce(&mut Drink)) -> Vec<String> {
        let (before, mut after) = (drink(), drink());
        edit(&mut after);
        difference(&before, &after, Cupboard::builtin())
    }

    #[test]
    fn changes_are_told_as_a_cook_would() {
        assert_eq!(told(|_| {}), [""; 0]);
        let sugar = |grams: &str| {
            let amount: Amount = grams.parse().unwrap();
            move |d: &mut Drink| *d.steps[4].action.amount_mut().unwrap() = amount
        };
        assert_eq!(told(sugar("150 g")), ["white sugar 170 g → 150 g"]);
        assert_eq!(
            told(|d| if let Action::Infuse { minutes, .. } = &mut d.steps[2].action {
                *minutes = 30.0
            }),
            ["leave it 20 → 30 min"]
        );
        assert_eq!(told(|d| drop(d.steps.remove(1))), ["dried hibiscus calyces 30 g left out"]);
        assert_eq!(
            told(|d| d.steps.push(Step::new(
                "f".into(),
                Action::add("jug", "mint", "3 sprigs".parse().unwrap())
            ))),
            ["mint leaves 3 sprigs added"]
        );
        assert_eq!(told(|d| d.steps.swap(0, 1)).len(), 1);
        assert_eq!(told(|d| d.name = "Warmer".into()), ["called “Warmer”, not “Cooler”"]);
        let honey = Action::add("jug", "honey", "3 tbsp".parse().unwrap());
        assert_eq!(told(|d| d.steps[4].action = honey), ["white sugar 170 g → honey 3 tbsp"]);
        assert_eq!(told(|d| d.steps[4].note = "slowly".into()), ["white sugar 170 g: slowly"]);
    }

    #[test]
    fn a_long_list_is_cut_and_says_so() {
        let many = told(|d| {
            for n in 0..20 {
                d.steps.push(Step::new(
                    format!("n{n}"),
                    Action::add("jug", "water", Amount::millilitres(10.0)),
                ));
            }
        });
        assert_eq!(many.len(), MOST + 1);
        assert_eq!(many[MOST], "and 8 more");
    }
}
