//! Stand-ins behave as such devices do, and nothing that is said to them breaks them.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;
use std::time::{Duration, Instant};

use keen_instruments::{Clock, InstrumentKind, Line, Order, Sample, Stand, serve};
use proptest::prelude::*;

fn line(stand: &Stand, instrument: &str) -> Line {
    stand.lines().into_iter().find(|l| l.instrument == instrument).unwrap()
}

const LEMONADE: Sample = Sample { temperature: 20.0, brix: 10.4, ph: 2.6, acid: 0.61 };

#[test]
fn a_scale_settles_in_a_second_counts_from_its_tare_and_says_when_it_is_too_much() {
    let mut stand = Stand::new(1);
    stand.hear("scale-1", &Order::Pour { grams: 347.3 });
    stand.pass(0.1);
    let hurried = line(&stand, "scale-1");
    assert!(!hurried.stable && hurried.value.unwrap() < 300.0, "{hurried:?}");
    stand.pass(1.2);
    let settled = line(&stand, "scale-1");
    assert_eq!((settled.value, settled.stable), (Some(347.0), true));
    stand.hear("scale-1", &Order::Tare);
    stand.pass(1.2);
    assert_eq!(line(&stand, "scale-1").value, Some(0.0));
    stand.hear("scale-1", &Order::Pour { grams: 4900.0 });
    stand.pass(2.0);
    let over = line(&stand, "scale-1");
    assert_eq!((over.value, over.stable), (None, false));
    assert!(over.says.unwrap().contains("overload"));
    // Taken off, what was tared away is missing.
    stand.hear("scale-1", &Order::Lift);
    stand.pass(2.0);
    assert_eq!(line(&stand, "scale-1").value, Some(-347.0));
}

#[test]
fn a_thermometer_lags_by_four_seconds() {
    let mut stand = Stand::new(1);
    let before = line(&stand, "thermometer-1").value.unwrap();
    let hot = Sample { temperature: 90.0, ..LEMONADE };
    stand.hear("thermometer-1", &Order::Dip { sample: hot });
    stand.pass(4.0);
    let after = line(&stand, "thermometer-1");
    let share = (after.value.unwrap() - before) / (90.0 - before);
    assert!((share - 0.632).abs() < 0.01 && !after.stable, "{share}");
    stand.pass(30.0);
    assert_eq!(line(&stand, "thermometer-1").value, Some(90.0));
}

#[test]
fn a_refractometer_wants_its_drop_at_room_temperature() {
    let mut stand = Stand::new(3);
    assert_eq!(line(&stand, "refractometer-1").value, None);
    let hot = Sample { temperature: 70.0, ..LEMONADE };
    stand.hear("refractometer-1", &Order::Dip { sample: hot });
    let warm = line(&stand, "refractometer-1");
    assert!(!warm.stable && warm.value.unwrap() < 8.5, "{warm:?}");
    assert!(warm.says.unwrap().contains("room temperature"));
    stand.pass(60.0);
    let cool = line(&stand, "refractometer-1");
    assert!(cool.stable && (cool.value.unwrap() - 10.4).abs() < 0.8, "{cool:?}");
    // One that reckons with a degree or two is no further off.
    stand.hear("refractometer-1", &Order::Compensate { on: true });
    let made_up = line(&stand, "refractometer-1").value.unwrap() - cool.value.unwrap();
    assert!((0.0..=0.2).contains(&made_up), "{made_up}");
}

#[test]
fn a_refractometer_errs_by_a_fifth_of_a_degree() {
    let mut stand = Stand::new(5);
    let read: Vec<f64> = (0..400)
        .map(|_| {
            stand.hear("refractometer-1", &Order::Dip { sample: LEMONADE });
            line(&stand, "refractometer-1").value.unwrap()
        })
        .collect();
    let mean = read.iter().sum::<f64>() / 400.0;
    let sd = (read.iter().map(|v| (v - mean).powi(2)).sum::<f64>() / 400.0).sqrt();
    assert!((mean - 10.4).abs() < 0.05 && (sd - 0.2).abs() < 0.03, "{mean} {sd}");
}

#[test]
fn a_ph_meter_is_right_when_it_has_read_two_buffers() {
    let off = |seed: u64, calibrated: bool| {
        let mut stand = Stand::new(seed);
        if calibrated {
            stand.hear("ph-meter-1", &Order::Calibrate { with: 7.0 });
            assert!(line(&stand, "ph-meter-1").says.unwrap().contains("the other"));
            stand.hear("ph-meter-1", &Order::Calibrate { with: 4.01 });
        }
        stand.hear("ph-meter-1", &Order::Dip { sample: LEMONADE });
        stand.pass(30.0);
        let read = line(&stand, "ph-meter-1");
        assert!(read.stable);
        (read.value.unwrap() - 2.6).abs()
    };
    let worst = |calibrated| (0..40).map(|seed| off(seed, calibrated)).fold(0.0, f64::max);
    assert!(worst(false) > 0.25, "from the drawer: {}", worst(false));
    assert!(worst(true) < 0.12, "calibrated: {}", worst(true));
}

