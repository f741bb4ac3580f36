//! What is cooled, chilled and frozen.

use super::engine::Engine;
use super::heat::{MELTING, Surrounding};
use super::notice::NoticeKind as Kind;
use super::spent::{Place, Spent};
use crate::chemistry::{Component, freezing_point};
use crate::drink::CoolingPlace;
use crate::quantity::{Celsius, Minutes};

impl Engine<'_> {
    pub(super) fn cool(
        &mut self,
        vessel: usize,
        to: Celsius,
        place: CoolingPlace,
        lid: bool,
    ) -> Spent {
        if self.is_empty(vessel, "cool") {
            return Spent::by_hand(0.0);
        }
        let freezes = Celsius(freezing_point(&self.vessels[vessel].liquid));
        if place == CoolingPlace::Freezer && to < freezes {
            return self.freeze(vessel, to, freezes);
        }
        let (minutes, reached) = self.cool_to(vessel, to, place.into(), lid);
        if reached.0 > to.0 + 0.6 {
            self.notice(
                Kind::StaysWarmer,
                format!(
                    "It gets no colder than {} there; {} needs a colder place.",
                    self.say_warmth(reached),
                    self.say_warmth(to)
                ),
            );
        }
        Spent::waiting(minutes).standing(Place { surrounding: place.into(), lid })
    }

    /// Newton's curve never quite arrives: within half a degree counts as there.
    fn cool_to(
        &mut self,
        vessel: usize,
        to: Celsius,
        place: Surrounding,
        lid: bool,
    ) -> (Minutes, Celsius) {
        let shape = self.vessel(vessel);
        let place = place.slower(self.cooling_luck());
        let contents = &mut self.vessels[vessel];
        let start = contents.temperature;
        let reached = to.max(Celsius(place.temperature.0 + 0.5));
        if start <= to {
            return (Minutes(0.0), to);
        }
        let tau = place.tau(shape, contents.heat_capacity(), contents.level().0, lid);
        let minutes = if start > reached {
            let end = place.temperature.0;
            Minutes(tau * ((start.0 - end) / (reached.0 - end)).ln())
        } else {
            Minutes(0.0)
        };
        let gone = contents.stand(shape, place, minutes, lid);
        self.goes_off(vessel, &gone);
        (minutes, reached)
    }

    fn freeze(&mut self, vessel: usize, to: Celsius, freezes: Celsius) -> Spent {
        let place = Surrounding::from(CoolingPlace::Freezer);
        let (minutes, _) = self.cool_to(vessel, freezes, place, true);
        let luck = self.cooling_luck();
        let shape = self.vessel(vessel);
        let contents = &mut self.vessels[vessel];
        let water = contents.liquid[Component::Water]
            + contents.pieces.iter().map(|p| p.inside[Component::Water]).sum::<f64>();
        // Heat of freezing through the same wall, and as long again to get hard.
        let tau =
            place.slower(luck).tau(shape, contents.heat_capacity(), contents.level().0, false);
        let freezing = water * MELTING
            / contents.heat_capacity().max(1e-9)
            / (freezes.0 - place.temperature.0).max(1.0);
        let brix = contents.liquid.soluble_solids();
        let gone = contents.freeze(to);
        self.goes_off(vessel, &gone);
        if brix > 35.0 {
            self.notice(
                Kind::StaysSoft,
                format!("At {brix:.0} °Bx it won't freeze hard: cubes stay soft and melt quickly."),
            );
        }
        let minutes = minutes + Minutes(tau * freezing * 1.3);
        Spent::waiting(minutes).standing(Place { surrounding: place, lid: true })
    }
}
