use serde::{Deserialize, Serialize};

use super::Profile;
use crate::drink::Family;
use crate::trace::Contents;

/// The balance map, on which a drink is a point.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct BalanceMap {
    /// Sweetness at the right edge, g in 100 g.
    pub sweetness_max: f64,
    /// Acidity at the upper edge, g in 100 g.
    pub acidity_max: f64,
    /// Wedges between rays of equal ratio, from tart to sweet.
    pub bands: Vec<Band>,
    /// Drinks below this are watery or dry, g in 100 g.
    pub thin_below: f64,
    /// Drinks above this are syrupy, g in 100 g.
    pub dense_above: f64,
    /// The usual range of this family.
    pub typical: Typical,
    /// The place of this drink; missing while there is nothing to drink.
    pub point: Option<MapPoint>,
}

/// A named wedge of the map.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Band {
    /// Its usual name.
    pub name: String,
    /// The lowest sugar–acid ratio in the band.
    pub ratio_from: f64,
    /// The highest sugar–acid ratio in the band; missing for the last band.
    pub ratio_to: Option<f64>,
    /// Its middle: the safest place to aim at.
    pub ratio_middle: f64,
}

impl Band {
    /// The middle of the first band, which begins at nought, lies this part of its end up; that of the
    /// last, which has no end, so many times its beginning. As wide, told as ratios, as the bands between.
    const FIRST: f64 = 0.72;
    const LAST: f64 = 1.3;

    fn between(name: &str, from: f64, to: Option<f64>) -> Self {
        let end = to.unwrap_or(from * Self::LAST);
        let begin = if from > 0.0 { from } else { end * Self::FIRST };
        Self {
            name: name.to_owned(),
            ratio_from: from,
            ratio_to: to,
            ratio_middle: (begin + end) / 2.0,
        }
    }
}

/// The usual range of a family of drinks, g in 100 g.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Typical {
    /// Least sweetness.
    pub sweetness_from: f64,
    /// Most sweetness.
    pub sweetness_to: f64,
    /// Least acidity.
    pub acidity_from: f64,
    /// Most acidity.
    pub acidity_to: f64,
    /// Its middle.
    pub middle: Spot,
}

/// A point on the map, or a direction across it.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Spot {
    /// g in 100 g.
    pub sweetness: f64,
    /// g in 100 g.
    pub acidity: f64,
}

impl Spot {
    /// Where the liquid in a vessel is.
    #[must_use]
    pub fn of(contents: &Contents) -> Self {
        let liquid = &contents.liquid;
        Self { sweetness: liquid.sweetness_percent(), acidity: liquid.acidity_percent() }
    }

    /// Sugar–acid ratio; infinite without acid.
    #[must_use]
    pub fn ratio(self) -> f64 {
        self.sweetness / self.acidity
    }
}

impl MapPoint {
    /// Its place alone.
    #[must_use]
    pub fn spot(&self) -> Spot {
        Spot { sweetness: self.sweetness, acidity: self.acidity }
    }
}

/// A drink on the map.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct MapPoint {
    /// g in 100 g.
    pub sweetness: f64,
    /// g in 100 g.
    pub acidity: f64,
    /// The band that it is in; missing without acid.
    pub band: Option<String>,
    /// The strength of its taste.
    pub strength: Strength,
    /// For a syrup: the parts of water to one part by volume at which the map shows it.
    pub thinned_with: Option<f64>,
}

/// The strength of a drink's taste, at any ratio.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Strength {
    /// Little sugar and little acid.
    Watery,
    /// Little sugar, though there is acid.
    Dry,
    /// As drinks are.
    Full,
    /// So much sugar that it coats the mouth.
    Syrupy,
}

/// The ratios between tart, bright, round and sweet, and the plate, for a family.
///
/// Calibrated on ordinary drinks of each kind: lemonades at 8–13 g and 0.4–0.8 %, where under 12 is
/// tart and over 26 sweet; blended fruit waters at 5–11 g and 0.1–0.25 %, where 40 to 60 is normal;
/// hibiscus and other infusions at 7–12 g and 0.25–0.45 %. Sodas are judged as lemonade; syrups as
/// thinned to 10 g, where many are milder than lemonade (0.2–0.7 %, estimate).
struct Ground {
    ratios: [f64; 3],
    typical: Typical,
    acidity_max: f64,
}

