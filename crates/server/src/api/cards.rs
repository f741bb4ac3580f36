//! Cards that read back: the picture code of a drink, and the drink of a photographed card.

use actix_web::{HttpResponse, get, post, web};
use keen_core::drink::{Drink, FieldError};
use keen_formats::{CodeError, MOST_PICTURE_BYTES, code_drawing, drink_of, read_codes};
use serde::Serialize;
use utoipa::ToSchema;

use super::body::read_file;
use super::desk::Asker;
use super::kept_drink::kept_drink;
use super::{Problem, State};

/// The picture code of a drink, as a drawing: the whole drink in the open format, compressed. A drink of more than
/// some 2 kB has two, side by side.
#[utoipa::path(operation_id = "draw_code", tag = "drinks", responses(
    (status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
#[get("/api/drinks/{id}/code")]
pub(super) async fn code(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let kept = state.with_store(move |store| store.drinks().read(&id)).await?;
    let drink = kept_drink(&kept.body).map_err(|why| Problem::damaged_drink(&why.to_string()))?;
    let Some(drawing) = code_drawing(&drink) else {
        let message = "This drink is too large for a picture code. Save it as a file instead.";
        return Err(FieldError::new("drink", message).into());
    };
    Ok(HttpResponse::Ok().content_type("image/svg+xml").body(drawing))
}

/// The drink that a card holds.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CardRead {
    drink: Drink,
}

/// Read a drink off a photo or scan of its card: JPEG or PNG, up to 20 MB.
#[utoipa::path(operation_id = "read_photographed_card", tag = "compute",
    request_body(content = String, content_type = "image/jpeg"),
    responses((status = 200, body = CardRead), (status = 422, body = Problem)))]
#[post("/api/compute/card")]
pub(super) async fn read_card(
    state: web::Data<State>,
    asker: Asker,
    body: web::Payload,
) -> Result<web::Json<CardRead>, Problem> {
    let fault = |why: &CodeError| FieldError::new("picture", why.to_string());
    let bytes = read_file(body, MOST_PICTURE_BYTES, fault(&CodeError::NoPicture)).await?;
    let cupboard = state.cupboard();
    let read = move |_: &_| {
        let codes = read_codes(&bytes).map_err(|why| fault(&why))?;
        Ok(CardRead { drink: drink_of(&codes, &cupboard).map_err(|why| fault(&why))? })
    };
    state.desk.ask(asker, read).await.map(web::Json)
}
