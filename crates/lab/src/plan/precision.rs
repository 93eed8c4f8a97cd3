//! How good the results will be with these instruments, which readings decide, and how small the work may be.
//!
//! The smallest scale: every amount taken times the same factor, containers and initial readings staying as they are,
//! until the expanded uncertainty (k = 2) of the result reaches what is wanted.

use super::{Consequence, Decisive, Note, Setting, figures};
use crate::evaluated::{BudgetShare, ResultState, result_outcome};
use measure::Source;
use practical::file::ReadingKind;
use practical::{Key, Practical, Reading, ResultSpec};
use sheet::Inputs;

/// A step of the instrument above this part of the value is coarse.
const COARSE: f64 = 0.01;

impl Setting<'_> {
    pub(super) fn precision(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        let mut budgets = Vec::new();
        for (i, result) in practical.results.iter().enumerate() {
            let beside: Vec<Key> = vec!["results".into(), i.into()];
            let ResultState::Value(v) = result_outcome(practical, &self.evaluation, &result.name).state else {
                continue;
            };
            let formula = practical.program.definition(&result.name).is_some_and(|d| practical.program.is_formula(d));
            if v.value == 0.0 || formula || v.uncertainty == 0.0 {
                continue;
            }
            let part = v.uncertainty / v.value.abs();
            // Of a difference that is planned to be nothing, a part says nothing.
            if part > 10.0 {
                continue;
            }
            let percent = figures(100.0 * part, 2);
            let what = Consequence::Precision { result: result.label.clone(), percent };
            let misses = result.wanted.is_some_and(|w| part > w);
            notes.push(Note { beside: beside.clone(), warns: misses, what });
            if let Some(what) = self.smallest_scale(result) {
                notes.push(Note { beside: beside.clone(), warns: false, what });
            }
            if result.asked {
                let what = Consequence::Critical { result: result.label.clone(), readings: self.decisive(&v.budget) };
                notes.push(Note { beside, warns: false, what });
                budgets.extend(v.budget);
            }
        }
        self.rough(&budgets, notes);
        self.coarse(notes);
    }

    /// The sources that make up at least a tenth of the variance, most first; trials of one reading are one source.
    fn decisive(&self, budget: &[BudgetShare]) -> Vec<Decisive> {
        let mut by_label: Vec<(String, f64)> = Vec::new();
        for share in budget {
            let label = source_words(self.practical, &share.source);
            match by_label.iter_mut().find(|(l, _)| *l == label) {
                Some((_, fraction)) => *fraction += share.fraction,
                None => by_label.push((label, share.fraction)),
            }
        }
        by_label.sort_by(|a, b| b.1.total_cmp(&a.1));
        let decide = by_label.into_iter().filter(|(_, fraction)| *fraction >= 0.1);
        decide.map(|(label, fraction)| Decisive { label, percent: format!("{:.0}", fraction * 100.0) }).collect()
    }

    /// Readings that no asked result hangs on to speak of.
    fn rough(&self, budgets: &[BudgetShare], notes: &mut Vec<Note>) {
        if budgets.is_empty() {
            return;
        }
        let matters = |symbol: &str| {
            let own = |s: &&BudgetShare| matches!(&s.source, Source::Reading(r) if without_trial(r) == symbol);
            budgets.iter().filter(own).any(|s| s.fraction >= 0.01)
        };
        let numbers = |r: &&Reading| matches!(r.kind, ReadingKind::Number | ReadingKind::Count);
        let rough = self
            .practical
            .readings
            .iter()
            .filter(numbers)
            .filter(|r| !matters(&r.symbol) && !r.instrument.is_nominal());
        let readings: Vec<String> = rough.map(|r| r.label.clone()).collect();
        if !readings.is_empty() {
            let what = Consequence::RoughWillDo { readings };
            notes.push(Note { beside: vec!["readings".into()], warns: false, what });
        }
    }

    /// Half a step of the instrument, twice for a difference, against what is measured.
    fn coarse(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        let used: Vec<&str> =
            practical.program.definitions().iter().flat_map(|d| practical.program.readings_of(d)).collect();
        for (i, r) in practical.readings.iter().enumerate().filter(|(_, r)| used.contains(&r.symbol.as_str())) {
            let pair = practical.differences.iter().find(|(big, _)| *big == r.symbol);
            // A blank is a part of what it is taken off, however coarse beside itself.
            if practical.is_a_blank(r) || practical.differences.iter().any(|(_, small)| *small == r.symbol) {
                continue;
            }
            let (Some(value), steps) = (match pair {
                Some((big, small)) => (self.reading(big).zip(self.reading(small)).map(|(b, s)| b - s), 2.0),
                None => (self.reading(&r.symbol), if r.tared { 2.0 } else { 1.0 }),
            }) else {
                continue;
            };
            let half = if r.instrument.is_nominal() { r.instrument.tolerance } else { r.instrument.resolution / 2.0 };
            let part = steps * r.unit.difference_to_base(half) / value.abs();
            if part >= COARSE && part.is_finite() {
                let what = Consequence::Coarse {
                    reading: r.label.clone(),
                    instrument: r.instrument.name.clone(),
                    percent: figures(100.0 * part, 2),
                };
                notes.push(Note { beside: vec!["readings".into(), i.into()], warns: true, what });
            }
        }
    }

    /// The planned value of a reading, in base units; of a repeated one its last.
    fn reading(&self, symbol: &str) -> Option<f64> {
        let single = self.inputs.readings.get(symbol).map(|g| g.value);
        single.or_else(|| self.inputs.series.get(symbol)?.iter().flatten().last().map(|g| g.value))
    }

    fn smallest_scale(&self, result: &ResultSpec) -> Option<Consequence> {
        let wanted = result.wanted?;
        let at = |scale: f64| Some(self.uncertainty(&result.name, &self.scaled(scale))?.1);
        // Where half of everything gives neither the same nor half the result, something is no amount: then nothing is said.
        let (full, half) =
            (self.uncertainty(&result.name, self.inputs)?.0, self.uncertainty(&result.name, &self.scaled(0.5))?.0);
        if ![1.0, 0.5].iter().any(|f| (half / full - f).abs() < 0.02) {
            return None;
        }
        let (mut low, mut high) = (1e-3, 20.0);
        if at(high)? > wanted {
            return None;
        }
        // The uncertainty falls as the scale rises.
        for _ in 0..50 {
            let middle = f64::sqrt(low * high);
            if at(middle).is_some_and(|u| u <= wanted) { high = middle } else { low = middle }
        }
        let reagent = self.practical.materials.iter().find(|m| m.role.counts() && m.planned.is_some())?;
        let planned = reagent.planned.as_ref()?;
        Some(Consequence::SmallestScale {
            result: result.label.clone(),
            wanted: figures(100.0 * wanted, 2),
            scale: figures(100.0 * high, 2),
            example: format!("{} of {}", super::in_unit_of(planned, planned.base() * high), reagent.name),
            reached: high <= 1.0,
        })
    }

    /// Value of a result, and its relative expanded uncertainty.
    fn uncertainty(&self, name: &str, inputs: &Inputs) -> Option<(f64, f64)> {
        let v = self.practical.program.evaluate(inputs).value(name).filter(|v| v.value != 0.0)?;
        Some((v.value, 2.0 * v.standard_uncertainty / v.value.abs()))
    }

    /// The planned readings with every amount taken `scale` times; the uncertainties of the instruments stay.
    fn scaled(&self, scale: f64) -> Inputs {
        let mut inputs = self.inputs.clone();
        let pairs = &self.practical.differences;
        for reading in &self.practical.readings {
            let base = pairs.iter().find(|(big, _)| *big == reading.symbol).map(|(_, small)| small);
            let fixed = pairs.iter().any(|(_, small)| *small == reading.symbol);
            if fixed || !extensive(reading) {
                continue;
            }
            if let Some(given) = inputs.readings.get_mut(&reading.symbol) {
                let zero = base.and_then(|b| self.inputs.readings.get(b)).map_or(0.0, |g| g.value);
                given.value = zero + scale * (given.value - zero);
            }
            if let Some(series) = inputs.series.get_mut(&reading.symbol) {
                for (t, given) in series.iter_mut().enumerate() {
                    let own = base.and_then(|b| self.inputs.series.get(b)?.get(t)?.as_ref());
                    let once = base.and_then(|b| self.inputs.readings.get(b));
                    let zero = own.or(once).map_or(0.0, |g| g.value);
                    if let Some(given) = given {
                        given.value = zero + scale * (given.value - zero);
                    }
                }
            }
        }
        inputs
    }
}

fn extensive(reading: &Reading) -> bool {
    use measure::Dimension as D;
    matches!(reading.unit.dimension(), D::MASS | D::VOLUME)
}

fn without_trial(symbol: &str) -> &str {
    symbol.split_once('[').map_or(symbol, |(s, _)| s)
}

fn source_words(practical: &Practical, source: &Source) -> String {
    match source {
        Source::Reading(symbol) => practical.reading(symbol).map_or_else(|| symbol.clone(), |r| r.label.clone()),
        Source::Calibration(name) => format!("tolerance of {name}"),
        Source::EndPoint(_) => "where the end point is seen".to_owned(),
        Source::Stated(what) => what
            .split_once(" of ")
            .and_then(|(property, m)| Some(format!("{property} of the {}", practical.material(m)?.name)))
            .unwrap_or_else(|| what.clone()),
        Source::AtomicMass(symbol) => format!("atomic mass of {symbol}"),
        Source::Scatter { what, .. } => {
            let label = practical.reading(what).map(|r| &r.label).or_else(|| practical.labels.get(what));
            format!("scatter of the {} about the line", label.unwrap_or(what))
        }
    }
}
