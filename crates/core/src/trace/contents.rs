//! What is in a vessel, and the moves that change it.

use super::heat::{COLD_WATER, FREEZER, ICE_HEAT_SHARE, ROOM, Wall, heat_capacity};
use super::past::{Judged, Past, Remains, slowed_by};
use super::piece::Piece;
use crate::chemistry::{Component, Mixture, Rgb};
use crate::cupboard::{Cupboard, Form, Ingredient, Kind, NOTICED_BITTERNESS, Trait, VesselKind};
use crate::drink::{Cut, Drink, Vessel, Warmth};
use crate::quantity::{Celsius, Grams, Millilitres, Minutes};

/// Density of crystals and of ice, g/ml.
const CRYSTAL_DENSITY: f64 = 1.59;
const ICE_DENSITY: f64 = 0.917;
/// Below this many grams nothing is there.
pub(super) const TRACE_OF: f64 = 1e-9;
/// What is kept in the refrigerator comes out of it so cold.
const KEPT_COLD: Celsius = Celsius(6.0);
/// The share of its gas that a fizzy drink loses when it is opened and poured in: estimate 0.15–0.4.
const OPENING_LOSS: f64 = 0.25;

/// What is in a vessel.
#[derive(Debug, Clone, PartialEq)]
pub struct Contents {
    /// The liquid.
    pub liquid: Mixture,
    /// Crystals that have not dissolved.
    pub crystals: Vec<Deposit>,
    /// Pieces that lie in it.
    pub pieces: Vec<Piece>,
    /// Ice: of water, or of the drink itself.
    pub ice: Vec<Deposit>,
    /// The temperature of all of it.
    pub temperature: Celsius,
    /// Which line brought how much of the liquid.
    pub origins: Vec<Origin>,
    /// What has happened to it that its composition doesn't show.
    pub past: Past,
    /// The vessel around it, which is as warm as it is.
    pub(super) wall: Wall,
}

/// So long may something raw stand where things grow, and so long what has been heated since: food-safety
/// advice for kitchens gives two hours, and up to six for cooked food on its way into the cold.
const TOO_LONG_WARM: (Minutes, Minutes) = (Minutes(120.0), Minutes(240.0));

/// How something comes that is put in.
#[derive(Debug, Clone, Copy)]
pub(super) struct Coming {
    pub(super) warmth: Warmth,
    pub(super) cut: Cut,
    /// How many times as fast as the tables say its pieces draw.
    pub(super) drawing: f64,
}

impl Coming {
    /// As is usual for it.
    pub(super) const USUAL: Self = Self { warmth: Warmth::Usual, cut: Cut::Usual, drawing: 1.0 };
}

/// Something solid that joins the liquid when it dissolves or melts.
#[derive(Debug, Clone, PartialEq)]
pub struct Deposit {
    /// What there is of it.
    pub mixture: Mixture,
    /// Which line brought how much of it.
    pub origins: Vec<Origin>,
}

/// What a line has brought.
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

impl Origin {
    pub(super) fn nothing_of(line: usize) -> Self {
        Self { line, water: Grams(0.0), sweetness: Grams(0.0), acid: Grams(0.0) }
    }

    pub(super) fn of(line: usize, brought: &Mixture) -> Self {
        Self {
            line,
            water: Grams(brought[Component::Water]),
            sweetness: brought.sucrose_equivalent(),
            acid: brought.acid_brought(),
        }
    }

    fn times(self, factor: f64) -> Self {
        Self {
            line: self.line,
            water: self.water * factor,
            sweetness: self.sweetness * factor,
            acid: self.acid * factor,
        }
    }
}

/// Adds what a line has brought to what it had brought before.
fn credit(origins: &mut Vec<Origin>, origin: Origin) {
    match origins.iter_mut().find(|o| o.line == origin.line) {
        Some(known) => {
            known.water += origin.water;
            known.sweetness += origin.sweetness;
            known.acid += origin.acid;
        }
        None => origins.push(origin),
    }
}

/// Takes a share of each origin out.
pub(super) fn split_origins(origins: &mut [Origin], share: f64) -> Vec<Origin> {
    let taken = origins.iter().map(|o| o.times(share)).collect();
    origins.iter_mut().for_each(|o| *o = o.times(1.0 - share));
    taken
}

impl Deposit {
    pub(super) fn of(line: usize, mixture: Mixture) -> Self {
        Self { mixture, origins: vec![Origin::of(line, &mixture)] }
    }

