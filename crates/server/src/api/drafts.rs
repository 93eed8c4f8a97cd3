//! Changing a practical: a draft that any number of steps lead to and back from, and publishing it.

use crate::access::Desk;
use crate::api::begin::begun;
use crate::api::plan::{PlanView, on_desk, plan_view};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use ::begin::{Aim, Field};
use actix_web::{HttpResponse, post, web};
use practical::file::MAX_CHARACTERS;
use practical::{Checked, Edit, Key, School, blank, check, edited};
use serde::Deserialize;
use serde_json::json;
use std::collections::BTreeMap;
use store::{DraftChange, StoreError};
use utoipa::ToSchema;

/// A change to a practical.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ChangePractical {
    /// The step of the draft that it is made on; none when there is no draft yet.
    #[serde(default)]
    step: Option<i64>,
    /// What to do.
    change: DraftAction,
}

/// What can be done to a draft.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum DraftAction {
    /// A whole new text, whatever it is.
    Text {
        /// The file.
        text: String,
    },
    /// Changes by path, from a form; comments and order stay.
    Edits {
        /// In this order; all of them or none.
        edits: Vec<Edit>,
        /// What they are, in words.
        what: String,
    },
    /// One step back.
    Undo,
    /// One step forth.
    Redo,
    /// Throws the draft away.
    Discard,
}

/// A practical to be begun.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum BeginPractical {
    /// From nothing.
    Blank {
        /// Its title.
        title: String,
    },
    /// From another one.
    Copy {
        /// Id of that one.
        of: String,
        /// Its title.
        title: String,
    },
    /// From what it is to find.
    Aim {
        /// What is to be found.
        aim: Aim,
        /// What was answered of what is asked for it.
        answers: BTreeMap<Field, String>,
    },
    /// From a file.
    Import {
        /// The file, sound or not.
        text: String,
    },
}

