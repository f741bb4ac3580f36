//! pH and titratable acidity from the charge balance.

use std::sync::LazyLock;

use super::{Component, Mixture};
use crate::quantity::{Celsius, Grams};
use crate::root;

/// Dissociation constants at 25 °C as pK (CRC handbook), and the mass of a mole, g.
const ACIDS: [(Component, f64, &[f64]); 7] = [
    (Component::Citric, 192.12, &[3.13, 4.76, 6.40]),
    (Component::Malic, 134.09, &[3.40, 5.11]),
    (Component::Tartaric, 150.09, &[2.98, 4.34]),
    (Component::Acetic, 60.05, &[4.76]),
    (Component::Lactic, 90.08, &[3.86]),
    (Component::Ascorbic, 176.12, &[4.17]),
    // Booked as citric equivalents, so it behaves as citric acid.
    (Component::OtherAcid, 192.12, &[3.13, 4.76, 6.40]),
];
/// Milk and fruit hold their pH by more than their acids: side groups of proteins and amino acids around pK 4.6,
/// phosphate at 6.8. A gram of milk protein brings about one mmol of both with its phosphate: so much that 3 g of
/// citric acid bring a litre to pH 5.2, and that milk titrates as 0.14 to 0.18 % lactic acid (Walstra).
const BUFFER: (Component, f64, &[f64]) = (Component::Buffer, 1000.0, &[4.6, 6.8]);
const CARBONIC: &[f64] = &[6.35, 10.33];
pub(crate) const CARBON_DIOXIDE_G_PER_MOL: f64 = 44.01;
/// Where a titration with an indicator or a meter is stopped.
const END_POINT: f64 = 8.2;
/// Grams of citric acid that one equivalent of base neutralises (192.12 / 3).
pub(crate) const CITRIC_G_PER_EQUIVALENT: f64 = 64.04;

/// Grams of citric acid that neutralise as much base as a gram of each acid.
static AS_CITRIC: LazyLock<[(Component, f64); 7]> = LazyLock::new(|| {
    let h = 10f64.powf(-END_POINT);
    ACIDS.map(|(acid, molar, constants)| {
        (acid, dissociated(h, &products(constants)) / molar * CITRIC_G_PER_EQUIVALENT)
    })
});

/// What gives off protons in a drink: its mass of a mole, g, and its constants.
static ALL: LazyLock<[(Component, f64, Products); ALL_AND_CARBONIC - 1]> = LazyLock::new(|| {
    let known = |(acid, molar, constants)| (acid, molar, products(constants));
    let [a, b, c, d, e, f, g] = ACIDS.map(known);
    [a, b, c, d, e, f, g, known(BUFFER)]
});
/// How many there are with carbonic acid.
const ALL_AND_CARBONIC: usize = ACIDS.len() + 2;
static CARBONIC_ACID: LazyLock<Products> = LazyLock::new(|| products(CARBONIC));

/// Acids and strong ions per litre of water, ready for the charge balance.
#[derive(Debug, Clone)]
struct Ions {
    /// Each acid's moles per litre with its constants; none of what isn't there. On the stack: a drink's run asks for
    /// the pH of everything that stands somewhere.
    acids: [(f64, Products); ALL_AND_CARBONIC],
    /// How many of them there are.
    present: usize,
    /// Strong cations less strong anions, equivalents per litre.
    strong: f64,
}

impl Ions {
    fn new(all: impl Iterator<Item = (f64, Products)>, strong: f64) -> Self {
        let mut acids = [(0.0, [0.0; 3]); ALL_AND_CARBONIC];
        let mut present = 0;
        for (place, acid) in acids.iter_mut().zip(all) {
            *place = acid;
            present += 1;
        }
        Ions { acids, present, strong }
    }

    /// Acids dissociated at a hydrogen-ion concentration, equivalents per litre.
    fn given_off(&self, h: f64) -> f64 {
        self.acids[..self.present].iter().map(|(c, k)| c * dissociated(h, k)).sum()
    }
}

/// The products K₁, K₁K₂, … of an acid's dissociation constants, 0 beyond its last.
type Products = [f64; 3];

fn products(constants: &[f64]) -> Products {
    let mut pk = 0.0;
    let mut products = [0.0; 3];
    for (product, k) in products.iter_mut().zip(constants) {
        pk += k;
        *product = 10f64.powf(-pk);
    }
    products
}

