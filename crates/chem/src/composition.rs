//! What a formula is made of: how many of each atom, exactly.

use crate::elements::Element;
use num_rational::Ratio;
use num_traits::{CheckedAdd, CheckedMul};
use std::cmp::Ordering;
use std::collections::BTreeMap;

/// An element, or one isotope of it.
#[derive(Debug, Clone, Copy)]
pub struct Atom {
    /// The element.
    pub element: &'static Element,
    /// Set for a named isotope only.
    pub mass_number: Option<u16>,
}

impl Atom {
    fn key(&self) -> (u8, Option<u16>) {
        (self.element.number, self.mass_number)
    }
}

impl PartialEq for Atom {
    fn eq(&self, other: &Atom) -> bool {
        self.key() == other.key()
    }
}

impl Eq for Atom {}

impl PartialOrd for Atom {
    fn partial_cmp(&self, other: &Atom) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Atom {
    fn cmp(&self, other: &Atom) -> Ordering {
        self.key().cmp(&other.key())
    }
}

/// Number of each atom in one formula unit. Counts are exact fractions: a hemihydrate holds ½ H₂O.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Composition(BTreeMap<Atom, Ratio<i64>>);

impl Composition {
    /// Each atom with its count, by atomic number.
    pub fn iter(&self) -> impl Iterator<Item = (Atom, f64)> {
        self.0.iter().map(|(a, n)| (*a, to_f64(*n)))
    }

    /// How many of the element with `symbol`, all isotopes together.
    #[must_use]
    pub fn count(&self, symbol: &str) -> f64 {
        self.0.iter().filter(|(a, _)| a.element.symbol == symbol).map(|(_, n)| to_f64(*n)).sum()
    }

    pub(crate) fn exact(&self) -> &BTreeMap<Atom, Ratio<i64>> {
        &self.0
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// Adds `count` of `atom`; `None` when the number leaves the range of exact counting.
    pub(crate) fn add(&mut self, atom: Atom, count: Ratio<i64>) -> Option<()> {
        let old = self.0.entry(atom).or_insert_with(|| Ratio::from_integer(0));
        *old = old.checked_add(&count)?;
        Some(())
    }

    /// Adds `count` times another composition; `None` when a number leaves the range of exact counting.
    pub(crate) fn add_all(&mut self, other: &Composition, count: Ratio<i64>) -> Option<()> {
        other.0.iter().try_for_each(|(atom, n)| self.add(*atom, n.checked_mul(&count)?))
    }
}

pub(crate) fn to_f64(r: Ratio<i64>) -> f64 {
    *r.numer() as f64 / *r.denom() as f64
}
