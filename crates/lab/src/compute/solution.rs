//! Solutions: what to weigh or measure for a strength, what strength was really made, dilution in every direction.
//!
//! n = c·V; m = n·M/w; c₁V₁ = c₂V₂; a stock by mass fraction has c = ρ·w/M. Percentages say what they refer to: `1 %` w/v is
//! 1 g in 100 mL, never left open. Volumes add only where that is said.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.10; Harris, Quantitative Chemical Analysis, 9th ed., 1.3 and 1.4.

use super::worksheet::Worksheet;
use super::{ComputeError, Measured, Worked};
use chem::MassTable;
use measure::rounding::{Ties, decimal_of, to_place};
use measure::{Decimal, Dimension};
use serde::{Deserialize, Serialize};

/// A question about a solution.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum SolutionQuestion {
    /// How much solid for this volume of this strength?
    WeighOut {
        /// Formula as it is weighed, hydrate included.
        solute: String,
        /// Strength: an amount concentration, or a mass concentration of `species`.
        strength: Measured,
        /// What the strength counts, where that is an ion or an element of the solute.
        #[serde(default)]
        species: Option<String>,
        /// How many of them one formula unit gives.
        #[serde(default = "one")]
        per_unit: u32,
        /// To be made.
        volume: Measured,
        /// Mass fraction of the solid; pure if left out.
        #[serde(default)]
        purity: Option<Measured>,
        /// Display step of the balance: the mass is rounded to it.
        #[serde(default)]
        step: Option<String>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// What strength was made from what was really weighed?
    Made {
        /// Formula as it is weighed.
        solute: String,
        /// What was weighed.
        mass: Measured,
        /// Mass fraction of the solid; pure if left out.
        #[serde(default)]
        purity: Option<Measured>,
        /// Volume it was made up to.
        volume: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// How much stock for this volume of a weaker solution? Any one kind of strength.
    Dilute {
        /// Strength of the stock.
        stock: Measured,
        /// Strength wanted.
        target: Measured,
        /// To be made.
        volume: Measured,
    },
    /// What strength does a dilution have?
    Diluted {
        /// Strength of the stock.
        stock: Measured,
        /// What was taken of it.
        taken: Measured,
        /// Volume it was made up to.
        volume: Measured,
    },
    /// How much of a concentrated reagent, sold by mass fraction and density?
    Concentrated {
        /// Formula of the reagent.
        solute: String,
        /// Mass fraction.
        mass_fraction: Measured,
        /// Density of the stock.
        density: Measured,
        /// Strength wanted.
        target: Measured,
        /// To be made.
        volume: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// A solution by what was weighed of solute and water, in every way of saying it.
    Describe {
        /// Formula.
        solute: String,
        /// Mass of solute.
        solute_mass: Measured,
        /// Mass of water.
        solvent_mass: Measured,
        /// Density of the solution.
        density: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Mass and amount concentration for a percentage of mass per volume.
    PercentWv {
        /// Formula.
        solute: String,
        /// 1 % is 1 g in 100 mL.
        percent: Measured,
        /// To be made.
        volume: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Strength of a percentage of volume per volume.
    PercentVv {
        /// Formula.
        solute: String,
        /// Volume fraction.
        percent: Measured,
        /// Density of the pure solute.
        density: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Strengths of a dilution series.
    Serial {
        /// Strength to start from.
        stock: Measured,
        /// Taken at each step.
        transfer: Measured,
        /// Made up to at each step.
        volume: Measured,
        /// How many steps, at most 20.
        steps: u32,
    },
    /// Volumes of stock for a set of standards.
    Standards {
        /// Strength of the stock.
        stock: Measured,
        /// Volume of each flask.
        volume: Measured,
        /// Strengths wanted, at most 20.
        targets: Vec<Measured>,
    },
    /// Strength of a mixture; volumes taken as additive.
    Mix {
        /// Solutions, at most 10.
        parts: Vec<MixPart>,
    },
    /// Volumes of a stronger and a weaker solution; volumes taken as additive.
    MixTo {
        /// The stronger one.
        high: Measured,
        /// The weaker one.
        low: Measured,
        /// Wanted.
        target: Measured,
        /// To be made.
        volume: Measured,
    },
    /// Portions rounded to what an instrument measures, so that they still add up.
    Portions {
        /// Shares of the total, as plain numbers.
        shares: Vec<f64>,
        /// What is shared out.
        total: String,
        /// Step of the instrument, in the same unit.
        step: String,
    },
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

fn one() -> u32 {
    1
}

/// What to do, or what was made.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolutionAnswer {
    /// Results and solution; none for portions.
    pub worked: Option<Worked>,
    /// Rounded to the instrument, and the strength so achieved.
    pub rounded: Option<Rounded>,
    /// Portions, in the order of the shares; they add up to the total.
    pub portions: Vec<String>,
    /// What to mind while making it.
    pub cautions: Vec<&'static str>,
}

/// A mass rounded to a balance.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rounded {
    /// To weigh, in g.
    pub take: String,
    /// Strength achieved over strength wanted.
    pub achieved: f64,
}

pub(super) fn answer(question: &SolutionQuestion) -> Result<SolutionAnswer, ComputeError> {
    if let SolutionQuestion::Portions { shares, total, step } = question {
        return portions(shares, total, step);
    }
    let worked = worksheet(question)?.solve()?;
    let rounded = match question {
        SolutionQuestion::WeighOut { step: Some(step), .. } => Some(to_step(&worked, step)?),
        _ => None,
    };
    Ok(SolutionAnswer { rounded, portions: Vec::new(), cautions: cautions(question), worked: Some(worked) })
}

fn worksheet(question: &SolutionQuestion) -> Result<Worksheet, ComputeError> {
    match question {
        SolutionQuestion::WeighOut { solute, strength, species, per_unit, volume, purity, masses, .. } => {
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
        SolutionQuestion::Made { solute, mass, purity, volume, masses } => {
            let mut sheet = Worksheet::new(masses);
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
            sheet.define("c", "amount concentration", format!("m_solute{purity} / M(solute) / V"), "mol/L");
            sheet.define("rho", "mass concentration", format!("m_solute{purity} / V"), "g/L");
            Ok(sheet)
        }
        SolutionQuestion::Dilute { stock, target, volume } => dilute(stock, target, volume),
        SolutionQuestion::Diluted { stock, taken, volume } => {
            let mut sheet = Worksheet::default();
            let (dimension, unit) = strength_of(stock)?;
            sheet.reading("c_stock", "stock", stock, dimension)?;
            sheet.reading("V_taken", "taken", taken, Dimension::VOLUME)?;
            sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
            sheet.define("c", "strength", "c_stock * V_taken / V", &unit);
            Ok(sheet)
        }
        SolutionQuestion::Concentrated { solute, mass_fraction, density, target, volume, masses } => {
            let mut sheet = Worksheet::new(masses);
            sheet.material("solute", solute, None)?;
            sheet.fraction("w", "mass fraction", mass_fraction)?;
            sheet.divisor("rho", "density", density, Dimension::DENSITY)?;
            sheet.reading("c", "target", target, Dimension::CONCENTRATION)?;
            sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
            sheet.define("c_stock", "strength of the stock", "rho * w / M(solute)", "mol/L");
            sheet.define("V_stock", "volume of stock", "c * V / c_stock", "mL");
            sheet.define("m_stock", "mass of stock", "V_stock * rho", "g");
            if mass_fraction.amount("mass fraction", Dimension::ONE)?.base() < 1.0 {
                sheet.define("molality", "amount per mass of water", "w / M(solute) / (1 - w)", "mol/kg");
            }
            Ok(sheet)
        }
        SolutionQuestion::Describe { solute, solute_mass, solvent_mass, density, masses } => {
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
        SolutionQuestion::PercentWv { solute, percent, volume, masses } => {
            let mut sheet = Worksheet::new(masses);
            sheet.material("solute", solute, None)?;
            sheet.reading("p", "percent", percent, Dimension::ONE)?;
            sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
            sheet.define("rho", "mass concentration", "p * 1 g/mL", "g/L");
            sheet.define("m_solute", format!("mass of {solute}"), "rho * V", "g");
            sheet.define("c", "amount concentration", "rho / M(solute)", "mol/L");
            Ok(sheet)
        }
        SolutionQuestion::PercentVv { solute, percent, density, masses } => {
            let mut sheet = Worksheet::new(masses);
            sheet.material("solute", solute, None)?;
            sheet.fraction("p", "percent", percent)?;
            sheet.divisor("rho_pure", "density", density, Dimension::DENSITY)?;
            sheet.define("rho", "mass concentration", "p * rho_pure", "g/L");
            sheet.define("w_v", "percent of mass per volume (w/v, g in 100 mL)", "rho / (1 g/mL)", "%");
            sheet.define("c", "amount concentration", "rho / M(solute)", "mol/L");
            Ok(sheet)
        }
        SolutionQuestion::Serial { stock, transfer, volume, steps } => {
            let mut sheet = Worksheet::default();
            let (dimension, unit) = strength_of(stock)?;
            sheet.reading("c_stock", "stock", stock, dimension)?;
            sheet.divisor("V_transfer", "transfer", transfer, Dimension::VOLUME)?;
            sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
            if transfer.amount("transfer", Dimension::VOLUME)?.base()
                > volume.amount("volume", Dimension::VOLUME)?.base()
            {
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
        SolutionQuestion::Standards { stock, volume, targets } => {
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
            sheet.define("V_total", "stock in all", all.join(" + "), "mL");
            Ok(sheet)
        }
        SolutionQuestion::Mix { parts } => {
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
        SolutionQuestion::MixTo { high, low, target, volume } => {
            let (dimension, _) = strength_of(high)?;
            let mut sheet = Worksheet::default();
            for (symbol, field, strength) in [("c_high", "high", high), ("c_low", "low", low), ("c", "target", target)]
            {
                sheet.reading(symbol, field, strength, dimension)?;
            }
            sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
            let base = |m: &Measured| m.amount("strength", dimension).map(|a| a.base());
            let (high, low, target) = (base(high)?, base(low)?, base(target)?);
            if high <= low || target > high || target < low {
                return Err(ComputeError::impossible(
                    "the target has to lie between the weaker and the stronger solution",
                ));
            }
            sheet.define("V_high", "of the stronger one", "V * (c - c_low) / (c_high - c_low)", "mL");
            sheet.define("V_low", "of the weaker one, volumes taken as additive", "V - V_high", "mL");
            Ok(sheet)
        }
        SolutionQuestion::Portions { .. } => Err(ComputeError::undefined("portions need no sheet")),
    }
}

fn dilute(stock: &Measured, target: &Measured, volume: &Measured) -> Result<Worksheet, ComputeError> {
    let mut sheet = Worksheet::default();
    let (dimension, _) = strength_of(stock)?;
    sheet.divisor("c_stock", "stock", stock, dimension)?;
    sheet.divisor("c", "target", target, dimension)?;
    sheet.reading("V", "volume", volume, Dimension::VOLUME)?;
    weaker(target.amount("target", dimension)?.base(), stock.amount("stock", dimension)?.base())?;
    sheet.define("V_stock", "volume of stock", "c * V / c_stock", "mL");
    sheet.define("V_solvent", "solvent, if volumes were additive; make up to the mark instead", "V - V_stock", "mL");
    sheet.define("factor", "dilution factor", "c_stock / c", "1");
    Ok(sheet)
}

fn weaker(target: f64, stock: f64) -> Result<(), ComputeError> {
    if target > stock {
        return Err(ComputeError::impossible("a dilution cannot be stronger than its stock"));
    }
    Ok(())
}

/// What kind of strength this is, and the unit to answer in.
fn strength_of(strength: &Measured) -> Result<(Dimension, String), ComputeError> {
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

fn purity_divisor(sheet: &mut Worksheet, purity: Option<&Measured>) -> Result<&'static str, ComputeError> {
    let Some(purity) = purity else { return Ok("") };
    sheet.fraction("w", "purity", purity)?;
    Ok(" / w")
}

fn to_step(worked: &Worked, step: &str) -> Result<Rounded, ComputeError> {
    let step = Measured::Typed(step.to_owned()).positive("step", Dimension::MASS)?.base();
    let wanted = worked.result("m_solute").map_or(0.0, |r| r.value);
    let take = (wanted / step).round() * step;
    if take == 0.0 {
        return Err(ComputeError::impossible(
            "the balance does not show so little: make a stronger solution and dilute it",
        ));
    }
    #[allow(clippy::cast_possible_truncation)] // log10 of a display step is small
    let place = step.log10().floor() as i32;
    let shown = decimal_of(take).map_or_else(String::new, |d| to_place(d, place, Ties::HalfUp).to_string());
    Ok(Rounded { take: shown, achieved: take / wanted })
}

/// Largest remainders first: no other rounding to the step is nearer to the shares and still adds up.
fn portions(shares: &[f64], total: &str, step: &str) -> Result<SolutionAnswer, ComputeError> {
    let read = |field: &str, text: &str| -> Result<crate::practical::Amount, ComputeError> {
        crate::practical::Amount::parse(text).map_err(|e| ComputeError::quantity(field, e))
    };
    let (total, step) = (read("total", total)?, read("step", step)?);
    let whole: f64 = shares.iter().sum();
    if total.unit.dimension() != step.unit.dimension() || step.base() <= 0.0 || total.base() < 0.0 {
        return Err(ComputeError::quantity("step", "total and step are quantities of one kind, the step above zero"));
    }
    if shares.is_empty() || shares.len() > 1000 || shares.iter().any(|s| !s.is_finite() || *s < 0.0) || whole <= 0.0 {
        return Err(ComputeError::quantity("shares", "shares are numbers of zero or more, not all zero"));
    }
    let steps = (total.base() / step.base()).round();
    if steps > 1e9 || (steps * step.base() - total.base()).abs() > 1e-9 * total.base().max(step.base()) {
        return Err(ComputeError::impossible("the total itself is no whole number of steps"));
    }
    let exact: Vec<f64> = shares.iter().map(|s| s / whole * steps).collect();
    let mut counts: Vec<f64> = exact.iter().map(|e| e.floor()).collect();
    let mut order: Vec<usize> = (0..exact.len()).collect();
    order.sort_by(|a, b| (exact[*b] - counts[*b]).total_cmp(&(exact[*a] - counts[*a])));
    let missing = steps - counts.iter().sum::<f64>();
    for i in order.into_iter().cycle() {
        if counts.iter().sum::<f64>() >= steps || missing <= 0.0 {
            break;
        }
        counts[i] += 1.0;
    }
    #[allow(clippy::cast_possible_truncation)] // bounded by the number of steps above
    let portion = |n: f64| Decimal::new(n as i128, 0).times(step.value);
    let written = counts.iter().map(|n| portion(*n).map_or_else(String::new, |d| format!("{d} {}", step.unit)));
    Ok(SolutionAnswer { worked: None, rounded: None, portions: written.collect(), cautions: Vec::new() })
}

/// What to mind for a reagent that heats up or bites.
fn cautions(question: &SolutionQuestion) -> Vec<&'static str> {
    let (SolutionQuestion::Concentrated { solute, .. } | SolutionQuestion::WeighOut { solute, .. }) = question else {
        return Vec::new();
    };
    match solute.as_str() {
        "H2SO4" | "HNO3" | "HCl" | "H3PO4" | "HClO4" => {
            vec![
                "Pour the acid into the water, slowly and stirring, never the water into the acid.",
                "Make up to the mark only when it is at room temperature.",
            ]
        }
        "NaOH" | "KOH" => vec![
            "It gets hot as it dissolves: add it to the water in portions.",
            "Make up to the mark only when it is at room temperature.",
        ],
        _ => Vec::new(),
    }
}
