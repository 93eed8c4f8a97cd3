//! Sheets of answers: of a group, or of each of its students, with verdicts, marks, reviews and what was given back.

use crate::api::board::BenchNow;
use crate::api::people::name_of;
use crate::app::App;
use crate::problem::ApiError;
use lab::bench::{Entered, Entries, Record, Room, answer_place};
use lab::check::{
    Awarded, BenchFound, BenchMark, DigitsVerdict, Slip, UnitVerdict, ValueVerdict, Verdict, awarded, bench_marks,
};
use lab::group::{ResultOutcome, ResultState, recompute};
use lab::practical::Practical;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{Release, Reviewed, Ruling, Run, RunStatement};
use utoipa::ToSchema;

/// One sheet of answers.
#[derive(Debug, Serialize, ToSchema)]
pub struct SheetView {
    /// Unlike any other of the run: `3`, or `3.12` for a student.
    pub key: String,
    /// The group.
    pub group: i64,
    /// Its name, and the student's where each has a sheet.
    pub name: String,
    /// The student, by number.
    pub person: Option<i64>,
    /// Answers by result.
    pub answers: BTreeMap<String, Entered>,
    /// Each judged.
    pub verdicts: BTreeMap<String, Verdict>,
    /// Marks worked out.
    pub marks: BTreeMap<String, Awarded>,
    /// Marks as they hold: worked out, or as an instructor has set them.
    pub given: BTreeMap<String, f64>,
    /// Marks for the group's work at the bench; the page has them with everybody who could answer.
    #[serde(skip)]
    pub bench_marks: Vec<BenchMark>,
    /// What instructors said, by result.
    pub reviews: BTreeMap<String, ReviewView>,
    /// Verdicts as they were before a reading was corrected that the answer hangs on, by result.
    pub stale: BTreeMap<String, Verdict>,
    /// Every result recomputed.
    pub results: Vec<ResultOutcome>,
    /// When it was given back last, ms.
    pub released_at: Option<i64>,
    /// What would be told now is not what was told then.
    pub changed_since: bool,
}

/// What an instructor said of an answer.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReviewView {
    /// What holds.
    #[schema(value_type = String)]
    pub ruling: Ruling,
    /// Marks set by hand.
    pub marks: Option<String>,
    /// For the group to read.
    pub comment: String,
    /// Who said so.
    pub by: String,
    /// When, ms.
    pub at: i64,
    /// Whether it is of the answer that stands now.
    pub current: bool,
}

/// A sheet as it is given back.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct Told {
    /// By result.
    pub answers: BTreeMap<String, GivenBack>,
    /// For the work at the bench.
    pub bench_marks: Vec<BenchMark>,
}

/// One answer as it is given back.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct GivenBack {
    /// The answer.
    pub answer: String,
    /// Its unit.
    pub unit: String,
    /// What holds.
    pub stands: Stands,
    /// Earlier results that it is right with.
    pub carried_from: Vec<String>,
    /// Slips that were named, the likeliest first, with what each happened to.
    pub slips: Vec<ToldSlip>,
    /// Marks given.
    pub marks: f64,
    /// Marks there were to have.
    pub most: f64,
    /// The instructor's words.
    pub comment: String,
    /// The value recomputed from the group's own readings, where values are given back.
    pub expected: Option<String>,
}

/// What holds for an answer that is given back.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Stands {
    /// Right.
    Right,
    /// Right with an earlier value of one's own.
    CarriedForward,
    /// The number is right, the unit or the digits are not.
    Written,
    /// Wrong.
    Wrong,
    /// It could not be judged.
    Open,
}

/// A slip as it is told.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct ToldSlip {
    /// Which.
    #[schema(value_type = Slip)]
    pub slip: Slip,
    /// What it happened to.
    pub at: String,
}

/// All reviews and releases of a run, newest last.
pub struct Reviews(Vec<Reviewed>);

impl Reviews {
    /// Those of a run.
    pub fn of(app: &App, run: i64) -> Result<Reviews, ApiError> {
        Ok(Reviews(app.store.reviews(run)?))
    }

    /// The last release of a sheet.
    pub fn released(&self, group: i64, person: Option<i64>) -> Option<(i64, &Release)> {
        self.0.iter().rev().find_map(|r| match &r.what {
            RunStatement::Released(release) if r.group == group && release.person == person => Some((r.at, release)),
            _ => None,
        })
    }

