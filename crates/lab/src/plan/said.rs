//! The same fact said two ways, and what nobody writes down although a result needs it.
//!
//! In the text of a step every number with a unit is held against the material whose name follows it: planned amounts,
//! what the step says it adds, strengths. Where a text speaks of portions ("twice 1 mL") it is left alone: the sum is
//! meant elsewhere.

use super::ledger::stated_words;
use super::{Consequence, Note, Setting, Unrecorded};
use measure::{Decimal, Dimension, Unit};
use practical::file::{ReadingKind, Role, Step, Stop, Weighing};
use practical::{Key, Material, SheetRole, Stated, StrengthKind, Supply};

/// Words after which a number is a portion, not the amount in all.
const PORTIONS: &[&str] = &["twice", "thrice", "times", "each", "portions", "portion", "more", "another", "further"];
/// How far a name may stand behind its number.
const REACH: usize = 7;

impl Setting<'_> {
    pub(super) fn said(&self, notes: &mut Vec<Note>) {
        self.readings_and_plan(notes);
        self.weighings_and_plan(notes);
        for (i, step) in self.practical.steps.iter().enumerate() {
            self.step_text(i, step, notes);
        }
        self.never_recorded(notes);
    }

    /// A reading that expects something else than what is planned of its material.
    fn readings_and_plan(&self, notes: &mut Vec<Note>) {
        for (i, r) in self.practical.readings.iter().enumerate().filter(|(_, r)| r.kind == ReadingKind::Number) {
            let Some(m) = r.of.as_ref().and_then(|of| self.practical.material(of)) else { continue };
            let Some(planned) = &m.planned else { continue };
            let paired = self.practical.differences.iter().any(|(a, b)| *a == r.symbol || *b == r.symbol);
            if paired || planned.amount.unit.dimension() != r.unit.dimension() {
                continue;
            }
            let expected = r.unit.to_base(r.expected.to_f64());
            let inside_range = {
                let value = r.unit.from_base(planned.base());
                (r.range.0..=r.range.1).contains(&value)
            };
            if within(expected, planned) && inside_range {
                continue;
            }
            let said = if inside_range {
                format!("{} {} expected", r.expected, r.unit.written())
            } else {
                format!("{} to {} {} as its range", r.range.0, r.range.1, r.unit.written())
            };
            let beside = vec!["readings".into(), i.into()];
            notes.push(two_ways(
                beside,
                &m.name,
                &stated_words(planned),
                "the ledger",
                &said,
                &format!("the reading '{}'", r.label),
            ));
        }
    }

    /// A weighing whose expected readings come to something else than what is planned of its material.
    fn weighings_and_plan(&self, notes: &mut Vec<Note>) {
        for (i, weighing) in self.practical.file.weighings.iter().enumerate() {
            let of_it = |m: &&Material| self.practical.taken_by(&m.symbol) == Some(weighing.name());
            let Some(m) = self.practical.materials.iter().find(of_it) else { continue };
            let less = match weighing {
                Weighing::Tared { .. } => continue,
                Weighing::ByDifference { after, .. } => vec![after],
                Weighing::ContainerAndContents { containers, .. } => containers.iter().collect(),
                Weighing::MatchedBlank { blank, .. } => vec![blank],
            };
            let expected = |symbol: &str| self.practical.reading(symbol).map(|r| (r, r.expected));
            let Some((gross, from)) = expected(weighing.gross()) else { continue };
            let net = less.iter().try_fold(from, |left, symbol| left.minus(expected(symbol)?.1));
            let (Some(net), Some(planned)) = (net, &m.planned) else { continue };
            if planned.amount.unit.dimension() != gross.unit.dimension()
                || within(gross.unit.to_base(net.to_f64()), planned)
            {
                continue;
            }
            let said = format!("{net} {} expected", gross.unit.written());
            let there = format!("the readings of '{}'", gross.label);
            let beside = vec!["weighings".into(), i.into()];
            notes.push(two_ways(beside, &m.name, &stated_words(planned), "the ledger", &said, &there));
        }
    }

    fn step_text(&self, i: usize, step: &Step, notes: &mut Vec<Note>) {
        for (said, words) in quantities(&step.text) {
            if words.iter().chain(&said.before).any(|w| PORTIONS.contains(&w.as_str())) {
                continue;
            }
            let Some(m) = self.named(&words) else { continue };
            let dimension = said.unit.dimension();
            let base = said.unit.to_base(said.value.to_f64());
            let beside: Vec<Key> = vec!["steps".into(), i.into()];
            let here = format!("step {}", i + 1);
            let written = format!("{} {}", said.value, said.unit.written());
            if dimension == Dimension::CONCENTRATION {
                if let Supply::Solution(s) = &m.supply
                    && s.kind == StrengthKind::Amount
                    && s.dilution.is_none()
                    && !within(base, &s.stated)
                {
                    notes.push(two_ways(beside, &m.name, &stated_words(&s.stated), "the ledger", &written, &here));
                }
                continue;
            }
            let own: Vec<Stated> = step
                .adds
                .iter()
                .filter(|a| a.material == m.symbol)
                .filter_map(|a| Stated::parse(a.amount.as_deref()?).ok())
                .collect();
            let planned: Vec<&Stated> = if own.is_empty() { m.planned.iter().collect() } else { own.iter().collect() };
            let same_kind: Vec<&&Stated> = planned.iter().filter(|p| p.amount.unit.dimension() == dimension).collect();
            if let Some(first) = same_kind.first()
                && !same_kind.iter().any(|p| within(base, p))
            {
                let there = if own.is_empty() { "the ledger" } else { "what the step adds" };
                notes.push(two_ways(beside, &m.name, &stated_words(first), there, &written, &here));
            }
        }
    }

    /// The one material whose name, or the end of it, stands in these words.
    fn named(&self, words: &[String]) -> Option<&Material> {
        let matched = |m: &Material| -> usize {
            let name: Vec<String> = m.name.split_whitespace().map(plain).collect();
            (0..name.len()).find(|from| holds(words, &name[*from..])).map_or(0, |from| name.len() - from)
        };
        let best = self.practical.materials.iter().map(matched).max().filter(|n| *n > 0)?;
        let mut all = self.practical.materials.iter().filter(|m| matched(m) == best);
        let first = all.next();
        first.filter(|_| all.next().is_none())
    }

    fn never_recorded(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        let mut tell = |beside, what, of: &str| {
            let what = Consequence::NeverRecorded { what, of: of.to_owned() };
            notes.push(Note { beside, warns: true, what });
        };
        let in_sums = |m: &Material| m.role.counts() && m.role != Role::Titrant && m.planned.is_some();
        for m in practical.materials.iter().filter(|m| in_sums(m)) {
            if !self.is_recorded(&m.symbol) {
                tell(self.line_of(m), Unrecorded::Amount, &m.name);
            }
        }
        for m in
            practical.materials.iter().filter(|m| matches!(m.role, Role::Limiting | Role::Titrant | Role::Standard))
        {
            // A titrant that is standardised here has its strength measured.
            let measured = practical.roles.named(SheetRole::Concentration, &m.symbol).is_some();
            let bare = m.supply.stated().is_some_and(|s| s.half_width == 0.0);
            if matches!(m.supply, Supply::Solution(_)) && bare && !measured {
                tell(self.line_of(m), Unrecorded::Strength, &m.name);
            }
        }
        for y in practical.yields() {
            let definition = practical.program.definition(&y.actual);
            let readings = definition.map(|d| practical.program.readings_of(d)).unwrap_or_default();
            let reading = practical.readings.iter().position(|r| r.symbol == y.actual);
            // A mass taken straight from one reading that was not tared has its vessel in it.
            let single = [y.actual.as_str()];
            let symbols = if definition.is_some() { &readings[..] } else { &single[..] };
            if let [only] = symbols
                && practical.readings.iter().any(|r| r.symbol == *only && !r.tared)
            {
                let at = reading.or_else(|| practical.readings.iter().position(|r| r.symbol == *only));
                let product = practical.material(&y.product).map_or("product", |m| m.name.as_str());
                tell(vec!["readings".into(), at.unwrap_or(0).into()], Unrecorded::Container, product);
            }
        }
        for (i, step) in practical.steps.iter().enumerate() {
            let beside: Vec<Key> = vec!["steps".into(), i.into()];
            if step.dries.is_some() && step.temperature.is_none() {
                let of = step.dries.as_ref().and_then(|d| practical.material(d));
                tell(beside.clone(), Unrecorded::DryingTemperature, of.map_or("", |m| &m.name));
            }
            let up_to = step.stop.as_ref().is_some_and(|stop| {
                matches!(stop, Stop::Colour { .. }) || stop.level().is_ok_and(|l| l.is_some_and(|l| l.is_ph))
            });
            let recorded = step.adds.iter().any(|a| self.is_recorded(&a.material));
            if up_to && !step.adds.is_empty() && step.records.is_empty() && !recorded {
                let of = step.adds.first().and_then(|a| practical.material(&a.material));
                tell(beside.clone(), Unrecorded::Added, of.map_or("", |m| &m.name));
            }
            let crystals = step.technique.as_deref() == Some("recrystallisation");
            if crystals && step.adds.is_empty() && step.records.is_empty() {
                tell(beside, Unrecorded::SolventVolume, &step.title);
            }
        }
    }
}

