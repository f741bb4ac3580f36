//! What runs through a strainer, what stays in it, and what clings to what is lifted out.

use super::contents::{Contents, split_origins};
use super::piece::Piece;
use crate::chemistry::Component;
use crate::cupboard::{Press, Strainer};
use crate::quantity::Grams;

impl Contents {
    /// Runs through a strainer. What runs out is returned; what stays is left here.
    ///
    /// Pieces keep so many grams of liquid for each gram that was put in, their own juice counted;
    /// suspended matter that the mesh holds back keeps 9, 5.5 or 3.5 g for each gram of cell wall
    /// (drained, pressed, wrung; estimates 6–14, 4–8, 2.5–5); the strainer keeps a film.
    pub(super) fn strain(&mut self, strainer: Strainer, press: Press, hold_luck: f64) -> Contents {
        let held_by_pieces: f64 = self.pieces.iter().map(|p| p.keeps(press, hold_luck)).sum();
        let suspended = self.liquid[Component::Insoluble];
        let bound = self.liquid[Component::BoundBitterness];
        let kept_share = 1.0 - strainer.passes;
        let by_pulp = match press {
            Press::Drained => 9.0,
            Press::Pressed => 5.5,
            Press::Wrung => 3.5,
        };
        let film = if press == Press::Wrung { strainer.film.0 * 0.55 } else { strainer.film.0 };
        let clear = self.liquid.mass().0 - suspended;
        let by_pulp = suspended * kept_share * by_pulp * hold_luck;
        let held = (held_by_pieces + by_pulp + film).min(clear);
        let stays = if clear > 0.0 { held / clear } else { 0.0 };
        let mut liquid = self.liquid.take_all();
        liquid[Component::Insoluble] = 0.0;
        liquid[Component::BoundBitterness] = 0.0;
        self.liquid = liquid.take(stays);
        for (component, all) in
            [(Component::Insoluble, suspended), (Component::BoundBitterness, bound)]
        {
            self.liquid[component] = all * kept_share;
            liquid[component] = all - all * kept_share;
        }
        let stay_origins = split_origins(&mut self.origins, stays);
        let run_origins = std::mem::replace(&mut self.origins, stay_origins);
        Contents {
            liquid,
            // Sugar grains pass a mesh, or are washed through.
            crystals: std::mem::take(&mut self.crystals),
            pieces: Vec::new(),
            ice: Vec::new(),
            temperature: self.temperature,
            origins: run_origins,
            past: self.past,
        }
    }

    /// Liquid that its pieces would keep if it were drained now.
    pub(super) fn held_by_pieces(&self, hold_luck: f64) -> Grams {
        Grams(self.pieces.iter().map(|p| p.keeps(Press::Drained, hold_luck)).sum())
    }

    /// Lifts the pieces of one ingredient out, with the liquid that clings to them.
    pub(super) fn lift(&mut self, ingredient: usize, hold_luck: f64) -> Contents {
        let (out, stay): (Vec<Piece>, Vec<Piece>) =
            std::mem::take(&mut self.pieces).into_iter().partition(|p| p.ingredient == ingredient);
        self.pieces = stay;
        let held: f64 = out.iter().map(|p| p.keeps(Press::Drained, hold_luck)).sum();
        let liquid = self.liquid.mass().0;
        let share = if liquid > 0.0 { (held / liquid).min(1.0) } else { 0.0 };
        Contents {
            liquid: self.liquid.take(share),
            crystals: Vec::new(),
            pieces: out,
            ice: Vec::new(),
            temperature: self.temperature,
            origins: split_origins(&mut self.origins, share),
            past: self.past,
        }
    }
}
