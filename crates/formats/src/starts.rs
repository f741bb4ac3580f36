use keen_core::drink::Drink;
use serde::Serialize;

use crate::read_drink;

/// A drink to begin from.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Start {
    /// Stable name.
    pub id: &'static str,
    /// What it is called.
    pub name: &'static str,
    /// What it is for.
    pub description: &'static str,
    /// The drink, ready to be changed.
    pub drink: Drink,
}

const STARTS: [(&str, &str, &str, &str); 5] = [
    (
        "lemonade",
        "Lemonade",
        "Citrus squeezed, sugar stirred in, water to the line.",
        include_str!("starts/lemonade.json"),
    ),
    (
        "fruit_water",
        "Blended fruit water",
        "Fruit blended with water, strained, sharpened with lime.",
        include_str!("starts/fruit_water.json"),
    ),
    (
        "infusion",
        "Infusion",
        "Dried calyces in hot water, left to draw, strained and sweetened.",
        include_str!("starts/infusion.json"),
    ),
    (
        "syrup",
        "Syrup",
        "Sugar and water heated with fruit or root, strained into a bottle.",
        include_str!("starts/syrup.json"),
    ),
    (
        "blank",
        "Blank",
        "A pitcher and a glass, nothing in them.",
        include_str!("starts/blank.json"),
    ),
];

/// Drinks to begin from, each one that works as it is.
///
/// # Panics
/// Never: they ship with the program, and a test reads each of them.
#[must_use]
pub fn starting_points() -> Vec<Start> {
    STARTS
        .into_iter()
        .map(|(id, name, description, text)| Start {
            id,
            name,
            description,
            drink: read_drink(text.as_bytes()).expect("starting points are drinks"),
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::cupboard::Cupboard;
    use keen_core::report::DrinkReport;
    use keen_core::trace::Severity;

    #[test]
    fn each_runs_without_a_complaint_and_tastes_of_its_family() {
        for start in starting_points() {
            let report = DrinkReport::of(&start.drink, Cupboard::builtin());
            for frame in &report.frames {
                let worst = frame.notices.iter().find(|n| n.severity > Severity::Hint);
                assert_eq!(worst, None, "{}", start.id);
            }
            if start.id == "blank" {
                assert!(report.profile.is_none());
                continue;
            }
            let point = report.map.point.clone().unwrap();
            let typical = report.map.typical;
            assert!(
                (typical.sweetness_from..=typical.sweetness_to).contains(&point.sweetness)
                    && (typical.acidity_from..=typical.acidity_to).contains(&point.acidity),
                "{} lies at {point:?}",
                start.id
            );
        }
    }
}
