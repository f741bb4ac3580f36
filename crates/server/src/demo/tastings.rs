//! The demo's tastings: five who taste at the open day, a row that was tasted to its end, two triangles, and the
//! pitcher for all. What they say is said by tongues that are made up, dealt by fixed seeds.

use anyhow::{Context, Result};
use jiff::{SignedDuration, Timestamp};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_core::drink::Drink;
use keen_core::quantity::Units;
use keen_core::taste::compare::Method;
use keen_core::taste::ladder::{Moves, Row, ladder};
use keen_core::taste::pretend::Pretend;
use keen_core::taste::sitting::{Compared, Sitting, Table, Tasted, Utterance};
use keen_core::taste::taster::{Avoid, Mark, Taster};
use keen_store::{KeptTaster, KeptTasting, KeptWord, Store, Uttering};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use uuid::Uuid;

use super::DRINKS;
use crate::api::{ReadTasting, TASTER, TASTING, WORD};

/// Who tastes: the name, the sign, the ratio that they like best, and how finely they tell.
const TASTERS: [(&str, Mark, f64, f64); 5] = [
    ("The beekeeper", Mark::Sun, 19.0, 5.0),
    ("The gatekeeper", Mark::Key, 12.5, 4.0),
    ("The bell-ringer", Mark::Bell, 15.0, 4.5),
    ("The night watering", Mark::Moon, 16.5, 3.5),
    ("The youngest weeder", Mark::Leaf, 24.0, 3.0),
];

fn id(place: u128) -> String {
    Uuid::from_u128(0x019b_0000_0000_7000_8000_0000_0000_0000 + place).to_string()
}

fn tasters() -> Vec<(String, Taster)> {
    TASTERS
        .iter()
        .enumerate()
        .map(|(i, (name, mark, ..))| {
            let taster = Taster {
                name: (*name).to_owned(),
                mark: *mark,
                avoids: if i == 3 { vec![Avoid::Honey] } else { Vec::new() },
                child: i == 4,
                notices_sweet: None,
                notices_sour: None,
            };
            (id(i as u128 + 1), taster)
        })
        .collect()
}

fn drink(place: usize) -> Result<Drink> {
    keen_formats::read_drink(DRINKS[place].as_bytes(), Cupboard::builtin())
        .context("a demo drink is no drink")
}

/// Keeps a tasting with what was said at it, a little while after each other.
fn keep(
    store: &Store,
    place: u128,
    name: &str,
    sitting: &Sitting,
    said: &[Utterance],
    days_ago: i64,
) -> Result<()> {
    let begun = Timestamp::now() - SignedDuration::from_hours(24 * days_ago);
    let mut kept = KeptTasting {
        id: id(place),
        name: name.to_owned(),
        body: TASTING.write(sitting),
        begun_at: begun.to_string(),
        summary: String::new(),
    };
    let words: Vec<KeptWord> = said
        .iter()
        .enumerate()
        .map(|(i, word)| KeptWord {
            place: i as i64,
            at: (begun + SignedDuration::from_secs(40 * i as i64)).to_string(),
            body: WORD.write(word),
        })
        .collect();
    let read = ReadTasting::of((kept.clone(), words.clone()))
        .map_err(|problem| anyhow::anyhow!("a demo tasting can't be read: {problem}"))?;
    kept.summary = read.summary(&Table::of(sitting, said).tells());
    store.begin_tasting(&kept, None)?;
    for (word, said) in words.iter().zip(said) {
        let taster = match said {
            Utterance::Answered { taster, .. } | Utterance::Chose { taster, .. } => Some(taster),
            _ => None,
        };
        store.utter(
            &kept.id,
            Uttering {
                body: &word.body,
                taster: taster.map(String::as_str),
                at: &word.at,
                key: None,
                after: word.place,
            },
        )?;
    }
    Ok(())
}

/// A blind row of the lemonade, from sour to sweet, tasted by all.
fn row(store: &Store, ids: &[String], cupboard: &Cupboard) -> Result<()> {
    let row = Row {
        drink: drink(0)?,
        moves: Moves::Sugar,
        glasses: 5,
        step: 1.25,
        middle: None,
        sample_ml: 60.0,
        tasters: ids.len() as u32,
        units: Units::AsWritten,
    };
    let poured = ladder(&row, cupboard)
        .map_err(|fault| anyhow::anyhow!("the demo's row can't be poured: {fault}"))?;
    let places: Vec<Option<f64>> = poured.glasses.iter().map(|g| g.x).collect();
    let mut sitting = Sitting {
        kind: Tasted::Ladder { row, ladder: poured },
        tasters: ids.to_vec(),
        seed: 48,
        dealt: None,
        blind: true,
    };
    let mut secret = StdRng::seed_from_u64(sitting.seed);
    sitting.deal(&mut secret);
    let mut said = vec![Utterance::Poured];
    let key = Table::of(&sitting, &said).key();
    let mut rng = StdRng::seed_from_u64(3);
    for (seat, who) in Table::of(&sitting, &[Utterance::Poured]).seats().iter().zip(ids) {
        let (.., ratio, fineness) = TASTERS[ids.iter().position(|id| id == who).unwrap_or(0)];
        let tongue = Pretend { fineness, ..Pretend::usual(ratio.ln()) };
        for glass in &seat.glasses {
            let line = key.iter().find(|line| line.code == glass.code);
            let Some(x) = line.and_then(|line| places[line.glass]) else { continue };
            let sip = tongue.says(x, &mut rng);
            said.push(Utterance::Answered {
                taster: who.clone(),
                code: glass.code.clone(),
                felt: sip.felt,
                liked: sip.liked,
            });
        }
    }
    said.push(Utterance::Broken);
    keep(store, 20, "Lemon verbena lemonade: five glasses, sour to sweet", &sitting, &said, 12)
}

