//! What time does to what is in a vessel: pieces draw and break, sugar pulls juice out of fruit, water leaves
//! as steam, aroma and gas go off, sugar splits in hot acid, and whatever is perishable grows older.
//!
//! Every step that takes time is one call of [`Contents::pass`] with the way that the temperature takes
//! meanwhile: level on the burner, along Newton's curve in a surrounding. All that happens goes at rates that
//! hang on the state alone, so that an hour is the same as twice half an hour.

use super::contents::{Contents, Origin};
use super::heat::{MELTING, Steaming, Surrounding, aroma_loss, gas_loss};
use super::piece::{Bath, Moment, Piece, Soaking};
use crate::chemistry::{Component, Mixture, inversion_rate};
use crate::drink::{CoolingPlace, Vessel};
use crate::quantity::{Celsius, Grams, Minutes};

/// Into how many parts a span of time is cut where the temperature changes.
const PARTS: usize = 16;

/// Nothing grows below this, °C, nor above the other; from the third on things grow in earnest.
const GROWS: (f64, f64) = (5.0, 60.0);
const GROWS_WELL: f64 = 20.0;

/// Minutes at 95 °C until pulp that floats in it has given up 63 % of its bitterness. Estimate.
const PULP_BITTERS: f64 = 25.0;

/// In how many turns what is drawn is mixed in.
const TURNS: usize = 4;

/// Rates times the time that they went on.
#[derive(Default)]
struct Rates {
    bitter: f64,
    aroma: f64,
    gas: f64,
    /// Of sucrose, for each mole of hydrogen ions in a litre.
    inverts: f64,
}

impl Rates {
    fn add(&mut self, length: f64, t: Celsius, lid: bool, moment: &Moment) {
        // Bitterness hangs twice as much on the heat: it stays in rind that lies in the cold.
        self.bitter += moment.hot * moment.hot / length.max(1e-12);
        self.aroma += aroma_loss(t, lid) * length;
        self.gas += gas_loss(t, lid) * length;
    }
}

/// What a time has done.
#[derive(Debug, Default)]
pub(super) struct Passed {
    /// What went off into the air.
    pub(super) gone: Mixture,
    /// When it had boiled dry, if it did: there the time ends.
    pub(super) dry_after: Option<Minutes>,
}

/// How much a minute at `t` counts for what grows: one between 20 and 50 °C counts full; in the cold it
/// is the square of the distance from where nothing grows (Ratkowsky's law), and over 50 °C less and less.
fn growing(t: Celsius) -> f64 {
    let cold = ((t.0 - GROWS.0) / (GROWS_WELL - GROWS.0)).clamp(0.0, 1.0).powi(2);
    cold * ((GROWS.1 - t.0) / 10.0).clamp(0.0, 1.0)
}

/// Which share of what comes out of a piece in a span goes off before its end: it comes as exp(−`pace`·s), s from 0
/// to 1, and from then on goes as exp(−`off`·(1 − s)).
fn fades_of_what_comes(pace: f64, off: f64) -> f64 {
    let came = -(-pace).exp_m1();
    if came < 1e-9 {
        return off / 2.0;
    }
    let faster = pace - off;
    // Where both are alike, the limit of the quotient.
    let spread = if faster.abs() < 1e-6 { 1.0 } else { -(-faster).exp_m1() / faster };
    1.0 - pace * (-off).exp() * spread / came
}

