//! Instruments in somebody's hands: what was done so far comes in, what is to be seen goes out.

use super::{WhichProblem, practised};
use crate::access::Practising;
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use measure::Decimal;
use serde::{Deserialize, Serialize};
use simulate::glass::{
    BalanceAct, MeniscusTask, Pan, Scatter, Seen, Shown, TitrationAct, TitreTold, Weighing, judged, menisci,
};
use simulate::titrating;
use utoipa::ToSchema;

/// What is done with one thing in one sitting.
const MOST_ACTS: usize = 2_000;
/// Scales that are read in one sitting.
const MOST_SCALES: usize = 40;

/// What was done at the burette.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtTheBurette {
    /// Which problem.
    problem: WhichProblem,
    /// Which titration, counted from 0.
    trial: usize,
    /// In order.
    acts: Vec<TitrationAct>,
    /// What was read, start and end, once it is done.
    #[serde(default)]
    read: Option<[String; 2]>,
}

/// What is to be seen.
#[derive(Debug, Serialize, ToSchema)]
pub struct BuretteView {
    /// Meniscus and flask.
    seen: Seen,
    /// What the readings were worth, once they are there.
    told: Option<TitreTold>,
}

/// What was done at the balance.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtTheBalance {
    /// The same number, the same balance.
    seed: u32,
    /// In order.
    acts: Vec<BalanceAct>,
    /// Of which the true mass is told.
    #[serde(default)]
    told: Vec<Pan>,
}

/// What it shows.
#[derive(Debug, Serialize, ToSchema)]
pub struct BalanceView {
    /// The display.
    shown: Shown,
    /// True masses, as asked, in g.
    told: Vec<f64>,
}

/// Which scales are read.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AtTheScales {
    /// The same number, the same scales.
    seed: u32,
    /// So many.
    how_many: usize,
    /// What was read, in order.
    #[serde(default)]
    read: Vec<String>,
}

/// Scales, and how they were read.
#[derive(Debug, Serialize, ToSchema)]
pub struct ScalesView {
    /// To be read.
    tasks: Vec<MeniscusTask>,
    /// Of those that were read.
    scatter: Scatter,
}

/// `POST /practice/burette`: a titration of a problem, by hand.
#[utoipa::path(post, path = "/api/v1/practice/burette", request_body = AtTheBurette,
    responses((status = 200, body = BuretteView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn at_the_burette(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<AtTheBurette>,
) -> Result<web::Json<BuretteView>, ApiError> {
    not_too_many(body.acts.len())?;
    let view = blocking(&app, move |app| {
        let which = &body.problem;
        let practical = practised(app, &who, &which.practical)?;
        let there = titrating(&practical, which.seed.into(), body.trial);
        let titrating = there.ok_or(ApiError::NotFound("titration to practise in this practical"))?;
        let number = |text: &String| Decimal::parse(text).map(Decimal::to_f64).map_err(Invalid::BuretteNumber);
        let told = match &body.read {
            Some([start, end]) => Some(titrating.told(&body.acts, number(end)? - number(start)?)),
            None => None,
        };
        Ok(BuretteView { seen: titrating.after(&body.acts), told })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /practice/balance`: a balance, a boat and a crucible.
#[utoipa::path(post, path = "/api/v1/practice/balance", request_body = AtTheBalance,
    responses((status = 200, body = BalanceView), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn at_the_balance(
    _who: Practising,
    body: web::Json<AtTheBalance>,
) -> Result<web::Json<BalanceView>, ApiError> {
    not_too_many(body.acts.len() + body.told.len())?;
    let balance = Weighing::at(body.seed.into());
    let told = body.told.iter().map(|what| balance.mass(*what)).collect();
    Ok(web::Json(BalanceView { shown: balance.after(&body.acts), told }))
}

/// `POST /practice/scales`: scales to be read.
#[utoipa::path(post, path = "/api/v1/practice/scales", request_body = AtTheScales,
    responses((status = 200, body = ScalesView), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/practice/scales")]
pub async fn at_the_scales(_who: Practising, body: web::Json<AtTheScales>) -> Result<web::Json<ScalesView>, ApiError> {
    if body.how_many > MOST_SCALES {
        return Err(Invalid::TooMuchPractised(MOST_SCALES).into());
    }
    let tasks = menisci(body.seed.into(), body.how_many);
    Ok(web::Json(ScalesView { scatter: judged(&tasks, &body.read), tasks }))
}

fn not_too_many(acts: usize) -> Result<(), ApiError> {
    if acts > MOST_ACTS { Err(Invalid::TooMuchPractised(MOST_ACTS).into()) } else { Ok(()) }
}