/// Mean number of protons that a molecule has given off at hydrogen-ion concentration `h`:
/// Σ n Kₙ/hⁿ over 1 + Σ Kₙ/hⁿ, with Kₙ the product of the first n constants. Both are multiplied by h³, which leaves
/// one division of four: a pH asks this some fifty times.
fn dissociated(h: f64, [first, second, third]: &Products) -> f64 {
    let above = (first * h + 2.0 * second) * h + 3.0 * third;
    let below = ((h + first) * h + second) * h + third;
    above / below
}

/// pH of a solution, between 0 and 14.
///
/// The root of `[H⁺] + strong ions = dissociated acids + [OH⁻]`, which is monotone in pH. No
/// correction for activity: good to about 0.1, and found to a millionth.
#[must_use]
fn ph_of(ions: &Ions) -> f64 {
    /// The ion product of water at 25 °C.
    const WATER: f64 = 1e-14;
    let imbalance = |ph: f64| {
        let h = (-ph * std::f64::consts::LN_10).exp();
        h + ions.strong - ions.given_off(h) - WATER / h
    };
    // Monotone and bracketed. What people drink lies between 2 and 7, and the narrower the bracket the sooner it is
    // found; beyond the ends the end itself is the answer.
    let (low, high) = if imbalance(4.5) <= 0.0 {
        match imbalance(2.0) {
            sourer if sourer > 0.0 => (2.0, 4.5),
            _ if imbalance(0.0) <= 0.0 => return 0.0,
            _ => (0.0, 2.0),
        }
    } else {
        match imbalance(7.0) {
            sourer if sourer <= 0.0 => (4.5, 7.0),
            _ if imbalance(14.0) >= 0.0 => return 14.0,
            _ => (7.0, 14.0),
        }
    };
    root::find(low, high, 1e-6, imbalance).unwrap_or(7.0)
}

/// Equivalents of base per litre that bring the solution to pH 8.2; not below zero.
///
/// Acids dissociated at the end point less the strong ions that already balance them.
#[must_use]
fn titratable_equivalents(ions: &Ions) -> f64 {
    let h = 10f64.powf(-END_POINT);
    (ions.given_off(h) - ions.strong).max(0.0)
}

impl Mixture {
    /// Acids and strong ions in `litres`.
    fn ions_in(&self, litres: f64, carbonic: bool) -> Ions {
        let carbonic = carbonic.then_some((
            Component::CarbonDioxide,
            CARBON_DIOXIDE_G_PER_MOL,
            *CARBONIC_ACID,
        ));
        let there = ALL.iter().copied().chain(carbonic).filter(|(acid, _, _)| self[*acid] > 0.0);
        let acids = there.map(|(acid, molar, constants)| (self[acid] / molar / litres, constants));
        Ions::new(acids, self[Component::StrongIons] / 1000.0 / litres)
    }

    /// pH, to about 0.1; `None` without water.
    #[must_use]
    pub fn ph(&self) -> Option<f64> {
        let water = self[Component::Water];
        (water > 0.0).then(|| ph_of(&self.ions_in(water / 1000.0, true)))
    }

    /// Carbon dioxide that is gas or may become it, g: the rest is held as hydrogen carbonate and carbonate, until
    /// something sour frees it. None in what is dry.
    #[must_use]
    pub fn free_carbon_dioxide(&self) -> f64 {
        let all = self[Component::CarbonDioxide];
        if all <= 0.0 {
            return 0.0;
        }
        let Some(ph) = self.ph() else { return 0.0 };
        let h = 10f64.powf(-ph);
        let [first, both, _] = *CARBONIC_ACID;
        all / (1.0 + first / h + both / (h * h))
    }

    /// Acids by the base that they neutralise, in grams of citric acid; strong ions not counted.
    ///
    /// For telling what each ingredient brings: unlike the titratable acidity, it adds up.
    #[must_use]
    pub fn acid_brought(&self) -> Grams {
        let as_citric = AS_CITRIC.iter();
        Grams(as_citric.fold(0.0, |sum, (acid, equivalent)| sum + self[*acid] * equivalent))
    }

    /// Titratable acid in grams of citric acid. Carbon dioxide is not counted.
    #[must_use]
    pub fn titratable_acid(&self) -> f64 {
        titratable_equivalents(&self.ions_in(1.0, false)) * CITRIC_G_PER_EQUIVALENT
    }

    /// Titratable acidity in grams of citric acid in 100 g; 0 of nothing.
    #[must_use]
    pub fn acidity_percent(&self) -> f64 {
        let mass = self.mass().0;
        if mass > 0.0 { 100.0 * self.titratable_acid() / mass } else { 0.0 }
    }

