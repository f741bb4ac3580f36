use serde::{Deserialize, Serialize};

use crate::line::{InstrumentKind, Line, Order};

/// A kitchen clock that can be hurried: it runs so many times as fast, or jumps ahead. It is never put back.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Clock {
    /// How many times faster it runs.
    pub rate: f64,
    /// What it showed when it was last set, minutes.
    pub showed: f64,
    /// When that was, in real minutes.
    pub set_at: f64,
}

impl Default for Clock {
    fn default() -> Self {
        Self { rate: 1.0, showed: 0.0, set_at: 0.0 }
    }
}

impl Clock {
    /// What it shows after so many real minutes.
    #[must_use]
    pub fn shows(&self, real: f64) -> f64 {
        self.showed + self.rate * (real - self.set_at).max(0.0)
    }

    /// What is done to it after so many real minutes.
    #[must_use]
    pub fn hears(self, order: &Order, real: f64) -> Self {
        let now = self.shows(real);
        match order {
            Order::Rate { times } => Self { rate: *times, showed: now, set_at: real },
            Order::Jump { minutes } => Self { showed: now + minutes, set_at: real, ..self },
            _ => self,
        }
    }

    pub(crate) fn line(&self, real: f64) -> Line {
        Line {
            instrument: "clock-1".into(),
            kind: InstrumentKind::Clock,
            value: Some((self.shows(real) * 100.0).round() / 100.0),
            unit: InstrumentKind::Clock.unit().into(),
            stable: true,
            says: None,
        }
    }
}
