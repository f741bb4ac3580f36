//! Which thing of the list a word of the method means; and what the method alone says goes in.

use super::*;
use keen_core::cupboard::Staple;
use keen_core::quantity::said::{Word, number, says};

/// Finds for everything that the method names what of the list it is; what isn't in the list goes in by the
/// method alone.
pub(in crate::pasted) fn resolve(entries: &mut Vec<Entry>, done: &mut [Done], names: &Names<'_>) {
    let in_list = entries.len();
    let listed = in_list > 0;
    let pressed = done.iter().any(|d| {
        d.doing.verb == Verb::Squeeze || d.doing.uses.iter().any(|u| says(&u.words, &["juice"]))
    });
    for Done { line, doing } in done {
        if let Some(filler) = filler(entries, *line, doing, names) {
            entries.push(filler);
        }
        all_of_a_sort(entries, doing, names);
        let mut named = std::mem::take(&mut doing.uses);
        for one in &mut named {
            if let Some(entry) = besides(entries, one, names) {
                let key = next_key(entries, *line);
                entries.push(Entry { key, line: *line, told: true, ..entry });
                continue;
            }
            // "3 lemons" of which the method only wants slices are slices.
            let named = one.found.id.clone();
            let sliced = !pressed && named.ends_with("_slices");
            if let Some(known) = of_the_list(&entries[..], in_list, *line, one, names) {
                if let Some(id) = &entries[known].item.ingredient {
                    one.found.id.clone_from(id);
                }
                let item = &mut entries[known].item;
                let whole = one.found.id.ends_with("_juice")
                    && !says(&item.words, &["juice", "juiced", "squeezed"]);
                if sliced && whole {
                    item.ingredient = Some(named.clone());
                    one.found.id = named;
                }
                counted_here(item, one, doing.per.as_ref());
                continue;
            }
            let Some(item) = only_told(entries, listed, one, doing, names) else { continue };
            one.share = Share::All;
            one.tells = true;
            let key = next_key(entries, *line);
            entries.push(Entry {
                key,
                line: *line,
                item,
                group: None,
                left_out: false,
                told: true,
            });
        }
        doing.uses = named;
    }
    named_before(entries);
}

/// "The juice", "the leaves": all of that sort in the list.
fn all_of_a_sort(entries: &[Entry], doing: &mut Doing, names: &Names<'_>) {
    let is_sort = |one: &uses::Use| one.found.id.starts_with('~');
    let sorts: Vec<_> = doing.uses.iter().filter(|u| is_sort(u)).cloned().collect();
    doing.uses.retain(|u| !is_sort(u));
    let called = |one: &uses::Use, id: &str| {
        let mut one = one.clone();
        id.clone_into(&mut one.found.id);
        one
    };
    for sort in sorts {
        let is_of_sort = |it: &Ingredient| uses::is_of_sort(it, &sort.found.id);
        let rind = sort.found.id == "~zest"
            && sort.words.first().is_some_and(|w| w.from != doing.verb_at)
            && !entries.iter().any(|e| is_of_entry(e, names, is_of_sort));
        if rind {
            // "Pour it over the peel": that of the fruit that there is, of all of it.
            let rinds = entries.iter().filter_map(|e| rind_of(e, &sort.words, names));
            doing.uses.extend(rinds.map(|rind| called(&sort, &rind)));
        }
        // "Juice of all the fruit", where the list has their zest.
        let juice = sort.found.id == "~juice"
            && !entries.iter().any(|e| is_of_entry(e, names, |it| it.kind == Kind::Juice));
        if juice {
            let juices = entries.iter().filter_map(|e| juice_of(e, names));
            doing.uses.extend(juices.map(|juice| called(&sort, &juice)));
        }
        for entry in entries {
            let Some(it) = entry.known(names.cupboard) else { continue };
            let named = doing.uses.iter().any(|u| u.found.id == it.id);
            if is_of_sort(it) && !named {
                doing.uses.push(called(&sort, &it.id));
            }
        }
    }
}

