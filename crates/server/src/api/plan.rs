//! A practical as its planner sees it: the text, its shape for a form, what is wrong with it, what follows from it.

use crate::access::Desk;
use crate::api::runs::Archived;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::http::header::{CONTENT_DISPOSITION, ContentDisposition, DispositionParam, DispositionType};
use actix_web::{HttpResponse, delete, get, put, web};
use lab::plan::Plan;
use measure::Instrument;
use practical::file::File;
use practical::technique::{Technique, techniques};
use practical::{Change, Checked, School, Told, changes, check, upgraded};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{Draft, LIBRARY, PracticalVersion};
use utoipa::{IntoParams, ToSchema};

/// A practical on the planner's desk: its draft if there is one, its newest version otherwise.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanView {
    /// Id.
    pub id: String,
    /// The newest version, if it was ever published.
    pub published: Option<i64>,
    /// The draft, if there is one.
    pub draft: Option<DraftHead>,
    /// The file.
    pub text: String,
    /// Everything that is wrong, in the order of the text.
    pub problems: Vec<Told>,
    /// Its shape, for a form; none where no text of it ever had one.
    pub file: Option<File>,
    /// The shape is that of an earlier text: this one cannot be read, and a form must not change it.
    pub file_is_earlier: bool,
    /// What follows from the amounts planned.
    pub plan: Option<Plan>,
    /// That follows from an earlier text: something essential is wrong with this one.
    pub plan_is_earlier: bool,
    /// By whose choices it is worked: the school's, with what the practical does otherwise.
    pub school: School,
    /// What each definition of the sheet is called in words.
    pub labels: BTreeMap<String, String>,
    /// The techniques that its steps name.
    pub techniques: Vec<Technique>,
}

/// Where a draft stands.
#[derive(Debug, Serialize, ToSchema)]
pub struct DraftHead {
    /// Name it when changing something.
    pub step: i64,
    /// There is something to undo.
    pub can_undo: bool,
    /// There is something to redo.
    pub can_redo: bool,
    /// The version that it started from.
    pub base: Option<i64>,
    /// What was changed last, in words.
    pub what: String,
    /// When, ms.
    pub saved_at: i64,
}

/// A practical as it stands in the record: what a change is made on.
pub struct OnDesk {
    /// The draft, if there is one.
    pub draft: Option<Draft>,
    /// The newest version, if it was ever published.
    pub published: Option<PracticalVersion>,
    /// The text of the draft if there is one, of the newest version otherwise; in the present format.
    pub text: String,
}

/// The draft, the newest version and the text of a practical.
pub fn on_desk(app: &App, id: &str) -> Result<OnDesk, ApiError> {
    let draft = app.store.draft(id)?;
    let published = app.store.versions(id)?.into_iter().next();
    let text = match (&draft, &published) {
        (Some(d), _) => d.text.clone(),
        (None, Some(version)) => upgraded(&version.text).unwrap_or_else(|| version.text.clone()),
        (None, None) => return Err(ApiError::NotFound("practical")),
    };
    Ok(OnDesk { draft, published, text })
}

/// What a practical's text, draft or published, comes to.
pub fn plan_view(app: &App, id: &str) -> Result<PlanView, ApiError> {
    let OnDesk { draft, published, text } = on_desk(app, id)?;
    let school = app.store.school()?.school;
    let Checked { file, practical, errors } = check(&text, &school);
    let mut view = PlanView {
        id: id.to_owned(),
        published: published.as_ref().map(|p| p.version),
        draft: draft.as_ref().map(draft_head),
        text,
        problems: errors.iter().map(Told::from).collect(),
        file_is_earlier: file.is_none(),
        file,
        plan: None,
        plan_is_earlier: practical.is_none(),
        school: school.clone(),
        labels: BTreeMap::new(),
        techniques: Vec::new(),
    };
    let mut shown = practical;
    // What cannot be read now is shown as it last could be.
    if view.file.is_none() || shown.is_none() {
        let drafted = draft.as_ref().map_or(Ok(Vec::new()), |d| app.store.earlier_texts(id, d.step))?;
        for earlier in drafted.into_iter().chain(published.map(|p| p.text)) {
            let before = check(&earlier, &school);
            view.file = view.file.or(before.file);
            shown = shown.or(before.practical);
            if view.file.is_some() && shown.is_some() {
                break;
            }
        }
    }
    if let Some(practical) = &shown {
        view.plan = Some(lab::plan::plan(practical));
        view.labels.clone_from(&practical.labels);
        view.school.clone_from(&practical.school);
    }
    let named =
        |t: &&Technique| view.file.iter().flat_map(|f| &f.steps).any(|s| s.technique.as_deref() == Some(t.id.as_str()));
    view.techniques = techniques().iter().filter(named).cloned().collect();
    Ok(view)
}

