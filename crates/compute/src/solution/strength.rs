//! Strengths: what to weigh for one, what was made, and one strength said in several ways.

use super::one;
use crate::worksheet::Worksheet;
use crate::{ComputeError, Measured};
use chem::MassTable;
use measure::Dimension;
use serde::Deserialize;

/// How much solid for this volume of this strength?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WeighOut {
    /// Formula as it is weighed, hydrate included.
    pub solute: String,
    /// Strength: an amount concentration, or a mass concentration of `species`.
    pub strength: Measured,
    /// What the strength counts, where that is an ion or an element of the solute.
    #[serde(default)]
    pub species: Option<String>,
    /// How many of them one formula unit gives.
    #[serde(default = "one")]
    pub per_unit: u32,
    /// To be made.
    pub volume: Measured,
    /// Mass fraction of the solid; pure if left out.
    #[serde(default)]
    pub purity: Option<Measured>,
    /// Display step of the balance: the mass is rounded to it.
    #[serde(default)]
    pub step: Option<String>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl WeighOut {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let WeighOut { solute, strength, species, per_unit, volume, purity, masses, .. } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("solute", solute, None)?;
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        let by_mass = strength.amount("strength", Dimension::DENSITY).is_ok();
        if by_mass {
            sheet.material("species", species.as_deref().unwrap_or(solute), None)?;
            sheet.reading("rho", "strength", strength, Dimension::DENSITY)?;
            sheet.define("c", "amount concentration", "rho / M(species)", "mol/L");
        } else {
            sheet.reading("c", "strength", strength, Dimension::CONCENTRATION)?;
        }
        let units = if *per_unit == 1 { String::new() } else { format!(" / {}", (*per_unit).max(1)) };
        sheet.define("n", "amount of solute", format!("c * V{units}"), "mol");
        let purity = purity_divisor(&mut sheet, purity.as_ref())?;
        sheet.define("m_solute", format!("mass of {solute}"), format!("n * M(solute){purity}"), "g");
        Ok(sheet)
    }
}

/// What strength was made from what was really weighed?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Made {
    /// Formula as it is weighed.
    pub solute: String,
    /// What was weighed.
    pub mass: Measured,
    /// Mass fraction of the solid; pure if left out.
    #[serde(default)]
    pub purity: Option<Measured>,
    /// Volume it was made up to.
    pub volume: Measured,
    /// What the strength counts, where that is an ion or an anhydrous salt of which one formula unit gives several.
    #[serde(default = "one")]
    pub per_unit: u32,
    /// What was to be made: then also how far it is off.
    #[serde(default)]
    pub wanted: Option<Measured>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Made {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Made { solute, mass, purity, volume, per_unit, wanted, masses } = self;
        // How far atomic masses spread is far below what is weighed and measured.
        let mut sheet = Worksheet::by_table(masses);
        sheet.material("solute", solute, None)?;
        sheet.reading("m_solute", "mass", mass, Dimension::MASS)?;
        sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
        let purity = match purity {
            Some(p) => {
                sheet.fraction("w", "purity", p)?;
                " * w"
            }
            None => "",
        };
        let units = if *per_unit == 1 { String::new() } else { format!(" * {}", (*per_unit).max(1)) };
        sheet.define("c", "amount concentration", format!("m_solute{purity} / M(solute) / V{units}"), "mol/L");
        sheet.define("rho", "mass concentration", format!("m_solute{purity} / V"), "g/L");
        off(&mut sheet, wanted.as_ref())?;
        Ok(sheet)
    }
}

/// How much of a concentrated reagent, sold by mass fraction and density?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Concentrated {
    /// Formula of the reagent.
    pub solute: String,
    /// Mass fraction.
    pub mass_fraction: Measured,
    /// Density of the stock.
    pub density: Measured,
    /// Strength wanted.
    pub target: Measured,
    /// To be made.
    pub volume: Measured,
    /// Step of what the stock is measured out with: the volume is rounded to it.
    #[serde(default)]
    pub step: Option<String>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Concentrated {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Concentrated { solute, mass_fraction, density, target, volume, masses, .. } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("solute", solute, None)?;
        sheet.fraction("w", "mass fraction", mass_fraction)?;
        sheet.divisor("rho", "density", density, Dimension::DENSITY)?;
        sheet.reading("c", "target", target, Dimension::CONCENTRATION)?;
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        sheet.define("c_stock", "strength of the stock", "rho * w / M(solute)", "mol/L");
        sheet.define("V_stock", "volume of stock", "c * V / c_stock", "mL");
        sheet.define("m_stock", "mass of stock", "V_stock * rho", "g");
        let stock = density.amount("density", Dimension::DENSITY)?.base()
            * mass_fraction.amount("mass fraction", Dimension::ONE)?.base()
            / chem::Formula::parse(solute)?.molar_mass(masses)?.value;
        if target.amount("target", Dimension::CONCENTRATION)?.base() > stock {
            return Err(ComputeError::impossible("a dilution cannot be stronger than its stock"));
        }
        if mass_fraction.amount("mass fraction", Dimension::ONE)?.base() < 1.0 {
            sheet.define("molality", "amount per mass of water", "w / M(solute) / (1 - w)", "mol/kg");
        }
        Ok(sheet)
    }
}

