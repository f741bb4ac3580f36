//! What practised makers know, against what the model says.

use crate::common::{
    add, boil, drink, kinds, kitchen, last, pour, run, serve, squeeze, stand, strain, vessel,
};
use keen_core::balance::Profile;
use keen_core::chance::spread;
use keen_core::chemistry::{Component, Mixture};
use keen_core::cupboard::{Cupboard, Form, VesselKind};
use keen_core::drink::{
    Action, Cut, Drink, Maceration, Portion, Press, Reduction, RestingPlace, Stirring, Vigour,
    Warmth,
};
use keen_core::keep::{CautionKind, Class, Keeping, cautions};
use keen_core::quantity::Amount;
use keen_core::scale::{Size, resize};
use keen_core::trace::{Contents, MEASURED_AT, NoticeKind};
use rand::SeedableRng;
use rand::rngs::StdRng;

fn end_of(actions: Vec<Action>, vessel: &str) -> Contents {
    let drink = drink(actions);
    last(&drink, &run(&drink), vessel).clone()
}

fn said(actions: Vec<Action>) -> Vec<NoticeKind> {
    kinds(&run(&drink(actions)))
}

fn keeping(actions: Vec<Action>) -> Option<Keeping> {
    let drink = drink(actions);
    Keeping::of(&drink, Cupboard::builtin(), &run(&drink))
}

/// An infusion of 20 g of what is dry or 100 g of what is fresh in a litre, drawn hot; a syrup of it with
/// as much sugar as water.
fn steeped(id: &str, with_sugar: bool) -> Option<f64> {
    let it = Cupboard::builtin().ingredient(id).unwrap();
    let fresh = it.per_gram[Component::Water] > 0.4 || it.form == Form::Liquid;
    let mut actions =
        vec![add("pot", "water", "1 l"), add("pot", id, if fresh { "100 g" } else { "20 g" })];
    if with_sugar {
        actions.push(add("pot", "white_sugar", "1 kg"));
    }
    actions.push(boil(10.0, true));
    end_of(actions, "pot").liquid.ph()
}

#[test]
fn every_ingredient_has_the_ph_that_it_is_known_for() {
    let cupboard = Cupboard::builtin();
    let mut with_range = 0;
    for it in cupboard.ingredients() {
        if let Some(range) = it.ph {
            let found = it.per_gram.ph().unwrap();
            assert!((range.low..=range.high).contains(&found), "{}: pH {found:.2}", it.id);
        }
        let Some(range) = it.infusion_ph else { continue };
        with_range += 1;
        for with_sugar in [false, true] {
            let found = steeped(&it.id, with_sugar).unwrap();
            // Sugar moves a pH by less than 0.2.
            let slack = if with_sugar { 0.2 } else { 0.0 };
            assert!(
                (range.low - slack..=range.high + slack).contains(&found),
                "{} in water, sugar {with_sugar}: pH {found:.2}, known {range:?}",
                it.id
            );
        }
        assert!(it.sources.iter().any(|s| s.of == "pH"), "{} doesn't say whence", it.id);
    }
    assert!(with_range > 110, "{with_range}");
}

#[test]
fn petals_steep_near_neutral_and_lemon_brings_the_red_back() {
    let petals = |lemon: &str| {
        let mut actions = vec![
            add("pot", "water", "500 g"),
            boil(0.0, true),
            add("pot", "rose_petals", "60 g"),
            stand("pot", 20.0, RestingPlace::Worktop),
        ];
        if !lemon.is_empty() {
            actions.push(add("pot", "lemon_juice", lemon));
        }
        end_of(actions, "pot").liquid
    };
    let (plain, sour) = (petals(""), petals("30 g"));
    assert!(plain.ph().unwrap() > 4.9, "{:?}", plain.ph());
    assert!(sour.ph().unwrap() < 3.2, "{:?}", sour.ph());
    let red = |m: &Mixture| f64::from(m.colour().0) / f64::from(m.colour().1.max(m.colour().2));
    assert!(red(&sour) > 1.12 * red(&plain), "{} and {}", plain.colour(), sour.colour());
}

