//! Many values: summary, outliers, robust mean, line, comparison.

use super::ComputeError;
use measure::Decimal;
use practical::statistics as stats;
use serde::{Deserialize, Serialize};

/// A question about many values; numbers as typed.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum StatisticsQuestion {
    /// Mean, median, spread, t interval.
    Summary {
        /// The values.
        values: Vec<String>,
    },
    /// Grubbs' test, two-sided 5 %.
    Grubbs {
        /// The values.
        values: Vec<String>,
    },
    /// Dixon's Q, two-sided 5 %.
    Dixon {
        /// The values.
        values: Vec<String>,
    },
    /// Robust mean and s.
    AlgorithmA {
        /// The values.
        values: Vec<String>,
    },
    /// A straight line, and an unknown read off it.
    Regression {
        /// x of each point.
        x: Vec<String>,
        /// y of each point.
        y: Vec<String>,
        /// A measured y.
        #[serde(default)]
        y0: Option<String>,
        /// How many readings its mean is of.
        #[serde(default = "one")]
        replicates: u32,
    },
    /// Two groups with spreads of their own.
    Welch {
        /// The one.
        a: Vec<String>,
        /// The other.
        b: Vec<String>,
    },
    /// One-way analysis of variance.
    Anova {
        /// The groups.
        groups: Vec<Vec<String>>,
    },
    /// The same on ranks.
    KruskalWallis {
        /// The groups.
        groups: Vec<Vec<String>>,
    },
    /// A class against an accepted value.
    Accepted {
        /// The values.
        values: Vec<String>,
        /// The accepted one.
        accepted: String,
    },
}

fn one() -> u32 {
    1
}

/// What many values say.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum StatisticsAnswer {
    /// Summary.
    Summary(stats::Summary),
    /// Grubbs' test.
    Grubbs(stats::Grubbs),
    /// Dixon's Q.
    Dixon(stats::Dixon),
    /// Algorithm A.
    AlgorithmA(stats::Robust),
    /// A line.
    Regression {
        /// The line.
        line: stats::FittedLine,
        /// The unknown.
        inverse: Option<stats::Inverse>,
    },
    /// Welch's t.
    Welch(stats::Welch),
    /// Analysis of variance.
    Anova(stats::Anova),
    /// Kruskal–Wallis.
    KruskalWallis(stats::KruskalWallis),
    /// Against an accepted value.
    Accepted {
        /// Mean less accepted, in percent of the accepted value.
        percent_error: f64,
        /// Two-sided, by Student's t.
        p_value: f64,
    },
}

const MOST_VALUES: usize = 10_000;

pub(super) fn answer(question: &StatisticsQuestion) -> Result<StatisticsAnswer, ComputeError> {
    Ok(match question {
        StatisticsQuestion::Summary { values } => StatisticsAnswer::Summary(stats::summary(&read(values)?)?),
        StatisticsQuestion::Grubbs { values } => StatisticsAnswer::Grubbs(stats::grubbs(&read(values)?)?),
        StatisticsQuestion::Dixon { values } => StatisticsAnswer::Dixon(stats::dixon(&read(values)?)?),
        StatisticsQuestion::AlgorithmA { values } => StatisticsAnswer::AlgorithmA(stats::algorithm_a(&read(values)?)?),
        StatisticsQuestion::Regression { x, y, y0, replicates } => {
            let (x, y) = (read(x)?, read(y)?);
            let line = stats::regression(&x, &y)?;
            let y0 = y0.as_ref().map(|t| read(std::slice::from_ref(t))).transpose()?;
            let inverse = y0.map(|v| stats::inverse(&x, &y, v[0], *replicates)).transpose()?;
            StatisticsAnswer::Regression { line, inverse }
        }
        StatisticsQuestion::Welch { a, b } => StatisticsAnswer::Welch(stats::welch(&read(a)?, &read(b)?)?),
        StatisticsQuestion::Anova { groups } => StatisticsAnswer::Anova(stats::anova(&read_all(groups)?)?),
        StatisticsQuestion::KruskalWallis { groups } => {
            StatisticsAnswer::KruskalWallis(stats::kruskal_wallis(&read_all(groups)?)?)
        }
        StatisticsQuestion::Accepted { values, accepted } => {
            let accepted = read(std::slice::from_ref(accepted))?[0];
            if accepted == 0.0 {
                return Err(ComputeError::impossible("a percent error needs an accepted value other than zero"));
            }
            let (percent_error, p_value) = stats::against_accepted(&read(values)?, accepted)?;
            StatisticsAnswer::Accepted { percent_error, p_value }
        }
    })
}

pub(super) fn read(values: &[String]) -> Result<Vec<f64>, ComputeError> {
    if values.len() > MOST_VALUES {
        return Err(ComputeError::quantity("values", format!("at most {MOST_VALUES} values")));
    }
    let number = |(i, text): (usize, &String)| {
        let typed = Decimal::parse(text);
        typed.map(Decimal::to_f64).map_err(|e| ComputeError::quantity("values", format!("value {}: {e}", i + 1)))
    };
    values.iter().enumerate().map(number).collect()
}

fn read_all(groups: &[Vec<String>]) -> Result<Vec<Vec<f64>>, ComputeError> {
    groups.iter().map(|g| read(g)).collect()
}
