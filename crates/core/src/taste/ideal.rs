//! Where each taster's ideal lies, from what they said of a few glasses.
//!
//! A glass stands at `x`, the logarithm of what moves in the row: of the sugar–acid ratio, of the
//! strength. What is said of it in a word ("a touch sharp") follows a cumulative probit in
//! `g·(x + c·(x − before) − ideal)`, with cuts at ±0.5 and ±1.5: after a sweeter glass this one tastes less sweet.
//! How well it is liked, 1 to 9, falls from its top with the square of that distance. Word and mark are of one sip
//! and share what was tasted, so together they count for less than two. And now and then somebody says anything:
//! with a chance `λ` the answer has nothing to do with the glass. Tasters of one table are like one another: each
//! ideal lies round the group's with a standard deviation of 0.25, and the group's round the usual one with 0.5. So
//! a taster who had two glasses leans on the others, and one who had twenty stands alone.
//!
//! All tasters are fitted together by Newton's method. Each has six unknowns of their own (the ideal, how finely
//! they tell, the top of their liking, how it falls, how much their marks waver, what the glass before does) and
//! shares the group's ideal with all, so the system is an arrowhead and forty tasters cost forty times one. The
//! curvature at the top (Laplace) tells what the others say of the group. It would tell too narrow a range for one
//! taster, since a few answers fit many finenesses: so for each place where the ideal may lie the other five are
//! fitted anew and integrated out (nested Laplace), and mean and standard deviation are read off those places. That
//! is done for somebody attentive, for somebody distracted and for somebody who guesses, each by how likely their
//! answers make it.

use nalgebra::{Matrix5, Matrix6, Vector6};
use serde::{Deserialize, Serialize};

use crate::normal::{below, density};

/// A taster's word for a glass. Low means too little of the varied quality, high too much.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Felt {
    /// Far too little: too sharp, too thin.
    FarLow,
    /// A touch too little.
    Low,
    /// Just right.
    Right,
    /// A touch too much.
    High,
    /// Far too much: too sweet, too strong.
    FarHigh,
}

impl Felt {
    /// All of them, from low to high.
    pub const ALL: [Self; 5] = [Self::FarLow, Self::Low, Self::Right, Self::High, Self::FarHigh];
}

/// What somebody said of one glass.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Sip {
    /// Where the glass stands: the logarithm of what moves.
    pub x: f64,
    /// What was said of it in a word.
    pub felt: Option<Felt>,
    /// How well it was liked, 1 to 9.
    pub liked: Option<u8>,
}

/// Where the group's ideal is thought to lie before anybody tastes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Prior {
    /// The middle, as `x`.
    pub mean: f64,
    /// Its standard deviation.
    pub sd: f64,
}

impl Prior {
    /// Round the usual value of what moves, as wide as tastes are apart.
    #[must_use]
    pub fn round(usual: f64) -> Self {
        Self { mean: usual.ln(), sd: GROUP_SD }
    }
}

/// A taster's ideal.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Ideal {
    /// The most likely value, as the logarithm of the varied quality.
    pub x: f64,
    /// Its standard deviation.
    pub sd: f64,
}

/// Eight in ten lie within so many standard deviations.
const EIGHT_IN_TEN: f64 = 1.2816;
/// Less sure than this, nothing can be told: the top of the range is more than twice its bottom.
const TELLS: f64 = 0.28;
/// Surer than this it is settled: the range is hardly wider than two just-noticeable differences.
const SETTLED: f64 = 0.125;

impl Ideal {
    /// Between what it lies eight times in ten, in what moves itself.
    #[must_use]
    pub fn range(&self) -> (f64, f64) {
        let by = EIGHT_IN_TEN * self.sd;
        ((self.x - by).exp(), (self.x + by).exp())
    }

    /// How sure it is.
    #[must_use]
    pub fn sureness(&self) -> Sureness {
        match self.sd {
            sd if sd > TELLS => Sureness::CantTell,
            sd if sd > SETTLED => Sureness::Likely,
            _ => Sureness::Settled,
        }
    }
}

/// The certainty of an ideal.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Sureness {
    /// It can't be told yet.
    CantTell,
    /// It is likely where it seems.
    Likely,
    /// More glasses would not tell more than a tongue can.
    Settled,
}

/// What all of them together say.
#[derive(Debug, Clone, PartialEq)]
pub struct Fit {
    /// The group's middle.
    pub group: Ideal,
    /// Each taster's ideal, in the order in which they came.
    pub ideals: Vec<Ideal>,
    /// How finely each tastes: probits for a whole unit of `x`.
    pub fineness: Vec<f64>,
}

