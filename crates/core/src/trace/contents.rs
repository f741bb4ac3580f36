//! What is in a vessel, and the moves that change it.

use super::heat::{MELTING, ROOM, Surrounding, aroma_loss, drawing_speed, heat_capacity};
use super::piece::Piece;
use crate::chemistry::{Component, Mixture, carbonation_kept, inversion_rate, sucrose_solubility};
use crate::cupboard::{Form, Ingredient, Kind, Strainer, VesselKind};
use crate::drink::{Press, Vessel};
use crate::quantity::{Celsius, Grams, Millilitres, Minutes};

/// Density of crystals and of ice, g/ml.
const CRYSTAL_DENSITY: f64 = 1.59;
const ICE_DENSITY: f64 = 0.917;
/// Below this many grams nothing is there.
const TRACE_OF: f64 = 1e-9;
/// What is kept in the refrigerator comes out of it so cold.
const KEPT_COLD: Celsius = Celsius(6.0);
/// Into how many parts a span of time is cut where the temperature changes.
const PARTS: usize = 16;
/// Heat capacity of ice over that of water.
const ICE_HEAT_SHARE: f64 = 0.5;
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
}

/// What matters for how long a drink keeps.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Past {
    /// Time that it has spent wet between 8 and 60 °C, where things grow.
    pub warm: Minutes,
    /// Whether fruit, leaves, juice or milk have come in and not been heated to 72 °C since.
    pub raw: bool,
}