impl Contents {
    /// Lets a time pass while the temperature runs along `temperature_at` (by the minute) and water
    /// leaves as `steaming` says.
    pub(super) fn pass(
        &mut self,
        minutes: Minutes,
        lid: bool,
        steaming: &Steaming,
        temperature_at: impl Fn(f64) -> Celsius,
    ) -> Passed {
        let mut passed = Passed::default();
        if minutes.0 <= 0.0 || self.is_empty() {
            return passed;
        }
        let (first, last) = (temperature_at(0.0), temperature_at(minutes.0));
        if first.max(last).0 > 60.0 {
            // Heat gives no days back to what had none left.
            self.remains();
        }
        let level = first == last;
        // Level, parts are alike; else they are short at first, where a cooling pot changes most.
        let until = |part: usize| {
            let share = part as f64 / PARTS as f64;
            minutes.0 * if level { share } else { share * share }
        };
        // What is drawn goes off and sours the rest, and hot syrup that splits holds its water better: they
        // take turns. Where it is cool and nothing lies in it, once is enough.
        let turns = match self.bath() {
            _ if self.pieces.is_empty() && first.max(last).0 < 40.0 => 1,
            bath if bath.covers() => TURNS,
            // Fruit in its own juice, of which there is none at first.
            _ => PARTS,
        };
        for turn in 0..turns {
            let each = PARTS / turns;
            let mut moments = [Moment::default(); PARTS];
            let moments = &mut moments[..each];
            let kept = self.liquid[Component::Water] - self.water_to_spare();
            let boils_at = steaming.boils_at(&self.liquid);
            let (grows, slowed) = (1.0 - self.held_back(), self.slowed());
            let spoils = self.spoils();
            let mut rates = Rates::default();
            let mut before = Moment::default();
            for (i, moment) in moments.iter_mut().enumerate() {
                let [from, to] = [0, 1].map(|n| until(turn * each + i + n));
                let along = || temperature_at((from + to) / 2.0);
                let (length, t) = (to - from, boils_at.unwrap_or_else(along));
                let same = before.minutes > 0.0 && before.t == t;
                *moment = if same { before.again(length) } else { Moment::new(length, t) };
                before = *moment;
                rates.add(length, t, lid, moment);
                if t.0 > 40.0 {
                    // It hangs so much on the heat that two points a part are needed (Gauss).
                    let off = (to - from) / 12f64.sqrt();
                    let at = |sign: f64| temperature_at((from + to) / 2.0 + sign * off);
                    let [early, late] =
                        [-1.0, 1.0].map(|sign| boils_at.unwrap_or_else(|| at(sign)));
                    let rate = inversion_rate(early, 0.0) + inversion_rate(late, 0.0);
                    rates.inverts += rate / 2.0 * length;
                }
                self.past.warm += Minutes(grows * growing(t) * length);
                if spoils {
                    self.past.moment(length, t, slowed);
                }
                let steam = steaming.rate(&self.liquid, t, lid) * length;
                if passed.dry_after.is_none() && self.steam(&mut passed.gone, steam, kept) {
                    passed.dry_after = Some(Minutes(to));
                }
            }
            let smelled = self.liquid[Component::Aroma];
            let faded = self.draw_all(moments, &rates);
            let off = smelled * (1.0 - (-rates.aroma).exp()) + faded;
            self.temperature = moments.last().map_or(self.temperature, |m| m.t);
            self.dissolve();
            self.change(&rates, off, &mut passed.gone);
            if passed.dry_after.is_some() {
                break;
            }
        }
        passed
    }

    /// What goes off, turns bitter and splits at those rates; `off` is the aroma that goes.
    fn change(&mut self, rates: &Rates, off: f64, gone: &mut Mixture) {
        let off = off.min(self.liquid[Component::Aroma]);
        self.liquid[Component::Aroma] -= off;
        gone[Component::Aroma] += off;
        *gone += self.let_gas_off((1.0 - (-rates.gas).exp()).min(0.999));
        // Pulp of whole citrus goes on giving up bitterness.
        let bound = &mut self.liquid[Component::BoundBitterness];
        let freed = *bound * (1.0 - (-rates.bitter / PULP_BITTERS).exp());
        *bound -= freed;
        self.liquid[Component::Bitterness] += freed;
        if rates.inverts > 0.0
            && self.liquid[Component::Sucrose] > 0.0
            && let Some(ph) = self.liquid.ph()
        {
            self.invert(rates.inverts * 10f64.powf(-ph));
        }
    }

