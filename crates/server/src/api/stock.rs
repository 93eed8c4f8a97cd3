//! What stands on the shelves of the prep room; as CSV in and out.

use crate::access::Staff;
use crate::api::export::safe;
use crate::app::{App, blocking};
use crate::clock::is_over;
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, delete, get, post, put, web};
use jiff::civil::Date;
use prepare::stock::{Container, StockUnit};
use serde::{Deserialize, Serialize};
use store::InStock;
use utoipa::ToSchema;

/// Longest text about a container.
const LONGEST: usize = 80;
/// Most that a container holds, g or mL: a tonne.
const MOST: f64 = 1e6;
/// Most containers that come at once.
const MOST_CONTAINERS: usize = 1_000;
const COLUMNS: [&str; 6] = ["holds", "form", "amount", "unit", "place", "keep until"];

/// A container with what is in it.
#[derive(Debug, Serialize, ToSchema)]
pub struct StockView {
    /// Id.
    id: i64,
    /// What it is.
    container: Container,
    /// In its unit.
    amount: f64,
    /// When that changed last, ms.
    changed_at: i64,
    /// It is kept longer than it keeps.
    is_old: bool,
}

/// A container to be put on the shelf.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewContainer {
    /// What it is.
    container: Container,
    /// How much is in it, in its unit.
    amount: f64,
}

/// How much is in a container now.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Counted {
    /// In its unit.
    amount: f64,
    /// Why it is another amount than before.
    reason: String,
}

/// A list of containers as CSV.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StockList {
    /// With a line of headings: holds, form, amount, unit, place, keep until.
    csv: String,
}

fn view(app: &App) -> Result<Vec<StockView>, ApiError> {
    let now = app.clock.now();
    let old = |c: &Container| c.keep_until.as_deref().and_then(|d| is_over(d, now)).unwrap_or(false);
    let shown = |s: InStock| StockView {
        id: s.id,
        is_old: old(&s.container),
        container: s.container,
        amount: s.amount,
        changed_at: s.changed_at,
    };
    Ok(app.store.stock()?.into_iter().map(shown).collect())
}

/// A container as it is kept.
fn sound(container: &Container, amount: f64) -> Result<(Container, f64), Invalid> {
    if !(0.0..=MOST).contains(&amount) {
        return Err(Invalid::StockAmount);
    }
    let text = |text: &str, what| {
        if text.trim().is_empty() {
            Ok(String::new())
        } else {
            one_line(text, LONGEST).ok_or(Invalid::TooLong { what, most: LONGEST })
        }
    };
    let keep_until = container.keep_until.as_deref().map(str::trim).filter(|d| !d.is_empty());
    if let Some(date) = keep_until.filter(|d| d.parse::<Date>().is_err()) {
        return Err(Invalid::KeepUntil(date.chars().take(20).collect()));
    }
    let holds = one_line(&container.holds, LONGEST).ok_or(Invalid::Length { what: "what is in it", most: LONGEST })?;
    let (form, place) = (text(&container.form, "the form")?, text(&container.place, "the place")?);
    Ok((Container { holds, form, place, keep_until: keep_until.map(str::to_owned), unit: container.unit }, amount))
}

/// `GET /stock`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/stock", responses((status = 200, body = [StockView]), (status = 401, body = Problem)))]
#[get("/stock")]
pub async fn show_stock(app: web::Data<App>, _staff: Staff) -> Result<web::Json<Vec<StockView>>, ApiError> {
    Ok(web::Json(blocking(&app, view).await?))
}

