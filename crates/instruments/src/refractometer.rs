use rand::Rng;
use rand_distr::{Distribution, Normal};

use crate::line::{InstrumentKind, Line, Order};
use crate::thermometer::ROOM;

/// A hand refractometer: a drop on a prism.
#[derive(Debug, Clone, Default)]
pub(crate) struct Refractometer {
    drop: Option<Drop>,
    compensates: bool,
}

#[derive(Debug, Clone, Copy)]
struct Drop {
    brix: f64,
    temperature: f64,
    noise: f64,
}

/// Time constant of a drop on glass, s. Estimate.
const COOLS: f64 = 8.0;
/// What a degree too warm takes off, °Bx: about 0.07 for sugar in water around 20 °C (the ICUMSA correction
/// for 10 to 20 °Bx).
const EACH_DEGREE: f64 = 0.07;
/// Its error, °Bx, a standard deviation.
const ERROR: f64 = 0.2;
/// What is further from this than a compensating one bears reads wrong, °C.
const AT: f64 = 20.0;

impl Refractometer {
    pub(crate) fn pass(&mut self, seconds: f64) {
        if let Some(drop) = &mut self.drop {
            drop.temperature += (ROOM - drop.temperature) * (1.0 - (-seconds / COOLS).exp());
        }
    }

    pub(crate) fn hear(&mut self, order: &Order, chance: &mut impl Rng) {
        match order {
            Order::Dip { sample } => {
                let noise = Normal::new(0.0, ERROR).map_or(0.0, |n| n.sample(chance));
                let (brix, temperature) = (sample.brix, sample.temperature);
                self.drop = Some(Drop { brix, temperature, noise });
            }
            Order::Lift => self.drop = None,
            Order::Compensate { on } => self.compensates = *on,
            _ => {}
        }
    }

    pub(crate) fn line(&self) -> Line {
        let of = |drop: Drop| {
            let warm = drop.temperature - AT;
            let off = if self.compensates && warm.abs() < 10.0 { 0.0 } else { EACH_DEGREE * warm };
            let read = (drop.brix + drop.noise - off).clamp(0.0, 85.0);
            (read * 10.0).round() / 10.0
        };
        let warm = self.drop.is_some_and(|d| (d.temperature - AT).abs() > 4.0);
        Line {
            instrument: "refractometer-1".into(),
            kind: InstrumentKind::Refractometer,
            value: self.drop.map(of),
            unit: InstrumentKind::Refractometer.unit().into(),
            stable: self.drop.is_some() && !warm,
            says: match self.drop {
                None => Some("no drop on it".into()),
                Some(_) if warm => Some("the drop isn't at room temperature yet".into()),
                Some(_) => None,
            },
        }
    }
}
