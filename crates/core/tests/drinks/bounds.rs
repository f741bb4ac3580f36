//! Drinks that nobody makes, and questions that nobody asks: what they may cost, and that the answer
//! is made of numbers.

use crate::common::{add, any_drink, boil, drink, pour, serve, stand};
use keen_core::balance::{Aim, Asked, Bound, Pitcher, Target, Taste, correct, solve, swap};
use keen_core::chance::{FEWEST_RUNS, spread};
use keen_core::cupboard::{Cupboard, Form};
use keen_core::drink::{Action, Drink, Portion, Reduction, RestingPlace, Vigour, Warmth, limits};
use keen_core::quantity::{Amount, Units};
use keen_core::report::DrinkReport;
use keen_core::scale::{NamedSize, Size, fit, resize, sheet};
use keen_core::serving::card;
use keen_core::study::steeping;
use keen_core::trace::{NoticeKind, Trace};
use keen_core::work::{Stopped, Work, Worktop};
use proptest::prelude::*;
use rand::SeedableRng;
use rand::rngs::StdRng;

fn half() -> Portion {
    Portion::Share(0.5)
}

/// Two pots of fruit that are poured into one another, half and half, as often as a drink has steps.
fn to_and_fro(times: usize) -> Drink {
    let mut steps = vec![
        add("pot", "strawberry", "300 g"),
        add("bowl", "hibiscus_dried", "40 g"),
        add("pot", "white_sugar", "200 g"),
        add("pot", "water", "1 l"),
        add("bowl", "ice", "300 g"),
    ];
    for _ in 0..times {
        steps.push(pour("pot", "bowl", half()));
        steps.push(pour("bowl", "pot", Portion::All));
    }
    drink(steps)
}

/// The ids of everything that comes in pieces.
fn pieces() -> Vec<&'static str> {
    let all = Cupboard::builtin().ingredients();
    all.iter().filter(|it| it.form == Form::Pieces).map(|it| it.id.as_str()).collect()
}

/// The dearest drinks that can be written: every step on a pot in which everything lies.
fn dearest() -> Vec<(&'static str, Drink)> {
    let pieces = pieces();
    let crowd = |many: usize| {
        (0..many)
            .map(|i| add("pot", pieces[i % pieces.len()], "50 g"))
            .chain([add("pot", "water", "3 l"), add("pot", "white_sugar", "500 g")])
            .collect::<Vec<_>>()
    };
    let end = || [pour("pot", "jug", Portion::All), serve("jug", 8, "250 ml")];
    let filled = |many: usize, with: Action| {
        let mut steps = crowd(many);
        let left = limits::STEPS - steps.len() - 2;
        steps.extend(std::iter::repeat_n(with, left));
        steps.extend(end());
        drink(steps)
    };
    let mut fruit: Vec<Action> = (0..limits::STEPS - 2)
        .map(|i| match i % 3 {
            0 => add("jug", "lemon_juice", "3 lemons"),
            1 => add("jug", "white_sugar", "40 g"),
            _ => add("jug", "water", "200 ml"),
        })
        .collect();
    fruit.push(serve("jug", 40, "250 ml"));
    vec![
        ("steeped again and again", filled(100, stand("pot", 30.0, RestingPlace::Worktop))),
        ("boiled again and again", filled(100, boil(2.0, true))),
        (
            "reduced again and again",
            filled(
                100,
                Action::Reduce {
                    vessel: "pot".into(),
                    to: Reduction::Brix(70.0),
                    how: Vigour::Simmer,
                },
            ),
        ),
        ("poured to and fro", to_and_fro(97)),
        ("two hundred lines", drink(fruit)),
    ]
}