/// The group's ideal lies round the usual one so closely.
const GROUP_SD: f64 = 0.5;
/// A taster's round the group's.
const TASTER_SD: f64 = 0.25;
/// Fineness, as ln: from a touch too sweet to far too sweet is about a third more sugar; one tongue in six takes more
/// than twice that. So wide that eight in ten are eight in ten for coarse tongues too; estimated.
pub(super) const FINENESS: Normal = Normal { mean: 1.32, sd: 0.8 };
/// What the glass before does: a share of how far it was away. Estimated.
pub(super) const CARRY: Normal = Normal { mean: 0.0, sd: 0.1 };
/// Of so many answers one has nothing to do with the glass, and how many tasters are like that: attentive,
/// distracted, guessing. Estimated.
const LAPSES: [(f64, f64); 3] = [(0.02, 0.72), (0.2, 0.17), (0.5, 0.11)];
/// So many while all are fitted together.
const LAPSE: f64 = 0.03;
/// Whose answers are thought to be by chance more often than this is never settled: as often as anybody's are before they
/// answer.
const ERRATIC: f64 = 0.06;
/// So much a word and a mark count that are of one sip: where the word says that it tasted too sweet, the mark says
/// so once more. By simulation of tongues that taste once and answer twice.
const SHARED: (f64, f64) = (0.9, 0.6);
/// The best glass that one can think of gets a 7.5, give or take. Estimated: few give a nine, and who
/// marks sparingly does so throughout.
pub(super) const TOP: Normal = Normal { mean: 7.5, sd: 1.5 };
/// Liking falls by about three for a glass half as sweet again, ln of the fall for a whole unit squared:
/// estimated from tables that ran ladders of sugar in lemonade.
pub(super) const FALL: Normal = Normal { mean: 2.7, sd: 0.5 };
/// A mark from 1 to 9 is given again to about one, as ln. Estimated.
pub(super) const WAVER: Normal = Normal { mean: 0.0, sd: 0.4 };
/// The cuts between words, in probits.
pub(super) const CUTS: [f64; 4] = [-1.5, -0.5, 0.5, 1.5];
const ROUNDS: usize = 60;

/// What is thought of a taster before they taste.
const START: Own = Own::new(0.0, FINENESS.mean, TOP.mean, WAVER.mean, FALL.mean, CARRY.mean);

pub(super) struct Normal {
    pub(super) mean: f64,
    pub(super) sd: f64,
}

impl Normal {
    /// The negative logarithm of its density but for a constant, its slope and its curvature.
    fn cost(&self, at: f64) -> (f64, f64, f64) {
        let z = (at - self.mean) / self.sd;
        (z * z / 2.0, z / self.sd, 1.0 / (self.sd * self.sd))
    }
}

/// A taster's unknowns: ideal, ln fineness, top, ln waver, ln fall, what the glass before does.
type Own = Vector6<f64>;

/// A glass as it was met: where it stands, and how far from the glass before.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Met {
    x: f64,
    from_before: f64,
}

/// What one taster said, with how much it counts: of the same glass the same is often said again.
struct Heard {
    words: Vec<(Met, Felt, f64)>,
    marks: Vec<(Met, u8, f64)>,
}

impl Heard {
    fn of(sips: &[Sip]) -> Self {
        let mut it = Self { words: Vec::new(), marks: Vec::new() };
        let mut before = None;
        for sip in sips {
            let met = Met { x: sip.x, from_before: sip.x - before.unwrap_or(sip.x) };
            before = Some(sip.x);
            let both = sip.felt.is_some() && sip.liked.is_some();
            let (word, mark) = if both { SHARED } else { (1.0, 1.0) };
            if let Some(felt) = sip.felt {
                count(&mut it.words, met, felt, word);
            }
            if let Some(liked) = sip.liked {
                count(&mut it.marks, met, liked, mark);
            }
        }
        it
    }
}

fn count<T: PartialEq>(all: &mut Vec<(Met, T, f64)>, met: Met, said: T, counts: f64) {
    match all.iter_mut().find(|(at, what, _)| *at == met && *what == said) {
        Some((.., often)) => *often += counts,
        None => all.push((met, said, counts)),
    }
}

/// A taster's part of the cost, with slopes and curvatures.
struct Part {
    cost: f64,
    slope: Own,
    curve: Matrix6<f64>,
}

/// The logarithm of the share of a normal scatter below `v`, its slope and how that bends. Far out, where
/// the share itself is lost in rounding, by its asymptote.
fn log_below(v: f64) -> (f64, f64, f64) {
    let (log, steep) = if v < -8.0 {
        (-v * v / 2.0 - (-v).ln() - 0.918_938_533, -v - 1.0 / v)
    } else {
        (below(v).ln(), density(v) / below(v))
    };
    (log, steep, -steep * (v + steep))
}

/// The logarithm of the chance of a word for a glass that lies `z` probits from the ideal, its slope and
/// how that bends.
fn word(felt: Felt, z: f64) -> (f64, f64, f64) {
    let k = felt as usize;
    let low = k.checked_sub(1).map(|i| CUTS[i] - z);
    let high = CUTS.get(k).map(|cut| cut - z);
    match (low, high) {
        // Far beyond a word only the nearer of its cuts counts.
        (None, Some(high)) => below_cut(high),
        (Some(_), Some(high)) if high < -8.0 => below_cut(high),
        (Some(low), None) => log_below(-low),
        (Some(low), Some(_)) if low > 8.0 => log_below(-low),
        (low, high) => {
            let (low, high) = (low.unwrap_or(-40.0), high.unwrap_or(40.0));
            // In whichever tail is shorter, so that nothing is lost of what is far out.
            let chance =
                if low > 0.0 { below(-low) - below(-high) } else { below(high) - below(low) };
            let first = (density(low) - density(high)) / chance;
            let second = (low * density(low) - high * density(high)) / chance - first * first;
            (chance.ln(), first, second)
        }
    }
}

/// The same for a word that has only an upper cut, which comes nearer as `z` grows.
fn below_cut(high: f64) -> (f64, f64, f64) {
    let (log, steep, bend) = log_below(high);
    (log, -steep, bend)
}

