//! Bottles: from what was really weighed or measured out, standardised by a class, taken from by groups.

use crate::access::{DeskRun, Staff, StaffRun, host_of};
use crate::api::preparing::{PreparationView, of_run};
use crate::api::texts::named;
use crate::api::views::{address, groups_at_work};
use crate::app::{App, blocking};
use crate::clock::is_over;
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use crate::qr;
use actix_web::{HttpRequest, HttpResponse, get, post, put, web};
use compute::{Request, Response, SolutionQuestion, Worked, compute};
use lab::bench::{Bottle, BottleMade, RoomItem, Standardised};
use lab::cohort::{FoundStrength, Member, found_strength};
use serde::{Deserialize, Serialize};
use store::Run;
use utoipa::ToSchema;

/// A bottle from what was really weighed or measured out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewBottle {
    /// Symbol of the material.
    material: String,
    /// What stands on it: `bottle C`.
    name: String,
    /// What it was made from, in words: `4.02 g NaOH in 1000 mL`.
    from: String,
    /// The recipe with what was really taken: one of `made`, `made-from-concentrated`, `diluted`.
    #[schema(value_type = SolutionQuestion)]
    recipe: AskedRecipe,
    /// The last day on which it is good: `2027-05-11`.
    #[serde(default)]
    keep_until: Option<String>,
}

/// A question about a solution, with the words in which it was asked: they are kept with the bottle.
#[derive(Debug, Deserialize)]
#[serde(try_from = "serde_json::Value")]
pub struct AskedRecipe {
    question: SolutionQuestion,
    asked: String,
}

impl TryFrom<serde_json::Value> for AskedRecipe {
    type Error = serde_json::Error;

    fn try_from(value: serde_json::Value) -> Result<AskedRecipe, serde_json::Error> {
        let asked = value.to_string();
        Ok(AskedRecipe { question: serde_json::from_value(value)?, asked })
    }
}

/// All that is known of a bottle.
#[derive(Debug, Serialize, ToSchema)]
pub struct BottleView {
    /// The bottle.
    bottle: Bottle,
    /// The sum that its strength came of; none where it was not made here.
    worked: Option<Worked>,
    /// It is kept longer than it is good.
    is_old: bool,
    /// Groups that took from it, of classes that are seen here.
    uses: Vec<BottleUse>,
    /// How many groups of other classes did.
    others: u32,
}

/// A group that took from a bottle.
#[derive(Debug, Serialize, ToSchema)]
pub struct BottleUse {
    /// Its run.
    run: i64,
    /// Title of the practical.
    title: String,
    /// The class.
    class: String,
    /// The group.
    group: String,
}