/// Simmered berries, pressed: a fifth to a third of their weight stays in the sieve.
#[test]
fn cooked_berries_give_up_their_juice() {
    for berry in ["raspberry", "blackcurrant", "strawberry", "blueberry", "blackberry"] {
        let drink = drink(vec![
            add("pot", berry, "500 g"),
            add("pot", "water", "200 g"),
            boil(15.0, true),
            strain("pot", "sieve", "pitcher", Press::Pressed),
        ]);
        let trace = run(&drink);
        let stays = trace.last(drink.vessel("sieve").unwrap()).unwrap().1.mass().0 / 500.0;
        assert!((0.18..0.34).contains(&stays), "{berry}: {stays}");
        let it = Cupboard::builtin().ingredient(berry).unwrap();
        let given = trace.last(drink.vessel("pitcher").unwrap()).unwrap().1.liquid.sugars().0;
        let share = given / (500.0 * it.per_gram.sugars().0);
        assert!((0.7..0.95).contains(&share), "{berry}: {share} of its sugar");
    }
}

#[test]
fn berries_and_sugar_without_water_collapse_into_syrup() {
    let hot = end_of(
        vec![
            add("pot", "raspberry", "500 g"),
            add("pot", "white_sugar", "500 g"),
            boil(10.0, true),
        ],
        "pot",
    );
    assert!(hot.liquid_volume().0 > 500.0, "{:?}", hot.liquid_volume());
    assert!(hot.undissolved().0 < 1.0);
    let cold = end_of(
        vec![
            add("bowl", "strawberry", "500 g"),
            add("bowl", "white_sugar", "250 g"),
            Action::Macerate {
                vessel: "bowl".into(),
                minutes: 720.0,
                how: Maceration::Left,
                place: RestingPlace::Refrigerator,
            },
        ],
        "bowl",
    );
    assert!(cold.liquid_volume().0 > 250.0, "{:?}", cold.liquid_volume());
    let frozen = end_of(
        vec![
            Action::Add {
                into: "bowl".into(),
                ingredient: "strawberry".into(),
                amount: "500 g".parse().unwrap(),
                warmth: Warmth::Frozen,
                cut: Cut::Usual,
                portions: 1,
            },
            stand("bowl", 600.0, RestingPlace::Worktop),
        ],
        "bowl",
    );
    // By themselves thawed strawberries run out by a third to a half of their weight.
    let run_out = frozen.liquid.mass().0 / 500.0;
    assert!((0.3..0.55).contains(&run_out), "{run_out}");
}

/// A tenth to a fifth of a cucumber, near half of whole limes.
#[test]
fn blended_fruit_leaves_its_pulp_in_the_sieve() {
    let stays = |id: &str| {
        let drink = drink(vec![
            add("blender", id, "400 g"),
            add("blender", "water", "600 g"),
            Action::Blend { vessel: "blender".into(), seconds: 10.0 },
            strain("blender", "sieve", "pitcher", Press::Drained),
        ]);
        let trace = run(&drink);
        (trace.last(drink.vessel("sieve").unwrap()).unwrap().1.mass().0 - 4.0) / 400.0
    };
    assert!((0.08..0.2).contains(&stays("cucumber")), "{}", stays("cucumber"));
    assert!((0.08..0.2).contains(&stays("cantaloupe")), "{}", stays("cantaloupe"));
    let limes = stays("lime_whole");
    assert!((0.38..0.55).contains(&limes), "{limes}");
    let four = Cupboard::builtin().ingredient("lime_whole").unwrap();
    let four = Cupboard::builtin().weigh(four, &"4 limes".parse().unwrap()).unwrap().grams.0;
    assert!((four - 280.0).abs() < 1.0, "{four}");
}

