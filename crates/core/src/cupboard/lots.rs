//! What single batches said of this kitchen's lots, and what follows for the next one.
//!
//! A lot is what was bought at once: these lemons, this bag of calyces. The tables give what lots have on
//! average, and lots differ from each other. When a batch is finished its readings say of each lot how it
//! was, as the logarithm of a factor on the tables' figure; over lots that moves what is expected here, and how
//! far off the next lot may be. It is the model of [`pooled`](super::pooled): a lot of which little is known hardly
//! counts, and lots that lie far apart say that lots do.

use serde::{Deserialize, Serialize};

use super::pooled::{Levels, Pooled};
use super::{Care, Estimated, Evidence, Ingredient, Kind, Kitchen, OwnFigures};
use crate::chemistry::{Component, Mixture};

/// The figure that a lot was measured for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum LotFigure {
    /// The acid of an ingredient; its id.
    Acid(String),
    /// Its sugar.
    Sugar(String),
    /// The speed of extraction.
    Drawing(String),
    /// The liquid that strained solids hold.
    Hold,
    /// The speed at which the burner boils water away.
    BoilOff,
    /// How long cooling takes.
    Cooling,
}

/// The value of a figure in one batch.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Lot {
    /// The id of its batch.
    pub batch: String,
    /// The figure that it is about.
    pub figure: LotFigure,
    /// The ratio to the table figure, 0.2 to 5.
    pub factor: f64,
    /// The uncertainty: a standard deviation of its logarithm, 0.001 to 3.
    pub sd: f64,
    /// The spread between lots: a standard deviation of the logarithm, 0.001 to 1.
    pub between: f64,
    /// The day, as `2026-06-21`.
    #[serde(default)]
    pub day: String,
}

impl Ingredient {
    /// How far lots of it differ in acid and in sugar, as standard deviations of the factor. Estimates from the
    /// ranges in the tables: lemon juice 3.5–6.5 g acid around 4.7, hibiscus 13.5–25 around 17.5.
    #[must_use]
    pub fn lots_differ(&self) -> (f64, f64) {
        let (acid, sugar) = match self.kind {
            Kind::Juice => (0.11, 0.10),
            Kind::Fruit | Kind::Vegetable => (0.15, 0.14),
            Kind::Flower | Kind::Herb => (0.22, 0.2),
            Kind::Root | Kind::Stem | Kind::Zest | Kind::Peel => (0.15, 0.15),
            Kind::Syrup if self.care.contains(&Care::Honey) => (0.15, 0.03),
            _ => (0.0, 0.0),
        };
        // What was measured here varies less than what was looked up.
        let known = if self.evidence == Evidence::Measured { 0.5 } else { 1.0 };
        (acid * known, sugar * known)
    }
}

impl Kitchen {
    /// What is known of a figure by the lots so far, as the logarithm of a factor on the tables'; nothing before any.
    #[must_use]
    pub fn known(&self, figure: &LotFigure) -> Option<Pooled> {
        of_lots(self.lots.iter().filter(|lot| lot.figure == *figure))
    }

    /// How many times what the tables say a figure is expected to be here, by the lots so far: 1 before any.
    #[must_use]
    pub fn learned(&self, figure: &LotFigure) -> f64 {
        self.known(figure).map_or(1.0, |known| known.mean.exp())
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

/// What some lots say of a figure together. What was read on one day was read of one lot: the better reading counts.
pub fn of_lots<'a>(lots: impl Iterator<Item = &'a Lot>) -> Option<Pooled> {
    let mut apart: Vec<&Lot> = Vec::new();
    for lot in lots {
        match apart.iter_mut().find(|l| !lot.day.is_empty() && l.day == lot.day) {
            Some(same) if lot.sd < same.sd => *same = lot,
            Some(_) => {}
            None => apart.push(lot),
        }
    }
    let between = apart.first()?.between;
    let before = Pooled::before(0.0, between, Levels::LOTS);
    let units = |lot: &Lot| (lot.sd / between).powi(2);
    Some(apart.into_iter().fold(before, |known, lot| known.after(lot.factor.ln(), units(lot))))
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
    fn lots_move_what_is_expected_by_how_well_they_are_known() {
        let figure = LotFigure::Acid("lemon_juice".into());
        let mut kitchen = Kitchen::default();
        assert_eq!(kitchen.learned(&figure), 1.0);
        kitchen.lots = vec![lot("a", 1.2, 0.03), lot("b", 1.3, 0.03)];
        let learned = kitchen.learned(&figure);
        assert!(learned > 1.05 && learned < 1.2, "{learned}");
        // A lot of which next to nothing is known hardly counts.
        kitchen.lots.push(lot("c", 0.3, 3.0));
        assert!((kitchen.learned(&figure) / learned - 1.0).abs() < 0.01);
        // The same lot read twice is one lot.
        let day = |lot: Lot| Lot { day: "2030-06-21".into(), ..lot };
        kitchen.lots = vec![day(lot("a", 1.2, 0.03)), day(lot("b", 1.2, 0.05))];
        let twice = kitchen.learned(&figure);
        kitchen.lots.pop();
        assert_eq!(kitchen.learned(&figure), twice);
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
        assert!(expected > 1.1);
        assert!((acid(&kitchen) / table - expected).abs() < 0.01);
        let own = OwnFigures { acid: Some(5.0), ..OwnFigures::default() };
        kitchen.figures.insert("lemon_juice".into(), own);
        assert!((acid(&kitchen) - 0.05).abs() < 1e-4);
    }
}
