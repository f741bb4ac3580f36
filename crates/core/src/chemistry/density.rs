use super::{Component, Mixture};
use crate::quantity::{Celsius, Millilitres};

/// Density of ethanol at 20 °C, g/ml (CRC handbook).
pub(crate) const ETHANOL_DENSITY: f64 = 0.789;
/// Volume of a gram of milk or plant fat, ml (density about 0.92 g/ml).
const FAT_ML_PER_G: f64 = 1.087;
/// Volume of a gram of cell wall, ml: cellulose and pectin at about 1.5 g/ml.
const INSOLUBLE_ML_PER_G: f64 = 0.667;
/// Volume that a gram of dissolved carbon dioxide adds, ml: 36 ml a mole.
const CARBON_DIOXIDE_ML_PER_G: f64 = 0.82;

/// Density of a sugar solution at 20 °C, kg/m³ (numerically g/l).
///
/// `w` is the mass fraction of dissolved solids, 0 to 0.8; outside it is held at the nearer end.
/// Source: ICUMSA SPS-4.
#[must_use]
pub(crate) fn sucrose_density(w: f64) -> f64 {
    let w = w.clamp(0.0, 0.8);
    998.2019
        + w * (385.1761
            + w * (135.3705 + w * (40.9299 + w * (-3.9643 + w * (13.4853 - w * 17.2890)))))
}

/// Density of water at 20 °C, kg/m³, as Kell has it.
const AT_TWENTY: f64 = 998.2071;

/// Density of water at `t`, for 0 to 100 °C (held at the ends), as a fraction: what stands above and below its line.
/// Volumes are asked for everywhere, and a division costs more than all the rest of one.
///
/// Source: Kell 1975, J. Chem. Eng. Data 20:97.
fn kell(t: Celsius) -> (f64, f64) {
    let t = t.0.clamp(0.0, 100.0);
    let above = 999.83952
        + t * (16.945176
            + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - t * 280.54253e-12))));
    (above, 1.0 + 16.879850e-3 * t)
}

impl Mixture {
    /// Volume at `t`.
    ///
    /// Water and everything dissolved count as a sugar solution by mass (acids and salts so taken
    /// are wrong by less than 0.2 %); ethanol, fat and suspended matter add their own volumes. The
    /// contraction of ethanol with water is left out: under 1 % below 15 % vol.
    #[must_use]
    pub fn volume(&self, t: Celsius) -> Millilitres {
        let solids = self.soluble_solids_mass().0;
        let aqueous = self[Component::Water] + solids;
        let solution = if aqueous > 0.0 {
            let (above, below) = kell(t);
            let ratio = below * (AT_TWENTY * 1000.0) / (sucrose_density(solids / aqueous) * above);
            aqueous * ratio
        } else {
            0.0
        };
        Millilitres(
            solution
                + self[Component::Ethanol] / ETHANOL_DENSITY
                + self[Component::Fat] * FAT_ML_PER_G
                + self[Component::Insoluble] * INSOLUBLE_ML_PER_G
                + self[Component::CarbonDioxide] * CARBON_DIOXIDE_ML_PER_G,
        )
    }

    /// Density at 20 °C in g/ml; that of water for nothing.
    #[must_use]
    pub fn density_at_20(&self) -> f64 {
        let volume = self.volume(Celsius(20.0)).0;
        if volume > 0.0 { self.mass().0 / volume } else { 0.9982 }
    }

    /// Alcohol, % vol at 20 °C; 0 of nothing.
    #[must_use]
    pub fn alcohol_percent(&self) -> f64 {
        let volume = self.volume(Celsius(20.0)).0;
        let ethanol = self[Component::Ethanol] / ETHANOL_DENSITY;
        if volume > 0.0 { 100.0 * ethanol / volume } else { 0.0 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn sugar_solutions_agree_with_the_published_table() {
        for (percent, density) in [
            (10.0, 1038.11),
            (20.0, 1080.98),
            (30.0, 1127.03),
            (40.0, 1176.52),
            (50.0, 1229.65),
            (60.0, 1286.61),
            (65.0, 1316.55),
            (70.0, 1347.48),
        ] {
            let found = sucrose_density(percent / 100.0);
            assert!((found - density).abs() < 0.02, "{percent} %: {found} against {density}");
        }
    }

    #[test]
    fn water_shrinks_and_swells_with_temperature() {
        let water = Mixture::of(&[(Component::Water, 1000.0)]);
        for (t, density) in [(0.0, 0.99984), (20.0, 0.99821), (70.0, 0.97776), (100.0, 0.95835)] {
            let found = 1000.0 / water.volume(Celsius(t)).0;
            assert!((found - density).abs() < 5e-5, "{t} °C: {found} g/ml");
        }
    }

    #[test]
    fn a_cup_of_sugar_in_two_cups_of_water_takes_the_room_it_takes() {
        // 200 g sugar in 473 g water: 29.7 % solids, 1.1256 g/ml by the table: 598 ml.
        let syrup = Mixture::of(&[(Component::Water, 473.0), (Component::Sucrose, 200.0)]);
        assert!((syrup.volume(Celsius(20.0)).0 - 598.0).abs() < 1.0);
    }
}
