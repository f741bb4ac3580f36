//! Every call of the API.

use actix_web::dev::HttpServiceFactory;
use actix_web::{get, web};
use utoipa::ToSchema;

use super::{
    batches, cards, changes, compute, cupboard, drinks, history, house, instruments, kept, kitchen,
    known_figures, learning, offers, party, paste, phones, pictures, plans, settings, shelf,
    tastings,
};

/// The condition of the application.
#[derive(serde::Serialize, ToSchema)]
pub(crate) struct Health {
    /// "ok" as long as the server answers.
    status: &'static str,
    version: &'static str,
}

/// Whether the application answers.
#[utoipa::path(operation_id = "read_health", tag = "health", responses((status = 200, body = Health)))]
#[get("/api/health")]
async fn health() -> web::Json<Health> {
    web::Json(Health { status: "ok", version: env!("CARGO_PKG_VERSION") })
}

/// A call, which describes itself where the API is described from the code.
#[cfg(not(feature = "described"))]
pub(crate) trait Call: HttpServiceFactory + 'static {}
#[cfg(not(feature = "described"))]
impl<C: HttpServiceFactory + 'static> Call for C {}

/// A call, which describes itself where the API is described from the code.
#[cfg(feature = "described")]
pub(crate) trait Call:
    HttpServiceFactory + utoipa_actix_web::OpenApiFactory + 'static
{
}
#[cfg(feature = "described")]
impl<C: HttpServiceFactory + utoipa_actix_web::OpenApiFactory + 'static> Call for C {}

/// What is given every call: a server, to answer it, or the description, to describe it.
pub(crate) trait TakesCalls {
    fn service(&mut self, call: impl Call) -> &mut Self;
}

impl TakesCalls for web::ServiceConfig {
    fn service(&mut self, call: impl Call) -> &mut Self {
        Self::service(self, call)
    }
}

/// Every call there is.
pub(crate) fn every_call(taker: &mut impl TakesCalls) {
    of_what_is_kept(taker);
    of_the_computation(taker);
    of_making(taker);
    of_the_house(taker);
}

/// Drinks, their versions and pictures, bottles, backups.
fn of_what_is_kept(taker: &mut impl TakesCalls) {
    taker
        .service(health)
        .service(drinks::list)
        .service(drinks::create)
        .service(drinks::file)
        .service(drinks::card)
        .service(cards::code)
        .service(cards::read_card)
        .service(drinks::restore)
        .service(history::list_versions)
        .service(known_figures::figures_read)
        .service(offers::what_can_i_make)
        .service(compute::work_out_water)
        .service(history::read_version)
        .service(history::name_version)
        .service(history::bring_back)
        .service(history::read_history)
        .service(history::rate_batch)
        .service(pictures::put_picture)
        .service(pictures::read_picture)
        .service(pictures::take_picture_away)
        .service(history::list_tags)
        .service(history::set_tags)
        .service(paste::paste)
        .service(kept::list_kept)
        .service(kept::kept_calendar)
        .service(kept::put_bottles)
        .service(kept::move_bottle)
        .service(kept::read_bottle)
        .service(kept::label_formats)
        .service(kept::labels)
        .service(house::save_house)
        .service(house::put_back)
        .service(house::list_backups)
        .service(house::back_up_now)
        .service(house::delete_backup)
        .service(house::put_back_kept)
        .service(house::write_table)
        .service(house::read_table)
        .service(drinks::read)
        .service(drinks::save)
        .service(drinks::remove);
}

/// What is worked out of a drink, and what is typed.
fn of_the_computation(taker: &mut impl TakesCalls) {
    taker
        .service(compute::trace)
        .service(compute::size)
        .service(compute::solve)
        .service(compute::less_sugar)
        .service(compute::correct)
        .service(compute::swap)
        .service(compute::spread)
        .service(compute::steeping)
        .service(learning::measured)
        .service(compute::next_steps)
        .service(compute::syrup)
        .service(compute::read_field)
        .service(compute::read_line)
        .service(compute::read_steps);
}

/// Sizes, plans, batches and instruments.
fn of_making(taker: &mut impl TakesCalls) {
    taker
        .service(party::sheet)
        .service(party::vessels)
        .service(party::shopping)
        .service(party::glass)
        .service(batches::work_out)
        .service(plans::list_plans)
        .service(plans::create_plan)
        .service(batches::plan_calendar)
        .service(plans::restore_plan)
        .service(plans::read_plan)
        .service(plans::save_plan)
        .service(plans::remove_plan)
        .service(batches::list_batches)
        .service(batches::begin_batch)
        .service(batches::read_batch)
        .service(batches::say_happening)
        .service(batches::ways)
        .service(batches::teach_kitchen)
        .service(batches::list_going)
        .service(batches::make_from_plan)
        .service(batches::set_clock)
        .service(batches::put_before)
        .service(batches::look_at)
        .service(instruments::instruments)
        .service(instruments::tell_instrument);
}

/// Phones, the cupboard, settings, changes and tastings.
fn of_the_house(taker: &mut impl TakesCalls) {
    taker
        .service(phones::sign_in)
        .service(phones::set_door)
        .service(phones::put_out)
        .service(phones::read_door)
        .service(cupboard::ingredients)
        .service(cupboard::produce)
        .service(kitchen::read_kitchen)
        .service(kitchen::write_kitchen)
        .service(cupboard::starting_points)
        .service(cupboard::step_forms)
        .service(settings::read_settings)
        .service(settings::write_settings)
        .service(shelf::condition)
        .service(shelf::rescue)
        .service(shelf::set_aside)
        .service(shelf::let_go)
        .service(shelf::bin)
        .service(changes::changes)
        .service(tastings::list_tasters)
        .service(tastings::add_taster)
        .service(tastings::taster_file)
        .service(tastings::change_taster)
        .service(tastings::delete_taster)
        .service(tastings::list_tastings)
        .service(tastings::set_up)
        .service(tastings::read_tasting)
        .service(tastings::utter)
        .service(tastings::next_glass)
        .service(tastings::lemonade_at_balance)
        .service(tastings::pouring_sheet)
        .service(tastings::tasting_file)
        .service(tastings::remove_tasting)
        .service(tastings::pour_row)
        .service(tastings::prospect)
        .service(tastings::pitchers)
        .service(tastings::for_whom)
        .service(tastings::where_it_lies)
        .service(kitchen::change_kitchen)
        .service(settings::change_settings);
}