    pub(super) fn take(&mut self, share: f64) -> Self {
        Self { mixture: self.mixture.take(share), origins: split_origins(&mut self.origins, share) }
    }

    pub(super) fn join(&mut self, other: Self) {
        self.mixture += other.mixture;
        other.origins.into_iter().for_each(|o| credit(&mut self.origins, o));
    }
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
            past: Past::default(),
            wall: Wall::default(),
        }
    }
}

fn total(deposits: &[Deposit]) -> f64 {
    deposits.iter().fold(0.0, |sum, d| sum + d.mixture.mass().0)
}

/// Takes a share of each deposit; none are kept that hold nothing.
pub(super) fn split(deposits: &mut Vec<Deposit>, share: f64) -> Vec<Deposit> {
    if share >= 1.0 {
        return std::mem::take(deposits);
    }
    deposits.iter_mut().map(|d| d.take(share)).filter(|d| d.mixture.mass().0 > TRACE_OF).collect()
}

impl Contents {
    /// Whether most of its acid (nine tenths) came with ingredients whose acid is from a table or was measured.
    #[must_use]
    pub(crate) fn acid_is_known(&self, drink: &Drink, cupboard: &Cupboard) -> bool {
        let known = |line: usize| {
            let brings = drink.steps.get(line).and_then(|step| step.action.brings());
            let it = brings.and_then(|b| cupboard.ingredient(b.ingredient));
            it.is_some_and(Ingredient::acid_is_known)
        };
        let all: f64 = self.origins.iter().map(|o| o.acid.0).sum();
        let sure: f64 = self.origins.iter().filter(|o| known(o.line)).map(|o| o.acid.0).sum();
        sure >= 0.9 * all
    }

    /// Whether it has stood where things grow for longer than is good for it, if it is perishable.
    #[must_use]
    pub(crate) fn stood_too_long(&self) -> bool {
        let (raw, heated) = TOO_LONG_WARM;
        let milk = self.past.plant_milk || self.liquid[Component::Lactose] > 0.0;
        self.past.warm > if self.past.is_raw() || milk { raw } else { heated }
    }

    /// What its keeping is judged by.
    pub(crate) fn judged(&self, acid_is_known: bool) -> Judged {
        let mut all = self.liquid;
        // What is frozen hard is what it was.
        if self.liquid.mass().0 < 0.05 * self.ice_mass().0 {
            self.ice.iter().for_each(|d| all += &d.mixture);
        }
        Judged::of(&all, &self.past, acid_is_known)
    }

    /// Whether there is anything in it that spoils: clear water, and what is hardly more, stays what it is.
    pub(super) fn spoils(&self) -> bool {
        let past = &self.past;
        past.raw.0 > 0.0
            || past.treated.0 > 0.0
            || past.plant_milk
            || self.liquid.soluble_solids_mass().0 > 0.01 * self.liquid.mass().0
    }

    /// How much of the law of growth holds in it; sugar that lies there counts.
    pub(super) fn slowed(&self) -> f64 {
        let (dissolved, lies) = (self.liquid.soluble_solids_mass().0, self.undissolved().0);
        let all = self.liquid.mass().0 - self.liquid[Component::Insoluble] + lies;
        let solids = 100.0 * (dissolved + lies) / all.max(1e-9);
        slowed_by(solids, self.liquid.alcohol_percent())
    }

    /// Before what is in it changes: what is left of it as it is. What is left of what was poured out tells
    /// nothing of what comes in.
    pub(super) fn remains(&mut self) -> Option<Remains> {
        if self.is_empty() {
            self.past = Past::default();
            return None;
        }
        let (liquid, before) = (self.liquid, self.past);
        // Acid is counted on only where it is known; here that can't be asked.
        self.past.remains(|| Judged::of(&liquid, &before, false).budget())
    }

    /// After what is in it has changed: how much of its days it has used up now.
    fn became(&mut self, before: impl IntoIterator<Item = Remains>) {
        let mut before = before.into_iter().peekable();
        if before.peek().is_some() {
            let budget = self.judged(false).budget();
            self.past.became(before, budget);
        }
    }

    /// How far sugar and alcohol hold back what grows, 0 to 1: half at 50 °Bx or 15 % vol, with no cliff; sugar that
    /// lies there counts.
    pub(super) fn held_back(&self) -> f64 {
        let (dissolved, lies) = (self.liquid.soluble_solids_mass().0, self.undissolved().0);
        let all = self.liquid.mass().0 - self.liquid[Component::Insoluble] + lies;
        let solids = if all > 1e-9 { (dissolved + lies) / all } else { 0.0 };
        let by_sugar = (solids - 0.45) / 0.1;
        let by_alcohol = (self.liquid.alcohol_percent() - 13.0) / 4.0;
        by_sugar.max(by_alcohol).clamp(0.0, 1.0)
    }