/// What a mark of liking costs, with slopes and curvatures in what is to be expected and in ln waver.
struct Mark {
    cost: f64,
    slope: f64,
    by_waver: f64,
    curve: f64,
    cross: f64,
    waver_curve: f64,
}

/// A mark of liking where `expected` is. One and nine are the ends of what can be given: who gives them
/// may like it still less or still better.
fn mark(liked: u8, expected: f64, waver: f64) -> Mark {
    let fine = (-waver).exp();
    let end = match liked {
        ..=1 => Some((1.5, 1.0)),
        9.. => Some((8.5, -1.0)),
        _ => None,
    };
    let Some((end, side)) = end else {
        let rest = (f64::from(liked) - expected) * fine;
        return Mark {
            cost: rest * rest / 2.0 + waver + 0.918_938_533,
            slope: -rest * fine,
            by_waver: 1.0 - rest * rest,
            curve: fine * fine,
            cross: 2.0 * rest * fine,
            waver_curve: 2.0 * rest * rest,
        };
    };
    let v = side * (end - expected) * fine;
    let (log, steep, bent) = log_below(v);
    let bend = -bent;
    Mark {
        cost: -log,
        slope: steep * side * fine,
        by_waver: steep * v,
        curve: bend * fine * fine,
        cross: bend * v * side * fine - steep * side * fine,
        waver_curve: bend * v * v - steep * v,
    }
}

/// Of an answer that is by chance one of `of` with a chance `lapse`: its logarithm, and how much of it is of the
/// glass, from the logarithm of how likely it is of the glass alone.
fn with_lapses(log: f64, lapse: f64, of: f64) -> (f64, f64) {
    let meant = (1.0 - lapse) * log.exp();
    let all = meant + lapse / of;
    (all.ln(), meant / all)
}

/// The cost of what one taster said, whose answers are by chance so often. `round` is where the ideal is thought to
/// lie, and how closely. An answer bends the cost by as much of it as is of the glass: what else chance does to it
/// would make a top that is none.
fn part(sips: &Heard, own: &Own, round: Prior, lapse: f64) -> Part {
    let (ideal, fineness, top, waver, fall) = (own[0], own[1].exp(), own[2], own[3], own[4].exp());
    let carry = own[5];
    let mut it = Part { cost: 0.0, slope: Own::zeros(), curve: Matrix6::zeros() };
    let lies = Normal { mean: round.mean, sd: round.sd };
    let priors = [&lies, &FINENESS, &TOP, &WAVER, &FALL, &CARRY];
    for (place, prior) in priors.into_iter().enumerate() {
        let (cost, slope, curve) = prior.cost(own[place]);
        it.cost += cost;
        it.slope[place] += slope;
        it.curve[(place, place)] += curve;
    }
    for (Met { x, from_before: h }, felt, often) in &sips.words {
        let z = fineness * (x + carry * h - ideal);
        let (log, first, second) = word(*felt, z);
        let (chance, meant) = with_lapses(log, lapse, 5.0);
        it.cost -= often * chance;
        // How z moves with the ideal, ln g and the glass before, and how that bends.
        let by = Own::new(-fineness, z, 0.0, 0.0, 0.0, fineness * h);
        let mut bends = Matrix6::zeros();
        bends[(0, 1)] = -fineness;
        bends[(1, 1)] = z;
        bends[(1, 5)] = fineness * h;
        let (slope, curve) = (meant * first, meant * second);
        it.slope -= by * (often * slope);
        it.curve -= (by * by.transpose() * curve + bends * slope) * *often;
    }
    for (Met { x, from_before: h }, liked, often) in &sips.marks {
        let d = x + carry * h - ideal;
        // What is marked is what was tasted, which is off by a probit: on average the mark is lower by the square
        // of that, and it scatters by it beside its own wavering.
        let q = (-2.0 * own[1]).exp();
        let (near, own_waver) = (d * d, (2.0 * waver).exp());
        let (by_place, by_tongue) = (4.0 * fall * fall * q * near, 2.0 * fall * fall * q * q);
        let scatter = own_waver + by_place + by_tongue;
        let mark = mark(*liked, top - fall * (near + q), scatter.ln() / 2.0);
        let (chance, meant) = with_lapses(-mark.cost, lapse, 9.0);
        it.cost -= often * chance;
        // How the mark that is to be expected moves with everything, how that bends, and how its scatter moves.
        let by = Own::new(
            2.0 * fall * d,
            2.0 * fall * q,
            1.0,
            0.0,
            -fall * (near + q),
            -2.0 * fall * d * h,
        );
        let place = 4.0 * fall * fall * q * d;
        let wavers = Own::new(
            -place,
            -by_place - 2.0 * by_tongue,
            0.0,
            own_waver,
            by_place + by_tongue,
            place * h,
        ) / scatter;
        let mut bends = Matrix6::zeros();
        bends[(0, 0)] = -2.0 * fall;
        bends[(0, 4)] = 2.0 * fall * d;
        bends[(0, 5)] = 2.0 * fall * h;
        bends[(1, 1)] = -4.0 * fall * q;
        bends[(1, 4)] = 2.0 * fall * q;
        bends[(4, 4)] = -fall * (near + q);
        bends[(4, 5)] = -2.0 * fall * d * h;
        bends[(5, 5)] = -2.0 * fall * h * h;
        let slope = by * mark.slope + wavers * mark.by_waver;
        let crossed = by * wavers.transpose() * mark.cross;
        let curve = by * by.transpose() * mark.curve
            + crossed
            + crossed.transpose()
            + wavers * wavers.transpose() * mark.waver_curve
            + bends * mark.slope;
        it.slope += slope * (often * meant);
        it.curve += curve * (often * meant);
    }
    it.curve.fill_lower_triangle_with_upper_triangle();
    it
}

