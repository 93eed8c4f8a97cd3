//! Gases as ideal: amounts from a volume, over water or dry, and what follows from them.

use super::found::ratio_term;
use super::worksheet::Worksheet;
use super::{ComputeError, Found, Measured, Worked};
use chem::MassTable;
use measure::Dimension;
use practical::book;
use serde::Deserialize;

/// A question about a gas.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum GasQuestion {
    /// How much gas is in a volume, and what volume has it under named conditions?
    Amount {
        /// What was read.
        sample: GasSample,
    },
    /// Vapour pressure of water.
    VapourPressure {
        /// Of the water.
        temperature: Measured,
    },
    /// Molar mass of a metal from the hydrogen that it gives off.
    Metal {
        /// The metal, for the yield of gas.
        metal: String,
        /// What was weighed.
        mass: Measured,
        /// Molecules of gas for each atom of the metal.
        ratio: String,
        /// The gas.
        sample: GasSample,
    },
    /// Molar mass of a liquid from the vapour that fills a flask.
    VolatileLiquid(Vapour),
    /// Molar mass of a gas from its density.
    Density {
        /// Of the gas.
        mass: Measured,
        /// That it fills.
        volume: Measured,
        /// Of the gas.
        temperature: Measured,
        /// Of the gas.
        pressure: Measured,
    },
    /// The gas constant from a metal whose molar mass is known.
    Constant {
        /// The metal.
        metal: String,
        /// What was weighed.
        mass: Measured,
        /// Molecules of gas for each atom of the metal.
        ratio: String,
        /// The gas.
        sample: GasSample,
    },
    /// How much of the gas that a substance can give was caught?
    Yield {
        /// What gives the gas off.
        substance: String,
        /// What was weighed.
        mass: Measured,
        /// Mass fraction of the substance in it.
        #[serde(default)]
        purity: Option<Measured>,
        /// Molecules of gas for each formula unit.
        ratio: String,
        /// The gas.
        sample: GasSample,
    },
    /// The volume under other conditions.
    Correction {
        /// The volume.
        volume: Measured,
        /// Where it was read.
        from: Conditions,
        /// Where it is asked for.
        to: Conditions,
    },
    /// The volume of a mole.
    MolarVolume {
        /// Where.
        at: Conditions,
    },
}

/// A gas as it was read.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GasSample {
    /// As read.
    pub volume: Measured,
    /// Of the gas, and of the water where it stands over water.
    pub temperature: Measured,
    /// Of the gas, or of the air around where it stands over water.
    pub pressure: Measured,
    /// Caught over water, so that it is wet.
    #[serde(default)]
    pub over_water: bool,
    /// How much higher the water stands inside than outside; lower is negative.
    #[serde(default)]
    pub column: Option<Measured>,
}

/// A temperature and a pressure.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = GasConditions))]
#[serde(deny_unknown_fields)]
pub struct Conditions {
    /// Of the gas.
    pub temperature: Measured,
    /// Of the gas.
    pub pressure: Measured,
}

/// A flask filled with vapour, emptied of air by it, cooled and weighed.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Vapour {
    /// What the flask weighs more than at the beginning, when it held air.
    pub gain: Measured,
    /// Volume of the flask.
    pub volume: Measured,
    /// Of the bath.
    pub temperature: Measured,
    /// Of the air.
    pub pressure: Measured,
    /// The air that the liquid's own vapour keeps out of the flask at the last weighing, where it is counted.
    #[serde(default)]
    pub displaced: Option<Displaced>,
}

/// Air that vapour keeps out of a cold flask.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = DisplacedAir))]
#[serde(deny_unknown_fields)]
pub struct Displaced {
    /// Vapour pressure of the liquid in the room.
    pub vapour_pressure: Measured,
    /// Of the room.
    pub temperature: Measured,
    /// Of air, 28.96 g/mol.
    pub molar_mass: Measured,
}

/// Conditions that volumes are named by: label, temperature in K, pressure in Pa.
const NAMED: [(&str, &str, &str, &str); 4] = [
    ("V_stp_bar", "volume at 0 °C and 100 kPa", "273.15", "100000"),
    ("V_stp_atm", "volume at 0 °C and 101.325 kPa", "273.15", "101325"),
    ("V_satp", "volume at 25 °C and 100 kPa", "298.15", "100000"),
    ("V_room", "volume at 20 °C and 101.325 kPa", "293.15", "101325"),
];

