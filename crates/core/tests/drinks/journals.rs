//! The laws of what is only ever added to: batches, tastings and bottles alike.

use keen_core::batch::{Happening, Made, Said};
use keen_core::belief::Quantity;
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::keep::{Away, Bottle, Class, Happened, Keeping, Move, Place};
use keen_core::taste::compare::Method;
use keen_core::taste::ideal::Felt;
use keen_core::taste::sitting::{Compared, Sitting, Table, Tasted, Utterance};
use keen_core::trace::Trace;
use proptest::prelude::*;
use rand::SeedableRng;
use rand::rngs::StdRng;

use crate::common::{add, drink, squeeze};
use crate::making::{Batch, hibiscus};

fn acidity(made: &Made) -> f64 {
    let trace = Trace::run(&made.drink, Cupboard::builtin());
    trace.outcome().map_or(0.0, |o| o.contents.liquid.acidity_percent())
}

fn lemonade() -> Drink {
    drink(vec![
        squeeze("jug", "lemon_juice", "4 lemons"),
        add("jug", "white_sugar", "100 g"),
        add("jug", "water", "1 l"),
    ])
}

#[test]
fn what_came_out_and_what_was_used_say_two_things_in_either_order() {
    let came_out = Happening::CameOut { step: "s0".into(), amount: "200 ml".parse().unwrap() };
    let used = Happening::Used { step: "s0".into(), amount: "7 lemons".parse().unwrap() };
    let told = |first: &Happening, second: &Happening| {
        let mut batch = Batch::new(lemonade());
        batch.say(1.0, first.clone()).say(2.0, second.clone());
        let made = batch.made();
        (made.drink.steps[0].clone(), acidity(&made))
    };
    let (one, other) = (told(&came_out, &used), told(&used, &came_out));
    assert_eq!(one, other);
    // The juice that was measured is what is in the jug.
    assert_eq!(one.0.action.amount().unwrap().to_string(), "200 ml");
}

#[test]
fn a_reading_stays_where_it_was_taken_when_steps_are_moved() {
    let two = drink(vec![
        add("bowl", "water", "200 ml"),
        squeeze("jug", "lemon_juice", "6 lemons"),
        add("jug", "water", "500 ml"),
        add("jug", "white_sugar", "80 g"),
    ]);
    let reading = Happening::Reading {
        vessel: "jug".into(),
        quantity: Quantity::Acidity,
        value: 1.3,
        error: None,
    };
    let mut batch = Batch::new(two);
    batch.done(1.0, "s1").say(2.0, reading);
    let before = batch.made().measurements;
    assert_eq!((before.len(), before[0].step), (1, 1));
    // The step that it follows is said to come before one that is still ahead.
    batch.say(3.0, Happening::Moved { step: "s1".into(), before: "s0".into() });
    let made = batch.made();
    assert_eq!((made.measurements.len(), made.measurements[0].step), (1, 0));
    assert_eq!(made.drink.steps[0].id, "s1");
    assert_eq!(
        (made.measurements[0].value, made.measurements[0].error),
        (before[0].value, before[0].error)
    );
    // And when a step is left out, or something is added, it is neither lost nor of another step.
    batch.say(4.0, Happening::LeftOut { step: "s0".into() });
    batch.say(
        5.0,
        Happening::Added {
            vessel: "bowl".into(),
            ingredient: "water".into(),
            amount: "50 ml".parse().unwrap(),
        },
    );
    let made = batch.made();
    assert_eq!(made.measurements.len(), 1);
    assert_eq!(made.drink.steps[made.measurements[0].step].id, "s1");
}

fn triangle() -> Sitting {
    let compared = Compared {
        method: Method::Triangle,
        first: "plain".into(),
        second: "with salt".into(),
        more: String::new(),
        times: 3,
        sample_ml: 40.0,
    };
    let mut sitting = Sitting {
        kind: Tasted::Compare(compared),
        tasters: vec!["t0".into(), "t1".into()],
        seed: 77,
        dealt: None,
        blind: true,
    };
    sitting.deal(&mut StdRng::seed_from_u64(5));
    sitting
}

