//! Freezing points: ΔT = Kf·b, with b the molality of all particles.

use crate::worksheet::Worksheet;
use crate::{ComputeError, Found, Measured, Remark};
use measure::Dimension;

/// K kg/mol.
const CRYOSCOPIC: Dimension = Dimension::CRYOSCOPIC;

fn whole(field: &str, number: u32) -> Result<u32, ComputeError> {
    if (1..=20).contains(&number) {
        return Ok(number);
    }
    Err(ComputeError::quantity(field, format!("a number from 1 to 20, not {number}")))
}

pub(super) fn freezing_point(
    [solute, solvent, constant, pure, solution]: [&Measured; 5],
    particles: u32,
) -> Result<Found, ComputeError> {
    let mut sheet = Worksheet::default();
    sheet.divisor("m", "solute", solute, Dimension::MASS)?;
    sheet.divisor("m_solvent", "solvent", solvent, Dimension::MASS)?;
    sheet.divisor("K_f", "constant", constant, CRYOSCOPIC)?;
    sheet.temperature("T_pure", pure)?;
    sheet.temperature("T_solution", solution)?;
    let kelvin = |m: &Measured| m.amount("temperature", Dimension::TEMPERATURE).map(|a| a.base());
    if kelvin(solution)? >= kelvin(pure)? {
        return Err(ComputeError::undefined("the solution does not freeze below the solvent"));
    }
    sheet.define("depression", "depression of the freezing point", "T_pure - T_solution", "K");
    sheet.define("molality", "molality of particles", "depression / K_f", "mol/kg");
    let molar_mass = format!("{} * m / (molality * m_solvent)", whole("particles", particles)?);
    sheet.define("molar_mass", "molar mass", molar_mass, "g/mol");
    Ok(sheet.solve()?.into())
}

pub(super) fn vant_hoff(
    [solute, molar_mass, solvent, constant, depression]: [&Measured; 5],
    ions: u32,
) -> Result<Found, ComputeError> {
    let mut sheet = Worksheet::default();
    sheet.divisor("m", "solute", solute, Dimension::MASS)?;
    sheet.divisor("M", "molar_mass", molar_mass, Dimension::MOLAR_MASS)?;
    sheet.divisor("m_solvent", "solvent", solvent, Dimension::MASS)?;
    sheet.divisor("K_f", "constant", constant, CRYOSCOPIC)?;
    sheet.divisor("depression", "depression", depression, Dimension::TEMPERATURE)?;
    sheet.draft("molality", "m / M / m_solvent");
    sheet.define("i", "particles for each formula unit", "depression / (K_f * molality)", "1");
    let ions = whole("ions", ions)?;
    if ions > 1 {
        sheet.define("apart", "part that has come apart", format!("(i - 1) / {}", ions - 1), "1");
    }
    let most = f64::from(ions);
    let more = |r: &crate::Computed| (r.value > most).then_some(Remark::MoreThanPossible);
    Ok(Found::from(sheet.solve()?).remarked("i", more))
}
