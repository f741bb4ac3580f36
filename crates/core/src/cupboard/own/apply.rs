//! The tables with a kitchen's own figures over them.

use super::{KeptMixture, Kitchen, OwnFigures, OwnIngredient, OwnProduce};
use crate::chemistry::{Component, ETHANOL_DENSITY, Mixture};
use crate::cupboard::{
    Cupboard, Estimated, Evidence, FigureSource, Form, Ingredient, Kind, Levels, Measures, Part,
    Pooled, Produce, Size, Yield,
};
use crate::quantity::{Grams, Millilitres};

impl Cupboard {
    /// The tables with a kitchen's own figures over them.
    #[must_use]
    pub fn of(kitchen: &Kitchen) -> Self {
        let mut ingredients = Self::builtin().ingredients().to_vec();
        ingredients.extend(kitchen.ingredients.iter().map(own_ingredient));
        ingredients.extend(kitchen.mixtures.iter().map(KeptMixture::ingredient));
        for it in &mut ingredients {
            if let Some(own) = kitchen.figures.get(&it.id) {
                own.apply(it);
            }
            let own = kitchen.figures.get(&it.id).copied().unwrap_or_default();
            kitchen.apply_lots(it, own);
            if let Some(water) = kitchen.water {
                water.apply(it);
            }
        }
        let mut produce = Self::builtin().produce().to_vec();
        for kind in &mut produce {
            for size in &mut kind.sizes {
                let key = format!("{}/{}", kind.id, size.name);
                if let Some(own) = kitchen.produce.get(&key) {
                    own.apply(size);
                }
                // Readings move what is known, whether that is the table's or one's own.
                Yield::of(size, &key, &kitchen.readings).apply(size);
            }
        }
        learn_strength(&mut ingredients, &produce, kitchen);
        let mut cupboard = Self::new(ingredients, produce);
        cupboard.kitchen = kitchen.clone();
        cupboard
    }

    /// Whether a figure of it was measured here.
    #[must_use]
    pub fn is_own(&self, it: &Ingredient) -> bool {
        self.kitchen.figures.contains_key(&it.id)
    }

    /// Whether it was deleted and stays only because a drink needs it.
    #[must_use]
    pub fn is_kept_for_drinks(&self, it: &Ingredient) -> bool {
        self.kitchen.ingredients.iter().any(|own| own.id == it.id && own.kept_for_drinks)
            || self.kitchen.mixtures.iter().any(|kept| kept.id == it.id && kept.gone)
    }
}

/// What is read of a lot's acid or sugar with a kit or a refractometer is good to this: a standard deviation of its
/// logarithm. Estimate.
const READ_TO: f64 = 0.04;

/// Moves the acid and sugar of juices towards what was read of them, as [`pooled`](super::super::pooled) has it.
fn learn_strength(ingredients: &mut [Ingredient], produce: &[Produce], kitchen: &Kitchen) {
    for it in ingredients.iter_mut().filter(|it| it.kind == Kind::Juice) {
        let fruit: Vec<&Produce> = produce.iter().filter(|p| p.gives.contains(&it.id)).collect();
        let mine = kitchen.readings.iter().filter(|r| {
            let id = r.produce.split('/').next().unwrap_or_default();
            fruit.iter().any(|p| p.id == id && p.gives.first() == Some(&it.id))
        });
        let (mut acid, mut brix) = (Vec::new(), Vec::new());
        for reading in mine {
            acid.extend(reading.acidity);
            brix.extend(reading.brix);
        }
        let towards = |prior: f64, between: f64, read: &[f64]| {
            let own = (READ_TO / between).powi(2);
            let before = Pooled::before(prior.max(1e-6).ln(), between, Levels::LOTS);
            let seen = read.iter().filter(|x| **x > 0.0);
            seen.fold(before, |known, x| known.after(x.ln(), own)).mean.exp()
        };
        let (acids, sugars) = it.lots_differ();
        let own = kitchen.figures.get(&it.id).copied().unwrap_or_default();
        let mut learned = OwnFigures::default();
        if !acid.is_empty() && own.acid.is_none() {
            learned.acid = Some(towards(100.0 * it.per_gram.titratable_acid(), acids, &acid));
        }
        if !brix.is_empty() && own.sugar.is_none() {
            // What a refractometer finds more or less is sugar.
            let more =
                towards(it.per_gram.soluble_solids(), sugars, &brix) - it.per_gram.soluble_solids();
            learned.sugar = Some((100.0 * it.per_gram.sugars().0 + more).max(0.05));
        }
        if learned != OwnFigures::default() {
            learned.apply(it);
        }
    }
}

