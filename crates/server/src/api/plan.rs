//! A practical as its planner sees it.

use crate::access::Desk;
use crate::api::shelf::{PracticalHead, practical_head};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::plan::Plan;
use lab::practical::file::{Observation, Step};
use lab::practical::{Practical, Reading};
use measure::InstrumentKind;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A practical with everything that follows from it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanView {
    /// At one look.
    pub head: PracticalHead,
    /// What follows from the planned amounts.
    pub plan: Plan,
    /// In bench order.
    pub steps: Vec<Step>,
    /// In bench order.
    pub readings: Vec<ReadingSpec>,
    /// In bench order.
    pub observations: Vec<Observation>,
    /// In order.
    pub results: Vec<ResultSpec>,
    /// What each definition of the sheet is called in words.
    pub labels: BTreeMap<String, String>,
}

/// A reading as the interface needs it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingSpec {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub label: String,
    /// In one or two words.
    pub short: String,
    /// Unit.
    pub unit: String,
    /// Name of the instrument.
    pub instrument: String,
    /// Kind of the instrument.
    pub instrument_kind: InstrumentKind,
    /// Smallest step that it shows.
    pub resolution: f64,
    /// Digits after the point.
    pub decimals: u32,
    /// Where it should lie.
    pub range: [f64; 2],
    /// The value of the mark, where the instrument has one mark and is not read.
    pub nominal: Option<String>,
}

/// A result as the interface needs it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ResultSpec {
    /// Name of the definition.
    pub name: String,
    /// In words.
    pub label: String,
    /// The unit it is shown in.
    pub unit: String,
    /// Units that a group can choose from.
    pub units: Vec<String>,
    /// Whether groups work it out.
    pub asked: bool,
}

impl ReadingSpec {
    /// From the practical's own.
    pub fn of(reading: &Reading) -> ReadingSpec {
        let instrument = &reading.instrument;
        ReadingSpec {
            symbol: reading.symbol.clone(),
            label: reading.label.clone(),
            short: reading.short.clone(),
            unit: reading.unit.written().to_owned(),
            instrument: instrument.name.clone(),
            instrument_kind: instrument.kind,
            resolution: instrument.resolution,
            decimals: reading.decimals,
            range: [reading.range.0, reading.range.1],
            nominal: instrument.is_nominal().then(|| reading.expected.to_string()),
        }
    }
}

/// The results of a practical as the interface needs them.
pub fn result_specs(practical: &Practical) -> Vec<ResultSpec> {
    let spec = |r: &lab::practical::ResultSpec| ResultSpec {
        name: r.name.clone(),
        label: r.label.clone(),
        unit: r.unit.written().to_owned(),
        units: r.units.iter().map(|u| u.written().to_owned()).collect(),
        asked: r.asked,
    };
    practical.results.iter().map(spec).collect()
}

/// `GET /practicals/{id}`, for instructors: the newest version.
#[utoipa::path(get, path = "/api/v1/practicals/{id}", params(("id" = String, Path)),
    responses((status = 200, body = PlanView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/practicals/{id}")]
pub async fn show_plan(
    app: web::Data<App>,
    _desk: Desk,
    id: web::Path<String>,
) -> Result<web::Json<PlanView>, ApiError> {
    let view = blocking(&app, move |app| {
        let all = app.store.practicals()?;
        let version = all.iter().find(|v| v.id == *id).ok_or(ApiError::NotFound("practical"))?;
        let practical = app.practical(&version.id, version.version)?;
        Ok(PlanView {
            head: practical_head(version, &practical),
            plan: lab::plan::plan(&practical),
            steps: practical.steps.clone(),
            readings: practical.readings.iter().map(ReadingSpec::of).collect(),
            observations: practical.observations.clone(),
            results: result_specs(&practical),
            labels: practical.labels.clone(),
        })
    })
    .await?;
    Ok(web::Json(view))
}
