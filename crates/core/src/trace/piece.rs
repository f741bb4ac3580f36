//! Pieces that lie in a vessel, and what they give up.
//!
//! A piece gives up what it holds in three ways. What lies in a liquid is **drawn**: matter wanders out, and
//! water with it, until inside and outside are alike. What has broken cells **runs out**, with or without a
//! liquid around it, until the pulp holds no more: heat breaks cells, frost does, sugar does. And **sugar**
//! pulls juice out of what is whole, and takes its place: water comes out of a piece in a syrup and sugar goes in, until
//! both are as sweet. What a strainer then keeps hangs on the cells: see
//! [`Texture`](crate::cupboard::Texture).

use super::heat::{ICE_HEAT_SHARE, cell_breaking, drawing_speed, heat_capacity};
use crate::chemistry::{Component, Mixture};
use crate::cupboard::{BITTER_BLENDING, Flavour, Form, Ingredient, Press, Texture};
use crate::drink::Cut;
use crate::quantity::{Celsius, Grams, Minutes};

/// Pieces of one ingredient that lie in a liquid.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// The line: the index of its step.
    pub line: usize,
    /// The ingredient, as its position in the cupboard.
    pub ingredient: usize,
    /// What was put in.
    pub put_in: Grams,
    /// What is still in the pieces, cell walls included.
    pub inside: Mixture,
    /// The share of what can be exchanged with a liquid that has come out.
    pub drawn: f64,
    /// The share of its cells that is broken, 0 to 1.
    pub broken: f64,
    /// Water in them that is frozen.
    pub frozen: Grams,
    /// Sugar that has come in for water, as it were their own juice.
    pub(super) taken_up: Grams,
    texture: Texture,
    flavour: Flavour,
}

/// A short part of a span of time.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Moment {
    pub(super) minutes: f64,
    pub(super) t: Celsius,
    /// So many minutes as at 95 °C, for what is drawn.
    pub(super) hot: f64,
    /// The same for what breaks cells.
    pub(super) breaks: f64,
    /// The same for sugar that goes into whole cells.
    soaks: f64,
}

impl Moment {
    pub(super) fn new(minutes: f64, t: Celsius) -> Self {
        /// Whole cells hang more on the heat than what is drawn.
        const BY_HEAT: f64 = 1.7;
        let speed = drawing_speed(t);
        let (hot, breaks) = (speed * minutes, cell_breaking(t) * minutes);
        Self { minutes, t, hot, breaks, soaks: speed.powf(BY_HEAT) * minutes }
    }

    /// All of them as one, if they are equally warm.
    fn joined(moments: &[Self]) -> Option<Self> {
        let (first, others) = moments.split_first()?;
        let level = others.iter().all(|m| m.t == first.t);
        (level && first.minutes > 0.0).then(|| first.again(moments.iter().map(|m| m.minutes).sum()))
    }

    /// Another at the same temperature.
    pub(super) fn again(&self, minutes: f64) -> Self {
        let times = minutes / self.minutes;
        let &Self { t, hot, breaks, soaks, .. } = self;
        Self { minutes, t, hot: hot * times, breaks: breaks * times, soaks: soaks * times }
    }
}

/// What a time does to let sugar in, in the minutes of [`Texture`]: to broken and to whole cells.
#[derive(Debug, Clone, Copy)]
pub(super) struct Soaking {
    broken: f64,
    whole: f64,
}

impl Soaking {
    /// Broken cells let sugar in within minutes in the heat and a day in the cold. Whole ones let it in far more
    /// slowly, and hang more on the heat: peel takes two hours of simmering for four fifths, and hardly any in a night
    /// on the worktop; root in honey takes a week. Estimates, half to double. As long as sugar lies there `dry`, it
    /// only pulls at them.
    pub(super) fn of(moments: &[Moment], dry: bool) -> Self {
        const BROKEN: f64 = 2.0;
        const WHOLE: f64 = 0.17;
        let whole: f64 = moments.iter().map(|m| m.soaks).sum();
        let broken: f64 = moments.iter().map(|m| m.hot).sum();
        Self { broken: BROKEN * broken, whole: if dry { 0.0 } else { WHOLE * whole } }
    }
}

/// What pieces lie in.
#[derive(Debug, Clone, Copy)]
pub(super) struct Bath {
    /// How far they lie in a liquid that isn't their own juice, 0 to 1.
    covered: f64,
    /// How much of its full pull sugar has on them, 0 to 1.
    pull: f64,
}

impl Bath {
    pub(super) fn covers(&self) -> bool {
        self.covered >= 1.0
    }

