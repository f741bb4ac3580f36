//! On the ring, and in the microwave.

use super::contents::{Contents, steam_off};
use super::engine::{A_TIME, Engine};
use super::heat::{MEASURED_AT, MICROWAVE_WATTS, Steaming, boiling_point, heating_time, time_for};
use super::notice::{NoticeKind as Kind, say_minutes, say_ml};
use super::spent::{Place, Spent};
use crate::chemistry::Mixture;
use crate::drink::{Dissolving, Reduction, Stirring, Vessel, Vigour};
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

impl Engine<'_> {
    fn boil_off(&self) -> f64 {
        self.boil_off_nudge().unwrap_or_else(|| self.cupboard.boil_off())
    }

    /// Warms it to `target`, drawing and steaming on the way. Returns the time that it takes.
    fn warm(&mut self, vessel: usize, target: Celsius, lid: bool) -> Minutes {
        let steaming = Steaming::heated(self.vessel(vessel), self.boil_off());
        let contents = &mut self.vessels[vessel];
        let start = contents.temperature;
        let up = heating_time(contents.heat_capacity(), target.0 - start.0);
        let passed = contents.pass(up, lid, &steaming, |t| {
            Celsius(start.0 + (target.0 - start.0) * t / up.0.max(1e-9))
        });
        contents.temperature = target.max(start);
        contents.settle();
        self.goes_off(vessel, &passed.gone);
        up
    }

    /// Brings it to the boil. What dissolves and runs out on the way moves that up: fruit under sugar has no
    /// liquid at first, and boils as a syrup.
    fn bring_to_boil(&mut self, vessel: usize, how: Vigour, lid: bool) -> Minutes {
        let mut up = Minutes(0.0);
        for _ in 0..4 {
            let boils = boiling_point(&self.vessels[vessel].liquid);
            let target = Celsius(boils.0 - under_the_boil(how));
            if target.0 < self.vessels[vessel].temperature.0 + 0.2 {
                break;
            }
            up += self.warm(vessel, target, lid);
        }
        up
    }

    /// Keeps it at its temperature for a time. Returns how long: it ends when the pot has boiled dry.
    fn keep_hot(
        &mut self,
        vessel: usize,
        hold: Minutes,
        lid: bool,
        under_boil: Option<f64>,
    ) -> Minutes {
        let (pot, here) = (self.vessel(vessel), self.boil_off());
        let steaming = match under_boil {
            Some(under) => Steaming::boiling(pot, here, under),
            None => Steaming::heated(pot, here),
        };
        let contents = &mut self.vessels[vessel];
        let there = contents.temperature;
        let passed = contents.pass(hold, lid, &steaming, |_| there);
        contents.settle();
        // It boils hotter as water goes.
        let boils = steaming.boils_at(&contents.liquid).filter(|_| hold.0 > 0.0);
        contents.temperature = contents.temperature.max(boils.unwrap_or(there));
        self.goes_off(vessel, &passed.gone);
        let Some(after) = passed.dry_after else { return hold };
        self.vessels[vessel].past.dried = true;
        let the = self.subject(vessel);
        self.notice(
            Kind::BoilsDry,
            format!(
                "{the} boils dry after {}. Use a lid, a lower heat or less time.",
                say_minutes(after)
            ),
        );
        after
    }

    pub(super) fn heat(&mut self, vessel: usize, to: Celsius, hold: Minutes, lid: bool) -> Spent {
        if self.is_empty(vessel, "heat") {
            return Spent::by_hand(0.0);
        }
        let boils = boiling_point(&self.vessels[vessel].liquid);
        let up = self.warm(vessel, to.min(boils), lid);
        let under = (to >= boils).then_some(0.0);
        let hold = self.keep_hot(vessel, hold, lid, under);
        // To be told to heat to 100 °C is to be told to bring it to the boil.
        if to.0 > boils.0 + 0.5 && (to.0 - 100.0).abs() > 0.5 {
            self.notice(
                Kind::BoilsFirst,
                format!(
                    "It boils at {} and gets no hotter.",
                    self.cupboard.saying().degrees.say(boils.0)
                ),
            );
        }
        Spent::at_the_stove(up + hold).standing(Place::worktop(lid))
    }

    pub(super) fn boil(&mut self, vessel: usize, hold: Minutes, how: Vigour, lid: bool) -> Spent {
        if self.is_empty(vessel, "boil") {
            return Spent::by_hand(0.0);
        }
        let up = self.bring_to_boil(vessel, how, lid);
        let hold = self.keep_hot(vessel, hold, lid, Some(under_the_boil(how)));
        Spent::at_the_stove(up + hold).standing(Place::worktop(lid))
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
        let up = self.bring_to_boil(vessel, how, false);

        // The steam is let off at the end, all at once: it is what the time was found from.
        let no_steam = Steaming::none();
        let mut tried = self.vessels[vessel].clone();
        let mut hold = Minutes(0.0);
        for _ in 0..4 {
            let excess = self.to_boil_away(step, vessel, &tried, to);
            // A search for the root, and a trial.
            self.work += if excess.0 > 0.0 { 200 + A_TIME * tried.parts() as u64 } else { 2 };
            let before = hold.0;
            hold = time_to_lose(pot, &tried.liquid, excess, how, here);
            if (hold.0 - before).abs() <= 1e-3 * hold.0 {
                break;
            }
            tried = self.vessels[vessel].clone();
            let there = tried.temperature;
            tried.pass(hold, false, &no_steam, |_| there);
        }
        let contents = &mut self.vessels[vessel];
        let there = contents.temperature;
        let passed = contents.pass(hold, false, &no_steam, |_| there);
        self.goes_off(vessel, &passed.gone);
        let excess = self.to_boil_away(step, vessel, &self.vessels[vessel], to);
        if excess.0 <= 0.0 && hold.0 < 0.01 {
            self.notice(Kind::BoiledDownAlready, "It is already reduced that far.".into());
        }
        let most = self.vessels[vessel].water_to_spare();
        let reached = excess.0 < most - 1e-6;
        let gone = self.vessels[vessel].steam_off(Grams(excess.0.min(most)));
        self.goes_off(vessel, &gone);
        let contents = &mut self.vessels[vessel];
        contents.settle();
        contents.temperature = Celsius(boiling_point(&contents.liquid).0 - under_the_boil(how));
        self.water_line = Some(Millimetres(contents.level().0 * 1000.0 / pot.opening_mm2()));
        // A gram that is left is no syrup.
        let nothing_left = excess.0 > 0.0 && self.vessels[vessel].liquid.mass().0 < 1.0;
        if nothing_left || (!reached && excess.0 > 0.0) {
            self.out_of_reach(vessel);
        }
        Spent::at_the_stove(up + hold)
    }

    /// Says of what is boiled down that it doesn't get that far.
    fn out_of_reach(&mut self, vessel: usize) {
        let left = self.vessels[vessel].liquid;
        let message = if left.soluble_solids_mass().0 > 0.02 * left.mass().0 {
            format!(
                "It can't reduce that far: at {}, {:.0} °Bx, it turns to caramel.",
                say_ml(left.volume(MEASURED_AT).0),
                left.soluble_solids()
            )
        } else {
            self.vessels[vessel].past.dried = true;
            "It can't reduce that far: nothing is dissolved in it, so it boils dry first.".into()
        };
        self.notice(Kind::TooThick, message);
    }

    /// Water that has to go until it is as far down as it should be; nothing if it is already, and all
    /// that there is to spare if it never gets there.
    fn to_boil_away(
        &self,
        step: usize,
        vessel: usize,
        contents: &Contents,
        to: &Reduction,
    ) -> Grams {
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
                Reduction::Mark => {
                    let line = self.marks.iter().rev().find(|(v, _)| *v == vessel);
                    let lost = contents.liquid.volume(MEASURED_AT).0 - left.volume(MEASURED_AT).0;
                    contents.level_at(MEASURED_AT).0 - lost - line.map_or(0.0, |(_, ml)| ml.0)
                }
            }
        };
        let most = contents.water_to_spare();
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
                let passed = contents.pass(up, false, &Steaming::none(), |t| {
                    Celsius(start.0 + (to.0 - start.0) * t / up.0.max(1e-9))
                });
                contents.temperature = to;
                contents.settle();
                self.goes_off(vessel, &passed.gone);
                let minutes = up + Minutes(1.0);
                Spent { minutes, hands_on: Minutes(1.5).min(minutes), place: None }
            }
            Dissolving::Stirred => self.stir(vessel, Stirring::Clear),
        }
    }

    pub(super) fn stir(&mut self, vessel: usize, until: Stirring) -> Spent {
        if self.is_empty(vessel, "stir") {
            return Spent::by_hand(0.0);
        }
        let contents = &mut self.vessels[vessel];
        let lay = contents.undissolved();
        contents.settle();
        let t = contents.temperature.0;
        let gas = contents.liquid.free_carbon_dioxide();
        let gone = contents.let_gas_off(if until == Stirring::Calm { 1.0 } else { STIRRED_OUT });
        self.goes_off(vessel, &gone);
        if gas > 0.5 && until != Stirring::Calm {
            self.notice(Kind::LosesFizz, "Stirring drives half of the fizz out.".into());
        }
        let minutes = match until {
            Stirring::Calm => BUBBLES_MINUTES,
            Stirring::Mixed => stirring(Grams(0.0), t, self.vessels[vessel].level().0),
            Stirring::Clear => stirring(lay, t, self.vessels[vessel].level().0),
        };
        Spent::by_hand(minutes)
    }
}