/// The inverse of a curvature that may not be one yet: with as much added along the diagonal as it takes.
fn inverse(curve: &Matrix6<f64>) -> Matrix6<f64> {
    let mut add = 0.0;
    loop {
        let raised = curve + Matrix6::identity() * add;
        if let Some(whole) = raised.cholesky() {
            return whole.inverse();
        }
        add = f64::max(add * 4.0, 1e-3 * curve.diagonal().abs().max().max(1.0));
    }
}

/// A taster's ideal lies round the group's so closely; told as one over the variance.
const NEAR: f64 = 1.0 / (TASTER_SD * TASTER_SD);

struct Everybody {
    own: Vec<Own>,
    group: f64,
}

impl Everybody {
    fn parts(&self, tasters: &[Heard]) -> Vec<Part> {
        let round = Prior { mean: self.group, sd: TASTER_SD };
        tasters.iter().zip(&self.own).map(|(sips, own)| part(sips, own, round, LAPSE)).collect()
    }

    fn cost(&self, parts: &[Part], prior: Prior) -> f64 {
        let lies = Normal { mean: prior.mean, sd: prior.sd };
        parts.iter().map(|p| p.cost).sum::<f64>() + lies.cost(self.group).0
    }

    /// The slope of the cost with the group's ideal and its curvature, when every taster has moved along;
    /// with the inverse of each taster's own curvature.
    fn arrowhead(&self, parts: &[Part], prior: Prior) -> (Vec<Matrix6<f64>>, f64, f64) {
        let lies = Normal { mean: prior.mean, sd: prior.sd };
        let (_, mut slope, mut curve) = lies.cost(self.group);
        let inverses: Vec<Matrix6<f64>> = parts.iter().map(|p| inverse(&p.curve)).collect();
        for ((p, own), inverse) in parts.iter().zip(&self.own).zip(&inverses) {
            // Only the ideal itself is tied to the group's.
            let along = inverse.row(0) * NEAR;
            slope += NEAR * (self.group - own[0]) + (along * p.slope)[0];
            curve += NEAR - NEAR * along[0];
        }
        (inverses, slope, curve.max(1.0 / (prior.sd * prior.sd)))
    }
}

/// Fits all tasters together. Nobody, or nobody who said anything, leaves what was thought before.
#[must_use]
pub fn fit(tasters: &[Vec<Sip>], prior: Prior) -> Fit {
    let tasters: &[Heard] = &tasters.iter().map(|sips| Heard::of(sips)).collect::<Vec<_>>();
    // From where each would lie alone: from further off a search may end on the wrong side of a glass.
    let wide = Prior { mean: prior.mean, sd: prior.sd.hypot(TASTER_SD) };
    let own = tasters.iter().map(|sips| top_of(sips, wide));
    let mut all = Everybody { own: own.collect(), group: prior.mean };
    let mut parts = all.parts(tasters);
    let mut cost = all.cost(&parts, prior);
    for _ in 0..ROUNDS {
        let (inverses, slope, curve) = all.arrowhead(&parts, prior);
        let group_step = -slope / curve;
        let mut reach = 1.0;
        let before = cost;
        while reach > 1e-4 {
            let own = all.own.iter().zip(&parts).zip(&inverses).map(|((own, p), inverse)| {
                let mut pull = p.slope;
                pull[0] -= NEAR * group_step;
                own - inverse * pull * reach
            });
            let tried = Everybody { own: own.collect(), group: all.group + group_step * reach };
            let then = tried.parts(tasters);
            let its = tried.cost(&then, prior);
            if its < cost {
                (all, parts, cost) = (tried, then, its);
                break;
            }
            reach *= 0.5;
        }
        if before - cost < 1e-6 {
            break;
        }
    }
    let (inverses, _, known) = all.arrowhead(&parts, prior);
    let single = tasters.iter().zip(&all.own).zip(&inverses);
    let found = single.map(|((sips, own), inverse)| {
        // What the others say of the group: all that is known of it, less what came from this one.
        let mine = NEAR - NEAR * NEAR * inverse[(0, 0)];
        let others = (known - mine).max(1.0 / (prior.sd * prior.sd));
        let mean = all.group + NEAR * (all.group - own[0]) / others;
        alone(sips, *own, Prior { mean, sd: TASTER_SD.hypot(others.sqrt().recip()) })
    });
    let (ideals, fineness) = found.unzip();
    Fit { group: Ideal { x: all.group, sd: known.sqrt().recip() }, ideals, fineness }
}

/// Places either side at which the ideal is looked for.
const LOOKED_AT: i32 = 5;
/// So many standard deviations out.
const OUT: f64 = 4.0;

/// The top of one taster's posterior: looked for widely first, since there may be several.
fn top_of(sips: &Heard, round: Prior) -> Own {
    let mut own = START;
    let places = (-LOOKED_AT..=LOOKED_AT).map(|i| {
        own[0] = round.mean + OUT * round.sd * f64::from(i) / f64::from(LOOKED_AT);
        let height = at_place(sips, &mut own, round, LAPSE);
        (height, own)
    });
    let best = places.max_by(|a, b| a.0.total_cmp(&b.0));
    climb(sips, best.map_or(START, |(_, own)| own), round, LAPSE)
}