    /// Whether its bitterness can be tasted in a drink of it. What lies under sugar or is a syrup isn't drunk so: there
    /// sweetness covers it, and it is thinned before anyone tastes it.
    #[must_use]
    pub(crate) fn is_bitter(&self) -> bool {
        let litres = self.liquid.volume(super::heat::MEASURED_AT).0 / 1000.0;
        let all = self.liquid.mass().0 + self.undissolved().0;
        let solids = self.liquid.soluble_solids_mass().0 + self.undissolved().0;
        litres >= 0.01
            && self.liquid[Component::Bitterness] / litres >= NOTICED_BITTERNESS
            && solids < 0.45 * all
    }

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

    /// What is drunk of it: the liquid, and ice that was beaten small. Cubes stay in the glass.
    #[must_use]
    pub(crate) fn as_drunk(&self) -> Mixture {
        let mut all = self.liquid;
        if self.past.slush {
            self.ice.iter().for_each(|d| all += &d.mixture);
        }
        all
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
        Millilitres(
            self.liquid.volume(t).0
                + self.pieces_volume(t).0
                + total(&self.crystals) / CRYSTAL_DENSITY
                + total(&self.ice) / ICE_DENSITY,
        )
    }

    /// The room that pieces take.
    pub(super) fn pieces_volume(&self, t: Celsius) -> Millilitres {
        Millilitres(self.pieces.iter().fold(0.0, |sum, p| sum + p.inside.volume(t).0))
    }

