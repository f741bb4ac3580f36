//! Batches beside what was written for them, and what they say together.

use keen_core::batch::{Happening, Said};
use keen_core::belief::Quantity;
use keen_core::cupboard::{Cupboard, Kitchen, Larder};
use keen_core::drink::{Action, Drink};
use keen_core::history::{Column, PastBatch, Saying, what_they_say};

use proptest::prelude::*;

use crate::common::drink;

fn cooler() -> Drink {
    let add =
        |ingredient: &str, amount: &str| Action::add("jug", ingredient, amount.parse().unwrap());
    drink(vec![
        add("water", "1 l"),
        add("hibiscus_dried", "20 g"),
        Action::Infuse {
            vessel: "jug".into(),
            minutes: 20.0,
            place: Default::default(),
            covered: true,
        },
        Action::Strain {
            from: "jug".into(),
            through: "sieve".into(),
            into: "pitcher".into(),
            press: keen_core::cupboard::Press::Drained,
        },
        Action::Squeeze {
            into: "pitcher".into(),
            ingredient: "orange_juice".into(),
            amount: "2 oranges".parse().unwrap(),
            halves_into: None,
        },
        Action::add("pitcher", "white_sugar", "120 g".parse().unwrap()),
    ])
}

/// A batch in which the hibiscus stood so long, the oranges gave so much, and so much syrup was added.
fn batch(stood: f64, gave: &str, syrup: Option<&str>) -> PastBatch {
    let mut said = vec![
        (1.0, Happening::Done { step: "s0".into() }),
        (2.0, Happening::Done { step: "s1".into() }),
        (2.0, Happening::Began { step: "s2".into() }),
        (2.0 + stood, Happening::Done { step: "s2".into() }),
        (3.0 + stood, Happening::Done { step: "s3".into() }),
        (5.0 + stood, Happening::Done { step: "s4".into() }),
        (5.0 + stood, Happening::CameOut { step: "s4".into(), amount: gave.parse().unwrap() }),
        (6.0 + stood, Happening::Done { step: "s5".into() }),
    ];
    if let Some(amount) = syrup {
        said.push((
            7.0 + stood,
            Happening::Added {
                vessel: "pitcher".into(),
                ingredient: "simple_syrup_1_1".into(),
                amount: amount.parse().unwrap(),
            },
        ));
    }
    said.push((
        8.0 + stood,
        Happening::Note { text: "sharp, good".into(), by: "The beekeeper".into() },
    ));
    let finished = Happening::Finished {
        place: "refrigerator".into(),
        note: String::new(),
        bottles: None,
        volume: None,
    };
    said.push((9.0 + stood, finished));
    PastBatch {
        written: cooler(),
        said: said.into_iter().map(|(at, what)| Said { at, what }).collect(),
        cupboard: Cupboard::builtin().clone(),
    }
}

fn column(batch: &PastBatch) -> Column {
    batch.column()
}

fn say(batches: &[PastBatch]) -> Vec<Saying> {
    let columns: Vec<Column> = batches.iter().map(PastBatch::column).collect();
    what_they_say(batches, &columns)
}

#[test]
fn a_batch_stands_beside_what_was_written() {
    let column = column(&batch(35.0, "110 ml", Some("2 tbsp")));
    let cell =
        |key: &str| column.cells.iter().find(|c| c.key == key).unwrap_or_else(|| panic!("{key}"));
    let stood = cell("minutes/s2");
    assert_eq!(
        (stood.written.as_str(), stood.made.as_str(), stood.stands_out),
        ("20 min", "35 min", true)
    );
    let gave = cell("gave/s4");
    assert_eq!((gave.label.as_str(), gave.made.as_str()), ("oranges gave", "110 ml"));
    assert!(gave.stands_out && gave.times.unwrap() < 0.9, "{gave:?}");
    let sugar = cell("amount/s5");
    assert_eq!((sugar.made.as_str(), sugar.stands_out), ("120 g", false));
    assert_eq!(cell("right").made, "2 tbsp sugar syrup 1:1");
    assert_eq!(column.said, ["The beekeeper: sharp, good"]);
    assert!(cell("ended").made.ends_with(" to 1"), "{}", cell("ended").made);
    assert!((column.minutes - 44.0).abs() < 1e-9);
    // Nothing was said yet: the column is what is written.
    let plain = Column::of(&cooler(), &[], Cupboard::builtin());
    assert!(plain.cells.iter().all(|c| c.written == c.made && !c.stands_out), "{:?}", plain.cells);
}