/// `POST /stock`, for instructors and technicians: one container more.
#[utoipa::path(post, path = "/api/v1/stock", request_body = NewContainer,
    responses((status = 200, body = [StockView]), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/stock")]
pub async fn put_on_shelf(
    app: web::Data<App>,
    staff: Staff,
    body: web::Json<NewContainer>,
) -> Result<web::Json<Vec<StockView>>, ApiError> {
    let NewContainer { container, amount } = body.into_inner();
    let all = blocking(&app, move |app| {
        app.store.put_on_shelf(vec![sound(&container, amount)?], staff.person.id, app.clock.now())?;
        view(app)
    });
    Ok(web::Json(all.await?))
}

/// `PUT /stock/{id}`, for instructors and technicians: counted anew, or drawn from.
#[utoipa::path(put, path = "/api/v1/stock/{id}", params(("id" = i64, Path)), request_body = Counted,
    responses((status = 200, body = [StockView]), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[put("/stock/{id}")]
pub async fn count_stock(
    app: web::Data<App>,
    staff: Staff,
    id: web::Path<i64>,
    body: web::Json<Counted>,
) -> Result<web::Json<Vec<StockView>>, ApiError> {
    let Counted { amount, reason } = body.into_inner();
    let all = blocking(&app, move |app| {
        if !(0.0..=MOST).contains(&amount) {
            return Err(Invalid::StockAmount.into());
        }
        let reason = one_line(&reason, LONGEST).ok_or(Invalid::Length { what: "the reason", most: LONGEST })?;
        app.store.count_stock(*id, amount, reason, staff.person.id, app.clock.now())?;
        view(app)
    });
    Ok(web::Json(all.await?))
}

/// `DELETE /stock/{id}`, for instructors and technicians: used up, or thrown away.
#[utoipa::path(delete, path = "/api/v1/stock/{id}", params(("id" = i64, Path)),
    responses((status = 200, body = [StockView]), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[delete("/stock/{id}")]
pub async fn take_off_shelf(
    app: web::Data<App>,
    staff: Staff,
    id: web::Path<i64>,
) -> Result<web::Json<Vec<StockView>>, ApiError> {
    let all = blocking(&app, move |app| {
        app.store.take_off_shelf(*id, staff.person.id, app.clock.now())?;
        view(app)
    });
    Ok(web::Json(all.await?))
}

/// `GET /stock.csv`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/stock.csv",
    responses((status = 200, description = "a table", content_type = "text/csv", body = String), (status = 401, body = Problem)))]
#[get("/stock.csv")]
pub async fn export_stock(app: web::Data<App>, _staff: Staff) -> Result<HttpResponse, ApiError> {
    let text = blocking(&app, |app| {
        let failed = |e: csv::Error| ApiError::Internal(e.into());
        let mut writer = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
        writer.write_record(COLUMNS).map_err(failed)?;
        for InStock { container: c, amount, .. } in app.store.stock()? {
            let amount = amount.to_string();
            let keep_until = c.keep_until.unwrap_or_default();
            let cells = [&c.holds, &c.form, &amount, &c.unit.written().to_owned(), &c.place, &keep_until];
            writer.write_record(cells.map(|cell| safe(cell))).map_err(failed)?;
        }
        writer.into_inner().map_err(|e| ApiError::Internal(anyhow::anyhow!("{e}")))
    });
    let disposition = ("content-disposition", "attachment; filename=\"stock.csv\"");
    Ok(HttpResponse::Ok().content_type("text/csv; charset=utf-8").insert_header(disposition).body(text.await?))
}

/// `POST /stock/list`, for instructors and technicians: many containers from a list; all of them or none.
#[utoipa::path(post, path = "/api/v1/stock/list", request_body = StockList,
    responses((status = 200, body = [StockView]), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn import_stock(
    app: web::Data<App>,
    staff: Staff,
    body: web::Json<StockList>,
) -> Result<web::Json<Vec<StockView>>, ApiError> {
    let all = blocking(&app, move |app| {
        app.store.put_on_shelf(listed(&body.csv)?, staff.person.id, app.clock.now())?;
        view(app)
    });
    Ok(web::Json(all.await?))
}

/// The containers of a list. What is wrong is told with its line.
fn listed(text: &str) -> Result<Vec<(Container, f64)>, Invalid> {
    let at = |line: usize, what: String| Invalid::StockList { line, what };
    let mut reader = csv::ReaderBuilder::new().trim(csv::Trim::All).flexible(true).from_reader(text.as_bytes());
    let heads = reader.headers().map_err(|e| at(1, e.to_string()))?.clone();
    let column = |name: &str| heads.iter().position(|h| h.eq_ignore_ascii_case(name));
    for needed in ["holds", "amount", "unit"] {
        if column(needed).is_none() {
            return Err(at(1, format!("there is no column '{needed}'")));
        }
    }
    let mut out = Vec::new();
    for (line, row) in (2..).zip(reader.records()) {
        let row = row.map_err(|e| at(line, e.to_string()))?;
        let cell = |name: &str| column(name).and_then(|i| row.get(i)).unwrap_or_default().to_owned();
        let amount = measure::Decimal::parse(&cell("amount")).map_err(|e| at(line, format!("amount: {e}")))?.to_f64();
        let unit = match cell("unit").as_str() {
            "g" => StockUnit::Gram,
            "mL" | "ml" => StockUnit::Millilitre,
            other => {
                return Err(at(
                    line,
                    format!("'{}' is no unit here: g or mL", other.chars().take(20).collect::<String>()),
                ));
            }
        };
        let container = Container {
            holds: cell("holds"),
            form: cell("form"),
            unit,
            place: cell("place"),
            keep_until: Some(cell("keep until")),
        };
        out.push(sound(&container, amount).map_err(|e| at(line, e.to_string()))?);
        if out.len() > MOST_CONTAINERS {
            return Err(at(line, format!("at most {MOST_CONTAINERS} containers at once")));
        }
    }
    if out.is_empty() {
        return Err(at(1, "there is nothing in the list".into()));
    }
    Ok(out)
}