/// The ingredient of the list that is meant.
fn of_the_list(
    entries: &[Entry],
    in_list: usize,
    line: usize,
    one: &uses::Use,
    names: &Names<'_>,
) -> Option<usize> {
    // Where the method alone says what goes in, another litre of water is another one; so is what is only
    // counted out further down.
    let more = matches!(one.share, Share::Amount(_))
        && !one.words.windows(2).any(|w| w[0].is(&["of"]) && w[1].is(&["the"]));
    let id = &one.found.id;
    match_of(entries, id, names.cupboard)
        .or_else(|| called_shortly(entries, one, names.cupboard))
        .or_else(|| called_by_a_word(&entries[..in_list], one))
        .filter(|k| {
            // In a text of one line, an amount that the list hasn't got is of another one.
            let said = match &one.share {
                Share::Amount(said) => entries[*k].item.amount.as_ref() == Some(said),
                _ => true,
            };
            let before = entries[*k].line < line || entries[*k].line == line && said;
            (*k < in_list && before) || !more
        })
}

/// "Sugar (see method)" in the list, and in the method "400 g sugar for every 500 ml of juice".
fn counted_here(item: &mut Item, one: &mut uses::Use, per: Option<&Amount>) {
    let Share::Amount(amount) = &one.share else { return };
    if item.said || item.fills || item.garnish || item.sure == Sure::Asked {
        return;
    }
    item.amount = Some(amount.clone());
    (item.said, item.sure, item.per) = (true, Sure::Understood, per.cloned());
    item.why.clear();
    one.share = Share::All;
}

/// What goes in by the words of the method alone, if they are more than a mention.
fn only_told(
    entries: &[Entry],
    listed: bool,
    one: &uses::Use,
    doing: &Doing,
    names: &Names<'_>,
) -> Option<Item> {
    let (verb, id) = (doing.verb, one.found.id.as_str());
    let it = names.cupboard.ingredient(id)?;
    let said = matches!(one.share, Share::Amount(_));
    let counted = list::items(&one.words, names);
    // "1 part elderflower cordial" is no elderflower.
    let made_of = |i: &&Item| i.ingredient.is_none() && i.instead.iter().any(|it| it == id);
    if let Some(other) = counted.iter().find(made_of).filter(|_| said) {
        return Some(Item { words: one.words.clone(), ..other.clone() });
    }
    let from_words = counted.into_iter().find(|i| i.ingredient.as_deref() == Some(id));
    let sure = from_words.as_ref().is_some_and(|i| i.sure == Sure::Understood);
    let counted_out = sure && from_words.as_ref().is_some_and(|i| i.said);
    // What is served with it is put on the glass; what the list forgot is only named.
    // "Peel 1 cucumber and blend it" says how much there is, where no list does.
    let by_the_way = matches!(verb, Verb::Serve | Verb::Prepare) || it.kind == Kind::Ice;
    let prepares = !listed && verb == Verb::Prepare && counted_out;
    if by_the_way && !said && !prepares {
        return None;
    }
    // Something of that word is in the list, and isn't known here.
    let named = |e: &Entry| {
        e.item.ingredient.is_none()
            && one.words.iter().any(|w| {
                w.text.len() > 2 && e.item.words.iter().any(|o| o.stem.starts_with(&w.stem))
            })
    };
    if !said && entries.iter().any(named) {
        return None;
    }
    let water = matches!(it.kind, Kind::Water | Kind::Ice);
    let mention = matches!(
        verb,
        Verb::Steep | Verb::Strain | Verb::Cool | Verb::Chill | Verb::Lift | Verb::Stir
    );
    if listed && !said && !water && !sure && mention {
        return None;
    }
    // "Strain over the zest of two lemons" counts out what lies there.
    let lies_there = doing.onto && counted_out;
    if !listed && matches!(verb, Verb::Lift | Verb::Strain) && !said && !lies_there {
        return None;
    }
    let mut item = from_words.unwrap_or_else(|| Item::usual(&one.words, it, names.cupboard));
    if verb == Verb::TopUp && matches!(it.kind, Kind::Water | Kind::Soda) && !said {
        item.fills = true;
        item.amount.clone_from(&doing.amount);
        item.sure = if item.amount.is_some() { Sure::Understood } else { Sure::Guessed };
        item.why.clear();
    }
    item.words.clone_from(&one.words);
    Some(item)
}

