//! A calculation sheet put together for one question: the methods of the door expand into it, as those of a practical
//! do, so that value, uncertainty, digits and worked solution have one source here as well.

use super::{ComputeError, Measured};
use chem::{Coefficient, Formula, MassTable};
use lab::evaluated::{BudgetShare, rounded_to_uncertainty};
use measure::rounding::{decimal_of, uncertainty_figures};
use measure::{Decimal, Dimension, Unit};
use practical::Amount;
use serde::Serialize;
use sheet::{
    Draft, Evaluation, Given, Inputs, Line, Material, Outcome, Program, ReadingName, Repeats, Value, Vocabulary,
};

/// Most points that a curve may have.
const MOST_POINTS: usize = 2_000;

/// Results of a question with the solution worked out.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Worked {
    /// In the order in which they are worked out.
    pub results: Vec<Computed>,
    /// Each definition as symbols, as numbers, and its result.
    pub lines: Vec<Line>,
}

/// One result.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Computed {
    /// As the sheet calls it.
    pub name: String,
    /// In words.
    pub label: String,
    /// The unit of all figures here.
    pub unit: String,
    /// Unrounded.
    pub value: f64,
    /// To the digits it has earned by the school rule.
    pub text: String,
    /// u.
    pub standard_uncertainty: f64,
    /// u over the value without its sign; none for a value of zero.
    pub relative_uncertainty: Option<f64>,
    /// U = 2 u, unrounded.
    pub expanded_uncertainty: f64,
    /// U (k = 2) to two figures; none where the result is exact.
    pub expanded: Option<String>,
    /// The value rounded to the place where U ends: the other school of writing it.
    pub rounded: Option<String>,
    /// Half a division of everything read, all in the worst way: the simple school.
    pub apparatus_error: f64,
    /// What contributes to u, most first.
    pub budget: Vec<BudgetShare>,
}

/// A sheet in the making.
#[derive(Debug, Default)]
pub(super) struct Worksheet {
    vocabulary: Vocabulary,
    inputs: Inputs,
    drafts: Vec<Draft>,
    labels: Vec<(String, String)>,
}

impl Worksheet {
    pub fn new(masses: &MassTable) -> Worksheet {
        let mut sheet = Worksheet::default();
        sheet.vocabulary.masses = masses.clone();
        sheet
    }

    /// A sheet that takes the values of the table as exact.
    pub fn by_table(masses: &MassTable) -> Worksheet {
        let mut sheet = Worksheet::new(masses);
        sheet.vocabulary.masses_exact = true;
        sheet
    }

    /// A quantity of the question, zero or more.
    pub fn reading(
        &mut self,
        symbol: &str,
        field: &str,
        measured: &Measured,
        dimension: Dimension,
    ) -> Result<(), ComputeError> {
        let amount = measured.not_negative(field, dimension)?;
        self.put(symbol, measured, &amount);
        Ok(())
    }

    /// A quantity of the question that something is divided by.
    pub fn divisor(
        &mut self,
        symbol: &str,
        field: &str,
        measured: &Measured,
        dimension: Dimension,
    ) -> Result<(), ComputeError> {
        let amount = measured.positive(field, dimension)?;
        self.put(symbol, measured, &amount);
        Ok(())
    }

    /// A mass or volume fraction, at most 100 %.
    pub fn fraction(&mut self, symbol: &str, field: &str, measured: &Measured) -> Result<(), ComputeError> {
        let amount = measured.positive(field, Dimension::ONE)?;
        if amount.base() > 1.0 {
            return Err(ComputeError::impossible(format!("{field} cannot be above 100 %: {}", measured.text())));
        }
        self.put(symbol, measured, &amount);
        Ok(())
    }

    /// A temperature, in °C or K; below zero °C is no mistake.
    pub fn temperature(&mut self, symbol: &str, measured: &Measured) -> Result<(), ComputeError> {
        let amount = measured.amount("temperature", Dimension::TEMPERATURE)?;
        if amount.base() <= 0.0 {
            return Err(ComputeError::impossible(format!("{} is not above absolute zero", measured.text())));
        }
        self.put(symbol, measured, &amount);
        Ok(())
    }

    /// A quantity that may lie on either side of zero: a potential, a difference of levels.
    pub fn signed(
        &mut self,
        symbol: &str,
        field: &str,
        measured: &Measured,
        dimension: Dimension,
    ) -> Result<(), ComputeError> {
        let amount = measured.amount(field, dimension)?;
        self.put(symbol, measured, &amount);
        Ok(())
    }