/// Under this little grows, °C.
const GROWS_FROM: f64 = 8.0;
/// Hot enough to make raw things safe for a while.
const PASTEURISED: f64 = 72.0;

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
    fn of(line: usize, brought: &Mixture) -> Self {
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
fn split_origins(origins: &mut [Origin], share: f64) -> Vec<Origin> {
    let taken = origins.iter().map(|o| o.times(share)).collect();
    origins.iter_mut().for_each(|o| *o = o.times(1.0 - share));
    taken
}

impl Deposit {
    pub(super) fn of(line: usize, mixture: Mixture) -> Self {
        Self { mixture, origins: vec![Origin::of(line, &mixture)] }
    }

    fn take(&mut self, share: f64) -> Self {
        Self { mixture: self.mixture.take(share), origins: split_origins(&mut self.origins, share) }
    }

    fn join(&mut self, other: Self) {
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
    deposits.iter_mut().map(|d| d.take(share)).filter(|d| d.mixture.mass().0 > TRACE_OF).collect()
}

/// What lies at the bottom and dissolves, by what water takes of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Powder {
    Sugar,
    SugarAlcohol,
    Acid,
    Other,
}

impl Powder {
    const ALL: [Self; 4] = [Self::Sugar, Self::SugarAlcohol, Self::Acid, Self::Other];

    fn of(mixture: &Mixture) -> Self {
        let most = mixture.mass().0 / 2.0;
        match mixture {
            m if m[Component::Polyol] > most => Self::SugarAlcohol,
            m if m.sugars().0 > most => Self::Sugar,
            m if Self::Acid.amount(m) > most => Self::Acid,
            _ => Self::Other,
        }
    }

    /// How much of what crystallises is in a mixture, g.
    fn amount(self, mixture: &Mixture) -> f64 {
        match self {
            Self::Sugar => mixture[Component::Sucrose],
            Self::SugarAlcohol => mixture[Component::Polyol],
            Self::Acid => {
                let acids = [Component::Citric, Component::Malic, Component::Tartaric];
                acids.iter().map(|c| mixture[*c]).sum()
            }
            Self::Other => mixture[Component::OtherSolids],
        }
    }

    /// Grams that a gram of water takes.
    ///
    /// Erythritol: 37 g in 100 g of solution at 25 °C, about 2 % more for each degree. Citric acid:
    /// 59 % at 20 °C, malic and tartaric alike (CRC handbook). Salts: as table salt, 36 g in 100 g;
    /// baking soda takes four times the water, in amounts that no drink has.
    fn taken_by_water(self, t: Celsius) -> f64 {
        match self {
            Self::Sugar => {
                let limit = sucrose_solubility(t) / 100.0;
                limit / (1.0 - limit)
            }
            Self::SugarAlcohol => 0.587 * (1.0 + 0.02 * (t.0 - 25.0)).max(0.2),
            Self::Acid => 1.45,
            Self::Other => 0.36,
        }
    }
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
            + self.pieces.iter().map(Piece::heat_capacity).sum::<f64>()
            + self.ice.iter().map(|d| heat_capacity(&d.mixture) * ICE_HEAT_SHARE).sum::<f64>()
    }

    fn credit(&mut self, line: usize, brought: &Mixture) {
        self.credit_origin(Origin::of(line, brought));
    }

    fn credit_origin(&mut self, origin: Origin) {
        credit(&mut self.origins, origin);
    }

    /// Puts so much of an ingredient in, which is made of `mixture`. Returns what is lost on the way:
    /// gas, when a fizzy drink is opened and poured.
    ///
    /// `drawing` is how many times as fast as the tables say its pieces draw.
    pub(super) fn put(
        &mut self,
        line: usize,
        ingredient: usize,
        it: &Ingredient,
        mut mixture: Mixture,
        drawing: f64,
    ) -> Mixture {
        let mut lost = Mixture::EMPTY;
        lost[Component::CarbonDioxide] = mixture[Component::CarbonDioxide] * OPENING_LOSS;
        mixture[Component::CarbonDioxide] -= lost[Component::CarbonDioxide];
        let (capacity, at) = match (it.form, it.kind) {
            (Form::Ice, _) => (heat_capacity(&mixture) * ICE_HEAT_SHARE, Celsius(0.0)),
            // Soda and milk come out of the refrigerator.
            (_, Kind::Soda | Kind::Dairy) => (heat_capacity(&mixture), KEPT_COLD),
            _ => (heat_capacity(&mixture), ROOM),
        };
        self.take_heat_of(capacity, at);
        self.past.raw |= it.kind.is_raw();
        match it.form {
            Form::Liquid => {
                self.liquid += &mixture;
                self.credit(line, &mixture);
            }
            Form::Crystals => self.lay_crystals(Deposit::of(line, mixture)),
            Form::Ice => self.lay_ice(Deposit::of(line, mixture)),
            Form::Pieces => {
                self.lay(Piece::new(line, ingredient, it, mixture).with_luck(drawing));
            }
        }
        self.settle();
        lost
    }

    /// Puts other contents in.
    pub(super) fn pour_in(&mut self, other: Contents) {
        self.take_heat_of(other.heat_capacity(), other.temperature);
        self.liquid += &other.liquid;
        other.crystals.into_iter().for_each(|d| self.lay_crystals(d));
        other.pieces.into_iter().for_each(|p| self.lay(p));
        other.ice.into_iter().for_each(|d| self.lay_ice(d));
        for origin in other.origins {
            self.credit_origin(origin);
        }
        self.past.warm = self.past.warm.max(other.past.warm);
        self.past.raw |= other.past.raw;
        self.settle();
    }

    /// Lays pieces in, with those that are alike: there are never more heaps than lines that brought
    /// any, however often they are parted and poured together again.
    fn lay(&mut self, piece: Piece) {
        if piece.put_in.0 <= TRACE_OF {
            return;
        }
        match self.pieces.iter_mut().find(|p| p.is_like(&piece)) {
            Some(heap) => heap.join(&piece),
            None => self.pieces.push(piece),
        }
    }

    /// Lays crystals in: one heap for each kind of powder, which dissolves as one.
    fn lay_crystals(&mut self, deposit: Deposit) {
        let kind = Powder::of(&deposit.mixture);
        match self.crystals.iter_mut().find(|d| Powder::of(&d.mixture) == kind) {
            Some(heap) => heap.join(deposit),
            None => self.crystals.push(deposit),
        }
    }

    /// Lays ice in: all of it melts as one.
    fn lay_ice(&mut self, deposit: Deposit) {
        match self.ice.first_mut() {
            Some(heap) => heap.join(deposit),
            None => self.ice.push(deposit),
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
    pub(super) fn take(&mut self, share: f64) -> Self {
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
            past: self.past,
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
        }
        self
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

    fn melt(&mut self) {
        // Cold below freezing point is not carried on: what is colder has thawed to 0 °C first.
        if self.temperature.0 < 0.0 && self.liquid[Component::Water] > TRACE_OF {
            self.temperature = Celsius(0.0);
        }
        let all = self.frozen_water();
        if all > 0.0 && self.temperature.0 > 0.0 {
            self.melt_with(self.heat_capacity() * self.temperature.0);
        }
    }

    /// Water that is ice: as ice, and in frozen pieces.
    fn frozen_water(&self) -> f64 {
        self.pieces.iter().map(|p| p.frozen.0).sum::<f64>()
            + self.ice.iter().map(|d| d.mixture[Component::Water]).sum::<f64>()
    }

    /// Melts as much as so much heat does, J; what is left over warms it from 0 °C.
    fn melt_with(&mut self, heat: f64) {
        let all = self.frozen_water();
        let share = (heat / (all * MELTING)).min(1.0);
        for part in split(&mut self.ice, share) {
            part.origins.into_iter().for_each(|o| self.credit_origin(o));
            self.liquid += part.mixture;
        }
        for piece in &mut self.pieces {
            piece.frozen = piece.frozen * (1.0 - share);
        }
        if share >= 1.0 {
            self.ice.clear();
            let left = (heat - all * MELTING).max(0.0);
            self.temperature = Celsius(left / self.heat_capacity());
        } else {
            self.temperature = Celsius(0.0);
        }
    }

    fn dissolve(&mut self) {
        let water = self.liquid[Component::Water];
        if self.crystals.is_empty() || water <= 0.0 {
            return;
        }
        let share_of = |what: Powder| {
            let (dissolved, lying) = self.of_powder(what);
            let room = (water * what.taken_by_water(self.temperature) - dissolved).max(0.0);
            if lying > room { room / lying } else { 1.0 }
        };
        let shares = Powder::ALL.map(share_of);
        for mut part in std::mem::take(&mut self.crystals) {
            let share = shares[Powder::of(&part.mixture) as usize];
            let dissolved = part.take(share);
            dissolved.origins.into_iter().for_each(|o| self.credit_origin(o));
            self.liquid += dissolved.mixture;
            if share < 1.0 {
                self.crystals.push(part);
            }
        }
    }

    /// How much of such a powder is dissolved, and how much lies there, g.
    ///
    /// Of sugars sucrose is what crystallises; those of honey and fruit stay dissolved far longer and
    /// are not held against it.
    fn of_powder(&self, what: Powder) -> (f64, f64) {
        let lying = self.crystals.iter().filter(|d| Powder::of(&d.mixture) == what);
        (what.amount(&self.liquid), lying.map(|d| what.amount(&d.mixture)).sum())
    }

    /// The temperature at which all its crystals would dissolve; `None` if not even boiling does it,
    /// or if they aren't sugar.
    pub(super) fn dissolves_at(&self) -> Option<Celsius> {
        let water = self.liquid[Component::Water];
        if self.crystals.iter().any(|d| Powder::of(&d.mixture) != Powder::Sugar) {
            return None;
        }
        let (dissolved, lying) = self.of_powder(Powder::Sugar);
        (self.temperature.0.ceil() as i32..=100)
            .map(|t| Celsius(f64::from(t)))
            .find(|t| water * Powder::Sugar.taken_by_water(*t) >= dissolved + lying)
    }

    /// Water that would take the crystals at the temperature that it has.
    pub(super) fn water_to_dissolve(&self) -> Grams {
        let needed = Powder::ALL.map(|what| match self.of_powder(what) {
            (dissolved, lying) if lying > 0.0 => {
                (dissolved + lying) / what.taken_by_water(self.temperature)
            }
            _ => 0.0,
        });
        let needed = needed.into_iter().fold(0.0, f64::max);
        Grams((needed - self.liquid[Component::Water]).max(0.0))
    }

    /// Whether more sugar is dissolved than the liquid holds at that temperature.
    #[must_use]
    pub fn crystallises_at(&self, t: Celsius) -> bool {
        let water = self.liquid[Component::Water];
        let sugars = self.liquid[Component::Sucrose];
        // Half a per cent of grace: syrups stay clear a little beyond the line.
        water > 0.0 && 100.0 * sugars / (sugars + water) > sucrose_solubility(t) + 0.5
    }

    /// The part of all its sugar that has split, or came split, into glucose and fructose; 0 to 1.
    #[must_use]
    pub fn invert_share(&self) -> f64 {
        let sugars = self.liquid.sugars().0;
        let split = self.liquid[Component::Glucose] + self.liquid[Component::Fructose];
        if sugars > 0.0 { split / sugars } else { 0.0 }
    }

    /// Lets a time pass while the temperature runs from one value towards another: pieces draw,
    /// pulp gives up bitterness, aroma and gas go off, sugar splits in hot acid. Returns what went off.
    pub(super) fn pass(
        &mut self,
        minutes: Minutes,
        lid: bool,
        temperature_at: impl Fn(f64) -> Celsius,
    ) -> Mixture {
        let mut gone = Mixture::EMPTY;
        if minutes.0 <= 0.0 || self.liquid[Component::Water] < 1e-6 {
            return gone;
        }
        let mut parts = [(0.0, Celsius(0.0)); PARTS];
        let (mut hot_minutes, mut warmth, mut off, mut hottest) = (0.0, 0.0, 0.0, f64::MIN);
        for (i, part) in parts.iter_mut().enumerate() {
            // Short parts at first, where a cooling pot changes most.
            let [from, to] = [i, i + 1].map(|n| (n as f64 / PARTS as f64).powi(2) * minutes.0);
            let (length, t) = (to - from, temperature_at((from + to) / 2.0));
            *part = (drawing_speed(t) * length, t);
            hot_minutes += part.0;
            warmth += t.0 * length / minutes.0;
            off += aroma_loss(t, lid) * length;
            hottest = hottest.max(t.0);
            if (GROWS_FROM..60.0).contains(&t.0) {
                self.past.warm += Minutes(length);
            }
        }
        self.past.raw &= hottest < PASTEURISED;
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let out = piece.draw(&parts);
            self.credit(piece.line, &out);
            self.liquid += out;
        }
        self.pieces = pieces;
        // Pulp of whole citrus goes on giving up bitterness.
        let bound = &mut self.liquid[Component::BoundBitterness];
        let freed = *bound * (1.0 - (-hot_minutes / 25.0).exp());
        *bound -= freed;
        self.liquid[Component::Bitterness] += freed;

        let aroma = self.liquid[Component::Aroma] * (1.0 - (-off).exp());
        self.liquid[Component::Aroma] -= aroma;
        gone[Component::Aroma] = aroma;
        gone[Component::CarbonDioxide] = self.let_gas_off(minutes, Celsius(hottest), lid);
        if self.liquid[Component::Sucrose] > 0.0 && hottest > 40.0 {
            self.invert(minutes, Celsius(warmth));
        }
        gone
    }

    /// Gas that leaves an open vessel: 8 % in ten minutes when cold (estimate 5–15), and whatever the
    /// liquid can't keep when warm.
    fn let_gas_off(&mut self, minutes: Minutes, t: Celsius, lid: bool) -> f64 {
        let there = self.liquid[Component::CarbonDioxide];
        if there <= 0.0 || (lid && t.0 < 30.0) {
            return 0.0;
        }
        let calm = (-minutes.0 * 0.0083).exp();
        let kept = carbonation_kept(t, self.liquid.soluble_solids()) / 1.42;
        let left = if t.0 >= 60.0 { 0.0 } else { there * calm * kept.min(1.0) };
        self.liquid[Component::CarbonDioxide] = left;
        there - left
    }

    fn invert(&mut self, minutes: Minutes, t: Celsius) {
        let Some(ph) = self.liquid.ph() else { return };
        // A gram of sucrose takes up 18/342 g of water when it splits.
        const TAKEN_UP: f64 = 18.015 / 342.3;
        let share = 1.0 - (-inversion_rate(t, ph) * minutes.0).exp();
        let split = (self.liquid[Component::Sucrose] * share)
            .min(self.liquid[Component::Water] * 0.9 / TAKEN_UP);
        self.liquid[Component::Sucrose] -= split;
        self.liquid[Component::Water] -= split * TAKEN_UP;
        let half = split * (1.0 + TAKEN_UP) / 2.0;
        self.liquid[Component::Glucose] += half;
        self.liquid[Component::Fructose] += half;
        self.retell_origins();
    }

    /// Brings the origins back into step with the liquid after sugar has split or water has gone.
    fn retell_origins(&mut self) {
        let sum = |part: fn(&Origin) -> f64, of: &[Origin]| of.iter().map(part).sum::<f64>();
        let water = sum(|o| o.water.0, &self.origins);
        let sweetness = sum(|o| o.sweetness.0, &self.origins);
        let rate = |now: f64, told: f64| if told > 1e-12 { now / told } else { 1.0 };
        let water = rate(self.liquid[Component::Water], water);
        let sweetness = rate(self.liquid.sucrose_equivalent().0, sweetness);
        for o in &mut self.origins {
            o.water = o.water * water;
            o.sweetness = o.sweetness * sweetness;
        }
    }

    /// Lies under sugar: it draws juice out of fruit and oil out of peel. `rubbed` is the work of a
    /// hand, minutes that do what hours do otherwise.
    pub(super) fn macerate(&mut self, minutes: Minutes, rubbed: bool) {
        let sugar: f64 = self.crystals.iter().map(|d| d.mixture.sugars().0).sum::<f64>()
            + self.liquid.sugars().0;
        let fruit: f64 = self.pieces.iter().map(|p| p.put_in.0).sum();
        if fruit <= 0.0 || sugar <= 0.0 {
            return;
        }
        let pull = (sugar / fruit / 0.4).min(1.0);
        let mut pieces = std::mem::take(&mut self.pieces);
        for piece in &mut pieces {
            let out = piece.weep(minutes, rubbed, pull, self.temperature);
            self.credit(piece.line, &out);
            self.liquid += out;
        }
        self.pieces = pieces;
        self.settle();
    }

    /// Breaks all pieces and ice up: their juice joins the liquid, cell walls float in it.
    pub(super) fn blend(&mut self, seconds: f64) {
        for piece in std::mem::take(&mut self.pieces) {
            let line = piece.line;
            let mixture = piece.crush(seconds);
            self.credit(line, &mixture);
            self.liquid += mixture;
        }
        self.settle();
    }

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

    /// Stands in a surrounding for a time, drawing all the while. Returns what went off.
    pub(super) fn stand(
        &mut self,
        vessel: &Vessel,
        surrounding: Surrounding,
        minutes: Minutes,
        lid: bool,
    ) -> Mixture {
        let tau = surrounding.time_constant(vessel, self.heat_capacity(), self.level().0)
            * if lid { 1.35 } else { 1.0 };
        let end = surrounding.temperature.0;
        let warm = self.past.warm;
        let mut gone = Mixture::EMPTY;
        let mut minutes = minutes;
        let ice = self.frozen_water();
        if ice > 0.0 && end > 0.0 && self.temperature.0 <= 0.5 {
            // As long as there is ice, what warmth comes in melts it.
            let a_minute = self.heat_capacity() * (end - self.temperature.0.max(0.0)) / tau;
            let melting = Minutes((ice * MELTING / a_minute).min(minutes.0));
            gone += self.pass(melting, lid, |_| Celsius(0.0));
            self.melt_with(a_minute * melting.0);
            minutes = minutes - melting;
        }
        let start = self.temperature.0;
        let at = move |t: f64| Celsius(end + (start - end) * (-t / tau).exp());
        gone += self.pass(minutes, lid, at);
        if end < GROWS_FROM {
            // In the refrigerator it is on its way to the cold.
            self.past.warm = warm;
        }
        self.temperature = at(minutes.0);
        self.settle();
        gone
    }

    /// Freezes hard: the liquid becomes ice of the same drink, pieces freeze through.
    pub(super) fn freeze(&mut self, to: Celsius) {
        if self.liquid.mass().0 > TRACE_OF {
            let frozen = Deposit {
                mixture: self.liquid.take_all(),
                origins: std::mem::take(&mut self.origins),
            };
            self.lay_ice(frozen);
        }
        for mut piece in std::mem::take(&mut self.pieces) {
            piece.freeze();
            self.lay(piece);
        }
        self.temperature = to;
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

impl Contents {
    /// As it will be when it has stood for a time at the temperature that it has.
    #[must_use]
    pub fn after_standing(&self, minutes: Minutes) -> Self {
        let mut later = self.clone();
        let there = later.temperature;
        later.pass(minutes, true, |_| there);
        later
    }
}