#[test]
fn an_acid_kit_counts_drops_and_can_be_overshot() {
    let mut stand = Stand::new(2);
    stand.hear("acid-kit-1", &Order::Dip { sample: LEMONADE });
    let mut drops = 0;
    while line(&stand, "acid-kit-1").value.is_none() {
        stand.hear("acid-kit-1", &Order::Drop { count: 1 });
        drops += 1;
        assert!(drops < 60, "it never turns");
    }
    let turned = line(&stand, "acid-kit-1").value.unwrap();
    assert!((turned - 0.61).abs() < 0.08, "{turned}");
    stand.hear("acid-kit-1", &Order::Drop { count: 10 });
    let overshot = line(&stand, "acid-kit-1").value.unwrap();
    assert!((overshot - turned - 0.2).abs() < 1e-9, "nobody sees that they were too many");
}

#[test]
fn a_clock_is_hurried_and_never_put_back() {
    let clock = Clock::default();
    assert_eq!(clock.shows(3.0), 3.0);
    let fast = clock.hears(&Order::Rate { times: 60.0 }, 3.0);
    assert_eq!(fast.shows(4.0), 63.0);
    let jumped = fast.hears(&Order::Jump { minutes: 25.0 }, 4.0);
    assert_eq!((jumped.shows(4.0), jumped.shows(2.0)), (88.0, 88.0));
}

#[test]
fn a_line_that_makes_no_sense_is_refused_with_the_reason() {
    let good = r#"{"instrument":"scale-1","kind":"scale","value":512.4,"unit":"g","stable":true}"#;
    assert_eq!(Line::read(good).unwrap().value, Some(512.4));
    for (text, why) in [
        ("", "this line"),
        ("512 g", "this line"),
        (r#"{"instrument":"scale-1","kind":"oven","value":1,"unit":"g"}"#, "this line"),
        (r#"{"instrument":"","kind":"scale","value":1,"unit":"g"}"#, "instrument name"),
        (r#"{"instrument":"a b","kind":"scale","value":1,"unit":"g"}"#, "instrument name"),
        (r#"{"instrument":"s","kind":"scale","value":1,"unit":"oz"}"#, "reads in g"),
        (r#"{"instrument":"s","kind":"ph_meter","value":77,"unit":"pH"}"#, "Enter"),
    ] {
        let told = Line::read(text).unwrap_err().0;
        assert!(told.contains(why), "{text}: {told}");
    }
}

#[test]
fn they_are_served_and_told_over_a_line() {
    let served = serve(Stand::new(9), 0).unwrap();
    let stream = TcpStream::connect(served.address).unwrap();
    stream.set_read_timeout(Some(Duration::from_secs(10))).unwrap();
    let mut writer = stream.try_clone().unwrap();
    let mut reader = BufReader::new(stream).lines();
    // What makes no sense is passed over.
    writer
        .write_all(b"hello\n\xff\xfe\n{\"do\":\"explode\"}\n{\"do\":\"pour\",\"grams\":1e99}\n")
        .unwrap();
    writer.write_all(b"{\"do\":\"pour\",\"grams\":250}\n").unwrap();
    let began = Instant::now();
    let mut kinds = Vec::new();
    loop {
        let line = Line::read(&reader.next().unwrap().unwrap()).unwrap();
        kinds.push(line.kind);
        if line.kind == InstrumentKind::Scale && line.stable && line.value == Some(250.0) {
            break;
        }
        assert!(began.elapsed() < Duration::from_secs(8), "the scale never shows it");
    }
    for kind in [
        InstrumentKind::Thermometer,
        InstrumentKind::Refractometer,
        InstrumentKind::PhMeter,
        InstrumentKind::AcidKit,
        InstrumentKind::Clock,
    ] {
        assert!(kinds.contains(&kind), "{kind:?} in {kinds:?}");
    }
}

fn any_order() -> impl Strategy<Value = Order> {
    let number = || prop::sample::select(vec![0.0, -1.0, 7.0, 1e9, f64::NAN, f64::INFINITY]);
    prop_oneof![
        Just(Order::Tare),
        Just(Order::Lift),
        number().prop_map(|with| Order::Calibrate { with }),
        number().prop_map(|grams| Order::Pour { grams }),
        (number(), number()).prop_map(|(a, b)| Order::Dip {
            sample: Sample { temperature: a, brix: b, ph: a, acid: b }
        }),
        (0u32..500).prop_map(|count| Order::Drop { count }),
        number().prop_map(|times| Order::Rate { times }),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..Default::default() })]

    /// Whatever they are told, each tells a line that can be read.
    #[test]
    fn they_always_tell_something_that_can_be_read(
        orders in prop::collection::vec((any_order(), 0usize..7), 0..40),
    ) {
        let names =
            ["scale-1", "thermometer-1", "refractometer-1", "ph-meter-1", "acid-kit-1", "clock-1", "oven"];
        let mut stand = Stand::new(4);
        for (order, which) in orders {
            stand.hear(names[which], &order);
            stand.pass(0.5);
            for line in stand.lines() {
                let text = serde_json::to_string(&line).unwrap();
                prop_assert!(Line::read(&text).is_ok(), "{}", text);
            }
        }
    }
}
