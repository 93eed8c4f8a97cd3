//! The school's calendar: its days, its bell, when it is closed; as iCalendar in and out.

use crate::access::Staff;
use crate::api::preparing::{MINUTE_MS, Prepared, meetings};
use crate::api::texts::named;
use crate::app::{App, blocking};
use crate::ical::{self, Dated, FoundInCalendar, Stretch};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, get, post, put, web};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use prepare::calendar::{Return, SchoolCalendar, returns};
use serde::Deserialize;
use store::Run;
use utoipa::ToSchema;

/// A calendar file.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CalendarFile {
    /// Its text.
    text: String,
}

/// `GET /calendar`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/calendar",
    responses((status = 200, body = SchoolCalendar), (status = 401, body = Problem)))]
#[get("/calendar")]
pub async fn show_calendar(app: web::Data<App>, _staff: Staff) -> Result<web::Json<SchoolCalendar>, ApiError> {
    Ok(web::Json(blocking(&app, App::calendar).await?))
}

/// `PUT /calendar`, for instructors and technicians: says anew when there is school.
#[utoipa::path(put, path = "/api/v1/calendar", request_body = SchoolCalendar,
    responses((status = 200, body = SchoolCalendar), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[put("/calendar")]
pub async fn keep_calendar(
    app: web::Data<App>,
    staff: Staff,
    calendar: web::Json<SchoolCalendar>,
) -> Result<web::Json<SchoolCalendar>, ApiError> {
    let mut calendar = calendar.into_inner();
    let kept = blocking(&app, move |app| {
        for period in &mut calendar.periods {
            period.name = named(&period.name, "the name of a period")?;
        }
        for days in &mut calendar.days_off {
            days.name = named(&days.name, "the name of days off")?;
        }
        calendar.periods.sort_by_key(|p| p.from);
        calendar.days_off.sort_by_key(|d| (d.from, d.to));
        calendar.sound().map_err(Invalid::from)?;
        app.store.keep_calendar(calendar, format!("person {}", staff.person.id), app.clock.now())?;
        app.calendar()
    });
    Ok(web::Json(kept.await?))
}

/// `POST /calendar/file`, for instructors and technicians: what stands in an iCalendar file. Nothing is kept of it.
#[utoipa::path(post, path = "/api/v1/calendar/file", request_body = CalendarFile,
    responses((status = 200, body = FoundInCalendar), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn read_calendar(
    app: web::Data<App>,
    _staff: Staff,
    file: web::Json<CalendarFile>,
) -> Result<web::Json<FoundInCalendar>, ApiError> {
    let found = blocking(&app, move |app| {
        let zone = TimeZone::get(&app.calendar()?.zone).unwrap_or(TimeZone::UTC);
        let now = Timestamp::from_millisecond(app.clock.now()).unwrap_or_default();
        Ok(ical::read(&file.text, &zone, zone.to_datetime(now).date()).map_err(Invalid::from)?)
    });
    Ok(web::Json(found.await?))
}

/// `GET /calendar.ics`, for instructors and technicians: lessons, what waits for one, and days off.
#[utoipa::path(get, path = "/api/v1/calendar.ics",
    responses((status = 200, description = "a calendar", content_type = "text/calendar", body = String), (status = 401, body = Problem)))]
#[get("/calendar.ics")]
pub async fn export_calendar(app: web::Data<App>, staff: Staff) -> Result<HttpResponse, ApiError> {
    let text = blocking(&app, move |app| {
        let calendar = app.calendar()?;
        let mut entries = Vec::new();
        let own = staff.prepares(app)?;
        for run in app.store.runs()?.iter().filter(|r| r.closed_at.is_none() && own(r)) {
            entries.extend(of_run(app, run, &calendar)?);
        }
        entries.extend(calendar.days_off.iter().map(|d| Dated {
            uid: format!("off-{}-{}@keen-beaker", d.from, d.to),
            name: d.name.clone(),
            about: String::new(),
            when: Stretch::Days(d.from, d.to),
        }));
        Ok(ical::written("Keen Beaker", &entries, app.clock.now()))
    });
    let disposition = ("content-disposition", "attachment; filename=\"lessons.ics\"");
    Ok(HttpResponse::Ok().content_type("text/calendar; charset=utf-8").insert_header(disposition).body(text.await?))
}

/// The lessons of a run, and what waits between them.
fn of_run(app: &App, run: &Run, calendar: &SchoolCalendar) -> Result<Vec<Dated>, ApiError> {
    let prepared = Prepared::of(app, run)?;
    let preparation = app.preparation(&run.practical, run.version, &run.school, &prepared.class)?;
    let title = app.practical_of(run)?.file.title.clone();
    let count = prepared.visits.len();
    let lessons = prepared.visits.iter().map(|v| Dated {
        uid: format!("lesson-{}-{}@keen-beaker", run.id, v.nr),
        name: format!("{}: {title}", run.class),
        about: if count > 1 { format!("lesson {} of {count}", v.nr) } else { String::new() },
        when: Stretch::Moments(v.begins_at, v.begins_at + v.minutes * MINUTE_MS),
    });
    let waits = returns(&preparation.time.lessons, &meetings(&prepared.visits), calendar, app.clock.now());
    let ready = |w: &Return| Dated {
        uid: format!("wait-{}-{}@keen-beaker", run.id, w.after),
        name: format!("{}: ready, {title}", run.class),
        about: format!("after lesson {}: {}", w.after, w.wait),
        when: Stretch::Moments(w.ready_at, w.latest_at.unwrap_or(w.ready_at)),
    };
    Ok(lessons.chain(waits.iter().map(ready)).collect())
}
