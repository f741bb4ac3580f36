//! How long what is in a vessel may wait for the next step, and why no longer.
//!
//! Read off the trace: the contents are let stand where they are, longer and longer, until something
//! is lost that a guest would notice or that isn't safe any more.

use crate::balance::{Palate, Spot};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Form, NOTICED_BITTERNESS, VesselKind};
use crate::drink::{Action, CoolingPlace, Dressing, Drink, Stirring, Vessel};
use crate::keep::{Class, Keeping};
use crate::quantity::Minutes;
use crate::trace::{Contents, MEASURED_AT, Trace};

/// For how long, minutes, and what would be wrong then.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Limit {
    pub(super) minutes: f64,
    pub(super) why: String,
}

impl Limit {
    fn of(minutes: f64, why: &str) -> Self {
        Self { minutes, why: why.to_owned() }
    }
}

/// The spans that are tried, minutes: as one speaks of waiting. Nothing is let stand for over two months.
const SPANS: [f64; 26] = [
    2.0, 5.0, 10.0, 15.0, 20.0, 30.0, 45.0, 60.0, 90.0, 120.0, 180.0, 240.0, 360.0, 480.0, 720.0,
    1080.0, 1440.0, 2160.0, 2880.0, 4320.0, 7200.0, 10_080.0, 14_400.0, 20_160.0, 40_320.0,
    86_400.0,
];

/// Hotter than this nothing is put into a refrigerator, °C: it would warm what stands there.
const TOO_HOT_FOR_COLD: f64 = 40.0;
/// What was cooled to a mark is there, whatever the last digit says, K.
const NEAR: f64 = 0.5;
/// Hotter than this the next step counts on the heat, °C.
const HOT: f64 = 50.0;
/// Colder than this it is meant to be cold, °C.
const COLD: f64 = 12.0;
/// What it may cool or warm by before the next step feels it, °C.
const COOLS_BY: f64 = 10.0;
const WARMS_BY: f64 = 4.0;
/// Shares of ice, gas and aroma that may go: a sixth of the ice, a fifth of the fizz, three tenths of the
/// scent. Estimates, each about what is just noticed beside a fresh one.
const ICE_LEFT: f64 = 0.85;
const FIZZ_LEFT: f64 = 0.8;
const AROMA_LEFT: f64 = 0.7;
/// Fresh juice is at its brightest on its day, and blended fruit sets and dulls sooner. Estimates: juice
/// 12 to 48 h in the cold, blended fruit 6 to 24.
const BRIGHT_JUICE: f64 = 1440.0;
const BRIGHT_FRUIT: f64 = 720.0;
/// What lies in a strainer dries out. Estimate 20 to 60 min.
const IN_STRAINER: f64 = 30.0;
/// Cut fruit, zest and leaves without a liquid dry and brown. Estimates: half an hour to two on the
/// worktop, 6 to 24 hours covered in the cold.
const DRY: (f64, f64) = (60.0, 720.0);
/// Less liquid than this share of the weight covers nothing.
const COVERED_FROM: f64 = 0.1;
/// However fast it loses, glasses stand poured while the last one is filled.
const POURED: f64 = 15.0;

/// Something that waits.
pub(super) struct Waiting<'a> {
    pub(super) vessel: &'a Vessel,
    pub(super) contents: &'a Contents,
    pub(super) drink: &'a Drink,
    /// What is done with it next; none if it is served.
    pub(super) next: Option<&'a Action>,
    pub(super) cupboard: &'a Cupboard,
}

/// How long what a step leaves in a vessel may stand in the best place for it, minutes; none where nothing is lost, or
/// nothing is there.
pub(crate) fn may_stand(
    drink: &Drink,
    trace: &Trace,
    step: usize,
    vessel: usize,
    cupboard: &Cupboard,
) -> Option<f64> {
    if let Some(said) = drink.steps[step].may_stand {
        return Some(said);
    }
    let it = &drink.vessels[vessel];
    let contents = trace.after(step, vessel).filter(|c| !c.is_empty())?;
    let later = drink.steps[step + 1..].iter().map(|s| &s.action);
    let next = later.into_iter().find(|a| a.path().contains(&it.id.as_str()));
    let waiting = Waiting { vessel: it, contents, drink, next, cupboard };
    Some(waiting.in_the_best_place()?.0.minutes)
}

