//! Matching a drink that is there: what was measured of it, and how it tastes beside one's own, as a target
//! with its uncertainty.

use serde::{Deserialize, Serialize};

use crate::balance::{Doubt, Palate, Spot, acid_at};
use crate::chance::Range;
use crate::fault::FieldError;

/// The measurements of a drink to match.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Reference {
    /// Its name.
    pub name: String,
    /// °Brix by a refractometer, 0 to 75.
    pub brix: Option<f64>,
    /// Titratable acidity as citric, g in 100 g, 0 to 8.
    pub acidity: Option<f64>,
    /// pH, if acidity isn't known, 1.5 to 9.
    pub ph: Option<f64>,
    /// Alcohol, % vol, 0 to 40.
    pub alcohol: Option<f64>,
    /// Its taste beside ours: the qualities that are stronger in it.
    pub beside: Vec<Doubt>,
}

/// The likely range on the map.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Likely {
    /// Sweetness, g in 100 g; missing if unknown.
    pub sweetness: Option<Range>,
    /// Acidity, g in 100 g.
    pub acidity: Option<Range>,
    /// Alcohol, % vol.
    pub alcohol: Option<f64>,
    /// The basis of the range, in a sentence.
    pub rests_on: String,
}

/// °Brix tells sweetness to this, as ln: sugars differ in how sweet they are, and not all that is dissolved is
/// sugar. Estimated.
const BY_BRIX: f64 = 0.07;
/// An acid kit is good to a drop in twenty.
const BY_DROPS: f64 = 0.05;
/// pH tells acidity to within about a third, since it depends on what buffers it. Estimated.
const BY_PH: f64 = 0.3;

impl Reference {
    /// Whether it can be.
    ///
    /// # Errors
    /// Names the reading that can't.
    pub fn check(&self) -> Result<(), FieldError> {
        for (name, value, least, most) in [
            ("brix", self.brix, 0.0, 75.0),
            ("acidity", self.acidity, 0.0, 8.0),
            ("ph", self.ph, 1.5, 9.0),
            ("alcohol", self.alcohol, 0.0, 40.0),
        ] {
            if value.is_some_and(|v| !v.is_finite() || !(least..=most).contains(&v)) {
                let message = format!("Enter {least} to {most}.");
                return Err(FieldError { field: format!("reference.{name}"), message });
            }
        }
        Ok(())
    }

    /// Where it is, from its readings and from how it tastes beside ours, each by how much it tells.
    #[must_use]
    pub fn likely(&self, ours: Option<Spot>) -> Likely {
        // Words ask for a change; here they say what the other one is.
        let Spot { sweetness: less_sweet, acidity: less_sour } = Palate::USUAL.felt(&self.beside);
        let tasted = !self.beside.is_empty();
        let acid = self.acidity.map(|a| (a, BY_DROPS)).or(self.ph.map(|ph| (acid_at(ph), BY_PH)));
        let sour = acid.map_or(0.0, |(a, _)| a);
        let sweet = self.brix.map(|brix| ((brix - sour).max(0.05), BY_BRIX));
        let beside = |of: f64, factor: f64, part: f64| (of / factor, (1.0 + part).ln() * 1.3);
        let ours = ours.filter(|_| tasted);
        let sweetness =
            [sweet, ours.map(|o| beside(o.sweetness, less_sweet, Palate::USUAL.sweetness))];
        let acidity = [acid, ours.map(|o| beside(o.acidity, less_sour, Palate::USUAL.acidity))];
        let mut said = Vec::new();
        if self.brix.is_some() {
            said.push("°Brix");
        }
        match (self.acidity, self.ph) {
            (Some(_), _) => said.push("acidity"),
            (None, Some(_)) => said.push("pH, which gives acidity only within a third"),
            _ => {}
        }
        if tasted {
            said.push("how it tastes beside yours");
        }
        Likely {
            sweetness: together(&sweetness),
            acidity: together(&acidity),
            alcohol: self.alcohol,
            rests_on: match said.len() {
                0 => "Enter at least one reading.".into(),
                _ => format!("From {}.", said.join(" and ")),
            },
        }
    }
}

/// Several figures of one thing, each with its relative uncertainty, as one.
fn together(figures: &[Option<(f64, f64)>]) -> Option<Range> {
    let known = || figures.iter().flatten().filter(|(value, _)| *value > 0.0);
    let weight: f64 = known().map(|(_, sd)| 1.0 / (sd * sd)).sum();
    if weight <= 0.0 {
        return None;
    }
    let middle = known().map(|(value, sd)| value.ln() / (sd * sd)).sum::<f64>() / weight;
    // Eight in ten.
    let by = 1.2816 / weight.sqrt();
    Some(Range { low: (middle - by).exp(), middle: middle.exp(), high: (middle + by).exp() })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::balance::{How, Word};

    #[test]
    fn what_is_measured_and_what_is_tasted_count_by_how_much_they_tell() {
        let ours = Spot { sweetness: 10.0, acidity: 0.6 };
        let doubt = Doubt { too: Word::Sweet, how: How::Touch };
        let tasted = Reference { beside: vec![doubt], ..Reference::default() };
        let found = tasted.likely(Some(ours));
        let sweet = found.sweetness.unwrap();
        assert!((sweet.middle - 11.0).abs() < 1e-9, "a touch sweeter is a tenth: {sweet:?}");
        let measured = Reference { brix: Some(13.0), acidity: Some(0.5), ..tasted.clone() };
        let both = measured.likely(Some(ours));
        let sweet = both.sweetness.unwrap();
        assert!(
            sweet.middle > 11.0
                && sweet.middle < 12.5
                && sweet.high < found.sweetness.unwrap().high * 1.2
        );
        let by_ph = Reference { ph: Some(2.6), ..Reference::default() }.likely(None);
        let acid = by_ph.acidity.unwrap();
        assert!(acid.high / acid.low > 1.8, "pH tells little: {acid:?}");
        assert_eq!(by_ph.sweetness, None);
        assert!(Reference { ph: Some(0.2), ..Reference::default() }.check().is_err());
    }
}
