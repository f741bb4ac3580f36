//! Random drinks, and drinks written in a line.

use keen_core::cupboard::{Cupboard, Kitchen, OwnVessel, VesselKind};
use keen_core::drink::{
    Action, CoolingPlace, Cut, Dissolving, Drink, Family, Maceration, Portion, Press, Reduction,
    RestingPlace, Step, Stirring, Vessel, Vigour, Warmth,
};
use keen_core::quantity::Amount;
use keen_core::trace::{Contents, NoticeKind, Trace};
use proptest::prelude::*;

pub const HOLDERS: [&str; 5] = ["pot", "bowl", "blender", "jug", "pitcher"];
pub const STRAINERS: [&str; 3] = ["sieve", "cloth", "colander"];
const INGREDIENTS: [&str; 20] = [
    "lime_whole",
    "orange_peel",
    "ginger_root",
    "milk",
    "water",
    "white_sugar",
    "lemon_juice",
    "lemon_zest",
    "hibiscus_dried",
    "cantaloupe",
    "ice",
    "honey",
    "club_soda",
    "condensed_milk_sweet",
    "citric_acid",
    "sodium_bicarbonate",
    "chia_seed",
    "erythritol",
    "spirit_40abv",
    "mint",
];

pub fn vessel(id: &str, kind: VesselKind) -> Vessel {
    Vessel::new(id, kind)
}

pub fn kitchen() -> Vec<Vessel> {
    vec![
        vessel("pot", VesselKind::Pot),
        vessel("bowl", VesselKind::Bowl),
        vessel("blender", VesselKind::Blender),
        vessel("jug", VesselKind::Jug),
        vessel("pitcher", VesselKind::Pitcher),
        vessel("sieve", VesselKind::FineSieve),
        vessel("cloth", VesselKind::Cloth),
        vessel("colander", VesselKind::Colander),
        vessel("bottle", VesselKind::Bottle),
        vessel("glass", VesselKind::Glass),
    ]
}

pub fn drink(actions: Vec<Action>) -> Drink {
    let steps = actions
        .into_iter()
        .enumerate()
        .map(|(i, action)| Step::new(format!("s{i}"), action))
        .collect();
    Drink {
        name: "Test".into(),
        family: Family::Lemonade,
        note: String::new(),
        part: None,
        vessels: kitchen(),
        steps,
    }
}

pub fn add(into: &str, ingredient: &str, amount: &str) -> Action {
    Action::add(into, ingredient, amount.parse().unwrap())
}

pub fn squeeze(into: &str, ingredient: &str, amount: &str) -> Action {
    Action::Squeeze {
        into: into.into(),
        ingredient: ingredient.into(),
        amount: amount.parse().unwrap(),
        halves_into: None,
    }
}

pub fn top_up(vessel: &str, ingredient: &str, to: &str) -> Action {
    Action::TopUp {
        vessel: vessel.into(),
        ingredient: ingredient.into(),
        warmth: Default::default(),
        to: to.parse().unwrap(),
    }
}

pub fn boil(minutes: f64, lid: bool) -> Action {
    Action::Boil { vessel: "pot".into(), minutes, how: Vigour::Simmer, lid }
}

pub fn stand(vessel: &str, minutes: f64, place: RestingPlace) -> Action {
    Action::Infuse { vessel: vessel.into(), minutes, place, covered: true }
}

pub fn chill(vessel: &str, to_c: f64) -> Action {
    Action::Cool { vessel: vessel.into(), to_c, place: CoolingPlace::Refrigerator, covered: false }
}

pub fn pour(from: &str, into: &str, portion: Portion) -> Action {
    Action::Pour { from: from.into(), into: into.into(), portion }
}

pub fn serve(from: &str, glasses: u32, size: &str) -> Action {
    Action::Serve { from: from.into(), glass: "glass".into(), glasses, size: size.parse().unwrap() }
}

pub fn strain(from: &str, through: &str, into: &str, press: Press) -> Action {
    Action::Strain { from: from.into(), through: through.into(), into: into.into(), press }
}

fn holder() -> impl Strategy<Value = String> {
    prop::sample::select(&HOLDERS[..]).prop_map(str::to_owned)
}

fn two_holders() -> impl Strategy<Value = (String, String)> {
    (holder(), holder()).prop_filter("apart", |(a, b)| a != b)
}

