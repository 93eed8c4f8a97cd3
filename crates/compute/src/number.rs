//! Typed numbers: what they claim, how they are rounded, and what a result of theirs may claim.

use super::ComputeError;
use measure::rounding::{Ties, WholeNumbers, decimal_of, to_figures, to_place};
use measure::{Decimal, Unit, Written, WrittenError};
use serde::{Deserialize, Serialize};
use sheet::{Draft, Given, Inputs, Outcome, Precision, Program, ReadingName, Vocabulary};
use std::collections::BTreeMap;

/// A question about numbers.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum NumberQuestion {
    /// What does a plain number claim?
    Read {
        /// As typed.
        text: String,
    },
    /// What does a person mean by what was typed into a field?
    Written {
        /// As typed, perhaps with its unit, or called approximate.
        text: String,
        /// The unit that the field asks for.
        #[serde(default)]
        unit: Option<String>,
    },
    /// To so many significant figures, or to so many decimals.
    Round {
        /// As typed.
        text: String,
        /// Significant figures.
        #[serde(default)]
        figures: Option<u32>,
        /// Decimals; used when no figures are asked for.
        #[serde(default)]
        decimals: Option<u32>,
    },
    /// What may the result of a calculation claim, by the rule of significant figures?
    Calculate {
        /// In the language of the sheet, over the names below: `a * b / c`.
        expression: String,
        /// Numbers as typed, by name.
        values: BTreeMap<String, String>,
        /// Names of those that are exact.
        #[serde(default)]
        exact: Vec<String>,
    },
}

/// What is known about a number.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NumberAnswer {
    /// Unrounded.
    pub value: f64,
    /// Every digit, in plain notation: as typed, or rounded half up.
    pub half_up: String,
    /// Rounded half to even.
    pub half_even: String,
    /// Significant figures; none for a zero as typed, 0 for a result that vanishes.
    pub figures: Option<u32>,
    /// The most figures that could be meant, where zeros at the end leave it open.
    pub figures_at_most: Option<u32>,
    /// Whether zeros at the end leave the figures open.
    pub ambiguous: bool,
    /// Digits after the point.
    pub decimals: u32,
    /// Power of ten of the last digit.
    pub last_place: i32,
    /// Whether it was called approximate.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub approximate: bool,
    /// The unit that was typed with it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub unit: Option<UnitTyped>,
}

/// A unit typed beside a number.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum UnitTyped {
    /// A unit of what is asked for, or nothing was asked.
    Fits {
        /// As typed.
        unit: String,
        /// The number in the unit that is asked for; in its own where none is.
        value: f64,
    },
    /// A unit of something else.
    OfSomethingElse {
        /// As typed.
        unit: String,
    },
    /// Nothing that is known as a unit.
    Unknown {
        /// What is wrong with it.
        why: String,
    },
}

pub(super) fn answer(question: &NumberQuestion) -> Result<NumberAnswer, ComputeError> {
    match question {
        NumberQuestion::Read { text } => Ok(as_typed(read("text", text)?)),
        NumberQuestion::Written { text, unit } => written(text, unit.as_deref()),
        NumberQuestion::Round { text, figures, decimals } => {
            let typed = read("text", text)?;
            let to = |ties| match (figures, decimals) {
                (Some(figures), _) => Ok(to_figures(typed, *figures, ties)),
                (None, Some(d)) => Ok(to_place(typed, -i32::try_from((*d).min(60)).unwrap_or(60), ties)),
                (None, None) => Err(ComputeError::quantity("figures", "say how many figures, or how many decimals")),
            };
            Ok(rounded(typed.to_f64(), to(Ties::HalfUp)?, to(Ties::HalfEven)?))
        }
        NumberQuestion::Calculate { expression, values, exact } => calculate(expression, values, exact),
    }
}

fn read(field: &str, text: &str) -> Result<Decimal, ComputeError> {
    Decimal::parse(text).map_err(|e| ComputeError::quantity(field, e.to_string()))
}

/// What a person typed into a field: the number, and what to think of the unit beside it.
fn written(text: &str, asked: Option<&str>) -> Result<NumberAnswer, ComputeError> {
    let asked = asked.map(Unit::parse).transpose().map_err(|e| ComputeError::quantity("unit", e.to_string()))?;
    match Written::read(text) {
        Ok(Written { value, unit, approximate }) => {
            let unit = unit.map(|unit| {
                let (asked, written) = (asked.as_ref().unwrap_or(&unit), unit.written().to_owned());
                if asked.dimension() == unit.dimension() {
                    UnitTyped::Fits { unit: written, value: asked.from_base(unit.to_base(value.to_f64())) }
                } else {
                    UnitTyped::OfSomethingElse { unit: written }
                }
            });
            Ok(NumberAnswer { approximate, unit, ..as_typed(value) })
        }
        Err(WrittenError::Unit { value, why }) => {
            Ok(NumberAnswer { unit: Some(UnitTyped::Unknown { why: why.to_string() }), ..as_typed(value) })
        }
        Err(WrittenError::Number(e)) => Err(ComputeError::quantity("text", e.to_string())),
    }
}

fn calculate(
    expression: &str,
    values: &BTreeMap<String, String>,
    exact: &[String],
) -> Result<NumberAnswer, ComputeError> {
    let mut vocabulary = Vocabulary::default();
    let mut inputs = Inputs::default();
    for (name, text) in values {
        let typed = read(name, text)?;
        let mut given = Given::exact_digits(typed, &Unit::one());
        if !exact.contains(name) {
            given.precision = Precision::of(typed, &Unit::one(), WholeNumbers::PlaceHolders);
        }
        vocabulary.readings.push(ReadingName { symbol: name.clone(), unit: Unit::one(), repeats: None });
        inputs.readings.insert(name.clone(), given);
    }
    let program = Program::compile(&[Draft::made("result", expression)], &vocabulary)?;
    match program.evaluate(&inputs).outcome("result") {
        Some(Outcome::Value(v)) => {
            let exact =
                decimal_of(v.value).ok_or_else(|| ComputeError::undefined("the result is beyond any number"))?;
            let to = |ties| v.precision.rounded(exact, &Unit::one(), ties);
            Ok(rounded(v.value, to(Ties::HalfUp), to(Ties::HalfEven)))
        }
        Some(Outcome::Failed(failure)) => Err(failure.into()),
        Some(Outcome::NotYet { .. } | Outcome::Series(_)) | None => Err(ComputeError::undefined("there is no result")),
    }
}

/// A typed number as it stands.
fn as_typed(typed: Decimal) -> NumberAnswer {
    let figures = typed.significant_figures();
    let at_most = figures.and_then(|_| u32::try_from(typed.digits().len()).ok());
    NumberAnswer {
        figures,
        figures_at_most: at_most,
        ambiguous: figures != at_most,
        ..rounded(typed.to_f64(), typed, typed)
    }
}

/// A rounded number: all its digits count, a zero at the end as well; a zero itself has none.
fn rounded(value: f64, half_up: Decimal, half_even: Decimal) -> NumberAnswer {
    let zero = half_up.compare(Decimal::ZERO).is_eq();
    let figures = if zero { 0 } else { u32::try_from(half_up.digits().len()).unwrap_or(u32::MAX) };
    NumberAnswer {
        value,
        half_up: half_up.to_string(),
        half_even: half_even.to_string(),
        figures: Some(figures),
        figures_at_most: Some(figures),
        ambiguous: false,
        decimals: half_up.decimals(),
        last_place: half_up.last_place(),
        approximate: false,
        unit: None,
    }
}
