use crate::line::{InstrumentKind, Line, Order};

/// A thermometer that takes four seconds to come two thirds of the way.
#[derive(Debug, Clone)]
pub(crate) struct Thermometer {
    shown: f64,
    around: f64,
}

/// Time constant, s.
const LAG: f64 = 4.0;
/// The kitchen, °C.
pub(crate) const ROOM: f64 = 21.0;

impl Default for Thermometer {
    fn default() -> Self {
        Self { shown: ROOM, around: ROOM }
    }
}

impl Thermometer {
    pub(crate) fn pass(&mut self, seconds: f64) {
        self.shown += (self.around - self.shown) * (1.0 - (-seconds / LAG).exp());
    }

    pub(crate) fn hear(&mut self, order: &Order) {
        match order {
            Order::Dip { sample } => self.around = sample.temperature,
            Order::Lift => self.around = ROOM,
            _ => {}
        }
    }

    pub(crate) fn line(&self) -> Line {
        Line {
            instrument: "thermometer-1".into(),
            kind: InstrumentKind::Thermometer,
            value: Some((self.shown * 10.0).round() / 10.0),
            unit: InstrumentKind::Thermometer.unit().into(),
            stable: (self.around - self.shown).abs() < 0.4,
            says: None,
        }
    }
}
