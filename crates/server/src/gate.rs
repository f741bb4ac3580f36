//! The second door: from the home network only phones that were let in are answered.

use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::{Method, header};
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage, HttpResponse, web};

use crate::api::{Problem, State};
use crate::phones::{COOKIE, Entrance, FromPhone};

/// Where a phone brings its code.
pub(crate) const SIGN_IN: &str = "/api/phones/sign-in";
/// The page that asks for the code, and the picture in its tab: the application's own, without any data.
const PAGES: [&str; 3] = ["/", "/join", "/pitcher.svg"];
/// What is this machine's alone: who may come in, and what is done to the shelf's file.
const HERE_ONLY: [&str; 4] = ["/api/phones", "/api/shelf", "/api/docs", "/api/house"];

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
    let token = request.cookie(COOKIE).map(|cookie| cookie.value().to_owned());
    if !state.phones.may_ask(token.as_deref()) {
        return refuse(request, Problem::too_often(1));
    }
    let path = request.path().to_owned();
    // What is written in a roundabout way is matched by what it means; here nothing has to be.
    let plain = !path.contains('%');
    let public = plain
        && (path == SIGN_IN && request.method() == Method::POST
            || [Method::GET, Method::HEAD].contains(request.method())
                && (PAGES.contains(&path.as_str()) || path.starts_with("/assets/")));
    if public {
        return Ok(next.call(request).await?.map_into_left_body());
    }
    let Some(phone) = state.phone_of(token).await else {
        // Who opens a screen is shown where the code goes.
        if plain && request.method() == Method::GET && !path.contains("api") {
            let join = HttpResponse::SeeOther().insert_header((header::LOCATION, "/join")).finish();
            return Ok(request.into_response(join).map_into_right_body());
        }
        return refuse(request, Problem::not_let_in());
    };
    // What is under which code is for the one who pours, who stands here.
    let of_the_pourer = path.starts_with("/api/tastings/") && path.ends_with("/sheet");
    if !plain || of_the_pourer || HERE_ONLY.iter().any(|here| path.starts_with(here)) {
        return refuse(request, Problem::here_only());
    }
    request.extensions_mut().insert(FromPhone(phone));
    Ok(next.call(request).await?.map_into_left_body())
}