    /// A number worked out elsewhere, taken as exact, in `unit`.
    pub fn exact(&mut self, symbol: &str, value: f64, unit: &str) {
        let unit = Unit::parse(unit).expect("the units of the code are units");
        let written = decimal_of(value).unwrap_or(Decimal::ZERO);
        let given = Given { value: unit.to_base(value), ..Given::exact_digits(written, &unit) };
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit, repeats: None });
        self.inputs.readings.insert(symbol.into(), given);
    }

    fn put(&mut self, symbol: &str, measured: &Measured, amount: &Amount) {
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit: amount.unit.clone(), repeats: None });
        self.inputs.readings.insert(symbol.into(), measured.given(symbol, amount));
    }

    /// A quantity measured again in each trial.
    pub fn series(
        &mut self,
        symbol: &str,
        field: &str,
        trials: &[Measured],
        dimension: Dimension,
    ) -> Result<(), ComputeError> {
        let amounts: Vec<_> = trials.iter().map(|m| m.not_negative(field, dimension)).collect::<Result<_, _>>()?;
        self.put_series(symbol, "trial", trials, &amounts, |trial| sheet::trial_name(symbol, trial));
        Ok(())
    }

    /// The points of a curve: read one after the other on one instrument, whose error they share.
    pub fn points(
        &mut self,
        symbol: &str,
        field: &str,
        points: &[Measured],
        (axis, dimension): (&str, Dimension),
    ) -> Result<(), ComputeError> {
        if points.len() > MOST_POINTS {
            return Err(ComputeError::quantity(field, format!("{field}: at most {MOST_POINTS} points")));
        }
        let amounts: Vec<_> = points.iter().map(|m| m.amount(field, dimension)).collect::<Result<_, _>>()?;
        self.put_series(symbol, axis, points, &amounts, |_| symbol.to_owned());
        Ok(())
    }

    fn put_series(
        &mut self,
        symbol: &str,
        axis: &str,
        typed: &[Measured],
        amounts: &[Amount],
        source: impl Fn(usize) -> String,
    ) {
        let unit = amounts.first().map_or_else(Unit::one, |a| a.unit.clone());
        let repeats = Repeats { axis: axis.into(), most: typed.len(), rough: 0 };
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit, repeats: Some(repeats) });
        let given = typed.iter().zip(amounts).enumerate();
        self.inputs.series.insert(symbol.into(), given.map(|(i, (m, a))| Some(m.given(&source(i), a))).collect());
    }

    /// A substance by its formula.
    pub fn material(
        &mut self,
        symbol: &str,
        formula: &str,
        coefficient: Option<Coefficient>,
    ) -> Result<(), ComputeError> {
        let formula = Formula::parse(formula)?;
        // Told here, where the element is known, rather than by the sheet.
        formula.molar_mass(&self.vocabulary.masses)?;
        self.vocabulary.materials.push(Material {
            symbol: symbol.into(),
            formula: Some(formula),
            coefficient,
            concentration: None,
            purity: None,
            density: None,
            mass_concentration: None,
        });
        Ok(())
    }

    /// A definition that is a result as well.
    pub fn define(&mut self, name: &str, label: impl Into<String>, expression: impl Into<String>, unit: &str) {
        let unit = Unit::parse(unit).expect("the units of the code are units");
        self.labels.push((name.into(), label.into()));
        self.drafts.push(Draft { unit: Some(unit), ..Draft::made(name, expression) });
    }

    /// A definition on the way to others, which stands in the solution only.
    pub fn draft(&mut self, name: &str, expression: impl Into<String>) {
        self.drafts.push(Draft::made(name, expression));
    }

    /// The finished sheet, for more than its results.
    pub fn finish(self) -> Result<Solved, ComputeError> {
        let program = Program::compile(&self.drafts, &self.vocabulary)?;
        Ok(Solved { program, inputs: self.inputs, labels: self.labels })
    }

    /// Results and worked solution.
    pub fn solve(self) -> Result<Worked, ComputeError> {
        let solved = self.finish()?;
        let evaluation = solved.evaluate();
        solved.worked(&evaluation)
    }
}

/// A compiled sheet with its numbers.
#[derive(Debug)]
pub(super) struct Solved {
    pub program: Program,
    pub inputs: Inputs,
    labels: Vec<(String, String)>,
}

impl Solved {
    pub fn evaluate(&self) -> Evaluation<'_> {
        self.program.evaluate(&self.inputs)
    }

    /// All results that are one value, and the whole solution.
    pub fn worked(&self, evaluation: &Evaluation<'_>) -> Result<Worked, ComputeError> {
        let mut results = Vec::new();
        for (name, label) in &self.labels {
            match evaluation.outcome(name) {
                Some(Outcome::Value(v)) => results.push(computed(&self.program, evaluation, name, label, &v)),
                Some(Outcome::Failed(failure)) => return Err(failure.into()),
                Some(Outcome::NotYet { missing }) => {
                    return Err(ComputeError::undefined(format!("more is needed of {}", missing.join(", "))));
                }
                Some(Outcome::Series(_)) | None => {}
            }
        }
        Ok(Worked { results, lines: evaluation.all_worked() })
    }
}

/// A value of a sheet with everything that is known of it.
pub(super) fn computed(program: &Program, evaluation: &Evaluation<'_>, name: &str, label: &str, v: &Value) -> Computed {
    let unit = program.definition(name).map_or_else(Unit::one, |d| d.unit.clone());
    let u = unit.difference_from_base(v.standard_uncertainty);
    let expanded = uncertainty_figures(2.0 * u).map(|u| u.to_string());
    Computed {
        name: name.to_owned(),
        label: label.to_owned(),
        unit: unit.written().to_owned(),
        value: unit.from_base(v.value),
        text: evaluation.shown(name).unwrap_or_default(),
        standard_uncertainty: u,
        relative_uncertainty: (v.value != 0.0).then(|| v.standard_uncertainty / v.value.abs()),
        expanded_uncertainty: 2.0 * u,
        rounded: rounded_to_uncertainty(unit.from_base(v.value), 2.0 * u),
        expanded,
        apparatus_error: unit.difference_from_base(evaluation.apparatus_error(name).unwrap_or(0.0)),
        budget: v.budget.iter().map(|s| BudgetShare { source: s.source.clone(), fraction: s.fraction }).collect(),
    }
}

impl Worked {
    /// The result called `name`.
    #[must_use]
    pub fn result(&self, name: &str) -> Option<&Computed> {
        self.results.iter().find(|r| r.name == name)
    }
}
