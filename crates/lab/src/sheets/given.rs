//! A sheet as it is given back.

use super::{Review, Ruling};
use crate::bench::Answer;
use crate::check::{Stands, ValueVerdict, Verdict};
use crate::evaluated::{ResultOutcome, ResultState};
use crate::marks::{BenchFound, BenchMark};
use practical::slip::Slip;
use practical::{Practical, ResultSpec, ShownUncertainty};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A sheet as it was given back.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct Given {
    /// By result.
    pub answers: BTreeMap<String, GivenAnswer>,
    /// For the work at the bench.
    pub bench_marks: Vec<BenchMark>,
}

/// One answer as it is given back.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = GivenBack))]
pub struct GivenAnswer {
    /// The answer.
    pub answer: String,
    /// Its unit.
    pub unit: String,
    /// What holds.
    pub stands: Stands,
    /// Earlier results that it is right with.
    pub carried_from: Vec<String>,
    /// Slips that were named, the likeliest first, with what each happened to.
    pub slips: Vec<GivenSlip>,
    /// Marks given.
    pub marks: f64,
    /// Marks there were to have.
    pub most: f64,
    /// The instructor's words.
    pub comment: String,
    /// The value recomputed from the group's own readings, where values are given back.
    pub expected: Option<String>,
    /// How sure that is, as the school shows it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sure: Option<Sure>,
}

/// How sure a value is, as a school shows it to its students.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Sure {
    /// Half a division of everything read, added up.
    Apparatus {
        /// In % of the value.
        percent: String,
    },
    /// Expanded uncertainty, k = 2.
    Expanded {
        /// With the unit of the value.
        text: String,
    },
}

/// A slip as it is told.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ToldSlip))]
pub struct GivenSlip {
    /// Which.
    pub slip: Slip,
    /// What it happened to, in words; never what was used instead.
    pub at: String,
}

/// A sheet as it stands, to be given back.
#[derive(Debug, Clone, Copy)]
pub struct Sheet<'a> {
    /// The practical as its group works it.
    pub practical: &'a Practical,
    /// Answers by result.
    pub answers: &'a BTreeMap<String, Answer>,
    /// Each judged.
    pub verdicts: &'a BTreeMap<String, Verdict>,
    /// Marks as they hold.
    pub marks: &'a BTreeMap<String, f64>,
    /// What was said of the answers that stand.
    pub reviews: &'a BTreeMap<String, Review>,
    /// Every result recomputed.
    pub results: &'a [ResultOutcome],
    /// Marks for the work at the bench.
    pub bench_marks: &'a [BenchMark],
}

impl Sheet<'_> {
    /// As it is given back, with the recomputed values or without.
    #[must_use]
    pub fn given(&self, with_values: bool) -> Given {
        let of = |(result, verdict): (&String, &Verdict)| {
            let (answer, spec) = (self.answers.get(result)?, self.practical.result(result)?);
            Some((result.clone(), self.answer(answer, spec, verdict, with_values)))
        };
        let bench_marks = self.bench_marks.iter().map(|m| match &m.found {
            // How far off it is would tell the accepted value.
            BenchFound::Closeness { result, .. } if !with_values => {
                BenchMark { found: BenchFound::Closeness { result: result.clone(), off_percent: None }, ..m.clone() }
            }
            BenchFound::Closeness { .. } | BenchFound::Recording { .. } | BenchFound::Agreement { .. } => m.clone(),
        });
        Given { answers: self.verdicts.iter().filter_map(of).collect(), bench_marks: bench_marks.collect() }
    }

    /// Whether it would be given back otherwise than it was.
    #[must_use]
    pub fn has_changed_since(&self, before: &Given) -> bool {
        let with_values = before.answers.values().any(|a| a.expected.is_some());
        // How sure a value is was not given back by earlier versions of the program, and changes no mark.
        let without = |given: &Given| {
            let mut given = given.clone();
            given.answers.values_mut().for_each(|a| a.sure = None);
            given
        };
        without(&self.given(with_values)) != without(before)
    }

    fn answer(&self, answer: &Answer, spec: &ResultSpec, verdict: &Verdict, with_values: bool) -> GivenAnswer {
        let review = self.reviews.get(&spec.name);
        let stands = review.map_or(Ruling::AsJudged, |r| r.ruling).over(verdict);
        let carried_from = match &verdict.value {
            ValueVerdict::CarriedForward { origins } => origins.clone(),
            ValueVerdict::Right
            | ValueVerdict::Wrong
            | ValueVerdict::NotReduced { .. }
            | ValueVerdict::TooFewDigits
            | ValueVerdict::NotYet { .. }
            | ValueVerdict::NoValue { .. }
            | ValueVerdict::ToRead => Vec::new(),
        };
        let most = spec.marks;
        GivenAnswer {
            answer: answer.text.clone(),
            unit: answer.unit.clone(),
            stands,
            carried_from,
            slips: if stands == Stands::Right { Vec::new() } else { slips(verdict, spec) },
            marks: self.marks.get(&spec.name).copied().unwrap_or_default(),
            most: most.method + most.value + most.unit + most.digits,
            comment: review.map(|r| r.comment.clone()).unwrap_or_default(),
            expected: self.expected(spec).filter(|_| with_values),
            sure: self.sure(spec).filter(|_| with_values),
        }
    }

    /// How sure the recomputed value is, as the school shows it.
    fn sure(&self, spec: &ResultSpec) -> Option<Sure> {
        let ResultState::Value(v) = &self.results.iter().find(|r| r.name == spec.name)?.state else { return None };
        match self.practical.school.uncertainty {
            ShownUncertainty::None => None,
            ShownUncertainty::Apparatus => v.apparatus_percent.clone().map(|percent| Sure::Apparatus { percent }),
            ShownUncertainty::Expanded => {
                let unit = if v.unit == "1" { String::new() } else { format!(" {}", v.unit) };
                v.expanded.as_ref().map(|u| Sure::Expanded { text: format!("{u}{unit}") })
            }
        }
    }

    /// The recomputed value as it is written; of a reason in words, what a good one says.
    fn expected(&self, spec: &ResultSpec) -> Option<String> {
        let recomputed = self.results.iter().find(|r| r.name == spec.name).and_then(|r| match &r.state {
            ResultState::Value(v) if v.unit == "1" => Some(v.text.clone()),
            ResultState::Value(v) => Some(format!("{} {}", v.text, v.unit)),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        });
        recomputed.or_else(|| Some(spec.model.clone()).filter(|m| !m.is_empty()))
    }
}

/// Slips on the way with what each happened to, then what is wrong with how the answer is written.
fn slips(verdict: &Verdict, spec: &ResultSpec) -> Vec<GivenSlip> {
    let named = &verdict.diagnosis.named;
    let on_the_way = named.iter().map(|e| GivenSlip { slip: e.slip, at: e.at.words() });
    let written = verdict.slips().into_iter().skip(named.len());
    on_the_way.chain(written.map(|slip| GivenSlip { slip, at: spec.label.clone() })).collect()
}
