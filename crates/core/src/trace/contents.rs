//! What is in a vessel, and the moves that change it.

use super::heat::{MELTING, ROOM, Surrounding, drawing_speed, heat_capacity};
use crate::chemistry::{Component, Mixture, sucrose_solubility};
use crate::cupboard::{Cupboard, Form, Ingredient, Strainer, VesselKind};
use crate::drink::{Press, Vessel};
use crate::quantity::{Celsius, Grams, Millilitres, Minutes};

/// Density of crystals and of ice, g/ml.
const CRYSTAL_DENSITY: f64 = 1.59;
const ICE_DENSITY: f64 = 0.917;
/// Below this many grams nothing is there.
const TRACE_OF: f64 = 1e-9;

/// What is in a vessel.
#[derive(Debug, Clone, PartialEq)]
pub struct Contents {
    /// The liquid.
    pub liquid: Mixture,
    /// Crystals that have not dissolved, by the line that brought them.
    pub crystals: Vec<Deposit>,
    /// Pieces that lie in it.
    pub pieces: Vec<Piece>,
    /// Ice, by the line that brought it.
    pub ice: Vec<Deposit>,
    /// The temperature of all of it.
    pub temperature: Celsius,
    /// Which line brought how much of the liquid.
    pub origins: Vec<Origin>,
}

/// Something solid that a line brought.
#[derive(Debug, Clone, PartialEq)]
pub struct Deposit {
    /// The line: the index of its step.
    pub line: usize,
    /// What there is of it.
    pub mixture: Mixture,
}

/// Pieces of one ingredient.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// The line: the index of its step.
    pub line: usize,
    /// The ingredient, as its position in the cupboard.
    pub ingredient: usize,
    /// What was put in.
    pub put_in: Grams,
    /// What could be exchanged with the liquid when it was put in.
    whole: Mixture,
    /// What is still in the pieces, cell walls included.
    pub inside: Mixture,
    /// The share of `whole` that has been drawn.
    pub drawn: f64,
}

/// What a line has brought to a liquid.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Origin {
    /// The line: the index of its step.
    pub line: usize,
    /// Water from it.
    pub water: Grams,
    /// Sugars from it, as sucrose-equivalents, so that a sweetener without sugar counts.
    pub sweetness: Grams,
    /// Acid from it, as citric acid.
    pub acid: Grams,
}

impl Default for Contents {
    fn default() -> Self {
        Self {
            liquid: Mixture::EMPTY,
            crystals: Vec::new(),
            pieces: Vec::new(),
            ice: Vec::new(),
            temperature: ROOM,
            origins: Vec::new(),
        }
    }
}

fn total(deposits: &[Deposit]) -> f64 {
    deposits.iter().fold(0.0, |sum, d| sum + d.mixture.mass().0)
}

/// Takes a share of each deposit; none are kept that hold nothing.
fn split(deposits: &mut Vec<Deposit>, share: f64) -> Vec<Deposit> {
    if share >= 1.0 {
        return std::mem::take(deposits);
    }
    deposits
        .iter_mut()
        .map(|d| Deposit { line: d.line, mixture: d.mixture.take(share) })
        .filter(|d| d.mixture.mass().0 > TRACE_OF)
        .collect()
}

impl Contents {
    /// Everything in the vessel.
    #[must_use]
    pub fn mass(&self) -> Grams {
        let pieces: f64 = self.pieces.iter().map(|p| p.inside.mass().0).sum();
        Grams(self.liquid.mass().0 + total(&self.crystals) + pieces + total(&self.ice))
    }

