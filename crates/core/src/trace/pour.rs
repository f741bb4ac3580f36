//! What is put in, poured, filled up and served.

use super::contents::{Coming, Contents};
use super::engine::{Engine, Served};
use super::heat::{MEASURED_AT, ROOM};
use super::notice::{NoticeKind as Kind, say_ml};
use super::spent::Spent;
use crate::cupboard::{Form, Ingredient, Kind as Sort, Part, TextureKind, Trait};
use crate::drink::{Action, Portion};
use crate::quantity::Amount;
use crate::quantity::{Celsius, Grams, Millilitres, Millimetres};

/// The share of its gas that a drink loses when it is poured on; down a tilted wall. Estimate 7–20 %.
const POURING_LOSS: f64 = 0.12;
/// The share of room between pieces that lie in a heap; kitchen pieces pack to about 60 %.
const GAPS: f64 = 0.4;

/// Grams of zest or peel of one fruit, where its fruit wasn't said.
const A_PIECE_GIVES: f64 = 8.0;

/// Grams of a thick peel, of pineapple or melon, that come off in a minute. Estimate 50 to 80.
const THICK_PEEL_A_MINUTE: f64 = 60.0;

/// Minutes that a practised hand needs for the zest or the peel of one fruit. Estimates: the zest of
/// three lemons takes four minutes.
fn paring(part: Part) -> f64 {
    match part {
        Part::Zest => 1.0,
        Part::Peel => 0.7,
        _ => 0.0,
    }
}