#[test]
fn boiling_down_arrives_or_says_that_it_does_not() {
    let down = |sugar: &str, water: &str, to: Reduction| {
        let how = Vigour::Boil;
        let drink = drink(vec![
            add("pot", "white_sugar", sugar),
            add("pot", "water", water),
            Action::Reduce { vessel: "pot".into(), to, how },
        ]);
        let trace = run(&drink);
        let kinds: Vec<NoticeKind> = trace.frames[2].notices.iter().map(|n| n.kind).collect();
        (trace.last(0).unwrap().1.liquid.soluble_solids(), kinds)
    };
    for (sugar, water, to) in [("100 g", "900 g", 65.0), ("150 g", "850 g", 70.0)] {
        let (brix, said) = down(sugar, water, Reduction::Brix(to));
        assert!((brix - to).abs() < 0.1, "{brix}");
        assert_eq!(said, []);
    }
    let nothing: Amount = "20 ml".parse().unwrap();
    let (brix, said) = down("100 g", "900 g", Reduction::Volume(nothing.clone()));
    assert!((86.0..90.0).contains(&brix), "{brix}");
    assert_eq!(said, [NoticeKind::TooThick]);
    let (_, said) = down("0.001 g", "900 g", Reduction::Brix(30.0));
    assert_eq!(said, [NoticeKind::TooThick]);
}

#[test]
fn a_pot_that_boils_dry_is_taken_off_and_is_no_drink() {
    let dry = || {
        vec![
            add("pot", "water", "300 g"),
            add("pot", "vanilla_extract", "2 tsp"),
            Action::Boil { vessel: "pot".into(), minutes: 120.0, how: Vigour::Boil, lid: false },
        ]
    };
    let trace = run(&drink(dry()));
    assert!(trace.frames[2].minutes.0 < 60.0, "{:?}", trace.frames[2].minutes);
    assert_eq!(said(dry()), [NoticeKind::BoilsDry]);
    assert_eq!(keeping(dry()), None);
    let left = trace.last(0).unwrap().1;
    assert!(left.liquid.alcohol_percent() < 1.0, "{}", left.liquid.alcohol_percent());
}

#[test]
fn milk_is_where_milk_is_and_spirit_where_it_keeps() {
    let cook =
        |id: &str| vec![add("pot", "water", "300 g"), add("pot", id, "300 g"), boil(5.0, true)];
    for fruit in ["raspberry", "blackcurrant", "passion_fruit_pulp"] {
        let class = keeping(cook(fruit)).unwrap().class;
        assert!(!matches!(class, Class::Dairy | Class::PlantMilk), "{fruit}: {class:?}");
    }
    let mix = |parts: &[(&str, &str)]| {
        keeping(parts.iter().map(|(id, amount)| add("jug", id, amount)).collect()).unwrap().class
    };
    assert_eq!(mix(&[("spirit_40abv", "300 g"), ("condensed_milk_sweet", "300 g")]), Class::Dairy);
    assert_eq!(mix(&[("spirit_40abv", "300 g"), ("water", "100 g")]), Class::Spirit);
    assert_ne!(mix(&[("spirit_40abv", "100 g"), ("water", "300 g")]), Class::Spirit);
    assert_eq!(mix(&[("oat_drink", "300 g"), ("water", "100 g")]), Class::PlantMilk);
}

#[test]
fn sour_enough_is_said_of_known_acid_only() {
    let sour = |acid: Action, water: &str| {
        keeping(vec![
            add("pot", "water", water),
            add("pot", "white_sugar", "60 g"),
            acid,
            boil(5.0, true),
        ])
        .unwrap()
        .reasons
        .iter()
        .any(|r| r.contains("Its acidity"))
    };
    assert!(sour(add("pot", "lemon_juice", "60 g"), "600 g"));
    assert!(!sour(add("pot", "hibiscus_dried", "20 g"), "600 g"), "what is drawn is estimated");
    assert!(!sour(add("pot", "verjus", "200 g"), "600 g"), "so is this row");
}

#[test]
fn a_sour_syrup_may_cool_on_the_worktop_and_a_large_pot_counts_in_the_cold() {
    let syrup = vec![
        add("pot", "white_sugar", "600 g"),
        add("pot", "water", "400 g"),
        add("pot", "lemon_juice", "200 g"),
        boil(5.0, true),
        stand("pot", 600.0, RestingPlace::Worktop),
    ];
    assert_eq!(said(syrup), []);
    let warm = |amount: &str, capacity: &str| {
        let mut drink = drink(vec![
            add("pot", "water", amount),
            add("pot", "hibiscus_dried", "40 g"),
            boil(5.0, true),
            Action::Infuse {
                vessel: "pot".into(),
                minutes: 1200.0,
                place: RestingPlace::Refrigerator,
                covered: true,
            },
        ]);
        drink.vessels[0].capacity = Some(capacity.parse().unwrap());
        run(&drink).last(0).unwrap().1.past.warm.0
    };
    let (jug, cauldron) = (warm("1 l", "1.5 l"), warm("20 l", "30 l"));
    assert!(cauldron > 2.0 * jug && cauldron > 240.0, "{jug} and {cauldron} minutes");
}

