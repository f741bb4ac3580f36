//! When to start.

use keen_core::cupboard::{Cupboard, Kitchen, VesselKind};
use keen_core::drink::{
    Action, Cut, Drink, Maceration, Preparation, Press, RestingPlace, Step, Warmth,
};
use keen_core::plan::{
    After, Closed, Fact, Hold, Means, Order, Plan, PlanChange, PlannedTask, TaskState, Trouble,
    Wanted, plan, plan_with_help,
};
use keen_core::quantity::Amount;
use keen_core::scale::{Size, resize};
use proptest::prelude::*;

use crate::common::{add, any_drink, boil, chill, drink, serve, squeeze, stand, strain};

fn demo(name: &str) -> Drink {
    let path = format!("{}/../../../demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let file: serde_json::Value =
        serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let mut drink: Drink = serde_json::from_value(file["drink"].clone()).unwrap();
    drink.name_steps();
    drink
}

fn fallow_lane() -> Cupboard {
    let path = format!("{}/../../../demo/kitchen.json", env!("CARGO_MANIFEST_DIR"));
    let kitchen: Kitchen = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    Cupboard::of(&kitchen)
}

fn wanted(id: &str, drink: Drink, glasses: u32) -> Wanted {
    let cupboard = fallow_lane();
    let size = Amount::millilitres(250.0);
    let drink = if glasses > 0 {
        resize(&drink, &cupboard, &Size::Glasses { glasses, size }).unwrap()
    } else {
        drink
    };
    Wanted { id: id.into(), drink, serve_at: 0.0, water_bath: Vec::new() }
}

/// Three o'clock, and nights from ten to seven.
fn nights() -> Vec<Closed> {
    (0..60)
        .map(|n| {
            let from = -17.0 * 60.0 - f64::from(n) * 1440.0;
            Closed { from, to: from + 9.0 * 60.0, night: true }
        })
        .collect()
}

fn open_day() -> Order {
    Order {
        drinks: vec![
            wanted("a", demo("lemon-verbena-lemonade"), 12),
            wanted("b", demo("hibiscus-and-bay-orange-cooler"), 12),
            wanted("c", demo("melon-and-lime-agua-fresca"), 12),
            wanted("d", demo("ginger-and-lemongrass-syrup"), 0),
            wanted("e", demo("mandarin-fizz"), 12),
        ],
        means: Means { cooks: 2, rings: 2, refrigerator_l: 40.0 },
        closed: nights(),
        ..Order::default()
    }
}

fn task<'a>(plan: &'a Plan, id: &str) -> &'a PlannedTask {
    plan.tasks.iter().find(|t| t.id == id).unwrap_or_else(|| panic!("no {id}"))
}

fn fits(plan: &Plan) {
    assert_eq!(
        plan.troubles.iter().filter(|t| t.stops).collect::<Vec<_>>(),
        Vec::<&Trouble>::new()
    );
}

/// What every plan that fits keeps to, read off what it tells.
fn assert_sound(order: &Order, plan: &Plan) {
    for t in &plan.tasks {
        assert!(t.to <= order.drinks[t.drink].serve_at + 0.02, "{} is late", t.id);
    }
    assert_can_be_done(order, plan);
    assert_no_vessel_twice(plan);
    assert!(plan.refrigerator_l <= order.means.refrigerator_l + 1e-6);
    assert!(plan.bound + 0.02 >= plan.begins, "{} {}", plan.bound, plan.begins);
}

fn assert_no_vessel_twice(plan: &Plan) {
    for vessel in &plan.vessels {
        let by: Vec<_> = vessel.by.iter().filter(|b| b.to > b.from).collect();
        for pair in by.windows(2) {
            assert!(pair[0].to <= pair[1].from + 0.02, "two want {}: {:?}", vessel.name, vessel.by);
        }
    }
}

/// What is yet to come has its hands and its burner for itself, rests in closed hours, and comes in the order that is
/// written. What has happened happened.
fn assert_can_be_done(order: &Order, plan: &Plan) {
    const A_BIT: f64 = 0.02;
    let meets = |a: (f64, f64), b: (f64, f64)| a.0 + A_BIT < b.1 && b.0 + A_BIT < a.1;
    for (i, t) in plan.tasks.iter().enumerate() {
        let hands = (t.hands_from, t.hands_to);
        assert!(t.from <= t.hands_from && t.hands_from <= t.hands_to && t.hands_to <= t.to);
        if t.state != TaskState::Ahead {
            continue;
        }
        for closed in &order.closed {
            let at_night = t.cook.is_some() && meets(hands, (closed.from, closed.to));
            assert!(!at_night, "{} at night", t.id);
        }
        for other in plan.tasks.iter().enumerate().filter(|(j, _)| *j != i).map(|(_, o)| o) {
            let theirs = (other.hands_from, other.hands_to);
            if t.cook == other.cook && t.cook.is_some() {
                assert!(!meets(hands, theirs), "{} and {} by one cook", t.id, other.id);
            }
            if t.ring == other.ring && t.ring.is_some() {
                let on = |t: &PlannedTask| (t.hands_from, t.to);
                assert!(!meets(on(t), on(other)), "{} and {} on one ring", t.id, other.id);
            }
        }
        assert!(t.cook.is_none_or(|c| c < order.means.cooks as usize));
        assert!(t.ring.is_none_or(|r| r < order.means.rings as usize));
    }
    // Steps that work on the same vessel come in the order in which they are written.
    for wanted in &order.drinks {
        let at = |step: usize| {
            let id = format!("{}/1/{}", wanted.id, wanted.drink.steps[step].id);
            plan.tasks.iter().find(|t| t.id == id)
        };
        for later in 1..wanted.drink.steps.len() {
            let path = wanted.drink.steps[later].action.path();
            for earlier in 0..later {
                let shares = |id: &&str| path.contains(id);
                if wanted.drink.steps[earlier].action.path().iter().any(shares)
                    && let (Some(a), Some(b)) = (at(earlier), at(later))
                    && b.state == TaskState::Ahead
                {
                    assert!(a.to <= b.hands_from + A_BIT, "{} before {}", b.id, a.id);
                }
            }
        }
    }
}

