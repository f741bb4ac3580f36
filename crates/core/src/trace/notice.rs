use serde::Serialize;

use crate::quantity::Minutes;

/// A notice about a step.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Notice {
    /// The kind of notice.
    pub kind: NoticeKind,
    /// The importance.
    pub severity: Severity,
    /// A sentence or two: what happens and what would help.
    pub message: String,
}

/// The kind of notice.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum NoticeKind {
    /// Sugar or powder is left that the liquid won't take.
    Undissolved,
    /// It dissolves, but slowly in the cold.
    SlowToDissolve,
    /// More is dissolved than the cold liquid holds for long.
    WillCrystallise,
    /// A vessel is over its brim.
    OverBrim,
    /// More is in it already than the line to top up to.
    TopUpExceeded,
    /// A measure that the ingredient doesn't come in.
    UnknownMeasure,
    /// There is nothing to pour.
    NothingThere,
    /// There is less than was asked for.
    FallsShort,
    /// What lies in it has drunk up the liquid.
    AllAbsorbed,
    /// It would boil before it gets that hot.
    BoilsFirst,
    /// The water boils away.
    BoilsDry,
    /// It can't get that cold there.
    StaysWarmer,
    /// Hot liquid in a closed blender.
    HotInBlender,
    /// Acid juice in liquid hot enough to cook it.
    JuiceIntoHot,
    /// Zest, leaves or flowers in boiling syrup.
    ZestIntoBoiling,
    /// Bitterness can be tasted.
    Bitter,
    /// Acid in a vessel of bare metal.
    AcidInMetal,
    /// A boiling pot or a hot blender is fuller than is safe.
    TooFullForThat,
    /// More than a house can hold has come together in one place.
    MoreThanAHouseHolds,
    /// It is boiled down further than that already.
    BoiledDownAlready,
    /// It will set or turn to caramel before it gets that far.
    TooThick,
    /// Fizz is lost because it goes into something warm, or is stirred or heated.
    LosesFizz,
    /// Ice goes into something so warm that none of it is left.
    IceMeltsAway,
    /// Milk and acid in the warm.
    Curdles,
    /// It is strained while part of it is still frozen.
    StillFrozen,
    /// It stays soft in the freezer.
    StaysSoft,
    /// Something perishable has stood warm for hours.
    LeftWarm,
    /// A sweetener or seed that needs longer or other handling.
    NeedsTime,
}

/// The importance of a notice.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Severity {
    /// Good to know.
    Hint,
    /// Worth a change.
    Notice,
    /// It won't work as written.
    Stop,
}

/// "a minute", "12 minutes".
pub(super) fn say_minutes(minutes: Minutes) -> String {
    let whole = minutes.0.round();
    match whole {
        ..=1.0 => "a minute".to_owned(),
        ..120.0 => format!("{whole:.0} minutes"),
        _ => format!("{:.0} hours", whole / 60.0),
    }
}

impl Notice {
    pub(crate) fn new(kind: NoticeKind, message: String) -> Self {
        use NoticeKind as K;
        let severity = match kind {
            K::SlowToDissolve
            | K::StaysWarmer
            | K::BoilsFirst
            | K::WillCrystallise
            | K::BoiledDownAlready
            | K::StaysSoft
            | K::NeedsTime => Severity::Hint,
            K::Undissolved
            | K::FallsShort
            | K::TopUpExceeded
            | K::JuiceIntoHot
            | K::ZestIntoBoiling
            | K::Bitter
            | K::LosesFizz
            | K::IceMeltsAway
            | K::Curdles
            | K::StillFrozen
            | K::TooThick => Severity::Notice,
            K::OverBrim
            | K::MoreThanAHouseHolds
            | K::LeftWarm
            | K::UnknownMeasure
            | K::NothingThere
            | K::AllAbsorbed
            | K::BoilsDry
            | K::HotInBlender
            | K::TooFullForThat
            | K::AcidInMetal => Severity::Stop,
        };
        Self { kind, severity, message }
    }
}

/// A mass as a cook reads it off a scale.
pub(crate) fn say_grams(grams: f64) -> String {
    match grams {
        g if g < 10.0 => format!("{g:.1} g"),
        g if g < 1000.0 => format!("{g:.0} g"),
        g => format!("{:.2} kg", g / 1000.0),
    }
}

/// A volume as a cook reads it off a jug.
pub(crate) fn say_ml(ml: f64) -> String {
    match ml {
        v if v < 10.0 => format!("{v:.1} ml"),
        v if v < 1000.0 => format!("{v:.0} ml"),
        v => format!("{:.2} l", v / 1000.0),
    }
}
