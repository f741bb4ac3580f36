//! Letting phones in, and putting them out. All but signing in is done on this machine.

use std::net::{IpAddr, Ipv4Addr};

use actix_web::cookie::time::Duration as CookieAge;
use actix_web::cookie::{Cookie, SameSite};
use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use jiff::{SignedDuration, Timestamp};
use keen_core::drink::FieldError;
use keen_store::KeptPhone;
use qrcode::QrCode;
use qrcode::render::svg;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::changes::Changed;
use super::{Body, Problem, State, now};
use crate::phones::{COOKIE, DAYS, Refused, hash, new_token};

/// The connection to the home network.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DoorView {
    /// Whether phones can connect.
    open: bool,
    /// The addresses, one for each network of this machine.
    addresses: Vec<String>,
    /// The code that connects one phone.
    code: Option<String>,
    /// The code is valid for this many more seconds.
    good_for_s: Option<u64>,
    /// A picture of address and code for a phone's camera: an SVG.
    picture: Option<String>,
    /// The connected phones.
    phones: Vec<PhoneView>,
}

/// A connected phone.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PhoneView {
    id: String,
    name: String,
    /// When it was connected, RFC 3339.
    let_in_at: String,
    /// When it was last seen, RFC 3339.
    last_seen: String,
}

/// A phone's code and name.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SignIn {
    /// The six digits.
    code: String,
    /// The name of the phone.
    #[serde(default)]
    name: String,
}

fn picture(address: &str, code: &str) -> Option<String> {
    let text = format!("{address}/join#{code}");
    let picture = QrCode::new(text.as_bytes()).ok()?;
    Some(picture.render::<svg::Color<'_>>().min_dimensions(240, 240).quiet_zone(true).build())
}

impl State {
    async fn door(&self) -> Result<web::Json<DoorView>, Problem> {
        let phones = self.with_store(|store| store.phones(&now())).await?;
        let addresses: Vec<String> =
            self.phones.addresses().iter().map(|at| format!("http://{at}")).collect();
        let code = self.phones.code();
        let picture =
            addresses.first().zip(code.as_ref()).and_then(|(at, (code, _))| picture(at, code));
        let view = |KeptPhone { id, name, let_in_at, last_seen, .. }| PhoneView {
            id,
            name,
            let_in_at,
            last_seen,
        };
        Ok(web::Json(DoorView {
            open: !addresses.is_empty(),
            addresses,
            good_for_s: code.as_ref().map(|(_, s)| *s),
            code: code.map(|(code, _)| code),
            picture,
            phones: phones.into_iter().map(view).collect(),
        }))
    }

    /// The phone whose token that is, if it may come in. That it was seen is noted once a minute.
    pub(crate) async fn phone_of(&self, token: Option<String>) -> Option<String> {
        let token = token.filter(|t| t.len() == 64)?;
        let hashed = hash(&token);
        let found = self
            .with_store(move |store| {
                let now = now();
                let Some(phone) = store.phone(&hashed, &now)? else { return Ok(None) };
                let a_minute_ago = Timestamp::now() - SignedDuration::from_secs(60);
                if phone.last_seen < a_minute_ago.to_string() {
                    store.phone_seen(&phone.id, &now)?;
                }
                Ok(Some(phone.id))
            })
            .await;
        let found = found.ok().flatten()?;
        self.phones.is_good(&token);
        Some(found)
    }
}

/// The connection to the home network, and the connected phones.
#[utoipa::path(tag = "phones", responses((status = 200, body = DoorView)))]
#[get("/api/phones")]
pub(super) async fn read_door(state: web::Data<State>) -> Result<web::Json<DoorView>, Problem> {
    state.door().await
}

/// Whether phones may connect.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetDoor {
    /// True opens the connection with a new code; false disconnects all phones.
    open: bool,
}

/// Let phones connect with a new code, or disconnect all phones and stop.
#[utoipa::path(tag = "phones", request_body = inline(SetDoor), responses((status = 200, body = DoorView)))]
#[put("/api/phones")]
pub(super) async fn set_door(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<DoorView>, Problem> {
    let SetDoor { open } = body.json()?;
    if !open {
        state.with_store(|store| store.put_all_out()).await?;
        state.phones.forget();
        state.changes.tell_out(None);
        state.phones.shut().await;
    } else if state.phones.addresses().is_empty() {
        state.phones.open().await.map_err(|why| Problem::no_door(&why))?;
    } else {
        state.phones.renew();
    }
    state.door().await
}

/// Disconnect a phone at once.
#[utoipa::path(operation_id = "disconnect_phone", tag = "phones", responses((status = 200, body = DoorView)))]
#[delete("/api/phones/{id}")]
pub(super) async fn put_out(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<web::Json<DoorView>, Problem> {
    let gone = id.clone();
    state.with_store(move |store| store.put_out(&gone)).await?;
    state.phones.forget();
    state.changes.tell_out(Some(&id));
    state.door().await
}

/// Connect with a code. The answer sets a cookie that connects this phone for thirty days.
#[utoipa::path(tag = "phones", request_body = inline(SignIn), responses(
    (status = 204), (status = 403, body = Problem)))]
#[post("/api/phones/sign-in")]
pub(super) async fn sign_in(
    request: HttpRequest,
    state: web::Data<State>,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let SignIn { code, name } = body.json()?;
    if name.chars().count() > 40 || name.chars().any(char::is_control) {
        let message = "Enter a name of up to 40 characters.".into();
        return Err(FieldError { field: "name".into(), message }.into());
    }
    let digits: String = code.chars().filter(|c| !c.is_whitespace()).take(20).collect();
    let from = request.peer_addr().map_or(IpAddr::V4(Ipv4Addr::UNSPECIFIED), |at| at.ip());
    match state.phones.tries(&digits, from) {
        Ok(()) => {}
        Err(Refused::Wait(seconds)) => return Err(Problem::too_often(seconds)),
        Err(Refused::Wrong) => return Err(Problem::wrong_code("That isn't the right code.")),
        Err(Refused::Old) => {
            return Err(Problem::wrong_code("That code has expired. Use the new one."));
        }
        Err(Refused::Shut) => return Err(Problem::wrong_code("Phones can't connect now.")),
    }
    let (token, kept) = new_token();
    let until = Timestamp::now() + SignedDuration::from_hours(24 * DAYS);
    let name = if name.trim().is_empty() { "a phone".into() } else { name.trim().to_owned() };
    let phone = KeptPhone {
        id: uuid::Uuid::now_v7().to_string(),
        name,
        let_in_at: now(),
        last_seen: now(),
        until: until.to_string(),
    };
    state.with_store(move |store| store.let_in(&phone, &kept)).await?;
    state.phones.is_good(&token);
    state.changes.tell_document(Changed::Phones, None);
    tracing::info!(from = ?request.peer_addr(), "a phone was connected");
    let cookie = Cookie::build(COOKIE, token)
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .max_age(CookieAge::days(DAYS))
        .finish();
    Ok(HttpResponse::NoContent().cookie(cookie).finish())
}