/// What every question says of a drink, as text.
fn everything(drink: &Drink, work: &dyn Fn() -> Work) -> Vec<(&'static str, String)> {
    let cupboard = Cupboard::builtin();
    let mut said = Vec::new();
    let mut ask = |name: &'static str, question: &dyn Fn(Worktop<'_>) -> String| {
        let work = work();
        said.push((name, question(Worktop::new(cupboard, &work))));
    };
    let step = drink.steps.first().map_or("", |s| s.id.as_str());
    let last = drink.vessels[0].id.clone();
    let size = Size::Glasses { glasses: 48, size: Amount::millilitres(200.0) };
    ask("trace", &|_| format!("{:?}", DrinkReport::of(drink, cupboard)));
    ask("spread", &|top| format!("{:?}", spread(drink, top, 1000, &mut StdRng::seed_from_u64(1))));
    ask("size", &|top| format!("{:?}", resize(drink, top, &size)));
    ask("sheet", &|top| {
        let sizes = vec![NamedSize { name: "party".into(), size: size.clone() }; 3];
        format!("{:?}", sheet(drink, top, &sizes, Units::Metric))
    });
    ask("vessels", &|top| format!("{:?}", fit(drink, top)));
    ask("glass", &|top| format!("{:?}", card(drink, top)));
    ask("steeping", &|top| {
        let at = drink.steps.len().saturating_sub(3);
        format!("{:?}", steeping(drink, top, drink.steps.get(at).map_or("", |s| &s.id)))
    });
    let target = Target { sweetness: Some(9.0), acidity: Some(0.5), ..Target::default() };
    ask("solve", &|top| format!("{:?}", solve(drink, top, &Aim { target, ..Aim::default() })));
    ask("swap", &|top| format!("{:?}", swap(drink, top, step, "honey")));
    ask("correct", &|top| {
        let pitcher =
            Pitcher::Traced { drink: Box::new(drink.clone()), vessel: last.clone(), step: None };
        let asked = Asked {
            pitcher,
            sweetness: Some(9.0),
            acidity: Some(0.5),
            words: Vec::new(),
            notices: Default::default(),
            at_hand: Vec::new(),
        };
        format!("{:?}", correct(top, &asked))
    });
    said
}

/// A number that is none, as the debug form tells it.
fn is_no_number(text: &str) -> bool {
    let word = |part: &str| matches!(part, "NaN" | "inf" | "-inf");
    text.split(|c: char| !(c.is_alphanumeric() || c == '-' || c == '_' || c == '.')).any(word)
}

#[test]
fn what_is_poured_to_and_fro_stays_what_it_is() {
    let (once, often) = (to_and_fro(0), to_and_fro(90));
    let trace = Trace::run(&often, Cupboard::builtin());
    let (pot, bowl) = (often.vessel("pot").unwrap(), often.vessel("bowl").unwrap());
    let there = trace.last(pot).unwrap().1;
    let apart = Trace::run(&once, Cupboard::builtin());
    let whole = apart.last(pot).unwrap().1.mass().0 + apart.last(bowl).unwrap().1.mass().0;
    let clings = trace.last(bowl).unwrap().1.mass().0;
    assert!((there.mass().0 + clings - whole).abs() < 1e-6 * whole);
    for (_, contents) in trace.states_of(pot).chain(trace.states_of(bowl)) {
        assert!(contents.pieces.len() <= 2, "{} heaps of two sorts", contents.pieces.len());
        assert!(contents.ice.len() <= 1 && contents.crystals.len() <= 1);
    }
    let put_in: f64 = there.pieces.iter().map(|p| p.put_in.0).sum();
    assert!((put_in - 340.0).abs() < 0.5, "{put_in}");
}

#[test]
fn what_doubles_again_and_again_ends_at_a_tonne() {
    let mut steps = vec![add("jug", "water", "100 ml"), add("jug", "lemon_juice", "1 lemon")];
    steps.extend((0..160).map(|_| Action::Lengthen {
        vessel: "jug".into(),
        ingredient: "club_soda".into(),
        parts: 100.0,
        warmth: Warmth::Usual,
    }));
    let drink = drink(steps);
    let report = DrinkReport::of(&drink, Cupboard::builtin());
    assert!(!is_no_number(&format!("{report:?}")));
    let last = &report.frames.last().unwrap();
    assert!(last.states[0].mass_g <= 1e6 + 1.0, "{}", last.states[0].mass_g);
    let told = |i: usize| {
        report.frames[i].notices.iter().any(|n| n.kind == NoticeKind::MoreThanAHouseHolds)
    };
    assert!(told(100) && !told(2));
}