    /// Titratable acidity in grams of citric acid per litre at 20 °C.
    #[must_use]
    pub fn titratable_acidity_g_per_l(&self) -> f64 {
        let volume = self.volume(Celsius(20.0)).0;
        if volume > 0.0 { self.titratable_acid() / volume * 1000.0 } else { 0.0 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const CITRIC: &[f64] = &[3.13, 4.76, 6.40];

    fn ph(acids: &[(f64, &'static [f64])], strong: f64) -> f64 {
        let acids = acids.iter().map(|(c, constants)| (*c, products(constants)));
        ph_of(&Ions::new(acids, strong))
    }

    #[test]
    fn citric_acid_alone() {
        assert!((ph(&[(0.1, CITRIC)], 0.0) - 2.08).abs() < 0.005);
    }

    #[test]
    fn vinegar_of_five_per_cent() {
        assert!((ph(&[(0.833, &[4.76])], 0.0) - 2.42).abs() < 0.005);
    }

    #[test]
    fn a_typical_lemon_juice() {
        let ions = Ions::new([(48.0 / 192.12, products(CITRIC))].into_iter(), 0.026);
        // 2.283 by hand as well; published as 2.29.
        assert!((ph_of(&ions) - 2.29).abs() < 0.01);
        let titrated = titratable_equivalents(&ions) * CITRIC_G_PER_EQUIVALENT;
        assert!((titrated - 46.1).abs() < 0.05, "{titrated}");
    }

    #[test]
    fn half_neutralised_citric_acid_is_a_buffer() {
        assert!((ph(&[(0.05, CITRIC)], 0.05) - 3.95).abs() < 0.005);
    }

    #[test]
    fn pure_water_is_neutral_and_soda_water_is_not() {
        assert!((ph(&[], 0.0) - 7.0).abs() < 0.001);
        // 3.7 volumes: 0.165 mol/l of carbonic acid.
        let soda = ph(&[(0.165, CARBONIC)], 0.0);
        assert!((3.4..3.8).contains(&soda), "{soda}");
    }

    #[test]
    fn acids_titrate_as_the_equivalents_table_says() {
        for (component, equivalent) in [
            (Component::Citric, 1.000),
            (Component::Malic, 0.955),
            (Component::Tartaric, 0.853),
            (Component::Acetic, 1.066),
            (Component::Lactic, 0.711),
            (Component::Ascorbic, 0.364),
        ] {
            let found = Mixture::of(&[(component, 1.0)]).titratable_acid();
            assert!((found - equivalent).abs() < 0.007, "{component:?}: {found}");
        }
    }

    #[test]
    fn baking_soda_stays_in_water_and_leaves_what_is_sour() {
        let soda = [(Component::StrongIons, 11.9), (Component::CarbonDioxide, 0.524)];
        let mut drink = Mixture::of(&[(Component::Water, 1000.0)]);
        drink += Mixture::of(&soda);
        assert!((drink.ph().unwrap() - 8.3).abs() < 0.1, "{:?}", drink.ph());
        assert!(drink.free_carbon_dioxide() < 0.02 * drink[Component::CarbonDioxide]);
        drink[Component::Citric] = 6.0;
        assert!(drink.free_carbon_dioxide() > 0.98 * drink[Component::CarbonDioxide]);
        assert_eq!(Mixture::of(&soda).free_carbon_dioxide(), 0.0, "a dry powder doesn't fizz");
    }

    #[test]
    fn milk_holds_its_ph() {
        // Of a litre: citrate, protein with its phosphate, and the cations that bring it to pH 6.7.
        let mut milk = Mixture::of(&[
            (Component::Water, 910.0),
            (Component::Citric, 1.65),
            (Component::Buffer, 29.0),
            (Component::StrongIons, 64.0),
        ]);
        assert!((milk.ph().unwrap() - 6.7).abs() < 0.2, "{:?}", milk.ph());
        let titrated = milk.titratable_acid() / 10.3;
        assert!((0.09..0.13).contains(&titrated), "{titrated} %");
        milk[Component::Citric] += 3.0;
        assert!((milk.ph().unwrap() - 5.2).abs() < 0.25, "{:?}", milk.ph());
    }

    #[test]
    fn nothing_and_extremes_have_an_answer() {
        assert_eq!(Mixture::EMPTY.ph(), None);
        assert_eq!(Mixture::EMPTY.titratable_acidity_g_per_l(), 0.0);
        assert!(ph(&[(10.0, &[-3.0])], 0.0) < 0.1);
        assert!((ph(&[], 5.0) - 14.0).abs() < 1e-9);
    }
}
