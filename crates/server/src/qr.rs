//! Addresses as codes that a camera reads.

use crate::problem::ApiError;
use actix_web::HttpResponse;
use fast_qr::convert::{Builder, Shape, svg::SvgBuilder};
use fast_qr::qr::QRBuilder;

/// An address as a QR code, in SVG, dark on nothing.
pub fn svg(address: String) -> Result<String, ApiError> {
    let code = QRBuilder::new(address).build().map_err(|e| ApiError::Internal(anyhow::anyhow!("qr code: {e:?}")))?;
    Ok(SvgBuilder::default().shape(Shape::Square).background_color([255, 255, 255, 0]).to_str(&code))
}

/// The reply with a picture.
pub fn reply(svg: String) -> HttpResponse {
    HttpResponse::Ok().content_type("image/svg+xml").body(svg)
}
