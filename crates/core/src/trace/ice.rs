//! What freezes and what melts, in a vessel.
//!
//! A vessel has one temperature, and as long as there is ice in it and anything above freezing point, heat
//! goes into melting: 334 J a gram. Ice may be of water or of the drink itself, and water may be frozen
//! inside pieces of fruit; all of it melts together, each in proportion.

use super::contents::{Contents, Deposit, TRACE_OF, split};
use super::heat::MELTING;
use crate::chemistry::{Component, Mixture, freezing_point};
use crate::quantity::Celsius;

impl Contents {
    /// Lays ice in: all of it melts as one.
    pub(super) fn lay_ice(&mut self, deposit: Deposit) {
        match self.ice.first_mut() {
            Some(heap) => heap.join(deposit),
            None => self.ice.push(deposit),
        }
    }

    pub(super) fn melt(&mut self) {
        self.freeze_on();
        let all = self.frozen_water();
        if all > 0.0 && self.temperature.0 > 0.0 {
            self.melt_with(self.heat_capacity() * self.temperature.0);
        }
    }

    /// Ice that is colder than melting freezes water onto itself, and what is put in bit by bit cools as if all had come
    /// at once. What freezes much lower, as syrup, stays as cold as it is.
    fn freeze_on(&mut self) {
        const HARDLY_FREEZES: f64 = -4.0;
        let water = self.liquid[Component::Water];
        if self.temperature.0 >= 0.0
            || water <= TRACE_OF
            || (self.frozen_water() <= 0.0 && freezing_point(&self.liquid) < HARDLY_FREEZES)
        {
            return;
        }
        let cold = -self.temperature.0 * self.heat_capacity();
        // Some always stays liquid between the crystals.
        let freezes = (cold / MELTING).min(0.9 * water);
        self.liquid[Component::Water] -= freezes;
        let mixture = Mixture::of(&[(Component::Water, freezes)]);
        // It is told as the water of the line that brought most of it.
        let most = self.origins.iter().max_by(|a, b| a.water.0.total_cmp(&b.water.0));
        let line = most.map_or(0, |origin| origin.line);
        self.lay_ice(Deposit::of(line, mixture));
        self.retell_origins();
        // What cold is left over when nearly all is frozen stays in it.
        let left = (cold - freezes * MELTING).max(0.0);
        self.temperature = Celsius(-left / self.heat_capacity());
    }

    /// Water that is ice: as ice, and in frozen pieces.
    pub(super) fn frozen_water(&self) -> f64 {
        self.pieces.iter().map(|p| p.frozen.0).sum::<f64>()
            + self.ice.iter().map(|d| d.mixture[Component::Water]).sum::<f64>()
    }

    /// Whether it is a drink of which nothing is liquid: frozen hard, and not ice cubes in an empty glass.
    pub(super) fn is_frozen_through(&self) -> bool {
        self.liquid.mass().0 <= TRACE_OF
            && self.ice.iter().any(|d| d.mixture.soluble_solids_mass().0 > TRACE_OF)
    }

    /// As it will be once all its ice has melted.
    pub(super) fn thawed(&self) -> Self {
        let mut later = self.clone();
        later.melt_with(later.frozen_water() * MELTING);
        later
    }

    /// Melts as much as so much heat does, J; what is left over warms it from 0 °C.
    pub(super) fn melt_with(&mut self, heat: f64) {
        let all = self.frozen_water();
        let share = (heat / (all * MELTING)).min(1.0);
        for part in split(&mut self.ice, share) {
            part.origins.into_iter().for_each(|o| self.credit_origin(o));
            self.liquid += part.mixture;
        }
        for piece in &mut self.pieces {
            piece.frozen = piece.frozen * (1.0 - share);
        }
        if share >= 1.0 {
            self.ice.clear();
            let left = (heat - all * MELTING).max(0.0);
            self.temperature = Celsius(left / self.heat_capacity());
        } else {
            self.temperature = Celsius(0.0);
        }
    }