impl Waiting<'_> {
    /// Where it stands longest, and how long of that without the refrigerator if that is shorter; none where nothing is
    /// lost.
    pub(super) fn in_the_best_place(&self) -> Option<(Limit, Option<f64>)> {
        let outside = self.on_the_worktop()?;
        let inside = self.in_the_cold().filter(|inside| inside.minutes > outside.minutes);
        Some(match inside {
            Some(inside) => (inside, Some(outside.minutes)),
            None => (outside, None),
        })
    }

    /// On the worktop; none where nothing is lost.
    pub(super) fn on_the_worktop(&self) -> Option<Limit> {
        if self.contents.is_empty() {
            return None;
        }
        if self.vessel.kind.strainer().is_some() {
            return Some(Limit::of(IN_STRAINER, "The solids in the strainer dry out."));
        }
        if let Some(limit) = self.lies_dry(DRY.0) {
            return limit;
        }
        let mut limit = self.until_lost(CoolingPlace::Worktop);
        if self.vessel.kind == VesselKind::Glass && self.next.is_none() {
            limit.minutes = limit.minutes.max(POURED);
        }
        Some(limit)
    }

    /// In the refrigerator; none where it can't stand there.
    pub(super) fn in_the_cold(&self) -> Option<Limit> {
        let kind = self.vessel.kind;
        let stands = kind.strainer().is_none() && kind != VesselKind::Glass;
        if !stands
            || self.contents.is_empty()
            || self.contents.temperature.0 > TOO_HOT_FOR_COLD + NEAR
        {
            return None;
        }
        if let Some(limit) = self.lies_dry(DRY.1) {
            return limit;
        }
        let mut limit = self.until_lost(CoolingPlace::Refrigerator);
        if let Some(keeping) = Keeping::of_kept(self.contents, self.drink, self.cupboard) {
            let mut shorter = |minutes: f64, why: &str| {
                if minutes < limit.minutes {
                    limit = Limit::of(minutes, why);
                }
            };
            // The last reason says where it is kept, which goes without saying here.
            let told = keeping.reasons.len().saturating_sub(1);
            shorter(keeping.left.max(0.0) * 1440.0, &keeping.reasons[..told].join(" "));
            match keeping.class {
                Class::FreshJuice => {
                    shorter(BRIGHT_JUICE, "Fresh juice tastes best the same day.");
                }
                Class::BlendedFruit => shorter(BRIGHT_FRUIT, "Blended fruit dulls and sets."),
                _ => {}
            }
        }
        Some(limit)
    }

    /// In the freezer nothing is lost for as long as anyone plans.
    pub(super) fn frozen() -> Limit {
        Limit::of(SPANS[SPANS.len() - 1], "A longer wait isn't needed.")
    }

    /// What is no drink yet: pieces without a liquid, which dry, or sugar, which keeps.
    fn lies_dry(&self, minutes: f64) -> Option<Option<Limit>> {
        let c = self.contents;
        if c.liquid.mass().0 >= COVERED_FROM * c.mass().0 || c.ice_mass().0 > 0.5 {
            return None;
        }
        Some((!c.pieces.is_empty()).then(|| Limit::of(minutes, "It dries out.")))
    }

    /// The longest span after which nothing is lost yet.
    fn until_lost(&self, place: CoolingPlace) -> Limit {
        let lost = |minutes: f64| {
            let later = self.contents.stood(self.vessel, place, Minutes(minutes));
            self.lost(&later)
                .or_else(|| (place == CoolingPlace::Worktop).then(|| self.spoils(&later))?)
        };
        let good = SPANS.partition_point(|span| lost(*span).is_none());
        match SPANS.get(good) {
            None => Limit::of(SPANS[SPANS.len() - 1], "A longer wait isn't needed."),
            Some(first) => {
                let minutes = if good == 0 { 1.0 } else { SPANS[good - 1] };
                Limit::of(minutes, lost(*first).unwrap_or("Some of it would be lost."))
            }
        }
    }

    /// What has been lost by standing.
    fn lost(&self, later: &Contents) -> Option<&'static str> {
        let now = self.contents;
        let in_a_litre = |c: &Contents, what: Component| {
            c.liquid[what] / (c.liquid.volume(MEASURED_AT).0 / 1000.0).max(1e-9)
        };
        let both = |what| (in_a_litre(now, what), in_a_litre(later, what));
        if now.ice_mass().0 > 0.5 && later.ice_mass().0 < ICE_LEFT * now.ice_mass().0 {
            return Some("The ice melts.");
        }
        let (gas, left) = both(Component::CarbonDioxide);
        if gas > 1.0 && left < FIZZ_LEFT * gas {
            return Some("It loses its fizz.");
        }
        let (t, then) = (now.temperature.0, later.temperature.0);
        if t > HOT && then < t - COOLS_BY && self.next.is_some_and(|a| self.counts_on_heat(a)) {
            return Some("The next step needs it hot.");
        }
        if t < COLD && then > t + WARMS_BY && self.next.is_none_or(is_at_the_glass) {
            return Some("It gets warm.");
        }
        let (bitter, then) = both(Component::Bitterness);
        if then >= NOTICED_BITTERNESS && then > 1.15 * bitter {
            return Some("It turns bitter.");
        }
        if !now.pieces.is_empty() && self.tastes_otherwise(later) {
            return Some("It keeps steeping.");
        }
        let (aroma, left) = both(Component::Aroma);
        if aroma > 0.05 && left < AROMA_LEFT * aroma {
            return Some("It loses its aroma.");
        }
        if later.stood_too_long() && !now.stood_too_long() {
            return Some("It can't stay warm any longer.");
        }
        None
    }

    /// Whether it has used up its days by standing.
    fn spoils(&self, later: &Contents) -> Option<&'static str> {
        let left = |c: &Contents| {
            Keeping::of_kept(c, self.drink, self.cupboard).map_or(1.0, |keeping| keeping.left)
        };
        (left(later) <= 0.0 && left(self.contents) > 0.0)
            .then_some("It can't stay warm any longer.")
    }

    fn tastes_otherwise(&self, later: &Contents) -> bool {
        let (now, then) = (Spot::of(self.contents), Spot::of(later));
        let least = Palate::USUAL.least(now);
        (then.sweetness - now.sweetness).abs() > least.sweetness
            || (then.acidity - now.acidity).abs() > least.acidity
    }

    /// Whether a step draws or dissolves with the heat that is there.
    fn counts_on_heat(&self, next: &Action) -> bool {
        match next {
            Action::Infuse { .. } | Action::Macerate { .. } | Action::Dissolve { .. } => true,
            Action::Stir { until, .. } => *until == Stirring::Clear,
            Action::Add { ingredient, .. } => {
                let it = self.cupboard.ingredient(ingredient);
                it.is_some_and(|it| matches!(it.form, Form::Pieces | Form::Crystals))
            }
            _ => false,
        }
    }
}

/// Steps at the glass, for which it should be cold.
fn is_at_the_glass(next: &Action) -> bool {
    match next {
        Action::Serve { .. } | Action::Lengthen { .. } => true,
        Action::Dress { how, .. } => *how == Dressing::Garnish,
        _ => false,
    }
}
