//! What of a kitchen can't be.

use super::Kitchen;
use crate::cupboard::Cupboard;
use crate::fault::FieldError;

/// Sizes beyond which something is surely a slip of the keyboard.
const MOST_ENTRIES: usize = 500;
const MOST_READINGS: usize = 5000;

fn is_a_name(text: &str, most: usize) -> bool {
    !text.trim().is_empty() && text.chars().count() <= most && !text.chars().any(char::is_control)
}

/// What was found so far.
#[derive(Default)]
struct Faults(Vec<FieldError>);

impl Faults {
    fn add(&mut self, field: impl Into<String>, message: impl Into<String>) {
        self.0.push(FieldError { field: field.into(), message: message.into() });
    }

    /// A figure, where there is one, lies between two others; its unit is told behind them.
    fn within(
        &mut self,
        field: String,
        value: impl Into<Option<f64>>,
        (from, to): (f64, f64),
        unit: &str,
    ) {
        let fits = |v: f64| v.is_finite() && (from..=to).contains(&v);
        if !value.into().is_none_or(fits) {
            let space = if unit.is_empty() { "" } else { " " };
            let [from, to] = [from, to].map(thousands);
            self.add(field, format!("Enter {from} to {to}{space}{unit}."));
        }
    }

    /// No more of something than anybody has.
    fn no_more_than(&mut self, most: usize, there: usize, field: &str) {
        if there > most {
            self.add(field, "That is too many. Enter fewer.");
        }
    }
}

/// A limit as it is written: 1440, but 20,000.
fn thousands(limit: f64) -> String {
    let mut written = limit.to_string();
    let digits = written.find('.').unwrap_or(written.len());
    if digits > 4 {
        (1..=(digits - 1) / 3).for_each(|group| written.insert(digits - 3 * group, ','));
    }
    written
}

impl Kitchen {
    /// Everything in it that can't be; empty if it can be used.
    #[must_use]
    pub fn check(&self) -> Vec<FieldError> {
        let mut faults = Faults::default();
        let lists = [
            self.figures.len(),
            self.produce.len(),
            self.ingredients.len(),
            self.vessels.len(),
            self.larder.len(),
            self.mixtures.len(),
        ];
        if lists.into_iter().any(|n| n > MOST_ENTRIES) {
            faults.add("", "That is too much for a kitchen. Enter less.");
        }
        self.check_figures(&mut faults);
        self.check_produce(&mut faults);
        self.check_ingredients(&mut faults);
        self.check_vessels(&mut faults);
        self.check_larder(&mut faults);
        self.check_mixtures(&mut faults);
        self.check_readings(&mut faults);
        self.check_lots(&mut faults);
        self.check_the_rest(&mut faults);
        faults.0
    }

    fn check_figures(&self, faults: &mut Faults) {
        let builtin = Cupboard::builtin();
        for (id, own) in &self.figures {
            if builtin.ingredient(id).is_none() && !self.ingredients.iter().any(|it| it.id == *id) {
                faults.add(format!("figures.{id}"), format!("There is no ingredient “{id}”."));
            }
            for (name, value, limits, unit) in [
                ("density", own.density, (0.02, 3.0), "g in a millilitre"),
                ("sugar", own.sugar, (0.0, 100.0), "g in 100 g"),
                ("acid", own.acid, (0.0, 100.0), "g in 100 g"),
                ("keeps", own.keeps, (0.0, 40.0), "g for each gram"),
                ("keeps_cooked", own.keeps_cooked, (0.0, 40.0), "g for each gram"),
                ("keeps_blended", own.keeps_blended, (0.0, 40.0), "g for each gram"),
                ("drawing_minutes", own.drawing_minutes, (0.1, 1440.0), "minutes"),
            ] {
                faults.within(format!("figures.{id}.{name}"), value, limits, unit);
            }
        }
    }

    fn check_produce(&self, faults: &mut Faults) {
        for (key, own) in &self.produce {
            if Cupboard::builtin().size_named(key).is_none() {
                faults.add(format!("produce.{key}"), format!("There is no produce “{key}”."));
            }
            for (name, value) in
                [("whole_g", own.whole_g), ("juice_ml", own.juice_ml), ("zest_g", own.zest_g)]
            {
                faults.within(format!("produce.{key}.{name}"), value, (0.01, 20_000.0), "");
            }
        }
    }

    fn check_ingredients(&self, faults: &mut Faults) {
        for (i, it) in self.ingredients.iter().enumerate() {
            let at = format!("ingredients[{i}]");
            let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '_';
            if !it.id.starts_with("own_") || it.id.len() > 60 || !it.id.chars().all(plain) {
                faults.add(
                    format!("{at}.id"),
                    "Enter an id of own_ followed by small letters, digits or _.",
                );
            }
            if self.ingredients[..i].iter().any(|other| other.id == it.id) {
                faults.add(format!("{at}.id"), format!("Two ingredients have the id “{}”.", it.id));
            }
            if !is_a_name(&it.name, 80) {
                faults.add(format!("{at}.name"), "Enter a name of up to 80 characters.");
            }
            let parts = [it.sugar, it.acid, it.alcohol, it.insoluble];
            if parts.into_iter().any(|v| !v.is_finite() || !(0.0..=100.0).contains(&v))
                || it.sugar + it.acid + it.insoluble + it.alcohol * 0.8 > 100.0
            {
                let name = &it.name;
                let message =
                    format!("The parts of 100 g {name} add up to more than 100 g. Enter less.");
                faults.add(at.clone(), message);
            }
            faults.within(format!("{at}.density"), it.density, (0.02, 3.0), "g in a millilitre");
        }
    }