    /// Freezes hard: the liquid becomes ice of the same drink, pieces freeze through. Its gas doesn't stay
    /// in ice, and is returned.
    pub(super) fn freeze(&mut self, to: Celsius) -> Mixture {
        let gone = self.let_gas_off(1.0);
        if self.liquid.mass().0 > TRACE_OF {
            let frozen = Deposit {
                mixture: self.liquid.take_all(),
                origins: std::mem::take(&mut self.origins),
            };
            self.lay_ice(frozen);
        }
        for mut piece in std::mem::take(&mut self.pieces) {
            piece.freeze();
            self.lay(piece);
        }
        self.temperature = to;
        gone
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::super::contents::{Coming, Contents};
    use super::super::heat::{MELTING, ROOM};
    use super::super::{Nudges, Prepared};
    use crate::chemistry::{Component, Mixture};
    use crate::cupboard::{Cupboard, VesselKind};
    use crate::drink::{
        Action, Cut, Drink, Family, Portion, Press, Step, Stirring, Vessel, Warmth,
    };
    use crate::quantity::Amount;

    /// Heat in it, from liquid at 0 °C, and in the wet of its vessel, from the kitchen's warmth, J.
    fn heat(contents: &Contents) -> f64 {
        let wall = contents.wall.wet;
        (contents.heat_capacity() - wall) * contents.temperature.0
            + wall * (contents.temperature.0 - ROOM.0)
            - contents.frozen_water() * MELTING
    }

    /// What comes in alone, with no vessel to warm.
    fn alone(id: &str, grams: f64, warmth: Warmth) -> Contents {
        let cupboard = Cupboard::builtin();
        let (at, it) = (cupboard.position(id).unwrap(), cupboard.ingredient(id).unwrap());
        let mixture: Mixture = it.per_gram.share(grams);
        let mut contents = Contents::default();
        contents.put(0, at, it, mixture, Coming { warmth, ..Coming::USUAL });
        contents
    }

    fn coming() -> impl Strategy<Value = (&'static str, f64, Warmth)> {
        const IDS: [&str; 7] =
            ["water", "ice", "strawberry", "lemon_juice", "simple_syrup_1_1", "honey", "milk"];
        const WARMTH: [Warmth; 6] = [
            Warmth::Usual,
            Warmth::Chilled,
            Warmth::Tap,
            Warmth::Hot,
            Warmth::Boiling,
            Warmth::Frozen,
        ];
        (prop::sample::select(&IDS[..]), 20.0..800.0, prop::sample::select(&WARMTH[..]))
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(600))]