pub(super) fn answer(question: &GasQuestion) -> Result<Found, ComputeError> {
    let mut sheet = Worksheet::by_table(&MassTable::default());
    match question {
        GasQuestion::Amount { sample } => {
            amount(&mut sheet, sample)?;
            sheet.define("V_m", "volume of a mole, as measured", "V / n", "L/mol");
            for (name, label, kelvin, pascal) in NAMED {
                sheet.define(
                    name,
                    label,
                    book::volume_of_gas("n", &format!("{kelvin} K"), &format!("{pascal} Pa")),
                    "mL",
                );
            }
        }
        GasQuestion::VapourPressure { temperature } => {
            sheet.temperature("T", temperature)?;
            sheet.define("p_water", "vapour pressure of water", "p_water(T)", "Pa");
        }
        GasQuestion::Metal { metal, mass, ratio: each, sample } => {
            of_metal(&mut sheet, metal, mass, each, sample)?;
            sheet.define("molar_mass", "molar mass of the metal", "m / n_metal", "g/mol");
            sheet.define("n_weighed", "amount of metal by its atomic mass", "m / M(metal)", "mol");
            sheet.define("per_metal", "gas for each metal", "n / n_weighed", "1");
            let per_gas = format!("V / (n_weighed * {})", ratio_term("ratio", each)?);
            sheet.define("V_m", "volume of a mole, as measured", per_gas, "L/mol");
            for (name, label, pascal) in [
                ("V_m_stp_bar", "dry, at 0 °C and 100 kPa", "100000"),
                ("V_m_stp_atm", "dry, at 0 °C and 101.325 kPa", "101325"),
            ] {
                let moved = format!("V_m * p / T * 273.15 K / ({pascal} Pa)");
                sheet.define(name, format!("volume of a mole {label}"), moved, "L/mol");
            }
            sheet.define("gas_yield", "gas found of what the metal can give", "n_metal / n_weighed", "%");
        }
        GasQuestion::VolatileLiquid(q) => vapour(&mut sheet, q)?,
        GasQuestion::Density { mass, volume, temperature, pressure } => {
            sheet.divisor("m", "mass", mass, Dimension::MASS)?;
            sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
            sheet.temperature("T", temperature)?;
            sheet.divisor("p", "pressure", pressure, Dimension::PRESSURE)?;
            sheet.define("rho", "density", "m / V", "g/L");
            sheet.draft("n", book::amount_of_gas("p", "V", "T"));
            sheet.define("molar_mass", "molar mass", "m / n", "g/mol");
        }
        GasQuestion::Constant { metal, mass, ratio: each, sample } => {
            dry(&mut sheet, sample)?;
            sheet.material("metal", metal, None)?;
            sheet.divisor("m", "mass", mass, Dimension::MASS)?;
            sheet.draft("n", format!("m / M(metal) * {}", ratio_term("ratio", each)?));
            sheet.define("R", "gas constant", "p * V / (n * T)", "J/(mol K)");
            let accepted = format!("{} J/mol/K", book::GAS_CONSTANT);
            sheet.define("error", "distance from the accepted value", book::relative_error("R", &accepted), "%");
        }
        GasQuestion::Yield { substance, mass, purity, ratio: each, sample } => {
            amount(&mut sheet, sample)?;
            sheet.material("source", substance, None)?;
            sheet.divisor("m", "mass", mass, Dimension::MASS)?;
            if let Some(purity) = purity {
                sheet.fraction("w", "purity", purity)?;
            }
            sheet.draft("n_source", book::amount_of_solid("m", purity.as_ref().map(|_| "w"), "M(source)"));
            let expected = book::converted("n_source", &ratio_term("ratio", each)?);
            sheet.define("n_expected", "gas that it can give", expected, "mol");
            sheet.define("percent_yield", "percent yield", book::part("n", "n_expected"), "%");
            sheet.define(
                "V_expected",
                "volume that it can give, as read",
                book::volume_of_gas("n_expected", "T", "p"),
                "mL",
            );
        }
        GasQuestion::Correction { volume, from, to } => {
            sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
            for (i, conditions) in [from, to].into_iter().enumerate() {
                sheet.temperature(&format!("T_{}", i + 1), &conditions.temperature)?;
                sheet.divisor(&format!("p_{}", i + 1), "pressure", &conditions.pressure, Dimension::PRESSURE)?;
            }
            sheet.define("V_2", "volume under the other conditions", "V * p_1 / p_2 * T_2 / T_1", "mL");
        }
        GasQuestion::MolarVolume { at } => {
            sheet.temperature("T", &at.temperature)?;
            sheet.divisor("p", "pressure", &at.pressure, Dimension::PRESSURE)?;
            sheet.define("V_m", "volume of a mole", book::volume_of_gas("1 mol", "T", "p") + " / (1 mol)", "L/mol");
        }
    }
    Ok(more_than_all(sheet.solve()?.into()))
}

