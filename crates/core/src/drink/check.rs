//! What no kitchen could carry out.

use std::collections::HashSet;

use super::{Action, CoolingPlace, Dissolving, Drink, Law, Portion, Reduction, Vessel};
use crate::cupboard::{Cupboard, Form, VesselKind};
use crate::fault::FieldError;
use crate::quantity::Amount;

/// Sizes beyond which something is surely a slip of the keyboard.
pub mod limits {
    /// Characters in a name.
    pub const NAME: usize = 120;
    /// Characters in a note.
    pub const NOTE: usize = 2000;
    /// Vessels of a drink.
    pub const VESSELS: usize = 30;
    /// Steps of a drink.
    pub const STEPS: usize = 200;
    /// Glasses.
    pub const GLASSES: u32 = 2000;
    /// Minutes that a step may take: two weeks.
    pub const MINUTES: f64 = 20_160.0;
    /// Minutes that something may stand between two steps: two months.
    pub const STANDS: f64 = 86_400.0;
}

struct Checker<'a> {
    drink: &'a Drink,
    errors: Vec<FieldError>,
}

impl Drink {
    /// Whether it is no larger than a drink may be. What is kept was checked as a whole when it came in; but a file
    /// may have been changed since by something else, and running a drink takes as long as it is large.
    #[must_use]
    pub fn is_within_limits(&self) -> bool {
        let short = |text: &str, most: usize| text.chars().count() <= most;
        self.steps.len() <= limits::STEPS
            && self.vessels.len() <= limits::VESSELS
            && short(&self.name, limits::NAME)
            && short(&self.note, limits::NOTE)
    }

    /// Everything in the drink that can't be carried out; empty if it can be run.
    #[must_use]
    pub fn check(&self, cupboard: &Cupboard) -> Vec<FieldError> {
        let mut checker = Checker { drink: self, errors: Vec::new() };
        checker.names();
        checker.part();
        checker.vessels();
        checker.steps(cupboard);
        checker.errors
    }
}