    fn reviews(
        &self,
        app: &App,
        group: i64,
        person: Option<i64>,
        answers: &BTreeMap<String, Entered>,
    ) -> Result<BTreeMap<String, ReviewView>, ApiError> {
        let mut out = BTreeMap::new();
        for reviewed in self.0.iter().filter(|r| r.group == group) {
            let RunStatement::Reviewed(review) = &reviewed.what else { continue };
            if review.person != person {
                continue;
            }
            let view = ReviewView {
                ruling: review.ruling,
                marks: review.marks.clone(),
                comment: review.comment.clone(),
                by: name_of(app, reviewed.actor)?,
                at: reviewed.at,
                current: answers.get(&review.result).is_some_and(|a| a.id == review.answer.to_string()),
            };
            out.insert(review.result.clone(), view);
        }
        Ok(out)
    }
}

/// The sheets of one group: its own, or one for each student who has answered.
pub fn sheets(
    app: &App,
    run: &Run,
    bench: &BenchNow,
    room: &Room,
    reviews: &Reviews,
) -> Result<Vec<SheetView>, ApiError> {
    let BenchNow { row, practical, entries } = bench;
    let at_the_bench = bench_marks(practical, entries, &row.outcome);
    let record = app.store.bench(run.id, row.group)?;
    let mut people: Vec<Option<i64>> = row.answers.keys().map(|slot| answer_place(slot).1).collect();
    people.sort_unstable();
    people.dedup();
    let of = |person: Option<i64>| {
        let answers: BTreeMap<String, Entered> = row
            .answers
            .iter()
            .filter(|(slot, _)| answer_place(slot).1 == person)
            .map(|(slot, entered)| (answer_place(slot).0.to_owned(), entered.clone()))
            .collect();
        let verdicts = match person {
            None => row.outcome.verdicts.clone(),
            Some(p) => row.outcome.own_verdicts.get(&p).cloned().unwrap_or_default(),
        };
        let marks = awarded(practical, &verdicts);
        let said = reviews.reviews(app, row.group, person, &answers)?;
        let given = marks.iter().map(|(result, m)| (result.clone(), holds(practical, result, m, said.get(result))));
        let mut sheet = SheetView {
            key: sheet_key(row.group, person),
            group: row.group,
            name: sheet_name(app, &row.name, person)?,
            person,
            given: given.collect(),
            bench_marks: at_the_bench.clone(),
            stale: stale(practical, &record, room, person, &answers),
            answers,
            verdicts,
            marks,
            reviews: said,
            results: row.outcome.results.clone(),
            released_at: None,
            changed_since: false,
        };
        if let Some((at, release)) = reviews.released(row.group, person) {
            sheet.released_at = Some(at);
            sheet.changed_since = has_changed(practical, &sheet, release);
        }
        Ok(sheet)
    };
    people.into_iter().map(of).collect()
}

/// What a sheet is called in addresses.
pub fn sheet_key(group: i64, person: Option<i64>) -> String {
    person.map_or_else(|| group.to_string(), |p| format!("{group}.{p}"))
}

/// What a sheet is called in words.
pub fn sheet_name(app: &App, group: &str, person: Option<i64>) -> Result<String, ApiError> {
    Ok(match person {
        Some(p) => format!("{group} · {}", app.store.person(p)?.name),
        None => group.to_owned(),
    })
}

/// Marks as they hold.
fn holds(practical: &Practical, result: &str, marks: &Awarded, review: Option<&ReviewView>) -> f64 {
    let most = practical.result(result).map(|r| r.marks).unwrap_or_default();
    let Some(review) = review.filter(|r| r.current) else { return marks.total() };
    let by_hand = review.marks.as_deref().and_then(|m| measure::Decimal::parse(m).ok());
    match (by_hand, review.ruling) {
        (Some(marks), _) => marks.to_f64(),
        (None, Ruling::AsJudged) => marks.total(),
        (None, Ruling::Right) => most.method + most.value + marks.unit + marks.digits,
        (None, Ruling::Wrong) => 0.0,
    }
}

/// Answers given before a reading was corrected that they hang on, with the verdict of that time.
fn stale(
    practical: &Practical,
    record: &Record,
    room: &Room,
    person: Option<i64>,
    answers: &BTreeMap<String, Entered>,
) -> BTreeMap<String, Verdict> {
    let mut out = BTreeMap::new();
    let now = record.current(room);
    for (result, answer) in answers {
        let Some(seq) = record.filed().iter().find(|f| f.id.to_string() == answer.id).map(|f| f.seq) else { continue };
        let Some(definition) = practical.program.definition(result) else { continue };
        let needs = practical.program.readings_of(definition);
        let then = record.as_of(seq, room);
        let changed = |entries: &Entries| -> Vec<Option<String>> {
            let slots = practical.slots();
            let used = slots.iter().filter(|s| s.reading.sheet_names().iter().any(|n| needs.contains(&n.as_str())));
            used.map(|s| entries.readings.get(&s.symbol).cloned()).collect()
        };
        let (before, after) = (changed(&then), changed(&now));
        let corrected = before.iter().zip(&after).any(|(b, a)| b.is_some() && b != a);
        if corrected {
            let outcome = recompute(practical, &then);
            let verdicts = match person {
                None => &outcome.verdicts,
                Some(p) => outcome.own_verdicts.get(&p).unwrap_or(&outcome.verdicts),
            };
            out.extend(verdicts.get(result).map(|v| (result.clone(), v.clone())));
        }
    }
    out
}

