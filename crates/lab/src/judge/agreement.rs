//! Do the repeats agree? Titres within a limit, concentrations within a relative standard deviation, masses that no
//! longer change; and where the next titration should end.
//!
//! Titres are compared as exact decimals, rough ones apart; masses by the stop rule of the step. Nothing is said before
//! both readings of a repeat are there, so that a reading cannot be fitted to the verdict. Where each trial has a mass of
//! its own, the titres differ by right: the concentrations are compared, by s/mean with s of n − 1.

use super::advice::{judged, plain};
use super::{Advice, Matter, Standing, Titre, fixed, number};
use crate::Figure;
use crate::evaluated::{Evaluated, inputs};
use crate::secant::secant;
use measure::rounding::{decimal_of, figures};
use measure::{Concordance, Decimal, Source, Unit, concordance, grubbs};
use practical::file::{Judgement, Stop, TitreItem};
use practical::statistics::summary;
use practical::{Agreement, Amount, Compared, Dry, Practical, Reading, Rule};
use sheet::{Outcome, Value};
use std::collections::BTreeMap;

/// How far before the expected end to slow down, mL: twenty drops.
const SLOW_BEFORE_ML: f64 = 1.0;
/// So many times the limit for constant mass is no scatter of a balance.
const CLEARLY: f64 = 3.0;
/// So many titres in one direction come by chance once in twelve times; further apart than twice the limit they are no scatter.
const SEEN_TO_DRIFT: usize = 4;
/// Of so many values an outlier test says little.
const TOO_FEW_FOR_A_TEST: usize = 3;
/// Trials may scatter so many times what the instruments let expect.
const AS_EXPECTED: f64 = 2.0;

