//! What a piece of fruit gives, and how readings of one's own change that.

use super::pooled::{Levels, Pooled};
use super::{Reading, Size};
use crate::quantity::Millilitres;

/// What is known of the juice of one piece, ml: see [`Pooled`]. Only the sum of some pieces is ever read, so a lot
/// counts once for the spread, however many pieces it had.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Yield(Pooled);

impl Yield {
    /// As the tables have it; nothing for what isn't squeezed.
    fn prior(size: &Size) -> Option<Self> {
        let (mean, sd) = (size.juice?.0, size.juice_sd?.0);
        Some(Self(Pooled::before(mean, sd, Levels::PIECES)))
    }

    /// As the tables have it, moved by the readings of that size; see [`Known::apply`].
    pub(super) fn of(size: &Size, key: &str, readings: &[Reading]) -> Known {
        let mine: Vec<&Reading> = readings.iter().filter(|r| r.produce == key).collect();
        let known = Self::prior(size).map(|known| known.after_all(&mine));
        Known { known, read: !mine.is_empty() }
    }

    fn after_all(self, readings: &[&Reading]) -> Self {
        lots(readings.iter().copied())
            .into_iter()
            .fold(self, |known, (pieces, ml)| known.after(pieces, ml / pieces))
    }

    /// What is known of one piece.
    pub(crate) fn of_one(&self) -> &Pooled {
        &self.0
    }

    /// Expected juice of one, ml.
    #[must_use]
    pub fn mean(&self) -> f64 {
        self.0.mean
    }

    /// After so many pieces of one lot with that mean, ml.
    #[must_use]
    pub fn after(&self, pieces: f64, mean: f64) -> Self {
        Self(self.0.after(mean, 1.0 / pieces))
    }

    /// How much of the mean is by now your own measurements, 0 to 1.
    #[must_use]
    pub fn own_share(&self) -> f64 {
        self.0.own_share()
    }

    /// Standard deviation over pieces of one lot, ml.
    #[must_use]
    pub fn spread(&self) -> f64 {
        self.0.unit()
    }

    /// How far the mean of so many pieces of the next lot may be off, as a share of what is expected.
    #[must_use]
    pub fn varies(&self, pieces: f64) -> f64 {
        self.0.varies(1.0 / pieces.max(0.25)) / self.0.mean
    }

    /// The same of a tool that gives so many times as much.
    #[must_use]
    pub(crate) fn times(&self, by: f64) -> Self {
        Self(self.0.times(by))
    }

    /// The chance that so many pieces give at least so much, 0 to 1.
    #[must_use]
    pub fn chance_of(&self, pieces: f64, wanted: Millilitres) -> f64 {
        if pieces <= 0.0 {
            return if wanted.0 <= 0.0 { 1.0 } else { 0.0 };
        }
        self.0.chance_of(wanted.0 / pieces, 1.0 / pieces)
    }

    /// The fewest pieces that give so much with that chance.
    #[must_use]
    pub fn pieces_for(&self, wanted: Millilitres, chance: f64) -> u32 {
        if wanted.0 <= 0.0 {
            return 0;
        }
        let likely = (wanted.0 / self.0.mean).ceil().max(1.0) as u32;
        // More never gives less; beyond four times the mean the tables are wrong, not the count.
        let (mut low, mut high) = (1, likely.saturating_mul(4).max(8));
        while low < high {
            let middle = low + (high - low) / 2;
            if self.chance_of(f64::from(middle), wanted) >= chance {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        low
    }

    /// How likely a mean as far off as this one is, or farther; under a thousandth one should ask.
    #[must_use]
    pub fn likelihood(&self, pieces: f64, mean: f64) -> f64 {
        self.0.likelihood(mean, 1.0 / pieces)
    }
}

/// Readings as lots, each as its pieces and their juice: what was squeezed on one day was bought at once.
fn lots<'a>(readings: impl Iterator<Item = &'a Reading>) -> Vec<(f64, f64)> {
    let mut lots: Vec<(&str, f64, f64)> = Vec::new();
    for reading in readings {
        let day = reading.day.as_str();
        match lots.iter_mut().find(|lot| lot.0 == day && !day.is_empty()) {
            Some(lot) => (lot.1, lot.2) = (lot.1 + reading.pieces, lot.2 + reading.juice_ml),
            None => lots.push((day, reading.pieces, reading.juice_ml)),
        }
    }
    lots.into_iter().map(|(_, pieces, ml)| (pieces, ml)).collect()
}

/// What is known of a size, and whether any of it was read here.
pub(super) struct Known {
    known: Option<Yield>,
    read: bool,
}

impl Known {
    /// Puts it over the table's figures.
    pub(super) fn apply(self, size: &mut Size) {
        let Some(known) = self.known else { return };
        size.juice_known = Some(known);
        if self.read {
            size.juice = Some(Millilitres(known.mean()));
            size.juice_sd = Some(Millilitres(known.spread()));
            size.measured = true;
        }
    }
}

impl Size {
    /// What is known of the juice of one; the tables' figures if nothing was read.
    #[must_use]
    pub fn juice_yield(&self) -> Option<Yield> {
        self.juice_known.or_else(|| Yield::prior(self))
    }

