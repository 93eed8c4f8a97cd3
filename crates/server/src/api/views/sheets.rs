//! Sheets of answers: of a group, or of each of its students, with verdicts, marks, reviews and what was given back.

use crate::api::views::{GroupAtWork, name_of};
use crate::app::App;
use crate::problem::ApiError;
use lab::bench::Answer;
use lab::bench::{Entered, Room, answer_place};
use lab::check::Verdict;
use lab::evaluated::ResultOutcome;
use lab::marks::{Awarded, BenchMark, awarded, bench_marks};
use lab::sheets::{Given, Review, Ruling, Sheet, stale};
use practical::Practical;
use serde::Serialize;
use std::collections::BTreeMap;
use store::{Reviewed, Run, RunStatement};
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

/// All reviews and releases of a run, newest last.
pub struct Reviews(Vec<Reviewed>);

impl Reviews {
    /// Those of a run.
    pub fn of(app: &App, run: i64) -> Result<Reviews, ApiError> {
        Ok(Reviews(app.store.reviews(run)?))
    }

    /// What was given back last of a sheet, and when, in ms.
    pub fn given(&self, group: i64, person: Option<i64>) -> Option<(i64, &Given)> {
        self.0.iter().rev().filter(|r| r.group == group).find_map(|r| {
            let RunStatement::Released(release) = &r.what else { return None };
            (release.person == person).then_some((r.at, &release.told))
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
            let Some(ruling) = review.ruling else {
                out.remove(&review.result);
                continue;
            };
            let view = ReviewView {
                ruling,
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
    bench: &GroupAtWork,
    room: &Room,
    reviews: &Reviews,
) -> Result<Vec<SheetView>, ApiError> {
    let GroupAtWork { row, practical, entries } = bench;
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
        let reviewed = standing(&said);
        let holds = |result: &String, m: &Awarded| Review::marks(reviewed.get(result), practical, result, m);
        let given = marks.iter().map(|(result, m)| (result.clone(), holds(result, m)));
        let mut sheet = SheetView {
            key: sheet_key(row.group, person),
            group: row.group,
            name: sheet_name(app, &row.name, person)?,
            person,
            given: given.collect(),
            bench_marks: at_the_bench.clone(),
            stale: stale(practical, &record, room, person),
            answers,
            verdicts,
            marks,
            reviews: said,
            results: row.outcome.results.clone(),
            released_at: None,
            changed_since: false,
        };
        if let Some((at, before)) = reviews.given(row.group, person) {
            sheet.released_at = Some(at);
            sheet.changed_since = sheet.with_sheet(practical, |sheet| sheet.has_changed_since(before));
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

impl SheetView {
    /// As it is given back, with the recomputed values or without.
    pub fn given(&self, practical: &Practical, with_values: bool) -> Given {
        self.with_sheet(practical, |sheet| sheet.given(with_values))
    }

    /// What the sheet comes to, by the reviews of the answers that stand.
    fn with_sheet<T>(&self, practical: &Practical, look: impl FnOnce(Sheet<'_>) -> T) -> T {
        let typed = |a: &Entered| Answer { text: a.text.clone(), unit: a.unit.clone() };
        let answers = self.answers.iter().map(|(result, a)| (result.clone(), typed(a))).collect();
        look(Sheet {
            practical,
            answers: &answers,
            verdicts: &self.verdicts,
            marks: &self.given,
            reviews: &standing(&self.reviews),
            results: &self.results,
            bench_marks: &self.bench_marks,
        })
    }
}

/// Reviews of the answers that stand now, as the rules of sheets know them.
fn standing(reviews: &BTreeMap<String, ReviewView>) -> BTreeMap<String, Review> {
    let plain = |r: &ReviewView| Review { ruling: r.ruling, marks: r.marks.clone(), comment: r.comment.clone() };
    reviews.iter().filter(|(_, r)| r.current).map(|(result, r)| (result.clone(), plain(r))).collect()
}

/// Marks as they are written: to the hundredth, and no zeros that say nothing.
pub fn marks_shown(marks: f64) -> String {
    let hundredths = (100.0 * marks).round() / 100.0;
    hundredths.to_string()
}