impl OwnProduce {
    /// Puts these over the table's figures. Where a piece gives otherwise than the table says, it varies
    /// by as large a share.
    fn apply(&self, size: &mut Size) {
        size.measured = true;
        size.whole = self.whole_g.map_or(size.whole, Grams);
        if let (Some(own), Some(table)) = (self.juice_ml, size.juice) {
            size.juice_sd = size.juice_sd.map(|sd| sd * (own / table.0));
        }
        size.juice = self.juice_ml.map(Millilitres).or(size.juice);
        size.zest = self.zest_g.map(Grams).or(size.zest);
    }
}

impl OwnFigures {
    /// Puts these over the table's figures; what then is missing of 100 g, or too much, is water.
    fn apply(&self, it: &mut Ingredient) {
        let mass = it.per_gram.mass().0;
        if let Some(density) = self.density {
            let rate = it.measures.density.map(|old| density / old);
            it.measures.density = Some(density);
            let spoon = |old: Option<f64>| old.zip(rate).map(|(grams, rate)| grams * rate);
            it.measures.tablespoon = spoon(it.measures.tablespoon);
            it.measures.teaspoon = spoon(it.measures.teaspoon);
        }
        if let Some(sugar) = self.sugar {
            scale(&mut it.per_gram, &Component::SUGARS, sugar / 100.0, |m| m.sugars().0);
        }
        if let Some(acid) = self.acid {
            let mut parts = Component::ACIDS.to_vec();
            parts.push(Component::StrongIons);
            scale(&mut it.per_gram, &parts, acid / 100.0, Mixture::titratable_acid);
        }
        let water = &mut it.per_gram[Component::Water];
        *water = 0.0;
        let rest = mass - it.per_gram.mass().0;
        it.per_gram[Component::Water] = rest.max(0.0);
        if rest < 0.0 {
            // A syrup said to be stronger than it can be is taken at its word, and nothing else.
            it.per_gram = it.per_gram.share(mass / it.per_gram.mass().0);
        }
        if let Some(keeps) = self.keeps {
            // Weighed as it was strained, and so much for each gram, whole or broken.
            it.texture.held_raw = Estimated::measured(keeps);
            it.texture.held_broken = Estimated::measured(keeps);
        }
        if let Some(keeps) = self.keeps_cooked {
            it.texture.held_broken = Estimated::measured(keeps);
        }
        if let Some(keeps) = self.keeps_blended {
            it.texture.pulp = Estimated::measured(keeps);
            it.per_gram[Component::PulpHold] = keeps;
        }
        if let Some(minutes) = self.drawing_minutes {
            it.texture.minutes = Estimated::measured(minutes);
        }
        if *self != Self::default() {
            it.evidence = Evidence::Measured;
        }
    }
}

/// Scales components so that together they come to `wanted`; the first of them takes all where there
/// were none.
fn scale(mixture: &mut Mixture, parts: &[Component], wanted: f64, read: impl Fn(&Mixture) -> f64) {
    let now = read(mixture);
    if now <= 1e-9 {
        mixture[parts[0]] += wanted;
        return;
    }
    for part in parts {
        mixture[*part] *= wanted / now;
    }
}

