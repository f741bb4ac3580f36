use std::ops::{AddAssign, Index, IndexMut};

use super::Component;
use crate::quantity::Grams;

/// So much of each component. Mixing is addition; taking a share is scaling.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mixture {
    parts: [f64; Component::COUNT],
}

impl Default for Mixture {
    fn default() -> Self {
        Self::EMPTY
    }
}

impl Mixture {
    /// Nothing.
    pub const EMPTY: Self = Self { parts: [0.0; Component::COUNT] };

    /// A mixture of the listed parts, each in its component's own unit.
    #[must_use]
    pub fn of(parts: &[(Component, f64)]) -> Self {
        let mut mixture = Self::EMPTY;
        for (component, amount) in parts {
            mixture[*component] += amount;
        }
        mixture
    }

    /// The total mass.
    #[must_use]
    #[inline]
    pub fn mass(&self) -> Grams {
        Grams(self.sum_of_masses())
    }

    /// All parts that have a mass. In four sums side by side: one alone waits for itself at each part, and this is
    /// asked for at every turn.
    #[inline]
    fn sum_of_masses(&self) -> f64 {
        let masses = &self.parts[..Component::StrongIons as usize];
        let (fours, rest) = masses.as_chunks::<4>();
        let mut sums = [0.0; 4];
        for [a, b, c, d] in fours {
            sums = [sums[0] + a, sums[1] + b, sums[2] + c, sums[3] + d];
        }
        (sums[0] + sums[1]) + (sums[2] + sums[3]) + rest.iter().sum::<f64>()
    }

    /// `share` (0 to 1 for a part) of everything.
    #[must_use]
    #[inline]
    pub fn share(&self, share: f64) -> Self {
        let mut shared = *self;
        for part in &mut shared.parts {
            *part *= share;
        }
        shared
    }

    /// Takes `share` of everything out and returns it.
    pub fn take(&mut self, share: f64) -> Self {
        let taken = self.share(share);
        for (n, left) in self.parts.iter_mut().enumerate() {
            *left = (*left - taken.parts[n]).max(0.0);
        }
        taken
    }

    /// Takes all of it out.
    pub(crate) fn take_all(&mut self) -> Self {
        std::mem::take(self)
    }

    /// Takes all of one component out and returns how much it was.
    pub(crate) fn take_component(&mut self, component: Component) -> f64 {
        std::mem::take(&mut self[component])
    }

    /// Sugars as a label counts them.
    #[must_use]
    pub fn sugars(&self) -> Grams {
        Grams(Component::SUGARS.iter().map(|c| self[*c]).sum())
    }

    /// Everything dissolved that a refractometer counts as if it were sugar.
    #[must_use]
    pub(crate) fn soluble_solids_mass(&self) -> Grams {
        let all = self.sum_of_masses();
        let others = self[Component::Water]
            + self[Component::Ethanol]
            + self[Component::CarbonDioxide]
            + self[Component::Fat]
            + self[Component::Insoluble];
        // What rounding leaves of nothing is nothing.
        Grams((all - others).max(0.0))
    }

    /// Soluble solids in % of the weight without suspended matter. 0 for nothing.
    #[must_use]
    pub fn soluble_solids(&self) -> f64 {
        let clear = self.mass().0 - self[Component::Insoluble];
        if clear > 0.0 { 100.0 * self.soluble_solids_mass().0 / clear } else { 0.0 }
    }

    /// Whether every part is a number and none is below zero, strong ions apart (which may be).
    #[must_use]
    pub fn is_sound(&self) -> bool {
        Component::ALL
            .iter()
            .all(|c| self[*c].is_finite() && (*c == Component::StrongIons || self[*c] >= 0.0))
    }
}

impl Index<Component> for Mixture {
    type Output = f64;
    #[inline]
    fn index(&self, component: Component) -> &f64 {
        &self.parts[component as usize]
    }
}

impl IndexMut<Component> for Mixture {
    #[inline]
    fn index_mut(&mut self, component: Component) -> &mut f64 {
        &mut self.parts[component as usize]
    }
}

impl AddAssign<&Mixture> for Mixture {
    #[inline]
    fn add_assign(&mut self, other: &Mixture) {
        for (n, mine) in self.parts.iter_mut().enumerate() {
            *mine += other.parts[n];
        }
    }
}

impl AddAssign<Mixture> for Mixture {
    #[inline]
    fn add_assign(&mut self, other: Mixture) {
        *self += &other;
    }
}