#[test]
fn the_open_day_is_planned() {
    let cupboard = fallow_lane();
    let order = open_day();
    let plan = plan_with_help(&order, &cupboard).unwrap();
    fits(&plan);
    assert_sound(&order, &plan);
    // The peels lie under sugar through the night: that is begun on the evening before.
    assert!(task(&plan, "e/1/s3").hands_to <= -1020.0, "{:?}", task(&plan, "e/1/s3"));
    assert!(plan.begins > -1440.0);
    // Two litres and a half of melon don't fit into the blender at once.
    assert_eq!(plan.goes, [1, 1, 2, 1, 1]);
    assert!(task(&plan, "c/2/s4").hands_from != task(&plan, "c/1/s4").hands_from);
    // Soda and ice come at the last moment.
    let soda = order.drinks[4].drink.steps.last().unwrap();
    assert!(task(&plan, &format!("e/1/{}", soda.id)).hands_from > -30.0);
    // What is chilled is cold by then: nearly everything is chilled for hours.
    for chilled in ["a/1/s11", "b/1/s12"] {
        let t = task(&plan, chilled);
        assert!(t.to - t.hands_to > 120.0 && t.to <= 0.0, "{t:?}");
    }
    assert!(!plan.parts.is_empty() && !plan.free.is_empty());
}

#[test]
fn the_same_order_has_the_same_plan() {
    let (cupboard, order) = (fallow_lane(), open_day());
    assert_eq!(plan(&order, &cupboard).unwrap(), plan(&order, &cupboard).unwrap());
}

/// Everything served five minutes later or sooner: what was planned is planned, only that much later or sooner, or at
/// the same time where a night says so.
#[test]
fn five_minutes_put_nothing_into_another_order() {
    let cupboard = fallow_lane();
    let with = |names: &[&str], serve: f64| {
        let drinks = names.iter().enumerate();
        let drinks = drinks.map(|(i, name)| Wanted {
            serve_at: serve - 15.0 * i as f64,
            ..wanted(&format!("d{i}"), demo(name), 8)
        });
        let means = Means { cooks: 1, rings: 2, refrigerator_l: 40.0 };
        Order { drinks: drinks.collect(), means, closed: nights(), ..Order::default() }
    };
    let parties: [&[&str]; 5] = [
        &["lemon-verbena-lemonade", "hibiscus-and-bay-orange-cooler"],
        &["tamarind-cooler", "mint-and-cucumber-water", "lemon-verbena-lemonade"],
        &["melon-and-lime-agua-fresca", "ginger-and-lemongrass-syrup", "tamarind-cooler"],
        &["mandarin-fizz", "rhubarb-and-vanilla-syrup"],
        &["lemon-verbena-lemonade", "melon-and-lime-agua-fresca", "mint-and-cucumber-water"],
    ];
    let (mut moved, mut all) = (0, 0);
    for party in parties {
        let [before, at, after] =
            [-5.0, 0.0, 5.0].map(|serve| plan(&with(party, serve), &cupboard).unwrap());
        for (other, by) in [(&before, -5.0), (&after, 5.0)] {
            for t in &at.tasks {
                let it = (task(other, &t.id).hands_from - t.hands_from) / by;
                all += 1;
                moved += usize::from(!(-0.05..=1.05).contains(&it));
            }
        }
    }
    assert!(all > 200 && moved * 50 <= all, "{moved} of {all} are elsewhere");
}