fn ground(family: Family) -> Ground {
    let typical = |sweetness_from: f64, sweetness_to, acidity_from: f64, acidity_to| Typical {
        sweetness_from,
        sweetness_to,
        acidity_from,
        acidity_to,
        middle: Spot {
            sweetness: (sweetness_from + sweetness_to) / 2.0,
            acidity: (acidity_from + acidity_to) / 2.0,
        },
    };
    match family {
        Family::Lemonade | Family::Soda => Ground {
            ratios: [12.0, 18.0, 26.0],
            typical: typical(8.0, 13.0, 0.4, 0.8),
            acidity_max: 1.0,
        },
        Family::Syrup => Ground {
            ratios: [14.0, 22.0, 36.0],
            typical: typical(8.0, 13.0, 0.2, 0.7),
            acidity_max: 1.0,
        },
        Family::FruitWater => Ground {
            ratios: [25.0, 40.0, 65.0],
            typical: typical(5.0, 11.0, 0.1, 0.25),
            acidity_max: 0.4,
        },
        Family::Infusion => Ground {
            ratios: [17.0, 24.0, 34.0],
            typical: typical(7.0, 12.0, 0.25, 0.45),
            acidity_max: 0.7,
        },
    }
}

const NAMES: [&str; 4] = ["tart", "bright", "round", "sweet"];
const THIN_BELOW: f64 = 5.0;
const DENSE_ABOVE: f64 = 16.0;
/// Acid enough to be tasted in a thin drink, g in 100 g.
const TASTED_ACIDITY: f64 = 0.2;
/// The sweetness to which a syrup is thought thinned when it is judged, g in 100 g.
const AS_DRUNK: f64 = 10.0;

impl BalanceMap {
    /// The family's map with a drink on it.
    #[must_use]
    pub fn of(family: Family, profile: Option<&Profile>) -> Self {
        let ground = ground(family);
        let point = profile.map(|p| place(family, &ground, p));
        let edge = |usual: f64, found: Option<f64>| match found {
            // Room round a point that lies beyond the usual plate, in whole ticks of an eighth.
            Some(value) if value > usual * 0.94 => {
                let tick = usual / 8.0;
                ((value * 1.1 / tick).ceil() * tick).min(100.0)
            }
            _ => usual,
        };
        let bands = NAMES
            .iter()
            .enumerate()
            .map(|(i, name)| {
                let from = if i == 0 { 0.0 } else { ground.ratios[i - 1] };
                Band::between(name, from, ground.ratios.get(i).copied())
            })
            .collect();
        Self {
            sweetness_max: edge(DENSE_ABOVE, point.as_ref().map(|p| p.sweetness)),
            acidity_max: edge(ground.acidity_max, point.as_ref().map(|p| p.acidity)),
            bands,
            thin_below: THIN_BELOW,
            dense_above: DENSE_ABOVE,
            typical: ground.typical,
            point,
        }
    }
}

fn place(family: Family, ground: &Ground, profile: &Profile) -> MapPoint {
    let (mut sweetness, mut acidity) = (profile.sweetness_percent, profile.acidity_percent);
    let mut thinned_with = None;
    if family == Family::Syrup && sweetness > DENSE_ABOVE {
        // One gram becomes sweetness / AS_DRUNK grams; by volume the syrup's density counts.
        let share = AS_DRUNK / sweetness;
        let grams_per_ml = profile.sweetness_g_per_l / profile.sweetness_percent / 10.0;
        thinned_with = Some((1.0 / share - 1.0) * grams_per_ml);
        sweetness *= share;
        acidity *= share;
    }
    let band = profile.ratio.map(|ratio| {
        let i = ground.ratios.iter().take_while(|limit| ratio >= **limit).count();
        NAMES[i].to_owned()
    });
    let strength = if sweetness > DENSE_ABOVE {
        Strength::Syrupy
    } else if sweetness >= THIN_BELOW {
        Strength::Full
    } else if acidity >= TASTED_ACIDITY {
        Strength::Dry
    } else {
        Strength::Watery
    };
    MapPoint { sweetness, acidity, band, strength, thinned_with }
}