/// The code of the odd glass of somebody's `nth` triangle.
fn odd(sitting: &Sitting, said: &[Utterance], who: &str, nth: u32) -> String {
    let key = Table::of(sitting, said).key();
    let mine: Vec<_> =
        key.iter().filter(|l| l.nth == nth && l.taster.as_deref() == Some(who)).collect();
    let odd = mine.iter().find(|l| mine.iter().filter(|o| o.glass == l.glass).count() == 1);
    odd.unwrap().code.clone()
}

fn choose(sitting: &Sitting, said: &mut Vec<Utterance>, who: &str, code: String) {
    let word = Utterance::Chose { taster: who.into(), code, nth: None, tried: None };
    let table = Table::of(sitting, said);
    table.allows(&word).unwrap();
    let word = table.as_kept(word);
    said.push(word);
}

#[test]
fn a_choice_that_is_undone_and_made_again_is_of_its_own_triangle() {
    for keeps in [true, false] {
        let sitting = triangle();
        let mut said = vec![Utterance::Poured];
        for nth in 0..3 {
            let code = odd(&sitting, &said, "t0", nth);
            choose(&sitting, &mut said, "t0", code);
        }
        // The first is taken back and given again.
        said.push(Utterance::TakenBack { of: 1 });
        let code = odd(&sitting, &said, "t0", 0);
        choose(&sitting, &mut said, "t0", code);
        if !keeps {
            // As an older program kept it: it didn't say which triangle it was.
            for word in &mut said {
                if let Utterance::Chose { nth, .. } = word {
                    *nth = None;
                }
            }
        }
        said.push(Utterance::Broken);
        let verdict = Table::of(&sitting, &said).tells().verdict.unwrap();
        assert_eq!((verdict.right, verdict.tastings), (3, 3), "{verdict:?}");
    }
}

#[test]
fn codes_and_orders_are_kept_with_the_tasting() {
    let dealt = triangle();
    let text = serde_json::to_string(&dealt).unwrap();
    let read: Sitting = serde_json::from_str(&text).unwrap();
    assert_eq!(read, dealt);
    // Another seed changes nothing any more: nobody deals anew.
    let other = Sitting { seed: 1, ..read };
    assert_eq!(
        Table::of(&other, &[Utterance::Poured]).key(),
        Table::of(&dealt, &[Utterance::Poured]).key()
    );
}

fn happening() -> impl Strategy<Value = Happening> {
    let step =
        || prop::sample::select(vec!["s0", "s1", "s2", "s3", "s4", "s5"]).prop_map(str::to_owned);
    let vessel = || prop::sample::select(vec!["pot", "jug"]).prop_map(str::to_owned);
    let amount = |unit: &'static str| {
        (1.0..200.0_f64).prop_map(move |v| format!("{v:.0} {unit}").parse().unwrap())
    };
    prop_oneof![
        step().prop_map(|step| Happening::Began { step }),
        step().prop_map(|step| Happening::Done { step }),
        step().prop_map(|step| Happening::Again { step }),
        (step(), amount("g")).prop_map(|(step, amount)| Happening::Used { step, amount }),
        (step(), amount("ml")).prop_map(|(step, amount)| Happening::CameOut { step, amount }),
        (vessel(), 0.5..60.0_f64).prop_map(|(vessel, value)| Happening::Reading {
            vessel,
            quantity: Quantity::Brix,
            value,
            error: None
        }),
        (vessel(), amount("g")).prop_map(|(vessel, amount)| Happening::Added {
            vessel,
            ingredient: "white_sugar".into(),
            amount
        }),
        (vessel(), amount("ml"))
            .prop_map(|(vessel, volume)| Happening::PouredAway { vessel, volume }),
        step().prop_map(|step| Happening::LeftOut { step }),
        (step(), step()).prop_map(|(step, before)| Happening::Moved { step, before }),
        (0..12_usize).prop_map(|of| Happening::TakenBack { of }),
        Just(Happening::Note { text: "sweet".into(), by: String::new() }),
    ]
}

