//! Agreement of titres, by each school of practice.
//!
//! *Within a limit*: the most accurate titres whose range is within the limit, then the smallest range. *After an outlier
//! test*: all accurate titres but one that Grubbs' test marks. *Relative deviation*: the most titres whose relative
//! standard deviation is within so many percent, then the smallest. Rough titres are kept apart by all of them.
//!
//! Titre = final − initial reading, as exact decimals.

use super::{ComputeError, Measured};
use measure::{Concordance, Decimal, Dimension, Unit, concordance};
use practical::statistics::grubbs;
use serde::{Deserialize, Serialize};

/// What counts as agreement.
#[derive(Debug, Clone, Copy, PartialEq, Default, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "rule", rename_all = "kebab-case", deny_unknown_fields)]
pub enum AgreementRule {
    /// The most titres with a range within the limit.
    #[default]
    WithinLimit,
    /// All that an outlier test leaves.
    AfterOutlierTest,
    /// The most titres with a relative standard deviation within so many percent.
    RelativeDeviation {
        /// The limit, in percent.
        percent: f64,
    },
}

/// One run of a burette.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Titre {
    /// The titre itself, or the final reading when an initial one is given.
    pub at: String,
    /// The initial reading.
    #[serde(default)]
    pub from: Option<String>,
    /// Kept apart.
    #[serde(default)]
    pub rough: bool,
}

/// How titres agree.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Agreement {
    /// Each titre, digits kept, in the order run.
    pub titres: Vec<String>,
    /// Unit of the titres.
    pub unit: String,
    /// The best set by place in that order; several when they are equally good; none when no two agree.
    pub sets: Vec<AgreeingSet>,
    /// Place of a titre that an outlier test set aside.
    pub set_aside: Option<usize>,
    /// What to keep in mind about that.
    pub warning: Option<&'static str>,
}

/// Titres that agree.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AgreeingSet {
    /// Places in the order run, from 0.
    pub indices: Vec<usize>,
    /// How many.
    pub n: usize,
    /// Largest less smallest, exactly.
    pub range: f64,
    /// Mean, unrounded.
    pub mean: f64,
    /// Standard deviation of the set; biased low, because the set was chosen for agreeing.
    pub sd: f64,
    /// 100 s/mean.
    pub rsd_percent: f64,
}

/// The titres as exact decimals, and the sets that agree best.
pub(super) fn agreement(
    titres: &[Titre],
    limit: &str,
    school: AgreementRule,
) -> Result<(Agreement, String), ComputeError> {
    let quantity = |field: &str, text: &str| Measured::Typed(text.to_owned()).not_negative(field, Dimension::VOLUME);
    let limit = quantity("limit", limit)?;
    let unit: Unit = limit.unit.clone();
    let mut exact: Vec<Decimal> = Vec::new();
    for titre in titres {
        let end = quantity("titre", &titre.at)?;
        let begin = titre.from.as_deref().map(|f| quantity("initial reading", f)).transpose()?;
        if !end.unit.same_as(&unit) || begin.as_ref().is_some_and(|b| !b.unit.same_as(&unit)) {
            return Err(ComputeError::quantity("titre", format!("all titres and the limit are given in {unit}")));
        }
        let delivered = begin.map_or(Some(end.value), |b| end.value.minus(b.value));
        let delivered = delivered.filter(|d| !d.is_negative());
        exact.push(delivered.ok_or_else(|| {
            ComputeError::impossible(format!("the final reading {} is below the initial one", titre.at))
        })?);
    }
    let counted: Vec<usize> = (0..titres.len()).filter(|i| !titres[*i].rough).collect();
    let repeats: Vec<Decimal> = counted.iter().map(|i| exact[*i]).collect();
    let (sets, set_aside, warning) = match school {
        AgreementRule::WithinLimit => (within(&repeats, limit.value), None, None),
        AgreementRule::AfterOutlierTest => after_outlier_test(&repeats),
        AgreementRule::RelativeDeviation { percent } => (steady(&repeats, percent), None, None),
    };
    let described = sets.into_iter().map(|set| describe(&set.iter().map(|i| counted[*i]).collect::<Vec<_>>(), &exact));
    let agreement = Agreement {
        titres: exact.iter().map(ToString::to_string).collect(),
        unit: unit.written().to_owned(),
        sets: described.collect(),
        set_aside: set_aside.map(|i: usize| counted[i]),
        warning,
    };
    Ok((agreement, unit.written().to_owned()))
}

fn within(repeats: &[Decimal], limit: Decimal) -> Vec<Vec<usize>> {
    match concordance(repeats, limit) {
        Concordance::Agree(set) => vec![set],
        Concordance::Tied(sets) => sets,
        Concordance::None => Vec::new(),
    }
}

type Tested = (Vec<Vec<usize>>, Option<usize>, Option<&'static str>);

/// All, or all but the one that Grubbs' test marks.
fn after_outlier_test(repeats: &[Decimal]) -> Tested {
    let all: Vec<usize> = (0..repeats.len()).collect();
    if all.len() < 2 {
        return (Vec::new(), None, None);
    }
    let values: Vec<f64> = repeats.iter().map(|d| d.to_f64()).collect();
    let marked = grubbs(&values).ok().filter(|g| g.outlier).map(|g| g.suspect);
    let warning = (all.len() == 3).then_some("of three titres an outlier test says little: run another one");
    let kept = all.into_iter().filter(|i| Some(*i) != marked).collect();
    (vec![kept], marked, warning)
}

/// The most titres whose relative standard deviation is within `percent`, then the smallest deviation.
fn steady(repeats: &[Decimal], percent: f64) -> Vec<Vec<usize>> {
    let mut order: Vec<usize> = (0..repeats.len()).collect();
    order.sort_by(|a, b| repeats[*a].compare(repeats[*b]));
    let deviation = |set: &[usize]| describe(set, repeats).rsd_percent;
    for size in (2..=order.len()).rev() {
        // In order of size, the steadiest set of any size is a window.
        let best = order.windows(size).min_by(|a, b| deviation(a).total_cmp(&deviation(b)));
        if let Some(set) = best.filter(|w| deviation(w) <= percent) {
            let mut set = set.to_vec();
            set.sort_unstable();
            return vec![set];
        }
    }
    Vec::new()
}

fn describe(indices: &[usize], exact: &[Decimal]) -> AgreeingSet {
    let values: Vec<f64> = indices.iter().map(|i| exact[*i].to_f64()).collect();
    let n = values.len();
    let mut sorted: Vec<Decimal> = indices.iter().map(|i| exact[*i]).collect();
    sorted.sort_by(|a, b| a.compare(*b));
    let range = sorted[n - 1].minus(sorted[0]).map_or(f64::NAN, Decimal::to_f64);
    let mean = values.iter().sum::<f64>() / n as f64;
    let sd = (values.iter().map(|v| (v - mean).powi(2)).sum::<f64>() / (n as f64 - 1.0)).sqrt();
    AgreeingSet { indices: indices.to_vec(), n, range, mean, sd, rsd_percent: 100.0 * sd / mean }
}