#[test]
fn a_spoon_of_vanilla_is_an_ingredient_and_a_glass_of_spirit_is_for_adults() {
    let of = |id: &str, amount: &str| {
        let drink = drink(vec![
            add("jug", "water", "2 l"),
            add("jug", id, amount),
            serve("jug", 8, "200 ml"),
        ]);
        let all = cautions(&drink, Cupboard::builtin(), &run(&drink));
        all.into_iter().flatten().find(|c| c.kind == CautionKind::Alcohol).unwrap()
    };
    let vanilla = of("vanilla_extract", "1 tsp");
    assert!(!vanilla.adult && vanilla.message.contains("0.1 % vol"), "{}", vanilla.message);
    assert!(of("spirit_40abv", "300 ml").adult);
}

/// The usual practice of each school passes without a notice; twice the time or dose does not.
#[test]
fn bitterness_is_where_makers_find_it() {
    let is_bitter = |actions: Vec<Action>| said(actions).contains(&NoticeKind::Bitter);
    let peel = |minutes: f64| {
        vec![add("pot", "water", "1 l"), add("pot", "lemon_peel", "160 g"), boil(minutes, true)]
    };
    assert!(!is_bitter(peel(5.0)) && is_bitter(peel(10.0)));
    let tea = |minutes: f64| {
        vec![
            add("pot", "water", "1 l"),
            boil(0.0, true),
            add("pot", "black_tea", "10 g"),
            stand("pot", minutes, RestingPlace::Worktop),
        ]
    };
    assert!(!is_bitter(tea(5.0)) && is_bitter(tea(12.0)));
    let bitters = |dashes: &str| {
        vec![add("glass", "water", "250 ml"), add("glass", "aromatic_bitters", dashes)]
    };
    assert!(!is_bitter(bitters("2 dashes")) && is_bitter(bitters("4 dashes")));
    let limes = |seconds: f64| {
        vec![
            add("blender", "lime_whole", "4 limes"),
            add("blender", "water", "1 l"),
            Action::Blend { vessel: "blender".into(), seconds },
        ]
    };
    assert!(!is_bitter(limes(10.0)) && is_bitter(limes(20.0)));
    let overnight = |rind: &str| {
        vec![
            add("pot", "water", "2 l"),
            boil(0.0, true),
            add("pot", "hibiscus_dried", "50 g"),
            add("pot", "orange_peel", rind),
            stand("pot", 720.0, RestingPlace::Worktop),
        ]
    };
    // The rind of an orange to a litre; in twice the time little more comes, as it has cooled by then.
    assert!(!is_bitter(overnight("50 g")) && is_bitter(overnight("100 g")));
}

#[test]
fn sugar_rubbed_into_zest_is_pale_yellow() {
    let bowl = end_of(
        vec![
            add("bowl", "lemon_zest", "20 g"),
            add("bowl", "white_sugar", "200 g"),
            Action::Macerate {
                vessel: "bowl".into(),
                minutes: 5.0,
                how: Maceration::Rubbed,
                place: RestingPlace::Worktop,
            },
        ],
        "bowl",
    );
    let colour = bowl.colour();
    assert!(colour.0 > 190 && colour.1 > 175 && colour.2 < colour.1, "{colour}");
}

#[test]
fn what_comes_boiling_cold_or_frozen_is_so() {
    let water = |warmth: Warmth| {
        let (into, ingredient) = ("jug".to_owned(), "water".to_owned());
        let amount = "1 l".parse().unwrap();
        Action::Add { into, ingredient, amount, warmth, cut: Cut::Usual, portions: 1 }
    };
    let t = |warmth: Warmth| end_of(vec![water(warmth)], "jug").temperature.0;
    assert_eq!(
        [Warmth::Boiling, Warmth::Hot, Warmth::Tap, Warmth::Chilled].map(t).map(f64::round),
        // The jug is as warm as the kitchen, and takes its part.
        [89.0, 64.0, 15.0, 8.0]
    );
    // A kettle of two kilowatts boils a litre in about three minutes.
    let minutes = run(&drink(vec![water(Warmth::Boiling)])).frames[0].minutes.0;
    assert!((3.5..5.5).contains(&minutes), "{minutes}");
    let over = end_of(vec![water(Warmth::Usual), add("jug", "strawberry_frozen", "300 g")], "jug");
    assert!(over.temperature.0 < 2.5, "{:?}", over.temperature);
}

