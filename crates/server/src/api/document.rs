//! The description of the API, made from the code.

use std::sync::LazyLock;

use actix_web::dev::HttpServiceFactory;
use actix_web::http::header;
use actix_web::{HttpResponse, get, web};
use serde_json::{Value, json};
use utoipa::ToSchema;
use utoipa::openapi::path::{ParameterBuilder, ParameterIn};
use utoipa::openapi::schema::Type;
use utoipa::openapi::security::{ApiKey, ApiKeyValue, SecurityScheme};
use utoipa::openapi::{
    Components, ContentBuilder, InfoBuilder, ObjectBuilder, OpenApi, OpenApiBuilder, Ref, RefOr,
    Required, ResponseBuilder,
};
use utoipa_actix_web::OpenApiFactory;

use super::{
    batches, changes, compute, cupboard, drinks, history, house, instruments, kept, kitchen,
    known_figures, learning, offers, party, paste, phones, pictures, plans, settings, shelf,
    tastings,
};

/// How the application is.
#[derive(serde::Serialize, ToSchema)]
pub(crate) struct Health {
    /// Always "ok": an application that isn't does not answer.
    status: &'static str,
    version: &'static str,
}

/// Whether the application answers.
#[utoipa::path(operation_id = "read_health", tag = "health", responses((status = 200, body = Health)))]
#[get("/api/health")]
async fn health() -> web::Json<Health> {
    web::Json(Health { status: "ok", version: env!("CARGO_PKG_VERSION") })
}

/// Who is handed every call: a server, to answer it, or the description, to tell of it.
pub(crate) trait TakesCalls {
    fn service<F: HttpServiceFactory + OpenApiFactory + 'static>(&mut self, call: F) -> &mut Self;
}

impl TakesCalls for web::ServiceConfig {
    fn service<F: HttpServiceFactory + OpenApiFactory + 'static>(&mut self, call: F) -> &mut Self {
        Self::service(self, call)
    }
}

impl TakesCalls for OpenApi {
    fn service<F: HttpServiceFactory + OpenApiFactory + 'static>(&mut self, call: F) -> &mut Self {
        self.paths.merge(call.paths());
        let mut schemas = Vec::new();
        call.schemas(&mut schemas);
        self.components.get_or_insert_with(Components::new).schemas.extend(schemas);
        self
    }
}

