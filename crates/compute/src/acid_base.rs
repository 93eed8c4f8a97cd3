//! pH by charge balance: solutions, titration curves, adjusting to a pH, the converted fraction.

use super::{ComputeError, Measured};
use chem::{AcidBase, AcidBaseRole, Solution, Titration};
use measure::Dimension;
use serde::{Deserialize, Serialize};

/// A question about a pH.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum AcidBaseQuestion {
    /// The pH of a solution.
    Ph {
        /// What is dissolved; nothing is pure water.
        solutes: Vec<Solute>,
        /// Exponent of the ion product of water; 14.00 unless said.
        #[serde(default = "fourteen")]
        pkw: f64,
    },
    /// A titration curve.
    Titration {
        /// What is in the flask.
        flask: Vec<Solute>,
        /// Volume in the flask.
        volume: String,
        /// What runs in.
        titrant: Solute,
        /// Volumes delivered, in the unit of the flask's volume; at most 2000.
        at: Vec<f64>,
        /// Exponent of the ion product of water.
        #[serde(default = "fourteen")]
        pkw: f64,
    },
    /// Strong acid or base that brings a solution to a pH.
    Adjust {
        /// What is dissolved.
        solutes: Vec<Solute>,
        /// Wanted.
        ph: f64,
        /// Exponent of the ion product of water.
        #[serde(default = "fourteen")]
        pkw: f64,
    },
    /// The part of an acid that has given up so many protons at a pH.
    Fraction {
        /// Acid exponents, in order.
        pka: Vec<f64>,
        /// How many protons.
        protons: usize,
        /// The pH.
        ph: f64,
    },
}

fn fourteen() -> f64 {
    14.0
}

/// Something dissolved.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Solute {
    /// What it does to protons.
    pub role: SoluteRole,
    /// Its concentration.
    pub concentration: String,
    /// Acid exponents, of the conjugate acid for a base; in order.
    #[serde(default)]
    pub pka: Vec<f64>,
    /// Counter-ions per acid (a salt) or base (a hydrochloride).
    #[serde(default = "one")]
    pub counter_ions: u8,
}

fn one() -> u8 {
    1
}

/// What a solute does to protons.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum SoluteRole {
    /// HCl.
    StrongAcid,
    /// NaOH.
    StrongBase,
    /// Ethanoic acid.
    WeakAcid,
    /// Ammonia.
    WeakBase,
    /// H₂SO₄: first proton given up completely.
    FirstProtonStrong,
    /// Sodium ethanoate, sodium carbonate.
    Salt,
    /// Ammonium chloride, glycine hydrochloride.
    Hydrochloride,
}

/// What the charge balance says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum AcidBaseAnswer {
    /// A pH.
    Ph {
        /// −lg [H⁺].
        ph: f64,
        /// mol/L of strong base per unit of pH.
        buffer_value: f64,
    },
    /// A curve.
    Titration(Curve),
    /// What to add.
    Adjust {
        /// mol/L of strong base; negative for strong acid.
        base_needed: f64,
    },
    /// A fraction.
    Fraction {
        /// Between 0 and 1.
        fraction: f64,
    },
}

/// A titration curve.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Curve {
    /// The unit of all volumes here.
    pub unit: String,
    /// The volumes asked.
    pub at: Vec<f64>,
    /// pH at each of them.
    pub ph: Vec<f64>,
    /// Where the titrant has just used up what is there, stage by stage.
    pub equivalence_volumes: Vec<f64>,
    /// pH there.
    pub ph_at_equivalence: Vec<f64>,
}

const MOST_POINTS: usize = 2000;