/// One drink of several is served five minutes later: the others stay where they were, as far as they can; but not
/// where another order is much better.
#[test]
fn what_stood_in_the_plan_stays_there_where_that_is_nearly_as_good() {
    let cupboard = fallow_lane();
    let names = [
        "lemon-verbena-lemonade",
        "hibiscus-and-bay-orange-cooler",
        "melon-and-lime-agua-fresca",
        "tamarind-cooler",
        "mint-and-cucumber-water",
        "ginger-and-lemongrass-syrup",
    ];
    let (mut all, mut moved, mut anew) = (0, 0, 0);
    for case in 0..12 {
        let drinks = (0..4).map(|i| Wanted {
            serve_at: -15.0 * f64::from(i % 3),
            ..wanted(&format!("d{i}"), demo(names[(case + i as usize) % 6]), [4, 8, 12][case % 3])
        });
        let means = Means { cooks: 1 + case as u32 % 2, rings: 2, refrigerator_l: 40.0 };
        let order = Order { drinks: drinks.collect(), means, ..Order::default() };
        let before = plan(&order, &cupboard).unwrap();
        let mut later = order.clone();
        later.drinks[1].serve_at += 5.0;
        let elsewhere = |plan: &Plan| {
            let by = |t: &&PlannedTask| {
                !(-5.5..=5.5).contains(&(task(plan, &t.id).hands_from - t.hands_from))
            };
            before.tasks.iter().filter(by).count()
        };
        let fresh = plan(&later, &cupboard).unwrap();
        later.stood = before
            .tasks
            .iter()
            .map(|t| Hold {
                task: t.id.clone(),
                at: t.hands_from + if t.id.starts_with("d1/") { 5.0 } else { 0.0 },
            })
            .collect();
        let kept = plan(&later, &cupboard).unwrap();
        fits(&kept);
        assert_sound(&later, &kept);
        assert!(kept.begins >= fresh.begins - 15.0, "{case}: {} {}", kept.begins, fresh.begins);
        all += before.tasks.len();
        moved += elsewhere(&kept);
        anew += elsewhere(&fresh);
        // Half a day too early is no order to keep.
        later.stood.iter_mut().for_each(|stood| stood.at -= 720.0);
        assert_eq!(plan(&later, &cupboard).unwrap(), fresh, "{case}");
    }
    assert!(moved * 33 <= all && moved * 3 <= anew, "{moved} of {all} are elsewhere, {anew} anew");
}

#[test]
fn a_part_is_moved_to_the_evening_before() {
    let cupboard = fallow_lane();
    let mut order = open_day();
    let before = plan(&order, &cupboard).unwrap();
    let part = before.parts.iter().find(|p| p.id == "d/s11").expect("the syrup keeps");
    assert!(part.keeps_minutes >= 3.5 * 1440.0 && part.work_minutes > 15.0, "{part:?}");
    assert!(task(&before, "d/1/s4").from > -480.0, "it was made on the day");
    order.ahead.push("d/s11".into());
    let after = plan(&order, &cupboard).unwrap();
    fits(&after);
    assert_sound(&order, &after);
    for step in &order.drinks[3].drink.steps {
        let t = task(&after, &format!("d/1/{}", step.id));
        assert!(t.hands_to <= -1020.0 + 0.02, "{t:?}");
    }
    assert!(after.parts.iter().any(|p| p.id == "d/s11" && p.ahead));
}

/// What is strained back into the pot that it was heated in: the film in the emptied pot hurries nobody, so the
/// making takes its night and not weeks.
#[test]
fn a_vessel_that_was_poured_out_hurries_nobody() {
    let text = include_str!("../../../formats/src/starts/petal_syrup.json");
    let mut syrup: Drink = serde_json::from_str(text).unwrap();
    syrup.name_steps();
    let order = Order {
        drinks: vec![wanted("p", syrup, 0)],
        means: Means { cooks: 2, rings: 2, refrigerator_l: 40.0 },
        closed: nights(),
        ..Order::default()
    };
    let found = plan(&order, &fallow_lane()).unwrap();
    fits(&found);
    assert_sound(&order, &found);
    // Twelve hours in the refrigerator, and four of cooling before and after; the night lies in between.
    assert!(
        (-1200.0..=-900.0).contains(&found.begins),
        "it begins {} minutes before",
        -found.begins
    );
}

/// Lemons that are used in two pots are washed before either, whichever comes first in the plan.
#[test]
fn fruit_is_washed_before_its_first_use_wherever_that_is() {
    let cupboard = fallow_lane();
    let mut order = open_day();
    for planned in &mut order.drinks {
        let uses: Vec<usize> = (0..planned.drink.steps.len())
            .filter(|i| {
                let brought = planned.drink.steps[*i].action.brings();
                brought
                    .is_some_and(|b| b.ingredient == "lemon_juice" || b.ingredient == "lemon_zest")
            })
            .collect();
        let Some(first) = uses.first() else { continue };
        let wash = Action::Prepare {
            ingredient: "lemon_juice".into(),
            how: Preparation::Wash,
            minutes: None,
        };
        planned.drink.steps.insert(*first, Step::new("washed".into(), wash));
    }
    let found = plan(&order, &cupboard).unwrap();
    let mut looked = 0;
    for (planned, letter) in order.drinks.iter().zip('a'..) {
        let Some(at) = planned.drink.steps.iter().position(|s| s.id == "washed") else { continue };
        let washed = task(&found, &format!("{letter}/1/washed"));
        for step in &planned.drink.steps[at + 1..] {
            let lemons = step
                .action
                .brings()
                .is_some_and(|b| b.ingredient == "lemon_juice" || b.ingredient == "lemon_zest");
            if lemons {
                let used = task(&found, &format!("{letter}/1/{}", step.id));
                assert!(washed.hands_to <= used.hands_from + 0.02, "{washed:?} {used:?}");
                looked += 1;
            }
        }
    }
    assert!(looked >= 2, "{looked} uses");
}

