//! What lies at the bottom and dissolves, as far as water takes it.
//!
//! Crystals that have not dissolved lie in heaps, one for each kind of powder. Each kind has a limit that
//! hangs on the water and, for sugars, on the temperature; what is below it dissolves at once in this
//! model, and how long one has to stir for that is told by the step that stirs.

use super::contents::{Contents, Deposit};
use crate::chemistry::{Component, Mixture, sucrose_solubility};
use crate::quantity::{Celsius, Grams};

/// What lies at the bottom and dissolves, by what water takes of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Powder {
    Sugar,
    SugarAlcohol,
    Acid,
    Other,
}

impl Powder {
    const ALL: [Self; 4] = [Self::Sugar, Self::SugarAlcohol, Self::Acid, Self::Other];

    fn of(mixture: &Mixture) -> Self {
        let most = mixture.mass().0 / 2.0;
        match mixture {
            m if m[Component::Polyol] > most => Self::SugarAlcohol,
            m if m.sugars().0 > most => Self::Sugar,
            m if Self::Acid.amount(m) > most => Self::Acid,
            _ => Self::Other,
        }
    }

    /// How much of what crystallises is in a mixture, g.
    fn amount(self, mixture: &Mixture) -> f64 {
        match self {
            Self::Sugar => mixture[Component::Sucrose],
            Self::SugarAlcohol => mixture[Component::Polyol],
            Self::Acid => {
                let acids = [Component::Citric, Component::Malic, Component::Tartaric];
                acids.iter().map(|c| mixture[*c]).sum()
            }
            Self::Other => mixture[Component::OtherSolids],
        }
    }

    /// Grams that a gram of water takes.
    ///
    /// Erythritol: 37 g in 100 g of solution at 25 °C, about 2 % more for each degree. Citric acid:
    /// 59 % at 20 °C, malic and tartaric alike (CRC handbook). Salts: as table salt, 36 g in 100 g;
    /// baking soda takes four times the water, in amounts that no drink has.
    fn taken_by_water(self, t: Celsius) -> f64 {
        match self {
            Self::Sugar => {
                let limit = sucrose_solubility(t) / 100.0;
                limit / (1.0 - limit)
            }
            Self::SugarAlcohol => 0.587 * (1.0 + 0.02 * (t.0 - 25.0)).max(0.2),
            Self::Acid => 1.45,
            Self::Other => 0.36,
        }
    }
}

impl Contents {
    /// Lays crystals in: one heap for each kind of powder, which dissolves as one.
    pub(super) fn lay_crystals(&mut self, deposit: Deposit) {
        let kind = Powder::of(&deposit.mixture);
        match self.crystals.iter_mut().find(|d| Powder::of(&d.mixture) == kind) {
            Some(heap) => heap.join(deposit),
            None => self.crystals.push(deposit),
        }
    }

    pub(super) fn dissolve(&mut self) {
        let water = self.liquid[Component::Water];
        if self.crystals.is_empty() || water <= 0.0 {
            return;
        }
        let share_of = |what: Powder| {
            let (dissolved, lying) = self.of_powder(what);
            let room = (water * what.taken_by_water(self.temperature) - dissolved).max(0.0);
            if lying > room { room / lying } else { 1.0 }
        };
        let shares = Powder::ALL.map(share_of);
        for mut part in std::mem::take(&mut self.crystals) {
            let share = shares[Powder::of(&part.mixture) as usize];
            let dissolved = part.take(share);
            dissolved.origins.into_iter().for_each(|o| self.credit_origin(o));
            self.liquid += dissolved.mixture;
            if share < 1.0 {
                self.crystals.push(part);
            }
        }
    }

    /// How much of such a powder is dissolved, and how much lies there, g.
    ///
    /// Of sugars sucrose is what crystallises; those of honey and fruit stay dissolved far longer and
    /// are not held against it.
    pub(super) fn of_powder(&self, what: Powder) -> (f64, f64) {
        let lying = self.crystals.iter().filter(|d| Powder::of(&d.mixture) == what);
        (what.amount(&self.liquid), lying.map(|d| what.amount(&d.mixture)).sum())
    }

    /// The temperature at which all its crystals would dissolve; `None` if not even boiling does it,
    /// or if they aren't sugar.
    /// From what temperature on it is clear; as it is now if nothing lies in it.
    pub(super) fn clear_at(&self) -> Option<Celsius> {
        if self.undissolved().0 > 0.0 { self.dissolves_at() } else { Some(self.temperature) }
    }

    pub(super) fn dissolves_at(&self) -> Option<Celsius> {
        let water = self.liquid[Component::Water];
        if self.crystals.iter().any(|d| Powder::of(&d.mixture) != Powder::Sugar) {
            return None;
        }
        let (dissolved, lying) = self.of_powder(Powder::Sugar);
        (self.temperature.0.ceil() as i32..=100)
            .map(|t| Celsius(f64::from(t)))
            .find(|t| water * Powder::Sugar.taken_by_water(*t) >= dissolved + lying)
    }

    /// Water that would take the crystals at the temperature that it has.
    pub(super) fn water_to_dissolve(&self) -> Grams {
        let needed = Powder::ALL.map(|what| match self.of_powder(what) {
            (dissolved, lying) if lying > 0.0 => {
                (dissolved + lying) / what.taken_by_water(self.temperature)
            }
            _ => 0.0,
        });
        let needed = needed.into_iter().fold(0.0, f64::max);
        Grams((needed - self.liquid[Component::Water]).max(0.0))
    }

    /// Whether more sugar is dissolved than the liquid holds at that temperature.
    #[must_use]
    pub fn crystallises_at(&self, t: Celsius) -> bool {
        let water = self.liquid[Component::Water];
        let sugars = self.liquid[Component::Sucrose];
        // Half a per cent of grace: syrups stay clear a little beyond the line.
        water > 0.0 && 100.0 * sugars / (sugars + water) > sucrose_solubility(t) + 0.5
    }
}