    /// The tables' figures, moved by readings of this size.
    pub(crate) fn yield_by(&self, readings: &[Reading]) -> Option<Yield> {
        Some(Yield::prior(self)?.after_all(&readings.iter().collect::<Vec<_>>()))
    }
}

#[cfg(test)]
mod tests {
    use super::super::Cupboard;
    use super::*;
    use rand::SeedableRng;
    use rand_distr::{Distribution, Gamma, Normal};

    fn lime() -> Yield {
        Cupboard::builtin().size_named("lime/medium").unwrap().1.juice_yield().unwrap()
    }

    #[test]
    fn buying_agrees_with_simulation_to_a_piece() {
        let mut chance = rand::rngs::StdRng::seed_from_u64(11);
        for wanted in [60.0, 190.0, 1000.0] {
            // Draw a market, a lot from it, then pieces, and count how many it takes.
            let precision = Gamma::new(3.0, 1.0 / 72.0).unwrap();
            let mut counts: Vec<u32> = (0..6000)
                .map(|_| {
                    let variance = 1.0 / precision.sample(&mut chance);
                    let mut near = |mean: f64, part: f64| {
                        Normal::new(mean, (variance * part).sqrt()).unwrap().sample(&mut chance)
                    };
                    let market = near(27.0, 0.125);
                    let lot = near(market, 0.125);
                    let (mut sum, mut count) = (0.0, 0);
                    while sum < wanted && count < 500 {
                        sum += near(lot, 1.0).max(0.0);
                        count += 1;
                    }
                    count
                })
                .collect();
            counts.sort_unstable();
            for share in [0.5, 0.9] {
                let simulated = counts[(counts.len() as f64 * share) as usize];
                let told = lime().pieces_for(Millilitres(wanted), share);
                assert!(told.abs_diff(simulated) <= 1, "{share}: {told}, simulated {simulated}");
            }
        }
        assert_eq!(lime().pieces_for(Millilitres(190.0), 0.9), 9, "as in the kitchen");
    }

    #[test]
    fn two_squeezings_of_one_day_are_one_lot() {
        let reading = |pieces: f64, juice_ml: f64, day: &str| Reading {
            produce: "lime/medium".into(),
            pieces,
            juice_ml,
            brix: None,
            acidity: None,
            day: day.into(),
            batch: None,
        };
        let (_, size) = Cupboard::builtin().size_named("lime/medium").unwrap();
        let known = |readings: &[Reading]| Yield::of(size, "lime/medium", readings).known.unwrap();
        let day = "2030-06-21";
        let parts = known(&[reading(2.0, 60.0, day), reading(5.0, 145.0, day)]);
        assert_eq!(parts, known(&[reading(7.0, 205.0, day)]));
        let apart = known(&[reading(2.0, 60.0, day), reading(5.0, 145.0, "2030-06-22")]);
        assert!(apart.own_share() > parts.own_share());
    }

    #[test]
    fn a_reading_out_of_all_likelihood_is_noticed() {
        assert!(lime().likelihood(7.0, 29.0) > 0.3);
        assert!(lime().likelihood(7.0, 90.0) < 1e-3);
    }
}