        /// Whatever is put in, poured in and parted, in whatever order: what comes out of one goes into the other.
        #[test]
        fn heat_is_neither_made_nor_lost(parts in prop::collection::vec(coming(), 1..6), share in 0.1..0.9) {
            let jug = Vessel::new("jug", VesselKind::Jug);
            let mut together = Contents::default().standing_in(&jug);
            let mut came = 0.0;
            for (id, grams, warmth) in parts {
                let one = alone(id, grams, warmth);
                // Its own gas that is lost on the way takes no heat along that is worth a word.
                came += heat(&one);
                together.pour_in(one);
                let now = heat(&together);
                let scale = came.abs().max(together.mass().0 * 10.0);
                prop_assert!((now - came).abs() < 1e-3 * scale, "{now} J of {came} J after {id}");
            }
            let before = heat(&together) - together.wall.wet * (together.temperature.0 - ROOM.0);
            let part = together.take(share);
            let left = heat(&together) - together.wall.wet * (together.temperature.0 - ROOM.0);
            prop_assert!((heat(&part) + left - before).abs() < 1e-6 * before.abs().max(1.0));
            let water = part.liquid[Component::Water];
            prop_assert!(water >= 0.0);
        }
    }

    const HOLDERS: [&str; 4] = ["pot", "bowl", "jug", "pitcher"];

    /// What is done by hand, so that heat only goes from one thing into another.
    fn by_hand() -> impl Strategy<Value = Action> {
        let holder = || prop::sample::select(&HOLDERS[..]).prop_map(str::to_owned);
        let two = move || (holder(), holder()).prop_filter("apart", |(a, b)| a != b);
        let grams = || (5.0..900.0).prop_map(Amount::grams);
        prop_oneof![
            5 => (holder(), coming(), grams()).prop_map(|(into, (id, _, warmth), amount)| Action::Add {
                into, ingredient: id.into(), amount, warmth, cut: Cut::Usual, portions: 1,
            }),
            3 => (two(), 0.05..1.0).prop_map(|((from, into), share)| Action::Pour {
                from, into, portion: Portion::Share(share),
            }),
            1 => two().prop_map(|(from, into)| Action::Pour { from, into, portion: Portion::All }),
            2 => (two(), prop::sample::select(vec![Press::Drained, Press::Wrung])).prop_map(
                |((from, into), press)| Action::Strain { from, through: "sieve".into(), into, press }
            ),
            1 => holder().prop_map(|vessel| Action::Stir { vessel, until: Stirring::Mixed }),
            1 => (two(), grams()).prop_map(|((vessel, into), amount)| Action::Rinse {
                vessel, ingredient: "water".into(), amount, warmth: Warmth::Hot, through: None, into,
                press: Press::Drained,
            }),
            1 => (holder(), 1u32..9).prop_map(|(from, glasses)| Action::Serve {
                from, glass: "glass".into(), glasses, size: Amount::millilitres(180.0),
            }),
        ]
    }

    fn of_steps(actions: Vec<Action>) -> Drink {
        let kinds = [
            ("pot", VesselKind::Pot),
            ("bowl", VesselKind::Bowl),
            ("jug", VesselKind::Jug),
            ("pitcher", VesselKind::Pitcher),
            ("sieve", VesselKind::FineSieve),
            ("glass", VesselKind::Glass),
        ];
        let step = |(i, action)| Step::new(format!("s{i}"), action);
        Drink {
            name: "Test".into(),
            family: Family::Lemonade,
            note: String::new(),
            part: None,
            vessels: kinds.map(|(id, kind)| Vessel::new(id, kind)).to_vec(),
            steps: actions.into_iter().enumerate().map(step).collect(),
        }
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(600))]

        /// Over all vessels of a random drink, at each of its steps. What is emptied leaves its wall to the kitchen.
        #[test]
        fn a_step_by_hand_makes_and_loses_no_heat(actions in prop::collection::vec(by_hand(), 1..14)) {
            let (drink, cupboard) = (of_steps(actions), Cupboard::builtin());
            let prepared = Prepared::new(&drink, cupboard);
            let mut engine = prepared.engine(Nudges::default(), Vec::new());
            for step in 0..drink.steps.len() {
                let begins = engine.wait_for(step);
                // The wall of what is empty is as warm as the kitchen before anything comes in again.
                engine.vessels.iter_mut().for_each(|v| v.wall.dries_if(v.is_empty()));
                let before = engine.vessels.clone();
                engine.carry_out(step, begins);
                let many = engine.many.clone();
                let mut off = 0.0;
                let mut scale = 0.0;
                for ((was, is), many) in before.iter().zip(&engine.vessels).zip(&many) {
                    let dried = (was.wall.wet - is.wall.wet).max(0.0);
                    let left = dried * (was.temperature.0 - ROOM.0);
                    off += (heat(is) + left - heat(was)) * many;
                    scale += (heat(is).abs() + was.mass().0.max(is.mass().0) * 10.0) * many;
                }
                for line in engine.lines.iter().filter(|l| l.step == step) {
                    let id = &cupboard.ingredients()[line.ingredient].id;
                    off -= heat(&alone(id, line.grams.0, drink.steps[step].action.warmth()));
                }
                prop_assert!(
                    off.abs() <= 1e-3 * scale.max(1.0),
                    "{off} J of {scale} J at {:?}", drink.steps[step].action
                );
            }
        }
    }
}