impl Evaluated<'_> {
    pub(super) fn agreements(&self, out: &mut Vec<Advice>) {
        for titre in &self.practical.file.titres {
            let agreed = self.titres(titre).or_else(|| self.trials(titre));
            // After titres that agree nobody is sent back to the burette.
            let more = agreed.as_ref().is_none_or(|a| a.standing != Standing::Settled);
            out.extend(agreed);
            out.extend(self.next_titre(titre).filter(|_| more));
        }
        for (i, step) in self.practical.steps.iter().enumerate() {
            let Some(Stop::ConstantMass { within }) = &step.stop else { continue };
            let Some(reading) = self.practical.weighed_until_constant(step) else { continue };
            out.extend(self.mass(number(i), within, &reading.symbol));
        }
    }

    /// The volume delivered in a trial: both readings, or it is none yet.
    fn delivered(&self, titre: &TitreItem, trial: usize) -> Option<Decimal> {
        volume_between(&self.readings, titre, &format!("[{}]", trial + 1))
    }

    /// The titres delivered, by trial from 0.
    fn all_delivered(&self, titre: &TitreItem) -> Option<Vec<(usize, Decimal)>> {
        let most = self.practical.reading(&titre.end)?.repeats.as_ref()?.most;
        Some((0..most).filter_map(|t| Some((t, self.delivered(titre, t)?))).collect())
    }

    /// The best set within the limit, and whether it is large enough.
    fn titres(&self, titre: &TitreItem) -> Option<Advice> {
        let agreement = self.practical.agreement(titre)?;
        let (Rule::Within(limit), Compared::Titres) = (&agreement.rule, agreement.of) else { return None };
        let wanted = number(agreement.wanted);
        let allowed = Amount::parse(limit).ok()?;
        let end = self.practical.reading(&titre.end)?;
        let step = self.step_recording(&titre.end)?;
        let rough = end.repeats.as_ref()?.rough;
        let delivered = self.all_delivered(titre)?;
        let (trials, values): (Vec<usize>, Vec<Decimal>) =
            delivered.iter().copied().filter(|(t, _)| *t >= rough).unzip();
        if values.is_empty() {
            return None;
        }
        let best = match concordance(&values, allowed.value) {
            Concordance::Agree(set) => set,
            // Which of them is right the numbers cannot say: another one decides.
            Concordance::Tied(_) | Concordance::None => Vec::new(),
        };
        let shown = delivered.iter().map(|(t, v)| Titre {
            trial: number(t + 1),
            text: v.to_string(),
            rough: *t < rough,
            agrees: best.iter().any(|i| trials[*i] == *t),
        });
        let drift = drifts(&values, allowed.value);
        let (titres, limit, agreeing) = (shown.collect(), Figure::stated(limit, &allowed), number(best.len()));
        let (standing, matter) = if agreeing >= wanted {
            let range = Figure::of(range(&values, &best)?, &end.unit);
            (Standing::Settled, Matter::TitresAgree { titres, range, limit, drift })
        } else {
            let pairs = (0..values.len()).flat_map(|a| (a + 1..values.len()).map(move |b| [a, b]));
            let nearest = pairs.filter_map(|p| range(&values, &p)).min_by(|a, b| a.compare(*b));
            let closest = range(&values, &best).filter(|_| agreeing > 1).or(nearest);
            let closest = closest.map(|c| Figure::of(c, &end.unit));
            let left = number(end.repeats.as_ref()?.most.saturating_sub(delivered.len()));
            // With no place left nobody can run one more: the instructor hears of it.
            let standing = if left == 0 { Standing::Doubtful } else { Standing::Waiting };
            (standing, Matter::OneMore { titres, closest, agreeing, wanted, limit, left, drift })
        };
        Some(judged(step, standing, Judgement::Concordance, matter))
    }

    /// All accurate trials by their relative standard deviation: titres of aliquots, or, where each trial has a mass of its
    /// own, what follows from both.
    fn trials(&self, titre: &TitreItem) -> Option<Advice> {
        let agreement = self.practical.agreement(titre)?;
        if agreement.of == Compared::Titres && matches!(agreement.rule, Rule::Within(_)) {
            return None;
        }
        let step = self.step_recording(&titre.end)?;
        let repeats = self.practical.reading(&titre.end)?.repeats.as_ref()?;
        let each: Vec<(usize, f64)> =
            self.each(titre, &agreement).into_iter().filter(|(t, _)| *t >= repeats.rough).collect();
        let values: Vec<f64> = each.iter().map(|(_, v)| *v).collect();
        let trials = number(values.len());
        if trials == 0 {
            return None;
        }
        if agreement.rule == Rule::OutlierTest {
            let left = repeats.most.saturating_sub(self.all_delivered(titre)?.len());
            return Some(after_outlier_test(step, &agreement, &each, left));
        }
        let (allowed, limit) = self.allowed(titre, &agreement)?;
        let found = rsd(&values);
        let percent = Unit::parse("%").ok()?;
        let figure = |part: f64| Figure::shown(100.0 * part, &fixed(100.0 * part, 2), &percent);
        let scattered = found.is_some_and(|r| r > allowed);
        let (of, wanted) = (agreement.of.into(), number(agreement.wanted));
        let matter = match found {
            Some(r) if values.len() >= agreement.wanted && !scattered => {
                let matter = Matter::TrialsAgree { of, trials, rsd: figure(r), limit };
                return Some(judged(step, Standing::Settled, Judgement::Concordance, matter));
            }
            found => {
                let spoiled_by = (scattered).then(|| spoiler(&each, allowed)).flatten().map(|t| number(t + 1));
                let rsd = found.map(figure);
                let left = number(repeats.most.saturating_sub(self.all_delivered(titre)?.len()));
                Matter::AnotherTrial { of, trials, wanted, rsd, scattered, spoiled_by, left, limit }
            }
        };
        // While there is a place for one more, that is what there is to do; nobody has erred yet.
        let last = matches!(matter, Matter::AnotherTrial { left: 0, .. });
        let standing = if last { Standing::Doubtful } else { Standing::Waiting };
        Some(judged(step, standing, Judgement::Concordance, matter))
    }

    /// What is compared, by trial from 0.
    fn each(&self, titre: &TitreItem, agreement: &Agreement<'_>) -> Vec<(usize, f64)> {
        match agreement.of {
            Compared::Titres => {
                let delivered = self.all_delivered(titre).unwrap_or_default();
                delivered.into_iter().map(|(t, v)| (t, v.to_f64())).collect()
            }
            Compared::Each(name) => {
                let Some(Outcome::Series(each)) = self.evaluation.outcome(name) else { return Vec::new() };
                let values = each.into_iter().enumerate().filter_map(|(t, o)| match o {
                    Outcome::Value(v) => Some((t, v.value)),
                    Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
                });
                values.collect()
            }
        }
    }

    /// The relative standard deviation that is allowed, and as it is written.
    fn allowed(&self, titre: &TitreItem, agreement: &Agreement<'_>) -> Option<(f64, Figure)> {
        let percent = Unit::parse("%").ok()?;
        match &agreement.rule {
            Rule::OutlierTest => None,
            Rule::Rsd(text) => {
                let stated = Amount::parse(text).ok()?;
                Some((stated.base(), Figure::stated(text, &stated)))
            }
            // A limit of volumes, where volumes differ by right: the same part of each.
            Rule::Within(text) => {
                let limit = Amount::parse(text).ok()?.base();
                let end = self.practical.reading(&titre.end)?;
                let delivered = self.all_delivered(titre)?;
                let litres = delivered.iter().map(|(_, v)| end.unit.to_base(v.to_f64())).sum::<f64>();
                let part = limit * delivered.len() as f64 / litres;
                (part.is_finite() && part > 0.0).then_some(())?;
                Some((part, Figure::shown(100.0 * part, &figures(100.0 * part, 2), &percent)))
            }
            Rule::AsInstrumentsAllow => {
                let part = AS_EXPECTED * self.expected_scatter(titre, agreement)?;
                Some((part, Figure::shown(100.0 * part, &figures(100.0 * part, 2), &percent)))
            }
        }
    }

    /// The relative standard deviation between trials that the instruments and the end point let expect: of what is each
    /// reading's own, not of what all trials share.
    fn expected_scatter(&self, titre: &TitreItem, agreement: &Agreement<'_>) -> Option<f64> {
        let name = match agreement.of {
            Compared::Titres => titre.name.as_str(),
            Compared::Each(name) => name,
        };
        let Some(Outcome::Series(each)) = self.evaluation.outcome(name) else { return None };
        let parts: Vec<f64> =
            each.iter().filter_map(|o| if let Outcome::Value(v) = o { own_part(v) } else { None }).collect();
        parts.into_iter().reduce(f64::max)
    }

    /// The end of the next titration, from the accurate ones so far; in proportion where each trial has a mass of its own.
    fn next_titre(&self, titre: &TitreItem) -> Option<Advice> {
        let end = self.practical.reading(&titre.end)?;
        let most = end.repeats.as_ref()?.most;
        let step = self.step_recording(&titre.end)?;
        let trial = (0..most).find(|t| self.delivered(titre, *t).is_none())?;
        let last = trial.checked_sub(1)?;
        // Nothing is foretold from a reading that is in doubt itself.
        let doubted = |symbol: &str| !self.findings_of(&format!("{symbol}[{}]", last + 1)).is_empty();
        if doubted(&titre.end) || doubted(&titre.start) {
            return None;
        }
        let about = match self.practical.agreement(titre).map(|a| a.of) {
            Some(Compared::Each(name)) => self.where_it_would_agree(name, titre, trial, last)?,
            Some(Compared::Titres) | None => self.delivered(titre, last)?.to_f64(),
        };
        let start = self.readings.get(&format!("{}[{}]", titre.start, trial + 1)).map(|d| d.to_f64());
        let capacity = end.instrument.capacity;
        if !about.is_finite() || about <= 0.0 || start.unwrap_or(0.0) + about > capacity {
            return None;
        }
        let unit = end.unit.written();
        // To the half millilitre below, as one looks at a burette in passing.
        let slow = ((start.unwrap_or(0.0) + about - SLOW_BEFORE_ML) * 2.0).floor() / 2.0;
        let matter = Matter::NextTitre {
            trial: number(trial + 1),
            about: format!("{} {unit}", fixed(about, 1)),
            slow_from: format!("{} {unit}", fixed(slow.max(0.0), 1)),
            on_scale: start.is_some(),
        };
        Some(plain(step, Standing::Waiting, matter))
    }

    /// The titre at which a trial, with a mass of its own, would come to what another one came to; by secants.
    fn where_it_would_agree(&self, name: &str, titre: &TitreItem, trial: usize, like: usize) -> Option<f64> {
        let wanted = self.of_trial(name, like)?;
        let before = self.delivered(titre, like)?.to_f64();
        let (start, end) = (format!("{}[{}]", titre.start, trial + 1), format!("{}[{}]", titre.end, trial + 1));
        let from = self.readings.get(&start).copied().unwrap_or(Decimal::new(0, -2));
        let off = |volume: f64| {
            let mut readings = self.readings.clone();
            readings.insert(start.clone(), from);
            readings.insert(end.clone(), decimal_of(from.to_f64() + volume)?);
            let inputs = inputs(self.practical, &readings);
            match self.practical.program.evaluate(&inputs).outcome(name)? {
                Outcome::Series(each) => match each.get(trial)? {
                    Outcome::Value(v) => Some(v.value - wanted),
                    Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
                },
                Outcome::Value(_) | Outcome::NotYet { .. } | Outcome::Failed(_) => None,
            }
        };
        secant(off, (before, 1.01 * before), 1e-6 * wanted.abs())
    }

    /// A reading or a definition that repeats, in one trial.
    fn of_trial(&self, name: &str, trial: usize) -> Option<f64> {
        if let Some(reading) = self.readings.get(&format!("{name}[{}]", trial + 1)) {
            return Some(reading.to_f64());
        }
        let Some(Outcome::Series(each)) = self.evaluation.outcome(name) else { return None };
        match each.get(trial)? {
            Outcome::Value(v) => Some(v.value),
            Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
        }
    }

    fn mass(&self, step: u32, within: &str, symbol: &str) -> Option<Advice> {
        let reading = self.practical.reading(symbol)?;
        let unit = &reading.unit;
        let stated = Amount::parse(within).ok()?;
        let allowed = stated.value;
        let waived = self.entries.weighed_once(symbol);
        let within = Figure::stated(within, &stated);
        let values = self.weighed_so_far(symbol)?;
        let judge = |standing, matter| Some(judged(step, standing, Judgement::Dryness, matter));
        // Heating can only drive off: what is clearly heavier than before is another matter than not dry yet.
        if !waived
            && let [.., before, last] = values[..]
            && let Some(gain) = last.minus(before).filter(|g| !g.is_negative())
            && gain.to_f64() > CLEARLY * allowed.to_f64()
        {
            let by = format!("{gain} {}", unit.written());
            return judge(Standing::Doubtful, Matter::HeavierAfterHeating { by });
        }
        let difference = match values[..] {
            [] => return None,
            [_] => None,
            [.., before, last] => {
                Some(if before.compare(last).is_lt() { last.minus(before)? } else { before.minus(last)? })
            }
        };
        match difference {
            Some(apart) if apart.compare(allowed).is_le() => {
                judge(Standing::Settled, Matter::ConstantMass { difference: Figure::of(apart, unit), within })
            }
            _ if waived => {
                let because = |d: &crate::bench::Deviation| {
                    let own = matches!(&d.what, crate::bench::Departure::WeighedOnce { reading } if reading == symbol);
                    own.then(|| d.note.clone())
                };
                let because = self.entries.deviations.iter().rev().find_map(because)?;
                judge(Standing::Doubtful, Matter::WeighedOnce { because })
            }
            _ if self.practical.school.dry == Dry::FixedTime => judge(Standing::Settled, Matter::DriedForItsTime),
            difference => {
                let difference = difference.map(|d| Figure::of(d, unit));
                judge(Standing::Waiting, Matter::OnceAgain { difference, within })
            }
        }
    }
}

