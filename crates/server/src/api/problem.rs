use actix_web::http::StatusCode;
use actix_web::http::header;
use actix_web::{HttpRequest, HttpResponse, ResponseError};
use keen_core::drink::FieldError;
use keen_core::work::Stopped;
use keen_formats::FormatError;
use keen_store::StoreError;
use serde::Serialize;
use utoipa::ToSchema;

use super::kept_drink::{DrinkView, view};

/// As many faults are told at once; the rest is counted.
const MOST_FAULTS: usize = 20;
/// And so much of each: what was sent is not sent back.
const MOST_LETTERS: usize = 200;

/// A problem, in the format of RFC 9457.
#[derive(Debug, Serialize, ToSchema, thiserror::Error)]
#[error("{title}: {detail}")]
pub(crate) struct Problem {
    /// The kind of problem, as a URI.
    #[serde(rename = "type")]
    kind: &'static str,
    /// The kind of problem in words.
    title: &'static str,
    /// The HTTP status.
    status: u16,
    /// The error and what to do, in a sentence or two.
    detail: String,
    /// The errors, each with its field.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    errors: Vec<FieldError>,
    /// After a write to an old version: the drink as it is now.
    #[serde(skip_serializing_if = "Option::is_none")]
    current: Option<Box<DrinkView>>,
    /// For a wrong method: those that there are.
    #[serde(skip)]
    allow: Option<Box<str>>,
    /// How many seconds have to pass before it is asked again.
    #[serde(skip)]
    wait_s: Option<u32>,
}

/// The beginning of a text that may be of any length.
fn short(text: &str) -> String {
    match text.char_indices().nth(MOST_LETTERS) {
        Some((end, _)) => format!("{} …", &text[..end]),
        None => text.to_owned(),
    }
}

impl Problem {
    fn new(
        status: StatusCode,
        kind: &'static str,
        title: &'static str,
        detail: impl Into<String>,
    ) -> Self {
        Self {
            kind,
            title,
            status: status.as_u16(),
            detail: detail.into(),
            errors: Vec::new(),
            current: None,
            allow: None,
            wait_s: None,
        }
    }

    pub(crate) fn malformed(detail: &str) -> Self {
        Self::new(StatusCode::BAD_REQUEST, "malformed", "We couldn't read this", short(detail))
    }

    pub(crate) fn invalid(mut errors: Vec<FieldError>) -> Self {
        let more = errors.len().saturating_sub(1);
        errors.truncate(MOST_FAULTS);
        for error in &mut errors {
            error.field = short(&error.field);
            error.message = short(&error.message);
        }
        let detail = match errors.as_slice() {
            [one] => one.message.clone(),
            [first, ..] => format!("{} And {more} more of the kind.", first.message),
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
            "Too much at once",
            "A drink can have up to 512 kB of text.",
        )
    }

    pub(crate) fn too_slow() -> Self {
        Self::new(
            StatusCode::REQUEST_TIMEOUT,
            "too-slow",
            "That took too long",
            "The rest of the request didn't arrive in time. Send it again.",
        )
    }

    pub(crate) fn cut_off() -> Self {
        Self::new(
            StatusCode::BAD_REQUEST,
            "cut-off",
            "Only a part has arrived",
            "The request ended before all of it was there. Send it again.",
        )
    }

    pub(crate) fn bad_coding() -> Self {
        Self::new(
            StatusCode::BAD_REQUEST,
            "bad-coding",
            "We couldn't unpack this",
            "The request claims gzip, but we couldn't unpack it.",
        )
    }

    pub(crate) fn unknown_coding(coding: &str) -> Self {
        Self::new(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            "unknown-coding",
            "We couldn't unpack this",
            short(&format!("The request uses “{coding}”. Use gzip or no compression.")),
        )
    }

    pub(crate) fn not_json(kind: &str) -> Self {
        Self::new(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            "not-json",
            "This isn't JSON",
            short(&format!("The request is “{kind}”. Use application/json.")),
        )
    }

    pub(crate) fn bad_key() -> Self {
        Self::new(
            StatusCode::BAD_REQUEST,
            "bad-key",
            "Invalid key",
            "Use an Idempotency-Key of 8 to 100 characters.",
        )
    }

