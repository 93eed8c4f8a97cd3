//! How a school does and writes things where teaching practice differs.
//!
//! Chosen once for the school, overridden by a practical. Whatever is chosen reaches the recomputed values, their digits and
//! their uncertainty, the findings at the bench and the judgement on answers; an answer that is right by another choice is
//! right, with a word.

use super::error::PracticalProblem as Problem;
use super::{Amount, file::DigitsPolicy};
use chem::MassTable;
use measure::rounding::{Ties, WholeNumbers};
use measure::{Dimension, GLASSWARE, Instrument, InstrumentKind, Tolerances};
use serde::{Deserialize, Serialize};
use sheet::Writing;

/// The choices of a school.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default, deny_unknown_fields)]
pub struct School {
    /// Where molar masses come from.
    pub atomic_masses: MassTable,
    /// Where a digit 5 followed by nothing goes.
    pub fives: Ties,
    /// How many digits of a result are written.
    pub digits: ResultDigits,
    /// What the zeros at the end of a whole number say.
    pub whole_numbers: WholeNumbers,
    /// How finely a burette is read.
    pub burettes: BuretteReading,
    /// What a group sees of how sure a result is.
    pub uncertainty: ShownUncertainty,
    /// When titres agree, where neither the titre nor its method says it.
    pub agreement: TitresAgree,
    /// When something is dry.
    pub dry: Dry,
    /// How a tolerance lies about the nominal value.
    pub tolerances: Tolerances,
}

/// What a practical chooses otherwise than the school.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default, deny_unknown_fields)]
pub struct SchoolItem {
    /// Where a digit 5 followed by nothing goes.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fives: Option<Ties>,
    /// How many digits of a result are written.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub digits: Option<ResultDigits>,
    /// What the zeros at the end of a whole number say.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub whole_numbers: Option<WholeNumbers>,
    /// How finely a burette is read.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub burettes: Option<BuretteReading>,
    /// What a group sees of how sure a result is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub uncertainty: Option<ShownUncertainty>,
    /// When titres agree, where neither the titre nor its method says it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub agreement: Option<TitresAgree>,
    /// When something is dry.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub dry: Option<Dry>,
    /// How a tolerance lies about the nominal value.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tolerances: Option<Tolerances>,
}

/// How many digits of a result are written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ResultDigits {
    /// As many significant figures as the reading with the fewest.
    #[default]
    Figures,
    /// To the first figure of its expanded uncertainty; to the second where the first is 1.
    Uncertainty,
}

/// How finely a burette is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum BuretteReading {
    /// To a tenth of a division: 24.33 mL.
    #[default]
    Tenth,
    /// To half a division: the last digit is 0 or 5.
    Half,
}

/// What a group sees of how sure a result is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ShownUncertainty {
    /// Nothing.
    None,
    /// The apparatus error: half a division of everything read, added up, in per cent.
    Apparatus,
    /// The expanded uncertainty U (k = 2).
    #[default]
    Expanded,
}

/// When titres agree.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum TitresAgree {
    /// They scatter at most twice what the instruments let expect.
    #[default]
    Instruments,
    /// The best set lies within this: `0.10 mL`.
    Within(String),
    /// The relative standard deviation of all accurate ones is at most this: `0.5 %`.
    Rsd(String),
    /// All but one that an outlier test marks: their mean counts.
    OutlierTest,
}

/// When something is dry.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Dry {
    /// When two weighings in a row agree.
    #[default]
    ConstantMass,
    /// After the time of its step: one weighing is enough.
    FixedTime,
}

impl School {
    /// With what a practical chooses otherwise.
    #[must_use]
    pub fn with(&self, masses: Option<&MassTable>, own: &SchoolItem) -> School {
        School {
            atomic_masses: masses.unwrap_or(&self.atomic_masses).clone(),
            fives: own.fives.unwrap_or(self.fives),
            digits: own.digits.unwrap_or(self.digits),
            whole_numbers: own.whole_numbers.unwrap_or(self.whole_numbers),
            burettes: own.burettes.unwrap_or(self.burettes),
            uncertainty: own.uncertainty.unwrap_or(self.uncertainty),
            agreement: own.agreement.as_ref().unwrap_or(&self.agreement).clone(),
            dry: own.dry.unwrap_or(self.dry),
            tolerances: own.tolerances.unwrap_or(self.tolerances),
        }
    }