impl Checker<'_> {
    fn fault(&mut self, field: impl Into<String>, message: impl Into<String>) {
        self.errors.push(FieldError { field: field.into(), message: message.into() });
    }

    /// What one part is: something between a spoon and a bucket.
    fn part(&mut self) {
        if let Some(part) = &self.drink.part {
            self.volume("part".into(), part, 1.0, 20_000.0);
        }
    }

    fn names(&mut self) {
        if self.drink.name.trim().is_empty() {
            self.fault("name", "Enter a name for the drink.");
        }
        self.text("name", &self.drink.name, limits::NAME);
        self.text("note", &self.drink.note, limits::NOTE);
    }

    fn text(&mut self, field: &str, text: &str, most: usize) {
        if text.chars().count() > most {
            self.fault(field, format!("Enter up to {most} characters."));
        }
        if text.chars().any(|c| c.is_control() && c != '\n') {
            self.fault(field, "Remove control characters from this text.");
        }
    }

    fn range(&mut self, field: String, value: f64, from: f64, to: f64, unit: &str) {
        if !value.is_finite() || value < from || value > to {
            self.fault(field, format!("Enter {from} to {to} {unit}."));
        }
    }

    fn minutes(&mut self, field: String, minutes: f64) {
        self.range(field, minutes, 0.0, limits::MINUTES, "minutes");
    }

    fn vessels(&mut self) {
        let drink = self.drink;
        if drink.vessels.len() > limits::VESSELS {
            let message =
                format!("You have {} vessels. Use up to {}.", drink.vessels.len(), limits::VESSELS);
            return self.fault("vessels", message);
        }
        let mut seen = HashSet::new();
        for (i, vessel) in drink.vessels.iter().enumerate() {
            let at = format!("vessels[{i}]");
            let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || "_-".contains(c);
            if vessel.id.is_empty() || vessel.id.len() > 40 || !vessel.id.chars().all(plain) {
                self.fault(
                    format!("{at}.id"),
                    "Enter a vessel id of up to 40 small letters, digits, “-” or “_”.",
                );
            } else if !seen.insert(&vessel.id) {
                self.fault(format!("{at}.id"), format!("Two vessels are called “{}”.", vessel.id));
            }
            if let Some(name) = &vessel.name {
                if name.trim().is_empty() {
                    self.fault(format!("{at}.name"), "Enter a vessel name, or leave it out.");
                }
                self.text(&format!("{at}.name"), name, limits::NAME);
            }
            if let Some(capacity) = &vessel.capacity {
                self.volume(format!("{at}.capacity"), capacity, 10.0, 200_000.0);
            }
            if let Some(count) = vessel.count {
                let field = format!("{at}.count");
                if vessel.kind != VesselKind::Glass {
                    self.fault(
                        field,
                        "Only glasses can have a count. List other vessels one by one.",
                    );
                } else if count == 0 || count > limits::GLASSES {
                    self.fault(field, format!("Enter 1 to {} glasses.", limits::GLASSES));
                }
            }
            if let Some(diameter) = vessel.diameter_mm {
                self.range(format!("{at}.diameter_mm"), diameter, 20.0, 1000.0, "mm");
            }
        }
    }

    fn volume(&mut self, field: String, amount: &Amount, from_ml: f64, to_ml: f64) {
        match amount.as_millilitres() {
            None => {
                self.fault(field, format!("“{amount}” isn't a volume. Enter it in ml, l or cups."))
            }
            Some(ml) if ml < from_ml || ml > to_ml => {
                self.fault(field, format!("Enter {from_ml} ml to {} l.", to_ml / 1000.0))
            }
            Some(_) => {}
        }
    }

    fn find(&mut self, field: String, id: &str) -> Option<&Vessel> {
        let found = self.drink.vessels.iter().find(|v| v.id == id);
        if found.is_none() {
            self.fault(field, format!("There is no vessel “{id}” in this drink."));
        }
        found
    }

    /// A vessel that can hold a liquid.
    fn holder(&mut self, field: String, id: &str) {
        if let Some(vessel) = self.find(field.clone(), id)
            && vessel.kind.strainer().is_some()
        {
            let message = format!(
                "A {} can't hold liquid. Choose another vessel.",
                vessel.kind.name().to_lowercase()
            );
            self.fault(field, message);
        }
    }

    fn strainer(&mut self, field: String, id: &str) {
        if let Some(found) = self.find(field.clone(), id)
            && found.kind.strainer().is_none()
        {
            let name = found.kind.name().to_lowercase();
            self.fault(field, format!("A {name} can't strain. Use a sieve, cloth or bag."));
        }
    }

    /// A line that was marked on a vessel before that step.
    fn marked(&mut self, field: String, id: &str, place: usize) {
        let marks = |action: &Action| matches!(action, Action::Mark { vessel } if vessel == id);
        if !self.drink.steps[..place].iter().any(|s| marks(&s.action)) {
            self.fault(field, "Mark the level on this pot in an earlier step first.");
        }
    }

    fn steps(&mut self, cupboard: &Cupboard) {
        let drink = self.drink;
        if drink.steps.len() > limits::STEPS {
            let message =
                format!("You have {} steps. Use up to {}.", drink.steps.len(), limits::STEPS);
            return self.fault("steps", message);
        }
        let mut seen = HashSet::new();
        let mut served = HashSet::new();
        for (i, step) in drink.steps.iter().enumerate() {
            let at = format!("steps[{i}]");
            self.text(&format!("{at}.note"), &step.note, limits::NOTE);
            if step.id.len() > 60 || step.id.chars().any(char::is_control) {
                self.fault(format!("{at}.id"), "Enter a step id of up to 60 characters.");
            }
            if !step.id.is_empty() && !seen.insert(&step.id) {
                self.fault(format!("{at}.id"), format!("Two steps have the id “{}”.", step.id));
            }
            if let Action::Serve { glass, .. } = &step.action
                && !served.insert(glass)
            {
                let message = "An earlier step already serves into these glasses. Use other glasses for another round.";
                self.fault(format!("{at}.do.serve.glass"), message);
            }
            if let Some(minutes) = step.may_stand {
                self.range(format!("{at}.may_stand"), minutes, 0.0, limits::STANDS, "minutes");
            }
            for before in &step.after {
                if !drink.steps[..i].iter().any(|s| s.id == *before) {
                    self.fault(format!("{at}.after"), "It can only wait for an earlier step.");
                }
            }
            if let Some(Law::Spice(power)) = step.law {
                self.range(format!("{at}.law.spice"), power, 0.3, 1.2, "as a power");
            }
            self.action(&format!("{at}.do"), i, &step.action, cupboard);
        }
    }

    fn ingredient(&mut self, field: String, id: &str, cupboard: &Cupboard) -> Option<Form> {
        let found = cupboard.ingredient(id);
        if found.is_none() {
            self.fault(field, format!("There is no ingredient “{id}” in the cupboard."));
        }
        found.map(|it| it.form)
    }

    /// An ingredient that pours, or melts.
    fn pourable(&mut self, field: String, id: &str, cupboard: &Cupboard) {
        if let Some(form) = self.ingredient(field.clone(), id, cupboard)
            && !matches!(form, Form::Liquid | Form::Ice)
        {
            self.fault(field, "Choose a liquid, or ice.");
        }
    }

    fn pot(&mut self, field: String, id: &str) {
        if let Some(found) = self.find(field.clone(), id)
            && !found.kind.can_be_heated()
        {
            let name = found.kind.name().to_lowercase();
            self.fault(field, format!("A {name} can't go on a burner. Use a pot."));
        }
    }

    fn glass(&mut self, field: String, id: &str) {
        if let Some(found) = self.find(field.clone(), id)
            && !matches!(found.kind, VesselKind::Glass | VesselKind::Bottle)
        {
            self.fault(field, "Serve into glasses or bottles.");
        }
    }

    /// A step's fields are named by what it does: `steps[2].do.pour.into`.
    fn action(&mut self, at: &str, place: usize, action: &Action, cupboard: &Cupboard) {
        let at = format!("{at}.{}", action.key());
        self.vessels_of(&at, action);
        self.ingredient_of(&at, action, cupboard);
        self.figures_of(&at, place, action);
    }

    /// Vessels that are there, and that can be used so.
    fn vessels_of(&mut self, at: &str, action: &Action) {
        let field = |name: &str| format!("{at}.{name}");
        match action {
            Action::Prepare { .. } => {}
            Action::Add { into, .. } => self.holder(field("into"), into),
            Action::Squeeze { into, halves_into, .. } => {
                self.holder(field("into"), into);
                if let Some(bowl) = halves_into {
                    self.holder(field("halves_into"), bowl);
                }
            }
            Action::Dissolve { vessel, how } => {
                self.holder(field("vessel"), vessel);
                if *how == Dissolving::Microwave {
                    self.microwaved(field("vessel"), vessel);
                }
            }
            Action::Macerate { vessel, .. }
            | Action::Stir { vessel, .. }
            | Action::Mark { vessel }
            | Action::Infuse { vessel, .. }
            | Action::Blend { vessel, .. }
            | Action::TopUp { vessel, .. }
            | Action::Cover { vessel, .. }
            | Action::Lengthen { vessel, .. }
            | Action::Cool { vessel, .. } => self.holder(field("vessel"), vessel),
            Action::Heat { vessel, .. }
            | Action::Boil { vessel, .. }
            | Action::Reduce { vessel, .. } => self.pot(field("vessel"), vessel),
            Action::Lift { from, into, .. } => {
                self.holder(field("from"), from);
                self.another_holder(field("into"), from, into);
            }
            Action::Strain { from, through, into, .. } => {
                self.strainer(field("through"), through);
                self.holder(field("from"), from);
                self.another_holder(field("into"), from, into);
            }
            Action::Rinse { vessel, through, into, .. } => {
                self.find(field("vessel"), vessel);
                if let Some(through) = through {
                    self.strainer(field("through"), through);
                }
                self.another_holder(field("into"), vessel, into);
            }
            // What stays in a sieve can be put into a pot.
            Action::Pour { from, into, .. } => {
                self.find(field("from"), from);
                self.another_holder(field("into"), from, into);
            }
            Action::Bottle { from, bottle, headspace } => {
                self.holder(field("from"), from);
                self.bottled(at, bottle, headspace);
                self.apart(field("bottle"), from, bottle);
            }
            Action::Serve { from, glass, .. } => {
                self.holder(field("from"), from);
                self.glass(field("glass"), glass);
                self.apart(field("glass"), from, glass);
            }
            Action::Dress { glass, .. } => self.glass(field("glass"), glass),
        }
    }

    /// An ingredient that is there and that can be used so, and an amount of it that a kitchen could hold.
    fn ingredient_of(&mut self, at: &str, action: &Action, cupboard: &Cupboard) {
        let field = format!("{at}.ingredient");
        match action {
            Action::Add { ingredient, .. }
            | Action::Prepare { ingredient, .. }
            | Action::Lift { ingredient, .. }
            | Action::Dress { ingredient, .. } => {
                self.ingredient(field, ingredient, cupboard);
            }
            Action::Squeeze { ingredient, halves_into, .. } => {
                self.squeezed(at, ingredient, halves_into.is_some(), cupboard);
            }
            Action::Rinse { ingredient, .. }
            | Action::TopUp { ingredient, .. }
            | Action::Cover { ingredient, .. }
            | Action::Lengthen { ingredient, .. } => self.pourable(field, ingredient, cupboard),
            _ => {}
        }
        match action {
            Action::Add { ingredient, amount, .. }
            | Action::Squeeze { ingredient, amount, .. }
            | Action::Rinse { ingredient, amount, .. }
            | Action::Dress { ingredient, amount: Some(amount), .. } => {
                self.line(format!("{at}.amount"), ingredient, amount, cupboard);
            }
            _ => {}
        }
    }

    /// Times, temperatures, shares and volumes within what a kitchen does.
    fn figures_of(&mut self, at: &str, place: usize, action: &Action) {
        let field = |name: &str| format!("{at}.{name}");
        match action {
            Action::Add { portions, .. } => {
                self.range(field("portions"), f64::from(*portions), 1.0, 20.0, "portions");
            }
            Action::Prepare { minutes, .. } => {
                self.minutes(field("minutes"), minutes.unwrap_or(0.0));
            }
            Action::Macerate { minutes, .. } | Action::Infuse { minutes, .. } => {
                self.minutes(field("minutes"), *minutes);
            }
            Action::Heat { to_c, minutes, .. } => {
                self.range(field("to_c"), *to_c, 0.0, 130.0, "°C");
                self.range(field("minutes"), *minutes, 0.0, 1440.0, "minutes");
            }
            Action::Boil { minutes, .. } => {
                self.range(field("minutes"), *minutes, 0.0, 1440.0, "minutes");
            }
            Action::Reduce { vessel, to, .. } => self.reduced(&field("to"), vessel, place, to),
            Action::Blend { seconds, .. } => {
                self.range(field("seconds"), *seconds, 1.0, 600.0, "seconds");
            }
            Action::Pour { portion, .. } => self.portion(&field("portion"), portion),
            Action::TopUp { to, .. } => self.volume(field("to"), to, 1.0, 200_000.0),
            Action::Cover { above_mm, .. } => {
                self.range(field("above_mm"), *above_mm, 0.0, 200.0, "mm");
            }
            Action::Lengthen { parts, .. } => {
                self.range(field("parts"), *parts, 0.01, 100.0, "parts");
            }
            Action::Cool { to_c, place, .. } => {
                let least = if *place == CoolingPlace::Freezer { -18.0 } else { 0.0 };
                self.range(field("to_c"), *to_c, least, 95.0, "°C");
            }
            Action::Bottle { headspace, .. } => {
                self.volume(field("headspace"), headspace, 0.1, 1000.0);
            }
            Action::Serve { glasses, size, .. } => {
                if *glasses == 0 || *glasses > limits::GLASSES {
                    let message = format!("Enter 1 to {} glasses.", limits::GLASSES);
                    self.fault(field("glasses"), message);
                }
                self.volume(field("size"), size, 5.0, 5_000.0);
            }
            Action::Squeeze { .. }
            | Action::Dissolve { .. }
            | Action::Stir { .. }
            | Action::Mark { .. }
            | Action::Lift { .. }
            | Action::Strain { .. }
            | Action::Rinse { .. }
            | Action::Dress { .. } => {}
        }
    }

    /// What is squeezed has juice, and leaves halves where they are kept.
    fn squeezed(&mut self, at: &str, fruit: &str, keeps_halves: bool, cupboard: &Cupboard) {
        let field = format!("{at}.ingredient");
        let it = cupboard.ingredient(fruit);
        if self.ingredient(field.clone(), fruit, cupboard).is_some()
            && !it.is_some_and(|it| cupboard.can_be_squeezed(it))
        {
            self.fault(field, "Choose the juice of a fruit.");
        }
        if keeps_halves && it.is_some_and(|it| cupboard.halves_of(it).is_none()) {
            self.fault(format!("{at}.halves_into"), "This fruit leaves no halves to keep.");
        }
    }

    fn microwaved(&mut self, field: String, vessel: &str) {
        let Some(found) = self.find(field.clone(), vessel) else { return };
        let fits = match found.material {
            Some(material) => material.fits_microwave(),
            None => !matches!(found.kind, VesselKind::Pot | VesselKind::Blender),
        };
        if !fits {
            self.fault(field, "Metal can't go in a microwave. Use a glass jug or a bowl.");
        }
    }

    fn reduced(&mut self, at: &str, vessel: &str, place: usize, to: &Reduction) {
        match to {
            Reduction::Volume(volume) => {
                self.volume(format!("{at}.volume"), volume, 1.0, 200_000.0);
            }
            Reduction::Brix(brix) => self.range(format!("{at}.brix"), *brix, 1.0, 80.0, "°Bx"),
            Reduction::BoilingAt(t) => {
                self.range(format!("{at}.boiling_at"), *t, 100.1, 112.0, "°C");
            }
            Reduction::Mark => self.marked(at.to_owned(), vessel, place),
        }
    }

    fn portion(&mut self, at: &str, portion: &Portion) {
        match portion {
            Portion::All => {}
            Portion::Share(share) if share.is_finite() && *share > 0.0 && *share <= 1.0 => {}
            Portion::Share(_) => {
                let field = format!("{at}.share");
                self.fault(field, "Enter a share above 0 and up to 1 (all of it).");
            }
            Portion::Volume(volume) => {
                self.volume(format!("{at}.volume"), volume, 0.1, 200_000.0);
            }
        }
    }

    fn bottled(&mut self, at: &str, bottle: &str, headspace: &Amount) {
        let field = format!("{at}.bottle");
        let Some(found) = self.find(field.clone(), bottle) else { return };
        let (fits, room) = (found.kind == VesselKind::Bottle, found.capacity().0 * 0.5);
        if !fits {
            self.fault(field, "Choose a bottle.");
        } else if headspace.as_millilitres().is_some_and(|ml| ml > room) {
            let field = format!("{at}.headspace");
            self.fault(field, "That leaves more than half the bottle empty. Enter less headspace.");
        }
    }

    /// An amount that a kitchen could hold. Measures that aren't known are left to the trace.
    fn line(&mut self, field: String, ingredient: &str, amount: &Amount, cupboard: &Cupboard) {
        if !amount.is_sensible() {
            return self.fault(field, format!("{amount} is too much to measure. Enter less."));
        }
        if let Some(it) = cupboard.ingredient(ingredient)
            && let Ok(weighed) = cupboard.weigh(it, amount)
            && weighed.grams > crate::cupboard::MAX_LINE
        {
            self.fault(field, format!("{amount} is too much for a kitchen. Enter less."));
        }
    }

    /// A vessel that holds what comes out of another one.
    fn another_holder(&mut self, field: String, from: &str, into: &str) {
        self.holder(field.clone(), into);
        self.apart(field, from, into);
    }

    fn apart(&mut self, field: String, from: &str, into: &str) {
        if from == into {
            self.fault(field, "You can't pour a vessel into itself. Choose another vessel.");
        }
    }
}
