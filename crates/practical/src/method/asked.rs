//! What the methods of a practical say of its materials and readings.

use crate::Practical;
use crate::file::{Method, ReagentItem};

impl Practical {
    /// The reading, or the definition, that says how much of a material there is, by the method that uses it.
    #[must_use]
    pub fn measured_by(&self, material: &str) -> Option<&str> {
        let reagent = |r: &'_ ReagentItem| r.material == material;
        self.file.methods.iter().find_map(|method| match method {
            Method::LimitingYield { product, product_mass, .. } | Method::Yield { product, product_mass, .. }
                if product == material =>
            {
                Some(product_mass.as_str())
            }
            Method::LimitingYield { reagents, .. } => reagents.iter().find(|r| reagent(r)).map(|r| r.reading.as_str()),
            Method::Yield { reagent: r, .. }
            | Method::Standardise { standard: r, .. }
            | Method::BackTitration { excess: r, .. }
            | Method::SolutionMade { solute: r, .. } => reagent(r).then_some(r.reading.as_str()),
            Method::EmpiricalFormula { elements, .. } => {
                elements.iter().find(|e| e.material == material).map(|e| e.mass.as_str())
            }
            Method::Hydrate { anhydrous, residue, .. } if anhydrous == material => Some(residue.as_str()),
            Method::Gravimetric { precipitate, precipitate_mass, .. } if precipitate == material => {
                Some(precipitate_mass.as_str())
            }
            Method::Recovery { .. }
            | Method::Titrate { .. }
            | Method::Hydrate { .. }
            | Method::MassFraction { .. }
            | Method::Gravimetric { .. }
            | Method::MassBalance { .. }
            | Method::PercentError { .. } => None,
        })
    }

    /// The mass of the standard that was weighed for each trial of a titre, where there is one.
    #[must_use]
    pub fn mass_of_each_trial(&self, titre: &str) -> Option<&str> {
        self.file.methods.iter().find_map(|method| {
            let Method::Standardise { titre: own, standard, limit: None, .. } = method else { return None };
            (own == titre).then_some(standard.reading.as_str())
        })
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