/// `POST /practicals/{id}/draft`, for instructors: changes the draft, beginning it where there is none.
#[utoipa::path(post, path = "/api/v1/practicals/{id}/draft", params(("id" = String, Path)), request_body = ChangePractical,
    responses((status = 200, body = PlanView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/{id}/draft")]
pub async fn change_draft(
    app: web::Data<App>,
    desk: Desk,
    id: web::Path<String>,
    body: web::Json<ChangePractical>,
) -> Result<web::Json<PlanView>, ApiError> {
    let view = blocking(&app, move |app| {
        let ChangePractical { step, change } = body.into_inner();
        let id = id.into_inner();
        let here = on_desk(app, &id)?;
        let keep = |text: String, what: String| {
            if text.chars().count() > MAX_CHARACTERS {
                return Err(too_long(text.chars().count()));
            }
            let (id, author) = (id.clone(), desk.actor().to_string());
            app.store.change_draft(DraftChange { id, on: step, text, what, author, now: app.clock.now() })?;
            Ok(())
        };
        match change {
            DraftAction::Text { text } => keep(text, "text".into())?,
            DraftAction::Edits { edits, what } => {
                if step != here.draft.as_ref().map(|d| d.step) {
                    return Err(ApiError::Conflict(StoreError::Overtaken));
                }
                let text = edited(&here.text, &edits)?;
                keep(text, what.chars().take(120).collect())?;
            }
            DraftAction::Undo => drop(app.store.step_draft(id.clone(), step.unwrap_or(-1), true)?),
            DraftAction::Redo => drop(app.store.step_draft(id.clone(), step.unwrap_or(-1), false)?),
            DraftAction::Discard => {
                app.store.discard_draft(id.clone(), step.unwrap_or(-1))?;
                if here.published.is_none() {
                    return Ok(None);
                }
            }
        }
        plan_view(app, &id).map(Some)
    })
    .await?;
    view.map(web::Json).ok_or(ApiError::NotFound("practical any more: it was never published"))
}

fn too_long(found: usize) -> ApiError {
    Invalid::DraftTooLong { most: MAX_CHARACTERS, found }.into()
}

/// Which step of a draft.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtStep {
    /// Where the draft stands.
    step: i64,
}

/// `POST /practicals/{id}/publish`, for instructors: the draft becomes the newest version, if nothing is wrong with it.
#[utoipa::path(post, path = "/api/v1/practicals/{id}/publish", params(("id" = String, Path)), request_body = AtStep,
    responses((status = 200, body = PlanView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/{id}/publish")]
pub async fn publish(
    app: web::Data<App>,
    desk: Desk,
    id: web::Path<String>,
    body: web::Json<AtStep>,
) -> Result<web::Json<PlanView>, ApiError> {
    let view = blocking(&app, move |app| {
        let id = id.into_inner();
        ready(&id, &check(&on_desk(app, &id)?.text, &app.store.school()?.school))?;
        app.store.publish_draft(id.clone(), body.step, desk.actor().to_string(), app.clock.now())?;
        plan_view(app, &id)
    })
    .await?;
    Ok(web::Json(view))
}

/// Nothing is wrong with it, it is what its address says, and there is something to do in it.
fn ready(id: &str, checked: &Checked) -> Result<(), Invalid> {
    if let Some(first) = checked.errors.first() {
        let (place, first) = (first.place.clone(), Box::new(first.problem.clone()));
        return Err(Invalid::NotReady { count: checked.errors.len(), place, first });
    }
    let Some(file) = checked.file.as_ref() else { return Err(Invalid::NoShape) };
    if file.id != id {
        return Err(Invalid::OtherIdentity { found: file.id.clone(), here: id.to_owned() });
    }
    if file.steps.is_empty() || file.results.is_empty() {
        return Err(Invalid::NothingToDo);
    }
    Ok(())
}

/// `POST /practicals`, for instructors: begins a draft of a practical, from nothing, from another one or from a file.
#[utoipa::path(post, path = "/api/v1/practicals", request_body = BeginPractical,
    responses((status = 201, body = PlanView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn begin(app: web::Data<App>, desk: Desk, body: web::Json<BeginPractical>) -> Result<HttpResponse, ApiError> {
    let view = blocking(&app, move |app| {
        let (id, text, what) = match body.into_inner() {
            BeginPractical::Blank { title } => {
                let id = free_id(app, &titled(&title)?)?;
                let text = blank(&id, title.trim());
                (id, text, "begun".to_owned())
            }
            BeginPractical::Copy { of, title } => {
                let source = plan_view(app, &of)?;
                let id = free_id(app, &titled(&title)?)?;
                let set = |key: &str, value: &str| Edit::Set { path: vec![Key::from(key)], value: json!(value) };
                let text = edited(&source.text, &[set("id", &id), set("title", title.trim())])?;
                (id, text, format!("copied from {of}"))
            }
            BeginPractical::Aim { aim, answers } => {
                let text = begun(app, aim, &answers)?.text.ok_or(Invalid::NotAllAnswered)?;
                let title = check(&text, &School::default()).file.map_or_else(String::new, |f| f.title);
                let id = free_id(app, &slug(&title))?;
                let text = edited(&text, &[Edit::Set { path: vec![Key::from("id")], value: json!(id) }])?;
                (id, text, "begun".to_owned())
            }
            BeginPractical::Import { text } => {
                if text.chars().count() > MAX_CHARACTERS {
                    return Err(too_long(text.chars().count()));
                }
                let named = check(&text, &School::default()).file.map(|f| f.id).or_else(|| quoted_id(&text));
                let id = match named.filter(|id| *id == slug(id)) {
                    Some(id) => id,
                    None => free_id(app, "imported")?,
                };
                (id, text, "imported".to_owned())
            }
        };
        let now = app.clock.now();
        app.store.change_draft(DraftChange {
            id: id.clone(),
            on: None,
            text,
            what,
            author: desk.actor().to_string(),
            now,
        })?;
        plan_view(app, &id)
    })
    .await?;
    Ok(HttpResponse::Created().json(view))
}

/// Longest title of a practical.
const LONGEST_TITLE: usize = 120;

fn titled(title: &str) -> Result<String, Invalid> {
    let title = title.trim();
    if title.is_empty() || title.chars().count() > LONGEST_TITLE {
        return Err(Invalid::Length { what: "a title", most: LONGEST_TITLE });
    }
    Ok(slug(title))
}

/// Small letters, digits and hyphens.
fn slug(text: &str) -> String {
    let plain: String =
        text.chars().map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' }).collect();
    let parts: Vec<&str> = plain.split('-').filter(|p| !p.is_empty()).collect();
    let short: String = parts.join("-").chars().take(50).collect();
    let short = short.trim_matches('-').to_owned();
    if short.is_empty() { "practical".into() } else { short }
}

/// The first of `wanted`, `wanted-2`, … that no practical and no draft has.
fn free_id(app: &App, wanted: &str) -> Result<String, ApiError> {
    for n in 1..1000 {
        let id = if n == 1 { wanted.to_owned() } else { format!("{wanted}-{n}") };
        if app.store.versions(&id)?.is_empty() && app.store.draft(&id)?.is_none() {
            return Ok(id);
        }
    }
    Err(ApiError::Conflict(StoreError::NotFound("free name")))
}

/// The identity that a text gives itself, where the text as a whole cannot be read.
fn quoted_id(text: &str) -> Option<String> {
    let line = text.lines().find_map(|l| l.trim().strip_prefix("id"))?;
    let value = line.trim_start().strip_prefix('=')?.trim();
    value.strip_prefix('"')?.split('"').next().map(str::to_owned)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_identity_is_made_of_small_letters_digits_and_hyphens() {
        assert_eq!(slug("Epsom salt, 2nd try"), "epsom-salt-2nd-try");
        assert_eq!(slug("<script>alert(1)</script>"), "script-alert-1-script");
        assert_eq!(slug("--"), "practical");
        assert_eq!(quoted_id("= broken\nid = \"zinc-iodide\"\n").as_deref(), Some("zinc-iodide"));
    }
}
