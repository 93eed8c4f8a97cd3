//! What is known on the way through a sheet of answers: the group's numbers, its answers so far, the slips named so far.

use super::reach::At;
use measure::Decimal;
use practical::Practical;
use practical::slip::Slip;
use sheet::{Change, Definition, Evaluation, Inputs, Otherwise, Outcome, Precision, Substitute};
use std::collections::{BTreeMap, BTreeSet};

/// Ways through the earlier answers beyond which only that with all of them is tried.
const MOST_WAYS: usize = 128;

/// One sheet of answers on the way through.
pub(super) struct Sums<'a> {
    pub practical: &'a Practical,
    pub readings: &'a BTreeMap<String, Decimal>,
    pub evaluation: &'a Evaluation<'a>,
    pub plain: Otherwise<'a>,
    /// Answers before this one that can be gone on from.
    pub earlier: Vec<Earlier>,
    /// Slips named so far.
    pub established: Vec<Established>,
}

/// An earlier answer, and what may be gone on with: a number beside a wrong unit may have been meant, or used as written.
pub(super) struct Earlier {
    pub result: String,
    /// Other definitions that come to the same, in whose places it stands as well.
    pub aliases: Vec<String>,
    /// The likeliest first.
    pub ways: Vec<Own>,
}

impl Earlier {
    /// Whether nothing is wrong with it.
    pub fn is_right(&self) -> bool {
        self.ways.iter().all(|w| w.right)
    }
}

/// One way to go on from an earlier answer.
pub(super) struct Own {
    pub put: Put,
    /// Whether it is right so.
    pub right: bool,
}

impl Own {
    /// Whether it stands in the place of a definition.
    pub fn is_value(&self) -> bool {
        match self.put {
            Put::Value(_) => true,
            Put::Choice(_) => false,
        }
    }
}

/// How an earlier answer is put in.
pub(super) enum Put {
    /// In the place of its definition.
    Value(Substitute),
    /// The reagent that was chosen, whatever the extents say.
    Choice(Change),
}

/// Some of the earlier answers, each in one way.
pub(super) type Chosen<'s> = Vec<(&'s Earlier, &'s Own)>;

/// A slip that was named at a result, to be tried again on what follows.
#[derive(Debug, Clone)]
pub(super) struct Established {
    pub slip: Slip,
    pub at: At,
    pub changes: Vec<Change>,
    pub result: String,
}

impl Sums<'_> {
    /// The group's numbers with these answers put in, and what is done otherwise by what it chose.
    pub fn with(&self, chosen: &Chosen<'_>) -> (Inputs, Vec<Change>) {
        let mut inputs = self.evaluation.inputs().clone();
        let mut changes = Vec::new();
        for (earlier, own) in chosen {
            match &own.put {
                Put::Value(value) => {
                    let places = earlier.aliases.iter().chain([&earlier.result]);
                    inputs.substituted.extend(places.map(|name| (name.clone(), *value)));
                }
                Put::Choice(change) => changes.push(change.clone()),
            }
        }
        (inputs, changes)
    }

    /// Definitions that measure the same and come to the same from the same readings, as one theoretical yield does that two
    /// methods define; none that the answer itself hangs on.
    pub fn aliases(&self, result: &str) -> Vec<String> {
        let program = &self.practical.program;
        let Some(own) = program.definition(result) else { return Vec::new() };
        let readings = |d: &Definition| program.readings_of(d).into_iter().collect::<BTreeSet<_>>();
        let value = |name: &str| self.plain.plain(program.place_of(name)?);
        let (number, read) = (value(result), readings(own));
        let same = |d: &&Definition| {
            let close = number.zip(value(&d.name)).is_some_and(|(a, b)| (a - b).abs() <= 1e-12 * a.abs());
            let other = d.name != result && d.repeats.is_none() && d.dimension == own.dimension;
            other && close && readings(d) == read && !program.hangs_on(result, &d.name)
        };
        program.definitions().iter().filter(same).map(|d| d.name.clone()).collect()
    }

    /// Those of the earlier answers that are wanted, each gone on with in the likeliest way.
    pub fn likeliest(&self, wanted: impl Fn(&Earlier) -> bool) -> Chosen<'_> {
        self.earlier.iter().filter(|e| wanted(e)).filter_map(|e| Some((e, e.ways.first()?))).collect()
    }

    /// Results in whose place an earlier answer stands: nobody goes behind them.
    pub fn gone_on_from(&self) -> Vec<&str> {
        self.earlier.iter().filter(|e| e.ways.iter().any(Own::is_value)).map(|e| e.result.as_str()).collect()
    }

    /// Every way to go on from some of the earlier answers, those with one answer put in first; at most all of them in the
    /// likeliest way where there are too many.
    pub fn ways_on(&self) -> Vec<Chosen<'_>> {
        let count =
            self.earlier.iter().try_fold(1usize, |n, e| n.checked_mul(e.ways.len() + 1).filter(|n| *n <= MOST_WAYS));
        let Some(count) = count else {
            return vec![self.likeliest(|_| true)];
        };
        let mut ways: Vec<Chosen<'_>> = (1..count)
            .map(|mut code| {
                let mut chosen = Vec::new();
                for earlier in &self.earlier {
                    let which = code % (earlier.ways.len() + 1);
                    code /= earlier.ways.len() + 1;
                    chosen.extend(which.checked_sub(1).map(|w| (earlier, &earlier.ways[w])));
                }
                chosen
            })
            .collect();
        ways.sort_by_key(Vec::len);
        ways
    }

    /// What a result comes to on such a way, with its digits; none where there is no number.
    pub fn value_on(&self, result: &str, chosen: &Chosen<'_>) -> Option<(f64, Precision)> {
        let (inputs, changes) = self.with(chosen);
        let program = &self.practical.program;
        let outcome = program.evaluate(&inputs).outcome(result);
        let Some(Outcome::Value(computed)) = outcome else { return None };
        if changes.is_empty() {
            return Some((computed.value, computed.precision));
        }
        let value = Otherwise::new(program, &inputs).value(result, &changes)?;
        Some((value, computed.precision.of_another(value)))
    }

    /// Those of the chosen answers that are wrong as they were put in.
    pub fn origins(chosen: &Chosen<'_>) -> Vec<String> {
        chosen.iter().filter(|(_, own)| !own.right).map(|(earlier, _)| earlier.result.clone()).collect()
    }
}
