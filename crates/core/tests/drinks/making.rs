//! A batch: the drink as made.

use keen_core::batch::{BatchReport, Happening, Made, Progress, Said, StepState, doubtful};
use keen_core::belief::Quantity;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, Drink, FieldError, Press, RestingPlace};
use keen_core::trace::Trace;
use proptest::prelude::*;

use crate::common::{add, any_drink, drink, squeeze, stand, strain};

pub fn hibiscus() -> Drink {
    drink(vec![
        add("pot", "water", "1 l"),
        add("pot", "hibiscus_dried", "40 g"),
        stand("pot", 20.0, RestingPlace::Worktop),
        strain("pot", "sieve", "jug", Press::Drained),
        squeeze("jug", "lemon_juice", "2 lemons"),
        add("jug", "white_sugar", "120 g"),
    ])
}

/// A batch that is told as a maker would.
pub struct Batch {
    pub drink: Drink,
    pub said: Vec<Said>,
}

impl Batch {
    pub fn new(drink: Drink) -> Self {
        Self { drink, said: Vec::new() }
    }

    pub fn made(&self) -> Made {
        Made::of(&self.drink, &self.said, Cupboard::builtin())
    }

    pub fn tries(&self, at: f64, what: &Happening) -> Result<(), FieldError> {
        self.made().allows(what, &self.said, at, 10_000.0, Cupboard::builtin())
    }

    pub fn say(&mut self, at: f64, what: Happening) -> &mut Self {
        self.tries(at, &what).unwrap();
        self.said.push(Said { at, what });
        self
    }

    pub fn done(&mut self, at: f64, step: &str) -> &mut Self {
        self.say(at, Happening::Done { step: step.into() })
    }
}

fn done(step: &str) -> Happening {
    Happening::Done { step: step.into() }
}

pub fn finished() -> Happening {
    Happening::Finished { place: "shelf".into(), note: String::new(), bottles: None, volume: None }
}

#[test]
fn a_batch_of_which_nothing_was_said_is_the_drink() {
    let batch = Batch::new(hibiscus());
    let made = batch.made();
    assert_eq!(made.drink, batch.drink);
    assert_eq!(made.next(), Some(0));
    assert!(made.steps.iter().all(|s| s.state == StepState::Ahead && !s.besides));
}

#[test]
fn what_was_really_done_is_what_is_run() {
    let mut batch = Batch::new(hibiscus());
    batch.done(1.0, "s0").done(2.0, "s1");
    batch.say(2.0, Happening::Began { step: "s2".into() });
    assert_eq!(batch.made().steps[2].state, StepState::Running { since: 2.0 });
    assert_eq!(batch.made().next(), Some(3));
    // It stood twice as long as is written.
    batch.done(42.0, "s2").done(45.0, "s3");
    batch.say(46.0, Happening::Used { step: "s4".into(), amount: "3 lemons".parse().unwrap() });
    let made = batch.made();
    assert!(matches!(made.drink.steps[2].action, Action::Infuse { minutes: 40.0, .. }));
    let acid = |d: &Drink| {
        let trace = Trace::run(d, Cupboard::builtin());
        trace.outcome().unwrap().contents.liquid.acidity_percent()
    };
    assert!(acid(&made.drink) > 1.1 * acid(&batch.drink));
    assert_eq!(made.steps[3].state, StepState::Done { since: None, at: 45.0 });
}

#[test]
fn what_is_next_waits_for_what_goes_on_in_its_vessels() {
    let mut batch = Batch::new(hibiscus());
    batch.done(1.0, "s0").done(2.0, "s1");
    batch.say(2.0, Happening::Began { step: "s2".into() });
    let report = BatchReport::of(&batch.drink, &batch.made(), Cupboard::builtin(), 0.0);
    let ready: Vec<&str> = report.steps.iter().filter(|s| s.ready).map(|s| s.id.as_str()).collect();
    // While it steeps in the pot nothing is strained, and the jug waits for that.
    assert_eq!(ready, Vec::<&str>::new());
    let steep = &report.steps[2];
    assert_eq!((steep.state, steep.until), (Progress::Running, Some(22.0)));
    // Who strains it has ended the wait.
    batch.done(17.0, "s3");
    let made = batch.made();
    assert_eq!(made.steps[2].state, StepState::Done { since: Some(2.0), at: 17.0 });
    assert!(matches!(made.drink.steps[2].action, Action::Infuse { minutes: 15.0, .. }));
    let report = BatchReport::of(&batch.drink, &made, Cupboard::builtin(), 0.0);
    assert_eq!(report.next.as_deref(), Some("s4"));
}

