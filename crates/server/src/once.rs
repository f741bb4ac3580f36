//! What is sent twice is done once.
//!
//! A phone at the edge of the network doesn't hear an answer and sends its change again. Under an
//! `Idempotency-Key` that is safe for every change, whatever it is: the key and a hash of the whole request are
//! looked up before anything is done. The same request has the same answer, another one under that key is refused
//! with 409, and one that is still being worked on is waited for. Only what was done is remembered: a refusal may
//! be tried again.
//!
//! The newest answers are kept in memory and in the data file, so that a restart in between changes nothing. Should
//! the power go in the very moment between the two, what was made under a key is still found under it
//! (`keen_store`'s own keys), only not the answer's exact text.

use std::sync::Arc;
use std::time::Duration;

use actix_web::body::{BoxBody, MessageBody, to_bytes};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::http::{Method, StatusCode, header};
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage, HttpResponse, web};
use futures_util::stream;
use keen_store::{Answer, Store};
use sha2::{Digest, Sha256};

use crate::answers::{Held, Turn};
use crate::api::{Problem, State, read_file};
use crate::shelf_place::MAX_BODY;

/// How long the first of two that are the same is waited for.
const LONGEST: Duration = Duration::from_secs(30);

fn again(answer: &Answer) -> HttpResponse {
    let status = StatusCode::from_u16(answer.status).unwrap_or(StatusCode::OK);
    let mut response = HttpResponse::build(status);
    if let Some(location) = &answer.location {
        response.insert_header((header::LOCATION, location.as_str()));
    }
    if let Some(kind) = &answer.kind {
        response.insert_header((header::CONTENT_TYPE, kind.as_str()));
    }
    response.body(answer.body.clone())
}

async fn kept(store: &Arc<Store>, key: &str) -> Option<Answer> {
    let (store, key) = (Arc::clone(store), key.to_owned());
    web::block(move || store.answer(&key)).await.ok()?.ok().flatten()
}

/// Lets a change through once.
pub(crate) async fn check<B: MessageBody + 'static>(
    mut request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let key = request.headers().get("idempotency-key").and_then(|k| k.to_str().ok());
    let key = key.filter(|key| (8..=100).contains(&key.len())).map(str::to_owned);
    let changes = [Method::POST, Method::PUT, Method::PATCH, Method::DELETE];
    let state = request.app_data::<web::Data<State>>().cloned();
    let (Some(key), Some(state), true) = (key, state, changes.contains(request.method())) else {
        return Ok(next.call(request).await?.map_into_boxed_body());
    };
    let bytes = match read_file(request.take_payload(), MAX_BODY, Problem::too_large()).await {
        Ok(bytes) => bytes,
        Err(problem) => return Ok(request.into_response(problem.response())),
    };
    let mut digest = Sha256::new();
    for part in [request.method().as_str().as_bytes(), request.uri().to_string().as_bytes(), &bytes]
    {
        digest.update((part.len() as u64).to_le_bytes());
        digest.update(part);
    }
    let hash = digest.finalize().to_vec();
    let before = kept(&state.store(), &key).await;
    let begun = std::time::Instant::now();
    loop {
        match state.answers.turn(&key, &hash, || before.clone()) {
            Turn::Do => break,
            Turn::Same(answer) => return Ok(request.into_response(again(&answer))),
            Turn::Other => return Ok(request.into_response(Problem::reused_key().response())),
            Turn::Wait if begun.elapsed() < LONGEST => {
                actix_web::rt::time::sleep(Duration::from_millis(20)).await;
            }
            Turn::Wait => return Ok(request.into_response(Problem::busy().response())),
        }
    }
    let held = Held { answers: &state.answers, key: &key };
    let piece = web::Bytes::from(bytes);
    let payload: Payload =
        Payload::Stream { payload: Box::pin(stream::once(std::future::ready(Ok(piece)))) };
    request.set_payload(payload);
    let response = next.call(request).await?;
    if !response.status().is_success() {
        return Ok(response.map_into_boxed_body());
    }
    let (request, response) = response.into_parts();
    let (response, body) = response.into_parts();
    let body =
        to_bytes(body).await.map_err(|_| actix_web::error::ErrorInternalServerError("body"))?;
    let text = |name| {
        let value = response.headers().get(name)?;
        Some(value.to_str().ok()?.to_owned())
    };
    let answer = Arc::new(Answer {
        hash,
        status: response.status().as_u16(),
        location: text(header::LOCATION),
        kind: text(header::CONTENT_TYPE),
        body: body.to_vec(),
        at: jiff::Timestamp::now().to_string(),
    });
    state.answers.was_given(&key, Arc::clone(&answer));
    drop(held);
    let store = state.store();
    // Whoever asked doesn't wait for that.
    actix_web::rt::spawn(async move {
        let kept = web::block(move || store.keep_answer(&key, &answer)).await;
        if let Ok(Err(error)) = kept {
            tracing::warn!(%error, "an answer was not kept");
        }
    });
    let response = response.set_body(BoxBody::new(body));
    Ok(ServiceResponse::new(request, response))
}
