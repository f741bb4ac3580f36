//! The description of the API, made from the code.

use std::sync::LazyLock;

use serde_json::{Value, json};
use utoipa::openapi::path::{ParameterBuilder, ParameterIn};
use utoipa::openapi::schema::Type;
use utoipa::openapi::security::{ApiKey, ApiKeyValue, SecurityScheme};
use utoipa::openapi::{
    Components, ContentBuilder, InfoBuilder, ObjectBuilder, OpenApi, OpenApiBuilder, Ref, RefOr,
    Required, ResponseBuilder,
};

use super::calls::{Call, TakesCalls, every_call};

impl TakesCalls for OpenApi {
    fn service(&mut self, call: impl Call) -> &mut Self {
        self.paths.merge(call.paths());
        let mut schemas = Vec::new();
        call.schemas(&mut schemas);
        self.components.get_or_insert_with(Components::new).schemas.extend(schemas);
        self
    }
}

/// The description, made once: it is the same for every worker and every door.
static DESCRIPTION: LazyLock<OpenApi> = LazyLock::new(|| {
    let information = InfoBuilder::new()
        .title("Keen Pitcher")
        .version(env!("CARGO_PKG_VERSION"))
        .description(Some(
            "Calls under `/api/compute` take a whole drink and change no data; they use your kitchen's ingredients, \
             figures and vessels. All other calls read and save drinks, batches, bottles, plans and tastings."
        ))
        .build();
    let mut document = OpenApiBuilder::new().info(information).build();
    every_call(&mut document);
    describe_problems(&mut document);
    describe_headers(&mut document);
    document
});

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
                    "409" => "It has been changed elsewhere since you read it.",
                    "5XX" => {
                        "The server can't do this now; the answer gives the reason and what to do."
                    }
                    _ => "The request has errors; each names its field.",
                };
                let response = problem().description(what).build();
                operation.responses.responses.insert(status, RefOr::T(response));
            }
        }
    }
}

/// Describes the headers: the key of a change, the client, and the cookie of a phone.
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
                    "A key for this change. A repeated request with the same key is carried out once and gets the same \
                     answer; a different request with it is refused with 409 (`reused-key`). The last 500 keys are \
                     saved for a day.",
                    (8, 100),
                )));
            }
            all.push(RefOr::T(header(
                "X-Asker",
                "The client, as `window` or `window/screen`. A newer request of the same screen replaces the older \
                 one; a window isn't told of its own changes.",
                (1, 80),
            )));
        }
    }
    let cookie = ApiKeyValue::with_description(
        crate::phones::COOKIE,
        "Set by `POST /api/phones/sign-in`. Needed only from the home network, not on this computer.",
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
