//! The tables of the handbook, as the core computes with them.

use crate::access::Desk;
use actix_web::{get, web};
use chem::ELEMENTS;
use measure::{GLASSWARE, Glassware};
use serde::Serialize;
use utoipa::ToSchema;

/// One element of the table in use.
#[derive(Debug, Serialize, ToSchema)]
pub struct ElementView {
    /// Protons.
    number: u8,
    /// Symbol.
    symbol: &'static str,
    /// Name.
    name: &'static str,
    /// Relative atomic mass by the standard abridged table, digits of the table; none where there is no standard one.
    abridged: Option<String>,
    /// Half-width of its interval.
    half_width: Option<String>,
    /// By the one-decimal school table.
    school: Option<String>,
}

/// `GET /handbook/elements`, for instructors.
#[utoipa::path(get, path = "/api/v1/handbook/elements", responses((status = 200, body = [ElementView])))]
#[get("/handbook/elements")]
pub async fn elements(_desk: Desk) -> web::Json<Vec<ElementView>> {
    let view = |e: &chem::Element| ElementView {
        number: e.number,
        symbol: e.symbol,
        name: e.name,
        abridged: e.abridged.map(|(mass, half_width)| with_digits_of(mass, half_width)),
        half_width: e.abridged.map(|(_, half_width)| half_width.to_string()),
        school: e.school.map(|mass| format!("{mass:.1}")),
    };
    web::Json(ELEMENTS.iter().map(view).collect())
}

/// `GET /handbook/glassware`, for instructors.
#[utoipa::path(get, path = "/api/v1/handbook/glassware", responses((status = 200, body = [Glassware])))]
#[get("/handbook/glassware")]
pub async fn show_glassware(_desk: Desk) -> web::Json<&'static [Glassware]> {
    web::Json(GLASSWARE)
}

/// The mass with as many decimals as its half-width has: 1.0080 ± 0.0002.
fn with_digits_of(mass: f64, half_width: f64) -> String {
    let decimals = half_width.to_string().split_once('.').map_or(0, |(_, part)| part.len());
    format!("{mass:.decimals$}")
}
