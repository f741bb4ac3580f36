use rand::Rng;
use rand_distr::{Distribution, Normal, Uniform};

use crate::line::{InstrumentKind, Line, Order};

/// A pH meter: off by up to 0.3 until it is calibrated in two buffers, and drifting from then on.
#[derive(Debug, Clone)]
pub(crate) struct PhMeter {
    offset: f64,
    slope: f64,
    buffers: Vec<(f64, f64)>,
    /// The pH that it stands in; none in the air.
    around: Option<f64>,
    shown: f64,
}

/// How far a meter that has lain in a drawer may be off.
const UNCALIBRATED: f64 = 0.3;
/// What a calibration leaves, a standard deviation: a kitchen's buffers are no better.
const CALIBRATED: f64 = 0.03;
/// How it wanders in an hour, a standard deviation.
const DRIFT: f64 = 0.05;
/// Time constant of its glass, s.
const LAG: f64 = 2.0;

impl PhMeter {
    pub(crate) fn new(chance: &mut impl Rng) -> Self {
        let offset = Uniform::new(-UNCALIBRATED, UNCALIBRATED).map_or(0.0, |u| u.sample(chance));
        Self { offset, slope: 0.97, buffers: Vec::new(), around: None, shown: 7.0 }
    }

    fn read(&self, ph: f64) -> f64 {
        7.0 + (ph - 7.0) * self.slope + self.offset
    }

    pub(crate) fn pass(&mut self, seconds: f64, chance: &mut impl Rng) {
        let wander = DRIFT * (seconds / 3600.0).sqrt();
        self.offset += Normal::new(0.0, wander).map_or(0.0, |n| n.sample(chance));
        let to = self.read(self.around.unwrap_or(7.0));
        self.shown += (to - self.shown) * (1.0 - (-seconds / LAG).exp());
    }

    pub(crate) fn hear(&mut self, order: &Order, chance: &mut impl Rng) {
        match order {
            Order::Dip { sample } => self.around = Some(sample.ph),
            Order::Lift => self.around = None,
            Order::Calibrate { with } => {
                // Two buffers that lie apart; the same one again is read again.
                self.buffers.retain(|(buffer, _)| (buffer - with).abs() > 1.0);
                self.buffers.push((*with, self.read(*with)));
                if self.buffers.len() >= 2 {
                    self.buffers.clear();
                    self.slope = 1.0;
                    self.offset = Normal::new(0.0, CALIBRATED).map_or(0.0, |n| n.sample(chance));
                }
            }
            _ => {}
        }
    }

    pub(crate) fn line(&self) -> Line {
        let to = self.read(self.around.unwrap_or(7.0));
        let first = !self.buffers.is_empty();
        Line {
            instrument: "ph-meter-1".into(),
            kind: InstrumentKind::PhMeter,
            value: self.around.map(|_| ((self.shown * 100.0).round() / 100.0).clamp(0.0, 14.0)),
            unit: InstrumentKind::PhMeter.unit().into(),
            stable: self.around.is_some() && (to - self.shown).abs() < 0.02,
            says: match (self.around.is_some(), first) {
                (_, true) => Some("one buffer done; now the other".into()),
                (false, false) => Some("it isn't in any liquid".into()),
                (true, false) => None,
            },
        }
    }
}
