//! Sums and classes from outside: a practical, readings and answers in; verdicts, marks and what a class says out.

use super::ComputeError;
use lab::bench::Answer;
use lab::bench::{Circumstances, Entries};
use lab::check::Verdict;
use lab::cohort::{Cohort, Member, OutlierTest, cohort};
use lab::evaluated::{Evaluated, ResultOutcome};
use lab::group::GroupOutcome;
use lab::marks::{Awarded, BenchMark, awarded, bench_marks};
use measure::Decimal;
use practical::{Allotted, Practical, School};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Most groups of one question.
const MOST_GROUPS: usize = 200;

/// Which practical: its text, or the identity of one of the built-in library.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged, deny_unknown_fields)]
pub enum PracticalSource {
    /// The text of a practical file.
    Text {
        /// The text.
        text: String,
    },
    /// One of the library.
    Library {
        /// As in `epsom-salt`.
        id: String,
    },
}

/// Readings and answers to be judged.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CheckQuestion {
    /// Of which practical.
    pub practical: PracticalSource,
    /// What the school chose; the usual choices if left out.
    #[serde(default)]
    pub school: School,
    /// Digits as typed, by slot: `V_end[2]`; in the unit that the practical reads in.
    pub readings: BTreeMap<String, String>,
    /// Answers by result.
    pub answers: BTreeMap<String, Answer>,
    /// Name of the group's assignment, if it has one.
    #[serde(default)]
    pub assignment: Option<String>,
}

/// What checking showed.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CheckAnswer {
    /// Every result recomputed from the readings.
    pub results: Vec<ResultOutcome>,
    /// Each answer judged, by result.
    pub verdicts: BTreeMap<String, Verdict>,
    /// What each answer is worth, by result.
    pub marks: BTreeMap<String, Awarded>,
    /// Marks for the work at the bench, where the practical gives any.
    pub bench_marks: Vec<BenchMark>,
}

/// The groups of a class.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CohortQuestion {
    /// Of which practical.
    pub practical: PracticalSource,
    /// What the school chose; the usual choices if left out.
    #[serde(default)]
    pub school: School,
    /// Groups in bench order.
    pub groups: Vec<CohortGroup>,
    /// Which test says that a value does not belong.
    #[serde(default)]
    pub test: OutlierTest,
}

/// One group of a class.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CohortGroup {
    /// What it is called.
    pub name: String,
    /// Digits as typed, by slot.
    pub readings: BTreeMap<String, String>,
    /// Answers by result.
    #[serde(default)]
    pub answers: BTreeMap<String, Answer>,
    /// Named instruments that readings were taken on, by slot: `Balance 2`.
    #[serde(default)]
    pub instruments: BTreeMap<String, String>,
    /// Bottles by material.
    #[serde(default)]
    pub bottles: BTreeMap<String, String>,
    /// The lesson.
    #[serde(default)]
    pub visit: Option<String>,
    /// The bench that it stands at: `bench B`.
    #[serde(default)]
    pub bench: Option<String>,
    /// Name of its assignment.
    #[serde(default)]
    pub assignment: Option<String>,
}

impl PracticalSource {
    /// The text, where the library knows the identity.
    pub(super) fn resolve(&mut self, library: &dyn Fn(&str) -> Option<String>) {
        if let PracticalSource::Library { id } = self
            && let Some(text) = library(id)
        {
            *self = PracticalSource::Text { text };
        }
    }

    /// The text of the file.
    pub(super) fn text(&self) -> Result<&str, ComputeError> {
        match self {
            PracticalSource::Text { text } => Ok(text),
            PracticalSource::Library { id } => {
                let id: String = id.chars().take(60).collect();
                Err(ComputeError::undefined(format!("the library has no practical '{id}'")))
            }
        }
    }

    pub(super) fn read(&self, assignment: Option<&str>, school: &School) -> Result<Practical, ComputeError> {
        let text = self.text()?;
        let practical =
            Practical::parse_in(text, school).map_err(|e| ComputeError::Sheet { message: e.to_string() })?;
        match assignment {
            Some(name) if practical.assignment(name).is_none() => {
                let name: String = name.chars().take(60).collect();
                Err(ComputeError::undefined(format!("the practical has no assignment '{name}'")))
            }
            Some(name) => Ok(practical.allotted(&Allotted { assignment: Some(name.to_owned()), unknown: None })),
            None => Ok(practical),
        }
    }
}

/// Readings and answers put on a bench.
fn entries(
    practical: &Practical,
    readings: &BTreeMap<String, String>,
    answers: &BTreeMap<String, Answer>,
) -> Result<Entries, ComputeError> {
    for (slot, text) in readings {
        let field = || format!("readings.{}", slot.chars().take(60).collect::<String>());
        practical.reading(slot).ok_or_else(|| ComputeError::quantity(field(), "the practical has no such reading"))?;
        Decimal::parse(text).map_err(|e| ComputeError::quantity(field(), e.to_string()))?;
    }
    if let Some(name) = answers.keys().find(|n| practical.result(n).is_none()) {
        let field = format!("answers.{}", name.chars().take(60).collect::<String>());
        return Err(ComputeError::quantity(field, "the practical has no such result"));
    }
    Ok(Entries { readings: readings.clone(), answers: answers.clone(), ..Entries::default() })
}

pub(super) fn checked(question: &CheckQuestion) -> Result<CheckAnswer, ComputeError> {
    let practical = question.practical.read(question.assignment.as_deref(), &question.school)?;
    let entries = entries(&practical, &question.readings, &question.answers)?;
    let outcome = Evaluated::of(&practical, &entries).outcome();
    let bench_marks = bench_marks(&practical, &entries, &outcome);
    let GroupOutcome { results, verdicts, .. } = outcome;
    let marks = awarded(&practical, &verdicts);
    Ok(CheckAnswer { results, verdicts, marks, bench_marks })
}

pub(super) fn of_class(question: &CohortQuestion) -> Result<Cohort, ComputeError> {
    if question.groups.len() > MOST_GROUPS {
        return Err(ComputeError::impossible(format!("a class has at most {MOST_GROUPS} groups")));
    }
    let plain = question.practical.read(None, &question.school)?;
    let mut benches = Vec::new();
    for group in &question.groups {
        let practical = question.practical.read(group.assignment.as_deref(), &question.school)?;
        let mut entries = entries(&practical, &group.readings, &group.answers)?;
        for (slot, name) in &group.instruments {
            let reading = practical.reading(slot).ok_or_else(|| {
                ComputeError::quantity(
                    "instruments",
                    format!("no reading '{}'", slot.chars().take(60).collect::<String>()),
                )
            })?;
            let on = measure::Instrument { name: name.clone(), ..reading.instrument.clone() };
            entries.circumstances.insert(slot.clone(), Circumstances { on: Some(on), ..Circumstances::default() });
        }
        entries.bottles = group.bottles.clone();
        let outcome = Evaluated::of(&practical, &entries).outcome();
        benches.push((group, practical, entries, outcome));
    }
    let members: Vec<Member<'_>> = benches
        .iter()
        .map(|(group, practical, entries, outcome)| Member {
            name: &group.name,
            practical,
            entries,
            outcome,
            visit: group.visit.as_deref(),
            bench: group.bench.as_deref(),
        })
        .collect();
    Ok(cohort(&plain, &members, question.test))
}
