//! What can be asked before a tasting is set up: the row, what a comparison can find, the pitchers of a
//! group, and where a drink lies that was measured.

use actix_web::{post, web};
use keen_core::balance::Spot;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, Family, FieldError};
use keen_core::taste::compare::{Method, Prospect};
use keen_core::taste::group::{ForGuest, Guest, Share, in_the_glass};
use keen_core::taste::ideal::Ideal;
use keen_core::taste::ladder::{Ladder, Row, ladder, usual_ratio};
use keen_core::taste::reference::{Likely, Reference};
use keen_core::taste::taster::Objection;
use keen_core::work::{Work, Worktop};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::super::desk::Asker;
use super::super::{Body, Problem, State};
use super::tasters::TasterView;

/// A row of glasses, worked out. Touches no data.
#[utoipa::path(tag = "compute", request_body = Row, responses((status = 200, body = Ladder)))]
#[post("/api/compute/row")]
pub(in crate::api) async fn pour_row(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Ladder>, Problem> {
    let row: Row = body.json()?;
    let cupboard = state.cupboard();
    let question = move |work: &Work| {
        checked(&row.drink, &cupboard)?;
        Ok(ladder(&row, Worktop::new(&cupboard, work))?)
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

/// A planned comparison.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ProspectWanted {
    method: Method,
    /// How many tastings there would be, 0 to 2000.
    tastings: u32,
}

/// Work out the difference that a number of tastings can find. Changes no data.
#[utoipa::path(operation_id = "rate_test", tag = "compute", request_body = inline(ProspectWanted), responses(
    (status = 200, body = Prospect)))]
#[post("/api/compute/prospect")]
pub(in crate::api) async fn prospect(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Prospect>, Problem> {
    let ProspectWanted { method, tastings } = body.json()?;
    let question =
        move |_: &Work| Ok(keen_core::taste::compare::prospect(method, u64::from(tastings)));
    state.desk.ask(asker, question).await.map(web::Json)
}

/// A drink and the people it is for.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PitchersWanted {
    drink: Drink,
    /// The ids of the tasters who drink it.
    tasters: Vec<String>,
}

/// The pitchers of a group.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PitchersView {
    /// The drinkers, in order; we use an average taste for anyone without a tasting.
    guests: Vec<GuestView>,
    shares: Vec<Share>,
}

/// A drinker in the group.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct GuestView {
    id: String,
    name: String,
    /// Their ideal ratio.
    ratio: f64,
    /// How many glasses it is based on; missing if it is the usual value.
    glasses: usize,
}

/// Guests with their ideals. Who never tasted of that family is taken as most people are, with a doubt to
/// match.
pub(super) fn guests(seats: &[TasterView], family: Family) -> Vec<(usize, Guest)> {
    seats
        .iter()
        .map(|view| {
            let own = view.ideals.iter().find(|ideal| ideal.family == family);
            let usual = Ideal { x: usual_ratio(family).ln(), sd: 0.55 };
            let ideal = own.map_or(usual, |own| own.ideal);
            let glasses = own.map_or(0, |own| own.glasses);
            (glasses, Guest { taster: view.taster.clone(), ideal })
        })
        .collect()
}

/// Find the best pitcher for a group, with each drinker's addition in the glass. Changes no data.
#[utoipa::path(operation_id = "choose_pitchers", tag = "compute", request_body = PitchersWanted, responses(
    (status = 200, body = PitchersView)))]
#[post("/api/compute/pitchers")]
pub(in crate::api) async fn pitchers(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<PitchersView>, Problem> {
    let PitchersWanted { drink, tasters } = body.json()?;
    let seats = state.seats_of(&tasters).await?;
    let cupboard = state.cupboard();
    let question = move |work: &Work| {
        checked(&drink, &cupboard)?;
        let (guests, only) = told(&seats, drink.family);
        let worktop = Worktop::new(&cupboard, work);
        let shares = keen_core::taste::group::pitchers(&drink, &only, worktop)?;
        Ok(PitchersView { guests, shares })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

/// The additions that several drinkers stir into their glasses.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ForWhomView {
    guests: Vec<GuestView>,
    /// Each drinker's addition.
    glasses: Vec<ForGuest>,
    /// For each of them, the parts of the drink that they avoid.
    without: Vec<Vec<Objection>>,
}

/// Work out what each drinker stirs into a glass of a finished drink. Changes no data.
#[utoipa::path(operation_id = "suit_guests", tag = "compute", request_body = PitchersWanted, responses(
    (status = 200, body = ForWhomView)))]
#[post("/api/compute/for-whom")]
pub(in crate::api) async fn for_whom(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<ForWhomView>, Problem> {
    let PitchersWanted { drink, tasters } = body.json()?;
    let seats = state.seats_of(&tasters).await?;
    let cupboard = state.cupboard();
    let question = move |work: &Work| {
        checked(&drink, &cupboard)?;
        let worktop = Worktop::new(&cupboard, work);
        let (guests, only) = told(&seats, drink.family);
        let glasses = in_the_glass(&drink, &only, worktop)?;
        let objects = only.iter().map(|guest| guest.taster.objects_to(&drink, worktop));
        let without = objects.collect::<Result<_, FieldError>>()?;
        Ok(ForWhomView { guests, glasses, without })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

impl State {
    /// Those of some ids who are still there.
    async fn seats_of(&self, ids: &[String]) -> Result<Vec<TasterView>, Problem> {
        let all = self.taster_views(Asker::default()).await?;
        Ok(ids.iter().filter_map(|id| all.iter().find(|view| view.id == *id).cloned()).collect())
    }
}

fn checked(drink: &Drink, cupboard: &Cupboard) -> Result<(), FieldError> {
    match drink.check(cupboard).into_iter().next() {
        Some(first) => Err(FieldError { field: format!("drink.{}", first.field), ..first }),
        None => Ok(()),
    }
}

/// Guests as they are shown, and as they are counted with.
fn told(seats: &[TasterView], family: Family) -> (Vec<GuestView>, Vec<Guest>) {
    let found = guests(seats, family);
    let views = seats.iter().zip(&found).map(|(view, (glasses, guest))| GuestView {
        id: view.id.clone(),
        name: view.taster.name.clone(),
        ratio: guest.ideal.x.exp(),
        glasses: *glasses,
    });
    (views.collect(), found.iter().map(|(_, guest)| guest.clone()).collect())
}

/// The measurements of another drink, with ours to compare.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct ReferenceWanted {
    reference: Reference,
    /// The place of our drink.
    #[serde(default)]
    ours: Option<Spot>,
}

/// Estimate where a measured and tasted drink is on the map. Changes no data.
#[utoipa::path(operation_id = "place_reference", tag = "compute", request_body = inline(ReferenceWanted), responses(
    (status = 200, body = Likely)))]
#[post("/api/compute/reference")]
pub(in crate::api) async fn where_it_lies(body: Body) -> Result<web::Json<Likely>, Problem> {
    let ReferenceWanted { reference, ours } = body.json()?;
    reference.check()?;
    Ok(web::Json(reference.likely(ours)))
}
