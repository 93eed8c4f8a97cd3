//! What a sheet may speak of: the readings and materials that the practical declares, and the chosen mass table.

use crate::Precision;
use chem::{Coefficient, Formula, MassTable};
use measure::rounding::{Ties, WholeNumbers};
use measure::{Contribution, Decimal, Instrument, Source, Tolerances, Unit};

/// A reading by the name the sheet uses.
#[derive(Debug, Clone, PartialEq)]
pub struct ReadingName {
    /// As in `m_dish`.
    pub symbol: String,
    /// The unit it is read in.
    pub unit: Unit,
    /// Read once, or once for each trial.
    pub repeats: Option<Repeats>,
}

/// How often something is done: titrations, crops, fractions.
///
/// Values along one axis are calculated with one by one; a fold such as `mean` brings them together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Repeats {
    /// What one is called: `trial`, `crop`. Two readings repeat together when this agrees.
    pub axis: String,
    /// The most there can be.
    pub most: usize,
    /// Of these, so many at the beginning are rough and take no part in a fold.
    pub rough: usize,
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
    pub coefficient: Option<Coefficient>,
    /// Amount concentration of a solution.
    pub concentration: Option<Quantity>,
    /// Mass fraction of the substance in what is weighed.
    pub purity: Option<Quantity>,
    /// Density of a liquid.
    pub density: Option<Quantity>,
    /// Mass of the substance in a volume of its solution.
    pub mass_concentration: Option<Quantity>,
}

/// How a school reads and writes numbers.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Writing {
    /// Where a digit 5 followed by nothing goes.
    pub fives: Ties,
    /// What the zeros at the end of a whole number say.
    pub whole_numbers: WholeNumbers,
    /// How a tolerance lies.
    pub tolerances: Tolerances,
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
    /// Take them as exact, given the table.
    pub masses_exact: bool,
    /// How numbers are read and written.
    pub writing: Writing,
    /// Ratios of two materials that meet in a reaction of their own, beside the one that the coefficients are of.
    pub ratios: Vec<(String, String, Coefficient)>,
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
    /// Half a division of the instrument, in base units: the apparatus error of the simple school. 0 where nothing is read.
    pub half_division: f64,
}

impl Given {
    /// A reading as typed on an instrument.
    #[must_use]
    pub fn reading(symbol: &str, typed: Decimal, unit: &Unit, instrument: &Instrument, by: Writing) -> Given {
        let mut given = Given::exact_digits(typed, unit);
        given.precision = Precision::of(typed, unit, by.whole_numbers);
        given.half_division = unit.difference_to_base(instrument.resolution / 2.0);
        given.contributions = instrument
            .contributions(symbol, typed.to_f64(), by.tolerances)
            .into_iter()
            .map(|c| Contribution { standard_uncertainty: unit.difference_to_base(c.standard_uncertainty), ..c })
            .collect();
        given
    }

    /// A tared weighing: the zero is a reading as well.
    #[must_use]
    pub fn tared(symbol: &str, typed: Decimal, unit: &Unit, instrument: &Instrument, by: Writing) -> Given {
        let mut given = Given::reading(symbol, typed, unit, instrument, by);
        given.half_division *= 2.0;
        given.contributions = instrument
            .tared_contributions(symbol, typed.to_f64(), by.tolerances)
            .into_iter()
            .map(|c| Contribution { standard_uncertainty: unit.difference_to_base(c.standard_uncertainty), ..c })
            .collect();
        given
    }

    /// A stated quantity of a material, known within its half-width.
    ///
    /// Its digits limit the figures of a result: 25.00 mL of 1.00 mol/L hold 25.0 mmol.
    #[must_use]
    pub fn stated(what: String, quantity: &Quantity, by: Writing) -> Given {
        let mut given = Given::exact_digits(quantity.value, &quantity.unit);
        given.precision = Precision::of(quantity.value, &quantity.unit, by.whole_numbers);
        if quantity.half_width > 0.0 {
            given.contributions = vec![Contribution {
                source: Source::Stated(what),
                standard_uncertainty: quantity.unit.difference_to_base(by.tolerances.standard(quantity.half_width)),
                distribution: by.tolerances.distribution(),
            }];
        }
        given
    }

    /// A stoichiometric coefficient, or the ratio of two; exact.
    #[must_use]
    pub fn ratio(of: Coefficient) -> Given {
        Given {
            value: chem::number(of),
            contributions: Vec::new(),
            precision: Precision::Exact,
            written: of.to_string(),
            unit: Unit::one(),
            half_division: 0.0,
        }
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
            half_division: 0.0,
        }
    }
}