/// By Newton's method from there to the top.
fn climb(sips: &Heard, from: Own, round: Prior, lapse: f64) -> Own {
    let mut top = from;
    let mut p = part(sips, &top, round, lapse);
    for _ in 0..ROUNDS {
        let step = inverse(&p.curve) * p.slope;
        let mut reach = 1.0;
        let before = p.cost;
        while reach > 1e-3 {
            let tried = top - step * reach;
            let then = part(sips, &tried, round, lapse);
            if then.cost < p.cost {
                (top, p) = (tried, then);
                break;
            }
            reach *= 0.5;
        }
        if before - p.cost < 1e-4 {
            break;
        }
    }
    top
}

/// One taster's ideal and fineness, with everything else that is unknown of them integrated out, also how often
/// their answers are by chance. `near` is a place to look from.
fn alone(sips: &Heard, near: Own, round: Prior) -> (Ideal, f64) {
    let each = LAPSES.map(|(lapse, like_that)| {
        let found = alone_with(sips, near, round, lapse);
        (found.0, found.1, found.2 + like_that.ln(), lapse)
    });
    let highest = each.iter().map(|(.., height, _)| *height).fold(f64::MIN, f64::max);
    let all: f64 = each.iter().map(|(.., height, _)| (height - highest).exp()).sum();
    let mean_of = |of: &dyn Fn(&Ideal, f64, f64) -> f64| {
        each.iter()
            .map(|(ideal, fine, height, lapse)| {
                of(ideal, *fine, *lapse) * (height - highest).exp() / all
            })
            .sum::<f64>()
    };
    let x = mean_of(&|ideal, _, _| ideal.x);
    let sd = mean_of(&|ideal, _, _| ideal.sd.powi(2) + (ideal.x - x).powi(2)).sqrt();
    let erratic = mean_of(&|_, _, lapse| lapse) > ERRATIC;
    let sd = if erratic { sd.max(1.01 * SETTLED) } else { sd };
    (Ideal { x, sd }, mean_of(&|_, fine, _| fine.ln()).exp())
}

/// The same of somebody whose answers are by chance so often, and the logarithm of how likely their answers are
/// then, but for a constant.
fn alone_with(sips: &Heard, near: Own, round: Prior, lapse: f64) -> (Ideal, f64, f64) {
    let top = climb(sips, near, round, lapse);
    // Where answers may be by chance the top may be no top of a bell: it is looked at no more closely than that.
    let bell = inverse(&part(sips, &top, round, lapse).curve)[(0, 0)].max(1e-8).sqrt();
    let mut sd = bell.clamp(0.2 * round.sd, round.sd);
    let mut middle = top[0];
    let mut found = (Ideal { x: middle, sd }, top[1].exp(), f64::MIN);
    // Once round what the curvature says, and again where that was too narrow, too wide or stood askew.
    for _ in 0..4 {
        let mut places: Vec<(f64, f64, f64)> = Vec::with_capacity(2 * LOOKED_AT as usize + 1);
        let mut own = top;
        for i in -LOOKED_AT..=LOOKED_AT {
            own[0] = middle + OUT * sd * f64::from(i) / f64::from(LOOKED_AT);
            let height = at_place(sips, &mut own, round, lapse);
            places.push((own[0], height, own[1]));
        }
        let highest = places.iter().map(|(_, height, _)| *height).fold(f64::MIN, f64::max);
        let weight = |height: f64| (height - highest).exp();
        let all: f64 = places.iter().map(|(_, h, _)| weight(*h)).sum();
        let mean_of = |of: &dyn Fn(f64, f64) -> f64| {
            places.iter().map(|(x, h, fine)| of(*x, *fine) * weight(*h)).sum::<f64>() / all
        };
        let mean = mean_of(&|x, _| x);
        let its = mean_of(&|x, _| (x - mean).powi(2)).sqrt();
        let evidence = highest + (all * OUT * sd / f64::from(LOOKED_AT)).ln();
        found = (Ideal { x: mean, sd: its }, mean_of(&|_, fine| fine).exp(), evidence);
        if (0.55 * sd..1.25 * sd).contains(&its) && (mean - middle).abs() < 0.5 * sd {
            break;
        }
        (middle, sd) = (mean, its.max(0.3 * sd));
    }
    found
}

/// The logarithm of how likely the ideal lies at that place, but for a constant: the other five unknowns are
/// moved to where they fit best, and what they may be round that is counted in.
fn at_place(sips: &Heard, own: &mut Own, round: Prior, lapse: f64) -> f64 {
    const MOST: usize = 8;
    let others = |p: &Part| -> Matrix5<f64> { p.curve.fixed_view::<5, 5>(1, 1).into_owned() };
    let mut p = part(sips, own, round, lapse);
    for _ in 0..MOST {
        let slope = p.slope.fixed_rows::<5>(1).into_owned();
        let mut raised = others(&p);
        while raised.cholesky().is_none() {
            let add = raised.diagonal().abs().max().max(1.0);
            raised += Matrix5::identity() * add;
        }
        let Some(step) = raised.cholesky().map(|whole| whole.solve(&slope)) else { break };
        let mut reach = 1.0;
        let before = p.cost;
        while reach > 1e-2 {
            let mut tried = *own;
            tried.fixed_rows_mut::<5>(1).zip_apply(&step, |value, by| *value -= by * reach);
            let then = part(sips, &tried, round, lapse);
            if then.cost <= p.cost {
                (*own, p) = (tried, then);
                break;
            }
            reach *= 0.5;
        }
        if before - p.cost < 1e-2 {
            break;
        }
    }
    -p.cost - others(&p).determinant().max(1e-9).ln() / 2.0
}

