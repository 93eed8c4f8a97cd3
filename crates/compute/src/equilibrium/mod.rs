//! Equilibria: solubility products, equilibrium constants, pKa from a curve, and what particles do to a freezing point.
//!
//! Activity coefficients by Davies: lg γ = −A·z²·(√I/(1 + √I) − 0.3·I). No ion pairs, no hydrolysis.
//!
//! Source: Harris, Quantitative Chemical Analysis, 9th ed., chapters 6, 8, 10 and 11; Atkins & de Paula, Physical
//! Chemistry, 11th ed., topic 5B (freezing points).

mod constants;
mod curve;
mod particles;
mod solubility;

use super::{ComputeError, Found, Measured};
use serde::{Deserialize, Serialize};

pub use constants::{ComplexRun, ComplexRunFound, Esterification};
pub use curve::{Equivalence, Gran, HalfWay};
pub use solubility::{CommonIon, IonOfSalt, Saturated, Solubility, SolubilityProduct, WhichIon};

/// A question about an equilibrium.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum EquilibriumQuestion {
    /// A solubility product from the titration of a saturated solution.
    SolubilityProduct(Box<Saturated>),
    /// What dissolves, from a solubility product of activities.
    Solubility {
        /// −lg of it.
        pksp: String,
        /// The cation.
        cation: IonOfSalt,
        /// The anion.
        anion: IonOfSalt,
        /// One of the ions that was there before.
        #[serde(default)]
        common_ion: Option<CommonIon>,
        /// A of the Davies equation.
        davies: String,
    },
    /// K of A + B ⇌ AB from the absorbance of AB.
    Complex {
        /// Absorbance for each mol/L of AB.
        slope: String,
        /// Absorbance of nothing.
        #[serde(default)]
        intercept: Option<String>,
        /// The mixtures.
        runs: Vec<ComplexRun>,
    },
    /// K of A + B ⇌ AB from concentrations that are known already, in mol/L.
    ComplexOf {
        /// A in all.
        a: String,
        /// B in all.
        b: String,
        /// AB.
        complex: String,
    },
    /// K of acid + alcohol ⇌ ester + water from the acid that is left.
    Ester(Box<Esterification>),
    /// pK of an indicator from absorbances.
    Indicator {
        /// Of the mixture.
        absorbance: Measured,
        /// Of the acid form alone, at the same concentration.
        acid_form: Measured,
        /// Of the base form alone.
        base_form: Measured,
        /// Of the mixture.
        ph: Measured,
    },
    /// pKa of a weak acid from one pH on the way of its titration.
    HalfWay {
        /// In mol/L.
        acid: String,
        /// In mL.
        acid_volume: String,
        /// In mol/L.
        base: String,
        /// In mL.
        base_volume: String,
        /// As read.
        ph: String,
        /// −lg Kw.
        pkw: String,
        /// A of the Davies equation.
        davies: String,
    },
    /// The equivalence point of a curve by its derivatives, and the molar mass of what was weighed.
    Equivalence {
        /// Weighed, in g.
        mass: String,
        /// Protons that were titrated until then.
        protons: u32,
        /// In mol/L.
        base: String,
        /// In mL.
        volume: Vec<String>,
        /// As read.
        ph: Vec<String>,
    },
    /// The equivalence point by Gran's line: V·10^(−pH) against V.
    Gran {
        /// In mL.
        volume: Vec<String>,
        /// As read.
        ph: Vec<String>,
    },
    /// Molar mass from the depression of a freezing point.
    FreezingPoint {
        /// Weighed.
        solute: Measured,
        /// Weighed.
        solvent: Measured,
        /// Of the solvent, in K kg/mol.
        constant: Measured,
        /// Of the solvent.
        pure: Measured,
        /// Of the solution.
        solution: Measured,
        /// Particles for each formula unit.
        particles: u32,
    },
    /// Into how many particles a substance of known molar mass comes apart.
    VantHoff {
        /// Weighed.
        solute: Measured,
        /// Of the solute.
        molar_mass: Measured,
        /// Weighed.
        solvent: Measured,
        /// Of the solvent, in K kg/mol.
        constant: Measured,
        /// In K.
        depression: Measured,
        /// Ions for each formula unit where all is apart.
        ions: u32,
    },
}

