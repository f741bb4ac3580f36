//! The demo's batches: three months of them, a practice batch by a scripted maker with fixed seeds,
//! and what is on the go.
//!
//! `demo/batches.json` is generated (`keen-pitcher demo-batches`): making them takes a while, and a demo should
//! open at once.

use anyhow::{Context, Result};
use jiff::{SignedDuration, Timestamp};
use keen_core::batch::{Happening, Learnt, Said, Teaching};
use keen_core::cupboard::{Cupboard, Kitchen, Lot, Reading};
use keen_core::drink::{Action, CoolingPlace, Drink, Step};
use keen_core::quantity::Amount;
use keen_instruments::{Clock, Maker};
use keen_store::{KeptBatch, Saying, Store};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DRINKS;
use crate::api::{BATCH, Ending, HAPPENING, Snapshot, ending_of};

const MADE: &str = include_str!("../../../../demo/batches.json");

/// When which of the demo's drinks was made: its place among them, days ago, minutes after midnight (UTC), and
/// what dealt its luck.
const MAKINGS: [(usize, i64, i64, u64); 14] = [
    (0, 91, 820, 11),
    (2, 84, 760, 12),
    (4, 78, 1010, 13),
    (1, 70, 690, 14),
    (0, 63, 830, 15),
    (3, 57, 980, 16),
    (8, 49, 800, 17),
    (2, 44, 745, 18),
    (5, 37, 1000, 19),
    (0, 30, 840, 20),
    (9, 23, 700, 21),
    (2, 16, 770, 22),
    (1, 9, 720, 23),
    (0, 3, 815, 24),
];

/// A batch as it was made.
#[derive(Debug, Serialize, Deserialize)]
struct MadeBatch {
    drink: usize,
    days_ago: i64,
    minute: i64,
    said: Vec<Said>,
    ending: Ending,
    readings: Vec<Reading>,
    lots: Vec<Lot>,
}

pub(super) fn drink(place: usize) -> Result<Drink> {
    keen_formats::read_drink(DRINKS[place].as_bytes(), Cupboard::builtin())
        .context("a demo drink isn't a drink")
}

/// Names a batch of the demo for ever.
fn id(place: usize) -> String {
    Uuid::from_u128(0x019a_0000_0000_7000_8000_0000_0000_0000 + place as u128).to_string()
}

/// Makes all of them, one after the other, each in a kitchen that has learned from those before.
pub(crate) fn text() -> Result<String> {
    let mut kitchen = super::kitchen()?;
    let mut all = Vec::new();
    for (place, (of, days_ago, minute, seed)) in MAKINGS.into_iter().enumerate() {
        let drink = drink(of)?;
        let cupboard = Cupboard::of(&kitchen);
        let said = Maker::Measures.makes(&drink, &cupboard, seed).said;
        let taught = Teaching::of(&drink, &said, &cupboard, &id(place), "");
        let (mut readings, mut lots) = (Vec::new(), Vec::new());
        for teaching in taught {
            match teaching.taught {
                Learnt::Reading(reading) => readings.push(reading),
                Learnt::Lot(lot) => lots.push(lot),
            }
        }
        kitchen.readings.extend(readings.iter().cloned());
        kitchen.lots.extend(lots.iter().cloned());
        let ending = ending_of(&drink, &said, &cupboard).context("a batch has no end")?;
        all.push(MadeBatch { drink: of, days_ago, minute, said, ending, readings, lots });
    }
    Ok(serde_json::to_string_pretty(&all)?)
}

/// So many minutes from a moment.
fn minutes(from: Timestamp, minutes: f64) -> Result<Timestamp> {
    Ok(from.checked_add(SignedDuration::from_secs_f64(minutes * 60.0))?)
}

/// Keeps a batch and all that was said of it.
fn keep(store: &Store, new: &KeptBatch, begun: Timestamp, said: &[Said]) -> Result<()> {
    store.begin_batch(new, None)?;
    for (place, Said { at, what }) in said.iter().enumerate() {
        let finishes = matches!(what, Happening::Finished { .. }).then_some(true);
        let (body, at) = (HAPPENING.write(what), minutes(begun, *at)?.to_string());
        let after = i64::try_from(place)?;
        store.say(&new.id, Saying { body: &body, at: &at, key: None, after, finishes })?;
    }
    Ok(())
}

