//! What stands and draws, is rubbed, lifted out or blended.

use super::engine::Engine;
use super::notice::NoticeKind as Kind;
use super::spent::{Place, Spent};
use crate::drink::{Maceration, Preparation, RestingPlace};
use crate::quantity::{Celsius, Minutes};

impl Engine<'_> {
    /// Washing and cutting: minutes by hand; soaking is waiting.
    pub(super) fn prepare(how: Preparation, minutes: Option<f64>) -> Spent {
        let usual = match how {
            Preparation::Wash => 2.0,
            Preparation::Soak => 20.0,
            Preparation::Inspect | Preparation::Crush => 3.0,
            Preparation::Peel | Preparation::Chop => 5.0,
        };
        let minutes = minutes.unwrap_or(usual);
        match how {
            Preparation::Soak => Spent::waiting(Minutes(minutes)),
            _ => Spent::by_hand(minutes),
        }
    }

    pub(super) fn infuse(&mut self, vessel: usize, minutes: Minutes, place: Place) -> Spent {
        let shape = self.vessel(vessel);
        let surrounding = place.surrounding.slower(self.cooling_luck());
        let gone = self.vessels[vessel].stand(shape, surrounding, minutes, place.lid);
        self.goes_off(vessel, &gone);
        Spent::waiting(minutes).standing(place)
    }

    pub(super) fn macerate(
        &mut self,
        vessel: usize,
        minutes: Minutes,
        how: Maceration,
        place: RestingPlace,
    ) -> Spent {
        if self.is_empty(vessel, "leave under sugar") {
            return Spent::by_hand(0.0);
        }
        match how {
            Maceration::Rubbed => {
                self.vessels[vessel].rub(minutes);
                Spent::by_hand(minutes.0)
            }
            Maceration::Left => {
                self.infuse(vessel, minutes, Place { surrounding: place.into(), lid: true })
            }
        }
    }

    pub(super) fn lift(&mut self, from: usize, ingredient: usize, into: usize) -> Spent {
        let luck = self.hold_luck();
        if !self.vessels[from].pieces.iter().any(|p| p.ingredient == ingredient) {
            let name = self.cupboard.ingredients()[ingredient].name.to_lowercase();
            let the = self.subject(from);
            self.notice(Kind::NothingThere, format!("{the} has no {name} to lift out."));
            return Spent::by_hand(0.0);
        }
        let out = self.vessels[from].lift(ingredient, luck).times(self.many[from]);
        self.receive(into, out);
        Spent::by_hand(1.0)
    }

    pub(super) fn blend(&mut self, vessel: usize, seconds: f64) {
        if self.is_empty(vessel, "blend") {
            return;
        }
        let it = self.vessel(vessel);
        let contents = &self.vessels[vessel];
        let (t, level) = (contents.temperature, contents.level());
        if it.kind.hottest().is_some_and(|most| t > most) {
            self.notice(
                Kind::HotInBlender,
                format!(
                    "At {} steam can throw the lid off and burn you. Let it cool, or fill the \
                     blender to a third and leave the lid's vent open.",
                    self.say_warmth(t)
                ),
            );
        } else if it.kind == crate::cupboard::VesselKind::Blender
            && level.0 > it.kind.working_level(Celsius(20.0)) * it.capacity().0
        {
            let the = self.subject(vessel);
            self.notice(
                Kind::TooFullForThat,
                format!("{the} is too full to blend without spilling. Blend in two rounds."),
            );
        }
        let pith = self.vessels[vessel]
            .pieces
            .iter()
            .any(|p| self.cupboard.ingredients()[p.ingredient].has_pith());
        if pith && seconds > 20.0 {
            self.notice(
                Kind::Bitter,
                format!(
                    "Whole citrus blended for {seconds:.0} seconds turns bitter. Blend for 10 seconds and strain at once."
                ),
            );
        }
        self.vessels[vessel].blend(seconds);
    }
}
