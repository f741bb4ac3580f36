//! What a screen shows of a tasting. What is sealed isn't in it.

use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, Family};
use keen_core::taste::compare::{Prospect, prospect};
use keen_core::taste::find::{Finding, ThreeJugs};
use keen_core::taste::group::{Share, pitchers};
use keen_core::taste::ladder::{Glass, Jug, Ladder, Moves, Row};
use keen_core::taste::reference::{Likely, Reference};
use keen_core::taste::sitting::{Compared, KeyLine, Seat, Stage, Tasted, Tells, Utterance};
use keen_core::taste::tongue::Staircase;
use keen_core::work::{Work, Worktop};
use serde::Serialize;
use utoipa::ToSchema;

use super::super::Problem;
use super::compute;
use super::read::ReadTasting;
use super::tasters::TasterView;

/// A tasting in its present state, without hidden contents.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TastingView {
    id: String,
    name: String,
    /// When it was started, RFC 3339.
    begun_at: String,
    /// The stage of the tasting.
    stage: Stage,
    /// Whether it is blind.
    blind: bool,
    /// The subject of the tasting.
    about: About,
    /// The tasters, without the deleted ones.
    tasters: Vec<TasterView>,
    /// Each taster's present glasses and questions.
    seats: Vec<Seat>,
    /// The results, without hidden contents.
    tells: Tells,
    /// The code of each glass, once revealed.
    key: Vec<KeyLine>,
    /// The glasses of the row, once revealed.
    glasses: Vec<Glass>,
}

/// The tasting, without hidden contents.
#[derive(Debug, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
#[allow(clippy::large_enum_variant, reason = "there is one of it at a time")]
pub(crate) enum About {
    /// A row of glasses.
    Ladder(RowAbout),
    /// A taster's own balance.
    Find(FindAbout),
    /// Two drinks.
    Compare(CompareAbout),
    /// The smallest difference that a taster notices.
    Tongue(TongueAbout),
    /// Guess the balance of a glass.
    Guess(FindAbout),
    /// A row to sort.
    Order(RowAbout),
    /// A drink to match.
    Match(MatchAbout),
    /// One pitcher for all.
    Pitcher(PitcherAbout),
}

/// The public part of a row, without the contents of its glasses.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RowAbout {
    /// The drink's name.
    drink: String,
    family: Family,
    /// The quality that differs.
    moves: Moves,
    /// The five words to answer with; empty if glasses differ in kind.
    words: Vec<&'static str>,
    /// How many glasses.
    glasses: usize,
    /// The colour of the glass in the middle: blind glasses are all drawn alike.
    colour: String,
    /// The volume of a tasting glass, ml.
    sample_ml: f64,
}

/// Three jugs, and the glass that comes next.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FindAbout {
    finding: Finding,
    jugs: ThreeJugs,
    words: Vec<&'static str>,
}

/// Two drinks that are compared.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CompareAbout {
    compared: Compared,
    /// The difference that this number of tastings can find.
    prospect: Prospect,
}

/// The taste quality of a test.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TongueAbout {
    stairs: Staircase,
    jugs: Vec<Jug>,
}

/// A drink to match.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct MatchAbout {
    /// The taster's own drink, as it was at first.
    drink: Drink,
    reference: Reference,
    /// The rounds, each with the likely range of the other drink after it.
    rounds: Vec<RoundView>,
    /// The likely range of the other drink so far.
    likely: Likely,
}

/// A round of matching.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct RoundView {
    /// The entry.
    said: Utterance,
    /// The likely range of the other one after it.
    likely: Likely,
}

/// One pitcher for all.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PitcherAbout {
    drink: Drink,
    shares: Vec<Share>,
}