/// "The trick to my ginger switchel is …" speaks of the ginger that is counted out further down.
fn named_before(entries: &mut Vec<Entry>) {
    let counted: Vec<(usize, String)> = entries
        .iter()
        .enumerate()
        .filter(|(_, e)| e.item.said)
        .filter_map(|(at, e)| Some((at, e.item.ingredient.clone()?)))
        .collect();
    let mut at = 0;
    entries.retain(|e| {
        let named = e.told && !e.item.said && !e.item.fills && !e.item.garnish;
        let later =
            counted.iter().any(|(place, id)| *place > at && e.item.ingredient.as_ref() == Some(id));
        at += 1;
        !(named && later)
    });
}

/// "Top up to 1.5 litres": with what is named there, or water. What was measured out of it before is another thing; a
/// list that names it without an amount means this.
fn filler(entries: &[Entry], line: usize, doing: &mut Doing, names: &Names<'_>) -> Option<Entry> {
    let to = doing.fills_to.clone()?;
    if entries.iter().any(|e| e.item.fills) {
        return None;
    }
    let pours = |id: &str| {
        let it = names.cupboard.ingredient(id)?;
        matches!(it.kind, Kind::Water | Kind::Soda).then_some(it)
    };
    let with = doing.uses.iter().position(|u| pours(&u.found.id).is_some());
    let id = match with {
        Some(at) => doing.uses[at].found.id.clone(),
        None if doing.uses.is_empty() => names.cupboard.staple(Staple::Water).id.clone(),
        None => return None,
    };
    let listed = |e: &Entry| e.item.ingredient.as_deref() == Some(id.as_str());
    if entries.iter().any(|e| listed(e) && !(e.item.said && e.item.amount.is_some())) {
        return None;
    }
    // As much as all of a listed amount is that amount.
    let is_the_listed = |e: &Entry| {
        let ml = |a: &Amount| a.as_millilitres();
        listed(e) && !e.told && e.item.amount.as_ref().and_then(ml) == ml(&to)
    };
    if entries.iter().any(is_the_listed) {
        return None;
    }
    let words = with.map_or_else(Vec::new, |at| doing.uses.remove(at).words);
    let item = Item {
        ingredient: Some(id),
        fills: true,
        sure: Sure::Understood,
        why: Vec::new(),
        ..Item::asked(&words, Some(to))
    };
    Some(Entry {
        key: next_key(entries, line),
        line,
        item,
        group: None,
        left_out: false,
        told: true,
    })
}

/// What is only named where it is served is put on the glass.
pub(in crate::pasted) fn only_served(entries: &mut [Entry], done: &[Done]) {
    for entry in entries {
        let names = |d: &&Done| {
            d.doing
                .uses
                .iter()
                .any(|u| entry.item.ingredient.as_deref() == Some(u.found.id.as_str()))
        };
        let mut verbs = done.iter().filter(names).map(|d| d.doing.verb).peekable();
        // What is counted out is drunk, a leaf or a wheel is not.
        let measured = entry.item.amount.as_ref().is_some_and(|a| {
            a.as_millilitres().is_some()
                || (entry.item.said
                    && a.terms().iter().all(|t| t.measure.dimension() != Dimension::Count))
        });
        if verbs.peek().is_some() && verbs.all(|v| v == Verb::Serve) && !measured {
            entry.item.garnish = true;
        }
    }
}

