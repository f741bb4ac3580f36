//! What can be made from what is there.

use crate::common::with_vessels;
use keen_core::balance::Spot;
use keen_core::cupboard::{Cupboard, VesselKind};
use keen_core::drink::Drink;
use keen_core::offer::{Have, Offer, Source, Wish, likeliest_first, offers};
use keen_core::trace::Trace;
use keen_core::work::{Work, Worktop};

const STARTS: [&str; 8] = [
    "lemonade_syrup",
    "lemonade_zest",
    "hibiscus_cold",
    "hibiscus_boiled",
    "fruit_juiced",
    "soda_parts",
    "syrup",
    "root_syrup",
];

fn start(id: &str) -> Drink {
    let file = format!("{}/../../formats/src/starts/{id}.json", env!("CARGO_MANIFEST_DIR"));
    let mut drink: Drink = serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap();
    drink.name_steps();
    drink
}

fn have(all: &[(&str, &str, bool)]) -> Wish {
    let have = all.iter().map(|(id, amount, soon)| Have {
        ingredient: (*id).to_owned(),
        amount: amount.parse().unwrap(),
        soon: *soon,
        some: false,
    });
    Wish { have: have.collect(), ..Wish::default() }
}

fn ask(wish: &Wish) -> Vec<Offer> {
    ask_in(wish, Cupboard::builtin())
}

fn ask_in(wish: &Wish, cupboard: &Cupboard) -> Vec<Offer> {
    let drinks: Vec<(String, Drink)> =
        STARTS.iter().map(|id| ((*id).to_owned(), start(id))).collect();
    let sources: Vec<Source<'_>> = drinks.iter().map(|(id, drink)| Source { id, drink }).collect();
    offers(&sources, wish, cupboard).unwrap()
}

#[test]
fn limes_that_go_hard_become_a_limeade_that_uses_them_up() {
    let wish = have(&[("lime_juice", "8 limes", true), ("white_sugar", "1 kg", false)]);
    let all = ask(&wish);
    for o in &all {
        println!(
            "{} <- {} {:.0} ml {:?} missing {:?} changes {:?} off {:.1}",
            o.drink.name, o.source, o.volume_ml, o.uses, o.missing, o.changes, o.off
        );
    }
    assert!((1..=8).contains(&all.len()), "{}", all.len());
    let first = &all[0];
    let limes = first.uses.iter().find(|u| u.text.contains("limes")).unwrap();
    assert!(limes.soon && limes.share > 0.85, "{:?}", first.uses);
    assert!(first.missing.is_empty(), "{:?}", first.missing);
    assert!(first.drink.name.starts_with("Limeade"), "{}", first.drink.name);
    assert!(first.changes.contains(&"lime juice instead of lemon juice".to_owned()));
    // It is a drink: it can be run, and is what is told of it.
    let trace = Trace::run(&first.drink, Cupboard::builtin());
    assert!((trace.outcome().unwrap().volume.0 / first.volume_ml - 1.0).abs() < 0.02);
    let point = first.map.point.as_ref().unwrap();
    let ratio = point.sweetness / point.acidity;
    assert!((8.0..35.0).contains(&ratio), "{point:?}");
}

#[test]
fn people_decide_the_size_and_what_is_missing_is_said() {
    let mut wish = have(&[("lemon_juice", "4 lemons", false), ("white_sugar", "1 kg", false)]);
    wish.glasses = Some(12);
    let all = ask(&wish);
    let lemonade = all.iter().find(|o| o.source.starts_with("lemonade")).unwrap();
    assert!((lemonade.volume_ml / 3000.0 - 1.0).abs() < 0.15, "{}", lemonade.volume_ml);
    assert!(lemonade.missing.iter().any(|m| m.contains("lemons")), "{:?}", lemonade.missing);
}

#[test]
fn a_balance_that_is_wanted_is_come_near_to() {
    let mut wish = have(&[("lime_juice", "8 limes", true), ("white_sugar", "1 kg", false)]);
    let wanted = Spot { sweetness: 8.0, acidity: 0.6 };
    wish.balance = Some(wanted);
    let first = &ask(&wish)[0];
    let point = first.map.point.as_ref().unwrap();
    assert!(first.off < 1.0, "{} steps off", first.off);
    assert!((point.sweetness / wanted.sweetness - 1.0).abs() < 0.1, "{point:?}");
}

