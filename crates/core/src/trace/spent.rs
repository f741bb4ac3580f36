//! How long a step takes, how much of that a person is busy, and where its vessels stand afterwards.

use super::heat::Surrounding;
use crate::drink::CoolingPlace;
use crate::quantity::Minutes;

/// Where a vessel stands when nobody works on it.
#[derive(Debug, Clone, Copy)]
pub(super) struct Place {
    pub(super) surrounding: Surrounding,
    pub(super) lid: bool,
}

impl Place {
    pub(super) fn worktop(lid: bool) -> Self {
        Self { surrounding: CoolingPlace::Worktop.into(), lid }
    }
}

/// How long a step takes, and how much of it is hands-on work.
pub(super) struct Spent {
    pub(super) minutes: Minutes,
    pub(super) hands_on: Minutes,
    /// Where its vessels stand afterwards, if not open on the worktop.
    pub(super) place: Option<Place>,
}

/// What each further glass takes when the same is done to a row of them, minutes. Estimate.
const EACH_MORE: f64 = 0.1;

impl Spent {
    pub(super) fn by_hand(minutes: f64) -> Self {
        Self { minutes: Minutes(minutes), hands_on: Minutes(minutes), place: None }
    }

    /// The kettle boils first, by itself.
    pub(super) fn after_the_kettle(self, boils: Minutes) -> Self {
        Self { minutes: self.minutes + boils, ..self }
    }

    /// The same done to so many glasses in a row.
    pub(super) fn for_alike(self, many: f64) -> Self {
        let more = Minutes(EACH_MORE * (many - 1.0).max(0.0));
        Self { minutes: self.minutes + more, hands_on: self.hands_on + more, ..self }
    }

    pub(super) fn waiting(minutes: Minutes) -> Self {
        Self { minutes, hands_on: minutes.min(Minutes(1.0)), place: None }
    }

    pub(super) fn standing(self, place: Place) -> Self {
        Self { place: Some(place), ..self }
    }

    /// On the ring: someone stirs now and then, a fifth of the time. Estimate.
    pub(super) fn at_the_stove(minutes: Minutes) -> Self {
        let hands_on = (minutes * 0.2).max(Minutes(1.0)).min(minutes);
        Self { minutes, hands_on, place: None }
    }
}
