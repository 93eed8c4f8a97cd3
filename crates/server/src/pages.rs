//! The front end: files built by Vite and embedded in the program. Any other address gets the page, which finds its way.

use crate::problem::ApiError;
use actix_web::http::header::{CACHE_CONTROL, ContentType};
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
    if let Some(file) = Pages::get(path) {
        // Vite puts a hash of the content into the names under assets/.
        let keep = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
        let kind = file.metadata.mimetype();
        return Ok(HttpResponse::Ok().content_type(kind).insert_header((CACHE_CONTROL, keep)).body(file.data));
    }
    let index = Pages::get("index.html").ok_or_else(|| {
        ApiError::Internal(anyhow::anyhow!(
            "the front end is not built: run `cargo xtask demo` or `npm run bundle` in web/"
        ))
    })?;
    Ok(HttpResponse::Ok().content_type(ContentType::html()).insert_header((CACHE_CONTROL, "no-cache")).body(index.data))
}