/// What an equilibrium says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum EquilibriumAnswer {
    /// A solubility product.
    SolubilityProduct(SolubilityProduct),
    /// A solubility.
    Solubility(Solubility),
    /// K from several mixtures.
    Complex {
        /// Each mixture.
        runs: Vec<ComplexRunFound>,
        /// Mean of K.
        mean: f64,
        /// Its spread; none for one mixture.
        spread: Option<practical::statistics::Spread>,
        /// t times the standard error of the mean.
        half_width_95: Option<f64>,
    },
    /// A sheet worked out.
    Worked(Found),
    /// A pKa in three ways.
    HalfWay(HalfWay),
    /// An equivalence point.
    Equivalence(Equivalence),
    /// The same by Gran's line.
    Gran(Gran),
}

pub(super) fn answer(question: &EquilibriumQuestion) -> Result<EquilibriumAnswer, ComputeError> {
    Ok(match question {
        EquilibriumQuestion::SolubilityProduct(q) => EquilibriumAnswer::SolubilityProduct(solubility::product(q)?),
        EquilibriumQuestion::Solubility { pksp, cation, anion, common_ion, davies } => {
            let common = common_ion.as_ref();
            EquilibriumAnswer::Solubility(solubility::solubility(pksp, [*cation, *anion], common, davies)?)
        }
        EquilibriumQuestion::Complex { slope, intercept, runs } => constants::complex(slope, intercept.as_ref(), runs)?,
        EquilibriumQuestion::ComplexOf { a, b, complex } => constants::complex_of(a, b, complex)?,
        EquilibriumQuestion::Ester(q) => EquilibriumAnswer::Worked(constants::ester(q)?),
        EquilibriumQuestion::Indicator { absorbance, acid_form, base_form, ph } => {
            EquilibriumAnswer::Worked(constants::indicator(absorbance, acid_form, base_form, ph)?)
        }
        EquilibriumQuestion::HalfWay { acid, acid_volume, base, base_volume, ph, pkw, davies } => {
            let numbers = [acid, acid_volume, base, base_volume, ph, pkw, davies];
            EquilibriumAnswer::HalfWay(curve::half_way(numbers)?)
        }
        EquilibriumQuestion::Equivalence { mass, protons, base, volume, ph } => {
            EquilibriumAnswer::Equivalence(curve::equivalence(mass, *protons, base, volume, ph)?)
        }
        EquilibriumQuestion::Gran { volume, ph } => EquilibriumAnswer::Gran(curve::gran(volume, ph)?),
        EquilibriumQuestion::FreezingPoint { solute, solvent, constant, pure, solution, particles } => {
            EquilibriumAnswer::Worked(particles::freezing_point(
                [solute, solvent, constant, pure, solution],
                *particles,
            )?)
        }
        EquilibriumQuestion::VantHoff { solute, molar_mass, solvent, constant, depression, ions } => {
            EquilibriumAnswer::Worked(particles::vant_hoff([solute, molar_mass, solvent, constant, depression], *ions)?)
        }
    })
}

/// A number as typed.
fn number(text: &str) -> Result<f64, ComputeError> {
    Ok(super::statistics::read(&[text.to_owned()])?[0])
}

/// A number above zero.
fn positive(what: &str, text: &str) -> Result<f64, ComputeError> {
    let value = number(text)?;
    if value > 0.0 {
        Ok(value)
    } else {
        Err(ComputeError::impossible(format!("{what} must be above zero, not {text}")))
    }
}

/// lg γ of an ion of this charge at ionic strength `strength` in mol/L, by Davies.
fn log10_gamma(a: f64, charge: i32, strength: f64) -> f64 {
    let root = strength.sqrt();
    -a * f64::from(charge).powi(2) * (root / (1.0 + root) - 0.3 * strength)
}
