//! The front end, which is part of the program.
//!
//! It comes with a compressed copy of each file that is worth it beside it (`app.js`, `app.js.br`,
//! `app.js.gz`), made when it was built.

use std::hash::{DefaultHasher, Hash, Hasher};

use actix_web::http::Method;
use actix_web::http::header::{self, ETag, EntityTag, IfNoneMatch};
use actix_web::web::ReqData;
use actix_web::{HttpRequest, HttpResponse, web};
use include_dir::Dir;

use crate::api::Problem;
use crate::guard::Nonce;

/// The screens: what the front end's build wrote.
#[derive(Debug, Clone, Copy)]
pub struct Screens(pub &'static Dir<'static>);

impl Screens {
    fn file(self, path: &str) -> Option<&'static [u8]> {
        self.0.get_file(path).map(include_dir::File::contents)
    }
}

/// Stands in the page for the nonce of the answer that carries it.
const NONCE_MARK: &str = "__NONCE__";
/// Where the page stands on which the API's description is read.
const DOCUMENTATION: &str = "api-docs";

/// Serves a file of the front end; any other path is a screen of it, which the page finds itself.
pub(crate) async fn serve(
    request: HttpRequest,
    screens: web::Data<Screens>,
    nonce: Option<ReqData<Nonce>>,
    wants: web::Header<header::AcceptEncoding>,
    known: Option<web::Header<IfNoneMatch>>,
) -> HttpResponse {
    if ![Method::GET, Method::HEAD].contains(request.method()) {
        return Problem::wrong_method(&request, "GET".into()).response();
    }
    let path = request.path().trim_start_matches('/');
    let own_page = path == "index.html" || path.starts_with(DOCUMENTATION);
    match screens.file(path).filter(|_| !own_page) {
        Some(file) => asset(**screens, path, file, &wants, known.map(|k| k.into_inner())),
        None if path.starts_with("assets/") => HttpResponse::NotFound().finish(),
        None => page(**screens, nonce.map(|n| n.into_inner().0)),
    }
}

/// The page on which the API's description is read, and what it is made of.
pub(crate) async fn documentation(
    file: web::Path<String>,
    screens: web::Data<Screens>,
    wants: web::Header<header::AcceptEncoding>,
    known: Option<web::Header<IfNoneMatch>>,
) -> HttpResponse {
    let name = if file.is_empty() { "index.html" } else { &file };
    let path = format!("{DOCUMENTATION}/{name}");
    match screens.file(&path) {
        Some(file) => asset(**screens, &path, file, &wants, known.map(|k| k.into_inner())),
        None => HttpResponse::NotFound().finish(),
    }
}

fn page(screens: Screens, nonce: Option<String>) -> HttpResponse {
    let Some(bytes) = screens.file("index.html") else {
        return HttpResponse::NotFound().finish();
    };
    let text = String::from_utf8_lossy(bytes).replace(NONCE_MARK, &nonce.unwrap_or_default());
    HttpResponse::Ok()
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .content_type("text/html; charset=utf-8")
        .body(text)
}

/// What kinds of file a front end is built of.
fn kind_of(path: &str) -> &'static str {
    match path.rsplit('.').next() {
        Some("js") => "text/javascript; charset=utf-8",
        Some("css") => "text/css; charset=utf-8",
        Some("html") => "text/html; charset=utf-8",
        Some("json" | "map") => "application/json",
        Some("svg") => "image/svg+xml",
        Some("png") => "image/png",
        Some("woff2") => "font/woff2",
        Some("txt") => "text/plain; charset=utf-8",
        _ => "application/octet-stream",
    }
}

fn asset(
    screens: Screens,
    path: &str,
    file: &'static [u8],
    wants: &header::AcceptEncoding,
    known: Option<IfNoneMatch>,
) -> HttpResponse {
    let mut hash = DefaultHasher::new();
    file.hash(&mut hash);
    // Weak, since one tag stands for the file in every encoding.
    let tag = EntityTag::new_weak(format!("{:016x}", hash.finish()));
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
    response.insert_header((header::CACHE_CONTROL, cache)).content_type(kind_of(path));
    for (encoding, end) in [("br", "br"), ("gzip", "gz")] {
        if let Some(small) = screens.file(&format!("{path}.{end}")).filter(|_| accepts(encoding)) {
            response.insert_header((header::CONTENT_ENCODING, encoding));
            return response.body(small);
        }
    }
    response.body(file)
}