fn is_of_entry(entry: &Entry, names: &Names<'_>, which: impl Fn(&Ingredient) -> bool) -> bool {
    entry.known(names.cupboard).is_some_and(which)
}

fn is_by_the_piece(entry: &Entry) -> bool {
    let amount = entry.item.amount.as_ref();
    amount.is_some_and(|a| a.terms().iter().any(|t| t.measure.dimension() == Dimension::Count))
}

/// The zest or peel of a citrus fruit that the list has by the piece, for its juice.
fn rind_of(entry: &Entry, said: &[Word], names: &Names<'_>) -> Option<String> {
    let id = entry.item.ingredient.as_deref()?;
    let fruit = id.strip_suffix("_juice").filter(|_| is_by_the_piece(entry))?;
    let peel = said.iter().any(|w| w.is(&["peel", "rind", "skin", "strip"]));
    let ends = if peel { ["_peel", "_zest"] } else { ["_zest", "_peel"] };
    // The zest of a pink grapefruit is that of any.
    let kind = fruit.split_once('_').map_or(fruit, |(_, kind)| kind);
    [fruit, kind]
        .iter()
        .flat_map(|fruit| ends.map(|end| format!("{fruit}{end}")))
        .find(|id| names.cupboard.ingredient(id).is_some())
}

/// The juice of the fruit that the zest is of.
fn juice_of(entry: &Entry, names: &Names<'_>) -> Option<String> {
    let id = entry.item.ingredient.as_deref().filter(|_| is_by_the_piece(entry))?;
    let fruit = id.strip_suffix("_zest").or_else(|| id.strip_suffix("_peel"))?;
    Some(format!("{fruit}_juice")).filter(|id| names.cupboard.ingredient(id).is_some())
}

/// "The zest of the lemons", where the list has two lemons: their juice is one thing, and this another. "The juice of
/// the oranges", where it has the zest of four.
fn besides(entries: &[Entry], one: &uses::Use, names: &Names<'_>) -> Option<Entry> {
    let it = names.cupboard.ingredient(&one.found.id)?;
    let rind = |it: &Ingredient| matches!(it.kind, Kind::Zest | Kind::Peel);
    let pressed = |it: &Ingredient| it.kind == Kind::Juice;
    let fruit = |it: &Ingredient| {
        let fruit = it.id.rsplit_once('_').map_or(it.id.as_str(), |(fruit, _)| fruit);
        fruit.rsplit('_').next().unwrap_or(fruit).to_owned()
    };
    let same_fruit = |other: &Ingredient| {
        names.cupboard.produce_of(it).any(|p| p.gives.contains(&other.id))
            || (rind(it) || pressed(it))
                && (rind(other) || pressed(other))
                && fruit(it) == fruit(other)
    };
    let of_juice = pressed(it) && says(&one.words, &["juice"]);
    let same_part = |other: &Ingredient| if of_juice { pressed(other) } else { rind(other) };
    if !(of_juice || rind(it))
        || entries.iter().any(|e| is_of_entry(e, names, |o| same_part(o) && same_fruit(o)))
    {
        return None;
    }
    let whole = entries.iter().find(|e| {
        let other_part = |other: &Ingredient| {
            same_fruit(other) && (rind(other) || rind_of(e, &[], names).is_some())
        };
        is_of_entry(e, names, other_part) && is_by_the_piece(e)
    })?;
    // Half of them, or one of two, is as many.
    let amount = match &one.share {
        Share::Amount(amount) => Some(amount.clone()),
        Share::Part(part) => whole.item.amount.as_ref().map(|a| a.scaled(*part)),
        _ if counted(&one.words).is_some() => {
            let term = whole.item.amount.as_ref()?.terms().first()?;
            let value = counted(&one.words)?.min(term.value);
            let name = names.cupboard.produce_of(it).next().map(|p| p.name.to_lowercase());
            // One of four limes is one lime.
            let one = (value <= 1.0 && term.value > 1.0).then_some(name).flatten();
            Some(Amount::of(value, one.map_or_else(|| term.measure.clone(), Measure::Piece)))
        }
        _ => whole.item.amount.clone(),
    };
    let item = Item {
        ingredient: Some(it.id.clone()),
        words: one.words.clone(),
        amount: amount.filter(|a| names.cupboard.weigh(it, a).is_ok()),
        other: None,
        why: Vec::new(),
        fills: false,
        garnish: false,
        instead: Vec::new(),
        ..whole.item.clone()
    };
    item.amount.is_some().then(|| Entry { item, ..whole.clone() })
}

