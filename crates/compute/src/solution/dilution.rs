//! Dilution and mixing, in every direction and any one kind of strength.

use super::one;
use crate::worksheet::Worksheet;
use crate::{ComputeError, Measured};
use measure::Dimension;
use serde::Deserialize;

/// How much stock for this volume of a weaker solution? Any one kind of strength.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Dilute {
    /// Strength of the stock.
    pub stock: Measured,
    /// Strength wanted.
    pub target: Measured,
    /// To be made.
    pub volume: Measured,
    /// Step of what the stock is measured out with: the volume is rounded to it.
    #[serde(default)]
    pub step: Option<String>,
}

impl Dilute {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Dilute { stock, target, volume, .. } = self;
        let mut sheet = Worksheet::default();
        let (dimension, _) = strength_of(stock)?;
        sheet.divisor("c_stock", "stock", stock, dimension)?;
        sheet.divisor("c", "target", target, dimension)?;
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        weaker(target.amount("target", dimension)?.base(), stock.amount("stock", dimension)?.base())?;
        sheet.define("V_stock", "volume of stock", "c * V / c_stock", "mL");
        sheet.define(
            "V_solvent",
            "solvent, if volumes were additive; make up to the mark instead",
            "V - V_stock",
            "mL",
        );
        sheet.define("factor", "dilution factor", "c_stock / c", "1");
        Ok(sheet)
    }
}

/// What strength does a dilution have?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Diluted {
    /// Strength of the stock.
    pub stock: Measured,
    /// What was taken of it.
    pub taken: Measured,
    /// Volume it was made up to.
    pub volume: Measured,
}

impl Diluted {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Diluted { stock, taken, volume } = self;
        let mut sheet = Worksheet::default();
        let (dimension, unit) = strength_of(stock)?;
        sheet.reading("c_stock", "stock", stock, dimension)?;
        sheet.reading("V_taken", "taken", taken, Dimension::VOLUME)?;
        sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
        sheet.define("c", "strength", "c_stock * V_taken / V", &unit);
        Ok(sheet)
    }
}

/// Strengths of a dilution series.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Serial {
    /// Strength to start from.
    pub stock: Measured,
    /// Taken at each step.
    pub transfer: Measured,
    /// Made up to at each step.
    pub volume: Measured,
    /// How many steps, at most 20.
    pub steps: u32,
}

impl Serial {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Serial { stock, transfer, volume, steps } = self;
        let mut sheet = Worksheet::default();
        let (dimension, unit) = strength_of(stock)?;
        sheet.reading("c_stock", "stock", stock, dimension)?;
        sheet.divisor("V_transfer", "transfer", transfer, Dimension::VOLUME)?;
        sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
        if transfer.amount("transfer", Dimension::VOLUME)?.base() > volume.amount("volume", Dimension::VOLUME)?.base() {
            return Err(ComputeError::impossible("more is transferred than the flask holds"));
        }
        sheet.define("step", "factor of one step", "V / V_transfer", "1");
        sheet.define("c_0", "undiluted", "c_stock * 1", &unit);
        for i in 1..=(*steps).min(20) {
            sheet.define(&format!("c_{i}"), format!("after step {i}"), format!("c_{} / step", i - 1), &unit);
        }
        sheet.define("factor", "factor in all", format!("step^{}", (*steps).min(20)), "1");
        Ok(sheet)
    }
}

/// Volumes of stock for a set of standards.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Standards {
    /// Strength of the stock.
    pub stock: Measured,
    /// Volume of each flask.
    pub volume: Measured,
    /// Strengths wanted, at most 20; of a blank nothing.
    pub targets: Vec<Measured>,
    /// Step of what the stock is measured out with: each volume is rounded to it.
    #[serde(default)]
    pub step: Option<String>,
    /// What stays behind in the glass of the stock.
    #[serde(default)]
    pub left_in_glass: Option<Measured>,
}