/// Every call there is.
pub(crate) fn every_call(taker: &mut impl TakesCalls) {
    taker
        .service(health)
        .service(drinks::list)
        .service(drinks::create)
        .service(drinks::file)
        .service(drinks::card)
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
        .service(drinks::remove)
        .service(compute::trace)
        .service(compute::size)
        .service(compute::solve)
        .service(compute::correct)
        .service(compute::swap)
        .service(compute::spread)
        .service(compute::steeping)
        .service(learning::measured)
        .service(compute::next_steps)
        .service(compute::syrup)
        .service(compute::read_field)
        .service(compute::read_line)
        .service(party::sheet)
        .service(party::vessels)
        .service(party::shopping)
        .service(party::glass)
        .service(plans::work_out)
        .service(plans::list_plans)
        .service(plans::create_plan)
        .service(plans::plan_calendar)
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
        .service(instruments::tell_instrument)
        .service(phones::sign_in)
        .service(phones::set_door)
        .service(phones::put_out)
        .service(phones::read_door)
        .service(cupboard::ingredients)
        .service(cupboard::produce)
        .service(kitchen::read_kitchen)
        .service(kitchen::write_kitchen)
        .service(cupboard::starting_points)
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

/// The description, made once: it is the same for every worker and every door.
pub(super) static DESCRIPTION: LazyLock<OpenApi> = LazyLock::new(|| {
    let information = InfoBuilder::new()
        .title("Keen Pitcher")
        .version(env!("CARGO_PKG_VERSION"))
        .description(Some(
            "Drinks are run, kept and read. Computing calls take a whole drink and change nothing; they read your \
             kitchen: its own ingredients, figures and vessels."
        ))
        .build();
    let mut document = OpenApiBuilder::new().info(information).build();
    every_call(&mut document);
    describe_problems(&mut document);
    describe_headers(&mut document);
    document
});

static DESCRIPTION_TEXT: LazyLock<String> =
    LazyLock::new(|| DESCRIPTION.to_json().unwrap_or_default());

/// The description, for whoever writes a program of their own.
pub(crate) async fn description() -> HttpResponse {
    HttpResponse::Ok().content_type(header::ContentType::json()).body(DESCRIPTION_TEXT.as_str())
}

/// Every call may be refused, and every refusal is a problem document.
fn describe_problems(document: &mut OpenApi) {
    let problem = || {
        let schema = RefOr::Ref(Ref::from_schema_name("Problem"));
        let content = ContentBuilder::new().schema(Some(schema)).build();
        ResponseBuilder::new().content("application/problem+json", content)
    };
    for item in document.paths.paths.values_mut() {
        let methods =
            [&mut item.get, &mut item.put, &mut item.post, &mut item.delete, &mut item.patch];
        for operation in methods.into_iter().flatten() {
            let said: Vec<String> = operation.responses.responses.keys().cloned().collect();
            let refusals = said.into_iter().filter(|status| !status.starts_with('2'));
            for status in refusals.chain(["4XX".to_owned(), "5XX".to_owned()]) {
                let what = match status.as_str() {
                    "404" => "We couldn't find this.",
                    "409" => "It was changed elsewhere in the meantime.",
                    "5XX" => {
                        "Storage or the program can't do this now; the answer says why and what to do."
                    }
                    _ => "The request has errors; each names its field.",
                };
                let response = problem().description(what).build();
                operation.responses.responses.insert(status, RefOr::T(response));
            }
        }
    }
}

/// What comes in headers: keys of changes, who asks, and the cookie of a phone.
fn describe_headers(document: &mut OpenApi) {
    let header = |name: &str, what: &str, (least, most): (usize, usize)| {
        let text = ObjectBuilder::new()
            .schema_type(Type::String)
            .min_length(Some(least))
            .max_length(Some(most));
        ParameterBuilder::new()
            .name(name)
            .parameter_in(ParameterIn::Header)
            .required(Required::False)
            .description(Some(what))
            .schema(Some(text))
            .build()
    };
    for (path, item) in &mut document.paths.paths {
        let computes = path.starts_with("/api/compute/");
        let changes = [&mut item.put, &mut item.post, &mut item.delete, &mut item.patch];
        for operation in changes.into_iter().flatten() {
            let all = operation.parameters.get_or_insert_default();
            if !computes {
                all.push(RefOr::T(header(
                    "Idempotency-Key",
                    "A key of this change. The same request under it is done once and has the same answer; another \
                     request under it is refused with 409 (`reused-key`). Keys are kept for a day, 500 of them.",
                    (8, 100),
                )));
            }
            all.push(RefOr::T(header(
                "X-Asker",
                "Who asks, as `window` or `window/screen`. A newer question of the same screen takes the place of the \
                 older one; a window isn't told of its own changes.",
                (1, 80),
            )));
        }
    }
    let cookie = ApiKeyValue::with_description(
        crate::phones::COOKIE,
        "Set by `POST /api/phones/sign-in`. Asked for at the door to the home network only; on this computer nothing is.",
    );
    document
        .components
        .get_or_insert_with(Components::new)
        .add_security_scheme("phone", SecurityScheme::ApiKey(ApiKey::Cookie(cookie)));
}

/// The description as text.
pub(crate) fn document_text() -> String {
    DESCRIPTION.to_pretty_json().unwrap_or_default()
}

/// The JSON Schema of a file of the drink format, cut out of the API's description.
pub(crate) fn drink_schema_text() -> String {
    let document = serde_json::to_value(&*DESCRIPTION).unwrap_or_default();
    let all = &document["components"]["schemas"];
    let mut definitions = serde_json::Map::new();
    let mut wanted = vec!["Drink".to_owned()];
    while let Some(name) = wanted.pop() {
        if definitions.contains_key(&name) {
            continue;
        }
        let mut schema = all[&name].clone();
        point_home(&mut schema, &mut wanted);
        definitions.insert(name, schema);
    }
    definitions.sort_keys();
    let schema = json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A drink of Keen Pitcher",
        "type": "object",
        "required": ["format", "version", "drink"],
        "properties": {
            "format": { "const": keen_formats::DRINK.name },
            "version": { "type": "integer", "minimum": 1, "maximum": keen_formats::DRINK.version() },
            "drink": { "$ref": "#/$defs/Drink" }
        },
        "$defs": definitions
    });
    serde_json::to_string_pretty(&schema).unwrap_or_default()
}

/// Points references at this document's own definitions and notes what they name.
fn point_home(schema: &mut Value, wanted: &mut Vec<String>) {
    match schema {
        Value::Object(fields) => {
            for (key, value) in fields {
                if key == "$ref"
                    && let Some(name) =
                        value.as_str().and_then(|r| r.strip_prefix("#/components/schemas/"))
                {
                    wanted.push(name.to_owned());
                    *value = Value::String(format!("#/$defs/{name}"));
                } else {
                    point_home(value, wanted);
                }
            }
        }
        Value::Array(items) => items.iter_mut().for_each(|item| point_home(item, wanted)),
        _ => {}
    }
}
