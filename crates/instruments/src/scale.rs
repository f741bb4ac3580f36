use crate::line::{InstrumentKind, Line, Order};

/// A kitchen scale: whole grams, settled in about a second, up to five kilograms.
#[derive(Debug, Clone, Default)]
pub(crate) struct Scale {
    /// What is on it, g.
    load: f64,
    /// What its cell shows by now.
    shown: f64,
    tare: f64,
}

/// Time constant of its cell: within half a gram of a cup of sugar after a second. Estimate, from what kitchen
/// scales do.
const SETTLES: f64 = 0.16;
/// What it bears, g.
const MOST: f64 = 5000.0;

impl Scale {
    pub(crate) fn pass(&mut self, seconds: f64) {
        self.shown += (self.load - self.shown) * (1.0 - (-seconds / SETTLES).exp());
    }

    pub(crate) fn hear(&mut self, order: &Order) {
        match order {
            // Never less than nothing is on it.
            Order::Pour { grams } => self.load = (self.load + grams).max(0.0),
            Order::Lift => self.load = 0.0,
            Order::Tare => self.tare = self.load,
            _ => {}
        }
    }

    pub(crate) fn line(&self) -> Line {
        let overloaded = self.shown > MOST;
        let value = (self.shown - self.tare).round();
        Line {
            instrument: "scale-1".into(),
            kind: InstrumentKind::Scale,
            // No scale shows a nought with a sign.
            value: (!overloaded).then_some(if value == 0.0 { 0.0 } else { value }),
            unit: InstrumentKind::Scale.unit().into(),
            stable: !overloaded && (self.load - self.shown).abs() < 0.5,
            says: overloaded.then(|| "overload: 5 kg maximum".into()),
        }
    }
}
