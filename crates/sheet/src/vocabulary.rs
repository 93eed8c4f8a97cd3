//! What a sheet may speak of: the readings and materials that the practical declares, and the chosen mass table.

use crate::Precision;
use chem::{Formula, MassTable};
use measure::{Contribution, Decimal, Instrument, Source, Unit, rectangular};

/// A reading by the name the sheet uses.
#[derive(Debug, Clone, PartialEq)]
pub struct ReadingName {
    /// As in `m_dish`.
    pub symbol: String,
    /// The unit it is read in.
    pub unit: Unit,
}

/// A stated quantity of a material: the strength on a label, a purity, a density.
#[derive(Debug, Clone, PartialEq)]
pub struct Quantity {
    /// As written, digits kept.
    pub value: Decimal,
    /// Its unit.
    pub unit: Unit,
    /// Half-width of the interval it is known to lie in, in the same unit.
    pub half_width: f64,
}

/// One substance on the bench, with what is stated of it.
#[derive(Debug, Clone, PartialEq)]
pub struct Material {
    /// As in `acid`.
    pub symbol: String,
    /// The formula weighed or dissolved, hydrate included.
    pub formula: Option<Formula>,
    /// Stoichiometric coefficient in the reaction.
    pub coefficient: Option<u32>,
    /// Amount concentration of a solution.
    pub concentration: Option<Quantity>,
    /// Mass fraction of the substance in what is weighed.
    pub purity: Option<Quantity>,
    /// Density of a liquid.
    pub density: Option<Quantity>,
}

/// Everything a sheet's names can stand for.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Vocabulary {
    /// Readings, in bench order.
    pub readings: Vec<ReadingName>,
    /// Materials, as listed.
    pub materials: Vec<Material>,
    /// Where molar masses come from.
    pub masses: MassTable,
}

/// A number ready to calculate with, in base units (g, L, mol, s, K).
#[derive(Debug, Clone, PartialEq)]
pub struct Given {
    /// In base units.
    pub value: f64,
    /// Standard uncertainties by source, in base units.
    pub contributions: Vec<Contribution>,
    /// What its digits claim.
    pub precision: Precision,
    /// As it was written, without unit: `25.00`.
    pub written: String,
    /// The unit it was written in.
    pub unit: Unit,
}

impl Given {
    /// A reading as typed on an instrument.
    #[must_use]
    pub fn reading(symbol: &str, typed: Decimal, unit: &Unit, instrument: &Instrument) -> Given {
        let mut given = Given::exact_digits(typed, unit);
        given.precision = Precision::of(typed, unit);
        given.contributions = instrument
            .contributions(symbol)
            .into_iter()
            .map(|c| Contribution { standard_uncertainty: unit.to_base(c.standard_uncertainty), ..c })
            .collect();
        given
    }

    /// A stated quantity of a material, known within its half-width (rectangular).
    ///
    /// Its digits limit the figures of a result: 25.00 mL of 1.00 mol/L hold 25.0 mmol.
    #[must_use]
    pub fn stated(what: String, quantity: &Quantity) -> Given {
        let mut given = Given::exact_digits(quantity.value, &quantity.unit);
        given.precision = Precision::of(quantity.value, &quantity.unit);
        if quantity.half_width > 0.0 {
            given.contributions = vec![Contribution {
                source: Source::Stated(what),
                standard_uncertainty: quantity.unit.to_base(rectangular(quantity.half_width)),
            }];
        }
        given
    }

    /// A number that is known exactly.
    #[must_use]
    pub fn exact_digits(value: Decimal, unit: &Unit) -> Given {
        Given {
            value: unit.to_base(value.to_f64()),
            contributions: Vec::new(),
            precision: Precision::Exact,
            written: value.to_string(),
            unit: unit.clone(),
        }
    }
}
