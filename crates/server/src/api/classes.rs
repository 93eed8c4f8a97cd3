//! Classes: rosters, colleagues, how long names are kept.

use crate::access::Desk;
use crate::api::texts::named;
use crate::api::views::PersonView;
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use crate::roster;
use actix_web::{HttpResponse, delete, get, post, put, web};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use store::{Class, Erasure, Person};
use utoipa::ToSchema;

/// The classes that an instructor may see.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClassesView {
    /// By name.
    classes: Vec<ClassView>,
    /// Everybody with an account, by name.
    colleagues: Vec<PersonView>,
    /// Who is looking.
    me: i64,
    /// The server's time, ms.
    now: i64,
}

/// A class.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClassView {
    /// Id.
    id: i64,
    /// Name.
    name: String,
    /// The instructor whose class it is.
    owner: PersonView,
    /// Colleagues who see it.
    shared_with: Vec<PersonView>,
    /// By name.
    people: Vec<PersonView>,
    /// Until when the names are kept, ms; nobody has said if none.
    keep_until: Option<i64>,
    /// Runs of it.
    runs: u32,
}

/// A name.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Naming {
    /// As it is called.
    name: String,
}

/// A list of people.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Roster {
    /// One a line, or CSV with columns.
    text: String,
}

/// A class that was made.
#[derive(Debug, Serialize, ToSchema)]
pub struct NewClass {
    /// Its id.
    id: i64,
}

/// What became of a list.
#[derive(Debug, Serialize, ToSchema)]
pub struct EnrolledView {
    /// How many were new.
    added: usize,
    /// Those that were on the roster already.
    known: Vec<String>,
}

/// A colleague who sees a class, or no longer.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Sharing {
    /// Who.
    person: i64,
    /// Sees it.
    shared: bool,
}

/// Until when names are kept.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Keeping {
    /// In ms; nobody says if left out.
    until: Option<i64>,
}

