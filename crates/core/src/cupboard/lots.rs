//! What single batches said of this kitchen's lots, and what follows for the next one.
//!
//! A lot is what was bought at once: these lemons, this bag of calyces. The tables give what lots have on
//! average, and lots differ from each other. When a batch is finished its readings say of each lot how it
//! was; over lots that moves what is expected here:
//!
//! ```text
//! ln f ~ N(0, s²)    each lot's x ~ N(ln f, s² + e²)    1/v = 1/s² + Σ 1/(s² + e²)    m = v Σ x/(s² + e²)
//! ```
//!
//! with `f` the factor of this kitchen against the tables, `s` how far lots differ and `e` how well that lot
//! was known. It is the conjugate normal update; a lot of which little is known hardly counts.

use serde::{Deserialize, Serialize};

use super::{Estimated, Ingredient, Kitchen, OwnFigures};
use crate::chemistry::{Component, Mixture};

/// Which figure a lot says something of.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum LotFigure {
    /// The acid of an ingredient; its id.
    Acid(String),
    /// Its sugar.
    Sugar(String),
    /// How fast it is drawn.
    Drawing(String),
    /// What strained solids keep.
    Hold,
    /// How fast the ring boils water away.
    BoilOff,
    /// How long things take to cool.
    Cooling,
}

/// What one batch says of one figure.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Lot {
    /// The batch that says so: its id.
    pub batch: String,
    /// Of what.
    pub figure: LotFigure,
    /// How many times what the tables say, 0.2 to 5.
    pub factor: f64,
    /// How well that is known: a standard deviation of its logarithm, 0.001 to 3.
    pub sd: f64,
    /// How far lots differ: a standard deviation of the logarithm, 0.001 to 1.
    pub between: f64,
    /// The day, as `2026-06-21`.
    #[serde(default)]
    pub day: String,
}

impl Kitchen {
    /// How many times what the tables say a figure is expected to be here, by the lots so far: 1 before any.
    #[must_use]
    pub fn learned(&self, figure: &LotFigure) -> f64 {
        let mut of = self.lots.iter().filter(|lot| lot.figure == *figure).peekable();
        let Some(first) = of.peek() else { return 1.0 };
        let mut precision = 1.0 / first.between.powi(2);
        let mut pull = 0.0;
        for lot in of {
            let weight = 1.0 / (lot.between.powi(2) + lot.sd.powi(2));
            precision += weight;
            pull += weight * lot.factor.ln();
        }
        (pull / precision).exp()
    }

    /// Puts what lots taught over the tables' figures of an ingredient, where it has none of its own.
    pub(super) fn apply_lots(&self, it: &mut Ingredient, own: OwnFigures) {
        let times = |known: Option<f64>, figure: LotFigure| {
            if known.is_some() { 1.0 } else { self.learned(&figure) }
        };
        let acid = times(own.acid, LotFigure::Acid(it.id.clone()));
        let sugar = times(own.sugar, LotFigure::Sugar(it.id.clone()));
        stronger(&mut it.per_gram, acid, sugar);
        let drawing = times(own.drawing_minutes, LotFigure::Drawing(it.id.clone()));
        it.texture.minutes = slower(it.texture.minutes, 1.0 / drawing);
        let hold = times(own.keeps.or(own.keeps_cooked).or(own.keeps_blended), LotFigure::Hold);
        if hold != 1.0 {
            for held in
                [&mut it.texture.held_raw, &mut it.texture.held_broken, &mut it.texture.pulp]
            {
                *held = slower(*held, hold);
            }
            it.per_gram[Component::PulpHold] *= hold;
        }
    }
}

fn slower(figure: Estimated, factor: f64) -> Estimated {
    if factor == 1.0 {
        return figure;
    }
    Estimated {
        value: figure.value * factor,
        low: figure.low * factor,
        high: figure.high * factor,
        ..figure
    }
}

/// With so many times the acid and the sugar; water makes up the difference.
pub(crate) fn stronger(mixture: &mut Mixture, acid: f64, sugar: f64) {
    if acid == 1.0 && sugar == 1.0 {
        return;
    }
    let before = mixture.mass().0;
    for c in Component::SUGARS {
        mixture[c] *= sugar;
    }
    for c in Component::ACIDS {
        mixture[c] *= acid;
    }
    mixture[Component::StrongIons] *= acid;
    let more = mixture.mass().0 - before;
    mixture[Component::Water] = (mixture[Component::Water] - more).max(0.0);
}

#[cfg(test)]
mod tests {
    use super::super::Cupboard;
    use super::*;

    fn lot(batch: &str, factor: f64, sd: f64) -> Lot {
        Lot {
            batch: batch.into(),
            figure: LotFigure::Acid("lemon_juice".into()),
            factor,
            sd,
            between: 0.11,
            day: String::new(),
        }
    }

    #[test]
    fn lots_move_the_kitchen_as_the_closed_form_says() {
        let figure = LotFigure::Acid("lemon_juice".into());
        let mut kitchen = Kitchen::default();
        assert_eq!(kitchen.learned(&figure), 1.0);
        kitchen.lots = vec![lot("a", 1.2, 0.03), lot("b", 1.3, 0.03)];
        let weight = 1.0 / (0.11_f64.powi(2) + 0.03_f64.powi(2));
        let expected =
            weight * (1.2_f64.ln() + 1.3_f64.ln()) / (1.0 / 0.11_f64.powi(2) + 2.0 * weight);
        assert!((kitchen.learned(&figure).ln() - expected).abs() < 1e-12);
        // A lot of which next to nothing is known hardly counts.
        kitchen.lots.push(lot("c", 0.3, 3.0));
        assert!((kitchen.learned(&figure).ln() - expected).abs() < 0.01);
        // Other figures know nothing of it.
        assert_eq!(kitchen.learned(&LotFigure::Hold), 1.0);
    }

    #[test]
    fn what_was_learned_is_what_is_run_unless_the_figure_is_ones_own() {
        let mut kitchen = Kitchen { lots: vec![lot("a", 1.3, 0.01); 3], ..Kitchen::default() };
        let acid = |kitchen: &Kitchen| {
            let cupboard = Cupboard::of(kitchen);
            let juice = cupboard.ingredient("lemon_juice").unwrap().per_gram;
            assert!((juice.mass().0 - 1.0).abs() < 1e-6, "a gram stays a gram");
            juice.titratable_acid()
        };
        let table = acid(&Kitchen::default());
        let expected = kitchen.learned(&LotFigure::Acid("lemon_juice".into()));
        assert!(expected > 1.15);
        assert!((acid(&kitchen) / table - expected).abs() < 0.01);
        let own = OwnFigures { acid: Some(5.0), ..OwnFigures::default() };
        kitchen.figures.insert("lemon_juice".into(), own);
        assert!((acid(&kitchen) - 0.05).abs() < 1e-4);
    }
}
