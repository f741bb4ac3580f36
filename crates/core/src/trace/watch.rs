//! What a cook should know of a vessel after a step: whether it runs over, whether sugar lies undissolved,
//! whether it turns bitter, curdles, or has stood warm for too long.

use super::contents::{Contents, Origin};
use super::engine::Engine;
use super::heat::{MEASURED_AT, ROOM};
use super::notice::{NoticeKind as Kind, say_grams, say_ml};
use crate::chemistry::Component;
use crate::cupboard::{Ingredient, Kind as Sort, NOTICED_BITTERNESS, SOUR_FOR_METAL, VesselKind};
use crate::drink::{Action, CoolingPlace};

/// Days at 4 °C that any pot uses up while it cools.
const HARDLY_AGED: f64 = 0.75;

/// Above this soured milk separates too, °C.
const WARM_MILK: f64 = 45.0;

/// Whether milk curdles at that pH and temperature. Casein sets at pH 4.6 at room temperature, at 5.2 to 5.4 at 60 °C
/// and at 5.6 to 5.9 near the boil; under 10 °C it stays as it is, and below pH 3.6 it stays in solution (Walstra, Dairy
/// Science and Technology; estimated between).
fn curdles(ph: f64, t: f64, fresh: bool) -> bool {
    let sets = if fresh { 4.3 + 0.0165 * t } else { 4.8 };
    let there = t > WARM_MILK || (fresh && t > 10.0 && ph > 3.6);
    there && ph < sets
}

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
                "{} holds {}, and this would be {}: {} too much.",
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
                "{} is {:.0} % full and may boil over. Use a larger one, or boil it in two rounds.",
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
            let waits = matches!(self.drink.steps[self.at].action, Action::Macerate { .. })
                || contents.pieces.iter().map(|p| p.put_in.0).sum::<f64>()
                    > contents.liquid.mass().0;
            let hot = contents
                .dissolves_at()
                .map_or_else(String::new, |t| format!(" at {}, or", self.say_warmth(t)));
            let message = format!(
                "{} won't dissolve at {}. It would all dissolve{hot} with {} more water.",
                say_grams(left),
                self.say_warmth(contents.temperature),
                say_ml(contents.water_to_dissolve().0)
            );
            if !waits {
                self.notice(Kind::Undissolved, message);
            }
        } else if contents.temperature <= ROOM && contents.crystallises_at(contents.temperature) {
            let message = format!(
                "There is too much sugar for {}: crystals will form.",
                self.say_warmth(contents.temperature)
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
                "{} is {}, which reacts with acid and taints the taste. Use stainless steel, enamel or glass.",
                self.subject(vessel),
                material.name()
            );
            self.notice_once(vessel, Kind::AcidInMetal, message);
        }
        let contents = &self.vessels[vessel];
        let bitter = contents.liquid[Component::Bitterness] / litres;
        if contents.is_bitter()
            && let Some(from) = self.bitter_from(contents)
        {
            let strong = if bitter > 2.0 * NOTICED_BITTERNESS { "clearly" } else { "just" };
            self.notice_once(
                vessel,
                Kind::Bitter,
                format!(
                    "It now tastes {strong} bitter (estimated), from {from}. Use less of it, less time or less heat."
                ),
            );
        }
        let contents = &self.vessels[vessel];
        let protein = 100.0 * contents.liquid[Component::Protein] / mass;
        let dairy = contents.liquid[Component::Lactose] > 0.001 * mass;
        if dairy
            && protein > 0.3
            && let Some(ph) = contents.liquid.ph()
            && curdles(ph, t, self.is_of_fresh_milk(contents))
        {
            let what_to_do = if t > WARM_MILK {
                "Cool both, then combine them."
            } else {
                "Combine them ice-cold, just before serving."
            };
            self.notice_once(
                vessel,
                Kind::Curdles,
                format!(
                    "Milk curdles at {} when it is this sour (pH {ph:.1}). {what_to_do}",
                    self.say_warmth(crate::quantity::Celsius(t))
                ),
            );
        }
        self.watch_age(vessel);
    }

    /// Whether milk is in it that has not been soured before: yogurt has set already.
    fn is_of_fresh_milk(&self, contents: &Contents) -> bool {
        contents.origins.iter().filter_map(|o| self.ingredient_of(o.line)).any(|(_, it)| {
            it.per_gram[Component::Lactose] > 0.01 && it.per_gram.ph().is_some_and(|ph| ph > 5.5)
        })
    }

    /// Says when something has been kept warm, or kept at all, for longer than is safe. Once for the drink:
    /// wherever it is poured, its days go along.
    fn watch_age(&mut self, vessel: usize) {
        let contents = &self.vessels[vessel];
        let past = &contents.past;
        let is_something = past.is_raw()
            || past.is_heated()
            || past.plant_milk
            || contents.liquid[Component::Lactose] > 0.0;
        // Half a day is used up by any pot that cools.
        if (past.age < HARDLY_AGED && past.left > 0.0)
            || !is_something
            || self.has_told(Kind::LeftWarm)
        {
            return;
        }
        let acid_is_known = contents.acid_is_known(self.drink, self.cupboard);
        let judged = contents.judged(acid_is_known);
        let left = judged.left();
        if left > 0.0 {
            return;
        }
        let instead = if self.stands_cold(vessel) {
            "Next time cool it in cold water first, or in smaller vessels."
        } else {
            "Next time leave it in the refrigerator."
        };
        let hours = past.warm.0 / 60.0;
        let message = if hours >= 1.5 {
            format!(
                "Warm for about {hours:.0} hours: bacteria may have grown. Discard it. {instead}"
            )
        } else {
            "Kept too long: discard it.".to_owned()
        };
        self.notice_once(vessel, Kind::LeftWarm, message);
    }

    /// Whether the step that has just been done leaves the vessel in the cold.
    fn stands_cold(&self, vessel: usize) -> bool {
        let place = match &self.drink.steps[self.at].action {
            Action::Infuse { place, .. } | Action::Macerate { place, .. } => (*place).into(),
            Action::Cool { place, .. } => *place,
            _ => return false,
        };
        self.drink.steps[self.at].action.path().contains(&self.vessel(vessel).id.as_str())
            && matches!(place, CoolingPlace::Refrigerator | CoolingPlace::Freezer)
    }

    /// What the bitterness of a vessel comes from: what lies in it, or what was poured in.
    fn bitter_from(&self, contents: &Contents) -> Option<String> {
        let name = |it: &Ingredient| it.name.to_lowercase();
        let ingredients = self.cupboard.ingredients();
        let lies = contents
            .pieces
            .iter()
            .map(|p| (&ingredients[p.ingredient], p.put_in.0))
            .filter(|(it, _)| it.flavour.bitterness > 0.0)
            .max_by(|a, b| {
                (a.0.flavour.bitterness * a.1).total_cmp(&(b.0.flavour.bitterness * b.1))
            });
        if let Some((it, _)) = lies {
            return Some(name(it));
        }
        if contents.liquid[Component::BoundBitterness] > 0.1 {
            return Some("the pulp of whole citrus".to_owned());
        }
        let poured = |o: &Origin| {
            let (_, it) = self.ingredient_of(o.line)?;
            // Who pours tonic means it.
            (it.flavour.bitterness > 0.0 && it.kind != Sort::Soda).then_some(it)
        };
        let poured = contents.origins.iter().filter_map(poured);
        poured.max_by(|a, b| a.flavour.bitterness.total_cmp(&b.flavour.bitterness)).map(name)
    }
}