pub(super) fn answer(question: &AcidBaseQuestion) -> Result<AcidBaseAnswer, ComputeError> {
    match question {
        AcidBaseQuestion::Ph { solutes, pkw } => {
            let found = solution(solutes, *pkw)?.equilibrium();
            Ok(AcidBaseAnswer::Ph { ph: found.ph, buffer_value: found.buffer_value })
        }
        AcidBaseQuestion::Adjust { solutes, ph, pkw } => {
            finite("ph", *ph)?;
            Ok(AcidBaseAnswer::Adjust { base_needed: solution(solutes, *pkw)?.base_needed(*ph) })
        }
        AcidBaseQuestion::Fraction { pka, protons, ph } => {
            finite("ph", *ph)?;
            let acid = AcidBase::new(AcidBaseRole::WeakAcid, &exponents(pka)?);
            if *protons > pka.len() {
                return Err(ComputeError::impossible(format!(
                    "an acid with {} exponents gives no more protons than that",
                    pka.len()
                )));
            }
            Ok(AcidBaseAnswer::Fraction { fraction: acid.fraction(*protons, *ph) })
        }
        AcidBaseQuestion::Titration { flask, volume, titrant, at, pkw } => {
            if at.len() > MOST_POINTS || at.iter().any(|v| !v.is_finite() || *v < 0.0) {
                return Err(ComputeError::quantity(
                    "at",
                    format!("give at most {MOST_POINTS} volumes of zero or more"),
                ));
            }
            let volume = Measured::Typed(volume.clone()).positive("volume", Dimension::VOLUME)?;
            let (solute, concentration) = dissolved(titrant)?;
            if concentration == 0.0 {
                return Err(ComputeError::impossible("the titrant holds nothing"));
            }
            let titration = Titration {
                flask: solution(flask, *pkw)?,
                volume: volume.value.to_f64(),
                titrant: solute,
                concentration,
            };
            let equivalence_volumes = titration.equivalence_volumes();
            Ok(AcidBaseAnswer::Titration(Curve {
                unit: volume.unit.written().to_owned(),
                at: at.clone(),
                ph: at.iter().map(|v| titration.ph_at(*v)).collect(),
                ph_at_equivalence: equivalence_volumes.iter().map(|v| titration.ph_at(*v)).collect(),
                equivalence_volumes,
            }))
        }
    }
}

fn finite(field: &str, value: f64) -> Result<(), ComputeError> {
    if value.is_finite() && value.abs() <= 30.0 {
        return Ok(());
    }
    Err(ComputeError::quantity(field, format!("{field} lies between -30 and 30")))
}

fn solution(solutes: &[Solute], pkw: f64) -> Result<Solution, ComputeError> {
    finite("pkw", pkw)?;
    if solutes.len() > 20 {
        return Err(ComputeError::quantity("solutes", "at most 20 solutes"));
    }
    Ok(Solution { solutes: solutes.iter().map(dissolved).collect::<Result<_, _>>()?, pkw })
}

fn dissolved(solute: &Solute) -> Result<(AcidBase, f64), ComputeError> {
    let concentration =
        Measured::Typed(solute.concentration.clone()).not_negative("concentration", Dimension::CONCENTRATION)?;
    let role = match solute.role {
        SoluteRole::StrongAcid => AcidBaseRole::StrongAcid,
        SoluteRole::StrongBase => AcidBaseRole::StrongBase,
        SoluteRole::WeakAcid => AcidBaseRole::WeakAcid,
        SoluteRole::WeakBase => AcidBaseRole::WeakBase,
        SoluteRole::FirstProtonStrong => AcidBaseRole::FirstProtonStrong,
        SoluteRole::Salt => AcidBaseRole::Salt(solute.counter_ions),
        SoluteRole::Hydrochloride => AcidBaseRole::Hydrochloride(solute.counter_ions),
    };
    let strong = matches!(solute.role, SoluteRole::StrongAcid | SoluteRole::StrongBase);
    let pka = exponents(&solute.pka)?;
    if strong != pka.is_empty() {
        return Err(ComputeError::quantity("pka", "a strong acid or base has no pKa, every other solute has one"));
    }
    Ok((AcidBase::new(role, &pka), concentration.base()))
}

fn exponents(pka: &[f64]) -> Result<Vec<f64>, ComputeError> {
    if pka.len() > 6 || pka.windows(2).any(|w| w[0] > w[1]) {
        return Err(ComputeError::quantity("pka", "give at most six pKa, lowest first"));
    }
    pka.iter().try_for_each(|p| finite("pka", *p))?;
    Ok(pka.to_vec())
}
