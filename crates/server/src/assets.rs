//! The front end, which is part of the program.

use actix_web::http::Method;
use actix_web::http::header::{self, ETag, EntityTag, IfNoneMatch};
use actix_web::web::ReqData;
use actix_web::{HttpRequest, HttpResponse, web};
use rust_embed_for_web::{EmbedableFile, RustEmbed};

use crate::api::Problem;
use crate::guard::Nonce;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Assets;

/// Stands in the page for the nonce of the answer that carries it.
const NONCE_MARK: &str = "__NONCE__";

/// Serves a file of the front end; any other path is a screen of it, which the page finds itself.
pub(crate) async fn serve(
    request: HttpRequest,
    nonce: Option<ReqData<Nonce>>,
    wants: web::Header<header::AcceptEncoding>,
    known: Option<web::Header<IfNoneMatch>>,
) -> HttpResponse {
    if ![Method::GET, Method::HEAD].contains(request.method()) {
        return Problem::wrong_method(&request, "GET".into()).response();
    }
    let path = request.path().trim_start_matches('/');
    match Assets::get(path).filter(|_| path != "index.html") {
        Some(file) => asset(path, &file, &wants, known.map(|k| k.into_inner())),
        None if path.starts_with("assets/") => HttpResponse::NotFound().finish(),
        None => page(nonce.map(|n| n.into_inner().0)),
    }
}

fn page(nonce: Option<String>) -> HttpResponse {
    let Some(file) = Assets::get("index.html") else {
        return HttpResponse::NotFound().finish();
    };
    let data = file.data();
    let bytes: &[u8] = data.as_ref();
    let text = String::from_utf8_lossy(bytes).replace(NONCE_MARK, &nonce.unwrap_or_default());
    HttpResponse::Ok()
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .content_type("text/html; charset=utf-8")
        .body(text)
}

fn asset(
    path: &str,
    file: &impl EmbedableFile,
    wants: &header::AcceptEncoding,
    known: Option<IfNoneMatch>,
) -> HttpResponse {
    // Weak, since one tag stands for the file in every encoding.
    let tag = EntityTag::new_weak(file.hash().as_ref().replace('"', ""));
    if let Some(IfNoneMatch::Items(items)) = known
        && items.iter().any(|item| item.weak_eq(&tag))
    {
        return HttpResponse::NotModified().finish();
    }
    let accepts = |name: &str| {
        wants.iter().any(|item| item.item.to_string() == name && item.quality > header::q(0.0))
    };
    let mut response = HttpResponse::Ok();
    response.insert_header(ETag(tag)).insert_header((header::VARY, "accept-encoding"));
    // Names under assets/ carry a hash of their contents, so they never change.
    let cache = if path.starts_with("assets/") {
        "public, max-age=31536000, immutable"
    } else {
        "no-cache"
    };
    response.insert_header((header::CACHE_CONTROL, cache));
    if let Some(kind) = file.mime_type() {
        response.content_type(kind.as_ref().to_owned());
    }
    if let Some(brotli) = file.data_br().filter(|_| accepts("br")) {
        response.insert_header((header::CONTENT_ENCODING, "br"));
        return response.body(brotli.as_ref().to_vec());
    }
    if let Some(gzip) = file.data_gzip().filter(|_| accepts("gzip")) {
        response.insert_header((header::CONTENT_ENCODING, "gzip"));
        return response.body(gzip.as_ref().to_vec());
    }
    response.body(file.data().as_ref().to_vec())
}
