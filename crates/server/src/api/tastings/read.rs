//! A tasting as it is kept, read; and what lists show of it.

use std::collections::BTreeMap;

use keen_core::drink::Family;
use keen_core::taste::ideal::Sip;
use keen_core::taste::sitting::{Sitting, Stage, Table, Tasted, Tells, Utterance};
use keen_formats::Format;
use keen_store::{KeptTasting, KeptWord, Store, StoreError};
use serde::{Deserialize, Serialize};

use super::super::Problem;
pub(crate) const TASTING: Format =
    Format { name: "keen-pitcher/tasting", field: "tasting", steps: &[] };
/// The field of a tasting in a backup that what its glasses hold is encrypted in.
pub(crate) const SEALED: &str = "sealed";
pub(crate) const WORD: Format = Format { name: "keen-pitcher/word", field: "word", steps: &[] };

/// What lists show of a tasting, and what it says of ideals.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
#[serde(default)]
pub(crate) struct Summary {
    /// "ladder", "find", …
    pub(super) what: String,
    pub(super) stage: String,
    pub(super) tasters: Vec<String>,
    pub(super) done: u32,
    pub(super) of: Option<u32>,
    pub(super) family: Option<Family>,
    pub(super) sips: BTreeMap<String, Vec<Sip>>,
    /// In a sentence, if there is something to tell.
    pub(super) tells: String,
}

/// A tasting as it was read.
pub(crate) struct ReadTasting {
    pub(super) kept: KeptTasting,
    pub(super) sitting: Sitting,
    pub(super) said: Vec<Utterance>,
}

impl ReadTasting {
    pub(crate) fn of((kept, words): (KeptTasting, Vec<KeptWord>)) -> Result<Self, Problem> {
        let told = |why: keen_formats::FormatError| {
            if kept.body.contains(&format!("\"{SEALED}\":")) {
                return Problem::sealed_elsewhere();
            }
            Problem::damaged_tasting(&why.to_string())
        };
        let sitting = TASTING.read(&kept.body).map_err(told)?;
        let read = |word: &KeptWord| WORD.read(&word.body).map_err(told);
        let said = words.iter().map(read).collect::<Result<_, _>>()?;
        Ok(Self { kept, sitting, said })
    }

    /// Whether it holds what those who taste mustn't know yet.
    pub(crate) fn is_secret(&self) -> bool {
        self.table().is_secret()
    }

    pub(super) fn table(&self) -> Table<'_> {
        Table::of(&self.sitting, &self.said)
    }

    /// What lists show of it, as text. `tells` is what it tells: a screen wants it as well, and it is dear.
    pub(crate) fn summary(&self, tells: &Tells) -> String {
        let table = self.table();
        let seats = table.seats();
        let of = seats.iter().map(|seat| seat.of).sum::<Option<u32>>();
        let sips = table.sips();
        let sips = self.sitting.tasters.iter().cloned().zip(sips);
        let summary = Summary {
            what: what(&self.sitting.kind).to_owned(),
            stage: stage(table.stage()).to_owned(),
            tasters: self.sitting.tasters.clone(),
            done: seats.iter().map(|seat| seat.done).sum(),
            of: of.filter(|of| *of > 0),
            family: table.family(),
            sips: sips.filter(|(_, sips)| !sips.is_empty()).collect(),
            tells: say(&self.sitting, tells),
        };
        serde_json::to_string(&summary).unwrap_or_default()
    }
}

/// Codes and orders of tastings that an older program set up are worked out once more, the way they always were,
/// and kept: from then on no program deals them anew. A tasting that can't be read is left as it is.
pub(in crate::api) fn deal_older(store: &Store) -> Result<(), StoreError> {
    for id in store.tastings_not_dealt()? {
        let Ok(mut read) = ReadTasting::of(store.tasting(&id)?) else { continue };
        read.sitting.deal_as_older();
        let words: Vec<(usize, String)> = read
            .table()
            .choices_to_keep()
            .into_iter()
            .map(|(place, word)| (place, WORD.write(&word)))
            .collect();
        store.keep_dealt(&id, &TASTING.write(&read.sitting), &words)?;
    }
    Ok(())
}

fn what(kind: &Tasted) -> &'static str {
    match kind {
        Tasted::Ladder { .. } => "ladder",
        Tasted::Find(_) => "find",
        Tasted::Compare(_) => "compare",
        Tasted::Tongue(_) => "tongue",
        Tasted::Guess(_) => "guess",
        Tasted::Order { .. } => "order",
        Tasted::Match { .. } => "match",
        Tasted::Pitcher { .. } => "pitcher",
    }
}

fn stage(stage: Stage) -> &'static str {
    match stage {
        Stage::Pouring => "pouring",
        Stage::Sealed => "sealed",
        Stage::Open => "open",
        Stage::Over => "over",
    }
}

/// What a tasting tells, in a sentence for a list.
fn say(sitting: &Sitting, tells: &Tells) -> String {
    if let Some(verdict) = tells.verdict.as_ref().filter(|v| v.tastings > 0) {
        return verdict.words.clone();
    }
    if let Some(group) = &tells.group {
        return format!("All together: {}.", group.words.trim_end_matches('.'));
    }
    if let Tasted::Find(_) = sitting.kind
        && let Some(ideal) = tells.ideals.first()
    {
        let mut letters = ideal.words.trim_end_matches('.').chars();
        let first = letters.next().map(|c| c.to_uppercase().to_string()).unwrap_or_default();
        return format!("{first}{}.", letters.as_str());
    }
    String::new()
}
