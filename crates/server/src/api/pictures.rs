//! The picture of a batch. The browser makes it small before it is sent; what it is, is told by its first bytes.

use actix_web::http::header;
use actix_web::{HttpResponse, delete, get, put, web};
use keen_core::drink::FieldError;
use keen_store::KeptPicture;

use super::body::read_file;
use super::changes::Changed;
use super::desk::By;
use super::{Problem, State, now};

/// The largest picture that is kept, bytes: a phone's photograph at 1,600 pixels takes a tenth of it.
const MOST: usize = 3 * 1024 * 1024;

/// What kind of picture begins like this; only what every browser shows and nothing that can run.
fn kind_of(bytes: &[u8]) -> Option<&'static str> {
    match bytes {
        [0xff, 0xd8, 0xff, ..] => Some("image/jpeg"),
        [0x89, b'P', b'N', b'G', 0x0d, 0x0a, 0x1a, 0x0a, ..] => Some("image/png"),
        [b'R', b'I', b'F', b'F', _, _, _, _, b'W', b'E', b'B', b'P', ..] => Some("image/webp"),
        _ => None,
    }
}

/// Save a batch's picture, replacing the one before: JPEG, PNG or WebP, up to 3 MB.
#[utoipa::path(tag = "batches",
    request_body(content = String, content_type = "image/jpeg"),
    responses((status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/api/batches/{id}/picture")]
pub(super) async fn put_picture(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
    body: web::Payload,
) -> Result<HttpResponse, Problem> {
    let large = FieldError::new("picture", "Choose a picture of up to 3 MB.");
    let bytes = read_file(body, MOST, large).await?;
    let Some(kind) = kind_of(&bytes) else {
        let message = "Choose a JPEG, PNG or WebP picture.";
        return Err(FieldError::new("picture", message).into());
    };
    let of = id.clone();
    let picture = KeptPicture { kind: kind.into(), bytes };
    state.with_store(move |store| store.put_picture(&id, &picture, &now())).await?;
    state.changes.tell_kept(Changed::Batch, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

/// A batch's picture.
#[utoipa::path(tag = "batches", responses(
    (status = 200, body = String, content_type = "image/jpeg"), (status = 404, body = Problem)))]
#[get("/api/batches/{id}/picture")]
pub(super) async fn read_picture(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let KeptPicture { kind, bytes } = state.with_store(move |store| store.picture(&id)).await?;
    Ok(HttpResponse::Ok()
        .content_type(kind)
        // Whoever asks says since when it is there, so another picture has another address.
        .insert_header((header::CACHE_CONTROL, "private, max-age=86400"))
        .body(bytes))
}

/// Delete a batch's picture.
#[utoipa::path(tag = "batches", responses((status = 204)))]
#[delete("/api/batches/{id}/picture")]
pub(super) async fn take_picture_away(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<HttpResponse, Problem> {
    let of = id.clone();
    state.with_store(move |store| store.take_picture_away(&id)).await?;
    state.changes.tell_kept(Changed::Batch, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}