#[test]
fn a_reading_narrows_where_it_will_end_and_a_silly_one_is_asked_about() {
    let mut batch = Batch::new(hibiscus());
    for (at, step) in [(1.0, "s0"), (2.0, "s1"), (22.0, "s2"), (25.0, "s3")] {
        batch.done(at, step);
    }
    let cupboard = Cupboard::builtin();
    let before = BatchReport::of(&batch.drink, &batch.made(), cupboard, 0.0);
    let told = before.measure.as_ref().expect("the calyces are unknown");
    assert!(told.message.contains("narrow the"), "{}", told.message);
    let read = |value| Happening::Reading {
        vessel: "jug".into(),
        quantity: Quantity::Acidity,
        value,
        error: None,
    };
    let made = batch.made();
    let silly = made.reading("jug", Quantity::Acidity, 9.0, None).unwrap();
    let question = doubtful(&made, &silly, cupboard).expect("nothing is that sour");
    assert!(question.contains("9.00 % acid") && question.contains("expected"), "{question}");
    let expected = before.report.frames[3].states.last().unwrap().acidity_percent;
    batch.say(26.0, read(1.15 * expected));
    let after = BatchReport::of(&batch.drink, &batch.made(), cupboard, 0.0);
    assert!(
        after.doubt.acidity < 0.9 * before.doubt.acidity,
        "{:?} {:?}",
        after.doubt,
        before.doubt
    );
    assert_eq!(after.readings.len(), 1);
    assert!((after.readings[0].expected / expected - 1.0).abs() < 0.05);
    let ends = |r: &BatchReport| r.report.map.point.as_ref().unwrap().acidity;
    assert!(ends(&after) > ends(&before), "it will be sharper than written");
}

#[test]
fn what_came_out_is_believed_or_used() {
    let mut batch = Batch::new(hibiscus());
    batch.done(1.0, "s0").done(2.0, "s1").done(22.0, "s2").done(25.0, "s3");
    batch.say(26.0, Happening::CameOut { step: "s3".into(), amount: "810 ml".parse().unwrap() });
    let read = batch.made().measurements;
    assert_eq!((read.len(), read[0].step, read[0].quantity), (1, 3, Quantity::Volume));
    assert!((read[0].value - 810.0).abs() < 1e-9);
    // Juice that was squeezed is what went in.
    batch.say(27.0, Happening::CameOut { step: "s4".into(), amount: "70 ml".parse().unwrap() });
    let Action::Squeeze { amount, .. } = &batch.made().drink.steps[4].action else { panic!() };
    assert_eq!(amount.to_string(), "70 ml");
}

#[test]
fn what_the_drink_does_not_say_is_put_in_where_it_happened() {
    let mut batch = Batch::new(hibiscus());
    batch.done(1.0, "s0").done(2.0, "s1").done(22.0, "s2").done(25.0, "s3");
    batch.say(
        26.0,
        Happening::Reading {
            vessel: "jug".into(),
            quantity: Quantity::Brix,
            value: 1.5,
            error: None,
        },
    );
    batch.say(
        27.0,
        Happening::Added {
            vessel: "jug".into(),
            ingredient: "honey".into(),
            amount: "30 g".parse().unwrap(),
        },
    );
    batch.say(
        28.0,
        Happening::PouredAway { vessel: "jug".into(), volume: "100 ml".parse().unwrap() },
    );
    let made = batch.made();
    assert_eq!(made.steps.len(), 8);
    assert!(made.steps[4].besides && made.steps[5].besides);
    assert_eq!(made.measurements[0].step, 3, "it was read before the honey");
    let trace = Trace::run(&made.drink, Cupboard::builtin());
    let jug = made.drink.vessel("jug").unwrap();
    let before = trace.after(4, jug).unwrap().mass().0;
    let after = trace.after(5, jug).unwrap().mass().0;
    assert!((before - after - 101.0).abs() < 4.0, "{before} {after}");
    // Taken back, it is as if it had not been.
    batch.say(30.0, Happening::TakenBack { of: 5 });
    assert_eq!(batch.made().steps.len(), 7);
    batch.say(31.0, Happening::Again { step: "s3".into() });
    assert_eq!(batch.made().steps[3].state, StepState::Ahead);
}

