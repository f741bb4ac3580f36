//! What stands in the demo's refrigerator, freezer and cupboard, how its drinks were changed over three months, and
//! how its batches were liked.

use anyhow::{Context, Result};
use jiff::{SignedDuration, Timestamp};
use keen_core::cupboard::{Cupboard, Kitchen, Larder, VesselKind};
use keen_core::drink::{Action, Drink};
use keen_core::keep::{Away, Happened, Move, Place};
use keen_core::quantity::Amount;
use keen_store::{KeptBottle, KeptMove, KeptVersion, Store};
use uuid::Uuid;

use super::batches::drink;
use crate::api::{BOTTLE, MOVE, bottled, kept_drink};

fn days_ago(days: f64) -> Result<String> {
    Ok(Timestamp::now().checked_sub(SignedDuration::from_secs_f64(days * 86_400.0))?.to_string())
}

/// A bottle of the demo: the drink's place, days ago, what it stands in, what that holds, what was in it, where it
/// stands, and what happened since.
struct Stands {
    of: usize,
    ago: f64,
    vessel: VesselKind,
    holds: f64,
    ml: f64,
    place: Place,
    moves: Vec<Happened>,
}

fn at(at: f64, what: Move) -> Happened {
    Happened { at, what }
}

fn poured(ml: f64, what_for: &str) -> Move {
    Move::Poured { ml, what_for: what_for.into() }
}

/// Seven that stand there, one about to go off and one over; and three of the ginger syrup that went off before their
/// time, from which the kitchen knows how long it keeps here.
fn all() -> Vec<Stands> {
    use VesselKind::{Bottle, Jug};
    let stands = |of, ago, vessel, (holds, ml), place, moves| Stands {
        of,
        ago,
        vessel,
        holds,
        ml,
        place,
        moves,
    };
    let off = |day: f64| vec![at(0.8, Move::Opened), at(day, Move::Tipped { why: Away::WentOff })];
    vec![
        stands(4, 96.0, Bottle, (750.0, 700.0), Place::Refrigerator, off(2.1)),
        stands(4, 74.0, Bottle, (750.0, 680.0), Place::Refrigerator, off(1.5)),
        stands(4, 52.0, Bottle, (750.0, 690.0), Place::Refrigerator, off(1.8)),
        stands(
            4,
            1.2,
            Bottle,
            (750.0, 700.0),
            Place::Refrigerator,
            vec![at(0.9, poured(280.0, "mandarin fizz"))],
        ),
        stands(
            3,
            1.5,
            Bottle,
            (750.0, 640.0),
            Place::Refrigerator,
            vec![at(1.0, poured(40.0, ""))],
        ),
        stands(5, 6.0, Bottle, (750.0, 700.0), Place::Refrigerator, Vec::new()),
        stands(5, 6.0, Bottle, (750.0, 700.0), Place::Refrigerator, Vec::new()),
        stands(
            1,
            0.6,
            Jug,
            (1500.0, 1200.0),
            Place::Refrigerator,
            vec![at(0.4, poured(500.0, "the gate"))],
        ),
        stands(0, 20.0, Bottle, (1000.0, 900.0), Place::Freezer, Vec::new()),
        stands(9, 6.0, Bottle, (1000.0, 600.0), Place::Refrigerator, Vec::new()),
    ]
}