    /// `poured` is the water that didn't come from the pieces, for each gram of them; half their weight
    /// of it covers them. `sugar` is the sugar of all that is in the vessel as a share of it and water:
    /// fruit under four tenths of its weight of sugar has the full pull, a drink has none. Estimates.
    pub(super) fn new(poured: f64, sugar: f64) -> Self {
        Self {
            covered: (poured / 0.5).clamp(0.0, 1.0),
            pull: ((sugar - 0.12) / 0.2).clamp(0.0, 1.0),
        }
    }
}

/// The share of its cells that frost breaks. Estimate: thawed strawberries and melons run out by
/// themselves, and a little less than cooked ones.
const BROKEN_BY_FROST: f64 = 0.8;
/// What pressing with a spoon or wringing breaks of the cells that are whole. Estimate.
const BROKEN_BY_PRESSING: f64 = 0.3;
/// Of what whole cells keep back, broken ones give up so much more when they lie in a liquid. Estimate.
const BROKEN_GIVE_MORE: f64 = 0.6;
/// What doesn't come out of a piece with its juice.
const STAYS: [Component; 3] =
    [Component::Insoluble, Component::BoundBitterness, Component::PulpHold];

impl Piece {
    pub(super) fn new(line: usize, ingredient: usize, it: &Ingredient, mixture: Mixture) -> Self {
        debug_assert_eq!(it.form, Form::Pieces);
        Self {
            line,
            ingredient,
            put_in: mixture.mass(),
            inside: mixture,
            drawn: 0.0,
            broken: 0.0,
            frozen: Grams(0.0),
            taken_up: Grams(0.0),
            texture: it.texture,
            flavour: it.flavour,
        }
    }

    /// Cut otherwise than is usual for it: smaller pieces draw faster, and what is grated or crushed has
    /// broken cells. Estimates, half to double.
    pub(super) fn cut(mut self, how: Cut) -> Self {
        let whole_is_usual =
            self.texture.cooked_minutes.is_none() && !self.texture.kind.is_sliced();
        let speed = |cut: Cut| match cut {
            Cut::Usual => 1.0,
            Cut::Whole if whole_is_usual => 1.0,
            Cut::Whole => 0.35,
            Cut::Sliced if whole_is_usual => 1.3,
            Cut::Sliced => 1.0,
            Cut::Chopped => 1.6,
            Cut::Bruised => 1.5,
            Cut::Grated => 3.0,
        };
        self.texture.minutes.value /= speed(how);
        if self.texture.cooked_minutes.is_some() {
            let broken = match how {
                Cut::Chopped => 0.1,
                Cut::Bruised => 0.3,
                Cut::Grated => 0.5,
                _ => 0.0,
            };
            self.broken = self.broken.max(broken);
        }
        self
    }

    pub(super) fn frozen(mut self) -> Self {
        self.freeze();
        self
    }

    /// What is frozen in it takes less heat, as ice does.
    pub(super) fn heat_capacity(&self) -> f64 {
        let frozen = Mixture::of(&[(Component::Water, self.frozen.0)]);
        heat_capacity(&self.inside) - heat_capacity(&frozen) * (1.0 - ICE_HEAT_SHARE)
    }

    /// Whether two lots are so alike that they can lie in one heap: of the same line and ingredient,
    /// and drawing as fast.
    pub(super) fn is_like(&self, other: &Self) -> bool {
        (self.line, self.ingredient) == (other.line, other.ingredient)
            && self.texture == other.texture
            && (self.broken - other.broken).abs() < 0.1
    }

    /// Lays a lot that is alike to it. What has been drawn is then that of the whole heap: of so much
    /// that was put in, so much has come out.
    pub(super) fn join(&mut self, other: &Self) {
        let all = self.put_in.0 + other.put_in.0;
        if all > 0.0 {
            let mean = |mine: f64, its: f64| (mine * self.put_in.0 + its * other.put_in.0) / all;
            self.drawn = mean(self.drawn, other.drawn);
            self.broken = mean(self.broken, other.broken);
        }
        self.put_in += other.put_in;
        self.inside += &other.inside;
        self.frozen += other.frozen;
        self.taken_up += other.taken_up;
    }

    pub(super) fn take(&mut self, share: f64) -> Self {
        let mut part = self.clone();
        part.times(share);
        self.times(1.0 - share);
        part
    }

    pub(super) fn times(&mut self, factor: f64) {
        self.put_in = self.put_in * factor;
        self.inside = self.inside.share(factor);
        self.frozen = self.frozen * factor;
        self.taken_up = self.taken_up * factor;
    }

