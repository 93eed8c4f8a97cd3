//! Solubility products, by concentrations and by activities.

use super::{log10_gamma, number, positive};
use crate::ComputeError;
use crate::found::ratio;
use chem::{Formula, MassTable};
use serde::{Deserialize, Serialize};

/// An ion of a salt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct IonOfSalt {
    /// With its sign.
    pub charge: i32,
    /// How many in a formula unit.
    pub count: u32,
}

/// One of the two.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum WhichIon {
    /// The positive one.
    Cation,
    /// The negative one.
    Anion,
}

/// An ion that was there before, with a counter ion of charge 1.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CommonIon {
    /// Which.
    pub ion: WhichIon,
    /// In mol/L.
    pub concentration: String,
}

/// A saturated solution, titrated.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Saturated {
    /// What is dissolved, as it lies at the bottom.
    pub salt: String,
    /// Its cation.
    pub cation: IonOfSalt,
    /// Its anion.
    pub anion: IonOfSalt,
    /// Which of them is titrated.
    pub titrated: WhichIon,
    /// Moles of that ion for each mole of titrant.
    pub ratio: String,
    /// In mol/L.
    pub titrant: String,
    /// In mL.
    pub titre: String,
    /// In mL.
    pub aliquot: String,
    /// One of the ions that was there before.
    #[serde(default)]
    pub common_ion: Option<CommonIon>,
    /// A of the Davies equation; 0.509 at 25 °C.
    pub davies: String,
}

/// What a saturated solution says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolubilityProduct {
    /// In mol/L.
    pub solubility: f64,
    /// In g/L.
    pub solubility_by_mass: f64,
    /// In mol/L.
    pub cation: f64,
    /// In mol/L.
    pub anion: f64,
    /// In mol/L.
    pub ionic_strength: f64,
    /// Activity coefficient.
    pub gamma_cation: f64,
    /// Activity coefficient.
    pub gamma_anion: f64,
    /// Of concentrations.
    pub ksp_concentrations: f64,
    /// Of activities.
    pub ksp_activities: f64,
    /// −lg of the one.
    pub pksp_concentrations: f64,
    /// −lg of the other.
    pub pksp_activities: f64,
}

/// What dissolves.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = SolubilityFound))]
pub struct Solubility {
    /// In mol/L, concentrations taken for activities.
    pub ideal: f64,
    /// In mol/L, with activity coefficients.
    pub by_davies: f64,
    /// Then, in mol/L.
    pub ionic_strength: f64,
}

/// The ions of a salt beside what was there before.
struct Ions {
    cation: IonOfSalt,
    anion: IonOfSalt,
    /// Of each, before anything dissolved.
    before: [f64; 2],
}

impl Ions {
    fn of([cation, anion]: [IonOfSalt; 2], common: Option<&CommonIon>) -> Result<Ions, ComputeError> {
        let neutral =
            i64::from(cation.charge) * i64::from(cation.count) + i64::from(anion.charge) * i64::from(anion.count) == 0;
        let sensible = (1..=6).contains(&cation.charge) && cation.count <= 10 && anion.count <= 10 && cation.count > 0;
        if !neutral || !sensible {
            return Err(ComputeError::impossible("the charges of the ions of a salt add up to nothing"));
        }
        let there = common.map_or(Ok(0.0), |c| positive("the common ion", &c.concentration))?;
        let before = match common.map(|c| c.ion) {
            Some(WhichIon::Cation) => [there, 0.0],
            Some(WhichIon::Anion) => [0.0, there],
            None => [0.0, 0.0],
        };
        Ok(Ions { cation, anion, before })
    }

    /// Concentrations of both where so much has dissolved, in mol/L.
    fn at(&self, solubility: f64) -> [f64; 2] {
        [
            f64::from(self.cation.count) * solubility + self.before[0],
            f64::from(self.anion.count) * solubility + self.before[1],
        ]
    }