#[test]
fn small_pieces_draw_faster_than_whole_ones() {
    let drawn = |cut: Cut| {
        let (into, ingredient) = ("pot".to_owned(), "ginger_root".to_owned());
        let amount = "50 g".parse().unwrap();
        let ginger =
            Action::Add { into, ingredient, amount, warmth: Warmth::Usual, cut, portions: 1 };
        end_of(vec![add("pot", "water", "1 l"), ginger, boil(10.0, true)], "pot").pieces[0].drawn
    };
    let [whole, sliced, chopped, grated] =
        [Cut::Whole, Cut::Sliced, Cut::Chopped, Cut::Grated].map(drawn);
    assert!(
        whole < 0.6 * sliced && sliced < chopped && chopped < grated,
        "{whole} {sliced} {chopped}"
    );
}

/// A litre is marked, a second one added and boiled back.
#[test]
fn a_marked_line_is_boiled_back_to() {
    let actions = vec![
        add("pot", "water", "1 l"),
        Action::Mark { vessel: "pot".into() },
        add("pot", "ginger_root", "100 g"),
        add("pot", "water", "1 l"),
        Action::Reduce { vessel: "pot".into(), to: Reduction::Mark, how: Vigour::Boil },
    ];
    let pot = end_of(actions.clone(), "pot");
    assert!((pot.level_at(MEASURED_AT).0 - 1000.0).abs() < 2.0, "{:?}", pot.level_at(MEASURED_AT));
    let mut unmarked = drink(actions);
    unmarked.steps.remove(1);
    let fault = &unmarked.check(Cupboard::builtin())[0];
    assert!(fault.field == "steps[3].do.reduce.to" && fault.message.contains("Mark the level"));
}

#[test]
fn stirring_until_the_bubbling_stops_leaves_no_fizz() {
    let fizz = |until: Stirring| {
        let stir = Action::Stir { vessel: "jug".into(), until };
        end_of(vec![add("jug", "club_soda", "500 g"), stir], "jug").liquid[Component::CarbonDioxide]
    };
    // A thousandth of a gram is no bubble.
    assert!(fizz(Stirring::Calm) < 1e-3 && fizz(Stirring::Mixed) > 0.5);
}

/// Rinsing the blender through the pulp wins back what both hold.
#[test]
fn a_rinse_through_the_sieve_washes_both() {
    let sugar = |through: Option<&str>| {
        end_of(
            vec![
                add("blender", "cantaloupe", "700 g"),
                add("blender", "water", "500 g"),
                Action::Blend { vessel: "blender".into(), seconds: 30.0 },
                strain("blender", "sieve", "pitcher", Press::Pressed),
                Action::Rinse {
                    vessel: "blender".into(),
                    ingredient: "water".into(),
                    amount: "100 g".parse().unwrap(),
                    warmth: Warmth::Usual,
                    through: through.map(str::to_owned),
                    into: "pitcher".into(),
                    press: Press::Pressed,
                },
            ],
            "pitcher",
        )
        .liquid
        .sugars()
        .0
    };
    assert!(sugar(Some("sieve")) > sugar(None) + 1.0);
}

