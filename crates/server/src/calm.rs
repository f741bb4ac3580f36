//! A panic ends the request that it arose in, and nothing else.

use std::panic::AssertUnwindSafe;

use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::error::InternalError;
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage};
use futures_util::FutureExt;
use tracing_actix_web::RequestId;

use crate::api::Problem;
use crate::guard;

/// Answers a problem document where a handler panics. The log and the answer name the request.
pub(crate) async fn keep<B: MessageBody>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<B>, Error> {
    let id = request.extensions().get::<RequestId>().map(ToString::to_string);
    let path = request.path().to_owned();
    let panic = match AssertUnwindSafe(next.call(request)).catch_unwind().await {
        Ok(answer) => return answer,
        Err(panic) => panic,
    };
    let said = panic
        .downcast_ref::<&str>()
        .map(|s| (*s).to_owned())
        .or_else(|| panic.downcast_ref::<String>().cloned())
        .unwrap_or_default();
    let id = id.unwrap_or_default();
    tracing::error!(request = id, path, said, "a handler panicked");
    // The request has gone with the handler; what is left is an error, which is answered as it is.
    let mut answer = Problem::internal(&id).response();
    guard::secure(answer.headers_mut(), "'none'");
    Err(InternalError::from_response(said, answer).into())
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::http::StatusCode;
    use actix_web::{App, HttpResponse, middleware, test, web};

    async fn breaks() -> HttpResponse {
        panic!("a spoon fell into the blender")
    }

    #[actix_web::test]
    async fn a_panic_is_told_with_its_request_and_the_next_one_is_answered() {
        let app = test::init_service(
            App::new()
                .route("/breaks", web::get().to(breaks))
                .route("/works", web::get().to(HttpResponse::Ok))
                .wrap(middleware::from_fn(keep))
                .wrap(tracing_actix_web::TracingLogger::default()),
        )
        .await;
        let ask = |path: &str| test::TestRequest::get().uri(path).to_request();
        let broken = test::try_call_service(&app, ask("/breaks")).await.unwrap_err();
        let broken = broken.error_response();
        assert_eq!(broken.status(), StatusCode::INTERNAL_SERVER_ERROR);
        let kind = broken.headers().get("content-type").unwrap();
        assert_eq!(kind, "application/problem+json");
        assert!(broken.headers().contains_key("content-security-policy"));
        let text = actix_web::body::to_bytes(broken.into_body()).await.unwrap();
        let problem: serde_json::Value = serde_json::from_slice(&text).unwrap();
        let detail = problem["detail"].as_str().unwrap();
        let number = detail.split("under ").nth(1).unwrap().trim_end_matches('.');
        assert_eq!(number.len(), 36, "the number of a request: {detail}");
        assert!(test::call_service(&app, ask("/works")).await.status().is_success());
    }
}