/// The next glass to pour for a taster, and how many more would settle it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct NextGlass {
    /// Where it stands, as the logarithm of what moves.
    pub x: f64,
    /// The standard deviation of the ideal that is to be expected after it.
    pub sd_after: f64,
    /// About how many more glasses settle it; none needed if nought.
    pub more: u32,
}

/// Places that are tried, either side of where the ideal seems to lie.
const TRIED: i32 = 8;
/// From where an ideal may lie to how likely it is there: five points that stand for a normal scatter
/// (Gauss–Hermite).
const PLACES: [(f64, f64); 5] = [
    (-2.856_970, 0.011_257),
    (-1.355_626, 0.222_076),
    (0.0, 0.533_333),
    (1.355_626, 0.222_076),
    (2.856_970, 0.011_257),
];

/// The glass that would narrow one taster's ideal most: of places round it, the one with the least
/// expected variance after the word that will be said of it. It never lies beyond `within`.
#[must_use]
pub fn next_glass(sips: &[Vec<Sip>], taster: usize, prior: Prior, within: (f64, f64)) -> NextGlass {
    let now = fit(sips, prior);
    let (ideal, fineness) = (now.ideals[taster], now.fineness[taster]);
    // The others' answers come in through what they say of the group.
    let others: Vec<Vec<Sip>> =
        sips.iter().enumerate().filter(|(i, _)| *i != taster).map(|(_, s)| s.clone()).collect();
    let group = fit(&others, prior).group;
    let round = Prior { mean: group.x, sd: group.sd.hypot(TASTER_SD) };
    let top = top_of(&Heard::of(&sips[taster]), round);
    let reach = (1.6 * ideal.sd).max(0.6 / fineness);
    let mut mine = sips[taster].clone();
    let mut expected = |x: f64| {
        Felt::ALL
            .iter()
            .map(|felt| {
                let chance: f64 = PLACES
                    .iter()
                    .map(|(z, weight)| {
                        let far = fineness * (x - ideal.x - z * ideal.sd);
                        weight * word(*felt, far).0.exp()
                    })
                    .sum();
                mine.push(Sip { x, felt: Some(*felt), liked: None });
                let then = alone_with(&Heard::of(&mine), top, round, LAPSE).0;
                mine.pop();
                chance * then.sd * then.sd
            })
            .sum::<f64>()
    };
    let places = (-TRIED..=TRIED)
        .map(|i| (ideal.x + reach * f64::from(i) / f64::from(TRIED)).clamp(within.0, within.1));
    let best = places
        .map(|x| (x, expected(x)))
        .min_by(|a, b| a.1.total_cmp(&b.1))
        .unwrap_or((ideal.x, ideal.sd * ideal.sd));
    // Each further glass brings about as much as this one.
    let brings = (1.0 / best.1 - 1.0 / (ideal.sd * ideal.sd)).max(1e-3);
    let lacks = 1.0 / (SETTLED * SETTLED) - 1.0 / (ideal.sd * ideal.sd);
    let more = if lacks <= 0.0 { 0 } else { (lacks / brings).ceil().clamp(1.0, 50.0) as u32 };
    NextGlass { x: best.0, sd_after: best.1.sqrt(), more }
}

#[cfg(test)]
mod tests {
    use super::super::pretend::{Pretend, normal};
    use super::*;
    use rand::rngs::StdRng;
    use rand::seq::SliceRandom;
    use rand::{RngExt, SeedableRng};

    fn usual() -> Prior {
        Prior::round(16.0)
    }

    /// The slopes and curvatures against differences of the cost.
    #[test]
    fn slopes_and_curvatures_are_those_of_the_cost() {
        let sips = [
            Sip { x: 2.4, felt: Some(Felt::FarLow), liked: Some(3) },
            Sip { x: 2.8, felt: Some(Felt::Right), liked: Some(8) },
            Sip { x: 3.3, felt: Some(Felt::FarHigh), liked: None },
            Sip { x: 3.1, felt: None, liked: Some(6) },
            Sip { x: 3.6, felt: None, liked: Some(1) },
            Sip { x: 2.6, felt: None, liked: Some(9) },
        ];
        let own = Own::new(2.7, 1.2, 7.1, 0.2, 2.4, 0.1);
        let round = Prior { mean: 2.9, sd: TASTER_SD };
        let heard = Heard::of(&sips);
        for (lapse, i) in [0.0, 0.1].into_iter().flat_map(|lapse| (0..6).map(move |i| (lapse, i))) {
            let part = |own: &Own| part(&heard, own, round, lapse);
            let at = part(&own);
            let h = 1e-5;
            let (mut up, mut down) = (own, own);
            up[i] += h;
            down[i] -= h;
            let slope = (part(&up).cost - part(&down).cost) / (2.0 * h);
            assert!((slope - at.slope[i]).abs() < 1e-5, "slope {i}");
            let words = Heard { words: heard.words.clone(), marks: Vec::new() };
            let of_words = |own: &Own| super::part(&words, own, round, 0.0);
            let curve = (of_words(&up).slope - of_words(&down).slope) / (2.0 * h);
            // Of marks it leaves out how their scatter bends.
            let right = (curve - of_words(&own).curve.column(i)).norm() < 1e-4;
            assert!(right, "curvature {i}");
        }
    }

