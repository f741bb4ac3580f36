//! The colour of a liquid as it stands in a vessel: three-band Beer–Lambert.

use std::fmt;
use std::str::FromStr;

use super::{Component, Mixture};
use crate::quantity::Celsius;

/// Depth of liquid that light crosses on its way to the eye, cm. One depth for all vessels, so that
/// the same liquid has the same colour wherever it is drawn.
const DEPTH_CM: f64 = 3.5;
/// The share of light that the glass and the surface send back, so that no liquid is quite black.
const GLOSS: f64 = 0.018;
/// The least share of light that a band is taken to let through, so that black has a logarithm.
const DARKEST: f64 = 0.002;

/// A colour in sRGB.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Rgb(pub u8, pub u8, pub u8);

/// Absorbance per cm in the red, green and blue band.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Absorbance(pub [f64; 3]);

impl FromStr for Rgb {
    type Err = std::num::ParseIntError;
    /// Reads `#rrggbb`.
    fn from_str(text: &str) -> Result<Self, Self::Err> {
        let bits = u32::from_str_radix(text.trim_start_matches('#'), 16)?;
        Ok(Self((bits >> 16) as u8, (bits >> 8) as u8, bits as u8))
    }
}

impl fmt::Display for Rgb {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "#{:02x}{:02x}{:02x}", self.0, self.1, self.2)
    }
}

fn to_linear(channel: u8) -> f64 {
    let c = f64::from(channel) / 255.0;
    if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) }
}

fn from_linear(light: f64) -> u8 {
    let c =
        if light <= 0.003_130_8 { light * 12.92 } else { 1.055 * light.powf(1.0 / 2.4) - 0.055 };
    (c * 255.0).round().clamp(0.0, 255.0) as u8
}

impl Absorbance {
    /// What absorbs so that white light through 1 cm looks like `seen`.
    #[must_use]
    pub(crate) fn through_one_cm(seen: Rgb) -> Self {
        Self([seen.0, seen.1, seen.2].map(|c| -to_linear(c).max(DARKEST).log10()))
    }
}

/// Anthocyanin by pH: what the three bands absorb for each unit of green absorbance under pH 3.
///
/// Red flavylium below 3, mostly colourless hemiketal around 4.5, mauve to blue quinoidal forms
/// from 6. Shapes after Da-Costa-Rocha 2014; the three-band shares are estimates by eye.
fn anthocyanin(ph: f64) -> [f64; 3] {
    const AT: [(f64, [f64; 3]); 4] = [
        (3.0, [0.04, 1.0, 0.55]),
        (4.5, [0.05, 0.40, 0.16]),
        (6.0, [0.25, 0.45, 0.14]),
        (7.5, [0.55, 0.50, 0.12]),
    ];
    let after = AT.iter().position(|(at, _)| ph < *at);
    match after {
        Some(0) => AT[0].1,
        None => AT[AT.len() - 1].1,
        Some(i) => {
            let ((low, from), (high, to)) = (AT[i - 1], AT[i]);
            let share = (ph - low) / (high - low);
            std::array::from_fn(|band| from[band] + share * (to[band] - from[band]))
        }
    }
}

impl Mixture {
    /// How cloudy it is, from 0 (clear) to 1 (nothing shows through).
    ///
    /// Suspended matter and fat scatter light; the strength for a gram in a litre is an estimate by
    /// eye (a lemonade of 0.1 g/l pulp is faintly hazy, one of 2 g/l is not to be seen through).
    #[must_use]
    pub(crate) fn haze(&self) -> f64 {
        let litres = self.volume(Celsius(20.0)).0 / 1000.0;
        if litres <= 0.0 {
            return 0.0;
        }
        let scatter = 0.9 * self[Component::Insoluble]
            + 0.35 * self[Component::Fat]
            + 0.06 * self[Component::Protein];
        1.0 - (-scatter / litres).exp()
    }

    /// The colour that it shows in a vessel.
    #[must_use]
    pub fn colour(&self) -> Rgb {
        let volume = self.volume(Celsius(20.0)).0;
        if volume <= 0.0 {
            return Rgb(238, 245, 248);
        }
        let shift = match self[Component::Anthocyanin] {
            none if none <= 0.0 => [0.0; 3],
            _ => anthocyanin(self.ph().unwrap_or(7.0)),
        };
        let haze = self.haze();
        // Cloudy liquid sends light back before it has gone all the way.
        let depth = DEPTH_CM * (1.0 - 0.7 * haze);
        let bands = [Component::AbsorbRed, Component::AbsorbGreen, Component::AbsorbBlue];
        // Plain water in a white kitchen looks faintly blue; pulp sends back a warm white.
        let clear = [0.86, 0.92, 0.95];
        let pulp = [0.98, 0.955, 0.90];
        let [r, g, b] = std::array::from_fn(|band| {
            let absorbance =
                (self[bands[band]] + self[Component::Anthocyanin] * shift[band]) / volume;
            let ground = clear[band] + haze * (pulp[band] - clear[band]);
            from_linear(GLOSS + (1.0 - GLOSS) * ground * 10f64.powf(-absorbance * depth))
        });
        Rgb(r, g, b)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_colour_survives_reading_and_writing() {
        assert_eq!("#c2183a".parse::<Rgb>().unwrap().to_string(), "#c2183a");
        assert!("pink".parse::<Rgb>().is_err());
    }

    #[test]
    fn hibiscus_turns_from_red_to_mauve_as_acid_is_taken_away() {
        let mut drink = Mixture::of(&[
            (Component::Water, 1000.0),
            (Component::Citric, 5.0),
            (Component::Anthocyanin, 300.0),
        ]);
        let Rgb(red, green, blue) = drink.colour();
        assert!(
            red > 180 && f64::from(red) > 1.6 * f64::from(u8::max(green, blue)),
            "{red} {green} {blue}"
        );
        drink[Component::StrongIons] = 80.0;
        let Rgb(red, _, blue) = drink.colour();
        assert!(blue > red, "at pH {:?} {red} {blue}", drink.ph());
    }

    #[test]
    fn more_water_makes_it_paler() {
        let juice = Mixture::of(&[(Component::Water, 100.0), (Component::AbsorbBlue, 50.0)]);
        let mut thin = juice;
        thin += Mixture::of(&[(Component::Water, 400.0)]);
        assert!(thin.colour().2 > juice.colour().2);
    }
}
