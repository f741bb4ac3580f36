//! What practice says beside what the model says. The table stands in docs/model.md; this prints it and
//! checks that each figure lies where practice has it, and that the table is the one that is printed.

use crate::common::{add, boil, chill, drink, run, serve, squeeze, stand, strain};
use keen_core::chemistry::Component;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{
    Action, CoolingPlace, Cut, Dissolving, Maceration, Press, Reduction, RestingPlace, Stirring,
    Vigour, Warmth,
};
use keen_core::keep::Keeping;
use keen_core::trace::{Contents, Trace};

struct Figure {
    what: &'static str,
    unit: &'static str,
    practice: (f64, f64),
    model: f64,
    why: &'static str,
}

fn trace(actions: Vec<Action>) -> (keen_core::drink::Drink, Trace) {
    let drink = drink(actions);
    let trace = run(&drink);
    (drink, trace)
}

fn end(actions: Vec<Action>, vessel: &str) -> Contents {
    let (drink, trace) = trace(actions);
    trace.last(drink.vessel(vessel).unwrap()).unwrap().1.clone()
}

fn minutes(actions: Vec<Action>) -> f64 {
    trace(actions).1.frames.last().unwrap().minutes.0
}

fn steam(actions: Vec<Action>) -> f64 {
    trace(actions).1.frames.last().unwrap().gone[Component::Water]
}

fn cool(to_c: f64, place: CoolingPlace, covered: bool) -> Action {
    Action::Cool { vessel: "pot".into(), to_c, place, covered }
}

fn infusion(id: &str, amount: &str) -> f64 {
    let actions = vec![
        add("pot", "water", "1 l"),
        boil(0.0, true),
        add("pot", id, amount),
        stand("pot", 10.0, RestingPlace::Worktop),
    ];
    end(actions, "pot").liquid.ph().unwrap()
}

/// What stays in a sieve of so much fruit, as a share of its weight; the sieve's own film left out.
fn stays(id: &str, cooked: bool, blended: bool, press: Press) -> f64 {
    let vessel = if cooked { "pot" } else { "blender" };
    let mut actions = vec![add(vessel, id, "500 g"), add(vessel, "water", "300 g")];
    if cooked {
        actions.push(boil(15.0, true));
    }
    if blended {
        actions.push(Action::Blend { vessel: vessel.into(), seconds: 10.0 });
    }
    actions.push(strain(vessel, "sieve", "pitcher", press));
    (end(actions, "sieve").mass().0 - 4.0) / 500.0
}

fn macerated(fruit: &str, sugar: &str, minutes: f64, place: RestingPlace) -> Contents {
    let how = Maceration::Left;
    let left = Action::Macerate { vessel: "bowl".into(), minutes, how, place };
    end(vec![add("bowl", fruit, "400 g"), add("bowl", "white_sugar", sugar), left], "bowl")
}

/// Left open on the worktop.
fn open(vessel: &str, minutes: f64) -> Action {
    let place = RestingPlace::Worktop;
    Action::Infuse { vessel: vessel.into(), minutes, place, covered: false }
}

fn fizz(actions: Vec<Action>) -> f64 {
    let jug = end(actions, "jug");
    jug.liquid[Component::CarbonDioxide] / 1.976 / jug.liquid_volume().0 * 1000.0
}