#[test]
fn what_can_be_said_of_a_task_is_kept_to() {
    let cupboard = fallow_lane();
    let mut order = open_day();
    let free = plan(&order, &cupboard).unwrap();
    let squeezed = task(&free, "a/1/s7").hands_from;
    order.holds.push(Hold { task: "a/1/s7".into(), at: squeezed - 45.0 });
    let held = plan(&order, &cupboard).unwrap();
    assert_eq!(task(&held, "a/1/s7").hands_from, squeezed - 45.0);
    assert!(task(&held, "a/1/s7").held);
    fits(&held);

    // Verbena is only put in when the hibiscus has been strained.
    order.holds.clear();
    order.after.push(After { task: "a/1/s4".into(), after: "b/1/s7".into() });
    let waits = plan(&order, &cupboard).unwrap();
    assert!(task(&waits, "a/1/s4").hands_from + 0.02 >= task(&waits, "b/1/s7").to);
    fits(&waits);
    // And the other way round at the same time can't be.
    order.after.push(After { task: "b/1/s1".into(), after: "a/1/s8".into() });
    let fault = plan(&order, &cupboard).unwrap_err();
    assert_eq!(fault.field, "after");
}

#[test]
fn what_does_not_fit_is_told_and_what_helps() {
    let cupboard = fallow_lane();
    let mut order = open_day();
    order.means.rings = 0;
    let none = plan_with_help(&order, &cupboard).unwrap();
    let told = none.troubles.iter().find(|t| t.stops).expect("nothing can be heated");
    assert!(told.message.contains("burner"), "{}", told.message);
    let help = none.helps.first().expect("a ring would help");
    assert_eq!(help.change, PlanChange::Ring);
    assert!(help.mends > 0 && help.message.contains("fits"), "{help:?}");

    order.means.rings = 2;
    order.means.refrigerator_l = 1.0;
    let full = plan(&order, &cupboard).unwrap();
    assert!(
        full.troubles.iter().any(|t| t.message.contains("refrigerator")),
        "{:?}",
        full.troubles
    );

    // A single cook has no time to pour out sixty glasses at once; two have less to do.
    let mut order = open_day();
    order.means.cooks = 1;
    for wanted in &mut order.drinks {
        wanted.drink = resize(&wanted.drink, &cupboard, &Size::Factor(3.0)).unwrap();
    }
    let crowded = plan_with_help(&order, &cupboard).unwrap();
    assert!(crowded.troubles.iter().any(|t| t.stops), "{:?}", crowded.troubles);
}

#[test]
fn who_begins_late_hears_when_it_can_be_served() {
    let cupboard = fallow_lane();
    let mut order = Order {
        drinks: vec![wanted("b", demo("hibiscus-and-bay-orange-cooler"), 0)],
        closed: nights(),
        ..Order::default()
    };
    let begins = plan(&order, &cupboard).unwrap().begins;
    order.now = Some(begins - 30.0);
    assert_eq!(plan_with_help(&order, &cupboard).unwrap().later_by, None, "there is time");
    order.now = Some(begins + 60.0);
    let later = plan_with_help(&order, &cupboard).unwrap().later_by.expect("an hour later");
    assert!((60.0..=65.0).contains(&later), "{later}");
    order.now = Some(-30.0);
    let later = plan_with_help(&order, &cupboard).unwrap().later_by.expect("in the evening");
    // Half an hour before three: begun then it would be served in the evening, before ten.
    assert!((-begins - 40.0..=7.0 * 60.0).contains(&later), "{later} {begins}");
}

#[test]
fn one_pot_serves_two_drinks_one_after_the_other() {
    let mut kitchen = fallow_lane().kitchen().clone();
    kitchen.vessels.retain(|v| v.kind != VesselKind::Pot || v.name == "Big pot");
    let cupboard = Cupboard::of(&kitchen);
    let order = Order {
        drinks: vec![
            wanted("b", demo("hibiscus-and-bay-orange-cooler"), 0),
            wanted("t", demo("tamarind-cooler"), 0),
        ],
        means: Means { cooks: 2, rings: 4, refrigerator_l: 40.0 },
        ..Order::default()
    };
    let planned = plan(&order, &cupboard).unwrap();
    fits(&planned);
    assert_sound(&order, &planned);
    // Who is late with the first has the second wait for the pot.
    for (now, late) in [(-400.0, 30.0), (-250.0, 50.0), (-120.0, 25.0)] {
        let followed = plan(&made(&order, &planned, now, |_| late), &cupboard).unwrap();
        assert_can_be_done(&order, &followed);
        assert_no_vessel_twice(&followed);
    }
    let pot = planned.vessels.iter().find(|v| v.name == "Big pot").expect("it is used");
    assert_eq!(pot.by.len(), 2);
    assert_ne!(pot.by[0].drink, pot.by[1].drink);
    // With another one they would be made side by side.
    let plan = plan_with_help(&order, &cupboard).unwrap();
    let helps = plan.helps.iter().find(|h| h.change == PlanChange::Vessel("Big pot".into()));
    assert!(helps.is_some_and(|h| h.gain_minutes >= 5.0), "{:?}", plan.helps);
}

