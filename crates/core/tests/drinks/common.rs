//! Random drinks, and drinks written in a line.

use keen_core::cupboard::VesselKind;
use keen_core::drink::{
    Action, CoolingPlace, Drink, Family, Portion, Press, RestingPlace, Step, Vessel,
};
use keen_core::quantity::Amount;
use proptest::prelude::*;

pub const HOLDERS: [&str; 5] = ["pot", "bowl", "blender", "jug", "pitcher"];
pub const STRAINERS: [&str; 3] = ["sieve", "cloth", "colander"];
const INGREDIENTS: [&str; 16] = [
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
    Vessel { id: id.into(), kind, name: None, capacity: None, diameter_mm: None }
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
        vessel("glass", VesselKind::Glass),
    ]
}

pub fn drink(actions: Vec<Action>) -> Drink {
    let steps = actions
        .into_iter()
        .enumerate()
        .map(|(i, action)| Step { id: format!("s{i}"), action, note: String::new() })
        .collect();
    Drink {
        name: "Test".into(),
        family: Family::Lemonade,
        note: String::new(),
        vessels: kitchen(),
        steps,
    }
}

pub fn add(into: &str, ingredient: &str, amount: &str) -> Action {
    Action::Add {
        into: into.into(),
        ingredient: ingredient.into(),
        amount: amount.parse().unwrap(),
    }
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
    (holder(), prop::sample::select(&INGREDIENTS[..]), 0.05f64..3000.0).prop_map(
        |(into, ingredient, grams)| Action::Add {
            into,
            ingredient: ingredient.to_owned(),
            amount: Amount::grams(grams),
        },
    )
}

fn press() -> impl Strategy<Value = Press> {
    prop::sample::select(vec![Press::Drained, Press::Pressed, Press::Wrung])
}

/// Any action but serving.
fn action() -> impl Strategy<Value = Action> {
    prop_oneof![
        4 => adding(),
        1 => (0.0f64..130.0, 0.0f64..600.0, any::<bool>()).prop_map(|(to_c, minutes, lid)| {
            Action::Heat { vessel: "pot".into(), to_c, minutes, lid }
        }),
        1 => (holder(), 0.0f64..3000.0, any::<bool>()).prop_map(|(vessel, minutes, cold)| {
            let place = if cold { RestingPlace::Refrigerator } else { RestingPlace::Worktop };
            Action::Infuse { vessel, minutes, place }
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
            }),
        1 => (holder(), 0.0f64..90.0).prop_map(|(vessel, to_c)| Action::Cool {
            vessel, to_c, place: CoolingPlace::WaterBath,
        }),
    ]
}

/// A random drink that may be foolish, but can be carried out.
pub fn any_drink() -> impl Strategy<Value = Drink> {
    (prop::collection::vec(action(), 1..25), 1u32..60, 10.0f64..800.0, holder()).prop_map(
        |(mut actions, glasses, ml, from)| {
            let size = Amount::millilitres(ml);
            actions.push(Action::Serve { from, glass: "glass".into(), glasses, size });
            drink(actions)
        },
    )
}
