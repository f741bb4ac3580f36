//! The demo's shelf: what Fallow Lane Gardens serves at its open day.

mod batches;
mod kept;
mod tastings;

pub(crate) use batches::text as batches_text;

use anyhow::{Context, Result};
use jiff::civil::{Date, Weekday};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_core::plan::Means;
use keen_core::quantity::Amount;
use keen_core::scale::Size;
use keen_formats::{Night, PLAN, PlanFile, PlannedDrink};
use keen_store::{Draft, Store};
use uuid::Uuid;

use crate::api::{keep_kitchen, keep_settings};

/// The drinks, the one changed last first.
const DRINKS: [&str; 10] = [
    include_str!("../../../../demo/lemon-verbena-lemonade.json"),
    include_str!("../../../../demo/melon-and-lime-agua-fresca.json"),
    include_str!("../../../../demo/hibiscus-and-bay-orange-cooler.json"),
    include_str!("../../../../demo/rhubarb-and-vanilla-syrup.json"),
    include_str!("../../../../demo/ginger-and-lemongrass-syrup.json"),
    include_str!("../../../../demo/blackcurrant-vinegar-cordial.json"),
    include_str!("../../../../demo/mandarin-fizz.json"),
    include_str!("../../../../demo/creamy-whole-lime-cooler.json"),
    include_str!("../../../../demo/tamarind-cooler.json"),
    include_str!("../../../../demo/mint-and-cucumber-water.json"),
];

/// The borrowed kitchen of the open day: two rings, one blender, and what its fruit gave so far.
const KITCHEN: &str = include_str!("../../../../demo/kitchen.json");

/// What is served at the open day, at which size: the entry, its drink's place above, how many glasses.
/// A syrup is made as it is written.
const SERVED: [(&str, usize, Option<u32>); 5] = [
    ("a", 0, Some(14)),
    ("b", 2, Some(14)),
    ("c", 1, Some(14)),
    ("d", 4, None),
    ("e", 6, Some(10)),
];

/// The open day: three o'clock on midsummer's Saturday, for forty-eight. The peels of the fizz and the syrup
/// are made on Friday evening.
fn open_day(ids: &[String], names: &[String], today: Date) -> Result<PlanFile> {
    let drinks = SERVED
        .iter()
        .map(|(id, place, glasses)| PlannedDrink {
            id: (*id).to_owned(),
            drink: ids[*place].clone(),
            name: names[*place].clone(),
            size: glasses.map(|glasses| Size::Glasses {
                glasses,
                size: Amount::millilitres(if *id == "e" { 210.0 } else { 200.0 }),
            }),
            serving: None,
            water_bath: Vec::new(),
        })
        .collect();
    Ok(PlanFile {
        name: "Midsummer open day".into(),
        note: "Forty-eight visitors; two burners and one blender.".into(),
        serving: midsummer(today)?.at(15, 0, 0, 0).strftime("%Y-%m-%dT%H:%M").to_string(),
        drinks,
        means: Means { cooks: 2, rings: 2, refrigerator_l: 40.0 },
        night: Some(Night { from: "22:00".into(), to: "07:00".into() }),
        spoken_for: Vec::new(),
        holds: Vec::new(),
        stood: Vec::new(),
        after: Vec::new(),
        ahead: vec!["d/s11".into()],
        guests: Vec::new(),
    })
}

/// The Saturday of the next midsummer: that between the 20th and the 26th of June.
fn midsummer(today: Date) -> Result<Date> {
    let of = |year: i16| -> Result<Date> {
        let eve = Date::new(year, 6, 19)?;
        Ok(eve.nth_weekday(1, Weekday::Saturday)?)
    };
    let this_year = of(today.year())?;
    if this_year > today { Ok(this_year) } else { of(today.year() + 1) }
}

/// The kitchen as it is kept.
fn kitchen() -> Result<Kitchen> {
    serde_json::from_str(KITCHEN).context("the demo's kitchen can't be read")
}

/// Puts the demo's drinks on a shelf that never held any.
pub(crate) fn fill(store: &Store) -> Result<()> {
    if !store.drinks().is_new()? {
        return Ok(());
    }
    let mut rows = Vec::new();
    for (i, text) in DRINKS.iter().enumerate() {
        let drink = keen_formats::read_drink(text.as_bytes(), Cupboard::builtin())
            .context("a demo drink is no drink")?;
        let body = keen_formats::DRINK.write(&drink);
        let now = (jiff::Timestamp::now() - jiff::Span::new().hours(20 * i as i64)).to_string();
        rows.push((Uuid::now_v7().to_string(), drink.name, body, now));
    }
    let drafts: Vec<(String, Draft<'_>)> = rows
        .iter()
        .map(|(id, name, body, now)| (id.clone(), Draft { name, body, now, key: None }))
        .collect();
    store.drinks().fill(&drafts)?;
    let ids: Vec<String> = rows.iter().map(|(id, ..)| id.clone()).collect();
    let names: Vec<String> = rows.iter().map(|(_, name, ..)| name.clone()).collect();
    let plan = open_day(&ids, &names, jiff::Zoned::now().date())?;
    let (body, now) = (PLAN.write(&plan), jiff::Timestamp::now().to_string());
    let draft = Draft { name: &plan.name, body: &body, now: &now, key: None };
    store.plans().create(&Uuid::now_v7().to_string(), draft)?;
    let mut kitchen = kitchen()?;
    batches::fill(store, &ids, &mut kitchen)?;
    kept::versions(store, &ids)?;
    kept::bottles(store, &ids, &mut kitchen)?;
    keep_kitchen(store, &kitchen)?;
    keep_settings(store)?;
    tastings::fill(store, &kitchen)
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::report::DrinkReport;
    use keen_core::trace::Severity;

    /// Each must be a drink that its makers would serve: it runs without a complaint, lies on the
    /// ground of its family, and fits its glasses.
    #[test]
    fn each_drink_is_believable_by_its_own_figures() {
        let here = Cupboard::of(&kitchen().unwrap());
        for (text, cupboard) in DRINKS.iter().flat_map(|t| [(t, Cupboard::builtin()), (t, &here)]) {
            let drink = keen_formats::read_drink(text.as_bytes(), cupboard).unwrap();
            let name = &drink.name;
            let report = DrinkReport::of(&drink, cupboard);
            for frame in &report.frames {
                let worst = frame.notices.iter().find(|n| n.severity > Severity::Hint);
                assert_eq!(worst, None, "{name}: {}", frame.sentence);
            }
            let point = report.map.point.expect("there is something to drink");
            let typical = report.map.typical;
            assert!(
                point.sweetness > typical.sweetness_from - 1.5
                    && point.sweetness < typical.sweetness_to + 1.5
                    && point.acidity > typical.acidity_from * 0.8
                    && point.acidity < typical.acidity_to * 1.2,
                "{name} lies at {point:?}, usual is {typical:?}"
            );
        }
    }

    #[test]
    fn the_kitchen_is_one_that_can_be() {
        assert_eq!(kitchen().unwrap().check(), []);
    }

    #[test]
    fn a_shelf_in_use_is_left_alone() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("k.db")).unwrap();
        fill(&store).unwrap();
        let (before, first) = store.drinks().list("", 1).unwrap();
        store.drinks().delete(&first[0].id, "2030-01-01T00:00:00Z").unwrap();
        fill(&store).unwrap();
        assert_eq!(store.drinks().list("", 1).unwrap().0, before - 1);
    }
}
