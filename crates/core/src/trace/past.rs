//! What has happened to contents that their composition doesn't show, and how long they last after it.
//!
//! A jug of juice and a jug of juice that was boiled are made of the same; one keeps three days and the other a
//! week. So contents carry what was done to them, and it mixes, pours and is bottled along with them:
//!
//! - **raw**: how much fruit, juice, leaf or root is in it that was never heated enough. A part that is raw
//!   makes the whole raw.
//! - **lethality**: how long the raw part was hot, as minutes at 70 °C (z = 7.5 K). Two of them are what
//!   food-safety authorities ask for: 70 °C for 2 min, 65 °C for 10, 75 °C for 30 s, 80 °C for 6 s.
//! - **age**: days used up, as days at 4 °C. Growth goes with the square of the distance from −3 °C
//!   (Ratkowsky's law), so that a day at 21 °C uses up 12. None is used up frozen or over 63 °C.
//! - **left**: days that a kept bottle in it still had. Whenever something comes in, what was there is held against
//!   what it becomes: it has used up the same share of its days as before, and where it now keeps shorter it has no
//!   more days than it had. What was past keeping stays so. So nothing is made younger by pouring it on, thinning
//!   it or boiling it down.
//!
//! How many days there are to use up, the **budget**, is read off the composition and this past: milk, pH, water
//! activity (by the sugar), alcohol, vinegar, pulp. Between two marks it is interpolated, so that no figure that a
//! refractometer is unsure of decides between two weeks and two months. The marks are the careful end of what
//! food-safety authorities advise for home-made drinks and syrups (`docs/model.md`).

use crate::chemistry::{Component, Mixture, along};
use crate::cupboard::{Ingredient, Kind};
use crate::quantity::{Celsius, Grams, Minutes};

/// What has happened to contents.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Past {
    /// What came in raw and was never heated enough.
    pub raw: Grams,
    /// The part of that which is juice or fresh fruit, which the frail shouldn't drink.
    pub juice: Grams,
    /// What came in raw and has been heated enough.
    pub treated: Grams,
    /// How long the raw part has been hot, as minutes at 70 °C.
    pub lethality: Minutes,
    /// Whether it contains a plant milk: of grains, nuts or coconut.
    pub plant_milk: bool,
    /// Days that it has used up, at 4 °C.
    pub age: f64,
    /// Days of that kind that it may still go through before any count: what was just heated has first to be
    /// reached by something that grows.
    pub lag: f64,
    /// Days at 4 °C that its oldest part still has at most.
    pub left: f64,
    /// Time that it has spent where things grow, as minutes at room temperature.
    pub warm: Minutes,
    /// Whether its ice was beaten small, so that it is drunk with the rest.
    pub slush: bool,
    /// Whether it has boiled dry: what is left in the pot is nothing to drink.
    pub dried: bool,
}

impl Default for Past {
    fn default() -> Self {
        Self {
            raw: Grams(0.0),
            juice: Grams(0.0),
            treated: Grams(0.0),
            lethality: Minutes(0.0),
            plant_milk: false,
            age: 0.0,
            lag: 0.0,
            left: f64::INFINITY,
            warm: Minutes(0.0),
            slush: false,
            dried: false,
        }
    }
}

/// Minutes at 70 °C that make raw things safe (advice of food-safety authorities).
pub(crate) const HEATED: Minutes = Minutes(2.0);
/// Heating by so many kelvin kills ten times as fast (the usual figure for what matters here).
const TENFOLD: f64 = 7.5;
/// What a kitchen doesn't know of its temperatures, K.
const UNKNOWN: f64 = 3.0;
/// Days at 4 °C that cooling may take without counting: from 60 °C to 21 °C within two hours, as food-safety
/// authorities allow for what has just been cooked.
const LAG: f64 = 2.0;
/// Less than that in grams is nothing.
const NOTHING: f64 = 0.05;
/// An age in days from which on it is settled before something comes in.
const WORTH_SETTLING: f64 = 0.25;

/// Days at 4 °C that a day at a temperature uses up.
fn ageing(t: Celsius) -> f64 {
    match t.0 {
        t if t <= -3.0 => 0.0,
        t if t <= 37.0 => ((t + 3.0) / 7.0).powi(2),
        // From there on more slowly, which isn't counted on until it is hot to the touch.
        t => (40.0_f64 / 7.0).powi(2) * ((63.0 - t) / 8.0).clamp(0.0, 1.0),
    }
}

impl Past {
    /// Whether something raw is in it.
    #[must_use]
    pub fn is_raw(&self) -> bool {
        self.raw.0 > NOTHING
    }

    /// Whether what came in raw was heated enough. What never was raw isn't "heated".
    #[must_use]
    pub fn is_heated(&self) -> bool {
        !self.is_raw() && self.treated.0 > NOTHING
    }