    pub(super) fn freeze(&mut self) {
        self.frozen = Grams(self.inside[Component::Water]);
        self.broken = self.broken.max(BROKEN_BY_FROST);
    }

    /// Changes how fast and how far it draws, where its figures are uncertain.
    pub(super) fn with_luck(mut self, speed: f64) -> Self {
        self.texture.minutes.value /= speed;
        self
    }

    /// The share that comes out at all in a liquid of that temperature.
    fn reach(&self, t: Celsius, broken: f64) -> f64 {
        let (cold, hot) = (self.texture.cold.value, self.texture.hot.value);
        let reach = cold + (hot - cold) * ((t.0 - 5.0) / 95.0).clamp(0.0, 1.0);
        reach + (1.0 - reach) * broken * BROKEN_GIVE_MORE
    }

    /// What comes out in a span of time. Drawing follows 1 − exp(−∫k dt) of what can be drawn; drawn
    /// matter takes the water of the pieces along, so that in the end pieces and liquid are alike.
    /// Bitterness comes at a speed of its own, `bitter` minutes as at 95 °C. Also returns that ∫k dt, which says how
    /// early in the span it came.
    pub(super) fn pass(&mut self, moments: &[Moment], bitter: f64, bath: Bath) -> (Mixture, f64) {
        let thawed = 1.0 - self.frozen.0 / self.inside[Component::Water].max(1e-9);
        let thawed = thawed.clamp(0.0, 1.0);
        let (mut drawn, mut broken) = (self.drawn, self.broken);
        let (mut under_sugar, mut pace) = (0.0, 0.0);
        // Where neither heat nor cells change, all parts of the time are alike.
        let same_cells = self.texture.cooked_minutes.is_none() || broken > 1.0 - 1e-9;
        let joined = same_cells.then(|| Moment::joined(moments)).flatten();
        for moment in joined.as_ref().map_or(moments, std::slice::from_ref) {
            if let Some(cooked) = self.texture.cooked_minutes {
                broken = 1.0 - (1.0 - broken) * (-moment.breaks / cooked).exp();
            }
            let reach = self.reach(moment.t, broken) * bath.covered;
            if drawn < reach {
                let speed = thawed * (1.0 + broken) / self.texture.minutes.value;
                drawn = reach - (reach - drawn) * (-moment.hot * speed).exp();
                pace += moment.hot * speed;
            }
            under_sugar += moment.minutes / 60.0 * 2f64.powf((moment.t.0 - 5.0) / 16.0);
        }
        self.broken = broken;
        let mut out = self.release(drawn);
        out += self.pulled(bath, under_sugar * thawed);
        out += self.run_out(Press::Drained, thawed);
        self.free_bitterness(1.0 - (-bitter / self.flavour.bitter_minutes).exp(), &mut out);
        (out, pace)
    }

    /// How far sugar has come in for water, 0 to 1.
    pub(super) fn soaked(&self, soaking: Soaking) -> f64 {
        let far = self.broken * soaking.broken + (1.0 - self.broken) * soaking.whole;
        1.0 - (-far / self.texture.minutes.value).exp()
    }

    fn free_bitterness(&mut self, share: f64, out: &mut Mixture) {
        let freed = self.inside[Component::BoundBitterness] * share;
        self.inside[Component::BoundBitterness] -= freed;
        out[Component::Bitterness] += freed;
    }

    /// Brings the drawn share up to `to` and returns what came out.
    fn release(&mut self, to: f64) -> Mixture {
        let left_before = 1.0 - self.drawn;
        if left_before <= 0.0 || to <= self.drawn {
            return Mixture::EMPTY;
        }
        let stays = STAYS.map(|c| self.inside.take_component(c));
        let share = ((to - self.drawn) / left_before).clamp(0.0, 1.0);
        let out = self.inside.take(share);
        self.taken_up = self.taken_up * (1.0 - share);
        for (component, amount) in STAYS.into_iter().zip(stays) {
            self.inside[component] = amount;
        }
        self.drawn = to;
        out
    }

    /// Its own juice.
    fn juice(&self) -> f64 {
        self.inside.mass().0 - self.inside[Component::Insoluble]
    }