fn figures() -> Vec<Figure> {
    let two_litres = || {
        let to_c = 99.0;
        let heat = Action::Heat {
            vessel: "pot".into(),
            to_c,
            minutes: 0.0,
            lid: true,
            until_clear: false,
        };
        vec![add("pot", "water", "2 kg"), heat]
    };
    let then = |mut actions: Vec<Action>, more: Action| {
        actions.push(more);
        actions
    };
    let litre = || vec![add("pot", "water", "1 kg")];
    let soda = || vec![add("jug", "club_soda", "1 l")];
    let stir = Action::Stir { vessel: "jug".into(), until: Stirring::Mixed };
    let syrup = |brix: f64| {
        let to = Reduction::Brix(brix);
        let reduce = Action::Reduce { vessel: "pot".into(), to, how: Vigour::Boil };
        end(vec![add("pot", "white_sugar", "500 g"), add("pot", "water", "500 g"), reduce], "pot")
    };
    let lemons = |id: &str, amount: &str| end(vec![add("bowl", id, amount)], "bowl").mass().0;
    let juice = end(vec![squeeze("jug", "lemon_juice", "6 lemons")], "jug");
    let hibiscus = end(
        vec![
            add("pot", "water", "1 kg"),
            boil(0.0, true),
            add("pot", "hibiscus_dried", "40 g"),
            stand("pot", 15.0, RestingPlace::Worktop),
            strain("pot", "sieve", "pitcher", Press::Drained),
        ],
        "pitcher",
    );
    let iced = end(
        vec![
            add("pitcher", "simple_syrup_1_1", "200 ml"),
            add("pitcher", "lemon_juice", "200 ml"),
            add("pitcher", "water", "900 ml"),
            chill("pitcher", 7.0),
            add("glass", "ice", "3 cubes"),
            serve("pitcher", 6, "200 ml"),
        ],
        "glass",
    );
    let days = |actions: Vec<Action>| {
        let (drink, trace) = trace(actions);
        f64::from(Keeping::of(&drink, Cupboard::builtin(), &trace).unwrap().days)
    };
    let zest = trace(vec![add("bowl", "lemon_zest", "3 lemons")]).1.frames[0].hands_on.0;
    let peels = macerated("lemon_peel", "400 g", 720.0, RestingPlace::Worktop);
    let worktop = CoolingPlace::Worktop;
    let f = |what, unit, low, high, model, why| Figure {
        what,
        unit,
        practice: (low, high),
        model,
        why,
    };
    vec![
        f(
            "a litre of tap water to the boil",
            "min",
            5.0,
            8.0,
            minutes(then(litre(), boil(0.0, true))),
            "a burner of 2 kW, half of which gets into the pot",
        ),
        f(
            "two litres, open, two hours from the boil: steam",
            "g",
            80.0,
            130.0,
            steam(then(two_litres(), open("pot", 120.0))),
            "weighed in kitchens",
        ),
        f(
            "two litres, open, from the boil to 25 °C: steam",
            "g",
            80.0,
            120.0,
            steam(then(two_litres(), cool(25.0, worktop, false))),
            "4 to 6 %, weighed in kitchens",
        ),
        f(
            "two litres from the boil to 30 °C, covered, on the worktop",
            "h",
            3.0,
            7.0,
            minutes(then(two_litres(), cool(30.0, worktop, true))) / 60.0,
            "kitchen practice",
        ),
        f(
            "two litres from the boil to 30 °C in cold water",
            "min",
            15.0,
            40.0,
            minutes(then(two_litres(), cool(30.0, CoolingPlace::WaterBath, true))),
            "kitchen practice: half an hour, changed once or twice",
        ),
        f(
            "a litre and a half at room temperature to 7 °C in the refrigerator",
            "h",
            2.5,
            6.0,
            minutes(vec![add("pitcher", "water", "1.5 l"), chill("pitcher", 7.0)]) / 60.0,
            "kitchen practice: an afternoon",
        ),
        f(
            "boiled syrup of 65 °Bx boils at",
            "°C",
            103.8,
            104.6,
            syrup(65.0).temperature.0,
            "sugar tables",
        ),
        f(
            "sugar that a syrup of 70 °Bx has for each gram of water",
            "g",
            2.3,
            2.4,
            syrup(70.0).liquid.sugars().0 / syrup(70.0).liquid[Component::Water],
            "its definition",
        ),
        f(
            "ginger, 100 g in a litre: pH",
            "",
            5.4,
            6.5,
            infusion("ginger_root", "100 g"),
            "literature",
        ),
        f("mint, 30 g in a litre: pH", "", 5.6, 6.9, infusion("mint", "30 g"), "literature"),
        f(
            "rose petals, 40 g in a litre: pH",
            "",
            4.9,
            6.2,
            infusion("rose_petals", "40 g"),
            "literature",
        ),
        f(
            "lemon zest, 10 g in a litre: pH",
            "",
            4.4,
            5.8,
            infusion("lemon_zest", "10 g"),
            "estimate from measured peel",
        ),
        f(
            "dried hibiscus, 40 g in a litre: pH",
            "",
            2.2,
            2.7,
            infusion("hibiscus_dried", "40 g"),
            "literature",
        ),
        f(
            "black tea, 10 g in a litre: pH",
            "",
            4.8,
            5.6,
            infusion("black_tea", "10 g"),
            "literature",
        ),
        f(
            "hibiscus, 40 g in a litre, drained: what runs off",
            "g",
            700.0,
            780.0,
            hibiscus.liquid.mass().0,
            "each gram drinks 5 to 7",
        ),
        f(
            "cooked raspberries, pressed: stays behind, of their weight",
            "",
            0.2,
            0.33,
            stays("raspberry", true, false, Press::Pressed),
            "jelly makers press two thirds to four fifths out",
        ),
        f(
            "cooked cherries, pressed: stays behind",
            "",
            0.2,
            0.35,
            stays("sour_cherry", true, false, Press::Pressed),
            "as berries",
        ),
        f(
            "blended cucumber, fine sieve: stays behind",
            "",
            0.08,
            0.2,
            stays("cucumber", false, true, Press::Drained),
            "kitchen practice: a tenth to a fifth",
        ),
        f(
            "blended melon, fine sieve: stays behind",
            "",
            0.08,
            0.2,
            stays("cantaloupe", false, true, Press::Drained),
            "kitchen practice: a tenth to a fifth",
        ),
        f(
            "blended whole limes, fine sieve: stays behind",
            "",
            0.35,
            0.52,
            stays("lime_whole", false, true, Press::Drained),
            "kitchen practice: near half",
        ),
        f(
            "strawberries, four hours under half their sugar, cold: drawn",
            "",
            0.25,
            0.5,
            macerated("strawberry", "200 g", 240.0, RestingPlace::Refrigerator).pieces[0].drawn,
            "kitchen practice",
        ),
        f(
            "strawberries, a day under half their sugar, cold: drawn",
            "",
            0.45,
            0.65,
            macerated("strawberry", "200 g", 1440.0, RestingPlace::Refrigerator).pieces[0].drawn,
            "kitchen practice",
        ),
        f(
            "lemon peel, twelve hours under its weight of sugar: still dry, of the sugar",
            "",
            0.05,
            0.35,
            peels.undissolved().0 / 400.0,
            "mostly liquefied overnight",
        ),
        f("six lemons, reamed", "ml", 240.0, 300.0, juice.liquid_volume().0, "40 to 50 ml each"),
        f(
            "the zest of a lemon",
            "g",
            3.0,
            7.0,
            lemons("lemon_zest", "1 lemon"),
            "a tablespoon is 6 g",
        ),
        f(
            "four whole limes",
            "g",
            240.0,
            320.0,
            lemons("lime_whole", "4 limes"),
            "60 to 80 g each",
        ),
        f(
            "the zest of three lemons by a practised hand",
            "min",
            3.0,
            6.0,
            zest,
            "kitchen practice: four",
        ),
        f(
            "soda as it is opened and poured: fizz",
            "vol",
            2.5,
            3.2,
            fizz(soda()),
            "3.7 in the bottle; 15 to 40 % is lost",
        ),
        f("soda, stirred: fizz", "vol", 1.1, 1.9, fizz(then(soda(), stir)), "half goes"),
        f(
            "soda, an hour open at room temperature: fizz",
            "vol",
            0.5,
            1.9,
            fizz(then(soda(), open("jug", 60.0))),
            "flat by then to most",
        ),
        f(
            "a glass of lemonade on three cubes: temperature",
            "°C",
            0.0,
            3.0,
            iced.temperature.0,
            "an iced drink",
        ),
        f(
            "a glass of lemonade on three cubes: ice that is left",
            "g",
            33.0,
            58.0,
            iced.ice_mass().0,
            "chilled first, in a glass as warm as the kitchen: more than half of it stays",
        ),
        f(
            "fresh lemonade keeps",
            "days",
            2.0,
            4.0,
            days(vec![
                squeeze("jug", "lemon_juice", "4 lemons"),
                add("jug", "white_sugar", "100 g"),
                add("jug", "water", "800 g"),
            ]),
            "food-safety advice",
        ),
        f(
            "a boiled syrup of 60 °Bx keeps",
            "days",
            14.0,
            42.0,
            days(vec![
                add("pot", "white_sugar", "600 g"),
                add("pot", "water", "420 g"),
                boil(3.0, true),
            ]),
            "food-safety advice; without acid on the careful side",
        ),
    ]
    .into_iter()
    .chain(more_figures())
    .collect()
}