/// Puts the demo's batches on a shelf, and lets the kitchen learn from them.
pub(super) fn fill(store: &Store, ids: &[String], kitchen: &mut Kitchen) -> Result<()> {
    let made: Vec<MadeBatch> =
        serde_json::from_str(MADE).context("the demo's batches can't be read")?;
    let today = jiff::Zoned::now().with_time_zone(jiff::tz::TimeZone::UTC).date();
    for (place, mut batch) in made.into_iter().enumerate() {
        let day = today.checked_sub(jiff::Span::new().days(batch.days_ago))?;
        let midnight = day.to_zoned(jiff::tz::TimeZone::UTC)?.timestamp();
        let begun = minutes(midnight, batch.minute as f64)?;
        let drink = drink(batch.drink)?;
        let name = drink.name.clone();
        let snapshot = Snapshot { drink, kitchen: kitchen.clone(), seed: None, plan: None };
        let new = KeptBatch {
            id: id(place),
            drink: ids[batch.drink].clone(),
            name,
            body: BATCH.write(&snapshot),
            begun_at: begun.to_string(),
            finished_at: None,
            practice: false,
            clock: None,
            ending: None,
            rating: None,
            picture: None,
        };
        let last = batch.said.last().map_or(0.0, |s| s.at);
        batch.said.push(Said { at: last + 1.0, what: Happening::Taught { learned: true } });
        keep(store, &new, begun, &batch.said)?;
        store.set_batch_ending(&new.id, &serde_json::to_string(&batch.ending)?)?;
        let day = day.to_string();
        let readings = batch.readings.into_iter();
        kitchen.readings.extend(readings.map(|r| Reading { day: day.clone(), ..r }));
        let lots = batch.lots.into_iter();
        kitchen.lots.extend(lots.map(|lot| Lot { day: day.clone(), ..lot }));
    }
    on_the_go(store, ids, kitchen)
}

fn done(step: &str) -> Happening {
    Happening::Done { step: step.into() }
}

/// The lemonade as it is made today: half of its water is put into the refrigerator while the verbena draws.
fn with_chilled_water(mut lemonade: Drink) -> Drink {
    let at = lemonade.steps.iter().position(|s| s.id == "s7").unwrap_or(0);
    let cool = Action::Cool {
        vessel: "pitcher".into(),
        to_c: 8.0,
        place: CoolingPlace::Refrigerator,
        covered: false,
    };
    let water = Action::add("pitcher", "water", Amount::millilitres(1000.0));
    lemonade.steps.insert(at, Step::new("chill".into(), cool));
    lemonade.steps.insert(at, Step::new("water".into(), water));
    lemonade
}

/// A lemonade half made, with its verbena drawing, water cooling and the lemons pressed meanwhile; peels under
/// sugar until tomorrow; and a practice batch that nobody has begun yet.
fn on_the_go(store: &Store, ids: &[String], kitchen: &Kitchen) -> Result<()> {
    let began = |step: &str| Happening::Began { step: step.into() };
    let lemonade = vec![
        (1.0, done("s1")),
        (2.0, done("s2")),
        (7.0, done("s3")),
        (8.0, done("s4")),
        (9.5, done("s5")),
        (10.0, began("s6")),
        (11.0, done("water")),
        (11.5, began("chill")),
        (15.0, done("s7")),
        (15.5, Happening::CameOut { step: "s7".into(), amount: "215 ml".parse()? }),
    ];
    let peels = vec![(4.0, done("s1")), (5.0, done("s2")), (6.0, began("s3"))];
    for (place, of, ago, said, seed) in [
        (100, 0, 18.0, lemonade, None),
        (101, 6, 45.0, peels, None),
        (102, 2, 0.0, Vec::new(), Some(7)),
    ] {
        let drink = drink(of)?;
        let drink = if of == 0 { with_chilled_water(drink) } else { drink };
        let begun = minutes(Timestamp::now(), -ago)?;
        let new = KeptBatch {
            id: id(place),
            drink: ids[of].clone(),
            name: drink.name.clone(),
            body: BATCH.write(&Snapshot { drink, kitchen: kitchen.clone(), seed, plan: None }),
            begun_at: begun.to_string(),
            finished_at: None,
            practice: seed.is_some(),
            clock: seed.map(|_| serde_json::to_string(&Clock::default())).transpose()?,
            ending: None,
            rating: None,
            picture: None,
        };
        let said: Vec<Said> = said.into_iter().map(|(at, what)| Said { at, what }).collect();
        keep(store, &new, begun, &said)?;
    }
    Ok(())
}
