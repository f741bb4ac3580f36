use super::{Component, Mixture};

/// kcal per gram by the conversion factors of EU Regulation 1169/2011, Annex XIV. Erythritol, the
/// only sugar alcohol in the tables, counts nothing there.
const KCAL_PER_G: [(Component, f64); 15] = [
    (Component::Sucrose, 4.0),
    (Component::Glucose, 4.0),
    (Component::Fructose, 4.0),
    (Component::Lactose, 4.0),
    (Component::OtherSugar, 4.0),
    (Component::Citric, 3.0),
    (Component::Malic, 3.0),
    (Component::Tartaric, 3.0),
    (Component::Acetic, 3.0),
    (Component::Lactic, 3.0),
    (Component::Ascorbic, 3.0),
    (Component::OtherAcid, 3.0),
    (Component::Ethanol, 7.0),
    (Component::Protein, 4.0),
    (Component::Fat, 9.0),
];

impl Mixture {
    /// Energy in kcal.
    #[must_use]
    pub fn energy_kcal(&self) -> f64 {
        KCAL_PER_G.iter().map(|(c, kcal)| self[*c] * kcal).sum()
    }
}