/// What strength was made from what was really taken of a concentrated reagent?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MadeFromConcentrated {
    /// Formula of the reagent.
    pub solute: String,
    /// Mass fraction.
    pub mass_fraction: Measured,
    /// Density of the stock.
    pub density: Measured,
    /// Taken of it.
    pub taken: Measured,
    /// Volume it was made up to.
    pub volume: Measured,
    /// What was to be made: then also how far it is off.
    #[serde(default)]
    pub wanted: Option<Measured>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl MadeFromConcentrated {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let MadeFromConcentrated { solute, mass_fraction, density, taken, volume, wanted, masses } = self;
        // How far atomic masses spread is far below what is weighed and measured.
        let mut sheet = Worksheet::by_table(masses);
        sheet.material("solute", solute, None)?;
        sheet.fraction("w", "mass fraction", mass_fraction)?;
        sheet.divisor("rho", "density", density, Dimension::DENSITY)?;
        sheet.reading("V_taken", "taken", taken, Dimension::VOLUME)?;
        sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
        sheet.define("c_stock", "strength of the stock", "rho * w / M(solute)", "mol/L");
        sheet.define("c", "amount concentration", "c_stock * V_taken / V", "mol/L");
        off(&mut sheet, wanted.as_ref())?;
        Ok(sheet)
    }
}

/// A solution by what was weighed of solute and water, in every way of saying it.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Describe {
    /// Formula.
    pub solute: String,
    /// Mass of solute.
    pub solute_mass: Measured,
    /// Mass of water.
    pub solvent_mass: Measured,
    /// Density of the solution.
    pub density: Measured,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Describe {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let Describe { solute, solute_mass, solvent_mass, density, masses } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("solute", solute, None)?;
        sheet.material("water", "H2O", None)?;
        sheet.reading("m_solute", "solute", solute_mass, Dimension::MASS)?;
        sheet.divisor("m_water", "water", solvent_mass, Dimension::MASS)?;
        sheet.divisor("rho", "density", density, Dimension::DENSITY)?;
        sheet.define("V", "volume of solution", "(m_solute + m_water) / rho", "mL");
        sheet.define("w_w", "percent by mass (w/w)", "m_solute / (m_solute + m_water)", "%");
        sheet.define("w_v", "percent of mass per volume (w/v, g in 100 mL)", "m_solute / V / (1 g/mL)", "%");
        sheet.define("n", "amount of solute", "m_solute / M(solute)", "mol");
        sheet.define("c", "amount concentration", "n / V", "mol/L");
        sheet.define("b", "molality", "n / m_water", "mol/kg");
        sheet.define("x", "mole fraction", "n / (n + m_water / M(water))", "1");
        Ok(sheet)
    }
}

/// Mass and amount concentration for a percentage of mass per volume.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PercentWv {
    /// Formula.
    pub solute: String,
    /// 1 % is 1 g in 100 mL.
    pub percent: Measured,
    /// To be made.
    pub volume: Measured,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl PercentWv {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let PercentWv { solute, percent, volume, masses } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("solute", solute, None)?;
        sheet.reading("p", "percent", percent, Dimension::ONE)?;
        sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
        sheet.define("rho", "mass concentration", "p * 1 g/mL", "g/L");
        sheet.define("m_solute", format!("mass of {solute}"), "rho * V", "g");
        sheet.define("c", "amount concentration", "rho / M(solute)", "mol/L");
        Ok(sheet)
    }
}

/// Strength of a percentage of volume per volume.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PercentVv {
    /// Formula.
    pub solute: String,
    /// Volume fraction.
    pub percent: Measured,
    /// Density of the pure solute.
    pub density: Measured,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl PercentVv {
    /// The sheet that answers it.
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let PercentVv { solute, percent, density, masses } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("solute", solute, None)?;
        sheet.fraction("p", "percent", percent)?;
        sheet.divisor("rho_pure", "density", density, Dimension::DENSITY)?;
        sheet.define("rho", "mass concentration", "p * rho_pure", "g/L");
        sheet.define("w_v", "percent of mass per volume (w/v, g in 100 mL)", "rho / (1 g/mL)", "%");
        sheet.define("c", "amount concentration", "rho / M(solute)", "mol/L");
        Ok(sheet)
    }
}

fn purity_divisor(sheet: &mut Worksheet, purity: Option<&Measured>) -> Result<&'static str, ComputeError> {
    let Some(purity) = purity else { return Ok("") };
    sheet.fraction("w", "purity", purity)?;
    Ok(" / w")
}

/// How far what was made is off from what was to be made.
fn off(sheet: &mut Worksheet, wanted: Option<&Measured>) -> Result<(), ComputeError> {
    if let Some(wanted) = wanted {
        sheet.divisor("c_wanted", "wanted", wanted, Dimension::CONCENTRATION)?;
        sheet.define("off", "off from what was to be made", "c / c_wanted - 1", "%");
    }
    Ok(())
}