#[test]
fn what_a_guest_must_not_have_is_never_offered_and_sugar_alone_is_no_drink() {
    let sugar = ask(&have(&[("white_sugar", "1 kg", false)]));
    assert!(sugar.is_empty(), "{}", sugar.len());
    let mut wish = have(&[("hibiscus_dried", "100 g", false), ("white_sugar", "1 kg", false)]);
    assert!(!ask(&wish).is_empty());
    wish.without = vec!["hibiscus".into()];
    assert!(ask(&wish).iter().all(|o| !o.source.starts_with("hibiscus")));
}

#[test]
fn two_hundred_drinks_are_looked_through_within_one_questions_work() {
    let wish = have(&[
        ("lime_juice", "8 limes", true),
        ("mint", "1 bunch", true),
        ("white_sugar", "1 kg", false),
        ("honey", "400 g", false),
    ]);
    let drinks: Vec<Drink> = STARTS.iter().map(|id| start(id)).collect();
    let ids: Vec<String> = (0..200).map(|i| i.to_string()).collect();
    let sources: Vec<Source<'_>> =
        ids.iter().enumerate().map(|(i, id)| Source { id, drink: &drinks[i % 8] }).collect();
    let work = Work::usual();
    let all = offers(&sources, &wish, Worktop::new(Cupboard::builtin(), &work)).unwrap();
    assert!(all.len() >= 3);
}

/// The first answer looks at a few only. What uses up what must go is among them, wherever it stands on the shelf.
#[test]
fn the_likeliest_are_looked_at_first() {
    let wish = have(&[
        ("white_sugar", "1 kg", false),
        ("ginger_root", "50 g", false),
        ("hibiscus_dried", "60 g", true),
    ]);
    let drinks: Vec<(String, Drink)> =
        STARTS.iter().map(|id| ((*id).to_owned(), start(id))).collect();
    let sources = drinks.iter().map(|(id, drink)| Source { id, drink }).collect();
    let first = likeliest_first(sources, &wish, Cupboard::builtin());
    let ids: Vec<&str> = first.iter().map(|source| source.id).collect();
    // Hibiscus has to go, ginger may; of the rest, sugar is in all, and they stay as they were.
    assert!(ids[..2].iter().all(|id| id.starts_with("hibiscus")), "{ids:?}");
    assert_eq!(ids[2], "root_syrup", "{ids:?}");
    assert_eq!(
        ids[3..],
        ["lemonade_syrup", "lemonade_zest", "fruit_juiced", "soda_parts", "syrup"]
    );
    let best =
        |most: usize| offers(&first[..most], &wish, Cupboard::builtin()).unwrap().swap_remove(0);
    assert_eq!(best(3).source, best(8).source, "the rest brings nothing better");
}

/// A pitcher that is too small, or a bottle that isn't there, is told, and what can be made comes first. One pair of
/// hands is never quicker than the drink itself.
#[test]
fn what_the_kitchen_has_decides_what_is_offered_first() {
    let mut wish = have(&[
        ("lemon_juice", "12 lemons", false),
        ("hibiscus_dried", "100 g", false),
        ("white_sugar", "1 kg", false),
    ]);
    wish.glasses = Some(12);
    let free = ask(&wish);
    assert!(free.iter().all(|o| o.rounds == 1 && o.lacks.is_empty()), "no vessels are known");
    let vessels = with_vessels(&[
        ("Jug", VesselKind::Jug, "1 l", 1),
        ("Pitcher", VesselKind::Pitcher, "1.1 l", 1),
        ("Bowl", VesselKind::Bowl, "4 l", 1),
        ("Fine sieve", VesselKind::FineSieve, "1 l", 1),
    ]);
    let all = ask_in(&wish, &Cupboard::of(&vessels));
    let lacking: Vec<bool> = all.iter().map(|o| !o.lacks.is_empty()).collect();
    assert!(lacking.is_sorted() && lacking.contains(&false), "{lacking:?}");
    let cold = all.iter().find(|o| o.source == "hibiscus_cold").unwrap();
    assert!(cold.lacks[0].starts_with("pitcher: Too small: it needs 3.2 l"), "{:?}", cold.lacks);
    let syrup = all.iter().find(|o| o.source == "syrup").unwrap();
    assert!(syrup.lacks[0].contains("Your cupboard has no bottle"), "{:?}", syrup.lacks);
    for offer in all.iter().chain(&free) {
        let alone = Trace::run(&offer.drink, Cupboard::builtin()).minutes.0;
        assert!(offer.minutes >= alone - 1.0, "{}: {}", offer.drink.name, offer.minutes);
    }
}