#[test]
fn a_lower_bound_beyond_all_others_is_met() {
    let start = drink(vec![add("jug", "water", "1 l"), add("jug", "white_sugar", "2 g")]);
    let bounds = vec![Bound {
        step: "s1".into(),
        least: Some("300 g".parse().unwrap()),
        most: Some("1 g".parse().unwrap()),
    }];
    let target = Target { sweetness: Some(2.0), ..Target::default() };
    let aim = Aim { target, bounds, ..Aim::default() };
    let found = solve(&start, Cupboard::builtin(), &aim).unwrap();
    let sugar = found.drink.steps[1].action.amount().unwrap().total();
    assert!((sugar - 300.0).abs() < 0.5, "{sugar}");
}

#[test]
fn the_dearest_drinks_cost_no_more_than_they_may() {
    for (name, drink) in dearest() {
        assert!(drink.check(Cupboard::builtin()).is_empty(), "{name}");
        assert!(drink.steps.len() > limits::STEPS - 5, "{name}: {}", drink.steps.len());
        // A quarter of the usual allowance ends in the same ways, in a quarter of the time.
        for (question, said) in everything(&drink, &|| Work::of(3_000_000)) {
            assert!(!is_no_number(&said), "{name}: {question}");
        }
        let work = Work::usual();
        let top = Worktop::new(Cupboard::builtin(), &work);
        let found = spread(&drink, top, 1000, &mut StdRng::seed_from_u64(1));
        // It is done with fewer runs, and says with how many. Only what takes a second for twenty of them is refused:
        // a hundred kinds of pieces, boiled down a hundred times.
        let runs = match found {
            Ok(found) => found.unwrap().runs,
            Err(Stopped::TooMuch) if name == "reduced again and again" => continue,
            Err(why) => panic!("{name}: {why:?}"),
        };
        assert!((FEWEST_RUNS..=1000).contains(&runs), "{name}: {runs}");
    }
}

#[test]
fn who_has_gone_is_not_worked_for() {
    let work = Work::usual();
    work.give_up();
    let top = Worktop::new(Cupboard::builtin(), &work);
    let drink = to_and_fro(1);
    let found = spread(&drink, top, 1000, &mut StdRng::seed_from_u64(1));
    assert_eq!(found, Err(Stopped::GivenUp));
    let little = Work::of(10);
    let found = fit(&drink, Worktop::new(Cupboard::builtin(), &little));
    assert_eq!(found, Err(Stopped::TooMuch));
}

#[test]
fn an_allowance_is_the_same_everywhere() {
    let drink = to_and_fro(30);
    let runs = || {
        let work = Work::of(100_000);
        let top = Worktop::new(Cupboard::builtin(), &work);
        spread(&drink, top, 1000, &mut StdRng::seed_from_u64(1)).unwrap().unwrap().runs
    };
    assert!(runs() < 1000);
    assert_eq!(runs(), runs());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// No answer has a number in it that is none, whatever is asked of whatever drink.
    #[test]
    fn answers_are_made_of_numbers(drink in any_drink()) {
        for (question, said) in everything(&drink, &|| Work::of(200_000)) {
            prop_assert!(!is_no_number(&said), "{question}: {said}");
        }
    }

    /// Running a drink for its end alone is the same run.
    #[test]
    fn the_end_is_the_end_of_the_trace(drink in any_drink()) {
        let cupboard = Cupboard::builtin();
        let hold = drink.steps.iter().map(|s| s.id.clone()).collect();
        let Ok(held) = solve(&drink, cupboard, &Aim { hold, ..Aim::default() }) else {
            return Ok(());
        };
        prop_assert_eq!(held.taste, Taste::of(Trace::run(&drink, cupboard).outcome().unwrap()).unwrap());
    }
}
