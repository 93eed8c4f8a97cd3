//! What is put out for a run and whether it fits, and what of it is ready.

use crate::access::{Staff, StaffRun};
use crate::api::views::{VisitView, visits};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use actix_web::{get, put, web};
use lab::bench::Bottle;
use lab::roll::dealt;
use practical::Allotted;
use prepare::calendar::{Meeting, Return, returns};
use prepare::lessons::USUAL_LESSON;
use prepare::stock::{OnShelf, on_shelf};
use prepare::{ForClass, Preparation};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{Group, Run};
use utoipa::ToSchema;

/// Most groups that are prepared for.
const MOST_GROUPS: u32 = 60;
/// Most spare groups.
const MOST_SPARE: u32 = 20;
/// A minute, ms.
pub const MINUTE_MS: i64 = 60_000;
/// Most of one shared thing.
const MOST_SHARED: u32 = 100;

/// What is prepared, and what is ready of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PreparationView {
    /// The run; none where it is prepared as if.
    run: Option<i64>,
    /// Id of the practical.
    practical: String,
    /// Its title.
    pub title: String,
    /// The class; empty where it is prepared as if.
    class: String,
    /// Names of the groups, in bench order.
    pub groups: Vec<String>,
    /// When it is worked on.
    pub visits: Vec<VisitView>,
    /// What was chosen for it.
    choices: PrepareChoices,
    /// What is put out, and whether it fits.
    pub preparation: Preparation,
    /// What is ready, in the order in which it was done.
    pub ticks: Vec<TickView>,
    /// What waits from one lesson to the next.
    returns: Vec<Return>,
    /// The room's bottles of what is needed.
    bottles: Vec<Bottle>,
    /// Whether the shelf has enough, of what it is known to hold.
    on_shelf: Vec<OnShelf>,
    /// The server's time, ms.
    now: i64,
}

/// What is chosen for a preparation.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PrepareChoices {
    /// Whole groups on top.
    #[serde(default = "one")]
    spare_groups: u32,
    /// Per cent on top of everything.
    #[serde(default)]
    percent_on_top: u32,
    /// How many of a shared thing the room has, where that differs from what the practical says.
    #[serde(default)]
    resources: BTreeMap<String, u32>,
    /// How long the lessons are, min; as planned, or else 90, if left out.
    #[serde(default)]
    lesson_minutes: Option<u32>,
}

fn one() -> u32 {
    1
}

impl Default for PrepareChoices {
    fn default() -> PrepareChoices {
        PrepareChoices { spare_groups: 1, percent_on_top: 0, resources: BTreeMap::new(), lesson_minutes: None }
    }
}

/// Something that is ready.
#[derive(Debug, Serialize, ToSchema)]
pub struct TickView {
    /// What: `material:base`.
    pub item: String,
    /// Who did it.
    by: String,
    /// In ms.
    at: i64,
}

/// Something becomes ready, or is not.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Ticking {
    /// As in [`TickView`].
    pub item: String,
    /// Whether it is ready.
    done: bool,
}

/// For whom it is prepared as if.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct AsIf {
    groups: u32,
    #[serde(default = "one")]
    spare_groups: u32,
    #[serde(default)]
    percent_on_top: u32,
    #[serde(default)]
    lesson_minutes: Option<u32>,
}

/// The lessons of a run for the core.
pub fn meetings(visits: &[VisitView]) -> Vec<Meeting> {
    let of =
        |v: &VisitView| Meeting { begins_at: v.begins_at, minutes: u32::try_from(v.minutes).unwrap_or(USUAL_LESSON) };
    visits.iter().map(of).collect()
}

/// What is done after a lesson.
const AFTERWARDS: [&str; 4] = ["after:counted", "after:washed", "after:topped up", "after:waste"];

/// Everything that is made ready before a lesson.
pub fn items(preparation: &Preparation) -> Vec<String> {
    let materials = preparation.materials.iter().map(|m| format!("material:{}", m.symbol));
    let things = preparation.things.iter().map(|t| format!("thing:{}", t.name));
    let waste = preparation.waste.iter().map(|w| format!("waste:{}", w.group));
    // Filled, and the code looked at a second time.
    let vials =
        preparation.vials.iter().flat_map(|v| ["vial", "vial-checked"].map(|done| format!("{done}:{}", v.code)));
    materials.chain(things).chain(vials).chain(waste).collect()
}