/// The pH of so much of something, alone or in a litre of water.
fn ph(id: &str, amount: &str, in_water: bool) -> f64 {
    let mut actions = vec![add("jug", id, amount)];
    if in_water {
        actions.insert(0, add("jug", "water", "1 l"));
    }
    end(actions, "jug").liquid.ph().unwrap()
}

/// What comes in boiling.
fn boiling(vessel: &str, amount: &str) -> Action {
    Action::Add {
        into: vessel.into(),
        ingredient: "water".into(),
        amount: amount.parse().unwrap(),
        warmth: Warmth::Boiling,
        cut: Cut::Usual,
        portions: 1,
    }
}

/// What runs through a fine sieve of so much fruit, blended.
fn juice_of(id: &str, amount: &str) -> f64 {
    let blend = Action::Blend { vessel: "blender".into(), seconds: 30.0 };
    let through = strain("blender", "sieve", "jug", Press::Pressed);
    end(vec![add("blender", id, amount), blend, through], "jug").mass().0
}

fn more_figures() -> Vec<Figure> {
    let f = |what, unit, practice, model, why| Figure { what, unit, practice, model, why };
    let days = 1440.0;
    let honey = end(
        vec![
            add("bowl", "ginger_root", "200 g"),
            add("bowl", "honey", "400 g"),
            stand("bowl", 14.0 * days, RestingPlace::Worktop),
        ],
        "bowl",
    );
    let cooked = end(
        vec![
            add("pot", "strawberry", "500 g"),
            add("pot", "white_sugar", "500 g"),
            add("pot", "water", "150 g"),
            boil(30.0, true),
        ],
        "pot",
    );
    let syrup = end(vec![add("jug", "simple_syrup_1_1", "1 kg")], "jug");
    let saturated = |grams: &str| {
        let stir = Action::Dissolve { vessel: "jug".into(), how: Dissolving::Stirred };
        let jug =
            end(vec![add("jug", "water", "1 kg"), add("jug", "white_sugar", grams), stir], "jug");
        jug.liquid.soluble_solids()
    };
    let rice = end(
        vec![
            add("jug", "water", "1 l"),
            add("jug", "rice_white", "200 g"),
            stand("jug", 8.0 * 60.0, RestingPlace::Refrigerator),
            strain("jug", "sieve", "pitcher", Press::Drained),
        ],
        "pitcher",
    );
    let iced = end(vec![add("glass", "water", "200 g"), add("glass", "ice", "100 g")], "glass");
    let to_c = |place, vessel: &str, start: Action, to_c| {
        let cool = Action::Cool { vessel: vessel.into(), to_c, place, covered: true };
        minutes(vec![start, cool])
    };
    let ginger = {
        let blend = Action::Blend { vessel: "blender".into(), seconds: 30.0 };
        let through = strain("blender", "cloth", "jug", Press::Pressed);
        let parts = vec![add("blender", "ginger_root", "200 g"), add("blender", "water", "400 g")];
        let cloth = end([parts, vec![blend, through]].concat(), "cloth");
        (cloth.mass().0 - 18.0) / 200.0
    };
    let chia = {
        let through = strain("jug", "sieve", "pitcher", Press::Drained);
        let hour = stand("jug", 60.0, RestingPlace::Worktop);
        let parts = vec![add("jug", "water", "600 g"), add("jug", "chia_seed", "30 g")];
        let sieve = end([parts, vec![hour, through]].concat(), "sieve");
        (sieve.mass().0 - 4.0 - 30.0) / 30.0
    };
    let sour_milk = {
        let parts = vec![add("jug", "milk", "1 l"), add("jug", "citric_acid", "3 g")];
        end(parts, "jug").liquid.ph().unwrap()
    };
    let boiled_down = {
        let to = Reduction::Brix(65.0);
        let reduce = Action::Reduce { vessel: "pot".into(), to, how: Vigour::Boil };
        end(vec![add("pot", "apple_juice", "1 kg"), reduce], "pot").mass().0
    };
    let six_cups = vec![
        add("pitcher", "water", "1.2 l"),
        squeeze("pitcher", "lemon_juice", "6 lemons"),
        add("pitcher", "white_sugar", "1 cup"),
    ];
    let lemonade = end(six_cups, "pitcher");
    vec![
        f(
            "ginger, two weeks in twice its weight of honey: the honey",
            "°Bx",
            (57.0, 64.0),
            honey.liquid.soluble_solids(),
            "water and sugar of both, shared out",
        ),
        f(
            "strawberries, half an hour at a simmer in their weight of sugar: the syrup",
            "°Bx",
            (44.0, 52.0),
            cooked.liquid.soluble_solids(),
            "fruit and syrup end alike: 50 by weight",
        ),
        f(
            "baking soda, 1 g in a litre: pH",
            "",
            (8.0, 8.5),
            ph("sodium_bicarbonate", "1 g", true),
            "textbook: half of pK1 + pK2",
        ),
        f("milk: pH", "", (6.5, 6.8), ph("milk", "1 l", false), "dairy handbooks"),
        f(
            "milk with 3 g of citric acid in a litre: pH",
            "",
            (5.0, 5.5),
            sour_milk,
            "casein and phosphate hold it",
        ),
        f("yogurt: pH", "", (4.0, 4.6), ph("yogurt", "500 g", false), "dairy handbooks"),
        f(
            "lemon juice: pH",
            "",
            (2.2, 2.6),
            ph("lemon_juice", "200 g", false),
            "FDA list of acidified foods",
        ),
        f(
            "lime juice: pH",
            "",
            (2.0, 2.6),
            ph("lime_juice", "200 g", false),
            "FDA list of acidified foods",
        ),
        f(
            "orange juice: pH",
            "",
            (3.3, 4.2),
            ph("orange_juice", "200 g", false),
            "FDA list of acidified foods",
        ),
        f(
            "apple juice: pH",
            "",
            (3.3, 4.0),
            ph("apple_juice", "200 g", false),
            "FDA list of acidified foods",
        ),
        f("coconut water: pH", "", (4.7, 5.7), ph("coconut_water", "200 g", false), "literature"),
        f(
            "distilled vinegar: pH",
            "",
            (2.3, 2.8),
            ph("distilled_vinegar", "100 g", false),
            "5 % acetic acid",
        ),
        f(
            "citric acid, 5 g in a litre: pH",
            "",
            (2.3, 2.5),
            ph("citric_acid", "5 g", true),
            "tables of acids",
        ),
        f(
            "lemonade of six lemons and a cup of sugar: sugar",
            "°Bx",
            (11.0, 13.5),
            lemonade.liquid.soluble_solids(),
            "200 g in 1.7 kg",
        ),
        f(
            "lemonade of six lemons and a cup of sugar: pH",
            "",
            (2.3, 2.9),
            lemonade.liquid.ph().unwrap(),
            "measured lemonades",
        ),
        f(
            "syrup of equal weights: a litre weighs",
            "kg",
            (1.225, 1.235),
            syrup.mass().0 / syrup.liquid.volume(keen_core::trace::MEASURED_AT).0,
            "sugar tables: 1.230",
        ),
        f(
            "sugar that water at room temperature takes",
            "°Bx",
            (66.0, 68.0),
            saturated("3 kg"),
            "sugar tables: 67",
        ),
        f(
            "a kilogram of apple juice, boiled down to 65 °Bx",
            "g",
            (150.0, 190.0),
            boiled_down,
            "11 °Bx, by its sugar",
        ),
        f(
            "rice, eight hours in five times its water: dissolved",
            "°Bx",
            (0.0, 1.5),
            rice.liquid.soluble_solids(),
            "starch is grain, and settles",
        ),
        f(
            "a litre at the boil in a cold glass jug",
            "°C",
            (86.0, 91.0),
            end(vec![boiling("jug", "1 l")], "jug").temperature.0,
            "a jug of 900 g takes 10 to 12 K",
        ),
        f(
            "a glass of tap water with half its weight of ice: melts",
            "g",
            (55.0, 85.0),
            100.0 - iced.ice_mass().0,
            "a tumbler gives 15 g more than the water",
        ),
        f(
            "a litre from room temperature to 8 °C in the refrigerator",
            "h",
            (2.0, 5.5),
            to_c(CoolingPlace::Refrigerator, "pitcher", add("pitcher", "water", "1 l"), 8.0) / 60.0,
            "kitchen practice: an afternoon",
        ),
        f(
            "a litre from room temperature to 8 °C in the freezer",
            "min",
            (35.0, 100.0),
            to_c(CoolingPlace::Freezer, "pitcher", add("pitcher", "water", "1 l"), 8.0),
            "kitchen practice: an hour",
        ),
        f(
            "ginger, blended with water and pressed in a cloth: stays behind",
            "",
            (0.35, 0.6),
            ginger,
            "fibre and what it holds",
        ),
        f(
            "chia, an hour in water: held by a gram",
            "g",
            (7.0, 12.0),
            chia,
            "literature: 10 to 12 g; cold, an hour, somewhat less",
        ),
        f(
            "a kilogram of watermelon, blended and sieved: juice",
            "g",
            (800.0, 960.0),
            juice_of("watermelon", "1 kg"),
            "kitchen practice",
        ),
        f(
            "a kilogram of pineapple, blended and sieved: juice",
            "g",
            (600.0, 850.0),
            juice_of("pineapple", "1 kg"),
            "kitchen practice",
        ),
    ]
}

/// A figure to two or three digits, as one would say it.
fn said(value: f64) -> String {
    match value.abs() {
        v if v >= 100.0 => format!("{value:.0}"),
        v if v >= 10.0 => format!("{value:.1}"),
        _ => format!("{value:.2}"),
    }
}

#[test]
fn the_model_says_what_practice_says() {
    let figures = figures();
    assert!(figures.len() >= 50);
    let mut table =
        String::from("| figure | practice says | the model says | why |\n|---|---|---|---|\n");
    for f in &figures {
        let unit = if f.unit.is_empty() { String::new() } else { format!(" {}", f.unit) };
        let practice = format!("{} to {}{unit}", said(f.practice.0), said(f.practice.1));
        table += &format!("| {} | {practice} | {}{unit} | {} |\n", f.what, said(f.model), f.why);
    }
    println!("{table}");
    for f in &figures {
        let (low, high) = f.practice;
        assert!((low..=high).contains(&f.model), "{}: {} {}", f.what, f.model, f.unit);
    }
    let docs = concat!(env!("CARGO_MANIFEST_DIR"), "/../../../docs/model.md");
    let docs = std::fs::read_to_string(docs).unwrap();
    assert!(docs.contains(&table), "docs/model.md has another table; put the printed one there");
}