/// Of what simmers in the one large pot and is strained into another one: no time is early enough for that.
#[test]
fn one_large_pot_is_not_two_at_once() {
    let mut kitchen = fallow_lane().kitchen().clone();
    kitchen.vessels.retain(|v| v.kind == VesselKind::FineSieve || v.name == "Big pot");
    let again = Action::Boil {
        vessel: "other".into(),
        minutes: 5.0,
        how: keen_core::drink::Vigour::Boil,
        lid: false,
    };
    let mut cordial = drink(vec![
        add("pot", "water", "4 l"),
        add("pot", "white_sugar", "1500 g"),
        boil(10.0, true),
        strain("pot", "sieve", "other", Press::Pressed),
        again,
    ]);
    cordial.name = "Blackcurrant cordial".into();
    cordial.vessels.retain(|vessel| ["pot", "sieve"].contains(&vessel.id.as_str()));
    cordial.vessels.push(crate::common::vessel("other", VesselKind::Pot));
    let order = Order { drinks: vec![wanted("b", cordial, 0)], ..Order::default() };
    let plan = plan(&order, &Cupboard::of(&kitchen)).unwrap();
    fits(&plan);
    assert!(plan.begins > -300.0, "it begins {} minutes before", -plan.begins);
    let told: Vec<&str> = plan.troubles.iter().map(|t| t.message.as_str()).collect();
    assert!(told.iter().any(|t| t.contains("“Big pot” is in use")), "{told:?}");
    // With two of them there is nothing to tell.
    kitchen.vessels.iter_mut().for_each(|vessel| vessel.count = 2);
    let plan = keen_core::plan::plan(&order, &Cupboard::of(&kitchen)).unwrap();
    assert_eq!(plan.troubles, []);
}

/// On a screen, a second is long.
#[test]
fn twenty_drinks_are_planned_with_what_would_help_in_about_a_second() {
    let names = [
        "lemon-verbena-lemonade",
        "hibiscus-and-bay-orange-cooler",
        "melon-and-lime-agua-fresca",
        "mandarin-fizz",
        "tamarind-cooler",
    ];
    let drinks = (0..20).map(|i| wanted(&format!("w{i}"), demo(names[i % 5]), 8)).collect();
    let means = Means { cooks: 4, rings: 4, refrigerator_l: 200.0 };
    let order = Order { drinks, means, closed: nights(), now: Some(-60.0), ..Order::default() };
    let plan = |_| {
        let began = std::time::Instant::now();
        let plan = plan_with_help(&order, &fallow_lane()).unwrap();
        assert!(plan.later_by.is_some() && !plan.helps.is_empty());
        began.elapsed()
    };
    // The quickest of three: other tests work beside it.
    let took = (0..3).map(plan).min().unwrap();
    assert!(took.as_secs_f64() < 2.0, "{took:?}");
}

#[test]
fn what_the_kitchen_has_not_is_told_and_taken_as_at_hand() {
    let mut kitchen = fallow_lane().kitchen().clone();
    kitchen.vessels.retain(|v| v.kind != VesselKind::Blender);
    let cupboard = Cupboard::of(&kitchen);
    let order = Order {
        drinks: vec![wanted("c", demo("melon-and-lime-agua-fresca"), 0)],
        ..Order::default()
    };
    let plan = plan(&order, &cupboard).unwrap();
    fits(&plan);
    assert!(plan.troubles.iter().any(|t| !t.stops && t.message.contains("no blender")));
    // With an empty cupboard nothing is known, and nothing is complained of.
    let plan = keen_core::plan::plan(&order, Cupboard::builtin()).unwrap();
    assert_eq!(plan.troubles, []);
}

#[test]
fn the_makers_own_word_on_standing_counts() {
    let mut lemonade = demo("lemon-verbena-lemonade");
    lemonade.steps[5].may_stand = Some(2.0);
    lemonade.steps[5].after = vec!["s2".into()];
    let order =
        Order { drinks: vec![wanted("a", lemonade, 0)], closed: nights(), ..Order::default() };
    let plan = plan(&order, &fallow_lane()).unwrap();
    let steep = task(&plan, "a/1/s6");
    assert!((steep.may_stand_until.unwrap() - steep.to - 2.0).abs() < 0.02, "{steep:?}");
    let strain = task(&plan, "a/1/s8");
    assert!(strain.hands_from <= steep.to + 2.02);
}

