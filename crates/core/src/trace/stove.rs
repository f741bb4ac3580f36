//! On the ring, and in the microwave.

use super::contents::{Contents, steam_off};
use super::engine::{Engine, Spent};
use super::heat::{MEASURED_AT, MICROWAVE_WATTS, evaporation, heating_time, time_for};
use super::notice::{NoticeKind as Kind, say_ml};
use crate::chemistry::{Component, Mixture, boiling_point_elevation};
use crate::drink::{Dissolving, Reduction, Vessel, Vigour};
use crate::quantity::{Celsius, Grams, Millimetres, Minutes};
use crate::root;

/// By how much the temperature stays under the boiling point.
fn under_the_boil(how: Vigour) -> f64 {
    match how {
        Vigour::Gentle => 10.0,
        Vigour::Simmer => 3.5,
        Vigour::Boil => 0.0,
    }
}

/// The hottest that anything is let get: there sugar is caramel and no longer a syrup, and the law for
/// its boiling point has ended long before.
const HOTTEST: f64 = 125.0;

/// Where it boils.
fn boiling_point(liquid: &Mixture) -> Celsius {
    Celsius((100.0 + boiling_point_elevation(liquid)).min(HOTTEST))
}

/// Water that leaves each minute while it stands at `t`: as from water that is as far from its boil,
/// and less from a syrup, whose water is held (0.85 at 65 °Bx, as its water activity).
fn steam_rate(pot: &Vessel, liquid: &Mixture, t: Celsius, lid: bool, here: f64) -> Grams {
    let elevation = boiling_point_elevation(liquid);
    let activity = crate::chemistry::water_activity(liquid);
    evaporation(pot, Celsius(t.0 - elevation), lid, here) * activity
}