impl Evaluated<'_> {
    /// What a balance showed of something, in order, up to the first place that is empty; what a place showed before it was
    /// weighed once again counts as well, so that one more is always possible.
    fn weighed_so_far(&self, symbol: &str) -> Option<Vec<Decimal>> {
        let reading = self.practical.reading(symbol)?;
        let mut shown = Vec::new();
        for slot in reading.slots() {
            let Some(last) = self.readings.get(&slot.symbol) else { break };
            let before = self.entries.circumstances.get(&slot.symbol).into_iter().flat_map(|c| &c.steps);
            shown.extend(before.filter_map(|text| Decimal::parse(text).ok()).chain([*last]));
        }
        (!shown.is_empty()).then_some(shown)
    }
}

/// Final less initial reading, of one repeat (`[2]`) or of the only one (empty).
fn volume_between(readings: &BTreeMap<String, Decimal>, titre: &TitreItem, repeat: &str) -> Option<Decimal> {
    let of = |symbol: &str| readings.get(&format!("{symbol}{repeat}")).copied();
    of(&titre.end)?.minus(of(&titre.start)?)
}

/// The volumes delivered so far, exact, by the place of their final reading: `V_end[2]`.
#[must_use]
pub fn delivered(practical: &Practical, readings: &BTreeMap<String, Decimal>) -> BTreeMap<String, String> {
    let of = |titre: &TitreItem| -> Vec<(String, String)> {
        let slots = practical.reading(&titre.end).map(Reading::slots).unwrap_or_default();
        let volume = |slot: &practical::Slot<'_>| {
            let repeat = slot.symbol.strip_prefix(&titre.end)?;
            Some((slot.symbol.clone(), volume_between(readings, titre, repeat)?.to_string()))
        };
        slots.iter().filter_map(volume).collect()
    };
    practical.file.titres.iter().flat_map(of).collect()
}