/// "Zest 2 of the lemons": how many of them.
fn counted(said: &[Word]) -> Option<f64> {
    (0..said.len()).find_map(|at| {
        let (many, used) = number(&said[at..])?;
        let digits = said[at].text.starts_with(|c: char| c.is_ascii_digit());
        // "Zest one of the grapefruits"
        // "Peel from one lemon", "the rinds of four"
        let article = said[at].is(&["a", "an"]);
        let of = |w: &Word| w.is(&["of", "from"]);
        let of_them = !article
            && (said.get(at + used).is_some_and(of)
                || at.checked_sub(1).is_some_and(|before| of(&said[before])));
        (digits || of_them).then_some(many.low)
    })
}

/// "Cut up the melon", where the list has a watermelon; "the sorrel", where it was dried: by what a cook calls it for short.
fn called_shortly(entries: &[Entry], one: &uses::Use, cupboard: &Cupboard) -> Option<usize> {
    let kind = cupboard.ingredient(&one.found.id)?.kind;
    let ends = |e: &Entry, w: &Word| {
        w.stem.len() >= 4 && e.item.words.iter().any(|o| o.stem.ends_with(&w.stem))
    };
    entries.iter().position(|e| {
        e.known(cupboard).is_some_and(|it| it.kind == kind) && one.words.iter().any(|w| ends(e, w))
    })
}

/// "Boil the pods", where the list has tamarind pods: the one whose words these are, if nothing is counted out.
fn called_by_a_word(entries: &[Entry], one: &uses::Use) -> Option<usize> {
    let said: Vec<&Word> = one
        .words
        .iter()
        .filter(|w| !w.is(&["the", "all", "of", "your", "these", "those"]))
        .collect();
    let its = |e: &Entry| {
        said.iter().all(|w| w.stem.len() > 2 && e.item.words.iter().any(|o| o.stem == w.stem))
    };
    let mut found = (0..entries.len()).filter(|e| its(&entries[*e]));
    let first = found.next().filter(|_| !said.is_empty())?;
    (found.next().is_none() && !matches!(one.share, Share::Amount(_))).then_some(first)
}

/// What of the list a name in the method means: itself, or the only thing that does the same.
fn match_of(entries: &[Entry], id: &str, cupboard: &Cupboard) -> Option<usize> {
    let of = |e: &&Entry, id: &str| e.item.ingredient.as_deref() == Some(id);
    let index = |entry: &Entry| entries.iter().position(|e| std::ptr::eq(e, entry));
    if let Some(found) = entries.iter().find(|e| of(e, id)) {
        return index(found);
    }
    let it = cupboard.ingredient(id)?;
    let same_fruit = |other: &Ingredient| {
        cupboard.produce_of(it).any(|p| p.gives.contains(&other.id))
            && !matches!(other.kind, Kind::Ice)
    };
    let like = |other: &Ingredient| match it.kind {
        Kind::Sweetener | Kind::Syrup => matches!(other.kind, Kind::Sweetener | Kind::Syrup),
        Kind::Water => other.kind == Kind::Water,
        Kind::Soda => other.kind == Kind::Soda,
        Kind::Acid => other.kind == Kind::Acid,
        _ => same_fruit(other),
    };
    let found = entries.iter().find(|e| e.known(cupboard).is_some_and(like))?;
    index(found)
}
