//! What runs through a strainer, what stays in it, and what clings to what is lifted out.

use super::contents::{Contents, split_origins};
use super::heat::Wall;
use super::piece::Piece;
use crate::chemistry::Component;
use crate::cupboard::{Press, Strainer};
use crate::quantity::Grams;

/// What floats and is held back by a mesh: cell walls, the bitterness in them, and what they keep.
const FLOATS: [Component; 3] =
    [Component::Insoluble, Component::BoundBitterness, Component::PulpHold];

impl Contents {
    /// Runs through a strainer. What runs out is returned; what stays is left here.
    ///
    /// Pieces keep so many grams of liquid for each gram that was put in, their own juice counted, and
    /// pressing gets more out of them; pulp that the mesh holds back keeps what its kind does, 60 % of
    /// that when pressed and 40 % when wrung (estimates 45–75 and 28–55); the strainer keeps a film.
    pub(super) fn strain(&mut self, strainer: Strainer, press: Press, hold_luck: f64) -> Contents {
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let out = piece.press(press);
            self.credit(piece.line, &out);
            self.liquid += out;
        }
        self.pieces = pieces;
        let held_by_pieces: f64 = self.pieces.iter().map(|p| p.keeps(press, hold_luck)).sum();
        let suspended = FLOATS.map(|c| self.liquid.take_component(c));
        let kept_share = 1.0 - strainer.passes;
        let pressed = match press {
            Press::Drained => 1.0,
            Press::Pressed => 0.6,
            Press::Wrung => 0.4,
        };
        let film = if press == Press::Wrung { strainer.film.0 * 0.55 } else { strainer.film.0 };
        let clear = self.liquid.mass().0;
        let [_, _, pulp_hold] = suspended;
        let by_pulp = pulp_hold * kept_share * pressed * hold_luck;
        let held = (held_by_pieces + by_pulp + film).min(clear);
        let stays = if clear > 0.0 { held / clear } else { 0.0 };
        let mut liquid = self.liquid.take_all();
        self.liquid = liquid.take(stays);
        for (component, all) in FLOATS.into_iter().zip(suspended) {
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
            wall: Wall::default(),
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
            wall: Wall::default(),
        }
    }
}
