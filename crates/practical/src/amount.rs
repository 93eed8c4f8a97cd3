//! Quantities as written in a practical: `3.0 g`, `3.0 ± 0.1 g`, `0.9 to 1.1 mol/L`, `98.5 % w/w`.

use measure::{Decimal, DecimalError, Dimension, Unit, UnitError};
use serde::{Deserialize, Serialize};

/// Why a text is no quantity, or not one that belongs there.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum QuantityError {
    /// Its number.
    #[error(transparent)]
    Number(#[from] DecimalError),
    /// Its unit.
    #[error(transparent)]
    Unit(#[from] UnitError),
    /// The number of its half-width.
    #[error("after ±: {0}")]
    HalfWidth(DecimalError),
    /// A half-width below zero.
    #[error("what follows ± is not negative")]
    NegativeHalfWidth,
    /// `w/w` without a percentage before it.
    #[error("'{0}' says what a percentage refers to: write '% {0}'")]
    BasisOfNothing(&'static str),
    /// A range whose ends are exchanged or the same.
    #[error("a range goes from the lower to the higher value")]
    EmptyRange,
    /// Numbers that have no middle here.
    #[error("these numbers are beyond any measurement")]
    BeyondMeasure,
    /// It measures something else.
    #[error("this is {found}; here belongs {}", wanted.iter().map(ToString::to_string).collect::<Vec<_>>().join(" or "))]
    Dimension {
        /// What it measures.
        found: Dimension,
        /// Any of these would do.
        wanted: Vec<Dimension>,
    },
    /// A pH that no water has.
    #[error("a pH lies between -2 and 16")]
    NoPh,
    /// Zero or less, where there has to be some of it.
    #[error("an amount is more than nothing")]
    NotPositive,
}

/// A number with its unit, digits kept.
#[derive(Debug, Clone, PartialEq)]
pub struct Amount {
    /// As written.
    pub value: Decimal,
    /// Its unit.
    pub unit: Unit,
}

impl Amount {
    /// The quantity that a text such as `25.0 mL` means.
    ///
    /// # Errors
    /// [`QuantityError`], of its number or its unit.
    pub fn parse(text: &str) -> Result<Amount, QuantityError> {
        let (number, unit) = text.trim().split_once(char::is_whitespace).unwrap_or((text.trim(), "1"));
        Ok(Amount { value: Decimal::parse(number)?, unit: Unit::parse(unit)? })
    }

    /// In base units.
    #[must_use]
    pub fn base(&self) -> f64 {
        self.unit.to_base(self.value.to_f64())
    }
}

/// What a percentage of something refers to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Basis {
    /// Mass in mass.
    #[serde(rename = "w/w")]
    MassInMass,
    /// Mass in volume: 1 % is 1 g in 100 mL.
    #[serde(rename = "w/v")]
    MassInVolume,
    /// Volume in volume.
    #[serde(rename = "v/v")]
    VolumeInVolume,
}

/// A quantity with how far it may be off.
#[derive(Debug, Clone, PartialEq)]
pub struct Stated {
    /// The number, or the middle of a range.
    pub amount: Amount,
    /// Half-width of where it may lie, in the same unit; 0 where nothing is said.
    pub half_width: f64,
    /// Whether a range was given, so that nobody knows better than that.
    pub ranged: bool,
    /// What a percentage refers to, where it is said.
    pub basis: Option<Basis>,
}

impl Stated {
    /// The quantity that a text means: `25.0 mL`, `3.0 ± 0.1 g`, `0.9 to 1.1 mol/L`, `37 % w/w`.
    ///
    /// # Errors
    /// [`QuantityError`], for the first thing that is wrong.
    pub fn parse(text: &str) -> Result<Stated, QuantityError> {
        let mut text = text.trim();
        let mut basis = None;
        for (written, meant) in
            [("w/w", Basis::MassInMass), ("w/v", Basis::MassInVolume), ("v/v", Basis::VolumeInVolume)]
        {
            if let Some(rest) = text.strip_suffix(written) {
                if !rest.trim_end().ends_with('%') {
                    return Err(QuantityError::BasisOfNothing(written));
                }
                (text, basis) = (rest.trim_end(), Some(meant));
            }
        }
        if let Some((low, rest)) = text.split_once(" to ") {
            let high = Amount::parse(rest)?;
            return between(Decimal::parse(low)?, high, basis);
        }
        let Some((value, rest)) = text.split_once('±') else {
            return Ok(Stated { amount: Amount::parse(text)?, half_width: 0.0, ranged: false, basis });
        };
        let (half_width, unit) = rest.trim().split_once(char::is_whitespace).unwrap_or((rest.trim(), "1"));
        let half_width = Decimal::parse(half_width).map_err(QuantityError::HalfWidth)?;
        if half_width.is_negative() {
            return Err(QuantityError::NegativeHalfWidth);
        }
        let amount = Amount::parse(&format!("{} {unit}", value.trim()))?;
        Ok(Stated { amount, half_width: half_width.to_f64(), ranged: false, basis })
    }

    /// The same, where only something more than nothing makes sense, in these dimensions.
    ///
    /// # Errors
    /// [`QuantityError`], for the first thing that is wrong.
    pub fn positive(text: &str, dimensions: &[Dimension]) -> Result<Stated, QuantityError> {
        let stated = Stated::parse(text)?;
        let found = stated.amount.unit.dimension();
        if !dimensions.contains(&found) {
            return Err(QuantityError::Dimension { found, wanted: dimensions.to_vec() });
        }
        if stated.amount.value.to_f64() - stated.half_width <= 0.0 && found != Dimension::TEMPERATURE {
            return Err(QuantityError::NotPositive);
        }
        Ok(stated)
    }

    /// The value in base units.
    #[must_use]
    pub fn base(&self) -> f64 {
        self.amount.base()
    }

    /// Lowest and highest, in base units.
    #[must_use]
    pub fn ends(&self) -> (f64, f64) {
        let off = self.amount.unit.difference_to_base(self.half_width);
        (self.base() - off, self.base() + off)
    }
}

/// An amount in words, where exactness does not matter.
pub(super) struct Roughly {
    /// As written.
    pub said: String,
    /// The volume of so many drops; none of pieces and a spatula tip.
    pub stated: Option<Stated>,
}

/// What a drop holds, mL, where nobody says it.
///
/// Source: Harris, Quantitative Chemical Analysis, 9th ed., 2.5 (a drop from a burette is about 0.05 mL).
const DROP_ML: &str = "0.05 mL";

impl Roughly {
    /// `3 drops`, `2 pieces`, `a spatula tip`; none of what is a quantity.
    pub fn read(text: &str, drop: Option<&Stated>) -> Option<Roughly> {
        let said = text.trim();
        let (count, what) = said.split_once(' ')?;
        let count = match count {
            "a" | "an" | "one" => Decimal::new(1, 0),
            number => Decimal::parse(number).ok().filter(|n| !n.is_negative())?,
        };
        let stated = match what.trim() {
            "drop" | "drops" => {
                let own = drop.cloned().or_else(|| Stated::parse(DROP_ML).ok())?;
                let value = own.amount.value.times(count)?;
                let amount = Amount { value, unit: own.amount.unit };
                Some(Stated { amount, half_width: own.half_width * count.to_f64(), ranged: false, basis: None })
            }
            "piece" | "pieces" | "spatula tip" | "spatula tips" => None,
            _ => return None,
        };
        Some(Roughly { said: said.to_owned(), stated })
    }
}

fn between(low: Decimal, high: Amount, basis: Option<Basis>) -> Result<Stated, QuantityError> {
    let width = high.value.minus(low).filter(|w| !w.is_negative() && w.to_f64() > 0.0);
    let width = width.ok_or(QuantityError::EmptyRange)?.to_f64();
    let middle = low.plus(high.value).and_then(|sum| sum.times(Decimal::new(5, -1)));
    let value = middle.ok_or(QuantityError::BeyondMeasure)?;
    Ok(Stated { amount: Amount { value, unit: high.unit }, half_width: width / 2.0, ranged: true, basis })
}

/// A level that something is brought to: `60 °C`, `pH 5.00`.
#[derive(Debug, Clone, PartialEq)]
pub struct Level {
    /// With its unit; of a pH a number.
    pub amount: Amount,
    /// Whether it is a pH.
    pub is_ph: bool,
}

impl Level {
    /// The level that a text means.
    ///
    /// # Errors
    /// [`QuantityError`]: no number, no unit, a pH beyond −2 to 16.
    pub fn parse(text: &str) -> Result<Level, QuantityError> {
        match text.trim().strip_prefix("pH") {
            Some(number) => Level::of_ph(Decimal::parse(number.trim())?),
            None => Ok(Level { amount: Amount::parse(text)?, is_ph: false }),
        }
    }

    pub(super) fn ph(ph: f64) -> Result<Level, QuantityError> {
        Level::of_ph(measure::rounding::decimal_of(ph).ok_or(QuantityError::BeyondMeasure)?)
    }

    fn of_ph(ph: Decimal) -> Result<Level, QuantityError> {
        if !(-2.0..=16.0).contains(&ph.to_f64()) {
            return Err(QuantityError::NoPh);
        }
        Ok(Level { amount: Amount { value: ph, unit: Unit::one() }, is_ph: true })
    }
}

/// A span of time as written, in minutes: `24 h`, `10 to 20 min`, `at least 1 day`.
///
/// # Errors
/// A sentence that says what is wrong.
pub fn minutes(text: &str) -> Result<(f64, Option<f64>), String> {
    let told = || format!("'{text}' is no time: write '24 h', '10 to 20 min' or 'at least 1 day'");
    let (text, open) = match text.trim().strip_prefix("at least ") {
        Some(rest) => (rest, true),
        None => (text.trim(), false),
    };
    let (number, unit) = text.rsplit_once(char::is_whitespace).ok_or_else(told)?;
    let factor = match unit {
        "min" | "minutes" => 1.0,
        "h" | "hours" | "hour" => 60.0,
        "d" | "day" | "days" => 1440.0,
        "week" | "weeks" => 10_080.0,
        _ => return Err(told()),
    };
    let read = |n: &str| Decimal::parse(n.trim()).map(|d| d.to_f64() * factor).map_err(|_| told());
    let (low, high) = match number.split_once(" to ") {
        Some((low, high)) => (read(low)?, Some(read(high)?)),
        None => (read(number)?, None),
    };
    if low < 0.0 || high.is_some_and(|h| h < low) {
        return Err(told());
    }
    Ok((low, high.or((!open).then_some(low))))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_quantity_keeps_its_digits_its_band_and_its_basis() {
        let stated = Stated::parse("3.0 ± 0.1 g").unwrap();
        assert_eq!((stated.amount.value.to_string().as_str(), stated.half_width), ("3.0", 0.1));
        let (low, high) = Stated::parse("0.9 to 1.1 mol/L").unwrap().ends();
        assert!((low - 0.9).abs() < 1e-12 && (high - 1.1).abs() < 1e-12);
        assert_eq!(Stated::parse("10 % w/v").unwrap().basis, Some(Basis::MassInVolume));
        assert_eq!(Stated::parse("10 %").unwrap().basis, None);
    }

    #[test]
    fn nonsense_is_told() {
        let told = |text| Stated::positive(text, &[Dimension::MASS]).unwrap_err().to_string();
        assert_eq!(told("0 g"), "an amount is more than nothing");
        assert_eq!(told("-3 g"), "an amount is more than nothing");
        assert_eq!(told("3 mL"), "this is a volume; here belongs a mass");
        assert_eq!(told("2 to 1 g"), "a range goes from the lower to the higher value");
        assert_eq!(told("3 g w/v"), "'w/v' says what a percentage refers to: write '% w/v'");
        assert!(told("3 furlong").starts_with("'furlong' is no unit known here"));
    }

    #[test]
    fn a_wait_is_a_time() {
        assert_eq!(minutes("at least 1 day"), Ok((1440.0, None)));
        assert_eq!(minutes("10 to 20 min"), Ok((10.0, Some(20.0))));
        assert_eq!(minutes("24 h"), Ok((1440.0, Some(1440.0))));
        assert!(minutes("overnight").unwrap_err().starts_with("'overnight' is no time"));
        assert!(minutes("20 to 10 min").is_err());
    }
}
