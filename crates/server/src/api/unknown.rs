//! Answers for what the API doesn't understand.

use std::sync::LazyLock;

use actix_web::dev::ResourceDef;
use actix_web::error::{PathError, QueryPayloadError};
use actix_web::{HttpRequest, HttpResponse};
use serde_json::Value;

use super::Problem;
use super::described::DESCRIPTION;

/// The ways to say each path, made from the description of the API.
struct Calls(Vec<(ResourceDef, String)>);

/// Made when something is asked for that there isn't.
static CALLS: LazyLock<Calls> = LazyLock::new(|| Calls::of(DESCRIPTION));

impl Calls {
    fn of(description: &str) -> Self {
        let description: Value = serde_json::from_str(description).unwrap_or_default();
        let paths = description["paths"].as_object().into_iter().flatten();
        let all = paths.map(|(path, item)| {
            let methods = ["delete", "get", "patch", "post", "put"];
            let there: Vec<String> = methods
                .iter()
                .filter(|method| item.get(method).is_some())
                .map(|method| method.to_uppercase())
                .collect();
            (ResourceDef::new(path.as_str()), there.join(", "))
        });
        Self(all.collect())
    }

    fn allowed(&self, path: &str) -> Option<&str> {
        self.0.iter().find(|(known, _)| known.is_match(path)).map(|(_, methods)| methods.as_str())
    }
}

/// A path or a method of the API that there isn't.
pub(crate) async fn unknown(request: HttpRequest) -> Result<HttpResponse, Problem> {
    Err(match CALLS.allowed(request.path()) {
        Some(methods) => Problem::wrong_method(&request, methods.to_owned()),
        None => Problem::no_such_call(&request),
    })
}

/// A part of a path that is not what it should be: there is no such thing.
pub(crate) fn bad_path(_: PathError, request: &HttpRequest) -> actix_web::Error {
    Problem::no_such_call(request).into()
}

/// A query that can't be read.
pub(crate) fn bad_query(error: QueryPayloadError, _: &HttpRequest) -> actix_web::Error {
    let text = error.to_string();
    let reason = text.rsplit(": ").next().unwrap_or(&text);
    Problem::bad_query(reason).into()
}