    /// Whether there is nothing in it.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.mass().0 < 1e-6
    }

    /// The liquid alone.
    #[must_use]
    pub fn liquid_volume(&self) -> Millilitres {
        self.liquid.volume(self.temperature)
    }

    /// The room that all of it takes.
    #[must_use]
    pub fn level(&self) -> Millilitres {
        self.level_at(self.temperature)
    }

    /// The room that all of it takes at another temperature.
    #[must_use]
    pub fn level_at(&self, t: Celsius) -> Millilitres {
        let pieces = self.pieces.iter().fold(0.0, |sum, p| sum + p.inside.volume(t).0);
        Millilitres(
            self.liquid.volume(t).0
                + pieces
                + total(&self.crystals) / CRYSTAL_DENSITY
                + total(&self.ice) / ICE_DENSITY,
        )
    }

    /// Crystals that have not dissolved.
    #[must_use]
    pub fn undissolved(&self) -> Grams {
        Grams(total(&self.crystals))
    }

    /// Ice that has not melted.
    #[must_use]
    pub fn ice_mass(&self) -> Grams {
        Grams(total(&self.ice))
    }

    /// Heat that warms all of it by one degree, J/K.
    pub(super) fn heat_capacity(&self) -> f64 {
        heat_capacity(&self.liquid)
            + self.crystals.iter().map(|d| heat_capacity(&d.mixture)).sum::<f64>()
            + self.pieces.iter().map(|p| heat_capacity(&p.inside)).sum::<f64>()
            + self.ice.iter().map(|d| heat_capacity(&d.mixture)).sum::<f64>()
    }

    fn credit(&mut self, line: usize, brought: &Mixture) {
        let origin = Origin {
            line,
            water: Grams(brought[Component::Water]),
            sweetness: brought.sucrose_equivalent(),
            acid: brought.acid_brought(),
        };
        self.credit_origin(origin);
    }

    fn credit_origin(&mut self, origin: Origin) {
        match self.origins.iter_mut().find(|o| o.line == origin.line) {
            Some(known) => {
                known.water += origin.water;
                known.sweetness += origin.sweetness;
                known.acid += origin.acid;
            }
            None => self.origins.push(origin),
        }
    }

    fn take_origins(&mut self, share: f64) -> Vec<Origin> {
        self.origins
            .iter_mut()
            .map(|o| {
                let taken = Origin {
                    line: o.line,
                    water: o.water * share,
                    sweetness: o.sweetness * share,
                    acid: o.acid * share,
                };
                o.water = o.water - taken.water;
                o.sweetness = o.sweetness - taken.sweetness;
                o.acid = o.acid - taken.acid;
                taken
            })
            .collect()
    }

    /// Puts an ingredient in.
    pub(super) fn put(&mut self, line: usize, ingredient: usize, it: &Ingredient, grams: Grams) {
        let mixture = it.per_gram.share(grams.0);
        let at = if it.form == Form::Ice { Celsius(0.0) } else { ROOM };
        self.take_heat_of(heat_capacity(&mixture), at);
        match it.form {
            Form::Liquid => {
                self.liquid += &mixture;
                self.credit(line, &mixture);
            }
            Form::Crystals => self.crystals.push(Deposit { line, mixture }),
            Form::Ice => self.ice.push(Deposit { line, mixture }),
            Form::Pieces => self.pieces.push(Piece {
                line,
                ingredient,
                put_in: grams,
                whole: mixture.without_insoluble(),
                inside: mixture,
                drawn: 0.0,
            }),
        }
        self.settle();
    }

    /// Puts other contents in.
    pub(super) fn pour_in(&mut self, other: Contents) {
        self.take_heat_of(other.heat_capacity(), other.temperature);
        self.liquid += &other.liquid;
        self.crystals.extend(other.crystals);
        self.pieces.extend(other.pieces);
        self.ice.extend(other.ice);
        for origin in other.origins {
            self.credit_origin(origin);
        }
        self.settle();
    }

    /// The temperature after something of that heat capacity and temperature has come in.
    fn take_heat_of(&mut self, capacity: f64, at: Celsius) {
        let mine = self.heat_capacity();
        if mine + capacity > 0.0 {
            self.temperature =
                Celsius((self.temperature.0 * mine + at.0 * capacity) / (mine + capacity));
        }
    }

    /// Takes a share of everything out.
    pub(super) fn take(&mut self, share: f64) -> Self {
        let share = share.clamp(0.0, 1.0);
        let pieces = if share >= 1.0 {
            std::mem::take(&mut self.pieces)
        } else {
            self.pieces
                .iter_mut()
                .map(|p| {
                    let part = Piece {
                        put_in: p.put_in * share,
                        whole: p.whole.take(share),
                        inside: p.inside.take(share),
                        ..p.clone()
                    };
                    p.put_in = p.put_in - part.put_in;
                    part
                })
                .collect()
        };
        Self {
            liquid: if share >= 1.0 { self.liquid.take_all() } else { self.liquid.take(share) },
            crystals: split(&mut self.crystals, share),
            pieces,
            ice: split(&mut self.ice, share),
            temperature: self.temperature,
            origins: self.take_origins(share),
        }
    }

    /// Pours out all but the film that clings to a vessel of this kind. Pieces, crystals and ice go
    /// along.
    pub(super) fn pour_out(&mut self, kind: VesselKind) -> Self {
        let liquid = self.liquid.mass().0;
        let (film, share) = kind.left_behind();
        // A spoonful in a large vessel: half of it can still be scraped out.
        let left = (film.0 + share * liquid).min(liquid / 2.0);
        let mut out = self.take(1.0);
        if liquid > 0.0 && left > 0.0 {
            let stays = left / liquid;
            self.liquid = out.liquid.take(stays);
            self.origins = out.take_origins(stays);
            self.temperature = out.temperature;
        }
        out
    }

    /// Lets it come to rest: ice melts as far as the heat goes, crystals dissolve as far as the
    /// liquid takes them.
    pub(super) fn settle(&mut self) {
        self.melt();
        self.dissolve();
    }

    fn melt(&mut self) {
        let ice = total(&self.ice);
        if ice <= 0.0 || self.temperature.0 <= 0.0 {
            return;
        }
        let heat = self.heat_capacity() * self.temperature.0;
        let share = (heat / (ice * MELTING)).min(1.0);
        let capacity = self.heat_capacity();
        for mut part in split(&mut self.ice, share) {
            self.credit(part.line, &part.mixture);
            self.liquid += part.mixture.take_all();
        }
        self.temperature = Celsius(self.temperature.0 - ice * share * MELTING / capacity);
        if share >= 1.0 {
            self.ice.clear();
        } else {
            self.temperature = Celsius(0.0);
        }
    }

    fn dissolve(&mut self) {
        let water = self.liquid[Component::Water];
        if self.crystals.is_empty() || water <= 0.0 {
            return;
        }
        let limit = sucrose_solubility(self.temperature) / 100.0;
        let sugar_room = (water * limit / (1.0 - limit) - self.liquid[Component::Sucrose]).max(0.0);
        // Erythritol: 37 g in 100 g of solution at 25 °C, about 2 % more for each degree.
        let polyol_room = (water * 0.587 * (1.0 + 0.02 * (self.temperature.0 - 25.0)).max(0.2)
            - self.liquid[Component::Polyol])
            .max(0.0);
        let sugar: f64 = self.crystals.iter().map(|d| d.mixture[Component::Sucrose]).sum();
        let polyol: f64 = self.crystals.iter().map(|d| d.mixture[Component::Polyol]).sum();
        let sugar_share = if sugar > sugar_room { sugar_room / sugar } else { 1.0 };
        let polyol_share = if polyol > polyol_room { polyol_room / polyol } else { 1.0 };
        for mut part in std::mem::take(&mut self.crystals) {
            let mass = part.mixture.mass().0;
            let share = if part.mixture[Component::Polyol] > mass / 2.0 {
                polyol_share
            } else if part.mixture.sugars().0 > mass / 2.0 {
                sugar_share
            } else {
                // Acid powders and salts dissolve in about their own weight of water.
                (water / mass).min(1.0)
            };
            let dissolved = part.mixture.take(share);
            self.credit(part.line, &dissolved);
            self.liquid += dissolved;
            if share < 1.0 {
                self.crystals.push(part);
            }
        }
    }

    /// Sucrose, dissolved and not. It is what crystallises; the sugars of honey and fruit stay
    /// dissolved far longer and are not held against it.
    fn sucrose(&self) -> f64 {
        let crystals = self.crystals.iter().map(|d| d.mixture[Component::Sucrose]);
        self.liquid[Component::Sucrose] + crystals.sum::<f64>()
    }

    /// The temperature at which all its crystals would dissolve; `None` if not even boiling does it.
    pub(super) fn dissolves_at(&self) -> Option<Celsius> {
        let sugars = self.sucrose();
        let needed = 100.0 * sugars / (sugars + self.liquid[Component::Water]);
        (self.temperature.0.ceil() as i32..=100)
            .map(|t| Celsius(f64::from(t)))
            .find(|t| sucrose_solubility(*t) >= needed)
    }

    /// Water that would take the crystals at the temperature that it has.
    pub(super) fn water_to_dissolve(&self) -> Grams {
        let sugars = self.sucrose();
        let limit = sucrose_solubility(self.temperature) / 100.0;
        Grams((sugars * (1.0 - limit) / limit - self.liquid[Component::Water]).max(0.0))
    }

    /// Whether more sugar is dissolved than the liquid holds at its temperature.
    pub(super) fn is_supersaturated(&self) -> bool {
        let water = self.liquid[Component::Water];
        let sugars = self.liquid[Component::Sucrose];
        // Half a per cent of grace: syrups stay clear a little beyond the line.
        water > 0.0
            && 100.0 * sugars / (sugars + water) > sucrose_solubility(self.temperature) + 0.5
    }

    /// Lets pieces draw for a time while the temperature runs from one value towards another.
    ///
    /// What has come out follows 1 − exp(−∫k dt) of what can be drawn, with k by temperature; drawn
    /// matter takes the water of the pieces along, so that in the end pieces and liquid are alike.
    pub(super) fn draw(
        &mut self,
        cupboard: &Cupboard,
        minutes: Minutes,
        temperature_at: impl Fn(f64) -> Celsius,
    ) {
        const PARTS: u32 = 16;
        if self.pieces.is_empty() || self.liquid[Component::Water] < 1e-6 || minutes.0 <= 0.0 {
            return;
        }
        let part = minutes.0 / f64::from(PARTS);
        let (mut hot_minutes, mut warmth) = (0.0, 0.0);
        for i in 0..PARTS {
            let t = temperature_at((f64::from(i) + 0.5) * part);
            hot_minutes += drawing_speed(t) * part;
            warmth += t.0 / f64::from(PARTS);
        }
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let extraction = cupboard.ingredients()[piece.ingredient].extraction();
            let (cold, hot) = extraction.share;
            let reach = cold + (hot - cold) * ((warmth - 5.0) / 95.0).clamp(0.0, 1.0);
            if piece.drawn < reach {
                let left = (reach - piece.drawn) * (-hot_minutes / extraction.tau_hot).exp();
                self.release(piece, reach - left);
            }
        }
        self.pieces = pieces;
    }

    /// Brings a piece's drawn share up to `to`.
    fn release(&mut self, piece: &mut Piece, to: f64) {
        let left_before = 1.0 - piece.drawn;
        if left_before <= 0.0 {
            return;
        }
        let insoluble = piece.inside.take_component(Component::Insoluble);
        let out = piece.inside.take(((to - piece.drawn) / left_before).clamp(0.0, 1.0));
        piece.inside[Component::Insoluble] = insoluble;
        piece.drawn = to;
        self.credit(piece.line, &out);
        self.liquid += out;
    }

    /// Breaks all pieces and ice up: their juice joins the liquid, cell walls float in it.
    pub(super) fn blend(&mut self) {
        for mut piece in std::mem::take(&mut self.pieces) {
            self.release(&mut piece, 1.0);
            self.liquid += piece.inside.take_all();
        }
        self.settle();
    }

    /// Runs through a strainer. What runs out is returned; what stays is left here.
    ///
    /// Pieces keep so many grams of liquid for each gram that was put in, their own juice counted;
    /// suspended matter that the mesh holds back keeps 9, 5.5 or 3.5 g for each gram of cell wall
    /// (drained, pressed, wrung; estimates 6–14, 4–8, 2.5–5); the strainer keeps a film.
    pub(super) fn strain(
        &mut self,
        strainer: Strainer,
        press: Press,
        cupboard: &Cupboard,
    ) -> Contents {
        let held_by_pieces: f64 = self
            .pieces
            .iter()
            .map(|p| {
                let hold = cupboard.ingredients()[p.ingredient].hold(p.drawn);
                let each = match press {
                    Press::Drained => hold.drained,
                    Press::Pressed => hold.pressed,
                    Press::Wrung => hold.wrung,
                };
                (p.put_in.0 * each - p.inside[Component::Water]).max(0.0)
            })
            .sum();
        let suspended = self.liquid[Component::Insoluble];
        let kept = suspended * (1.0 - strainer.passes);
        let by_pulp = match press {
            Press::Drained => 9.0,
            Press::Pressed => 5.5,
            Press::Wrung => 3.5,
        };
        let film = if press == Press::Wrung { strainer.film.0 * 0.55 } else { strainer.film.0 };
        let clear = self.liquid.mass().0 - suspended;
        let held = (held_by_pieces + kept * by_pulp + film).min(clear);
        let stays = if clear > 0.0 { held / clear } else { 0.0 };
        let mut liquid = self.liquid.take_all();
        liquid[Component::Insoluble] = 0.0;
        self.liquid = liquid.take(stays);
        self.liquid[Component::Insoluble] = kept;
        liquid[Component::Insoluble] = suspended - kept;
        let stay_origins = self.take_origins(stays);
        let run_origins = std::mem::replace(&mut self.origins, stay_origins);
        Contents {
            liquid,
            // Sugar grains pass a mesh, or are washed through.
            crystals: std::mem::take(&mut self.crystals),
            pieces: Vec::new(),
            ice: Vec::new(),
            temperature: self.temperature,
            origins: run_origins,
        }
    }

    /// Lets so much water go as steam.
    pub(super) fn steam_off(&mut self, water: Grams) {
        if self.liquid[Component::Water] <= 0.0 {
            return;
        }
        let share = water.0 / self.liquid[Component::Water];
        self.liquid[Component::Water] -= water.0;
        for origin in &mut self.origins {
            origin.water = origin.water * (1.0 - share);
        }
    }

    /// Stands in a surrounding for a time, drawing all the while.
    pub(super) fn stand(
        &mut self,
        cupboard: &Cupboard,
        vessel: &Vessel,
        surrounding: Surrounding,
        minutes: Minutes,
    ) {
        let tau = surrounding.time_constant(vessel, self.heat_capacity(), self.level().0);
        let (start, end) = (self.temperature.0, surrounding.temperature.0);
        let at = move |t: f64| Celsius(end + (start - end) * (-t / tau).exp());
        self.draw(cupboard, minutes, at);
        self.temperature = at(minutes.0);
        self.settle();
    }
}