#[test]
fn a_kettle_boils_by_itself_and_a_zero_step_takes_no_one() {
    let boiling = Action::Add {
        into: "pot".into(),
        ingredient: "water".into(),
        amount: "1.5 l".parse().unwrap(),
        warmth: Warmth::Boiling,
        cut: Cut::Usual,
        portions: 1,
    };
    let tea = drink(vec![boiling, stand("pot", 0.0, RestingPlace::Worktop)]);
    let order = Order {
        drinks: vec![Wanted { id: "a".into(), drink: tea, serve_at: 0.0, water_bath: vec![] }],
        ..Order::default()
    };
    let plan = plan(&order, Cupboard::builtin()).unwrap();
    fits(&plan);
    let water = task(&plan, "a/1/s0");
    assert!(water.hands_from - water.from > 3.0, "the kettle takes minutes: {water:?}");
    assert!(water.hands_to - water.hands_from < 2.0);
    let none = task(&plan, "a/1/s1");
    assert_eq!((none.hands_from, none.to, none.cook), (none.hands_to, none.from, None));
}

#[test]
fn long_waits_reach_back_through_weeks() {
    let two_weeks = drink(vec![
        add("pot", "ginger_root", "200 g"),
        add("pot", "spirit_40abv", "1 l"),
        stand("pot", 20_160.0, RestingPlace::Refrigerator),
        stand("pot", 20_160.0, RestingPlace::Refrigerator),
        strain("pot", "sieve", "jug", Press::Drained),
    ]);
    let order = Order {
        drinks: vec![Wanted {
            id: "a".into(),
            drink: two_weeks,
            serve_at: 0.0,
            water_bath: vec![],
        }],
        closed: nights(),
        ..Order::default()
    };
    let plan = plan(&order, Cupboard::builtin()).unwrap();
    assert!(plan.begins < -40_320.0 && plan.begins > -45_000.0, "{}", plan.begins);
    assert_sound(&order, &plan);
}

#[test]
fn handwork_longer_than_any_day_is_told() {
    let rubbed = Action::Macerate {
        vessel: "bowl".into(),
        minutes: 16.0 * 60.0,
        how: Maceration::Rubbed,
        place: RestingPlace::Worktop,
    };
    let order = Order {
        drinks: vec![Wanted {
            id: "a".into(),
            drink: drink(vec![add("bowl", "lemon_zest", "20 g"), rubbed]),
            serve_at: 0.0,
            water_bath: vec![],
        }],
        closed: nights(),
        ..Order::default()
    };
    let plan = plan_with_help(&order, Cupboard::builtin()).unwrap();
    let told = plan.troubles.iter().find(|t| t.stops).expect("no day has sixteen hours");
    assert!(told.message.contains("16 hours"), "{}", told.message);
}

/// What is put in the refrigerator to draw takes its room there, whether or not anything comes after it.
#[test]
fn what_stands_in_the_cold_to_the_end_needs_room_there() {
    let steps =
        vec![add("jug", "lime_whole", "350 g"), stand("jug", 600.0, RestingPlace::Refrigerator)];
    let order = |refrigerator_l| Order {
        drinks: vec![wanted("a", drink(steps.clone()), 0)],
        means: Means { cooks: 1, rings: 1, refrigerator_l },
        ..Order::default()
    };
    let full = plan(&order(0.0), Cupboard::builtin()).unwrap();
    let told: Vec<&Trouble> = full.troubles.iter().filter(|t| t.stops).collect();
    assert!(told.len() == 1 && told[0].message.contains("no room in the refrigerator"), "{told:?}");
    fits(&plan(&order(20.0), Cupboard::builtin()).unwrap());
}

#[test]
fn an_empty_order_says_so() {
    let fault = plan(&Order::default(), Cupboard::builtin()).unwrap_err();
    assert_eq!(fault.field, "drinks");
    let many = vec![wanted("a", demo("tamarind-cooler"), 0); 21];
    let fault = plan(&Order { drinks: many, ..Order::default() }, Cupboard::builtin()).unwrap_err();
    assert!(fault.message.contains("20"), "{}", fault.message);
    let nothing = Means { cooks: 0, rings: 99, refrigerator_l: f64::NAN };
    let fields: Vec<String> = nothing.check().into_iter().map(|f| f.field).collect();
    assert_eq!(fields, ["means.cooks", "means.rings", "means.refrigerator_l"]);
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, failure_persistence: None, ..Default::default() })]

    /// Any drinks in any kitchen: a plan, or a word why not; and what fits is sound.
    #[test]
    fn whatever_is_asked_for_is_planned_or_told(
        drinks in prop::collection::vec(any_drink(), 1..4),
        cooks in 1u32..4,
        rings in 0u32..4,
        litres in 0.0f64..60.0,
        serve in prop::collection::vec(-300.0f64..0.0, 4),
        owned in any::<bool>(),
    ) {
        let cupboard = if owned { fallow_lane() } else { Cupboard::builtin().clone() };
        let order = Order {
            drinks: drinks
                .into_iter()
                .zip(serve)
                .enumerate()
                .map(|(i, (drink, serve_at))| Wanted {
                    id: format!("d{i}"),
                    drink,
                    serve_at,
                    water_bath: vec![],
                })
                .collect(),
            means: Means { cooks, rings, refrigerator_l: litres },
            closed: nights(),
            ..Order::default()
        };
        let plan = match plan_with_help(&order, &cupboard) {
            Ok(plan) => plan,
            // Forty litres through a small sieve: that many goes are no plan.
            Err(fault) => {
                prop_assert!(fault.message.contains("tasks"), "{}", fault.message);
                return Ok(());
            }
        };
        prop_assert!(plan.begins.is_finite() && plan.ends.is_finite());
        if plan.troubles.iter().all(|t| !t.stops) {
            assert_sound(&order, &plan);
        }
    }
}