/// A cupboard that knows what a packet of sugar and a bottle of syrup cost, by the packs that they come in.
fn priced() -> Cupboard {
    let priced = |pack: f64, price: f64| Larder {
        pack: Some(pack),
        price: Some(price),
        ..Larder::default()
    };
    let kitchen = Kitchen {
        larder: [
            ("white_sugar".to_owned(), priced(1000.0, 1.5)),
            ("simple_syrup_1_1".to_owned(), priced(500.0, 4.0)),
        ]
        .into(),
        currency: "Kr".into(),
        ..Kitchen::default()
    };
    Cupboard::of(&kitchen)
}

#[test]
fn what_it_was_put_right_with_is_paid_for() {
    let cost = |batch: &PastBatch| {
        let column = Column::of(&batch.written, &batch.said, &priced());
        column.cells.into_iter().find(|c| c.key == "cost")
    };
    // 120 g of a kilogram at 1.50; the oranges, the hibiscus and the water have no price.
    let plain = cost(&batch(20.0, "110 ml", None)).expect("sugar has its price");
    assert_eq!((plain.written.as_str(), plain.made.as_str()), ("0.18 Kr", "0.18 Kr"));
    assert!(!plain.stands_out);
    // 50 g of syrup besides, of 500 g at 4: forty more.
    let right = cost(&batch(20.0, "110 ml", Some("50 g"))).expect("and so has syrup");
    assert_eq!((right.written.as_str(), right.made.as_str()), ("0.18 Kr", "0.58 Kr"));
    assert!(right.stands_out);
    // Where no price is known nothing is said of it.
    let unpriced = column(&batch(20.0, "110 ml", Some("50 g")));
    assert!(unpriced.cells.iter().all(|c| c.key != "cost"));
}

#[test]
fn what_is_measured_in_two_vessels_stands_in_two_rows() {
    let mut made = batch(20.0, "110 ml", None);
    let read = |at: f64, vessel: &str, value: f64| Said {
        at,
        what: Happening::Reading {
            vessel: vessel.into(),
            quantity: Quantity::Brix,
            value,
            error: None,
        },
    };
    // The tea before it is strained; the drink, twice.
    made.said.insert(4, read(22.0, "jug", 1.0));
    let end = made.said.len() - 1;
    made.said.insert(end, read(28.0, "pitcher", 9.0));
    made.said.insert(end + 1, read(28.5, "pitcher", 10.5));
    let rows: Vec<(String, String)> = column(&made)
        .cells
        .into_iter()
        .filter(|c| c.key.starts_with("reading/"))
        .map(|c| (c.label, c.made))
        .collect();
    let row = |label: &str, value: &str| (label.to_owned(), value.to_owned());
    assert_eq!(rows, [row("°Brix in the pitcher", "10.5"), row("°Brix in the jug", "1.0")]);
}

#[test]
fn habits_are_told_from_three_batches_on() {
    let some: Vec<PastBatch> =
        [("110 ml", 32.0), ("112 ml", 36.0)].map(|(g, s)| batch(s, g, Some("3 tbsp"))).into();
    assert_eq!(say(&some), []);
    let mut all = some;
    all.push(batch(34.0, "105 ml", Some("2 tbsp")));
    all.push(batch(20.0, "114 ml", None));
    let said = say(&all);
    let find = |part: &str| {
        said.iter().find(|s| s.message.contains(part)).unwrap_or_else(|| panic!("{part}: {said:?}"))
    };
    assert!(find("towards sweet").aim.is_some());
    let write = find("longer than the 20 min").write_minutes.clone().unwrap();
    assert_eq!((write.step.as_str(), write.minutes), ("s2", 30.0));
    let oranges = find("Your oranges give");
    assert!(
        oranges.message.contains("less than the tables say, by 4 batches"),
        "{}",
        oranges.message
    );
    // As written again and again there is nothing to say.
    let good = Column::of(&cooler(), &[], Cupboard::builtin());
    let gave = good.cells.iter().find(|c| c.key == "amount/s4").unwrap();
    assert_eq!(gave.made, "2 oranges");
}

