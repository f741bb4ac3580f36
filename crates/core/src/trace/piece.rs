use super::heat::heat_capacity;
use crate::chemistry::{Component, Mixture};
use crate::cupboard::{Extraction, Flavour, Hold, Ingredient, Kind};
use crate::drink::Press;
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
    /// The share of what can be exchanged with a liquid that has been drawn.
    pub drawn: f64,
    /// Water in them that is frozen.
    pub frozen: Grams,
    /// Whether they have been frozen: ice breaks cells, and they weep more.
    pub was_frozen: bool,
    kind: Kind,
    extraction: Extraction,
    hold: Hold,
    flavour: Flavour,
}

/// How much further pieces that were frozen give up what they hold, as a share of what was left.
/// Estimate 0.3–0.6: thawed strawberries and melons run out by themselves.
const BROKEN_CELLS: f64 = 0.45;
/// And how much faster. Estimate.
const BROKEN_FASTER: f64 = 2.0;

impl Piece {
    pub(super) fn new(line: usize, ingredient: usize, it: &Ingredient, mixture: Mixture) -> Self {
        Self {
            line,
            ingredient,
            put_in: mixture.mass(),
            inside: mixture,
            drawn: 0.0,
            frozen: Grams(0.0),
            was_frozen: it.id.ends_with("_frozen"),
            kind: it.kind,
            extraction: it.extraction,
            hold: it.hold,
            flavour: it.flavour,
        }
    }

    pub(super) fn heat_capacity(&self) -> f64 {
        heat_capacity(&self.inside)
    }

    /// Whether two lots are so alike that they can lie in one heap: of the same line and ingredient,
    /// and drawing as fast.
    pub(super) fn is_like(&self, other: &Self) -> bool {
        (self.line, self.ingredient, self.was_frozen)
            == (other.line, other.ingredient, other.was_frozen)
            && self.extraction == other.extraction
    }

    /// Lays a lot that is alike to it. What has been drawn is then that of the whole heap: of so much
    /// that was put in, so much has come out.
    pub(super) fn join(&mut self, other: &Self) {
        let all = self.put_in.0 + other.put_in.0;
        if all > 0.0 {
            self.drawn = (self.drawn * self.put_in.0 + other.drawn * other.put_in.0) / all;
        }
        self.put_in += other.put_in;
        self.inside += &other.inside;
        self.frozen += other.frozen;
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
    }

    pub(super) fn freeze(&mut self) {
        self.frozen = Grams(self.inside[Component::Water]);
        self.was_frozen = true;
    }

    /// Changes how fast and how far it draws, where its figures are uncertain.
    pub(super) fn with_luck(mut self, speed: f64) -> Self {
        self.extraction.tau_hot.value /= speed;
        self
    }

    /// The share that comes out at all at that temperature.
    fn reach(&self, t: Celsius) -> f64 {
        let (cold, hot) = (self.extraction.cold.value, self.extraction.hot.value);
        let reach = cold + (hot - cold) * ((t.0 - 5.0) / 95.0).clamp(0.0, 1.0);
        if self.was_frozen { reach + (1.0 - reach) * BROKEN_CELLS } else { reach }
    }

    /// What comes out in a span of time, given as parts: so many minutes as at 95 °C, and how warm it
    /// really was. It follows 1 − exp(−∫k dt) of what can be drawn; drawn matter takes the water of the
    /// pieces along, so that in the end pieces and liquid are alike. Bitterness comes at a speed of its
    /// own.
    pub(super) fn draw(&mut self, parts: &[(f64, Celsius)]) -> Mixture {
        let thawed = 1.0 - self.frozen.0 / self.inside[Component::Water].max(1e-9);
        let faster = if self.was_frozen { BROKEN_FASTER } else { 1.0 };
        let speed = thawed.clamp(0.0, 1.0) * faster / self.extraction.tau_hot.value;
        let mut drawn = self.drawn;
        for (hot_minutes, t) in parts {
            let reach = self.reach(*t);
            if drawn < reach {
                drawn = reach - (reach - drawn) * (-hot_minutes * speed).exp();
            }
        }
        let mut out = self.release(drawn);
        let hot: f64 = parts.iter().map(|(hot, _)| hot).sum();
        self.free_bitterness(1.0 - (-hot / self.flavour.bitter_minutes).exp(), &mut out);
        out
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
        let insoluble = self.inside.take_component(Component::Insoluble);
        let bound = self.inside.take_component(Component::BoundBitterness);
        let out = self.inside.take(((to - self.drawn) / left_before).clamp(0.0, 1.0));
        self.inside[Component::Insoluble] = insoluble;
        self.inside[Component::BoundBitterness] = bound;
        self.drawn = to;
        out
    }

    /// What sugar draws out of it. Sliced fruit under half its weight of sugar gives 0.35 g a gram in
    /// 4 hours and 0.5 in 24 in the refrigerator (0.25–0.6); peel 0.25 g, and 40 % of its oil in 4
    /// hours (20–60), 70 % of that when muddled for three quarters of an hour or rubbed for some
    /// minutes. At room temperature twice as fast. All estimates.
    pub(super) fn weep(
        &mut self,
        minutes: Minutes,
        rubbed: bool,
        pull: f64,
        t: Celsius,
    ) -> Mixture {
        let (most, hours, oil) = match self.kind {
            Kind::Fruit | Kind::Vegetable => (0.58, 4.3, 0.5),
            Kind::Zest | Kind::Peel => (0.3, 3.0, 0.55),
            Kind::Herb | Kind::Flower => (0.25, 4.0, 0.5),
            _ => (0.1, 8.0, 0.2),
        };
        if self.inside[Component::Water] < 0.2 * self.put_in.0 && self.drawn < 0.05 {
            // Dry things have nothing that sugar could draw.
            return Mixture::EMPTY;
        }
        let speed = 2f64.powf((t.0 - 5.0) / 16.0) * if rubbed { 40.0 } else { 1.0 };
        let waited = 1.0 - (-minutes.0 / 60.0 * speed / hours).exp();
        let most = if self.was_frozen { most + (1.0 - most) * BROKEN_CELLS } else { most };
        let mut out = self.release(most * pull * waited);
        let smell = self.inside[Component::Aroma]
            * if rubbed { 0.7 * (1.0 - (-minutes.0 / 3.0).exp()) } else { oil * waited };
        self.inside[Component::Aroma] -= smell;
        out[Component::Aroma] += smell;
        out
    }

    /// All of it, beaten small: juice and cell walls, and bitterness as long as the blade runs.
    pub(super) fn crush(mut self, seconds: f64) -> Mixture {
        let mut out = self.release(1.0);
        self.free_bitterness(1.0 - (-seconds / self.flavour.bitter_blending).exp(), &mut out);
        out += self.inside.take_all();
        out
    }

    /// Liquid that it keeps when strained, beside its own juice, g.
    pub(super) fn keeps(&self, press: Press, luck: f64) -> f64 {
        let each = self.hold.when(press, self.drawn, self.kind);
        (self.put_in.0 * each * luck - self.inside[Component::Water]).max(0.0)
    }
}