impl Setting<'_> {
    /// Whether a reading says how much of a material was used, itself or by what is computed from it.
    fn is_recorded(&self, symbol: &str) -> bool {
        let program = &self.practical.program;
        let amount = self.practical.roles.named(SheetRole::Amount, symbol).and_then(|n| program.definition(n));
        amount.is_some_and(|d| !program.readings_of(d).is_empty())
            || self.practical.readings.iter().any(|r| r.of.as_deref() == Some(symbol))
    }
}

fn two_ways(beside: Vec<Key>, about: &str, one: &str, here: &str, other: &str, there: &str) -> Note {
    let what = Consequence::SaidTwoWays {
        about: about.to_owned(),
        one: one.to_owned(),
        here: here.to_owned(),
        other: other.to_owned(),
        there: there.to_owned(),
    };
    Note { beside, warns: true, what }
}

/// Whether a value lies where a stated one may, its last digit included.
fn within(base: f64, stated: &Stated) -> bool {
    let (low, high) = stated.ends();
    let unit = &stated.amount.unit;
    let last = unit.difference_to_base(0.5 * 10f64.powi(stated.amount.value.last_place()));
    // Without a band of its own, a quantity is as near as its last digit says.
    let slack = if stated.half_width > 0.0 { 0.0 } else { last } + 1e-9 * high.abs();
    (low - slack..=high + slack).contains(&base)
}

