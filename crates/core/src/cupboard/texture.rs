//! What something is like to the liquid that it lies in: how fast it gives up what it holds, when its cells
//! break, and what it keeps when it is strained.
//!
//! A raw strawberry keeps its juice; cooked, thawed or crushed it is a bag of liquid that runs out until
//! the pulp holds no more. So there are two figures for what pieces keep, whole and broken, and one for the
//! pulp of what was blended. All of them are kitchen practice with a range; one's own readings replace them.

use serde::{Deserialize, Serialize};

use super::{Estimated, Kind, Press};
use crate::chemistry::{Component, Mixture};

/// The figures of a texture.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Texture {
    /// Whose figures they are.
    pub kind: TextureKind,
    /// Minutes at 95 °C until 63 % of what can be drawn has been.
    pub minutes: Estimated,
    /// The share that comes out at all when cold (5 °C).
    pub cold: Estimated,
    /// The share that comes out at all when boiling.
    pub hot: Estimated,
    /// Minutes at 95 °C until 63 % of its cells are broken; none for what keeps its shape.
    pub cooked_minutes: Option<f64>,
    /// Liquid that a gram of it keeps when drained, its own juice counted, g: raw and whole.
    pub held_raw: Estimated,
    /// The same when its cells are broken, by heat, frost or sugar.
    pub held_broken: Estimated,
    /// Pressed with a spoon it keeps so much of that.
    pub pressed_share: f64,
    /// Wrung out.
    pub wrung_share: f64,
    /// Liquid that the pulp of a gram of it keeps when it was blended and is drained, g.
    pub pulp: Estimated,
    /// What sugar does to it; none for what is dry.
    pub under_sugar: Option<SugarDraw>,
}

/// What lying under sugar draws out, in the refrigerator; at room temperature it goes twice as fast.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SugarDraw {
    /// The share that comes out at last, under half its weight of sugar or more.
    pub most: f64,
    /// Hours until 63 % of that has.
    pub hours: f64,
    /// The share of its aroma that goes along.
    pub oil: f64,
}

/// What something is like.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum TextureKind {
    Berry,
    StoneFruit,
    SoftFruit,
    Melon,
    FirmFruit,
    CitrusFlesh,
    WholeCitrus,
    Zest,
    Peel,
    FirmPeel,
    SqueezedHalves,
    Root,
    Stem,
    Leaf,
    Petal,
    Calyx,
    DriedCalyx,
    DriedLeaf,
    Spice,
    SwellingSeed,
    Grain,
    Nut,
}

impl TextureKind {
    /// Whether it is usually cut before it is put in: roots, peel and stems. Fruit is as well.
    #[must_use]
    pub(crate) fn is_sliced(self) -> bool {
        matches!(
            self,
            Self::Root
                | Self::Stem
                | Self::Peel
                | Self::FirmPeel
                | Self::Zest
                | Self::SqueezedHalves
        )
    }

    /// That of a sort of thing of which no more is known.
    pub(super) fn usual(kind: Kind, dry: bool) -> Self {
        match kind {
            Kind::Zest => Self::Zest,
            Kind::Peel => Self::Peel,
            Kind::Root => Self::Root,
            Kind::Stem => Self::Stem,
            Kind::Herb | Kind::Flower if dry => Self::DriedLeaf,
            Kind::Herb => Self::Leaf,
            Kind::Flower => Self::Petal,
            Kind::Spice => Self::Spice,
            Kind::Seed => Self::SwellingSeed,
            Kind::Grain => Self::Grain,
            Kind::Nut => Self::Nut,
            _ => Self::SoftFruit,
        }
    }
}

impl Texture {
    /// Liquid that a gram put in keeps, where the share `broken` of its cells is.
    #[must_use]
    pub fn held(&self, broken: f64, press: Press) -> f64 {
        let drained = self.held_raw.value + (self.held_broken.value - self.held_raw.value) * broken;
        drained * self.press_share(press)
    }

    fn press_share(&self, press: Press) -> f64 {
        match press {
            Press::Drained => 1.0,
            Press::Pressed => self.pressed_share,
            Press::Wrung => self.wrung_share,
        }
    }

    /// Books what its pulp will keep, in what a gram is made of. What floats in a juice keeps nine times
    /// its weight (estimate 6–14).
    pub(super) fn book(&self, per_gram: &mut Mixture, in_pieces: bool) {
        per_gram[Component::PulpHold] =
            if in_pieces { self.pulp.value } else { 9.0 * per_gram[Component::Insoluble] };
    }
}

#[cfg(test)]
mod tests {
    use super::super::tables::read_textures;
    use super::*;

    #[test]
    fn broken_cells_keep_less_than_whole_ones_and_pressing_takes_more_out() {
        for (texture, reason) in read_textures() {
            let kind = texture.kind;
            assert!(
                reason.contains("estimated") || reason.contains("published"),
                "{kind:?} has no reason"
            );
            for figure in [texture.minutes, texture.held_raw, texture.held_broken, texture.pulp] {
                assert!(
                    figure.low < figure.value && figure.value < figure.high,
                    "{kind:?}: {figure:?}"
                );
            }
            if texture.cooked_minutes.is_some() {
                assert!(texture.held(1.0, Press::Drained) < texture.held(0.0, Press::Drained));
            }
            let by = |press| texture.held(1.0, press);
            assert!(by(Press::Drained) > by(Press::Pressed), "{kind:?}");
            assert!(by(Press::Pressed) > by(Press::Wrung), "{kind:?}");
        }
    }
}
