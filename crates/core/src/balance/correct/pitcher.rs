//! What is in the pitcher: as the trace has it, or as it was read and guessed.

use super::Pitcher;
use crate::chemistry::{Component, Mixture};
use crate::cupboard::Kind;
use crate::fault::FieldError;
use crate::quantity::{Amount, Celsius, Millilitres};
use crate::root;
use crate::trace::{Contents, MEASURED_AT};
use crate::work::Worktop;

/// A vessel whose taste is to be set right.
pub(crate) struct Inside {
    /// The contents.
    pub(crate) contents: Contents,
    /// The capacity to the brim.
    pub(crate) capacity: Millilitres,
    /// The juice that the drink is made of, by its ingredient's id.
    pub(crate) kin: Option<String>,
}

/// What is in the pitcher.
pub(super) fn what_is_in(worktop: Worktop<'_>, pitcher: &Pitcher) -> Result<Inside, FieldError> {
    match pitcher {
        Pitcher::Traced { drink, vessel, step } => {
            let index = drink.vessel(vessel).ok_or_else(|| {
                FieldError::new("pitcher.traced.vessel", format!("There is no vessel “{vessel}”."))
            })?;
            let trace = worktop.trace(drink)?;
            let at = match step {
                Some(id) => drink.steps.iter().position(|s| s.id == *id).ok_or_else(|| {
                    FieldError::new("pitcher.traced.step", format!("There is no step “{id}”."))
                })?,
                None => drink.steps.len().saturating_sub(1),
            };
            let contents = trace.after(at, index).filter(|c| c.liquid.mass().0 > 1.0);
            let contents = contents.cloned().ok_or_else(|| {
                FieldError::new("pitcher.traced.vessel", "That vessel is empty at that step.")
            })?;
            let kin = trace
                .lines
                .iter()
                .map(|l| &worktop.ingredients()[l.ingredient])
                .find(|it| it.kind == Kind::Juice && it.per_gram.titratable_acid() > 0.02)
                .map(|it| it.id.clone());
            Ok(Inside { contents, capacity: drink.vessels[index].capacity(), kin })
        }
        Pitcher::Read { volume, capacity, brix, acidity, ph } => {
            let read = |name: &str, amount: &Amount| {
                let field = format!("pitcher.read.{name}");
                let ml = amount.as_millilitres().ok_or_else(|| {
                    FieldError::new(
                        &field,
                        format!("“{amount}” isn't a volume. Enter it in ml, l or cups."),
                    )
                })?;
                if (10.0..=200_000.0).contains(&ml) {
                    Ok(ml)
                } else {
                    Err(FieldError::new(&field, "Enter 10 ml to 200 l."))
                }
            };
            let (volume_ml, capacity_ml) = (read("volume", volume)?, read("capacity", capacity)?);
            for (name, value, least, most) in
                [("brix", *brix, 0.0, 75.0), ("acidity", *acidity, 0.0, 8.0), ("ph", *ph, 1.5, 9.0)]
            {
                if value.is_some_and(|v| !v.is_finite() || v < least || v > most) {
                    return Err(FieldError::new(
                        &format!("pitcher.read.{name}"),
                        format!("Enter {least} to {most}."),
                    ));
                }
            }
            if capacity_ml < volume_ml {
                return Err(FieldError::new(
                    "pitcher.read.capacity",
                    "Enter a pitcher that holds at least this volume.",
                ));
            }
            let acid = acidity.or_else(|| ph.map(acid_at)).unwrap_or(0.5);
            let liquid = mixed(volume_ml, brix.unwrap_or(10.0).max(acid), acid);
            let mut contents = Contents::default();
            (contents.liquid, contents.temperature) = (liquid, Celsius(20.0));
            Ok(Inside { contents, capacity: Millilitres(capacity_ml), kin: None })
        }
    }
}

/// A mixture of water, sugar and citric acid with those readings; the acid carries as many strong ions
/// as lemon juice does.
pub(super) fn mixed(volume_ml: f64, brix: f64, acid: f64) -> Mixture {
    let part = Mixture::of(&[
        (Component::Citric, acid * 1.03),
        (Component::StrongIons, acid * 0.6),
        (Component::Sucrose, (brix - acid).max(0.0)),
        (Component::Water, 100.0 - brix.max(acid)),
    ]);
    part.share(volume_ml / part.volume(MEASURED_AT).0)
}

/// The strongest that anyone drinks, %: lime juice has 6.
const SOUREST: f64 = 8.0;

/// The acidity of a citrus drink of that pH, %: its acid buffered as lemon juice is. A pH beyond that of
/// the sourest, or of water, is taken as that.
pub(crate) fn acid_at(ph: f64) -> f64 {
    let miss = |acid: f64| mixed(1000.0, 10.0, acid).ph().unwrap_or(7.0) - ph;
    if miss(SOUREST) > 0.0 {
        return SOUREST;
    }
    // In logarithms: from a hundredth of a per cent on, where buffered acid has pH 3.4, it is nearly a
    // straight line, and so it goes on to no acid at all.
    root::find(1e-6_f64.ln(), SOUREST.ln(), 1e-6, |log| miss(log.exp())).map_or(0.0, f64::exp)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn acidity_follows_a_ph_reading_without_a_jump() {
        let mut before = acid_at(1.5);
        assert_eq!(before, SOUREST);
        for step in 1..=600 {
            let now = acid_at(1.5 + f64::from(step) / 100.0);
            assert!(now <= before * 1.0001, "{before} to {now}: it gets no sourer as pH rises");
            // Half a tenth of pH is no more than a third of the acid, except where there is next to none.
            assert!(now > before * 0.6 || before < 0.02, "{before} to {now} at step {step}");
            before = now;
        }
        assert!(before < 1e-3, "{before}");
        let lemonade = mixed(1000.0, 10.0, 0.6);
        assert!((acid_at(lemonade.ph().unwrap()) - 0.6).abs() < 0.005);
    }
}