#[test]
fn a_happening_that_was_taken_back_did_not_happen() {
    let mut one = batch(35.0, "110 ml", Some("2 tbsp"));
    let at = one.said.iter().position(|s| matches!(s.what, Happening::Added { .. })).unwrap();
    let last = one.said.last().unwrap().at;
    one.said.push(Said { at: last, what: Happening::TakenBack { of: at } });
    assert_eq!(column(&one).put_right, []);
    assert!(!column(&one).cells.iter().any(|c| c.key == "right"));
}

/// Anything that can be said of a batch, of steps and vessels that there are and that there aren't.
fn anything() -> impl Strategy<Value = Happening> {
    let step = || (0..8_usize).prop_map(|n| format!("s{n}"));
    let amount = || {
        prop_oneof![Just("1 tsp"), Just("250 ml"), Just("3 l"), Just("2 oranges"), Just("1 pinch")]
            .prop_map(|a| a.parse().unwrap())
    };
    let vessel =
        || prop_oneof![Just("jug"), Just("pitcher"), Just("nowhere")].prop_map(String::from);
    prop_oneof![
        step().prop_map(|step| Happening::Began { step }),
        step().prop_map(|step| Happening::Done { step }),
        step().prop_map(|step| Happening::LeftOut { step }),
        (step(), amount()).prop_map(|(step, amount)| Happening::Used { step, amount }),
        (step(), amount()).prop_map(|(step, amount)| Happening::CameOut { step, amount }),
        (vessel(), amount()).prop_map(|(vessel, amount)| Happening::Added {
            vessel,
            ingredient: "simple_syrup_1_1".into(),
            amount,
        }),
        (vessel(), 0.0..40.0).prop_map(|(vessel, value)| Happening::Reading {
            vessel,
            quantity: Quantity::Brix,
            value,
            error: None,
        }),
        (0..12_usize).prop_map(|of| Happening::TakenBack { of }),
        Just(Happening::Note { text: "a little sharp".into(), by: "The beekeeper".into() }),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, ..ProptestConfig::default() })]

    /// Whatever was said, in whatever order: the table can be drawn, each row once, and its figures are figures.
    #[test]
    fn any_past_is_a_table(all in proptest::collection::vec((0.0..600.0, anything()), 0..14)) {
        let mut at = 0.0;
        let said: Vec<Said> = all
            .into_iter()
            .map(|(minutes, what)| {
                at += minutes / 10.0;
                Said { at, what }
            })
            .collect();
        let one = PastBatch { written: cooler(), said, cupboard: priced() };
        let column = one.column();
        let mut keys: Vec<&str> = column.cells.iter().map(|c| c.key.as_str()).collect();
        keys.sort_unstable();
        let all = keys.len();
        keys.dedup();
        prop_assert_eq!(keys.len(), all, "a row stands twice");
        for cell in &column.cells {
            prop_assert!(!cell.label.is_empty() && !cell.made.contains("NaN"), "{cell:?}");
            prop_assert!(cell.times.is_none_or(|t| t.is_finite() && t >= 0.0), "{cell:?}");
        }
        prop_assert!(column.ml.is_finite() && column.ml >= 0.0);
        prop_assert!(column.inside <= column.readings);
        // Two are no habit, whatever they are.
        prop_assert!(say(&[one.clone(), one]).is_empty());
    }

    /// What is taken back, all of it, leaves what is written.
    #[test]
    fn a_past_that_is_taken_back_is_none(all in proptest::collection::vec(anything(), 1..8)) {
        let count = all.len();
        let plain = all.into_iter().filter(|what| !matches!(what, Happening::TakenBack { .. }));
        let mut said: Vec<Said> = plain.map(|what| Said { at: 0.0, what }).collect();
        for of in 0..said.len().min(count) {
            said.push(Said { at: 0.0, what: Happening::TakenBack { of } });
        }
        let taken_back = Column::of(&cooler(), &said, Cupboard::builtin());
        prop_assert!(taken_back.put_right.is_empty() && taken_back.said.is_empty());
        for cell in taken_back.cells.iter().filter(|c| c.key.starts_with("amount/")) {
            prop_assert_eq!(&cell.made, &cell.written);
        }
    }
}