/// A tasting as a screen shows it. What it tells comes in, since it is wanted elsewhere as well.
pub(super) fn view(
    read: &ReadTasting,
    tells: Tells,
    all: Vec<TasterView>,
    cupboard: &Cupboard,
    work: &Work,
) -> Result<TastingView, Problem> {
    let table = read.table();
    let stage = table.stage();
    let shown = matches!(stage, Stage::Open | Stage::Over);
    let glasses = match &read.sitting.kind {
        Tasted::Ladder { ladder, .. } | Tasted::Order { ladder, .. } if shown => {
            ladder.glasses.clone()
        }
        _ => Vec::new(),
    };
    let seats_there: Vec<TasterView> = read
        .sitting
        .tasters
        .iter()
        .filter_map(|id| all.iter().find(|view| view.id == *id).cloned())
        .collect();
    let about = about(read, &seats_there, cupboard, work)?;
    Ok(TastingView {
        stage,
        blind: read.sitting.blind,
        about,
        tasters: seats_there,
        seats: table.seats(),
        tells,
        // The key of the stairs goes from glass to glass: it stays with the one who pours.
        key: if shown && !matches!(read.sitting.kind, Tasted::Tongue(_)) {
            table.key()
        } else {
            Vec::new()
        },
        glasses,
        id: read.kept.id.clone(),
        name: read.kept.name.clone(),
        begun_at: read.kept.begun_at.clone(),
    })
}

fn about(
    read: &ReadTasting,
    seats: &[TasterView],
    cupboard: &Cupboard,
    work: &Work,
) -> Result<About, Problem> {
    let row_about = |row: &Row, ladder: &Ladder| {
        let middle = ladder.glasses.len() / 2;
        let jug = ladder.glasses.get(middle).and_then(|g| g.pours.first()).map_or(0, |p| p.jug);
        RowAbout {
            drink: row.drink.name.clone(),
            family: row.drink.family,
            moves: row.moves.clone(),
            words: row.moves.words().map(Vec::from).unwrap_or_default(),
            glasses: ladder.glasses.len(),
            colour: ladder.jugs.get(jug).map(|j| j.colour.clone()).unwrap_or_default(),
            sample_ml: row.sample_ml,
        }
    };
    let find_about = |finding: &Finding| -> Result<FindAbout, Problem> {
        Ok(FindAbout {
            finding: finding.clone(),
            jugs: finding.jugs(cupboard)?,
            words: Moves::Sugar.words().map(Vec::from).unwrap_or_default(),
        })
    };
    Ok(match &read.sitting.kind {
        Tasted::Ladder { row, ladder } => About::Ladder(row_about(row, ladder)),
        Tasted::Order { row, ladder } => About::Order(row_about(row, ladder)),
        Tasted::Find(finding) => About::Find(find_about(finding)?),
        Tasted::Guess(finding) => About::Guess(find_about(finding)?),
        Tasted::Compare(compared) => {
            let tastings = u64::from(compared.times) * read.sitting.tasters.len() as u64;
            About::Compare(CompareAbout {
                compared: compared.clone(),
                prospect: prospect(compared.method, tastings),
            })
        }
        Tasted::Tongue(stairs) => {
            About::Tongue(TongueAbout { stairs: *stairs, jugs: stairs.jugs(cupboard)? })
        }
        Tasted::Match { drink, reference } => match_about(read, drink, reference),
        Tasted::Pitcher { drink } => {
            let worktop = Worktop::new(cupboard, work);
            let guests = compute::guests(seats, drink.family);
            let guests: Vec<_> = guests.into_iter().map(|(_, guest)| guest).collect();
            let shares = match guests.is_empty() {
                true => Vec::new(),
                false => pitchers(drink, &guests, worktop)?,
            };
            About::Pitcher(PitcherAbout { drink: drink.clone(), shares })
        }
    })
}

fn match_about(read: &ReadTasting, drink: &Drink, reference: &Reference) -> About {
    // How it tasted beside ours counts by the last round; what was measured stays.
    let with = |word: &Utterance| match word {
        Utterance::Round { ours, beside, .. } => {
            let reference = Reference { beside: beside.clone(), ..reference.clone() };
            Some(reference.likely(Some(*ours)))
        }
        _ => None,
    };
    let rounds: Vec<RoundView> = read
        .said
        .iter()
        .filter_map(|word| Some(RoundView { said: word.clone(), likely: with(word)? }))
        .collect();
    let likely = rounds.last().map_or_else(|| reference.likely(None), |r| r.likely.clone());
    About::Match(MatchAbout { drink: drink.clone(), reference: reference.clone(), rounds, likely })
}