    /// So many grams of an ingredient come in.
    pub(super) fn meets(&mut self, it: &Ingredient, grams: f64) {
        if let Some(kept) = &it.kept {
            self.join(&kept.past(grams));
            return;
        }
        // Milk is bought pasteurised; it has a rule of its own.
        if it.kind.is_raw() && it.kind != Kind::Dairy {
            self.raw += Grams(grams);
            (self.lethality, self.lag) = (Minutes(0.0), 0.0);
            if it.kind.is_juicy() {
                self.juice += Grams(grams);
            }
        }
        self.plant_milk |= it.is_plant_milk();
    }

    /// Whether nothing has come in yet that could spoil.
    fn is_new(&self) -> bool {
        self.raw.0 <= 0.0 && self.treated.0 <= 0.0 && !self.plant_milk && self.age <= 0.0
    }

    /// Something else is poured in. What lies where it is poured has been settled before.
    pub(super) fn join(&mut self, other: &Self) {
        self.lag = if self.is_new() { other.lag } else { self.lag.min(other.lag) };
        self.lethality = match (self.raw.0 > 0.0, other.raw.0 > 0.0) {
            (true, true) => self.lethality.min(other.lethality),
            (false, true) => other.lethality,
            _ => self.lethality,
        };
        self.raw += other.raw;
        self.juice += other.juice;
        self.treated += other.treated;
        self.plant_milk |= other.plant_milk;
        self.age = self.age.max(other.age);
        self.left = self.left.min(other.left);
        self.warm = self.warm.max(other.warm);
        self.dried |= other.dried;
        self.slush |= other.slush;
    }

    /// The same of so many times as much.
    pub(super) fn times(self, factor: f64) -> Self {
        Self {
            raw: self.raw * factor,
            juice: self.juice * factor,
            treated: self.treated * factor,
            ..self
        }
    }

    /// What goes along with a share of it; the rest stays.
    pub(super) fn part(&mut self, share: f64) -> Self {
        let gone = self.times(share);
        *self = self.times(1.0 - share);
        gone
    }

    /// A moment at a temperature goes by; `slowed` is how much of the law of growth holds in it.
    pub(super) fn moment(&mut self, minutes: f64, t: Celsius, slowed: f64) {
        let mut minutes = minutes;
        if self.raw.0 > 0.0 && t.0 > 50.0 {
            let coldest = t.0 - UNKNOWN;
            let rate = 10f64.powf((coldest - 70.0) / TENFOLD);
            let until = (HEATED - self.lethality).0 / rate;
            if until <= minutes {
                self.grows(until, t, slowed);
                minutes -= until;
                self.lethality = HEATED;
                self.treated += self.raw;
                (self.raw, self.juice) = (Grams(0.0), Grams(0.0));
                self.lag = LAG;
            } else {
                self.lethality += Minutes(minutes * rate);
            }
        }
        self.grows(minutes, t, slowed);
    }

    /// What grows in it rounds on growing.
    fn grows(&mut self, minutes: f64, t: Celsius, slowed: f64) {
        let rate = ageing(t);
        if rate <= 0.0 {
            return;
        }
        let days = minutes / 1440.0 * if slowed < 1.0 { rate.powf(slowed) } else { rate };
        let counts = (days - self.lag).max(0.0);
        self.lag = (self.lag - days).max(0.0);
        self.age += counts;
        self.left -= counts;
    }

    /// What is left of it while it still is what it is: to be held against what it becomes. Nothing where hardly
    /// any time has passed. What is past keeping stays so, whatever becomes of it.
    pub(super) fn remains(&mut self, budget: impl FnOnce() -> f64) -> Option<Remains> {
        if self.age <= WORTH_SETTLING {
            return None;
        }
        let budget = budget();
        let left = budget - self.age;
        if left <= 0.0 {
            self.left = self.left.min(left);
        }
        Some(Remains { left, budget })
    }

    /// It has become something else, which would keep for `budget` days if it were new.
    pub(super) fn became(&mut self, before: impl IntoIterator<Item = Remains>, budget: f64) {
        let left = before.into_iter().map(|it| it.of(budget)).fold(f64::INFINITY, f64::min);
        if left < f64::INFINITY {
            self.age = (budget - left).max(0.0);
        }
    }
}

/// What was left of something before it became something else.
#[derive(Debug, Clone, Copy)]
pub(super) struct Remains {
    /// Days that it still had.
    left: f64,
    /// Days that it would have had when it was new.
    budget: f64,
}

impl Remains {
    /// What is left of what it has become. What keeps longer has used up the same share; what keeps shorter keeps no
    /// longer than it had left.
    fn of(self, budget: f64) -> f64 {
        if budget >= self.budget {
            budget * self.left / self.budget.max(1e-9)
        } else {
            self.left.min(budget)
        }
    }
}

