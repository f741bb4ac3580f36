use serde::{Deserialize, Serialize};

/// One thing that a mixture holds so much of.
///
/// All are extensive: mixing adds them. Most are grams; the last few are not masses but go with the
/// mass they came with in the same way (see [`Component::is_mass`]).
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[repr(usize)]
pub enum Component {
    /// Water, g.
    Water,
    /// Sucrose, g.
    Sucrose,
    /// Glucose, g.
    Glucose,
    /// Fructose, g.
    Fructose,
    /// Lactose, g.
    Lactose,
    /// Maltose and other sugars, g.
    OtherSugar,
    /// Sugar alcohols, g.
    Polyol,
    /// Citric acid, g. Citrate brought as a salt is booked here too, with its strong ions.
    Citric,
    /// Malic acid, g.
    Malic,
    /// Tartaric acid, g.
    Tartaric,
    /// Acetic acid, g.
    Acetic,
    /// Lactic acid, g.
    Lactic,
    /// Ascorbic acid, g.
    Ascorbic,
    /// Any other acid, g of citric acid that would neutralise as much base.
    OtherAcid,
    /// Ethanol, g.
    Ethanol,
    /// Dissolved carbon dioxide, g.
    CarbonDioxide,
    /// Protein, g.
    Protein,
    /// Fat, g.
    Fat,
    /// Minerals, pectin and all else that dissolves, g.
    OtherSolids,
    /// Suspended matter that does not dissolve, g.
    Insoluble,
    /// Strong cations not matched by strong anions, milliequivalents.
    StrongIons,
    /// Sodium, mg. A fact for the label; its mass is booked elsewhere.
    Sodium,
    /// Potassium, mg. A fact for the label; its mass is booked elsewhere.
    Potassium,
    /// Sweetness of high-intensity sweeteners, g of sucrose that would taste as sweet.
    IntenseSweetness,
    /// Absorbance of red light, per cm, times ml.
    AbsorbRed,
    /// Absorbance of green light, per cm, times ml.
    AbsorbGreen,
    /// Absorbance of blue light, per cm, times ml.
    AbsorbBlue,
    /// Anthocyanins by their absorbance of green light at pH under 3, per cm, times ml.
    Anthocyanin,
    /// Smell of peel, leaf, flower and spice, in the application's own units (see
    /// [`crate::cupboard::Flavour`]): 20 in a litre is clear, 80 strong.
    Aroma,
    /// Bitterness in the liquid, in own units: 1 in a litre is just noticed.
    Bitterness,
    /// Bitterness that still sits in pieces and pulp, in the same units.
    BoundBitterness,
    /// Heat of ginger and pepper, in own units: 5 in a litre is just noticed.
    Pungency,
    /// Liquid that suspended pulp keeps in a strainer, drained, g.
    PulpHold,
    /// What holds the pH besides acids: casein and phosphate of milk, amino acids and phosphate of fruit, mmol
    /// of two groups each (see [`Mixture::ph`](super::Mixture::ph)).
    Buffer,
}

impl Component {
    /// The number of components.
    pub const COUNT: usize = Self::ALL.len();

    /// All, in the order of their discriminants.
    pub const ALL: [Self; 34] = [
        Self::Water,
        Self::Sucrose,
        Self::Glucose,
        Self::Fructose,
        Self::Lactose,
        Self::OtherSugar,
        Self::Polyol,
        Self::Citric,
        Self::Malic,
        Self::Tartaric,
        Self::Acetic,
        Self::Lactic,
        Self::Ascorbic,
        Self::OtherAcid,
        Self::Ethanol,
        Self::CarbonDioxide,
        Self::Protein,
        Self::Fat,
        Self::OtherSolids,
        Self::Insoluble,
        Self::StrongIons,
        Self::Sodium,
        Self::Potassium,
        Self::IntenseSweetness,
        Self::AbsorbRed,
        Self::AbsorbGreen,
        Self::AbsorbBlue,
        Self::Anthocyanin,
        Self::Aroma,
        Self::Bitterness,
        Self::BoundBitterness,
        Self::Pungency,
        Self::PulpHold,
        Self::Buffer,
    ];

    /// The sugars, as a label counts them.
    pub const SUGARS: [Self; 5] =
        [Self::Sucrose, Self::Glucose, Self::Fructose, Self::Lactose, Self::OtherSugar];

    /// The acids that a titration finds. Carbonic acid is not among them.
    pub const ACIDS: [Self; 7] = [
        Self::Citric,
        Self::Malic,
        Self::Tartaric,
        Self::Acetic,
        Self::Lactic,
        Self::Ascorbic,
        Self::OtherAcid,
    ];

    /// Whether it adds to the weight.
    #[must_use]
    pub fn is_mass(self) -> bool {
        (self as usize) < Self::StrongIons as usize
    }
}