    /// ½·Σ c·z², the counter ion of the common ion with charge 1 included.
    fn strength(&self, [cation, anion]: [f64; 2]) -> f64 {
        let square = |charge: i32| f64::from(charge).powi(2);
        let counter = self.before[0] * f64::from(self.cation.charge) + self.before[1] * -f64::from(self.anion.charge);
        0.5 * (cation * square(self.cation.charge) + anion * square(self.anion.charge) + counter)
    }

    /// lg of the product of concentrations.
    fn log10_product(&self, [cation, anion]: [f64; 2]) -> f64 {
        f64::from(self.cation.count) * cation.log10() + f64::from(self.anion.count) * anion.log10()
    }

    /// lg of the product of activity coefficients.
    fn log10_gammas(&self, davies: f64, strength: f64) -> f64 {
        f64::from(self.cation.count) * log10_gamma(davies, self.cation.charge, strength)
            + f64::from(self.anion.count) * log10_gamma(davies, self.anion.charge, strength)
    }
}

pub(super) fn product(q: &Saturated) -> Result<SolubilityProduct, ComputeError> {
    let Saturated { salt, cation, anion, titrated, ratio: each, titrant, titre, aliquot, common_ion, davies } = q;
    let ions = Ions::of([*cation, *anion], common_ion.as_ref())?;
    let each = chem::number(ratio("ratio", each)?);
    let found = positive("titrant", titrant)? * positive("titre", titre)? * each / positive("aliquot", aliquot)?;
    let (before, count) = match titrated {
        WhichIon::Cation => (ions.before[0], cation.count),
        WhichIon::Anion => (ions.before[1], anion.count),
    };
    let solubility = (found - before) / f64::from(count);
    if solubility <= 0.0 {
        return Err(ComputeError::impossible("the titration finds no more of the ion than was there before"));
    }
    let mass = Formula::parse(salt)?.molar_mass(&MassTable::default())?.value;
    let there = ions.at(solubility);
    let (strength, davies) = (ions.strength(there), number(davies)?);
    let (lg, lg_gamma) = (ions.log10_product(there), ions.log10_gammas(davies, strength));
    Ok(SolubilityProduct {
        solubility,
        solubility_by_mass: solubility * mass,
        cation: there[0],
        anion: there[1],
        ionic_strength: strength,
        gamma_cation: 10f64.powf(log10_gamma(davies, cation.charge, strength)),
        gamma_anion: 10f64.powf(log10_gamma(davies, anion.charge, strength)),
        ksp_concentrations: 10f64.powf(lg),
        ksp_activities: 10f64.powf(lg + lg_gamma),
        pksp_concentrations: -lg,
        pksp_activities: -(lg + lg_gamma),
    })
}

pub(super) fn solubility(
    pksp: &str,
    ions: [IonOfSalt; 2],
    common: Option<&CommonIon>,
    davies: &str,
) -> Result<Solubility, ComputeError> {
    let (wanted, davies, ions) = (-number(pksp)?, number(davies)?, Ions::of(ions, common)?);
    // Beyond 10 mol/L the equation says nothing, and its γ would rise for ever.
    let solve = |activity: f64| {
        let excess = |s: f64| {
            let there = ions.at(s);
            ions.log10_product(there) + ions.log10_gammas(davies * activity, ions.strength(there)) - wanted
        };
        let (mut low, mut high) = (1e-40f64, 10f64);
        if excess(low) > 0.0 || excess(high) < 0.0 {
            return None;
        }
        // Bisection of the logarithm: the sides are forty powers of ten apart.
        for _ in 0..200 {
            let middle = (low * high).sqrt();
            if excess(middle) < 0.0 { low = middle } else { high = middle }
        }
        Some((low * high).sqrt())
    };
    let (Some(ideal), Some(by_davies)) = (solve(0.0), solve(1.0)) else {
        return Err(ComputeError::undefined("no solubility between nothing and 10 mol/L has this product"));
    };
    Ok(Solubility { ideal, by_davies, ionic_strength: ions.strength(ions.at(by_davies)) })
}