    fn check_vessels(&self, faults: &mut Faults) {
        for (i, vessel) in self.vessels.iter().enumerate() {
            let at = format!("vessels[{i}]");
            if !is_a_name(&vessel.name, 60) {
                faults.add(format!("{at}.name"), "Enter a vessel name of up to 60 characters.");
            }
            let holds = vessel.capacity.as_millilitres();
            if !holds.is_some_and(|ml| (10.0..=200_000.0).contains(&ml)) {
                faults.add(format!("{at}.capacity"), "Enter 10 ml to 200 l.");
            }
            faults.within(format!("{at}.diameter_mm"), vessel.diameter_mm, (20.0, 1000.0), "mm");
            faults.within(format!("{at}.count"), f64::from(vessel.count), (1.0, 200.0), "");
        }
    }

    fn check_larder(&self, faults: &mut Faults) {
        for (id, larder) in &self.larder {
            let at = |name: &str| format!("larder.{id}.{name}");
            faults.within(at("have"), larder.have, (0.0, 1e6), "");
            faults.within(at("pack"), larder.pack, (0.01, 1e6), "");
            faults.within(at("price"), larder.price, (0.0, 1e6), "");
        }
    }

    fn check_mixtures(&self, faults: &mut Faults) {
        for (i, kept) in self.mixtures.iter().enumerate() {
            let twice = self.mixtures[..i].iter().any(|other| other.id == kept.id);
            if twice || !kept.is_sound() || !is_a_name(&kept.name, 120) {
                faults.add(format!("mixtures[{i}]"), "Choose an ingredient you can make and keep.");
            }
        }
    }

    fn check_readings(&self, faults: &mut Faults) {
        for (i, reading) in self.readings.iter().enumerate() {
            let at = format!("readings[{i}]");
            let fruit = Cupboard::builtin().size_named(&reading.produce);
            if fruit.and_then(|(_, size)| size.juice).is_none() {
                let message = format!("“{}” isn't a fruit you can squeeze.", reading.produce);
                faults.add(format!("{at}.produce"), message);
            }
            if reading.day.chars().count() > 40 || reading.day.chars().any(char::is_control) {
                faults.add(format!("{at}.day"), "Enter a date such as 2026-06-21.");
            }
            for (name, value, limits) in [
                ("pieces", Some(reading.pieces), (0.25, 1000.0)),
                ("juice_ml", Some(reading.juice_ml), (0.5, 200_000.0)),
                ("brix", reading.brix, (0.5, 40.0)),
                ("acidity", reading.acidity, (0.02, 12.0)),
            ] {
                faults.within(format!("{at}.{name}"), value, limits, "");
            }
        }
        faults.no_more_than(MOST_READINGS, self.readings.len(), "readings");
    }

    fn check_lots(&self, faults: &mut Faults) {
        for (i, lot) in self.lots.iter().enumerate() {
            let at = format!("lots[{i}]");
            if lot.batch.chars().count() > 60 || lot.day.chars().count() > 40 {
                faults.add(at.clone(), "Enter a batch and a date.");
            }
            for (name, value, limits) in [
                ("factor", lot.factor, (0.2, 5.0)),
                ("sd", lot.sd, (0.001, 3.0)),
                ("between", lot.between, (0.001, 1.0)),
            ] {
                faults.within(format!("{at}.{name}"), value, limits, "");
            }
        }
        faults.no_more_than(MOST_READINGS, self.lots.len(), "lots");
    }

    /// The water, the money, what is measured with, and how fast pots lose water.
    fn check_the_rest(&self, faults: &mut Faults) {
        let carbonate = self.water.map(|water| water.hydrogen_carbonate);
        let limits = (0.0, super::MOST_CARBONATE);
        faults.within("water.hydrogen_carbonate".into(), carbonate, limits, "mg/l");
        if self.currency.chars().count() > 6 || self.currency.chars().any(char::is_control) {
            faults.add("currency", "Enter up to 6 characters.");
        }
        faults.within("measuring.scale_g".into(), self.measuring.scale_g, (0.01, 100.0), "g");
        faults.within("measuring.jug_ml".into(), self.measuring.jug_ml, (0.5, 500.0), "ml");
        faults.within("boil_off".into(), self.boil_off, (0.2, 5.0), "");
    }
}

#[cfg(test)]
mod tests {
    use super::thousands;

    #[test]
    fn limits_are_written_as_people_write_them() {
        assert_eq!(
            [0.01, 1440.0, 20_000.0, 1e6].map(thousands),
            ["0.01", "1440", "20,000", "1,000,000"]
        );
    }
}