impl Standards {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Standards { stock, volume, targets, left_in_glass, .. } = self;
        let mut sheet = Worksheet::default();
        let (dimension, _) = strength_of(stock)?;
        sheet.divisor("c_stock", "stock", stock, dimension)?;
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        let stronger = stock.amount("stock", dimension)?.base();
        let mut all = Vec::new();
        for (i, target) in (1..=20).zip(targets) {
            weaker(target.amount("target", dimension)?.base(), stronger)?;
            sheet.reading(&format!("c_{i}"), "target", target, dimension)?;
            sheet.define(
                &format!("V_{i}"),
                format!("stock for {}", target.text()),
                format!("c_{i} * V / c_stock"),
                "mL",
            );
            all.push(format!("V_{i}"));
        }
        if all.is_empty() {
            return Err(ComputeError::undefined("say which strengths are wanted"));
        }
        if let Some(left) = left_in_glass {
            sheet.reading("V_left", "left in the glass", left, Dimension::VOLUME)?;
            all.push("V_left".into());
        }
        sheet.define("V_total", "stock in all", all.join(" + "), "mL");
        Ok(sheet)
    }
}

/// Strength of a mixture; volumes taken as additive.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Mix {
    /// Solutions, at most 10.
    pub parts: Vec<MixPart>,
}

impl Mix {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Mix { parts } = self;
        let first = parts.first().ok_or_else(|| ComputeError::undefined("a mixture has parts"))?;
        let (dimension, unit) = strength_of(&first.strength)?;
        let mut sheet = Worksheet::default();
        let (mut amounts, mut volumes) = (Vec::new(), Vec::new());
        for (i, part) in (1..=10).zip(parts) {
            sheet.reading(&format!("c_{i}"), "strength", &part.strength, dimension)?;
            sheet.reading(&format!("V_{i}"), "volume", &part.volume, Dimension::VOLUME)?;
            let units = if part.per_unit == 1 { String::new() } else { format!(" * {}", part.per_unit) };
            amounts.push(format!("c_{i} * V_{i}{units}"));
            volumes.push(format!("V_{i}"));
        }
        sheet.define("V", "volume of the mixture, taken as additive", volumes.join(" + "), "mL");
        sheet.define("c", "strength of the mixture", format!("({}) / V", amounts.join(" + ")), &unit);
        Ok(sheet)
    }
}

/// Volumes of a stronger and a weaker solution; volumes taken as additive.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MixTo {
    /// The stronger one.
    pub high: Measured,
    /// The weaker one.
    pub low: Measured,
    /// Wanted.
    pub target: Measured,
    /// To be made.
    pub volume: Measured,
}

impl MixTo {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let MixTo { high, low, target, volume } = self;
        let (dimension, _) = strength_of(high)?;
        let mut sheet = Worksheet::default();
        for (symbol, field, strength) in [("c_high", "high", high), ("c_low", "low", low), ("c", "target", target)] {
            sheet.reading(symbol, field, strength, dimension)?;
        }
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        let base = |m: &Measured| m.amount("strength", dimension).map(|a| a.base());
        let (high, low, target) = (base(high)?, base(low)?, base(target)?);
        if high <= low || target > high || target < low {
            return Err(ComputeError::impossible("the target has to lie between the weaker and the stronger solution"));
        }
        sheet.define("V_high", "of the stronger one", "V * (c - c_low) / (c_high - c_low)", "mL");
        sheet.define("V_low", "of the weaker one, volumes taken as additive", "V - V_high", "mL");
        Ok(sheet)
    }
}

/// One solution of a mixture.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MixPart {
    /// Its strength.
    pub strength: Measured,
    /// How much of it.
    pub volume: Measured,
    /// How many of the ion in question one formula unit gives.
    #[serde(default = "one")]
    pub per_unit: u32,
}

fn weaker(target: f64, stock: f64) -> Result<(), ComputeError> {
    if target > stock {
        return Err(ComputeError::impossible("a dilution cannot be stronger than its stock"));
    }
    Ok(())
}

/// What kind of strength this is, and the unit to answer in.
pub(super) fn strength_of(strength: &Measured) -> Result<(Dimension, String), ComputeError> {
    for dimension in [Dimension::CONCENTRATION, Dimension::DENSITY, Dimension::ONE] {
        if let Ok(amount) = strength.amount("strength", dimension) {
            return Ok((dimension, amount.unit.written().to_owned()));
        }
    }
    // Told by the dimension that is usual.
    strength
        .amount("strength", Dimension::CONCENTRATION)
        .map(|a| (Dimension::CONCENTRATION, a.unit.written().to_owned()))
}