/// One of sour, two of sweet, four of weak; a part is 50 ml, and grows with the drink.
#[test]
fn a_drink_in_parts_is_sized_from_any_of_them() {
    let mut punch = drink(vec![
        add("jug", "lemon_juice", "1 part"),
        add("jug", "simple_syrup_1_1", "2 parts"),
        add("jug", "water", "4 parts"),
    ]);
    punch.part = Some("50 ml".parse().unwrap());
    let volume = |d: &Drink| run(d).outcome().unwrap().volume.0;
    assert!((volume(&punch) - 350.0).abs() < 3.0, "{}", volume(&punch));
    let size = Size::AsMuchAs { step: "s0".into(), amount: "200 ml".parse().unwrap() };
    let large = resize(&punch, Cupboard::builtin(), &size).unwrap();
    assert!((volume(&large) - 1400.0).abs() < 12.0, "{}", volume(&large));
    assert_eq!(large.steps[1].action.amount().unwrap().to_string(), "2 parts");
    assert_eq!(large.part.unwrap().to_string(), "200 ml");
}

#[test]
fn a_range_runs_at_its_middle_and_widens_the_cloud() {
    let with = |sugar: &str| {
        drink(vec![
            squeeze("jug", "lemon_juice", "200 ml"),
            add("jug", "white_sugar", sugar),
            add("jug", "water", "1 l"),
        ])
    };
    let taste = |d: &Drink| Profile::of(run(d).outcome().unwrap()).unwrap().sweetness_percent;
    let (range, middle) = (with("6 to 10 tbsp"), with("8 tbsp"));
    assert!((taste(&range) - taste(&middle)).abs() < 1e-9);
    let wide = |d: &Drink| {
        let mut chance = StdRng::seed_from_u64(5);
        let found = spread(d, Cupboard::builtin(), 600, &mut chance).unwrap().unwrap();
        found.sweetness.high / found.sweetness.low
    };
    assert!(wide(&range) > wide(&middle) + 0.2, "{} and {}", wide(&range), wide(&middle));
    for (text, back) in [("1-3 tbsp", "1 to 3 tbsp"), ("2 – 4 limes", "2 to 4 limes")] {
        let amount: Amount = text.parse().unwrap();
        assert_eq!(amount.to_string(), back);
        assert_eq!(back.parse::<Amount>().unwrap(), amount);
    }
    assert!("3 to 1 tbsp".parse::<Amount>().is_err());
    assert!("1 to 3 tbsp + 2 g".parse::<Amount>().is_err());
}

#[test]
fn kitchens_measure_in_quarts_and_dozens() {
    let grams = |id: &str, amount: &str| {
        let it = Cupboard::builtin().ingredient(id).unwrap();
        Cupboard::builtin().weigh(it, &amount.parse().unwrap()).unwrap().grams.0
    };
    assert!((grams("water", "1 quart") - 944.6).abs() < 1.0);
    assert!((grams("water", "half a gallon") - 1889.3).abs() < 2.0);
    assert!((grams("lime_whole", "a dozen limes") - 840.0).abs() < 0.1);
    assert!((grams("condensed_milk_sweet", "1 can") - 397.0).abs() < 0.1);
    assert!((grams("mint", "a bunch") - 28.0).abs() < 0.1);
    assert!(
        (grams("lemon_peel", "the peel of 6 lemons".trim_start_matches("the peel of ")) - 66.0)
            .abs()
            < 0.1
    );
}

#[test]
fn a_drink_made_in_the_glass_grows_by_glasses() {
    let mut fizz = drink(vec![
        add("glass", "mint", "6 leaves"),
        add("glass", "lime_juice", "30 ml"),
        add("glass", "simple_syrup_1_1", "20 ml"),
        add("glass", "club_soda", "120 ml"),
    ]);
    fizz.vessels.last_mut().unwrap().count = Some(2);
    let cupboard = Cupboard::builtin();
    let trace = run(&fizz);
    let outcome = trace.outcome().unwrap();
    assert!(outcome.served && outcome.glasses == 2.0);
    assert!((outcome.size.unwrap().0 - 170.0).abs() < 4.0, "{:?}", outcome.size);
    let size = Size::Glasses { glasses: 6, size: "170 ml".parse().unwrap() };
    let party = resize(&fizz, cupboard, &size).unwrap();
    assert_eq!(run(&party).outcome().unwrap().glasses, 6.0);
    assert_eq!(party.steps[1].action.amount().unwrap().to_string(), "30 ml");
    let twice = resize(&fizz, cupboard, &Size::Factor(2.0)).unwrap();
    assert_eq!(twice.vessels.last().unwrap().count, Some(4));
}

