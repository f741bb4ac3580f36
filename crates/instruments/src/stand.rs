use rand::SeedableRng;
use rand::rngs::StdRng;

use crate::acid_kit::AcidKit;
use crate::clock::Clock;
use crate::line::{Line, Order};
use crate::ph_meter::PhMeter;
use crate::refractometer::Refractometer;
use crate::scale::Scale;
use crate::thermometer::Thermometer;

/// A set of stand-ins: one of each kind.
#[derive(Debug)]
pub struct Stand {
    scale: Scale,
    thermometer: Thermometer,
    refractometer: Refractometer,
    ph_meter: PhMeter,
    acid_kit: AcidKit,
    clock: Clock,
    /// Real minutes that have passed.
    real: f64,
    luck: Luck,
}

/// What deals each one's errors. Each has a generator of its own: a meter that drifts while the cook is slow
/// changes nothing in what the drops say.
#[derive(Debug)]
struct Luck {
    refractometer: StdRng,
    ph_meter: StdRng,
    acid_kit: StdRng,
}

impl Luck {
    fn of(seed: u64) -> Self {
        let mut deal = StdRng::seed_from_u64(seed);
        Self {
            refractometer: StdRng::from_rng(&mut deal),
            ph_meter: StdRng::from_rng(&mut deal),
            acid_kit: StdRng::from_rng(&mut deal),
        }
    }
}

impl Stand {
    /// A set whose errors a seed deals.
    #[must_use]
    pub fn new(seed: u64) -> Self {
        let mut luck = Luck::of(seed);
        Self {
            scale: Scale::default(),
            thermometer: Thermometer::default(),
            refractometer: Refractometer::default(),
            ph_meter: PhMeter::new(&mut luck.ph_meter),
            acid_kit: AcidKit::default(),
            clock: Clock::default(),
            real: 0.0,
            luck,
        }
    }

    /// Lets some time go by.
    pub fn pass(&mut self, seconds: f64) {
        self.real += seconds / 60.0;
        self.scale.pass(seconds);
        self.thermometer.pass(seconds);
        self.refractometer.pass(seconds);
        self.ph_meter.pass(seconds, &mut self.luck.ph_meter);
    }

    /// Tells one of them something; whether there is such an instrument.
    pub fn hear(&mut self, instrument: &str, order: &Order) -> bool {
        if !order.makes_sense() {
            return false;
        }
        match instrument {
            "scale-1" => self.scale.hear(order),
            "thermometer-1" => self.thermometer.hear(order),
            "refractometer-1" => self.refractometer.hear(order, &mut self.luck.refractometer),
            "ph-meter-1" => self.ph_meter.hear(order, &mut self.luck.ph_meter),
            "acid-kit-1" => self.acid_kit.hear(order, &mut self.luck.acid_kit),
            "clock-1" => self.clock = self.clock.hears(order, self.real),
            _ => return false,
        }
        true
    }

    /// What each of them reads now.
    #[must_use]
    pub fn lines(&self) -> Vec<Line> {
        vec![
            self.scale.line(),
            self.thermometer.line(),
            self.refractometer.line(),
            self.ph_meter.line(),
            self.acid_kit.line(),
            self.clock.line(self.real),
        ]
    }
}