/// Whether titres, four or more, rise or fall from each to the next, by more than twice what they may differ.
fn drifts(values: &[Decimal], limit: Decimal) -> bool {
    let one_way = |way: std::cmp::Ordering| values.windows(2).all(|w| w[1].compare(w[0]) == way);
    let all: Vec<usize> = (0..values.len()).collect();
    let apart = range(values, &all).is_some_and(|r| r.to_f64() > 2.0 * limit.to_f64());
    values.len() >= SEEN_TO_DRIFT
        && apart
        && (one_way(std::cmp::Ordering::Greater) || one_way(std::cmp::Ordering::Less))
}

/// Largest less smallest of some values.
fn range(values: &[Decimal], set: &[usize]) -> Option<Decimal> {
    let of = |pick: fn(std::cmp::Ordering) -> bool| {
        set.iter().map(|i| values[*i]).reduce(|a, b| if pick(a.compare(b)) { a } else { b })
    };
    of(std::cmp::Ordering::is_gt)?.minus(of(std::cmp::Ordering::is_lt)?)
}

/// Relative standard deviation, with s of n − 1; none of fewer than two.
fn rsd(values: &[f64]) -> Option<f64> {
    let spread = summary(values).ok()?.spread?;
    spread.rsd_percent.map(|r| r.abs() / 100.0)
}

