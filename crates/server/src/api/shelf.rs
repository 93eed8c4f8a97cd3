//! The shelf: what runs, and the library.

use crate::access::Desk;
use crate::api::views::{RunHead, run_line};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use practical::{Material, Practical, check};
use serde::Serialize;
use std::collections::BTreeSet;
use store::{LIBRARY, PracticalVersion};
use utoipa::ToSchema;

/// Everything on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Shelf {
    /// Newest first.
    runs: Vec<RunHead>,
    /// By title.
    practicals: Vec<PracticalHead>,
    /// Drafts, published before or not.
    drafts: Vec<DraftLine>,
    /// The server's time, ms.
    now: i64,
}

/// A draft at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct DraftLine {
    /// Id of the practical.
    id: String,
    /// Its title, as far as it can be read.
    title: String,
    /// Whether it was ever published.
    published: bool,
    /// What keeps it from being published.
    problems: u32,
    /// In ms.
    saved_at: i64,
}

/// A practical of the library at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticalHead {
    /// Id.
    pub id: String,
    /// Version.
    pub version: i64,
    /// Title.
    pub title: String,
    /// What sort of work it is.
    pub kind: String,
    /// What it finds.
    pub finds: String,
    /// For whom.
    pub level: String,
    /// Lessons it takes.
    pub visits: u32,
    /// Shortest and longest time at the bench, in minutes.
    pub minutes: [u32; 2],
    /// How many cautions its steps carry.
    pub cautions: u32,
    /// What groups share for it.
    pub shares: Vec<String>,
    /// Names and formulas of what it is done with.
    pub of: Vec<String>,
    /// How a class usually comes out: `62 %, s 8`.
    pub usually: Option<String>,
    /// It was put away.
    pub archived: bool,
    /// It came with the program.
    pub library: bool,
}

/// `GET /shelf`, for instructors.
#[utoipa::path(get, path = "/api/v1/shelf", responses((status = 200, body = Shelf), (status = 401, body = Problem)))]
#[get("/shelf")]
pub async fn show_shelf(app: web::Data<App>, desk: Desk) -> Result<web::Json<Shelf>, ApiError> {
    let shelf = blocking(&app, move |app| {
        let me = desk.person.id;
        let mine: BTreeSet<i64> = app.store.classes(me)?.iter().map(|k| k.id).collect();
        let runs = app.store.runs()?.into_iter().filter(|r| mine.contains(&r.class_id));
        let runs = runs.map(|r| run_line(app, &r)).collect::<Result<_, _>>()?;
        let school = app.store.school()?.school;
        let archived = app.store.archived_practicals()?;
        let mut practicals = app
            .store
            .practicals()?
            .iter()
            .map(|v| Ok(practical_head(v, &*app.practical(&v.id, v.version, &school)?, archived.contains(&v.id))))
            .collect::<Result<Vec<_>, ApiError>>()?;
        practicals.sort_by(|a, b| a.title.cmp(&b.title));
        let drafts = app.store.drafts()?.into_iter().map(|d| {
            let checked = check(&d.text, &school);
            DraftLine {
                published: practicals.iter().any(|p| p.id == d.id),
                title: checked.file.map_or_else(|| d.id.clone(), |f| f.title),
                problems: u32::try_from(checked.errors.len()).unwrap_or(u32::MAX),
                id: d.id,
                saved_at: d.saved_at,
            }
        });
        let drafts = drafts.collect();
        Ok(Shelf { runs, practicals, drafts, now: app.clock.now() })
    })
    .await?;
    Ok(web::Json(shelf))
}

/// A material by all that it is called.
fn named(m: &Material) -> Vec<String> {
    let formula = m.formula.iter().map(|f| f.typed().to_owned());
    [&m.name, &m.also].into_iter().filter(|n| !n.is_empty()).cloned().chain(formula).collect()
}

/// A practical at one look.
pub fn practical_head(version: &PracticalVersion, practical: &Practical, archived: bool) -> PracticalHead {
    let minutes = practical.steps.iter().filter_map(|s| s.minutes).fold([0, 0], |a, m| [a[0] + m[0], a[1] + m[1]]);
    PracticalHead {
        archived,
        library: version.author == LIBRARY,
        id: practical.file.id.clone(),
        version: version.version,
        title: practical.file.title.clone(),
        kind: practical.file.kind.clone(),
        finds: practical.file.finds.clone(),
        level: practical.file.level.clone(),
        visits: practical.file.visits,
        minutes,
        cautions: u32::try_from(practical.steps.iter().map(|s| s.cautions.len()).sum::<usize>()).unwrap_or(u32::MAX),
        shares: practical.file.resources.iter().map(|r| r.name.clone()).collect(),
        of: practical.materials.iter().flat_map(named).collect(),
        usually: practical.file.class.first().and_then(|c| {
            let result = practical.result(&c.result)?;
            let unit = if result.unit.written() == "1" { "" } else { result.unit.written() };
            Some(format!("{} {unit}, s {}", c.mean, c.sd).replace(" ,", ","))
        }),
    }
}