/// A triangle of two drinks between which the difference is `d`, three times for each taster.
fn triangle(
    store: &Store,
    ids: &[String],
    place: u128,
    (first, second): (&str, &str),
    d: f64,
    days_ago: i64,
) -> Result<()> {
    const TIMES: u32 = 3;
    let compared = Compared {
        method: Method::Triangle,
        first: first.to_owned(),
        second: second.to_owned(),
        more: String::new(),
        times: TIMES,
        sample_ml: 60.0,
    };
    let mut sitting = Sitting {
        kind: Tasted::Compare(compared),
        tasters: ids.to_vec(),
        seed: 100 + place as u64,
        dealt: None,
        blind: true,
    };
    let mut secret = StdRng::seed_from_u64(sitting.seed);
    sitting.deal(&mut secret);
    let mut said = vec![Utterance::Poured];
    let key = Table::of(&sitting, &said).key();
    let mut rng = StdRng::seed_from_u64(place as u64);
    for nth in 0..TIMES {
        for who in ids {
            let mine: Vec<_> =
                key.iter().filter(|l| l.nth == nth && l.taster.as_ref() == Some(who)).collect();
            let odd = |code: &str| {
                let of = mine.iter().find(|l| l.code == code).map(|l| l.glass);
                mine.iter().filter(|l| Some(l.glass) == of).count() == 1
            };
            let finds = rng.random_bool(Method::Triangle.share_right(d));
            let chosen = mine.iter().find(|l| odd(&l.code) == finds).map(|l| l.code.clone());
            let Some(code) = chosen else { continue };
            said.push(Utterance::Chose { taster: who.clone(), code, nth: Some(nth), tried: None });
        }
    }
    said.push(Utterance::Broken);
    let name = format!("{first} and {}", second.to_lowercase());
    keep(store, place, &name, &sitting, &said, days_ago)
}

/// Puts the demo's tastings on a shelf.
pub(super) fn fill(store: &Store, kitchen: &Kitchen) -> Result<()> {
    let cupboard = Cupboard::of(kitchen);
    let all = tasters();
    for (place, (id, taster)) in all.iter().enumerate() {
        let at = Timestamp::now() - SignedDuration::from_hours(24 * 40 - place as i64);
        let kept = KeptTaster {
            id: id.clone(),
            body: TASTER.write(taster),
            created_at: at.to_string(),
            changed_at: at.to_string(),
        };
        store.add_taster(&kept, None)?;
    }
    let ids: Vec<String> = all.into_iter().map(|(id, _)| id).collect();
    row(store, &ids, &cupboard)?;
    triangle(store, &ids, 21, ("Peel left overnight", "Zest grated in"), 2.6, 9)?;
    triangle(store, &ids, 22, ("Hibiscus steeped 12 minutes", "Steeped 15 minutes"), 0.2, 6)?;
    let pitcher = Sitting {
        kind: Tasted::Pitcher { drink: drink(0)? },
        tasters: ids,
        seed: 1,
        dealt: None,
        blind: false,
    };
    keep(store, 23, "The lemonade for the five at the stall", &pitcher, &[], 2)
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::taste::compare::Shown;

    #[test]
    fn one_triangle_found_a_difference_and_one_did_not() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("k.db")).unwrap();
        fill(&store, &Kitchen::default()).unwrap();
        let verdict = |place: u128| {
            let (kept, words) = store.tasting(&id(place)).unwrap();
            let sitting: Sitting = TASTING.read(&kept.body).unwrap();
            let said: Vec<Utterance> = words.iter().map(|w| WORD.read(&w.body).unwrap()).collect();
            Table::of(&sitting, &said).tells().verdict.unwrap()
        };
        assert_eq!(verdict(21).finding, Shown::Different, "{:?}", verdict(21));
        assert_eq!(verdict(22).finding, Shown::NotShown, "{:?}", verdict(22));
    }

    #[test]
    fn each_ideal_lies_where_its_tongue_has_it() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("k.db")).unwrap();
        fill(&store, &Kitchen::default()).unwrap();
        let (kept, words) = store.tasting(&id(20)).unwrap();
        let sitting: Sitting = TASTING.read(&kept.body).unwrap();
        let said: Vec<Utterance> = words.iter().map(|w| WORD.read(&w.body).unwrap()).collect();
        let ideals = Table::of(&sitting, &said).tells().ideals;
        for (ideal, (name, _, ratio, _)) in ideals.iter().zip(TASTERS) {
            let off = (ideal.middle / ratio).ln() / ideal.ideal.sd;
            assert!(off.abs() < 2.5, "{name}: {} for {ratio}", ideal.middle);
        }
    }
}