/// `GET /runs/{run}/preparation`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/runs/{run}/preparation", params(("run" = i64, Path)),
    responses((status = 200, body = PreparationView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/preparation")]
pub async fn show_preparation(app: web::Data<App>, staff: StaffRun) -> Result<web::Json<PreparationView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| of_run(app, &staff.run)).await?))
}

/// `PUT /runs/{run}/preparation`, for instructors and technicians: says for how many, and with what the room has.
#[utoipa::path(put, path = "/api/v1/runs/{run}/preparation", params(("run" = i64, Path)), request_body = PrepareChoices,
    responses((status = 200, body = PreparationView), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[put("/runs/{run}/preparation")]
pub async fn choose_preparation(
    app: web::Data<App>,
    staff: StaffRun,
    body: web::Json<PrepareChoices>,
) -> Result<web::Json<PreparationView>, ApiError> {
    let choices = body.into_inner();
    let view = blocking(&app, move |app| {
        sound(&choices)?;
        let known = app.practical_of(&staff.run)?;
        if let Some(name) = choices.resources.keys().find(|n| !known.file.resources.iter().any(|r| r.name == **n)) {
            return Err(Invalid::NoSuchShared(name.chars().take(60).collect()).into());
        }
        let author = format!("person {}", staff.person.id);
        let text = serde_json::to_string(&choices).map_err(|e| ApiError::Internal(e.into()))?;
        app.store.choose_preparation(staff.run.id, text, author, app.clock.now())?;
        of_run(app, &staff.run)
    });
    Ok(web::Json(view.await?))
}

/// `PUT /runs/{run}/ticks`, for instructors and technicians: something is ready, or not. Who said it first stands.
#[utoipa::path(put, path = "/api/v1/runs/{run}/ticks", params(("run" = i64, Path)), request_body = Ticking,
    responses((status = 200, body = [TickView]), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/ticks")]
pub async fn tick(
    app: web::Data<App>,
    staff: StaffRun,
    body: web::Json<Ticking>,
) -> Result<web::Json<Vec<TickView>>, ApiError> {
    let Ticking { item, done } = body.into_inner();
    let ticks = blocking(&app, move |app| {
        // What the plan no longer has can still be taken back.
        let known = |item: &String| Ok::<bool, ApiError>(items(&of_run(app, &staff.run)?.preparation).contains(item));
        if done && !AFTERWARDS.contains(&item.as_str()) && !known(&item)? {
            return Err(ApiError::NotFound("thing to prepare"));
        }
        app.store.tick(staff.run.id, item, done, staff.person.id, app.clock.now())?;
        ticks(app, staff.run.id)
    });
    Ok(web::Json(ticks.await?))
}

/// `GET /prepare/practicals/{practical}`, for instructors and technicians: as if for so many groups, without a run.
#[utoipa::path(get, path = "/api/v1/prepare/practicals/{practical}",
    params(("practical" = String, Path), ("groups" = u32, Query), ("spare_groups" = Option<u32>, Query),
        ("percent_on_top" = Option<u32>, Query), ("lesson_minutes" = Option<u32>, Query)),
    responses((status = 200, body = PreparationView), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[get("/prepare/practicals/{practical}")]
pub async fn show_as_if(
    app: web::Data<App>,
    _staff: Staff,
    practical: web::Path<String>,
    query: web::Query<AsIf>,
) -> Result<web::Json<PreparationView>, ApiError> {
    let AsIf { groups, spare_groups, percent_on_top, lesson_minutes } = query.into_inner();
    let choices = PrepareChoices { spare_groups, percent_on_top, lesson_minutes, resources: BTreeMap::new() };
    let view = blocking(&app, move |app| {
        sound(&choices)?;
        if !(1..=MOST_GROUPS).contains(&groups) {
            return Err(Invalid::Groups(MOST_GROUPS as usize).into());
        }
        let id = practical.into_inner();
        let all = app.store.practicals()?;
        let version = all.into_iter().find(|v| v.id == id).ok_or(ApiError::NotFound("practical"))?;
        let school = app.store.school()?.school;
        let practical = app.practical(&version.id, version.version, &school)?;
        let count = groups as usize;
        let allotted = dealt(&practical, count).unwrap_or_else(|| vec![Allotted::default(); count]);
        let preparation =
            app.preparation(&version.id, version.version, &school, &for_class(&choices, allotted, &[]))?;
        Ok(PreparationView {
            run: None,
            practical: version.id,
            title: practical.file.title.clone(),
            class: String::new(),
            groups: (1..=count).map(|n| format!("group {n}")).collect(),
            visits: Vec::new(),
            returns: Vec::new(),
            choices,
            ticks: Vec::new(),
            bottles: bottles(app, &preparation)?,
            on_shelf: shelf(app, &preparation)?,
            preparation: (*preparation).clone(),
            now: app.clock.now(),
        })
    });
    Ok(web::Json(view.await?))
}

fn sound(choices: &PrepareChoices) -> Result<(), Invalid> {
    if choices.spare_groups > MOST_SPARE {
        return Err(Invalid::SpareGroups(MOST_SPARE));
    }
    if choices.percent_on_top > 200 {
        return Err(Invalid::PercentOnTop);
    }
    if choices.lesson_minutes.is_some_and(|m| !(1..=600).contains(&m)) {
        return Err(Invalid::VisitLength);
    }
    if choices.resources.values().any(|n| *n > MOST_SHARED) {
        return Err(Invalid::TooManyShared(MOST_SHARED));
    }
    Ok(())
}

fn for_class(choices: &PrepareChoices, groups: Vec<Allotted>, visits: &[VisitView]) -> ForClass {
    let planned = visits.iter().filter_map(|v| u32::try_from(v.minutes).ok());
    ForClass {
        groups,
        spare_groups: choices.spare_groups,
        percent_on_top: f64::from(choices.percent_on_top),
        resources: choices.resources.clone(),
        lessons: match choices.lesson_minutes {
            Some(minutes) => vec![minutes],
            None if visits.is_empty() => vec![USUAL_LESSON],
            None => planned.collect(),
        },
    }
}

/// A class that is prepared for.
pub struct Prepared {
    /// Its groups at work, in bench order.
    pub groups: Vec<Group>,
    /// Its lessons.
    pub visits: Vec<VisitView>,
    /// What was chosen for it.
    choices: PrepareChoices,
    /// For the core.
    pub class: ForClass,
}

impl Prepared {
    /// Of a run.
    pub fn of(app: &App, run: &Run) -> Result<Prepared, ApiError> {
        let groups: Vec<Group> = app.store.groups(run.id)?.into_iter().filter(|g| g.merged_into.is_none()).collect();
        let kept = app.store.preparation_choices(run.id)?;
        let choices: PrepareChoices = kept.map_or_else(
            || Ok(PrepareChoices::default()),
            |text| serde_json::from_str(&text).map_err(|e| ApiError::Internal(e.into())),
        )?;
        let visits = visits(app, run.id)?;
        let class = for_class(&choices, groups.iter().map(|g| g.allotted.clone()).collect(), &visits);
        Ok(Prepared { groups, visits, choices, class })
    }
}

/// What is prepared for a run.
pub fn of_run(app: &App, run: &Run) -> Result<PreparationView, ApiError> {
    let Prepared { groups, visits, choices, class } = Prepared::of(app, run)?;
    let preparation = app.preparation(&run.practical, run.version, &run.school, &class)?;
    Ok(PreparationView {
        run: Some(run.id),
        practical: run.practical.clone(),
        title: app.practical_of(run)?.file.title.clone(),
        class: run.class.clone(),
        groups: groups.into_iter().map(|g| g.name).collect(),
        returns: returns(&preparation.time.lessons, &meetings(&visits), &app.calendar()?, app.clock.now()),
        visits,
        choices,
        ticks: ticks(app, run.id)?,
        bottles: bottles(app, &preparation)?,
        on_shelf: shelf(app, &preparation)?,
        preparation: (*preparation).clone(),
        now: app.clock.now(),
    })
}

/// The room's bottles of what is needed.
fn bottles(app: &App, preparation: &Preparation) -> Result<Vec<Bottle>, ApiError> {
    let needed = |b: &Bottle| preparation.materials.iter().any(|m| m.name == b.holds);
    Ok(app.store.room()?.bottles.into_iter().filter(needed).collect())
}

fn shelf(app: &App, preparation: &Preparation) -> Result<Vec<OnShelf>, ApiError> {
    let stock: Vec<_> = app.store.stock()?.into_iter().map(|s| (s.container, s.amount)).collect();
    Ok(on_shelf(&preparation.materials, &stock))
}

fn ticks(app: &App, run: i64) -> Result<Vec<TickView>, ApiError> {
    Ok(app.store.ticks(run)?.into_iter().map(|t| TickView { item: t.item, by: t.by, at: t.at }).collect())
}