/// `GET /classes`, for instructors: their own, and those shared with them.
#[utoipa::path(get, path = "/api/v1/classes", responses((status = 200, body = ClassesView), (status = 401, body = Problem)))]
#[get("/classes")]
pub async fn show_classes(app: web::Data<App>, desk: Desk) -> Result<web::Json<ClassesView>, ApiError> {
    let view = blocking(&app, move |app| {
        let me = desk.person.id;
        let runs = app.store.runs()?;
        // A class that is there for rehearsals alone is none.
        let made_up: BTreeSet<i64> = app.store.rehearsals()?.iter().map(|r| r.class_id).collect();
        let is_there = |class: &ClassView| !made_up.contains(&class.id) || class.runs > 0 || !class.people.is_empty();
        let view = |class: Class| {
            Ok(ClassView {
                people: people(app.store.members(class.id)?),
                shared_with: people(app.store.shared_with(class.id)?),
                runs: u32::try_from(runs.iter().filter(|r| r.class_id == class.id).count()).unwrap_or(u32::MAX),
                id: class.id,
                name: class.name,
                owner: class.owner.into(),
                keep_until: class.keep_until,
            })
        };
        let classes: Vec<ClassView> = app.store.classes(me)?.into_iter().map(view).collect::<Result<_, ApiError>>()?;
        let mut colleagues = people(app.store.accounts()?.into_iter().map(|(p, _)| p).collect());
        colleagues.sort_by(|a, b| a.name.cmp(&b.name));
        Ok(ClassesView {
            classes: classes.into_iter().filter(is_there).collect(),
            colleagues,
            me,
            now: app.clock.now(),
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /classes`, for instructors: makes a class.
#[utoipa::path(post, path = "/api/v1/classes", request_body = Naming,
    responses((status = 200, body = NewClass), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/classes")]
pub async fn make_class(
    app: web::Data<App>,
    desk: Desk,
    body: web::Json<Naming>,
) -> Result<web::Json<NewClass>, ApiError> {
    let name = named(&body.name, "the name of a class")?;
    let id = blocking(&app, move |app| Ok(app.store.make_class(name, desk.person.id, app.clock.now())?));
    Ok(web::Json(NewClass { id: id.await? }))
}

/// `PUT /classes/{class}/name`, for its owner.
#[utoipa::path(put, path = "/api/v1/classes/{class}/name", params(("class" = i64, Path)), request_body = Naming,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem),
        (status = 409, body = Problem), (status = 422, body = Problem)))]
#[put("/name")]
pub async fn rename_class(
    app: web::Data<App>,
    desk: Desk,
    class: web::Path<i64>,
    body: web::Json<Naming>,
) -> Result<HttpResponse, ApiError> {
    let name = named(&body.name, "the name of a class")?;
    blocking(&app, move |app| Ok(app.store.rename_class(own(app, *class, &desk)?.id, name)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `DELETE /classes/{class}`, for its owner: one that was made by mistake, without people and runs.
#[utoipa::path(delete, path = "/api/v1/classes/{class}", params(("class" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem),
        (status = 409, body = Problem)))]
#[delete("")]
pub async fn delete_class(app: web::Data<App>, desk: Desk, class: web::Path<i64>) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| Ok(app.store.delete_class(own(app, *class, &desk)?.id)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `PUT /classes/{class}/people/{person}/name`, for instructors who see the class: corrects a name.
#[utoipa::path(put, path = "/api/v1/classes/{class}/people/{person}/name", params(("class" = i64, Path), ("person" = i64, Path)),
    request_body = Naming,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/people/{person}/name")]
pub async fn rename_person(
    app: web::Data<App>,
    desk: Desk,
    path: web::Path<(i64, i64)>,
    body: web::Json<Naming>,
) -> Result<HttpResponse, ApiError> {
    let most = roster::LONGEST_NAME;
    let name = one_line(&body.name, most).ok_or(Invalid::Length { what: "a name", most })?;
    blocking(&app, move |app| {
        let class = app.store.class(path.0, desk.person.id)?;
        Ok(app.store.rename_person(class.id, path.1, name)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `POST /classes/{class}/people`, for instructors who see the class: puts people on its roster, all or none.
#[utoipa::path(post, path = "/api/v1/classes/{class}/people", params(("class" = i64, Path)), request_body = Roster,
    responses((status = 200, body = EnrolledView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/people")]
pub async fn enrol(
    app: web::Data<App>,
    desk: Desk,
    class: web::Path<i64>,
    body: web::Json<Roster>,
) -> Result<web::Json<EnrolledView>, ApiError> {
    let enrolled = blocking(&app, move |app| {
        let class = app.store.class(*class, desk.person.id)?;
        let names = roster::names(&body.text)?;
        let there = app.store.members(class.id)?.len();
        if there + names.len() > roster::MOST_PEOPLE {
            let (most, more) = (roster::MOST_PEOPLE, names.len());
            return Err(Invalid::TooManyPeople { most, there, more }.into());
        }
        Ok(app.store.enrol(class.id, names, app.clock.now())?)
    })
    .await?;
    Ok(web::Json(EnrolledView { added: enrolled.added, known: enrolled.known }))
}

/// `DELETE /classes/{class}/people/{person}`, for its owner: erases a person, for good.
#[utoipa::path(delete, path = "/api/v1/classes/{class}/people/{person}", params(("class" = i64, Path), ("person" = i64, Path)),
    responses((status = 204), (status = 202, description = "deleted, and not yet out of the log of changes: somebody reads the record"),
        (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem)))]
#[delete("/people/{person}")]
pub async fn erase_person(
    app: web::Data<App>,
    desk: Desk,
    path: web::Path<(i64, i64)>,
) -> Result<HttpResponse, ApiError> {
    let erasure = blocking(&app, move |app| {
        let class = own(app, path.0, &desk)?;
        Ok(app.store.erase_person(class.id, path.1, desk.actor(), app.clock.now())?)
    });
    Ok(erased(erasure.await?))
}

/// `DELETE /classes/{class}/people`, for its owner: erases everybody of a class, as when the time of keeping is over.
#[utoipa::path(delete, path = "/api/v1/classes/{class}/people", params(("class" = i64, Path)),
    responses((status = 204), (status = 202, description = "deleted, and not yet out of the log of changes: somebody reads the record"),
        (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem)))]
#[delete("/people")]
pub async fn erase_everybody(app: web::Data<App>, desk: Desk, class: web::Path<i64>) -> Result<HttpResponse, ApiError> {
    let erasure = blocking(&app, move |app| {
        let class = own(app, *class, &desk)?;
        for person in app.store.members(class.id)? {
            // Whether the log of changes is empty is asked once, after the last.
            let _ = app.store.erase_person(class.id, person.id, desk.actor(), app.clock.now())?;
        }
        Ok(app.store.erasure())
    });
    Ok(erased(erasure.await?))
}

/// `PUT /classes/{class}/share`, for its owner: lets a colleague see it, or no longer.
#[utoipa::path(put, path = "/api/v1/classes/{class}/share", params(("class" = i64, Path)), request_body = Sharing,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem)))]
#[put("/share")]
pub async fn share_class(
    app: web::Data<App>,
    desk: Desk,
    class: web::Path<i64>,
    body: web::Json<Sharing>,
) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        let class = own(app, *class, &desk)?;
        Ok(app.store.share_class(class.id, body.person, body.shared, app.clock.now())?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `PUT /classes/{class}/keep`, for its owner: until when its names are kept.
#[utoipa::path(put, path = "/api/v1/classes/{class}/keep", params(("class" = i64, Path)), request_body = Keeping,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem)))]
#[put("/keep")]
pub async fn keep_names(
    app: web::Data<App>,
    desk: Desk,
    class: web::Path<i64>,
    body: web::Json<Keeping>,
) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        let class = own(app, *class, &desk)?;
        Ok(app.store.keep_names_until(class.id, body.until)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// How an erasure is answered: it is through, or it was accepted and goes on by itself.
fn erased(erasure: Erasure) -> HttpResponse {
    match erasure {
        Erasure::Through => HttpResponse::NoContent().finish(),
        Erasure::Pending => HttpResponse::Accepted().finish(),
    }
}

fn own(app: &App, class: i64, desk: &Desk) -> Result<Class, ApiError> {
    let class = app.store.class(class, desk.person.id)?;
    if class.owner.id == desk.person.id { Ok(class) } else { Err(ApiError::NotAllowed("only its owner decides this")) }
}

fn people(of: Vec<Person>) -> Vec<PersonView> {
    of.into_iter().map(Into::into).collect()
}