/// After which step something may stand for how long, minutes, and a word of why.
fn stands(drink: &Drink, step: &str) -> (f64, String) {
    let order = Order {
        drinks: vec![Wanted {
            id: "a".into(),
            drink: drink.clone(),
            serve_at: 0.0,
            water_bath: vec![],
        }],
        closed: nights(),
        ..Order::default()
    };
    let plan = plan(&order, Cupboard::builtin()).unwrap();
    let t = task(&plan, &format!("a/1/{step}"));
    (t.may_stand_until.unwrap() - t.to, t.why.clone().unwrap())
}

#[test]
fn how_long_things_may_stand_and_why() {
    let hot = |next: Action| {
        drink(vec![
            add("pot", "water", "1 l"),
            boil(0.0, true),
            next,
            stand("pot", 10.0, RestingPlace::Worktop),
        ])
    };
    let serving = |first: Action| {
        drink(vec![first, serve("jug", 2, "200 ml"), add("glass", "ice", "3 cubes")])
    };
    let cases = [
        (
            "boiled water that calyces go into",
            hot(add("pot", "hibiscus_dried", "30 g")),
            "s1",
            (5.0, 45.0),
            "needs it hot",
        ),
        (
            "calyces that draw in hot water",
            hot(add("pot", "hibiscus_dried", "30 g")),
            "s2",
            (0.5, 5.0),
            "steeping",
        ),
        ("a glass with ice", serving(add("jug", "water", "500 ml")), "s2", (10.0, 40.0), "melts"),
        (
            "milk on the worktop between two steps",
            drink(vec![
                add("bowl", "milk", "500 ml"),
                add("bowl", "white_sugar", "50 g"),
                serve("bowl", 2, "200 ml"),
            ]),
            "s1",
            (1000.0, 3000.0),
            "milk, which spoils first",
        ),
        (
            "cut melon in a blender",
            drink(vec![
                add("blender", "cantaloupe", "500 g"),
                add("blender", "water", "200 ml"),
                serve("blender", 2, "200 ml"),
            ]),
            "s0",
            (400.0, 800.0),
            "dries",
        ),
        (
            "lemon juice in a jug",
            drink(vec![
                squeeze("jug", "lemon_juice", "4 lemons"),
                add("jug", "water", "1 l"),
                serve("jug", 4, "200 ml"),
            ]),
            "s0",
            (1000.0, 1500.0),
            "the same day",
        ),
        (
            "a cold pitcher until it is poured out",
            drink(vec![
                add("jug", "water", "1 l"),
                add("jug", "white_sugar", "120 g"),
                chill("jug", 6.0),
                serve("jug", 4, "200 ml"),
            ]),
            "s2",
            (2000.0, 10_000.0),
            "spoils quickly",
        ),
    ];
    for (what, drink, step, (least, most), why) in cases {
        let (minutes, reason) = stands(&drink, step);
        assert!((least..=most).contains(&minutes), "{what}: {minutes} min, {reason}");
        assert!(reason.contains(why), "{what}: {reason}");
    }
}

/// A plan's tasks as they were planned up to `now`, each so many minutes late.
fn made(order: &Order, plan: &Plan, now: f64, late: impl Fn(usize) -> f64) -> Order {
    let mut facts: Vec<Fact> = Vec::new();
    for (i, t) in plan.tasks.iter().enumerate() {
        let (from, to) = (t.from + late(i), t.to + late(i));
        let drink = &order.drinks[t.drink].id;
        match facts.iter_mut().find(|f| f.drink == *drink && f.step == t.step) {
            // A batch says of all rounds of a step together that they were started, and are done.
            Some(other) => (other.from, other.to) = (other.from.min(from), other.to.max(to)),
            None => facts.push(Fact {
                drink: drink.clone(),
                step: t.step.clone(),
                from,
                to,
                done: false,
            }),
        }
    }
    facts.retain(|fact| fact.from < now);
    facts.iter_mut().for_each(|fact| fact.done = fact.to <= now);
    Order { facts: Some(facts), now: Some(now), ..order.clone() }
}

fn begins(plan: &Plan) -> Vec<(String, f64)> {
    plan.tasks.iter().map(|t| (t.id.clone(), t.from)).collect()
}