/// The share of its gas that stirring drives out. Estimate 0.3–0.7.
const STIRRED_OUT: f64 = 0.5;
/// Until baking soda in something sour has stopped foaming, stirred now and then. Estimate 1–4 min.
const BUBBLES_MINUTES: f64 = 2.0;

/// How long one stirs, minutes. What lies at the bottom takes two minutes at room temperature, twice
/// that in the cold and half when hot, and in a glass a fifth of that; with nothing to dissolve it is 20 s
/// for a glass and a minute for a pot. Estimates.
fn stirring(lay: Grams, t: f64, level_ml: f64) -> f64 {
    // A large pot takes longer: from four litres on with the square root.
    let (load, least) =
        if level_ml < 600.0 { (0.2, 0.33) } else { ((level_ml / 4000.0).sqrt().max(1.0), 0.5) };
    if lay.0 > 1.0 {
        return (load * 2.0 * 2f64.powf((20.0 - t) / 15.0)).clamp(least, 6.0 * load.max(1.0));
    }
    if level_ml < 600.0 { 0.33 } else { load }
}

/// How long so much water takes to leave; slower towards the end, as the syrup holds what is left.
fn time_to_lose(pot: &Vessel, liquid: &Mixture, water: Grams, how: Vigour, here: f64) -> Minutes {
    const PARTS: u32 = 12;
    let steaming = Steaming::boiling(pot, here, under_the_boil(how));
    let part = water * (1.0 / f64::from(PARTS));
    let mut left = *liquid;
    let mut minutes = 0.0;
    for _ in 0..PARTS {
        let t = Celsius(boiling_point(&left).0 - under_the_boil(how));
        let rate = steaming.rate(&left, t, false);
        minutes += if rate > 0.0 { part.0 / rate } else { 0.0 };
        steam_off(&mut left, part);
    }
    Minutes(minutes.max(0.0))
}