/// Lemonade for six, and more of the pitcher into other glasses, with what is done after.
fn with_second_round(glass: &str, glasses: u32, then: Vec<Action>) -> Drink {
    let mut actions = vec![
        squeeze("pitcher", "lemon_juice", "6 lemons"),
        add("pitcher", "white_sugar", "150 g"),
        add("pitcher", "water", "2 l"),
        serve("pitcher", 6, "200 ml"),
        Action::Serve {
            from: "pitcher".into(),
            glass: glass.into(),
            glasses,
            size: "200 ml".parse().unwrap(),
        },
    ];
    actions.extend(then);
    let mut evening = drink(actions);
    evening.vessels.push(vessel(glass, VesselKind::Glass));
    evening
}

#[test]
fn glasses_may_differ_and_a_second_round_is_poured() {
    let sweeter = add("sweet", "simple_syrup_1_1", "1 tbsp");
    let mut evening = with_second_round("sweet", 2, vec![sweeter]);
    let trace = run(&evening);
    let of =
        |id: &str| trace.last(evening.vessel(id).unwrap()).unwrap().1.liquid.sweetness_percent();
    assert!(of("sweet") > of("glass") + 3.0, "{} and {}", of("sweet"), of("glass"));
    assert_eq!(trace.outcome().unwrap().vessel, evening.vessel("glass").unwrap());
    // The same glasses can't be poured full twice.
    evening.steps.push(evening.steps[3].clone());
    assert!(evening.check(Cupboard::builtin()).iter().any(|f| f.message.contains("another round")));
    // A bowl and a second bowl are told apart.
    let mut bowls = kitchen();
    bowls.push(vessel("bowl_2", VesselKind::Bowl));
    let told = Drink { vessels: bowls, ..drink(vec![pour("bowl", "bowl_2", Portion::All)]) };
    assert_eq!(told.in_sentence(1), "the first bowl");
    assert_eq!(told.in_sentence(told.vessels.len() - 1), "the second bowl");
}

#[test]
fn rounds_grow_with_the_drink_in_their_proportion() {
    let evening = with_second_round("late", 3, vec![]);
    let rounds = |d: &Drink| -> Vec<u32> {
        let served = d.steps.iter().filter_map(|s| match &s.action {
            Action::Serve { glasses, .. } => Some(*glasses),
            _ => None,
        });
        served.collect()
    };
    let large = resize(&evening, Cupboard::builtin(), &Size::Factor(3.0)).unwrap();
    assert_eq!(rounds(&large), [18, 9]);
}

#[test]
fn a_slush_is_drunk_with_its_ice_and_cubes_stay_in_the_glass() {
    let glass = |blended: bool| {
        let mut actions = vec![
            add("blender", "strawberry", "200 g"),
            add("blender", "water", "200 g"),
            add("blender", "ice", "200 g"),
        ];
        if blended {
            actions.push(Action::Blend { vessel: "blender".into(), seconds: 40.0 });
        }
        actions.push(serve("blender", 1, "400 ml"));
        run(&drink(actions)).outcome().unwrap().clone()
    };
    let (slush, cubes) = (glass(true), glass(false));
    assert!(slush.contents.ice_mass().0 > 35.0, "{:?}", slush.contents.ice_mass());
    assert!(
        slush.volume.0 > 340.0 && cubes.volume.0 < 240.0,
        "{:?} {:?}",
        slush.volume,
        cubes.volume
    );
}

#[test]
fn spirit_boils_and_freezes_below_water() {
    let heated = end_of(
        vec![
            add("pot", "spirit_40abv", "300 g"),
            Action::Boil { vessel: "pot".into(), minutes: 0.0, how: Vigour::Boil, lid: true },
        ],
        "pot",
    );
    // A third of alcohol by weight boils at 84 °C.
    assert!((82.0..86.5).contains(&heated.temperature.0), "{:?}", heated.temperature);
    let open = |lid: bool| {
        end_of(
            vec![
                add("pot", "spirit_40abv", "300 g"),
                Action::Boil { vessel: "pot".into(), minutes: 5.0, how: Vigour::Boil, lid },
            ],
            "pot",
        )
        .liquid
        .alcohol_percent()
    };
    assert!(open(false) < 0.7 * open(true), "{} and {}", open(false), open(true));
}