#[test]
fn steps_are_left_out_and_moved() {
    let mut batch = Batch::new(hibiscus());
    batch.say(1.0, Happening::Moved { step: "s5".into(), before: "s4".into() });
    let ids: Vec<String> = batch.made().steps.into_iter().map(|s| s.id).collect();
    assert_eq!(ids, ["s0", "s1", "s2", "s3", "s5", "s4"]);
    batch.say(2.0, Happening::LeftOut { step: "s1".into() });
    assert_eq!(batch.made().drink.steps.len(), 5);
    assert_eq!(batch.made().drink.check(Cupboard::builtin()), []);
}

#[test]
fn what_cannot_have_happened_is_refused_by_name() {
    let mut batch = Batch::new(hibiscus());
    let refused = |batch: &Batch, what: Happening, field: &str| {
        let fault = batch.tries(1.0, &what).unwrap_err();
        assert_eq!(fault.field, field, "{what:?}: {}", fault.message);
        assert!(fault.message.len() > 12);
    };
    let read = |vessel: &str, value: f64| Happening::Reading {
        vessel: vessel.into(),
        quantity: Quantity::Brix,
        value,
        error: None,
    };
    refused(&batch, done("s99"), "what.step");
    refused(&batch, done("s3"), "what.step");
    refused(&batch, read("jug", 10.0), "what.vessel");
    refused(&batch, read("tub", 10.0), "what.vessel");
    batch.done(1.0, "s0");
    refused(&batch, read("pot", 900.0), "what.value");
    refused(&batch, read("pot", f64::NAN), "what.value");
    let used = Happening::Used { step: "s2".into(), amount: "2 g".parse().unwrap() };
    refused(&batch, used, "what.step");
    refused(
        &batch,
        Happening::CameOut { step: "s0".into(), amount: "3 limes".parse().unwrap() },
        "what.amount",
    );
    refused(&batch, Happening::LeftOut { step: "s0".into() }, "what.step");
    refused(&batch, Happening::TakenBack { of: 7 }, "what.of");
    let late = batch.made().allows(&done("s1"), &batch.said, 500.0, 20.0, Cupboard::builtin());
    assert_eq!(late.unwrap_err().field, "at");
    let odd = Happening::Added {
        vessel: "pot".into(),
        ingredient: "moondust".into(),
        amount: "3 g".parse().unwrap(),
    };
    refused(&batch, odd, "what.amount");
    // Said twice it counts once.
    batch.done(2.0, "s0");
    assert_eq!(batch.made().steps[0].state, StepState::Done { since: None, at: 1.0 });
    batch.say(9.0, finished());
    refused(&batch, done("s1"), "what");
}