impl Engine<'_> {
    fn boil_off(&self) -> f64 {
        self.boil_off_nudge().or(self.cupboard.kitchen().boil_off).unwrap_or(1.0)
    }

    /// Warms it to `target`, drawing on the way. Returns the time that it takes and its steam.
    fn warm(&mut self, vessel: usize, target: Celsius, lid: bool) -> (Minutes, Grams) {
        let (pot, here) = (self.vessel(vessel), self.boil_off());
        let contents = &mut self.vessels[vessel];
        let start = contents.temperature;
        let up = heating_time(contents.heat_capacity(), target.0 - start.0);
        let gone = contents
            .pass(up, lid, |t| Celsius(start.0 + (target.0 - start.0) * t / up.0.max(1e-9)));
        contents.temperature = target.max(start);
        contents.settle();
        let halfway = Celsius((start.0 + contents.temperature.0) / 2.0);
        let steam = evaporation(pot, halfway, lid, here) * up.0;
        self.goes_off(vessel, &gone);
        (up, steam)
    }

    /// Keeps it at its temperature for a time. Returns the steam.
    fn keep_hot(&mut self, vessel: usize, hold: Minutes, lid: bool) -> Grams {
        let (pot, here) = (self.vessel(vessel), self.boil_off());
        let contents = &mut self.vessels[vessel];
        let there = contents.temperature;
        let gone = contents.pass(hold, lid, |_| there);
        let steam = steam_rate(pot, &contents.liquid, there, lid, here) * hold.0;
        self.goes_off(vessel, &gone);
        steam
    }

    /// Lets steam go, as far as there is water: a pot is taken off before the last spoonful has gone.
    fn let_steam_off(&mut self, vessel: usize, steam: Grams) {
        let contents = &mut self.vessels[vessel];
        let water = contents.liquid[Component::Water];
        let most = water * 0.97;
        let gone = contents.steam_off(Grams(steam.0.min(most)));
        contents.settle();
        self.goes_off(vessel, &gone);
        if steam.0 > most && water > 0.0 {
            let the = self.subject(vessel);
            self.notice(
                Kind::BoilsDry,
                format!("{the} boils dry. Use a lid, a lower heat or less time."),
            );
        }
    }

    pub(super) fn heat(&mut self, vessel: usize, to: Celsius, hold: Minutes, lid: bool) -> Spent {
        if self.is_empty(vessel, "heat") {
            return Spent::by_hand(0.0);
        }
        let boils = boiling_point(&self.vessels[vessel].liquid);
        let (up, steam) = self.warm(vessel, to.min(boils), lid);
        let steam = steam + self.keep_hot(vessel, hold, lid);
        self.let_steam_off(vessel, steam);
        if to.0 > boils.0 + 0.5 {
            self.notice(
                Kind::BoilsFirst,
                format!("It boils at {:.1} °C and gets no hotter.", boils.0),
            );
        }
        Spent::at_the_stove(up + hold)
    }

    pub(super) fn boil(&mut self, vessel: usize, hold: Minutes, how: Vigour, lid: bool) -> Spent {
        if self.is_empty(vessel, "boil") {
            return Spent::by_hand(0.0);
        }
        let boils = boiling_point(&self.vessels[vessel].liquid);
        let (up, steam) = self.warm(vessel, Celsius(boils.0 - under_the_boil(how)), lid);
        let steam = steam + self.keep_hot(vessel, hold, lid);
        self.let_steam_off(vessel, steam);
        // It boils hotter as water goes.
        let hotter = Celsius(boiling_point(&self.vessels[vessel].liquid).0 - under_the_boil(how));
        let contents = &mut self.vessels[vessel];
        contents.temperature = contents.temperature.max(hotter);
        Spent::at_the_stove(up + hold)
    }

    /// Boils it down. What is drawn meanwhile changes how far there is to go, so the time is found
    /// by trying it on a copy first.
    pub(super) fn reduce(
        &mut self,
        step: usize,
        vessel: usize,
        to: &Reduction,
        how: Vigour,
    ) -> Spent {
        if self.is_empty(vessel, "boil down") {
            return Spent::by_hand(0.0);
        }
        let (pot, here) = (self.vessel(vessel), self.boil_off());
        let boils = boiling_point(&self.vessels[vessel].liquid);
        let (up, steam) = self.warm(vessel, Celsius(boils.0 - under_the_boil(how)), false);
        self.let_steam_off(vessel, steam);

        let mut tried = self.vessels[vessel].clone();
        let mut hold = Minutes(0.0);
        for _ in 0..4 {
            let excess = self.to_boil_away(step, &tried, to);
            // A search for the root, and a trial.
            self.work += if excess.0 > 0.0 { 200 + tried.parts() as u64 } else { 2 };
            hold = time_to_lose(pot, &tried.liquid, excess, how, here);
            tried = self.vessels[vessel].clone();
            let there = tried.temperature;
            tried.pass(hold, false, |_| there);
        }
        let contents = &mut self.vessels[vessel];
        let there = contents.temperature;
        let gone = contents.pass(hold, false, |_| there);
        self.goes_off(vessel, &gone);
        let excess = self.to_boil_away(step, &self.vessels[vessel], to);
        if excess.0 <= 0.0 && up.0 + hold.0 < up.0 + 0.01 {
            self.notice(
                Kind::BoiledDownAlready,
                "It is as far down as that already; nothing is boiled away.".into(),
            );
        }
        let water = self.vessels[vessel].liquid[Component::Water];
        if let Reduction::Volume(_) = to
            && excess.0 > 0.95 * water
        {
            let left = self.vessels[vessel].liquid.volume(MEASURED_AT).0 - 0.9 * water;
            self.notice(
                Kind::TooThick,
                format!(
                    "There is too much sugar in it for that: it turns to caramel at about {}.",
                    say_ml(left)
                ),
            );
        }
        let gone = self.vessels[vessel].steam_off(Grams(excess.0.min(0.9 * water).max(0.0)));
        self.goes_off(vessel, &gone);
        let contents = &mut self.vessels[vessel];
        contents.settle();
        contents.temperature = Celsius(boiling_point(&contents.liquid).0 - under_the_boil(how));
        self.water_line = Some(Millimetres(contents.level().0 * 1000.0 / pot.opening_mm2()));
        Spent::at_the_stove(up + hold)
    }

    /// Water that has to go until it is as far down as it should be; nothing if it is already.
    fn to_boil_away(&self, step: usize, contents: &Contents, to: &Reduction) -> Grams {
        let water = contents.liquid[Component::Water];
        let held = contents.held_by_pieces(self.hold_luck()).0;
        let miss = |gone: f64| {
            let mut left = contents.liquid;
            steam_off(&mut left, Grams(gone));
            match to {
                Reduction::Volume(volume) => {
                    let wanted = self.said(step, volume).map_or(0.0, |ml| ml.0);
                    // What would run off if it were drained now; the rest is held by pieces.
                    let mass = left.mass().0;
                    let runs_off = if mass > 0.0 { (1.0 - held / mass).max(0.0) } else { 0.0 };
                    left.volume(MEASURED_AT).0 * runs_off - wanted
                }
                Reduction::Brix(brix) => brix - left.soluble_solids(),
                Reduction::BoilingAt(t) => t - boiling_point(&left).0,
            }
        };
        let most = water * 0.97;
        if miss(0.0) <= 0.0 {
            return Grams(0.0);
        }
        if miss(most) >= 0.0 {
            return Grams(most);
        }
        Grams(root::find(0.0, most, 1e-6, miss).unwrap_or(0.0))
    }

    pub(super) fn dissolve(&mut self, vessel: usize, how: Dissolving) -> Spent {
        if self.is_empty(vessel, "stir") {
            return Spent::by_hand(0.0);
        }
        match how {
            Dissolving::Microwave => {
                let contents = &mut self.vessels[vessel];
                let start = contents.temperature;
                let to = start.max(Celsius(70.0));
                let up = time_for(MICROWAVE_WATTS, contents.heat_capacity(), to.0 - start.0);
                let gone = contents
                    .pass(up, false, |t| Celsius(start.0 + (to.0 - start.0) * t / up.0.max(1e-9)));
                contents.temperature = to;
                contents.settle();
                self.goes_off(vessel, &gone);
                Spent { minutes: up + Minutes(1.0), hands_on: Minutes(1.5).min(up + Minutes(1.0)) }
            }
            Dissolving::Stirred => {
                let contents = &mut self.vessels[vessel];
                contents.settle();
                let t = contents.temperature.0;
                let gas = contents.liquid[Component::CarbonDioxide];
                contents.liquid[Component::CarbonDioxide] = gas * 0.5;
                let mut gone = Mixture::EMPTY;
                gone[Component::CarbonDioxide] = gas * 0.5;
                self.goes_off(vessel, &gone);
                if gas > 0.5 {
                    self.notice(Kind::LosesFizz, "Stirring drives half of the fizz out.".into());
                }
                // Two minutes at room temperature, twice that in the cold, half when hot. Estimate.
                Spent::by_hand((2.0 * 2f64.powf((20.0 - t) / 15.0)).clamp(0.5, 6.0))
            }
        }
    }
}

/// How long so much water takes to leave; slower towards the end, as the syrup holds what is left.
fn time_to_lose(pot: &Vessel, liquid: &Mixture, water: Grams, how: Vigour, here: f64) -> Minutes {
    const PARTS: u32 = 12;
    let part = water * (1.0 / f64::from(PARTS));
    let mut left = *liquid;
    let mut minutes = 0.0;
    for _ in 0..PARTS {
        let t = Celsius(boiling_point(&left).0 - under_the_boil(how));
        let rate = steam_rate(pot, &left, t, false, here);
        minutes += if rate.0 > 0.0 { part.0 / rate.0 } else { 0.0 };
        steam_off(&mut left, part);
    }
    Minutes(minutes.max(0.0))
}
