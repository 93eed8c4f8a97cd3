//! What a result hangs on, and everything that could have been done otherwise on the way to it.

use super::smallest;
use measure::{Decimal, Dimension};
use practical::file::Weighing;
use practical::slip::Slip;
use practical::{Practical, ResultSpec};
use sheet::{Act, Change, Leaf, Otherwise, Place, Program, Work, trial_name};
use std::collections::BTreeMap;

/// A slip in one place, and what would come of it.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Candidate {
    pub slip: Slip,
    /// What it happened to.
    pub at: At,
    /// What should stand there and what stood there instead, each with its unit, where it is one number for another.
    pub exchange: Option<(String, String)>,
    /// How common this form of the slip is beside its others; 1 for the usual one.
    pub share: f64,
    pub made: Made,
}

/// What a slip happened to, by names.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct At {
    /// Slots of readings, symbols of materials, names of definitions.
    pub what: Vec<String>,
    /// What was used in the place of that.
    pub instead: Option<String>,
}

impl At {
    /// One thing used in the place of another.
    pub fn exchanged(what: &str, instead: &str) -> At {
        At { what: vec![what.to_owned()], instead: Some(instead.to_owned()) }
    }

    /// Several that belong together.
    pub fn all(what: &[&str]) -> At {
        At { what: what.iter().map(|w| (*w).to_owned()).collect(), instead: None }
    }
}

impl<T: Into<String>> From<T> for At {
    fn from(what: T) -> At {
        At { what: vec![what.into()], instead: None }
    }
}

/// How a slip makes another result.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Made {
    /// By doing something else on the way.
    On(Vec<Change>),
    /// By writing something else down in the end: the result in base units.
    Written(f64),
}

/// The way to one result, with the group's numbers on it.
pub(super) struct Reach<'a> {
    pub practical: &'a Practical,
    pub result: &'a ResultSpec,
    pub readings: &'a BTreeMap<String, Decimal>,
    pub plain: &'a Otherwise<'a>,
    /// The places that it hangs on, down to the group's own earlier answers.
    pub places: Vec<Place>,
    pub found: Vec<Candidate>,
}

impl<'a> Reach<'a> {
    /// Everything that could have been done otherwise on the way to a result, nothing beyond the definitions `given`.
    pub fn all(
        practical: &'a Practical,
        result: &'a ResultSpec,
        readings: &'a BTreeMap<String, Decimal>,
        plain: &'a Otherwise<'a>,
        given: &[&str],
    ) -> Vec<Candidate> {
        let places = practical.program.places(&result.name, given);
        let mut reach = Reach { practical, result, readings, plain, places, found: Vec::new() };
        reach.at_readings();
        reach.at_leaves();
        reach.at_weighings();
        reach.at_operations();
        reach.at_methods();
        reach.in_formulas();
        reach.found
    }

    pub fn program(&self) -> &'a Program {
        &self.practical.program
    }

    pub fn work(&self, place: Place) -> Work<'a> {
        self.practical.program.work(place)
    }

    /// The place of a definition, where the result hangs on it.
    pub fn definition(&self, name: &str) -> Option<Place> {
        self.program().place_of(name).filter(|p| self.places.contains(p))
    }

    /// The definition that a place belongs to: its own, or the next one that is made of it.
    pub fn owner(&self, place: Place) -> String {
        let own = self.places.iter().skip_while(|p| **p != place).find_map(|p| self.program().defines(*p));
        own.unwrap_or(&self.result.name).to_owned()
    }

    /// The places of a reading's numbers, of each trial apart, where the result hangs on them.
    pub fn reading_places(&self, symbol: &str) -> Vec<Place> {
        let of =
            |p: &&Place| matches!(self.work(**p).leaf(), Some(Leaf::Reading(s) | Leaf::Trial(s, _)) if s == symbol);
        let found: Vec<Place> = self.places.iter().filter(of).copied().collect();
        found.into_iter().flat_map(|p| self.program().trials(p)).collect()
    }

    /// What a place comes to without a slip.
    pub fn number(&self, place: Place) -> Option<f64> {
        self.plain.plain(place)
    }

    /// What a definition or a reading comes to without a slip.
    pub fn value_of(&self, name: &str) -> Option<f64> {
        smallest::value_of(self.practical, self.plain, name)
    }

    /// What is typed in a place, if it is a reading: its slot, and the decimal.
    pub fn typed(&self, place: Place) -> Option<(String, Decimal)> {
        let slot = match self.work(place).leaf()? {
            Leaf::Reading(symbol) => symbol.clone(),
            Leaf::Trial(symbol, trial) => trial_name(symbol, *trial),
            Leaf::Number
            | Leaf::Ratio(..)
            | Leaf::Coefficient(_)
            | Leaf::MolarMass(_)
            | Leaf::Purity(_)
            | Leaf::Density(_)
            | Leaf::Concentration(_)
            | Leaf::MassConcentration(_) => return None,
        };
        // The sheet names the two ends of an interval itself.
        self.readings.get(&slot).map(|typed| (slot, *typed))
    }

    /// Masses that were weighed: definitions and plain readings, by name.
    pub fn masses(&self) -> Vec<(String, f64)> {
        let program = self.program();
        let once = |name: &&str| program.definition(name).is_some_and(|d| d.repeats.is_none());
        let weighed = self.practical.file.weighings.iter().map(Weighing::name).filter(once).map(str::to_owned);
        let defined = program.definitions().iter().filter(|d| d.dimension == Dimension::MASS && d.repeats.is_none());
        let sums = defined.map(|d| d.name.clone());
        let plain = self.practical.readings.iter().filter(|r| r.unit.dimension() == Dimension::MASS);
        // What is weighed against something else is no mass of its own.
        let against = |r: &practical::Reading| {
            self.practical.differences.iter().any(|(more, less)| *more == r.symbol || *less == r.symbol)
                || self.practical.containers.values().flatten().any(|c| *c == r.symbol)
        };
        let plain = plain.filter(|r| r.repeats.is_none() && (r.of.is_some() || !against(r))).map(|r| r.symbol.clone());
        let mut names: Vec<String> = weighed.chain(sums).chain(plain).collect();
        names.sort();
        names.dedup();
        names.into_iter().filter_map(|n| self.value_of(&n).map(|v| (n, v))).collect()
    }

    pub fn add(&mut self, slip: Slip, at: impl Into<At>, share: f64, changes: Vec<Change>) {
        if !changes.is_empty() {
            let at = at.into();
            self.found.push(Candidate { slip, at, exchange: None, share, made: Made::On(changes) });
        }
    }

    pub fn exchange(
        &mut self,
        slip: Slip,
        at: impl Into<At>,
        share: f64,
        (right, instead): (String, String),
        change: Change,
    ) {
        let (at, exchange) = (at.into(), Some((right, instead)));
        self.found.push(Candidate { slip, at, exchange, share, made: Made::On(vec![change]) });
    }
}

/// This act in this place.
pub(super) fn at(place: Place, act: Act) -> Change {
    Change { place, act }
}
