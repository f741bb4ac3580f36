use actix_web::http::StatusCode;
use actix_web::{HttpRequest, HttpResponse, ResponseError};
use keen_core::drink::FieldError;
use keen_store::StoreError;
use serde::Serialize;
use utoipa::ToSchema;

use super::drinks::{DrinkView, view};

/// What went wrong, as RFC 9457 has it.
#[derive(Debug, Serialize, ToSchema, thiserror::Error)]
#[error("{title}: {detail}")]
pub(crate) struct Problem {
    /// Names the kind of problem.
    #[serde(rename = "type")]
    kind: &'static str,
    /// The kind of problem in words.
    title: &'static str,
    /// The HTTP status.
    status: u16,
    /// What happened, in a sentence or two.
    detail: String,
    /// What is wrong with which field.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    errors: Vec<FieldError>,
    /// For a write on an old version: the drink as it stands now.
    #[serde(skip_serializing_if = "Option::is_none")]
    current: Option<Box<DrinkView>>,
}

impl Problem {
    fn new(status: StatusCode, kind: &'static str, title: &'static str, detail: String) -> Self {
        Self { kind, title, status: status.as_u16(), detail, errors: Vec::new(), current: None }
    }

    pub(crate) fn malformed(detail: String) -> Self {
        Self::new(StatusCode::BAD_REQUEST, "malformed", "This can't be read", detail)
    }

    pub(crate) fn invalid(errors: Vec<FieldError>) -> Self {
        let detail = match errors.as_slice() {
            [one] => one.message.clone(),
            [first, rest @ ..] => {
                format!("{} And {} more of the kind.", first.message, rest.len())
            }
            [] => String::new(),
        };
        let mut problem =
            Self::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", "This can't be made", detail);
        problem.errors = errors;
        problem
    }

    pub(crate) fn too_large() -> Self {
        Self::new(
            StatusCode::PAYLOAD_TOO_LARGE,
            "too-large",
            "That is too much",
            "A drink takes at most 512 kB as text.".into(),
        )
    }

    pub(crate) fn kitchen_changed() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "stale",
            "Changed elsewhere",
            "The cupboard was changed in another window since you opened it. It is shown as it is \
             now; make your change again."
                .into(),
        )
    }

    pub(crate) fn forbidden() -> Self {
        Self::new(
            StatusCode::FORBIDDEN,
            "forbidden",
            "Not from here",
            "Keen Pitcher answers only to this machine and to its own pages.".into(),
        )
    }

    pub(crate) fn internal() -> Self {
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "internal",
            "Something broke",
            "That is a fault of the program. Nothing that was saved is lost.".into(),
        )
    }

    /// As an answer.
    pub(crate) fn response(&self) -> HttpResponse {
        HttpResponse::build(self.status_code())
            .content_type("application/problem+json")
            .body(serde_json::to_string(self).unwrap_or_default())
    }
}

impl ResponseError for Problem {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        self.response()
    }
}

impl From<FieldError> for Problem {
    fn from(error: FieldError) -> Self {
        Self::invalid(vec![error])
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NotFound => Self::new(
                StatusCode::NOT_FOUND,
                "not-found",
                "Not on the shelf",
                "There is no such drink on the shelf. It may have been taken off.".into(),
            ),
            StoreError::Stale(kept) => {
                let mut problem = Self::new(
                    StatusCode::CONFLICT,
                    "stale",
                    "Changed elsewhere",
                    "The drink was changed elsewhere since you opened it.".into(),
                );
                problem.current = view(&kept).ok().map(Box::new);
                problem
            }
            other => {
                tracing::error!(error = %other, "the store failed");
                Self::internal()
            }
        }
    }
}

/// Answers for a path of the API that there isn't.
pub(crate) async fn unknown(request: HttpRequest) -> Result<HttpResponse, Problem> {
    Err(Problem::new(
        StatusCode::NOT_FOUND,
        "not-found",
        "No such call",
        format!("There is no {} {} here.", request.method(), request.path()),
    ))
}