    /// All pieces give up what they do in that time. Returns how much of the aroma that came goes off again.
    fn draw_all(&mut self, moments: &[Moment], rates: &Rates) -> f64 {
        if self.pieces.is_empty() {
            return 0.0;
        }
        let mut faded = 0.0;
        let bath = self.bath();
        let soaking = Soaking::of(moments, self.undissolved().0 > 0.0);
        let mut pieces = std::mem::take(&mut self.pieces);
        // What sugar goes into a piece is taken from all origins alike; once for all pieces, since a pot may hold a
        // hundred of them.
        let mut stays = 1.0;
        for piece in &mut pieces {
            let (out, pace) = piece.pass(moments, rates.bitter, bath);
            faded += out[Component::Aroma] * fades_of_what_comes(pace, rates.aroma);
            let brought = Origin::of(piece.line, &out);
            self.credit_origin(Origin { sweetness: brought.sweetness * (1.0 / stays), ..brought });
            self.liquid += out;
            stays *= self.soak(piece, piece.soaked(soaking));
            if stays < 0.5 {
                self.sweetness_stays(std::mem::replace(&mut stays, 1.0));
            }
        }
        self.sweetness_stays(stays);
        self.pieces = pieces;
        faded
    }

    /// So much of the sweetness of each origin is still in the liquid.
    fn sweetness_stays(&mut self, share: f64) {
        if share < 1.0 {
            self.origins.iter_mut().for_each(|o| o.sweetness = o.sweetness * share);
        }
    }

    /// Sugar goes into a piece for as much of its water, so far towards where both are as sweet. Returns the share of
    /// the liquid's sweetness that stays.
    fn soak(&mut self, piece: &mut Piece, far: f64) -> f64 {
        let (sugar, water) = (self.liquid.sugars().0, self.liquid[Component::Water]);
        let own_sugar = piece.inside.sugars().0;
        let own_water = (piece.inside[Component::Water] - piece.frozen.0).max(0.0);
        let (mine, all) = (own_sugar + own_water, sugar + water + own_sugar + own_water);
        if mine <= 0.0 || sugar <= 0.0 {
            return 1.0;
        }
        let alike = (sugar + own_sugar) / all * mine;
        let swapped = (far * (alike - own_sugar)).min(own_water);
        if swapped <= 1e-9 * mine {
            return 1.0;
        }
        let before = self.liquid.sucrose_equivalent().0;
        let share = swapped / sugar;
        for kind in Component::SUGARS {
            let part = self.liquid[kind] * share;
            self.liquid[kind] -= part;
            piece.inside[kind] += part;
        }
        piece.inside[Component::Water] -= swapped;
        piece.taken_up += Grams(swapped);
        self.liquid[Component::Water] += swapped;
        self.credit_origin(Origin { water: Grams(swapped), ..Origin::nothing_of(piece.line) });
        self.liquid.sucrose_equivalent().0 / before.max(1e-12)
    }

    /// What pieces lie in. Neither figure changes while they give up what they hold.
    pub(super) fn bath(&self) -> Bath {
        let put_in: f64 = self.pieces.iter().map(|p| p.put_in.0).sum();
        let mut of_pieces: Vec<usize> = self.pieces.iter().map(|p| p.line).collect();
        of_pieces.sort_unstable();
        let poured_in = |o: &&Origin| of_pieces.binary_search(&o.line).is_err();
        let poured: f64 = self.origins.iter().filter(poured_in).map(|o| o.water.0).sum();
        let inside = |read: fn(&Mixture) -> f64| -> f64 {
            self.pieces.iter().map(|p| read(&p.inside)).sum::<f64>()
                + self.crystals.iter().map(|d| read(&d.mixture)).sum::<f64>()
                + read(&self.liquid)
        };
        let (sugar, water) = (inside(|m| m.sugars().0), inside(|m| m[Component::Water]));
        Bath::new(poured / put_in.max(1e-9), sugar / (sugar + water).max(1e-9))
    }

