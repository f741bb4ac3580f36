use serde::Serialize;

use crate::cupboard::{Cupboard, Staple, VesselKind};
use crate::drink::{
    Action, CoolingPlace, Dissolving, Dressing, Drink, Maceration, Portion, Press, Reduction,
    RestingPlace, Step, Stirring, Vessel, Vigour, Warmth,
};
use crate::quantity::{Amount, Millilitres};
use crate::trace::{Contents, Trace};

/// A step that makes sense next, with usual amounts.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Beginning {
    /// The action.
    pub action: Action,
    /// The new vessels that it needs.
    pub vessels: Vec<Vessel>,
}

/// The steps that make sense next.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct NextSteps {
    /// The steps for this vessel.
    pub steps: Vec<Beginning>,
    /// The next vessel of each kind, with its name.
    pub vessels: Vec<Vessel>,
}

/// Which steps make sense before position `at`, on a vessel as it stands then: nothing is strained that
/// holds no liquid, nothing left under sugar where there are no pieces. What the new step says at
/// first (ten minutes, a fine sieve, half the volume) is a usual beginning, and there to be changed.
///
/// `None` if the drink has no such vessel.
#[must_use]
pub fn next_steps(
    drink: &Drink,
    cupboard: &Cupboard,
    at: usize,
    vessel: &str,
) -> Option<NextSteps> {
    let index = drink.vessel(vessel)?;
    let mut before = drink.clone();
    before.steps.truncate(at);
    let trace = Trace::run(&before, cupboard);
    let nothing = Contents::default();
    let bench = Bench {
        drink,
        at: at.min(drink.steps.len()),
        cupboard,
        vessel: &drink.vessels[index],
        contents: trace.last(index).map_or(&nothing, |(_, contents)| contents),
        after: &drink.vessels[index + 1..],
    };
    let steps = bench.beginnings().into_iter().flatten().collect();
    let vessels = VesselKind::ALL.map(|kind| another(drink, &[], kind)).into();
    Some(NextSteps { steps, vessels })
}

/// A vessel of a kind that the drink hasn't got yet: "Bowl 2" beside a bowl.
fn another(drink: &Drink, added: &[Vessel], kind: VesselKind) -> Vessel {
    let all = || drink.vessels.iter().chain(added);
    let word = kind.name().to_lowercase().replace(' ', "_");
    let id = (1..)
        .map(|n| if n == 1 { word.clone() } else { format!("{word}_{n}") })
        .find(|id| all().all(|v| v.id != *id))
        .unwrap_or(word);
    let alike = all().filter(|v| v.kind == kind).count();
    let name = (alike > 0).then(|| format!("{} {}", kind.name(), alike + 1));
    Vessel { name, ..Vessel::new(id, kind) }
}

/// What stands on the worktop when the next step is chosen.
struct Bench<'a> {
    drink: &'a Drink,
    /// The position that the new step gets.
    at: usize,
    cupboard: &'a Cupboard,
    vessel: &'a Vessel,
    contents: &'a Contents,
    /// The vessels that the drink names after it, where things usually go next.
    after: &'a [Vessel],
}

