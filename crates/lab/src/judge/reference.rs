//! The value that a result is held against: the accepted one, or what the trial run came to.

use crate::evaluated::inputs;
use measure::Decimal;
use practical::{Practical, ResultSpec, Stated};
use serde::Serialize;

/// Where a value that others are held against comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum AcceptedFrom {
    /// The practical states it.
    Stated,
    /// The instructor's trial run.
    TrialRun,
}

/// The value, in the unit of the result, and where it comes from; what is stated comes first.
#[must_use]
pub fn reference(practical: &Practical, result: &ResultSpec) -> Option<(f64, AcceptedFrom)> {
    let stated = stated(practical, result).map(|v| (v, AcceptedFrom::Stated));
    stated.or_else(|| Some((trial_run(practical, result)?, AcceptedFrom::TrialRun)))
}

/// The accepted value that the practical states for a group as it stands, in the unit of the result.
#[must_use]
pub fn stated(practical: &Practical, result: &ResultSpec) -> Option<f64> {
    let text = practical.accepted_values().get(&result.name).cloned()?;
    Stated::parse(&text).ok().map(|s| result.unit.from_base(s.base()))
}

/// What the readings of the trial run come to, in the unit of the result.
#[must_use]
pub fn trial_run(practical: &Practical, result: &ResultSpec) -> Option<f64> {
    let run = practical.file.trial_run.as_ref()?;
    let readings = run.readings.iter().filter_map(|(s, t)| Some((s.clone(), Decimal::parse(t).ok()?))).collect();
    let found = practical.program.evaluate(&inputs(practical, &readings)).value(&result.name)?;
    Some(result.unit.from_base(found.value))
}