/// Puts the bottles there.
pub(super) fn bottles(store: &Store, ids: &[String], kitchen: &mut Kitchen) -> Result<()> {
    let cupboard = Cupboard::of(kitchen);
    let mut rows = Vec::new();
    for (place, stands) in all().into_iter().enumerate() {
        let made = drink(stands.of)?;
        let mixture = format!("kept_demo_{place}");
        let of = (mixture.as_str(), None, Some(ids[stands.of].as_str()));
        let pattern =
            bottled(&made.name, &made, &cupboard, of).context("a demo drink can't be kept")?;
        let bottle = keen_core::keep::Bottle {
            vessel: stands.vessel,
            holds_ml: stands.holds,
            ml: stands.ml,
            place: stands.place,
            ..pattern
        };
        let now = bottle.state(&stands.moves, stands.ago, None);
        if !now.gone {
            let have = (now.ml * bottle.mixture.density() * 10.0).round() / 10.0;
            kitchen.larder.insert(mixture, Larder { have, ..Larder::default() });
            kitchen.mixtures.push(bottle.mixture.clone());
        }
        let gone_at = match stands.moves.last() {
            Some(last) if now.gone => Some(days_ago(stands.ago - last.at)?),
            _ => None,
        };
        let id =
            Uuid::from_u128(0x019b_0000_0000_7000_8000_0000_0000_0000 + place as u128).to_string();
        rows.push((
            KeptBottle {
                id,
                batch: None,
                drink: Some(ids[stands.of].clone()),
                name: bottle.name.clone(),
                body: BOTTLE.write(&bottle),
                put_at: days_ago(stands.ago)?,
                gone_at,
            },
            stands,
        ));
    }
    let kept: Vec<KeptBottle> = rows.iter().map(|(kept, _)| kept.clone()).collect();
    store.put_bottles(&kept, None)?;
    for (kept, stands) in &rows {
        for (n, happened) in stands.moves.iter().enumerate() {
            let what = KeptMove {
                at: days_ago(stands.ago - happened.at)?,
                body: MOVE.write(&happened.what),
            };
            store.move_bottle(&kept.id, &what, (n, kept.gone_at.as_deref()), None)?;
        }
    }
    Ok(())
}

fn with_amount(mut drink: Drink, ingredient: &str, amount: &str) -> Result<Drink> {
    let amount: Amount = amount.parse()?;
    for step in &mut drink.steps {
        if let Action::Add { ingredient: id, amount: was, .. } = &mut step.action
            && id == ingredient
        {
            *was = amount.clone();
        }
    }
    Ok(drink)
}

fn steeped(mut drink: Drink, time: f64) -> Drink {
    for step in &mut drink.steps {
        if let Action::Infuse { minutes, .. } = &mut step.action {
            *minutes = time;
        }
    }
    drink
}

/// The lemonade and the hibiscus cooler as they were before, what they are filed under, and how batches were liked.
pub(super) fn versions(store: &Store, ids: &[String]) -> Result<()> {
    let now = |place: usize| -> Result<Drink> {
        Ok(kept_drink(&store.drinks().read(&ids[place])?.body)?)
    };
    let (lemonade, hibiscus) = (now(0)?, now(2)?);
    let before = [
        (0, 93.0, "", 1, with_amount(lemonade.clone(), "white_sugar", "220 g")?),
        (
            0,
            62.0,
            "a little less sweet",
            2,
            with_amount(steeped(lemonade.clone(), 15.0), "white_sugar", "200 g")?,
        ),
        (0, 31.0, "", 1, steeped(lemonade.clone(), 15.0)),
        (
            2,
            85.0,
            "started for the allotment",
            1,
            steeped(with_amount(hibiscus.clone(), "white_sugar", "150 g")?, 12.0),
        ),
        (2, 45.0, "", 1, with_amount(hibiscus.clone(), "white_sugar", "150 g")?),
    ];
    for (place, id) in [(0, &ids[0]), (2, &ids[2])] {
        let mut rows = Vec::new();
        for (n, (_, ago, name, made, drink)) in before.iter().filter(|b| b.0 == place).enumerate() {
            rows.push(KeptVersion {
                version: n as i64 + 1,
                body: keen_formats::DRINK.write(drink),
                since: days_ago(*ago)?,
                name: (*name).to_owned(),
                made: *made,
                now: false,
            });
        }
        store.add_versions(id, &rows)?;
    }
    for (place, tags) in [
        (0, vec!["open day", "lemons"]),
        (1, vec!["open day"]),
        (2, vec!["open day", "no fresh fruit"]),
        (3, vec!["in bottles"]),
        (4, vec!["in bottles", "open day"]),
        (5, vec!["in bottles"]),
        (6, vec!["open day"]),
    ] {
        let tags: Vec<String> = tags.into_iter().map(str::to_owned).collect();
        store.set_tags(&ids[place], &tags)?;
    }
    let wanted = keen_store::Wanted { made: true, ..keen_store::Wanted::default() };
    for (batch, rating) in
        store.batches(&wanted, 20)?.iter().zip([5, 4, 3, 4, 5, 3, 4, 4, 5, 2, 4, 3, 4, 5])
    {
        store.rate_batch(&batch.id, Some(rating))?;
    }
    Ok(())
}
