//! What a cook should know of a vessel after a step: whether it runs over, whether sugar lies undissolved,
//! whether it turns bitter, curdles, or has stood warm for too long.

use super::engine::Engine;
use super::heat::{MEASURED_AT, ROOM};
use super::notice::{NoticeKind as Kind, say_grams, say_ml};
use crate::chemistry::Component;
use crate::cupboard::{SOUR_FOR_METAL, VesselKind};

impl Engine<'_> {
    /// Looks at a vessel after a step and says what is amiss with it.
    pub(super) fn watch(&mut self, vessel: usize) {
        let contents = &self.vessels[vessel];
        let it = self.vessel(vessel);
        if it.kind.strainer().is_some() {
            return;
        }
        let level = contents.level();
        let over = level.0 - it.capacity().0;
        let working = it.kind.working_level(contents.temperature);
        if over > 0.5 {
            let message = format!(
                "{} holds {} and would have to hold {}: {} too much.",
                self.subject(vessel),
                say_ml(it.capacity().0),
                say_ml(level.0),
                say_ml(over)
            );
            self.notice(Kind::OverBrim, message);
        } else if it.kind == VesselKind::Pot
            && contents.temperature.0 > 90.0
            && level.0 > working * it.capacity().0 + 0.5
        {
            let message = format!(
                "{} is {:.0} % full and boils over from two thirds on. Take a larger one, or boil it \
                 in two goes.",
                self.subject(vessel),
                100.0 * level.0 / it.capacity().0
            );
            self.notice_once(vessel, Kind::TooFullForThat, message);
        }
        self.watch_sugar(vessel);
        self.watch_taste(vessel);
    }

    pub(super) fn watch_sugar(&mut self, vessel: usize) {
        let contents = &self.vessels[vessel];
        let left = contents.undissolved().0;
        if left > 0.5 && contents.liquid[Component::Water] > 1.0 {
            // Fruit under sugar is meant to lie there; what it needs is time.
            let waits =
                contents.pieces.iter().map(|p| p.put_in.0).sum::<f64>() > contents.liquid.mass().0;
            let hot = contents
                .dissolves_at()
                .map_or_else(String::new, |t| format!(" at {:.0} °C, or", t.0));
            let message = format!(
                "{} stays undissolved at {:.0} °C. All of it would dissolve{hot} with {} more \
                 water.",
                say_grams(left),
                contents.temperature.0,
                say_ml(contents.water_to_dissolve().0)
            );
            if !waits {
                self.notice(Kind::Undissolved, message);
            }
        } else if contents.temperature <= ROOM && contents.crystallises_at(contents.temperature) {
            let message = format!(
                "At {:.0} °C it holds more sugar than stays dissolved for long: crystals will form.",
                contents.temperature.0
            );
            self.notice(Kind::WillCrystallise, message);
        }
    }

    pub(super) fn watch_taste(&mut self, vessel: usize) {
        let contents = &self.vessels[vessel];
        let litres = contents.liquid.volume(MEASURED_AT).0 / 1000.0;
        if litres < 0.01 {
            return;
        }
        let (mass, t) = (contents.liquid.mass().0, contents.temperature.0);
        let acid = contents.liquid.acidity_percent();
        if let Some(material) = self.vessel(vessel).material
            && material.reacts_with_acid()
            && acid > SOUR_FOR_METAL
        {
            let message = format!(
                "{} is of {}: acid takes metal out of it and tastes of it. Use steel, enamel or \
                 glass.",
                self.subject(vessel),
                material.name()
            );
            self.notice_once(vessel, Kind::AcidInMetal, message);
        }
        let contents = &self.vessels[vessel];
        let bitter = contents.liquid[Component::Bitterness] / litres;
        // Said where it comes from, while something can still be done about it.
        let from = contents
            .pieces
            .iter()
            .map(|p| &self.cupboard.ingredients()[p.ingredient])
            .find(|it| it.flavour.bitterness > 0.0)
            .map(|it| it.name.to_lowercase())
            .or((contents.liquid[Component::BoundBitterness] > 0.1)
                .then(|| "the pulp of whole citrus".to_owned()));
        if bitter > 1.2
            && contents.liquid.soluble_solids() < 45.0
            && let Some(from) = from
        {
            let strong = if bitter > 2.5 { "clearly" } else { "just" };
            self.notice_once(
                vessel,
                Kind::Bitter,
                format!(
                    "By now it tastes {strong} bitter (estimated). It comes from {from}; give it less \
                     time or heat."
                ),
            );
        }
        let contents = &self.vessels[vessel];
        let protein = 100.0 * contents.liquid[Component::Protein] / mass;
        let dairy = contents.liquid[Component::Lactose] > 0.001 * mass;
        if dairy && protein > 0.3 && t > 45.0 && contents.liquid.ph().is_some_and(|ph| ph < 4.8) {
            self.notice_once(
                vessel,
                Kind::Curdles,
                format!("Milk curdles in acid at {t:.0} °C. Bring them together cold."),
            );
        }
        let contents = &self.vessels[vessel];
        let perishable = contents.past.raw || !contents.pieces.is_empty();
        let keeps_itself = contents.liquid.soluble_solids() > 50.0
            || contents.liquid[Component::Ethanol] > 0.12 * mass;
        if contents.past.warm.0 > 150.0 && perishable && !keeps_itself {
            let hours = contents.past.warm.0 / 60.0;
            self.notice_once(
                vessel,
                Kind::LeftWarm,
                format!(
                    "It has stood warm for {hours:.0} hours; after two, things grow in it. Let it \
                     stand in the refrigerator instead."
                ),
            );
        }
    }
}