fn told(
    of: &Drink,
    said: &[Said],
) -> (Vec<keen_core::drink::Action>, Vec<(usize, usize, f64)>, usize) {
    let made = Made::of(of, said, Cupboard::builtin());
    let read = made.measurements.iter().map(|m| (m.step, m.vessel, m.value)).collect();
    let ahead = made.next().unwrap_or(usize::MAX);
    (made.drink.steps.into_iter().map(|step| step.action).collect(), read, ahead)
}

fn at_zero(all: Vec<Happening>) -> Vec<Said> {
    all.into_iter().map(|what| Said { at: 0.0, what }).collect()
}

fn a_move() -> impl Strategy<Value = Move> {
    let place = prop::sample::select(vec![Place::Refrigerator, Place::Freezer, Place::Cupboard]);
    prop_oneof![
        Just(Move::Opened),
        (1.0..300.0_f64).prop_map(|ml| Move::Poured { ml, what_for: String::new() }),
        place.prop_map(|to| Move::Moved { to }),
        Just(Move::Emptied),
        Just(Move::Tipped { why: Away::WentOff }),
    ]
}

fn bottle() -> Bottle {
    let keeping = Keeping {
        class: Class::ThinSyrup,
        days: 10,
        left: 10.0,
        warm_day: 11.76,
        frozen_days: 90,
        words: String::new(),
        reasons: vec!["Sugar.".into()],
    };
    serde_json::from_value(serde_json::json!({
        "name": "Syrup", "vessel": "bottle", "holds_ml": 750.0, "ml": 700.0, "keeping": keeping,
        "mixture": { "id": "kept_1", "name": "Syrup", "per_gram": { "water": 0.6, "sucrose": 0.4 } }, "colour": "#aa8800",
    }))
    .unwrap()
}