    /// Lets steam go, down to the water that is `kept`. Returns whether it has boiled dry: a pot is taken
    /// off before sugar burns.
    fn steam(&mut self, gone: &mut Mixture, steam: f64, kept: f64) -> bool {
        if steam <= 0.0 {
            return false;
        }
        let there = self.liquid[Component::Water];
        let most = (there - kept).max(0.0);
        *gone += self.steam_off(Grams(steam.min(most).min(there)));
        steam > most
    }

    /// Splits sugar; `by` is a rate times a time.
    fn invert(&mut self, by: f64) {
        // A gram of sucrose takes up 18/342 g of water when it splits.
        const TAKEN_UP: f64 = 18.015 / 342.3;
        let split = (self.liquid[Component::Sucrose] * (1.0 - (-by).exp()))
            .min(self.liquid[Component::Water] * 0.9 / TAKEN_UP);
        self.liquid[Component::Sucrose] -= split;
        self.liquid[Component::Water] -= split * TAKEN_UP;
        let half = split * (1.0 + TAKEN_UP) / 2.0;
        self.liquid[Component::Glucose] += half;
        self.liquid[Component::Fructose] += half;
        self.retell_origins();
    }

    /// Brings the origins back into step with the liquid after sugar has split or water has gone.
    pub(super) fn retell_origins(&mut self) {
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

    /// Stands in a surrounding for a time, drawing all the while. Returns what went off.
    pub(super) fn stand(
        &mut self,
        vessel: &Vessel,
        surrounding: Surrounding,
        minutes: Minutes,
        lid: bool,
    ) -> Mixture {
        let tau = surrounding.tau(vessel, self.heat_capacity(), self.level().0, lid);
        let end = surrounding.temperature.0;
        let air = Steaming::still(vessel);
        let mut gone = Mixture::EMPTY;
        let mut minutes = minutes;
        let ice = self.frozen_water();
        if ice > 0.0 && end > 0.0 && self.temperature.0 <= 0.5 {
            // As long as there is ice, what warmth comes in melts it.
            let a_minute = self.comes_in(surrounding, tau);
            let melting = Minutes((ice * MELTING / a_minute).min(minutes.0));
            gone += self.pass(melting, lid, &air, |_| Celsius(0.0)).gone;
            self.melt_with(a_minute * melting.0);
            minutes = minutes - melting;
        }
        let start = self.temperature.0;
        let at = move |t: f64| Celsius(end + (start - end) * (-t / tau).exp());
        gone += self.pass(minutes, lid, &air, at).gone;
        self.temperature = at(minutes.0);
        self.settle();
        gone
    }

    /// How long it stands until what is frozen in it has melted.
    pub(super) fn thaws_in(&self, vessel: &Vessel, surrounding: Surrounding) -> Minutes {
        let tau = surrounding.tau(vessel, self.heat_capacity(), self.level().0, false);
        Minutes(self.frozen_water() * MELTING / self.comes_in(surrounding, tau).max(1e-9))
    }

    /// Heat that comes in each minute as long as there is ice, J.
    fn comes_in(&self, surrounding: Surrounding, tau: f64) -> f64 {
        self.heat_capacity() * (surrounding.temperature.0 - self.temperature.0.max(0.0)) / tau
    }

    /// As it will be when it has stood aside, covered, in that place.
    #[must_use]
    pub(crate) fn stood(&self, vessel: &Vessel, place: CoolingPlace, minutes: Minutes) -> Self {
        let mut later = self.clone();
        later.stand(vessel, place.into(), minutes, true);
        later
    }

    /// As it will be when it has stood for a time at the temperature that it has.
    #[must_use]
    pub(crate) fn after_standing(&self, minutes: Minutes) -> Self {
        let mut later = self.clone();
        let there = later.temperature;
        later.pass(minutes, true, &Steaming::none(), |_| there);
        later
    }
}
