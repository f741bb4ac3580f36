use rand::Rng;
use rand_distr::{Distribution, Normal};

use crate::line::{InstrumentKind, Line, Order};

/// An acid kit: drops of weak lye fall into a sample until its colour stays.
///
/// Lye burns eyes: spectacles, rinse at once, not for children. The colour comes with the drop that was one too
/// many, and nobody sees how many more there were.
#[derive(Debug, Clone, Default)]
pub(crate) struct AcidKit {
    sample: Option<Sampled>,
}

#[derive(Debug, Clone, Copy)]
struct Sampled {
    /// The drops at which it turns.
    turns: f64,
    drops: u32,
}

/// What a drop stands for, g acid as citric in 100 g of sample.
pub(crate) const DROP: f64 = 0.02;
/// How far drops and the sample's volume are off, a share, a standard deviation.
const ERROR: f64 = 0.03;

impl AcidKit {
    pub(crate) fn hear(&mut self, order: &Order, chance: &mut impl Rng) {
        match order {
            Order::Dip { sample } => {
                let off = Normal::new(1.0, ERROR).map_or(1.0, |n| n.sample(chance));
                let turns = (sample.acid * off / DROP).max(0.0);
                self.sample = Some(Sampled { turns, drops: 0 });
            }
            Order::Lift => self.sample = None,
            Order::Drop { count } => {
                if let Some(sampled) = &mut self.sample {
                    sampled.drops = sampled.drops.saturating_add(*count).min(10_000);
                }
            }
            _ => {}
        }
    }

    pub(crate) fn line(&self) -> Line {
        let turned = |s: Sampled| f64::from(s.drops) >= s.turns && s.drops > 0;
        let says = match self.sample {
            None => "no sample in it".to_owned(),
            Some(s) if turned(s) => format!("{} drops, and the colour holds", s.drops),
            Some(s) => format!("{} drops, still clear", s.drops),
        };
        Line {
            instrument: "acid-kit-1".into(),
            kind: InstrumentKind::AcidKit,
            value: self
                .sample
                .filter(|s| turned(*s))
                .map(|s| (f64::from(s.drops) * DROP * 100.0).round() / 100.0),
            unit: InstrumentKind::AcidKit.unit().into(),
            stable: self.sample.is_some_and(turned),
            says: Some(says),
        }
    }
}