    #[test]
    fn eight_in_ten_ideals_lie_where_they_are_said_to() {
        let mut rng = StdRng::seed_from_u64(11);
        let (mut inside, mut fitted, mut picked, mut all) = (0, 0.0, 0.0, 0);
        for _ in 0..100 {
            let group = 16_f64.ln() + 0.5 * normal(&mut rng);
            let tasters: Vec<(f64, Vec<Sip>)> = (0..5)
                .map(|_| {
                    let ideal = group + TASTER_SD * normal(&mut rng);
                    let tongue = Pretend::any(ideal, &mut rng);
                    let glasses = (-2..=2).map(|i| 16_f64.ln() + f64::from(i) * 1.25_f64.ln());
                    (ideal, glasses.map(|x| tongue.says(x, &mut rng)).collect())
                })
                .collect();
            let sips: Vec<Vec<Sip>> = tasters.iter().map(|(_, sips)| sips.clone()).collect();
            let fit = fit(&sips, usual());
            for ((truth, sips), ideal) in tasters.iter().zip(&fit.ideals) {
                let (low, high) = ideal.range();
                inside += u32::from(low.ln() < *truth && *truth < high.ln());
                fitted += (ideal.x - truth).powi(2);
                let best = sips.iter().max_by_key(|s| s.liked).unwrap();
                picked += (best.x - truth).powi(2);
                all += 1;
            }
        }
        let share = f64::from(inside) / f64::from(all);
        let gain = (fitted / picked).sqrt();
        println!("of {all} ideals {:.1} % inside; error {gain:.2} of picking", share * 100.0);
        assert_eq!(all, 500);
        assert!((0.76..=0.84).contains(&share), "{share}");
        assert!(gain < 0.75, "{gain}");
    }

    /// How one taster answers glasses in turn: the tongue, how often by chance, and how much the glass before counts.
    struct Kind {
        name: &'static str,
        fineness: Option<f64>,
        lapse: f64,
        carry: f64,
        at_table: usize,
        glasses: i32,
    }

    impl Kind {
        fn answers(&self, ideal: f64, rng: &mut StdRng) -> Vec<Sip> {
            let mut tongue = Pretend::any(ideal, rng);
            tongue.fineness = self.fineness.unwrap_or(tongue.fineness);
            let mut row: Vec<i32> = (0..self.glasses).map(|i| i % 5 - 2).collect();
            row.shuffle(rng);
            let mut before = None;
            let mut answer = |i: i32| {
                let x = 16_f64.ln() + f64::from(i) * 1.25_f64.ln();
                let tasted = x + self.carry * (x - before.unwrap_or(x));
                before = Some(x);
                if rng.random::<f64>() < self.lapse {
                    let felt = Felt::ALL[rng.random_range(0..5)];
                    return Sip { x, felt: Some(felt), liked: Some(rng.random_range(1..=9)) };
                }
                Sip { x, ..tongue.says(tasted, rng) }
            };
            row.into_iter().map(&mut answer).collect()
        }

        /// The share of ideals that lie where they are said to, and of tasters who are called settled.
        fn shares(&self, tables: usize) -> (f64, f64) {
            let mut rng = StdRng::seed_from_u64(21);
            let (mut inside, mut settled, mut all) = (0, 0, 0);
            for _ in 0..tables {
                let group = 16_f64.ln() + GROUP_SD * normal(&mut rng);
                let ideals: Vec<f64> =
                    (0..self.at_table).map(|_| group + TASTER_SD * normal(&mut rng)).collect();
                let sips: Vec<Vec<Sip>> =
                    ideals.iter().map(|ideal| self.answers(*ideal, &mut rng)).collect();
                for (ideal, truth) in fit(&sips, usual()).ideals.iter().zip(&ideals) {
                    let (low, high) = ideal.range();
                    inside += u32::from(low.ln() < *truth && *truth < high.ln());
                    settled += u32::from(ideal.sureness() == Sureness::Settled);
                    all += 1;
                }
            }
            (f64::from(inside) / f64::from(all), f64::from(settled) / f64::from(all))
        }
    }

    #[test]
    fn eight_in_ten_whoever_tastes() {
        let kind = |name, fineness, lapse, carry, at_table, glasses| Kind {
            name,
            fineness,
            lapse,
            carry,
            at_table,
            glasses,
        };
        for kind in [
            kind("alone", None, 0.0, 0.0, 1, 10),
            kind("at a table", None, 0.0, 0.0, 5, 5),
            kind("at a table, twice", None, 0.0, 0.0, 5, 10),
            kind("with a coarse tongue", Some(2.0), 0.0, 0.0, 1, 10),
            kind("led by the glass before", None, 0.0, 0.25, 1, 10),
            kind("half by chance", None, 0.5, 0.0, 1, 10),
        ] {
            let (inside, settled) = kind.shares(500 / kind.at_table);
            println!(
                "{}: {:.0} % inside, {:.0} % settled",
                kind.name,
                100.0 * inside,
                100.0 * settled
            );
            assert!((0.74..=0.86).contains(&inside), "{}: {inside}", kind.name);
            assert!(kind.lapse < 0.4 || settled < 0.06, "{}: {settled}", kind.name);
        }
    }

