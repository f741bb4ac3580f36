//! The demo's shelf: what Fallow Lane Gardens serves at its open day.

use anyhow::{Context, Result};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_store::{Draft, Store};
use uuid::Uuid;

use crate::api::keep_kitchen;

/// The drinks, the one changed last first.
const DRINKS: [&str; 10] = [
    include_str!("../../../demo/lemon-verbena-lemonade.json"),
    include_str!("../../../demo/melon-and-lime-agua-fresca.json"),
    include_str!("../../../demo/hibiscus-and-bay-orange-cooler.json"),
    include_str!("../../../demo/rhubarb-and-vanilla-syrup.json"),
    include_str!("../../../demo/ginger-and-lemongrass-syrup.json"),
    include_str!("../../../demo/blackcurrant-vinegar-cordial.json"),
    include_str!("../../../demo/mandarin-fizz.json"),
    include_str!("../../../demo/creamy-whole-lime-cooler.json"),
    include_str!("../../../demo/tamarind-cooler.json"),
    include_str!("../../../demo/mint-and-cucumber-water.json"),
];

/// The borrowed kitchen of the open day: two rings, one blender, and what its fruit gave so far.
const KITCHEN: &str = include_str!("../../../demo/kitchen.json");

/// The kitchen as it is kept.
fn kitchen() -> Result<Kitchen> {
    serde_json::from_str(KITCHEN).context("the demo's kitchen can't be read")
}

/// Puts the demo's drinks on a shelf that never held any.
pub(crate) fn fill(store: &Store) -> Result<()> {
    if !store.is_new()? {
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
    store.fill(&drafts)?;
    keep_kitchen(store, &kitchen()?)?;
    Ok(())
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
        let (before, first) = store.list("", 1).unwrap();
        store.delete(&first[0].id, "2030-01-01T00:00:00Z").unwrap();
        fill(&store).unwrap();
        assert_eq!(store.list("", 1).unwrap().0, before - 1);
    }
}
