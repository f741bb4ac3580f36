//! The description of the API as it is kept in `docs/`, where a test holds it against the code.

use actix_web::HttpResponse;
use actix_web::http::header;

/// The description.
pub(super) const DESCRIPTION: &str = include_str!("../../../../docs/openapi.json");

/// The description, for whoever writes a program of their own.
pub(crate) async fn description() -> HttpResponse {
    HttpResponse::Ok().content_type(header::ContentType::json()).body(DESCRIPTION)
}

#[cfg(not(feature = "described"))]
pub(crate) fn document_text() -> String {
    DESCRIPTION.into()
}

/// The JSON Schema of a file of the drink format.
#[cfg(not(feature = "described"))]
pub(crate) fn drink_schema_text() -> String {
    include_str!("../../../../docs/drink.schema.json").into()
}
