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

impl Kitchen {
    /// Everything in it that can't be; empty if it can be used.
    #[must_use]
    pub fn check(&self) -> Vec<FieldError> {
        let mut errors = Vec::new();
        let mut fault = |field: String, message: String| errors.push(FieldError { field, message });
        let builtin = Cupboard::builtin();
        let within = |value: Option<f64>, from: f64, to: f64| {
            value.is_none_or(|v| v.is_finite() && (from..=to).contains(&v))
        };
        let lists = [
            self.figures.len(),
            self.produce.len(),
            self.ingredients.len(),
            self.vessels.len(),
            self.larder.len(),
            self.mixtures.len(),
        ];
        if lists.into_iter().any(|n| n > MOST_ENTRIES) {
            fault(String::new(), "That is too much for a kitchen. Enter less.".into());
        }
        for (id, own) in &self.figures {
            if builtin.ingredient(id).is_none() && !self.ingredients.iter().any(|it| it.id == *id) {
                fault(format!("figures.{id}"), format!("There is no ingredient “{id}”."));
            }
            for (name, value, from, to, unit) in [
                ("density", own.density, 0.02, 3.0, "g in a millilitre"),
                ("sugar", own.sugar, 0.0, 100.0, "g in 100 g"),
                ("acid", own.acid, 0.0, 100.0, "g in 100 g"),
                ("keeps", own.keeps, 0.0, 40.0, "g for each gram"),
                ("keeps_cooked", own.keeps_cooked, 0.0, 40.0, "g for each gram"),
                ("keeps_blended", own.keeps_blended, 0.0, 40.0, "g for each gram"),
                ("drawing_minutes", own.drawing_minutes, 0.1, 1440.0, "minutes"),
            ] {
                if !within(value, from, to) {
                    fault(format!("figures.{id}.{name}"), format!("Enter {from} to {to} {unit}."));
                }
            }
        }
        for (key, own) in &self.produce {
            if builtin.size_named(key).is_none() {
                fault(format!("produce.{key}"), format!("There is no produce “{key}”."));
            }
            for (name, value) in
                [("whole_g", own.whole_g), ("juice_ml", own.juice_ml), ("zest_g", own.zest_g)]
            {
                if !within(value, 0.01, 20_000.0) {
                    fault(format!("produce.{key}.{name}"), "Enter 0.01 to 20,000.".into());
                }
            }
        }
        for (i, it) in self.ingredients.iter().enumerate() {
            let at = format!("ingredients[{i}]");
            let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '_';
            if !it.id.starts_with("own_") || it.id.len() > 60 || !it.id.chars().all(plain) {
                fault(
                    format!("{at}.id"),
                    "Enter an id of own_ followed by small letters, digits or _.".into(),
                );
            }
            if self.ingredients[..i].iter().any(|other| other.id == it.id) {
                fault(format!("{at}.id"), format!("Two ingredients have the id “{}”.", it.id));
            }
            if !is_a_name(&it.name, 80) {
                fault(format!("{at}.name"), "Enter a name of up to 80 characters.".into());
            }
            let parts = [it.sugar, it.acid, it.alcohol, it.insoluble];
            if parts.into_iter().any(|v| !v.is_finite() || !(0.0..=100.0).contains(&v))
                || it.sugar + it.acid + it.insoluble + it.alcohol * 0.8 > 100.0
            {
                fault(
                    at.clone(),
                    format!(
                        "The parts of 100 g {} add up to more than 100 g. Enter less.",
                        it.name
                    ),
                );
            }
            if !within(it.density, 0.02, 3.0) {
                fault(format!("{at}.density"), "Enter 0.02 to 3 g in a millilitre.".into());
            }
        }
        for (i, vessel) in self.vessels.iter().enumerate() {
            let at = format!("vessels[{i}]");
            if !is_a_name(&vessel.name, 60) {
                fault(format!("{at}.name"), "Enter a vessel name of up to 60 characters.".into());
            }
            if !vessel.capacity.as_millilitres().is_some_and(|ml| (10.0..=200_000.0).contains(&ml))
            {
                fault(format!("{at}.capacity"), "Enter 10 ml to 200 l.".into());
            }
            if !within(vessel.diameter_mm, 20.0, 1000.0) {
                fault(format!("{at}.diameter_mm"), "Enter 20 to 1000 mm.".into());
            }
            if vessel.count == 0 || vessel.count > 200 {
                fault(format!("{at}.count"), "Enter 1 to 200.".into());
            }
        }
        if let Some(water) = self.water
            && !(0.0..=super::MOST_CARBONATE).contains(&water.hydrogen_carbonate)
        {
            fault("water.hydrogen_carbonate".into(), "Enter 0 to 1500 mg/l.".into());
        }
        for (id, larder) in &self.larder {
            for (name, value) in
                [("have", Some(larder.have)), ("pack", larder.pack), ("price", larder.price)]
            {
                if !within(value, if name == "pack" { 0.01 } else { 0.0 }, 1e6) {
                    fault(format!("larder.{id}.{name}"), "Enter 0 to 1,000,000.".into());
                }
            }
        }
        for (i, kept) in self.mixtures.iter().enumerate() {
            let at = format!("mixtures[{i}]");
            let twice = self.mixtures[..i].iter().any(|other| other.id == kept.id);
            if twice || !kept.is_sound() || !is_a_name(&kept.name, 120) {
                fault(at, "Choose an ingredient you can make and keep.".into());
            }
        }
        for (i, reading) in self.readings.iter().enumerate() {
            let at = format!("readings[{i}]");
            let gives = builtin.size_named(&reading.produce).and_then(|(_, s)| s.juice);
            if gives.is_none() {
                fault(
                    format!("{at}.produce"),
                    format!("“{}” isn't a fruit you can squeeze.", reading.produce),
                );
            }
            if reading.day.chars().count() > 40 || reading.day.chars().any(char::is_control) {
                fault(format!("{at}.day"), "Enter a date such as 2026-06-21.".into());
            }
            for (name, value, from, to) in [
                ("pieces", Some(reading.pieces), 0.25, 1000.0),
                ("juice_ml", Some(reading.juice_ml), 0.5, 200_000.0),
                ("brix", reading.brix, 0.5, 40.0),
                ("acidity", reading.acidity, 0.02, 12.0),
            ] {
                if !within(value, from, to) {
                    fault(format!("{at}.{name}"), format!("Enter {from} to {to}."));
                }
            }
        }
        for (i, lot) in self.lots.iter().enumerate() {
            let at = format!("lots[{i}]");
            if lot.batch.chars().count() > 60 || lot.day.chars().count() > 40 {
                fault(at.clone(), "Enter a batch and a date.".into());
            }
            for (name, value, from, to) in [
                ("factor", lot.factor, 0.2, 5.0),
                ("sd", lot.sd, 0.001, 3.0),
                ("between", lot.between, 0.001, 1.0),
            ] {
                if !within(Some(value), from, to) {
                    fault(format!("{at}.{name}"), format!("Enter {from} to {to}."));
                }
            }
        }
        if self.lots.len() > MOST_READINGS {
            fault("lots".into(), "That is too many. Enter fewer.".into());
        }
        if self.currency.chars().count() > 6 || self.currency.chars().any(char::is_control) {
            fault("currency".into(), "Enter up to 6 characters.".into());
        }
        if self.readings.len() > MOST_READINGS {
            fault("readings".into(), "That is too many. Enter fewer.".into());
        }
        if !within(self.measuring.scale_g, 0.01, 100.0) {
            fault("measuring.scale_g".into(), "Enter 0.01 to 100 g.".into());
        }
        if !within(self.measuring.jug_ml, 0.5, 500.0) {
            fault("measuring.jug_ml".into(), "Enter 0.5 to 500 ml.".into());
        }
        if !within(self.boil_off, 0.2, 5.0) {
            fault("boil_off".into(), "Enter 0.2 to 5.".into());
        }
        errors
    }
}