impl Engine<'_> {
    /// Puts something in. Returns the minutes that it takes to pare or grate it first.
    pub(super) fn add(&mut self, step: usize, vessel: usize) -> Option<f64> {
        let (ingredient, weighed) = self.weighed(step)?;
        self.put(step, vessel, ingredient, weighed.grams, weighed.pieces);
        let it = &self.cupboard.ingredients()[ingredient];
        let pared = if it.texture.kind == TextureKind::FirmPeel {
            weighed.grams.0 / THICK_PEEL_A_MINUTE
        } else {
            paring(it.part) * weighed.pieces.unwrap_or(weighed.grams.0 / A_PIECE_GIVES)
        };
        Some(pared * self.many[vessel])
    }

    pub(super) fn squeeze(
        &mut self,
        step: usize,
        vessel: usize,
        bowl: Option<usize>,
    ) -> Option<Spent> {
        let (ingredient, weighed) = self.weighed(step)?;
        self.put(step, vessel, ingredient, weighed.grams, weighed.pieces);
        let it = &self.cupboard.ingredients()[ingredient];
        if let Some(bowl) = bowl
            && let Some(halves) = self.cupboard.halves_of(it)
            && let Some(index) = self.cupboard.position(&halves.id)
        {
            let grams = self.left_of(it, halves, weighed.grams) * (1.0 / self.many[bowl]);
            let mixture = self.portion_of(index, grams);
            self.vessels[bowl].put(step, index, halves, mixture, Coming::USUAL);
            self.book(step, bowl, index, grams, None, true);
        }
        // About forty seconds a lemon, halving and pips included; estimate.
        let pieces = weighed.pieces.unwrap_or(weighed.grams.0 / 45.0);
        Some(Spent::by_hand(1.0 + 0.7 * pieces))
    }

    /// What so much juice leaves of the fruit.
    fn left_of(&self, juice: &Ingredient, halves: &Ingredient, grams: Grams) -> Grams {
        let of_one = |it: &Ingredient| {
            let one = Amount::of(1.0, crate::quantity::Measure::Piece(String::new()));
            self.cupboard.weigh(it, &one).map_or(0.0, |w| w.grams.0)
        };
        let (from, left) = (of_one(juice), of_one(halves));
        Grams(if from > 0.0 { grams.0 / from * left } else { 0.0 })
    }

    /// Whether what is in a vessel goes on the ring again before anything else is done with it.
    fn goes_on_the_ring(&self, step: usize, vessel: usize) -> bool {
        let on_it = |action: &Action| {
            action.path().first().is_some_and(|id| self.drink.vessel(id) == Some(vessel))
        };
        let after = self.drink.steps[step + 1..].iter().map(|s| &s.action);
        let next = after.filter(|a| on_it(a)).find(|a| a.brings().is_none());
        matches!(next, Some(Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. }))
    }

    /// What to mind when an ingredient goes into a vessel with some liquid of that temperature and sweetness in it.
    pub(super) fn mind(
        &mut self,
        step: usize,
        vessel: usize,
        it: &Ingredient,
        grams: Grams,
        t: Celsius,
        brix: f64,
    ) {
        if it.form == Form::Crystals && it.kind == Sort::Sweetener && grams.0 > 20.0 && t.0 < 15.0 {
            self.notice(
                Kind::SlowToDissolve,
                format!(
                    "At {} sugar takes some minutes of stirring. Syrup would mix at once.",
                    self.say_warmth(t)
                ),
            );
        }
        if it.kind == Sort::Juice && t.0 > 50.0 {
            self.notice(
                Kind::JuiceIntoHot,
                format!(
                    "{} loses its freshness in liquid at {}. Cool it below {} first.",
                    it.name,
                    self.say_warmth(t),
                    self.say_warmth(Celsius(50.0))
                ),
            );
        }
        // After the boil it is put in on purpose.
        if matches!(it.kind, Sort::Zest | Sort::Herb)
            && t.0 > 95.0
            && brix > 15.0
            && self.goes_on_the_ring(step, vessel)
        {
            self.notice(
                Kind::ZestIntoBoiling,
                format!(
                    "{} turns brown and tastes cooked in boiling syrup. Take the pot off the heat first.",
                    it.name
                ),
            );
        }
        if it.kind == Sort::Soda && t.0 > 15.0 {
            self.notice(
                Kind::LosesFizz,
                format!(
                    "{} foams and goes flat at {}. Chill the drink first.",
                    it.name,
                    self.say_warmth(t)
                ),
            );
        }
        if it.is(Trait::Swells) {
            self.notice(
                Kind::NeedsTime,
                format!("{} swell for 15 minutes; stir twice meanwhile.", it.name),
            );
        }
    }

    /// Pours something, from one vessel or all that it stands for, into all that another stands for.
    pub(super) fn receive(&mut self, vessel: usize, all: Contents) {
        let share = 1.0 / self.many[vessel];
        self.vessels[vessel].pour_in(all.times(share));
    }

    /// A fizzy drink loses some of its gas on the way.
    fn loses_gas(&mut self, all: &mut Contents) {
        self.gone += all.let_gas_off(POURING_LOSS);
    }

    pub(super) fn pour(&mut self, step: usize, from: usize, into: usize, portion: &Portion) {
        if self.is_empty(from, "pour") {
            return;
        }
        let (kind, many) = (self.vessel(from).kind, self.many[from]);
        let out = match portion {
            Portion::All if kind.strainer().is_some() => self.vessels[from].take(1.0),
            Portion::All => self.vessels[from].pour_out(kind),
            Portion::Share(share) => self.vessels[from].take(*share),
            Portion::Volume(volume) => {
                let there = self.vessels[from].level() * many;
                let wanted = self.said(step, volume).unwrap_or_default();
                if wanted.0 > there.0 + 0.5 {
                    let the = self.subject(from);
                    self.notice(
                        Kind::FallsShort,
                        format!("{the} holds only {}, so all of it is poured.", say_ml(there.0)),
                    );
                }
                self.vessels[from].take(wanted / there)
            }
        };
        let mut out = out.times(many);
        self.loses_gas(&mut out);
        self.receive(into, out);
    }

    pub(super) fn top_up(&mut self, step: usize, vessel: usize, to: &Amount) -> Option<()> {
        let (ingredient, it) = self.ingredient_of(step)?;
        let line = self.said(step, to)?;
        let level = self.vessels[vessel].level();
        if level.0 > line.0 + 0.5 {
            let message = format!(
                "{} already holds {}, above the {} line, so nothing is added.",
                self.subject(vessel),
                say_ml(level.0),
                say_ml(line.0)
            );
            self.notice(Kind::TopUpExceeded, message);
        }
        let needed = self.grams_to_reach(step, vessel, ingredient, it, line);
        self.put(step, vessel, ingredient, needed, None);
        Some(())
    }

    /// What has to go in until a level is met. Volumes don't quite add up, so the amount is trued
    /// until the line is met.
    fn grams_to_reach(
        &self,
        step: usize,
        vessel: usize,
        ingredient: usize,
        it: &Ingredient,
        line: Millilitres,
    ) -> Grams {
        let level = self.vessels[vessel].level();
        if line <= level {
            return Grams(0.0);
        }
        let density = if it.form == Form::Ice { 0.917 } else { it.per_gram.density_at_20() };
        let mut needed = Grams((line.0 - level.0) * density);
        for _ in 0..4 {
            let mut tried = self.vessels[vessel].clone();
            let portion = self.portion_of(ingredient, needed);
            tried.put(step, ingredient, it, portion, self.coming(step, ingredient));
            let miss = line.0 - tried.level().0;
            if miss.abs() < 1e-3 {
                break;
            }
            needed = Grams((needed.0 + miss * density).max(0.0));
        }
        needed
    }

    pub(super) fn cover(&mut self, step: usize, vessel: usize, above: Millimetres) -> Option<()> {
        let (ingredient, it) = self.ingredient_of(step)?;
        let contents = &self.vessels[vessel];
        let heap = contents.pieces_volume(contents.temperature).0;
        if heap <= 0.0 {
            let the = self.subject(vessel);
            self.notice(
                Kind::NothingThere,
                format!("There is nothing in {} to cover.", the.to_lowercase()),
            );
            return Some(());
        }
        let above = above.0 * self.vessel(vessel).opening_mm2() / 1000.0;
        let line = Millilitres(heap / (1.0 - GAPS) + above);
        let needed = self.grams_to_reach(step, vessel, ingredient, it, line);
        self.put(step, vessel, ingredient, needed, None);
        Some(())
    }

    pub(super) fn lengthen(&mut self, step: usize, vessel: usize, parts: f64) -> Option<()> {
        let (ingredient, it) = self.ingredient_of(step)?;
        if self.is_empty(vessel, "lengthen") {
            return Some(());
        }
        // In the glass a part is what was poured, whatever ice has melted into it.
        let poured = self.served.as_ref().filter(|s| s.glass == vessel).map(|s| s.each);
        let base = poured.unwrap_or_else(|| self.vessels[vessel].liquid.volume(MEASURED_AT));
        let grams = Grams(base.0 * parts * self.nudge(step) * it.per_gram.density_at_20());
        self.put(step, vessel, ingredient, grams, None);
        Some(())
    }

    pub(super) fn bottle(&mut self, from: usize, bottle: usize, headspace: &Amount) -> Spent {
        if self.is_empty(from, "bottle") {
            return Spent::by_hand(0.0);
        }
        let kind = self.vessel(from).kind;
        let mut all = self.vessels[from].pour_out(kind).times(self.many[from]);
        self.loses_gas(&mut all);
        let room = self.vessel(bottle).capacity().0 - headspace.as_millilitres().unwrap_or(30.0);
        // Bottles are filled at the temperature that it has, and told at that of the kitchen.
        let level = all.level_at(if all.temperature.0 < 20.0 { ROOM } else { all.temperature });
        if self.vessels[bottle].is_empty() {
            self.many[bottle] = (level.0 / room.max(1.0)).max(1.0);
        }
        self.receive(bottle, all);
        Spent::by_hand(2.0 + self.many[bottle])
    }

    pub(super) fn serve(&mut self, from: usize, glass: usize, size: Millilitres) {
        let (many, glasses) = (self.many[from], self.many[glass]);
        let there = self.vessels[from].level_at(MEASURED_AT) * many;
        let wanted = size * glasses;
        // Nobody sees a hundredth missing in a glass.
        if !self.is_empty(from, "serve") && there.0 < wanted.0 * 0.99 {
            let full = (there / size + 1e-6).floor();
            let rest = there.0 - full * size.0;
            let noun = if glasses > 1.0 { "glasses" } else { "glass" };
            let tail = if rest > 1.0 { format!(" and {}", say_ml(rest)) } else { String::new() };
            self.notice(
                Kind::FallsShort,
                format!(
                    "{} holds {}: {full} of {glasses} {noun}{tail}.",
                    self.subject(from),
                    say_ml(there.0),
                ),
            );
        }
        let share = if there.0 > 0.0 { (wanted / there).min(1.0) } else { 0.0 };
        let mut poured = self.vessels[from].take(share).times(many);
        self.loses_gas(&mut poured);
        let each = poured.liquid.volume(MEASURED_AT) * (1.0 / glasses);
        self.receive(glass, poured);
        // The first round is what the drink is told by.
        self.served.get_or_insert(Served { glass, from, size, each, ready: there });
    }
}
