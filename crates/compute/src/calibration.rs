//! Lines through measured points, and unknowns read off them.
//!
//! Numbers as typed, in whatever units x and y have: a line does not look at them.

use super::ComputeError;
use super::statistics::read;
use practical::statistics as stats;
use serde::{Deserialize, Serialize};
use stats::{GroupPoints, Weighting};

/// A question about lines.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum CalibrationQuestion {
    /// The line itself.
    Line {
        /// Its points.
        points: Points,
    },
    /// An unknown read off it.
    Unknown(UnknownOff),
    /// Known amounts added to the unknown itself, in a constant volume.
    Addition {
        /// Concentration added, in the volume that is measured.
        added: Vec<String>,
        /// y of each.
        y: Vec<String>,
        /// How many times the unknown was diluted before.
        #[serde(default)]
        dilution: Option<String>,
    },
    /// The lines of several groups, put together.
    Groups {
        /// At least two.
        groups: Vec<GroupLine>,
    },
    /// An unknown that every group read off its own line.
    ClassUnknown {
        /// At least two.
        groups: Vec<GroupLine>,
    },
}

/// Points of a line, and how they are taken.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Points {
    /// x of each point.
    pub x: Vec<String>,
    /// y of each point.
    pub y: Vec<String>,
    /// Standard deviation of each y, where points are weighed by it.
    #[serde(default)]
    pub sd: Option<Vec<String>>,
    /// The line is made to go through zero.
    #[serde(default)]
    pub through_zero: bool,
}

/// Points, and readings of an unknown.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct UnknownOff {
    /// The line's points.
    pub points: Points,
    /// y of the unknown, read once or more.
    pub unknown: Vec<String>,
    /// y of a blank; its mean is taken off every y.
    #[serde(default)]
    pub blank: Vec<String>,
    /// How many times the unknown was diluted before.
    #[serde(default)]
    pub dilution: Option<String>,
    /// Standard deviation of one reading of the unknown, for a weighted line.
    #[serde(default)]
    pub sd_unknown: Option<String>,
}

/// The points of one group.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GroupLine {
    /// x of each point.
    pub x: Vec<String>,
    /// y of each point.
    pub y: Vec<String>,
    /// y of the unknown.
    #[serde(default)]
    pub unknown: Vec<String>,
}

/// What lines say.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum CalibrationAnswer {
    /// The line.
    Line(stats::StraightLine),
    /// The unknown, and the line that it was read off.
    Unknown {
        /// The line, its blank taken off.
        line: stats::StraightLine,
        /// Mean of the unknown's readings, the blank taken off.
        mean_y: f64,
        /// In what was measured.
        measured: stats::ReadOff,
        /// Before it was diluted.
        original: Original,
    },
    /// What was there before anything was added.
    Addition {
        /// The line.
        line: stats::StraightLine,
        /// In the volume that was measured.
        measured: Original,
        /// Before it was diluted.
        original: Original,
    },
    /// Several groups.
    Groups(Box<stats::PooledLines>),
    /// The unknown of a class.
    ClassUnknown(stats::ClassUnknown),
}

/// A result in the undiluted unknown.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = ReadOffOriginal))]
pub struct Original {
    /// The x.
    pub x: f64,
    /// Its standard error; none where no point is left over.
    pub standard_error: Option<f64>,
    /// t times that.
    pub half_width_95: Option<f64>,
}

pub(super) fn answer(question: &CalibrationQuestion) -> Result<CalibrationAnswer, ComputeError> {
    Ok(match question {
        CalibrationQuestion::Line { points } => {
            CalibrationAnswer::Line(stats::line(&read(&points.x)?, &read(&points.y)?, &points.weighting()?)?)
        }
        CalibrationQuestion::Unknown(q) => unknown(q)?,
        CalibrationQuestion::Addition { added, y, dilution } => {
            let (added, y, times) = (read(added)?, read(y)?, dilution_of(dilution.as_ref())?);
            let line = stats::line(&added, &y, &Weighting::Alike)?;
            let found = stats::meets_zero(&added, &y)?;
            let t = line.scatter.as_ref().map(|s| s.t_975);
            let of = |times: f64| Original {
                x: -times * found.x,
                standard_error: Some(times * found.standard_error),
                half_width_95: t.map(|t| times * t * found.standard_error),
            };
            CalibrationAnswer::Addition { measured: of(1.0), original: of(times), line }
        }
        CalibrationQuestion::Groups { groups } => {
            CalibrationAnswer::Groups(Box::new(stats::pooled_lines(&of_groups(groups)?)?))
        }
        CalibrationQuestion::ClassUnknown { groups } => {
            CalibrationAnswer::ClassUnknown(stats::class_unknown(&of_groups(groups)?)?)
        }
    })
}

fn unknown(q: &UnknownOff) -> Result<CalibrationAnswer, ComputeError> {
    let (x, mut y, mut unknown) = (read(&q.points.x)?, read(&q.points.y)?, read(&q.unknown)?);
    let (how, times) = (q.points.weighting()?, dilution_of(q.dilution.as_ref())?);
    let blank = read(&q.blank)?;
    if !blank.is_empty() {
        let mean = blank.iter().sum::<f64>() / blank.len() as f64;
        y.iter_mut().chain(&mut unknown).for_each(|v| *v -= mean);
    }
    let sd_unknown = q.sd_unknown.as_ref().map(|t| read(std::slice::from_ref(t))).transpose()?.map(|v| v[0]);
    if matches!(how, Weighting::BySd(_)) && sd_unknown.is_none() {
        return Err(ComputeError::quantity(
            "sd_unknown",
            "a weighted line needs the standard deviation of the unknown",
        ));
    }
    let measured = stats::read_off(&x, &y, &how, &unknown, sd_unknown)?;
    let original = Original {
        x: times * measured.x,
        standard_error: measured.standard_error.map(|se| times * se),
        half_width_95: measured.half_width_95.map(|half| times * half),
    };
    let mean_y = unknown.iter().sum::<f64>() / unknown.len() as f64;
    Ok(CalibrationAnswer::Unknown { line: stats::line(&x, &y, &how)?, mean_y, measured, original })
}

impl Points {
    fn weighting(&self) -> Result<Weighting, ComputeError> {
        match (&self.sd, self.through_zero) {
            (None, false) => Ok(Weighting::Alike),
            (None, true) => Ok(Weighting::ThroughZero),
            (Some(sd), false) => Ok(Weighting::BySd(read(sd)?)),
            (Some(_), true) => Err(ComputeError::quantity("sd", "a line through zero is not weighted here")),
        }
    }
}

fn dilution_of(dilution: Option<&String>) -> Result<f64, ComputeError> {
    let Some(text) = dilution else { return Ok(1.0) };
    let times = read(std::slice::from_ref(text))?[0];
    if times < 1.0 {
        return Err(ComputeError::impossible(format!("a dilution by less than 1: {text}")));
    }
    Ok(times)
}

fn of_groups(groups: &[GroupLine]) -> Result<Vec<GroupPoints>, ComputeError> {
    let of = |g: &GroupLine| Ok(GroupPoints { x: read(&g.x)?, y: read(&g.y)?, unknown: read(&g.unknown)? });
    groups.iter().map(of).collect()
}