    /// How the sheet reads and writes numbers.
    #[must_use]
    pub fn writing(&self) -> Writing {
        Writing { fives: self.fives, whole_numbers: self.whole_numbers, tolerances: self.tolerances }
    }

    /// An instrument as it is read here: a burette to half a division where the school reads so.
    #[must_use]
    pub fn as_read(&self, on: &Instrument) -> Instrument {
        let step = self.burette_step(on).unwrap_or(on.resolution);
        Instrument { resolution: on.resolution.max(step), ..on.clone() }
    }

    /// The step to which a burette is read where that is half a division, by the divisions that burettes of this size have;
    /// none where the digits say it all. Of a size with several, the one of which the instrument's own step is the half.
    #[must_use]
    pub fn burette_step(&self, on: &Instrument) -> Option<f64> {
        let same = |a: f64, b: f64| (a - b).abs() < 1e-9;
        let of_its_size = GLASSWARE.iter().filter(|g| {
            g.kind == InstrumentKind::Burette
                && on.kind == g.kind
                && on.unit == TABLED_IN
                && same(g.volume, on.capacity)
        });
        let halves: Vec<f64> = of_its_size.filter_map(|g| g.division).map(|division| division / 2.0).collect();
        match (self.burettes, &halves[..]) {
            (BuretteReading::Tenth, _) | (BuretteReading::Half, []) => None,
            (BuretteReading::Half, [only]) => Some(*only),
            (BuretteReading::Half, several) => several.iter().copied().find(|half| same(*half, on.resolution)),
        }
    }

    /// How many digits of a result are right, where the result does not say it.
    #[must_use]
    pub fn digits_policy(&self) -> DigitsPolicy {
        match self.digits {
            ResultDigits::Figures => DigitsPolicy::AsFewest,
            ResultDigits::Uncertainty => DigitsPolicy::ToUncertainty,
        }
    }

    /// Whether it can be worked by.
    ///
    /// # Errors
    /// What is wrong with the limit of titres or with an atomic mass of one's own.
    pub fn sound(&self) -> Result<(), Problem> {
        if let MassTable::Own(values) = &self.atomic_masses {
            for (symbol, mass) in values {
                if chem::element(symbol).is_none() {
                    let near = sheet::nearest(symbol, chem::ELEMENTS.iter().map(|e| e.symbol));
                    return Err(Problem::Unknown { what: "element", name: symbol.chars().take(20).collect(), near });
                }
                if !(0.5..500.0).contains(mass) {
                    return Err(Problem::Senseless("a relative atomic mass lies between 0.5 and 500"));
                }
            }
        }
        self.agreement.sound()
    }
}

/// The unit of the table of glassware.
const TABLED_IN: &str = "mL";
/// Largest limit that anybody would still call agreement, L.
const LARGEST_LIMIT: f64 = 2e-3;
/// The same as a relative standard deviation.
const LARGEST_RSD: f64 = 0.2;

impl TitresAgree {
    /// Whether its limit is one.
    ///
    /// # Errors
    /// What is wrong with it.
    pub fn sound(&self) -> Result<(), Problem> {
        let (text, dimension, most) = match self {
            TitresAgree::Instruments | TitresAgree::OutlierTest => return Ok(()),
            TitresAgree::Within(text) => (text, Dimension::VOLUME, LARGEST_LIMIT),
            TitresAgree::Rsd(text) => (text, Dimension::ONE, LARGEST_RSD),
        };
        let reason = |e: crate::QuantityError| Problem::Quantity { text: text.clone(), reason: e.to_string() };
        let limit = Amount::parse(text).map_err(reason)?;
        if limit.unit.dimension() != dimension || limit.base() <= 0.0 || limit.base() > most {
            let told = "titres agree within a volume up to 2 mL ('0.10 mL'), or by an rsd up to 20 % ('0.5 %')";
            return Err(Problem::Senseless(told));
        }
        Ok(())
    }
}