/// Remarks on more gas than the substance can give, by more than its uncertainty.
fn more_than_all(found: Found) -> Found {
    let above =
        |r: &super::Computed| (r.value - r.expanded_uncertainty > 100.0).then_some(super::Remark::MoreThanPossible);
    found.remarked("gas_yield", above).remarked("percent_yield", above)
}

/// Puts V, T and the pressure of the dry gas into the sheet.
pub(super) fn dry(sheet: &mut Worksheet, sample: &GasSample) -> Result<(), ComputeError> {
    sheet.divisor("V", "volume", &sample.volume, Dimension::VOLUME)?;
    dry_pressure(sheet, sample)
}

/// Puts T and the pressure of the dry gas into the sheet.
fn dry_pressure(sheet: &mut Worksheet, sample: &GasSample) -> Result<(), ComputeError> {
    gas_pressure(sheet, &sample.temperature, &sample.pressure, sample.over_water, sample.column.as_ref())
}

/// Puts T and p, the pressure of the dry gas, into the sheet.
pub(super) fn gas_pressure(
    sheet: &mut Worksheet,
    temperature: &Measured,
    pressure: &Measured,
    over_water: bool,
    column: Option<&Measured>,
) -> Result<(), ComputeError> {
    sheet.temperature("T", temperature)?;
    sheet.divisor("p_read", "pressure", pressure, Dimension::PRESSURE)?;
    if over_water {
        sheet.define("p_water", "vapour pressure of water", "p_water(T)", "Pa");
    }
    if let Some(column) = column {
        sheet.signed("h", "column", column, Dimension::LENGTH)?;
        sheet.draft("p_column", book::pressure_of_column("h"));
    }
    let less = [(over_water, " - p_water"), (column.is_some(), " - p_column")];
    let less: String = less.into_iter().filter_map(|(is_so, text)| is_so.then_some(text)).collect();
    let first = if less.is_empty() { "p_read * 1".to_owned() } else { format!("p_read{less}") };
    sheet.define("p", "pressure of the dry gas", first, "Pa");
    Ok(())
}

/// Puts the amount of a gas into the sheet.
pub(super) fn amount(sheet: &mut Worksheet, sample: &GasSample) -> Result<(), ComputeError> {
    dry(sheet, sample)?;
    sheet.define("n", "amount of gas", book::amount_of_gas("p", "V", "T"), "mol");
    Ok(())
}

fn of_metal(
    sheet: &mut Worksheet,
    metal: &str,
    mass: &Measured,
    each: &str,
    sample: &GasSample,
) -> Result<(), ComputeError> {
    amount(sheet, sample)?;
    sheet.material("metal", metal, None)?;
    sheet.divisor("m", "mass", mass, Dimension::MASS)?;
    sheet.define("n_metal", "amount of metal by its gas", format!("n / {}", ratio_term("ratio", each)?), "mol");
    Ok(())
}

fn vapour(sheet: &mut Worksheet, q: &Vapour) -> Result<(), ComputeError> {
    sheet.signed("m_gain", "gain", &q.gain, Dimension::MASS)?;
    sheet.divisor("V", "volume", &q.volume, Dimension::VOLUME)?;
    sheet.temperature("T", &q.temperature)?;
    sheet.divisor("p", "pressure", &q.pressure, Dimension::PRESSURE)?;
    let mass = if let Some(displaced) = &q.displaced {
        // A correction of a part in ten or less: worked out apart, so that its own uncertainty is not counted.
        let exact = |m: &Measured| Measured::Known { value: m.text().to_owned(), components: Vec::new() };
        let mut apart = Worksheet::default();
        apart.divisor("p", "vapour_pressure", &exact(&displaced.vapour_pressure), Dimension::PRESSURE)?;
        apart.temperature("T", &exact(&displaced.temperature))?;
        apart.divisor("M_air", "molar_mass", &exact(&displaced.molar_mass), Dimension::MOLAR_MASS)?;
        apart.divisor("V", "volume", &exact(&q.volume), Dimension::VOLUME)?;
        apart.define("m_air", "air kept out", book::mass_of(&book::amount_of_gas("p", "V", "T"), "M_air"), "g");
        let air = result(&apart.solve()?, "m_air")?;
        sheet.exact("m_air", air, "g");
        "m_gain + m_air"
    } else {
        "m_gain * 1"
    };
    sheet.define("m_vapour", "mass of the vapour", mass, "g");
    sheet.define("n", "amount of vapour", book::amount_of_gas("p", "V", "T"), "mol");
    sheet.define("molar_mass", "molar mass", "m_vapour / n", "g/mol");
    Ok(())
}

/// The value of a result that a sheet is known to have.
pub(super) fn result(worked: &Worked, name: &str) -> Result<f64, ComputeError> {
    worked.result(name).map(|r| r.value).ok_or_else(|| ComputeError::undefined(format!("there is no {name}")))
}