    /// What runs out of broken cells by itself, or when they are pressed: whole ones keep all that they
    /// came with, broken ones what the pulp holds.
    fn run_out(&mut self, press: Press, thawed: f64) -> Mixture {
        if self.broken <= 0.0 || thawed <= 0.0 {
            return Mixture::EMPTY;
        }
        let juice = self.juice();
        let whole = self.put_in.0 - self.inside[Component::Insoluble];
        let pulp = self.put_in.0 * self.texture.held(1.0, press);
        let keeps = whole + (pulp - whole).min(0.0) * self.broken;
        let free = (juice - keeps) * thawed;
        if free <= 0.0 || juice <= 0.0 {
            return Mixture::EMPTY;
        }
        self.release(self.drawn + (1.0 - self.drawn) * (free / juice).min(1.0))
    }

    /// What pressing in a strainer gets out of it, over what it keeps.
    pub(super) fn press(&mut self, press: Press) -> Mixture {
        let thawed = 1.0 - self.frozen.0 / self.inside[Component::Water].max(1e-9);
        if press != Press::Drained && self.texture.cooked_minutes.is_some() {
            self.broken += (1.0 - self.broken) * BROKEN_BY_PRESSING;
        }
        self.run_out(press, thawed.clamp(0.0, 1.0))
    }

    /// What sugar pulls out of it in so many hours as in the refrigerator.
    fn pulled(&mut self, bath: Bath, hours: f64) -> Mixture {
        let Some(sugar) = self.texture.under_sugar.filter(|_| bath.pull > 0.0) else {
            return Mixture::EMPTY;
        };
        let waited = 1.0 - (-hours / sugar.hours).exp();
        // Broken cells hold nothing back.
        let most = (sugar.most + (1.0 - sugar.most) * self.broken * BROKEN_GIVE_MORE) * bath.pull;
        let mut out = self.release(self.drawn + (most - self.drawn).max(0.0) * waited);
        self.free_oil(sugar.oil * bath.pull, waited, &mut out);
        out
    }

    /// Oil that leaves peel and leaf for sugar: of all that came in, at most `share`.
    fn free_oil(&mut self, share: f64, waited: f64, out: &mut Mixture) {
        let stays = self.put_in.0 * self.flavour.aroma * (1.0 - share);
        let off = (self.inside[Component::Aroma] - stays).max(0.0) * waited;
        self.inside[Component::Aroma] -= off;
        out[Component::Aroma] += off;
    }

    /// What a hand rubs out of it with sugar: minutes do what hours do otherwise. Estimate: 70 % of the
    /// oil within some minutes.
    pub(super) fn rub(&mut self, minutes: Minutes, bath: Bath) -> Mixture {
        let mut out = self.pulled(bath, minutes.0 / 60.0 * 80.0);
        self.free_oil(0.7, 1.0 - (-minutes.0 / 3.0).exp(), &mut out);
        out
    }

    /// All of it, beaten small: juice and cell walls, and bitterness as long as the blade runs. What is
    /// frozen in it is returned beside it, and is not yet juice.
    pub(super) fn crush(mut self, seconds: f64) -> (Mixture, Mixture) {
        let mut ice = Mixture::EMPTY;
        ice[Component::Water] = self.frozen.0.min(self.inside[Component::Water]);
        self.inside[Component::Water] -= ice[Component::Water];
        let mut out = Mixture::EMPTY;
        self.free_bitterness(1.0 - (-seconds / BITTER_BLENDING).exp(), &mut out);
        out += self.inside.take_all();
        (out, ice)
    }

    /// Liquid that a gram that was put in keeps when strained, g, with the range of that figure.
    pub(crate) fn held_each(&self, press: Press) -> (f64, f64, f64) {
        // Fruit that has given its juice up has collapsed, by what means ever.
        let collapsed = if self.texture.cooked_minutes.is_some() { self.drawn } else { 0.0 };
        let broken = self.broken.max(collapsed);
        let figure = if broken > 0.5 { self.texture.held_broken } else { self.texture.held_raw };
        (self.texture.held(broken, press), figure.low, figure.high)
    }

