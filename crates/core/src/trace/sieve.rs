//! Through strainers, and a second water after.

use super::contents::Contents;
use super::engine::Engine;
use super::notice::{NoticeKind as Kind, say_grams, say_minutes};
use super::spent::Spent;
use crate::cupboard::Strainer;
use crate::drink::{CoolingPlace, Press};
use crate::quantity::Minutes;

/// The share of a rinsing water that mixes with what the solids hold; the rest runs past. Estimate
/// (0.5–0.9): rinsing and pressing again wins back a half to two thirds.
const MIXES: f64 = 0.7;

/// What a mesh has held once, it mostly holds again: so much less passes. Estimate.
const HELD_AGAIN: f64 = 0.1;

impl Engine<'_> {
    pub(super) fn strain(
        &mut self,
        from: usize,
        through: usize,
        into: usize,
        press: Press,
    ) -> Spent {
        let Some(strainer) = self.vessel(through).kind.strainer() else {
            return Spent::by_hand(0.0);
        };
        let kind = self.vessel(from).kind;
        self.mind_what_is_frozen(from, through);
        let mut all = self.vessels[from].pour_out(kind).times(self.many[from]);
        let (before, litres) = (all.liquid.mass(), all.level().0 / 1000.0);
        let run = all.strain(strainer, press, self.hold_luck());
        if before.0 < 1e-6 {
            let the = self.subject(from);
            self.notice(Kind::NothingThere, format!("{the} has no liquid to strain."));
        } else if run.liquid.mass().0 < 0.02 * before.0 {
            self.notice(
                Kind::AllAbsorbed,
                format!(
                    "The solids soaked up nearly all the liquid: only {} runs through. Add water, or press harder.",
                    say_grams(run.liquid.mass().0)
                ),
            );
        }
        self.vessels[through].pour_in(all);
        self.receive(into, run);
        // Three minutes to drain; pressing and wringing are work, and more of it where there is more. Estimate.
        let more = (litres - 2.0).max(0.0);
        match press {
            Press::Drained => {
                let hands_on = Minutes(1.0 + 0.1 * more);
                Spent { hands_on, ..Spent::by_hand(4.0 + 0.5 * more) }
            }
            Press::Pressed => Spent::by_hand(3.0 + 0.8 * more),
            Press::Wrung => Spent::by_hand(4.0 + 1.5 * more),
        }
    }

    /// Fruit that was blended or lies there frozen stays in the strainer as ice.
    fn mind_what_is_frozen(&mut self, from: usize, through: usize) {
        let all = &self.vessels[from];
        let in_pieces: f64 = all.pieces.iter().map(|p| p.frozen.0).sum();
        let ice = all.frozen_water();
        // Cubes that cooled a drink are meant to be strained off.
        if ice * self.many[from] < 20.0 || (in_pieces <= 0.0 && !all.past.slush) {
            return;
        }
        let minutes = all.thaws_in(self.vessel(from), CoolingPlace::Worktop.into());
        let message = format!(
            "{} is still ice and stays in {}. Leave it for {} to thaw first.",
            say_grams(ice * self.many[from]),
            self.drink.in_sentence(through),
            say_minutes(minutes)
        );
        self.notice(Kind::StillFrozen, message);
    }

    /// Pours what rinsed one vessel over what stayed in a strainer, and lets it run on.
    fn wash_through(
        &mut self,
        rinsing: Contents,
        mut strainer: Strainer,
        sieve: usize,
        into: usize,
        press: Press,
    ) {
        strainer.passes *= HELD_AGAIN;
        let mut all = std::mem::take(&mut self.vessels[sieve]);
        all.pour_in(rinsing);
        let run = all.strain(strainer, press, self.hold_luck());
        self.vessels[sieve] = all;
        self.receive(into, run);
    }

    /// Pours water over what stayed in a strainer and lets it run on, or swirls it round a vessel
    /// that was poured out.
    pub(super) fn rinse(
        &mut self,
        step: usize,
        vessel: usize,
        through: Option<usize>,
        into: usize,
        press: Press,
    ) -> Option<Spent> {
        let (ingredient, weighed) = self.weighed(step)?;
        if self.is_empty(vessel, "rinse") {
            return Some(Spent::by_hand(0.0));
        }
        let it = self.vessel(vessel);
        match it.kind.strainer() {
            Some(mut strainer) => {
                strainer.passes *= HELD_AGAIN;
                // What doesn't mix runs past, straight on.
                let past = weighed.grams * (1.0 - MIXES);
                self.put(step, into, ingredient, past * (1.0 / self.many[into]), weighed.pieces);
                self.put(step, vessel, ingredient, weighed.grams * MIXES, None);
                let mut all = std::mem::take(&mut self.vessels[vessel]);
                let run = all.strain(strainer, press, self.hold_luck());
                self.vessels[vessel] = all;
                self.receive(into, run);
            }
            None => {
                self.put(step, vessel, ingredient, weighed.grams, weighed.pieces);
                let out = self.vessels[vessel].pour_out(it.kind).times(self.many[vessel]);
                let strainer = through.and_then(|t| self.vessel(t).kind.strainer().zip(Some(t)));
                match strainer {
                    Some((strainer, sieve)) => self.wash_through(out, strainer, sieve, into, press),
                    None => self.receive(into, out),
                }
            }
        }
        Some(Spent::by_hand(2.0))
    }
}
