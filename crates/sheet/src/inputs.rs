//! What one group has: the numbers that a program is run with.

use crate::expression::Leaf;
use crate::{Given, Precision};
use chem::{Formula, MassTable, NoStandardMass};
use std::collections::BTreeMap;

/// What one group has: its readings, and earlier values of its own to be put in.
#[derive(Debug, Clone, Default)]
pub struct Inputs {
    /// By symbol.
    pub readings: BTreeMap<String, Given>,
    /// Repeated readings by symbol, one for each trial; a trial that is not there yet is a gap.
    pub series: BTreeMap<String, Vec<Option<Given>>>,
    /// By name of the definition; such a definition is taken as given instead of being computed.
    pub substituted: BTreeMap<String, Substitute>,
}

impl Inputs {
    /// The number behind a reading.
    pub(crate) fn given(&self, leaf: &Leaf) -> Option<&Given> {
        match leaf {
            Leaf::Reading(symbol) => self.readings.get(symbol),
            Leaf::Trial(symbol, trial) => self.series.get(symbol)?.get(*trial)?.as_ref(),
            _ => None,
        }
    }
}

/// A value put in the place of a definition.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Substitute {
    /// In base units.
    pub value: f64,
    /// What its digits claim.
    pub precision: Precision,
}

impl Substitute {
    /// A student's own formula, by its molar mass in the sheet's table.
    ///
    /// # Errors
    /// [`NoStandardMass`] for an element that the table does not hold.
    pub fn formula(formula: &Formula, masses: &MassTable) -> Result<Substitute, NoStandardMass> {
        Ok(Substitute { value: formula.molar_mass(masses)?.value, precision: Precision::Exact })
    }
}