fn adding() -> impl Strategy<Value = Action> {
    let how = (warmth(), cut());
    (holder(), prop::sample::select(&INGREDIENTS[..]), 0.05f64..3000.0, how).prop_map(
        |(into, ingredient, grams, (warmth, cut))| Action::Add {
            into,
            ingredient: ingredient.to_owned(),
            amount: Amount::grams(grams),
            warmth,
            cut,
            portions: 1,
        },
    )
}

fn warmth() -> impl Strategy<Value = Warmth> {
    use Warmth as W;
    prop::sample::select(vec![
        W::Usual,
        W::Usual,
        W::Usual,
        W::Boiling,
        W::Hot,
        W::Tap,
        W::Chilled,
        W::Frozen,
    ])
}

fn cut() -> impl Strategy<Value = Cut> {
    use Cut as C;
    prop::sample::select(vec![C::Usual, C::Whole, C::Sliced, C::Chopped, C::Grated, C::Bruised])
}

fn press() -> impl Strategy<Value = Press> {
    prop::sample::select(vec![Press::Drained, Press::Pressed, Press::Wrung])
}

/// Any action but serving.
fn action() -> impl Strategy<Value = Action> {
    prop_oneof![
        4 => adding(),
        1 => (0.0f64..130.0, 0.0f64..600.0, any::<bool>(), any::<bool>()).prop_map(
            |(to_c, minutes, lid, until_clear)| {
                Action::Heat { vessel: "pot".into(), to_c, minutes, lid, until_clear }
            }
        ),
        1 => (holder(), prop::sample::select(vec![Stirring::Mixed, Stirring::Clear, Stirring::Calm]))
            .prop_map(|(vessel, until)| Action::Stir { vessel, until }),
        1 => holder().prop_map(|vessel| Action::Mark { vessel }),
        1 => (holder(), 0.0f64..3000.0, any::<bool>()).prop_map(|(vessel, minutes, cold)| {
            let place = if cold { RestingPlace::Refrigerator } else { RestingPlace::Worktop };
            Action::Infuse { vessel, minutes, place, covered: cold }
        }),
        1 => holder().prop_map(|vessel| Action::Blend { vessel, seconds: 30.0 }),
        2 => (two_holders(), prop::sample::select(&STRAINERS[..]), press()).prop_map(
            |((from, into), through, press)| Action::Strain {
                from, through: through.to_owned(), into, press,
            }
        ),
        2 => (two_holders(), 0.01f64..1.0).prop_map(|((from, into), share)| Action::Pour {
            from, into, portion: Portion::Share(share),
        }),
        1 => two_holders().prop_map(|(from, into)| Action::Pour {
            from, into, portion: Portion::All,
        }),
        1 => (two_holders(), 1.0f64..4000.0).prop_map(|((from, into), ml)| Action::Pour {
            from, into, portion: Portion::Volume(Amount::millilitres(ml)),
        }),
        1 => (holder(), prop::sample::select(vec!["water", "ice", "lemon_juice"]), 1.0f64..5000.0)
            .prop_map(|(vessel, ingredient, ml)| Action::TopUp {
                vessel, ingredient: ingredient.into(), to: Amount::millilitres(ml),
                warmth: Warmth::Usual,
            }),
        1 => (holder(), 0.0f64..90.0).prop_map(|(vessel, to_c)| Action::Cool {
            vessel, to_c, place: CoolingPlace::WaterBath, covered: false,
        }),
        1 => holder().prop_map(|vessel| Action::Cool {
            vessel, to_c: -18.0, place: CoolingPlace::Freezer, covered: false,
        }),
        1 => (two_holders(), 0.05f64..20.0).prop_map(|((bowl, into), lemons)| Action::Squeeze {
            into,
            ingredient: "lemon_juice".into(),
            amount: Amount::of(lemons, keen_core::quantity::Measure::Piece("lemons".into())),
            halves_into: Some(bowl),
        }),
        1 => (holder(), 0.0f64..2000.0, any::<bool>()).prop_map(|(vessel, minutes, rubbed)| {
            let how = if rubbed { Maceration::Rubbed } else { Maceration::Left };
            Action::Macerate { vessel, minutes, how, place: RestingPlace::Worktop }
        }),
        1 => (0.0f64..200.0, vigour(), any::<bool>())
            .prop_map(|(minutes, how, lid)| Action::Boil { vessel: "pot".into(), minutes, how, lid }),
        1 => (reduction(), vigour())
            .prop_map(|(to, how)| Action::Reduce { vessel: "pot".into(), to, how }),
        1 => holder().prop_map(|vessel| Action::Dissolve { vessel, how: Dissolving::Stirred }),
        1 => (two_holders(), prop::sample::select(&INGREDIENTS[..])).prop_map(
            |((from, into), ingredient)| Action::Lift { from, ingredient: ingredient.into(), into }
        ),
        1 => (anything(), holder(), 1.0f64..2000.0, press(), warmth(), any::<bool>())
            .prop_filter("apart", |(vessel, into, ..)| vessel != into)
            .prop_map(|(vessel, into, grams, press, warmth, through)| Action::Rinse {
                vessel, ingredient: "water".into(), amount: Amount::grams(grams), warmth,
                through: through.then(|| "cloth".into()), into, press,
            }),
        1 => (prop::sample::select(&STRAINERS[..]), holder()).prop_map(|(from, into)| Action::Pour {
            from: from.into(), into, portion: Portion::All,
        }),
        1 => (holder(), 0.0f64..60.0).prop_map(|(vessel, above_mm)| Action::Cover {
            vessel, ingredient: "water".into(), above_mm, warmth: Warmth::Usual,
        }),
        1 => (prop_oneof![holder(), Just("glass".to_owned())], 0.02f64..8.0).prop_map(
            |(vessel, parts)| Action::Lengthen {
                vessel, ingredient: "club_soda".into(), parts, warmth: Warmth::Usual,
            }
        ),
        1 => holder().prop_map(|from| Action::Bottle {
            from, bottle: "bottle".into(), headspace: Amount::millilitres(30.0),
        }),
        1 => holder().prop_map(|into| Action::Pour {
            from: "bottle".into(), into, portion: Portion::All,
        }),
        1 => (0.5f64..80.0).prop_map(|grams| Action::add("glass", "ice", Amount::grams(grams))),
    ]
}