/// A number with its unit in a text.
struct Said {
    value: Decimal,
    unit: Unit,
    /// The words just before it.
    before: Vec<String>,
}

/// Every number with a unit in a text, with the words that follow up to the end of the clause.
fn quantities(text: &str) -> Vec<(Said, Vec<String>)> {
    let raw: Vec<&str> = text.split_whitespace().collect();
    let mut out = Vec::new();
    for i in 0..raw.len().saturating_sub(1) {
        let Ok(value) = Decimal::parse(raw[i]) else { continue };
        let (unit_word, ends) = clause(raw[i + 1]);
        if unit_word == "1" || unit_word.starts_with(|c: char| c.is_ascii_digit()) {
            continue;
        }
        let Ok(unit) = Unit::parse(unit_word) else { continue };
        let mut words = Vec::new();
        if !ends {
            for word in raw.iter().skip(i + 2).take(REACH) {
                let (word, ends) = clause(word);
                // The next number has a name of its own.
                if word.starts_with(|c: char| c.is_ascii_digit()) {
                    break;
                }
                words.push(plain(word));
                if ends {
                    break;
                }
            }
        }
        let before = raw[i.saturating_sub(3)..i].iter().map(|w| plain(w)).collect();
        out.push((Said { value, unit, before }, words));
    }
    out
}

/// A word without the sign that ends its clause, and whether it ended one.
fn clause(word: &str) -> (&str, bool) {
    let bare = word.trim_end_matches(['.', ',', ';', ':', '!', '?', ')']);
    (bare, bare.len() != word.len())
}

fn plain(word: &str) -> String {
    word.trim_matches(|c: char| !c.is_alphanumeric()).to_lowercase()
}

fn holds(words: &[String], name: &[String]) -> bool {
    words.windows(name.len()).any(|w| w == name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_read_with_the_words_that_follow() {
        let read = |text: &str| -> Vec<String> {
            quantities(text).iter().map(|(s, w)| format!("{} {} | {}", s.value, s.unit, w.join(" "))).collect()
        };
        assert_eq!(
            read("Pipette 25.00 mL of the sulfuric acid into a beaker."),
            ["25.00 mL | of the sulfuric acid into a beaker"]
        );
        assert_eq!(read("Add 2 mL, then the acid."), ["2 mL | "]);
        assert_eq!(read("from 2.9 g to 3.1 g will do"), ["2.9 g | to", "3.1 g | will do"]);
        assert!(read("wait 2 days").is_empty());
    }
}