#[test]
fn what_is_made_as_planned_moves_nothing() {
    let (cupboard, order) = (fallow_lane(), open_day());
    let planned = plan(&order, &cupboard).unwrap();
    for now in [-150.0, -60.0, -20.0] {
        let followed = plan(&made(&order, &planned, now, |_| 0.0), &cupboard).unwrap();
        assert_eq!(begins(&followed), begins(&planned));
        assert!(followed.under_way && followed.later_by.is_none());
        assert!(followed.tasks.iter().all(|t| t.moved.is_none()));
        let state = |t: &PlannedTask| match (t.from < now, t.to <= now) {
            (_, true) => TaskState::Done,
            (true, false) => TaskState::Running,
            (false, false) => TaskState::Ahead,
        };
        assert!(followed.tasks.iter().all(|t| t.state == state(t)), "at {now}");
    }
}

#[test]
fn what_is_late_moves_what_comes_after_it_and_says_what_it_does_to_serving() {
    let cupboard = fallow_lane();
    let order = Order {
        drinks: vec![wanted("a", demo("hibiscus-and-bay-orange-cooler"), 8)],
        ..Order::default()
    };
    let planned = plan(&order, &cupboard).unwrap();
    let steep = planned.tasks.iter().find(|t| t.label == "steep").unwrap();
    // It was forgotten for forty minutes.
    let now = steep.to + 40.0;
    let mut late = made(&order, &planned, steep.to, |_| 0.0);
    late.now = Some(now);
    let followed = plan(&late, &cupboard).unwrap();
    assert_eq!(task(&followed, &steep.id).state, TaskState::Done);
    let ahead: Vec<_> = followed.tasks.iter().filter(|t| t.state == TaskState::Ahead).collect();
    assert!(!ahead.is_empty());
    for it in ahead {
        let by = it.from - task(&planned, &it.id).from;
        assert!(it.from >= now && (35.0..=40.5).contains(&by), "{} by {by}", it.id);
        assert!((it.moved.unwrap() - by).abs() < 0.1);
    }
    assert!((followed.ready[0] - 40.0).abs() < 5.0, "{}", followed.ready[0]);
    assert_eq!(followed.later_by, Some((followed.ready[0] / 5.0).ceil() * 5.0));
    // Five minutes less than the time to spare does nothing.
    let spare = Order { now: Some(steep.to + 0.4), ..late };
    assert_eq!(plan(&spare, &cupboard).unwrap().later_by, None);
}

#[test]
fn what_is_done_early_is_followed_before_it_stands_too_long() {
    let cupboard = fallow_lane();
    let mut drink = demo("hibiscus-and-bay-orange-cooler");
    let steeps = |step: &&mut Step| matches!(step.action, Action::Infuse { .. });
    drink.steps.iter_mut().find(steeps).unwrap().may_stand = Some(5.0);
    let order = Order { drinks: vec![wanted("a", drink, 8)], ..Order::default() };
    let planned = plan(&order, &cupboard).unwrap();
    let steep = planned.tasks.iter().find(|t| t.label == "steep").unwrap();
    let strain = planned.tasks.iter().find(|t| t.label == "strain").unwrap();
    let stands = steep.may_stand_until.unwrap() - steep.to;
    // It was ended at once, and the cook went away.
    let mut early = made(&order, &planned, steep.hands_to + 0.5, |_| 0.0);
    let facts = early.facts.as_mut().unwrap();
    let fact = facts.iter_mut().find(|f| f.step == steep.step).unwrap();
    (fact.to, fact.done) = (steep.hands_to + 0.4, true);
    let ended = fact.to;
    let followed = plan(&early, &cupboard).unwrap();
    let sooner = task(&followed, &strain.id);
    assert!(ended + stands < strain.from, "it would have been too long: {stands}");
    assert!((sooner.from - (ended + stands)).abs() < 0.1, "{} {ended} {stands}", sooner.from);
    assert!((sooner.moved.unwrap() - (sooner.from - strain.from)).abs() < 0.1);
    assert_eq!(followed.later_by, None);
    // What can wait for its time waits.
    let last = |plan: &Plan| plan.tasks.iter().map(|t| t.from).fold(f64::MIN, f64::max);
    assert_eq!(last(&followed), last(&planned));
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, failure_persistence: None, ..Default::default() })]

    /// Whatever was late, what is yet to come is neither in the past nor in two places at once.
    #[test]
    fn what_is_yet_to_come_can_be_done(
        now in -200.0..-5.0f64,
        late in prop::collection::vec(prop_oneof![3 => Just(0.0), 1 => 0.0..50.0f64], 120),
    ) {
        let (cupboard, mut order) = (fallow_lane(), open_day());
        order.drinks.truncate(3);
        order.means = Means { cooks: 1, rings: 1, refrigerator_l: 40.0 };
        let planned = plan(&order, &cupboard).unwrap();
        let followed = plan(&made(&order, &planned, now, |i| late[i]), &cupboard).unwrap();
        assert_can_be_done(&order, &followed);
        for it in followed.tasks.iter().filter(|t| t.state == TaskState::Ahead) {
            prop_assert!(it.from >= now - 0.02);
        }
        for drink in 0..order.drinks.len() {
            let last = followed.tasks.iter().filter(|t| t.drink == drink).map(|t| t.to);
            prop_assert_eq!(followed.ready[drink], last.fold(f64::NEG_INFINITY, f64::max));
        }
    }
}