/// How much of the law of growth holds in so much sugar and alcohol: next to nothing grows over 67 °Bx or
/// 20 % vol, where only what happens anyway goes on (crystals, browning).
pub(super) fn slowed_by(solids: f64, alcohol: f64) -> f64 {
    let sugar = along(&[(55.0, 1.0), (67.0, STEADY)], solids);
    sugar.min(along(&[(10.0, 1.0), (20.0, STEADY)], alcohol))
}

/// What is left of the law of growth there: a day at 21 °C then uses up one and a half.
const STEADY: f64 = 0.164;

/// The most that anything of ours is said to keep.
const MOST_DAYS: f64 = 120.0;
/// Milk and plant milk, and raw things with little acid: four hours in the warm, also where they come cold out of the
/// refrigerator and take one of them to get warm.
const MILK_DAYS: f64 = 1.75;

/// What keeping is judged by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Judged {
    /// What is counted on: half a unit higher where the acid is an estimate.
    pub(crate) ph: f64,
    pub(crate) brix: f64,
    pub(crate) alcohol: f64,
    /// In 100 g.
    pub(crate) pulp: f64,
    pub(crate) acetic: f64,
    pub(crate) lactose: f64,
    pub(crate) protein: f64,
    pub(crate) acid_is_known: bool,
    pub(crate) past: Past,
}

impl Judged {
    pub(crate) fn of(liquid: &Mixture, past: &Past, acid_is_known: bool) -> Self {
        let mass = liquid.mass().0.max(1e-9);
        let percent = |c: Component| 100.0 * liquid[c] / mass;
        Self {
            ph: liquid.ph().map_or(7.0, |ph| if acid_is_known { ph } else { ph + 0.5 }),
            brix: liquid.soluble_solids(),
            alcohol: liquid.alcohol_percent(),
            pulp: percent(Component::Insoluble),
            acetic: percent(Component::Acetic),
            lactose: percent(Component::Lactose),
            protein: percent(Component::Protein),
            acid_is_known,
            past: *past,
        }
    }

    /// Days by the acid alone, of something thin.
    fn by_acid(&self) -> f64 {
        let marks = if self.past.is_raw() {
            // Fresh juice two to three days; with little acid a day and a half.
            [(3.5, 3.0), (4.2, 2.2), (4.6, 1.75)]
        } else if self.past.is_heated() || self.past.plant_milk {
            // Cooked food three to four days; a week where nothing that makes ill grows.
            [(3.5, 7.0), (4.2, 4.0), (4.6, 3.0)]
        } else {
            // Sugar and acid in water, with nothing in it that spoils first.
            [(3.5, 6.0), (4.2, 5.0), (4.6, 5.0)]
        };
        along(&marks, self.ph)
    }

    /// The most that milk and what is like it allow.
    fn by_milk(&self) -> f64 {
        let milk = along(&[(0.02, MOST_DAYS), (0.1, MILK_DAYS)], self.lactose);
        let plant = along(&[(0.05, MOST_DAYS), (0.2, MILK_DAYS)], self.protein);
        if self.past.plant_milk { milk.min(plant) } else { milk }
    }

    /// Days at 4 °C from when it was made, on the careful side.
    pub(crate) fn budget(&self) -> f64 {
        // A syrup of 50 °Bx keeps three times as long as what is thin, one of 60 four times, a rich one two months.
        let sugar =
            along(&[(15.0, 1.0), (30.0, 1.4), (50.0, 3.0), (60.0, 4.0), (67.0, 8.5)], self.brix);
        let vinegar = along(&[(0.5, 1.0), (1.5, 2.0), (3.0, 4.0)], self.acetic);
        let alcohol = along(&[(8.0, 1.0), (12.0, 2.0), (15.0, 5.0), (20.0, 40.0)], self.alcohol);
        let pulp = along(&[(0.25, 1.0), (1.0, 0.75)], self.pulp);
        let days = self.by_acid() * sugar * vinegar * alcohol * pulp;
        // Sugar holds back, it doesn't kill: raw root or leaf without acid may bring what no syrup stops.
        let raw_without_acid = along(&[(3.8, MOST_DAYS), (4.2, 14.0), (4.6, 5.0)], self.ph);
        let most =
            if self.past.is_raw() && self.alcohol < 15.0 { raw_without_acid } else { MOST_DAYS };
        // Milk, and raw things with little acid: gone after four hours in the warm.
        let warm = if self.past.is_raw() {
            along(&[(4.2, MOST_DAYS), (4.3, MILK_DAYS)], self.ph)
                .max(along(&[(15.0, MILK_DAYS), (30.0, MOST_DAYS)], self.brix))
        } else {
            MOST_DAYS
        };
        days.min(most).min(warm).min(self.by_milk())
    }

