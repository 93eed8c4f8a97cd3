//! Limiting reagent, theoretical and percent yield.

use super::Expansion;
use crate::error::PracticalProblem as Problem;
use crate::file::ReagentItem;
use crate::{SheetRole, book};

impl Expansion<'_> {
    pub(super) fn limiting_yield(
        &mut self,
        reagents: &[ReagentItem],
        product: &str,
        mass: &str,
    ) -> Result<(), Problem> {
        self.extent(reagents)?;
        let made = book::amount_in_extent("extent", &format!("coefficient({product})"));
        self.percent_yield(product, mass, book::mass_of(&made, &format!("M({product})")))
    }

    /// Defines how far the reaction goes, by the reagent that runs out first.
    pub(super) fn extent(&mut self, reagents: &[ReagentItem]) -> Result<(), Problem> {
        let mut extents = Vec::new();
        for reagent in reagents {
            let amount = self.amount(&reagent.material, &reagent.reading)?;
            extents.push(book::extent_allowed(&amount, &format!("coefficient({})", reagent.material)));
        }
        let extent = book::extent(&extents).ok_or(Problem::Senseless("this method needs at least one reagent"))?;
        self.define_as((SheetRole::Extent, None), "extent", "extent of the reaction", extent);
        if extents.len() > 1 {
            self.limiting = Some(("extent".into(), reagents.iter().map(|r| r.material.clone()).collect()));
        }
        Ok(())
    }

    pub(super) fn one_yield(&mut self, reagent: &ReagentItem, product: &str, mass: &str) -> Result<(), Problem> {
        let amount = self.amount(&reagent.material, &reagent.reading)?;
        let made = book::converted(&amount, &format!("ratio({product}, {})", reagent.material));
        self.percent_yield(product, mass, book::mass_of(&made, &format!("M({product})")))
    }

    fn percent_yield(&mut self, product: &str, mass: &str, theory: String) -> Result<(), Problem> {
        let product = self.material(product)?;
        let of = Some(product.symbol.as_str());
        self.roles.give(mass, SheetRole::ActualYield, of);
        let label = format!("theoretical yield of {}", product.name);
        self.define_as((SheetRole::TheoreticalYield, of), "m_theory", label, theory);
        let percent = book::part(mass, "m_theory");
        self.define_as((SheetRole::PercentYield, of), "percent_yield", "percent yield", percent);
        Ok(())
    }
}