/// A sheet as it is given back.
pub fn told(practical: &Practical, sheet: &SheetView, with_values: bool) -> Told {
    let of = |(result, verdict): (&String, &Verdict)| {
        let answer = sheet.answers.get(result)?;
        let spec = practical.result(result)?;
        let review = sheet.reviews.get(result).filter(|r| r.current);
        let most = spec.marks;
        let shown = sheet.results.iter().find(|r| r.name == *result).and_then(|r| match &r.state {
            ResultState::Value(v) if v.unit == "1" => Some(v.text.clone()),
            ResultState::Value(v) => Some(format!("{} {}", v.text, v.unit)),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        });
        let model = Some(spec.model.clone()).filter(|m| !m.is_empty());
        let stands = stands(verdict, review.map(|r| r.ruling));
        let slips = verdict.diagnosis.named.iter().map(|e| ToldSlip { slip: e.slip, at: e.at.clone() });
        let written = verdict.slips().into_iter().skip(verdict.diagnosis.named.len());
        let slips: Vec<ToldSlip> = slips.chain(written.map(|slip| ToldSlip { slip, at: result.clone() })).collect();
        let told = GivenBack {
            answer: answer.text.clone(),
            unit: answer.unit.clone(),
            carried_from: match &verdict.value {
                ValueVerdict::CarriedForward { origins } => origins.clone(),
                _ => Vec::new(),
            },
            slips: if stands == Stands::Right { Vec::new() } else { slips },
            stands,
            marks: sheet.given.get(result).copied().unwrap_or_default(),
            most: most.method + most.value + most.unit + most.digits,
            comment: review.map(|r| r.comment.clone()).unwrap_or_default(),
            expected: shown.or(model).filter(|_| with_values),
        };
        Some((result.clone(), told))
    };
    let bench_marks = sheet.bench_marks.iter().map(|m| match &m.found {
        // How far off it is would tell the accepted value.
        BenchFound::Closeness { result, .. } if !with_values => {
            BenchMark { found: BenchFound::Closeness { result: result.clone(), off_percent: None }, ..m.clone() }
        }
        _ => m.clone(),
    });
    Told { answers: sheet.verdicts.iter().filter_map(of).collect(), bench_marks: bench_marks.collect() }
}

fn stands(verdict: &Verdict, ruling: Option<Ruling>) -> Stands {
    match ruling {
        Some(Ruling::Right) => return Stands::Right,
        Some(Ruling::Wrong) => return Stands::Wrong,
        Some(Ruling::AsJudged) | None => {}
    }
    let written = verdict.unit != UnitVerdict::Right
        || matches!(verdict.digits, DigitsVerdict::TooMany { .. } | DigitsVerdict::TooFew { .. });
    match &verdict.value {
        ValueVerdict::Right if written => Stands::Written,
        ValueVerdict::Right => Stands::Right,
        ValueVerdict::CarriedForward { .. } => Stands::CarriedForward,
        ValueVerdict::Wrong | ValueVerdict::NotReduced { .. } => Stands::Wrong,
        ValueVerdict::TooFewDigits
        | ValueVerdict::NotYet { .. }
        | ValueVerdict::NoValue { .. }
        | ValueVerdict::ToRead => Stands::Open,
    }
}

/// What was told of a sheet, as it stands in the record.
pub fn as_told(release: &Release) -> Told {
    serde_json::from_value(release.told.clone()).unwrap_or_default()
}

fn has_changed(practical: &Practical, sheet: &SheetView, release: &Release) -> bool {
    let before = as_told(release);
    let with_values = before.answers.values().any(|t| t.expected.is_some());
    told(practical, sheet, with_values) != before
}

/// Marks as they are written: to the hundredth, and no zeros that say nothing.
pub fn marks_shown(marks: f64) -> String {
    let hundredths = (100.0 * marks).round() / 100.0;
    hundredths.to_string()
}