    /// Days at 4 °C that are left of it; none or fewer and it is to be discarded.
    pub(crate) fn left(&self) -> f64 {
        (self.budget() - self.past.age).min(self.past.left)
    }

    /// Days at 4 °C that a day at room temperature uses up.
    pub(crate) fn days_in_a_warm_day(&self) -> f64 {
        ageing(super::heat::ROOM).powf(slowed_by(self.brix, self.alcohol))
    }
}

impl Kind {
    /// Whether it is juice or fruit that is drunk as it grew.
    fn is_juicy(self) -> bool {
        matches!(self, Self::Juice | Self::Fruit | Self::Vegetable)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn raw() -> Past {
        Past { raw: Grams(100.0), juice: Grams(100.0), ..Past::default() }
    }

    fn held(minutes: f64, at: f64) -> Past {
        let mut past = raw();
        // What a kitchen doesn't know is taken off, so it has to be three degrees hotter.
        past.moment(minutes, Celsius(at + UNKNOWN), 1.0);
        past
    }

    #[test]
    fn heated_is_what_authorities_call_heated() {
        for (minutes, at) in [(2.0, 70.0), (10.0, 65.0), (0.5, 75.0), (0.1, 80.0)] {
            assert!(held(minutes * 1.01, at).is_heated(), "{minutes} min at {at}");
            assert!(held(minutes * 0.8, at).is_raw(), "less than {minutes} min at {at}");
        }
        let mut for_a_moment = raw();
        for_a_moment.moment(1.5, Celsius(73.0), 1.0);
        assert!(for_a_moment.is_raw());
        assert!(!Past::default().is_heated(), "what never was raw isn't heated");
    }

    #[test]
    fn a_warm_day_uses_up_twelve_and_a_frozen_or_a_hot_one_none() {
        for (t, days) in
            [(4.0, 1.0), (21.0, 11.76), (-3.0, 0.0), (-18.0, 0.0), (63.0, 0.0), (95.0, 0.0)]
        {
            assert!((ageing(Celsius(t)) - days).abs() < 0.01, "{t} °C: {}", ageing(Celsius(t)));
        }
        assert!(ageing(Celsius(0.0)) < 0.2);
    }

    fn judged() -> impl Strategy<Value = Judged> {
        let past =
            (any::<bool>(), any::<bool>(), any::<bool>()).prop_map(|(raw, treated, plant_milk)| {
                Past {
                    raw: Grams(if raw { 100.0 } else { 0.0 }),
                    treated: Grams(if treated { 100.0 } else { 0.0 }),
                    plant_milk,
                    ..Past::default()
                }
            });
        let figures = (2.0..7.0_f64, 0.0..75.0_f64, 0.0..30.0_f64, 0.0..3.0_f64);
        (past, figures, 0.0..4.0_f64, 0.0..5.0_f64, 0.0..3.0_f64).prop_map(
            |(past, (ph, brix, alcohol, pulp), acetic, lactose, protein)| Judged {
                ph,
                brix,
                alcohol,
                pulp,
                acetic,
                lactose,
                protein,
                acid_is_known: true,
                past,
            },
        )
    }

    proptest! {
        #[test]
        fn what_an_instrument_is_unsure_of_changes_the_days_by_a_tenth_at_most(judged in judged()) {
            let days = judged.budget();
            let brix = Judged { brix: judged.brix + 0.2, ..judged }.budget();
            prop_assert!((brix / days - 1.0).abs() < 0.1, "{days} and {brix}");
            prop_assert!(days > 0.5 && days <= MOST_DAYS);
        }

        #[test]
        fn nothing_that_helps_what_grows_makes_it_keep_longer(judged in judged()) {
            let days = judged.budget();
            for worse in [
                Judged { ph: judged.ph + 0.3, ..judged },
                Judged { pulp: judged.pulp + 0.3, ..judged },
                Judged { lactose: judged.lactose + 0.3, ..judged },
                Judged { brix: judged.brix * 0.8, ..judged },
                Judged { past: Past { raw: judged.past.raw + Grams(1.0), ..judged.past }, ..judged },
                Judged { past: Past { plant_milk: true, ..judged.past }, ..judged },
            ] {
                prop_assert!(worse.budget() <= days + 1e-9, "{worse:?}: {} over {days}", worse.budget());
            }
        }

        #[test]
        fn a_wait_in_parts_is_the_same_wait(t in -20.0..100.0_f64, minutes in 1.0..5000.0_f64, parts in 2..9) {
            let (mut whole, mut cut) = (raw(), raw());
            whole.moment(minutes, Celsius(t), 1.0);
            for _ in 0..parts {
                cut.moment(minutes / f64::from(parts), Celsius(t), 1.0);
            }
            prop_assert!((whole.age - cut.age).abs() < 1e-9);
            prop_assert_eq!(whole.is_raw(), cut.is_raw());
        }
    }
}
