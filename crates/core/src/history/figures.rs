//! The figures that a drink had, beside those that it has.
//!
//! A better table or a better law changes what is worked out for a drink that nobody touched. Who has come to trust
//! "10 g in 100 g, keeps three days" should be told once that it is now another figure, and that the recipe isn't to
//! blame.

use serde::{Deserialize, Serialize};

use crate::balance::{Palate, Profile, Spot};
use crate::cupboard::Cupboard;
use crate::drink::Drink;
use crate::keep::Keeping;
use crate::trace::Trace;

/// What a cook goes by: where a drink lies, how much it comes to and how long it keeps.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Figures {
    /// Sweetness, g in 100 g.
    pub sweetness: f64,
    /// Acidity, g in 100 g.
    pub acidity: f64,
    /// Total volume, ml.
    pub volume_ml: f64,
    /// Days in the refrigerator; none while there is nothing to keep.
    pub days: Option<u32>,
}

/// A volume that differs by less goes unnoticed.
const SAME_VOLUME: f64 = 0.05;

impl Figures {
    /// Those of a drink that has been run; none while there is nothing to drink.
    #[must_use]
    pub fn of(drink: &Drink, cupboard: &Cupboard, trace: &Trace) -> Option<Self> {
        let profile = trace.outcome().and_then(Profile::of)?;
        Some(Self {
            sweetness: profile.sweetness_percent,
            acidity: profile.acidity_percent,
            volume_ml: profile.volume_ml,
            days: Keeping::of(drink, cupboard, trace).map(|k| k.days),
        })
    }

    /// What is told of a drink that nobody changed, and whose figures are others than they were: nothing where nobody
    /// would notice.
    #[must_use]
    pub fn changed_from(&self, was: &Self) -> Option<String> {
        let least = Palate::USUAL.least(Spot { sweetness: was.sweetness, acidity: was.acidity });
        let mut changes = Vec::new();
        if (self.sweetness - was.sweetness).abs() > least.sweetness {
            changes.push(format!(
                "sweetness {:.1} g in 100 g instead of {:.1}",
                self.sweetness, was.sweetness
            ));
        }
        if (self.acidity - was.acidity).abs() > least.acidity {
            changes
                .push(format!("acid {:.2} g in 100 g instead of {:.2}", self.acidity, was.acidity));
        }
        if (self.volume_ml - was.volume_ml).abs() > SAME_VOLUME * was.volume_ml.max(1.0) {
            changes.push(format!("{:.0} ml instead of {:.0} ml", self.volume_ml, was.volume_ml));
        }
        if let (Some(is), Some(was)) = (self.days, was.days)
            && is != was
        {
            let days = if is == 1 { "day" } else { "days" };
            changes.push(format!("keeps {is} {days} instead of {was}"));
        }
        (!changes.is_empty()).then(|| {
            format!(
                "We improved our tables. The recipe is the same, but we now expect: {}.",
                changes.join("; ")
            )
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const WAS: Figures =
        Figures { sweetness: 10.0, acidity: 0.6, volume_ml: 1000.0, days: Some(3) };

    #[test]
    fn only_what_is_noticed_is_told() {
        let near = Figures { sweetness: 10.9, acidity: 0.66, volume_ml: 1040.0, ..WAS };
        assert_eq!(near.changed_from(&WAS), None);
        let sweeter = Figures { sweetness: 11.2, ..WAS }.changed_from(&WAS).unwrap();
        assert!(sweeter.contains("11.2") && sweeter.contains("10.0") && !sweeter.contains("acid"));
        let shorter = Figures { days: Some(1), ..WAS }.changed_from(&WAS).unwrap();
        assert!(shorter.contains("keeps 1 day instead of 3"), "{shorter}");
        let all = Figures { acidity: 0.4, volume_ml: 900.0, ..WAS }.changed_from(&WAS).unwrap();
        assert!(all.contains("0.40") && all.contains("900 ml instead of 1000 ml"), "{all}");
    }
}