    /// Five tasters round a place, who have tasted a row.
    fn table(ideal: f64, rng: &mut StdRng) -> Vec<Vec<Sip>> {
        let row = |rng: &mut StdRng| -> Vec<Sip> {
            let tongue = Pretend::usual(ideal + 0.1 * normal(rng));
            (-4..=4).map(|i| tongue.says(ideal + 0.223 * f64::from(i), rng)).collect()
        };
        (0..5).map(|_| row(rng)).collect()
    }

    #[test]
    fn one_answer_moves_a_taster_less_than_halfway() {
        let group = 16_f64.ln();
        let mut tasters = table(group, &mut StdRng::seed_from_u64(2));
        let before = fit(&tasters, usual()).group.x;
        for ratio in [9.0_f64, 12.0, 24.0, 30.0] {
            tasters.push(vec![Sip { x: ratio.ln(), felt: Some(Felt::Right), liked: None }]);
            let found = fit(&tasters, usual()).ideals[5].x;
            tasters.pop();
            let way = (found - before) / (ratio.ln() - before);
            assert!((0.1..0.5).contains(&way), "{way} of the way to {ratio}");
            // Who sits alone has no group to lean on: the first answer counts for more, and not for all.
            let lone = vec![Sip { x: ratio.ln(), felt: Some(Felt::Right), liked: None }];
            let lone = fit(&[lone], usual()).ideals[0];
            assert!((lone.x - group) / (ratio.ln() - group) < 0.75);
            assert_eq!(lone.sureness(), Sureness::CantTell, "{}", lone.sd);
        }
    }

    #[test]
    fn answers_that_contradict_one_another_are_less_sure() {
        let row = |felt: [Felt; 5]| -> Vec<Sip> {
            (0..5)
                .map(|i| Sip {
                    x: 16_f64.ln() + f64::from(i - 2) * 0.223,
                    felt: Some(felt[i as usize]),
                    liked: None,
                })
                .collect()
        };
        use Felt::{FarHigh, FarLow, High, Low, Right};
        let clear = fit(&[row([FarLow, Low, Right, High, FarHigh])], usual()).ideals[0];
        let muddled = fit(&[row([High, FarLow, FarHigh, Low, Right])], usual()).ideals[0];
        let alike = fit(&[row([Right; 5])], usual()).ideals[0];
        assert!(muddled.sd > 1.5 * clear.sd, "{} and {}", muddled.sd, clear.sd);
        assert!(alike.sd > clear.sd);
        assert_eq!(clear.sureness(), Sureness::Likely);
        assert_eq!(fit(&[vec![]], usual()).ideals[0].sureness(), Sureness::CantTell);
    }

    #[test]
    fn few_glasses_lean_on_the_group_and_many_stand_alone() {
        let mut tasters = table(3.1, &mut StdRng::seed_from_u64(3));
        let lone = |many: usize| -> Vec<Sip> {
            let mut rng = StdRng::seed_from_u64(5);
            (0..many)
                .map(|i| {
                    let x = 2.3 + 0.15 * (i % 5) as f64;
                    Sip { liked: None, ..Pretend::usual(2.6).says(x, &mut rng) }
                })
                .collect()
        };
        tasters.push(lone(2));
        let few = fit(&tasters, usual()).ideals[5].x;
        tasters[5] = lone(20);
        let many = fit(&tasters, usual()).ideals[5].x;
        assert!(few > 2.75 && (many - 2.6).abs() < 0.13, "{few} and {many}");
    }

    /// Who says of each glass what the middle of their answers would be is done within thirty glasses: a few find where
    /// it lies, and many make sure.
    #[test]
    fn who_is_sure_is_soon_settled() {
        let within = (6_f64.ln(), 40_f64.ln());
        for ratio in [11.0_f64, 16.0, 22.0] {
            let mut sips = vec![Vec::new()];
            while fit(&sips, usual()).ideals[0].sureness() != Sureness::Settled {
                let x = next_glass(&sips, 0, usual(), within).x;
                let z = 4.0 * (x - ratio.ln());
                let felt = Felt::ALL[CUTS.iter().filter(|cut| z > **cut).count()];
                sips[0].push(Sip { x, felt: Some(felt), liked: None });
                assert!(sips[0].len() <= 30, "{ratio}: {:?}", fit(&sips, usual()).ideals[0]);
            }
            println!("{ratio} to 1 is settled by {} glasses", sips[0].len());
        }
    }

    #[test]
    fn being_led_takes_fewer_glasses() {
        let mut rng = StdRng::seed_from_u64(8);
        let (mut led, mut rowed) = (0.0, 0.0);
        let within = (6_f64.ln(), 40_f64.ln());
        for _ in 0..40 {
            let ideal = 16_f64.ln() + 0.5 * normal(&mut rng);
            let mut sips = vec![Vec::new()];
            for _ in 0..9 {
                let next = next_glass(&sips, 0, usual(), within);
                sips[0].push(Sip { liked: None, ..Pretend::usual(ideal).says(next.x, &mut rng) });
            }
            led += (fit(&sips, usual()).ideals[0].x - ideal).powi(2);
            let row = (-4..=4).map(|i| {
                let x = 16_f64.ln() + f64::from(i) * 1.25_f64.ln();
                Sip { liked: None, ..Pretend::usual(ideal).says(x, &mut rng) }
            });
            rowed += (fit(&[row.collect()], usual()).ideals[0].x - ideal).powi(2);
        }
        assert!(led < rowed, "{} against {}", led.sqrt(), rowed.sqrt());
    }
}