    /// The colour that it shows. Crystals lie white in the liquid: what little has been drawn into a bowl of
    /// sugar tints it and is no brown sauce.
    #[must_use]
    pub fn colour(&self) -> Rgb {
        let crystals = self.undissolved().0;
        if crystals <= 0.0 {
            return self.liquid.colour();
        }
        let mut seen = self.liquid;
        seen[Component::Water] += crystals;
        // A tenth of a gram of fines in a millilitre lets nothing through.
        seen[Component::Insoluble] += 0.1 * crystals;
        seen.colour()
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

    /// Heat that warms all of it by one degree, and the vessel as far as it is wet, J/K.
    pub(super) fn heat_capacity(&self) -> f64 {
        self.wall.wet
            + heat_capacity(&self.liquid)
            + self.crystals.iter().map(|d| heat_capacity(&d.mixture)).sum::<f64>()
            + self.pieces.iter().map(Piece::heat_capacity).sum::<f64>()
            + self.ice.iter().map(|d| heat_capacity(&d.mixture) * ICE_HEAT_SHARE).sum::<f64>()
    }

    pub(super) fn credit(&mut self, line: usize, brought: &Mixture) {
        self.credit_origin(Origin::of(line, brought));
    }

    pub(super) fn credit_origin(&mut self, origin: Origin) {
        credit(&mut self.origins, origin);
    }

    /// Puts so much of an ingredient in, which is made of `mixture`. Returns what is lost on the way:
    /// gas, when a fizzy drink is opened and poured, or was frozen.
    pub(super) fn put(
        &mut self,
        line: usize,
        ingredient: usize,
        it: &Ingredient,
        mut mixture: Mixture,
        coming: Coming,
    ) -> Mixture {
        let frozen = coming.warmth == Warmth::Frozen
            || it.form == Form::Ice
            || (coming.warmth == Warmth::Usual && it.is(Trait::Frozen));
        // Ice holds no gas.
        let opening = if frozen { 1.0 } else { OPENING_LOSS };
        let mut lost = Mixture::EMPTY;
        lost[Component::CarbonDioxide] = mixture.free_carbon_dioxide() * opening;
        mixture[Component::CarbonDioxide] -= lost[Component::CarbonDioxide];
        let at = match coming.warmth {
            _ if frozen => FREEZER,
            Warmth::Boiling => Celsius(99.0),
            Warmth::Hot => Celsius(70.0),
            Warmth::Tap => COLD_WATER,
            Warmth::Chilled => KEPT_COLD,
            // Soda and milk come out of the refrigerator.
            _ if matches!(it.kind, Kind::Soda | Kind::Dairy) => KEPT_COLD,
            _ => ROOM,
        };
        let piece = (it.form == Form::Pieces).then(|| {
            let piece = Piece::new(line, ingredient, it, mixture).cut(coming.cut);
            let piece = piece.with_luck(coming.drawing);
            if frozen { piece.frozen() } else { piece }
        });
        let capacity = match &piece {
            Some(piece) => piece.heat_capacity(),
            None if frozen => heat_capacity(&mixture) * ICE_HEAT_SHARE,
            None => heat_capacity(&mixture),
        };
        self.wall.dries_if(self.is_empty());
        self.take_heat_of(capacity, at);
        let before = self.remains();
        self.past.meets(it, mixture.mass().0);
        match it.form {
            Form::Liquid if frozen => self.lay_ice(Deposit::of(line, mixture)),
            Form::Liquid => {
                self.liquid += &mixture;
                self.credit(line, &mixture);
            }
            Form::Crystals => self.lay_crystals(Deposit::of(line, mixture)),
            Form::Ice => self.lay_ice(Deposit::of(line, mixture)),
            Form::Pieces => piece.into_iter().for_each(|piece| self.lay(piece)),
        }
        self.became(before);
        self.wets_the_wall();
        self.settle();
        lost
    }

    /// Warms as much more of the vessel as is wet now: what was dry is as warm as the kitchen.
    fn wets_the_wall(&mut self) {
        let more = self.wall.when_filled_to(self.level()) - self.wall.wet;
        if more > 0.0 {
            self.take_heat_of(more, ROOM);
            self.wall.wet += more;
        }
    }

    /// The same in a vessel that it has stood in: as warm as it is.
    pub(super) fn standing_in(mut self, vessel: &Vessel) -> Self {
        self.wall = Wall::of(vessel);
        self.wall.wet = self.wall.when_filled_to(self.level());
        self
    }

    /// Puts other contents in.
    pub(super) fn pour_in(&mut self, mut other: Contents) {
        let mine = self.remains();
        // Into an empty vessel it comes as it is.
        let its = if self.is_empty() { None } else { other.remains() };
        self.wall.dries_if(self.is_empty());
        // It leaves its own vessel behind.
        other.wall = Wall::default();
        self.past.join(&other.past);
        self.take_heat_of(other.heat_capacity(), other.temperature);
        self.liquid += &other.liquid;
        other.crystals.into_iter().for_each(|d| self.lay_crystals(d));
        other.pieces.into_iter().for_each(|p| self.lay(p));
        other.ice.into_iter().for_each(|d| self.lay_ice(d));
        for origin in other.origins {
            self.credit_origin(origin);
        }
        self.became(mine.into_iter().chain(its));
        self.wets_the_wall();
        self.settle();
    }

    /// Lays pieces in, with those that are alike: there are never more heaps than lines that brought
    /// any, however often they are parted and poured together again.
    pub(super) fn lay(&mut self, piece: Piece) {
        if piece.put_in.0 <= TRACE_OF {
            return;
        }
        match self.pieces.iter_mut().find(|p| p.is_like(&piece)) {
            Some(heap) => heap.join(&piece),
            None => self.pieces.push(piece),
        }
    }

    /// How many things there are to reckon with in it: what a step on it costs to compute.
    pub(super) fn parts(&self) -> usize {
        let deposits = self.crystals.iter().chain(&self.ice).map(|d| d.origins.len());
        self.origins.len() + 4 * self.pieces.len() + deposits.sum::<usize>()
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
    pub(crate) fn take(&mut self, share: f64) -> Self {
        let share = share.clamp(0.0, 1.0);
        let pieces = if share >= 1.0 {
            std::mem::take(&mut self.pieces)
        } else {
            self.pieces.iter_mut().map(|p| p.take(share)).collect()
        };
        Self {
            liquid: if share >= 1.0 { self.liquid.take_all() } else { self.liquid.take(share) },
            crystals: split(&mut self.crystals, share),
            pieces,
            ice: split(&mut self.ice, share),
            temperature: self.temperature,
            origins: split_origins(&mut self.origins, share),
            past: self.past.part(share),
            wall: Wall::default(),
        }
    }

    /// So many times all of it: what stands in one of several alike, and in all of them.
    pub(super) fn times(mut self, factor: f64) -> Self {
        if factor != 1.0 {
            self.liquid = self.liquid.share(factor);
            for d in self.crystals.iter_mut().chain(&mut self.ice) {
                d.mixture = d.mixture.share(factor);
                d.origins.iter_mut().for_each(|o| *o = o.times(factor));
            }
            self.pieces.iter_mut().for_each(|p| p.times(factor));
            self.origins.iter_mut().for_each(|o| *o = o.times(factor));
            self.past = self.past.times(factor);
        }
        self
    }

    /// Pours out all but the film that clings to a vessel of this kind. Pieces, crystals and ice go
    /// along.
    pub(super) fn pour_out(&mut self, kind: VesselKind) -> Self {
        let liquid = self.liquid.mass().0;
        // A spoonful in a large vessel: half of it can still be scraped out.
        let left = kind.left_behind(Grams(liquid)).0.min(liquid / 2.0);
        let mut out = self.take(1.0);
        if liquid > 0.0 && left > 0.0 {
            let stays = left / liquid;
            self.liquid = out.liquid.take(stays);
            self.origins = split_origins(&mut out.origins, stays);
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

    /// The part of all its sugar that has split, or came split, into glucose and fructose; 0 to 1.
    #[must_use]
    pub fn invert_share(&self) -> f64 {
        let sugars = self.liquid.sugars().0;
        let split = self.liquid[Component::Glucose] + self.liquid[Component::Fructose];
        if sugars > 0.0 { split / sugars } else { 0.0 }
    }

    /// Is rubbed with sugar by hand for so long.
    pub(super) fn rub(&mut self, minutes: Minutes) {
        let bath = self.bath();
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let out = piece.rub(minutes, bath);
            self.credit(piece.line, &out);
            self.liquid += out;
        }
        self.pieces = pieces;
        self.settle();
    }

    /// Breaks all pieces and ice up: their juice joins the liquid, cell walls float in it, and what is
    /// frozen in them is ice now.
    pub(super) fn blend(&mut self, seconds: f64) {
        for piece in std::mem::take(&mut self.pieces) {
            let line = piece.line;
            let (mixture, ice) = piece.crush(seconds);
            self.credit(line, &mixture);
            self.liquid += mixture;
            if ice.mass().0 > TRACE_OF {
                self.lay_ice(Deposit::of(line, ice));
            }
        }
        self.settle();
        self.past.slush |= self.ice_mass().0 > TRACE_OF;
    }

    /// Water that may boil away before what is left is no liquid any more but sugar that burns: it then
    /// has 0.13 g for each gram of solids, is of 88 °Bx and boils at about 125 °C. What pieces hold counts:
    /// it comes out before the pot is dry.
    pub(super) fn water_to_spare(&self) -> f64 {
        const KEPT: f64 = 0.13;
        let mut all = self.liquid;
        self.pieces.iter().for_each(|p| all += &p.inside);
        self.crystals.iter().for_each(|d| all += &d.mixture);
        (all[Component::Water] - KEPT * all.soluble_solids_mass().0).max(0.0)
    }

    /// Lets a share of the gas go that is free; when all of it goes, what the acid then frees of the rest goes along.
    pub(super) fn let_gas_off(&mut self, share: f64) -> Mixture {
        let mut gone = Mixture::EMPTY;
        for _ in 0..if share < 1.0 { 1 } else { 24 } {
            let off = self.liquid.free_carbon_dioxide() * share;
            // What is left is held, and stays.
            if share >= 1.0 && off < 0.05 * self.liquid[Component::CarbonDioxide] {
                break;
            }
            self.liquid[Component::CarbonDioxide] -= off;
            gone[Component::CarbonDioxide] += off;
        }
        gone
    }

    /// Lets so much water go as steam, as [`steam_off`] does.
    pub(super) fn steam_off(&mut self, water: Grams) -> Mixture {
        let there = self.liquid[Component::Water];
        let gone = steam_off(&mut self.liquid, water);
        if there > 0.0 {
            let stays = 1.0 - gone[Component::Water] / there;
            self.origins.iter_mut().for_each(|o| o.water = o.water * stays);
        }
        gone
    }
}

/// Lets so much water of a liquid go as steam; ethanol goes along, about eight times as readily.
/// Returns what went off.
pub(super) fn steam_off(liquid: &mut Mixture, water: Grams) -> Mixture {
    let mut gone = Mixture::EMPTY;
    let there = liquid[Component::Water];
    if there <= 0.0 || water.0 <= 0.0 {
        return gone;
    }
    let share = (water.0 / there).min(1.0);
    gone[Component::Water] = water.0.min(there);
    gone[Component::Ethanol] = liquid[Component::Ethanol] * (1.0 - (1.0 - share).powi(8));
    for component in [Component::Water, Component::Ethanol] {
        liquid[component] -= gone[component];
    }
    gone
}
