//! The second door: from the home network only phones that were let in are answered.

use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage, web};

use crate::api::{Problem, State};
use crate::phones::{COOKIE, Entrance, FromPhone};

/// Where a phone brings its code.
pub(crate) const SIGN_IN: &str = "/api/phones/sign-in";
/// What is this machine's alone: who may come in, and what is done to the shelf's file.
const HERE_ONLY: [&str; 4] = ["/api/phones", "/api/shelf", "/api/docs", "/api/instruments/bridges"];

/// Lets through what may come through the door that it came to.
pub(crate) async fn check<B: MessageBody>(
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, Error> {
    let refuse = |request: ServiceRequest, problem: Problem| {
        Ok(request.into_response(problem.response()).map_into_right_body())
    };
    if !matches!(request.app_data::<Entrance>(), Some(Entrance::Kitchen(_))) {
        return Ok(next.call(request).await?.map_into_left_body());
    }
    let Some(state) = request.app_data::<web::Data<State>>().cloned() else {
        return refuse(request, Problem::forbidden());
    };
    if !state.phones.may_ask() {
        return refuse(request, Problem::too_often(1));
    }
    let path = request.path().to_owned();
    let signs_in = path == SIGN_IN && request.method() == Method::POST;
    // The page that asks for the code is the application's own, without any data in it.
    if signs_in || !path.starts_with("/api") {
        return Ok(next.call(request).await?.map_into_left_body());
    }
    let token = request.cookie(COOKIE).map(|cookie| cookie.value().to_owned());
    let Some(phone) = state.phone_of(token).await else {
        return refuse(request, Problem::not_let_in());
    };
    if HERE_ONLY.iter().any(|here| path.starts_with(here)) {
        return refuse(request, Problem::here_only());
    }
    request.extensions_mut().insert(FromPhone(phone));
    Ok(next.call(request).await?.map_into_left_body())
}