impl Bench<'_> {
    fn beginnings(&self) -> Vec<Option<Beginning>> {
        let kind = self.vessel.kind;
        if kind.strainer().is_some() {
            return vec![self.rinse(), self.pour()];
        }
        if kind == VesselKind::Glass {
            return vec![
                self.top_up(250.0, Staple::Soda),
                self.lengthen(),
                self.dissolve(),
                self.stir(),
                self.dress(),
            ];
        }
        // A quarter more than is in it, to a line that is on a jug.
        let line = (self.contents.level().0 * 1.25 / 250.0).ceil().max(1.0) * 250.0;
        vec![
            self.top_up(line, Staple::Water),
            self.cover(),
            self.lengthen(),
            self.heat(),
            self.boil(),
            self.reduce(),
            self.dissolve(),
            self.stir(),
            self.mark(),
            self.infuse(),
            self.macerate(),
            self.lift(),
            self.cool(),
            self.blend(),
            self.strain(),
            self.rinse(),
            self.pour(),
            self.bottle(),
            self.serve(),
        ]
    }

    fn id(&self) -> String {
        self.vessel.id.clone()
    }

    fn holds_liquid(&self) -> bool {
        self.contents.liquid_volume() > Millilitres(1.0)
    }

    fn holds_anything(&self) -> bool {
        self.contents.mass().0 > 0.5
    }

    fn has_pieces(&self) -> bool {
        !self.contents.pieces.is_empty()
    }

    /// Begins with a step on this vessel alone, if it makes sense.
    fn here(&self, sensible: bool, action: Action) -> Option<Beginning> {
        sensible.then_some(Beginning { action, vessels: Vec::new() })
    }

    /// Another vessel for the step: one that the drink has, or a new one.
    fn other(&self, fits: impl Fn(&Vessel) -> bool, kind: VesselKind) -> (String, Vec<Vessel>) {
        let known = self.drink.vessels.iter().find(|v| v.id != self.vessel.id && fits(v));
        match known {
            Some(vessel) => (vessel.id.clone(), Vec::new()),
            None => {
                let made = another(self.drink, &[], kind);
                (made.id.clone(), vec![made])
            }
        }
    }

    /// Where things go next: a vessel that comes later in the drink, or else any that holds liquid.
    fn next(&self) -> (String, Vec<Vessel>) {
        let holds = |v: &Vessel| v.kind.strainer().is_none() && v.kind != VesselKind::Glass;
        match self.after.iter().find(|v| holds(v)) {
            Some(later) => (later.id.clone(), Vec::new()),
            None => self.other(holds, VesselKind::Pitcher),
        }
    }

    fn heat(&self) -> Option<Beginning> {
        let sensible = self.vessel.kind.can_be_heated() && self.holds_anything();
        let action = Action::Heat {
            vessel: self.id(),
            to_c: 95.0,
            minutes: 0.0,
            lid: true,
            until_clear: false,
        };
        self.here(sensible, action)
    }

    fn boil(&self) -> Option<Beginning> {
        let sensible = self.vessel.kind.can_be_heated() && self.holds_anything();
        let how = Vigour::Simmer;
        self.here(sensible, Action::Boil { vessel: self.id(), minutes: 10.0, how, lid: true })
    }

    fn reduce(&self) -> Option<Beginning> {
        let half = (self.contents.liquid_volume().0 / 100.0).round() * 50.0;
        let to = Reduction::Volume(Amount::millilitres(half.max(50.0)));
        let marks = |step: &Step| matches!(&step.action, Action::Mark { vessel } if *vessel == self.vessel.id);
        let to = if self.drink.steps[..self.at].iter().any(marks) { Reduction::Mark } else { to };
        let sensible = self.vessel.kind.can_be_heated() && self.holds_liquid();
        self.here(sensible, Action::Reduce { vessel: self.id(), to, how: Vigour::Boil })
    }

    fn dissolve(&self) -> Option<Beginning> {
        let action = Action::Dissolve { vessel: self.id(), how: Dissolving::Stirred };
        self.here(self.holds_anything(), action)
    }

    fn stir(&self) -> Option<Beginning> {
        self.here(self.holds_liquid(), Action::Stir { vessel: self.id(), until: Stirring::Mixed })
    }

    fn mark(&self) -> Option<Beginning> {
        let sensible = self.vessel.kind.can_be_heated() && self.holds_liquid();
        self.here(sensible, Action::Mark { vessel: self.id() })
    }

    fn macerate(&self) -> Option<Beginning> {
        let (how, place) = (Maceration::Left, RestingPlace::Worktop);
        let action = Action::Macerate { vessel: self.id(), minutes: 240.0, how, place };
        self.here(self.has_pieces(), action)
    }

    fn infuse(&self) -> Option<Beginning> {
        let place = RestingPlace::Worktop;
        let action = Action::Infuse { vessel: self.id(), minutes: 15.0, place, covered: true };
        self.here(self.holds_liquid(), action)
    }

    fn lift(&self) -> Option<Beginning> {
        let first = self.contents.pieces.first()?;
        let ingredient = self.cupboard.ingredients()[first.ingredient].id.clone();
        let (into, vessels) = self.other(|v| v.kind == VesselKind::Bowl, VesselKind::Bowl);
        Some(Beginning { action: Action::Lift { from: self.id(), ingredient, into }, vessels })
    }

    fn blend(&self) -> Option<Beginning> {
        let breaks = self.has_pieces() || self.contents.ice_mass().0 > 0.0;
        self.here(breaks, Action::Blend { vessel: self.id(), seconds: 30.0 })
    }

    fn strain(&self) -> Option<Beginning> {
        if !self.holds_liquid() {
            return None;
        }
        let strainer = |v: &Vessel| v.kind.strainer().is_some();
        let (through, mut vessels) = self.other(strainer, VesselKind::FineSieve);
        let (into, more) = self.next();
        vessels.extend(more);
        let action = Action::Strain { from: self.id(), through, into, press: Press::Drained };
        Some(Beginning { action, vessels })
    }

    fn rinse(&self) -> Option<Beginning> {
        if !self.holds_anything() {
            return None;
        }
        let (into, vessels) = self.next();
        let (ingredient, amount) = (self.staple(Staple::Water), Amount::millilitres(150.0));
        let press = Press::Drained;
        let action = Action::Rinse {
            vessel: self.id(),
            ingredient,
            amount,
            into,
            press,
            warmth: Warmth::Usual,
            through: None,
        };
        Some(Beginning { action, vessels })
    }

    fn pour(&self) -> Option<Beginning> {
        if !self.holds_anything() {
            return None;
        }
        let (into, vessels) = self.next();
        let action = Action::Pour { from: self.id(), into, portion: Portion::All };
        Some(Beginning { action, vessels })
    }

    fn staple(&self, staple: Staple) -> String {
        self.cupboard.staple(staple).id.clone()
    }

    fn top_up(&self, to: f64, with: Staple) -> Option<Beginning> {
        let (ingredient, to) = (self.staple(with), Amount::millilitres(to));
        self.here(true, Action::TopUp { vessel: self.id(), ingredient, to, warmth: Warmth::Usual })
    }

    fn cover(&self) -> Option<Beginning> {
        let ingredient = self.staple(Staple::Water);
        let action =
            Action::Cover { vessel: self.id(), ingredient, above_mm: 15.0, warmth: Warmth::Usual };
        self.here(self.has_pieces(), action)
    }

    fn lengthen(&self) -> Option<Beginning> {
        let ingredient = self.staple(Staple::Soda);
        let action =
            Action::Lengthen { vessel: self.id(), ingredient, parts: 3.0, warmth: Warmth::Usual };
        self.here(self.holds_anything(), action)
    }

    fn cool(&self) -> Option<Beginning> {
        let place = CoolingPlace::Refrigerator;
        let action = Action::Cool { vessel: self.id(), to_c: 7.0, place, covered: false };
        self.here(self.holds_anything(), action)
    }

    fn bottle(&self) -> Option<Beginning> {
        if !self.holds_liquid() {
            return None;
        }
        let (bottle, vessels) = self.other(|v| v.kind == VesselKind::Bottle, VesselKind::Bottle);
        let headspace = Amount::millilitres(30.0);
        Some(Beginning { action: Action::Bottle { from: self.id(), bottle, headspace }, vessels })
    }

    fn serve(&self) -> Option<Beginning> {
        const A_GLASS: f64 = 250.0;
        let served = self.drink.steps.iter().any(|s| matches!(s.action, Action::Serve { .. }));
        if served || !self.holds_liquid() {
            return None;
        }
        let (glass, vessels) = self.other(|v| v.kind == VesselKind::Glass, VesselKind::Glass);
        let glasses = (self.contents.level().0 / A_GLASS).floor().clamp(1.0, 1000.0) as u32;
        let size = Amount::millilitres(A_GLASS);
        Some(Beginning { action: Action::Serve { from: self.id(), glass, glasses, size }, vessels })
    }

    fn dress(&self) -> Option<Beginning> {
        let (ingredient, how) = (self.staple(Staple::Garnish), Dressing::Garnish);
        self.here(true, Action::Dress { glass: self.id(), ingredient, how, amount: None })
    }
}
