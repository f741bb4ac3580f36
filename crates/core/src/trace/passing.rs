//! What time does to what is in a vessel: pieces draw, aroma and gas go off, sugar splits in hot acid, and
//! whatever is perishable grows older.
//!
//! Every step that takes time is one call of [`Contents::pass`] with the way that the temperature takes
//! meanwhile: level on the ring, along Newton's curve in a surrounding.

use super::contents::{Contents, Origin};
use super::heat::{MELTING, Surrounding, aroma_loss, drawing_speed};
use crate::chemistry::{Component, Mixture, carbonation_kept, inversion_rate};
use crate::drink::Vessel;
use crate::quantity::{Celsius, Minutes};

/// Into how many parts a span of time is cut where the temperature changes.
const PARTS: usize = 16;

/// Under this little grows, °C.
const GROWS_FROM: f64 = 8.0;

/// Hot enough to make raw things safe for a while.
const PASTEURISED: f64 = 72.0;

impl Contents {
    /// Lets a time pass while the temperature runs from one value towards another: pieces draw,
    /// pulp gives up bitterness, aroma and gas go off, sugar splits in hot acid. Returns what went off.
    pub(super) fn pass(
        &mut self,
        minutes: Minutes,
        lid: bool,
        temperature_at: impl Fn(f64) -> Celsius,
    ) -> Mixture {
        let mut gone = Mixture::EMPTY;
        if minutes.0 <= 0.0 || self.liquid[Component::Water] < 1e-6 {
            return gone;
        }
        let mut parts = [(0.0, Celsius(0.0)); PARTS];
        let (mut hot_minutes, mut warmth, mut off, mut hottest) = (0.0, 0.0, 0.0, f64::MIN);
        for (i, part) in parts.iter_mut().enumerate() {
            // Short parts at first, where a cooling pot changes most.
            let [from, to] = [i, i + 1].map(|n| (n as f64 / PARTS as f64).powi(2) * minutes.0);
            let (length, t) = (to - from, temperature_at((from + to) / 2.0));
            *part = (drawing_speed(t) * length, t);
            hot_minutes += part.0;
            warmth += t.0 * length / minutes.0;
            off += aroma_loss(t, lid) * length;
            hottest = hottest.max(t.0);
            if (GROWS_FROM..60.0).contains(&t.0) {
                self.past.warm += Minutes(length);
            }
        }
        self.past.raw &= hottest < PASTEURISED;
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let out = piece.draw(&parts);
            self.credit(piece.line, &out);
            self.liquid += out;
        }
        self.pieces = pieces;
        // Pulp of whole citrus goes on giving up bitterness.
        let bound = &mut self.liquid[Component::BoundBitterness];
        let freed = *bound * (1.0 - (-hot_minutes / 25.0).exp());
        *bound -= freed;
        self.liquid[Component::Bitterness] += freed;

        let aroma = self.liquid[Component::Aroma] * (1.0 - (-off).exp());
        self.liquid[Component::Aroma] -= aroma;
        gone[Component::Aroma] = aroma;
        gone[Component::CarbonDioxide] = self.let_gas_off(minutes, Celsius(hottest), lid);
        if self.liquid[Component::Sucrose] > 0.0 && hottest > 40.0 {
            self.invert(minutes, Celsius(warmth));
        }
        gone
    }

    /// Gas that leaves an open vessel: 8 % in ten minutes when cold (estimate 5–15), and whatever the
    /// liquid can't keep when warm.
    pub(super) fn let_gas_off(&mut self, minutes: Minutes, t: Celsius, lid: bool) -> f64 {
        let there = self.liquid[Component::CarbonDioxide];
        if there <= 0.0 || (lid && t.0 < 30.0) {
            return 0.0;
        }
        let calm = (-minutes.0 * 0.0083).exp();
        let kept = carbonation_kept(t, self.liquid.soluble_solids()) / 1.42;
        let left = if t.0 >= 60.0 { 0.0 } else { there * calm * kept.min(1.0) };
        self.liquid[Component::CarbonDioxide] = left;
        there - left
    }

    pub(super) fn invert(&mut self, minutes: Minutes, t: Celsius) {
        let Some(ph) = self.liquid.ph() else { return };
        // A gram of sucrose takes up 18/342 g of water when it splits.
        const TAKEN_UP: f64 = 18.015 / 342.3;
        let share = 1.0 - (-inversion_rate(t, ph) * minutes.0).exp();
        let split = (self.liquid[Component::Sucrose] * share)
            .min(self.liquid[Component::Water] * 0.9 / TAKEN_UP);
        self.liquid[Component::Sucrose] -= split;
        self.liquid[Component::Water] -= split * TAKEN_UP;
        let half = split * (1.0 + TAKEN_UP) / 2.0;
        self.liquid[Component::Glucose] += half;
        self.liquid[Component::Fructose] += half;
        self.retell_origins();
    }

    /// Brings the origins back into step with the liquid after sugar has split or water has gone.
    pub(super) fn retell_origins(&mut self) {
        let sum = |part: fn(&Origin) -> f64, of: &[Origin]| of.iter().map(part).sum::<f64>();
        let water = sum(|o| o.water.0, &self.origins);
        let sweetness = sum(|o| o.sweetness.0, &self.origins);
        let rate = |now: f64, told: f64| if told > 1e-12 { now / told } else { 1.0 };
        let water = rate(self.liquid[Component::Water], water);
        let sweetness = rate(self.liquid.sucrose_equivalent().0, sweetness);
        for o in &mut self.origins {
            o.water = o.water * water;
            o.sweetness = o.sweetness * sweetness;
        }
    }

    /// Stands in a surrounding for a time, drawing all the while. Returns what went off.
    pub(super) fn stand(
        &mut self,
        vessel: &Vessel,
        surrounding: Surrounding,
        minutes: Minutes,
        lid: bool,
    ) -> Mixture {
        let tau = surrounding.time_constant(vessel, self.heat_capacity(), self.level().0)
            * if lid { 1.35 } else { 1.0 };
        let end = surrounding.temperature.0;
        let warm = self.past.warm;
        let mut gone = Mixture::EMPTY;
        let mut minutes = minutes;
        let ice = self.frozen_water();
        if ice > 0.0 && end > 0.0 && self.temperature.0 <= 0.5 {
            // As long as there is ice, what warmth comes in melts it.
            let a_minute = self.heat_capacity() * (end - self.temperature.0.max(0.0)) / tau;
            let melting = Minutes((ice * MELTING / a_minute).min(minutes.0));
            gone += self.pass(melting, lid, |_| Celsius(0.0));
            self.melt_with(a_minute * melting.0);
            minutes = minutes - melting;
        }
        let start = self.temperature.0;
        let at = move |t: f64| Celsius(end + (start - end) * (-t / tau).exp());
        gone += self.pass(minutes, lid, at);
        if end < GROWS_FROM {
            // In the refrigerator it is on its way to the cold.
            self.past.warm = warm;
        }
        self.temperature = at(minutes.0);
        self.settle();
        gone
    }
}

impl Contents {
    /// As it will be when it has stood for a time at the temperature that it has.
    #[must_use]
    pub fn after_standing(&self, minutes: Minutes) -> Self {
        let mut later = self.clone();
        let there = later.temperature;
        later.pass(minutes, true, |_| there);
        later
    }
}