fn own_ingredient(own: &OwnIngredient) -> Ingredient {
    let (sugar, acid, insoluble) = (own.sugar / 100.0, own.acid / 100.0, own.insoluble / 100.0);
    // Crystals are dry: what isn't sugar or acid dissolves as something else.
    let filler = match own.form {
        Form::Crystals => Component::OtherSolids,
        _ => Component::Water,
    };
    let of_density = |density: f64| {
        let mut per_gram = Mixture::of(&[
            (Component::Sucrose, sugar),
            (Component::Citric, acid),
            (Component::Insoluble, insoluble),
            (Component::Ethanol, own.alcohol / 100.0 * ETHANOL_DENSITY / density),
        ]);
        per_gram[filler] += (1.0 - per_gram.mass().0).max(0.0);
        per_gram
    };
    // Alcohol is told by volume, so a gram's share of it hangs on the density, and that on the share.
    let mut per_gram = of_density(1.0);
    for _ in 0..3 {
        per_gram = of_density(per_gram.density_at_20());
    }
    let (flavour, texture) = Cupboard::builtin().alike(own.kind, per_gram[Component::Water] < 0.2);
    let in_pieces = own.form == Form::Pieces;
    flavour.book(&mut per_gram, in_pieces);
    texture.book(&mut per_gram, in_pieces);
    let usual = match own.form {
        Form::Liquid => Some(per_gram.density_at_20()),
        Form::Crystals => Some(0.85),
        Form::Pieces | Form::Ice => None,
    };
    Ingredient {
        id: own.id.clone(),
        name: own.name.clone(),
        aliases: Vec::new(),
        kind: own.kind,
        form: own.form,
        part: Part::default(),
        traits: Vec::new(),
        staples: Vec::new(),
        care: Vec::new(),
        made_of: Vec::new(),
        kept: None,
        allergens: Vec::new(),
        usual_pieces: None,
        halves: None,
        pack: None,
        ph: None,
        infusion_ph: None,
        texture,
        flavour,
        measures: Measures { density: own.density.or(usual), tablespoon: None, teaspoon: None },
        per_gram,
        evidence: Evidence::Measured,
        sources: vec![FigureSource {
            of: "all figures".into(),
            source: "Your own.".into(),
            evidence: Evidence::Measured,
        }],
        notes: String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cupboard::{OwnVessel, VesselKind};

    fn with(id: &str, own: OwnFigures) -> Cupboard {
        let mut kitchen = Kitchen::default();
        kitchen.figures.insert(id.into(), own);
        assert_eq!(kitchen.check(), []);
        Cupboard::of(&kitchen)
    }

    #[test]
    fn own_figures_stand_over_the_tables_and_a_gram_stays_a_gram() {
        let cupboard =
            with("lemon_juice", OwnFigures { acid: Some(6.0), sugar: Some(3.0), ..<_>::default() });
        let lemon = cupboard.ingredient("lemon_juice").unwrap();
        assert!((lemon.per_gram.titratable_acid() - 0.06).abs() < 0.0005);
        assert!((lemon.per_gram.sugars().0 - 0.03).abs() < 1e-9);
        assert!((lemon.per_gram.mass().0 - 1.0).abs() < 1e-4);
        assert_eq!(lemon.evidence, Evidence::Measured);
        let cupboard = with("hibiscus_dried", OwnFigures { keeps: Some(7.2), ..<_>::default() });
        assert_eq!(cupboard.ingredient("hibiscus_dried").unwrap().texture.held_raw.value, 7.2);
    }

    #[test]
    fn a_weighed_cup_changes_spoons_as_well() {
        let cupboard = with("white_sugar", OwnFigures { density: Some(0.9), ..<_>::default() });
        let sugar = cupboard.ingredient("white_sugar").unwrap();
        let cup = cupboard.weigh(sugar, &"1 cup".parse().unwrap()).unwrap().grams;
        assert!((cup.0 - 0.9 * 236.588).abs() < 1e-6);
        let before = Cupboard::builtin().ingredient("white_sugar").unwrap();
        let rate = 0.9 / before.measures.density.unwrap();
        let spoon = cupboard.weigh(sugar, &"1 tbsp".parse().unwrap()).unwrap().grams;
        assert!((spoon.0 / (before.measures.tablespoon.unwrap() * rate) - 1.0).abs() < 1e-9);
    }

    #[test]
    fn a_spirit_of_ones_own_has_the_strength_on_its_label() {
        let own = OwnIngredient {
            id: "own_plum_spirit".into(),
            name: "Plum spirit".into(),
            kind: Kind::Spirit,
            form: Form::Liquid,
            sugar: 0.0,
            acid: 0.0,
            alcohol: 40.0,
            insoluble: 0.0,
            density: None,
            kept_for_drinks: false,
        };
        let gram = own_ingredient(&own).per_gram;
        let by_volume = gram[Component::Ethanol] / ETHANOL_DENSITY * gram.density_at_20();
        assert!((by_volume - 0.40).abs() < 1e-3, "{by_volume}");
        assert!((gram.mass().0 - 1.0).abs() < 1e-9);
    }

    #[test]
    fn what_can_not_be_is_told_with_its_field() {
        let mut kitchen = Kitchen::default();
        kitchen.figures.insert("moondust".into(), OwnFigures::default());
        kitchen
            .figures
            .insert("water".into(), OwnFigures { density: Some(f64::NAN), ..<_>::default() });
        kitchen.produce.insert("lemon/enormous".into(), OwnProduce::default());
        kitchen.vessels.push(OwnVessel {
            name: " ".into(),
            kind: VesselKind::Pot,
            capacity: "2 kg".parse().unwrap(),
            diameter_mm: Some(1.0),
            material: None,
            count: 0,
        });
        let fields: Vec<String> = kitchen.check().into_iter().map(|e| e.field).collect();
        for field in [
            "figures.moondust",
            "figures.water.density",
            "produce.lemon/enormous",
            "vessels[0].name",
            "vessels[0].capacity",
            "vessels[0].diameter_mm",
            "vessels[0].count",
        ] {
            assert!(fields.iter().any(|f| f == field), "{field} in {fields:?}");
        }
    }
}
