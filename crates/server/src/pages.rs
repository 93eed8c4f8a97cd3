//! The front end: files built by Vite and embedded in the program. Any other address gets the page, which finds its way.
//! Vite puts a copy in brotli beside each text, made at its best level; a browser that takes it gets it as it is.

use crate::problem::ApiError;
use actix_web::http::header::{AcceptEncoding, CACHE_CONTROL, ContentEncoding, Encoding, Header, VARY};
use actix_web::{HttpRequest, HttpResponse};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Pages;

/// `GET` of anything that is not of the interface.
pub async fn page(request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let path = request.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return Err(ApiError::NotFound("address"));
    }
    // Vite puts a hash of the content into the names under assets/.
    let keep = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let file = sent(&request, path, keep).or_else(|| sent(&request, "index.html", "no-cache"));
    file.ok_or_else(|| {
        ApiError::Internal(anyhow::anyhow!(
            "the front end is not built: run `cargo xtask demo` or `npm run bundle` in web/"
        ))
    })
}

/// A file of the front end, if there is one of this name.
fn sent(request: &HttpRequest, path: &str, keep: &'static str) -> Option<HttpResponse> {
    let file = Pages::get(path)?;
    let mut answer = HttpResponse::Ok();
    answer
        .content_type(file.metadata.mimetype())
        .insert_header((CACHE_CONTROL, keep))
        .insert_header((VARY, "accept-encoding"));
    let small = Pages::get(&format!("{path}.br")).filter(|_| takes_brotli(request));
    Some(match small {
        Some(small) => answer.insert_header(ContentEncoding::Brotli).body(small.data),
        None => answer.body(file.data),
    })
}

fn takes_brotli(request: &HttpRequest) -> bool {
    let known = [Encoding::brotli(), Encoding::gzip(), Encoding::identity()];
    let accepted = AcceptEncoding::parse(request).ok();
    accepted.and_then(|accepted| accepted.negotiate(known.iter())) == Some(Encoding::brotli())
}
