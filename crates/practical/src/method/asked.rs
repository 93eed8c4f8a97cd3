//! What the methods of a practical say of its materials and readings.

use crate::Practical;
use crate::file::{Method, ReagentItem};
use chem::Formula;

impl Practical {
    /// The reading, or the definition, that says how much of a material there is, by the method that uses it.
    #[must_use]
    pub fn measured_by(&self, material: &str) -> Option<&str> {
        self.taken_by(material).or_else(|| {
            self.file.methods.iter().find_map(|method| match method {
                Method::LimitingYield { product, product_mass, .. }
                | Method::Yield { product, product_mass, .. }
                | Method::Charge { product, product_mass, .. } => {
                    (product == material).then_some(product_mass.as_str())
                }
                Method::EmpiricalFormula { elements, .. } => {
                    elements.iter().find(|e| e.material == material).map(|e| e.mass.as_str())
                }
                Method::Hydrate { anhydrous, residue, .. } => (anhydrous == material).then_some(residue.as_str()),
                Method::Gravimetric { precipitate, precipitate_mass, .. } => {
                    (precipitate == material).then_some(precipitate_mass.as_str())
                }
                Method::Recovery { .. }
                | Method::Standardise { .. }
                | Method::Titrate { .. }
                | Method::BackTitration { .. }
                | Method::MassFraction { .. }
                | Method::MassBalance { .. }
                | Method::SolutionMade { .. }
                | Method::PercentError { .. }
                | Method::Calibration { .. }
                | Method::Calorimetry { .. }
                | Method::Gas { .. } => None,
            })
        })
    }

    /// The reading, or the definition, that says how much of a reagent was taken. What is found of it afterwards, or used up,
    /// is something else.
    #[must_use]
    pub fn taken_by(&self, material: &str) -> Option<&str> {
        let reagent = |r: &'_ ReagentItem| r.material == material;
        self.file.methods.iter().find_map(|method| match method {
            Method::LimitingYield { reagents, .. } | Method::Calorimetry { reagents, .. } => {
                reagents.iter().find(|r| reagent(r)).map(|r| r.reading.as_str())
            }
            Method::Yield { reagent: r, .. }
            | Method::Standardise { standard: r, .. }
            | Method::BackTitration { excess: r, .. }
            | Method::SolutionMade { solute: r, .. } => reagent(r).then_some(r.reading.as_str()),
            Method::Recovery { .. }
            | Method::Titrate { .. }
            | Method::EmpiricalFormula { .. }
            | Method::Hydrate { .. }
            | Method::MassFraction { .. }
            | Method::Gravimetric { .. }
            | Method::MassBalance { .. }
            | Method::PercentError { .. }
            | Method::Calibration { .. }
            | Method::Gas { .. }
            | Method::Charge { .. } => None,
        })
    }

    /// The formula that is declared for a result that is one.
    #[must_use]
    pub fn accepted_formula(&self, result: &str) -> Option<Formula> {
        let found = self.program.definition(result)?;
        let method = self.file.methods.iter().find_map(|m| {
            let Method::EmpiricalFormula { accepted, .. } = m else { return None };
            accepted.as_deref()
        });
        method.filter(|_| self.program.is_formula(found)).and_then(|text| Formula::parse(text).ok())
    }

    /// Masses of what is left when a hydrate was heated.
    pub fn residues(&self) -> impl Iterator<Item = &str> {
        self.hydrates().map(|(residue, _)| residue)
    }

    /// Masses that heating drove off.
    pub fn heated(&self) -> impl Iterator<Item = &str> {
        self.hydrates().map(|(_, lost)| lost)
    }

    /// Residue and loss of each hydrate that is heated.
    fn hydrates(&self) -> impl Iterator<Item = (&str, &str)> {
        self.file.methods.iter().filter_map(|method| {
            let Method::Hydrate { residue, lost, .. } = method else { return None };
            Some((residue.as_str(), lost.as_str()))
        })
    }
}