fn draft_head(d: &Draft) -> DraftHead {
    DraftHead {
        step: d.step,
        can_undo: d.step > d.steps.0,
        can_redo: d.step < d.steps.1,
        base: d.base,
        what: d.what.clone(),
        saved_at: d.saved_at,
    }
}

/// `GET /practicals/{id}`, for instructors: the draft if there is one, the newest version otherwise.
#[utoipa::path(get, path = "/api/v1/practicals/{id}", params(("id" = String, Path)),
    responses((status = 200, body = PlanView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/{id}")]
pub async fn show_plan(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
) -> Result<web::Json<PlanView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| plan_view(app, &id)).await?))
}

/// A version with what it changed.
#[derive(Debug, Serialize, ToSchema)]
pub struct VersionView {
    /// From 1.
    version: i64,
    /// Who published it; none for the library.
    by: Option<String>,
    /// When, ms.
    at: i64,
    /// Since the version before; none for the first.
    changes: Vec<Change>,
}

/// `GET /practicals/{id}/versions`, for instructors: newest first.
#[utoipa::path(get, path = "/api/v1/practicals/{id}/versions", params(("id" = String, Path)),
    responses((status = 200, body = [VersionView]), (status = 401, body = Problem)))]
#[get("/{id}/versions")]
pub async fn show_versions(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
) -> Result<web::Json<Vec<VersionView>>, ApiError> {
    let views = blocking(&app, move |app| {
        let versions = app.store.versions(&id)?;
        let view = |(i, v): (usize, &PracticalVersion)| {
            let before = versions.get(i + 1).map(|b| changes(&b.text, &v.text));
            Ok(VersionView {
                version: v.version,
                by: author(app, &v.author)?,
                at: v.created_at,
                changes: before.unwrap_or_default(),
            })
        };
        versions.iter().enumerate().map(view).collect::<Result<Vec<_>, ApiError>>()
    })
    .await?;
    Ok(web::Json(views))
}

fn author(app: &App, author: &str) -> Result<Option<String>, ApiError> {
    if author == LIBRARY {
        return Ok(None);
    }
    let id = author.strip_prefix("person ").and_then(|n| n.parse().ok());
    let name = id.map(|id| app.store.person(id)).transpose()?;
    Ok(Some(name.map_or_else(|| "somebody".into(), |p| p.name)))
}

/// Which version of a file.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichVersion {
    /// The draft, or the newest version, if left out.
    version: Option<i64>,
}

/// `GET /practicals/{id}/file`, for instructors: the text as a file to be kept or sent.
#[utoipa::path(get, path = "/api/v1/practicals/{id}/file", params(("id" = String, Path), WhichVersion),
    responses((status = 200, body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/{id}/file")]
pub async fn download(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
    which: web::Query<WhichVersion>,
) -> Result<HttpResponse, ApiError> {
    let (name, text) = blocking(&app, move |app| {
        let text = match which.version {
            Some(version) => app.store.practical(&id, version)?.text,
            None => plan_view(app, &id)?.text,
        };
        Ok((format!("{id}.practical.toml"), text))
    })
    .await?;
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name)],
    };
    let response = HttpResponse::Ok()
        .content_type("application/toml; charset=utf-8")
        .insert_header((CONTENT_DISPOSITION, disposition))
        .body(text);
    Ok(response)
}

/// `GET /handbook/techniques`, for instructors.
#[utoipa::path(get, path = "/api/v1/handbook/techniques", responses((status = 200, body = [Technique])))]
#[get("/handbook/techniques")]
pub async fn show_techniques(_desk: Desk) -> web::Json<&'static [Technique]> {
    web::Json(techniques())
}

/// `GET /handbook/instruments`, for instructors: instruments of a usual room, to choose from.
#[utoipa::path(get, path = "/api/v1/handbook/instruments", responses((status = 200, body = [Instrument])))]
#[get("/handbook/instruments")]
pub async fn show_instruments(_desk: Desk) -> web::Json<Vec<Instrument>> {
    web::Json(practical::kit())
}

/// `PUT /practicals/{id}/archived`, for instructors: it is no longer offered, or is again; its runs keep it.
#[utoipa::path(put, path = "/api/v1/practicals/{id}/archived", params(("id" = String, Path)), request_body = Archived,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/{id}/archived")]
pub async fn archive_practical(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
    body: web::Json<Archived>,
) -> Result<HttpResponse, ApiError> {
    let archived = body.archived;
    blocking(&app, move |app| Ok(app.store.archive_practical(id.into_inner(), archived, app.clock.now())?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `DELETE /practicals/{id}`, for instructors: one of the school's own that no class has worked on, with its draft.
#[utoipa::path(delete, path = "/api/v1/practicals/{id}", params(("id" = String, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[delete("/{id}")]
pub async fn delete_practical(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| Ok(app.store.delete_practical(id.into_inner())?)).await?;
    Ok(HttpResponse::NoContent().finish())
}