/// All accurate trials but one that Grubbs' test marks. Of three it says little: another one is asked for then.
fn after_outlier_test(step: u32, agreement: &Agreement<'_>, each: &[(usize, f64)], left: usize) -> Advice {
    let values: Vec<f64> = each.iter().map(|(_, v)| *v).collect();
    let marked = grubbs(&values).filter(|g| g.outlier).map(|g| number(each[g.suspect].0 + 1));
    let (of, trials) = (agreement.of.into(), number(each.len()));
    let doubtful = marked.is_some() && each.len() == TOO_FEW_FOR_A_TEST;
    let (standing, matter) = if each.len() >= agreement.wanted && !doubtful {
        let counted = trials - u32::from(marked.is_some());
        (Standing::Settled, Matter::TrialsCount { of, trials: counted, set_aside: marked })
    } else {
        let (wanted, left) = (number(agreement.wanted), number(left));
        let standing = if left == 0 { Standing::Doubtful } else { Standing::Waiting };
        (standing, Matter::OutlierTestWaits { of, trials, wanted, set_aside: marked, left })
    };
    judged(step, standing, Judgement::Concordance, matter)
}

/// The one trial without which the others, three at least in all, would agree; none where that could be several.
fn spoiler(each: &[(usize, f64)], allowed: f64) -> Option<usize> {
    let without =
        |left_out: usize| -> Vec<f64> { each.iter().filter(|(t, _)| *t != left_out).map(|(_, v)| *v).collect() };
    let mut fitting = each.iter().filter(|(t, _)| each.len() > 2 && rsd(&without(*t)).is_some_and(|r| r <= allowed));
    match (fitting.next(), fitting.next()) {
        (Some((only, _)), None) => Some(*only),
        (Some(_) | None, _) => None,
    }
}

/// What of the relative uncertainty is this trial's own.
pub(crate) fn own_part(v: &Value) -> Option<f64> {
    let own = v.budget.iter().filter(|s| matches!(s.source, Source::Reading(_) | Source::EndPoint(_)));
    let variance: f64 = own.map(|s| s.standard_uncertainty.powi(2)).sum();
    (v.value != 0.0).then(|| variance.sqrt() / v.value.abs())
}