fn anything() -> impl Strategy<Value = String> {
    prop_oneof![holder(), prop::sample::select(&STRAINERS[..]).prop_map(str::to_owned)]
}

fn vigour() -> impl Strategy<Value = Vigour> {
    prop::sample::select(vec![Vigour::Gentle, Vigour::Simmer, Vigour::Boil])
}

fn reduction() -> impl Strategy<Value = Reduction> {
    prop_oneof![
        (1.0f64..5000.0).prop_map(|ml| Reduction::Volume(Amount::millilitres(ml))),
        (1.0f64..80.0).prop_map(Reduction::Brix),
        (100.1f64..112.0).prop_map(Reduction::BoilingAt),
    ]
}

/// A random drink that may be foolish, but can be carried out.
pub fn any_drink() -> impl Strategy<Value = Drink> {
    (prop::collection::vec(action(), 1..25), 1u32..60, 10.0f64..800.0, holder()).prop_map(
        |(mut actions, glasses, ml, from)| {
            let size = Amount::millilitres(ml);
            let at = actions.len() - actions.len() / 4;
            actions.insert(at, Action::Serve { from, glass: "glass".into(), glasses, size });
            drink(actions)
        },
    )
}

/// A drink that has no fault, run.
pub fn run(drink: &Drink) -> Trace {
    let cupboard = Cupboard::builtin();
    assert_eq!(drink.check(cupboard), []);
    Trace::run(drink, cupboard)
}

/// How a vessel ends.
pub fn last<'a>(drink: &Drink, trace: &'a Trace, vessel: &str) -> &'a Contents {
    trace.last(drink.vessel(vessel).unwrap()).unwrap().1
}

/// What is noticed on the way.
pub fn kinds(trace: &Trace) -> Vec<NoticeKind> {
    trace.frames.iter().flat_map(|f| &f.notices).map(|n| n.kind).collect()
}

/// A kitchen with these vessels: name, kind, capacity and how many.
pub fn with_vessels(vessels: &[(&str, VesselKind, &str, u32)]) -> Kitchen {
    Kitchen {
        vessels: vessels
            .iter()
            .map(|(name, kind, capacity, count)| OwnVessel {
                name: (*name).into(),
                kind: *kind,
                capacity: capacity.parse().unwrap(),
                diameter_mm: None,
                material: None,
                count: *count,
            })
            .collect(),
        ..Kitchen::default()
    }
}
