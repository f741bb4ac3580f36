//! What a step brings: what it weighs, how it turned out, how it comes, and where it is booked.

use super::contents::Coming;
use super::engine::Engine;
use super::frames::Line;
use super::heat::kettle_time;
use super::notice::NoticeKind as Kind;
use super::nudge::Luck;
use crate::chemistry::Mixture;
use crate::cupboard::{Form, Ingredient, MAX_LINE, Weighed};
use crate::drink::{Action, Cut, Warmth};
use crate::quantity::{Celsius, Grams, Minutes};

impl<'a> Engine<'a> {
    /// How long a kettle needs for what the step has just brought.
    pub(super) fn kettle(&self, step: usize) -> Minutes {
        let boiling = self.drink.steps[step].action.warmth() == Warmth::Boiling;
        let brought = self.lines.iter().rev().take_while(|l| l.step == step);
        let grams: f64 = brought.map(|l| l.grams.0).sum();
        if boiling { kettle_time(Grams(grams)) } else { Minutes(0.0) }
    }

    fn luck(&self, ingredient: usize) -> Option<&Luck> {
        self.nudges.luck.iter().find(|l| l.ingredient == ingredient)
    }

    /// What a step's amount weighs.
    pub(super) fn weighed(&mut self, step: usize) -> Option<(usize, Weighed)> {
        let weight = &self.weights[step];
        let ingredient = weight.ingredient?;
        let weighed = match weight.weighed.as_ref()? {
            Ok(weighed) => *weighed,
            Err(unknown) => {
                self.notice(Kind::UnknownMeasure, unknown.clone());
                Weighed { grams: Grams(0.0), by_pieces: Grams(0.0), pieces: None }
            }
        };
        let yields = self.luck(ingredient).map_or(1.0, |l| l.yields);
        let by_luck = weighed.grams + weighed.by_pieces * (yields - 1.0);
        let nudge = self.nudge(step);
        Some((
            ingredient,
            Weighed {
                grams: by_luck * nudge,
                by_pieces: weighed.by_pieces * nudge,
                pieces: weighed.pieces.map(|p| p * nudge),
            },
        ))
    }

    /// The ingredient of a step whose amount follows from what is in the vessel.
    pub(super) fn ingredient_of(&self, step: usize) -> Option<(usize, &'a Ingredient)> {
        let index = self.weights[step].ingredient?;
        Some((index, &self.cupboard.ingredients()[index]))
    }

    /// So many grams of an ingredient as it turned out.
    pub(super) fn portion_of(&self, ingredient: usize, grams: Grams) -> Mixture {
        let per_gram = &self.cupboard.ingredients()[ingredient].per_gram;
        match self.luck(ingredient) {
            Some(luck) => luck.change(per_gram).share(grams.0),
            None => per_gram.share(grams.0),
        }
    }

    /// How a step's ingredient comes.
    pub(super) fn coming(&self, step: usize, ingredient: usize) -> Coming {
        let action = &self.drink.steps[step].action;
        let cut = if let Action::Add { cut, .. } = action { *cut } else { Cut::Usual };
        let drawing = self.luck(ingredient).map_or(1.0, |l| l.drawing);
        Coming { warmth: action.warmth(), cut, drawing }
    }

    /// Puts so many grams into each of what a vessel stands for, and books the line.
    pub(super) fn put(
        &mut self,
        step: usize,
        vessel: usize,
        ingredient: usize,
        grams: Grams,
        pieces: Option<f64>,
    ) {
        let it = &self.cupboard.ingredients()[ingredient];
        let grams = self.what_a_house_holds(vessel, it, grams);
        let before = &self.vessels[vessel];
        let (liquid, t) = (before.liquid.mass().0, before.temperature);
        let brix = before.liquid.soluble_solids();
        let mixture = self.portion_of(ingredient, grams);
        let coming = self.coming(step, ingredient);
        let lost = self.vessels[vessel].put(step, ingredient, it, mixture, coming);
        self.goes_off(vessel, &lost);
        self.book(step, vessel, ingredient, grams, pieces, false);
        if liquid >= 1.0 {
            self.mind(step, vessel, it, grams, t, brix);
        }
        // Ice that brings a hot syrup to its volume is meant to melt.
        if it.form == Form::Ice && liquid > 1.0 && t.0 > 30.0 && brix < 25.0 {
            self.mind_ice(vessel, t);
        }
    }

    /// As much of it as there can be in a vessel, or in all that it stands for: a tonne in all. What
    /// doubles again and again is soon more than a lake.
    fn what_a_house_holds(&mut self, vessel: usize, it: &Ingredient, grams: Grams) -> Grams {
        let room = (MAX_LINE.0 / self.many[vessel] - self.vessels[vessel].mass().0).max(0.0);
        if grams.0 <= room {
            return grams;
        }
        let message = format!("That is too much {}. Use up to a tonne.", it.name.to_lowercase());
        self.notice(Kind::MoreThanAHouseHolds, message);
        Grams(room)
    }

    /// Ice in something hot: none of it is left.
    fn mind_ice(&mut self, vessel: usize, was: Celsius) {
        if self.vessels[vessel].ice_mass().0 < 0.5 {
            let message = format!(
                "All this ice melts in a drink at {}. Cool the drink first.",
                self.say_warmth(was)
            );
            self.notice(Kind::IceMeltsAway, message);
        }
    }

    pub(super) fn book(
        &mut self,
        step: usize,
        vessel: usize,
        ingredient: usize,
        grams: Grams,
        pieces: Option<f64>,
        left_over: bool,
    ) {
        let many = self.many[vessel];
        self.lines.push(Line {
            step,
            ingredient,
            grams: grams * many,
            pieces: pieces.map(|p| p * many),
            left_over,
        });
    }
}
