//! What is known of the hazards of a material in its form and strength.
//!
//! A file states them; where it states none, the library of substances says whether that is because there are none, because the
//! solution is too dilute for any, or because nobody has filled them in. Silence is told apart from safety.

use crate::substance::{HazardForm, Substance, with_formula};
use crate::supply::{StrengthKind, Supply};
use crate::{Material, Stated};
use chem::MassTable;
use measure::Dimension;
use serde::Serialize;

/// Why a material carries the statements that it carries, or none.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Classified {
    /// The file states them.
    Stated,
    /// As it is used here, the library knows it as not classified.
    NotClassified,
    /// Stronger it is classified, in this strength it no longer is.
    TooDilute,
    /// Nobody has filled them in: look at the supplier's sheet.
    NotFilledIn,
}

impl Material {
    /// Why it carries the statements that it carries, or none.
    #[must_use]
    pub fn classified(&self) -> Classified {
        if !self.hazards.is_empty() {
            return Classified::Stated;
        }
        let Some((formula, substance)) = self.formula.as_ref().and_then(|f| Some((f, with_formula(f.typed())?))) else {
            return Classified::NotFilledIn;
        };
        let percent = match &self.supply {
            Supply::Solution(strength) => {
                let Ok(mass) = formula.molar_mass(&MassTable::default()) else { return Classified::NotFilledIn };
                let diluted = strength.dilution.as_ref().map_or(1.0, |(_, times)| *times);
                let percent = match strength.kind {
                    StrengthKind::Amount => mass_percent(&strength.stated, mass.value),
                    // Base units: g/L; a part of a volume or a mass is near enough to one of the other.
                    StrengthKind::MassPerVolume => strength.stated.base() / 10.0,
                    StrengthKind::Percent(_) => 100.0 * strength.stated.base(),
                };
                Some(percent / diluted)
            }
            Supply::Solid { .. } | Supply::Liquid { .. } | Supply::Gas { .. } => None,
            Supply::Saturated => return Classified::NotFilledIn,
        };
        match hazard_form(substance, percent) {
            Some(form) if !form.hazards.is_empty() => Classified::NotFilledIn,
            Some(_) if percent.is_some() && substance.forms.iter().any(|f| !f.hazards.is_empty()) => {
                Classified::TooDilute
            }
            Some(_) => Classified::NotClassified,
            // Below the weakest strength that the library classifies; of a salt of which it knows the solid alone, it says nothing.
            None => match percent {
                Some(percent) if substance.forms.iter().any(|f| is_above(&f.form, percent)) => Classified::TooDilute,
                Some(_) if substance.forms.iter().all(|f| f.hazards.is_empty()) && !substance.forms.is_empty() => {
                    Classified::NotClassified
                }
                Some(_) | None => Classified::NotFilledIn,
            },
        }
    }
}

/// A strength as a mass fraction in per cent, the density of the solution being taken as one and half a per cent more for each.
#[must_use]
pub fn mass_percent(strength: &Stated, molar_mass: f64) -> f64 {
    if strength.amount.unit.dimension() == Dimension::CONCENTRATION {
        // Base units: mol/L.
        let grams = strength.base() * molar_mass / 10.0;
        return grams / (1.0 + grams / 200.0);
    }
    100.0 * strength.base()
}

/// The form of a substance as it is, or as a solution of so many per cent by mass.
#[must_use]
pub fn hazard_form(of: &Substance, percent: Option<f64>) -> Option<&HazardForm> {
    let pure = || of.forms.iter().find(|f| !f.form.contains('%'));
    let dissolved = |percent: f64| of.forms.iter().find(|f| f.form == "any" || suits(&f.form, percent));
    match percent {
        Some(percent) => dissolved(percent),
        None => pure().or_else(|| dissolved(100.0)),
    }
}

/// The least and the most of a form such as `5 to 15 % w/w`, `25 % w/w and more`, `below 5 % w/w`, in per cent.
fn range_of(form: &str) -> Option<(f64, f64)> {
    let range = form.strip_suffix("% w/w").or_else(|| form.strip_suffix("% w/w and more"))?;
    let number = |text: &str| text.trim().parse::<f64>().ok();
    if let Some(below) = range.strip_prefix("below ") {
        return Some((0.0, number(below)?));
    }
    match range.split_once(" to ") {
        Some((low, high)) => Some((number(low)?, number(high)?)),
        None => Some((number(range)?, f64::INFINITY)),
    }
}

fn suits(form: &str, percent: f64) -> bool {
    range_of(form).is_some_and(|(low, high)| (low..high).contains(&percent))
}

fn is_above(form: &str, percent: f64) -> bool {
    range_of(form).is_some_and(|(low, _)| low > percent)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Practical;

    fn classified(material: &str) -> Classified {
        let text = format!(
            "format = \"1.1\"\nid = \"x\"\ntitle = \"x\"\nkind = \"x\"\nfinds = \"x\"\nlevel = \"x\"\nvisits = 1\n\
             [[materials]]\nsymbol = \"s\"\nname = \"s\"\nrole = \"test\"\n{material}\n"
        );
        Practical::parse(&text).unwrap().materials[0].classified()
    }

    /// What is not classified, what is too dilute to be, and what nobody filled in look alike in a file, and are not alike.
    #[test]
    fn silence_is_told_apart_from_safety() {
        let rows = [
            ("formula = \"NaCl\"\nform = { kind = \"solid\" }", Classified::NotClassified),
            ("formula = \"NaCl\"\nform = { kind = \"solution\", strength = \"1 mol/L\" }", Classified::NotClassified),
            ("formula = \"CH3COOH\"\nform = { kind = \"solution\", strength = \"0.2 mol/L\" }", Classified::TooDilute),
            ("formula = \"CH3COOH\"\nform = { kind = \"solution\", strength = \"5 mol/L\" }", Classified::NotFilledIn),
            (
                "formula = \"H2O2\"\nform = { kind = \"solution\", strength = \"3 % w/w\", density = \"1.01 g/mL\" }",
                Classified::TooDilute,
            ),
            ("formula = \"KMnO4\"\nform = { kind = \"solution\", strength = \"0.02 mol/L\" }", Classified::NotFilledIn),
            ("formula = \"KMnO4\"\nform = { kind = \"solid\" }", Classified::NotFilledIn),
            ("formula = \"C27H47N3O8\"\nform = { kind = \"solid\" }", Classified::NotFilledIn),
            ("form = { kind = \"liquid\" }", Classified::NotFilledIn),
            (
                "form = { kind = \"liquid\" }\nhazards = [\"H225 Highly flammable liquid and vapour.\"]",
                Classified::Stated,
            ),
        ];
        for (material, expected) in rows {
            assert_eq!(classified(material), expected, "{material}");
        }
    }
}
