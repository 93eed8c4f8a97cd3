//! Molar mass: the sum of the relative atomic masses of a formula, in g/mol, with what each element adds to its
//! uncertainty.
//!
//! The table is a school's choice; an ion's electrons are not counted (their mass is below the last digit shown).

use crate::Formula;
use crate::composition::Atom;
use crate::elements::ISOTOPES;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Which table of relative atomic masses a school uses.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum MassTable {
    /// The standard abridged values.
    #[default]
    Abridged,
    /// One decimal, as printed in school books; taken as exact.
    School,
    /// The instructor's own values by symbol, taken as exact; an element that is not listed has none.
    Own(BTreeMap<String, f64>),
}

impl MassTable {
    /// Which values these are, as a record says it.
    #[must_use]
    pub fn edition(&self) -> &'static str {
        match self {
            MassTable::Abridged => "standard abridged values, 2021",
            MassTable::School => "school values to one decimal",
            MassTable::Own(_) => "the instructor's own values",
        }
    }
}

/// A molar mass in g/mol.
#[derive(Debug, Clone, PartialEq)]
pub struct MolarMass {
    /// g/mol.
    pub value: f64,
    /// Per element: its symbol and its share of the standard uncertainty, in g/mol; the tolerance of an atomic mass
    /// is rectangular and shared by all atoms of the element.
    pub contributions: Vec<(&'static str, f64)>,
    /// Each atom with its number in one formula unit and what it adds to the mass, g/mol.
    pub shares: Vec<(Atom, f64, f64)>,
}

/// An element that has no standard atomic weight, so that no molar mass can honestly be printed.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{symbol} has no value in this table (no standard atomic weight), so this formula has no molar mass")]
pub struct NoStandardMass {
    /// As in `Po`.
    pub symbol: &'static str,
}

impl Formula {
    /// Molar mass by `table`: M = Σ nᵢ·Aᵣ,ᵢ · 1 g/mol.
    ///
    /// # Errors
    /// [`NoStandardMass`] for the first element that has none.
    pub fn molar_mass(&self, table: &MassTable) -> Result<MolarMass, NoStandardMass> {
        let mut mass = MolarMass { value: 0.0, contributions: Vec::new(), shares: Vec::new() };
        for (atom, count) in self.composition().iter() {
            let symbol = atom.element.symbol;
            let (relative, half_width) = match (atom.mass_number, table) {
                (Some(number), _) => isotope(symbol, number),
                (None, MassTable::Abridged) => atom.element.abridged,
                (None, MassTable::School) => atom.element.school.map(|m| (m, 0.0)),
                (None, MassTable::Own(values)) => values.get(symbol).map(|m| (*m, 0.0)),
            }
            .ok_or(NoStandardMass { symbol })?;
            mass.value += count * relative;
            mass.shares.push((atom, count, count * relative));
            if half_width > 0.0 {
                mass.contributions.push((symbol, count * half_width / 3f64.sqrt()));
            }
        }
        Ok(mass)
    }
}

fn isotope(symbol: &str, number: u16) -> Option<(f64, f64)> {
    ISOTOPES.iter().find(|(s, n, _)| *s == symbol && *n == number).map(|(_, _, m)| (*m, 0.0))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Abridged standard atomic weights 2021, summed by hand.
    #[test]
    fn molar_masses_by_the_abridged_table() {
        for (formula, expected) in [
            ("MgSO4·7H2O", "246.466"),
            ("4MgCO3·Mg(OH)2·5H2O", "485.646"),
            ("K4[Fe(CN)6]·3H2O", "422.390"),
            ("CaSO4·2H2O", "172.164"),
            ("KHC8H4O4", "204.222"),
            ("D2O", "20.027"),
            ("SO4^2-", "96.056"),
        ] {
            let mass = Formula::parse(formula).unwrap().molar_mass(&MassTable::Abridged).unwrap();
            assert_eq!(format!("{:.3}", mass.value), expected, "{formula}");
        }
    }

    #[test]
    fn the_school_table_and_missing_weights() {
        let salt = Formula::parse("NaCl").unwrap();
        assert_eq!(format!("{:.1}", salt.molar_mass(&MassTable::School).unwrap().value), "58.5");
        let polonium = Formula::parse("PoO2").unwrap().molar_mass(&MassTable::Abridged).unwrap_err();
        assert_eq!(
            polonium.to_string(),
            "Po has no value in this table (no standard atomic weight), so this formula has no molar mass"
        );
    }
}