    pub(crate) fn bad_query(detail: &str) -> Self {
        let detail = detail.trim_end_matches('.');
        Self::new(
            StatusCode::BAD_REQUEST,
            "bad-query",
            "We couldn't read this search",
            short(&format!("We couldn't read the query: {detail}.")),
        )
    }

    pub(crate) fn kitchen_changed() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "stale",
            "Changed elsewhere",
            "Your cupboard was changed in another window. Make your change again.",
        )
    }

    pub(crate) fn damaged_drink(why: &str) -> Self {
        Self::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "damaged-drink",
            "This drink can't be read",
            short(&format!("Its text is safe and can be saved as a file. {why}")),
        )
    }

    pub(crate) fn damaged_plan(why: &str) -> Self {
        Self::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "damaged-plan",
            "This plan can't be read",
            short(&format!("Its text is safe. {why}")),
        )
    }

    pub(crate) fn damaged_batch(why: &str) -> Self {
        Self::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "damaged-batch",
            "This batch can't be read",
            short(&format!("Its text is safe. {why}")),
        )
    }

    pub(crate) fn damaged_tasting(why: &str) -> Self {
        Self::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "damaged-tasting",
            "This tasting can't be read",
            short(&format!("Its text is safe. {why}")),
        )
    }

    /// What is in the glasses is kept from everybody until the key is broken.
    pub(crate) fn sealed() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "sealed",
            "Hidden until revealed",
            "We show the contents when you reveal the glasses.",
        )
    }

    /// A blind tasting that was restored without the key of the folder it was backed up from.
    pub(crate) fn sealed_elsewhere() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "sealed-elsewhere",
            "This tasting was blind when it was backed up",
            "What is in the glasses can be revealed only on the computer where the backup was made. To open it here, \
             copy sealing.key from that computer's data folder into this one and start Keen Pitcher again.",
        )
    }

    /// A reading that is asked about before it is believed.
    pub(crate) fn doubtful(question: &str) -> Self {
        Self::new(StatusCode::CONFLICT, "doubtful", "Is that right?", question)
    }

    /// A fault of the shelf that is about a plan: what is there now is no drink.
    pub(crate) fn of_plan(mut self) -> Self {
        if self.kind == "stale" {
            self.current = None;
            self.detail = "Someone changed this plan in another window.".into();
        }
        self
    }

    pub(crate) fn superseded() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "superseded",
            "Asked anew",
            "A newer question replaced this one.",
        )
    }

    pub(crate) fn busy() -> Self {
        Self::new(
            StatusCode::SERVICE_UNAVAILABLE,
            "busy",
            "Too much at once",
            "We're busy with other questions. Try again in a moment.",
        )
    }

    /// For a question that was not answered in time.
    pub(crate) fn too_long() -> Self {
        Self::new(
            StatusCode::SERVICE_UNAVAILABLE,
            "too-long",
            "That took too long",
            "This took too long to work out. Try again in a moment, or ask for less: fewer drinks, fewer steps.",
        )
    }

    /// A key that was used for something else.
    pub(crate) fn reused_key() -> Self {
        Self::new(
            StatusCode::CONFLICT,
            "reused-key",
            "This key was used before",
            "This Idempotency-Key was used for another request. Use a new key.",
        )
    }

    pub(crate) fn forbidden() -> Self {
        Self::new(
            StatusCode::FORBIDDEN,
            "forbidden",
            "Not allowed from here",
            "Keen Pitcher only answers this computer and its own pages.",
        )
    }

    /// For a phone that nobody let in.
    pub(crate) fn not_let_in() -> Self {
        Self::new(
            StatusCode::UNAUTHORIZED,
            "not-let-in",
            "Not connected",
            "This phone isn't connected. Enter the code from the kitchen screen.",
        )
    }

    pub(crate) fn wrong_code(why: &str) -> Self {
        let detail = format!("{why} Look at the screen in the kitchen.");
        Self::new(StatusCode::FORBIDDEN, "wrong-code", "Wrong code", detail)
    }

    pub(crate) fn here_only() -> Self {
        Self::new(
            StatusCode::FORBIDDEN,
            "here-only",
            "Not from a phone",
            "Do this on the computer that runs Keen Pitcher.",
        )
    }

    pub(crate) fn no_door(why: &str) -> Self {
        Self::new(StatusCode::CONFLICT, "no-door", "Phones can't connect", why)
    }

    /// So many seconds have to pass first.
    pub(crate) fn too_often(seconds: u64) -> Self {
        let mut problem = Self::new(
            StatusCode::TOO_MANY_REQUESTS,
            "too-often",
            "Too often",
            format!("Too many attempts. Try again in {seconds} s."),
        );
        problem.wait_s = u32::try_from(seconds).ok();
        problem
    }

    /// For what should never happen; the log says more under that number.
    pub(crate) fn internal(request: &str) -> Self {
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "internal",
            "Something broke",
            format!(
                "Something went wrong in Keen Pitcher. Your saved data is safe. Details are in the log under {request}."
            ),
        )
    }

    pub(crate) fn wrong_method(request: &HttpRequest, allow: String) -> Self {
        let mut problem = Self::new(
            StatusCode::METHOD_NOT_ALLOWED,
            "wrong-method",
            "Method not allowed",
            short(&format!("{} accepts {allow}, not {}.", request.path(), request.method())),
        );
        problem.allow = Some(allow.into());
        problem
    }

    pub(crate) fn no_such_call(request: &HttpRequest) -> Self {
        Self::new(
            StatusCode::NOT_FOUND,
            "not-found",
            "No such call",
            short(&format!("There is no {} {} here.", request.method(), request.path())),
        )
    }

    /// As an answer.
    pub(crate) fn response(&self) -> HttpResponse {
        let mut response = HttpResponse::build(self.status_code());
        response.content_type("application/problem+json");
        if let Some(allow) = &self.allow {
            response.insert_header((header::ALLOW, &**allow));
        }
        if let Some(seconds) = self.wait_s.or((self.status == 503).then_some(1)) {
            response.insert_header((header::RETRY_AFTER, seconds.to_string()));
        }
        // What is left unread of such a request is not waited for.
        if self.status == 408 {
            response.force_close();
        }
        response.body(serde_json::to_string(self).unwrap_or_default())
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

impl From<Stopped> for Problem {
    fn from(stopped: Stopped) -> Self {
        FieldError::from(stopped).into()
    }
}

impl From<FormatError> for Problem {
    fn from(error: FormatError) -> Self {
        match error {
            FormatError::Malformed(_) => Self::malformed(&error.to_string()),
            other => Self::invalid(other.faults()),
        }
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        let detail = error.to_string();
        let unavailable = StatusCode::SERVICE_UNAVAILABLE;
        match error {
            StoreError::NotFound => {
                Self::new(StatusCode::NOT_FOUND, "not-found", "Not found", detail)
            }
            StoreError::TasterDeleted => {
                Self::new(StatusCode::CONFLICT, "taster-deleted", "This taster was deleted", detail)
            }
            StoreError::Stale(kept) => {
                let mut problem =
                    Self::new(StatusCode::CONFLICT, "stale", "Changed elsewhere", detail);
                problem.current = view(&kept).ok().map(Box::new);
                problem
            }
            StoreError::StaleDocument(_) => Self::kitchen_changed(),
            StoreError::Full => {
                Self::new(StatusCode::INSUFFICIENT_STORAGE, "disk-full", "The disk is full", detail)
            }
            StoreError::Locked => Self::new(unavailable, "locked", "Storage is locked", detail),
            StoreError::BeingRestored => {
                Self::new(unavailable, "being-restored", "A backup is being restored", detail)
            }
            StoreError::ReadOnly(_) => {
                Self::new(unavailable, "read-only", "Storage is read-only", detail)
            }
            StoreError::Damaged(_) | StoreError::NotAShelf(_) => {
                Self::new(unavailable, "damaged", "Storage is damaged", detail)
            }
            other => {
                tracing::error!(error = %other, "the shelf failed");
                Self::new(unavailable, "shelf", "Storage can't be reached", detail)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_was_sent_is_not_sent_back() {
        let fault = |i: usize| FieldError {
            field: format!("steps[{i}].{}", "x".repeat(9000)),
            message: format!("There is no ingredient “{}”.", "🍋".repeat(9000)),
        };
        let problem = Problem::invalid((0..5000).map(fault).collect());
        let text = serde_json::to_string(&problem).unwrap();
        assert!(text.len() < 40_000, "{}", text.len());
        assert!(problem.detail.ends_with("And 4999 more of the kind."), "{}", problem.detail);
    }
}
