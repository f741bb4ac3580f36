//! Who may ask, and what a page may load.
//!
//! The server listens on this machine only, unless phones are let in. A page from elsewhere, open in the same browser, could
//! still send requests here or point its own name at this address; so the `Host` must be the
//! door's own, and an `Origin`, where a browser sends one, the same.

use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header::{self, HeaderMap, HeaderName, HeaderValue};
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage};

use crate::api::Problem;
use crate::phones::Entrance;

/// What the page's style elements must carry to be believed; new for each answer.
#[derive(Debug, Clone)]
pub(crate) struct Nonce(pub(crate) String);

fn is_allowed(request: &ServiceRequest) -> bool {
    let text = |name: HeaderName| request.headers().get(name).map(HeaderValue::to_str);
    let host = match text(header::HOST) {
        Some(Ok(host)) => host,
        _ => return false,
    };
    let door = request.app_data::<Entrance>().unwrap_or(&Entrance::Here);
    match text(header::ORIGIN) {
        None => door.knows(host),
        Some(Ok(origin)) => {
            door.knows(host) && origin.strip_prefix("http://").is_some_and(|from| from == host)
        }
        Some(Err(_)) => false,
    }
}

/// Turns strangers away and adds the headers that keep a page to itself.
pub(crate) async fn check<B: MessageBody>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, Error> {
    let nonce = format!("{:032x}", rand::random::<u128>());
    let documentation = request.path().starts_with("/api/docs");
    request.extensions_mut().insert(Nonce(nonce.clone()));
    let mut response = if is_allowed(&request) {
        next.call(request).await?.map_into_left_body()
    } else {
        request.into_response(Problem::forbidden().response()).map_into_right_body()
    };
    // The API's readable page comes ready made and writes its own styles.
    let styles =
        if documentation { "'unsafe-inline'".to_owned() } else { format!("'nonce-{nonce}'") };
    secure(response.headers_mut(), &format!("'self' {styles}"));
    Ok(response)
}

/// The headers that keep a page to itself; `styles` are where its styles may come from.
pub(crate) fn secure(headers: &mut HeaderMap, styles: &str) {
    let policy = format!(
        "default-src 'none'; script-src 'self'; style-src {styles}; img-src 'self' data:; \
         font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; \
         frame-ancestors 'none'"
    );
    if let Ok(policy) = HeaderValue::from_str(&policy) {
        headers.insert(header::CONTENT_SECURITY_POLICY, policy);
    }
    headers.insert(header::X_CONTENT_TYPE_OPTIONS, HeaderValue::from_static("nosniff"));
    headers.insert(header::REFERRER_POLICY, HeaderValue::from_static("no-referrer"));
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::test::TestRequest;

    #[test]
    fn only_this_machine_may_ask() {
        for (host, origin, allowed) in [
            ("127.0.0.1:7340", None, true),
            ("localhost:7340", Some("http://localhost:7340"), true),
            ("[::1]:7340", None, true),
            ("kitchen.example:7340", None, false),
            ("127.0.0.1.kitchen.example", None, false),
            ("127.0.0.1:7340", Some("http://kitchen.example"), false),
            ("127.0.0.1:7340", Some("http://127.0.0.1:9999"), false),
            ("127.0.0.1:7340", Some("null"), false),
        ] {
            let mut request = TestRequest::default().insert_header((header::HOST, host));
            if let Some(origin) = origin {
                request = request.insert_header((header::ORIGIN, origin));
            }
            assert_eq!(is_allowed(&request.to_srv_request()), allowed, "{host} {origin:?}");
        }
    }
}