fn word() -> impl Strategy<Value = (usize, bool, u8)> {
    (0..2_usize, any::<bool>(), 1..10_u8)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    #[test]
    fn in_a_batch_saying_and_undoing_is_never_having_said(before in prop::collection::vec(happening(), 0..8), extra in happening(), after in prop::collection::vec(happening(), 0..6)) {
        prop_assume!(!matches!(extra, Happening::TakenBack { .. }));
        let at = before.len();
        // Nothing else names the place of the extra entry, or one behind it.
        let names = |what: &Happening| matches!(what, Happening::TakenBack { of } if *of >= at);
        prop_assume!(!before.iter().chain(&after).any(names));
        let without = at_zero([before.clone(), after.clone()].concat());
        let mut with = at_zero([before, vec![extra], after].concat());
        with.push(Said { at: 0.0, what: Happening::TakenBack { of: at } });
        prop_assert_eq!(told(&hibiscus(), &with), told(&hibiscus(), &without));
    }

    #[test]
    fn in_a_batch_undoing_in_any_order_is_the_same(all in prop::collection::vec(happening(), 2..10), a in 0..10_usize, b in 0..10_usize) {
        let undone = |first: usize, second: usize| {
            let mut said = at_zero(all.clone());
            said.extend(at_zero(vec![Happening::TakenBack { of: first }, Happening::TakenBack { of: second }]));
            told(&hibiscus(), &said)
        };
        prop_assert_eq!(undone(a, b), undone(b, a));
    }

    #[test]
    fn in_a_batch_what_is_said_of_different_things_commutes(grams in 1.0..300.0_f64, ml in 20.0..300.0_f64, value in 1.0..30.0_f64) {
        let done = at_zero((0..6).map(|i| Happening::Done { step: format!("s{i}") }).collect());
        let things = [
            Happening::Used { step: "s5".into(), amount: format!("{grams:.0} g").parse().unwrap() },
            Happening::CameOut { step: "s4".into(), amount: format!("{ml:.0} ml").parse().unwrap() },
            Happening::Note { text: "good".into(), by: String::new() },
            Happening::Reading { vessel: "jug".into(), quantity: Quantity::Brix, value, error: None },
        ];
        let plain = told(&hibiscus(), &[done.clone(), at_zero(things.to_vec())].concat());
        for swap in 0..3 {
            let mut other = things.to_vec();
            other.swap(swap, swap + 1);
            prop_assert_eq!(&told(&hibiscus(), &[done.clone(), at_zero(other)].concat()), &plain);
        }
    }

    #[test]
    fn a_batch_that_was_kept_is_the_one_in_memory(all in prop::collection::vec(happening(), 0..10)) {
        let said = at_zero(all);
        let read: Vec<Said> = serde_json::from_str(&serde_json::to_string(&said).unwrap()).unwrap();
        prop_assert_eq!(told(&hibiscus(), &read), told(&hibiscus(), &said));
    }

    #[test]
    fn of_a_bottle_saying_and_undoing_is_never_having_said(before in prop::collection::vec(a_move(), 0..6), extra in a_move(), after in prop::collection::vec(a_move(), 0..6)) {
        let timed = |moves: &[Move], from: usize| -> Vec<Happened> {
            moves.iter().enumerate().map(|(i, what)| Happened { at: (from + i) as f64 * 0.3, what: what.clone() }).collect()
        };
        let at = before.len();
        let without = [timed(&before, 0), timed(&after, at + 1)].concat();
        let mut with = [timed(&before, 0), timed(&[extra], at), timed(&after, at + 1)].concat();
        with.push(Happened { at: 9.0, what: Move::TakenBack { of: at } });
        let (one, other) = (bottle().state(&with, 9.0, None), bottle().state(&without, 9.0, None));
        prop_assert_eq!((one.place, one.opened, one.over, one.gone), (other.place, other.opened, other.over, other.gone));
        prop_assert!((one.ml - other.ml).abs() < 1e-9 && (one.days_left - other.days_left).abs() < 1e-9);
        prop_assert_eq!(one.why, other.why);
        let kept: Bottle = serde_json::from_str(&serde_json::to_string(&bottle()).unwrap()).unwrap();
        prop_assert_eq!(kept, bottle());
    }

    #[test]
    fn at_a_table_saying_and_undoing_is_never_having_said(choices in prop::collection::vec(word(), 1..6), undone in 0..6_usize) {
        let sitting = triangle();
        let run = |skip: Option<usize>| {
            let mut said = vec![Utterance::Poured];
            let mut nth = [0; 2];
            for (i, (seat, right, _)) in choices.iter().enumerate() {
                if nth[*seat] == 3 {
                    continue;
                }
                let who = format!("t{seat}");
                let table = Table::of(&sitting, &said);
                let seats = table.seats();
                let code = match right {
                    true => odd(&sitting, &said, &who, nth[*seat]),
                    false => seats[*seat].glasses[0].code.clone(),
                };
                let word = Utterance::Chose { taster: who, code, nth: Some(nth[*seat]), tried: None };
                nth[*seat] += 1;
                if skip != Some(i) {
                    said.push(word);
                } else {
                    // Its place stays, so that both have the same: a remark counts for nothing.
                    said.push(Utterance::Remark { taster: "t0".into(), text: "hm".into() });
                }
            }
            said
        };
        let with = run(None);
        prop_assume!(undone < with.len() - 1);
        let of = undone + 1;
        let mut taken_back = with.clone();
        taken_back.push(Utterance::TakenBack { of });
        taken_back.push(Utterance::Broken);
        let mut never = with;
        never[of] = Utterance::Remark { taster: "t0".into(), text: "hm".into() };
        never.push(Utterance::Broken);
        let verdict = |said: &[Utterance]| {
            let verdict = Table::of(&sitting, said).tells().verdict.unwrap();
            (verdict.right, verdict.tastings)
        };
        prop_assert_eq!(verdict(&taken_back), verdict(&never));
    }
}

#[test]
fn a_mark_is_undone_whatever_was_said_after_it() {
    // The last mark of a glass counts, and the one before counts again when it is undone.
    let answered = |liked: u8| Utterance::Answered {
        taster: "t0".into(),
        code: "417".into(),
        felt: Some(Felt::Right),
        liked: Some(liked),
    };
    let said = [answered(3), answered(8), Utterance::TakenBack { of: 1 }];
    let journal = keen_core::journal::Journal::of(&said);
    assert_eq!(journal.standing().map(|(id, _)| id).collect::<Vec<_>>(), [0]);
}