fn any_happening() -> impl Strategy<Value = Happening> {
    let step = || (0usize..22).prop_map(|i| format!("s{i}"));
    let vessel = || {
        prop::sample::select(vec!["pot", "jug", "bowl", "glass", "sieve", "tub"])
            .prop_map(String::from)
    };
    let amount = || {
        prop::sample::select(vec!["120 g", "0.5 l", "3 lemons", "1 pinch", "2 cups", "1 part"])
            .prop_map(|a| a.parse().unwrap())
    };
    prop_oneof![
        step().prop_map(|step| Happening::Began { step }),
        step().prop_map(|step| Happening::Done { step }),
        step().prop_map(|step| Happening::Again { step }),
        (step(), amount()).prop_map(|(step, amount)| Happening::Used { step, amount }),
        (step(), amount()).prop_map(|(step, amount)| Happening::CameOut { step, amount }),
        (vessel(), 0.0f64..2000.0, prop::sample::select(Quantity::ALL.to_vec())).prop_map(
            |(vessel, value, quantity)| Happening::Reading { vessel, quantity, value, error: None }
        ),
        (vessel(), amount()).prop_map(|(vessel, amount)| Happening::Added {
            vessel,
            ingredient: "honey".into(),
            amount
        }),
        (vessel(), amount()).prop_map(|(vessel, volume)| Happening::PouredAway { vessel, volume }),
        step().prop_map(|step| Happening::LeftOut { step }),
        (step(), step()).prop_map(|(step, before)| Happening::Moved { step, before }),
        (0usize..12).prop_map(|of| Happening::TakenBack { of }),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..Default::default() })]

    /// Whatever is said and allowed, the drink as made can be run, and its lists go together.
    #[test]
    fn whatever_happened_can_be_run(
        drink in any_drink(),
        said in prop::collection::vec(any_happening(), 0..24),
    ) {
        let mut batch = Batch::new(drink);
        for (at, what) in said.into_iter().enumerate() {
            if batch.tries(at as f64, &what).is_ok() {
                batch.said.push(Said { at: at as f64, what });
            }
            let made = batch.made();
            prop_assert_eq!(made.steps.len(), made.drink.steps.len());
            for (step, of) in made.steps.iter().zip(&made.drink.steps) {
                prop_assert_eq!(&step.id, &of.id);
            }
            prop_assert!(made.measurements.iter().all(|m| m.step < made.steps.len()));
        }
        let made = batch.made();
        let trace = Trace::run(&made.drink, Cupboard::builtin());
        prop_assert_eq!(trace.frames.len(), made.steps.len());
    }
}

/// While peels rest under sugar overnight, the pot that they are strained into isn't heated in the evening; juice that
/// can stand in the refrigerator may be squeezed.
#[test]
fn a_step_whose_time_has_not_come_is_not_next() {
    use keen_core::batch::{BatchReport, Happening, Made, Said};
    use keen_core::drink::{Action, Maceration, RestingPlace};
    let rest = Action::Macerate {
        vessel: "bowl".into(),
        minutes: 720.0,
        how: Maceration::Left,
        place: RestingPlace::Worktop,
    };
    let heat = Action::Heat {
        vessel: "pot".into(),
        to_c: 80.0,
        minutes: 0.0,
        lid: true,
        until_clear: false,
    };
    let join = Action::Pour {
        from: "pot".into(),
        into: "bowl".into(),
        portion: keen_core::drink::Portion::All,
    };
    let dissolve =
        Action::Dissolve { vessel: "bowl".into(), how: keen_core::drink::Dissolving::Stirred };
    let written = crate::common::drink(vec![
        crate::common::add("bowl", "lemon_peel", "100 g"),
        crate::common::add("bowl", "white_sugar", "150 g"),
        rest,
        crate::common::add("pot", "water", "500 ml"),
        heat,
        join,
        dissolve,
        crate::common::squeeze("jug", "lemon_juice", "4 lemons"),
        crate::common::pour("jug", "bowl", keen_core::drink::Portion::All),
    ]);
    let cupboard = keen_core::cupboard::Cupboard::builtin();
    let done = |step: &str| Happening::Done { step: step.into() };
    let mut said = vec![
        Said { at: 0.0, what: done("s0") },
        Said { at: 1.0, what: done("s1") },
        Said { at: 2.0, what: Happening::Began { step: "s2".into() } },
        Said { at: 3.0, what: done("s3") },
    ];
    let stands = |said: &[Said], now: f64| {
        BatchReport::of(&written, &Made::of(&written, said, cupboard), cupboard, now)
    };
    let evening = stands(&said, 4.0);
    let heating = evening.steps.iter().find(|s| s.id == "s4").unwrap();
    let from = heating.not_before.expect("the pot would be cold by the morning");
    assert!((600.0..722.0).contains(&from), "{from} minutes after the start");
    assert_eq!(evening.next.as_deref(), Some("s7"), "the lemons can be squeezed meanwhile");
    said.push(Said { at: 8.0, what: done("s7") });
    assert_eq!(stands(&said, 9.0).next, None, "nothing but the pot, and that can wait");
    // When the peels are nearly done its time has come.
    let morning = stands(&said, from + 1.0);
    assert_eq!(morning.next.as_deref(), Some("s4"));
}