/// `POST /runs/{run}/bottles`, for instructors and technicians: a bottle from what was really taken, with its strength and
/// U (k = 2), which the groups can take from.
#[utoipa::path(post, path = "/api/v1/runs/{run}/bottles", params(("run" = i64, Path)), request_body = NewBottle,
    responses((status = 200, body = PreparationView), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[post("/runs/{run}/bottles")]
pub async fn make_bottle(
    app: web::Data<App>,
    staff: StaffRun,
    body: web::Json<NewBottle>,
) -> Result<web::Json<PreparationView>, ApiError> {
    let NewBottle { material, name, from, recipe, keep_until } = body.into_inner();
    let view = blocking(&app, move |app| {
        let practical = app.practical_of(&staff.run)?;
        let material = practical.material(&material).ok_or(ApiError::NotFound("material"))?;
        let name = named(&name, "a name")?;
        let from = named(&from, "what it was made from")?;
        if app.store.room()?.bottles.iter().any(|b| b.name == name) {
            return Err(Invalid::BottleThere(name).into());
        }
        let now = app.clock.now();
        let keep_until = keep_until.map(|d| d.trim().to_owned()).filter(|d| !d.is_empty());
        if let Some(date) = &keep_until {
            let short = || date.chars().take(20).collect();
            match is_over(date, now) {
                None => return Err(Invalid::KeepUntil(short()).into()),
                Some(true) => return Err(Invalid::KeepsNoLonger(short()).into()),
                Some(false) => {}
            }
        }
        let measured = strength_made(recipe.question)?;
        let bottle = Bottle {
            holds: material.name.clone(),
            strength: lab::plan::form_words(&material.supply),
            measured: Some(measured),
            made: Some(BottleMade {
                from,
                by: staff.person.name.clone(),
                at: now,
                keep_until,
                recipe: Some(recipe.asked),
            }),
            standardised: None,
            name,
        };
        let item = RoomItem::Bottle(bottle);
        item.sound()?;
        app.store.put_into_room(item, format!("person {}", staff.person.id), app.clock.now())?;
        of_run(app, &staff.run)
    });
    Ok(web::Json(view.await?))
}

/// The strength of what was really made, with U (k = 2): `0.1005 ± 0.0006 mol/L`.
fn strength_made(recipe: SolutionQuestion) -> Result<String, ApiError> {
    let made = matches!(
        recipe,
        SolutionQuestion::Made(_) | SolutionQuestion::MadeFromConcentrated(_) | SolutionQuestion::Diluted(_)
    );
    if !made {
        return Err(Invalid::NoRecipe.into());
    }
    let worked = worked_out(&Request::Solution(recipe))?.ok_or(Invalid::NoRecipe)?;
    let c = worked.result("c").filter(|c| c.unit == "mol/L").ok_or(Invalid::NoRecipe)?;
    Ok(match (&c.rounded, &c.expanded) {
        (Some(value), Some(u)) => format!("{value} ± {u} mol/L"),
        _ => format!("{} mol/L", c.text),
    })
}

/// The sum behind an answer about a solution; none where there is no such sum.
fn worked_out(question: &Request) -> Result<Option<Worked>, Invalid> {
    match compute(question)? {
        Response::Solution(answer) => Ok(answer.worked),
        _ => Ok(None),
    }
}

/// The room's bottle of this name.
fn bottle_called(app: &App, name: &str) -> Result<Bottle, ApiError> {
    app.store.room()?.bottles.into_iter().find(|b| b.name == name).ok_or(ApiError::NotFound("bottle"))
}

/// `GET /room/bottles/{name}`, for instructors and technicians: from what it was made, and who took from it.
#[utoipa::path(get, path = "/api/v1/room/bottles/{name}", params(("name" = String, Path)),
    responses((status = 200, body = BottleView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/room/bottles/{name}")]
pub async fn show_bottle(
    app: web::Data<App>,
    staff: Staff,
    name: web::Path<String>,
) -> Result<web::Json<BottleView>, ApiError> {
    let view = blocking(&app, move |app| {
        let bottle = bottle_called(app, &name)?;
        let recipe = bottle.made.as_ref().and_then(|m| serde_json::from_str(m.recipe.as_deref()?).ok());
        // Anybody who keeps the room may have written something else there.
        let worked = recipe.and_then(|question| worked_out(&Request::Solution(question)).ok()?);
        let keep_until = bottle.made.as_ref().and_then(|m| m.keep_until.as_deref());
        let is_old = keep_until.and_then(|date| is_over(date, app.clock.now())).unwrap_or(false);
        let seen = staff.prepares(app)?;
        let (mut uses, mut others) = (Vec::new(), 0);
        for run in app.store.runs()? {
            let took: Vec<String> = took_from(app, &run, &bottle.name)?;
            if seen(&run) {
                let title = app.practical_of(&run)?.file.title.clone();
                let of = |group| BottleUse { run: run.id, title: title.clone(), class: run.class.clone(), group };
                uses.extend(took.into_iter().map(of));
            } else {
                others += u32::try_from(took.len()).unwrap_or(u32::MAX);
            }
        }
        Ok(BottleView { bottle, worked, is_old, uses, others })
    });
    Ok(web::Json(view.await?))
}

/// Names of the groups of a run that took from a bottle.
fn took_from(app: &App, run: &Run, bottle: &str) -> Result<Vec<String>, ApiError> {
    let room = app.store.room_of(run.id)?;
    let mut out = Vec::new();
    for group in app.store.groups(run.id)? {
        let entries = app.store.bench(run.id, group.id)?.current(&room);
        if entries.bottles.values().any(|b| b == bottle) {
            out.push(group.name);
        }
    }
    Ok(out)
}

/// `GET /room/bottles/{name}/code.svg`, for instructors and technicians: the address of its page, as a QR code.
#[utoipa::path(get, path = "/api/v1/room/bottles/{name}/code.svg", params(("name" = String, Path)),
    responses((status = 200, description = "a picture", content_type = "image/svg+xml", body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/room/bottles/{name}/code.svg")]
pub async fn bottle_code(
    app: web::Data<App>,
    request: HttpRequest,
    _staff: Staff,
    name: web::Path<String>,
) -> Result<HttpResponse, ApiError> {
    let host = host_of(&request).to_owned();
    let svg = blocking(&app, move |app| {
        let bottle = bottle_called(app, &name)?;
        qr::svg(address(app, &host, &format!("/prepare/bottles/{}", in_path(&bottle.name))))
    });
    Ok(qr::reply(svg.await?))
}

/// A name as a part of an address: each byte that is no letter or digit as `%` and two.
fn in_path(name: &str) -> String {
    let written = |b: u8| if b.is_ascii_alphanumeric() { char::from(b).to_string() } else { format!("%{b:02X}") };
    name.bytes().map(written).collect()
}

/// `GET /runs/{run}/bottles/{name}/found`, for instructors: how strong the class found it to be.
#[utoipa::path(get, path = "/api/v1/runs/{run}/bottles/{name}/found", params(("run" = i64, Path), ("name" = String, Path)),
    responses((status = 200, body = FoundStrength), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[get("/runs/{run}/bottles/{name}/found")]
pub async fn show_found(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, String)>,
) -> Result<web::Json<FoundStrength>, ApiError> {
    let found = blocking(&app, move |app| found_by(app, &desk.run, &bottle_called(app, &path.1)?));
    Ok(web::Json(found.await?))
}

/// `PUT /runs/{run}/bottles/{name}/found`, for instructors: the bottle takes that strength.
#[utoipa::path(put, path = "/api/v1/runs/{run}/bottles/{name}/found", params(("run" = i64, Path), ("name" = String, Path)),
    responses((status = 200, body = Bottle), (status = 401, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[put("/runs/{run}/bottles/{name}/found")]
pub async fn standardise(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, String)>,
) -> Result<web::Json<Bottle>, ApiError> {
    let bottle = blocking(&app, move |app| {
        let mut bottle = bottle_called(app, &path.1)?;
        let found = found_by(app, &desk.run, &bottle)?;
        bottle.measured = Some(found.shown);
        bottle.standardised = Some(Standardised {
            from: format!("{}, {} groups", desk.run.class, found.groups.len()),
            by: desk.person.name.clone(),
            at: app.clock.now(),
        });
        let item = RoomItem::Bottle(bottle.clone());
        app.store.put_into_room(item, format!("person {}", desk.person.id), app.clock.now())?;
        Ok(bottle)
    });
    Ok(web::Json(bottle.await?))
}

fn found_by(app: &App, run: &Run, bottle: &Bottle) -> Result<FoundStrength, ApiError> {
    let benches = groups_at_work(app, run)?;
    let working = benches.iter().filter(|b| b.row.merged_into.is_none());
    let members: Vec<Member<'_>> = working.map(|b| b.member(None, None)).collect();
    Ok(found_strength(&*app.practical_of(run)?, &members, bottle).map_err(Invalid::from)?)
}