    /// Liquid that it keeps when strained, beside its own juice, g.
    pub(super) fn keeps(&self, press: Press, luck: f64) -> f64 {
        let (each, _, _) = self.held_each(press);
        (self.put_in.0 * each * luck - self.inside[Component::Water] - self.taken_up.0).max(0.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cupboard::Cupboard;

    fn piece(id: &str) -> Piece {
        let it = Cupboard::builtin().ingredient(id).unwrap();
        Piece::new(0, 0, it, it.per_gram.share(100.0))
    }

    /// So many minutes at a temperature, in twenty parts.
    fn wait(minutes: f64, t: f64) -> Vec<Moment> {
        vec![Moment::new(minutes / 20.0, Celsius(t)); 20]
    }

    const IN_WATER: Bath = Bath { covered: 1.0, pull: 0.0 };
    const ALONE: Bath = Bath { covered: 0.0, pull: 0.0 };
    const UNDER_SUGAR: Bath = Bath { covered: 0.0, pull: 1.0 };

    #[test]
    fn what_comes_out_and_what_stays_is_all_that_was_put_in() {
        for bath in [IN_WATER, ALONE, UNDER_SUGAR] {
            let mut berry = piece("raspberry");
            let mut out = berry.pass(&wait(30.0, 90.0), 5.0, bath).0;
            out += berry.press(Press::Pressed);
            let mut all = berry.inside;
            all += out;
            assert!((all.mass().0 - 100.0).abs() < 1e-9, "{bath:?}");
            let bitter = all[Component::Bitterness] + all[Component::BoundBitterness];
            let put_in = Cupboard::builtin().ingredient("raspberry").unwrap().flavour.bitterness;
            assert!((bitter - 100.0 * put_in).abs() < 1e-9);
        }
    }

    #[test]
    fn raw_fruit_keeps_its_juice_until_its_cells_are_broken() {
        let mut raw = piece("strawberry");
        assert_eq!(raw.pass(&wait(600.0, 5.0), 0.0, ALONE).0.mass().0.round(), 0.0);
        let mut cooked = piece("strawberry");
        let juice = cooked.pass(&wait(15.0, 95.0), 0.0, ALONE).0.mass().0;
        assert!(cooked.broken > 0.95 && (50.0..70.0).contains(&juice), "{juice} g");
        let pressed = cooked.press(Press::Pressed).mass().0;
        assert!(pressed > 5.0 && cooked.press(Press::Wrung).mass().0 > 3.0, "{pressed} g more");
    }

    #[test]
    fn frozen_fruit_gives_nothing_before_it_has_thawed() {
        let mut hard = piece("strawberry").frozen();
        assert_eq!(hard.pass(&wait(60.0, 0.0), 0.0, IN_WATER).0.mass().0, 0.0);
        hard.frozen = Grams(0.0);
        assert!(
            hard.pass(&wait(1.0, 5.0), 0.0, ALONE).0.mass().0 > 30.0,
            "then it runs out at once"
        );
    }

    #[test]
    fn sugar_pulls_juice_and_oil_out_of_peel_and_nothing_out_of_what_is_dry() {
        let mut peel = piece("lemon_peel");
        let out = peel.pass(&wait(720.0, 21.0), 0.0, UNDER_SUGAR).0;
        assert!((40.0..50.0).contains(&out.mass().0), "{:?}", out.mass());
        let smell = out[Component::Aroma] / (out[Component::Aroma] + peel.inside[Component::Aroma]);
        assert!((0.5..0.8).contains(&smell), "{smell}");
        let mut tea = piece("black_tea");
        assert_eq!(tea.pass(&wait(720.0, 21.0), 0.0, UNDER_SUGAR).0.mass().0, 0.0);
    }

    #[test]
    fn a_hand_does_in_minutes_what_hours_do() {
        let oil = |rubbed: f64, left: f64| {
            let mut zest = piece("lemon_zest");
            let mut out = zest.rub(Minutes(rubbed), UNDER_SUGAR);
            out += zest.pass(&wait(left, 21.0), 0.0, UNDER_SUGAR).0;
            out[Component::Aroma]
        };
        assert!(oil(5.0, 1e-6) > oil(1e-6, 120.0));
    }

    #[test]
    fn lots_that_are_alike_lie_in_one_heap_and_others_apart() {
        let (raw, mut cooked) = (piece("strawberry"), piece("strawberry"));
        cooked.pass(&wait(15.0, 95.0), 0.0, IN_WATER);
        assert!(raw.is_like(&piece("strawberry")) && !raw.is_like(&cooked));
        let mut heap = piece("strawberry");
        let half = heap.take(0.5);
        heap.join(&half);
        assert!((heap.put_in.0 - 100.0).abs() < 1e-9 && heap.drawn == 0.0);
    }

    #[test]
    fn blending_beats_bitterness_out_and_leaves_ice_as_ice() {
        let lime = piece("lime_whole");
        let bound = lime.inside[Component::BoundBitterness];
        let (juice, ice) = lime.frozen().crush(BITTER_BLENDING);
        assert!((juice[Component::Bitterness] / bound - 0.632).abs() < 0.001);
        assert!(ice[Component::Water] > 80.0 && juice[Component::Water] < 1e-9);
    }
}
