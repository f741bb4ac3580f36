//! What comes with a request, or why it can't be taken.

use std::future::Future;
use std::pin::Pin;
use std::time::Duration;

use actix_web::dev::Payload;
use actix_web::error::PayloadError;
use actix_web::http::header;
use actix_web::{FromRequest, HttpRequest, web};
use futures_util::{Stream, StreamExt};
use serde::de::DeserializeOwned;

use super::Problem;

/// A body that isn't there after this has been cut off on the way: half a megabyte takes a slow phone
/// a second.
const PATIENCE: Duration = Duration::from_secs(6);

/// A file of up to so many bytes, or what is said of a larger one. Between two pieces no more than a while may pass.
pub(crate) async fn read_file(
    mut body: impl Stream<Item = Result<web::Bytes, PayloadError>> + Unpin,
    most: usize,
    too_large: impl Into<Problem>,
) -> Result<Vec<u8>, Problem> {
    let mut bytes = Vec::new();
    loop {
        match actix_web::rt::time::timeout(PATIENCE, body.next()).await {
            Ok(None) => return Ok(bytes),
            Ok(Some(piece)) => bytes.extend_from_slice(&piece.map_err(|_| Problem::cut_off())?),
            Err(_) => return Err(Problem::too_slow()),
        }
        if bytes.len() > most {
            return Err(too_large.into());
        }
    }
}

/// A JSON text as it came.
#[derive(Debug)]
pub(crate) struct Body(web::Bytes);

impl FromRequest for Body {
    type Error = Problem;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Problem>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let headers = request.headers();
        let text = |name| headers.get(name).map(|v| v.to_str().unwrap_or("?").to_ascii_lowercase());
        let coding = text(header::CONTENT_ENCODING);
        let packed = coding.as_deref() == Some("gzip");
        if let Some(coding) = coding
            && !["gzip", "identity"].contains(&coding.as_str())
        {
            return Box::pin(async move { Err(Problem::unknown_coding(&coding)) });
        }
        if let Some(kind) = text(header::CONTENT_TYPE) {
            let kind = kind.split(';').next().unwrap_or_default().trim().to_owned();
            if kind != "application/json" && !kind.ends_with("+json") {
                return Box::pin(async move { Err(Problem::not_json(&kind)) });
            }
        }
        let bytes = web::Bytes::from_request(request, payload);
        Box::pin(async move {
            match actix_web::rt::time::timeout(PATIENCE, bytes).await {
                Ok(Ok(bytes)) => Ok(Self(bytes)),
                Ok(Err(error)) => Err(refused(&error, packed)),
                Err(_) => Err(Problem::too_slow()),
            }
        })
    }
}

fn refused(error: &actix_web::Error, packed: bool) -> Problem {
    match error.as_error::<PayloadError>() {
        Some(PayloadError::Overflow) | None => Problem::too_large(),
        Some(_) if packed => Problem::bad_coding(),
        Some(_) => Problem::cut_off(),
    }
}

impl Body {
    pub(crate) fn bytes(&self) -> &[u8] {
        &self.0
    }

    pub(crate) fn json<T: DeserializeOwned>(&self) -> Result<T, Problem> {
        Ok(keen_formats::read_json(&self.0)?)
    }
}

/// A key that a change is said under, so that saying it again does it once.
#[derive(Debug)]
pub(crate) struct SaidUnder(pub(crate) Option<String>);

impl FromRequest for SaidUnder {
    type Error = Problem;
    type Future = std::future::Ready<Result<Self, Problem>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let key = request.headers().get("idempotency-key");
        std::future::ready(match key.map(|k| k.to_str()) {
            None => Ok(Self(None)),
            Some(Ok(key)) if (8..=100).contains(&key.len()) => Ok(Self(Some(key.to_owned()))),
            Some(_) => Err(Problem::bad_key()),
        })
    }
}
